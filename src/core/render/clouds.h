// What rays meet in the air: how much of their light it takes from them, and where light is scattered on its way,
// once.
#pragma once
#include <optional>
#include <utility>
#include <vector>

#include "cinnabar/render/geometry.h"

namespace cinnabar {

class Clouds {
 public:
  explicit Clouds(const std::vector<Cloud>& clouds);
  [[nodiscard]] bool any() const { return !clouds_.empty(); }

  /// Share of light that passes along a ray, up to `far`. `jitter`, in 0..1, shifts the places that are looked at.
  [[nodiscard]] float passes(const Ray& ray, float far, float jitter) const;
  /// Where along a ray a part of its light is scattered, and how much of it in all.
  struct Met {
    Vec3f place;
    float scattered;  ///< share, 1 less what passes
  };
  /// By a number in 0..1, as often as light is scattered there and comes out again. Nothing where all passes.
  [[nodiscard]] std::optional<Met> meet(const Ray& ray, float far, float jitter, float number) const;
  /// What is sent per steradian from one direction onward into another, of what is scattered at a place.
  [[nodiscard]] float scattered(const Vec3f& place, const Vec3f& from, const Vec3f& onward) const;

 private:
  using Part = std::pair<float, float>;
  /// The part of a ray that lies in the bounds of one; nothing where it passes by.
  [[nodiscard]] std::optional<Part> inside(std::size_t cloud, const Ray& ray, float far) const;
  [[nodiscard]] float extinction(std::size_t cloud, const Ray& ray, float at) const {
    return static_cast<float>(clouds_[cloud].at((ray.origin + ray.direction * at).as<double>()));
  }

  std::vector<Cloud> clouds_;
  std::vector<std::pair<Vec3f, Vec3f>> bounds_;
};

}  // namespace cinnabar
