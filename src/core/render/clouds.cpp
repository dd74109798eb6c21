#include "cinnabar/render/clouds.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace cinnabar {
namespace {

constexpr int shadow_steps = 10;
constexpr std::size_t steps = 20, most_steps = 400;  // in one, and in all of them together

}  // namespace

Clouds::Clouds(const std::vector<Cloud>& clouds) : clouds_(clouds) {
  for (const Cloud& cloud : clouds_) {
    const Cloud::Bounds b = cloud.bounds();
    bounds_.emplace_back(b.low.as<float>(), b.high.as<float>());
  }
}

std::optional<Clouds::Part> Clouds::inside(std::size_t cloud, const Ray& ray, float far) const {
  const auto& [low, high] = bounds_[cloud];
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
  return from < to ? std::optional(Part{from, to}) : std::nullopt;
}

float Clouds::passes(const Ray& ray, float far, float jitter) const {
  float depth = 0.0f;
  for (std::size_t c = 0; c < clouds_.size(); ++c) {
    const auto part = inside(c, ray, far);
    if (!part) continue;
    const float width = (part->second - part->first) / shadow_steps;
    for (int i = 0; i < shadow_steps; ++i)
      depth += width * extinction(c, ray, part->first + (static_cast<float>(i) + jitter) * width);
  }
  return std::exp(-depth);
}

std::optional<Clouds::Met> Clouds::meet(const Ray& ray, float far, float jitter, float number) const {
  struct Step {
    float from, width, passes;
  };
  std::array<Step, most_steps> all;
  std::size_t count = 0;
  const std::size_t each = std::clamp<std::size_t>(most_steps / clouds_.size(), 1, steps);
  for (std::size_t c = 0; c < clouds_.size(); ++c) {
    const auto part = inside(c, ray, far);
    if (!part || count + each > most_steps) continue;
    const float width = (part->second - part->first) / static_cast<float>(each);
    for (std::size_t i = 0; i < each; ++i) {
      const float from = part->first + static_cast<float>(i) * width;
      all[count++] = {from, width, std::exp(-width * extinction(c, ray, from + jitter * width))};
    }
  }
  // Where several overlap their steps take turns, by where they begin.
  std::sort(all.begin(), all.begin() + static_cast<std::ptrdiff_t>(count),
            [](const Step& a, const Step& b) { return a.from < b.from; });
  float passes = 1.0f;
  for (std::size_t i = 0; i < count; ++i) passes *= all[i].passes;
  const float scattered = 1.0f - passes;
  if (scattered <= 1e-6f) return std::nullopt;
  // What is left falls evenly with the number; within a step its fall is taken as a straight line.
  const float wanted = 1.0f - number * scattered;
  float left = 1.0f;
  std::size_t i = 0;
  while (i + 1 < count && left * all[i].passes > wanted) left *= all[i++].passes;
  const float fall = left * (1.0f - all[i].passes);
  const float within = fall > 0.0f ? std::clamp((left - wanted) / fall, 0.0f, 1.0f) : 0.5f;
  return Met{ray.origin + ray.direction * (all[i].from + within * all[i].width), scattered};
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
