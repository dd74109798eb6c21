// What every level's computation may look at, for one shot.
#pragma once
#include <memory>
#include <mutex>

#include "cinnabar/forecast/forecast.h"
#include "cinnabar/scene/effects_staged.h"

namespace cinnabar {

/// From 30 degrees under the level on.
[[nodiscard]] inline bool looks_down(const CameraPose& pose) { return pose.frame.ahead.y < -0.5; }

struct ShotContext {
  const Project& project;
  std::size_t index;
  const Shot& shot;
  const Setup* setup;
  ShotCamera camera;
  ShotOptics optics;
  double end;                 ///< set time at which the shot ends
  std::vector<double> times;  ///< spread over the shot; one when nothing moves
  MeasureCache& measures;
  MeasureQuality quality;
  const std::atomic<bool>* cancel;

  ShotContext(const Project& project, std::size_t index, MeasureCache& measures, const MeasureQuality& quality,
              const std::atomic<bool>* cancel);

  [[nodiscard]] bool moves() const;  ///< product or camera
  [[nodiscard]] bool camera_moves() const;
  [[nodiscard]] CameraPose pose(double t) const { return camera_at(shot, t); }
  /// When light is measured: once where nothing changes; else at the start, middle and end, at every key and
  /// half-way between neighbours, and after every 15 degrees of turn or 5 % of the frame that a product's image
  /// moves, at most 24 moments; fewer where levers are looked for.
  [[nodiscard]] std::vector<double> light_times() const;
  [[nodiscard]] const std::vector<LightMoment>& light() const;
  /// The same without one batch of a full measure's passes, at these of its moments of light.
  [[nodiscard]] ShotContext without_batch(int number, const std::vector<double>& set_times) const;
  /// What comes of the shot's effects, worked out when it is first asked for; by any number of threads at once.
  [[nodiscard]] const ToldEffects& effects() const;
  [[nodiscard]] bool cancelled() const { return cancel && cancel->load(); }

  /// Points of all products that outline them, on the floor at `t`, rims included.
  [[nodiscard]] std::vector<Vec3> outline_points(double t) const;
  struct Facing2 {
    Vec3 at, normal;
  };
  /// Label points that face the camera at `t`; a product without a label gives its outline's points that do.
  [[nodiscard]] std::vector<Facing2> sharp_points(double t, bool whole_product) const;
  [[nodiscard]] bool has_label() const;
  /// What a macro is of, at `t`: the largest patch of the features promised, its four corners; without any the
  /// label; without that the product's outline. Empty for other sizes.
  [[nodiscard]] std::vector<Facing2> macro_points(double t) const;

 private:
  mutable std::optional<std::vector<LightMoment>> light_;  // measured when first asked for
  struct ToldOnce {
    std::once_flag flag;
    ToldEffects told;
  };
  std::shared_ptr<ToldOnce> effects_ = std::make_shared<ToldOnce>();  // copies are of the same shot
};

struct LevelRow;  // of the table, forecast/level_table.h

/// What a level's function begins with: the level by its row, unknown so far, with the usual band unless the
/// project has its own.
class LevelStart {
 public:
  LevelStart(const LevelRow& row, const Project& project) : row_(row), project_(project) {}
  [[nodiscard]] Level operator()() const;
  /// Where a rule or the shot sets the band.
  [[nodiscard]] Level operator()(const Band& usual) const;
  [[nodiscard]] Level operator()(const Band& usual, const std::string& source) const;
  /// The row's band, from a source that depends.
  [[nodiscard]] Level by(const std::string& source) const;

 private:
  const LevelRow& row_;
  const Project& project_;
};

/// Value at the worst of several moments; `at` is its place among them.
struct Worst {
  double value, set_time;
  std::size_t at = 0;
  std::vector<MomentValue> all{};  ///< of which it is the worst
};
[[nodiscard]] Worst worst_of(const std::vector<Worst>& moments, const Band& band);
void settle(Level& level, const Worst& worst, bool count = false);

/// Blur at a depth, in percent of the frame's height.
[[nodiscard]] double edge_blur_percent(const ShotContext& c, double set_time, double depth);

/// "null" with what is missing.
[[nodiscard]] Level unknown(Level level, const std::string& missing);

}  // namespace cinnabar
