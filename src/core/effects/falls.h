// Things let go: falls, layers that land together, swings (Halliday & Resnick, Fundamentals of Physics;
// Timmerman & van der Weele 1999, Am. J. Phys. 67:538). SI, g = 9.80665 m/s2 (CGPM 1901).
#pragma once
#include <vector>

#include "cinnabar/base/keys.h"
#include "cinnabar/base/vec.h"

namespace cinnabar {

/// A fall from rest; `terminal_speed` 0 means no drag, else quadratic drag.
struct FallInputs {
  double height, terminal_speed;
  static Keys<FallInputs> keys();
};
struct Fall {
  double time, speed;
  static Results<Fall> results();
};
[[nodiscard]] Expected<Fall> fall(const FallInputs&);

/// Release times so that each layer (bottom first) lands `stagger` after the one below it; the earliest is 0.
struct LayerReleaseInputs {
  std::vector<double> heights;
  double stagger;
  static Keys<LayerReleaseInputs> keys();
};
struct LayerRelease {
  std::vector<double> offsets;
  static Results<LayerRelease> results();
};
[[nodiscard]] Expected<LayerRelease> layer_release(const LayerReleaseInputs&);

/// A pendulum let go from rest at `angle_deg` (0 to under 180), without air (Abramowitz & Stegun 17.6).
struct SwingInputs {
  double length, angle_deg;
  static Keys<SwingInputs> keys();
};
struct Swing {
  double time_to_bottom, speed_at_bottom, period;
  static Results<Swing> results();
};
[[nodiscard]] Expected<Swing> swing(const SwingInputs&);

}  // namespace cinnabar
