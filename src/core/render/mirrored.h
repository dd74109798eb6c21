// What smooth things mirror: where each pixel of a picture is thrown, and the room about a point, unrolled.
#pragma once
#include <optional>
#include <vector>

#include "cinnabar/render/film.h"

namespace cinnabar {

/// Whether what was met mirrors sharply: gloss, metal, mirror, glass or liquid of a roughness under 0.15.
[[nodiscard]] bool mirrors(const Mesh* met);
/// A line of sight thrown back by a smooth side (law of reflection).
struct MirroredLine {
  Vec3 from, along;  ///< along: unit
};
/// Of the pixel's first hit; nothing where it does not mirror.
[[nodiscard]] std::optional<MirroredLine> mirrored_line(const Film& film, const StagedCamera& camera,
                                                        const CameraPose& pose, int x, int y);

/// What a line from a smooth side meets.
struct ThrownLine {
  MirroredLine line;
  bool met = false;
  Role role = Role::surface;
  int thing = -1;         ///< as a mesh has it
  bool lit_face = false;  ///< a light's shining side that is lit
  float distance = 0;     ///< metres, where something is met
  float reflects = 0;     ///< luminance of its colour: of a card the share that it gives back; 0 of glass
};
/// The family of angles of a place: where the lines of sight to it and about it are thrown, so that what stands
/// on any of them is seen mirrored there.
struct AngleFamily {
  Vec3 at;                        ///< the place, as the lens meets it
  std::vector<ThrownLine> lines;  ///< that of the place itself, then those of its rim, round about
};
/// Of the place `at` of a product, and of a disc of `radius` metres about it, seen flat from the lens. Lines
/// beside the product, or to what does not mirror, are left out, all where the place itself mirrors nothing;
/// nothing where the lens does not see it.
[[nodiscard]] std::optional<AngleFamily> angle_family(const class Geometry& geometry, const CameraPose& pose,
                                                      const Vec3& at, double radius, int rim = 24);

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
