// The meter: illuminance at any point and direction, by light, without a picture.
#pragma once
#include <functional>
#include <vector>

#include "cinnabar/render/tracer.h"

namespace cinnabar {

/// A reading on a patch. Lux; `by_light` in the world's order at the lights' present level.
struct Reading {
  std::vector<double> by_light;
  double ambient = 0.0;               ///< screens included
  std::vector<double> per_luminance;  ///< lux for each cd/m2 of the light's face, so that dimmers need no new rays
  double ambient_per_luminance = 0.0;
  /// What the numbers were made of, so that more paths go on from there.
  struct Followed {
    int paths = 0;
    std::vector<double> straight, bounced;  ///< of the light's faces, seen; by paths, the ambient last
    /// The bounced by each of `MeterOptions::batches` shares of the paths alone: how far they lie apart tells how
    /// sure the whole is. Empty where no batches were asked for.
    std::vector<std::vector<double>> batches;
    double screens = 0.0;
  } followed;
  [[nodiscard]] double total() const {
    double sum = ambient;
    for (const double e : by_light) sum += e;
    return sum;
  }
};

struct MeterOptions {
  int paths = 4096;  ///< for what other things throw back and the ambient; 0 leaves both out
  int glances = 24;  ///< a side: how many points of a face are looked at first
  int batches = 0;   ///< independent shares of the paths told one by one
  /// A reading of the same place in the same world, with as many batches and half, a quarter, ... of the paths, to
  /// go on from: the numbers are those that all paths would give.
  const Reading* begun = nullptr;
  /// Asked for what a light (by index) gives straight, with the way to measure it; left out: measured.
  std::function<double(std::size_t light, const std::function<double()>& measured)> straight{};
};

/// Illuminance on a patch at `point` facing `normal`. What reaches it straight is the closed form of each face
/// (Lambert 1760) times the share of it that is seen; the rest by following paths. Safe from any thread.
[[nodiscard]] Reading illuminance(const Tracer& tracer, const Vec3& point, const Vec3& normal,
                                  const MeterOptions& options = {});

/// What a meter reads that is held at a place, facing along `normal` (of any length; of none: up): a hair clear of
/// the surface that it may lie on.
[[nodiscard]] Reading held_meter(const Tracer& tracer, const Vec3& at, const Vec3& normal);
/// The white of all that was read there; nothing in the dark.
[[nodiscard]] std::optional<double> white_of(const Reading& reading, const StagedWorld& world);

}  // namespace cinnabar
