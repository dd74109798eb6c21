// Knobs that switch, add, re-aim, flag, soften or swap lights.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levers/bench.h"
#include "cinnabar/planning/set_looks.h"
#include "cinnabar/project/making/new_shot.h"

namespace cinnabar {
std::vector<const LightKit*> owned_lamps(const Project& p) {
  std::vector<const LightKit*> list;
  for (const auto& kit : p.light_kits)
    if (kit->holding.owned)
      for (int k = 0; k < static_cast<int>(std::clamp(kit->holding.count, 0.0, 12.0)); ++k)
        list.push_back(kit.get());
  std::stable_sort(list.begin(), list.end(), [](const LightKit* a, const LightKit* b) {
    return (a->output ? a->output->lumens : 0.0) > (b->output ? b->output->lumens : 0.0);
  });
  return list;
}

std::vector<const LightKit*> spare_lamps(const Bench& b) {
  std::vector<const LightKit*> list = owned_lamps(b.project);
  for (const Light& l : b.setup->lights)
    if (const auto used =
            std::find_if(list.begin(), list.end(), [&](const LightKit* k) { return k->id == l.kit; });
        used != list.end())
      list.erase(used);
  return list;
}

Json lamp_json(const Bench& b, const LightKit& kit, const Vec3& place, const Vec3& aim, const Json& more) {
  Json light{{"name", name_or(kit.name, kit.id)},
             {"kit", kit.id},
             {"on", true},
             {"place", point(place)},
             {"aim", point(aim)},
             {"shape", "rectangle"},
             {"width", 0.4},
             {"height", 0.4},
             {"transmittance", 0.7},
             {"kelvin", std::clamp(b.camera.balance_k, kit.kelvin_low, kit.kelvin_high)}};
  light.update(more);
  return light;
}

Json plain_window(const Vec3& place, const Vec3& aim, double width) {
  const double height = 1.2 * width;
  return {{"id", "window"},        {"name", "Window"},
          {"daylight", true},      {"meant_for", "product"},
          {"place", point(place)}, {"aim", point(aim)},
          {"shape", "rectangle"},  {"width", width},
          {"height", height},      {"lumens", std::round(2000.0 * std::numbers::pi * width * height)},
          {"kelvin", 5600}};
}

Maybe with_more(const Bench& b, const Document& d, const std::string& list, const std::string& id, Json thing) {
  const auto known = value_at(d, b.setup_path + "/" + list);
  Json things = known && known->is_array() ? *known : Json::array();
  thing["id"] = id_beside(things, id);
  things.push_back(std::move(thing));
  return set(d, b.setup_path + "/" + list, things);
}

namespace {

/// Shares of a light's power in thirds of a stop, as its dimmer is set.
std::vector<double> dimmer_shares() {
  std::vector<double> shares;
  for (int third = 21; third >= 0; --third) shares.push_back(std::round(1e3 * std::exp2(-third / 3.0)) / 1e3);
  return shares;
}
std::string percent_of(double part) { return number_text(100.0 * part, 3); }

bool dimmed_in_time(const Bench& b, const Light& light) { return b.shot.track(Tracked::light_dimmer, light.id); }

/// Lights of the kit of which the set-up does not use all.
std::vector<const LightKit*> spare_lights(const Bench& b) {
  std::vector<const LightKit*> spare;
  for (const auto& kit : b.project.light_kits) {
    const auto used = std::count_if(b.setup->lights.begin(), b.setup->lights.end(),
                                    [&](const Light& l) { return l.kit == kit->id; });
    if (kit->holding.owned && kit->lumens && static_cast<double>(used) < kit->holding.count)
      spare.push_back(kit.get());
  }
  return spare;
}

/// A light of the kit set up with a small softbox, as bright as its dimmer lets it.
Knob added_light_knob(const Bench& b, const LightKit& kit, const Vec3& place, const Vec3& aim,
                      const std::string& meant_for, const std::string& where) {
  const std::string name = name_or(kit.name, kit.id);
  Json light = lamp_json(b, kit, place, aim, {{"meant_for", meant_for}});
  return {dimmer_shares(),
          0.0,
          [&b, light, meant_for](const Document& d, double part) {
            Json one = light;
            one["dimmer"] = part;
            return with_more(b, d, "lights", meant_for == "backdrop" ? "ground" : "fill", std::move(one));
          },
          [name, where](double part) { return said("Set up {} {}, at {} %", name, where, percent_of(part)); },
          4,
          "",
          true};
}

/// The lights that give most at a point, at most six: with twenty of them nobody tries each.
std::vector<std::size_t> leading_lights(const Bench& b, const Vec3& at) {
  std::vector<std::pair<double, std::size_t>> by_light;
  for (std::size_t l = 0; b.setup && l < b.setup->own_lights(); ++l) {
    const Light& light = b.setup->lights[l];
    if (!light.on || light.daylight) continue;
    const double far = std::max(0.01, length(light.place - at));
    by_light.emplace_back(-light.candela() / (far * far), l);
  }
  std::sort(by_light.begin(), by_light.end());
  std::vector<std::size_t> list;
  for (std::size_t i = 0; i < std::min<std::size_t>(6, by_light.size()); ++i) list.push_back(by_light[i].second);
  return list;
}

/// Where the camera's axis meets the backdrop, or the backdrop's middle.
Vec3 backdrop_seen(const Bench& b) {
  const Vec3 along = b.camera.aim - b.camera.place;
  const double z = -b.setup->backdrop.distance;
  if (along.z < -1e-6) {
    const Vec3 at = b.camera.place + along * ((z - b.camera.place.z) / along.z);
    if (std::abs(at.x) < b.setup->backdrop.width / 2)
      return {at.x, std::clamp(at.y, b.setup->backdrop.low, b.setup->backdrop.low + b.setup->backdrop.height), z};
  }
  return {0.0, b.setup->backdrop.low + b.setup->backdrop.height / 2, z};
}

/// A black flag in a light's way to a point, its edge moved across the line.
Knob flag_knob(const Bench& b, std::size_t l, const Vec3& target, const std::string& what) {
  const Light& light = b.setup->lights[l];
  const Vec3 to = target - light.place, product = product_place(b.shot) - light.place;
  const Vec3 ahead = unit(to);
  Vec3 away = ahead * dot(product, ahead) - product;  // from the way to the product
  away = length(away) < 1e-3 ? facing(light.place, target).up : unit(away);
  const Vec3 middle = light.place + to * 0.4;
  return scanned({even_steps(-0.3, 0.4, 0.05),
                  2.0,  // from far away inward
                  [&b, middle, away, from = light.place](const Document& d, double v) {
                    const Vec3 at = middle + away * v;
                    return with_more(b, d, "cards", "flag",
                                     {{"name", "Flag"},
                                      {"place", point(at)},
                                      {"aim", point(from)},
                                      {"width", 0.45},
                                      {"height", 0.6},
                                      {"material", sheet_material("black")}});
                  },
                  [&b, l, what](double v) {
                    return said("Stand a flag, 0.45 by 0.6 m, in {}'s way to {}, {} beside the line",
                                b.setup->lights[l].name, what, b.len(std::abs(v)));
                  },
                  2, "black flag", true});
}

}  // namespace

void switch_on_knobs(const Bench& b, std::vector<Knob>& list) {
  for (std::size_t l = 0; b.setup && l < b.setup->own_lights(); ++l) {
    const Light& light = b.setup->lights[l];
    if ((light.on && light.dimmer > 0.0) || dimmed_in_time(b, light)) continue;
    list.push_back(
        {dimmer_shares(), 0.0,
         [&b, l](const Document& d, double part) {
           return set(set(d, b.light_path(l) + "/on", true), b.light_path(l) + "/dimmer", part);
         },
         [&b, l](double part) { return said("Switch {} on, at {} %", b.setup->lights[l].name, percent_of(part)); },
         0.5, "", true});
  }
}

void switch_off_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup) return;
  const auto& windows = b.setup->room.windows;
  if (std::any_of(windows.begin(), windows.end(), [](const RoomWindow& w) { return w.on; }))
    list.push_back({{0.0},
                    1.0,
                    [&b](const Document& d, double) {
                      Maybe next = d;
                      for (std::size_t w = 0; w < b.setup->room.windows.size(); ++w)
                        next = set(next, fmt::format("{}/room/windows/{}/on", b.setup_path, w), false);
                      return next;
                    },
                    [](double) { return said("Black out the windows"); },
                    2,
                    "black-out cloth",
                    true});
  for (const std::size_t l : leading_lights(b, backdrop_seen(b)))
    list.push_back({{0.0},
                    1.0,
                    [&b, l](const Document& d, double) { return set(d, b.light_path(l) + "/on", false); },
                    [&b, l](double) { return said("Switch {} off", b.setup->lights[l].name); },
                    0.5,
                    "",
                    true});
}

void reaim_light_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup) return;
  for (const std::size_t l : leading_lights(b, backdrop_seen(b))) {
    const Light& light = b.setup->lights[l];
    if (light.shape == LightShape::bare || light.shape == LightShape::tube) continue;
    const Vec3 to = light.aim - light.place, across = facing(light.place, light.aim).right;
    const auto add = [&](const Vec3& axis, double reach, const char* less, const char* more) {
      list.push_back(scanned({even_steps(-reach, reach, 4.0), 0.0,
                              [&b, l, to, axis](const Document& d, double v) {
                                return set(d, b.light_path(l) + "/aim",
                                           point(b.setup->lights[l].place + rotated(to, axis, radians(v))));
                              },
                              [&b, l, less, more](double v) {
                                return said("Turn {} {} degrees {}", b.setup->lights[l].name,
                                            fixed_text(std::abs(v), 0), v < 0 ? less : more);
                              },
                              1, "", true, 1.0}));
    };
    add({0, 1, 0}, 60.0, "to the right", "to the left");
    add(across, 40.0, "down", "up");
  }
}

void carry_round_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup) return;
  for (const std::size_t l : leading_lights(b, product_middle(b))) list.push_back(round_knob(b, l));
}

void flag_for_backdrop_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup || b.setup->backdrop.kind == BackdropKind::none) return;
  for (const std::size_t l : leading_lights(b, backdrop_seen(b)))
    if (b.setup->lights[l].meant_for != MeantFor::backdrop)
      list.push_back(flag_knob(b, l, backdrop_seen(b), said("the backdrop")));
}

void flag_for_product_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup) return;
  for (const std::size_t l : leading_lights(b, product_middle(b)))
    list.push_back(flag_knob(b, l, product_middle(b), said("the product")));
}

void backdrop_lamp_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup || b.setup->backdrop.kind == BackdropKind::none) return;
  const Vec3 seen = backdrop_seen(b);
  const double depth = std::max(0.1, b.camera.place.z - seen.z);
  const double aside =
      std::min(0.5 * b.setup->backdrop.width, 0.5 * b.optics.sensor_width / b.camera.focal * depth);
  for (const LightKit* kit : spare_lights(b))
    for (const double side : {-1.0, 1.0})
      list.push_back(added_light_knob(
          b, *kit, seen + Vec3{side * (aside + 0.5), 0.4, 0.5}, seen, "backdrop",
          side < 0 ? said("left of the backdrop, aimed at it") : said("right of the backdrop, aimed at it")));
}

void even_backdrop_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup || b.setup->backdrop.kind == BackdropKind::none) return;
  const Vec3 seen = backdrop_seen(b);
  // From farther away its light falls off less over the backdrop; it is turned up for the way.
  for (const std::size_t l : leading_lights(b, seen)) {
    const Light& light = b.setup->lights[l];
    if (dimmed_in_time(b, light)) continue;
    const Vec3 from = light.place - light.aim;
    const double now = length(from);
    if (now < 0.05) continue;
    list.push_back(scanned(
        {within({0.5, 0.6, 0.7, 0.8, 0.9, 1.0, 1.2, 1.4, 1.6, 1.8, 2.0, 2.4, 2.8, 3.2}, now * 1.1, 3.2), now,
         [&b, l, from, now](const Document& d, double v) {
           const Light& was = b.setup->lights[l];
           const double more = std::min(1.0, was.dimmer * v * v / (now * now));
           return set(set(d, b.light_path(l) + "/place", point(was.aim + from * (v / now))),
                      b.light_path(l) + "/dimmer", std::round(more * 1e3) / 1e3);
         },
         [&b, l, now](double v) {
           const Light& was = b.setup->lights[l];
           return said("Carry {} back from {} to {} from its aim, at {} %", was.name, b.len(now), b.len(v),
                       percent_of(std::min(1.0, was.dimmer * v * v / (now * now))));
         },
         2, "", true, 0.02}));
  }
  // One from either side, each aimed past the middle, so that the two fall-offs make up for one another.
  const std::vector<const LightKit*> pair = spare_lamps(b);
  if (pair.size() < 2) return;
  const double depth = std::max(0.1, b.camera.place.z - seen.z);
  const double half =
      std::min(0.5 * b.setup->backdrop.width, 0.5 * b.optics.sensor_width / b.camera.focal * depth);
  list.push_back(
      {dimmer_shares(), 0.0,
       [&b, pair, seen, half](const Document& d, double part) {
         Maybe next(d);
         for (const double side : {-1.0, 1.0}) {
           const LightKit& kit = *pair[side < 0 ? 0 : 1];
           const Vec3 place = seen + Vec3{side * (half + 0.7), 0.5, 0.9},
                      aim = seen - Vec3{side * 0.4 * half, 0, 0};
           if (next)
             next = with_more(b, *next, "lights", "ground",
                              lamp_json(b, kit, place, aim, {{"meant_for", "backdrop"}, {"dimmer", part}}));
         }
         return next;
       },
       [pair](double part) {
         return said("Set up {} and {} on either side of the backdrop, aimed past its middle, at {} %",
                     name_or(pair[0]->name, pair[0]->id), name_or(pair[1]->name, pair[1]->id), percent_of(part));
       },
       8, "", true});
}

void fill_lamp_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup || b.setup->lights.empty()) return;
  const Vec3 middle = product_middle(b), eye = b.camera.place - middle,
             lamp = b.setup->lights[b.main_light().value_or(0)].place - middle;
  const double camera = degrees(std::atan2(eye.x, eye.z)), light = degrees(std::atan2(lamp.x, lamp.z));
  const double side = std::remainder(light - camera, 360.0) > 0 ? -60.0 : 60.0;
  for (const LightKit* kit : spare_lights(b))
    list.push_back(added_light_knob(b, *kit, middle + turned({0, 0, 1}, camera + side) * 0.9 + Vec3{0, 0.25, 0},
                                    middle, "product", said("on the dark side, 0.9 m from the product")));
}

void other_lamp_knobs(const Bench& b, std::vector<Knob>& list) {
  for (std::size_t l = 0; b.setup && l < b.setup->own_lights(); ++l) {
    const Light& light = b.setup->lights[l];
    const LightKit* own = by_id(b.project.light_kits, light.kit);
    if (!light.on || light.daylight) continue;
    std::vector<double> steps;
    double current = -1.0;
    for (std::size_t k = 0; k < b.project.light_kits.size(); ++k) {
      const LightKit& kit = *b.project.light_kits[k];
      if (&kit == own) current = static_cast<double>(k);
      if (kit.holding.owned && kit.ripple) steps.push_back(static_cast<double>(k));
    }
    std::erase(steps, current);
    if (steps.empty()) continue;
    list.push_back(scanned({steps, current,
                            [&b, l](const Document& d, double v) {
                              const LightKit& kit = *b.project.light_kits[static_cast<std::size_t>(v)];
                              const Light& was = b.setup->lights[l];
                              Maybe next =
                                  set(set(d, b.light_path(l) + "/kit", kit.id), b.light_path(l) + "/kelvin",
                                      std::clamp(was.kelvin, kit.kelvin_low, kit.kelvin_high));
                              return kit.lumens ? set(next, b.light_path(l) + "/lumens", *kit.lumens) : next;
                            },
                            [&b, l](double v) {
                              const LightKit& kit = *b.project.light_kits[static_cast<std::size_t>(v)];
                              return said("Put {} in the place of {}", kit.name.empty() ? kit.id : kit.name,
                                          b.setup->lights[l].name);
                            },
                            4, "", true}));
  }
}

void diffusion_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup) return;
  for (const std::size_t l : leading_lights(b, product_middle(b))) {
    const Light& light = b.setup->lights[l];
    if (light.distribution || light.shape == LightShape::tube) continue;
    if (light.front && light.front->kind != FrontKind::cloth && light.front->kind != FrontKind::beads) continue;
    const double size =
        light.shape == LightShape::rectangle ? std::max(light.width, light.height) : 2 * light.radius;
    const auto steps = within({0.3, 0.4, 0.5, 0.6, 0.8, 1.0, 1.2, 1.5, 2.0}, std::max(0.3, size * 1.05), 2.0);
    if (steps.empty()) continue;
    list.push_back(
        {steps, size,
         [&b, l](const Document& d, double v) {
           const Light& was = b.setup->lights[l];
           Maybe next = set(set(d, b.light_path(l) + "/shape", "rectangle"), b.light_path(l) + "/transmittance",
                            std::round(500 * was.transmittance) / 1e3);
           return set(set(next, b.light_path(l) + "/width", v), b.light_path(l) + "/height", v);
         },
         [&b, l](double v) {
           return said("Hang diffusion, {} square, before {}; it takes a stop", b.len(v), b.setup->lights[l].name);
         },
         3, "diffusion sheet of that size", true});
  }
}

void card_place_knobs(const Bench& b, std::vector<Knob>& list) {
  for (std::size_t c = 0; b.setup && c < b.setup->cards.size(); ++c) {
    const Card& card = b.setup->cards[c];
    const std::string path = fmt::format("{}/cards/{}", b.setup_path, c);
    const Vec3 middle = product_middle(b), to = card.place - middle;
    const double now = length(to);
    if (now > 0.02)
      list.push_back({even_steps(0.1, std::max(1.5, 2 * now), 0.02), now,
                      [path, middle, to, now](const Document& d, double v) {
                        const Vec3 at = middle + to * (v / now);
                        return at.y < 0.02 ? Maybe() : set(d, path + "/place", point(at));
                      },
                      [&b, now, name = card.name](double v) {
                        return said("Move the card {} from {} to {}", name, b.len(now), b.len(v));
                      },
                      1, "", true, 0.015});
    const Vec3 ahead = card.aim - card.place;
    list.push_back(scanned(
        {even_steps(-60.0, 60.0, 5.0), 0.0,
         [path, &b, c, ahead](const Document& d, double v) {
           return set(d, path + "/aim", point(b.setup->cards[c].place + turned(ahead, v)));
         },
         [name = card.name](double v) { return said("Turn the card {} by {} degrees", name, signed_text(v, 0)); },
         0.5, "", true, 1.0}));
  }
}

void strip_pose_knobs(const Bench& b, std::vector<Knob>& list) {
  for (std::size_t l = 0; b.setup && l < b.setup->own_lights(); ++l) {
    const Light& light = b.setup->lights[l];
    if (!light.on || light.daylight || light.shape == LightShape::disc || light.shape == LightShape::bare)
      continue;
    list.push_back(scanned({even_steps(0.05, 2.0, 0.05), light.place.y,
                            [&b, l](const Document& d, double v) {
                              const Light& was = b.setup->lights[l];
                              return set(set(d, b.light_path(l) + "/place", point({was.place.x, v, was.place.z})),
                                         b.light_path(l) + "/aim",
                                         point({was.aim.x, was.aim.y + v - was.place.y, was.aim.z}));
                            },
                            [&b, l](double v) {
                              const Light& was = b.setup->lights[l];
                              return said("{} {} from {} to {}, its aim with it",
                                          v < was.place.y ? "Lower" : "Raise", was.name, b.len(was.place.y),
                                          b.len(v));
                            },
                            1, "", true, 0.01}));
    list.push_back(scanned(
        {even_steps(-45.0, 45.0, 3.0), light.roll_deg,
         [&b, l](const Document& d, double v) { return set(d, b.light_path(l) + "/roll_deg", v); },
         [&b, l](double v) { return said("Lean {} to {} degrees", b.setup->lights[l].name, fixed_text(v, 0)); }, 1,
         "", true, 0.5}));
  }
}

Knob paid_in_light(const Bench& b, const Knob& knob, const std::function<double(double)>& stops) {
  Knob paid = knob;
  const auto dims = all_dimmers_knob(b);
  const double most = dims && !dims->steps.empty() ? dims->steps.back() : -1.0;
  paid.apply = [turn = knob.apply, stops, dims, most](const Document& d, double v) {
    const double brighter = stops(v);
    if (!dims || brighter > most + 0.05) return Maybe();
    const Maybe next = turn(d, v);
    return next ? dims->apply(*next, brighter) : Maybe();
  };
  paid.title = [title = knob.title, stops](double v) {
    const double brighter = stops(v);
    return said("{}, every light {} by {} stop", title(v), brighter > 0 ? "brighter" : "dimmer",
                fixed_text(std::abs(brighter), 1));
  };
  paid.minutes = knob.minutes + 1;
  paid.shared = true;
  return paid;
}

void iso_for_light_knobs(const Bench& b, std::vector<Knob>& list) {
  if (all_dimmers_knob(b))
    list.push_back(paid_in_light(b, iso_knob(b), [iso = b.camera.iso](double v) { return std::log2(iso / v); }));
}
void aperture_for_light_knobs(const Bench& b, std::vector<Knob>& list) {
  if (all_dimmers_knob(b))
    list.push_back(
        paid_in_light(b, aperture_knob(b), [n = b.camera.f_number](double v) { return 2 * std::log2(v / n); }));
}
void shutter_for_light_knobs(const Bench& b, std::vector<Knob>& list) {
  if (all_dimmers_knob(b))
    list.push_back(
        paid_in_light(b, shutter_knob(b), [t = b.camera.shutter_time](double v) { return std::log2(t / v); }));
}
void iso_for_nearer_knobs(const Bench& b, std::vector<Knob>& list) {
  const auto l = b.main_light();
  if (!l) return;
  const Knob nearer = light_distance_knob(b, *l);
  list.push_back(paid_in_iso(b, nearer, [now = nearer.current](double v) { return 2 * std::log2(v / now); }));
}
void main_light_knobs(const Bench& b, std::vector<Knob>& list) {
  const auto l = b.main_light();
  if (!l) return;
  if (auto k = dimmer_knob(b, *l)) list.push_back(std::move(*k));
}

}  // namespace cinnabar
