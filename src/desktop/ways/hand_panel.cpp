#include "cinnabar/desktop/ways/hand_panel.h"

#include <QKeyEvent>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/ways/way_cards.h"
#include "cinnabar/takes/log.h"

namespace cinnabar {
namespace {

constexpr double under_head = 28, tape_high = 32, text_high = 12.5, name_wide = 150;

}  // namespace

double HandPanel::Row::high() const { return tape_high + text_high * static_cast<double>(lines.size()); }

HandPanel::HandPanel(Session* session, QWidget* parent)
    : Painted("handPanel", tr("By hand"), tr("Up and down go through the moves"), parent), session_(session) {
  for (const auto change : {&Session::changed, &Session::shotChanged})
    connect(session, change, this, [this] {
      if (isVisible()) refresh();
    });
}

void HandPanel::refresh() {
  rows_.clear();
  head_ = tr("put tape at the marks and count; each mark is one count on");
  if (const Shot* shot = session_->shot()) {
    for (HandMove& move : hand_moves(session_->project(), *shot)) {
      Row row{std::move(move), {}, {}};
      row.marks = mark_texts(row.move);
      for (const std::string& line : hand_lines(row.move)) row.lines << q(line);
      rows_.push_back(std::move(row));
    }
    if (const ShotLog log = shot_log(session_->project(), *shot); log.tried > 0)
      head_ = tr("%1; the log has kept %2 of %3 takes").arg(head_).arg(log.kept).arg(log.tried);
  }
  scrollTo(scroll_);
}

void HandPanel::scrollTo(double top) {
  double all = under_head + 4;
  for (const Row& row : rows_) all += row.high();
  scroll_ = std::clamp(top, 0.0, std::max(0.0, all - height()));
  update();
}

QRectF HandPanel::rowBox(std::size_t row) const {
  double top = under_head - scroll_;
  for (std::size_t k = 0; k < row; ++k) top += rows_[k].high();
  return {10, top, width() - 20.0, rows_[row].high() - 4};
}

std::vector<ToldPart> HandPanel::parts() const {
  std::vector<ToldPart> list;
  for (std::size_t k = 0; k < rows_.size(); ++k)
    list.push_back({q(rows_[k].move.what), q(marks_text(rows_[k].move)) + "; " + rows_[k].lines.join("; "),
                    rowBox(k).toRect(), false});
  return list;
}

void HandPanel::paintEvent(QPaintEvent*) {
  drawWaysHead(*this, tr("By hand"), head_);
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.save();
  p.setClipRect(QRectF(0, under_head - 2, width(), height() - under_head + 1));
  for (std::size_t k = 0; k < rows_.size(); ++k) paintRow(p, k);
  p.restore();
  if (rows_.empty())
    drawText(p, QRectF(10, under_head, width() - 20.0, 20), Qt::AlignLeft | Qt::AlignVCenter,
             tr("Nothing moves in this shot that a hand would move; add a track, or have a move worked out"),
             textFont(11), theme().quiet);
  if (hasFocus()) drawFocus(p, QRectF(rect()).adjusted(2, 2, -2, -2));
}

/// The thing's name, its tape with the marks where they are from first to last, and how quick it gets under it.
void HandPanel::paintRow(QPainter& p, std::size_t row) const {
  const Theme& t = theme();
  const HandMove& move = rows_[row].move;
  const QRectF box = rowBox(row);
  if (box.bottom() < under_head || box.top() > height()) return;
  drawText(p, {box.left(), box.top() + 12, name_wide - 10, 16}, Qt::AlignLeft | Qt::AlignVCenter, q(move.what),
           textFont(12), t.ink);
  double low = move.marks.front().at, high = low;
  for (const HandMove::Mark& mark : move.marks) low = std::min(low, mark.at), high = std::max(high, mark.at);
  const QRectF tape(box.left() + name_wide, box.top() + 14, std::max(60.0, box.width() - name_wide - 30), 12);
  p.fillRect(tape, t.track);
  const std::vector<std::string>& values = rows_[row].marks;
  const bool falls = move.marks.back().at < move.marks.front().at;  // it begins on the left all the same
  std::vector<std::pair<double, double>> taken;                     // by labels that stand
  for (std::size_t k = 0; k < move.marks.size(); ++k) {
    const double along = high > low ? (move.marks[k].at - low) / (high - low) : 0.0;
    const double x = tape.left() + (falls ? 1.0 - along : along) * tape.width();
    p.setPen(QPen(t.accent, k == 0 || k + 1 == move.marks.size() ? 2.2 : 1.4));
    p.drawLine(QPointF(x, tape.top() - 2), QPointF(x, tape.bottom() + 2));
    const QString label = tidyMinus(q(values[k]));
    const double wide = QFontMetricsF(numberFont(10)).horizontalAdvance(label) + 4;
    // Where marks crowd, the others are told on paper and to assistive programs.
    const bool crowded = std::any_of(taken.begin(), taken.end(), [&](const auto& other) {
      return x - 0.5 * wide < other.second && x + 0.5 * wide > other.first;
    });
    if (crowded) continue;
    taken.emplace_back(x - 0.5 * wide, x + 0.5 * wide);
    drawText(p, {x - 0.5 * wide, tape.top() - 15, wide, 13}, Qt::AlignCenter, label, numberFont(10), t.ink);
  }
  double y = tape.bottom() + 3;
  for (const QString& line : rows_[row].lines) {
    drawText(p, {tape.left(), y, tape.width() + 28, 14}, Qt::AlignLeft | Qt::AlignVCenter, line, textFont(10.5),
             t.quiet);
    y += text_high;
  }
}

void HandPanel::wheelEvent(QWheelEvent* event) {
  scrollTo(scroll_ - 0.5 * event->angleDelta().y());
  event->accept();
}

void HandPanel::keyPressEvent(QKeyEvent* event) {
  constexpr double pageStep = 60;
  if (event->key() == Qt::Key_Down) return scrollTo(scroll_ + pageStep);
  if (event->key() == Qt::Key_Up) return scrollTo(scroll_ - pageStep);
  QWidget::keyPressEvent(event);
}

}  // namespace cinnabar
