#include "cinnabar/desktop/ways/modes_panel.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/ways/way_cards.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

constexpr double head_high = 28, titles_high = 14, mode_high = 17, foot_high = 18, cell_wide = 22;
/// Columns before the shots: their left edges as shares of what is left for them.
constexpr double columns[] = {0.0, 0.40, 0.56, 0.70, 0.84};

}  // namespace

ModesPanel::ModesPanel(Session* session, QWidget* parent)
    : Painted("modesPanel", tr("The cameras' modes"),
              tr("Arrows go through modes and shots, Enter records the shot in that mode"), parent),
      session_(session) {
  best_ = new WordButton(tr("Take the best"), WordButton::Look::plain, this);
  best_->setObjectName("modesBest");
  best_->setCheckable(false);
  best_->setToolTip(
      tr("For every shot the mode that lacks least, then costs least light, with the fewest changes"));
  connect(best_, &WordButton::clicked, this, &ModesPanel::takeBest);
  connect(session, &Session::changed, this, [this] {
    if (isVisible() && !session_->previewing()) refresh();
  });
  connect(session, &Session::shotChanged, this, [this] {
    if (isVisible()) lookAtShot();
  });
}

void ModesPanel::refresh() {
  table_ = mode_table(session_->project());
  best_->setEnabled(!table_.rows.empty() && table_.best != table_.used);
  choose(row_, shot_);
}

/// The cell in hand is that of the shot in hand, in the mode that it is recorded in.
void ModesPanel::lookAtShot() {
  refresh();
  const std::size_t shot = session_->shotIndex();
  choose(shot < table_.used.size() ? table_.used[shot].value_or(row_) : row_, shot);
}

std::size_t ModesPanel::rowsShown() const {
  return static_cast<std::size_t>(std::max(1.0, (height() - head_high - titles_high - foot_high) / mode_high));
}
std::size_t ModesPanel::shotsShown() const {
  return static_cast<std::size_t>(std::max(1.0, (0.45 * width()) / cell_wide));
}

QRectF ModesPanel::cellBox(std::size_t row, std::size_t shot) const {
  const double shots = cell_wide * static_cast<double>(std::min(shotsShown(), table_.used.size()));
  return {width() - 10 - shots + cell_wide * (static_cast<double>(shot) - static_cast<double>(first_shot_)),
          head_high + titles_high + mode_high * (static_cast<double>(row) - static_cast<double>(first_row_)),
          cell_wide, mode_high};
}

QString ModesPanel::cellWords(std::size_t row, std::size_t shot) const {
  if (row >= table_.rows.size() || shot >= table_.used.size()) return {};
  const ModeRow& r = table_.rows[row];
  QStringList lacks;
  for (const std::string& one : r.fits[shot].lacks) lacks << q(one);
  const QString name = q(mode_text(*r.mode));
  const QString fit = lacks.isEmpty() ? tr("Shot %1 in %2: gives what it needs").arg(shot + 1).arg(name)
                                      : tr("Shot %1 in %2 lacks %3").arg(shot + 1).arg(name, lacks.join("; "));
  return fit + (table_.used[shot] == row ? tr("; recorded in it now") : QString()) +
         (table_.best[shot] == row ? tr("; the best for it") : QString()) + "; " +
         q(slowing_text(r.mode->rate, session_->project().timeline_rate));
}

std::vector<ToldPart> ModesPanel::parts() const {
  std::vector<ToldPart> list;
  for (std::size_t r = first_row_; r < std::min(table_.rows.size(), first_row_ + rowsShown()); ++r)
    for (std::size_t s = first_shot_; s < std::min(table_.used.size(), first_shot_ + shotsShown()); ++s)
      list.push_back({cellWords(r, s), {}, cellBox(r, s).toRect(), r == row_ && s == shot_});
  return list;
}

void ModesPanel::choose(std::size_t row, std::size_t shot) {
  if (!table_.rows.empty()) row_ = std::min(row, table_.rows.size() - 1);
  if (!table_.used.empty()) shot_ = std::min(shot, table_.used.size() - 1);
  first_row_ = std::clamp(first_row_, row_ + 1 > rowsShown() ? row_ + 1 - rowsShown() : 0, row_);
  first_shot_ = std::clamp(first_shot_, shot_ + 1 > shotsShown() ? shot_ + 1 - shotsShown() : 0, shot_);
  update();
  tellChosenPart();
}

/// Camera and mode, the shutter's angle kept.
Session::Values ModesPanel::recorded(std::size_t row, std::size_t shot) const {
  const Shot& of = *session_->project().shots[shot];
  const ModeRow& r = table_.rows[row];
  if (!of.camera || table_.used[shot] == row) return {};
  const std::string camera = "/shots/" + std::to_string(shot) + "/camera";
  const double rate = shot_optics(session_->project(), of).rate;
  return {{camera + "/camera", r.body->id},
          {camera + "/mode", r.mode->id},
          {camera + "/shutter_time", angle_kept(of.camera->shutter_time, rate, r.mode->rate)}};
}

void ModesPanel::take(std::size_t row, std::size_t shot) {
  if (row >= table_.rows.size() || shot >= table_.used.size()) return;
  const Session::Values values = recorded(row, shot);
  if (!values.empty())
    session_->keep(tr("Shot %1 in %2").arg(shot + 1).arg(q(mode_text(*table_.rows[row].mode))), values);
}

void ModesPanel::takeBest() {
  Session::Values all;
  for (std::size_t s = 0; s < table_.best.size(); ++s)
    if (table_.best[s]) {
      const Session::Values own = recorded(*table_.best[s], s);
      all.insert(all.end(), own.begin(), own.end());
    }
  if (!all.empty()) session_->keep(tr("The best mode for every shot"), all);
}

void ModesPanel::paintEvent(QPaintEvent*) {
  drawWaysHead(*this, tr("Modes"),
               tr("%1 over the spot, %2 with the best")
                   .arg(counted(table_.changes, tr("%1 change"), tr("%1 changes")))
                   .arg(table_.best_changes));
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  if (table_.rows.empty()) {
    drawText(p, QRectF(10, head_high, width() - 20.0, 20), Qt::AlignLeft | Qt::AlignVCenter,
             tr("The kit has no camera with a mode; add one on the Kit"), textFont(11), t.quiet);
    return;
  }
  const double left = 10, room = cellBox(first_row_, first_shot_).left() - left - 8;
  const auto column = [&](std::size_t k, double y, const QString& text, const QFont& font, const QColor& ink) {
    const double from = left + columns[k] * room,
                 to = left + (k + 1 < std::size(columns) ? columns[k + 1] : 1.0) * room;
    drawText(p, {from, y, to - from - 6, mode_high}, Qt::AlignLeft | Qt::AlignVCenter, text, font, ink);
  };
  const QString titles[] = {tr("camera, mode"), tr("looks like"), tr("plays at"), tr("light"), tr("writes")};
  for (std::size_t k = 0; k < std::size(columns); ++k) column(k, head_high - 2, titles[k], textFont(10), t.quiet);
  const std::size_t last_shot = std::min(table_.used.size(), first_shot_ + shotsShown());
  for (std::size_t s = first_shot_; s < last_shot; ++s)
    drawText(p, cellBox(first_row_, s).translated(0, -mode_high + 1), Qt::AlignCenter, QString::number(s + 1),
             numberFont(10, s == session_->shotIndex()), s == session_->shotIndex() ? t.accent : t.quiet);
  const Shot* shot = session_->shot();
  for (std::size_t r = first_row_; r < std::min(table_.rows.size(), first_row_ + rowsShown()); ++r) {
    const ModeRow& row = table_.rows[r];
    const double y = cellBox(r, first_shot_).top();
    const auto focal = shot ? looks_like(session_->project(), *shot, row) : std::nullopt;
    column(0, y, tr("%1  %2").arg(q(name_or(row.body->name, row.body->id)), q(mode_text(*row.mode))), textFont(11),
           t.ink);
    column(1, y, focal ? tr("%1 mm").arg(q(number_text(1e3 * *focal, 3))) : QString(), numberFont(10), t.ink);
    column(2, y, tr("%1 %").arg(q(number_text(100 * row.slowed, 3))), numberFont(10), t.ink);
    column(3, y, row.light_stops > 0 ? tidyMinus(q(fixed_text(-row.light_stops, 1))) : QStringLiteral("0"),
           numberFont(10), t.ink);
    column(
        4, y,
        row.mode->megabits_per_s > 0 ? tr("%1 Mb/s").arg(q(number_text(row.mode->megabits_per_s, 3))) : QString(),
        numberFont(10), t.ink);
    for (std::size_t s = first_shot_; s < last_shot; ++s) {
      const QRectF cell = cellBox(r, s);
      if (r == row_ && s == shot_) {
        p.setPen(QPen(hasFocus() ? t.accent : t.line, 1));
        p.setBrush(Qt::NoBrush);
        p.drawRect(cell.adjusted(1.5, 1.5, -1.5, -1.5));
      }
      const QPointF middle = cell.center();
      const bool fits = row.fits[s].lacks.empty(), used = table_.used[s] == r;
      // What serves is a tick, what does not a short stroke; what is recorded in stands on a ground of its own.
      if (used) p.fillRect(cell.adjusted(3, 3, -3, -3), fits ? t.selected : t.accent);
      const QColor ink = used ? t.onSelected : fits ? t.good : t.quiet;
      p.setPen(QPen(ink, fits ? 1.8 : 1.2, Qt::SolidLine, Qt::RoundCap));
      if (fits) {
        p.drawLine(middle + QPointF(-3.5, 0), middle + QPointF(-1, 2.5));
        p.drawLine(middle + QPointF(-1, 2.5), middle + QPointF(4, -3));
      } else {
        p.drawLine(middle + QPointF(-3, 0), middle + QPointF(3, 0));
      }
      if (table_.best[s] == r && !used) {
        p.setPen(Qt::NoPen);
        p.setBrush(t.leaning);
        p.drawEllipse(QPointF(cell.right() - 4, cell.top() + 4), 1.8, 1.8);
      }
    }
  }
  drawText(p, QRectF(left, height() - foot_high, width() - 20.0, foot_high - 3), Qt::AlignLeft | Qt::AlignVCenter,
           cellWords(row_, shot_), textFont(11), t.ink);
  if (hasFocus()) drawFocus(p, QRectF(rect()).adjusted(2, 2, -2, -2));
}

void ModesPanel::resizeEvent(QResizeEvent*) {
  best_->adjustSize();
  best_->setGeometry(width() - best_->sizeHint().width() - 8, 4, best_->sizeHint().width(), 20);
  choose(row_, shot_);
}

void ModesPanel::mousePressEvent(QMouseEvent* event) {
  setFocus();
  for (std::size_t r = first_row_; r < std::min(table_.rows.size(), first_row_ + rowsShown()); ++r)
    for (std::size_t s = first_shot_; s < std::min(table_.used.size(), first_shot_ + shotsShown()); ++s)
      if (cellBox(r, s).contains(event->position())) {
        const bool again = r == row_ && s == shot_;
        choose(r, s);
        if (again) take(r, s);  // the first click says what it would lack, the second takes it
        return;
      }
}

void ModesPanel::wheelEvent(QWheelEvent* event) {
  if (event->angleDelta().y() < 0)
    choose(row_ + 1, shot_);
  else if (row_ > 0)
    choose(row_ - 1, shot_);
  event->accept();
}

void ModesPanel::keyPressEvent(QKeyEvent* event) {
  switch (event->key()) {
    case Qt::Key_Up:
      return choose(row_ > 0 ? row_ - 1 : 0, shot_);
    case Qt::Key_Down:
      return choose(row_ + 1, shot_);
    case Qt::Key_Left:
      return choose(row_, shot_ > 0 ? shot_ - 1 : 0);
    case Qt::Key_Right:
      return choose(row_, shot_ + 1);
    case Qt::Key_Return:
    case Qt::Key_Enter:
    case Qt::Key_Space:
      return take(row_, shot_);
    default:
      QWidget::keyPressEvent(event);
  }
}

}  // namespace cinnabar
