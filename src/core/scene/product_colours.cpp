#include "cinnabar/scene/product_colours.h"

#include <algorithm>
#include <cmath>

namespace cinnabar {
namespace {

double side_area(const Part& part) {
  double area = 0;
  for (std::size_t i = 0; i + 1 < part.profile.size(); ++i) {
    const ProfilePoint &a = part.profile[i], &b = part.profile[i + 1];
    const double round = part.section == Section::box ? 4.0 : pi;
    area += round * (std::max(a.radius, a.depth()) + std::max(b.radius, b.depth())) *
            std::hypot(b.radius - a.radius, b.height - a.height);
  }
  return area;
}
double widest(const Part& part) {
  double r = 0;
  for (const ProfilePoint& p : part.profile) r = std::max(r, p.radius);
  return r;
}

}  // namespace

std::vector<Palette::Colour> product_colours(const Product& product) {
  std::vector<Palette::Colour> colours;
  double label_area = 0;
  const Part* labelled = nullptr;
  if (const auto& label = product.label) {
    for (const Part& part : product.parts)
      if (part.id == label->part) labelled = &part;
    if (labelled) label_area = widest(*labelled) * radians(label->arc_deg) * (label->high - label->low);
  }
  for (const Part& part : product.parts) {
    double area = side_area(part) - (&part == labelled ? label_area : 0.0);
    Vec3 colour = part.material.colour;
    if (part.material.is_clear()) {  // seen through once: a diameter of it, or its wall
      const double way = part.wall > 0 ? 2 * part.wall : 2 * widest(part);
      const Vec3& a = part.material.absorption;
      colour = {colour.x * std::exp(-a.x * way), colour.y * std::exp(-a.y * way), colour.z * std::exp(-a.z * way)};
      if (std::min({colour.x, colour.y, colour.z}) > 0.9) continue;
    }
    if (area > 0) colours.push_back({colour, area});
  }
  if (label_area <= 0) return colours;
  const Vec3& paper = product.label->material.colour;
  const auto& picture = product.label->image;
  if (!picture) {
    colours.push_back({paper, label_area});
    return colours;
  }
  constexpr int n = 32;
  for (int y = 0; y < n; ++y)
    for (int x = 0; x < n; ++x) {
      const Rgb c = picture->sample((static_cast<float>(x) + 0.5f) / n, (static_cast<float>(y) + 0.5f) / n);
      colours.push_back({{paper.x * static_cast<double>(c.x), paper.y * static_cast<double>(c.y),
                          paper.z * static_cast<double>(c.z)},
                         label_area / (n * n)});
    }
  return colours;
}

}  // namespace cinnabar
