// Watch it: the spot as film in the real window.
#include <QComboBox>
#include <QPointer>

#include "cinnabar/desktop/watch/watch_sheet.h"
#include "window_fixture.h"

namespace cinnabar {
namespace {

class WatchTest : public WindowTest {
 protected:
  WatchTest() { shots_ = 2; }
  WatchSheet* watch() {
    window_->activateWindow();
    EXPECT_TRUE(QTest::qWaitForWindowActive(window_.get()));
    QTest::keyClick(window_.get(), Qt::Key_F5);
    auto* sheet = sheetOver<WatchSheet>();
    EXPECT_NE(sheet, nullptr);
    return sheet;
  }
  static bool waitPictures(WatchSheet* sheet, long count) {
    return QTest::qWaitFor([&] { return sheet->maker().count().first >= count; }, 90000);
  }
  void closed(WatchSheet* sheet) {
    QPointer<WatchSheet> gone(sheet);
    QTest::keyClick(sheet, Qt::Key_Escape);
    ASSERT_TRUE(QTest::qWaitFor([&] { return !gone; }, 5000));
  }
};

TEST_F(WatchTest, PlaysAtOnceAndIsWalkedByKeys) {
  WatchSheet* sheet = watch();
  ASSERT_NE(sheet, nullptr);
  EXPECT_EQ(sheet->maker().count().second, 150) << "twice 3.125 s at 24";
  ASSERT_TRUE(waitPictures(sheet, 3));
  auto* line = sheet->findChild<FilmLine*>("watchLine");
  EXPECT_TRUE(line->hasFocus());
  QTest::keyClick(line, Qt::Key_Space);
  EXPECT_TRUE(sheet->playing());
  ASSERT_TRUE(QTest::qWaitFor([&] { return sheet->position() > 0.4; }, 5000));
  QTest::keyClick(line, Qt::Key_Space);
  EXPECT_FALSE(sheet->playing());
  const auto at = sheet->place();
  QTest::keyClick(line, Qt::Key_Right);
  EXPECT_EQ(sheet->place().frame, at.frame + 1);
  QTest::keyClick(line, Qt::Key_Left);
  EXPECT_EQ(sheet->place(), at);
  QTest::keyClick(line, Qt::Key_Down);
  EXPECT_EQ(sheet->place(), (FilmMaker::Place{1, 0}));
  QTest::keyClick(line, Qt::Key_End);
  EXPECT_EQ(sheet->place(), (FilmMaker::Place{1, 74}));
  QTest::keyClick(line, Qt::Key_Home);
  EXPECT_EQ(sheet->place(), (FilmMaker::Place{0, 0}));
  QTest::mouseClick(line, Qt::LeftButton, {}, QPoint(static_cast<int>(line->across(4.0)), 20));
  EXPECT_NEAR(sheet->position(), 4.0, 0.02);
  const auto said = line->parts();
  ASSERT_EQ(said.size(), 2u);
  EXPECT_TRUE(said[1].chosen);
  EXPECT_EQ(outOfReach(sheet), "");
  closed(sheet);
}

TEST_F(WatchTest, WhatIsMadeIsKeptUntilItsShotIsChanged) {
  WatchSheet* sheet = watch();
  ASSERT_TRUE(waitPictures(sheet, 8));
  ASSERT_TRUE(sheet->maker().kept({0, 0}) && sheet->maker().kept({1, 5})) << "every sixteenth first";
  EXPECT_FALSE(sheet->maker().kept({0, 1}));
  const QImage picture = sheet->maker().nearest({0, 0})->convertToFormat(QImage::Format_RGB32);
  EXPECT_EQ(picture.size(), QSize(480, 270));
  QSet<QRgb> colours;
  for (int x = 0; x < picture.width(); x += 3) colours.insert(picture.pixel(x, 180));
  EXPECT_GT(colours.size(), 10) << "something is seen";
  closed(sheet);
  sheet = watch();
  EXPECT_GE(sheet->maker().count().first, 8) << "at once";
  closed(sheet);
  ASSERT_TRUE(session().keep("Elsewhere", {{"/setups/1/lights/0/dimmer", 0.4}}));
  sheet = watch();
  EXPECT_TRUE(sheet->maker().kept({0, 0}) && sheet->maker().kept({1, 5})) << "another set-up is not seen in them";
  closed(sheet);
  ASSERT_TRUE(session().keep("ISO", {{"/shots/0/camera/iso", 250}}));
  sheet = watch();
  EXPECT_TRUE(sheet->maker().kept({1, 5}));
  EXPECT_FALSE(sheet->maker().kept({0, 0})) << "of what it looked like before";
  closed(sheet);
}

TEST_F(WatchTest, StandsInASmallWindowInBothThemesAndIsNotOfferedWithoutShots) {
  window_->resize(1024, 700);
  for (const bool dark : {false, true}) {
    window_->setDark(dark);
    press("watchIt");
    auto* sheet = window_->findChild<WatchSheet*>();
    ASSERT_NE(sheet, nullptr);
    ASSERT_TRUE(waitPictures(sheet, 1));
    EXPECT_LE(sheet->width(), 1024);
    EXPECT_LE(sheet->height(), 700);
    EXPECT_EQ(outOfReach(sheet), "");
    EXPECT_GT(drawnTiles(sheet), 60);
    closed(sheet);
  }
  anew(0);
  EXPECT_FALSE(find<QAbstractButton>("watchIt")->isVisible());
  QTest::keyClick(window_.get(), Qt::Key_F5);
  QTest::qWait(50);
  EXPECT_EQ(window_->findChild<WatchSheet*>(), nullptr);
}

TEST_F(WatchTest, OneShotGoesRoundInEveryShapeAndTheStageGoesThere) {
  WatchSheet* sheet = watch();
  auto* spans = sheet->findChild<QComboBox*>("watchSpan");
  spans->setFocus();
  QTest::keyClick(spans, Qt::Key_Down);
  EXPECT_EQ(spans->currentText(), "this shot");
  EXPECT_EQ(sheet->maker().count().second, 75);
  press("watchRound");
  sheet->setPosition(3.0);
  press("watchPlay");
  ASSERT_TRUE(QTest::qWaitFor([&] { return sheet->position() < 1.0; }, 5000)) << "round, not into the next shot";
  press("watchPlay");
  EXPECT_FALSE(sheet->playing());
  QTest::keyClick(spans, Qt::Key_Down);
  EXPECT_NEAR(sheet->position(), 2.125, 1e-9) << "a second before the cut";
  press("watchPlay");
  ASSERT_TRUE(QTest::qWaitFor([&] { return sheet->place().shot == 1; }, 5000)) << "over the cut";
  press("watchPlay");
  // Words stand in the last seconds of the spot, in the shapes that have some.
  auto* shapes = sheet->findChild<QComboBox*>("watchShape");
  sheet->setPosition(6.0);
  EXPECT_EQ(sheet->words().has_value(), session().project().deliverables[0].words.has_value());
  sheet->setPosition(0.5);
  EXPECT_FALSE(sheet->words());
  ASSERT_GT(shapes->count(), 1);
  shapes->setFocus();
  for (int k = 0; k < shapes->count() && shapes->currentText() != "9:16"; ++k)
    QTest::keyClick(shapes, Qt::Key_Down);
  ASSERT_EQ(shapes->currentText(), "9:16");
  ASSERT_TRUE(waitPictures(sheet, 1));
  EXPECT_EQ(sheet->maker().nearest(sheet->place())->size(), QSize(270, 480));
  sheet->setPosition(4.0);
  QPointer<WatchSheet> gone(sheet);
  press("watchGo");
  ASSERT_TRUE(QTest::qWaitFor([&] { return !gone; }, 5000));
  EXPECT_EQ(session().shotIndex(), 1u);
  EXPECT_NEAR(session().shot()->clock.screen_at(session().setTime()), 4.0 - 3.125, 1e-6);
}

}  // namespace
}  // namespace cinnabar
