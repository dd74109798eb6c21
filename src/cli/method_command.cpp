// Methods by material on the command line.
#include <fmt/format.h>

#include "cinnabar/base/text.h"
#include "cinnabar/cli/commands.h"
#include "cinnabar/forecast/methods/methods.h"

namespace cinnabar {

int method_command(const Answer& answer, const MethodArguments& a) {
  const bool takes = !a.take.empty();
  const auto asked = shot_asked(a.file, a.shot, takes);
  if (!asked) return answer.refuse(asked.error());
  const Document& document = asked->in.document;
  const Forecaster forecaster;
  const auto found = methods_for(forecaster, document, asked->shot, a.name);
  if (!found) return answer.refuse(found.error());
  if (takes) {
    const auto take = taken(a.take, found->size(), "own a light first");
    if (!take) return answer.refuse(take.error());
    const MethodStanding& one = (*found)[*take];
    if (const auto kept = asked->store->apply(edit_between(document, one.after, one.method->title)); !kept)
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
