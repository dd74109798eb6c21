// What is cautioned of: common practice, no source; flashes by WCAG 2.3.1 (W3C 2018), stricter here on purpose.
// Cautions: shown where something can hurt, graded by what the shot has, and never a permission.
#include "cinnabar/planning/cautions.h"

#include <gtest/gtest.h>

namespace cinnabar {
namespace {

std::vector<std::string> titles(const HazardInputs& h) {
  std::vector<std::string> list;
  for (const Caution& c : cautions(h)) list.push_back(c.title);
  return list;
}
using Titles = std::vector<std::string>;

// Own behaviour.
TEST(Cautions, AreNoneWhereNothingCanHurt) { EXPECT_TRUE(titles({}).empty()); }

// Common practice, no source: four fifths of the breaker
TEST(Cautions, CountTheLoadAgainstFourFifthsOfTheBreaker) {
  // NFPA 70 art. 210: continuous loads at most 80 %; 3000 W at 230 V on 16 A are 81.5 %.
  const auto over = cautions({.watts = 3000, .volts = 230, .breaker_a = 16});
  ASSERT_EQ(over.size(), 2u);
  EXPECT_EQ(over[0].title, "Load");
  EXPECT_NE(over[0].text.find("81.5 %"), std::string::npos) << over[0].text;
  EXPECT_TRUE(titles({.watts = 2900, .volts = 230, .breaker_a = 16}).empty());
}

// Source: WCAG 2.3.1 (W3C 2018) for flashes, stricter here on purpose; the rest common practice, no source.
TEST(Cautions, KnowFlashesHeatHeightsLiquidsAndGlass) {
  // WCAG 2.2, 2.3.1: no more than three flashes in any one second; ours begins at three on purpose.
  EXPECT_EQ(titles({.flashes_per_s = 2.9}), Titles{});
  EXPECT_EQ(titles({.flashes_per_s = 3}), (Titles{"Flashing light", "Always"}));
  EXPECT_EQ(titles({.watts = 100, .hot_lamp = true}), (Titles{"Hot lamps", "Always"}));
  EXPECT_EQ(titles({.watts = 100, .liquid = true}), (Titles{"Water and electricity", "Always"}));
  EXPECT_EQ(titles({.liquid = true}), Titles{}) << "no mains near it";
  EXPECT_EQ(titles({.highest_light = 1.5}), (Titles{"Overhead gear", "Always"}));
  EXPECT_EQ(titles({.glass = true, .turns = true}), (Titles{"Turning glass", "Always"}));
}

// Own behaviour.
TEST(Cautions, NeverSpeakAsAPermission) {
  const auto all = cautions({.watts = 5000,
                             .highest_light = 2,
                             .hot_lamp = true,
                             .liquid = true,
                             .glass = true,
                             .turns = true,
                             .flashes_per_s = 9});
  EXPECT_EQ(all.size(), 7u);
  EXPECT_NE(all.back().text.find("no permission"), std::string::npos);
  for (const Caution& c : all)
    for (const char* word : {"safe to", "allowed to", "permitted"})
      EXPECT_EQ(c.text.find(word), std::string::npos) << c.title;
}

}  // namespace
}  // namespace cinnabar
