// An application that knows how long it took over one event at the most.
#pragma once
#include <QApplication>
#include <QElapsedTimer>
#include <QEvent>
#include <QShortcut>

namespace cinnabar {

class TimedApplication : public QApplication {
 public:
  using QApplication::QApplication;
  bool notify(QObject* receiver, QEvent* event) override {
    if (depth_ > 0 && event->type() != QEvent::Paint) return QApplication::notify(receiver, event);
    QString whose = receiver->objectName() + " " + receiver->metaObject()->className();
    if (const auto* shortcut = qobject_cast<QShortcut*>(receiver)) whose += " " + shortcut->key().toString();
    if (depth_ > 0) {  // of the widgets that one event paints, the slowest is told
      QElapsedTimer time;
      time.start();
      const bool done = QApplication::notify(receiver, event);
      if (const double ms = static_cast<double>(time.nsecsElapsed()) / 1e6; ms > longestPaint_) {
        longestPaint_ = ms;
        painted_ = QString(", of it %1 ms for %2").arg(ms, 0, 'f', 1).arg(whose);
      }
      return done;
    }
    ++depth_;
    longestPaint_ = 0;
    painted_.clear();
    QElapsedTimer time;
    time.start();
    const bool done = QApplication::notify(receiver, event);
    --depth_;
    if (const double ms = static_cast<double>(time.nsecsElapsed()) / 1e6; ms > longest_) {
      longest_ = ms;
      what_ = QString("event %1 of %2%3").arg(static_cast<int>(event->type())).arg(whose, painted_);
    }
    return done;
  }
  void beginAnew() { longest_ = 0; }
  [[nodiscard]] double longest() const { return longest_; }
  [[nodiscard]] QString what() const { return what_; }

 private:
  int depth_ = 0;
  double longest_ = 0, longestPaint_ = 0;
  QString what_, painted_;
};

}  // namespace cinnabar
