// Lamps that no kit has to name, and what is meant by a light: its colour, and that it is seen. Each answer is the
// values of one edit and its title, or nothing where it makes no sense.
#pragma once
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/planning/set_things.h"

namespace cinnabar {

/// Lamps that are at hand: "torch" (a phone's), "bulb" (a practical one, which may be seen), and under what lets
/// light through "below".
[[nodiscard]] std::vector<SheetKind> lamps_at_hand(const OnSet& on);
/// One of them, about the first product of the shot (outputs: common practice, no source).
[[nodiscard]] std::optional<SetEdit> lamp_at_hand(const OnSet& on, const std::string& id);

/// A wire net put before a lamp besides those that are there, half a stop or one (common practice, no source); 0
/// takes all off.
[[nodiscard]] std::optional<SetEdit> scrim_put(const OnSet& on, const SetThing& light, double stops);

/// A lamp that may be seen, or no longer.
[[nodiscard]] std::optional<SetEdit> lamp_seen_switched(const OnSet& on, const SetThing& light);
/// A light whose colour is on purpose, or no longer.
[[nodiscard]] std::optional<SetEdit> colour_meant_switched(const OnSet& on, const SetThing& light);

}  // namespace cinnabar
