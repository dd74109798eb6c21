// A picture at once, as fine as there is time for.
#pragma once
#include <atomic>
#include <optional>

#include "cinnabar/render/tracer.h"

namespace cinnabar {

/// One pass over a film of at most `width` x `height` pixels, for pictures. A sixteenth of them is traced first;
/// where its pace says that all of them take longer than `seconds`, as many as do not. At the least that sixteenth
/// comes back. Nothing where `cancel` was set meanwhile.
[[nodiscard]] std::optional<Film> first_look(const Tracer& tracer, int width, int height, double seconds,
                                             const std::atomic<bool>* cancel = nullptr);

}  // namespace cinnabar
