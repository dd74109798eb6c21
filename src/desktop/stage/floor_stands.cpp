// What holds lights and cards up: stands, arms over the surface, and how far they reach.
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/desktop/stage/floor_view.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/planning/heads.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {

/// As they stand at the shown moment.
std::vector<Head> FloorView::heads() const {
  const Setup* s = session_->setup();
  if (!s || !session_->shot()) return {};
  return heads_of(lights_and_cards_at(*s, *session_->shot(), session_->setTime()));
}

void FloorView::drawStands(QPainter& p) {
  unheldSaid_ = {};
  const std::vector<Head> all = heads();
  if (all.empty()) return;
  const Theme& t = theme();
  const auto holders = holders_of(session_->project());
  const auto on = held_on(all, holders);
  const bool arms = has_arms(holders);
  const bool plan = view_ == View::plan;
  const auto line = [&p, this](const QPointF& from, const QPointF& to) {
    if (const auto seen = partSeen({from, to}, rect())) p.drawLine(*seen);
  };
  const auto unheld_heads = holders.empty() ? 0 : std::count(on.begin(), on.end(), nullptr);
  constexpr int few = 3;  // that are told one by one
  if (unheld_heads > few) {
    const QString words = tr("%1 of %2 have no stand or arm").arg(unheld_heads).arg(all.size());
    unheldSaid_ = {ruler + 6, ruler + 2, QFontMetricsF(textFont(10)).horizontalAdvance(words) + 4, 15};
    drawText(p, unheldSaid_, Qt::AlignLeft | Qt::AlignVCenter, words, textFont(10), t.accent);
  }
  const double lowest = height() - 46.0;  // over the floor's own name and its buttons
  for (std::size_t k = 0; k < all.size(); ++k) {
    const Head& head = all[k];
    const bool chosen = session_->selection() == head.thing;
    const bool unheld = !holders.empty() && !on[k];
    // What hangs where the kit knows of no arm stands on the surface.
    const bool arm = head.hangs && (on[k] ? on[k]->kind == SupportKind::arm : arms);
    const Vec3 stands_at = arm ? head.foot : Vec3{head.place.x, head.hangs ? 0.0 : head.foot.y, head.place.z};
    const QPointF at = onScreen(head.place), foot = onScreen(stands_at),
                  over = onScreen({stands_at.x, head.place.y, stands_at.z});
    p.setPen(QPen(unheld || chosen ? t.accent : t.line, 2));
    p.setBrush(Qt::NoBrush);
    if (arm) line(over, at);
    if (plan) {
      if (arm) p.drawRect(QRectF(foot - QPointF(3, 3), QSizeF(6, 6)));
    } else {  // down to the floor, or out of the drawing
      const QPointF down(over.x(), std::max(over.y(), std::min(foot.y(), lowest)));
      line(over, down);
      if (foot.y() <= lowest) line(down - QPointF(9, 0), down + QPointF(9, 0));
    }
    const QRectF beside(at - QPointF(5, 5), QSizeF(10, 10));
    if (unheld && (unheld_heads <= few || chosen))
      names_.push_back({q(why_unheld(head, holders, session_->units())), beside, textFont(10), t.accent});
    if (!chosen || !on[k]) continue;
    p.setPen(QPen(t.accent, 1, Qt::DashLine));
    const QString name = q(name_or(on[k]->name, on[k]->id));
    if (!plan && on[k]->reach && *on[k]->reach > head.place.y) {
      const QPointF top = onScreen({stands_at.x, *on[k]->reach, stands_at.z});
      line(over, top);
      line(top - QPointF(9, 0), top + QPointF(9, 0));
      const double seen = std::max(top.y(), ruler + 4);
      names_.push_back({tr("%1, up to %2").arg(name, q(length_text(*on[k]->reach, session_->units()))),
                        QRectF(top.x() - 9, seen - 2, 18, 4), textFont(10), t.accent});
    }
    if (arm && on[k]->length) {
      const double r = *on[k]->length * scale_;
      if (view_ == View::front) line(over - QPointF(r, 0), over + QPointF(r, 0));
      if (!plan) continue;
      QPolygonF round;
      for (int step = 0; step < 72; ++step)
        round << foot + QPointF(r * std::cos(step * pi / 36), r * std::sin(step * pi / 36));
      drawShape(p, round, rect());
      names_.push_back({tr("%1, %2 out").arg(name, q(length_text(*on[k]->length, session_->units()))),
                        QRectF(foot - QPointF(4, 4), QSizeF(8, 8)), textFont(10), t.accent});
    }
  }
}

}  // namespace cinnabar
