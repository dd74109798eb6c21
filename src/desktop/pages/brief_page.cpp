#include "cinnabar/desktop/pages/brief_page.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QScrollArea>
#include <QTimer>
#include <QVBoxLayout>

#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/forecast/levels/moods.h"
#include "cinnabar/forecast/levels/schools.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/model/field.h"

namespace cinnabar {
namespace {

/// In a narrow window.
void cutWordsNotControls(QComboBox* box) {
  box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  box->setMinimumContentsLength(4);
}

}  // namespace

BriefRules::BriefRules(Session* session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("briefRules");
  mood_ = new QComboBox(this);
  mood_->setObjectName("briefMood");
  mood_->setAccessibleName(tr("Mood"));
  mood_->addItem(tr("none chosen"), "");
  for (const Mood& m : moods()) mood_->addItem(q(m.word), q(m.word));
  moodSays_ = new PlainLabel(this);
  moodSays_->setObjectName("briefMoodSays");
  moodSays_->setWordWrap(true);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(14, 34, 14, 10);
  all->setSpacing(4);
  addRow(all, tr("Mood"), mood_, moodSays_);
  connect(mood_, &QComboBox::activated, this, [this] {
    const QString word = mood_->currentData().toString();
    if (!session_->keep(
            word.isEmpty() ? tr("No mood") : tr("Mood: %1").arg(word),
            {{"/project/mood", word.isEmpty() ? std::nullopt : std::optional<Json>(word.toStdString())}}))
      refresh();
  });
  connect(session_, &Session::changed, this, &BriefRules::refresh);
  QTimer::singleShot(0, this, [this, all] { addRules(all); });  // when the page is seen: half of it is here
}

void BriefRules::addRules(QVBoxLayout* all) {
  for (const HouseRuleRow& row : house_rule_rows()) {
    const std::string& key = row.key;
    auto* box = new QComboBox(this);
    box->setObjectName("rule-" + q(key));
    box->setAccessibleName(q(question_of(row.rule)));
    box->setToolTip(q(question_of(row.rule)));
    for (const School& s : schools(row.rule)) box->addItem(q(s.title), q(s.value));
    auto* reason = new PlainLabel(this);
    reason->setObjectName("reason-" + q(key));
    QString label = q(key);
    label[0] = label[0].toUpper();
    addRow(all, label, box, reason);
    rules_.emplace_back(row.rule, box, reason);
    connect(box, &QComboBox::activated, this, [this, key, box] {
      const QString value = box->currentData().toString();
      const bool some = session_->document().single("house_rules") != nullptr;
      const Session::Values edit{
          some ? std::pair{"/house_rules/" + key, std::optional<Json>(value.toStdString())}
               : std::pair{std::string("/house_rules"), std::optional<Json>(Json{{key, value.toStdString()}})}};
      if (!session_->keep(tr("House rule %1: %2").arg(q(key), box->currentText()), edit)) refresh();
    });
  }
  all->addStretch(1);
  refresh();
}

/// A choice with its name before it and its reason under it.
void BriefRules::addRow(QVBoxLayout* all, const QString& label, QComboBox* box, QLabel* reason) {
  cutWordsNotControls(box);
  auto* line = new QHBoxLayout;
  auto* name = new PlainLabel(label, this);
  name->setWordWrap(true);
  name->setMinimumWidth(96);
  name->setMaximumWidth(110);
  line->addWidget(name, 1);
  line->addWidget(box, 2);
  all->addLayout(line);
  reason->setWordWrap(true);
  reason->setProperty("quiet", true);
  auto* under = new QHBoxLayout;
  under->addSpacing(114);
  under->addWidget(reason, 1);
  all->addLayout(under);
  all->addSpacing(3);
}

void BriefRules::refresh() {
  if (!isVisible()) return;  // brought up to date when it is shown
  const Project& project = session_->project();
  const Mood* mood = mood_named(project.mood);
  if (!mood && !project.mood.empty() && mood_->findData(q(project.mood)) < 0)
    mood_->addItem(q(project.mood), q(project.mood));
  mood_->setCurrentIndex(std::max(0, mood_->findData(q(project.mood))));
  moodSays_->setText(mood                   ? q(mood_says(*mood))
                     : project.mood.empty() ? tr("It would set how far apart the sides are, how soft, how quick.")
                                            : tr("Not a word that sets anything."));
  for (auto& [rule, box, reason] : rules_) {
    const std::size_t now = project.chosen(rule);
    box->setCurrentIndex(static_cast<int>(now));
    reason->setText(q(schools(rule)[now].reason));
    int others = 0;
    for (const auto& shot : project.shots) others += project.chosen(rule, *shot) != now ? 1 : 0;
    if (others > 0)
      reason->setText(reason->text() + "; " +
                      (others == 1 ? tr("1 shot follows another") : tr("%1 shots follow another").arg(others)));
  }
}

void BriefRules::paintEvent(QPaintEvent*) {
  QPainter p(this);
  drawPanel(p, rect());
  drawText(p, {14, 10, 200, 18}, Qt::AlignLeft | Qt::AlignVCenter, tr("Mood and house rules"), textFont(13, true),
           theme().ink);
}

BriefPage::BriefPage(Session* session, QWidget* parent) : WindowPage(parent) {
  setObjectName("brief");
  product_ = new BriefProduct(session, this);
  seen_ = new BriefSeen(session, product_, this);
  auto* runs = new BriefRuns(session, this);
  auto* rules = new BriefRules(session, this);
  const auto scrolled = [this](QWidget* inner) {
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(inner);
    return scroll;
  };
  auto* middle = new QWidget(this);
  auto* column = new QVBoxLayout(middle);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(10);
  column->addWidget(seen_, 1);
  column->addWidget(runs);
  auto* all = new QHBoxLayout(this);
  all->setContentsMargins(20, 10, 20, 4);
  all->setSpacing(10);
  all->addWidget(scrolled(product_), 44);
  all->addWidget(scrolled(middle), 42);
  all->addWidget(scrolled(rules), 36);
  for (QComboBox* box : findChildren<QComboBox*>()) cutWordsNotControls(box);
}

void BriefPage::takeFocus() { seen_->setFocus(); }

void BriefPage::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.fillRect(rect(), theme().ground);
}

}  // namespace cinnabar
