// The lens against its own limits: what must hold whatever the numbers.
#include "cinnabar/optics/lens.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "cinnabar/base/vec.h"
#include "cinnabar/optics/fresnel.h"

namespace cinnabar {
namespace {

// Source: thin lens, blur disc (Ray 2002).
TEST(Depth, EndsWhereTheBlurIsTheCircle) {
  std::mt19937 random(4);
  std::uniform_real_distribution<double> f(0.02, 0.2), n(1.4, 22), s(0.3, 4), c(5e-6, 4e-5);
  for (int i = 0; i < 300; ++i) {
    const DepthOfFieldInputs in{f(random), n(random), 0, c(random)};
    const double focus = in.focal * 1.5 + s(random);
    const auto d = depth_of_field({in.focal, in.f_number, focus, in.circle});
    ASSERT_TRUE(d);
    EXPECT_LT(d->near, focus);
    const auto near_blur = blur_disc({in.focal, in.f_number, focus, d->near});
    EXPECT_NEAR(near_blur->diameter, in.circle, 1e-9 + 1e-6 * in.circle);
    if (!d->far) continue;
    EXPECT_GT(*d->far, focus);
    EXPECT_NEAR(blur_disc({in.focal, in.f_number, focus, *d->far})->diameter, in.circle, 1e-9 + 1e-6 * in.circle);
    EXPECT_NEAR(*d->depth, *d->far - d->near, 1e-12);
  }
}

// Source: hyperfocal distance (Ray 2002).
TEST(Depth, HasNoFarEndFromTheHyperfocalDistanceOn) {
  const DepthOfFieldInputs in{0.024, 8, 5, 3e-5};
  const double h = depth_of_field(in)->hyperfocal;
  EXPECT_FALSE(depth_of_field({0.024, 8, h, 3e-5})->far);
  EXPECT_TRUE(depth_of_field({0.024, 8, h * 0.999, 3e-5})->far);
  EXPECT_NEAR(depth_of_field({0.024, 8, h, 3e-5})->near, h / 2, 0.02);
}

// Source: thin lens (Ray 2002).
TEST(Field, GrowsWithDistanceAndShrinksWithFocalLength) {
  double last = 0;
  for (double d = 0.2; d < 5; d += 0.1) {
    const auto v = field_of_view({0.05, 0.036, 0.024, d});
    EXPECT_GT(v->width, last);
    EXPECT_NEAR(v->width * v->magnification, 0.036, 1e-12);
    EXPECT_NEAR(std::tan(radians(v->angle_h_deg) / 2) * 2 * d, v->width, 1e-12);
    last = v->width;
  }
}

// Source: Ray 2002, bellows factor (1 + m)^2.
TEST(EffectiveAperture, LosesTwoStopsAtLifeSize) {  // Ray 2002: at m = 1 with a symmetrical lens
  const auto n = effective_f_number({2.8, 1, 1});
  EXPECT_NEAR(n->f_number_effective, 5.6, 1e-12);
  EXPECT_NEAR(n->stops_lost, 2, 1e-12);
}

// Source: Born & Wolf, ((n - 1) / (n + 1))^2.
TEST(Fresnel, AtNormalIncidenceIsTheSquaredIndexStep) {
  for (double n = 1.05; n < 3; n += 0.1) {
    const double r = std::pow((n - 1) / (n + 1), 2);
    EXPECT_NEAR(fresnel({1, n, 0})->reflectance, r, 1e-12);
    EXPECT_NEAR(fresnel({n, 1, 0})->reflectance, r, 1e-12);
    EXPECT_NEAR(fresnel({1, n, 90})->reflectance, 1, 1e-12);
  }
}

// Source: Stokes' relations (Born & Wolf).
TEST(Fresnel, IsTheSameBothWaysAndTheTracersAgreesWithIt) {
  for (double angle = 0; angle < 90; angle += 1.5) {
    const auto in = fresnel({1, 1.5, angle});
    EXPECT_NEAR(fresnel({1.5, 1, *in->transmitted_angle_deg})->reflectance, in->reflectance, 1e-9);
    float cos_out = 0;
    EXPECT_NEAR(fresnel_reflectance(static_cast<float>(std::cos(radians(angle))), 1.0f / 1.5f, cos_out),
                in->reflectance, 2e-5);
    EXPECT_NEAR(cos_out, std::cos(radians(*in->transmitted_angle_deg)), 1e-5);
  }
}

struct SlabRow {
  double angle, passed;
};
// Source: Born & Wolf, (1 - R) / (1 + R).
TEST(Slab, PassesTheMeanOfBothPolarisations) {  // (1 - R) / (1 + R), n 1.5 (Born & Wolf)
  for (const SlabRow row : {SlabRow{0, 0.923077}, SlabRow{60, 0.848128}, SlabRow{85, 0.246931}}) {
    const double ci = std::cos(radians(row.angle)),
                 co = std::sqrt(1 - std::pow(std::sin(radians(row.angle)) / 1.5, 2));
    const double rs = std::pow((ci - 1.5 * co) / (ci + 1.5 * co), 2),
                 rp = std::pow((1.5 * ci - co) / (1.5 * ci + co), 2);
    EXPECT_NEAR(0.5 * ((1 - rs) / (1 + rs) + (1 - rp) / (1 + rp)), row.passed, 1e-6);
    EXPECT_NEAR(0.5 * (rs + rp), fresnel({1, 1.5, row.angle})->reflectance, 1e-12);
  }
}

}  // namespace
}  // namespace cinnabar
