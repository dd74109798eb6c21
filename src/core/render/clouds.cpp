#include "cinnabar/render/clouds.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace cinnabar {
namespace {

constexpr int steps = 20, shadow_steps = 10;

}  // namespace

Clouds::Clouds(const std::vector<Cloud>& clouds) : clouds_(clouds) {
  for (const Cloud& cloud : clouds_) {
    const Cloud::Bounds b = cloud.bounds();
    bounds_.emplace_back(b.low.as<float>(), b.high.as<float>());
  }
}

std::optional<std::pair<float, float>> Clouds::inside(const Ray& ray, float far) const {
  float first = far, last = 0.0f;
  for (const auto& [low, high] : bounds_) {
    float from = ray.near, to = far;
    const auto slab = [&](float origin, float direction, float a, float b) {
      if (direction == 0.0f) {
        if (origin < a || origin > b) to = -1.0f;
        return;
      }
      float enters = (a - origin) / direction, leaves = (b - origin) / direction;
      if (enters > leaves) std::swap(enters, leaves);
      from = std::max(from, enters), to = std::min(to, leaves);
    };
    slab(ray.origin.x, ray.direction.x, low.x, high.x);
    slab(ray.origin.y, ray.direction.y, low.y, high.y);
    slab(ray.origin.z, ray.direction.z, low.z, high.z);
    if (from < to) first = std::min(first, from), last = std::max(last, to);
  }
  if (first >= last) return std::nullopt;
  return std::pair{first, last};
}

float Clouds::extinction(const Vec3f& place) const {
  double sum = 0.0;
  for (const Cloud& cloud : clouds_) sum += cloud.at(place.as<double>());
  return static_cast<float>(sum);
}

float Clouds::passes(const Ray& ray, float far, float jitter) const {
  const auto part = inside(ray, far);
  if (!part) return 1.0f;
  const float width = (part->second - part->first) / shadow_steps;
  float depth = 0.0f;
  for (int i = 0; i < shadow_steps; ++i)
    depth += extinction(ray.origin + ray.direction * (part->first + (static_cast<float>(i) + jitter) * width));
  return std::exp(-depth * width);
}

std::optional<Clouds::Met> Clouds::meet(const Ray& ray, float far, float jitter, float number) const {
  const auto part = inside(ray, far);
  if (!part) return std::nullopt;
  const float width = (part->second - part->first) / steps;
  std::array<float, steps + 1> left;  // of the light, from the ray's origin on
  left[0] = 1.0f;
  for (std::size_t i = 0; i < steps; ++i) {
    const float at = part->first + (static_cast<float>(i) + jitter) * width;
    left[i + 1] = left[i] * std::exp(-width * extinction(ray.origin + ray.direction * at));
  }
  const float scattered = 1.0f - left[steps];
  if (scattered <= 1e-6f) return std::nullopt;
  // What is left falls evenly with the number; within a step its fall is taken as a straight line.
  const float wanted = 1.0f - number * scattered;
  std::size_t i = 0;
  while (i + 1 < steps && left[i + 1] > wanted) ++i;
  const float fall = left[i] - left[i + 1];
  const float within = fall > 0.0f ? std::clamp((left[i] - wanted) / fall, 0.0f, 1.0f) : 0.5f;
  const float at = part->first + (static_cast<float>(i) + within) * width;
  return Met{ray.origin + ray.direction * at, scattered};
}

float Clouds::scattered(const Vec3f& place, const Vec3f& from, const Vec3f& onward) const {
  const double cosine = std::clamp(static_cast<double>(dot(from, onward)), -1.0, 1.0);
  if (clouds_.size() == 1) return static_cast<float>(scattered_to(cosine, clouds_.front().asymmetry));
  double sum = 0.0, all = 0.0;
  for (const Cloud& cloud : clouds_) {
    const double there = cloud.at(place.as<double>());
    sum += there * scattered_to(cosine, cloud.asymmetry), all += there;
  }
  return all > 0.0 ? static_cast<float>(sum / all) : 0.0f;
}

}  // namespace cinnabar
