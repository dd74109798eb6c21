// The line to a motion controller, in the language of docs/motion-controller.md.
#pragma once
#include <QLocalSocket>
#include <QObject>
#include <QTimer>
#include <deque>
#include <functional>
#include <vector>

#include "cinnabar/devices/strayed.h"

namespace cinnabar {

class MotorLink : public QObject {
  Q_OBJECT
 public:
  explicit MotorLink(QObject* parent = nullptr);
  ~MotorLink() override;

  void join(const QString& socket);
  void leave() { over({}); }
  [[nodiscard]] bool joined() const { return socket_.state() == QLocalSocket::ConnectedState; }
  /// "idle", "ready", "moving" or "stopped", as it said last; empty before.
  [[nodiscard]] const QString& state() const { return state_; }
  [[nodiscard]] const AxisPlaces& places() const { return places_; }
  /// Set seconds of the shot, while it runs and after.
  [[nodiscard]] double setTime() const { return run_seconds_ - begins_; }
  /// A program is loaded and was found to be within the limits.
  [[nodiscard]] bool loaded() const { return loaded_; }

  /// Loads a program and has it checked. `begins`: when in its run the shot does, seconds.
  void load(const std::string& program, double begins);
  void start() { ask("start"); }
  void run();
  void jog(std::size_t axis, double by, double speed);
  void stop();
  void release();

 signals:
  void changed();
  /// A sentence for people: what was refused, or what came about.
  void told(const QString& text, bool refusal);
  /// A run has ended, or was stopped: what was reported meanwhile.
  void ran(const std::vector<ReportedPlaces>& reports);

 private:
  using Then = std::function<void(const QString& answer)>;
  void ask(const QString& line, Then then = {});
  void where();
  void send(std::size_t from);
  void hear();
  void heard(const QString& line);
  void take(const QStringList& words, int from);
  void over(const QString& why);
  void ended();

  QLocalSocket socket_;
  QTimer poll_;
  std::deque<Then> waiting_;       ///< one for each line that was sent and not yet answered
  std::size_t polls_unheard_ = 0;  ///< since anything was heard
  QStringList program_;
  QByteArray bytes_;
  QString state_;
  AxisPlaces places_{};
  double run_seconds_ = 0, begins_ = 0;
  bool loaded_ = false, running_ = false;
  std::vector<ReportedPlaces> reports_;
};

}  // namespace cinnabar
