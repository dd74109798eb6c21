// Shapes by what they are of.
#pragma once
#include "cinnabar/photometry/front.h"
#include "cinnabar/project/model/field.h"

namespace cinnabar {

struct Modifier;

[[nodiscard]] const Fields& product_fields();
[[nodiscard]] const Fields& setup_fields();
[[nodiscard]] const Fields& surface_fields();
[[nodiscard]] const Fields& backdrop_fields();
[[nodiscard]] const Fields& ambient_fields();
[[nodiscard]] const Fields& light_fields();
[[nodiscard]] const Fields& front_fields();
/// A front as a document has it: its kind, and what counts for that.
[[nodiscard]] Json front_json(const LightFront& front);
/// A light given the face of a rectangular modifier of the kit: its measures, what it lets through, grid and
/// front.
void put_face(Json& light, const Modifier& modifier);
/// One to begin with, of measures that such things usually have (common practice, no source).
[[nodiscard]] Json usual_front(FrontKind kind);
[[nodiscard]] const Fields& polariser_fields();
[[nodiscard]] const Fields& room_fields();
[[nodiscard]] const Fields& shot_fields();
[[nodiscard]] const Fields& shot_camera_fields();
[[nodiscard]] const Fields& effect_fields();
[[nodiscard]] const Fields& needs_fields();
[[nodiscard]] const std::vector<std::pair<std::string, const Fields*>>& kit_lists_fields();

}  // namespace cinnabar
