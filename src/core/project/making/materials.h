// Materials ready to be given to a part, a label or a card, by everyday names.
#pragma once
#include <string>
#include <vector>

#include "cinnabar/project/document/document.h"

namespace cinnabar {

struct ReadyMaterial {
  std::string id, name, group;
  Json material;      ///< as a part has it
  bool sheet = true;  ///< makes sense of a thin thing too: a label, a card
};
/// By group. Measures of scattering and of surfaces are common practice, no source.
[[nodiscard]] const std::vector<ReadyMaterial>& ready_materials();
/// The ready material that a part's material is, whatever its cover; nothing where it is its own.
[[nodiscard]] const ReadyMaterial* ready_material_of(const Json& material);

/// What may lie on a surface.
struct ReadyCover {
  std::string kind, name;  ///< of the document; its everyday name
  double size;             ///< metres
};
[[nodiscard]] const std::vector<ReadyCover>& ready_covers();

}  // namespace cinnabar
