// Moves: profiles against their own derivatives, ramps against brute sums, tracks at their keys.
#include "cinnabar/motion/moves.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "cinnabar/motion/clocks.h"

namespace cinnabar {
namespace {

struct ShapeRow {
  const char* name;
  double speed, acceleration;  // peaks for travel 1 in time 1
};
class ShapeTest : public testing::TestWithParam<ShapeRow> {};

// Source: derivatives of each profile, by differences here.
TEST_P(ShapeTest, HasThePeaksOfItsCalculation) {
  const Shape shape = *shape_named(GetParam().name);
  const int n = 20000;
  double speed = 0, acceleration = 0;
  for (int i = 1; i < n; ++i) {
    const double u = static_cast<double>(i) / n, h = 1e-4;
    if (u - h < 0 || u + h > 1) continue;
    speed = std::max(speed, std::abs(eased(shape, u + h) - eased(shape, u - h)) / (2 * h));
    acceleration = std::max(acceleration,
                            std::abs(eased(shape, u + h) - 2 * eased(shape, u) + eased(shape, u - h)) / (h * h));
  }
  EXPECT_NEAR(speed, GetParam().speed, 1e-3);
  EXPECT_NEAR(acceleration, GetParam().acceleration, 2e-2);
  const auto p = profile({1, 1, GetParam().name});
  EXPECT_NEAR(p->peak_speed, GetParam().speed, 1e-12);
  EXPECT_NEAR(*p->peak_acceleration, GetParam().acceleration, 1e-9);
}

// Own behaviour: monotone profiles.
TEST_P(ShapeTest, GoesFromEndToEndWithoutTurningBack) {
  const Shape shape = *shape_named(GetParam().name);
  double last = 0;
  for (int i = 0; i <= 1000; ++i) {
    const double v = eased(shape, i / 1000.0);
    EXPECT_GE(v, last - 1e-12);
    last = v;
  }
  EXPECT_DOUBLE_EQ(eased(shape, 0), 0);
  EXPECT_NEAR(eased(shape, 1), 1, 1e-12);
  EXPECT_NEAR(eased(shape, 0.5), 0.5, 1e-12);
  EXPECT_DOUBLE_EQ(eased(shape, -3), 0);
  EXPECT_NEAR(eased(shape, 7), 1, 1e-12);
}

INSTANTIATE_TEST_SUITE_P(Profiles, ShapeTest,
                         testing::Values(ShapeRow{"trapezoid-1-3", 1.5, 4.5},
                                         ShapeRow{"minimum-jerk", 1.875, 10 / std::sqrt(3.0)}));

// Source: Flash & Hogan 1985, J. Neurosci. 5.
TEST(MinimumJerk, PassesAQuarterAsPublished) {  // Flash & Hogan 1985: u 0.25 -> 0.103516
  EXPECT_NEAR(eased(Shape::minimum_jerk, 0.25), 0.103516, 1e-6);
}

// Own behaviour.
TEST(Tracks, MeetTheirKeysAndHoldOutsideThem) {
  const KeyedTrack track{"turntable", Shape::minimum_jerk, {{1, 10}, {2, 50}, {4, -20}}};
  EXPECT_DOUBLE_EQ(track.at(0), 10);
  EXPECT_DOUBLE_EQ(track.at(1), 10);
  EXPECT_DOUBLE_EQ(track.at(2), 50);
  EXPECT_NEAR(track.at(1.5), 30, 1e-12);
  EXPECT_NEAR(track.at(3), 15, 1e-12);
  EXPECT_DOUBLE_EQ(track.at(9), -20);
  EXPECT_DOUBLE_EQ((KeyedTrack{}.at(3, 7)), 7);
}

// Source: the definition, integral of dt / speed, summed here.
TEST(Ramp, IsTheIntegralOfTimeOverSpeed) {
  std::mt19937 random(8);
  std::uniform_real_distribution<double> speed(0.05, 2), gap(0.1, 1);
  for (int i = 0; i < 60; ++i) {
    std::vector<SpeedPoint> points{{0, speed(random)}};
    for (int k = 0; k < 4; ++k) points.push_back({points.back().set_time + gap(random), speed(random)});
    const auto closed = ramp({points, 240, 24});
    const PlayClock clock(points);
    double sum = 0;
    const int n = 40000;
    const double end = points.back().set_time;
    for (int k = 0; k < n; ++k) sum += end / n / clock.speed_at(end * (k + 0.5) / n);
    EXPECT_NEAR(closed->screen_time, sum, 1e-5 * sum);
    EXPECT_NEAR(clock.screen_at(end), closed->screen_time, 1e-9);
    for (int k = 0; k <= 50; ++k) {
      const double screen = closed->screen_time * 1.3 * k / 50;
      EXPECT_NEAR(clock.screen_at(clock.set_at(screen)), screen, 1e-9 * (1 + screen));
    }
  }
}

// Own behaviour.
TEST(Clock, StartsAtZeroWhereverTheFirstPointIs) {
  for (const double first : {-0.7, 0.0, 0.4}) {
    const PlayClock clock({{first, 0.5}, {first + 1, 0.25}});
    EXPECT_NEAR(clock.screen_at(0), 0, 1e-12) << first;
    EXPECT_NEAR(clock.set_at(0), 0, 1e-12) << first;
  }
}

// Own behaviour, counted by hand.
TEST(Frames, AreAllDifferentWhereEnoughAreRecorded) {
  const PlayClock clock({{0, 0.2}});
  for (long k = 0; k + 1 < 240; ++k)
    EXPECT_EQ(kept_frame(clock, k + 1, 120, 24), kept_frame(clock, k, 120, 24) + 1);
  int repeated = 0;
  for (long k = 0; k + 1 < 240; ++k)
    repeated += kept_frame(clock, k + 1, 60, 24) == kept_frame(clock, k, 60, 24) ? 1 : 0;
  EXPECT_NEAR(repeated, 120, 1);  // half of them are invented at half the rate
}

// Source: Biagiotti & Melchiorri 2008, section 3.4, the double-S of seven equal phases, worked by hand: jerk
// 343/8, so that a seventh of the time covers 1/48 of the way, two 7/48, three 3/8.
TEST(SevenPhases, CoverTheirWaysByHand) {
  for (const auto& [phases, way] :
       {std::pair{1, 1 / 48.0}, {2, 7 / 48.0}, {3, 3 / 8.0}, {4, 5 / 8.0}, {5, 41 / 48.0}})
    EXPECT_NEAR(eased(Shape::s_curve, phases / 7.0), way, 1e-12) << phases;
  EXPECT_EQ(shape_peaks(Shape::s_curve).speed, 1.75);
  EXPECT_EQ(*shape_peaks(Shape::s_curve).acceleration, 6.125);
}

// Source: Biagiotti & Melchiorri 2008, section 3.2: D / (T (1 - r)) and D / (T^2 r (1 - r)); by differences here.
TEST(Trapezoids, HaveThePeaksOfTheirRamp) {
  for (const double ramp : {0.5, 0.25, 0.1}) {
    const double h = 1e-5;
    EXPECT_NEAR((eased(Shape::trapezoid, 0.5 + h, ramp) - eased(Shape::trapezoid, 0.5 - h, ramp)) / (2 * h),
                1 / (1 - ramp), 1e-4);
    EXPECT_NEAR(eased(Shape::trapezoid, ramp, ramp), ramp / (2 * (1 - ramp)), 1e-12) << "half the cruise's way";
    EXPECT_NEAR(shape_peaks(Shape::trapezoid, ramp).speed, 1 / (1 - ramp), 1e-12);
    EXPECT_NEAR(*shape_peaks(Shape::trapezoid, ramp).acceleration, 1 / (ramp * (1 - ramp)), 1e-12);
  }
}

// Own behaviour, worked by hand.
TEST(TracksOfPlaces, GoStraightFromKeyToKeyAndCountTheirWay) {
  KeyedTrack track{"camera.place", Shape::linear, {}};
  track.set_places({{0, {0, 0, 1}}, {1, {0.3, 0, 1.4}}, {3, {0.3, 0.2, 1.4}}});
  EXPECT_NEAR(track.keys[1].second, 0.5, 1e-12) << "3-4-5";
  EXPECT_NEAR(track.keys[2].second, 0.7, 1e-12);
  EXPECT_LT(length(track.place_at(0.5) - Vec3{0.15, 0, 1.2}), 1e-12);
  EXPECT_LT(length(track.place_at(2) - Vec3{0.3, 0.1, 1.4}), 1e-12);
  EXPECT_LT(length(track.place_at(-5) - Vec3{0, 0, 1}) + length(track.place_at(9) - Vec3{0.3, 0.2, 1.4}), 1e-12);
  EXPECT_NEAR(track.at(2), 0.6, 1e-12) << "how far it has come";
  track.put_place(2.0, {0.4, 0.1, 1.4}, 0.02);
  ASSERT_EQ(track.places.size(), 4u);
  track.put_place(2.01, {0.5, 0.1, 1.4}, 0.02);
  ASSERT_EQ(track.places.size(), 4u) << "the nearest key is moved";
  EXPECT_LT(length(track.places[2] - Vec3{0.5, 0.1, 1.4}), 1e-12);
  EXPECT_EQ(track.keys[2].first, 2.0);
  const KeyedTrack two = track.resampled({0.5, 2.0});
  ASSERT_EQ(two.places.size(), 2u);
  EXPECT_LT(length(two.place_at(0.5) - track.place_at(0.5)), 1e-12);
  EXPECT_EQ(KeyedTrack{}.place_at(1, {7, 8, 9}), (Vec3{7, 8, 9}));
}

}  // namespace
}  // namespace cinnabar
