#include "cinnabar/forecast/measures/sight_bodies.h"

#include <algorithm>

namespace cinnabar {

std::optional<SightBody::Met> SightBody::met(const SightLine& line) const {
  constexpr double near = 1e-5;
  const Vec3 to = place - line.from;
  if (form == Form::sheet || form == Form::disc) {
    const double facing = dot(line.along, ahead);
    if (std::abs(facing) < 1e-12) return std::nullopt;
    const double t = dot(to, ahead) / facing;
    if (t < near) return std::nullopt;
    const Vec3 at = line.along * t - to;
    const double x = dot(at, right), y = dot(at, up);
    const bool inside = form == Form::disc ? x * x + y * y <= half_width * half_width
                                           : std::abs(x) <= half_width && std::abs(y) <= half_height;
    return inside ? std::optional(Met{t, facing < 0.0}) : std::nullopt;
  }
  if (form == Form::box) {  // between each pair of faces in turn
    double enter = near, leave = 1e30;
    for (const auto& [axis, half] : {std::pair{right, half_width}, {up, half_height}, {ahead, half_depth}}) {
      const double along = dot(line.along, axis), off = dot(to, axis);
      if (std::abs(along) < 1e-12) {
        if (std::abs(off) > half) return std::nullopt;
        continue;
      }
      enter = std::max(enter, (off - std::copysign(half, along)) / along);
      leave = std::min(leave, (off + std::copysign(half, along)) / along);
    }
    return leave > enter ? std::optional(Met{enter, false}) : std::nullopt;
  }
  // A tube's side about `up`, or a ball.
  const Vec3 d = form == Form::tube ? line.along - up * dot(line.along, up) : line.along,
             o = form == Form::tube ? to - up * dot(to, up) : to;
  const double a = dot(d, d), b = dot(d, o), c = dot(o, o) - half_width * half_width, root = b * b - a * c;
  if (a < 1e-18 || root < 0.0) return std::nullopt;
  const double t = (b - std::sqrt(root)) / a;
  if (t < near) return std::nullopt;
  if (form == Form::tube && std::abs(dot(line.along * t - to, up)) > half_height) return std::nullopt;
  return Met{t, true};
}

SightBody sight_sheet(const Vec3& a, const Vec3& b, const Vec3& c) {  // three corners in turn
  const Vec3 right = unit(b - a), up = unit(c - b);
  return {SightBody::Form::sheet, (a + c) * 0.5,    right, up, cross(right, up),
          length(b - a) / 2,      length(c - b) / 2};
}

SightBody sight_gear(const Gear& g) {
  return {SightBody::Form::box,
          g.place + Vec3{0, g.size.y / 2, 0},
          turned({1, 0, 0}, g.turn_deg),
          {0, 1, 0},
          turned({0, 0, 1}, g.turn_deg),
          g.size.x / 2,
          g.size.y / 2,
          {},
          g.size.z / 2};
}

SightBody sight_face(const Light& l, std::size_t index) {
  const Facing f = facing(l.place, l.aim, l.roll_deg);
  const bool flat = l.shape == LightShape::rectangle;
  return {flat                          ? SightBody::Form::sheet
          : l.shape == LightShape::disc ? SightBody::Form::disc
          : l.shape == LightShape::tube ? SightBody::Form::tube
                                        : SightBody::Form::ball,
          l.place,
          f.right,
          f.up,
          f.ahead,
          flat ? l.width / 2 : l.radius,
          flat ? l.height / 2 : l.length / 2,
          index};
}

}  // namespace cinnabar
