// How materials throw light back. Each sampler has its density beside it; directions point away from the surface.
#pragma once
#include <algorithm>
#include <array>

#include "cinnabar/render/geometry.h"
#include "cinnabar/render/lobes.h"
#include "cinnabar/render/sampler.h"

namespace cinnabar {

/// The opaque part of a material at one point, ready for evaluation: a diffuse base under an optional coat or nap,
/// a rough metal, or the face of a body that scatters inside. Sharp mirrors and clear bodies are followed by the
/// tracer itself. What a rough lobe loses to its own facets' shadows is given back (Kulla & Conty 2017,
/// *Revisiting Physically Based Shading at Imageworks*), so that a white surface gives out all it gets: by
/// metal as a wider lobe, under a coat by the base.
struct Scattering {
  Rgb base{};               ///< diffuse reflectance
  Rgb specular{};           ///< reflectance of the rough lobe at normal incidence
  float alpha = 0;          ///< roughness of that lobe along `drawn`; 0: no rough lobe
  float across = 0;         ///< and across it; set by rough()
  float coat_ior = 0;       ///< 0: no coat
  float coat_inside = 0;    ///< mean reflectance of the coat from below; set by coat() and rough()
  float through = 0;        ///< share of the base that goes out on the other side
  float forward = 0;        ///< share of that in a lobe about the way straight on
  float lobe = 1;           ///< the exponent of that lobe's cosine
  float sheen = 0;          ///< share of a nap of upright fibres over the base; set by nap()
  bool sharp_coat = false;  ///< the coat mirrors like glass; followed by the tracer
  bool slight = false;      ///< foil, or dust on what does not gather: what it throws is left to paths
  bool body = false;        ///< light goes in and scatters inside
  float leaves = 0;  ///< more than 0: the inner side of such a body's face, and what its leaving is scaled by
  Vec3f fold{};      ///< unit, where relief tilts the normal: what would go below this one is thrown up again
  Vec3f drawn{};     ///< unit, in the surface: the way a brushed finish's lobe is narrow

  /// Fresnel reflectance of the coat by cosine, 0 to 1 in even steps; shared by all surfaces of one index.
  using CoatTable = std::array<float, 513>;
  const CoatTable* coat_table = nullptr;
  const LobeTable* lobe_table = nullptr;  ///< what the rough lobe, or the nap, gives out

  /// Whether it mirrors sharply and does nothing else.
  [[nodiscard]] bool is_mirror() const {
    return coat_ior == 0.0f && std::max(alpha, across) < 1e-3f && largest(specular) > 0.0f;
  }
  /// Whether what mirrors, metals and glass throw on it is looked up among the photons that landed there. What
  /// does not gather throws on itself: narrow lobes are followed from the lights.
  [[nodiscard]] bool gathers() const {
    return largest(base) > 0.0f && (alpha <= 0.0f || alpha > 0.08f) && !slight;
  }
  void coat(float ior);  ///< puts a coat of that index over the base
  /// Makes the coat, or the metal where there is none, rough: microfacet alpha along `drawn` and across it.
  void rough(float along, float crosswise);
  void nap(float part, float roughness);  ///< puts a sheen over a base without a coat
  [[nodiscard]] Rgb value(const Vec3f& out, const Vec3f& in, const Vec3f& n) const;  ///< with the cosine
  [[nodiscard]] float density(const Vec3f& out, const Vec3f& in, const Vec3f& n) const;

  /// What depends on the way out alone, computed once for all directions that are asked for at a point.
  struct Outward {
    Vec3f out, n;
    float cosine, rough_share, passes;
    float unhidden;              ///< share of a rough lobe's facets seen from there
    float unhidden_again, gain;  ///< of a metal: of what meets several facets, LobeTable::gain
    float covered;               ///< of a nap: what it lets through, over the mean of that
    Vec3f x, y;                  ///< along and across a brushed finish
  };
  struct Both {
    Rgb value;
    float density;
  };
  [[nodiscard]] Outward outward(const Vec3f& out, const Vec3f& n) const;
  [[nodiscard]] Both both(const Outward& o, const Vec3f& in) const {
    return is_folded() ? folded(o, in) : flat(o, in);
  }
  [[nodiscard]] bool is_folded() const { return dot(fold, fold) > 0.0f; }
  [[nodiscard]] float coat_reflects(float cosine) const {
    const float at = std::clamp(cosine, 0.0f, 1.0f) * 512.0f;
    const auto i = std::min(static_cast<std::size_t>(at), std::size_t{511});
    return (*coat_table)[i] + ((*coat_table)[i + 1] - (*coat_table)[i]) * (at - static_cast<float>(i));
  }

  /// What the coat lets through toward the inside, by cosine: sharp by Fresnel, rough by all its lobe gives out.
  [[nodiscard]] float coat_gives(float cosine, float bearing = 0.0f) const {
    return lobe_table ? lobe_table->at(cosine, bearing) : coat_reflects(cosine);
  }

  struct Sample {
    Vec3f direction;
    Rgb weight;  ///< value / density
    float density;
  };
  [[nodiscard]] Sample sample(const Vec3f& out, const Vec3f& n, float choice, float u, float v) const;

 private:
  [[nodiscard]] Both flat(const Outward& o, const Vec3f& in) const;
  [[nodiscard]] Both folded(const Outward& o, const Vec3f& in) const;
  [[nodiscard]] Rgb colour_again() const;
};

/// What a material shows, pictures left out.
[[nodiscard]] Scattering scattering_of(const Material& material);
/// The same where its cover lies; without one, nothing.
[[nodiscard]] Scattering covered_scattering_of(const Material& material);
inline constexpr float grease = 0.12f;  ///< alpha of a fingerprint's film; common practice, no source

/// The mean reflectance of a coat of index `ior` over a hemisphere, from outside; integrated once per index.
[[nodiscard]] float mean_fresnel(float ior);

[[nodiscard]] Vec3f cosine_direction(const Vec3f& n, float u, float v);
/// A metal's reflectance by that at normal incidence (Schlick 1994): three bands know no simple exact form.
[[nodiscard]] Rgb metal_fresnel(const Rgb& f0, float cosine);

}  // namespace cinnabar
