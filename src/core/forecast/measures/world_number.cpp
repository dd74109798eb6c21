#include "cinnabar/forecast/measures/world_number.h"

#include <utility>

#include "cinnabar/base/hash.h"

namespace cinnabar {
namespace {

void add(Hash& hash, const Material& m) {
  for (const double v : {static_cast<double>(m.kind), m.roughness, m.ior, m.transmittance, m.brushing, m.sheen,
                         m.screen, m.relief ? m.relief->size : 0.0, m.relief ? m.relief->depth : 0.0,
                         m.cover ? 1.0 + static_cast<double>(m.cover->kind) : 0.0, m.cover ? m.cover->share : 0.0,
                         m.cover ? m.cover->size : 0.0, m.forward, m.lobe_deg,
                         m.texture ? 1.0 + static_cast<double>(m.texture->kind) : 0.0,
                         m.texture ? m.texture->size : 0.0, m.texture ? m.texture->turn_deg : 0.0})
    hash.add(v);
  for (const Vec3& v : {m.colour, m.absorption, m.scattering, m.texture ? m.texture->colour : Vec3{}}) hash.add(v);
}

std::uint64_t body_number(const Mesh& mesh) {
  Hash hash;
  for (const double v :
       {static_cast<double>(mesh.light), static_cast<double>(mesh.medium), static_cast<double>(mesh.role)})
    hash.add(v);
  add(hash, mesh.material);
  add(hash, mesh.foil);
  for (const auto& step : mesh.positions) hash.add(step.data(), step.size() * sizeof(Vec3f));
  return hash.value();
}

std::uint64_t light_number(const StagedLight& l) {
  Hash hash;
  hash.add(l.place);
  hash.add(l.frame.ahead);
  hash.add(l.frame.up);
  for (const double v :
       {static_cast<double>(l.shape), l.width, l.height, l.radius, l.length, l.grid_tangent, l.luminance})
    hash.add(v);
  const LightDistribution* distribution = l.distribution.get();
  hash.add(&distribution, sizeof distribution);
  hash.add(l.beam.value_or(Vec3{}));
  hash.add(l.film.value_or(Vec3{}));
  if (!l.shines) return hash.value();
  if (const auto& shows = l.shines->by_direction())
    for (const auto& [u, v] : {std::pair{0.3, -0.2}, {-0.6, -0.5}, {0.1, 0.4}}) hash.add(shows(u, v));
  const LightFront& front = l.shines->front();
  hash.add(static_cast<double>(front.kind));
  for (const FrontMeasure& m : front_measures(front.kind)) hash.add(front.*m.value);
  return hash.value();
}

std::uint64_t cloud_number(const Cloud& c) {
  Hash hash;
  hash.add(c.place);
  hash.add(c.half);
  for (const double v : {static_cast<double>(c.form), c.top, c.radius, c.spread, c.ground, c.reached, c.asymmetry,
                         c.risen, static_cast<double>(c.seed)})
    hash.add(v);
  hash.add(c.extinction.data(), c.extinction.size() * sizeof(double));
  return hash.value();
}

}  // namespace

WorldNumbers numbers_of(const StagedWorld& world) {
  WorldNumbers numbers;
  Hash hash;
  for (const Mesh& mesh : world.meshes) {
    numbers.bodies.push_back(body_number(mesh));
    hash.add(numbers.bodies.back());
    for (const Picture* picture : {mesh.picture.get(), mesh.stamp.get()}) hash.add(&picture, sizeof picture);
  }
  for (const StagedLight& light : world.lights) {
    numbers.lights.push_back(light_number(light));
    hash.add(numbers.lights.back());
  }
  for (const Cloud& cloud : world.clouds) hash.add(cloud_number(cloud));
  Hash facing = hash;
  const CameraPose& seen = world.camera.middle_pose();
  for (const Vec3& v : {seen.place, seen.frame.up, seen.frame.right}) facing.add(v);
  facing.add(static_cast<double>(world.camera.optics.turned));
  numbers.facing = facing.value();
  for (const CameraPose& p : world.camera.poses) {
    hash.add(p.place);
    hash.add(p.frame.ahead);
    hash.add(p.frame.up);
    hash.add(p.focal);
    hash.add(p.focus);
  }
  const StagedCamera& c = world.camera;
  hash.add(c.film_deg.value_or(1e9));
  for (const double v : {c.f_number, c.optics.sensor_width, c.optics.sensor_height,
                         c.optics.readout > 0 && world.camera.poses.size() > 1 ? c.optics.readout : 0.0})
    hash.add(v);
  numbers.all = hash.value();
  return numbers;
}

}  // namespace cinnabar
