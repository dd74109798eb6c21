// A sheet to sketch a shot on with the pen: strokes kept as vectors, over the predicted picture or instead of it.
#pragma once
#include <QWidget>

#include "cinnabar/desktop/controls/painted.h"
#include "cinnabar/desktop/edits/session.h"
#include "cinnabar/desktop/workers/foresight.h"

class QPainter;

namespace cinnabar {

class SketchPad : public Painted {
  Q_OBJECT
 public:
  SketchPad(Session* session, Foresight* foresight, QWidget* parent = nullptr);
  QSize sizeHint() const override { return {256, 144}; }
  int heightForWidth(int width) const override { return width * 9 / 16; }
  bool hasHeightForWidth() const override { return true; }

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;

 private:
  void keep(const Sketch& sketch, const QString& title);
  Session* session_;
  Foresight* foresight_;
  std::vector<std::pair<double, double>> stroke_;
};

/// Draws a sketch in a box, in the pen's colour; lines keep their weight whatever the size.
void drawSketch(QPainter& painter, const QRectF& box, const Sketch& sketch, const QColor& color, double weight);

}  // namespace cinnabar
