// What of a shot bears on safety, for the cautions beside its plan.
#pragma once
#include "cinnabar/planning/cautions.h"
#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// Lights that burn in the set-up, what stands near them, what turns and what flashes.
[[nodiscard]] HazardInputs hazards_of(const Project& project, const Shot& shot);

}  // namespace cinnabar
