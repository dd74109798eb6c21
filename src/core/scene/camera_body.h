// The camera as a body: what mirrors see of it, and the light that it keeps off.
#pragma once
#include "cinnabar/scene/staged.h"

namespace cinnabar {

/// A black box of the body's measures behind a lens as long as it is deep and as wide as two thirds of its lesser
/// side (common practice, no source), all of it behind the pupil, wherever the camera goes during the exposure.
/// Nothing of a camera whose measures the kit does not tell. A mesh of `Role::gear` that is no thing of the
/// set-up.
void stage_camera_body(const Project& project, const Shot& shot, StagedWorld& world);

}  // namespace cinnabar
