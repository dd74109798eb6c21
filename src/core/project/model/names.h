// Choices and their names: an enum's names stand in its order.
#pragma once
#include "cinnabar/project/model/field.h"

namespace cinnabar {

[[nodiscard]] const Names& material_names();     ///< of MaterialKind
[[nodiscard]] const Names& cover_names();        ///< of CoverKind
[[nodiscard]] const Names& light_shape_names();  ///< of LightShape
[[nodiscard]] const Names& backdrop_names();     ///< of BackdropKind
[[nodiscard]] const Names& size_names();         ///< of shots
[[nodiscard]] const Names& effect_names();       ///< kinds of effects
[[nodiscard]] const Names& liquid_names();
[[nodiscard]] const Names& role_names();  ///< of shots, in the spot

}  // namespace cinnabar
