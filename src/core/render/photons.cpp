#include "cinnabar/render/photons.h"

#include <algorithm>
#include <bit>
#include <cmath>

#include "cinnabar/render/surface_scattering.h"

namespace cinnabar {

namespace {

constexpr int most_levels = 10;          // radii double from one to the next
constexpr std::uint32_t neighbours = 4;  // photons wanted in a disc
constexpr float of_a_body = 0.1f;        // of a body's breadth, that no disc is wider than

struct Box {
  Vec3f low, high;
  explicit Box(const Vec3f& p) : low(p), high(p) {}
  [[nodiscard]] Vec3f extent() const { return high - low; }
  void take(const Vec3f& p) {
    low = {std::min(low.x, p.x), std::min(low.y, p.y), std::min(low.z, p.z)};
    high = {std::max(high.x, p.x), std::max(high.y, p.y), std::max(high.z, p.z)};
  }
};

Box box_of(const Mesh& mesh) {
  Box box(mesh.positions[0][0]);
  for (const auto& step : mesh.positions)
    for (const Vec3f& p : step) box.take(p);
  return box;
}

}  // namespace

std::vector<float> widest_discs(const StagedWorld& world) {
  std::vector<float> widest;
  for (const Mesh& mesh : world.meshes) {
    if (mesh.positions.empty() || mesh.positions[0].empty()) {
      widest.push_back(0.0f);
      continue;
    }
    const Vec3f e = box_of(mesh).extent();
    const float least = std::min(e.x, std::min(e.y, e.z)), all = e.x + e.y + e.z;
    widest.push_back(of_a_body * (all - least - largest(e)));  // the middle one of the three
  }
  return widest;
}

PhotonMap::PhotonMap(const StagedWorld& world, std::vector<Photon> photons, const Spread& how)
    : photons_(std::move(photons)) {
  if (photons_.empty()) return;
  spread(world, how);
  for (int k = 0; k < most_levels; ++k)
    if (Level level = level_of(std::ldexp(how.least, k) * how.shrink); !level.entries.empty())
      levels_.push_back(std::move(level));
}

/// Each photon's disc: the first of the doubling radii within which enough of its light's lie, by counting cells.
void PhotonMap::spread(const StagedWorld& world, const Spread& how) {
  const std::uint32_t mask = std::bit_ceil(static_cast<std::uint32_t>(2 * photons_.size())) - 1;
  struct Count {
    std::uint32_t key = 0, photons = 0;
  };
  std::vector<Count> counts;
  const auto count_of = [&](std::uint32_t key) -> Count& {  // its own place, or the next that is free
    std::uint32_t at = key & mask;
    while (counts[at].photons > 0 && counts[at].key != key) at = (at + 1) & mask;
    return counts[at];
  };
  for (Photon& p : photons_) p.radius = 0.0f;
  for (int k = 0; k < most_levels; ++k) {
    const float radius = std::ldexp(how.least, k), per_cell = 0.5f / radius;
    const auto key = [&](const Photon& p) {
      return hashed(key_of(cell_of(p.place, per_cell)) + 0x9E3779B9U * p.light + 0x85ebca6bU * p.slot);
    };
    counts.assign(static_cast<std::size_t>(mask) + 1, {});
    for (const Photon& p : photons_) {
      Count& count = count_of(key(p));
      count.key = key(p);
      ++count.photons;
    }
    for (Photon& p : photons_)
      if (p.radius == 0.0f && (count_of(key(p)).photons >= neighbours || k + 1 == most_levels ||
                               2 * radius > how.widest[static_cast<std::size_t>(p.mesh - world.meshes.data())]))
        p.radius = radius * how.shrink;
  }
}

PhotonMap::Level PhotonMap::level_of(float radius) const {
  Level level;
  level.per_cell = 0.5f / radius, level.reach = radius * radius;
  std::vector<Entry> unsorted;
  const Vec3f around{radius, radius, radius};
  for (std::uint32_t i = 0; i < photons_.size(); ++i) {
    const Photon& p = photons_[i];
    if (p.radius != radius) continue;
    const Cell low = cell_of(p.place - around, level.per_cell), high = cell_of(p.place + around, level.per_cell);
    for (int x = low.x; x <= high.x; ++x)
      for (int y = low.y; y <= high.y; ++y)
        for (int z = low.z; z <= high.z; ++z) unsorted.push_back({p.place, key_of({x, y, z}), i});
    const Vec3f from = p.place - around, to = p.place + around;
    if (unsorted.size() <= 8 && level.starts.empty()) {
      level.low = from, level.high = to;
      level.starts.resize(1);
    }
    level.low = {std::min(level.low.x, from.x), std::min(level.low.y, from.y), std::min(level.low.z, from.z)};
    level.high = {std::max(level.high.x, to.x), std::max(level.high.y, to.y), std::max(level.high.z, to.z)};
  }
  if (unsorted.empty()) return level;
  level.mask = std::bit_ceil(static_cast<std::uint32_t>(unsorted.size())) - 1;
  level.starts.assign(static_cast<std::size_t>(level.mask) + 2, 0);
  for (const Entry& e : unsorted) ++level.starts[(e.key & level.mask) + 1];
  for (std::size_t k = 1; k < level.starts.size(); ++k) level.starts[k] += level.starts[k - 1];
  std::vector<std::uint32_t> next(level.starts.begin(), level.starts.end() - 1);
  level.entries.resize(unsorted.size());
  for (const Entry& e : unsorted) level.entries[next[e.key & level.mask]++] = e;
  return level;
}

namespace {

/// How much of the light that meets a material is thrown on, about.
float thrown_on(const Mesh& mesh) {
  constexpr float coat = 0.01f, rough_coat = 0.05f;
  if (mesh.light >= 0) return 0.0f;
  if (mesh.medium >= 0) return 1.0f;
  const Scattering s = scattering_of(mesh.material);
  if (!s.gathers() && !s.sharp_coat)
    return std::max({largest(s.specular), largest(s.base), s.coat_ior > 0.0f ? rough_coat : 0.0f});
  return s.sharp_coat ? coat : 0.0f;
}

}  // namespace

PhotonAims::PhotonAims(const StagedWorld& world) {
  constexpr float slim = 2.0f;  // a body longer than so many times its breadth is aimed at in pieces
  constexpr int most_pieces = 8;
  std::vector<std::pair<Box, float>> boxes;
  for (const Mesh& mesh : world.meshes) {
    const float weight = thrown_on(mesh);
    if (weight <= 0.0f || mesh.positions.empty() || mesh.positions[0].empty()) continue;
    const Box box = box_of(mesh);
    // A wall's inner and outer face, and what is filled in, are one aim.
    const auto holds = [&](const std::pair<Box, float>& other) {
      const Box& o = other.first;
      return other.second >= weight && box.low.x >= o.low.x && box.low.y >= o.low.y && box.low.z >= o.low.z &&
             box.high.x <= o.high.x && box.high.y <= o.high.y && box.high.z <= o.high.z;
    };
    if (std::none_of(boxes.begin(), boxes.end(), holds)) boxes.emplace_back(box, weight);
  }
  for (const auto& [box, weight] : boxes) {
    const Vec3f e = box.extent();
    const bool by_x = e.x >= e.y && e.x >= e.z, by_y = !by_x && e.y >= e.z;
    const float longest = by_x ? e.x : by_y ? e.y : e.z;
    const float broad = by_x ? std::max(e.y, e.z) : by_y ? std::max(e.x, e.z) : std::max(e.x, e.y);
    const int pieces = std::clamp(static_cast<int>(longest / std::max(broad * slim, 1e-6f)) + 1, 1, most_pieces);
    for (int i = 0; i < pieces; ++i) {
      Box piece = box;
      const float from = static_cast<float>(i) / static_cast<float>(pieces),
                  to = static_cast<float>(i + 1) / static_cast<float>(pieces);
      if (by_x) piece.low.x = box.low.x + e.x * from, piece.high.x = box.low.x + e.x * to;
      if (by_y) piece.low.y = box.low.y + e.y * from, piece.high.y = box.low.y + e.y * to;
      if (!by_x && !by_y) piece.low.z = box.low.z + e.z * from, piece.high.z = box.low.z + e.z * to;
      balls_.push_back({(piece.low + piece.high) * 0.5f, 0.5f * length(piece.extent()) + 1e-4f, weight});
    }
    if (weight > 0.1f) shown_ += longest * std::max(broad, 1e-3f);
  }
}

float PhotonAims::Ball::cone(const Vec3f& point) const {
  const Vec3f to = centre - point;
  const float d2 = dot(to, to), sin2 = radius * radius / std::max(d2, 1e-12f);
  return sin2 >= 1.0f ? 2.0f : sin2 / (1.0f + std::sqrt(1.0f - sin2));
}

float PhotonAims::pull(const Vec3f& point) const {
  float all = 0.0f;
  for (const Ball& b : balls_) all += b.weight * b.cone(point);
  return 2 * pif * all;
}

PhotonAims::Aim PhotonAims::from(const Vec3f& point, float choice, float u, float v) const {
  const float all = pull(point) / (2 * pif);
  if (all <= 0.0f) return {{}, 0.0f};
  float pick = choice * all;
  const Ball* aimed = &balls_.back();
  for (const Ball& b : balls_) {
    pick -= b.weight * b.cone(point);
    if (pick < 0.0f) {
      aimed = &b;
      break;
    }
  }
  const float wide = aimed->cone(point), c = 1.0f - u * wide, s = std::sqrt(std::max(0.0f, 1.0f - c * c));
  const Vec3f to = aimed->centre - point;
  const float d = length(to);
  const Vec3f axis = d > 0.0f ? to / d : Vec3f{0, 1, 0};
  Vec3f x, y;
  frame_about(axis, x, y);
  const float a = 2 * pif * v;
  const Vec3f direction = axis * c + x * (s * std::cos(a)) + y * (s * std::sin(a));
  // All the balls that could have sent it this way.
  float density = 0.0f;
  for (const Ball& b : balls_) {
    const Vec3f away = b.centre - point;
    const float along = dot(away, direction);
    if (&b == aimed || b.cone(point) >= 2.0f || along >= length(away) * (1.0f - b.cone(point)))
      density += b.weight;
  }
  return {direction, density / (2 * pif * all)};
}

}  // namespace cinnabar
