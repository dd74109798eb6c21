#include "cinnabar/forecast/stops/find_stops.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levers/bench.h"

namespace cinnabar {
namespace {

constexpr double slack = 1.0 / 6;      // stop; half of what camera.stops allows
constexpr double least_dimmer = 0.02;  // of a light; common practice, no source
constexpr std::size_t most_shown = 6;

struct Setting {
  double n, t, s, nd, light;  // f-number, time, ISO, filters, change of the light in stops

  /// Less of each is better: noise, depth, smear, filters, and lights that are touched.
  [[nodiscard]] std::array<double, 5> costs() const {
    return {std::log2(s), -2.0 * std::log2(n), std::log2(t), nd, std::abs(light) < slack ? 0.0 : std::abs(light)};
  }
};
using Costs = std::array<double, 5>;
bool beats(const Costs& ca, const Costs& cb) {
  bool better = false;
  for (std::size_t i = 0; i < ca.size(); ++i) {
    if (ca[i] > cb[i] + 1e-9) return false;
    better = better || ca[i] < cb[i] - 1e-9;
  }
  return better;
}

/// Of values of one setting, those at which a level that needs no light stands, or else those nearest to it.
std::vector<double> standing(const Forecaster& forecaster, const Bench& b, const std::vector<double>& values,
                             const std::string& member, const std::vector<std::string>& levels) {
  std::vector<std::pair<int, double>> ranked;
  ProjectReader reader;  // what does not change is read once
  for (const double v : values) {
    const auto with = set(b.doc, b.camera_path + member, v);
    if (!with) continue;
    const Project project = reader.read(*with);
    int off = 0;
    for (const std::string& id : levels)
      for (const Level& level : forecaster.levels(project, b.index, id)) off += level.state == State::out ? 1 : 0;
    ranked.emplace_back(off, v);
  }
  if (ranked.empty()) return values;
  const int least = std::min_element(ranked.begin(), ranked.end())->first;
  std::vector<double> kept;
  for (const auto& [off, v] : ranked)
    if (off == least) kept.push_back(v);
  return kept;
}

/// The document with a setting in it.
std::optional<Document> dialled(const Bench& b, const Setting& one) {
  Maybe next = set(set(set(set(b.doc, b.camera_path + "/f_number", one.n), b.camera_path + "/shutter_time", one.t),
                       b.camera_path + "/iso", one.s),
                   b.camera_path + "/nd_stops", one.nd);
  if (std::abs(one.light) < slack) return next;
  for (std::size_t l = 0; b.setup && l < b.setup->lights.size(); ++l) {
    const Light& light = b.setup->lights[l];
    if (!light.on || light.daylight || light.dimmer <= 0.0 || b.shot.track("light." + light.id + ".dimmer"))
      continue;
    next = set(next, b.light_path(l) + "/dimmer",
               std::round(1e4 * std::clamp(light.dimmer * std::exp2(one.light), 0.001, 1.0)) / 1e4);
  }
  return next;
}

}  // namespace

const std::vector<std::string>& stops_pins() {
  static const std::vector<std::string> all{"iso", "aperture", "shutter", "rate", "nd", "lights"};
  return all;
}

Expected<StopsFound> find_stops(const Forecaster& forecaster, const Document& document, std::size_t shot,
                                const std::set<std::string>& pins, const std::atomic<bool>* cancel) {
  ProjectReader reader;
  const Project project = reader.read(document);
  const Bench b(document, project, shot);
  const std::string place = fmt::format("shot {}", shot + 1);
  if (!b.shot.camera) return fail(place, "has no camera", "give it one");
  const auto light = forecaster.sure_levels(project, shot, "camera.stops", cancel);
  if (light.empty() || !light.front().value)
    return fail(place, light.empty() ? "has no light to be exposed for" : light.front().formula, "light it first");
  const double over = *light.front().value;  // + is too much light
  const auto held = [&pins](const char* name) { return pins.contains(name); };
  const ShotCamera& now = b.camera;

  // What may be dialled.
  double most_iso = b.optics.iso_high;
  for (const Level& level : forecaster.levels(project, shot, "camera.iso"))
    if (level.band.high) most_iso = std::min(most_iso, *level.band.high);
  std::vector<double> s =
      held("iso") ? std::vector{now.iso} : within(isos(b), b.optics.iso_low, std::max(most_iso, b.optics.iso_low));
  std::vector<double> n = held("aperture") ? std::vector{now.f_number}
                                           : standing(forecaster, b, f_numbers(b), "/f_number",
                                                      {"focus.depth", "focus.diffraction", "focus.hides-edge"});
  std::vector<double> t = held("shutter") ? std::vector{now.shutter_time}
                                          : standing(forecaster, b, shutter_knob(b).steps, "/shutter_time",
                                                     {"camera.shutter", "motion.smear"});
  std::vector<double> nd = held("nd") ? std::vector{now.nd_stops} : even_steps(0, 6, 1);
  double up = 0.0, down = 0.0;
  if (!held("lights") && b.setup) {
    double most = 0.0;
    for (const Light& l : b.setup->lights)
      if (l.on && !l.daylight && !b.shot.track("light." + l.id + ".dimmer")) most = std::max(most, l.dimmer);
    if (most > 0.0) up = -std::log2(most), down = std::max(0.0, std::log2(most / least_dimmer));
  }

  StopsFound out;
  std::vector<Setting> fitting;
  double missing = unbounded;
  for (const double f : n)
    for (const double time : t)
      for (const double filter : nd) {
        // Of all ISOs that fit, the least, and the one that leaves the lights most as they are.
        const Setting* chosen[2] = {nullptr, nullptr};
        std::vector<Setting> of_iso;
        of_iso.reserve(s.size());
        for (const double iso : s) {
          const double have = over + std::log2(iso / now.iso) + 2.0 * std::log2(now.f_number / f) +
                              std::log2(time / now.shutter_time) - (filter - now.nd_stops);
          const double wants = -have;  // of the light
          if (wants > up + slack || wants < -down - slack) {
            const double miss = wants > 0 ? wants - up - slack : wants + down + slack;
            if (std::abs(miss) < std::abs(missing)) missing = miss;
            continue;
          }
          of_iso.push_back({f, time, iso, filter, std::clamp(wants, -down, up)});
        }
        for (const Setting& one : of_iso) {
          if (!chosen[0] || one.s < chosen[0]->s) chosen[0] = &one;
          if (!chosen[1] || std::abs(one.light) < std::abs(chosen[1]->light)) chosen[1] = &one;
        }
        for (const Setting* one : chosen)
          if (one) fitting.push_back(*one);
      }
  if (fitting.empty()) {
    out.short_stops = std::isfinite(missing) ? missing : 0.0;
    return out;
  }
  std::vector<Costs> costs;
  for (const Setting& one : fitting) costs.push_back(one.costs());
  std::vector<Setting> front;
  for (std::size_t i = 0; i < fitting.size(); ++i)
    if (std::none_of(costs.begin(), costs.end(), [&](const Costs& other) { return beats(other, costs[i]); }))
      front.push_back(fitting[i]);
  missing = unbounded;  // of what is staged, from here on
  const bool stop_down = project.rule("exposure", b.shot) == "stop-down";
  std::sort(front.begin(), front.end(), [stop_down](const Setting& a, const Setting& c) {
    return stop_down ? std::tuple(-a.n, a.s, a.nd, -a.t) < std::tuple(-c.n, c.s, c.nd, -c.t)
                     : std::tuple(a.s, a.nd, a.n, -a.t) < std::tuple(c.s, c.nd, c.n, -c.t);
  });
  // The rule's best, then ever the one farthest from those that are shown.
  std::vector<Setting> shown{front.front()};
  const auto apart = [](const Setting& a, const Setting& c) {
    const auto ca = a.costs(), cc = c.costs();
    double sum = 0.0;
    for (std::size_t i = 0; i < ca.size(); ++i) sum += (ca[i] - cc[i]) * (ca[i] - cc[i]);
    return sum;
  };
  while (shown.size() < 2 * most_shown && shown.size() < front.size()) {
    const Setting* next = nullptr;
    double farthest = 0.05;
    for (const Setting& one : front) {
      double nearest = unbounded;
      for (const Setting& known : shown) nearest = std::min(nearest, apart(one, known));
      if (nearest > farthest) farthest = nearest, next = &one;
    }
    if (!next) break;
    shown.push_back(*next);
  }
  for (const Setting& one : shown) {
    if (out.list.size() >= most_shown || (cancel && cancel->load())) break;
    auto after = dialled(b, one);
    if (!after) continue;
    const Project then = reader.read(*after);
    StopsAnswer answer;
    answer.levels = forecaster.levels(then, shot, {}, cancel);
    const auto stands = std::find_if(answer.levels.begin(), answer.levels.end(),
                                     [](const Level& l) { return l.id == "camera.stops"; });
    if (stands == answer.levels.end() || !stands->value) continue;
    if (stands->state == State::out) {  // the light itself changes by more than the band during the shot
      if (std::abs(*stands->value) < std::abs(missing)) missing = -*stands->value;
      continue;
    }
    const bool lights = std::abs(one.light) >= slack;
    answer.iso = one.s, answer.f_number = one.n, answer.shutter_time = one.t, answer.nd_stops = one.nd,
    answer.rate = b.optics.rate;
    answer.light_stops = lights ? one.light : 0.0;
    answer.title = said("f/{}, {}, ISO {}", number_text(one.n, 3), shutter_text(one.t), number_text(one.s, 6));
    if (one.nd > 0) answer.title += said(", filters of {} stops", number_text(one.nd, 3));
    if (lights) answer.title += said("; lights {} stops", signed_text(one.light, 1));
    if (const Setup* setup = by_id(then.setups, b.shot.setup))
      for (const Light& l : setup->lights)
        if (l.on) answer.lights.push_back({l.id, l.dimmer, l.place});
    answer.minutes = 0.2 * ((one.s != now.iso) + (one.n != now.f_number) + (one.t != now.shutter_time)) +
                     (one.nd != now.nd_stops ? 1.0 : 0.0) +
                     (lights ? 0.5 * static_cast<double>(answer.lights.size()) : 0.0);
    if (one.nd > now.nd_stops)
      answer.gear.push_back(said("neutral density filter, {} stops", number_text(one.nd, 3)));
    answer.after = *std::move(after);
    out.list.push_back(std::move(answer));
  }
  if (out.list.empty() && std::isfinite(missing)) out.short_stops = missing;
  return out;
}

}  // namespace cinnabar
