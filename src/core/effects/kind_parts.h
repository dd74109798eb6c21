// What several kinds of effects are made of.
#pragma once
#include <utility>

#include "cinnabar/effects/kinds.h"

namespace cinnabar {

/// Nine in ten of what scatters by `sigma` (normal distribution).
inline constexpr double nine_in_ten = 1.6448536;
[[nodiscard]] inline std::pair<double, double> within_hand(double at, double sigma) {
  return {at - nine_in_ten * sigma, at + nine_in_ten * sigma};
}
/// By how much hands scatter, seconds (common practice, no source).
inline constexpr double hand_lets_go = 0.06, hand_cuts = 0.04;

}  // namespace cinnabar
