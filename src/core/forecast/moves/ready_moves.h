// Ready moves: shots made for this product, this set-up, this kit and these house rules, complete with camera,
// lens, mode, exposure, tracks and, where the move needs its own, lights; then brought as near to level as the kit
// allows.
#pragma once
#include <atomic>
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/forecast/forecast.h"

namespace cinnabar {

struct ReadyMove {
  std::string id;     ///< "slow-spin"
  std::string title;  ///< "Slow spin to the label"
  std::string what;   ///< what it does, in a line
  std::string later;  ///< what of it will be computed later and is no number yet; empty: all is
};
/// All of them, in the order in which a board is often built.
[[nodiscard]] const std::vector<ReadyMove>& ready_moves();
[[nodiscard]] const ReadyMove* ready_move(const std::string& id);

struct MoveOptions {
  bool levelling = true;               ///< try levers that touch only the new shot and its own set-up
  int levers = 3;                      ///< at most so many are pulled
  std::string setup = {};              ///< id of the set-up it stands on; empty: that of the shot before
  std::optional<double> seconds = {};  ///< on screen; none: as the move is usually long, to the beat
  std::optional<ShotRole> role = {};   ///< what the spot has it for; nothing: as the move says
};
struct MoveMade {
  Document document;              ///< with the shot, and its set-up where it has its own
  std::size_t shot = 0;           ///< where it stands
  std::vector<Level> levels;      ///< as they are at the end
  std::vector<std::string> done;  ///< what was set to bring levels home, in words
};

/// The document with the move as a new shot after `after` (at the end where there is none such), on that shot's
/// set-up and product, or the project's first. What is missing for a first shot is added. Fails for an unknown
/// move and when cancelled. A few seconds with levelling.
[[nodiscard]] Expected<MoveMade> with_move(const Forecaster& forecaster, const Document& document,
                                           const std::string& move, std::size_t after,
                                           const MoveOptions& options = {},
                                           const std::atomic<bool>* cancel = nullptr);

}  // namespace cinnabar
