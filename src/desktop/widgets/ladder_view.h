// The ladder: tracks over set time, the set rail and the screen rail, and a rung for every kept frame between
// them.
#pragma once
#include <QWidget>

#include "cinnabar/desktop/edits/session.h"

namespace cinnabar {

class LadderView : public QWidget {
  Q_OBJECT
 public:
  explicit LadderView(Session* session, QWidget* parent = nullptr);
  QSize sizeHint() const override { return {1240, 160}; }
  /// Where a set time stands on the upper rail and a screen time on the lower.
  [[nodiscard]] QPointF onSetRail(double setTime) const;
  [[nodiscard]] QPointF onScreenRail(double screenTime) const;

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void focusInEvent(QFocusEvent*) override { update(); }
  void focusOutEvent(QFocusEvent*) override { update(); }

 private:
  [[nodiscard]] double scale() const;  ///< pixels per second, the same on both rails
  void scrub(const QPointF& at);
  Session* session_;
  bool onLower_ = false;
};

}  // namespace cinnabar
