#include "cinnabar/scene/form.h"

#include <algorithm>
#include <cmath>

namespace cinnabar {
namespace {

Vec3 toward(double bearing_deg) { return turned({0, 0, 1}, bearing_deg); }

/// Where a ray from the middle meets a box of half width a and half depth b with rounded upright edges.
RimPoint box_side(double a, double b, double corner, double bearing_deg) {
  const Vec3 ray = toward(bearing_deg);
  const double sx = std::abs(ray.x), sz = std::abs(ray.z), r = std::min({corner, a, b});
  const double to_side = sx > 1e-12 ? a / sx : 1e12, to_front = sz > 1e-12 ? b / sz : 1e12;
  double t = std::min(to_side, to_front);
  Vec3 out = to_side < to_front ? Vec3{1, 0, 0} : Vec3{0, 0, 1};
  const double cx = a - r, cz = b - r;
  if (r > 0 && t * sx > cx && t * sz > cz) {  // in the rounded edge: the ray meets its circle
    const double along = sx * cx + sz * cz, square = cx * cx + cz * cz - r * r;
    t = along + std::sqrt(std::max(0.0, along * along - square));
    out = unit(Vec3{t * sx - cx, 0, t * sz - cz});
  }
  const Vec3 side{ray.x < 0 ? -1.0 : 1.0, 0, ray.z < 0 ? -1.0 : 1.0};
  return {ray * t, out * side};
}

RimPoint ellipse_side(double a, double b, double bearing_deg) {
  const Vec3 ray = toward(bearing_deg);
  const double aa = std::max(a, 1e-9), bb = std::max(b, 1e-9);
  const double t = 1.0 / std::hypot(ray.x / aa, ray.z / bb);
  return {ray * t, unit(Vec3{ray.x / (aa * aa), 0, ray.z / (bb * bb)})};
}

/// The section of a mesh at a height, between the two that are kept.
RimPoint mesh_side(const PartMesh& mesh, double height, double bearing_deg) {
  const auto above = std::find_if(mesh.sections.begin(), mesh.sections.end(),
                                  [&](const MeshSection& s) { return s.height >= height; });
  const MeshSection& high = above == mesh.sections.end() ? mesh.sections.back() : *above;
  const MeshSection& low = above == mesh.sections.begin() || above == mesh.sections.end() ? high : *(above - 1);
  const double between = high.height > low.height ? (height - low.height) / (high.height - low.height) : 1.0;
  const auto at = [&](double bearing) {
    const double x = low.x + (high.x - low.x) * between, z = low.z + (high.z - low.z) * between;
    const double reach = low.reach_at(bearing) + (high.reach_at(bearing) - low.reach_at(bearing)) * between;
    return Vec3{x, 0, z} + toward(bearing) * reach;
  };
  const Vec3 along = at(bearing_deg + 2.5) - at(bearing_deg - 2.5);
  const Vec3 out = length(along) > 1e-12 ? unit(cross(Vec3{0, 1, 0}, along) * -1.0) : toward(bearing_deg);
  return {at(bearing_deg), dot(out, toward(bearing_deg)) < 0 ? out * -1.0 : out};
}

RimPoint section_side(const Part& part, const ProfilePoint& p, double bearing_deg) {
  if (part.mesh && !part.mesh->sections.empty()) {
    RimPoint side = mesh_side(*part.mesh, p.height, bearing_deg);
    side.at.y = p.height;
    return side;
  }
  RimPoint side = part.section == Section::box ? box_side(p.radius, p.depth(), part.corner, bearing_deg)
                                               : ellipse_side(p.radius, p.depth(), bearing_deg);
  side.at += Vec3{p.shift, p.height, 0};
  return side;
}

/// The level normal leant by how the side runs upward: square to both.
Vec3 leant(const Vec3& out, const Vec3& upward) { return unit(out * upward.y - Vec3{0, 1, 0} * dot(upward, out)); }

}  // namespace

std::vector<RimPoint> rim(const Part& part, const ProfilePoint& p, int steps) {
  std::vector<RimPoint> points;
  if (part.mesh || part.section == Section::round) {
    const bool turned_part = !part.mesh && p.depth_share == 1.0;
    for (int k = 0; k < steps; ++k) {
      const double a = 2.0 * pi * k / steps;
      if (part.mesh)
        points.push_back(section_side(part, p, degrees(a)));
      else if (turned_part)
        points.push_back(
            {{p.shift + p.radius * std::sin(a), p.height, p.radius * std::cos(a)}, {std::sin(a), 0, std::cos(a)}});
      else  // evenly by the ellipse's own angle, which crowds the points where it bends most
        points.push_back(
            {{p.shift + p.radius * std::sin(a), p.height, p.depth() * std::cos(a)},
             unit(Vec3{std::sin(a) * std::max(p.depth(), 1e-9), 0, std::cos(a) * std::max(p.radius, 1e-9)})});
    }
    return points;
  }
  const double a = p.radius, b = p.depth(), r = std::min({part.corner, a, b});
  const int turns = part.corner > 0 ? std::max(2, steps / 12) : 1;  // steps in one rounded edge
  // From the front's middle: its right edge, then back, left and front again.
  points.push_back({{p.shift, p.height, b}, {0, 0, 1}});
  const double sides[4][2] = {{1, 1}, {1, -1}, {-1, -1}, {-1, 1}};
  for (int edge = 0; edge < 4; ++edge)
    for (int k = 0; k <= turns; ++k) {
      const double turn = pi / 2 * (edge + static_cast<double>(k) / turns);
      const Vec3 out{std::sin(turn), 0, std::cos(turn)};
      points.push_back(
          {Vec3{p.shift + sides[edge][0] * (a - r), p.height, sides[edge][1] * (b - r)} + out * r, out});
    }
  return points;
}

std::optional<ProfilePoint> section_at(const Part& part, double height) {
  std::optional<ProfilePoint> widest;
  for (std::size_t i = 0; i + 1 < part.profile.size(); ++i) {
    const ProfilePoint &a = part.profile[i], &b = part.profile[i + 1];
    const auto [low, high] = std::minmax(a.height, b.height);
    if (height < low || height > high) continue;
    ProfilePoint p = a.radius >= b.radius ? a : b;
    if (high > low) {
      const double s = (height - a.height) / (b.height - a.height);
      const double depth = a.depth() + (b.depth() - a.depth()) * s;
      p.radius = a.radius + (b.radius - a.radius) * s;
      p.depth_share = p.radius > 0 ? depth / p.radius : 1.0;
      p.shift = a.shift + (b.shift - a.shift) * s;
    }
    p.height = height;
    if (!widest || p.radius > widest->radius) widest = p;
  }
  return widest;
}

std::optional<RimPoint> side_at(const Part& part, double height, double bearing_deg) {
  const auto here = section_at(part, height);
  if (!here || here->radius <= 0.0) return std::nullopt;
  RimPoint side = section_side(part, *here, bearing_deg);
  const auto [low, high] =
      std::minmax_element(part.profile.begin(), part.profile.end(),
                          [](const ProfilePoint& a, const ProfilePoint& b) { return a.height < b.height; });
  const double step = 1e-4 * std::max(1e-3, high->height - low->height);
  const auto above = section_at(part, height + step), below = section_at(part, height - step);
  if (above && below && above->radius > 0 && below->radius > 0)
    side.out =
        leant(side.out, section_side(part, *above, bearing_deg).at - section_side(part, *below, bearing_deg).at);
  return side;
}

std::optional<RimPoint> side_at(const Product& product, double height, double bearing_deg) {
  std::optional<RimPoint> outermost;
  const auto away = [](const RimPoint& p) { return std::hypot(p.at.x, p.at.z); };
  for (const Part& part : product.parts)
    if (const auto side = side_at(part, height, bearing_deg);
        side && (!outermost || away(*side) > away(*outermost)))
      outermost = side;
  return outermost;
}
double reach_at(const Product& product, double height, double bearing_deg) {
  const auto side = side_at(product, height, bearing_deg);
  return side ? std::hypot(side->at.x, side->at.z) : 0.0;
}

double radius_at(const Part& part, double height) {
  const auto section = section_at(part, height);
  return section ? section->radius : 0.0;
}
double radius_at(const Product& product, double height) {
  double most = 0.0;
  for (const Part& part : product.parts) most = std::max(most, radius_at(part, height));
  return most;
}

Extent extent(const Product& product) {
  Extent e{1e9, -1e9, 1e9, -1e9, 1e9, -1e9};
  for (const Part& part : product.parts)
    for (std::size_t k = 0; k < part.profile.size(); ++k) {
      const ProfilePoint& p = part.profile[k];
      const double z = part.mesh ? part.mesh->sections[k].z : 0.0;
      e.left = std::min(e.left, p.shift - p.radius), e.right = std::max(e.right, p.shift + p.radius);
      e.low = std::min(e.low, p.height), e.high = std::max(e.high, p.height);
      e.back = std::min(e.back, z - p.depth()), e.front = std::max(e.front, z + p.depth());
    }
  return e.low > e.high ? Extent{} : e;
}
double widest_reach(const Product& product) {
  double most = 0.0;
  for (const Part& part : product.parts)
    for (const ProfilePoint& p : part.profile) {
      if (part.turned_on_axis()) {
        most = std::max(most, p.radius);
        continue;
      }
      for (const RimPoint& edge : rim(part, p, 36)) most = std::max(most, std::hypot(edge.at.x, edge.at.z));
    }
  return most;
}
std::pair<double, double> height_span(const Product& product) {
  const Extent e = extent(product);
  return {e.low, e.high};
}

namespace {

/// The way along a section's side from a bearing, to either hand, by steps of a degree up to the back.
class SideWay {
 public:
  SideWay(const Part& part, const ProfilePoint& section, double from_deg) : from_(from_deg) {
    for (const int hand : {-1, 1}) {
      auto& way = hand < 0 ? left_ : right_;
      way.push_back(0.0);
      Vec3 last = section_side(part, section, from_deg).at;
      for (int k = 1; k <= 180; ++k) {
        const Vec3 next = section_side(part, section, from_deg + hand * k).at;
        way.push_back(way.back() + length(next - last));
        last = next;
      }
    }
  }
  /// The way to a bearing, negative to the left.
  [[nodiscard]] double to(double bearing_deg) const {
    const double turn = std::clamp(std::abs(bearing_deg - from_), 0.0, 180.0);
    const auto& way = bearing_deg < from_ ? left_ : right_;
    const auto k = std::min<std::size_t>(static_cast<std::size_t>(turn), 179);
    const double along = way[k] + (way[k + 1] - way[k]) * (turn - static_cast<double>(k));
    return bearing_deg < from_ ? -along : along;
  }
  /// The bearing that lies so far along.
  [[nodiscard]] double bearing(double along) const {
    const auto& way = along < 0 ? left_ : right_;
    const double wanted = std::abs(along);
    const auto after = std::upper_bound(way.begin(), way.end(), wanted);
    const auto k = std::clamp<std::ptrdiff_t>(after - way.begin() - 1, 0, 179);
    const double piece = way[static_cast<std::size_t>(k) + 1] - way[static_cast<std::size_t>(k)];
    const double turn =
        static_cast<double>(k) +
        (piece > 0 ? std::clamp((wanted - way[static_cast<std::size_t>(k)]) / piece, 0.0, 1.0) : 0.0);
    return from_ + (along < 0 ? -turn : turn);
  }

 private:
  double from_;
  std::vector<double> left_, right_;
};

}  // namespace

std::vector<double> label_bearings(const Part& part, const Label& label, int columns, double height) {
  const double left = label.bearing_deg - label.arc_deg / 2, right = label.bearing_deg + label.arc_deg / 2;
  std::vector<double> bearings;
  const auto middle = section_at(part, (label.low + label.high) / 2), here = section_at(part, height);
  if (part.turned_on_axis() || !middle || !here || middle->radius <= 0.0 || here->radius <= 0.0) {
    for (int k = 0; k <= columns; ++k) bearings.push_back(left + (right - left) * k / columns);
    return bearings;
  }
  // Paper lies flat: as wide at every height as half way up, and even along the side, not round the axis.
  const SideWay at_middle(part, *middle, label.bearing_deg), along(part, *here, label.bearing_deg);
  const double from = at_middle.to(left), to = at_middle.to(right);
  for (int k = 0; k <= columns; ++k) bearings.push_back(along.bearing(from + (to - from) * k / columns));
  return bearings;
}

std::vector<LabelPoint> label_points(const Product& product, int columns, int rows) {
  std::vector<LabelPoint> points;
  if (!product.label) return points;
  const Label& label = *product.label;
  for (const Part& part : product.parts) {
    if (part.id != label.part) continue;
    for (int row = 0; row < rows; ++row) {
      const double h = label.low + (label.high - label.low) * (rows > 1 ? row / (rows - 1.0) : 0.5);
      std::vector<double> bearings = label_bearings(part, label, std::max(1, columns - 1), h);
      if (columns == 1) bearings = {label.bearing_deg};
      for (const double bearing : bearings)
        if (const auto side = side_at(part, h, bearing)) points.push_back({side->at, side->out});
    }
  }
  return points;
}

}  // namespace cinnabar
