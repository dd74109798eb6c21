// Makes every picture of docs/screenshots anew from the demo, by hand as a user would: docs/make-screenshots runs
// it.
#include <QComboBox>
#include <QRegularExpression>
#include <QScrollBar>
#include <algorithm>

#include "cinnabar/desktop/begin/begin_page.h"
#include "cinnabar/desktop/board/move_shelf.h"
#include "cinnabar/desktop/brief/product_drawing.h"
#include "cinnabar/desktop/pages/brief_page.h"
#include "cinnabar/desktop/paper/papers.h"
#include "cinnabar/desktop/watch/watch_sheet.h"
#include "cinnabar/desktop/ways/expose_panel.h"
#include "cinnabar/desktop/ways/mirror_panel.h"
#include "cinnabar/forecast/moves/ready_moves.h"
#include "window_fixture.h"

namespace cinnabar {
namespace {

class Screenshots : public WindowTest {
 protected:
  void SetUp() override {
    to_ = qEnvironmentVariable("CINNABAR_SCREENSHOTS");
    if (to_.isEmpty()) GTEST_SKIP() << "CINNABAR_SCREENSHOTS names no folder for them";
    passes_ = 64;
    WindowTest::SetUp();
    window_->setFixedSize(1280, 800);
  }
  void key(Qt::Key k) { QTest::keyClick(window_.get(), k, Qt::ControlModifier); }
  /// Until the picture and the levels are as close as they get.
  void settle(int passes = 64) {
    auto* lens = find<LensView>("lens");
    ASSERT_TRUE(QTest::qWaitFor([&] { return lens->settled() || lens->passes() >= passes; }, 120000));
    waitForLevels();
  }
  /// Another shot, once its own picture is there.
  void look(std::size_t shot) {
    QSignalSpy shown(find<LensView>("lens"), &LensView::pictureShown);
    session().selectShot(shot);
    ASSERT_TRUE(shown.wait(20000));
    settle();
  }
  void take(const char* name) {
    QTest::qWait(400);
    ASSERT_TRUE(window_->grab().toImage().save(to_ + "/" + name + ".png")) << name;
  }
  QString to_;
};

TEST_F(Screenshots, OfBegin) {
  key(Qt::Key_N);
  auto* begin = find<BeginPage>("begin");
  QTest::mouseClick(find<QAbstractButton>("shape-9-16"), Qt::LeftButton);
  QTest::mouseClick(find<QAbstractButton>("mood-warm"), Qt::LeftButton);
  auto* tempo = find<QLineEdit>("beginTempo");
  QTest::mouseClick(tempo, Qt::LeftButton);
  QTest::keyClicks(tempo, "96");
  QTest::qWait(700);
  ASSERT_TRUE(QTest::qWaitFor([&] { return begin->draft() && !begin->drafting(); }, 120000));
  QTest::qWait(3000);
  take("begin");
}

TEST_F(Screenshots, OfTheStage) {
  settle();
  take("stage-paper");
  look(5);
  QTest::mouseClick(find<Vial>("level-light.backdrop"), Qt::LeftButton);
  ASSERT_TRUE(QTest::qWaitFor([&] { return window_->findChild<QWidget*>("lever-1") != nullptr; }, 120000));
  take("stage-explanation");
  const auto& shots = session().project().shots;
  for (std::size_t i = 0; i < shots.size(); ++i) {
    const auto [fastest, slowest] = shots[i]->clock.speed_span(0, shots[i]->set_time());
    if (fastest > slowest) {
      look(i);
      break;
    }
  }
  QTest::keyClick(window_.get(), Qt::Key_F5);
  auto* sheet = window_->findChild<WatchSheet*>();
  ASSERT_NE(sheet, nullptr);
  ASSERT_TRUE(QTest::qWaitFor([&] { return sheet->maker().count().first > 120; }, 240000));
  sheet->setPosition(session().project().starts_at(session().shotIndex()) + 1.0);
  ASSERT_TRUE(QTest::qWaitFor([&] { return sheet->maker().kept(sheet->place()); }, 120000));
  QTest::qWait(200);
  ASSERT_TRUE(sheet->grab().toImage().save(to_ + "/watch.png"));
}

TEST_F(Screenshots, OfTheWays) {
  settle();
  QTest::mouseClick(find<WordButton>("compare"), Qt::LeftButton);
  press("askWish");
  press("findWish");
  ASSERT_TRUE(QTest::qWaitFor([&] { return window_->findChild<QWidget*>("wish-way-1") != nullptr; }, 120000));
  auto* card = find<WayCard>("wish-way-1");
  ASSERT_TRUE(QTest::qWaitFor([&] { return !card->picture().isNull(); }, 60000));
  QTest::qWait(2000);
  take("stage-wish");
  press("wish-try-1");
  settle();
  press("askWays");
  press("findMethods");
  ASSERT_TRUE(QTest::qWaitFor(
      [&] {
        const auto cards = window_->findChildren<WayCard*>(QRegularExpression("^light-way-"));
        return !cards.isEmpty() && std::none_of(cards.begin(), cards.end(),
                                                [](const WayCard* way) { return way->picture().isNull(); });
      },
      180000));
  QTest::qWait(2000);
  take("stage-ways");
  press("askMirrors");
  auto* mirrors = find<MirrorPanel>("mirrors");
  ASSERT_TRUE(QTest::qWaitFor([&] { return mirrors->room() != nullptr; }, 30000));
  const QRectF room = mirrors->roomBox();
  QTest::mouseMove(mirrors, QPointF(room.left() + 0.3 * room.width(), room.center().y()).toPoint());
  take("stage-mirrors");
  press("compare");
  press("bench-place");
  take("stage-place");
  press("bench-move");
  auto* kinds = find<QComboBox>("moveKind");
  kinds->setCurrentIndex(kinds->findData("push"));
  press("moveFind");
  ASSERT_TRUE(QTest::qWaitFor([&] { return window_->findChild<QWidget*>("move-way-2") != nullptr; }, 120000));
  press("move-try-1");
  settle();
  QTest::qWait(3000);
  take("stage-move");
  press("move-try-1");
  look(2);
  press("bench-effects");
  press("view-side");
  QSignalSpy poured(find<LensView>("lens"), &LensView::pictureShown);
  session().setSetTime(0.45);
  ASSERT_TRUE(poured.wait(20000));
  settle();
  take("stage-effects");
  press("view-plan");
  look(3);
  session().setSetTime(0.55);
  press("effectFind");
  press("effectWayFind");
  ASSERT_TRUE(QTest::qWaitFor([&] { return window_->findChild<QWidget*>("effectWay-way-1") != nullptr; }, 60000));
  key(Qt::Key_B);
  settle();
  QTest::qWait(3000);
  take("stage-pieces");
  key(Qt::Key_B);
  press("effectFind");
  press("bench-expose");
  auto* purse = find<PurseView>("purse");
  ASSERT_TRUE(QTest::qWaitFor([&] { return purse->purse() != nullptr; }, 30000));
  take("stage-expose");
  press("findStops");
  auto* panel = find<ExposePanel>("exposePanel");
  ASSERT_TRUE(QTest::qWaitFor([&] { return panel->findChild<QWidget*>("stops-way-1") != nullptr; }, 120000));
  QTest::qWait(6000);
  take("stage-stops");
}

TEST_F(Screenshots, OfThePages) {
  settle(4);
  key(Qt::Key_1);
  ASSERT_TRUE(QTest::qWaitFor(
      [&] {
        return find<ProductPicture>("productPicture")->made() && find<BriefSeen>("briefSeen")->views().size() == 2;
      },
      120000));
  take("brief");
  QTest::mouseClick(find<QAbstractButton>("briefMaterials"), Qt::LeftButton);
  auto* sheet = find<QDialog>("materialSheet");
  QTest::qWait(30000);  // for all swatches
  ASSERT_TRUE(sheet->grab().save(to_ + "/materials.png"));
  QTest::keyClick(sheet, Qt::Key_Escape);
  window_->activateWindow();  // no window manager does it on a bare display
  ASSERT_TRUE(QTest::qWaitForWindowActive(window_.get()));
  key(Qt::Key_2);
  ASSERT_TRUE(QTest::qWaitFor(
      [&] {
        return find<MoveShelf>("moveShelf")->outcomes().size() == static_cast<qsizetype>(ready_moves().size());
      },
      120000));
  ASSERT_TRUE(QTest::qWaitFor([&] { return window_->settled(); }, 120000)) << "the shots' pictures";
  take("board");
  key(Qt::Key_5);
  take("takes");
  key(Qt::Key_7);
  auto* list = find<QListWidget>("kitList");
  for (int i = 0; i < list->count(); ++i)
    if (list->item(i)->text().contains("measured")) list->setCurrentRow(i);
  press("kitWorkOut");
  ASSERT_TRUE(QTest::qWaitFor([&] { return find<QListWidget>("kitBought")->count() > 0; }, 120000));
  take("kit");
}

TEST_F(Screenshots, OfAShotCard) {
  const QString pdf = inFolder("cards.pdf");
  ASSERT_TRUE(writePaper(Paper::cards, session().project(), pdf, CardOptions{}));
  const std::string command = "pdftoppm -png -r 100 -f 1 -l 1 -singlefile '" + pdf.toStdString() + "' '" +
                              (to_ + "/shot-card").toStdString() + "'";
  ASSERT_EQ(std::system(command.c_str()), 0) << "pdftoppm is of poppler-utils";
}

}  // namespace
}  // namespace cinnabar
