// What fine drops in the air do to light: dimmed by Beer and Lambert's law, scattered by Henyey and Greenstein's
// phase function, and none of it lost.
#include <gtest/gtest.h>

#include <cmath>

#include "cinnabar/render/meter.h"
#include "staging.h"

namespace cinnabar {
namespace {

/// A box of haze of that width about a place, so thick per metre.
Cloud haze_box(const Vec3& middle, double width, double extinction) {
  Cloud box;
  box.box = true;
  box.place = middle - Vec3{0, width / 2, 0};
  box.half = {width / 2, width, width / 2};
  box.extinction = {extinction};
  return box;
}
/// A disc that shines at `to`, of unit luminance.
StagedLight lamp(const Vec3& place, const Vec3& to, double radius) {
  StagedLight light{};
  light.id = "lamp", light.shape = LightShape::disc, light.place = place, light.frame = facing(place, to);
  light.radius = radius, light.luminance = 1.0, light.dimmer = 1.0, light.white_kelvin = 5600, light.on = true;
  return light;
}
std::shared_ptr<StagedWorld> empty_world() {
  auto world = std::make_shared<StagedWorld>(*worlds::staged(worlds::bare()));
  world->meshes.clear(), world->lights.clear(), world->media.clear(), world->clouds.clear();
  world->screens = false;
  return world;
}
/// The mean of what a ray gathers, by layer.
std::vector<double> gathered(const Tracer& tracer, const Ray& ray, int count) {
  std::vector<Rgb> layers(tracer.lights().size() + 2);
  for (int k = 0; k < count; ++k) {
    Sampler sampler(7, static_cast<std::uint32_t>(k));
    (void)tracer.follow(ray, {1, 1, 1}, sampler, layers.data(), {});
  }
  std::vector<double> means;
  for (const Rgb& layer : layers) means.push_back(static_cast<double>(layer.x) / count);
  return means;
}

// Source: Beer and Lambert, T = exp(-extinction x path), for a slab square to the ray, one it crosses aslant, and
// two one behind the other.
TEST(Clouds, PassWhatBeerAndLambertSay) {
  auto world = empty_world();
  Mesh screen;
  screen.role = Role::surface;
  screen.material = {MaterialKind::gloss, {1, 1, 1}};
  screen.material.screen = 100.0;
  screen.normals.assign(3, Vec3f{0, 0, 1});
  screen.positions = {{{-50, -50, -3}, {50, -50, -3}, {0, 90, -3}}};
  screen.uvs.assign(3, {0.0f, 0.0f});
  screen.triangles = {0, 1, 2};
  world->meshes = {screen};
  world->screens = true;
  const auto shown = [&](const Vec3f& direction) {
    const Tracer tracer(world);
    return gathered(tracer, {{0, 0, 0}, direction, 0.0f, 1e30f, 0.5f}, 256)[tracer.lights().size() + 1];
  };
  const double clear = shown({0, 0, -1});
  ASSERT_NEAR(clear, 100.0, 0.01);
  for (const double extinction : {0.1, 1.0, 4.0}) {
    world->clouds = {haze_box({0, 0, -1}, 0.8, extinction)};
    EXPECT_NEAR(shown({0, 0, -1}) / clear, std::exp(-0.8 * extinction), 0.01 * std::exp(-0.8 * extinction));
  }
  world->clouds = {haze_box({0, 0, -1}, 0.8, 1.0)};
  const Vec3f aslant = unit(Vec3f{0.2f, 0.1f, -1.0f});
  const double path = 0.8 / -static_cast<double>(aslant.z);
  EXPECT_NEAR(shown(aslant) / clear, std::exp(-path), 0.01 * std::exp(-path));
  world->clouds.push_back(haze_box({0, 0, -2}, 0.5, 2.0));
  // The two are looked through in steps over both and the gap between: their ends fall within steps.
  EXPECT_NEAR(shown({0, 0, -1}) / clear, std::exp(-1.8), 0.03 * std::exp(-1.8));
  world->clouds.front().place.x += 5.0;
  EXPECT_NEAR(shown({0, 0, -1}) / clear, std::exp(-1.0), 0.01 * std::exp(-1.0)) << "past the first";
}

// Source: an even surrounding stays as bright through whatever scatters and takes nothing (conservation of
// energy).
TEST(Clouds, LoseNothing) {
  auto world = empty_world();
  world->clouds = {haze_box({0, 0, -1}, 1.0, 2.0)};
  EXPECT_NEAR(gathered(Tracer(world), {{0, 0, 0}, {0, 0, -1}, 0.0f, 1e30f, 0.5f}, 64)[0], 1.0, 1e-4);
}

// Source: single scattering, L = E p(angle) (1 - exp(-depth)), p by Henyey & Greenstein 1941; E = A / d2 of a
// small face of unit luminance. A lamp behind the haze against one beside the camera: the ratio of the phase
// function.
TEST(Clouds, ScatterByTheAngle) {
  const double extinction = 0.05, width = 0.1, away = 3.0, radius = 0.02;
  std::vector<double> told;
  for (const double angle : {20.0, 90.0, 150.0}) {
    auto world = empty_world();
    const Vec3 middle{0.3, 0.2, -1};
    world->clouds = {haze_box(middle, width, extinction)};
    // Light comes from where it must be turned by that angle to go on to the lens, which is towards +z.
    const double a = radians(angle);
    const Vec3 place = middle - Vec3{std::sin(a), 0, std::cos(a)} * away;
    world->lights = {lamp(place, middle, radius)};
    const Vec3 eye = middle + Vec3{0, 0, 1};
    const double seen = gathered(Tracer(world), {eye.as<float>(), {0, 0, -1}, 0.0f, 1e30f, 0.5f}, 2000)[0];
    const double phase = 0.36 / (4 * pi * std::pow(1.64 - 1.6 * std::cos(a), 1.5));
    const double expected = pi * radius * radius / (away * away) * phase * -std::expm1(-extinction * width);
    EXPECT_NEAR(seen, expected, 0.02 * expected) << angle;
    told.push_back(seen);
  }
  EXPECT_NEAR(told[0] / told[2], 711.798 / 6.8201, 0.03 * 711.798 / 6.8201);
}

// Source: Beer and Lambert on the light's way to a patch as well.
TEST(Clouds, DimTheLightOnItsWay) {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"] = Json::array({{{"id", "key"},
                                             {"place", {0, 2, 0}},
                                             {"aim", {0, 0, 0}},
                                             {"on", true},
                                             {"shape", "disc"},
                                             {"radius", 0.05},
                                             {"lumens", 1000}}});
  auto world = std::make_shared<StagedWorld>(*worlds::staged(doc));
  ASSERT_EQ(world->lights.size(), 1u);
  const auto lux = [&] { return illuminance(Tracer(world), {0.1, 0, 0.1}, {0, 1, 0}, {.paths = 0}).total(); };
  const double clear = lux();
  ASSERT_GT(clear, 0.0);
  world->clouds = {haze_box({0, 1, 0}, 1.0, 0.7)};
  const double path = length(Vec3{0.1, 2, 0.1}) / 2.0;  // the box takes half of the way
  EXPECT_NEAR(lux() / clear, std::exp(-0.7 * path), 0.01);
}

// Only own behaviour is held here: nothing upsets what is traced.
TEST(Clouds, OfAnySizeAndThicknessAreTraced) {
  for (const double extinction : {0.0, 1e-12, 1e6}) {
    auto world = empty_world();
    world->lights = {lamp({0, 0, 0}, {0, 0, -1}, 0.1)};  // the eye, the lamp and the haze in one place
    world->clouds = {haze_box({0, 0, 0}, 2.0, extinction), haze_box({0, 0, -1}, 1e4, extinction)};
    for (const double value : gathered(Tracer(world), {{0, 0, 0}, {0, 0, -1}, 0.0f, 1e30f, 0.5f}, 32))
      EXPECT_TRUE(std::isfinite(value) && value >= 0.0) << extinction;
  }
}

}  // namespace
}  // namespace cinnabar
