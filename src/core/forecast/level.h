// One judgement: a predicted quantity held against what is wanted.
#pragma once
#include <algorithm>
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/project/document/edit.h"

namespace cinnabar {

enum class State { level, leaning, out, unknown };
[[nodiscard]] const char* state_name(State state);

/// What is wanted; a missing bound is none.
struct Band {
  std::optional<double> low, high;
};

/// What a value is told in, and how it is written beside its level's name. Two may bear one name and be written
/// differently: stops that are free, and stops whose sign says which way it is off.
enum class Unit {
  none,
  stops,
  signed_stops,
  stops_under_clip,
  mired,
  frames,
  frame_share,
  rating_share,
  width_share,
  stock_share,
  turn_share,
  breathing,
  percent,
  degrees,
  times,
  iso,
  px,
  pitches,
  mm,
  spare_mm,
  spare_metres,
  seconds,
  missing,
  unlocked,
  cut_share,
  decibels,
  spare_ml,
  spare_seconds,
  unread,
  colour_difference,
  picture_share
};
/// Its name in answers: "stops", "% of the frame".
[[nodiscard]] const char* unit_name(Unit unit);

/// How a level stands at one moment.
struct MomentValue {
  double set_time, value;
};

struct Level {
  std::string id, title;
  Unit unit = Unit::none;
  std::optional<double> value;
  Band band;
  State state = State::unknown;
  std::string sentence, formula, source;
  std::optional<double> set_time;      ///< the worst moment
  bool sure = true;                    ///< false: found by a rough look at the light, and still being measured
  std::vector<MomentValue> moments{};  ///< of which the worst counts, where it is the worst of several
  std::optional<double> error{};       ///< standard error of a value found by sampling, from independent batches
};

/// A level that a lever moves besides its own.
struct MovedLevel {
  std::optional<std::size_t> shot;  ///< another of the set-up; none for the lever's own and for the spot's levels
  Level before, after;
};

/// Of two states of a level whether it is told as moved: its state changes, or `far` and it moves by a quarter of
/// its band or more.
[[nodiscard]] bool has_moved(const Level& before, const Level& after, bool far);
/// Those that are harmed before those that only move, a lever's own shot's before others'.
void worst_first(std::vector<MovedLevel>& moved);

/// One change that would bring a level home, staged and found to do so.
struct Lever {
  std::string title;  ///< "Move Key from 0.90 m to 0.64 m"
  Edit edit;
  double after = 0;  ///< the level's value then
  State state_after = State::unknown;
  std::string price;  ///< minutes, gear, and what it does to the other levels
  double minutes = 0;
  int harm =
      0;  ///< by how many states it makes other levels worse; one that cannot be told any more counts as out
  bool not_owned = false;         ///< needs what the kit does not hold
  std::string needs;              ///< gear, and what of it is not owned; empty where none is needed
  std::vector<MovedLevel> moved;  ///< worst first
};

/// The value as it stands beside the level's name, in few letters: "+0.3 stops", "2 missing"; says so where it
/// cannot be told.
[[nodiscard]] std::string value_text(const Level& level);

/// Leaning is inside the band's outer tenth or up to a tenth beyond: a tenth of a two-sided band's width, of the
/// bound where there is one. A bound of 0 and counts have no leaning.
[[nodiscard]] State state_of(double value, const Band& band, bool count = false);
/// Whether a value that errs by so much may be told: no edge between two states lies within three errors of it, or
/// the error is under a fortieth of the band's width (of the bound where there is one; 0.02 at a bound of 0).
[[nodiscard]] bool sure_of(double value, double error, const Band& band);
/// How much a state weighs where changes are compared: out 2, leaning 1.
[[nodiscard]] int weight_of(State state);
[[nodiscard]] int weight_of(const std::vector<Level>& levels);
/// By how much worse a level stands than before (less than 0: better); one that cannot be told any more counts as
/// out.
[[nodiscard]] int worse_by(const Level& before, const Level& after);
/// How many levels stand how; what cannot be told is counted neither way.
struct Tally {
  int level = 0, leaning = 0, out = 0;
};
[[nodiscard]] Tally tally(const std::vector<Level>& levels);

/// The level of that id, or nothing.
template <class Levels>
auto level_named(Levels& levels, const std::string& id) {
  const auto it = std::find_if(levels.begin(), levels.end(), [&](const Level& l) { return l.id == id; });
  return it == levels.end() ? nullptr : &*it;
}

/// What a change does to levels, in words: those other than `own` whose state it moves, the worse ones first;
/// empty when there are none. `harm` grows by each step for the worse, and by two where a level cannot be told any
/// more; what gets better never pays for it.
[[nodiscard]] std::string told_effects(const std::vector<Level>& before, const std::vector<Level>& after,
                                       const std::string& own, int& harm);
/// A two-sided band's width, of a one-sided one its bound's size; 0 where there is none.
[[nodiscard]] double width_of(const Band& band);
/// How far outside the band (positive) or inside it (negative) a value lies.
[[nodiscard]] double badness(double value, const Band& band);

}  // namespace cinnabar
