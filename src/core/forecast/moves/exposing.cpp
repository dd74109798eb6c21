#include "cinnabar/forecast/moves/exposing.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

/// What a change of exposure moves one for one: stops more light, or less.
struct MovedByExposure {
  const char* id;
  double sign;
};
constexpr MovedByExposure all_moved[] = {
    {"light.product", 1}, {"camera.stops", 1}, {"light.highlight", -1}, {"light.backdrop", 1}};

/// 0 where it does not move.
double moved_by(const Level& l) {
  for (const MovedByExposure& m : all_moved)
    if (l.id == m.id && l.value && l.state != State::unknown) {
      const bool gradient = l.id == "light.backdrop" && l.band.low && *l.band.low >= 2.0;  // whose span stays
      return gradient ? 0.0 : m.sign;
    }
  return 0.0;
}

/// How far off they would be with so many stops more exposure: out 2, leaning 1, and a little by the distance.
double off_with(const std::vector<Level>& levels, double stops, const std::vector<std::string>& first) {
  double off = 0;
  for (const Level& l : levels) {
    const double sign = moved_by(l);
    if (sign == 0.0) continue;
    const double then = *l.value + sign * stops;
    const double count = std::find(first.begin(), first.end(), l.id) != first.end() ? 2.0 : 1.0;
    if (l.band.low && l.band.high) {  // rather its middle, where nothing else speaks for one side
      const double half = 0.5 * (*l.band.high - *l.band.low), mid = 0.5 * (*l.band.high + *l.band.low);
      off += count * 0.1 * std::min(4.0, (then - mid) * (then - mid) / (half * half));
    }
    off += count * (weight_of(state_of(then, l.band)) + 0.3 * std::min(3.0, std::max(0.0, badness(then, l.band))));
  }
  return off;
}

double most_iso(const Project& project, const ShotOptics& optics) {
  return std::max(optics.iso_low, std::min(optics.iso_high, project.iso_limit.value_or(1600.0)));
}

}  // namespace

double exposure_wanted(const std::vector<Level>& levels, double most, const std::vector<std::string>& first) {
  double by = 0, least = off_with(levels, 0.0, first) - 0.05;
  for (int k = -60; k <= 60; ++k)
    if (const double stops = 0.05 * k; stops <= most)
      if (const double off = off_with(levels, stops, first) + 1e-3 * std::abs(k); off < least)
        least = off, by = stops;
  return by;
}

std::vector<Level> exposed(std::vector<Level> levels, double stops) {
  for (Level& l : levels)
    if (const double sign = moved_by(l); sign != 0.0)
      l.value = *l.value + sign * stops, l.state = state_of(*l.value, l.band);
  return levels;
}

double exposure_left(const Project& project, const Shot& shot) {
  if (!shot.camera) return 0.0;
  const double most = most_iso(project, shot_optics(project, *shot.camera));
  return shot.camera->nd_stops + std::max(0.0, std::log2(most / shot.camera->iso));
}

std::optional<Document> with_exposure(const Document& document, std::size_t shot, double stops) {
  ProjectReader reader;
  const Project project = reader.read(document);
  const Shot& now = *project.shots[shot];
  if (!now.camera) return std::nullopt;
  const ShotCamera& c = *now.camera;
  const ShotOptics optics = shot_optics(project, c);
  double nd = c.nd_stops, left = stops;
  const double through = std::clamp(nd - left, 0.0, nd);
  left -= nd - through, nd = through;
  const double iso =
      std::clamp(c.iso * std::pow(2.0, left), optics.iso_low, std::max(most_iso(project, optics), c.iso));
  left -= std::log2(iso / c.iso);
  if (left < 0) nd -= left;  // darker than the lowest ISO: before the lens
  const std::string camera = fmt::format("/shots/{}/camera/", shot);
  auto next = with_values(
      document, {{camera + "nd_stops", Json(std::round(nd * 20) / 20)}, {camera + "iso", Json(std::round(iso))}});
  return next ? std::optional(*std::move(next)) : std::nullopt;
}

const std::vector<std::string>& moved_by_exposure() {
  static const std::vector<std::string> ids = [] {
    std::vector<std::string> list;
    for (const MovedByExposure& m : all_moved) list.emplace_back(m.id);
    return list;
  }();
  return ids;
}

void settle_exposure(const Forecaster& forecaster, Document& document, std::size_t shot,
                     std::vector<Level>& levels, const std::vector<std::string>& first) {
  settle_exposure([&](const Project& p) { return forecaster.levels(p, shot); }, document, shot, levels, first);
}

void settle_exposure(const LevelLook& look, Document& document, std::size_t shot, std::vector<Level>& levels,
                     const std::vector<std::string>& first) {
  const double by = exposure_wanted(levels, exposure_reach, first);
  auto tried = by == 0.0 ? std::nullopt : with_exposure(document, shot, by);
  if (!tried) return;
  ProjectReader reader;
  auto then = look(reader.read(*tried));
  if (weight_of(then) > weight_of(levels)) return;
  document = *std::move(tried), levels = std::move(then);
}

}  // namespace cinnabar
