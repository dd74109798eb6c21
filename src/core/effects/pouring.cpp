// Pours: over a lip or out of a neck, thin or thick, into a vessel or onto what is under it.
#include <algorithm>
#include <array>
#include <cmath>

#include "cinnabar/base/words.h"
#include "cinnabar/effects/kind_parts.h"
#include "cinnabar/effects/kinds.h"
#include "cinnabar/effects/pours.h"

namespace cinnabar {
namespace {

constexpr double hand_tilts = 0.15;  // s, by which a hand that pours scatters (common practice, no source)
constexpr double thick = 1e-4;       // m2/s: from here on a thread is drawn by its own stiffness
constexpr int samples = 64;

/// The stream from where it leaves to where it lands, by age.
struct Stream {
  std::vector<double> age, speed, radius;
  std::vector<Vec3> at;

  [[nodiscard]] double lasts() const { return age.back(); }
  [[nodiscard]] std::pair<Vec3, double> there(double a) const {
    const auto after = std::upper_bound(age.begin(), age.end(), a);
    if (after == age.begin()) return {at.front(), radius.front()};
    if (after == age.end()) return {at.back(), radius.back()};
    const auto i = static_cast<std::size_t>(after - age.begin());
    const double s = (a - age[i - 1]) / (age[i] - age[i - 1]);
    return {at[i - 1] + (at[i] - at[i - 1]) * s, radius[i - 1] + (radius[i] - radius[i - 1]) * s};
  }
};

struct Leaving {
  Vec3 place, along;  ///< `along`: level, which way it goes
  double speed, down_deg, flow, kinematic_viscosity;
  [[nodiscard]] double diameter() const { return std::sqrt(4.0 * flow / (pi * speed)); }
};

/// When a free fall that begins at `down` has come `drop` lower.
double falls_for(double down, double drop) {
  return (std::sqrt(down * down + 2.0 * standard_gravity * drop) - down) / standard_gravity;
}

Expected<Stream> streamed(const Leaving& l, double drop) {
  const double down = l.speed * std::sin(radians(l.down_deg)), level = l.speed * std::cos(radians(l.down_deg));
  Stream s;
  double before = 0.0;
  for (int i = 0; i <= samples; ++i) {
    const double share = static_cast<double>(i) / samples, z = drop * share * share, free = falls_for(down, z);
    double speed = std::sqrt(l.speed * l.speed + 2.0 * standard_gravity * z), age = free;
    if (l.kinematic_viscosity >= thick && i > 0) {
      const auto thread = viscous_thread({l.diameter(), l.speed, l.kinematic_viscosity, z});
      if (!thread) return tl::unexpected(thread.error());
      speed = thread->speed_at;
      age = s.age.back() + (z - before) * 2.0 / (speed + s.speed.back());
    }
    s.age.push_back(age), s.speed.push_back(speed);
    s.at.push_back(l.place + l.along * (level * free) - Vec3{0, z, 0});
    // Along its way, which a thick thread too begins aslant: what passes is the same everywhere.
    const double along = l.kinematic_viscosity >= thick && i > 0
                             ? length(s.at[s.at.size() - 1] - s.at[s.at.size() - 2]) /
                                   (s.age[s.age.size() - 1] - s.age[s.age.size() - 2])
                             : speed;
    s.radius.push_back(std::sqrt(l.flow / (pi * along)));
    before = z;
  }
  return s;
}

/// The vessel that a stream comes down into: within its mouth where it passes the rim.
const EffectVessel* lands_in(const Leaving& l, const EffectPlace& about) {
  const EffectVessel* highest = nullptr;
  const double down = l.speed * std::sin(radians(l.down_deg)), level = l.speed * std::cos(radians(l.down_deg));
  for (const EffectVessel& v : about.vessels) {
    if (v.foot.y + v.level >= l.place.y) continue;
    const double rim = std::min(v.foot.y + v.rim(), l.place.y);  // a lip within the mouth pours in at once
    const Vec3 at = l.place + l.along * (level * falls_for(down, l.place.y - rim));
    if (std::hypot(at.x - v.foot.x, at.z - v.foot.z) < v.inner.back()[0] &&
        (!highest || rim > highest->foot.y + highest->rim()))
      highest = &v;
  }
  return highest;
}

}  // namespace

Expected<EffectOutcome> poured_out(const EffectAsked& ask) {
  const double density = ask["density"], viscosity = ask["viscosity"], neck = ask["neck_diameter"],
               volume = ask["volume"];
  Leaving leaving{ask.place,          turned({0, 0, 1}, ask["bearing_deg"]), 0.0, ask["leave_deg"], ask["flow"],
                  viscosity / density};
  EffectOutcome out;
  if (neck > 0.0) {
    const auto poured = neck_pour({neck, ask["head"], volume});
    if (!poured) return tl::unexpected(poured.error());
    if (leaving.flow <= 0.0) {
      leaving.flow = poured->glug_flow;
      out.notes.push_back(
          said("A neck upside down glugs, two to five times a second, and pours within a fifth of "
               "this; held so that it is just half full it pours as fast without."));
    }
    leaving.speed = 4.0 * leaving.flow / (pi * neck * neck);
  } else {
    const double width = ask["width"];
    if (leaving.flow <= 0.0) {
      const auto poured = lip_pour({width, ask["head"], leaving.down_deg, 0.0});
      if (!poured) return tl::unexpected(poured.error());
      leaving.flow = poured->flow, leaving.speed = poured->speed;
    } else {  // over the same lip, by the depth that such a flow has at its brink
      const double each = leaving.flow / width;
      leaving.speed = each / (0.715 * std::cbrt(each * each / standard_gravity));
    }
    if (leaving.speed < 0.3)
      out.notes.push_back(
          said("It leaves the lip at {:.2f} m/s; under 0.3 m/s a thin liquid may run down the "
               "outside.",
               leaving.speed));
  }

  const EffectVessel* into = lands_in(leaving, ask.about);
  const double lands_at = into ? into->foot.y + into->level : ask.about.ground;
  const double drop = ask.place.y - lands_at;
  if (drop <= 0.0)
    return fail("place", "is not above where the pour lands", "raise it, or pour beside the vessel");
  const auto stream = streamed(leaving, drop);
  if (!stream) return tl::unexpected(stream.error());
  if (!into && !ask.about.vessels.empty())
    out.notes.push_back(said("It lands beside the vessel, {:.0f} mm from the middle of its mouth.",
                             1e3 * std::hypot(stream->at.back().x - ask.about.vessels.front().foot.x,
                                              stream->at.back().z - ask.about.vessels.front().foot.z)));

  const double lasts = volume / leaving.flow, closes = ask.at + lasts, lands = ask.at + stream->lasts();
  std::optional<double> breaks;
  double drops_across = 0.0;
  if (leaving.kinematic_viscosity < thick) {
    const auto breakup =
        jet_breakup({leaving.diameter(), leaving.speed, density, viscosity, ask["surface_tension"]});
    if (!breakup) return tl::unexpected(breakup.error());
    out.numbers.push_back({"whole_for", "m", breakup->drop, "±30 %"});
    if (breakup->drop < drop) {
      const double down = leaving.speed * std::sin(radians(leaving.down_deg));
      breaks = falls_for(down, breakup->drop), drops_across = breakup->drop_diameter;
      out.numbers.push_back({"drop_diameter", "m", drops_across, "±30 %"});
    }
  } else {
    const auto thread = viscous_thread({leaving.diameter(), leaving.speed, leaving.kinematic_viscosity, drop});
    if (!thread) return tl::unexpected(thread.error());
    if (thread->coils) {
      out.numbers.push_back({"coil_radius", "m", *thread->coil_radius, "within a factor of 2"});
      out.numbers.push_back({"coil_hz", "Hz", *thread->coil_hz, "within a factor of 2"});
    }
  }

  out.events.push_back({"release", ask.at, within_hand(ask.at, hand_tilts)});
  out.events.push_back({"leaves", ask.at, within_hand(ask.at, hand_tilts)});
  if (breaks) out.events.push_back({"breaks", ask.at + *breaks, within_hand(ask.at + *breaks, hand_tilts)});
  out.events.push_back({"lands", lands, within_hand(lands, hand_tilts)});
  const std::vector<EffectNumber> more{
      {"flow", "m3/s", leaving.flow, ask["flow"] > 0.0 ? "" : "1 mm of 10 mm of head is 15 %"},
      {"speed", "m/s", leaving.speed},
      {"drop", "m", drop},
      {"landing_speed", "m/s", stream->speed.back(), leaving.kinematic_viscosity >= thick ? "±10 %" : ""},
      {"landing_diameter", "m", 2.0 * stream->radius.back()}};
  out.numbers.insert(out.numbers.begin(), more.begin(), more.end());
  if (into) {
    const auto filled = fill({into->inner, into->level, volume, leaving.flow});
    if (!filled) return tl::unexpected(filled.error());
    const double taken = volume - filled->overflow;
    out.events.push_back({"full", lands + taken / leaving.flow, within_hand(lands, hand_tilts)});
    out.numbers.push_back({"level_after", "m", filled->level_after});
    out.numbers.push_back({"room", "m3", filled->room});
    out.spare = filled->room - volume;
    out.into = into->number;
    out.poured = [lands, taken, flow = leaving.flow](double t) {
      return std::clamp((t - lands) * flow, 0.0, taken);
    };
  }
  out.events.push_back({"closes", closes, within_hand(closes, hand_tilts)});
  out.events.push_back({"settles", closes + stream->lasts(), within_hand(closes + stream->lasts(), hand_tilts)});

  // What has left and not yet landed, whole up to where it breaks, in drops from there.
  const double whole = breaks.value_or(stream->lasts());
  out.bodies.push_back(
      {EffectForm::thread, {}, true, [s = *stream, at = ask.at, closes, whole](double when, double t) {
         const double youngest = std::max(0.0, when - closes), oldest = std::min(whole, when - at);
         std::vector<EffectShape> shapes;
         if (oldest - youngest < 1e-4) return shapes;
         EffectShape& thread = shapes.emplace_back();
         constexpr int points = 48;
         for (int i = 0; i <= points; ++i) {
           const double age = youngest + (oldest - youngest) * i / points + (t - when);
           thread.spine.push_back(s.there(std::clamp(age, 0.0, whole)));
         }
         return shapes;
       }});
  if (breaks) {
    const double each = pi / 6.0 * drops_across * drops_across * drops_across;
    // Never more than are seen apart; the rest go with those that are shown.
    const double apart = std::max(each / leaving.flow, (stream->lasts() - whole) / 400.0);
    out.bodies.push_back({EffectForm::ball, Vec3{1, 1, 1} * (drops_across / 2), true,
                          [s = *stream, at = ask.at, lasts, whole, apart](double when, double t) {
                            std::vector<EffectShape> shapes;
                            const double first = std::max(0.0, std::ceil((when - at - s.lasts()) / apart)),
                                         last = std::min(lasts, when - at - whole) / apart;
                            for (double k = first; k <= last; ++k)
                              shapes.push_back({s.there(std::clamp(t - at - k * apart, whole, s.lasts())).first});
                            return shapes;
                          }});
  }
  out.perils = {Peril::wet_floor, Peril::water_by_mains, Peril::food};
  if (into) out.perils.push_back(Peril::glass);
  return out;
}

}  // namespace cinnabar
