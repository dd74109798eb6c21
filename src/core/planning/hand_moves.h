// What a motor would do, said for a hand: where to put tape, how to count, how quick it gets, and what a missed
// mark is in the picture.
#pragma once
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// One thing that is moved in a shot. Values are metres of a way, degrees, or a dimmer's share, after their track.
struct HandMove {
  enum class Measure { way, distance, angle, dimmer };  ///< a way gone, a distance that is set, degrees, a dimmer
  struct Mark {
    double set_time, at;
    double from_sensor = 0.0;  ///< of a focus: metres from the sensor's mark, as a lens's ring has them
  };
  std::string target;  ///< of the track
  std::string what;    ///< for people: "Camera on its slide"
  Measure measure = Measure::way;
  std::vector<Mark> marks;    ///< start, every `apart` seconds of the move, end
  double apart = 1.0;         ///< set seconds between two marks, as it is counted
  double fastest = 0.0;       ///< a second, without its sign
  double fastest_at = 0.0;    ///< set second
  std::optional<double> off;  ///< recorded pixels of 1 mm or 1 degree beside a mark, of the product in the middle
  /// What is moved weighs, where it is known; a place that stays level can be pulled on a cloth or by a magnet.
  std::optional<double> mass;
  bool level_way = false;
  double gains = 0.0;        ///< greatest acceleration, m/s2 or degrees/s2, of a hand from mark to mark
  double rate = 0.0;         ///< recorded frames a second
  double frame_lasts = 0.0;  ///< set seconds that a frame of the film takes as the move ends

  [[nodiscard]] double seconds() const { return marks.back().set_time - marks.front().set_time; }
  /// As far as it goes, there and back counted.
  [[nodiscard]] double travel() const;
};

/// The moves of a shot that a hand can make, in the order of its tracks: nothing of the edit's crop, of what
/// stands still, nor of a shot without length.
[[nodiscard]] std::vector<HandMove> hand_moves(const Project& project, const Shot& shot);

/// Every mark as it is set, the last with its unit.
[[nodiscard]] std::vector<std::string> mark_texts(const HandMove& move);
/// All of them: "0, 12, 60 mm", "0.0, 30.0°".
[[nodiscard]] std::string marks_text(const HandMove& move);
/// When and how long, how it is counted, and how quick it is.
[[nodiscard]] std::string pace_text(const HandMove& move);
/// What a missed mark is in the picture, or a focus on the lens's ring; empty where it is not known.
[[nodiscard]] std::string care_text(const HandMove& move);
/// What else a hand can do it by, each with its physics and what to mind: a string round a bolt, a drill, a cloth,
/// a magnet.
[[nodiscard]] std::vector<std::string> means_texts(const HandMove& move);
/// How many takes one is good in whose end comes within a frame of its moment, by a hand's scatter; nothing past a
/// thousand.
[[nodiscard]] std::optional<double> takes_for_one(const HandMove& move);
/// The same in words.
[[nodiscard]] std::string takes_text(const HandMove& move);
/// All that is said of it but its marks, a line each.
[[nodiscard]] std::vector<std::string> hand_lines(const HandMove& move);

}  // namespace cinnabar
