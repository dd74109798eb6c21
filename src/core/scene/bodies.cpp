// Products as triangles: by outline with walls and liquids, or by mesh, and their labels.
#include <algorithm>
#include <cmath>
#include <optional>

#include "cinnabar/scene/form.h"
#include "cinnabar/scene/liquid_surface.h"
#include "cinnabar/scene/staged.h"

namespace cinnabar {
namespace {

using Outline = std::vector<ProfilePoint>;

bool on_axis(const ProfilePoint& p) { return p.radius < 1e-7; }
ProfilePoint on_axis_at(const ProfilePoint& rim) { return {0.0, rim.height, 1.0, rim.shift}; }

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
    // A wall is as thick in front as at the sides.
    const double inward = p[i].radius - r, depth = std::max(0.0, p[i].depth() - inward);
    out.push_back(
        {std::max(0.0, r), p[i].height + (a.second + b.second) * mitre, r > 0 ? depth / r : 1.0, p[i].shift});
  }
  return out;
}

/// Joins the rims of an outline by faces, facing outward, or inward when flipped: the sides of a part's form
/// between its points. Edges sharper than 30 degrees get two normals.
void joined(const Part& form, const Outline& p, int segments, Mesh& mesh, bool flip) {
  if (p.size() < 2) return;
  // A polygon in a circle's place has the circle's area, so that volumes and shadows are true.
  const double step = 2.0 * pi / segments,
               swell = form.section == Section::round ? std::sqrt(step / std::sin(step)) : 1.0;
  std::vector<std::vector<RimPoint>> rims;
  for (const ProfilePoint& point : p) {
    ProfilePoint swollen = point;
    swollen.radius *= swell;
    rims.push_back(rim(form, swollen, segments));
    rims.back().push_back(rims.back().front());
  }
  const std::size_t round = rims.front().size();
  const auto normal = [&](std::size_t segment, std::size_t s) {
    const RimPoint &a = rims[segment][s], &b = rims[segment + 1][s];
    const Vec3 out = on_axis(p[segment]) ? b.out : a.out, up = b.at - a.at;
    const Vec3 n = out * up.y - Vec3{0, 1, 0} * dot(up, out);
    const double l = length(n);
    return l > 1e-12 ? n / l : out;
  };
  auto& positions = mesh.positions.front();
  for (std::size_t i = 0; i + 1 < p.size(); ++i) {
    const auto first = static_cast<std::uint32_t>(positions.size());
    for (std::size_t s = 0; s < round; ++s) {
      const Vec3 own = normal(i, s);
      for (const std::size_t k : {i, i + 1}) {
        Vec3 n = own;
        const bool below = k == i;
        if (below ? i > 0 : i + 2 < p.size())
          if (const Vec3 other = normal(below ? i - 1 : i + 1, s); dot(own, other) > 0.866) n = unit(own + other);
        positions.push_back(rims[k][s].at.as<float>());
        mesh.normals.push_back((flip ? -n : n).as<float>());
        mesh.uvs.emplace_back(0.0f, 0.0f);
      }
    }
    for (std::size_t s = 0; s + 1 < round; ++s) {
      if (length(rims[i][s + 1].at - rims[i][s].at) + length(rims[i + 1][s + 1].at - rims[i + 1][s].at) < 1e-9)
        continue;  // where a sharp edge has its second normal
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

/// A part given by triangles, as they are.
void copied(const PartMesh& part, Mesh& mesh) {
  mesh.positions.front() = part.corners;
  mesh.normals = part.normals;
  mesh.uvs.assign(part.corners.size(), {0.0f, 0.0f});
  for (std::uint32_t k = 0; k < part.corners.size(); ++k) mesh.triangles.push_back(k);
}

bool is_vessel(const Part& part) {
  return part.wall > 0.0 && !part.mesh && part.material.kind != MaterialKind::liquid;
}

/// The inner side of the first walled part, `depth` share of the wall deep (1 is its inner side).
std::optional<Outline> vessel(const Product& product, double depth_share) {
  for (const Part& part : product.parts)
    if (is_vessel(part)) return offset(cleaned(part.profile), part.wall * depth_share);
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
          const double r = a.radius + (b.radius - a.radius) * s, depth = a.depth() + (b.depth() - a.depth()) * s;
          out.push_back({r, level, r > 0 ? depth / r : 1.0, a.shift + (b.shift - a.shift) * s});
        }
      }
    }
    if (wall[i].height < high && (stands_on_bottom || wall[i].height > low)) out.push_back(wall[i]);
    if (wall[i].height >= high) break;
  }
  if (out.size() < 2) return liquid;
  out.push_back(on_axis_at(out.back()));
  if (!on_axis(out.front())) out.insert(out.begin(), on_axis_at(out.front()));
  return cleaned(out);
}

Mesh label_mesh(const Product& product, const Part& part, int segments) {
  const Label& label = *product.label;
  Mesh mesh;
  mesh.material = label.material;
  mesh.positions.resize(1);
  mesh.picture = label.image;
  mesh.stamp = label.stamp;
  mesh.foil = label.foil_material;
  mesh.material.scattering = {};
  std::vector<double> heights{label.low, label.high};
  for (const ProfilePoint& p : part.profile)
    if (p.height > label.low && p.height < label.high) heights.push_back(p.height);
  std::sort(heights.begin(), heights.end());
  heights.erase(std::unique(heights.begin(), heights.end()), heights.end());
  const bool round = part.turned_on_axis();
  const int columns = std::max(2, static_cast<int>(std::ceil((round ? 1 : 2) * segments * label.arc_deg / 360.0)));
  constexpr double thickness = 1.5e-4;
  // Outside the joined polygon, whose corners stand out by this share.
  const double step = 2.0 * pi / segments,
               swell = part.section == Section::round && !part.mesh ? std::sqrt(step / std::sin(step)) : 1.0;
  const double half = radians(label.arc_deg) / columns / 2.0;
  for (const double h : heights) {
    const auto bearings = label_bearings(part, label, columns, h);
    for (int c = 0; c <= columns; ++c) {
      const double u = static_cast<double>(c) / columns, bearing = bearings[static_cast<std::size_t>(c)];
      const auto side = side_at(part, h, bearing);
      if (round || !side) {
        const double r = (radius_at(part, h) * swell + thickness) / std::cos(half);
        const Vec3 out = turned({0, 0, 1}, bearing);
        mesh.positions[0].push_back((out * r + Vec3{0, h, 0}).as<float>());
        mesh.normals.push_back(out.as<float>());
      } else {
        // A mesh is met between its sections, and an ellipse bends unevenly: lie a little farther out there.
        const double proud = thickness + (part.mesh ? 5e-4 : part.section == Section::box ? 0.0 : 2e-4);
        const Vec3 level = unit(Vec3{side->out.x, 0, side->out.z});
        const auto middle = section_at(part, h);
        const Vec3 axis{middle ? middle->shift : 0.0, h, 0};
        mesh.positions[0].push_back((axis + (side->at - axis) * swell + level * proud).as<float>());
        mesh.normals.push_back(side->out.as<float>());
      }
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

namespace {

const Part* liquid_in(const Product& product) {
  for (const Part& part : product.parts)
    if (part.material.kind == MaterialKind::liquid) return &part;
  return nullptr;
}
double top_of(const Part& part) {
  double top = -1e9;
  for (const ProfilePoint& p : part.profile) top = std::max(top, p.height);
  return top;
}

/// Whether something else is over a vessel's mouth.
bool has_lid(const Product& product, const Part& vessel, const ProfilePoint& mouth) {
  for (const Part& part : product.parts) {
    if (&part == &vessel || part.material.kind == MaterialKind::liquid) continue;
    double top = -1e9, low = 1e9;
    for (const ProfilePoint& p : part.profile) top = std::max(top, p.height), low = std::min(low, p.height);
    const bool over = top > mouth.height + 1e-4;
    // A ring of sheet is open; a clear or scattering body without a wall is filled.
    const bool filled = part.wall <= 0.0 && (part.material.is_clear() || part.material.scatters());
    const bool closed = part.mesh || filled || on_axis(cleaned(part.profile).back());
    if (over && closed && radius_at(part, std::max(low, mouth.height) + 1e-5) > 0.5 * mouth.radius) return true;
  }
  return false;
}

}  // namespace

VesselInside vessel_inside(const Product& product) {
  const auto holds = std::find_if(product.parts.begin(), product.parts.end(), is_vessel);
  if (holds == product.parts.end() || holds->section != Section::round) return {};
  const Outline outer = cleaned(holds->profile);
  if (outer.size() < 2) return {};
  VesselInside out;
  for (const ProfilePoint& p : offset(outer, holds->wall)) {
    // Heights rise from the floor on: what lies level with it is the floor's own width.
    if (!out.inner.empty() && p.height <= out.inner.back()[1] + 1e-9)
      out.inner.back()[0] = std::max(out.inner.back()[0], p.radius);
    else
      out.inner.push_back({p.radius, p.height});
  }
  if (out.inner.size() < 2) return {};
  const double floor = out.inner.front()[1], brim = out.inner.back()[1];
  const Part* liquid = liquid_in(product);
  out.level = liquid ? std::clamp(top_of(*liquid), floor, brim) : floor;
  out.open = !on_axis(outer.back()) && !has_lid(product, *holds, outer.back());
  return out;
}

std::vector<std::array<double, 2>> inner_side(const Product& product) {
  const VesselInside vessel = vessel_inside(product);
  return vessel.open ? vessel.inner : std::vector<std::array<double, 2>>{};
}

double liquid_level(const Product& product) {
  const VesselInside vessel = vessel_inside(product);
  return vessel.open ? vessel.level : 0.0;
}

Product with_level(const Product& product, double level, const Material& material) {
  Product filled = product;
  for (Part& part : filled.parts) {
    if (part.material.kind != MaterialKind::liquid) continue;
    const double top = top_of(part);
    for (ProfilePoint& p : part.profile)
      if (p.height > top - 1e-6) p.height = level;
    return filled;
  }
  const auto inner = inner_side(product);
  if (inner.empty() || level < inner.front()[1] + 1e-5) return filled;
  const double low = inner.front()[1];
  double across = 0.0;
  for (const auto& p : inner)
    if (p[1] <= level) across = std::max(across, p[0]);
  Part liquid;
  liquid.id = "poured";
  liquid.profile = {{across, low}, {across, level}};
  liquid.material = material;
  filled.parts.push_back(std::move(liquid));
  return filled;
}

Product with_head(Product product, double low, double high, const Material& material) {
  double across = 0.0;
  for (const auto& p : inner_side(product))
    if (p[1] <= high) across = std::max(across, p[0]);
  Part head;
  head.id = "head";
  head.profile = {{across, low}, {across, high}};
  head.material = material;
  head.fills = true;
  product.parts.push_back(std::move(head));
  return product;
}

Product with_cavity(Product product, double radius) {
  for (Part& part : product.parts)
    if (part.material.kind == MaterialKind::liquid && part.turned_on_axis()) {
      part.cavity = radius;
      break;
    }
  return product;
}

namespace {

/// A liquid's closed outline with a half ball open in its top, as wide and as deep as it has room for.
Outline dipped(Outline outline, double radius) {
  if (outline.size() < 3 || !on_axis(outline.back())) return outline;
  const ProfilePoint top = outline.back(), rim = outline[outline.size() - 2];
  const double r = std::min({radius, 0.95 * rim.radius, 0.95 * (top.height - outline.front().height)});
  if (r < 1e-4 || std::abs(rim.height - top.height) > 1e-6) return outline;
  outline.pop_back();
  constexpr int steps = 12;
  for (int k = 0; k <= steps; ++k) {
    const double a = 0.5 * pi * k / steps;
    outline.push_back({k == steps ? 0.0 : r * std::cos(a), top.height - r * std::sin(a)});
  }
  return outline;
}

}  // namespace

std::vector<Mesh> product_meshes(const Product& product, std::vector<Medium>& media, int segments) {
  std::vector<Mesh> meshes;
  for (const Part& part : product.parts) {
    Outline outer = cleaned(part.profile);
    if (outer.size() < 2) continue;
    Mesh mesh;
    mesh.material = part.material;
    mesh.positions.resize(1);
    // Where a mesh has holes, light cannot be followed through an inside.
    const bool closed = !part.mesh || part.mesh->edges.closed();
    const bool clear = part.material.is_clear() && closed;
    if (!closed) mesh.material.scattering = {};
    if (clear) {
      mesh.medium = static_cast<int>(media.size());
      media.push_back({static_cast<float>(part.material.ior), part.material.absorption.as<float>(),
                       part.material.kind == MaterialKind::liquid ? 1 : 2});
    }
    const Part* form = &part;
    if (part.mesh) {
      copied(*part.mesh, mesh);
      meshes.push_back(std::move(mesh));
      continue;
    }
    if (part.material.kind == MaterialKind::liquid || part.fills) {
      if (const auto reach = part.surface ? vessel(product, 0.5) : std::nullopt) {
        add_liquid(mesh, *reach, *part.surface, segments);
        if (!mesh.triangles.empty()) meshes.push_back(std::move(mesh));
        continue;
      }
      outer = poured(outer, product);
      if (part.cavity > 0.0) outer = dipped(std::move(outer), part.cavity);
      // Filled up to the wall, it has the vessel's form and not its own.
      if (const auto holds = std::find_if(product.parts.begin(), product.parts.end(), is_vessel);
          holds != product.parts.end())
        form = &*holds;
    }
    if (part.wall > 0.0) {
      Outline shell = outer;
      const Outline inner = offset(outer, part.wall);
      const bool open_top = !on_axis(outer.back()), open_bottom = !on_axis(outer.front());
      if (open_top) shell.push_back(inner.back());
      if (open_bottom) shell.insert(shell.begin(), inner.front());
      joined(*form, shell, segments, mesh, false);
      joined(*form, inner, segments, mesh, true);
    } else {
      const bool filled = clear || mesh.material.scatters();
      if (filled && !on_axis(outer.back())) outer.push_back(on_axis_at(outer.back()));
      if (filled && !on_axis(outer.front())) outer.insert(outer.begin(), on_axis_at(outer.front()));
      joined(*form, outer, segments, mesh, false);
    }
    meshes.push_back(std::move(mesh));
  }
  if (product.label)
    for (const Part& part : product.parts)
      if (part.id == product.label->part) meshes.push_back(label_mesh(product, part, segments));
  return meshes;
}

}  // namespace cinnabar
