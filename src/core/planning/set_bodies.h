// Bodies about a set: what raises a product, and what must not be seen. Pure, as set_things.h.
#pragma once
#include "cinnabar/planning/set_things.h"

namespace cinnabar {

/// Bodies that can be set up: "pedestal", "block", "glass", "stand", "cable", "operator".
[[nodiscard]] std::vector<SheetKind> body_kinds();
/// One of them. What raises comes under the first product of the shot, which then stands on it in every shot of
/// the set-up that has it there; the operator stands beside the camera, on the room's floor.
[[nodiscard]] std::optional<SetEdit> body_added(const OnSet& on, const std::string& kind);

/// A body carried and made that large; what stands on it goes along and up or down.
[[nodiscard]] Values body_changed(const OnSet& on, const SetThing& body, const Vec3& place, const Vec3& size);
/// Whether it may be seen, turned about.
[[nodiscard]] std::optional<SetEdit> body_seen_switched(const OnSet& on, const SetThing& body);
/// One taken away; what stood on it stands where its foot was.
[[nodiscard]] Values body_taken(const OnSet& on, const SetThing& body);

}  // namespace cinnabar
