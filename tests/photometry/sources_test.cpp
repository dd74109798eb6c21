// Lambertian faces by midpoint sums of L cos cos / r2 (common practice, no source). Closed forms against brute
// sums, and stripes against traced rays.
#include "cinnabar/photometry/sources.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "cinnabar/photometry/exposure.h"

namespace cinnabar {
namespace {

// Common practice, no source: midpoint sum of L cos cos / r^2
TEST(Rectangle, AgreesWithItsPolygonAndAMidpointSum) {
  for (const double d : {0.2, 0.7, 2.0}) {
    const double closed = rect_illuminance({1000, 1.0, 0.6, d})->illuminance_lx;
    const std::vector<Vec3> corners{{-0.5, -0.3, d}, {0.5, -0.3, d}, {0.5, 0.3, d}, {-0.5, 0.3, d}};
    EXPECT_NEAR(polygon_illuminance(1000, corners, {}, {0, 0, 1}), closed, 1e-9 * closed);
    double sum = 0;
    const int n = 600;
    for (int i = 0; i < n; ++i) {
      for (int j = 0; j < n; ++j) {
        const double x = (i + 0.5) / n - 0.5, y = 0.6 * ((j + 0.5) / n - 0.5), r2 = x * x + y * y + d * d;
        sum += 1000 * d * d / (r2 * r2) * 0.6 / n / n;
      }
    }
    EXPECT_NEAR(sum, closed, 1e-3 * closed);
  }
}

// Source: Howell, A Catalog of Radiation Heat Transfer Configuration Factors.
TEST(Disc, OffItsAxisAsHowell) {
  // Howell, Thermal Radiation Configuration Factors, B-13 (value from memory).
  // (pi L / 2) [1 - (x2 + d2 - r2) / sqrt((x2 + d2 + r2)^2 - 4 r2 x2)]: 1000, r 0.3, d 0.5, x 0.4 and 2.
  for (const auto& [x, expected] : {std::pair{0.4, 424.842}, std::pair{2.0, 4.0687}}) {
    std::vector<Vec3> corners;
    const int n = 720;
    const double step = 2 * pi / n, swell = std::sqrt(step / std::sin(step));
    for (int k = 0; k < n; ++k) {
      corners.push_back({0.3 * swell * std::cos(step * k) - x, 0.3 * swell * std::sin(step * k), 0.5});
    }
    EXPECT_NEAR(polygon_illuminance(1000, corners, {}, {0, 0, 1}), expected, 2e-4 * expected);
  }
}

// Common practice, no source: five widths make a point of it
TEST(Beam, IsWithinAHundredthFromFiveWidthsOn) {
  const double luminance = 1000, side = 0.4, candela = luminance * side * side;
  const double area = rect_illuminance({luminance, side, side, 5 * side})->illuminance_lx;
  EXPECT_NEAR(beam({candela, 5 * side})->illuminance_lx, area, 0.015 * area);
}

/// Where a strip is mirrored in a glossy cylinder, by rays: parallel rays from the camera, reflected, meet the
/// strip.
// Source: the law of reflection, by rays traced here.
TEST(Stripe, IsWhereTracedRaysFindIt) {
  std::mt19937 random(9);
  std::uniform_real_distribution<double> bearing(-110, 110), width(0.05, 0.5), distance(0.3, 1.5),
      radius(0.02, 0.12);
  int seen = 0;
  for (int i = 0; i < 40; ++i) {
    const double b = bearing(random), w = width(random), d = distance(random), r = radius(random);
    const auto closed = cylinder_stripe({0, b, w, d, r});
    ASSERT_TRUE(closed);
    // Plan: x to camera right, z toward the camera. The strip is square to its bearing.
    const double sx = d * std::sin(radians(b)), sz = d * std::cos(radians(b)), tx = std::cos(radians(b)),
                 tz = -std::sin(radians(b));
    double low = 2, high = -2;
    const int rays = 20000;
    for (int k = 0; k < rays; ++k) {
      const double s = -1 + 2 * (k + 0.5) / rays, theta = std::asin(s);
      const double px = r * s, pz = r * std::cos(theta);
      const double dx = std::sin(2 * theta), dz = std::cos(2 * theta);  // the ray -z, mirrored about the normal
      const double det = dx * -tz - dz * -tx;
      if (std::abs(det) < 1e-12) continue;
      const double ax = sx - px, az = sz - pz;
      const double along = (ax * -tz - az * -tx) / det, across = (dx * az - dz * ax) / det;
      if (along > 0 && std::abs(across) <= w / 2) low = std::min(low, s), high = std::max(high, s);
    }
    if (high < low) continue;
    ++seen;
    EXPECT_NEAR((high - low) / 2, closed->width_fraction, 2e-3) << b << " " << w << " " << d << " " << r;
    ASSERT_TRUE(closed->centre_fraction);
    EXPECT_GE(*closed->centre_fraction, low - 1e-3);
    EXPECT_LE(*closed->centre_fraction, high + 1e-3);
  }
  EXPECT_GT(seen, 30);
}

// Source: the definition, mean over the exposure, summed here.
TEST(Flicker, IsTheGreatestDeviationOfTheMeanOverAnExposure) {
  for (const double time : {0.0005, 0.004, 0.01, 0.0133, 0.02, 0.033}) {
    double most = 0;
    for (int phase = 0; phase < 200; ++phase) {
      double sum = 0;
      const int n = 2000;
      for (int i = 0; i < n; ++i)
        sum += 1 + 0.3 * std::sin(4 * pi * 50 * (time * (i + 0.5) / n + phase / 200.0 / 100));
      most = std::max(most, std::abs(sum / n - 1));
    }
    EXPECT_NEAR(flicker({50, 0.3, time})->residual, most, 2e-4) << time;
  }
}

// Source: ISO 2720:1974.
TEST(Exposure, HoldsTogether) {
  // Each doubling of time or ISO, and each 1.41421 in f-number, is one stop everywhere.
  const double base = incident_exposure({1000, 4, 0.02, 400})->stops;
  EXPECT_NEAR(incident_exposure({2000, 4, 0.02, 400})->stops - base, 1, 1e-12);
  EXPECT_NEAR(incident_exposure({1000, 4, 0.04, 400})->stops - base, 1, 1e-12);
  EXPECT_NEAR(incident_exposure({1000, 4, 0.02, 800})->stops - base, 1, 1e-12);
  EXPECT_NEAR(incident_exposure({1000, 4 * std::sqrt(2.0), 0.02, 400})->stops - base, -1, 1e-12);
  // An 18 % matte card reads 0.196501 stop over incident (C 250, K 12.5).
  const double e = 1234, card = 0.18 * e / pi;
  EXPECT_NEAR(reflected_exposure({card, 4, 0.02, 400})->stops - incident_exposure({e, 4, 0.02, 400})->stops,
              0.196501, 1e-6);
  for (const double angle : {1.0, 90.0, 172.8, 360.0}) {
    EXPECT_NEAR(shutter_angle({24, shutter({24, angle})->time})->angle_deg, angle, 1e-9);
  }
}

// Source: closed form, 90 degrees less latitude plus declination.
TEST(Sun, StandsHighestInTheSouthAtNorthernNoons) {
  double best = -90, azimuth = 0;
  for (int minute = 0; minute < 24 * 60; ++minute) {
    char utc[24];
    std::snprintf(utc, sizeof utc, "2026-03-20T%02d:%02d", minute / 60, minute % 60);
    const auto s = sun({51.4769, 0, utc});
    if (s->altitude_deg > best) best = s->altitude_deg, azimuth = s->azimuth_deg;
  }
  EXPECT_NEAR(azimuth, 180, 0.5);
  EXPECT_NEAR(best, 90 - 51.4769, 0.5);  // equinox
}

// Source: Reda & Andreas 2004 (position); rise and set worked here at -0.8333 degrees.
TEST(Sun, RisesAndSetsAsWorkedForGreenwichAndNotInPolarNight) {  // rise 03:42.6, set 20:20.8 at -0.8333 degrees
  const auto up = [](const char* utc, double lat, double lon) {
    return sun({lat, lon, utc})->altitude_deg > -0.8333;
  };
  EXPECT_FALSE(up("2024-06-20T03:42", 51.4769, 0));
  EXPECT_TRUE(up("2024-06-20T03:43", 51.4769, 0));
  EXPECT_TRUE(up("2024-06-20T20:20", 51.4769, 0));
  EXPECT_FALSE(up("2024-06-20T20:21", 51.4769, 0));
  for (int hour = 0; hour < 24; ++hour) {
    char utc[24];
    std::snprintf(utc, sizeof utc, "2024-12-21T%02d:00", hour);
    EXPECT_FALSE(up(utc, 69.65, 18.96));
  }
}

}  // namespace
}  // namespace cinnabar
