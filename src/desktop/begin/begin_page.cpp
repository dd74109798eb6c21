#include "cinnabar/desktop/begin/begin_page.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/begin/draft_card.h"
#include "cinnabar/desktop/begin/hand_form.h"
#include "cinnabar/desktop/begin/lately.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/project/model/names.h"

namespace cinnabar {
namespace {

constexpr int across = 4;

}  // namespace

BeginPage::BeginPage(QWidget* parent) : QWidget(parent) {
  setObjectName("begin");
  form_ = new HandForm(this);
  lately_ = new Lately(this);
  auto* all = new QHBoxLayout(this);
  all->setContentsMargins(20, 14, 20, 4);
  all->setSpacing(12);
  all->addWidget(form_, 46);
  auto* side = new QVBoxLayout;
  side->setSpacing(10);
  side->addWidget(right(), 1);
  side->addWidget(lately_);
  all->addLayout(side, 54);
  soon_.setSingleShot(true);
  soon_.setInterval(500);
  connect(&soon_, &QTimer::timeout, this, &BeginPage::begin);
  connect(form_, &HandForm::changed, this, &BeginPage::draftSoon);
  connect(lately_, &Lately::wanted, this, &BeginPage::openWanted);
  connect(lately_, &Lately::exampleWanted, this, &BeginPage::exampleWanted);
  connect(&maker_, &DraftMaker::grown, this, &BeginPage::show);
  connect(&maker_, &DraftMaker::pictured, this, [this](const QString& shot, const QImage& picture) {
    if (shot.isEmpty() && !cards_.empty() && cards_[0]->shotId().isEmpty()) cards_[0]->setPicture(picture);
    for (DraftCard* c : cards_)
      if (!shot.isEmpty() && c->shotId() == shot) c->setPicture(picture);
  });
  connect(&maker_, &DraftMaker::done, this, [this] { setDrafting(false); });
  connect(&maker_, &DraftMaker::begun, this,
          [this](const std::shared_ptr<const Document>& document) { emit taken(*document, wanted_); });
  connect(&maker_, &DraftMaker::failed, this, [this](const QString& why) {
    setDrafting(false, why);
    emit message(why);
  });
  setDrafting(false);
}

/// What the draft is, how long it is, and what stops it.
QHBoxLayout* BeginPage::draftHead() {
  auto* head = new QHBoxLayout;
  auto* title = new PlainLabel(tr("A first draft"), panel_);
  title->setFont(textFont(15, true));
  note_ = new PlainLabel(panel_);
  note_->setObjectName("draftNote");
  note_->setProperty("quiet", true);
  note_->setWordWrap(true);
  length_ = new PlainLabel(panel_);
  length_->setObjectName("draftLength");
  length_->setFont(numberFont(13));
  cancel_ = new WordButton(tr("Cancel"), WordButton::Look::chip, panel_);
  cancel_->setObjectName("draftCancel");
  cancel_->setCheckable(false);
  connect(cancel_, &WordButton::clicked, this, &BeginPage::stop);
  head->addWidget(title);
  head->addSpacing(14);
  head->addWidget(note_, 1);
  head->addWidget(cancel_);
  head->addSpacing(8);
  head->addWidget(length_);
  return head;
}

QWidget* BeginPage::right() {
  panel_ = new Panel(this);
  panel_->setObjectName("draftPanel");
  auto* column = new QVBoxLayout(panel_);
  column->setContentsMargins(14, 8, 14, 12);
  column->setSpacing(8);
  column->addLayout(draftHead());
  auto* inner = new QWidget(panel_);
  grid_ = new QGridLayout(inner);
  grid_->setContentsMargins(0, 0, 0, 0);
  grid_->setSpacing(8);
  for (int c = 0; c < across; ++c) grid_->setColumnStretch(c, 1);
  auto* scroll = new QScrollArea(panel_);  // ten shots in a low window
  scroll->setObjectName("draftScroll");
  scroll->setWidget(inner);
  scroll->setWidgetResizable(true);
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setFocusPolicy(Qt::NoFocus);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  column->addWidget(scroll, 1);
  empty_ = new PlainLabel(
      tr("Say on the left what stands before the camera; the draft comes by itself, shot by shot, each with the "
         "picture that the camera would record. It uses only what is there, and keeps nothing until it is taken."),
      panel_);
  empty_->setWordWrap(true);
  empty_->setProperty("quiet", true);
  column->addWidget(empty_);
  needs_ = new PlainLabel(panel_);
  needs_->setObjectName("draftNeeds");
  needs_->setWordWrap(true);
  column->addWidget(needs_);
  auto* row = new QHBoxLayout;
  const auto button = [&](const QString& text, const char* id, auto action) {
    auto* b = new WordButton(text, WordButton::Look::plain, panel_);
    b->setObjectName(id);
    b->setMinimumHeight(34);
    b->setCheckable(false);
    connect(b, &WordButton::clicked, this, action);
    row->addWidget(b);
    return b;
  };
  take_ = new QPushButton(tr("Take this draft"), panel_);
  take_->setObjectName("takeDraft");
  take_->setDefault(true);
  take_->setMinimumSize(120, 34);
  row->setSpacing(6);
  row->addWidget(take_);
  connect(take_, &QPushButton::clicked, this, [this] {
    if (draft_ && !draft_->shots.empty()) emit taken(draft_->document, wanted_);
  });
  again_ = button(tr("Draft it"), "draftAgain", [this] {
    if (begun_) ++seed_;
    begin();
  });
  none_ = button(tr("Begin with no shots"), "beginEmpty", [this] { takeEmpty(); });
  back_ = button(tr("Back"), "beginBack", [this] { emit backWanted(); });
  back_->hide();
  row->addStretch(1);
  column->addLayout(row);
  return panel_;
}

void BeginPage::refresh() { lately_->refresh(); }
void BeginPage::takeFocus() { form_->takeFocus(); }
void BeginPage::setBehind(const QString& project) {
  back_->setVisible(!project.isEmpty());
  back_->setToolTip(plainTip(tr("Back to %1").arg(project)));
  back_->setAccessibleName(tr("Back to %1").arg(project));
}

DraftCard* BeginPage::card(std::size_t index) {
  while (cards_.size() <= index) {
    auto* c = new DraftCard(cards_.size(), grid_->parentWidget());
    grid_->addWidget(c, static_cast<int>(cards_.size()) / across, static_cast<int>(cards_.size()) % across);
    connect(c, &DraftCard::anotherWanted, this, &BeginPage::another);
    connect(c, &DraftCard::leaveOutWanted, this, &BeginPage::leaveOut);
    cards_.push_back(c);
  }
  return cards_[index];
}

void BeginPage::setDrafting(bool drafting, const QString& note) {
  drafting_ = drafting;
  cancel_->setVisible(drafting);
  const bool there = draft_ && !draft_->shots.empty();
  take_->setEnabled(there && !drafting);
  take_->setVisible(there || drafting);
  again_->setText(begun_ ? tr("Draft again") : tr("Draft it"));
  again_->setEnabled(!drafting);
  again_->updateGeometry();
  for (DraftCard* c : cards_)
    c->setBusy(drafting && !c->shotId().isEmpty() && planned_ == cards_.size() && draft_ &&
               draft_->shots.size() == planned_);
  note_->setText(!note.isEmpty() ? note
                 : drafting      ? tr("being made of ready moves for this product and kit")
                 : there         ? tr("made of ready moves for this product and kit")
                                 : QString());
}

/// Something was changed in the hand: drafted anew once it rests.
void BeginPage::draftSoon() { soon_.start(); }

void BeginPage::begin() {
  soon_.stop();
  const auto hand = form_->hand();
  if (!hand) return setDrafting(false, q(hand.error().text()));
  // Said at once where it cannot be; a mesh is read on the worker.
  if (form_->mesh().isEmpty())
    if (const auto begun = spot_in_hand(*hand); !begun) {
      maker_.stop();
      return setDrafting(false, q(begun.error().text()));
    }
  wanted_ = q(hand->name);
  begun_ = true;
  draft_.reset();
  refused_.clear();
  for (DraftCard* c : cards_) c->waitFor({});
  card(0)->waitFor(tr("the set-up is being found"));
  empty_->hide();
  needs_->clear();
  length_->clear();
  maker_.ask(*hand, form_->mesh(), seed_);
  setDrafting(true);
}

void BeginPage::stop() {
  maker_.stop();
  soon_.stop();
  for (DraftCard* c : cards_)
    if (c->shotId().isEmpty()) c->waitFor({});
  setDrafting(false, tr("stopped; what is there can be taken"));
}

void BeginPage::show(const std::shared_ptr<const Draft>& draft, std::size_t planned) {
  draft_ = draft;
  planned_ = planned;
  ProjectReader reader;
  const Project project = reader.read(draft->document);
  const auto parts = draft_parts(project);
  for (std::size_t i = 0; i < planned; ++i) {
    if (i < draft->shots.size())
      card(i)->show(draft->shots[i], *project.shots[i]);
    else if (i > 0 || !card(i)->hasPicture())
      card(i)->waitFor(i < parts.size() ? tr("%1, to come").arg(q(name_of(parts[i].part))) : QString());
    card(i)->setVisible(true);
  }
  for (std::size_t i = planned; i < cards_.size(); ++i) cards_[i]->hide();
  const double allowed = project.allowed_time.value_or(project.screen_time());
  length_->setText(tr("%1 of %2 s").arg(q(fixed_text(project.screen_time(), 1)), q(number_text(allowed, 4))));
  tellNeeds();
}

void BeginPage::tellNeeds() {
  if (!draft_ || draft_->shots.empty()) return needs_->clear();
  ProjectReader reader;
  const DraftNeeds needs = draft_needs(reader.read(draft_->document));
  const auto minutes = static_cast<int>(std::lround(needs.minutes));
  QString text = tr("%1, about %2 h %3 min with %4; %5.")
                     .arg(counted(needs.set_ups, tr("%1 set-up"), tr("%1 set-ups")))
                     .arg(minutes / 60)
                     .arg(minutes % 60)
                     .arg(counted(needs.takes, tr("%1 take"), tr("%1 takes")),
                          counted(needs.hands, tr("%1 person"), tr("%1 people")));
  QStringList shortOf, uses;
  for (const std::string& s : needs.short_of) shortOf << q(s);
  for (const std::string& s : needs.uses) uses << q(s);
  text += "\n" + (shortOf.isEmpty() ? tr("Short of: nothing.") : tr("Short of: %1.").arg(shortOf.join("; ")));
  if (!uses.isEmpty()) text += " " + tr("Uses %1.").arg(uses.join(", "));
  needs_->setText(text);
}

void BeginPage::another(std::size_t shot) {
  if (!draft_ || shot >= draft_->shots.size() || drafting_) return;
  // What was turned down for this place stays turned down.
  auto& refused = refused_[QString::number(shot)];
  refused.insert(draft_->shots[shot].move);
  const bool last = [&] {
    ProjectReader reader;
    const auto all = draft_candidates(reader.read(draft_->document), draft_->shots[shot].part, seed_);
    return std::all_of(all.begin(), all.end(), [&](const std::string& m) { return refused.contains(m); });
  }();
  if (last) refused = {draft_->shots[shot].move};  // once round
  planned_ = draft_->shots.size();
  maker_.askAnother(*draft_, shot, refused, seed_);
  drafting_ = true;
  setDrafting(true);
  for (std::size_t i = 0; i < cards_.size(); ++i) cards_[i]->setBusy(true);
  note_->setText(tr("another move for shot %1 is being tried").arg(shot + 1));
}

void BeginPage::leaveOut(std::size_t shot) {
  if (!draft_ || shot >= draft_->shots.size() || drafting_) return;
  refused_.clear();
  const auto less = std::make_shared<const Draft>(left_out(*draft_, shot));
  // Cards behind it take the next one's picture along.
  for (std::size_t i = shot; i + 1 < draft_->shots.size(); ++i) cards_[i]->takePicture(*cards_[i + 1]);
  show(less, less->shots.size());
  setDrafting(false);
  if (less->shots.empty()) {
    needs_->clear();
    length_->clear();
    empty_->show();
  }
}

void BeginPage::takeEmpty() {
  const auto hand = form_->hand();
  if (!hand) return setDrafting(drafting_, q(hand.error().text()));
  wanted_ = q(hand->name);
  maker_.askBegun(*hand, form_->mesh());
  setDrafting(false);
}

void BeginPage::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.fillRect(rect(), theme().ground);
}

}  // namespace cinnabar
