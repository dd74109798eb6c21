// What air throws about: powders, and liquid out of a neck that an air duster blows into.
#include <algorithm>
#include <cmath>
#include <memory>

#include "cinnabar/base/words.h"
#include "cinnabar/effects/air.h"
#include "cinnabar/effects/drawn.h"
#include "cinnabar/effects/flights.h"
#include "cinnabar/effects/flown.h"
#include "cinnabar/effects/kind_parts.h"
#include "cinnabar/effects/kinds.h"
#include "cinnabar/effects/puff.h"
#include "cinnabar/effects/splashes.h"

namespace cinnabar {

namespace {

constexpr double room_air = 1.204, thinnest_seen = 0.1;  // kg/m3; optical depth (common practice, no source)

/// Optical depth through the middle of a Gaussian puff of so much powder.
double puff_depth(double mass, double density, double diameter, double radius) {
  return extinction_of(mass, density, diameter) / (pi * radius * radius);
}

}  // namespace

Expected<EffectOutcome> powdered(const EffectAsked& ask) {
  const double diameter = ask["diameter"], density = ask["density"], mass = ask["mass"],
               up = radians(ask["angle_deg"]), ground = ask.about.ground(ask.place.x, ask.place.z);
  if (ask.place.y < ground) return fail("place", "is under what the powder falls on", "raise it");
  const Vec3 along = turned({0, 0, 1}, ask["bearing_deg"]);
  const auto alone = settle({diameter, density, room_air, 1.825e-5, 1.0, ask["air_changes"]});
  if (!alone) return tl::unexpected(alone.error());
  const auto puff = std::make_shared<const Puff>(
      PuffStart{ask.place, (along * std::cos(up) + Vec3{0, std::sin(up), 0}) * ask["speed"], mass, ask["radius"],
                alone->speed, ground});
  const Puff::State spread = puff->at(puff->spent());
  const auto settles =
      settle({diameter, density, room_air, 1.825e-5, std::max(0.01, 2.0 * spread.radius), ask["air_changes"]});
  if (!settles) return tl::unexpected(settles.error());
  const double half = settles->half_life;
  const auto left = [puff, half](double since) { return std::exp2(-std::max(0.0, since - puff->spent()) / half); };
  const auto depth = [=](double since) {
    return left(since) * puff_depth(mass, density, diameter, puff->at(since).radius);
  };
  EffectOutcome out;
  out.events.push_back(by_hand("release", ask.at));
  if (puff->highest_at() > 0.0) out.events.push_back({"peak", ask.at + puff->highest_at()});
  double gone = 0.0;
  while (depth(gone) > thinnest_seen && gone < 36000.0) gone += std::max(0.02, 0.01 * gone);
  out.life = gone, out.life_of = said("The powder");
  out.events.push_back({"gone", ask.at + gone, std::pair{ask.at + 0.5 * gone, ask.at + 2.0 * gone}});
  out.numbers = {
      {"fall_speed", "m/s", alone->speed},
      {"reach", "m", length(spread.middle - ask.place), "within a factor of 1.5"},
      {"radius", "m", spread.radius, "within a factor of 1.5"},
      {"optical_depth", "", depth(puff->spent()), "through its middle when it is spread; within a factor of 3"},
      {"half_life", "s", half, "within a factor of 2"}};
  Cloud whole;
  whole.form = CloudForm::puff;
  whole.ground = ground;
  whole.asymmetry = ask["asymmetry"];
  whole.seed = static_cast<std::uint32_t>(ask.seed);
  out.cloud = [=, at = ask.at](double t) -> std::optional<Cloud> {
    const double since = t - at;
    if (since < 0.0 || depth(since) < 0.01 * thinnest_seen) return std::nullopt;
    const Puff::State now = puff->at(since);
    Cloud cloud = whole;
    cloud.place = now.middle, cloud.radius = now.radius;
    cloud.risen = length(now.middle - puff->at(0.0).middle) / now.radius;
    cloud.extinction = {left(since) * puff_depth(mass, density, diameter, now.radius) /
                        (std::sqrt(pi) * now.radius)};
    cloud.keep_its_mass();
    return cloud;
  };
  if (depth(puff->spent()) > 0.3)
    out.notes.push_back(
        said("It is thick enough for light to be scattered more than once: what is told of its "
             "brightness is a guide only."));
  out.plates = {said("clean"), said("powder")};
  out.perils = {Peril::powder};
  return out;
}

namespace {

/// How deep a jet of so much push dents a liquid from so far (Banks & Chandrasekhara 1963, with the free jet's own
/// spread, value from memory): M/(rho g h^3) = (n/h)(1 + n/h)^2 / 24.5.
double dent(double push, double density, double distance) {
  const double wanted = 24.5 * push / (density * standard_gravity * distance * distance * distance);
  double low = 0.0, high = std::max(1.0, wanted);
  for (int k = 0; k < 100; ++k) {
    const double middle = 0.5 * (low + high);
    (middle * (1.0 + middle) * (1.0 + middle) < wanted ? low : high) = middle;
  }
  return low * distance;
}

/// Kilograms of drops for each cubic metre of air blown on (Subagyo, Brooks, Coley & Irons 2003, value from
/// memory), by the blowing number; none under 1.
double drops_for_air(double blowing) {
  return blowing < 1.0 ? 0.0 : std::pow(blowing, 3.2) / std::pow(2.6e6 + 2.0e-4 * std::pow(blowing, 12.0), 0.2);
}

}  // namespace

Expected<EffectOutcome> blown(const EffectAsked& ask) {
  const EffectVessel* vessel = ask.about.under(ask.place.x, ask.place.z);
  if (!vessel) return fail("place", "is not over the mouth of an upright vessel", "move it over one");
  const double surface = vessel->foot.y + vessel->level, distance = ask.place.y - surface,
               nozzle = ask["nozzle_diameter"], density = ask["density"];
  if (vessel->level <= vessel->inner.front()[1])
    return fail("place", "is over an empty vessel", "fill it on the Brief");
  if (distance <= 0.0) return fail("place", "is under the liquid", "raise it");
  const double neck = vessel->inner.back()[0];
  if (nozzle / 2 >= neck) return fail("nozzle_diameter", "is wider than the neck", "take a narrower nozzle");
  const auto jet = air_jet({nozzle, ask["speed"], distance, 1.0});
  if (!jet) return tl::unexpected(jet.error());
  const double centre = std::min(jet->centre_speed, ask["speed"]), air = pi / 4.0 * nozzle * nozzle * ask["speed"],
               push = room_air * air * ask["speed"];
  const double deep = dent(push, density, distance), scours = 0.447 * centre,
               blowing = room_air * scours * scours /
                         (2.0 * std::sqrt(standard_gravity * density * ask["surface_tension"]));
  // What is torn off goes up by the push that the air gives the liquid's face, less what the neck is deep.
  const double torn = std::sqrt(room_air / density) * scours,
               freeboard = std::max(0.0, vessel->rim() - vessel->level),
               leaves2 = torn * torn - 2.0 * standard_gravity * freeboard,
               leaves = std::sqrt(std::max(0.0, leaves2));
  double held = 0.0;
  for (std::size_t i = 1; i < vessel->inner.size(); ++i) {
    const auto &a = vessel->inner[i - 1], &b = vessel->inner[i];
    const double high = std::clamp(vessel->level - a[1], 0.0, b[1] - a[1]);
    held += pi / 3.0 * high * (a[0] * a[0] + a[0] * b[0] + b[0] * b[0]);
  }
  const double thrown =
      leaves2 > 0.0 ? std::min(0.5 * held, drops_for_air(blowing) * air * ask["lasting"] / density) : 0.0;
  EffectOutcome out;
  out.events = {by_hand("release", ask.at), by_hand("contact", ask.at + distance / std::max(1.0, centre)),
                by_hand("closes", ask.at + ask["lasting"])};
  out.numbers = {{"centre_speed", "m/s", centre, "where it meets the liquid"},
                 {"dent", "m", deep, "±30 %"},
                 {"blowing_number", "", blowing, "drops from 1 on"},
                 {"thrown", "m3", thrown, "within a factor of 3"},
                 {"peak", "m", leaves * leaves / (2.0 * standard_gravity), "over the mouth, ±50 %"}};
  out.perils = {Peril::propellant, Peril::wet_floor, Peril::water_by_mains, Peril::glass};
  if (blowing < 1.0)
    out.notes.push_back(said("It only dents the liquid: come nearer, or take a wider nozzle."));
  else if (leaves2 <= 0.0)
    out.notes.push_back(said("What it tears off stays inside: fill the vessel nearer to its mouth."));
  if (thrown <= 0.0) return out;
  constexpr int most = 160;
  const double mean = 0.7 * std::sqrt(ask["surface_tension"] / (density * standard_gravity));  // common practice
  const auto spray = spray_count({thrown, mean, 4.0});
  if (!spray) return tl::unexpected(spray.error());
  const int count = static_cast<int>(std::clamp(spray->drops, 1.0, static_cast<double>(most)));
  Drawn drawn(ask.seed);
  double settles = 0.0, farthest = 0.0, highest = 0.0;
  for (int i = 0; i < count; ++i) {
    const double size = mean * torn_size(drawn);
    const double from = ask.at + ask["lasting"] * drawn(), speed = leaves * (0.7 + 0.3 * drawn()),
                 rises = radians(90.0 - 25.0 * drawn());
    const Vec3 outward = turned({0, 0, 1}, 360.0 * drawn());
    const Vec3 mouth = vessel->mouth() + outward * (std::max(0.0, neck - size) * std::sqrt(drawn()));
    const auto lands = [&](const Vec3& at) { return ask.about.ground(at.x, at.z); };
    const Vec3 velocity = outward * (speed * std::cos(rises)) + Vec3{0, speed * std::sin(rises), 0};
    const Vec3 falls = mouth + outward * (speed * std::cos(rises) * 0.5);
    const auto way = std::make_shared<const Flown>(Flight3{mouth, velocity, 0.0, lands(falls) + size / 2, 0.0});
    settles = std::max(settles, from + way->rests());
    highest = std::max(highest, from + way->highest_at());
    farthest = std::max(farthest, std::hypot(way->end().x - mouth.x, way->end().z - mouth.z));
    out.bodies.push_back(drop_on_its_way(size / 2, from, way));
  }
  out.events.push_back({"peak", highest});
  out.events.push_back({"settles", settles});
  std::ranges::stable_sort(out.events, {}, &EffectEvent::at);
  out.numbers.push_back({"wet_within", "m", farthest, "one drawing"});
  out.notes.push_back(said("Hold the can upright: tilted it spits cold liquid."));
  return out;
}

}  // namespace cinnabar
