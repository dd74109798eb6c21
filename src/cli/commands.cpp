#include "cinnabar/cli/commands.h"

#include <fmt/format.h>

#include <iostream>

#include "cinnabar/base/files.h"
#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/cli/calculations.h"
#include "cinnabar/forecast/forecast.h"
#include "cinnabar/formats/demo.h"
#include "cinnabar/project/checks/schema.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/document/json_text.h"
#include "cinnabar/takes/log.h"

namespace cinnabar {

using Out = nlohmann::ordered_json;

void Answer::say(const std::string& line) const {
  if (!json) std::cout << line << '\n';
}
void Answer::give(const Out& value) const {
  if (json) std::cout << value.dump(2, ' ', false, Out::error_handler_t::replace) << '\n';
}
int Answer::refuse(const Error& error) const {
  std::cerr << "cinnabar-cli: " << error.text() << '\n';
  return exit_code(error);
}
void Answer::remark(const std::string& line) { std::cerr << "cinnabar-cli: " << line << '\n'; }

Out maybe(const std::optional<double>& v) { return v ? Out(*v) : Out(nullptr); }

namespace {
Opened read_of(Document document) {
  ProjectReader reader;
  Project project = reader.read(document);
  for (const std::string& line : project.unreadable) Answer::remark(line);
  return {std::move(document), std::move(project)};
}
}  // namespace
Expected<Opened> opened(const std::string& file) { return read_document(file).map(read_of); }
Expected<Opened> opened(const Store& store) { return read_of(store.document()); }

Expected<std::size_t> shot_numbered(const Project& project, const std::string& text) {
  const auto number = parse_number(text);
  const auto count = static_cast<double>(project.shots.size());
  if (!number || *number != std::floor(*number) || *number < 1 || *number > count)
    return fail("--shot " + text, "is no shot of this project",
                project.shots.empty() ? "it has none yet"
                                      : fmt::format("give a number from 1 to {}", project.shots.size()));
  return static_cast<std::size_t>(*number) - 1;
}

Expected<ShotAsked> shot_asked(const std::string& file, const std::string& shot, bool to_write) {
  auto store = Store::open(file, to_write ? Access::write : Access::read);
  if (!store) return tl::unexpected(store.error());
  auto in = opened(**store);
  if (!in) return tl::unexpected(in.error());
  const auto numbered = shot_numbered(in->project, shot);
  if (!numbered) return tl::unexpected(numbered.error());
  return ShotAsked{*std::move(store), *std::move(in), *numbered};
}

Expected<std::size_t> taken(const std::string& take, std::size_t count, const std::string& none) {
  const auto number = parse_number(take);
  if (!number || *number != std::floor(*number) || *number < 1 || *number > static_cast<double>(count))
    return fail("--take " + take, "is none of the answers",
                count == 0 ? none : fmt::format("give a number from 1 to {}", count));
  return static_cast<std::size_t>(*number) - 1;
}

Out faults_json(const std::vector<DocumentFault>& faults) {
  Out list = Out::array();
  for (const DocumentFault& f : faults)
    list.push_back({{"path", f.path}, {"message", f.message}, {"mend", f.mend}});
  return list;
}

int demo_command(const Answer& answer, const std::string& out) {
  if (const auto made = make_demo(out); !made) return answer.refuse(made.error());
  answer.say("Demo project written to " + out);
  answer.give({{"written", out}});
  return 0;
}

int info_command(const Answer& answer, const std::string& file) {
  const auto in = opened(file);
  if (!in) return answer.refuse(in.error());
  const Forecaster forecaster;
  Out shots = Out::array();
  const Project& p = in->project;
  answer.say(fmt::format("{}: {} of {} s, {}, {}", p.name, fixed_text(p.screen_time(), 2),
                         p.allowed_time ? number_text(*p.allowed_time) : "any",
                         counted(p.shots.size(), "{} shot", "{} shots"),
                         counted(p.takes.size(), "{} take", "{} takes")));
  for (std::size_t i = 0; i < p.shots.size(); ++i) {
    const auto [level, leaning, out] = tally(forecaster.sure_levels(p, i));
    shots.push_back({{"number", i + 1},
                     {"name", p.shots[i]->name},
                     {"setup", p.shots[i]->setup},
                     {"screen_time", p.shots[i]->screen_time},
                     {"level", level},
                     {"leaning", leaning},
                     {"out", out}});
    answer.say(fmt::format("{:>3}  {:<28} {:>6} s   {} level, {} leaning, {} out", i + 1, p.shots[i]->name,
                           fixed_text(p.shots[i]->screen_time, 2), level, leaning, out));
  }
  answer.give({{"name", p.name},
               {"screen_time", p.screen_time()},
               {"allowed_time", maybe(p.allowed_time)},
               {"shots", shots},
               {"takes", p.takes.size()}});
  return 0;
}

int schema_command(const Answer& answer) {
  const Out schema = project_schema();
  answer.say(schema.dump(1));
  answer.give(schema);
  return 0;
}

int validate_command(const Answer& answer, const std::string& file) {
  std::vector<DocumentFault> faults;
  const auto store = Store::open(file, Access::read);
  if (store) {
    faults = validate((*store)->document());
  } else if (store.error().cause == Cause::json) {
    const auto text = read_file(file);
    if (!text) return answer.refuse(text.error());
    const auto value = parse_json(*text, file);
    if (!value) return answer.refuse(value.error());
    faults = validate(*value);
  } else {
    return answer.refuse(store.error());
  }
  for (const DocumentFault& f : faults)
    answer.say(fmt::format("{}: {}; {}", f.path.empty() ? "/" : f.path, f.message, f.mend));
  if (faults.empty()) answer.say("No faults.");
  answer.give({{"ok", faults.empty()}, {"faults", faults_json(faults)}});
  return faults.empty() ? 0 : 1;
}

int takes_command(const Answer& answer, const std::string& file, const std::string& shot_text) {
  // The history is the file's; a project's JSON has none.
  auto store = Store::open(file, Access::read);
  if (!store && store.error().cause != Cause::json) return answer.refuse(store.error());
  const auto in = store ? opened(**store) : opened(file);
  if (!in) return answer.refuse(in.error());
  std::size_t from = 0, to = in->project.shots.size();
  if (!shot_text.empty()) {
    const auto shot = shot_numbered(in->project, shot_text);
    if (!shot) return answer.refuse(shot.error());
    from = *shot, to = from + 1;
  }
  Out shots = Out::array();
  for (std::size_t i = from; i < to; ++i) {
    const Shot& shot = *in->project.shots[i];
    const ShotLog log = shot_log(in->project, shot);
    const auto left = log.left();
    Out takes = Out::array();
    answer.say(fmt::format(
        "Shot {}, {}: {} tried, {} kept, {} wanted{}", i + 1, shot.name, log.tried, log.kept, log.wanted,
        left ? fmt::format("; {} further takes expected, half of days by {}, nine in ten by {}",
                           left->expected ? number_text(*left->expected, 3) : "no telling how many",
                           left->median ? number_text(*left->median) : "-",
                           left->ninety ? number_text(*left->ninety) : "-")
             : "; done"));
    for (std::size_t k = 0; k < log.takes.size(); ++k) {
      const Take& t = *log.takes[k];
      Out changed(nullptr);
      if (store && k > 0)
        if (const auto changes = (*store)->changes_between_takes(log.takes[k - 1]->id, t.id); changes && *changes)
          changed = changes_in_words(**changes, *in->document.find("shots", shot.id));
      takes.push_back({{"id", t.id},
                       {"number", t.number},
                       {"at", t.at},
                       {"kept", t.kept},
                       {"reasons", t.reasons},
                       {"notes", t.notes},
                       {"changed", changed}});
      std::string reasons, what;
      for (const std::string& r : t.reasons) reasons += (reasons.empty() ? "" : ", ") + r;
      if (changed.is_array())
        for (const auto& c : changed) what += (what.empty() ? "" : ", ") + c.get<std::string>();
      answer.say(fmt::format("  {:>3}  {:<8} {:<30} {}", t.number, t.kept ? "kept" : "dropped", reasons,
                             what.empty() ? "nothing changed" : what));
    }
    const auto number = [&](auto member) { return left ? maybe((*left).*member) : Out(0); };
    shots.push_back({{"number", i + 1},
                     {"tried", log.tried},
                     {"kept", log.kept},
                     {"wanted", log.wanted},
                     {"expected", number(&TakesLeft::expected)},
                     {"median", number(&TakesLeft::median)},
                     {"ninety", number(&TakesLeft::ninety)},
                     {"takes", takes}});
  }
  answer.give({{"shots", shots}});
  return 0;
}

int calc_command(const Answer& answer, const std::string& name, const std::vector<std::string>& words, bool list) {
  if (list) {
    Out all = Out::array();
    for (const Calculation& c : calculations()) {
      Out inputs = Out::array(), results = Out::array();
      answer.say(c.name + "  (" + c.source + ")");
      for (const auto& k : c.inputs) {
        inputs.push_back({{"key", k.name}, {"unit", k.unit}, {"range", k.range}, {"optional", k.optional}});
        answer.say(fmt::format("    {}{}{}: {}{}", k.name, k.unit.empty() ? "" : " in ", k.unit, k.range,
                               k.optional ? " (may be left out)" : ""));
      }
      for (const auto& k : c.results) {
        results.push_back({{"key", k.name}, {"unit", k.unit}});
        answer.say(fmt::format("      -> {}{}{}", k.name, k.unit.empty() ? "" : " in ", k.unit));
      }
      all.push_back({{"calc", c.name}, {"inputs", inputs}, {"results", results}, {"source", c.source}});
    }
    answer.give(all);
    return 0;
  }
  const Calculation* calc = find_calculation(name);
  if (!calc)
    return answer.refuse({name.empty() ? "calc" : name, "is no calculation", "see `cinnabar-cli calc --list`"});
  const auto result = calc->run(words);
  if (!result) return answer.refuse(result.error());
  for (const auto& [key, value] : (*result)["results"].items())
    answer.say(key + " = " + (value.is_number_float() ? number_text(value.get<double>(), 6) : value.dump()));
  answer.give(*result);
  return 0;
}

}  // namespace cinnabar
