// What differs between two pictures, against pictures made here.
#include "cinnabar/render/differing.h"

#include <random>

#include <gtest/gtest.h>

namespace cinnabar {
namespace {

using Bytes = std::vector<unsigned char>;

// Source: counted by hand: a square of 20 pixels that is 60 codes lighter is met by every 5 x 5 whose share of it
// is over 4 / 60 of 25, two of its pixels: all but the corners' own two pixels outwards.
TEST(Differing, CountsASquareAndItsBox) {
  const int w = 100, h = 60;
  Bytes a(3 * w * h, 100), b = a;
  for (int y = 20; y < 40; ++y)
    for (int x = 30; x < 50; ++x) b[static_cast<std::size_t>(3 * (y * w + x) + 1)] = 160;
  const auto found = differing(a, b, w, h);
  ASSERT_TRUE(found && found->box);
  EXPECT_NEAR(found->most, 60.0, 1e-4);
  // 24 x 24, less at each corner the one place that meets a single pixel.
  EXPECT_NEAR(found->share * w * h, 24 * 24 - 4, 1e-6);
  EXPECT_NEAR(found->box->left, 0.28, 1e-9);
  EXPECT_NEAR(found->box->right, 0.52, 1e-9);
  EXPECT_NEAR(found->box->top, 18.0 / 60, 1e-9);
  EXPECT_NEAR(found->box->bottom, 42.0 / 60, 1e-9);
}

// Own behaviour: noise of two codes is none, an edge of the frame is evened over what there is, sizes must fit.
TEST(Differing, LeavesNoiseAloneAndRefusesOtherSizes) {
  const int w = 64, h = 36;
  std::mt19937 random(3);
  std::normal_distribution<double> noise(0.0, 2.0);
  Bytes a(3 * w * h), b = a;
  for (std::size_t i = 0; i < a.size(); ++i) {
    a[i] = static_cast<unsigned char>(120 + noise(random));
    b[i] = static_cast<unsigned char>(120 + noise(random));
  }
  const auto same = differing(a, b, w, h);
  ASSERT_TRUE(same);
  EXPECT_EQ(same->share, 0.0);
  EXPECT_FALSE(same->box);
  for (std::size_t i = 0; i < 3; ++i) b[i] = 255;  // the first pixel: a ninth of what is there in its corner
  const auto corner = differing(a, b, w, h);
  ASSERT_TRUE(corner && corner->box);
  EXPECT_EQ(corner->box->left, 0.0);
  EXPECT_NEAR(corner->most, 135.0 / 9, 3.0);
  EXPECT_FALSE(differing(a, b, w, h + 1));
  EXPECT_FALSE(differing({}, {}, 0, 0));
}

}  // namespace
}  // namespace cinnabar
