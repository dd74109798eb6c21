// Numbers that a wish or a move is asked with, and their words "key=value".
#pragma once
#include <functional>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/base/range.h"
#include "cinnabar/base/result.h"

namespace cinnabar {

/// A number's key, its name and unit for people, and what it is where it is left out: `usual`, or else what the
/// shot has.
struct AskedNumber {
  std::string key, name, unit;
  Range range;
  std::optional<double> usual{};
  bool across = false;  ///< how far across the product, from -1 at its left edge as the camera has it to 1
  bool needed = false;  ///< in words it may not be left out
};

/// Takes a key that is no number: an error, or whether it is one at all.
using OtherKeys = std::function<Expected<bool>(const std::string& key, const std::string& value)>;
/// Reads words of a kind. Fails with the word, or with all keys, or with the range of what is out of it or
/// missing.
[[nodiscard]] Expected<std::map<std::string, double>> read_asked(const std::string& kind,
                                                                 const std::vector<std::string>& words,
                                                                 const std::vector<AskedNumber>& numbers,
                                                                 const std::vector<std::string>& keys,
                                                                 const OtherKeys& other);
/// "a, b, c".
[[nodiscard]] std::string listed(const std::vector<std::string>& names);

}  // namespace cinnabar
