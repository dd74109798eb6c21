// Find the stops: light, ISO, aperture, shutter and filters solved together for one shot.
#pragma once
#include <set>
#include <string>
#include <vector>

#include "cinnabar/forecast/forecast.h"

namespace cinnabar {

/// Settings that expose the shot, staged and judged.
struct StopsAnswer {
  std::string title;
  double iso = 0, f_number = 0, shutter_time = 0, rate = 0, nd_stops = 0;
  double light_stops = 0;  ///< by which all lights that are on are turned up or down
  struct Dimmed {
    std::string id;
    double dimmer;
    Vec3 place;
  };
  std::vector<Dimmed> lights;
  Document after;
  std::vector<Level> levels;  ///< all of the shot, as they then are
  double minutes = 0;
  std::vector<std::string> gear;
};
struct StopsFound {
  std::vector<StopsAnswer>
      list;                ///< the house rule's best first, then those farthest from one another; at most six
  double short_stops = 0;  ///< where there is none: light that is missing (+) or too much (-)
};

/// What may be held: "iso", "aperture", "shutter", "rate", "nd", "lights". The mode, and so the rate, is always
/// kept.
[[nodiscard]] const std::vector<std::string>& stops_pins();

/// The settings that no others match or better in ISO, aperture, shutter, filters and light changed, of those
/// within the levels' bands of ISO, shutter, depth, diffraction and smear (of a band that nothing meets, what
/// comes nearest). The exposure aimed at is the one within a third of a stop after which most levels that read the
/// light stand. Fails where the shot's light cannot be told. Quick but for its verification.
[[nodiscard]] Expected<StopsFound> find_stops(const Forecaster& forecaster, const Document& document,
                                              std::size_t shot, const std::set<std::string>& pins,
                                              const std::atomic<bool>* cancel = nullptr);

}  // namespace cinnabar
