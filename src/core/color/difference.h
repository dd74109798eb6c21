// Colour difference and CIE L*a*b*.
#pragma once
#include <array>

#include "cinnabar/base/keys.h"
#include "cinnabar/base/vec.h"

namespace cinnabar {

/// CIEDE2000 of two colours given as "L,a,b", L from 0 to 100 (ISO/CIE 11664-6; Sharma, Wu & Dalal 2005).
struct ColourDifferenceInputs {
  std::array<double, 3> lab1, lab2;
  static Keys<ColourDifferenceInputs> keys();
};
struct ColourDifference {
  double de2000;
  static Results<ColourDifference> results();
};
[[nodiscard]] Expected<ColourDifference> colour_difference(const ColourDifferenceInputs&);

}  // namespace cinnabar
