// Fine drops in the air at one moment, thin enough to be looked through: a plume that rises, or a box of haze.
#pragma once
#include <cstdint>
#include <limits>
#include <vector>

#include "cinnabar/base/vec.h"

namespace cinnabar {

/// SI. A plume stands on `place` and is Gaussian across: at a height z over it, it falls to 1/e at
/// radius + spread * z from its axis, which eddies bend; what scatters on the axis is told evenly from the foot to
/// the top that it comes to. A box has `place` in the middle of its floor and one thickness.
struct Cloud {
  bool box = false;
  Vec3 place;
  Vec3 half;  ///< of a box: half its width and depth, and its whole height
  double top = 0, radius = 0, spread = 0;
  double reached = std::numeric_limits<double>::infinity();  ///< as high as it has come; its head thins out
  std::vector<double> extinction;                            ///< per metre; of a box one
  double asymmetry = 0.8;  ///< of Henyey & Greenstein's phase function, above 0: onward
  double risen = 0;        ///< radii that its eddies have come up
  std::uint32_t seed = 1;

  /// Corners of the box that all of it lies in, but for a part in two hundred of a plume.
  struct Bounds {
    Vec3 low, high;
  };
  [[nodiscard]] Bounds bounds() const;
  /// Per metre, at a place of the world.
  [[nodiscard]] double at(const Vec3& place) const;
};

/// What the light turned by an angle of that cosine gets, per steradian, of what is scattered once (Henyey &
/// Greenstein 1941).
[[nodiscard]] double scattered_to(double cosine, double asymmetry);

}  // namespace cinnabar
