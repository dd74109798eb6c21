// Set-ups that are variations of another ("of" names it): what they have alike they share. Each is written out in
// full, so that whoever reads one needs no other; a change to the one goes on to the others where it is made.
#pragma once
#include <set>
#include <string>

#include "cinnabar/project/document/document.h"

namespace cinnabar {

/// What a thing becomes that was `own` when another, like which it is to stay, went from `was` to `is`: wherever
/// both were alike before, it goes along, member by member and in lists of things with ids thing by thing; where
/// they differed it stays. Nothing stands for what is not there. A hand meter's readings are nobody else's.
[[nodiscard]] std::optional<Json> gone_along(const std::optional<Json>& was, const std::optional<Json>& is,
                                             const std::optional<Json>& own);

/// `after`, to which a change led from `before`, with what changed in a set-up gone on to its variations, and to
/// theirs. Names and ids are each one's own.
[[nodiscard]] Document with_variations_along(const Document& before, Document after);

/// The set-up that a set-up is a variation of; empty where it is none.
[[nodiscard]] std::string varied_from(const Json& setup);
/// Ids of the set-ups that a change to one may change: itself, its variations, and theirs.
[[nodiscard]] std::set<std::string> setups_along(const Document& document, const std::string& setup);

/// Shots that are there before and after a change and whose set-up it changes in more than its name and its pins,
/// by their places after it.
[[nodiscard]] std::vector<std::size_t> touched_shots(const Document& before, const Document& after);

}  // namespace cinnabar
