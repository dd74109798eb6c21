// What the house rules and the means ask of the shots where no level judges it: light from above, droplets,
// plates, hands, daylight. In sentences.
#pragma once
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// How steeply a light stands over the middle of the surface, degrees from the horizontal.
[[nodiscard]] double elevation_deg(const Light& light);
/// Above this a light mirrors in the table for an overhead camera (the house rule `overhead`: `never`).
inline constexpr double overhead_deg = 60.0;

/// Lights of the shot's set-up that are on and stand steeper than that, where the rule is `never`.
[[nodiscard]] int lights_from_above(const Project& project, const Shot& shot);

/// The sun on the project's day and place.
struct Daylight {
  double hours = 0;        ///< with the sun at least 5 degrees up: before and after it is dim and blue
  double highest_deg = 0;  ///< at noon
};
/// Nothing where date or place are missing or are none.
[[nodiscard]] std::optional<Daylight> daylight(const Project& project);
/// Hours that the shots by the window take: takes planned, each with its set time, reset and 10 s of lead.
[[nodiscard]] double hours_by_the_window(const Project& project);

/// What does not agree with the rules and means chosen; nothing where all does.
[[nodiscard]] std::vector<std::string> house_faults(const Project& project);

}  // namespace cinnabar
