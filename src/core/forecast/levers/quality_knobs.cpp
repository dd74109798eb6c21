// Knobs of light's quality: cards, flags, larger faces, strips carried round, lights kept off the backdrop.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levers/bench.h"
#include "cinnabar/photometry/sources.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {

Vec3 product_middle(const Bench& b) {
  if (b.shot.products.empty()) return {0, 0.05, 0};
  const ShotProduct& placed = b.shot.products.front();
  const Product* product = by_id(b.project.products, placed.product);
  const auto [low, high] = product ? height_span(*product) : std::pair{0.0, 0.1};
  return placed.place + Vec3{0, 0.5 * (low + high), 0};
}

/// A light carried round the product's axis at its distance and height, aim kept.
Knob round_knob(const Bench& b, std::size_t l) {
  const Light& light = b.setup->lights[l];
  const Vec3 axis = product_middle(b), to = light.place - axis;
  const double now = degrees(std::atan2(to.x, to.z));
  std::vector<double> steps;
  for (int k = -170; k <= 170; k += 2) steps.push_back(now + k);
  return {steps,
          now,
          [&b, l, axis, now](const Document& d, double v) {
            return set(d, b.light_path(l) + "/place",
                       point(axis + turned(b.setup->lights[l].place - axis, v - now)));
          },
          [&b, l](double v) {
            return said("Carry {} round to {} degrees from the front", b.setup->lights[l].name,
                        fixed_text(std::remainder(v, 360.0), 0));
          },
          3,
          "",
          true,
          0.0,
          true};
}

/// The camera lower or higher, its aim kept.
Knob camera_height_knob(const Bench& b) {
  const double now = b.camera.place.y;
  return scanned({even_steps(0.02, std::max(1.0, now + 0.5), 0.02), now,
                  [&b](const Document& d, double v) {
                    Vec3 place = b.camera.place;
                    place.y = v;
                    const double focus = std::max(
                        b.camera.focus + length(b.camera.aim - place) - length(b.camera.aim - b.camera.place),
                        1.05 * b.camera.focal);
                    return set(set(d, b.camera_path + "/place", point(place)), b.camera_path + "/focus",
                               std::round(focus * 1e4) / 1e4);
                  },
                  [&b, now](double v) {
                    return said("{} the camera from {} to {}", v < now ? "Lower" : "Raise", b.len(now), b.len(v));
                  },
                  0.5, "", false});
}

namespace {

/// A card set up beside the product, away from the light that gives most; the step is its distance.
Knob card_knob(const Bench& b, std::size_t main_light, bool white) {
  const Vec3 middle = product_middle(b), eye = b.camera.place - middle,
             lamp = b.setup->lights[main_light].place - middle;
  const double camera = degrees(std::atan2(eye.x, eye.z)), light = degrees(std::atan2(lamp.x, lamp.z));
  const double side = std::remainder(light - camera, 360.0) > 0 ? -70.0 : 70.0;
  const Vec3 out = turned({0, 0, 1}, camera + side);
  const auto add = [&b, middle, out, white](const Document& d, double distance) -> Maybe {
    const auto cards = value_at(d, b.setup_path + "/cards");
    Json list = cards && cards->is_array() ? *cards : Json::array();
    std::string id = white ? "fill" : "black";
    for (int n = 2; std::any_of(list.begin(), list.end(), [&](const Json& c) { return c.value("id", "") == id; });
         ++n)
      id = fmt::format("{}-{}", white ? "fill" : "black", n);
    const double tone = white ? 0.85 : 0.02;
    list.push_back({{"id", id},
                    {"name", white ? "White card" : "Black card"},
                    {"place", point(middle + out * distance + Vec3{0, 0.05, 0})},
                    {"aim", point(middle)},
                    {"width", 0.4},
                    {"height", 0.5},
                    {"material", {{"kind", white ? "matte" : "cloth"}, {"colour", {tone, tone, tone}}}}});
    return set(d, b.setup_path + "/cards", list);
  };
  return {even_steps(0.14, 1.2, 0.02),
          2.0,  // from far away inward
          add,
          [&b, white](double v) {
            return said("Stand a {} card, 0.4 by 0.5 m, on the dark side, {} from the product",
                        white ? "white" : "black", b.len(v));
          },
          2,
          white ? "white card" : "black card",
          true};
}

/// A light's face larger by a factor, its lumens kept.
std::optional<Knob> face_knob(const Bench& b, std::size_t l) {
  const Light& light = b.setup->lights[l];
  const std::string path = b.light_path(l);
  const bool square = light.shape == LightShape::rectangle;
  std::vector<double> steps;
  for (const double s :
       {0.15, 0.2, 0.25, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.1, 1.25, 1.5, 1.75, 2.0, 2.5, 3.0, 4.0, 6.0})
    steps.push_back(s);
  return Knob{steps,
              1.0,
              [&b, l, path, square](const Document& d, double v) {
                const Light& own = b.setup->lights[l];
                if (square)
                  return set(set(d, path + "/width", std::round(own.width * v * 1e3) / 1e3), path + "/height",
                             std::round(own.height * v * 1e3) / 1e3);
                return set(d, path + "/radius", std::round(own.radius * v * 1e4) / 1e4);
              },
              [&b, l, square](double v) {
                const Light& own = b.setup->lights[l];
                return square ? said("Give {} a face of {} by {}", own.name, b.len(own.width * v),
                                     b.len(own.height * v))
                              : said("Give {} a face {} across", own.name, b.len(2 * own.radius * v));
              },
              3,
              "softbox or frame of that size",
              true};
}

/// A strip carried round and masked (or widened) so that its image has the middle of what is wanted.
Knob strip_knob(const Bench& b, std::size_t l) {
  const Light& light = b.setup->lights[l];
  const Vec3 axis = product_middle(b), to = light.place - axis, eye = b.camera.place - axis;
  const double camera = degrees(std::atan2(eye.x, eye.z)), distance = std::hypot(to.x, to.z);
  double radius = 0.03;
  if (const Product* product =
          b.shot.products.empty() ? nullptr : by_id(b.project.products, b.shot.products[0].product))
    radius = std::max(radius, widest_reach(*product));
  // The image grows with the face: the width that gives 8 % of the product's.
  const auto width_at = [camera, distance, radius, most = light.height / 2](double bearing) {
    const auto one = cylinder_stripe({camera, bearing, 0.01, std::max(distance, radius * 1.01), radius});
    if (!one || !one->centre_fraction || one->width_fraction <= 0.0) return 0.0;
    return std::min(most, std::round(0.08 / one->width_fraction) / 100);
  };
  Knob knob = round_knob(b, l);
  knob.apply = [&b, l, turn = knob.apply, width_at](const Document& d, double v) {
    const double width = width_at(v);
    return width > 0.0 ? set(turn(d, v), b.light_path(l) + "/width", width) : Maybe();
  };
  knob.title = [&b, title = knob.title, width_at](double v) {
    return said("{}, its face {} wide", title(v), b.len(width_at(v)));
  };
  knob.minutes = 5;
  knob.gear = "black tape or a wider strip";
  return knob;
}

/// A strip stood upright on the table or the floor where it is, nearer or farther from the product: its image in
/// an upright side is met by lines of sight that run on downward where the camera looks down.
Knob standing_strip_knob(const Bench& b, std::size_t l) {
  const Light& light = b.setup->lights[l];
  const Vec3 axis = product_middle(b), to = light.place - axis;
  const double now = std::hypot(to.x, to.z),
               half = (light.shape == LightShape::tube ? light.length : light.height) / 2;
  return scanned({even_steps(0.2, std::max(1.5, now), 0.02), now,
                  [&b, l, axis, to, now, half](const Document& d, double v) {
                    if (now < 1e-6) return Maybe();
                    const Vec3 place{axis.x + to.x / now * v, half + 0.005, axis.z + to.z / now * v};
                    const Maybe moved = set(d, b.light_path(l) + "/place", point(place));
                    return set(set(moved, b.light_path(l) + "/aim", point({axis.x, place.y, axis.z})),
                               b.light_path(l) + "/roll_deg", 0.0);
                  },
                  [&b, l](double v) {
                    return said("Stand {} upright with its foot on the table, {} from the product",
                                b.setup->lights[l].name, b.len(v));
                  },
                  3, "", true});
}

std::size_t strongest_or_first(const Bench& b) { return b.main_light().value_or(0); }

/// A film before a light and one before the lens, turned against it: what any face mirrors of the light goes,
/// metal's too.
Knob crossed_films_knob(const Bench& b, std::size_t l) {
  const Light& light = b.setup->lights[l];
  const double now = b.camera.polariser && light.film ? b.camera.polariser->angle_deg : -1.0;
  Knob knob{even_steps(0.0, 165.0, 15.0),
            now,
            [&b, l, film = light.film.has_value()](const Document& d, double v) {
              const Maybe lit = film ? Maybe(d) : set(d, b.light_path(l) + "/film", Json{{"angle_deg", 0}});
              return b.camera.polariser ? set(lit, b.camera_path + "/polariser/angle_deg", v)
                                        : set(lit, b.camera_path + "/polariser", Json{{"angle_deg", v}});
            },
            [&light](double v) {
              return said("Put a polarising film on {} and a polariser on the lens, at {} degrees", light.name,
                          number_text(v));
            },
            4.0,
            "polariser and film",
            true};
  return scanned(std::move(knob));
}

/// A polariser before the lens, turned: it takes light, and glare of dielectrics where it stands right.
Knob polariser_knob(const Bench& b) {
  const double now = b.camera.polariser ? b.camera.polariser->angle_deg : -1.0;
  Knob knob{even_steps(0.0, 165.0, 15.0),
            now,
            [&b](const Document& d, double v) {
              return b.camera.polariser ? set(d, b.camera_path + "/polariser/angle_deg", v)
                                        : set(d, b.camera_path + "/polariser", Json{{"angle_deg", v}});
            },
            [&b](double v) {
              return b.camera.polariser
                         ? said("Turn the polariser to {} degrees", number_text(v))
                         : said("Put a polariser on the lens, at {} degrees; it takes 1.5 stops", number_text(v));
            },
            1.0,
            "polariser",
            true};
  return scanned(std::move(knob));
}

Knob ambient_knob(const Bench& b) {
  return {{0.0},
          b.setup->ambient_lx,
          [&b](const Document& d, double v) { return set(d, b.setup_path + "/ambient/illuminance_lx", v); },
          [](double) { return std::string("Black out the room"); },
          5,
          "",
          true};
}

}  // namespace

void ratio_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup) return;
  for (std::size_t l = 0; l < b.setup->own_lights(); ++l)
    if (auto k = dimmer_knob(b, l)) list.push_back(*k);
  if (b.setup->lights.empty()) return;
  const std::size_t main = strongest_or_first(b);
  list.push_back(card_knob(b, main, true));
  list.push_back(card_knob(b, main, false));
  for (std::size_t l = 0; l < b.setup->own_lights(); ++l) {
    if (!b.setup->lights[l].on) continue;
    list.push_back(round_knob(b, l));
    list.push_back(light_distance_knob(b, l));
  }
}

void soft_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup) return;
  for (std::size_t l = 0; l < b.setup->own_lights(); ++l) {
    if (!b.setup->lights[l].on) continue;
    if (auto k = face_knob(b, l)) list.push_back(*k);
    list.push_back(light_distance_knob(b, l));
  }
}

void stripe_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup) return;
  for (std::size_t l = 0; l < b.setup->own_lights(); ++l) {
    const Light& light = b.setup->lights[l];
    const bool tall = (light.shape == LightShape::rectangle && light.height >= 2.0 * light.width) ||
                      light.shape == LightShape::tube;
    if (!light.on || !tall) continue;
    list.push_back(round_knob(b, l));
    list.push_back(standing_strip_knob(b, l));
    if (light.shape == LightShape::rectangle) list.push_back(strip_knob(b, l));
    if (light.shape == LightShape::rectangle)
      list.push_back(member_knob(b, b.light_path(l) + "/width", light.width,
                                 even_steps(0.02, light.height / 2, 0.01), "Mask " + light.name + " to a width", 2,
                                 "black tape or doors", true));
    list.push_back(light_distance_knob(b, l));
  }
}

void spill_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup) return;
  if (b.setup->ambient_lx > 0.0) list.push_back(ambient_knob(b));
  for (std::size_t l = 0; l < b.setup->own_lights(); ++l) {
    if (!b.setup->lights[l].on) continue;
    door_knobs(b, l, list);
    list.push_back(grid_knob(b, l));
    if (auto k = dimmer_knob(b, l)) list.push_back(*k);
    list.push_back(light_distance_knob(b, l));
  }
  const Backdrop& drop = b.setup->backdrop;
  list.push_back(member_knob(b, b.setup_path + "/backdrop/distance", drop.distance,
                             even_steps(drop.distance, drop.distance + 3, 0.1), "Stand the backdrop farther", 5,
                             "room behind the table", true));
}

void cast_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup) return;
  const Backdrop& drop = b.setup->backdrop;
  list.push_back(member_knob(b, b.setup_path + "/backdrop/distance", drop.distance,
                             even_steps(0.05, drop.distance + 3, 0.05), "Stand the backdrop", 5,
                             "room behind the table", true));
  for (std::size_t l = 0; l < b.setup->own_lights(); ++l) {
    if (!b.setup->lights[l].on) continue;
    const Light& light = b.setup->lights[l];
    const Vec3 to = light.place - light.aim;
    const double flat = std::hypot(to.x, to.z), now = degrees(std::atan2(to.y, flat)), far = length(to);
    list.push_back({even_steps(std::floor(std::max(now, 0.0)), 85.0, 1.0), now,
                    [&b, l, far, flat](const Document& d, double v) {
                      const Light& own = b.setup->lights[l];
                      const Vec3 away = own.place - own.aim;
                      const Vec3 level = flat > 1e-6 ? Vec3{away.x / flat, 0, away.z / flat} : Vec3{0, 0, 1};
                      return set(d, b.light_path(l) + "/place",
                                 point(own.aim + level * (far * std::cos(radians(v))) +
                                       Vec3{0, far * std::sin(radians(v)), 0}));
                    },
                    [&b, l, now](double v) {
                      return said("Raise {} from {} to {} degrees above the level", b.setup->lights[l].name,
                                  fixed_text(now, 0), fixed_text(v, 0));
                    },
                    2, "", true, 0.5});
    list.push_back(round_knob(b, l));
    if (auto k = dimmer_knob(b, l)) list.push_back(*k);
    if (auto k = face_knob(b, l)) list.push_back(*k);
  }
}

void polariser_knobs(const Bench& b, std::vector<Knob>& list) {
  list.push_back(polariser_knob(b));
  if (const auto l = b.main_light(); l && !b.setup->lights[*l].daylight) list.push_back(crossed_films_knob(b, *l));
}

void noise_knobs(const Bench& b, std::vector<Knob>& list) {
  if (auto k = all_dimmers_knob(b)) list.push_back(*k);
  if (b.setup && !b.setup->lights.empty()) list.push_back(card_knob(b, strongest_or_first(b), true));
  list.push_back(aperture_knob(b));
  list.push_back(shutter_knob(b));
  list.push_back(nd_knob(b));
}

void words_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup) return;
  const Facing frame = facing(b.camera.place, b.camera.aim, b.camera.roll_deg);
  const Vec3 right = frame.right;
  list.push_back({even_steps(-1.0, 1.0, 0.01), 0.0,
                  [&b, right](const Document& d, double v) {
                    return set(set(d, b.camera_path + "/place", point(b.camera.place + right * v)),
                               b.camera_path + "/aim", point(b.camera.aim + right * v));
                  },
                  [&b](double v) {
                    return said("Move the camera {} to the {}, aim with it", b.len(std::abs(v)),
                                v > 0 ? "right" : "left");
                  },
                  2, "", false, 0.005});
  list.push_back(dolly_knob(b));
  if (auto k = focal_knob(b)) list.push_back(*k);
  for (std::size_t l = 0; b.setup && l < b.setup->own_lights(); ++l) {
    if (auto k = dimmer_knob(b, l)) list.push_back(*k);
    if (b.setup->lights[l].on) list.push_back(grid_knob(b, l));
  }
  if (b.setup && b.setup->backdrop.kind != BackdropKind::none)
    list.push_back(member_knob(b, b.setup_path + "/backdrop/distance", b.setup->backdrop.distance,
                               even_steps(0.1, b.setup->backdrop.distance + 3, 0.1), "Stand the backdrop", 5,
                               "room behind the table", true));
}

}  // namespace cinnabar
