// Integrals against values that are known without them.
#include "cinnabar/base/quadrature.h"

#include <gtest/gtest.h>

#include <cmath>

namespace cinnabar {
namespace {

// Source: the rule of n points is exact for polynomials of degree 2n - 1 (Abramowitz & Stegun 25.4.29).
TEST(Quadrature, PolynomialsAreExact) {
  for (const int power : {0, 1, 7, 20, 59}) {
    const double got = integral([power](double x) { return std::pow(x, power); }, 0.0, 1.0);
    EXPECT_NEAR(got, 1.0 / (power + 1), 1e-14) << power;
  }
  EXPECT_NEAR(integral([](double x) { return x * x * x; }, -2.0, 3.0), 65.0 / 4.0, 1e-12);
  EXPECT_NEAR(integral([](double x) { return x; }, 3.0, -2.0), -2.5, 1e-13) << "backward";
}

// Source: Abramowitz & Stegun, erf 1 (7.1), the arc tangent, and the complete elliptic integral K at m = 0.5
// (table 17.1).
TEST(Quadrature, KnownIntegralsAreFound) {
  const auto bell = [](double x) { return std::exp(-x * x); };
  const double erf = 2.0 / std::sqrt(std::acos(-1.0));
  EXPECT_NEAR(erf * integral(bell, 0.0, 1.0), 0.8427007929, 1e-10);
  EXPECT_NEAR(erf * integral_within(1e-9, bell, 0.0, 1.0), 0.8427007929, 1e-10);
  const auto arc = [](double x) { return 1.0 / (1.0 + x * x); };
  EXPECT_NEAR(4.0 * integral_within(1e-9, arc, 0.0, 1.0), 3.1415926536, 1e-10);
  const auto elliptic = [](double t) { return 1.0 / std::sqrt(1.0 - 0.5 * std::sin(t) * std::sin(t)); };
  EXPECT_NEAR(integral(elliptic, 0.0, std::acos(0.0)), 1.8540746773, 1e-10);
}

// Own behaviour: what is steep is halved until it is known; thirty points alone miss it.
TEST(Quadrature, WhatIsSteepIsHalved) {
  const auto spike = [](double x) { return 1.0 / (1e-6 + x * x); };
  const double exact = 2e3 * std::atan(1e3);
  EXPECT_NEAR(integral_within(1e-7, spike, -1.0, 1.0) / exact, 1.0, 1e-7);
  EXPECT_GT(std::abs(integral(spike, -1.0, 1.0) / exact - 1.0), 1e-3);
}

}  // namespace
}  // namespace cinnabar
