// What a track may move, and how its values stand: one row a target.
#pragma once
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "cinnabar/base/range.h"
#include "cinnabar/motion/moves.h"
#include "cinnabar/project/document/document.h"

namespace cinnabar {

/// What a track may move, without the id of the thing.
enum class Tracked {
  turntable,
  camera_slide,
  camera_pan,
  camera_tilt,
  camera_focus,
  camera_place,
  camera_aim,
  camera_roll,
  camera_focal,
  product_place,
  product_turn,
  product_tilt,
  light_dimmer,
  light_turn,
  light_doors,
  light_place,
  light_aim,
  card_place,
  card_turn,
  backdrop_place,
  backdrop_tilt,
  crop
};
/// What kind of thing it moves.
enum class TrackedThing { table, camera, product, light, card, backdrop, frame };

/// A row of the targets. "light" and "dimmer" are "light.ID.dimmer"; without `of` the name stands alone.
struct TrackKind {
  Tracked is;
  TrackedThing moved;
  std::string_view of, what;
  bool places;  ///< keys hold three numbers: a place of the world, or of a crop its left, top and width
  Range range;  ///< of each number
  bool camera;  ///< it moves the camera
};
/// In the order of Tracked.
[[nodiscard]] const std::vector<TrackKind>& track_kinds();
[[nodiscard]] inline const TrackKind& kind_of(Tracked what) {
  return track_kinds()[static_cast<std::size_t>(what)];
}

struct TrackTarget {
  const TrackKind* kind;
  std::string id;  ///< of the product, light or card
};
/// Nothing for what no row says.
[[nodiscard]] std::optional<TrackTarget> read_target(std::string_view target);
[[nodiscard]] std::string target_text(const TrackKind& kind, const std::string& id);
[[nodiscard]] std::string target_text(Tracked what, const std::string& id = {});
/// Whether a target is that of one thing: `is_target(t.target, Tracked::light_dimmer, light.id)`.
[[nodiscard]] bool is_target(std::string_view target, Tracked what, std::string_view id = {});
/// What a target names; nothing where no row says it.
[[nodiscard]] std::optional<Tracked> tracked(std::string_view target);
[[nodiscard]] std::optional<TrackedThing> moved_by(std::string_view target);
/// Keys of a track as a document has them, to a millionth; `later` seconds are added.
[[nodiscard]] Json keys_json(const KeyedTrack& track, double later = 0.0);
/// A key's value for people: "12", or "0.1, 0.2, 0.9".
[[nodiscard]] std::string key_text(const KeyedTrack& track, std::size_t key);
/// All of them for people: "light.ID.dimmer".
[[nodiscard]] std::string all_targets();

}  // namespace cinnabar
