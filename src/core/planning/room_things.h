// The room about a set, its windows, and gels on lights: each answer is the values of one edit and its title, or
// nothing where it makes no sense.
#pragma once
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/planning/set_things.h"

namespace cinnabar {

/// Walls round the set, as large as the room that the project names, else 4 by 5 and 2.5 m; where they stand,
/// taken away with their windows.
[[nodiscard]] std::optional<SetEdit> room_switched(const OnSet& on);
/// A window in a wall, 1.2 by 1.4 m, its sill 0.9 m over the floor; nothing without walls.
[[nodiscard]] std::optional<SetEdit> window_added(const OnSet& on, RoomWall wall);
/// Another sky over the windows; nothing without any, or where it is there.
[[nodiscard]] std::optional<SetEdit> sky_set(const OnSet& on, SkyKind sky);
/// "Left window".
[[nodiscard]] std::string window_called(RoomWall wall);

/// All lights of the set-up off, and its windows dark; nothing where they are.
[[nodiscard]] std::optional<SetEdit> all_dark(const OnSet& on);
/// The next light on, in the order of the list, for what it is meant for; nothing where all are.
[[nodiscard]] std::optional<SetEdit> next_turned_on(const OnSet& on);

/// Coloured gels by name, with the shares of red, green and blue that they let through (common practice, no
/// source).
struct GelKind {
  std::string id, name;
  Vec3 bands;
};
[[nodiscard]] const std::vector<GelKind>& gel_kinds();
/// A gel put before a light, or with an empty id taken off; nothing of windows.
[[nodiscard]] std::optional<SetEdit> gel_put(const OnSet& on, const SetThing& light, const std::string& gel);

}  // namespace cinnabar
