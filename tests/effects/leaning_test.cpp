// Vessels that lean and are pushed about: what they hold, and the wave in them.
#include "cinnabar/effects/leaning.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "cinnabar/effects/pours.h"

namespace cinnabar {
namespace {

const InnerSide straight_glass{{0.035, 0.0}, {0.035, 0.12}};
const InnerSide flared_glass{{0.02, 0.0}, {0.03, 0.06}, {0.05, 0.12}};

// Source: closed form of the cylinder's ungula (as `tilt_hold` has it, which agrees with its printed values).
TEST(Leaning, ACylinderHoldsTheUngula) {
  for (const double lean : {0.0, 5.0, 30.0, 45.0, 60.0, 75.0, 88.0}) {
    const auto held = tilt_hold({0.035, 0.12, 0.12, lean});
    ASSERT_TRUE(held);
    EXPECT_NEAR(most_held(straight_glass, lean), held->held_volume, 2e-5 * held->held_volume + 1e-12) << lean;
  }
  EXPECT_EQ(most_held(straight_glass, 90.0), 0.0);
}

// Source: the frustum's volume, pi h (a2 + ab + b2) / 3; how much lies under a height is undone by how high it
// stands.
TEST(Leaning, HeightAndVolumeUndoOneAnother) {
  const double lower = pi * 0.06 * (0.0004 + 0.0006 + 0.0009) / 3;
  EXPECT_NEAR(volume_under(flared_glass, 0.0, 0.06), lower, 1e-6 * lower);
  EXPECT_NEAR(height_leaning(flared_glass, 0.0, lower), 0.06, 1e-8);
  for (const double lean : {0.0, 20.0, 50.0, 80.0})
    for (const double volume : {1e-6, 5e-5, 1e-4}) {
      const double height = height_leaning(flared_glass, lean, volume);
      EXPECT_NEAR(volume_under(flared_glass, lean, height), volume, 1e-4 * volume) << lean << " " << volume;
    }
}

// Source: counting points thrown evenly into the glass, an integral of the test's own (within its scatter of 0.3
// %).
TEST(Leaning, AFlaredGlassHoldsWhatPointsSay) {
  std::mt19937_64 random(7);
  std::uniform_real_distribution<double> across(-0.05, 0.05), up(0.0, 0.12);
  const double lean = 35.0, height = 0.05, c = std::cos(radians(lean)), s = std::sin(radians(lean));
  int within = 0;
  constexpr int thrown = 400000;
  for (int i = 0; i < thrown; ++i) {
    const double x = across(random), z = across(random), y = up(random);
    const double wall = y < 0.06 ? 0.02 + 0.01 * y / 0.06 : 0.03 + 0.02 * (y - 0.06) / 0.06;
    within += std::hypot(x, z) < wall && y * c - x * s < height;
  }
  const double counted = 0.1 * 0.1 * 0.12 * within / thrown;
  EXPECT_NEAR(volume_under(flared_glass, lean, height), counted, 0.012 * counted);
}

// Source: Ibrahim 2005 by `slosh_stop`, whose printed values are tested there: height, pace and calming of the
// first mode after a stop.
TEST(Sloshing, SwingsAsAStopSays) {
  const auto told = slosh_stop({0.035, 0.08, 0.3, 0.0, 1e-6});
  ASSERT_TRUE(told);
  Sloshing slosh(0.035, 0.08, 1e-6);
  EXPECT_NEAR(slosh.period(), 1.0 / told->frequency_hz, 1e-9);
  slosh.pushed({-0.3, 0, 0});
  double highest = 0.0;
  for (int i = 0; i < 400; ++i) {
    slosh.goes_on(slosh.period() / 400);
    highest = std::max(highest, slosh.wave().x);
    EXPECT_EQ(slosh.wave().z, 0.0);
  }
  EXPECT_NEAR(highest, told->amplitude, 0.01 * told->amplitude) << "it goes on the way that the vessel went";
  slosh.goes_on(told->decay_time - slosh.period());
  double later = 0.0;
  for (int i = 0; i < 400; ++i) slosh.goes_on(slosh.period() / 400), later = std::max(later, slosh.wave().x);
  EXPECT_NEAR(later, 0.1 * told->amplitude, 0.03 * told->amplitude);  // the inside calms it too, a little
}

// Source: Ibrahim 2005: an even push over one whole period leaves no wave, over half of it the most.
TEST(Sloshing, APushOfOnePeriodLeavesNothing) {
  const auto left = [](double periods) {
    Sloshing slosh(0.04, 0.08, 1e-6);
    constexpr int steps = 2000;
    const double time = periods * slosh.period(), step = time / steps;
    for (int i = 0; i < steps; ++i) slosh.pushed(Vec3{0.5, 0, 0} * step), slosh.goes_on(step);
    double most = 0.0;
    for (int i = 0; i < 100; ++i) slosh.goes_on(slosh.period() / 100), most = std::max(most, length(slosh.wave()));
    return most;
  };
  const auto told = start_slosh({0.04, 0.08, 0.5, 0.5 * Sloshing(0.04, 0.08, 1e-6).period()});
  ASSERT_TRUE(told);
  EXPECT_NEAR(left(0.5), told->wave, 0.02 * told->wave);
  EXPECT_LT(left(1.0), 0.02 * told->wave);
}

// Source: an oscillator damped beyond its own rate does not swing; honey at 5 to 15 Pa s (value from memory).
TEST(Sloshing, HoneySinksBackWithoutSwinging) {
  Sloshing slosh(0.03, 0.06, 0.007);
  slosh.pushed({0, 0, 0.2});
  double before = 0.0;
  bool sinks = false;
  for (int i = 0; i < 2000; ++i) {
    slosh.goes_on(0.002);
    EXPECT_LE(slosh.wave().z, 0.0);
    sinks = sinks || slosh.wave().z > before;
    if (sinks) {
      EXPECT_GE(slosh.wave().z, before) << "never on the other side";
    }
    before = slosh.wave().z;
  }
  EXPECT_NEAR(before, 0.0, 1e-6);
  Sloshing stiff(0.03, 0.06, 1e6);
  stiff.pushed({1, 0, 0});
  stiff.goes_on(3.0);
  EXPECT_TRUE(std::isfinite(stiff.wave().x));
}

}  // namespace
}  // namespace cinnabar
