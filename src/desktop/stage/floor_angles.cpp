// What the picture says of things on the floor: the family of angles of a place, in which whatever stands is seen
// mirrored there; and what has nothing to do in the picture.
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/edits/hand.h"
#include "cinnabar/desktop/stage/floor_view.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"

namespace cinnabar {

void FloorView::setAngles(std::vector<AngleFamily> families) {
  angles_ = std::move(families);
  update();
}

void FloorView::drawAngles(QPainter& p) {
  const Theme& t = theme();
  constexpr double far = 8.0;  // metres: out of the drawing
  for (const AngleFamily& family : angles_) {
    if (family.lines.empty()) {
      names_.push_back({tr("mirrors nothing there"), QRectF(onScreen(family.at) - QPointF(4, 4), QSizeF(8, 8)),
                        textFont(10, true), t.good});
      continue;
    }
    const auto lit = std::find_if(family.lines.begin(), family.lines.end(),
                                  [](const ThrownLine& line) { return line.lit_face; });
    const QColor ink = lit != family.lines.end() ? t.accent : t.good;
    std::vector<QPointF> ends{onScreen(family.at)};
    for (const ThrownLine& line : family.lines) ends.push_back(onScreen(line.line.from + line.line.along * far));
    QColor fill = ink;
    fill.setAlpha(t.dark ? 60 : 44);
    p.setPen(QPen(ink, 1, Qt::DotLine));
    p.setBrush(fill);
    drawShape(p, hullOf(std::move(ends)), rect());
    // The place's own line, to what it meets.
    const ThrownLine& own = lit != family.lines.end() ? *lit : family.lines.front();
    const Vec3 end = own.line.from + own.line.along * (own.met ? static_cast<double>(own.distance) : far);
    const auto seen =
        partSeen({onScreen(family.at), onScreen(end)}, QRectF(rect()).adjusted(ruler, ruler, -8, -30));
    if (!seen) continue;
    p.setPen(QPen(ink, 1.6));
    p.drawLine(*seen);
    p.setBrush(ink);
    p.drawEllipse(seen->p2(), 2.6, 2.6);
    const QString what = own.met ? nameOfMet(*session_, own.role, own.thing) : tr("nothing");
    names_.push_back(
        {tr("mirrors %1").arg(what), QRectF(seen->p2() - QPointF(4, 4), QSizeF(8, 8)), textFont(10, true), ink});
  }
}

void FloorView::setStrays(std::vector<StrayThing> strays) {
  strays_ = std::move(strays);
  update();
}

void FloorView::drawStrays(QPainter& p) {
  const Setup* setup = session_->setup();
  if (!setup) return;
  const Theme& t = theme();
  for (const StrayThing& stray : strays_) {
    const auto at = static_cast<std::size_t>(stray.thing);
    const auto [kind, count] = stray.role == Role::light  ? std::pair(Selection::Kind::light, setup->lights.size())
                               : stray.role == Role::card ? std::pair(Selection::Kind::card, setup->cards.size())
                               : stray.role == Role::gear ? std::pair(Selection::Kind::body, setup->gear.size())
                                                          : std::pair(Selection::Kind::none, std::size_t{0});
    if (stray.thing < 0 || at >= count) continue;
    const QPolygonF edge = outline({kind, at});
    p.setPen(QPen(t.accent, 1.8, Qt::DashDotLine));
    p.setBrush(Qt::NoBrush);
    drawShape(p, edge, rect());
    names_.push_back({tr("in the picture, %1 %").arg(q(number_text(100 * stray.share, 2))), edge.boundingRect(),
                      textFont(10), t.accent});
  }
}

}  // namespace cinnabar
