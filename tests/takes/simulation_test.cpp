// Jeffreys 1961, the rest simulated here. The prediction of further takes against a simulated shoot.
#include <gtest/gtest.h>

#include <algorithm>
#include <random>

#include "cinnabar/takes/prediction.h"

namespace cinnabar {
namespace {

struct ShootRow {
  int tried, kept, wanted;
};
class Shoot : public testing::TestWithParam<ShootRow> {};
// Source: Jeffreys 1961; the shoots are simulated here.
TEST_P(Shoot, TakesAsManyMoreAsPredicted) {
  // Jeffreys 1961: the chance of a keeper is Beta(kept + 1/2, dropped + 1/2); then takes until the wanted-th
  // keeper.
  const ShootRow row = GetParam();
  std::mt19937_64 random(17);
  std::gamma_distribution<double> good(row.kept + 0.5), bad(row.tried - row.kept + 0.5);
  std::uniform_real_distribution<double> chance(0, 1);
  std::vector<double> further;
  for (int i = 0; i < 60000; ++i) {
    const double g = good(random), p = g / (g + bad(random));
    int n = 0, keepers = 0;
    while (keepers < row.wanted && n < 20000) keepers += chance(random) < p ? 1 : 0, ++n;
    further.push_back(n);
  }
  std::sort(further.begin(), further.end());
  const auto predicted =
      takes_left({.tried = double(row.tried), .kept = double(row.kept), .wanted = double(row.wanted)});
  ASSERT_TRUE(predicted && predicted->median && predicted->ninety);
  EXPECT_NEAR(*predicted->median, further[further.size() / 2], 1);
  EXPECT_NEAR(*predicted->ninety, further[further.size() * 9 / 10], 1 + 0.03 * *predicted->ninety);
  const auto chances =
      takes_left_chances({.tried = double(row.tried), .kept = double(row.kept), .wanted = double(row.wanted)}, 12);
  for (int n = 1; n <= 12; ++n) {
    const double counted = static_cast<double>(std::count(further.begin(), further.end(), double(n))) /
                           static_cast<double>(further.size());
    EXPECT_NEAR((*chances)[static_cast<std::size_t>(n) - 1], counted, 0.008) << n;
  }
}
INSTANTIATE_TEST_SUITE_P(Logs, Shoot,
                         testing::Values(ShootRow{10, 4, 1}, ShootRow{3, 2, 2}, ShootRow{20, 5, 3},
                                         ShootRow{8, 8, 1}, ShootRow{30, 3, 1}));

// Own behaviour: monotone.
TEST(Prediction, GrowsWithWhatIsWantedAndShrinksWithWhatIsKept) {
  for (double wanted = 1; wanted < 8; ++wanted) {
    EXPECT_LT(*takes_left({.tried = 10, .kept = 4, .wanted = wanted})->expected,
              *takes_left({.tried = 10, .kept = 4, .wanted = wanted + 1})->expected);
  }
  for (double kept = 1; kept < 9; ++kept) {
    EXPECT_GT(*takes_left({.tried = 10, .kept = kept, .wanted = 2})->expected,
              *takes_left({.tried = 10, .kept = kept + 1, .wanted = 2})->expected);
  }
}

}  // namespace
}  // namespace cinnabar
