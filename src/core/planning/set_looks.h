// What things of a set are made of and covered with: materials, sheets, diffusion, patterns; films and gels on
// lights. Each answer is the values of one edit and its title, or nothing where it makes no sense.
#pragma once
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/planning/set_things.h"

namespace cinnabar {

/// Sheets that can be set up, or be in the kit: cards, flags and diffusion ("white", "silver", "black", "frost",
/// "silk", "baking", "towel").
[[nodiscard]] std::vector<SheetKind> sheet_kinds();
/// What one of them is made of (common practice, no source); white of an unknown one.
[[nodiscard]] Json sheet_material(const std::string& kind);
/// Which of them a material is, or is nearest to.
[[nodiscard]] std::string sheet_of(const Json& material);

/// What surfaces, backdrops and bodies are made of: "white", "grey", "black", "paper", "wood", "marble", "stone",
/// "linen", "glass", "acrylic", "pale-acrylic", "steel" (reflectances: common practice, no source). White of an
/// unknown one.
[[nodiscard]] Json ready_material(const std::string& id);
/// What a thing of the set could be made of, cards of sheets.
[[nodiscard]] std::vector<SheetKind> materials_for(const SetThing& thing);
/// Made of one of those; nothing where it is already, or cannot be.
[[nodiscard]] std::optional<SetEdit> made_of(const OnSet& on, const SetThing& thing, const std::string& id);

/// Patterns of the program's own, by id and name.
[[nodiscard]] std::vector<SheetKind> pattern_kinds();
/// A surface, backdrop, card or square body with a pattern, or with an empty id without one.
[[nodiscard]] std::optional<SetEdit> pattern_laid(const OnSet& on, const SetThing& thing, const std::string& kind);
/// The same with a picture, a blob of the project.
[[nodiscard]] std::optional<SetEdit> picture_laid(const OnSet& on, const SetThing& thing, const std::string& blob);

/// The light that a thing is, where it is a lamp and no window.
[[nodiscard]] const Light* lamp_of(const OnSet& on, const SetThing& thing);
/// A polarising film before a light, or taken off.
[[nodiscard]] std::optional<SetEdit> film_switched(const OnSet& on, const SetThing& light);
/// A gel before a light by its spectrum.
[[nodiscard]] std::optional<SetEdit> gel_curve_put(const OnSet& on, const SetThing& light,
                                                   const std::vector<PassedAt>& curve);

}  // namespace cinnabar
