// The everyday of files and pages, by mouse and keyboard: new, open, recent, copies, tables and papers, Cancel,
// Tab.
#include <QComboBox>
#include <QPushButton>

#include "cinnabar/base/files.h"
#include "cinnabar/desktop/brief/product_drawing.h"
#include "cinnabar/desktop/pages/brief_page.h"
#include "window_fixture.h"

namespace cinnabar {
namespace {

class DrivenTest : public WindowTest {
 protected:
  DrivenTest() { shots_ = 2; }
  QString said() { return find<QLabel>("message")->toolTip(); }
  bool waitSaid(const QString& words) {
    return QTest::qWaitFor([&] { return said().contains(words); }, 20000);
  }
  /// Waits for another project to be open.
  bool waitOpen(const QString& name) {
    return QTest::qWaitFor(
        [&] {
          auto* button = window_->findChild<QAbstractButton*>("projectMenu");
          return button && button->text() == name && window_->session();
        },
        10000);
  }
};

TEST_F(DrivenTest, TheFirstRunBeginsANewProjectByItsKey) {
  window_ = std::make_unique<MainWindow>(WindowOptions{.passes = passes_});
  window_->show();
  window_->activateWindow();
  ASSERT_TRUE(QTest::qWaitForWindowActive(window_.get()));
  EXPECT_EQ(window_->session(), nullptr);
  EXPECT_TRUE(find<QWidget>("begin")->isVisible());
  QTest::keyClick(window_.get(), Qt::Key_N, Qt::ControlModifier);
  QTest::mouseClick(find<QAbstractButton>("beginEmpty"), Qt::LeftButton);
  typeFile(inFolder("spot"));
  ASSERT_TRUE(waitOpen("spot"));
  EXPECT_TRUE(fs::exists(folder_ / "spot.cinnabar"));
  window_->activateWindow();
  ASSERT_TRUE(QTest::qWaitForWindowActive(window_.get()));
  QTest::keyClick(window_.get(), Qt::Key_O, Qt::ControlModifier);
  typeFile(QString::fromStdString(path_));
  ASSERT_TRUE(waitOpen("Slow Burn"));
  // What was open last stands in the menu.
  chooseInMenu("spot");
  ASSERT_TRUE(waitOpen("spot"));
}

TEST_F(DrivenTest, ACopyIsSavedAndNeverOverAProject) {
  chooseInMenu("Save a copy");
  typeFile(inFolder("copy.cinnabar"));
  ASSERT_TRUE(waitSaid("Saved a copy"));
  EXPECT_EQ(read_document((folder_ / "copy.cinnabar").string())->to_json(), session().document().to_json());
}

struct Written {
  const char *action, *file;
  bool looked;  ///< a preview comes first
  const char* begins;
};
class DrivenWriting : public DrivenTest, public testing::WithParamInterface<Written> {};
TEST_P(DrivenWriting, IsWrittenFromTheMenu) {
  chooseInMenu(GetParam().action);
  if (GetParam().looked) {
    ASSERT_TRUE(QTest::qWaitFor(
        [&] {
          auto* preview = window_->findChild<QDialog*>("paperPreview");
          return preview && preview->isVisible();
        },
        120000));
    QTest::mouseClick(window_->findChild<QDialog*>("paperPreview")->findChild<QPushButton*>("paperPdf"),
                      Qt::LeftButton);
  }
  QSignalSpy written(window_.get(), &MainWindow::paperWritten);
  typeFile(inFolder(GetParam().file));
  ASSERT_TRUE(written.wait(120000)) << said().toStdString();
  EXPECT_TRUE(written[0][1].toBool()) << said().toStdString();
  const auto text = read_file((folder_ / GetParam().file).string());
  ASSERT_TRUE(text);
  EXPECT_EQ(text->rfind(GetParam().begins, 0), 0u) << text->substr(0, 40);
}
INSTANTIATE_TEST_SUITE_P(Papers, DrivenWriting,
                         testing::Values(Written{"Shot list on paper", "list.pdf", true, "%PDF-"},
                                         Written{"Board for the client", "board.pdf", false, "%PDF-"},
                                         Written{"Board for the crew", "crew.pdf", false, "%PDF-"},
                                         Written{"Packing list on paper", "pack.pdf", false, "%PDF-"},
                                         Written{"Packing list as a table", "pack.csv", false, "list,id,name"},
                                         Written{"Shot list as a table", "shots.csv", false, "number,id,name"},
                                         Written{"Takes as a table", "takes.csv", false, "shot,shot name"},
                                         Written{"Cue track of this shot", "cues.wav", false, "RIFF"}));

TEST_F(DrivenTest, TablesAreReadFromTheMenu) {
  ASSERT_TRUE(write_file((folder_ / "takes.csv").string(), "shot,number,kept,notes\ns1,90,yes,caf\xE9\n"));
  chooseInMenu("Read takes from a table");
  typeFile(inFolder("takes.csv"));
  ASSERT_TRUE(waitSaid("1 added"));
  EXPECT_TRUE(said().contains("windows-1252")) << said().toStdString();
  EXPECT_EQ(session().project().takes.back()->notes, "caf\xC3\xA9");
  ASSERT_TRUE(write_file((folder_ / "shots.csv").string(), "id,name\ns1,Renamed\n"));
  chooseInMenu("Read shots from a table");
  typeFile(inFolder("shots.csv"));
  ASSERT_TRUE(QTest::qWaitFor([&] { return session().project().shots[0]->name == "Renamed"; }, 10000));
}

TEST_F(DrivenTest, APaperIsStoppedByItsButton) {
  chooseInMenu("Board for the client");
  typeFile(inFolder("board.pdf"));
  auto* stop = find<QAbstractButton>("cancelPaper");
  ASSERT_TRUE(QTest::qWaitFor([&] { return stop->isVisible(); }, 5000));
  QTest::mouseClick(stop, Qt::LeftButton);
  ASSERT_TRUE(waitSaid("cancelled")) << said().toStdString();
  EXPECT_FALSE(fs::exists(folder_ / "board.pdf"));
}

TEST_F(DrivenTest, AFilmIsStoppedAndSaysThatItGoesOn) {
  chooseInMenu("The spot as a film");
  typeFile(inFolder("spot.mp4"));
  ASSERT_TRUE(waitSaid("Picture 3 of ")) << said().toStdString();
  QTest::mouseClick(find<QAbstractButton>("cancelPaper"), Qt::LeftButton);
  ASSERT_TRUE(waitSaid("goes on from there")) << said().toStdString();
  EXPECT_FALSE(fs::exists(folder_ / "spot.mp4"));
  EXPECT_TRUE(fs::exists(folder_ / "spot.mp4.frames" / "000000.png"));
}

TEST_F(DrivenTest, TextsOfPeopleAreNeverReadAsMarkup) {
  session().keep("<b>Bold</b> title &amp;", {{"/shots/0/name", "<h1>Big</h1>"}, {"/project/name", "A & B"}});
  auto* message = find<QLabel>("message");
  EXPECT_EQ(message->textFormat(), Qt::PlainText);
  EXPECT_TRUE(message->text().contains("<b>Bold</b>"));
  EXPECT_TRUE(message->toolTip().contains("&lt;b&gt;")) << "shown as typed";
  for (auto* label : window_->findChildren<QLabel*>())
    EXPECT_TRUE(label->textFormat() == Qt::PlainText || !Qt::mightBeRichText(label->text()) ||
                label->objectName() == "briefPalette")
        << label->text().toStdString();
}

TEST_F(DrivenTest, AMaterialKeepsItsColourWhenItsKindIsChosen) {
  ASSERT_TRUE(
      session().keep("Own", {{"/products/0/parts/0/material",
                              Json{{"kind", "gloss"}, {"colour", {0.1, 0.2, 0.3}}, {"finish", "lacquer"}}}}));
  QTest::keyClick(window_.get(), Qt::Key_1, Qt::ControlModifier);
  auto* box = find<QComboBox>("briefMaterial0");
  ASSERT_TRUE(QTest::qWaitFor([&] { return box->isVisible() && box->currentText() == "gloss"; }, 5000));
  const auto undoable = session().undoTitle();
  box->setFocus();
  emit box->activated(box->currentIndex());
  EXPECT_EQ(session().undoTitle(), undoable) << "the same kind again is no change";
  QTest::keyClicks(box, "satin");
  ASSERT_TRUE(QTest::qWaitFor(
      [&] { return value("/products/0/parts/0/material/kind") == std::optional<Json>("satin"); }, 3000));
  EXPECT_EQ(value("/products/0/parts/0/material/colour"), std::optional<Json>(Json{0.1, 0.2, 0.3}));
  EXPECT_EQ(value("/products/0/parts/0/material/finish"), std::optional<Json>("lacquer"));
}

TEST_F(DrivenTest, ALensOutOfSightTracesNothing) {
  auto* lens = find<LensView>("lens");
  ASSERT_TRUE(QTest::qWaitFor([&] { return lens->settled(); }, 240000)) << "beside other work it takes longer";
  QTest::keyClick(window_.get(), Qt::Key_7, Qt::ControlModifier);
  ASSERT_TRUE(QTest::qWaitFor([&] { return !lens->isVisible(); }, 3000));
  QSignalSpy pictures(lens, &LensView::pictureShown);
  session().keep("Moved", {{"/setups/0/lights/0/place/1", 0.9}, {"/setups/1/lights/0/place/1", 0.9}});
  EXPECT_FALSE(pictures.wait(1500)) << "nothing is traced for nobody";
  QTest::keyClick(window_.get(), Qt::Key_3, Qt::ControlModifier);
  EXPECT_TRUE(pictures.wait(30000)) << "and shown anew when it is looked at";
}

TEST_F(DrivenTest, AltDragsWithoutSnappingAndTheWheelSteps) {
  auto* floor = find<FloorView>("floor");
  floor->setFocus();
  session().select({Selection::Kind::light, 0});
  const Vec3 before = session().setup()->lights[0].place;
  const QPointF from = floor->onScreen(before);
  drag(floor, from, from + QPointF(23, 17), Qt::AltModifier);
  const Vec3 after = session().setup()->lights[0].place;
  ASSERT_GT(length(after - before), 1e-4);
  const auto centimetres = [](double v) { return std::abs(v * 100 - std::round(v * 100)); };
  EXPECT_GT(centimetres(after.x) + centimetres(after.z), 1e-3) << "not on whole centimetres";
  auto* hand = find<QWidget>("inHand");
  NumberField* field = nullptr;
  for (auto* f : hand->findChildren<NumberField*>())
    if (f->isVisible() && f->spec().id == "distance") field = f;
  ASSERT_NE(field, nullptr);
  const double was = field->spec().value;
  field->setFocus();  // a wheel that only passes over changes nothing
  QWheelEvent wheel(QPointF(5, 5), field->mapToGlobal(QPointF(5, 5)), {}, {0, 120}, Qt::NoButton, {},
                    Qt::NoScrollPhase, false);
  QApplication::sendEvent(field, &wheel);
  ASSERT_TRUE(QTest::qWaitFor([&] { return std::abs(field->spec().value - was) > 1e-6; }, 3000));
}

TEST_F(DrivenTest, TabWalksRoundEveryPageWithoutAnEnd) {
  for (const char* page : {"brief", "board", "stage", "takes", "kit"}) {
    window_->showPage(page);
    QTest::qWait(80);
    QSet<QWidget*> met;
    QWidget* first = nullptr;
    int steps = 0;
    for (; steps < 300; ++steps) {
      QTest::keyClick(window_->focusWidget() ? window_->focusWidget() : window_.get(), Qt::Key_Tab);
      QWidget* now = window_->focusWidget();
      ASSERT_NE(now, nullptr) << page;
      EXPECT_TRUE(now->isVisible()) << page << " " << now->objectName().toStdString();
      if (!first) first = now;
      if (steps > 0 && now == first) break;
      met.insert(now);
    }
    EXPECT_LT(steps, 300) << page << ": Tab comes round again";
    EXPECT_GE(met.size(), 5) << page;
  }
}

}  // namespace
}  // namespace cinnabar
