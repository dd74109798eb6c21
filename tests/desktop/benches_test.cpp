// The benches Move and Expose: the move by a controller (joined, loaded, refused, run, laid over the plan,
// stopped) and by hand, modes, bands, outlines, and what to dial in.
#include <QProcess>

#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/desktop/ways/modes_panel.h"
#include "cinnabar/desktop/ways/motor_panel.h"
#include "window_fixture.h"

namespace cinnabar {
namespace {

class BenchesTest : public WindowTest {
 protected:
  void SetUp() override {
    shots_ = 1;
    WindowTest::SetUp();
    const Json slide{{"target", "camera.slide"}, {"profile", "minimum-jerk"}, {"keys", {{0, 0.0}, {1, 0.04}}}};
    ASSERT_TRUE(session().keep("A short slide", {{"/shots/0/screen_time", 1.0},
                                                 {"/shots/0/camera/slide_axis", Json{1, 0, 0}},
                                                 {"/shots/0/tracks", Json::array({slide})}}));
    window_->stage()->setBench("move");
    press("askMotor");
    panel_ = find<MotorPanel>("motorPanel");
    ASSERT_TRUE(panel_->isVisible());
  }
  void TearDown() override {
    WindowTest::TearDown();
    motion_.terminate();
    motion_.waitForFinished(5000);
  }
  void serve(const QStringList& arguments = {}) {
    socket_ = QString::fromStdString((folder_ / "motion").string());
    motion_.start(CINNABAR_MOTION, QStringList{"--socket", socket_} + arguments);
    ASSERT_TRUE(motion_.waitForReadyRead(10000)) << "it says when it listens";
  }
  /// Types the socket's path and joins with Enter.
  void join() {
    auto* field = find<QLineEdit>("motorSocket");
    field->setFocus();
    field->selectAll();
    QTest::keyClicks(field, socket_);
    QTest::keyClick(field, Qt::Key_Return);
    ASSERT_TRUE(comesTo("idle"));
  }
  bool comesTo(const QString& state, int ms = 20000) {
    return QTest::qWaitFor([&] { return panel_->link().state() == state; }, ms);
  }
  QString words() { return find<QLabel>("motorWords")->text(); }
  bool offered(const char* name) { return find<QAbstractButton>(name)->isEnabled(); }
  void load() {
    ASSERT_TRUE(QTest::qWaitFor([&] { return offered("motorLoad"); }, 5000));
    press("motorLoad");
  }

  MotorPanel* panel_ = nullptr;
  QString socket_;
  QProcess motion_;
};

TEST_F(BenchesTest, AMoveIsLoadedRunAndLaidOverThePlan) {
  EXPECT_TRUE(words().contains("emergency stop")) << "cautions first";
  EXPECT_FALSE(offered("motorLoad"));
  serve();
  join();
  EXPECT_TRUE(find<QWidget>("motorMore-X")->isVisible());
  EXPECT_FALSE(find<QWidget>("motorMore-C")->isVisible()) << "what the shot does not move is not shown";
  EXPECT_FALSE(offered("motorRun"));
  press("motorMore-X");
  ASSERT_TRUE(QTest::qWaitFor([&] { return std::abs(panel_->link().places()[0] - 5) < 0.1; }, 5000))
      << "5 mm further";
  ASSERT_TRUE(comesTo("idle"));
  load();
  ASSERT_TRUE(QTest::qWaitFor([&] { return panel_->link().loaded(); }, 5000)) << words().toStdString();
  EXPECT_TRUE(words().contains("within its limits"));
  EXPECT_FALSE(offered("motorRun")) << "it does not stand at the start";
  press("motorStart");
  ASSERT_TRUE(comesTo("ready"));
  EXPECT_NEAR(panel_->link().places()[0], 0.0, 0.05);
  press("motorRun");
  ASSERT_TRUE(comesTo("moving"));
  ASSERT_TRUE(comesTo("idle"));
  ASSERT_TRUE(QTest::qWaitFor([&] { return !panel_->lastRun().moments.empty(); }, 5000));
  // By its own numbers: 10 ms behind, half a step and half the play.
  EXPECT_GT(panel_->lastRun().moments.size(), 20u);
  EXPECT_NEAR(panel_->lastRun().behind, 0.010, 0.008);
  EXPECT_GT(panel_->lastRun().worst_px, panel_->lastRun().worst_px_shifted);
  EXPECT_GT(panel_->lastRun().worst_px, 0.5);
  EXPECT_LT(panel_->lastRun().worst_px, 60);
  // A move that is another since it was loaded has to be loaded again.
  EXPECT_TRUE(offered("motorStart"));
  ASSERT_TRUE(session().keep("Farther", {{"/shots/0/tracks/0/keys", Json{{0, 0.0}, {1, 0.05}}}}));
  EXPECT_FALSE(offered("motorStart")) << "at once";
  ASSERT_TRUE(QTest::qWaitFor([&] { return words().contains("load it again"); }, 5000)) << words().toStdString();
  undo();
  ASSERT_TRUE(QTest::qWaitFor([&] { return offered("motorStart"); }, 5000)) << "the loaded one again";
  EXPECT_FALSE(words().contains("load it again"));
  ASSERT_TRUE(session().keep("Still", {{"/shots/0/tracks", Json::array()}}));
  ASSERT_TRUE(QTest::qWaitFor([&] { return words().contains("moves nothing"); }, 5000)) << words().toStdString();
  EXPECT_FALSE(offered("motorLoad"));
}

TEST_F(BenchesTest, ItIsStoppedByKeyAndRefusesWhatItsLimitsForbid) {
  serve();
  join();
  ASSERT_TRUE(session().keep("Too quick", {{"/shots/0/tracks/0/keys", Json{{0, 0.0}, {0.1, 0.04}}}}));
  load();
  ASSERT_TRUE(QTest::qWaitFor([&] { return words().contains("would gain"); }, 5000)) << words().toStdString();
  EXPECT_FALSE(offered("motorStart"));
  undo();
  load();
  ASSERT_TRUE(QTest::qWaitFor([&] { return panel_->link().loaded(); }, 5000)) << words().toStdString();
  press("motorStart");
  ASSERT_TRUE(comesTo("ready"));
  press("motorRun");
  ASSERT_TRUE(comesTo("moving"));
  ASSERT_TRUE(QTest::qWaitFor([&] { return panel_->link().places()[0] > 5; }, 10000));
  window_->showPage("kit");  // the panel is out of sight, the key works all the same
  ASSERT_TRUE(QTest::qWaitFor([&] { return !panel_->isVisible(); }, 5000));
  QTest::keyClick(window_.get(), Qt::Key_Escape);
  ASSERT_TRUE(comesTo("stopped"));
  const double there = panel_->link().places()[0];
  EXPECT_GT(there, 0.0);
  EXPECT_LT(there, 40.0);
  window_->showPage("stage");
  EXPECT_FALSE(offered("motorMore-X"));
  press("motorRelease");
  ASSERT_TRUE(comesTo("idle"));
  // The controller goes: it is said, and nothing is offered any more.
  motion_.kill();
  ASSERT_TRUE(QTest::qWaitFor([&] { return !panel_->link().joined(); }, 5000));
  EXPECT_TRUE(words().contains("gone")) << words().toStdString();
  EXPECT_FALSE(offered("motorStop"));
  press("motorJoin");
  ASSERT_TRUE(QTest::qWaitFor([&] { return words().contains("cinnabar-motion"); }, 5000)) << words().toStdString();
}

/// Another program at that socket: it is told, and whatever it says changes nothing else.
TEST_F(BenchesTest, WhatIsNoControllerIsSeenThrough) {
  QLocalServer other;
  socket_ = QString::fromStdString((folder_ / "other").string());
  ASSERT_TRUE(other.listen(socket_));
  joinAnswered(other, "motor", "ok teapot 7\n");
  ASSERT_TRUE(QTest::qWaitFor([&] { return words().contains("no motion controller"); }, 5000))
      << words().toStdString();
  EXPECT_FALSE(panel_->link().joined());
  joinAnswered(other, "motor", QByteArray((1 << 20) + 5, 'x'));
  ASSERT_TRUE(QTest::qWaitFor([&] { return !panel_->link().joined(); }, 5000)) << "no line ever";
  QLocalSocket* odd = joinAnswered(other, "motor", "ok motion 1 XYZABC\n");
  odd->write(
      "at nan nan Xnan\nat idle\nat idle 1e999 X5\nat idle 0.5 Q7 X X1e999 Ynan Z2.5 "
      "C\n\n\xff\xfe\nerror\ndone\n");
  ASSERT_TRUE(QTest::qWaitFor([&] { return panel_->link().places()[2] == 2.5; }, 5000));
  EXPECT_EQ(panel_->link().places()[0], 0.0);
  EXPECT_EQ(panel_->link().places()[1], 0.0);
  EXPECT_EQ(panel_->link().state(), "idle");
  delete odd;
  ASSERT_TRUE(QTest::qWaitFor([&] { return words().contains("gone"); }, 5000)) << words().toStdString();
}

TEST_F(BenchesTest, TheSameMoveIsSaidForAHand) {
  press("askHand");
  auto* hand = find<Painted>("handPanel");
  ASSERT_TRUE(hand->isVisible());
  ASSERT_EQ(hand->parts().size(), 1u);
  EXPECT_TRUE(hand->parts()[0].name.contains("slide"));
  EXPECT_TRUE(hand->parts()[0].value.startsWith("0, 4, 20, 36, 40 mm; ")) << hand->parts()[0].value.toStdString();
  const QImage before = hand->grab().toImage();
  ASSERT_TRUE(session().keep("Still", {{"/shots/0/tracks", Json::array()}}));
  ASSERT_TRUE(QTest::qWaitFor([&] { return hand->parts().empty(); }, 5000));
  EXPECT_NE(hand->grab().toImage(), before) << "and says so";
  press("askHand");
  EXPECT_TRUE(find<QWidget>("moveFind")->isVisible()) << "back to what is worked out";
}

TEST_F(BenchesTest, StartMiddleAndEndLieOverThePicture) {
  auto* lens = find<LensView>("lens");
  ASSERT_TRUE(QTest::qWaitFor([&] { return lens->settled(); }, 240000));
  const QImage plain = lens->grab().toImage();
  press("showStages");
  ASSERT_TRUE(QTest::qWaitFor([&] { return lens->grab().toImage() != plain; }, 5000));
  ASSERT_TRUE(QTest::qWaitFor([&] { return lens->settled(); }, 5000)) << "drawn on a worker";
  EXPECT_TRUE(lens->overlay("Start to end"));
  press("bench-light");
  EXPECT_FALSE(lens->overlay("Start to end")) << "it belongs to the bench";
  EXPECT_FALSE(find<QWidget>("showStages")->isVisible());
  press("bench-move");
  press("showStages");
  press("zoom");
  ASSERT_TRUE(session().keep("Behind", {{"/shots/0/camera/aim", Json{0, 0.1, 5}}}));
  lens->grab();
  EXPECT_TRUE(QTest::qWaitFor([&] { return lens->settled(); }, 60000))
      << "nothing of it in the frame, and far larger than the window";
}

TEST_F(BenchesTest, BandsLieOverThePictureWhereLampsPulse) {
  auto* lens = find<LensView>("lens");
  const Json all = session().document().to_json();
  const Json light = all["setups"][0]["lights"][0], kit = all["kit"]["lights"];
  std::size_t at = 0;
  while (at < kit.size() && kit[at]["id"] != light["kit"]) ++at;
  ASSERT_LT(at, kit.size());
  ASSERT_TRUE(session().keep("It pulses", {{"/kit/lights/" + std::to_string(at) + "/ripple", 0.8},
                                           {"/shots/0/camera/shutter_time", 1.0 / 1000}}));
  window_->stage()->setBench("expose");
  ASSERT_TRUE(QTest::qWaitFor([&] { return lens->settled(); }, 240000));
  const QImage plain = lens->grab().toImage();
  press("showBands");
  EXPECT_TRUE(QTest::qWaitFor([&] { return lens->grab().toImage() != plain; }, 10000));
  press("showBands");
  EXPECT_EQ(lens->grab().toImage(), plain) << "and off again";
}

TEST_F(BenchesTest, ModesAreTakenByCellAndAllAtOnce) {
  anew(4);
  window_->stage()->setBench("expose");
  press("askModes");
  auto* modes = find<ModesPanel>("modesPanel");
  ASSERT_TRUE(modes->isVisible());
  const auto of = [&](std::size_t shot) {
    return value("/shots/" + std::to_string(shot) + "/camera/mode")->get<std::string>();
  };
  const std::size_t was = *modes->table().used[0], row = was == 0 ? 1 : 0;
  const std::string mode = modes->table().rows[row].mode->id;
  const double shutter = session().shot()->camera->shutter_time, rate = modes->table().rows[was].mode->rate,
               faster = modes->table().rows[row].mode->rate;
  QTest::mouseClick(modes, Qt::LeftButton, {}, modes->cellBox(row, 0).center().toPoint());
  EXPECT_NE(of(0), mode) << "the first click only says what it lacks";
  QTest::mouseClick(modes, Qt::LeftButton, {}, modes->cellBox(row, 0).center().toPoint());
  ASSERT_TRUE(QTest::qWaitFor([&] { return of(0) == mode; }, 3000));
  EXPECT_NEAR(session().shot()->camera->shutter_time, shutter * rate / faster, 1e-9) << "its angle is kept";
  modes->setFocus();
  QTest::keyClick(modes, Qt::Key_Right);
  QTest::keyClick(modes, Qt::Key_Down);
  QTest::keyClick(modes, Qt::Key_Up);
  ASSERT_TRUE(QTest::qWaitFor([&] { return !modes->parts().empty(); }, 3000));
  press("modesBest");
  ASSERT_TRUE(QTest::qWaitFor([&] { return modes->table().used == modes->table().best; }, 3000));
  EXPECT_FALSE(find<QAbstractButton>("modesBest")->isEnabled());
  undo();
  EXPECT_EQ(of(0), mode);
}

TEST_F(BenchesTest, WhatToDialInIsReadAtArmsLength) {
  anew(2);
  QTest::keyClick(window_.get(), Qt::Key_F6);
  auto* sheet = window_->findChild<QDialog*>("settingsSheet");
  ASSERT_NE(sheet, nullptr);
  ASSERT_TRUE(QTest::qWaitForWindowExposed(sheet));
  const auto told = [&](const QString& text) {
    for (const QLabel* label : sheet->findChildren<QLabel*>())
      if (label->text().contains(text)) return QFontMetrics(label->font()).height();
    return 0;
  };
  EXPECT_TRUE(find<QLabel>("settingsTitle")->text().startsWith("Shot 1"));
  EXPECT_GE(told("f/"), 22) << "large";
  EXPECT_FALSE(find<QAbstractButton>("settingsBefore")->isEnabled());
  QTest::keyClick(sheet, Qt::Key_Right);
  EXPECT_TRUE(find<QLabel>("settingsTitle")->text().startsWith("Shot 2"));
  EXPECT_EQ(session().shotIndex(), 1u);
  EXPECT_FALSE(find<QAbstractButton>("settingsNext")->isEnabled());
  QTest::mouseClick(find<QAbstractButton>("settingsBefore"), Qt::LeftButton);
  EXPECT_TRUE(find<QLabel>("settingsTitle")->text().startsWith("Shot 1"));
  ASSERT_TRUE(
      session().keep("No camera", {{"/shots/0/camera", std::nullopt}, {"/shots/0/tracks", Json::array()}}));
  EXPECT_TRUE(QTest::qWaitFor([&] { return told("f/") == 0; }, 5000));
  QTest::keyClick(sheet, Qt::Key_Escape);
  EXPECT_TRUE(QTest::qWaitFor([&] { return window_->findChild<QDialog*>("settingsSheet") == nullptr; }, 3000));
}

}  // namespace
}  // namespace cinnabar
