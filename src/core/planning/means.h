// Means of a day: load on a circuit, size of the recordings, takes still to come. SI unless a key says otherwise.
#pragma once
#include <optional>

#include "cinnabar/base/keys.h"

namespace cinnabar {

/// Current on one circuit at power factor 1; continuous load is at most 80 % of the breaker (NFPA 70 art. 210).
struct LoadInputs {
  double watts, volts, breaker_a;
  static Keys<LoadInputs> keys();
};
struct Load {
  double amps, share;
  bool continuous_ok;
  static Results<Load> results();
};
[[nodiscard]] Expected<Load> load(const LoadInputs&);

/// Gigabytes recorded (IEC 80000-13 decimal units).
struct MediaInputs {
  double megabits_per_s, seconds;
  static Keys<MediaInputs> keys();
};
struct Media {
  double gigabytes;
  static Results<Media> results();
};
[[nodiscard]] Expected<Media> media(const MediaInputs&);

}  // namespace cinnabar
