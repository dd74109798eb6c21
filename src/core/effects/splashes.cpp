#include "cinnabar/effects/splashes.h"

#include <fmt/format.h>

#include <algorithm>
#include <boost/math/special_functions/gamma.hpp>
#include <cmath>

#include "cinnabar/base/quadrature.h"
#include "cinnabar/base/vec.h"
#include "cinnabar/effects/air.h"
#include "cinnabar/effects/falls.h"
#include "cinnabar/effects/fluids.h"

namespace cinnabar {
namespace {
/// Volume of a spherical cap on a circle of radius 1, meeting it at `angle` (radians, under pi).
double cap_volume(double angle) {
  const double t = std::tan(angle / 2.0);  // the cap's height
  return pi * t * (3.0 + t * t) / 6.0;
}
}  // namespace

Keys<PlungeInputs> PlungeInputs::keys() {
  static const Key<PlungeInputs> list[]{
      {"mass", "kg", positive, &PlungeInputs::mass},
      {"diameter", "m", positive, &PlungeInputs::diameter},
      {"speed", "m/s, at the surface", non_negative, &PlungeInputs::speed},
      {"density", "kg/m3, of the liquid", positive, &PlungeInputs::density},
      {"energy_share", "", positive_share, &PlungeInputs::energy_share},
      {"freeboard", "m, rim above the surface", positive, &PlungeInputs::freeboard}};
  return list;
}
Results<Plunge> Plunge::results() {
  static const ResultKey<Plunge> list[]{
      {"cavity_radius", "m", &Plunge::cavity_radius}, {"open_time", "s", &Plunge::open_time},
      {"crown_height", "m", &Plunge::crown_height},   {"most_spilled", "m3", &Plunge::most_spilled},
      {"seal_time", "s", &Plunge::seal_time},         {"seal_depth", "m", &Plunge::seal_depth}};
  return list;
}
Expected<Plunge> plunge(const PlungeInputs& in) {
  CINNABAR_TRY(check(in));
  const double g = standard_gravity, energy = in.energy_share * in.mass * in.speed * in.speed / 2.0;
  const double cavity = std::pow(4.0 * energy / (pi * in.density * g), 0.25);
  const double seal = 1.74 * std::sqrt(in.diameter / (2.0 * g));
  return Plunge{cavity,        1.34995 * std::sqrt(cavity / g),
                0.75 * cavity, energy / (in.density * g * in.freeboard),
                seal,          in.speed * seal / 2.0};
}

Keys<DropImpactInputs> DropImpactInputs::keys() {
  static const Key<DropImpactInputs> list[]{
      {"diameter", "m", positive, &DropImpactInputs::diameter},
      {"speed", "m/s", positive, &DropImpactInputs::speed},
      {"density", "kg/m3", positive, &DropImpactInputs::density},
      {"viscosity", "Pa s", positive, &DropImpactInputs::viscosity},
      {"surface_tension", "N/m", positive, &DropImpactInputs::surface_tension},
      {"film", "m, 0 = dry", non_negative, &DropImpactInputs::film}};
  return list;
}
Results<DropImpact> DropImpact::results() {
  static const ResultKey<DropImpact> list[]{{"weber", "", &DropImpact::weber},
                                            {"reynolds", "", &DropImpact::reynolds},
                                            {"ohnesorge", "", &DropImpact::ohnesorge},
                                            {"splash_number", "", &DropImpact::splash_number},
                                            {"splash_limit", "", &DropImpact::splash_limit},
                                            {"splashes", "", &DropImpact::splashes},
                                            {"spread_factor", "", &DropImpact::spread_factor}};
  return list;
}
Expected<DropImpact> drop_impact(const DropImpactInputs& in) {
  CINNABAR_TRY(check(in));
  const double weber = in.density * in.speed * in.speed * in.diameter / in.surface_tension;
  const double reynolds = in.density * in.speed * in.diameter / in.viscosity;
  const double ohnesorge = in.viscosity / std::sqrt(in.density * in.surface_tension * in.diameter);
  DropImpact out{weber, reynolds, ohnesorge, 0.0, 0.0, false, {}};
  if (in.film == 0.0) {
    out.splash_number = std::sqrt(weber) * std::pow(reynolds, 0.25), out.splash_limit = 57.7;
    const double p = std::sqrt(weber * std::pow(reynolds, -0.4));
    out.spread_factor = std::max(1.0, std::pow(reynolds, 0.2) * p / (1.24 + p));
  } else {
    out.splash_number = weber * std::pow(ohnesorge, -0.4);
    out.splash_limit = 2100.0 + 5880.0 * std::pow(in.film / in.diameter, 1.44);
  }
  out.splashes = out.splash_number > out.splash_limit;
  return out;
}

Keys<SprayCountInputs> SprayCountInputs::keys() {
  static const Key<SprayCountInputs> list[]{
      {"volume", "m3", positive, &SprayCountInputs::volume},
      {"mean_diameter", "m, by number", positive, &SprayCountInputs::mean_diameter},
      {"order", "", {1.0, 100.0}, &SprayCountInputs::order}};
  return list;
}
Results<SprayCount> SprayCount::results() {
  static const ResultKey<SprayCount> list[]{{"drops", "count", &SprayCount::drops},
                                            {"sauter_diameter", "m", &SprayCount::sauter_diameter},
                                            {"tenth", "m", &SprayCount::tenth},
                                            {"ninetieth", "m", &SprayCount::ninetieth}};
  return list;
}
Expected<SprayCount> spray_count(const SprayCountInputs& in) {
  CINNABAR_TRY(check(in));
  const double n = in.order, d = in.mean_diameter;
  const double cubes = d * d * d * (n + 1.0) * (n + 2.0) / (n * n);
  return SprayCount{in.volume / (pi / 6.0 * cubes), d * (n + 2.0) / n, boost::math::gamma_p_inv(n, 0.1) * d / n,
                    boost::math::gamma_p_inv(n, 0.9) * d / n};
}

Keys<BeadHoldInputs> BeadHoldInputs::keys() {
  static const Key<BeadHoldInputs> list[]{
      {"advancing_deg", "deg", {0.0, 180.0, true, true}, &BeadHoldInputs::advancing_deg},
      {"receding_deg", "deg", {0.0, 180.0, true, true}, &BeadHoldInputs::receding_deg},
      {"surface_tension", "N/m", positive, &BeadHoldInputs::surface_tension},
      {"density", "kg/m3", positive, &BeadHoldInputs::density},
      {"slope_deg", "deg, 90 = upright", {0.0, 90.0, true, false}, &BeadHoldInputs::slope_deg}};
  return list;
}
Results<BeadHold> BeadHold::results() {
  static const ResultKey<BeadHold> list[]{{"contact_diameter", "m", &BeadHold::contact_diameter},
                                          {"volume", "m3", &BeadHold::volume},
                                          {"height", "m", &BeadHold::height}};
  return list;
}
Expected<BeadHold> bead_hold(const BeadHoldInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.receding_deg >= in.advancing_deg)
    return out_of_range("receding_deg", fmt::format("> 0 and under the advancing angle ({:g})", in.advancing_deg));
  const double mean = radians((in.advancing_deg + in.receding_deg) / 2.0);
  const double grip = 24.0 / (pi * pi * pi) * in.surface_tension *
                      (std::cos(radians(in.receding_deg)) - std::cos(radians(in.advancing_deg)));
  const double pull = in.density * standard_gravity * std::sin(radians(in.slope_deg));
  const double unit_cap = cap_volume(mean) / 8.0;  // of contact diameter 1
  const double across = std::sqrt(grip / (pull * unit_cap));
  return BeadHold{across, unit_cap * across * across * across, across / 2.0 * std::tan(mean / 2.0)};
}

Keys<BeadDryInputs> BeadDryInputs::keys() {
  static const Key<BeadDryInputs> list[]{
      {"contact_radius", "m", positive, &BeadDryInputs::contact_radius},
      {"contact_angle_deg", "deg", {0.0, 90.0, true, false}, &BeadDryInputs::contact_angle_deg},
      {"temperature_c", "C", {0.0, 60.0}, &BeadDryInputs::temperature_c},
      {"humidity", "share", {0.0, 1.0, false, true}, &BeadDryInputs::humidity}};
  return list;
}
Results<BeadDry> BeadDry::results() {
  static const ResultKey<BeadDry> list[]{{"volume", "m3", &BeadDry::volume}, {"life", "s", &BeadDry::life}};
  return list;
}
Expected<BeadDry> bead_dry(const BeadDryInputs& in) {
  CINNABAR_TRY(check(in));
  const double r = in.contact_radius, angle = radians(in.contact_angle_deg), kelvin = in.temperature_c + 273.15;
  const double diffusion = 2.178e-5 * std::pow(kelvin / 273.15, 1.81);
  const double lack = vapour_pressure(in.temperature_c) * (1.0 - in.humidity) / (461.5 * kelvin);
  const auto slow = [](double t) {
    return 1.0 / ((1.0 + std::cos(t)) * (1.0 + std::cos(t)) * (0.27 * t * t + 1.30));
  };
  const double sum = integral(slow, 0.0, angle);
  return BeadDry{cap_volume(angle) * r * r * r, 998.0 * r * r / (diffusion * lack) * sum};
}

}  // namespace cinnabar
