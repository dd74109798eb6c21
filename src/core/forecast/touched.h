// What a change to a set-up does to the other shots on it and on its variations.
#pragma once
#include <atomic>
#include <optional>
#include <vector>

#include "cinnabar/forecast/forecast.h"

namespace cinnabar {

/// One shot that a change touches, by its place after it, and which of its levels change their state or move by a
/// quarter of their band or more, the worst first.
struct Touched {
  std::size_t shot = 0;
  std::vector<MovedLevel> moved;
};
/// Every shot that is there before and after a change and whose set-up it changes, but `own`, in the order of the
/// spot; nothing when cancelled. Levels are looked at roughly, with the same samples before and after, and closely
/// where any of them moves.
[[nodiscard]] std::vector<Touched> touched(const Forecaster& forecaster, const Document& before,
                                           const Document& after, std::optional<std::size_t> own = {},
                                           const std::atomic<bool>* cancel = nullptr);

}  // namespace cinnabar
