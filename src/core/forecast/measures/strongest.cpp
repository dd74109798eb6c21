#include "cinnabar/forecast/measures/strongest.h"

#include <algorithm>

namespace cinnabar {

std::optional<std::size_t> strongest_light(const Setup& setup, const Vec3& at) {
  std::optional<std::size_t> best;
  double most = 0.0;
  for (std::size_t l = 0; l < setup.lights.size(); ++l) {
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

}  // namespace cinnabar
