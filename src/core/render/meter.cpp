#include "cinnabar/render/meter.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/color/white.h"
#include "cinnabar/photometry/sources.h"

namespace cinnabar {
namespace {

/// One point of a face: what it would give unhindered, and the ray to it.
struct Glance {
  double gives;  ///< cosine over density: adds up to the illuminance at luminance 1
  double grid;
  Vec3f direction;
  float distance;
};

/// An even spread of `n` x `n` points over what the patch may see of a face.
std::vector<Glance> glances(const StagedLight& light, const LightSampler& sampler, const Vec3& point,
                            const Vec3& normal, int n) {
  std::vector<Glance> list;
  list.reserve(static_cast<std::size_t>(n) * static_cast<std::size_t>(n));
  const double cell = 1.0 / (static_cast<double>(n) * n);
  if (light.shape != LightShape::tube) {
    for (int i = 0; i < n; ++i)
      for (int j = 0; j < n; ++j) {
        const float u = (static_cast<float>(i) + 0.5f) / static_cast<float>(n),
                    v = (static_cast<float>(j) + 0.5f) / static_cast<float>(n);
        const auto s = sampler.toward(point.as<float>(), u, v);
        const double c = dot(s.direction.as<double>(), normal);
        if (s.density > 0.0f && c > 0.0)
          list.push_back({c / s.density * cell, sampler.evened(point.as<float>(), s), s.direction, s.distance});
      }
    return list;
  }
  // A tube: along its axis by equal angles seen from the patch, around it over the half that faces the patch.
  const Vec3 axis = light.frame.up, to = point - light.place;
  const double along = dot(to, axis);
  const Vec3 aside = to - axis * along;
  const double d = std::max(length(aside), 1e-6);
  const Vec3 near_side = length(aside) > 1e-9 ? unit(aside) : light.frame.right, other = cross(axis, near_side);
  const double a0 = std::atan((-light.length / 2 - along) / d), a1 = std::atan((light.length / 2 - along) / d);
  const double reach = d > light.radius ? std::acos(std::clamp(light.radius / d, 0.0, 1.0)) : 0.0;
  const double da = (a1 - a0) / n, db = 2 * reach / n;
  for (int i = 0; i < n; ++i) {
    const double a = a0 + da * (i + 0.5), s = along + d * std::tan(a), ds = d / (std::cos(a) * std::cos(a)) * da;
    for (int j = 0; j < n; ++j) {
      const double b = -reach + db * (j + 0.5);
      const Vec3 out = near_side * std::cos(b) + other * std::sin(b);
      const Vec3 q = light.place + axis * s + out * light.radius - point;
      const double r2 = dot(q, q), r = std::sqrt(r2), c = dot(q, normal) / r, shine = -dot(q, out) / r;
      if (c > 0.0 && shine > 0.0)
        list.push_back(
            {c * shine / r2 * light.radius * db * ds,
             static_cast<double>(sampler.emission((q + point).as<float>(), (q / r).as<float>(), out.as<float>())),
             (q / r).as<float>(), static_cast<float>(r)});
    }
  }
  return list;
}

/// Illuminance at luminance 1 without grid or anything between, in closed form where there is one.
double unhindered(const StagedLight& l, const Vec3& point, const Vec3& normal, const std::vector<Glance>& seen) {
  if (l.shape == LightShape::bare) return sphere_illuminance(1.0, l.place, l.radius, point, normal);
  if (l.shape == LightShape::tube || l.shape == LightShape::dome || l.beam) {
    double sum = 0.0;
    for (const Glance& g : seen) sum += g.gives;
    return sum;
  }
  if (dot(point - l.place, l.frame.ahead) <= 0.0) return 0.0;
  std::vector<Vec3> corners;
  if (l.shape == LightShape::rectangle) {
    const Vec3 r = l.frame.right * (l.width / 2), u = l.frame.up * (l.height / 2);
    corners = {l.place - r - u, l.place + r - u, l.place + r + u, l.place - r + u};
  } else {
    constexpr int n = 256;
    const double step = 2 * pi / n, swell = std::sqrt(step / std::sin(step));
    for (int i = 0; i < n; ++i)
      corners.push_back(l.place + (l.frame.right * std::cos(step * i) + l.frame.up * std::sin(step * i)) *
                                      (l.radius * swell));
  }
  return polygon_illuminance(1.0, corners, point, normal);
}

/// Share of the face's light that arrives, weighed by what each point of it would give.
double arriving(const Tracer& tracer, const Vec3& point, const StagedLight& l, const std::vector<Glance>& seen,
                bool& mixed) {
  const float body =
      l.shape == LightShape::rectangle || l.shape == LightShape::disc ? 0.0f : static_cast<float>(0.02 * l.radius);
  double all = 0.0, arrives = 0.0;
  bool some_blocked = false, some_free = false;
  for (const Glance& g : seen) {
    all += g.gives;
    if (g.grid <= 0.0) continue;
    const Ray ray{point.as<float>(), g.direction, 2e-5f, g.distance * 0.9999f - body, 0.5f};
    const bool blocked = tracer.geometry().blocked(ray);
    (blocked ? some_blocked : some_free) = true;
    if (!blocked) arrives += g.gives * g.grid * static_cast<double>(tracer.clouds().passes(ray, ray.far, 0.5f));
  }
  mixed = some_blocked && some_free;
  return all > 0.0 ? arrives / all : 0.0;
}

/// What a patch gets of a face behind a front: summed finely, and of that what arrives by as many looks as pay; of
/// both fewer where it is looked at roughly.
double by_front(const Tracer& tracer, const StagedLight& light, const LightSampler& sampler, const Vec3& point,
                const Vec3& normal, bool roughly) {
  const std::size_t most_looks = roughly ? 256 : 2304;
  auto seen = glances(light, sampler, point, normal, roughly ? 32 : 160);
  std::erase_if(seen, [](const Glance& g) { return g.grid <= 0.0; });
  double all = 0.0;
  for (Glance& g : seen) g.gives *= std::exchange(g.grid, 1.0), all += g.gives;
  const std::size_t step = std::max<std::size_t>(1, (seen.size() + most_looks - 1) / most_looks);
  std::vector<Glance> looks;
  for (std::size_t k = step / 2; k < seen.size(); k += step) looks.push_back(seen[k]);
  bool mixed = false;
  return all * arriving(tracer, point, light, looks, mixed);
}

/// What a patch gets of a light's face at luminance 1, without what others throw back.
double straight(const Tracer& tracer, std::size_t index, const Vec3& point, const Vec3& normal, int at_first) {
  const StagedLight& l = tracer.world().lights[index];
  const LightSampler& sampler = tracer.lights()[index];
  const bool roughly = at_first < MeterOptions{}.glances;
  if (l.shines) return by_front(tracer, l, sampler, point, normal, roughly);
  bool mixed = false;
  const bool summed = l.shape == LightShape::tube || l.shape == LightShape::dome;  // no closed form
  // A coarse look first; where the face is partly hidden or gridded, a close one.
  auto seen = glances(l, sampler, point, normal,
                      l.grid_tangent > 0.0 || l.distribution || summed ? std::max(32, at_first) : at_first);
  double share_seen = arriving(tracer, point, l, seen, mixed);
  if (mixed) {
    seen = glances(l, sampler, point, normal, 48);
    share_seen = arriving(tracer, point, l, seen, mixed);
  }
  if (share_seen <= 0.0) return 0.0;
  return unhindered(l, point, normal, summed ? glances(l, sampler, point, normal, roughly ? 32 : 96) : seen) *
         share_seen;
}

}  // namespace

Reading illuminance(const Tracer& tracer, const Vec3& point, const Vec3& normal_in, const MeterOptions& options) {
  const StagedWorld& world = tracer.world();
  const Vec3 normal = unit(normal_in);
  const std::size_t n = world.lights.size();
  const auto parts = static_cast<std::size_t>(std::max(0, options.batches));
  const bool follows = options.paths > 0 && (!world.meshes.empty() || world.ambient_luminance > 0.0);
  Reading reading;
  Reading::Followed& own = reading.followed;
  if (options.begun && options.begun->followed.batches.size() == parts) {
    own = options.begun->followed;
  } else {
    own.straight.assign(n, 0.0), own.bounced.assign(n + 1, 0.0);
    own.batches.assign(parts, own.bounced);
    for (std::size_t i = 0; i < n; ++i) {
      if (world.lights[i].luminance <= 0.0) continue;
      const auto measured = [&] { return straight(tracer, i, point, normal, options.glances); };
      own.straight[i] = options.straight ? options.straight(i, measured) : measured();
    }
  }
  if (follows && own.paths < options.paths) {
    const double kept = static_cast<double>(own.paths) / options.paths;
    for (double& y : own.bounced) y *= kept;
    for (auto& batch : own.batches)
      for (double& y : batch) y *= kept;
    own.screens *= kept;
    std::vector<Rgb> layers(n + 2);  // lights, ambient, screens
    const auto share_of_path = static_cast<float>(pi / options.paths);
    for (int p = own.paths; p < options.paths; ++p) {
      Sampler sampler(0x5bd1e995U, static_cast<std::uint32_t>(p));
      const auto [u, v] = sampler.pair();
      const Ray ray{point.as<float>(), cosine_direction(normal.as<float>(), u, v), 2e-5f, 1e30f, 0.5f};
      std::fill(layers.begin(), layers.end(), Rgb{});
      tracer.follow(ray, Rgb{1, 1, 1} * share_of_path, sampler, layers.data(), {.skip_first_light = true});
      for (std::size_t l = 0; l <= n; ++l) {
        const double y = 0.2126729 * layers[l].x + 0.7151522 * layers[l].y + 0.0721750 * layers[l].z;
        own.bounced[l] += y;
        if (parts > 0) own.batches[static_cast<std::size_t>(p) % parts][l] += y * static_cast<double>(parts);
      }
      own.screens += static_cast<double>(luminance(layers[n + 1]));
    }
    own.paths = options.paths;
  }
  for (std::size_t i = 0; i < n; ++i) {
    reading.per_luminance.push_back(own.straight[i] + own.bounced[i]);
    reading.by_light.push_back(reading.per_luminance[i] * world.lights[i].level());
  }
  reading.ambient_per_luminance = own.bounced[n];
  reading.ambient = own.bounced[n] * world.ambient_luminance + own.screens;
  return reading;
}

Reading held_meter(const Tracer& tracer, const Vec3& at, const Vec3& normal) {
  constexpr double clear = 1e-4;  // metres
  const Vec3 faces = length(normal) > 1e-9 ? unit(normal) : Vec3{0, 1, 0};
  return illuminance(tracer, at + faces * clear, faces);
}

std::optional<double> white_of(const Reading& reading, const StagedWorld& world) {
  std::vector<WhiteShare> shares{{world.ambient_kelvin, reading.ambient}};
  for (std::size_t l = 0; l < world.lights.size(); ++l)
    shares.push_back({world.lights[l].white_kelvin, reading.by_light[l]});
  return mixed_white(shares);
}
}  // namespace cinnabar
