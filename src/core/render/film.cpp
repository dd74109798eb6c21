#include "cinnabar/render/film.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/color/white.h"
#include "cinnabar/photometry/exposure.h"

namespace cinnabar {

Rgb light_colour(double kelvin, double duv, const std::optional<Vec3>& gel_bands, double balance_k) {
  const Rgb white = white_rgb(kelvin, balance_k, duv);
  if (!gel_bands) return white;
  const Rgb gelled = white * gel_bands->as<float>();
  const float left = luminance(gelled);
  return left > 0.0f ? gelled * (luminance(white) / left) : Rgb{};
}

Vec3 recorded_colour(const Light& light, double balance_k) {
  const Rgb c = light_colour(light.white_kelvin(), light.duv, light.gel_bands, balance_k);
  const float most = std::max({c.x, c.y, c.z});
  return most > 0.0f ? (c * (1.0f / most)).as<double>() : Vec3{};
}

LayerWeights layer_weights(const StagedWorld& world, const std::string& solo) {
  LayerWeights weights;
  for (const StagedLight& l : world.lights)
    weights.push_back(solo.empty() || solo == l.id
                          ? light_colour(l.white_kelvin, l.duv, l.gel_bands, world.camera.balance_k) *
                                static_cast<float>(l.level())
                          : Rgb{});
  weights.push_back(solo.empty() || solo == "ambient" ? white_rgb(world.ambient_kelvin, world.camera.balance_k) *
                                                            static_cast<float>(world.ambient_luminance)
                                                      : Rgb{});
  constexpr double screen_kelvin = 6504.0;  // D65, as displays are set
  if (world.screens)
    weights.push_back(solo.empty() || solo == "screens" ? white_rgb(screen_kelvin, world.camera.balance_k)
                                                        : Rgb{});
  return weights;
}

LayerWeights neutral_weights(const StagedWorld& world) {
  LayerWeights weights;
  for (const StagedLight& l : world.lights) weights.push_back(Rgb{1, 1, 1} * static_cast<float>(l.level()));
  weights.push_back(Rgb{1, 1, 1} * static_cast<float>(world.ambient_luminance));
  if (world.screens) weights.push_back({1, 1, 1});
  return weights;
}

Picture mixed(const Film& film, const LayerWeights& weights) {
  Picture out{film.width, film.height, std::vector<Rgb>(film.pixels())};
  const float scale = 1.0f / static_cast<float>(std::max(1, film.passes));
  LayerWeights scaled;
  for (std::size_t l = 0; l < film.layers; ++l)
    scaled.push_back((l < weights.size() ? weights[l] : Rgb{}) * scale);
  tbb::parallel_for(tbb::blocked_range<std::size_t>(0, film.pixels(), 4096), [&](const auto& range) {
    for (std::size_t p = range.begin(); p != range.end(); ++p) {
      Rgb sum{};
      const Rgb* layer = &film.sums[p * film.layers];
      for (std::size_t l = 0; l < film.layers; ++l) sum += layer[l] * scaled[l];
      out.pixels[p] = sum;
    }
  });
  return out;
}

std::optional<double> relative_error(const Picture& mean, int passes, const Picture& first, int before) {
  if (before < 1 || passes <= before || mean.pixels.size() != first.pixels.size()) return std::nullopt;
  std::vector<double> shares;
  for (std::size_t p = 0; p < mean.pixels.size(); ++p) {
    const double y = luminance(mean.pixels[p]);
    // The mean of all less that of the first part: with even passes its spread is that of the mean of all, times
    // the root of after / before.
    if (y > 0.0)
      shares.push_back(std::abs(y - luminance(first.pixels[p])) / y *
                       std::sqrt(static_cast<double>(before) / (passes - before)));
  }
  if (shares.empty()) return std::nullopt;
  const auto middle = shares.begin() + static_cast<std::ptrdiff_t>(shares.size() / 2);
  std::nth_element(shares.begin(), middle, shares.end());
  constexpr double middle_of_normal = 0.6744898;  // half of a normal spread lies within so many deviations
  return *middle / middle_of_normal;
}

double iso_at_sensor(const StagedCamera& c) {
  return c.iso * std::exp2(-c.nd_stops) * c.optics.transmission / 0.9;
}

double signal_per_luminance(const StagedCamera& c) {
  if (c.optics.stops_over_grey)
    return 1.0 / std::max(1e-300, exposures_grey(c) * std::exp2(*c.optics.stops_over_grey));
  const double n2 = c.f_number_effective * c.f_number_effective;
  return 0.65 * c.shutter_time * iso_at_sensor(c) / (78.0 * n2);
}

double stops_under_clip(const StagedCamera& c, double luminance_in) {
  return -std::log2(std::max(1e-12, luminance_in * signal_per_luminance(c)));
}

double exposures_grey(const StagedCamera& c) {
  const auto needed = incident_exposure(
      {.illuminance_lx = 1.0, .f_number = c.f_number_effective, .time = c.shutter_time, .iso = iso_at_sensor(c)});
  return needed ? 0.18 * needed->illuminance_needed_lx / pi : 0.0;
}

std::vector<std::uint8_t> developed(const Picture& luminances, double scale) {
  static const std::vector<std::uint8_t> curve = [] {
    std::vector<std::uint8_t> t(4097);
    for (std::size_t i = 0; i < t.size(); ++i)
      t[i] = static_cast<std::uint8_t>(
          std::lround(255.0 * srgb_encode(std::pow(static_cast<double>(i) / 4096.0, 2.0))));
    return t;
  }();
  std::vector<std::uint8_t> bytes(luminances.pixels.size() * 3);
  const auto k = static_cast<float>(scale);
  tbb::parallel_for(tbb::blocked_range<std::size_t>(0, luminances.pixels.size(), 4096), [&](const auto& range) {
    for (std::size_t p = range.begin(); p != range.end(); ++p) {
      const Rgb c = luminances.pixels[p] * k;
      const auto byte = [](float v) {
        return curve[static_cast<std::size_t>(std::sqrt(std::clamp(v, 0.0f, 1.0f)) * 4096.0f + 0.5f)];
      };
      bytes[3 * p] = byte(c.x), bytes[3 * p + 1] = byte(c.y), bytes[3 * p + 2] = byte(c.z);
    }
  });
  return bytes;
}

}  // namespace cinnabar
