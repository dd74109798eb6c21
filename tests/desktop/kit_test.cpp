// The Kit in the window: things added, changed, measured, taken away; what is short; what something would buy.
#include <QComboBox>
#include <QFile>
#include <QFileDialog>
#include <QPushButton>

#include "cinnabar/base/files.h"
#include "cinnabar/desktop/kit/beam_plot.h"
#include "cinnabar/desktop/pages/kit_page.h"
#include "window_fixture.h"

namespace cinnabar {
namespace {

class KitTest : public WindowTest {
 protected:
  void SetUp() override {
    page_ = "kit";
    WindowTest::SetUp();
    list_ = find<QListWidget>("kitList");
    ASSERT_TRUE(QTest::qWaitFor([&] { return list_->isVisible() && list_->height() > 100; }, 5000));
  }
  void choose(const QString& name) {
    for (int i = 0; i < list_->count(); ++i)
      if (list_->item(i)->text().startsWith(name)) {
        QTest::mouseClick(list_->viewport(), Qt::LeftButton, {}, list_->visualItemRect(list_->item(i)).center());
        list_->scrollToItem(list_->item(i));
        list_->setCurrentRow(i);
        return;
      }
    ADD_FAILURE() << name.toStdString() << " is not in the list";
  }
  NumberField* field(const QString& id) {
    for (NumberField* f : find<KitThing>("kitThing")->findChildren<NumberField*>())
      if (f->isVisible() && f->spec().id == id) return f;
    ADD_FAILURE() << id.toStdString();
    return nullptr;
  }
  void type(const QString& id, const QString& text) {
    NumberField* f = field(id);
    ASSERT_NE(f, nullptr);
    f->setFocus();
    QTest::keyClick(f, Qt::Key_Return);
    auto* line = f->findChild<QLineEdit*>();
    ASSERT_NE(line, nullptr);
    line->selectAll();
    QTest::keyClicks(line, text);
    QTest::keyClick(line, Qt::Key_Return);
  }
  void pick(const char* button, const QString& begins) {
    auto* menu = find<QPushButton>(button)->menu();
    for (QAction* a : menu->actions())
      if (a->text().startsWith(begins)) return a->trigger();
    ADD_FAILURE() << begins.toStdString();
  }
  QListWidget* list_ = nullptr;
};

TEST_F(KitTest, NumbersAreTypedAndKept) {
  choose("100 mm macro");
  type("kit_f_number_low", "2");
  EXPECT_EQ(onDisk("/kit/lenses/0/f_number_low"), std::optional<Json>(2.0));
  type("kit_close_focus", "31 cm");
  EXPECT_EQ(onDisk("/kit/lenses/0/close_focus"), std::optional<Json>(0.31));
  type("kit_breathing", "4");
  EXPECT_EQ(onDisk("/kit/lenses/0/breathing"), std::optional<Json>(0.04));
  type("kit_breathing", "none");
  EXPECT_FALSE(onDisk("/kit/lenses/0/breathing").has_value());
  type("kit_focal_high", "20");  // under focal_low: refused, and the number is as it was
  EXPECT_EQ(onDisk("/kit/lenses/0/focal_high"), std::optional<Json>(0.1));
  EXPECT_NEAR(field("kit_focal_high")->spec().value, 100, 1e-9);
}

TEST_F(KitTest, ACamerasModesAreChosenAddedAndChanged) {
  choose("Hybrid body");
  press("kitAddMode");
  EXPECT_EQ(value("/kit/cameras/0/modes")->size(), 4u);
  type("mode_rate", "29.97");
  EXPECT_EQ(onDisk("/kit/cameras/0/modes/3/rate"), std::optional<Json>("30000/1001"));
  type("mode_readout", "9.5");
  EXPECT_EQ(onDisk("/kit/cameras/0/modes/3/readout"), std::optional<Json>(0.0095));
  press("kitRemoveMode");
  EXPECT_EQ(value("/kit/cameras/0/modes")->size(), 3u);
  press("modeAutofocus");
  EXPECT_NE(value("/kit/cameras/0/modes/2/autofocus"), std::optional<Json>());
}

TEST_F(KitTest, ThingsAreAddedByKindAndTakenAwayUnlessUsed) {
  const std::size_t before = session().project().lenses.size();
  pick("kitAdd", "lens");
  EXPECT_EQ(session().project().lenses.size(), before + 1);
  EXPECT_EQ(find<QLineEdit>("kitName")->text(), "50 mm");
  find<QLineEdit>("kitName")->setFocus();
  find<QLineEdit>("kitName")->selectAll();
  QTest::keyClicks(find<QLineEdit>("kitName"), "Old fifty");
  QTest::keyClick(find<QLineEdit>("kitName"), Qt::Key_Return);
  EXPECT_EQ(onDisk("/kit/lenses/" + std::to_string(before) + "/name"), std::optional<Json>("Old fifty"));
  list_->setFocus();
  QTest::keyClick(list_, Qt::Key_Delete);
  EXPECT_EQ(session().project().lenses.size(), before);
  choose("100 mm macro");
  press("kitRemove");
  EXPECT_EQ(session().project().lenses.size(), before) << "shots use it";
  EXPECT_NE(find<QLabel>("message")->toolTip().indexOf("stays: it is used"), -1);
  undo();
  EXPECT_EQ(session().project().lenses.size(), before + 1);
}

TEST_F(KitTest, AMeasuredLightIsReadShownAndForgotten) {
  const std::string file = (folder_ / "spot.ies").string();
  ASSERT_TRUE(
      write_file(file, "IESNA:LM-63-2002\nTILT=NONE\n1 -1 1 3 1 1 2 0 0 0\n1 1 90\n0 30 60\n0\n4000 2000 0\n"));
  choose("LED panel");
  press("kitMeasured");
  typeFile(QString::fromStdString(file));
  ASSERT_TRUE(QTest::qWaitFor([&] { return value("/kit/lights/0/ies").has_value(); }, 5000));
  EXPECT_EQ(value("/kit/lights/0/ies"), std::optional<Json>("ies-led-panel"));
  const auto rows = find<BeamPlot>("beamPlot")->rows();
  ASSERT_FALSE(rows.empty());
  // 28000 lm as the kit says, in the file's shape: its candela scaled by 28000 over its own lumens.
  const double own = session().project().light_kits[0]->output->distribution->lumens();
  EXPECT_NEAR(rows[1].lux, 4000 * 28000 / own, 1e-6 * rows[1].lux);
  type("kit_lumens", "none");
  EXPECT_NEAR(find<BeamPlot>("beamPlot")->rows()[1].lux, 4000, 1e-6);
  EXPECT_TRUE(find<BeamPlot>("beamPlot")->accessibleDescription().contains("4000 candela"));
  press("kitUnmeasured");
  EXPECT_FALSE(onDisk("/kit/lights/0/ies").has_value());
  ASSERT_TRUE(write_file(file, "no such light"));
  press("kitMeasured");
  typeFile(QString::fromStdString(file));
  ASSERT_TRUE(QTest::qWaitFor([&] { return find<QLabel>("message")->toolTip().contains("spot.ies"); }, 5000));
}

TEST_F(KitTest, WhatIsShortIsNamedAndPriced) {
  choose("LED panel");
  auto* shortage = find<QListWidget>("kitShort");
  type("kit_count", "1");
  ASSERT_GE(shortage->count(), 1);
  EXPECT_TRUE(shortage->item(0)->text().startsWith("LED panel: 2 wanted, 1 owned"))
      << shortage->item(0)->text().toStdString();
  type("kit_price", "300");
  EXPECT_TRUE(find<QLabel>("kitPacked")->text().contains("300 to get"));
  type("kit_count", "2");
  EXPECT_TRUE(shortage->item(0)->text().startsWith("Nothing")) << shortage->item(0)->text().toStdString();
}

TEST_F(KitTest, WhatSomethingWouldBuyIsWorkedOutAndPutOnTheList) {
  press("kitWorkOut");
  auto* bought = find<QListWidget>("kitBought");
  ASSERT_TRUE(QTest::qWaitFor([&] { return bought->count() > 0; }, 60000));
  int table = -1;
  for (int i = 0; i < bought->count(); ++i)
    if (bought->item(i)->text().contains("Small display turner")) table = i;
  ASSERT_GE(table, 0);
  EXPECT_TRUE(bought->item(table)->text().contains("Brings home: Turntable load (shot 6)"))
      << bought->item(table)->text().toStdString();
  bought->setCurrentRow(table);
  press("kitPut");
  const auto& kept = session().project().supports.back();
  EXPECT_FALSE(kept->holding.owned);
  EXPECT_NEAR(*kept->load, 2.8, 1e-9);
  EXPECT_TRUE(find<QListWidget>("kitList")->currentItem()->text().contains("not owned"));
  press("kitOwned");
  EXPECT_TRUE(session().project().supports.back()->holding.owned);
}

TEST_F(KitTest, WorkingItOutCanBeStopped) {
  press("kitWorkOut");
  press("kitCancel");
  EXPECT_EQ(find<QLabel>("kitProgress")->text(), "Stopped.");
  EXPECT_TRUE(find<QPushButton>("kitWorkOut")->isEnabled());
  EXPECT_EQ(find<QListWidget>("kitBought")->count(), 0);
}

TEST_F(KitTest, AnEmptyProjectBeginsWithAStarterKit) {
  window_.reset();
  path_ = (folder_ / "new.cinnabar").string();
  fs::remove(path_);
  ASSERT_TRUE(Store::create(path_, empty_document("New")));
  open({.page = "kit"});
  EXPECT_TRUE(find<QLabel>("kitNone")->isVisible());
  pick("kitStarter", "One light");
  EXPECT_EQ(session().project().light_kits.size(), 1u);
  EXPECT_FALSE(find<QLabel>("kitNone")->isVisible());
  QTest::mouseClick(find<QPushButton>("kitWorkOut"), Qt::LeftButton);
  // The shots use nothing, but a card and a battery are there to be doubled.
  ASSERT_TRUE(QTest::qWaitFor([&] { return find<QLabel>("kitProgress")->text().startsWith("None of 2"); }, 5000))
      << find<QLabel>("kitProgress")->text().toStdString();
}

TEST_F(KitTest, ThePackingListIsWrittenOnPaperAndAsATable) {
  for (const auto& [button, suffix] : {std::pair{"kitPackingTable", "csv"}, std::pair{"kitPackingPaper", "pdf"}}) {
    press(button);
    QFileDialog* dialog = nullptr;
    ASSERT_TRUE(QTest::qWaitFor([&] { return (dialog = window_->findChild<QFileDialog*>()) != nullptr; }, 3000));
    QSignalSpy written(window_.get(), &MainWindow::paperWritten);
    const QString path = QString::fromStdString((folder_ / ("packing." + std::string(suffix))).string());
    dialog->hide();
    emit dialog->fileSelected(path);
    ASSERT_TRUE(written.wait(10000));
    dialog->deleteLater();
    QCoreApplication::sendPostedEvents(dialog, QEvent::DeferredDelete);
    QFile file(path);
    ASSERT_TRUE(file.open(QIODevice::ReadOnly));
    const QByteArray bytes = file.readAll();
    EXPECT_TRUE(bytes.startsWith(QByteArray(suffix) == "pdf" ? "%PDF" : "list,id,name,wanted")) << suffix;
    if (QByteArray(suffix) == "csv") {
      EXPECT_TRUE(bytes.contains("kit/lights,led-panel,LED panel,2,")) << bytes.toStdString();
    }
  }
}

TEST_F(KitTest, ASupportShowsTheNumbersOfItsKind) {
  const auto shown = [&](const QString& id) {
    for (NumberField* f : find<KitThing>("kitThing")->findChildren<NumberField*>())
      if (f->isVisible() && f->spec().id == id) return true;
    return false;
  };
  choose("Motor turntable");
  EXPECT_TRUE(shown("kit_rpm_high") && shown("kit_load"));
  EXPECT_FALSE(shown("kit_travel") || shown("kit_reach"));
  auto* kind = find<QComboBox>("kitKind");
  kind->setCurrentIndex(kind->findData("slider"));
  emit kind->activated(kind->currentIndex());
  EXPECT_EQ(onDisk("/kit/supports/0/kind"), std::optional<Json>("slider"));
  EXPECT_TRUE(shown("kit_travel") && shown("kit_speed"));
  EXPECT_FALSE(shown("kit_rpm_high"));
  undo();
  choose("Light stand");
  EXPECT_TRUE(shown("kit_reach"));
  type("kit_reach", "9 ft");
  EXPECT_NEAR(onDisk("/kit/supports/3/reach")->get<double>(), 9 * 0.3048, 1e-6);
}

TEST_F(KitTest, LuxAtADistanceIsEnoughForALight) {
  pick("kitAdd", "light");
  const std::size_t at = session().project().light_kits.size() - 1;
  const std::string path = "/kit/lights/" + std::to_string(at);
  type("kit_lumens", "none");
  EXPECT_TRUE(find<BeamPlot>("beamPlot")->rows().empty()) << "its figures say no output";
  type("kit_lux_illuminance_lx", "5600 lx");
  type("kit_lux_distance", "1.5 m");
  EXPECT_EQ(onDisk(path + "/lux"), std::optional<Json>(Json{{"illuminance_lx", 5600.0}, {"distance", 1.5}}));
  type("kit_beam_deg", "55");
  const auto rows = find<BeamPlot>("beamPlot")->rows();
  ASSERT_GE(rows.size(), 3u);
  EXPECT_NEAR(rows[2].lux, 5600, 1) << "at the 1.5 m it was said for";
  EXPECT_TRUE(session().project().light_kits[at]->output->derivation.starts_with("from 5600 lx at 1.50 m"));
  type("kit_lux_distance", "none");
  EXPECT_FALSE(onDisk(path + "/lux").has_value()) << "one without the other says nothing";
  press("kitHot");
  EXPECT_EQ(onDisk(path + "/hot"), std::optional<Json>(true));
}

TEST_F(KitTest, ModifiersCardsAndMeasuredNoiseAreKept) {
  pick("kitAdd", "modifier");
  type("kit_width", "90 cm");
  EXPECT_EQ(onDisk("/kit/modifiers/2/width"), std::optional<Json>(0.9));
  auto* kind = find<QComboBox>("kitKind");
  kind->setCurrentIndex(kind->findData("disc"));
  emit kind->activated(kind->currentIndex());
  EXPECT_EQ(onDisk("/kit/modifiers/2/radius"), std::optional<Json>(0.45)) << "as far across as it was";
  EXPECT_EQ(value("/kit/modifiers/2/width"), std::nullopt);
  type("kit_grid_deg", "30");
  EXPECT_EQ(onDisk("/kit/modifiers/2/grid_deg"), std::optional<Json>(30.0));
  kind->setCurrentIndex(kind->findData("dome"));
  emit kind->activated(kind->currentIndex());
  EXPECT_EQ(onDisk("/kit/modifiers/2/shape"), std::optional<Json>("dome"));
  EXPECT_EQ(onDisk("/kit/modifiers/2/radius"), std::optional<Json>(0.45));
  pick("kitAdd", "card or flag");
  kind->setCurrentIndex(kind->findData("towel"));
  emit kind->activated(kind->currentIndex());
  EXPECT_EQ(onDisk("/kit/cards/1/material/transmittance"), std::optional<Json>(0.4));
  kind->setCurrentIndex(kind->findData("black"));
  emit kind->activated(kind->currentIndex());
  EXPECT_EQ(onDisk("/kit/cards/1/material/kind"), std::optional<Json>("cloth"));
  pick("kitAdd", "surface");
  type("kit_depth", "55 cm");
  EXPECT_EQ(onDisk("/kit/surfaces/3/depth"), std::optional<Json>(0.55));
  kind->setCurrentIndex(kind->findData("satin"));
  emit kind->activated(kind->currentIndex());
  EXPECT_EQ(onDisk("/kit/surfaces/3/material/kind"), std::optional<Json>("satin"));
  EXPECT_EQ(value("/kit/surfaces/3/material/ior"), std::optional<Json>(1.49)) << "its other figures stay";
  pick("kitAdd", "backdrop");
  type("kit_height", "2.4 m");
  EXPECT_EQ(onDisk("/kit/backdrops/3/height"), std::optional<Json>(2.4));
  choose("Hybrid");
  auto* noise = find<QLineEdit>("kitNoise");
  ASSERT_TRUE(noise->isVisible());
  noise->setFocus();
  noise->selectAll();
  QTest::keyClicks(noise, "800: 1.9, 100: 3.1");
  QTest::keyClick(noise, Qt::Key_Return);
  EXPECT_EQ(onDisk("/kit/cameras/0/measured_noise"), std::optional<Json>(Json{{100.0, 3.1}, {800.0, 1.9}}));
  EXPECT_EQ(noise->text(), "100: 3.1, 800: 1.9");
  noise->selectAll();
  QTest::keyClicks(noise, "quiet");
  QTest::keyClick(noise, Qt::Key_Return);
  EXPECT_TRUE(find<QLabel>("message")->toolTip().contains("\"quiet\" is no measured noise"));
  EXPECT_EQ(session().project().cameras[0]->measured_noise.size(), 2u);
}

TEST_F(KitTest, WhatStandsBeforeALampIsChosenAndMeasured) {
  pick("kitAdd", "modifier");
  auto* kind = find<QComboBox>("kitKind");
  const auto take = [&](const char* id) {
    kind->setCurrentIndex(kind->findData(id));
    emit kind->activated(kind->currentIndex());
    return session().project().modifiers.back();
  };
  const auto cloth = take("rectangle/cloth");
  ASSERT_TRUE(cloth->front);
  EXPECT_EQ(cloth->front->kind, FrontKind::cloth);
  type("kit_front_gap", "0.3 m");
  EXPECT_EQ(session().project().modifiers.back()->front->gap, 0.3);
  const auto lens = take("disc/lens");
  ASSERT_TRUE(lens->front);
  EXPECT_LE(lens->radius, 0.05) << "as wide as a lens";
  type("kit_front_distance", "40");
  EXPECT_NEAR(session().project().modifiers.back()->front->distance, 0.04, 1e-9);
  EXPECT_EQ(kind->currentData().toString(), "disc/lens");
  for (const char* id : {"disc/tube", "disc/gate", "rectangle/beads", "disc/cloth"})
    EXPECT_TRUE(take(id)->front) << id;
  EXPECT_FALSE(take("rectangle")->front);
  EXPECT_TRUE(validate(session().document()).empty());
}

TEST_F(KitTest, FeetAndInchesAreShownAndTyped) {
  session().keep("Feet", {{"/project/units", "imperial"}});
  choose("100 mm macro");
  ASSERT_NE(field("kit_close_focus"), nullptr);
  EXPECT_EQ(field("kit_close_focus")->spec().text(0.28), "11.02 in");
  type("kit_close_focus", "1 ft 2 in");
  EXPECT_NEAR(onDisk("/kit/lenses/0/close_focus")->get<double>(), 14 * 0.0254, 1e-6);
}

}  // namespace
}  // namespace cinnabar
