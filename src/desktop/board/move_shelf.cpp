#include "cinnabar/desktop/board/move_shelf.h"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QToolTip>
#include <QWheelEvent>

#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/forecast/moves/ready_moves.h"

namespace cinnabar {
namespace {
constexpr int cardWidth = 146, step = cardWidth + 8, top = 24;
int count() { return static_cast<int>(ready_moves().size()); }
const ReadyMove& ready(int i) { return ready_moves()[static_cast<std::size_t>(i)]; }
}  // namespace

MoveShelf::MoveShelf(QWidget* parent)
    : Painted("moveShelf", QString(),
              tr("Left and Right choose a ready move, Enter makes it after the present shot"), parent) {
  setFixedHeight(94);
  choose(0);
}

void MoveShelf::setOutcomes(const QHash<QString, Tally>& outcomes) {
  outcomes_ = outcomes;
  choose(chosen_);
}

std::vector<ToldPart> MoveShelf::parts() const {
  std::vector<ToldPart> list;
  for (int i = 0; i < count(); ++i) list.push_back({q(ready(i).title), q(ready(i).what), card(i), i == chosen_});
  return list;
}

int MoveShelf::visible() const { return std::max(1, (width() - 8) / step); }
QRect MoveShelf::card(int i) const { return {8 + (i - first_) * step, top, cardWidth, height() - top - 8}; }
int MoveShelf::at(const QPoint& point) const {
  for (int i = first_; i < std::min(count(), first_ + visible() + 1); ++i)
    if (card(i).contains(point)) return i;
  return -1;
}

void MoveShelf::choose(int index) {
  chosen_ = std::clamp(index, 0, count() - 1);
  if (chosen_ < first_) first_ = chosen_;
  if (chosen_ >= first_ + visible()) first_ = chosen_ - visible() + 1;
  first_ = std::clamp(first_, 0, std::max(0, count() - visible()));
  const ReadyMove& m = ready(chosen_);
  QString name = tr("Ready move %1: %2").arg(q(m.title), q(m.what));
  if (outcomes_.contains(q(m.id)))
    name += tr("; %1 levels out, %2 leaning").arg(outcomes_[q(m.id)].out).arg(outcomes_[q(m.id)].leaning);
  setAccessibleName(name);
  update();
  tellChosenPart();
}

void MoveShelf::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  drawPanel(p, rect());
  drawText(p, {10, 4, 110, 18}, Qt::AlignLeft | Qt::AlignVCenter, tr("Ready moves"), textFont(12, true), t.ink);
  drawText(p, {100, 4, width() - 200.0, 18}, Qt::AlignLeft | Qt::AlignVCenter,
           tr("made for this product, kit and house rules; drag one on to the thread, or press Enter"),
           textFont(11), t.quiet);
  drawText(p, {width() - 100.0, 4, 90, 18}, Qt::AlignRight | Qt::AlignVCenter,
           tr("%1 to %2 of %3").arg(first_ + 1).arg(std::min(count(), first_ + visible())).arg(count()),
           numberFont(11), t.quiet);
  for (int i = first_; i < std::min(count(), first_ + visible() + 1); ++i) {
    const QRectF c = card(i);
    const ReadyMove& m = ready(i);
    p.setPen(QPen(i == chosen_ ? t.accent : t.line, i == chosen_ ? 2 : 1));
    p.setBrush(t.dark ? t.panel.lighter(118) : t.ground);
    p.drawRoundedRect(c.adjusted(0.5, 0.5, -0.5, -0.5), 3, 3);
    if (i == chosen_ && hasFocus()) drawFocus(p, c.adjusted(3, 3, -3, -3));
    drawText(p, {c.left() + 8, c.top() + 5, c.width() - 14, 17}, Qt::AlignLeft | Qt::AlignVCenter, q(m.title),
             textFont(12), t.ink);
    drawText(p, {c.left() + 8, c.top() + 21, c.width() - 14, 15}, Qt::AlignLeft | Qt::AlignVCenter, q(m.what),
             textFont(10.5), t.quiet);
    const auto outcome = outcomes_.find(q(m.id));
    const double y = c.top() + 45;
    if (outcome == outcomes_.end()) continue;
    double x = c.left() + 12;
    for (int k = 0; k < std::min(8, outcome->out + outcome->leaning); ++k, x += 8) {
      const bool out = k < outcome->out;
      p.setPen(QPen(out ? t.accent : t.leaning, 1.4));
      p.setBrush(out ? QBrush(t.accent) : Qt::NoBrush);
      p.drawEllipse(QPointF(x, y), 2.6, 2.6);
    }
    const QString words = outcome->out + outcome->leaning == 0 ? tr("all level")
                          : outcome->out == 0                  ? tr("%1 leaning").arg(outcome->leaning)
                                                               : tr("%1 out").arg(outcome->out);
    drawText(p, {x + 2, y - 7, c.right() - x - 6, 14}, Qt::AlignLeft | Qt::AlignVCenter,
             m.later.empty() ? words : words + tr(", effect not yet"), textFont(10), t.quiet);
  }
}

void MoveShelf::mousePressEvent(QMouseEvent* event) {
  pressed_ = at(event->position().toPoint());
  pressedAt_ = event->position().toPoint();
  dragging_ = false;
  if (pressed_ >= 0) choose(pressed_);
}
void MoveShelf::mouseMoveEvent(QMouseEvent* event) {
  if (pressed_ < 0 || !(event->buttons() & Qt::LeftButton)) return;
  dragging_ = dragging_ || (event->position().toPoint() - pressedAt_).manhattanLength() >= 8;
  if (!dragging_) return;
  setCursor(Qt::ClosedHandCursor);
  emit dragged(q(ready(pressed_).id), event->globalPosition().toPoint());
}
void MoveShelf::mouseReleaseEvent(QMouseEvent* event) {
  unsetCursor();
  if (dragging_ && pressed_ >= 0) emit dropped(q(ready(pressed_).id), event->globalPosition().toPoint());
  dragging_ = false;
  pressed_ = -1;
}
void MoveShelf::mouseDoubleClickEvent(QMouseEvent* event) {
  if (const int i = at(event->position().toPoint()); i >= 0) emit wanted(q(ready(i).id));
}
void MoveShelf::wheelEvent(QWheelEvent* event) {
  const int turn = event->angleDelta().y() + event->angleDelta().x();
  if (turn == 0) return event->ignore();
  first_ = std::clamp(first_ + (turn > 0 ? -1 : 1), 0, std::max(0, count() - visible()));
  update();
}
void MoveShelf::keyPressEvent(QKeyEvent* event) {
  switch (event->key()) {
    case Qt::Key_Left:
      return choose(chosen_ - 1);
    case Qt::Key_Right:
      return choose(chosen_ + 1);
    case Qt::Key_Home:
      return choose(0);
    case Qt::Key_End:
      return choose(count() - 1);
    case Qt::Key_Return:
    case Qt::Key_Enter:
      emit wanted(q(ready(chosen_).id));
      return;
    default:
      return QWidget::keyPressEvent(event);
  }
}
bool MoveShelf::event(QEvent* event) {
  if (event->type() == QEvent::ToolTip) {
    const int i = at(static_cast<QHelpEvent*>(event)->pos());
    QString text = i < 0 ? QString() : q(ready(i).title + ": " + ready(i).what);
    if (i >= 0 && !ready(i).later.empty()) text += tr("\nTo be computed later: %1").arg(q(ready(i).later));
    QToolTip::showText(static_cast<QHelpEvent*>(event)->globalPos(), plainTip(text), this);
    return true;
  }
  return QWidget::event(event);
}

}  // namespace cinnabar
