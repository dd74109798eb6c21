// What something not owned would buy: the whole project staged with it, and the levels it brings home.
#pragma once
#include <atomic>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/forecast/forecast.h"

namespace cinnabar {

/// A thing as it would stand in the kit.
struct Acquisition {
  std::string list;        ///< "kit/lenses"
  JsonPtr item;            ///< with an id that the list may or may not have yet
  std::string stands_for;  ///< id of the thing it takes the place of; empty: whatever it fits
  std::string title;
  std::optional<double> price;
};

/// One level that changes its state.
struct Gain {
  std::size_t shot;
  std::string level, title;
  State before, after;
};
struct Bought {
  Acquisition thing;
  std::vector<Gain> gains, losses;  ///< for the better, for the worse
  std::vector<std::string> how;     ///< by shot, what else was set ("shot 2: opened a stop, ISO a stop lower")
  int homes = 0;                    ///< levels that come home
  /// Levels brought home for each hundred of the price; nothing without one.
  [[nodiscard]] std::optional<double> per_hundred() const;
};

/// What could be bought for this project: what its kit holds as not owned, and of what its shots use a lens a stop
/// faster, a light of twice the output, a second light, a turntable for four times the load and speeds, a slider
/// of twice the travel, a sensor a stop cleaner, more card space and charge.
[[nodiscard]] std::vector<Acquisition> acquisitions(const Document& document);

/// Stages every shot with the thing in use and reads its levels; where light or aperture would be more than before
/// the shot may be opened, stopped down or turned to another ISO, whichever leaves fewest levels out. Looks as
/// closely as `forecaster` does. Nothing when cancelled.
[[nodiscard]] std::optional<Bought> what_it_buys(const Forecaster& forecaster, const Document& document,
                                                 const Acquisition& thing,
                                                 const std::atomic<bool>* cancel = nullptr);

/// All of them, the most levels brought home first; where both have a price, the most for the money first.
/// `progress` is told after each, on whichever thread staged it, one at a time.
[[nodiscard]] std::vector<Bought> ranked(const Forecaster& forecaster, const Document& document,
                                         const std::vector<Acquisition>& things,
                                         const std::function<void(std::size_t done)>& progress = {},
                                         const std::atomic<bool>* cancel = nullptr);

}  // namespace cinnabar
