// The path tracer: light layers, next-event estimation with multiple importance sampling (Veach 1997), clear
// bodies one inside another by priority (Schmidt & Budge 2002, JGT 7:2), thin-lens focus, true motion blur and a
// rolling shutter. Photometric: film sums are luminances per unit luminance of each light.
#pragma once
#include <atomic>
#include <memory>
#include <vector>

#include "cinnabar/render/film.h"
#include "cinnabar/render/geometry.h"
#include "cinnabar/render/light_sampling.h"
#include "cinnabar/render/sampler.h"
#include "cinnabar/render/surface_scattering.h"

namespace cinnabar {

class Tracer {
 public:
  explicit Tracer(std::shared_ptr<const StagedWorld> world);

  [[nodiscard]] const StagedWorld& world() const { return *world_; }
  [[nodiscard]] const Geometry& geometry() const { return *geometry_; }
  [[nodiscard]] Film film(int width, int height) const { return {width, height, world_->lights.size()}; }

  /// Adds one sample to every pixel, on all cores. False when `cancel` was set meanwhile; the film is then of no
  /// use. The same film and pass give the same sums, whatever the cores. `record` (one core only) keeps the rays.
  /// `only`, by pixel, leaves the others as they are.
  bool add_pass(Film& film, const std::atomic<bool>* cancel = nullptr, std::vector<RayRecord>* record = nullptr,
                const std::vector<char>* only = nullptr) const;
  /// What each pixel meets first, as the first pass tells it, without any light.
  void look(Film& film) const;
  /// Rays traced so far, shadow rays included.
  [[nodiscard]] std::uint64_t rays() const { return rays_.load(); }

  struct FollowOptions {
    FirstHit* first = nullptr;      ///< told what the ray meets first
    bool skip_first_light = false;  ///< a light met at once is not counted
    int splits = 0;                 ///< how many clear or coated boundaries are followed both ways
    std::vector<RayRecord>* record = nullptr;
  };
  /// Follows one path and adds what it gathers, times `throughput`, to `layers` (lights, then ambient). Returns
  /// the rays it took.
  std::uint64_t follow(const Ray& ray, const Rgb& throughput, Sampler& sampler, Rgb* layers,
                       const FollowOptions& options) const;

  [[nodiscard]] const std::vector<LightSampler>& lights() const { return lights_; }

  /// A camera pose in single precision.
  struct Lens {
    Vec3f place, right, up, ahead;
    float focus, image, radius;
    bool operator==(const Lens&) const = default;
  };

 private:
  struct Path;
  bool one_way(Path& path, float start, const FollowOptions& options) const;
  void light_directly(Path& path, const Scattering& s, const Hit& hit, const Vec3f& out, const Vec3f& n,
                      float lobe) const;
  [[nodiscard]] bool through_boundary(Path& path, const Hit& hit) const;
  [[nodiscard]] bool off_opaque(Path& path, const Hit& hit) const;
  [[nodiscard]] Scattering scattering_at(const Hit& hit) const;
  [[nodiscard]] FirstHit first_hit(const Hit& hit) const;
  [[nodiscard]] Ray camera_ray(const Film& film, int x, int y, Sampler& sampler) const;

  std::shared_ptr<const StagedWorld> world_;
  std::unique_ptr<Geometry> geometry_;
  std::vector<LightSampler> lights_;
  std::vector<Lens> lenses_;                // over the exposure, evenly
  std::vector<Scattering> surfaces_;        // per mesh, without its picture
  std::vector<float> choice_, cumulative_;  // chance of each light when one is chosen
  bool moves_ = false;                      // something moves through the exposure
  mutable std::atomic<std::uint64_t> rays_{0};
};

/// What a material shows, pictures left out.
[[nodiscard]] Scattering scattering_of(const Material& material);

}  // namespace cinnabar
