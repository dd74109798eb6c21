// The shot's move by a motion controller: joined, loaded, gone to its start, run and stopped; and how far from the
// plan it was, in pixels of the recording.
#pragma once
#include <QWidget>
#include <array>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/edits/session.h"
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
  struct AxisRow {
    QWidget* row;
    PlainLabel *name, *place;
    WordButton *less, *more;
  };
  [[nodiscard]] QWidget* axes();
  void lookAtShot();
  void refresh();
  void say(const QString& text, bool refusal);
  void load();
  void lay(const std::vector<ReportedPlaces>& reports);

  Session* session_;
  MotorLink link_;
  StrayedRun last_;
  Project loaded_of_;                  ///< the project as it was when its shot's program was loaded
  std::string program_, loaded_shot_;  ///< id of the shot whose program is loaded
  std::array<bool, axis_count> driven_{};
  QLineEdit* socket_;
  WordButton *join_, *load_, *start_, *run_, *stop_, *release_;
  NumberField *step_, *speed_;
  std::array<AxisRow, axis_count> rows_{};
  PlainLabel *state_, *words_;
  StrayedPlot* plot_;
  bool refused_ = false, changed_since_ = false;
  Newest worker_;  // last: it uses the others
};

}  // namespace cinnabar
