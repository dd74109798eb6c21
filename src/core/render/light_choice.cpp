#include "cinnabar/render/light_choice.h"

#include <cmath>

namespace cinnabar {

LightChoice::LightChoice(const std::vector<LightSampler>& lights, const std::vector<double>& power)
    : anywhere_(power) {
  if (lights.size() > most) return;
  for (std::size_t i = 0; i < lights.size(); ++i) {
    const LightSampler& l = lights[i];
    x_.push_back(l.centre.x), y_.push_back(l.centre.y), z_.push_back(l.centre.z);
    ahead_x_.push_back(l.ahead.x), ahead_y_.push_back(l.ahead.y), ahead_z_.push_back(l.ahead.z);
    round_.push_back(l.shape == LightShape::rectangle || l.shape == LightShape::disc ? 0.0f : 1.0f);
    size_.push_back(0.5f * std::sqrt(l.area));
    power_.push_back(static_cast<float>(power[i]));
  }
  while (power_.size() % at_once != 0)  // filled up by lights without power
    for (auto* list : {&x_, &y_, &z_, &ahead_x_, &ahead_y_, &ahead_z_, &round_, &size_, &power_})
      list->push_back(0);
}

float LightChoice::weigh(const Vec3f& at, const Vec3f& n, Weights& weights) const {
  const float every_side = dot(n, n) > 0.0f ? 0.0f : 1.0f;
  const std::size_t count = power_.size();
  // Told that no two overlap, compilers weigh several at once.
  const float *const __restrict x = x_.data(), *const __restrict y = y_.data(), *const __restrict z = z_.data(),
                     *const __restrict ahead_x = ahead_x_.data(), *const __restrict ahead_y = ahead_y_.data(),
                     *const __restrict ahead_z = ahead_z_.data(), *const __restrict round = round_.data(),
                     *const __restrict size = size_.data(), *const __restrict power = power_.data();
  float* const __restrict out = weights.data();
  for (std::size_t i = 0; i < count; ++i) {
    const float dx = x[i] - at.x, dy = y[i] - at.y, dz = z[i] - at.z;
    const float d2 = dx * dx + dy * dy + dz * dz, reach = std::sqrt(d2) + size[i];
    // Parts of a face may see what its middle does not.
    const float here = dx * n.x + dy * n.y + dz * n.z + size[i] + every_side * reach,
                there = size[i] - (dx * ahead_x[i] + dy * ahead_y[i] + dz * ahead_z[i]) + round[i] * reach;
    // Of both what is above 0, without a branch.
    const float facing = 0.25f * (here + std::abs(here)) * (there + std::abs(there));
    out[i] = power[i] * facing / (reach * reach * (d2 + size[i] * size[i]) + 1e-20f);
  }
  std::array<float, at_once> sums{};
  for (std::size_t i = 0; i < count; i += at_once)
    for (std::size_t k = 0; k < at_once; ++k) sums[k] += out[i + k];
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
    for (std::size_t k = 0; k < power_.size(); ++k)
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
