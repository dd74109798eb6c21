// A level as a vial: a bubble between two lines.
#pragma once
#include <QAbstractButton>
#include <QPainter>

#include "cinnabar/base/text.h"
#include "cinnabar/forecast/level.h"

namespace cinnabar {

/// One level as a vial: the two lines are the wanted band, the bubble sits where the prediction is; what is not
/// yet sure is drawn as a hollow span. A small one shows its name and its tube, and its number while it is pointed
/// at.
class Vial : public QAbstractButton {
  Q_OBJECT
 public:
  explicit Vial(QWidget* parent = nullptr);
  void show(const Level& level, Units units);
  [[nodiscard]] const Level& level() const { return level_; }
  QSize sizeHint() const override { return {240, 34}; }
  /// Full where `height` is 34.
  void setTall(int height);

 protected:
  void paintEvent(QPaintEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void enterEvent(QEnterEvent*) override { update(); }
  void leaveEvent(QEvent*) override { update(); }

 private:
  void paintSmall(QPainter& painter);
  Level level_;
};

/// Draws only the tube, lines and bubble.
/// `was` is where its bubble stood before, drawn hollow.
void drawVial(QPainter& painter, const QRectF& box, const Level& level, const std::optional<double>& was = {});
[[nodiscard]] QString valueText(const Level& level);
/// "leaning", as it is said.
[[nodiscard]] QString stateWord(State state);

}  // namespace cinnabar
