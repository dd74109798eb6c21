// White points, balance and transfer against published values.
#include "cinnabar/color/white.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "cinnabar/color/difference.h"

namespace cinnabar {
namespace {

struct LocusRow {
  double kelvin, x, y;
};
class Locus : public testing::TestWithParam<LocusRow> {};
// Values from memory: CIE 15:2004 (daylight), Kim et al. 2002 (Planckian).
TEST_P(Locus, IsWhereItIsPublished) {
  const auto white = white_point(GetParam().kelvin);
  ASSERT_TRUE(white);
  EXPECT_NEAR(white->x, GetParam().x, 1e-6);
  EXPECT_NEAR(white->y, GetParam().y, 1e-6);
}
INSTANTIATE_TEST_SUITE_P(Daylight, Locus,  // CIE 15:2004 (value from memory)
                         testing::Values(LocusRow{4000, 0.382344, 0.383766}, LocusRow{6500, 0.312779, 0.329183},
                                         LocusRow{25000, 0.249854, 0.254799}));
INSTANTIATE_TEST_SUITE_P(Planckian, Locus,  // Kim et al. 2002 (value from memory)
                         testing::Values(LocusRow{1667, 0.564638, 0.402887}, LocusRow{2222, 0.503188, 0.415256},
                                         LocusRow{3200, 0.423182, 0.399078}));

// Source: the ranges of CIE 15:2004 (daylight) and of Kim et al. 2002 (Planckian).
TEST(White, OutsideTheLociIsRefused) {
  EXPECT_FALSE(white_point(1666));
  EXPECT_FALSE(white_point(25001));
}

// Source: IEC 61966-2-1 (equal code values are neutral).
TEST(White, UnderItsOwnBalanceIsNeutral) {
  for (double k = 1700; k <= 25000; k += 333) {
    const auto w = white({.scene_k = k, .balance_k = k});
    ASSERT_TRUE(w);
    EXPECT_NEAR(w->r, 1, 1e-9);
    EXPECT_NEAR(w->b, 1, 1e-9);
    EXPECT_EQ(w->srgb, "#ffffff");
  }
}

// Common practice, no source
TEST(White, GoesWarmUnderACoolBalanceAndBack) {
  double last = 10;
  for (double k = 2000; k <= 12000; k += 500) {
    const auto w = white({.scene_k = k, .balance_k = 5600});
    EXPECT_LT(w->r, last);  // monotone: the higher the colour temperature, the less red
    last = w->r;
  }
  EXPECT_NEAR(luminance(white_rgb(3200, 5600)), 1.0f, 1e-5f);  // a white's luminance is not changed by its colour
}

// Source: IEC 61966-2-1, the curve of sRGB.
TEST(Transfer, MeetsIec61966) {
  EXPECT_NEAR(srgb_encode(0.18), 0.461356, 1e-6);
  EXPECT_NEAR(srgb_encode(0.0031308), 0.0404499, 1e-6);
  EXPECT_NEAR(srgb_decode(0.5), 0.214041, 1e-6);
  for (int byte = 0; byte <= 255; ++byte) {
    EXPECT_NEAR(srgb_encode(srgb_decode(byte / 255.0)), byte / 255.0, 1e-6);
  }
}

// Own behaviour: the axioms of a distance.
TEST(Difference, IsADistance) {
  std::mt19937 random(2);
  std::uniform_real_distribution<double> l(0, 100), ab(-100, 100);
  for (int i = 0; i < 300; ++i) {
    const std::array<double, 3> a{l(random), ab(random), ab(random)}, b{l(random), ab(random), ab(random)};
    const double forth = colour_difference({a, b})->de2000, back = colour_difference({b, a})->de2000;
    EXPECT_NEAR(forth, back, 1e-9);
    EXPECT_GT(forth, 0);
    EXPECT_NEAR(colour_difference({a, a})->de2000, 0, 1e-9);
  }
}

// Own behaviour: one calculation undoes the other.
TEST(Mired, AndGelAreInverses) {
  for (const double from : {2800.0, 3200.0, 5600.0, 6500.0}) {
    for (const double to : {2000.0, 4300.0, 10000.0}) {
      const double shift = mired({.from_k = from, .to_k = to})->shift;
      EXPECT_NEAR(gel({.kelvin = from, .mired_shift = shift})->kelvin, to, 1e-6);
    }
  }
}

// Source: McCamy 1992, Color Res. Appl. 17: CCT = 449 n^3 + 3525 n^2 + 6823.3 n + 5520.33, n = (x - 0.3320) /
// (0.1858 - y), good to some K near the locus (value from memory); mixtures by Grassmann's laws, X, Y and Z added.
TEST(White, MixedHasTheTemperatureOfItsChromaticity) {
  for (const auto& [warm, cool] :
       {std::pair{3000.0, 3400.0}, {4500.0, 6500.0}, {3200.0, 5600.0}, {5000.0, 7000.0}})
    for (const double share : {0.2, 0.5, 0.9}) {
      const Chromaticity a = *white_point(warm), b = *white_point(cool);
      const double first = share / a.y, second = (1 - share) / b.y, sum = first + second;
      const double x = (first * a.x + second * b.x) / sum, y = 1.0 / sum;
      const double n = (x - 0.3320) / (0.1858 - y);
      const double mccamy = ((449.0 * n + 3525.0) * n + 6823.3) * n + 5520.33;
      EXPECT_NEAR(*mixed_white({{warm, share}, {cool, 1 - share}}), mccamy, 0.025 * mccamy)
          << warm << " " << cool << " " << share;
    }
}

// Own behaviour: one white alone stays itself, darkness has none, and amounts count by their share only.
TEST(White, MixedOfOneIsThatOne) {
  for (const double kelvin : {1700.0, 2200.0, 3200.0, 3990.0, 4010.0, 5600.0, 7500.0, 20000.0})
    EXPECT_NEAR(*mixed_white({{kelvin, 3.0}, {9000.0, 0.0}}), kelvin, 0.008 * kelvin);
  EXPECT_FALSE(mixed_white({}));
  EXPECT_FALSE(mixed_white({{5600.0, 0.0}, {3200.0, -1.0}}));
  EXPECT_NEAR(*mixed_white({{3200.0, 100.0}, {5600.0, 50.0}}), *mixed_white({{3200.0, 2.0}, {5600.0, 1.0}}), 1e-6);
}

// Source: CIE 1960 (u, v): a white above the locus is greener, one under it pinker, and as bright.
TEST(White, OffTheLocusIsGreenOrPink) {
  for (const double kelvin : {2700.0, 5600.0, 9000.0}) {
    const Rgb on = white_rgb(kelvin, kelvin), above = white_rgb(kelvin, kelvin, 0.01),
              under = white_rgb(kelvin, kelvin, -0.01);
    EXPECT_GT(above.y / (above.x + above.z), on.y / (on.x + on.z) * 1.02f) << kelvin;
    EXPECT_LT(under.y / (under.x + under.z), on.y / (on.x + on.z) * 0.98f) << kelvin;
    EXPECT_NEAR(luminance(above), 1.0f, 1e-5f);
  }
}

}  // namespace
}  // namespace cinnabar
