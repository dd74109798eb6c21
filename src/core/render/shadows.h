// Shadows alone: what direct light is kept from each place of a picture.
#pragma once
#include <atomic>

#include "cinnabar/render/film.h"

namespace cinnabar {

/// Share of the direct light of the lights that are on, 0 to 1, which is kept from each place of a picture by what
/// stands before it or because it is turned away; their luminances are taken as they are now. 0 where no light is
/// on and where nothing or a light is seen. `solo` takes one light alone. Looked at on a grid of
/// at most `places` and evened between; repeatable. Empty when cancelled, and of a film without passes.
struct ShadowMap {
  int width = 0, height = 0;
  std::vector<float> kept;  ///< row by row from the top left
};
[[nodiscard]] ShadowMap shadows_alone(const Film& film, const StagedWorld& world, const std::string& solo = {},
                                      std::size_t places = 36000, const std::atomic<bool>* cancel = nullptr);

}  // namespace cinnabar
