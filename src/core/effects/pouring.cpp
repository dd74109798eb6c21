// Pours: over a lip or out of a neck, thin or thick, into a vessel or onto what is under it.
#include <algorithm>
#include <array>
#include <cmath>

#include "cinnabar/base/discs.h"
#include "cinnabar/base/words.h"
#include "cinnabar/effects/drawn.h"
#include "cinnabar/effects/kind_parts.h"
#include "cinnabar/effects/kinds.h"
#include "cinnabar/effects/pours.h"

namespace cinnabar {
namespace {

constexpr double stiff_from = 1e-4;  // m2/s: from here on a thread is drawn by its own stiffness
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

/// When a free fall that begins at `down` has come `drop` lower.
double falls_for(double down, double drop) {
  return (std::sqrt(down * down + 2.0 * standard_gravity * drop) - down) / standard_gravity;
}

struct Leaving {
  Vec3 place, along;  ///< `along`: level, which way it goes
  double speed, down_deg, flow, kinematic_viscosity;
  double glug_hz = 0.0;  ///< a neck upside down takes air by gulps; 0: the flow is even
  [[nodiscard]] double down() const { return speed * std::sin(radians(down_deg)); }
  [[nodiscard]] double level() const { return speed * std::cos(radians(down_deg)); }
  /// How far it has gone to the side when it has come `drop` lower.
  [[nodiscard]] double aside(double drop) const { return level() * falls_for(down(), std::max(0.0, drop)); }
  [[nodiscard]] bool is_thick() const { return kinematic_viscosity >= stiff_from; }
  [[nodiscard]] double diameter() const { return std::sqrt(4.0 * flow / (pi * speed)); }
};

Stream streamed(const Leaving& l, double drop) {
  std::optional<ThreadProfile> thread;
  if (l.is_thick()) thread.emplace(l.speed, l.kinematic_viscosity);
  Stream s;
  double before = 0.0;
  for (int i = 0; i <= samples; ++i) {
    const double share = static_cast<double>(i) / samples, z = drop * share * share, free = falls_for(l.down(), z);
    const Vec3 at = l.place + l.along * l.aside(z) - Vec3{0, z, 0};
    double speed = std::sqrt(l.speed * l.speed + 2.0 * standard_gravity * z), along = speed, age = free;
    if (thread && i > 0) {
      speed = thread->speed_at(z);
      age = s.age.back() + (z - before) * 2.0 / (speed + s.speed.back());
      // A thick thread too begins aslant: what passes is the same everywhere along its way.
      along = length(at - s.at.back()) / (age - s.age.back());
    }
    s.age.push_back(age), s.speed.push_back(speed), s.at.push_back(at);
    s.radius.push_back(std::sqrt(l.flow / (pi * along)));
    before = z;
  }
  return s;
}

/// How far from the middle of a vessel's mouth a stream comes through it, over the mouth's own plane.
double off_the_middle(const Leaving& l, const EffectVessel& v) {
  const Vec3 mouth = v.mouth(), at = l.place + l.along * l.aside(l.place.y - std::min(mouth.y, l.place.y));
  const Vec3 off{at.x - mouth.x, 0, at.z - mouth.z};
  if (v.lean_deg == 0.0) return length(off);
  // Down onto a mouth that leans: the way that it leans is foreshortened.
  const Vec3 low = unit(Vec3{v.axis.x, 0, v.axis.z});
  const double along = dot(off, low);
  return std::hypot(along / std::cos(radians(v.lean_deg)), length(off - low * along));
}

/// The vessel that a stream comes down into: within its mouth where it passes the rim.
const EffectVessel* lands_in(const Leaving& l, const EffectPlace& about) {
  const EffectVessel* highest = nullptr;
  for (const EffectVessel& v : about.vessels) {
    if (v.surface() >= l.place.y) continue;
    const Vec3 mouth = v.mouth();
    const double rim = std::min(mouth.y, l.place.y);  // a lip within the mouth pours in at once
    if (off_the_middle(l, v) < v.inner.back()[0] && (!highest || rim > highest->mouth().y)) highest = &v;
  }
  return highest;
}

/// How it leaves the neck or the lip; what to know of that goes to `notes`.
Expected<Leaving> leaving_of(const EffectAsked& ask, std::vector<std::string>& notes) {
  Leaving l{ask.place,   turned({0, 0, 1}, ask["bearing_deg"]), 0.0, ask["leave_deg"],
            ask["flow"], ask["viscosity"] / ask["density"]};
  if (const double neck = ask["neck_diameter"]; neck > 0.0) {
    const auto poured = neck_pour({neck, ask["head"], ask["volume"]});
    if (!poured) return tl::unexpected(poured.error());
    if (l.flow <= 0.0) {
      l.flow = poured->glug_flow;
      const double lasts = ask["volume"] / l.flow;
      // Two to five a second (common practice, no source), and whole ones until it is empty.
      l.glug_hz = std::max(1.0, std::round((2.0 + 3.0 * Drawn(ask.seed)()) * lasts)) / lasts;
      notes.push_back(
          said("A neck upside down glugs, two to five times a second, and pours within a fifth of "
               "this; held so that it is just half full it pours as fast without."));
    }
    l.speed = 4.0 * l.flow / (pi * neck * neck);
    return l;
  }
  if (l.flow <= 0.0) {
    const auto poured = lip_pour({ask["width"], ask["head"], l.down_deg, 0.0});
    if (!poured) return tl::unexpected(poured.error());
    l.flow = poured->flow, l.speed = poured->speed;
  } else {  // over the same lip, by the depth that such a flow has at its brink
    const double each = l.flow / ask["width"];
    l.speed = each / (0.715 * std::cbrt(each * each / standard_gravity));
  }
  if (l.speed < 0.3 && !l.is_thick())
    notes.push_back(said("It leaves the lip at {:.2f} m/s; under 0.3 m/s it may run down the outside.", l.speed));
  return l;
}

/// Where a thin stream breaks into drops, and how a thick thread coils; both told as numbers.
struct Broken {
  std::optional<double> age;
  double drops_across = 0.0;
  double coil_radius = 0.0, coil_hz = 0.0;  ///< 0: it does not coil
};
Expected<Broken> broken(const EffectAsked& ask, const Leaving& l, double drop,
                        std::vector<EffectNumber>& numbers) {
  if (l.is_thick()) {
    const auto thread = viscous_thread({l.diameter(), l.speed, l.kinematic_viscosity, drop});
    if (!thread) return tl::unexpected(thread.error());
    if (thread->coils) {
      numbers.push_back({"coil_radius", "m", *thread->coil_radius, "within a factor of 2"});
      numbers.push_back({"coil_hz", "Hz", *thread->coil_hz, "within a factor of 2"});
      return Broken{.coil_radius = *thread->coil_radius, .coil_hz = *thread->coil_hz};
    }
    return Broken{};
  }
  const auto breakup =
      jet_breakup({l.diameter(), l.speed, ask["density"], ask["viscosity"], ask["surface_tension"]});
  if (!breakup) return tl::unexpected(breakup.error());
  numbers.push_back({"whole_for", "m", breakup->drop, "±30 %"});
  if (breakup->drop >= drop) return Broken{};
  numbers.push_back({"drop_diameter", "m", breakup->drop_diameter, "±30 %"});
  return Broken{falls_for(l.down(), breakup->drop), breakup->drop_diameter};
}

/// A thread that coils, from where it came to at age `whole`: its foot goes round, what it has laid lies under
/// that in turns, the last few of them. `turns` it has laid, `around` it is at now.
void coil(std::vector<std::pair<Vec3, double>>& spine, const Broken& apart, double turns, double around) {
  constexpr int each = 20;  // places a turn
  const Vec3 foot = spine.back().first;
  const double thread = spine.back().second, pile = 2.0 * thread * turns, swings = 6.0 * apart.coil_radius;
  const auto aside = [&](double angle) { return Vec3{std::cos(angle), 0.0, std::sin(angle)} * apart.coil_radius; };
  for (auto& [place, radius] : spine) {  // it leans over to its foot, and ends on the pile
    const double high = std::max(0.0, place.y - foot.y), bent = std::max(0.0, 1.0 - high / (swings + pile));
    place = place + aside(around) * (bent * bent);
    place.y = foot.y + high + pile * bent * bent;
  }
  const int laid = std::max(1, static_cast<int>(std::ceil(turns * each)));
  for (int k = 1; k <= laid; ++k) {
    const double back = turns * k / laid;
    spine.emplace_back(foot + aside(around - 2.0 * pi * back) + Vec3{0, pile - 2.0 * thread * back, 0}, thread);
  }
}

/// A flow that comes by gulps: how much of the even flow there is `since` it began, and how much has come by then
/// as seconds of the even flow.
struct Gulps {
  double hz;
  static constexpr double swing = 0.7;  ///< up and down of it (common practice, no source)
  [[nodiscard]] double flow(double since) const {
    return hz > 0.0 ? 1.0 + swing * std::sin(2.0 * pi * hz * since) : 1.0;
  }
  [[nodiscard]] double come(double since) const {
    return hz > 0.0 ? since + swing * (1.0 - std::cos(2.0 * pi * hz * since)) / (2.0 * pi * hz) : since;
  }
};

/// What has left and not yet landed: whole up to where it breaks, in drops from there.
std::vector<EffectBody> in_the_air(const Stream& stream, const Broken& apart, double at, double lasts, double flow,
                                   const Gulps& gulps) {
  const double whole = apart.age.value_or(stream.lasts()), closes = at + lasts;
  std::vector<EffectBody> bodies;
  bodies.push_back({EffectForm::thread, {}, true, [=](double when, double t) {
                      const double youngest = std::max(0.0, when - closes), oldest = std::min(whole, when - at);
                      std::vector<EffectShape> shapes;
                      if (oldest - youngest < 1e-4) return shapes;
                      EffectShape& thread = shapes.emplace_back();
                      constexpr int points = 48;
                      for (int i = 0; i <= points; ++i) {
                        const double age = youngest + (oldest - youngest) * i / points;
                        auto& [place, radius] =
                            thread.spine.emplace_back(stream.there(std::clamp(age + (t - when), 0.0, whole)));
                        radius *= std::sqrt(gulps.flow(when - at - age));
                      }
                      const double turns = std::min(3.0, apart.coil_hz * (when - at - stream.lasts()));
                      if (turns > 0.05 && when < closes + stream.lasts())
                        coil(thread.spine, apart, turns, 2.0 * pi * apart.coil_hz * (t - at));
                      return shapes;
                    }});
  if (!apart.age) return bodies;
  const double across = apart.drops_across, each = pi / 6.0 * across * across * across;
  // Never more than are seen apart; the rest go with those that are shown.
  const double pace = std::max(each / flow, (stream.lasts() - whole) / 400.0);
  bodies.push_back({EffectForm::ball, Vec3{1, 1, 1} * (across / 2), true, [=](double when, double t) {
                      std::vector<EffectShape> shapes;
                      const double first = std::max(0.0, std::ceil((when - at - stream.lasts()) / pace)),
                                   last = std::min(lasts, when - at - whole) / pace;
                      for (double k = first; k <= last; ++k)
                        shapes.push_back(
                            {stream.there(std::clamp(t - at - k * pace, whole, stream.lasts())).first});
                      return shapes;
                    }});
  return bodies;
}

/// What becomes of it in the vessel: how much gets in, how high it stands, the head on it, when it is full.
Expected<void> fills_up(const EffectAsked& ask, const Leaving& l, const Stream& stream, const EffectVessel& into,
                        double lands, const Gulps& gulps, EffectOutcome& out) {
  const double mouth = into.inner.back()[0], fallen = std::max(0.0, ask.place.y - into.mouth().y);
  double across = stream.radius.back();
  for (std::size_t i = 0; i < stream.at.size(); ++i)
    if (ask.place.y - stream.at[i].y >= fallen) {
      across = stream.radius[i];
      break;
    }
  const double share = disc_overlap(across, mouth, off_the_middle(l, into)) / (pi * across * across),
               volume = ask["volume"], flow = l.flow * share;
  if (share < 0.999)
    out.notes.push_back(
        said("The mouth is {:.0f} mm across and the stream {:.0f} mm: {:.0f} % of it runs down outside.",
             2e3 * mouth, 2e3 * across, 100.0 * (1.0 - share)));
  if (share <= 0.0) return {};
  const double room = std::max(0.0, into.room()), taken = std::min(volume * share, room);
  const auto filled = fill({into.inner, into.level, taken, flow});
  if (!filled) return tl::unexpected(filled.error());
  out.events.push_back(by_hand("full", lands + taken / flow, hand_tilts));
  out.numbers.push_back({"level_after", "m", filled->level_after});
  out.numbers.push_back({"room", "m3", room});
  const double foam = ask["foam_share"] * taken;
  out.spare = room - volume * share - foam;
  out.into = into.number;
  out.poured = [lands, taken, flow, gulps](double t) {
    return t <= lands ? 0.0 : std::clamp(gulps.come(t - lands) * flow, 0.0, taken);
  };
  if (foam <= 0.0) return {};
  // It comes with what is poured, and halves again and again from when it is full.
  const double half_life = ask["foam_half_life"], full = lands + taken / flow;
  out.foam = [poured = out.poured, part = ask["foam_share"], half_life, full](double t) {
    return part * poured(t) * std::exp2(-std::max(0.0, t - full) / half_life);
  };
  out.numbers.push_back({"foam", "m3", foam, said("a third of a beer, usually")});
  out.life = half_life, out.life_of = said("Half of the foam");
  out.events.push_back({"ready", full});
  out.events.push_back({"gone", full + half_life, std::pair{full + 0.6 * half_life, full + 1.4 * half_life}});
  return {};
}

}  // namespace

Expected<EffectOutcome> poured_out(const EffectAsked& ask) {
  EffectOutcome out;
  const auto leaving = leaving_of(ask, out.notes);
  if (!leaving) return tl::unexpected(leaving.error());
  const EffectVessel* into = lands_in(*leaving, ask.about);
  const double beside = ask.about.lands_on(
      [&](double height) { return leaving->place + leaving->along * leaving->aside(leaving->place.y - height); });
  const double drop = ask.place.y - (into ? into->surface() : beside);
  if (drop <= 0.0)
    return fail("place", "is not above where the pour lands", "raise it, or pour beside the vessel");
  const Stream stream = streamed(*leaving, drop);
  const Vec3 end = stream.at.back();
  if (!into && !ask.about.vessels.empty()) {
    double nearest = 1e300;
    for (const EffectVessel& v : ask.about.vessels)
      nearest = std::min(nearest, std::hypot(end.x - v.mouth().x, end.z - v.mouth().z));
    out.notes.push_back(
        said("It lands beside the vessel, {:.0f} mm from the middle of its mouth.", 1e3 * nearest));
  }

  const double flow = leaving->flow, volume = ask["volume"], lasts = volume / flow, closes = ask.at + lasts,
               lands = ask.at + stream.lasts();
  out.numbers = {{"flow", "m3/s", flow,
                  ask["flow"] > 0.0            ? ""
                  : ask["neck_diameter"] > 0.0 ? "±20 %"
                                               : "1 mm of 10 mm of head is 15 %"},
                 {"speed", "m/s", leaving->speed},
                 {"drop", "m", drop},
                 {"reach", "m", std::hypot(end.x - ask.place.x, end.z - ask.place.z)},
                 {"landing_speed", "m/s", stream.speed.back(), leaving->is_thick() ? "±10 %" : ""},
                 {"landing_diameter", "m", 2.0 * stream.radius.back()}};
  const auto apart = broken(ask, *leaving, drop, out.numbers);
  if (!apart) return tl::unexpected(apart.error());
  out.events = {by_hand("release", ask.at, hand_tilts), by_hand("leaves", ask.at, hand_tilts)};
  if (apart->age) out.events.push_back(by_hand("breaks", ask.at + *apart->age, hand_tilts));
  out.events.push_back(by_hand("lands", lands, hand_tilts));
  const Gulps gulps{apart->age ? 0.0 : leaving->glug_hz};
  if (into)
    if (const auto filled = fills_up(ask, *leaving, stream, *into, lands, gulps, out); !filled)
      return tl::unexpected(filled.error());
  out.events.push_back(by_hand("closes", closes, hand_tilts));
  out.events.push_back(by_hand("settles", closes + stream.lasts(), hand_tilts));
  std::stable_sort(out.events.begin(), out.events.end(),
                   [](const EffectEvent& a, const EffectEvent& b) { return a.at < b.at; });
  out.bodies = in_the_air(stream, *apart, ask.at, lasts, flow, gulps);
  out.perils = {Peril::wet_floor, Peril::water_by_mains, Peril::food};
  if (into) out.perils.push_back(Peril::glass);
  return out;
}

}  // namespace cinnabar
