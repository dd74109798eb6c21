// What light does in a shot, measured once per arrangement and mixed anew for every dimmer, white and exposure.
#pragma once
#include <atomic>
#include <list>
#include <memory>
#include <mutex>

#include "cinnabar/forecast/measures/straight_kept.h"
#include "cinnabar/render/meter.h"

namespace cinnabar {

/// What of a measure a level reads: more passes go only there.
enum Reads : unsigned {
  reads_nothing = 0,
  reads_faces = 1,    ///< the meter's patches
  reads_product = 2,  ///< its pixels
  reads_ground = 4,   ///< those of the backdrop, or of the surface where no backdrop is seen
  reads_brightest = 8,
  reads_cast = 32,          ///< straight light on the backdrop with and without the products
  reads_picture = 16,       ///< all of it
  reads_ends = 64,          ///< of the patches the first and the last
  reads_highest_face = 128  ///< of the patches the one that gets most light
};

/// How closely light is measured. The same quality gives the same numbers, always.
struct MeasureQuality {
  int width, passes, paths, glances;
  int most_passes = 128;                         ///< to which they are doubled where a level is to be sure
  unsigned reads = reads_picture | reads_faces;  ///< what passes beyond a full measure's go to
  std::vector<double> only_at{};  ///< set times of the moments looked at, ascending, where the worst are known
};
inline constexpr MeasureQuality quick_measure{64, 2, 32, 6};
inline constexpr MeasureQuality search_measure{72, 3, 64, 8};  ///< what levers are looked for with
inline constexpr MeasureQuality full_measure{160, 8, 2048, 24};
inline constexpr int error_batches = 8;  ///< of a full measure's passes and paths, for its standard errors

/// A place on the backdrop that the camera sees: lux for each cd/m2 of every light's face that reaches it
/// straight, as things stand and with the products taken away.
struct CastPoint {
  std::size_t pixel;  ///< of the film
  std::vector<double> with, without;
};

/// A small picture and a set of patches of one arrangement.
struct LightMeasure {
  std::shared_ptr<const StagedWorld> world;
  Film film;
  /// Camera-facing patches: normals from 60 degrees on one side of the direction to the camera to 60 on the other,
  /// in steps of 15; none without a product.
  std::vector<Reading> faces;
  std::vector<CastPoint> cast;    ///< spread over the visible backdrop
  std::optional<CastPoint> foot;  ///< of the product, level, on the surface
  /// The film's sums by independent batches of its passes, where they were asked for.
  std::vector<std::vector<Rgb>> batch_sums;
  /// A patch at the product's front, facing the camera; nothing without a product.
  [[nodiscard]] const Reading* front() const { return faces.empty() ? nullptr : &faces[faces.size() / 2]; }
  [[nodiscard]] std::size_t bytes() const;
};

/// Light at one moment: a measure, and the lights' levels and the camera's exposure then.
struct LightMoment {
  double set_time;
  std::shared_ptr<const LightMeasure> measure;
  LayerWeights weights;   ///< neutral
  LayerWeights balanced;  ///< in the camera's white balance
  StagedCamera camera;

  [[nodiscard]] double lux(const Reading& reading) const;
  /// The same moment without one batch of its passes and paths; nothing where it was measured without batches.
  [[nodiscard]] std::optional<LightMoment> without_batch(std::size_t batch) const;
  /// Share of one light (by index) in a reading.
  [[nodiscard]] double lux_of(const Reading& reading, std::size_t light) const;
};

/// Measures, kept by arrangement as long as they fit into 56 MB, the last used longest; those of a full measure
/// with their batches. More passes go on from the most that are kept, and give what they would give alone. Any
/// thread may ask.
class MeasureCache {
 public:
  /// The light of a shot at a set time. Nothing when `cancel` was set meanwhile.
  [[nodiscard]] std::optional<LightMoment> at(const Project& project, const Shot& shot, double set_time,
                                              const MeasureQuality& quality,
                                              const std::atomic<bool>* cancel = nullptr);
  /// Rays that all measures so far have cost.
  [[nodiscard]] std::uint64_t rays() const { return rays_.load(); }
  /// Bytes that the kept measures take, about.
  [[nodiscard]] std::size_t bytes() const;

 private:
  [[nodiscard]] std::shared_ptr<const LightMeasure> kept(std::uint64_t key);
  void keep(std::uint64_t key, const std::shared_ptr<const LightMeasure>& measure);

  struct Kept {
    std::uint64_t key;
    std::shared_ptr<const LightMeasure> measure;
    std::size_t bytes;
  };
  static constexpr std::size_t most_bytes = std::size_t{56} << 20;
  mutable std::mutex mutex_;
  std::list<Kept> kept_;  // newest first
  std::size_t bytes_ = 0;
  StraightKept straight_;
  std::atomic<std::uint64_t> rays_{0};
};

}  // namespace cinnabar
