#include "cinnabar/render/light_choice.h"

#include <algorithm>
#include <cmath>

namespace cinnabar {

LightChoice::LightChoice(const std::vector<LightSampler>& lights, const std::vector<double>& power)
    : anywhere_(power) {
  if (lights.size() > most) return;
  groups_.resize((lights.size() + at_once - 1) / at_once);  // filled up by lights without power
  for (std::size_t i = 0; i < lights.size(); ++i) {
    const LightSampler& l = lights[i];
    Group& g = groups_[i / at_once];
    const std::size_t k = i % at_once;
    g.x[k] = l.centre.x, g.y[k] = l.centre.y, g.z[k] = l.centre.z;
    g.ahead_x[k] = l.ahead.x, g.ahead_y[k] = l.ahead.y, g.ahead_z[k] = l.ahead.z;
    g.round[k] = l.shape == LightShape::rectangle || l.shape == LightShape::disc ? 0.0f : 1.0f;
    g.size[k] = 0.5f * std::sqrt(l.area);
    g.power[k] = static_cast<float>(power[i]);
  }
}

float LightChoice::weigh(const Vec3f& at, const Vec3f& n, Weights& weights) const {
  const float every_side = dot(n, n) > 0.0f ? 0.0f : 1.0f;
  const float at_x = at.x, at_y = at.y, at_z = at.z, n_x = n.x, n_y = n.y, n_z = n.z;
  std::array<float, at_once> sums{};
  for (std::size_t group = 0; group < groups_.size(); ++group) {
    const Group& g = groups_[group];
    std::array<float, at_once> gives;
    for (std::size_t k = 0; k < at_once; ++k) {
      const float dx = g.x[k] - at_x, dy = g.y[k] - at_y, dz = g.z[k] - at_z;
      const float d2 = dx * dx + dy * dy + dz * dz, size = g.size[k], reach = std::sqrt(d2) + size;
      // Parts of a face may see what its middle does not.
      const float here = dx * n_x + dy * n_y + dz * n_z + size + every_side * reach,
                  there = size - (dx * g.ahead_x[k] + dy * g.ahead_y[k] + dz * g.ahead_z[k]) + g.round[k] * reach;
      // Of both what is above 0, without a branch.
      const float facing = 0.25f * (here + std::abs(here)) * (there + std::abs(there));
      gives[k] = g.power[k] * facing / (reach * reach * (d2 + size * size) + 1e-20f);
    }
    for (std::size_t k = 0; k < at_once; ++k) sums[k] += gives[k];
    std::copy(gives.begin(), gives.end(), weights.begin() + static_cast<std::ptrdiff_t>(group * at_once));
  }
  return (sums[0] + sums[1]) + (sums[2] + sums[3]);
}

LightChoice::Picked LightChoice::pick(const Vec3f& at, const Vec3f& n, float number) const {
  Weights weights;
  const float sum = weigh(at, n, weights);
  std::size_t i = 0;
  if (!(sum > 0.0f)) {
    i = anywhere_.pick(number);
  } else if (number < by_power) {
    i = anywhere_.pick(number / by_power);
  } else {
    float left = (number - by_power) / (1.0f - by_power) * sum;
    for (std::size_t k = 0; k < groups_.size() * at_once; ++k)
      if (weights[k] > 0.0f) {
        i = k;
        if ((left -= weights[k]) < 0.0f) break;
      }
  }
  return {i, chance_of(weights, sum, i)};
}

float LightChoice::chance(const Vec3f& at, const Vec3f& n, std::size_t light) const {
  Weights weights;
  return chance_of(weights, weigh(at, n, weights), light);
}

float LightChoice::chance_of(const Weights& weights, float sum, std::size_t light) const {
  if (!(sum > 0.0f)) return anywhere_.chance(light);
  return by_power * anywhere_.chance(light) + (1.0f - by_power) * weights[light] / sum;
}

}  // namespace cinnabar
