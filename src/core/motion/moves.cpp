#include "cinnabar/motion/moves.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/base/vec.h"

namespace cinnabar {

Keys<SmearInputs> SmearInputs::keys() {
  static const Key<SmearInputs> list[]{{"speed", "m/s", non_negative, &SmearInputs::speed},
                                       {"magnification", "", positive, &SmearInputs::magnification},
                                       {"time", "s", non_negative, &SmearInputs::time},
                                       {"pixel_pitch", "m", positive, &SmearInputs::pixel_pitch}};
  return list;
}
Results<Smear> Smear::results() {
  static const ResultKey<Smear> list[]{{"px", "px", &Smear::px}};
  return list;
}
Expected<Smear> smear(const SmearInputs& in) {
  CINNABAR_TRY(check(in));
  return Smear{in.speed * in.magnification * in.time / in.pixel_pitch};
}

Keys<TurntableInputs> TurntableInputs::keys() {
  static const Key<TurntableInputs> list[]{
      {"rpm", "1/min", positive, &TurntableInputs::rpm},
      {"radius", "m", non_negative, &TurntableInputs::radius},
      {"capture_rate", "1/s", positive, &TurntableInputs::capture_rate, Typed::rate},
      {"time", "s", non_negative, &TurntableInputs::time},
      {"magnification", "", positive, &TurntableInputs::magnification},
      {"pixel_pitch", "m", positive, &TurntableInputs::pixel_pitch},
      {"timeline_rate", "1/s", positive, &TurntableInputs::timeline_rate, Typed::rate}};
  return list;
}
Results<Turntable> Turntable::results() {
  static const ResultKey<Turntable> list[]{{"edge_speed", "m/s", &Turntable::edge_speed},
                                           {"degrees_per_frame", "deg", &Turntable::degrees_per_frame},
                                           {"smear_px", "px", &Turntable::smear_px},
                                           {"turn_time", "s", &Turntable::turn_time},
                                           {"turn_screen_time", "s", &Turntable::turn_screen_time}};
  return list;
}
Expected<Turntable> turntable(const TurntableInputs& in) {
  CINNABAR_TRY(check(in));
  const double speed = 2.0 * pi * in.radius * in.rpm / 60.0, turn = 60.0 / in.rpm;
  Turntable out{.edge_speed = speed,
                .degrees_per_frame = 6.0 * in.rpm / in.capture_rate,
                .smear_px = speed * in.magnification * in.time / in.pixel_pitch,
                .turn_time = turn,
                .turn_screen_time = {}};
  if (in.timeline_rate) out.turn_screen_time = turn * in.capture_rate / *in.timeline_rate;
  return out;
}

Keys<ProfileInputs> ProfileInputs::keys() {
  static const Key<ProfileInputs> list[]{
      {"travel", "m", non_negative, &ProfileInputs::travel},
      {"time", "s", positive, &ProfileInputs::time},
      {"shape", "trapezoid-1-3, minimum-jerk or linear", any_number, &ProfileInputs::shape}};
  return list;
}
Results<Profile> Profile::results() {
  static const ResultKey<Profile> list[]{{"peak_speed", "m/s", &Profile::peak_speed},
                                         {"peak_acceleration", "m/s2", &Profile::peak_acceleration}};
  return list;
}
Expected<Profile> profile(const ProfileInputs& in) {
  CINNABAR_TRY(check(in));
  const auto shape = shape_named(in.shape);
  if (!shape) return out_of_range("shape", "trapezoid-1-3, minimum-jerk or linear");
  const double v = in.travel / in.time, a = v / in.time;
  switch (*shape) {
    case Shape::trapezoid:
      return Profile{1.5 * v, 4.5 * a};
    case Shape::minimum_jerk:
      return Profile{1.875 * v, 10.0 / std::sqrt(3.0) * a};
    case Shape::linear:
      break;
  }
  return Profile{v, std::nullopt};
}

Keys<UnwindInputs> UnwindInputs::keys() {
  static const Key<UnwindInputs> list[]{{"pull", "m", non_negative, &UnwindInputs::pull},
                                        {"bolt_radius", "m", positive, &UnwindInputs::bolt_radius}};
  return list;
}
Results<Unwind> Unwind::results() {
  static const ResultKey<Unwind> list[]{{"turns", "", &Unwind::turns}};
  return list;
}
Expected<Unwind> unwind(const UnwindInputs& in) {
  CINNABAR_TRY(check(in));
  return Unwind{in.pull / (2.0 * pi * in.bolt_radius)};
}

std::optional<Shape> shape_named(std::string_view name) {
  if (name == "linear") return Shape::linear;
  if (name == "trapezoid-1-3") return Shape::trapezoid;
  if (name == "minimum-jerk") return Shape::minimum_jerk;
  return std::nullopt;
}

double eased(Shape shape, double u) {
  u = std::clamp(u, 0.0, 1.0);
  switch (shape) {
    case Shape::minimum_jerk:
      return u * u * u * (10.0 + u * (-15.0 + 6.0 * u));
    case Shape::trapezoid: {  // a third speeding up, a third even, a third slowing down
      if (u < 1.0 / 3.0) return 2.25 * u * u;
      if (u > 2.0 / 3.0) return 1.0 - 2.25 * (1.0 - u) * (1.0 - u);
      return 0.25 + 1.5 * (u - 1.0 / 3.0);
    }
    case Shape::linear:
      break;
  }
  return u;
}

double KeyedTrack::at(double set_time, double without_keys) const {
  if (keys.empty()) return without_keys;
  if (set_time <= keys.front().first) return keys.front().second;
  for (std::size_t i = 1; i < keys.size(); ++i) {
    const auto& [t0, v0] = keys[i - 1];
    const auto& [t1, v1] = keys[i];
    if (set_time < t1) return v0 + (v1 - v0) * eased(shape, (set_time - t0) / (t1 - t0));
  }
  return keys.back().second;
}

}  // namespace cinnabar
