// Round faces of lights as triangles, of the true ones' area: what shines from them adds up.
#pragma once
#include "cinnabar/scene/staged.h"

namespace cinnabar {

/// A tube's side between two places; `u` and `v` are square to it.
void add_tube_side(Mesh& mesh, const Vec3& from, const Vec3& to, const Vec3& u, const Vec3& v, double r,
                   int segments);
/// A disc in the plane of `u` and `v`.
void add_disc(Mesh& mesh, const Vec3& centre, const Vec3& u, const Vec3& v, double r, const Vec3& normal,
              int segments);
/// Half a ball toward `ahead`.
void add_dome(Mesh& mesh, const Vec3& c, const Facing& f, double r, int segments);
void add_lamp_ball(Mesh& mesh, const Vec3& c, double r, int segments);

}  // namespace cinnabar
