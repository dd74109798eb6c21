// The numbers of where a film runs and of the means there are, as rows of fields.
#pragma once
#include <vector>

#include "cinnabar/desktop/edits/hand.h"

namespace cinnabar {

/// Of the deliverable at `index`, its room for words among them where it has some.
[[nodiscard]] std::vector<HandField> deliverableFields(const Session& session, std::size_t index);
/// Budget, room, circuits, people, day and place.
[[nodiscard]] std::vector<HandField> meansFields(const Session& session);

}  // namespace cinnabar
