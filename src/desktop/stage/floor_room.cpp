// What stands about the set on the floor: lights and cards, the room's walls and windows, where the sun falls in,
// and bodies.
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/stage/floor_view.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/planning/set_things.h"
#include "cinnabar/project/model/windows.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {

using Kind = Selection::Kind;

/// Along the upper and the left edge, from the set's origin on: what lies right and toward the camera in plan,
/// heights in the other views.
void FloorView::drawRulers(QPainter& p) {
  const Theme& t = theme();
  const bool imperial = session_->units() == Units::imperial;
  double apart = imperial ? 0.0254 : 0.02;  // of those that are named
  for (const double longer : imperial ? std::vector<double>{0.0762, 0.1524, 0.3048, 0.6096, 1.524, 3.048}
                                      : std::vector<double>{0.05, 0.1, 0.2, 0.5, 1.0, 2.0, 5.0})
    if (apart * scale_ < 62) apart = longer;
  const auto buttons = findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly);
  const auto lies_free = [this, &buttons](const QRectF& box) {
    return box.bottom() < height() - 46 && !box.intersects(lensList_) && !box.intersects(unheldSaid_) &&
           std::none_of(buttons.begin(), buttons.end(), [&box](const QWidget* part) {
             return part->isVisible() && box.intersects(QRectF(part->geometry()).adjusted(-6, -2, 6, 2));
           });
  };
  const auto named = [this, apart](double at) {
    const QString text = session_->units() == Units::imperial
                             ? QString::fromStdString(length_text(std::abs(at), Units::imperial))
                             : QString::fromStdString(number_text(std::abs(at), 2)) + QStringLiteral(" m");
    return std::abs(at) < 0.01 * apart ? QStringLiteral("0") : at < 0 ? QChar(0x2212) + text : text;
  };
  const Vec3 corner = onFloor({0, 0}),
             other = onFloor({static_cast<double>(width()), static_cast<double>(height())});
  constexpr int parts = 5;
  const auto along = [&](const Vec3& axis, bool down) {
    const double from = dot(corner, axis), to = dot(other, axis), step = apart / parts;
    for (double k = std::ceil(from / step); k * step < to; k += 1) {
      const QPointF on = onScreen(axis * (k * step));
      const double at = down ? on.y() : on.x();
      const bool whole = std::remainder(k, parts) == 0.0;
      if (at < ruler) continue;
      p.setPen(QPen(t.quiet, 1));
      const double tall = whole ? 7 : 3;
      p.drawLine(down ? QPointF(1, at) : QPointF(at, 1), down ? QPointF(1 + tall, at) : QPointF(at, 1 + tall));
      if (!whole) continue;
      const QString text = named(k * step * (down && view_ != View::plan ? -1.0 : 1.0));
      const QFont font = numberFont(8);
      const double wide = QFontMetricsF(font).horizontalAdvance(text) + 2;
      const QRectF box = down ? QRectF(10, at - 6, wide, 12) : QRectF(at - wide / 2, 7, wide, 12);
      if (box.right() < width() - 4 && lies_free(box))
        drawText(p, box, Qt::AlignLeft | Qt::AlignVCenter, text, font, t.quiet);
    }
  };
  p.setRenderHint(QPainter::Antialiasing, false);
  along(axisRight(), false), along(axisDown(), true);
  p.setRenderHint(QPainter::Antialiasing);
}

QPolygonF FloorView::lightOutline(const Light& l) const {
  const Facing f = facing(l.place, l.aim, l.roll_deg);
  if (l.shape == LightShape::rectangle) return sheet(l.place, f, l.width, l.height, 0.03);
  if (l.shape == LightShape::tube) return sheet(l.place, f, 2 * l.radius, l.length, 0.02);
  if (l.shape == LightShape::disc) return sheet(l.place, f, 2 * l.radius, 2 * l.radius, 0.04);
  if (l.shape == LightShape::dome) {
    std::vector<QPointF> points;
    for (int k = 0; k < 24; ++k)
      for (const double rise : {0.0, 30.0, 60.0, 90.0}) {
        const double a = radians(rise), round = radians(15.0 * k);
        points.push_back(
            onScreen(l.place + f.ahead * (l.radius * std::sin(a)) +
                     (f.right * std::cos(round) + f.up * std::sin(round)) * (l.radius * std::cos(a))));
      }
    return hullOf(std::move(points));
  }
  QPolygonF ball;
  const double r = std::max(5.0, l.radius * scale_);
  for (int k = 0; k < 40; ++k)
    ball << onScreen(l.place) + QPointF(r * std::cos(k * pi / 20), r * std::sin(k * pi / 20));
  return ball;
}
QPolygonF FloorView::cardOutline(const Card& c) const {
  return sheet(c.place, facing(c.place, c.aim, c.roll_deg), c.width, c.height, 0.012);
}

QPolygonF FloorView::roomOutline() const {
  const Room& room = session_->setup()->room;
  if (!room.has_walls()) return {};
  const Vec3 low = room.place - Vec3{*room.width / 2, 0, *room.depth / 2},
             high = room.place + Vec3{*room.width / 2, *room.height, *room.depth / 2};
  const QPointF a = onScreen(low), b = onScreen(high);
  const QRectF box = QRectF(a, b).normalized();
  return QPolygonF{box.topLeft(), box.topRight(), box.bottomRight(), box.bottomLeft()};
}

void FloorView::drawRoom(QPainter& p) {
  const Theme& t = theme();
  const Setup& setup = *session_->setup();
  const bool chosen = session_->selection().kind == Kind::room;
  p.setPen(QPen(chosen ? t.accent : t.quiet, 2.0));
  p.setBrush(Qt::NoBrush);
  drawShape(p, roomOutline(), rect());
  for (std::size_t i = 0; i < setup.lights.size(); ++i) {
    const Light& light = setup.lights[i];
    if (!light.window) continue;
    const bool held = session_->selection() == Selection{Kind::light, i};
    const QColor ink = held ? t.accent : light.on ? t.good : t.quiet;
    const Facing f = facing(light.place, light.aim);
    const Vec3 across = f.right * (light.width / 2), up = f.up * (light.height / 2);
    if (light.beam) {
      if (!light.on) continue;
      // From the pane's middle to where it falls on the level of the surface, or as far as the floor shows.
      const Vec3 down = -*light.beam;
      const double far = down.y < -1e-3 && light.place.y > 0 ? light.place.y / -down.y : 3.0;
      const QPointF from = onScreen(light.place), to = onScreen(light.place + down * std::min(far, 6.0));
      p.setPen(QPen(held ? t.accent : t.leaning, 1.2, Qt::DashDotLine));
      if (const auto line = partSeen({from, to}, rect())) p.drawLine(*line);
      p.drawEllipse(to, 3.5, 3.5);
      names_.push_back({nameOf(*session_, {Kind::light, i}), QRectF(to - QPointF(4, 4), QSizeF(8, 8)),
                        textFont(10), held ? t.accent : t.quiet});
      continue;
    }
    QPolygonF pane;
    for (const Vec3& corner : {-across - up, across - up, across + up, up - across})
      pane << onScreen(light.place + corner);
    p.setPen(QPen(ink, 5.0, Qt::SolidLine, Qt::FlatCap));
    p.setBrush(Qt::NoBrush);
    drawShape(p, pane, rect());
    // Seen from above it is a line: its name needs some room beside it.
    const QRectF seen = pane.boundingRect().adjusted(-3, -3, 3, 3);
    if (seen.intersects(QRectF(rect())))
      names_.push_back({nameOf(*session_, {Kind::light, i}), seen, textFont(10), held ? t.accent : t.quiet});
  }
}

QPolygonF FloorView::bodyOutline(const Gear& body) const {
  const auto at = [&](double x, double z) {
    return onScreen(body.place + turned({x * body.size.x / 2, 0, z * body.size.z / 2}, body.turn_deg));
  };
  constexpr int steps = 48;
  QPolygonF edge;
  if (body.form != GearForm::round)
    for (const auto& [x, z] : {std::pair{-1.0, -1.0}, {1.0, -1.0}, {1.0, 1.0}, {-1.0, 1.0}}) edge << at(x, z);
  else
    for (int k = 0; k < steps; ++k) edge << at(std::cos(2 * pi * k / steps), std::sin(2 * pi * k / steps));
  if (view_ == View::plan) return edge;
  const QRectF foot = edge.boundingRect();
  const double up = onScreen(body.place).y() - onScreen(body.place + Vec3{0, body.size.y, 0}).y();
  return QPolygonF(QRectF(foot.left(), foot.top() - up, foot.width(), up));
}

void FloorView::drawBodies(QPainter& p) {
  const Setup* setup = session_->setup();
  if (!setup) return;
  const Theme& t = theme();
  for (std::size_t i = 0; i < setup->gear.size(); ++i) {
    const Selection body{Kind::body, i};
    const bool chosen = session_->selection() == body;
    // What is of the picture has a plain edge, what is not a dashed one.
    p.setPen(QPen(chosen ? t.accent : t.ink, 1.2, setup->gear[i].dressed ? Qt::SolidLine : Qt::DashLine));
    QColor fill = setup->gear[i].dressed ? t.panel : t.quiet;
    fill.setAlpha(setup->gear[i].dressed ? 200 : 60);
    p.setBrush(fill);
    const QPolygonF edge = outline(body);
    drawShape(p, edge, rect());
    names_.push_back({nameOf(*session_, body), edge.boundingRect(), textFont(10), chosen ? t.accent : t.quiet});
  }
}

}  // namespace cinnabar
