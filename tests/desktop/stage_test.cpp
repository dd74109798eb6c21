// The floor's views and things, the lens's overlays and reading, and the bands on the levels.
#include "cinnabar/forecast/level_table.h"
#include "cinnabar/forecast/levels/schools.h"
#include "cinnabar/planning/set_looks.h"
#include "cinnabar/project/model/field.h"
#include "window_fixture.h"

namespace cinnabar {
namespace {

class StageTest : public WindowTest {
 protected:
  StageTest() { shots_ = 2; }
};

TEST_F(StageTest, TheFloorIsSeenFromThreeSidesAndDraggedInEach) {
  auto* floor = find<FloorView>("floor");
  const Selection key{Selection::Kind::light, 0};
  session().select(key);
  for (const auto& [name, view] :
       {std::pair{"side", FloorView::View::side}, std::pair{"front", FloorView::View::front}}) {
    QTest::mouseClick(find<WordButton>((std::string("view-") + name).c_str()), Qt::LeftButton);
    EXPECT_EQ(floor->view(), view);
    const Json before = *value("/setups/0/lights/0/place");
    const QPointF from = floor->onScreen(place_and_aim(session().onSet(), key)->first);
    drag(floor, from, from + QPointF(0, -30));
    const Json after = *value("/setups/0/lights/0/place");
    EXPECT_GT(after[1].get<double>(), before[1].get<double>() + 0.05) << name << ": up is higher";
    EXPECT_EQ(after[view == FloorView::View::side ? 0 : 2], before[view == FloorView::View::side ? 0 : 2]) << name;
    undo();
  }
  floor->setFocus();
  QTest::keyClick(floor, Qt::Key_V);
  EXPECT_EQ(floor->view(), FloorView::View::plan);
}

TEST_F(StageTest, TheFloorHasRulersOnTwoEdgesInEveryView) {
  auto* floor = find<FloorView>("floor");
  for (const char* view : {"plan", "side", "front"}) {
    QTest::mouseClick(find<WordButton>((std::string("view-") + view).c_str()), Qt::LeftButton);
    floor->clearFocus();  // whose frame would lie over them
    QTest::qWait(30);
    const QImage seen = floor->grab().toImage();
    const QRgb line = theme().quiet.rgb();
    std::vector<int> across, down;
    for (int x = 20; x < seen.width() - 4; ++x)
      if (seen.pixel(x, 2) == line) across.push_back(x);
    for (int y = 20; y < seen.height() - 4; ++y)
      if (seen.pixel(2, y) == line) down.push_back(y);
    for (const std::vector<int>& ticks : {across, down}) {
      ASSERT_GT(ticks.size(), 5u) << view;
      for (std::size_t i = 2; i < ticks.size(); ++i)
        EXPECT_NEAR(ticks[i] - ticks[i - 1], ticks[1] - ticks[0], 1) << view;
    }
    EXPECT_NEAR(across[1] - across[0], down[1] - down[0], 1) << "one scale for both";
    const QPointF zero = floor->onScreen({0, 0, 0}), metre = floor->onScreen({1, 0, 1}) - zero;
    const double apart = (across.back() - across.front()) / (across.size() - 1.0) / std::abs(metre.x());
    EXPECT_LT(std::abs(std::remainder(std::log10(apart), std::log10(2.0))), 0.1) << apart << " m: a round part";
    EXPECT_TRUE(std::any_of(across.begin(), across.end(), [&](int x) { return std::abs(x - zero.x()) < 1.5; }))
        << "one is at the set's origin";
  }
}

// Only own behaviour is held here: what holds a light is told and drawn, and what none reaches says so.
TEST_F(StageTest, StandsAndArmsAreToldWithTheirReach) {
  auto* floor = find<FloorView>("floor");
  const auto told = [&](const QString& name) {
    for (const auto& part : floor->parts())
      if (part.name == name) return part.value;
    return QString();
  };
  const QString name = QString::fromStdString(value("/setups/0/lights/0/name")->get<std::string>());
  EXPECT_FALSE(told(name).contains("on High stand"));
  Json supports = *value("/kit/supports");
  for (Json& support : supports)
    if (support.value("kind", "") == "stand") support["name"] = "High stand", support["reach"] = 1.8;
  supports.push_back({{"id", "long-arm"}, {"name", "Long arm"}, {"kind", "arm"}, {"reach", 2.0}, {"length", 1.2}});
  ASSERT_TRUE(
      session().keep("Stands", {{"/kit/supports", supports}, {"/setups/0/lights/0/place", Json{-2.0, 0.2, 1.0}}}));
  EXPECT_TRUE(told(name).endsWith("on High stand")) << told(name).toStdString();
  session().select({Selection::Kind::light, 0});
  QTest::mouseClick(find<WordButton>("view-side"), Qt::LeftButton);
  QTest::qWait(30);
  // A dashed line in the accent goes up from the head to 1.8 m, as far as it is in the drawing.
  const QPointF head = floor->onScreen({-2.0, 0.2, 1.0});
  const double tall = value("/setups/0/lights/0/height")->get<double>();
  const QPointF face = floor->onScreen({-2.0, 0.2 + tall / 2, 1.0});
  const QImage seen = floor->grab().toImage();
  int marked = 0;
  for (int y = std::max(24, static_cast<int>(floor->onScreen({-2.0, 1.8, 1.0}).y())); y < face.y() - 3; ++y)
    for (const int x : {-1, 0, 1}) {
      const QColor ink = seen.pixelColor(static_cast<int>(std::lround(head.x())) + x, y);
      marked += ink.red() > ink.green() + 40;
    }
  EXPECT_GT(marked, 3);
  ASSERT_TRUE(session().keep("High", {{"/setups/0/lights/0/place", Json{-2.0, 2.1, 1.0}}}));
  EXPECT_TRUE(told(name).endsWith("none reaches 2.10 m up")) << told(name).toStdString();
  const double half = value("/setups/0/surface/width")->get<double>() / 2;
  ASSERT_TRUE(session().keep("Over", {{"/setups/0/lights/0/place", Json{-half + 0.1, 0.9, 0.0}}}));
  EXPECT_TRUE(told(name).endsWith("on Long arm")) << told(name).toStdString();
}

TEST_F(StageTest, DraggedThingsComeToCentimetresAndToTheAxis) {
  auto* floor = find<FloorView>("floor");
  const Selection card{Selection::Kind::card, 0};
  session().select(card);
  const QPointF from = floor->handle(card);
  const Vec3 place = place_and_aim(session().onSet(), card)->first;
  drag(floor, from, from + floor->onScreen({0.004, 0, 0.3}) - floor->onScreen(place));
  const Json at = *value("/setups/0/cards/0/place");
  EXPECT_EQ(at[0], 0.0) << "near the axis it goes to it";
  EXPECT_NEAR(at[2].get<double>() * 100, std::round(at[2].get<double>() * 100), 1e-9);
}

TEST_F(StageTest, LightsAndSheetsAreSetUpDoubledAndTakenAway) {
  const std::size_t lights = session().setup()->lights.size(), cards = session().setup()->cards.size();
  const auto kits = session().project().light_kits;
  for (const auto& kit : kits) {
    const auto edit = light_added(session().onSet(), kit->id);
    ASSERT_TRUE(edit);
    EXPECT_TRUE(session().keep(*edit)) << kit->id;
  }
  for (const SheetKind& sheet : sheet_kinds()) {
    const auto edit = sheet_added(session().onSet(), sheet.id);
    ASSERT_TRUE(edit);
    EXPECT_TRUE(session().keep(*edit)) << sheet.id;
  }
  EXPECT_FALSE(sheet_added(session().onSet(), "gold"));
  EXPECT_EQ(session().setup()->lights.size(), lights + kits.size());
  EXPECT_EQ(session().setup()->cards.size(), cards + sheet_kinds().size());
  EXPECT_TRUE(validate(session().document()).empty());
  auto* floor = find<FloorView>("floor");
  floor->setFocus();
  session().select({Selection::Kind::light, 0});
  QTest::keyClick(floor, Qt::Key_D, Qt::ControlModifier);
  EXPECT_EQ(session().selection().index, session().setup()->lights.size() - 1) << "the copy is in hand";
  EXPECT_EQ(session().setup()->lights.back().lumens, session().setup()->lights.front().lumens);
  const std::size_t now = session().setup()->lights.size();
  QTest::keyClick(floor, Qt::Key_Delete);
  EXPECT_EQ(session().setup()->lights.size(), now - 1);
  EXPECT_TRUE(validate(session().document()).empty());
}

TEST_F(StageTest, ALightTakesItsTracksAlong) {
  find<LadderView>("ladder")->addTrack("light.key.dimmer");
  ASSERT_NE(session().shot()->track("light.key.dimmer"), nullptr);
  const auto edit = taken_away(session().onSet(), {Selection::Kind::light, 0});
  ASSERT_TRUE(edit);
  ASSERT_TRUE(session().keep(*edit));
  EXPECT_EQ(session().shot()->track("light.key.dimmer"), nullptr);
  EXPECT_TRUE(validate(session().document()).empty());
  undo();
  EXPECT_NE(session().shot()->track("light.key.dimmer"), nullptr);
}

TEST_F(StageTest, ASharedSetUpSaysSo) {
  anew(all_shots);
  EXPECT_EQ(shared_note(session().onSet()), "set-up A, shared by shots 1, 2, 7 and 8");
}

TEST_F(StageTest, AChangeToASharedSetUpSaysWhatItTouchesAndIsKeptForAllOrHere) {
  anew(all_shots);
  session().selectShot(1);
  auto* line = find<QWidget>("elsewhere");
  auto* text = find<QLabel>("elsewhereText");
  EXPECT_FALSE(line->isVisible());
  const double before = session().setup()->lights[0].dimmer;
  ASSERT_TRUE(session().keep("Key dimmed", Values{{"/setups/0/lights/0/dimmer", 0.05}}));
  ASSERT_TRUE(line->isVisible());
  EXPECT_TRUE(text->accessibleName().contains("shots 1, 7 and 8")) << text->accessibleName().toStdString();
  ASSERT_TRUE(QTest::qWaitFor([&] { return text->accessibleName().startsWith("In shots 1, 7"); }, 60000))
      << text->accessibleName().toStdString();
  EXPECT_TRUE(text->accessibleName().contains("light out")) << text->accessibleName().toStdString();
  EXPECT_TRUE(text->accessibleDescription().contains("Shot 8, exposure: from")) << "each from what to what";
  auto* all = find<WordButton>("elsewhereAll");
  all->setFocus();
  QTest::keyClick(all, Qt::Key_Space);
  EXPECT_FALSE(line->isVisible());
  EXPECT_EQ(value("/setups/0/lights/0/dimmer"), std::optional<Json>(0.05));
  // Only here: the shot goes on a variation, and the others' light is as it was.
  ASSERT_TRUE(session().keep("Key up", Values{{"/setups/0/lights/0/dimmer", before}}));
  press("elsewhereHere");
  EXPECT_FALSE(line->isVisible());
  EXPECT_EQ(onDisk("/setups/0/lights/0/dimmer"), std::optional<Json>(0.05));
  EXPECT_EQ(session().setup()->of, "A");
  EXPECT_NEAR(session().setup()->lights[0].dimmer, before, 1e-12);
  // What both have alike goes along, is told, and is taken back with the rest.
  session().selectShot(0);
  ASSERT_TRUE(session().keep("Stripe off", Values{{"/setups/0/lights/1/on", false}}));
  EXPECT_TRUE(line->isVisible());
  const auto stripeOn = [this] {
    const Project& p = session().project();
    return by_id(p.setups, p.shots[1]->setup)->lights[1].on;
  };
  EXPECT_FALSE(stripeOn());
  press("elsewhereBack");
  ASSERT_TRUE(QTest::qWaitFor(stripeOn, 5000));
  EXPECT_FALSE(line->isVisible());
}

TEST_F(StageTest, ADragThatPausesIsToldOfBeforeItIsKept) {
  auto* line = find<QWidget>("elsewhere");
  ASSERT_TRUE(session().preview(Values{{"/setups/0/lights/0/on", false}}));
  ASSERT_TRUE(QTest::qWaitFor([&] { return line->isVisible(); }, 5000));
  EXPECT_FALSE(find<WordButton>("elsewhereAll")->isVisible()) << "nothing is kept yet";
  ASSERT_TRUE(QTest::qWaitFor(
      [&] { return find<QLabel>("elsewhereText")->accessibleDescription().contains("Shot 2, exposure"); }, 60000))
      << find<QLabel>("elsewhereText")->accessibleDescription().toStdString();
  session().dropPreview();
  EXPECT_FALSE(line->isVisible());
  ASSERT_TRUE(session().keep("ISO", Values{{"/shots/0/camera/iso", 800}}));
  EXPECT_FALSE(line->isVisible()) << "a shot's own settings touch no other";
}

TEST_F(StageTest, ABodyRaisesTheProductAndIsDraggedWithIt) {
  const double before = session().shot()->products[0].place.y;
  auto* floor = find<FloorView>("floor");
  QTest::mouseClick(find<WordButton>("things"), Qt::LeftButton);
  auto* bodies = find<QMenu>("bodyActions");
  ASSERT_FALSE(bodies->actions().isEmpty());
  bodies->actions()[0]->trigger();
  find<QMenu>("thingActions")->close();
  ASSERT_EQ(session().setup()->gear.size(), 1u);
  EXPECT_EQ(session().selection().kind, Selection::Kind::body) << "it is in hand";
  const Gear body = session().setup()->gear[0];
  EXPECT_TRUE(body.dressed);
  EXPECT_NEAR(session().shot()->products[0].place.y, before + body.size.y, 1e-9);
  // Higher by typing, the product with it.
  typeInto(window_.get(), "field-high", "80 mm");
  EXPECT_NEAR(session().setup()->gear[0].size.y, 0.08, 1e-9);
  EXPECT_NEAR(session().shot()->products[0].place.y, before + 0.08, 1e-9);
  // Stepped by keys, the product with it.
  const Vec3 product = session().shot()->products[0].place;
  session().select({Selection::Kind::body, 0});
  floor->setFocus();
  QTest::keyClick(floor, Qt::Key_Right);
  EXPECT_GT(session().setup()->gear[0].place.x, body.place.x);
  EXPECT_NEAR(session().shot()->products[0].place.x - product.x, session().setup()->gear[0].place.x - body.place.x,
              1e-9);
  QTest::keyClick(floor, Qt::Key_Delete);
  EXPECT_TRUE(session().setup()->gear.empty());
  EXPECT_NEAR(session().shot()->products[0].place.y, before, 1e-9) << "it stands on the table again";
  EXPECT_TRUE(validate(session().document()).empty());
}

TEST_F(StageTest, EveryOverlayChangesThePicture) {
  session().selectShot(1);
  session().setSetTime(0.6);  // the table turns fastest
  auto* lens = find<LensView>("lens");
  ASSERT_TRUE(QTest::qWaitFor([&] { return lens->passes() >= 4; }, 60000));
  for (const char* name : {"focus-discs", "smear-strokes", "frames"}) {
    const QImage without = lens->grab().toImage();
    QTest::mouseClick(find<WordButton>((std::string("overlay-") + name).c_str()), Qt::LeftButton);
    EXPECT_NE(lens->grab().toImage(), without) << name;
  }
}

TEST_F(StageTest, ThePictureIsReadByMouseAndKeyboard) {
  auto* lens = find<LensView>("lens");
  ASSERT_TRUE(QTest::qWaitFor([&] { return lens->passes() >= 2; }, 60000));
  QTest::mouseClick(lens, Qt::LeftButton, {}, lens->pictureBox().center().toPoint());
  ASSERT_TRUE(lens->reading());
  QStringList lines = lens->readOut();
  ASSERT_GE(lines.size(), 2);
  EXPECT_NE(lines[0].indexOf("cd/m2"), -1);
  EXPECT_NE(lines.join(' ').indexOf("Key"), -1) << "the light that gives most there";
  EXPECT_FALSE(lens->accessibleDescription().isEmpty());
  lens->setFocus();
  const QPointF before = *lens->reading();
  QTest::keyClick(lens, Qt::Key_Left, Qt::ShiftModifier);
  EXPECT_NEAR(lens->reading()->x(), before.x() - 0.05, 1e-9);
  QTest::keyClick(lens, Qt::Key_Escape);
  EXPECT_FALSE(lens->reading());
  EXPECT_TRUE(lens->readOut().isEmpty());
}

TEST_F(StageTest, TheLensZoomsToDeliveredPixelsAndTakesTheWholeWindow) {
  auto* lens = find<LensView>("lens");
  lens->setFocus();
  QTest::keyClick(lens, Qt::Key_Z);
  EXPECT_TRUE(lens->zoomed());
  EXPECT_TRUE(find<WordButton>("zoom")->isChecked());
  QTest::keyClick(lens, Qt::Key_Z);
  EXPECT_FALSE(lens->zoomed());
  const int before = lens->width();
  QTest::keyClick(lens, Qt::Key_F);
  EXPECT_TRUE(window_->stage()->lensAlone());
  ASSERT_TRUE(QTest::qWaitFor([&] { return lens->width() > before + 200; }, 3000));
  EXPECT_FALSE(find<FloorView>("floor")->isVisible());
  QTest::keyClick(lens, Qt::Key_F);
  EXPECT_TRUE(find<FloorView>("floor")->isVisible());
}

TEST_F(StageTest, ASchoolIsChosenOnTheLevelItself) {
  waitForLevels();
  QTest::mouseClick(find<Vial>("level-camera.shutter"), Qt::LeftButton);
  press("whyBand");
  press("school-crisp");
  EXPECT_EQ(onDisk("/house_rules/shutter"), std::optional<Json>("crisp"));
  waitForLevels();
  EXPECT_EQ(find<Vial>("level-camera.shutter")->level().band.high, std::optional(90.0));
  undo();
  EXPECT_EQ(value("/house_rules/shutter"), std::optional<Json>("half"));
}

TEST_F(StageTest, LevelsThatAreOffStandFullAndAllOthersSmallAndInSight) {
  anew(all_shots);
  session().selectShot(5);
  waitForLevels();
  auto* panel = find<LevelsPanel>("levels");
  const auto vials = panel->findChildren<Vial*>();
  ASSERT_GT(vials.size(), 25);
  int full = 0, lowestFull = 0, highestSmall = 10000;
  for (const Vial* v : vials) {
    const bool off = v->level().state == State::out || v->level().state == State::leaning;
    EXPECT_EQ(v->height() >= 30, off) << v->level().id;
    const int top = v->mapTo(panel, QPoint()).y();
    full += off ? 1 : 0;
    (off ? lowestFull : highestSmall) = off ? std::max(lowestFull, top) : std::min(highestSmall, top);
    EXPECT_TRUE(panel->rect().contains(QRect(v->mapTo(panel, QPoint()), v->size()))) << v->level().id;
  }
  EXPECT_GE(full, 2);
  EXPECT_LT(lowestFull, highestSmall);
  // Pointed at or walked to, a small one tells its number; Enter opens it, full and first among its like.
  auto* iso = find<Vial>("level-camera.iso");
  const QImage still = iso->grab().toImage();
  iso->setFocus();
  EXPECT_NE(iso->grab().toImage(), still);
  QTest::keyClick(iso, Qt::Key_Return);
  EXPECT_EQ(panel->opened(), "camera.iso");
  EXPECT_GE(iso->height(), 30);
  EXPECT_NE(panel->findChild<QWidget*>("explanation"), nullptr);
  QTest::keyClick(iso, Qt::Key_Return);
  EXPECT_LT(iso->height(), 30);
  EXPECT_TRUE(iso->hasFocus()) << "the keyboard stays where it was";
}

TEST_F(StageTest, WhatIsBeingMeasuredCountsNeitherWay) {
  waitForLevels();
  const auto sure = [&](const char* id) { return find<Vial>(id)->level().sure; };
  session().keep("Key moved", {{"/setups/0/lights/0/place/0", 0.9}});
  ASSERT_TRUE(QTest::qWaitFor([&] { return !sure("level-light.product"); }, 10000)) << "the first, rough look";
  EXPECT_FALSE(sure("level-camera.stops"));
  EXPECT_TRUE(sure("level-frame.size")) << "what is reckoned is sure at once";
  EXPECT_TRUE(find<Vial>("level-light.product")->accessibleDescription().endsWith("being measured"));
  waitForLevels();
  for (const Vial* v : find<LevelsPanel>("levels")->findChildren<Vial*>())
    EXPECT_TRUE(v->level().sure) << v->level().id;
}

TEST_F(StageTest, ASetUpsOwnRuleIsChangedWhereItStands) {
  anew(3);
  session().selectShot(2);  // the pale sweep follows its own rule for the backdrop
  waitForLevels();
  QTest::mouseClick(find<Vial>("level-light.backdrop"), Qt::LeftButton);
  press("whyBand");
  press("school-gradient");
  EXPECT_EQ(value("/setups/1/house_rules/backdrop"), std::optional<Json>("gradient"));
  EXPECT_EQ(value("/house_rules/backdrop"), std::optional<Json>("black"));
}

TEST_F(StageTest, ABandIsSetByHandWithAReasonAndReset) {
  waitForLevels();
  QTest::mouseClick(find<Vial>("level-light.soft"), Qt::LeftButton);
  press("whyBand");
  auto* high = find<NumberField>("field-band-high");
  high->setFocus();
  QTest::keyClick(high, Qt::Key_Return);
  auto* editor = high->findChild<QLineEdit*>("editor");
  editor->selectAll();
  QTest::keyClicks(editor, "20");
  QTest::keyClick(editor, Qt::Key_Return);
  EXPECT_EQ(value("/bands/light.soft"), std::optional<Json>(Json{{"low", 3.0}, {"high", 20.0}}))
      << value("/bands/light.soft")->dump();
  waitForLevels();
  auto* reason = find<QLineEdit>("band-reason");
  reason->setFocus();
  QTest::keyClicks(reason, "a dreamy jar");
  QTest::keyClick(reason, Qt::Key_Return);
  EXPECT_EQ(onDisk("/bands/light.soft/reason"), std::optional<Json>("a dreamy jar"));
  waitForLevels();
  EXPECT_NE(find<Vial>("level-light.soft")->level().source.find("a dreamy jar"), std::string::npos);
  press("band-reset");
  EXPECT_FALSE(value("/bands/light.soft"));
}

TEST_F(StageTest, TheWorstMomentIsOneClickAway) {
  session().selectShot(1);
  waitForLevels();
  QTest::mouseClick(find<Vial>("level-motion.smear"), Qt::LeftButton);
  const double worst = *find<Vial>("level-motion.smear")->level().set_time;
  session().setSetTime(0.0);
  press("worst");
  EXPECT_NEAR(session().setTime(), worst, 1e-9);
}

TEST(Schools, EachRuleHasItsQuestionAndEachWayItsReason) {
  for (const HouseRuleRow& row : house_rule_rows()) {
    std::vector<std::string> offered;
    for (const School& s : schools(row.rule)) {
      offered.push_back(s.value);
      EXPECT_FALSE(s.title.empty() || s.reason.empty()) << row.key;
    }
    EXPECT_EQ(offered, row.names);
    EXPECT_FALSE(question_of(row.rule).empty());
  }
}

}  // namespace
}  // namespace cinnabar
