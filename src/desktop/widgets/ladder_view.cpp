#include "cinnabar/desktop/widgets/ladder_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainterPath>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {
constexpr double left = 130, right = 230;
QString q(const std::string& s) { return QString::fromStdString(s); }

QString trackName(const Session& s, const std::string& target) {
  if (target == "turntable") return QObject::tr("Turntable");
  if (target == "camera.slide") return QObject::tr("Slider");
  if (target == "camera.pan") return QObject::tr("Pan");
  if (target == "camera.tilt") return QObject::tr("Camera tilt");
  if (target == "camera.focus") return QObject::tr("Focus");
  if (s.setup())
    for (const Light& l : s.setup()->lights)
      if (target.starts_with("light." + l.id + "."))
        return q(l.name) + (target.ends_with(".dimmer") ? QObject::tr(" dimmer") : QObject::tr(" turn"));
  return q(target);
}
QString trackValue(const Session& s, const std::string& target, double v) {
  if (target == "camera.slide" || target == "camera.focus") return q(length_text(v, s.units()));
  if (target.ends_with(".dimmer")) return q(fixed_text(v * 100, 0)) + " %";
  return q(fixed_text(v, 0)) + QChar(0x00B0);
}
}  // namespace

LadderView::LadderView(Session* session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("ladder");
  setAccessibleName(tr("Ladder"));
  setAccessibleDescription(tr("Left and right step by a kept frame, Home and End go to the ends"));
  setFocusPolicy(Qt::StrongFocus);
  connect(session_, &Session::changed, this, [this] { update(); });
  connect(session_, &Session::timeChanged, this, [this] { update(); });
}

double LadderView::scale() const {
  const Shot* s = session_->shot();
  const double longest = s ? std::max({s->screen_time, s->set_time(), 1e-3}) : 1.0;
  return (width() - left - right) / longest;
}
QPointF LadderView::onSetRail(double t) const { return {left + t * scale(), height() - 66.0}; }
QPointF LadderView::onScreenRail(double t) const { return {left + t * scale(), height() - 26.0}; }

void LadderView::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  drawPanel(p, rect());
  drawText(p, {10, 7, 80, 15}, Qt::AlignLeft | Qt::AlignVCenter, tr("Ladder"), textFont(11), t.quiet);
  const Shot* shot = session_->shot();
  if (!shot) return;
  const double end = std::max(0.0, shot->set_time()), timeline = session_->project().timeline_rate;
  const double rate = shot->camera ? shot_optics(session_->project(), *shot->camera).rate : timeline;
  const double y0 = onSetRail(0).y(), y1 = onScreenRail(0).y();

  // Tracks above the set rail.
  const int rows = static_cast<int>(shot->tracks.size());
  const double room = y0 - 22 - 8, rowHeight = rows ? std::min(20.0, room / rows) : 0;
  for (int k = 0; k < rows; ++k) {
    const KeyedTrack& track = shot->tracks[static_cast<std::size_t>(k)];
    const double top = 8 + k * rowHeight;
    const QRectF band(left, top, end * scale(), rowHeight - 4);
    p.fillRect(band, t.track);
    if (track.target == "turntable" && shot->facing) {  // when the label is asked to face
      const double a = shot->clock.set_at(shot->facing->at),
                   b = shot->clock.set_at(shot->facing->at + shot->facing->lasting);
      QColor good = t.good;
      good.setAlpha(90);
      p.fillRect(QRectF(onSetRail(a).x(), band.top(),
                        std::max(2.0, onSetRail(std::min(b, end)).x() - onSetRail(a).x()), band.height()),
                 good);
    }
    double low = 1e9, high = -1e9;
    for (const auto& [when, v] : track.keys) low = std::min(low, v), high = std::max(high, v);
    QPainterPath path;
    for (int i = 0; i <= 80; ++i) {
      const double when = end * i / 80, v = track.at(when);
      const QPointF at(onSetRail(when).x(),
                       band.bottom() - 1 - (high > low ? (v - low) / (high - low) : 0.5) * (band.height() - 3));
      i == 0 ? path.moveTo(at) : path.lineTo(at);
    }
    p.setPen(QPen(track.target == "turntable" ? t.accent : t.ink, 1.5));
    p.setBrush(Qt::NoBrush);
    p.drawPath(path);
    drawText(p, {10, top - 2, left - 18, rowHeight}, Qt::AlignRight | Qt::AlignVCenter,
             trackName(*session_, track.target), textFont(11), t.ink);
    QString note = track.keys.empty() ? tr("no keys")
                                      : tr("%1 to %2")
                                            .arg(trackValue(*session_, track.target, track.keys.front().second),
                                                 trackValue(*session_, track.target, track.keys.back().second));
    note += tr(", now %1").arg(trackValue(*session_, track.target, track.at(session_->setTime())));
    drawText(p, {band.right() + 8, top - 2, width() - band.right() - 16, rowHeight},
             Qt::AlignLeft | Qt::AlignVCenter, note, textFont(11), t.quiet);
  }

  // One rung per kept frame, and the rails.
  const long frames = std::lround(shot->screen_time * timeline);
  const long stride = std::max(1L, frames / 600);
  long last = -1;
  bool invented = false;
  for (long k = 0; k < frames; k += stride) {
    const double screen = static_cast<double>(k) / timeline;
    const long recorded = kept_frame(shot->clock, k, rate, timeline);
    invented = invented || recorded == last;
    last = recorded;
    const bool strong = k % std::lround(std::max(1.0, timeline / 4)) == 0;
    p.setPen(QPen(strong ? t.ink : t.line, strong ? 1.1 : 0.8));
    p.drawLine(onSetRail(static_cast<double>(recorded) / rate), onScreenRail(screen));
  }
  p.setPen(QPen(t.ink, 1.4));
  p.drawLine(onSetRail(0), onSetRail(end));
  p.drawLine(onScreenRail(0), onScreenRail(shot->screen_time));
  drawText(p, {10, y0 - 8, left - 18, 16}, Qt::AlignRight | Qt::AlignVCenter, tr("on set"), textFont(11), t.ink);
  drawText(p, {10, y1 - 8, left - 18, 16}, Qt::AlignRight | Qt::AlignVCenter, tr("on screen"), textFont(11),
           t.ink);
  const auto [fast, slow] = shot->clock.speed_span(0, end);
  const QString speed = std::abs(fast - slow) < 1e-6
                            ? q(number_text(fast * 100, 3)) + " %"
                            : q(number_text(fast * 100, 3)) + " % to " + q(number_text(slow * 100, 3)) + " %";
  drawText(p, {10, (y0 + y1) / 2 - 8, left - 18, 16}, Qt::AlignRight | Qt::AlignVCenter, speed, numberFont(11),
           invented ? t.accent : t.quiet);
  const double wanted = 70 / scale();
  double step = 0.1;
  for (const double s : {0.05, 0.1, 0.2, 0.25, 0.5, 1.0, 2.0, 5.0, 10.0, 30.0, 60.0})
    if (step = s; s >= wanted) break;
  for (double at = 0; at <= end + 1e-6; at += step)
    drawText(p, {onSetRail(at).x() - 2, y0 - 15, 50, 13}, Qt::AlignLeft | Qt::AlignVCenter,
             q(fixed_text(at, step < 0.1 ? 2 : 1)), numberFont(9.5), t.quiet);
  for (double at = 0; at <= shot->screen_time + 1e-6; at += step)
    drawText(p, {onScreenRail(at).x() - 2, y1 + 4, 60, 13}, Qt::AlignLeft | Qt::AlignVCenter,
             q(fixed_text(at, step < 0.1 ? 2 : 1)) + " s", numberFont(9.5), t.quiet);
  drawText(
      p, {onScreenRail(shot->screen_time).x() + 8, y1 - 8, width() - onScreenRail(shot->screen_time).x() - 14, 16},
      Qt::AlignLeft | Qt::AlignVCenter,
      invented ? tr("%1 shown, some invented").arg(frames)
               : tr("%1 frames, %2 a second on set").arg(frames).arg(q(number_text(rate, 5))),
      textFont(11), invented ? t.accent : t.quiet);

  // The cursor on both rails.
  const QPointF a = onSetRail(session_->setTime()), b = onScreenRail(shot->clock.screen_at(session_->setTime()));
  p.setPen(QPen(t.accent, 1.6));
  p.drawLine(QPointF(a.x(), 6), a);
  p.drawLine(a, b);
  p.setBrush(t.accent);
  p.drawEllipse(a, 3.6, 3.6);
  p.drawEllipse(b, 3.6, 3.6);
  if (hasFocus()) drawFocus(p, QRectF(rect()).adjusted(2, 2, -2, -2));
}

void LadderView::scrub(const QPointF& at) {
  if (!session_->shot()) return;
  const double time = (at.x() - left) / scale();
  session_->setSetTime(
      onLower_ ? session_->shot()->clock.set_at(std::clamp(time, 0.0, session_->shot()->screen_time)) : time);
}
void LadderView::mousePressEvent(QMouseEvent* event) {
  onLower_ = event->position().y() > (onSetRail(0).y() + onScreenRail(0).y()) / 2;
  scrub(event->position());
}
void LadderView::mouseMoveEvent(QMouseEvent* event) {
  if (event->buttons() & Qt::LeftButton) scrub(event->position());
}
void LadderView::keyPressEvent(QKeyEvent* event) {
  const Shot* shot = session_->shot();
  if (!shot) return QWidget::keyPressEvent(event);
  const double frame = 1.0 / session_->project().timeline_rate,
               screen = shot->clock.screen_at(session_->setTime());
  switch (event->key()) {
    case Qt::Key_Left:
      return session_->setSetTime(shot->clock.set_at(std::max(0.0, screen - frame)));
    case Qt::Key_Right:
      return session_->setSetTime(shot->clock.set_at(std::min(shot->screen_time, screen + frame)));
    case Qt::Key_Home:
      return session_->setSetTime(0);
    case Qt::Key_End:
      return session_->setSetTime(shot->set_time());
    default:
      return QWidget::keyPressEvent(event);
  }
}

}  // namespace cinnabar
