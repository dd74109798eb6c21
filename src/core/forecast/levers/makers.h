// Who makes knobs: rows of the level table name them. Each adds what could be turned, and nothing where it cannot.
#pragma once
#include "cinnabar/forecast/levers/knobs.h"

namespace cinnabar {

// One kind of change alone.
void iso_knobs(const Bench& b, std::vector<Knob>& list);
void aperture_knobs(const Bench& b, std::vector<Knob>& list);
void shutter_knobs(const Bench& b, std::vector<Knob>& list);
void nd_knobs(const Bench& b, std::vector<Knob>& list);
void dolly_knobs(const Bench& b, std::vector<Knob>& list);
void zoom_knobs(const Bench& b, std::vector<Knob>& list);
void lens_knobs(const Bench& b, std::vector<Knob>& list);
void mode_knobs(const Bench& b, std::vector<Knob>& list);
void refocus_knobs(const Bench& b, std::vector<Knob>& list);
void shutter_for_iso_knobs(const Bench& b, std::vector<Knob>& list);
void aperture_for_iso_knobs(const Bench& b, std::vector<Knob>& list);
void iso_for_aperture_knobs(const Bench& b, std::vector<Knob>& list);
void play_speed_knobs(const Bench& b, std::vector<Knob>& list);
void lean_less_knobs(const Bench& b, std::vector<Knob>& list);
void slower_table_knobs(const Bench& b, std::vector<Knob>& list);
void mode_and_speed_knobs(const Bench& b, std::vector<Knob>& list);
void length_knobs(const Bench& b, std::vector<Knob>& list);
void dimmer_knobs(const Bench& b, std::vector<Knob>& list);  ///< each light's
void all_dimmers_knobs(const Bench& b, std::vector<Knob>& list);
void exposure_knobs(const Bench& b, std::vector<Knob>& list);  ///< in the order of the house rule
void backdrop_light_knobs(const Bench& b, std::vector<Knob>& list);
void backdrop_distance_knobs(const Bench& b, std::vector<Knob>& list);
void backdrop_tone_knobs(const Bench& b, std::vector<Knob>& list);
void switch_on_knobs(const Bench& b, std::vector<Knob>& list);
void switch_off_knobs(const Bench& b, std::vector<Knob>& list);
void main_light_knobs(const Bench& b, std::vector<Knob>& list);  ///< its dimmer
void reaim_light_knobs(const Bench& b, std::vector<Knob>& list);
void gear_place_knobs(const Bench& b, std::vector<Knob>& list);
void carry_round_knobs(const Bench& b, std::vector<Knob>& list);
void flag_for_backdrop_knobs(const Bench& b, std::vector<Knob>& list);
void flag_for_product_knobs(const Bench& b, std::vector<Knob>& list);
void backdrop_lamp_knobs(const Bench& b, std::vector<Knob>& list);  ///< one more of the kit's
void even_backdrop_knobs(const Bench& b, std::vector<Knob>& list);  ///< farther back, or one from either side
void fill_lamp_knobs(const Bench& b, std::vector<Knob>& list);
void other_lamp_knobs(const Bench& b, std::vector<Knob>& list);  ///< whose ripple is known
void diffusion_knobs(const Bench& b, std::vector<Knob>& list);
void polariser_knobs(const Bench& b, std::vector<Knob>& list);
void card_place_knobs(const Bench& b, std::vector<Knob>& list);
void strip_pose_knobs(const Bench& b, std::vector<Knob>& list);  ///< height and lean
void iso_for_light_knobs(const Bench& b, std::vector<Knob>& list);
void aperture_for_light_knobs(const Bench& b, std::vector<Knob>& list);
void shutter_for_light_knobs(const Bench& b, std::vector<Knob>& list);
void iso_for_nearer_knobs(const Bench& b, std::vector<Knob>& list);
void aim_knobs(const Bench& b, std::vector<Knob>& list);
void camera_height_knobs(const Bench& b, std::vector<Knob>& list);
void product_turn_knobs(const Bench& b, std::vector<Knob>& list);
void product_forward_knobs(const Bench& b, std::vector<Knob>& list);
void focus_on_feature_knobs(const Bench& b, std::vector<Knob>& list);
void other_body_knobs(const Bench& b, std::vector<Knob>& list);
void aperture_for_nd_knobs(const Bench& b, std::vector<Knob>& list);
void slower_about_facing_knobs(const Bench& b, std::vector<Knob>& list);
// What could be tried for one judgement.
void load_knobs(const Bench& b, std::vector<Knob>& list);
void white_knobs(const Bench& b, std::vector<Knob>& list);
void edge_knobs(const Bench& b, std::vector<Knob>& list);
void ratio_knobs(const Bench& b, std::vector<Knob>& list);
void soft_knobs(const Bench& b, std::vector<Knob>& list);
void stripe_knobs(const Bench& b, std::vector<Knob>& list);
void spill_knobs(const Bench& b, std::vector<Knob>& list);
void cast_knobs(const Bench& b, std::vector<Knob>& list);
void noise_knobs(const Bench& b, std::vector<Knob>& list);
void words_knobs(const Bench& b, std::vector<Knob>& list);
void facing_knobs(const Bench& b, std::vector<Knob>& list);
void feature_knobs(const Bench& b, std::vector<Knob>& list);
void peak_knobs(const Bench& b, std::vector<Knob>& list);
void judder_knobs(const Bench& b, std::vector<Knob>& list);
void reach_knobs(const Bench& b, std::vector<Knob>& list);
void loop_knobs(const Bench& b, std::vector<Knob>& list);
void pull_knobs(const Bench& b, std::vector<Knob>& list);
void lock_knobs(const Bench& b, std::vector<Knob>& list);
void media_knobs(const Bench& b, std::vector<Knob>& list);
void fewer_takes_knobs(const Bench& b, std::vector<Knob>& list);
void sooner_reset_knobs(const Bench& b, std::vector<Knob>& list);
void crop_knobs(const Bench& b, std::vector<Knob>& list);
void behind_knobs(const Bench& b, std::vector<Knob>& list);

// Of practical effects.
void let_go_knobs(const Bench& b, std::vector<Knob>& list);       ///< when
void let_go_from_knobs(const Bench& b, std::vector<Knob>& list);  ///< from how high
void pour_less_knobs(const Bench& b, std::vector<Knob>& list);
void ready_later_knobs(const Bench& b, std::vector<Knob>& list);
void list_plates_knobs(const Bench& b, std::vector<Knob>& list);

}  // namespace cinnabar
