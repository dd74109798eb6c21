// Knobs of tracks, modes and what is written on: turns and moves in time, and the kit that carries them.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levels/runs.h"
#include "cinnabar/forecast/levers/bench.h"

namespace cinnabar {
namespace {

/// The shot with other keys on a track: `changed` gives each one's moment and value.
template <class From, class Changed>
Maybe with_keys(const Bench& b, const From& from, std::size_t track, const Changed& changed) {
  Json keys = Json::array();
  for (const auto& [t, value] : b.shot.tracks[track].keys) keys.push_back(changed(t, value));
  return set(from, fmt::format("{}/tracks/{}/keys", b.shot_path, track), keys);
}

/// The same values over more or less set time, about one moment that stays; `targets` are the tracks stretched.
std::optional<Knob> stretch_knob(const Bench& b, const std::vector<Tracked>& targets, double about,
                                 const std::string& what) {
  std::vector<std::size_t> which;
  for (std::size_t i = 0; i < b.shot.tracks.size(); ++i)
    if (const auto own = tracked(b.shot.tracks[i].target);
        own && std::find(targets.begin(), targets.end(), *own) != targets.end() &&
        b.shot.tracks[i].keys.size() > 1)
      which.push_back(i);
  if (which.empty()) return std::nullopt;
  std::vector<double> steps;
  for (int k = -40; k <= 60; ++k)
    if (k) steps.push_back(std::exp2(k / 15.0));
  return Knob{steps,
              1.0,
              [&b, which, about](const Document& d, double v) {
                Maybe next = d;
                for (const std::size_t i : which)
                  next = with_keys(b, next, i, [&](double t, double value) {
                    return Json{std::round((about + (t - about) * v) * 1e4) / 1e4, value};
                  });
                return next;
              },
              [what](double v) {
                return v > 1 ? said("{} {} times slower", what, number_text(v, 3))
                             : said("{} {} times faster", what, number_text(1 / v, 3));
              },
              0.5,
              "",
              false};
}

std::optional<std::size_t> track_index(const Bench& b, Tracked what, const std::string& id = {}) {
  for (std::size_t i = 0; i < b.shot.tracks.size(); ++i)
    if (is_target(b.shot.tracks[i].target, what, id)) return i;
  return std::nullopt;
}

}  // namespace

void facing_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.shot.facing) return;
  std::size_t index = 0;
  const Product* product = nullptr;
  for (std::size_t i = 0; i < b.shot.products.size() && !product; ++i)
    if (const Product* p = by_id(b.project.products, b.shot.products[i].product); p && p->label)
      product = p, index = i;
  if (!product) return;
  const FacingNeed& need = *b.shot.facing;
  const double middle = std::min(b.shot.screen_time, need.at + need.lasting / 2);
  const double at = b.shot.clock.set_at(middle), asked = b.shot.clock.set_at(need.at);
  const double turn = product_at(b.project, b.shot, b.shot.products[index], at).turn_deg;
  const double off = std::remainder(product->label->bearing_deg + turn - need.bearing_deg, 360.0);
  const double start = b.shot.products[index].turn_deg, to = std::remainder(start - off, 360.0);
  const std::string pointer = fmt::format("{}/products/{}/turn_deg", b.shot_path, index);
  list.push_back(solved_knob(
      [pointer, to](const Document& d) { return set(d, pointer, std::round(to * 100) / 100); },
      said("Set the product down turned to {} degrees instead of {}", number_text(to, 3), number_text(start, 3)),
      0.5));
  if (const auto i = track_index(b, Tracked::turntable); i && b.shot.tracks[*i].keys.size() > 1) {
    const KeyedTrack& track = b.shot.tracks[*i];
    const std::string keys_at = fmt::format("{}/tracks/{}/keys", b.shot_path, *i);
    list.push_back({even_steps(-20.0, 20.0, 0.02), 0.0,
                    [keys_at, &track](const Document& d, double v) {
                      Json keys = Json::array();
                      for (const auto& [t, a] : track.keys) keys.push_back({std::round((t + v) * 1e4) / 1e4, a});
                      return set(d, keys_at, keys);
                    },
                    [](double v) {
                      return said("Start the turn {} s {}", fixed_text(std::abs(v), 2),
                                  v < 0 ? "earlier" : "later");
                    },
                    0.2, "", false, 0.01});
    if (auto k = stretch_knob(b, {Tracked::turntable}, asked, "Turn the table")) list.push_back(*k);
    // Both: turned so that the label is square in the middle of the time asked, and slower about that moment.
    if (auto k = stretch_knob(b, {Tracked::turntable}, at, "Turn the table")) {
      Knob both = *k;
      both.apply = [turn = k->apply, pointer, to](const Document& d, double v) {
        return set(turn(d, v), pointer, std::round(to * 100) / 100);
      };
      both.title = [title = k->title, to](double v) {
        return said("{}, the product set down turned to {} degrees", title(v), number_text(to, 3));
      };
      list.push_back(both);
    }
  }
}

/// The turntable slower, the moment at which the label must be read staying where it is.
void slower_about_facing_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.shot.facing) return;
  if (auto k = stretch_knob(b, {Tracked::turntable}, b.shot.clock.set_at(b.shot.facing->at), "Turn the table"))
    list.push_back(std::move(*k));
}

void feature_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup) return;
  list.push_back(dolly_knob(b));
  if (auto k = focal_knob(b)) list.push_back(*k);
  if (auto k = lens_knob(b)) list.push_back(*k);
  const double n = b.camera.f_number;
  list.push_back(paid_in_iso(b, aperture_knob(b), [n](double v) { return 2 * std::log2(v / n); }));
  list.push_back(aperture_knob(b));
  list.push_back(iso_knob(b));
  if (auto k = all_dimmers_knob(b)) list.push_back(*k);
}

void peak_knobs(const Bench& b, std::vector<Knob>& list) {
  std::vector<std::size_t> which;
  for (const auto what : {Tracked::light_dimmer, Tracked::light_turn})
    if (const auto i = track_index(b, what, b.shot.peak_light)) which.push_back(*i);
  if (which.empty()) return;
  const double span = b.shot.set_time();
  list.push_back(scanned({even_steps(-std::ceil(span), std::ceil(span), 0.05), 0.0,
                          [&b, which](const Document& d, double v) {
                            Maybe next = d;
                            for (const std::size_t i : which)
                              next = with_keys(b, next, i, [&](double t, double value) {
                                return Json{std::round((t + v) * 1e4) / 1e4, value};
                              });
                            return next;
                          },
                          [](double v) {
                            return said("Let the light come {} s {}", fixed_text(std::abs(v), 2),
                                        v < 0 ? "earlier" : "later");
                          },
                          0.2, "", false, 0.01}));
}

void lean_less_knobs(const Bench& b, std::vector<Knob>& list) {
  for (std::size_t i = 0; i < b.shot.tracks.size(); ++i) {
    const KeyedTrack& track = b.shot.tracks[i];
    if (tracked(track.target) != Tracked::product_tilt) continue;
    double most = 0.0;
    for (const auto& [t, value] : track.keys) most = std::max(most, std::abs(value));
    if (most < 1.0) continue;
    list.push_back({even_steps(1.0, most, 1.0), most,
                    [&b, i, most](const Document& d, double v) {
                      return with_keys(b, d, i, [&](double t, double value) {
                        return Json{t, rounded(value * v / most, 2)};
                      });
                    },
                    [most](double v) {
                      return said("Lean it by {}° instead of {}°", number_text(v, 3), number_text(most, 3));
                    },
                    0.2, "", false});
  }
}

void judder_knobs(const Bench& b, std::vector<Knob>& list) {
  if (auto k = stretch_knob(b, {Tracked::camera_slide, Tracked::camera_pan, Tracked::camera_tilt}, 0.0,
                            "Move the camera"))
    list.push_back(*k);
  for (const auto what : {Tracked::camera_slide, Tracked::camera_pan, Tracked::camera_tilt}) {
    const auto i = track_index(b, what);
    if (!i) continue;
    const KeyedTrack& track = b.shot.tracks[*i];
    const std::string name(kind_of(what).what);
    list.push_back({even_steps(0.02, 0.98, 0.02), 1.0,
                    [&b, first = track.keys[0].second, i](const Document& d, double v) {
                      return with_keys(b, d, *i, [&](double t, double value) {
                        return Json{t, std::round((first + (value - first) * v) * 1e5) / 1e5};
                      });
                    },
                    [name](double v) { return said("Make the {} {} % as long", name, number_text(100 * v, 2)); },
                    0.2, "", false});
  }
  list.push_back(speed_knob(b));
}

namespace {

/// A track that jumps to its speed begun and ended softly; also slower or faster; or its run-up put outside the
/// shot.
void easing_knobs(const Bench& b, Tracked target, const std::string& what, std::vector<Knob>& list) {
  const auto i = track_index(b, target);
  if (!i || b.shot.tracks[*i].shape != Shape::linear || b.shot.tracks[*i].keys.size() < 2) return;
  const KeyedTrack& track = b.shot.tracks[*i];
  const std::string path = fmt::format("{}/tracks/{}", b.shot_path, *i);
  for (const char* profile : {"trapezoid-1-3", "minimum-jerk"})
    list.push_back(solved_knob([path, profile](const Document& d) { return set(d, path + "/profile", profile); },
                               said("{} with a soft start and end ({})", what, profile), 0.2));
  if (const auto stretch = stretch_knob(b, {target}, 0.0, what)) {
    Knob soft = *stretch;
    soft.apply = [apply = stretch->apply, path](const Document& d, double v) {
      return set(apply(d, v), path + "/profile", "minimum-jerk");
    };
    soft.title = [title = stretch->title](double v) { return said("{}, with a soft start and end", title(v)); };
    list.push_back(soft);
  }
  if (track.keys.size() != 2) return;
  const auto [t0, v0] = track.keys.front();
  const auto [t1, v1] = track.keys.back();
  const double slope = (v1 - v0) / (t1 - t0), end = b.shot.set_time();
  const double from = std::min(t0, 0.0), to = std::max(t1, end);
  list.push_back(solved_knob(
      [path, from, to, a = v0 + slope * (from - t0), z = v1 + slope * (to - t1)](const Document& d) {
        const auto tidy = [](double x) { return std::round(x * 1e5) / 1e5; };
        return set(d, path + "/keys", Json{{tidy(from), tidy(a)}, {tidy(to), tidy(z)}});
      },
      said("{} at an even speed through the whole shot, coming to it before and to rest after", what), 0.2));
}

}  // namespace

void reach_knobs(const Bench& b, std::vector<Knob>& list) {
  if (auto k = stretch_knob(b, {Tracked::turntable}, 0.0, "Turn the table")) list.push_back(*k);
  if (auto k = stretch_knob(b, {Tracked::camera_slide}, 0.0, "Move the slider")) list.push_back(*k);
  easing_knobs(b, Tracked::turntable, "Turn the table", list);
  easing_knobs(b, Tracked::camera_slide, "Move the slider", list);
  easing_knobs(b, Tracked::camera_pan, "Pan", list);
  easing_knobs(b, Tracked::camera_tilt, "Tilt", list);
  judder_knobs(b, list);
  load_knobs(b, list);
}

void loop_knobs(const Bench& b, std::vector<Knob>& list) {
  const auto i = track_index(b, Tracked::turntable);
  if (!i) return;
  const KeyedTrack& track = b.shot.tracks[*i];
  const double end = b.shot.set_time(), turn = track.at(end) - track.at(0.0);
  const double whole = 360.0 * std::max(1.0, std::round(std::abs(turn) / 360.0)) * (turn < 0 ? -1.0 : 1.0);
  const std::string keys_at = fmt::format("{}/tracks/{}/keys", b.shot_path, *i);
  if (turn != 0.0)
    list.push_back(solved_knob(
        [keys_at, &track, scale = whole / turn](const Document& d) {
          Json keys = Json::array();
          const double first = track.keys.front().second;
          for (const auto& [t, a] : track.keys)
            keys.push_back({t, std::round((first + (a - first) * scale) * 1e4) / 1e4});
          return set(d, keys_at, keys);
        },
        said("Turn {} degrees in all instead of {}", number_text(whole, 6), number_text(turn, 5)), 0.2));
  list.push_back(solved_knob(
      [keys_at, end, whole](const Document& d) {
        return set(d, keys_at, Json{{0.0, 0.0}, {std::round(end * 1e6) / 1e6, whole}});
      },
      said("Turn {} degrees evenly over the shot's {} s", number_text(whole, 6), number_text(end, 4)), 0.2));
}

void pull_knobs(const Bench& b, std::vector<Knob>& list) {
  const auto i = track_index(b, Tracked::camera_focus);
  if (!i) return;
  const KeyedTrack& track = b.shot.tracks[*i];
  const std::string keys_at = fmt::format("{}/tracks/{}/keys", b.shot_path, *i);
  if (auto k = stretch_knob(b, {Tracked::camera_focus}, 0.0, "Pull the focus")) list.push_back(*k);
  double sum = 0.0;
  for (const auto& [t, focus] : track.keys) sum += focus / static_cast<double>(track.keys.size());
  list.push_back({even_steps(0.05, 0.95, 0.05), 1.0,
                  [keys_at, &track, sum](const Document& d, double v) {
                    Json keys = Json::array();
                    for (const auto& [t, x] : track.keys)
                      keys.push_back({t, std::round((sum + (x - sum) * v) * 1e4) / 1e4});
                    return set(d, keys_at, keys);
                  },
                  [](double v) { return said("Set the marks {} % as far apart", number_text(100 * v, 2)); }, 0.5,
                  "", false});
  const LensSpec* lens = by_id(b.project.lenses, b.camera.lens);
  if (lens && lens->close_focus > 0.0)
    list.push_back(solved_knob(
        [keys_at, &track, least = lens->close_focus](const Document& d) {
          Json keys = Json::array();
          for (const auto& [t, x] : track.keys) keys.push_back({t, std::max(x, least)});
          return set(d, keys_at, keys);
        },
        "Set the nearest mark at the lens's nearest focus", 0.5));
}

void lock_knobs(const Bench& b, std::vector<Knob>& list) {
  list.push_back(solved_knob(
      [path = b.camera_path](const Document& d) {
        return set(d, path + "/locked",
                   Json{{"white", true}, {"exposure", true}, {"focus", true}, {"stabiliser_off", true}});
      },
      "Lock white, exposure and focus by hand, stabiliser off", 1));
}

void fewer_takes_knobs(const Bench& b, std::vector<Knob>& list) {
  const double planned = b.shot.takes_planned.value_or(0.0);
  list.push_back(
      {even_steps(1.0, std::max(1.0, planned - 1.0), 1.0), planned,
       [&b](const Document& d, double v) { return set(d, b.shot_path + "/takes_planned", v); },
       [planned](double v) { return said("Plan {} takes instead of {}", number_text(v), number_text(planned)); },
       0, "", false});
}

void sooner_reset_knobs(const Bench& b, std::vector<Knob>& list) {
  const double now = b.shot.own_reset_minutes;
  if (now > 0.5)
    list.push_back({even_steps(0.5, now - 0.5, 0.5), now,
                    [&b](const Document& d, double v) { return set(d, b.shot_path + "/reset_minutes", v); },
                    [now](double v) {
                      return said("Reset within {} minutes instead of {}", number_text(v), number_text(now));
                    },
                    0, "another pair of hands", false});
}

void media_knobs(const Bench& b, std::vector<Knob>& list) {
  for (const auto& [key, amount, noun] :
       {std::tuple{"media", "gigabytes", "card"}, std::tuple{"batteries", "watt_hours", "battery"}}) {
    const auto& own = std::string(key) == "media" ? b.project.media : b.project.batteries;
    if (own.empty()) continue;
    list.push_back({{1, 2, 3, 4, 5, 6, 8, 10, 15, 20},
                    0.0,
                    [key = std::string(key), amount = std::string(amount), first = *own.front(),
                     count = own.size()](const Document& d, double v) {
                      const auto was = value_at(d, "/kit/" + key);
                      Json items = was && was->is_array() ? *was : Json::array();
                      if (items.empty()) return Maybe();
                      for (int k = 0; k < static_cast<int>(v); ++k) {
                        Json more = items[0];
                        more["id"] = fmt::format("{}-{}", first.id, count + 1 + static_cast<std::size_t>(k));
                        items.push_back(more);
                      }
                      return set(d, "/kit/" + key, items);
                    },
                    [noun = std::string(noun)](double v) {
                      return v == 1 ? said("Bring one more {}", noun)
                                    : said("Bring {} more, each another {}", number_text(v), noun);
                    },
                    1,
                    std::string("more of them"),
                    false});
  }
  fewer_takes_knobs(b, list);
  if (auto k = mode_knob(b)) list.push_back(*k);
}

void crop_knobs(const Bench& b, std::vector<Knob>& list) {
  if (b.shot.crop_share < 1.0)
    list.push_back(
        {even_steps(0.05, 1.0, 0.05), b.shot.crop_share,
         [&b](const Document& d, double v) { return set(d, b.shot_path + "/crop_share", v); },
         [](double v) { return said("Crop to {} % of the frame at the least", number_text(100 * v, 2)); }, 0, "",
         false});
  if (auto k = mode_knob(b)) list.push_back(*k);
}

void behind_knobs(const Bench& b, std::vector<Knob>& list) {
  if (!b.setup) return;
  const double n = b.camera.f_number;
  list.push_back(paid_in_iso(b, aperture_knob(b), [n](double v) { return 2 * std::log2(v / n); }));
  list.push_back(aperture_knob(b));
  if (b.setup->backdrop.kind != BackdropKind::none)
    list.push_back(member_knob(b, b.setup_path + "/backdrop/distance", b.setup->backdrop.distance,
                               even_steps(b.setup->backdrop.distance, b.setup->backdrop.distance + 4, 0.1),
                               "Stand the backdrop farther", 5, "room behind the table", true));
  list.push_back(dolly_knob(b));
  if (auto k = focal_knob(b)) list.push_back(*k);
  if (auto k = lens_knob(b)) list.push_back(*k);
}

// Rates, speeds and lengths.
void play_speed_knobs(const Bench& b, std::vector<Knob>& list) { list.push_back(speed_knob(b)); }
void slower_table_knobs(const Bench& b, std::vector<Knob>& list) {
  if (auto k = slower_table_knob(b)) list.push_back(std::move(*k));
}
void mode_and_speed_knobs(const Bench& b, std::vector<Knob>& list) {
  const auto k = mode_knob(b);
  if (!k || !b.shot.slow) return;
  // Another rate, and the film played as slow as was asked.
  const double speed = 1.0 / *b.shot.slow;
  const Knob play = speed_knob(b);
  list.push_back({k->steps, k->current,
                  [turn = k->apply, slow = play.apply, speed](const Document& d, double v) {
                    const Maybe next = turn(d, v);
                    return next ? slow(*next, speed) : Maybe();
                  },
                  [title = k->title, speed](double v) {
                    return said("{}, and play at {} %", title(v), number_text(speed * 100, 3));
                  },
                  0.5, "", false});
}
void length_knobs(const Bench& b, std::vector<Knob>& list) {
  const double frame = 1.0 / b.project.timeline_rate;
  std::vector<double> steps;
  for (int k = 1; k <= 4000; ++k) steps.push_back(k * frame);
  list.push_back({steps, b.shot.screen_time,
                  [&b](const Document& d, double v) {
                    return set(d, b.shot_path + "/screen_time", std::round(v * 1e6) / 1e6);
                  },
                  [&b](double v) {
                    return said("{} the shot from {} s to {} s", v < b.shot.screen_time ? "Shorten" : "Lengthen",
                                fixed_text(b.shot.screen_time, 2), fixed_text(v, 2));
                  },
                  0, "", false});
}

}  // namespace cinnabar
