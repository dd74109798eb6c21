// The modes of the cameras against what the shots want: what each lacks, what it costs in light, and which to take
// with the fewest changes over the spot.
#pragma once
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// What a shot wants of a mode and does not get: its frame rate, the delivered size, autofocus where the house
/// rule is to lock it. In words; `asked` counts what was asked for.
struct ModeFit {
  int asked = 0;
  std::vector<std::string> lacks;
};
[[nodiscard]] ModeFit mode_fit(const Project& project, const Shot& shot, const CameraMode& mode);

/// A row of the table: one mode of one camera that is owned or used. Its fits ask besides for a recorded frame for
/// every one that is shown where the shot plays slowest.
struct ModeRow {
  std::shared_ptr<const CameraBody> body;
  const CameraMode* mode;  ///< of the body
  double slowed;  ///< share of its speed at which it plays, conformed to the timeline; 1 where it is no quicker
  double light_stops;         ///< lost against the timeline's rate at the same shutter angle, at least 0
  std::vector<ModeFit> fits;  ///< by shot, in the spot's order
};
struct ModeTable {
  std::vector<ModeRow> rows;
  std::vector<std::optional<std::size_t>>
      used;  ///< by shot: its row; nothing without a camera, or where it is unknown
  std::vector<std::optional<std::size_t>> best;  ///< by shot: the row to take; nothing without rows
  int changes = 0, best_changes = 0;  ///< of camera or mode from one shot to the next, in the spot's order
};
/// The best take what lacks least, then least light (in stops; a change weighs as much as a third of a stop:
/// common practice, no source) and least to write, found over the whole spot by dynamic programming (Bellman
/// 1957).
[[nodiscard]] ModeTable mode_table(const Project& project);

/// The focal length that would show as much on the whole sensor of the shot's own camera; nothing without a
/// camera.
[[nodiscard]] std::optional<double> looks_like(const Project& project, const Shot& shot, const ModeRow& row);
/// The shutter time that is the same angle at another rate: seconds, and frames a second before and after.
[[nodiscard]] inline double angle_kept(double shutter_time, double rate, double then) {
  return shutter_time * rate / then;
}
/// "25 seconds for 12 of the set", of a rate in the spot's timeline; what is conformed says so.
[[nodiscard]] std::string slowing_text(double capture_rate, double timeline_rate);
/// "3840 x 2160 at 50".
[[nodiscard]] std::string mode_text(const CameraMode& mode);

}  // namespace cinnabar
