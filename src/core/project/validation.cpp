#include "cinnabar/project/validation.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "cinnabar/base/range.h"
#include "cinnabar/base/text.h"
#include "cinnabar/motion/moves.h"
#include "cinnabar/project/inspection.h"

namespace cinnabar {
namespace {

constexpr double far_away = 1e4;  // metres: nothing on a floor is farther
constexpr Range place_range{-far_away, far_away};
constexpr Range size_range{0.0, far_away, true, false};
constexpr Range thickness_range{0.0, far_away};
constexpr Range lumens_range{0.0, 1e9};
constexpr Range kelvin_range{1000.0, 40000.0};
constexpr Range iso_range{1.0, 1e8};
constexpr Range stops_range{-30.0, 30.0};
constexpr Range seconds_range{0.0, 86400.0};
constexpr Range some_seconds{0.0, 86400.0, true, false};
constexpr Range angle_range{-1e6, 1e6};
constexpr Range pixels_range{1.0, 65536.0, false, false, true};
constexpr Range f_number_range{0.1, 1000.0};

const Names material_kinds{"matte",   "satin",  "gloss", "metal",       "mirror", "glass",
                           "frosted", "liquid", "paper", "translucent", "cloth"};

/// Ids that references may name.
struct Ids {
  std::map<std::string, std::set<std::string>> by_list;
  std::map<std::string, std::set<std::string>> modes, setup_lights;  // camera -> modes, set-up -> lights
  std::set<std::string> blobs;

  [[nodiscard]] bool has(const std::string& list, const std::string& id) const {
    const auto found = by_list.find(list);
    return found != by_list.end() && found->second.contains(id);
  }
};

void note_ids(Ids& ids, const std::string& list, const Json& entity) {
  if (!entity.is_object() || !entity.contains("id") || !entity["id"].is_string()) return;
  const std::string id = entity["id"].get<std::string>();
  ids.by_list[list].insert(id);
  const auto inner = [&](const char* member, std::set<std::string>& into) {
    if (!entity.contains(member) || !entity[member].is_array()) return;
    for (const Json& item : entity[member])
      if (item.is_object() && item.contains("id") && item["id"].is_string())
        into.insert(item["id"].get<std::string>());
  };
  if (list == "kit/cameras") inner("modes", ids.modes[id]);
  if (list == "setups") inner("lights", ids.setup_lights[id]);
}

void reference(const Object& o, const std::string& key, const Ids& ids, const std::string& list,
               bool required = false) {
  const auto id = o.text(key, required);
  if (id && !ids.has(list, *id))
    o.fault(key, "names \"" + *id + "\", which is not in " + list, "name one of that list, or add it there");
}

/// Every item of a list has a text id of its own; `each` sees the item.
template <class F>
void identified(const Object& o, const std::string& key, F each, bool required = false) {
  std::set<std::string> seen;
  o.list(
      key,
      [&](const Object& item) {
        if (!item.is_object()) return;
        const auto id = item.text("id", true);
        if (id && id->empty()) item.fault("id", "is empty", "give a short name");
        if (id && !seen.insert(*id).second)
          item.fault("id", "\"" + *id + "\" is used twice in this list", "give each its own");
        each(item);
      },
      required);
}

void material(const std::optional<Object>& m) {
  if (!m) return;
  m->one_of("kind", material_kinds, true);
  m->numbers("colour", 3, share);
  m->number("roughness", share);
  m->number("ior", Range{1.0, 4.0});
  m->numbers("absorption", 3, Range{0.0, 1e6});
  m->number("transmittance", share);
}

void deliverable(const Object& o) {
  o.text("name");
  o.number("width", pixels_range, true);
  o.number("height", pixels_range, true);
  o.rate("rate", false);
  if (const auto words = o.object("words")) {
    words->numbers("area", 4, share, true);
    words->number("last_seconds", seconds_range);
  }
}

void product(const Object& o, const Ids& ids) {
  o.text("name");
  o.number("mass", Range{0.0, 1e6});
  std::set<std::string> parts;
  identified(o, "parts", [&](const Object& part) {
    parts.insert(part.id());
    const Json* profile = part.member("profile", true, "[[radius, height], ...] from bottom to top");
    if (profile) {
      bool good = profile->is_array() && profile->size() >= 2 && profile->size() <= 2000;
      double widest = 0.0;
      if (good)
        for (const Json& p : *profile) {
          good = good && p.is_array() && p.size() == 2 && p[0].is_number() && p[1].is_number() &&
                 thickness_range.contains(p[0].get<double>()) && place_range.contains(p[1].get<double>());
          if (good) widest = std::max(widest, p[0].get<double>());
        }
      if (!good || widest <= 0.0)
        part.fault("profile", "is no outline",
                   "give 2 to 2000 pairs [radius >= 0, height] from bottom to top, one radius over 0");
    }
    part.number("wall", thickness_range);
    material(part.object("material"));
  });
  if (const auto label = o.object("label")) {
    const auto part = label->text("part", true);
    if (part && !parts.contains(*part))
      label->fault("part", "names \"" + *part + "\", no part of this product", "name one of its parts");
    label->number("bearing_deg", angle_range);
    label->number("arc_deg", Range{0.0, 360.0, true, false}, true);
    const auto low = label->number("low", place_range, true), high = label->number("high", place_range, true);
    if (low && high && *low >= *high) label->fault("high", "is not above low", "give low < high, in metres");
    label->number("stroke", size_range);
    const auto picture = label->text("picture");
    if (picture && !ids.blobs.contains(*picture))
      label->fault("picture", "names \"" + *picture + "\", which is not in blobs", "name a blob, or leave it out");
    material(label->object("material"));
  }
  identified(o, "features", [&](const Object& feature) {
    feature.text("name");
    feature.numbers("at", 3, place_range, true);
    feature.number("detail", size_range);
    feature.flag("read");
  });
}

void camera_body(const Object& o) {
  o.text("name");
  o.number("sensor_width", Range{0.0, 1.0, true, false}, true);
  o.number("sensor_height", Range{0.0, 1.0, true, false}, true);
  identified(o, "modes", [&](const Object& mode) {
    mode.number("width", pixels_range, true);
    mode.number("height", pixels_range, true);
    mode.rate("rate", true);
    mode.number("crop", Range{1.0, 100.0});
    mode.number("readout", Range{0.0, 10.0});
    mode.number("megabits_per_s", Range{0.0, 1e6});
    mode.flag("autofocus");
  });
  const auto low = o.number("iso_low", iso_range), high = o.number("iso_high", iso_range);
  if (low && high && *low > *high) o.fault("iso_high", "is under iso_low", "give iso_low <= iso_high");
  o.number("read_noise_e", Range{0.0, 1e6});
  o.number("full_well_e", Range{0.0, 1e9, true, false});
  o.number("watts", Range{0.0, 1e6});
}

void ordered_pair(const Object& o, const std::string& low, const std::string& high, const Range& range,
                  bool required) {
  const auto a = o.number(low, range, required), b = o.number(high, range, required);
  if (a && b && *a > *b) o.fault(high, "is under " + low, "give " + low + " <= " + high);
}

void kit_item(const std::string& list, const Object& o) {
  if (list == "kit/cameras") camera_body(o);
  if (list == "kit/lenses") {
    o.text("name");
    ordered_pair(o, "focal_low", "focal_high", Range{0.0, 10.0, true, false}, true);
    ordered_pair(o, "f_number_low", "f_number_high", f_number_range, false);
    o.number("close_focus", thickness_range);
    o.number("pupil_ratio", Range{0.0, 100.0, true, false});
    o.number("breathing", share);
  }
  if (list == "kit/lights") {
    o.text("name");
    o.number("lumens", lumens_range);
    ordered_pair(o, "kelvin_low", "kelvin_high", kelvin_range, false);
    o.number("watts", Range{0.0, 1e6});
    o.number("ripple", share);
  }
  if (list == "kit/supports") {
    o.text("kind");
    o.number("load", Range{0.0, 1e6});
    for (const char* key : {"travel", "speed", "acceleration"}) o.number(key, Range{0.0, 1e6, true, false});
    ordered_pair(o, "rpm_low", "rpm_high", Range{0.0, 1e5}, false);
  }
  if (list == "kit/media") o.number("gigabytes", Range{0.0, 1e9});
  if (list == "kit/batteries") o.number("watt_hours", Range{0.0, 1e9}), o.number("usable", share);
}

void light(const Object& o, const Ids& ids) {
  o.text("name");
  reference(o, "kit", ids, "kit/lights");
  o.flag("on");
  o.numbers("place", 3, place_range, true);
  o.numbers("aim", 3, place_range, true);
  o.number("roll_deg", angle_range);
  const auto shape = o.one_of("shape", {"rectangle", "disc", "tube", "bare"}, true);
  if (shape == "rectangle") {
    o.number("width", size_range, true);
    o.number("height", size_range, true);
  } else if (shape) {
    o.number("radius", size_range, true);
  }
  if (shape == "tube") o.number("length", size_range, true);
  o.number("lumens", lumens_range);
  o.number("transmittance", share);
  o.number("dimmer", share);
  o.number("kelvin", kelvin_range);
  const auto gel = o.number("gel_mired", Range{-1000.0, 1000.0});
  const Json* kelvin = o.member("kelvin", false, "");
  if (gel && kelvin && kelvin->is_number() && 1e6 / kelvin->get<double>() + *gel <= 0.0)
    o.fault("gel_mired", "shifts this light beyond any white", "give more than minus 10^6 / kelvin");
  o.number("gel_transmittance", share);
  o.number("grid_deg", Range{0.0, 180.0, true, true});
  o.one_of("meant_for", {"product", "backdrop"});
}

void house_rules(const Object& o) {
  if (const auto rules = o.object("house_rules"); rules && rules->is_object())
    for (const auto& [key, values] : house_rule_values()) rules->one_of(key, values);
}

void setup(const Object& o, const Ids& ids) {
  o.text("name");
  house_rules(o);
  if (const auto surface = o.object("surface")) {
    surface->number("width", size_range, true);
    surface->number("depth", size_range, true);
    material(surface->object("material"));
  }
  if (const auto backdrop = o.object("backdrop")) {
    const auto kind = backdrop->one_of("kind", {"none", "flat", "sweep"}, true);
    const bool stands = kind && *kind != "none";
    backdrop->number("distance", place_range, stands);
    backdrop->number("width", size_range, stands);
    backdrop->number("height", size_range, stands);
    backdrop->number("low", place_range);
    backdrop->number("tilt_deg", Range{-89.0, 89.0});
    backdrop->number("radius", thickness_range);
    material(backdrop->object("material"));
  }
  if (const auto ambient = o.object("ambient")) {
    ambient->number("illuminance_lx", Range{0.0, 1e6});
    ambient->number("kelvin", kelvin_range);
  }
  identified(o, "lights", [&](const Object& item) { light(item, ids); });
  identified(o, "cards", [&](const Object& card) {
    card.text("name");
    card.numbers("place", 3, place_range, true);
    card.numbers("aim", 3, place_range, true);
    card.number("roll_deg", angle_range);
    card.number("width", size_range, true);
    card.number("height", size_range, true);
    material(card.object("material"));
  });
}

/// Pairs [a, b] with a strictly rising.
void rising_pairs(const Object& o, const std::string& key, const Range& second, bool required) {
  const std::string wanted = "[[set second, value], ...] with rising seconds, values " + second.text();
  const Json* found = o.member(key, required, wanted);
  if (!found) return;
  bool good = found->is_array() && found->size() <= 10000;
  double last = -1e300;
  if (good)
    for (const Json& p : *found) {
      good = good && p.is_array() && p.size() == 2 && p[0].is_number() && p[1].is_number();
      good = good && angle_range.contains(p[0].get<double>()) && p[0].get<double>() > last &&
             second.contains(p[1].get<double>());
      if (!good) break;
      last = p[0].get<double>();
    }
  if (!good) o.fault(key, "is not what is wanted", "give " + wanted);
}

void shot_camera(const Object& camera, const Ids& ids) {
  reference(camera, "camera", ids, "kit/cameras");
  reference(camera, "lens", ids, "kit/lenses");
  const auto mode = camera.text("mode"), body = camera.text("camera");
  if (mode && body) {
    const auto modes = ids.modes.find(*body);
    if (ids.has("kit/cameras", *body) && (modes == ids.modes.end() || !modes->second.contains(*mode)))
      camera.fault("mode", "names \"" + *mode + "\", no mode of " + *body, "name one of that camera's modes");
  }
  const auto focal = camera.number("focal", Range{0.0, 10.0, true, false});
  camera.numbers("place", 3, place_range, true);
  camera.numbers("aim", 3, place_range, true);
  camera.number("roll_deg", angle_range);
  const auto focus = camera.number("focus", size_range);
  if (focal && focus && *focus <= *focal)
    camera.fault("focus", "is no farther than the focal length",
                 fmt::format("give more than {} m", number_text(*focal)));
  camera.number("f_number", f_number_range);
  camera.number("shutter_time", some_seconds);
  camera.number("iso", iso_range);
  camera.number("nd_stops", stops_range);
  camera.number("balance_k", kelvin_range);
  if (const auto locked = camera.object("locked"))
    for (const char* key : {"white", "exposure", "focus", "stabiliser_off"}) locked->flag(key);
  camera.numbers("slide_axis", 3, Range{-1.0, 1.0});
}

void track(const Object& o, const Ids& ids, const std::string& setup_id) {
  static const Names targets{"turntable", "camera.slide", "camera.pan", "camera.tilt", "camera.focus"};
  const auto target = o.text("target", true);
  bool known = !target;
  if (target) {
    for (const std::string& name : targets) known = known || name == *target;
    const auto lights = ids.setup_lights.find(setup_id);
    for (const char* end : {".dimmer", ".turn"})
      if (target->starts_with("light.") && target->ends_with(end) && lights != ids.setup_lights.end())
        known = known || lights->second.contains(target->substr(6, target->size() - 6 - std::string(end).size()));
  }
  if (!known)
    o.fault("target", "is \"" + *target + "\", which is nothing that moves here",
            "give " + joined(targets) + ", light.ID.dimmer or light.ID.turn of a light in this set-up");
  o.one_of("profile", {"linear", "trapezoid-1-3", "minimum-jerk"});
  rising_pairs(o, "keys", target && target->ends_with(".dimmer") ? share : angle_range, true);
}

void shot(const Object& o, const Ids& ids) {
  o.text("name");
  reference(o, "setup", ids, "setups", true);
  const std::string setup_id =
      o.is_object() ? o.value().value("setup", Json()).is_string() ? o.value()["setup"].get<std::string>() : ""
                    : "";
  o.one_of("size", {"wide", "close", "macro"});
  o.number("screen_time", some_seconds, true);
  o.list("products", [&](const Object& p) {
    if (!p.is_object()) return;
    reference(p, "product", ids, "products", true);
    p.numbers("place", 3, place_range);
    p.number("turn_deg", angle_range);
    reference(p, "on", ids, "kit/supports");
  });
  if (const auto camera = o.object("camera")) shot_camera(*camera, ids);
  house_rules(o);
  o.number("target_stops", stops_range);
  rising_pairs(o, "play", Range{1e-6, 1e6}, false);
  std::set<std::string> targets;
  o.list("tracks", [&](const Object& t) {
    if (!t.is_object()) return;
    track(t, ids, setup_id);
    const auto target = t.value().value("target", Json());
    if (target.is_string() && !targets.insert(target.get<std::string>()).second)
      t.fault("target", "has two tracks in this shot", "put all its keys in one");
  });
  if (const auto needs = o.object("needs")) {
    if (const auto facing = needs->object("facing")) {
      facing->number("bearing_deg", angle_range);
      facing->number("at", seconds_range);
      facing->number("for", seconds_range);
    }
    needs->number("slow", Range{0.0, 1e6, true, false});
    needs->number("length", some_seconds);
    needs->flag("loop");
  }
  o.number("crop_share", Range{0.0, 1.0, true, false});
  o.number("takes_planned", Range{0.0, 1e5, false, false, true});
  o.number("keepers_wanted", Range{0.0, 1e5, false, false, true});
  o.text("notes");
}

void take(const Object& o, const Ids& ids) {
  reference(o, "shot", ids, "shots", true);
  o.number("number", Range{1.0, 1e6, false, false, true});
  o.text("at");
  o.flag("kept");
  o.text("notes");
  const Json* reasons = o.member("reasons", false, "");
  if (!reasons) return;
  bool good = reasons->is_array();
  if (good)
    for (const Json& r : *reasons) good = good && r.is_string();
  if (!good) o.fault("reasons", "is no list of texts", "write [\"label late\"]");
}

void project_single(const Object& o) {
  const auto name = o.text("name", true);
  if (name && trimmed(*name).empty()) o.fault("name", "is empty", "name the spot");
  for (const char* key : {"client", "aim", "notes", "mood", "date"}) o.text(key);
  o.one_of("units", {"metric", "imperial"});
  o.number("allowed_time", some_seconds);
  o.rate("timeline_rate", true);
  o.number("beats_per_minute", Range{1.0, 1000.0});
  o.number("mains_hz", Range{1.0, 1000.0});
  o.number("mains_volts", Range{1.0, 1000.0});
  o.number("latitude", Range{-90.0, 90.0});
  o.number("longitude", Range{-180.0, 180.0});
  if (const auto limits = o.object("limits")) limits->number("iso", iso_range);
}

void entity(const std::string& list, const Object& o, const Ids& ids) {
  if (list == "deliverables") deliverable(o);
  if (list == "products") product(o, ids);
  if (list.starts_with("kit/")) kit_item(list, o);
  if (list == "setups") setup(o, ids);
  if (list == "shots") shot(o, ids);
  if (list == "takes") take(o, ids);
}

void singles(const Object& root) {
  const auto format = root.text("format", true);
  if (format && *format != "cinnabar-project")
    root.fault("format", "is \"" + *format + "\"", "give \"cinnabar-project\"");
  const auto version = root.number("version", Range{1.0, 1e6, false, false, true}, true);
  if (version && *version > 1.0)
    root.fault("version", "is newer than this program knows", "open it with a newer Cinnabar");
  if (const auto project = root.object("project", true)) project_single(*project);
  house_rules(root);
  if (const auto bands = root.object("bands"); bands && bands->is_object())
    for (const auto& [key, band] : bands->value().items()) {
      const auto o = bands->object(key);
      if (!o || !o->is_object()) continue;
      const auto low = o->number("low", any_number), high = o->number("high", any_number);
      if (low && high && *low >= *high) o->fault("high", "is not above low", "give low < high, or null for none");
      o->text("reason");
    }
  if (const auto blobs = root.object("blobs"); blobs && blobs->is_object())
    for (const auto& [id, value] : blobs->value().items()) {
      const auto blob = blobs->object(id);
      if (!blob || !blob->is_object()) continue;
      blob->text("type");
      const auto data = blob->text("data", true);
      if (data && !base64_decoded(*data)) blob->fault("data", "is no base64", "encode the bytes as RFC 4648 says");
    }
}

const Names& model_lists() {
  static const Names lists{"deliverables", "products",     "kit/cameras", "kit/lenses",
                           "kit/lights",   "kit/supports", "kit/media",   "kit/batteries",
                           "setups",       "shots",        "takes"};
  return lists;
}

Ids ids_of(const Document& doc) {
  Ids ids;
  for (const auto& [key, list] : doc.lists)
    if (key != "takes")
      for (const JsonPtr& item : list) note_ids(ids, key, *item);
  for (const auto& [id, blob] : doc.blobs) ids.blobs.insert(id);
  return ids;
}

}  // namespace

const std::vector<std::pair<std::string, std::vector<std::string>>>& house_rule_values() {
  static const std::vector<std::pair<std::string, std::vector<std::string>>> rules{
      {"shutter", {"half", "crisp", "flicker-safe"}},
      {"exposure", {"add-light", "stop-down"}},
      {"backdrop", {"black", "white", "gradient", "colour", "key"}},
      {"placing", {"far", "flush"}},
      {"depth", {"shallow", "deep"}},
      {"movement", {"in-camera", "locked-off"}},
      {"overhead", {"allowed", "never"}},
      {"ambient", {"black-out", "window"}},
      {"fill", {"none", "big-far", "small-near"}},
      {"droplets", {"glycerin", "water"}},
      {"order", {"hero-first", "story", "fewest-moves"}},
      {"focus", {"marks", "autofocus-locked"}},
      {"effects", {"real", "plates"}}};
  return rules;
}

std::vector<DocumentFault> validate(const Json& document) {
  std::vector<DocumentFault> faults;
  const Object root(document, "", faults);
  if (!root.is_object()) return faults;
  singles(root);
  const auto kit = root.object("kit");
  Ids ids;
  if (document.contains("blobs") && document["blobs"].is_object())
    for (const auto& [id, blob] : document["blobs"].items()) ids.blobs.insert(id);
  const auto find_list = [&](const std::string& list) -> const Json* {
    const bool in_kit = list.starts_with("kit/");
    if (in_kit && (!kit || !kit->is_object())) return nullptr;
    const Json& holder = in_kit ? kit->value() : document;
    const auto found = holder.find(in_kit ? list.substr(4) : list);
    return found == holder.end() ? nullptr : &*found;
  };
  for (const std::string& list : model_lists())
    if (const Json* items = find_list(list); items && items->is_array())
      for (const Json& item : *items) note_ids(ids, list, item);
  for (const std::string& list : model_lists()) {
    const bool in_kit = list.starts_with("kit/");
    if (in_kit && (!kit || !kit->is_object())) continue;
    identified(in_kit ? *kit : root, in_kit ? list.substr(4) : list,
               [&](const Object& item) { entity(list, item, ids); });
  }
  return faults;
}

std::vector<DocumentFault> validate(const Document& document) { return validate(document.to_json()); }

std::vector<DocumentFault> validate(const Document& after, const Edit& edit) {
  bool references_moved = false, in_singles = false, shots_went = false;
  std::set<std::pair<std::string, std::string>> touched;
  for (const Change& change : edit.changes) {
    const bool is_single = change.list.empty() || change.list == "blobs";
    in_singles = in_singles || is_single;
    if (!is_single && change.id.empty()) return validate(after);  // a whole list came or went
    if (change.before == change.after) continue;
    // A set-up's lights and a camera's modes are named by shots; anything that goes may be named elsewhere.
    references_moved =
        references_moved || !change.after || change.list == "setups" || change.list == "kit/cameras";
    shots_went = shots_went || (change.list == "shots" && !change.after);
    touched.emplace(change.list, change.id);
  }
  std::vector<DocumentFault> faults;
  if (in_singles) {
    Json top = Json::object();
    for (const auto& [key, value] : after.singles)
      if (!key.starts_with("kit/")) top[key] = *value;
    const Object root(top, "", faults);
    singles(root);
    if (top.contains("kit") && !top["kit"].is_object()) root.fault("kit", "is no object", "write { ... }");
    for (const std::string& list : model_lists())
      if (after.singles.contains(list))
        root.fault(list, "is no list of entities with ids", "write [{\"id\": ...}]");
  }
  const Ids ids = ids_of(after);
  for (const auto& [key, list] : after.lists) {
    const bool all = references_moved && (key != "takes" || shots_went);
    if (!all && std::none_of(touched.begin(), touched.end(), [&](const auto& t) { return t.first == key; }))
      continue;
    std::set<std::string> seen;
    for (std::size_t i = 0; i < list.size(); ++i) {
      const std::string& id = list[i]->at("id").get_ref<const std::string&>();
      const std::string path = fmt::format("/{}/{}", key, i);
      if (!seen.insert(id).second)
        faults.push_back({path + "/id", "\"" + id + "\" is used twice in this list", "give each its own"});
      if (all || touched.contains({key, id})) entity(key, Object(*list[i], path, faults), ids);
    }
  }
  return faults;
}

Expected<Json> parse_json(const std::string& text, const std::string& file) {
  int depth = 0, deepest = 0;
  bool in_string = false;
  for (std::size_t i = 0; i < text.size(); ++i) {  // the parser recurses on destruction: bound the nesting first
    const char c = text[i];
    if (in_string) {
      if (c == '\\') ++i;
      if (c == '"') in_string = false;
    } else if (c == '"') {
      in_string = true;
    } else if (c == '{' || c == '[') {
      deepest = std::max(deepest, ++depth);
    } else if (c == '}' || c == ']') {
      --depth;
    }
  }
  if (deepest > 200)
    return fail(file, "is nested too deep", "give a project as `export --to json` writes it", Fault::input);
  try {
    return Json::parse(text);
  } catch (const Json::parse_error& e) {
    std::size_t line = 1, column = 1;
    for (std::size_t i = 0; i + 1 < e.byte && i < text.size(); ++i) {
      column = text[i] == '\n' ? 1 : column + 1;
      line += text[i] == '\n' ? 1 : 0;
    }
    return fail(file, fmt::format("is no JSON: line {}, column {}", line, column),
                text.empty() ? "the file is empty" : "mend it there, or export it again", Fault::input);
  } catch (const Json::exception& e) {
    return fail(file, "is no JSON that can be read (a number may be too large)", "mend it, or export it again",
                Fault::input);
  }
}

}  // namespace cinnabar
