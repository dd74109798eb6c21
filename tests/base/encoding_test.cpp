// What encoding bytes are in, and texts cut between two letters.
#include "cinnabar/base/encoding.h"

#include <gtest/gtest.h>

#include <random>

namespace cinnabar {
namespace {

using std::string_view_literals::operator""sv;

TEST(Utf8, TellsWellFormedSequencesFromOthers) {
  // RFC 3629, section 7, examples: "A<NOT IDENTICAL TO><ALPHA>.", Korean, Japanese, the Chinese character for
  // "stump".
  for (const std::string_view text : {"A\xE2\x89\xA2\xCE\x91."sv, "\xED\x95\x9C\xEA\xB5\xAD\xEC\x96\xB4"sv,
                                      "\xE6\x97\xA5\xE6\x9C\xAC\xE8\xAA\x9E"sv, "\xF0\xA3\x8E\xB4"sv, ""sv})
    EXPECT_TRUE(is_utf8(text)) << text;
  // RFC 3629, section 3 (surrogates, over U+10FFFF) and section 10 (over long forms).
  for (const std::string_view text : {"\xC0\x80"sv, "\xC1\xBF"sv, "\xE0\x9F\xBF"sv, "\xED\xA0\x8C"sv,
                                      "\xF4\x90\x80\x80"sv, "\xF8\x88\x80\x80\x80"sv, "\x80"sv, "ab\xE2\x89"sv})
    EXPECT_FALSE(is_utf8(text));
  EXPECT_EQ(utf8_length("caf\xC3\xA9 \xFF x"sv), 6u);
}

struct Cut {
  const char* text;
  std::size_t bytes;
  const char* wanted;
};
class Clipped : public testing::TestWithParam<Cut> {};
TEST_P(Clipped, EndsBetweenTwoLetters) {
  EXPECT_EQ(clipped(GetParam().text, GetParam().bytes), GetParam().wanted);
}
INSTANTIATE_TEST_SUITE_P(Values, Clipped,
                         testing::Values(Cut{"short", 5, "short"}, Cut{"longer", 5, "lo..."},
                                         Cut{"\xC3\xA9\xC3\xA9\xC3\xA9", 5, "\xC3\xA9..."},
                                         Cut{"a\xC3\xA9\xC3\xA9\xC3\xA9", 5, "a..."},
                                         Cut{"\xF0\xA3\x8E\xB4\xF0\xA3\x8E\xB4", 6, "..."}, Cut{"", 0, ""},
                                         Cut{"abc", 0, "..."}));

TEST(Clipped, IsNeverBrokenAndNeverLonger) {
  std::mt19937 random(3);
  const std::vector<std::string> letters{"a", "\xC3\xA9", "\xE2\x82\xAC", "\xF0\xA3\x8E\xB4"};
  for (int k = 0; k < 500; ++k) {
    std::string text;
    for (unsigned n = random() % 30; n > 0; --n) text += letters[random() % letters.size()];
    const std::size_t room = 3 + random() % 40;
    const std::string cut = clipped(text, room);
    EXPECT_TRUE(is_utf8(cut));
    EXPECT_LE(cut.size(), std::max(room, text.size()));
    EXPECT_EQ(cut == text, text.size() <= room);
  }
}

struct Coded {
  const char* what;
  std::string_view bytes;
  const char* text;
  const char* note;
};
class Decoded : public testing::TestWithParam<Coded> {};
TEST_P(Decoded, IsReadAsItsMarkOrItsLettersSay) {
  const auto read = decoded_text(GetParam().bytes, "x");
  ASSERT_TRUE(read) << GetParam().what << ": " << read.error().text();
  EXPECT_EQ(read->text, GetParam().text) << GetParam().what;
  EXPECT_EQ(read->note, GetParam().note) << GetParam().what;
  EXPECT_TRUE(read->bad_lines.empty()) << GetParam().what;
}
INSTANTIATE_TEST_SUITE_P(
    Values, Decoded,
    testing::Values(
        Coded{"UTF-8", "caf\xC3\xA9\n"sv, "caf\xC3\xA9\n", ""},
        Coded{"UTF-8 with its mark",
              "\xEF\xBB\xBF"
              "caf\xC3\xA9"sv,
              "caf\xC3\xA9", ""},
        // RFC 2781, section 5: U+12345 "=Ra" in both orders.
        Coded{"UTF-16 big-endian", "\xFE\xFF\xD8\x08\xDF\x45\x00\x3D\x00\x52\x00\x61"sv, "\xF0\x92\x8D\x85=Ra",
              "read as UTF-16"},
        Coded{"UTF-16 little-endian", "\xFF\xFE\x08\xD8\x45\xDF\x3D\x00\x52\x00\x61\x00"sv, "\xF0\x92\x8D\x85=Ra",
              "read as UTF-16"},
        Coded{"UTF-16 without a mark", "s\0h\0o\0t\0,\0n\0\n\0"sv, "shot,n\n", "read as UTF-16"},
        // IANA character sets, windows-1252: 0x80 is the euro sign, 0xE9 is e with acute, as in ISO 8859-1.
        Coded{"Latin-1", "caf\xE9 1 \x80\n"sv, "caf\xC3\xA9 1 \xE2\x82\xAC\n", "read as windows-1252"},
        Coded{"nothing", ""sv, "", ""}));

TEST(Decoding, NamesTheLinesThatAreInNoEncodingAndKeepsTheRest) {
  const auto mixed = decoded_text("caf\xC3\xA9\nbad \xE9 one\ngood\n\xFF\n", "list.csv");
  ASSERT_TRUE(mixed);
  EXPECT_EQ(mixed->bad_lines, (std::vector<std::size_t>{2, 4}));
  EXPECT_TRUE(is_utf8(mixed->text));
  EXPECT_NE(mixed->text.find("good"), std::string::npos);
  const auto surrogate = decoded_text("\xFF\xFE\x08\xD8\x0A\x00x\x00"sv, "x");
  ASSERT_TRUE(surrogate);
  EXPECT_EQ(surrogate->bad_lines, (std::vector<std::size_t>{1}));
  const auto binary = decoded_text("line\nP\0\0\1\2"sv, "list.csv");
  ASSERT_FALSE(binary);
  EXPECT_NE(binary.error().text().find("list.csv: line 2"), std::string::npos) << binary.error().text();
  EXPECT_EQ(binary.error().fault, Fault::input);
}

TEST(Decoding, GivesUtf8WhateverTheBytes) {
  std::mt19937 random(17);
  for (int k = 0; k < 2000; ++k) {
    std::string bytes;
    for (unsigned n = random() % 40; n > 0; --n) bytes += static_cast<char>(random() % 256);
    if (const auto read = decoded_text(bytes, "x")) {
      EXPECT_TRUE(is_utf8(read->text));
    }
    EXPECT_TRUE(is_utf8(made_utf8(bytes)));
  }
}

}  // namespace
}  // namespace cinnabar
