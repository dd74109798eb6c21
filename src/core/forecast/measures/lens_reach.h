// Widest lens first: how much each lens sees from where the camera stands, and which edge of the set.
#pragma once
#include <string>
#include <vector>

#include "cinnabar/project/model/entities.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {

/// Which side of the picture an edge of the set comes nearest to.
enum class PictureSide { left, right, top, bottom };

struct LensReach {
  double focal = 0;                     ///< metres
  std::string name;                     ///< of the lens in the kit; empty for one that only a shot has
  bool in_use = false;                  ///< a shot on this set-up has it
  double half_across = 0, half_up = 0;  ///< tangents of the half angles of view
  bool edge = false;                    ///< an outer edge of surface or backdrop can be seen at all
  double spare = 0;  ///< of the nearest edge, share of the frame's width outside it; negative: in the picture
  bool of_backdrop = false;  ///< else of the surface
  PictureSide side = PictureSide::left;
};

/// Every focal length that a shot on this set-up has and both ends of each lens in the kit, the widest first, each
/// once, from where the shot's camera stands at a set time. Empty without a camera or a set-up.
[[nodiscard]] std::vector<LensReach> lens_reaches(const Project& project, const Shot& shot, double set_time);

}  // namespace cinnabar
