#include "cinnabar/effects/air.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/vec.h"
#include "cinnabar/effects/cloud.h"
#include "cinnabar/effects/falls.h"
#include "cinnabar/effects/fluids.h"

namespace cinnabar {

namespace {
constexpr double air_heat = 352.98 * 1005.0;  // density times kelvin, times heat capacity: J/m3
}  // namespace

double vapour_pressure(double celsius) { return 611.2 * std::exp(17.62 * celsius / (243.12 + celsius)); }

Keys<AirJetInputs> AirJetInputs::keys() {
  static const Key<AirJetInputs> list[]{{"nozzle_diameter", "m", positive, &AirJetInputs::nozzle_diameter},
                                        {"speed", "m/s", {0.0, 100.0, true, false}, &AirJetInputs::speed},
                                        {"distance", "m", non_negative, &AirJetInputs::distance},
                                        {"least_speed", "m/s", positive, &AirJetInputs::least_speed}};
  return list;
}
Results<AirJet> AirJet::results() {
  static const ResultKey<AirJet> list[]{{"centre_speed", "m/s", &AirJet::centre_speed},
                                        {"half_radius", "m", &AirJet::half_radius},
                                        {"reach", "m", &AirJet::reach}};
  return list;
}
Expected<AirJet> air_jet(const AirJetInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.least_speed >= in.speed)
    return out_of_range("least_speed", fmt::format("> 0 and under the speed ({:g})", in.speed));
  const double core = 6.2 * in.nozzle_diameter;
  return AirJet{in.distance <= core ? in.speed : in.speed * core / in.distance,
                std::max(0.095 * in.distance, in.nozzle_diameter / 2.0), in.speed * core / in.least_speed};
}

Keys<PlumeInputs> PlumeInputs::keys() {
  static const Key<PlumeInputs> list[]{
      {"power", "W, carried by the air", positive, &PlumeInputs::power},
      {"height", "m, above the point", positive, &PlumeInputs::height},
      {"temperature_c", "C, of the room", {-20.0, 60.0}, &PlumeInputs::temperature_c}};
  return list;
}
Results<Plume> Plume::results() {
  static const ResultKey<Plume> list[]{{"radius", "m", &Plume::radius},
                                       {"speed", "m/s", &Plume::speed},
                                       {"temperature_rise", "K", &Plume::temperature_rise},
                                       {"rise_time", "s", &Plume::rise_time}};
  return list;
}
Expected<Plume> plume(const PlumeInputs& in) {
  CINNABAR_TRY(check(in));
  const double radius = 1.2 * entrainment * in.height, buoyancy = standard_gravity * in.power / air_heat;
  const double speed = 5.0 / (6.0 * entrainment) * std::cbrt(0.9 * entrainment * buoyancy / (pi * in.height));
  return Plume{radius, speed, in.power * (in.temperature_c + 273.15) / (air_heat * pi * radius * radius * speed),
               0.75 * in.height / speed};
}

Keys<HazeInputs> HazeInputs::keys() {
  static const Key<HazeInputs> list[]{
      {"concentration", "kg/m3", non_negative, &HazeInputs::concentration},
      {"droplet_diameter", "m", {1e-6, unbounded}, &HazeInputs::droplet_diameter},
      {"density", "kg/m3, of the droplets", positive, &HazeInputs::density},
      {"path", "m", non_negative, &HazeInputs::path},
      {"illuminance_lx", "lx", non_negative, &HazeInputs::illuminance_lx},
      {"angle_deg", "deg, light's way turned by", {0.0, 180.0}, &HazeInputs::angle_deg},
      {"asymmetry", "", {-1.0, 1.0, true, true}, &HazeInputs::asymmetry}};
  return list;
}
Results<Haze> Haze::results() {
  static const ResultKey<Haze> list[]{{"optical_depth", "", &Haze::optical_depth},
                                      {"transmittance", "", &Haze::transmittance},
                                      {"luminance", "cd/m2", &Haze::luminance}};
  return list;
}
Expected<Haze> haze(const HazeInputs& in) {
  CINNABAR_TRY(check(in));
  const double depth = extinction_of(in.concentration, in.density, in.droplet_diameter) * in.path;
  const double phase = scattered_to(std::cos(radians(in.angle_deg)), in.asymmetry);
  return Haze{depth, std::exp(-depth), in.illuminance_lx * phase * -std::expm1(-depth)};
}

Keys<SteamInputs> SteamInputs::keys() {
  static const Key<SteamInputs> list[]{{"source_c", "C, saturated", {-20.0, 100.0}, &SteamInputs::source_c},
                                       {"room_c", "C", {-20.0, 60.0}, &SteamInputs::room_c},
                                       {"humidity", "share", positive_share, &SteamInputs::humidity}};
  return list;
}
Results<Steam> Steam::results() {
  static const ResultKey<Steam> list[]{{"dew_point_c", "C, of the room", &Steam::dew_point_c},
                                       {"condenses", "", &Steam::condenses},
                                       {"visible", "", &Steam::visible},
                                       {"dilution", "", &Steam::dilution}};
  return list;
}
Expected<Steam> steam(const SteamInputs& in) {
  CINNABAR_TRY(check(in));
  const double full_room = vapour_pressure(in.room_c), source = vapour_pressure(in.source_c),
               room = in.humidity * full_room;
  const double log_ratio = std::log(room / 611.2), dew = 243.12 * log_ratio / (17.62 - log_ratio);
  const double warmer = in.source_c - in.room_c;
  // Vapour of a mixture over what it can hold; concave in the source's share, and nothing at a share of 1.
  const auto fog = [&](double part) {
    return room + part * (source - room) - vapour_pressure(in.room_c + part * warmer);
  };
  const auto slope = [&](double part) {
    const double t = in.room_c + part * warmer, below = 243.12 + t;
    return source - room - vapour_pressure(t) * 17.62 * 243.12 / (below * below) * warmer;
  };
  Steam out{dew, in.source_c < dew, warmer != 0.0 && slope(1.0) < 0.0, {}};
  if (!out.visible || in.humidity == 1.0) return out;
  double low = 0.0, high = 1.0;
  for (int i = 0; i < 100; ++i) {  // where it is thickest
    const double middle = 0.5 * (low + high);
    (slope(middle) > 0.0 ? low : high) = middle;
  }
  for (low = 0.0; high - low > 1e-15 * high && high > 1e-300;) {
    const double middle = 0.5 * (low + high);
    if (middle == low || middle == high) break;
    (fog(middle) < 0.0 ? low : high) = middle;
  }
  out.dilution = 1.0 / high;
  return out;
}

double condensed(const SteamInputs& in, double part) {
  constexpr double gas = 461.5, condensing = 2.45e6, zero_c = 273.15;
  const double room = in.humidity * vapour_pressure(in.room_c), source = vapour_pressure(in.source_c);
  const double mixed_c = in.room_c + part * (in.source_c - in.room_c);
  const double vapour = (room + part * (source - room)) / (gas * (mixed_c + zero_c));
  const auto over = [&](double celsius) { return vapour - vapour_pressure(celsius) / (gas * (celsius + zero_c)); };
  if (over(mixed_c) <= 0.0) return 0.0;
  double low = mixed_c, high = mixed_c + 200.0;  // the warmer, the less of it condenses and the less that warms
  for (int i = 0; i < 60; ++i) {
    const double middle = 0.5 * (low + high);
    const double warmed = condensing * std::max(0.0, over(middle)) * (middle + zero_c) / air_heat;
    (middle - mixed_c < warmed ? low : high) = middle;
  }
  return std::max(0.0, over(0.5 * (low + high)));
}

Keys<LampMeltInputs> LampMeltInputs::keys() {
  static const Key<LampMeltInputs> list[]{
      {"illuminance_lx", "lx", non_negative, &LampMeltInputs::illuminance_lx},
      {"radiant_efficacy", "lm per radiated W", {0.0, 683.0, true, false}, &LampMeltInputs::radiant_efficacy},
      {"absorbed", "share", share, &LampMeltInputs::absorbed},
      {"temperature_c", "C, of the room", {0.0, 60.0, true, false}, &LampMeltInputs::temperature_c},
      {"mass", "kg", positive, &LampMeltInputs::mass},
      {"area", "m2", positive, &LampMeltInputs::area}};
  return list;
}
Results<LampMelt> LampMelt::results() {
  static const ResultKey<LampMelt> list[]{{"irradiance", "W/m2", &LampMelt::irradiance},
                                          {"warming", "K", &LampMelt::warming},
                                          {"recession", "m/s", &LampMelt::recession},
                                          {"melt_time", "s", &LampMelt::melt_time}};
  return list;
}
Expected<LampMelt> lamp_melt(const LampMeltInputs& in) {
  CINNABAR_TRY(check(in));
  constexpr double to_air = 10.0, melting = 334000.0, ice = 917.0;
  const double irradiance = in.illuminance_lx / in.radiant_efficacy, taken = in.absorbed * irradiance;
  const double heat = taken + to_air * in.temperature_c;
  return LampMelt{irradiance, taken / to_air, heat / (ice * melting), 3.0 * in.mass * melting / (heat * in.area)};
}

}  // namespace cinnabar
