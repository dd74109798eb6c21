// One generic edit: which entities changed, from what to what. It serves undo, storage and change signals.
#pragma once
#include "cinnabar/project/document.h"

namespace cinnabar {

/// One entity before and after; `list` empty means a single named `id`, "blobs" a blob (as its JSON).
/// A missing before is an addition, a missing after a removal; places are indices in the list.
struct Change {
  std::string list, id;
  std::optional<Json> before, after;
  std::optional<int> place_before, place_after;
};

struct Edit {
  std::string title;  ///< what the person did, as shown: "Key moved 4 cm"
  std::vector<Change> changes;
};

/// The edit that leads from one document to another; no changes when they are equal.
[[nodiscard]] Edit edit_between(const Document& before, const Document& after, std::string title);

/// The document after the edit (or before it, when not `forward`).
[[nodiscard]] Document applied(const Document&, const Edit&, bool forward = true);

}  // namespace cinnabar
