#include "cinnabar/project/model/part_mesh.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <cstring>
#include <map>
#include <unordered_map>

namespace cinnabar {
namespace {

/// Corners that lie within a micrometre get one number.
std::vector<std::uint32_t> welded(const std::vector<Vec3f>& corners) {
  struct Hash {
    std::size_t operator()(const std::array<std::int64_t, 3>& k) const {
      std::uint64_t h = 1469598103934665603ull;
      for (const std::int64_t v : k) h = (h ^ static_cast<std::uint64_t>(v)) * 1099511628211ull;
      return static_cast<std::size_t>(h ^ (h >> 29));
    }
  };
  std::unordered_map<std::array<std::int64_t, 3>, std::uint32_t, Hash> known;
  known.reserve(corners.size());
  std::vector<std::uint32_t> out;
  out.reserve(corners.size());
  for (const Vec3f& c : corners) {
    const auto at = [](float v) { return static_cast<std::int64_t>(std::llround(static_cast<double>(v) * 1e6)); };
    out.push_back(
        known.try_emplace({at(c.x), at(c.y), at(c.z)}, static_cast<std::uint32_t>(known.size())).first->second);
  }
  return out;
}

Vec3 face(const std::vector<Vec3f>& c, std::size_t first) {  // twice its area long
  return cross((c[first + 1] - c[first]).as<double>(), (c[first + 2] - c[first]).as<double>());
}

std::vector<Vec3f> smoothed(const std::vector<Vec3f>& corners) {
  const auto ids = welded(corners);
  std::vector<std::vector<std::uint32_t>> around(ids.empty() ? 0 : *std::max_element(ids.begin(), ids.end()) + 1);
  for (std::size_t k = 0; k < ids.size(); ++k) around[ids[k]].push_back(static_cast<std::uint32_t>(k / 3));
  std::vector<Vec3> faces;
  for (std::size_t k = 0; k < corners.size(); k += 3) faces.push_back(face(corners, k));
  std::vector<Vec3f> normals;
  normals.reserve(corners.size());
  for (std::size_t k = 0; k < corners.size(); ++k) {
    const Vec3 own = unit(faces[k / 3]);
    Vec3 sum{};
    const auto& fan = around[ids[k]];
    // A corner that hundreds of triangles share is the tip of a fan: it keeps its own face.
    if (fan.size() <= 256)
      for (const std::uint32_t f : fan)
        if (dot(unit(faces[f]), own) > 0.866) sum += faces[f];
    normals.push_back((length(sum) > 0 ? unit(sum) : own).as<float>());
  }
  return normals;
}

/// Where a triangle is cut by a level: two points, or nothing.
bool cut(const Vec3f* c, double height, std::array<std::pair<double, double>, 2>& ends) {
  int found = 0;
  for (int k = 0; k < 3 && found < 2; ++k) {
    const Vec3 a = c[k].as<double>(), b = c[(k + 1) % 3].as<double>();
    if ((a.y < height) == (b.y < height)) continue;
    const double s = (height - a.y) / (b.y - a.y);
    ends[static_cast<std::size_t>(found++)] = {a.x + (b.x - a.x) * s, a.z + (b.z - a.z) * s};
  }
  return found == 2;
}

/// Marks how far a piece of outline reaches in every bearing that it spans, seen from the section's middle.
void mark(MeshSection& s, std::pair<double, double> a, std::pair<double, double> b) {
  a = {a.first - s.x, a.second - s.z}, b = {b.first - s.x, b.second - s.z};
  constexpr double step = 360.0 / MeshSection::bearings;
  const double from = degrees(std::atan2(a.first, a.second)),
               span = std::remainder(degrees(std::atan2(b.first, b.second)) - from, 360.0);
  const double low = std::min(from, from + span), high = std::max(from, from + span);
  for (int k = static_cast<int>(std::ceil(low / step - 1e-9)); k * step <= high + 1e-9; ++k) {
    const double sx = std::sin(radians(k * step)), sz = std::cos(radians(k * step));
    // Along the ray t (sx, sz) meets the line a + u (b - a).
    const double dx = b.first - a.first, dz = b.second - a.second, det = dx * sz - dz * sx;
    double t = std::max(a.first * sx + a.second * sz, b.first * sx + b.second * sz);
    if (std::abs(det) > 1e-15) t = (dx * a.second - dz * a.first) / det;
    const auto at =
        static_cast<std::size_t>((k % MeshSection::bearings + MeshSection::bearings) % MeshSection::bearings);
    s.reach[at] = std::max(s.reach[at], static_cast<float>(t));
  }
}

std::vector<MeshSection> sections_of(const std::vector<Vec3f>& corners) {
  double low = 1e9, high = -1e9;
  for (const Vec3f& c : corners) {
    low = std::min(low, static_cast<double>(c.y));
    high = std::max(high, static_cast<double>(c.y));
  }
  if (!(high - low > 1e-8)) return {};  // lies flat: there is nothing to cut through
  constexpr int rows = 49;
  std::vector<MeshSection> sections(rows);
  std::vector<std::vector<std::array<std::pair<double, double>, 2>>> pieces(rows);
  const double tall = high - low, inset = std::max(1e-9, tall * 1e-4);
  // The lowest and the highest cut lie just inside, so that a flat foot or lid is met.
  for (int k = 0; k < rows; ++k)
    sections[static_cast<std::size_t>(k)].height =
        std::clamp(low + tall * k / (rows - 1), low + inset, high - inset);
  for (std::size_t first = 0; first < corners.size(); first += 3) {
    const auto [least, most] = std::minmax({corners[first].y, corners[first + 1].y, corners[first + 2].y});
    const double to_row = tall > 0 ? (rows - 1) / tall : 0;
    const int from = std::max(0, static_cast<int>((static_cast<double>(least) - low) * to_row) - 1),
              to = std::min(rows - 1, static_cast<int>((static_cast<double>(most) - low) * to_row) + 1);
    std::array<std::pair<double, double>, 2> ends;
    for (int k = from; k <= to; ++k)
      if (cut(&corners[first], sections[static_cast<std::size_t>(k)].height, ends))
        pieces[static_cast<std::size_t>(k)].push_back(ends);
  }
  std::vector<MeshSection> out;
  for (std::size_t k = 0; k < sections.size(); ++k) {
    MeshSection& s = sections[k];
    if (pieces[k].empty()) continue;
    double left = 1e9, right = -1e9, back = 1e9, front = -1e9;
    for (const auto& piece : pieces[k])
      for (const auto& [x, z] : piece)
        left = std::min(left, x), right = std::max(right, x), back = std::min(back, z), front = std::max(front, z);
    s.x = (left + right) / 2, s.z = (back + front) / 2;
    s.half_width = (right - left) / 2, s.half_depth = (front - back) / 2;
    for (const auto& [a, b] : pieces[k]) mark(s, a, b);
    out.push_back(s);
  }
  if (!out.empty()) out.front().height = low, out.back().height = high;
  return out;
}

}  // namespace

bool has_area(const Vec3f& a, const Vec3f& b, const Vec3f& c) {
  return length(cross((b - a).as<double>(), (c - a).as<double>())) > 1e-14;
}

double MeshSection::reach_at(double bearing_deg) const {
  const double at = std::fmod(std::fmod(bearing_deg, 360.0) + 360.0, 360.0) / 360.0 * bearings;
  const auto k = static_cast<std::size_t>(at) % bearings;
  const double between = at - std::floor(at);
  return static_cast<double>(reach[k]) * (1 - between) + static_cast<double>(reach[(k + 1) % bearings]) * between;
}

EdgeCount count_edges(const std::vector<Vec3f>& corners) {
  const auto ids = welded(corners);
  struct Edge {
    std::uint32_t low, high;
    bool forward;
  };
  std::vector<Edge> edges;
  edges.reserve(ids.size());
  for (std::size_t k = 0; k < ids.size(); ++k) {
    const std::uint32_t a = ids[k], b = ids[k - k % 3 + (k + 1) % 3];
    if (a != b) edges.push_back({std::min(a, b), std::max(a, b), a < b});
  }
  std::sort(edges.begin(), edges.end(),
            [](const Edge& a, const Edge& b) { return std::pair(a.low, a.high) < std::pair(b.low, b.high); });
  EdgeCount count;
  for (std::size_t k = 0; k < edges.size();) {
    std::size_t end = k, forward = 0;
    while (end < edges.size() && edges[end].low == edges[k].low && edges[end].high == edges[k].high)
      forward += edges[end++].forward ? 1u : 0u;
    if (end - k == 1) ++count.open;
    if (end - k > 2) ++count.crowded;
    if (end - k == 2 && forward != 1) ++count.turned;
    k = end;
  }
  return count;
}

double enclosed_volume(const std::vector<Vec3f>& corners) {
  double six = 0;
  for (std::size_t k = 0; k + 2 < corners.size(); k += 3)
    six += dot(corners[k].as<double>(), cross(corners[k + 1].as<double>(), corners[k + 2].as<double>()));
  return six / 6;
}

PartMesh part_mesh(std::vector<Vec3f> corners) {
  PartMesh mesh;
  for (std::size_t k = 0; k + 2 < corners.size(); k += 3)
    if (has_area(corners[k], corners[k + 1], corners[k + 2]))
      mesh.corners.insert(mesh.corners.end(), &corners[k], &corners[k] + 3);
  mesh.normals = smoothed(mesh.corners);
  mesh.edges = count_edges(mesh.corners);
  mesh.sections = sections_of(mesh.corners);
  return mesh;
}

std::vector<unsigned char> stl_of(const std::vector<Vec3f>& corners) {
  static constexpr char heading[] = "Cinnabar part, metres, Y up";
  const auto count = static_cast<std::uint32_t>(corners.size() / 3);
  std::vector<unsigned char> bytes(84 + std::size_t{count} * 50, 0);
  std::memcpy(bytes.data(), heading, sizeof heading - 1);
  std::memcpy(&bytes[80], &count, 4);
  for (std::size_t k = 0; k < count; ++k) {
    const std::array<Vec3f, 4> row{unit(face(corners, 3 * k)).as<float>(), corners[3 * k], corners[3 * k + 1],
                                   corners[3 * k + 2]};
    std::memcpy(&bytes[84 + k * 50], row.data(), sizeof row);
  }
  return bytes;
}

Expected<std::vector<Vec3f>> corners_of_stl(const std::vector<unsigned char>& bytes) {
  const auto broken = [](const std::string& what) {
    return fail("mesh", what, "read the product's mesh again, or leave the part out");
  };
  std::uint32_t count = 0;
  if (bytes.size() < 84) return broken("is cut short");
  std::memcpy(&count, &bytes[80], 4);
  if (count > most_triangles) return broken(fmt::format("has {} triangles, over {}", count, most_triangles));
  if (bytes.size() != 84 + std::size_t{count} * 50)
    return broken(fmt::format("says {} triangles and has {} bytes", count, bytes.size()));
  if (count == 0) return broken("is empty");
  std::vector<Vec3f> corners;
  corners.reserve(std::size_t{count} * 3);
  for (std::size_t k = 0; k < count; ++k) {
    float v[9];
    std::memcpy(v, &bytes[84 + k * 50 + 12], sizeof v);
    for (const float x : v)
      if (!std::isfinite(x) || std::abs(x) > 1000.0f)
        return broken(fmt::format("has no place in triangle {}", k + 1));
    for (int c = 0; c < 3; ++c) corners.push_back({v[3 * c], v[3 * c + 1], v[3 * c + 2]});
  }
  return corners;
}

}  // namespace cinnabar
