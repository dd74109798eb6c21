// Shots from a list put into a document one after another, each held against what a document must be by itself, so
// that a list costs what it is long.
#pragma once
#include <string>
#include <unordered_map>
#include <vector>

#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/model/entities.h"

namespace cinnabar {

class ShotsBatch {
 public:
  explicit ShotsBatch(const Document& document);

  [[nodiscard]] const std::vector<JsonPtr>& shots() const { return next_.list("shots"); }
  /// Place of the shot of that id, or nothing.
  [[nodiscard]] std::optional<std::size_t> place_of(const std::string& id) const;
  /// A new shot like another, not yet put anywhere, with an id that nothing has. Without one to be like, what a
  /// first shot needs is made.
  [[nodiscard]] Json made(const Json* like, const std::string& name);

  /// Puts a shot at the end, or in the place of the one of its id. What is wrong with it, or nothing when it was
  /// put.
  [[nodiscard]] std::optional<DocumentFault> put(Json shot);

  /// The document with the shots that were put; as it was where none were.
  [[nodiscard]] const Document& document() const { return added + changed > 0 ? next_ : before_; }
  int added = 0, changed = 0;

 private:
  const Document& before_;
  Document next_;
  std::unordered_map<std::string, std::size_t> places_;  // of every shot, by id
  std::optional<EntityCheck> check_;
  int last_fresh_ = 0;
};

/// The project as who reads shots needs it: neither its pictures nor its takes, of which there may be a hundred
/// thousand, are looked at.
[[nodiscard]] Project project_without_log(const Document& document);

}  // namespace cinnabar
