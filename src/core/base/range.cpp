#include "cinnabar/base/range.h"

#include <fmt/format.h>

#include <cmath>

namespace cinnabar {

bool Range::contains(double value) const {
  if (!std::isfinite(value)) return false;
  if (low_open ? value <= low : value < low) return false;
  if (high_open ? value >= high : value > high) return false;
  return !whole || value == std::floor(value);
}

std::string Range::text() const {
  const std::string kind = whole ? "a whole number " : "";
  const bool has_low = std::isfinite(low), has_high = std::isfinite(high);
  if (!has_low && !has_high) return whole ? "a whole number" : "any finite number";
  if (has_low && !has_high) return fmt::format("{}{} {:g}", kind, low_open ? ">" : ">=", low);
  if (!has_low) return fmt::format("{}{} {:g}", kind, high_open ? "<" : "<=", high);
  if (!low_open && !high_open) return fmt::format("{}from {:g} to {:g}", kind, low, high);
  return fmt::format("{}{} {:g} and {} {:g}", kind, low_open ? ">" : ">=", low, high_open ? "<" : "<=", high);
}

}  // namespace cinnabar
