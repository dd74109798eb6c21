#include "cinnabar/motion/machines.h"

#include <cmath>

#include "cinnabar/base/vec.h"
#include "cinnabar/motion/clocks.h"

namespace cinnabar {

Keys<TurntableStartInputs> TurntableStartInputs::keys() {
  static const Key<TurntableStartInputs> list[]{
      {"mass", "kg", positive, &TurntableStartInputs::mass},
      {"radius", "m, of the body", positive, &TurntableStartInputs::radius},
      {"foot_radius", "m", positive, &TurntableStartInputs::foot_radius},
      {"offset", "m, off the axis", non_negative, &TurntableStartInputs::offset},
      {"friction", "", positive, &TurntableStartInputs::friction},
      {"rpm", "1/min", positive, &TurntableStartInputs::rpm},
      {"time", "s, to speed", positive, &TurntableStartInputs::time}};
  return list;
}
Results<TurntableStart> TurntableStart::results() {
  static const ResultKey<TurntableStart> list[]{
      {"inertia", "kg m2", &TurntableStart::inertia},
      {"torque", "N m", &TurntableStart::torque},
      {"acceleration", "rad/s2", &TurntableStart::acceleration},
      {"greatest_acceleration", "rad/s2", &TurntableStart::greatest_acceleration},
      {"share", "of it", &TurntableStart::share}};
  return list;
}
Expected<TurntableStart> turntable_start(const TurntableStartInputs& in) {
  CINNABAR_TRY(check(in));
  const double inertia = in.mass * (in.radius * in.radius / 2.0 + in.offset * in.offset);
  const double rate = in.rpm * 2.0 * pi / 60.0, acceleration = rate / in.time;
  TurntableStart out{inertia, inertia * acceleration, acceleration, {}, {}};
  const double hold = in.friction * standard_gravity, away = rate * rate * in.offset / hold;
  if (away >= 1.0) return out;
  out.greatest_acceleration = std::sqrt(1.0 - away * away) /
                              std::hypot(in.offset / hold, 0.75 * in.radius * in.radius / (hold * in.foot_radius));
  out.share = acceleration / *out.greatest_acceleration;
  return out;
}

Keys<SCurveInputs> SCurveInputs::keys() {
  static const Key<SCurveInputs> list[]{
      {"travel", "m or deg", positive, &SCurveInputs::travel},
      {"speed", "1/s of it, limit", positive, &SCurveInputs::speed},
      {"acceleration", "1/s2 of it, limit", positive, &SCurveInputs::acceleration},
      {"jerk", "1/s3 of it, limit", positive, &SCurveInputs::jerk}};
  return list;
}
Results<SCurve> SCurve::results() {
  static const ResultKey<SCurve> list[]{{"time", "s", &SCurve::time},
                                        {"peak_speed", "", &SCurve::peak_speed},
                                        {"peak_acceleration", "", &SCurve::peak_acceleration},
                                        {"jerk_time", "s", &SCurve::jerk_time},
                                        {"ramp_time", "s", &SCurve::ramp_time},
                                        {"cruise_time", "s", &SCurve::cruise_time}};
  return list;
}
Expected<SCurve> s_curve(const SCurveInputs& in) {
  CINNABAR_TRY(check(in));
  const double d = in.travel, v = in.speed, a = in.acceleration, j = in.jerk;
  const bool full = v * j >= a * a;
  double jerking = full ? a / j : std::sqrt(v / j), ramp = full ? jerking + v / a : 2.0 * jerking;
  double cruise = d / v - ramp;
  if (cruise < 0.0) {
    cruise = 0.0;
    jerking = a / j;
    ramp = jerking / 2.0 + std::sqrt(jerking * jerking / 4.0 + d / a);
    if (ramp < 2.0 * jerking) jerking = std::cbrt(d / (2.0 * j)), ramp = 2.0 * jerking;
  }
  return SCurve{2.0 * ramp + cruise, j * jerking * (ramp - jerking), j * jerking, jerking, ramp, cruise};
}

Keys<AxisStepInputs> AxisStepInputs::keys() {
  static const Key<AxisStepInputs> list[]{
      {"steps_per_turn", "", {1.0, unbounded, false, false, true}, &AxisStepInputs::steps_per_turn},
      {"microsteps", "", {1.0, unbounded, false, false, true}, &AxisStepInputs::microsteps},
      {"travel_per_turn", "m", positive, &AxisStepInputs::travel_per_turn},
      {"linearity", "share of a full step", non_negative, &AxisStepInputs::linearity},
      {"backlash", "m", non_negative, &AxisStepInputs::backlash},
      {"magnification", "", positive, &AxisStepInputs::magnification},
      {"pixel_pitch", "m", positive, &AxisStepInputs::pixel_pitch}};
  return list;
}
Results<AxisStep> AxisStep::results() {
  static const ResultKey<AxisStep> list[]{
      {"step", "m", &AxisStep::step}, {"error", "m", &AxisStep::error}, {"px", "", &AxisStep::px}};
  return list;
}
Expected<AxisStep> axis_step(const AxisStepInputs& in) {
  CINNABAR_TRY(check(in));
  const double full = in.travel_per_turn / in.steps_per_turn;
  const double error = full / (2.0 * in.microsteps) + in.linearity * full + in.backlash;
  return AxisStep{full / in.microsteps, error, error * in.magnification / in.pixel_pitch};
}

Keys<PlayFrameInputs> PlayFrameInputs::keys() {
  static const Key<PlayFrameInputs> list[]{
      {"points", "t:speed,...", positive, &PlayFrameInputs::points},
      {"capture_rate", "1/s", positive, &PlayFrameInputs::capture_rate, Typed::rate},
      {"timeline_rate", "1/s", positive, &PlayFrameInputs::timeline_rate, Typed::rate},
      {"frame", "", {0.0, unbounded, false, false, true}, &PlayFrameInputs::frame}};
  return list;
}
Results<PlayFrame> PlayFrame::results() {
  static const ResultKey<PlayFrame> list[]{{"set_time", "s", &PlayFrame::set_time},
                                           {"recorded_frame", "", &PlayFrame::recorded_frame}};
  return list;
}
Expected<PlayFrame> play_frame(const PlayFrameInputs& in) {
  CINNABAR_TRY(check(in));
  const std::string wanted = "at least one t:speed pair, t from 0 and strictly rising, speed > 0";
  if (in.points.empty()) return out_of_range("points", wanted);
  for (std::size_t i = 0; i < in.points.size(); ++i) {
    const auto& [t, speed] = in.points[i];
    if (!std::isfinite(t) || t < 0.0 || !positive.contains(speed) || (i > 0 && t <= in.points[i - 1].set_time))
      return out_of_range("points", wanted);
  }
  const double set = PlayClock(in.points).set_at(in.frame / in.timeline_rate);
  return PlayFrame{set, std::floor(set * in.capture_rate + 1e-6)};
}

}  // namespace cinnabar
