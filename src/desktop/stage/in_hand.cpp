#include "cinnabar/desktop/stage/in_hand.h"

#include <QVBoxLayout>

#include "cinnabar/desktop/controls/number_grid.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"

namespace cinnabar {

InHand::InHand(Session* session, Foresight* foresight, QWidget* parent)
    : QWidget(parent), session_(session), foresight_(foresight) {
  setObjectName("inHand");
  setAccessibleName(tr("In hand"));
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(10, 26, 8, 6);
  numbers_ = new NumberGrid({.across = 4, .apart = 8, .rows = 2}, 15, this);
  all->addWidget(numbers_);
  all->addStretch(1);
  connect(numbers_, &NumberGrid::previewed, this, [this](std::size_t at, double v) {
    if (at < hand_.fields.size() && hand_.fields[at].set) session_->preview(hand_.fields[at].set(v));
  });
  connect(numbers_, &NumberGrid::entered, this, [this](std::size_t at, double v) {
    if (at >= hand_.fields.size() || !hand_.fields[at].set) return;
    const auto values = hand_.fields[at].set(v);
    const QString title = hand_.fields[at].title(v);
    values.empty() ? session_->dropPreview() : (void)session_->keep(title, values);
  });
  connect(numbers_, &NumberGrid::refused, session_, &Session::message);
  connect(session_, &Session::changed, this, &InHand::refresh);
  connect(session_, &Session::selectionChanged, this, &InHand::refresh);
  connect(session_, &Session::timeChanged, this, &InHand::refresh);
  connect(foresight_, &Foresight::light, this, &InHand::refresh);
  refresh();
}

void InHand::refresh() {
  hand_ = handOf(*session_, foresight_->lux(), foresight_->shares());
  // Three rows: where there are more numbers than four columns hold, five.
  numbers_->setAcross(hand_.fields.size() > 12 ? 5 : 4);
  numbers_->setNumbers(specsOf(hand_.fields));
  update();
}

void InHand::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const Theme& t = theme();
  drawPanel(p, rect());
  drawText(p, {10, 6, 60, 16}, Qt::AlignLeft | Qt::AlignVCenter, tr("In hand"), textFont(11), t.quiet);
  drawText(p, {66, 6, width() - 76.0, 16}, Qt::AlignLeft | Qt::AlignVCenter,
           hand_.name.isEmpty()
               ? session_->shot() ? tr("nothing; click something on the floor") : tr("nothing yet")
               : hand_.name,
           textFont(12, true), t.ink);
  using Held = Selection::Kind;
  const Held kind = session_->selection().kind;
  const bool of_set = kind == Held::light || kind == Held::card || kind == Held::surface || kind == Held::backdrop;
  const double x = 74 + QFontMetricsF(textFont(12, true)).horizontalAdvance(hand_.name);
  if (of_set && x < width() - 60)
    drawText(p, {x, 6, width() - x - 8, 16}, Qt::AlignRight | Qt::AlignVCenter, q(shared_note(session_->onSet())),
             textFont(10), t.quiet);
}

}  // namespace cinnabar
