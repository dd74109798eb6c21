#include "cinnabar/render/light_sampling.h"

#include <algorithm>
#include <cmath>

namespace cinnabar {

LightSampler::LightSampler(const StagedLight& l)
    : shape(l.shape),
      centre(l.place.as<float>()),
      right(l.frame.right.as<float>()),
      up(l.frame.up.as<float>()),
      ahead(l.frame.ahead.as<float>()),
      width(static_cast<float>(l.width)),
      height(static_cast<float>(l.height)),
      radius(static_cast<float>(l.radius)),
      length(static_cast<float>(l.length)),
      area(0.0f),
      grid_tangent(static_cast<float>(l.grid_tangent)),
      distribution(l.distribution) {
  switch (shape) {
    case LightShape::rectangle:
      area = width * height;
      break;
    case LightShape::disc:
      area = pif * radius * radius;
      break;
    case LightShape::tube:
      area = 2 * pif * radius * length;
      break;
    case LightShape::bare:
      area = 4 * pif * radius * radius;
      break;
  }
  if (!distribution) return;
  // The face's luminance stands for lumens / (pi area). A distribution of F lumens with I candela toward a place
  // asks for I / F of those lumens over what the face shows there: its area times the cosine, the bare lamp's
  // disc, the tube's side.
  const double lumens = distribution->lumens();
  const double shown = shape == LightShape::bare ? 4.0 * pi : shape == LightShape::tube ? pi * pi : pi;
  per_candela = lumens > 0.0 ? shown / lumens : 0.0;
}

/// Relative luminance of a face with a distribution, against `direction`. Near grazing the face shows so little of
/// itself that a measured light would have to be endlessly bright: it is held there.
float LightSampler::distributed(const Vec3f& direction) const {
  constexpr double least_shown = 0.02;
  const Vec3 w = -direction.as<double>(), f = ahead.as<double>(), r = right.as<double>(), u = up.as<double>();
  const double c = std::clamp(dot(w, f), -1.0, 1.0);
  const double vertical = degrees(std::acos(c)), horizontal = degrees(std::atan2(dot(w, u), dot(w, r)));
  const double along = dot(w, u);
  const double shows = shape == LightShape::bare   ? 1.0
                       : shape == LightShape::tube ? std::sqrt(std::max(0.0, 1.0 - along * along))
                                                   : c;
  return static_cast<float>(distribution->candela_at(vertical, horizontal) * per_candela /
                            std::max(least_shown, shows));
}

float LightSampler::emission(const Vec3f& direction, const Vec3f& normal) const {
  const float c = -dot(direction, normal);
  if (c <= 0.0f) return 0.0f;
  const float own = distribution ? distributed(direction) : 1.0f;
  if (grid_tangent <= 0.0f) return own;
  return own * std::max(0.0f, 1.0f - std::sqrt(std::max(0.0f, 1.0f - c * c)) / (c * grid_tangent));
}

LightSampler::Point LightSampler::point(float u, float v) const {
  const float turn = 2 * pif * v;
  switch (shape) {
    case LightShape::rectangle:
      return {centre + right * ((u - 0.5f) * width) + up * ((v - 0.5f) * height), ahead};
    case LightShape::disc: {
      const float r = radius * std::sqrt(u);
      return {centre + right * (r * std::cos(turn)) + up * (r * std::sin(turn)), ahead};
    }
    case LightShape::tube: {
      const Vec3f n = right * std::cos(turn) + ahead * std::sin(turn);
      return {centre + up * ((u - 0.5f) * length) + n * radius, n};
    }
    case LightShape::bare:
      break;
  }
  const float c = 1.0f - 2.0f * u, s = std::sqrt(std::max(0.0f, 1.0f - c * c));
  const Vec3f n = right * (s * std::cos(turn)) + up * (s * std::sin(turn)) + ahead * c;
  return {centre + n * radius, n};
}

LightSampler::Sample LightSampler::toward(const Vec3f& from, float u, float v) const {
  if (shape == LightShape::bare) {
    const Vec3f to = centre - from;
    const float d2 = dot(to, to), sin2 = std::min(1.0f, radius * radius / d2);
    if (d2 <= radius * radius) return {{}, 0.0f, 0.0f, 0.0f};
    const float cos_max = std::sqrt(1.0f - sin2);
    const float one_minus = sin2 / (1.0f + cos_max);  // 1 - cos of the cone, exact for small lamps
    const float c = 1.0f - u * one_minus, s = std::sqrt(std::max(0.0f, 1.0f - c * c));
    const float d = std::sqrt(d2);
    const Vec3f w = to / d;
    const Vec3f x = unit(std::abs(w.x) > 0.7f ? cross(w, Vec3f{0, 1, 0}) : cross(w, Vec3f{1, 0, 0})),
                y = cross(w, x);
    const Vec3f direction = w * c + x * (s * std::cos(2 * pif * v)) + y * (s * std::sin(2 * pif * v));
    const float along = d * c - std::sqrt(std::max(0.0f, radius * radius - d2 * s * s));
    return {direction, along, 1.0f / (2 * pif * one_minus), distribution ? distributed(direction) : 1.0f};
  }
  const auto [place, normal] = point(u, v);
  const Vec3f to = place - from;
  const float d = cinnabar::length(to);
  if (d <= 0.0f) return {{}, 0.0f, 0.0f, 0.0f};
  const Vec3f direction = to / d;
  const float c = -dot(direction, normal);
  if (c <= 0.0f) return {direction, d, 0.0f, 0.0f};
  return {direction, d, d * d / (c * area), emission(direction, normal)};
}

float LightSampler::density(const Vec3f& from, const Vec3f& direction, float distance, const Vec3f& normal) const {
  if (shape == LightShape::bare) {
    const Vec3f to = centre - from;
    const float d2 = dot(to, to), sin2 = radius * radius / d2;
    if (sin2 >= 1.0f) return 0.0f;
    return (1.0f + std::sqrt(1.0f - sin2)) / (2 * pif * sin2);
  }
  const float c = -dot(direction, normal);
  return c > 0.0f ? distance * distance / (c * area) : 0.0f;
}

}  // namespace cinnabar
