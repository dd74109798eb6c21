// What smooth things mirror: where each pixel of a picture is thrown, and the room about a point, unrolled.
#pragma once
#include <optional>
#include <vector>

#include "cinnabar/render/film.h"

namespace cinnabar {

/// Whether what was met mirrors sharply: gloss, metal, mirror, glass or liquid of a roughness under 0.15.
[[nodiscard]] bool mirrors(const FirstHit& hit);
/// A line of sight thrown back by a smooth side (law of reflection).
struct MirroredLine {
  Vec3 from, along;  ///< along: unit
};
/// Of the pixel's first hit; nothing where it does not mirror.
[[nodiscard]] std::optional<MirroredLine> mirrored_line(const Film& film, const StagedCamera& camera,
                                                        const CameraPose& pose, int x, int y);

/// A direction of the room: what stands there and how much of the picture mirrors it.
struct RoomPlace {
  Role role = Role::surface;
  int thing = -1;         ///< of a light, card or gear: its place in the set-up's list
  bool met = false;       ///< something stands there
  bool lit_face = false;  ///< a light's shining side
  float distance = 0;     ///< metres
  Rgb colour{};           ///< its material's; of a lit face the share of its light that goes this way
  float seen = 0;         ///< pixels of the picture that mirror this direction
};
/// The room as a point sees it: bearings from -180 at the left to 180 at the right, 0 toward the camera and
/// positive to its right, elevations from `highest` at the top to `lowest`, degrees.
struct UnrolledRoom {
  static constexpr double highest = 90.0, lowest = -40.0;
  int width = 0, height = 0;
  double camera_bearing = 0;  ///< of the world, degrees
  Vec3 from;
  std::vector<RoomPlace> places;  ///< row by row
  [[nodiscard]] const RoomPlace& at(int x, int y) const {
    return places[static_cast<std::size_t>(y) * static_cast<std::size_t>(width) + static_cast<std::size_t>(x)];
  }
  /// Of a place of it, shares from the top left; unit.
  [[nodiscard]] Vec3 direction(double x, double y) const;
  /// And back; `y` beyond 0 to 1 where it is higher or lower than what is shown.
  struct Share {
    double x, y;
  };
  [[nodiscard]] Share share(const Vec3& direction) const;
};

/// The room about the first product of a staged world without its products, `width` pixels across; the film of the
/// same world tells which directions are mirrored. Nothing where there is no product.
[[nodiscard]] std::optional<UnrolledRoom> unrolled_room(const StagedWorld& world, const Film& film, int width,
                                                        int height);

}  // namespace cinnabar
