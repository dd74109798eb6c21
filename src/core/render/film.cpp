#include "cinnabar/render/film.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "cinnabar/color/white.h"
#include "cinnabar/photometry/exposure.h"

namespace cinnabar {

LayerWeights layer_weights(const StagedWorld& world, const std::string& solo) {
  LayerWeights weights;
  for (const StagedLight& l : world.lights)
    weights.push_back(solo.empty() || solo == l.id
                          ? white_rgb(l.white_kelvin, world.camera.balance_k) * static_cast<float>(l.level())
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

void hold_dots(Picture& picture) {
  const Picture before = picture;
  const int w = picture.width, h = picture.height;
  const auto at = [w](int x, int y) {
    return static_cast<std::size_t>(y) * static_cast<std::size_t>(w) + static_cast<std::size_t>(x);
  };
  tbb::parallel_for(0, h, [&](int y) {
    for (int x = 0; x < w; ++x) {
      std::array<float, 9> around{};
      int n = 0;
      for (int j = std::max(0, y - 1); j <= std::min(h - 1, y + 1); ++j)
        for (int i = std::max(0, x - 1); i <= std::min(w - 1, x + 1); ++i)
          if (i != x || j != y) around[static_cast<std::size_t>(n++)] = luminance(before.pixels[at(i, j)]);
      if (n < 3) continue;
      std::nth_element(around.begin(), around.begin() + 2, around.begin() + n, std::greater<>());
      Rgb& own = picture.pixels[at(x, y)];
      const float most = around[2] * 8.0f + 1e-6f, is = luminance(own);
      if (is > most) own = own * (most / is);
    }
  });
}

std::vector<Rgb> stands_behind(const Film& film) {
  constexpr int enough = 8;  // passes
  const int reach = film.passes < enough / 2 ? 2 : 1;
  std::vector<Rgb> out(film.pixels());
  tbb::parallel_for(0, film.height, [&](int y) {
    for (int x = 0; x < film.width; ++x) {
      const FirstHit& own = film.first[film.at(x, y)];
      Rgb& behind = out[film.at(x, y)] = own.behind;
      if (film.passes >= enough || !own.mesh || own.mesh->medium < 0) continue;
      Rgb sum{};
      float count = 0.0f;
      for (int j = std::max(0, y - reach); j <= std::min(film.height - 1, y + reach); ++j)
        for (int i = std::max(0, x - reach); i <= std::min(film.width - 1, x + reach); ++i)
          if (const FirstHit& there = film.first[film.at(i, j)]; there.mesh == own.mesh)
            sum += there.behind, count += 1.0f;
      behind = sum * (1.0f / count);
    }
  });
  return out;
}

Rgb tint_of(const FirstHit& first) {
  constexpr float least = 0.03f;
  if (!first.mesh || first.mesh->medium >= 0 || first.mesh->light >= 0) return {1, 1, 1};
  return {std::max(least, first.albedo.x), std::max(least, first.albedo.y), std::max(least, first.albedo.z)};
}

namespace {

/// By pixel, the variance of the mean as a share of its square; evened over the neighbours that show the same
/// body.
std::vector<float> relative_variances(const Film& film) {
  std::vector<float> out(film.pixels(), 1.0f);
  if (film.passes < 2 || film.squares.size() != film.pixels()) return out;
  tbb::parallel_for(0, film.height, [&](int y) {
    for (int x = 0; x < film.width; ++x) {
      const Mesh* own = film.first[film.at(x, y)].mesh;
      float spread = 0.0f, square = 0.0f;
      for (int j = std::max(0, y - 2); j <= std::min(film.height - 1, y + 2); ++j)
        for (int i = std::max(0, x - 2); i <= std::min(film.width - 1, x + 2); ++i) {
          const std::size_t at = film.at(i, j);
          if (film.first[at].mesh != own) continue;
          spread += film.variance_of(at);
          square += film.mean_of(at) * film.mean_of(at);
        }
      out[film.at(x, y)] = square > 0.0f ? std::min(1.0f, spread / square) : 0.0f;
    }
  });
  return out;
}

/// The mean of the pixels about one that show the same body: of a pass or two a dark dot says nothing of its
/// noise.
float tone_about(const Film& film, const std::vector<float>& tones, int x, int y) {
  const Mesh* own = film.first[film.at(x, y)].mesh;
  float sum = 0.0f, count = 0.0f;
  for (int j = std::max(0, y - 2); j <= std::min(film.height - 1, y + 2); ++j)
    for (int i = std::max(0, x - 2); i <= std::min(film.width - 1, x + 2); ++i)
      if (film.first[film.at(i, j)].mesh == own) sum += tones[film.at(i, j)], count += 1.0f;
  return sum / count;
}

}  // namespace

Picture filtered(const Picture& picture, const Film& guide, int rounds, const std::vector<float>* noise_left) {
  constexpr float deviations = 1.5f;  // differences of so many are still taken for noise
  constexpr std::array<float, 3> kernel{0.375f, 0.25f, 0.0625f};
  Picture a = picture;
  const int w = picture.width, h = picture.height;
  std::vector<Rgb> tints(a.pixels.size());
  for (std::size_t i = 0; i < tints.size(); ++i) {
    const Rgb t = tints[i] = tint_of(guide.first[i]);
    a.pixels[i] *= Rgb{1 / t.x, 1 / t.y, 1 / t.z};
  }
  hold_dots(a);
  Picture b = a;
  const std::vector<Rgb> behind = stands_behind(guide);
  std::vector<float> tones(a.pixels.size()), noise = relative_variances(guide), next = noise;
  for (std::size_t i = 0; i < tones.size(); ++i) tones[i] = luminance(a.pixels[i]);
  tbb::parallel_for(0, h, [&](int y) {
    for (int x = 0; x < w; ++x) {
      const std::size_t at = guide.at(x, y);
      const float tone = guide.passes < 4 ? std::max(tones[at], tone_about(guide, tones, x, y)) : tones[at];
      noise[at] *= tone * tone * (noise_left ? (*noise_left)[at] : 1.0f);
    }
  });
  for (int round = 0; round < rounds; ++round) {
    const int step = 1 << round;
    for (std::size_t i = 0; i < tones.size(); ++i) tones[i] = luminance(a.pixels[i]);
    tbb::parallel_for(0, h, [&](int y) {
      for (int x = 0; x < w; ++x) {
        const std::size_t at = guide.at(x, y);
        const FirstHit& own = guide.first[at];
        const bool clear = own.mesh && own.mesh->medium >= 0;
        const float own_y = tones[at];
        const float centre = kernel[0] * kernel[0];
        Rgb sum = a.pixels[at] * centre;
        float weight = centre, spread = centre * centre * noise[at];
        for (int j = -2; j <= 2; ++j) {
          const int yy = y + j * step;
          if (yy < 0 || yy >= h) continue;
          for (int i = -2; i <= 2; ++i) {
            const int xx = x + i * step;
            if (xx < 0 || xx >= w || (i == 0 && j == 0)) continue;
            const std::size_t other = guide.at(xx, yy);
            const FirstHit& there = guide.first[other];
            if (there.mesh != own.mesh) continue;
            const float facing_same = std::max(0.0f, dot(own.normal, there.normal));
            const Rgb d = clear ? behind[at] - behind[other] : Rgb{};
            const float apart = tones[other] - own_y;
            const float tone = apart * apart / (deviations * deviations * (noise[at] + noise[other]) + 1e-12f);
            const float n2 = facing_same * facing_same, n8 = n2 * n2 * n2 * n2;
            const float k = kernel[static_cast<std::size_t>(std::abs(i))] *
                            kernel[static_cast<std::size_t>(std::abs(j))] * n8 /
                            ((1.0f + 50.0f * dot(d, d)) * (1.0f + tone * tone));
            sum += a.pixels[other] * k;
            weight += k;
            spread += k * k * noise[other];
          }
        }
        b.pixels[at] = sum * (1.0f / weight);
        next[at] = spread / (weight * weight);
      }
    });
    std::swap(a, b);
    std::swap(noise, next);
  }
  for (std::size_t i = 0; i < tints.size(); ++i) a.pixels[i] *= tints[i];
  return a;
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
