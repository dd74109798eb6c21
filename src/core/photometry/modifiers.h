// What stands before a lamp and what it throws on: diffusion, beads, lenses, tubes, gates, grids, cards,
// backdrops. Luminance in candela per square metre, illuminance in lux, lengths in metres.
#pragma once
#include <optional>

#include "cinnabar/base/keys.h"

namespace cinnabar {

/// A sheet of diffusion before a lamp of intensity `candela` cos^exponent at `gap`, seen from far on the axis: its
/// luminance in the middle and at `half_size` from it. Of what is let through a share `forward` goes on in a lobe
/// cos^lobe about the ray, the rest as from a Lambertian face (Lafortune & Willems 1994, value from memory).
/// Within 1 % where the gap is five lamp widths or more; the lobe never gains.
struct DiffusionSheetInputs {
  double candela, exponent, gap, half_size, transmittance, forward, lobe;
  static Keys<DiffusionSheetInputs> keys();
};
struct DiffusionSheet {
  double luminance_centre, luminance_edge, stops;
  static Results<DiffusionSheet> results();
};
[[nodiscard]] Expected<DiffusionSheet> diffusion_sheet(const DiffusionSheetInputs&);

/// How a square grid of bare beads, each cos^exponent, `pitch` apart, shows on a sheet `gap` before it: greatest
/// over a bead, least amid four (Abramowitz & Stegun 11.4.44, Poisson's sum). For a Lambertian sheet; a lobe shows
/// more.
struct BeadRippleInputs {
  double pitch, gap, exponent;
  static Keys<BeadRippleInputs> keys();
};
struct BeadRipple {
  double ripple, stops;
  static Results<BeadRipple> results();
};
[[nodiscard]] Expected<BeadRipple> bead_ripple(const BeadRippleInputs&);

/// What a sheet `gap` before such a grid gets at (x, y) from a bead, against what that one alone gives over
/// itself: of the beads up to `far` away each way. Lengths in pitches.
[[nodiscard]] double beads_near(double exponent, double gap, int far, double x, double y);

/// A disc of `luminance` behind a thin lens, focused by its `source_distance` (at most the focal length): candela
/// on the axis and at an angle, and the full angle at half of the axis (luminance is kept: Born & Wolf). Within a
/// fifth of real lamps; measured tables go first.
struct FresnelSpotInputs {
  double luminance, source_radius, lens_radius, focal, source_distance, transmittance, angle_deg;
  static Keys<FresnelSpotInputs> keys();
};
struct FresnelSpot {
  double candela, candela_at, beam_deg;
  static Results<FresnelSpot> results();
};
[[nodiscard]] Expected<FresnelSpot> fresnel_spot(const FresnelSpotInputs&);

/// A tube before a round source: radius of what sees all of the source and of what sees any of it at `distance`
/// from the source, the edge between them, and the share of the source that the axis sees.
struct SnootInputs {
  double source_radius, length, mouth_radius, distance;
  static Keys<SnootInputs> keys();
};
struct Snoot {
  double full_radius, outer_radius, edge, axis_share;
  static Results<Snoot> results();
};
[[nodiscard]] Expected<Snoot> snoot(const SnootInputs&);

/// A gate projected by a lens: size of the pool, width of its edge, and where the edge is sharp.
struct FramingShutterInputs {
  double gate, gate_distance, focal, aperture, distance;
  static Keys<FramingShutterInputs> keys();
};
struct FramingShutter {
  double pool, edge;
  std::optional<double> sharp_at;
  static Results<FramingShutter> results();
};
[[nodiscard]] Expected<FramingShutter> framing_shutter(const FramingShutterInputs&);

/// A honeycomb grid that passes half at `grid_deg` / 2 and falls in a straight line over the tangent (common
/// practice, no source): what it passes at an angle, where it passes nothing, and the share of a Lambertian face's
/// flux.
struct GridInputs {
  double grid_deg, angle_deg;
  static Keys<GridInputs> keys();
};
struct Grid {
  double transmittance, cut_off_deg, flux_share;
  static Results<Grid> results();
};
[[nodiscard]] Expected<Grid> grid(const GridInputs&);

/// An even lamp over the middle of a matt card, `throw` before it, read on a parallel patch at `distance` from the
/// card and `offset` aside along its width (Lambert; summed to one part in ten thousand).
struct BounceInputs {
  double candela, throw_m, width, height, reflectance, distance, offset;
  static Keys<BounceInputs> keys();
};
struct Bounce {
  double illuminance_lx, card_centre_lx;
  static Results<Bounce> results();
};
[[nodiscard]] Expected<Bounce> bounce(const BounceInputs&);

/// A point lamp of `candela` before an upright or tilted backdrop: illuminance at its foot and top, the stops
/// between them, and the most over the least on its middle line. Within 1 % from five lamp widths on.
struct BackdropGradientInputs {
  double candela, lamp_height, lamp_distance, height, tilt_deg;
  static Keys<BackdropGradientInputs> keys();
};
struct BackdropGradient {
  double foot_lx, top_lx, stops, spread;
  static Results<BackdropGradient> results();
};
[[nodiscard]] Expected<BackdropGradient> backdrop_gradient(const BackdropGradientInputs&);

}  // namespace cinnabar
