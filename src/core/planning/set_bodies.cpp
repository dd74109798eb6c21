#include "cinnabar/planning/set_bodies.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/words.h"
#include "cinnabar/planning/set_looks.h"
#include "cinnabar/project/document/variations.h"
#include "cinnabar/project/making/new_shot.h"
#include "cinnabar/scene/form.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

using Kind = SetThing::Kind;

struct BodyKind {
  std::string id, name, of;  ///< `of`: its material
  Vec3 size;
  GearForm form = GearForm::box;
  double wall = 0;
  bool raises = false;
};
/// Usual measures (common practice, no source).
std::vector<BodyKind> kinds() {
  using enum GearForm;
  return {{"pedestal", said("Pedestal"), "white", {0.12, 0.06, 0.12}, round, 0, true},
          {"block", said("Block"), "wood", {0.14, 0.04, 0.14}, box, 0, true},
          {"glass", said("Upturned glass"), "glass", {0.07, 0.09, 0.07}, round, 0.002, true},
          {"stand", said("Stand"), "black", {0.04, 1.5, 0.04}},
          {"cable", said("Cable run, taped"), "black", {1.5, 0.015, 0.05}, ridge},
          {"operator", said("Operator"), "black", {0.45, 1.75, 0.3}}};
}

/// The keys of a product's way in a shot, by pointer, with where.
std::vector<std::pair<std::string, Vec3>> way_of(const Project& project, std::size_t shot,
                                                 const std::string& product) {
  std::vector<std::pair<std::string, Vec3>> list;
  const Shot& moves = *project.shots[shot];
  if (const KeyedTrack* way = moves.track(Tracked::product_place, product))
    for (std::size_t k = 0; k < way->places.size(); ++k)
      list.emplace_back(fmt::format("/shots/{}/tracks/{}/keys/{}/1", shot, way - moves.tracks.data(), k),
                        way->places[k]);
  return list;
}

/// Products that stand on a body, by pointer, with where: their foot is at its top, within its outline. Of one
/// that moves it is asked where its way begins, and all of its way goes along.
std::vector<std::pair<std::string, Vec3>> standing_on(const OnSet& on, const Gear& body) {
  std::vector<std::pair<std::string, Vec3>> list;
  const auto along = setups_along(on.document, on.setup()->id);
  for (std::size_t i = 0; i < on.project.shots.size(); ++i) {
    const Shot& shot = *on.project.shots[i];
    if (!along.contains(shot.setup)) continue;
    for (std::size_t k = 0; k < shot.products.size(); ++k) {
      auto places = way_of(on.project, i, shot.products[k].product);
      const Vec3 own = shot.products[k].place, at = places.empty() ? own : places.front().second;
      const Vec3 off = turned(at - body.place, -body.turn_deg);
      const double x = 2 * std::abs(off.x) / body.size.x, z = 2 * std::abs(off.z) / body.size.z;
      const bool within = body.form == GearForm::round ? x * x + z * z <= 1.0 : x <= 1.0 && z <= 1.0;
      if (!within || std::abs(off.y - body.size.y) >= 1e-4) continue;
      places.emplace_back(fmt::format("/shots/{}/products/{}/place", i, k), own);
      list.insert(list.end(), places.begin(), places.end());
    }
  }
  return list;
}

const Gear* body_of(const OnSet& on, const SetThing& thing) {
  const Setup* setup = on.setup();
  return thing.kind == Kind::body && setup && thing.index < setup->gear.size() ? &setup->gear[thing.index]
                                                                               : nullptr;
}

}  // namespace

std::vector<SheetKind> body_kinds() {
  std::vector<SheetKind> list;
  for (const BodyKind& kind : kinds()) list.push_back({kind.id, kind.name});
  return list;
}

std::optional<SetEdit> body_added(const OnSet& on, const std::string& id) {
  const auto all = kinds();
  const auto kind = std::find_if(all.begin(), all.end(), [&](const BodyKind& one) { return one.id == id; });
  if (!on.setup() || kind == all.end()) return {};
  const std::string pointer = fmt::format("/setups/{}/gear", on.setup_index());
  Json list = value_at(on.document, pointer).value_or(Json::array());
  Gear body;
  body.size = kind->size, body.form = kind->form;
  const double floor = on.setup()->room.place.y;
  SetEdit edit{{}, said("{} set up", kind->name), {Kind::body, list.size()}};
  const Shot* shot = on.shot();
  if (kind->raises && shot && !shot->products.empty()) {
    const ShotProduct& placed = shot->products.front();
    const auto way = way_of(on.project, on.shot_index, placed.product);
    body.place = way.empty() ? placed.place : way.front().second;
    if (const Product* product = by_id(on.project.products, placed.product))  // as wide as it stands, and a little
      body.size.x = body.size.z = std::max(kind->size.x, std::round(240 * widest_reach(*product)) / 100);
    Gear foot = body;
    foot.size.y = 0;
    for (const auto& [path, at] : standing_on(on, foot))
      edit.values.emplace_back(path, point_json(at + Vec3{0, body.size.y, 0}));
  } else if (id == "operator" && shot && shot->camera) {
    const CameraPose pose = camera_at(*shot, on.set_time);
    body.place = pose.place - pose.frame.ahead * 0.35 + pose.frame.right * 0.3;
    body.place.y = floor;
  } else if (!kind->raises) {
    body.place = {id == "cable" ? 0.9 : -0.9, floor, 0.5};
  }
  Json thing{{"id", id_beside(list, id)},
             {"name", kind->name},
             {"kind", id},
             {"place", point_json(body.place)},
             {"size", point_json(body.size)},
             {"material", ready_material(kind->of)}};
  if (kind->form != GearForm::box) thing["form"] = kind->form == GearForm::round ? "round" : "ridge";
  if (kind->wall > 0) thing["wall"] = kind->wall;
  if (kind->raises) thing["dressed"] = true;
  list.push_back(std::move(thing));
  edit.values.emplace_back(pointer, std::move(list));
  return edit;
}

Values body_changed(const OnSet& on, const SetThing& thing, const Vec3& place, const Vec3& size) {
  const Gear* body = body_of(on, thing);
  if (!body) return {};
  const std::string path = pointer_of(on, thing);
  Values values;
  if (!(place == body->place)) values.emplace_back(path + "/place", point_json(place));
  if (!(size == body->size)) values.emplace_back(path + "/size", point_json(size));
  const Vec3 by = place - body->place + Vec3{0, size.y - body->size.y, 0};
  if (length(by) > 0)
    for (const auto& [pointer, at] : standing_on(on, *body)) values.emplace_back(pointer, point_json(at + by));
  return values;
}

std::optional<SetEdit> body_seen_switched(const OnSet& on, const SetThing& thing) {
  const Gear* body = body_of(on, thing);
  if (!body) return {};
  return SetEdit{
      {{pointer_of(on, thing) + "/dressed", !body->dressed}},
      body->dressed ? said("{} must not be seen", name_of(on, thing)) : said("{} may be seen", name_of(on, thing)),
      thing};
}

Values body_taken(const OnSet& on, const SetThing& thing) {
  const Gear* body = body_of(on, thing);
  if (!body) return {};
  Values values;
  for (const auto& [pointer, at] : standing_on(on, *body))
    values.emplace_back(pointer, point_json(at - Vec3{0, body->size.y, 0}));
  values.emplace_back(pointer_of(on, thing), std::nullopt);
  return values;
}

}  // namespace cinnabar
