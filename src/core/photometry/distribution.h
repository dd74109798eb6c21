// Measured and derived distributions of light: intensity by direction, type C angles (IESNA LM-63-2002, LM-75).
// Candela, lumens, metres; angles in degrees. Vertical 0 is the beam's axis, horizontal 0 the light's right.
#pragma once
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "cinnabar/base/result.h"

namespace cinnabar {

/// Luminous intensity on a grid of directions, bilinear in degrees between them.
struct LightDistribution {
  std::vector<double> verticals;    ///< ascending, within 0..180
  std::vector<double> horizontals;  ///< ascending; the last says the symmetry: 0, 90, 180, 270 (from 90) or 360
  std::vector<double> candela;      ///< by horizontal, then vertical; factors applied
  double width = 0, length = 0, height = 0;  ///< of the shining face, metres; 0 a point
  double watts = 0;
  /// Share of the light left by the angle its lamp is tilted to; empty: tilt does not matter.
  std::vector<std::pair<double, double>> tilt;
  bool tilts_with_lamp = true;  ///< false: the lamp stays level however the light is turned

  std::string version;                                        ///< "IESNA:LM-63-2002"; empty before 1991
  std::vector<std::pair<std::string, std::string>> keywords;  ///< as written, MORE joined to what it goes on
  std::vector<std::string> notes;                             ///< what was read but does not count, in words

  /// Toward a direction; 0 outside the verticals. Any horizontal angle.
  [[nodiscard]] double candela_at(double vertical_deg, double horizontal_deg) const;
  /// The integral of what candela_at says, in closed form over the verticals and exact over the horizontals.
  [[nodiscard]] double lumens() const;
  /// By zones: the mean of two neighbouring verticals over the zone between them (the handbook's way).
  [[nodiscard]] double zonal_lumens() const;
  [[nodiscard]] double peak() const;
  /// Full angle within which the mean over the horizontals stays at or over `share` of the axis; 0 where the axis
  /// is dark. 0.5 gives the beam angle, 0.1 the field angle (CIE S 017).
  [[nodiscard]] double full_angle(double share) const;
  /// What tilting the light to `angle_deg` from straight down leaves of it.
  [[nodiscard]] double tilt_share(double angle_deg) const;
};

/// The cosine-power beam I0 cos^m of a full angle at half intensity, m = ln 0.5 / ln cos(beam / 2) (Moreno & Sun,
/// Optics Express 16:3, 2008; value from memory). `beam_deg` over 0 and under 180; 120 is Lambert's.
[[nodiscard]] Expected<LightDistribution> cosine_power_beam(double axis_candela, double beam_deg);
/// Lumens of that beam, 2 pi I0 / (m + 1).
[[nodiscard]] double cosine_power_lumens(double axis_candela, double beam_deg);

/// What a maker says of a light, in whichever words; absent is unknown.
struct LightFigures {
  std::optional<double> lumens, candela;        ///< candela along the axis
  std::optional<double> illuminance, distance;  ///< lux along the axis at metres
  std::optional<double> beam_deg;               ///< full angle at half intensity
  std::shared_ptr<const LightDistribution> measured;
};
/// What follows from it.
struct LightOutput {
  double lumens = 0;
  double axis_candela = 0;
  std::shared_ptr<const LightDistribution> distribution;  ///< nothing: Lambert's
  std::string derivation;                                 ///< how lumens came about; empty where they were given
};
/// A measured distribution goes first, with its own lumens where none are named; candela or lux with a beam give a
/// cosine-power beam, without one Lambert's (pi times the axis). Nothing where the figures say no output.
[[nodiscard]] std::optional<LightOutput> light_output(const LightFigures& figures);

}  // namespace cinnabar
