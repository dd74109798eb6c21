// The real window on the demo project, to be driven by mouse and keyboard.
#pragma once
#include <gtest/gtest.h>
#include <unistd.h>

#include <QApplication>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QPlainTextEdit>
#include <QSettings>
#include <QSignalSpy>
#include <QTest>
#include <cmath>
#include <filesystem>
#include <random>

#include "cinnabar/cli/demo.h"
#include "cinnabar/desktop/edits/hand.h"
#include "cinnabar/desktop/pages/stage_page.h"
#include "cinnabar/desktop/pages/takes_page.h"
#include "cinnabar/desktop/shell/main_window.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/widgets/controls.h"
#include "cinnabar/desktop/widgets/floor_view.h"
#include "cinnabar/desktop/widgets/ladder_view.h"
#include "cinnabar/desktop/widgets/lens_view.h"
#include "cinnabar/desktop/widgets/levels_panel.h"
#include "cinnabar/desktop/widgets/lights_panel.h"
#include "cinnabar/desktop/widgets/spot_strip.h"
#include "cinnabar/project/validation.h"

namespace cinnabar {

namespace fs = std::filesystem;

class WindowTest : public testing::Test {
 protected:
  void SetUp() override {
    folder_ = fs::temp_directory_path() / ("cinnabar-window-" + std::to_string(::getpid()));
    fs::create_directories(folder_);
    path_ = (folder_ / "demo.cinnabar").string();
    fs::remove(path_);
    ASSERT_TRUE(make_demo(path_));
    open({});
  }
  void TearDown() override {
    window_.reset();
    fs::remove_all(folder_);
  }
  void open(WindowOptions options) {
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
    QTest::keyClick(window_.get(), Qt::Key_Z, Qt::ControlModifier);
    ASSERT_TRUE(history.wait(5000));
  }
  void waitForLevels() {
    QSignalSpy levels(find<LevelsPanel>("levels"), &QObject::destroyed);
    ASSERT_TRUE(QTest::qWaitFor([&] { return find<LevelsPanel>("levels")->close(); }, 30000));
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
  static void drag(QWidget* widget, const QPointF& from, const QPointF& to) {
    QTest::mousePress(widget, Qt::LeftButton, {}, from.toPoint());
    for (int k = 1; k <= 4; ++k) QTest::mouseMove(widget, (from + (to - from) * (k / 4.0)).toPoint());
    // Offscreen, moves carry no buttons: they are sent as a hand would.
    for (int k = 1; k <= 4; ++k) {
      const QPointF at = from + (to - from) * (k / 4.0);
      QMouseEvent move(QEvent::MouseMove, at, widget->mapToGlobal(at), Qt::NoButton, Qt::LeftButton, {});
      QApplication::sendEvent(widget, &move);
    }
    QTest::mouseRelease(widget, Qt::LeftButton, {}, to.toPoint());
  }
  fs::path folder_;
  std::string path_;
  std::unique_ptr<MainWindow> window_;
};

}  // namespace cinnabar
