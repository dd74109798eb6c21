// The room that the set-ups need: floor and height from where everything stands, and the load on its circuits.
#pragma once
#include <string>
#include <vector>

#include "cinnabar/project/model/entities.h"

namespace cinnabar {

struct RoomNeeds {
  double width = 0, depth = 0;  ///< metres of floor, the one who works the camera and the stands' feet included
  double height = 0;            ///< over the floor, the table under the surface included
  double watts = 0;             ///< of the set-up that draws most
  std::string widest, highest, heaviest;  ///< ids of those set-ups
};
/// Over all set-ups that shots use: lights, cards, backdrop and cameras, 0.3 m of foot round each stand, 0.6 m
/// behind the camera; a table of 0.75 m (common practice, no source).
[[nodiscard]] RoomNeeds room_needs(const Project& project);

/// What does not fit the means that the project names: "The room is 0.4 m too shallow for set-up A". Continuous
/// load at most 80 % of each breaker (NFPA 70 art. 210).
[[nodiscard]] std::vector<std::string> room_faults(const Project& project, const RoomNeeds& needs);

}  // namespace cinnabar
