// The shot's three clocks: exact inverses at any rate, monotone, and the frames that are shown.
#include "cinnabar/motion/clocks.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numeric>
#include <random>
#include <set>

#include "cinnabar/base/text.h"

namespace cinnabar {
namespace {

PlayClock random_clock(std::mt19937& random) {
  std::uniform_real_distribution<double> step(0.01, 0.8), log_speed(-3.0, 1.0);
  std::vector<SpeedPoint> points;
  double t = step(random) - 0.4;
  for (unsigned k = 0; k < 1 + random() % 6; ++k) {
    points.push_back({t, std::exp(log_speed(random))});
    t += step(random);
  }
  return PlayClock(points);
}

// Sources: SMPTE ST 12-1 for the rates over 1001; the fractions are worked by hand.
TEST(ExactSlowing, IsAFractionForAllUsualPairs) {
  const auto is = [](const char* capture, const char* timeline, long long shown, long long taken, bool conformed) {
    const Slowing s = exact_slowing(*parse_rate(capture), *parse_rate(timeline));
    EXPECT_EQ(s.shown, shown) << capture << " in " << timeline;
    EXPECT_EQ(s.taken, taken) << capture << " in " << timeline;
    EXPECT_EQ(s.conformed, conformed) << capture << " in " << timeline;
  };
  is("24", "24", 1, 1, false);
  is("50", "24", 25, 12, false);
  is("60", "25", 12, 5, false);
  is("120", "24", 5, 1, false);
  is("240", "24", 10, 1, false);
  is("300", "25", 12, 1, false);
  is("1000", "25", 40, 1, false);
  is("25", "50", 1, 2, false);
  is("60000/1001", "24000/1001", 5, 2, false);
  is("59.94", "23.976", 5, 2, false);
  is("60", "24000/1001", 5, 2, true);
  is("120000/1001", "24", 5, 1, true);
  is("60000/1001", "25", 12, 5, true);
  is("24", "24000/1001", 1, 1, true);
  is("18.5", "25", 37, 50, false);
  // All usual pairs, against the rates as they are: within a thousandth where conformed, else equal.
  const char* rates[] = {"24000/1001", "24",  "25",  "30000/1001", "30",          "48",  "50",
                         "60000/1001", "60",  "96",  "100",        "120000/1001", "120", "150",
                         "180",        "200", "240", "300",        "480",         "1000"};
  for (const char* capture : rates)
    for (const char* timeline : rates) {
      const double c = *parse_rate(capture), t = *parse_rate(timeline);
      const Slowing s = exact_slowing(c, t);
      const double plain = static_cast<double>(s.shown) / static_cast<double>(s.taken);
      EXPECT_NEAR(plain, c / t, c / t * (s.conformed ? 0.0010011 : 1e-12)) << capture << " in " << timeline;
      EXPECT_EQ(std::gcd(s.shown, s.taken), 1);
    }
}

class RandomClock : public testing::TestWithParam<unsigned> {};
// Own behaviour: inverses.
TEST_P(RandomClock, TurnsSetTimeIntoScreenTimeAndBackExactly) {
  std::mt19937 random(GetParam());
  const PlayClock clock = random_clock(random);
  double last_set = -1.0, last_screen = -1e300;
  for (int k = 0; k <= 400; ++k) {
    const double screen = k * 0.02, set = clock.set_at(screen);
    EXPECT_NEAR(clock.screen_at(set), screen, 1e-12 * (1 + screen));
    EXPECT_GT(set, last_set) << "the clock never stands still or runs back";
    last_set = set;
    const double t = k * 0.015, shown = clock.screen_at(t);
    EXPECT_NEAR(clock.set_at(shown), t, 1e-12 * (1 + t));
    EXPECT_GT(shown, last_screen);
    last_screen = shown;
  }
}

// Source: the definition, integral of dt / speed, summed here.
TEST_P(RandomClock, IsTheIntegralOfTimeOverItsSpeed) {
  std::mt19937 random(GetParam());
  const PlayClock clock = random_clock(random);
  // Simpson's rule over fine steps against the closed form of each linear piece.
  double sum = 0.0;
  constexpr int n = 4000;
  const double end = 2.0, h = end / n;
  for (int k = 0; k < n; ++k) {
    const double a = k * h;
    sum += h / 6 * (1 / clock.speed_at(a) + 4 / clock.speed_at(a + h / 2) + 1 / clock.speed_at(a + h));
  }
  EXPECT_NEAR(clock.screen_at(end) - clock.screen_at(0.0), sum, 2e-4 * sum);
}

// Own behaviour, against a search through the span.
TEST_P(RandomClock, TellsTheGreatestAndLeastSpeedOfASpan) {
  std::mt19937 random(GetParam());
  const PlayClock clock = random_clock(random);
  const auto [fastest, slowest] = clock.speed_span(0.1, 1.7);
  double most = 0.0, least = 1e9;
  for (int k = 0; k <= 20000; ++k) {
    const double speed = clock.speed_at(0.1 + 1.6 * k / 20000);
    most = std::max(most, speed), least = std::min(least, speed);
  }
  EXPECT_NEAR(fastest, most, 1e-3 * most);
  EXPECT_NEAR(slowest, least, 1e-3 * least);
  EXPECT_GE(fastest, most * (1 - 1e-12));
  EXPECT_LE(slowest, least * (1 + 1e-12));
}
INSTANTIATE_TEST_SUITE_P(Seeds, RandomClock, testing::Range(1u, 21u));

struct Rates {
  const char *capture, *timeline;
};
class FramesShown : public testing::TestWithParam<Rates> {};
// Own behaviour, counted by hand.
TEST(Frames, InRealTimeAtOneRateEachIsShownOnce) {
  const PlayClock real;
  for (const char* text : {"24", "25", "24000/1001", "30000/1001", "60"}) {
    const double rate = *parse_rate(text);
    for (long k = 0; k < 100000; ++k) ASSERT_EQ(kept_frame(real, k, rate, rate), k) << text;
  }
}

// Own behaviour, counted by hand.
TEST_P(FramesShown, AtTheRatesRatioEveryRecordedFrameIsShownOnce) {
  // Played at timeline / capture each timeline frame takes the next recorded one, at 24000/1001 as well.
  const double rate = *parse_rate(GetParam().capture), timeline = *parse_rate(GetParam().timeline);
  const PlayClock slow({{0.0, timeline / rate}});
  for (long k = 0; k < 20000; ++k) ASSERT_EQ(kept_frame(slow, k, rate, timeline), k) << k;
}

// Own behaviour, counted by hand.
TEST_P(FramesShown, NeverRunBackAndRepeatOnlyWhereTooFewAreRecorded) {
  const double rate = *parse_rate(GetParam().capture), timeline = *parse_rate(GetParam().timeline);
  const PlayClock ramp({{0.0, 1.0}, {0.5, 0.3}, {1.5, 1.0}});
  long last = -1;
  bool repeats = false;
  for (long k = 0; k < 100; ++k) {
    const long frame = kept_frame(ramp, k, rate, timeline);
    EXPECT_GE(frame, last);
    repeats = repeats || frame == last;
    last = frame;
  }
  EXPECT_EQ(repeats, rate * 0.3 < timeline * (1 - 1e-9)) << "frames recorded per frame shown at the slowest";
}
INSTANTIATE_TEST_SUITE_P(Rates, FramesShown,
                         testing::Values(Rates{"24", "24"}, Rates{"25", "25"}, Rates{"50", "25"},
                                         Rates{"120", "24"}, Rates{"24000/1001", "24000/1001"},
                                         Rates{"120000/1001", "24000/1001"}, Rates{"60000/1001", "30000/1001"},
                                         Rates{"240", "24000/1001"}, Rates{"1000", "25"}));

// Own behaviour.
TEST(Clock, HoldsItsEndSpeedsOutsideTheList) {
  const PlayClock clock({{1.0, 0.5}, {2.0, 0.25}});
  EXPECT_DOUBLE_EQ(clock.screen_at(0.5), 1.0);  // half speed before the first point
  EXPECT_DOUBLE_EQ(clock.speed_at(-3.0), 0.5);
  EXPECT_DOUBLE_EQ(clock.speed_at(9.0), 0.25);
  EXPECT_NEAR(clock.screen_at(3.0) - clock.screen_at(2.0), 4.0, 1e-12);
}

// Own behaviour.
TEST(Clock, OfAnEmptyListIsRealTime) {
  const PlayClock clock;
  for (const double t : {0.0, 0.25, 17.0}) {
    EXPECT_DOUBLE_EQ(clock.screen_at(t), t);
    EXPECT_DOUBLE_EQ(clock.set_at(t), t);
    EXPECT_DOUBLE_EQ(clock.speed_at(t), 1.0);
  }
}

// Own behaviour.
TEST(Clock, PassesOverPointsThatNoDocumentHas) {
  const PlayClock clock({{0.0, 0.5}, {1.0, -2.0}, {2.0, 0.5}, {1.5, 3.0}});
  EXPECT_DOUBLE_EQ(clock.screen_at(2.0), 4.0);  // half speed throughout
}

class MovedRung : public testing::TestWithParam<unsigned> {};
// Own behaviour.
TEST_P(MovedRung, StandsWhereItWasAskedAndLeavesWhatIsBeforeInOrder) {
  std::mt19937 random(GetParam());
  const PlayClock clock = random_clock(random);
  for (const double screen : {0.3, 1.0, 2.4})
    for (const double factor : {0.5, 0.9, 1.3}) {
      const double set = clock.set_at(screen) * factor;
      const auto moved = with_rung(clock, screen, set);
      if (!moved) continue;
      EXPECT_NEAR(moved->set_at(screen), set, 1e-9 * (1 + set));
      EXPECT_NEAR(moved->screen_at(set), screen, 1e-9 * (1 + screen));
      // Before it every rung goes along in proportion.
      for (const double part : {0.2, 0.5, 0.8})
        EXPECT_NEAR(moved->set_at(screen * part), clock.set_at(screen * part) * factor, 1e-9 * (1 + set));
      // And back again.
      const auto back = with_rung(*moved, screen, clock.set_at(screen));
      ASSERT_TRUE(back);
      EXPECT_NEAR(back->set_at(screen), clock.set_at(screen), 1e-9 * (1 + set));
    }
}
INSTANTIATE_TEST_SUITE_P(Seeds, MovedRung, testing::Range(1u, 13u));

// Own behaviour.
TEST(MovedRung, MakesARampThatEndsAtTheSpeedItHad) {
  const PlayClock slow({{0.0, 0.2}});
  const auto ramp = with_rung(slow, 1.0, 0.6);  // 0.2 s on set became 0.6 s
  ASSERT_TRUE(ramp);
  EXPECT_NEAR(ramp->speed_at(0.3), 0.6, 1e-12);
  EXPECT_NEAR(ramp->speed_at(2.0), 0.2, 1e-12);
}

// Own behaviour.
TEST(MovedRung, IsRefusedWhereNoClockCouldBe) {
  const PlayClock real;
  EXPECT_FALSE(with_rung(real, 0.0, 1.0));
  EXPECT_FALSE(with_rung(real, 1.0, 0.0));
  EXPECT_FALSE(with_rung(real, 1.0, -1.0));
  EXPECT_FALSE(with_rung(real, 1.0, 1e6));
  EXPECT_FALSE(with_rung(real, 1.0, std::nan("")));
}

// Own behaviour, by hand: recorded t shows at S - s(t), and back; the last frame of 40 first.
TEST(PlayClock, BackwardShowsTheLastFirst) {
  for (const PlayClock& clock :
       {PlayClock(), PlayClock({{0.0, 0.25}}), PlayClock({{0.0, 1.0}, {0.5, 0.4}, {1.2, 2.0}})}) {
    const double whole = 1.6;
    const PlayClock back = clock.backward(whole);
    EXPECT_TRUE(back.is_backward());
    for (double screen = 0.0; screen <= whole; screen += 0.1) {
      EXPECT_NEAR(back.set_at(screen), clock.set_at(whole - screen), 1e-12);
      EXPECT_NEAR(back.screen_at(back.set_at(screen)), screen, 1e-9);
    }
    // A rung keeps its screen time, and the shot its length.
    const auto moved = with_rung(back, 0.4, 0.9 * back.set_at(0.4));
    ASSERT_TRUE(moved);
    EXPECT_TRUE(moved->is_backward());
    EXPECT_NEAR(moved->set_at(0.4), 0.9 * back.set_at(0.4), 1e-9);
    EXPECT_NEAR(moved->screen_at(0.0), whole, 1e-12);
  }
  const PlayClock real = PlayClock().backward(1.6);
  for (long k = 0; k < 40; ++k) EXPECT_EQ(kept_frame(real, k, 25.0, 25.0), 39 - k);
  EXPECT_FALSE(with_rung(real, 1.6, 1.0)) << "the beginning of what is recorded stays";
}

}  // namespace
}  // namespace cinnabar
