// What holds the lights and cards of a set-up up: stands and arms of the kit.
#pragma once
#include <string>
#include <vector>

#include "cinnabar/planning/set_things.h"

namespace cinnabar {

/// A light or a card that something has to hold.
struct Head {
  SetThing thing;  ///< a light or a card
  Vec3 place;      ///< metres
  Vec3 foot;       ///< of what holds it: on the floor under it, of what hangs beside the surface
  bool hangs;      ///< over the surface, where no stand's foot can be
};
/// In the order of the set-up's lights and cards. Windows stand by themselves, and so does what comes down to the
/// surface.
[[nodiscard]] std::vector<Head> heads_of(const Setup& setup);

/// The stands and arms that are owned, one entry for each piece.
[[nodiscard]] std::vector<const Support*> holders_of(const Project& project);

[[nodiscard]] bool has_arms(const std::vector<const Support*>& holders);

/// What each head is on, by its place in the list; nothing where none that is left reaches it. The highest first,
/// each on the lowest that reaches: what stands on a stand, or an arm that is left; what hangs on an arm, and
/// where the kit knows of none on a stand.
[[nodiscard]] std::vector<const Support*> held_on(const std::vector<Head>& heads,
                                                  const std::vector<const Support*>& holders);

/// What keeps a head from being held: "none reaches 2.40 m up", "no arm holds 1.60 m out", "none is left".
[[nodiscard]] std::string why_unheld(const Head& head, const std::vector<const Support*>& holders, Units units);

}  // namespace cinnabar
