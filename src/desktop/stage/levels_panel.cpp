#include "cinnabar/desktop/stage/levels_panel.h"

#include <QApplication>
#include <QGridLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QScrollBar>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "cinnabar/base/words.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/stage/band_chooser.h"
#include "cinnabar/desktop/stage/lever_rows.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/forecast/level_table.h"

namespace cinnabar {

LevelsPanel::LevelsPanel(Session* session, Foresight* foresight, QWidget* parent)
    : QWidget(parent), session_(session), foresight_(foresight) {
  setObjectName("levels");
  setAccessibleName(tr("Levels"));
  scroll_ = new QScrollArea(this);
  scroll_->setWidgetResizable(true);
  scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scroll_->setFrameShape(QFrame::NoFrame);
  scroll_->setFocusPolicy(Qt::NoFocus);
  inner_ = new QWidget;
  inner_->setObjectName("levelsInner");
  column_ = new QVBoxLayout(inner_);
  column_->setContentsMargins(0, 0, 4, 4);
  column_->setSpacing(0);
  column_->addStretch(1);
  scroll_->setWidget(inner_);
  auto* outer = new QVBoxLayout(this);
  outer->setContentsMargins(10, 28, 6, 6);
  outer->addWidget(scroll_);
  connect(foresight_, &Foresight::levels, this, &LevelsPanel::take);
  connect(foresight_, &Foresight::levers, this, &LevelsPanel::showLevers);
  connect(foresight_, &Foresight::leverProved, this, &LevelsPanel::showProved);
  connect(session_, &Session::changed, this,
          [this] { close_ = false; });  // what is shown is behind until the next
  connect(session_, &Session::shotChanged, this, [this] { open({}); });
  if (!foresight_->told().empty()) take(foresight_->told(), foresight_->toldClosely());
}

void LevelsPanel::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const Theme& t = theme();
  drawPanel(p, rect());
  drawText(p, {10, 7, 80, 16}, Qt::AlignLeft | Qt::AlignVCenter, tr("Levels"), textFont(12, true), t.ink);
  if (!levels_.empty())
    drawText(p, {80, 7, width() - 92.0, 16}, Qt::AlignRight | Qt::AlignVCenter,
             anew_ ? tr("%1 level, %2 measured anew").arg(own_.level).arg(anew_)
                   : tr("%1 level, %2 leaning, %3 out").arg(own_.level).arg(own_.leaning).arg(own_.out),
             textFont(11), t.quiet);
  else
    drawText(p, {10, 34, width() - 20.0, 16}, Qt::AlignLeft | Qt::AlignVCenter,
             session_->shot() ? tr("Being computed") : tr("A shot has levels; there is none yet"), textFont(11),
             t.quiet);
}

const Level* LevelsPanel::find(const QString& id) const {
  for (const Level& l : levels_)
    if (q(l.id) == id) return &l;
  return nullptr;
}

void LevelsPanel::take(const std::vector<Level>& levels, bool close) {
  std::vector<Level> kept;  // told closely only: till then the last ones stand
  if (!close)
    std::copy_if(levels_.begin(), levels_.end(), std::back_inserter(kept), [](const Level& l) {
      const LevelRow* row = level_row(l.id);
      return row && row->closely;
    });
  levels_ = levels;
  levels_.insert(levels_.end(), kept.begin(), kept.end());
  std::vector<Level> own;
  // What is not yet sure counts neither way.
  std::copy_if(levels.begin(), levels.end(), std::back_inserter(own),
               [](const Level& l) { return l.sure && !is_of_spot(l.id); });
  own_ = tally(own);
  anew_ = static_cast<int>(std::count_if(levels.begin(), levels.end(), [](const Level& l) { return !l.sure; }));
  close_ = close;
  // What is off stands first and full, once it is known closely and while none lies open.
  if (close && open_.isEmpty()) {
    full_.clear();
    for (const State state : {State::out, State::leaning})
      for (const Level& l : levels_)
        if (l.state == state) full_.push_back(l.id);
  }
  while (vials_.size() > levels_.size()) {
    delete vials_.back();
    vials_.pop_back();
  }
  while (vials_.size() < levels_.size()) {
    auto* vial = new Vial(inner_);
    connect(vial, &Vial::clicked, this,
            [this, vial] { open(open_ == q(vial->level().id) ? QString() : q(vial->level().id)); });
    vials_.push_back(vial);
  }
  for (std::size_t i = 0; i < levels_.size(); ++i) {
    vials_[i]->show(levels_[i], session_->units());
    vials_[i]->setChecked(q(levels_[i].id) == open_);
  }
  arrange();
  // What is being typed is not torn from under the hand.
  const auto* typing = qobject_cast<QLineEdit*>(QApplication::focusWidget());
  const bool leave =
      trying_ || (typing && typing->isVisible() && explanation_ && explanation_->isAncestorOf(typing));
  if (!open_.isEmpty() && !leave) explain();
  if (const Level* level = find(open_);
      level && leave && explanation_) {  // its numbers are those of now all the same
    sentence_->setText(q(level->sentence));
    formula_->setText(tidyMinus(q(level->formula)));
  }
  update();
}

void LevelsPanel::open(const QString& id) {
  if (trying_) {
    trying_ = false;
    session_->dropPreview();
  }
  open_ = id;
  leversFor_.clear();
  levers_ = {};
  foresight_->stopLevers();
  for (Vial* vial : vials_) vial->setChecked(q(vial->level().id) == open_);
  arrange();
  explain();
}

bool LevelsPanel::stands_full(const Level& level) const {
  return q(level.id) == open_ || std::find(full_.begin(), full_.end(), level.id) != full_.end();
}

namespace {

/// The name of a bench over its small vials.
class GroupName : public QWidget {
 public:
  GroupName(QString name, QWidget* parent) : QWidget(parent), name_(std::move(name)) {}

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    drawText(p, rect(), Qt::AlignLeft | Qt::AlignBottom, name_, textFont(10), theme().quiet);
  }

 private:
  QString name_;
};

}  // namespace

/// Off ones and the opened one full, one under another; all others small, two abreast, by bench.
void LevelsPanel::arrange() {
  std::vector<Vial*> full;
  std::vector<std::pair<Group, std::vector<Vial*>>> small;
  for (Vial* vial : vials_) {
    const LevelRow* row = level_row(vial->level().id);
    if (stands_full(vial->level()) || !row) {
      full.push_back(vial);
      continue;
    }
    if (small.empty() || small.back().first != row->group) small.push_back({row->group, {}});
    small.back().second.push_back(vial);
  }
  const auto place_of = [&](const Vial* v) {
    return std::find(full_.begin(), full_.end(), v->level().id) - full_.begin();
  };
  std::stable_sort(full.begin(), full.end(),
                   [&](const Vial* a, const Vial* b) { return place_of(a) < place_of(b); });
  // As tall as there is room for, so that nothing scrolls.
  std::size_t lines = 0, close = 0;
  for (const auto& [group, vials] : small) lines += 1 + (vials.size() + 1) / 2, close += 1 + vials.size() / 2;
  const double room = scroll_->viewport()->height() - 34.0 * static_cast<double>(full.size()) - 4.0;
  // Where it would scroll, a bench's name takes the cell that an odd number of levels leaves.
  const bool tight = room < 13.0 * static_cast<double>(lines);
  if (tight) lines = close;
  const int line = lines ? std::clamp(static_cast<int>(room / static_cast<double>(lines)), 13, 17) : 17;
  // Nothing is moved where it stands already.
  std::vector<const void*> now{reinterpret_cast<const void*>(static_cast<std::intptr_t>(tight ? -line : line)),
                               explanation_};
  for (const Vial* vial : full) now.push_back(vial);
  for (const auto& [group, vials] : small) {
    now.push_back(nullptr);
    now.insert(now.end(), vials.begin(), vials.end());
  }
  if (now == arranged_) return;
  arranged_ = std::move(now);
  QWidget* focused = QApplication::focusWidget();
  for (Vial* vial : vials_) {
    column_->removeWidget(vial);
    vial->setParent(inner_);
  }
  for (QWidget* group : groups_) {
    column_->removeWidget(group);
    group->deleteLater();
  }
  groups_.clear();
  int place = 0;
  for (Vial* vial : full) {
    vial->setTall(34);
    column_->insertWidget(place++, vial);
    vial->setVisible(true);
    if (explanation_ && q(vial->level().id) == open_) {
      column_->removeWidget(explanation_);
      column_->insertWidget(place++, explanation_);
    }
  }
  for (const auto& [group, vials] : small) {
    groups_.push_back(groupBox(static_cast<int>(group), vials, line, tight));
    column_->insertWidget(place++, groups_.back());
    groups_.back()->show();
  }
  QWidget* before = nullptr;  // the keyboard goes as the eye does
  const auto next = [&](Vial* vial) {
    if (before) QWidget::setTabOrder(before, vial);
    before = vial;
  };
  for (Vial* vial : full) next(vial);
  for (const auto& [group, vials] : small)
    for (Vial* vial : vials) next(vial);
  for (Vial* vial : vials_)
    if (vial == focused) vial->setFocus();
}

/// A bench's name and its levels, two abreast; in a tight panel the name takes the cell that an odd number leaves.
QWidget* LevelsPanel::groupBox(int group, const std::vector<Vial*>& vials, int line, bool tight) {
  const QString names[] = {tr("Frame"),  tr("Light"),   tr("Motion"),  tr("Focus"),
                           tr("Camera"), tr("Effects"), tr("The spot")};
  auto* box = new QWidget(inner_);
  auto* grid = new QGridLayout(box);
  grid->setContentsMargins(0, 0, 0, 0);
  grid->setHorizontalSpacing(10);
  grid->setVerticalSpacing(0);
  grid->setColumnStretch(0, 1);
  grid->setColumnStretch(1, 1);
  auto* heading = new GroupName(names[group], box);
  heading->setFixedHeight(line);
  const bool beside = tight && vials.size() % 2 == 1;
  grid->addWidget(heading, 0, 0, 1, beside ? 1 : 2);
  for (std::size_t i = 0; i < vials.size(); ++i) {
    vials[i]->setTall(line);
    const std::size_t cell = beside ? i + 1 : i + 2;
    grid->addWidget(vials[i], static_cast<int>(cell / 2), static_cast<int>(cell % 2));
    vials[i]->setVisible(true);
  }
  return box;
}

void LevelsPanel::explain() {
  delete explanation_;
  explanation_ = nullptr;
  leverColumn_ = nullptr;
  tried_ = nullptr, stopLooking_ = nullptr;
  const Level* level = find(open_);
  if (!level) return;
  const Theme& t = theme();
  explanation_ = new QWidget(inner_);
  explanation_->setObjectName("explanation");
  auto* box = new QVBoxLayout(explanation_);
  box->setContentsMargins(8, 4, 4, 10);
  box->setSpacing(5);
  explanation_->setStyleSheet(QString("#explanation { border-left: 2px solid %1; }").arg(t.accent.name()));
  explanation_->setAttribute(Qt::WA_StyledBackground);
  box->addWidget(sentence_ = wrapped(q(level->sentence), 12, false, t.ink, explanation_));
  box->addWidget(formula_ = wrapped(tidyMinus(q(level->formula)), 11, true, t.ink, explanation_));
  const auto bound = [](const std::optional<double>& v) { return tidyMinus(q(number_text(*v, 3))); };
  QString band;
  if (level->band.low && level->band.high)
    band =
        tr("Wanted %1 to %2 %3").arg(bound(level->band.low), bound(level->band.high), q(unit_name(level->unit)));
  else if (level->band.low)
    band = tr("Wanted at least %1 %2").arg(bound(level->band.low), q(unit_name(level->unit)));
  else if (level->band.high)
    band = tr("Wanted at most %1 %2").arg(bound(level->band.high), q(unit_name(level->unit)));
  auto* wanted = new QHBoxLayout;
  wanted->setSpacing(6);
  if (!band.isEmpty()) wanted->addWidget(wrapped(band, 11, false, t.quiet, explanation_), 1);
  if (level->set_time && session_->shot() && session_->shot()->set_time() > 0 &&
      !session_->shot()->tracks.empty()) {
    auto* worst = new WordButton(tr("worst at %1 s").arg(q(fixed_text(*level->set_time, 2))),
                                 WordButton::Look::chip, explanation_);
    worst->setCheckable(false);
    worst->setObjectName("worst");
    worst->setAccessibleName(tr("Go to the worst moment, %1 s on set").arg(q(fixed_text(*level->set_time, 2))));
    connect(worst, &WordButton::clicked, this, [this, at = *level->set_time] { session_->setSetTime(at); });
    wanted->addWidget(worst);
  }
  box->addLayout(wanted);
  box->addWidget(wrapped(q(level->source), 11, false, t.quiet, explanation_));
  auto* why = new WordButton(tr("Why this band?"), WordButton::Look::chip, explanation_);
  why->setObjectName("whyBand");
  why->setChecked(showBand_);
  box->addWidget(why, 0, Qt::AlignLeft);
  auto* chooser = new BandChooser(session_, *level, explanation_);
  chooser->setVisible(showBand_);
  box->addWidget(chooser);
  connect(why, &WordButton::toggled, this, [this, chooser](bool on) {
    showBand_ = on;
    chooser->setVisible(on);
    inner_->adjustSize();
  });
  leverColumn_ = new QVBoxLayout;
  leverColumn_->setSpacing(6);
  box->addLayout(leverColumn_);
  arrange();
  explanation_->show();
  if (level->state == State::level) return;
  if (leversFor_ == open_) return showLevers(leversFor_, levers_);
  tried_ = new TriedLine(explanation_);
  proved_ = 0;
  leverColumn_->addWidget(tried_);
  auto* cancel = new WordButton(tr("Cancel"), WordButton::Look::chip, explanation_);
  cancel->setObjectName("cancelLevers");
  cancel->setAccessibleName(tr("Stop looking for levers"));
  leverColumn_->addWidget(cancel);
  stopLooking_ = cancel;
  connect(cancel, &WordButton::clicked, this, [this, id = open_] {
    foresight_->stopLevers();
    const auto stopped = [this, id] {
      showLevers(id, {.list = {}, .why = tr("Not looked for; open the level again to look").toStdString()});
    };
    later(QPointer<LevelsPanel>(this), stopped);  // after the click: the button goes with the list
  });
  if (close_) foresight_->askLevers(session_->document(), session_->shotIndex(), level->id, known());
  bringIntoView();
}

/// How all levels of the shot stand, where all are sure.
std::vector<Level> LevelsPanel::known() const {
  std::vector<Level> list;
  for (const Level& level : levels_) {
    if (!level.sure) return {};
    if (!is_of_spot(level.id)) list.push_back(level);
  }
  return list;
}

/// The opened level to the top, its explanation and levers below it.
void LevelsPanel::bringIntoView() {
  later(QPointer<LevelsPanel>(this), [this] {
    for (const Vial* vial : vials_)
      if (explanation_ && vial->isChecked()) scroll_->verticalScrollBar()->setValue(vial->y());
  });
}

QWidget* LevelsPanel::leverRow(const Lever& lever, const QString& name) {
  const Theme& t = theme();
  auto* row = new QWidget(explanation_);
  row->setObjectName(name);
  auto* column = new QVBoxLayout(row);
  column->setContentsMargins(0, 4, 0, 0);
  column->setSpacing(2);
  auto* head = new QHBoxLayout;
  head->setSpacing(6);
  head->addWidget(wrapped(q(lever.title), 12, false, t.ink, row), 1);
  auto* minutes = wrapped(lever.minutes > 0 ? tr("%1 min").arg(q(number_text(lever.minutes, 2))) : tr("no time"),
                          10.5, false, t.quiet, row);
  minutes->setWordWrap(false);
  head->addWidget(minutes, 0, Qt::AlignTop);
  column->addLayout(head);
  if (!lever.needs.empty()) column->addWidget(wrapped(q(lever.needs), 10.5, false, t.quiet, row));
  // What it harms is told in any case, what else it moves as far as it can be looked over.
  std::size_t told = 0;
  for (const MovedLevel& moved : lever.moved) {
    if (told >= 6 && weight_of(moved.after.state) <= weight_of(moved.before.state)) break;
    column->addWidget(new MovedRow(moved, row));
    ++told;
  }
  if (told < lever.moved.size())
    column->addWidget(wrapped(counted(static_cast<qsizetype>(lever.moved.size() - told), tr("and %1 more moves"),
                                      tr("and %1 more move")),
                              10.5, false, t.quiet, row));
  if (lever.moved.empty())  // of the whole spot a price is told in words
    column->addWidget(
        wrapped(is_of_spot(open_.toStdString()) ? tidyMinus(q(lever.price)) : tr("moves no other level"), 10.5,
                false, t.quiet, row));
  row->setToolTip(plainTip(tidyMinus(q(lever.price))));
  auto* buttons = new QHBoxLayout;
  buttons->setSpacing(6);
  auto* attempt = new WordButton(tr("Try"), WordButton::Look::chip, row);
  attempt->setObjectName("try");
  attempt->setAccessibleName(tr("Try: %1").arg(q(lever.title)));
  auto* apply = new WordButton(tr("Apply"), WordButton::Look::plain, row);
  apply->setObjectName("apply");
  apply->setFixedHeight(20);
  apply->setAccessibleName(tr("Apply: %1").arg(q(lever.title)));
  buttons->addWidget(attempt);
  buttons->addWidget(apply);
  buttons->addStretch(1);
  column->addLayout(buttons);
  connect(attempt, &WordButton::toggled, this, [this, lever, attempt](bool on) {
    trying_ = on;
    if (!on) return session_->dropPreview();
    for (WordButton* other : explanation_->findChildren<WordButton*>("try"))
      if (other != attempt && other->isChecked()) {
        const QSignalBlocker quiet(other);
        other->setChecked(false);
        other->update();
      }
    session_->preview(lever.edit);
  });
  connect(apply, &WordButton::clicked, this, [this, lever] {
    trying_ = false;
    leversFor_.clear();
    session_->keep(lever.edit);
  });
  return row;
}

void LevelsPanel::showProved(const QString& id, const Lever& lever, int tried, int all) {
  if (id != open_ || !leverColumn_ || !tried_) return;
  tried_->tell(tried, all);
  leverColumn_->insertWidget(leverColumn_->indexOf(stopLooking_),
                             leverRow(lever, QString("proved-%1").arg(++proved_)));
  inner_->adjustSize();
}

void LevelsPanel::showLevers(const QString& id, const Forecaster::Levers& levers) {
  if (id != open_ || !leverColumn_) return;
  leversFor_ = id;
  levers_ = levers;
  // What is being tried is not torn from under the hand, and what was found stays when the rest is called off.
  if ((trying_ || levers.list.empty()) && proved_ > 0) {
    for (QWidget* gone : {static_cast<QWidget*>(tried_), stopLooking_})
      if (gone) gone->deleteLater();
    tried_ = nullptr, stopLooking_ = nullptr;
    return;
  }
  tried_ = nullptr, stopLooking_ = nullptr, proved_ = 0;
  while (QLayoutItem* item = leverColumn_->takeAt(0)) {
    delete item->widget();
    delete item;
  }
  const Theme& t = theme();
  if (levers.list.empty()) leverColumn_->addWidget(wrapped(q(levers.why), 11, false, t.ink, explanation_));
  int number = 0;
  const auto first_not_owned =
      std::find_if(levers.list.begin(), levers.list.end(), [](const Lever& lever) { return lever.not_owned; });
  for (const Lever& lever : levers.list) {
    if (first_not_owned != levers.list.end() && &lever == &*first_not_owned)
      leverColumn_->addWidget(wrapped(counted(levers.list.end() - first_not_owned,
                                              tr("%1 needs a thing not owned"), tr("%1 need things not owned")),
                                      10.5, false, t.quiet, explanation_));
    leverColumn_->addWidget(leverRow(lever, QString("lever-%1").arg(++number)));
  }
  inner_->adjustSize();
  bringIntoView();
}

}  // namespace cinnabar
