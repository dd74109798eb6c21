// One generic edit: which entities changed, from what to what. It serves undo, storage and change signals.
#pragma once
#include "cinnabar/project/document/document.h"

namespace cinnabar {

/// One entity before and after; `list` empty means a single named `id`, "blobs" a blob (as its JSON).
/// A missing before is an addition, a missing after a removal; places are indices in the list.
struct Change {
  std::string list, id;
  std::optional<Json> before, after;
  std::optional<int> place_before, place_after;
};

/// Built once, by `edit_between` or `changed`, and then read only.
struct Edit {
  std::string title;  ///< what the person did, as shown: "Key moved 4 cm"
  std::vector<Change> changes;
  struct Passage {
    Document before, after;
  };
  /// From where to where it leads, so that nobody has to build that again; none for one read from the history.
  std::shared_ptr<const Passage> passage{};
};

/// The edit that leads from one document to another; no changes when they are equal.
[[nodiscard]] Edit edit_between(const Document& before, const Document& after, std::string title);

/// The document after the edit (or before it, when not `forward`).
[[nodiscard]] Document applied(const Document&, const Edit&, bool forward = true);

}  // namespace cinnabar
