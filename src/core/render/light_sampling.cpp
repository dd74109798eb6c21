#include "cinnabar/render/light_sampling.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/photometry/daylight.h"

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
      distribution(l.distribution),
      shines(l.shines) {
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
    case LightShape::dome:
      area = 2 * pif * radius * radius;
      break;
    case LightShape::bare:
      area = 4 * pif * radius * radius;
      break;
  }
  if (l.beam) {
    const double half = std::sin(radians(sun_half_deg) / 2.0);
    beam = l.beam->as<float>(), beam_one_less = static_cast<float>(2.0 * half * half);
  }
  if (!distribution) return;
  // The face's luminance stands for lumens / (pi area). A distribution of F lumens with I candela toward a place
  // asks for I / F of those lumens over what the face shows there: its area times the cosine, the bare lamp's
  // disc, the tube's side.
  const double lumens = distribution->lumens();
  const double shown = shape == LightShape::bare   ? 4.0 * pi
                       : shape == LightShape::dome ? 2.0 * pi
                       : shape == LightShape::tube ? pi * pi
                                                   : pi;
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
                       : shape == LightShape::dome ? 0.5 * (1.0 + c)
                       : shape == LightShape::tube ? std::sqrt(std::max(0.0, 1.0 - along * along))
                                                   : c;
  return static_cast<float>(distribution->candela_at(vertical, horizontal) * per_candela /
                            std::max(least_shown, shows));
}

/// Relative luminance as its front lets it.
float LightSampler::fronted(const Vec3f& place, const Vec3f& direction) const {
  const Vec3f at = place - centre;
  const float forward = -dot(direction, ahead);
  return static_cast<float>(
      shines->at(dot(at, right), dot(at, up), -dot(direction, right) / forward, -dot(direction, up) / forward));
}

float LightSampler::emission(const Vec3f& place, const Vec3f& direction, const Vec3f& normal) const {
  const float c = -dot(direction, normal);
  if (c <= 0.0f) return 0.0f;
  if (beam_one_less > 0.0f) return in_beam(direction) ? 1.0f : 0.0f;
  const float own = distribution ? distributed(direction) : shines ? fronted(place, direction) : 1.0f;
  return own * gridded(c);
}

float LightSampler::evened(const Vec3f& from, const Sample& sample) const {
  if (!shines || sample.emission < 0.0f) return sample.emission;
  const Vec3f at = from + sample.direction * sample.distance - centre;
  const float c = -dot(sample.direction, ahead);
  if (c <= 0.0f) return 0.0f;
  const double u = static_cast<double>(-dot(sample.direction, right) / c),
               v = static_cast<double>(-dot(sample.direction, up) / c);
  const auto own = static_cast<float>(
      shines->evened(static_cast<double>(dot(at, right)), static_cast<double>(dot(at, up)), u, v));
  return own * gridded(c);
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
    case LightShape::dome:
    case LightShape::bare:
      break;
  }
  const float c = shape == LightShape::dome ? u : 1.0f - 2.0f * u, s = std::sqrt(std::max(0.0f, 1.0f - c * c));
  const Vec3f n = right * (s * std::cos(turn)) + up * (s * std::sin(turn)) + ahead * c;
  return {centre + n * radius, n};
}

namespace {
/// A direction whose cosine and sine to a unit axis are given, turned about it by a share of a full turn.
Vec3f within_cone(const Vec3f& w, float c, float s, float turn) {
  const Vec3f x = unit(std::abs(w.x) > 0.7f ? cross(w, Vec3f{0, 1, 0}) : cross(w, Vec3f{1, 0, 0})),
              y = cross(w, x);
  return w * c + x * (s * std::cos(2 * pif * turn)) + y * (s * std::sin(2 * pif * turn));
}
}  // namespace

/// Toward a place of the sun's disc, where that is seen through the face.
LightSampler::Sample LightSampler::toward_beam(const Vec3f& from, float u, float v) const {
  const float one_less = u * beam_one_less, s = std::sqrt(one_less * (2.0f - one_less));
  const Vec3f direction = within_cone(beam, 1.0f - one_less, s, v);
  const float along = -dot(direction, ahead), far = dot(from - centre, ahead);
  if (along <= 1e-6f || far <= 0.0f) return {direction, 0.0f, 0.0f, 0.0f};
  const float distance = far / along;
  const Vec3f at = from + direction * distance - centre;
  if (2.0f * std::abs(dot(at, right)) > width || 2.0f * std::abs(dot(at, up)) > height)
    return {direction, distance, 0.0f, 0.0f};
  return {direction, distance, 1.0f / (2.0f * pif * beam_one_less), 1.0f};
}

LightSampler::Sample LightSampler::toward(const Vec3f& from, float u, float v) const {
  if (beam_one_less > 0.0f) return toward_beam(from, u, v);
  if (shape == LightShape::bare) {
    const Vec3f to = centre - from;
    const float d2 = dot(to, to), sin2 = std::min(1.0f, radius * radius / d2);
    if (d2 <= radius * radius) return {{}, 0.0f, 0.0f, 0.0f};
    const float cos_max = std::sqrt(1.0f - sin2);
    const float one_minus = sin2 / (1.0f + cos_max);  // 1 - cos of the cone, exact for small lamps
    const float c = 1.0f - u * one_minus, s = std::sqrt(std::max(0.0f, 1.0f - c * c));
    const float d = std::sqrt(d2);
    const Vec3f direction = within_cone(to / d, c, s, v);
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
  return {direction, d, d * d / (c * area), emission(place, direction, normal)};
}

float LightSampler::density(const Vec3f& from, const Vec3f& direction, float distance, const Vec3f& normal) const {
  if (beam_one_less > 0.0f) return in_beam(direction) ? 1.0f / (2.0f * pif * beam_one_less) : 0.0f;
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
