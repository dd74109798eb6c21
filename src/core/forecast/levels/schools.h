// The schools: where practitioners disagree, what each does and why, for choosing one on the level it rules.
#pragma once
#include <string>
#include <vector>

namespace cinnabar {

struct School {
  std::string value;   ///< as the document has it
  std::string title;   ///< in the trade's words
  std::string reason;  ///< in a line
};

/// Its question ("How long the shutter stays open").
[[nodiscard]] std::string question_of(const std::string& rule);
/// The schools of a rule, the default first.
[[nodiscard]] const std::vector<School>& schools(const std::string& rule);

}  // namespace cinnabar
