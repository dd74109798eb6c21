// Moods: what a word asks of light, movement and pace. Common practice, no source.
#pragma once
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/base/vec.h"
#include "cinnabar/forecast/level.h"

namespace cinnabar {

struct Mood {
  std::string word;                     ///< "gentle"
  Band ratio;                           ///< light.ratio, stops
  Band soft;                            ///< light.soft, millimetres
  double judder_factor;                 ///< least seconds across the frame, times this
  std::optional<double> cuts_on_beats;  ///< least share of the cuts, where the project says none
  double shot_seconds;                  ///< how long its shots usually last on screen
  Vec3 paper;                           ///< colour of a paper for it, for each of its reflectance
};
inline constexpr double usual_shot_seconds = 2.5;  ///< without a mood
[[nodiscard]] const std::vector<Mood>& moods();
/// The mood of that word; nothing for others.
[[nodiscard]] const Mood* mood_named(const std::string& word);
/// What it sets, in a sentence: "Sides 1 to 2 stops apart, shadow edges over 12 mm, moves a third slower."
[[nodiscard]] std::string mood_says(const Mood& mood);

}  // namespace cinnabar
