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

/// A row of the targets. "light" and "dimmer" are "light.ID.dimmer"; without `of` the name stands alone.
struct TrackKind {
  std::string_view of, what;
  bool places;  ///< keys hold three numbers: a place of the world, or of a crop its left, top and width
  Range range;  ///< of each number
  bool camera;  ///< it moves the camera
};
[[nodiscard]] const std::vector<TrackKind>& track_kinds();

struct TrackTarget {
  const TrackKind* kind;
  std::string id;  ///< of the product, light or card
};
/// Nothing for what no row says.
[[nodiscard]] std::optional<TrackTarget> read_target(std::string_view target);
[[nodiscard]] std::string target_text(const TrackKind& kind, const std::string& id);
/// Keys of a track as a document has them, to a millionth; `later` seconds are added.
[[nodiscard]] Json keys_json(const KeyedTrack& track, double later = 0.0);
/// A key's value for people: "12", or "0.1, 0.2, 0.9".
[[nodiscard]] std::string key_text(const KeyedTrack& track, std::size_t key);
/// All of them for people: "light.ID.dimmer".
[[nodiscard]] std::string all_targets();

}  // namespace cinnabar
