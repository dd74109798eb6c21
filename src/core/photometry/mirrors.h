// What round, flat and glossy things mirror, and what a polarising filter takes of it. Lengths in metres.
#pragma once
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/base/keys.h"

namespace cinnabar {

/// Where an upright glossy cylinder at the origin mirrors a point to a near camera (Alhazen's problem, in plan;
/// slope is kept): bearing of the place from the camera's, its height, its fraction of the visible half-width, and
/// the angle of incidence in space. Nothing where it is out of sight.
struct RoundMirrorInputs {
  double camera_distance, camera_height, source_bearing_deg, source_distance, source_height, radius;
  static Keys<RoundMirrorInputs> keys();
};
struct RoundMirror {
  std::optional<double> bearing_deg, height, fraction, incidence_deg;
  static Results<RoundMirror> results();
};
[[nodiscard]] Expected<RoundMirror> round_mirror(const RoundMirrorInputs&);

/// A lit backdrop behind a glossy cylinder, seen from far: the rim on each side in which it is mirrored, as a
/// share of the visible width, the angle of incidence at its inner end, and the reflectance there and over the
/// rim.
struct BackdropRimInputs {
  double width, distance, radius, ior;
  static Keys<BackdropRimInputs> keys();
};
struct BackdropRim {
  double rim_share;
  std::optional<double> inner_incidence_deg, reflectance_inner, reflectance_mean;
  static Results<BackdropRim> results();
};
[[nodiscard]] Expected<BackdropRim> backdrop_rim(const BackdropRimInputs&);

/// An ideal polarising filter turned `turn_deg` from best before a smooth dielectric: glare that it passes, and
/// glare against matt light, half of which it passes (Born & Wolf). For unpolarised light; not for metals.
struct PolariserInputs {
  double ior, angle_deg, turn_deg;
  static Keys<PolariserInputs> keys();
};
struct Polariser {
  double brewster_deg, glare_passed, glare_to_diffuse;
  static Results<Polariser> results();
};
[[nodiscard]] Expected<Polariser> polariser(const PolariserInputs&);

}  // namespace cinnabar
