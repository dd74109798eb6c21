// The runs of a shot in which a label can be read and a light is at its brightest, for their levels and for the
// bands on the tracks.
#pragma once
#include "cinnabar/forecast/levels/context.h"

namespace cinnabar {

inline constexpr double facing_within_deg = 20.0;

/// Screen seconds; empty (`from` = `to`) where the label does not face at the moment asked.
struct FacingRun {
  double from, to;
  double off_deg;  ///< how far the label is turned away at the moment asked
};
/// Nothing when the shot asks for none, or has no label.
[[nodiscard]] std::optional<FacingRun> facing_run(const ShotContext& context);

inline constexpr double peak_within_percent = 5.0;

/// What an upright patch at a place, facing a bearing, gets of a light as it is dimmed, where nothing is between:
/// of a small one, by distance and both cosines; to a factor that stays the same for the same light.
[[nodiscard]] double upright_patch_gets(const Light& light, const Vec3& place, double bearing_deg);

/// Set seconds in which the light of `needs.peak` is at its brightest toward the label's facing.
struct PeakRun {
  double from, to;
  double at, off_deg;  ///< the best moment of them, and how far the label is turned away then
};
/// Nothing when the shot asks for none, the light stands and burns evenly, or there is no label.
[[nodiscard]] std::optional<PeakRun> peak_run(const ShotContext& context);

}  // namespace cinnabar
