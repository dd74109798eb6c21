// Cautions: what of a set-up can hurt someone, in the usual words. They remind; they are never a permission, and
// local codes, makers' instructions and licensed people come first. Common practice, no source, but for the load.
#pragma once
#include <vector>

#include "cinnabar/effects/kinds.h"

namespace cinnabar {

/// What of a shot bears on safety. Watts are all lights' that burn; heights in metres over the surface.
struct HazardInputs {
  double watts = 0, volts = 230, breaker_a = 16;
  double highest_light = 0;
  bool hot_lamp = false;         ///< tungsten or discharge
  bool liquid = false;           ///< something that can spill stands near the lights
  bool glass = false;            ///< glass that can break
  bool turns = false;            ///< a turntable or motor runs
  double flashes_per_s = 0;      ///< light that comes and goes, on set
  std::vector<Peril> effects{};  ///< of what is poured, thrown and let fall
};
/// The cautions that apply, the gravest first; the general one closes the list where there is any other.
[[nodiscard]] std::vector<Caution> cautions(const HazardInputs& hazards);

}  // namespace cinnabar
