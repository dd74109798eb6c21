// Turntables, rails and their motors. SI.
#pragma once
#include <optional>
#include <vector>

#include "cinnabar/base/keys.h"

namespace cinnabar {

/// A body brought to speed evenly on a turntable: inertia about the axis, torque and acceleration, the greatest
/// acceleration at which it does not slip (an even pressure over its foot; Howe & Cutkosky 1996) and the share of
/// it used. Nothing where it slides off at that speed anyhow. Up to 7 % high; friction is known within 30 %.
struct TurntableStartInputs {
  double mass, radius, foot_radius, offset, friction, rpm, time;
  static Keys<TurntableStartInputs> keys();
};
struct TurntableStart {
  double inertia, torque, acceleration;
  std::optional<double> greatest_acceleration, share;
  static Results<TurntableStart> results();
};
[[nodiscard]] Expected<TurntableStart> turntable_start(const TurntableStartInputs&);

/// The quickest move from rest to rest under limits of speed, acceleration and jerk, in seven phases (Biagiotti &
/// Melchiorri, Trajectory Planning, 2008).
struct SCurveInputs {
  double travel, speed, acceleration, jerk;
  static Keys<SCurveInputs> keys();
};
struct SCurve {
  double time, peak_speed, peak_acceleration, jerk_time, ramp_time, cruise_time;
  static Results<SCurve> results();
};
[[nodiscard]] Expected<SCurve> s_curve(const SCurveInputs&);

/// How finely and how truly a stepped axis stands, and what that is in the picture. `linearity` is the error of a
/// microstep as a share of a full step (0.05: common practice, no source); backlash is 0 where it always comes
/// from one side.
struct AxisStepInputs {
  double steps_per_turn, microsteps, travel_per_turn, linearity, backlash, magnification, pixel_pitch;
  static Keys<AxisStepInputs> keys();
};
struct AxisStep {
  double step, error, px;
  static Results<AxisStep> results();
};
[[nodiscard]] Expected<AxisStep> axis_step(const AxisStepInputs&);

/// Which moment a timeline frame shows: set time by the speed points (one is enough; end speeds are held), and the
/// recorded frame, floor(set_time x rate + 1e-6).
struct PlayFrameInputs {
  std::vector<SpeedPoint> points;
  double capture_rate, timeline_rate, frame;
  static Keys<PlayFrameInputs> keys();
};
struct PlayFrame {
  double set_time, recorded_frame;
  static Results<PlayFrame> results();
};
[[nodiscard]] Expected<PlayFrame> play_frame(const PlayFrameInputs&);

}  // namespace cinnabar
