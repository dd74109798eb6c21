// A document with what edits of a set are asked of; what they make of it must be valid.
#pragma once
#include "cinnabar/planning/set_things.h"
#include "worlds.h"

namespace cinnabar {

/// A document as it stands, with what the answers are of.
struct Set {
  explicit Set(const Json& doc, std::size_t shot = 0, double set_time = 0.0)
      : document(*Document::from_json(doc)), project(worlds::read(doc)), on{document, project, shot, set_time} {}
  Set(const Set&) = delete;
  Set& operator=(const Set&) = delete;

  /// The document after an edit, which must be a valid one.
  [[nodiscard]] Json after(const std::optional<SetEdit>& edit) const {
    EXPECT_TRUE(edit);
    return edit ? after(edit->values) : Json();
  }
  [[nodiscard]] Json after(const Values& values) const {
    const auto next = with_values(document, values);
    EXPECT_TRUE(next) << (next ? "" : next.error().text());
    if (!next) return {};
    for (const auto& fault : validate(*next)) ADD_FAILURE() << fault.path << " " << fault.message;
    return next->to_json();
  }

  Document document;
  Project project;
  OnSet on;
};

}  // namespace cinnabar
