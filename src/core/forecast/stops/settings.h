// Settings of camera and lights that expose a shot: how they are dialled in, and which of them stand.
#pragma once
#include "cinnabar/forecast/forecast.h"
#include "cinnabar/forecast/levers/bench.h"

namespace cinnabar {

/// A quarter of what camera.stops allows, in stops: lights that change by less are left alone.
inline constexpr double stops_slack = 1.0 / 12;

struct Setting {
  double f_number, shutter_time, iso, nd_stops;
  double light;  ///< change of all lights that are on, in stops
};
/// The document with a setting in it; nothing where it cannot be.
[[nodiscard]] Maybe dialled(const Bench& bench, const Setting& setting);

/// Dimmers of the lights that may be dimmed, by pointer: those that are on, not on a track and not of the day.
using Dimmers = std::vector<std::pair<std::string, double>>;
[[nodiscard]] Dimmers dimmers_of(const Bench& bench);
/// All turned by so many stops, none past full.
[[nodiscard]] Values dimmed_by(const Dimmers& dimmers, double stops);
/// By how many stops they can all go up and down; without any there is no room.
struct DimmerRoom {
  double up = 0.0, down = 0.0;
};
[[nodiscard]] DimmerRoom room_of(const Dimmers& dimmers);

/// How many of `levels`, which need no light, are out with the camera's `member` ("/iso") at each of `values`;
/// nothing where a value cannot be set.
[[nodiscard]] std::vector<std::optional<int>> out_at(const Forecaster& forecaster, const Bench& bench,
                                                     const std::string& member, const std::vector<double>& values,
                                                     const std::vector<std::string>& levels);

/// How a shot is exposed as it is, in stops from its target at the moments that get least and most light: + is too
/// much. The same but where the light itself changes over the shot.
struct Exposed {
  double least = 0.0, most = 0.0;
  Band band;  ///< of camera.stops
  [[nodiscard]] double middle() const { return 0.5 * (least + most); }
};
/// Fails where it has no camera or no light to be exposed for.
[[nodiscard]] Expected<Exposed> exposure_now(const Forecaster& forecaster, const Bench& bench,
                                             const std::atomic<bool>* cancel);

/// Levels that an aperture, a shutter and an ISO decide without light.
[[nodiscard]] const std::vector<std::string>& aperture_levels();
[[nodiscard]] const std::vector<std::string>& shutter_levels();
/// The highest ISO that the house rule allows.
[[nodiscard]] double highest_iso(const Forecaster& forecaster, const Bench& bench);

}  // namespace cinnabar
