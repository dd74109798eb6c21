// A wish, ways to light it, the purse of stops and Find the stops, by mouse and keyboard in the real window. What
// is right about the answers is tried with the core's own tests; here it is own behaviour alone.
#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/desktop/stage/lens_wedges.h"
#include "cinnabar/desktop/ways/effects_panel.h"
#include "cinnabar/desktop/ways/expose_panel.h"
#include "cinnabar/desktop/ways/light_ways_panel.h"
#include "cinnabar/desktop/ways/meter_panel.h"
#include "cinnabar/desktop/ways/mirror_panel.h"
#include "cinnabar/desktop/ways/modes_panel.h"
#include "cinnabar/desktop/ways/solve_panel.h"
#include "cinnabar/desktop/ways/wish_panel.h"
#include "ways_fixture.h"

namespace cinnabar {
namespace {

// Only own behaviour is held here.
TEST_F(WaysTest, AWishIsAskedTriedTakenAndUndone) {
  press("askWish");
  auto* panel = find<WishPanel>("wishPanel");
  ASSERT_TRUE(panel->isVisible());
  EXPECT_FALSE(find<QWidget>("inHand")->isVisible()) << "it stands in the place of In hand and the lights";
  choose("wishKind-1", "stripe");
  typeInto(panel, "field-at", "-0.6");
  press("findWish");
  waitForWays(panel->cards());
  ASSERT_NE(panel->findChild<WayCard*>("wish-way-1"), nullptr) << panel->cards()->accessibleName().toStdString();
  const Document before = session().document();
  press("wish-try-1");
  EXPECT_TRUE(session().previewing());
  EXPECT_FALSE(edit_between(before, session().document(), "").changes.empty());
  press("wish-try-1");
  EXPECT_FALSE(session().previewing());
  EXPECT_TRUE(edit_between(before, session().document(), "").changes.empty());
  press("wish-apply-1");
  EXPECT_FALSE(session().previewing());
  EXPECT_FALSE(edit_between(before, session().document(), "").changes.empty());
  EXPECT_EQ(panel->findChild<WayCard*>("wish-way-1"), nullptr) << "what was found was of the state before";
  undo();
  EXPECT_TRUE(edit_between(before, session().document(), "").changes.empty());
}

// Only own behaviour is held here.
TEST_F(WaysTest, AWishTakesItsPlaceFromThePictureAndSaysWhatItLacks) {
  auto* lens = find<LensView>("lens");
  ASSERT_TRUE(QTest::qWaitFor([&] { return lens->passes() > 1; }, 60000));
  press("askWish");
  auto* panel = find<WishPanel>("wishPanel");
  choose("wishKind-1", "no-mirror");
  press("findWish");
  EXPECT_TRUE(panel->cards()->accessibleName().contains("wants a place")) << "it says what is missing";
  // The middle of the picture is the product of the first shot.
  QTest::mouseClick(lens, Qt::LeftButton, {}, lens->pictureBox().center().toPoint());
  auto* words = find<QLabel>("wishPlace-1");
  EXPECT_TRUE(words->text().startsWith("at its ")) << words->text().toStdString();
  // A stripe takes how far across the product it is: left of the middle below nothing, right of it above.
  choose("wishKind-1", "stripe");
  const auto across = [&] { return panel->findChild<NumberField*>("field-at")->spec().value; };
  const auto met = lens->placeMet();
  ASSERT_TRUE(met);
  EXPECT_EQ(met->role, Role::product);
  lens->setFocus();
  const double from = met->across;
  for (int k = 0; k < 3; ++k) QTest::keyClick(lens, Qt::Key_Left);
  EXPECT_LT(lens->placeMet()->across, from);
  EXPECT_NEAR(across(), lens->placeMet()->across, 0.006);
  // What is out of a number's range is refused with that range.
  QSignalSpy said(&session(), &Session::message);
  typeInto(panel, "field-width", "900");
  ASSERT_EQ(said.count(), 1);
  EXPECT_TRUE(said.front().front().toString().contains("from 0.5 to 60"))
      << said.front().front().toString().toStdString();
  EXPECT_EQ(panel->findChild<NumberField*>("field-width")->spec().value, 5.0);
  // A second wish, and no more of it.
  press("alsoWish");
  EXPECT_TRUE(find<WishLine>("wish-2")->isVisible());
  press("leaveWish-2");
  EXPECT_FALSE(find<WishLine>("wish-2")->isVisible());
}

// Only own behaviour is held here.
TEST_F(WaysTest, WhatIsLookedForIsCalledOffAndWhatIsOldIsTakenBack) {
  press("askWish");
  auto* panel = find<WishPanel>("wishPanel");
  press("findWish");
  ASSERT_TRUE(panel->cards()->seeking());
  press("wish-cancel");
  EXPECT_FALSE(panel->cards()->seeking());
  EXPECT_EQ(panel->cards()->accessibleName(), "Not looked for");
  press("findWish");
  ASSERT_TRUE(session().keep("Another ISO", {{"/shots/0/camera/iso", 320}}));
  EXPECT_FALSE(panel->cards()->seeking());
  EXPECT_TRUE(panel->cards()->accessibleName().contains("changed"));
  // Another bench puts it away, and what is tried with it.
  press("findWish");
  waitForWays(panel->cards());
  press("wish-try-1");
  ASSERT_TRUE(session().previewing());
  press("bench-place");
  EXPECT_FALSE(session().previewing());
  EXPECT_TRUE(find<QWidget>("inHand")->isVisible());
  EXPECT_FALSE(find<QAbstractButton>("askWish")->isVisible());
}

// Only own behaviour is held here.
TEST_F(WaysTest, OneMovesInThePurseAndTheFreeOnesPay) {
  auto* purse = openPurse();
  const std::size_t iso = row(*purse, "iso"), lights = row(*purse, "lights");
  const std::vector<PurseNotch> notches = purse->purse()->rows[iso].notches;
  const double was = *value("/shots/0/camera/iso");
  // By the mouse, two notches down: the lights pay what they can.
  const std::size_t from = purse->purse()->rows[iso].now;
  ASSERT_GE(from, 2u);
  const double wanted = notches[from - 2].value;
  QTest::mousePress(purse, Qt::LeftButton, {}, purse->onScreen(iso, from).toPoint());
  QTest::mouseMove(purse, purse->onScreen(iso, from - 2).toPoint());
  EXPECT_TRUE(session().previewing()) << "the lens goes with the hand";
  QTest::mouseRelease(purse, Qt::LeftButton, {}, purse->onScreen(iso, from - 2).toPoint());
  EXPECT_FALSE(session().previewing());
  EXPECT_EQ(value("/shots/0/camera/iso")->get<double>(), wanted);
  EXPECT_NE(wanted, was);
  undo();
  EXPECT_EQ(value("/shots/0/camera/iso")->get<double>(), was) << "one edit";
  ASSERT_TRUE(QTest::qWaitFor([&] { return purse->purse() != nullptr; }, 60000));
  // By the keyboard: down to the row, P pins the lights, and they no longer pay.
  purse->setFocus();
  for (int k = 0; k < 6; ++k) QTest::keyClick(purse, Qt::Key_Down);
  QTest::keyClick(purse, Qt::Key_P);
  EXPECT_TRUE(purse->pins().contains("lights"));
  const Json setup = *value("/setups/" + std::to_string(session().setupIndex()) + "/lights");
  for (std::size_t k = lights; k > iso; --k) QTest::keyClick(purse, Qt::Key_Up);
  QTest::keyClick(purse, Qt::Key_Left);
  EXPECT_EQ(value("/shots/0/camera/iso")->get<double>(), notches[from - 1].value);
  EXPECT_EQ(*value("/setups/" + std::to_string(session().setupIndex()) + "/lights"), setup);
  // A name pins and lets go by a click; the rate is kept in any case.
  QTest::mouseClick(purse, Qt::LeftButton, {}, purse->nameBox(lights).center().toPoint());
  EXPECT_FALSE(purse->pins().contains("lights"));
  QTest::mouseClick(purse, Qt::LeftButton, {}, purse->nameBox(0).center().toPoint());
  EXPECT_TRUE(purse->pins().empty());
  ASSERT_EQ(purse->parts().size(), 7u);
  EXPECT_EQ(purse->parts().back().name, "Left over");
}

// Only own behaviour is held here.
TEST_F(WaysTest, TheStopsAreFoundWithWhatIsPinned) {
  session().selectShot(2);
  auto* purse = openPurse();
  const double aperture = *value("/shots/2/camera/f_number");
  QTest::mouseClick(purse, Qt::LeftButton, {}, purse->nameBox(row(*purse, "aperture")).center().toPoint());
  press("findStops");
  auto* panel = find<ExposePanel>("exposePanel");
  waitForWays(panel->cards());
  auto* card = panel->findChild<WayCard*>("stops-way-1");
  ASSERT_NE(card, nullptr) << panel->cards()->accessibleName().toStdString();
  ASSERT_TRUE(QTest::qWaitFor([&] { return !card->picture().isNull(); }, 60000)) << "its picture comes after it";
  press("stops-apply-1");
  EXPECT_EQ(value("/shots/2/camera/f_number")->get<double>(), aperture) << "pinned";
  press("showPurse");
  EXPECT_TRUE(purse->isVisible());
}

// Only own behaviour is held here.
TEST_F(WaysTest, AMoveIsWorkedOutTriedAndTaken) {
  press("bench-move");
  auto* panel = find<SolvePanel>("movePanel");
  ASSERT_TRUE(panel->isVisible());
  EXPECT_EQ(outOfReach(find<StagePage>("stage")), "");
  EXPECT_EQ(find<FloorView>("floor")->bench(), FloorView::Bench::move);
  EXPECT_TRUE(find<FloorView>("floor")->lenses().reaches().empty());
  choose("moveKind", "push");
  EXPECT_FALSE(find<QComboBox>("moveLight")->isVisible());
  // Out of its range it is refused with it; in it, it is taken.
  QSignalSpy said(&session(), &Session::message);
  typeInto(panel, "field-to", "900");
  ASSERT_EQ(said.count(), 1);
  EXPECT_TRUE(said.front().front().toString().contains("from 1 to 400"))
      << said.front().front().toString().toStdString();
  typeInto(panel, "field-to", "60 %");
  EXPECT_EQ(panel->request().numbers.at("to"), 60.0);
  press("moveFind");
  waitForWays(panel->cards());
  ASSERT_NE(panel->findChild<WayCard*>("move-way-1"), nullptr) << panel->cards()->accessibleName().toStdString();
  const Document before = session().document();
  press("move-try-1");
  EXPECT_TRUE(session().previewing());
  ASSERT_NE(session().shot()->track("camera.place"), nullptr) << "the floor shows its way";
  press("move-try-1");
  press("move-apply-1");
  EXPECT_NE(session().shot()->track("camera.place"), nullptr);
  undo();
  EXPECT_TRUE(edit_between(before, session().document(), "").changes.empty()) << "one edit";
  // What is not possible is said, and what the shot lacks; by the keyboard.
  choose("moveKind", "loop");
  auto* seek = find<WordButton>("moveFind");
  seek->setFocus();
  QTest::keyClick(seek, Qt::Key_Space);
  waitForWays(panel->cards());
  EXPECT_TRUE(panel->cards()->accessibleName().contains("no turntable"))
      << panel->cards()->accessibleName().toStdString();
  // Numbers that the shot gives are left to it until they are typed.
  session().selectShot(1);
  choose("moveKind", "facing");
  EXPECT_TRUE(panel->request().numbers.empty()) << "the shot decides";
  typeInto(panel, "field-at", "2 s");
  EXPECT_EQ(panel->request().numbers.at("at"), 2.0);
  choose("moveKind", "peak");
  EXPECT_TRUE(find<QComboBox>("moveLight")->isVisible());
  choose("moveLight", "stripe");
  EXPECT_EQ(panel->request().light, "stripe");
}

// Only own behaviour is held here.
TEST_F(WaysTest, ALightIsLeftOutAndComesBack) {
  session().selectShot(2);
  press("askWays");
  auto* panel = find<LightWaysPanel>("lightWays");
  press("findFewer");
  waitForWays(panel->cards());
  ASSERT_NE(panel->findChild<WayCard*>("light-way-1"), nullptr) << panel->cards()->accessibleName().toStdString();
  const auto lit = [&] {
    const auto& lights = session().setup()->lights;
    return std::count_if(lights.begin(), lights.end(), [](const Light& light) { return light.on; });
  };
  const auto before = lit();
  press("light-apply-1");
  EXPECT_EQ(lit(), before - 1);
  undo();
  EXPECT_EQ(lit(), before);
}

// Only own behaviour is held here.
TEST_F(WaysTest, AKeptPictureLiesOverTheLeftUpToALineThatIsDragged) {
  auto* lens = find<LensView>("lens");
  ASSERT_TRUE(QTest::qWaitFor([&] { return lens->passes() > 1; }, 60000));
  press("overlay-stop-lines");  // those of the new picture lie over both
  press("compare");
  ASSERT_TRUE(lens->compared());
  // Four stops brighter: the right of the line changes, the left does not.
  const QRectF box = lens->pictureBox();
  const auto light_of = [&](double from, double to, double top = 0.3, double low = 0.9) {
    const QImage image = lens->grab().toImage();
    double sum = 0;
    for (double x = from; x < to; x += 0.02)
      for (double y = top; y < low; y += 0.02)
        sum += qGray(image.pixel(static_cast<int>(box.left() + x * box.width()),
                                 static_cast<int>(box.top() + y * box.height())));
    return sum;
  };
  const double left = light_of(0.1, 0.45), right = light_of(0.55, 0.95);
  QSignalSpy shown(lens, &LensView::pictureShown);
  ASSERT_TRUE(session().keep("Brighter", {{"/shots/0/camera/iso", 2560}}));
  ASSERT_TRUE(shown.wait(20000));
  EXPECT_LT(std::abs(light_of(0.1, 0.45) - left), 0.1 * left + 50);
  EXPECT_GT(light_of(0.55, 0.95), 1.5 * right);
  ASSERT_TRUE(QTest::qWaitFor([&] { return lens->differs().contains("differs in"); }, 10000))
      << lens->differs().toStdString();
  const auto at = [&](double across) {
    return QPointF(box.left() + across * box.width(), box.center().y()).toPoint();
  };
  QTest::mousePress(lens, Qt::LeftButton, {}, at(0.5));
  QTest::mouseMove(lens, at(0.2));
  QTest::mouseRelease(lens, Qt::LeftButton, {}, at(0.2));
  EXPECT_NEAR(lens->comparedAt(), 0.2, 0.01);
  lens->setFocus();
  QTest::keyClick(lens, Qt::Key_BracketRight);
  EXPECT_NEAR(lens->comparedAt(), 0.25, 0.01);
  // Side by side: the kept one whole in the left half, this one in the right, both in the middle third upright.
  press("beside");
  ASSERT_TRUE(lens->besides());
  EXPECT_GT(light_of(0.55, 0.95, 0.4, 0.7), 1.5 * light_of(0.05, 0.45, 0.4, 0.7));
  const auto kept_there = [&](double across) {  // what was recorded there, as it was kept
    QTest::mouseClick(lens, Qt::LeftButton, {}, at(across));
    return lens->accessibleDescription().section("as kept ", 1).section(", ", 0, 0);
  };
  const QString dark = kept_there(0.02), bright = kept_there(0.25);
  EXPECT_EQ(dark.split(' ').size(), 3) << lens->accessibleDescription().toStdString();
  EXPECT_NE(bright, dark);
  EXPECT_EQ(kept_there(0.52), dark) << "the same place of either";
  EXPECT_EQ(kept_there(0.5), "") << "between them";
  press("beside");
  EXPECT_FALSE(lens->besides());
  press("compare");
  EXPECT_FALSE(lens->compared());
  EXPECT_FALSE(find<WordButton>("beside")->isVisible());
  EXPECT_TRUE(lens->differs().isEmpty());
  QSignalSpy told(lens, &LensView::differenceTold);
  press("compare");
  ASSERT_TRUE(told.wait(10000));
  EXPECT_EQ(lens->differs(), "nothing differs");
}

// Only own behaviour is held here.
TEST_F(WaysTest, ALightIsPutWhereTheProductLooks) {
  press("askMirrors");
  auto* panel = find<MirrorPanel>("mirrors");
  ASSERT_TRUE(QTest::qWaitFor([&] { return panel->room() != nullptr; }, 60000));
  const std::string lights = "/setups/" + std::to_string(session().setupIndex()) + "/lights";
  const std::size_t before = value(lights)->size();
  const QRectF box = panel->roomBox();
  QTest::mouseClick(panel, Qt::LeftButton, {},
                    QPointF(box.left() + 0.75 * box.width(), box.top() + 0.5 * box.height()).toPoint());
  auto* menu = panel->findChild<QMenu*>("mirrorActions");
  ASSERT_NE(menu, nullptr);
  QTest::keyClick(menu, Qt::Key_Down);
  QTest::keyClick(menu, Qt::Key_Return);
  ASSERT_EQ(value(lights)->size(), before + 1);
  const Json light = value(lights)->back();
  const Vec3 place{light["place"][0], light["place"][1], light["place"][2]},
      aim{light["aim"][0], light["aim"][1], light["aim"][2]};
  EXPECT_NEAR(length(place - aim), 0.8, 0.001);
  // A quarter of the way round from the camera, to its right.
  const Vec3 eye = session().shot()->camera->place - aim;
  const double bearing =
      std::remainder(degrees(std::atan2((place - aim).x, (place - aim).z) - std::atan2(eye.x, eye.z)), 360.0);
  EXPECT_NEAR(bearing, 90.0, 1.5);
  EXPECT_EQ(session().selection(), (Selection{Selection::Kind::light, before}));
  undo();
  EXPECT_EQ(value(lights)->size(), before);
  // By the keyboard: pointed at, read out, and a card put there.
  panel->setFocus();
  for (int k = 0; k < 4; ++k) QTest::keyClick(panel, Qt::Key_Left, Qt::ShiftModifier);
  EXPECT_TRUE(panel->accessibleDescription().contains("of the camera"))
      << panel->accessibleDescription().toStdString();
  QTest::keyClick(panel, Qt::Key_Return);
  QMenu* again = nullptr;
  for (QMenu* m : panel->findChildren<QMenu*>("mirrorActions"))
    if (m->isVisible()) again = m;
  ASSERT_NE(again, nullptr);
  const std::string cards = "/setups/" + std::to_string(session().setupIndex()) + "/cards";
  const std::size_t cards_before = value(cards)->size();
  for (QAction* action : again->actions())
    if (action->text() == "Black flag here") action->trigger();
  again->close();
  EXPECT_EQ(value(cards)->size(), cards_before + 1);
}

// Only own behaviour is held here.
TEST_F(WaysTest, ThePlaceBenchTellsWhatEachLensSees) {
  auto* floor = find<FloorView>("floor");
  EXPECT_TRUE(floor->lenses().reaches().empty());
  press("bench-place");
  ASSERT_TRUE(QTest::qWaitFor([&] { return !floor->lenses().reaches().empty(); }, 20000));
  const auto& reaches = floor->lenses().reaches();
  ASSERT_GE(reaches.size(), 2u);
  for (std::size_t i = 1; i < reaches.size(); ++i) EXPECT_GT(reaches[i].focal, reaches[i - 1].focal);
  EXPECT_TRUE(LensWedges::words(reaches.front()).contains("mm"));
  // The camera a metre back: what the widest sees is told anew.
  const double before = reaches.front().spare;
  QSignalSpy worked(&floor->lenses(), &LensWedges::workedOut);
  ASSERT_TRUE(session().keep("Back", {{"/shots/0/camera/place", Json{-0.05, 0.3, 2.4}}}));
  ASSERT_TRUE(worked.wait(20000));
  EXPECT_NE(floor->lenses().reaches().front().spare, before);
  session().selectShot(2);  // of the demo, whose own lens sees no edge: the widest does
  ASSERT_TRUE(worked.wait(20000));
  EXPECT_TRUE(LensWedges::words(floor->lenses().reaches().front()).startsWith("35 mm: surface's edge"))
      << LensWedges::words(floor->lenses().reaches().front()).toStdString();
  press("bench-light");
  EXPECT_TRUE(floor->lenses().reaches().empty());
}

// Only own behaviour is held here: the place that is met is told on the product, wherever that stands and however
// it is turned.
TEST_F(WaysTest, AWishTakesItsPlaceOnAProductThatStandsElsewhereTurned) {
  ASSERT_TRUE(session().keep("Elsewhere", {{"/shots/0/products/0/place", Json{0.3, 0, -0.2}},
                                           {"/shots/0/products/0/turn_deg", 70},
                                           {"/shots/0/tracks", Json::array()},
                                           {"/shots/0/camera/place", Json{0.3, 0.4, 0.7}},
                                           {"/shots/0/camera/aim", Json{0.3, 0.055, -0.2}},
                                           {"/shots/0/camera/focus", 0.93}}));
  auto* lens = find<LensView>("lens");
  ASSERT_TRUE(QTest::qWaitFor([&] { return lens->passes() > 1 && !lens->placeMet(); }, 60000));
  press("askWish");
  choose("wishKind-1", "no-mirror");
  QTest::mouseClick(lens, Qt::LeftButton, {}, lens->pictureBox().center().toPoint());
  const auto met = lens->placeMet();
  ASSERT_TRUE(met);
  ASSERT_EQ(met->role, Role::product);
  EXPECT_LT(std::hypot(met->at.x - 0.3, met->at.z + 0.2), 0.05) << "in the world it is there";
  const auto wish = find<WishLine>("wish-1")->wish();
  ASSERT_TRUE(wish && wish->at);
  // By hand: off the product's place by (x, z), turned back by 70 degrees about the vertical.
  const double c = std::cos(radians(70.0)), s = std::sin(radians(70.0)), x = met->at.x - 0.3, z = met->at.z + 0.2;
  EXPECT_NEAR(wish->at->x, c * x - s * z, 1e-6);
  EXPECT_NEAR(wish->at->y, met->at.y, 1e-6);
  EXPECT_NEAR(wish->at->z, s * x + c * z, 1e-6);
}

// Only own behaviour is held here; what is thrown where is held in the core.
TEST_F(WaysTest, AWishForNoReflectionShowsWhatIsMirroredThereOnTheFloor) {
  auto* lens = find<LensView>("lens");
  auto* floor = find<FloorView>("floor");
  ASSERT_TRUE(QTest::qWaitFor([&] { return lens->passes() > 1; }, 60000));
  EXPECT_TRUE(floor->angles().empty());
  press("askWish");
  choose("wishKind-1", "no-mirror");
  EXPECT_TRUE(floor->angles().empty()) << "it has no place yet";
  QTest::mouseClick(lens, Qt::LeftButton, {}, lens->pictureBox().center().toPoint());
  lens->setFocus();
  for (int k = 0; k < 40 && (floor->angles().empty() || floor->angles()[0].lines.empty()); ++k)
    QTest::keyClick(lens, Qt::Key_Up);  // from the label to what is glossy
  ASSERT_EQ(floor->angles().size(), 1u);
  ASSERT_FALSE(floor->angles()[0].lines.empty());
  const auto along = [&] {
    return floor->angles().empty() ? Vec3{} : floor->angles()[0].lines.front().line.along;
  };
  const Vec3 before = along();
  const QImage with = floor->grab().toImage();
  // It follows the camera, and goes with the panel.
  const Json place = *value("/shots/0/camera/place");
  ASSERT_TRUE(session().keep(
      "Aside", {{"/shots/0/camera/place", Json{place[0].get<double>() + 0.15, place[1], place[2]}}}));
  EXPECT_TRUE(QTest::qWaitFor([&] { return length(along() - before) > 0.05; }, 60000));
  undo();
  EXPECT_TRUE(QTest::qWaitFor([&] { return length(along() - before) < 1e-3; }, 60000));
  press("askWish");
  EXPECT_TRUE(floor->angles().empty());
  EXPECT_NE(floor->grab().toImage(), with);
}

/// What is changed of the demo's first shot, and what may not be told then.
struct OddWindow {
  const char* name;
  Values changes;
  bool dark = false;
};
class OddWays : public WaysTest, public testing::WithParamInterface<OddWindow> {
 protected:
  OddWays() { shots_ = 1; }
};

// Only own behaviour is held here: every panel answers, or says why not, and all of it is in reach in a small
// window in both themes.
TEST_P(OddWays, AreToldAndInReach) {
  window_->resize(1024, 700);
  ASSERT_TRUE(session().keep("Odd", GetParam().changes));
  if (std::string(GetParam().name) == "twenty_lights") {
    Json lights = *value("/setups/0/lights");
    for (int k = 0; k < 17; ++k) {
      Json light = lights[0];
      light["id"] = "more-" + std::to_string(k), light["name"] = "One of many lights with a long name";
      light["place"] = {0.9 * std::cos(k), 0.6, 0.9 * std::sin(k)}, light["dimmer"] = 0.02;
      lights.push_back(light);
    }
    ASSERT_TRUE(session().keep("Twenty", {{"/setups/0/lights", lights}}));
  }
  auto* stage = find<StagePage>("stage");
  press("bench-expose");
  auto* purse = find<PurseView>("purse");
  const QString help = purse->accessibleDescription();
  ASSERT_TRUE(QTest::qWaitFor([&] { return purse->purse() || purse->accessibleDescription() != help; }, 60000));
  EXPECT_EQ(purse->purse() == nullptr, GetParam().dark) << purse->accessibleDescription().toStdString();
  EXPECT_EQ(outOfReach(stage), "");
  press("bench-light");
  press("askMirrors");
  auto* mirrors = find<MirrorPanel>("mirrors");
  ASSERT_TRUE(QTest::qWaitFor([&] { return mirrors->room() != nullptr; }, 60000));
  EXPECT_EQ(outOfReach(stage), "");
  QTest::keyClick(window_.get(), Qt::Key_B, Qt::ControlModifier);
  for (const char* ask : {"askWish", "askWays", "askMeter", "showShadows"}) {
    press(ask);
    EXPECT_EQ(outOfReach(stage), "") << ask;
  }
  press("showShadows");
  // A pin where the picture is read; what it tells is of this set.
  auto* lens = find<LensView>("lens");
  ASSERT_TRUE(QTest::qWaitFor([&] { return lens->passes() > 0; }, 30000));
  lens->readAt(QPointF(0.5, 0.6));
  press("pinSet");
  ASSERT_EQ(session().setup()->pins.size(), 1u);
  const auto& told = find<MeterPanel>("meterPanel")->list();
  ASSERT_TRUE(QTest::qWaitFor([&] { return told.readings().size() == 1; }, 30000));
  EXPECT_EQ(told.readings()[0].by_light.size(), session().setup()->lights.size() + 1);
  EXPECT_EQ(told.readings()[0].lux > 1.0, !GetParam().dark);
  EXPECT_EQ(outOfReach(stage), "") << "with a pin";
  press("bench-move");
  press("showStages");
  for (const char* ask : {"askHand", "askMotor"}) {
    press(ask);
    EXPECT_EQ(outOfReach(stage), "") << ask;
  }
  press("bench-expose");
  for (const char* ask : {"showBands", "askModes"}) {
    press(ask);
    EXPECT_EQ(outOfReach(stage), "") << ask;
  }
  press("bench-move");
  choose("moveKind", "push");
  auto* moves = find<SolvePanel>("movePanel");
  press("moveFind");
  waitForWays(moves->cards());
  EXPECT_NE(moves->findChild<WayCard*>("move-way-1"), nullptr) << moves->cards()->accessibleName().toStdString();
  EXPECT_EQ(outOfReach(stage), "");
  // An effect of every kind, its numbers in reach however many there are.
  press("bench-effects");
  Json effects = Json::array();
  for (const EffectKind& kind : effect_kinds())
    effects.push_back(begun_effect(session().project(), session().shotIndex(), kind));
  ASSERT_TRUE(session().keep("Effects", {{"/shots/0/effects", effects}}));
  auto* which = find<QComboBox>("effectChosen");
  ASSERT_EQ(which->count(), static_cast<int>(effect_kinds().size()));
  for (int k = 0; k < which->count(); ++k) {
    which->setFocus();
    QTest::keyClick(which, k == 0 ? Qt::Key_Home : Qt::Key_Down);
    ASSERT_EQ(find<EffectsPanel>("effectsPanel")->index(), static_cast<std::size_t>(k));
    EXPECT_EQ(outOfReach(stage), "") << effects[static_cast<std::size_t>(k)].dump();
  }
  // When to let the pour go: an answer, or why there is none.
  which->setFocus();
  QTest::keyClick(which, Qt::Key_Home);
  press("effectFind");
  press("effectWayFind");
  auto* ways = find<SolvePanel>("effectWayPanel");
  waitForWays(ways->cards());
  EXPECT_TRUE(ways->findChild<WayCard*>("effectWay-way-1") || !ways->cards()->accessibleName().isEmpty());
  EXPECT_EQ(outOfReach(stage), "");
  press("bench-place");
  auto* floor = find<FloorView>("floor");
  ASSERT_TRUE(QTest::qWaitFor([&] { return !floor->lenses().reaches().empty(); }, 30000));
  for (const LensReach& one : floor->lenses().reaches()) EXPECT_TRUE(std::isfinite(one.spare));
  EXPECT_EQ(outOfReach(stage), "");
}
INSTANTIATE_TEST_SUITE_P(Odd, OddWays,
                         testing::Values(OddWindow{"looks_down",
                                                   {{"/shots/0/camera/place", Json{0.0, 1.0, 0.02}},
                                                    {"/shots/0/tracks", Json::array()}}},
                                         OddWindow{"tall_off_the_origin",
                                                   {{"/shots/0/products/0/place", Json{0.3, 0, -0.2}},
                                                    {"/shots/0/camera/place", Json{0.3, 0.2, 0.7}},
                                                    {"/shots/0/camera/aim", Json{0.3, 0.05, -0.2}},
                                                    {"/shots/0/camera/roll_deg", 90}}},
                                         OddWindow{"lights_off",
                                                   {{"/setups/0/lights/0/on", false},
                                                    {"/setups/0/lights/1/on", false},
                                                    {"/setups/0/lights/2/on", false}},
                                                   true},
                                         OddWindow{"twenty_lights", {{"/setups/0/backdrop/distance", 1.4}}},
                                         OddWindow{"ramped", {{"/shots/0/play", Json{{0, 1.0}, {1.0, 0.4}}}}}),
                         [](const auto& odd) { return std::string(odd.param.name); });

// Only own behaviour is held here.
TEST_F(WaysTest, WithoutShotsEveryPanelSaysSo) {
  path_ = (folder_ / "empty.cinnabar").string();
  window_.reset();
  ASSERT_TRUE(Store::create(path_, empty_document("Empty")));
  open({});
  window_->resize(1024, 700);
  ASSERT_EQ(session().shot(), nullptr);
  press("askWish");
  press("findWish");
  EXPECT_TRUE(find<WishPanel>("wishPanel")->cards()->accessibleName().contains("needs a shot"));
  press("askWays");
  press("findMethods");
  EXPECT_TRUE(find<LightWaysPanel>("lightWays")->cards()->accessibleName().contains("no shot"));
  press("askMirrors");
  EXPECT_EQ(find<MirrorPanel>("mirrors")->room(), nullptr);
  press("askMeter");
  EXPECT_FALSE(find<WordButton>("pinSet")->isEnabled());
  EXPECT_TRUE(find<QLabel>("meterWords")->text().contains("give this shot one"));
  press("bench-expose");
  EXPECT_EQ(find<PurseView>("purse")->purse(), nullptr);
  press("findStops");
  EXPECT_TRUE(find<ExposePanel>("exposePanel")->cards()->accessibleName().contains("no shot"));
  press("showBands");
  press("askModes");
  EXPECT_TRUE(find<ModesPanel>("modesPanel")->table().rows.empty());
  EXPECT_FALSE(find<WordButton>("modesBest")->isEnabled());
  press("bench-move");
  press("showStages");
  press("askHand");
  EXPECT_TRUE(find<Painted>("handPanel")->parts().empty());
  press("askMotor");
  EXPECT_TRUE(QTest::qWaitFor([&] { return find<QLabel>("motorWords")->text().contains("moves nothing"); }, 5000));
  EXPECT_FALSE(find<WordButton>("motorLoad")->isEnabled());
  press("askMotor");
  press("moveFind");
  EXPECT_TRUE(find<SolvePanel>("movePanel")->cards()->accessibleName().contains("no shot"));
  press("bench-effects");
  EXPECT_FALSE(find<WordButton>("addEffect")->isEnabled());
  press("bench-place");
  EXPECT_TRUE(find<FloorView>("floor")->lenses().reaches().empty());
}

}  // namespace
}  // namespace cinnabar
