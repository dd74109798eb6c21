// White points, mired and the look of one white under another balance.
#pragma once
#include <array>
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/base/keys.h"
#include "cinnabar/base/vec.h"

namespace cinnabar {

/// CIE 1931 chromaticity.
struct Chromaticity {
  double x, y;
};

/// Chromaticity of a white at `kelvin`, 1667 to 25000 K: CIE daylight locus from 4000 K up (CIE 15:2004),
/// the cubic fit of the Planckian locus below (Kim et al. 2002). Fails outside.
[[nodiscard]] Expected<Chromaticity> white_point(double kelvin);

/// Mired shift from one colour temperature (K) to another.
struct MiredInputs {
  double from_k, to_k;
  static Keys<MiredInputs> keys();
};
struct Mired {
  double shift;
  static Results<Mired> results();
};
[[nodiscard]] Expected<Mired> mired(const MiredInputs&);

/// Colour temperature after a gel of `mired_shift`; the sum 10^6/kelvin + shift must stay positive.
struct GelInputs {
  double kelvin, mired_shift;
  static Keys<GelInputs> keys();
};
struct Gel {
  double kelvin;
  static Results<Gel> results();
};
[[nodiscard]] Expected<Gel> gel(const GelInputs&);

/// Linear BT.709 of a perfect white under `scene_k` seen by a camera balanced to `balance_k`, by Bradford
/// adaptation, divided so that g = 1. 1667 to 25000 K each.
struct WhiteInputs {
  double scene_k, balance_k;
  static Keys<WhiteInputs> keys();
};
struct White {
  double r, g, b;
  std::string srgb;  ///< "#rrggbb", scaled to its largest channel
  static Results<White> results();
};
[[nodiscard]] Expected<White> white(const WhiteInputs&);

/// Linear BT.709 of a colour in CIE XYZ, Y of its white as the bands' own.
[[nodiscard]] std::array<double, 3> rgb_of_xyz(const std::array<double, 3>& colour);

/// A coloured gel before a light of `kelvin`: chromaticity behind it, and what it lets through, by three linear
/// BT.709 bands. Within 0.05 in x and y where it is deep (common practice, no source). Nothing where no light is
/// left.
struct GelColourInputs {
  double kelvin;
  std::vector<double> bands;
  static Keys<GelColourInputs> keys();
};
struct GelColour {
  std::optional<double> x, y, transmittance, stops;
  static Results<GelColour> results();
};
[[nodiscard]] Expected<GelColour> gel_colour(const GelColourInputs&);

/// As `white`, without the text: what the film multiplies a light's layer by. Out of range is held at the ends.
/// `duv`: how far the scene's white is off the locus along its normal in CIE 1960 (u, v), above 0 greener.
[[nodiscard]] Rgb white_rgb(double scene_k, double balance_k, double duv = 0.0);

/// One source of a mixed light: its white, kelvin, and how much of it there is (lux, or any other measure).
struct WhiteShare {
  double kelvin, amount;
};
/// The white of several lights mixed (Grassmann's laws), as the correlated colour temperature: that of the black
/// body nearest in CIE 1960 (u, v) (CIE 15:2004), by the cubic fits of the locus (Kim et al. 2002). 1667 to 25000
/// K; nothing where there is no light.
[[nodiscard]] std::optional<double> mixed_white(const std::vector<WhiteShare>& shares);

/// sRGB transfer (IEC 61966-2-1) of a linear value; not clamped.
[[nodiscard]] double srgb_encode(double linear);
[[nodiscard]] double srgb_decode(double encoded);
/// Relative luminance of linear BT.709.
[[nodiscard]] inline float luminance(const Rgb& c) {
  return 0.2126729f * c.x + 0.7151522f * c.y + 0.0721750f * c.z;
}

}  // namespace cinnabar
