// What people do for an effect: before it, cue by cue with its seconds, and after it.
#pragma once
#include <string>
#include <vector>

#include "cinnabar/effects/kinds.h"
#include "cinnabar/project/model/entities.h"

namespace cinnabar {

struct EffectCue {
  double at;         ///< set second
  int helper;        ///< from 1; 0: whoever runs the camera
  std::string what;  ///< in words
};
struct EffectSteps {
  std::vector<std::string> before;  ///< while there is time
  std::vector<EffectCue> cues;      ///< in time
  std::vector<std::string> after;   ///< cleaned up before the next take
};
/// Common practice, no source: the camera runs two seconds before anything is let go; releases are shared out
/// among the helpers in turn.
[[nodiscard]] EffectSteps steps_of(const Effect& effect, const EffectOutcome& outcome);

}  // namespace cinnabar
