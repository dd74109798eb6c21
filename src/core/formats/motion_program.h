// A shot's moves as a motion program in RS-274/NGC, for controllers of sliders, heads and turntables.
#pragma once
#include <functional>
#include <string>
#include <vector>

#include "cinnabar/base/result.h"
#include "cinnabar/base/vec.h"
#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// One axis of a controller: its letter, and over set time its value in millimetres or degrees.
struct DrivenAxis {
  char letter;
  std::string what;
  std::function<double(double)> at;
  bool turns = false;
  /// In metres, or radians.
  [[nodiscard]] double base(double value) const { return turns ? radians(value) : 1e-3 * value; }
};
/// What of a shot a controller drives, by the letters of motion_program(); empty where nothing moves.
[[nodiscard]] std::vector<DrivenAxis> driven_axes(const Shot& shot);

/// Straight pieces stay within `tolerance` of the track: metres of a place, radians of an angle about 1 m away.
struct ProgramOptions {
  double tolerance = 1e-5;
};
/// The program of one shot: millimetres and degrees, absolute, each piece timed by inverse time (G93), from the
/// start's place, which is gone to slowly first. X, Y, Z: slide or travel of the camera; A: tilt; B: pan, both
/// from where they begin where the camera follows an aim; C: the turntable. Roll, zoom and focus are not driven.
/// After Kramer, Proctor and Messina 2000, NISTIR 6556. Fails where nothing moves that a controller drives.
[[nodiscard]] Expected<std::string> motion_program(const Project& project, std::size_t shot,
                                                   const ProgramOptions& options = {});

}  // namespace cinnabar
