// Set-ups that several shots share: variations, and what a change would do to every shot on them.
#include <fmt/format.h>

#include "cinnabar/base/encoding.h"
#include "cinnabar/base/text.h"
#include "cinnabar/cli/commands.h"
#include "cinnabar/forecast/touched.h"
#include "cinnabar/project/making/shot_edits.h"

namespace cinnabar {

using Out = nlohmann::ordered_json;

int vary_command(const Answer& answer, const std::string& file, const std::string& shot, const std::string& name) {
  if (!is_utf8(name))
    return answer.refuse({"--name", "holds bytes that are no UTF-8 text", "type it in plain letters"});
  const auto asked = shot_asked(file, shot, true);
  if (!asked) return answer.refuse(asked.error());
  const Document& document = asked->in.document;
  const auto varied = with_setup_varied(document, asked->shot, name);
  if (!varied) return answer.refuse(varied.error());
  const Json& made = *varied->find("setups", varied->list("shots")[asked->shot]->at("setup").get<std::string>());
  const Edit edit = edit_between(document, *varied, fmt::format("Set-up of shot {} varied", asked->shot + 1));
  if (const auto kept = asked->store->apply(edit); !kept) return answer.refuse(kept.error());
  const std::string id = made.at("id"), of = made.at("of"), called = made.at("name");
  answer.say(fmt::format("Shot {} is on set-up {}, {}: as {} in what is not changed in it", asked->shot + 1, id,
                         called, of));
  answer.give({{"setup", id}, {"name", called}, {"of", of}});
  return 0;
}

int touches_command(const Answer& answer, const std::string& file, const std::string& pointer,
                    const std::string& value) {
  const auto wanted = value_argument(pointer, value);
  if (!wanted) return answer.refuse(wanted.error());
  const auto in = opened(file);
  if (!in) return answer.refuse(in.error());
  const auto edit = changed(in->document, {{pointer, *wanted}}, pointer);
  if (!edit) return answer.refuse({edit.error().place, edit.error().message, edit.error().mend});
  const auto shots = touched(Forecaster(), in->document, applied(in->document, *edit));
  Out list = Out::array();
  for (const Touched& one : shots) {
    Out moved = Out::array();
    answer.say(fmt::format("Shot {}: {}", one.shot + 1,
                           one.moved.empty() ? "no level moves by a quarter of its band" : ""));
    for (const MovedLevel& m : one.moved) {
      answer.say(fmt::format("  {:<8} {}: {} to {}", state_name(m.after.state), m.after.title,
                             value_text(m.before), value_text(m.after)));
      moved.push_back({{"id", m.after.id},
                       {"before", maybe(m.before.value)},
                       {"after", maybe(m.after.value)},
                       {"unit", unit_name(m.after.unit)},
                       {"state_before", state_name(m.before.state)},
                       {"state_after", state_name(m.after.state)}});
    }
    list.push_back({{"shot", one.shot + 1}, {"moved", std::move(moved)}});
  }
  if (shots.empty()) answer.say("It changes no shot's set-up.");
  answer.give({{"shots", std::move(list)}});
  return 0;
}

}  // namespace cinnabar
