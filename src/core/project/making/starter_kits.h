// Generic kits to begin with, of no maker: what a phone by a window, one light, three lights or a small studio
// have.
#pragma once
#include "cinnabar/project/document/document.h"

namespace cinnabar {

struct StarterKit {
  std::string id, name, what;  ///< what is in it, in a line
};
[[nodiscard]] const std::vector<StarterKit>& starter_kits();

/// The document with everything of a starter kit; things whose id its kit has already stay as they are. Nothing
/// for an unknown id. Figures are common practice, no source.
[[nodiscard]] std::optional<Document> with_starter_kit(const Document& document, const std::string& id);

/// A thing of its kind as it is when it is added by hand, with a fresh id: "kit/lenses" gives a 50 mm lens.
[[nodiscard]] Json new_kit_item(const Document& document, const std::string& list);

}  // namespace cinnabar
