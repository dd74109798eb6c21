// The schools: where practitioners disagree, what each does and why, for choosing one on the level it rules.
#pragma once
#include <string>
#include <vector>

#include "cinnabar/project/model/house_rules.h"

namespace cinnabar {

struct School {
  std::string value;   ///< as the document has it
  std::string title;   ///< in the trade's words
  std::string reason;  ///< in a line
};

/// Its question ("How long the shutter stays open").
[[nodiscard]] const std::string& question_of(HouseRule rule);
/// The schools of a rule, the default first.
[[nodiscard]] const std::vector<School>& schools(HouseRule rule);

}  // namespace cinnabar
