#include "cinnabar/scene/mesh_parts.h"

#include <cmath>
#include <tuple>

namespace cinnabar {
namespace {

std::uint32_t add_corner(Mesh& mesh, const Vec3& at, const Vec3& normal) {
  if (mesh.positions.empty()) mesh.positions.resize(1);
  auto& p = mesh.positions.front();
  p.push_back(at.as<float>());
  mesh.normals.push_back(normal.as<float>());
  mesh.uvs.emplace_back(0.0f, 0.0f);
  return static_cast<std::uint32_t>(p.size() - 1);
}
void add_triangle(Mesh& mesh, std::uint32_t a, std::uint32_t b, std::uint32_t c) {
  mesh.triangles.insert(mesh.triangles.end(), {a, b, c});
}
/// Between two rings of `count` corners, going round by the right hand about the way from one to the other.
void join_rings(Mesh& mesh, std::uint32_t from, std::uint32_t to, std::uint32_t count) {
  for (std::uint32_t k = 0; k < count; ++k) {
    const std::uint32_t next = (k + 1) % count;
    add_triangle(mesh, from + k, from + next, to + k);
    add_triangle(mesh, from + next, to + next, to + k);
  }
}

}  // namespace

void add_quad(Mesh& mesh, const Vec3& a, const Vec3& b, const Vec3& c, const Vec3& d, const Vec3& na,
              const Vec3& nd) {
  const std::uint32_t first = add_corner(mesh, a, na);
  add_corner(mesh, b, na), add_corner(mesh, c, nd), add_corner(mesh, d, nd);
  add_triangle(mesh, first, first + 1, first + 2);
  add_triangle(mesh, first, first + 2, first + 3);
}

void add_box(Mesh& mesh, const Vec3& middle, const Vec3& half, const Vec3& right, const Vec3& up) {
  const Vec3 x = right * half.x, y = up * half.y, z = cross(right, up) * half.z;
  const auto side = [&](const Vec3& out, const Vec3& u, const Vec3& v) {  // u to v goes round `out`
    const Vec3 n = unit(out), m = middle + out;
    add_quad(mesh, m - u - v, m + u - v, m + u + v, m - u + v, n, n);
  };
  side(y, z, x), side(-y, x, z);
  side(z, x, y), side(-z, y, x);
  side(x, y, z), side(-x, z, y);
}

void add_ridge(Mesh& mesh, const Vec3& foot, const Vec3& half, const Vec3& right) {
  constexpr std::uint32_t steps = 16;
  const Vec3 over = cross(right, {0, 1, 0});
  const auto on_arc = [&](std::uint32_t k) {  // from `over` across the top
    const double a = pi * k / steps;
    return over * (half.z * std::cos(a)) + Vec3{0, 2 * half.y * std::sin(a), 0};
  };
  const auto out = [&](std::uint32_t k) {
    const double a = pi * k / steps;
    return unit(over * (2 * half.y * std::cos(a)) + Vec3{0, half.z * std::sin(a), 0});
  };
  const Vec3 along = right * half.x, near = foot - along, far = foot + along;
  for (std::uint32_t k = 0; k < steps; ++k) {
    const Vec3 a = on_arc(k), b = on_arc(k + 1), na = out(k), nb = out(k + 1);
    add_quad(mesh, near + a, far + a, far + b, near + b, na, nb);
    for (const auto& [middle, from, to, facing] : {std::tuple{near, a, b, -right}, {far, b, a, right}}) {
      const std::uint32_t first = add_corner(mesh, middle, facing);
      add_corner(mesh, middle + from, facing), add_corner(mesh, middle + to, facing);
      add_triangle(mesh, first, first + 1, first + 2);
    }
  }
}

void add_ball(Mesh& mesh, const Vec3& middle, double radius, int rows) {
  const double out = radius * (1.0 + 0.6 * pi * pi / (4.0 * rows * rows));
  const auto round = static_cast<std::uint32_t>(2 * rows);
  const auto corner = [&](double down, double about) {
    const Vec3 n{std::sin(down) * std::cos(about), std::cos(down), std::sin(down) * std::sin(about)};
    return add_corner(mesh, middle + n * out, n);
  };
  std::uint32_t before = 0;
  for (int i = 0; i <= rows; ++i) {
    const std::uint32_t ring = corner(pi * i / rows, 0.0);
    for (std::uint32_t j = 1; j < round; ++j) corner(pi * i / rows, pi * j / rows);
    if (i > 0) join_rings(mesh, before, ring, round);
    before = ring;
  }
}

void add_thread(Mesh& mesh, const std::vector<std::pair<Vec3, double>>& spine) {
  constexpr std::uint32_t sides = 20;
  constexpr double step = 2 * pi / sides;
  static const double swell = std::sqrt(step / std::sin(step));
  Vec3 across = unit(cross(spine.back().first - spine.front().first, Vec3{0.6, 0.1, 0.79}));
  if (length(across) < 0.5) across = {1, 0, 0};
  const auto along = [&](std::size_t i) {
    const Vec3 way = spine[std::min(i + 1, spine.size() - 1)].first - spine[i == 0 ? 0 : i - 1].first;
    return length(way) > 1e-12 ? unit(way) : Vec3{0, -1, 0};
  };
  const std::uint32_t top = add_corner(mesh, spine.front().first, -along(0));
  std::uint32_t before = 0;
  for (std::size_t i = 0; i < spine.size(); ++i) {
    const Vec3 way = along(i);
    // Carried along the way, so that a thread that coils is not wrung where it runs along it.
    if (const Vec3 carried = across - way * dot(across, way); length(carried) > 1e-6) across = unit(carried);
    const Vec3 u = across, v = cross(way, u);
    const auto corner = [&](std::uint32_t k) {
      const Vec3 out = u * std::cos(step * k) + v * std::sin(step * k);
      return add_corner(mesh, spine[i].first + out * (spine[i].second * swell), out);
    };
    const std::uint32_t ring = corner(0);
    for (std::uint32_t k = 1; k < sides; ++k) corner(k);
    if (i > 0) join_rings(mesh, before, ring, sides);
    before = ring;
  }
  const std::uint32_t end = add_corner(mesh, spine.back().first, along(spine.size() - 1));
  for (std::uint32_t k = 0; k < sides; ++k) {
    add_triangle(mesh, top, top + 1 + (k + 1) % sides, top + 1 + k);
    add_triangle(mesh, end, before + k, before + (k + 1) % sides);
  }
}

void add_turned(Mesh& mesh, const Vec3& foot, const std::vector<std::pair<double, double>>& outline) {
  constexpr std::uint32_t sides = 40;
  constexpr double step = 2 * pi / sides;
  const std::size_t n = outline.size();
  if (n < 3) return;
  std::uint32_t before = 0;
  for (std::size_t i = 0; i <= n; ++i) {  // round and back to the first
    const double r = outline[i % n].first, y = outline[i % n].second;
    const auto [r0, y0] = outline[(i + n - 1) % n];
    const auto [r1, y1] = outline[(i + 1) % n];
    const double across = std::hypot(r1 - r0, y1 - y0), out = across > 0.0 ? (y1 - y0) / across : 1.0,
                 up = across > 0.0 ? -(r1 - r0) / across : 0.0;
    const auto corner = [&](std::uint32_t k) {
      const Vec3 side{std::sin(step * k), 0.0, std::cos(step * k)};
      return add_corner(mesh, foot + side * r + Vec3{0, y, 0}, side * out + Vec3{0, up, 0});
    };
    const std::uint32_t ring = corner(0);
    for (std::uint32_t k = 1; k < sides; ++k) corner(k);
    if (i > 0) join_rings(mesh, before, ring, sides);
    before = ring;
  }
}

}  // namespace cinnabar
