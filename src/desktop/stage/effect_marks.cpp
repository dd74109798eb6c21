// Practical effects on floor and ladder: a ring for every recorded frame of what falls, and the moments of each.
#include <algorithm>
#include <cmath>

#include "cinnabar/base/words.h"
#include "cinnabar/desktop/stage/floor_view.h"
#include "cinnabar/desktop/stage/ladder_view.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/forecast/levels/judgements.h"
#include "cinnabar/scene/effects_staged.h"

namespace cinnabar {

void FloorView::drawEffects(QPainter& p) {
  const Shot* shot = session_->shot();
  if (!shot || shot->effects.empty()) return;
  if (!effects_) effects_ = std::make_shared<const StagedEffects>(staged_effects(session_->project(), *shot));
  const Theme& t = theme();
  const double end = std::max(0.0, shot->set_time()), now = session_->setTime();
  const double rate =
      shot->camera ? shot_optics(session_->project(), *shot).rate : session_->project().timeline_rate;
  const QRectF seen = QRectF(rect()).adjusted(-20, -20, 20, 20);
  p.setBrush(Qt::NoBrush);
  constexpr int most_rings = 1200;
  for (const EffectOutcome& outcome : effects_->outcomes) {
    int bodies = 0;
    for (const EffectBody& body : outcome.bodies) {
      if (++bodies > 40) break;  // the drops of one splash look alike
      if (body.form == EffectForm::thread) {
        for (const EffectShape& s : body.at(now, now)) {
          QPolygonF line;
          for (const auto& [at, radius] : s.spine) line << onScreen(at);
          p.setPen(QPen(t.leaning, std::max(1.5, 2.0 * s.spine.front().second * scale_)));
          p.drawPolyline(line);
        }
        continue;
      }
      const double radius = std::max(1.5, largest(body.half) * scale_);
      const auto few = static_cast<double>(std::max<std::size_t>(1, body.at(now, now).size()));
      const double frames = std::floor(end * rate), step = std::max(1.0, std::ceil(frames * few / most_rings));
      p.setPen(QPen(t.quiet, 0.8));
      std::optional<QPointF> before;
      for (double k = 0; k <= frames; k += step)
        for (const EffectShape& s : body.at(k / rate, k / rate)) {
          const QPointF at = onScreen(s.place);
          if (!seen.contains(at) ||
              (few == 1.0 && before && std::hypot((at - *before).x(), (at - *before).y()) < 0.5))
            continue;
          before = at;
          p.drawEllipse(at, radius, radius);
        }
      p.setPen(QPen(t.accent, 1.4));
      for (const EffectShape& s : body.at(now, now))
        if (const QPointF at = onScreen(s.place); seen.contains(at)) p.drawEllipse(at, radius, radius);
    }
  }
}

void LadderView::paintEffects(QPainter& p) {
  const Shot* shot = session_->shot();
  if (shot->effects.empty()) return;
  const Theme& t = theme();
  const Project& project = session_->project();
  const double end = std::max(0.0, shot->set_time());
  for (const Effect& effect : shot->effects) {
    const auto outcome = outcome_of(project, *shot, effect);
    if (!outcome) continue;
    for (const EffectEvent& event : outcome->events) {
      if (event.at < 0.0 || event.at > end) continue;
      const bool timed = effect.needs && effect.needs->event == event.name;
      const QPointF on_set = onSetRail(event.at), on_screen = onScreenRail(shot->clock.screen_at(event.at));
      p.setPen(QPen(timed ? t.accent : t.ink, timed ? 2.0 : 1.2));
      p.drawLine(on_set - QPointF(0, timed ? 8 : 5), on_set);
      if (!timed) continue;
      p.drawLine(on_set, on_screen);
      if (event.span) {  // where nine takes in ten have it
        const double a = std::max(0.0, event.span->first), b = std::min(end, event.span->second);
        if (a < b) {
          p.setPen(QPen(t.accent, 3.0));
          p.drawLine(onSetRail(a) - QPointF(0, 3), onSetRail(b) - QPointF(0, 3));
        }
      }
      if (const auto wanted = wanted_on_screen(project, session_->shotIndex(), *effect.needs)) {
        const QPointF at = onScreenRail(*wanted);
        p.setPen(QPen(t.accent, 1.6));
        p.setBrush(t.panel);
        p.drawPolygon(QPolygonF{at + QPointF(-4, 9), at + QPointF(4, 9), at + QPointF(0, 2)});
      }
      const QString word = q(in_words(event.name.c_str()));
      const QRectF box(on_screen.x() + 6, on_screen.y() - 16,
                       QFontMetricsF(textFont(10)).horizontalAdvance(word) + 4, 13);
      p.fillRect(box, t.panel);  // clear of the rungs
      drawText(p, box.adjusted(2, 0, 2, 0), Qt::AlignLeft | Qt::AlignVCenter, word, textFont(10), t.accent);
    }
  }
}

}  // namespace cinnabar
