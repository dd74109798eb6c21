// Bright cards as aims: where matte things look for light that is thrown at them. A card far from a dark cloth is
// met by chance so seldom that its light would stand there as single bright pixels.
#pragma once
#include <vector>

#include "cinnabar/render/choice.h"
#include "cinnabar/render/light_sampling.h"

namespace cinnabar {

class CardAims {
 public:
  CardAims() = default;
  CardAims(const StagedWorld& world, const std::vector<LightSampler>& lights);

  static constexpr float share = 0.3f;  ///< of directions that go to cards
  [[nodiscard]] bool any() const { return choice_.any(); }
  /// A direction to a point of a card, for three numbers in 0..1; a card's own places look elsewhere.
  [[nodiscard]] Vec3f toward(const Vec3f& from, float which, float u, float v) const;
  /// How densely `toward` gives a direction, per steradian.
  [[nodiscard]] float density(const Vec3f& from, const Vec3f& direction) const;

 private:
  struct Card {
    Vec3f middle, u, v, normal;  ///< half sides; unit
    float area;
  };
  std::vector<Card> cards_;
  Choice choice_;
};

}  // namespace cinnabar
