// Tables as RFC 4180 has them, out and in, and what hostile ones do.
#include "cinnabar/formats/csv.h"

#include <gtest/gtest.h>

#include <random>

namespace cinnabar {
namespace {

std::vector<CsvRow> rows_of(std::string_view text) {
  const auto read = csv_read(text, "t.csv");
  if (!read) {
    ADD_FAILURE() << read.error().text();
    return {};
  }
  std::vector<CsvRow> rows;
  for (const CsvLine& line : *read) rows.push_back(line.fields);
  return rows;
}

TEST(Csv, WritesWhatRfc4180Shows) {  // RFC 4180, section 2: rules 1, 5, 6 and 7
  EXPECT_EQ(csv_written({{"aaa", "bbb", "ccc"}}), "aaa,bbb,ccc\r\n");
  EXPECT_EQ(csv_written({{"aaa", "b\r\nbb", "ccc"}}), "aaa,\"b\r\nbb\",ccc\r\n");
  EXPECT_EQ(csv_written({{"aaa", "b\"bb", "ccc"}}), "aaa,\"b\"\"bb\",ccc\r\n");
}

TEST(Csv, ReadsWhatRfc4180Shows) {
  EXPECT_EQ(rows_of("aaa,bbb,ccc\r\nzzz,yyy,xxx"),
            (std::vector<CsvRow>{{"aaa", "bbb", "ccc"}, {"zzz", "yyy", "xxx"}}));
  EXPECT_EQ(rows_of("\"aaa\",\"b\r\nbb\",\"ccc\"\r\nzzz,yyy,xxx\r\n"),
            (std::vector<CsvRow>{{"aaa", "b\r\nbb", "ccc"}, {"zzz", "yyy", "xxx"}}));
  EXPECT_EQ(rows_of("\"aaa\",\"b\"\"bb\",\"ccc\""), (std::vector<CsvRow>{{"aaa", "b\"bb", "ccc"}}));
}

TEST(Csv, ReadsWhatSpreadsheetsWrite) {
  EXPECT_EQ(rows_of("\xEF\xBB\xBFshot;number\nA;1\n"), (std::vector<CsvRow>{{"shot", "number"}, {"A", "1"}}));
  EXPECT_EQ(rows_of("a,b\r1,2\r"), (std::vector<CsvRow>{{"a", "b"}, {"1", "2"}}));
  EXPECT_EQ(rows_of("a,b\n\n\n1,2\n\n"), (std::vector<CsvRow>{{"a", "b"}, {"1", "2"}}));
  EXPECT_EQ(rows_of("a,,\n,,c"), (std::vector<CsvRow>{{"a", "", ""}, {"", "", "c"}}));
  EXPECT_TRUE(rows_of("").empty());
  EXPECT_TRUE(rows_of("\r\n\r\n").empty());
}

TEST(Csv, NamesTheLineOfAQuoteThatNeverCloses) {
  const auto read = csv_read("a,b\n1,2\n3,\"open\nand on", "takes.csv");
  ASSERT_FALSE(read);
  EXPECT_NE(read.error().text().find("line 3"), std::string::npos) << read.error().text();
  EXPECT_NE(read.error().text().find("takes.csv"), std::string::npos);
}

TEST(Csv, KeepsTheLineEachRowBeganOn) {
  const auto read = csv_read("a,b\n\"x\ny\",2\n3,4\n", "t.csv");
  ASSERT_TRUE(read);
  ASSERT_EQ(read->size(), 3u);
  EXPECT_EQ((*read)[1].line, 2u);
  EXPECT_EQ((*read)[2].line, 4u);
}

TEST(Csv, IsItsOwnInverseOnAnyText) {
  std::mt19937 random(7);
  const std::vector<std::string> alphabet{"a", "b", " ", ",", ";", "\"", "\r", "\n",       "\t",
                                          "=", "+", "-", "@", "'", "1",  ".",  "\xC3\xA9", "\xE2\x82\xAC"};
  for (int round = 0; round < 200; ++round) {
    std::vector<CsvRow> rows(1 + random() % 5);
    for (CsvRow& row : rows)
      for (unsigned k = 0; k < 2 + random() % 4; ++k) {
        std::string field = k == 0 ? "x" : "";
        for (unsigned n = random() % 8; n > 0; --n) field += alphabet[random() % alphabet.size()];
        row.push_back(field);
      }
    rows.insert(rows.begin(), {"one", "two", "three"});  // headings settle the separator
    EXPECT_EQ(rows_of(csv_written(rows)), rows);
  }
}

struct RunRow {
  const char *field, *written;
};
class CsvRun : public testing::TestWithParam<RunRow> {};
/// What a spreadsheet would take for a formula (OWASP, CSV Injection: = + - @, tab, carriage return).
TEST_P(CsvRun, IsWrittenAsTextAndReadBack) {
  EXPECT_EQ(csv_written({{GetParam().field}}), std::string(GetParam().written) + "\r\n");
  EXPECT_EQ(rows_of(csv_written({{"a"}, {GetParam().field}}))[1], CsvRow{GetParam().field});
}
INSTANTIATE_TEST_SUITE_P(Fields, CsvRun,
                         testing::Values(RunRow{"=1+1", "'=1+1"}, RunRow{"@sum", "'@sum"}, RunRow{"+cmd", "'+cmd"},
                                         RunRow{"-2+3", "'-2+3"}, RunRow{"-0.5", "-0.5"}, RunRow{"+3", "+3"},
                                         RunRow{"-0.1 0.2 0.5", "'-0.1 0.2 0.5"}, RunRow{"'=1", "''=1"},
                                         RunRow{"''-5", "'''-5"}, RunRow{"'twas", "'twas"}, RunRow{"'", "'"},
                                         RunRow{"=a,b", "\"'=a,b\""}, RunRow{"a=b", "a=b"}));

TEST(Csv, MarksTheRowsWhoseLettersCannotBeTold) {
  std::string note;
  const auto read = csv_read("a,b\ncaf\xC3\xA9,1\n\"x\n\xE9\",2\nfine,3\n", "t.csv", &note);
  ASSERT_TRUE(read);
  ASSERT_EQ(read->size(), 4u);
  EXPECT_FALSE((*read)[1].unreadable);
  EXPECT_TRUE((*read)[2].unreadable) << "its second line";
  EXPECT_FALSE((*read)[3].unreadable);
  EXPECT_NE(unreadable_row((*read)[2]).find("line 3"), std::string::npos);
}

TEST(Csv, SurvivesAnyBytes) {
  std::mt19937 random(11);
  for (int round = 0; round < 300; ++round) {
    std::string bytes;
    for (unsigned n = random() % 400; n > 0; --n) bytes += static_cast<char>(random() % 256);
    (void)csv_read(bytes, "t.csv");
  }
  std::string many(5000000, ',');
  EXPECT_FALSE(csv_read(many, "t.csv")) << "more fields than any table of takes has";
}

}  // namespace
}  // namespace cinnabar
