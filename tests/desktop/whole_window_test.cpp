// The whole window at once: every page named, small, with long names, at twice the text, empty, made later, and
// used at random.
#include <QAccessible>
#include <QElapsedTimer>
#include <QLinearGradient>
#include <QPainter>
#include <QSemaphore>
#include <QThreadPool>

#include "cinnabar/desktop/pages/page.h"
#include "timed_application.h"
#include "window_fixture.h"

namespace cinnabar {
namespace {

/// What can take the keyboard in there and has no name for people: neither a name of its own nor words on it.
QStringList nameless(QWidget* in) {
  QStringList list;
  for (auto* w : in->findChildren<QWidget*>()) {
    if (w->focusPolicy() == Qt::NoFocus || !w->isVisible() || w->objectName().startsWith("qt_") ||
        w->inherits("QScrollArea") || w->inherits("QStackedWidget"))
      continue;
    QAccessibleInterface* face = QAccessible::queryAccessibleInterface(w);
    if (!face || face->text(QAccessible::Name).isEmpty())
      list << w->objectName() + " " + w->metaObject()->className();
  }
  return list;
}

TEST_F(WindowTest, EveryControlOfEveryPageAndDialogHasANameForPeople) {
  for (const PageRow& row : pageRows()) {
    window_->showPage(row.id);
    QTest::qWait(80);
    EXPECT_EQ(nameless(window_.get()).join("; ").toStdString(), "") << row.id;
  }
  const std::pair<const char*, std::function<void()>> dialogs[] = {
      {"versions", [&] { QTest::keyClick(window_.get(), Qt::Key_K, Qt::ControlModifier); }},
      {"keys", [&] { QTest::keyClick(window_.get(), Qt::Key_F1); }},
      {"pasted list", [&] {
         window_->showPage("board");
         press("boardPaste");
       }}};
  for (const auto& [name, open] : dialogs) {
    window_->activateWindow();
    ASSERT_TRUE(QTest::qWaitForWindowActive(window_.get()));
    open();
    QDialog* dialog = sheetOver();
    ASSERT_NE(dialog, nullptr) << name;
    EXPECT_EQ(nameless(dialog).join("; ").toStdString(), "") << name;
    EXPECT_FALSE(dialog->windowTitle().isEmpty()) << name;
    dialog->close();
    QTest::qWait(50);
  }
}

TEST_F(WindowTest, RandomUseLosesNothing) {
  std::mt19937 random(42);
  const Qt::Key keys[] = {Qt::Key_Left,   Qt::Key_Right,    Qt::Key_Up,     Qt::Key_Down, Qt::Key_Space,
                          Qt::Key_PageUp, Qt::Key_PageDown, Qt::Key_Home,   Qt::Key_End,  Qt::Key_Plus,
                          Qt::Key_Minus,  Qt::Key_K,        Qt::Key_D,      Qt::Key_1,    Qt::Key_3,
                          Qt::Key_S,      Qt::Key_Return,   Qt::Key_Escape, Qt::Key_Tab};
  // CINNABAR_MINUTES makes it longer (the long tests: 10); the longest answer to one action is told, not judged.
  const int minutes = qEnvironmentVariableIntValue("CINNABAR_MINUTES");
  auto* application = static_cast<TimedApplication*>(qApp);
  if (minutes > 0) passes_ = 64, anew(all_shots);  // as users have it
  application->beginAnew(minutes > 0);
  QElapsedTimer clock;
  clock.start();
  int told = 0;
  for (int i = 0; minutes > 0 ? clock.elapsed() < minutes * 60000LL : i < 1000; ++i) {
    if (clock.elapsed() / 60000 > told)
      std::printf(
          "after %d min: %d actions, %.0f MB, longest answer %.1f ms (%s), %.1f ms without waiting for a "
          "processor, %.1f ms of processor time (%s)\n",
          ++told, i, megabytes(), application->longest(), qPrintable(application->what()),
          application->ownLongest(), application->busiest(), qPrintable(application->busyWith())),
          std::fflush(stdout);
    std::vector<QWidget*> widgets;
    for (const char* name :
         {"floor",       "lights",      "ladder",     "spot",           "nextTake",       "everyTake", "lens",
          "boardCards",  "moveShelf",   "sketchPad",  "productDrawing", "productPicture", "briefSeen", "kitList",
          "bench-place", "bench-light", "bench-move", "bench-expose",   "bench-effects",  "purse",     "mirrors",
          "findMethods", "findFewer",   "moveFind",   "findStops",      "effectFind",     "askHand",   "askMotor",
          "askModes",    "showBands",   "showStages", "handPanel",      "modesPanel",     "motorJoin", "motorLoad",
          "modesBest",   "askMeter",    "pinSet",     "pinList",        "meterCalibrate", "meterTake"}) {
      auto* w = window_->findChild<QWidget*>(name);
      if (w && w->isVisible()) widgets.push_back(w);
    }
    QWidget* w = widgets[random() % widgets.size()];
    const auto anywhere = [&] {
      return QPointF(random() % static_cast<unsigned>(w->width()), random() % static_cast<unsigned>(w->height()));
    };
    switch (random() % 8) {
      case 0:
        QTest::mouseClick(w, Qt::LeftButton, {}, anywhere().toPoint());
        break;
      case 1:
      case 2:
        drag(w, anywhere(), anywhere());
        break;
      case 3:
        QTest::keyClick(window_.get(),
                        std::array{Qt::Key_1, Qt::Key_2, Qt::Key_3, Qt::Key_3, Qt::Key_5, Qt::Key_7}[random() % 6],
                        Qt::ControlModifier);
        break;
      case 4:
        QTest::keyClick(
            window_.get(), Qt::Key_Z,
            random() % 3 ? Qt::KeyboardModifiers(Qt::ControlModifier) : Qt::ControlModifier | Qt::ShiftModifier);
        break;
      default:
        w->setFocus();
        QTest::keyClick(w, keys[random() % std::size(keys)], random() % 5 ? Qt::NoModifier : Qt::ShiftModifier);
    }
    QCoreApplication::processEvents();
    if (i % 50 == 0) QTest::qWait(20);
  }
  std::printf("longest answer to one event: %.1f ms (%s)\n", application->longest(),
              qPrintable(application->what()));
  application->beginAnew();
  EXPECT_LT(megabytes(), 400) << "with the demo, however long it is used";
  session().dropPreview();
  session().flush();
  QTest::qWait(200);  // answers of undo that are still on their way
  session().flush();
  EXPECT_EQ(read_document(path_)->to_json(), session().document().to_json());
  EXPECT_TRUE(validate(session().document()).empty());
}

TEST_F(WindowTest, LargeShapesAreFilledWithoutWaitingForOtherThreads) {
  // Own behaviour: all threads of Qt's pool are held up, and what is painted meanwhile is there at once.
  auto* pool = QThreadPool::globalInstance();
  const int count = pool->maxThreadCount();
  bool painted = false;
  QSemaphore there, go;
  for (int k = 0; k < count; ++k)
    pool->start([&] {
      there.release();
      go.tryAcquire(1, 20000);
    });
  there.acquire(count);
  QElapsedTimer clock;
  clock.start();
  QImage image(800, 800, QImage::Format_ARGB32_Premultiplied);
  image.fill(Qt::white);
  {
    QPainter p(&image);
    p.setRenderHint(QPainter::Antialiasing);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    QLinearGradient shade(0, 0, 800, 800);
    shade.setColorAt(0, Qt::black), shade.setColorAt(1, Qt::red);
    p.setBrush(shade);
    p.drawEllipse(10, 10, 780, 780);
    p.setOpacity(0.5);
    p.drawImage(QRectF(0, 0, 700, 700), image.copy(0, 0, 350, 350));
  }
  EXPECT_EQ(image.convertToFormat(QImage::Format_RGBA64).size(), image.size());
  painted = clock.elapsed() < 15000;  // else it waited until those were let go by themselves
  go.release(count);
  pool->waitForDone();
  EXPECT_TRUE(painted);
  EXPECT_NE(image.pixelColor(400, 600), QColor(Qt::white));
}

TEST_F(WindowTest, SmallAndWithLongNamesNothingBreaks) {
  const std::string longName(300, 'w');
  session().keep(
      "Long", {{"/shots/0/name", longName}, {"/project/name", longName}, {"/setups/0/lights/0/name", longName}});
  window_->resize(1024, 700);
  QTest::qWait(30);
  EXPECT_LE(window_->width(), 1024);
  EXPECT_LE(window_->height(), 700);
  EXPECT_GT(drawnTiles(window_.get()), 150) << "the Stage fills most of the window";
  auto* room = find<QScrollArea>("room");
  for (const char* bench : {"bench-place", "bench-light", "bench-move", "bench-expose", "bench-effects"}) {
    press(bench);
    QTest::qWait(30);
    EXPECT_FALSE(room->verticalScrollBar()->isVisible() || room->horizontalScrollBar()->isVisible()) << bench;
  }
  EXPECT_EQ(outOfReach(window_.get()), "");
}

TEST_F(WindowTest, EveryPageStandsSmallWithLongNamesAndInBothThemes) {
  const std::string longName(200, 'w');
  session().keep("Long", {{"/products/0/name", longName},
                          {"/products/0/features/0/name", longName},
                          {"/kit/lights/0/name", longName},
                          {"/deliverables/0/name", longName},
                          {"/shots/0/plates", Json{longName, longName}}});
  for (const bool dark : {false, true}) {
    window_->setDark(dark);
    for (const char* page : {"brief", "board", "stage", "takes", "kit"}) {
      window_->showPage(page);
      window_->resize(1024, 700);
      QTest::qWait(60);
      EXPECT_LE(window_->width(), 1024) << page;
      EXPECT_LE(window_->height(), 700) << page;
      EXPECT_GT(drawnTiles(window_.get()), 100) << page;
      EXPECT_FALSE(find<QScrollArea>("room")->verticalScrollBar()->isVisible()) << page;
      EXPECT_EQ(outOfReach(window_.get()), "") << page;
    }
  }
}

/// On a screen of 1920 x 1080 twice the size leaves 960 x 540.
TEST_F(WindowTest, AtTwiceTheSizeOfTextAllIsInReach) {
  window_->resize(960, 540);
  for (const PageRow& row : pageRows()) {
    window_->showPage(row.id);
    QTest::qWait(60);
    EXPECT_EQ(window_->size(), QSize(960, 540)) << row.id;
    EXPECT_EQ(outOfReach(window_.get()), "") << row.id;
    auto* room = find<QScrollArea>("room");
    EXPECT_FALSE(room->horizontalScrollBar()->isVisible()) << row.id << ": one goes up and down only";
    EXPECT_TRUE(room->verticalScrollBar()->isVisible()) << row.id;
  }
  window_->showPage("stage");
  for (const QKeySequence& keys :
       {QKeySequence("F1"), QKeySequence("Ctrl+K"), QKeySequence("F5"), QKeySequence("F6")}) {
    window_->activateWindow();
    ASSERT_TRUE(QTest::qWaitForWindowActive(window_.get()));
    QTest::keySequence(window_.get(), keys);
    QDialog* sheet = sheetOver();
    ASSERT_NE(sheet, nullptr) << keys.toString().toStdString();
    EXPECT_LE(sheet->width(), 960) << sheet->objectName().toStdString();
    EXPECT_LE(sheet->height(), 540) << sheet->objectName().toStdString();
    EXPECT_EQ(outOfReach(sheet), "") << sheet->objectName().toStdString();
    sheet->close();
    QTest::qWait(50);
  }
}

TEST_F(WindowTest, EveryPageOfAnEmptyProjectSaysSomething) {
  window_.reset();
  path_ = (folder_ / "new.cinnabar").string();
  fs::remove(path_);
  ASSERT_TRUE(Store::create(path_, empty_document("New")));
  open({});
  for (const char* page : {"brief", "board", "stage", "takes", "kit"}) {
    window_->showPage(page);
    QTest::qWait(60);
    EXPECT_GT(drawnTiles(window_.get()), 40) << page << " of an empty project";
    EXPECT_EQ(outOfReach(window_.get()), "") << page;
  }
  EXPECT_TRUE(validate(session().document()).empty());
  EXPECT_EQ(session().undoTitle(), "") << "looking changes nothing";
}

TEST_F(WindowTest, APageOutOfSightIsBroughtUpToDateWhenItIsShown) {
  window_->showPage("kit");
  QTest::qWait(60);
  window_->showPage("stage");
  session().keep("Named", {{"/kit/cameras/0/name", "Quite another"}, {"/products/0/name", "Quite another jar"}});
  window_->showPage("kit");
  ASSERT_TRUE(QTest::qWaitFor([&] { return find<QListWidget>("kitList")->isVisible(); }, 3000));
  bool found = false;
  for (int i = 0; i < find<QListWidget>("kitList")->count(); ++i)
    found = found || find<QListWidget>("kitList")->item(i)->text().startsWith("Quite another");
  EXPECT_TRUE(found);
  window_->showPage("brief");
  ASSERT_TRUE(QTest::qWaitFor([&] { return find<QLineEdit>("briefName")->text() == "Quite another jar"; }, 3000));
}

/// Going to a page for the first time tells nobody that anything has changed: what is open stays, nothing is
/// measured anew.
TEST_F(WindowTest, APageThatIsMadeLaterChangesNothing) {
  auto* panel = find<LevelsPanel>("levels");
  waitForLevels();
  panel->open("camera.iso");
  ASSERT_EQ(panel->opened(), "camera.iso");
  QSignalSpy changed(&session(), &Session::changed), shot(&session(), &Session::shotChanged);
  for (const PageRow& row : pageRows()) {
    window_->showPage(row.id);
    QTest::qWait(20);
  }
  window_->showPage("stage");
  EXPECT_EQ(changed.count() + shot.count(), 0);
  EXPECT_EQ(panel->opened(), "camera.iso");
  EXPECT_TRUE(panel->close());
}

/// And it shows what one shows that was there from the beginning: the Stage is what lives by the most that is
/// told.
TEST_F(WindowTest, APageThatIsMadeLaterShowsTheSame) {
  const auto seen = [&](const QString& first) {
    page_ = first;
    anew(2);
    session().selectShot(1);
    const auto settled = [&] { return window_->settled(); };
    EXPECT_TRUE(QTest::qWaitFor(settled, 60000)) << first.toStdString();
    window_->showPage("stage");
    QTest::qWait(300);
    EXPECT_TRUE(QTest::qWaitFor(settled, 60000)) << "stage";
    QTest::qWait(300);
    if (QWidget* focused = QApplication::focusWidget()) focused->clearFocus();
    return window_->findChild<StagePage*>()->grab().toImage();
  };
  const QImage first = seen("stage"), later = seen("kit");
  ASSERT_EQ(first.size(), later.size());
  int differing = 0;
  for (int y = 0; y < first.height(); ++y)
    for (int x = 0; x < first.width(); ++x) differing += first.pixel(x, y) != later.pixel(x, y) ? 1 : 0;
  EXPECT_LT(differing, first.width() * first.height() / 500);
}

}  // namespace
}  // namespace cinnabar
