#include "cinnabar/planning/cautions.h"

#include <algorithm>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/planning/means.h"

namespace cinnabar {
namespace {
constexpr double overhead_m = 1.2;  // over a table of about 0.8 m: a tall person's head
// A second. WCAG 2.2, 2.3.1 still allows three; here three are told already, on purpose: on a set nobody measures
// the area, and a warning costs nothing.
constexpr double flashes_limit = 3.0;
}  // namespace

std::vector<Caution> cautions(const HazardInputs& h) {
  std::vector<Caution> list;
  if (h.watts > 0.0) {
    const auto on_one = load({h.watts, h.volts, h.breaker_a});
    if (on_one && !on_one->continuous_ok)
      list.push_back(
          {said("Load"),
           said("{} W on one {} A circuit is {} % of the breaker; at most 80 % for long (NFPA "
                "70 art. 210). Spread it, and unroll cable drums.",
                number_text(h.watts, 5), number_text(h.breaker_a, 3), number_text(100.0 * on_one->share, 3))});
  }
  if (h.flashes_per_s >= flashes_limit)
    list.push_back(
        {said("Flashing light"), said("The light comes and goes {} times a second; 3 or more can trigger "
                                      "seizures, on set and in the film. Warn everyone, or slow it.",
                                      number_text(h.flashes_per_s, 3))});
  if (h.liquid && h.watts > 0.0) list.push_back(peril_words(Peril::water_by_mains));
  if (h.hot_lamp)
    list.push_back(
        {said("Hot lamps"), said("Tungsten and discharge burn and start fires: clearance, gloves, and let "
                                 "them cool; never a discharge tube with broken glass.")});
  if (h.highest_light > overhead_m)
    list.push_back(
        {said("Overhead gear"), said("A light hangs {} m over the surface: safety cable, sandbags, nothing "
                                     "over people.",
                                     number_text(h.highest_light, 3))});
  if (h.turns && h.glass)
    list.push_back({said("Turning glass"), said("Centre it, try the turn slowly, and keep hands, hair and sleeves "
                                                "away while the motor runs.")});
  for (const Peril peril : h.effects) {
    const Caution own = peril_words(peril);
    if (std::none_of(list.begin(), list.end(), [&](const Caution& c) { return c.title == own.title; }))
      list.push_back(own);
  }
  if (!list.empty())
    list.push_back(
        {said("Always"), said("Makers' instructions and local codes come first; licensed people for "
                              "electrics and rigging; a second person on set; stop if unsure. This list is "
                              "no permission.")});
  return list;
}

}  // namespace cinnabar
