#include "cinnabar/render/cards.h"

#include <algorithm>
#include <cmath>

namespace cinnabar {

namespace {

/// Light on a place of either side, in lux, lamps taken as points and nothing between.
double light_on(const StagedWorld& world, const Vec3& place, const Vec3& normal) {
  double sides[2] = {0.0, 0.0};
  for (const StagedLight& l : world.lights) {
    const Vec3 to = l.place - place;
    const double d = std::max(0.05, length(to)), here = dot(to, normal) / d;
    const bool faces = l.shape == LightShape::rectangle || l.shape == LightShape::disc;
    const double there = faces ? std::max(0.0, -dot(to, l.frame.ahead) / d) : 0.7;
    const double area = l.shape == LightShape::rectangle ? l.width * l.height
                        : l.shape == LightShape::disc    ? pi * l.radius * l.radius
                        : l.shape == LightShape::tube    ? 2 * l.radius * l.length
                                                         : pi * l.radius * l.radius;
    sides[here > 0.0 ? 0 : 1] += l.luminance * area * std::abs(here) * there / (d * d);
  }
  return std::max(sides[0], sides[1]);
}

}  // namespace

CardAims::CardAims(const StagedWorld& world) {
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
                      light_on(world, middle.as<double>(), cards_.back().normal.as<double>()));
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
