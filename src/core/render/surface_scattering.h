// How materials throw light back. Each sampler has its density beside it; directions point away from the surface.
#pragma once
#include <algorithm>
#include <array>

#include "cinnabar/render/geometry.h"
#include "cinnabar/render/sampler.h"

namespace cinnabar {

/// The opaque part of a material at one point, ready for evaluation: a diffuse base under an optional coat, or a
/// rough metal. Sharp mirrors and clear bodies are followed by the tracer itself.
struct Scattering {
  Rgb base{};               ///< diffuse reflectance
  Rgb specular{};           ///< reflectance of the rough lobe at normal incidence
  float alpha = 0;          ///< roughness of that lobe; 0: no rough lobe
  float coat_ior = 0;       ///< 0: no coat
  float coat_inside = 0;    ///< mean reflectance of the coat from below; set by coat()
  float through = 0;        ///< share of the base that goes out on the other side
  bool sharp_coat = false;  ///< the coat mirrors like glass; followed by the tracer

  /// Fresnel reflectance of the coat by cosine, 0 to 1 in even steps; shared by all surfaces of one index.
  using CoatTable = std::array<float, 513>;
  const CoatTable* coat_table = nullptr;

  /// Whether it mirrors sharply and does nothing else.
  [[nodiscard]] bool is_mirror() const { return coat_ior == 0.0f && alpha < 1e-3f && largest(specular) > 0.0f; }
  /// Whether what mirrors, metals and glass throw on it is looked up among the photons that landed there. What
  /// does not gather throws on itself: narrow lobes are followed from the lights.
  [[nodiscard]] bool gathers() const { return largest(base) > 0.0f && (alpha <= 0.0f || alpha > 0.08f); }
  void coat(float ior);  ///< puts a coat of that index over the base
  [[nodiscard]] Rgb value(const Vec3f& out, const Vec3f& in, const Vec3f& n) const;  ///< with the cosine
  [[nodiscard]] float density(const Vec3f& out, const Vec3f& in, const Vec3f& n) const;

  /// What depends on the way out alone, computed once for all directions that are asked for at a point.
  struct Outward {
    Vec3f out, n;
    float cosine, rough_share, passes, masking;
  };
  struct Both {
    Rgb value;
    float density;
  };
  [[nodiscard]] Outward outward(const Vec3f& out, const Vec3f& n) const;
  [[nodiscard]] Both both(const Outward& o, const Vec3f& in) const;
  [[nodiscard]] float coat_reflects(float cosine) const {
    const float at = std::clamp(cosine, 0.0f, 1.0f) * 512.0f;
    const auto i = std::min(static_cast<std::size_t>(at), std::size_t{511});
    return (*coat_table)[i] + ((*coat_table)[i + 1] - (*coat_table)[i]) * (at - static_cast<float>(i));
  }

  struct Sample {
    Vec3f direction;
    Rgb weight;  ///< value / density
    float density;
  };
  [[nodiscard]] Sample sample(const Vec3f& out, const Vec3f& n, float choice, float u, float v) const;
};

/// What a material shows, pictures left out.
[[nodiscard]] Scattering scattering_of(const Material& material);

/// Diffuse transmission out of a coat of index `ior`, averaged over a hemisphere (Egan & Hilgeman's fit is
/// avoided: integrated numerically once per index, cached by the caller's table).
[[nodiscard]] float mean_fresnel(float ior);

/// A frame with `n` as its third axis.
void frame_about(const Vec3f& n, Vec3f& x, Vec3f& y);
[[nodiscard]] Vec3f cosine_direction(const Vec3f& n, float u, float v);
/// A microfacet normal visible from `out`, distributed as GGX of `alpha` (Heitz 2018, JCGT 7:4).
[[nodiscard]] Vec3f visible_normal(const Vec3f& out, const Vec3f& n, float alpha, float u, float v);
/// A metal's reflectance by that at normal incidence (Schlick 1994): three bands know no simple exact form.
[[nodiscard]] Rgb metal_fresnel(const Rgb& f0, float cosine);
[[nodiscard]] float ggx_masking(float cosine, float alpha);

}  // namespace cinnabar
