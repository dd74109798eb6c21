// A new spot from what one holds in the hand: product, kit, where it runs, length, tempo and mood; no shots yet.
#pragma once
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "cinnabar/project/document/document.h"
#include "cinnabar/project/making/product_kinds.h"

namespace cinnabar {

/// What a product's largest part is made of.
struct MadeOf {
  std::string id, name;
};
/// The choices for a kind, the usual one first: clear ones only where the kind has a wall.
[[nodiscard]] std::vector<MadeOf> made_of_choices(const std::string& kind);

/// Shapes of frame that a spot may run in: "16:9", "9:16", "1:1", "4:5".
[[nodiscard]] const std::vector<std::string>& frame_shapes();

struct SpotInHand {
  std::string name = "New spot";
  std::string kind = "jar";             ///< of `product_kinds`
  std::optional<double> height, width;  ///< metres; left out: usual ones
  std::optional<double> mass;           ///< kilograms; left out: estimated from volume and kind
  std::string made_of;                  ///< of `made_of_choices`; empty: the usual
  std::vector<std::pair<std::string, double>>
      seen;                       ///< what must be read: its words, height of its letters, metres
  std::vector<std::string> kits;  ///< ids of `starter_kits`
  std::optional<double> length;   ///< seconds
  std::string rate = "24";        ///< of the timeline
  std::optional<double> tempo;    ///< beats a minute
  std::string mood;               ///< of `moods`; empty: none
  std::vector<std::string> shapes{"16:9"};
  /// A product that is there already (a mesh taken in), with its blobs, in place of kind and measures.
  std::optional<Json> product;
  std::map<std::string, std::shared_ptr<const Blob>> blobs;
};

/// Lowest and highest width or height that a kind can be given, and the usual one, metres. Nothing where the kind
/// has no such measure of its own.
struct MeasureRange {
  double usual, low, high;
};
[[nodiscard]] std::optional<MeasureRange> height_range(const std::string& kind);
[[nodiscard]] std::optional<MeasureRange> width_range(const std::string& kind);

/// The product alone: built to those measures, its label where the kind carries one, what must be seen on it.
[[nodiscard]] Expected<Json> product_in_hand(const SpotInHand& hand);
/// Its mass, estimated from the volume within its outline and what such things weigh (common practice, no source).
[[nodiscard]] double estimated_mass(const Json& product);

/// The project with product, kit, deliverables, tempo and mood; valid, without set-ups and shots. Fails, naming
/// what and the mend, where something given cannot be.
[[nodiscard]] Expected<Document> spot_in_hand(const SpotInHand& hand);

}  // namespace cinnabar
