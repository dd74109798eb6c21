// Single pixels that chance made far too bright: their light is spread over what lies about them, none is lost.
#pragma once
#include <vector>

#include "cinnabar/render/film.h"

namespace cinnabar {

struct Speckle {
  std::size_t pixel;
  float keeps;  ///< share of its light that stays; the rest goes to its neighbours
  int reach;    ///< of the square of pixels that it is spread over, as far as they show the same thing
};

/// The pixels of matte things over four times the middle of their 5 x 5 neighbours, whose own passes tell that it
/// is chance: few of them gave most of it. What is bright in every pass (a spot of light, print) is none. Only of
/// films by photons, which keep their passes' squares, from 8 passes on.
[[nodiscard]] std::vector<Speckle> speckles(const Picture& picture, const Film& film);

/// Spreads them in a picture of the same film: the whole or a layer of it.
void spread(Picture& picture, const Film& film, const std::vector<Speckle>& speckles);

/// A film's picture with its speckles spread.
[[nodiscard]] Picture calm(const Film& film, const LayerWeights& weights);

}  // namespace cinnabar
