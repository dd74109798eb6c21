// Knobs of the camera and of what moves.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levers/bench.h"
#include "cinnabar/planning/modes.h"

namespace cinnabar {

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
            return said("{} ISO from {} to {}", v > b.camera.iso ? "Raise" : "Lower", number_text(b.camera.iso, 6),
                        number_text(v, 6));
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
            return said("{} from f/{} to f/{}", v < b.camera.f_number ? "Open" : "Stop down",
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
            return said("Shutter from {} to {}", shutter_text(b.camera.shutter_time), shutter_text(v));
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
            return v > b.camera.nd_stops ? said("Neutral density from {} to {} stops",
                                                number_text(b.camera.nd_stops), number_text(v))
                                         : said("Take neutral density down to {} stops", number_text(v));
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
Knob paid_in_iso(const Bench& b, const Knob& knob, const std::function<double(double)>& stops) {
  const auto values = isos(b);
  const auto paid = [&b, values, stops](double v) { return nearest(values, b.camera.iso * std::exp2(stops(v))); };
  const auto reaches = [&b, stops, paid](double v) {
    return paid(v) != b.camera.iso && std::abs(std::log2(paid(v) / (b.camera.iso * std::exp2(stops(v))))) < 0.2;
  };
  return {knob.steps,
          knob.current,
          [&b, turn = knob.apply, paid, reaches](const Document& d, double v) {
            return reaches(v) ? set(turn(d, v), b.camera_path + "/iso", paid(v)) : Maybe();
          },
          [&b, title = knob.title, paid](double v) {
            return said("{} and ISO from {} to {}", title(v), number_text(b.camera.iso, 6),
                        number_text(paid(v), 6));
          },
          knob.minutes + 0.2,
          knob.gear,
          knob.shared};
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
            if (focus < least || to.y < 0.0) return Maybe();
            Maybe next = set(set(d, b.camera_path + "/place", point(to)), b.camera_path + "/focus",
                             std::round(focus * 1e5) / 1e5);
            for (std::size_t i = 0; i < b.shot.tracks.size(); ++i) {  // the marks go along
              if (!is_target(b.shot.tracks[i].target, Tracked::camera_focus)) continue;
              Json keys = Json::array();
              for (const auto& [t, mark] : b.shot.tracks[i].keys) {
                if (mark + (v - now) < least) return Maybe();
                keys.push_back({t, std::round((mark + (v - now)) * 1e5) / 1e5});
              }
              next = set(next, fmt::format("{}/tracks/{}/keys", b.shot_path, i), keys);
            }
            return next;
          },
          [&b, now](double v) {
            return said("Move the camera {} from {} to {}, focus with it", v < now ? "in" : "back", b.len(now),
                        b.len(v));
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
                return said("Zoom from {} to {} mm", number_text(b.camera.focal * 1e3, 3),
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
    if (b.project.lenses[i]->holding.owned) steps.push_back(static_cast<double>(i));
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
                return said("Change to {}", l.name.empty() ? l.id : l.name);
              },
              3,
              "that lens",
              false};
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
                           angle_kept(b.camera.shutter_time, b.optics.rate, m.rate));
              },
              [body](double v) {
                return "Record " + mode_text(body->modes[static_cast<std::size_t>(v)]) + ", shutter angle kept";
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
            return said("Play at {} % instead of {} %", number_text(v * 100, 3), number_text(now * 100, 3));
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
    if (is_target(b.shot.tracks[i].target, Tracked::turntable)) track = &b.shot.tracks[i], index = i;
  if (!track || track->keys.size() < 2) return std::nullopt;
  return Knob{even_steps(1.0, 12.0, 0.05),
              1.0,
              [&b, track, index](const Document& d, double v) {
                Json keys = Json::array();
                for (const auto& [t, angle] : track->keys) keys.push_back({std::round(t * v * 1e4) / 1e4, angle});
                return set(d, fmt::format("{}/tracks/{}/keys", b.shot_path, index), keys);
              },
              [](double v) { return said("Turn the table {} times slower", number_text(v, 3)); },
              0.5,
              "",
              false};
}

// What rows of the level table name.
void iso_knobs(const Bench& b, std::vector<Knob>& list) { list.push_back(iso_knob(b)); }
void aperture_knobs(const Bench& b, std::vector<Knob>& list) { list.push_back(aperture_knob(b)); }
void shutter_knobs(const Bench& b, std::vector<Knob>& list) { list.push_back(shutter_knob(b)); }
void nd_knobs(const Bench& b, std::vector<Knob>& list) { list.push_back(nd_knob(b)); }
void dolly_knobs(const Bench& b, std::vector<Knob>& list) { list.push_back(dolly_knob(b)); }
void zoom_knobs(const Bench& b, std::vector<Knob>& list) {
  if (auto k = focal_knob(b)) list.push_back(std::move(*k));
}
void lens_knobs(const Bench& b, std::vector<Knob>& list) {
  if (auto k = lens_knob(b)) list.push_back(std::move(*k));
}
void mode_knobs(const Bench& b, std::vector<Knob>& list) {
  if (auto k = mode_knob(b)) list.push_back(std::move(*k));
}
void shutter_for_iso_knobs(const Bench& b, std::vector<Knob>& list) {
  list.push_back(
      paid_in_iso(b, shutter_knob(b), [t = b.camera.shutter_time](double v) { return std::log2(t / v); }));
}
void aperture_for_iso_knobs(const Bench& b, std::vector<Knob>& list) {
  list.push_back(
      paid_in_iso(b, aperture_knob(b), [n = b.camera.f_number](double v) { return 2 * std::log2(v / n); }));
}
void iso_for_aperture_knobs(const Bench& b, std::vector<Knob>& list) {
  const double iso = b.camera.iso, n = b.camera.f_number;
  // Paid in aperture: ISO down, the lens open by as much.
  list.push_back({isos(b), iso,
                  [&b, iso, n](const Document& d, double v) {
                    const auto values = f_numbers(b);
                    const double wanted = n * std::sqrt(v / iso), f = nearest(values, wanted);
                    if (values.empty() || std::abs(2 * std::log2(f / wanted)) > 0.2) return Maybe();
                    return set(set(d, b.camera_path + "/iso", v), b.camera_path + "/f_number", f);
                  },
                  [&b, iso, n](double v) {
                    return said("ISO from {} to {} and f/{} to f/{}", number_text(iso, 6), number_text(v, 6),
                                number_text(n, 3), number_text(nearest(f_numbers(b), n * std::sqrt(v / iso)), 3));
                  },
                  0.4, "", false});
}
void refocus_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.shot.track(Tracked::camera_focus))
    list.push_back(
        {even_steps(std::max(b.camera.focal * 1.1, b.camera.focus * 0.7), b.camera.focus * 1.4, 0.001),
         b.camera.focus, [&b](const Document& d, double v) { return set(d, b.camera_path + "/focus", v); },
         [&b](double v) {
           return said("Focus at {} instead of {}", fixed_text(v, 3) + " m", fixed_text(b.camera.focus, 3) + " m");
         },
         0.5, "", false});
}

}  // namespace cinnabar
