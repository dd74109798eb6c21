// Numbers for staged worlds by what rays see of them.
#pragma once
#include <cstdint>

#include "cinnabar/scene/staged.h"

namespace cinnabar {

/// For a body by its form and matter; prints are left out.
[[nodiscard]] std::uint64_t body_number(const Mesh& mesh);
/// For a light by where it stands and how its face shines.
[[nodiscard]] std::uint64_t light_number(const StagedLight& light);
/// A number for everything in a world that the rays see: two worlds of one number need one measure.
[[nodiscard]] std::uint64_t arrangement_of(const StagedWorld& world);

}  // namespace cinnabar
