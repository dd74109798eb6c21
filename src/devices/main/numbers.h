// Numbers as the programs that stand in for devices are given them.
#pragma once
#include <CLI/CLI.hpp>
#include <string>

#include "cinnabar/base/text.h"

namespace cinnabar {

/// A number from 0 to that; none that is no number, which a plain range lets through.
inline CLI::Validator up_to(double most) {
  return CLI::Validator(
      [most](std::string& text) {
        const auto value = parse_number(text);
        return value && *value >= 0.0 && *value <= most ? std::string()
                                                        : text + " is no number from 0 to " + number_text(most);
      },
      "0 to " + number_text(most));
}

}  // namespace cinnabar
