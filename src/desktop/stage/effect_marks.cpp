// Practical effects on floor and ladder: a ring for every recorded frame of what falls, and the moments of each.
#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/desktop/edits/hand.h"
#include "cinnabar/desktop/stage/floor_view.h"
#include "cinnabar/desktop/stage/ladder_view.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/effects_seen.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {

void FloorView::setEffects(const EffectsSeen* effects) {
  effects_ = effects;
  connect(effects, &EffectsSeen::workedOut, this, [this] { update(); });
}

void LadderView::setEffects(const EffectsSeen* effects) {
  effects_ = effects;
  connect(effects, &EffectsSeen::workedOut, this, [this] { update(); });
}

/// On their bench, where effects begin: a cross that is dragged.
void FloorView::drawReleases(QPainter& p) {
  const Shot* shot = session_->shot();
  if (!shot || bench_ != Bench::effects) return;
  const Theme& t = theme();
  for (std::size_t k = 0; k < shot->effects.size(); ++k) {
    const Selection one{Selection::Kind::effect, k};
    const bool chosen = session_->selection() == one;
    const QPointF at = handle(one);
    p.setPen(QPen(chosen ? t.accent : t.ink, chosen ? 2.0 : 1.4));
    p.setBrush(t.panel);
    p.drawEllipse(at, 5.5, 5.5);
    p.drawLine(at - QPointF(3, 0), at + QPointF(3, 0));
    p.drawLine(at - QPointF(0, 3), at + QPointF(0, 3));
    names_.push_back(
        {nameOf(*session_, one), outline(one).boundingRect(), textFont(10), chosen ? t.accent : t.quiet});
  }
}

void FloorView::drawEffects(QPainter& p) {
  const Shot* shot = session_->shot();
  if (!shot || !effects_) return;
  const Theme& t = theme();
  const double end = std::max(0.0, shot->set_time()), now = session_->setTime();
  const double rate =
      shot->camera ? shot_optics(session_->project(), *shot).rate : session_->project().timeline_rate;
  const QRectF seen = QRectF(rect()).adjusted(-20, -20, 20, 20);
  p.setBrush(Qt::NoBrush);
  constexpr int most_rings = 1200;
  for (const ToldEffect& told : effects_->list()) {
    if (!told.outcome) continue;
    int bodies = 0;
    for (const EffectBody& body : told.outcome->bodies) {
      if (++bodies > 40) break;  // the drops of one splash look alike
      if (body.form == EffectForm::thread) {
        for (const EffectShape& s : body.at(now, now)) {
          QPolygonF line;
          for (const auto& [at, radius] : s.spine) line << onScreen(at);
          p.setPen(QPen(t.leaning, std::max(1.5, 2.0 * reach_of(body, s) * scale_)));
          p.drawPolyline(line);
        }
        continue;
      }
      const auto ring = [&](const EffectShape& s) {
        const double radius = std::max(1.5, reach_of(body, s) * scale_);
        p.drawEllipse(onScreen(s.place), radius, radius);
      };
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
          ring(s);
        }
      p.setPen(QPen(t.accent, 1.4));
      for (const EffectShape& s : body.at(now, now))
        if (seen.contains(onScreen(s.place))) ring(s);
    }
  }
}

void LadderView::paintEffects(QPainter& p) {
  if (!effects_ || effects_->list().empty()) return;
  const Shot* shot = session_->shot();
  const Theme& t = theme();
  const double end = std::max(0.0, shot->set_time());
  for (const ToldEffect& told : effects_->list()) {
    if (!told.outcome) continue;
    const auto& needs = told.effect->needs;
    for (const EffectEvent& event : told.outcome->events) {
      if (event.at < 0.0 || event.at > end) continue;
      const bool timed = needs && needs->event == event.name;
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
      if (const auto wanted = wanted_on_screen(session_->project(), session_->shotIndex(), *needs)) {
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

std::optional<LadderView::Moment> LadderView::momentAt(const QPointF& at) const {
  const Shot* shot = session_->shot();
  if (!shot || !effects_ || session_->readOnly()) return std::nullopt;
  std::optional<Moment> best;
  double nearest = 6.0;
  const auto near = [&](const QPointF& place, const Moment& moment) {
    const QPointF d = place - at;
    if (std::abs(d.y()) < 6.0 && std::abs(d.x()) < nearest) nearest = std::abs(d.x()), best = moment;
  };
  const ToldEffects& list = effects_->list();
  for (std::size_t k = 0; k < list.size() && k < shot->effects.size(); ++k) {
    const auto& need = shot->effects[k].needs;
    const auto wanted = need ? wanted_on_screen(session_->project(), session_->shotIndex(), *need) : std::nullopt;
    if (wanted) near(onWanted(*wanted), {k, 0, true});
    if (!list[k].outcome) continue;
    const auto& events = list[k].outcome->events;
    for (std::size_t i = 0; i < events.size(); ++i)
      if (events[i].at >= 0.0 && events[i].at <= shot->set_time()) near(onMoment(events[i].at), {k, i, false});
  }
  return best;
}

/// What of the document the gripped moment is: when it is let go, or when it is wanted.
std::string LadderView::momentPath() const {
  const EffectNeed need = session_->shot()->effects[gripped_.effect].needs.value_or(EffectNeed{});
  return "/shots/" + std::to_string(session_->shotIndex()) + "/effects/" + std::to_string(gripped_.effect) +
         (!gripped_.wanted            ? "/at"
          : need.beat && !need.screen ? "/needs/beat"
                                      : "/needs/screen");
}

/// A moment as it comes takes its letting go along; one that is wanted goes to whole beats where it is told in
/// beats, else to kept frames.
void LadderView::moveMoment(double x) {
  const Shot* shot = session_->shot();
  if (!shot || gripped_.effect >= shot->effects.size()) return;
  const Project& project = session_->project();
  const double time = setTimeAt(x),
               screen = std::clamp((x - onScreenRail(0).x()) / scale(), 0.0, shot->screen_time),
               beats = project.beats_per_minute.value_or(0.0);
  const std::string path = momentPath();
  if (!gripped_.wanted)
    moment_ = rounded(std::clamp(time - letGoBefore_, 0.0, std::max(0.0, shot->set_time())), 4);
  else if (path.ends_with("/beat"))
    moment_ = std::max(0.0, std::round((project.starts_at(session_->shotIndex()) + screen) * beats / 60.0));
  else
    moment_ = std::round(screen * project.timeline_rate) / project.timeline_rate;
  session_->preview(Session::Values{{path, moment_}});
}

void LadderView::keepMoment() {
  const Shot* shot = session_->shot();
  if (!shot || gripped_.effect >= shot->effects.size()) return;
  const QString name = q(effect_name(shot->effects[gripped_.effect]));
  session_->keep(
      gripped_.wanted ? tr("%1 timed").arg(name) : tr("%1 let go at %2 s").arg(name, q(number_text(moment_, 4))),
      {{momentPath(), moment_}});
}

}  // namespace cinnabar
