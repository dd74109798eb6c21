// Shapes by what they are of.
#pragma once
#include "cinnabar/photometry/front.h"
#include "cinnabar/project/model/field.h"

namespace cinnabar {

[[nodiscard]] const Fields& product_fields();
[[nodiscard]] const Fields& setup_fields();
[[nodiscard]] const Fields& surface_fields();
[[nodiscard]] const Fields& backdrop_fields();
[[nodiscard]] const Fields& ambient_fields();
[[nodiscard]] const Fields& light_fields();
[[nodiscard]] const Fields& front_fields();
/// A front as a document has it: its kind, and what counts for that.
[[nodiscard]] Json front_json(const LightFront& front);
[[nodiscard]] const Fields& room_fields();
[[nodiscard]] const Fields& shot_fields();
[[nodiscard]] const Fields& shot_camera_fields();
[[nodiscard]] const Fields& effect_fields();
[[nodiscard]] const Fields& needs_fields();
[[nodiscard]] const std::vector<std::pair<std::string, const Fields*>>& kit_lists_fields();

}  // namespace cinnabar
