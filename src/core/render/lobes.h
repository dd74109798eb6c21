// Microfacets and naps: how they spread light, and how much of it they give out. Directions are local, z along the
// surface's normal; x along a brushed finish. `alpha` is the width of the facets' slopes, of GGX's form.
#pragma once
#include <array>
#include <cmath>

#include "cinnabar/base/vec.h"
#include "cinnabar/render/sampler.h"

namespace cinnabar {

/// A frame with `n` as its third axis.
void frame_about(const Vec3f& n, Vec3f& x, Vec3f& y);

/// Slopes along x and y.
struct Slopes {
  float x, y;
  [[nodiscard]] bool even() const { return x == y; }
};

/// Of a direction about a brushed finish: 0 along it to 1 across.
[[nodiscard]] inline float bearing_of(float x, float y) {
  return std::atan2(std::abs(y), std::abs(x)) * (2.0f / 3.14159265f);
}
/// How the facets' normals are spread, per steradian (Trowbridge & Reitz 1975).
[[nodiscard]] inline float facets(const Vec3f& h, const Slopes& a) {
  const float x = h.x / a.x, y = h.y / a.y, d = x * x + y * y + h.z * h.z;
  return 1.0f / (3.14159265f * a.x * a.y * d * d);
}
/// The slopes that light seems to be mirrored by that meets several facets, as it is turned by each of them; this
/// much wider lies closest to true walks over facets (tests/render/reference_test.cpp).
[[nodiscard]] inline Slopes again(const Slopes& a) { return {1.7f * a.x, 1.7f * a.y}; }
/// The share of facets seen from a direction above the surface that no other hides (Smith).
[[nodiscard]] inline float unhidden(const Vec3f& w, const Slopes& a) {
  const float z2 = std::max(1e-8f, w.z * w.z), x = a.x * w.x, y = a.y * w.y;
  return 2.0f / (1.0f + std::sqrt(1.0f + (x * x + y * y) / z2));
}
/// The share of facets seen from both of two directions, of which so much is unhidden by itself: heights that hide
/// from one hide from the other (Heitz 2014, JCGT 3:2).
[[nodiscard]] inline float unhidden_both(float one, float other) {
  return one * other / (one + other - one * other);
}
/// A facet's normal as seen from `w`, which may lie below the horizon (Dupuy & Benyoub 2023, *Sampling Visible GGX
/// Normals with Spherical Caps*).
[[nodiscard]] Vec3f visible_facet(const Vec3f& w, const Slopes& a, float u, float v);

/// What a lobe gives out of a light that comes evenly from everywhere, by the cosine it is seen at and the bearing
/// from x.
class LobeTable {
 public:
  /// Of facets that mirror as a coat of index `ior` does, or all of it where that is 0.
  [[nodiscard]] static const LobeTable& of_facets(const Slopes& slopes, float ior);
  /// Of a nap.
  [[nodiscard]] static const LobeTable& of_nap(float roughness);

  /// `bearing`: 0 along x to 1 along y.
  [[nodiscard]] float at(float cosine, float bearing) const { return between(values_, cosine, bearing); }
  /// Of a metal's facets: a lobe of the slopes `again`, times the gains of both its directions, gives out what the
  /// first one does not, whichever way it is seen (the scaling of Sinkhorn 1967).
  [[nodiscard]] float gain(float cosine, float bearing) const { return between(gains_, cosine, bearing); }
  /// Over a hemisphere, by the cosine.
  [[nodiscard]] float mean() const { return mean_; }
  /// What the lobe is scaled by, so that it never gives out more than it gets.
  [[nodiscard]] float scale() const { return scale_; }

 private:
  static constexpr std::size_t steps = 33, most_bearings = 5;
  using Grid = std::array<std::array<float, steps>, most_bearings>;
  template <class Given>  // by direction
  LobeTable(std::size_t bearings, const Given& given);
  [[nodiscard]] Vec3f direction(std::size_t bearing, std::size_t step) const;
  [[nodiscard]] float between(const Grid& grid, float cosine, float bearing) const {
    const float to = std::sqrt(std::min(1.0f, std::max(0.0f, cosine))) * (steps - 1);
    const auto i = std::min(static_cast<std::size_t>(to), steps - 2);
    const float part = to - static_cast<float>(i);
    const auto along = [&](std::size_t b) { return grid[b][i] + (grid[b][i + 1] - grid[b][i]) * part; };
    if (bearings_ == 1) return along(0);
    const float turn = std::min(1.0f, std::max(0.0f, bearing)) * static_cast<float>(bearings_ - 1);
    const auto b = std::min(static_cast<std::size_t>(turn), bearings_ - 2);
    return along(b) + (along(b + 1) - along(b)) * (turn - static_cast<float>(b));
  }

  Grid values_{}, gains_{};
  std::size_t bearings_ = 1;
  float mean_ = 0.0f, scale_ = 1.0f;
};

/// A nap of upright fibres (Estevez & Kulla 2017, *Production Friendly Microfacet Sheen BRDF*; visibility by
/// Neubelt & Pettineo 2013): value with the cosine of `in`, before the table's scale.
[[nodiscard]] float nap_value(const Vec3f& n, const Vec3f& out, const Vec3f& in, float roughness);

/// The way of a ray over the facets of a rough clear face until it leaves them, up or down (Heitz et al. 2016,
/// *Multiple-Scattering Microfacet BSDFs with the Smith Model*): nothing is lost, so its weight is 1. Local;
/// `out` points back along the ray, above the surface; `eta` is the index on its side over that on the other.
struct OverFacets {
  Vec3f direction;  ///< it leaves by
  bool crosses;     ///< to the other side
};
[[nodiscard]] OverFacets over_facets(const Vec3f& out, float alpha, float eta, Sampler& sampler);

}  // namespace cinnabar
