#include "cinnabar/desktop/stage/lever_rows.h"

#include "cinnabar/base/words.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/stage/vial.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/forecast/level_table.h"

namespace cinnabar {

QLabel* wrapped(const QString& text, double px, bool mono, const QColor& color, QWidget* parent) {
  auto* label = new PlainLabel(text, parent);
  label->setWordWrap(true);
  label->setFont(mono ? numberFont(px) : textFont(px));
  label->setStyleSheet(QString("color: %1; font-family: \"%2\"; font-size: %3px;")
                           .arg(color.name(), mono ? "Cinnabar Figures" : "Cinnabar Text")
                           .arg(px));
  label->setTextInteractionFlags(Qt::TextSelectableByMouse);
  return label;
}

MovedRow::MovedRow(const MovedLevel& moved, QWidget* parent) : QWidget(parent), moved_(moved) {
  moved_.after.sure = true;
  setObjectName("moved-" + q(moved.after.id));
  name_ = q(brief_of(moved.after));
  if (moved.shot) name_ = QObject::tr("in %1: %2").arg(*moved.shot + 1).arg(name_);
  const State state = moved.after.state;
  word_ = state == State::leaning ? QObject::tr("leans") : stateWord(state);
  setFixedHeight(18);
  setAccessibleName(
      QObject::tr("%1: from %2 to %3, %4").arg(name_, valueText(moved.before), valueText(moved.after), word_));
  setToolTip(plainTip(accessibleName()));
}

void MovedRow::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const Theme& t = theme();
  const State state = moved_.after.state;
  const double first = 0.44 * width(), last = width() - 50.0;
  drawText(p, QRectF(8, 0, first - 10, height()), Qt::AlignLeft | Qt::AlignVCenter, name_, textFont(10.5), t.ink);
  drawVial(p, QRectF(first, 3, last - first - 6, height() - 6), moved_.after, moved_.before.value);
  drawText(p, QRectF(last, 0, width() - last, height()), Qt::AlignRight | Qt::AlignVCenter, word_, textFont(10.5),
           state == State::leaning ? t.leaningInk
           : state == State::out   ? t.accent
                                   : t.quiet);
}

TriedLine::TriedLine(QWidget* parent) : QWidget(parent) {
  setObjectName("tried");
  setFixedHeight(24);
  tell(0, 0);
}

void TriedLine::tell(int tried, int all) {
  tried_ = tried, all_ = all;
  word_ = all ? QObject::tr("%1 of %2 tried").arg(tried).arg(all) : QObject::tr("looking");
  setAccessibleName(QObject::tr("What brings it home, %1").arg(word_));
  update();
}

void TriedLine::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const Theme& t = theme();
  drawText(p, QRectF(0, 0, 0.62 * width(), 18), Qt::AlignLeft | Qt::AlignVCenter,
           QObject::tr("What brings it home"), textFont(11, true), t.ink);
  drawText(p, QRectF(0.5 * width(), 0, 0.5 * width(), 18), Qt::AlignRight | Qt::AlignVCenter, word_,
           textFont(10.5), t.quiet);
  p.fillRect(QRectF(0, 20, width(), 2), t.track);
  if (all_ > 0) p.fillRect(QRectF(0, 20, width() * tried_ / static_cast<double>(all_), 2), t.good);
}

}  // namespace cinnabar
