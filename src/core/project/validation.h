// What a project document must be: every fault is reported with its JSON pointer and the mend.
#pragma once
#include <string>
#include <vector>

#include "cinnabar/project/document.h"
#include "cinnabar/project/edit.h"

namespace cinnabar {

struct DocumentFault {
  std::string path, message, mend;
};

/// All faults of a whole document, in the order of its reading; none means valid.
[[nodiscard]] std::vector<DocumentFault> validate(const Json& document);
[[nodiscard]] std::vector<DocumentFault> validate(const Document& document);

/// Faults that `edit` brings into `after`: the entities it touched, and all references when one was removed.
[[nodiscard]] std::vector<DocumentFault> validate(const Document& after, const Edit& edit);

/// House rules by key with their values, the first being the default.
[[nodiscard]] const std::vector<std::pair<std::string, std::vector<std::string>>>& house_rule_values();

/// JSON text to a value; the error names line, column and what was met. Nesting beyond 200 is refused.
[[nodiscard]] Expected<Json> parse_json(const std::string& text, const std::string& file);

}  // namespace cinnabar
