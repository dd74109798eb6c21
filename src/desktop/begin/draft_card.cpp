#include "cinnabar/desktop/begin/draft_card.h"

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/project/model/names.h"

namespace cinnabar {

DraftCard::DraftCard(std::size_t index, QWidget* parent) : QWidget(parent), index_(index) {
  setObjectName(QString("draft-%1").arg(index + 1));
  const auto button = [&](const QString& text, const QString& tip, const char* id) {
    auto* b = new WordButton(text, WordButton::Look::bench, this);
    b->setObjectName(QString("%1-%2").arg(id).arg(index + 1));
    b->setCheckable(false);
    b->setToolTip(tip);
    b->setAccessibleName(tr("Shot %1: %2").arg(index + 1).arg(tip));
    return b;
  };
  another_ = button(tr("another"), tr("another move in its place"), "another");
  leave_ = button(tr("leave out"), tr("leave it out of the spot"), "leaveOut");
  connect(another_, &WordButton::clicked, this, [this] { emit anotherWanted(index_); });
  connect(leave_, &WordButton::clicked, this, [this] { emit leaveOutWanted(index_); });
  setMinimumSize(96, 140);
  setMaximumHeight(190);
  waitFor({});
}

void DraftCard::waitFor(const QString& what) {
  id_.clear(), name_.clear(), what_.clear(), levels_.clear();
  waiting_ = what;
  picture_ = {};
  another_->hide();
  leave_->hide();
  setAccessibleName(tr("Shot %1, %2").arg(index_ + 1).arg(what.isEmpty() ? tr("not begun") : what));
  update();
}

void DraftCard::show(const DraftShot& drafted, const Shot& shot) {
  if (q(shot.id) != id_) picture_ = waiting_.isEmpty() ? QImage() : picture_;
  id_ = q(shot.id);
  waiting_.clear();
  name_ = q(shot.name);
  what_ = tr("%1, %2 s").arg(q(name_of(drafted.part)), q(fixed_text(shot.screen_time, 1)));
  if (shot.slow && *shot.slow > 1.05) what_ += tr(", %1x slower").arg(q(number_text(*shot.slow, 2)));
  tally_ = tally(drafted.levels);
  // What is out in its own words where it is one thing alone; else how many.
  levels_ = tally_.out > 1                           ? tr("%1 out").arg(tally_.out)
            : tally_.out == 0 && tally_.leaning == 0 ? tr("all level")
            : tally_.out == 0                        ? tr("%1 leaning").arg(tally_.leaning)
                                                     : QString();
  if (tally_.out == 1)
    for (const Level& l : drafted.levels)
      if (l.state == State::out) levels_ = q(l.title + " " + value_text(l));
  another_->show();
  leave_->show();
  setAccessibleName(tr("Shot %1, %2, %3, %4").arg(index_ + 1).arg(name_, what_, levels_));
  QString tip = name_ + "\n" + what_;
  for (const Level& l : drafted.levels)
    if (l.state == State::out || l.state == State::leaning)
      tip += QString("\n%1: %2, %3").arg(q(l.title), q(value_text(l)), q(state_name(l.state)));
  setToolTip(plainTip(tip));
  update();
}

void DraftCard::setPicture(const QImage& picture) {
  picture_ = picture;
  update();
}
void DraftCard::takePicture(const DraftCard& other) { id_ = other.id_, picture_ = other.picture_; }
void DraftCard::setBusy(bool busy) {
  busy_ = busy;
  another_->setEnabled(!busy);
  leave_->setEnabled(!busy);
  update();
}

QRectF DraftCard::frame() const {
  const double w = width() - 12.0;
  return {6, 6, w, std::min(w * 9 / 16, height() - 96.0)};
}

void DraftCard::resizeEvent(QResizeEvent*) {
  const int left = (width() - 6) * 9 / 20;  // as long as its words, where there is room for both
  another_->setGeometry(3, height() - 25, std::min(left, another_->sizeHint().width()), 22);
  const int right = std::min(width() - 6 - left, leave_->sizeHint().width());
  leave_->setGeometry(width() - right - 3, height() - 25, right, 22);
}

void DraftCard::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.setRenderHint(QPainter::SmoothPixmapTransform);
  const Theme& t = theme();
  p.setPen(QPen(t.line, 1));
  p.setBrush(t.dark ? t.panel.lighter(118) : t.ground);
  p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 3, 3);
  const QRectF at = frame();
  p.fillRect(at, t.mat);
  if (!picture_.isNull()) {
    const QSizeF size = QSizeF(picture_.size()).scaled(at.size(), Qt::KeepAspectRatio);
    p.drawImage(QRectF(at.center() - QPointF(size.width() / 2, size.height() / 2), size), picture_);
  }
  if (busy_) p.fillRect(at, QColor(t.ground.red(), t.ground.green(), t.ground.blue(), 150));
  double y = at.bottom() + 5;
  const QString number = QString::number(index_ + 1);
  const double wide = width() - 14.0;
  drawText(p, {8, y, 18, 17}, Qt::AlignLeft | Qt::AlignVCenter, number, numberFont(12, true), t.ink);
  drawText(p, {8 + 9.0 * number.size() + 4, y, wide - 9.0 * number.size() - 4, 17},
           Qt::AlignLeft | Qt::AlignVCenter, id_.isEmpty() ? waiting_ : name_, textFont(12),
           id_.isEmpty() ? t.quiet : t.ink);
  if (id_.isEmpty()) return;
  y += 19;
  drawText(p, {8, y, wide, 15}, Qt::AlignLeft | Qt::AlignVCenter, what_, textFont(11), t.quiet);
  y += 19;
  const bool out = tally_.out > 0, leaning = !out && tally_.leaning > 0;
  if (out || leaning) {
    p.setPen(QPen(out ? t.accent : t.leaning, 1.4));
    p.setBrush(out ? QBrush(t.accent) : Qt::NoBrush);
    p.drawEllipse(QPointF(12, y + 7.5), 3, 3);
  }
  drawText(p, {out || leaning ? 20.0 : 8.0, y, wide - 12, 15}, Qt::AlignLeft | Qt::AlignVCenter, levels_,
           textFont(11),
           out       ? t.accent
           : leaning ? t.leaningInk
                     : t.good);
}

}  // namespace cinnabar
