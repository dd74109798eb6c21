#include "cinnabar/forecast/measures/gear_seen.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

#include "cinnabar/forecast/measures/line_of_sight.h"

namespace cinnabar {
namespace {

constexpr double rod_radius = 0.0125, camera_radius = 0.06;  // metres; common practice, no source
constexpr double table_height = 0.75;  // of the surface over the floor; common practice, no source
constexpr double rim_width = 0.005;
constexpr double off_the_side = 1e-4;

/// An upright rod, a ball, or a box along the axes.
struct Gearlike {
  std::string name;
  enum class Form { rod, ball, box } form;
  Vec3 low, high;  ///< ends of a rod's axis; a ball's middle twice; corners of a box
  double radius = 0;

  /// How far along a unit direction it is met.
  [[nodiscard]] std::optional<double> met(const Vec3& from, const Vec3& along) const {
    if (form == Form::box) {
      double enter = 0.0, leave = 1e30;
      const double a[3] = {from.x, from.y, from.z}, d[3] = {along.x, along.y, along.z};
      const double l[3] = {low.x, low.y, low.z}, h[3] = {high.x, high.y, high.z};
      for (int i = 0; i < 3; ++i) {
        if (d[i] == 0.0) {
          if (a[i] < l[i] || a[i] > h[i]) return std::nullopt;
          continue;
        }
        const double s = (l[i] - a[i]) / d[i], t = (h[i] - a[i]) / d[i];
        enter = std::max(enter, std::min(s, t)), leave = std::min(leave, std::max(s, t));
      }
      return leave > std::max(enter, off_the_side) ? std::optional(enter) : std::nullopt;
    }
    Vec3 to = from - low, way = along;
    if (form == Form::rod) to.y = way.y = 0.0;  // seen from above
    const double a = dot(way, way), b = dot(to, way), c = dot(to, to) - radius * radius;
    if (a < 1e-18 || b * b < a * c) return std::nullopt;
    const double t = (-b - std::sqrt(b * b - a * c)) / a;
    if (t < off_the_side) return std::nullopt;
    const double y = from.y + t * along.y;
    return form == Form::rod && (y < low.y || y > high.y) ? std::nullopt : std::optional(t);
  }
};

/// The foot of a stand that holds something at `place`: none over the surface or right beside a product.
std::optional<Gearlike> stand_of(const std::string& name, const Vec3& place, const Shot& shot,
                                 const Setup& setup) {
  if (setup.surface && std::abs(place.x) <= setup.surface->width / 2 &&
      std::abs(place.z) <= setup.surface->depth / 2)
    return std::nullopt;
  for (const ShotProduct& p : shot.products)
    if (std::hypot(p.place.x - place.x, p.place.z - place.z) < 0.25) return std::nullopt;
  const double floor = setup.surface ? -table_height : 0.0;
  if (place.y <= floor) return std::nullopt;
  return Gearlike{name + "'s stand", Gearlike::Form::rod, {place.x, floor, place.z}, place, rod_radius};
}

std::string name_or(const std::string& name, const std::string& otherwise) {
  return name.empty() ? otherwise : name;
}

std::vector<Gearlike> stands(const Shot& shot, const Setup& setup, double t) {
  std::vector<Gearlike> list;
  for (const Light& steady : setup.lights) {
    const Light l = light_at(steady, shot, t);
    if (l.daylight) continue;  // a window stands by itself
    if (auto stand = stand_of(name_or(l.name, l.id), l.place, shot, setup)) list.push_back(std::move(*stand));
  }
  for (const Card& c : setup.cards)
    if (auto stand = stand_of(name_or(c.name, c.id), c.place, shot, setup)) list.push_back(std::move(*stand));
  return list;
}

/// From the lens through the middle of a pixel, unit.
Vec3 toward_pixel(const Film& film, const StagedCamera& camera, const CameraPose& pose, int x, int y) {
  const double across = ((x + 0.5) / film.width - 0.5) * camera.optics.sensor_width,
               up = (0.5 - (y + 0.5) / film.height) * camera.optics.sensor_height;
  return unit(pose.frame.ahead * pose.image_distance() + pose.frame.right * across + pose.frame.up * up);
}

/// Tallies by name.
struct ByName {
  std::map<std::string, std::size_t> counts;
  std::size_t all = 0;
  [[nodiscard]] Covered of(std::size_t whole) const {
    Covered out;
    if (whole == 0 || all == 0) return out;
    out.percent = 100.0 * static_cast<double>(all) / static_cast<double>(whole);
    out.most = std::max_element(counts.begin(), counts.end(), [](const auto& a, const auto& b) {
                 return a.second < b.second;
               })->first;
    return out;
  }
  void add(const std::string& name) { ++counts[name], ++all; }
};

/// What the meshes of cards and gear are called, in the order in which they are staged.
std::map<const Mesh*, const Gear*> gear_by_mesh(const StagedWorld& world, const Setup& setup) {
  std::map<const Mesh*, const Gear*> found;
  std::size_t next = 0;
  for (const Mesh& mesh : world.meshes)
    if (mesh.role == Role::gear && next < setup.gear.size()) found[&mesh] = &setup.gear[next++];
  return found;
}
std::map<const Mesh*, std::string> gear_names(const StagedWorld& world, const Setup& setup) {
  std::map<const Mesh*, std::string> found;
  std::size_t card = 0, light = 0;
  for (const Mesh& mesh : world.meshes) {
    if (mesh.role == Role::card && card < setup.cards.size()) {
      found[&mesh] = name_or(setup.cards[card].name, setup.cards[card].id);
      ++card;
    }
    // A light's face comes before its body and its doors.
    if (mesh.role == Role::light) {
      if (mesh.light >= 0) light = static_cast<std::size_t>(mesh.light);
      if (light < setup.lights.size()) found[&mesh] = name_or(setup.lights[light].name, setup.lights[light].id);
    }
  }
  return found;
}

/// Whether something stands before `far` on a line of sight.
bool hidden(const StagedWorld& world, const Vec3& from, const Vec3& along, double far) {
  bool found = false;
  meet_along(world.meshes, from, along,
             [&](const Mesh&, double t) { found = found || (t > 1e-3 && t < far - 1e-3); });
  return found;
}

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

/// What must not be seen in a mirror, the camera first.
std::vector<Gearlike> unwanted(const Shot& shot, const Setup& setup, const CameraPose& pose, double t) {
  std::vector<Gearlike> list{{"the camera", Gearlike::Form::ball, pose.place - pose.frame.ahead * camera_radius,
                              pose.place - pose.frame.ahead * camera_radius, camera_radius}};
  for (const Gear& g : setup.gear)
    if (!g.dressed)
      list.push_back({name_or(g.name, g.id), Gearlike::Form::box, g.place - Vec3{g.size.x / 2, 0, g.size.z / 2},
                      g.place + Vec3{g.size.x / 2, g.size.y, g.size.z / 2}});
  for (const Light& steady : setup.lights) {
    const Light l = light_at(steady, shot, t);
    if (l.meant_for == "product" || !l.on || l.dimmer <= 0.0) continue;
    const std::string name = name_or(l.name, l.id);
    if (l.shape == LightShape::bare) list.push_back({name, Gearlike::Form::ball, l.place, l.place, l.radius});
    if (l.daylight && l.shape != LightShape::bare) {  // the box about its face
      const Facing f = facing(l.place, l.aim, l.roll_deg);
      const double w = l.shape == LightShape::rectangle ? l.width / 2 : l.radius,
                   h = l.shape == LightShape::rectangle ? l.height / 2
                       : l.shape == LightShape::tube    ? l.length / 2
                                                        : l.radius;
      const Vec3 half{std::abs(f.right.x) * w + std::abs(f.up.x) * h,
                      std::abs(f.right.y) * w + std::abs(f.up.y) * h,
                      std::abs(f.right.z) * w + std::abs(f.up.z) * h};
      list.push_back({name, Gearlike::Form::box, l.place - half, l.place + half});
    }
  }
  return list;
}

}  // namespace

Covered gear_in_picture(const Project& project, const Shot& shot, const Setup& setup, const LightMoment& m) {
  const Film& film = m.measure->film;
  const StagedWorld& world = *m.measure->world;
  const CameraPose& pose = m.camera.poses[m.camera.poses.size() / 2];
  const auto names = gear_names(world, setup);
  const auto gear = gear_by_mesh(world, setup);
  const std::vector<Gearlike> rods = stands(shot, setup, m.set_time);
  std::vector<double> plates;
  for (const ShotProduct& p : shot.products)
    if (const Support* on = by_id(project.supports, p.on); on && on->radius) plates.push_back(*on->radius);
  ByName seen;
  for (int y = 0; y < film.height; ++y)
    for (int x = 0; x < film.width; ++x) {
      const FirstHit& hit = film.first[film.at(x, y)];
      const Vec3 along = toward_pixel(film, m.camera, pose, x, y);
      const double far = hit.mesh ? hit.distance : 1e30;
      const Gearlike* before = nullptr;
      for (const Gearlike& rod : rods)
        if (const auto t = rod.met(pose.place, along); t && *t < far) before = &rod;
      if (before) {
        seen.add(before->name);
      } else if (const auto named = names.find(hit.mesh); named != names.end()) {
        seen.add(named->second);
      } else if (const auto body = gear.find(hit.mesh); body != gear.end()) {
        if (!body->second->dressed) seen.add(name_or(body->second->name, body->second->id));
      } else if (hit.mesh && hit.mesh->role == Role::surface) {
        const Vec3 at = pose.place + along * static_cast<double>(hit.distance);
        for (const double radius : plates)
          if (std::abs(std::hypot(at.x, at.z) - radius) < rim_width) {
            seen.add("the turntable's rim");
            break;
          }
      }
    }
  return seen.of(film.pixels());
}

Mirrored gear_mirrored(const Project&, const Shot& shot, const Setup& setup, const LightMoment& m) {
  const Film& film = m.measure->film;
  const StagedWorld& world = *m.measure->world;
  const CameraPose& pose = m.camera.poses[m.camera.poses.size() / 2];
  const std::vector<Gearlike> bodies = unwanted(shot, setup, pose, m.set_time);
  ByName of_products, of_surface;
  std::size_t product_pixels = 0, surface_pixels = 0;
  Mirrored out;
  for (int y = 0; y < film.height; ++y)
    for (int x = 0; x < film.width; ++x) {
      const FirstHit& hit = film.first[film.at(x, y)];
      if (!hit.mesh || (hit.mesh->role != Role::product && hit.mesh->role != Role::surface)) continue;
      const bool of_product = hit.mesh->role == Role::product;
      ++(of_product ? product_pixels : surface_pixels);
      if (!mirrors(hit)) continue;
      out.any = true;
      const Vec3 along = toward_pixel(film, m.camera, pose, x, y), normal = unit(hit.normal.as<double>());
      const Vec3 at = pose.place + along * static_cast<double>(hit.distance);
      const Vec3 back = along - normal * (2.0 * dot(along, normal));
      const Gearlike* first = nullptr;
      double nearest = 1e30;
      for (const Gearlike& body : bodies)
        if (const auto t = body.met(at, back); t && *t < nearest) nearest = *t, first = &body;
      if (first && !hidden(world, at, back, nearest)) (of_product ? of_products : of_surface).add(first->name);
    }
  const Covered on_product = of_products.of(product_pixels), on_surface = of_surface.of(surface_pixels);
  out.product = on_product.percent >= on_surface.percent;
  out.covered = out.product ? on_product : on_surface;
  return out;
}

}  // namespace cinnabar
