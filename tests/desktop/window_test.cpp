// The real window, driven by mouse and keyboard; then the file is opened again and compared.
#include <fstream>

#include "cinnabar/color/white.h"
#include "cinnabar/scene/form.h"
#include "window_fixture.h"

namespace cinnabar {
namespace {

TEST_F(WindowTest, OpensOnTheStageWithPictureLevelsAndStrip) {
  EXPECT_EQ(find<WordButton>("projectMenu")->text(), "Slow Burn");
  EXPECT_TRUE(find<WordButton>("page-stage")->isChecked());
  waitForLevels();
  EXPECT_EQ(find<Vial>("level-camera.shutter")->accessibleDescription(), QString::fromUtf8("180\u00b0, level"));
  ASSERT_TRUE(QTest::qWaitFor([&] { return find<LensView>("lens")->passes() >= 1; }, 30000));
}

TEST_F(WindowTest, DraggingTheKeyNearerMovesItsLevelAndUndoBringsItBack) {
  waitForLevels();
  const double light = *find<Vial>("level-camera.stops")->level().value;
  const Json before = session().document().to_json();
  auto* floor = find<FloorView>("floor");
  const Selection key{Selection::Kind::light, 0};
  const QPointF from = floor->handle(key), product = floor->onScreen({0, 0, 0});
  drag(floor, from, from + (product - from) * 0.3);
  const Json place = *value("/setups/0/lights/0/place");
  EXPECT_LT(std::hypot(place[0].get<double>(), place[2].get<double>()), 0.62);
  EXPECT_EQ(value("/setups/0/lights/0/aim"), std::optional<Json>(before["setups"][0]["lights"][0]["aim"]));
  waitForLevels();
  EXPECT_GT(*find<Vial>("level-camera.stops")->level().value, light + 0.05);
  EXPECT_EQ(onDisk("/setups/0/lights/0/place"), std::optional<Json>(place));
  undo();
  EXPECT_EQ(session().document().to_json(), before);
  EXPECT_EQ(onDisk("/setups/0/lights/0/place"), std::optional<Json>(before["setups"][0]["lights"][0]["place"]));
}

TEST_F(WindowTest, OnThePlaceBenchAThingMovesWithItsAim) {
  QTest::mouseClick(find<WordButton>("bench-place"), Qt::LeftButton);
  auto* floor = find<FloorView>("floor");
  const Json aim = *value("/setups/0/lights/1/aim");
  const QPointF from = floor->handle({Selection::Kind::light, 1});
  drag(floor, from, from + QPointF(0, -30));
  const Json moved = *value("/setups/0/lights/1/aim");
  EXPECT_LT(moved[2].get<double>(), aim[2].get<double>());
}

TEST_F(WindowTest, TheAimHandleTurnsALight) {
  auto* floor = find<FloorView>("floor");
  const Json place = *value("/setups/0/lights/0/place");
  session().select({Selection::Kind::light, 0});
  const QPointF at = floor->aimHandle();
  drag(floor, at, at + QPointF(-30, 20));
  EXPECT_EQ(value("/setups/0/lights/0/place"), std::optional<Json>(place));
  EXPECT_NE(value("/setups/0/lights/0/aim"), std::optional<Json>(Json{0, 0.05, 0}));
}

TEST_F(WindowTest, TheFloorIsReachedByKeyboardAlone) {
  auto* floor = find<FloorView>("floor");
  floor->setFocus();
  session().select({Selection::Kind::light, 0});
  QTest::keyClick(floor, Qt::Key_Space);
  EXPECT_EQ(session().selection(), (Selection{Selection::Kind::light, 1}));
  const double x = (*value("/setups/0/lights/1/place"))[0];
  QTest::keyClick(floor, Qt::Key_Right, Qt::ShiftModifier);
  EXPECT_NEAR((*value("/setups/0/lights/1/place"))[0].get<double>(), x + 0.1, 1e-9);
  const double y = (*value("/setups/0/lights/1/place"))[1];
  QTest::keyClick(floor, Qt::Key_PageUp);
  EXPECT_NEAR((*value("/setups/0/lights/1/place"))[1].get<double>(), y + 0.01, 1e-9);
}

TEST_F(WindowTest, EveryThingInHandHasNumbersThatCanBeTyped) {
  for (const Selection& thing : things_of(session().onSet())) {
    session().select(thing);
    const Hand hand = handOf(session(), 0, {});
    EXPECT_FALSE(hand.name.isEmpty());
    int writable = 0;
    for (const HandField& f : hand.fields) {
      if (!f.spec.parse) continue;
      ++writable;
      const auto parsed = f.spec.parse(f.spec.text(f.spec.value));  // what is shown can be typed
      ASSERT_TRUE(parsed) << f.spec.id.toStdString() << " " << f.spec.text(f.spec.value).toStdString();
      EXPECT_NEAR(*parsed, f.spec.value, 0.006 * std::abs(f.spec.value) + 0.6 * f.spec.step)
          << f.spec.id.toStdString();
      EXPECT_FALSE(f.spec.parse("rubbish")) << f.spec.id.toStdString();
    }
    EXPECT_GE(writable, 2) << hand.name.toStdString();
  }
}

TEST_F(WindowTest, ANumberIsTypedSteppedAndRefused) {
  session().select({Selection::Kind::light, 0});
  auto* distance = find<NumberField>("field-distance");
  distance->setFocus();
  QTest::keyClick(distance, Qt::Key_Return);
  auto* editor = distance->findChild<QLineEdit*>("editor");
  ASSERT_NE(editor, nullptr);
  editor->selectAll();
  QTest::keyClicks(editor, "2 ft 3 in");
  QTest::keyClick(editor, Qt::Key_Return);
  const auto both = *place_and_aim(session().onSet(), {Selection::Kind::light, 0});
  EXPECT_NEAR(length(both.first - both.second), 0.6858, 1e-4);
  EXPECT_FALSE(editor->isVisible()) << "Enter ends the typing";
  QTest::keyClick(distance, Qt::Key_Up);
  EXPECT_NEAR(length(place_and_aim(session().onSet(), {Selection::Kind::light, 0})->first - both.second), 0.6958,
              1e-4);
  const Json now = session().document().to_json();
  QTest::keyClick(distance, Qt::Key_Return);
  editor->selectAll();
  QTest::keyClicks(editor, "near");
  QTest::keyClick(editor, Qt::Key_Return);
  EXPECT_EQ(session().document().to_json(), now);
  EXPECT_NE(find<QLabel>("message")->text().indexOf("cannot be read"), -1);
}

TEST_F(WindowTest, TheProductsMeasuresStretchOutlineAndLabel) {
  session().select({Selection::Kind::product, 0});
  auto* tall = find<NumberField>("field-tall");
  tall->setFocus();
  QTest::keyClick(tall, Qt::Key_Return);
  auto* editor = tall->findChild<QLineEdit*>("editor");
  editor->selectAll();
  QTest::keyClicks(editor, "208 mm");
  QTest::keyClick(editor, Qt::Key_Return);
  EXPECT_NEAR((*value("/products/0/label/high")).get<double>(), 0.132, 1e-6);
  EXPECT_NEAR(height_span(*session().project().products[0]).second, 0.208, 1e-6);
}

TEST_F(WindowTest, LightsAreSwitchedSoloedAndDimmedByMouseAndKeyboard) {
  auto* lights = find<LightsPanel>("lights");
  QTest::mouseClick(lights, Qt::LeftButton, {}, lights->switchBox(1).center().toPoint());
  EXPECT_EQ(value("/setups/0/lights/1/on"), std::optional<Json>(false));
  undo();
  EXPECT_EQ(value("/setups/0/lights/1/on"), std::optional<Json>(true));
  const QRectF slide = lights->sliderBox(0);
  drag(lights, {slide.right(), slide.center().y()}, {slide.left() + slide.width() * 4 / 6, slide.center().y()});
  EXPECT_NEAR(value("/setups/0/lights/0/dimmer")->get<double>(), 0.25, 1e-3);  // two stops down
  lights->setFocus();
  QTest::keyClick(lights, Qt::Key_Right);
  EXPECT_NEAR(value("/setups/0/lights/0/dimmer")->get<double>(), 0.25 * std::exp2(0.1), 1e-3);
  QTest::mouseClick(lights, Qt::LeftButton, {}, lights->nameBox(0).center().toPoint());
  EXPECT_EQ(find<LensView>("lens")->solo(), "key");
  QTest::keyClick(lights, Qt::Key_S);
  EXPECT_EQ(find<LensView>("lens")->solo(), "");
}

TEST_F(WindowTest, ADimmerRemixesThePictureWithoutNewRays) {
  auto* lens = find<LensView>("lens");
  ASSERT_TRUE(QTest::qWaitFor([&] { return lens->passes() >= 3; }, 60000));
  const int passes = lens->passes();
  session().keep("Dim", {{"/setups/0/lights/0/dimmer", 0.3}});
  QSignalSpy shown(lens, &LensView::pictureShown);
  ASSERT_TRUE(shown.wait(5000));
  EXPECT_GE(lens->passes(), passes);  // what was traced is kept
}

TEST_F(WindowTest, ALevelExplainsTriesAndApplies) {
  session().selectShot(5);
  waitForLevels();
  auto* load = find<Vial>("level-motion.load");
  EXPECT_EQ(load->level().state, State::out);
  QTest::mouseClick(load, Qt::LeftButton);
  ASSERT_TRUE(QTest::qWaitFor([&] { return window_->findChild<QWidget*>("lever-1") != nullptr; }, 60000));
  auto* lever = find<QWidget>("lever-1");
  auto* moved = lever->findChild<QWidget*>("moved-motion.reach");  // its price: where that bubble goes
  ASSERT_NE(moved, nullptr);
  EXPECT_TRUE(moved->accessibleName().contains("from") && moved->accessibleName().endsWith("level"));
  EXPECT_EQ(window_->findChild<QWidget*>("tried"), nullptr) << "nothing is being tried any more";
  const Json before = session().document().to_json();
  QTest::mouseClick(lever->findChild<WordButton*>("try"), Qt::LeftButton);
  EXPECT_TRUE(session().previewing());
  EXPECT_NE(session().document().to_json(), before);
  EXPECT_EQ(onDisk("/shots/5/products/0/on"), std::optional<Json>("small-table"));  // a try is not kept
  ASSERT_TRUE(
      QTest::qWaitFor([&] { return find<Vial>("level-motion.load")->level().state == State::level; }, 30000));
  bool told = false;  // what stands below it in words is what is tried
  for (auto* label : find<QWidget>("explanation")->findChildren<QLabel*>())
    told = told || label->text() == QString::fromStdString(find<Vial>("level-motion.load")->level().sentence);
  EXPECT_TRUE(told);
  QTest::mouseClick(lever->findChild<WordButton*>("try"), Qt::LeftButton);
  EXPECT_EQ(session().document().to_json(), before);
  QTest::mouseClick(lever->findChild<WordButton*>("apply"), Qt::LeftButton);
  EXPECT_EQ(onDisk("/shots/5/products/0/on"), std::optional<Json>("table"));
  waitForLevels();
  EXPECT_EQ(find<Vial>("level-motion.load")->level().state, State::level);
}

TEST_F(WindowTest, TheSearchForLeversIsStoppedByItsButton) {
  session().selectShot(5);
  waitForLevels();
  Vial* out = nullptr;
  for (Vial* v : find<LevelsPanel>("levels")->findChildren<Vial*>())
    if (v->level().state == State::out || v->level().state == State::leaning) out = v;
  ASSERT_NE(out, nullptr);
  const std::string id = "level-" + out->level().id;
  QTest::mouseClick(out, Qt::LeftButton);
  press("cancelLevers");
  const auto says = [&](const QString& words) {
    for (auto* label : find<LevelsPanel>("levels")->findChildren<QLabel*>())
      if (label->isVisible() && label->text().contains(words)) return true;
    return false;
  };
  ASSERT_TRUE(QTest::qWaitFor([&] { return says("Not looked for"); }, 5000));
  EXPECT_EQ(window_->findChild<QWidget*>("cancelLevers"), nullptr);
  QTest::qWait(2500);
  EXPECT_EQ(window_->findChild<QWidget*>("lever-1"), nullptr) << "nothing comes after it";
  QTest::mouseClick(find<Vial>(id.c_str()), Qt::LeftButton);
  QTest::mouseClick(find<Vial>(id.c_str()), Qt::LeftButton);
  EXPECT_TRUE(QTest::qWaitFor([&] { return !says("Not looked for"); }, 5000)) << "opened again, it is looked for";
  EXPECT_TRUE(QTest::qWaitFor(
      [&] { return window_->findChild<QWidget*>("cancelLevers") || window_->findChild<QWidget*>("lever-1"); },
      5000));
}

TEST_F(WindowTest, TheLadderScrubsOnBothRailsAndByFrame) {
  session().selectShot(1);
  auto* ladder = find<LadderView>("ladder");
  QTest::mouseClick(ladder, Qt::LeftButton, {}, ladder->onSetRail(0.8).toPoint());
  EXPECT_NEAR(session().setTime(), 0.8, 0.01);
  QTest::mouseClick(ladder, Qt::LeftButton, {}, ladder->onScreenRail(2.0).toPoint());
  EXPECT_NEAR(session().setTime(), 1.0, 0.01);  // half speed
  ladder->setFocus();
  QTest::keyClick(ladder, Qt::Key_Home);
  QTest::keyClick(ladder, Qt::Key_Right);
  EXPECT_NEAR(session().setTime(), 0.5 / 24, 1e-9);
}

TEST_F(WindowTest, TheStripSelectsStretchesAndReorders) {
  auto* strip = find<SpotStrip>("spot");
  strip->setFocus();
  QTest::keyClick(strip, Qt::Key_Right);
  EXPECT_EQ(session().shotIndex(), 1u);
  QTest::keyClick(strip, Qt::Key_Minus);
  EXPECT_NEAR(value("/shots/1/screen_time")->get<double>(), 3.125 - 1.0 / 24, 1e-5);
  undo();
  QTest::keyClick(strip, Qt::Key_Right, Qt::ControlModifier);
  EXPECT_EQ(value("/shots/2/id"), std::optional<Json>("s2"));
  EXPECT_EQ(session().shotIndex(), 2u);
  undo();
  EXPECT_EQ(value("/shots/1/id"), std::optional<Json>("s2"));
}

TEST_F(WindowTest, TakesAreLoggedByOneKeyAndUndone) {
  QTest::keyClick(window_.get(), Qt::Key_5, Qt::ControlModifier);
  auto* next = find<NextTake>("nextTake");
  const std::size_t before = session().project().takes.size();
  QTest::keyClick(next, Qt::Key_1);
  QTest::keyClick(next, Qt::Key_D);
  ASSERT_EQ(session().project().takes.size(), before + 1);
  EXPECT_FALSE(session().project().takes.back()->kept);
  EXPECT_EQ(session().project().takes.back()->reasons.size(), 1u);
  EXPECT_EQ(session().project().takes.back()->number, 5);
  QTest::mouseClick(next, Qt::LeftButton, {}, next->keepBox().center().toPoint());
  EXPECT_TRUE(session().project().takes.back()->kept);
  EXPECT_EQ(onDisk("/takes/" + std::to_string(before + 1) + "/kept"), std::optional<Json>(true));
  undo();
  undo();
  EXPECT_EQ(session().project().takes.size(), before);
}

TEST_F(WindowTest, BlackoutIsDark) {
  QTest::keyClick(window_.get(), Qt::Key_B, Qt::ControlModifier);
  EXPECT_TRUE(theme().dark);
  QTest::keyClick(window_.get(), Qt::Key_5, Qt::ControlModifier);
  QTest::qWait(50);
  const QImage shot = window_->grab().toImage();
  // Mean luminance on a 250 cd/m2 screen, sRGB decoded (IEC 61966-2-1).
  double sum = 0;
  int n = 0;
  for (int y = 0; y < shot.height(); y += 3)
    for (int x = 0; x < shot.width(); x += 3, ++n) {
      const auto lin = [](int c) { return srgb_decode(c / 255.0); };
      const QRgb c = shot.pixel(x, y);
      sum += 0.2126 * lin(qRed(c)) + 0.7152 * lin(qGreen(c)) + 0.0722 * lin(qBlue(c));
    }
  EXPECT_LT(250 * sum / n, 10.0);
  QTest::keyClick(window_.get(), Qt::Key_B, Qt::ControlModifier);
  EXPECT_FALSE(theme().dark);
}

TEST_F(WindowTest, ANewProjectStartsEmptyAndGetsItsFirstShot) {
  const std::string fresh = (folder_ / "new.cinnabar").string();
  window_->adopt(OpenedProject(std::move(*Store::create(fresh, empty_document("New")))));
  EXPECT_EQ(session().shot(), nullptr);
  auto* add = find<WordButton>("addShot");
  ASSERT_TRUE(QTest::qWaitFor([&] { return add->isVisible(); }, 5000));
  QTest::mouseClick(add, Qt::LeftButton);
  QTest::mouseClick(find<QPushButton>("addShotCopy"), Qt::LeftButton);
  ASSERT_NE(session().shot(), nullptr);
  waitForLevels();
  EXPECT_GT(window_->findChildren<Vial*>().size(), 5);
}

TEST_F(WindowTest, ASecondWindowOnTheSameFileReadsOnlyAndSaysSo) {
  session().flush();
  MainWindow other{WindowOptions{.passes = passes_}};
  QSignalSpy opened(&other, &MainWindow::opened);
  other.openFile(QString::fromStdString(path_));
  ASSERT_TRUE(opened.wait(5000));
  EXPECT_TRUE(other.session()->readOnly());
  EXPECT_NE(other.findChild<QLabel*>("keptNote")->text().indexOf("reading only"), -1);
  const Json before = other.session()->document().to_json();
  EXPECT_FALSE(other.session()->keep("Not here", {{"/shots/0/camera/iso", 800}}));
  other.session()->undo();
  EXPECT_EQ(other.session()->document().to_json(), before);
  EXPECT_TRUE(session().keep("Here", {{"/shots/0/camera/iso", 800}})) << "the first window still writes";
}

TEST_F(WindowTest, VersionsAreKeptComparedAndGoneBackTo) {
  QTest::keyClick(window_.get(), Qt::Key_K, Qt::ControlModifier);
  auto* name = find<QLineEdit>("versionName");
  QTest::keyClicks(name, "as briefed");
  press("keepVersion");
  auto* list = find<QListWidget>("versionList");
  ASSERT_TRUE(QTest::qWaitFor([&] { return list->count() == 1; }, 5000));
  EXPECT_TRUE(list->item(0)->text().startsWith("as briefed"));
  const Json before = session().document().to_json();
  ASSERT_TRUE(session().keep("Brighter", {{"/shots/0/camera/iso", 800}}));
  list->setCurrentRow(0);
  auto* differences = find<QPlainTextEdit>("versionDifferences");
  ASSERT_TRUE(QTest::qWaitFor([&] { return !differences->toPlainText().isEmpty(); }, 5000));
  EXPECT_EQ(differences->toPlainText(), "Shot Hero reveal: camera/iso 800, was 160");
  press("backToVersion");
  EXPECT_EQ(session().document().to_json(), before);
  EXPECT_EQ(session().undoTitle(), "Back to as briefed");
}

TEST_F(WindowTest, TheNextWindowBeginsWhereTheLastOneEnded) {
  WindowOptions options;
  options.remember = true;
  open(options);
  session().selectShot(4);
  window_->showPage("takes");
  window_->close();
  open(options);
  EXPECT_EQ(session().shotIndex(), 4u);
  EXPECT_TRUE(find<WordButton>("page-takes")->isChecked());
  QSettings().remove("page");
}

TEST_F(WindowTest, UnitsSwitchEverywhereAndKeysAreListed) {
  QTest::mouseClick(find<WordButton>("projectMenu"), Qt::LeftButton);
  QAction* feet = nullptr;
  for (QAction* action : find<QMenu>("projectActions")->actions())
    if (action->text().startsWith("Measure in feet")) feet = action;
  ASSERT_NE(feet, nullptr);
  feet->trigger();
  find<QMenu>("projectActions")->close();
  EXPECT_EQ(onDisk("/project/units"), std::optional<Json>("imperial"));
  session().select({Selection::Kind::light, 0});
  const auto& distance = find<NumberField>("field-distance")->spec();
  EXPECT_NE(distance.text(distance.value).indexOf("ft"), -1) << distance.text(distance.value).toStdString();
  QTest::keyClick(window_.get(), Qt::Key_F1);
  EXPECT_NE(find<QDialog>("keys")->findChild<QLabel*>()->text().indexOf("Ctrl+K"), -1);
}

TEST_F(WindowTest, TheStripsEdgeAndOrderAreDragged) {
  auto* strip = find<SpotStrip>("spot");
  // The strip's geometry: 20 s over its width between the texts on the left and the margin on the right.
  const double scale = (strip->width() - 141 - 20) / 20.0;
  const double end = 141 + 3.125 * scale;
  drag(strip, {end - 2, 30}, {end - 2 - 0.625 * scale, 30});
  EXPECT_NEAR(value("/shots/0/screen_time")->get<double>(), 2.5, 1e-5);  // snapped to the beat
  undo();
  drag(strip, {141 + 1.0 * scale, 30}, {141 + 5.5 * scale, 30});
  EXPECT_EQ(value("/shots/1/id"), std::optional<Json>("s1"));
  EXPECT_EQ(onDisk("/shots/0/id"), std::optional<Json>("s2"));
}

TEST_F(WindowTest, OverlaysSwitchByMouseAndKeyboard) {
  auto* lens = find<LensView>("lens");
  auto* clip = find<WordButton>("overlay-clip");
  EXPECT_FALSE(lens->overlay("Clip"));
  QTest::mouseClick(clip, Qt::LeftButton);
  EXPECT_TRUE(lens->overlay("Clip"));
  clip->setFocus();
  QTest::keyClick(clip, Qt::Key_Space);
  EXPECT_FALSE(lens->overlay("Clip"));
  auto* lines = find<WordButton>("overlay-stop-lines");
  ASSERT_TRUE(QTest::qWaitFor([&] { return lens->passes() >= 1; }, 30000));
  const QImage with = lens->grab().toImage();
  QTest::mouseClick(lines, Qt::LeftButton);
  EXPECT_NE(lens->grab().toImage(), with);
}

TEST_F(WindowTest, ANumberIsDraggedAndKeptOnce) {
  session().select({Selection::Kind::camera, 0});
  auto* iso = find<NumberField>("field-iso");
  const Json before = *value("/shots/0/camera/iso");
  drag(iso, {10, 20}, {34, 20});  // six steps of 50
  EXPECT_NEAR(value("/shots/0/camera/iso")->get<double>(), before.get<double>() + 300, 1e-9);
  undo();  // the whole drag is one edit
  EXPECT_EQ(value("/shots/0/camera/iso"), std::optional<Json>(before));
}

TEST_F(WindowTest, TheProjectMenuOffersUndoByName) {
  session().keep("A change to undo", {{"/project/notes", "x"}});
  QTest::mouseClick(find<WordButton>("projectMenu"), Qt::LeftButton);
  auto* menu = find<QMenu>("projectActions");
  bool offered = false;
  for (const QAction* action : menu->actions())
    offered = offered || action->text().startsWith("Undo: A change to undo");
  EXPECT_TRUE(offered);
  menu->close();
}

TEST_F(WindowTest, AFileThatIsNoneIsSaidInTheWindow) {
  QSignalSpy failed(window_.get(), &MainWindow::failed);
  window_->openFile("/no/such/spot.cinnabar");
  ASSERT_TRUE(failed.wait(5000));
  EXPECT_NE(find<QLabel>("message")->toolTip().indexOf("is not there"), -1);
  EXPECT_EQ(session().project().name, "Slow Burn");  // what was open stays
}

}  // namespace
}  // namespace cinnabar
