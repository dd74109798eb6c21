#include "cinnabar/desktop/stage/spot_strip.h"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QToolTip>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"

namespace cinnabar {
namespace {
constexpr double stripLeft = 141, stripRight = 20, stripTop = 8, boxHeight = 44, gap = 2;
}

SpotStrip::SpotStrip(Session* session, Foresight* foresight, QWidget* parent)
    : Painted("spot", tr("The spot"),
              tr("Left and right choose a shot, Control with them moves it, plus and minus change its length by a "
                 "frame"),
              parent),
      session_(session),
      foresight_(foresight) {
  setMouseTracking(true);
  setFixedHeight(74);
  connect(session_, &Session::changed, this, [this] { update(); });
  connect(foresight_, &Foresight::glances, this, [this] { update(); });
  connect(session_, &Session::shotChanged, this, [this] { tellChosenPart(); });
}

std::vector<ToldPart> SpotStrip::parts() const {
  std::vector<ToldPart> list;
  const auto& shots = session_->project().shots;
  for (std::size_t i = 0; i < shots.size(); ++i) {
    const ShotGlance* g = foresight_->glance(shots[i]->id);
    list.push_back({tr("Shot %1: %2").arg(i + 1).arg(q(shots[i]->name)),
                    tr("%1 s").arg(q(fixed_text(shots[i]->screen_time, 2))) +
                        (g && g->known ? tr(", %1 level, %2 leaning, %3 out")
                                             .arg(g->counts.level)
                                             .arg(g->counts.leaning)
                                             .arg(g->counts.out)
                                       : QString()),
                    box(i).toRect(), i == session_->shotIndex()});
  }
  return list;
}

double SpotStrip::scale() const {
  const Project& p = session_->project();
  const double seconds = std::max({p.allowed_time.value_or(0.0), p.screen_time(), 1.0});
  return (width() - stripLeft - stripRight) / seconds;
}

QRectF SpotStrip::box(std::size_t shot) const {
  const double s = drag_ == Drag::edge ? scaleAtPress_ : scale();
  const Project& p = session_->project();
  const double x = stripLeft + p.starts_at(shot) * s, w = p.shots[shot]->screen_time * s;
  return {x, stripTop, std::max(6.0, w - gap), boxHeight};
}

std::optional<std::size_t> SpotStrip::shotAt(const QPointF& at) const {
  for (std::size_t i = 0; i < session_->project().shots.size(); ++i)
    if (box(i).adjusted(-1, 0, 1, 0).contains(at)) return i;
  return std::nullopt;
}
std::optional<std::size_t> SpotStrip::edgeAt(const QPointF& at) const {
  for (std::size_t i = 0; i < session_->project().shots.size(); ++i)
    if (std::abs(at.x() - box(i).right()) < 5 && at.y() > stripTop && at.y() < stripTop + boxHeight) return i;
  return std::nullopt;
}

double SpotStrip::snapped(std::size_t shot, double screenTime) const {
  const Project& p = session_->project();
  const double frame = 1.0 / p.timeline_rate;
  double length = std::max(frame, std::round(screenTime / frame) * frame);
  if (p.beats_per_minute) {
    const double beat = 60.0 / *p.beats_per_minute, start = p.starts_at(shot), end = start + screenTime;
    const double nearest = std::round(end / beat) * beat;
    if (std::abs(nearest - end) * scaleAtPress_ < 7 && nearest - start > frame) length = nearest - start;
  }
  return std::round(length * 1e6) / 1e6;
}

/// Longer than it may be.
bool SpotStrip::over() const {
  const Project& project = session_->project();
  return project.allowed_time && project.screen_time() > *project.allowed_time + 1e-6;
}

void SpotStrip::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  paintLength(p);
  if (session_->project().shots.empty())
    drawText(p, {stripLeft, stripTop, width() - stripLeft - stripRight, boxHeight},
             Qt::AlignLeft | Qt::AlignVCenter, tr("No shots yet. Press \"+ shot\" on the Stage to add the first."),
             textFont(12), t.quiet);
  for (std::size_t i = 0; i < session_->project().shots.size(); ++i) paintShot(p, i);
  paintBeats(p);
  if (hasFocus()) drawFocus(p, QRectF(stripLeft - 4, 3, width() - stripLeft - stripRight + 8, 52));
  p.setPen(QPen(t.line, 1));
  p.drawLine(QPointF(0, height() - 0.5), QPointF(width(), height() - 0.5));
}

void SpotStrip::paintLength(QPainter& p) const {
  const Theme& t = theme();
  const Project& project = session_->project();
  drawText(p, {20, 10, 116, 14}, Qt::AlignLeft | Qt::AlignVCenter, tr("The spot"), textFont(11), t.quiet);
  const QString length = project.allowed_time
                             ? tr("%1 of %2 s")
                                   .arg(QString::fromStdString(fixed_text(project.screen_time(), 1)),
                                        QString::fromStdString(number_text(*project.allowed_time)))
                             : tr("%1 s").arg(QString::fromStdString(fixed_text(project.screen_time(), 1)));
  drawText(p, {20, 24, 118, 18}, Qt::AlignLeft | Qt::AlignVCenter, length, numberFont(13),
           over() ? t.accent : t.ink);
  if (project.beats_per_minute)
    drawText(p, {20, 43, 118, 14}, Qt::AlignLeft | Qt::AlignVCenter,
             tr("%1 bpm, %2 beats")
                 .arg(QString::fromStdString(number_text(*project.beats_per_minute)),
                      QString::number(std::lround(project.screen_time() * *project.beats_per_minute / 60))),
             textFont(11), t.quiet);
}

void SpotStrip::paintShot(QPainter& p, std::size_t i) const {
  const Theme& t = theme();
  const Project& project = session_->project();
  QRectF b = box(i);
  if (drag_ == Drag::order && i == dragged_) b.translate(orderX_ - pressed_.x(), 0);
  const bool chosen = i == session_->shotIndex();
  p.setPen(QPen(chosen ? t.accent : t.line, chosen ? 2 : 1));
  p.setBrush(t.panel);
  p.drawRoundedRect(b.adjusted(0.5, 0.5, -0.5, -0.5), 2, 2);
  const ShotGlance* glance = foresight_->glance(project.shots[i]->id);
  double x = b.left() + 4;
  if (b.width() > 74) {
    const QRectF pic(x, b.top() + 4, 36, 36);
    p.fillRect(pic, QColor("#14100e"));
    if (glance && !glance->picture.isNull()) {
      const QImage& image = glance->picture;
      const double side = image.height();
      p.drawImage(pic, image, QRectF((image.width() - side) / 2, 0, side, side));
    }
    x = pic.right() + 5;
  }
  const double room = b.right() - x - 4;
  if (room > 8) {
    drawText(p, {x, b.top() + 6, 13, 15}, Qt::AlignLeft | Qt::AlignVCenter, QString::number(i + 1),
             numberFont(12, true), chosen ? t.accent : t.ink);
    const int dots = glance ? glance->counts.out + glance->counts.leaning : 0;
    const double dotRoom = room > 44 ? std::min(dots, 4) * 8.0 : 0;
    if (room > 30)
      drawText(p, {x + 13, b.top() + 6, room - 14 - dotRoom, 15}, Qt::AlignLeft | Qt::AlignVCenter,
               QString::fromStdString(project.shots[i]->name), textFont(10.5), t.ink);
    drawText(p, {x, b.top() + 24, room, 14}, Qt::AlignLeft | Qt::AlignVCenter,
             tr("%1 s").arg(QString::fromStdString(fixed_text(project.shots[i]->screen_time, 1))),
             numberFont(10.5), t.quiet);
    for (int d = 0; d < std::min(dots, 4) && dotRoom > 0; ++d) {  // out: a full dot; leaning: a ring
      const QPointF c(b.right() - 8 - 8.0 * d, b.top() + 13);
      p.setPen(QPen(d < glance->counts.out ? t.accent : t.leaning, 1.4));
      p.setBrush(d < glance->counts.out ? QBrush(t.accent) : Qt::NoBrush);
      p.drawEllipse(c, 2.6, 2.6);
    }
  }
}

/// The music's beats; every fourth a long tick. And where the spot has to end.
void SpotStrip::paintBeats(QPainter& p) const {
  const Theme& t = theme();
  const Project& project = session_->project();
  const double y = stripTop + boxHeight + 4, s = scale();
  if (project.beats_per_minute) {
    const double beat = 60.0 / *project.beats_per_minute,
                 span = std::max(project.allowed_time.value_or(0), project.screen_time());
    p.setPen(QPen(t.line, 1));
    p.drawLine(QPointF(stripLeft, y), QPointF(stripLeft + span * s, y));
    for (int k = 0; k * beat <= span + 1e-6 && k < 4000; ++k) {
      const double x = stripLeft + k * beat * s;
      p.setPen(QPen(k % 4 ? t.quiet : t.ink, k % 4 ? 1 : 1.6));
      p.drawLine(QPointF(x, y), QPointF(x, y + (k % 4 ? 4 : 8)));
    }
  }
  if (project.allowed_time) {
    const double x = stripLeft + *project.allowed_time * s;
    p.setPen(QPen(over() ? t.accent : t.ink, 1.6));
    p.drawLine(QPointF(x - 0.8, y - 2), QPointF(x - 0.8, y + 8));
  }
}

void SpotStrip::mousePressEvent(QMouseEvent* event) {
  pressed_ = event->position();
  scaleAtPress_ = scale();
  if (const auto edge = edgeAt(pressed_)) {
    drag_ = Drag::edge;
    dragged_ = *edge;
    lengthNow_ = session_->project().shots[*edge]->screen_time;
    grabOffset_ = pressed_.x() - box(*edge).right();
    session_->selectShot(*edge);
  } else if (const auto shot = shotAt(pressed_)) {
    session_->selectShot(*shot);
    dragged_ = *shot;
    orderX_ = pressed_.x();
  }
}

void SpotStrip::mouseMoveEvent(QMouseEvent* event) {
  const QPointF at = event->position();
  if (!(event->buttons() & Qt::LeftButton)) {
    setCursor(edgeAt(at) ? Qt::SplitHCursor : shotAt(at) ? Qt::PointingHandCursor : Qt::ArrowCursor);
    return;
  }
  if (drag_ == Drag::edge) {
    const double start = session_->project().starts_at(dragged_);
    lengthNow_ = snapped(dragged_, (at.x() - grabOffset_ + gap - stripLeft) / scaleAtPress_ - start);
    session_->preview(Session::Values{{"/shots/" + std::to_string(dragged_) + "/screen_time", lengthNow_}});
  } else if (dragged_ < session_->project().shots.size() && std::abs(at.x() - pressed_.x()) > 6) {
    drag_ = Drag::order;
    orderX_ = at.x();
    update();
  }
}

void SpotStrip::mouseReleaseEvent(QMouseEvent* event) {
  const Drag was = drag_;
  drag_ = Drag::none;
  if (was == Drag::edge) {
    session_->keep(
        tr("Shot %1 made %2 s long").arg(dragged_ + 1).arg(QString::fromStdString(fixed_text(lengthNow_, 2))),
        {{"/shots/" + std::to_string(dragged_) + "/screen_time", lengthNow_}});
  } else if (was == Drag::order) {
    std::size_t to = 0;
    for (std::size_t i = 0; i < session_->project().shots.size(); ++i)
      if (i != dragged_ && box(i).center().x() < box(dragged_).center().x() + event->position().x() - pressed_.x())
        ++to;
    move(dragged_, to);
  }
  update();
}

void SpotStrip::move(std::size_t from, std::size_t to) {
  if (const auto edit = shot_moved(session_->document(), from, to)) session_->keep(*edit);
}

void SpotStrip::keyPressEvent(QKeyEvent* event) {
  const std::size_t count = session_->project().shots.size(), at = session_->shotIndex();
  const bool control = event->modifiers() & Qt::ControlModifier;
  if (count == 0) return QWidget::keyPressEvent(event);
  if (event->key() == Qt::Key_Right && at + 1 < count)
    return control ? move(at, at + 1) : session_->selectShot(at + 1);
  if (event->key() == Qt::Key_Left && at > 0) return control ? move(at, at - 1) : session_->selectShot(at - 1);
  if (event->key() == Qt::Key_Home) return session_->selectShot(0);
  if (event->key() == Qt::Key_End) return session_->selectShot(count - 1);
  if (event->key() == Qt::Key_Plus || event->key() == Qt::Key_Minus) {
    const double frame = 1.0 / session_->project().timeline_rate, now = session_->project().shots[at]->screen_time;
    const double next = std::round((now + (event->key() == Qt::Key_Plus ? frame : -frame)) * 1e6) / 1e6;
    if (next > 0)
      session_->keep(tr("Shot %1 made %2 s long").arg(at + 1).arg(QString::fromStdString(fixed_text(next, 2))),
                     {{"/shots/" + std::to_string(at) + "/screen_time", next}});
    return;
  }
  QWidget::keyPressEvent(event);
}

bool SpotStrip::event(QEvent* e) {
  if (e->type() == QEvent::ToolTip) {
    const auto* help = static_cast<QHelpEvent*>(e);
    if (const auto shot = shotAt(help->pos())) {
      const ShotGlance* g = foresight_->glance(session_->project().shots[*shot]->id);
      QToolTip::showText(help->globalPos(),
                         plainTip(q(session_->project().shots[*shot]->name) +
                                  (g && g->known ? tr(", %1 level, %2 leaning, %3 out")
                                                       .arg(g->counts.level)
                                                       .arg(g->counts.leaning)
                                                       .arg(g->counts.out)
                                                 : QString())),
                         this);
      return true;
    }
    QToolTip::hideText();
  }
  return QWidget::event(e);
}

}  // namespace cinnabar
