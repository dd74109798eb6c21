#include "cinnabar/scene/shining_faces.h"

#include <cmath>

#include "cinnabar/scene/mesh_parts.h"

namespace cinnabar {

void add_tube_side(Mesh& mesh, const Vec3& from, const Vec3& to, const Vec3& u, const Vec3& v, double r,
                   int segments) {
  const double step = 2 * pi / segments, swell = std::sqrt(step / std::sin(step));
  for (int s = 0; s < segments; ++s) {
    const Vec3 a = u * std::cos(step * s) + v * std::sin(step * s),
               b = u * std::cos(step * (s + 1)) + v * std::sin(step * (s + 1));
    add_quad(mesh, from + a * (r * swell), to + a * (r * swell), to + b * (r * swell), from + b * (r * swell), a,
             b);
  }
}

void add_disc(Mesh& mesh, const Vec3& centre, const Vec3& u, const Vec3& v, double r, const Vec3& normal,
              int segments) {
  if (mesh.positions.empty()) mesh.positions.resize(1);
  auto& p = mesh.positions.front();
  const double step = 2 * pi / segments, swell = std::sqrt(step / std::sin(step));
  const auto first = static_cast<std::uint32_t>(p.size());
  p.push_back(centre.as<float>());
  for (int s = 0; s < segments; ++s)
    p.push_back((centre + (u * std::cos(step * s) + v * std::sin(step * s)) * (r * swell)).as<float>());
  for (int i = 0; i <= segments; ++i) {
    mesh.normals.push_back(normal.as<float>());
    mesh.uvs.emplace_back(0.0f, 0.0f);
  }
  for (std::uint32_t s = 0; s < static_cast<std::uint32_t>(segments); ++s)
    mesh.triangles.insert(mesh.triangles.end(),
                          {first, first + 1 + s, first + 1 + (s + 1) % static_cast<std::uint32_t>(segments)});
}

void add_dome(Mesh& mesh, const Vec3& c, const Facing& f, double r, int segments) {
  const int rows = segments / 4;
  const double swell = 1.0 + 1.2 / (segments * segments) * pi * pi / 2;
  const auto at = [&](int i, int j) {
    const double a = pi / 2 * i / rows, b = 2 * pi * j / segments;
    return f.ahead * std::cos(a) + f.right * (std::sin(a) * std::cos(b)) + f.up * (std::sin(a) * std::sin(b));
  };
  for (int i = 0; i < rows; ++i)
    for (int j = 0; j < segments; ++j) {
      const Vec3 p = at(i, j), q = at(i + 1, j), s = at(i + 1, j + 1), t = at(i, j + 1);
      add_quad(mesh, c + p * (r * swell), c + q * (r * swell), c + s * (r * swell), c + t * (r * swell),
               unit(p + q), unit(s + t));
    }
}

void add_lamp_ball(Mesh& mesh, const Vec3& c, double r, int segments) {
  const int rows = segments / 2;
  const double swell = 1.0 + 1.2 / (segments * segments) * pi * pi / 2;  // about the sphere's own area
  const auto at = [&](int i, int j) {
    const double a = pi * i / rows, b = 2 * pi * j / segments;
    return Vec3{std::sin(a) * std::cos(b), std::cos(a), std::sin(a) * std::sin(b)};
  };
  for (int i = 0; i < rows; ++i)
    for (int j = 0; j < segments; ++j) {
      const Vec3 p = at(i, j), q = at(i + 1, j), s = at(i + 1, j + 1), t = at(i, j + 1);
      add_quad(mesh, c + p * (r * swell), c + q * (r * swell), c + s * (r * swell), c + t * (r * swell),
               unit(p + q), unit(s + t));
    }
}

}  // namespace cinnabar
