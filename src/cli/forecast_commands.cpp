// Levels and levers on the command line.
#include <fmt/format.h>

#include "cinnabar/base/text.h"
#include "cinnabar/cli/commands.h"
#include "cinnabar/forecast/forecast.h"

namespace cinnabar {
namespace {

using Out = nlohmann::ordered_json;

Out level_json(const Level& l, const Forecaster::Levers* levers) {
  Out out{{"id", l.id},
          {"title", l.title},
          {"value", maybe(l.value)},
          {"error", maybe(l.error)},
          {"unit", unit_name(l.unit)},
          {"low", maybe(l.band.low)},
          {"high", maybe(l.band.high)},
          {"state", state_name(l.state)},
          {"sentence", l.sentence},
          {"formula", l.formula},
          {"source", l.source},
          {"set_time", maybe(l.set_time)},
          {"levers", Out::array()}};
  if (!levers) return out;
  for (const Lever& lever : levers->list)
    out["levers"].push_back({{"title", lever.title},
                             {"after", lever.after},
                             {"state_after", state_name(lever.state_after)},
                             {"price", lever.price}});
  if (levers->list.empty() && l.state != State::level) out["no_lever"] = levers->why;
  return out;
}

std::string level_line(const Level& l) {
  const std::string band = fmt::format("{} to {}", l.band.low ? number_text(*l.band.low, 3) : "any",
                                       l.band.high ? number_text(*l.band.high, 3) : "any");
  return fmt::format("  {:<8} {:<24} {:>10} {:<16} wanted {:<16} {}", state_name(l.state), l.title,
                     l.value ? number_text(*l.value, 4) : "-", unit_name(l.unit), band, l.sentence);
}

Expected<std::string> known_level(const std::string& id) {
  if (id.empty()) return id;
  std::string all;
  for (const auto* ids : {&level_ids(), &spot_level_ids()})
    for (const std::string& known : *ids) {
      if (known == id) return id;
      all += (all.empty() ? "" : ", ") + known;
    }
  return fail("--level " + id, "is no level", "give one of " + all);
}

}  // namespace

int forecast_command(const Answer& answer, const ForecastArguments& a) {
  const auto level_id = known_level(a.level);
  if (!level_id) return answer.refuse(level_id.error());
  const auto in = opened(a.file);
  if (!in) return answer.refuse(in.error());
  std::size_t from = 0, to = in->project.shots.size();
  if (!a.shot.empty()) {
    const auto shot = shot_numbered(in->project, a.shot);
    if (!shot) return answer.refuse(shot.error());
    from = *shot, to = from + 1;
  }
  const Forecaster forecaster;
  const bool of_spot = is_of_spot(*level_id);
  const auto told = [&](const Level& l, const Forecaster::Levers& levers) {
    answer.say(level_line(l));
    int number = 0;
    for (const Lever& lever : levers.list)
      answer.say(fmt::format("           lever {}: {} ({} then; {})", ++number, lever.title,
                             number_text(lever.after, 4), lever.price));
    if (levers.list.empty() && l.state != State::level) answer.say("           " + levers.why);
    return level_json(l, &levers);
  };
  Out shots = Out::array();
  for (std::size_t i = from; i < to && !of_spot; ++i) {
    Out levels = Out::array();
    answer.say(fmt::format("Shot {}, {}", i + 1, in->project.shots[i]->name));
    const auto sure = forecaster.sure_levels(in->project, i, *level_id);
    LeverSearch how;
    if (level_id->empty()) how.known = sure;
    for (const Level& l : sure) levels.push_back(told(l, forecaster.levers(in->document, i, l.id, nullptr, how)));
    shots.push_back({{"number", i + 1}, {"levels", levels}});
  }
  Out spot = Out::array();
  if (a.shot.empty()) {
    answer.say("The spot");
    for (const Level& l : forecaster.spot(in->project, *level_id))
      if (level_id->empty() || *level_id == l.id)
        spot.push_back(told(l, forecaster.spot_levers(in->document, l.id)));
  }
  answer.give({{"shots", shots}, {"spot", {{"levels", spot}}}});
  return 0;
}

int lever_command(const Answer& answer, const ForecastArguments& a) {
  const auto level_id = known_level(a.level);
  if (!level_id) return answer.refuse(level_id.error());
  const bool of_spot = is_of_spot(*level_id);
  if (of_spot != a.shot.empty())
    return answer.refuse({"--shot", of_spot ? "is not asked for a level of the spot" : "is missing",
                          of_spot ? "leave it out" : "give the number of the shot, from 1"});
  auto store = Store::open(a.file, Access::write);
  if (!store) return answer.refuse(store.error());
  ProjectReader reader;
  const Document before_document = (*store)->document();
  const Project project = reader.read(before_document);
  std::size_t shot = 0;
  if (!of_spot) {
    const auto numbered = shot_numbered(project, a.shot);
    if (!numbered) return answer.refuse(numbered.error());
    shot = *numbered;
  }
  const Forecaster forecaster;
  const auto level_in = [&](const Project& p) -> std::optional<Level> {
    for (Level& l : of_spot ? forecaster.spot(p, *level_id) : forecaster.sure_levels(p, shot, *level_id))
      if (l.id == *level_id) return std::move(l);
    return std::nullopt;
  };
  const auto before = level_in(project);
  if (!before)
    return answer.refuse({"--level " + *level_id,
                          of_spot ? "does not apply to this spot" : "does not apply to this shot",
                          "see `forecast` for those that do"});
  const auto levers = of_spot ? forecaster.spot_levers(before_document, *level_id)
                              : forecaster.levers(before_document, shot, *level_id);
  const auto take = parse_number(a.take);
  if (!take || *take != std::floor(*take) || *take < 1 || *take > static_cast<double>(levers.list.size()))
    return answer.refuse(
        {"--take " + a.take, "is no lever of this level",
         levers.list.empty() ? levers.why : fmt::format("give a number from 1 to {}", levers.list.size())});
  const Lever& lever = levers.list[static_cast<std::size_t>(*take) - 1];
  if (const auto kept = (*store)->apply(lever.edit); !kept) return answer.refuse(kept.error());
  const auto after = level_in(reader.read((*store)->document()));
  answer.say(lever.title);
  answer.say(level_line(*before));
  if (after) answer.say(level_line(*after));
  answer.give(
      {{"before", level_json(*before, &levers)}, {"after", after ? level_json(*after, nullptr) : Out(nullptr)}});
  return 0;
}

}  // namespace cinnabar
