// Liquids whose vessels lean or are pushed about, staged: level in the world, of true volume, spilled for good.
#include "cinnabar/scene/liquid_surface.h"

#include <gtest/gtest.h>

#include <cmath>

#include "cinnabar/effects/pours.h"
#include "cinnabar/scene/form.h"
#include "worlds.h"

namespace cinnabar {
namespace {

constexpr double inner_radius = 0.0395, wall = 0.0001, brim = 0.12, floor_height = 0.0001;

/// A thin tumbler off the origin and turned, filled to a height, and how it is moved.
Json moved(double fill_to, const Json& tracks, const Json& lid = nullptr) {
  Json parts = Json::array(
      {{{"id", "glass"},
        {"profile", {{0.0, 0.0}, {inner_radius + wall, 0.0}, {inner_radius + wall, brim}}},
        {"wall", wall},
        {"material", {{"kind", "glass"}, {"ior", 1.52}}}},
       {{"id", "drink"},
        {"profile", {{0.0, floor_height}, {inner_radius, floor_height}, {inner_radius, fill_to}, {0.0, fill_to}}},
        {"material", {{"kind", "liquid"}, {"ior", 1.333}}}}});
  if (!lid.is_null()) parts.push_back(lid);
  Json doc = worlds::bare();
  doc["products"].push_back({{"id", "tumbler"}, {"name", "Tumbler"}, {"mass", 0.3}, {"parts", parts}});
  doc["shots"][0]["products"] =
      Json::array({{{"product", "tumbler"}, {"place", {0.3, 0.0, -0.2}}, {"turn_deg", 40}}});
  doc["shots"][0]["tracks"] = tracks;
  return doc;
}
Json leaning(double to_deg) {
  return Json::array({worlds::moving("product.tumbler.tilt", "linear", {{0, 0}, {1, to_deg}, {2, 0}})});
}
Json sliding(double by) {
  return Json::array({worlds::moving("product.tumbler.place", "linear",
                                     {{0, {0.0, 0.0, 0.0}}, {1, {by, 0.0, 0.0}}, {9, {by, 0.0, 0.0}}})});
}
Mesh drink_of(const Json& doc, double t) {
  const Project p = worlds::read(doc);
  const double opens = t - 0.5 * p.shots[0]->camera->shutter_time;  // it is staged for the middle of the exposure
  for (const Mesh& mesh : stage(p, *p.shots[0], opens, {.motion = false}).meshes)
    if (mesh.role == Role::product && mesh.material.kind == MaterialKind::liquid) return mesh;
  return {};
}
double volume_of(const Mesh& mesh) {
  double sum = 0.0;
  const auto& p = mesh.positions.front();
  for (std::size_t i = 0; i + 2 < mesh.triangles.size(); i += 3) {
    const auto at = [&](std::size_t k) { return p[mesh.triangles[i + k]].as<double>(); };
    sum += dot(at(0), cross(at(1), at(2))) / 6.0;
  }
  return sum;
}
/// Lowest and highest place whose normal looks up, which are the surface's.
std::pair<double, double> surface_of(const Mesh& mesh) {
  double low = 1e9, high = -1e9;
  for (std::size_t i = 0; i < mesh.normals.size(); ++i)
    if (mesh.normals[i].y > 0.8f) {
      low = std::min(low, static_cast<double>(mesh.positions.front()[i].y));
      high = std::max(high, static_cast<double>(mesh.positions.front()[i].y));
    }
  return {low, high};
}
constexpr double section = pi * inner_radius * inner_radius;

// Source: a liquid at rest stands level; Gauss's theorem, the drink's volume kept within 1 % (it reaches half into
// the wall: 0.3 to 0.9 % more than the inside).
TEST(LiquidSurface, StaysLevelAndKeepsItsVolumeWhileTheGlassLeans) {
  for (const double lean : {10.0, 25.0, -25.0}) {
    const Mesh drink = drink_of(moved(0.05, leaning(lean)), 1.0);
    const auto [low, high] = surface_of(drink);
    EXPECT_NEAR(low, high, 1e-6) << lean;
    const double volume = section * (0.05 - floor_height);
    EXPECT_NEAR(volume_of(drink), volume, 0.01 * volume) << lean;
    EXPECT_GT(volume_of(drink), volume) << "half the wall is reached into, so that no air is left there";
  }
}

// Source: closed form of the cylinder's ungula (`tilt_hold`): what a leaning glass cannot hold is spilled, and
// does not come back with it.
TEST(LiquidSurface, WhatRunsOverIsGone) {
  const auto held = tilt_hold({inner_radius, brim - floor_height, 0.1, 60.0});
  ASSERT_TRUE(held);
  ASSERT_GT(held->spilled_volume, 1e-5);
  for (const double t : {1.0, 1.5, 2.0})
    EXPECT_NEAR(volume_of(drink_of(moved(0.1, leaning(60.0)), t)), held->held_volume, 0.015 * held->held_volume)
        << t;
  const double full = section * (0.1 - floor_height);
  EXPECT_NEAR(volume_of(drink_of(moved(0.1, leaning(60.0)), 0.0)), full, 0.01 * full);
  const Json lid{{"id", "lid"},
                 {"profile", {{0.0, 0.121}, {0.04, 0.121}, {0.04, 0.13}, {0.0, 0.13}}},
                 {"material", {{"kind", "gloss"}}}};
  EXPECT_NEAR(volume_of(drink_of(moved(0.1, leaning(60.0), lid), 1.0)), full, 0.015 * full) << "closed";
}

// Source: the balance of volume: what was poured before the glass leant runs over, what comes after it stood again
// stays.
TEST(LiquidSurface, IsFilledAnewAfterItRanOver) {
  Json doc = moved(0.1, leaning(60.0));
  doc["shots"][0]["screen_time"] = 12.0;
  doc["shots"][0]["effects"] = Json::array({{{"id", "p"},
                                             {"kind", "pour"},
                                             {"at", 3.0},
                                             {"place", {0.3, 0.25, -0.2}},
                                             {"liquid", "water"},
                                             {"neck_diameter", 0.012},
                                             {"flow", 2e-5},
                                             {"leave_deg", 90},
                                             {"volume", 5e-5}}});
  const auto held = tilt_hold({inner_radius, brim - floor_height, 0.1, 60.0});
  ASSERT_TRUE(held);
  EXPECT_NEAR(volume_of(drink_of(doc, 2.5)), held->held_volume, 0.015 * held->held_volume);
  const double after = held->held_volume + 5e-5;
  EXPECT_NEAR(volume_of(drink_of(doc, 10.0)), after, 0.015 * after);
}

// Source: closed form of the ungula: a little of it in a steep glass leaves the floor's middle dry.
TEST(LiquidSurface, StandsInTheCornerOfASteepGlass) {
  const Mesh drink = drink_of(moved(0.006, leaning(70.0)), 1.0);
  const double volume = section * (0.006 - floor_height);
  EXPECT_NEAR(volume_of(drink), volume, 0.05 * volume);
  const auto [low, high] = surface_of(drink);
  EXPECT_NEAR(low, high, 1e-6);
}

// Source: the drink's own volume; only own behaviour beyond the upright: nothing is left in an open glass on its
// side, a closed one keeps what is in it, and any number of turns is no matter.
TEST(LiquidSurface, HoldsWhicheverWayItIsTurned) {
  const Json lid{{"id", "lid"},
                 {"profile", {{0.0, 0.1201}, {0.04, 0.1201}, {0.04, 0.13}, {0.0, 0.13}}},
                 {"material", {{"kind", "gloss"}}}};
  const double full = section * (0.06 - floor_height);
  for (const double lean : {89.9, 95.0, 180.0, -270.0, 500.0}) {
    EXPECT_EQ(volume_of(drink_of(moved(0.06, leaning(lean)), 1.0)), 0.0) << lean;
    EXPECT_NEAR(volume_of(drink_of(moved(0.06, leaning(lean), lid), 1.0)), full, 0.01 * full) << lean;
  }
  const double standing = volume_of(drink_of(moved(0.06, leaning(360.0 * 3)), 1.0));
  EXPECT_NEAR(standing, 0.0, 1e-12) << "it went over on the way";
}

// Source: Ibrahim 2005 by `slosh_stop`: the wave after a slide that stops at once.
TEST(LiquidSurface, HeavesWhereASlideStops) {
  const Json doc = moved(0.08, sliding(0.1));
  const auto before = surface_of(drink_of(doc, 0.9));
  EXPECT_NEAR(before.first, before.second, 1e-6) << "it came so";
  const auto told = slosh_stop({inner_radius, 0.08 - floor_height, 0.1, 0.0, 1e-6});
  ASSERT_TRUE(told);
  double most = 0.0;
  for (int i = 1; i <= 40; ++i) {
    const auto [low, high] = surface_of(drink_of(doc, 1.0 + i / 40.0 / told->frequency_hz));
    most = std::max(most, high - low);
  }
  EXPECT_NEAR(most, 2.0 * told->amplitude, 0.05 * 2.0 * told->amplitude);
  const double volume = section * (0.08 - floor_height);
  EXPECT_NEAR(volume_of(drink_of(doc, 1.0 + 0.25 / told->frequency_hz)), volume, 0.01 * volume);
}

// Source: the first mode's share, 2 / (lambda2 - 1), of the lean a R / g under an even acceleration (Ibrahim
// 2005): a glass that goes round with a turntable stands against it, outward, as long as it turns.
TEST(LiquidSurface, StandsOutwardOnATurntable) {
  const Project p =
      worlds::read(moved(0.06, Json::array({worlds::moving("turntable", "linear", {{0, 0}, {4, 720}})})));
  const Shot& shot = *p.shots[0];
  const double away = std::hypot(0.3, 0.2), pull = pi * pi * away;  // half a turn a second
  const double lean = 2.0 / (1.84118378 * 1.84118378 - 1) * pull * inner_radius / standard_gravity;
  for (const double t : {0.3, 1.1, 3.7}) {
    const auto surface = liquid_surface(p, shot, 0, {}, *p.products.back(), t);
    ASSERT_TRUE(surface) << t;
    const ProductPose pose = product_at(p, shot, shot.products[0], t);
    const Vec3 wave = pose.direction(surface->wave), out = unit(Vec3{pose.place.x, 0, pose.place.z});
    EXPECT_NEAR(dot(wave, out), std::min(lean, 0.3 * inner_radius), 0.03 * lean) << t;
    EXPECT_LT(length(wave - out * dot(wave, out)), 0.05 * lean) << t;
  }
}

// Own behaviour: a glass that turns about its own axis, or stands, is staged as ever; one that heaves has its form
// at every moment of the exposure.
TEST(LiquidSurface, IsNoneWhereNothingMovesIt) {
  const Json turn = Json::array({worlds::moving("product.tumbler.turn", "linear", {{0, 0}, {1, 360}})});
  const Project turned = worlds::read(moved(0.05, turn));
  EXPECT_FALSE(liquid_surface(turned, *turned.shots[0], 0, {}, *turned.products.back(), 0.5));
  const Project stopped = worlds::read(moved(0.05, sliding(0.1)));
  int forms = 0;
  for (const Mesh& mesh : stage(stopped, *stopped.shots[0], 1.05).meshes)
    if (mesh.role == Role::product && mesh.material.kind == MaterialKind::liquid) {
      forms = static_cast<int>(mesh.positions.size());
      EXPECT_NE(mesh.positions.front(), mesh.positions.back());
    }
  EXPECT_EQ(forms, 5);
}

}  // namespace
}  // namespace cinnabar
