// The bench Effects and what the ladder shows of it, by mouse and keyboard in the real window.
#include "cinnabar/desktop/ways/effects_panel.h"

#include "cinnabar/desktop/stage/lens_view.h"
#include "cinnabar/desktop/workers/effects_seen.h"
#include "cinnabar/scene/effects_staged.h"
#include "ways_fixture.h"

namespace cinnabar {
namespace {

class EffectsBenchTest : public WaysTest {
 protected:
  void addDrop() {
    press("addEffect");
    auto* menu = find<QMenu>("effectKinds");
    ASSERT_NE(menu, nullptr);
    for (QAction* action : menu->actions())
      if (action->text() == "Drop") menu->setActiveAction(action);
    QTest::keyClick(menu, Qt::Key_Return);
  }
  bool settled() {
    return QTest::qWaitFor([&] { return window_->findChild<EffectsSeen*>()->settled(); }, 20000);
  }
  /// When the first effect's drop lands, and when that is wanted, in seconds on screen.
  double contact() {
    const Shot& shot = *session().shot();
    return shot.clock.screen_at(outcome_of(session().project(), shot, shot.effects[0])->event("contact")->at);
  }
  double wanted() {
    return *wanted_on_screen(session().project(), session().shotIndex(), *session().shot()->effects[0].needs);
  }
};

// Only own behaviour is held here.
TEST_F(EffectsBenchTest, AnEffectIsAddedMeasuredTimedReadAndTakenAway) {
  press("bench-effects");
  auto* panel = find<EffectsPanel>("effectsPanel");
  ASSERT_TRUE(panel->isVisible());
  EXPECT_EQ(panel->effect(), nullptr);
  EXPECT_FALSE(find<QWidget>("effectChosen")->isVisible());
  addDrop();
  ASSERT_NE(panel->effect(), nullptr);
  EXPECT_EQ(panel->effect()->kind, "drop");
  EXPECT_EQ(session().undoTitle(), "Drop added");
  const auto tells = [&](const char* label, const QString& text) {
    return QTest::qWaitFor([&] { return find<QLabel>(label)->text().contains(text); }, 10000);
  };
  EXPECT_TRUE(tells("effectTakes", "contact"));
  typeInto(panel, "field-effect_diameter", "4 mm");
  EXPECT_EQ(value("/shots/0/effects/0/diameter"), std::optional<Json>(0.004));
  typeInto(panel, "field-effectPlace1", "0.35 m");
  EXPECT_EQ(value("/shots/0/effects/0/place/1"), std::optional<Json>(0.35));
  choose("effectLiquid", "honey");
  EXPECT_EQ(value("/shots/0/effects/0/liquid"), std::optional<Json>("honey"));
  choose("effectEvent", "contact");
  EXPECT_EQ(value("/shots/0/effects/0/needs/event"), std::optional<Json>("contact"));
  // What can hurt is read by a person, and said so.
  EXPECT_TRUE(tells("effectBefore", "no permission"));
  EXPECT_FALSE(find<WordButton>("effectRead")->isChecked());
  press("effectRead");
  EXPECT_EQ(value("/shots/0/effects/0/read"), std::optional<Json>(true));
  undo();
  EXPECT_FALSE(find<WordButton>("effectRead")->isChecked());
  press("removeEffect");
  EXPECT_EQ(panel->effect(), nullptr);
  EXPECT_EQ(value("/shots/0/effects"), std::optional<Json>(Json::array()));
  EXPECT_TRUE(validate(session().document()).empty());
}

// Only own behaviour is held here: what is thrown takes the form of a product, or is a liquid; what the kind has
// no use for is not asked.
TEST_F(EffectsBenchTest, WhatIsThrownHasTheFormThatIsChosen) {
  session().selectShot(0);
  press("bench-effects");
  auto* panel = find<EffectsPanel>("effectsPanel");
  Json effect = begun_effect(session().project(), 0, *effect_kind("throw"));
  ASSERT_TRUE(session().keep("Thrown", {{"/shots/0/effects", Json::array({effect})}}));
  ASSERT_NE(panel->effect(), nullptr);
  EXPECT_TRUE(find<QComboBox>("effectThing")->isVisible());
  EXPECT_FALSE(find<QComboBox>("effectLiquid")->isVisible()) << "a thing";
  const std::string id = session().project().products[0]->id;
  choose("effectThing", QString::fromStdString(id).toUtf8().constData());
  EXPECT_EQ(value("/shots/0/effects/0/product"), std::optional<Json>(id));
  EXPECT_EQ(panel->findChild<QWidget*>("field-effect_diameter"), nullptr) << "it has its own size";
  typeInto(panel, "field-effect_volume", "100 ml");
  EXPECT_NE(panel->findChild<QWidget*>("field-effect_diameter"), nullptr)
      << "of the glass that it is thrown out of";
  EXPECT_TRUE(find<QComboBox>("effectLiquid")->isVisible());
  choose("effectLiquid", "milk");
  EXPECT_EQ(value("/shots/0/effects/0/liquid"), std::optional<Json>("milk"));
  choose("effectThing", "");
  EXPECT_FALSE(value("/shots/0/effects/0/product"));
  effect = begun_effect(session().project(), 0, *effect_kind("powder"));
  ASSERT_TRUE(session().keep("Powder", {{"/shots/0/effects", Json::array({effect})}}));
  EXPECT_FALSE(find<QComboBox>("effectThing")->isVisible());
  EXPECT_TRUE(QTest::qWaitFor([&] { return find<QLabel>("effectBefore")->text().contains("inhaled"); }, 10000));
  EXPECT_TRUE(validate(session().document()).empty());
}

// Only own behaviour is held here: what holds the thing up is outlined over the picture of a shot of plates, where
// that is looked at.
TEST_F(EffectsBenchTest, WhatHoldsItUpIsOutlinedToBePaintedOut) {
  session().selectShot(0);
  press("bench-effects");
  auto* lens = find<LensView>("lens");
  ASSERT_TRUE(QTest::qWaitFor([&] { return lens->settled(); }, 240000));
  EXPECT_FALSE(lens->overlay("Supports"));
  const std::size_t setup = 0;
  ASSERT_EQ(session().shot()->setup, session().project().setups[setup]->id);
  const Json stand{
      {"id", "stand"}, {"name", "Clear stand"}, {"place", {0.0, 0.0, 0.1}}, {"size", {0.05, 0.06, 0.05}}};
  Json effect = begun_effect(session().project(), 0, *effect_kind("levitate"));
  ASSERT_TRUE(session().keep(
      "Levitated", {{"/setups/0/gear", Json::array({stand})}, {"/shots/0/effects", Json::array({effect})}}));
  EXPECT_TRUE(lens->overlay("Supports"));
  ASSERT_TRUE(QTest::qWaitFor([&] { return lens->settled(); }, 240000));
  const QImage outlined = lens->grab().toImage();
  lens->setOverlay("Supports", false);
  const QImage plain = lens->grab().toImage();
  EXPECT_NE(outlined, plain);
  press("bench-light");
  EXPECT_FALSE(lens->overlay("Supports"));
  press("bench-effects");
  EXPECT_TRUE(lens->overlay("Supports"));
}

// Only own behaviour is held here: what is found puts the moment where it is wanted, and moments are dragged.
TEST_F(EffectsBenchTest, AnEffectIsFoundInTimeAndItsMomentsAreDragged) {
  session().selectShot(0);
  press("bench-effects");
  auto* panel = find<EffectsPanel>("effectsPanel");
  addDrop();
  ASSERT_NE(panel->effect(), nullptr);
  ASSERT_TRUE(panel->effect()->needs && panel->effect()->needs->beat) << "the example has its beats";
  ASSERT_TRUE(session().keep("Later", {{"/shots/0/effects/0/at", 0.02}}));
  press("effectFind");
  auto* solve = find<SolvePanel>("effectWayPanel");
  ASSERT_TRUE(solve->isVisible());
  QStringList kinds;
  for (int i = 0; i < find<QComboBox>("effectWayKind")->count(); ++i)
    kinds << find<QComboBox>("effectWayKind")->itemData(i).toString();
  EXPECT_EQ(kinds, (QStringList{"release", "height"})) << "a drop has no flow";
  choose("effectWayKind", "release");
  press("effectWayFind");
  waitForWays(solve->cards());
  press("effectWay-apply-1");
  const double frame = 1.0 / session().project().timeline_rate;
  EXPECT_NEAR(contact(), wanted(), 0.5 * frame);
  // Dragged along the set rail, what is let go goes with its moment; along the screen rail, to whole beats.
  auto* ladder = find<LadderView>("ladder");
  ASSERT_TRUE(settled());
  const double at = session().shot()->effects[0].at, came = session().shot()->clock.set_at(contact());
  drag(ladder, ladder->onMoment(came), ladder->onMoment(came + 0.5));
  EXPECT_NEAR(session().shot()->effects[0].at, at + 0.5, 0.02);
  EXPECT_TRUE(session().undoTitle().contains("let go at")) << session().undoTitle().toStdString();
  ASSERT_TRUE(settled());
  const double beat = *session().shot()->effects[0].needs->beat,
               each = 60.0 / *session().project().beats_per_minute;
  drag(ladder, ladder->onWanted(wanted()), ladder->onWanted(wanted() + 1.2 * each));
  EXPECT_EQ(*session().shot()->effects[0].needs->beat, beat + 1.0);
  undo();
  undo();
  EXPECT_EQ(session().shot()->effects[0].at, at);
}

// Only own behaviour is held here: the rails part where time is ramped, and without beats there are frames.
TEST_F(EffectsBenchTest, MomentsAreDraggedInRampedTimeWithoutBeats) {
  ASSERT_TRUE(session().keep("Ramped", {{"/shots/0/play", Json{{0, 1.0}, {1.0, 0.4}}},
                                        {"/shots/0/products/0/place", Json{0.2, 0, -0.1}},
                                        {"/project/beats_per_minute", std::optional<Json>()}}));
  press("bench-effects");
  addDrop();
  ASSERT_TRUE(session().shot()->effects[0].needs->screen) << "there are no beats";
  const double frame = 1.0 / session().project().timeline_rate;
  EXPECT_NEAR(contact(), wanted(), frame) << "it comes in time from the first";
  auto* ladder = find<LadderView>("ladder");
  ASSERT_TRUE(settled());
  drag(ladder, ladder->onWanted(wanted()), ladder->onWanted(wanted() + 0.4));
  const double screen = *session().shot()->effects[0].needs->screen;
  EXPECT_NEAR(screen / frame, std::round(screen / frame), 1e-6) << "on a frame";
  ASSERT_TRUE(settled());
  const Shot& shot = *session().shot();
  const double came = shot.clock.set_at(contact()), to = shot.clock.set_at(screen);
  ASSERT_GT(std::abs(came - to), 0.05);
  drag(ladder, ladder->onMoment(came), ladder->onMoment(to));
  EXPECT_NEAR(contact(), screen, 2 * frame) << "where it was dragged, by the ramp";
}

// Only own behaviour is held here.
TEST_F(EffectsBenchTest, WhereAnEffectBeginsIsDraggedOnTheFloorAndWalkedByKeys) {
  Json effects = Json::array();
  for (const char* id : {"a", "b"})
    effects.push_back({{"id", id},
                       {"kind", "drop"},
                       {"name", id},
                       {"at", 0.1},
                       {"place", {0.3, 0.3, 0.2}},
                       {"diameter", 0.004}});
  effects[1]["place"] = {-0.3, 0.25, 0.3};
  ASSERT_TRUE(session().keep("Two", {{"/shots/0/effects", effects}}));
  auto* floor = find<FloorView>("floor");
  const Selection second{Selection::Kind::effect, 1};
  const QPointF before = floor->handle(second);
  QTest::mouseClick(floor, Qt::LeftButton, {}, before.toPoint());
  EXPECT_NE(session().selection(), second) << "on another bench it is not in the way";
  press("bench-effects");
  QTest::mouseClick(floor, Qt::LeftButton, {}, floor->handle(second).toPoint());
  EXPECT_EQ(session().selection(), second);
  EXPECT_EQ(find<EffectsPanel>("effectsPanel")->index(), 1u) << "and the bench shows it";
  const QPointF from = floor->handle(second), by = floor->onScreen({0.1, 0, 0}) - floor->onScreen({0, 0, 0});
  drag(floor, from, from + by);
  EXPECT_NEAR(value("/shots/0/effects/1/place/0")->get<double>(), -0.2, 0.011);
  EXPECT_EQ(value("/shots/0/effects/1/place/1"), std::optional<Json>(0.25)) << "its height stays";
  undo();
  // From the side it is raised; keys nudge it.
  press("view-side");
  drag(floor, floor->handle(second),
       floor->handle(second) + floor->onScreen({0, 0.1, 0}) - floor->onScreen({0, 0, 0}));
  EXPECT_NEAR(value("/shots/0/effects/1/place/1")->get<double>(), 0.35, 0.011);
  floor->setFocus();
  QTest::keyClick(floor, Qt::Key_PageDown);
  EXPECT_NEAR(value("/shots/0/effects/1/place/1")->get<double>(), 0.34, 0.011);
  QTest::keyClick(floor, Qt::Key_Delete);
  EXPECT_EQ(value("/shots/0/effects")->size(), 1u);
  undo();
  EXPECT_EQ(value("/shots/0/effects")->size(), 2u);
}

}  // namespace
}  // namespace cinnabar
