#include "cinnabar/planning/set_lamps.h"

#include <algorithm>

#include "cinnabar/base/words.h"
#include "cinnabar/planning/set_looks.h"
#include "cinnabar/project/making/new_shot.h"
#include "cinnabar/scene/form.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

struct LampAtHand {
  std::string id, name;
  Vec3 from_product;  ///< of its foot, metres
  Json face;
  bool through_table = false;
};
std::vector<LampAtHand> lamps() {
  return {{"torch",
           said("Phone's torch"),
           {0.15, 0.2, 0.2},
           {{"shape", "disc"}, {"radius", 0.003}, {"lumens", 45}, {"kelvin", 5500}}},
          {"bulb",
           said("Practical bulb"),
           {0.25, 0.15, -0.3},
           {{"shape", "bare"}, {"radius", 0.03}, {"lumens", 470}, {"kelvin", 2700}, {"dressed", true}}},
          {"below",
           said("Lamp from below"),
           {0, -0.25, 0},
           {{"shape", "disc"}, {"radius", 0.06}, {"lumens", 600}, {"kelvin", 5600}, {"meant_for", "product"}},
           true}};
}
bool lets_light_through(const Setup& setup) {
  return !setup.surface || setup.surface->material.kind == MaterialKind::glass ||
         setup.surface->material.kind == MaterialKind::translucent;
}
/// A member of a lamp turned round.
SetEdit turned_round(const OnSet& on, const SetThing& lamp, const char* member, bool now, std::string title) {
  return {{{pointer_of(on, lamp) + "/" + member, !now}}, std::move(title), lamp};
}

}  // namespace

std::vector<SheetKind> lamps_at_hand(const OnSet& on) {
  std::vector<SheetKind> list;
  if (!on.shot() || !on.setup()) return list;
  for (const LampAtHand& lamp : lamps())
    if (!lamp.through_table || lets_light_through(*on.setup())) list.push_back({lamp.id, lamp.name});
  return list;
}

std::optional<SetEdit> lamp_at_hand(const OnSet& on, const std::string& id) {
  const auto offered = lamps_at_hand(on);
  if (std::none_of(offered.begin(), offered.end(), [&](const SheetKind& lamp) { return lamp.id == id; }))
    return {};
  const auto all = lamps();
  const LampAtHand& lamp = *std::find_if(all.begin(), all.end(), [&](const LampAtHand& l) { return l.id == id; });
  Vec3 foot, middle{0, 0.05, 0};
  if (!on.shot()->products.empty()) {
    const ShotProduct& placed = on.shot()->products.front();
    foot = product_at(on.project, *on.shot(), placed, on.set_time).place;
    middle = foot + Vec3{0, 0.05, 0};
    if (const Product* product = by_id(on.project.products, placed.product)) {
      const auto [low, high] = height_span(*product);
      middle = foot + Vec3{0, (low + high) / 2, 0};
    }
  }
  const std::string pointer = "/setups/" + std::to_string(on.setup_index()) + "/lights";
  const auto found = value_at(on.document, pointer);
  Json list = found && found->is_array() ? *found : Json::array();
  Json light = lamp.face;
  light["id"] = id_beside(list, lamp.id), light["name"] = lamp.name;
  light["place"] = point_json(foot + lamp.from_product), light["aim"] = point_json(middle);
  list.push_back(std::move(light));
  return SetEdit{{{pointer, list}}, said("{} set up", lamp.name), {SetThing::Kind::light, list.size() - 1}};
}

std::optional<SetEdit> scrim_put(const OnSet& on, const SetThing& thing, double stops) {
  constexpr double most = 4.0;  // more nets than a holder takes
  const Light* light = lamp_of(on, thing);
  if (!light || (stops == 0.0 && light->scrim_stops == 0.0) || light->scrim_stops + stops > most) return {};
  const std::string pointer = pointer_of(on, thing) + "/scrim_stops", name = name_of(on, thing);
  if (stops == 0.0) return SetEdit{{{pointer, 0}}, said("Scrims off {}", name), thing};
  return SetEdit{{{pointer, light->scrim_stops + stops}},
                 stops < 1.0 ? said("Single scrim on {}", name) : said("Double scrim on {}", name),
                 thing};
}

std::optional<SetEdit> lamp_seen_switched(const OnSet& on, const SetThing& thing) {
  const Light* light = lamp_of(on, thing);
  if (!light) return {};
  const std::string name = name_of(on, thing);
  return turned_round(on, thing, "dressed", light->dressed,
                      light->dressed ? said("{} must not be seen", name) : said("{} may be seen", name));
}

std::optional<SetEdit> colour_meant_switched(const OnSet& on, const SetThing& thing) {
  const Light* light = lamp_of(on, thing);
  if (!light) return {};
  const std::string name = name_of(on, thing);
  return turned_round(
      on, thing, "colour_meant", light->colour_meant,
      light->colour_meant ? said("{}'s colour is no longer meant", name) : said("{}'s colour is meant", name));
}

}  // namespace cinnabar
