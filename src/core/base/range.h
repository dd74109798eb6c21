// Ranges of numbers, open or closed at either end.
#pragma once
#include <cmath>
#include <limits>
#include <string>

namespace cinnabar {

/// The finite numbers from `low` to `high`; an open end is not part of the range. `whole` admits integers only.
struct Range {
  double low = -std::numeric_limits<double>::infinity(), high = std::numeric_limits<double>::infinity();
  bool low_open = false, high_open = false, whole = false;

  /// False for NaN and the infinities, whatever the range.
  [[nodiscard]] bool contains(double value) const;
  /// The nearest value that is in it; an open end itself is left to be refused.
  [[nodiscard]] double clamped(double value) const { return value < low ? low : value > high ? high : value; }
  /// In words: "> 0", "from 0 to 1", "any finite number".
  [[nodiscard]] std::string text() const;
};

/// To so many decimals, as a hand would set it.
[[nodiscard]] inline double rounded(double value, int decimals) {
  const double scale = std::pow(10.0, decimals);
  return std::round(value * scale) / scale;
}

inline constexpr double unbounded = std::numeric_limits<double>::infinity();
inline constexpr Range any_number{};
inline constexpr Range positive{0.0, unbounded, true, false};
inline constexpr Range non_negative{0.0, unbounded};
inline constexpr Range share{0.0, 1.0};
inline constexpr Range positive_share{0.0, 1.0, true, false};

}  // namespace cinnabar
