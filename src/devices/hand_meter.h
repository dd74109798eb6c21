// A stand-in for a hand meter on a set that differs from the plan: brighter or dimmer lamps, light that the room
// throws back, and the error of a hand. docs/hand-meter.md has its language.
#pragma once
#include <map>
#include <memory>
#include <optional>
#include <random>
#include <string>
#include <string_view>

#include "cinnabar/base/result.h"
#include "cinnabar/project/model/entities.h"
#include "cinnabar/render/meter.h"

namespace cinnabar {

/// What is otherwise on that set than the plan has it.
struct MeterSettings {
  std::map<std::string, double> factors;  ///< by id of light: what it gives, times what was taken
  std::map<std::string, double> beams;    ///< by id of light: the angle of its beam, degrees
  double bounce_lx = 0;                   ///< more on all sides than was taken
  double error = 0;                       ///< of one reading, a share of it (standard deviation)
  unsigned seed = 1;
};

/// The set as it then is. Fails where a light is none of the shot's set-up.
[[nodiscard]] Expected<Project> otherwise(const Project& project, const Shot& shot, const MeterSettings& settings);

class SimulatedMeter {
 public:
  SimulatedMeter(const Project& project, const Shot& shot, double set_time, const MeterSettings& settings);

  /// The one answer to a line: "ok ..." or "error WHAT: ...; mend".
  [[nodiscard]] std::string answer(std::string_view line);
  /// Whoever spoke has gone: the meter is put down.
  void left() { held_.reset(); }

 private:
  struct Held {
    Vec3 at, normal;
  };
  [[nodiscard]] std::string hold(const std::vector<std::string>& words);
  [[nodiscard]] std::string read();

  std::shared_ptr<const StagedWorld> world_;
  std::unique_ptr<const Tracer> tracer_;
  double error_;
  std::mt19937 chance_;
  std::optional<Held> held_;
};

}  // namespace cinnabar
