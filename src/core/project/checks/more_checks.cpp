// What rows of fields cannot say: one member against another, outlines, strokes, what others of a list are.
#include <algorithm>
#include <map>

#include "cinnabar/effects/kinds.h"
#include "cinnabar/project/checks/checks.h"
#include "cinnabar/project/model/track_target.h"

namespace cinnabar {
namespace {

/// [radius, height], and optionally half the depth and the shift to the right.
bool is_profile_point(const Json& p) {
  if (!p.is_array() || p.size() < 2 || p.size() > 4) return false;
  for (const Json& number : p)
    if (!number.is_number()) return false;
  return thickness_range.contains(p[0].get<double>()) && place_range.contains(p[1].get<double>()) &&
         (p.size() < 3 || thickness_range.contains(p[2].get<double>())) &&
         (p.size() < 4 || place_range.contains(p[3].get<double>()));
}
void check_profile(const Object& part, const Json& profile) {
  bool good = profile.is_array() && profile.size() >= 2 && profile.size() <= 2000;
  double widest = 0.0;
  if (good)
    for (const Json& p : profile) {
      good = good && is_profile_point(p);
      if (good) widest = std::max(widest, p[0].get<double>());
    }
  if (!good || widest <= 0.0)
    part.fault("profile", "is no outline",
               "give 2 to 2000 of [radius >= 0, height] or [half width, height, half depth, shift] from bottom to "
               "top, one radius over 0");
}

void more_of_part(const Object& o, const Ids&) {
  const Json* mesh = o.member("mesh", false, "");
  const Json* profile =
      o.member("profile", !mesh || !mesh->is_string(), "[[radius, height], ...] from bottom to top, or a mesh");
  if (profile) check_profile(o, *profile);
}

/// The number there, where it is one.
std::optional<double> given(const Object& o, const char* key) {
  const auto found = o.value().find(key);
  return found != o.value().end() && found->is_number() ? std::optional(found->get<double>()) : std::nullopt;
}
std::optional<std::string> named(const Object& o, const char* key) {
  const auto found = o.value().find(key);
  return found != o.value().end() && found->is_string() ? std::optional(found->get<std::string>()) : std::nullopt;
}
void ordered(const Object& o, const char* low, const char* high) {
  const auto a = given(o, low), b = given(o, high);
  if (a && b && *a > *b) o.fault(high, std::string("is under ") + low, std::string("give ") + low + " <= " + high);
}

void more_of_product(const Object& o, const Ids&) {
  const auto label = o.again("label");
  if (!label) return;
  std::set<std::string> parts;
  o.each_again("parts", [&](const Object& part) { parts.insert(part.id()); });
  const auto part = named(*label, "part");
  if (part && !parts.contains(*part))
    label->fault("part", "names \"" + *part + "\", no part of this product", "name one of its parts");
  const auto low = given(*label, "low"), high = given(*label, "high");
  if (low && high && *low >= *high) label->fault("high", "is not above low", "give low < high, in metres");
}

void more_of_camera_body(const Object& o, const Ids&) {
  ordered(o, "iso_low", "iso_high");
  const Json* noise = o.member("measured_noise", false, "");
  if (!noise) return;
  bool good = noise->is_array() && noise->size() <= 100;
  double last = 0;
  for (const Json& row : good ? *noise : Json::array()) {
    good = good && row.is_array() && row.size() == 2 && row[0].is_number() && row[1].is_number() &&
           iso_range.contains(row[0].get<double>()) && row[0].get<double>() > last && row[1].get<double>() > 0.0 &&
           row[1].get<double>() <= 1e6;
    if (good) last = row[0].get<double>();
  }
  if (!good)
    o.fault("measured_noise", "is no measured noise",
            "give [[ISO, electrons], ...] with rising ISO, electrons > 0");
}
void more_of_lens(const Object& o, const Ids&) {
  ordered(o, "focal_low", "focal_high");
  ordered(o, "f_number_low", "f_number_high");
}
void more_of_light_kit(const Object& o, const Ids&) { ordered(o, "kelvin_low", "kelvin_high"); }
void more_of_support(const Object& o, const Ids&) { ordered(o, "rpm_low", "rpm_high"); }
void more_of_deliverable(const Object& o, const Ids&) { ordered(o, "shortest", "longest"); }

/// A lamp behind its lens stands within the focal length: farther, its light would cross before it comes out.
void check_front(const Object& front) {
  const auto focal = given(front, "focal"), distance = given(front, "distance");
  if (named(front, "kind") == "lens" && focal && distance && *distance > *focal)
    front.fault("distance", "is more than the lens's focal length",
                fmt::format("give at most {} m", number_text(*focal)));
}
void more_of_light(const Object& o, const Ids&) {
  const auto gel = given(o, "gel_mired"), kelvin = given(o, "kelvin");
  if (gel && kelvin && 1e6 / *kelvin + *gel <= 0.0)
    o.fault("gel_mired", "shifts this light beyond any white", "give more than minus 10^6 / kelvin");
  const auto shape = named(o, "shape");
  if (o.member("doors", false, "") && (shape == "tube" || shape == "bare"))
    o.fault("doors", "hang on a " + *shape + ", which has no frame for them",
            "leave them out, or make the light a rectangle or a disc");
  const auto front = o.again("front");
  if (!front) return;
  const std::string kind = named(*front, "kind").value_or("");
  const bool any_face = kind == "cloth" || kind == "beads";
  if (shape && *shape != "disc" && !(any_face && *shape == "rectangle"))
    o.fault("front", "stands before a " + *shape + ", whose face it does not fit",
            any_face ? "leave it out, or make the light a rectangle or a disc"
                     : "leave it out, or make the light a disc: a lens, a tube and a gate are round");
  check_front(*front);
}
void more_of_modifier(const Object& o, const Ids&) {
  const auto shape = named(o, "shape");
  if (shape == "tube")
    o.fault("shape", "is a tube, which no lamp is made by what stands before it", "give rectangle, disc or bare");
  const auto front = o.again("front");
  if (front && shape == "bare")
    o.fault("front", "stands before a ball, whose face it does not fit",
            "leave it out, or make the modifier a rectangle or a disc");
  if (front) check_front(*front);
}
void more_of_surface(const Object& o, const Ids&) {
  const auto sheet = o.again("sheet");
  const auto material = sheet ? sheet->again("material") : std::nullopt;
  const auto kind = material ? named(*material, "kind") : std::nullopt;
  // A kind that is none was told before.
  if (kind && std::find(material_names().begin(), material_names().end(), *kind) != material_names().end())
    material->one_of("kind", {"glass", "frosted", "liquid"});
}

void more_of_room(const Object& o, const Ids&) {
  const Json* windows = o.member("windows", false, "");
  if (!windows || !windows->is_array() || windows->empty()) return;
  for (const char* key : {"width", "depth", "height"})
    if (!given(o, key)) {
      o.fault("windows", "have no walls to be in", "give the room's width, depth and height");
      break;
    }
}

void more_of_shot_camera(const Object& o, const Ids& ids) {
  const auto mode = named(o, "mode"), body = named(o, "camera");
  if (mode && body) {
    const auto modes = ids.modes.find(*body);
    if (ids.has("kit/cameras", *body) && (modes == ids.modes.end() || !modes->second.contains(*mode)))
      o.fault("mode", "names \"" + *mode + "\", no mode of " + *body, "name one of that camera's modes");
  }
  const auto focal = given(o, "focal"), focus = given(o, "focus");
  if (focal && focus && *focus <= *focal)
    o.fault("focus", "is no farther than the focal length",
            fmt::format("give more than {} m", number_text(*focal)));
}

void more_of_sketch(const Object& o, const Ids&) {
  const Json* strokes = o.member("strokes", false, "");
  const Range on_paper{-1.0, 2.0};
  std::size_t points = 0;
  bool good = !strokes || (strokes->is_array() && strokes->size() <= 5000);
  if (strokes && good)
    for (const Json& stroke : *strokes) {
      good = good && stroke.is_array();
      for (const Json& p : good ? stroke : Json::array())
        good = good && ++points <= 100000 && p.is_array() && p.size() == 2 && p[0].is_number() &&
               p[1].is_number() && on_paper.contains(p[0].get<double>()) && on_paper.contains(p[1].get<double>());
    }
  if (!good)
    o.fault("strokes", "are no pen strokes", "give lists of [x, y], shares of the frame from its top left");
}

/// Keys of places: [second, [three numbers]], the seconds rising.
bool places_rise(const Json* keys, const Range& range) {
  if (!keys || !keys->is_array() || keys->size() > 10000) return false;
  double last = -1e300;
  for (const Json& key : *keys) {
    if (!key.is_array() || key.size() != 2 || !key[0].is_number() || !key[1].is_array() || key[1].size() != 3)
      return false;
    for (const Json& n : key[1])
      if (!n.is_number() || !range.contains(n.get<double>())) return false;
    const double second = key[0].get<double>();
    if (!(std::abs(second) <= 1e6 && second > last)) return false;
    last = second;
  }
  return true;
}

/// A track's keys as its target wants them.
void check_keys(const Object& t, const TrackTarget& target) {
  const TrackKind& kind = *target.kind;
  if (!kind.places) return t.rising("keys", kind.range, true);
  const bool crop = kind.is == Tracked::crop;
  const std::string wanted = std::string("[[set second, ") + (crop ? "[left, top, width]" : "[x, y, z]") +
                             "], ...] with rising seconds, numbers " + kind.range.text();
  const Json* keys = t.member("keys", true, wanted);
  if (!keys) return;
  if (!places_rise(keys, kind.range)) return t.fault("keys", "is not what is wanted", "give " + wanted);
  for (const Json& key : *keys)
    if (crop && (key[1][2].get<double>() < 0.01 || key[1][0].get<double>() + key[1][2].get<double>() > 1.0 + 1e-9))
      return t.fault("keys", "crops what was not recorded",
                     "give left + width of at most 1, and a width of at least 0.01");
}

/// An effect's measures are in the ranges of its own kind.
void more_of_effect(const Object& o, const Ids&) {
  const auto name = named(o, "kind");
  const EffectKind* kind = name ? effect_kind(*name) : nullptr;
  if (!kind) return;
  for (const EffectMeasure& m : kind->measures) {
    const Json* value = o.member(m.key, false, "");
    if (!value) continue;
    if (m.list != value->is_array()) {
      o.fault(m.key, m.list ? "is no list" : "is a list", m.list ? "give a list of numbers" : "give one number");
      continue;
    }
    for (const Json& one : m.list ? *value : Json(std::vector<Json>{*value}))
      if (!one.is_number() || !m.range.contains(one.get<double>())) {
        o.fault(m.key, "is out of the range of a " + kind->id, "give " + m.range.text());
        break;
      }
  }
}

/// Tracks and needs name what is in the shot and in its own set-up.
/// A variation is of another, and comes to an end.
void more_of_setup(const Object& o, const Ids& ids) {
  std::set<std::string> seen;
  auto of = ids.setups_of.find(o.id());
  while (of != ids.setups_of.end() && seen.insert(of->first).second) of = ids.setups_of.find(of->second);
  if (of != ids.setups_of.end() && of->first == o.id())
    o.fault("of", "leads back to this set-up", "name another set-up, or leave it out");
}

void more_of_shot(const Object& o, const Ids& ids) {
  const std::string setup = named(o, "setup").value_or("");
  const auto among = [&setup](const std::map<std::string, std::set<std::string>>& of, const std::string& id) {
    const auto things = of.find(setup);
    return things != of.end() && things->second.contains(id);
  };
  std::set<std::string> targets, products;
  o.each_again("products", [&](const Object& p) { products.insert(named(p, "product").value_or("")); });
  o.each_again("tracks", [&](const Object& t) {
    const auto text = named(t, "target");
    const auto target = text ? read_target(*text) : std::nullopt;
    if (const Json* keys = t.member("keys", !target, "a list of keys");
        !target && keys && !places_rise(keys, angle_range))
      t.rising("keys", angle_range, true);
    if (target) check_keys(t, *target);
    if (!text) return;
    const std::string_view of = target ? target->kind->of : std::string_view();
    if (!target)
      t.fault("target", "is \"" + *text + "\", which is nothing that moves here", "give " + all_targets());
    else if ((of == "light" && !among(ids.setup_lights, target->id)) ||
             (of == "card" && !among(ids.setup_cards, target->id)) ||
             (of == "product" && !products.contains(target->id)))
      t.fault("target", "names \"" + target->id + "\", which is nothing that moves here",
              std::string("name a ") + std::string(of) + (of == "product" ? " of this shot" : " of its set-up"));
    if (!targets.insert(*text).second) t.fault("target", "has two tracks in this shot", "put all its keys in one");
  });
  // What falls is worked out piece by piece at every look.
  constexpr double most_effects = 100, most_pieces = 2000;
  double effects = 0, pieces = 0;
  o.each_again("effects", [&](const Object& e) {
    ++effects;
    if (const auto count = given(e, "pieces")) pieces += *count * given(e, "throws").value_or(1.0);
  });
  if (effects > most_effects || pieces > most_pieces)
    o.fault("effects", "are too many",
            fmt::format("give at most {:g} effects a shot, and {:g} pieces in all of them", most_effects,
                        most_pieces));
  const auto lights = ids.setup_lights.find(setup);
  const auto needs = o.again("needs");
  if (!needs) return;
  if (const auto peak = needs->again("peak"))
    if (const auto light = named(*peak, "light");
        light && lights != ids.setup_lights.end() && !among(ids.setup_lights, *light))
      peak->fault("light", "names \"" + *light + "\", no light of this set-up", "name one of its lights");
  if (const Json* features = needs->member("features", false, "")) {
    bool good = features->is_array();
    for (const Json& f : good ? *features : Json::array())
      good = good && f.is_string() && ids.features.contains(f.get<std::string>());
    if (!good)
      needs->fault("features", "names a feature that no product has",
                   "give a list of \"product/feature\" by their ids");
  }
}

void more_of_project(const Object& o, const Ids&) {
  if (const auto name = named(o, "name"); name && trimmed(*name).empty())
    o.fault("name", "is empty", "name the spot");
}

}  // namespace

More more_of(const Fields& fields) {
  static const std::map<const Fields*, More> all{{&project_fields(), more_of_project},
                                                 {fields_of("deliverables"), more_of_deliverable},
                                                 {&product_fields(), more_of_product},
                                                 {&effect_fields(), more_of_effect},
                                                 {product_fields().field("parts")->inner, more_of_part},
                                                 {fields_of("kit/cameras"), more_of_camera_body},
                                                 {fields_of("kit/lenses"), more_of_lens},
                                                 {fields_of("kit/lights"), more_of_light_kit},
                                                 {fields_of("kit/supports"), more_of_support},
                                                 {setup_fields().field("lights")->inner, more_of_light},
                                                 {fields_of("kit/modifiers"), more_of_modifier},
                                                 {&surface_fields(), more_of_surface},
                                                 {&room_fields(), more_of_room},
                                                 {&shot_camera_fields(), more_of_shot_camera},
                                                 {shot_fields().field("sketch")->inner, more_of_sketch},
                                                 {&setup_fields(), more_of_setup},
                                                 {&shot_fields(), more_of_shot}};
  const auto found = all.find(&fields);
  return found == all.end() ? nullptr : found->second;
}

}  // namespace cinnabar
