#include "cinnabar/motion/camera_moves.h"

#include <fmt/format.h>

#include <cmath>

#include "cinnabar/base/vec.h"

namespace cinnabar {

Keys<RollingShutterInputs> RollingShutterInputs::keys() {
  static const Key<RollingShutterInputs> list[]{
      {"image_speed", "px/s", non_negative, &RollingShutterInputs::image_speed},
      {"readout", "s, whole frame", non_negative, &RollingShutterInputs::readout},
      {"share", "of the frame's height", positive_share, &RollingShutterInputs::share},
      {"vibration_px", "px, amplitude", non_negative, &RollingShutterInputs::vibration_px},
      {"vibration_hz", "Hz", non_negative, &RollingShutterInputs::vibration_hz},
      {"mains_hz", "Hz", positive, &RollingShutterInputs::mains_hz}};
  return list;
}
Results<RollingShutter> RollingShutter::results() {
  static const ResultKey<RollingShutter> list[]{
      {"skew_px", "px", &RollingShutter::skew_px},
      {"wobble_px", "px, greatest between two rows", &RollingShutter::wobble_px},
      {"bands", "", &RollingShutter::bands}};
  return list;
}
Expected<RollingShutter> rolling_shutter(const RollingShutterInputs& in) {
  CINNABAR_TRY(check(in));
  const double time = in.readout * in.share, periods = in.vibration_hz * time;
  const double wobble = 2.0 * in.vibration_px * (periods >= 0.5 ? 1.0 : std::sin(pi * periods));
  return RollingShutter{in.image_speed * time, wobble, 2.0 * in.mains_hz * time};
}

Keys<ParallaxInputs> ParallaxInputs::keys() {
  static const Key<ParallaxInputs> list[]{
      {"speed", "m/s, right +", any_number, &ParallaxInputs::speed},
      {"pan_rate_deg", "deg/s, right +", any_number, &ParallaxInputs::pan_rate_deg},
      {"distance", "m", positive, &ParallaxInputs::distance},
      {"focal", "m", positive, &ParallaxInputs::focal},
      {"focus", "m", positive, &ParallaxInputs::focus},
      {"sensor_width", "m", positive, &ParallaxInputs::sensor_width}};
  return list;
}
Results<Parallax> Parallax::results() {
  static const ResultKey<Parallax> list[]{{"image_speed", "m/s on the sensor", &Parallax::image_speed},
                                          {"seconds_per_width", "s", &Parallax::seconds_per_width}};
  return list;
}
Expected<Parallax> parallax(const ParallaxInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.focus <= in.focal) return out_of_range("focus", fmt::format("> focal ({:g})", in.focal));
  const double image_distance = in.focal * in.focus / (in.focus - in.focal);
  Parallax out{image_distance * (in.speed / in.distance + radians(in.pan_rate_deg)), {}};
  if (out.image_speed != 0.0) out.seconds_per_width = in.sensor_width / std::abs(out.image_speed);
  return out;
}

Keys<ShakeInputs> ShakeInputs::keys() {
  static const Key<ShakeInputs> list[]{{"rms_deg", "deg", non_negative, &ShakeInputs::rms_deg},
                                       {"corner_hz", "Hz", positive, &ShakeInputs::corner_hz},
                                       {"time", "s, between two moments", non_negative, &ShakeInputs::time},
                                       {"image_distance", "m", positive, &ShakeInputs::image_distance},
                                       {"pixel_pitch", "m", positive, &ShakeInputs::pixel_pitch}};
  return list;
}
Results<Shake> Shake::results() {
  static const ResultKey<Shake> list[]{{"rms_px", "px", &Shake::rms_px}, {"rate_deg", "deg/s", &Shake::rate_deg}};
  return list;
}
Expected<Shake> shake(const ShakeInputs& in) {
  CINNABAR_TRY(check(in));
  const double x = 2.0 * pi * in.corner_hz * in.time;
  // 1 - (1 + x) e^-x, without its cancellation for moments that are close.
  const double apart = x < 1e-3 ? x * x / 2.0 - x * x * x / 3.0 : -std::expm1(-x) - x * std::exp(-x);
  return Shake{radians(in.rms_deg) * std::sqrt(2.0 * apart) * in.image_distance / in.pixel_pitch,
               in.rms_deg * 2.0 * pi * in.corner_hz};
}

Keys<StrobeInputs> StrobeInputs::keys() {
  static const Key<StrobeInputs> list[]{
      {"rpm", "1/min", non_negative, &StrobeInputs::rpm},
      {"spokes", "", {1.0, unbounded, false, false, true}, &StrobeInputs::spokes},
      {"capture_rate", "1/s", positive, &StrobeInputs::capture_rate, Typed::rate},
      {"timeline_rate", "1/s", positive, &StrobeInputs::timeline_rate, Typed::rate}};
  return list;
}
Results<Strobe> Strobe::results() {
  static const ResultKey<Strobe> list[]{{"degrees_per_frame", "deg", &Strobe::degrees_per_frame},
                                        {"apparent_degrees", "deg", &Strobe::apparent_degrees},
                                        {"apparent_rpm", "1/min, set time", &Strobe::apparent_rpm},
                                        {"screen_rpm", "1/min", &Strobe::screen_rpm}};
  return list;
}
Expected<Strobe> strobe(const StrobeInputs& in) {
  CINNABAR_TRY(check(in));
  const double turn = 6.0 * in.rpm / in.capture_rate, gap = 360.0 / in.spokes;
  double apparent = std::remainder(turn, gap);
  if (apparent <= -gap / 2.0) apparent += gap;  // half a gap is told forward
  const double seen = apparent * in.capture_rate / 6.0;
  return Strobe{turn, apparent, seen, seen * in.timeline_rate / in.capture_rate};
}

}  // namespace cinnabar
