// Which light to ask where only one is asked: by what each would give at a place, were nothing in its way.
#pragma once
#include <array>
#include <vector>

#include "cinnabar/render/choice.h"
#include "cinnabar/render/light_sampling.h"

namespace cinnabar {

class LightChoice {
 public:
  LightChoice() = default;
  /// `power`: relative flux of each light; one of 0 is never picked.
  LightChoice(const std::vector<LightSampler>& lights, const std::vector<double>& power);
  [[nodiscard]] bool any() const { return anywhere_.any(); }
  [[nodiscard]] const Choice& anywhere() const { return anywhere_; }

  struct Picked {
    std::size_t light;
    float chance;  ///< above 0
  };
  /// By a number in 0..1; only where there is any. `n` is the side that light is wanted from, zero for every side.
  [[nodiscard]] Picked pick(const Vec3f& at, const Vec3f& n, float number) const;
  /// With what chance `pick` gives that light.
  [[nodiscard]] float chance(const Vec3f& at, const Vec3f& n, std::size_t light) const;

 private:
  static constexpr std::size_t most = 128;  // beyond, power alone decides
  static constexpr std::size_t at_once =
      4;                                   // are weighed side by side, so that compilers can; `most` is a multiple
  static constexpr float by_power = 0.1f;  // share of picks by power, whatever stands where: shapes and grids are
                                           // known roughly only
  struct Group {
    using Four = std::array<float, at_once>;
    Four x{}, y{}, z{}, ahead_x{}, ahead_y{}, ahead_z{}, round{}, size{}, power{};
  };
  using Weights = std::array<float, most>;
  /// What each would give, with their sum; 0 where power alone decides.
  float weigh(const Vec3f& at, const Vec3f& n, Weights& weights) const;
  [[nodiscard]] float chance_of(const Weights& weights, float sum, std::size_t light) const;

  Choice anywhere_;
  std::vector<Group> groups_;
};

}  // namespace cinnabar
