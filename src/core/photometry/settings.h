// Settings found for the light there is.
#pragma once
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/base/keys.h"

namespace cinnabar {

/// Settings out of lists of marks that the light at full, dimmed by up to `dim_stops`, exposes within
/// `slack_stops`. `loss_stops` are bellows, glass and filters. By `add-light` the least ISO, then ND and f-number,
/// then the longest time; by `stop-down` the greatest f-number, then the least ISO and ND, then the longest time.
/// `frontier` counts the fitting settings that no other matches or betters in ISO, f-number and time. (ISO
/// 2720:1974, C = 250.)
struct FoundExposureInputs {
  double illuminance_lx;
  std::vector<double> f_numbers, times, isos, nds;
  double dim_stops, slack_stops, loss_stops, target_stops;
  std::string rule;
  static Keys<FoundExposureInputs> keys();
};
struct FoundExposure {
  std::optional<double> f_number, time, iso, nd_stops, light_stops, error_stops;
  double missing_stops, answers, frontier;
  static Results<FoundExposure> results();
};
[[nodiscard]] Expected<FoundExposure> find_exposure(const FoundExposureInputs&);

}  // namespace cinnabar
