#include "cinnabar/desktop/ways/purse_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPointer>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/stage/vial.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"

namespace cinnabar {
namespace {

constexpr double purseReach = 4.0;  // stops, on either side
constexpr double purseHead = 15, purseFoot = 17;

}  // namespace

QString PurseView::keysHelp() {
  return tr("Up and down choose a row, left and right move it by a notch and let the others pay, P pins it");
}

PurseView::PurseView(Session* session, const Forecaster& forecaster, QWidget* parent)
    : Painted("purse", tr("The purse of stops"), keysHelp(), parent), session_(session), forecaster_(forecaster) {
  connect(session_, &Session::changed, this, [this] {
    if (session_->previewing() || dragged_) return;
    if (!own_) stale_ = true;
    own_ = false;
    ask();
    update();
  });
  connect(session_, &Session::shotChanged, this, [this] {
    stale_ = true;
    pins_.clear();
    ask();
    update();
  });
}

void PurseView::showEvent(QShowEvent*) {
  opened_.clear();
  stale_ = true;
  ask();
}

void PurseView::ask() {
  if (!isVisible()) return;
  const int number = ++asked_;
  if (!session_->shot()) {
    tellNone(tr("A shot has a purse; there is none yet"));
    return;
  }
  const QPointer<PurseView> self(this);
  worker_.ask([self, number, forecaster = forecaster_, document = session_->document(),
               shot = session_->shotIndex()](const std::atomic<bool>& cancelled) {
    auto found = purse_of(forecaster, document, shot, &cancelled);
    if (cancelled) return;
    later(self, [self, number, found = std::move(found)] {
      if (number != self->asked_ || self->dragged_) return;
      if (found) return self->take(*found);
      self->tellNone(q(found.error().text()));
    });
  });
}

void PurseView::tellNone(const QString& why) {
  purse_.reset();
  why_ = why;
  setAccessibleDescription(why);
  update();
}

void PurseView::take(const Purse& purse) {
  purse_ = std::make_shared<const Purse>(purse);
  stale_ = false;
  why_.clear();
  setAccessibleDescription(keysHelp());
  hand_ = hand_now(purse);
  if (opened_.empty() || openedShot_ != session_->shot()->id) {
    opened_.clear();
    openedShot_ = session_->shot()->id;
    for (const PurseRow& row : purse.rows) opened_[row.id] = row.absolute;
  }
  current_ = std::min(current_, purse.rows.size() - 1);
  tellChosenPart();
  emit workedOut();
  update();
}

double PurseView::shifted(std::size_t row) const {
  const PurseRow& r = purse_->rows[row];
  const auto was = opened_.find(r.id);
  return was == opened_.end() ? 0.0 : r.absolute - was->second;
}

double PurseView::rowHeight() const {
  return (height() - purseHead - purseFoot) / std::max(1.0, static_cast<double>(purse_ ? purse_->rows.size() : 6));
}
double PurseView::rowTop(std::size_t row) const { return purseHead + rowHeight() * static_cast<double>(row); }
QRectF PurseView::scaleBox() const {
  return {164, purseHead, std::max(120.0, 0.62 * width() - 164), height() - purseHead};
}
QRectF PurseView::nameBox(std::size_t row) const { return {0, rowTop(row), 92, rowHeight()}; }
QPointF PurseView::onScreen(std::size_t row, std::size_t notch) const {
  const QRectF s = scaleBox();
  const double stops = std::clamp(shifted(row) + purse_->rows[row].notches[notch].stops, -purseReach, purseReach);
  return {s.left() + (stops + purseReach) / (2 * purseReach) * s.width(), rowTop(row) + rowHeight() / 2};
}

QString PurseView::textOf(std::size_t row, std::size_t notch) const {
  return tidyMinus(q(purse_->rows[row].notches[notch].text));
}

std::vector<ToldPart> PurseView::parts() const {
  std::vector<ToldPart> list;
  if (!purse_) return list;
  for (std::size_t r = 0; r < purse_->rows.size(); ++r) {
    const PurseRow& row = purse_->rows[r];
    QString value = textOf(r, hand_[r]);
    if (pins_.contains(row.id)) value = tr("%1, pinned").arg(value);
    list.push_back({q(row.title), value, QRectF(0, rowTop(r), width(), rowHeight()).toRect(), r == current_});
  }
  list.push_back({tr("Left over"), q(signed_text(left_over(*purse_, hand_), 1)),
                  QRectF(0, height() - purseFoot, width(), purseFoot).toRect(), false});
  return list;
}

void PurseView::drawRow(QPainter& p, std::size_t r) {
  const Theme& t = theme();
  const PurseRow& row = purse_->rows[r];
  const bool pinned = pins_.contains(row.id) || row.id == "rate";
  const QRectF scale = scaleBox();
  const double y = rowTop(r) + rowHeight() / 2, thick = std::min(9.0, rowHeight() - 5);
  drawText(p, nameBox(r), Qt::AlignLeft | Qt::AlignVCenter, q(row.title), textFont(11), pinned ? t.accent : t.ink);
  drawText(p, {94, rowTop(r), 66, rowHeight()}, Qt::AlignLeft | Qt::AlignVCenter, textOf(r, hand_[r]),
           numberFont(11), t.ink);
  // Shaded all along, but for where its own levels stand.
  p.fillRect(QRectF(scale.left(), y - thick / 2, scale.width(), thick), t.track);
  const auto x = [&](std::size_t n) { return onScreen(r, n).x(); };
  for (std::size_t n = 0; n < row.notches.size(); ++n) {
    if (!row.notches[n].stands) continue;
    // Free as far as half the way to the next notch.
    const double a = n > 0 ? (x(n - 1) + x(n)) / 2 : x(n) - 3,
                 b = n + 1 < row.notches.size() ? (x(n) + x(n + 1)) / 2 : x(n) + 3;
    const QRectF open(std::max(scale.left(), a), y - thick / 2,
                      std::min(scale.right(), b) - std::max(scale.left(), a), thick);
    if (open.width() > 0) p.fillRect(open, t.panel);
  }
  p.setPen(QPen(t.quiet, 1));
  p.drawLine(QPointF(scale.left(), y), QPointF(scale.right(), y));
  if (row.id != "lights")
    for (std::size_t n = 0; n < row.notches.size(); ++n)
      if (x(n) > scale.left() && x(n) < scale.right()) p.drawLine(QPointF(x(n), y - 2), QPointF(x(n), y + 2));
  const QPointF at = onScreen(r, hand_[r]);
  p.setPen(Qt::NoPen);
  p.setBrush(pinned ? t.accent : t.ink);
  p.drawRoundedRect(QRectF(at.x() - 4, y - thick / 2 - 1.5, 8, thick + 3), 1.5, 1.5);
  if (pinned) {
    p.setPen(QPen(t.accent, 1.2));
    p.drawLine(QPointF(at.x(), y - thick / 2 - 1), QPointF(at.x(), y - thick / 2 - 4));
    p.drawEllipse(QPointF(at.x(), y - thick / 2 - 4), 1.4, 1.4);
  }
  drawText(p, {scale.right() + 12, rowTop(r), width() - scale.right() - 14, rowHeight()},
           Qt::AlignLeft | Qt::AlignVCenter, tidyMinus(q(row.remark)), textFont(10.5), t.quiet);
  if (hasFocus() && r == current_) drawFocus(p, QRectF(-1, rowTop(r), scale.right() + 6, rowHeight()));
}

void PurseView::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  if (!purse_ || hand_.size() != purse_->rows.size()) {
    p.setFont(textFont(11.5));
    p.setPen(t.quiet);
    p.drawText(QRectF(0, 6, width() - 8.0, height() - 8.0), Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap,
               why_.isEmpty() ? tr("Being worked out") : why_);
    return;
  }
  const QRectF scale = scaleBox();
  for (int stop = -static_cast<int>(purseReach); stop <= static_cast<int>(purseReach); ++stop) {
    const double x = scale.left() + (stop + purseReach) / (2 * purseReach) * scale.width();
    p.setPen(QPen(t.line, 1));
    p.drawLine(QPointF(x, purseHead), QPointF(x, height() - purseFoot));
    drawText(p, {x - 16, 0, 32, 13}, Qt::AlignCenter,
             stop == 0 ? QStringLiteral("0") : tidyMinus(q(signed_text(stop, 0))), numberFont(10), t.quiet);
  }
  for (std::size_t r = 0; r < purse_->rows.size(); ++r) drawRow(p, r);
  const double over = left_over(*purse_, hand_);
  Level level;
  level.value = over;
  level.band = purse_->band;
  level.state = state_of(over, purse_->band);
  level.sure = true;
  const double y = height() - purseFoot;
  drawText(p, {0, y, 92, purseFoot}, Qt::AlignLeft | Qt::AlignVCenter, tr("Left over"), textFont(11, true), t.ink);
  drawVial(p, QRectF(scale.left(), y + 4, scale.width(), purseFoot - 8), level);
  const QString words = stale_ ? tr("being worked out")
                        : std::abs(over) < 0.05
                            ? tr("on the target")
                            : (over < 0 ? tr("%1 stops short of the target") : tr("%1 stops over the target"))
                                  .arg(q(fixed_text(std::abs(over), 1)));
  drawText(p, {scale.right() + 12, y, width() - scale.right() - 14, purseFoot}, Qt::AlignLeft | Qt::AlignVCenter,
           words, textFont(11, true),
           level.state == State::out       ? t.accent
           : level.state == State::leaning ? t.leaningInk
                                           : t.good);
}

std::size_t PurseView::nearestNotch(std::size_t row, double x) const {
  std::size_t best = hand_[row];
  for (std::size_t n = 0; n < purse_->rows[row].notches.size(); ++n)
    if (std::abs(onScreen(row, n).x() - x) < std::abs(onScreen(row, best).x() - x)) best = n;
  return best;
}

void PurseView::togglePin(std::size_t row) {
  const std::string& id = purse_->rows[row].id;
  if (id == "rate") return;
  if (!pins_.erase(id)) pins_.insert(id);
  tellChosenPart();
  update();
}

void PurseView::move(std::size_t row, std::size_t notch, bool keep) {
  // While it is dragged the others pay from where the shot stands, so that going back gives all of it back.
  const PurseHand next = paid(*purse_, dragged_ ? hand_now(*purse_) : hand_, row, notch, pins_);
  hand_ = next;
  const Values values = purse_values(*purse_, next);
  tellChosenPart();
  update();
  if (!keep) {
    session_->preview(values);
    return;
  }
  QStringList paying;
  for (std::size_t r = 0; r < purse_->rows.size(); ++r)
    if (r != row && next[r] != purse_->rows[r].now)
      paying << tr("%1 %2").arg(q(purse_->rows[r].title), textOf(r, next[r]));
  QString title = tr("%1 %2").arg(q(purse_->rows[row].title), textOf(row, notch));
  if (!paying.isEmpty()) title = tr("%1, paid by %2").arg(title, paying.join(", "));
  own_ = true;
  if (!session_->keep(title, values)) own_ = false, stale_ = true, ask();
}

void PurseView::mousePressEvent(QMouseEvent* event) {
  if (!purse_ || event->button() != Qt::LeftButton) return;
  for (std::size_t r = 0; r < purse_->rows.size(); ++r) {
    if (event->position().y() < rowTop(r) || event->position().y() >= rowTop(r) + rowHeight()) continue;
    current_ = r;
    tellChosenPart();
    if (nameBox(r).contains(event->position())) return togglePin(r);
    if (stale_ || session_->readOnly() || purse_->rows[r].notches.size() < 2) return update();
    if (!scaleBox().adjusted(-8, 0, 8, 0).contains(event->position())) return update();
    dragged_ = r;
    return move(r, nearestNotch(r, event->position().x()), false);
  }
}
void PurseView::mouseMoveEvent(QMouseEvent* event) {
  if (dragged_) move(*dragged_, nearestNotch(*dragged_, event->position().x()), false);
}
void PurseView::mouseReleaseEvent(QMouseEvent*) {
  if (!dragged_) return;
  const std::size_t row = *dragged_, notch = hand_[row];
  dragged_.reset();
  move(row, notch, true);
}

void PurseView::keyPressEvent(QKeyEvent* event) {
  if (!purse_) return Painted::keyPressEvent(event);
  const std::size_t rows = purse_->rows.size();
  switch (event->key()) {
    case Qt::Key_Up:
      current_ = current_ > 0 ? current_ - 1 : 0;
      break;
    case Qt::Key_Down:
      current_ = std::min(rows - 1, current_ + 1);
      break;
    case Qt::Key_P:
      return togglePin(current_);
    case Qt::Key_Left:
    case Qt::Key_Right: {
      if (stale_ || session_->readOnly()) return;
      const bool more = event->key() == Qt::Key_Right;
      const std::size_t at = hand_[current_];
      if (more ? at + 1 >= purse_->rows[current_].notches.size() : at == 0) return;
      return move(current_, more ? at + 1 : at - 1, true);
    }
    default:
      return Painted::keyPressEvent(event);
  }
  tellChosenPart();
  update();
}

}  // namespace cinnabar
