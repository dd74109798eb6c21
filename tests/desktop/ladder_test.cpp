// Tracks, keys, rungs and play on the ladder, by mouse and by keyboard alone.
#include <QClipboard>

#include "window_fixture.h"

namespace cinnabar {
namespace {

class LadderTest : public WindowTest {
 protected:
  void SetUp() override {
    WindowTest::SetUp();
    session().selectShot(1);
    ladder_ = find<LadderView>("ladder");
  }
  [[nodiscard]] Json keys(std::size_t track = 0) {
    return *value("/shots/" + std::to_string(session().shotIndex()) + "/tracks/" + std::to_string(track) +
                  "/keys");
  }
  void type(const char* field, const char* text) {
    auto* f = find<NumberField>(field);
    f->setFocus();
    QTest::keyClick(f, Qt::Key_Return);
    auto* editor = f->findChild<QLineEdit*>("editor");
    ASSERT_NE(editor, nullptr);
    editor->selectAll();
    QTest::keyClicks(editor, text);
    QTest::keyClick(editor, Qt::Key_Return);
  }
  LadderView* ladder_ = nullptr;
};

TEST_F(LadderTest, AKeyIsDraggedInTimeAndKeptAsOneEdit) {
  const Json before = keys();
  const QPointF from = ladder_->onKey({0, 1});
  drag(ladder_, from, {ladder_->onSetRail(1.0).x(), from.y()});
  EXPECT_NEAR(keys()[1][0].get<double>(), 1.0, 0.02);
  EXPECT_EQ(onDisk("/shots/1/tracks/0/keys"), std::optional<Json>(keys()));
  undo();
  EXPECT_EQ(keys(), before);
}

TEST_F(LadderTest, AKeyIsDraggedInValueWithinItsRow) {
  const QPointF from = ladder_->onKey({0, 1});  // the top of the row: 0 degrees of -24 to 0
  drag(ladder_, from, from + QPointF(0, 40));
  EXPECT_NEAR(keys()[1][1].get<double>(), -24.0, 1.0);
}

TEST_F(LadderTest, AKeyIsTypedInSecondsAndDegrees) {
  ladder_->selectKey(KeyPlace{0, 1});
  type("field-keyTime", "1.2 s");
  EXPECT_NEAR(keys()[1][0].get<double>(), 1.2, 1e-9);
  type("field-keyValue", "15");
  EXPECT_NEAR(keys()[1][1].get<double>(), 15.0, 1e-9);
  const Json now = keys();
  type("field-keyTime", "soon");
  EXPECT_EQ(keys(), now);
  EXPECT_NE(find<QLabel>("message")->text().indexOf("cannot be read"), -1);
}

TEST_F(LadderTest, AKeyNeverPassesItsNeighbour) {
  ladder_->selectKey(KeyPlace{0, 0});
  type("field-keyTime", "9");
  const Json now = keys();
  EXPECT_LT(now[0][0].get<double>(), now[1][0].get<double>());
  EXPECT_TRUE(validate(session().document()).empty());
}

TEST_F(LadderTest, IsReachedByTheKeyboardAlone) {
  ladder_->setFocus();
  QTest::keyClick(ladder_, Qt::Key_N);
  EXPECT_EQ(ladder_->selectedKey(), (std::optional(KeyPlace{0, 0})));
  QTest::keyClick(ladder_, Qt::Key_N);
  EXPECT_EQ(ladder_->selectedKey(), (std::optional(KeyPlace{0, 1})));
  const Json before = keys();
  QTest::keyClick(ladder_, Qt::Key_Up);
  EXPECT_NEAR(keys()[1][1].get<double>(), before[1][1].get<double>() + 1.0, 1e-9);
  QTest::keyClick(ladder_, Qt::Key_Left);
  EXPECT_NEAR(keys()[1][0].get<double>(), before[1][0].get<double>() - 0.02, 1e-9);
  QTest::keyClick(ladder_, Qt::Key_Insert);  // at the cursor: the label facing
  EXPECT_EQ(keys().size(), 3u);
  QTest::keyClick(ladder_, Qt::Key_Delete);
  EXPECT_EQ(keys().size(), 2u);
  QTest::keyClick(ladder_, Qt::Key_B);
  QTest::keyClick(ladder_, Qt::Key_Escape);
  EXPECT_FALSE(ladder_->selectedKey());
}

TEST_F(LadderTest, ADoubleClickAddsAKeyOnTheCurve) {
  const double before = session().shot()->tracks[0].at(0.5);
  const QPointF at(ladder_->onSetRail(0.5).x(), ladder_->onKey({0, 0}).y());
  QTest::mouseDClick(ladder_, Qt::LeftButton, {}, at.toPoint());
  ASSERT_EQ(keys().size(), 3u);
  EXPECT_NEAR(keys()[1][0].get<double>(), 0.5, 0.01);
  EXPECT_NEAR(keys()[1][1].get<double>(), before, 0.5);
}

TEST_F(LadderTest, TracksOfEveryKindAreAddedAndTakenOff) {
  const std::size_t before = session().shot()->tracks.size();
  const auto targets = ladder_->targetsToAdd();
  // Twelve of their own less the turntable that is there, three of a product, four of a light and one more of its
  // doors, two of a card.
  const auto& lights = session().setup()->lights;
  const auto doors =
      std::count_if(lights.begin(), lights.end(), [](const Light& l) { return l.doors.has_value(); });
  EXPECT_EQ(targets.size(), 11 + 3 * session().shot()->products.size() + 4 * lights.size() +
                                static_cast<std::size_t>(doors) + 2 * session().setup()->cards.size());
  for (const std::string& target : targets) ladder_->addTrack(target);
  EXPECT_EQ(session().shot()->tracks.size(), before + targets.size());
  EXPECT_TRUE(ladder_->targetsToAdd().empty());
  EXPECT_TRUE(validate(session().document()).empty());
  // What is added changes nothing by itself where it starts from what there is: the dimmers end where they stood.
  for (const Light& l : session().setup()->lights)
    EXPECT_NEAR(light_at(l, *session().shot(), session().shot()->set_time()).dimmer, l.dimmer, 1e-9) << l.id;
  ladder_->selectKey(KeyPlace{before, 0});
  ladder_->setFocus();
  QTest::keyClick(ladder_, Qt::Key_Delete);
  ladder_->selectKey(KeyPlace{before, 0});
  QTest::keyClick(ladder_, Qt::Key_Delete);  // the last key takes its track along
  EXPECT_EQ(session().shot()->tracks.size(), before + targets.size() - 1);
}

TEST_F(LadderTest, KeysAreCopiedToAnotherTrack) {
  ladder_->addTrack("camera.pan");
  ladder_->selectKey(KeyPlace{0, 0});
  ladder_->setFocus();
  QTest::keyClick(ladder_, Qt::Key_C, Qt::ControlModifier);
  ladder_->selectKey(KeyPlace{1, 0});
  QTest::keyClick(ladder_, Qt::Key_V, Qt::ControlModifier);
  EXPECT_EQ(keys(1), keys(0));
  QApplication::clipboard()->setText("not keys at all");
  QTest::keyClick(ladder_, Qt::Key_V, Qt::ControlModifier);
  EXPECT_EQ(keys(1), keys(0));
  EXPECT_NE(find<QLabel>("message")->toolTip().indexOf("holds no keys"), -1);
}

// Only own behaviour is held here.
TEST_F(LadderTest, ACameraTravelsWhereItsKeysArePutOnTheFloor) {
  ladder_->addTrack("camera.place");
  const std::size_t track = session().shot()->tracks.size() - 1;
  const double end = session().shot()->set_time();
  EXPECT_NEAR(session().setTime(), end, 1e-9) << "the cursor goes to the key in hand";
  EXPECT_FALSE(find<NumberField>("field-keyValue")->isVisible()) << "a place is no number";
  auto* floor = find<FloorView>("floor");
  press("bench-place");
  const Vec3 before = session().shot()->tracks[track].places[1];
  // The last key, dragged to camera right by the mouse.
  const QPointF at = floor->handle({Selection::Kind::camera, 0});
  drag(floor, at, at + QPointF(40, 0));
  ASSERT_EQ(session().shot()->tracks[track].places.size(), 2u);
  EXPECT_GT(session().shot()->tracks[track].places[1].x, before.x + 0.03);
  EXPECT_EQ(session().shot()->tracks[track].places[0], session().shot()->camera->place);
  // In the middle of the shot it makes a key of its own, here by a typed number.
  session().setSetTime(0.5 * end);
  session().select({Selection::Kind::camera, 0});
  typeInto(window_.get(), "field-height", "0.4 m");
  ASSERT_EQ(session().shot()->tracks[track].places.size(), 3u);
  EXPECT_NEAR(session().shot()->tracks[track].places[1].y, 0.4, 1e-6);
  EXPECT_NEAR(camera_at(*session().shot(), 0.5 * end).place.y, 0.4, 1e-6);
  // By the keyboard: N chooses keys, Delete takes one off; up and down leave a place alone.
  ladder_->selectKey(KeyPlace{track, 1});
  ladder_->setFocus();
  const Json keys_before = keys(track);
  QTest::keyClick(ladder_, Qt::Key_Up);
  EXPECT_EQ(keys(track), keys_before);
  QTest::keyClick(ladder_, Qt::Key_Right);
  EXPECT_NEAR(keys(track)[1][0].get<double>(), keys_before[1][0].get<double>() + 0.02, 1e-6);
  EXPECT_EQ(keys(track)[1][1], keys_before[1][1]);
  QTest::keyClick(ladder_, Qt::Key_Delete);
  EXPECT_EQ(keys(track).size(), 2u);
  // Its keys do not go into a track of numbers.
  ladder_->selectKey(KeyPlace{track, 0});
  QTest::keyClick(ladder_, Qt::Key_C, Qt::ControlModifier);
  ladder_->selectKey(KeyPlace{0, 0});
  const Json numbers = keys(0);
  QTest::keyClick(ladder_, Qt::Key_V, Qt::ControlModifier);
  EXPECT_EQ(keys(0), numbers);
}

TEST_F(LadderTest, ABackdropIsPulledByDraggingItsKeyOnTheFloor) {
  const double distance = session().setup()->backdrop.distance;
  auto* floor = find<FloorView>("floor");
  press("bench-place");
  ladder_->addTrack("backdrop.place");
  const std::size_t track = session().shot()->tracks.size() - 1;
  const std::vector<Vec3> before = session().shot()->tracks[track].places;
  const QPointF at = floor->handle({Selection::Kind::backdrop, 0});
  drag(floor, at, at + QPointF(30, -20));
  const KeyedTrack& after = session().shot()->tracks[track];
  ASSERT_EQ(after.places.size(), 2u);
  EXPECT_EQ(after.places[0], before[0]);
  EXPECT_GT(after.places[1].x, before[1].x + 0.02);
  EXPECT_LT(after.places[1].z, before[1].z - 0.02);
  EXPECT_EQ(session().setup()->backdrop.distance, distance) << "where it hangs at first stays";
  const QPointF moved = floor->handle({Selection::Kind::backdrop, 0});
  session().setSetTime(0.0);
  EXPECT_GT(moved.x(), floor->handle({Selection::Kind::backdrop, 0}).x() + 5);
  // By the keyboard a key is made where the cursor stands.
  session().setSetTime(0.5 * session().shot()->set_time());
  session().select({Selection::Kind::backdrop, 0});
  floor->setFocus();
  QTest::keyClick(floor, Qt::Key_Right);
  EXPECT_EQ(session().shot()->tracks[track].places.size(), 3u);
}

TEST_F(LadderTest, AProfileIsChosen) {
  ladder_->selectKey(KeyPlace{0, 0});
  EXPECT_EQ(value("/shots/1/tracks/0/profile"), std::optional<Json>("minimum-jerk"));
  auto* profile = find<WordButton>("trackProfile");
  for (const char* next : {"s-curve", "trapezoid", "linear", "trapezoid-1-3", "minimum-jerk"}) {
    QTest::mouseClick(profile, Qt::LeftButton);
    EXPECT_EQ(value("/shots/1/tracks/0/profile"), std::optional<Json>(next));
  }
}

TEST_F(LadderTest, ARungIsDraggedIntoARampWhichIsTheClocksInverse) {
  // The rung of frame 36, at 1.5 s on screen and 0.75 s on set, held in the middle between the rails.
  const double screen = 36 / 24.0;
  const QPointF middle = (ladder_->onSetRail(0.75) + ladder_->onScreenRail(screen)) / 2;
  drag(ladder_, middle, {ladder_->onSetRail(1.0).x(), middle.y()});
  const PlayClock& clock = session().shot()->clock;
  ASSERT_GE(clock.points().size(), 3u);
  EXPECT_NEAR(clock.set_at(screen), 1.0, 0.02);
  for (int k = 0; k < 75; ++k) EXPECT_NEAR(clock.screen_at(clock.set_at(k / 24.0)), k / 24.0, 1e-9);
  EXPECT_TRUE(onDisk("/shots/1/play")->size() >= 3);
  undo();
  EXPECT_EQ(value("/shots/1/play"), std::optional<Json>(Json{{0, 0.5}}));
}

TEST_F(LadderTest, BracketsMoveTheRungAtTheCursor) {
  session().setSetTime(0.75);
  const double screen = session().shot()->clock.screen_at(0.75);
  ladder_->setFocus();
  QTest::keyClick(ladder_, Qt::Key_BracketRight);
  EXPECT_NEAR(session().shot()->clock.set_at(screen), 0.75 + 1.0 / 48, 1e-6);
  EXPECT_NEAR(session().setTime(), 0.75 + 1.0 / 48, 1e-6);
}

TEST_F(LadderTest, PlaysToTheEndOrRoundAndRound) {
  session().setSetTime(session().shot()->set_time() - 0.05);
  ladder_->setFocus();
  QTest::keyClick(ladder_, Qt::Key_Space);
  EXPECT_TRUE(ladder_->playing());
  ASSERT_TRUE(QTest::qWaitFor([&] { return !ladder_->playing(); }, 5000));
  EXPECT_NEAR(session().setTime(), session().shot()->set_time(), 1e-9);
  QTest::mouseClick(find<WordButton>("playLoop"), Qt::LeftButton);
  session().setSetTime(session().shot()->set_time() - 0.02);
  QTest::mouseClick(find<WordButton>("play"), Qt::LeftButton);
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().setTime() < 0.5; }, 5000));
  EXPECT_TRUE(ladder_->playing());
  QTest::keyClick(ladder_, Qt::Key_Space);
  EXPECT_FALSE(ladder_->playing());
}

TEST_F(LadderTest, AShotPlaysBackwardWithItsRungsUncrossed) {
  const double end = session().shot()->set_time();
  const QPointF first = ladder_->onKey({0, 0});
  press("addTrack");
  auto* menu = ladder_->findChild<QMenu*>("trackActions");
  ASSERT_NE(menu, nullptr);
  QAction* turn = nullptr;
  for (QAction* action : menu->actions())
    if (action->text() == "Play it backward") turn = action;
  ASSERT_NE(turn, nullptr);
  turn->trigger();
  menu->close();
  ASSERT_EQ(value("/shots/1/reversed"), std::optional<Json>(true));
  EXPECT_NEAR(session().shot()->set_time(), end, 1e-9) << "as long as before";
  EXPECT_GT(ladder_->onSetRail(0).x(), ladder_->onSetRail(end).x()) << "its rail runs the other way";
  EXPECT_GT(ladder_->onKey({0, 0}).x(), first.x());
  // A frame on is a frame back on the set; the cursor follows the mouse on either rail; a key is dragged.
  session().setSetTime(0.5 * end);
  ladder_->setFocus();
  const double before = session().shot()->clock.screen_at(session().setTime());
  QTest::keyClick(ladder_, Qt::Key_Right);
  EXPECT_LT(session().setTime(), 0.5 * end);
  EXPECT_NEAR(session().shot()->clock.screen_at(session().setTime()), before + 1.0 / 24, 1e-6);
  const QPointF on_set = ladder_->onSetRail(0.3 * end) + QPointF(0, -3), on_screen = ladder_->onScreenRail(0.4);
  QTest::mouseClick(ladder_, Qt::LeftButton, {}, on_set.toPoint());
  EXPECT_NEAR(session().setTime(), 0.3 * end, 0.02);
  QTest::mouseClick(ladder_, Qt::LeftButton, {}, on_screen.toPoint());
  EXPECT_NEAR(session().shot()->clock.screen_at(session().setTime()), 0.4, 0.02);
  const QPointF from = ladder_->onKey({0, 1});
  drag(ladder_, from, {ladder_->onSetRail(1.0).x(), from.y()});
  EXPECT_NEAR(keys()[1][0].get<double>(), 1.0, 0.02);
  undo();
  undo();
  EXPECT_FALSE(session().shot()->reversed);
}

}  // namespace
}  // namespace cinnabar
