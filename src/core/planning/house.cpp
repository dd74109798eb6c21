#include "cinnabar/planning/house.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/photometry/sources.h"
#include "cinnabar/planning/warming.h"

namespace cinnabar {
namespace {

bool is_effect(const Shot& shot) {
  static const std::set<std::string> moves{"pour", "drop", "splash", "mist", "steam", "falling", "layers"};
  return moves.contains(shot.move);
}

}  // namespace

double elevation_deg(const Light& l) { return degrees(std::atan2(l.place.y, std::hypot(l.place.x, l.place.z))); }

int lights_from_above(const Project& p, const Shot& shot) {
  const Setup* setup = by_id(p.setups, shot.setup);
  if (!setup || p.rule<OverheadRule>(shot) != OverheadRule::never) return 0;
  return static_cast<int>(std::count_if(setup->lights.begin(), setup->lights.end(), [](const Light& l) {
    return l.on && !l.window && elevation_deg(l) > overhead_deg + 1e-9;
  }));
}

std::optional<Daylight> daylight(const Project& p) {
  if (p.date.empty() || !p.latitude || !p.longitude) return std::nullopt;
  Daylight out;
  out.highest_deg = -90;
  constexpr int minutes = 2;
  for (int m = 0; m < 24 * 60; m += minutes) {
    // From local midnight by the sun, so that one day's light is not cut in two.
    const int utc = ((m - static_cast<int>(std::lround(*p.longitude * 4)) + minutes / 2) % 1440 + 1440) % 1440;
    const auto at = sun({*p.latitude, *p.longitude, fmt::format("{}T{:02}:{:02}", p.date, utc / 60, utc % 60)});
    if (!at) return std::nullopt;
    out.hours += at->altitude_deg >= 5.0 ? minutes / 60.0 : 0.0;
    out.highest_deg = std::max(out.highest_deg, at->altitude_deg);
  }
  return out;
}

double hours_by_the_window(const Project& p) {
  double hours = 0;
  for (const auto& shot : p.shots)
    if (p.rule<AmbientRule>(*shot) == AmbientRule::window)
      hours += std::max(1.0, shot->takes_planned.value_or(1.0)) *
               ((shot->set_time() + lead_seconds) / 3600.0 + shot->reset_minutes / 60.0);
  return hours;
}

std::vector<std::string> house_faults(const Project& p) {
  std::vector<std::string> list;
  std::set<std::string> said_of;  // set-ups
  for (std::size_t i = 0; i < p.shots.size(); ++i) {
    const Shot& shot = *p.shots[i];
    const Setup* setup = by_id(p.setups, shot.setup);
    if (lights_from_above(p, shot) > 0 && said_of.insert(setup->id).second)
      for (const Light& l : setup->lights)
        if (l.on && !l.window && elevation_deg(l) > overhead_deg + 1e-9)
          list.push_back(said("No light from above is the rule: {} of set-up {} stands {} degrees up.", l.name,
                              setup->id, fixed_text(elevation_deg(l), 0)));
    if (setup)
      for (const Light& l : setup->lights) {
        const double minutes = warm_up_minutes(p, l);
        const KeyedTrack* dimmer = shot.track(Tracked::light_dimmer, l.id);
        if (l.on && minutes > 0.0 && dimmer &&
            std::any_of(dimmer->keys.begin(), dimmer->keys.end(),
                        [](const auto& key) { return key.second <= 0.0; }))
          list.push_back(
              said("Shot {} turns {} off, which takes {} min to come back: leave it burning and cover it.", i + 1,
                   name_or(l.name, l.id), number_text(minutes, 3)));
      }
    if (is_effect(shot)) {
      const bool plates = p.rule<EffectsRule>(shot) == EffectsRule::plates;
      if (plates && shot.plates.size() < 2)
        list.push_back(said("Shot {}: effects are built from plates here, and it names {}.", i + 1,
                            shot.plates.empty() ? "none" : "one"));
      if (!plates && shot.plates.size() > 1)
        list.push_back(
            said("Shot {}: effects are done for real here, and it names {} plates.", i + 1, shot.plates.size()));
    }
    if (shot.move == "mist" && p.rule<DropletsRule>(shot) == DropletsRule::water && shot.reset_minutes < 2.0)
      list.push_back(
          said("Shot {}: plain water runs and is sprayed anew for every take; its reset of {} min is "
               "short of 2.",
               i + 1, number_text(shot.reset_minutes, 2)));
    if (shot.hands > std::max(1, p.means.hands))
      list.push_back(
          said("Shot {} needs {} people, {} are there.", i + 1, shot.hands, std::max(1, p.means.hands)));
  }
  if (const auto day = daylight(p)) {
    const double wanted = hours_by_the_window(p);
    if (wanted > day->hours)
      list.push_back(said("The shots by the window take {} h, and the sun gives {} h on {}.",
                          fixed_text(wanted, 1), fixed_text(day->hours, 1), p.date));
  }
  return list;
}

}  // namespace cinnabar
