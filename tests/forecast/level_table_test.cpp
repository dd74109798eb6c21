// The table of levels: a row says everything, and says it once.
#include "cinnabar/forecast/level_table.h"

#include <set>

#include "cinnabar/base/files.h"
#include "cinnabar/forecast/levels/schools.h"
#include "judging.h"

namespace cinnabar {
namespace {

// Own behaviour.
TEST(LevelTable, RowsAreWholeAndTheirIdsTheirOwn) {
  std::set<std::string> ids;
  for (const LevelRow& row : level_table()) {
    SCOPED_TRACE(row.id);
    EXPECT_TRUE(ids.insert(row.id).second);
    EXPECT_TRUE(std::string(row.id).starts_with(std::string(group_name(row.group)) + "."));
    EXPECT_NE(std::string(row.title), "");
    EXPECT_LE(std::string(row.brief).size(), 9u) << "there is little room";
    EXPECT_NE(std::string(row.why), "");
    EXPECT_NE(row.unit, Unit::none);
    EXPECT_NE(row.of_shot == nullptr, row.of_spot == nullptr) << "of a shot or of the spot";
    EXPECT_EQ(row.of_spot != nullptr, row.group == Group::spot);
    // Nobody reads cautions for another.
    EXPECT_EQ(row.of_shot != nullptr && row.unit != Unit::unread, !row.knobs.empty());
    EXPECT_TRUE(!row.rule || schools(*row.rule).size() >= 2) << row.id;
    EXPECT_EQ(level_row(row.id), &row);
  }
  EXPECT_EQ(level_row("light.nonsense"), nullptr);
}

// Own behaviour.
TEST(LevelTable, IsWhatTheDocumentationTells) {
  const auto text = read_file(std::string(CINNABAR_SOURCE) + "/docs/levels.md");
  ASSERT_TRUE(text);
  for (const LevelRow& row : level_table())
    EXPECT_NE(text->find("| `" + std::string(row.id) + "` |"), std::string::npos) << row.id;
}

// Own behaviour.
TEST(LevelTable, EveryLevelOfAShotBearsItsRowsUnitAndTitle) {
  for (const Level& l : Forecaster(MeasureQuality{16, 1, 4, 2}).levels(worlds::read(judging::can()), 0)) {
    const LevelRow* row = level_row(l.id);
    ASSERT_NE(row, nullptr) << l.id;
    EXPECT_EQ(l.unit, row->unit) << l.id;
    EXPECT_TRUE(l.title.starts_with(row->title) || row->title == std::string("Focus depth over the label"))
        << l.title;
  }
}

struct Written {
  Unit unit;
  double value;
  const char* text;
};
class UnitValues : public testing::TestWithParam<Written> {};
// Own behaviour.
TEST_P(UnitValues, AreWrittenInFewLetters) {
  EXPECT_EQ(value_text({.unit = GetParam().unit, .value = GetParam().value}), GetParam().text);
}
INSTANTIATE_TEST_SUITE_P(
    Units, UnitValues,
    testing::Values(Written{Unit::stops, 1.26, "1.3 stops"}, Written{Unit::signed_stops, 0.34, "+0.3 stops"},
                    Written{Unit::stops_under_clip, 0.5, "0.5 under clip"},
                    Written{Unit::mired, -101, "-101 mired"}, Written{Unit::frames, 0.01, "0 frames"},
                    Written{Unit::frames, 2, "+2.0 frames"}, Written{Unit::spare_mm, -3.2, "3.2 mm short"},
                    Written{Unit::spare_mm, 3.2, "3.2 mm spare"},
                    Written{Unit::spare_metres, -0.2, "0.20 m too near"}, Written{Unit::missing, 0, "all there"},
                    Written{Unit::missing, 2, "2 missing"}, Written{Unit::unlocked, 4, "4 open"},
                    Written{Unit::iso, 800, "800"}, Written{Unit::frame_share, 62.3, "62 % of frame"},
                    Written{Unit::seconds, 6.7123, "6.71 s"}, Written{Unit::percent, 12.34, "12.3 %"}));

// Own behaviour.
TEST(UnitText, ThatCannotBeToldSaySo) { EXPECT_EQ(value_text({.unit = Unit::px}), "cannot be told"); }

}  // namespace
}  // namespace cinnabar
