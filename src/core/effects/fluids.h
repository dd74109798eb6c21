// Liquids: jets, draining, sloshing and glycerin mixtures. SI.
#pragma once
#include "cinnabar/base/keys.h"

namespace cinnabar {

/// An unbroken jet after falling by `drop`, without surface tension (Batchelor, An Introduction to Fluid
/// Dynamics).
struct JetInputs {
  double nozzle_diameter, speed, drop;
  static Keys<JetInputs> keys();
};
struct Jet {
  double diameter, speed_at, flow_m3s;
  static Results<Jet> results();
};
[[nodiscard]] Expected<Jet> jet(const JetInputs&);

/// Time to empty through a small hole (Torricelli; Streeter & Wylie); a sharp hole has discharge 0.61.
struct DrainInputs {
  double level, area, hole_area, discharge;
  static Keys<DrainInputs> keys();
};
struct Drain {
  double time;
  static Results<Drain> results();
};
[[nodiscard]] Expected<Drain> drain(const DrainInputs&);

/// First zero of the derivative of J1: the first sloshing mode of a round vessel.
inline constexpr double first_zero_of_j1_prime = 1.84118378134;
/// That mode's part in the lean of a round vessel's surface, of what an even acceleration gives it at the wall.
inline constexpr double first_mode_share = 2.0 / (first_zero_of_j1_prime * first_zero_of_j1_prime - 1.0);
/// How fast it swings in an upright cylinder, rad/s, and how fast the layers at floor and wall calm it, 1/s
/// (Ibrahim 2005; Stokes layers). Radius, depth (m) and kinematic viscosity (m2/s) over 0.
[[nodiscard]] double sloshing_rate(double radius, double depth);
[[nodiscard]] double stokes_damping(double radius, double depth, double kinematic_viscosity);

/// First sloshing mode of an upright cylinder (Ibrahim, Liquid Sloshing Dynamics, 2005).
struct SloshInputs {
  double radius, depth;
  static Keys<SloshInputs> keys();
};
struct Slosh {
  double frequency_hz, period;
  static Results<Slosh> results();
};
[[nodiscard]] Expected<Slosh> slosh(const SloshInputs&);

/// Viscosity (Pa s) and density (kg/m3) of glycerin in water by mass (Cheng 2008, Ind. Eng. Chem. Res. 47:3285).
struct SprayMixInputs {
  double glycerin_fraction, temperature_c;
  static Keys<SprayMixInputs> keys();
};
struct SprayMix {
  double viscosity, density;
  static Results<SprayMix> results();
};
[[nodiscard]] Expected<SprayMix> spray_mix(const SprayMixInputs&);

}  // namespace cinnabar
