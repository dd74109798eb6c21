// A draft of a spot: ready moves chosen for this product, this kit and this mood, in an order that opens on the
// whole product, shows details, lets something happen and ends with room for words.
#pragma once
#include <functional>
#include <set>

#include "cinnabar/forecast/forecast.h"

namespace cinnabar {

struct DraftShot {
  std::string move;  ///< of `ready_moves`
  ShotRole part;
  std::vector<Level> levels;
};
struct Draft {
  Document document;
  std::vector<DraftShot> shots;  ///< as the document's, one for one
};

struct DraftOptions {
  unsigned seed = 1;  ///< another one gives another draft of the same brief
  /// Told after every step: what there is by now. Shots that are not there yet are not in it.
  std::function<void(const Draft& so_far, std::size_t planned)> progress{};
};

/// Screen seconds of each part, in order: they fill the spot's length to the frame, and cuts lie on beats where it
/// has a tempo. Four to ten; 20 s where the project says no length.
struct DraftPart {
  ShotRole part;
  double seconds;
};
[[nodiscard]] std::vector<DraftPart> draft_parts(const Project& project);
/// Moves that suit a part of a spot with this product and kit, the mood's own first; `seed` turns what is equal.
[[nodiscard]] std::vector<std::string> draft_candidates(const Project& project, ShotRole part, unsigned seed);

/// The begun spot (`spot_in_hand`) with a set-up and drafted shots: of the moves that suit each part the one whose
/// levels stand best, then brought nearer by levers that touch that shot alone. Fails when cancelled.
[[nodiscard]] Expected<Draft> drafted(const Forecaster& forecaster, const Document& begun,
                                      const DraftOptions& options = {}, const std::atomic<bool>* cancel = nullptr);

/// The first set-up that comes to mind and the likeliest opening on it, unmeasured against others: something to
/// look at within a second. Nothing when cancelled.
[[nodiscard]] std::optional<Draft> first_sketch(const Forecaster& forecaster, const Document& begun, unsigned seed,
                                                const std::atomic<bool>* cancel = nullptr);

/// The draft with another move in place of one shot, none of `refused` and none that stands elsewhere in it while
/// there are others. Fails where nothing else suits, and when cancelled.
[[nodiscard]] Expected<Draft> with_another(const Forecaster& forecaster, const Draft& draft, std::size_t shot,
                                           const std::set<std::string>& refused, unsigned seed = 1,
                                           const std::atomic<bool>* cancel = nullptr);
/// The draft without one shot, and without the set-up that only it used.
[[nodiscard]] Draft left_out(const Draft& draft, std::size_t shot);

/// About what a drafted spot takes.
struct DraftNeeds {
  double minutes = 0;  ///< set-ups built (20 each), things moved (2 each), takes with a minute between
  int takes = 0, set_ups = 0, hands = 1;
  std::vector<std::string> uses;  ///< consumables, in words
  std::vector<std::string> short_of;
};
[[nodiscard]] DraftNeeds draft_needs(const Project& project);

}  // namespace cinnabar
