// Things that fall: into a liquid, as drops, thrown, strewn.
#include <algorithm>
#include <array>
#include <cmath>
#include <iterator>
#include <memory>
#include <mutex>

#include "cinnabar/base/words.h"
#include "cinnabar/effects/drawn.h"
#include "cinnabar/effects/falls.h"
#include "cinnabar/effects/flights.h"
#include "cinnabar/effects/flown.h"
#include "cinnabar/effects/kind_parts.h"
#include "cinnabar/effects/kinds.h"
#include "cinnabar/effects/pours.h"
#include "cinnabar/effects/rigid.h"
#include "cinnabar/effects/splashes.h"

namespace cinnabar {
namespace {

EffectBody of_balls(double radius, bool liquid,
                    std::vector<std::pair<double, std::shared_ptr<const Flown>>> ways) {
  return {EffectForm::ball, Vec3{1, 1, 1} * radius, liquid, [ways = std::move(ways)](double, double t) {
            std::vector<EffectShape> shapes;
            for (const auto& [from, way] : ways) shapes.push_back({way->at(t - from)});
            return shapes;
          }};
}

double ball_volume(double diameter) { return pi / 6.0 * diameter * diameter * diameter; }

/// One drawing of the drops that a crown throws off, from where it stands; how far they fly.
Expected<double> crown_drops(const EffectAsked& ask, const Plunge& hit, const Vec3& middle, double room_across,
                             double contact, std::vector<EffectBody>& bodies) {
  Drawn drawn(ask.seed);
  const double mean = 0.2 * ask["diameter"], leaves = contact + hit.open_time * 0.5;
  const auto spray = spray_count({std::max(1e-12, 0.5 * hit.most_spilled), mean, 4.0});
  if (!spray) return tl::unexpected(spray.error());
  const int count = static_cast<int>(std::clamp(spray->drops, 0.0, 80.0));
  double farthest = 0.0;
  for (int i = 0; i < count; ++i) {
    const double size = mean * torn_size(drawn);
    const double speed = std::sqrt(2.0 * standard_gravity * hit.crown_height) * (0.7 + 0.8 * drawn()),
                 up = radians(50.0 + 30.0 * drawn());
    const Vec3 outward = turned({0, 0, 1}, 360.0 * drawn());
    const Vec3 from = middle + outward * std::min(hit.cavity_radius, 0.9 * room_across) + Vec3{0, size, 0};
    const auto way = std::make_shared<const Flown>(Flight3{
        from, outward * (speed * std::cos(up)) + Vec3{0, speed * std::sin(up), 0}, 0.0, ask.about.floor, 0.0});
    farthest = std::max(farthest, std::hypot(way->end().x - middle.x, way->end().z - middle.z));
    bodies.push_back({EffectForm::ball, Vec3{1, 1, 1} * (size / 2), true, [way, leaves](double when, double t) {
                        std::vector<EffectShape> shapes;
                        if (when >= leaves && when < leaves + way->rests())
                          shapes.push_back({way->at(t - leaves)});
                        return shapes;
                      }});
  }
  return farthest;
}

/// How far open a cavity is, of what it is at its widest: a half ball that opens and closes in the same time.
double opened(double since, double open_time) {
  const double s = since / open_time - 1.0;
  return s <= -1.0 || s >= 1.0 ? 0.0 : std::sqrt(1.0 - s * s);
}

/// The jet that rises where the cavity has closed: a column that narrows to its tip, thrown up and falling back,
/// as high as one and a half cavities are wide and a third of one across at its foot (both common practice, no
/// source).
EffectBody jet_of(const Plunge& hit, const Vec3& middle, double room_across, double contact) {
  const double begins = contact + 2.0 * hit.open_time, top = 1.5 * hit.cavity_radius,
               speed = std::sqrt(2.0 * standard_gravity * top), lasts = 2.0 * speed / standard_gravity,
               foot = std::min(hit.cavity_radius / 3.0, 0.5 * room_across);
  return {EffectForm::turned, {}, true, [=](double when, double t) {
            std::vector<EffectShape> shapes;
            if (when <= begins + 0.03 * lasts || when >= begins + 0.97 * lasts || foot < 1e-4) return shapes;
            const double since = std::clamp(t - begins, 0.03 * lasts, 0.97 * lasts),
                         tall = speed * since - 0.5 * standard_gravity * since * since;
            EffectShape jet{.place = middle};
            constexpr int steps = 8;
            jet.outline.emplace_back(foot, -0.5 * foot);  // its foot is in the liquid
            for (int k = 0; k <= steps; ++k) {
              const double up = static_cast<double>(k) / steps;
              jet.outline.emplace_back(foot * (0.12 + 0.88 * (1.0 - up) * (1.0 - up)), tall * up);
            }
            jet.outline.emplace_back(1e-6, tall + 0.1 * foot);
            jet.outline.emplace_back(1e-6, -0.5 * foot);
            shapes.push_back(std::move(jet));
            return shapes;
          }};
}

/// The crown's sheet: a thin ring about the cavity's rim that leans outward, up and down again in the cavity's
/// time. As wide as the vessel leaves it.
EffectBody crown_sheet(const Plunge& hit, const Vec3& middle, double room_across, double contact,
                       double diameter) {
  constexpr double leans = 0.3;  // outward, a share of its height (common practice, no source)
  const double thick = std::clamp(0.05 * diameter, 2e-4, 3e-3);
  return {EffectForm::turned, {}, true, [=](double when, double t) {
            std::vector<EffectShape> shapes;
            const double first = (when - contact) / hit.open_time;
            if (first <= 0.02 || first >= 1.98) return shapes;
            const double open = opened(std::clamp(t - contact, 0.02 * hit.open_time, 1.98 * hit.open_time),
                                       hit.open_time),
                         tall = hit.crown_height * open * open,
                         foot = std::max(2.0 * thick, std::min(hit.cavity_radius * open, 0.9 * room_across)),
                         rim = std::max(foot, std::min(foot + leans * tall, 0.97 * room_across)),
                         under = std::min(thick, 0.5 * foot);  // its foot is in the liquid
            shapes.push_back({.place = middle,
                              .outline = {{foot, -under},
                                          {0.5 * (foot + rim), 0.5 * tall},
                                          {rim, tall},
                                          {rim - 0.5 * thick, tall + 0.3 * thick},
                                          {rim - thick, tall},
                                          {0.5 * (foot + rim) - thick, 0.5 * tall},
                                          {foot - thick, -under}}});
            return shapes;
          }};
}

}  // namespace

Expected<EffectOutcome> splashed(const EffectAsked& ask) {
  const EffectVessel* vessel = ask.about.under(ask.place.x, ask.place.z);
  if (!vessel) return fail("place", "has no vessel with a liquid under it", "move it over one, or choose a drop");
  const double surface = vessel->foot.y + vessel->level, height = ask.place.y - surface,
               diameter = ask.thing ? ask.thing->across() : ask["diameter"], mass = ask["mass"],
               density = ask["density"];
  if (height < diameter / 2) return fail("place", "is in the liquid", "raise it");
  const auto let_go = fall({height - diameter / 2, 0.0});
  if (!let_go) return tl::unexpected(let_go.error());
  const double freeboard = std::max(1e-4, vessel->rim() - vessel->level);
  const auto hit = plunge({mass, diameter, let_go->speed, density, ask["energy_share"], freeboard});
  if (!hit) return tl::unexpected(hit.error());
  const double contact = ask.at + let_go->time;

  EffectOutcome out;
  out.events = {by_hand("release", ask.at), by_hand("contact", contact),
                by_hand("opens", contact + hit->open_time), by_hand("peak", contact + 2.0 * hit->open_time)};
  out.numbers = {{"speed", "m/s", let_go->speed},
                 {"cavity_radius", "m", hit->cavity_radius},
                 {"crown_height", "m", hit->crown_height, "±50 %; ±30 % from take to take"},
                 {"most_spilled", "m3", hit->most_spilled, "at most"},
                 {"jet_height", "m", 1.5 * hit->cavity_radius, "within a factor of 2"}};
  // As far as its wall from where it goes in.
  const double aside = std::hypot(ask.place.x - vessel->foot.x, ask.place.z - vessel->foot.z),
               room_across = std::max(0.0, vessel->width_at(vessel->level) - aside);
  if (std::min(room_across, vessel->level - vessel->inner.front()[1]) < 1.5 * hit->cavity_radius)
    out.notes.push_back(
        said("The vessel is narrower or shallower than one and a half cavities: only the bound of what "
             "spills holds, and the crown climbs the wall."));

  // What goes under takes its room.
  const bool floats = mass / density < ball_volume(diameter);
  const double displaced = std::min(ball_volume(diameter), mass / density), sinks = 0.1;
  const auto filled = fill({vessel->inner, vessel->level, displaced, displaced / sinks});
  if (!filled) return tl::unexpected(filled.error());
  out.spare = filled->room - displaced;
  out.into = vessel->number;
  const double taken = displaced - filled->overflow;
  out.poured = [contact, taken, sinks](double t) { return std::clamp((t - contact) / sinks, 0.0, 1.0) * taken; };

  const double bottom = vessel->foot.y + vessel->inner.front()[1] + diameter / 2;
  const double rests = floats ? surface : std::min(bottom, surface);
  out.bodies.push_back(
      {ask.thing ? EffectForm::thing : EffectForm::ball,
       ask.thing ? ask.thing->half : Vec3{1, 1, 1} * (diameter / 2), false,
       [=, place = ask.place, at = ask.at, speed = let_go->speed](double, double t) {
         Vec3 p = place;
         const double touches = surface + diameter / 2;
         if (t > contact)  // slowed by the liquid over about two of its diameters
           p.y = std::max(rests, touches -
                                     2.0 * diameter * (1.0 - std::exp(-(t - contact) * speed / (2.0 * diameter))) -
                                     (floats ? 0.0 : 0.2 * (t - contact)));
         else if (t > at)
           p.y -= standard_gravity * (t - at) * (t - at) / 2;
         return std::vector<EffectShape>{{p}};
       }});

  out.bodies.push_back(crown_sheet(*hit, {ask.place.x, surface, ask.place.z}, room_across, contact, diameter));
  out.bodies.push_back(jet_of(*hit, {ask.place.x, surface, ask.place.z}, room_across, contact));
  out.cavity = [contact, widest = std::min(hit->cavity_radius, 0.9 * room_across),
                open = hit->open_time](double t) { return widest * opened(t - contact, open); };
  if (aside >= 0.3 * hit->cavity_radius) out.cavity_at = Vec3{ask.place.x, surface, ask.place.z};
  const auto farthest =
      crown_drops(ask, *hit, {ask.place.x, surface, ask.place.z}, room_across, contact, out.bodies);
  if (!farthest) return tl::unexpected(farthest.error());
  out.numbers.push_back({"wet_within", "m", *farthest, "one drawing; 6 to 20 takes"});
  out.perils = {Peril::wet_floor, Peril::water_by_mains, Peril::glass};
  return out;
}

Expected<EffectOutcome> dropped(const EffectAsked& ask) {
  const double diameter = ask["diameter"], below = lies_under(ask, ask.place.x, ask.place.z),
               height = ask.place.y - below - diameter / 2;
  if (height <= 0.0) return fail("place", "is not above what the drop falls on", "raise it");
  const auto let_go = fall({height, 0.0});
  if (!let_go) return tl::unexpected(let_go.error());
  const bool into = ask.about.under(ask.place.x, ask.place.z) != nullptr;
  const double film = into ? std::max(ask["film"], diameter) : ask["film"];
  const auto hit =
      drop_impact({diameter, let_go->speed, ask["density"], ask["viscosity"], ask["surface_tension"], film});
  if (!hit) return tl::unexpected(hit.error());
  const double contact = ask.at + let_go->time;
  EffectOutcome out;
  out.events = {by_hand("release", ask.at), by_hand("contact", contact)};
  out.numbers = {
      {"speed", "m/s", let_go->speed},
      {"weber", "", hit->weber},
      {"splash_number", "", hit->splash_number, film > 0.0 ? "fitted for films of 0.1 to 1 diameter" : ""},
      {"splash_limit", "", hit->splash_limit}};
  if (hit->spread_factor) out.numbers.push_back({"spread", "m", *hit->spread_factor * diameter, "±15 %"});
  out.notes.push_back(hit->splashes ? said("It splashes: the number is over its limit.")
                                    : said("It spreads without a splash: let it fall from higher for one."));
  auto way = std::make_shared<const Flown>(Flight3{ask.place, {}, 0.0, below + diameter / 2, 0.0});
  out.bodies.push_back(
      {EffectForm::ball, Vec3{1, 1, 1} * (diameter / 2), true, [way, at = ask.at, contact](double when, double t) {
         std::vector<EffectShape> shapes;
         if (when < contact) shapes.push_back({way->at(t - at)});
         return shapes;
       }});
  out.perils = {Peril::wet_floor};
  return out;
}

namespace {

/// Pieces strewn at once: those over a vessel fall into its liquid, the others meet what stands about.
struct Strewn {
  struct Sunk {
    std::shared_ptr<const Flown> way;
    Vec3 axis, right;
    double turns;  ///< half turns until it lands, about a level axis, so that it lies flat
  };
  std::vector<Sunk> sunk;
  RigidScene scene;

  [[nodiscard]] std::vector<EffectShape> at(double since) const {
    std::vector<EffectShape> shapes;
    for (const Sunk& piece : sunk) {
      const double done = std::clamp(since / piece.way->landings().front(), 0.0, 1.0);
      const double angle = pi * piece.turns * done;
      shapes.push_back(
          {piece.way->at(since), rotated(piece.right, piece.axis, angle), rotated({0, 1, 0}, piece.axis, angle)});
    }
    if (scene.pieces.empty()) return shapes;
    std::call_once(worked_out_, [this] { run_ = rigid_run(scene); });
    for (const RigidPose& pose : run_->at(since)) shapes.push_back({pose.place, pose.right, pose.up});
    return shapes;
  }

  /// By what they have of speed and height then: nothing gives them more.
  [[nodiscard]] double fastest_from(double since) const {
    constexpr double apart = 0.004;
    const auto before = at(since - apart), now = at(since);
    double most = 0.0;
    for (std::size_t i = 0; i < now.size(); ++i) {
      const double speed = length(now[i].place - before[i].place) / apart,
                   high = std::max(0.0, now[i].place.y - scene.ground);
      most = std::max(most, speed * speed + 2.0 * standard_gravity * high);
    }
    return std::sqrt(most);
  }

 private:
  mutable std::once_flag worked_out_;  // by whoever shows them first: moments are told without
  mutable std::shared_ptr<const RigidRun> run_;
};

/// A thing of its own form, thrown by a hand: upright when it leaves, turning over its way at up to two turns a
/// second (common practice, no source), until it lies among what stands there.
EffectBody tumbling(const EffectAsked& ask) {
  Drawn drawn(ask.seed);
  const Vec3 along = turned({0, 0, 1}, ask["bearing_deg"]);
  const double up = radians(ask["angle_deg"]);
  const auto all = std::make_shared<Strewn>();
  RigidScene& scene = all->scene;
  scene.ground = ask.about.floor;
  if (ask.about.solids) scene.solids = ask.about.solids();
  RigidPiece piece;
  piece.hull = ask.thing->hull, piece.half = ask.thing->half, piece.place = ask.place;
  piece.velocity = (along * std::cos(up) + Vec3{0, std::sin(up), 0}) * ask["speed"];
  const double tumbles = 2.0 * pi * 2.0 * drawn(), turns = 2.0 * drawn() - 1.0;
  piece.spin = cross(Vec3{0, 1, 0}, along) * tumbles + Vec3{0, turns, 0};
  piece.terminal_speed = ask["terminal_speed"];
  piece.restitution = ask["restitution"];
  scene.pieces.push_back(piece);
  return {EffectForm::thing, piece.half, false, [all, at = ask.at](double, double t) { return all->at(t - at); },
          [all, at = ask.at](double t) { return all->fastest_from(t - at); }};
}

/// One drawing of a liquid thrown out of a glass: it leaves along the swing, the first of it as thrown and the
/// last slower (by a third) and later (a tenth of a second; both common practice, no source), and tears into drops
/// that are Gamma of order 4 in size (Villermaux et al. 2004). All of its volume is shown.
void thrown_drops(const EffectAsked& ask, double ground, std::vector<EffectBody>& bodies, double& farthest) {
  constexpr int most = 240;
  constexpr double slower = 0.33, later = 0.1, aside_deg = 8.0;
  Drawn drawn(ask.seed);
  const double mean = 0.15 * ask["diameter"], up = ask["angle_deg"];
  const auto spray = spray_count({ask["volume"], mean, 4.0});
  const int count = static_cast<int>(std::clamp(spray ? spray->drops : 1.0, 1.0, static_cast<double>(most)));
  for (const double across : torn_drops(drawn, static_cast<std::size_t>(count), ask["volume"])) {
    const double behind = drawn(), speed = ask["speed"] * (1.0 - slower * behind),
                 leaves = ask.at + later * behind,
                 rises = radians(std::clamp(up + aside_deg * (2.0 * drawn() - 1.0), -90.0, 90.0));
    const Vec3 along = turned({0, 0, 1}, ask["bearing_deg"] + aside_deg * (2.0 * drawn() - 1.0));
    const double round = 360.0 * drawn(), out = 0.4 * ask["diameter"] * std::sqrt(drawn());
    const Vec3 from = ask.place + turned({0, 0, 1}, round) * out;
    const auto way =
        std::make_shared<const Flown>(Flight3{{from.x, std::max(from.y, ground + across), from.z},
                                              (along * std::cos(rises) + Vec3{0, std::sin(rises), 0}) * speed,
                                              ask["terminal_speed"],
                                              ground + across / 2,
                                              0.0});
    farthest = std::max(farthest, std::hypot(way->end().x - ask.place.x, way->end().z - ask.place.z));
    bodies.push_back(drop_on_its_way(across / 2, leaves, way));
  }
}

}  // namespace

Expected<EffectOutcome> thrown(const EffectAsked& ask) {
  const double diameter = ask.thing ? 2.0 * ask.thing->half.y : ask["diameter"], speed = ask["speed"],
               up = radians(ask["angle_deg"]);
  const Vec3 along = turned({0, 0, 1}, ask["bearing_deg"]);
  const auto fly_to = [&](double by, double ground) {
    return Flown(Flight3{ask.place, (along * std::cos(up) + Vec3{0, std::sin(up), 0}) * (speed * by),
                         ask["terminal_speed"], ground + diameter / 2, ask["restitution"]});
  };
  const auto fly = [&](double by) {
    return fly_to(by, ask.about.lands_on([&](double height) {
      const Flown down = fly_to(by, height);
      return down.landings().empty() ? down.end() : down.at(down.landings().front());
    }));
  };
  if (ask.place.y < lies_under(ask, ask.place.x, ask.place.z) + diameter / 2)
    return fail("place", "is under what it lands on", "raise it");
  const auto way = std::make_shared<const Flown>(fly(1.0));
  if (way->landings().empty())
    return fail("speed", "throws it out of sight for over twenty seconds", "throw it less");
  EffectOutcome out;
  const double lands = ask.at + way->landings().front();
  out.events.push_back(by_hand("release", ask.at));
  if (way->highest_at() > 0.0) out.events.push_back({"peak", ask.at + way->highest_at()});
  // A throw by hand is within a tenth, nine times in ten within 1.6 of them.
  const Flown slow = fly(1.0 - 0.1 * nine_in_ten), fast = fly(1.0 + 0.1 * nine_in_ten);
  const auto first = [&](const Flown& f) {
    return f.landings().empty() ? way->landings().front() : f.landings().front();
  };
  const auto [early, late] = std::minmax({first(slow), first(fast)});
  out.events.push_back({"lands", lands, std::pair{ask.at + early, ask.at + late}});
  out.events.push_back({"settles", ask.at + way->rests()});
  out.numbers = {{"reach", "m",
                  std::hypot(way->at(way->landings().front()).x - ask.place.x,
                             way->at(way->landings().front()).z - ask.place.z),
                  "a hand is within 10 %"},
                 {"peak", "m", way->highest()},
                 {"landing_speed", "m/s", way->landing_speed()}};
  out.perils = {Peril::glass};
  if (ask["volume"] > 0.0) {
    double farthest = 0.0;
    thrown_drops(ask, ask.about.ground(way->at(way->landings().front()).x, way->at(way->landings().front()).z),
                 out.bodies, farthest);
    out.numbers.push_back({"wet_within", "m", farthest, "one drawing"});
    out.notes.push_back(said(
        "Thrown at once from two glasses it meets where both ways cross at the same moment: time them by where "
        "they land, one helper counting for both."));
    out.perils.insert(out.perils.end(), {Peril::wet_floor, Peril::water_by_mains});
  } else if (ask.thing) {
    out.bodies.push_back(tumbling(ask));
    out.notes.push_back(
        said("When it lands is told of its middle; how it turns and comes to rest is one drawing."));
  } else {
    out.bodies.push_back(of_balls(diameter / 2, false, {{ask.at, way}}));
  }
  return out;
}

namespace {

/// Beyond, each falls by itself: what they take grows with their meetings, in each throw.
constexpr double most_that_meet = 100;
bool meet_one_another(const EffectAsked& ask) {
  return std::sqrt(ask["throws"]) * ask["pieces"] <= most_that_meet;
}

/// A direction, any as likely.
Vec3 any_direction(Drawn& drawn) {
  const double y = 2.0 * drawn() - 1.0, r = std::sqrt(std::max(0.0, 1.0 - y * y)), around = 2.0 * pi * drawn();
  return {r * std::cos(around), y, r * std::sin(around)};
}

}  // namespace

namespace {

/// One throw.
Expected<EffectOutcome> strewn(const EffectAsked& ask) {
  const auto pieces = static_cast<std::size_t>(ask["pieces"]);
  const double size = ask["size"],
               thick = ask.thing                ? 2.0 * ask.thing->half.y
                       : ask["thickness"] > 0.0 ? ask["thickness"]
                                                : size * 0.3,
               spread = ask["spread"];
  // Of paper and film the weight of a sheet says how it falls, tumbling between flat and edge on: on the average
  // half of a plate's drag across its way, 1.17 (Hoerner 1965, value from memory).
  constexpr double air = 1.2, tumbling = 0.5 * 1.17;
  const double terminal = ask["areal_density"] > 0.0
                              ? std::sqrt(2.0 * ask["areal_density"] * standard_gravity / (air * tumbling))
                              : ask["terminal_speed"];
  const double height = ask.place.y - ask.about.ground(ask.place.x, ask.place.z) - thick / 2;
  if (height < 0.0) return fail("place", "is under what the pieces land on", "raise it");
  if (ask["height_spread"] > height)
    return fail("height_spread", "is more than the height", "give at most the height of the fall");
  Drawn drawn(ask.seed), other(ask.seed ^ 0x5ca77e12ULL);
  const Vec3 half = ask.thing ? ask.thing->half : Vec3{size / 2, thick / 2, size / 2};
  auto all = std::make_shared<Strewn>();
  all->scene.ground = ask.about.floor;
  std::vector<double> landings;
  double rest = 0.0, speed = 0.0;
  for (std::size_t i = 0; i < pieces; ++i) {
    const double high = ask.place.y + ask["height_spread"] * (2.0 * drawn() - 1.0),
                 up = ask["speed_spread"] * (2.0 * drawn() - 1.0);
    const double r = spread * std::sqrt(other()), around = 2.0 * pi * other(), yaw = 360.0 * other();
    const Vec3 from{ask.place.x + r * std::cos(around), high, ask.place.z + r * std::sin(around)};
    const EffectVessel* vessel = ask.about.under(from.x, from.z);
    const double floor = lies_under(ask, from.x, from.z) + thick / 2;
    if (from.y <= floor) return fail("place", "is not above what the pieces land on", "raise it");
    auto way = std::make_shared<const Flown>(
        Flight3{from, {0, up, 0}, terminal, floor, vessel ? 0.0 : ask["restitution"]});
    if (way->landings().empty())
      return fail(ask["areal_density"] > 0.0 ? "areal_density" : "terminal_speed",
                  "keeps a piece in the air for over twenty seconds", "raise it");
    landings.push_back(way->landings().front());
    rest = std::max(rest, way->rests());
    if (i == 0) speed = way->landing_speed();
    const double turns = std::floor(1.0 + 4.0 * other());
    if (vessel || !meet_one_another(ask)) {
      all->sunk.push_back({way, turned({1, 0, 0}, yaw), turned({1, 0, 0}, yaw), turns});
      continue;
    }
    const Vec3 axis = any_direction(other);
    const double leans = 2.0 * pi * other();
    RigidPiece piece;
    if (ask.thing) piece.hull = ask.thing->hull;
    piece.half = half, piece.place = from, piece.velocity = {0, up, 0};
    piece.right = rotated(turned({1, 0, 0}, yaw), axis, leans), piece.up = rotated({0, 1, 0}, axis, leans);
    piece.spin = any_direction(other) * (2.0 * pi * turns * other());  // up to four turns a second
    piece.terminal_speed = terminal;
    piece.restitution = ask["restitution"], piece.friction = ask["friction"];
    all->scene.pieces.push_back(piece);
  }
  if (!all->scene.pieces.empty() && ask.about.solids) all->scene.solids = ask.about.solids();
  EffectOutcome out;
  const auto [first, last] = std::minmax_element(landings.begin(), landings.end());
  out.events = {by_hand("release", ask.at), by_hand("lands", ask.at + *first), by_hand("full", ask.at + *last),
                by_hand("settles", ask.at + rest)};
  out.numbers = {{"span", "s", *last - *first, "one drawing"}, {"landing_speed", "m/s", speed}};
  if (!meet_one_another(ask))
    out.notes.push_back(said("So many pieces are shown as each falls alone: up to {:.0f} meet one another.",
                             most_that_meet / std::sqrt(ask["throws"])));
  out.bodies.push_back({ask.thing ? EffectForm::thing : EffectForm::box, half, false,
                        [all, at = ask.at](double, double t) { return all->at(t - at); },
                        [all, at = ask.at](double t) { return all->fastest_from(t - at); }});
  out.perils = {Peril::food};
  return out;
}

/// A moment of several throws: the first, the last, or between whose spans it lies.
void widen(EffectEvent& event, const EffectEvent& other, bool last) {
  event.at = last ? std::max(event.at, other.at) : std::min(event.at, other.at);
  if (event.span && other.span)
    event.span = std::pair{std::min(event.span->first, other.span->first),
                           std::max(event.span->second, other.span->second)};
}

}  // namespace

Expected<EffectOutcome> scattered(const EffectAsked& ask) {
  auto all = strewn(ask);
  const int throws = static_cast<int>(ask["throws"]);
  if (!all || throws < 2) return all;
  // Each is a recording of its own: its pieces meet what stands there, and none of another's.
  for (int k = 1; k < throws; ++k) {
    EffectAsked again = ask;
    again.seed = ask.seed + static_cast<std::uint64_t>(k) * 0x9e3779b9ULL;
    auto more = strewn(again);
    if (!more) return more;
    for (std::size_t i = 0; i < all->events.size(); ++i)
      widen(all->events[i], more->events[i], all->events[i].name == "full" || all->events[i].name == "settles");
    std::ranges::move(more->bodies, std::back_inserter(all->bodies));
  }
  all->plates = {said("clean")};
  for (int k = 1; k <= throws; ++k) all->plates.push_back(said("throw {}", k));
  all->notes.push_back(said(
      "{} throws are laid over one another in the cut: nothing but the pieces may move between them, and those "
      "of one throw are cleared before the next.",
      throws));
  return all;
}

}  // namespace cinnabar
