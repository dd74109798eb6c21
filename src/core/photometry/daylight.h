// Light of sun and sky, outside and on a window. Illuminance in lux, angles in degrees.
#pragma once
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/base/keys.h"

namespace cinnabar {

/// "YYYY-MM-DD" of a Julian day (UTC).
[[nodiscard]] std::string date_of(double julian_day);

/// Illuminance from a clear, partly clouded or overcast sky (IES RP-21; air mass: Kasten & Young 1989; both value
/// from memory). Clear within 15 %, else within a factor of two.
struct OutdoorLightInputs {
  double altitude_deg, day_of_year;
  std::string sky;
  static Keys<OutdoorLightInputs> keys();
};
struct OutdoorLight {
  double air_mass, direct_normal_lx, diffuse_lx, global_lx;
  static Results<OutdoorLight> results();
};
[[nodiscard]] Expected<OutdoorLight> outdoor_light(const OutdoorLightInputs&);

/// Illuminance on the outside of an upright pane with an open view: from the sun, from the sky (ISO 15469;
/// overcast: Moon & Spencer 1942; both value from memory) and from the ground.
struct WindowInputs {
  double altitude_deg, bearing_deg, day_of_year;
  std::string sky;
  double ground;
  static Keys<WindowInputs> keys();
};
struct Window {
  double direct_lx, sky_lx, ground_lx, total_lx;
  static Results<Window> results();
};
[[nodiscard]] Expected<Window> window(const WindowInputs&);

/// What a place with an open view sees toward any direction: the sky by ISO 15469 (overcast: Moon & Spencer 1942;
/// both value from memory; a partly clouded one even), under the horizon a ground that scatters evenly.
class Outlook {
 public:
  /// `altitude_deg` of the sun 0 to 90; `sky` clear, partly or overcast; `ground` its reflectance.
  [[nodiscard]] static Expected<Outlook> of(double altitude_deg, double day_of_year, const std::string& sky,
                                            double ground);
  /// cd/m2 toward a height over the horizon and `aside` from the sun's bearing, radians; the sun itself left out.
  [[nodiscard]] double luminance(double up, double aside) const;

 private:
  enum class Sky { clear, partly, overcast } sky_ = Sky::clear;
  double sun_ = 0, diffuse_ = 0, ground_ = 0, level_ = 1;
};

/// Colour temperature of the sun at a height, and of a sky (common practice, no source).
[[nodiscard]] double sun_kelvin(double altitude_deg);
[[nodiscard]] double sky_kelvin(const std::string& sky);
/// Half the angle that the sun's disc takes, degrees.
inline constexpr double sun_half_deg = 0.2666;

/// Whole day of the year, from 1, of a Julian day.
[[nodiscard]] double day_of_year(double julian_day);

/// How the light outside a pane changes over whole `minutes` from `utc`, each minute looked at: end over start,
/// and most over least. Nothing where the sun is below the horizon. Without clouds, roofs and trees.
struct WindowDriftInputs {
  double latitude, longitude;
  std::string utc;
  double minutes, bearing_deg;
  std::string sky;
  static Keys<WindowDriftInputs> keys();
};
struct WindowDrift {
  std::optional<double> stops, spread;
  static Results<WindowDrift> results();
};
[[nodiscard]] Expected<WindowDrift> window_drift(const WindowDriftInputs&);

}  // namespace cinnabar
