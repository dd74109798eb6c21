// Effects in the staged world: what stands about them, what comes of them, and their bodies as triangles.
#pragma once
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/effects/kinds.h"
#include "cinnabar/scene/staged.h"

namespace cinnabar {

/// Open vessels of a shot at a set second, numbered as its products, and the tops
/// under a place's height of products without one.
[[nodiscard]] EffectPlace effect_place(const Project& project, const Shot& shot, const Vec3& place,
                                       double set_time);

/// Its own name, or its kind's in words.
[[nodiscard]] std::string effect_name(const Effect& effect);
/// One of its numbers as it is asked with: given, or by its liquid, or what is usual; nothing that its kind has
/// not.
[[nodiscard]] std::optional<double> measure_of(const Effect& effect, const std::string& key);

/// What comes of an effect. Fails with the measure, or the place, that cannot be, and with the mend.
[[nodiscard]] Expected<EffectOutcome> outcome_of(const Project& project, const Shot& shot, const Effect& effect);

/// An effect of a shot, and what comes of it, or why nothing can.
struct ToldEffect {
  const Effect* effect;  ///< as long as its shot is there
  Expected<EffectOutcome> outcome;
  const Product* product = nullptr;  ///< whose form its things have, as long as its project is there

  /// What can hurt: as it comes out, and fire whenever it is named.
  [[nodiscard]] std::vector<Peril> perils() const;
};
using ToldEffects = std::vector<ToldEffect>;
/// All of a shot's, in its order. As dear as what falls in it: a third of a second for a thousand pieces with
/// drag.
[[nodiscard]] ToldEffects told_effects(const Project& project, const Shot& shot);

/// A product as it is at a set second, with what was poured into it; nothing where that changes nothing.
[[nodiscard]] std::optional<Product> filled_by(const ToldEffects& effects, const Product& product,
                                               std::size_t thing, double t);
/// The same with the drops that stand on it, on all its parts but liquids and those that are covered already; each
/// mist is on the product nearest to where it is sprayed. Nothing where none stand.
[[nodiscard]] std::optional<Product> misted_by(const Project& project, const Shot& shot,
                                               const ToldEffects& effects, const Product& product,
                                               std::size_t thing, double t);
/// Bodies that are there at the middle of an exposure, at each of these moments.
[[nodiscard]] std::vector<Mesh> effect_meshes(const ToldEffects& effects, double middle,
                                              const std::vector<double>& moments, std::vector<Medium>& media);

/// What hangs in the air at a set second.
[[nodiscard]] std::vector<Cloud> effect_clouds(const ToldEffects& effects, double t);

/// When an effect's event is wanted, in seconds of the shot on screen; nothing where neither second nor beat is
/// told.
[[nodiscard]] std::optional<double> wanted_on_screen(const Project& project, std::size_t shot,
                                                     const EffectNeed& need);

/// An effect of a kind as it comes to a shot: over its first product, its main moment wanted on the beat nearest
/// the middle and let go in time for that, as far as the shot's beginning allows. Under an id that the shot has
/// not yet.
[[nodiscard]] Json begun_effect(const Project& project, std::size_t shot, const EffectKind& kind);

}  // namespace cinnabar
