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

namespace {

constexpr double misted_share =
    0.3;  // of a surface that was sprayed until it is full (common practice, no source)

/// What stands on a sprayed surface: all of it from when it is ready, and where it dries one drop after another,
/// told in sixteenths, so that moments that look alike are alike.
std::function<std::optional<Beads>(double)> beads_of(double ready, double across, std::optional<double> life) {
  return [ready, across, life](double t) -> std::optional<Beads> {
    if (t < ready) return std::nullopt;
    const double left = life ? std::ceil(16.0 * (1.0 - (t - ready) / *life)) / 16.0 : 1.0;
    if (left <= 0.0) return std::nullopt;
    return Beads{misted_share * left, across};
  };
}

}  // namespace

double LampsThere::warming(double absorbed) const {
  if (irradiance <= 0.0) return 0.0;
  const auto lit = lamp_melt({illuminance_lx, illuminance_lx / irradiance, absorbed, 20.0, 1.0, 1.0});
  return lit ? lit->warming : 0.0;
}

namespace {

/// Of drops on glass under lamps: warmer than the air, which stays as moist as it was.
Expected<BeadDry> dries_warmer(const EffectAsked& ask, double warmer) {
  const double room = ask["temperature_c"], drop = std::min(60.0, room + warmer);
  const double moist = ask["humidity"] * vapour_pressure(room) / vapour_pressure(drop);
  return bead_dry({ask["contact_radius"], ask["contact_angle_deg"], drop, moist});
}

}  // namespace

Expected<EffectOutcome> misted(const EffectAsked& ask) {
  constexpr double taken_up = 0.2;  // of the light, by drops and their glass (common practice, no source)
  EffectOutcome out;
  const double glycerin = ask["glycerin_fraction"];
  const auto held = bead_hold(
      {ask["advancing_deg"], ask["receding_deg"], ask["surface_tension"], ask["density"], ask["slope_deg"]});
  if (!held) return tl::unexpected(held.error());
  const double across = ask["contact_radius"] * 2.0;
  const double warmer = ask.about.lamps.warming(taken_up);
  const auto dries = dries_warmer(ask, warmer);
  if (!dries) return tl::unexpected(dries.error());
  out.events = {{"ready", ask.at}};
  out.numbers = {{"largest_that_stays", "m", held->contact_diameter, "±40 %"},
                 {"drop_volume", "m3", dries->volume}};
  if (warmer >= 0.5) {
    out.numbers.push_back({"warming", "K", warmer, "±40 %"});
    out.notes.push_back(said("The lamps warm them by {:.0f} K, and they dry sooner.", warmer));
  }
  if (const auto air = steam({ask["glass_c"], ask["temperature_c"], ask["humidity"]}); air && air->condenses) {
    out.numbers.push_back({"dew_point_c", "°C", air->dew_point_c});
    out.notes.push_back(said(
        "The glass is {:.0f} K under the dew point: it mists by itself, from the coldest place on, and goes on "
        "doing so until it is warm.",
        air->dew_point_c - ask["glass_c"]));
  }
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
  out.beads = beads_of(ask.at, across, out.life);
  out.perils = {Peril::wet_floor, Peril::food};
  return out;
}

namespace {

/// One thing that does not stay as it is: what, and for how long from when it is ready.
struct Keeping {
  std::string what;
  double life;
};

/// How long a leaf takes to get warmer by so much where the lamps would warm it by `warming` in the end; its own
/// heat over what both its sides give the air (0.2 kg/m2 of water, 10 W/m2K: common practice, no source).
double leaf_warms_in(double by, double warming) {
  constexpr double settles_in = 0.2 * 4186.0 / (2.0 * 10.0);  // s
  return -settles_in * std::log(1.0 - by / warming);
}

}  // namespace

/// Life under these lamps, of whatever goes first. Ice keeps its form for a quarter of its melting, foam until it
/// is halved (common practice, no source).
Expected<EffectOutcome> kept_fresh(const EffectAsked& ask) {
  const LampsThere& lamps = ask.about.lamps;
  const double warmer = lamps.warming(ask["absorbed"]);
  EffectOutcome out;
  out.events = {{"ready", ask.at}};
  if (lamps.irradiance > 0.0)
    out.numbers = {{"irradiance", "W/m2", lamps.irradiance, "±40 %"}, {"warming", "K", warmer, "±40 %"}};
  std::vector<Keeping> all;
  if (ask["ice_mass"] > 0.0) {
    constexpr double keeps_its_form = 0.25;
    const double lumens_a_watt = lamps.irradiance > 0.0 ? lamps.illuminance_lx / lamps.irradiance : 300.0;
    const auto melts = lamp_melt({lamps.illuminance_lx, lumens_a_watt, ask["absorbed"], ask["temperature_c"],
                                  ask["ice_mass"], ask["ice_area"]});
    if (!melts) return tl::unexpected(melts.error());
    out.numbers.push_back({"melt_time", "s", melts->melt_time, "±40 %"});
    all.push_back({said("The ice's form"), keeps_its_form * melts->melt_time});
  }
  if (ask["foam_half_life"] > 0.0) all.push_back({said("Half of the foam"), ask["foam_half_life"]});
  if (const double by = ask["wilts_by"]; by > 0.0) {
    if (warmer > by)
      all.push_back({said("The greens"), leaf_warms_in(by, warmer)});
    else
      out.notes.push_back(said("These lamps warm it by {:.0f} K: greens stay.", warmer));
  }
  if (ask["keeps"] > 0.0) all.push_back({said("What was made fresh"), ask["keeps"]});
  const auto first =
      std::min_element(all.begin(), all.end(), [](const Keeping& a, const Keeping& b) { return a.life < b.life; });
  if (first != all.end()) {
    out.life = first->life, out.life_of = first->what;
    out.events.push_back(
        {"gone", ask.at + first->life, std::pair{ask.at + 0.6 * first->life, ask.at + 1.4 * first->life}});
    out.notes.push_back(said("Set it at the last moment, with the lamps down until then, and have more of it."));
  }
  out.perils = {Peril::food};
  return out;
}

namespace {

/// How high steam is seen over a cup: 15 cm from 80 degrees in a room of 22 and half moist (common practice, no
/// source), and else as its dilution to the power 0.6.
double seen_height(double dilution) {
  static const double usual = steam({80.0, 22.0, 0.5})->dilution.value();
  return 0.15 * std::pow(dilution / usual, 0.6);
}

/// Steam over a round mouth as it stands in the air, rising from when it is ready and halved within its life.
std::function<std::optional<Cloud>(double)> steam_cloud(const EffectAsked& ask, double dilution, double life) {
  constexpr int levels = 32;
  const SteamInputs air{ask["source_c"], ask["room_c"], ask["humidity"]};
  const double mouth = ask["mouth_radius"];
  const double before = 5.0 * mouth / (6.0 * entrainment);  // the point that such a plume would come from
  const auto rise = plume({ask["power"], before, air.room_c});
  if (!rise) return {};
  Cloud whole;
  whole.place = ask.place;
  whole.top = seen_height(dilution);
  whole.radius = mouth, whole.spread = 1.2 * entrainment;
  whole.seed = static_cast<std::uint32_t>(ask.seed);
  for (int i = 0; i <= levels; ++i) {
    const double thinned = std::pow(1.0 + (std::pow(dilution, 0.6) - 1.0) * i / levels, 5.0 / 3.0);
    whole.extinction.push_back(extinction_of(condensed(air, 1.0 / thinned), 998.0, ask["droplet_diameter"]));
  }
  // Its speed falls with the third root of the height over that point, so the height goes as the 3/4th power of
  // time.
  const double pace = rise->speed * std::cbrt(before);
  return [whole, before, pace, mouth, life, ready = ask.at](double t) -> std::optional<Cloud> {
    const double since = t - ready;
    if (since <= 0.0) return std::nullopt;
    Cloud now = whole;
    now.reached = std::pow(std::pow(before, 4.0 / 3.0) + 4.0 / 3.0 * pace * since, 0.75) - before;
    for (double& e : now.extinction) e *= std::exp2(-since / life);
    now.risen = since * pace / std::cbrt(before) / mouth;
    return now;
  };
}

}  // namespace

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
    if (seen->dilution) {
      out.numbers.push_back({"seen_height", "m", seen_height(*seen->dilution), "within a factor of 2"});
      out.cloud = steam_cloud(ask, *seen->dilution, *out.life);
    }
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
  Cloud fog;
  fog.form = CloudForm::box;
  fog.place = {ask.place.x, ask.about.floor, ask.place.z};  // it fills all from there up
  fog.half = {0.5 * ask["path"], ask["height"], 0.5 * ask["path"]};
  fog.asymmetry = ask["asymmetry"];
  fog.extinction = {extinction_of(ask["concentration"], density, across)};
  out.cloud = [fog, half = settles->half_life, ready = ask.at](double t) -> std::optional<Cloud> {
    if (t < ready) return std::nullopt;
    Cloud now = fog;
    now.extinction.front() *= std::exp2(-(t - ready) / half);
    return now;
  };
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
