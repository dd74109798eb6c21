// Practical effects solved: when they are let go, from how high, and with what flow.
#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/solvers/proposals.h"
#include "cinnabar/scene/effects_staged.h"

namespace cinnabar {
namespace {

/// What is asked of an effect of the bench's shot.
struct AskedEffect {
  std::size_t index;
  const Effect* effect;
  std::string event;
  double wanted;  ///< seconds of the shot on screen
};

/// The effect that is named, or the only one; its moment and when that is wanted: as asked, as it is timed
/// already, or on the beat nearest to where it comes now.
Expected<AskedEffect> asked_effect(const Bench& b, const SolveRequest& request) {
  const auto& all = b.shot.effects;
  if (all.empty()) return fail("effect", "is none: the shot has no effects", "add one first");
  std::size_t index = 0;
  std::string ids;
  for (const Effect& e : all) ids += (ids.empty() ? "" : ", ") + e.id;
  if (request.effect.empty() && all.size() > 1)
    return fail("effect", "is not named, and the shot has several", "give one of " + ids);
  if (!request.effect.empty()) {
    const auto found =
        std::find_if(all.begin(), all.end(), [&](const Effect& e) { return e.id == request.effect; });
    if (found == all.end()) return fail("effect", "is none of this shot's", "give one of " + ids);
    index = static_cast<std::size_t>(found - all.begin());
  }
  const Effect& effect = all[index];
  const auto outcome = outcome_of(b.project, b.shot, effect);
  if (!outcome)
    return fail(effect.id + "/" + outcome.error().place, outcome.error().message, outcome.error().mend);
  std::string event = !request.event.empty() ? request.event : effect.needs ? effect.needs->event : std::string();
  std::string events;
  for (const EffectEvent& e : outcome->events) events += (events.empty() ? "" : ", ") + e.name;
  if (const EffectEvent* main = outcome->main_event(); event.empty()) event = main ? main->name : "ready";
  const EffectEvent* now = outcome->event(event);
  if (!now) return fail("event", "is no moment of this effect as it is planned", "give one of " + events);
  const bool timed = effect.needs && effect.needs->event == event;
  const auto need = timed ? wanted_on_screen(b.project, b.index, *effect.needs) : std::nullopt;
  const double wanted =
      request.number("at", need ? *need : on_beat(b, b.shot.clock.screen_at(std::max(0.0, now->at))));
  return AskedEffect{index, &effect, event, wanted};
}

std::string path_of(const Bench& b, const AskedEffect& a, const char* member) {
  return fmt::format("{}/effects/{}/{}", b.shot_path, a.index, member);
}
/// The changes with the moment put down as the one that is wanted, where it was not, or is wanted elsewhere now.
Values with_need(const Bench& b, const AskedEffect& a, const SolveRequest& request, Values changes) {
  const auto& needs = a.effect->needs;
  if (!needs || needs->event != a.event || request.numbers.contains("at"))
    changes.emplace_back(path_of(b, a, "needs"), Json{{"event", a.event}, {"screen", rounded(a.wanted, 6)}});
  return changes;
}

/// How far off the moment is then, in frames of the timeline; what is wrong, or nothing.
std::function<std::string(const Bench&)> in_time(const AskedEffect& a) {
  return [index = a.index, event = a.event, wanted = a.wanted](const Bench& then) -> std::string {
    const auto outcome = outcome_of(then.project, then.shot, then.shot.effects[index]);
    if (!outcome) return outcome.error().text();
    const EffectEvent* e = outcome->event(event);
    if (!e) return said("it has no moment \"{}\" then", event);
    const double off = (then.shot.clock.screen_at(e->at) - wanted) * then.project.timeline_rate;
    return std::abs(off) <= 0.5 ? std::string()
                                : said("\"{}\" would come {} frames off", event, number_text(off, 3));
  };
}

/// The values between `low` and `high` at which `of` is nought: every change of sign of a scan, halved until it is
/// met. Values at which it cannot be told part the scan.
std::vector<double> noughts(double low, double high, bool by_ratio,
                            const std::function<std::optional<double>(double)>& of) {
  constexpr int steps = 160;
  const auto at = [&](double s) { return by_ratio ? low * std::pow(high / low, s) : low + (high - low) * s; };
  std::vector<double> found;
  std::optional<double> before;
  for (int i = 0; i <= steps; ++i) {
    const double s = static_cast<double>(i) / steps;
    const auto now = of(at(s));
    if (before && now && (*before < 0.0) != (*now < 0.0)) {
      double a = s - 1.0 / steps, z = s;
      for (int k = 0; k < 60; ++k) {
        const double middle = 0.5 * (a + z);
        const auto there = of(at(middle));
        if (!there) break;
        ((*there < 0.0) == (*before < 0.0) ? a : z) = middle;
      }
      found.push_back(at(0.5 * (a + z)));
    }
    before = now;
  }
  return found;
}

/// What only one kind of effect can be asked: the word of a solver or of one of its numbers, and the kind.
struct OnlyOf {
  const char *word, *kind;
};
constexpr OnlyOf only_of[] = {{"flow", "pour"}, {"whole", "pour"}, {"crown", "splash"}};
bool may_ask(const std::string& word, const Effect& effect) {
  return std::none_of(std::begin(only_of), std::end(only_of),
                      [&](const OnlyOf& one) { return word == one.word && effect.kind != one.kind; });
}
/// The fault of asking what this kind of effect does not have.
Expected<void> asked_rightly(const SolveRequest& request, const Effect& effect) {
  for (const OnlyOf& one : only_of) {
    const auto number = request.numbers.find(one.word);
    const bool asked = request.kind == one.word || (number != request.numbers.end() && number->second > 0.0);
    if (asked && effect.kind != one.kind)
      return fail(one.word, said("is asked of a {}, and this is a {}", one.kind, effect.kind),
                  request.kind == one.word ? "name one" : "leave it out");
  }
  return {};
}

/// Recorded pixels over which it smears as it lands, by the speed that it has then, straight down, at the place
/// where it is seen then; nothing of what has none.
std::optional<double> landing_smear(const Bench& b, const Effect& effect, const EffectOutcome& outcome) {
  const auto speed = outcome.number("landing_speed") ? outcome.number("landing_speed") : outcome.number("speed");
  const EffectEvent* main = outcome.main_event();
  if (!speed || !main || !b.shot.camera) return std::nullopt;
  Vec3 place = effect.place;
  for (const EffectBody& body : outcome.bodies)
    if (const auto there = body.at(main->at, main->at); !there.empty() && body.form != EffectForm::turned) {
      place = body.form == EffectForm::thread ? there.front().spine.back().first : there.front().place;
      break;
    }
  const CameraPose pose = camera_at(b.shot, main->at);
  const auto from = image_of(pose, place), to = image_of(pose, place - Vec3{0, *speed * b.camera.shutter_time, 0});
  if (!from || !to) return std::nullopt;
  return std::hypot(to->x - from->x, to->y - from->y) / b.optics.pitch;
}

}  // namespace

std::vector<SolverKind> solver_kinds_of(const Effect& effect) {
  std::vector<SolverKind> list;
  for (SolverKind kind : solver_kinds()) {
    if (!kind.effect || !may_ask(kind.kind, effect)) continue;
    kind.keys.erase(std::remove_if(kind.keys.begin(), kind.keys.end(),
                                   [&](const AskedNumber& number) { return !may_ask(number.key, effect); }),
                    kind.keys.end());
    list.push_back(std::move(kind));
  }
  return list;
}

Expected<Proposals> solve_release(const Bench& b, const SolveRequest& request) {
  const auto asked = asked_effect(b, request);
  if (!asked) return tl::unexpected(asked.error());
  const auto outcome = outcome_of(b.project, b.shot, *asked->effect);
  const double later = b.shot.clock.set_at(asked->wanted) - outcome->event(asked->event)->at,
               at = rounded(asked->effect->at + later, 5);
  Proposals out;
  if (at < 0.0) {
    out.impossible = said(
        "it would have to be let go {} s before the shot begins: let it fall from less high, or time it "
        "later",
        number_text(-at, 3));
    return out;
  }
  out.list.push_back(
      {said("Let {} go at {} s, so that \"{}\" comes at {} s on screen", effect_name(*asked->effect),
            number_text(at, 4), asked->event, number_text(asked->wanted, 4)),
       with_need(b, *asked, request, {{path_of(b, *asked, "at"), at}}), in_time(*asked)});
  return out;
}

Expected<Proposals> solve_height(const Bench& b, const SolveRequest& request) {
  const auto asked = asked_effect(b, request);
  if (!asked) return tl::unexpected(asked.error());
  const Effect& effect = *asked->effect;
  const auto from = [&](double y) {
    Effect moved = effect;
    moved.place.y = y;
    return outcome_of(b.project, b.shot, moved);
  };
  const double crown = request.number("crown", 0.0), smear = request.number("smear", 0.0);
  const bool whole = request.number("whole", 0.0) > 0.0;
  if (const auto right = asked_rightly(request, effect); !right) return tl::unexpected(right.error());
  const auto off = [&](double y) -> std::optional<double> {
    const auto outcome = from(y);
    if (!outcome) return std::nullopt;
    if (crown > 0.0) {
      const auto high = outcome->number("crown_height");
      return high ? std::optional(*high - crown) : std::nullopt;
    }
    if (whole) {
      const auto holds = outcome->number("whole_for"), drop = outcome->number("drop");
      return holds && drop ? std::optional(*drop - 0.98 * *holds) : std::nullopt;
    }
    if (smear > 0.0) {
      const auto px = landing_smear(b, effect, *outcome);
      return px ? std::optional(*px - 0.99 * smear) : std::nullopt;
    }
    const EffectEvent* e = outcome->event(asked->event);
    return e ? std::optional(b.shot.clock.screen_at(e->at) - asked->wanted) : std::nullopt;
  };
  const bool timed = crown <= 0.0 && !whole && smear <= 0.0;
  Proposals out;
  for (const double y : noughts(0.005, 3.0, false, off)) {
    const Vec3 place{effect.place.x, rounded(y, 5), effect.place.z};
    Proposal one{said("Let {} go from {} up", effect_name(effect), b.len(place.y)),
                 {{path_of(b, *asked, "place"), point(place)}},
                 in_time(*asked)};
    if (timed) one.changes = with_need(b, *asked, request, std::move(one.changes));
    if (!timed)
      one.fault = [index = asked->index, crown, smear](const Bench& then) -> std::string {
        const auto outcome = outcome_of(then.project, then.shot, then.shot.effects[index]);
        if (!outcome) return outcome.error().text();
        if (crown > 0.0) {
          const double high = outcome->number("crown_height").value_or(0.0);
          return std::abs(high - crown) <= 0.02 * crown
                     ? std::string()
                     : said("its crown would be {} m high", number_text(high, 3));
        }
        if (smear > 0.0) {
          const double px = landing_smear(then, then.shot.effects[index], *outcome).value_or(1e9);
          return px <= smear ? std::string() : said("it would smear over {} px", number_text(px, 3));
        }
        return outcome->event("breaks") ? said("it would break up on the way") : std::string();
      };
    out.list.push_back(std::move(one));
  }
  if (out.list.empty())
    out.impossible =
        crown > 0.0   ? said("no height up to 3 m gives a crown of that size")
        : smear > 0.0 ? said("from every height up to 3 m it smears more, or from none")
        : whole       ? said("the stream stays whole from every height up to 3 m, or from none")
                : said("from no height up to 3 m does \"{}\" come then: let it go sooner or later", asked->event);
  return out;
}

Expected<Proposals> solve_flow(const Bench& b, const SolveRequest& request) {
  const auto asked = asked_effect(b, request);
  if (!asked) return tl::unexpected(asked.error());
  const Effect& effect = *asked->effect;
  if (const auto right = asked_rightly(request, effect); !right) return tl::unexpected(right.error());
  const auto off = [&](double flow) -> std::optional<double> {
    Effect moved = effect;
    moved.measures["flow"] = {flow};
    const auto outcome = outcome_of(b.project, b.shot, moved);
    const EffectEvent* e = outcome ? outcome->event(asked->event) : nullptr;
    return e ? std::optional(b.shot.clock.screen_at(e->at) - asked->wanted) : std::nullopt;
  };
  Proposals out;
  for (const double flow : noughts(1e-7, 5e-3, true, off))
    out.list.push_back({said("Pour {} at {} ml a second", effect_name(effect), number_text(flow * 1e6, 3)),
                        with_need(b, *asked, request, {{path_of(b, *asked, "flow"), rounded(flow, 10)}}),
                        in_time(*asked)});
  if (out.list.empty())
    out.impossible = said("with no flow from 0.1 to 5000 ml a second does \"{}\" come then", asked->event);
  return out;
}

}  // namespace cinnabar
