#include "cinnabar/render/shadows.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

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

std::vector<float> shadows_alone(const Tracer& tracer, const StagedWorld& now, int width, int height,
                                 const std::string& solo, const std::atomic<bool>* cancel) {
  const Geometry& geometry = tracer.geometry();
  const CameraPose& pose = now.camera.middle_pose();
  std::vector<float> kept(static_cast<std::size_t>(std::max(0, width)) *
                          static_cast<std::size_t>(std::max(0, height)));
  tbb::parallel_for(0, height, [&](int y) {
    if (cancel && *cancel) return;
    for (int x = 0; x < width; ++x) {
      const Vec3 along = pose.toward(now.camera.optics, (x + 0.5) / width, (y + 0.5) / height);
      const Hit hit = geometry.meet({pose.place.as<float>(), along.as<float>(), 0.0f, 1e30f, 0.5f});
      if (!hit.mesh || hit.mesh->light >= 0) continue;
      const Vec3f normal = dot(hit.normal, along.as<float>()) > 0.0f ? -hit.normal : hit.normal;
      const auto pixel =
          static_cast<std::size_t>(y) * static_cast<std::size_t>(width) + static_cast<std::size_t>(x);
      Sampler sampler(static_cast<std::uint32_t>(pixel), 0x51ed270bU);
      Straight sum;
      for (std::size_t l = 0; l < std::min(now.lights.size(), tracer.lights().size()); ++l) {
        const StagedLight& light = now.lights[l];
        if (light.level() <= 0.0 || (!solo.empty() && solo != light.id)) continue;
        const Straight one =
            straight_from(geometry, tracer.lights()[l], light.level(), hit.place, normal, sampler);
        sum.given += one.given, sum.arrives += one.arrives;
      }
      if (sum.given > 0.0) kept[pixel] = static_cast<float>(1.0 - sum.arrives / sum.given);
    }
  });
  if (cancel && *cancel) kept.clear();
  return kept;
}

}  // namespace cinnabar
