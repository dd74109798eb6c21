#include "cinnabar/desktop/ways/move_panel.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QVBoxLayout>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/theme/words.h"
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
    if (one.effect) continue;  // the bench Effects has those
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
  numbers_ = new AskedNumbers(session, this);
  column->addWidget(numbers_);
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
    numbers_->ask(kind().keys);
    refresh();
  });
  connect(find_, &WordButton::clicked, this, &MovePanel::find);
  connect(session, &Session::changed, this, [this] {
    if (isVisible()) refresh();
  });
  numbers_->ask(kind().keys);
  refresh();
}

const SolverKind& MovePanel::kind() const {
  for (const SolverKind& one : solver_kinds())
    if (q(one.kind) == kind_->currentData().toString()) return one;
  return solver_kinds().front();
}

void MovePanel::refresh() {
  what_->setText(q(kind().what));
  light_->setVisible(kind().light);
  // The lights of this set-up, told anew only where they are others; what was chosen stays.
  std::vector<std::pair<QString, QString>> lights{{tr("the main light"), QString()}};
  if (session_->setup())
    for (const Light& light : session_->setup()->lights)
      lights.emplace_back(q(name_or(light.name, light.id)), q(light.id));
  if (lights == lights_) return;
  lights_ = lights;
  const QString chosen = light_->currentData().toString();
  light_->clear();
  for (const auto& [name, id] : lights) light_->addItem(name, id);
  light_->setCurrentIndex(std::max(0, light_->findData(chosen)));
}

SolveRequest MovePanel::request() const {
  return {kind().kind,
          numbers_->values(),
          kind().light ? light_->currentData().toString().toStdString() : std::string(),
          {},
          {}};
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
  drawWaysHead(*this, tr("A move"),
               tr("what it is to do; its tracks are worked out, and tried on the whole shot"));
}

}  // namespace cinnabar
