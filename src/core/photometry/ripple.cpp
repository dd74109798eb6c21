#include "cinnabar/photometry/ripple.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/vec.h"

namespace cinnabar {

Keys<PwmFlickerInputs> PwmFlickerInputs::keys() {
  static const Key<PwmFlickerInputs> list[]{{"frequency", "Hz", positive, &PwmFlickerInputs::frequency},
                                            {"duty", "share", positive_share, &PwmFlickerInputs::duty},
                                            {"time", "s", positive, &PwmFlickerInputs::time}};
  return list;
}
Results<PwmFlicker> PwmFlicker::results() {
  static const ResultKey<PwmFlicker> list[]{
      {"cycles", "", &PwmFlicker::cycles},
      {"residual", "greatest deviation from the mean", &PwmFlicker::residual},
      {"peak_to_peak", "of the mean", &PwmFlicker::peak_to_peak}};
  return list;
}
Expected<PwmFlicker> pwm_flicker(const PwmFlickerInputs& in) {
  CINNABAR_TRY(check(in));
  const double cycles = in.frequency * in.time, whole = std::floor(cycles), rest = cycles - whole, q = in.duty;
  const double most = (whole * q + std::min(rest, q)) / (q * cycles);
  const double least = (whole * q + std::max(0.0, rest + q - 1.0)) / (q * cycles);
  return PwmFlicker{cycles, std::max(most - 1.0, 1.0 - least), most - least};
}

Keys<FlickerBeatInputs> FlickerBeatInputs::keys() {
  static const Key<FlickerBeatInputs> list[]{
      {"mains_hz", "Hz", positive, &FlickerBeatInputs::mains_hz},
      {"lamps", "share:depth:phase,...", any_number, &FlickerBeatInputs::lamps},
      {"time", "s", positive, &FlickerBeatInputs::time},
      {"capture_rate", "1/s", positive, &FlickerBeatInputs::capture_rate, Typed::rate},
      {"timeline_rate", "1/s", positive, &FlickerBeatInputs::timeline_rate, Typed::rate}};
  return list;
}
Results<FlickerBeat> FlickerBeat::results() {
  static const ResultKey<FlickerBeat> list[]{
      {"residual", "", &FlickerBeat::residual},
      {"beat_hz", "Hz", &FlickerBeat::beat_hz},
      {"beat_screen_hz", "Hz", &FlickerBeat::beat_screen_hz},
      {"frame_step", "greatest change from frame to frame", &FlickerBeat::frame_step}};
  return list;
}
Expected<FlickerBeat> flicker_beat(const FlickerBeatInputs& in) {
  CINNABAR_TRY(check(in));
  const std::string wanted = "share:depth:phase, shares and depths from 0 to 1, shares of at most 1 together";
  if (in.lamps.empty()) return out_of_range("lamps", wanted);
  double shares = 0.0, real = 0.0, imaginary = 0.0;
  for (const auto& [part, depth, phase] : in.lamps) {
    if (!share.contains(part) || !share.contains(depth) || !std::isfinite(phase))
      return out_of_range("lamps", wanted);
    const double twice = 2.0 * radians(std::remainder(phase, 360.0));
    shares += part, real += part * depth * std::cos(twice), imaginary += part * depth * std::sin(twice);
  }
  if (shares > 1.0 + 1e-9) return out_of_range("lamps", wanted);
  if (in.time * in.capture_rate > 1.0 + 1e-9)
    return out_of_range("time", fmt::format("> 0 and at most one frame ({:g} s)", 1.0 / in.capture_rate));
  const double x = pi * 2.0 * in.mains_hz * in.time;
  const double residual = std::hypot(real, imaginary) * std::abs(std::sin(x) / x);
  const double beat =
      std::abs(2.0 * in.mains_hz - in.capture_rate * std::round(2.0 * in.mains_hz / in.capture_rate));
  return FlickerBeat{residual, beat, beat * in.timeline_rate / in.capture_rate,
                     2.0 * residual * std::abs(std::sin(2.0 * pi * in.mains_hz / in.capture_rate))};
}

}  // namespace cinnabar
