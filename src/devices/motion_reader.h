// Motion programs in RS-274/NGC, read as a controller reads them.
#pragma once
#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "cinnabar/base/result.h"

namespace cinnabar {

/// The axes of a controller: three ways in millimetres, then tilt, pan and turntable in degrees.
inline constexpr std::string_view axis_letters = "XYZABC";
inline constexpr std::size_t axis_count = 6;
using AxisPlaces = std::array<double, axis_count>;
[[nodiscard]] constexpr bool axis_turns(std::size_t axis) { return axis >= 3; }

/// A straight piece: the axes that it names go to their places together.
struct MotionPiece {
  std::array<std::optional<double>, axis_count> to;
  double seconds = 0;  ///< that it takes; 0: as `feed` has it
  double feed = 0;     ///< mm or degrees a minute; 0 with no seconds: as fast as the axes go
  std::size_t line = 0;
};

struct MotionPlan {
  std::vector<MotionPiece> start;  ///< the way to where it begins: what stands before the first timed piece
  std::vector<MotionPiece> run;
  std::vector<std::pair<double, std::string>> remarks;  ///< comments within the run, by its seconds
  [[nodiscard]] double seconds() const;                 ///< of the run
  /// When in the run the shot begins: by its remark, else at once.
  [[nodiscard]] double shot_begins() const;
};

/// Reads a whole program: G0, G1, G4, G20, G21, G90, G93, G94, M2, M30, line numbers, comments in brackets or
/// after a semicolon (Kramer, Proctor and Messina 2000, NISTIR 6556). Fails by line at anything else, at lines
/// over 256 characters (section 3.3.1 there) and at programs of over 200,000 lines.
[[nodiscard]] Expected<MotionPlan> read_motion_program(const std::vector<std::string>& lines);

}  // namespace cinnabar
