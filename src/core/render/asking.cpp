// Where light comes from straight, or over one plane that mirrors.
#include <algorithm>
#include <cmath>

#include "cinnabar/render/path.h"
#include "cinnabar/render/tracer.h"

namespace cinnabar {
using namespace tracing;

/// One light by one plane that mirrors: seen from the place's own image behind the plane, the light's density is
/// what it is from there.
void Tracer::light_over_flats(Path& path, const Scattering& s, const Scattering::Outward& outward,
                              const Hit& hit) const {
  if (!choice_.any()) return;
  const auto [which, stay] = path.sampler.pair();
  const auto [u, v] = path.sampler.pair();
  const float number = path.sampler.one();
  const auto count = static_cast<float>(flats_.size());
  const Flat& flat = flats_[std::min(static_cast<std::size_t>(which * count), flats_.size() - 1)];
  const float above = dot(flat.normal, hit.place) - flat.offset;
  if (hit.mesh == flat.mesh || std::abs(above) < 1e-6f) return;
  const Vec3f image = hit.place - flat.normal * (2.0f * above);
  const auto [i, picked] = choice_.pick(image, {}, number);
  const LightSampler::Sample l = lights_[i].toward(image, u, v);
  const float turned = dot(flat.normal, l.direction);
  if (l.density <= 0.0f || l.emission <= 0.0f || turned * above <= 0.0f) return;
  const float to_plane = above / turned;
  if (to_plane >= l.distance) return;  // the light is on the other side
  const Vec3f direction = l.direction - flat.normal * (2.0f * turned);
  const Rgb f = s.both(outward, direction).value;
  const Rgb mirrored = flat.surface.is_mirror() ? mirror_colour(flat.surface, *flat.mesh, std::abs(turned))
                                                : Rgb{1, 1, 1} * flat.surface.coat_reflects(std::abs(turned));
  if (largest(f) <= 0.0f) return;
  const float chance = std::min(1.0f, 0.1f + 3.0f * largest(mirrored));
  if (stay >= chance) return;
  const Ray to{hit.place, direction, off_surface, to_plane * 1.0001f + off_surface, path.ray.time};
  ++path.rays;
  if (path.record) path.record->push_back({to, false});
  const Hit on = meet(to);
  if (on.mesh != flat.mesh) return;
  const float body = lights_[i].inside();
  const Ray onward{on.place, l.direction, off_surface, (l.distance - to_plane) * 0.9999f - body, path.ray.time};
  float arrives = arriving(path, onward);
  if (clouds_.any() && arrives > 0.0f) arrives *= clouds_.passes(to, to_plane, path.sampler.one());
  if (arrives > 0.0f)
    path.layers[i] +=
        path.throughput * f * mirrored * (arrives * l.emission * count / (l.density * picked * chance));
}

Tracer::AskedLights Tracer::asked_lights(Path& path, const Vec3f& place, const Vec3f& side) const {
  if (!choice_.any()) return {0, 0, 1.0f};
  if (path.opaque_bounces == 0 && lights_.size() <= all_lights) return {0, lights_.size(), 1.0f};
  const LightChoice::Picked one = choice_.pick(place, side, path.sampler.one());
  return {one.light, one.light + 1, one.chance};
}

Ray Tracer::toward(const Vec3f& place, std::size_t light, const LightSampler::Sample& l, float time) const {
  return {place, l.direction, off_surface, l.distance * 0.9999f - lights_[light].inside(), time};
}

float Tracer::arriving(Path& path, const Ray& shadow) const {
  ++path.rays;
  if (path.record) path.record->push_back({shadow, true});
  if (geometry_->blocked(shadow)) return 0.0f;
  return clouds_.any() ? clouds_.passes(shadow, shadow.far, path.sampler.one()) : 1.0f;
}

void Tracer::in_the_air(Path& path, float far) const {
  if (path.media.current(world_->media) >= 0) return;  // none within glass
  const auto [jitter, number] = path.sampler.pair();
  const auto met = clouds_.meet(path.ray, far, jitter, number);
  if (!met) return;
  const Rgb scattered = path.throughput * met->scattered;
  path.throughput = path.throughput * (1.0f - met->scattered);
  path.layers[lights_.size()] += scattered;  // what is round about comes from all sides alike
  const auto [from, to, picked] = asked_lights(path, met->place, {});
  for (std::size_t i = from; i < to; ++i) {
    if (choice_.anywhere().chance(i) <= 0.0f) continue;
    const auto [u, v] = path.sampler.pair();
    const LightSampler::Sample l = lights_[i].toward(met->place, u, v);
    if (l.density <= 0.0f || l.emission <= 0.0f) continue;
    const Ray shadow = toward(met->place, i, l, path.ray.time);
    // Light on its way to the place, turned into the way back along the ray.
    const float turned = clouds_.scattered(met->place, -l.direction, -path.ray.direction);
    if (const float arrives = arriving(path, shadow); arrives > 0.0f)
      path.layers[i] += scattered * (turned * arrives * l.emission / (l.density * picked));
  }
}

void Tracer::light_directly(Path& path, const Scattering& s, const Hit& hit, const Vec3f& out, const Vec3f& n,
                            float lobe) const {
  const Scattering::Outward outward = s.outward(out, n);
  if (s.gathers()) {
    if (path.photons) gather(path, s, outward, hit);
    if (path.asks_planes() && !flats_.empty()) light_over_flats(path, s, outward, hit);
  }
  const bool to_cards = seeks_cards(path, s, hit);
  const auto [from, to, picked] = asked_lights(path, hit.place, lit_side(s, n));
  for (std::size_t i = from; i < to; ++i) {
    if (choice_.anywhere().chance(i) <= 0.0f) continue;
    const auto [u, v] = path.sampler.pair();
    const LightSampler::Sample l = lights_[i].toward(hit.place, u, v);
    if (l.density <= 0.0f || l.emission <= 0.0f) continue;
    const float facing = dot(l.direction, n);
    if (facing <= 0.0f && s.through <= 0.0f && !s.is_folded()) continue;
    auto [f, bounces] = s.both(outward, l.direction);
    if (largest(f) <= 0.0f) continue;
    if (dot(path.film, path.film) > 0.0f) {
      const FilmedLobe filmed = through_film(path.film, s, outward, l.direction);
      f = filmed.value + filmed.facets * (of_lamp(filmed.along, l.direction, i) - 1.0f);
    }
    const float chosen = l.density * picked;
    const float weight = 1.0f / (chosen + lobe * (to_cards ? with_cards(hit, l.direction, bounces) : bounces));
    const Ray shadow = toward(hit.place, i, l, path.ray.time);
    if (const float arrives = arriving(path, shadow); arrives > 0.0f)
      path.layers[i] += path.throughput * f * (arrives * l.emission * weight);
  }
}

}  // namespace cinnabar
