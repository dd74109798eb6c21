// How surfaces throw light back: the table of coats against Fresnel's formulas, energy over the hemisphere,
// samplers against their densities, and shining faces against solid angles in closed form.
#include <gtest/gtest.h>

#include <cmath>

#include "cinnabar/color/white.h"
#include "cinnabar/optics/fresnel.h"
#include "cinnabar/render/light_sampling.h"
#include "cinnabar/render/surface_scattering.h"
#include "cinnabar/render/tracer.h"

namespace cinnabar {
namespace {

Vec3f away(float angle_deg) {
  const float a = angle_deg * pif / 180.0f;
  return {std::sin(a), 0.0f, std::cos(a)};
}
constexpr Vec3f up{0, 0, 1};

// Source: Born & Wolf, Fresnel's formulas.
TEST(CoatTable, FollowsFresnelsFormulas) {  // Born & Wolf, as `fresnel` computes it
  for (const double ior : {1.2, 1.33, 1.5, 1.8, 2.4}) {
    Scattering s;
    s.coat(static_cast<float>(ior));
    for (int a = 0; a <= 89; ++a) {
      const double exact = fresnel({.n1 = 1.0, .n2 = ior, .angle_deg = static_cast<double>(a)})->reflectance;
      EXPECT_NEAR(s.coat_reflects(static_cast<float>(std::cos(radians(a)))), exact, 2e-4) << ior << " " << a;
    }
  }
}

// Own behaviour.
TEST(CoatTable, IsSharedByAllSurfacesOfOneIndex) {
  Scattering a, b, c;
  a.coat(1.5f), b.coat(1.5f), c.coat(1.6f);
  EXPECT_EQ(a.coat_table, b.coat_table);
  EXPECT_NE(a.coat_table, c.coat_table);
}

struct Kind {
  const char* name;
  MaterialKind kind;
  double roughness, transmittance, forward = 0;
};
void PrintTo(const Kind& kind, std::ostream* out) { *out << kind.name; }

class SurfaceKind : public testing::TestWithParam<std::tuple<Kind, int>> {
 protected:
  Scattering surface(double tone) const {
    Material m{std::get<0>(GetParam()).kind, {tone, tone, tone}};
    m.roughness = std::get<0>(GetParam()).roughness;
    m.transmittance = std::get<0>(GetParam()).transmittance;
    m.forward = std::get<0>(GetParam()).forward, m.lobe_deg = 12;
    return scattering_of(m);
  }
  [[nodiscard]] Vec3f out() const { return away(static_cast<float>(std::get<1>(GetParam()))); }
};

/// Integrates over the sphere of directions: even steps in the cosine and the bearing.
template <class F>
double over_directions(F f) {
  constexpr int rings = 300, bearings = 240;
  double sum = 0.0;
  for (int i = 0; i < rings; ++i)
    for (int j = 0; j < bearings; ++j) {
      const float c = -1.0f + 2.0f * (static_cast<float>(i) + 0.5f) / rings, s = std::sqrt(1.0f - c * c),
                  a = 2 * pif * (static_cast<float>(j) + 0.5f) / bearings;
      sum += f(Vec3f{s * std::cos(a), s * std::sin(a), c});
    }
  return sum * 4 * pi / (rings * bearings);
}

// Source: conservation of energy.
TEST_P(SurfaceKind, GivesOutNoMoreThanItGets) {
  const Scattering white = surface(1.0);
  const auto o = white.outward(out(), up);
  const double given = over_directions([&](const Vec3f& in) { return luminance(white.both(o, in).value); });
  EXPECT_LE(given, 1.01);
  EXPECT_GT(given, 0.2);
}

// Own behaviour.
TEST_P(SurfaceKind, SamplesAsItsDensitySays) {
  const Scattering s = surface(0.6);
  const auto o = s.outward(out(), up);
  const double whole = over_directions([&](const Vec3f& in) { return s.both(o, in).density; });
  // The mean of value / density over samples is the integral of the value.
  const double integral = over_directions([&](const Vec3f& in) { return luminance(s.both(o, in).value); });
  double mean = 0.0, kept = 0.0;
  constexpr int n = 20000;
  for (std::uint32_t k = 0; k < n; ++k) {
    Sampler sampler(k, 3);
    const auto [u, v] = sampler.pair();
    const auto sample = s.sample(out(), up, sampler.one(), u, v);
    if (sample.density > 0.0f) mean += luminance(sample.weight) / n, kept += 1.0 / n;
  }
  EXPECT_NEAR(whole, kept, 0.02) << "what a rough lobe sends below the horizon is no sample";
  EXPECT_NEAR(mean, integral, 0.02);
}

// Source: Helmholtz reciprocity.
TEST_P(SurfaceKind, IsReciprocal) {  // Helmholtz: value over cosine is the same either way
  const Scattering s = surface(0.5);
  for (int k = 1; k < 40; ++k) {
    const Vec3f in = unit(Vec3f{std::sin(static_cast<float>(k)), std::cos(2.3f * static_cast<float>(k)), 0.9f});
    const double there = luminance(s.value(out(), in, up)) / in.z,
                 back = luminance(s.value(in, out(), up)) / out().z;
    EXPECT_NEAR(there, back, 1e-3 * (there + back) + 1e-6);
    const Vec3f below{in.x, in.y, -in.z};  // what goes through
    const double through = luminance(s.value(out(), below, up)) / in.z,
                 again = luminance(s.value(below, out(), -up)) / out().z;
    EXPECT_NEAR(through, again, 1e-3 * (through + again) + 1e-6);
  }
}

// Own behaviour.
TEST_P(SurfaceKind, AnswersTheSameSeparatelyAndTogether) {
  const Scattering s = surface(0.5);
  const auto o = s.outward(out(), up);
  for (int k = 1; k < 40; ++k) {
    const Vec3f in = unit(Vec3f{std::sin(static_cast<float>(k)), std::cos(3.1f * static_cast<float>(k)),
                                std::sin(1.7f * static_cast<float>(k))});
    const auto both = s.both(o, in);
    EXPECT_FLOAT_EQ(both.density, s.density(out(), in, up));
    EXPECT_FLOAT_EQ(both.value.x, s.value(out(), in, up).x);
    EXPECT_GE(both.density, 0.0f);
    EXPECT_GE(both.value.x, 0.0f);
  }
}
INSTANTIATE_TEST_SUITE_P(Kinds, SurfaceKind,
                         testing::Combine(testing::Values(Kind{"matte", MaterialKind::matte, 0, 0},
                                                          Kind{"satin", MaterialKind::satin, 0.5, 0},
                                                          Kind{"rough metal", MaterialKind::metal, 0.6, 0},
                                                          Kind{"paper", MaterialKind::paper, 0, 0},
                                                          Kind{"cloth", MaterialKind::cloth, 0, 0},
                                                          Kind{"translucent", MaterialKind::translucent, 0, 0.4},
                                                          Kind{"diffusion", MaterialKind::translucent, 0, 0.8,
                                                               0.7}),
                                          testing::Values(5, 40, 70)));

// Source: Duff et al. 2017, JCGT 6.
TEST(Frames, AboutANormalAreSquareAndRightHanded) {  // Duff et al. 2017, also about the poles
  for (const Vec3f& n :
       {Vec3f{0, 0, 1}, Vec3f{0, 0, -1}, Vec3f{1, 0, 0}, unit(Vec3f{1, -2, 3}), unit(Vec3f{-1, 1, -1e-4f})}) {
    Vec3f x, y;
    frame_about(n, x, y);
    EXPECT_NEAR(dot(x, y), 0, 1e-6);
    EXPECT_NEAR(dot(x, n), 0, 1e-6);
    EXPECT_NEAR(length(x), 1, 1e-6);
    EXPECT_NEAR(dot(cross(x, y), n), 1, 1e-6);
  }
}

/// Solid angle of what a sampler covers: the mean of 1 / density over its samples.
double covered(const StagedLight& light, const Vec3f& from) {
  const LightSampler sampler(light);
  double sum = 0.0;
  constexpr int side = 200;
  for (int i = 0; i < side; ++i)
    for (int j = 0; j < side; ++j) {
      const auto s =
          sampler.toward(from, (static_cast<float>(i) + 0.5f) / side, (static_cast<float>(j) + 0.5f) / side);
      if (s.density > 0.0f) sum += 1.0 / s.density;
    }
  return sum / (side * side);
}

// Common practice, no source: solid angles of rectangle, disc and sphere in closed form.
TEST(ShiningFaces, CoverTheirSolidAngle) {
  StagedLight light{};
  light.place = {0, 0, 0}, light.frame = facing({0, 0, 0}, {0, 0, 1});
  light.shape = LightShape::rectangle, light.width = 0.8, light.height = 0.6;
  // A rectangle on its axis: 4 asin(a b / sqrt((a2 + d2)(b2 + d2))), half sides a and b.
  const double a = 0.4, b = 0.3, d = 1.0;
  EXPECT_NEAR(covered(light, {0, 0, 1}), 4 * std::asin(a * b / std::sqrt((a * a + d * d) * (b * b + d * d))),
              1e-4);
  light.shape = LightShape::disc, light.radius = 0.5;
  EXPECT_NEAR(covered(light, {0, 0, 1}), 2 * pi * (1 - 1 / std::sqrt(1.25)), 1e-4);
  light.shape = LightShape::bare, light.radius = 0.2;
  EXPECT_NEAR(covered(light, {0, 0, 1}), 2 * pi * (1 - std::sqrt(1 - 0.04)), 1e-5);
  EXPECT_NEAR(covered(light, {0, 0, -1}), 2 * pi * (1 - std::sqrt(1 - 0.04)), 1e-5)
      << "a bare lamp shines all round";
  light.shape = LightShape::rectangle;
  EXPECT_EQ(covered(light, {0, 0, -1}), 0.0) << "a face's back is dark";
}

// Own behaviour.
TEST(ShiningFaces, KnowTheDensityOfTheRaysThatMeetThem) {
  StagedLight light{};
  light.place = {0.3, 0.2, 0}, light.frame = facing({0.3, 0.2, 0}, {0, 0, 1});
  light.width = 0.8, light.height = 0.6, light.radius = 0.3, light.length = 0.7;
  for (const LightShape shape : {LightShape::rectangle, LightShape::disc}) {
    light.shape = shape;
    const LightSampler sampler(light);
    for (const float u : {0.1f, 0.5f, 0.8f}) {
      const Vec3f from{0.1f, -0.2f, 1.2f};
      const auto s = sampler.toward(from, u, 0.3f);
      EXPECT_NEAR(sampler.density(from, s.direction, s.distance, sampler.ahead), s.density, 1e-4 * s.density);
    }
  }
}

}  // namespace
}  // namespace cinnabar
