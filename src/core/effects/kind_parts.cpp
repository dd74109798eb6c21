#include "cinnabar/effects/kind_parts.h"

#include <cmath>

namespace cinnabar {

double lies_under(const EffectAsked& ask, double x, double z) {
  const EffectVessel* vessel = ask.about.under(x, z);
  return vessel ? vessel->foot.y + vessel->level : ask.about.ground(x, z);
}

double torn_size(Drawn& drawn) {
  double size = 0.0;  // four exponentials
  for (int k = 0; k < 4; ++k) size -= 0.25 * std::log(1.0 - drawn());
  return size;
}

std::vector<double> torn_drops(Drawn& drawn, std::size_t count, double volume) {
  std::vector<double> sizes(count);
  double cubes = 0.0;
  for (double& size : sizes) {
    size = torn_size(drawn);
    cubes += size * size * size;
  }
  const double scale = std::cbrt(6.0 * volume / (pi * cubes));
  for (double& size : sizes) size *= scale;
  return sizes;
}

EffectBody drop_on_its_way(double radius, double leaves, std::shared_ptr<const Flown> way) {
  return {EffectForm::ball, Vec3{1, 1, 1} * radius, true, [way = std::move(way), leaves](double when, double t) {
            std::vector<EffectShape> shapes;
            if (when >= leaves) shapes.push_back({way->at(t - leaves)});
            return shapes;
          }};
}

}  // namespace cinnabar
