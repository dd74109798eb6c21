// What colours a product shows, for palettes: its parts by their outer area, clear ones by what they let through,
// its label's picture.
#pragma once
#include "cinnabar/color/palette.h"
#include "cinnabar/scene/staged.h"

namespace cinnabar {

/// Colours with shares by area (square metres); a label hides what it covers. Clear glass without a tint is passed
/// over. Empty where nothing has a colour.
[[nodiscard]] std::vector<Palette::Colour> product_colours(const Product& product);

}  // namespace cinnabar
