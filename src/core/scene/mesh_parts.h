// Simple bodies added to a mesh that stands still, facing outward.
#pragma once
#include <utility>
#include <vector>

#include "cinnabar/scene/staged.h"

namespace cinnabar {

/// Four corners, the first two with one normal and the last two with another.
void add_quad(Mesh& mesh, const Vec3& a, const Vec3& b, const Vec3& c, const Vec3& d, const Vec3& na,
              const Vec3& nd);
/// Six faces about a middle, `half` to either side along the axes.
void add_box(Mesh& mesh, const Vec3& middle, const Vec3& half, const Vec3& right = {1, 0, 0},
             const Vec3& up = {0, 1, 0});
/// Half an ellipse, `half.z` to either side and twice `half.y` high, drawn out `half.x` to either side along
/// `right`; without a floor.
void add_ridge(Mesh& mesh, const Vec3& foot, const Vec3& half, const Vec3& right);
/// A closed ball of a true ball's volume, with the ball's own normals: light may go through it.
void add_ball(Mesh& mesh, const Vec3& middle, double radius, int rows);
/// A closed round thread along places with their radii, of a true one's volume; two places or more.
void add_thread(Mesh& mesh, const std::vector<std::pair<Vec3, double>>& spine);

/// A closed ring turned about the upright through `foot`: its outline by radius and height over that, up its outer
/// side and down its inner one.
void add_turned(Mesh& mesh, const Vec3& foot, const std::vector<std::pair<double, double>>& outline);

}  // namespace cinnabar
