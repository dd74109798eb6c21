// Moves: smear, turntables, profiles of speed, and keyed tracks. SI; rates in frames per second.
#pragma once
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "cinnabar/base/keys.h"

namespace cinnabar {

/// Image motion during one exposure, in recorded pixels.
struct SmearInputs {
  double speed, magnification, time, pixel_pitch;
  static Keys<SmearInputs> keys();
};
struct Smear {
  double px;
  static Results<Smear> results();
};
[[nodiscard]] Expected<Smear> smear(const SmearInputs&);

/// What a turntable does to a point at `radius`; the turn on screen needs `timeline_rate`.
struct TurntableInputs {
  double rpm, radius, capture_rate, time, magnification, pixel_pitch;
  std::optional<double> timeline_rate;
  static Keys<TurntableInputs> keys();
};
struct Turntable {
  double edge_speed, degrees_per_frame, smear_px, turn_time;
  std::optional<double> turn_screen_time;
  static Results<Turntable> results();
};
[[nodiscard]] Expected<Turntable> turntable(const TurntableInputs&);

/// Peak speed and acceleration of a move from rest to rest; a linear one has no finite acceleration.
/// minimum-jerk after Flash & Hogan 1985, J. Neurosci. 5:1688.
struct ProfileInputs {
  double travel, time;
  std::string shape;
  static Keys<ProfileInputs> keys();
};
struct Profile {
  double peak_speed;
  std::optional<double> peak_acceleration;
  static Results<Profile> results();
};
[[nodiscard]] Expected<Profile> profile(const ProfileInputs&);

/// Turns of a bolt from whose radius a string is pulled off.
struct UnwindInputs {
  double pull, bolt_radius;
  static Keys<UnwindInputs> keys();
};
struct Unwind {
  double turns;
  static Results<Unwind> results();
};
[[nodiscard]] Expected<Unwind> unwind(const UnwindInputs&);

enum class Shape { linear, trapezoid, minimum_jerk };
/// "linear", "trapezoid-1-3", "minimum-jerk", or nothing.
[[nodiscard]] std::optional<Shape> shape_named(std::string_view name);
/// Share of the way at share `u` of the time, both 0 to 1.
[[nodiscard]] double eased(Shape shape, double u);

/// A value over set time: a profile applies between each pair of keys, keys hold outside their span.
struct KeyedTrack {
  std::string target;
  Shape shape = Shape::linear;
  std::vector<std::pair<double, double>> keys;  ///< set seconds, value; rising in time
  [[nodiscard]] double at(double set_time, double without_keys = 0.0) const;
};

}  // namespace cinnabar
