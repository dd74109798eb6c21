#include "cinnabar/render/mirrored.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/color/white.h"
#include "cinnabar/render/geometry.h"

namespace cinnabar {
namespace {

constexpr double off_the_side = 1e-4;  // metres, so that a side does not meet itself

MirroredLine thrown(const Vec3& at, const Vec3& along, const Vec3& normal) {
  return {at + normal * off_the_side, along - normal * (2.0 * dot(along, normal))};
}

Hit met_by(const Geometry& geometry, const Vec3& from, const Vec3& along) {
  return geometry.meet({from.as<float>(), along.as<float>(), 1e-3f, 1e30f, 0.5f});
}

/// Whether that is a light's lit side, and the share of its light that goes back along the line; 0 where not.
struct LitFace {
  bool lit = false;
  double share = 0;
};
LitFace lit_face(const StagedWorld& world, const Hit& hit, const Vec3& along) {
  if (hit.mesh->light < 0) return {};
  const StagedLight& light = world.lights[static_cast<std::size_t>(hit.mesh->light)];
  const bool lit =
      light.level() > 0 && (dot(along, light.frame.ahead) < 0 ||
                            (light.shape != LightShape::rectangle && light.shape != LightShape::disc));
  return {lit, lit ? light.toward(hit.place.as<double>(), along) : 0.0};
}

}  // namespace

bool mirrors(const Mesh* met) {
  if (!met || met->material.roughness >= 0.15) return false;
  switch (met->material.kind) {
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
  if (!mirrors(hit.mesh)) return std::nullopt;
  const Vec3 along = pose.toward(camera.optics, (x + 0.5) / film.width, (y + 0.5) / film.height),
             normal = unit(hit.normal.as<double>());
  const Vec3 at = pose.place + along * static_cast<double>(hit.distance);
  return thrown(at, along, normal);
}

std::optional<AngleFamily> angle_family(const Geometry& geometry, const CameraPose& pose, const Vec3& at,
                                        double radius, int rim) {
  AngleFamily out{at, {}};
  const Facing across = facing(pose.place, at);
  const double near = std::max(0.005, 2.0 * radius);  // how much farther or nearer what is seen beside it may lie
  for (int k = 0; k <= std::max(0, rim); ++k) {
    const double round = 2.0 * pi * (k - 1) / std::max(1, rim);
    const Vec3 place = k == 0 ? at : at + (across.right * std::cos(round) + across.up * std::sin(round)) * radius;
    const Vec3 along = unit(place - pose.place);
    const Hit hit = met_by(geometry, pose.place, along);
    const bool seen = hit.distance >= 0 && hit.mesh && hit.mesh->role == Role::product &&
                      std::abs(static_cast<double>(hit.distance) - length(place - pose.place)) < near;
    if (k == 0 && !seen) return std::nullopt;
    if (k == 0 && !mirrors(hit.mesh)) return out;
    if (!seen || !mirrors(hit.mesh)) continue;
    Vec3 normal = unit(hit.normal.as<double>());
    if (dot(normal, along) > 0) normal = normal * -1.0;
    ThrownLine line{thrown(pose.place + along * static_cast<double>(hit.distance), along, normal)};
    if (k == 0) out.at = line.line.from;
    if (const Hit met = met_by(geometry, line.line.from, line.line.along); met.mesh && met.distance >= 0) {
      line.met = true, line.role = met.mesh->role, line.thing = met.mesh->thing, line.distance = met.distance;
      line.lit_face = lit_face(geometry.world(), met, line.line.along).lit;
      if (met.mesh->material.kind != MaterialKind::glass)
        line.reflects = luminance(met.mesh->material.colour.as<float>());
    }
    out.lines.push_back(line);
  }
  return out;
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
      const Hit hit = met_by(geometry, room.from, toward);
      if (!hit.mesh || hit.distance < 0) continue;
      RoomPlace& place =
          room.places[static_cast<std::size_t>(y) * static_cast<std::size_t>(width) + static_cast<std::size_t>(x)];
      place.met = true;
      place.role = hit.mesh->role, place.thing = hit.mesh->thing, place.distance = hit.distance;
      const Vec3 colour = hit.mesh->material.colour;
      place.colour = {static_cast<float>(colour.x), static_cast<float>(colour.y), static_cast<float>(colour.z)};
      const LitFace lit = lit_face(around, hit, toward);
      const auto passed = static_cast<float>(lit.share);
      if (place.lit_face = lit.lit; lit.lit) place.colour = {passed, passed, passed};
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
