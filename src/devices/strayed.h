// Where a controller says it was, laid over where the plan has it.
#pragma once
#include <string>
#include <vector>

#include "cinnabar/devices/motion_reader.h"
#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// What a controller said: set seconds of the shot, and its axes in mm and degrees.
struct ReportedPlaces {
  double set_time;
  AxisPlaces places;
};
/// How far that is from the plan at the same moment.
struct Strayed {
  double set_time;
  AxisPlaces off{};  ///< reported less planned, mm or degrees; 0 of axes that the shot does not drive
  double px;  ///< the farthest that a point of the products, or the point of focus, stands off in the recording
};
struct StrayedRun {
  std::vector<Strayed> moments;  ///< as reported, those within the shot
  double worst_px = 0, worst_at = 0;
  /// How the axes' own places lie behind the plan: seconds by which the reports would have to be shifted to fit it
  /// best (least squares over -0.25 to 0.25 s). A lag is no fault where the camera is started by it too.
  double behind = 0;
  double worst_px_shifted = 0;  ///< the same once they are
};
/// Lays reports over a shot's plan. Empty where nothing is driven or nothing was reported within the shot.
[[nodiscard]] StrayedRun strayed(const Project& project, const Shot& shot,
                                 const std::vector<ReportedPlaces>& reports);

}  // namespace cinnabar
