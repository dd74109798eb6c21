// What lights give straight, kept from one arrangement to the next: of twenty lights of which one is carried, the
// other nineteen need not be asked anew.
#pragma once
#include <cstdint>
#include <functional>
#include <mutex>
#include <optional>
#include <unordered_map>
#include <vector>

#include "cinnabar/forecast/measures/world_number.h"
#include "cinnabar/scene/staged.h"

namespace cinnabar {

/// Known by the light, the patch, and every body that comes near the way between them, so that a kept number is
/// what would be measured. Any thread may ask.
class StraightKept {
 public:
  /// One world's bodies and lights.
  class World {
   public:
    World(const StagedWorld& world, const WorldNumbers& numbers);
    /// What a patch looked at by so many glances gets of a light goes by; nothing for what cannot be told alike
    /// (a measured distribution, the sun's beam, anything through clouds).
    [[nodiscard]] std::optional<std::uint64_t> key(std::size_t light, const Vec3& point, const Vec3& normal,
                                                   int glances) const;

   private:
    struct Ball {
      Vec3 middle;
      double radius;
      std::uint64_t number;
    };
    struct Face {
      Ball ball;
      bool known;
    };
    std::vector<Ball> bodies_;
    std::vector<Face> faces_;
  };
  /// The kept number, or else the one that is measured now.
  [[nodiscard]] double of(const std::optional<std::uint64_t>& key, const std::function<double()>& measured);

 private:
  static constexpr std::size_t most = 100'000;
  std::mutex mutex_;
  std::unordered_map<std::uint64_t, double> kept_;
};

/// Whether a ball comes into the cone from a point to another ball: all ways from the one to any place of the
/// other.
[[nodiscard]] bool in_the_way(const Vec3& from, const Vec3& to, double to_radius, const Vec3& middle,
                              double radius);

}  // namespace cinnabar
