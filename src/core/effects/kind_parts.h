// What several kinds of effects are made of.
#pragma once
#include <string>
#include <utility>

#include "cinnabar/effects/kinds.h"

namespace cinnabar {

/// Nine in ten of what scatters by 1 (normal distribution).
inline constexpr double nine_in_ten = 1.6448536;
/// By how much hands scatter, seconds: letting go, cutting, tilting to pour (common practice, no source).
inline constexpr double hand_lets_go = 0.06, hand_cuts = 0.04, hand_tilts = 0.15;

/// A moment that scatters as the hand does that it comes from.
[[nodiscard]] inline EffectEvent by_hand(std::string name, double at, double hand = hand_lets_go) {
  return {std::move(name), at, std::pair{at - nine_in_ten * hand, at + nine_in_ten * hand}};
}

/// What is under a place: the liquid of a vessel, else the ground.
[[nodiscard]] inline double lies_under(const EffectAsked& ask, double x, double z) {
  const EffectVessel* vessel = ask.about.under(x, z);
  return vessel ? vessel->foot.y + vessel->level : ask.about.ground(x, z);
}

}  // namespace cinnabar
