// The shot's moves as tapes for a hand: marks where the profile comes by as it is counted.
#pragma once
#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/planning/hand_moves.h"

namespace cinnabar {

class HandPanel : public Painted {
  Q_OBJECT
 public:
  HandPanel(Session* session, QWidget* parent);
  [[nodiscard]] std::vector<ToldPart> parts() const override;

 protected:
  void paintEvent(QPaintEvent*) override;
  void showEvent(QShowEvent*) override { refresh(); }
  void wheelEvent(QWheelEvent*) override;
  void keyPressEvent(QKeyEvent*) override;

 private:
  void refresh();
  void scrollTo(double top);
  [[nodiscard]] QRectF rowBox(std::size_t row) const;
  void paintRow(QPainter& painter, std::size_t row) const;

  Session* session_;
  /// A move and what is said of it, worked out where the shot changes.
  struct Row {
    HandMove move;
    std::vector<std::string> marks;  ///< a label each
    QStringList lines;               ///< under the tape
    [[nodiscard]] double high() const;
  };
  std::vector<Row> rows_;
  QString head_;
  double scroll_ = 0;  ///< pixels
};

}  // namespace cinnabar
