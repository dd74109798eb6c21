#include "cinnabar/forecast/measures/cast.h"

#include <tbb/parallel_for.h>

#include <algorithm>

#include "cinnabar/forecast/measures/light_numbers.h"

namespace cinnabar {
namespace {

constexpr int stride = 4;

/// What stands between a place and a face.
struct Way {
  bool seen, seen_without_products;
};
Way way_to(const Geometry& geometry, const Vec3f& from, const LightSampler::Sample& sample) {
  const float end = sample.distance * 0.9995f;
  Ray ray{from, sample.direction, 1e-4f, end, 0.5f};
  if (!geometry.blocked(ray)) return {true, true};
  for (int met = 0; met < 64; ++met) {
    const Hit hit = geometry.meet(ray);
    if (!hit.mesh || hit.distance >= end) return {false, true};
    if (hit.mesh->role != Role::product) return {false, false};
    ray.near = hit.distance + 1e-4f;
  }
  return {false, false};
}

CastPoint cast_at(const Tracer& tracer, std::size_t pixel, const Vec3f& place, const Vec3f& normal, int glances) {
  const std::size_t lights = tracer.lights().size();
  CastPoint out{pixel, std::vector<double>(lights, 0.0), std::vector<double>(lights, 0.0)};
  const double each = 1.0 / (glances * glances);
  for (std::size_t l = 0; l < lights; ++l)
    for (int i = 0; i < glances; ++i)
      for (int j = 0; j < glances; ++j) {
        const auto step = static_cast<float>(glances);
        const auto sample = tracer.lights()[l].toward(place, (static_cast<float>(i) + 0.5f) / step,
                                                      (static_cast<float>(j) + 0.5f) / step);
        const float facing = dot(sample.direction, normal);
        if (sample.density <= 0.0f || sample.emission <= 0.0f || facing <= 0.0f) continue;
        const double gives = each * static_cast<double>(sample.emission * facing / sample.density);
        const Way way = way_to(tracer.geometry(), place, sample);
        if (way.seen) out.with[l] += gives;
        if (way.seen_without_products) out.without[l] += gives;
      }
  return out;
}

}  // namespace

CastPoint straight_light(const Tracer& tracer, const Vec3& place, const Vec3& normal, int glances) {
  const auto n = normal.as<float>();
  return cast_at(tracer, 0, place.as<float>() + n * 2e-3f, n, glances);
}

std::vector<CastPoint> cast_points(const Tracer& tracer, const Film& film, int glances) {
  if (std::none_of(film.first.begin(), film.first.end(), is_product)) return {};
  const StagedCamera& camera = tracer.world().camera;
  const CameraPose& pose = camera.middle_pose();
  std::vector<std::size_t> pixels;
  for (int y = stride / 2; y < film.height; y += stride)
    for (int x = stride / 2; x < film.width; x += stride) {
      const std::size_t p = film.at(x, y);
      if (is_backdrop(film.first[p])) pixels.push_back(p);
    }
  std::vector<CastPoint> points(pixels.size());
  tbb::parallel_for(std::size_t{0}, pixels.size(), [&](std::size_t i) {
    const FirstHit& hit = film.first[pixels[i]];
    const auto width = static_cast<std::size_t>(film.width);
    const std::size_t row = pixels[i] / width;
    const double x = (static_cast<double>(pixels[i] % width) + 0.5) / film.width,
                 y = (static_cast<double>(row) + 0.5) / film.height;
    const Vec3 toward = pose.toward(camera.optics, x, y);
    Vec3f normal = hit.normal;
    if (dot(normal, toward.as<float>()) > 0.0f) normal = -normal;
    const Vec3f place = (pose.place + toward * static_cast<double>(hit.distance)).as<float>() + normal * 2e-3f;
    points[i] = cast_at(tracer, pixels[i], place, normal, glances);
  });
  return points;
}

std::optional<double> deepest_cast(const LightMoment& m) {
  if (m.measure->cast.empty()) return std::nullopt;
  const Film& film = m.measure->film;
  const Picture picture = mixed(film, m.weights);
  const auto straight = [&](const std::vector<double>& per_luminance) {
    double lux = 0.0;
    for (std::size_t l = 0; l < per_luminance.size(); ++l) lux += per_luminance[l] * m.weights[l].x;
    return lux;
  };
  // What the picture shows beyond straight light is fill, the same everywhere.
  double shown = 0.0, explained = 0.0;
  for (const CastPoint& p : m.measure->cast) {
    const double albedo = std::max(1e-4, static_cast<double>(luminance(film.first[p.pixel].albedo)));
    shown += luminance(picture.pixels[p.pixel]) * pi / albedo;
    explained += straight(p.with);
  }
  const double fill = std::max(0.0, shown - explained) / static_cast<double>(m.measure->cast.size());
  double deepest = 0.0;
  bool lit = false;
  for (const CastPoint& p : m.measure->cast) {
    const double without = straight(p.without) + fill, with = straight(p.with) + fill;
    if (without <= darkest) continue;
    lit = true;
    deepest = std::max(deepest, with > darkest ? std::log2(without / with) : unbounded);
  }
  return lit ? deepest : unbounded;
}

}  // namespace cinnabar
