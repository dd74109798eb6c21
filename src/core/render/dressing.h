// What lies on a surface, or is pressed into it: pits, drops, dust, prints. Each is where the surface cuts a ball
// of a fixed lattice, so that it is the same at every look, moves with its thing, and covers the share it is said
// to: of any flat cut the balls take on average their share of the room (Delesse 1847).
#pragma once
#include <optional>

#include "cinnabar/render/geometry.h"

namespace cinnabar {

/// Balls of chance places and sizes, one at most to a cell of each of a few lattices.
class Balls {
 public:
  /// `part` of the room, 0 to 0.8; `size` across the largest, metres.
  Balls(double part, double size, std::uint32_t seed);

  struct Cut {
    Vec3f from_middle;  ///< from the middle of the disc that the surface cuts to the place, in the surface
    float radius;       ///< of that disc
    std::uint32_t which;
  };
  /// The ball that holds a place, as a surface of that normal cuts it.
  [[nodiscard]] std::optional<Cut> at(const Vec3f& place, const Vec3f& normal) const;

 private:
  float cell_, largest_;
  std::uint32_t lattices_, seed_;
};

/// One mesh's.
class Dressing {
 public:
  explicit Dressing(const Mesh& mesh);
  /// Tilts the normal where there are pits or drops, and says whether the cover lies there.
  void put_on(Hit& hit) const;

 private:
  std::optional<Balls> pits_, cover_;
  CoverKind kind_ = CoverKind::droplets;
  float steepness_ = 0.0f;  ///< of a pit: four times its depth over half its size
};

}  // namespace cinnabar
