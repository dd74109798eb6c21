#include "cinnabar/effects/pours.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/vec.h"
#include "cinnabar/effects/falls.h"
#include "cinnabar/effects/fluids.h"

namespace cinnabar {
namespace {
constexpr double discharge_sharp = 0.61;
}

Keys<LipPourInputs> LipPourInputs::keys() {
  static const Key<LipPourInputs> list[]{
      {"width", "m", positive, &LipPourInputs::width},
      {"head", "m, of liquid over the lip", positive, &LipPourInputs::head},
      {"leave_deg", "deg below level", {0.0, 90.0}, &LipPourInputs::leave_deg},
      {"height", "m, lip above where it lands", non_negative, &LipPourInputs::height}};
  return list;
}
Results<LipPour> LipPour::results() {
  static const ResultKey<LipPour> list[]{{"flow", "m3/s", &LipPour::flow},
                                         {"speed", "m/s, at the lip", &LipPour::speed},
                                         {"time", "s", &LipPour::time},
                                         {"reach", "m, level, from the lip", &LipPour::reach},
                                         {"landing_speed", "m/s", &LipPour::landing_speed},
                                         {"landing_diameter", "m", &LipPour::landing_diameter}};
  return list;
}
Expected<LipPour> lip_pour(const LipPourInputs& in) {
  CINNABAR_TRY(check(in));
  const double g = standard_gravity;
  const double flow = 2.0 / 3.0 * 0.62 * in.width * std::sqrt(2.0 * g) * std::pow(in.head, 1.5),
               broad = flow / in.width;
  const double speed = broad / (0.715 * std::cbrt(broad * broad / g));
  const double down = speed * std::sin(radians(in.leave_deg)), along = speed * std::cos(radians(in.leave_deg));
  const double landing_down = std::sqrt(down * down + 2.0 * g * in.height);
  const double time = (landing_down - down) / g, landing = std::sqrt(speed * speed + 2.0 * g * in.height);
  return LipPour{flow,    speed,
                 time,    in.leave_deg == 90.0 ? 0.0 : along * time,
                 landing, std::sqrt(4.0 * flow / (pi * landing))};
}

Keys<NeckPourInputs> NeckPourInputs::keys() {
  static const Key<NeckPourInputs> list[]{
      {"neck_diameter", "m", {0.01, unbounded}, &NeckPourInputs::neck_diameter},
      {"head", "m, liquid above the opening", non_negative, &NeckPourInputs::head},
      {"volume", "m3", non_negative, &NeckPourInputs::volume}};
  return list;
}
Results<NeckPour> NeckPour::results() {
  static const ResultKey<NeckPour> list[]{{"glug_flow", "m3/s", &NeckPour::glug_flow},
                                          {"glug_time", "s", &NeckPour::glug_time},
                                          {"vented_speed", "m/s", &NeckPour::vented_speed},
                                          {"vented_flow", "m3/s", &NeckPour::vented_flow}};
  return list;
}
Expected<NeckPour> neck_pour(const NeckPourInputs& in) {
  CINNABAR_TRY(check(in));
  const double area = pi * in.neck_diameter * in.neck_diameter / 4.0;
  const double glug = area * std::sqrt(standard_gravity * in.neck_diameter) / 3.0;
  const double vented = std::sqrt(2.0 * standard_gravity * in.head);
  return NeckPour{glug, in.volume / glug, vented, discharge_sharp * area * vented};
}

Keys<JetBreakupInputs> JetBreakupInputs::keys() {
  static const Key<JetBreakupInputs> list[]{
      {"nozzle_diameter", "m", positive, &JetBreakupInputs::nozzle_diameter},
      {"speed", "m/s, downward", positive, &JetBreakupInputs::speed},
      {"density", "kg/m3", positive, &JetBreakupInputs::density},
      {"viscosity", "Pa s", non_negative, &JetBreakupInputs::viscosity},
      {"surface_tension", "N/m", positive, &JetBreakupInputs::surface_tension}};
  return list;
}
Results<JetBreakup> JetBreakup::results() {
  static const ResultKey<JetBreakup> list[]{{"weber", "", &JetBreakup::weber},
                                            {"ohnesorge", "", &JetBreakup::ohnesorge},
                                            {"time", "s", &JetBreakup::time},
                                            {"drop", "m, below the nozzle", &JetBreakup::drop},
                                            {"diameter", "m, there", &JetBreakup::diameter},
                                            {"drop_diameter", "m", &JetBreakup::drop_diameter}};
  return list;
}
Expected<JetBreakup> jet_breakup(const JetBreakupInputs& in) {
  CINNABAR_TRY(check(in));
  const double g = standard_gravity, d = in.nozzle_diameter, v = in.speed;
  const double weber = in.density * v * v * d / in.surface_tension;
  const double ohnesorge = in.viscosity / std::sqrt(in.density * in.surface_tension * d),
               slowed = 1.0 + 3.0 * ohnesorge;
  const double grows = std::sqrt(in.density * d * d * d / in.surface_tension) * slowed;
  const double time = v / g * std::expm1(4.0 / 7.0 * std::log1p(21.0 * g * grows / v));
  const double there = d * std::sqrt(v / (v + g * time));
  return JetBreakup{weber, ohnesorge,
                    time,  v * time + g * time * time / 2.0,
                    there, std::cbrt(1.5 * pi * std::sqrt(2.0)) * there * std::pow(slowed, 1.0 / 6.0)};
}

Keys<ViscousThreadInputs> ViscousThreadInputs::keys() {
  static const Key<ViscousThreadInputs> list[]{
      {"nozzle_diameter", "m", positive, &ViscousThreadInputs::nozzle_diameter},
      {"speed", "m/s", positive, &ViscousThreadInputs::speed},
      {"kinematic_viscosity", "m2/s", positive, &ViscousThreadInputs::kinematic_viscosity},
      {"drop", "m", positive, &ViscousThreadInputs::drop}};
  return list;
}
Results<ViscousThread> ViscousThread::results() {
  static const ResultKey<ViscousThread> list[]{{"speed_at", "m/s, after the drop", &ViscousThread::speed_at},
                                               {"diameter", "m", &ViscousThread::diameter},
                                               {"coils", "", &ViscousThread::coils},
                                               {"coil_radius", "m", &ViscousThread::coil_radius},
                                               {"coil_hz", "Hz", &ViscousThread::coil_hz}};
  return list;
}
namespace {
/// Ai'/Ai by Bessel functions of a third and two thirds (DLMF 9.6).
double airy_slope(double x) {
  const double z = std::abs(x), root = std::sqrt(z), arc = 2.0 / 3.0 * z * root;
  if (z < 1e-6) return -0.7290111329472270;  // -3^(1/3) gamma(2/3) / gamma(1/3)
  if (x > 0.0) return -root * std::cyl_bessel_k(2.0 / 3.0, arc) / std::cyl_bessel_k(1.0 / 3.0, arc);
  const auto back = [arc](double order) {  // J of the order's opposite
    return std::cos(order * pi) * std::cyl_bessel_j(order, arc) -
           std::sin(order * pi) * std::cyl_neumann(order, arc);
  };
  return root * (std::cyl_bessel_j(2.0 / 3.0, arc) - back(2.0 / 3.0)) /
         (std::cyl_bessel_j(1.0 / 3.0, arc) + back(1.0 / 3.0));
}

/// d/dx of -Ai'/Ai, that is (Ai'/Ai)^2 - x: what a stretched thread's speed goes by, inversely.
double thinning(double x) {
  if (x > 25.0) {
    const double root = std::sqrt(x), cube = root * root * root;  // asymptotic series in x^-3/2
    return (0.5 - (0.25 - (25.0 / 64.0 - 15.0 / 16.0 / cube) / cube) / cube) / root;
  }
  const double ratio = airy_slope(x);
  return ratio * ratio - x;
}
}  // namespace

ThreadProfile::ThreadProfile(double speed, double kinematic_viscosity)
    : begins_(speed),
      viscosity_(kinematic_viscosity),
      scale_(std::cbrt(standard_gravity / 18.0) / (std::cbrt(viscosity_) * std::cbrt(viscosity_))) {
  double low = -2.338107410459767, high = 1.0;  // the first zero of Ai: no speed there
  while (at(high) < begins_ && high < 1e300) high *= 4.0;
  for (;;) {
    from_ = 0.5 * (low + high);
    if (from_ <= low || from_ >= high) break;  // no number lies between
    (at(from_) < begins_ ? low : high) = from_;
  }
}

double ThreadProfile::at(double x) const {
  return x > 1e4 ? std::sqrt(2.0 * standard_gravity * x / scale_) : 3.0 * viscosity_ * scale_ / thinning(x);
}

double ThreadProfile::speed_at(double drop) const { return std::max(begins_, at(from_ + scale_ * drop)); }

Expected<ViscousThread> viscous_thread(const ViscousThreadInputs& in) {
  CINNABAR_TRY(check(in));
  const double g = standard_gravity, nu = in.kinematic_viscosity,
               speed = ThreadProfile(in.speed, nu).speed_at(in.drop);
  ViscousThread out{speed, in.nozzle_diameter * std::sqrt(in.speed / speed), false, {}, {}};
  const double a = out.diameter / 2.0;
  out.coils = speed * out.diameter / nu < 1.2 && in.drop > 7.7 * out.diameter;
  if (!out.coils) return out;
  out.coil_radius = std::min({std::pow(nu * a * a * speed / g, 0.25), std::cbrt(nu * a * a / speed), in.drop});
  out.coil_hz = speed / (2.0 * pi * *out.coil_radius);
  return out;
}

Keys<FillInputs> FillInputs::keys() {
  static const Key<FillInputs> list[]{{"profile", "r:h,r:h,...", any_number, &FillInputs::profile},
                                      {"level", "m, in the profile's heights", any_number, &FillInputs::level},
                                      {"volume", "m3", non_negative, &FillInputs::volume},
                                      {"flow", "m3/s", positive, &FillInputs::flow}};
  return list;
}
Results<Fill> Fill::results() {
  static const ResultKey<Fill> list[]{{"level_after", "m", &Fill::level_after},
                                      {"overflow", "m3", &Fill::overflow},
                                      {"room", "m3, before", &Fill::room},
                                      {"full_time", "s", &Fill::full_time}};
  return list;
}
namespace {
/// Of a cone's piece between radii a and b.
double frustum(double a, double b, double height) { return pi * height * (a * a + a * b + b * b) / 3.0; }
}  // namespace
Expected<Fill> fill(const FillInputs& in) {
  CINNABAR_TRY(check(in));
  const auto& p = in.profile;
  const std::string wanted = "at least two r:h pairs, radii >= 0 and heights rising, floor first";
  if (p.size() < 2) return out_of_range("profile", wanted);
  for (std::size_t i = 0; i < p.size(); ++i)
    if (!non_negative.contains(p[i][0]) || !std::isfinite(p[i][1]) || (i > 0 && p[i][1] <= p[i - 1][1]))
      return out_of_range("profile", wanted);
  const double floor = p.front()[1], brim = p.back()[1];
  if (in.level < floor || in.level > brim)
    return out_of_range("level", fmt::format("from {:g} to {:g}", floor, brim));
  const auto radius_at = [](const std::array<double, 2>& a, const std::array<double, 2>& b, double h) {
    return a[0] + (b[0] - a[0]) * (h - a[1]) / (b[1] - a[1]);
  };
  double room = 0.0, left = in.volume, after = brim;
  for (std::size_t i = 1; i < p.size(); ++i) {
    const double from = std::max(in.level, p[i - 1][1]);
    if (from >= p[i][1]) continue;
    const double base = radius_at(p[i - 1], p[i], from);
    const double piece = frustum(base, p[i][0], p[i][1] - from);
    room += piece;
    if (after < brim || left < 0.0) continue;
    if (left <= piece) {
      double low = from, high = p[i][1];
      for (int k = 0; k < 100; ++k) {
        const double middle = 0.5 * (low + high);
        (frustum(base, radius_at(p[i - 1], p[i], middle), middle - from) < left ? low : high) = middle;
      }
      after = 0.5 * (low + high);
      left = -1.0;
    } else {
      left -= piece;
    }
  }
  return Fill{after, std::max(0.0, in.volume - room), room, room / in.flow};
}

Keys<TiltHoldInputs> TiltHoldInputs::keys() {
  static const Key<TiltHoldInputs> list[]{
      {"radius", "m", positive, &TiltHoldInputs::radius},
      {"height", "m, inner", positive, &TiltHoldInputs::height},
      {"depth", "m, of liquid, upright", non_negative, &TiltHoldInputs::depth},
      {"angle_deg", "deg", {0.0, 90.0, false, true}, &TiltHoldInputs::angle_deg}};
  return list;
}
Results<TiltHold> TiltHold::results() {
  static const ResultKey<TiltHold> list[]{{"spill_angle_deg", "deg", &TiltHold::spill_angle_deg},
                                          {"held_volume", "m3, the most at this angle", &TiltHold::held_volume},
                                          {"spilled_volume", "m3", &TiltHold::spilled_volume}};
  return list;
}
Expected<TiltHold> tilt_hold(const TiltHoldInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.depth > in.height) return out_of_range("depth", fmt::format("from 0 to the height ({:g})", in.height));
  const double r = in.radius;
  const auto held = [&](double angle) {
    const double slope = std::tan(angle);
    if (slope <= in.height / (2.0 * r)) return pi * r * r * (in.height - r * slope);
    const double x = r - in.height / slope, s2 = std::max(0.0, r * r - x * x), s = std::sqrt(s2);
    return slope * (2.0 / 3.0 * s2 * s - x * (r * r * std::acos(std::clamp(x / r, -1.0, 1.0)) - x * s));
  };
  const double full = pi * r * r * in.depth, most = held(radians(in.angle_deg));
  TiltHold out{{}, most, std::max(0.0, full - most)};
  if (in.depth == 0.0) return out;
  double low = 0.0, high = pi / 2.0;
  for (int i = 0; i < 100; ++i) {
    const double middle = 0.5 * (low + high);
    (held(middle) > full ? low : high) = middle;
  }
  out.spill_angle_deg = in.depth == in.height ? 0.0 : degrees(0.5 * (low + high));
  return out;
}

Keys<SloshStopInputs> SloshStopInputs::keys() {
  static const Key<SloshStopInputs> list[]{
      {"radius", "m", positive, &SloshStopInputs::radius},
      {"depth", "m", positive, &SloshStopInputs::depth},
      {"speed", "m/s", non_negative, &SloshStopInputs::speed},
      {"stop_time", "s, 0 = at once", non_negative, &SloshStopInputs::stop_time},
      {"kinematic_viscosity", "m2/s", positive, &SloshStopInputs::kinematic_viscosity}};
  return list;
}
Results<SloshStop> SloshStop::results() {
  static const ResultKey<SloshStop> list[]{{"amplitude", "m, at the wall", &SloshStop::amplitude},
                                           {"frequency_hz", "Hz", &SloshStop::frequency_hz},
                                           {"decay_time", "s, to a tenth", &SloshStop::decay_time}};
  return list;
}
Expected<SloshStop> slosh_stop(const SloshStopInputs& in) {
  CINNABAR_TRY(check(in));
  const auto mode = slosh({in.radius, in.depth});
  if (!mode) return tl::unexpected(mode.error());
  const double rate = 2.0 * pi * mode->frequency_hz, x = rate * in.stop_time / 2.0;
  const double share_left = x == 0.0 ? 1.0 : std::abs(std::sin(x) / x);
  const double amplitude = first_mode_share * in.speed * rate * in.radius / standard_gravity * share_left;
  return SloshStop{amplitude, mode->frequency_hz,
                   std::log(10.0) / stokes_damping(in.radius, in.depth, in.kinematic_viscosity)};
}

Keys<StartSloshInputs> StartSloshInputs::keys() {
  static const Key<StartSloshInputs> list[]{{"radius", "m", positive, &StartSloshInputs::radius},
                                            {"depth", "m", positive, &StartSloshInputs::depth},
                                            {"acceleration", "m/s2", positive, &StartSloshInputs::acceleration},
                                            {"time", "s, of the push", positive, &StartSloshInputs::time}};
  return list;
}
Results<StartSlosh> StartSlosh::results() {
  static const ResultKey<StartSlosh> list[]{{"frequency_hz", "Hz", &StartSlosh::frequency_hz},
                                            {"tilt_deg", "deg", &StartSlosh::tilt_deg},
                                            {"wave", "m", &StartSlosh::wave},
                                            {"quiet_time", "s", &StartSlosh::quiet_time}};
  return list;
}
Expected<StartSlosh> start_slosh(const StartSloshInputs& in) {
  CINNABAR_TRY(check(in));
  const auto mode = slosh({in.radius, in.depth});
  if (!mode) return tl::unexpected(mode.error());
  const double pull = in.acceleration / standard_gravity;
  const double turn = std::sin(pi * std::fmod(mode->frequency_hz * in.time, 1.0));
  return StartSlosh{mode->frequency_hz, degrees(std::atan(pull)),
                    first_mode_share * pull * in.radius * 2.0 * std::abs(turn), 1.0 / mode->frequency_hz};
}

}  // namespace cinnabar
