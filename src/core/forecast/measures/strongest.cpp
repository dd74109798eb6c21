#include "cinnabar/forecast/measures/strongest.h"

#include <algorithm>
#include <cmath>

namespace cinnabar {

std::optional<std::size_t> strongest_light(const Setup& setup, const Vec3& at) {
  std::optional<std::size_t> best;
  double most = 0.0;
  for (std::size_t l = 0; l < setup.own_lights(); ++l) {
    const Light& light = setup.lights[l];
    if (!light.on) continue;
    const Vec3 to = light.place - at;
    const double gives = light.candela() / std::max(1e-3, dot(to, to));
    if (gives > most) most = gives, best = l;
  }
  return best;
}

Vec3 product_place(const Shot& shot) { return shot.products.empty() ? Vec3{} : shot.products.front().place; }
Vec3 product_place(const Project& project, const Setup& setup) {
  for (const auto& shot : project.shots)
    if (shot->setup == setup.id) return product_place(*shot);
  return {};
}

double side_seen(const Light& l, const Vec3& from) {
  const double whole = l.shape == LightShape::rectangle ? std::min(l.width, l.height)
                       : l.shape == LightShape::tube    ? std::min(l.length, 2.0 * l.radius)
                                                        : 2.0 * l.radius;
  if (!l.shines) return whole;
  const Facing f = facing(l.place, l.aim, l.roll_deg);
  const Vec3 to = from - l.place;
  const auto [across, up] = l.shines->seen_from(dot(to, f.right), dot(to, f.up), dot(to, f.ahead));
  return l.shape == LightShape::rectangle ? std::min(l.width * across, l.height * up)
                                          : whole * std::min(across, up);
}

}  // namespace cinnabar
