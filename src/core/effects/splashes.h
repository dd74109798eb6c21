// What falls into liquid and what hangs on glass: cavities, crowns, drops, beads. SI.
#pragma once
#include <array>
#include <optional>
#include <vector>

#include "cinnabar/base/keys.h"

namespace cinnabar {

/// Something falls into a deep liquid: cavity (Engel 1966; Pumphrey & Elmore 1990), crown within a half (common
/// practice, no source), the most that can spill over a rim, and when and where the cavity seals behind it
/// (Gilbarg & Anderson 1948; all value from memory). `energy_share` is 0.5 to 1 for a drop, 0.2 to 0.4 for a solid
/// that sinks on (common practice).
struct PlungeInputs {
  double mass, diameter, speed, density, energy_share, freeboard;
  static Keys<PlungeInputs> keys();
};
struct Plunge {
  double cavity_radius, open_time, crown_height, most_spilled, seal_time, seal_depth;
  static Results<Plunge> results();
};
[[nodiscard]] Expected<Plunge> plunge(const PlungeInputs&);

/// A drop on a dry top (film 0: Laan et al. 2014) or on a film (Yarin & Weiss 1995; fitted for films of 0.1 to 1
/// diameter): whether it splashes, and how far it spreads. Value from memory.
struct DropImpactInputs {
  double diameter, speed, density, viscosity, surface_tension, film;
  static Keys<DropImpactInputs> keys();
};
struct DropImpact {
  double weber, reynolds, ohnesorge, splash_number, splash_limit;
  bool splashes;
  std::optional<double> spread_factor;
  static Results<DropImpact> results();
};
[[nodiscard]] Expected<DropImpact> drop_impact(const DropImpactInputs&);

/// Drops of a splash or spray of `volume`: their expected number, and their sizes by a Gamma distribution of
/// `order`, 4 for a crown and 10 for smooth threads (Villermaux et al. 2004, value from memory).
struct SprayCountInputs {
  double volume, mean_diameter, order;
  static Keys<SprayCountInputs> keys();
};
struct SprayCount {
  double drops, sauter_diameter, tenth, ninetieth;
  static Results<SprayCount> results();
};
[[nodiscard]] Expected<SprayCount> spray_count(const SprayCountInputs&);

/// The largest drop that a slope holds by the difference of its contact angles (Furmidge 1962; ElSherbini & Jacobi
/// 2006, value from memory), as a cap at their mean. Within 40 %.
struct BeadHoldInputs {
  double advancing_deg, receding_deg, surface_tension, density, slope_deg;
  static Keys<BeadHoldInputs> keys();
};
struct BeadHold {
  double contact_diameter, volume, height;
  static Results<BeadHold> results();
};
[[nodiscard]] Expected<BeadHold> bead_hold(const BeadHoldInputs&);

/// How long a pinned drop of water stays on glass in still air (Hu & Larson 2002; vapour: Magnus; value from
/// memory). A fan halves it.
struct BeadDryInputs {
  double contact_radius, contact_angle_deg, temperature_c, humidity;
  static Keys<BeadDryInputs> keys();
};
struct BeadDry {
  double volume, life;
  static Results<BeadDry> results();
};
[[nodiscard]] Expected<BeadDry> bead_dry(const BeadDryInputs&);

}  // namespace cinnabar
