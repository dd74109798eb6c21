// Palettes and what follows from them. L*a*b* values of the sRGB primaries are widely published ones (value from
// memory, CIE 15:2004 under D65); the palettes are worked by hand.
#include "cinnabar/color/palette.h"
#include "cinnabar/color/white.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

namespace cinnabar {
namespace {

// Values from memory: sRGB primaries in CIE 15:2004 L*a*b* under D65.
TEST(Lab, OfThePrimariesAndBack) {
  const auto red = lab_of({1, 0, 0}), green = lab_of({0, 1, 0}), blue = lab_of({0, 0, 1}),
             white = lab_of({1, 1, 1});
  EXPECT_NEAR(red[0], 53.24, 0.05);
  EXPECT_NEAR(red[1], 80.09, 0.1);
  EXPECT_NEAR(red[2], 67.20, 0.1);
  EXPECT_NEAR(green[0], 87.73, 0.05);
  EXPECT_NEAR(green[1], -86.18, 0.1);
  EXPECT_NEAR(green[2], 83.18, 0.1);
  EXPECT_NEAR(blue[0], 32.30, 0.05);
  EXPECT_NEAR(blue[1], 79.19, 0.1);
  EXPECT_NEAR(blue[2], -107.86, 0.1);
  EXPECT_NEAR(white[0], 100, 0.01);
  EXPECT_NEAR(white[1], 0, 0.02);
  EXPECT_NEAR(white[2], 0, 0.02);
  EXPECT_NEAR(lab_of({0.18418651, 0.18418651, 0.18418651})[0], 50, 1e-3);  // L* = 50 is Y = 18.4 %
  std::mt19937 random(7);
  std::uniform_real_distribution<double> share(0, 1);
  for (int i = 0; i < 500; ++i) {
    const Vec3 c{share(random), share(random), share(random)}, back = linear_of(lab_of(c));
    EXPECT_NEAR(length(back - c), 0, 1e-6);
  }
  EXPECT_EQ(hex_of({0.2158605, 1, 0}), "#80ff00");
}

// Own behaviour; the palettes are worked by hand.
TEST(Palette, FindsTheColoursThatThereAre) {
  std::vector<Palette::Colour> samples;
  for (int i = 0; i < 60; ++i) samples.push_back({{0.6, 0.1, 0.05}, 1});
  for (int i = 0; i < 30; ++i) samples.push_back({{0.05, 0.1, 0.6}, 1});
  for (int i = 0; i < 10; ++i) samples.push_back({{0.8, 0.8, 0.8}, 1});
  const auto p = palette_of(samples, 3);
  ASSERT_EQ(p.size(), 3u);
  EXPECT_NEAR(p[0].share, 0.6, 1e-9);
  EXPECT_NEAR(p[1].share, 0.3, 1e-9);
  EXPECT_NEAR(p[2].share, 0.1, 1e-9);
  EXPECT_NEAR(length(p[0].linear - Vec3{0.6, 0.1, 0.05}), 0, 1e-6);
  EXPECT_NEAR(length(p[2].linear - Vec3{0.8, 0.8, 0.8}), 0, 1e-6);
  EXPECT_EQ(palette_of(samples, 8).size(), 3u) << "there are no more";
  EXPECT_TRUE(palette_of({}, 4).empty());
}

// Own behaviour: what any mean must hold.
TEST(Palette, MeansLieBetweenTheirSamplesAndSharesAddUp) {
  std::mt19937 random(11);
  std::uniform_real_distribution<double> share(0, 1);
  std::vector<Palette::Colour> samples;
  for (int i = 0; i < 2000; ++i)
    samples.push_back({{share(random), share(random), share(random)}, share(random) + 0.01});
  const auto p = palette_of(samples, 5), again = palette_of(samples, 5);
  ASSERT_EQ(p.size(), 5u);
  double sum = 0;
  for (std::size_t i = 0; i < 5; ++i) {
    sum += p[i].share;
    EXPECT_EQ(p[i].share, again[i].share);
    if (i > 0) {
      EXPECT_LE(p[i].share, p[i - 1].share);
    }
  }
  EXPECT_NEAR(sum, 1, 1e-9);
}

// Common practice, no source
TEST(KeyColour, IsGreenUnlessTheProductHasGreenThenBlue) {
  EXPECT_EQ(key_colour({{{0.5, 0.04, 0.04}, 1}}).name, "green");
  EXPECT_EQ(key_colour({{{0.02, 0.40, 0.03}, 1}}).name, "blue");
  EXPECT_EQ(key_colour({{{0.5, 0.22, 0.02}, 1}}).name, "blue") << "amber is nearer to green than 40";
  EXPECT_EQ(key_colour({{{0.02, 0.40, 0.03}, 1}, {{0.02, 0.07, 0.5}, 1}}).name, "magenta");
  // A green speck of less than a fiftieth does not count.
  EXPECT_EQ(key_colour({{{0.5, 0.04, 0.04}, 99}, {{0.02, 0.40, 0.03}, 1}}).name, "green");
  const KeyAdvice none = key_colour({{{0.02, 0.40, 0.03}, 1}, {{0.02, 0.07, 0.5}, 1}, {{0.5, 0.03, 0.3}, 1}});
  EXPECT_FALSE(none.safe);
  EXPECT_LT(none.difference, 40);
  for (const auto& c : {Vec3{0.6, 0.3, 0.05}, Vec3{0.8, 0.8, 0.8}, Vec3{0.02, 0.02, 0.02}})
    EXPECT_GE(key_colour({{c, 1}}).difference, 40);
}

// Common practice, no source
TEST(Backdrops, ADarkProductStandsBestBeforeALightOneAndTheOtherWayRound) {
  const auto dark = backdrops_for({{{0.02, 0.02, 0.02}, 1}}), light = backdrops_for({{{0.8, 0.8, 0.8}, 1}});
  EXPECT_EQ(dark.front().name, "white");
  EXPECT_EQ(light.front().name, "black");
  EXPECT_EQ(dark.size(), 3u) << "a grey product has no hue to stand across from";
  const auto honey = backdrops_for({{{0.5, 0.22, 0.02}, 1}});
  EXPECT_EQ(honey.size(), 6u);
  EXPECT_EQ(gel_for({{{0.5, 0.22, 0.02}, 1}}), "blue");
  EXPECT_EQ(gel_for({{{0.02, 0.05, 0.5}, 1}}), "green");
  EXPECT_EQ(gel_for({{{0.3, 0.3, 0.3}, 1}}), "");
  for (std::size_t i = 1; i < honey.size(); ++i) EXPECT_LE(honey[i].difference, honey[i - 1].difference);
}

// Source: hue angles of CIE L*a*b* (CIE 15:2004); the words are common practice, no source.
TEST(Palette, ALightIsCalledByItsColourInThePicture) {
  const auto called = [](double kelvin, double balance) {
    const Rgb c = white_rgb(kelvin, balance);
    return light_word(c.as<double>());
  };
  EXPECT_EQ(called(5600, 5600), "white");
  EXPECT_EQ(called(5600, 3200), "blue");
  EXPECT_EQ(called(6500, 5600), "pale blue");
  EXPECT_EQ(called(2700, 5600), "amber");
  EXPECT_EQ(light_word({0.06, 0.42, 0.48}), "teal");
  EXPECT_EQ(light_word({0.8, 0.05, 0.03}), "red");
  EXPECT_EQ(light_word({0, 0, 0}), "dark");
}

}  // namespace
}  // namespace cinnabar
