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
  if (!shape || *shape == Shape::s_curve || *shape == Shape::trapezoid)  // calculations of their own
    return out_of_range("shape", "trapezoid-1-3, minimum-jerk or linear");
  const double v = in.travel / in.time;
  const ShapePeaks peaks = shape_peaks(*shape);
  if (!peaks.acceleration) return Profile{peaks.speed * v, std::nullopt};
  return Profile{peaks.speed * v, *peaks.acceleration * v / in.time};
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

const std::vector<std::string>& shape_names() {
  static const std::vector<std::string> names{"linear", "trapezoid-1-3", "minimum-jerk", "s-curve", "trapezoid"};
  return names;
}

std::optional<Shape> shape_named(std::string_view name) {
  const auto& names = shape_names();
  const auto found = std::find(names.begin(), names.end(), name);
  if (found == names.end()) return std::nullopt;
  return static_cast<Shape>(found - names.begin());
}

namespace {

/// Way covered while jerk, acceleration and speed of the seven phases are added up; u is at most a half.
double s_curve_first_half(double u) {
  constexpr double phase = 1.0 / 7.0, jerk = 343.0 / 8.0;  // covers 1 in time 1
  double way = 0.0, speed = 0.0, acceleration = 0.0;
  for (const double j : {jerk, 0.0, -jerk, 0.0}) {
    const double t = std::min(u, phase);
    if (t <= 0.0) break;
    way += t * (speed + t * (acceleration / 2.0 + t * j / 6.0));
    speed += t * (acceleration + t * j / 2.0);
    acceleration += t * j;
    u -= phase;
  }
  return way;
}

double trapezoid(double u, double ramp) {
  const double speed = 1.0 / (1.0 - ramp);
  if (u < ramp) return speed * u * u / (2.0 * ramp);
  if (u > 1.0 - ramp) return 1.0 - speed * (1.0 - u) * (1.0 - u) / (2.0 * ramp);
  return speed * (u - ramp / 2.0);
}

}  // namespace

double eased(Shape shape, double u, double ramp) {
  u = std::clamp(u, 0.0, 1.0);
  switch (shape) {
    case Shape::minimum_jerk:
      return u * u * u * (10.0 + u * (-15.0 + 6.0 * u));
    case Shape::trapezoid_third:
      return trapezoid(u, 1.0 / 3.0);
    case Shape::trapezoid:
      return trapezoid(u, std::clamp(ramp, 1e-6, 0.5));
    case Shape::s_curve:
      return u <= 0.5 ? s_curve_first_half(u) : 1.0 - s_curve_first_half(1.0 - u);
    case Shape::linear:
      break;
  }
  return u;
}

ShapePeaks shape_peaks(Shape shape, double ramp) {
  const auto of_ramp = [](double r) { return ShapePeaks{1.0 / (1.0 - r), 1.0 / (r * (1.0 - r))}; };
  switch (shape) {
    case Shape::minimum_jerk:
      return {1.875, 10.0 / std::sqrt(3.0)};
    case Shape::trapezoid_third:
      return of_ramp(1.0 / 3.0);
    case Shape::trapezoid:
      return of_ramp(std::clamp(ramp, 1e-6, 0.5));
    case Shape::s_curve:
      return {1.75, 6.125};
    case Shape::linear:
      break;
  }
  return {1.0, std::nullopt};
}

std::pair<std::size_t, double> KeyedTrack::between(double set_time) const {
  if (keys.empty() || set_time <= keys.front().first) return {0, 0.0};
  const auto after = std::upper_bound(keys.begin(), keys.end(), set_time,
                                      [](double t, const auto& key) { return t < key.first; });
  const auto i = static_cast<std::size_t>(after - keys.begin()) - 1;
  if (after == keys.end()) return {i, 0.0};
  const double t0 = keys[i].first;
  return {i, eased(shape, (set_time - t0) / (after->first - t0), ramp)};
}

double KeyedTrack::at(double set_time, double without_keys) const {
  if (keys.empty()) return without_keys;
  const auto [i, part] = between(set_time);
  const double from = keys[i].second;
  return part > 0.0 ? from + (keys[i + 1].second - from) * part : from;
}

Vec3 KeyedTrack::place_at(double set_time, const Vec3& without_keys) const {
  if (places.empty()) return without_keys;
  const auto [i, part] = between(set_time);
  return part > 0.0 ? places[i] + (places[i + 1] - places[i]) * part : places[i];
}

KeyedTrack KeyedTrack::resampled(const std::vector<double>& times) const {
  KeyedTrack out = *this;
  out.keys.clear();
  if (places.empty()) {
    for (const double t : times) out.keys.emplace_back(t, at(t));
    return out;
  }
  std::vector<std::pair<double, Vec3>> list;
  for (const double t : times) list.emplace_back(t, place_at(t));
  out.set_places(std::move(list));
  return out;
}

void KeyedTrack::put_place(double set_time, const Vec3& place, double within) {
  std::vector<std::pair<double, Vec3>> list;
  for (std::size_t i = 0; i < places.size(); ++i) list.emplace_back(keys[i].first, places[i]);
  const auto nearest = std::min_element(list.begin(), list.end(), [set_time](const auto& a, const auto& b) {
    return std::abs(a.first - set_time) < std::abs(b.first - set_time);
  });
  if (nearest != list.end() && std::abs(nearest->first - set_time) <= within)
    nearest->second = place;
  else
    list.insert(std::find_if(list.begin(), list.end(), [set_time](const auto& k) { return k.first > set_time; }),
                {set_time, place});
  set_places(std::move(list));
}

void KeyedTrack::set_places(std::vector<std::pair<double, Vec3>> at) {
  keys.clear();
  places.clear();
  double way = 0.0;
  for (const auto& [t, place] : at) {
    if (!places.empty()) way += length(place - places.back());
    keys.emplace_back(t, way);
    places.push_back(place);
  }
}

}  // namespace cinnabar
