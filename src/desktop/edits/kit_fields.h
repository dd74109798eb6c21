// The numbers of a thing in the kit: which there are by its kind, in what unit they are shown, and the edit that
// typing one makes.
#pragma once
#include "cinnabar/desktop/edits/hand.h"

namespace cinnabar {

/// Lists of the kit in the order of the page, with their names.
struct KitGroup {
  const char* list;
  QString name, one;  ///< "Lenses", "lens"
};
[[nodiscard]] std::vector<KitGroup> kitGroups();

/// A thing of the kit by its list and place there.
struct KitPlace {
  std::string list;
  std::size_t index = 0;
  bool operator==(const KitPlace&) const = default;
};
[[nodiscard]] const Json* kitItem(const Document& document, const KitPlace& place);
[[nodiscard]] QString kitName(const Json& item);
/// What it is in a few words: "24 to 70 mm, f/2.8, near 0.38 m".
[[nodiscard]] QString kitLine(const std::string& list, const Json& item, Units units);

/// Its numbers, and those of one of a camera's modes. A number that is not said can be typed, and "none" takes one
/// away.
[[nodiscard]] std::vector<HandField> kitFields(const Session& session, const KitPlace& place, std::size_t mode);

}  // namespace cinnabar
