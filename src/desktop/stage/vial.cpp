#include "cinnabar/desktop/stage/vial.h"

#include <QKeyEvent>
#include <algorithm>
#include <cmath>

#include "cinnabar/base/words.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/forecast/level_table.h"

namespace cinnabar {

QString stateWord(State s) {
  switch (s) {
    case State::level:
      return QObject::tr("level");
    case State::leaning:
      return QObject::tr("leaning");
    case State::out:
      return QObject::tr("out");
    case State::unknown:
      break;
  }
  return QObject::tr("unknown");
}

namespace {
QColor stateColor(State s) {
  const Theme& t = theme();
  return s == State::level ? t.good : s == State::leaning ? t.leaning : s == State::out ? t.accent : t.quiet;
}
}  // namespace

QString valueText(const Level& l) { return tidyMinus(q(value_text(l))); }

void drawVial(QPainter& p, const QRectF& box, const Level& l, const std::optional<double>& was) {
  const Theme& t = theme();
  p.save();
  p.setRenderHint(QPainter::Antialiasing);
  const double thick = std::min(4.0, 0.3 * box.height());  // half of it
  const QRectF tube(box.left(), box.center().y() - thick, box.width(), 2 * thick);
  p.setPen(Qt::NoPen);
  p.setBrush(t.track);
  p.drawRoundedRect(tube, thick, thick);
  const double low = 0.36, high = 0.64;
  const auto x = [&](double part) { return tube.left() + part * tube.width(); };
  QColor glass = t.panel;
  if (l.band.low || l.band.high) {
    const double from = l.band.low ? low : 0.0, to = l.band.high ? high : 1.0;
    p.setBrush(glass);
    p.drawRect(QRectF(x(from), tube.top() + 1, x(to) - x(from), tube.height() - 2));
  }
  p.setPen(QPen(t.ink, 1.3));
  if (l.band.low) p.drawLine(QPointF(x(low), tube.top() - 2), QPointF(x(low), tube.bottom() + 2));
  if (l.band.high) p.drawLine(QPointF(x(high), tube.top() - 2), QPointF(x(high), tube.bottom() + 2));
  const double half = std::min(9.0, 1.8 * thick), end = std::max(0.04, half / tube.width());
  const auto place = [&](double v) {
    double at = 0.5;
    if (l.band.low && l.band.high)
      at = low + (v - *l.band.low) / (*l.band.high - *l.band.low) * (high - low);
    else if (l.band.high)
      at = high + (v - *l.band.high) / std::max(1.0, std::abs(*l.band.high)) * 0.4;
    else if (l.band.low)
      at = low + (v - *l.band.low) / std::max(1.0, std::abs(*l.band.low) > 0 ? std::abs(*l.band.low) : 10.0) * 0.4;
    else if (l.state == State::out)
      at = 0.9;
    return std::clamp(at, end, 1 - end);
  };
  if (was) {
    p.setPen(QPen(t.quiet, 1.2));
    p.setBrush(Qt::NoBrush);
    p.drawEllipse(QPointF(x(place(*was)), tube.center().y()), half, thick);
  }
  if (l.value) {
    const double at = place(*l.value);
    if (l.sure) {
      p.setPen(Qt::NoPen);
      p.setBrush(stateColor(l.state));
      p.drawEllipse(QPointF(x(at), tube.center().y()), half, thick + 0.4);
    } else {
      p.setPen(QPen(t.quiet, 1));
      p.setBrush(Qt::NoBrush);
      p.drawRoundedRect(QRectF(x(at) - 2 * half, tube.top() + 0.5, 4 * half, tube.height() - 1), thick, thick);
    }
  }
  p.restore();
}

Vial::Vial(QWidget* parent) : QAbstractButton(parent) {
  setCheckable(true);
  setFocusPolicy(Qt::StrongFocus);
  setCursor(Qt::PointingHandCursor);
  setFixedHeight(34);
  setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
}

void Vial::setTall(int height) {
  setFixedHeight(height);
  update();
}

void Vial::keyPressEvent(QKeyEvent* e) {
  if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter) return click();
  QAbstractButton::keyPressEvent(e);
}

void Vial::show(const Level& level, Units) {
  level_ = level;
  setObjectName("level-" + q(level.id));
  setAccessibleName(q(level.title));
  setAccessibleDescription(
      tr("%1, %2").arg(valueText(level), level.sure ? stateWord(level.state) : tr("being measured")));
  setToolTip(plainTip(q(level.sentence)));
  update();
}

void Vial::paintSmall(QPainter& p) {
  const Theme& t = theme();
  const QString name = q(brief_of(level_));
  const bool told = underMouse() || hasFocus();
  const double middle = std::round(width() * (told ? 0.42 : 0.5));
  const QColor ink = level_.state == State::unknown || !level_.sure ? t.quiet : t.ink;
  drawText(p, QRectF(0, 0, middle - 2, height()), Qt::AlignLeft | Qt::AlignVCenter, name, textFont(10.5), ink);
  const QRectF rest(middle, 0, width() - middle - 2, height());
  if (told)
    drawText(p, rest, Qt::AlignRight | Qt::AlignVCenter, valueText(level_), numberFont(10), t.ink);
  else
    drawVial(p, rest.adjusted(4, (height() - 10) / 2.0, 0, -(height() - 10) / 2.0), level_);
  if (hasFocus()) drawFocus(p, QRectF(rect()));
}

void Vial::paintEvent(QPaintEvent*) {
  QPainter p(this);
  if (height() < 30) return paintSmall(p);
  const Theme& t = theme();
  const QColor ink = !level_.sure                                                     ? t.quiet
                     : level_.state == State::level || level_.state == State::unknown ? t.ink
                     : level_.state == State::leaning                                 ? t.leaningInk
                                                                                      : stateColor(level_.state);
  const bool loud = level_.sure && level_.state == State::out;
  const QString value = valueText(level_) + (!level_.sure                     ? QString()
                                             : level_.state == State::leaning ? tr(", leans")
                                             : level_.state == State::out     ? tr(", out")
                                                                              : QString());
  const double valueWidth =
      std::min(width() * 0.62, QFontMetricsF(numberFont(11, loud)).horizontalAdvance(value) + 2);
  const double room = width() - valueWidth - 6;
  const bool fits = QFontMetricsF(textFont(11, isChecked())).horizontalAdvance(q(level_.title)) <= room;
  QString title = q(level_.title);
  if (!fits) {
    title = q(brief_of(level_));
    title[0] = title[0].toUpper();
  }
  drawText(p, QRectF(0, 1, room, 16), Qt::AlignLeft | Qt::AlignVCenter, title, textFont(11, isChecked()), ink);
  drawText(p, QRectF(width() - valueWidth, 1, valueWidth, 16), Qt::AlignRight | Qt::AlignVCenter, value,
           numberFont(11, loud), level_.sure && level_.state == State::level ? t.ink : ink);
  drawVial(p, QRectF(0, 17, width(), 14), level_);
  if (hasFocus()) drawFocus(p, QRectF(rect()).adjusted(-0, 0, 0, 0));
}

}  // namespace cinnabar
