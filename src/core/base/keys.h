// Named inputs and results of a calculation: each key's name, unit and range stands once, beside the struct,
// and serves the calculation's own check, the command line and the lists of it.
#pragma once
#include <array>
#include <cmath>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

#include "cinnabar/base/range.h"
#include "cinnabar/base/result.h"

namespace cinnabar {

/// One point of a speed ramp: at `set_time` seconds on the floor the film runs at `speed` (1 is real time).
struct SpeedPoint {
  double set_time, speed;
};

/// How a key is typed. A rate may be typed 24, 23.976 or 24000/1001.
enum class Typed { number, rate };

template <class T>
struct Key {
  std::string_view name, unit;
  Range range;
  std::variant<double T::*, std::optional<double> T::*, std::string T::*, std::vector<double> T::*,
               std::vector<SpeedPoint> T::*, std::array<double, 3> T::*, std::vector<std::array<double, 2>> T::*,
               std::vector<std::array<double, 3>> T::*>
      member;
  Typed typed = Typed::number;
};

template <class T>
struct ResultKey {
  std::string_view name, unit;
  std::variant<double T::*, std::optional<double> T::*, bool T::*, std::string T::*, std::vector<double> T::*>
      member;
};

template <class T>
using Keys = std::span<const Key<T>>;
template <class T>
using Results = std::span<const ResultKey<T>>;

/// The refusal that names a key and its range.
[[nodiscard]] inline tl::unexpected<Error> out_of_range(std::string_view key, const std::string& range) {
  return fail(std::string(key), "is out of range", "give " + range);
}

/// Checks every number of `in` against the range of its key; the first that fails is named.
template <class T>
[[nodiscard]] Expected<void> check(const T& in) {
  for (const Key<T>& key : T::keys()) {
    if (const auto* number = std::get_if<double T::*>(&key.member)) {
      if (!key.range.contains(in.**number)) return out_of_range(key.name, key.range.text());
    } else if (const auto* maybe = std::get_if<std::optional<double> T::*>(&key.member)) {
      if ((in.**maybe) && !key.range.contains(*(in.**maybe))) return out_of_range(key.name, key.range.text());
    } else if (const auto* list = std::get_if<std::vector<double> T::*>(&key.member)) {
      for (const double value : in.**list)
        if (!key.range.contains(value)) return out_of_range(key.name, key.range.text());
    } else if (const auto* triple = std::get_if<std::array<double, 3> T::*>(&key.member)) {
      for (const double value : in.**triple)
        if (!std::isfinite(value)) return out_of_range(key.name, "three finite numbers");
    }
  }
  return {};
}

}  // namespace cinnabar

/// Leaves the calling function with the error of an Expected that failed.
#define CINNABAR_TRY(expression)                                                 \
  do {                                                                           \
    if (auto tried = (expression); !tried) return tl::unexpected(tried.error()); \
  } while (false)
