// Air, steam, fog and heat. SI; temperatures in degrees Celsius.
#pragma once
#include <array>
#include <optional>
#include <vector>

#include "cinnabar/base/keys.h"

namespace cinnabar {

/// Saturated vapour over water, pascal (Magnus; value from memory).
[[nodiscard]] double vapour_pressure(double celsius);

/// A round jet of air (Rajaratnam 1976, value from memory): speed on its axis, half-width, and how far it still
/// has `least_speed`.
struct AirJetInputs {
  double nozzle_diameter, speed, distance, least_speed;
  static Keys<AirJetInputs> keys();
};
struct AirJet {
  double centre_speed, half_radius, reach;
  static Results<AirJet> results();
};
[[nodiscard]] Expected<AirJet> air_jet(const AirJetInputs&);

/// Warm air rising from a point that gives off `power` (Morton, Taylor & Turner 1956, entrainment 0.12): radius,
/// speed, warming and rise time. Within a quarter.
inline constexpr double entrainment = 0.12;
struct PlumeInputs {
  double power, height, temperature_c;
  static Keys<PlumeInputs> keys();
};
struct Plume {
  double radius, speed, temperature_rise, rise_time;
  static Results<Plume> results();
};
[[nodiscard]] Expected<Plume> plume(const PlumeInputs&);

/// What a metre of droplets takes from light: large ones, efficiency 2.
[[nodiscard]] inline double extinction_of(double concentration, double density, double droplet_diameter) {
  return 3.0 * concentration / (density * droplet_diameter);
}

/// A fog of droplets along `path`: optical depth (large droplets, efficiency 2), what passes, and the luminance
/// that light from `angle_deg` (0: the lamp behind, shining at the lens) scatters to the lens once (Henyey &
/// Greenstein 1941). Within a factor of two, to an optical depth of 0.3.
struct HazeInputs {
  double concentration, droplet_diameter, density, path, illuminance_lx, angle_deg, asymmetry;
  static Keys<HazeInputs> keys();
};
struct Haze {
  double optical_depth, transmittance, luminance;
  static Results<Haze> results();
};
[[nodiscard]] Expected<Haze> haze(const HazeInputs&);

/// Saturated air over something warm or cold, mixing with the room (vapour: Magnus, value from memory): the room's
/// dew point, whether the room's air condenses on it, whether fog is seen, and by how much it is thinned before it
/// is gone. Within a factor of two.
struct SteamInputs {
  double source_c, room_c, humidity;
  static Keys<SteamInputs> keys();
};
struct Steam {
  double dew_point_c;
  bool condenses, visible;
  std::optional<double> dilution;
  static Results<Steam> results();
};
[[nodiscard]] Expected<Steam> steam(const SteamInputs&);
/// Drops of water in air of which so much, from 0 to 1, is the saturated source's and the rest the room's, in
/// kg/m3: what is more vapour than the mixture holds, warmed by the heat that its condensing gives off (2.45
/// MJ/kg; value from memory).
[[nodiscard]] double condensed(const SteamInputs&, double part);

/// Lamps on food and ice: irradiance, warming of a thin thing, and how fast ice goes (10 W/m2K to the air: common
/// practice, no source; within 40 %). `radiant_efficacy` is 300 lm/W for white LEDs, 100 for daylight, 27 for 3200
/// K.
struct LampMeltInputs {
  double illuminance_lx, radiant_efficacy, absorbed, temperature_c, mass, area;
  static Keys<LampMeltInputs> keys();
};
struct LampMelt {
  double irradiance, warming, recession, melt_time;
  static Results<LampMelt> results();
};
[[nodiscard]] Expected<LampMelt> lamp_melt(const LampMeltInputs&);

}  // namespace cinnabar
