// Shot lists from plain words and from tables: what is understood, joined by id, refused line by line, and what
// both sides changed.
#include "cinnabar/formats/shot_list.h"

#include "cinnabar/base/encoding.h"

#include <random>

#include "cinnabar/formats/shots_batch.h"
#include "cinnabar/formats/tables.h"
#include "worlds.h"

namespace cinnabar {
namespace {

Document bare() { return *Document::from_json(worlds::bare()); }
const Json& shot_of(const Document& d, std::size_t i) { return *d.list("shots").at(i); }

TEST(ShotWords, AreReadInAnyOrder) {
  const auto read = shots_from_words(bare(),
                                     "1. Hero reveal, wide, 3 s\n"
                                     "\n"
                                     "  2) macro - Drops on the lid - 36 frames - f/8\n"
                                     "Shot 3: Pour; 100 fps; 4x slow; close-up; slow and thick\n"
                                     "* End card, 50 mm, set-up bench, leave room for words\n");
  ASSERT_TRUE(read) << read.error().text();
  EXPECT_TRUE(read->faults.empty()) << read->faults.front();
  EXPECT_EQ(read->added, 4);
  const Document after = applied(bare(), read->edit);
  EXPECT_TRUE(validate(after).empty());
  ASSERT_EQ(after.list("shots").size(), 5u);
  EXPECT_EQ(shot_of(after, 1)["name"], "Hero reveal");
  EXPECT_EQ(shot_of(after, 1)["size"], "wide");
  EXPECT_EQ(shot_of(after, 1)["screen_time"], 3.0);
  EXPECT_EQ(shot_of(after, 2)["name"], "Drops on the lid");
  EXPECT_EQ(shot_of(after, 2)["size"], "macro");
  EXPECT_NEAR(shot_of(after, 2)["screen_time"].get<double>(), 36 / 25.0, 1e-9);
  EXPECT_EQ(shot_of(after, 2)["camera"]["f_number"], 8.0);
  EXPECT_EQ(shot_of(after, 3)["camera"]["mode"], "m100");
  EXPECT_EQ(shot_of(after, 3)["camera"]["shutter_time"], 0.005);
  EXPECT_EQ(shot_of(after, 3)["needs"]["slow"], 4.0);
  EXPECT_EQ(shot_of(after, 3)["notes"], "slow and thick");
  EXPECT_EQ(shot_of(after, 4)["setup"], "A") << "by its name";
  EXPECT_EQ(shot_of(after, 4)["notes"], "leave room for words");
}

TEST(ShotWords, SayWhatTheyDoNotUnderstandLineByLine) {
  const auto read =
      shots_from_words(bare(), "Good, 2 s\nBad, 0 s\nFar, 400 mm\nFast, 960 fps\nElsewhere, set-up Q\n,,,\n");
  ASSERT_TRUE(read);
  EXPECT_EQ(read->added, 1);
  ASSERT_EQ(read->faults.size(), 5u);
  EXPECT_EQ(read->faults[0], "line 2: \"0 s\" is no length");
  EXPECT_EQ(read->faults[1], "line 3: no lens of the kit is 400 mm");
  EXPECT_EQ(read->faults[2], "line 4: no camera of the kit records 960 a second");
  EXPECT_EQ(read->faults[3], "line 5: there is no set-up \"Q\"");
  EXPECT_EQ(read->faults[4], "line 6: says nothing");
}

TEST(ShotWords, StartAnEmptyProject) {
  const Document empty = empty_document("New");
  const auto read = shots_from_words(empty, "Opening\nClosing, 2 s\n");
  ASSERT_TRUE(read);
  const Document after = applied(empty, read->edit);
  EXPECT_TRUE(validate(after).empty());
  EXPECT_EQ(after.list("shots").size(), 2u);
  EXPECT_EQ(after.list("setups").size(), 1u);
}

TEST(ShotWords, HostileListsNeitherCrashNorMakeAnInvalidProject) {
  std::mt19937 random(5);
  const std::string letters = "abc 0123456789.,;|-\t\n\r\"'/f/sx mm fps\xC3\xA9\xFF{}[]\\";
  for (int k = 0; k < 300; ++k) {
    std::string text;
    for (int i = 0; i < 200; ++i) text += letters[random() % letters.size()];
    const auto read = shots_from_words(bare(), text);
    if (!read) {  // a text in no encoding at all
      EXPECT_NE(read.error().text().find("line "), std::string::npos) << read.error().text();
      EXPECT_FALSE(is_utf8(text));
      continue;
    }
    EXPECT_TRUE(validate(applied(bare(), read->edit)).empty()) << text;
  }
  EXPECT_FALSE(shots_from_words(bare(), std::string(2 << 20, 'x')));
  for (const char* text :
       {"1e999 s", "nan s", "-3 frames, inf mm", "x, 1e308 mm", "x, f/0", "x, f/-1", "x, 99999999 s"})
    EXPECT_TRUE(validate(applied(bare(), shots_from_words(bare(), text)->edit)).empty()) << text;
}

std::string table_of(const Document& d) {
  ProjectReader reader;
  return csv_written(shot_table(reader.read(d)));
}
std::string replaced(std::string text, const std::string& from, const std::string& to) {
  const auto at = text.find(from);
  EXPECT_NE(at, std::string::npos) << from;
  return text.replace(at, from.size(), to);
}

TEST(ShotTableIn, WrittenAndReadBackChangesNothing) {
  const Document d = bare();
  const auto read = shots_from_table(d, table_of(d), "t.csv");
  ASSERT_TRUE(read) << read.error().text();
  EXPECT_TRUE(read->edit.changes.empty());
  EXPECT_TRUE(read->faults.empty());
  EXPECT_TRUE(read->conflicts.empty());
}

TEST(ShotTableIn, ChangesByIdAndAddsTheRest) {
  const Document d = bare();
  const auto read = shots_from_table(
      d, "id,name,screen time s,focal mm,f-number\ns1,Renamed,1.5,50,4\nnew,Added,2,,\n,Third,1,,\n", "t.csv");
  ASSERT_TRUE(read) << read.error().text();
  EXPECT_TRUE(read->faults.empty()) << read->faults.front();
  EXPECT_EQ(read->changed, 1);
  EXPECT_EQ(read->added, 2);
  const Document after = applied(d, read->edit);
  EXPECT_TRUE(validate(after).empty());
  EXPECT_EQ(shot_of(after, 0)["name"], "Renamed");
  EXPECT_EQ(shot_of(after, 0)["camera"]["f_number"], 4.0);
  EXPECT_EQ(shot_of(after, 1)["id"], "new");
  EXPECT_EQ(shot_of(after, 2)["name"], "Third");
}

TEST(ShotTableIn, RefusesLineByLineAndKeepsTheRest) {
  const auto read = shots_from_table(
      bare(), "id,iso,lens,screen time s\ns1,lots,fifty,1\ns1,400,fifty,1\nn2,400,eighty,1\nn3,400,,-1\n",
      "t.csv");
  ASSERT_TRUE(read);
  ASSERT_EQ(read->faults.size(), 4u);
  EXPECT_EQ(read->faults[0], "line 2: \"lots\" is no number for iso");
  EXPECT_NE(read->faults[1].find("stands twice"), std::string::npos);
  EXPECT_NE(read->faults[2].find("eighty"), std::string::npos);
  EXPECT_NE(read->faults[3].find("screen_time"), std::string::npos);
  EXPECT_TRUE(read->edit.changes.empty());
  EXPECT_FALSE(shots_from_table(bare(), "what,ever\n1,2\n", "t.csv"));
  EXPECT_FALSE(shots_from_table(bare(), "", "t.csv"));
  EXPECT_FALSE(shots_from_table(bare(), "id\n\"open", "t.csv"));
}

TEST(ShotTableIn, ShowsWhatBothSidesChanged) {
  const Document written = bare();
  const std::string table = replaced(table_of(written), ",One,", ",Theirs,");
  // Only they changed it: it is taken.
  EXPECT_EQ(shots_from_table(written, table, "t.csv")->changed, 1);
  // Here the ISO was changed meanwhile: the name is theirs to choose, and so is the old ISO.
  const Document here = *with_value(written, "/shots/0/camera/iso", 1600);
  const auto both = shots_from_table(here, table, "t.csv");
  ASSERT_TRUE(both);
  EXPECT_EQ(both->changed, 0);
  EXPECT_TRUE(both->edit.changes.empty());
  ASSERT_EQ(both->conflicts.size(), 2u);
  EXPECT_EQ(both->conflicts[0].field, "name");
  EXPECT_EQ(both->conflicts[0].mine, "One");
  EXPECT_EQ(both->conflicts[0].theirs, "Theirs");
  EXPECT_EQ(both->conflicts[1].field, "iso");
  EXPECT_EQ(both->conflicts[1].mine, "1600");
  // Taken one by one.
  const Document chosen = applied(here, conflicts_taken(here, {both->conflicts[0]}));
  EXPECT_EQ(shot_of(chosen, 0)["name"], "Theirs");
  EXPECT_EQ(shot_of(chosen, 0)["camera"]["iso"], 1600);
  // Changed here only, the table as it was: nothing of it is theirs.
  const auto mine = shots_from_table(here, table_of(written), "t.csv");
  EXPECT_TRUE(mine->conflicts.empty());
  EXPECT_TRUE(mine->edit.changes.empty());
}

TEST(ShotTableIn, AnInvalidRowHarmsNoOtherInALongList) {
  std::string table = "id,name,size,screen time s\n";
  for (int k = 0; k < 3000; ++k)
    table += "n" + std::to_string(k) + ",Shot,close," + (k == 1500 ? "-1" : "2") + "\n";
  const auto read = shots_from_table(bare(), table, "t.csv");
  ASSERT_TRUE(read);
  EXPECT_EQ(read->added, 2999);
  ASSERT_EQ(read->faults.size(), 1u);
  EXPECT_EQ(read->faults[0].find("line 1502: /shots/1501/screen_time"), 0u) << read->faults[0];
  EXPECT_TRUE(validate(applied(bare(), read->edit)).empty());
}

TEST(ShotWords, AShotIsLikeTheLastGoodOneOfItsSetup) {
  const auto read = shots_from_words(bare(), "First, f/4\nBad, f/0\nSecond\n");
  ASSERT_TRUE(read);
  EXPECT_EQ(read->added, 2);
  EXPECT_EQ(read->faults.size(), 1u);
  EXPECT_EQ(shot_of(applied(bare(), read->edit), 2)["camera"]["f_number"], 4.0);
  EXPECT_EQ(read->edit.title, "2 shots from a list");
  EXPECT_EQ(shots_from_words(bare(), "One, 2 s")->edit.title, "1 shot from a list");
}

TEST(ShotList, LooksAtNoTake) {
  // A take that would be fault to read lies in the document: whoever looks at it would be stopped.
  Json doc = worlds::bare();
  Document document = *Document::from_json(doc);
  StoredRows rows;
  rows.add("t1", "{\"id\":\"t1\", not even JSON", 0);
  document.lists["takes"] = std::move(rows).taken();
  const Project project = project_without_log(document);
  EXPECT_TRUE(project.takes.empty());
  const auto read = shots_from_words(document, "Lid, close, 2 s\n");
  ASSERT_TRUE(read);
  EXPECT_EQ(read->added, 1);
  EXPECT_TRUE(project.unreadable.empty()) << "it was not looked at";
}

}  // namespace
}  // namespace cinnabar
