// What of the gear the camera sees, straight or mirrored: lamps, cards, stands, bodies that are not of the
// picture.
#pragma once
#include <string>
#include <vector>

#include "cinnabar/forecast/measures/measure.h"

namespace cinnabar {

/// Share of something by what covers it.
struct Covered {
  double percent = 0;
  std::string most;  ///< name of what covers most of it
};

/// Of the picture at each of these moments of a shot, what its first rays meet of lights, cards, what holds them
/// up, gear that is not dressed, and the rim of a turntable whose plate is smaller than what it stands on. A stand
/// is a rod from a light or a card down to the room's floor, where that stands beside the surface (`heads_of`).
/// What hangs over it is on an arm, where the kit has any: up beside the surface and level from there, from the
/// nearer side, or from the other where an arm reaches so far and less of it is seen over all the moments.
[[nodiscard]] std::vector<Covered> gear_in_pictures(const Project& project, const Shot& shot, const Setup& setup,
                                                    const std::vector<LightMoment>& moments);

/// Of the product's picture, or of the surface's where that is more, the part in which a smooth side (gloss,
/// metal, mirror, glass, liquid of a roughness under 0.15) mirrors the camera, gear (stands that are told as such,
/// not those that lights are taken to stand on), a bare lamp or a window, with nothing between. Lights meant for
/// the product do not count.
struct Mirrored {
  Covered covered;
  bool product = true;  ///< else the surface
  bool any = false;     ///< something in the picture mirrors
};
[[nodiscard]] Mirrored gear_mirrored(const Shot& shot, const Setup& setup, const LightMoment& moment);

}  // namespace cinnabar
