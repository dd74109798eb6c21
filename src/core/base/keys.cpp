#include "cinnabar/base/keys.h"

#include <cmath>

namespace cinnabar {

Expected<void> check(const KeyRow& key, const void* whole) {
  if (const auto* number = key.member.in<double>(whole)) {
    if (!key.range.contains(*number)) return out_of_range(key.name, key.range.text());
  } else if (const auto* maybe = key.member.in<std::optional<double>>(whole)) {
    if (*maybe && !key.range.contains(**maybe)) return out_of_range(key.name, key.range.text());
  } else if (const auto* list = key.member.in<std::vector<double>>(whole)) {
    for (const double value : *list)
      if (!key.range.contains(value)) return out_of_range(key.name, key.range.text());
  } else if (const auto* triple = key.member.in<std::array<double, 3>>(whole)) {
    for (const double value : *triple)
      if (!std::isfinite(value)) return out_of_range(key.name, "three finite numbers");
  }
  return {};
}

}  // namespace cinnabar
