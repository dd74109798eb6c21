// How many more takes: the predictive distribution of further takes under the Jeffreys prior
// (Jeffreys 1961; Johnson, Kemp & Kotz, Univariate Discrete Distributions, 2005).
#pragma once
#include <optional>
#include <vector>

#include "cinnabar/base/keys.h"

namespace cinnabar {

/// Of `tried` takes `kept` were good; `wanted` further keepers are asked for. Counts.
struct TakesLeftInputs {
  double tried, kept, wanted;
  static Keys<TakesLeftInputs> keys();
};
struct TakesLeft {
  std::optional<double> expected;        ///< mean; none while nothing was kept, since it diverges
  std::optional<double> median, ninety;  ///< none past 100,000
  static Results<TakesLeft> results();
};
[[nodiscard]] Expected<TakesLeft> takes_left(const TakesLeftInputs&);

/// P(the last wanted keeper comes at further take n) for n = 1..length.
[[nodiscard]] Expected<std::vector<double>> takes_left_chances(const TakesLeftInputs&, std::size_t length);

}  // namespace cinnabar
