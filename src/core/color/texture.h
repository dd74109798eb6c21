// Patterns that a flat thing repeats: grain, veins, specks and threads of the program's own, or a picture's.
#pragma once
#include <memory>

#include "cinnabar/color/picture.h"

namespace cinnabar {

enum class Pattern { wood, marble, stone, weave };

/// A tile that repeats without a seam: what its places reflect against the mean of all, which it says.
struct Tile {
  std::shared_ptr<const Picture> against_mean;
  Vec3 mean;  ///< linear BT.709 reflectance
};

/// What a pattern of a ground and of what is drawn on it reflects in the mean: at once, nothing is drawn for it.
[[nodiscard]] Vec3 mean_of(Pattern pattern, const Vec3& ground, const Vec3& drawn);
/// Its tile, as wide as it is high; 512 pixels. The same for the same colours, and kept for the last that were
/// asked for. From any thread; the first of a pattern takes some tens of milliseconds.
[[nodiscard]] Tile tile_of(Pattern pattern, const Vec3& ground, const Vec3& drawn);
/// Of a picture over a ground that tints it. Where a tile ends the next begins, whether or not they meet well.
[[nodiscard]] Tile tile_of(const std::shared_ptr<const Picture>& picture, const Vec3& ground);

/// Share of what is drawn, 0 to 1, at a place of the pattern's tile, 0 to 1 each way.
[[nodiscard]] double drawn_at(Pattern pattern, double u, double v);

}  // namespace cinnabar
