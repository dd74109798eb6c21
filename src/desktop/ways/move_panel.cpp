#include "cinnabar/desktop/ways/move_panel.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QVBoxLayout>

#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/ways/asked_number.h"
#include "cinnabar/desktop/ways/way_searches.h"

namespace cinnabar {

MovePanel::MovePanel(Session* session, Foresight* foresight, QWidget* parent)
    : QWidget(parent), session_(session) {
  setObjectName("movePanel");
  setAccessibleName(tr("A move"));
  auto* all = new QHBoxLayout(this);
  all->setContentsMargins(10, 26, 8, 7);
  all->setSpacing(12);
  auto* column = new QVBoxLayout;
  column->setSpacing(3);
  kind_ = new QComboBox(this);
  kind_->setObjectName("moveKind");
  kind_->setAccessibleName(tr("What it is to do"));
  for (const SolverKind& one : solver_kinds()) {
    kind_->addItem(q(one.title), q(one.kind));
    kind_->setItemData(kind_->count() - 1, plainTip(q(one.what)), Qt::ToolTipRole);
  }
  light_ = new QComboBox(this);
  light_->setObjectName("moveLight");
  light_->setAccessibleName(tr("Which light"));
  auto* top = new QHBoxLayout;
  top->setSpacing(6);
  top->addWidget(kind_, 3);
  top->addWidget(light_, 2);
  column->addLayout(top);
  auto* row = new QHBoxLayout;
  row->setSpacing(6);
  for (std::size_t i = 0; i < numbers_.size(); ++i) {
    numbers_[i] = new NumberField(this);
    numbers_[i]->setMinimumWidth(58);
    row->addWidget(numbers_[i], 1);
    connect(numbers_[i], &NumberField::refused, session, &Session::message);
    connect(numbers_[i], &NumberField::entered, this, [this, i](double v) {
      if (i >= kind().keys.size()) return;
      const SolverKey& key = kind().keys[i];
      if (!key.range.contains(v))
        emit session_->message(tr("%1: give %2").arg(q(key.name), q(key.range.text())));
      else
        values_[key.key] = v;
      refresh();
    });
  }
  column->addLayout(row);
  what_ = new PlainLabel(this);
  what_->setObjectName("moveWhat");
  what_->setWordWrap(true);
  column->addWidget(what_, 1);
  find_ = new WordButton(tr("Find moves"), WordButton::Look::plain, this);
  find_->setObjectName("findMoves");
  auto* foot = new QHBoxLayout;
  foot->addWidget(find_);
  foot->addStretch(1);
  column->addLayout(foot);
  all->addLayout(column, 42);
  cards_ = new WayCards("move", session, foresight, this);
  all->addWidget(cards_, 58);
  connect(kind_, &QComboBox::currentIndexChanged, this, [this] {
    values_.clear();
    refresh();
  });
  connect(find_, &WordButton::clicked, this, &MovePanel::find);
  connect(session, &Session::changed, this, [this] {
    if (isVisible()) refresh();
  });
  refresh();
}

const SolverKind& MovePanel::kind() const {
  return solver_kinds()[static_cast<std::size_t>(std::max(0, kind_->currentIndex()))];
}

void MovePanel::refresh() {
  const SolverKind& now = kind();
  for (std::size_t i = 0; i < numbers_.size(); ++i) {
    numbers_[i]->setVisible(i < now.keys.size());
    if (i >= now.keys.size()) continue;
    const SolverKey& key = now.keys[i];
    const auto typed = values_.find(key.key);
    const auto value = typed != values_.end() ? std::optional(typed->second) : key.usual;
    numbers_[i]->setSpec(askedNumber(*session_, key.key, key.name, key.unit, value, tr("as it fits")));
    numbers_[i]->setToolTip(plainTip(q(key.name + (key.unit.empty() ? "" : ", " + key.unit))));
  }
  what_->setText(q(now.what));
  // The lights of this set-up; what was chosen stays.
  light_->setVisible(now.light);
  const QString chosen = light_->currentData().toString();
  light_->clear();
  light_->addItem(tr("the main light"), QString());
  if (session_->setup())
    for (const Light& light : session_->setup()->lights)
      light_->addItem(q(light.name.empty() ? light.id : light.name), q(light.id));
  light_->setCurrentIndex(std::max(0, light_->findData(chosen)));
}

SolveRequest MovePanel::request() const {
  SolveRequest request{
      kind().kind, {}, kind().light ? light_->currentData().toString().toStdString() : std::string()};
  for (const SolverKey& key : kind().keys) {
    const auto typed = values_.find(key.key);
    if (typed != values_.end())
      request.numbers[key.key] = typed->second;
    else if (key.usual)
      request.numbers[key.key] = *key.usual;
  }
  return request;
}

void MovePanel::showEvent(QShowEvent*) {
  refresh();
  if (!session_->shot()) cards_->clear(tr("There is no shot to move in"));
}

void MovePanel::find() {
  if (!session_->shot()) return cards_->clear(tr("There is no shot to move in"));
  cards_->seek(waysToMove(cards_->forecaster(), request()));
}

void MovePanel::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const Theme& t = theme();
  drawPanel(p, rect());
  drawText(p, {10, 6, 120, 15}, Qt::AlignLeft | Qt::AlignVCenter, tr("A move"), textFont(11, true), t.ink);
  drawText(p, {66, 6, width() - 76.0, 15}, Qt::AlignLeft | Qt::AlignVCenter,
           tr("what it is to do; its tracks are worked out, and tried on the whole shot"), textFont(11), t.quiet);
}

}  // namespace cinnabar
