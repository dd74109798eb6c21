// Swings, spins by string, and skins that burst.
#include <algorithm>
#include <cmath>
#include <memory>

#include "cinnabar/base/words.h"
#include "cinnabar/effects/falls.h"
#include "cinnabar/effects/flights.h"
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

Expected<EffectOutcome> burst(const EffectAsked& ask) {
  const auto gone = recoil({ask["modulus"], ask["density"], ask["stretch"], ask["length"], ask["friction"]});
  if (!gone) return tl::unexpected(gone.error());
  const double across = pi * ask["radius"] / gone->recoil_speed, opened = ask.at + across;
  EffectOutcome out;
  out.events = {by_hand("release", ask.at, hand_cuts),
                {"opens", opened, std::pair{ask.at + across / 2, ask.at + across * 2}},
                {"breaks", opened + 0.075, std::pair{opened + 0.05, opened + 0.1}}};
  out.numbers = {{"wave_speed", "m/s", gone->wave_speed},
                 {"recoil_speed", "m/s", gone->recoil_speed, "±50 %"},
                 {"skin_gone", "s", across, "within a factor of 2"}};
  out.notes.push_back(
      said("The skin is gone in {:.1f} ms: film at {:.0f} a second or more to have it in ten frames. "
           "What was in it keeps its shape for 50 to 100 ms.",
           across * 1e3, std::ceil(10.0 / across)));
  out.plates = {said("clean"), said("box opening"), said("contents")};
  out.perils = {Peril::blades, Peril::wet_floor, Peril::water_by_mains};
  return out;
}

}  // namespace cinnabar
