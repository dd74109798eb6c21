// What a project document must be: every fault is reported with its JSON pointer and the mend.
#pragma once
#include <memory>
#include <string>
#include <vector>

#include "cinnabar/project/document/document.h"
#include "cinnabar/project/document/edit.h"

namespace cinnabar {

struct DocumentFault {
  std::string path, message, mend;
};

/// All faults of a whole document, in the order of its reading; none means valid.
[[nodiscard]] std::vector<DocumentFault> validate(const Json& document);
[[nodiscard]] std::vector<DocumentFault> validate(const Document& document);

/// Faults that `edit` brings into `after`: the entities it touched, and all references when one was removed.
[[nodiscard]] std::vector<DocumentFault> validate(const Document& after, const Edit& edit);

/// Values set as one edit: built and checked once. The error names the first fault, and what is wrong with it.
[[nodiscard]] Expected<Edit> changed(const Document& before, const Values& values, std::string title);

struct Ids;
/// Checks entities one by one against what one document holds: many that are put in cost no more than each alone.
class EntityCheck {
 public:
  /// What references may name is taken from the document as it is now.
  explicit EntityCheck(const Document& document);
  /// Faults of an entity of a list that would stand at `path`, references included; whether its id is free is not
  /// asked.
  [[nodiscard]] std::vector<DocumentFault> faults(const std::string& list, const Json& entity,
                                                  const std::string& path) const;

 private:
  std::shared_ptr<const Ids> ids_;
};

}  // namespace cinnabar
