// Solvers of movement: what is asked of a move, and the tracks that do it, each staged and held against the
// asking.
#pragma once
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/forecast/asked.h"
#include "cinnabar/forecast/forecast.h"

namespace cinnabar {

struct SolverKind {
  std::string kind;
  std::string title;  ///< "The label faces"
  std::string what;
  std::vector<AskedNumber> keys;
  bool light = false;   ///< takes "light=ID"
  bool effect = false;  ///< takes "effect=ID" and "event=NAME": of a practical effect
};
[[nodiscard]] const std::vector<SolverKind>& solver_kinds();

/// Those that an effect of a shot can be asked, each with the numbers that it has.
[[nodiscard]] std::vector<SolverKind> solver_kinds_of(const Effect& effect);

struct SolveRequest {
  std::string kind;
  std::map<std::string, double> numbers;
  std::string light{}, effect{}, event{};
  [[nodiscard]] double number(const std::string& key, double otherwise) const {
    const auto found = numbers.find(key);
    return found == numbers.end() ? otherwise : found->second;
  }
};
/// Reads "key=value" words. Fails with the kinds, or the kind's keys and their ranges.
[[nodiscard]] Expected<SolveRequest> read_solve(const std::string& kind, const std::vector<std::string>& words);

struct SolveAnswer {
  std::string title;
  Values changes;  ///< of the document as it is
  Document after;
  std::vector<Level> levels;  ///< of the shot, then
};
struct Solved {
  std::vector<SolveAnswer> list;
  std::string impossible;  ///< where no answer does it: why
};
/// Every answer is staged and held against what was asked. Fails where the shot lacks what it is about.
[[nodiscard]] Expected<Solved> solve(const Forecaster& forecaster, const Document& document, std::size_t shot,
                                     const SolveRequest& request, const std::atomic<bool>* cancel = nullptr);

}  // namespace cinnabar
