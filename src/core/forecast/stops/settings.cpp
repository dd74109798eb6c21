#include "cinnabar/forecast/stops/settings.h"

#include <algorithm>
#include <cmath>

namespace cinnabar {
namespace {

constexpr double least_dimmer = 0.02;  // of a light; common practice, no source

constexpr double far_off = 8.0;  // stops

}  // namespace

Maybe dialled(const Bench& b, const Setting& one) {
  Maybe next = set(set(set(set(b.doc, b.camera_path + "/f_number", one.f_number), b.camera_path + "/shutter_time",
                           one.shutter_time),
                       b.camera_path + "/iso", one.iso),
                   b.camera_path + "/nd_stops", one.nd_stops);
  if (std::abs(one.light) < 1e-9) return next;
  for (const auto& [pointer, value] : dimmed_by(dimmers_of(b), one.light))
    if (value) next = set(next, pointer, *value);
  return next;
}

Dimmers dimmers_of(const Bench& b) {
  Dimmers list;
  for (std::size_t l = 0; b.setup && l < b.setup->own_lights(); ++l)
    if (const Light& light = b.setup->lights[l];
        light.on && !light.daylight && light.dimmer > 0.0 && !b.shot.track(Tracked::light_dimmer, light.id))
      list.emplace_back(b.light_path(l) + "/dimmer", light.dimmer);
  return list;
}

Values dimmed_by(const Dimmers& dimmers, double stops) {
  Values values;
  for (const auto& [pointer, dimmer] : dimmers)
    values.push_back({pointer, Json(std::round(1e4 * std::clamp(dimmer * std::exp2(stops), 0.001, 1.0)) / 1e4)});
  return values;
}

DimmerRoom room_of(const Dimmers& dimmers) {
  double most = 0.0;
  for (const auto& [pointer, dimmer] : dimmers) most = std::max(most, dimmer);
  if (most <= 0.0) return {};
  return {-std::log2(most), std::max(0.0, std::log2(most / least_dimmer))};
}

std::vector<std::optional<int>> out_at(const Forecaster& forecaster, const Bench& b, const std::string& member,
                                       const std::vector<double>& values, const std::vector<std::string>& levels) {
  std::vector<std::optional<int>> counts;
  ProjectReader reader;  // what does not change is read once
  for (const double v : values) {
    const Maybe with = set(b.doc, b.camera_path + member, v);
    counts.emplace_back();
    if (!with) continue;
    const Project project = reader.read(*with);
    int out = 0;
    for (const std::string& id : levels)
      for (const Level& level : forecaster.levels(project, b.index, id)) out += level.state == State::out ? 1 : 0;
    counts.back() = out;
  }
  return counts;
}

Expected<Exposed> exposure_now(const Forecaster& forecaster, const Bench& b, const std::atomic<bool>* cancel) {
  const std::string place = fmt::format("shot {}", b.index + 1);
  if (!b.shot.camera) return fail(place, "has no camera", "give it one");
  const auto light = forecaster.sure_levels(b.project, b.index, "camera.stops", cancel);
  if (light.empty() || !light.front().value)
    return fail(place, light.empty() ? "has no light to be exposed for" : light.front().formula, "light it first");
  const double told = *light.front().value;
  Exposed out{told, told, light.front().band};
  // The moment told is the one farthest off: far to either side it is the end that lies there.
  ProjectReader reader;
  for (const double far : {-far_off, far_off}) {
    const Maybe shifted = set(b.doc, b.camera_path + "/iso", b.camera.iso * std::exp2(far));
    if (!shifted) continue;
    const auto then = forecaster.levels(reader.read(*shifted), b.index, "camera.stops", cancel);
    if (!then.empty() && then.front().value) (far < 0 ? out.least : out.most) = *then.front().value - far;
  }
  if (out.most - out.least < 0.02) out.least = out.most = told;  // one, but for what was measured more closely
  return out;
}

const std::vector<std::string>& aperture_levels() {
  static const std::vector<std::string> ids{"focus.depth", "focus.diffraction", "focus.hides-edge"};
  return ids;
}
const std::vector<std::string>& shutter_levels() {
  static const std::vector<std::string> ids{"camera.shutter", "motion.smear"};
  return ids;
}

double highest_iso(const Forecaster& forecaster, const Bench& b) {
  double most = b.optics.iso_high;
  for (const Level& level : forecaster.levels(b.project, b.index, "camera.iso"))
    if (level.band.high) most = std::min(most, *level.band.high);
  return std::max(most, b.optics.iso_low);
}

}  // namespace cinnabar
