// Practical effects of a shot on the command line.
#include <fmt/format.h>

#include "cinnabar/base/text.h"
#include "cinnabar/cli/commands.h"
#include "cinnabar/planning/effect_steps.h"
#include "cinnabar/scene/effects_staged.h"

namespace cinnabar {

int effects_command(const Answer& answer, const EffectsArguments& a) {
  using Told = nlohmann::ordered_json;
  const auto asked = shot_asked(a.file, a.shot, false);
  if (!asked) return answer.refuse(asked.error());
  std::optional<double> at;
  if (!a.at.empty()) {
    at = parse_number(a.at);
    if (!at || *at < 0.0)
      return answer.refuse(Error{"--at", "is no set second", "give a number of seconds, 0 or more"});
  }
  const Project& project = asked->in.project;
  const Shot& shot = *project.shots[asked->shot];
  Told list = Told::array();
  if (shot.effects.empty()) answer.say("No effects in this shot.");
  for (const ToldEffect& worked : told_effects(project, shot)) {
    const Effect& effect = *worked.effect;
    const auto& outcome = worked.outcome;
    Told one{{"id", effect.id}, {"kind", effect.kind}, {"events", Told::object()}, {"numbers", Told::object()}};
    answer.say(fmt::format("{} ({})", effect_name(effect), effect.kind));
    if (!outcome) {
      answer.say("  cannot be worked out: " + outcome.error().text());
      one["impossible"] = outcome.error().text();
    } else {
      for (const EffectEvent& e : outcome->events) {
        one["events"][e.name] = e.at;
        answer.say(fmt::format(
            "  {} at {:.3f} s{}", e.name, e.at,
            e.span ? fmt::format(", nine in ten from {:.3f} to {:.3f} s", e.span->first, e.span->second) : ""));
      }
      for (const EffectNumber& n : outcome->numbers) {
        one["numbers"][n.name] = n.value;
        answer.say(fmt::format("  {} {} {}{}", n.name, number_text(n.value, 4), n.unit,
                               n.tell.empty() ? "" : " (" + n.tell + ")"));
      }
      if (outcome->life) one["numbers"]["life"] = *outcome->life;
      if (outcome->spare) one["numbers"]["spare"] = *outcome->spare;
      for (const std::string& note : outcome->notes) answer.say("  " + note);
      const EffectSteps steps = steps_of(effect, *outcome);
      one["before"] = steps.before, one["after"] = steps.after, one["cues"] = Told::array();
      for (const std::string& step : steps.before) answer.say("  before: " + step);
      for (const EffectCue& cue : steps.cues) {
        one["cues"].push_back({{"at", cue.at}, {"helper", cue.helper}, {"what", cue.what}});
        answer.say(fmt::format("  {:.2f} s {}{}", cue.at, cue.helper ? fmt::format("helper {}: ", cue.helper) : "",
                               cue.what));
      }
      for (const std::string& step : steps.after) answer.say("  after: " + step);
    }
    Told uses = Told::array();
    for (const Use& use : effect.uses) uses.push_back({{"consumable", use.consumable}, {"amount", use.amount}});
    one["uses"] = uses, one["hands"] = effect.hands, one["reset_minutes"] = effect.reset_minutes;
    Told cautions = Told::array();
    for (const Peril peril : worked.perils()) {
      const Caution words = peril_words(peril);
      cautions.push_back({{"title", words.title}, {"text", words.text}});
      answer.say("  ! " + words.title + ": " + words.text);
    }
    one["cautions"] = cautions;
    if (at && outcome) {
      Told bodies = Told::array();
      for (const EffectBody& body : outcome->bodies)
        for (const EffectShape& s : body.at(*at, *at)) {
          const auto point = [](const Vec3& v) { return Told{v.x, v.y, v.z}; };
          Told told{{"form", form_name(body.form)}};
          if (body.form == EffectForm::thread)
            told["from"] = point(s.spine.front().first), told["to"] = point(s.spine.back().first);
          else
            told["place"] = point(s.place), told["size"] = 2.0 * reach_of(body, s);
          bodies.push_back(std::move(told));
        }
      one["bodies"] = bodies;
      if (outcome->poured) one["poured"] = outcome->poured(*at);
      answer.say(fmt::format("  at {:.3f} s: {} in the air", *at, bodies.size()));
    }
    list.push_back(std::move(one));
  }
  answer.give(Told{{"effects", list}});
  return 0;
}

}  // namespace cinnabar
