#include "cinnabar/project/model/entities.h"

#include <algorithm>
#include <any>
#include <numeric>
#include <unordered_map>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/color/texture.h"
#include "cinnabar/color/white.h"
#include "cinnabar/motion/machines.h"
#include "cinnabar/optics/lens.h"
#include "cinnabar/photometry/daylight.h"
#include "cinnabar/photometry/ripple.h"
#include "cinnabar/photometry/sources.h"
#include "cinnabar/project/model/blobs.h"
#include "cinnabar/project/model/fields.h"
#include "cinnabar/project/model/names.h"
#include "cinnabar/project/model/windows.h"

namespace cinnabar {

std::optional<double> Support::comes_back_within() const {
  if (repeat) return repeat;
  const std::optional<double> turn = turn_travel ? turn_travel : slides() ? std::nullopt : std::optional(360.0);
  if (!steps_per_turn || !turn) return std::nullopt;
  constexpr double linearity = 0.05;  // of a full step (common practice, no source)
  const auto stands =
      axis_step({*steps_per_turn, microsteps.value_or(1.0), *turn, linearity, backlash.value_or(0.0), 1.0, 1.0});
  return stands ? std::optional(stands->error) : std::nullopt;
}
namespace {

const Json& member(const Json& j, const char* key) {
  static const Json nothing;
  const auto found = j.find(key);
  return found == j.end() ? nothing : *found;
}
double num(const Json& j, const char* key, double otherwise) {
  const Json& m = member(j, key);
  return m.is_number() ? m.get<double>() : otherwise;
}
std::optional<double> maybe(const Json& j, const char* key) {
  const Json& m = member(j, key);
  return m.is_number() ? std::optional(m.get<double>()) : std::nullopt;
}
std::string text_of(const Json& j, const char* key, const char* otherwise = "") {
  const Json& m = member(j, key);
  return m.is_string() ? m.get<std::string>() : otherwise;
}
Vec3 triple(const Json& j, const char* key, const Vec3& otherwise = {}) {
  const Json& m = member(j, key);
  return m.is_array() && m.size() == 3 ? Vec3{m[0].get<double>(), m[1].get<double>(), m[2].get<double>()}
                                       : otherwise;
}
/// What the rows of an entity's fields bind.
template <class T>
T read_as(const Fields& fields, const Json& j) {
  T out;
  read_fields(fields, j, &out);
  return out;
}

/// `absent` is what the whole material is when it is left out.
Material material(const Json& j, const Material& absent) {
  if (!j.is_object()) return absent;
  Material m;
  const std::string kind = text_of(j, "kind", "matte");
  for (std::size_t i = 0; i < material_names().size(); ++i)
    if (kind == material_names()[i]) m.kind = static_cast<MaterialKind>(i);
  const Vec3 colour = m.is_clear()                     ? Vec3{1, 1, 1}
                      : m.kind == MaterialKind::mirror ? Vec3{0.9, 0.9, 0.9}
                                                       : Vec3{0.5, 0.5, 0.5};
  m.colour = triple(j, "colour", colour);
  const bool rough =
      m.kind == MaterialKind::satin || m.kind == MaterialKind::frosted || m.kind == MaterialKind::metal;
  m.roughness = num(j, "roughness", rough ? 0.3 : 0.0);
  m.ior = num(j, "ior", m.kind == MaterialKind::liquid ? 1.33 : 1.5);
  m.absorption = triple(j, "absorption");
  m.transmittance = num(j, "transmittance", 0.5);
  m.forward = num(j, "forward", m.forward);
  m.lobe_deg = num(j, "lobe_deg", m.lobe_deg);
  m.scattering = triple(j, "scattering");
  m.brushing = num(j, "brushing", 0.0);
  m.sheen = num(j, "sheen", 0.0);
  m.screen = num(j, "screen", 0.0);
  if (const Json& relief = member(j, "relief"); relief.is_object())
    m.relief = read_as<Relief>(relief_fields(), relief);
  if (const Json& cover = member(j, "cover"); cover.is_object()) m.cover = read_as<Cover>(cover_fields(), cover);
  if (const Json& textured = member(j, "textured"); textured.is_boolean()) m.textured = textured.get<bool>();
  return m;
}

/// What a blob holds, by one of the readers of blobs.h; nothing where it is not there or cannot be read.
template <class Read>
auto held(const Document& doc, const std::string& id, Read read) {
  const auto found = doc.blobs.find(id);
  return id.empty() || found == doc.blobs.end() || !found->second ? nullptr : read(*found->second);
}

/// The same of a flat thing of the set, with its texture: its colour is then the mean.
Material set_material(const Document& doc, const Json& j, const Material& absent) {
  Material m = material(j, absent);
  const Json& texture = j.is_object() ? member(j, "texture") : j;
  if (!j.is_object() || !texture.is_object()) return m;
  struct Usual {
    double size;   // metres, of a tile
    double drawn;  // of the ground's colour
  };
  static constexpr Usual usual[]{
      {0.6, 0.45}, {0.8, 0.35}, {0.3, 0.4}, {0.05, 0.7}, {0.4, 1.0}};  // common practice, no source
  Texture t = read_as<Texture>(*material_fields().field("texture")->inner, texture);
  const auto kind = static_cast<std::size_t>(t.kind);
  t.size = num(texture, "size", usual[kind].size);
  t.colour = triple(texture, "colour", m.colour * usual[kind].drawn);
  t.ground = t.kind != TextureKind::picture || member(j, "colour").is_array() ? m.colour : Vec3{1, 1, 1};
  if (t.kind != TextureKind::picture) {
    m.colour = mean_of(static_cast<Pattern>(kind), t.ground, t.colour);
  } else if ((t.image = held(doc, t.picture, picture_of))) {
    m.colour = tile_of(t.image, t.ground).mean;
  }
  if (!member(j, "textured").is_boolean()) m.textured = true;
  m.texture = std::move(t);
  return m;
}

/// Sentences on what of a project's pictures, meshes and measured lights cannot be read.
std::vector<std::string> unreadable(const Document& doc) {
  std::vector<std::string> list;
  const auto look = [&](const Json& holder, const char* key, BlobUse use, const std::string& what) {
    const auto blob = holder.is_object() ? doc.blobs.find(text_of(holder, key)) : doc.blobs.end();
    if (blob == doc.blobs.end() || !blob->second) return;
    if (const auto fault = blob_fault(*blob->second, use))
      list.push_back(said("{} is left out: {} {}", what, fault->place, fault->message));
  };
  for (const JsonPtr& product : doc.list("products")) {
    const std::string name = text_of(*product, "name", text_of(*product, "id").c_str());
    look(member(*product, "label"), "picture", BlobUse::picture, said("The label's picture of {}", name));
    look(member(*product, "label"), "foil", BlobUse::picture, said("The label's foil of {}", name));
    for (const Json& part : member(*product, "parts"))
      look(part, "mesh", BlobUse::mesh, said("A mesh of {}", name));
  }
  for (const JsonPtr& setup : doc.list("setups")) {
    const std::string name = text_of(*setup, "name", text_of(*setup, "id").c_str());
    const auto texture = [&](const Json& thing, const std::string& what) {
      look(member(member(thing, "material"), "texture"), "picture", BlobUse::picture, what);
    };
    texture(member(*setup, "surface"), said("The surface's texture of {}", name));
    texture(member(*setup, "backdrop"), said("The backdrop's texture of {}", name));
    for (const char* things : {"cards", "gear"})
      for (const Json& thing : member(*setup, things))
        texture(thing,
                said("The texture of {} in {}", text_of(thing, "name", text_of(thing, "id").c_str()), name));
  }
  if (const auto count = std::count_if(doc.list("takes").begin(), doc.list("takes").end(),
                                       [](const JsonPtr& take) { return take.damaged(); }))
    list.push_back(counted(count, "{} take of the log cannot be read", "{} takes of the log cannot be read"));
  for (const JsonPtr& kit : doc.list("kit/lights"))
    look(*kit, "ies", BlobUse::measured_light,
         said("The measured light of {}", text_of(*kit, "name", text_of(*kit, "id").c_str())));
  return list;
}

Part product_part(const Json& j, const Document& doc) {
  Part out = read_as<Part>(*product_fields().field("parts")->inner, j);
  out.material = material(member(j, "material"), {});
  for (const Json& point : member(j, "profile")) {
    ProfilePoint p{point[0].get<double>(), point[1].get<double>()};
    if (point.size() > 2 && p.radius > 0) p.depth_share = point[2].get<double>() / p.radius;
    if (point.size() > 3) p.shift = point[3].get<double>();
    out.profile.push_back(p);
  }
  if (const std::string mesh = text_of(j, "mesh"); !mesh.empty()) {
    out.mesh = held(doc, mesh, mesh_of);
    out.profile.clear();
    if (out.mesh)
      for (const MeshSection& s : out.mesh->sections)
        out.profile.push_back({s.half_width, s.height, s.half_width > 0 ? s.half_depth / s.half_width : 1.0, s.x});
  }
  return out;
}

Product product(const Json& j, const Document& doc) {
  auto p = read_as<Product>(product_fields(), j);
  for (const Json& part : member(j, "parts")) p.parts.push_back(product_part(part, doc));
  if (const Json& l = member(j, "label"); l.is_object()) {
    auto label = read_as<Label>(*product_fields().field("label")->inner, l);
    label.material = material(member(l, "material"), label.material);
    label.image = held(doc, label.picture, picture_of);
    label.stamp = held(doc, label.foil, picture_of);
    p.label = label;
  }
  return p;
}

LightKit light_kit(const Json& j, const Document& doc) {
  const Json& lux = member(j, "lux");
  auto kit = read_as<LightKit>(*fields_of("kit/lights"), j);
  kit.output = light_output({.lumens = kit.lumens,
                             .candela = maybe(j, "candela"),
                             .illuminance = maybe(lux, "illuminance_lx"),
                             .distance = maybe(lux, "distance"),
                             .beam_deg = maybe(j, "beam_deg"),
                             .measured = held(doc, kit.ies, measured_light_of)});
  return kit;
}
Supply battery(const Json& j) {
  auto b = read_as<Supply>(*fields_of("kit/batteries"), j);
  b.amount *= num(j, "usable", 1);
  return b;
}
Consumable consumable(const Json& j) {
  auto c = read_as<Consumable>(*fields_of("kit/consumables"), j);
  if (!member(j, "name").is_string()) c.name = c.id;
  return c;
}
CardStock card_stock(const Fields& fields, const Json& j, const Document& doc) {
  auto c = read_as<CardStock>(fields, j);
  c.material = set_material(doc, member(j, "material"), Material{MaterialKind::matte, {0.8, 0.8, 0.8}});
  return c;
}

Light light(const Json& j, const std::vector<std::shared_ptr<const LightKit>>& kits) {
  auto l = read_as<Light>(*setup_fields().field("lights")->inner, j);
  if (!member(j, "name").is_string()) l.name = l.id;
  // What is left out is the lamp's own.
  const LightKit* kit = by_id(kits, l.kit);
  if (kit) l.duv = kit->duv, l.filament = kit->hot && kit->kelvin_high <= hottest_filament;
  if (!member(j, "lumens").is_number() && kit && kit->output) l.lumens = kit->output->lumens;
  if (!member(j, "kelvin").is_number() && kit) l.kelvin = std::clamp(l.kelvin, kit->kelvin_low, kit->kelvin_high);
  if (!l.gel_curve.empty()) {
    const auto bands = gel_bands(l.gel_curve, l.white_kelvin());
    l.gel_bands = Vec3{bands[0], bands[1], bands[2]};
  }
  const bool face = l.shape == LightShape::rectangle || l.shape == LightShape::disc;
  const bool round = l.shape == LightShape::disc;
  // The lamp's own, where nothing is put before it.
  if (kit && kit->front && !l.front && l.modifier.empty() && l.transmittance >= 1.0 &&
      fits(kit->front->kind, l.shape))
    l.front = kit->front;
  if (l.front && face) {
    l.shines = front_emission(*l.front, {round, round ? l.radius : l.width / 2, round ? l.radius : l.height / 2});
  }
  if (kit && kit->output && l.transmittance >= 1.0 && !l.shines) l.distribution = kit->output->distribution;
  return l;
}

Setup setup(const Json& j, const Project& project, const Document& doc) {
  auto s = read_as<Setup>(setup_fields(), j);
  if (!member(j, "name").is_string()) s.name = s.id;
  if (const Json& surface = member(j, "surface"); surface.is_object()) {
    s.surface = read_as<Surface>(surface_fields(), surface);
    s.surface->material = set_material(doc, member(surface, "material"), {});
    if (const Json& sheet = member(surface, "sheet"); sheet.is_object()) {
      s.surface->sheet = num(sheet, "thickness", 0.004);
      s.surface->sheet_material = material(member(sheet, "material"), s.surface->sheet_material);
    }
  }
  if (const Json& b = member(j, "backdrop"); b.is_object()) {
    s.backdrop = read_as<Backdrop>(backdrop_fields(), b);
    s.backdrop.material = set_material(doc, member(b, "material"), s.backdrop.material);
  }
  if (const Json& a = member(j, "ambient"); a.is_object()) read_fields(ambient_fields(), a, &s);
  if (const Json& r = member(j, "room"); r.is_object()) s.room = read_as<Room>(room_fields(), r);
  s.north_deg = s.room.north_deg;
  for (const Json& l : member(j, "lights")) s.lights.push_back(light(l, project.light_kits));
  for (Light& l : window_lights(s.room, project)) {
    if (std::any_of(s.lights.begin(), s.lights.end(), [&l](const Light& other) { return other.id == l.id; }))
      l.id = "window-" + l.id;
    s.lights.push_back(std::move(l));
  }
  for (const Json& c : member(j, "cards")) {
    auto card = read_as<Card>(*setup_fields().field("cards")->inner, c);
    card.material = set_material(doc, member(c, "material"), Material{MaterialKind::matte, {0.8, 0.8, 0.8}});
    s.cards.push_back(card);
  }
  const Json& gear = member(j, "gear");
  for (std::size_t k = 0; k < s.gear.size() && gear.is_array() && k < gear.size(); ++k)
    s.gear[k].material = set_material(doc, member(gear[k], "material"), s.gear[k].material);
  s.house_rules = read_house_rules(member(j, "house_rules"));
  return s;
}

LensSpec lens(const Json& j) {
  auto out = read_as<LensSpec>(*fields_of("kit/lenses"), j);
  if (out.close_focus_mark && out.greatest_magnification)
    if (const auto near = macro_focus({*out.close_focus_mark, *out.greatest_magnification, 0.0}))
      out.close_focus = near->subject_distance;
  return out;
}

ShotCamera shot_camera(const Json& j, const Project& project) {
  auto c = read_as<ShotCamera>(shot_camera_fields(), j);
  const auto left_out = [&j](const char* key) { return !member(j, key).is_number(); };
  const LensSpec* on_it = by_id(project.lenses, c.lens);
  const CameraBody* body = by_id(project.cameras, c.camera);
  if (left_out("focal") && on_it) c.focal = on_it->focal_low;
  if (left_out("focus")) c.focus = std::max(length(c.aim - c.place), c.focal * 1.001 + 1e-6);
  if (left_out("f_number") && on_it) c.f_number = on_it->f_number_low;
  double frame_rate = project.timeline_rate;
  if (body)
    for (const CameraMode& m : body->modes)
      if (m.id == c.mode) frame_rate = m.rate;
  if (left_out("shutter_time")) c.shutter_time = 0.5 / frame_rate;
  if (left_out("iso") && body) c.iso = body->iso_low;
  const char* lock_keys[4] = {"white", "exposure", "focus", "stabiliser_off"};
  for (std::size_t i = 0; i < 4; ++i)
    if (const Json& lock = member(member(j, "locked"), lock_keys[i]); lock.is_boolean())
      c.locked[i] = lock.get<bool>();
  return c;
}

Shot shot(const Json& j, const Project& project) {
  auto s = read_as<Shot>(shot_fields(), j);
  s.own_reset_minutes = s.reset_minutes;
  for (std::size_t i = 0; i < s.effects.size(); ++i) {
    Effect& effect = s.effects[i];
    if (const Json& m = member(member(j, "effects")[i], "material"); m.is_object())
      effect.material = material(m, {});
    s.reset_minutes += effect.reset_minutes;
    s.hands = std::max(s.hands, effect.hands);
    s.uses.insert(s.uses.end(), effect.uses.begin(), effect.uses.end());
  }
  if (!member(j, "name").is_string()) s.name = s.id;
  if (const Json& c = member(j, "camera"); c.is_object()) s.camera = shot_camera(c, project);
  std::vector<SpeedPoint> points;
  for (const Json& p : member(j, "play")) points.push_back({p[0].get<double>(), p[1].get<double>()});
  s.clock = PlayClock(points);
  if (s.reversed) s.clock = s.clock.backward(s.screen_time);
  const Json& needs = member(j, "needs");
  read_fields(needs_fields(), needs, &s);
  if (const Json& peak = member(needs, "peak"); peak.is_object())
    read_fields(*needs_fields().field("peak")->inner, peak, &s);
  for (const Json& stroke : member(member(j, "sketch"), "strokes")) {
    auto& line = s.sketch.strokes.emplace_back();
    for (const Json& p : stroke) line.emplace_back(p[0].get<double>(), p[1].get<double>());
  }
  s.house_rules = read_house_rules(member(j, "house_rules"));
  return s;
}

}  // namespace

double Light::area() const {
  switch (shape) {
    case LightShape::rectangle:
      return width * height;
    case LightShape::disc:
      return pi * radius * radius;
    case LightShape::tube:
      return 2.0 * pi * radius * length;
    case LightShape::dome:
      return 2.0 * pi * radius * radius;
    case LightShape::bare:
      break;
  }
  return 4.0 * pi * radius * radius;
}
double Light::white_kelvin() const {
  // Light goes as the 3.4th power of a filament's voltage, its colour temperature as the 0.42nd (IES Lighting
  // Handbook; values from memory), down to where it hardly glows.
  constexpr double power = 0.42 / 3.4, faintest = 0.005;
  const double own = filament ? kelvin * std::pow(std::clamp(dimmer, faintest, 1.0), power) : kelvin;
  const double sum = 1e6 / own + gel_mired;
  return sum > 0.0 ? 1e6 / sum : 25000.0;
}
/// Of the sun what a square metre gets, from however far.
double Light::candela() const {
  if (beam) return lumens * transmittance * dimmer / area() * std::pow(std::sin(radians(sun_half_deg)), 2.0);
  // A face is seen in its area, a tube in its side's, a ball or half of one in its disc.
  const double seen = shape == LightShape::tube   ? 1.0 / pi
                      : shape == LightShape::bare ? 0.25
                      : shape == LightShape::dome ? 0.5
                                                  : 1.0;
  return lumens * transmittance * gels_let_through() * dimmer / pi * seen * (shines ? shines->ahead() : 1.0);
}
double Light::full_luminance() const { return lumens * transmittance * gels_let_through() / (pi * area()); }
double Light::gels_let_through() const {
  const double passed = gel_transmittance * std::exp2(-scrim_stops - (film ? film->stops : 0.0));
  if (!gel_bands) return passed;
  const auto coloured = gel_colour({white_kelvin(), {gel_bands->x, gel_bands->y, gel_bands->z}});
  return passed * (coloured ? coloured->transmittance.value_or(0.0) : luminance(gel_bands->as<float>()));
}

std::size_t Setup::own_lights() const {
  return static_cast<std::size_t>(
      std::count_if(lights.begin(), lights.end(), [](const Light& light) { return !light.window; }));
}

double CameraBody::noise_at(double iso) const {
  if (measured_noise.empty()) return read_noise_e;
  const auto above = std::find_if(measured_noise.begin(), measured_noise.end(),
                                  [iso](const auto& row) { return row.first >= iso; });
  if (above == measured_noise.begin()) return above->second;
  if (above == measured_noise.end()) return measured_noise.back().second;
  const auto& [low, quiet] = *(above - 1);
  const double between = std::log(iso / low) / std::log(above->first / low);
  return quiet * std::pow(above->second / quiet, between);
}

bool Part::turned_on_axis() const {
  return !mesh && section == Section::round &&
         std::all_of(profile.begin(), profile.end(),
                     [](const ProfilePoint& p) { return std::abs(p.depth_share - 1.0) < 1e-9 && p.shift == 0.0; });
}

const KeyedTrack* Shot::track(std::string_view target) const {
  for (const KeyedTrack& t : tracks)
    if (t.target == target) return &t;
  return nullptr;
}

const KeyedTrack* Shot::track(Tracked what, std::string_view of) const {
  for (const KeyedTrack& t : tracks)
    if (is_target(t.target, what, of)) return &t;
  return nullptr;
}

std::optional<LampRipple> lamp_ripple(const Project& project, const Light& light) {
  const double pulses = 2.0 * project.mains_hz;
  if (light.daylight) return LampRipple{0.0, pulses};
  const LightKit* kit = by_id(project.light_kits, light.kit);
  if (kit && kit->duty) return LampRipple{1.0, kit->ripple_hz.value_or(pulses), kit->duty};
  if (!kit || !kit->ripple) return std::nullopt;
  return LampRipple{*kit->ripple, kit->ripple_hz.value_or(pulses)};
}

double left_of_ripple(const LampRipple& lamp, double time) {
  if (lamp.duty) {
    const auto switched = pwm_flicker({lamp.hz, *lamp.duty, time});
    return switched ? switched->residual : 0.0;
  }
  const auto swinging = flicker({.mains_hz = lamp.hz / 2, .depth = lamp.depth, .time = time});
  return swinging ? swinging->residual : 0.0;
}

std::size_t Project::chosen(HouseRule rule) const {
  const auto own = house_rules.find(rule);
  return own == house_rules.end() ? 0 : own->second;
}
std::size_t Project::chosen(HouseRule rule, const Shot& shot) const {
  if (const auto own = shot.house_rules.find(rule); own != shot.house_rules.end()) return own->second;
  if (const Setup* setup = by_id(setups, shot.setup))
    if (const auto own = setup->house_rules.find(rule); own != setup->house_rules.end()) return own->second;
  return chosen(rule);
}
double Project::starts_at(std::size_t shot_index) const {
  double sum = 0.0;
  for (std::size_t i = 0; i < shot_index && i < shots.size(); ++i) sum += shots[i]->screen_time;
  return sum;
}
double Project::screen_time() const { return starts_at(shots.size()); }

struct ProjectReader::Cache {
  struct Entry {
    JsonPtr json;
    std::any value;
  };
  std::map<std::string, std::vector<Entry>> lists;  // in their order
  std::vector<JsonPtr> kit_entities;  // shots and set-ups are read with the kit: it changing makes them anew
  JsonPtr project_json;
  std::map<std::string, std::shared_ptr<const Blob>> blobs;  // measured lights among them
};

namespace {

/// What was read before of the same JSON: looked for at the same place first, then anywhere in the list.
template <class Entry>
class Before {
 public:
  explicit Before(const std::vector<Entry>* list) : list_(list) {}
  const Entry* of(const JsonPtr& json, std::size_t place) {
    if (!list_) return nullptr;
    if (place < list_->size() && (*list_)[place].json == json) return &(*list_)[place];
    if (by_address_.empty())
      for (const Entry& entry : *list_) by_address_.try_emplace(entry.json.get(), &entry);
    const auto found = by_address_.find(json.get());
    return found == by_address_.end() ? nullptr : found->second;
  }

 private:
  const std::vector<Entry>* list_;
  std::unordered_map<const Json*, const Entry*> by_address_;
};

}  // namespace

Project ProjectReader::read(const Document& doc) {
  auto next = std::make_shared<Cache>();
  for (const char* key : {"kit/cameras", "kit/lenses", "kit/lights"})
    for (const JsonPtr& item : doc.list(key)) next->kit_entities.push_back(item);
  const auto found = doc.singles.find("project");
  next->project_json = found == doc.singles.end() ? nullptr : found->second;
  next->blobs = doc.blobs;
  const bool same_blobs = cache_ && cache_->blobs == next->blobs;
  const bool same_kit =
      same_blobs && cache_->kit_entities == next->kit_entities && cache_->project_json == next->project_json;
  const auto read_list = [&]<class T>(const char* key, std::vector<std::shared_ptr<const T>>& out, bool keep,
                                      auto parse) {
    const auto old = keep && cache_ ? cache_->lists.find(key) : decltype(cache_->lists.find(key)){};
    Before before(keep && cache_ && old != cache_->lists.end() ? &old->second : nullptr);
    auto& entries = next->lists[key];
    const auto& list = doc.list(key);
    entries.reserve(list.size());
    out.reserve(list.size());
    for (const JsonPtr& item : list) {
      const auto* known = before.of(item, out.size());
      auto value =
          known ? std::any_cast<std::shared_ptr<const T>>(known->value) : std::make_shared<const T>(parse(*item));
      entries.push_back({item, value});
      out.push_back(std::move(value));
    }
  };
  Project p;
  const Json info = next->project_json ? *next->project_json : Json::object();
  read_fields(project_fields(), info, &p);
  if (!member(info, "breaker_amps").is_number() && p.mains_volts < 160) p.breaker_amps = 20;
  if (const Json* rules = doc.single("house_rules")) p.house_rules = read_house_rules(*rules);
  if (const Json* bands = doc.single("bands"))
    for (const auto& [key, band] : bands->items())
      p.bands[key] = {band.contains("low"), band.contains("high"), maybe(band, "low"), maybe(band, "high"),
                      text_of(band, "reason")};
  for (const JsonPtr& d : doc.list("deliverables")) {
    auto out = read_as<Deliverable>(*fields_of("deliverables"), *d);
    if (const Json& w = member(*d, "words"); w.is_object()) {
      const Json& a = w.at("area");
      out.words = Words{a[0], a[1], a[2], a[3], num(w, "last_seconds", 0)};
    }
    p.deliverables.push_back(out);
  }
  read_list("products", p.products, same_blobs, [&](const Json& j) { return product(j, doc); });
  const auto plainly = [&]<class T>(const char* key, std::vector<std::shared_ptr<const T>>& out) {
    read_list(key, out, true, [fields = fields_of(key)](const Json& j) { return read_as<T>(*fields, j); });
  };
  const auto stock = [&](const char* key, std::vector<std::shared_ptr<const CardStock>>& out) {
    read_list(key, out, same_blobs,
              [&doc, fields = fields_of(key)](const Json& j) { return card_stock(*fields, j, doc); });
  };
  plainly("kit/cameras", p.cameras);
  read_list("kit/lenses", p.lenses, true, lens);
  read_list("kit/lights", p.light_kits, same_blobs, [&](const Json& j) { return light_kit(j, doc); });
  plainly("kit/supports", p.supports);
  plainly("kit/media", p.media);
  read_list("kit/batteries", p.batteries, true, battery);
  read_list("kit/consumables", p.consumables, true, consumable);
  plainly("kit/modifiers", p.modifiers);
  stock("kit/cards", p.card_stock);
  stock("kit/surfaces", p.surface_stock);
  stock("kit/backdrops", p.backdrop_stock);
  read_list("setups", p.setups, same_kit, [&](const Json& j) { return setup(j, p, doc); });
  read_list("shots", p.shots, same_kit, [&](const Json& j) { return shot(j, p); });
  plainly("takes", p.takes);
  p.blobs = doc.blobs;
  p.unreadable = unreadable(doc);
  cache_ = std::move(next);
  return p;
}

const char* material_name(MaterialKind kind) { return material_names()[static_cast<std::size_t>(kind)].c_str(); }

}  // namespace cinnabar
