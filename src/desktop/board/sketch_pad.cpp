#include "cinnabar/desktop/board/sketch_pad.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <cmath>

#include "cinnabar/desktop/theme/theme.h"

namespace cinnabar {

void drawSketch(QPainter& p, const QRectF& box, const Sketch& sketch, const QColor& color, double weight) {
  p.save();
  p.setClipRect(box, Qt::IntersectClip);
  p.setBrush(Qt::NoBrush);
  p.setPen(QPen(color, weight, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
  for (const auto& stroke : sketch.strokes) {
    QPolygonF line;
    for (const auto& [x, y] : stroke) line << QPointF(box.left() + x * box.width(), box.top() + y * box.height());
    if (line.size() == 1)
      p.drawPoint(line.front());
    else
      p.drawPolyline(line);
  }
  p.restore();
}

SketchPad::SketchPad(Session* session, Foresight* foresight, QWidget* parent)
    : Painted("sketchPad", tr("Your sketch"),
              tr("Draw with the mouse or pen; Backspace takes the last stroke, Delete all of them, Space shows it "
                 "instead of the picture"),
              parent),
      session_(session),
      foresight_(foresight) {
  setToolTip(accessibleDescription());
  setCursor(Qt::CrossCursor);
  QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Fixed);
  policy.setHeightForWidth(true);
  setSizePolicy(policy);
  connect(session_, &Session::changed, this, [this] { update(); });
  connect(session_, &Session::shotChanged, this, [this] {
    stroke_.clear();
    update();
  });
  connect(foresight_, &Foresight::glances, this, [this] { update(); });
}

void SketchPad::keep(const Sketch& sketch, const QString& title) {
  const std::string pointer = "/shots/" + std::to_string(session_->shotIndex()) + "/sketch";
  if (sketch.strokes.empty()) {
    if (value_at(session_->document(), pointer)) session_->keep(title, {{pointer, std::nullopt}});
    return;
  }
  Json strokes = Json::array();
  for (const auto& stroke : sketch.strokes) {
    Json points = Json::array();
    for (const auto& [x, y] : stroke) points.push_back({std::round(x * 1e4) / 1e4, std::round(y * 1e4) / 1e4});
    strokes.push_back(std::move(points));
  }
  Json json{{"strokes", std::move(strokes)}};
  if (sketch.instead) json["instead"] = true;
  session_->keep(title, {{pointer, json}});
}

void SketchPad::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  const Shot* shot = session_->shot();
  p.fillRect(rect(), t.dark ? t.panel.lighter(125) : t.ground);
  if (!shot) return;
  if (const ShotGlance* glance = foresight_->glance(shot->id);
      glance && !glance->picture.isNull() && !shot->sketch.instead) {
    p.setOpacity(0.45);  // so that the pen stands out
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(rect(), glance->picture);
    p.setOpacity(1.0);
  }
  Sketch all = shot->sketch;
  if (!stroke_.empty()) all.strokes.push_back(stroke_);
  drawSketch(p, rect(), all, t.accent, 1.8);
  if (all.strokes.empty())
    drawText(p, QRectF(rect()).adjusted(8, 4, -8, -4), Qt::AlignLeft | Qt::AlignTop, tr("draw here"), textFont(11),
             t.quiet);
  if (hasFocus()) drawFocus(p, QRectF(rect()).adjusted(2, 2, -2, -2));
}

void SketchPad::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton || !session_->shot() || session_->readOnly()) return;
  stroke_ = {{event->position().x() / width(), event->position().y() / height()}};
}
void SketchPad::mouseMoveEvent(QMouseEvent* event) {
  if (stroke_.empty() || !(event->buttons() & Qt::LeftButton)) return;
  const double x = event->position().x() / width(), y = event->position().y() / height();
  if (std::hypot((x - stroke_.back().first) * width(), (y - stroke_.back().second) * height()) < 1.5 ||
      stroke_.size() > 5000)
    return;
  stroke_.emplace_back(std::clamp(x, -0.2, 1.2), std::clamp(y, -0.2, 1.2));
  update();
}
void SketchPad::mouseReleaseEvent(QMouseEvent*) {
  if (stroke_.empty() || !session_->shot()) return;
  Sketch sketch = session_->shot()->sketch;
  sketch.strokes.push_back(std::exchange(stroke_, {}));
  keep(sketch, tr("Sketched"));
}
void SketchPad::keyPressEvent(QKeyEvent* event) {
  const Shot* shot = session_->shot();
  if (!shot || shot->sketch.strokes.empty() || session_->readOnly()) return QWidget::keyPressEvent(event);
  Sketch sketch = shot->sketch;
  switch (event->key()) {
    case Qt::Key_Backspace:
      sketch.strokes.pop_back();
      return keep(sketch, tr("Last stroke taken back"));
    case Qt::Key_Delete:
      sketch.strokes.clear();
      return keep(sketch, tr("Sketch wiped"));
    case Qt::Key_Space:
      sketch.instead = !sketch.instead;
      return keep(sketch, sketch.instead ? tr("Sketch instead of the picture") : tr("Sketch over the picture"));
    default:
      return QWidget::keyPressEvent(event);
  }
}

}  // namespace cinnabar
