#include "cinnabar/cli/commands.h"

#include <fmt/format.h>

#include <filesystem>
#include <iostream>

#include "cinnabar/base/text.h"
#include "cinnabar/cli/calculations.h"
#include "cinnabar/cli/demo.h"
#include "cinnabar/forecast/forecast.h"
#include "cinnabar/formats/shot_list.h"
#include "cinnabar/formats/shot_merge.h"
#include "cinnabar/formats/tables.h"
#include "cinnabar/project/differences.h"
#include "cinnabar/project/validation.h"
#include "cinnabar/takes/log.h"

namespace cinnabar {

using Out = nlohmann::ordered_json;

void Answer::say(const std::string& line) const {
  if (!json) std::cout << line << '\n';
}
void Answer::give(const Out& value) const {
  if (json) std::cout << value.dump(2) << '\n';
}
int exit_code(const Error& error) {
  return error.fault == Fault::argument ? 2 : error.fault == Fault::output ? 1 : 3;
}
int Answer::refuse(const Error& error) const {
  std::cerr << "cinnabar-cli: " << error.text() << '\n';
  return exit_code(error);
}

namespace {

Out maybe(const std::optional<double>& v) { return v ? Out(*v) : Out(nullptr); }

/// A project read for a command, with the number of the shot that was asked for.
struct Opened {
  Document document;
  Project project;
};
Expected<Opened> opened(const std::string& file) {
  auto document = read_document(file);
  if (!document) return tl::unexpected(document.error());
  ProjectReader reader;
  Project project = reader.read(*document);
  return Opened{std::move(*document), std::move(project)};
}

Expected<std::size_t> shot_numbered(const Project& project, const std::string& text) {
  const auto number = parse_number(text);
  const auto count = static_cast<double>(project.shots.size());
  if (!number || *number != std::floor(*number) || *number < 1 || *number > count)
    return fail("--shot " + text, "is no shot of this project",
                project.shots.empty() ? "it has none yet"
                                      : fmt::format("give a number from 1 to {}", project.shots.size()));
  return static_cast<std::size_t>(*number) - 1;
}

Out band_value(const std::optional<double>& v) { return maybe(v); }

Out level_json(const Level& l, const Forecaster::Levers* levers) {
  Out out{{"id", l.id},
          {"title", l.title},
          {"value", maybe(l.value)},
          {"unit", l.unit},
          {"low", band_value(l.band.low)},
          {"high", band_value(l.band.high)},
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
                     l.value ? number_text(*l.value, 4) : "-", l.unit, band, l.sentence);
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
  answer.say(fmt::format("{}: {} of {} s, {} shots, {} takes", p.name, fixed_text(p.screen_time(), 2),
                         p.allowed_time ? number_text(*p.allowed_time) : "any", p.shots.size(), p.takes.size()));
  for (std::size_t i = 0; i < p.shots.size(); ++i) {
    int level = 0, leaning = 0, out = 0;
    for (const Level& l : forecaster.levels(p, i)) {
      level += l.state == State::level ? 1 : 0;
      leaning += l.state == State::leaning ? 1 : 0;
      out += l.state == State::out ? 1 : 0;
    }
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

int validate_command(const Answer& answer, const std::string& file) {
  std::vector<DocumentFault> faults;
  const auto store = Store::open(file, Access::read);
  if (store) {
    faults = validate((*store)->document());
  } else if (store.error().message == "is JSON, not a project file" ||
             store.error().message == "is no Cinnabar project") {
    const auto text = read_file(file);
    if (!text) return answer.refuse(text.error());
    const auto value = parse_json(*text, file);
    if (!value) return answer.refuse(value.error());
    faults = validate(*value);
  } else {
    return answer.refuse(store.error());
  }
  Out list = Out::array();
  for (const DocumentFault& f : faults) {
    list.push_back({{"path", f.path}, {"message", f.message}, {"mend", f.mend}});
    answer.say(fmt::format("{}: {}; {}", f.path.empty() ? "/" : f.path, f.message, f.mend));
  }
  if (faults.empty()) answer.say("No faults.");
  answer.give({{"ok", faults.empty()}, {"faults", list}});
  return faults.empty() ? 0 : 1;
}

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
  const bool of_spot = level_id->starts_with("spot.");
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
    for (const Level& l : forecaster.levels(in->project, i, *level_id))
      levels.push_back(told(l, forecaster.levers(in->document, i, l.id)));
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
  const bool of_spot = level_id->starts_with("spot.");
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
    for (Level& l : of_spot ? forecaster.spot(p, *level_id) : forecaster.levels(p, shot, *level_id))
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

int set_command(const Answer& answer, const std::string& file, const std::string& pointer,
                const std::string& value) {
  auto store = Store::open(file, Access::write);
  if (!store) return answer.refuse(store.error());
  Json parsed;
  try {
    parsed = Json::parse(value);
  } catch (const Json::exception&) {
    parsed = value;
  }
  const Document& before = (*store)->document();
  const auto after = with_value(before, pointer, parsed);
  if (!after) return answer.refuse({after.error().place, after.error().message, after.error().mend});
  const auto was = value_at(before, pointer);
  const Edit edit = edit_between(before, *after, pointer + " set to " + parsed.dump().substr(0, 60));
  for (const DocumentFault& f : validate(*after, edit)) return answer.refuse({f.path, f.message, f.mend});
  if (const auto kept = (*store)->apply(edit); !kept) return answer.refuse(kept.error());
  answer.say(fmt::format("{}: {} to {}", pointer, was ? was->dump() : "nothing", parsed.dump()));
  answer.give({{"pointer", pointer}, {"before", was ? Out(*was) : Out(nullptr)}, {"after", Out(parsed)}});
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

int takes_command(const Answer& answer, const std::string& file, const std::string& shot_text) {
  std::unique_ptr<Store> store;
  if (auto open = Store::open(file, Access::read)) store = std::move(*open);
  const auto in = opened(file);
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
        if (const auto changes = store->changes_between_takes(log.takes[k - 1]->id, t.id); changes && *changes)
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

int export_command(const Answer& answer, const std::string& file, const std::string& format,
                   const std::string& out) {
  if (format != "json" && format != "shots-json" && format != "csv" && format != "takes-csv")
    return answer.refuse({"--to " + format, "is no format that this program writes",
                          "give json, shots-json, csv (the shot list) or takes-csv"});
  const auto in = opened(file);
  if (!in) return answer.refuse(in.error());
  const std::string text = format == "json"         ? in->document.to_json().dump(1, ' ') + "\n"
                           : format == "shots-json" ? shots_json(in->document).dump(1, ' ') + "\n"
                           : format == "csv"        ? csv_written(shot_table(in->project))
                                                    : csv_written(take_table(in->project));
  if (const auto written = write_file(out, text); !written) return answer.refuse(written.error());
  answer.say("Exported to " + out);
  answer.give({{"written", out}});
  return 0;
}

namespace {
/// Shots joined to those that are there: from a table, plain words or JSON.
int import_shots(const Answer& answer, const std::string& file, const std::string& in, const std::string& text,
                 const std::string& take) {
  auto store = Store::open(file, Access::write);
  if (!store) return answer.refuse(store.error());
  const auto read = shots_from_text((*store)->document(), text, in);
  if (!read) return answer.refuse(read.error());
  Out faults = Out::array(), conflicts = Out::array();
  for (const std::string& f : read->faults) {
    faults.push_back({{"path", in}, {"message", f}, {"mend", "mend the line and read the list again"}});
    std::cerr << "cinnabar-cli: " << in << ": " << f << '\n';
  }
  for (const ShotConflict& c : read->conflicts) {
    conflicts.push_back({{"shot", c.shot}, {"field", c.field}, {"mine", c.mine}, {"theirs", c.theirs}});
    if (take.empty())
      std::cerr << fmt::format(
          "cinnabar-cli: shot {}: {} is {} here and {} there; say --take mine or --take theirs\n", c.shot, c.field,
          c.mine, c.theirs);
  }
  if (const auto kept = (*store)->apply(read->edit); !kept) return answer.refuse(kept.error());
  if (take == "theirs" && !read->conflicts.empty()) {
    const Edit edit = conflicts_taken((*store)->document(), read->conflicts);
    const auto wrong = validate(applied((*store)->document(), edit), edit);
    if (!wrong.empty()) return answer.refuse({wrong.front().path, wrong.front().message, wrong.front().mend});
    if (const auto kept = (*store)->apply(edit); !kept) return answer.refuse(kept.error());
  }
  answer.say(read->edit.title);
  const bool settled = read->faults.empty() && (read->conflicts.empty() || !take.empty());
  answer.give({{"ok", settled},
               {"added", read->added},
               {"changed", read->changed},
               {"conflicts", conflicts},
               {"faults", faults}});
  return settled ? 0 : 1;
}

/// A table of takes goes into the log of the project that is there; rows that cannot be read are faults.
int import_takes(const Answer& answer, const std::string& file, const std::string& in, const std::string& text) {
  auto store = Store::open(file, Access::write);
  if (!store) return answer.refuse(store.error());
  const auto read = takes_from_table((*store)->document(), text, in);
  if (!read) return answer.refuse(read.error());
  Out faults = Out::array();
  for (const std::string& f : read->faults) {
    faults.push_back({{"path", in}, {"message", f}, {"mend", "mend the line and read the table again"}});
    std::cerr << "cinnabar-cli: " << in << ": " << f << '\n';
  }
  if (const auto kept = (*store)->apply(read->edit); !kept) return answer.refuse(kept.error());
  answer.say(read->edit.title);
  answer.give(
      {{"ok", read->faults.empty()}, {"added", read->added}, {"changed", read->changed}, {"faults", faults}});
  return read->faults.empty() ? 0 : 1;
}
}  // namespace

int import_command(const Answer& answer, const std::string& file, const std::string& in, const std::string& take) {
  const auto text = read_file(in);
  if (!text) return answer.refuse(text.error());
  if (!take.empty() && take != "mine" && take != "theirs")
    return answer.refuse({"--take " + take, "is neither mine nor theirs", "give one of them"});
  if (in.ends_with(".txt")) return import_shots(answer, file, in, *text, take);
  if (in.ends_with(".csv")) {
    const auto rows = csv_read(*text, in);
    bool of_takes = false;  // a log names the shot of each take, a shot list has none
    if (rows && !rows->empty())
      for (const std::string& heading : rows->front().fields)
        of_takes = of_takes || trimmed(heading) == "shot" || trimmed(heading) == "Shot";
    return of_takes || !rows || rows->empty() ? import_takes(answer, file, in, *text)
                                              : import_shots(answer, file, in, *text, take);
  }
  const auto value = parse_json(*text, in);
  if (!value) return answer.refuse(value.error());
  if (is_shots_json(*value)) return import_shots(answer, file, in, *text, take);
  const auto faults = validate(*value);
  if (!faults.empty()) {
    Out list = Out::array();
    for (const DocumentFault& f : faults) {
      list.push_back({{"path", f.path}, {"message", f.message}, {"mend", f.mend}});
      std::cerr << "cinnabar-cli: " << in << ": " << (f.path.empty() ? "/" : f.path) << ": " << f.message << "; "
                << f.mend << '\n';
    }
    answer.give({{"ok", false}, {"faults", list}});
    return 1;
  }
  const auto document = Document::from_json(*value);
  if (!document) return answer.refuse(document.error());
  std::error_code ignored;
  if (std::filesystem::exists(file, ignored)) {
    auto store = Store::open(file, Access::write);
    if (!store) return answer.refuse(store.error());
    const Edit edit =
        edit_between((*store)->document(), *document, "Imported " + std::filesystem::path(in).filename().string());
    if (const auto kept = (*store)->apply(edit); !kept) return answer.refuse(kept.error());
  } else if (const auto made = Store::create(file, *document); !made) {
    return answer.refuse(made.error());
  }
  answer.say("Imported into " + file);
  answer.give({{"ok", true}, {"faults", Out::array()}});
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
