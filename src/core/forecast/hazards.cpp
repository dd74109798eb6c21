#include "cinnabar/forecast/hazards.h"

#include <algorithm>

#include "cinnabar/scene/effects_staged.h"
#include "cinnabar/scene/liquid_surface.h"

namespace cinnabar {
namespace {

/// Most rises and falls of a dimmer by a tenth or more that end within one second of set time.
double flashes(const KeyedTrack& track) {
  std::vector<double> falls;  // when a pair of opposing changes is complete
  double high = 0.0, low = 1.0;
  bool up = false;
  for (const auto& [t, v] : track.keys) {
    if (!up && v - low >= 0.1) up = true, high = v;
    if (up) high = std::max(high, v);
    if (up && high - v >= 0.1) {
      falls.push_back(t);
      up = false;
      low = v;
    }
    if (!up) low = std::min(low, v);
  }
  double most = 0.0;
  for (std::size_t i = 0, first = 0; i < falls.size(); ++i) {
    while (falls[i] - falls[first] >= 1.0) ++first;
    most = std::max(most, static_cast<double>(i - first + 1));
  }
  return most;
}

}  // namespace

HazardInputs hazards_of(const Project& project, const Shot& shot) {
  HazardInputs h{.volts = project.mains_volts, .breaker_a = project.breaker_amps};
  if (const Setup* setup = by_id(project.setups, shot.setup)) {
    for (const Light& l : setup->lights) {
      if (!l.on) continue;
      const LightKit* kit = by_id(project.light_kits, l.kit);
      if (kit) h.watts += kit->watts.value_or(0.0), h.hot_lamp = h.hot_lamp || kit->hot;
      h.highest_light = std::max(h.highest_light, l.place.y);
    }
    h.glass = setup->surface && setup->surface->sheet > 0.0;
  }
  for (const ShotProduct& placed : shot.products)
    if (const Product* product = by_id(project.products, placed.product))
      for (const Part& part : product->parts) {
        h.liquid = h.liquid || part.material.kind == MaterialKind::liquid;
        h.glass =
            h.glass || part.material.kind == MaterialKind::glass || part.material.kind == MaterialKind::frosted;
      }
  for (const KeyedTrack& t : shot.tracks) {
    const auto what = tracked(t.target);
    h.turns = h.turns || ((what == Tracked::turntable || what == Tracked::product_turn) && t.keys.size() > 1);
    if (what == Tracked::light_dimmer) h.flashes_per_s = std::max(h.flashes_per_s, flashes(t));
  }
  const ToldEffects effects = told_effects(project, shot);
  for (const ToldEffect& told : effects)
    for (const Peril peril : told.perils()) h.effects.push_back(peril);
  for (std::size_t k = 0; k < shot.products.size(); ++k)
    if (const auto room = leaning_room(project, shot, k, effects); room && room->spare < 0.0)
      h.effects.push_back(Peril::wet_floor), h.effects.push_back(Peril::water_by_mains);
  return h;
}

}  // namespace cinnabar
