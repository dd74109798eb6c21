#include "cinnabar/desktop/shell/elsewhere_line.h"

#include <QHBoxLayout>
#include <algorithm>
#include <map>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/stage/vial.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/forecast/level_table.h"
#include "cinnabar/project/document/variations.h"
#include "cinnabar/project/making/shot_edits.h"

namespace cinnabar {
namespace {

/// "1, 7 and 8".
QString numbers(const std::vector<std::size_t>& shots) {
  QString list;
  for (std::size_t i = 0; i < shots.size(); ++i)
    list += (i == 0                 ? QString()
             : i + 1 < shots.size() ? QString(", ")
                                    : QObject::tr(" and ")) +
            QString::number(shots[i] + 1);
  return list;
}
QString ofShots(const std::vector<std::size_t>& shots) {
  return (shots.size() == 1 ? QObject::tr("shot %1") : QObject::tr("shots %1")).arg(numbers(shots));
}

}  // namespace

ElsewhereLine::ElsewhereLine(Session* session, Foresight* foresight, QWidget* parent)
    : QWidget(parent), session_(session), foresight_(foresight) {
  setObjectName("elsewhere");
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 10, 0);  // clear of what was kept
  row->setSpacing(6);
  text_ = new PlainLabel(this);
  text_->setObjectName("elsewhereText");
  text_->setFont(textFont(11));
  text_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  row->addWidget(text_, 1);
  const auto button = [&](const char* name, auto action) {
    auto* b = new WordButton(QString(), WordButton::Look::small, this);
    b->setObjectName(name);
    b->setCheckable(false);
    connect(b, &WordButton::clicked, this, action);
    row->addWidget(b);
    return b;
  };
  all_ = button("elsewhereAll", [this] { clear(); });
  here_ = button("elsewhereHere", [this] { keepHere(); });
  back_ = button("elsewhereBack", [this] {
    clear();
    session_->undo();
  });
  pause_.setSingleShot(true);
  pause_.setInterval(250);
  connect(&pause_, &QTimer::timeout, this, [this] {
    if (session_->previewing()) look(session_->kept(), session_->document(), false);
  });
  connect(session, &Session::changed, this, &ElsewhereLine::follow);
  connect(session, &Session::shotChanged, this, &ElsewhereLine::clear);
  connect(session, &Session::edited, this,
          [this](const Document& before, const Document& after) { look(before, after, true); });
  connect(foresight, &Foresight::touched, this, &ElsewhereLine::told);
  hide();
}

/// A drag is looked at where it pauses; what was taken back, or done after, has nothing to do with the last
/// change.
void ElsewhereLine::follow() {
  if (session_->previewing())
    pause_.start();
  else if (tells() && !session_->document().shares_all_with(after_))
    clear();
}

void ElsewhereLine::look(const Document& before, const Document& after, bool kept) {
  pause_.stop();
  std::vector<std::size_t> shots = touched_shots(before, after);
  const auto own = std::find(shots.begin(), shots.end(), session_->shotIndex());
  if (own == shots.end()) return clear();  // not of the set-up in hand
  shots.erase(own);
  if (shots.empty()) return clear();
  before_ = before, after_ = after, kept_ = kept;
  const bool told_before = tells();
  shots_ = std::move(shots);
  all_->setText(tr("Keep for all"));
  all_->setAccessibleName(tr("Keep the change for %1 too").arg(ofShots(shots_)));
  here_->setText(tr("Only in shot %1").arg(session_->shotIndex() + 1));
  here_->setToolTip(tr("Puts shot %1 on a variation of its set-up, which shares what is not changed in it")
                        .arg(session_->shotIndex() + 1));
  back_->setText(tr("Take back"));
  for (WordButton* b : {all_, here_, back_}) {
    b->setVisible(kept);
    b->updateGeometry();
  }
  say(tr("Touches %1 too; how their levels move is being looked at").arg(ofShots(shots_)), {});
  show();
  if (!told_before) emit telling(true);
  asked_ = foresight_->askTouched(before_, after_, session_->shotIndex());
}

void ElsewhereLine::told(int number, const std::vector<Touched>& touched) {
  if (number != asked_ || !tells()) return;
  QStringList all;
  std::vector<std::pair<QString, std::vector<std::size_t>>> groups;  // shots in which the same moves
  for (const Touched& one : touched) {
    std::map<int, QStringList> byState;
    for (const MovedLevel& m : one.moved) {
      const QString name = q(brief_of(m.after));
      if (m.before.state != m.after.state) byState[-static_cast<int>(m.after.state)] << name;
      all << tr("Shot %1, %2: from %3 to %4, %5")
                 .arg(one.shot + 1)
                 .arg(name, q(value_text(m.before)), q(value_text(m.after)), stateWord(m.after.state));
    }
    QStringList parts;
    for (const auto& [state, names] : byState)
      parts << tr("%1 %2").arg(names.join(", "), stateWord(static_cast<State>(-state)));
    const QString words = parts.join("; ");
    const auto same = std::find_if(groups.begin(), groups.end(), [&](const auto& g) { return g.first == words; });
    if (same == groups.end())
      groups.push_back({words, {one.shot}});
    else
      same->second.push_back(one.shot);
  }
  std::stable_partition(groups.begin(), groups.end(), [](const auto& g) { return !g.first.isEmpty(); });
  QStringList told;
  for (const auto& [words, shots] : groups)
    told << (words.isEmpty() ? tr("no level of %1 changes its state").arg(ofShots(shots))
                             : tr("in %1: %2").arg(ofShots(shots), words));
  QString text = told.join(".  ");
  if (!text.isEmpty()) text[0] = text[0].toUpper();
  say(text, all.join('\n'));
}

void ElsewhereLine::say(const QString& text, const QString& more) {
  said_ = text;
  text_->setText(text_->fontMetrics().elidedText(text, Qt::ElideRight, std::max(60, text_->width())));
  text_->setToolTip(plainTip(more.isEmpty() ? text : text + "\n" + more));
  text_->setAccessibleName(text);
  text_->setAccessibleDescription(more);
}

void ElsewhereLine::resizeEvent(QResizeEvent*) {
  text_->setText(text_->fontMetrics().elidedText(said_, Qt::ElideRight, std::max(60, text_->width())));
}

void ElsewhereLine::clear() {
  pause_.stop();
  if (asked_ != 0) foresight_->stopTouched();
  asked_ = 0;
  before_ = after_ = {};
  if (!tells()) return;
  shots_.clear();
  hide();
  emit telling(false);
}

void ElsewhereLine::keepHere() {
  const std::size_t shot = session_->shotIndex();
  const auto alone = changed_for_shot_alone(before_, session_->document(), shot);
  clear();
  if (!alone) return emit session_->message(q(alone.error().text()));
  session_->keep(
      edit_between(session_->document(), *alone, tr("Changed only in shot %1").arg(shot + 1).toStdString()));
}

}  // namespace cinnabar
