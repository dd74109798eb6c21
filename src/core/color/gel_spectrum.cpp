#include "cinnabar/color/gel_spectrum.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/color/white.h"

namespace cinnabar {
namespace {

/// Of two half widths, below and above the middle.
double lobe(double nm, double middle, double below, double above) {
  const double t = (nm - middle) / (nm < middle ? below : above);
  return std::exp(-0.5 * t * t);
}

/// Planck's law, to any scale.
double black_body(double nm, double kelvin) {
  constexpr double second_radiation = 1.438777e7;  // nm K (CODATA 2018)
  return std::pow(nm / 560.0, -5.0) / std::expm1(second_radiation / (nm * kelvin));
}

double passed(const std::vector<PassedAt>& curve, double nm) {
  const auto above =
      std::upper_bound(curve.begin(), curve.end(), nm, [](double at, const PassedAt& p) { return at < p.nm; });
  if (above == curve.begin()) return curve.front().share;
  if (above == curve.end()) return curve.back().share;
  const PassedAt& below = *(above - 1);
  return below.share + (above->share - below.share) * (nm - below.nm) / (above->nm - below.nm);
}

}  // namespace

std::array<double, 3> colour_matching(double nm) {
  return {1.056 * lobe(nm, 599.8, 37.9, 31.0) + 0.362 * lobe(nm, 442.0, 16.0, 26.7) -
              0.065 * lobe(nm, 501.1, 20.4, 26.2),
          0.821 * lobe(nm, 568.8, 46.9, 40.5) + 0.286 * lobe(nm, 530.9, 16.3, 31.1),
          1.217 * lobe(nm, 437.0, 11.8, 36.0) + 0.681 * lobe(nm, 459.0, 26.0, 13.8)};
}

std::array<double, 3> gel_bands(std::vector<PassedAt> curve, double kelvin) {
  if (curve.empty()) return {1, 1, 1};
  std::stable_sort(curve.begin(), curve.end(), [](const PassedAt& a, const PassedAt& b) { return a.nm < b.nm; });
  std::array<double, 3> all{}, behind{};  // XYZ
  for (double nm = 380.5; nm < 780.0; nm += 1.0) {
    const double light = black_body(nm, kelvin), through = std::clamp(passed(curve, nm), 0.0, 1.0);
    const auto seen = colour_matching(nm);
    for (std::size_t i = 0; i < 3; ++i) all[i] += light * seen[i], behind[i] += light * seen[i] * through;
  }
  const auto rgb = rgb_of_xyz(all), through = rgb_of_xyz(behind);
  std::array<double, 3> bands{};
  for (std::size_t i = 0; i < 3; ++i) bands[i] = rgb[i] > 0.0 ? std::max(0.0, through[i] / rgb[i]) : 0.0;
  // What the bands' edges cut off or add is made up for in brightness.
  const std::array<double, 3> weights{0.2126729, 0.7151522, 0.0721750};
  double given = 0.0, plain = 0.0;
  for (std::size_t i = 0; i < 3; ++i) given += weights[i] * bands[i] * rgb[i], plain += weights[i] * rgb[i];
  const double most = std::max({bands[0], bands[1], bands[2]});
  if (given <= 0.0 || most <= 0.0) return {};
  const double scale = std::min(behind[1] / all[1] * plain / given, 1.0 / most);
  for (double& band : bands) band *= scale;
  return bands;
}

}  // namespace cinnabar
