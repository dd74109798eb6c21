// Patterns: their mean, their seams, and how a tile repeats.
#include "cinnabar/color/texture.h"

#include <gtest/gtest.h>

#include <cmath>

namespace cinnabar {
namespace {

class Patterns : public testing::TestWithParam<Pattern> {};
INSTANTIATE_TEST_SUITE_P(All, Patterns,
                         testing::Values(Pattern::wood, Pattern::marble, Pattern::stone, Pattern::weave));

// Source: by hand: what reflects between two colours has its mean between them, and is that mean over the whole
// tile.
TEST_P(Patterns, KeepTheMeanTheySay) {
  const Vec3 ground{0.6, 0.4, 0.2}, drawn{0.2, 0.1, 0.15};
  const Tile tile = tile_of(GetParam(), ground, drawn);
  ASSERT_TRUE(tile.against_mean);
  Vec3 sum{};
  double least = 1e9, most = 0;
  for (const Rgb& p : tile.against_mean->pixels) {
    sum += p.as<double>();
    least = std::min(least, static_cast<double>(p.y)), most = std::max(most, static_cast<double>(p.y));
  }
  const Vec3 mean = sum / static_cast<double>(tile.against_mean->pixels.size());
  for (const double one : {mean.x, mean.y, mean.z}) EXPECT_NEAR(one, 1.0, 1e-4);
  EXPECT_LT(tile.mean.y, ground.y);
  EXPECT_GT(tile.mean.y, drawn.y);
  EXPECT_GE(least * tile.mean.y, drawn.y - 1e-6);
  EXPECT_LE(most * tile.mean.y, ground.y + 1e-6);
  EXPECT_GT(most, 1.15 * least) << "there is a pattern to be seen";
}

// Own behaviour: a tile meets itself: across its seams neighbours differ no more than within it.
TEST_P(Patterns, HaveNoSeam) {
  constexpr int n = 512;
  double seam = 0, inside = 0;
  for (int k = 0; k < n; ++k) {
    const double at = (k + 0.5) / n, edge = 0.5 / n;
    seam += std::abs(drawn_at(GetParam(), edge, at) - drawn_at(GetParam(), 1 - edge, at)) +
            std::abs(drawn_at(GetParam(), at, edge) - drawn_at(GetParam(), at, 1 - edge));
    // Threads and rings end there as they do at its edge.
    inside += std::abs(drawn_at(GetParam(), 0.5 + edge, at) - drawn_at(GetParam(), 0.5 - edge, at)) +
              std::abs(drawn_at(GetParam(), at, 0.5 + edge) - drawn_at(GetParam(), at, 0.5 - edge));
  }
  EXPECT_LT(seam, 1.5 * inside + 0.03 * n);
  EXPECT_DOUBLE_EQ(drawn_at(GetParam(), 1.25, -0.5), drawn_at(GetParam(), 0.25, 0.5));
}

// Own behaviour: the same colours have the same tile, other colours another.
TEST_P(Patterns, AreMadeOnce) {
  const Tile a = tile_of(GetParam(), {0.5, 0.5, 0.5}, {0.1, 0.1, 0.1}),
             b = tile_of(GetParam(), {0.5, 0.5, 0.5}, {0.1, 0.1, 0.1}),
             c = tile_of(GetParam(), {0.5, 0.5, 0.5}, {0.2, 0.1, 0.1});
  EXPECT_EQ(a.against_mean, b.against_mean);
  EXPECT_NE(a.against_mean, c.against_mean);
}

// Source: by hand, two pixels of 0.2 and 0.6 tinted by a half: their mean is 0.2, and they are half and one and a
// half of it.
TEST(Tiles, OfAPictureAreTintedAndEvenedOut) {
  const auto picture = std::make_shared<const Picture>(Picture{2, 1, {{0.2f, 0.2f, 0.2f}, {0.6f, 0.6f, 0.6f}}});
  const Tile tile = tile_of(picture, {0.5, 0.5, 0.5});
  EXPECT_NEAR(tile.mean.x, 0.2, 1e-6);
  EXPECT_NEAR(tile.against_mean->repeated(0.25f, 0.5f).x, 0.5, 1e-6);
  EXPECT_NEAR(tile.against_mean->repeated(0.75f, 0.5f).x, 1.5, 1e-6);
  EXPECT_NEAR(tile.against_mean->repeated(-3.25f, 7.5f).x, 1.5, 1e-6);
  EXPECT_NEAR(tile.against_mean->repeated(0.0f, 0.5f).x, 1.0, 1e-6) << "between the last and the first";
  EXPECT_EQ(Picture{}.repeated(0.3f, 0.3f).x, 0.0f);
}

}  // namespace
}  // namespace cinnabar
