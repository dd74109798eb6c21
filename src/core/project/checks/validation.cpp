#include "cinnabar/project/checks/validation.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>
#include <unordered_set>

#include "cinnabar/base/range.h"
#include "cinnabar/base/text.h"
#include "cinnabar/motion/moves.h"
#include "cinnabar/project/checks/checks.h"
#include "cinnabar/project/document/json_text.h"

namespace cinnabar {
namespace {

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
  if (list == "products") {
    std::set<std::string> own;
    inner("features", own);
    for (const std::string& f : own) ids.features.insert(id + "/" + f);
  }
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
  const auto shortest = o.number("shortest", seconds_range), longest = o.number("longest", some_seconds);
  if (shortest && longest && *shortest > *longest)
    o.fault("longest", "is under shortest", "give shortest <= longest");
  o.number("loudness", Range{-70.0, 0.0});
}

/// A list of texts.
void texts(const Object& o, const std::string& key, const std::string& example) {
  const Json* found = o.member(key, false, "");
  if (!found) return;
  bool good = found->is_array();
  if (good)
    for (const Json& text : *found) good = good && text.is_string();
  if (!good) o.fault(key, "is no list of texts", "write [\"" + example + "\"]");
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
  check_house_rules(o);
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
    if (const auto peak = needs->object("peak")) {
      const auto light = peak->text("light", true);
      const auto lights = ids.setup_lights.find(setup_id);
      if (light && lights != ids.setup_lights.end() && !lights->second.contains(*light))
        peak->fault("light", "names \"" + *light + "\", no light of this set-up", "name one of its lights");
    }
    if (const Json* features = needs->member("features", false, "")) {
      bool good = features->is_array();
      if (good)
        for (const Json& f : *features)
          good = good && f.is_string() && ids.features.contains(f.get<std::string>());
      if (!good)
        needs->fault("features", "names a feature that no product has",
                     "give a list of \"product/feature\" by their ids");
    }
    needs->number("slow", Range{0.0, 1e6, true, false});
    needs->number("length", some_seconds);
    needs->flag("loop");
  }
  o.one_of("role", {"hero", "detail", "action", "ending"});
  o.text("sound");
  o.number("reset_minutes", Range{0.0, 1e5});
  o.number("hands", Range{1.0, 100.0, false, false, true});
  o.list("uses", [&](const Object& use) {
    if (!use.is_object()) return;
    reference(use, "consumable", ids, "kit/consumables", true);
    use.number("amount", Range{0.0, 1e9});
  });
  o.number("crop_share", Range{0.0, 1.0, true, false});
  o.number("takes_planned", Range{0.0, 1e5, false, false, true});
  o.number("keepers_wanted", Range{0.0, 1e5, false, false, true});
  o.text("notes"), o.text("move");
  if (const auto sketch = o.object("sketch")) {
    sketch->flag("instead");
    const Json* strokes = sketch->member("strokes", false, "");
    const Range on_paper{-1.0, 2.0};
    std::size_t points = 0;
    bool good = !strokes || (strokes->is_array() && strokes->size() <= 5000);
    if (strokes && good)
      for (const Json& stroke : *strokes) {
        good = good && stroke.is_array();
        for (const Json& p : good ? stroke : Json::array())
          good = good && ++points <= 100000 && p.is_array() && p.size() == 2 && p[0].is_number() &&
                 p[1].is_number() && on_paper.contains(p[0].get<double>()) &&
                 on_paper.contains(p[1].get<double>());
      }
    if (!good)
      sketch->fault("strokes", "are no pen strokes",
                    "give lists of [x, y], shares of the frame from its top left");
  }
  texts(o, "plates", "clean plate");
}

void take(const Object& o, const Ids& ids) {
  reference(o, "shot", ids, "shots", true);
  o.number("number", Range{1.0, 1e6, false, false, true});
  o.text("at");
  o.flag("kept");
  o.text("notes");
  texts(o, "reasons", "label late");
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
  o.number("breaker_amps", Range{0.1, 1000.0});
  o.number("cuts_on_beats", share);
  o.number("latitude", Range{-90.0, 90.0});
  o.number("longitude", Range{-180.0, 180.0});
  if (const auto limits = o.object("limits")) limits->number("iso", iso_range);
  if (const auto means = o.object("means")) {
    means->number("budget", Range{0.0, 1e12});
    for (const char* key : {"room_width", "room_depth", "room_height"}) means->number(key, size_range);
    for (const char* key : {"hands", "circuits"}) means->number(key, Range{0.0, 1000.0, false, false, true});
  }
}

void entity(const std::string& list, const Object& o, const Ids& ids) {
  if (list == "deliverables") deliverable(o);
  if (list == "products") check_product(o, ids);
  if (list.starts_with("kit/")) check_kit_item(list, o, ids);
  if (list == "setups") check_setup(o, ids);
  if (list == "shots") shot(o, ids);
  if (list == "takes") take(o, ids);
}

DocumentFault too_deep(const std::string& path) {
  return {path, fmt::format("is nested more than {} deep", deepest_json), "leave out what is within"};
}
void check_entity(const std::string& list, const Json& item, const std::string& path, const Ids& ids,
                  std::vector<DocumentFault>& faults) {
  if (depth_of(item) > deepest_json - 2)
    faults.push_back(too_deep(path));
  else
    entity(list, Object(item, path, faults), ids);
}

/// Why a blob does not hold what its type says.
std::optional<Error> fault_by_type(const Blob& blob, const std::string& type) {
  static const std::map<std::string, BlobUse> uses{{"model/stl", BlobUse::mesh},
                                                   {"image/png", BlobUse::picture},
                                                   {"application/x-ies", BlobUse::measured_light}};
  const auto use = uses.find(type);
  return use == uses.end() ? std::nullopt : blob_fault(blob, use->second);
}

/// What stands at the top; blobs that can be read are put `into` what references are held against.
void singles(const Object& root, std::map<std::string, std::shared_ptr<const Blob>>& into) {
  const auto format = root.text("format", true);
  if (format && *format != "cinnabar-project")
    root.fault("format", "is \"" + *format + "\"", "give \"cinnabar-project\"");
  const auto version = root.number("version", Range{1.0, 1e6, false, false, true}, true);
  if (version && *version > 1.0)
    root.fault("version", "is newer than this program knows", "open it with a newer Cinnabar");
  if (const auto project = root.object("project", true)) project_single(*project);
  check_house_rules(root);
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
      const auto type = blob->text("type"), data = blob->text("data", true);
      auto bytes = data ? base64_decoded(*data) : std::nullopt;
      if (data && !bytes) blob->fault("data", "is no base64", "encode the bytes as RFC 4648 says");
      if (!bytes) continue;
      auto held = std::make_shared<const Blob>(Blob{Json{{"type", type.value_or("")}}, std::move(*bytes)});
      if (const auto fault = type ? fault_by_type(*held, *type) : std::nullopt)
        blob->fault("data", fault->place + " " + fault->message, fault->mend);
      into[id] = std::move(held);
    }
}

const Names& model_lists() {
  static const Names lists{"deliverables",    "products",      "kit/cameras",  "kit/lenses",
                           "kit/lights",      "kit/supports",  "kit/media",    "kit/batteries",
                           "kit/consumables", "kit/modifiers", "kit/surfaces", "kit/backdrops",
                           "kit/cards",       "setups",        "shots",        "takes"};
  return lists;
}

Ids ids_of(const Document& doc) {
  Ids ids;
  for (const auto& [key, list] : doc.lists)
    if (key != "takes")
      for (const JsonPtr& item : list) note_ids(ids, key, *item);
  ids.blobs = doc.blobs;
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
  if (depth_of(document) > deepest_json) return {too_deep("")};
  const Object root(document, "", faults);
  if (!root.is_object()) return faults;
  Ids ids;
  ids.look_into_blobs = true;
  singles(root, ids.blobs);
  for (const auto& [key, value] : document.items())
    if (key.starts_with("kit/"))
      root.fault(key, "has a name that means a list of the kit", "put the list into \"kit\"");
  const auto kit = root.object("kit");
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
    identified(
        in_kit ? *kit : root, in_kit ? list.substr(4) : list, [&](const Object& item) { entity(list, item, ids); },
        false, list == "takes" ? 1000000 : 100000);
  }
  return faults;
}

EntityCheck::EntityCheck(const Document& document) : ids_(std::make_shared<const Ids>(ids_of(document))) {}

std::vector<DocumentFault> EntityCheck::faults(const std::string& list, const Json& item,
                                               const std::string& path) const {
  std::vector<DocumentFault> faults;
  check_entity(list, item, path, *ids_, faults);
  return faults;
}

std::vector<DocumentFault> validate(const Document& document) { return validate(document.to_json()); }

std::vector<DocumentFault> validate(const Document& after, const Edit& edit) {
  bool references_moved = false, in_singles = false, shots_went = false;
  std::map<std::string, std::unordered_set<std::string_view>> touched;  // by list
  for (const Change& change : edit.changes) {
    const bool is_single = change.list.empty() || change.list == "blobs";
    in_singles = in_singles || is_single;
    if (!is_single && change.id.empty()) return validate(after);  // a whole list came or went
    if (change.before == change.after) continue;
    // A set-up's lights and a camera's modes are named by shots; anything that goes may be named elsewhere.
    references_moved = references_moved || !change.after || change.list == "setups" ||
                       change.list == "kit/cameras" || change.list == "products";
    shots_went = shots_went || (change.list == "shots" && !change.after);
    touched[change.list].insert(change.id);
  }
  std::vector<DocumentFault> faults;
  if (in_singles) {
    Json top = Json::object();
    for (const auto& [key, value] : after.singles)
      if (!key.starts_with("kit/")) top[key] = *value;
    if (depth_of(top) > deepest_json - 1) return {too_deep("")};
    const Object root(top, "", faults);
    std::map<std::string, std::shared_ptr<const Blob>> none;
    singles(root, none);
    for (const auto& id : touched["blobs"]) {
      const auto blob = after.blobs.find(std::string(id));
      if (blob == after.blobs.end()) continue;
      const Json& type = blob->second->fields.value("type", Json());
      if (const auto fault = type.is_string() ? fault_by_type(*blob->second, type) : std::nullopt)
        faults.push_back(
            {"/blobs/" + escaped(std::string(id)) + "/data", fault->place + " " + fault->message, fault->mend});
    }
    if (top.contains("kit") && !top["kit"].is_object()) root.fault("kit", "is no object", "write { ... }");
    for (const std::string& list : model_lists())
      if (after.singles.contains(list))
        root.fault(list, "is no list of entities with ids", "write [{\"id\": ...}]");
  }
  const Ids ids = ids_of(after);
  for (const auto& [key, list] : after.lists) {
    const bool all = references_moved && (key != "takes" || shots_went);
    const auto& own = touched[key];
    if (!all && own.empty()) continue;
    std::unordered_set<std::string_view> seen;
    seen.reserve(list.size());
    for (std::size_t i = 0; i < list.size(); ++i) {
      const std::string& id = list[i]->at("id").get_ref<const std::string&>();
      const auto path = [i, &list_key = key] { return fmt::format("/{}/{}", list_key, i); };
      if (!seen.insert(id).second)
        faults.push_back({path() + "/id", "\"" + id + "\" is used twice in this list", "give each its own"});
      if (all || own.contains(id)) check_entity(key, *list[i], path(), ids, faults);
    }
  }
  return faults;
}

Expected<Edit> changed(const Document& before, const Values& values, std::string title) {
  const auto after = with_values(before, values);
  if (!after) return tl::unexpected(after.error());
  Edit edit = edit_between(before, *after, std::move(title));
  for (const DocumentFault& f : validate(*after, edit)) return fail(f.path, f.message, f.mend);
  return edit;
}

}  // namespace cinnabar
