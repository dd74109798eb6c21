// Numbers, lengths, rates and times as people type and read them.
#include "cinnabar/base/text.h"

#include <gtest/gtest.h>

#include <cmath>
#include <limits>
#include <random>

#include "cinnabar/base/range.h"
#include "cinnabar/base/vec.h"
#include "cinnabar/base/words.h"

namespace cinnabar {
namespace {

struct LengthRow {
  const char* typed;
  double metres;
};
class TypedLength : public testing::TestWithParam<LengthRow> {};
TEST_P(TypedLength, IsReadInMetres) {
  const auto read = parse_length(GetParam().typed);
  ASSERT_TRUE(read) << GetParam().typed;
  EXPECT_NEAR(*read, GetParam().metres, 1e-9) << GetParam().typed;
}
INSTANTIATE_TEST_SUITE_P(  // 1 in = 25.4 mm, 1 ft = 304.8 mm exactly (international yard and pound, 1959)
    Units, TypedLength,
    testing::Values(LengthRow{"0.62", 0.62}, LengthRow{"0.62 m", 0.62}, LengthRow{"62cm", 0.62},
                    LengthRow{"68.6 cm", 0.686}, LengthRow{"620 mm", 0.62}, LengthRow{"-5 mm", -0.005},
                    LengthRow{"1 m 20 cm", 1.2}, LengthRow{"2 ft 3 in", 0.6858}, LengthRow{"2' 3\"", 0.6858},
                    LengthRow{"2'3\"", 0.6858}, LengthRow{"12 inches", 0.3048}, LengthRow{"1.5 in", 0.0381},
                    LengthRow{" 3 feet ", 0.9144}, LengthRow{"2 µm", 2e-6}, LengthRow{"15um", 1.5e-5}));

TEST(TypedLengths, ThatAreNoneAreRefused) {
  for (const char* bad : {"", " ", "near", "1 parsec", "1..2", "m", "2 ft x", "--3", "nan", "inf", "1e400 m"}) {
    EXPECT_FALSE(parse_length(bad)) << bad;
  }
}

TEST(Lengths, ComeBackAsTheyAreShown) {
  std::mt19937 random(11);
  std::uniform_real_distribution<double> exponent(-6.0, 1.0);
  for (int i = 0; i < 500; ++i) {
    const double metres = std::pow(10.0, exponent(random));
    for (const Units units : {Units::metric, Units::imperial}) {
      const auto back = parse_length(length_text(metres, units), units);
      ASSERT_TRUE(back) << length_text(metres, units);
      EXPECT_NEAR(*back, metres, 0.0055) << length_text(metres, units);
    }
  }
}

TEST(Lengths, AreShownInTheUnitOfTheHand) {
  EXPECT_EQ(length_text(0.038), "38 mm");
  EXPECT_EQ(length_text(0.104), "104 mm");
  EXPECT_EQ(length_text(0.62), "0.62 m");
  EXPECT_EQ(length_text(2e-6), "2 µm");
  EXPECT_EQ(length_text(1.25e-5, Units::imperial), "12.5 µm");
  EXPECT_EQ(length_text(1e-12), "0 mm");
  EXPECT_EQ(length_text(0.0381, Units::imperial), "1.5 in");
  EXPECT_EQ(length_text(0.6858, Units::imperial), "2 ft 3 in");
  EXPECT_EQ(length_text(0.9144, Units::imperial), "3 ft 0 in");
}

TEST(Rates, AreExactWhereTheTypedOneIsRounded) {  // SMPTE ST 12-1
  EXPECT_DOUBLE_EQ(*parse_rate("23.976"), 24000.0 / 1001.0);
  EXPECT_DOUBLE_EQ(*parse_rate("23.98"), 24000.0 / 1001.0);
  EXPECT_DOUBLE_EQ(*parse_rate("29.97"), 30000.0 / 1001.0);
  EXPECT_DOUBLE_EQ(*parse_rate("59.94"), 60000.0 / 1001.0);
  EXPECT_DOUBLE_EQ(*parse_rate("119.88"), 120000.0 / 1001.0);
  EXPECT_DOUBLE_EQ(*parse_rate("24000/1001"), 24000.0 / 1001.0);
  EXPECT_DOUBLE_EQ(*parse_rate("24"), 24.0);
  EXPECT_DOUBLE_EQ(*parse_rate("25"), 25.0);
  for (const char* bad : {"", "0", "-24", "24/0", "1/2/3", "fast", "24/", "nan", "1e999"}) {
    EXPECT_FALSE(parse_rate(bad)) << bad;
  }
}

TEST(Rates, AreWrittenAsTheyAreKept) {
  for (const char* kept : {"24", "25", "24000/1001", "30000/1001", "60000/1001", "120", "12.5"})
    EXPECT_EQ(rate_text(*parse_rate(kept)), kept);
  EXPECT_EQ(rate_text(23.976), "24000/1001");
}

TEST(Numbers, AreReadWholeOrNotAtAll) {
  EXPECT_EQ(parse_number("1.5"), 1.5);
  EXPECT_EQ(parse_number("+2"), 2.0);
  EXPECT_EQ(parse_number(" -3e-2 "), -0.03);
  for (const char* bad : {"", "1,5", "0x10", "1 2", "nan", "inf", "1e999", "one"}) {
    EXPECT_FALSE(parse_number(bad)) << bad;
  }
}

TEST(Numbers, AreShownShortWithoutTrailingZeros) {
  EXPECT_EQ(number_text(0.62), "0.62");
  EXPECT_EQ(number_text(1240.4), "1240");
  EXPECT_EQ(number_text(5.0), "5");
  EXPECT_EQ(number_text(0.0), "0");
  EXPECT_EQ(number_text(23.976), "23.98");
  EXPECT_EQ(signed_text(0.2), "+0.2");
  EXPECT_EQ(signed_text(-0.04), "+0.0");
  EXPECT_EQ(fixed_text(-0.001, 2), "0.00");
}

TEST(Shutters, AreShownAsTheTradeWritesThem) {
  EXPECT_EQ(shutter_text(0.01), "1/100");
  EXPECT_EQ(shutter_text(1.0 / 48), "1/48");
  EXPECT_EQ(shutter_text(0.5), "0.5 s");
  EXPECT_EQ(shutter_text(1.0 / 2.5), "0.4 s");
  EXPECT_EQ(shutter_text(1.0 / 8000), "1/8000");
}

TEST(Ranges, HoldTheirEndsOrNot) {
  EXPECT_TRUE(share.contains(0.0));
  EXPECT_TRUE(share.contains(1.0));
  EXPECT_FALSE(positive.contains(0.0));
  EXPECT_TRUE(non_negative.contains(0.0));
  EXPECT_FALSE((Range{0, 360, true, false}.contains(0)));
  EXPECT_TRUE((Range{0, 360, true, false}.contains(360)));
  EXPECT_FALSE((Range{0, 180, false, true}.contains(180)));
  EXPECT_FALSE((Range{1, 10, false, false, true}.contains(1.5)));
  for (const double no :
       {std::nan(""), std::numeric_limits<double>::infinity(), -std::numeric_limits<double>::infinity()}) {
    EXPECT_FALSE(any_number.contains(no));
  }
  EXPECT_EQ(positive.text(), "> 0");
  EXPECT_EQ(share.text(), "from 0 to 1");
  EXPECT_EQ((Range{1, unbounded, false, false, true}.text()), "a whole number >= 1");
}

TEST(Facings, AreSquareAndRollCounterClockwise) {
  std::mt19937 random(5);
  std::uniform_real_distribution<double> at(-2.0, 2.0);
  for (int i = 0; i < 200; ++i) {
    const Vec3 place{at(random), at(random), at(random)}, aim{at(random), at(random), at(random)};
    const Facing f = facing(place, aim, 90 * at(random));
    EXPECT_NEAR(length(f.right), 1, 1e-12);
    EXPECT_NEAR(length(f.up), 1, 1e-12);
    EXPECT_NEAR(dot(f.right, f.up), 0, 1e-12);
    EXPECT_NEAR(dot(f.up, f.ahead), 0, 1e-12);
    EXPECT_NEAR(dot(cross(f.ahead, f.up), f.right), 1, 1e-12);
  }
  // Looking along -Z, up is +Y and right is +X; a quarter roll counter-clockwise brings up to the left.
  const Facing level = facing({0, 0, 1}, {0, 0, 0});
  EXPECT_NEAR(level.right.x, 1, 1e-12);
  EXPECT_NEAR(level.up.y, 1, 1e-12);
  EXPECT_NEAR(facing({0, 0, 1}, {0, 0, 0}, 90).up.x, -1, 1e-12);
  EXPECT_NEAR(facing({0, 1, 0}, {0, 0, 0}).up.z, -1, 1e-12);  // vertical aim: world -Z
  EXPECT_NEAR(turned({0, 0, 1}, 90).x, 1, 1e-12);             // the front turns toward camera right
}

TEST(Words, AreEnglishUntilATranslatorComes) {
  EXPECT_EQ(said("{} of {} locked", 3, 4), "3 of 4 locked");
  set_translator([](const char* english) {
    const std::string text = english;
    return text == "{} of {} locked" ? std::string("von {1} sind {0} fest")
           : text == "broken {}"     ? "{0} {1} {7}"
                                     : "";
  });
  EXPECT_EQ(said("{} of {} locked", 3, 4), "von 4 sind 3 fest");
  EXPECT_EQ(said("{} mm", 5), "5 mm") << "what is not known stays";
  EXPECT_EQ(said("broken {}", 1), "broken 1") << "places that do not fit are passed over";
  EXPECT_EQ(in_words("plain"), "plain");
  set_translator({});
  EXPECT_EQ(said("{} of {} locked", 3, 4), "3 of 4 locked");
}

TEST(Words, AreCountedInOneOfTwoPatterns) {
  EXPECT_EQ(counted(0, "{} change", "{} changes"), "0 changes");
  EXPECT_EQ(counted(1, "{} change", "{} changes"), "1 change");
  EXPECT_EQ(counted(std::size_t{2}, "{} change", "{} changes"), "2 changes");
}

TEST(Words, AreFoundWholeAndNotWithinOthers) {
  EXPECT_TRUE(has_word("Water, still", "water"));
  EXPECT_TRUE(has_word("distilled WATER", "water"));
  EXPECT_FALSE(has_word("Material", "ater"));
  EXPECT_FALSE(has_word("Waterproof tape", "water"));
  EXPECT_FALSE(has_word("Rosewater", "water"));
  EXPECT_FALSE(has_word("w\xC3\xA4ter", "ter")) << "letters beyond ASCII are part of words";
  EXPECT_FALSE(has_word("anything", ""));
}

}  // namespace
}  // namespace cinnabar
