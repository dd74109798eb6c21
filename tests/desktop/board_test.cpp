// The Board in the window: cards on the bands of their set-ups, moved, copied, split, joined; lists pasted, tables
// read.
#include <QCheckBox>
#include <QComboBox>
#include <QMenu>
#include <QPushButton>
#include <QTableWidget>

#include "cinnabar/base/files.h"
#include "cinnabar/desktop/board/move_shelf.h"
#include "cinnabar/desktop/board/shot_paper.h"
#include "cinnabar/desktop/board/sketch_pad.h"
#include "cinnabar/desktop/pages/board_page.h"
#include "cinnabar/desktop/stage/levels_panel.h"
#include "cinnabar/formats/shot_merge.h"
#include "cinnabar/formats/tables.h"
#include "window_fixture.h"

namespace cinnabar {
namespace {

class BoardTest : public WindowTest {
 protected:
  void SetUp() override {
    page_ = "board";
    WindowTest::SetUp();
    cards_ = find<BoardCards>("boardCards");
    ASSERT_TRUE(QTest::qWaitFor([&] { return cards_->isVisible() && cards_->card(0).height() > 40; }, 5000));
  }
  [[nodiscard]] std::vector<std::string> order() {
    std::vector<std::string> ids;
    for (const auto& s : session().project().shots) ids.push_back(s->id);
    return ids;
  }
  BoardCards* cards_ = nullptr;
};

TEST_F(BoardTest, CardsStandOnTheirSetUpsInStoryOrder) {
  EXPECT_NE(find<QWidget>("threadNote")->accessibleName().indexOf("5 changes on the floor, 3 if grouped"), -1)
      << find<QWidget>("threadNote")->accessibleName().toStdString();
  for (std::size_t i = 0; i + 1 < 8; ++i) EXPECT_LT(cards_->card(i).right(), cards_->card(i + 1).left());
  for (std::size_t i = 0; i < 8; ++i) {
    const auto& setups = session().project().setups;
    for (std::size_t b = 0; b < setups.size(); ++b)
      EXPECT_EQ(cards_->band(b).contains(cards_->card(i)), setups[b]->id == session().project().shots[i]->setup)
          << i;
  }
  QTest::mouseClick(cards_, Qt::LeftButton, {}, cards_->card(3).center());
  EXPECT_EQ(session().shotIndex(), 3u);
}

TEST_F(BoardTest, ACardIsDraggedAlongTheStoryAndOntoAnotherSetUp) {
  const QRect from = cards_->card(1), before = cards_->card(4);
  drag(cards_, from.center(), QPointF(before.left() + 4, from.center().y()));
  EXPECT_EQ(order(), (std::vector<std::string>{"s1", "s3", "s4", "s2", "s5", "s6", "s7", "s8"}));
  EXPECT_EQ(session().project().shots[3]->setup, "A");
  undo();
  drag(cards_, cards_->card(6).center(), QPointF(cards_->card(6).center().x(), cards_->band(1).center().y()));
  EXPECT_EQ(session().project().shots[6]->setup, "B");
  EXPECT_EQ(order()[6], "s7");
  EXPECT_EQ(onDisk("/shots/6/setup"), std::optional<Json>("B"));
}

TEST_F(BoardTest, ItIsDoneByTheKeyboardAlone) {
  cards_->setFocus();
  QTest::keyClick(cards_, Qt::Key_Home);
  QTest::keyClick(cards_, Qt::Key_Right);
  EXPECT_EQ(session().shotIndex(), 1u);
  QTest::keyClick(cards_, Qt::Key_Right, Qt::ControlModifier);
  EXPECT_EQ(order()[2], "s2");
  EXPECT_EQ(session().shotIndex(), 2u) << "it stays in hand";
  QTest::keyClick(cards_, Qt::Key_Down, Qt::ControlModifier);
  EXPECT_EQ(session().project().shots[2]->setup, "B");
  QTest::keyClick(cards_, Qt::Key_Up);
  EXPECT_EQ(session().project().shots[session().shotIndex()]->setup, "A");
  QTest::keyClick(cards_, Qt::Key_End);
  EXPECT_EQ(session().shotIndex(), 7u);
  QTest::keyClick(cards_, Qt::Key_Return);
  EXPECT_TRUE(find<StagePage>("stage")->isVisible()) << "Enter opens it on the Stage";
}

TEST_F(BoardTest, ShotsAreCopiedSplitJoinedAndTakenOut) {
  session().selectShot(1);
  press("boardCopySetup");
  ASSERT_EQ(session().project().shots.size(), 9u);
  EXPECT_EQ(session().shotIndex(), 2u);
  EXPECT_EQ(session().project().setups.size(), 4u);
  undo();
  EXPECT_EQ(session().project().setups.size(), 3u);
  session().selectShot(1);
  press("boardVary");
  ASSERT_EQ(session().project().setups.size(), 4u);
  EXPECT_EQ(session().setup()->of, "A");
  EXPECT_EQ(session().setupIndex(), 1u) << "its band is next to that of what it varies";
  EXPECT_EQ(session().shotIndex(), 1u);
  undo();
  EXPECT_EQ(session().project().setups.size(), 3u);
  session().selectShot(6);
  const double length = session().shot()->screen_time;
  press("boardSplit");
  ASSERT_EQ(session().project().shots.size(), 9u);
  EXPECT_NEAR(session().project().shots[6]->screen_time + session().project().shots[7]->screen_time, length, 1e-6);
  session().selectShot(6);
  press("boardJoin");
  ASSERT_EQ(session().project().shots.size(), 8u);
  EXPECT_NEAR(session().project().shots[6]->screen_time, length, 1e-6);
  session().selectShot(2);
  press("boardJoin");
  EXPECT_EQ(session().project().shots.size(), 8u) << "not of one set-up";
  EXPECT_TRUE(find<QLabel>("message")->toolTip().contains("set-up"))
      << find<QLabel>("message")->toolTip().toStdString();
  const std::size_t takes = session().project().takes.size();
  session().selectShot(0);
  press("boardRemove");
  EXPECT_EQ(session().project().shots.size(), 7u);
  EXPECT_LT(session().project().takes.size(), takes);
  undo();
  EXPECT_EQ(session().project().takes.size(), takes);
}

TEST_F(BoardTest, AListPastedBecomesShots) {
  press("boardPaste");
  auto* sheet = find<QDialog>("pasteSheet");
  auto* words = find<QPlainTextEdit>("pasteWords");
  EXPECT_FALSE(find<QPushButton>("pasteAdd")->isEnabled());
  words->setPlainText("Opening, wide, 2 s\nBad, 0 s\nPour, close, 120 fps, 5x slow, set-up B");
  ASSERT_TRUE(QTest::qWaitFor([&] { return find<QPushButton>("pasteAdd")->isEnabled(); }, 5000));
  EXPECT_EQ(find<QPlainTextEdit>("pasteFaults")->toPlainText(), "line 2: \"0 s\" is no length");
  ASSERT_TRUE(find<QPushButton>("pasteAdd")->isEnabled());
  QTest::mouseClick(find<QPushButton>("pasteAdd"), Qt::LeftButton);
  EXPECT_FALSE(sheet->isVisible());
  ASSERT_EQ(session().project().shots.size(), 10u);
  EXPECT_EQ(session().project().shots[8]->name, "Opening");
  EXPECT_EQ(session().project().shots[9]->setup, "B");
  EXPECT_EQ(session().shotIndex(), 8u);
  EXPECT_TRUE(validate(session().document()).empty());
  window_->activateWindow();  // the sheet had the keyboard
  ASSERT_TRUE(QTest::qWaitForWindowActive(window_.get()));
  undo();
  EXPECT_EQ(session().project().shots.size(), 8u) << "one step";
}

TEST_F(BoardTest, ATableReadShowsWhatBothSidesChanged) {
  std::string table = csv_written(shot_table(session().project()));
  const auto at = table.find("Hero reveal");
  ASSERT_NE(at, std::string::npos);
  table.replace(at, 11, "Slow reveal");
  const QString path = QString::fromStdString((folder_ / "shots.csv").string());
  ASSERT_TRUE(write_file(path.toStdString(), table));
  session().keep("Here", {{"/shots/0/camera/iso", 1234}});
  window_->readShotsFrom(path);
  ASSERT_TRUE(QTest::qWaitFor([&] { return window_->findChild<QDialog*>("conflicts") != nullptr; }, 5000));
  auto* rows = find<QTableWidget>("conflictTable");
  ASSERT_EQ(rows->rowCount(), 2);
  EXPECT_EQ(rows->item(0, 2)->text(), "name");
  EXPECT_EQ(rows->item(0, 3)->text(), "Hero reveal");
  EXPECT_EQ(rows->item(0, 4)->text(), "Slow reveal");
  rows->item(0, 0)->setCheckState(Qt::Checked);
  QTest::mouseClick(find<QPushButton>("takeTicked"), Qt::LeftButton);
  EXPECT_EQ(session().project().shots[0]->name, "Slow reveal");
  EXPECT_EQ(session().project().shots[0]->camera->iso, 1234) << "what was not ticked stays";
}

TEST_F(BoardTest, ShotsComeBackAsJsonWithWhatBothSidesChanged) {
  Json file = shots_json(session().document());
  file["shots"][0]["name"] = "Slow reveal";
  file["shots"][1]["camera"]["iso"] = 640;
  const QString path = QString::fromStdString((folder_ / "shots.json").string());
  ASSERT_TRUE(write_file(path.toStdString(), file.dump()));
  session().keep("Here", {{"/shots/0/name", "My reveal"}});
  window_->readShotsFrom(path);
  ASSERT_TRUE(QTest::qWaitFor([&] { return window_->findChild<QDialog*>("conflicts") != nullptr; }, 5000));
  EXPECT_EQ(session().project().shots[1]->camera->iso, 640) << "changed there only: taken";
  auto* rows = find<QTableWidget>("conflictTable");
  ASSERT_EQ(rows->rowCount(), 1);
  EXPECT_EQ(rows->item(0, 3)->text(), "My reveal");
  QTest::mouseClick(find<QPushButton>("leaveAll"), Qt::LeftButton);
  EXPECT_EQ(session().project().shots[0]->name, "My reveal");
}

TEST_F(BoardTest, ACardIsDrawnAnewWhenAnythingOnItChanges) {
  auto* cards = find<BoardCards>("boardCards");
  const auto look = [&](std::size_t shot) { return cards->grab(cards->card(shot)).toImage(); };
  session().selectShot(0);
  const QImage before = look(3);
  EXPECT_EQ(look(3), before) << "nothing changed";
  session().keep("Named", {{"/shots/3/name", "Another name"}});
  const QImage named = look(3);
  EXPECT_NE(named, before);
  session().selectShot(3);
  EXPECT_NE(look(3), named) << "it is in hand";
  session().selectShot(0);
  const QImage paper = look(3);
  press("blackout");
  EXPECT_NE(look(3), paper) << "the other theme";
}

TEST_F(BoardTest, AShotFollowsASchoolOfItsOwn) {
  session().selectShot(2);
  auto* rules = find<QPushButton>("paper-rules");
  EXPECT_EQ(rules->text(), "the project's");
  auto* menu = rules->menu();
  emit menu->aboutToShow();
  const auto pick = [&](const QString& question, const QString& begins) {
    for (QAction* sub : menu->actions())
      if (sub->text() == question)
        for (QAction* a : sub->menu()->actions())
          if (a->text().startsWith(begins)) return a->trigger();
    ADD_FAILURE() << question.toStdString();
  };
  pick("How effects are made", "from plates");
  EXPECT_EQ(onDisk("/shots/2/house_rules/effects"), std::optional<Json>("plates"));
  EXPECT_EQ(session().project().rule<EffectsRule>(*session().shot()), EffectsRule::plates);
  EXPECT_EQ(rules->text(), "1 of its own");
  emit menu->aboutToShow();
  pick("How effects are made", "as the set-up");
  EXPECT_EQ(value("/shots/2/house_rules/effects"), std::nullopt);
  EXPECT_EQ(session().project().rule<EffectsRule>(*session().shot()), EffectsRule::real);
}

TEST_F(BoardTest, TheSheetSaysLensCameraAndLights) {
  session().selectShot(1);
  auto* places = find<QLabel>("paper-places");
  EXPECT_TRUE(places->text().contains("Lens 100 mm, f/11; camera 1.15 m away, ahead, 80 mm up"))
      << places->text().toStdString();
  EXPECT_TRUE(places->text().contains(QString::fromUtf8("Key 60\u00b0 right"))) << places->text().toStdString();
  session().keep("Moved", {{"/shots/1/camera/focal", 0.085}});
  EXPECT_TRUE(places->text().contains("Lens 85 mm"));
}

TEST_F(BoardTest, HowWellAShotShowsWhatItPromisesStandsUnderTheTicks) {
  session().selectShot(1);
  auto* seen = find<Vial>("paper-seen");
  ASSERT_FALSE(session().shot()->features.empty());
  ASSERT_TRUE(QTest::qWaitFor([&] { return seen->isVisible(); }, 20000));
  EXPECT_EQ(seen->level().id, "frame.feature");
  session().keep("Nothing promised", {{"/shots/1/needs/features", Json::array()}});
  EXPECT_FALSE(seen->isVisible());
}

TEST_F(BoardTest, TheShotsWordsAreTypedAndItsFeaturesTicked) {
  session().selectShot(3);
  auto* name = find<QLineEdit>("paper-name");
  name->setFocus();
  name->selectAll();
  QTest::keyClicks(name, "Chilli, nearer");
  QTest::keyClick(name, Qt::Key_Return);
  EXPECT_EQ(onDisk("/shots/3/name"), std::optional<Json>("Chilli, nearer"));
  auto* length = find<QLineEdit>("paper-length");
  length->setFocus();
  length->selectAll();
  QTest::keyClicks(length, "48 frames");
  QTest::keyClick(length, Qt::Key_Return);
  EXPECT_NEAR(session().shot()->screen_time, 2.0, 1e-9);
  length->selectAll();
  QTest::keyClicks(length, "long");
  QTest::keyClick(length, Qt::Key_Return);
  EXPECT_NEAR(session().shot()->screen_time, 2.0, 1e-9);
  EXPECT_TRUE(find<QLabel>("message")->toolTip().contains("is no length"));
  auto* box = find<QCheckBox>("feature-jar/name");
  EXPECT_FALSE(box->isChecked());
  QTest::mouseClick(box, Qt::LeftButton, {}, QPoint(8, box->height() / 2));
  EXPECT_EQ(session().shot()->features, std::vector<std::string>{"jar/name"});
  auto* role = find<QComboBox>("paper-role");
  role->setFocus();
  QTest::keyClick(role, Qt::Key_H);
  EXPECT_EQ(session().shot()->role, ShotRole::hero);
  auto* sound = find<QLineEdit>("paper-sound");
  sound->setFocus();
  QTest::keyClicks(sound, "glass tick");
  QTest::keyClick(sound, Qt::Key_Return);
  EXPECT_EQ(session().shot()->sound, "glass tick");
}

TEST_F(BoardTest, TheSpotsLengthAndTempoAreTypedAndTapped) {
  const auto type = [&](const char* field, const QString& text) {
    auto* edit = find<QLineEdit>(field);
    edit->setFocus();
    edit->selectAll();
    QTest::keyClicks(edit, text);
    QTest::keyClick(edit, Qt::Key_Return);
  };
  type("spot-allowed", "25 s");
  EXPECT_EQ(*session().project().allowed_time, 25.0);
  type("spot-tempo", "120");
  EXPECT_EQ(onDisk("/project/beats_per_minute"), std::optional<Json>(120.0));
  type("spot-tempo", "9000");
  EXPECT_EQ(*session().project().beats_per_minute, 120.0);
  EXPECT_TRUE(find<QLabel>("message")->toolTip().contains("out of range"));
  // Half a second apart is 120 a minute; three are not enough, a pause begins anew, the mean evens the hand out.
  auto* paper = find<ShotPaper>("shotPaper");
  for (const double at : {10.0, 10.5, 11.0}) paper->tapAt(at);
  EXPECT_EQ(*session().project().beats_per_minute, 120.0);
  for (const double at : {20.0, 20.42, 20.78, 21.2}) paper->tapAt(at);
  EXPECT_EQ(*session().project().beats_per_minute, 150.0);
  QTest::mouseClick(find<WordButton>("spot-tap"), Qt::LeftButton);
  EXPECT_EQ(*session().project().beats_per_minute, 150.0) << "one more press alone says nothing";
}

TEST_F(BoardTest, ThreeHundredShotsAreLaidOutAndPaintedOnlyWhereSeen) {
  Document many = session().document();
  for (int k = 0; k < 292; ++k) {
    Json copy = *many.list("shots")[static_cast<std::size_t>(k % 8)];
    copy["id"] = "m" + std::to_string(k);
    many.lists["shots"].push_back(std::make_shared<const Json>(copy));
  }
  session().keep(edit_between(session().document(), many, "Many"));
  EXPECT_GE(cards_->minimumWidth(), 300 * 99);
  cards_->setFocus();
  QTest::keyClick(cards_, Qt::Key_End);
  EXPECT_EQ(session().shotIndex(), 299u);
  EXPECT_FALSE(cards_->visibleRegion().isEmpty());
  EXPECT_TRUE(cards_->visibleRegion().boundingRect().intersects(cards_->card(299))) << "it is brought into sight";
}

TEST_F(BoardTest, AnEmptyProjectSaysHowToBegin) {
  Document bare = session().document();
  bare.lists["shots"].clear();
  bare.lists["takes"].clear();
  session().keep(edit_between(session().document(), bare, "Nothing"));
  EXPECT_GT(drawnTiles(cards_), 3) << "a sentence stands there";
  press("boardAdd");
  QTest::mouseClick(find<QPushButton>("addShotCopy"), Qt::LeftButton);
  EXPECT_EQ(session().project().shots.size(), 1u);
  press("boardSplit");
  press("boardRemove");
  press("boardRemove");
  press("boardRemove");
  press("boardJoin");
  EXPECT_TRUE(session().project().shots.empty());
}

TEST_F(BoardTest, AReadyMoveIsMadeByKeyboardAndDraggedOnToTheThread) {
  auto* shelf = find<MoveShelf>("moveShelf");
  session().selectShot(1);
  shelf->setFocus();
  QTest::keyClick(shelf, Qt::Key_Home);
  QTest::keyClick(shelf, Qt::Key_Right);
  QTest::keyClick(shelf, Qt::Key_Left);
  QTest::keyClick(shelf, Qt::Key_Return);
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().project().shots.size() == 9; }, 60000));
  EXPECT_EQ(session().shotIndex(), 2u);
  EXPECT_EQ(value("/shots/2/move"), std::optional<Json>("slow-spin"));
  EXPECT_EQ(onDisk("/shots/2/setup"), std::optional<Json>("A"));
  EXPECT_TRUE(find<QLabel>("message")->toolTip().startsWith("Slow spin to the label"));
  undo();
  EXPECT_EQ(session().project().shots.size(), 8u);

  const int rack = 7;
  for (int i = 0; i < rack; ++i) QTest::keyClick(shelf, Qt::Key_Right);
  ASSERT_EQ(shelf->chosen(), rack);
  const QPoint from = shelf->card(rack).center(), to = shelf->mapFromGlobal(cards_->mapToGlobal(QPoint(
                                                      cards_->card(3).left() - 2, cards_->band(1).center().y())));
  QTest::mousePress(shelf, Qt::LeftButton, {}, from);
  for (const double s : {0.3, 0.7, 1.0}) {
    QMouseEvent move(QEvent::MouseMove, QPointF(from) * (1 - s) + QPointF(to) * s,
                     shelf->mapToGlobal(QPointF(from) * (1 - s) + QPointF(to) * s), Qt::NoButton, Qt::LeftButton,
                     {});
    QCoreApplication::sendEvent(shelf, &move);
  }
  QTest::mouseRelease(shelf, Qt::LeftButton, {}, to);
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().project().shots.size() == 9; }, 60000));
  EXPECT_EQ(value("/shots/3/move"), std::optional<Json>("rack-focus"));
  EXPECT_EQ(value("/shots/3/setup"), std::optional<Json>("B"));
}

TEST_F(BoardTest, MovesSayHowTheyWouldStandAndCanBeStopped) {
  auto* shelf = find<MoveShelf>("moveShelf");
  ASSERT_TRUE(QTest::qWaitFor([&] { return shelf->outcomes().size() == 26; }, 60000));
  EXPECT_TRUE(shelf->accessibleName().contains("levels out"));
  QTest::mouseDClick(shelf, Qt::LeftButton, {}, shelf->card(0).center());
  QTest::mouseClick(find<QAbstractButton>("boardStopMaking"), Qt::LeftButton);
  EXPECT_TRUE(find<QLabel>("boardMaking")->text().isEmpty());
  EXPECT_EQ(session().project().shots.size(), 8u);
}

TEST_F(BoardTest, PlatesAreTyped) {
  auto* plates = find<QLineEdit>("paper-plates");
  plates->setFocus();
  QTest::keyClicks(plates, "clean plate; jar on its stand;");
  QTest::keyClick(plates, Qt::Key_Return);
  EXPECT_EQ(onDisk("/shots/0/plates"), std::optional<Json>(Json{"clean plate", "jar on its stand"}));
}

TEST_F(BoardTest, AShotIsSketchedWithThePenAndTheKeyboardTakesStrokesBack) {
  auto* pad = find<SketchPad>("sketchPad");
  ASSERT_TRUE(QTest::qWaitFor([&] { return pad->isVisible() && pad->width() > 100; }, 3000));
  const QSizeF size = pad->size();
  drag(pad, QPoint(20, 20), QPointF(size.width() / 2, size.height() / 2));
  drag(pad, QPoint(30, 60), QPointF(100, 60));
  ASSERT_EQ(session().project().shots[0]->sketch.strokes.size(), 2u);
  const auto stroke = session().project().shots[0]->sketch.strokes[0];
  EXPECT_NEAR(stroke.front().first, 20 / size.width(), 1e-3);
  EXPECT_NEAR(stroke.back().second, 0.5, 0.01);
  pad->setFocus();
  QTest::keyClick(pad, Qt::Key_Space);
  EXPECT_EQ(onDisk("/shots/0/sketch/instead"), std::optional<Json>(true));
  QTest::keyClick(pad, Qt::Key_Backspace);
  EXPECT_EQ(onDisk("/shots/0/sketch/strokes")->size(), 1u);
  QTest::keyClick(pad, Qt::Key_Delete);
  EXPECT_FALSE(onDisk("/shots/0/sketch").has_value());
  undo();
  EXPECT_EQ(session().project().shots[0]->sketch.strokes.size(), 1u);
}

}  // namespace
}  // namespace cinnabar
