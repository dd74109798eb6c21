// Checks of what is owned and what stands on the floor: products, kit, set-ups.
#include "cinnabar/project/checks/checks.h"

namespace cinnabar {

void check_material(const std::optional<Object>& m) {
  if (!m) return;
  m->one_of("kind", material_kinds, true);
  m->numbers("colour", 3, share);
  m->number("roughness", share);
  m->number("ior", Range{1.0, 4.0});
  m->numbers("absorption", 3, Range{0.0, 1e6});
  m->number("transmittance", share);
}

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

}  // namespace

void check_product(const Object& o, const Ids& ids) {
  o.text("name");
  o.number("mass", Range{0.0, 1e6});
  std::set<std::string> parts;
  identified(o, "parts", [&](const Object& part) {
    parts.insert(part.id());
    const auto mesh = blob_reference(part, "mesh", ids, BlobUse::mesh, "give a profile");
    const Json* profile = part.member("profile", !mesh, "[[radius, height], ...] from bottom to top, or a mesh");
    if (profile) check_profile(part, *profile);
    part.one_of("section", {"round", "box"});
    part.number("corner", thickness_range);
    part.number("wall", thickness_range);
    check_material(part.object("material"));
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
    blob_reference(*label, "picture", ids, BlobUse::picture, "leave it out");
    check_material(label->object("material"));
  }
  identified(o, "features", [&](const Object& feature) {
    feature.text("name");
    feature.numbers("at", 3, place_range, true);
    feature.number("detail", size_range);
    feature.flag("read");
  });
}

namespace {

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
  if (const Json* noise = o.member("measured_noise", false, "")) {
    bool good = noise->is_array() && noise->size() <= 100;
    double last = 0;
    for (const Json& row : good ? *noise : Json::array()) {
      good = good && row.is_array() && row.size() == 2 && row[0].is_number() && row[1].is_number() &&
             iso_range.contains(row[0].get<double>()) && row[0].get<double>() > last &&
             row[1].get<double>() > 0.0 && row[1].get<double>() <= 1e6;
      if (good) last = row[0].get<double>();
    }
    if (!good)
      o.fault("measured_noise", "is no measured noise",
              "give [[ISO, electrons], ...] with rising ISO, electrons > 0");
  }
  o.number("full_well_e", Range{0.0, 1e9, true, false});
  o.number("watts", Range{0.0, 1e6});
}

void ordered_pair(const Object& o, const std::string& low, const std::string& high, const Range& range,
                  bool required) {
  const auto a = o.number(low, range, required), b = o.number(high, range, required);
  if (a && b && *a > *b) o.fault(high, "is under " + low, "give " + low + " <= " + high);
}

}  // namespace

void check_kit_item(const std::string& list, const Object& o, const Ids& ids) {
  o.flag("owned"), o.flag("hired");
  o.number("count", Range{0.0, 1e6, false, false, true});
  o.number("price", Range{0.0, 1e9});
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
    o.flag("hot");
    o.number("candela", lumens_range);
    o.number("beam_deg", Range{0.0, 180.0, true, true});
    if (const auto lux = o.object("lux")) {
      lux->number("illuminance_lx", lumens_range, true);
      lux->number("distance", size_range, true);
    }
    blob_reference(o, "ies", ids, BlobUse::measured_light, "leave it out");
  }
  if (list == "kit/supports") {
    o.text("kind");
    o.number("load", Range{0.0, 1e6});
    o.number("reach", size_range);
    for (const char* key : {"travel", "speed", "acceleration"}) o.number(key, Range{0.0, 1e6, true, false});
    ordered_pair(o, "rpm_low", "rpm_high", Range{0.0, 1e5}, false);
  }
  if (list == "kit/media") o.number("gigabytes", Range{0.0, 1e9});
  if (list == "kit/batteries") o.number("watt_hours", Range{0.0, 1e9}), o.number("usable", share);
  if (list == "kit/modifiers") {
    o.text("name");
    const auto shape = o.one_of("shape", {"rectangle", "disc"});
    o.number("width", size_range, shape == "rectangle");
    o.number("height", size_range, shape == "rectangle");
    o.number("radius", size_range, shape == "disc");
    o.number("transmittance", share);
    o.number("grid_deg", Range{0.0, 180.0, true, true});
    o.flag("doors");
  }
  if (list == "kit/cards" || list == "kit/surfaces" || list == "kit/backdrops") {
    o.text("name");
    o.number("width", size_range, true);
    o.number(list == "kit/surfaces" ? "depth" : "height", size_range, true);
    check_material(o.object("material"));
  }
  if (list == "kit/consumables") {
    o.text("name"), o.text("unit");
    o.number("stock", Range{0.0, 1e9});
    o.number("shelf_minutes", Range{0.0, 1e7, true, false});
  }
}

namespace {

void light(const Object& o, const Ids& ids) {
  o.text("name");
  reference(o, "kit", ids, "kit/lights");
  reference(o, "modifier", ids, "kit/modifiers");
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
  if (const auto doors = o.object("doors")) {
    if (shape && shape != "rectangle" && shape != "disc")
      o.fault("doors", "hang on a " + *shape + ", which has no frame for them",
              "leave them out, or make the light a rectangle or a disc");
    doors->number("length", size_range, true);
    for (const char* side : {"top_deg", "bottom_deg", "left_deg", "right_deg"})
      doors->number(side, Range{-80.0, 90.0});
  }
  o.one_of("meant_for", {"product", "backdrop"});
}

}  // namespace

void check_house_rules(const Object& o) {
  if (const auto rules = o.object("house_rules"); rules && rules->is_object())
    for (const auto& [key, values] : house_rule_values()) rules->one_of(key, values);
}

void check_setup(const Object& o, const Ids& ids) {
  o.text("name");
  check_house_rules(o);
  if (const auto surface = o.object("surface")) {
    reference(*surface, "kit", ids, "kit/surfaces");
    surface->number("width", size_range, true);
    surface->number("depth", size_range, true);
    check_material(surface->object("material"));
    if (const auto sheet = surface->object("sheet")) {
      sheet->number("thickness", Range{0.0, 0.5, true, false}, true);
      const auto kind = sheet->object("material");
      check_material(kind);
      if (kind) kind->one_of("kind", {"glass", "frosted", "liquid"});
    }
  }
  if (const auto backdrop = o.object("backdrop")) {
    reference(*backdrop, "kit", ids, "kit/backdrops");
    const auto kind = backdrop->one_of("kind", {"none", "flat", "sweep"}, true);
    const bool stands = kind && *kind != "none";
    backdrop->number("distance", place_range, stands);
    backdrop->number("width", size_range, stands);
    backdrop->number("height", size_range, stands);
    backdrop->number("low", place_range);
    backdrop->number("tilt_deg", Range{-89.0, 89.0});
    backdrop->number("radius", thickness_range);
    check_material(backdrop->object("material"));
  }
  if (const auto ambient = o.object("ambient")) {
    ambient->number("illuminance_lx", Range{0.0, 1e6});
    ambient->number("kelvin", kelvin_range);
  }
  identified(o, "lights", [&](const Object& item) { light(item, ids); });
  identified(o, "cards", [&](const Object& card) {
    card.text("name");
    reference(card, "kit", ids, "kit/cards");
    card.numbers("place", 3, place_range, true);
    card.numbers("aim", 3, place_range, true);
    card.number("roll_deg", angle_range);
    card.number("width", size_range, true);
    card.number("height", size_range, true);
    check_material(card.object("material"));
  });
}

}  // namespace cinnabar
