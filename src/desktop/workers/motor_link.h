// The line to a motion controller, in the language of docs/motion-controller.md.
#pragma once
#include <QTimer>
#include <vector>

#include "cinnabar/desktop/workers/line_link.h"
#include "cinnabar/devices/strayed.h"

namespace cinnabar {

class MotorLink : public LineLink {
  Q_OBJECT
 public:
  explicit MotorLink(QObject* parent = nullptr);

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
  /// A run has ended, or was stopped: what was reported meanwhile.
  void ran(const std::vector<ReportedPlaces>& reports);

 private:
  void welcomed() override;
  bool unasked(const QString& line) override;
  void forget() override;
  void where();
  void send(std::size_t from);
  void take(const QStringList& words, int from);
  void ended();

  QTimer poll_;
  std::size_t polls_unheard_ = 0;  ///< since anything was heard
  QStringList program_;
  QString state_;
  AxisPlaces places_{};
  double run_seconds_ = 0, begins_ = 0;
  bool loaded_ = false, running_ = false;
  std::vector<ReportedPlaces> reports_;
};

}  // namespace cinnabar
