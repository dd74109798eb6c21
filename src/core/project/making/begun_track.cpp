#include "cinnabar/project/making/begun_track.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/project/model/track_target.h"

namespace cinnabar {
namespace {

/// What a key holds: a value, or a place.
struct Stands {
  double value = 0.0;
  Vec3 place{};
};
using Ends = std::pair<Stands, Stands>;

Ends values(double from, double to) { return {{from, {}}, {to, {}}}; }
Ends places(const Vec3& from, const Vec3& to) { return {{0.0, from}, {0.0, to}}; }

std::optional<Ends> of_camera(const ShotCamera& camera, Tracked what) {
  if (what == Tracked::camera_slide) return values(0.0, 0.1);
  if (what == Tracked::camera_pan || what == Tracked::camera_tilt) return values(0.0, 5.0);
  if (what == Tracked::camera_focus) return values(camera.focus, camera.focus);
  if (what == Tracked::camera_place) return places(camera.place, camera.place + (camera.aim - camera.place) * 0.1);
  if (what == Tracked::camera_aim) return places(camera.aim, camera.aim);
  if (what == Tracked::camera_roll) return values(camera.roll_deg, camera.roll_deg + 5.0);
  return values(camera.focal, camera.focal * 1.1);
}

std::optional<Ends> of_product(const Shot& shot, const TrackTarget& target) {
  for (const ShotProduct& placed : shot.products) {
    if (placed.product != target.id) continue;
    if (target.kind->is == Tracked::product_place) return places(placed.place, placed.place + Vec3{0.05, 0, 0});
    if (target.kind->is == Tracked::product_turn) return values(placed.turn_deg, placed.turn_deg + 90.0);
    return values(0.0, 15.0);
  }
  return std::nullopt;
}

std::optional<Ends> of_light(const Setup& setup, const TrackTarget& target) {
  for (const Light& light : setup.lights) {
    if (light.id != target.id) continue;
    if (target.kind->is == Tracked::light_dimmer) return values(0.0, light.dimmer);
    if (target.kind->is == Tracked::light_turn) return values(0.0, 5.0);
    if (target.kind->is == Tracked::light_doors) return values(0.0, light.doors ? light.doors->top_deg : 90.0);
    if (target.kind->is == Tracked::light_place) return places(light.place, light.place + Vec3{0.1, 0, 0});
    return places(light.aim, light.aim);
  }
  return std::nullopt;
}

std::optional<Ends> ends_of(const Project& project, const Shot& shot, const TrackTarget& target) {
  const TrackedThing moved = target.kind->moved;
  if (moved == TrackedThing::camera) return of_camera(shot.camera.value_or(ShotCamera{}), target.kind->is);
  if (moved == TrackedThing::product) return of_product(shot, target);
  if (moved == TrackedThing::frame) return places({0, 0, 1}, {0.1, 0.1, 0.8});
  if (moved == TrackedThing::table) return values(0.0, 90.0);
  const Setup* setup = by_id(project.setups, shot.setup);
  if (!setup) return std::nullopt;
  if (moved == TrackedThing::light) return of_light(*setup, target);
  if (moved == TrackedThing::backdrop) {
    const Backdrop& drop = setup->backdrop;
    return target.kind->is == Tracked::backdrop_tilt ? values(drop.tilt_deg, drop.tilt_deg + 5.0)
                                                     : places(drop.foot(), drop.foot() + Vec3{0.2, 0, 0});
  }
  for (const Card& card : setup->cards)
    if (card.id == target.id)
      return target.kind->is == Tracked::card_turn ? values(0.0, 45.0)
                                                   : places(card.place, card.place + Vec3{0.1, 0, 0});
  return std::nullopt;
}

}  // namespace

KeyedTrack begun_track(const Project& project, const Shot& shot, const std::string& text) {
  KeyedTrack track{text, Shape::minimum_jerk, {}};
  const auto target = read_target(text);
  const auto ends = target ? ends_of(project, shot, *target) : std::nullopt;
  if (!ends) return track;
  const double end = std::max(0.04, shot.set_time());
  if (target->kind->places)
    track.set_places({{0.0, ends->first.place}, {end, ends->second.place}});
  else
    track.keys = {{0.0, ends->first.value}, {end, ends->second.value}};
  return track;
}

}  // namespace cinnabar
