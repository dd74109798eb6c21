// What the edit keeps of the recorded frame.
#pragma once
#include "cinnabar/scene/view.h"

namespace cinnabar {

/// What is kept at the least of a delivered frame's width: by the shot's `crop_share`, and by its crop track,
/// which counts shares of the recorded frame.
[[nodiscard]] double kept_share(const Shot& shot, const DeliveredFrame& frame, const ShotOptics& optics);

}  // namespace cinnabar
