// How kinds of product are written down: parts from a few points, and what a kind asks for.
#pragma once
#include <map>
#include <string>
#include <utility>
#include <vector>

#include "cinnabar/project/making/product_kinds.h"

namespace cinnabar::kinds {

using Measures = std::map<std::string, double>;
using Points = std::vector<std::pair<double, double>>;  ///< radius, height
/// A section that is no circle: half its width, its height, half its depth, its middle to the right.
struct Cut {
  double half_width, height, half_depth, shift = 0;
};

struct Kind {
  ProductKind kind;
  Json (*make)(const Measures&);
  /// Pairs of measures of which the first must stay under the second.
  std::vector<std::pair<std::string, std::string>> under;
};
/// Kinds that look alike from every side, and those that are wider than deep.
[[nodiscard]] const std::vector<Kind>& round_kinds();
[[nodiscard]] const std::vector<Kind>& sided_kinds();

/// A quarter of a round, from one point to another, bulging outward.
void rounded(Points& points, double r0, double h0, double r1, double h1, int steps = 6);
[[nodiscard]] Json part(const std::string& id, const Points& points, const Json& material, double wall = 0);
/// Of box section with that radius at its upright edges, or of elliptic section where it is negative.
[[nodiscard]] Json sided_part(const std::string& id, const std::vector<Cut>& cuts, const Json& material,
                              double corner, double wall = 0);

[[nodiscard]] const Json& glass();
[[nodiscard]] const Json& tin();
[[nodiscard]] const Json& plastic();
[[nodiscard]] const Json& drink();

}  // namespace cinnabar::kinds
