// Wishes on the command line.
#include <fmt/format.h>

#include "cinnabar/base/text.h"
#include "cinnabar/cli/commands.h"
#include "cinnabar/forecast/wishes/wishes.h"

namespace cinnabar {
namespace {

using Out = nlohmann::ordered_json;

Out answer_json(const WishAnswer& answer) {
  Out levels = Out::array();
  for (const auto& [shot, before, after] : answer.levels)
    levels.push_back({{"id", before.id},
                      {"before", maybe(before.value)},
                      {"after", maybe(after.value)},
                      {"state_before", state_name(before.state)},
                      {"state_after", state_name(after.state)}});
  return {{"title", answer.title},
          {"changes", changes_json(answer.changes)},
          {"value", answer.value},
          {"met", answer.met},
          {"levels", levels}};
}

}  // namespace

Out changes_json(const Values& changes) {
  Out out = Out::array();
  for (const auto& [pointer, value] : changes)
    out.push_back({{"pointer", pointer}, {"value", value ? Out::parse(value->dump()) : Out(nullptr)}});
  return out;
}

int wish_command(const Answer& answer, const WishArguments& a) {
  std::vector<Wish> wishes;
  std::vector<std::vector<std::string>> groups;
  for (const std::string& word : a.want) {  // each --want begins anew
    if (word.empty() || word == wish_separator) continue;
    if (word.find('=') == std::string::npos)
      groups.push_back({word});
    else if (groups.empty())
      return answer.refuse({"--want " + word, "has no kind before it", "write --want KIND key=value ..."});
    else
      groups.back().push_back(word);
  }
  for (const auto& group : groups) {
    auto wish = read_wish(group.front(), {group.begin() + 1, group.end()});
    if (!wish) {
      Error error = wish.error();
      error.place = "--want " + error.place;
      return answer.refuse(error);
    }
    wishes.push_back(*std::move(wish));
  }
  const bool takes = !a.take.empty();
  const auto asked = shot_asked(a.file, a.shot, takes);
  if (!asked) return answer.refuse(asked.error());
  const Document& document = asked->in.document;
  const Forecaster forecaster;
  const auto answers = answers_for(forecaster, document, asked->shot, wishes);
  if (!answers) return answer.refuse(answers.error());
  if (takes) {
    const auto take = taken(a.take, answers->list.size(), answers->why);
    if (!take) return answer.refuse(take.error());
    const WishAnswer& one = answers->list[*take];
    const auto after = with_values(document, one.changes);
    if (!after) return answer.refuse(after.error());
    if (const auto kept = asked->store->apply(edit_between(document, *after, one.title)); !kept)
      return answer.refuse(kept.error());
  }
  Out out{{"answers", Out::array()}, {"impossible", nullptr}};
  for (const WishAnswer& one : answers->list) {
    answer.say(fmt::format("{}: {}", one.title, number_text(one.value, 4)));
    for (const auto& [shot, before, after] : one.levels)
      if (before.state != after.state)
        answer.say(fmt::format("  {}: {} -> {}", before.title, state_name(before.state), state_name(after.state)));
    out["answers"].push_back(answer_json(one));
  }
  if (answers->list.empty()) {
    answer.say(
        fmt::format("Not possible: {} (short of it by {})", answers->why, number_text(answers->short_of, 3)));
    out["impossible"] = {{"why", answers->why}, {"short", answers->short_of}};
  }
  answer.give(out);
  return 0;
}

}  // namespace cinnabar
