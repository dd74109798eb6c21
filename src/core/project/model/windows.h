// What comes in by a room's windows.
#pragma once
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// When the first take is, "YYYY-MM-DDTHH:MM" UTC; the clock there is taken for that of its meridian's hour.
/// Nothing where date, hour or longitude are not known.
[[nodiscard]] std::optional<std::string> first_take_utc(const Project& project);

/// Where the sun stands for a room at the first take; nothing where that, the latitude or north are not known.
struct SunOverRoom {
  double bearing_deg;  ///< on the floor: 0 toward the camera, growing to its right
  double altitude_deg, day_of_year;
};
[[nodiscard]] std::optional<SunOverRoom> sun_over_room(const Project& project,
                                                       const std::optional<double>& north_deg);

/// The middle of a window, 2 mm inside its wall, and which way it looks into the room.
struct WindowFace {
  Vec3 place, inward;
};
[[nodiscard]] WindowFace window_face(const Room& room, const RoomWindow& window);

/// Each window as a face that sky and ground shine through, behind a curtain evenly, and where the sun stands on a
/// bare pane its beam after it. Dark where the time or the place is not known, or the sun is down. The project's
/// lists need not have been read.
[[nodiscard]] std::vector<Light> window_lights(const Room& room, const Project& project);

}  // namespace cinnabar
