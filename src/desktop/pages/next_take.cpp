// The next take: how many are still to be expected, and the keys that log one.
#include <QDateTime>
#include <QKeyEvent>
#include <QMouseEvent>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/pages/takes_page.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/takes/log.h"

namespace cinnabar {
namespace {

constexpr int offered = 8;

}  // namespace

QString changeWords(const TakeChange& change) {
  if (!change.known) return QObject::tr("not known");
  if (change.first) return QObject::tr("first");
  return change.what.isEmpty() ? QObject::tr("nothing") : change.what.join(", ");
}

NextTake::NextTake(Session* session, Foresight* foresight, QWidget* parent)
    : Painted("nextTake", tr("Next take"), tr("K keeps the take, D drops it, 1 to 8 mark reasons"), parent),
      session_(session),
      foresight_(foresight) {
  setMinimumSize(430, 300);
  connect(session_, &Session::changed, this, [this] {
    refreshReasons();
    update();
  });
  connect(session_, &Session::shotChanged, this, [this] {
    chosen_.clear();
    since_ = {};
  });
  connect(foresight_, &Foresight::glances, this, [this] { update(); });
  connect(session_, &Session::takeChanges, this,
          [this](const QString& id, const QList<TakeChange>&, const TakeChange& since) {
            if (!session_->shot() || q(session_->shot()->id) != id) return;
            since_ = since;
            update();
          });
  refreshReasons();
}

void NextTake::refreshReasons() {
  reasons_ = session_->shot() ? reasons_offered(session_->project(), *session_->shot(), offered)
                              : std::vector<std::string>{};
}

QRectF NextTake::keepBox() const { return {16, 222, (width() - 44) / 2.0, 58}; }
QRectF NextTake::dropBox() const { return {28 + (width() - 44) / 2.0, 222, (width() - 44) / 2.0, 58}; }
QRectF NextTake::reasonBox(int n) const {
  const double w = (width() - 32) / 4.0;
  return {16 + w * ((n - 1) % 4), 292.0 + 26 * ((n - 1) / 4), w - 6, 22};
}

void NextTake::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  drawPanel(p, rect());
  drawText(p, {16, 12, 100, 16}, Qt::AlignLeft | Qt::AlignVCenter, tr("Next"), textFont(12), t.quiet);
  const Shot* shot = session_->shot();
  if (!shot)
    return drawText(p, {16, 40, width() - 32.0, 20}, Qt::AlignLeft | Qt::AlignVCenter,
                    tr("There is no shot to take yet. Add one on the Stage."), textFont(12), t.ink);
  const ShotLog log = shot_log(session_->project(), *shot);
  const double pictureWidth = std::min(218.0, width() * 0.42);
  const QRectF mat(width() - 12 - pictureWidth, 14, pictureWidth, pictureWidth * 9 / 16);
  p.fillRect(mat, t.mat);
  if (const ShotGlance* g = foresight_->glance(shot->id); g && !g->picture.isNull()) {
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    const QRectF room = mat.adjusted(6, 6, -6, -6);
    const double k = std::min(room.width() / g->picture.width(), room.height() / g->picture.height());
    const QSizeF size(g->picture.width() * k, g->picture.height() * k);
    p.drawImage(QRectF(room.center() - QPointF(size.width() / 2, size.height() / 2), size), g->picture);
  }
  const double textRight = mat.left() - 12;
  const double numeral =
      QFontMetricsF(textFont(54, true)).horizontalAdvance(QString::number(session_->shotIndex() + 1));
  drawText(p, {16, 40, numeral + 4, 62}, Qt::AlignLeft | Qt::AlignVCenter,
           QString::number(session_->shotIndex() + 1), textFont(54, true), t.accent);
  drawText(p, {30 + numeral, 44, textRight - 30 - numeral, 28}, Qt::AlignLeft | Qt::AlignVCenter, q(shot->name),
           textFont(20, true), t.ink);
  drawText(p, {30 + numeral, 72, textRight - 30 - numeral, 28}, Qt::AlignLeft | Qt::AlignVCenter,
           tr("take %1").arg(log.takes.empty() ? 1 : log.takes.back()->number + 1), numberFont(20), t.ink);
  if (!log.takes.empty()) {
    drawText(p, {16, 148, width() - 32.0, 16}, Qt::AlignLeft | Qt::AlignVCenter,
             tr("Changed since take %1").arg(log.takes.back()->number), textFont(12), t.quiet);
    drawText(p, {16, 166, width() - 32.0, 20}, Qt::AlignLeft | Qt::AlignVCenter,
             since_.known ? changeWords(since_) : tr("not known; that take was not logged here"), textFont(14),
             t.ink);
    if (since_.count() > 1u)
      drawText(p, {16, 190, width() - 32.0, 18}, Qt::AlignLeft | Qt::AlignVCenter,
               tr("Only one thing at a time tells you what helped: %1 changed").arg(since_.what.size()),
               textFont(12), t.leaningInk);
  }
  QStringList uses;
  bool short_of = false;
  for (const UseLeft& use : uses_left(session_->project(), *shot)) {
    const bool few = use.takes < std::max(1, static_cast<int>(log.left() ? log.left()->median.value_or(1) : 1));
    short_of = short_of || few;
    uses << tr("%1: %2 %3 a take, %4 left, for %5 takes")
                .arg(q(use.name), q(number_text(use.per_take, 3)), q(use.unit), q(number_text(use.left, 4)))
                .arg(use.takes);
  }
  const QColor usesColor = short_of ? t.accent : t.quiet;
  if (!uses.isEmpty())
    drawText(p, {16, 110, textRight - 16, 16}, Qt::AlignLeft | Qt::AlignVCenter, uses.takeFirst(), textFont(11.5),
             usesColor);
  if (!uses.isEmpty())
    drawText(p, {16, 126, textRight - 16, 16}, Qt::AlignLeft | Qt::AlignVCenter, uses.join("; "), textFont(11.5),
             usesColor);
  const auto key = [&](const QRectF& box, const QString& name, const QString& letter, const QColor& edge) {
    p.setPen(QPen(edge, 1.6));
    p.setBrush(t.dark ? QColor("#1d1714") : t.panel.darker(102));
    p.drawRoundedRect(box.adjusted(1, 1, -1, -1), 3, 3);
    drawText(p, box.adjusted(18, 0, -18, 0), Qt::AlignLeft | Qt::AlignVCenter, name, textFont(18, true), t.ink);
    drawText(p, box.adjusted(18, 0, -18, 0), Qt::AlignRight | Qt::AlignVCenter, letter, numberFont(16), t.quiet);
  };
  key(keepBox(), tr("Keep"), "K", t.good);
  key(dropBox(), tr("Drop"), "D", t.accent);
  for (int n = 1; n <= static_cast<int>(reasons_.size()); ++n) {
    const QRectF box = reasonBox(n);
    const bool on = chosen_.contains(n);
    if (on) {
      p.setPen(Qt::NoPen);
      p.setBrush(t.selected);
      p.drawRoundedRect(box.adjusted(-4, 0, 0, 0), 2, 2);
    }
    drawText(p, box, Qt::AlignLeft | Qt::AlignVCenter,
             QString("%1 %2").arg(n).arg(q(reasons_[static_cast<std::size_t>(n) - 1])), textFont(12),
             on ? t.onSelected : t.quiet);
  }
  if (hasFocus()) drawFocus(p, QRectF(rect()).adjusted(2, 2, -2, -2));
}

void NextTake::toggleReason(int n) {
  if (n < 1 || n > static_cast<int>(reasons_.size())) return;
  chosen_.contains(n) ? (void)chosen_.remove(n) : (void)chosen_.insert(n);
  update();
}

void NextTake::log(bool kept) {
  const Shot* shot = session_->shot();
  if (!shot) return;
  NewTake take{shot->id, QDateTime::currentDateTime().toString("yyyy-MM-ddTHH:mm:ss").toStdString(), kept, {}, {}};
  for (int n = 1; n <= static_cast<int>(reasons_.size()); ++n)
    if (chosen_.contains(n)) take.reasons.push_back(reasons_[static_cast<std::size_t>(n) - 1]);
  const auto edit = take_edit(session_->document(), take);
  if (!edit) return void(emit session_->message(q(edit.error().text())));
  chosen_.clear();
  if (session_->keep(*edit)) session_->askTakeChanges(session_->shot()->id);
}

void NextTake::mousePressEvent(QMouseEvent* event) {
  if (keepBox().contains(event->position())) return log(true);
  if (dropBox().contains(event->position())) return log(false);
  for (int n = 1; n <= static_cast<int>(reasons_.size()); ++n)
    if (reasonBox(n).contains(event->position())) return toggleReason(n);
}
void NextTake::keyPressEvent(QKeyEvent* event) {
  if (event->modifiers() & (Qt::ControlModifier | Qt::AltModifier)) return QWidget::keyPressEvent(event);
  if (event->key() == Qt::Key_K) return log(true);
  if (event->key() == Qt::Key_D) return log(false);
  if (event->key() >= Qt::Key_1 && event->key() <= Qt::Key_8) return toggleReason(event->key() - Qt::Key_0);
  QWidget::keyPressEvent(event);
}

}  // namespace cinnabar
