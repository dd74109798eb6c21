// Levers of the spot's levels. Each is verified on the changed project.
#pragma once
#include "cinnabar/forecast/forecast.h"

namespace cinnabar {

using SpotLevers = Forecaster::Levers (*)(const Forecaster&, const Document&, const Project&, const Level& own,
                                          const std::atomic<bool>* cancel);
/// Shots shortened or lengthened, all together or one alone, until the spot fills its slot.
[[nodiscard]] Forecaster::Levers spot_length_levers(const Forecaster&, const Document&, const Project&,
                                                    const Level& own, const std::atomic<bool>* cancel);
/// Every cut that is off a beat brought to the nearest one, the spot's length kept by the last shot.
[[nodiscard]] Forecaster::Levers spot_beats_levers(const Forecaster&, const Document&, const Project&,
                                                   const Level& own, const std::atomic<bool>* cancel);

}  // namespace cinnabar
