// Moves solved on the command line.
#include <fmt/format.h>

#include "cinnabar/base/text.h"
#include "cinnabar/cli/commands.h"
#include "cinnabar/forecast/solvers/solvers.h"

namespace cinnabar {

int solve_command(const Answer& answer, const SolveArguments& a) {
  using Out = nlohmann::ordered_json;
  const auto request = read_solve(a.kind, a.words);
  if (!request) return answer.refuse(request.error());
  const bool takes = !a.take.empty();
  const auto asked = shot_asked(a.file, a.shot, takes);
  if (!asked) return answer.refuse(asked.error());
  const Document& document = asked->in.document;
  const auto solved = solve(Forecaster(), document, asked->shot, *request);
  if (!solved) return answer.refuse(solved.error());
  if (takes) {
    const auto take = taken(a.take, solved->list.size(), solved->impossible);
    if (!take) return answer.refuse(take.error());
    const SolveAnswer& one = solved->list[*take];
    if (const auto kept = asked->store->apply(edit_between(document, one.after, one.title)); !kept)
      return answer.refuse(kept.error());
  }
  Out out{{"answers", Out::array()}, {"impossible", nullptr}};
  int number = 0;
  for (const SolveAnswer& one : solved->list) {
    Out levels = Out::array();
    int off = 0;
    for (const Level& level : one.levels) {
      levels.push_back({{"id", level.id}, {"value", maybe(level.value)}, {"state", state_name(level.state)}});
      off += level.state == State::out ? 1 : 0;
    }
    answer.say(fmt::format("{} {}: {} of {} levels out", ++number, one.title, off, one.levels.size()));
    out["answers"].push_back({{"title", one.title}, {"changes", changes_json(one.changes)}, {"levels", levels}});
  }
  if (solved->list.empty()) {
    answer.say("Not possible: " + solved->impossible);
    out["impossible"] = solved->impossible;
  }
  answer.give(out);
  return 0;
}

}  // namespace cinnabar
