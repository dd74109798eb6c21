// Moves: smear, turntables, profiles of speed, and keyed tracks. SI; rates in frames per second.
#pragma once
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "cinnabar/base/keys.h"
#include "cinnabar/base/vec.h"

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

/// How a move goes from rest to rest: `trapezoid_third` ramps over a third of the time at either end, `trapezoid`
/// over a share that is given, `s_curve` has seven phases of a seventh of the time each.
enum class Shape { linear, trapezoid_third, minimum_jerk, s_curve, trapezoid };
/// In the order of Shape: "linear", "trapezoid-1-3", "minimum-jerk", "s-curve", "trapezoid".
[[nodiscard]] const std::vector<std::string>& shape_names();
/// One of the names, or nothing.
[[nodiscard]] std::optional<Shape> shape_named(std::string_view name);
/// Share of the way at share `u` of the time, both 0 to 1; `ramp`, of a trapezoid, over 0 to 0.5 of the time.
[[nodiscard]] double eased(Shape shape, double u, double ramp = 1.0 / 3.0);
/// Greatest speed and acceleration of a move of 1 in time 1; no finite acceleration of a linear one. Trapezoid and
/// s-curve after Biagiotti & Melchiorri 2008, sections 3.2 and 3.4; minimum-jerk after Flash & Hogan 1985.
struct ShapePeaks {
  double speed;
  std::optional<double> acceleration;
};
[[nodiscard]] ShapePeaks shape_peaks(Shape shape, double ramp = 1.0 / 3.0);

/// A value over set time: a profile applies between each pair of keys, keys hold outside their span. Of a place
/// that moves the keys hold how far it has come along its way, and `places` where each of them is.
struct KeyedTrack {
  std::string target;
  Shape shape = Shape::linear;
  std::vector<std::pair<double, double>> keys;  ///< set seconds, value; rising in time
  double ramp = 1.0 / 3.0;                      ///< of Shape::trapezoid
  std::vector<Vec3> places;                     ///< as many as keys, or none

  [[nodiscard]] double at(double set_time, double without_keys = 0.0) const;
  /// Of a track of places, straight from one to the next.
  [[nodiscard]] Vec3 place_at(double set_time, const Vec3& without_keys = {}) const;
  /// Keys of places; the way along them is reckoned here.
  void set_places(std::vector<std::pair<double, Vec3>> at);
  /// The same move with keys at these moments alone, rising: what is between them goes by the profile anew.
  [[nodiscard]] KeyedTrack resampled(const std::vector<double>& times) const;
  /// A key of places at a moment: the nearest within `within` seconds is moved there, else one is put in.
  void put_place(double set_time, const Vec3& place, double within);

 private:
  /// The last key that is not after, and how much of the way from it to the next one.
  [[nodiscard]] std::pair<std::size_t, double> between(double set_time) const;
};

}  // namespace cinnabar
