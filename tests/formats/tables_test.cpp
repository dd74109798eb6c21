// The shot list and the log as tables; takes read back, joined by shot and number.
#include "cinnabar/formats/tables.h"

#include "worlds.h"

namespace cinnabar {
namespace {

Json logged() {
  Json doc = worlds::bare();
  Json second = doc["shots"][0];
  second["id"] = "s2";
  second["name"] = "Two, with a comma";
  doc["shots"].push_back(second);
  doc["takes"] = {{{"id", "t1"},
                   {"shot", "s1"},
                   {"number", 1},
                   {"at", "2026-12-03T10:12:00"},
                   {"kept", false},
                   {"reasons", {"label late", "dust"}},
                   {"notes", "see \"board\""},
                   {"own", 7}},
                  {{"id", "t2"}, {"shot", "s2"}, {"number", 1}, {"kept", true}}};
  return doc;
}
Document document_of(const Json& doc) { return *Document::from_json(doc); }

std::string cell(const std::vector<CsvRow>& rows, std::size_t row, const std::string& heading) {
  for (std::size_t i = 0; i < rows[0].size(); ++i)
    if (rows[0][i] == heading) return rows[row][i];
  ADD_FAILURE() << heading;
  return {};
}

TEST(ShotTable, HasARowForEachShotWithItsSettings) {
  const auto rows = shot_table(worlds::read(logged()));
  ASSERT_EQ(rows.size(), 3u);
  for (const CsvRow& row : rows) EXPECT_EQ(row.size(), rows[0].size());
  EXPECT_EQ(cell(rows, 1, "number"), "1");
  EXPECT_EQ(cell(rows, 1, "focal mm"), "50");
  EXPECT_EQ(cell(rows, 1, "shutter s"), "0.02");
  EXPECT_EQ(cell(rows, 1, "camera place m"), "0 0.05 1");
  EXPECT_EQ(cell(rows, 2, "name"), "Two, with a comma");
  EXPECT_EQ(cell(rows, 2, "takes"), "1");
  EXPECT_EQ(cell(rows, 2, "kept"), "1");
}

TEST(ShotTable, LeavesACameraOutThatIsNotThere) {
  Json doc = logged();
  doc["shots"][0].erase("camera");
  EXPECT_EQ(cell(shot_table(worlds::read(doc)), 1, "ISO"), "");
}

TEST(TakeTable, ReadBackAsItWasWrittenChangesNothing) {
  const Json doc = logged();
  const auto read = takes_from_table(document_of(doc), csv_written(take_table(worlds::read(doc))), "takes.csv");
  ASSERT_TRUE(read) << read.error().text();
  EXPECT_TRUE(read->faults.empty());
  EXPECT_EQ(read->added, 0);
  const Json after = applied(document_of(doc), read->edit).to_json();
  EXPECT_EQ(after["takes"][0], doc["takes"][0]) << "unknown members stay";
}

TEST(TakeTable, AddsAndChangesByShotAndNumber) {
  const Document doc = document_of(logged());
  const auto read = takes_from_table(doc,
                                     "Shot,Number,Kept,Reasons,Notes\n"
                                     "s1,1,yes,,now good\n"
                                     "2,2,no,\"smeared; late\",\n",
                                     "takes.csv");
  ASSERT_TRUE(read) << read.error().text();
  EXPECT_EQ(read->added, 1);
  EXPECT_EQ(read->changed, 1);
  const Document after = applied(doc, read->edit);
  EXPECT_TRUE(validate(after).empty());
  const Json takes = after.to_json()["takes"];
  EXPECT_EQ(takes[0]["kept"], true);
  EXPECT_EQ(takes[0]["notes"], "now good");
  EXPECT_EQ(takes[0]["at"], "2026-12-03T10:12:00") << "a column that is not there changes nothing";
  EXPECT_EQ(takes[2]["shot"], "s2");
  EXPECT_EQ(takes[2]["reasons"], Json({"smeared", "late"}));
}

TEST(TakeTable, ReportsLineByLineWhatCannotBeRead) {
  const Document doc = document_of(logged());
  const auto read = takes_from_table(doc,
                                     "shot,number,kept\n"
                                     "nowhere,1,yes\n"
                                     "s1,zero,yes\n"
                                     "s1,2,perhaps\n"
                                     "s1,3,yes\n"
                                     "s1,3,no\n"
                                     "s1,1.5,no\n"
                                     "s1,1e9,no\n"
                                     "9,1,no\n",
                                     "takes.csv");
  ASSERT_TRUE(read);
  EXPECT_EQ(read->added, 1);
  ASSERT_EQ(read->faults.size(), 7u);
  EXPECT_EQ(read->faults[0].rfind("line 2: ", 0), 0u) << read->faults[0];
  EXPECT_NE(read->faults[3].find("twice"), std::string::npos) << read->faults[3];
}

TEST(TakeTable, WithoutItsHeadingsIsRefused) {
  const Document doc = document_of(logged());
  for (const char* text : {"", "\n\n", "a,b,c\n1,2,3\n", "shot,kept\ns1,yes\n", "number\n1\n"}) {
    const auto read = takes_from_table(doc, text, "takes.csv");
    ASSERT_FALSE(read) << text;
    EXPECT_NE(read.error().text().find("takes.csv"), std::string::npos);
  }
}

}  // namespace
}  // namespace cinnabar
