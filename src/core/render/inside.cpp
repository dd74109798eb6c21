// Light that goes into a body and scatters there: wax, soap, milk, skin.
#include <algorithm>
#include <cmath>

#include "cinnabar/render/path.h"

namespace cinnabar {
using namespace tracing;

namespace {

/// The mean of three bands' chances, weighted by what each still carries.
float chance_of(const Rgb& carried, const Rgb& by_band) {
  const float all = carried.x + carried.y + carried.z;
  return all > 0.0f ? dot(carried, by_band) / all : 0.0f;
}

}  // namespace

/// A walk without memory (isotropic scattering, free ways by Beer and Lambert) among faces that scatter what
/// passes them: what comes in or is thrown back inside goes evenly in all directions (by the cosine), what leaves
/// is let out as the coat lets it. Lights are asked for where the walk leaves.
bool Tracer::walk_inside(Path& path, const Hit& entry, const Scattering& s) const {
  constexpr int most = 50000;
  constexpr float little = 0.02f;
  const Material& material = entry.mesh->material;
  const Rgb scatter = material.scattering.as<float>(), extinct = scatter + material.absorption.as<float>();
  const float leaves = 1.0f - s.coat_inside;  // share of what meets the face from inside
  const bool outside = dot(path.ray.direction, entry.geometric) < 0.0f;
  Vec3f place = entry.place;
  Vec3f inward = outside ? -entry.geometric : entry.geometric;
  const auto into = [&](const Vec3f& n) {
    const auto [u, v] = path.sampler.pair();
    return cosine_direction(n, u, v);
  };
  Vec3f direction = into(inward);
  float near = off_surface;  // from a face; from inside nothing is skipped, or walks would leak out
  const float start = largest(path.throughput);
  for (int k = 0; k < most; ++k) {
    const auto [band, reach] = path.sampler.pair();
    const Rgb& carried = path.throughput;
    const float at = band * (carried.x + carried.y + carried.z);
    const float own = at < carried.x ? extinct.x : at < carried.x + carried.y ? extinct.y : extinct.z;
    const float way = own > 0.0f ? -std::log1p(-reach) / own : 1e30f;
    Hit hit;
    if (way > near) {
      const Ray ray{place, direction, near, way, path.ray.time};
      ++path.rays;
      if (path.record) path.record->push_back({ray, false});
      hit = meet(ray);
    }
    if (!hit.mesh) {
      if (way > 1e3f) return false;
      const Rgb kept = absorbed(extinct, way);
      const float chance = chance_of(carried, extinct * kept);
      if (chance <= 0.0f) return false;
      path.throughput *= scatter * kept * (1.0f / chance);
      place = place + direction * way;
      const auto [u, v] = path.sampler.pair();
      const float c = 1.0f - 2.0f * u, r = std::sqrt(std::max(0.0f, 1.0f - c * c)), turn = 2 * pif * v;
      direction = {r * std::cos(turn), r * std::sin(turn), c};
      near = 0.0f;
    } else {
      const Rgb kept = absorbed(extinct, hit.distance);
      const float chance = chance_of(carried, kept);
      if (chance <= 0.0f || hit.mesh->light >= 0) return false;
      path.throughput *= kept * (1.0f / chance);
      const Sides sides = facing_of(hit, -direction);
      if (hit.mesh != entry.mesh) {  // something stands in it
        path.throughput *= scattering_at(hit).base;
        place = hit.place, direction = into(sides.flat), near = off_surface;
      } else if (path.sampler.one() < leaves) {
        return leave(path, hit, s, sides);
      } else {
        place = hit.place, direction = into(sides.flat), near = off_surface;
      }
    }
    const float left = largest(path.throughput);
    if (left < little * start) {
      const float stay = std::max(0.05f, left / (little * start));
      if (left <= 0.0f || path.sampler.one() >= stay) return false;
      path.throughput = path.throughput * (1.0f / stay);
    }
  }
  return false;
}

bool Tracer::leave(Path& path, const Hit& hit, const Scattering& s, const Sides& inner) const {
  const Vec3f n = -inner.n;
  Scattering face = s;
  face.alpha = face.across = 0.0f, face.sharp_coat = face.body = false;
  face.leaves = 1.0f / (1.0f - s.coat_inside);
  path.since = {};  // from here on its lights are its own
  light_directly(path, face, hit, n, n, 1.0f);
  const auto [u, v] = path.sampler.pair();
  const Scattering::Sample next = face.sample(n, n, 1.0f, u, v);
  if (next.density <= 0.0f || dot(next.direction, inner.flat) >= 0.0f) return false;
  path.throughput *= next.weight;
  path.ray.origin = hit.place;
  path.ray.near = off_surface;
  path.ray.direction = next.direction;
  path.specular = false;
  path.last_density = next.density;
  path.last_place = hit.place, path.last_lit_side = lit_side(face, n);
  ++path.opaque_bounces;
  return true;
}

}  // namespace cinnabar
