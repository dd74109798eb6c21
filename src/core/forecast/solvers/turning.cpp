// Solvers of what turns, and of the film's own speed.
#include <algorithm>
#include <cmath>

#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levels/runs.h"
#include "cinnabar/forecast/solvers/proposals.h"
#include "cinnabar/planning/standing.h"
#include "cinnabar/project/model/track_target.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {
namespace {

constexpr Tracked table = Tracked::turntable;

/// The first product with a label: its place in the shot's list.
std::optional<std::size_t> labelled(const Bench& b) {
  for (std::size_t i = 0; i < b.shot.products.size(); ++i)
    if (const Product* p = by_id(b.project.products, b.shot.products[i].product); p && p->label) return i;
  return std::nullopt;
}
double label_bearing(const Bench& b, std::size_t product) {
  return by_id(b.project.products, b.shot.products[product].product)->label->bearing_deg;
}
double table_at(const Shot& shot, double t) {
  const KeyedTrack* track = shot.track(table);
  return track ? track->at(t) : 0.0;
}
/// Where the camera stands about a product, degrees.
double camera_bearing(const Bench& b, std::size_t product, double t) {
  const Vec3 from = camera_at(b.shot, t).place - product_at(b.project, b.shot, b.shot.products[product], t).place;
  return degrees(std::atan2(from.x, from.z));
}
std::string turns_text(double turns) {
  return std::abs(turns) == 1.0 ? said("{} turn", number_text(turns, 4)) : said("{} turns", number_text(turns, 4));
}
double wrapped(double deg) { return std::remainder(deg, 360.0); }

/// What a shot asks its supports for beyond what they can, or nothing.
std::string over_reach(const Bench& b) {
  for (const Level& level : Forecaster().levels(b.project, b.index, "motion.reach"))
    if (level.state == State::out) return level.sentence;
  return {};
}

struct Faced {
  double bearing, at, lasting;
};
/// The label runs past the bearing at that moment for as long as was asked.
std::string facing_fault(const Bench& then, const Faced& wanted, bool reached_before) {
  MeasureCache cache;
  const ShotContext context(then.project, then.index, cache, quick_measure, nullptr);
  const auto run = facing_run(context);
  if (!run || run->to <= run->from) return said("the label is not there at {} s", number_text(wanted.at, 3));
  const double lasts = run->to - run->from;
  if (lasts < wanted.lasting - 1e-3)
    return said("it faces for {} s only; give it less turn, or more time", number_text(lasts, 3));
  return reached_before ? over_reach(then) : std::string();  // what stood against it already does not count
}

}  // namespace

Expected<Proposals> solve_facing(const Bench& b, const SolveRequest& request) {
  const auto product = labelled(b);
  if (!product) return fail("the shot", "has no product with a label", "give a product a label on the Brief");
  const auto& asked = b.shot.facing;
  const double whole = b.shot.screen_time;
  Faced wanted{0, request.number("at", asked ? asked->at : on_beat(b, 0.5 * whole)),
               request.number("for", asked && asked->lasting > 0.0 ? asked->lasting : 0.5)};
  if (wanted.at > whole)
    return fail("at", said("lies after the shot's end, {} s", number_text(whole, 4)), "give a moment of the shot");
  const double moment = b.shot.clock.set_at(wanted.at), end = b.shot.set_time();
  wanted.bearing = request.number("bearing", asked ? asked->bearing_deg : camera_bearing(b, *product, moment));
  const double own = label_bearing(b, *product), travel_now = table_at(b.shot, end) - table_at(b.shot, 0.0),
               travel = std::abs(travel_now) > 1.0 ? travel_now : 90.0;
  const std::string turn = fmt::format("{}/products/{}/turn_deg", b.shot_path, *product);
  const Json need{{"bearing_deg", wanted.bearing}, {"at", wanted.at}, {"for", wanted.lasting}};
  const bool reached = over_reach(b).empty();
  Proposals out;
  const auto propose = [&](const std::string& title, double start, Values changes) {
    changes.emplace_back(turn, std::round(wrapped(start) * 1e4) / 1e4);
    add_need(b, changes, "facing", need);
    out.list.push_back({title, std::move(changes),
                        [wanted, reached](const Bench& then) { return facing_fault(then, wanted, reached); }});
  };
  // As it turns already, started elsewhere.
  const double start = wanted.bearing - own - table_at(b.shot, moment);
  propose(said("Start turned to {} degrees", number_text(wrapped(start), 4)), start, {});
  // Turned to it and held there, arriving a little before.
  const double arrives = b.shot.clock.set_at(std::max(0.0, wanted.at - 0.5 * wanted.lasting));
  if (arrives > 0.1)
    propose(said("Turn {} degrees, come to rest at {} s on the set, and hold", number_text(travel, 4),
                 number_text(arrives, 3)),
            wanted.bearing - own - travel,
            with_tracks(b, {value_track(table, Shape::minimum_jerk, {{0.0, 0.0}, {arrives, travel}})}));
  // Evenly, slow enough to stay within the run.
  const double from = b.shot.clock.set_at(std::max(0.0, wanted.at - 0.55 * wanted.lasting)),
               to = b.shot.clock.set_at(std::min(whole, wanted.at + 0.55 * wanted.lasting));
  if (to > from && end > 0.0) {
    const double speed = std::copysign(2.0 * facing_within_deg / (to - from), travel);
    propose(said("Turn evenly at {} rpm", number_text(std::abs(speed) / 6.0, 3)),
            wanted.bearing - own - speed * moment,
            with_tracks(b, {value_track(table, Shape::linear, {{0.0, 0.0}, {end, speed * end}})}));
  }
  return out;
}

Expected<Proposals> solve_peak(const Bench& b, const SolveRequest& request) {
  if (!b.shot.facing) return fail("the shot", "asks for no facing", "solve facing first, or give it on the Stage");
  const auto product = labelled(b);
  if (!product) return fail("the shot", "has no product with a label", "give a product a label on the Brief");
  if (!b.setup) return fail("the shot", "has no set-up", "give it one with a light");
  const auto main = b.main_light();
  const std::string id = !request.light.empty()       ? request.light
                         : !b.shot.peak_light.empty() ? b.shot.peak_light
                         : main                       ? b.setup->lights[*main].id
                                                      : "";
  const auto light =
      std::find_if(b.setup->lights.begin(), b.setup->lights.end(), [&id](const Light& l) { return l.id == id; });
  if (light == b.setup->lights.end())
    return fail("light", "is none of this set-up", "name one of its lights by its id");
  // The moment of the shot at which the label is nearest its bearing.
  const double end = b.shot.set_time(), bearing = b.shot.facing->bearing_deg;
  double moment = 0.0, nearest = 1e9;
  for (int k = 0; k <= 2000; ++k) {
    const double t = end * k / 2000;
    const double off =
        std::abs(wrapped(label_bearing(b, *product) +
                         product_at(b.project, b.shot, b.shot.products[*product], t).turn_deg - bearing));
    if (off < nearest - 1e-9) nearest = off, moment = t;
  }
  const auto fault = [](const Bench& then) -> std::string {
    MeasureCache cache;
    const auto run = peak_run(ShotContext(then.project, then.index, cache, quick_measure, nullptr));
    if (!run) return said("the light stays as it is");
    if (run->off_deg / 3.6 > peak_within_percent)
      return said("the label is {} degrees away when the light is brightest", number_text(run->off_deg, 3));
    return {};
  };
  Proposals out;
  const std::string name = name_or(light->name, light->id);
  const auto keys = [&](double before, double at, double after) {
    std::vector<std::pair<double, double>> list;
    if (moment > 0.02 * end) list.emplace_back(0.0, before);
    list.emplace_back(moment, at);
    if (moment < 0.98 * end) list.emplace_back(end, after);
    return list;
  };
  const auto propose = [&](const std::string& title, const KeyedTrack& track, const std::string& off) {
    Values changes = with_tracks(b, {track}, {off});
    add_need(b, changes, "peak", Json{{"light", id}});
    out.list.push_back({title, std::move(changes), fault});
  };
  const double bright = light->dimmer > 0.0 ? light->dimmer : 1.0;
  propose(said("{} dimmed up to {} % at {} s on the set, and down", name, number_text(100 * bright, 3),
               number_text(moment, 3)),
          value_track(target_text(Tracked::light_dimmer, id), Shape::minimum_jerk,
                      keys(0.15 * bright, bright, 0.15 * bright)),
          "light." + id + ".turn");
  // Round the upright through the origin to where the product's lit face gets the most of it.
  const ShotProduct& placed = b.shot.products[*product];
  const auto [low, high] = height_span(*by_id(b.project.products, placed.product));
  const Vec3 middle = product_at(b.project, b.shot, placed, moment).world({0, 0.5 * (low + high), 0});
  const auto gets = [&](double round) {
    Light carried = *light;
    carried.dimmer = 1.0;
    carried.place = turned(light->place, round), carried.aim = turned(light->aim, round);
    return upright_patch_gets(carried, middle, bearing);
  };
  double to = 0.0;
  for (const double step : {2.0, 0.1, 0.005}) {
    const double about = to, reach = step < 2.0 ? 40.0 * step : 180.0;
    for (double round = about - reach; round <= about + reach; round += step)
      if (gets(round) > gets(to)) to = round;
  }
  to = wrapped(to);
  propose(said("{} carried round, past the label at {} s on the set", name, number_text(moment, 3)),
          value_track(target_text(Tracked::light_turn, id), Shape::minimum_jerk, keys(to - 70.0, to, to + 70.0)),
          "light." + id + ".dimmer");
  return out;
}

Expected<Proposals> solve_spin(const Bench& b, const SolveRequest& request) {
  const double end = b.shot.set_time(), turn = 360.0 * request.number("turns", 1.0);
  if (end <= 0.0) return fail("the shot", "has no length", "give it one on the Board");
  if (turn == 0.0) return fail("turns", "is 0", "give how often it turns");
  Proposals out;
  for (const auto& [shape, words] : {std::pair{Shape::linear, "evenly"},
                                     {Shape::s_curve, "from rest to rest, gently"},
                                     {Shape::trapezoid_third, "from rest to rest, by thirds"}})
    out.list.push_back(
        {said("{} {}, {} rpm at the fastest", turns_text(turn / 360.0), words,
              number_text(std::abs(turn) / end / 6.0 * shape_peaks(shape).speed, 3)),
         with_tracks(b, {value_track(table, shape, {{0.0, 0.0}, {end, turn}})}), [turn](const Bench& then) {
           const Shot& shot = then.shot;
           if (std::abs(table_at(shot, shot.set_time()) - table_at(shot, 0.0) - turn) > 1e-3)
             return said("it does not come round so often");
           for (const Standing& one : standing_on_turntable(then.project, shot))
             if (one.grip > 1.0)
               return said("the product would slip on the turntable at {} s on the set", number_text(one.at, 3));
           return over_reach(then);
         }});
  return out;
}

Expected<Proposals> solve_loop(const Bench& b, const SolveRequest&) {
  const KeyedTrack* track = b.shot.track(table);
  const double end = b.shot.set_time();
  if (!track || track->keys.size() < 2 || end <= 0.0)
    return fail("the shot", "has no turntable track", "solve spin first, or add the track on the ladder");
  const double turn = track->at(end) - track->at(0.0);
  if (turn == 0.0) return fail("the turntable", "does not turn", "solve spin first");
  Proposals out;
  for (const KeyedTrack& other : b.shot.tracks) {
    const bool back = other.places.empty() ? std::abs(other.at(end) - other.at(0.0)) < 1e-6
                                           : length(other.place_at(end) - other.place_at(0.0)) < 1e-6;
    if (!is_target(other.target, table) && other.keys.size() > 1 && !back)
      out.impossible = said("{} does not come back to where it began", other.target);
  }
  if (!out.impossible.empty()) return out;
  std::vector<double> wholes{std::floor(std::abs(turn) / 360.0), std::ceil(std::abs(turn) / 360.0 - 1e-9)};
  if (wholes[1] <= wholes[0]) wholes.pop_back();
  for (const double whole : wholes) {
    if (whole < 1.0) continue;
    const double wanted = std::copysign(360.0 * whole, turn);
    for (const bool even : {true, false}) {
      KeyedTrack next = *track;
      if (even) {
        next = value_track(table, Shape::linear, {{0.0, track->at(0.0)}, {end, track->at(0.0) + wanted}});
      } else {
        for (auto& key : next.keys) key.second = track->at(0.0) + (key.second - track->at(0.0)) * wanted / turn;
      }
      Values changes = with_tracks(b, {next});
      add_need(b, changes, "loop", true);
      out.list.push_back(
          {even ? said("{}, evenly", turns_text(whole)) : said("{}, at the speeds that it has", turns_text(whole)),
           std::move(changes), [](const Bench& then) {
             const double whole_turn = table_at(then.shot, then.shot.set_time()) - table_at(then.shot, 0.0);
             if (std::abs(std::remainder(whole_turn, 360.0)) > 1e-3) return said("the ends do not meet");
             return over_reach(then);
           }});
    }
  }
  return out;
}

Expected<Proposals> solve_stop_motion(const Bench& b, const SolveRequest& request) {
  const double hold = request.number("hold", 2.0), turn = request.number("degrees", 360.0),
               timeline = b.project.timeline_rate;
  const auto stop = stop_motion({b.shot.screen_time, timeline, hold, turn, request.number("seconds", 30.0)});
  if (!stop) return tl::unexpected(stop.error());
  const auto pictures = static_cast<long>(std::lround(stop->pictures));
  if (pictures < 2 || pictures > 4000)
    return fail("the shot", "is too short or too long for it", "change its length");
  std::vector<std::pair<double, double>> keys;
  const double each = hold / timeline, turning = std::min(1e-3, 0.1 * each);
  for (long k = 0; k < pictures; ++k) {
    keys.emplace_back(static_cast<double>(k) * each, static_cast<double>(k) * stop->step_deg);
    keys.emplace_back(static_cast<double>(k + 1) * each - turning, keys.back().second);
  }
  Values changes = with_tracks(b, {value_track(table, Shape::linear, std::move(keys))});
  changes.emplace_back(b.shot_path + "/play", Json{{0.0, 1.0}});
  Proposals out;
  out.list.push_back({said("{} pictures, {} degrees between, {} minutes", pictures, number_text(stop->step_deg, 4),
                           number_text(stop->set_time / 60.0, 3)),
                      std::move(changes), [each, pictures, step = stop->step_deg](const Bench& then) {
                        for (long k = 0; k < pictures; ++k)
                          if (std::abs(table_at(then.shot, (static_cast<double>(k) + 0.5) * each) -
                                       static_cast<double>(k) * step) > 1e-3)
                            return said("it does not stand still for picture {}", k + 1);
                        return std::string();
                      }});
  return out;
}

Expected<Proposals> solve_ramp(const Bench& b, const SolveRequest& request) {
  const double whole = b.shot.screen_time, at = request.number("at", on_beat(b, 0.4 * whole)),
               slow = request.number("slow", 4.0), over = request.number("over", 0.2);
  if (at > whole)
    return fail("at", said("lies after the shot's end, {} s", number_text(whole, 4)), "give a moment of it");
  // Full speed until t, then slower; the slow speed is reached when `at` is on screen.
  const auto clock = [&](double t) { return PlayClock({{0.0, 1.0}, {t, 1.0}, {t + over, 1.0 / slow}}); };
  const auto lands = [&](double t) { return clock(t).screen_at(t + over); };
  Proposals out;
  if (lands(1e-3) > at) {
    out.impossible = said("slowing over {} s takes {} s on screen; ask for it later, or slow more quickly",
                          number_text(over, 3), number_text(lands(1e-3), 3));
    return out;
  }
  double low = 1e-3, high = at;
  for (int k = 0; k < 80; ++k) (lands(0.5 * (low + high)) < at ? low : high) = 0.5 * (low + high);
  const double t = 0.5 * (low + high);
  const auto tidy = [](double v) { return std::round(v * 1e6) / 1e6; };
  Values changes{{b.shot_path + "/play", Json{{0.0, 1.0}, {tidy(t), 1.0}, {tidy(t + over), tidy(1.0 / slow)}}}};
  add_need(b, changes, "slow", slow);
  out.list.push_back({said("Full speed for {} s, then {} times slower from {} s on screen", number_text(t, 3),
                           number_text(slow, 3), number_text(at, 4)),
                      std::move(changes), [=](const Bench& then) {
                        const double frame = 1.0 / then.project.timeline_rate,
                                     beside = then.shot.clock.screen_at(t + over) - at;
                        return std::abs(beside) > 0.5 * frame
                                   ? said("it lands {} s beside", number_text(beside, 3))
                                   : std::string();
                      }});
  return out;
}

}  // namespace cinnabar
