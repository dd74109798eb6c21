// The real window on the demo project, to be driven by mouse and keyboard.
#pragma once
#include <gtest/gtest.h>
#include <unistd.h>

#include <QApplication>
#include <QClipboard>
#include <QDialog>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QLocalServer>
#include <QLocalSocket>
#include <QMenu>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QSettings>
#include <QSignalSpy>
#include <QTest>
#include <cmath>
#include <filesystem>
#include <fstream>
#include <random>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/edits/hand.h"
#include "cinnabar/desktop/pages/stage_page.h"
#include "cinnabar/desktop/pages/takes_page.h"
#include "cinnabar/desktop/shell/main_window.h"
#include "cinnabar/desktop/stage/floor_view.h"
#include "cinnabar/desktop/stage/ladder_view.h"
#include "cinnabar/desktop/stage/lens_view.h"
#include "cinnabar/desktop/stage/levels_panel.h"
#include "cinnabar/desktop/stage/lights_panel.h"
#include "cinnabar/desktop/stage/spot_strip.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/formats/demo.h"
#include "cinnabar/project/checks/validation.h"
#include "private_folder.h"

namespace cinnabar {

namespace fs = std::filesystem;

constexpr std::size_t all_shots = static_cast<std::size_t>(-1);
inline void write_demo_of(const std::string& path, std::size_t shots) {
  if (shots == all_shots) {
    ASSERT_TRUE(make_demo(path));
    return;
  }
  Document document = *demo_document();
  auto& list = document.lists["shots"];
  std::set<std::string> left;
  list.resize(std::min(shots, list.size()));
  for (const JsonPtr& shot : list) left.insert(shot->at("id"));
  std::erase_if(document.lists["takes"], [&](const JsonPtr& take) { return !left.contains(take->at("shot")); });
  ASSERT_TRUE(validate(document).empty());
  ASSERT_TRUE(Store::create(path, document));
}
/// The demo with its first shots only: whatever is made of every shot then takes less. Each is written once.
inline void make_demo_of(const std::string& path, std::size_t shots) {
  static const FolderOfItsOwn written;
  const fs::path whole = fs::path(written.file(std::to_string(shots) + ".cinnabar"));
  if (!fs::exists(whole)) write_demo_of(whole.string(), shots);
  fs::copy_file(whole, path, fs::copy_options::overwrite_existing);
}

class WindowTest : public testing::Test {
 protected:
  void SetUp() override {
    std::string name = (fs::temp_directory_path() / "cinnabar-window-XXXXXX").string();
    folder_ = ::mkdtemp(name.data());
    QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, QString::fromStdString(folder_.string()));
    path_ = (folder_ / "demo.cinnabar").string();
    make_demo_of(path_, shots_);
    open({});
  }
  /// Again, with so many of the demo's shots.
  void anew(std::size_t shots) {
    window_.reset();
    make_demo_of(path_, shots);
    open({});
  }
  void TearDown() override {
    window_.reset();
    fs::remove_all(folder_);
  }
  void open(WindowOptions options) {
    options.passes = passes_;
    options.closely = closely_;
    if (options.page == WindowOptions().page) options.page = page_;
    window_ = std::make_unique<MainWindow>(options);
    QSignalSpy opened(window_.get(), &MainWindow::opened);
    window_->openFile(QString::fromStdString(path_));
    ASSERT_TRUE(opened.wait(10000));
    window_->show();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(window_.get()));
    window_->activateWindow();  // no window manager does it on a bare display
    ASSERT_TRUE(QTest::qWaitForWindowActive(window_.get()));
  }
  template <class T>
  T* find(const char* name) {
    T* found = window_->findChild<T*>(name);
    EXPECT_NE(found, nullptr) << name;
    return found;
  }
  /// A program of the test's own at a socket: a device's line (its parts begin with `stem`) joins it, and is
  /// answered.
  QLocalSocket* joinAnswered(QLocalServer& other, const char* stem, const QByteArray& answer) {
    find<QLineEdit>(qPrintable(QString(stem) + "Socket"))->setText(other.fullServerName());
    press(qPrintable(QString(stem) + "Join"));
    QLocalSocket* came = nullptr;
    EXPECT_TRUE(QTest::qWaitFor([&] { return (came = other.nextPendingConnection()) != nullptr; }, 5000));
    EXPECT_TRUE(QTest::qWaitFor([&] { return came->canReadLine(); }, 5000));
    EXPECT_EQ(came->readLine(), "hello\n");
    came->write(answer);
    return came;
  }
  [[nodiscard]] Session& session() { return *window_->session(); }
  [[nodiscard]] std::optional<Json> value(const std::string& pointer) {
    return value_at(session().document(), pointer);
  }
  /// What stands in the file after everything was written.
  std::optional<Json> onDisk(const std::string& pointer) {
    session().flush();
    return value_at(*read_document(path_), pointer);
  }
  void undo() {
    QSignalSpy history(&session(), &Session::historyChanged);
    window_->activateWindow();  // without a window manager a menu that closes gives the focus to nobody
    ASSERT_TRUE(QTest::qWaitForWindowActive(window_.get()));
    QTest::keyClick(window_.get(), Qt::Key_Z, Qt::ControlModifier);
    ASSERT_TRUE(history.wait(5000));
  }
  void waitForLevels() {
    QSignalSpy levels(find<LevelsPanel>("levels"), &QObject::destroyed);
    ASSERT_TRUE(QTest::qWaitFor([&] { return find<LevelsPanel>("levels")->close(); }, 60000));
  }
  /// Clicks a button once it has been laid out.
  void press(const char* name) {
    ASSERT_TRUE(QTest::qWaitFor(
        [&] {
          auto* button = window_->findChild<QAbstractButton*>(name);
          return button && button->isVisible() && button->height() > 4;
        },
        5000))
        << name;
    QTest::mouseClick(window_->findChild<QAbstractButton*>(name), Qt::LeftButton);
  }
  /// Opens the project's menu and chooses an action by its beginning, with arrows and Enter.
  void chooseInMenu(const QString& begins) {
    press("projectMenu");
    QMenu* menu = nullptr;
    ASSERT_TRUE(QTest::qWaitFor(
        [&] {
          menu = window_->findChild<QMenu*>("projectActions");
          return menu && menu->isVisible();
        },
        3000));
    for (int k = 0; k < 60; ++k) {
      QTest::keyClick(menu, Qt::Key_Down);
      if (menu->activeAction() && menu->activeAction()->text().startsWith(begins)) {
        QTest::keyClick(menu, Qt::Key_Return);
        return;
      }
    }
    ADD_FAILURE() << begins.toStdString() << " is not in the menu";
    menu->close();
  }
  /// The sheet of its kind that stands over the window, or comes within seconds; nothing where none does.
  template <class Sheet = QDialog>
  [[nodiscard]] Sheet* sheetOver() {
    Sheet* over = nullptr;
    (void)QTest::qWaitFor(
        [&] {
          over = nullptr;
          for (auto* one : window_->findChildren<Sheet*>())
            if (one->isVisible()) over = one;
          return over != nullptr;
        },
        5000);
    return over;
  }
  /// Puts a path into the file dialog that is open, and Enter.
  void typeFile(const QString& path) {
    auto* dialog = sheetOver<QFileDialog>();
    ASSERT_NE(dialog, nullptr) << "no dialog asks for a file";
    auto* line = dialog->findChild<QLineEdit*>("fileNameEdit");
    ASSERT_NE(line, nullptr);
    line->setFocus();
    line->selectAll();
    // Put in at once: while one types, folders on the way are taken for what is meant.
    QApplication::clipboard()->setText(path);
    QTest::keyClick(line, Qt::Key_V, Qt::ControlModifier);
    QTest::keyClick(line, Qt::Key_Return);
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return !window_->findChild<QFileDialog*>() || !dialog->isVisible(); }, 3000));
  }
  [[nodiscard]] QString inFolder(const char* name) const {
    return QString::fromStdString((folder_ / name).string());
  }
  /// What is seen of a widget: how many of its 24 x 15 tiles hold more than one colour.
  static int drawnTiles(QWidget* widget) {
    const QImage image = widget->grab().toImage().convertToFormat(QImage::Format_RGB32);
    int drawn = 0;
    for (int ty = 0; ty < 15; ++ty)
      for (int tx = 0; tx < 24; ++tx) {
        const QRect tile(image.width() * tx / 24, image.height() * ty / 15, image.width() / 24,
                         image.height() / 15);
        const QRgb first = image.pixel(tile.topLeft());
        bool more = false;
        for (int y = tile.top(); y <= tile.bottom() && !more; ++y)
          for (int x = tile.left(); x <= tile.right() && !more; ++x) more = image.pixel(x, y) != first;
        drawn += more ? 1 : 0;
      }
    return drawn;
  }
  static bool scrolls(QWidget* w) {
    for (QWidget* p = w->parentWidget(); p; p = p->parentWidget())
      if (qobject_cast<QAbstractScrollArea*>(p) && p->objectName() != "room") return true;
    return false;
  }
  /// Controls that are shown but lie outside of what holds them: they could not be clicked.
  static std::string outOfReach(QWidget* page) {
    auto* room = page->findChild<QScrollArea*>("room");  // a window too small for its page is gone about in
    const int lowest = room ? room->verticalScrollBar()->maximum() : 0;
    QSet<QWidget*> seen, held;
    for (const int at : {0, lowest / 2, lowest}) {
      if (room) room->verticalScrollBar()->setValue(at);
      for (auto* w : page->findChildren<QWidget*>()) {
        if (!w->isVisible() || w->focusPolicy() == Qt::NoFocus || w->width() == 0 || scrolls(w)) continue;
        if (!w->visibleRegion().isEmpty()) seen << w;
        if (!w->parentWidget()->visibleRegion().isEmpty()) held << w;
      }
    }
    QStringList list;
    for (QWidget* w : held - seen) list << w->objectName() + " " + w->metaObject()->className();
    return list.join("; ").toStdString();
  }
  /// A number typed into a field of a widget.
  static void typeInto(QWidget* in, const char* field, const QString& text) {
    auto* number = in->findChild<NumberField*>(field);
    ASSERT_NE(number, nullptr) << field;
    number->setFocus();
    QTest::keyClick(number, Qt::Key_Return);
    auto* editor = number->findChild<QLineEdit*>("editor");
    editor->selectAll();
    QTest::keyClicks(editor, text);
    QTest::keyClick(editor, Qt::Key_Return);
  }
  static void drag(QWidget* widget, const QPointF& from, const QPointF& to, Qt::KeyboardModifiers keys = {}) {
    QTest::mousePress(widget, Qt::LeftButton, keys, from.toPoint());
    for (int k = 1; k <= 4; ++k) QTest::mouseMove(widget, (from + (to - from) * (k / 4.0)).toPoint());
    // Offscreen, moves carry no buttons: they are sent as a hand would.
    for (int k = 1; k <= 4; ++k) {
      const QPointF at = from + (to - from) * (k / 4.0);
      QMouseEvent move(QEvent::MouseMove, at, widget->mapToGlobal(at), Qt::NoButton, Qt::LeftButton, keys);
      QApplication::sendEvent(widget, &move);
    }
    QTest::mouseRelease(widget, Qt::LeftButton, keys, to.toPoint());
  }
  QString page_ = WindowOptions().page;  ///< that it opens with
  /// Most tests look at what is done with levels, not at how sure they are.
  MeasureQuality closely_{96, 8, 256, 6, 8};
  int passes_ = 4;  ///< of the lens: few settle it, and most tests look at nothing that more would show
  std::size_t shots_ = all_shots;  ///< of the demo, in the file that is opened
  fs::path folder_;
  std::string path_;
  std::unique_ptr<MainWindow> window_;
};

}  // namespace cinnabar
