#include "cinnabar/forecast/stops/find_stops.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/level_table.h"
#include "cinnabar/forecast/stops/settings.h"

namespace cinnabar {
namespace {

constexpr std::size_t most_shown = 6;

using Costs = std::array<double, 5>;
/// Less of each is better: noise, depth, smear, filters, and lights that are touched.
Costs costs_of(const Setting& one) {
  return {std::log2(one.iso), -2.0 * std::log2(one.f_number), std::log2(one.shutter_time), one.nd_stops,
          std::abs(one.light) < stops_slack ? 0.0 : std::abs(one.light)};
}
bool beats(const Costs& ca, const Costs& cb) {
  bool better = false;
  for (std::size_t i = 0; i < ca.size(); ++i) {
    if (ca[i] > cb[i] + 1e-9) return false;
    better = better || ca[i] < cb[i] - 1e-9;
  }
  return better;
}

/// Of values of one setting, those at which its levels stand, or else those nearest to it.
std::vector<double> standing(const Forecaster& forecaster, const Bench& b, const std::vector<double>& values,
                             const std::string& member, const std::vector<std::string>& levels) {
  const auto counts = out_at(forecaster, b, member, values, levels);
  std::optional<int> least;
  for (const auto& count : counts)
    if (count) least = std::min(least.value_or(*count), *count);
  if (!least) return values;
  std::vector<double> kept;
  for (std::size_t i = 0; i < values.size(); ++i)
    if (counts[i] == least) kept.push_back(values[i]);
  return kept;
}

/// What may be dialled.
struct Dials {
  std::vector<double> f_numbers, shutters, isos, filters;
  DimmerRoom lights;
};
Dials dials_of(const Forecaster& forecaster, const Bench& b, const std::set<std::string>& pins) {
  const ShotCamera& now = b.camera;
  const auto held = [&pins](const char* name) { return pins.contains(name); };
  return {held("aperture") ? std::vector{now.f_number}
                           : standing(forecaster, b, f_numbers(b), "/f_number", aperture_levels()),
          held("shutter") ? std::vector{now.shutter_time}
                          : standing(forecaster, b, shutter_knob(b).steps, "/shutter_time", shutter_levels()),
          held("iso") ? std::vector{now.iso} : within(isos(b), b.optics.iso_low, highest_iso(forecaster, b)),
          held("nd") ? std::vector{now.nd_stops} : even_steps(0, 6, 1),
          held("lights") ? DimmerRoom{} : room_of(dimmers_of(b))};
}

/// Settings that take `over` stops off what the shot gets; where there are none, by how much the nearest misses.
struct Fitting {
  std::vector<Setting> list;
  double missing = unbounded;
};
Fitting fitting(const ShotCamera& now, const Dials& dials, double over) {
  Fitting out;
  const auto [up, down] = dials.lights;
  for (const double f : dials.f_numbers)
    for (const double time : dials.shutters)
      for (const double filter : dials.filters) {
        // Of all ISOs that fit, the least, and the one that leaves the lights most as they are.
        std::optional<Setting> least, gentlest;
        for (const double iso : dials.isos) {
          const double wants = -(over + std::log2(iso / now.iso) + 2.0 * std::log2(now.f_number / f) +
                                 std::log2(time / now.shutter_time) - (filter - now.nd_stops));  // of the light
          if (wants > up + stops_slack || wants < -down - stops_slack) {
            const double miss = wants > 0 ? wants - up - stops_slack : wants + down + stops_slack;
            if (std::abs(miss) < std::abs(out.missing)) out.missing = miss;
            continue;
          }
          // Lights that change by next to nothing are left alone.
          const double light = std::abs(wants) < stops_slack ? 0.0 : std::clamp(wants, -down, up);
          const Setting one{f, time, iso, filter, light};
          if (!least || iso < least->iso) least = one;
          if (!gentlest || std::abs(light) < std::abs(gentlest->light)) gentlest = one;
        }
        for (const auto& one : {least, gentlest})
          if (one) out.list.push_back(*one);
      }
  return out;
}

/// Those that no others beat, the house rule's best first.
std::vector<Setting> frontier(const std::vector<Setting>& settings, bool stop_down) {
  std::vector<Costs> costs;
  for (const Setting& one : settings) costs.push_back(costs_of(one));
  std::vector<Setting> front;
  for (std::size_t i = 0; i < settings.size(); ++i)
    if (std::none_of(costs.begin(), costs.end(), [&](const Costs& other) { return beats(other, costs[i]); }))
      front.push_back(settings[i]);
  std::sort(front.begin(), front.end(), [stop_down](const Setting& a, const Setting& c) {
    return stop_down ? std::tuple(-a.f_number, a.iso, a.nd_stops, -a.shutter_time) <
                           std::tuple(-c.f_number, c.iso, c.nd_stops, -c.shutter_time)
                     : std::tuple(a.iso, a.nd_stops, a.f_number, -a.shutter_time) <
                           std::tuple(c.iso, c.nd_stops, c.f_number, -c.shutter_time);
  });
  return front;
}

/// The first, then ever the one farthest from those that are there already.
std::vector<Setting> spread(const std::vector<Setting>& front, std::size_t most) {
  std::vector<Setting> shown{front.front()};
  const auto apart = [](const Setting& a, const Setting& c) {
    const Costs ca = costs_of(a), cc = costs_of(c);
    double sum = 0.0;
    for (std::size_t i = 0; i < ca.size(); ++i) sum += (ca[i] - cc[i]) * (ca[i] - cc[i]);
    return sum;
  };
  while (shown.size() < most && shown.size() < front.size()) {
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
  return shown;
}

/// A setting as it stands in the document that it was dialled into.
StopsAnswer answer_of(const Bench& b, const Setting& one, Document after, const Project& then,
                      std::vector<Level> levels) {
  const ShotCamera& now = b.camera;
  const bool lights = std::abs(one.light) >= stops_slack;
  StopsAnswer answer;
  answer.levels = std::move(levels);
  answer.iso = one.iso, answer.f_number = one.f_number, answer.shutter_time = one.shutter_time,
  answer.nd_stops = one.nd_stops, answer.rate = b.optics.rate, answer.light_stops = lights ? one.light : 0.0;
  answer.title = said("f/{}, {}, ISO {}", number_text(one.f_number, 3), shutter_text(one.shutter_time),
                      number_text(one.iso, 6));
  if (one.nd_stops > 0) answer.title += said(", filters of {} stops", number_text(one.nd_stops, 3));
  if (lights) answer.title += said("; lights {} stops", signed_text(one.light, 1));
  if (const Setup* setup = by_id(then.setups, b.shot.setup))
    for (const Light& l : setup->lights)
      if (l.on) answer.lights.push_back({l.id, l.dimmer, l.place});
  answer.minutes =
      0.2 * ((one.iso != now.iso) + (one.f_number != now.f_number) + (one.shutter_time != now.shutter_time)) +
      (one.nd_stops != now.nd_stops ? 1.0 : 0.0) +
      (lights ? 0.5 * static_cast<double>(answer.lights.size()) : 0.0);
  if (one.nd_stops > now.nd_stops)
    answer.gear.push_back(said("neutral density filter, {} stops", number_text(one.nd_stops, 3)));
  answer.after = std::move(after);
  return answer;
}

/// How far from the target, in stops, the levels that read the light stand best: a backdrop may want a little
/// more. Told by an ISO that no camera has; 0 where nothing is better.
double best_aim(const Forecaster& forecaster, const Bench& b, double over, const std::atomic<bool>* cancel) {
  const auto weight_at = [&](double aim) -> std::optional<std::pair<int, int>> {
    const Maybe with = set(b.doc, b.camera_path + "/iso", b.camera.iso * std::exp2(aim - over));
    if (!with || (cancel && cancel->load())) return std::nullopt;
    ProjectReader reader;
    std::pair<int, int> sum{0, 0};  // out, and all together
    for (const Level& level : forecaster.levels(reader.read(*with), b.index, {}, cancel))
      if (const LevelRow* row = level_row(level.id); row && row->sampled() && level.id != "camera.noise") {
        sum.first += level.state == State::out ? 1 : 0;
        sum.second += weight_of(level.state);
      }
    return sum;
  };
  std::vector<double> aims{0.0, 0.1, -0.1, 0.2, -0.2, 0.3, -0.3};
  if (std::abs(over) < 1.0 / 3) aims.insert(aims.begin() + 1, over);  // as it is
  double best = 0.0;
  std::optional<std::pair<int, int>> least;
  for (const double aim : aims) {
    if (least && least->second == 0) break;
    if (const auto weight = weight_at(aim); weight && (!least || *weight < *least)) least = weight, best = aim;
  }
  return best;
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
  const auto exposed = exposure_now(forecaster, b, cancel);
  if (!exposed) return tl::unexpected(exposed.error());
  const double over = exposed->middle();
  const Dials dials = dials_of(forecaster, b, pins);
  const double aim = best_aim(forecaster, b, over, cancel);
  Fitting fits = fitting(b.camera, dials, over - aim);
  if (fits.list.empty() && aim != 0.0) fits = fitting(b.camera, dials, over);  // the target itself may be in reach
  StopsFound out;
  if (fits.list.empty()) {
    out.short_stops = std::isfinite(fits.missing) ? fits.missing : 0.0;
    return out;
  }
  double missing = unbounded;  // of what is staged
  const auto front = frontier(fits.list, project.rule<ExposureRule>(b.shot) == ExposureRule::stop_down);
  for (const Setting& one : spread(front, 2 * most_shown)) {
    if (out.list.size() >= most_shown || (cancel && cancel->load())) break;
    auto after = dialled(b, one);
    if (!after) continue;
    const Project then = reader.read(*after);
    auto levels = forecaster.levels(then, shot, {}, cancel);
    const auto stands =
        std::find_if(levels.begin(), levels.end(), [](const Level& l) { return l.id == "camera.stops"; });
    if (stands == levels.end() || !stands->value) continue;
    if (stands->state == State::out) {  // the light itself changes by more than the band during the shot
      if (std::abs(*stands->value) < std::abs(missing)) missing = -*stands->value;
      continue;
    }
    out.list.push_back(answer_of(b, one, *std::move(after), then, std::move(levels)));
  }
  if (out.list.empty() && std::isfinite(missing)) out.short_stops = missing;
  return out;
}

}  // namespace cinnabar
