// What a turntable's move asks of what stands on it, and of its motor.
#pragma once
#include <string>
#include <vector>

#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// Of glass on acrylic (common practice, no source).
inline constexpr double dry_friction = 0.3;

/// Of one product on the turntable, held by `dry_friction`: a solid cylinder as wide as it is, pressing evenly
/// (`turntable_start`).
struct Standing {
  std::string product;         ///< its id
  double inertia, torque = 0;  ///< kg m2 about the axis; N m at most
  double grip = 0, at = 0;     ///< share of what holds it that is used at the worst moment, and when, set seconds
};
/// Nothing of products without a mass. A track's jumps (linear keys) are left out: what comes to speed before the
/// shot takes the time that it likes.
[[nodiscard]] std::vector<Standing> standing_on_turntable(const Project& project, const Shot& shot);

}  // namespace cinnabar
