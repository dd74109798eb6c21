// The run of screen time in which a label can be read, for its level and for the band on the turntable's track.
#pragma once
#include "cinnabar/forecast/context.h"

namespace cinnabar {

inline constexpr double facing_within_deg = 20.0;

/// Screen seconds; empty (`from` = `to`) where the label does not face at the moment asked.
struct FacingRun {
  double from, to;
  double off_deg;  ///< how far the label is turned away at the moment asked
};
/// Nothing when the shot asks for none, or has no label.
[[nodiscard]] std::optional<FacingRun> facing_run(const ShotContext& context);

}  // namespace cinnabar
