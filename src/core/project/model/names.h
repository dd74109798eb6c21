// Choices and their names: an enum's names stand in its order.
#pragma once
#include "cinnabar/project/model/entities.h"
#include "cinnabar/project/model/field.h"

namespace cinnabar {

[[nodiscard]] const Names& material_names();     ///< of MaterialKind
[[nodiscard]] const Names& cover_names();        ///< of CoverKind
[[nodiscard]] const Names& texture_names();      ///< of TextureKind
[[nodiscard]] const Names& light_shape_names();  ///< of LightShape
[[nodiscard]] const Names& front_names();        ///< of FrontKind
[[nodiscard]] const Names& backdrop_names();     ///< of BackdropKind
[[nodiscard]] const Names& size_names();         ///< of ShotSize
[[nodiscard]] const Names& effect_names();       ///< kinds of effects
[[nodiscard]] const Names& liquid_names();
[[nodiscard]] const Names& role_names();     ///< of ShotRole
[[nodiscard]] const Names& support_names();  ///< of SupportKind, but its last
[[nodiscard]] const Names& aim_names();      ///< of MeantFor
[[nodiscard]] const Names& wall_names();     ///< of RoomWall
[[nodiscard]] const Names& sky_names();      ///< of SkyKind
[[nodiscard]] const Names& units_names();    ///< of Units

/// As a document has it.
[[nodiscard]] inline const std::string& name_of(ShotSize size) {
  return size_names()[static_cast<std::size_t>(size)];
}
[[nodiscard]] inline const std::string& name_of(ShotRole role) {
  return role_names()[static_cast<std::size_t>(role)];
}

}  // namespace cinnabar
