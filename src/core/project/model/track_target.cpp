#include "cinnabar/project/model/track_target.h"

#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/project/model/ranges.h"

namespace cinnabar {
namespace {

/// Whether an id stands between: of a thing that there may be several of.
bool of_many(const TrackKind& kind) {
  return kind.moved == TrackedThing::product || kind.moved == TrackedThing::light ||
         kind.moved == TrackedThing::card;
}

/// Taken off a text's beginning.
bool takes(std::string_view& text, std::string_view begin) {
  if (!text.starts_with(begin)) return false;
  text.remove_prefix(begin.size());
  return true;
}

/// The id in a target of that kind, empty where there is only one; nothing for a target of another.
std::optional<std::string_view> id_in(std::string_view target, const TrackKind& kind) {
  if (!kind.of.empty() && !(takes(target, kind.of) && takes(target, "."))) return std::nullopt;
  if (!of_many(kind)) return target == kind.what ? std::optional<std::string_view>("") : std::nullopt;
  if (target.size() < kind.what.size() + 2 || !target.ends_with(kind.what)) return std::nullopt;
  target.remove_suffix(kind.what.size());
  if (!target.ends_with(".")) return std::nullopt;
  target.remove_suffix(1);
  return target;
}

}  // namespace

const std::vector<TrackKind>& track_kinds() {
  static const std::vector<TrackKind> all{
      {Tracked::turntable, TrackedThing::table, "", "turntable", false, angle_range, false},
      {Tracked::camera_slide, TrackedThing::camera, "camera", "slide", false, angle_range, true},
      {Tracked::camera_pan, TrackedThing::camera, "camera", "pan", false, angle_range, true},
      {Tracked::camera_tilt, TrackedThing::camera, "camera", "tilt", false, angle_range, true},
      {Tracked::camera_focus, TrackedThing::camera, "camera", "focus", false, angle_range, true},
      {Tracked::camera_place, TrackedThing::camera, "camera", "place", true, place_range, true},
      {Tracked::camera_aim, TrackedThing::camera, "camera", "aim", true, place_range, true},
      {Tracked::camera_roll, TrackedThing::camera, "camera", "roll", false, angle_range, true},
      {Tracked::camera_focal, TrackedThing::camera, "camera", "focal", false, focal_range, true},
      {Tracked::product_place, TrackedThing::product, "product", "place", true, place_range, false},
      {Tracked::product_turn, TrackedThing::product, "product", "turn", false, angle_range, false},
      {Tracked::product_tilt, TrackedThing::product, "product", "tilt", false, angle_range, false},
      {Tracked::light_dimmer, TrackedThing::light, "light", "dimmer", false, share, false},
      {Tracked::light_turn, TrackedThing::light, "light", "turn", false, angle_range, false},
      {Tracked::light_doors, TrackedThing::light, "light", "doors", false, leaf_range, false},
      {Tracked::light_place, TrackedThing::light, "light", "place", true, place_range, false},
      {Tracked::light_aim, TrackedThing::light, "light", "aim", true, place_range, false},
      {Tracked::card_place, TrackedThing::card, "card", "place", true, place_range, false},
      {Tracked::card_turn, TrackedThing::card, "card", "turn", false, angle_range, false},
      {Tracked::backdrop_place, TrackedThing::backdrop, "backdrop", "place", true, place_range, false},
      {Tracked::backdrop_tilt, TrackedThing::backdrop, "backdrop", "tilt", false, lean_range, false},
      {Tracked::crop, TrackedThing::frame, "", "crop", true, share, false}};
  return all;
}

std::optional<TrackTarget> read_target(std::string_view target) {
  for (const TrackKind& kind : track_kinds())
    if (const auto id = id_in(target, kind)) return TrackTarget{&kind, std::string(*id)};
  return std::nullopt;
}

std::string target_text(const TrackKind& kind, const std::string& id) {
  std::string text;
  if (!kind.of.empty()) text = std::string(kind.of) + ".";
  if (of_many(kind)) text += id + ".";
  return text + std::string(kind.what);
}

std::string target_text(Tracked what, const std::string& id) { return target_text(kind_of(what), id); }

bool is_target(std::string_view target, Tracked what, std::string_view id) {
  const auto own = id_in(target, kind_of(what));
  return own && *own == id;
}

std::optional<Tracked> tracked(std::string_view target) {
  for (const TrackKind& kind : track_kinds())
    if (id_in(target, kind)) return kind.is;
  return std::nullopt;
}
std::optional<TrackedThing> moved_by(std::string_view target) {
  const auto what = tracked(target);
  return what ? std::optional(kind_of(*what).moved) : std::nullopt;
}

Json keys_json(const KeyedTrack& track, double later) {
  const auto tidy = [](double v) { return std::round(v * 1e6) / 1e6; };
  Json list = Json::array();
  for (std::size_t i = 0; i < track.keys.size(); ++i) {
    const double t = tidy(track.keys[i].first + later);
    if (track.places.empty()) {
      list.push_back({t, tidy(track.keys[i].second)});
    } else {
      const Vec3& at = track.places[i];
      list.push_back({t, {tidy(at.x), tidy(at.y), tidy(at.z)}});
    }
  }
  return list;
}

std::string key_text(const KeyedTrack& track, std::size_t key) {
  if (track.places.empty()) return number_text(track.keys[key].second, 4);
  const Vec3& at = track.places[key];
  return number_text(at.x, 4) + ", " + number_text(at.y, 4) + ", " + number_text(at.z, 4);
}

std::string all_targets() {
  std::string text;
  for (const TrackKind& kind : track_kinds()) text += (text.empty() ? "" : ", ") + target_text(kind, "ID");
  return text;
}

}  // namespace cinnabar
