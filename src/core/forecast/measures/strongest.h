// Which light gives most at a place, by its output and its distance; a guess before anything is measured.
#pragma once
#include <optional>

#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// Number of the set-up's light that is on and gives most at `at`: candela at its broadest over its distance
/// squared, wherever it looks; windows left out. Nothing where all are off.
[[nodiscard]] std::optional<std::size_t> strongest_light(const Setup& setup, const Vec3& at);
/// Where a shot's first product stands; the origin where it has none.
[[nodiscard]] Vec3 product_place(const Shot& shot);
/// Where the first product stands of the first shot on that set-up.
[[nodiscard]] Vec3 product_place(const Project& project, const Setup& setup);

/// Diameter or smaller side, metres, of what of a light's face shines toward a place: of a hot spot or a lens less
/// than the face.
[[nodiscard]] double side_seen(const Light& light, const Vec3& from);

}  // namespace cinnabar
