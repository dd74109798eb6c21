// Falls, swings and fluids against the equations of motion, stepped here: no outside source but Newton's second
// law and, of the numbers, Timmerman & van der Weele 1999 (drag squared), Ibrahim 2005, Cheng 2008. Torricelli's
// outflow and the pendulum: common practice, no source.
#include "cinnabar/effects/falls.h"

#include <gtest/gtest.h>

#include <cmath>

#include "cinnabar/base/vec.h"
#include "cinnabar/effects/fluids.h"

namespace cinnabar {
namespace {

// Source: Newton's second law, stepped here; drag squared as Timmerman & van der Weele 1999.
TEST(Fall, WithDragFollowsTheEquationOfMotion) {
  for (const double terminal : {1.0, 3.0, 12.0}) {
    for (const double height : {0.1, 0.8, 3.0}) {
      double x = 0, v = 0, t = 0;
      const double dt = 1e-5;
      while (x < height) {  // midpoint steps of dv/dt = g (1 - v2/vt2)
        const double half = v + 0.5 * dt * standard_gravity * (1 - v * v / terminal / terminal);
        v += dt * standard_gravity * (1 - half * half / terminal / terminal);
        x += dt * half;
        t += dt;
      }
      const auto closed = fall({height, terminal});
      EXPECT_NEAR(closed->time, t, 5e-5) << height << " " << terminal;
      EXPECT_NEAR(closed->speed, v, 5e-4);
      EXPECT_LE(closed->speed, terminal);
    }
  }
}

// Source: free fall, h = g t^2 / 2 (Halliday & Resnick).
TEST(Fall, WithoutDragIsTheLimitOfFastTerminalSpeed) {
  EXPECT_NEAR(fall({1, 1e5})->time, fall({1, 0})->time, 1e-8);
}

// Common practice, no source
TEST(Layers, LandOneStaggerApart) {
  const LayerReleaseInputs in{{0.25, 0.4, 0.55, 0.3}, 0.08};
  const auto release = layer_release(in);
  double first = 1e9;
  for (const double t : release->offsets) first = std::min(first, t);
  EXPECT_EQ(first, 0);
  for (std::size_t i = 1; i < in.heights.size(); ++i) {
    const double landed = release->offsets[i] + fall({in.heights[i], 0})->time;
    const double below = release->offsets[i - 1] + fall({in.heights[i - 1], 0})->time;
    EXPECT_NEAR(landed - below, in.stagger, 1e-12);
  }
}

// Source: the pendulum's equation of motion, stepped here.
TEST(Swing, FollowsThePendulum) {
  for (const double start : {5.0, 40.0, 90.0, 150.0}) {
    double a = radians(start), w = 0, t = 0;
    const double dt = 2e-5, k = standard_gravity / 0.7;
    while (a > 0) {  // leapfrog
      w -= 0.5 * dt * k * std::sin(a);
      a += dt * w;
      w -= 0.5 * dt * k * std::sin(a);
      t += dt;
    }
    const auto closed = swing({0.7, start});
    EXPECT_NEAR(closed->time_to_bottom, t, 1e-4) << start;
    EXPECT_NEAR(closed->speed_at_bottom, std::abs(w) * 0.7, 2e-3);
    EXPECT_NEAR(closed->period, 4 * closed->time_to_bottom, 1e-12);
  }
}

// Source: continuity of volume (Halliday & Resnick).
TEST(Jet, CarriesTheSameFlowAllTheWay) {
  for (const double drop : {0.0, 0.05, 0.5}) {
    const auto j = jet({0.008, 0.6, drop});
    EXPECT_NEAR(pi * j->diameter * j->diameter / 4 * j->speed_at, j->flow_m3s, 1e-12);
  }
}

// Source: Torricelli's outflow, stepped here.
TEST(Drain, FollowsTorricelli) {
  double h = 0.2, t = 0;
  const double dt = 1e-3;
  while (h > 1e-7) {
    h -= dt * 0.61 * 5e-5 / 0.005 * std::sqrt(2 * standard_gravity * h);
    t += dt;
    if (h < 0) break;
  }
  EXPECT_NEAR(drain({0.2, 0.005, 5e-5, 0.61})->time, t, 0.05);
}

// Source: Cheng 2008, Ind. Eng. Chem. Res. 47.
TEST(Mixtures, LieBetweenWaterAndGlycerin) {
  double viscosity = 0, density = 0;
  for (double c = 0; c <= 1.0; c += 0.05) {
    const auto mix = spray_mix({c, 20});
    EXPECT_GT(mix->viscosity, viscosity);
    EXPECT_GT(mix->density, density);
    viscosity = mix->viscosity, density = mix->density;
  }
  for (double t = 0; t < 100; t += 10)
    EXPECT_GT(spray_mix({0.5, t})->viscosity, spray_mix({0.5, t + 10})->viscosity);
}

}  // namespace
}  // namespace cinnabar
