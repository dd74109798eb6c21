#include "cinnabar/render/mirrored.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/render/geometry.h"

namespace cinnabar {
namespace {

constexpr double off_the_side = 1e-4;  // metres, so that a side does not meet itself

}  // namespace

bool mirrors(const FirstHit& hit) {
  if (!hit.mesh || hit.mesh->material.roughness >= 0.15) return false;
  switch (hit.mesh->material.kind) {
    case MaterialKind::gloss:
    case MaterialKind::metal:
    case MaterialKind::mirror:
    case MaterialKind::glass:
    case MaterialKind::liquid:
      return true;
    default:
      return false;
  }
}

std::optional<MirroredLine> mirrored_line(const Film& film, const StagedCamera& camera, const CameraPose& pose,
                                          int x, int y) {
  const FirstHit& hit = film.first[film.at(x, y)];
  if (!mirrors(hit)) return std::nullopt;
  const Vec3 along = pose.toward(camera.optics, (x + 0.5) / film.width, (y + 0.5) / film.height),
             normal = unit(hit.normal.as<double>());
  const Vec3 at = pose.place + along * static_cast<double>(hit.distance);
  return MirroredLine{at + normal * off_the_side, along - normal * (2.0 * dot(along, normal))};
}

Vec3 UnrolledRoom::direction(double x, double y) const {
  const double bearing = radians(camera_bearing + 360.0 * (x - 0.5)),
               elevation = radians(highest + y * (lowest - highest));
  return {std::cos(elevation) * std::sin(bearing), std::sin(elevation), std::cos(elevation) * std::cos(bearing)};
}

UnrolledRoom::Share UnrolledRoom::share(const Vec3& direction) const {
  const Vec3 d = unit(direction);
  const double bearing = std::remainder(degrees(std::atan2(d.x, d.z)) - camera_bearing, 360.0),
               elevation = degrees(std::asin(std::clamp(d.y, -1.0, 1.0)));
  return {0.5 + bearing / 360.0, (elevation - highest) / (lowest - highest)};
}

std::optional<UnrolledRoom> unrolled_room(const StagedWorld& world, const Film& film, int width, int height) {
  UnrolledRoom room;
  // About the middle of what the camera sees of the products.
  Vec3 low{unbounded, unbounded, unbounded}, high{-unbounded, -unbounded, -unbounded};
  for (const Mesh& mesh : world.meshes) {
    if (mesh.role != Role::product || mesh.positions.empty()) continue;
    for (const Vec3f& p : mesh.positions[mesh.positions.size() / 2]) {
      const Vec3 at = p.as<double>();
      low = {std::min(low.x, at.x), std::min(low.y, at.y), std::min(low.z, at.z)};
      high = {std::max(high.x, at.x), std::max(high.y, at.y), std::max(high.z, at.z)};
    }
  }
  if (low.x > high.x || width < 1 || height < 1 || world.camera.poses.empty()) return std::nullopt;
  room.from = (low + high) * 0.5;
  const CameraPose& pose = world.camera.middle_pose();
  const Vec3 eye = pose.place - room.from;
  room.camera_bearing = degrees(std::atan2(eye.x, eye.z));
  room.width = width, room.height = height;
  room.places.resize(static_cast<std::size_t>(width) * static_cast<std::size_t>(height));

  StagedWorld around = world;
  std::erase_if(around.meshes, [](const Mesh& mesh) { return mesh.role == Role::product; });
  const Geometry geometry(around);
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      const Vec3 toward = room.direction((x + 0.5) / width, (y + 0.5) / height);
      const Hit hit = geometry.meet({room.from.as<float>(), toward.as<float>(), 1e-3f, 1e30f, 0.5f});
      if (!hit.mesh || hit.distance < 0) continue;
      RoomPlace& place =
          room.places[static_cast<std::size_t>(y) * static_cast<std::size_t>(width) + static_cast<std::size_t>(x)];
      place.met = true;
      place.role = hit.mesh->role, place.thing = hit.mesh->thing, place.distance = hit.distance;
      const Vec3 colour = hit.mesh->material.colour;
      place.colour = {static_cast<float>(colour.x), static_cast<float>(colour.y), static_cast<float>(colour.z)};
      if (hit.mesh->light >= 0) {
        const StagedLight& light = around.lights[static_cast<std::size_t>(hit.mesh->light)];
        const double facing = -dot(toward, light.frame.ahead);
        place.lit_face = light.level() > 0 &&
                         (facing > 0 || (light.shape != LightShape::rectangle && light.shape != LightShape::disc));
        const auto passed = static_cast<float>(light.toward(hit.place.as<double>(), toward));
        if (place.lit_face) place.colour = {passed, passed, passed};
      }
    }
  for (int y = 0; y < film.height; ++y)
    for (int x = 0; x < film.width; ++x) {
      const FirstHit& hit = film.first[film.at(x, y)];
      if (!hit.mesh || hit.mesh->role != Role::product) continue;
      const auto line = mirrored_line(film, world.camera, pose, x, y);
      if (!line) continue;
      const auto there = room.share(line->along);
      const int px = std::clamp(static_cast<int>(there.x * width), 0, width - 1),
                py = static_cast<int>(std::floor(there.y * height));
      if (py < 0 || py >= height) continue;
      room.places[static_cast<std::size_t>(py) * static_cast<std::size_t>(width) + static_cast<std::size_t>(px)]
          .seen += 1.0f;
    }
  return room;
}

}  // namespace cinnabar
