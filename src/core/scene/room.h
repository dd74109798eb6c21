// Walls, ceiling and floor of the room about a set.
#pragma once
#include "cinnabar/scene/staged.h"

namespace cinnabar {

/// A room's sides that face inward, as meshes of `Role::room`; their thing is its place among left, right, front,
/// back, ceiling, floor. A side that the eye is behind is left out, so that a camera outside sees in. Nothing of a
/// room without measures.
void stage_room(const Room& room, const Vec3& eye, StagedWorld& world);

}  // namespace cinnabar
