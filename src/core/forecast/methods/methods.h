// Methods by material: starting arrangements built to the product's true size from the kit.
#pragma once
#include <string>
#include <vector>

#include "cinnabar/forecast/forecast.h"

namespace cinnabar {

struct Method {
  std::string id, title;
  std::vector<std::string> materials;  ///< what it is for
  std::string why;                     ///< in two lines
  std::optional<BackdropRule> rule;    ///< that it serves; nothing: any
  int lamps = 1;                       ///< that it needs; none: it is lit by a window
  std::vector<std::string> levels;     ///< that it is made for
};
[[nodiscard]] const std::vector<Method>& methods();

/// What a product is made of, in the words of the methods, most telling first: "jewellery" (metal, under 5 cm),
/// "screen", "liquid", "glass", "food" (skins, and what light goes into), "gloss", "metal", "fabric", "paper",
/// "matte".
[[nodiscard]] std::vector<std::string> materials_of(const Product& product);

/// A method as it stands in a shot: the set-up's lights and cards are its own, exposed and levelled.
struct MethodStanding {
  const Method* method = nullptr;
  Document after;
  std::vector<Level> levels;  ///< those it is made for, as they then are
};
/// Two or three methods that suit the shot's first product, its house rules and the lamps that are owned; only
/// `name` where it is given. Fails where the shot has no set-up, camera or product, and for a name that is none.
[[nodiscard]] Expected<std::vector<MethodStanding>> methods_for(const Forecaster& forecaster,
                                                                const Document& document, std::size_t shot,
                                                                const std::string& name = {},
                                                                const std::atomic<bool>* cancel = nullptr);

}  // namespace cinnabar
