// Levels of practical effects: their moments, their speed at the lens, their liquid, how long they last, what they
// are put together of, and what was read before they are done.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/effects/flights.h"
#include "cinnabar/effects/kind_parts.h"
#include "cinnabar/forecast/levels/judgements.h"
#include "cinnabar/scene/effects_staged.h"
#include "cinnabar/scene/liquid_surface.h"

namespace cinnabar {
namespace {

std::string why_not(const ToldEffect& t) { return effect_name(*t.effect) + ": " + t.outcome.error().text(); }

/// How long a thread comes to be, the greatest of these moments; its own size, though it begins as nothing.
double longest_thread(const EffectBody& body, double end, double step) {
  double longest = 0.0;
  for (double now = 0.0; now <= end; now += step)
    for (const EffectShape& s : body.at(now, now))
      if (!s.spine.empty()) longest = std::max(longest, length(s.spine.back().first - s.spine.front().first));
  return longest;
}

/// The first that cannot be worked out makes the level unknown.
std::optional<std::string> refused(const ToldEffects& all) {
  for (const ToldEffect& t : all)
    if (!t.outcome) return why_not(t);
  return std::nullopt;
}

std::string frames_text(double frames) {
  const double size = std::abs(frames);
  return size < 0.05  ? said("on the frame")
         : frames > 0 ? said("{} frames late", fixed_text(size, 1))
                      : said("{} frames early", fixed_text(size, 1));
}

}  // namespace

bool handles_liquid(const ShotContext& c) {
  if (has_effects(c)) return true;
  for (std::size_t k = 0; has_camera(c) && k < c.shot.products.size(); ++k)
    if (leaning_room(c.project, c.shot, k, {})) return true;
  return false;
}
bool has_effects(const ShotContext& c) { return has_camera(c) && !c.shot.effects.empty(); }
bool times_effects(const ShotContext& c) {
  return has_camera(c) && std::any_of(c.shot.effects.begin(), c.shot.effects.end(),
                                      [](const Effect& e) { return e.needs.has_value(); });
}

std::optional<Level> effect_timing(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  std::optional<Worst> worst;
  std::string sentence, formula;
  for (const ToldEffect& t : c.effects()) {
    if (!t.effect->needs) continue;
    if (!t.outcome) return unknown(level, why_not(t));
    const EffectNeed& need = *t.effect->needs;
    const auto wanted = wanted_on_screen(c.project, c.index, need);
    if (!wanted) return unknown(level, said("{} names neither a second nor a beat", effect_name(*t.effect)));
    const EffectEvent* event = t.outcome->event(need.event);
    if (!event)
      return unknown(level, said("{} has no moment \"{}\" as it is planned", effect_name(*t.effect), need.event));
    const double screen = c.shot.clock.screen_at(event->at), off = (screen - *wanted) * c.project.timeline_rate;
    if (worst && std::abs(off) <= std::abs(worst->value)) continue;
    worst = Worst{off, event->at};
    formula = said("{} at {} s on set = {} s on screen; wanted at {} s; x {} a second = {} frames", need.event,
                   fixed_text(event->at, 3), fixed_text(screen, 3), fixed_text(*wanted, 3),
                   number_text(c.project.timeline_rate), signed_text(off, 2));
    sentence = said("{}: \"{}\" comes {}", effect_name(*t.effect), need.event, frames_text(off));
    if (event->span) {
      const double wide =
          (c.shot.clock.screen_at(event->span->second) - c.shot.clock.screen_at(event->span->first)) / 2 *
          c.project.timeline_rate;
      sentence += said("; nine takes in ten within {} frames of that", fixed_text(wide, 1));
      if (const auto hits = hit_chance({.tolerance = 1.0, .sigma = std::abs(wide) / nine_in_ten, .events = 1.0});
          hits && hits->expected > 1.05)
        sentence += said(", one in {} on the frame", fixed_text(hits->expected, 1));
    }
    sentence += ".";
  }
  if (!worst) return std::nullopt;
  settle(level, *worst);
  level.formula = formula, level.sentence = sentence;
  return level;
}

std::optional<Level> effect_speed(const ShotContext& c, const LevelStart& start) {
  const ToldEffects& all = c.effects();
  const bool crisp = c.project.rule<ShutterRule>(c.shot) == ShutterRule::crisp;
  const double part = crisp ? 20.0 : 5.0;
  struct Fastest {
    double px = -1.0, size_px = 1.0, t = 0.0, speed = 0.0;
    std::string who;
    [[nodiscard]] double share() const { return px / size_px; }
  } fastest;
  const double half_width = c.optics.sensor_width / 2, half_height = c.optics.sensor_height / 2;
  for (const ToldEffect& t : all) {
    if (!t.outcome) continue;
    // Every recorded frame, at most some hundreds of them.
    const double step = std::max(1.0 / c.optics.rate, c.end / 400.0);
    std::vector<double> threads;
    std::vector<char> slow(t.outcome->bodies.size());
    for (const EffectBody& body : t.outcome->bodies)
      threads.push_back(body.form == EffectForm::thread ? longest_thread(body, c.end, step) : 0.0);
    for (double now = 0.0; now <= c.end; now += step) {
      const CameraPose before = c.pose(now), after = c.pose(now + c.camera.shutter_time);
      for (std::size_t n = 0; n < t.outcome->bodies.size(); ++n) {
        const EffectBody& body = t.outcome->bodies[n];
        // From when it is too slow to smear more of its size it need not be followed, which is dear.
        slow[n] = slow[n] || (body.fastest_from && fastest.px >= 0.0 && !c.camera_moves() &&
                              1.1 * body.fastest_from(now) * c.camera.shutter_time <
                                  fastest.share() * 2.0 * largest(body.half));
        if (slow[n]) continue;
        const auto from = body.at(now, now), to = body.at(now, now + c.camera.shutter_time);
        for (std::size_t i = 0; i < from.size() && i < to.size(); ++i) {
          const auto weigh = [&](const Vec3& a, const Vec3& b, double size) {
            const auto x = image_of(before, a), y = image_of(after, b);
            if (!x || !y || std::abs(x->x) > half_width || std::abs(x->y) > half_height) return;
            const double px = std::hypot(y->x - x->x, y->y - x->y) / c.optics.pitch;
            const double size_px = size * before.image_distance() / before.depth(a) / c.optics.pitch;
            if (size_px <= 0.0 || px / size_px <= fastest.share()) return;
            fastest = {px, size_px, now, length(b - a) / c.camera.shutter_time, effect_name(*t.effect)};
          };
          if (body.form == EffectForm::turned) continue;  // a crown: slower and larger than what throws it up
          if (body.form != EffectForm::thread) {
            weigh(from[i].place, to[i].place, 2.0 * reach_of(body, from[i]));
            continue;
          }
          // A thread goes along itself: its size is its length.
          const auto &a = from[i].spine, &b = to[i].spine;
          for (std::size_t k = 0; k < a.size() && k < b.size(); k += 8) weigh(a[k].first, b[k].first, threads[n]);
        }
      }
    }
  }
  Level level =
      start({{}, fastest.size_px / part},
            crisp ? "path over one exposure; a twentieth of its own size, house rule shutter: crisp; common "
                    "practice, no source"
                  : "path over one exposure; a fifth of its own size; common practice, no source");
  if (fastest.px < 0.0) {
    if (const auto why = refused(all)) return unknown(level, *why);
    return std::nullopt;  // nothing of it goes through the frame
  }
  settle(level, {fastest.px, fastest.t});
  level.formula =
      said("{} m/s over {} = {} px; its own size {} px / {} = {} px allowed", fixed_text(fastest.speed, 2),
           shutter_text(c.camera.shutter_time), fixed_text(fastest.px, 1), fixed_text(fastest.size_px, 1),
           number_text(part), fixed_text(fastest.size_px / part, 1));
  level.sentence = said("{} smears over {} px of the recording during one exposure, {} % of its own size.",
                        fastest.who, fixed_text(fastest.px, 1), fixed_text(100.0 * fastest.share(), 0));
  return level;
}

std::optional<Level> effect_volume(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  const ToldEffects& all = c.effects();
  std::optional<double> least;
  double when = 0.0;
  const auto weigh = [&](double spare, double at, const std::string& sentence, const std::string& formula) {
    if (least && spare >= *least) return;
    least = spare, when = at, level.sentence = sentence, level.formula = formula;
  };
  for (const ToldEffect& t : all) {
    if (!t.outcome) continue;
    if (t.outcome->spare) {
      const EffectEvent* full = t.outcome->event("full");
      const double ml = *t.outcome->spare * 1e6;
      weigh(*t.outcome->spare, full ? full->at : t.effect->at,
            ml < 0 ? said("{}: {} ml run over the rim.", effect_name(*t.effect), fixed_text(-ml, 0))
                   : said("{}: the vessel takes it, and {} ml more.", effect_name(*t.effect), fixed_text(ml, 0)),
            said("room under the rim less what comes into it = {} ml", fixed_text(ml, 1)));
    }
    if (!t.effect->supply || t.effect->kind != "pour") continue;
    const double each = measure_of(*t.effect, "volume").value_or(0.0),
                 takes = std::max(1.0, c.shot.takes_planned.value_or(1.0)),
                 left = *t.effect->supply - takes * each;
    weigh(left, t.effect->at,
          left < 0 ? said("{}: {} ml are missing for the takes planned.", effect_name(*t.effect),
                          fixed_text(-left * 1e6, 0))
                   : said("{}: {} ml are left after the takes planned.", effect_name(*t.effect),
                          fixed_text(left * 1e6, 0)),
          said("{} ml - {} takes x {} ml = {} ml", fixed_text(*t.effect->supply * 1e6, 0), number_text(takes),
               fixed_text(each * 1e6, 1), fixed_text(left * 1e6, 1)));
  }
  for (std::size_t k = 0; k < c.shot.products.size(); ++k) {
    const auto room = leaning_room(c.project, c.shot, k, all);
    if (!room) continue;
    const double ml = room->spare * 1e6;
    const Product* product = by_id(c.project.products, c.shot.products[k].product);
    const std::string name = product->name.empty() ? product->id : product->name;
    weigh(room->spare, room->at,
          ml < 0 ? said("{} leans until {} ml run over its rim.", name, fixed_text(-ml, 0))
                 : said("{} holds what is in it as it leans, and {} ml more.", name, fixed_text(ml, 0)),
          said("what it holds as it leans less what is in it = {} ml", fixed_text(ml, 1)));
  }
  if (!least) {
    if (const auto why = refused(all)) return unknown(level, *why);
    return std::nullopt;
  }
  settle(level, {*least * 1e6, when});
  return level;
}

std::optional<Level> effect_lasts(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  const ToldEffects& all = c.effects();
  std::optional<double> least;
  for (const ToldEffect& t : all) {
    if (!t.outcome || !t.outcome->life) continue;
    const EffectEvent* ready = t.outcome->event("ready");
    const double from = ready ? ready->at : t.effect->at, needed = std::max(0.0, c.end - from),
                 spare = *t.outcome->life - needed;
    if (least && spare >= *least) continue;
    least = spare;
    level.set_time = from;
    level.formula =
        said("life {} s - from ready at {} s to the end at {} s = {} s", number_text(*t.outcome->life, 3),
             number_text(from, 3), number_text(c.end, 3), number_text(spare, 3));
    level.sentence =
        spare < 0 ? said("{} is gone {} s before the take ends.", t.outcome->life_of, number_text(-spare, 2))
                  : said("{} stays good {} s longer than the take.", t.outcome->life_of, number_text(spare, 2));
  }
  if (!least) {
    if (const auto why = refused(all)) return unknown(level, *why);
    return std::nullopt;
  }
  const auto when = level.set_time.value_or(0.0);
  settle(level, {*least, when});
  return level;
}

std::vector<std::string> plates_wanted(const Project& project, const Shot& shot, const ToldEffects& effects) {
  std::vector<std::string> wanted;
  const auto want = [&](const std::string& plate) {
    if (std::find(wanted.begin(), wanted.end(), plate) == wanted.end()) wanted.push_back(plate);
  };
  const bool by_plates = project.rule<EffectsRule>(shot) == EffectsRule::plates;
  for (const ToldEffect& t : effects) {
    if (!t.outcome) continue;
    for (const std::string& plate : t.outcome->plates) want(plate);
    if (by_plates && t.outcome->plates.empty()) want(said("clean")), want(effect_name(*t.effect));
  }
  return wanted;
}

std::optional<Level> effect_plates(const ShotContext& c, const LevelStart& start) {
  const auto wanted = plates_wanted(c.project, c.shot, c.effects());
  if (wanted.empty()) return std::nullopt;
  Level level = start();
  int missing = std::max(0, static_cast<int>(wanted.size()) - static_cast<int>(c.shot.plates.size()));
  const bool moves = c.camera_moves();
  std::string list;
  for (const std::string& plate : wanted) list += (list.empty() ? "" : ", ") + plate;
  settle(level, {static_cast<double>(missing + (moves ? 1 : 0)), 0.0}, true);
  level.formula = said("{} listed of {} wanted: {}{}", c.shot.plates.size(), wanted.size(), list,
                       moves ? said("; and the camera moves between them") : std::string());
  level.sentence = missing > 0
                       ? said("{} of its recordings are not listed yet; it is put together of: {}.", missing, list)
                   : moves ? said("The recordings are listed, and the camera does not stand still for them.")
                           : said("All that it is put together of is listed: {}.", list);
  return level;
}

std::optional<Level> effect_caution(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  int unread = 0, read = 0;
  std::string which;
  for (const ToldEffect& t : c.effects()) {
    if (t.outcome && t.perils().empty()) continue;
    // What cannot be worked out is dangerous until somebody has looked at it; fire always is.
    if (t.effect->read && t.effect->kind != "flame") {
      ++read;
      continue;
    }
    ++unread;
    which += (which.empty() ? "" : ", ") + effect_name(*t.effect);
  }
  if (read + unread == 0) return std::nullopt;
  settle(level, {static_cast<double>(unread), 0.0}, true);
  level.formula = said("{} of {} not read", unread, read + unread);
  level.sentence = unread ? said("Read what can hurt before it is done: {}. This is never a permission.", which)
                          : said("What can hurt was read. This is never a permission: local codes come first.");
  return level;
}

}  // namespace cinnabar
