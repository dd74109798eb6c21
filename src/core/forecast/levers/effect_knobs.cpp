// Knobs of practical effects: when and from where a thing is let go, how much, and what is listed.
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levels/judgements.h"
#include "cinnabar/forecast/levers/bench.h"
#include "cinnabar/forecast/levers/turning.h"
#include "cinnabar/scene/effects_staged.h"

namespace cinnabar {
namespace {

std::string effect_path(const Bench& b, std::size_t e) { return fmt::format("{}/effects/{}", b.shot_path, e); }

}  // namespace

void let_go_knobs(const Bench& b, std::vector<Knob>& list) {
  for (std::size_t e = 0; e < b.shot.effects.size(); ++e) {
    const Effect& effect = b.shot.effects[e];
    if (!effect.needs) continue;
    const auto wanted = wanted_on_screen(b.project, b.index, *effect.needs);
    const auto outcome = outcome_of(b.project, b.shot, effect);
    const EffectEvent* event = outcome ? outcome->event(effect.needs->event) : nullptr;
    if (!wanted || !event) continue;
    const double at = rounded(effect.at + b.shot.clock.set_at(*wanted) - event->at, 4);
    if (at >= 0.0 && *wanted >= 0.0)
      list.push_back(
          solved_knob([path = effect_path(b, e) + "/at", at](const Document& d) { return set(d, path, at); },
                      said("Let {} go at {} s instead of {} s", effect_name(effect), number_text(at, 3),
                           number_text(effect.at, 3)),
                      0.2));
  }
}

void let_go_from_knobs(const Bench& b, std::vector<Knob>& list) {
  for (std::size_t e = 0; e < b.shot.effects.size(); ++e) {
    const Effect& effect = b.shot.effects[e];
    if (effect.kind == "mist" || effect.kind == "steam" || effect.kind == "fog") continue;
    const double now = effect.place.y;
    list.push_back(
        scanned({within(even_steps(std::max(0.02, now - 0.6), now + 0.6, 0.02), 0.02, now + 0.6), now,
                 [path = effect_path(b, e) + "/place", place = effect.place](const Document& d, double v) {
                   return set(d, path, point({place.x, v, place.z}));
                 },
                 [&b, now, name = effect_name(effect)](double v) {
                   return said("Let {} go from {} up instead of {}", name, b.len(v), b.len(now));
                 },
                 0.5, "", false}));
  }
}

void pour_less_knobs(const Bench& b, std::vector<Knob>& list) {
  for (std::size_t e = 0; e < b.shot.effects.size(); ++e) {
    const Effect& effect = b.shot.effects[e];
    if (effect.kind != "pour") continue;
    const double now = measure_of(effect, "volume").value_or(0.0) * 1e6;
    list.push_back(
        {within(even_steps(1.0, now, std::max(1.0, std::round(now / 100.0))), 1.0, now), now,
         [path = effect_path(b, e) + "/volume"](const Document& d, double v) { return set(d, path, v * 1e-6); },
         [now, name = effect_name(effect)](double v) {
           return said("{}: {} ml instead of {} ml", name, number_text(v, 3), number_text(now, 3));
         },
         0.2, "", false});
  }
}

void ready_later_knobs(const Bench& b, std::vector<Knob>& list) {
  for (std::size_t e = 0; e < b.shot.effects.size(); ++e) {
    const Effect& effect = b.shot.effects[e];
    if (effect.kind == "mist") {
      list.push_back(solved_knob(
          [path = effect_path(b, e) + "/glycerin_fraction"](const Document& d) { return set(d, path, 0.5); },
          said("{}: half glycerin instead of water", effect_name(effect)), 5));
      continue;
    }
    if (effect.kind != "steam" && effect.kind != "fog") continue;
    const double end = b.shot.set_time();
    list.push_back({within(even_steps(0.0, end, std::max(0.05, rounded(end / 40.0, 4))), effect.at, end),
                    effect.at,
                    [path = effect_path(b, e) + "/at"](const Document& d, double v) { return set(d, path, v); },
                    [name = effect_name(effect)](double v) {
                      return said("Have {} ready only at {} s", name, number_text(v, 3));
                    },
                    0.2, "", false});
    if (effect.kind == "steam") {
      const double now = measure_of(effect, "mass").value_or(0.0);
      list.push_back(
          {within({now, 0.3, 0.5, 0.8, 1.0, 1.5, 2.0}, now, 2.0), now,
           [path = effect_path(b, e) + "/mass"](const Document& d, double v) { return set(d, path, v); },
           [name = effect_name(effect)](double v) {
             return said("{}: off {} kg of water kept hot", name, number_text(v, 2));
           },
           3, "", false});
    }
  }
}

void list_plates_knobs(const Bench& b, std::vector<Knob>& list) {
  const auto wanted = plates_wanted(b.project, b.shot, told_effects(b.project, b.shot));
  if (wanted.size() > b.shot.plates.size())
    list.push_back(solved_knob(
        [path = b.shot_path + "/plates", wanted](const Document& d) { return set(d, path, Json(wanted)); },
        said("List the {} recordings that it is put together of", wanted.size()), 1));
}

}  // namespace cinnabar
