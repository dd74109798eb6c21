// Calculations against sums, steps and searches done here, where a check value alone would be thin.
#include <gtest/gtest.h>

#include <cmath>
#include <random>
#include <set>

#include "cinnabar/base/vec.h"
#include "cinnabar/color/palette.h"
#include "cinnabar/effects/air.h"
#include "cinnabar/effects/falls.h"
#include "cinnabar/effects/flights.h"
#include "cinnabar/effects/pours.h"
#include "cinnabar/effects/splashes.h"
#include "cinnabar/motion/machines.h"
#include "cinnabar/photometry/daylight.h"
#include "cinnabar/photometry/mirrors.h"
#include "cinnabar/photometry/modifiers.h"
#include "cinnabar/photometry/ripple.h"
#include "cinnabar/photometry/settings.h"
#include "cinnabar/photometry/sources.h"

namespace cinnabar {
namespace {

// Source: closed form of a disc under an even lamp, 0.4 rho I / a^2 (1 - (1 + R^2 / a^2)^-2.5); a square of the
// same area is nearly one, and an endless card is one.
TEST(Bounce, OfAnEndlessCardIsTheClosedForm) {
  EXPECT_NEAR(bounce({1000, 0.4, 400, 400, 0.8, 0.4, 0})->illuminance_lx, 0.4 * 0.8 * 1000 / 0.16, 0.02);
}

// Source: the definition, a brute sum.
TEST(Bounce, OfAnyCardIsItsSum) {
  const BounceInputs in{700, 0.3, 1.4, 0.5, 0.6, 0.9, 0.5};
  double sum = 0;
  constexpr int n = 700;
  for (int i = 0; i < n; ++i)
    for (int j = 0; j < n; ++j) {
      const double x = in.width * ((i + 0.5) / n - 0.5), y = in.height * ((j + 0.5) / n - 0.5);
      const double r2 = x * x + y * y, s2 = (x - in.offset) * (x - in.offset) + y * y;
      const double lux = in.candela * in.throw_m / std::pow(in.throw_m * in.throw_m + r2, 1.5);
      sum += in.reflectance * lux / pi * std::pow(in.distance / (in.distance * in.distance + s2), 2);
    }
  EXPECT_NEAR(bounce(in)->illuminance_lx, sum * in.width * in.height / (n * n), 1e-4 * 700 / 0.09);
}

// Own behaviour: the sum by frequencies and the one bead by bead meet where one takes over from the other.
TEST(Beads, AreTheSameCountedEitherWay) {
  for (const double gap : {0.02, 0.05, 0.1}) {
    const double below = bead_ripple({0.02, gap, 119.999})->stops,
                 above = bead_ripple({0.02, gap, 120.001})->stops;
    EXPECT_NEAR(below, above, 1e-3 * above) << gap;
  }
}

// Source: conservation of energy: what leaves a sheet is no more than what it lets through.
TEST(DiffusionSheet, NeverGains) {
  for (const double forward : {0.0, 0.5, 1.0})
    for (const double lobe : {1.0, 8.0, 200.0}) {
      // In the middle the lobe's axis is the normal: its flux and that of the Lambertian rest, over the
      // hemisphere.
      double flux = 0;
      for (int i = 0; i < 20000; ++i) {
        const double c = (i + 0.5) / 20000;
        flux += ((1 - forward) / pi * c + forward * (lobe + 1) / (2 * pi) * std::pow(c, lobe)) * 2 * pi / 20000;
      }
      EXPECT_NEAR(flux, 1.0, 1e-3);
      const auto seen = diffusion_sheet({100, 0, 1, 1e-9, 0.5, forward, lobe});
      EXPECT_NEAR(seen->luminance_centre, 50 * ((1 - forward) / pi + forward * (lobe + 1) / (2 * pi)), 1e-9);
    }
}

// Source: the law of reflection, in space.
TEST(RoundMirror, MeetsTheLawOfReflection) {
  std::mt19937 random(5);
  std::uniform_real_distribution<double> unit_share(0, 1);
  int seen = 0;
  for (int i = 0; i < 300; ++i) {
    const double r = 0.02 + 0.1 * unit_share(random), phi = 358 * unit_share(random) - 179;
    const RoundMirrorInputs in{r * (1.1 + 20 * unit_share(random)), unit_share(random) - 0.5, phi,
                               r * (1.1 + 20 * unit_share(random)), unit_share(random) - 0.5, r};
    const auto at = round_mirror(in);
    ASSERT_TRUE(at);
    if (!at->bearing_deg) continue;
    ++seen;
    const auto on = [](double bearing_deg, double distance, double height) {
      return Vec3{distance * std::sin(radians(bearing_deg)), height, distance * std::cos(radians(bearing_deg))};
    };
    const Vec3 place = on(*at->bearing_deg, r, *at->height), normal = on(*at->bearing_deg, 1, 0);
    const Vec3 out = unit(on(0, in.camera_distance, in.camera_height) - place);
    const Vec3 from = unit(on(phi, in.source_distance, in.source_height) - place);
    EXPECT_LT(length(out + from - normal * (2 * dot(out, normal))), 1e-9);
    EXPECT_NEAR(dot(out, normal), std::cos(radians(*at->incidence_deg)), 1e-9);
    EXPECT_LE(std::abs(*at->fraction), 1.0 + 1e-9);
  }
  EXPECT_GT(seen, 150);
}

// Own behaviour: the drift's ends are the window's light then.
TEST(WindowDrift, IsTheWindowsLightThenAndNow) {
  const auto drift = window_drift({51.2, 4.4, "2026-12-31T23:00", 60, 180, "clear"});
  EXPECT_FALSE(drift->stops) << "night";
  const auto over = window_drift({-33.9, 151.2, "2026-12-31T23:30", 60, 0, "overcast"});  // into the new year
  ASSERT_TRUE(over->stops);
  const auto lit = [](const char* utc, double day) {
    const auto at = sun({-33.9, 151.2, utc});
    return window({at->altitude_deg, at->azimuth_deg, day, "overcast", 0.2})->total_lx;
  };
  // A Julian day is known to 40 microseconds.
  EXPECT_NEAR(*over->stops, std::log2(lit("2027-01-01T00:30", 1) / lit("2026-12-31T23:30", 365)), 1e-7);
}

// Source: the definition, the mean over the exposure, summed here from every moment.
TEST(Ripple, IsWhatExposuresGather) {
  const PwmFlickerInputs in{480, 0.35, 1 / 200.0};
  double most = 0, least = 1e9;
  for (int start = 0; start < 400; ++start) {
    double sum = 0;
    for (int i = 0; i < 4000; ++i)
      sum += std::fmod(start / 400.0 + in.frequency * in.time * (i + 0.5) / 4000, 1.0) < in.duty ? 1 : 0;
    most = std::max(most, sum / 4000 / in.duty), least = std::min(least, sum / 4000 / in.duty);
  }
  const auto told = pwm_flicker(in);
  EXPECT_NEAR(told->peak_to_peak, most - least, 0.01);
  EXPECT_NEAR(told->residual, std::max(most - 1, 1 - least), 0.01);
}

// Source: the definition, jerk integrated three times here; the limits are kept and one of them is always met.
TEST(SCurve, ArrivesWithinItsLimits) {
  std::mt19937 random(9);
  std::uniform_real_distribution<double> power(-2, 2);
  for (int i = 0; i < 200; ++i) {
    const SCurveInputs in{std::pow(10, power(random)), std::pow(10, power(random)), std::pow(10, power(random)),
                          std::pow(10, power(random))};
    const auto c = s_curve(in);
    ASSERT_TRUE(c);
    // A ramp from rest covers half of its time at the peak speed, by symmetry.
    EXPECT_NEAR(c->peak_speed * (c->ramp_time + c->cruise_time), in.travel, 1e-9 * in.travel);
    EXPECT_LE(c->peak_speed, in.speed * (1 + 1e-9));
    EXPECT_LE(c->peak_acceleration, in.acceleration * (1 + 1e-9));
    EXPECT_NEAR(c->peak_acceleration, in.jerk * c->jerk_time, 1e-9 * c->peak_acceleration);
    EXPECT_GE(c->ramp_time, 2 * c->jerk_time * (1 - 1e-9));
    EXPECT_TRUE(c->cruise_time > 0 || c->peak_acceleration > in.acceleration * (1 - 1e-9) ||
                c->ramp_time < 2 * c->jerk_time * (1 + 1e-9));
  }
}

// Own behaviour: against trying them all.
TEST(FoundExposure, CountsTheFrontierAsExhaustionDoes) {
  const FoundExposureInputs in{
      3000, {2.8, 4, 5.6, 8, 11}, {0.02, 0.01, 0.005, 0.002}, {100, 200, 400, 800, 1600}, {0, 1, 2}, 4, 0.2, 0.3,
      0,    "add-light"};
  std::vector<std::array<double, 3>> fits;
  for (const double n : in.f_numbers)
    for (const double t : in.times)
      for (const double s : in.isos)
        for (const double nd : in.nds) {
          const double x = std::log2(250 * n * n / (in.illuminance_lx * t * s)) + in.loss_stops + nd;
          if (x <= in.slack_stops + 1e-9 && x >= -in.dim_stops - in.slack_stops - 1e-9) fits.push_back({s, n, t});
        }
  std::set<std::array<double, 3>> front;
  for (const auto& a : fits) {
    bool beaten = false;
    for (const auto& b : fits) beaten = beaten || (b != a && b[0] <= a[0] && b[1] >= a[1] && b[2] <= a[2]);
    if (!beaten) front.insert(a);
  }
  const auto found = find_exposure(in);
  EXPECT_EQ(found->answers, static_cast<double>(fits.size()));
  EXPECT_EQ(found->frontier, static_cast<double>(front.size()));
  const auto dark = find_exposure({10, {2.8}, {0.01}, {100}, {0}, 0, 0.17, 0, 0, "add-light"});
  EXPECT_FALSE(dark->f_number);
  EXPECT_NEAR(dark->missing_stops, std::log2(250 * 2.8 * 2.8 / (10 * 0.01 * 100)) - 0.17, 1e-9);
}

// Own behaviour: what is filled in is what the walls hold, whatever the form.
TEST(Fill, ConservesWhatIsPoured) {
  const FillInputs in{{{0.0, -0.01}, {0.03, 0.0}, {0.02, 0.05}, {0.04, 0.1}}, 0.01, 3e-5, 1e-5};
  const auto once = fill(in);
  FillInputs rest = in;
  rest.level = once->level_after;
  const auto left = fill(rest);
  EXPECT_NEAR(once->room - left->room, in.volume, 1e-12);
  EXPECT_NEAR(fill({in.profile, 0.01, once->room, 1e-5})->level_after, 0.1, 1e-9);
  EXPECT_EQ(fill({in.profile, 0.1, 1e-5, 1e-5})->overflow, 1e-5) << "full already";
}

// Source: the definition, the liquid under a tilted plane through the lip, counted here.
TEST(TiltHold, IsTheLiquidUnderTheLip) {
  const double r = 0.035, h = 0.12;
  for (const double angle : {20.0, 55.0, 75.0}) {
    double sum = 0;
    constexpr int n = 400;
    for (int i = 0; i < n; ++i)
      for (int j = 0; j < n; ++j) {
        const double x = r * (2 * (i + 0.5) / n - 1), y = r * (2 * (j + 0.5) / n - 1);
        if (x * x + y * y < r * r)
          sum += std::clamp(h - (r - x) * std::tan(radians(angle)), 0.0, h) * 4 * r * r / (n * n);
      }
    EXPECT_NEAR(tilt_hold({r, h, 0.1, angle})->held_volume, sum, 3e-3 * sum) << angle;
  }
  EXPECT_FALSE(tilt_hold({r, h, 0, 30})->spill_angle_deg);
  EXPECT_EQ(*tilt_hold({r, h, h, 30})->spill_angle_deg, 0.0);
}

// Source: the thread's equation u u' = g + 3 nu (u u'/u)' put in: by differences of its own answers.
TEST(ViscousThread, MeetsItsEquation) {
  for (const double nu : {0.007, 0.0002, 3e-6}) {
    const auto u = [nu](double z) { return viscous_thread({0.008, 0.1, nu, z})->speed_at; };
    for (const double z : {0.05, 0.2, 0.5}) {
      const double h = 1e-3 * z, slope = (u(z + h) - u(z - h)) / (2 * h);
      const auto rate = [&](double at) { return (std::log(u(at + h)) - std::log(u(at - h))) / (2 * h); };
      const double stretch = (rate(z + h) - rate(z - h)) / (2 * h);
      EXPECT_NEAR(slope, standard_gravity / u(z) + 3 * nu * stretch, 2e-3 * slope) << nu << " " << z;
    }
  }
}

// Source: Newton's second law without air, and the terminal speed at the other end.
TEST(Flight, IsAParabolaWithoutAirAndSteadyInMuch) {
  const auto heavy = flight({4, 35, 1.2, 1e7}), free = flight({4, 35, 1.2, 0});
  EXPECT_NEAR(heavy->time, free->time, 1e-9);
  EXPECT_NEAR(heavy->reach, free->reach, 1e-9);
  EXPECT_NEAR(heavy->peak, free->peak, 1e-9);
  const auto leaf = flight({0, 0, 50, 0.8}), fallen = flight({0, 0, 51, 0.8});
  EXPECT_NEAR(fallen->time - leaf->time, 1 / 0.8, 1e-7);
  EXPECT_NEAR(leaf->landing_speed, 0.8, 1e-9);
  EXPECT_NEAR(leaf->time, fall({50, 0.8})->time, 1e-6);
  EXPECT_EQ(flight({3, -10, 0, 2})->time, 0.0);
  EXPECT_TRUE(flight({1e200, 45, 1e5, 1e-5})) << "ends, whatever it says";
}

// Source: the definition: the mixture holds at the told dilution just what it can.
TEST(Steam, IsGoneWhereTheMixtureHoldsIt) {
  for (const auto& [source, room, humidity] : {std::array{80.0, 22.0, 0.5}, {60.0, 5.0, 0.9}, {2.0, 30.0, 0.99}}) {
    const auto s = steam({source, room, humidity});
    ASSERT_TRUE(s->dilution) << source;
    const double f = 1 / *s->dilution, t = room + f * (source - room);
    EXPECT_NEAR(f * vapour_pressure(source) + (1 - f) * humidity * vapour_pressure(room), vapour_pressure(t),
                1e-6 * vapour_pressure(t));
  }
  EXPECT_FALSE(steam({80, 22, 1})->dilution);
  EXPECT_TRUE(steam({80, 22, 1})->visible);
  EXPECT_FALSE(steam({22, 22, 1})->visible);
}

// Source: Gamma distribution of order 1: exponential, in closed form.
TEST(SprayCount, OfOrderOneIsExponential) {
  const auto s = spray_count({1e-6, 1e-3, 1});
  EXPECT_NEAR(s->tenth, -1e-3 * std::log(0.9), 1e-12);
  EXPECT_NEAR(s->ninetieth, -1e-3 * std::log(0.1), 1e-12);
  EXPECT_NEAR(s->drops, 1e-6 / (pi * 1e-9), 1e-3);
}

}  // namespace
}  // namespace cinnabar
