// The triangles of a part that was read from a mesh rather than given by an outline. Metres, the product's own
// coordinates. Kept in the project as binary STL (a blob of type "model/stl"), so that other programs read it too.
#pragma once
#include <array>
#include <memory>
#include <vector>

#include "cinnabar/base/result.h"
#include "cinnabar/base/vec.h"

namespace cinnabar {

/// How a mesh's edges meet, after corners nearer than a micrometre are taken as one.
struct EdgeCount {
  std::size_t open = 0;     ///< on one triangle only: a hole or a rim
  std::size_t crowded = 0;  ///< on more than two
  std::size_t turned = 0;   ///< between two triangles of which one faces inward
  [[nodiscard]] bool closed() const { return open == 0 && crowded == 0 && turned == 0; }
};

/// One level cut through a mesh, seen from the middle of its extent.
struct MeshSection {
  static constexpr int bearings = 72;
  double height = 0, x = 0, z = 0;  ///< of its middle
  double half_width = 0, half_depth = 0;
  std::array<float, bearings> reach{};  ///< how far it goes out, every 5 degrees of bearing

  /// Between the bearings, linearly.
  [[nodiscard]] double reach_at(double bearing_deg) const;
};

struct PartMesh {
  std::vector<Vec3f> corners;  ///< three to a triangle, counter-clockwise seen from outside
  std::vector<Vec3f> normals;  ///< to each corner, smoothed where faces meet at under 30 degrees
  EdgeCount edges;
  std::vector<MeshSection> sections;  ///< from the lowest up

  [[nodiscard]] std::size_t triangles() const { return corners.size() / 3; }
};

inline constexpr std::size_t most_triangles = 300000;

/// Whether three corners span a face that is more than rounding.
[[nodiscard]] bool has_area(const Vec3f& a, const Vec3f& b, const Vec3f& c);

/// The mesh of these corners, with what else is asked of it. Triangles without area are left out.
[[nodiscard]] PartMesh part_mesh(std::vector<Vec3f> corners);

/// Enclosed volume in cubic metres, negative where faces look inward; of closed meshes only.
[[nodiscard]] double enclosed_volume(const std::vector<Vec3f>& corners);
[[nodiscard]] EdgeCount count_edges(const std::vector<Vec3f>& corners);

/// Binary STL: 80 bytes of heading, the count, 50 bytes to a triangle, little-endian.
[[nodiscard]] std::vector<unsigned char> stl_of(const std::vector<Vec3f>& corners);
/// Fails where bytes and count do not agree, a number is not finite or beyond 1000 m, or nothing is there.
[[nodiscard]] Expected<std::vector<Vec3f>> corners_of_stl(const std::vector<unsigned char>& bytes);

}  // namespace cinnabar
