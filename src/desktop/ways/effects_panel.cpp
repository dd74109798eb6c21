#include "cinnabar/desktop/ways/effects_panel.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QMenu>
#include <QPainter>
#include <QRegularExpression>
#include <QScrollArea>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <algorithm>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/desktop/controls/number_grid.h"
#include "cinnabar/desktop/controls/unit_fields.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/planning/effect_steps.h"
#include "cinnabar/project/model/names.h"
#include "cinnabar/scene/effects_staged.h"

namespace cinnabar {
namespace {

constexpr std::size_t usual_fields = 15;

QString name_of(const Effect& effect) { return q(effect_name(effect)); }
/// A number's name for people: its key without the unit that it may end by.
QString told_name(const std::string& key) {
  return q(in_words(key.c_str())).remove(QRegularExpression("_(hz|c|deg)$")).replace('_', ' ');
}

}  // namespace

EffectsPanel::EffectsPanel(Session* session, Foresight* foresight, EffectsSeen* seen, QWidget* parent)
    : QWidget(parent), session_(session), seen_(seen) {
  setObjectName("effectsPanel");
  setAccessibleName(tr("Effects"));
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(10, 4, 8, 5);
  all->setSpacing(4);
  const auto combo = [this](const char* id, const QString& name) {
    auto* box = new QComboBox(this);
    box->setObjectName(id);
    box->setAccessibleName(name);
    box->setToolTip(name);
    box->setSizeAdjustPolicy(QComboBox::AdjustToContentsOnFirstShow);
    box->setMinimumWidth(60);
    return box;
  };
  const auto button = [this](const char* id, const QString& text, const QString& tip) {
    auto* b = new WordButton(text, WordButton::Look::chip, this);
    b->setObjectName(id);
    b->setToolTip(tip);
    b->setCheckable(false);
    return b;
  };
  which_ = combo("effectChosen", tr("The effect in hand"));
  liquid_ = combo("effectLiquid", tr("Its liquid"));
  thing_ = combo("effectThing", tr("Whose form it has"));
  event_ = combo("effectEvent", tr("The moment that is timed"));
  add_ = button("addEffect", tr("+ effect"), tr("Add a pour, a fall, a splash, steam ..."));
  takeAway_ = button("removeEffect", tr("take away"), tr("Take this effect out of the shot"));
  find_ = button("effectFind", tr("find"), tr("When it is let go, from how high, with what flow"));
  find_->setCheckable(true);
  read_ = new WordButton(tr("read"), WordButton::Look::chip, this);
  read_->setObjectName("effectRead");
  read_->setToolTip(tr("The cautions were read. They are a reminder, never a permission"));
  auto* head = new QHBoxLayout;
  head->setSpacing(6);
  head->addSpacing(56);  // the title is painted there
  head->addWidget(which_, 3);
  head->addWidget(liquid_, 2);
  head->addWidget(thing_, 2);
  head->addWidget(event_, 2);
  head->addWidget(add_);
  head->addWidget(takeAway_);
  head->addWidget(find_);
  head->addStretch(1);
  head->addWidget(read_);
  all->addLayout(head);
  ways_ = new SolvePanel("effectWay", session, foresight, this);
  ways_->setAccessibleName(tr("Ways to the effect"));
  body_ = new QStackedWidget(this);
  body_->addWidget(planned());
  body_->addWidget(ways_);
  all->addWidget(body_, 1);

  connectParts();
  refresh();
}

/// What each part does, and what it follows.
void EffectsPanel::connectParts() {
  connect(add_, &WordButton::clicked, this, &EffectsPanel::addMenu);
  connect(takeAway_, &WordButton::clicked, this, &EffectsPanel::takeAway);
  connect(which_, &QComboBox::activated, this, [this](int at) {
    index_ = static_cast<std::size_t>(std::max(0, at));
    session_->select({Selection::Kind::effect, index_});
    refresh();
  });
  connect(session_, &Session::selectionChanged, this, [this] {
    const Selection now = session_->selection();
    if (now.kind != Selection::Kind::effect || now.index == index_) return;
    index_ = now.index;
    if (isVisible()) refresh();
  });
  connect(thing_, &QComboBox::activated, this, [this](int at) {
    if (!effect()) return;
    const std::string id = thing_->itemData(at).toString().toStdString();
    session_->keep(tr("%1: %2").arg(name_of(*effect()), thing_->itemText(at)),
                   {{path() + "/product", id.empty() ? std::optional<Json>() : std::optional<Json>(id)}});
  });
  connect(liquid_, &QComboBox::activated, this, [this](int at) {
    if (!effect()) return;
    const std::string name = liquid_->itemData(at).toString().toStdString();
    session_->keep(tr("%1: %2").arg(name_of(*effect()), liquid_->itemText(at)),
                   {{path() + "/liquid", name.empty() ? std::optional<Json>() : std::optional<Json>(name)}});
  });
  connect(find_, &WordButton::toggled, this, [this](bool on) { body_->setCurrentIndex(on ? 1 : 0); });
  connect(event_, &QComboBox::activated, this, [this](int at) { timeBy(event_->itemData(at).toString()); });
  connect(read_, &WordButton::clicked, this, [this](bool on) {
    if (effect()) session_->keep(on ? tr("Cautions read") : tr("Cautions not read"), {{path() + "/read", on}});
  });
  connect(session_, &Session::changed, this, [this] {
    if (isVisible()) refresh();
  });
  connect(session_, &Session::shotChanged, this, [this] { index_ = 0; });
  connect(seen_, &EffectsSeen::workedOut, this, [this] {
    if (isVisible()) tell();
  });
}

/// The numbers that are planned, and what comes of them.
QWidget* EffectsPanel::planned() {
  auto* page = new QWidget(this);
  auto* body = new QHBoxLayout(page);
  body->setContentsMargins(0, 0, 0, 0);
  body->setSpacing(12);
  fields_ = new NumberGrid({.across = 5, .apart = 8, .rows = 3, .narrowest = 56}, usual_fields, page);
  connect(fields_, &NumberGrid::refused, session_, &Session::message);
  connect(fields_, &NumberGrid::previewed, this, [this](std::size_t at, double v) { set(at, v, false); });
  connect(fields_, &NumberGrid::entered, this, [this](std::size_t at, double v) { set(at, v, true); });
  auto* left = new QVBoxLayout;
  left->addWidget(fields_);
  left->addStretch(1);
  body->addLayout(left, 58);
  told_ = new QScrollArea(page);
  told_->setObjectName("effectTold");
  told_->setFrameShape(QFrame::NoFrame);
  told_->setWidgetResizable(true);
  told_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  told_->viewport()->setAutoFillBackground(false);
  auto* inner = new QWidget(told_);
  inner->setAutoFillBackground(false);
  lines_ = new QVBoxLayout(inner);
  lines_->setContentsMargins(0, 0, 4, 0);
  lines_->setSpacing(4);
  takes_ = new PlainLabel(inner);
  takes_->setObjectName("effectTakes");
  before_ = new PlainLabel(inner);
  before_->setObjectName("effectBefore");
  for (PlainLabel* label : {takes_, before_}) {
    label->setWordWrap(true);
    label->setAlignment(Qt::AlignLeft | Qt::AlignTop);
    lines_->addWidget(label);
  }
  lines_->addStretch(1);
  told_->setWidget(inner);
  body->addWidget(told_, 42);
  return page;
}

const Effect* EffectsPanel::effect() const {
  const Shot* shot = session_->shot();
  return shot && index_ < shot->effects.size() ? &shot->effects[index_] : nullptr;
}
std::string EffectsPanel::path() const {
  return "/shots/" + std::to_string(session_->shotIndex()) + "/effects/" + std::to_string(index_);
}

std::vector<EffectsPanel::Shown> EffectsPanel::numbers(const Effect& e) const {
  const Units units = session_->units();
  std::vector<Shown> list;
  list.push_back({unitField(tr("Let go at"), "effectAt", e.at, "s", units), "at"});
  if (e.needs) {
    const bool on_beat = !e.needs->screen && e.needs->beat;
    list.push_back({unitField(on_beat ? tr("On beat") : tr("On screen at"), "effectWanted",
                              on_beat ? *e.needs->beat : e.needs->screen.value_or(0.0), on_beat ? "" : "s", units),
                    on_beat ? "needs/beat" : "needs/screen"});
    if (on_beat) list.back().spec.step = 1.0;
  }
  const std::pair<QString, double> places[] = {
      {tr("Across"), e.place.x}, {tr("Up"), e.place.y}, {tr("Toward camera"), e.place.z}};
  for (int k = 0; k < 3; ++k)
    list.push_back(
        {unitField(places[k].first, "effectPlace" + std::to_string(k), places[k].second, "m", units), "place", k});
  const EffectKind* kind = effect_kind(e.kind);
  if (!kind) return list;
  const auto all = measures_of(*kind, e.measures, e.liquid);
  if (!all) return list;
  const auto volume = all->find("volume");
  const bool own_form =
      kind->things && !e.product.empty() && (volume == all->end() || volume->second.front() == 0.0);
  for (const EffectMeasure& m : kind->measures) {
    if (m.plain && own_form) continue;
    if (!m.with.empty() && all->at(m.with).front() == 0.0) continue;
    const std::vector<double>& values = all->at(m.key);
    list.push_back(
        {unitField(q(in_words(m.name.c_str())), "effect_" + m.key, values.front(), m.unit, units), m.key});
    if (!m.list) continue;
    QStringList words;  // of several things, and typed as a list in the document alone
    for (const double v : values) words << withUnit(v, m.unit, units);
    list.back().spec.text = [words](double) { return words.join(", "); };
    list.back().spec.parse = {};
  }
  return list;
}

void EffectsPanel::refresh() {
  const Shot* shot = session_->shot();
  if (shot && index_ >= shot->effects.size()) index_ = 0;
  const Effect* now = effect();
  const EffectKind* kind = now ? effect_kind(now->kind) : nullptr;
  std::vector<std::pair<QString, QString>> effects, liquids{{tr("as measured"), QString()}};
  if (shot)
    for (const Effect& one : shot->effects) effects.emplace_back(name_of(one), q(one.id));
  for (const std::string& name : liquid_names()) liquids.emplace_back(q(in_words(name.c_str())), q(name));
  offer(*which_, effects, now ? q(now->id) : QString());
  offer(*liquid_, liquids, now ? q(now->liquid) : QString());
  std::vector<std::pair<QString, QString>> things{{tr("plain"), QString()}};
  for (const auto& product : session_->project().products)
    things.emplace_back(q(name_or(product->name, product->id)), q(product->id));
  offer(*thing_, things, now ? q(now->product) : QString());
  for (QWidget* w : {static_cast<QWidget*>(which_), static_cast<QWidget*>(event_),
                     static_cast<QWidget*>(takeAway_), static_cast<QWidget*>(find_), static_cast<QWidget*>(told_)})
    w->setVisible(now);
  ways_->offerKinds(now ? solver_kinds_of(*now) : std::vector<SolverKind>{}, now ? now->id : std::string());
  if (!now) find_->setChecked(false);
  liquid_->setVisible(kind && (kind->pours || (now && measure_of(*now, "volume").value_or(0.0) > 0.0)));
  thing_->setVisible(kind && kind->things);
  add_->setEnabled(shot && !session_->readOnly());
  shown_ = now ? numbers(*now) : std::vector<Shown>{};
  std::vector<NumberField::Spec> specs;
  for (const Shown& one : shown_) specs.push_back(one.spec);
  fields_->setAcross(specs.size() > usual_fields ? 6 : 5);  // three rows, whose figures are not cut
  fields_->setNumbers(specs);
  read_->setChecked(now && now->read);
  tell();
  update();
}

/// What comes of the effect, in words: when, how, what it takes; and what can hurt.
void EffectsPanel::tell() {
  const Effect* e = effect();
  const ToldEffect* told = e ? seen_->of(e->id) : nullptr;
  std::vector<std::pair<QString, QString>> timed{{tr("not timed"), QString()}};
  QStringList lines, before;
  if (told && !told->outcome) lines << tr("Cannot be worked out: %1").arg(q(told->outcome.error().text()));
  if (told && told->outcome) {
    QStringList moments, numbers, plates;
    for (const EffectEvent& event : told->outcome->events) {
      const QString word = q(in_words(event.name.c_str()));
      moments << tr("%1 %2 s").arg(word, q(fixed_text(event.at, 2)));
      timed.emplace_back(word, q(event.name));
    }
    for (const EffectNumber& n : told->outcome->numbers)
      numbers << told_name(n.name) + " " + withUnit(n.value, n.unit, session_->units()) +
                     (n.tell.empty() ? QString() : " (" + q(n.tell) + ")");
    for (const std::string& plate : told->outcome->plates) plates << q(plate);
    lines << moments.join(" \u00B7 ");
    if (!numbers.isEmpty()) lines << numbers.join(" \u00B7 ");
    for (const std::string& note : told->outcome->notes) lines << q(note);
    if (!plates.isEmpty()) lines << tr("Plates: %1").arg(plates.join(", "));
    const EffectSteps steps = steps_of(*e, *told->outcome);
    QStringList cues, readied, cleaned;
    for (const EffectCue& cue : steps.cues)
      cues << (cue.helper ? tr("%1 s helper %2: %3").arg(q(fixed_text(cue.at, 2))).arg(cue.helper).arg(q(cue.what))
                          : tr("%1 s %2").arg(q(fixed_text(cue.at, 2)), q(cue.what)));
    for (const std::string& one : steps.before) readied << q(one);
    for (const std::string& one : steps.after) cleaned << q(one);
    if (!readied.isEmpty()) lines << tr("Ready: %1").arg(readied.join("; "));
    lines << tr("Cues: %1").arg(cues.join("; "));
    if (!cleaned.isEmpty()) lines << tr("After: %1").arg(cleaned.join("; "));
  }
  if (e)
    lines << tr("%n to help", nullptr, e->hands) +
                 (e->reset_minutes > 0 ? tr(" \u00B7 %1 min to reset").arg(q(number_text(e->reset_minutes, 3)))
                                       : QString());
  takes_->setText(lines.join("\n"));
  // A moment that it does not have as it is planned stays chosen.
  const QString wanted = e && e->needs ? q(e->needs->event) : QString();
  if (std::none_of(timed.begin(), timed.end(), [&](const auto& one) { return one.second == wanted; }))
    timed.emplace_back(q(in_words(wanted.toStdString().c_str())), wanted);
  offer(*event_, timed, wanted);
  if (told)
    for (const Peril peril : told->perils()) {
      const Caution words = peril_words(peril);
      before << q(words.title) + ": " + q(words.text);
    }
  if (!before.isEmpty()) {
    before.prepend(tr("Before you do it"));
    before << tr("Follow the makers and local codes; this is no permission.");
  }
  read_->setVisible(!before.isEmpty());
  before_->setVisible(!before.isEmpty());
  before_->setText(before.join("\n"));
  // What is not read yet stands first, and stands out.
  const bool unread = e && !e->read;
  before_->setStyleSheet(unread ? QString("color: %1").arg(theme().accent.name()) : QString());
  lines_->removeWidget(before_);
  lines_->insertWidget(unread ? 0 : 1, before_);
}

void EffectsPanel::set(std::size_t field, double value, bool keep) {
  const Effect* now = effect();
  if (!now || field >= shown_.size()) return;
  const Shown& one = shown_[field];
  Json put = value;
  if (one.place >= 0) {
    put = Json{now->place.x, now->place.y, now->place.z};
    put[static_cast<std::size_t>(one.place)] = value;
  }
  const Session::Values values{{path() + "/" + one.member, put}};
  if (keep)
    session_->keep(tr("%1: %2").arg(name_of(*now), one.spec.name), values);
  else
    session_->preview(values);
}

void EffectsPanel::timeBy(const QString& event) {
  const Effect* now = effect();
  if (!now) return;
  std::optional<Json> needs;
  if (!event.isEmpty()) {
    needs = Json{{"event", event.toStdString()}};
    if (now->needs && now->needs->beat)
      (*needs)["beat"] = *now->needs->beat;
    else
      (*needs)["screen"] =
          now->needs && now->needs->screen ? *now->needs->screen : session_->shot()->screen_time / 2;
  }
  session_->keep(tr("%1 timed").arg(name_of(*now)), {{path() + "/needs", needs}});
}

void EffectsPanel::addMenu() {
  auto* menu = new QMenu(this);
  menu->setObjectName("effectKinds");
  menu->setAttribute(Qt::WA_DeleteOnClose);
  for (const EffectKind& kind : effect_kinds()) {
    if (kind.id == "flame") continue;  // never planned here
    QAction* action = menu->addAction(q(in_words(kind.name.c_str())), this, [this, &kind] { add(kind); });
    action->setToolTip(plainTip(q(in_words(kind.what.c_str()))));
  }
  menu->setToolTipsVisible(true);
  menu->popup(add_->mapToGlobal(QPoint(0, add_->height())));
}

void EffectsPanel::add(const EffectKind& kind) {
  if (!session_->shot()) return;
  const std::string list_path = "/shots/" + std::to_string(session_->shotIndex()) + "/effects";
  Json list = value_at(session_->document(), list_path).value_or(Json::array());
  list.push_back(begun_effect(session_->project(), session_->shotIndex(), kind));
  index_ = list.size() - 1;
  session_->keep(tr("%1 added").arg(q(in_words(kind.name.c_str()))), {{list_path, list}});
}

void EffectsPanel::takeAway() {
  const Effect* now = effect();
  if (!now) return;
  const std::string list_path = "/shots/" + std::to_string(session_->shotIndex()) + "/effects";
  Json list = value_at(session_->document(), list_path).value_or(Json::array());
  const QString title = tr("%1 taken away").arg(name_of(*now));
  list.erase(list.begin() + static_cast<std::ptrdiff_t>(index_));
  index_ = 0;
  session_->keep(title, {{list_path, list}});
}

void EffectsPanel::showEvent(QShowEvent*) { refresh(); }

void EffectsPanel::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const Theme& t = theme();
  drawPanel(p, rect());
  drawText(p, {10, 5, 60, 17}, Qt::AlignLeft | Qt::AlignVCenter, tr("Effects"), textFont(11, true), t.ink);
  if (!effect())
    drawText(p, QRectF(rect()).adjusted(20, 30, -20, -10), Qt::AlignCenter,
             session_->shot() ? tr("Nothing is poured, thrown or let fall in this shot. + effect adds what is.")
                              : tr("There is no shot to put an effect in"),
             textFont(12), t.quiet);
}

}  // namespace cinnabar
