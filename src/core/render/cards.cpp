#include "cinnabar/render/cards.h"

#include <algorithm>
#include <cmath>

namespace cinnabar {

namespace {

/// Light on a place, in lux, on its brighter side: by one point of each light, nothing between.
double light_on(const StagedWorld& world, const std::vector<LightSampler>& lights, const Vec3f& place,
                const Vec3f& normal) {
  double sides[2] = {0.0, 0.0};
  for (std::size_t i = 0; i < lights.size(); ++i) {
    const LightSampler::Sample l = lights[i].toward(place, 0.5f, 0.5f);
    if (l.density <= 0.0f) continue;
    const float here = dot(l.direction, normal);
    sides[here > 0.0f ? 0 : 1] +=
        world.lights[i].luminance * static_cast<double>(l.emission * std::abs(here) / l.density);
  }
  return std::max(sides[0], sides[1]);
}

}  // namespace

CardAims::CardAims(const StagedWorld& world, const std::vector<LightSampler>& lights) {
  constexpr double white = 0.2;     // reflectance under which a card is a flag
  constexpr double nothing = 0.01;  // of the brightest
  std::vector<double> weights;
  for (const Mesh& mesh : world.meshes) {
    const Material& m = mesh.material;
    if (mesh.role != Role::card || mesh.positions.size() != 1 || mesh.positions[0].size() != 4) continue;
    if (m.kind == MaterialKind::mirror || m.kind == MaterialKind::metal || mesh.medium >= 0) continue;
    if (largest(m.colour) < white) continue;
    const auto& p = mesh.positions[0];
    const Vec3f u = (p[1] - p[0]) * 0.5f, v = (p[3] - p[0]) * 0.5f, middle = (p[0] + p[2]) * 0.5f;
    cards_.push_back({middle, u, v, unit(cross(u, v)), 4.0f * length(cross(u, v))});
    weights.push_back(largest(m.colour) * static_cast<double>(cards_.back().area) *
                      light_on(world, lights, middle, cards_.back().normal));
  }
  const double most = weights.empty() ? 0.0 : *std::max_element(weights.begin(), weights.end());
  for (double& w : weights)
    if (w < nothing * most) w = 0.0;
  choice_ = Choice(weights);
}

Vec3f CardAims::toward(const Vec3f& from, float which, float u, float v) const {
  const Card& c = cards_[choice_.pick(which)];
  return unit(c.middle + c.u * (2.0f * u - 1.0f) + c.v * (2.0f * v - 1.0f) - from);
}

float CardAims::density(const Vec3f& from, const Vec3f& direction) const {
  float sum = 0.0f;
  for (std::size_t i = 0; i < cards_.size(); ++i) {
    const Card& c = cards_[i];
    const float slope = dot(direction, c.normal);
    if (choice_.chance(i) <= 0.0f || std::abs(slope) < 1e-6f) continue;
    const float t = dot(c.middle - from, c.normal) / slope;
    const Vec3f at = from + direction * t - c.middle;
    if (t <= 0.0f || std::abs(dot(at, c.u)) > dot(c.u, c.u) || std::abs(dot(at, c.v)) > dot(c.v, c.v)) continue;
    sum += choice_.chance(i) * t * t / (std::abs(slope) * c.area);
  }
  return sum;
}

}  // namespace cinnabar
