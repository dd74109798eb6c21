#include "cinnabar/desktop/ways/solve_panel.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QVBoxLayout>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/controls/unit_fields.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/ways/way_searches.h"

namespace cinnabar {

SolvePanel::SolvePanel(const QString& name, Session* session, Foresight* foresight, QWidget* parent)
    : QWidget(parent), session_(session) {
  setObjectName(name + "Panel");
  auto* all = new QHBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(12);
  auto* column = new QVBoxLayout;
  column->setSpacing(3);
  kind_ = new QComboBox(this);
  kind_->setObjectName(name + "Kind");
  kind_->setAccessibleName(tr("What it is to do"));
  light_ = new QComboBox(this);
  light_->setObjectName(name + "Light");
  light_->setAccessibleName(tr("Which light"));
  auto* top = new QHBoxLayout;
  top->setSpacing(6);
  top->addWidget(kind_, 3);
  top->addWidget(light_, 2);
  column->addLayout(top);
  numbers_ = new AskedNumbers(session, this);
  column->addWidget(numbers_);
  what_ = new PlainLabel(this);
  what_->setObjectName(name + "What");
  what_->setWordWrap(true);
  column->addWidget(what_, 1);
  find_ = new WordButton(tr("Find ways"), WordButton::Look::plain, this);
  find_->setObjectName(name + "Find");
  auto* foot = new QHBoxLayout;
  foot->addWidget(find_);
  foot->addStretch(1);
  column->addLayout(foot);
  all->addLayout(column, 42);
  cards_ = new WayCards(name, session, foresight, this);
  all->addWidget(cards_, 58);
  connect(kind_, &QComboBox::currentIndexChanged, this, [this] {
    numbers_->ask(kind() ? kind()->keys : std::vector<AskedNumber>{});
    refresh();
  });
  connect(find_, &WordButton::clicked, this, &SolvePanel::find);
  connect(session, &Session::changed, this, [this] {
    if (isVisible()) refresh();
  });
}

void SolvePanel::offerKinds(std::vector<SolverKind> kinds, const std::string& effect) {
  const auto names = [](const std::vector<SolverKind>& list) {
    QStringList all;
    for (const SolverKind& one : list) {
      all << q(one.kind);
      for (const AskedNumber& number : one.keys) all << q(number.key);
    }
    return all;
  };
  const bool same = names(kinds_) == names(kinds);
  if (same && effect_ == effect) return;
  effect_ = effect;
  cards_->clear();
  if (same) return;
  kinds_ = std::move(kinds);
  std::vector<std::pair<QString, QString>> list;
  for (const SolverKind& one : kinds_) list.emplace_back(q(one.title), q(one.kind));
  offer(*kind_, list, kind_->currentData().toString());
  if (kind_->currentIndex() < 0) kind_->setCurrentIndex(0);
  for (int i = 0; i < kind_->count(); ++i)
    kind_->setItemData(i, plainTip(q(kinds_[static_cast<std::size_t>(i)].what)), Qt::ToolTipRole);
  numbers_->ask(kind() ? kind()->keys : std::vector<AskedNumber>{});
  refresh();
}

void SolvePanel::setHead(const QString& title, const QString& words) {
  title_ = title, words_ = words;
  setAccessibleName(title);
  layout()->setContentsMargins(10, 26, 8, 7);
}

const SolverKind* SolvePanel::kind() const {
  for (const SolverKind& one : kinds_)
    if (q(one.kind) == kind_->currentData().toString()) return &one;
  return nullptr;
}

void SolvePanel::refresh() {
  const SolverKind* now = kind();
  find_->setEnabled(now);
  what_->setText(now ? q(now->what) : QString());
  light_->setVisible(now && now->light);
  // The lights of this set-up; what was chosen stays.
  std::vector<std::pair<QString, QString>> lights{{tr("the main light"), QString()}};
  if (session_->setup())
    for (const Light& light : session_->setup()->lights)
      if (!light.window) lights.emplace_back(q(name_or(light.name, light.id)), q(light.id));
  offer(*light_, lights, light_->currentData().toString());
  if (light_->currentIndex() < 0) light_->setCurrentIndex(0);
}

SolveRequest SolvePanel::request() const {
  SolveRequest asked;
  if (!kind()) return asked;
  asked.kind = kind()->kind;
  asked.numbers = numbers_->values();
  if (kind()->light) asked.light = light_->currentData().toString().toStdString();
  if (kind()->effect) asked.effect = effect_;
  return asked;
}

void SolvePanel::showEvent(QShowEvent*) {
  refresh();
  if (!session_->shot()) cards_->clear(tr("There is no shot to move in"));
}

void SolvePanel::find() {
  if (!session_->shot()) return cards_->clear(tr("There is no shot to move in"));
  cards_->seek(waysToMove(cards_->forecaster(), request()));
}

void SolvePanel::paintEvent(QPaintEvent*) {
  if (!title_.isEmpty()) drawWaysHead(*this, title_, words_);
}

}  // namespace cinnabar
