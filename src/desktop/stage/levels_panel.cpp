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
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/forecast/level_table.h"

namespace cinnabar {
namespace {

QString tidyMinus(QString text) { return text.replace('-', QChar(0x2212)); }

QString stateWord(State s) {
  switch (s) {
    case State::level:
      return QObject::tr("level");
    case State::leaning:
      return QObject::tr("leaning");
    case State::out:
      return QObject::tr("out");
    case State::unknown:
      break;
  }
  return QObject::tr("unknown");
}

QColor stateColor(State s) {
  const Theme& t = theme();
  return s == State::level ? t.good : s == State::leaning ? t.leaning : s == State::out ? t.accent : t.quiet;
}

/// A label that wraps and takes the theme's colour when it paints.
QLabel* words(const QString& text, double px, bool mono, const QColor& color, QWidget* parent) {
  auto* label = new PlainLabel(text, parent);
  label->setWordWrap(true);
  label->setFont(mono ? numberFont(px) : textFont(px));
  label->setStyleSheet(QString("color: %1; font-family: \"%2\"; font-size: %3px;")
                           .arg(color.name(), mono ? "Cinnabar Figures" : "Cinnabar Text")
                           .arg(px));
  label->setTextInteractionFlags(Qt::TextSelectableByMouse);
  return label;
}

}  // namespace

QString valueText(const Level& l) { return tidyMinus(q(value_text(l))); }

void drawVial(QPainter& p, const QRectF& box, const Level& l) {
  const Theme& t = theme();
  p.save();
  p.setRenderHint(QPainter::Antialiasing);
  const double thick = std::min(4.0, 0.3 * box.height());  // half of it
  const QRectF tube(box.left(), box.center().y() - thick, box.width(), 2 * thick);
  p.setPen(Qt::NoPen);
  p.setBrush(t.track);
  p.drawRoundedRect(tube, thick, thick);
  const double low = 0.36, high = 0.64;
  const auto x = [&](double part) { return tube.left() + part * tube.width(); };
  QColor glass = t.panel;
  if (l.band.low || l.band.high) {
    const double from = l.band.low ? low : 0.0, to = l.band.high ? high : 1.0;
    p.setBrush(glass);
    p.drawRect(QRectF(x(from), tube.top() + 1, x(to) - x(from), tube.height() - 2));
  }
  p.setPen(QPen(t.ink, 1.3));
  if (l.band.low) p.drawLine(QPointF(x(low), tube.top() - 2), QPointF(x(low), tube.bottom() + 2));
  if (l.band.high) p.drawLine(QPointF(x(high), tube.top() - 2), QPointF(x(high), tube.bottom() + 2));
  if (l.value) {
    double at = 0.5;
    const double v = *l.value;
    if (l.band.low && l.band.high)
      at = low + (v - *l.band.low) / (*l.band.high - *l.band.low) * (high - low);
    else if (l.band.high)
      at = high + (v - *l.band.high) / std::max(1.0, std::abs(*l.band.high)) * 0.4;
    else if (l.band.low)
      at = low + (v - *l.band.low) / std::max(1.0, std::abs(*l.band.low) > 0 ? std::abs(*l.band.low) : 10.0) * 0.4;
    else if (l.state == State::out)
      at = 0.9;
    // The bubble never sits on the wrong side of a line for what its state says.
    const double half = std::min(9.0, 1.8 * thick), end = std::max(0.04, half / tube.width());
    at = std::clamp(at, end, 1 - end);
    if (l.sure) {
      p.setPen(Qt::NoPen);
      p.setBrush(stateColor(l.state));
      p.drawEllipse(QPointF(x(at), tube.center().y()), half, thick + 0.4);
    } else {
      p.setPen(QPen(t.quiet, 1));
      p.setBrush(Qt::NoBrush);
      p.drawRoundedRect(QRectF(x(at) - 2 * half, tube.top() + 0.5, 4 * half, tube.height() - 1), thick, thick);
    }
  }
  p.restore();
}

Vial::Vial(QWidget* parent) : QAbstractButton(parent) {
  setCheckable(true);
  setFocusPolicy(Qt::StrongFocus);
  setCursor(Qt::PointingHandCursor);
  setFixedHeight(34);
  setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
}

void Vial::setTall(int height) {
  setFixedHeight(height);
  update();
}

void Vial::keyPressEvent(QKeyEvent* e) {
  if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter) return click();
  QAbstractButton::keyPressEvent(e);
}

void Vial::show(const Level& level, Units) {
  level_ = level;
  setObjectName("level-" + q(level.id));
  setAccessibleName(q(level.title));
  setAccessibleDescription(
      tr("%1, %2").arg(valueText(level), level.sure ? stateWord(level.state) : tr("being measured")));
  setToolTip(plainTip(q(level.sentence)));
  update();
}

void Vial::paintSmall(QPainter& p) {
  const Theme& t = theme();
  const LevelRow* row = level_row(level_.id);
  const QString name = row ? q(in_words(row->brief)) : q(level_.title);
  const bool told = underMouse() || hasFocus();
  const double middle = std::round(width() * (told ? 0.42 : 0.5));
  const QColor ink = level_.state == State::unknown || !level_.sure ? t.quiet : t.ink;
  drawText(p, QRectF(0, 0, middle - 2, height()), Qt::AlignLeft | Qt::AlignVCenter, name, textFont(10.5), ink);
  const QRectF rest(middle, 0, width() - middle - 2, height());
  if (told)
    drawText(p, rest, Qt::AlignRight | Qt::AlignVCenter, valueText(level_), numberFont(10), t.ink);
  else
    drawVial(p, rest.adjusted(4, (height() - 10) / 2.0, 0, -(height() - 10) / 2.0), level_);
  if (hasFocus()) drawFocus(p, QRectF(rect()));
}

void Vial::paintEvent(QPaintEvent*) {
  QPainter p(this);
  if (height() < 30) return paintSmall(p);
  const Theme& t = theme();
  const QColor ink = !level_.sure                                                     ? t.quiet
                     : level_.state == State::level || level_.state == State::unknown ? t.ink
                     : level_.state == State::leaning                                 ? t.leaningInk
                                                                                      : stateColor(level_.state);
  const bool loud = level_.sure && level_.state == State::out;
  const QString value = valueText(level_) + (!level_.sure                     ? QString()
                                             : level_.state == State::leaning ? tr(", leans")
                                             : level_.state == State::out     ? tr(", out")
                                                                              : QString());
  const double valueWidth =
      std::min(width() * 0.62, QFontMetricsF(numberFont(11, loud)).horizontalAdvance(value) + 2);
  const double room = width() - valueWidth - 6;
  const LevelRow* row = level_row(level_.id);
  const bool fits = QFontMetricsF(textFont(11, isChecked())).horizontalAdvance(q(level_.title)) <= room;
  QString title = q(level_.title);
  if (!fits && row) {
    title = q(in_words(row->brief));
    title[0] = title[0].toUpper();
  }
  drawText(p, QRectF(0, 1, room, 16), Qt::AlignLeft | Qt::AlignVCenter, title, textFont(11, isChecked()), ink);
  drawText(p, QRectF(width() - valueWidth, 1, valueWidth, 16), Qt::AlignRight | Qt::AlignVCenter, value,
           numberFont(11, loud), level_.sure && level_.state == State::level ? t.ink : ink);
  drawVial(p, QRectF(0, 17, width(), 14), level_);
  if (hasFocus()) drawFocus(p, QRectF(rect()).adjusted(-0, 0, 0, 0));
}

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
  std::size_t lines = 0;
  for (const auto& [group, vials] : small) lines += 1 + (vials.size() + 1) / 2;
  const double room = scroll_->viewport()->height() - 34.0 * static_cast<double>(full.size()) - 4.0;
  const int line = lines ? std::clamp(static_cast<int>(room / static_cast<double>(lines)), 13, 17) : 17;
  // Nothing is moved where it stands already.
  std::vector<const void*> now{reinterpret_cast<const void*>(static_cast<std::intptr_t>(line)), explanation_};
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
  const QString names[] = {tr("Frame"), tr("Light"), tr("Motion"), tr("Focus"), tr("Camera"), tr("The spot")};
  for (const auto& [group, vials] : small) {
    auto* box = new QWidget(inner_);
    auto* grid = new QGridLayout(box);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(10);
    grid->setVerticalSpacing(0);
    grid->setColumnStretch(0, 1);
    grid->setColumnStretch(1, 1);
    auto* heading = new GroupName(names[static_cast<int>(group)], box);
    heading->setFixedHeight(line);
    grid->addWidget(heading, 0, 0, 1, 2);
    for (std::size_t i = 0; i < vials.size(); ++i) {
      vials[i]->setTall(line);
      grid->addWidget(vials[i], 1 + static_cast<int>(i / 2), static_cast<int>(i % 2));
      vials[i]->setVisible(true);
    }
    column_->insertWidget(place++, box);
    box->show();
    groups_.push_back(box);
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

void LevelsPanel::explain() {
  delete explanation_;
  explanation_ = nullptr;
  leverColumn_ = nullptr;
  looking_ = nullptr, stopLooking_ = nullptr;
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
  box->addWidget(sentence_ = words(q(level->sentence), 12, false, t.ink, explanation_));
  box->addWidget(formula_ = words(tidyMinus(q(level->formula)), 11, true, t.ink, explanation_));
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
  if (!band.isEmpty()) wanted->addWidget(words(band, 11, false, t.quiet, explanation_), 1);
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
  box->addWidget(words(q(level->source), 11, false, t.quiet, explanation_));
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
  looking_ = words(tr("Looking for what would bring it home"), 11, false, t.quiet, explanation_);
  proved_ = 0;
  leverColumn_->addWidget(looking_);
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
  if (close_) foresight_->askLevers(session_->document(), session_->shotIndex(), level->id);
  bringIntoView();
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
  column->addWidget(words(q(lever.title), 12, false, t.ink, row));
  column->addWidget(words(tidyMinus(q(lever.price)), 10.5, false, t.quiet, row));
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
  if (id != open_ || !leverColumn_ || !looking_) return;
  looking_->setText(tr("%1 of %2 changes tried; these bring it home so far").arg(tried).arg(all));
  leverColumn_->insertWidget(leverColumn_->indexOf(looking_),
                             leverRow(lever, QString("proved-%1").arg(++proved_)));
  inner_->adjustSize();
}

void LevelsPanel::showLevers(const QString& id, const Forecaster::Levers& levers) {
  if (id != open_ || !leverColumn_) return;
  leversFor_ = id;
  levers_ = levers;
  // What is being tried is not torn from under the hand, and what was found stays when the rest is called off.
  if ((trying_ || levers.list.empty()) && proved_ > 0) {
    for (QWidget* gone : {static_cast<QWidget*>(looking_), stopLooking_})
      if (gone) gone->deleteLater();
    looking_ = nullptr, stopLooking_ = nullptr;
    return;
  }
  looking_ = nullptr, stopLooking_ = nullptr, proved_ = 0;
  while (QLayoutItem* item = leverColumn_->takeAt(0)) {
    delete item->widget();
    delete item;
  }
  const Theme& t = theme();
  if (levers.list.empty()) leverColumn_->addWidget(words(q(levers.why), 11, false, t.ink, explanation_));
  int number = 0;
  for (const Lever& lever : levers.list) {
    leverColumn_->addWidget(leverRow(lever, QString("lever-%1").arg(++number)));
  }
  inner_->adjustSize();
  bringIntoView();
}

}  // namespace cinnabar
