// Pours: over a lip, out of a neck, jets and threads, vessels that fill, tilt, stop and start. SI.
#pragma once
#include <array>
#include <optional>
#include <vector>

#include "cinnabar/base/keys.h"

namespace cinnabar {

/// A pour over a lip `width` wide with `head` of liquid over it (weir: ISO 1438; brink depth: Rouse 1936; both
/// value from memory), leaving `leave_deg` below level and falling freely. A millimetre of ten of head is 15 % of
/// the flow; under 0.3 m/s it may run down the outside (common practice, no source).
struct LipPourInputs {
  double width, head, leave_deg, height;
  static Keys<LipPourInputs> keys();
};
struct LipPour {
  double flow, speed, time, reach, landing_speed, landing_diameter;
  static Results<LipPour> results();
};
[[nodiscard]] Expected<LipPour> lip_pour(const LipPourInputs&);

/// A bottle upside down: glugging (Clanet & Searby 2004, value from memory; within a fifth) and vented
/// (Torricelli).
struct NeckPourInputs {
  double neck_diameter, head, volume;
  static Keys<NeckPourInputs> keys();
};
struct NeckPour {
  double glug_flow, glug_time, vented_speed, vented_flow;
  static Results<NeckPour> results();
};
[[nodiscard]] Expected<NeckPour> neck_pour(const NeckPourInputs&);

/// Where a falling jet breaks into drops (Weber 1931; growth summed to 12: value from memory). Within 30 %; a
/// shaken stream breaks at two thirds of the sum, honey holds longer. Under a Weber number of 4 a thin liquid
/// drips.
struct JetBreakupInputs {
  double nozzle_diameter, speed, density, viscosity, surface_tension;
  static Keys<JetBreakupInputs> keys();
};
struct JetBreakup {
  double weber, ohnesorge, time, drop, diameter, drop_diameter;
  static Results<JetBreakup> results();
};
[[nodiscard]] Expected<JetBreakup> jet_breakup(const JetBreakupInputs&);

/// How fast a thread of thick liquid goes as it falls, stretched by its weight (Clarke 1968, value from memory).
class ThreadProfile {
 public:
  /// Of a thread that begins at `speed` (m/s, over 0) and is of `kinematic_viscosity` (m2/s, over 0).
  ThreadProfile(double speed, double kinematic_viscosity);
  /// How fast it goes after a drop, metres.
  [[nodiscard]] double speed_at(double drop) const;

 private:
  [[nodiscard]] double at(double x) const;
  double begins_, viscosity_, scale_, from_ = 0;
};

/// A thread of thick liquid drawn thin by its fall (Clarke 1968), and whether and how it coils (Cruickshank &
/// Munson 1981; Ribe 2004; all value from memory). Speed within 10 %, coils within a factor of two.
struct ViscousThreadInputs {
  double nozzle_diameter, speed, kinematic_viscosity, drop;
  static Keys<ViscousThreadInputs> keys();
};
struct ViscousThread {
  double speed_at, diameter;
  bool coils;
  std::optional<double> coil_radius, coil_hz;
  static Results<ViscousThread> results();
};
[[nodiscard]] Expected<ViscousThread> viscous_thread(const ViscousThreadInputs&);

/// Level after a `volume` was poured into a vessel of revolution, what ran over, and what it still took before.
struct FillInputs {
  std::vector<std::array<double, 2>> profile;
  double level, volume, flow;
  static Keys<FillInputs> keys();
};
struct Fill {
  double level_after, overflow, room, full_time;
  static Results<Fill> results();
};
[[nodiscard]] Expected<Fill> fill(const FillInputs&);

/// What an upright cylinder holds when it is tilted (closed form of the ungula), and at which angle it begins to
/// spill.
struct TiltHoldInputs {
  double radius, height, depth, angle_deg;
  static Keys<TiltHoldInputs> keys();
};
struct TiltHold {
  std::optional<double> spill_angle_deg;
  double held_volume, spilled_volume;
  static Results<TiltHold> results();
};
[[nodiscard]] Expected<TiltHold> tilt_hold(const TiltHoldInputs&);

/// A vessel moving at `speed` is stopped within `stop_time`: height of the first mode at the wall, and how long
/// until a tenth of it is left (Ibrahim 2005; Stokes layers; real liquids calm one and a half to three times
/// quicker: common practice, no source). Linear up to 0.3 of the radius.
struct SloshStopInputs {
  double radius, depth, speed, stop_time, kinematic_viscosity;
  static Keys<SloshStopInputs> keys();
};
struct SloshStop {
  double amplitude, frequency_hz, decay_time;
  static Results<SloshStop> results();
};
[[nodiscard]] Expected<SloshStop> slosh_stop(const SloshStopInputs&);

/// A vessel pushed off with an even `acceleration` for `time`: lean of the surface under it, and the wave that is
/// left at the wall afterwards, which is none after one period (Ibrahim 2005). Without damping, for small waves.
struct StartSloshInputs {
  double radius, depth, acceleration, time;
  static Keys<StartSloshInputs> keys();
};
struct StartSlosh {
  double frequency_hz, tilt_deg, wave, quiet_time;
  static Results<StartSlosh> results();
};
[[nodiscard]] Expected<StartSlosh> start_slosh(const StartSloshInputs&);

}  // namespace cinnabar
