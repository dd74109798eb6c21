// What can be judged: one function a level, each a row of the table. Nothing when a level does not apply to the
// shot, even where its row shows it.
#pragma once
#include <functional>

#include "cinnabar/forecast/levels/features.h"

namespace cinnabar {

std::optional<Level> frame_backdrop_edge(const ShotContext&, const LevelStart&);
std::optional<Level> frame_gear(const ShotContext&, const LevelStart&);
std::optional<Level> frame_size(const ShotContext&, const LevelStart&);
std::optional<Level> frame_copy_space(const ShotContext&, const LevelStart&);
std::optional<Level> frame_shapes(const ShotContext&, const LevelStart&);
std::optional<Level> frame_crop_room(const ShotContext&, const LevelStart&);
std::optional<Level> frame_close_focus(const ShotContext&, const LevelStart&);
std::optional<Level> frame_feature(const ShotContext&, const LevelStart&);

std::optional<Level> light_product(const ShotContext&, const LevelStart&);
std::optional<Level> light_backdrop(const ShotContext&, const LevelStart&);
std::optional<Level> light_even(const ShotContext&, const LevelStart&);
std::optional<Level> light_highlight(const ShotContext&, const LevelStart&);
std::optional<Level> light_white(const ShotContext&, const LevelStart&);
std::optional<Level> light_ratio(const ShotContext&, const LevelStart&);
std::optional<Level> light_soft(const ShotContext&, const LevelStart&);
std::optional<Level> light_stripe(const ShotContext&, const LevelStart&);
std::optional<Level> light_flicker(const ShotContext&, const LevelStart&);
std::optional<Level> light_shadow(const ShotContext&, const LevelStart&);
std::optional<Level> light_mirror(const ShotContext&, const LevelStart&);
std::optional<Level> light_key(const ShotContext&, const LevelStart&);
std::optional<Level> light_daylight(const ShotContext&, const LevelStart&);
std::optional<Level> light_cast(const ShotContext&, const LevelStart&);
std::optional<Level> light_spill(const ShotContext&, const LevelStart&);

std::optional<Level> motion_smear(const ShotContext&, const LevelStart&);
std::optional<Level> motion_slow(const ShotContext&, const LevelStart&);
std::optional<Level> motion_length(const ShotContext&, const LevelStart&);
std::optional<Level> motion_load(const ShotContext&, const LevelStart&);
std::optional<Level> motion_facing(const ShotContext&, const LevelStart&);
std::optional<Level> motion_peak(const ShotContext&, const LevelStart&);
std::optional<Level> motion_judder(const ShotContext&, const LevelStart&);
std::optional<Level> motion_skew(const ShotContext&, const LevelStart&);
std::optional<Level> motion_match(const ShotContext&, const LevelStart&);
std::optional<Level> motion_reach(const ShotContext&, const LevelStart&);
std::optional<Level> motion_loop(const ShotContext&, const LevelStart&);

std::optional<Level> focus_depth(const ShotContext&, const LevelStart&);
std::optional<Level> focus_diffraction(const ShotContext&, const LevelStart&);
std::optional<Level> focus_hides_edge(const ShotContext&, const LevelStart&);
std::optional<Level> focus_pull(const ShotContext&, const LevelStart&);

std::optional<Level> camera_mode(const ShotContext&, const LevelStart&);
std::optional<Level> camera_locked(const ShotContext&, const LevelStart&);
std::optional<Level> camera_media(const ShotContext&, const LevelStart&);
std::optional<Level> camera_stops(const ShotContext&, const LevelStart&);
std::optional<Level> camera_iso(const ShotContext&, const LevelStart&);
std::optional<Level> camera_noise(const ShotContext&, const LevelStart&);
std::optional<Level> camera_shutter(const ShotContext&, const LevelStart&);

std::optional<Level> effect_timing(const ShotContext&, const LevelStart&);
std::optional<Level> effect_speed(const ShotContext&, const LevelStart&);
std::optional<Level> effect_volume(const ShotContext&, const LevelStart&);
std::optional<Level> effect_lasts(const ShotContext&, const LevelStart&);
std::optional<Level> effect_plates(const ShotContext&, const LevelStart&);
std::optional<Level> effect_caution(const ShotContext&, const LevelStart&);
/// Recordings that a shot's effects are composed of, each once.
[[nodiscard]] std::vector<std::string> plates_wanted(const Project&, const Shot&, const ToldEffects&);

/// What a level of the whole spot may look at.
struct SpotContext {
  const Project& project;
  /// How a feature is seen in a shot; none where no light may be measured.
  std::function<std::optional<FeatureSeen>(std::size_t, const Product&, const Feature&)> seeing;
};
std::optional<Level> spot_length(const SpotContext&, const LevelStart&);
std::optional<Level> spot_features(const SpotContext&, const LevelStart&);
std::optional<Level> spot_shape(const SpotContext&, const LevelStart&);
std::optional<Level> spot_beats(const SpotContext&, const LevelStart&);

// When a level is shown.
[[nodiscard]] bool always(const ShotContext&);
[[nodiscard]] bool has_camera(const ShotContext&);
[[nodiscard]] bool has_setup(const ShotContext&);         ///< and a camera
[[nodiscard]] bool has_set(const ShotContext&);           ///< a camera, and a surface or a backdrop
[[nodiscard]] bool has_backdrop(const ShotContext&);      ///< before a camera
[[nodiscard]] bool has_deliverables(const ShotContext&);  ///< and a camera
[[nodiscard]] bool shows_product(const ShotContext&);     ///< to a camera
[[nodiscard]] bool shows_product_in_setup(const ShotContext&);
[[nodiscard]] bool shows_lit_product(const ShotContext&);  ///< in a set-up that has lights
[[nodiscard]] bool shows_product_before_backdrop(const ShotContext&);
[[nodiscard]] bool shows_product_on_ground(const ShotContext&);  ///< or the surface, to a camera that looks down
[[nodiscard]] bool shows_product_to_deliver(const ShotContext&);
[[nodiscard]] bool shows_product_moving(const ShotContext&);  ///< or the camera moves
[[nodiscard]] bool moves_the_camera(const ShotContext&);
[[nodiscard]] bool pulls_focus(const ShotContext&);
[[nodiscard]] bool hides_what_is_behind(const ShotContext&);  ///< by the house rule of depth
[[nodiscard]] bool promises_features(const ShotContext&);
[[nodiscard]] bool faces_somebody(const ShotContext&);  ///< a label is to be read
[[nodiscard]] bool has_effects(const ShotContext&);
[[nodiscard]] bool handles_liquid(const ShotContext&);  ///< effects, or a full glass that leans
[[nodiscard]] bool times_effects(const ShotContext&);   ///< to a second or a beat
[[nodiscard]] bool plans_takes(const ShotContext&);
[[nodiscard]] bool is_put_together(const ShotContext&);  ///< of several recordings

}  // namespace cinnabar
