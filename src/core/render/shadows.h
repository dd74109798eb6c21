// Shadows alone: what direct light is kept from each place of a picture.
#pragma once
#include <atomic>
#include <string>
#include <vector>

#include "cinnabar/render/tracer.h"

namespace cinnabar {

/// Share of the direct light of the lights that are on, 0 to 1, which is kept from each place of the picture by
/// what stands before it or because it is turned away: row by row from the top left, in the middle of each pixel
/// and of the exposure. `now` has the lights as they are switched and dimmed, arranged as the tracer knows them;
/// `solo` takes one alone. 0 where no light is on and where nothing or a light is seen. Repeatable; empty when
/// cancelled.
[[nodiscard]] std::vector<float> shadows_alone(const Tracer& tracer, const StagedWorld& now, int width, int height,
                                               const std::string& solo = {},
                                               const std::atomic<bool>* cancel = nullptr);

}  // namespace cinnabar
