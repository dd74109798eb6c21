#include "cinnabar/effects/fluids.h"

#include <fmt/format.h>

#include <cmath>

#include "cinnabar/base/vec.h"
#include "cinnabar/effects/falls.h"

namespace cinnabar {

Keys<JetInputs> JetInputs::keys() {
  static const Key<JetInputs> list[]{{"nozzle_diameter", "m", positive, &JetInputs::nozzle_diameter},
                                     {"speed", "m/s", positive, &JetInputs::speed},
                                     {"drop", "m", non_negative, &JetInputs::drop}};
  return list;
}
Results<Jet> Jet::results() {
  static const ResultKey<Jet> list[]{{"diameter", "m", &Jet::diameter},
                                     {"speed_at", "m/s", &Jet::speed_at},
                                     {"flow_m3s", "m3/s", &Jet::flow_m3s}};
  return list;
}
Expected<Jet> jet(const JetInputs& in) {
  CINNABAR_TRY(check(in));
  const double v = std::sqrt(in.speed * in.speed + 2.0 * standard_gravity * in.drop);
  return Jet{in.nozzle_diameter * std::sqrt(in.speed / v), v,
             pi * in.nozzle_diameter * in.nozzle_diameter * in.speed / 4.0};
}

Keys<DrainInputs> DrainInputs::keys() {
  static const Key<DrainInputs> list[]{{"level", "m", non_negative, &DrainInputs::level},
                                       {"area", "m2", positive, &DrainInputs::area},
                                       {"hole_area", "m2", positive, &DrainInputs::hole_area},
                                       {"discharge", "", positive_share, &DrainInputs::discharge}};
  return list;
}
Results<Drain> Drain::results() {
  static const ResultKey<Drain> list[]{{"time", "s", &Drain::time}};
  return list;
}
Expected<Drain> drain(const DrainInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.hole_area >= in.area) return out_of_range("hole_area", fmt::format("> 0 and < area ({:g})", in.area));
  return Drain{in.area / (in.discharge * in.hole_area) * std::sqrt(2.0 * in.level / standard_gravity)};
}

Keys<SloshInputs> SloshInputs::keys() {
  static const Key<SloshInputs> list[]{{"radius", "m", positive, &SloshInputs::radius},
                                       {"depth", "m", positive, &SloshInputs::depth}};
  return list;
}
Results<Slosh> Slosh::results() {
  static const ResultKey<Slosh> list[]{{"frequency_hz", "Hz", &Slosh::frequency_hz},
                                       {"period", "s", &Slosh::period}};
  return list;
}
double sloshing_rate(double radius, double depth) {
  const double k = first_zero_of_j1_prime / radius;
  return std::sqrt(standard_gravity * k * std::tanh(k * depth));
}
double stokes_damping(double radius, double depth, double kinematic_viscosity) {
  const double k = first_zero_of_j1_prime, deep = 2.0 * k * depth / radius;
  const double bottom = deep < 700.0 ? k * (1.0 - depth / radius) / std::sinh(deep) : 0.0;
  return std::sqrt(kinematic_viscosity * sloshing_rate(radius, depth) / 2.0) / radius *
         (0.5 * (k * k + 1.0) / (k * k - 1.0) + bottom);
}
Expected<Slosh> slosh(const SloshInputs& in) {
  CINNABAR_TRY(check(in));
  const double f = sloshing_rate(in.radius, in.depth) / (2.0 * pi);
  return Slosh{f, 1.0 / f};
}

Keys<SprayMixInputs> SprayMixInputs::keys() {
  static const Key<SprayMixInputs> list[]{
      {"glycerin_fraction", "by mass", share, &SprayMixInputs::glycerin_fraction},
      {"temperature_c", "C", Range{0, 100}, &SprayMixInputs::temperature_c}};
  return list;
}
Results<SprayMix> SprayMix::results() {
  static const ResultKey<SprayMix> list[]{{"viscosity", "Pa s", &SprayMix::viscosity},
                                          {"density", "kg/m3", &SprayMix::density}};
  return list;
}
Expected<SprayMix> spray_mix(const SprayMixInputs& in) {
  CINNABAR_TRY(check(in));
  const double c = in.glycerin_fraction, t = in.temperature_c;
  const double water = 1.790 * std::exp((-1230.0 - t) * t / (36100.0 + 360.0 * t));
  const double glycerin = 12100.0 * std::exp((-1233.0 + t) * t / (9900.0 + 70.0 * t));
  const double a = 0.705 - 0.0017 * t, b = (4.9 + 0.036 * t) * std::pow(a, 2.5);
  const double q = c == 1.0 ? 0.0 : 1.0 - c + a * b * c * (1.0 - c) / (a * c + b * (1.0 - c));
  return SprayMix{
      std::pow(water, q) * std::pow(glycerin, 1.0 - q) / 1000.0,
      c * (1277.0 - 0.654 * t) + (1.0 - c) * 1000.0 * (1.0 - std::pow(std::abs(t - 4.0) / 622.0, 1.7))};
}

}  // namespace cinnabar
