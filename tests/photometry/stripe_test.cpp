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

TEST_P(StripImage, IsMirroredWithTheBearing) {
  const Strip& s = GetParam();
  const auto right = at(0, s.bearing, s.width, s.distance), left = at(0, -s.bearing, s.width, s.distance);
  EXPECT_NEAR(*right.centre_fraction, -*left.centre_fraction, 1e-12);
  EXPECT_NEAR(right.width_fraction, left.width_fraction, 1e-12);
}

TEST_P(StripImage, DependsOnlyOnTheBearingFromTheCamera) {
  const Strip& s = GetParam();
  const auto straight = at(0, s.bearing, s.width, s.distance);
  for (const double turn : {-170.0, -45.0, 90.0, 359.0}) {
    const auto turned = at(turn, s.bearing + turn, s.width, s.distance);
    EXPECT_NEAR(*turned.centre_fraction, *straight.centre_fraction, 1e-9);
    EXPECT_NEAR(turned.width_fraction, straight.width_fraction, 1e-9);
  }
}

TEST_P(StripImage, IsAsWideAsItsEdgesAreApart) {
  const Strip& s = GetParam();
  const auto whole = at(0, s.bearing, s.width, s.distance);
  const double half = degrees(std::atan2(s.width / 2, s.distance)), far = std::hypot(s.distance, s.width / 2);
  const auto low = at(0, s.bearing - half, 0.0, far), high = at(0, s.bearing + half, 0.0, far);
  if (!low.centre_fraction || !high.centre_fraction) return;  // an edge has gone round the limb
  EXPECT_NEAR(whole.width_fraction, (*high.centre_fraction - *low.centre_fraction) / 2, 1e-9);
}

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
