// What a line meets among staged meshes, one triangle after another: for the few lines that need no tracer.
#pragma once
#include <cmath>

#include "cinnabar/scene/staged.h"

namespace cinnabar {

/// Calls `met(mesh, distance)` for every triangle that the line from `from` along a unit direction meets (Moeller
/// & Trumbore 1997), at the middle of the exposure; `slack` widens the triangles, in shares of themselves.
template <class Meshes, class Met>
void meet_along(const Meshes& meshes, const Vec3& from, const Vec3& along, Met&& met, double slack = 0.0) {
  for (const Mesh& mesh : meshes) {
    if (mesh.positions.empty()) continue;
    const auto& at = mesh.positions[mesh.positions.size() / 2];
    for (std::size_t i = 0; i + 2 < mesh.triangles.size(); i += 3) {
      const Vec3 a = at[mesh.triangles[i]].template as<double>(),
                 ab = at[mesh.triangles[i + 1]].template as<double>() - a,
                 ac = at[mesh.triangles[i + 2]].template as<double>() - a, p = cross(along, ac);
      const double size = dot(ab, p);
      if (std::abs(size) < 1e-18) continue;
      const Vec3 to = from - a, q = cross(to, ab);
      const double u = dot(to, p) / size, v = dot(along, q) / size;
      if (u >= -slack && v >= -slack && u + v <= 1.0 + slack) met(mesh, dot(ac, q) / size);
    }
  }
}

}  // namespace cinnabar
