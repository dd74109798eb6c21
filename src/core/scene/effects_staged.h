// Effects in the staged world: what stands about them, what comes of them, and their bodies as triangles.
#pragma once
#include <vector>

#include "cinnabar/effects/kinds.h"
#include "cinnabar/scene/staged.h"

namespace cinnabar {

/// Open vessels of a shot as they stand at a set second, numbered as its products, and how high what lies under a
/// place is: a product without an open vessel, else the surface.
[[nodiscard]] EffectPlace effect_place(const Project& project, const Shot& shot, const Vec3& place,
                                       double set_time);

/// Its own name, or its kind's in words.
[[nodiscard]] std::string effect_name(const Effect& effect);

/// What comes of an effect. Fails with the measure, or the place, that cannot be, and with the mend.
[[nodiscard]] Expected<EffectOutcome> outcome_of(const Project& project, const Shot& shot, const Effect& effect);

/// What can hurt: as it comes out, and fire whenever it is named.
[[nodiscard]] std::vector<Peril> perils_of(const Effect& effect, const Expected<EffectOutcome>& outcome);

/// What of a shot's effects is staged: those that can be worked out.
struct StagedEffects {
  std::vector<const Effect*> effects;
  std::vector<EffectOutcome> outcomes;

  /// The product as it is at a set second, with what was poured into it; nothing where that changes nothing.
  [[nodiscard]] std::optional<Product> filled(const Product& product, std::size_t thing, double t) const;
  /// Bodies that are there at the middle of an exposure, at each of these moments.
  [[nodiscard]] std::vector<Mesh> meshes(double middle, const std::vector<double>& moments,
                                         std::vector<Medium>& media) const;
};
[[nodiscard]] StagedEffects staged_effects(const Project& project, const Shot& shot);

/// An effect of a kind as it comes to a shot: over its first product, let go a third into it, its main moment
/// wanted on the beat nearest the middle. Under an id that the shot has not yet.
[[nodiscard]] Json begun_effect(const Project& project, std::size_t shot, const EffectKind& kind);

/// Of what a liquid of an effect is: its own material, or that of the liquid by name.
[[nodiscard]] Material effect_material(const Effect& effect, bool liquid);

}  // namespace cinnabar
