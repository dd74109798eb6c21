// Knobs of the lights and the set.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/color/white.h"
#include "cinnabar/forecast/levers/bench.h"

namespace cinnabar {

/// Every light that is on, brighter or dimmer by the same stops.
std::optional<Knob> all_dimmers_knob(const Bench& b) {
  if (!b.setup) return std::nullopt;
  double brightest = 0.0;
  for (const Light& l : b.setup->lights) {
    if (b.shot.track(Tracked::light_dimmer, l.id)) return std::nullopt;
    if (l.on) brightest = std::max(brightest, l.dimmer);
  }
  if (brightest <= 0.0) return std::nullopt;
  const double room = std::floor(10.0 * std::log2(1.0 / brightest) + 1e-6) / 10.0;
  return Knob{
      even_steps(-8.0, room, 0.1),
      0.0,
      [&b](const Document& d, double stops) {
        Maybe next = d;
        for (std::size_t l = 0; l < b.setup->own_lights(); ++l)
          if (b.setup->lights[l].on)
            next = set(next, b.light_path(l) + "/dimmer",
                       std::min(1.0, std::round(b.setup->lights[l].dimmer * std::exp2(stops) * 1e4) / 1e4));
        return next;
      },
      [](double stops) {
        return said("{} every light by {} stop", stops > 0 ? "Brighten" : "Dim", fixed_text(std::abs(stops), 1));
      },
      1,
      "",
      true};
}

std::optional<Knob> dimmer_knob(const Bench& b, std::size_t l) {
  const Light& light = b.setup->lights[l];
  if (!light.on || light.dimmer <= 0.0 || b.shot.track(Tracked::light_dimmer, light.id)) return std::nullopt;
  const double room = std::floor(10.0 * std::log2(1.0 / light.dimmer) + 1e-6) / 10.0;
  return Knob{even_steps(-8.0, room, 0.1),
              0.0,
              [&b, l](const Document& d, double stops) {
                return set(d, b.light_path(l) + "/dimmer",
                           std::min(1.0, std::round(b.setup->lights[l].dimmer * std::exp2(stops) * 1e4) / 1e4));
              },
              [&b, l](double stops) {
                return said("{} {} by {} stop", stops > 0 ? "Brighten" : "Dim", b.setup->lights[l].name,
                            fixed_text(std::abs(stops), 1));
              },
              0.5,
              "",
              true};
}

Knob light_distance_knob(const Bench& b, std::size_t l) {
  const Light& light = b.setup->lights[l];
  const double now = length(light.place - light.aim);
  return {even_steps(std::max(0.15, std::ceil(now * 25) / 100), std::max(now * 3.0, 1.0), 0.01),
          now,
          [&b, l](const Document& d, double v) {
            const Light& own = b.setup->lights[l];
            const Vec3 to = own.aim + unit(own.place - own.aim) * v;
            return to.y < 0.02 ? Maybe() : set(d, b.light_path(l) + "/place", point(to));
          },
          [&b, l, now](double v) {
            return said("Move {} from {} to {}", b.setup->lights[l].name, b.len(now), b.len(v));
          },
          2,
          "",
          true,
          0.015};
}

void door_knobs(const Bench& b, std::size_t l, std::vector<Knob>& list) {
  const Light& light = b.setup->lights[l];
  if (!light.doors || b.shot.track(Tracked::light_doors, light.id)) return;
  const struct {
    const char *key, *name;
    double now;
  } leaves[4] = {{"top_deg", "top", light.doors->top_deg},
                 {"bottom_deg", "bottom", light.doors->bottom_deg},
                 {"left_deg", "left", light.doors->left_deg},
                 {"right_deg", "right", light.doors->right_deg}};
  for (const auto& leaf : leaves)
    list.push_back({even_steps(-60.0, 90.0, 5.0), leaf.now,
                    [&b, l, key = std::string(leaf.key)](const Document& d, double v) {
                      return set(d, b.light_path(l) + "/doors/" + key, v);
                    },
                    [&b, l, name = std::string(leaf.name), now = leaf.now](double v) {
                      return said("Swing the {} door of {} from {} to {} degrees", name, b.setup->lights[l].name,
                                  number_text(now, 3), number_text(v, 3));
                    },
                    0.5, "", true, 1.0});
}

Knob grid_knob(const Bench& b, std::size_t l) {
  const Light& light = b.setup->lights[l];
  return {
      {10, 20, 30, 40, 50, 60, 90},
      light.grid_deg.value_or(170.0),
      [&b, l](const Document& d, double v) { return set(d, b.light_path(l) + "/grid_deg", v); },
      [&b, l](double v) { return said("Put a {} degree grid on {}", number_text(v), b.setup->lights[l].name); },
      2,
      "grid",
      true};
}

Knob member_knob(const Bench& b, const std::string& pointer, double now, std::vector<double> steps,
                 const std::string& verb, double minutes, const std::string& gear, bool shared) {
  return {std::move(steps),
          now,
          [pointer](const Document& d, double v) { return set(d, pointer, v); },
          [&b, now, verb](double v) { return said("{} from {} to {}", verb, b.len(now), b.len(v)); },
          minutes,
          gear,
          shared};
}

void gear_place_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup) return;
  const CameraPose pose = camera_at(b.shot, 0.0);
  const Vec3 right = unit(Vec3{pose.frame.right.x, 0, pose.frame.right.z}), back{right.z * -1.0, 0, right.x};
  for (std::size_t k = 0; k < b.setup->gear.size(); ++k) {
    const Gear& body = b.setup->gear[k];
    if (body.dressed) continue;
    const std::string pointer = fmt::format("{}/gear/{}/place", b.setup_path, k);
    const std::string name = name_or(body.name, body.id);
    // `back` points from the camera away from what it looks at.
    const Vec3 behind = dot(back, pose.frame.ahead) > 0 ? back * -1.0 : back;
    for (const auto& [way, told] : {std::pair{right, 0}, {right * -1.0, 1}, {behind, 2}})
      list.push_back({even_steps(0.25, 2.5, 0.25), 0.0,
                      [pointer, body, way = way](const Document& d, double v) {
                        return set(d, pointer, point(body.place + way * v));
                      },
                      [&b, name, told = told](double v) {
                        return told == 0   ? said("Carry {} {} to the right", name, b.len(v))
                               : told == 1 ? said("Carry {} {} to the left", name, b.len(v))
                                           : said("Carry {} {} back", name, b.len(v));
                      },
                      1, "", true});
  }
}

void edge_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup) return;
  const Backdrop& drop = b.setup->backdrop;
  const std::string path = b.setup_path + "/backdrop";
  list.push_back(dolly_knob(b));
  if (auto k = focal_knob(b)) list.push_back(*k);
  if (drop.kind != BackdropKind::none) {
    list.push_back(member_knob(b, path + "/width", drop.width, even_steps(drop.width, drop.width + 4, 0.1),
                               "Widen the backdrop", 6, "wider backdrop", true));
    list.push_back(member_knob(b, path + "/height", drop.height, even_steps(drop.height, drop.height + 3, 0.1),
                               "Take a taller backdrop", 6, "taller backdrop", true));
    list.push_back({even_steps(1.0, 4.0, 0.1), 1.0,
                    [&b, path](const Document& d, double v) {
                      return set(set(d, path + "/width", std::round(b.setup->backdrop.width * v * 100) / 100),
                                 path + "/height", std::round(b.setup->backdrop.height * v * 100) / 100);
                    },
                    [&b](double v) {
                      return said("Take a backdrop of {} by {}", b.len(b.setup->backdrop.width * v),
                                  b.len(b.setup->backdrop.height * v));
                    },
                    6, "larger backdrop", true});
    if (drop.kind == BackdropKind::flat)
      list.push_back(member_knob(b, path + "/low", drop.low, even_steps(drop.low - 1.5, drop.low, 0.05),
                                 "Hang the backdrop lower, its foot", 3, "", true));
    list.push_back(member_knob(b, path + "/distance", drop.distance, even_steps(0.2, drop.distance, 0.05),
                               "Bring the backdrop nearer", 5, "", true));
  }
  if (b.setup->surface) {
    list.push_back(member_knob(b, b.setup_path + "/surface/width", b.setup->surface->width,
                               even_steps(b.setup->surface->width, b.setup->surface->width + 3, 0.1),
                               "Widen the surface", 6, "wider table top", true));
    list.push_back(member_knob(b, b.setup_path + "/surface/depth", b.setup->surface->depth,
                               even_steps(b.setup->surface->depth, b.setup->surface->depth + 3, 0.1),
                               "Deepen the surface", 6, "deeper table top", true));
  }
}

void white_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup) return;
  for (std::size_t l = 0; l < b.setup->own_lights(); ++l) {
    const Light& light = b.setup->lights[l];
    if (!light.on) continue;
    const LightKit* kit = by_id(b.project.light_kits, light.kit);
    const double low = kit ? kit->kelvin_low : light.kelvin, high = kit ? kit->kelvin_high : light.kelvin;
    if (high > low)
      list.push_back({even_steps(std::ceil(low / 100) * 100, high, 100), light.kelvin,
                      [&b, l](const Document& d, double v) { return set(d, b.light_path(l) + "/kelvin", v); },
                      [&b, l](double v) { return said("Set {} to {:.0f} K", b.setup->lights[l].name, v); }, 0.5,
                      "", true});
    list.push_back({{-137, -101, -78, -49, -35, -18, -10, 0, 10, 20, 42, 64, 81, 109, 131, 159},
                    light.gel_mired,
                    [&b, l](const Document& d, double v) { return set(d, b.light_path(l) + "/gel_mired", v); },
                    [&b, l](double v) {
                      return v == 0 ? said("Take the gel off {}", b.setup->lights[l].name)
                                    : said("Put a {} mired gel on {}", signed_text(v, 0), b.setup->lights[l].name);
                    },
                    2,
                    "gel",
                    true});
  }
  list.push_back({even_steps(2000, 10000, 100), b.camera.balance_k,
                  [&b](const Document& d, double v) { return set(d, b.camera_path + "/balance_k", v); },
                  [&b](double v) {
                    return said("Balance the camera to {:.0f} K instead of {:.0f} K", v, b.camera.balance_k);
                  },
                  0.2, "", false});
  list.push_back({{0, 1},
                  0,
                  [&b](const Document& d, double) {
                    Maybe next = d;
                    for (std::size_t l = 0; l < b.setup->own_lights(); ++l) {
                      const Light& light = b.setup->lights[l];
                      if (!light.on) continue;
                      if (const auto gel = mired({light.kelvin, b.camera.balance_k}))
                        next = set(next, b.light_path(l) + "/gel_mired", std::round(gel->shift));
                    }
                    return next;
                  },
                  [](double) { return std::string("Gel every light to the camera's balance"); },
                  4,
                  "gels",
                  true});
}

void load_knobs(const Bench& b, std::vector<Knob>& list) {
  std::vector<double> steps;
  for (std::size_t i = 0; i < b.project.supports.size(); ++i)
    if (b.project.supports[i]->holding.owned && b.project.supports[i]->turns())
      steps.push_back(static_cast<double>(i));
  list.push_back({steps, -1.0,
                  [&b](const Document& d, double v) {
                    Maybe next = d;
                    for (std::size_t p = 0; p < b.shot.products.size(); ++p)
                      if (!b.shot.products[p].on.empty())
                        next = set(next, fmt::format("{}/products/{}/on", b.shot_path, p),
                                   b.project.supports[static_cast<std::size_t>(v)]->id);
                    return next;
                  },
                  [&b](double v) {
                    const auto& s = *b.project.supports[static_cast<std::size_t>(v)];
                    return said("Use the turntable {}", s.name.empty() ? s.id : s.name);
                  },
                  3, "that turntable", false});
  list.push_back({{0, 1},
                  0,
                  [&b](const Document& d, double) {
                    Maybe next = d;
                    for (std::size_t p = 0; p < b.shot.products.size(); ++p)
                      next = set(next, fmt::format("{}/products/{}/place", b.shot_path, p),
                                 Json{0, b.shot.products[p].place.y, 0});
                    return next;
                  },
                  [](double) { return std::string("Set the product on the turntable's axis"); },
                  1,
                  "",
                  false});
  if (!b.shot.track(Tracked::turntable))
    list.push_back({{0, 1},
                    0,
                    [&b](const Document& d, double) {
                      Maybe next = d;
                      for (std::size_t p = 0; p < b.shot.products.size(); ++p)
                        if (next && value_at(*next, fmt::format("{}/products/{}/on", b.shot_path, p))) {
                          auto without =
                              with_value(*next, fmt::format("{}/products/{}/on", b.shot_path, p), std::nullopt);
                          next = without ? Maybe(*without) : std::nullopt;
                        }
                      return next;
                    },
                    [](double) {
                      return std::string("Take the product off the turntable, which does not turn in this shot");
                    },
                    1,
                    "",
                    false});
}

void dimmer_knobs(const Bench& b, std::vector<Knob>& list) {
  for (std::size_t l = 0; b.setup && l < b.setup->own_lights(); ++l)
    if (auto k = dimmer_knob(b, l)) list.push_back(*k);
}
void all_dimmers_knobs(const Bench& b, std::vector<Knob>& list) {
  if (auto k = all_dimmers_knob(b)) list.push_back(std::move(*k));
}
void exposure_knobs(const Bench& b, std::vector<Knob>& list) {
  const bool light_first = b.project.rule<ExposureRule>(b.shot) == ExposureRule::add_light;
  const auto lights = [&] {
    if (auto k = all_dimmers_knob(b)) list.push_back(*k);
    if (const auto l = b.main_light()) list.push_back(light_distance_knob(b, *l));
  };
  if (light_first) lights();
  list.push_back(iso_knob(b));
  list.push_back(aperture_knob(b));
  list.push_back(shutter_knob(b));
  list.push_back(nd_knob(b));
  if (!light_first) lights();
}

void backdrop_light_knobs(const Bench& b, std::vector<Knob>& list) {
  for (std::size_t l = 0; b.setup && l < b.setup->own_lights(); ++l) {
    if (auto k = dimmer_knob(b, l)) list.push_back(*k);
    if (!b.setup->lights[l].on) continue;
    door_knobs(b, l, list);
    list.push_back(grid_knob(b, l)), list.push_back(light_distance_knob(b, l));
  }
}
void backdrop_distance_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup) return;
  const double now = b.setup->backdrop.distance;
  list.push_back(member_knob(b, b.setup_path + "/backdrop/distance", now, even_steps(0.2, now + 3, 0.1),
                             "Stand the backdrop", 5, "room behind the table", true));
}
void backdrop_tone_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup) return;
  const Backdrop& drop = b.setup->backdrop;
  const double tone = (drop.material.colour.x + drop.material.colour.y + drop.material.colour.z) / 3;
  if (tone > 0.0)
    list.push_back(
        {within({0.001, 0.005, 0.01, 0.02, 0.03, 0.05, 0.08, 0.12, 0.18, 0.25, 0.35, 0.5, 0.65, 0.8, 0.9}, 0.001,
                0.9),
         tone,
         [&b, tone](const Document& d, double v) {
           const Vec3 c = b.setup->backdrop.material.colour * (v / tone);
           Json material{{"kind", material_name(b.setup->backdrop.material.kind)}};
           if (const auto own = value_at(d, b.setup_path + "/backdrop/material")) material = *own;
           material["colour"] = {std::min(0.95, c.x), std::min(0.95, c.y), std::min(0.95, c.z)};
           return set(d, b.setup_path + "/backdrop/material", material);
         },
         [tone](double v) {
           return said("Hang a {} backdrop, reflecting {} % instead of {} %", v < tone ? "darker" : "paler",
                       number_text(v * 100, 2), number_text(tone * 100, 2));
         },
         6, "that backdrop", true});
}

}  // namespace cinnabar
