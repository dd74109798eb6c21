// Bodies of revolution: products by profile, with walls, liquids and labels.
#include <algorithm>
#include <cmath>
#include <optional>

#include "cinnabar/scene/staged.h"

namespace cinnabar {
namespace {

using Outline = std::vector<ProfilePoint>;

bool on_axis(const ProfilePoint& p) { return p.radius < 1e-7; }

Outline cleaned(const Outline& raw) {
  Outline out;
  for (const ProfilePoint& p : raw)
    if (out.empty() || std::hypot(p.radius - out.back().radius, p.height - out.back().height) > 1e-7)
      out.push_back(p);
  return out;
}

/// The profile moved by `by` toward the axis side (the left of its direction), with mitred corners.
Outline offset(const Outline& p, double by) {
  const auto normal = [&](std::size_t i) {  // of segment i
    const double dr = p[i + 1].radius - p[i].radius, dh = p[i + 1].height - p[i].height, l = std::hypot(dr, dh);
    return std::pair{-dh / l, dr / l};
  };
  Outline out;
  for (std::size_t i = 0; i < p.size(); ++i) {
    const auto a = normal(i == 0 ? 0 : i - 1), b = normal(std::min(i, p.size() - 2));
    const double mitre = by / std::max(0.25, 1.0 + a.first * b.first + a.second * b.second);
    double r = p[i].radius + (a.first + b.first) * mitre;
    if (on_axis(p[i])) r = 0.0;
    out.push_back({std::max(0.0, r), p[i].height + (a.second + b.second) * mitre});
  }
  return out;
}

/// Lathe: corners sharper than 30 degrees get two normals.
void lathe(const Outline& p, int segments, Mesh& mesh, bool flip) {
  if (p.size() < 2) return;
  std::vector<std::pair<double, double>> segment_normals;
  for (std::size_t i = 0; i + 1 < p.size(); ++i) {
    const double dr = p[i + 1].radius - p[i].radius, dh = p[i + 1].height - p[i].height, l = std::hypot(dr, dh);
    segment_normals.emplace_back(dh / l, -dr / l);  // outward
  }
  const auto blended = [&](std::size_t point, std::size_t segment) {
    auto n = segment_normals[segment];
    const std::optional<std::size_t> other =
        point == segment ? (segment > 0 ? std::optional(segment - 1) : std::nullopt)
                         : (segment + 1 < segment_normals.size() ? std::optional(segment + 1) : std::nullopt);
    if (other) {
      const auto o = segment_normals[*other];
      if (n.first * o.first + n.second * o.second > 0.866) n = {n.first + o.first, n.second + o.second};
    }
    const double l = std::hypot(n.first, n.second);
    return std::pair{n.first / l, n.second / l};
  };
  auto& positions = mesh.positions.front();
  const double sign = flip ? -1.0 : 1.0;
  // The polygon has the circle's area, so that volumes and shadows are true.
  const double step = 2.0 * pi / segments, swell = std::sqrt(step / std::sin(step));
  for (std::size_t i = 0; i + 1 < p.size(); ++i) {
    const auto first = static_cast<std::uint32_t>(positions.size());
    for (int s = 0; s <= segments; ++s) {
      const double a = step * s, x = std::sin(a), z = std::cos(a);
      for (const std::size_t k : {i, i + 1}) {
        const auto n = blended(k, i);
        positions.push_back(Vec3{p[k].radius * swell * x, p[k].height, p[k].radius * swell * z}.as<float>());
        mesh.normals.push_back((Vec3{n.first * x, n.second, n.first * z} * sign).as<float>());
        mesh.uvs.emplace_back(0.0f, 0.0f);
      }
    }
    for (int s = 0; s < segments; ++s) {
      const std::uint32_t a = first + 2u * static_cast<std::uint32_t>(s), b = a + 1, c = a + 2, d = a + 3;
      const auto add = [&](std::uint32_t u, std::uint32_t v, std::uint32_t w) {
        if (flip) std::swap(v, w);
        mesh.triangles.insert(mesh.triangles.end(), {u, v, w});
      };
      if (!on_axis(p[i])) add(a, c, b);
      if (!on_axis(p[i + 1])) add(b, c, d);
    }
  }
}

bool is_clear(MaterialKind kind) {
  return kind == MaterialKind::glass || kind == MaterialKind::frosted || kind == MaterialKind::liquid;
}

/// The inner side of the first walled part, `depth` share of the wall deep (1 is its inner side).
std::optional<Outline> vessel(const Product& product, double depth_share) {
  for (const Part& part : product.parts)
    if (part.wall > 0.0 && part.material.kind != MaterialKind::liquid)
      return offset(cleaned(part.profile), part.wall * depth_share);
  return std::nullopt;
}

/// A liquid in a vessel follows the vessel's inner side up to the liquid's own level; a little of it reaches into
/// the wall, where the wall's higher priority rules, so that no film of air is left between them.
Outline poured(const Outline& liquid, const Product& product) {
  const auto inner = vessel(product, 1.0), reach = vessel(product, 0.5);
  if (!inner) return liquid;
  Part inside{"", *inner, 0.0, {}};
  double low = 1e9, high = -1e9, widest = 0.0;
  for (const ProfilePoint& p : liquid)
    low = std::min(low, p.height), high = std::max(high, p.height), widest = std::max(widest, p.radius);
  const double middle = 0.5 * (low + high), room = radius_at(inside, middle);
  if (room <= 0.0 || widest < 0.5 * room) return liquid;
  const double inner_bottom =
      std::min_element(inner->begin(), inner->end(), [](auto& a, auto& b) { return a.height < b.height; })->height;
  const bool stands_on_bottom = low <= inner_bottom + 0.25 * (high - low);
  Outline out;
  if (!stands_on_bottom) out.push_back({0.0, low});
  const Outline& wall = *reach;
  for (std::size_t i = 0; i < wall.size(); ++i) {
    if (i > 0) {
      const ProfilePoint &a = wall[i - 1], &b = wall[i];
      for (const double level : a.height < b.height ? std::array{low, high} : std::array{high, low}) {
        const bool crosses = (a.height - level) * (b.height - level) < 0.0;
        if (crosses && (level == high || !stands_on_bottom)) {
          const double s = (level - a.height) / (b.height - a.height);
          out.push_back({a.radius + (b.radius - a.radius) * s, level});
        }
      }
    }
    if (wall[i].height < high && (stands_on_bottom || wall[i].height > low)) out.push_back(wall[i]);
    if (wall[i].height >= high) break;
  }
  if (out.size() < 2) return liquid;
  out.push_back({0.0, out.back().height});
  if (!on_axis(out.front())) out.insert(out.begin(), {0.0, out.front().height});
  return cleaned(out);
}

Mesh label_mesh(const Project& project, const Product& product, const Part& part, PictureCache& pictures,
                int segments) {
  const Label& label = *product.label;
  Mesh mesh;
  mesh.material = label.material;
  mesh.positions.resize(1);
  if (const auto blob = project.blobs.find(label.picture); blob != project.blobs.end())
    mesh.picture = pictures.get(blob->second);
  std::vector<double> heights{label.low, label.high};
  for (const ProfilePoint& p : part.profile)
    if (p.height > label.low && p.height < label.high) heights.push_back(p.height);
  std::sort(heights.begin(), heights.end());
  heights.erase(std::unique(heights.begin(), heights.end()), heights.end());
  const int columns = std::max(2, static_cast<int>(std::ceil(segments * label.arc_deg / 360.0)));
  constexpr double thickness = 1.5e-4;
  // Outside the lathe's polygon, whose corners stand out by this share.
  const double step = 2.0 * pi / segments, swell = std::sqrt(step / std::sin(step));
  const double half = radians(label.arc_deg) / columns / 2.0;
  for (std::size_t row = 0; row < heights.size(); ++row) {
    const double h = heights[row], r = (radius_at(part, h) * swell + thickness) / std::cos(half);
    for (int c = 0; c <= columns; ++c) {
      const double u = static_cast<double>(c) / columns;
      const Vec3 out = turned({0, 0, 1}, label.bearing_deg + label.arc_deg * (u - 0.5));
      mesh.positions[0].push_back((out * r + Vec3{0, h, 0}).as<float>());
      mesh.normals.push_back(out.as<float>());
      mesh.uvs.emplace_back(static_cast<float>(u),
                            static_cast<float>((label.high - h) / (label.high - label.low)));
    }
  }
  const auto stride = static_cast<std::uint32_t>(columns + 1);
  for (std::uint32_t row = 0; row + 1 < heights.size(); ++row)
    for (std::uint32_t c = 0; c + 1 < stride; ++c) {
      const std::uint32_t a = row * stride + c, b = a + 1, d = a + stride, e = d + 1;
      mesh.triangles.insert(mesh.triangles.end(), {a, b, d, b, e, d});
    }
  return mesh;
}

}  // namespace

std::vector<Mesh> product_meshes(const Project& project, const Product& product, PictureCache& pictures,
                                 std::vector<Medium>& media, int segments) {
  std::vector<Mesh> meshes;
  for (const Part& part : product.parts) {
    Outline outer = cleaned(part.profile);
    if (outer.size() < 2) continue;
    Mesh mesh;
    mesh.material = part.material;
    mesh.positions.resize(1);
    const bool clear = is_clear(part.material.kind);
    if (clear) {
      mesh.medium = static_cast<int>(media.size());
      media.push_back({static_cast<float>(part.material.ior), part.material.absorption.as<float>(),
                       part.material.kind == MaterialKind::liquid ? 1 : 2});
    }
    if (part.material.kind == MaterialKind::liquid) outer = poured(outer, product);
    if (part.wall > 0.0) {
      Outline shell = outer;
      const Outline inner = offset(outer, part.wall);
      const bool open_top = !on_axis(outer.back()), open_bottom = !on_axis(outer.front());
      if (open_top) shell.push_back(inner.back());
      if (open_bottom) shell.insert(shell.begin(), inner.front());
      lathe(shell, segments, mesh, false);
      lathe(inner, segments, mesh, true);
    } else {
      if (clear && !on_axis(outer.back())) outer.push_back({0.0, outer.back().height});
      if (clear && !on_axis(outer.front())) outer.insert(outer.begin(), {0.0, outer.front().height});
      lathe(outer, segments, mesh, false);
    }
    meshes.push_back(std::move(mesh));
  }
  if (product.label)
    for (const Part& part : product.parts)
      if (part.id == product.label->part) meshes.push_back(label_mesh(project, product, part, pictures, segments));
  return meshes;
}

}  // namespace cinnabar
