// What hangs about and goes: drops on glass, steam, fog.
#include <algorithm>
#include <cmath>

#include "cinnabar/base/words.h"
#include "cinnabar/effects/air.h"
#include "cinnabar/effects/flights.h"
#include "cinnabar/effects/fluids.h"
#include "cinnabar/effects/kind_parts.h"
#include "cinnabar/effects/kinds.h"
#include "cinnabar/effects/splashes.h"

namespace cinnabar {

Expected<EffectOutcome> misted(const EffectAsked& ask) {
  EffectOutcome out;
  const double glycerin = ask["glycerin_fraction"];
  const auto held = bead_hold(
      {ask["advancing_deg"], ask["receding_deg"], ask["surface_tension"], ask["density"], ask["slope_deg"]});
  if (!held) return tl::unexpected(held.error());
  const double across = ask["contact_radius"] * 2.0;
  const auto dries =
      bead_dry({ask["contact_radius"], ask["contact_angle_deg"], ask["temperature_c"], ask["humidity"]});
  if (!dries) return tl::unexpected(dries.error());
  out.events = {{"ready", ask.at}};
  out.numbers = {{"largest_that_stays", "m", held->contact_diameter, "±40 %"},
                 {"drop_volume", "m3", dries->volume}};
  if (across > held->contact_diameter)
    out.notes.push_back(said("Drops of {:.1f} mm run: this slope holds up to {:.1f} mm.", across * 1e3,
                             held->contact_diameter * 1e3));
  if (glycerin < 0.5) {
    out.life = dries->life, out.life_of = said("Drops on the glass");
    out.events.push_back(
        {"gone", ask.at + dries->life, std::pair{ask.at + 0.5 * dries->life, ask.at + 1.4 * dries->life}});
    out.notes.push_back(said("A fan halves the life of the drops."));
  } else {
    const auto mix = spray_mix({glycerin, ask["temperature_c"]});
    if (!mix) return tl::unexpected(mix.error());
    out.numbers.push_back({"viscosity", "Pa s", mix->viscosity});
    out.notes.push_back(said("Half or more of glycerin keeps its drops for the day."));
  }
  out.perils = {Peril::wet_floor, Peril::food};
  return out;
}

Expected<EffectOutcome> steamed(const EffectAsked& ask) {
  const double room = ask["room_c"], source = ask["source_c"];
  const auto seen = steam({source, room, ask["humidity"]});
  if (!seen) return tl::unexpected(seen.error());
  EffectOutcome out;
  out.events = {{"ready", ask.at}};
  out.numbers.push_back({"dew_point_c", "°C", seen->dew_point_c});
  if (!seen->visible) {
    out.life = 0.0, out.life_of = said("Steam");
    out.notes.push_back(
        said("No steam is seen from {:.0f} °C in this room: warm it, cool the room, or moisten the "
             "air.",
             source));
    return out;
  }
  if (seen->dilution) out.numbers.push_back({"dilution", "", *seen->dilution, "within a factor of 2"});
  const double power = ask["power"];
  if (source > room && power > 0.0) {
    const auto rise = plume({power, 0.15, room});
    if (!rise) return tl::unexpected(rise.error());
    out.numbers.push_back({"rise_speed", "m/s", rise->speed, "±25 %, 15 cm up"});
    out.numbers.push_back({"radius", "m", rise->radius, "±25 %, 15 cm up"});
    // What gives it off cools with what it gives off: half of the excess is left (common practice, no source).
    constexpr double heat_of_water = 4186.0;
    out.life = std::log(2.0) * ask["mass"] * heat_of_water * (source - room) / power;
    out.life_of = said("Steam");
    out.events.push_back(
        {"gone", ask.at + *out.life, std::pair{ask.at + 0.5 * *out.life, ask.at + 2.0 * *out.life}});
  }
  out.notes.push_back(said("Steam shows against the dark with the lamp behind it."));
  out.perils = {Peril::heat};
  return out;
}

Expected<EffectOutcome> fogged(const EffectAsked& ask) {
  const double across = ask["droplet_diameter"], density = ask["density"];
  const auto settles = settle({across, density, 1.204, 1.825e-5, ask["height"], ask["air_changes"]});
  if (!settles) return tl::unexpected(settles.error());
  const auto thickness = [&](double angle) {
    return haze({ask["concentration"], across, density, ask["path"], 1000.0, angle, ask["asymmetry"]});
  };
  const auto behind = thickness(20.0), before = thickness(150.0);
  if (!behind) return tl::unexpected(behind.error());
  if (!before) return tl::unexpected(before.error());
  EffectOutcome out;
  out.life = settles->half_life, out.life_of = said("Fog");
  out.events = {{"ready", ask.at},
                {"gone", ask.at + settles->half_life,
                 std::pair{ask.at + 0.5 * settles->half_life, ask.at + 2.0 * settles->half_life}}};
  out.numbers = {{"optical_depth", "", behind->optical_depth, "within a factor of 2"},
                 {"transmittance", "", behind->transmittance},
                 {"half_life", "s", settles->half_life, "within a factor of 2"}};
  if (before->luminance > 0.0)
    out.numbers.push_back(
        {"back_over_front", "", behind->luminance / before->luminance, "20 against 150 degrees"});
  if (behind->optical_depth > 0.3)
    out.notes.push_back(
        said("It is thick enough for light to be scattered more than once: what is told of its "
             "brightness is a guide only."));
  out.perils = {Peril::fog};
  return out;
}

// What is put together of plates, and what is never planned.

Expected<EffectOutcome> levitated(const EffectAsked& ask) {
  EffectOutcome out;
  out.events = {{"ready", ask.at}};
  out.plates = {said("with its stand"), said("clean")};
  out.notes.push_back(
      said("Nothing but the thing may move between the two, and its shadow is that of the stand too."));
  return out;
}
Expected<EffectOutcome> morphed(const EffectAsked& ask) {
  EffectOutcome out;
  out.events = {{"ready", ask.at}};
  out.plates = {said("clean"), said("first thing before the key colour"),
                said("second thing before the key colour")};
  out.notes.push_back(
      said("Same place, size in the picture and light for both; filmed from above they need no stand."));
  return out;
}
Expected<EffectOutcome> stopped_motion(const EffectAsked& ask) {
  EffectOutcome out;
  const double pictures = ask["pictures"], minutes = pictures * ask["seconds_each"] / 60.0;
  out.events = {{"ready", ask.at}};
  out.numbers = {{"pictures", "", pictures}, {"minutes", "min", minutes}};
  out.notes.push_back(
      said("Every picture is taken by itself: lock focus, white and exposure, and touch nothing but the "
           "thing."));
  return out;
}
Expected<EffectOutcome> flamed(const EffectAsked&) {
  return fail("kind", "is fire, which is not planned here",
              "film it with a licensed technician elsewhere, or put it in as a composite");
}

}  // namespace cinnabar
