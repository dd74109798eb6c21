// A stand-in for a motion controller: slide, lift, travel, tilt, pan and turntable with their limits, their steps,
// their play and their lag, spoken to line by line. docs/motion-controller.md has its language.
#pragma once
#include <array>
#include <string>
#include <string_view>
#include <vector>

#include "cinnabar/devices/motion_reader.h"

namespace cinnabar {

/// What one axis can do: mm or degrees, a second, a second squared.
struct AxisLimits {
  double low, high, speed, acceleration;
};
struct MotionSettings {
  std::array<AxisLimits, axis_count> axes{{{-1000, 1000, 300, 2000},
                                           {-1000, 1000, 300, 2000},
                                           {-1000, 1000, 300, 2000},
                                           {-60, 60, 90, 360},
                                           {-180, 180, 90, 360},
                                           {-36000, 36000, 180, 360}}};
  double step = 0.0125;    ///< mm or degrees: what it moves by at the least
  double backlash = 0.02;  ///< mm or degrees lost where it turns back
  double lag = 0.01;       ///< seconds that it follows behind (time constant)
  double silence = 2.0;    ///< seconds without a word after which it stops what moves
};

/// `run` waits at the start; `idle` stands anywhere; `stopped` moves nothing until it is released.
enum class MotionState { idle, ready, moving, stopped };
[[nodiscard]] std::string_view word_of(MotionState state);

class SimulatedMotion {
 public:
  explicit SimulatedMotion(const MotionSettings& settings = {});

  /// The one answer to a line: "ok ..." or "error WHAT: ...; mend".
  [[nodiscard]] std::string answer(std::string_view line);
  /// Lets time go by; what it has to say unasked ("done run", "at ...", "stopped ...").
  [[nodiscard]] std::vector<std::string> advance(double seconds);
  /// Whoever spoke has gone: what moves is stopped, what was half loaded is forgotten.
  void left();

  [[nodiscard]] MotionState state() const { return state_; }
  /// Where it stands, with its steps and its play.
  [[nodiscard]] AxisPlaces places() const;
  /// Seconds since the run began, or since the last one did.
  [[nodiscard]] double run_seconds() const { return run_clock_; }

 private:
  struct Waypoint {
    double time;
    AxisPlaces places;
  };
  using Words = std::vector<std::string>;
  [[nodiscard]] std::string release();
  [[nodiscard]] std::string load(const Words& words);
  [[nodiscard]] std::string loaded(std::string_view line);
  [[nodiscard]] std::string check();
  [[nodiscard]] std::string start();
  [[nodiscard]] std::string run();
  [[nodiscard]] std::string jog(const Words& words);
  [[nodiscard]] std::string limit(const Words& words);
  [[nodiscard]] std::string watch(const Words& words);
  [[nodiscard]] std::string where() const;
  [[nodiscard]] std::string limits() const;
  void stop(std::string why);
  void step(double seconds);
  /// Where the plan's way to the start ends, and its pieces as waypoints from somewhere on.
  [[nodiscard]] AxisPlaces begin_of_plan() const;
  [[nodiscard]] std::vector<Waypoint> way(const std::vector<MotionPiece>& pieces, AxisPlaces from) const;
  /// What stands against going this way, if anything.
  [[nodiscard]] std::string against(const std::vector<Waypoint>& way, const AxisPlaces& from, bool timed) const;
  void go(std::string what, std::vector<Waypoint> way);
  [[nodiscard]] bool may_move(std::string& why) const;

  MotionSettings settings_;
  MotionState state_ = MotionState::idle;
  AxisPlaces asked_{}, followed_{}, played_{};  // where the motors are told to be, are, and what they carry is
  AxisPlaces speeds_{};                         // of what is asked
  std::vector<Waypoint> way_;
  AxisPlaces way_start_{};  // where the way was begun
  std::size_t next_ = 0;
  double clock_ = 0, run_clock_ = 0, silent_ = 0, watch_every_ = 0, watch_due_ = 0;
  std::string doing_, why_stopped_;
  std::vector<std::string> lines_;
  std::size_t expected_ = 0;  // lines of the program that is being loaded; 0: none is
  MotionPlan plan_;
  bool has_plan_ = false;
};

}  // namespace cinnabar
