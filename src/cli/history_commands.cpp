// One edit, taken back and done again, and the kept versions.
#include <fmt/format.h>

#include "cinnabar/base/encoding.h"
#include "cinnabar/base/text.h"
#include "cinnabar/cli/commands.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/document/differences.h"
#include "cinnabar/project/document/json_text.h"

namespace cinnabar {

using Out = nlohmann::ordered_json;

Expected<Json> value_argument(const std::string& pointer, const std::string& value) {
  for (const auto& [name, text] : {std::pair{"POINTER", &pointer}, std::pair{"VALUE", &value}})
    if (!is_utf8(*text)) return fail(name, "holds bytes that are no UTF-8 text", "type it in plain letters");
  if (depth_of(std::string_view(value)) > deepest_json)
    return fail("VALUE", fmt::format("is nested more than {} deep", deepest_json), "give a plainer one");
  return parsed_json(value).value_or(Json(value));
}

int set_command(const Answer& answer, const std::string& file, const std::string& pointer,
                const std::string& value) {
  const auto parsed = value_argument(pointer, value);
  if (!parsed) return answer.refuse(parsed.error());
  auto store = Store::open(file, Access::write);
  if (!store) return answer.refuse(store.error());
  const Document& before = (*store)->document();
  const auto was = value_at(before, pointer);
  const auto edit = changed(before, {{pointer, *parsed}}, pointer + " set to " + clipped(json_text(*parsed), 60));
  if (!edit) return answer.refuse({edit.error().place, edit.error().message, edit.error().mend});
  if (const auto kept = (*store)->apply(*edit); !kept) return answer.refuse(kept.error());
  answer.say(fmt::format("{}: {} to {}", pointer, was ? json_text(*was) : "nothing", json_text(*parsed)));
  answer.give({{"pointer", pointer}, {"before", was ? Out(*was) : Out(nullptr)}, {"after", Out(*parsed)}});
  return 0;
}

int undo_command(const Answer& answer, const std::string& file, bool forward) {
  auto store = Store::open(file, Access::write);
  if (!store) return answer.refuse(store.error());
  const auto edit = forward ? (*store)->redo() : (*store)->undo();
  if (!edit) return answer.refuse(edit.error());
  const char* verb = forward ? "redone" : "undone";
  answer.say(*edit ? fmt::format("{}: {}", forward ? "Done again" : "Taken back", (*edit)->title)
                   : fmt::format("Nothing to {}.", forward ? "do again" : "take back"));
  answer.give({{verb, *edit ? Out((*edit)->title) : Out(nullptr)}});
  return 0;
}

int versions_command(const Answer& answer, const std::string& file) {
  auto store = Store::open(file, Access::read);
  if (!store) return answer.refuse(store.error());
  const auto versions = (*store)->versions();
  if (!versions) return answer.refuse(versions.error());
  Out list = Out::array();
  for (const KeptVersion& v : *versions) {
    list.push_back({{"name", v.name}, {"at", v.at}});
    answer.say(v.at + "  " + v.name);
  }
  if (versions->empty()) answer.say("No versions were kept.");
  answer.give({{"versions", list}});
  return 0;
}

namespace {
Expected<std::size_t> version_numbered(const Store& store, const std::string& text) {
  const auto versions = store.versions();
  if (!versions) return tl::unexpected(versions.error());
  const auto number = parse_number(text);
  if (!number || *number != std::floor(*number) || *number < 1 || *number > static_cast<double>(versions->size()))
    return fail(
        "version " + text, "was not kept",
        versions->empty() ? "no versions were kept" : fmt::format("give a number from 1 to {}", versions->size()));
  return static_cast<std::size_t>(*number) - 1;
}
}  // namespace

int keep_command(const Answer& answer, const std::string& file, const std::string& name) {
  if (trimmed(name).empty()) return answer.refuse({"NAME", "is empty", "name the version"});
  if (!is_utf8(name))
    return answer.refuse({"NAME", "holds bytes that are no UTF-8 text", "name it in plain letters"});
  auto store = Store::open(file, Access::write);
  if (!store) return answer.refuse(store.error());
  if (const auto kept = (*store)->keep_version(name); !kept) return answer.refuse(kept.error());
  const auto versions = (*store)->versions();
  answer.say("Kept as version " + std::to_string(versions ? versions->size() : 0));
  answer.give({{"kept", name}, {"number", versions ? versions->size() : 0}});
  return 0;
}

int compare_command(const Answer& answer, const std::string& file, const std::string& number) {
  auto store = Store::open(file, Access::read);
  if (!store) return answer.refuse(store.error());
  const auto which = version_numbered(**store, number);
  if (!which) return answer.refuse(which.error());
  const auto then = (*store)->version(*which);
  if (!then) return answer.refuse(then.error());
  const auto lines = differences_in_words(*then, (*store)->document());
  for (const std::string& line : lines) answer.say(line);
  if (lines.empty()) answer.say("Nothing differs.");
  answer.give({{"differences", lines}});
  return 0;
}

int back_command(const Answer& answer, const std::string& file, const std::string& number) {
  auto store = Store::open(file, Access::write);
  if (!store) return answer.refuse(store.error());
  const auto which = version_numbered(**store, number);
  if (!which) return answer.refuse(which.error());
  const auto then = (*store)->version(*which);
  if (!then) return answer.refuse(then.error());
  const std::string name = (*(*store)->versions())[*which].name;
  const Edit edit = edit_between((*store)->document(), *then, "Back to " + name);
  if (const auto kept = (*store)->apply(edit); !kept) return answer.refuse(kept.error());
  answer.say(edit.title + "; undo takes it back");
  answer.give({{"back_to", name}});
  return 0;
}

}  // namespace cinnabar
