// Barn doors, the glass sheet, the spot's levels and another language, in the window.
#include <QAccessible>
#include <QTranslator>

#include "cinnabar/desktop/shell/language.h"
#include "cinnabar/project/making/product_kinds.h"
#include "cinnabar/scene/form.h"
#include "cinnabar/scene/staged.h"
#include "window_fixture.h"

namespace cinnabar {
namespace {

class ThingsTest : public WindowTest {
 protected:
  ThingsTest() { shots_ = 3; }
  /// Chooses from the floor's menu by the text it begins with.
  void choose(const QString& begins) {
    auto* floor = find<FloorView>("floor");
    floor->setFocus();
    QTest::keyClick(floor, Qt::Key_Insert);
    auto* menu = floor->findChild<QMenu*>("thingActions");
    ASSERT_NE(menu, nullptr);
    QAction* found = nullptr;
    for (QAction* action : menu->actions())
      for (QAction* one : action->menu() ? action->menu()->actions() : QList<QAction*>{action})
        if (one->text().startsWith(begins)) found = one;
    ASSERT_NE(found, nullptr) << begins.toStdString();
    found->trigger();
    menu->close();
    QCoreApplication::sendPostedEvents(menu, QEvent::DeferredDelete);
  }
  void type(const char* field, const QString& text) { typeInto(window_.get(), field, text); }
};

// What is in the picture and has nothing to do there is marked on floor and lens; what may be seen is not.
TEST_F(ThingsTest, LampsAtHandAreSetUpAndToldInThePicture) {
  auto* lens = find<LensView>("lens");
  auto* floor = find<FloorView>("floor");
  choose("Light: Practical bulb");
  const std::size_t bulb = session().setup()->lights.size() - 1;
  ASSERT_TRUE(session().setup()->lights[bulb].dressed);
  const std::string path = "/setups/0/lights/" + std::to_string(bulb);
  const Json aim = *value("/shots/0/camera/aim"), from = *value("/shots/0/camera/place");
  Json before = Json::array();  // half-way to what the camera looks at
  for (std::size_t k = 0; k < 3; ++k) before.push_back(0.5 * (aim[k].get<double>() + from[k].get<double>()));
  ASSERT_TRUE(session().keep("Before the lens", {{path + "/place", before}}));
  const auto strayed = [&] {
    return std::any_of(floor->strays().begin(), floor->strays().end(), [&](const StrayThing& stray) {
      return stray.role == Role::light && stray.thing == static_cast<int>(bulb) && stray.share > 0.001;
    });
  };
  QSignalSpy shown(lens, &LensView::pictureShown);
  ASSERT_TRUE(shown.wait(20000));
  EXPECT_FALSE(strayed()) << "it may be seen";
  session().select({Selection::Kind::light, bulb});
  choose("Practical bulb must not be seen");
  EXPECT_TRUE(QTest::qWaitFor(strayed, 20000));
  press("bench-place");
  EXPECT_TRUE(lens->overlay("Gear"));
  press("bench-light");
  EXPECT_FALSE(lens->overlay("Gear"));
  choose("Practical bulb's colour is meant");
  EXPECT_TRUE(session().setup()->lights[bulb].colour_meant);
  bool told = false;
  for (const auto& part : find<LightsPanel>("lights")->parts())
    told = told || part.value.contains(QStringLiteral("on purpose"));
  EXPECT_TRUE(told);
  EXPECT_TRUE(find<LightsPanel>("lights")->parts()[0].value.contains("of that on the backdrop"))
      << find<LightsPanel>("lights")->parts()[0].value.toStdString();
}

TEST_F(ThingsTest, PatternsFilmsAndGelsAreChosenFromTheMenu) {
  const auto setup = [this]() -> const cinnabar::Setup& { return *session().setup(); };
  session().select({Selection::Kind::surface, 0});
  choose("Surface: Marble veins");
  ASSERT_TRUE(setup().surface->material.texture);
  type("field-pattern", "40 cm");
  type("field-pattern-turn", "30");
  EXPECT_NEAR(setup().surface->material.texture->size, 0.4, 1e-9);
  EXPECT_NEAR(setup().surface->material.texture->turn_deg, 30, 1e-9);
  // A picture from a file; one that is none is refused and nothing changes.
  const QString good = inFolder("planks.png"), bad = inFolder("broken.png");
  QImage planks(64, 32, QImage::Format_RGB32);
  planks.fill(Qt::darkRed);
  ASSERT_TRUE(planks.save(good));
  QFile broken(bad);
  ASSERT_TRUE(broken.open(QIODevice::WriteOnly));
  broken.write("no picture");
  broken.close();
  choose("From a picture");
  typeFile(bad);
  ASSERT_TRUE(QTest::qWaitFor([&] { return find<QLabel>("message")->toolTip().contains("broken.png"); }, 5000));
  EXPECT_EQ(setup().surface->material.texture->kind, TextureKind::marble);
  choose("From a picture");
  typeFile(good);
  ASSERT_TRUE(
      QTest::qWaitFor([&] { return setup().surface->material.texture->kind == TextureKind::picture; }, 5000));
  ASSERT_TRUE(setup().surface->material.texture->image);
  EXPECT_EQ(setup().surface->material.texture->image->width, 64);
  choose("Surface without a pattern");
  EXPECT_FALSE(setup().surface->material.texture);
  // What it reflects is typed; what it is made of is chosen.
  choose("Surface of grey paint");
  type("field-reflects", "12 %");
  EXPECT_NEAR(setup().surface->material.colour.y, 0.12, 1e-4);
  type("field-colour", "#804020");
  const Vec3 brown = setup().surface->material.colour;
  EXPECT_NEAR(brown.x, 0.2159, 1e-3);  // IEC 61966-2-1
  EXPECT_NEAR(brown.z, 0.0144, 1e-3);
  type("field-reflects", "5");
  EXPECT_NEAR(setup().surface->material.colour.x / setup().surface->material.colour.y, brown.x / brown.y, 1e-2)
      << "darker, in the same colour";
  type("field-colour", "no colour");
  type("field-sheen", "30");
  EXPECT_NEAR(setup().surface->material.sheen, 0.3, 1e-9);
  choose("Surface of brushed steel");
  type("field-rough", "50 %");
  EXPECT_NEAR(setup().surface->material.roughness, 0.5, 1e-9);
  EXPECT_TRUE(validate(session().document()).empty());

  session().select({Selection::Kind::light, 0});
  choose("Polarising film on");
  ASSERT_TRUE(setup().lights[0].film);
  type("field-film", "45");
  EXPECT_NEAR(setup().lights[0].film->angle_deg, 45, 1e-9);
  const QString curve = inFolder("amber.csv");
  QFile table(curve);
  ASSERT_TRUE(table.open(QIODevice::WriteOnly));
  table.write("nm,share\n400,0.05\n560,0.4\n700,0.9\n");
  table.close();
  choose("Gel by its curve");
  typeFile(curve);
  ASSERT_TRUE(QTest::qWaitFor([&] { return setup().lights[0].gel_curve.size() == 3; }, 5000));
  EXPECT_GT(setup().lights[0].gel_bands->x, 2 * setup().lights[0].gel_bands->z);
  choose("Gel off");
  EXPECT_FALSE(setup().lights[0].gel_bands);
  choose("Polarising film off");
  EXPECT_FALSE(setup().lights[0].film);

  // Diffusion as a card; what it lets through is typed.
  choose("Baking paper");
  ASSERT_FALSE(setup().cards.empty());
  type("field-through", "70 %");
  type("field-straight", "10");
  EXPECT_NEAR(setup().cards.back().material.transmittance, 0.7, 1e-9);
  EXPECT_NEAR(setup().cards.back().material.forward, 0.1, 1e-9);
  EXPECT_TRUE(validate(session().document()).empty());
}

TEST_F(ThingsTest, DoorsArePutOnSwungByHandAndByNumberAndTakenOff) {
  session().select({Selection::Kind::light, 0});
  choose("Doors on");
  ASSERT_TRUE(session().setup()->lights[0].doors);
  type("field-door-left", "-20");
  EXPECT_EQ(session().setup()->lights[0].doors->left_deg, -20);
  type("field-door-top", "400");
  EXPECT_EQ(session().setup()->lights[0].doors->top_deg, 90) << "no farther than flat";
  // A leaf is taken by its edge in the view that shows it swing.
  auto* floor = find<FloorView>("floor");
  std::optional<QPointF> tip;
  std::size_t leaf = 4;
  for (std::size_t k = 0; k < 4 && !tip; ++k)
    if ((tip = floor->doorHandle(k))) leaf = k;
  ASSERT_TRUE(tip);
  const Json before = *value("/setups/" + std::to_string(session().setupIndex()) + "/lights/0/doors");
  drag(floor, *tip, *tip + QPointF(9, 14));
  const Json after = *value("/setups/" + std::to_string(session().setupIndex()) + "/lights/0/doors");
  const char* keys[] = {"top_deg", "bottom_deg", "left_deg", "right_deg"};
  EXPECT_NE(after[keys[leaf]], before[keys[leaf]]);
  EXPECT_EQ(after["length"], before["length"]);
  undo();
  EXPECT_EQ(*value("/setups/" + std::to_string(session().setupIndex()) + "/lights/0/doors"), before);
  ASSERT_TRUE(session().keep(
      "Opened",
      {{"/shots/0/tracks", Json::array({{{"target", "light." + session().setup()->lights[0].id + ".doors"},
                                         {"profile", "linear"},
                                         {"keys", {{0, 0}, {1, 60}}}}})}}));
  choose("Doors off");
  EXPECT_TRUE(session().project().shots[0]->tracks.empty()) << "what opened them goes with them";
  EXPECT_FALSE(session().setup()->lights[0].doors);
}

TEST_F(ThingsTest, ARoomIsWalledAndItsWindowsAreInTheListOfLights) {
  const auto room = [&](const char* key) {
    return value("/setups/" + std::to_string(session().setupIndex()) + "/room" + key);
  };
  ASSERT_TRUE(session().keep("A day", {{"/project/date", "2026-06-21"},
                                       {"/project/hour", 9.0},
                                       {"/project/latitude", 48.0},
                                       {"/project/longitude", 15.0}}));
  choose("Walls round the set");
  ASSERT_TRUE(session().setup()->room.has_walls());
  EXPECT_EQ(session().selection().kind, Selection::Kind::room);
  type("field-width", "3.4 m");
  EXPECT_EQ(*room("/width"), 3.4);
  type("field-north", "90 right");
  EXPECT_EQ(*room("/north_deg"), 90);
  type("field-under", "0.9 m");
  EXPECT_EQ((*room("/place"))[1], -0.9);
  const std::size_t own = session().setup()->lights.size();
  choose("Left window");
  ASSERT_GE(session().setup()->lights.size(), own + 1);
  EXPECT_EQ(session().selection(), (Selection{Selection::Kind::light, own}));
  EXPECT_GT(session().setup()->lights[own].lumens, 0) << "the sun is up";
  type("field-low", "1 m");
  EXPECT_EQ(*room("/windows/0/low"), 1.0);
  // A curtain by number, by the slider, and away again; the window closed and open again by its switch.
  type("field-curtain", "50 %");
  EXPECT_EQ(*room("/windows/0/curtain"), 0.5);
  auto* lights = find<LightsPanel>("lights");
  const QRectF slide = lights->sliderBox(own);
  if (slide.bottom() < lights->height()) {
    drag(lights, slide.center(), slide.center() - QPointF(slide.width() / 3, 0));
    EXPECT_LT(room("/windows/0/curtain")->get<double>(), 0.5);
    QTest::mouseClick(lights, Qt::LeftButton, {}, lights->switchBox(own).center().toPoint());
    EXPECT_EQ(*room("/windows/0/on"), false);
  }
  type("field-curtain", "none");
  EXPECT_FALSE(room("/windows/0/curtain"));
  // In every view of the floor.
  auto* floor = find<FloorView>("floor");
  for (const FloorView::View view : {FloorView::View::side, FloorView::View::front, FloorView::View::plan}) {
    floor->setView(view);
    const QImage with = floor->grab().toImage();
    session().select({Selection::Kind::camera, 0});
    EXPECT_NE(floor->grab().toImage(), with);
    session().select({Selection::Kind::light, own});
  }
  EXPECT_LT(floor->aimHandle().x(), 0) << "it has nothing to be aimed";
  floor->setFocus();
  QTest::keyClick(floor, Qt::Key_Left);
  EXPECT_FALSE(room("/windows/0/place")) << "nothing carries a window";
  QTest::keyClick(floor, Qt::Key_Delete);
  EXPECT_EQ(session().setup()->lights.size(), own);
  choose("Walls taken away");
  EXPECT_FALSE(session().setup()->room.has_walls());
  EXPECT_TRUE(validate(session().document()).empty());
}

TEST_F(ThingsTest, LightsComeFromTheDarkOneAtATime) {
  auto* lights = find<LightsPanel>("lights");
  const std::size_t count = session().setup()->lights.size();
  ASSERT_GE(count, 2u);
  lights->setFocus();
  QTest::keyClick(lights, Qt::Key_D);
  const auto lit = [&] {
    return std::count_if(session().setup()->lights.begin(), session().setup()->lights.end(),
                         [](const Light& l) { return l.on; });
  };
  EXPECT_EQ(lit(), 0);
  EXPECT_FALSE(find<WordButton>("lightsDark")->isEnabled());
  for (std::size_t k = 0; k < count; ++k) {
    if (k % 2 == 0)
      QTest::keyClick(lights, Qt::Key_N);
    else
      QTest::mouseClick(find<WordButton>("lightsNext"), Qt::LeftButton);
    EXPECT_EQ(lit(), static_cast<std::ptrdiff_t>(k + 1));
    EXPECT_EQ(session().selection(), (Selection{Selection::Kind::light, k}));
  }
  EXPECT_FALSE(find<WordButton>("lightsNext")->isEnabled());
}

TEST_F(ThingsTest, GelsAndFrontsArePutOnLights) {
  session().select({Selection::Kind::light, 0});
  choose("Teal gel");
  ASSERT_TRUE(session().setup()->lights[0].gel_bands);
  choose("Gel off");
  EXPECT_FALSE(session().setup()->lights[0].gel_bands);
  const Json lens{{"kind", "lens"}, {"source_radius", 0.006}, {"focal", 0.08}, {"distance", 0.06}};
  const Json spot{{"id", "spot"}, {"name", "Spot lens"}, {"shape", "disc"}, {"radius", 0.05}, {"front", lens}};
  ASSERT_TRUE(session().keep("More kit", {{"/kit/modifiers/-", spot}}));
  choose("Spot lens on");
  ASSERT_TRUE(session().setup()->lights[0].shines);
  type("field-front-spot", "80 mm");
  EXPECT_EQ(session().setup()->lights[0].front->distance, 0.08);
  type("field-front-spot", "300 mm");
  EXPECT_EQ(session().setup()->lights[0].front->distance, 0.08) << "no farther than its focus";
}

TEST_F(ThingsTest, ShadowsAreShownAlone) {
  auto* lens = find<LensView>("lens");
  window_->stage()->setBench("light");
  ASSERT_TRUE(QTest::qWaitFor([&] { return lens->settled(); }, 240000));
  const QImage plain = lens->grab().toImage();
  press("showShadows");
  EXPECT_TRUE(QTest::qWaitFor([&] { return lens->grab().toImage() != plain; }, 10000));
  press("showShadows");
  EXPECT_EQ(lens->grab().toImage(), plain) << "and off again";
}

TEST_F(ThingsTest, ModifiersCardsAndPropsComeFromTheProject) {
  const auto have = [&](const char* list, const Json& thing) {
    ASSERT_TRUE(session().keep("More kit", {{std::string(list) + "/-", thing}})) << thing.dump();
  };
  have("/kit/modifiers", {{"id", "octa"},
                          {"name", "Octa"},
                          {"shape", "disc"},
                          {"radius", 0.45},
                          {"transmittance", 0.6},
                          {"grid_deg", 40},
                          {"doors", true}});
  have("/kit/cards", {{"id", "board"}, {"name", "Foam, large"}, {"width", 0.5}, {"height", 0.7}});
  have("/kit/surfaces",
       {{"id", "slate"}, {"name", "Slate"}, {"width", 0.8}, {"depth", 0.6}, {"material", {{"kind", "satin"}}}});
  have("/kit/backdrops", {{"id", "roll"}, {"name", "Paper roll"}, {"width", 2.0}, {"height", 2.2}});
  session().select({Selection::Kind::light, 0});
  choose("Octa on");
  const Light worn = session().setup()->lights[0];
  EXPECT_EQ(worn.modifier, "octa");
  EXPECT_EQ(worn.shape, LightShape::disc);
  EXPECT_EQ(worn.radius, 0.45);
  EXPECT_EQ(worn.transmittance, 0.6);
  EXPECT_EQ(worn.grid_deg, 40);
  ASSERT_TRUE(worn.doors);
  EXPECT_NEAR(worn.doors->length, 0.54, 1e-9);
  choose(QString::fromStdString(worn.name) + " without");
  EXPECT_TRUE(session().setup()->lights[0].modifier.empty());
  EXPECT_FALSE(session().setup()->lights[0].grid_deg);
  const std::size_t cards = session().setup()->cards.size();
  choose("Card: Foam, large");
  ASSERT_EQ(session().setup()->cards.size(), cards + 1);
  EXPECT_EQ(session().setup()->cards.back().kit, "board");
  EXPECT_EQ(session().setup()->cards.back().height, 0.7);
  choose("Slate laid");
  EXPECT_EQ(session().setup()->surface->kit, "slate");
  EXPECT_EQ(session().setup()->surface->depth, 0.6);
  EXPECT_EQ(session().setup()->surface->material.kind, MaterialKind::satin);
  choose("Paper roll hung");
  EXPECT_EQ(session().setup()->backdrop.kit, "roll");
  EXPECT_EQ(session().setup()->backdrop.height, 2.2);
  // A prop of the project stands beside the hero, clear of it.
  Json bowl = new_product(session().document(), "bowl");
  session().keep("A bowl", {{"/products/-", bowl}});
  choose("Bowl put on");
  ASSERT_EQ(session().shot()->products.size(), 2u);
  const double apart = session().shot()->products[1].place.x - session().shot()->products[0].place.x;
  EXPECT_GT(apart,
            widest_reach(*session().project().products[0]) + widest_reach(*session().project().products.back()));
  EXPECT_TRUE(validate(session().document()).empty());
}

TEST_F(ThingsTest, AGlassSheetIsLaidOnTheSurface) {
  choose("Glass sheet on");
  EXPECT_NEAR(session().setup()->surface->sheet, 0.006, 1e-9);
  session().select({Selection::Kind::surface, 0});
  type("field-sheet", "10 mm");
  EXPECT_NEAR(session().setup()->surface->sheet, 0.010, 1e-9);
  type("field-sheet", "0");
  EXPECT_EQ(session().setup()->surface->sheet, 0.0);
  undo();
  EXPECT_NEAR(session().setup()->surface->sheet, 0.010, 1e-9);
  choose("Glass sheet off");
  EXPECT_EQ(session().setup()->surface->sheet, 0.0);
}

TEST_F(ThingsTest, TheSpotsLengthIsALevelWithLeversOfItsOwn) {
  session().keep("Longer", {{"/shots/0/screen_time", 15.0}});
  waitForLevels();
  auto* vial = find<Vial>("level-spot.length");
  EXPECT_EQ(vial->level().state, State::out);
  QTest::mouseClick(vial, Qt::LeftButton);
  QSignalSpy none(&session(), &Session::changed);
  ASSERT_TRUE(QTest::qWaitFor([&] { return window_->findChild<QWidget*>("lever-1") != nullptr; }, 120000));
  auto* apply = window_->findChild<QWidget*>("lever-1")->findChild<QAbstractButton*>("apply");
  QTest::mouseClick(apply, Qt::LeftButton);
  EXPECT_LE(session().project().screen_time(), *session().project().allowed_time + 1e-6);
}

/// Every text of one context, in capitals.
class Shouting : public QTranslator {
 public:
  [[nodiscard]] QString translate(const char* context, const char* text, const char*, int) const override {
    if (QByteArray(context) == "Core") {
      QString loud = QString(text).toUpper();
      return loud.contains("{:") ? QString() : loud;  // what stands in a place keeps its case
    }
    return QByteArray(context) == "cinnabar::NextTake" ? QString(text).toUpper() : QString();
  }
  [[nodiscard]] bool isEmpty() const override { return false; }
};

TEST_F(ThingsTest, AnotherLanguageReachesTheWindowAndTheCore) {
  Shouting shouting;
  useTranslation(&shouting);
  const Forecaster forecaster(quick_measure);
  const auto level = forecaster.levels(session().project(), 1, "camera.iso");
  ASSERT_EQ(level.size(), 1u);
  EXPECT_EQ(level[0].title, QString::fromStdString(level[0].title).toUpper().toStdString());
  EXPECT_EQ(level[0].sentence, QString::fromStdString(level[0].sentence).toUpper().toStdString());
  window_.reset();
  page_ = "takes";
  open({});
  EXPECT_EQ(find<NextTake>("nextTake")->accessibleName(), "NEXT TAKE");
  window_.reset();
  QCoreApplication::removeTranslator(&shouting);
  useTranslation(nullptr);
}

TEST_F(ThingsTest, AssistiveProgramsAreToldRolesNamesAndNumbers) {
  window_->showPage("takes");
  window_->showPage("stage");
  const auto seen = [&](const char* name) {
    QAccessibleInterface* face = QAccessible::queryAccessibleInterface(window_->findChild<QWidget*>(name));
    return face ? face : (ADD_FAILURE() << name, nullptr);
  };
  for (const auto& [name, role] :
       {std::pair{"floor", QAccessible::Graphic}, std::pair{"lens", QAccessible::Graphic},
        std::pair{"ladder", QAccessible::Graphic}, std::pair{"spot", QAccessible::List},
        std::pair{"lights", QAccessible::List}, std::pair{"shotTakes", QAccessible::Table},
        std::pair{"blackout", QAccessible::CheckBox}, std::pair{"page-takes", QAccessible::CheckBox},
        std::pair{"projectMenu", QAccessible::Button}}) {
    QAccessibleInterface* face = seen(name);
    ASSERT_NE(face, nullptr);
    EXPECT_EQ(face->role(), role) << name;
    EXPECT_FALSE(face->text(QAccessible::Name).isEmpty()) << name;
  }
  waitForLevels();
  session().select({Selection::Kind::light, 0});
  QAccessibleInterface* dimmer = seen("field-dimmer");
  EXPECT_EQ(dimmer->role(), QAccessible::SpinBox);
  EXPECT_EQ(dimmer->text(QAccessible::Name), "Dimmer");
  EXPECT_TRUE(dimmer->text(QAccessible::Value).endsWith("%")) << dimmer->text(QAccessible::Value).toStdString();
  EXPECT_TRUE(dimmer->state().editable);
  EXPECT_TRUE(seen("field-reading")->state().readOnly);
}

TEST_F(ThingsTest, PaintedThingsTellTheirPartsAndWhichIsChosen) {
  anew(all_shots);
  const auto face = [&](const char* name) {
    return QAccessible::queryAccessibleInterface(window_->findChild<QWidget*>(name));
  };
  const auto chosen = [](QAccessibleInterface* of) {
    QStringList names;
    for (int i = 0; i < of->childCount(); ++i)
      if (of->child(i) && of->child(i)->state().selected) names << of->child(i)->text(QAccessible::Name);
    return names;
  };
  QAccessibleInterface* spot = face("spot");
  ASSERT_EQ(spot->childCount(), static_cast<int>(session().project().shots.size()));
  session().selectShot(2);
  EXPECT_EQ(chosen(spot), QStringList{"Shot 3: " + QString::fromStdString(session().shot()->name)});
  QAccessibleInterface* third = spot->child(2);
  EXPECT_EQ(third->role(), QAccessible::ListItem);
  EXPECT_EQ(third->parent(), spot);
  EXPECT_EQ(spot->indexOfChild(third), 2);
  EXPECT_TRUE(third->text(QAccessible::Value).contains(" s"));
  const QRect place = third->rect();
  EXPECT_GT(place.width(), 10);
  EXPECT_EQ(spot->childAt(place.center().x(), place.center().y()), third);
  session().select({Selection::Kind::light, 1});
  EXPECT_EQ(chosen(face("lights")), QStringList{QString::fromStdString(session().setup()->lights[1].name)});
  EXPECT_TRUE(chosen(face("floor")).contains(QString::fromStdString(session().setup()->lights[1].name)));
  EXPECT_GE(face("ladder")->childCount(), 1);
  for (const auto& [page, key, name] : {std::tuple{"brief", Qt::Key_1, "briefSeen"},
                                        {"board", Qt::Key_2, "boardCards"},
                                        {"board", Qt::Key_2, "moveShelf"},
                                        {"takes", Qt::Key_5, "shotTakes"}}) {
    QTest::keyClick(window_.get(), key, Qt::ControlModifier);
    QAccessibleInterface* list = face(name);
    ASSERT_NE(list, nullptr) << name;
    ASSERT_GT(list->childCount(), 1) << name;
    for (int i = 0; i < list->childCount(); ++i)
      EXPECT_FALSE(list->child(i)->text(QAccessible::Name).isEmpty()) << name << " " << i;
  }
}

}  // namespace
}  // namespace cinnabar
