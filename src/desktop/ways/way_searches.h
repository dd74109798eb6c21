// What can be looked for: each gives the core's answers as ways that can be tried and taken.
#pragma once
#include <set>

#include "cinnabar/desktop/workers/seeker.h"
#include "cinnabar/forecast/solvers/solvers.h"
#include "cinnabar/forecast/wishes/wishes.h"

namespace cinnabar {

[[nodiscard]] WaySearch waysToWishes(const Forecaster& forecaster, std::vector<Wish> wishes);
[[nodiscard]] WaySearch waysToLight(const Forecaster& forecaster);
[[nodiscard]] WaySearch waysToExpose(const Forecaster& forecaster, std::set<std::string> pins);
[[nodiscard]] WaySearch waysToMove(const Forecaster& forecaster, SolveRequest request);
[[nodiscard]] WaySearch waysWithFewerLights(const Forecaster& forecaster);

}  // namespace cinnabar
