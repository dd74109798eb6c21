// Swings, spins by string, and skins that burst.
#include <algorithm>
#include <cmath>
#include <memory>

#include "cinnabar/base/words.h"
#include "cinnabar/effects/drawn.h"
#include "cinnabar/effects/falls.h"
#include "cinnabar/effects/flights.h"
#include "cinnabar/effects/flown.h"
#include "cinnabar/effects/kind_parts.h"
#include "cinnabar/effects/kinds.h"

namespace cinnabar {

Expected<EffectOutcome> swung(const EffectAsked& ask) {
  const double arm = ask["length"], radius = ask["radius"], angle = ask["angle_deg"];
  const auto hit = swing_hit({arm, radius, angle, ask["gap"]});
  if (!hit) return tl::unexpected(hit.error());
  if (ask.place.y - arm - radius < ask.about.ground(ask.place.x, ask.place.z))
    return fail("length", "lets the bob reach the ground", "hang it higher or shorten it");
  // The pendulum's own equation, by thousandths of a second up to the contact.
  const double lower = arm * (1.0 + 0.4 * radius * radius / (arm * arm)), step = 1e-3;
  auto way = std::make_shared<std::vector<double>>();
  double swing = -radians(angle), rate = 0.0;
  const auto pull = [&](double a) { return -standard_gravity / lower * std::sin(a); };
  for (double t = 0.0; t <= hit->time + step; t += step) {
    way->push_back(swing);
    const double k1 = pull(swing), k2 = pull(swing + rate * step / 2),
                 k3 = pull(swing + rate * step / 2 + k1 * step * step / 4),
                 k4 = pull(swing + rate * step + k2 * step * step / 2);
    swing += rate * step + (k1 + k2 + k3) * step * step / 6;
    rate += (k1 + 2 * k2 + 2 * k3 + k4) * step / 6;
  }
  EffectOutcome out;
  out.events = {by_hand("release", ask.at), by_hand("contact", ask.at + hit->time)};
  out.numbers = {
      {"speed", "m/s", hit->speed}, {"contact_deg", "degrees", hit->contact_deg}, {"rise", "m", hit->rise}};
  out.bodies.push_back(
      {EffectForm::ball, Vec3{1, 1, 1} * radius, false,
       [=, along = turned({0, 0, 1}, ask["bearing_deg"]), pivot = ask.place, at = ask.at, until = hit->time](
           double, double t) {
         const double when = std::clamp(t - at, 0.0, until) / step;
         const auto i = std::min(static_cast<std::size_t>(when), way->size() - 2);
         const double a = (*way)[i] + ((*way)[i + 1] - (*way)[i]) * (when - static_cast<double>(i));
         return std::vector<EffectShape>{{pivot + along * (arm * std::sin(a)) - Vec3{0, arm * std::cos(a), 0}}};
       }});
  out.perils = {Peril::strings, Peril::glass};
  return out;
}

Expected<EffectOutcome> spun(const EffectAsked& ask) {
  const auto spin =
      string_spin({ask["pull"], ask["bolt_radius"], ask["force"], ask["inertia"], ask["friction_torque"]});
  if (!spin) return tl::unexpected(spin.error());
  EffectOutcome out;
  const double pulled = ask.at + spin->spin_time;
  out.events = {by_hand("release", ask.at), by_hand("peak", pulled)};
  if (spin->coast_time) out.events.push_back({"settles", pulled + *spin->coast_time});
  out.numbers = {{"turns", "", spin->turns, "±15 %"},
                 {"rpm", "", spin->rpm, "±15 %"},
                 {"hand_speed", "m/s", spin->hand_speed}};
  if (spin->hand_speed > 3.0)
    out.notes.push_back(
        said("The hand would have to go at {:.1f} m/s; over 3 m/s none keeps the force: wind it round "
             "a thicker bolt, or pull more gently.",
             spin->hand_speed));
  out.notes.push_back(said("The spin itself is the turn of the product: give it a track."));
  out.perils = {Peril::strings};
  return out;
}

namespace {

constexpr double keeps_shape = 0.075;  // s: water without its skin (0.05 to 0.1, common practice, no source)
constexpr std::size_t drops_of_a_burst = 160;

/// A skin that is pricked at its top: what is left of the ball runs down to its foot and is gone.
EffectBody torn_skin(const Vec3& middle, double radius, double from, double until) {
  const double thickness = std::min(4e-4, 0.02 * radius);
  return {EffectForm::turned, {}, false, [=](double when, double t) {
            std::vector<EffectShape> shapes;
            if (when >= until) return shapes;
            const double rim = 0.98 * pi * std::clamp((t - from) / (until - from), 0.0, 1.0);
            constexpr int steps = 24;
            EffectShape skin{.place = middle};
            const auto add = [&](double r, int k) {  // 0 at the foot, steps at the rim
              const double polar = pi + (rim - pi) * k / steps;
              skin.outline.emplace_back(std::max(1e-6, r * std::sin(polar)), r * std::cos(polar));
            };
            constexpr double clear = 1.002;  // of the water in it
            for (int k = 0; k <= steps; ++k) add(clear * radius + thickness, k);
            for (int k = steps; k >= 0; --k) add(clear * radius, k);
            shapes.push_back(std::move(skin));
            return shapes;
          }};
}

/// The water of a burst skin: a ball that falls as one, then drops that go on as it fell and apart, as many as are
/// shown, together as much as it was.
struct LooseWater {
  double radius, opens, breaks, settles;
  Vec3 middle;

  /// Adds its bodies. Drops are Gamma of order 4 in size, as thick sheets break (Villermaux et al. 2004).
  void shown(std::vector<EffectBody>& bodies, double ground, std::uint64_t seed) {
    const auto fallen = [=, *this](double t) {
      const double since = std::max(0.0, t - opens);
      return middle - Vec3{0, 0.5 * standard_gravity * since * since, 0};
    };
    bodies.push_back({EffectForm::ball, Vec3{1, 1, 1} * radius, true, [=, *this](double when, double t) {
                        std::vector<EffectShape> shapes;
                        if (when < breaks) shapes.push_back({fallen(std::min(t, breaks))});
                        return shapes;
                      }});
    Drawn drawn(seed);
    settles = breaks;
    for (const double across : torn_drops(drawn, drops_of_a_burst, 4.0 / 3.0 * pi * radius * radius * radius)) {
      const double own = 0.5 * across, out = std::max(0.0, radius - own) * std::cbrt(drawn());
      const double y = 2.0 * drawn() - 1.0;
      const Vec3 aside = (turned({0, 0, 1}, 360.0 * drawn()) * std::sqrt(1.0 - y * y) + Vec3{0, y, 0}) * out;
      Vec3 from = fallen(breaks) + aside;
      from.y = std::max(from.y, ground + own);
      const Vec3 speed = Vec3{0, -standard_gravity * (breaks - opens), 0} + aside / keeps_shape;
      const auto way = std::make_shared<const Flown>(Flight3{from, speed, 0.0, ground + own, 0.0});
      settles = std::max(settles, breaks + way->rests());
      bodies.push_back(drop_on_its_way(own, breaks, way));
    }
  }
};

}  // namespace

Expected<EffectOutcome> burst(const EffectAsked& ask) {
  const auto gone = recoil({ask["modulus"], ask["density"], ask["stretch"], ask["length"], ask["friction"]});
  if (!gone) return tl::unexpected(gone.error());
  const double across = pi * ask["radius"] / gone->recoil_speed, opened = ask.at + across;
  EffectOutcome out;
  const double ground = ask.about.ground(ask.place.x, ask.place.z),
               inside = ask["radius"] * std::cbrt(ask["water"]);
  const Vec3 middle{ask.place.x, std::max(ask.place.y, ground + ask["radius"]), ask.place.z};
  // It keeps its shape until it breaks up by itself, or has fallen so far that it meets the ground.
  const double meets = std::sqrt(2.0 * std::max(0.0, middle.y - ground - inside) / standard_gravity);
  LooseWater water{inside, opened, opened + std::min(keeps_shape, meets), opened, middle};
  out.events = {
      by_hand("release", ask.at, hand_cuts),
      {"opens", opened, std::pair{ask.at + across / 2, ask.at + across * 2}},
      {"breaks", water.breaks,
       std::pair{std::min(water.breaks, opened + 0.05), std::max(water.breaks, opened + std::min(0.1, meets))}}};
  if (inside > 1e-4) {
    out.bodies.push_back(torn_skin(middle, ask["radius"], ask.at, opened));
    water.shown(out.bodies, ground, ask.seed);
    out.events.push_back({"settles", water.settles});
  }
  out.numbers = {{"wave_speed", "m/s", gone->wave_speed},
                 {"recoil_speed", "m/s", gone->recoil_speed, "±50 %"},
                 {"skin_gone", "s", across, "within a factor of 2"},
                 {"water", "m3", 4.0 / 3.0 * pi * inside * inside * inside}};
  out.notes.push_back(
      said("The skin is gone in {:.1f} ms: film at {:.0f} a second or more to have it in ten frames. "
           "What was in it keeps its shape for 50 to 100 ms.",
           across * 1e3, std::ceil(10.0 / across)));
  out.plates = {said("clean"), said("box opening"), said("contents")};
  out.perils = {Peril::blades, Peril::wet_floor, Peril::water_by_mains};
  return out;
}

}  // namespace cinnabar
