// Numbers for staged worlds by what rays see of them.
#pragma once
#include <cstdint>
#include <vector>

#include "cinnabar/scene/staged.h"

namespace cinnabar {

struct WorldNumbers {
  std::vector<std::uint64_t> bodies;  ///< of each mesh, by its form and matter; prints are left out
  std::vector<std::uint64_t> lights;  ///< of each light, by where it stands and how its face shines
  /// For everything that the rays see: two worlds of one number need one measure.
  std::uint64_t all = 0;
  /// The same for patches that face the camera: how its lens is set is nothing to them.
  std::uint64_t facing = 0;
};
[[nodiscard]] WorldNumbers numbers_of(const StagedWorld& world);
/// The number for everything alone.
[[nodiscard]] inline std::uint64_t arrangement_of(const StagedWorld& world) { return numbers_of(world).all; }

}  // namespace cinnabar
