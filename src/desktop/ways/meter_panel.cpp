#include "cinnabar/desktop/ways/meter_panel.h"

#include <fmt/format.h>

#include <QComboBox>
#include <QDateTime>
#include <QHBoxLayout>
#include <QPointer>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <utility>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/controls/unit_fields.h"
#include "cinnabar/desktop/edits/number_words.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/ways/way_cards.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/planning/set_things.h"
#include "cinnabar/planning/warming.h"
#include "cinnabar/project/making/new_shot.h"

namespace cinnabar {
namespace {

constexpr std::size_t most_pins = 200, metered_field = 3;

}  // namespace

MeterPanel::MeterPanel(Session* session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("meterPanel");
  setAccessibleName(tr("Point meter"));
  auto* all = new QHBoxLayout(this);
  all->setContentsMargins(10, 26, 8, 6);
  all->setSpacing(12);
  list_ = new PinList(session, this);
  words_ = new PlainLabel(this);
  words_->setObjectName("meterWords");
  words_->setWordWrap(true);
  words_->setAlignment(Qt::AlignBottom | Qt::AlignLeft);
  auto* left = new QVBoxLayout;
  left->setSpacing(3);
  left->addWidget(list_, 1);
  left->addWidget(words_);
  all->addLayout(left, 58);
  all->addWidget(tools(), 42);
  connectParts();
  refresh();
}

/// The chosen pin's name and numbers, the meter's line, and a lamp made to fit.
QWidget* MeterPanel::tools() {
  auto* side = new QWidget(this);
  const auto button = [side](const char* id, const QString& text, const QString& tip, WordButton::Look look) {
    auto* b = new WordButton(text, look, side);
    b->setObjectName(id);
    b->setCheckable(false);
    b->setToolTip(tip);
    return b;
  };
  set_ = button("pinSet", tr("Set a pin"),
                tr("Where the picture is read: click there first, or go there by its arrow keys"),
                WordButton::Look::plain);
  name_ = new QLineEdit(side);
  name_->setObjectName("pinName");
  name_->setAccessibleName(tr("Name of the pin"));
  name_->setToolTip(tr("Name of the pin"));
  name_->setMinimumWidth(60);
  remove_ = button("pinRemove", tr("off"), tr("Take the pin away"), WordButton::Look::plain);
  remove_->setAccessibleName(tr("Take the pin away"));
  numbers_ = new NumberGrid({.across = 4, .apart = 8, .rows = 2, .narrowest = 56}, 4, side);
  socket_ = new SocketLine(&link_,
                           {.stem = "meter",
                            .usual = "cinnabar-meter",
                            .name = tr("The meter's socket"),
                            .tip = tr("The local socket at which the meter listens"),
                            .join = tr("Speak to the meter at that socket")},
                           side);
  read_ = button("meterRead", tr("Read here"), tr("Hold the meter at this pin and take what it reads"),
                 WordButton::Look::plain);
  light_ = new QComboBox(side);
  light_->setObjectName("meterLight");
  light_->setAccessibleName(tr("Light that is made to fit"));
  light_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  light_->setMinimumContentsLength(6);
  calibrate_ =
      button("meterCalibrate", tr("Calibrate"),
             tr("What this light must give for the readings to fit; from two on the room's part too, from "
                "four the width of its beam"),
             WordButton::Look::plain);
  take_ = button("meterTake", tr("Take it"), tr("Set the light so, one edit"), WordButton::Look::plain);
  auto* rows = new QVBoxLayout(side);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(3);
  const auto row = [rows](std::initializer_list<std::pair<QWidget*, int>> widgets) {
    auto* one = new QHBoxLayout;
    one->setSpacing(6);
    for (const auto& [w, stretch] : widgets) one->addWidget(w, stretch);
    rows->addLayout(one);
  };
  row({{set_, 0}, {name_, 1}, {remove_, 0}});
  rows->addWidget(numbers_);
  row({{socket_, 1}, {read_, 0}});
  row({{light_, 1}, {calibrate_, 0}, {take_, 0}});
  rows->addStretch(1);
  return side;
}

void MeterPanel::connectParts() {
  connect(list_, &PinList::chosenChanged, this, &MeterPanel::refresh);
  connect(set_, &WordButton::clicked, this, &MeterPanel::placeWanted);
  connect(list_, &PinList::removeWanted, this, &MeterPanel::remove);
  connect(remove_, &WordButton::clicked, this, &MeterPanel::remove);
  connect(name_, &QLineEdit::editingFinished, this, [this] {
    const std::string text = name_->text().trimmed().toStdString();
    if (pin() && !text.empty() && text != pin()->name)
      session_->keep(tr("Pin named %1").arg(q(text)), {{path() + "/name", text}});
  });
  connect(numbers_, &NumberGrid::entered, this, &MeterPanel::put);
  connect(numbers_, &NumberGrid::refused, session_, &Session::message);
  connect(socket_, &SocketLine::joining, this, [this] { say({}, false); });
  connect(read_, &WordButton::clicked, this, [this] {
    const Pin* now = pin();
    if (!now) return;
    const auto pose = carried();
    link_.read(pose ? pose->world(now->at) : now->at, pose ? pose->direction(now->normal) : now->normal,
               [this, id = now->id](double lux) {
                 if (pin() && pin()->id == id) put(metered_field, lux);  // else another was chosen meanwhile
               });
  });
  connect(calibrate_, &WordButton::clicked, this, &MeterPanel::calibrate);
  connect(take_, &WordButton::clicked, this, &MeterPanel::take);
  connect(&link_, &MeterLink::changed, this, &MeterPanel::refresh);
  connect(&link_, &MeterLink::told, this, &MeterPanel::say);
  for (const auto change : {&Session::changed, &Session::shotChanged, &Session::timeChanged})
    connect(session_, change, this, [this] {
      if (isVisible() && !session_->previewing()) lookAtSetup();
    });
}

const Pin* MeterPanel::pin() const {
  const Setup* setup = session_->setup();
  return setup && list_->chosen() < setup->pins.size() ? &setup->pins[list_->chosen()] : nullptr;
}
std::optional<ProductPose> MeterPanel::carried() const {
  const Pin* now = pin();
  if (!now || now->with.empty() || !session_->shot()) return std::nullopt;
  for (const ShotProduct& placed : session_->shot()->products)
    if (placed.product == now->with)
      return product_at(session_->project(), *session_->shot(), placed, session_->setTime());
  return std::nullopt;
}
std::string MeterPanel::path() const {
  return fmt::format("/setups/{}/pins/{}", session_->setupIndex(), list_->chosen());
}

/// All pins metered anew, on a worker.
void MeterPanel::lookAtSetup() {
  found_.clear();
  stopFitting();
  if (!session_->setup() || !session_->shot() || session_->setup()->pins.empty()) {
    reader_.stop();
    list_->show({});
    return refresh();
  }
  refresh();
  const QPointer<MeterPanel> self(this);
  reader_.ask([self, project = session_->project(), shot = session_->shotIndex(),
               at = session_->setTime()](const std::atomic<bool>& cancelled) {
    auto readings = read_pins(project, *project.shots[shot], at, &cancelled);
    if (cancelled) return;
    later(self, [self, readings = std::move(readings)] { self->list_->show(readings); });
  });
}

void MeterPanel::refresh() {
  const Setup* setup = session_->setup();
  const Pin* now = pin();
  const bool may = !session_->readOnly();
  set_->setEnabled(setup && may);
  for (QWidget* w : std::initializer_list<QWidget*>{name_, remove_}) w->setEnabled(now && may);
  if (!name_->hasFocus() || !name_->isModified()) name_->setText(now ? q(name_or(now->name, now->id)) : QString());
  std::vector<NumberField::Spec> specs;
  if (now) {
    const Units units = session_->units();
    const auto pose = carried();
    const Vec3 at = pose ? pose->world(now->at) : now->at;
    specs = {unitField(tr("Across"), "pin-x", at.x, "m", units), unitField(tr("Up"), "pin-y", at.y, "m", units),
             unitField(tr("Toward camera"), "pin-z", at.z, "m", units),
             NumberField::Spec{tr("Metered"), "pin-lux", now->measured ? now->measured->illuminance_lx : 0.0, 10.0,
                               [](double v) { return v > 0.0 ? q(number_text(v, 4)) + " lx" : tr("not yet"); },
                               numberTyped("lx")}};
  }
  numbers_->setNumbers(specs);
  std::vector<std::pair<QString, QString>> lights;
  if (setup)
    for (const Light& light : setup->lights)
      if (light.on && !light.daylight) lights.emplace_back(q(name_or(light.name, light.id)), q(light.id));
  const QString chosen = light_->currentData().toString();
  const bool there = std::any_of(lights.begin(), lights.end(), [&](const auto& l) { return l.second == chosen; });
  offer(*light_, lights, there || lights.empty() ? chosen : lights.front().second);
  const bool metered = setup && std::any_of(setup->pins.begin(), setup->pins.end(),
                                            [](const Pin& p) { return p.measured.has_value(); });
  read_->setEnabled(link_.joined() && now && may);
  calibrate_->setText(fitting_ ? tr("Stop") : tr("Calibrate"));
  calibrate_->setEnabled(fitting_ || (metered && !lights.empty()));
  take_->setEnabled(!found_.empty() && may);
  const auto slow = setup ? longest_warm_up(session_->project(), *setup) : std::nullopt;
  words_->setText(!told_.isEmpty() ? told_
                  : !setup         ? tr("A pin stands in a set-up; give this shot one.")
                  : slow           ? tr("Let %1 burn for %2 min before anything is read.")
                               .arg(q(slow->name), q(number_text(slow->minutes, 3)))
                         : tr("Type what a hand meter reads, or join one. cinnabar-meter stands in for one."));
  const QString look = QString("color: %1;").arg((refusal_ ? theme().accent : theme().ink).name());
  if (words_->styleSheet() != look) words_->setStyleSheet(look);
  emit pinChosen(now ? static_cast<int>(list_->chosen()) : -1);
  update();
}

void MeterPanel::say(const QString& text, bool refusal) {
  told_ = text;
  refusal_ = refusal;
  refresh();
}

void MeterPanel::takePlace(const std::optional<PlaceMet>& met) {
  const Setup* setup = session_->setup();
  if (!setup || session_->readOnly()) return;
  if (!met) return say(tr("Click the place in the picture first, or go there by its arrow keys"), true);
  if (setup->pins.size() >= most_pins) return say(tr("So many pins nobody reads; take some away first"), true);
  const std::string pointer = fmt::format("/setups/{}/pins", session_->setupIndex());
  Json pins = value_at(session_->document(), pointer).value_or(Json::array());
  if (!pins.is_array()) pins = Json::array();
  const QString where = met->role == Role::product    ? tr("product")
                        : met->role == Role::backdrop ? tr("backdrop")
                        : met->role == Role::surface  ? tr("surface")
                                                      : tr("pin");
  const std::size_t at = pins.size();
  Json set{{"id", fresh_id(pins, "p")}, {"name", tr("%1 %2").arg(where).arg(at + 1).toStdString()}};
  Vec3 place = met->at, normal = met->normal;
  const Shot* shot = session_->shot();
  if (met->role == Role::product && shot && met->thing >= 0 &&
      static_cast<std::size_t>(met->thing) < shot->products.size()) {  // it goes along with what it is set on
    const ShotProduct& placed = shot->products[static_cast<std::size_t>(met->thing)];
    const ProductPose pose = product_at(session_->project(), *shot, placed, session_->setTime());
    place = pose.own(place), normal = pose.own_direction(normal);
    set["with"] = placed.product;
  }
  set["at"] = point_json(place), set["normal"] = point_json(normal);
  pins.push_back(std::move(set));
  if (session_->keep(tr("Pin set: %1 %2").arg(where).arg(at + 1), {{pointer, pins}}))
    say({}, false), list_->choose(at);
}

/// One of the chosen pin's numbers: its place, or what was read there; nothing read takes the reading away.
void MeterPanel::put(std::size_t field, double value) {
  const Pin* now = pin();
  if (!now) return;
  const QString name = q(name_or(now->name, now->id));
  if (field < metered_field) {
    const auto pose = carried();
    Vec3 at = pose ? pose->world(now->at) : now->at;
    (field == 0 ? at.x : field == 1 ? at.y : at.z) = value;
    if (pose) at = pose->own(at);
    session_->keep(tr("%1 moved").arg(name), {{path() + "/at", point_json(at)}});
  } else if (value > 0.0) {
    session_->keep(
        tr("%1 metered: %2 lx").arg(name, q(number_text(value, 4))),
        {{path() + "/measured", Json{{"illuminance_lx", value},
                                     {"at", QDateTime::currentDateTime().toString(Qt::ISODate).toStdString()}}}});
  } else if (now->measured) {
    session_->keep(tr("%1: its reading taken away").arg(name), {{path() + "/measured", std::nullopt}});
  }
  refresh();
}

void MeterPanel::remove() {
  if (!pin() || session_->readOnly()) return;
  const std::string pointer = fmt::format("/setups/{}/pins", session_->setupIndex());
  Json pins = value_at(session_->document(), pointer).value_or(Json::array());
  if (list_->chosen() >= pins.size()) return;
  pins.erase(list_->chosen());
  session_->keep(tr("%1 taken away").arg(q(name_or(pin()->name, pin()->id))), {{pointer, pins}});
}

/// What it comes to is not heard any more.
void MeterPanel::stopFitting() {
  fitter_.stop();
  ++asked_;
  if (std::exchange(fitting_, false)) told_.clear();
}

/// What the chosen light must give, on a worker.
void MeterPanel::calibrate() {
  if (fitting_) {
    stopFitting();
    return say(tr("Stopped"), false);
  }
  fitting_ = true;
  say(tr("Working it out"), false);
  const QPointer<MeterPanel> self(this);
  fitter_.ask([self, asked = ++asked_, project = session_->project(), shot = session_->shotIndex(),
               at = session_->setTime(),
               light = light_->currentData().toString().toStdString()](const std::atomic<bool>& cancelled) {
    const auto found = calibrated(project, shot, light, at, &cancelled);
    if (cancelled) return;
    later(self, [self, asked, found] {
      if (asked != self->asked_) return;  // stopped, or of a set-up that is another by now
      self->fitting_ = false;
      if (!found) return self->say(q(found.error().text()), true);
      self->found_ = found->changes;
      self->foundTitle_ = q(found->title);
      QStringList parts{tr("%1 (%2 times)").arg(q(found->title), q(number_text(found->output, 3)))};
      if (found->grid_deg) parts << tr("a beam of %1\u00b0").arg(q(number_text(*found->grid_deg, 3)));
      if (found->ambient_lx) parts << tr("the room gives %1 lx").arg(q(number_text(*found->ambient_lx, 3)));
      parts << tr("off by %1 stops, was %2")
                   .arg(q(number_text(found->off_after, 2)), q(number_text(found->off_before, 2)));
      self->say(parts.join("; "), false);
    });
  });
}

void MeterPanel::take() {
  const Session::Values values = std::exchange(found_, {});
  if (!values.empty() && session_->keep(foundTitle_, values)) say({}, false);
}

void MeterPanel::paintEvent(QPaintEvent*) {
  drawWaysHead(*this, tr("Point meter"),
               tr("lux, stops from the exposure's grey, white, who gives it; metered beside"));
}

}  // namespace cinnabar
