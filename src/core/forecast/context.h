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

/// Value at the worst of several moments.
struct Worst {
  double value, set_time;
};
[[nodiscard]] Worst worst_of(const std::vector<Worst>& moments, const Band& band);
void settle(Level& level, const Worst& worst, bool count = false);

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
std::optional<Level> camera_stops(const ShotContext&);
std::optional<Level> camera_iso(const ShotContext&);
std::optional<Level> camera_shutter(const ShotContext&);

/// Mean luminance of the brightest third of the product's matte and paper pixels, or of an 18 % card at its front.
struct LitFace {
  double luminance;
  bool by_card;
};
[[nodiscard]] std::optional<LitFace> lit_face(const LightMoment& moment);

}  // namespace cinnabar
