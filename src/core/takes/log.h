// The log of takes: adding one, what a shot's log says, and what changed from one take to the next.
#pragma once
#include <optional>

#include "cinnabar/project/model/entities.h"
#include "cinnabar/project/store/store.h"
#include "cinnabar/takes/prediction.h"

namespace cinnabar {

/// What to log. `at` is local time as "YYYY-MM-DDTHH:MM:SS".
struct NewTake {
  std::string shot, at;
  bool kept = false;
  std::vector<std::string> reasons;
  std::string notes;
};

/// The edit that logs a take with the shot's next number and an id of its own.
[[nodiscard]] Expected<Edit> take_edit(const Document& document, const NewTake& take);

struct ShotLog {
  std::vector<std::shared_ptr<const Take>> takes;  ///< by number
  int tried = 0, kept = 0, wanted = 1;             ///< wanted: keepers in all
  [[nodiscard]] int further() const { return wanted > kept ? wanted - kept : 0; }
  /// Nothing when no further keeper is wanted.
  [[nodiscard]] std::optional<TakesLeft> left() const;
};
[[nodiscard]] ShotLog shot_log(const Project& project, const Shot& shot);

/// A consumable of a shot: what a take uses of it, and what the log has left of the stock (over all shots).
struct UseLeft {
  std::string name, unit;
  double per_take = 0, left = 0;
  int takes = 0;  ///< whole takes of this shot that it still serves
};
[[nodiscard]] std::vector<UseLeft> uses_left(const Project& project, const Shot& shot);

/// Minutes that further takes need: set time and reset of each.
[[nodiscard]] double minutes_for(const Shot& shot, double takes);

/// Orders of a shot's table of takes.
enum class TakeOrder { newest, oldest, fewest_changes, kept_first, reason };
/// Places in `log.takes` in that order. `changes` is how many things changed before each take (nothing where that
/// is not known, sorted last); `one_only` leaves those with exactly one.
[[nodiscard]] std::vector<std::size_t> ordered_takes(const ShotLog& log, TakeOrder order,
                                                     const std::vector<std::optional<std::size_t>>& changes,
                                                     bool one_only);

/// Reasons used in a shot, the most frequent first, filled up with common ones to `count`.
[[nodiscard]] std::vector<std::string> reasons_offered(const Project& project, const Shot& shot,
                                                       std::size_t count);

/// What changed in words, one entry per thing: "Key 0.90 m to 0.64 m away", "ISO 400 to 800". Only what the shot
/// sees (itself, its set-up, its products and its camera, lens and lights) counts; names and notes do not.
[[nodiscard]] std::vector<std::string> changes_in_words(const std::vector<EntityChange>& changes,
                                                        const Json& shot);

}  // namespace cinnabar
