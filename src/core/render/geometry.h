// Embree's view of a staged world: where rays meet it.
#pragma once
#include <cstdint>
#include <memory>

#include "cinnabar/scene/staged.h"

namespace cinnabar {

struct Ray {
  Vec3f origin, direction;
  float near = 0.0f, far = 1e30f, time = 0.0f;
};

/// Where a ray met the world.
struct Hit {
  float distance = -1.0f;  ///< negative: nothing was met
  const Mesh* mesh = nullptr;
  Vec3f place;
  Vec3f geometric, normal;  ///< unit; geometric as the triangle winds, normal smooth
  float u = 0, v = 0;       ///< picture coordinates
  Vec3f own;                ///< where relief or cover lie on the mesh: the place in its own coordinates
  bool covered = false;     ///< the cover lies there
  bool tilted = false;      ///< relief or cover tilt the normal there
};

/// Rays in the order they were traced, for measuring Embree alone on the very same ones.
struct RayRecord {
  Ray ray;
  bool shadow;
};

/// Whether a mesh stands still and all of it lies in one plane, to a hundredth of a millimetre.
[[nodiscard]] bool is_plane(const Mesh& mesh);

/// An acceleration structure over a staged world, which must outlive it. Any number of threads may ask at once.
class Geometry {
 public:
  explicit Geometry(const StagedWorld& world);
  Geometry(const Geometry&) = delete;
  Geometry& operator=(const Geometry&) = delete;
  ~Geometry();

  [[nodiscard]] Hit meet(const Ray& ray) const;
  [[nodiscard]] bool blocked(const Ray& ray) const;
  /// Embree alone on a recorded ray; true when something was met.
  [[nodiscard]] bool raw(const RayRecord& record) const;

  [[nodiscard]] const StagedWorld& world() const { return world_; }

 private:
  const StagedWorld& world_;
  struct Scene;
  std::unique_ptr<Scene> scene_;
};

}  // namespace cinnabar
