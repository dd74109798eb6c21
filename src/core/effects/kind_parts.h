// What several kinds of effects are made of.
#pragma once
#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "cinnabar/effects/drawn.h"
#include "cinnabar/effects/flown.h"
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
[[nodiscard]] double lies_under(const EffectAsked& ask, double x, double z);
/// A size by Gamma of order 4 and mean 1, as sheets and ligaments tear (Villermaux et al. 2004, value from
/// memory).
[[nodiscard]] double torn_size(Drawn& drawn);
/// Diameters of so many drops that a volume tears into.
[[nodiscard]] std::vector<double> torn_drops(Drawn& drawn, std::size_t count, double volume);
/// A drop of that radius on its way, there from the moment that it leaves.
[[nodiscard]] EffectBody drop_on_its_way(double radius, double leaves, std::shared_ptr<const Flown> way);

}  // namespace cinnabar
