// What every level's computation may look at, for one shot.
#pragma once
#include "cinnabar/forecast/forecast.h"

namespace cinnabar {

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
  /// Light at the moments that matter (start, middle, end where something changes; else the start).
  [[nodiscard]] const std::vector<LightMoment>& light() const;
  [[nodiscard]] bool cancelled() const { return cancel && cancel->load(); }

  /// Points of all products that outline them, on the floor at `t`, rims included.
  [[nodiscard]] std::vector<Vec3> outline_points(double t) const;
  struct Facing2 {
    Vec3 at, normal;
  };
  /// Label points that face the camera at `t`; a product without a label gives its outline's points that do.
  [[nodiscard]] std::vector<Facing2> sharp_points(double t, bool whole_product) const;
  [[nodiscard]] bool has_label() const;

 private:
  mutable std::optional<std::vector<LightMoment>> light_;  // measured when first asked for
};

/// A level with its title, unit, source and band (the user's own where there is one) filled in; unknown so far.
[[nodiscard]] Level started(const ShotContext& c, const std::string& id, const std::string& title,
                            const std::string& unit, const Band& usual, const std::string& source);

/// Value at the worst of several moments; `at` is its place among them.
struct Worst {
  double value, set_time;
  std::size_t at = 0;
};
[[nodiscard]] Worst worst_of(const std::vector<Worst>& moments, const Band& band);
void settle(Level& level, const Worst& worst, bool count = false);

/// Blur at a depth, in percent of the frame's height.
[[nodiscard]] double edge_blur_percent(const ShotContext& c, double set_time, double depth);

/// "null" with what is missing.
[[nodiscard]] Level unknown(Level level, const std::string& missing);

using LevelFunction = std::optional<Level> (*)(const ShotContext&);
struct LevelEntry {
  const char* id;
  LevelFunction compute;
};
[[nodiscard]] const std::vector<LevelEntry>& level_table();

// One function per level; nothing when the level does not apply to the shot.
std::optional<Level> frame_backdrop_edge(const ShotContext&);
std::optional<Level> frame_size(const ShotContext&);
std::optional<Level> light_product(const ShotContext&);
std::optional<Level> light_backdrop(const ShotContext&);
std::optional<Level> light_highlight(const ShotContext&);
std::optional<Level> light_white(const ShotContext&);
std::optional<Level> motion_smear(const ShotContext&);
std::optional<Level> motion_slow(const ShotContext&);
std::optional<Level> motion_length(const ShotContext&);
std::optional<Level> motion_load(const ShotContext&);
std::optional<Level> focus_depth(const ShotContext&);
std::optional<Level> frame_copy_space(const ShotContext&);
std::optional<Level> frame_shapes(const ShotContext&);
std::optional<Level> frame_crop_room(const ShotContext&);
std::optional<Level> frame_close_focus(const ShotContext&);
std::optional<Level> light_ratio(const ShotContext&);
std::optional<Level> light_soft(const ShotContext&);
std::optional<Level> light_stripe(const ShotContext&);
std::optional<Level> light_flicker(const ShotContext&);
std::optional<Level> light_shadow(const ShotContext&);
std::optional<Level> light_cast(const ShotContext&);
std::optional<Level> light_spill(const ShotContext&);
std::optional<Level> motion_facing(const ShotContext&);
std::optional<Level> frame_feature(const ShotContext&);
std::optional<Level> motion_peak(const ShotContext&);
std::optional<Level> motion_judder(const ShotContext&);
std::optional<Level> motion_reach(const ShotContext&);
std::optional<Level> motion_loop(const ShotContext&);
std::optional<Level> focus_diffraction(const ShotContext&);
std::optional<Level> focus_hides_edge(const ShotContext&);
std::optional<Level> focus_pull(const ShotContext&);
std::optional<Level> camera_mode(const ShotContext&);
std::optional<Level> camera_locked(const ShotContext&);
std::optional<Level> camera_media(const ShotContext&);
std::optional<Level> camera_stops(const ShotContext&);
std::optional<Level> camera_iso(const ShotContext&);
std::optional<Level> camera_shutter(const ShotContext&);

}  // namespace cinnabar
