// Light that pulses: dimming by switching, lamps on the phases of the mains.
#pragma once
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/base/keys.h"

namespace cinnabar {

/// A lamp dimmed by switching at `frequency`, on for a share `duty`: what an exposure of `time` may gather more or
/// less than its mean, and most less least of the mean, over all moments to begin.
struct PwmFlickerInputs {
  double frequency, duty, time;
  static Keys<PwmFlickerInputs> keys();
};
struct PwmFlicker {
  double cycles, residual, peak_to_peak;
  static Results<PwmFlicker> results();
};
[[nodiscard]] Expected<PwmFlicker> pwm_flicker(const PwmFlickerInputs&);

/// Lamps on one or several phases of the mains: the ripple left by an exposure, its beat with the frames and on
/// screen, and the greatest change from frame to frame. Each lamp is share:depth:phase, the phase in degrees of
/// the mains.
struct FlickerBeatInputs {
  double mains_hz;
  std::vector<std::array<double, 3>> lamps;
  double time, capture_rate, timeline_rate;
  static Keys<FlickerBeatInputs> keys();
};
struct FlickerBeat {
  double residual, beat_hz, beat_screen_hz, frame_step;
  static Results<FlickerBeat> results();
};
[[nodiscard]] Expected<FlickerBeat> flicker_beat(const FlickerBeatInputs&);

}  // namespace cinnabar
