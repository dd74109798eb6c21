// The point meter: what is read at a set-up's pins, by light, and lights held against what a hand meter read
// there.
#pragma once
#include <atomic>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "cinnabar/base/result.h"
#include "cinnabar/project/document/document.h"
#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// What stands at a pin at one moment of a shot.
struct PinReading {
  std::string pin;                                       ///< its id
  bool there = true;                                     ///< false: the product that carries it is not in the shot
  double lux = 0;                                        ///< all that shines, what things throw back included
  std::vector<std::pair<std::string, double>> by_light;  ///< lux by id of light; the last is "ambient"
  std::optional<double> stops;   ///< an 18 % grey there over the exposure's own grey and the shot's target
  std::optional<double> kelvin;  ///< of the light mixed; nothing in the dark
  /// What a hand meter read over what is forecast, stops; nothing where it was not read, or where either is dark.
  std::optional<double> off_stops;
};
/// All pins of the shot's set-up, in order; none where it has no set-up, and when cancelled. `stops` needs a
/// camera.
[[nodiscard]] std::vector<PinReading> read_pins(const Project& project, const Shot& shot, double set_time,
                                                const std::atomic<bool>* cancel = nullptr);

/// A reading against the forecast, lux, before and after a calibration.
struct PinResidual {
  std::string pin;
  double measured, before, after;
};
/// What readings say of a light.
struct Calibration {
  double output = 1;                 ///< what it gives, times what was taken
  double lumens = 0;                 ///< and so much in all, undimmed
  std::optional<double> grid_deg;    ///< of its beam, where readings tell it
  std::optional<double> ambient_lx;  ///< what the room throws back on all sides, where readings tell it
  std::vector<PinResidual> residuals;
  double off_before = 0, off_after = 0;  ///< root mean square of log2(measured / forecast)
  Values changes;                        ///< that set it so
  std::string title;
};
/// From so many readings on the room's part and the beam are sought besides the output: with fewer any would fit.
inline constexpr std::size_t readings_for_room = 2, readings_for_beam = 4;

/// Least squares of (forecast - measured) / measured over the pins that were read: one reading tells the light's
/// output, two the room's part too, four the angle of its beam (kept where the beam as it is fits nearly as well).
/// Fails where the light is off or not of the set-up, where nothing was read, where no pin gets anything from it
/// and where the others alone give more than was read.
[[nodiscard]] Expected<Calibration> calibrated(const Project& project, std::size_t shot, const std::string& light,
                                               double set_time, const std::atomic<bool>* cancel = nullptr);

}  // namespace cinnabar
