#include "cinnabar/desktop/stage/in_hand.h"

#include <QGridLayout>

#include "cinnabar/desktop/edits/things.h"
#include "cinnabar/desktop/theme/theme.h"

namespace cinnabar {

InHand::InHand(Session* session, Foresight* foresight, QWidget* parent)
    : QWidget(parent), session_(session), foresight_(foresight) {
  setObjectName("inHand");
  setAccessibleName(tr("In hand"));
  grid_ = new QGridLayout(this);
  grid_->setContentsMargins(10, 26, 8, 6);
  grid_->setHorizontalSpacing(8);
  grid_->setVerticalSpacing(2);
  for (int i = 0; i < 15; ++i) {
    auto* field = new NumberField(this);
    grid_->addWidget(field, i / 4, i % 4);
    const auto at = static_cast<std::size_t>(i);
    connect(field, &NumberField::previewed, this, [this, at](double v) {
      if (at < hand_.fields.size() && hand_.fields[at].set) session_->preview(hand_.fields[at].set(v));
    });
    connect(field, &NumberField::entered, this, [this, at](double v) {
      if (at >= hand_.fields.size() || !hand_.fields[at].set) return;
      const auto values = hand_.fields[at].set(v);
      const QString title = hand_.fields[at].title(v);
      values.empty() ? session_->dropPreview() : (void)session_->keep(title, values);
    });
    connect(field, &NumberField::refused, session_, &Session::message);
    fields_.push_back(field);
  }
  grid_->setRowStretch(3, 1);
  for (int c = 0; c < 4; ++c) grid_->setColumnStretch(c, 1);
  connect(session_, &Session::changed, this, &InHand::refresh);
  connect(session_, &Session::selectionChanged, this, &InHand::refresh);
  connect(session_, &Session::timeChanged, this, &InHand::refresh);
  connect(foresight_, &Foresight::light, this, &InHand::refresh);
  refresh();
}

void InHand::refresh() {
  hand_ = handOf(*session_, foresight_->lux(), foresight_->shares());
  // Three rows: where there are more numbers than four columns hold, five.
  const int columns = hand_.fields.size() > 12 ? 5 : 4;
  if (columns != columns_) {
    columns_ = columns;
    for (QWidget* field : fields_) grid_->removeWidget(field);
    for (int i = 0; i < static_cast<int>(fields_.size()); ++i)
      grid_->addWidget(fields_[static_cast<std::size_t>(i)], i / columns, i % columns);
    for (int c = 0; c < 5; ++c) grid_->setColumnStretch(c, c < columns ? 1 : 0);
  }
  for (std::size_t i = 0; i < fields_.size(); ++i) {
    const bool used = i < hand_.fields.size();
    if (used) fields_[i]->setSpec(hand_.fields[i].spec);
    fields_[i]->setVisible(used);
  }
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
    drawText(p, {x, 6, width() - x - 8, 16}, Qt::AlignRight | Qt::AlignVCenter, sharedNote(*session_),
             textFont(10), t.quiet);
}

}  // namespace cinnabar
