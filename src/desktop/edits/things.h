// Things that come to the set and leave it: lights of the kit, cards and flags, copies. Each answer is one edit's
// values, with what is then in hand.
#pragma once
#include "cinnabar/desktop/edits/session.h"

namespace cinnabar {

struct ThingEdit {
  Session::Values values;
  QString title;
  Selection then;
};

/// Sheets that can be set up: "white", "silver", "black".
struct SheetKind {
  const char* id;
  QString name;
};
[[nodiscard]] std::vector<SheetKind> sheetKinds();

/// A light of the kit, a metre from the product at the front left; an empty id gives a plain panel.
[[nodiscard]] std::optional<ThingEdit> lightAdded(const Session& session, const std::string& kitId);
/// A product of the project put beside what stands there; nothing where the shot has it already.
[[nodiscard]] std::optional<ThingEdit> productAdded(const Session& session, const std::string& productId);
/// A card or flag of the kit.
[[nodiscard]] std::optional<ThingEdit> cardAdded(const Session& session, const std::string& kitId);
/// The set-up on a surface, or before a backdrop, of the kit; nothing where it is there already.
[[nodiscard]] std::optional<ThingEdit> surfaceLaid(const Session& session, const std::string& kitId);
[[nodiscard]] std::optional<ThingEdit> backdropHung(const Session& session, const std::string& kitId);
/// A modifier of the kit put before the light in hand, which takes on its face; an empty id takes it off.
[[nodiscard]] std::optional<ThingEdit> modifierPut(const Session& session, const Selection& selection,
                                                   const std::string& kitId);
[[nodiscard]] std::optional<ThingEdit> sheetAdded(const Session& session, const std::string& kind);
/// A light or card that is being set up, set up elsewhere.
[[nodiscard]] ThingEdit placedAt(ThingEdit thing, const Vec3& place, const Vec3& aim);
/// The light in hand carried somewhere and aimed; nothing where none is in hand.
[[nodiscard]] std::optional<ThingEdit> lightCarried(const Session& session, const Selection& selection,
                                                    const Vec3& place, const Vec3& aim);
/// A copy of the light, card or product in hand, a little aside.
[[nodiscard]] std::optional<ThingEdit> duplicated(const Session& session, const Selection& selection);
/// The light, card or product in hand taken away, its tracks with it.
[[nodiscard]] std::optional<ThingEdit> removed(const Session& session, const Selection& selection);

/// Barn doors put on the light in hand, or taken off; nothing where none can hang.
[[nodiscard]] std::optional<ThingEdit> doorsSwitched(const Session& session, const Selection& selection);
/// A sheet of glass laid on the surface, or taken off.
[[nodiscard]] std::optional<ThingEdit> sheetSwitched(const Session& session);

/// Adds a shot after the present one and like it, or the first one, and takes it in hand.
void addShot(Session& session);
/// Moves a shot in the story; the same title from wherever it is done. Nothing where it stays.
[[nodiscard]] std::optional<Edit> shotMoved(const Session& session, std::size_t from, std::size_t to);

/// "shared by shots 1, 7 and 8", or nothing where the set-up serves this shot alone.
[[nodiscard]] QString sharedNote(const Session& session);

}  // namespace cinnabar
