// Lambertian sources in closed form (Howell, Configuration Factors), soft edges and stripes.
// Luminance in candela per square metre, illuminance in lux, lengths in metres.
#pragma once
#include <array>
#include <optional>
#include <span>
#include <string_view>

#include "cinnabar/base/keys.h"
#include "cinnabar/base/vec.h"

namespace cinnabar {

/// Illuminance from a rectangle on a parallel patch on the normal through its centre.
struct RectIlluminanceInputs {
  double luminance, width, height, distance;
  static Keys<RectIlluminanceInputs> keys();
};
struct Illuminance {
  double illuminance_lx;
  static Results<Illuminance> results();
};
[[nodiscard]] Expected<Illuminance> rect_illuminance(const RectIlluminanceInputs&);

/// The same from a disc.
struct DiscIlluminanceInputs {
  double luminance, radius, distance;
  static Keys<DiscIlluminanceInputs> keys();
};
[[nodiscard]] Expected<Illuminance> disc_illuminance(const DiscIlluminanceInputs&);

/// Illuminance from a Lambertian polygon of any number of `corners` on a patch at `point` with unit `normal`,
/// the part under the patch's horizon cut off (Lambert 1760). One-sidedness is the caller's matter.
[[nodiscard]] double polygon_illuminance(double luminance, std::span<const Vec3> corners, const Vec3& point,
                                         const Vec3& normal);

/// Illuminance from a uniform sphere of luminance 1 on a patch, its horizon taken into account
/// (by the spherical cap's projected area, integrated in closed form over its visible part).
[[nodiscard]] double sphere_illuminance(double luminance, const Vec3& centre, double radius, const Vec3& point,
                                        const Vec3& normal);

/// Point-source law, within 1 % from five source widths on.
struct BeamInputs {
  double candela, distance;
  static Keys<BeamInputs> keys();
};
[[nodiscard]] Expected<Illuminance> beam(const BeamInputs&);

/// Intensity of lumens spread evenly in a cone of full angle `beam_angle_deg`.
struct BeamLumensInputs {
  double lumens, beam_angle_deg;
  static Keys<BeamLumensInputs> keys();
};
struct Candela {
  double candela;
  static Results<Candela> results();
};
[[nodiscard]] Expected<Candela> beam_lumens(const BeamLumensInputs&);

/// Luminance of a Lambertian face that passes `transmittance` of `lumens`.
struct SoftboxInputs {
  double lumens, transmittance, width, height;
  static Keys<SoftboxInputs> keys();
};
struct Luminance {
  double luminance;
  static Results<Luminance> results();
};
[[nodiscard]] Expected<Luminance> softbox(const SoftboxInputs&);

/// Width of a shadow's edge: `source_distance` to the casting edge, `gap` from it to the surface.
struct PenumbraInputs {
  double source_size, source_distance, gap;
  static Keys<PenumbraInputs> keys();
};
struct Penumbra {
  double width;
  static Results<Penumbra> results();
};
[[nodiscard]] Expected<Penumbra> penumbra(const PenumbraInputs&);

/// Widths of a shadow's edge on a level surface: of an edge at height `gap`, `source_distance` from a face that
/// stands `elevation_deg` above it. Sizes are square to the ray, one in its upright plane, one level. `along` is
/// of an edge across the light's run, `across` of one that lies along it.
struct ShadowEdgeInputs {
  double size_along, size_across, source_distance, elevation_deg, gap;
  static Keys<ShadowEdgeInputs> keys();
};
struct ShadowEdge {
  double along, across;
  static Results<ShadowEdge> results();
};
[[nodiscard]] Expected<ShadowEdge> shadow_edge(const ShadowEdgeInputs&);

/// Where an upright strip is mirrored in a glossy cylinder seen from far, in plan. `source_distance` from the
/// axis to the strip's centre must exceed `radius`; bearings positive to camera right.
struct CylinderStripeInputs {
  double camera_bearing_deg, source_bearing_deg, source_width, source_distance, radius;
  static Keys<CylinderStripeInputs> keys();
};
struct CylinderStripe {
  std::optional<double> centre_fraction;  ///< -1 left edge to +1 right edge of the visible width
  double width_fraction;                  ///< share of the visible width
  static Results<CylinderStripe> results();
};
[[nodiscard]] Expected<CylinderStripe> cylinder_stripe(const CylinderStripeInputs&);
/// The angle from the camera, radians, at which a far camera sees a point mirrored that stands `phi` from it and
/// `distance` from the axis of a cylinder of `radius`.
[[nodiscard]] double mirroring_angle(double phi, double distance, double radius);

/// Ripple left by mains-driven light after an exposure of `time`; `depth` = (max - min) / (max + min).
struct FlickerInputs {
  double mains_hz, depth, time;
  static Keys<FlickerInputs> keys();
};
struct Flicker {
  double cycles, residual;
  bool safe;  ///< the time is a whole number of half periods within 1 %
  static Results<Flicker> results();
};
[[nodiscard]] Expected<Flicker> flicker(const FlickerInputs&);

/// Place of the sun (Meeus, Astronomical Algorithms, 2nd ed.); azimuth from north clockwise, altitude geometric.
/// `utc` is "YYYY-MM-DDTHH:MM", 1901 to 2099; longitude east positive.
struct SunInputs {
  double latitude, longitude;
  std::string utc;
  static Keys<SunInputs> keys();
};
struct Sun {
  double azimuth_deg, altitude_deg;
  static Results<Sun> results();
};
[[nodiscard]] Expected<Sun> sun(const SunInputs&);
/// The same at a Julian day (UTC).
[[nodiscard]] Sun sun_at(double latitude, double longitude, double julian_day);
/// Julian day of "YYYY-MM-DDTHH:MM" (seconds or a Z may follow), a real Gregorian date of 1901 to 2099.
[[nodiscard]] std::optional<double> julian_day(std::string_view utc);

}  // namespace cinnabar
