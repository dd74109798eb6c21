#include "cinnabar/desktop/ways/effects_panel.h"

#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QMenu>
#include <QPainter>
#include <QScrollArea>
#include <QVBoxLayout>
#include <algorithm>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/desktop/edits/number_words.h"
#include "cinnabar/desktop/stage/vial.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/project/model/names.h"
#include "cinnabar/scene/effects_staged.h"

namespace cinnabar {
namespace {

QString name_of(const Effect& effect) { return q(effect_name(effect)); }

/// Volumes are told in millilitres, lengths in the project's measure, the rest as it is.
QString written(double v, const std::string& unit, Units units) {
  if (unit.starts_with("m3/s")) return q(number_text(v * 1e6, 3)) + " ml/s";
  if (unit.starts_with("m3")) return q(number_text(v * 1e6, 3)) + " ml";
  if (unit == "m" || unit.starts_with("m,")) return q(length_text(v, units));
  if (unit.starts_with("degrees")) return q(number_text(v, 3)) + QChar(0x00B0);
  const std::string mark = unit.substr(0, unit.find(','));
  return tidyMinus(q(number_text(v, 3))) +
         (mark.empty() || mark.starts_with("share") || mark == "times" ? QString() : " " + q(mark));
}
NumberField::Spec spec_of(const QString& name, const std::string& key, double value, const std::string& unit,
                          Units units) {
  NumberField::Spec spec{name, q(key), value, 0.05, {}, {}};
  spec.text = [unit, units](double v) { return written(v, unit, units); };
  if (unit.starts_with("m3/s")) {
    spec.step = 1e-6, spec.parse = numberTyped("ml/s", 1e-6);
  } else if (unit.starts_with("m3")) {
    spec.step = 1e-6, spec.parse = numberTyped("ml", 1e-6);
  } else if (unit == "m" || unit.starts_with("m,")) {
    spec.step = 0.001, spec.parse = [units](const QString& t) { return parse_length(t.toStdString(), units); };
  } else {
    const QString mark = unit.starts_with("degrees") ? QString(QChar(0x00B0)) : q(unit.substr(0, unit.find(',')));
    const double size = std::abs(value);
    spec.step = mark == QChar(0x00B0) ? 1.0 : size >= 100 ? 10.0 : size >= 5 ? 1.0 : size >= 0.5 ? 0.05 : 0.001;
    spec.parse = numberTyped(mark);
  }
  return spec;
}

}  // namespace

EffectsPanel::EffectsPanel(Session* session, QWidget* parent) : QWidget(parent), session_(session) {
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
  event_ = combo("effectEvent", tr("The moment that is timed"));
  add_ = button("addEffect", tr("+ effect"), tr("Add a pour, a fall, a splash, steam ..."));
  takeAway_ = button("removeEffect", tr("take away"), tr("Take this effect out of the shot"));
  read_ = new WordButton(tr("read"), WordButton::Look::chip, this);
  read_->setObjectName("effectRead");
  read_->setToolTip(tr("The cautions were read. They are a reminder, never a permission"));
  auto* head = new QHBoxLayout;
  head->setSpacing(6);
  head->addSpacing(56);  // the title is painted there
  head->addWidget(which_, 3);
  head->addWidget(liquid_, 2);
  head->addWidget(event_, 2);
  head->addWidget(add_);
  head->addWidget(takeAway_);
  head->addStretch(1);
  head->addWidget(read_);
  all->addLayout(head);
  auto* body = new QHBoxLayout;
  body->setSpacing(12);
  auto* grid = new QGridLayout;
  grid->setContentsMargins(0, 0, 0, 0);
  grid->setHorizontalSpacing(8);
  grid->setVerticalSpacing(3);
  for (std::size_t i = 0; i < fields_.size(); ++i) {
    auto* field = fields_[i] = new NumberField(this);
    field->setMinimumWidth(56);
    grid->addWidget(field, static_cast<int>(i / 5), static_cast<int>(i % 5));
    connect(field, &NumberField::refused, session, &Session::message);
    connect(field, &NumberField::previewed, this, [this, i](double v) { set(i, v, false); });
    connect(field, &NumberField::entered, this, [this, i](double v) { set(i, v, true); });
  }
  for (int column = 0; column < 5; ++column) grid->setColumnStretch(column, 1);
  grid->setRowStretch(3, 1);
  body->addLayout(grid, 58);
  told_ = new QScrollArea(this);
  told_->setObjectName("effectTold");
  told_->setFrameShape(QFrame::NoFrame);
  told_->setWidgetResizable(true);
  told_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  told_->viewport()->setAutoFillBackground(false);
  auto* inner = new QWidget(told_);
  inner->setAutoFillBackground(false);
  auto* lines = new QVBoxLayout(inner);
  lines->setContentsMargins(0, 0, 4, 0);
  lines->setSpacing(4);
  takes_ = new PlainLabel(inner);
  takes_->setObjectName("effectTakes");
  before_ = new PlainLabel(inner);
  before_->setObjectName("effectBefore");
  for (PlainLabel* label : {takes_, before_}) {
    label->setWordWrap(true);
    label->setAlignment(Qt::AlignLeft | Qt::AlignTop);
    lines->addWidget(label);
  }
  lines->addStretch(1);
  told_->setWidget(inner);
  body->addWidget(told_, 42);
  all->addLayout(body, 1);

  connect(add_, &WordButton::clicked, this, &EffectsPanel::addMenu);
  connect(takeAway_, &WordButton::clicked, this, &EffectsPanel::takeAway);
  connect(which_, &QComboBox::activated, this, [this](int at) {
    index_ = static_cast<std::size_t>(std::max(0, at));
    refresh();
    emit chosen(at);
  });
  connect(liquid_, &QComboBox::activated, this, [this](int at) {
    if (filling_ || !effect()) return;
    const std::string name = liquid_->itemData(at).toString().toStdString();
    session_->keep(tr("%1: %2").arg(name_of(*effect()), liquid_->itemText(at)),
                   {{path() + "/liquid", name.empty() ? std::optional<Json>() : std::optional<Json>(name)}});
  });
  connect(event_, &QComboBox::activated, this, [this](int at) {
    if (!filling_) timeBy(event_->itemData(at).toString());
  });
  connect(read_, &WordButton::clicked, this, [this](bool on) {
    if (effect()) session_->keep(on ? tr("Cautions read") : tr("Cautions not read"), {{path() + "/read", on}});
  });
  connect(session, &Session::changed, this, [this] {
    if (isVisible()) refresh();
  });
  connect(session, &Session::shotChanged, this, [this] { index_ = 0; });
  refresh();
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
  list.push_back({spec_of(tr("Let go at"), "effectAt", e.at, "s", units), "at"});
  if (e.needs) {
    const bool on_beat = !e.needs->screen && e.needs->beat;
    list.push_back({spec_of(on_beat ? tr("On beat") : tr("On screen at"), "effectWanted",
                            on_beat ? *e.needs->beat : e.needs->screen.value_or(0.0), on_beat ? "" : "s", units),
                    on_beat ? "needs/beat" : "needs/screen"});
    if (on_beat) list.back().spec.step = 1.0;
  }
  const std::pair<QString, double> places[] = {
      {tr("Across"), e.place.x}, {tr("Up"), e.place.y}, {tr("Toward camera"), e.place.z}};
  for (int k = 0; k < 3; ++k)
    list.push_back(
        {spec_of(places[k].first, "effectPlace" + std::to_string(k), places[k].second, "m", units), "place", k});
  const EffectKind* kind = effect_kind(e.kind);
  if (!kind) return list;
  const auto all = measures_of(*kind, e.measures, e.liquid);
  for (const EffectMeasure& m : kind->measures) {
    const auto given = e.measures.find(m.key);
    const std::vector<double> values = all                         ? all->at(m.key)
                                       : given != e.measures.end() ? given->second
                                                                   : std::vector{m.usual};
    list.push_back({spec_of(q(in_words(m.name.c_str())), "effect_" + m.key,
                            values.empty() ? m.usual : values.front(), m.unit, units),
                    m.key});
    if (m.list && values.size() > 1) {  // typed as a list
      QStringList words;
      for (const double v : values) words << written(v, m.unit, units);
      list.back().spec.text = [words](double) { return words.join(", "); };
    }
    if (m.list) list.back().spec.parse = {};
  }
  return list;
}

void EffectsPanel::refresh() {
  const Shot* shot = session_->shot();
  filling_ = true;
  if (shot && index_ >= shot->effects.size()) index_ = 0;
  which_->clear();
  if (shot)
    for (const Effect& one : shot->effects) which_->addItem(name_of(one), q(one.id));
  which_->setCurrentIndex(effect() ? static_cast<int>(index_) : -1);
  const Effect* now = effect();
  const EffectKind* kind = now ? effect_kind(now->kind) : nullptr;
  which_->setVisible(now);
  liquid_->setVisible(kind && kind->pours);
  event_->setVisible(now);
  takeAway_->setVisible(now);
  add_->setEnabled(shot && !session_->readOnly());
  told_->setVisible(now);
  liquid_->clear();
  if (kind && kind->pours) {
    liquid_->addItem(tr("as measured"), QString());
    for (const std::string& name : liquid_names()) liquid_->addItem(q(in_words(name.c_str())), q(name));
    liquid_->setCurrentIndex(liquid_->findData(q(now->liquid)));
  }
  shown_ = now ? numbers(*now) : std::vector<Shown>{};
  for (std::size_t i = 0; i < fields_.size(); ++i) {
    fields_[i]->setVisible(i < shown_.size());
    if (i < shown_.size()) fields_[i]->setSpec(shown_[i].spec);
  }
  read_->setVisible(now);
  if (now) {
    tell(*now);
    read_->setChecked(now->read);
  }
  filling_ = false;
  update();
}

/// What comes of the effect, in words: when, how, what it takes; and what can hurt.
void EffectsPanel::tell(const Effect& e) {
  const auto outcome = outcome_of(session_->project(), *session_->shot(), e);
  QStringList lines, moments;
  event_->clear();
  event_->addItem(tr("not timed"), QString());
  if (!outcome) {
    lines << tr("Cannot be worked out: %1").arg(q(outcome.error().text()));
  } else {
    for (const EffectEvent& event : outcome->events) {
      moments << tr("%1 %2 s").arg(q(in_words(event.name.c_str())), q(fixed_text(event.at, 2)));
      event_->addItem(q(in_words(event.name.c_str())), q(event.name));
    }
    lines << moments.join(" \u00B7 ");
    QStringList numbers;
    for (const EffectNumber& n : outcome->numbers)
      numbers << q(in_words(n.name.c_str())).replace('_', ' ').remove(" hz") + " " +
                     written(n.value, n.unit, session_->units()) +
                     (n.tell.empty() ? QString() : " (" + q(n.tell) + ")");
    lines << numbers.join(" \u00B7 ");
    for (const std::string& note : outcome->notes) lines << q(note);
    if (!outcome->plates.empty()) {
      QStringList plates;
      for (const std::string& plate : outcome->plates) plates << q(plate);
      lines << tr("Plates: %1").arg(plates.join(", "));
    }
  }
  lines << tr("%n to help", nullptr, e.hands) +
               (e.reset_minutes > 0 ? tr(" \u00B7 %1 min to reset").arg(q(number_text(e.reset_minutes, 3)))
                                    : QString());
  takes_->setText(lines.join("\n"));
  if (e.needs && event_->findData(q(e.needs->event)) < 0) event_->addItem(q(e.needs->event), q(e.needs->event));
  event_->setCurrentIndex(e.needs ? event_->findData(q(e.needs->event)) : 0);
  QStringList before;
  for (const Peril peril : perils_of(e, outcome)) {
    const PerilWords words = peril_words(peril);
    before << q(words.title) + ": " + q(words.text);
  }
  if (!before.isEmpty()) {
    before.prepend(tr("Before you do it"));
    before << tr("Follow the makers and local codes; this is no permission.");
  }
  before_->setVisible(!before.isEmpty());
  before_->setText(before.join("\n"));
  // What is not read yet stands first, and stands out.
  before_->setStyleSheet(e.read ? QString() : QString("color: %1").arg(theme().accent.name()));
  auto* lines_in = static_cast<QVBoxLayout*>(told_->widget()->layout());
  lines_in->removeWidget(before_);
  lines_in->insertWidget(e.read ? 1 : 0, before_);
  read_->setVisible(!before.isEmpty());
}

void EffectsPanel::set(std::size_t field, double value, bool keep) {
  const Effect* now = effect();
  if (filling_ || !now || field >= shown_.size()) return;
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
