#include "cinnabar/scene/room.h"

#include "cinnabar/scene/mesh_parts.h"

namespace cinnabar {

void stage_room(const Room& room, const Vec3& eye, StagedWorld& world) {
  if (!room.has_walls()) return;
  const Vec3 x{*room.width / 2, 0, 0}, y{0, *room.height / 2, 0}, z{0, 0, *room.depth / 2},
      middle = room.place + y;
  // Outward, and the two half sides across.
  const struct {
    Vec3 out, across, up;
  } sides[]{{-x, z, y}, {x, z, y}, {z, x, y}, {-z, x, y}, {y, x, z}, {-y, x, z}};
  for (int k = 0; k < 6; ++k) {
    const auto& side = sides[k];
    const Vec3 at = middle + side.out, inward = -unit(side.out);
    if (dot(eye - at, inward) <= 0.0) continue;
    Mesh mesh;
    mesh.role = Role::room, mesh.thing = k;
    mesh.material.colour = {room.reflectance, room.reflectance, room.reflectance};
    add_quad(mesh, at - side.across - side.up, at + side.across - side.up, at + side.across + side.up,
             at - side.across + side.up, inward, inward);
    world.meshes.push_back(std::move(mesh));
  }
}

}  // namespace cinnabar
