// Light that mirrors and clear bodies throw on what scatters, caustics, by photons (Jensen 1996): they leave the
// lights toward whatever mirrors or bends light and are kept where they land after it. Each pass has photons of
// its own and looks around a little less far than the pass before (Knaus & Zwicker 2011, ACM TOG 30:3), so that
// the blur vanishes with the passes while the noise does.
#pragma once
#include <cmath>
#include <cstdint>
#include <vector>

#include "cinnabar/render/geometry.h"
#include "cinnabar/render/sampler.h"

namespace cinnabar {

/// Luminous flux that landed on a surface, for unit luminance of its light, by colour.
struct Photon {
  Vec3f place, direction;  ///< the way it went
  Rgb flux;
  const Mesh* mesh;
  std::uint16_t light;
  std::uint16_t slot;  ///< part of the exposure in which it went
  float radius = 0;    ///< metres around it over which its flux is spread; set by the map
};

/// How wide a photon's disc may be on each mesh, in metres: a tenth of its breadth.
[[nodiscard]] std::vector<float> widest_discs(const StagedWorld& world);

/// Photons to be found by place. Each is spread over a disc as wide as its neighbours of the same light lie apart:
/// a bright line stays narrow, and a faint wide glow has no dots. Any number of threads may ask at once.
class PhotonMap {
 public:
  struct Spread {
    float least;                       ///< metres, of the densest photons' discs
    float shrink;                      ///< what all radii are multiplied by, at most 1
    const std::vector<float>& widest;  ///< by mesh, see `widest_discs`
  };
  PhotonMap() = default;
  PhotonMap(const StagedWorld& world, std::vector<Photon> photons, const Spread& spread);

  [[nodiscard]] bool empty() const { return photons_.empty(); }
  [[nodiscard]] const std::vector<Photon>& photons() const { return photons_; }
  /// Calls `use(photon, squared distance)` for each photon whose disc reaches a place, always in the same order.
  template <class Use>
  void near(const Vec3f& place, Use&& use) const {
    for (const Level& level : levels_) {
      if (!level.holds(place)) continue;
      const std::uint32_t key = key_of(cell_of(place, level.per_cell)), slot = key & level.mask;
      for (std::uint32_t i = level.starts[slot]; i < level.starts[slot + 1]; ++i) {
        const Entry& e = level.entries[i];
        if (e.key != key) continue;  // cells may share a slot
        const Vec3f d = e.place - place;
        if (const float d2 = dot(d, d); d2 < level.reach) use(photons_[e.photon], d2);
      }
    }
  }

 private:
  struct Cell {
    int x, y, z;
  };
  struct Entry {
    Vec3f place;
    std::uint32_t key, photon;
  };
  /// The photons of one radius, entered in every cell that their discs touch.
  struct Level {
    float per_cell = 0.0f, reach = 0.0f;  // reach: the radius squared
    std::uint32_t mask = 0;
    Vec3f low{}, high{};  // a box around all that is found
    std::vector<std::uint32_t> starts;
    std::vector<Entry> entries;
    [[nodiscard]] bool holds(const Vec3f& p) const {
      return p.x >= low.x && p.y >= low.y && p.z >= low.z && p.x <= high.x && p.y <= high.y && p.z <= high.z;
    }
  };
  static Cell cell_of(const Vec3f& p, float per_cell) {
    return {static_cast<int>(std::floor(p.x * per_cell)), static_cast<int>(std::floor(p.y * per_cell)),
            static_cast<int>(std::floor(p.z * per_cell))};
  }
  static std::uint32_t key_of(const Cell& c) {
    return hashed(static_cast<std::uint32_t>(c.x) * 73856093U ^ static_cast<std::uint32_t>(c.y) * 19349663U ^
                  static_cast<std::uint32_t>(c.z) * 83492791U);
  }
  void spread(const StagedWorld& world, const Spread& spread);
  [[nodiscard]] Level level_of(float radius) const;

  std::vector<Photon> photons_;
  std::vector<Level> levels_;
};

/// Where photons are sent: balls about everything that mirrors or bends light.
class PhotonAims {
 public:
  explicit PhotonAims(const StagedWorld& world);

  [[nodiscard]] bool empty() const { return balls_.empty(); }
  /// The area, in square metres, that clear and mirroring bodies show at most; coats left out.
  [[nodiscard]] float shown() const { return shown_; }
  struct Aim {
    Vec3f direction;
    float density;  ///< per steradian; 0: nothing to aim at from there
  };
  /// What a point sends toward everything that throws light on, as a measure for comparing points, in steradians.
  [[nodiscard]] float pull(const Vec3f& point) const;
  /// A direction from a point, more often toward what throws more light on.
  [[nodiscard]] Aim from(const Vec3f& point, float choice, float u, float v) const;

 private:
  struct Ball {
    Vec3f centre;
    float radius, weight;
    /// One minus the cosine of the cone that it fills, seen from a point; 2 all round it.
    [[nodiscard]] float cone(const Vec3f& point) const;
  };
  std::vector<Ball> balls_;
  float shown_ = 0.0f;
};

}  // namespace cinnabar
