// An application that knows how long it took over one event at the most.
#pragma once
#include <QApplication>
#include <QElapsedTimer>
#include <QEvent>

namespace cinnabar {

class TimedApplication : public QApplication {
 public:
  using QApplication::QApplication;
  bool notify(QObject* receiver, QEvent* event) override {
    if (depth_ > 0) return QApplication::notify(receiver, event);
    ++depth_;
    const QString whose = receiver->objectName() + " " + receiver->metaObject()->className();
    QElapsedTimer time;
    time.start();
    const bool done = QApplication::notify(receiver, event);
    --depth_;
    if (const double ms = static_cast<double>(time.nsecsElapsed()) / 1e6; ms > longest_) {
      longest_ = ms;
      what_ = QString("event %1 of %2").arg(static_cast<int>(event->type())).arg(whose);
    }
    return done;
  }
  void beginAnew() { longest_ = 0; }
  [[nodiscard]] double longest() const { return longest_; }
  [[nodiscard]] QString what() const { return what_; }

 private:
  int depth_ = 0;
  double longest_ = 0;
  QString what_;
};

}  // namespace cinnabar
