// What fine drops in the air do to light: dimmed by Beer and Lambert's law, scattered by Henyey and Greenstein's
// phase function, and none of it lost.
#include <gtest/gtest.h>

#include <cmath>

#include "cinnabar/color/white.h"
#include "cinnabar/render/meter.h"
#include "staging.h"

namespace cinnabar {
namespace {

/// A box of haze of that width about a place, so thick per metre.
Cloud haze_box(const Vec3& middle, double width, double extinction) {
  Cloud box;
  box.form = CloudForm::box;
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
  EXPECT_NEAR(shown({0, 0, -1}) / clear, std::exp(-1.8), 0.01 * std::exp(-1.8)) << "with a gap between";
  world->clouds.push_back(haze_box({0, 0, -1.5}, 2.6, 0.3));
  EXPECT_NEAR(shown({0, 0, -1}) / clear, std::exp(-1.8 - 0.78), 0.01 * std::exp(-2.58))
      << "and both within a third";
  world->clouds.pop_back();
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

// Source: single scattering as above, of each of twenty lamps, where one is asked by chance.
TEST(Clouds, ScatterTheLightOfTwentyLampsAndOfNone) {
  auto world = empty_world();
  const Vec3 middle{-0.4, 0.1, -1};
  world->clouds = {haze_box(middle, 0.1, 0.05)};
  std::vector<double> expected;
  for (int k = 0; k < 20; ++k) {
    const double around = 2 * pi * k / 20.0;
    const Vec3 from = unit(Vec3{std::sin(around), 0.4, std::cos(around)});
    world->lights.push_back(lamp(middle + from * 2.0, middle, 0.05));
    // On its way along -from, turned into +z.
    const double phase = 0.36 / (4 * pi * std::pow(1.64 + 1.6 * from.z, 1.5));
    expected.push_back(pi * 0.05 * 0.05 / 4.0 * phase * -std::expm1(-0.05 * 0.1));
  }
  const Ray ray{(middle + Vec3{0, 0, 1}).as<float>(), {0, 0, -1}, 0.0f, 1e30f, 0.5f};
  const auto seen = gathered(Tracer(world), ray, 60000);
  for (std::size_t k = 0; k < 20; ++k) EXPECT_NEAR(seen[k], expected[k], 0.08 * expected[k]) << k;
  for (StagedLight& light : world->lights) light.luminance = 0.0;  // none can shine
  const auto dark = gathered(Tracer(world), ray, 100);
  for (std::size_t k = 0; k < 20; ++k) EXPECT_EQ(dark[k], 0.0);
}

// Only own behaviour is held here: steam over a product off the origin, seen from above on a camera on its side,
// is seen by a lamp to its side, and not with the lamp off.
TEST(Clouds, OfSteamAreSeenFromAboveByALampAndNotWithoutOne) {
  Json doc = worlds::bare();
  Json& shot = doc["shots"][0];
  shot["camera"]["place"] = {0.4, 1.0, -0.28}, shot["camera"]["aim"] = {0.4, 0.2, -0.3};
  shot["camera"]["roll_deg"] = 90, shot["camera"]["focus"] = 0.8;
  doc["setups"][0]["lights"] =
      Json::array({worlds::rectangle("side", {1.1, 0.25, -0.3}, {0.4, 0.2, -0.3}, 0.1, 0.1, 4000)});
  const auto middle = [&](bool steams, bool on) {
    Json now = doc;
    now["setups"][0]["lights"][0]["on"] = on;
    if (steams)
      now["shots"][0]["effects"] =
          Json::array({{{"id", "s"}, {"kind", "steam"}, {"at", 0.0}, {"place", {0.4, 0.1, -0.3}}}});
    const auto world = worlds::staged(now, 1.0);
    EXPECT_EQ(world->clouds.size(), steams ? 1u : 0u);
    const Film film = worlds::rendered(Tracer(world), 32, 18, 32);
    const Picture picture = mixed(film, neutral_weights(*world));
    double sum = 0.0;
    for (int y = 6; y < 12; ++y)
      for (int x = 8; x < 24; ++x) sum += static_cast<double>(luminance(picture.pixels[film.at(x, y)]));
    return sum;
  };
  EXPECT_EQ(middle(false, true), 0.0) << "there is nothing else";
  EXPECT_GT(middle(true, true), 1.0);
  EXPECT_EQ(middle(true, false), 0.0);
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
