#include "cinnabar/forecast/knobs.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

using Maybe = std::optional<Document>;

Maybe set(const Document& doc, const std::string& pointer, const Json& value) {
  auto next = with_value(doc, pointer, value);
  return next ? Maybe(std::move(*next)) : std::nullopt;
}
Maybe set(const Maybe& doc, const std::string& pointer, const Json& value) {
  return doc ? set(*doc, pointer, value) : std::nullopt;
}
Json point(const Vec3& v) {
  const auto tidy = [](double x) { return std::round(x * 1e5) / 1e5; };
  return Json{tidy(v.x), tidy(v.y), tidy(v.z)};
}

/// Everything a knob needs to know about the shot.
struct Bench {
  const Document& doc;
  const Project& project;
  std::size_t index;
  const Shot& shot;
  ShotCamera camera;
  ShotOptics optics;
  const Setup* setup;
  std::string shot_path, camera_path, setup_path;
  Units units;

  Bench(const Document& d, const Project& p, std::size_t i)
      : doc(d),
        project(p),
        index(i),
        shot(*p.shots[i]),
        camera(shot.camera.value_or(ShotCamera{})),
        optics(shot_optics(p, camera)),
        setup(by_id(p.setups, shot.setup)),
        shot_path(fmt::format("/shots/{}", i)),
        camera_path(shot_path + "/camera"),
        units(p.units == "imperial" ? Units::imperial : Units::metric) {
    for (std::size_t s = 0; s < p.setups.size(); ++s)
      if (p.setups[s].get() == setup) setup_path = fmt::format("/setups/{}", s);
  }
  [[nodiscard]] std::string len(double metres) const { return length_text(metres, units); }
  [[nodiscard]] std::string light_path(std::size_t l) const { return fmt::format("{}/lights/{}", setup_path, l); }
};

std::vector<double> within(std::vector<double> values, double low, double high) {
  std::erase_if(values, [&](double v) { return v < low * (1 - 1e-9) || v > high * (1 + 1e-9); });
  std::sort(values.begin(), values.end());
  values.erase(std::unique(values.begin(), values.end()), values.end());
  return values;
}
std::vector<double> even_steps(double low, double high, double step) {
  std::vector<double> values;
  const auto n = static_cast<int>(std::min(4000.0, std::floor((high - low) / step + 1e-6)));
  for (int k = 0; k <= n; ++k) values.push_back(std::round((low + k * step) * 1e6) / 1e6);
  return values;
}

std::vector<double> isos(const Bench& b) {
  std::vector<double> values;
  for (double base = 1; base <= 1e7; base *= 10)
    for (const double v : {1.0, 1.25, 1.6, 2.0, 2.5, 3.2, 4.0, 5.0, 6.4, 8.0}) values.push_back(v * base);
  // The doubling series as cameras print it from 800 up.
  for (double v = 100; v < 2e6; v *= 2) values.push_back(v);
  return within(std::move(values), b.optics.iso_low, b.optics.iso_high);
}
std::vector<double> f_numbers(const Bench& b) {
  return within({1,   1.1, 1.2, 1.4, 1.6, 1.8, 2,  2.2, 2.5, 2.8, 3.2, 3.5, 4,  4.5, 5,  5.6, 6.3,
                 7.1, 8,   9,   10,  11,  13,  14, 16,  18,  20,  22,  25,  29, 32,  36, 40,  45},
                b.optics.f_number_low, b.optics.f_number_high);
}
std::vector<double> shutters(const Bench& b, double rate) {
  std::vector<double> values{0.5 / rate, 0.4 / rate, 0.25 / rate, 0.125 / rate};
  for (const double d : {24.,   25.,   30.,   40.,   48.,   50.,   60.,   80.,   96.,   100.,  120.,  125., 160.,
                         180.,  200.,  240.,  250.,  300.,  320.,  360.,  400.,  480.,  500.,  600.,  640., 800.,
                         1000., 1250., 1600., 2000., 2500., 3200., 4000., 5000., 6400., 8000., 16000.})
    values.push_back(1.0 / d);
  (void)b;
  return within(std::move(values), 1e-5, 1.0 / rate);
}

Knob iso_knob(const Bench& b) {
  return {isos(b),
          b.camera.iso,
          [&b](const Document& d, double v) { return set(d, b.camera_path + "/iso", v); },
          [&b](double v) {
            return fmt::format("{} ISO from {} to {}", v > b.camera.iso ? "Raise" : "Lower",
                               number_text(b.camera.iso, 6), number_text(v, 6));
          },
          0.2,
          "",
          false};
}
Knob aperture_knob(const Bench& b) {
  return {f_numbers(b),
          b.camera.f_number,
          [&b](const Document& d, double v) { return set(d, b.camera_path + "/f_number", v); },
          [&b](double v) {
            return fmt::format("{} from f/{} to f/{}", v < b.camera.f_number ? "Open" : "Stop down",
                               number_text(b.camera.f_number, 3), number_text(v, 3));
          },
          0.2,
          "",
          false};
}
Knob shutter_knob(const Bench& b) {
  return {shutters(b, b.optics.rate),
          b.camera.shutter_time,
          [&b](const Document& d, double v) { return set(d, b.camera_path + "/shutter_time", v); },
          [&b](double v) {
            return fmt::format("Shutter from {} to {}", shutter_text(b.camera.shutter_time), shutter_text(v));
          },
          0.2,
          "",
          false};
}
Knob nd_knob(const Bench& b) {
  return {even_steps(0, 10, 1),
          b.camera.nd_stops,
          [&b](const Document& d, double v) { return set(d, b.camera_path + "/nd_stops", v); },
          [&b](double v) {
            return v > b.camera.nd_stops ? fmt::format("Neutral density from {} to {} stops",
                                                       number_text(b.camera.nd_stops), number_text(v))
                                         : fmt::format("Take neutral density down to {} stops", number_text(v));
          },
          1,
          "neutral density filter",
          false};
}

double nearest(const std::vector<double>& values, double wanted) {
  double best = values.empty() ? wanted : values.front();
  for (const double v : values)
    if (std::abs(std::log2(v / wanted)) < std::abs(std::log2(best / wanted))) best = v;
  return best;
}

/// Turns `knob` and pays for it in ISO, `stops` being the light it costs. Nothing where the ISO does not reach.
Knob paid_in_iso(const Bench& b, Knob knob, std::function<double(double)> stops) {
  const auto values = isos(b);
  const auto paid = [&b, values, stops](double v) { return nearest(values, b.camera.iso * std::exp2(stops(v))); };
  const auto reaches = [&b, stops, paid](double v) {
    return std::abs(std::log2(paid(v) / (b.camera.iso * std::exp2(stops(v))))) < 0.2;
  };
  return {knob.steps,
          knob.current,
          [&b, turn = knob.apply, paid, reaches](const Document& d, double v) {
            return reaches(v) ? set(turn(d, v), b.camera_path + "/iso", paid(v)) : Maybe();
          },
          [&b, title = knob.title, paid](double v) {
            return fmt::format("{} and ISO from {} to {}", title(v), number_text(b.camera.iso, 6),
                               number_text(paid(v), 6));
          },
          knob.minutes + 0.2,
          knob.gear,
          knob.shared};
}

/// Every light that is on, brighter or dimmer by the same stops.
std::optional<Knob> all_dimmers_knob(const Bench& b) {
  if (!b.setup) return std::nullopt;
  double brightest = 0.0;
  for (const Light& l : b.setup->lights) {
    if (b.shot.track("light." + l.id + ".dimmer")) return std::nullopt;
    if (l.on) brightest = std::max(brightest, l.dimmer);
  }
  if (brightest <= 0.0) return std::nullopt;
  const double room = std::floor(10.0 * std::log2(1.0 / brightest) + 1e-6) / 10.0;
  return Knob{even_steps(-8.0, room, 0.1),
              0.0,
              [&b](const Document& d, double stops) {
                Maybe next = d;
                for (std::size_t l = 0; l < b.setup->lights.size(); ++l)
                  if (b.setup->lights[l].on)
                    next =
                        set(next, b.light_path(l) + "/dimmer",
                            std::min(1.0, std::round(b.setup->lights[l].dimmer * std::exp2(stops) * 1e4) / 1e4));
                return next;
              },
              [](double stops) {
                return fmt::format("{} every light by {} stop", stops > 0 ? "Brighten" : "Dim",
                                   fixed_text(std::abs(stops), 1));
              },
              1,
              "",
              true};
}

std::optional<Knob> dimmer_knob(const Bench& b, std::size_t l) {
  const Light& light = b.setup->lights[l];
  if (!light.on || light.dimmer <= 0.0 || b.shot.track("light." + light.id + ".dimmer")) return std::nullopt;
  const double room = std::floor(10.0 * std::log2(1.0 / light.dimmer) + 1e-6) / 10.0;
  return Knob{even_steps(-8.0, room, 0.1),
              0.0,
              [&b, l](const Document& d, double stops) {
                return set(d, b.light_path(l) + "/dimmer",
                           std::min(1.0, std::round(b.setup->lights[l].dimmer * std::exp2(stops) * 1e4) / 1e4));
              },
              [&b, l](double stops) {
                return fmt::format("{} {} by {} stop", stops > 0 ? "Brighten" : "Dim", b.setup->lights[l].name,
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
            return fmt::format("Move {} from {} to {}", b.setup->lights[l].name, b.len(now), b.len(v));
          },
          2,
          "",
          true,
          0.015};
}

Knob grid_knob(const Bench& b, std::size_t l) {
  const Light& light = b.setup->lights[l];
  return {{10, 20, 30, 40, 50, 60, 90},
          light.grid_deg.value_or(170.0),
          [&b, l](const Document& d, double v) { return set(d, b.light_path(l) + "/grid_deg", v); },
          [&b, l](double v) {
            return fmt::format("Put a {} degree grid on {}", number_text(v), b.setup->lights[l].name);
          },
          2,
          "grid",
          true};
}

/// Camera nearer or farther along its aim, focus kept on the same thing.
Knob dolly_knob(const Bench& b) {
  const double now = length(b.camera.place - b.camera.aim);
  const LensSpec* lens = by_id(b.project.lenses, b.camera.lens);
  const double least = std::max({lens ? lens->close_focus : 0.0, b.camera.focal * 1.5, 0.05});
  return {even_steps(std::ceil(least * 100) / 100, std::max(4.0 * now, 2.0), now < 0.4 ? 0.005 : 0.01),
          now,
          [&b, now, least](const Document& d, double v) {
            const Vec3 to = b.camera.aim + unit(b.camera.place - b.camera.aim) * v;
            const double focus = b.camera.focus + (v - now);
            if (focus < least || to.y < 0.0 || b.shot.track("camera.focus")) return Maybe();
            return set(set(d, b.camera_path + "/place", point(to)), b.camera_path + "/focus",
                       std::round(focus * 1e5) / 1e5);
          },
          [&b, now](double v) {
            return fmt::format("Move the camera {} from {} to {}, focus with it", v < now ? "in" : "back",
                               b.len(now), b.len(v));
          },
          3,
          "",
          false,
          0.004};
}
std::optional<Knob> focal_knob(const Bench& b) {
  if (b.optics.focal_high - b.optics.focal_low < 1e-4) return std::nullopt;
  return Knob{even_steps(std::ceil(b.optics.focal_low * 1e3) / 1e3, b.optics.focal_high, 0.001),
              b.camera.focal,
              [&b](const Document& d, double v) {
                return v < b.camera.focus * 0.95 ? set(d, b.camera_path + "/focal", v) : Maybe();
              },
              [&b](double v) {
                return fmt::format("Zoom from {} to {} mm", number_text(b.camera.focal * 1e3, 3),
                                   number_text(v * 1e3, 3));
              },
              0.5,
              "",
              false};
}
std::optional<Knob> lens_knob(const Bench& b) {
  std::vector<double> steps;
  double current = -1.0;
  for (std::size_t i = 0; i < b.project.lenses.size(); ++i) {
    steps.push_back(static_cast<double>(i));
    if (b.project.lenses[i]->id == b.camera.lens) current = static_cast<double>(i);
  }
  if (steps.size() < 2) return std::nullopt;
  return Knob{steps,
              current,
              [&b](const Document& d, double v) {
                const LensSpec& lens = *b.project.lenses[static_cast<std::size_t>(v)];
                if (b.camera.focus < lens.close_focus || b.camera.focus <= lens.focal_low * 1.05) return Maybe();
                const double f = std::clamp(b.camera.f_number, lens.f_number_low, lens.f_number_high);
                return set(set(set(d, b.camera_path + "/lens", lens.id), b.camera_path + "/focal",
                               std::clamp(b.camera.focal, lens.focal_low, lens.focal_high)),
                           b.camera_path + "/f_number", f);
              },
              [&b](double v) {
                const auto& l = *b.project.lenses[static_cast<std::size_t>(v)];
                return fmt::format("Change to {}", l.name.empty() ? l.id : l.name);
              },
              3,
              "that lens",
              false};
}

Knob member_knob(const Bench& b, const std::string& pointer, double now, std::vector<double> steps,
                 const std::string& verb, double minutes, const std::string& gear, bool shared) {
  return {std::move(steps),
          now,
          [pointer](const Document& d, double v) { return set(d, pointer, v); },
          [&b, now, verb](double v) { return fmt::format("{} from {} to {}", verb, b.len(now), b.len(v)); },
          minutes,
          gear,
          shared};
}

void edge_knobs(const Bench& b, std::vector<Knob>& list) {
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
                      return fmt::format("Take a backdrop of {} by {}", b.len(b.setup->backdrop.width * v),
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

std::string name_of(const CameraMode& m) {
  return fmt::format("{} x {} at {}", m.width, m.height, number_text(m.rate, 6));
}

/// Other modes of the camera, the shutter's angle kept.
std::optional<Knob> mode_knob(const Bench& b) {
  const CameraBody* body = by_id(b.project.cameras, b.camera.camera);
  if (!body || body->modes.size() < 2) return std::nullopt;
  std::vector<double> steps;
  double current = 0;
  for (std::size_t i = 0; i < body->modes.size(); ++i) {
    steps.push_back(static_cast<double>(i));
    if (body->modes[i].id == b.camera.mode) current = static_cast<double>(i);
  }
  return Knob{steps,
              current,
              [&b, body](const Document& d, double v) {
                const CameraMode& m = body->modes[static_cast<std::size_t>(v)];
                return set(set(d, b.camera_path + "/mode", m.id), b.camera_path + "/shutter_time",
                           b.camera.shutter_time * b.optics.rate / m.rate);
              },
              [body](double v) {
                return "Record " + name_of(body->modes[static_cast<std::size_t>(v)]) + ", shutter angle kept";
              },
              0.5,
              "",
              false};
}

/// The whole play list at other speeds: `v` is the fastest speed.
Knob speed_knob(const Bench& b) {
  const double now = b.shot.clock.speed_span(0.0, std::max(0.0, b.shot.set_time())).first;
  return {within(
              [] {
                std::vector<double> v;
                for (int k = 1; k <= 400; ++k) v.push_back(k / 200.0);
                return v;
              }(),
              0.005, 2.0),
          now,
          [&b, now](const Document& d, double v) {
            Json play = Json::array();
            for (const SpeedPoint& p : b.shot.clock.points()) play.push_back({p.set_time, p.speed * v / now});
            if (play.empty()) play.push_back({0.0, v});
            return set(d, b.shot_path + "/play", play);
          },
          [now](double v) {
            return fmt::format("Play at {} % instead of {} %", number_text(v * 100, 3), number_text(now * 100, 3));
          },
          0,
          "",
          false};
}

/// The turntable slower: the same angles over more set time.
std::optional<Knob> slower_table_knob(const Bench& b) {
  std::size_t index = 0;
  const KeyedTrack* track = nullptr;
  for (std::size_t i = 0; i < b.shot.tracks.size(); ++i)
    if (b.shot.tracks[i].target == "turntable") track = &b.shot.tracks[i], index = i;
  if (!track || track->keys.size() < 2) return std::nullopt;
  return Knob{even_steps(1.0, 12.0, 0.05),
              1.0,
              [&b, track, index](const Document& d, double v) {
                Json keys = Json::array();
                for (const auto& [t, angle] : track->keys) keys.push_back({std::round(t * v * 1e4) / 1e4, angle});
                return set(d, fmt::format("{}/tracks/{}/keys", b.shot_path, index), keys);
              },
              [](double v) { return fmt::format("Turn the table {} times slower", number_text(v, 3)); },
              0.5,
              "",
              false};
}

void white_knobs(const Bench& b, std::vector<Knob>& list) {
  for (std::size_t l = 0; l < b.setup->lights.size(); ++l) {
    const Light& light = b.setup->lights[l];
    if (!light.on) continue;
    const LightKit* kit = by_id(b.project.light_kits, light.kit);
    const double low = kit ? kit->kelvin_low : light.kelvin, high = kit ? kit->kelvin_high : light.kelvin;
    if (high > low)
      list.push_back({even_steps(std::ceil(low / 100) * 100, high, 100), light.kelvin,
                      [&b, l](const Document& d, double v) { return set(d, b.light_path(l) + "/kelvin", v); },
                      [&b, l](double v) { return fmt::format("Set {} to {:.0f} K", b.setup->lights[l].name, v); },
                      0.5, "", true});
    list.push_back({{-137, -101, -78, -49, -35, -18, -10, 0, 10, 20, 42, 64, 81, 109, 131, 159},
                    light.gel_mired,
                    [&b, l](const Document& d, double v) { return set(d, b.light_path(l) + "/gel_mired", v); },
                    [&b, l](double v) {
                      return v == 0 ? fmt::format("Take the gel off {}", b.setup->lights[l].name)
                                    : fmt::format("Put a {} mired gel on {}", signed_text(v, 0),
                                                  b.setup->lights[l].name);
                    },
                    2,
                    "gel",
                    true});
  }
  list.push_back({even_steps(2000, 10000, 100), b.camera.balance_k,
                  [&b](const Document& d, double v) { return set(d, b.camera_path + "/balance_k", v); },
                  [&b](double v) {
                    return fmt::format("Balance the camera to {:.0f} K instead of {:.0f} K", v,
                                       b.camera.balance_k);
                  },
                  0.2, "", false});
  list.push_back({{0, 1},
                  0,
                  [&b](const Document& d, double) {
                    Maybe next = d;
                    for (std::size_t l = 0; l < b.setup->lights.size(); ++l) {
                      const Light& light = b.setup->lights[l];
                      if (light.on)
                        next = set(next, b.light_path(l) + "/gel_mired",
                                   std::round(1e6 / b.camera.balance_k - 1e6 / light.kelvin));
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
    if (b.project.supports[i]->kind == "turntable" || b.project.supports[i]->kind.empty())
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
                    return fmt::format("Use the turntable {}", s.name.empty() ? s.id : s.name);
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
  if (!b.shot.track("turntable"))
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

/// The light that gives most at the product, by distance and output; -1 when there is none.
int strongest_light(const Bench& b) {
  int best = -1;
  double most = 0.0;
  for (std::size_t l = 0; b.setup && l < b.setup->lights.size(); ++l) {
    const Light& light = b.setup->lights[l];
    const double d2 = dot(light.place, light.place),
                 gives =
                     light.on ? light.full_luminance() * light.area() * light.dimmer / std::max(1e-3, d2) : 0.0;
    if (gives > most) most = gives, best = static_cast<int>(l);
  }
  return best;
}

void exposure_knobs(const Bench& b, std::vector<Knob>& list) {
  const bool light_first = b.project.rule("exposure", b.shot) == "add-light";
  const auto lights = [&] {
    if (auto k = all_dimmers_knob(b)) list.push_back(*k);
    if (const int l = strongest_light(b); l >= 0)
      list.push_back(light_distance_knob(b, static_cast<std::size_t>(l)));
  };
  if (light_first) lights();
  list.push_back(iso_knob(b));
  list.push_back(aperture_knob(b));
  list.push_back(shutter_knob(b));
  list.push_back(nd_knob(b));
  if (!light_first) lights();
}

}  // namespace

KnobList knobs_for(const Document& document, const Project& project, std::size_t shot, const Level& level) {
  // The knobs refer to the bench for as long as they live: it is kept alive by each of them.
  const auto bench = std::make_shared<Bench>(document, project, shot);
  const Bench& b = *bench;
  KnobList out;
  auto& list = out.knobs;
  const std::string& id = level.id;
  if (id == "frame.backdrop-edge")
    edge_knobs(b, list), out.why = "no change of lens, camera place or set size within reach hides the edge";
  if (id == "frame.size") {
    list.push_back(dolly_knob(b));
    if (auto k = focal_knob(b)) list.push_back(*k);
    if (auto k = lens_knob(b)) list.push_back(*k);
    out.why = "the lenses of the kit focus no nearer, and none is longer";
  }
  if (id == "light.product" || id == "camera.stops")
    exposure_knobs(b, list), out.why = "neither the lights nor the camera of this kit reach that far";
  if (id == "light.backdrop") {
    for (std::size_t l = 0; l < b.setup->lights.size(); ++l) {
      if (auto k = dimmer_knob(b, l)) list.push_back(*k);
      if (b.setup->lights[l].on) list.push_back(grid_knob(b, l)), list.push_back(light_distance_knob(b, l));
    }
    const Backdrop& drop = b.setup->backdrop;
    list.push_back(member_knob(b, b.setup_path + "/backdrop/distance", drop.distance,
                               even_steps(0.2, drop.distance + 3, 0.1), "Stand the backdrop", 5,
                               "room behind the table", true));
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
             return fmt::format("Hang a {} backdrop, reflecting {} % instead of {} %",
                                v < tone ? "darker" : "paler", number_text(v * 100, 2),
                                number_text(tone * 100, 2));
           },
           6, "that backdrop", true});
    out.why = "no light, grid, distance or cloth of this kit moves the backdrop that far";
  }
  if (id == "light.highlight") {
    for (std::size_t l = 0; b.setup && l < b.setup->lights.size(); ++l)
      if (auto k = dimmer_knob(b, l)) list.push_back(*k);
    if (auto k = all_dimmers_knob(b)) list.push_back(*k);
    list.push_back(iso_knob(b)), list.push_back(aperture_knob(b)), list.push_back(shutter_knob(b)),
        list.push_back(nd_knob(b));
    out.why = "neither the lights nor the camera of this kit reach that far";
  }
  if (id == "light.white")
    white_knobs(b, list), out.why = "no gel or setting of the kit meets the camera's balance";
  if (id == "motion.smear") {
    const double t = b.camera.shutter_time;
    if (auto k = slower_table_knob(b)) list.push_back(*k);
    list.push_back(shutter_knob(b));
    list.push_back(paid_in_iso(b, shutter_knob(b), [t](double v) { return std::log2(t / v); }));
    list.push_back(dolly_knob(b));
    if (auto k = focal_knob(b)) list.push_back(*k);
    out.why = "no shutter of this camera is short enough";
  }
  if (id == "motion.slow") {
    list.push_back(speed_knob(b));
    if (auto k = mode_knob(b)) {
      list.push_back(*k);
      if (b.shot.slow) {  // another rate, and the film played as slow as was asked
        const double speed = 1.0 / *b.shot.slow;
        const Knob play = speed_knob(b);
        list.push_back({k->steps, k->current,
                        [turn = k->apply, slow = play.apply, speed](const Document& d, double v) {
                          const Maybe next = turn(d, v);
                          return next ? slow(*next, speed) : Maybe();
                        },
                        [title = k->title, speed](double v) {
                          return fmt::format("{}, and play at {} %", title(v), number_text(speed * 100, 3));
                        },
                        0.5, "", false});
      }
    }
    out.why = "no mode of this camera records enough frames";
  }
  if (id == "motion.length") {
    const double frame = 1.0 / project.timeline_rate;
    std::vector<double> steps;
    for (int k = 1; k <= 4000; ++k) steps.push_back(k * frame);
    list.push_back({steps, b.shot.screen_time,
                    [&b](const Document& d, double v) {
                      return set(d, b.shot_path + "/screen_time", std::round(v * 1e6) / 1e6);
                    },
                    [&b](double v) {
                      return fmt::format("{} the shot from {} s to {} s",
                                         v < b.shot.screen_time ? "Shorten" : "Lengthen",
                                         fixed_text(b.shot.screen_time, 2), fixed_text(v, 2));
                    },
                    0, "", false});
    out.why = "the shot would have no length left";
  }
  if (id == "motion.load") load_knobs(b, list), out.why = "no turntable of the kit carries it";
  if (id == "focus.depth") {
    const double n = b.camera.f_number;
    if (!b.shot.track("camera.focus"))
      list.push_back(
          {even_steps(std::max(b.camera.focal * 1.1, b.camera.focus * 0.7), b.camera.focus * 1.4, 0.001),
           b.camera.focus, [&b](const Document& d, double v) { return set(d, b.camera_path + "/focus", v); },
           [&b](double v) {
             return fmt::format("Focus at {} instead of {}", fixed_text(v, 3) + " m",
                                fixed_text(b.camera.focus, 3) + " m");
           },
           0.5, "", false});
    list.push_back(aperture_knob(b));
    list.push_back(paid_in_iso(b, aperture_knob(b), [n](double v) { return 2 * std::log2(v / n); }));
    list.push_back(dolly_knob(b));
    out.why = "the lens does not stop down far enough";
  }
  if (id == "camera.iso") {
    const double iso = b.camera.iso, n = b.camera.f_number;
    list.push_back(iso_knob(b));
    // Paid in aperture: ISO down, the lens open by as much.
    list.push_back({isos(b), iso,
                    [&b, iso, n](const Document& d, double v) {
                      const auto values = f_numbers(b);
                      const double wanted = n * std::sqrt(v / iso), f = nearest(values, wanted);
                      if (values.empty() || std::abs(2 * std::log2(f / wanted)) > 0.2) return Maybe();
                      return set(set(d, b.camera_path + "/iso", v), b.camera_path + "/f_number", f);
                    },
                    [&b, iso, n](double v) {
                      return fmt::format("ISO from {} to {} and f/{} to f/{}", number_text(iso, 6),
                                         number_text(v, 6), number_text(n, 3),
                                         number_text(nearest(f_numbers(b), n * std::sqrt(v / iso)), 3));
                    },
                    0.4, "", false});
    out.why = "the camera's lowest ISO is above the limit";
  }
  if (id == "camera.shutter") {
    const double t = b.camera.shutter_time;
    list.push_back(shutter_knob(b));
    list.push_back(paid_in_iso(b, shutter_knob(b), [t](double v) { return std::log2(t / v); }));
    out.why = "no shutter time of this mode meets the rule";
  }
  for (Knob& k : list) {
    k.apply = [bench, apply = std::move(k.apply)](const Document& d, double v) { return apply(d, v); };
    k.title = [bench, title = std::move(k.title)](double v) { return title(v); };
  }
  return out;
}

}  // namespace cinnabar
