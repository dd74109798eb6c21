// The calculations by name, for the command line: each with its keys, units, ranges and source.
#pragma once
#include <functional>
#include <nlohmann/json.hpp>
#include <span>
#include <string>
#include <vector>

#include "cinnabar/base/result.h"

namespace cinnabar {

struct Calculation {
  struct KeyLine {
    std::string name, unit, range;
    bool optional = false;
  };
  std::string name, source;
  std::vector<KeyLine> inputs, results;
  /// Takes "key=value" words; answers {"calc", "inputs", "results", "source"}.
  std::function<Expected<nlohmann::ordered_json>(std::span<const std::string>)> run;
};

/// Every calculation, by name in alphabetical order.
[[nodiscard]] const std::vector<Calculation>& calculations();
[[nodiscard]] const Calculation* find_calculation(std::string_view name);

}  // namespace cinnabar
