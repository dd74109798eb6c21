// The shot's move by a motion controller: joined, loaded, gone to its start, run and stopped; and how far from the
// plan it was, in pixels of the recording.
#pragma once
#include <QWidget>
#include <array>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/ways/socket_line.h"
#include "cinnabar/desktop/workers/motor_link.h"
#include "cinnabar/desktop/workers/newest.h"

class QLineEdit;

namespace cinnabar {

class StrayedPlot;

class MotorPanel : public QWidget {
  Q_OBJECT
 public:
  MotorPanel(Session* session, QWidget* parent = nullptr);
  [[nodiscard]] const MotorLink& link() const { return link_; }
  /// What came of the last run; no moments before.
  [[nodiscard]] const StrayedRun& lastRun() const { return last_; }

 protected:
  void paintEvent(QPaintEvent*) override;
  void showEvent(QShowEvent*) override;
  /// Escape stops what moves wherever the keyboard is, also where this panel is out of sight.
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  void connectParts();
  struct AxisRow {
    QWidget* row;
    PlainLabel *name, *place;
    WordButton *less, *more;
  };
  /// A shot's move as a controller would go through it.
  struct Move {
    Project project;
    std::string shot, program, impossible;  ///< the shot's id; why there is no program
    double begins = 0;                      ///< when in the run the shot does, seconds
    std::array<bool, axis_count> driven{};
    bool any = false;
  };
  [[nodiscard]] QWidget* axes();
  void lookAtShot();
  void refresh();
  /// What came about, or what was refused.
  void say(const QString& text, bool refusal);
  void load();
  void lay(const std::vector<ReportedPlaces>& reports);

  Session* session_;
  MotorLink link_;
  StrayedRun last_;
  Move move_, loaded_;  ///< of the shot in hand as it was seen last, and what was sent to the controller
  int asked_ = 0, seen_ = 0;
  SocketLine* socket_;
  WordButton *load_, *start_, *run_, *stop_, *release_;
  NumberField *step_, *speed_;
  std::array<AxisRow, axis_count> rows_{};
  PlainLabel *state_, *words_;
  StrayedPlot* plot_;
  QString told_;
  bool refusal_ = false, stale_ = false, watching_ = false;
  Newest looker_, layer_;  // last: they use the others
};

}  // namespace cinnabar
