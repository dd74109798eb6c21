// The law of reflection, built anew here (common practice, no source).
// A strip's image in a cylinder: symmetry, edges, and the law of reflection itself at the place that is found.
#include <gtest/gtest.h>

#include <cmath>

#include "cinnabar/photometry/sources.h"

namespace cinnabar {
namespace {

struct Strip {
  double bearing, width, distance, radius;
};
class StripImage : public testing::TestWithParam<Strip> {
 protected:
  [[nodiscard]] CylinderStripe at(double camera, double bearing, double width, double distance) const {
    return *cylinder_stripe({camera, bearing, width, distance, GetParam().radius});
  }
};

// Source: the law of reflection, built anew here.
TEST_P(StripImage, LiesWhereTheAngleOfIncidenceIsTheAngleOfReflection) {
  const Strip& s = GetParam();
  const auto image = at(0, s.bearing, 0.0, s.distance);
  ASSERT_TRUE(image.centre_fraction);
  const double theta = std::asin(*image.centre_fraction);
  // Plan view, the camera infinitely far along +z: the surface point, its normal, and the way to the strip.
  const double px = s.radius * std::sin(theta), pz = s.radius * std::cos(theta);
  const double sx = s.distance * std::sin(radians(s.bearing)), sz = s.distance * std::cos(radians(s.bearing));
  const double to_strip = std::atan2(sx - px, sz - pz);
  EXPECT_NEAR(std::remainder(to_strip - theta, 2 * pi), theta, 1e-9)
      << "as far beyond the normal as the camera is before it";
}

// Own behaviour: symmetry.
TEST_P(StripImage, IsMirroredWithTheBearing) {
  const Strip& s = GetParam();
  const auto right = at(0, s.bearing, s.width, s.distance), left = at(0, -s.bearing, s.width, s.distance);
  EXPECT_NEAR(*right.centre_fraction, -*left.centre_fraction, 1e-12);
  EXPECT_NEAR(right.width_fraction, left.width_fraction, 1e-12);
}

// Own behaviour: symmetry.
TEST_P(StripImage, DependsOnlyOnTheBearingFromTheCamera) {
  const Strip& s = GetParam();
  const auto straight = at(0, s.bearing, s.width, s.distance);
  for (const double turn : {-170.0, -45.0, 90.0, 359.0}) {
    const auto turned = at(turn, s.bearing + turn, s.width, s.distance);
    EXPECT_NEAR(*turned.centre_fraction, *straight.centre_fraction, 1e-9);
    EXPECT_NEAR(turned.width_fraction, straight.width_fraction, 1e-9);
  }
}

/// A mirror built apart: rays from the camera, far along +z, fall on the cylinder at many places of its visible
/// width, are mirrored by its normal and followed to the strip's straight face. What share of the width they meet
/// it on, and where the middle of that is.
struct Mirrored {
  double width = 0, first = 2, last = -2;
};
Mirrored by_rays(const Strip& s) {
  const double b = radians(s.bearing);
  const double cx = s.distance * std::sin(b),
               cz = s.distance * std::cos(b);  // the face's middle, square to its bearing
  constexpr int rays = 400001;
  Mirrored out;
  int met = 0;
  for (int k = 0; k < rays; ++k) {
    const double u = -1 + (2 * k + 1.0) / rays, nx = u, nz = std::sqrt(1 - u * u);
    const double px = s.radius * nx, pz = s.radius * nz;
    // Direction -z mirrored: d - 2 (d.n) n.
    const double dx = 2 * nz * nx, dz = -1 + 2 * nz * nz;
    // Meets the line through the middle along (cos b, -sin b)?
    const double ax = std::cos(b), az = -std::sin(b), det = dx * -az + dz * ax;
    if (std::abs(det) < 1e-15) continue;
    const double qx = cx - px, qz = cz - pz;
    const double t = (qx * -az + qz * ax) / det, along = (dx * qz - dz * qx) / det;
    if (t > 0 && std::abs(along) <= s.width / 2)
      ++met, out.first = std::min(out.first, u), out.last = std::max(out.last, u);
  }
  out.width = static_cast<double>(met) / rays;
  return out;
}

// Source: the law of reflection, by rays traced here.
TEST_P(StripImage, IsWhereMirroredRaysMeetTheStrip) {
  const Strip& s = GetParam();
  const auto image = at(0, s.bearing, s.width, s.distance);
  const Mirrored rays = by_rays(s);
  ASSERT_GT(rays.width, 0.0);
  EXPECT_NEAR(image.width_fraction, rays.width, 1e-5);
  ASSERT_TRUE(image.centre_fraction);
  EXPECT_GT(*image.centre_fraction, rays.first);
  EXPECT_LT(*image.centre_fraction, rays.last);
}

// Source: the law of reflection.
TEST_P(StripImage, GrowsWithTheFaceAndShrinksWithDistance) {
  const Strip& s = GetParam();
  double last = 0.0;
  for (const double width : {0.5, 1.0, 1.5}) {
    const double now = at(0, s.bearing, width * s.width, s.distance).width_fraction;
    EXPECT_GT(now, last);
    last = now;
  }
  EXPECT_LT(at(0, s.bearing, s.width, 2 * s.distance).width_fraction,
            at(0, s.bearing, s.width, s.distance).width_fraction);
}
INSTANTIATE_TEST_SUITE_P(Strips, StripImage,
                         testing::Values(Strip{20, 0.1, 0.5, 0.03}, Strip{60, 0.2, 1.0, 0.035},
                                         Strip{95, 0.3, 0.6, 0.05}, Strip{130, 0.15, 0.9, 0.04},
                                         Strip{5, 0.05, 2.0, 0.1}));

}  // namespace
}  // namespace cinnabar
