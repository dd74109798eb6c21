// The surface of a liquid whose vessel leans, or is pushed about: level in the world, and a wave on it.
#pragma once
#include <optional>
#include <vector>

#include "cinnabar/scene/effects_staged.h"

namespace cinnabar {

/// A liquid's surface at a set second, in its product's own coordinates; nothing where it stands flat across, or
/// where the product has no round vessel with a liquid in it. What an open vessel cannot hold as it leans is gone
/// from then on. `product` is as full as it is then. A closed vessel that leans by 85 degrees or more keeps its
/// liquid as it stands upright.
[[nodiscard]] std::optional<LiquidSurface> liquid_surface(const Project& project, const Shot& shot,
                                                          std::size_t thing, const ToldEffects& effects,
                                                          const Product& product, double set_time);
/// The product with that surface on its liquid.
[[nodiscard]] Product with_surface(Product product, const LiquidSurface& surface);

/// How much an open vessel holds as it leans less what is in it then, m3, at the moment of the shot when that is
/// least; negative where it runs over.
struct LeaningRoom {
  double spare, at;
};
/// Nothing for what does not lean on a track, or holds nothing.
[[nodiscard]] std::optional<LeaningRoom> leaning_room(const Project& project, const Shot& shot, std::size_t thing,
                                                      const ToldEffects& effects);

/// What is within a turned side, floor first, up to such a surface, added to a mesh: closed, as many corners
/// whatever the surface as long as the floor's middle is wet. Nothing where none of it is.
void add_liquid(Mesh& mesh, const std::vector<ProfilePoint>& side, const LiquidSurface& surface, int segments);

}  // namespace cinnabar
