#include "cinnabar/forecast/level.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"

namespace cinnabar {

const char* state_name(State state) {
  switch (state) {
    case State::level:
      return "level";
    case State::leaning:
      return "leaning";
    case State::out:
      return "out";
    case State::unknown:
      break;
  }
  return "unknown";
}

double badness(double value, const Band& band) {
  double worst = -std::numeric_limits<double>::infinity();
  if (band.low) worst = std::max(worst, *band.low - value);
  if (band.high) worst = std::max(worst, value - *band.high);
  return worst;
}

State state_of(double value, const Band& band, bool count) {
  if (!std::isfinite(value)) return State::unknown;
  if (!band.low && !band.high) return State::level;
  double margin = 0.0;
  if (!count) {
    if (band.low && band.high)
      margin = 0.1 * (*band.high - *band.low);
    else
      margin = 0.1 * std::abs(band.low ? *band.low : *band.high);
  }
  const double b = badness(value, band), rounding = 1e-9 * (1.0 + std::abs(value));
  if (b <= -margin + rounding) return State::level;
  if (margin > 0.0 && b <= margin + rounding) return State::leaning;
  return b <= rounding ? State::level : State::out;
}

std::string told_effects(const std::vector<Level>& before, const std::vector<Level>& after, const std::string& own,
                         int& harm) {
  const auto rank = [](State s) { return s == State::leaning ? 1 : s == State::out ? 2 : 0; };
  std::string worse, better;
  for (const Level& a : after) {
    if (a.id == own) continue;
    const auto b = std::find_if(before.begin(), before.end(), [&](const Level& l) { return l.id == a.id; });
    const int was = b == before.end() ? 0 : rank(b->state), is = rank(a.state);
    if (is == was || !a.value) continue;
    harm += is - was;
    std::string& to = is > was ? worse : better;
    to += said("{}{} {} at {} {}", to.empty() ? "" : ", ", a.title,
               a.state == State::level     ? "comes home"
               : a.state == State::leaning ? "leans"
                                           : "goes out",
               number_text(*a.value, 3), a.unit);
  }
  return worse + (worse.empty() || better.empty() ? "" : "; ") + better;
}

}  // namespace cinnabar
