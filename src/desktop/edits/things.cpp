#include "cinnabar/desktop/edits/things.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/desktop/edits/hand.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/project/making/new_shot.h"
#include "cinnabar/project/making/shot_edits.h"
#include "cinnabar/project/model/track_target.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {
namespace {

using Kind = Selection::Kind;

std::string setup_path(const Session& s) { return "/setups/" + std::to_string(s.setupIndex()); }

Json list_at(const Session& s, const std::string& pointer) {
  const auto found = value_at(s.document(), pointer);
  return found && found->is_array() ? *found : Json::array();
}

std::string fresh_id(const Json& list, const std::string& stem) {
  const auto taken = [&](const std::string& id) {
    return std::any_of(list.begin(), list.end(), [&](const Json& item) { return item.value("id", "") == id; });
  };
  if (!taken(stem)) return stem;
  for (int n = 2;; ++n)
    if (const std::string id = stem + "-" + std::to_string(n); !taken(id)) return id;
}

/// Where the thing's list is in the document, and what a new one is called.
struct Place {
  std::string list;
  Kind kind;
};
std::optional<Place> place_of(const Session& s, Kind kind) {
  if (kind == Kind::product) return Place{"/shots/" + std::to_string(s.shotIndex()) + "/products", kind};
  if (kind == Kind::effect) return Place{"/shots/" + std::to_string(s.shotIndex()) + "/effects", kind};
  if (!s.setup()) return std::nullopt;
  if (kind == Kind::light) return Place{setup_path(s) + "/lights", kind};
  if (kind == Kind::card) return Place{setup_path(s) + "/cards", kind};
  return std::nullopt;
}

ThingEdit appended(const Session& s, const Place& place, Json thing, const QString& title) {
  Json list = list_at(s, place.list);
  list.push_back(std::move(thing));
  return {{{place.list, list}}, title, {place.kind, list.size() - 1}};
}

}  // namespace

std::vector<SheetKind> sheetKinds() {
  return {{"white", QObject::tr("White card")},
          {"silver", QObject::tr("Silver card")},
          {"black", QObject::tr("Black flag")}};
}

std::optional<ThingEdit> lightAdded(const Session& s, const std::string& kitId) {
  const auto place = place_of(s, Kind::light);
  if (!place) return std::nullopt;
  const LightKit* kit = by_id(s.project().light_kits, kitId);
  const std::string name = kit && !kit->name.empty() ? kit->name : "Light";
  Json light{{"id", fresh_id(list_at(s, place->list), kit ? kit->id : "light")},
             {"name", name},
             {"on", true},
             {"place", {-0.6, 0.5, 0.6}},
             {"aim", {0, 0.05, 0}},
             {"roll_deg", 0},
             {"shape", "rectangle"},
             {"width", 0.5},
             {"height", 0.5},
             {"dimmer", 0.5}};
  if (kit) light["kit"] = kit->id;
  if (!kit || !kit->lumens) light["lumens"] = 3000;
  return appended(s, *place, std::move(light), QObject::tr("%1 set up").arg(q(name)));
}

std::optional<ThingEdit> sheetAdded(const Session& s, const std::string& kind) {
  const auto place = place_of(s, Kind::card);
  if (!place) return std::nullopt;
  Json material;
  if (kind == "silver") material = {{"kind", "metal"}, {"colour", {0.9, 0.9, 0.9}}, {"roughness", 0.35}};
  if (kind == "white") material = {{"kind", "matte"}, {"colour", {0.85, 0.85, 0.85}}};
  if (kind == "black") material = {{"kind", "cloth"}, {"colour", {0.02, 0.02, 0.02}}};
  if (material.is_null()) return std::nullopt;
  QString name;
  for (const SheetKind& known : sheetKinds())
    if (kind == known.id) name = known.name;
  Json card{{"id", fresh_id(list_at(s, place->list), kind)},
            {"name", name.toStdString()},
            {"place", {-0.35, 0.16, 0.2}},
            {"aim", {0, 0.06, 0}},
            {"roll_deg", 0},
            {"width", 0.3},
            {"height", 0.4},
            {"material", material}};
  return appended(s, *place, std::move(card), QObject::tr("%1 set up").arg(name));
}

std::optional<ThingEdit> productAdded(const Session& s, const std::string& productId) {
  const auto place = s.shot() ? place_of(s, Kind::product) : std::nullopt;
  const Product* product = by_id(s.project().products, productId);
  if (!place || !product) return std::nullopt;
  double right = 0;  // beside what stands farthest to the right
  bool first = true;
  for (const ShotProduct& there : s.shot()->products) {
    if (there.product == productId) return std::nullopt;
    const Product* other = by_id(s.project().products, there.product);
    right = std::max(right, there.place.x + (other ? widest_reach(*other) : 0.0));
    first = false;
  }
  const double x = first ? 0.0 : std::round((right + widest_reach(*product) + 0.02) * 100) / 100;
  return appended(s, *place, Json{{"product", productId}, {"place", {x, 0, 0}}, {"turn_deg", 0}},
                  QObject::tr("%1 put on").arg(q(product->name)));
}

std::optional<ThingEdit> cardAdded(const Session& s, const std::string& kitId) {
  const auto place = place_of(s, Kind::card);
  const Json* stock = s.document().find("kit/cards", kitId);
  if (!place || !stock) return std::nullopt;
  const QString name = q(stock->value("name", kitId));
  Json card{{"id", fresh_id(list_at(s, place->list), kitId)},
            {"name", name.toStdString()},
            {"kit", kitId},
            {"place", {-0.35, 0.16, 0.2}},
            {"aim", {0, 0.06, 0}},
            {"roll_deg", 0},
            {"width", (*stock)["width"]},
            {"height", (*stock)["height"]}};
  if (stock->contains("material")) card["material"] = (*stock)["material"];
  return appended(s, *place, std::move(card), QObject::tr("%1 set up").arg(name));
}

std::optional<ThingEdit> surfaceLaid(const Session& s, const std::string& kitId) {
  const Json* stock = s.document().find("kit/surfaces", kitId);
  if (!s.setup() || !stock || (s.setup()->surface && s.setup()->surface->kit == kitId)) return std::nullopt;
  const std::string pointer = setup_path(s) + "/surface";
  Json surface = value_at(s.document(), pointer).value_or(Json::object());
  surface.update({{"kit", kitId}, {"width", (*stock)["width"]}, {"depth", (*stock)["depth"]}});
  surface["material"] = stock->value("material", Json{{"kind", "matte"}});
  return ThingEdit{
      {{pointer, surface}}, QObject::tr("%1 laid").arg(q(stock->value("name", kitId))), {Kind::surface, 0}};
}

std::optional<ThingEdit> backdropHung(const Session& s, const std::string& kitId) {
  const Json* stock = s.document().find("kit/backdrops", kitId);
  if (!s.setup() || !stock || s.setup()->backdrop.kit == kitId) return std::nullopt;
  const std::string pointer = setup_path(s) + "/backdrop";
  Json backdrop = value_at(s.document(), pointer).value_or(Json::object());
  if (backdrop.value("kind", "none") == "none") backdrop["kind"] = "flat", backdrop["distance"] = 1.0;
  backdrop.update({{"kit", kitId}, {"width", (*stock)["width"]}, {"height", (*stock)["height"]}});
  backdrop["material"] = stock->value("material", Json{{"kind", "cloth"}});
  return ThingEdit{
      {{pointer, backdrop}}, QObject::tr("%1 hung").arg(q(stock->value("name", kitId))), {Kind::backdrop, 0}};
}

std::optional<ThingEdit> modifierPut(const Session& s, const Selection& selection, const std::string& kitId) {
  if (selection.kind != Kind::light || !s.setup() || selection.index >= s.setup()->lights.size())
    return std::nullopt;
  const Light& l = s.setup()->lights[selection.index];
  const std::string pointer = pointerOf(s, selection);
  Json light = *value_at(s.document(), pointer);
  if (kitId.empty()) {
    if (l.modifier.empty()) return std::nullopt;
    for (const char* key : {"modifier", "grid_deg", "doors", "transmittance"}) light.erase(key);
    return ThingEdit{{{pointer, light}}, QObject::tr("%1 without a modifier").arg(q(l.name)), selection};
  }
  const Modifier* m = by_id(s.project().modifiers, kitId);
  if (!m || l.modifier == kitId) return std::nullopt;
  light["modifier"] = kitId;
  for (const char* key : {"grid_deg", "doors", "transmittance"}) light.erase(key);
  if (!m->shape.empty()) {
    for (const char* key : {"width", "height", "radius", "length"}) light.erase(key);
    light["shape"] = m->shape;
    if (m->shape == "disc")
      light["radius"] = m->radius;
    else
      light["width"] = m->width, light["height"] = m->height;
  }
  if (m->transmittance < 1.0) light["transmittance"] = m->transmittance;
  if (m->grid_deg) light["grid_deg"] = *m->grid_deg;
  const std::string shape = light["shape"];
  if (m->doors && (shape == "rectangle" || shape == "disc")) {
    const double side = shape == "disc" ? 2 * light["radius"].get<double>()
                                        : std::min(light["width"].get<double>(), light["height"].get<double>());
    light["doors"] = Json{{"length", std::round(600 * side) / 1000},
                          {"top_deg", 60},
                          {"bottom_deg", 60},
                          {"left_deg", 60},
                          {"right_deg", 60}};
  }
  return ThingEdit{{{pointer, light}}, QObject::tr("%1 on %2").arg(q(m->name), q(l.name)), selection};
}

ThingEdit placedAt(ThingEdit thing, const Vec3& place, const Vec3& aim) {
  if (thing.values.empty() || !thing.values.front().second) return thing;
  Json& one = thing.values.front().second->back();  // of the list that it was appended to
  one["place"] = pointJson(place), one["aim"] = pointJson(aim);
  return thing;
}

std::optional<ThingEdit> lightCarried(const Session& s, const Selection& selection, const Vec3& place,
                                      const Vec3& aim) {
  if (selection.kind != Kind::light || !s.setup() || selection.index >= s.setup()->lights.size()) return {};
  auto values = moved(s, selection, place, false);
  values.push_back({pointerOf(s, selection) + "/aim", pointJson(aim)});
  return ThingEdit{std::move(values), QObject::tr("%1 carried").arg(nameOf(s, selection)), selection};
}

std::optional<ThingEdit> duplicated(const Session& s, const Selection& selection) {
  const auto place = place_of(s, selection.kind);
  if (!place) return std::nullopt;
  const Json list = list_at(s, place->list);
  if (selection.index >= list.size()) return std::nullopt;
  Json copy = list[selection.index];
  if (copy.contains("id")) copy["id"] = fresh_id(list, copy["id"].get<std::string>());
  const QString name = nameOf(s, selection);
  if (copy.contains("name")) copy["name"] = (name + QObject::tr(", second")).toStdString();
  if (copy.contains("place")) copy["place"][0] = copy["place"][0].get<double>() + 0.15;
  return appended(s, *place, std::move(copy), QObject::tr("%1 doubled").arg(name));
}

std::optional<ThingEdit> removed(const Session& s, const Selection& selection) {
  const auto place = place_of(s, selection.kind);
  if (!place) return std::nullopt;
  Json list = list_at(s, place->list);
  if (selection.index >= list.size()) return std::nullopt;
  const QString name = nameOf(s, selection);
  const std::string id = list[selection.index].value("id", "");
  list.erase(list.begin() + static_cast<std::ptrdiff_t>(selection.index));
  ThingEdit out{{{place->list, list}}, QObject::tr("%1 taken away").arg(name), {Kind::camera, 0}};
  if (selection.kind == Kind::effect) return out;  // no track moves it
  const std::string kind = selection.kind == Kind::light  ? "light"
                           : selection.kind == Kind::card ? "card"
                                                          : "product";
  const std::string thing = selection.kind == Kind::product ? s.shot()->products[selection.index].product : id;
  // Its tracks go with it, in every shot of the set-up.
  for (std::size_t i = 0; i < s.project().shots.size(); ++i) {
    const Shot& shot = *s.project().shots[i];
    if (selection.kind == Kind::product ? i != s.shotIndex() : !s.setup() || shot.setup != s.setup()->id) continue;
    Json tracks = list_at(s, "/shots/" + std::to_string(i) + "/tracks");
    const std::size_t before = tracks.size();
    tracks.erase(std::remove_if(tracks.begin(), tracks.end(),
                                [&](const Json& t) {
                                  const auto target = read_target(t.value("target", ""));
                                  return target && target->kind->of == kind && target->id == thing;
                                }),
                 tracks.end());
    if (tracks.size() != before)
      out.values.insert(out.values.begin(), {"/shots/" + std::to_string(i) + "/tracks", tracks});
  }
  return out;
}

std::optional<ThingEdit> doorsSwitched(const Session& s, const Selection& selection) {
  if (selection.kind != Kind::light || !s.setup() || selection.index >= s.setup()->lights.size())
    return std::nullopt;
  const Light& l = s.setup()->lights[selection.index];
  const std::string pointer = pointerOf(s, selection) + "/doors";
  if (l.doors) return ThingEdit{{{pointer, std::nullopt}}, QObject::tr("Doors off %1").arg(q(l.name)), selection};
  if (l.shape != LightShape::rectangle && l.shape != LightShape::disc) return std::nullopt;
  const double side = l.shape == LightShape::rectangle ? std::min(l.width, l.height) : 2 * l.radius;
  const Json doors{{"length", std::round(600 * side) / 1000},
                   {"top_deg", 60},
                   {"bottom_deg", 60},
                   {"left_deg", 60},
                   {"right_deg", 60}};
  return ThingEdit{{{pointer, doors}}, QObject::tr("Doors on %1").arg(q(l.name)), selection};
}

std::optional<ThingEdit> sheetSwitched(const Session& s) {
  if (!s.setup() || !s.setup()->surface) return std::nullopt;
  const std::string pointer = setup_path(s) + "/surface/sheet";
  const Selection surface{Kind::surface, 0};
  if (s.setup()->surface->sheet > 0)
    return ThingEdit{{{pointer, std::nullopt}}, QObject::tr("Glass sheet off the surface"), surface};
  return ThingEdit{{{pointer, Json{{"thickness", 0.006}, {"material", {{"kind", "glass"}, {"ior", 1.52}}}}}},
                   QObject::tr("Glass sheet on the surface"),
                   surface};
}

void addShot(Session& s) {
  Document next = s.document();
  const bool first = !s.shot();
  const std::size_t at = first ? 0 : s.shotIndex() + 1;
  const Json* like = first ? nullptr : next.list("shots")[s.shotIndex()].get();
  insert_shot(next, new_shot(next, like, first ? "First shot" : "New shot"), at);
  if (s.keep(edit_between(s.document(), next, QObject::tr("Shot added").toStdString()))) s.selectShot(at);
}

std::optional<Edit> shotMoved(const Session& s, std::size_t from, std::size_t to) {
  const auto next = with_shot_moved(s.document(), from, to);
  if (!next || from == to) return std::nullopt;
  const QString title = to == 0 ? QObject::tr("Shot %1 moved to the start").arg(from + 1)
                                : QObject::tr("Shot %1 moved after %2").arg(from + 1).arg(to > from ? to + 1 : to);
  return edit_between(s.document(), *next, title.toStdString());
}

QString sharedNote(const Session& s) {
  if (!s.setup()) return {};
  QStringList numbers;
  for (std::size_t i = 0; i < s.project().shots.size(); ++i)
    if (s.project().shots[i]->setup == s.setup()->id) numbers << QString::number(i + 1);
  if (numbers.size() < 2) return {};
  const QString last = numbers.takeLast();
  return QObject::tr("set-up %1, shared by shots %2 and %3").arg(q(s.setup()->id), numbers.join(", "), last);
}

}  // namespace cinnabar
