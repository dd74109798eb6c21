// Begin, driven by mouse and keyboard: from what is in the hand to a project with a drafted spot, and on with what
// was made lately.
#include "cinnabar/desktop/begin/begin_page.h"

#include <QComboBox>
#include <QPushButton>

#include "cinnabar/desktop/begin/draft_card.h"
#include "cinnabar/desktop/begin/hand_form.h"
#include "cinnabar/desktop/shell/show_me.h"
#include "window_fixture.h"

namespace cinnabar {
namespace {

class BeginTest : public WindowTest {
 protected:
  void SetUp() override {
    WindowTest::SetUp();
    window_.reset();
    bare();
  }
  void bare() {
    window_ = std::make_unique<MainWindow>(WindowOptions{.passes = passes_});
    window_->show();
    window_->activateWindow();
    ASSERT_TRUE(QTest::qWaitForWindowActive(window_.get()));
  }
  BeginPage* begin() { return find<BeginPage>("begin"); }
  void click(const char* name) {
    auto* b = window_->findChild<QAbstractButton*>(name);
    ASSERT_NE(b, nullptr) << name;
    ASSERT_TRUE(b->isVisible() && b->isEnabled()) << name;
    QTest::mouseClick(b, Qt::LeftButton);
  }
  void type(const char* name, const QString& text) {
    auto* edit = find<QLineEdit>(name);
    QTest::mouseClick(edit, Qt::LeftButton);
    edit->selectAll();
    QTest::keyClicks(edit, text);
  }
  /// A short spot, so that its draft is soon there.
  bool draftShort() {
    type("beginLength", "4 s");
    QTest::qWait(600);
    return waitDrafted();
  }
  bool waitDrafted() {
    return QTest::qWaitFor([&] { return begin()->draft() && !begin()->drafting(); }, 120000);
  }
  std::size_t cards() {
    std::size_t n = 0;
    for (DraftCard* c : window_->findChildren<DraftCard*>())
      if (c->isVisible() && !c->shotId().isEmpty()) ++n;
    return n;
  }
  void giveFile(const QString& name) { typeFile(QString::fromStdString((folder_ / name.toStdString()).string())); }
};

TEST_F(BeginTest, ADraftComesShotByShotAndIsTaken) {
  EXPECT_TRUE(begin()->isVisible());
  QTest::mouseClick(find<QAbstractButton>("form-can"), Qt::LeftButton);
  click("kit-one-light");
  click("mood-gentle");
  ASSERT_TRUE(draftShort());
  ASSERT_EQ(cards(), 4u);
  EXPECT_EQ(begin()->draft()->document.list("products")[0]->at("built").at("kind"), "can");
  ASSERT_TRUE(QTest::qWaitFor(
      [&] {
        const auto all = window_->findChildren<DraftCard*>();
        return std::all_of(all.begin(), all.end(),
                           [](DraftCard* c) { return !c->isVisible() || c->hasPicture(); });
      },
      20000));
  EXPECT_EQ(find<QLabel>("draftLength")->text(), "4.0 of 4 s");
  EXPECT_TRUE(find<QLabel>("draftNeeds")->text().contains("Short of: nothing"));
  click("takeDraft");
  giveFile("Fizz");
  ASSERT_TRUE(QTest::qWaitFor([&] { return window_->session() != nullptr; }, 10000));
  EXPECT_FALSE(begin()->isVisible());
  EXPECT_EQ(session().project().name, "Fizz");
  EXPECT_EQ(session().project().shots.size(), 4u);
  EXPECT_EQ(session().project().mood, "gentle");
  EXPECT_TRUE(fs::exists(folder_ / "Fizz.cinnabar"));
}

TEST_F(BeginTest, AnotherAndLeaveOutChangeTheDraftByKeyboard) {
  ASSERT_TRUE(draftShort());
  const std::string was = begin()->draft()->shots[1].move;
  auto* another = window_->findChild<QAbstractButton*>("another-2");
  another->setFocus();
  QTest::keyClick(another, Qt::Key_Space);
  ASSERT_TRUE(begin()->drafting());
  ASSERT_TRUE(waitDrafted());
  EXPECT_NE(begin()->draft()->shots[1].move, was);
  EXPECT_EQ(cards(), 4u);
  auto* leave = window_->findChild<QAbstractButton*>("leaveOut-3");
  leave->setFocus();
  QTest::keyClick(leave, Qt::Key_Space);
  EXPECT_EQ(cards(), 3u);
  EXPECT_EQ(begin()->draft()->shots.size(), 3u);
  EXPECT_NE(find<QLabel>("draftLength")->text(), "4.0 of 4 s");
}

TEST_F(BeginTest, WhatCannotBeIsSaidAndNothingIsLost) {
  ASSERT_TRUE(draftShort());
  type("beginHeight", "40 m");
  ASSERT_TRUE(QTest::qWaitFor([&] { return find<QLabel>("draftNote")->text().contains("Height"); }, 5000));
  EXPECT_EQ(cards(), 4u) << "the draft that was there stays";
  type("beginHeight", "tall");
  ASSERT_TRUE(
      QTest::qWaitFor([&] { return find<QLabel>("draftNote")->text().contains("\"tall\" is no length"); }, 5000));
  type("beginHeight", "0.12");
  ASSERT_TRUE(QTest::qWaitFor([&] { return begin()->drafting(); }, 5000));
  click("draftCancel");
  EXPECT_FALSE(begin()->drafting());
  EXPECT_TRUE(find<QLabel>("draftNote")->text().startsWith("stopped"));
}

TEST_F(BeginTest, WithoutShotsAndBackToTheProjectThatIsOpen) {
  click("beginMore");
  type("beginSeen2", "the weight");
  type("beginLetters2", "3 mm");
  begin()->form()->findChild<QComboBox*>("beginRate")->setCurrentIndex(1);
  click("beginEmpty");
  giveFile("Plain");
  ASSERT_TRUE(QTest::qWaitFor([&] { return window_->session() != nullptr; }, 10000));
  EXPECT_TRUE(session().project().shots.empty());
  EXPECT_EQ(session().project().products.at(0)->features.size(), 2u);
  EXPECT_NEAR(session().project().timeline_rate, 25.0, 1e-9);
  window_->activateWindow();
  ASSERT_TRUE(QTest::qWaitForWindowActive(window_.get()));
  QTest::keyClick(window_.get(), Qt::Key_N, Qt::ControlModifier);
  EXPECT_TRUE(begin()->isVisible());
  EXPECT_TRUE(find<QLabel>("keptNote")->text().startsWith("Nothing is kept"));
  click("beginBack");
  EXPECT_FALSE(begin()->isVisible());
  EXPECT_EQ(find<QLabel>("keptNote")->text(), "Every change is kept as you make it");
  QTest::keyClick(window_.get(), Qt::Key_N, Qt::ControlModifier);
  QTest::keyClick(window_.get(), Qt::Key_1, Qt::ControlModifier);
  EXPECT_FALSE(begin()->isVisible());
}

TEST_F(BeginTest, LatelyOpensWhatWasOpenAndTheExampleIsMadeOnce) {
  QSettings().setValue("recent", QStringList{QString::fromStdString(path_), "/nowhere/gone.cinnabar"});
  window_.reset();
  bare();
  ASSERT_NE(window_->findChild<QAbstractButton*>("lately-demo"), nullptr);
  EXPECT_EQ(window_->findChild<QAbstractButton*>("lately-gone"), nullptr);
  auto* tile = window_->findChild<QAbstractButton*>("lately-demo");
  ASSERT_TRUE(QTest::qWaitFor([&] { return tile->text() == "Slow Burn"; }, 20000));
  EXPECT_TRUE(tile->accessibleName().contains("takes"));
  QTest::mouseClick(tile, Qt::LeftButton);
  ASSERT_TRUE(QTest::qWaitFor([&] { return window_->session() != nullptr; }, 10000));
  EXPECT_EQ(session().path(), QString::fromStdString(path_));
  const QByteArray home = qgetenv("XDG_DATA_HOME");
  qputenv("XDG_DATA_HOME", QByteArray::fromStdString((folder_ / "data").string()));
  QTest::keyClick(window_.get(), Qt::Key_N, Qt::ControlModifier);
  click("example");
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().path().contains("data"); }, 20000));
  EXPECT_EQ(session().project().name, "Slow Burn");
  home.isNull() ? qunsetenv("XDG_DATA_HOME") : qputenv("XDG_DATA_HOME", home);
}

TEST_F(BeginTest, AMeshTakesThePlaceOfTheForm) {
  const fs::path mesh = folder_ / "block.obj";
  std::ofstream(mesh) << "v 0 0 0\nv 40 0 0\nv 40 80 0\nv 0 80 0\nv 0 0 20\nv 40 0 20\nv 40 80 20\nv 0 80 20\n"
                         "f 1 4 3 2\nf 5 6 7 8\nf 1 2 6 5\nf 2 3 7 6\nf 3 4 8 7\nf 4 1 5 8\n";
  click("beginMesh");
  giveFile("block.obj");
  ASSERT_TRUE(QTest::qWaitFor([&] { return !begin()->form()->mesh().isEmpty(); }, 5000));
  EXPECT_EQ(begin()->form()->mesh(), QString::fromStdString(mesh.string()));
  EXPECT_FALSE(find<QLineEdit>("beginWidth")->isEnabled());
  type("beginHeight", "16 cm");
  click("beginEmpty");
  giveFile("Block");
  ASSERT_TRUE(QTest::qWaitFor([&] { return window_->session() != nullptr; }, 10000));
  EXPECT_EQ(session().project().products.at(0)->name, "block");
  EXPECT_FALSE(session().document().blobs.empty());
}

/// The walk, every step by its real action.
TEST_F(WindowTest, ShowMeWaitsForEachStepAndIsShownOnce) {
  WindowOptions options;
  options.shot = 6, options.walk = true;
  open(options);
  waitForLevels();
  auto* walk = find<ShowMe>("showMe");
  ASSERT_NE(walk, nullptr);
  const auto reaches = [&](int step) { return QTest::qWaitFor([&] { return walk->step() == step; }, 60000); };
  QTest::qWait(500);
  EXPECT_EQ(walk->step(), 0) << "it waits";
  EXPECT_TRUE(find<QWidget>("showMeRing")->isVisible());
  Vial* off = nullptr;
  for (Vial* vial : window_->findChildren<Vial*>())
    if (vial->isVisible() && vial->level().state == State::out && !off) off = vial;
  ASSERT_NE(off, nullptr) << "shot 6 has a level out";
  QTest::mouseClick(off, Qt::LeftButton);
  ASSERT_TRUE(reaches(1));
  ASSERT_TRUE(QTest::qWaitFor([&] { return window_->findChild<QWidget*>("lever-1") != nullptr; }, 120000));
  QTest::mouseClick(find<QWidget>("lever-1")->findChild<WordButton*>("try"), Qt::LeftButton);
  ASSERT_TRUE(reaches(2));
  QTest::mouseClick(find<QWidget>("lever-1")->findChild<WordButton*>("apply"), Qt::LeftButton);
  ASSERT_TRUE(reaches(3));
  QTest::keyClick(window_.get(), Qt::Key_Z, Qt::ControlModifier);
  ASSERT_TRUE(reaches(4));
  auto* floor = find<FloorView>("floor");
  floor->setFocus();
  QTest::keyClick(floor, Qt::Key_Space);
  QTest::keyClick(floor, Qt::Key_Right);
  ASSERT_TRUE(reaches(5));
  auto* lights = find<QWidget>("lights");
  lights->setFocus();
  QTest::keyClick(lights, Qt::Key_Space);
  ASSERT_TRUE(reaches(6));
  auto* ladder = find<QWidget>("ladder");
  ladder->setFocus();
  QTest::keyClick(ladder, Qt::Key_Right);
  ASSERT_TRUE(reaches(7));
  QSignalSpy ended(walk, &ShowMe::ended);
  QTest::mouseClick(find<WordButton>("page-board"), Qt::LeftButton);
  ASSERT_TRUE(ended.wait(5000));
  QTest::qWait(50);
  EXPECT_EQ(window_->findChild<ShowMe*>("showMe"), nullptr);
  window_.reset();
  open(options);
  EXPECT_EQ(window_->findChild<ShowMe*>("showMe"), nullptr) << "never again unless asked";
  chooseInMenu("Show me");
  auto* again = find<ShowMe>("showMe");
  QTest::mouseClick(find<WordButton>("showMeSkip"), Qt::LeftButton);
  EXPECT_EQ(again->step(), 1);
  QTest::mouseClick(find<WordButton>("showMeLeave"), Qt::LeftButton);
  QTest::qWait(50);
  EXPECT_EQ(window_->findChild<ShowMe*>("showMe"), nullptr);
}

TEST_F(WindowTest, ANewShotAsksFromWhichMoveAndComesMade) {
  const std::size_t before = session().project().shots.size();
  session().selectShot(0);
  QTest::mouseClick(find<WordButton>("addShot"), Qt::LeftButton);
  auto* sheet = find<QDialog>("addShotSheet");
  ASSERT_NE(sheet, nullptr);
  auto* list = find<QListWidget>("addShotMoves");
  QTest::keyClicks(list, "Rack");
  EXPECT_TRUE(list->currentItem()->text().startsWith("Rack focus"));
  QTest::keyClick(list, Qt::Key_Return);
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().project().shots.size() == before + 1; }, 60000));
  EXPECT_EQ(session().shotIndex(), 1u);
  EXPECT_EQ(session().shot()->move, "rack-focus");
  ASSERT_TRUE(QTest::qWaitFor([&] { return !window_->findChild<QDialog*>("addShotSheet"); }, 5000));
  session().undo();
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().project().shots.size() == before; }, 5000));
  // A copy, and leaving it while it is being made.
  QTest::mouseClick(find<WordButton>("addShot"), Qt::LeftButton);
  QTest::mouseClick(find<QPushButton>("addShotMake"), Qt::LeftButton);
  QTest::mouseClick(find<QPushButton>("addShotCancel"), Qt::LeftButton);
  ASSERT_TRUE(QTest::qWaitFor([&] { return !window_->findChild<QDialog*>("addShotSheet"); }, 5000));
  QTest::qWait(500);
  EXPECT_EQ(session().project().shots.size(), before);
  QTest::mouseClick(find<WordButton>("addShot"), Qt::LeftButton);
  QTest::mouseClick(find<QPushButton>("addShotCopy"), Qt::LeftButton);
  EXPECT_EQ(session().project().shots.size(), before + 1);
}

}  // namespace
}  // namespace cinnabar
