#include "cinnabar/scene/camera_body.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/scene/mesh_parts.h"

namespace cinnabar {
namespace {

constexpr double pupil_clear = 0.01;  // metres from the pupil to the lens's front, so that no ray begins in it
constexpr double flat_body = 0.02;    // of less depth, a phone's: its lens does not stand out
constexpr double black = 0.03;        // reflectance; common practice, no source
constexpr int barrel_sides = 24;

}  // namespace

void stage_camera_body(const Project& project, const Shot& shot, StagedWorld& world) {
  const CameraBody* body = shot.camera ? by_id(project.cameras, shot.camera->camera) : nullptr;
  if (!body || !body->width || !body->height || !body->depth || world.camera.poses.empty()) return;
  const CameraPose& pose = world.camera.middle_pose();
  const Facing& f = pose.frame;
  double back = pupil_clear;  // of what a camera that goes backward leaves behind it
  for (const CameraPose& other : world.camera.poses)
    back = std::max(back, pupil_clear + std::max(0.0, -dot(other.place - pose.place, f.ahead)));
  const double deep = *body->depth, barrel = deep < flat_body ? 0.0 : deep,
               radius = std::min(*body->width, *body->height) / 3;
  Mesh mesh;
  mesh.role = Role::gear;
  mesh.material = Material{MaterialKind::matte, {black, black, black}};
  const Vec3 front = pose.place - f.ahead * back;
  add_box(mesh, front - f.ahead * (barrel + deep / 2), {*body->width / 2, *body->height / 2, deep / 2}, f.right,
          f.up);
  for (int k = 0; barrel > 0.0 && k < barrel_sides; ++k) {
    const auto out = [&](int step) {
      const double turn = 2 * pi * step / barrel_sides;
      return f.right * std::cos(turn) + f.up * std::sin(turn);
    };
    const Vec3 a = out(k), b = out(k + 1), far = f.ahead * barrel;
    add_quad(mesh, front + a * radius, front + a * radius - far, front + b * radius - far, front + b * radius, a,
             b);
    add_quad(mesh, front, front, front + b * radius, front + a * radius, f.ahead, f.ahead);
  }
  world.meshes.push_back(std::move(mesh));
}

}  // namespace cinnabar
