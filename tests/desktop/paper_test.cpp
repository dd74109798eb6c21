// Shot cards and the shot list on paper.

#include <QFile>
#include <QProcess>

#include "cinnabar/desktop/paper/papers.h"
#include "cinnabar/planning/order.h"
#include "window_fixture.h"
#include "worlds.h"

namespace cinnabar {
namespace {

class PaperTest : public testing::Test {
 protected:
  void SetUp() override {
    std::string name = (fs::temp_directory_path() / "cinnabar-paper-XXXXXX").string();
    folder_ = ::mkdtemp(name.data());
    const std::string file = (folder_ / "d.cinnabar").string();
    ASSERT_TRUE(make_demo(file));
    ProjectReader reader;
    project_ = reader.read(*read_document(file));
    pdf_ = QString::fromStdString((folder_ / "out.pdf").string());
  }
  void TearDown() override { fs::remove_all(folder_); }
  /// How many pages the file says it has (the page tree's count, ISO 32000-1, 7.7.3.2).
  int pages() {
    QFile file(pdf_);
    if (!file.open(QIODevice::ReadOnly)) return -1;
    const QByteArray bytes = file.readAll();
    if (!bytes.startsWith("%PDF-")) return -2;
    const qsizetype at = bytes.indexOf("/Count ");
    return at < 0 ? -3 : atoi(bytes.constData() + at + 7);
  }
  /// The words on its pages, read back by poppler's pdftotext.
  QString words() {
    QProcess reader;
    reader.start("pdftotext", {"-layout", pdf_, "-"});
    EXPECT_TRUE(reader.waitForFinished(20000)) << "pdftotext (poppler-utils) is needed";
    return QString::fromUtf8(reader.readAllStandardOutput());
  }
  fs::path folder_;
  Project project_;
  QString pdf_;
};

TEST_F(PaperTest, ThereIsACardForEveryShot) {
  std::vector<int> told;
  CardOptions options;
  options.picture_width = 96;
  options.progress = [&](int done, int all) {
    told.push_back(done);
    EXPECT_EQ(all, 8);
  };
  ASSERT_TRUE(writePaper(Paper::cards, project_, pdf_, options));
  EXPECT_EQ(words().count("takes planned"), 8);
  EXPECT_EQ(words().count("Cautions"), 8) << "on the next page where they do not fit";
  EXPECT_LE(pages(), 9);
  EXPECT_EQ(told, (std::vector<int>{1, 2, 3, 4, 5, 6, 7, 8}));
}

TEST_F(PaperTest, ACardSaysWhoDoesWhatWhenAndGoesOnOverThePage) {
  CardOptions options;
  options.pictures = false;
  ASSERT_TRUE(writePaper(Paper::cards, project_, pdf_, options));
  const QString once = words();
  for (const char* one : {"helper 1", "camera runs, count in", "upright again", "from the side", "After: "})
    EXPECT_TRUE(once.contains(one)) << one;
  // With ten effects it does not fit any more: nothing is lost, each page has its foot and its own number.
  auto shot = std::make_shared<Shot>(*project_.shots[3]);
  for (int k = 0; k < 9; ++k) {
    shot->effects.push_back(shot->effects.front());
    shot->effects.back().id += std::to_string(k);
    shot->effects.back().name = "Handful " + std::to_string(k + 2);
  }
  project_.shots[3] = shot;
  ASSERT_TRUE(writePaper(Paper::cards, project_, pdf_, options));
  EXPECT_GT(pages(), 8);
  const QString more = words();
  EXPECT_TRUE(more.contains("Handful 10"));
  EXPECT_TRUE(more.contains("page " + QString::number(pages())));
  EXPECT_GE(more.count("Cautions"), once.count("Cautions"));
}

TEST_F(PaperTest, ACancelledRunLeavesNoFile) {
  std::atomic<bool> cancel{false};
  CardOptions options;
  options.pictures = false;
  options.cancel = &cancel;
  options.progress = [&](int done, int) { cancel = done == 3; };
  const auto written = writePaper(Paper::cards, project_, pdf_, options);
  ASSERT_FALSE(written);
  EXPECT_NE(written.error().text().find("cancelled"), std::string::npos);
  EXPECT_FALSE(QFile::exists(pdf_));
}

TEST_F(PaperTest, AFolderThatIsNotThereIsSaid) {
  const auto written = writePaper(Paper::list, project_, "/no/such/folder/list.pdf");
  ASSERT_FALSE(written);
  EXPECT_EQ(written.error().fault, Fault::output);
  EXPECT_FALSE(writePaper(Paper::cards, project_, "/no/such/folder/cards.pdf"));
}

TEST_F(PaperTest, ALongListIsPaginated) {
  ASSERT_TRUE(writePaper(Paper::list, project_, pdf_));
  EXPECT_EQ(pages(), 1);
  for (int k = 0; k < 112; ++k) project_.shots.push_back(project_.shots[static_cast<std::size_t>(k % 8)]);
  ASSERT_TRUE(writePaper(Paper::list, project_, pdf_));
  EXPECT_GE(pages(), 3);
}

TEST_F(PaperTest, TheClientsBoardHasSixShotsAPage) {
  CardOptions options;
  options.picture_width = 64;
  ASSERT_TRUE(writePaper(Paper::board, project_, pdf_, options));
  EXPECT_EQ(pages(), 2);
  options.pictures = false;
  auto wordy = std::make_shared<Shot>(*project_.shots[0]);
  wordy->notes = std::string(5000, 'n');
  wordy->sound = std::string(5000, 's');
  project_.shots[0] = wordy;
  for (int k = 0; k < 5; ++k) project_.shots.push_back(project_.shots[1]);
  ASSERT_TRUE(writePaper(Paper::board, project_, pdf_, options));
  EXPECT_EQ(pages(), 3);
  EXPECT_FALSE(writePaper(Paper::board, project_, "/no/such/folder/board.pdf"));
}

TEST_F(PaperTest, TheCrewsBoardRunsInTheOrderOfShooting) {
  CardOptions options;
  options.pictures = false;
  project_.house_rules[HouseRule::order] = static_cast<std::size_t>(OrderRule::fewest_moves);
  ASSERT_TRUE(writePaper(Paper::crew, project_, pdf_, options));
  EXPECT_EQ(pages(), 3);
  const QString text = words();
  EXPECT_TRUE(text.contains("for the crew"));
  EXPECT_TRUE(text.contains("first fewest moves"));
  EXPECT_TRUE(text.contains("plan, 1:"));
  qsizetype last = -1;
  for (const std::size_t i : shooting_order(project_)) {
    const qsizetype at = text.indexOf(QString::fromStdString(project_.shots[i]->name));
    EXPECT_GT(at, last) << i;
    last = at;
  }
  for (const auto& setup : project_.setups)
    if (std::any_of(project_.shots.begin(), project_.shots.end(),
                    [&](const auto& s) { return s->setup == setup->id; })) {
      EXPECT_EQ(text.count(QString::fromStdString("Set-up " + setup->id + ", ")), 1)
          << "rigged once: " << setup->id;
    }
  Project empty;
  ASSERT_TRUE(writePaper(Paper::crew, empty, pdf_, options));
  EXPECT_TRUE(words().contains("No shots yet."));
  EXPECT_FALSE(writePaper(Paper::crew, project_, "/no/such/folder/board.pdf"));
}

TEST_F(PaperTest, TheClientsBoardSaysWhereItRuns) {
  CardOptions options;
  options.pictures = false;
  project_.deliverables[0].loudness = -14;
  ASSERT_TRUE(writePaper(Paper::board, project_, pdf_, options));
  EXPECT_TRUE(words().contains("16:9, 1920 x 1080")) << words().toStdString();
  EXPECT_TRUE(words().contains("-14 LUFS"));
}

TEST_F(PaperTest, NothingAndVeryLongNamesAreWrittenToo) {
  CardOptions options;
  options.pictures = false;
  Project empty;
  empty.name = "Empty";
  ASSERT_TRUE(writePaper(Paper::cards, empty, pdf_, options));
  EXPECT_EQ(pages(), 1);
  auto longest = std::make_shared<Shot>(*project_.shots[0]);
  longest->name = std::string(400, 'w');
  longest->camera.reset();
  longest->setup = "nowhere";
  project_.shots[0] = longest;
  ASSERT_TRUE(writePaper(Paper::cards, project_, pdf_, options));
  EXPECT_EQ(pages(), 8);
}

TEST_F(PaperTest, ItsWordsAreReadBackByAnotherProgram) {
  CardOptions options;
  options.pictures = false;
  auto shot = std::make_shared<Shot>(*project_.shots[1]);
  shot->plates = {"clean plate", "jar on its stand"};
  project_.shots[1] = shot;
  ASSERT_TRUE(writePaper(Paper::cards, project_, pdf_, options));
  QString text = words();
  for (const auto& s : project_.shots) EXPECT_TRUE(text.contains(QString::fromStdString(s->name))) << s->name;
  EXPECT_TRUE(text.contains("Plates: clean plate; jar on its stand"));
  EXPECT_TRUE(text.contains("page 8"));
  ASSERT_TRUE(writePaper(Paper::board, project_, pdf_, options));
  text = words();
  EXPECT_TRUE(text.contains("Slow Burn"));
  EXPECT_TRUE(text.contains("page 2"));
  EXPECT_TRUE(text.contains("low swell")) << "the sound of shot 1";
  ASSERT_TRUE(writePaper(Paper::list, project_, pdf_));
  EXPECT_TRUE(words().contains("20 s in all, 20 allowed") || words().contains("20 s in all, 20 s"))
      << words().toStdString();
}

struct CautionRow {
  const char* pointer;
  Json value;
  const char* told;
};
class CardCaution : public PaperTest, public testing::WithParamInterface<CautionRow> {};
/// Each hazard by itself, on the first shot of a set-up that has none, read back from the card.
TEST_P(CardCaution, StandsOnTheCardInWords) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "matte"}}, false);
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0.5, 0.8, 0.5}, {0, 0.05, 0}, 0.5, 0.7, 4000));
  doc["kit"]["lights"] = {{{"id", "lamp"}, {"watts", 100}}};
  doc["setups"][0]["lights"][0]["kit"] = "lamp";
  CardOptions options;
  options.pictures = false;
  ASSERT_TRUE(writePaper(Paper::cards, worlds::read(doc), pdf_, options));
  EXPECT_FALSE(words().contains(GetParam().told)) << "nothing of it yet";
  doc[Json::json_pointer(GetParam().pointer)] = GetParam().value;
  ASSERT_TRUE(writePaper(Paper::cards, worlds::read(doc), pdf_, options));
  const QString text = words().simplified();
  EXPECT_TRUE(text.contains(GetParam().told)) << text.toStdString();
  EXPECT_TRUE(text.contains("This list is no permission.")) << "and never as a permission";
}
INSTANTIATE_TEST_SUITE_P(
    Hazards, CardCaution,
    testing::Values(CautionRow{"/kit/lights/0/watts", 3000, "3000 W on one 16 A circuit is 81.5 % of the breaker"},
                    CautionRow{"/kit/lights/0/hot", true, "Tungsten and discharge burn and start fires"},
                    CautionRow{"/shots/0/tracks",
                               {{{"target", "light.key.dimmer"},
                                 {"keys", {{0, 0}, {0.1, 1}, {0.2, 0}, {0.3, 1}, {0.4, 0}, {0.5, 1}, {0.6, 0}}}}},
                               "comes and goes 3 times a second"},
                    CautionRow{
                        "/products/0/parts/0/material", {{"kind", "liquid"}}, "Residual-current protection"},
                    CautionRow{"/setups/0/lights/0/place", {0.5, 1.6, 0.5}, "hangs 1.6 m over the surface"}));

TEST_F(PaperTest, GlassThatTurnsStandsOnTheCard) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "glass"}}, false);
  CardOptions options;
  options.pictures = false;
  ASSERT_TRUE(writePaper(Paper::cards, worlds::read(doc), pdf_, options));
  EXPECT_FALSE(words().contains("Turning glass"));
  doc["shots"][0]["tracks"] = {{{"target", "turntable"}, {"keys", {{0, 0}, {1, 90}}}}};
  ASSERT_TRUE(writePaper(Paper::cards, worlds::read(doc), pdf_, options));
  EXPECT_TRUE(words().simplified().contains("Turning glass")) << words().toStdString();
}

TEST_F(PaperTest, ThePackingListNamesWhatIsToGet) {
  auto panel = std::make_shared<LightKit>(*project_.light_kits[0]);
  panel->holding.count = 1;
  panel->holding.price = 300;
  project_.light_kits[0] = panel;
  ASSERT_TRUE(writePaper(Paper::packing, project_, pdf_));
  const QString text = words();
  EXPECT_TRUE(text.contains("Slow Burn, packing list"));
  EXPECT_TRUE(text.contains("100 mm macro"));
  EXPECT_TRUE(text.contains("1 owned, 1 to get at 300")) << text.toStdString();
  EXPECT_TRUE(text.contains("To get: 300"));
  EXPECT_GE(pages(), 1);
  Project empty;
  ASSERT_TRUE(writePaper(Paper::packing, empty, pdf_));
  EXPECT_TRUE(words().contains("No shot needs anything yet."));
  EXPECT_FALSE(writePaper(Paper::packing, project_, "/no/such/folder/list.pdf"));
}

}  // namespace
}  // namespace cinnabar
