#include "cinnabar/photometry/distribution.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/vec.h"

namespace cinnabar {
namespace {

/// Where `at` lies in an ascending list: the index before it and the share of the way to the next.
std::pair<std::size_t, double> place_in(const std::vector<double>& list, double at) {
  if (list.size() < 2 || at <= list.front()) return {0, 0.0};
  const auto next = std::upper_bound(list.begin(), list.end(), at);
  if (next == list.end()) return {list.size() - 2, 1.0};
  const auto i = static_cast<std::size_t>(next - list.begin()) - 1;
  return {i, (at - list[i]) / (list[i + 1] - list[i])};
}

/// A horizontal angle brought into the part that was measured.
double folded(const std::vector<double>& horizontals, double h) {
  h = std::fmod(h, 360.0);
  if (h < 0.0) h += 360.0;
  const double last = horizontals.back();
  if (horizontals.front() >= 90.0 && last <= 270.0 &&
      last > horizontals.front()) {  // alike left and right of 90-270
    if (h < 90.0) return 180.0 - h;
    return h > 270.0 ? 540.0 - h : h;
  }
  if (last <= 0.0) return 0.0;
  if (last <= 180.0 && h > 180.0) h = 360.0 - h;
  if (last <= 90.0 && h > 90.0) h = 180.0 - h;
  return h;
}

/// Mean over all horizontals at one vertical, by index; exact for bilinear.
double mean_around(const LightDistribution& d, std::size_t v) {
  const std::size_t n = d.verticals.size(), planes = d.horizontals.size();
  if (planes == 1) return d.candela[v];
  double sum = 0.0;
  for (std::size_t h = 0; h + 1 < planes; ++h)
    sum += (d.horizontals[h + 1] - d.horizontals[h]) * (d.candela[h * n + v] + d.candela[(h + 1) * n + v]) / 2.0;
  return sum / (d.horizontals.back() - d.horizontals.front());
}

}  // namespace

double LightDistribution::candela_at(double vertical, double horizontal) const {
  if (candela.empty() || !(vertical >= verticals.front() && vertical <= verticals.back())) return 0.0;
  const auto [v, sv] = place_in(verticals, vertical);
  const auto [h, sh] = place_in(horizontals, folded(horizontals, horizontal));
  const std::size_t n = verticals.size(), v1 = std::min(v + 1, n - 1),
                    h1 = std::min(h + 1, horizontals.size() - 1);
  const double near = candela[h * n + v] * (1.0 - sv) + candela[h * n + v1] * sv,
               far = candela[h1 * n + v] * (1.0 - sv) + candela[h1 * n + v1] * sv;
  return near * (1.0 - sh) + far * sh;
}

double LightDistribution::lumens() const {
  double sum = 0.0;
  for (std::size_t v = 0; v + 1 < verticals.size(); ++v) {
    const double a = radians(verticals[v]), b = radians(verticals[v + 1]), delta = b - a;
    const double i1 = mean_around(*this, v), i2 = mean_around(*this, v + 1);
    const double dc = std::cos(b) - std::cos(a);
    sum += 2.0 * pi * (-i1 * dc + (i2 - i1) * (std::sin(b) - std::sin(a) - delta * std::cos(b)) / delta);
  }
  return sum;
}

double LightDistribution::zonal_lumens() const {
  double sum = 0.0;
  for (std::size_t v = 0; v + 1 < verticals.size(); ++v)
    sum += 2.0 * pi * (std::cos(radians(verticals[v])) - std::cos(radians(verticals[v + 1]))) *
           (mean_around(*this, v) + mean_around(*this, v + 1)) / 2.0;
  return sum;
}

double LightDistribution::peak() const {
  return candela.empty() ? 0.0 : *std::max_element(candela.begin(), candela.end());
}

double LightDistribution::full_angle(double part) const {
  if (candela.empty() || verticals.front() > 0.0) return 0.0;
  const double axis = mean_around(*this, 0), wanted = axis * part;
  if (axis <= 0.0) return 0.0;
  for (std::size_t v = 0; v + 1 < verticals.size(); ++v) {
    const double a = mean_around(*this, v), b = mean_around(*this, v + 1);
    if (b < wanted) return 2.0 * (verticals[v] + (verticals[v + 1] - verticals[v]) * (a - wanted) / (a - b));
  }
  return 2.0 * verticals.back();
}

double LightDistribution::tilt_share(double angle) const {
  if (tilt.empty() || !tilts_with_lamp) return 1.0;
  if (angle <= tilt.front().first) return tilt.front().second;
  for (std::size_t i = 0; i + 1 < tilt.size(); ++i)
    if (angle <= tilt[i + 1].first)
      return tilt[i].second +
             (tilt[i + 1].second - tilt[i].second) * (angle - tilt[i].first) / (tilt[i + 1].first - tilt[i].first);
  return tilt.back().second;
}

namespace {
double cosine_power(double beam_deg) { return std::log(0.5) / std::log(std::cos(radians(beam_deg) / 2.0)); }
}  // namespace

Expected<LightDistribution> cosine_power_beam(double axis_candela, double beam_deg) {
  if (!(axis_candela >= 0.0) || !std::isfinite(axis_candela))
    return fail("candela", "is no intensity", "give 0 or more");
  if (!(beam_deg > 0.0 && beam_deg < 180.0))
    return fail("beam_deg", "is no beam", "give over 0 and under 180 degrees");
  LightDistribution d;
  d.horizontals = {0.0};
  const double m = cosine_power(beam_deg);
  // Fine where the beam falls, so that straight pieces between the angles follow it.
  const double fine = std::min(1.0, beam_deg / 40.0), most = std::min(90.0, 4.0 * beam_deg);
  for (double v = 0.0; v < most; v += fine) d.verticals.push_back(v);
  for (double v = most; v < 90.0; v += 1.0) d.verticals.push_back(v);
  d.verticals.push_back(90.0);
  for (const double v : d.verticals)
    d.candela.push_back(v >= 90.0 ? 0.0 : axis_candela * std::pow(std::cos(radians(v)), m));
  return d;
}
double cosine_power_lumens(double axis_candela, double beam_deg) {
  return 2.0 * pi * axis_candela / (cosine_power(beam_deg) + 1.0);
}

std::optional<LightOutput> light_output(const LightFigures& f) {
  LightOutput out;
  if (f.measured) {
    const double own = f.measured->lumens();
    out.lumens = f.lumens.value_or(own);
    out.axis_candela = f.measured->candela_at(0.0, 0.0) * (own > 0.0 ? out.lumens / own : 0.0);
    out.distribution = f.measured;
    if (!f.lumens) out.derivation = "added up over the measured distribution";
    return out;
  }
  std::optional<double> axis = f.candela;
  std::string from = "from the candela";
  if (!axis && f.illuminance && f.distance) {
    axis = *f.illuminance * *f.distance * *f.distance;
    from = fmt::format("from {} lx at {}", number_text(*f.illuminance), length_text(*f.distance));
  }
  if (!f.lumens && !axis) return std::nullopt;
  const bool has_beam = f.beam_deg && *f.beam_deg > 0.0 && *f.beam_deg < 180.0;
  const double per_candela = has_beam ? cosine_power_lumens(1.0, *f.beam_deg) : pi;
  out.lumens = f.lumens.value_or(axis.value_or(0.0) * per_candela);
  out.axis_candela = out.lumens / per_candela;
  if (has_beam) {
    if (auto beam = cosine_power_beam(out.axis_candela, *f.beam_deg))
      out.distribution = std::make_shared<const LightDistribution>(std::move(*beam));
  }
  if (!f.lumens)
    out.derivation = from + (has_beam ? fmt::format(", in a beam of {} degrees", number_text(*f.beam_deg))
                                      : std::string(", spread as a matt face spreads it"));
  return out;
}

}  // namespace cinnabar
