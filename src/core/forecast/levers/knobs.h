// Knobs: the single changes that a practitioner would try for a level, each a row of values a hand would set.
#pragma once
#include <functional>

#include "cinnabar/forecast/forecast.h"

namespace cinnabar {

struct Knob {
  std::vector<double> steps;  ///< ascending
  double current = 0;         ///< where it stands now, whether or not among the steps
  std::function<std::optional<Document>(const Document&, double)> apply;  ///< nothing when it cannot be done
  std::function<std::string(double)> title;
  double minutes = 0;
  std::string gear;
  bool shared = false;  ///< turns the set-up, and so every shot in it
  double least = 0;     ///< a smaller turn than this is none
  bool scan = false;    ///< what is wanted may lie in a narrow place: every step is tried
};

/// What could be tried for a level of a shot, likeliest first. `why` is said when there is nothing.
struct KnobList {
  std::vector<Knob> knobs;
  std::string why;
};
/// Adds what could be turned for one purpose; rows of the level table name them. `list` may grow by nothing.
struct Bench;
using KnobMaker = void (*)(const Bench&, std::vector<Knob>& list);
[[nodiscard]] KnobList knobs_for(const Document& document, const Project& project, std::size_t shot,
                                 const Level& level);

}  // namespace cinnabar
