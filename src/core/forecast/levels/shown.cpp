// When a level is shown.
#include "cinnabar/forecast/levels/judgements.h"

namespace cinnabar {

bool always(const ShotContext&) { return true; }
bool has_camera(const ShotContext& c) { return c.shot.camera.has_value(); }
bool has_setup(const ShotContext& c) { return c.setup && has_camera(c); }
bool has_set(const ShotContext& c) { return has_setup(c) && (c.setup->surface || has_backdrop(c)); }
bool has_backdrop(const ShotContext& c) { return has_setup(c) && c.setup->backdrop.kind != BackdropKind::none; }
bool has_deliverables(const ShotContext& c) { return has_camera(c) && !c.project.deliverables.empty(); }
bool shows_product(const ShotContext& c) { return has_camera(c) && !c.shot.products.empty(); }
bool shows_product_in_setup(const ShotContext& c) { return shows_product(c) && c.setup; }
bool shows_lit_product(const ShotContext& c) { return shows_product_in_setup(c) && !c.setup->lights.empty(); }
bool shows_product_before_backdrop(const ShotContext& c) { return shows_product(c) && has_backdrop(c); }
bool shows_product_on_ground(const ShotContext& c) {
  return shows_product_before_backdrop(c) ||
         (shows_product(c) && c.setup && c.setup->surface && looks_down(c.pose(0)));
}
bool shows_product_to_deliver(const ShotContext& c) { return shows_product(c) && has_deliverables(c); }
bool shows_product_moving(const ShotContext& c) { return shows_product(c) && c.moves(); }
bool moves_the_camera(const ShotContext& c) { return has_camera(c) && c.camera_moves(); }
bool pulls_focus(const ShotContext& c) {
  const KeyedTrack* track = c.shot.track(Tracked::camera_focus);
  return has_camera(c) && track && track->keys.size() > 1;
}
bool hides_what_is_behind(const ShotContext& c) {
  return has_setup(c) && c.project.rule<DepthRule>(c.shot) != DepthRule::deep;
}
bool promises_features(const ShotContext& c) { return !c.shot.features.empty(); }
bool faces_somebody(const ShotContext& c) { return c.shot.facing && c.has_label(); }
bool is_put_together(const ShotContext& c) { return has_camera(c) && c.shot.plates.size() > 1; }
bool plans_takes(const ShotContext& c) {
  return has_camera(c) && c.shot.takes_planned && *c.shot.takes_planned > 0.0;
}

}  // namespace cinnabar
