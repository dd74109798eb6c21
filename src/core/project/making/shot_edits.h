// What the Board does to shots: moved, copied, split in two, joined, taken away. Pure; each answer is a valid
// document or the reason why not.
#pragma once
#include "cinnabar/project/document/document.h"

namespace cinnabar {

/// A shot moved from one place to another.
[[nodiscard]] Expected<Document> with_shot_moved(const Document& document, std::size_t from, std::size_t to);

/// A copy after the shot; on the same set-up, or on a copy of it with an id of its own.
[[nodiscard]] Expected<Document> with_shot_copied(const Document& document, std::size_t shot, bool own_setup);

/// The shot on a variation of its set-up, of that name or one made from the set-up's: alike in everything as yet,
/// and from now on in what is not changed in it.
[[nodiscard]] Expected<Document> with_setup_varied(const Document& document, std::size_t shot,
                                                   const std::string& name = {});

/// A change to the shot's set-up, from `before` to `after`, kept for that shot alone: all set-ups are as they
/// were, and the shot is on a variation of its own in which the change is made.
[[nodiscard]] Expected<Document> changed_for_shot_alone(const Document& before, const Document& after,
                                                        std::size_t shot);

/// The shot parted at a screen time into two that play on as it did: tracks, ramp and needs go with their part.
[[nodiscard]] Expected<Document> with_shot_split(const Document& document, std::size_t shot, double screen_time);

/// The shot and the next as one, the next one's tracks and ramp after its own. Both must be of one set-up, camera
/// and mode, and the next must have no takes.
[[nodiscard]] Expected<Document> with_shots_joined(const Document& document, std::size_t shot);

/// The shot taken away with its takes.
[[nodiscard]] Expected<Document> without_shot(const Document& document, std::size_t shot);

}  // namespace cinnabar
