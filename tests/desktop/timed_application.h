// An application that knows how long it took over one event at the most, by the clock, in processor time, and by
// the clock without what it waited for a processor that others had (proc(5), schedstat): its own doing and its own
// waits, for a file or another thread.
#pragma once
#include <fcntl.h>
#include <sys/resource.h>
#include <unistd.h>
#include <QApplication>
#include <QElapsedTimer>
#include <QEvent>
#include <QShortcut>

#include <algorithm>
#include <cstdio>
#include <cstdlib>
#include <ctime>
#include <fstream>
#include <string>

namespace cinnabar {

/// Milliseconds that other guests of the machine had of its processors' time since it was started (proc(5), stat:
/// steal; it comes by ticks of 10 ms).
inline double stolenMs() {
  std::ifstream file("/proc/stat");
  std::string all;
  double count = 0;
  file >> all;
  for (int k = 0; k < 8; ++k) file >> count;
  return count * 1e3 / static_cast<double>(sysconf(_SC_CLK_TCK));
}

/// What the process holds of the memory, as the system counts it (proc(5), statm: resident pages).
inline double megabytes() {
  std::ifstream file("/proc/self/statm");
  double size = 0, resident = 0;
  file >> size >> resident;
  return resident * static_cast<double>(sysconf(_SC_PAGESIZE)) / (1 << 20);
}

class TimedApplication : public QApplication {
 public:
  using QApplication::QApplication;
  bool notify(QObject* receiver, QEvent* event) override {
    if (depth_ > 0 && event->type() != QEvent::Paint) return QApplication::notify(receiver, event);
    QString whose = receiver->objectName() + " " + receiver->metaObject()->className();
    if (const QObject* owner = receiver->parent(); owner && receiver->objectName().startsWith("qt_"))
      whose += " of " + owner->objectName() + " " + owner->metaObject()->className();
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
    const double stolenBefore = counting_ ? stolenMs() : 0.0, waitedBefore = queuedMs();
    const rusage usedBefore = used();
    QElapsedTimer time;
    time.start();
    const double busyBefore = busyMs();
    const bool done = QApplication::notify(receiver, event);
    --depth_;
    const double busy = busyMs() - busyBefore, ms = static_cast<double>(time.nsecsElapsed()) / 1e6;
    if (busy > busiest_) {
      busiest_ = busy;
      busy_ = QString("event %1 of %2").arg(static_cast<int>(event->type())).arg(whose);
    }
    const double own = ms - (queuedMs() - waitedBefore);
    ownLongest_ = std::max(ownLongest_, own);
    if (counting_ && ms > 100) {
      const rusage usedNow = used();
      std::printf(
          "stall of %.0f ms by the clock, %.0f without waiting for a processor, %.0f ms of processor time, %.0f "
          "ms "
          "stolen meanwhile, %ld pages read from the disk, %ld waits: event %d of %s%s\n",
          ms, own, busy, stolenMs() - stolenBefore, usedNow.ru_majflt - usedBefore.ru_majflt,
          usedNow.ru_nvcsw - usedBefore.ru_nvcsw, static_cast<int>(event->type()), qPrintable(whose),
          qPrintable(painted_));
      std::fflush(stdout);
    }
    if (ms > longest_) {
      longest_ = ms;
      what_ = QString("event %1 of %2%3").arg(static_cast<int>(event->type())).arg(whose, painted_);
    }
    return done;
  }
  /// From nothing again; `counting` tells every stall over 100 ms as it comes.
  void beginAnew(bool counting = false) {
    longest_ = busiest_ = ownLongest_ = 0;
    counting_ = counting;
  }
  [[nodiscard]] double longest() const { return longest_; }
  [[nodiscard]] QString what() const { return what_; }
  /// The same without what was waited for a processor; what was stolen is in it.
  [[nodiscard]] double ownLongest() const { return ownLongest_; }
  /// The same in processor time of the interface thread.
  [[nodiscard]] double busiest() const { return busiest_; }
  [[nodiscard]] QString busyWith() const { return busy_; }

 private:
  /// What this thread has waited for a processor since it began.
  static double queuedMs() {
    static const int file = open("/proc/thread-self/schedstat", O_RDONLY | O_CLOEXEC);
    char text[96] = {};
    char* end = text;
    if (file < 0 || pread(file, text, sizeof text - 1, 0) <= 0) return 0.0;
    std::strtod(text, &end);  // what it ran
    return std::strtod(end, nullptr) / 1e6;
  }
  /// Of this thread: pages that had to be read, and waits for something else than a processor.
  static rusage used() {
    rusage now{};
    getrusage(RUSAGE_THREAD, &now);
    return now;
  }
  static double busyMs() {
    timespec now{};
    clock_gettime(CLOCK_THREAD_CPUTIME_ID, &now);
    return static_cast<double>(now.tv_sec) * 1e3 + static_cast<double>(now.tv_nsec) / 1e6;
  }

  int depth_ = 0;
  bool counting_ = false;
  double longest_ = 0, longestPaint_ = 0, busiest_ = 0, ownLongest_ = 0;
  QString what_, painted_, busy_;
};

}  // namespace cinnabar
