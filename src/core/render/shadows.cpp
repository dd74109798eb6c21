#include "cinnabar/render/shadows.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/render/geometry.h"
#include "cinnabar/render/light_sampling.h"
#include "cinnabar/render/sampler.h"

namespace cinnabar {

namespace {

/// What a place gets straight from a light, and what of it arrives.
struct Straight {
  double given = 0, arrives = 0;
};

Straight straight_from(const Geometry& geometry, const LightSampler& light, double luminance, const Vec3f& place,
                       const Vec3f& normal, Sampler& sampler) {
  constexpr int looks = 12;
  Straight sum;
  for (int k = 0; k < looks; ++k) {
    const auto [u, v] = sampler.pair();
    const LightSampler::Sample l = light.toward(place, u, v);
    if (l.density <= 0.0f || l.emission <= 0.0f) continue;
    // A place that is turned away is dark by itself: what it would get is held against that square on.
    const float facing = dot(l.direction, normal);
    const double gives = luminance * static_cast<double>(l.emission / l.density) / looks;
    sum.given += gives;
    constexpr float clear = 1e-4f;
    if (facing > 0.0f && !geometry.blocked({place + normal * clear, l.direction, clear,
                                            l.distance * 0.9999f - light.inside(), 0.5f}))
      sum.arrives += gives;
  }
  return sum;
}

}  // namespace

ShadowMap shadows_alone(const Film& film, const StagedWorld& world, const std::string& solo, std::size_t places,
                        const std::atomic<bool>* cancel) {
  ShadowMap map;
  if (film.passes < 1 || film.width < 1 || film.height < 1) return map;
  const int step =
      std::max(1, static_cast<int>(std::ceil(std::sqrt(static_cast<double>(film.pixels()) /
                                                       static_cast<double>(std::max<std::size_t>(1, places))))));
  const int wide = (film.width + step - 1) / step, high = (film.height + step - 1) / step;
  std::vector<LightSampler> lights;
  std::vector<double> luminances;
  for (const StagedLight& l : world.lights)
    if (l.level() > 0.0 && (solo.empty() || solo == l.id)) lights.emplace_back(l), luminances.push_back(l.level());
  const Geometry geometry(world);
  const CameraPose& pose = world.camera.middle_pose();
  std::vector<float> coarse(static_cast<std::size_t>(wide) * static_cast<std::size_t>(high), 0.0f);
  tbb::parallel_for(0, high, [&](int j) {
    if (cancel && *cancel) return;
    for (int i = 0; i < wide; ++i) {
      const int x = std::min(film.width - 1, i * step + step / 2),
                y = std::min(film.height - 1, j * step + step / 2);
      // Along the middle of the pixel anew: what the film's first ray met lies a little beside it.
      const Vec3 along = pose.toward(world.camera.optics, (x + 0.5) / film.width, (y + 0.5) / film.height);
      const Hit hit = geometry.meet({pose.place.as<float>(), along.as<float>(), 0.0f, 1e30f, 0.5f});
      if (!hit.mesh || hit.mesh->light >= 0) continue;
      Vec3f normal = hit.normal;
      if (dot(normal, along.as<float>()) > 0.0f) normal = -normal;
      Sampler sampler(static_cast<std::uint32_t>(film.at(x, y)), 0x51ed270bU);
      Straight sum;
      for (std::size_t l = 0; l < lights.size(); ++l) {
        const Straight one = straight_from(geometry, lights[l], luminances[l], hit.place, normal, sampler);
        sum.given += one.given, sum.arrives += one.arrives;
      }
      if (sum.given > 0.0)
        coarse[static_cast<std::size_t>(j) * static_cast<std::size_t>(wide) + static_cast<std::size_t>(i)] =
            static_cast<float>(1.0 - sum.arrives / sum.given);
    }
  });
  if (cancel && *cancel) return map;
  map.width = film.width, map.height = film.height;
  map.kept.resize(film.pixels());
  const auto part = [&](int i, int j) {
    return coarse[static_cast<std::size_t>(std::clamp(j, 0, high - 1)) * static_cast<std::size_t>(wide) +
                  static_cast<std::size_t>(std::clamp(i, 0, wide - 1))];
  };
  for (int y = 0; y < film.height; ++y)
    for (int x = 0; x < film.width; ++x) {
      const float u = (static_cast<float>(x) + 0.5f) / static_cast<float>(step) - 0.5f,
                  v = (static_cast<float>(y) + 0.5f) / static_cast<float>(step) - 0.5f;
      const int i = static_cast<int>(std::floor(u)), j = static_cast<int>(std::floor(v));
      const float s = u - static_cast<float>(i), t = v - static_cast<float>(j);
      map.kept[film.at(x, y)] = (part(i, j) * (1 - s) + part(i + 1, j) * s) * (1 - t) +
                                (part(i, j + 1) * (1 - s) + part(i + 1, j + 1) * s) * t;
    }
  return map;
}

}  // namespace cinnabar
