#include "cinnabar/planning/set_things.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <functional>

#include "cinnabar/base/range.h"
#include "cinnabar/base/words.h"
#include "cinnabar/planning/set_bodies.h"
#include "cinnabar/planning/set_looks.h"
#include "cinnabar/project/document/variations.h"
#include "cinnabar/project/making/new_shot.h"
#include "cinnabar/project/making/shot_edits.h"
#include "cinnabar/project/model/names.h"
#include "cinnabar/project/model/track_target.h"
#include "cinnabar/scene/effects_staged.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {
namespace {

using Kind = SetThing::Kind;

/// To a hundredth of a millimetre.
double to_place(double metres) { return rounded(metres, 5); }

std::string setup_path(const OnSet& on) { return "/setups/" + std::to_string(on.setup_index()); }
std::string shot_path(const OnSet& on) { return "/shots/" + std::to_string(on.shot_index); }

Json list_at(const OnSet& on, const std::string& pointer) {
  const auto found = value_at(on.document, pointer);
  return found && found->is_array() ? *found : Json::array();
}

/// The list that things of a kind stand in; nothing of what there is one of.
std::optional<std::string> list_of(const OnSet& on, Kind kind) {
  if (!on.shot()) return {};
  if (kind == Kind::product) return shot_path(on) + "/products";
  if (kind == Kind::effect) return shot_path(on) + "/effects";
  if (!on.setup()) return {};
  if (kind == Kind::light) return setup_path(on) + "/lights";
  if (kind == Kind::card) return setup_path(on) + "/cards";
  if (kind == Kind::body) return setup_path(on) + "/gear";
  return {};
}

SetEdit appended(const OnSet& on, Kind kind, Json thing, std::string title) {
  const std::string pointer = *list_of(on, kind);
  Json list = list_at(on, pointer);
  list.push_back(std::move(thing));
  return {{{pointer, list}}, std::move(title), {kind, list.size() - 1}};
}

const Light* light_of(const OnSet& on, const SetThing& thing) {
  const Setup* setup = on.setup();
  return thing.kind == Kind::light && setup && thing.index < setup->lights.size() ? &setup->lights[thing.index]
                                                                                  : nullptr;
}

/// A window is in its wall: nothing carries it, and nothing stands before it.
bool is_window(const OnSet& on, const SetThing& thing) {
  const Light* light = light_of(on, thing);
  return light && light->window;
}

/// Doors that open by 60 degrees, six tenths of a face's shorter side long.
Json usual_doors(double side) {
  return {{"length", std::round(600 * side) / 1000},
          {"top_deg", 60},
          {"bottom_deg", 60},
          {"left_deg", 60},
          {"right_deg", 60}};
}

/// To the left of the product, farther out where one stands already.
Json card_at_the_left(const OnSet& on, std::string id, std::string name, double width, double height) {
  const Vec3 product = on.shot() && !on.shot()->products.empty() ? on.shot()->products.front().place : Vec3{};
  Vec3 place = product + Vec3{-0.35, 0.16, 0.2};
  constexpr double beside = 0.08;  // metres
  const auto taken = [&] {
    const auto& cards = on.setup()->cards;
    return std::any_of(cards.begin(), cards.end(),
                       [&](const Card& card) { return length(card.place - place) < 0.9 * beside; });
  };
  while (on.setup() && taken()) place.x -= beside;
  return {{"id", std::move(id)},
          {"name", std::move(name)},
          {"place", point_json(place)},
          {"aim", point_json(product + Vec3{0, 0.06, 0})},
          {"roll_deg", 0},
          {"width", width},
          {"height", height}};
}

std::string name_in(const Json& item, const std::string& id) {
  const std::string name = item.value("name", "");
  return name.empty() ? id : name;
}

/// Whether a light or card that a track moves is in a set-up, with doors where they are what moves.
bool has_what_moves(const Json& setup, const TrackTarget& target) {
  const auto list = setup.find(target.kind->moved == TrackedThing::card ? "cards" : "lights");
  return list != setup.end() && std::any_of(list->begin(), list->end(), [&](const Json& thing) {
           return thing.value("id", "") == target.id &&
                  (target.kind->is != Tracked::light_doors || thing.contains("doors"));
         });
}

/// Takes tracks off along with what they move: of this shot alone, or of every shot of its set-up, and of those on
/// variations where it goes there too.
void take_tracks(const OnSet& on, SetEdit& out, bool shot_alone,
                 const std::function<bool(const TrackTarget&)>& goes) {
  const auto after = with_values(on.document, out.values);
  const auto along = on.setup() ? setups_along(on.document, on.setup()->id) : std::set<std::string>();
  for (std::size_t i = 0; i < on.project.shots.size(); ++i) {
    const Shot& shot = *on.project.shots[i];
    if (shot_alone ? i != on.shot_index : !along.contains(shot.setup)) continue;
    const Json* setup = after ? after->find("setups", shot.setup) : nullptr;
    const bool varied = !shot_alone && shot.setup != on.setup()->id;
    const std::string pointer = "/shots/" + std::to_string(i) + "/tracks";
    Json tracks = list_at(on, pointer);
    const std::size_t before = tracks.size();
    tracks.erase(std::remove_if(tracks.begin(), tracks.end(),
                                [&](const Json& t) {
                                  const auto target = read_target(t.value("target", ""));
                                  return target && goes(*target) &&
                                         !(varied && setup && has_what_moves(*setup, *target));
                                }),
                 tracks.end());
    if (tracks.size() != before) out.values.insert(out.values.begin(), {pointer, tracks});
  }
}

/// "light.key" of a thing; empty of what no track moves.
std::string tracked_name(const OnSet& on, const SetThing& thing) {
  switch (thing.kind) {
    case Kind::light:
      return "light." + on.setup()->lights[thing.index].id;
    case Kind::card:
      return "card." + on.setup()->cards[thing.index].id;
    case Kind::camera:
      return "camera";
    case Kind::product:
      return "product." + on.shot()->products[thing.index].product;
    case Kind::backdrop:
      return "backdrop";
    default:
      return {};
  }
}
/// The track of its "place" or "aim", where that has keys.
const KeyedTrack* track_of(const OnSet& on, const SetThing& thing, const std::string& what) {
  const KeyedTrack* track = on.shot() ? on.shot()->track(tracked_name(on, thing) + "." + what) : nullptr;
  return track && !track->places.empty() ? track : nullptr;
}

std::pair<Vec3, Vec3> as_tracked(const OnSet& on, const SetThing& thing, Vec3 place, Vec3 aim) {
  if (const KeyedTrack* track = track_of(on, thing, "place")) place = track->place_at(on.set_time);
  if (const KeyedTrack* track = track_of(on, thing, "aim")) aim = track->place_at(on.set_time);
  return {place, aim};
}

}  // namespace

const Shot* OnSet::shot() const {
  return shot_index < project.shots.size() ? project.shots[shot_index].get() : nullptr;
}
std::size_t OnSet::setup_index() const {
  if (const Shot* taken = shot())
    for (std::size_t i = 0; i < project.setups.size(); ++i)
      if (project.setups[i]->id == taken->setup) return i;
  return project.setups.size();
}
const Setup* OnSet::setup() const {
  const std::size_t at = setup_index();
  return at < project.setups.size() ? project.setups[at].get() : nullptr;
}

std::vector<SetThing> things_of(const OnSet& on) {
  std::vector<SetThing> list;
  const Shot* shot = on.shot();
  const Setup* setup = on.setup();
  if (!shot) return list;
  if (setup)
    for (std::size_t i = 0; i < setup->own_lights(); ++i) list.push_back({Kind::light, i});
  if (shot->camera) list.push_back({Kind::camera, 0});
  for (std::size_t i = 0; i < shot->products.size(); ++i) list.push_back({Kind::product, i});
  for (std::size_t i = 0; i < shot->effects.size(); ++i) list.push_back({Kind::effect, i});
  if (setup) {
    for (std::size_t i = 0; i < setup->cards.size(); ++i) list.push_back({Kind::card, i});
    for (std::size_t i = 0; i < setup->gear.size(); ++i) list.push_back({Kind::body, i});
    if (setup->surface) list.push_back({Kind::surface, 0});
    if (setup->backdrop.kind != BackdropKind::none) list.push_back({Kind::backdrop, 0});
    if (setup->room.has_walls()) list.push_back({Kind::room, 0});
  }
  return list;
}

std::string name_of(const OnSet& on, const SetThing& thing) {
  switch (thing.kind) {
    case Kind::light:
      return on.setup()->lights[thing.index].name;
    case Kind::camera:
      return said("Camera");
    case Kind::card: {
      const Card& card = on.setup()->cards[thing.index];
      return card.name.empty() ? card.id : card.name;
    }
    case Kind::body: {
      const Gear& body = on.setup()->gear[thing.index];
      return body.name.empty() ? body.id : body.name;
    }
    case Kind::product: {
      const Product* p = by_id(on.project.products, on.shot()->products[thing.index].product);
      return p ? (p->name.empty() ? p->id : p->name) : said("Product");
    }
    case Kind::effect:
      return effect_name(on.shot()->effects[thing.index]);
    case Kind::backdrop:
      return said("Backdrop");
    case Kind::surface:
      return said("Surface");
    case Kind::room:
      return said("Room");
    case Kind::none:
      break;
  }
  return {};
}

std::string pointer_of(const OnSet& on, const SetThing& thing) {
  switch (thing.kind) {
    case Kind::camera:
      return shot_path(on) + "/camera";
    case Kind::backdrop:
      return setup_path(on) + "/backdrop";
    case Kind::surface:
      return setup_path(on) + "/surface";
    case Kind::room:
      return setup_path(on) + "/room";
    case Kind::none:
      return {};
    default: {
      if (const Light* light = light_of(on, thing); light && light->window)
        return fmt::format("{}/room/windows/{}", setup_path(on), *light->window);
      const auto list = list_of(on, thing.kind);
      return list ? *list + "/" + std::to_string(thing.index) : std::string();
    }
  }
}

std::optional<std::pair<Vec3, Vec3>> place_and_aim(const OnSet& on, const SetThing& thing) {
  switch (thing.kind) {
    case Kind::light: {
      const Light& light = on.setup()->lights[thing.index];
      return as_tracked(on, thing, light.place, light.aim);
    }
    case Kind::card: {
      const Card& card = on.setup()->cards[thing.index];
      return as_tracked(on, thing, card.place, card.aim);
    }
    case Kind::camera:
      return as_tracked(on, thing, on.shot()->camera->place, on.shot()->camera->aim);
    case Kind::product: {
      const Vec3 place = on.shot()->products[thing.index].place;
      return as_tracked(on, thing, place, place);
    }
    case Kind::effect: {
      const Vec3 place = on.shot()->effects[thing.index].place;
      return std::pair(place, place);
    }
    case Kind::body: {
      const Vec3 place = on.setup()->gear[thing.index].place;
      return std::pair(place, place);
    }
    case Kind::backdrop: {
      const KeyedTrack* track = track_of(on, thing, "place");
      if (!track) return std::nullopt;
      const Vec3 place = track->place_at(on.set_time);
      return std::pair(place, place);
    }
    default:
      return std::nullopt;
  }
}

Json point_json(const Vec3& v) { return Json{to_place(v.x), to_place(v.y), to_place(v.z)}; }

Values on_tracks(const OnSet& on, const SetThing& thing, Values values) {
  const std::string path = pointer_of(on, thing);
  for (auto& [pointer, value] : values)
    for (const char* what : {"place", "aim"}) {
      const KeyedTrack* held = pointer == path + "/" + what ? track_of(on, thing, what) : nullptr;
      if (!held || !value || !value->is_array() || value->size() != 3) continue;
      KeyedTrack track = *held;
      track.put_place(on.set_time, {(*value)[0], (*value)[1], (*value)[2]}, 0.5 / on.project.timeline_rate);
      pointer = fmt::format("/shots/{}/tracks/{}/keys", on.shot_index, held - on.shot()->tracks.data());
      value = keys_json(track);
    }
  return values;
}

bool has_aim(const SetThing& thing) {
  return thing.kind == Kind::light || thing.kind == Kind::card || thing.kind == Kind::camera;
}

Values carried_to(const OnSet& on, const SetThing& thing, const Vec3& place, bool with_aim) {
  const auto now = place_and_aim(on, thing);
  if (!now || is_window(on, thing)) return {};
  if (thing.kind == Kind::body) return body_changed(on, thing, place, on.setup()->gear[thing.index].size);
  const std::string path = pointer_of(on, thing);
  Values values{{path + "/place", point_json(place)}};
  if (!has_aim(thing)) return on_tracks(on, thing, std::move(values));
  if (with_aim) values.emplace_back(path + "/aim", point_json(now->second + place - now->first));
  if (thing.kind == Kind::camera && !with_aim) {
    const ShotCamera& camera = *on.shot()->camera;
    const double focus = camera.focus + length(place - now->second) - length(now->first - now->second);
    if (focus > camera.focal * 1.05) values.emplace_back(path + "/focus", to_place(focus));
  }
  return on_tracks(on, thing, std::move(values));
}

std::optional<SetEdit> light_added(const OnSet& on, const std::string& kit_id) {
  const auto list = list_of(on, Kind::light);
  if (!list) return {};
  const LightKit* kit = by_id(on.project.light_kits, kit_id);
  const std::string name = kit && !kit->name.empty() ? kit->name : said("Light");
  const Vec3 product = on.shot()->products.empty() ? Vec3{} : on.shot()->products.front().place;
  Json light{{"id", id_beside(list_at(on, *list), kit ? kit->id : "light")},
             {"name", name},
             {"on", true},
             {"place", point_json(product + Vec3{-0.6, 0.5, 0.6})},
             {"aim", point_json(product + Vec3{0, 0.05, 0})},
             {"roll_deg", 0},
             {"shape", "rectangle"},
             {"width", 0.5},
             {"height", 0.5},
             {"dimmer", 0.5}};
  if (kit) light["kit"] = kit->id;
  if (!kit || !kit->lumens) light["lumens"] = 3000;
  return appended(on, Kind::light, std::move(light), said("{} set up", name));
}

std::optional<SetEdit> sheet_added(const OnSet& on, const std::string& kind) {
  const auto list = list_of(on, Kind::card);
  const auto kinds = sheet_kinds();
  const auto known =
      std::find_if(kinds.begin(), kinds.end(), [&](const SheetKind& sheet) { return sheet.id == kind; });
  if (!list || known == kinds.end()) return {};
  Json card = card_at_the_left(on, id_beside(list_at(on, *list), kind), known->name, 0.3, 0.4);
  card["material"] = sheet_material(kind);
  return appended(on, Kind::card, std::move(card), said("{} set up", known->name));
}

std::optional<SetEdit> card_added(const OnSet& on, const std::string& kit_id) {
  const auto list = list_of(on, Kind::card);
  const Json* stock = on.document.find("kit/cards", kit_id);
  if (!list || !stock) return {};
  const std::string name = name_in(*stock, kit_id);
  Json card =
      card_at_the_left(on, id_beside(list_at(on, *list), kit_id), name, (*stock)["width"], (*stock)["height"]);
  card["kit"] = kit_id;
  if (stock->contains("material")) card["material"] = (*stock)["material"];
  return appended(on, Kind::card, std::move(card), said("{} set up", name));
}

std::optional<SetEdit> product_added(const OnSet& on, const std::string& product_id) {
  const Product* product = by_id(on.project.products, product_id);
  if (!on.shot() || !product) return {};
  double right = 0.0;  // beside what stands farthest to the right
  bool first = true;
  for (const ShotProduct& there : on.shot()->products) {
    if (there.product == product_id) return {};
    const Product* other = by_id(on.project.products, there.product);
    right = std::max(right, there.place.x + (other ? widest_reach(*other) : 0.0));
    first = false;
  }
  const double x = first ? 0.0 : std::round((right + widest_reach(*product) + 0.02) * 100) / 100;
  return appended(on, Kind::product, {{"product", product_id}, {"place", {x, 0, 0}}, {"turn_deg", 0}},
                  said("{} put on", product->name.empty() ? product->id : product->name));
}

std::optional<SetEdit> surface_laid(const OnSet& on, const std::string& kit_id) {
  const Json* stock = on.document.find("kit/surfaces", kit_id);
  const Setup* setup = on.setup();
  if (!setup || !stock || (setup->surface && setup->surface->kit == kit_id)) return {};
  const std::string pointer = setup_path(on) + "/surface";
  Json surface = value_at(on.document, pointer).value_or(Json::object());
  surface.update({{"kit", kit_id}, {"width", (*stock)["width"]}, {"depth", (*stock)["depth"]}});
  surface["material"] = stock->value("material", Json{{"kind", "matte"}});
  return SetEdit{{{pointer, surface}}, said("{} laid", name_in(*stock, kit_id)), {Kind::surface, 0}};
}

std::optional<SetEdit> backdrop_hung(const OnSet& on, const std::string& kit_id) {
  const Json* stock = on.document.find("kit/backdrops", kit_id);
  const Setup* setup = on.setup();
  if (!setup || !stock || setup->backdrop.kit == kit_id) return {};
  const std::string pointer = setup_path(on) + "/backdrop";
  Json backdrop = value_at(on.document, pointer).value_or(Json::object());
  if (backdrop.value("kind", "none") == "none") backdrop["kind"] = "flat", backdrop["distance"] = 1.0;
  backdrop.update({{"kit", kit_id}, {"width", (*stock)["width"]}, {"height", (*stock)["height"]}});
  backdrop["material"] = stock->value("material", Json{{"kind", "cloth"}});
  return SetEdit{{{pointer, backdrop}}, said("{} hung", name_in(*stock, kit_id)), {Kind::backdrop, 0}};
}

std::optional<SetEdit> modifier_put(const OnSet& on, const SetThing& thing, const std::string& kit_id) {
  const Light* l = light_of(on, thing);
  if (!l || l->window) return {};
  const std::string pointer = pointer_of(on, thing);
  Json light = *value_at(on.document, pointer);
  if (kit_id.empty()) {
    if (l->modifier.empty()) return {};
    for (const char* key : {"modifier", "grid_deg", "doors", "transmittance", "front"}) light.erase(key);
    return SetEdit{{{pointer, light}}, said("{} without a modifier", l->name), thing};
  }
  const Modifier* m = by_id(on.project.modifiers, kit_id);
  if (!m || l->modifier == kit_id) return {};
  light["modifier"] = kit_id;
  for (const char* key : {"grid_deg", "doors", "transmittance", "front"}) light.erase(key);
  if (m->shape) {
    for (const char* key : {"width", "height", "radius", "length"}) light.erase(key);
    light["shape"] = light_shape_names()[static_cast<std::size_t>(*m->shape)];
    if (m->shape != LightShape::rectangle)
      light["radius"] = m->radius;
    else
      light["width"] = m->width, light["height"] = m->height;
  }
  if (m->transmittance < 1.0) light["transmittance"] = m->transmittance;
  if (m->grid_deg) light["grid_deg"] = *m->grid_deg;
  const std::string shape = light["shape"];
  if (const Json* of_kit = on.document.find("kit/modifiers", kit_id);
      of_kit && m->front &&
      fits(m->front->kind, shape == "disc"        ? LightShape::disc
                           : shape == "rectangle" ? LightShape::rectangle
                                                  : LightShape::bare))
    light["front"] = (*of_kit)["front"];
  if (m->doors && (shape == "rectangle" || shape == "disc"))
    light["doors"] =
        usual_doors(shape == "disc" ? 2 * light["radius"].get<double>()
                                    : std::min(light["width"].get<double>(), light["height"].get<double>()));
  return SetEdit{{{pointer, light}}, said("{} on {}", m->name, l->name), thing};
}

SetEdit placed_at(SetEdit edit, const Vec3& place, const Vec3& aim) {
  if (edit.values.empty() || !edit.values.front().second) return edit;
  Json& one = edit.values.front().second->back();  // of the list that it was appended to
  one["place"] = point_json(place), one["aim"] = point_json(aim);
  return edit;
}

std::optional<SetEdit> light_carried(const OnSet& on, const SetThing& thing, const Vec3& place, const Vec3& aim) {
  if (!light_of(on, thing) || is_window(on, thing)) return {};
  const std::string path = pointer_of(on, thing);
  return SetEdit{on_tracks(on, thing, {{path + "/place", point_json(place)}, {path + "/aim", point_json(aim)}}),
                 said("{} carried", name_of(on, thing)), thing};
}

std::optional<SetEdit> doubled(const OnSet& on, const SetThing& thing) {
  const auto pointer = list_of(on, thing.kind);
  if (!pointer) return {};
  const Json list = list_at(on, *pointer);
  if (thing.index >= list.size()) return {};
  Json copy = list[thing.index];
  if (copy.contains("id")) copy["id"] = id_beside(list, copy["id"].get<std::string>());
  const std::string name = name_of(on, thing);
  if (copy.contains("name")) copy["name"] = said("{}, second", name);
  if (copy.contains("place")) copy["place"][0] = copy["place"][0].get<double>() + 0.15;
  return appended(on, thing.kind, std::move(copy), said("{} doubled", name));
}

std::optional<SetEdit> taken_away(const OnSet& on, const SetThing& thing) {
  const bool window = is_window(on, thing);
  const auto pointer = window ? std::optional(setup_path(on) + "/room/windows") : list_of(on, thing.kind);
  if (!pointer) return {};
  Json list = list_at(on, *pointer);
  const std::size_t at = window ? *light_of(on, thing)->window : thing.index;
  if (at >= list.size()) return {};
  const std::string id = thing.kind == Kind::product ? on.shot()->products[at].product : list[at].value("id", "");
  SetEdit out{{}, said("{} taken away", name_of(on, thing)), {Kind::camera, 0}};
  if (thing.kind == Kind::body) {
    out.values = body_taken(on, thing);
    return out;
  }
  list.erase(list.begin() + static_cast<std::ptrdiff_t>(at));
  out.values = {{*pointer, list}};
  if (thing.kind == Kind::effect || window) return out;  // no track moves it
  const TrackedThing by = thing.kind == Kind::light  ? TrackedThing::light
                          : thing.kind == Kind::card ? TrackedThing::card
                                                     : TrackedThing::product;
  take_tracks(on, out, thing.kind == Kind::product,
              [&](const TrackTarget& target) { return target.kind->moved == by && target.id == id; });
  return out;
}

std::optional<SetEdit> doors_switched(const OnSet& on, const SetThing& thing) {
  const Light* l = light_of(on, thing);
  if (!l || l->window) return {};
  const std::string pointer = pointer_of(on, thing) + "/doors";
  if (l->doors) {
    SetEdit off{{{pointer, std::nullopt}}, said("Doors off {}", l->name), thing};
    take_tracks(on, off, false, [&](const TrackTarget& target) {
      return target.kind->is == Tracked::light_doors && target.id == l->id;
    });
    return off;
  }
  if (l->shape != LightShape::rectangle && l->shape != LightShape::disc) return {};
  const double side = l->shape == LightShape::rectangle ? std::min(l->width, l->height) : 2 * l->radius;
  return SetEdit{{{pointer, usual_doors(side)}}, said("Doors on {}", l->name), thing};
}

std::optional<SetEdit> glass_switched(const OnSet& on) {
  if (!on.setup() || !on.setup()->surface) return {};
  const std::string pointer = setup_path(on) + "/surface/sheet";
  const SetThing surface{Kind::surface, 0};
  if (on.setup()->surface->sheet > 0)
    return SetEdit{{{pointer, std::nullopt}}, said("Glass sheet off the surface"), surface};
  return SetEdit{{{pointer, Json{{"thickness", 0.006}, {"material", {{"kind", "glass"}, {"ior", 1.52}}}}}},
                 said("Glass sheet on the surface"),
                 surface};
}

Values stretched_product(const Document& document, const Project& project, std::size_t product, double wider,
                         double taller) {
  Values values;
  const auto& list = document.list("products");
  if (product >= list.size() || product >= project.products.size()) return values;
  const Product& p = *project.products[product];
  const std::string path = "/products/" + std::to_string(product);
  const Json parts = list[product]->value("parts", Json::array());
  for (std::size_t k = 0; k < p.parts.size() && k < parts.size(); ++k) {
    if (p.parts[k].mesh) return {};
    const std::string part = path + "/parts/" + std::to_string(k);
    Json profile = parts[k].value("profile", Json::array());
    for (Json& point : profile)
      for (std::size_t number = 0; number < point.size(); ++number)
        point[number] = to_place(point[number].get<double>() * (number == 1 ? taller : wider));
    values.emplace_back(part + "/profile", profile);
    if (parts[k].contains("corner"))
      values.emplace_back(part + "/corner", to_place(parts[k]["corner"].get<double>() * wider));
  }
  if (p.label && taller != 1.0) {
    values.emplace_back(path + "/label/low", to_place(p.label->low * taller));
    values.emplace_back(path + "/label/high", to_place(p.label->high * taller));
  }
  return values;
}

std::optional<Edit> shot_moved(const Document& document, std::size_t from, std::size_t to) {
  const auto next = with_shot_moved(document, from, to);
  if (!next || from == to) return {};
  return edit_between(document, *next,
                      to == 0 ? said("Shot {} moved to the start", from + 1)
                              : said("Shot {} moved after {}", from + 1, to > from ? to + 1 : to));
}

std::string shared_note(const OnSet& on) {
  if (!on.setup()) return {};
  std::vector<std::string> own, varied;
  const auto along = setups_along(on.document, on.setup()->id);
  for (std::size_t i = 0; i < on.project.shots.size(); ++i) {
    const std::string& setup = on.project.shots[i]->setup;
    if (setup == on.setup()->id)
      own.push_back(std::to_string(i + 1));
    else if (along.contains(setup))
      varied.push_back(std::to_string(i + 1));
  }
  const auto listed = [](const std::vector<std::string>& numbers) {
    std::string text;
    for (std::size_t i = 0; i < numbers.size(); ++i)
      text += (i == 0 ? "" : i + 1 < numbers.size() ? ", " : said(" and ")) + numbers[i];
    return text;
  };
  const std::string& id = on.setup()->id;
  std::string note = own.size() > 1 ? said("set-up {}, shared by shots {}", id, listed(own)) : std::string();
  if (!varied.empty())
    note += (note.empty() ? said("set-up {}", id) : std::string()) +
            (varied.size() > 1 ? said(", varied for shots {}", listed(varied))
                               : said(", varied for shot {}", varied[0]));
  if (!on.setup()->of.empty())
    note = note.empty() ? said("set-up {}, a variation of {}", id, on.setup()->of)
                        : said("{}; a variation of {}", note, on.setup()->of);
  return note;
}

}  // namespace cinnabar
