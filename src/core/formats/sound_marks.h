// Marks in sound, each beginning on its very sample.
#pragma once
#include <algorithm>
#include <cmath>
#include <vector>

#include "cinnabar/base/vec.h"

namespace cinnabar {

/// Pitch in hertz, the seconds in which it dies away to a third, and how loud, of 1.
struct Tone {
  double hertz, rings, loud;
};
/// A moment is told by its pitch, on the set and in the film alike.
inline constexpr double beat_hertz = 880.0, cut_hertz = 1760.0, event_hertz = 2637.0;
/// Adds a tone at `at` seconds; what lies outside of the sound is left out.
inline void add_mark(std::vector<float>& sound, int rate, double at, const Tone& tone) {
  if (!(at >= 0.0) || at * rate >= static_cast<double>(sound.size())) return;
  const auto from = static_cast<std::size_t>(std::llround(at * rate));
  // A cosine: loudest on its first sample, so that the mark lies there and nowhere else.
  for (std::size_t k = 0; from + k < sound.size(); ++k) {
    const double t = static_cast<double>(k) / rate, left = std::exp(-t / tone.rings);
    if (left < 1e-4) break;
    const double more = tone.loud * left * std::cos(2.0 * pi * tone.hertz * t);
    sound[from + k] = std::clamp(sound[from + k] + static_cast<float>(more), -1.0f, 1.0f);
  }
}

}  // namespace cinnabar
