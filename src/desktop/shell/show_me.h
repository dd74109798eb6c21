// Show me: a short walk over the real window. Each step names one thing to do, rings what it is done with, and
// waits until it is done; it can be left at any time.
#pragma once
#include <QTimer>
#include <QWidget>
#include <functional>
#include <vector>

class QLabel;

namespace cinnabar {

class MainWindow;
class WordButton;

class ShowMe : public QWidget {
  Q_OBJECT
 public:
  /// Stands over the window that has a project open, until it is walked or left.
  explicit ShowMe(MainWindow* window);
  [[nodiscard]] int step() const { return step_; }
  [[nodiscard]] static int steps();

 signals:
  void ended();

 protected:
  bool eventFilter(QObject* object, QEvent* event) override;
  void paintEvent(QPaintEvent*) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  class Ring;
  void show(int step);
  void look();
  void place();
  MainWindow* window_;
  Ring* ring_;
  QLabel *count_, *text_;
  WordButton *next_, *leave_;
  QTimer watch_;
  int step_ = 0;
  std::function<bool()> finished_;
};

}  // namespace cinnabar
