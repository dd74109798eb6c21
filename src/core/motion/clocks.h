// The three clocks of a shot: set time on the floor, recorded frames, screen time in the film. Seconds; rates in
// frames per second.
#pragma once
#include <optional>
#include <vector>

#include "cinnabar/base/keys.h"

namespace cinnabar {

/// Even slow motion: all captured frames are shown at the timeline's rate.
struct SlowMotionInputs {
  double capture_rate, timeline_rate, screen_time;
  static Keys<SlowMotionInputs> keys();
};
struct SlowMotion {
  double factor, set_time, frames;
  static Results<SlowMotion> results();
};
[[nodiscard]] Expected<SlowMotion> slow_motion(const SlowMotionInputs&);

/// A speed ramp, linear between at least two points of strictly rising set time; under one sample per frame the
/// screen would need invented frames.
struct RampInputs {
  std::vector<SpeedPoint> points;
  double capture_rate, timeline_rate;
  static Keys<RampInputs> keys();
};
struct Ramp {
  double set_time, screen_time, least_samples_per_frame;
  static Results<Ramp> results();
};
[[nodiscard]] Expected<Ramp> ramp(const RampInputs&);

/// Stop motion: turn a step, take a picture; each picture is held for whole timeline frames.
struct StopMotionInputs {
  double screen_time, timeline_rate, hold_frames, turn_deg, seconds_per_picture;
  static Keys<StopMotionInputs> keys();
};
struct StopMotion {
  double pictures, step_deg, set_time;
  static Results<StopMotion> results();
};
[[nodiscard]] Expected<StopMotion> stop_motion(const StopMotionInputs&);

/// How fast the picture crosses the frame, against 7 s per width at 24 per second (American Cinematographer
/// Manual, value from memory), inversely with the rate.
struct JudderInputs {
  double travel_frame_widths, time, timeline_rate;
  static Keys<JudderInputs> keys();
};
struct Judder {
  double seconds_per_width, least_seconds_per_width;
  static Results<Judder> results();
};
[[nodiscard]] Expected<Judder> judder(const JudderInputs&);

/// Set time against screen time of one shot: linear speed between points, the end speeds held outside.
/// An empty list is real time. Both directions are exact inverses (to rounding).
/// Rates that differ by a thousandth (24 and 24000/1001) are the same, conformed (SMPTE ST 12-1): whether `rate`
/// reaches `wanted`.
[[nodiscard]] constexpr bool reaches_rate(double rate, double wanted) { return rate >= wanted * (1 - 0.0011); }

/// What recorded at one rate becomes in a timeline of another, as whole numbers without a common divisor: `shown`
/// seconds of the film for `taken` of the set. 120 in 24 is 5 to 1, 50 in 24 is 25 to 12, 25 in 50 1 to 2.
/// `conformed`: one of both is a thousandth slower than its name (24000/1001 for 24), and what was recorded is
/// played at the other's pace, so that frames meet frames (SMPTE ST 12-1).
struct Slowing {
  long long shown, taken;
  bool conformed;
};
/// Rates above 0; a rate that is neither whole nor over 1001 is taken to a ten-thousandth.
[[nodiscard]] Slowing exact_slowing(double capture_rate, double timeline_rate);

class PlayClock {
 public:
  PlayClock() = default;
  /// `points` by rising set time with positive speeds (validated documents have no others; these are skipped).
  explicit PlayClock(const std::vector<SpeedPoint>& points);

  /// The same film played backward: what is recorded last shows first, and all of `whole` seconds on screen are
  /// used.
  [[nodiscard]] PlayClock backward(double whole) const;
  [[nodiscard]] bool is_backward() const { return whole_.has_value(); }

  [[nodiscard]] double screen_at(double set_time) const;
  [[nodiscard]] double set_at(double screen_time) const;
  [[nodiscard]] double speed_at(double set_time) const;
  /// Greatest and least speed between two set times.
  [[nodiscard]] std::pair<double, double> speed_span(double from, double to) const;
  [[nodiscard]] const std::vector<SpeedPoint>& points() const { return points_; }

 private:
  [[nodiscard]] double screen_forward(double set_time) const;
  [[nodiscard]] double set_forward(double screen_time) const;
  std::vector<SpeedPoint> points_;
  std::vector<double> screen_;   // screen time at each point
  std::optional<double> whole_;  // on screen, where it plays backward
};

/// The clock after one rung was moved: screen time `screen` then shows set time `set`. What comes before is played
/// faster or slower throughout; after it the speed goes back, over `ease` set seconds, to what it was. Nothing
/// where the rung is the first, would leave no time before it, or asks for a speed outside 0.001 to 1000.
[[nodiscard]] std::optional<PlayClock> with_rung(const PlayClock& clock, double screen, double set,
                                                 double ease = 0.1);

/// Recorded frame shown at a screen time: floor(set time x capture_rate + 1e-6); played backward, the last frame
/// first.
[[nodiscard]] long recorded_frame(const PlayClock& clock, double screen, double capture_rate);
/// That of timeline frame `k`, at k / timeline_rate.
[[nodiscard]] long kept_frame(const PlayClock& clock, long k, double capture_rate, double timeline_rate);

}  // namespace cinnabar
