// Fine drops or grains in the air at one moment, thin enough to be looked through: a plume that rises, a box of
// haze, a puff.
#pragma once
#include <cstdint>
#include <limits>
#include <vector>

#include "cinnabar/base/vec.h"

namespace cinnabar {

/// SI. A plume stands on `place` and is Gaussian across: at a height z over it, it falls to 1/e at
/// radius + spread * z from its axis, which eddies bend; what scatters on the axis is told evenly from the foot to
/// the top that it comes to. A box has `place` in the middle of its floor and one thickness. A puff is Gaussian
/// about `place`, to 1/e at its radius, and what would lie under `ground` is thrown back by it.
enum class CloudForm : std::uint8_t { plume, box, puff };
struct Cloud {
  CloudForm form = CloudForm::plume;
  Vec3 place;
  Vec3 half;  ///< of a box: half its width and depth, and its whole height
  double top = 0, radius = 0, spread = 0;
  double ground = -std::numeric_limits<double>::infinity();
  double reached = std::numeric_limits<double>::infinity();  ///< as high as it has come; its head thins out
  std::vector<double> extinction;                            ///< per metre; of a box and of a puff's middle one
  double asymmetry = 0.8;  ///< of Henyey & Greenstein's phase function, above 0: onward
  double risen = 0;        ///< radii that its eddies have come up
  std::uint32_t seed = 1;

  /// Corners of the box that all of it lies in, but for a part in two hundred of a plume.
  struct Bounds {
    Vec3 low, high;
  };
  [[nodiscard]] Bounds bounds() const;
  /// Makes a puff's eddies hold as much in all as it would without them.
  void keep_its_mass();
  /// Per metre, at a place of the world.
  [[nodiscard]] double at(const Vec3& place) const;
};

/// What the light turned by an angle of that cosine gets, per steradian, of what is scattered once (Henyey &
/// Greenstein 1941).
[[nodiscard]] double scattered_to(double cosine, double asymmetry);

}  // namespace cinnabar
