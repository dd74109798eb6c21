#include "cinnabar/forecast/measures/straight_kept.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/base/hash.h"

namespace cinnabar {
namespace {

double face_radius(const StagedLight& l) {
  switch (l.shape) {
    case LightShape::rectangle:
      return std::hypot(l.width, l.height) / 2;
    case LightShape::tube:
      return std::hypot(l.length / 2, l.radius);
    case LightShape::disc:
    case LightShape::bare:
    case LightShape::dome:
      break;
  }
  return l.radius;
}

}  // namespace

bool in_the_way(const Vec3& from, const Vec3& to, double to_radius, const Vec3& middle, double radius) {
  const Vec3 way = to - from;
  // How far the middle is out of the cone at a share of the way: convex, so its least is found by halving.
  const auto out = [&](double share) { return length(middle - from - way * share) - share * to_radius; };
  double low = 0, high = 1, least = std::min(out(0), out(1));
  for (int k = 0; k < 14 && least > radius; ++k) {
    const double a = low + (high - low) / 3, b = high - (high - low) / 3, at_a = out(a), at_b = out(b);
    least = std::min({least, at_a, at_b});
    (at_a < at_b ? high : low) = at_a < at_b ? b : a;
  }
  const double slack = (high - low) * (length(way) + to_radius);  // what may lie between the last places looked at
  return least <= radius + slack;
}

StraightKept::World::World(const StagedWorld& world, const WorldNumbers& numbers) {
  for (std::size_t i = 0; i < world.meshes.size(); ++i) {
    const Mesh& mesh = world.meshes[i];
    Vec3 low{1e30, 1e30, 1e30}, high{-1e30, -1e30, -1e30};
    for (const auto& step : mesh.positions)
      for (const Vec3f& at : step)
        for (const auto axis : {&Vec3::x, &Vec3::y, &Vec3::z}) {
          const double value = at.as<double>().*axis;
          low.*axis = std::min(low.*axis, value), high.*axis = std::max(high.*axis, value);
        }
    if (low.x > high.x) continue;  // of nothing
    bodies_.push_back({(low + high) * 0.5, length(high - low) / 2, numbers.bodies[i]});
  }
  for (std::size_t i = 0; i < world.lights.size(); ++i) {
    const StagedLight& l = world.lights[i];
    faces_.push_back(
        {{l.place, face_radius(l), numbers.lights[i]}, !l.distribution && !l.beam && world.clouds.empty()});
  }
}

std::optional<std::uint64_t> StraightKept::World::key(std::size_t light, const Vec3& point, const Vec3& normal,
                                                      int glances) const {
  const Face& face = faces_[light];
  if (!face.known) return std::nullopt;
  Hash hash;
  hash.add(face.ball.number);
  hash.add(point);
  hash.add(normal);
  hash.add(static_cast<double>(glances));
  for (const Ball& body : bodies_)
    if (in_the_way(point, face.ball.middle, face.ball.radius, body.middle, body.radius)) hash.add(body.number);
  return hash.value();
}

double StraightKept::of(const std::optional<std::uint64_t>& key, const std::function<double()>& measured) {
  if (!key) return measured();
  {
    const std::lock_guard lock(mutex_);
    if (const auto found = kept_.find(*key); found != kept_.end()) return found->second;
  }
  const double value = measured();
  const std::lock_guard lock(mutex_);
  if (kept_.size() >= most) kept_.clear();
  kept_.emplace(*key, value);
  return value;
}

}  // namespace cinnabar
