#include "cinnabar/planning/standing.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/base/vec.h"
#include "cinnabar/motion/machines.h"
#include "cinnabar/scene/form.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

/// Half as wide as what a product stands on.
double foot_radius(const Product& product) {
  const double low = height_span(product).first;
  return std::max(1e-3, radius_at(product, low + 1e-4));
}

}  // namespace

std::vector<Standing> standing_on_turntable(const Project& project, const Shot& shot) {
  std::vector<Standing> list;
  const KeyedTrack* turn = shot.track(Tracked::turntable);
  const double end = shot.set_time();
  if (!turn || turn->keys.size() < 2 || end <= 0.0) return list;
  constexpr int steps = 256;
  const double h = end / (2 * steps);
  for (const ShotProduct& placed : shot.products) {
    const Product* product = by_id(project.products, placed.product);
    if (!product || product->mass <= 0.0 || !on_turntable(project, shot, placed)) continue;
    const Vec3 place = product_at(project, shot, placed, 0.0).place;
    const double radius = std::max(1e-3, widest_reach(*product)), foot = std::min(foot_radius(*product), radius),
                 off = std::hypot(place.x, place.z);
    Standing out{product->id, product->mass * (radius * radius / 2.0 + off * off)};
    for (int k = 0; k <= steps; ++k) {
      const double t = std::clamp(end * k / steps, h, end - h);
      const double before = turn->at(t - h), now = turn->at(t), after = turn->at(t + h);
      const double rate = std::abs(radians(after - before)) / (2.0 * h),
                   gains = turn->shape == Shape::linear ? 0.0
                                                        : std::abs(radians(after - 2.0 * now + before)) / (h * h);
      if (rate < 1e-9 && gains < 1e-9) continue;
      const auto start =
          turntable_start({product->mass, radius, foot, off, dry_friction, std::max(rate, 1e-9) * 30.0 / pi,
                           std::max(rate, 1e-9) / std::max(gains, 1e-12)});
      if (!start) continue;
      out.torque = std::max(out.torque, start->torque);
      const double away = rate * rate * off / (dry_friction * standard_gravity);
      const double grip = std::max(away, start->share.value_or(away));
      if (grip > out.grip) out.grip = grip, out.at = t;
    }
    list.push_back(std::move(out));
  }
  return list;
}

}  // namespace cinnabar
