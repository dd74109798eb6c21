#include "cinnabar/desktop/begin/form_tile.h"

#include <QPainter>

#include "cinnabar/desktop/theme/theme.h"

namespace cinnabar {

std::vector<QPolygonF> front_outlines(const Json& product) {
  std::vector<QPolygonF> list;
  if (!product.contains("parts")) return list;
  for (const Json& part : product["parts"]) {
    if (!part.contains("profile")) continue;
    QPolygonF right, left;
    for (const Json& point : part["profile"]) {
      const double half = point.at(0).get<double>(), up = point.at(1).get<double>(),
                   shift = point.size() > 3 ? point.at(3).get<double>() : 0.0;
      right << QPointF(shift + half, up);
      left.prepend(QPointF(shift - half, up));
    }
    list.push_back(right + left);
  }
  return list;
}

FormTile::FormTile(const QString& name, std::vector<QPolygonF> outlines, QWidget* parent)
    : QAbstractButton(parent), outlines_(std::move(outlines)) {
  setText(name);
  setAccessibleName(name);
  setCheckable(true);
  setFocusPolicy(Qt::StrongFocus);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
  setMinimumSize(44, 72);
}

void FormTile::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  const QRectF box = QRectF(rect()).adjusted(1, 1, -1, -1);
  if (isChecked() || underMouse()) {
    p.setPen(QPen(isChecked() ? t.accent : t.line, isChecked() ? 2 : 1));
    p.setBrush(isChecked() ? (t.dark ? t.panel.lighter(118) : t.ground) : Qt::transparent);
    p.drawRoundedRect(box, 3, 3);
  }
  QRectF all;
  for (const QPolygonF& o : outlines_) all = all.united(o.boundingRect());
  const QRectF room(box.left() + 7, box.top() + 8, box.width() - 14, box.height() - 32);
  if (all.width() > 0 && all.height() > 0 && room.height() > 8) {
    const double scale = std::min(room.width() / all.width(), room.height() / all.height());
    p.setPen(QPen(isChecked() ? t.ink : t.quiet, 1.3));
    p.setBrush(isChecked() ? t.lightFill : t.track);
    for (const QPolygonF& o : outlines_) {
      QPolygonF drawn;
      for (const QPointF& point : o)
        drawn << QPointF(room.center().x() + (point.x() - all.center().x()) * scale,
                         room.bottom() - (point.y() - all.top()) * scale);
      p.drawPolygon(drawn);
    }
  }
  drawText(p, {box.left() + 1, box.bottom() - 21, box.width() - 2, 18}, Qt::AlignCenter, text(),
           textFont(11.5, isChecked()), isChecked() ? t.accent : t.ink);
  if (hasFocus()) drawFocus(p, box.adjusted(2, 2, -2, -2));
}

}  // namespace cinnabar
