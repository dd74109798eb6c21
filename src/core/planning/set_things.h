// Things that come to a set, leave it and go about on it: lights of the kit, cards and flags, copies, doors,
// sheets of glass. Pure: each answer is the values of one edit, its title and what is then in hand, or nothing
// where it makes no sense.
#pragma once
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "cinnabar/base/vec.h"
#include "cinnabar/project/document/document.h"
#include "cinnabar/project/document/edit.h"
#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// What a hand can have hold of on the floor.
struct SetThing {
  enum class Kind { none, light, camera, product, backdrop, surface, card, effect, room, body } kind = Kind::none;
  std::size_t index = 0;  ///< in its set-up's or shot's list
  bool operator==(const SetThing&) const = default;
};

/// A shot and the set-up that it is shot on, at a moment of it.
struct OnSet {
  const Document& document;
  const Project& project;
  std::size_t shot_index = 0;
  double set_time = 0.0;  ///< seconds

  [[nodiscard]] const Shot* shot() const;
  /// Nothing where the shot names none that is there.
  [[nodiscard]] const Setup* setup() const;
  [[nodiscard]] std::size_t setup_index() const;
};

struct SetEdit {
  Values values;
  std::string title;
  SetThing then;  ///< in hand when it is done
};

/// Everything that can be taken hold of: lights, camera, products, effects, cards, bodies, surface, backdrop, the
/// room.
[[nodiscard]] std::vector<SetThing> things_of(const OnSet& on);
[[nodiscard]] std::string name_of(const OnSet& on, const SetThing& thing);
/// Where it stands in the document.
[[nodiscard]] std::string pointer_of(const OnSet& on, const SetThing& thing);
/// Where it stands and what it looks at, at that moment; what does not look at anything looks at its own place.
/// Nothing of surfaces, and of backdrops that no track moves.
[[nodiscard]] std::optional<std::pair<Vec3, Vec3>> place_and_aim(const OnSet& on, const SetThing& thing);
/// Whether it looks at anything.
[[nodiscard]] bool has_aim(const SetThing& thing);
/// A point as the document has it, to a hundredth of a millimetre.
[[nodiscard]] Json point_json(const Vec3& point);

/// Places and aims among the values put into their tracks, where they have some: as a key at that moment.
[[nodiscard]] Values on_tracks(const OnSet& on, const SetThing& thing, Values values);
/// A thing carried to a place, its aim with it or left; a camera whose aim is left keeps its subject in focus.
[[nodiscard]] Values carried_to(const OnSet& on, const SetThing& thing, const Vec3& place, bool with_aim);

/// One of those that can be set up.
struct SheetKind {
  std::string id, name;
};

/// A light of the kit, at the front left; an empty id gives a plain panel.
[[nodiscard]] std::optional<SetEdit> light_added(const OnSet& on, const std::string& kit_id);
/// A product of the project put beside what stands there; nothing where the shot has it already.
[[nodiscard]] std::optional<SetEdit> product_added(const OnSet& on, const std::string& product_id);
/// A card or flag of the kit, or a sheet of those of set_looks.h.
[[nodiscard]] std::optional<SetEdit> card_added(const OnSet& on, const std::string& kit_id);
[[nodiscard]] std::optional<SetEdit> sheet_added(const OnSet& on, const std::string& kind);
/// The set-up on a surface, or before a backdrop, of the kit; nothing where it is there already.
[[nodiscard]] std::optional<SetEdit> surface_laid(const OnSet& on, const std::string& kit_id);
[[nodiscard]] std::optional<SetEdit> backdrop_hung(const OnSet& on, const std::string& kit_id);
/// A modifier of the kit put before a light, which takes on its face; an empty id takes it off.
[[nodiscard]] std::optional<SetEdit> modifier_put(const OnSet& on, const SetThing& light,
                                                  const std::string& kit_id);
/// A light or card that is being set up, set up elsewhere.
[[nodiscard]] SetEdit placed_at(SetEdit edit, const Vec3& place, const Vec3& aim);
/// A light carried somewhere and aimed.
[[nodiscard]] std::optional<SetEdit> light_carried(const OnSet& on, const SetThing& light, const Vec3& place,
                                                   const Vec3& aim);
/// A copy of a light, card, product or effect, a little aside.
[[nodiscard]] std::optional<SetEdit> doubled(const OnSet& on, const SetThing& thing);
/// One of them taken away, its tracks with it.
[[nodiscard]] std::optional<SetEdit> taken_away(const OnSet& on, const SetThing& thing);
/// Barn doors put on a light, or taken off with what opens them; nothing where none can hang.
[[nodiscard]] std::optional<SetEdit> doors_switched(const OnSet& on, const SetThing& light);
/// A sheet of glass laid on the surface, or taken off.
[[nodiscard]] std::optional<SetEdit> glass_switched(const OnSet& on);

/// A product's outlines wider and taller by those factors, its label as tall. Nothing of a mesh.
[[nodiscard]] Values stretched_product(const Document& document, const Project& project, std::size_t product,
                                       double wider, double taller);

/// A shot moved in the story, titled alike from wherever it is done; nothing where it stays.
[[nodiscard]] std::optional<Edit> shot_moved(const Document& document, std::size_t from, std::size_t to);
/// "set-up A, shared by shots 1, 7 and 8, varied for shot 3"; empty where the set-up serves this shot alone.
[[nodiscard]] std::string shared_note(const OnSet& on);

}  // namespace cinnabar
