// Areas of discs that lines and other discs cut.
#pragma once
#include <algorithm>
#include <cmath>

#include "cinnabar/base/vec.h"

namespace cinnabar {

/// Of a disc, what lies beyond a line `off` its middle; all of it where that is -radius or less.
[[nodiscard]] inline double disc_beyond(double radius, double off) {
  if (off <= -radius) return pi * radius * radius;
  if (off >= radius) return 0.0;
  return radius * radius * std::acos(off / radius) - off * std::sqrt(radius * radius - off * off);
}

/// What two discs share whose middles are `apart`.
[[nodiscard]] inline double disc_overlap(double a, double b, double apart) {
  if (apart >= a + b) return 0.0;
  const double small = std::min(a, b);
  if (apart <= std::abs(a - b)) return pi * small * small;
  const double to_a = (apart * apart + a * a - b * b) / (2.0 * apart);
  return disc_beyond(a, to_a) + disc_beyond(b, apart - to_a);
}

}  // namespace cinnabar
