#include "cinnabar/project/model/entities.h"

#include <algorithm>
#include <any>
#include <numeric>
#include <unordered_map>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/model/blobs.h"

namespace cinnabar {
namespace {

constexpr std::array<const char*, 11> kind_names{"matte",   "satin",  "gloss", "metal",       "mirror", "glass",
                                                 "frosted", "liquid", "paper", "translucent", "cloth"};

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
std::string text(const Json& j, const char* key, const char* otherwise = "") {
  const Json& m = member(j, key);
  return m.is_string() ? m.get<std::string>() : otherwise;
}
bool flag(const Json& j, const char* key, bool otherwise) {
  const Json& m = member(j, key);
  return m.is_boolean() ? m.get<bool>() : otherwise;
}
Vec3 triple(const Json& j, const char* key, const Vec3& otherwise = {}) {
  const Json& m = member(j, key);
  return m.is_array() && m.size() == 3 ? Vec3{m[0].get<double>(), m[1].get<double>(), m[2].get<double>()}
                                       : otherwise;
}
double rate(const Json& j, const char* key, double otherwise) {
  return parse_rate(text(j, key)).value_or(otherwise);
}

/// `absent` is what the whole material is when it is left out.
Material material(const Json& j, const Material& absent) {
  if (!j.is_object()) return absent;
  Material m;
  const std::string kind = text(j, "kind", "matte");
  for (std::size_t i = 0; i < kind_names.size(); ++i)
    if (kind == kind_names[i]) m.kind = static_cast<MaterialKind>(i);
  const bool clear =
      m.kind == MaterialKind::glass || m.kind == MaterialKind::frosted || m.kind == MaterialKind::liquid;
  const Vec3 colour = clear                            ? Vec3{1, 1, 1}
                      : m.kind == MaterialKind::mirror ? Vec3{0.9, 0.9, 0.9}
                                                       : Vec3{0.5, 0.5, 0.5};
  m.colour = triple(j, "colour", colour);
  const bool rough =
      m.kind == MaterialKind::satin || m.kind == MaterialKind::frosted || m.kind == MaterialKind::metal;
  m.roughness = num(j, "roughness", rough ? 0.3 : 0.0);
  m.ior = num(j, "ior", m.kind == MaterialKind::liquid ? 1.33 : 1.5);
  m.absorption = triple(j, "absorption");
  m.transmittance = num(j, "transmittance", 0.5);
  return m;
}

/// What a blob holds, by one of the readers of blobs.h; nothing where it is not there or cannot be read.
template <class Read>
auto held(const Document& doc, const std::string& id, Read read) {
  const auto found = doc.blobs.find(id);
  return id.empty() || found == doc.blobs.end() || !found->second ? nullptr : read(*found->second);
}

/// Sentences on what of a project's pictures, meshes and measured lights cannot be read.
std::vector<std::string> unreadable(const Document& doc) {
  std::vector<std::string> list;
  const auto look = [&](const Json& holder, const char* key, BlobUse use, const std::string& what) {
    const auto blob = holder.is_object() ? doc.blobs.find(text(holder, key)) : doc.blobs.end();
    if (blob == doc.blobs.end() || !blob->second) return;
    if (const auto fault = blob_fault(*blob->second, use))
      list.push_back(said("{} is left out: {} {}", what, fault->place, fault->message));
  };
  for (const JsonPtr& product : doc.list("products")) {
    const std::string name = text(*product, "name", text(*product, "id").c_str());
    look(member(*product, "label"), "picture", BlobUse::picture, said("The label's picture of {}", name));
    for (const Json& part : member(*product, "parts"))
      look(part, "mesh", BlobUse::mesh, said("A mesh of {}", name));
  }
  if (const auto count = std::count_if(doc.list("takes").begin(), doc.list("takes").end(),
                                       [](const JsonPtr& take) { return take.damaged(); }))
    list.push_back(counted(count, "{} take of the log cannot be read", "{} takes of the log cannot be read"));
  for (const JsonPtr& kit : doc.list("kit/lights"))
    look(*kit, "ies", BlobUse::measured_light,
         said("The measured light of {}", text(*kit, "name", text(*kit, "id").c_str())));
  return list;
}

Part product_part(const Json& j, const Document& doc) {
  Part out{text(j, "id"), {}, num(j, "wall", 0.0), material(member(j, "material"), {})};
  if (text(j, "section") == "box") out.section = Section::box;
  out.corner = num(j, "corner", 0.0);
  for (const Json& point : member(j, "profile")) {
    ProfilePoint p{point[0].get<double>(), point[1].get<double>()};
    if (point.size() > 2 && p.radius > 0) p.depth_share = point[2].get<double>() / p.radius;
    if (point.size() > 3) p.shift = point[3].get<double>();
    out.profile.push_back(p);
  }
  if (const std::string mesh = text(j, "mesh"); !mesh.empty()) {
    out.mesh = held(doc, mesh, mesh_of);
    out.profile.clear();
    if (out.mesh)
      for (const MeshSection& s : out.mesh->sections)
        out.profile.push_back({s.half_width, s.height, s.half_width > 0 ? s.half_depth / s.half_width : 1.0, s.x});
  }
  return out;
}

Product product(const Json& j, const Document& doc) {
  Product p{text(j, "id"), text(j, "name"), num(j, "mass", 0.0), {}, {}, {}};
  for (const Json& part : member(j, "parts")) p.parts.push_back(product_part(part, doc));
  if (const Json& l = member(j, "label"); l.is_object()) {
    Label label{text(l, "part"),   num(l, "bearing_deg", 0), num(l, "arc_deg", 90), num(l, "low", 0),
                num(l, "high", 0), text(l, "picture"),       maybe(l, "stroke")};
    label.material = material(member(l, "material"), label.material);
    label.image = held(doc, label.picture, picture_of);
    p.label = label;
  }
  for (const Json& f : member(j, "features"))
    p.features.push_back(
        {text(f, "id"), text(f, "name"), triple(f, "at"), maybe(f, "detail"), flag(f, "read", false)});
  return p;
}

Holding holding(const Json& j) {
  return {flag(j, "owned", true), num(j, "count", 1), maybe(j, "price"), flag(j, "hired", false)};
}

CameraBody camera_body(const Json& j) {
  CameraBody c{text(j, "id"),
               text(j, "name"),
               num(j, "sensor_width", 0.036),
               num(j, "sensor_height", 0.02025),
               {},
               num(j, "iso_low", 100),
               num(j, "iso_high", 12800),
               num(j, "read_noise_e", 3),
               num(j, "full_well_e", 50000),
               maybe(j, "watts"),
               holding(j)};
  for (const Json& row : member(j, "measured_noise"))
    c.measured_noise.emplace_back(row[0].get<double>(), row[1].get<double>());
  for (const Json& m : member(j, "modes"))
    c.modes.push_back({text(m, "id"), static_cast<int>(num(m, "width", 1920)),
                       static_cast<int>(num(m, "height", 1080)), rate(m, "rate", 24), num(m, "crop", 1),
                       num(m, "readout", 0), num(m, "megabits_per_s", 0), flag(m, "autofocus", true)});
  return c;
}

LensSpec lens(const Json& j) {
  return {text(j, "id"),
          text(j, "name"),
          num(j, "focal_low", 0.05),
          num(j, "focal_high", 0.05),
          num(j, "f_number_low", 1.0),
          num(j, "f_number_high", 32),
          num(j, "close_focus", 0),
          num(j, "pupil_ratio", 1),
          maybe(j, "breathing"),
          holding(j)};
}

LightKit light_kit(const Json& j, const Document& doc) {
  const Json& lux = member(j, "lux");
  LightKit kit{text(j, "id"),
               text(j, "name"),
               maybe(j, "lumens"),
               num(j, "kelvin_low", 1000),
               num(j, "kelvin_high", 40000),
               num(j, "ripple", 0),
               maybe(j, "watts"),
               flag(j, "hot", false),
               text(j, "ies"),
               {},
               holding(j)};
  kit.output = light_output({.lumens = kit.lumens,
                             .candela = maybe(j, "candela"),
                             .illuminance = maybe(lux, "illuminance_lx"),
                             .distance = maybe(lux, "distance"),
                             .beam_deg = maybe(j, "beam_deg"),
                             .measured = held(doc, kit.ies, measured_light_of)});
  return kit;
}
Support support(const Json& j) {
  return {text(j, "id"),      text(j, "name"),     text(j, "kind"),
          maybe(j, "load"),   maybe(j, "rpm_low"), maybe(j, "rpm_high"),
          maybe(j, "travel"), maybe(j, "speed"),   maybe(j, "acceleration"),
          maybe(j, "reach"),  holding(j)};
}
Supply medium(const Json& j) { return {text(j, "id"), text(j, "name"), num(j, "gigabytes", 0), holding(j)}; }
Supply battery(const Json& j) {
  return {text(j, "id"), text(j, "name"), num(j, "watt_hours", 0) * num(j, "usable", 1), holding(j)};
}

Consumable consumable(const Json& j) {
  return {text(j, "id"),
          text(j, "name", text(j, "id").c_str()),
          text(j, "unit"),
          num(j, "stock", 0),
          maybe(j, "shelf_minutes"),
          holding(j)};
}

Modifier modifier(const Json& j) {
  return {text(j, "id"),           text(j, "name"),     text(j, "shape"),           num(j, "width", 0),
          num(j, "height", 0),     num(j, "radius", 0), num(j, "transmittance", 1), maybe(j, "grid_deg"),
          flag(j, "doors", false), holding(j)};
}
CardStock card_stock(const Json& j) {
  CardStock c{text(j, "id"), text(j, "name"), num(j, "width", 0), num(j, "height", num(j, "depth", 0)), {},
              holding(j)};
  c.material = material(member(j, "material"), Material{MaterialKind::matte, {0.8, 0.8, 0.8}});
  return c;
}

Light light(const Json& j, const std::vector<std::shared_ptr<const LightKit>>& kits) {
  static const std::map<std::string, LightShape> shapes{{"rectangle", LightShape::rectangle},
                                                        {"disc", LightShape::disc},
                                                        {"tube", LightShape::tube},
                                                        {"bare", LightShape::bare}};
  Light l;
  l.id = text(j, "id"), l.name = text(j, "name", l.id.c_str()), l.kit = text(j, "kit");
  l.on = flag(j, "on", true);
  l.place = triple(j, "place"), l.aim = triple(j, "aim"), l.roll_deg = num(j, "roll_deg", 0);
  l.shape = shapes.at(text(j, "shape"));
  l.width = num(j, "width", 0), l.height = num(j, "height", 0), l.radius = num(j, "radius", 0),
  l.length = num(j, "length", 0);
  const LightKit* kit = by_id(kits, l.kit);
  l.lumens = num(j, "lumens", kit && kit->output ? kit->output->lumens : 0.0);
  l.transmittance = num(j, "transmittance", 1), l.dimmer = num(j, "dimmer", 1);
  l.kelvin = num(j, "kelvin", kit ? std::clamp(5600.0, kit->kelvin_low, kit->kelvin_high) : 5600.0);
  l.gel_mired = num(j, "gel_mired", 0), l.gel_transmittance = num(j, "gel_transmittance", 1);
  l.grid_deg = maybe(j, "grid_deg");
  if (const Json& d = member(j, "doors"); d.is_object())
    l.doors = Doors{num(d, "length", 0), num(d, "top_deg", 90), num(d, "bottom_deg", 90), num(d, "left_deg", 90),
                    num(d, "right_deg", 90)};
  if (kit && kit->output && l.transmittance >= 1.0) l.distribution = kit->output->distribution;
  l.modifier = text(j, "modifier"), l.meant_for = text(j, "meant_for");
  return l;
}

std::map<std::string, std::string> rules_of(const Json& j) {
  std::map<std::string, std::string> rules;
  if (const Json& m = member(j, "house_rules"); m.is_object())
    for (const auto& [key, value] : m.items())
      if (value.is_string()) rules[key] = value.get<std::string>();
  return rules;
}

Setup setup(const Json& j, const std::vector<std::shared_ptr<const LightKit>>& kits) {
  static const std::map<std::string, BackdropKind> kinds{
      {"none", BackdropKind::none}, {"flat", BackdropKind::flat}, {"sweep", BackdropKind::sweep}};
  Setup s;
  s.id = text(j, "id"), s.name = text(j, "name", s.id.c_str());
  if (const Json& surface = member(j, "surface"); surface.is_object()) {
    s.surface =
        Surface{num(surface, "width", 1), num(surface, "depth", 1), material(member(surface, "material"), {})};
    s.surface->kit = text(surface, "kit");
    if (const Json& sheet = member(surface, "sheet"); sheet.is_object()) {
      s.surface->sheet = num(sheet, "thickness", 0.004);
      s.surface->sheet_material = material(member(sheet, "material"), s.surface->sheet_material);
    }
  }
  if (const Json& b = member(j, "backdrop"); b.is_object()) {
    s.backdrop = {kinds.at(text(b, "kind", "none")),
                  num(b, "distance", 1),
                  num(b, "width", 1),
                  num(b, "height", 1),
                  num(b, "low", 0),
                  num(b, "tilt_deg", 0),
                  num(b, "radius", 0.3)};
    s.backdrop.material = material(member(b, "material"), s.backdrop.material);
    s.backdrop.kit = text(b, "kit");
  }
  if (const Json& a = member(j, "ambient"); a.is_object())
    s.ambient_lx = num(a, "illuminance_lx", 0), s.ambient_kelvin = num(a, "kelvin", 5600);
  for (const Json& l : member(j, "lights")) s.lights.push_back(light(l, kits));
  for (const Json& c : member(j, "cards")) {
    Card card{text(c, "id"),      text(c, "name"),     text(c, "kit"),
              triple(c, "place"), triple(c, "aim"),    num(c, "roll_deg", 0),
              num(c, "width", 0), num(c, "height", 0), {}};
    card.material = material(member(c, "material"), Material{MaterialKind::matte, {0.8, 0.8, 0.8}});
    s.cards.push_back(card);
  }
  s.house_rules = rules_of(j);
  return s;
}

ShotCamera shot_camera(const Json& j, const Project& project) {
  ShotCamera c;
  c.camera = text(j, "camera"), c.mode = text(j, "mode"), c.lens = text(j, "lens");
  const LensSpec* lens_spec = by_id(project.lenses, c.lens);
  c.focal = num(j, "focal", lens_spec ? lens_spec->focal_low : 0.05);
  c.place = triple(j, "place", c.place), c.aim = triple(j, "aim", c.aim), c.roll_deg = num(j, "roll_deg", 0);
  c.focus = num(j, "focus", std::max(length(c.aim - c.place), c.focal * 1.001 + 1e-6));
  c.f_number = num(j, "f_number", lens_spec ? lens_spec->f_number_low : 5.6);
  const CameraBody* body = by_id(project.cameras, c.camera);
  double frame_rate = project.timeline_rate;
  if (body)
    for (const CameraMode& m : body->modes)
      if (m.id == c.mode) frame_rate = m.rate;
  c.shutter_time = num(j, "shutter_time", 0.5 / frame_rate);
  c.iso = num(j, "iso", body ? body->iso_low : 100), c.nd_stops = num(j, "nd_stops", 0),
  c.balance_k = num(j, "balance_k", 5600);
  if (member(j, "slide_axis").is_array()) c.slide_axis = triple(j, "slide_axis");
  const char* lock_keys[4] = {"white", "exposure", "focus", "stabiliser_off"};
  for (std::size_t i = 0; i < 4; ++i)
    if (const Json& lock = member(member(j, "locked"), lock_keys[i]); lock.is_boolean())
      c.locked[i] = lock.get<bool>();
  return c;
}

Shot shot(const Json& j, const Project& project) {
  Shot s;
  s.id = text(j, "id"), s.name = text(j, "name", s.id.c_str()), s.setup = text(j, "setup"),
  s.size = text(j, "size"), s.role = text(j, "role");
  s.sound = text(j, "sound"), s.notes = text(j, "notes");
  s.screen_time = num(j, "screen_time", 1), s.target_stops = num(j, "target_stops", 0);
  for (const Json& p : member(j, "products"))
    s.products.push_back({text(p, "product"), text(p, "on"), triple(p, "place"), num(p, "turn_deg", 0)});
  if (const Json& c = member(j, "camera"); c.is_object()) s.camera = shot_camera(c, project);
  std::vector<SpeedPoint> points;
  for (const Json& p : member(j, "play")) points.push_back({p[0].get<double>(), p[1].get<double>()});
  s.clock = PlayClock(points);
  for (const Json& t : member(j, "tracks")) {
    KeyedTrack track{text(t, "target"), shape_named(text(t, "profile", "linear")).value_or(Shape::linear), {}};
    for (const Json& k : member(t, "keys")) track.keys.emplace_back(k[0].get<double>(), k[1].get<double>());
    s.tracks.push_back(std::move(track));
  }
  const Json& needs = member(j, "needs");
  if (const Json& f = member(needs, "facing"); f.is_object())
    s.facing = FacingNeed{num(f, "bearing_deg", 0), num(f, "at", 0), num(f, "for", 0)};
  s.slow = maybe(needs, "slow"), s.length = maybe(needs, "length");
  if (const Json& loop = member(needs, "loop"); loop.is_boolean()) s.loops = loop.get<bool>();
  s.peak_light = text(member(needs, "peak"), "light");
  for (const Json& f : member(needs, "features")) s.features.push_back(f.get<std::string>());
  for (const Json& u : member(j, "uses")) s.uses.push_back({text(u, "consumable"), num(u, "amount", 1)});
  s.move = text(j, "move");
  for (const Json& plate : member(j, "plates")) s.plates.push_back(plate.get<std::string>());
  const Json& sketch = member(j, "sketch");
  s.sketch.instead = flag(sketch, "instead", false);
  for (const Json& stroke : member(sketch, "strokes")) {
    auto& line = s.sketch.strokes.emplace_back();
    for (const Json& p : stroke) line.emplace_back(p[0].get<double>(), p[1].get<double>());
  }
  s.reset_minutes = num(j, "reset_minutes", 0), s.hands = static_cast<int>(num(j, "hands", 1));
  s.crop_share = num(j, "crop_share", 1);
  s.takes_planned = maybe(j, "takes_planned");
  s.keepers_wanted = static_cast<int>(num(j, "keepers_wanted", 1));
  s.house_rules = rules_of(j);
  return s;
}

Take take(const Json& j) {
  Take t{text(j, "id"),
         text(j, "shot"),
         text(j, "at"),
         text(j, "notes"),
         static_cast<int>(num(j, "number", 1)),
         flag(j, "kept", false),
         {}};
  for (const Json& r : member(j, "reasons")) t.reasons.push_back(r.get<std::string>());
  return t;
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
    case LightShape::bare:
      break;
  }
  return 4.0 * pi * radius * radius;
}
double Light::white_kelvin() const {
  const double sum = 1e6 / kelvin + gel_mired;
  return sum > 0.0 ? 1e6 / sum : 25000.0;
}
double Light::full_luminance() const { return lumens * transmittance * gel_transmittance / (pi * area()); }

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

std::string Project::rule(const std::string& key) const {
  if (const auto chosen = house_rules.find(key); chosen != house_rules.end()) return chosen->second;
  for (const auto& [known, values] : house_rule_values())
    if (known == key) return values.front();
  return {};
}
std::string Project::rule(const std::string& key, const Shot& shot) const {
  if (const auto own = shot.house_rules.find(key); own != shot.house_rules.end()) return own->second;
  if (const Setup* setup = by_id(setups, shot.setup))
    if (const auto own = setup->house_rules.find(key); own != setup->house_rules.end()) return own->second;
  return rule(key);
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
  p.name = text(info, "name"), p.mood = text(info, "mood"), p.units = text(info, "units", "metric");
  p.date = text(info, "date"), p.latitude = maybe(info, "latitude"), p.longitude = maybe(info, "longitude");
  p.allowed_time = maybe(info, "allowed_time"), p.beats_per_minute = maybe(info, "beats_per_minute");
  p.timeline_rate = rate(info, "timeline_rate", 24), p.mains_hz = num(info, "mains_hz", 50);
  p.iso_limit = maybe(member(info, "limits"), "iso");
  p.cuts_on_beats = maybe(info, "cuts_on_beats"), p.mains_volts = num(info, "mains_volts", 230);
  p.breaker_amps = num(info, "breaker_amps", p.mains_volts < 160 ? 20 : 16);
  if (const Json& means = member(info, "means"); means.is_object())
    p.means = {maybe(means, "budget"),
               maybe(means, "room_width"),
               maybe(means, "room_depth"),
               maybe(means, "room_height"),
               static_cast<int>(num(means, "hands", 1)),
               static_cast<int>(num(means, "circuits", 1))};
  if (const Json* rules = doc.single("house_rules"))
    for (const auto& [key, value] : rules->items())
      if (value.is_string()) p.house_rules[key] = value.get<std::string>();
  if (const Json* bands = doc.single("bands"))
    for (const auto& [key, band] : bands->items())
      p.bands[key] = {band.contains("low"), band.contains("high"), maybe(band, "low"), maybe(band, "high"),
                      text(band, "reason")};
  for (const JsonPtr& d : doc.list("deliverables")) {
    Deliverable out{text(*d, "id"),
                    text(*d, "name"),
                    static_cast<int>(num(*d, "width", 1920)),
                    static_cast<int>(num(*d, "height", 1080)),
                    {}};
    if (const Json& w = member(*d, "words"); w.is_object()) {
      const Json& a = w.at("area");
      out.words = Words{a[0], a[1], a[2], a[3], num(w, "last_seconds", 0)};
    }
    out.shortest = maybe(*d, "shortest"), out.longest = maybe(*d, "longest"), out.loudness = maybe(*d, "loudness");
    p.deliverables.push_back(out);
  }
  read_list("products", p.products, same_blobs, [&](const Json& j) { return product(j, doc); });
  read_list("kit/cameras", p.cameras, true, camera_body);
  read_list("kit/lenses", p.lenses, true, lens);
  read_list("kit/lights", p.light_kits, same_blobs, [&](const Json& j) { return light_kit(j, doc); });
  read_list("kit/supports", p.supports, true, support);
  read_list("kit/media", p.media, true, medium);
  read_list("kit/batteries", p.batteries, true, battery);
  read_list("kit/consumables", p.consumables, true, consumable);
  read_list("kit/modifiers", p.modifiers, true, modifier);
  read_list("kit/cards", p.card_stock, true, card_stock);
  read_list("kit/surfaces", p.surface_stock, true, card_stock);
  read_list("kit/backdrops", p.backdrop_stock, true, card_stock);
  read_list("setups", p.setups, same_kit, [&](const Json& j) { return setup(j, p.light_kits); });
  read_list("shots", p.shots, same_kit, [&](const Json& j) { return shot(j, p); });
  read_list("takes", p.takes, true, take);
  p.blobs = doc.blobs;
  p.unreadable = unreadable(doc);
  cache_ = std::move(next);
  return p;
}

const char* material_name(MaterialKind kind) { return kind_names[static_cast<std::size_t>(kind)]; }

}  // namespace cinnabar
