#include "cinnabar/desktop/pages/takes_page.h"

#include <QDateTime>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLineEdit>
#include <QMouseEvent>
#include <QVBoxLayout>
#include <QWheelEvent>
#include <cmath>
#include <map>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/planning/order.h"
#include "cinnabar/takes/log.h"

namespace cinnabar {
namespace {
constexpr int tableTop = 46;  // of the shot's takes, under their headings
}  // namespace

TakeTables::TakeTables(Part part, Session* session, QWidget* parent)
    : Painted(
          part == Part::prediction ? "prediction"
          : part == Part::spot     ? "everyTake"
                                   : "shotTakes",
          part == Part::prediction ? tr("How many more")
          : part == Part::spot     ? tr("Every take of the spot")
                                   : tr("What changed and what came of it"),
          part == Part::shot
              ? tr("Up and down choose a take, K and D keep and drop it, Enter types its reasons and note, Delete "
                   "takes it out; S sorts, O shows those with one thing changed")
              : QString(),
          parent),
      part_(part),
      session_(session) {
  if (part != Part::shot) setFocusPolicy(Qt::NoFocus);
  connect(session_, &Session::shotChanged, this, [this] { taken_.reset(); });
  connect(session_, &Session::changed, this, [this] { update(); });
  connect(session_, &Session::shotChanged, this, [this] { scroll_ = part_ == Part::shot ? 0 : scroll_; });
  connect(session_, &Session::takeChanges, this,
          [this](const QString& id, const QList<TakeChange>& per, const TakeChange&) {
            changes_ = per;
            changesFor_ = id;
            update();
          });
}

void TakeTables::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  if (part_ == Part::prediction) {
    drawPanel(p, rect());
    paintPrediction(p);
  } else if (part_ == Part::spot) {
    paintSpot(p);
  } else {
    paintShot(p);
  }
}

void TakeTables::paintPrediction(QPainter& p) {
  const Theme& t = theme();
  drawText(p, {16, 12, 200, 18}, Qt::AlignLeft | Qt::AlignVCenter, tr("How many more"), textFont(13, true), t.ink);
  const Shot* shot = session_->shot();
  if (!shot) return;
  const ShotLog log = shot_log(session_->project(), *shot);
  drawText(p, {16, 34, width() - 32.0, 16}, Qt::AlignLeft | Qt::AlignVCenter,
           tr("%1 tried, %2 kept, %3 more wanted").arg(log.tried).arg(log.kept).arg(log.further()), textFont(12),
           t.quiet);
  const auto left = log.left();
  if (!left) {
    drawText(p, {16, 60, width() - 32.0, 22}, Qt::AlignLeft | Qt::AlignVCenter,
             tr("Done: %1 kept of %2 wanted").arg(log.kept).arg(log.wanted), textFont(15), t.good);
    return paintDone(p, log);
  }
  const QString number =
      left->expected ? q(number_text(std::ceil(*left->expected - 1e-9), 4)) : QStringLiteral("?");
  const double w = QFontMetricsF(textFont(44, true)).horizontalAdvance(number);
  drawText(p, {16, 66, w + 4, 54}, Qt::AlignLeft | Qt::AlignVCenter, number, textFont(44, true), t.ink);
  drawText(p, {30 + w, 74, 190, 18}, Qt::AlignLeft | Qt::AlignVCenter,
           left->expected ? tr("further takes expected") : tr("no telling before one is kept"), textFont(12),
           t.ink);
  const QString half = left->median ? q(number_text(*left->median, 6)) : tr("no end"),
                nine = left->ninety ? q(number_text(*left->ninety, 6)) : tr("no end");
  drawText(p, {30 + w, 94, 200, 18}, Qt::AlignLeft | Qt::AlignVCenter,
           tr("half of days by %1, nine in ten by %2").arg(half, nine), textFont(11), t.quiet);
  if (left->median) {
    const double minutes = minutes_for(*shot, *left->median);
    drawText(p, {30 + w, 112, 220, 16}, Qt::AlignLeft | Qt::AlignVCenter,
             shot->reset_minutes > 0
                 ? tr("%1 min with %2 min to reset")
                       .arg(q(number_text(std::ceil(minutes), 4)), q(number_text(shot->reset_minutes, 3)))
                 : tr("%1 min, no time to reset said").arg(q(number_text(std::ceil(minutes), 4))),
             textFont(11), t.quiet);
  }
  const auto chances = takes_left_chances({.tried = static_cast<double>(log.tried),
                                           .kept = static_cast<double>(log.kept),
                                           .wanted = static_cast<double>(log.further())},
                                          14);
  if (!chances) return;
  const double x0 = width() - 16 - 14 * 17.0, floor = 138;
  const double most = *std::max_element(chances->begin(), chances->end());
  double sum = 0;
  for (std::size_t i = 0; i < chances->size() && x0 > 250; ++i) {
    const double h = most > 0 ? (*chances)[i] / most * 92 : 0;
    const QRectF bar(x0 + 17.0 * static_cast<double>(i), floor - h, 12, h);
    p.fillRect(bar, sum < 0.9 ? t.good : t.line);
    sum += (*chances)[i];
    drawText(p, {bar.left() - 3, floor + 3, 18, 12}, Qt::AlignCenter, QString::number(i + 1), numberFont(9),
             t.quiet);
  }
  p.setPen(QPen(t.quiet, 1));
  if (x0 > 250) p.drawLine(QPointF(x0 - 4, floor), QPointF(width() - 16.0, floor));
  drawText(p, {16, 160, width() - 32.0, 16}, Qt::AlignLeft | Qt::AlignVCenter,
           tr("Reckoned from this shot's own log; each further take is as likely to be kept as those before."),
           textFont(11), t.quiet);
}

namespace {

/// Reasons of the takes that were kept, or dropped, the most frequent first: "slider bumped (2), lid too dark".
QString reasonsOf(const ShotLog& log, bool kept) {
  std::map<std::string, int> counts;
  for (const auto& take : log.takes)
    if (take->kept == kept) {
      for (const std::string& reason : take->reasons) ++counts[reason];
      if (take->reasons.empty() && !take->notes.empty()) ++counts[take->notes];
    }
  std::vector<std::pair<std::string, int>> list(counts.begin(), counts.end());
  std::stable_sort(list.begin(), list.end(), [](const auto& a, const auto& b) { return a.second > b.second; });
  QStringList words;
  for (const auto& [reason, count] : list)
    words << q(reason) + (count > 1 ? QString(" (%1)").arg(count) : QString());
  return words.join(", ");
}

}  // namespace

/// A shot that is done: why takes were kept and dropped, and what of the spot is to be taken next.
void TakeTables::paintDone(QPainter& p, const ShotLog& log) {
  const Theme& t = theme();
  double y = 94;
  const auto told = [&](const QString& name, const QString& words) {
    if (words.isEmpty() || y > height() - 20.0) return;
    drawText(p, {16, y, width() - 32.0, 16}, Qt::AlignLeft | Qt::AlignVCenter, name, textFont(11), t.quiet);
    drawText(p, {16, y + 16, width() - 32.0, 18}, Qt::AlignLeft | Qt::AlignVCenter, words, textFont(12.5), t.ink);
    y += 44;
  };
  told(tr("Kept because"), reasonsOf(log, true));
  told(tr("Dropped because"), reasonsOf(log, false));
  const Project& project = session_->project();
  QStringList open;
  for (const std::size_t i : shooting_order(project)) {
    const ShotLog other = shot_log(project, *project.shots[i]);
    if (other.further() > 0)
      open << tr("%1 %2: %3 more wanted").arg(i + 1).arg(q(project.shots[i]->name)).arg(other.further());
  }
  told(tr("Next of the spot, in the order of shooting"),
       open.isEmpty() ? tr("nothing: every shot has its keepers") : open.mid(0, 3).join(";  "));
}

void TakeTables::paintSpot(QPainter& p) {
  const Theme& t = theme();
  drawText(p, {16, 12, 240, 18}, Qt::AlignLeft | Qt::AlignVCenter, tr("Every take of the spot"),
           textFont(13, true), t.ink);
  drawText(p, {width() - 216.0, 12, 200, 18}, Qt::AlignRight | Qt::AlignVCenter, tr("tall is kept"), textFont(11),
           t.quiet);
  p.setClipRect(QRectF(1, 34, width() - 2.0, height() - 36.0));
  const Project& project = session_->project();
  if (project.shots.empty())
    drawText(p, {16, 40, width() - 32.0, 18}, Qt::AlignLeft | Qt::AlignVCenter, tr("No shots yet"), textFont(12),
             t.quiet);
  for (std::size_t i = 0; i < project.shots.size(); ++i) {
    const double y = 38 + 34.0 * (static_cast<double>(i) - scroll_);
    if (y < 0 || y > height()) continue;
    const bool chosen = i == session_->shotIndex();
    const ShotLog log = shot_log(project, *project.shots[i]);
    drawText(p, {16, y, 20, 24}, Qt::AlignLeft | Qt::AlignVCenter, QString::number(i + 1), numberFont(12, true),
             chosen ? t.accent : t.ink);
    drawText(p, {38, y, 160, 24}, Qt::AlignLeft | Qt::AlignVCenter, q(project.shots[i]->name),
             textFont(12, chosen), t.ink);
    const double room = width() - 210 - 110.0, step = std::min(14.0, room / std::max(1, log.tried));
    for (std::size_t k = 0; k < log.takes.size(); ++k) {
      const bool kept = log.takes[k]->kept;
      const double h = kept ? 20 : 10;
      p.fillRect(QRectF(210 + step * static_cast<double>(k), y + 23 - h, std::max(1.0, step * 0.55), h),
                 kept ? t.good : t.quiet);
    }
    drawText(p, {width() - 106.0, y, 90, 24}, Qt::AlignRight | Qt::AlignVCenter,
             log.further() == 0 ? tr("done")
             : log.tried == 0   ? tr("%1 wanted").arg(log.further())
                                : tr("%1 more").arg(log.further()),
             textFont(11), log.further() ? t.ink : t.quiet);
    p.setPen(QPen(t.line, 1));
    p.drawLine(QPointF(16, y + 29), QPointF(width() - 16.0, y + 29));
  }
}

void TakeTables::paintShot(QPainter& p) {
  const Theme& t = theme();
  const Shot* shot = session_->shot();
  if (!shot) return;
  drawText(p, {16, 6, width() - 190.0, 18}, Qt::AlignLeft | Qt::AlignVCenter,
           tr("Shot %1, what changed and what came of it").arg(session_->shotIndex() + 1), textFont(13, true),
           t.ink);
  const ShotLog log = shot_log(session_->project(), *shot);
  if (log.takes.empty())
    return drawText(p, {16, 34, width() - 32.0, 18}, Qt::AlignLeft | Qt::AlignVCenter, tr("No take logged yet"),
                    textFont(12), t.quiet);
  const QString names[] = {tr("take"), tr("changed"), tr("kept"), tr("because"), tr("one thing at a time")};
  const TakeOrder orders[] = {order_ == TakeOrder::oldest ? TakeOrder::oldest : TakeOrder::newest,
                              TakeOrder::fewest_changes, TakeOrder::kept_first, TakeOrder::reason};
  for (int c = 0; c < 5; ++c) {
    const bool on = c < 4 ? order_ == orders[c] : onlyOne_;
    QFont font = textFont(11, on);
    font.setUnderline(on);
    drawText(p, heading(c), (c == 4 ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter, names[c], font,
             on ? t.accent : t.quiet);
  }
  p.setClipRect(QRectF(1, tableTop - 2, width() - 2.0, height() - tableTop));
  const double middle = width() * 0.48;
  const auto shown = rows();
  if (shown.empty())
    drawText(p, {16, tableTop + 4.0, width() - 32.0, 18}, Qt::AlignLeft | Qt::AlignVCenter,
             tr("No take with just one thing changed"), textFont(12), t.quiet);
  for (std::size_t row = 0; row < shown.size(); ++row) {
    const std::size_t k = shown[row];
    const double y = topOf(row);
    if (y < tableTop - 30 || y > height()) continue;
    const Take& take = *log.takes[k];
    if (taken_ == k) {
      p.setPen(QPen(hasFocus() ? t.accent : t.quiet, 1, Qt::DotLine));
      p.setBrush(t.track);
      p.drawRect(QRectF(10, y - 2, width() - 20.0, 26));
    }
    const bool known = changesFor_ == q(shot->id) && static_cast<qsizetype>(k) < changes_.size();
    QString came;
    for (const std::string& r : take.reasons) came += (came.isEmpty() ? "" : ", ") + q(r);
    if (!take.notes.empty()) came += (came.isEmpty() ? "" : "; ") + q(take.notes);
    drawText(p, {16, y, 26, 22}, Qt::AlignLeft | Qt::AlignVCenter, QString::number(take.number),
             numberFont(12, true), t.ink);
    drawText(p, {46, y, middle - 54, 22}, Qt::AlignLeft | Qt::AlignVCenter,
             changeWords(known ? changes_[static_cast<qsizetype>(k)] : TakeChange()), textFont(12), t.ink);
    drawText(p, {middle, y, 70, 22}, Qt::AlignLeft | Qt::AlignVCenter, take.kept ? tr("kept") : tr("dropped"),
             textFont(12, take.kept), take.kept ? t.good : t.quiet);
    drawText(p, {middle + 76, y, width() - middle - 92, 22}, Qt::AlignLeft | Qt::AlignVCenter, came, textFont(12),
             t.quiet);
    p.setPen(QPen(t.line, 1));
    p.drawLine(QPointF(16, y + 25), QPointF(width() - 16.0, y + 25));
  }
}

std::vector<ToldPart> TakeTables::parts() const {
  std::vector<ToldPart> list;
  const Shot* shot = session_->shot();
  if (part_ != Part::shot || !shot) return list;
  const ShotLog log = shot_log(session_->project(), *shot);
  const auto shown = rows();
  for (std::size_t row = 0; row < shown.size(); ++row) {
    const std::size_t place = shown[row];
    const Take& t = *log.takes[place];
    QStringList why;
    for (const std::string& r : t.reasons) why << q(r);
    list.push_back({tr("Take %1").arg(t.number),
                    (t.kept ? tr("kept") : tr("dropped")) + (why.isEmpty() ? QString() : ": " + why.join(", ")),
                    QRectF(8, topOf(row), width() - 16.0, 30).toRect(), taken_ == place});
  }
  return list;
}

void TakeTables::take(std::optional<std::size_t> place) {
  taken_ = place;
  const Shot* shot = session_->shot();
  if (taken_ && (!shot || *taken_ >= shot_log(session_->project(), *shot).takes.size())) taken_.reset();
  update();
  tellChosenPart();
}

QRectF TakeTables::heading(int column) const {
  const double middle = width() * 0.48;
  switch (column) {
    case 0:
      return {16, 26, 30, 16};
    case 1:
      return {46, 26, middle - 60, 16};
    case 2:
      return {middle, 26, 70, 16};
    case 3:
      return {middle + 76, 26, width() - middle - 92, 16};
    default:
      return {width() - 176.0, 7, 160, 16};
  }
}

std::vector<std::size_t> TakeTables::rows() const {
  const Shot* shot = session_->shot();
  if (!shot) return {};
  std::vector<std::optional<std::size_t>> changes;
  const bool known = changesFor_ == q(shot->id);
  for (qsizetype k = 0; known && k < changes_.size(); ++k) changes.push_back(changes_[k].count());
  return ordered_takes(shot_log(session_->project(), *shot), order_, changes, onlyOne_);
}

void TakeTables::sortBy(TakeOrder order) {
  order_ = order;
  scroll_ = 0;
  update();
}
void TakeTables::onlyOne(bool on) {
  onlyOne_ = on;
  scroll_ = 0;
  update();
}

std::string TakeTables::pointer() const {
  const auto takes = shot_log(session_->project(), *session_->shot()).takes;
  if (!taken_ || *taken_ >= takes.size()) return {};
  const auto& all = session_->project().takes;
  const auto at = std::find(all.begin(), all.end(), takes[*taken_]);
  return at == all.end() ? std::string() : "/takes/" + std::to_string(at - all.begin());
}

double TakeTables::rowTop(std::size_t place) const {
  const auto shown = rows();
  return topOf(static_cast<std::size_t>(std::find(shown.begin(), shown.end(), place) - shown.begin()));
}
double TakeTables::topOf(std::size_t row) const { return tableTop + 30.0 * (static_cast<double>(row) - scroll_); }

void TakeTables::setKept(bool kept) {
  if (const std::string at = pointer(); !at.empty())
    session_->keep(kept ? tr("An earlier take kept") : tr("An earlier take dropped"), {{at + "/kept", kept}});
}

void TakeTables::remove() {
  const std::string at = pointer();
  if (at.empty()) return;
  const auto place = taken_;
  if (session_->keep(tr("Take out of the log"), {{at, std::nullopt}}))
    take(place && *place > 0 ? std::optional(*place - 1) : place);
}

void TakeTables::edit() {
  if (!taken_ || !session_->shot()) return;
  if (!editor_) {
    editor_ = new QLineEdit(this);
    editor_->setObjectName("takeEditor");
    editor_->setAccessibleName(tr("Reasons between commas; after a semicolon a note"));
    connect(editor_, &QLineEdit::returnPressed, this, [this] { entering_ = true; });
    connect(editor_, &QLineEdit::editingFinished, this, &TakeTables::finishEdit);
  }
  const Take& of = *shot_log(session_->project(), *session_->shot()).takes[*taken_];
  QStringList reasons;
  for (const std::string& r : of.reasons) reasons << q(r);
  editor_->setText(reasons.join(", ") + (of.notes.empty() ? QString() : "; " + q(of.notes)));
  const double middle = width() * 0.48;
  editor_->setGeometry(static_cast<int>(middle + 72), static_cast<int>(rowTop(*taken_)) - 1,
                       static_cast<int>(width() - middle - 86), 24);
  editor_->show();
  editor_->setFocus();
  editor_->selectAll();
}

void TakeTables::finishEdit() {
  if (!editor_->isVisible()) return;
  const QString text = editor_->text();
  editor_->hide();
  setFocus();
  const std::string at = pointer();
  if (at.empty()) return;
  const qsizetype semicolon = text.indexOf(';');
  Json reasons = Json::array();
  for (const QString& r : text.left(semicolon < 0 ? text.size() : semicolon).split(',', Qt::SkipEmptyParts))
    if (!r.trimmed().isEmpty()) reasons.push_back(r.trimmed().toStdString());
  const std::string note = semicolon < 0 ? std::string() : text.mid(semicolon + 1).trimmed().toStdString();
  session_->keep(tr("Take's reasons"), {{at + "/reasons", reasons}, {at + "/notes", note}});
}

void TakeTables::mouseDoubleClickEvent(QMouseEvent*) {
  if (part_ == Part::shot) edit();
}

void TakeTables::keyPressEvent(QKeyEvent* event) {
  if (part_ != Part::shot || !session_->shot()) return QWidget::keyPressEvent(event);
  const std::size_t count = shot_log(session_->project(), *session_->shot()).takes.size();
  const bool enter = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
  if (enter && std::exchange(entering_, false)) return;
  if (count == 0) return QWidget::keyPressEvent(event);
  if (enter) return edit();
  const auto shown = rows();
  const auto at = taken_ ? std::find(shown.begin(), shown.end(), *taken_) : shown.end();
  switch (event->key()) {
    case Qt::Key_Up:
      return take(shown.empty()
                      ? std::nullopt
                      : std::optional(at == shown.end() || at == shown.begin() ? shown.front() : at[-1]));
    case Qt::Key_Down:
      return take(shown.empty()           ? std::nullopt
                  : at == shown.end()     ? std::optional(shown.front())
                  : at + 1 == shown.end() ? std::optional(shown.back())
                                          : std::optional(at[1]));
    case Qt::Key_S:
      return sortBy(static_cast<TakeOrder>((static_cast<int>(order_) + 1) % 5));
    case Qt::Key_O:
      return onlyOne(!onlyOne_);
    case Qt::Key_K:
      return setKept(true);
    case Qt::Key_D:
      return setKept(false);
    case Qt::Key_Delete:
      return remove();
    case Qt::Key_Escape:
      return take(std::nullopt);
    default:
      return QWidget::keyPressEvent(event);
  }
}

void TakeTables::mousePressEvent(QMouseEvent* event) {
  if (part_ == Part::shot && session_->shot()) {
    static constexpr TakeOrder orders[] = {TakeOrder::newest, TakeOrder::fewest_changes, TakeOrder::kept_first,
                                           TakeOrder::reason};
    for (int c = 0; c < 4; ++c)
      if (heading(c).contains(event->position()))
        return sortBy(c == 0 && order_ == TakeOrder::newest ? TakeOrder::oldest : orders[c]);
    if (heading(4).contains(event->position())) return onlyOne(!onlyOne_);
    const auto shown = rows();
    const double row = std::floor((event->position().y() - tableTop + 2) / 30) + scroll_;
    return take(event->position().y() >= tableTop - 2 && row >= 0 && row < static_cast<double>(shown.size())
                    ? std::optional(shown[static_cast<std::size_t>(row)])
                    : std::nullopt);
  }
  if (part_ != Part::spot) return;
  const int row = static_cast<int>(std::floor((event->position().y() - 36) / 34)) + scroll_;
  if (row >= 0 && row < static_cast<int>(session_->project().shots.size()))
    session_->selectShot(static_cast<std::size_t>(row));
}
void TakeTables::wheelEvent(QWheelEvent* event) {
  if (part_ == Part::prediction || !session_->shot()) return event->ignore();
  const int all =
      part_ == Part::spot ? static_cast<int>(session_->project().shots.size()) : static_cast<int>(rows().size());
  const int shown = (height() - 40) / (part_ == Part::spot ? 34 : 30);
  scroll_ = std::clamp(scroll_ + (event->angleDelta().y() < 0 ? 1 : -1), 0, std::max(0, all - shown));
  update();
}

TakesPage::TakesPage(Session* session, Foresight* foresight, QWidget* parent)
    : WindowPage(parent), session_(session) {
  setObjectName("takes");
  next_ = new NextTake(session, foresight, this);
  auto* prediction = new TakeTables(TakeTables::Part::prediction, session, this);
  auto* right = new Panel(this);
  auto* tables = new QVBoxLayout(right);
  tables->setContentsMargins(0, 0, 0, 4);
  tables->setSpacing(4);
  tables->addWidget(new TakeTables(TakeTables::Part::spot, session, right), 55);
  tables->addWidget(new TakeTables(TakeTables::Part::shot, session, right), 45);
  auto* leftColumn = new QVBoxLayout;
  leftColumn->setSpacing(10);
  leftColumn->addWidget(next_, 62);
  leftColumn->addWidget(prediction, 38);
  auto* all = new QHBoxLayout(this);
  all->setContentsMargins(20, 10, 20, 4);
  all->setSpacing(12);
  all->addLayout(leftColumn, 46);
  all->addWidget(right, 54);
  connect(session_, &Session::shotChanged, this, &TakesPage::ask);
  connect(session_, &Session::changed, this, [this] {
    if (isVisible() && !session_->previewing()) ask();
  });
}

void TakesPage::ask() {
  if (session_->shot() && isVisible()) session_->askTakeChanges(session_->shot()->id);
}
void TakesPage::showEvent(QShowEvent*) {
  ask();
  next_->setFocus();
}
void TakesPage::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.fillRect(rect(), theme().ground);
}

}  // namespace cinnabar
