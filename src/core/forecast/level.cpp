#include "cinnabar/forecast/level.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>
#include <tuple>

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

namespace {

/// One row a unit: its name in answers, and how a value is written in few letters.
struct UnitRow {
  Unit unit;
  const char* name;
  std::string (*written)(double);
};

template <int decimals>
std::string fixed(double v) {
  return fixed_text(v, decimals);
}

const UnitRow& unit_row(Unit unit) {
  static const UnitRow rows[] = {
      {Unit::none, "", [](double v) { return number_text(v, 3); }},
      {Unit::stops, "stops", [](double v) { return said("{} stops", fixed_text(v, 1)); }},
      {Unit::signed_stops, "stops", [](double v) { return said("{} stops", signed_text(v, 1)); }},
      {Unit::stops_under_clip, "stops", [](double v) { return said("{} under clip", fixed_text(v, 1)); }},
      {Unit::mired, "mired", [](double v) { return said("{} mired", signed_text(v, 0)); }},
      {Unit::frames, "frames",
       [](double v) { return said("{} frames", std::abs(v) < 0.05 ? "0" : signed_text(v, 1)); }},
      {Unit::frame_share, "% of the frame", [](double v) { return said("{} % of frame", fixed_text(v, 0)); }},
      {Unit::rating_share, "% of the rating", [](double v) { return said("{} % of rating", fixed_text(v, 0)); }},
      {Unit::width_share, "% of the width", [](double v) { return said("{} % of width", fixed_text(v, 1)); }},
      {Unit::stock_share, "% of what is there", [](double v) { return fixed_text(v, 0) + " %"; }},
      {Unit::turn_share, "% of a turn", [](double v) { return said("{} % of a turn", number_text(v, 3)); }},
      {Unit::breathing, "% breathing", [](double v) { return fixed_text(v, 1) + " %"; }},
      {Unit::percent, "%", [](double v) { return number_text(v, 3) + " %"; }},
      {Unit::degrees, "degrees", [](double v) { return fixed_text(v, 0) + "\u00B0"; }},
      {Unit::times, "x", [](double v) { return fixed_text(v, 1) + " \u00D7"; }},
      {Unit::iso, "ISO", fixed<0>},
      {Unit::px, "px", [](double v) { return fixed_text(v, 1) + " px"; }},
      {Unit::pitches, "pixel pitches", [](double v) { return said("{} pitches", fixed_text(v, 1)); }},
      {Unit::mm, "mm", [](double v) { return fixed_text(v, 1) + " mm"; }},
      {Unit::spare_mm, "mm",
       [](double v) {
         return v < 0 ? said("{} mm short", fixed_text(-v, 1)) : said("{} mm spare", fixed_text(v, 1));
       }},
      {Unit::spare_metres, "m",
       [](double v) {
         return v < 0 ? said("{} m too near", fixed_text(-v, 2)) : said("{} m spare", fixed_text(v, 2));
       }},
      {Unit::seconds, "s", [](double v) { return number_text(v, 3) + " s"; }},
      {Unit::missing, "things missing",
       [](double v) { return v == 0 ? said("all there") : said("{} missing", number_text(v, 3)); }},
      {Unit::unlocked, "not locked",
       [](double v) { return v == 0 ? said("all locked") : said("{} open", number_text(v, 3)); }},
      {Unit::spare_ml, "ml",
       [](double v) {
         return v < 0 ? said("{} ml too much", fixed_text(-v, 0)) : said("{} ml spare", fixed_text(v, 0));
       }},
      {Unit::spare_seconds, "s",
       [](double v) {
         return v < 0 ? said("{} s too short", number_text(-v, 2)) : said("{} s spare", number_text(v, 2));
       }},
      {Unit::unread, "not read",
       [](double v) { return v == 0 ? said("all read") : said("{} unread", number_text(v, 3)); }},
      {Unit::decibels, "dB", [](double v) { return fixed_text(v, 0) + " dB"; }},
      {Unit::colour_difference, "colour difference", [](double v) { return said("{} apart", fixed_text(v, 0)); }},
      {Unit::picture_share, "% of the picture", [](double v) { return number_text(v, 2) + " %"; }},
      {Unit::cut_share, "share", [](double v) { return said("{} share", number_text(v, 3)); }},
  };
  for (const UnitRow& row : rows)
    if (row.unit == unit) return row;
  return rows[0];
}

}  // namespace

const char* unit_name(Unit unit) { return unit_row(unit).name; }

std::string value_text(const Level& level) {
  return level.value ? unit_row(level.unit).written(*level.value) : said("cannot be told");
}

double badness(double value, const Band& band) {
  double worst = -std::numeric_limits<double>::infinity();
  if (band.low) worst = std::max(worst, *band.low - value);
  if (band.high) worst = std::max(worst, value - *band.high);
  return worst;
}

double width_of(const Band& band) {
  return band.low && band.high ? *band.high - *band.low : std::abs(band.low.value_or(band.high.value_or(0.0)));
}

State state_of(double value, const Band& band, bool count) {
  if (!std::isfinite(value)) return State::unknown;
  if (!band.low && !band.high) return State::level;
  const double margin = count ? 0.0 : 0.1 * width_of(band);
  const double b = badness(value, band), rounding = 1e-9 * (1.0 + std::abs(value));
  if (b <= -margin + rounding) return State::level;
  if (margin > 0.0 && b <= margin + rounding) return State::leaning;
  return b <= rounding ? State::level : State::out;
}

bool sure_of(double value, double error, const Band& band) {
  const double width = width_of(band);
  if (error <= (width > 0.0 ? width / 40.0 : 0.02)) return true;
  for (const auto& bound : {band.low, band.high})
    if (bound)
      for (const double edge : {*bound - 0.1 * width, *bound + 0.1 * width})
        if (std::abs(value - edge) < 3.0 * error) return false;
  return true;
}

int weight_of(State state) { return state == State::out ? 2 : state == State::leaning ? 1 : 0; }
int worse_by(const Level& before, const Level& after) {
  const bool lost = after.state == State::unknown && before.state != State::unknown;
  return weight_of(lost ? State::out : after.state) - weight_of(before.state);
}
int weight_of(const std::vector<Level>& levels) {
  int sum = 0;
  for (const Level& l : levels) sum += weight_of(l.state);
  return sum;
}
Tally tally(const std::vector<Level>& levels) {
  Tally t;
  for (const Level& l : levels) {
    t.level += l.state == State::level ? 1 : 0;
    t.leaning += l.state == State::leaning ? 1 : 0;
    t.out += l.state == State::out ? 1 : 0;
  }
  return t;
}

std::string told_effects(const std::vector<Level>& before, const std::vector<Level>& after, const std::string& own,
                         int& harm) {
  std::string worse, better;
  for (const Level& a : after) {
    if (a.id == own) continue;
    const auto b = std::find_if(before.begin(), before.end(), [&](const Level& l) { return l.id == a.id; });
    if (b != before.end() && b->state != State::unknown && a.state == State::unknown) {
      harm += 2;
      worse += said("{}{} cannot be told any more", worse.empty() ? "" : ", ", a.title);
      continue;
    }
    const int was = b == before.end() ? 0 : weight_of(b->state), is = weight_of(a.state);
    if (is == was || !a.value) continue;
    harm += std::max(0, is - was);
    std::string& to = is > was ? worse : better;
    to += said("{}{} {} at {} {}", to.empty() ? "" : ", ", a.title,
               a.state == State::level     ? "comes home"
               : a.state == State::leaning ? "leans"
                                           : "goes out",
               number_text(*a.value, 3), unit_name(a.unit));
  }
  return worse + (worse.empty() || better.empty() ? "" : "; ") + better;
}

bool has_moved(const Level& before, const Level& after, bool far) {
  if (!after.value && !before.value) return false;
  if (before.state != after.state) return true;
  return far && after.value && before.value && width_of(after.band) > 0.0 &&
         std::abs(*after.value - *before.value) >= 0.25 * width_of(after.band);
}

void worst_first(std::vector<MovedLevel>& moved) {
  const auto rank = [](const MovedLevel& m) {
    const bool lost = m.after.state == State::unknown && m.before.state != State::unknown;
    return std::tuple(-(lost ? 3 : weight_of(m.after.state) - weight_of(m.before.state)),
                      -weight_of(m.after.state), m.shot.has_value());
  };
  std::stable_sort(moved.begin(), moved.end(),
                   [&](const MovedLevel& a, const MovedLevel& b) { return rank(a) < rank(b); });
}

}  // namespace cinnabar
