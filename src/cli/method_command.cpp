// Methods by material on the command line.
#include <fmt/format.h>

#include "cinnabar/base/text.h"
#include "cinnabar/cli/commands.h"
#include "cinnabar/forecast/methods/methods.h"

namespace cinnabar {

int method_command(const Answer& answer, const MethodArguments& a) {
  const bool takes = !a.take.empty();
  auto store = Store::open(a.file, takes ? Access::write : Access::read);
  if (!store) return answer.refuse(store.error());
  const auto in = opened(**store);
  if (!in) return answer.refuse(in.error());
  const auto shot = shot_numbered(in->project, a.shot);
  if (!shot) return answer.refuse(shot.error());
  const Forecaster forecaster;
  const auto found = methods_for(forecaster, in->document, *shot, a.name);
  if (!found) return answer.refuse(found.error());
  if (takes) {
    const auto take = parse_number(a.take);
    if (!take || *take != std::floor(*take) || *take < 1 || *take > static_cast<double>(found->size()))
      return answer.refuse(
          {"--take " + a.take, "is no method of this shot",
           found->empty() ? "own a light first" : fmt::format("give a number from 1 to {}", found->size())});
    const MethodStanding& one = (*found)[static_cast<std::size_t>(*take) - 1];
    if (const auto kept = (*store)->apply(edit_between(in->document, one.after, one.method->title)); !kept)
      return answer.refuse(kept.error());
  }
  auto list = nlohmann::ordered_json::array();
  for (const MethodStanding& one : *found) {
    answer.say(fmt::format("{} ({}): {}", one.method->title, one.method->id, one.method->why));
    std::string materials;
    for (const std::string& m : one.method->materials) materials += (materials.empty() ? "" : ", ") + m;
    auto levels = nlohmann::ordered_json::array();
    for (const Level& level : one.levels) {
      answer.say(fmt::format("  {:<8} {}", state_name(level.state), level.title));
      levels.push_back({{"id", level.id}, {"state", state_name(level.state)}, {"value", maybe(level.value)}});
    }
    list.push_back({{"id", one.method->id},
                    {"title", one.method->title},
                    {"for", materials},
                    {"why", one.method->why},
                    {"levels", levels}});
  }
  if (found->empty()) answer.say("No method can be built: no light of the kit is owned.");
  answer.give({{"methods", list}});
  return 0;
}

}  // namespace cinnabar
