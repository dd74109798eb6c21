// A shot's exposure turned to where what it moves stands best: known without rays.
#pragma once
#include <functional>

#include "cinnabar/forecast/forecast.h"

namespace cinnabar {

/// Stops by which an exposure is turned at once.
inline constexpr double exposure_reach = 3.0;

/// Stops more exposure with which all that it moves one for one stands best on the whole: light.product,
/// camera.stops, light.highlight, light.backdrop; at most `most`. Of the levels, those of `first` count twice. 0
/// where hardly anything is gained.
[[nodiscard]] double exposure_wanted(const std::vector<Level>& levels, double most = exposure_reach,
                                     const std::vector<std::string>& first = {});
/// Those levels as they would stand with so many stops more.
[[nodiscard]] std::vector<Level> exposed(std::vector<Level> levels, double stops);
/// Stops by which a shot can be exposed more by what its camera has: ISO, and filters taken off.
[[nodiscard]] double exposure_left(const Project& project, const Shot& shot);

/// Ids of what it moves.
[[nodiscard]] const std::vector<std::string>& moved_by_exposure();
/// The document with a shot exposed so many stops more: filters come off first, then ISO as far as the camera and
/// its limit go; less by ISO, then by filters. Nothing where the shot has no camera.
[[nodiscard]] std::optional<Document> with_exposure(const Document& document, std::size_t shot, double stops);
/// How a shot's levels are looked at: all, or those that a search needs.
using LevelLook = std::function<std::vector<Level>(const Project&)>;
/// Turns a shot's exposure to what is wanted, unless what is looked at weighs more then. `levels` are the shot's
/// as they stand, and as they stand then.
void settle_exposure(const LevelLook& look, Document& document, std::size_t shot, std::vector<Level>& levels,
                     const std::vector<std::string>& first = {});
void settle_exposure(const Forecaster& forecaster, Document& document, std::size_t shot,
                     std::vector<Level>& levels, const std::vector<std::string>& first = {});

}  // namespace cinnabar
