// The set-up of a drafted spot: lights, card, surface and backdrop for this product, of what the kit holds.
#pragma once
#include "cinnabar/forecast/forecast.h"

namespace cinnabar {

/// A set-up described by what a practitioner would turn. Lengths in metres.
struct SetPlan {
  BackdropRule backdrop_rule = BackdropRule::black;
  double backdrop_tone = 0.05;  ///< reflectance, where the kit has no backdrop of the kind
  double backdrop_distance = 1.2;
  double surface_tone = -1;  ///< below 0: the backdrop's roll runs on under the product
  double key_bearing_deg = 45, key_elevation_deg = 35, key_distance = 0.8;
  double key_face = 0.5;  ///< side of its face; 0: the bare lamp
  double key_stops = 0;   ///< its dimmer
  double fill = 0.5;      ///< distance of a white card opposite; 0: none
  double stripe = 0;      ///< dimmer of a lamp as a strip beside and behind; 0: none
  double wash_stops = 0;  ///< dimmer of a lamp on the backdrop; no lamp below -9
};

/// What the mood and the kit begin with.
[[nodiscard]] SetPlan first_plan(const Project& project);
/// The set-up as JSON, sized to the project's first product; lights from the kit while there are any, daylight
/// where there are none, sheets and boards of the kit or plain ones.
[[nodiscard]] Json setup_of(const SetPlan& plan, const Project& project, const std::string& id);

/// The document with the set-up whose levels stand best for a close shot of the product, found by turning one
/// thing of the plan after another. Nothing when cancelled.
[[nodiscard]] std::optional<Document> with_draft_setup(const Forecaster& forecaster, const Document& document,
                                                       const std::atomic<bool>* cancel = nullptr);

/// What levels weigh for a draft: out 2, leaning and not known 1 and 2, and a little by how far off they are.
[[nodiscard]] double draft_cost(const std::vector<Level>& levels);

}  // namespace cinnabar
