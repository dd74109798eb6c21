// Projects, shots and takes out of the file and into it.
#include <fmt/format.h>

#include <algorithm>
#include <filesystem>

#include "cinnabar/base/files.h"
#include "cinnabar/base/text.h"
#include "cinnabar/cli/commands.h"
#include "cinnabar/formats/cue_track.h"
#include "cinnabar/formats/motion_program.h"
#include "cinnabar/formats/settings_cards.h"
#include "cinnabar/formats/shot_merge.h"
#include "cinnabar/formats/tables.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/document/json_text.h"

namespace cinnabar {

using Out = nlohmann::ordered_json;

namespace {

/// The sound of a shot's moments; the list of them into the answer.
Expected<void> cues_exported(const ExportArguments& a, const Opened& in, Out& told) {
  const auto shot = shot_numbered(in.project, a.shot);
  if (!shot) return tl::unexpected(shot.error());
  const auto cues = cue_list(in.project, *in.project.shots[*shot]);
  if (!cues) return tl::unexpected(cues.error());
  told["cues"] = Out::array();
  for (const Cue& cue : *cues) told["cues"].push_back({{"at", cue.at}, {"what", cue.what}});
  return write_cue_track(a.out, *cues);
}

/// What an export writes, by its format; nothing for one that is not known.
std::optional<Expected<std::string>> exported(const ExportArguments& a, const Opened& in) {
  using Text = Expected<std::string>;
  if (a.format == "json") return Text(json_text(in.document.to_json(), 1) + "\n");
  if (a.format == "shots-json") return Text(json_text(shots_json(in.document), 1) + "\n");
  if (a.format == "csv") return Text(csv_written(shot_table(in.project)));
  if (a.format == "takes-csv") return Text(csv_written(take_table(in.project)));
  if (a.format == "settings") return Text(settings_cards(in.project));
  if (a.format != "gcode") return std::nullopt;
  const auto shot = shot_numbered(in.project, a.shot);
  if (!shot) return Text(tl::unexpected(shot.error()));
  return motion_program(in.project, *shot);
}

/// Writes it.
Expected<void> written(const ExportArguments& a, const Opened& in, Out& told) {
  if (same_file(a.file, a.out))
    return fail(a.out, "is the project itself; nothing was written", "name another file", Fault::output);
  if (a.format == "cues") return cues_exported(a, in, told);
  const auto text = exported(a, in);
  if (!text)
    return fail("--to " + a.format, "is no format that this program writes",
                "give json, shots-json, csv (the shot list), takes-csv, gcode, cues or settings");
  if (!*text) return tl::unexpected(text->error());
  return write_file(a.out, **text);
}

}  // namespace

int export_command(const Answer& answer, const ExportArguments& a) {
  const auto in = opened(a.file);
  if (!in) return answer.refuse(in.error());
  Out told{{"written", a.out}};
  if (const auto done = written(a, *in, told); !done) return answer.refuse(done.error());
  answer.say("Exported to " + a.out);
  if (told.contains("cues"))
    for (const Out& cue : told["cues"])
      answer.say(fmt::format("{:9.3f} s  {}", cue["at"].get<double>(), cue["what"].get<std::string>()));
  answer.give(told);
  return 0;
}

namespace {

constexpr std::size_t most_remarks = 50;  // lines on standard error; the JSON answer has all

/// What could not be read of a list, to standard error and for the answer.
Out told_faults(const std::string& in, const std::vector<std::string>& faults, const std::string& note) {
  if (!note.empty()) Answer::remark(in + ": " + note);
  Out out = Out::array();
  for (const std::string& f : faults) {
    if (out.size() < most_remarks) Answer::remark(in + ": " + f);
    out.push_back({{"path", in}, {"message", f}, {"mend", "mend the line and read the list again"}});
  }
  if (out.size() > most_remarks)
    Answer::remark(fmt::format("{}: and {} more such lines", in, out.size() - most_remarks));
  return out;
}

/// Shots joined to those that are there: from a table, plain words or JSON. One edit, conflicts taken included.
int import_shots(const Answer& answer, const std::string& file, const std::string& in, const std::string& text,
                 const std::string& take) {
  auto store = Store::open(file, Access::write);
  if (!store) return answer.refuse(store.error());
  const Document& before = (*store)->document();
  const auto read = shots_from_text(before, text, in);
  if (!read) return answer.refuse(read.error());
  Edit edit = read->edit;
  if (take == "theirs" && !read->conflicts.empty()) {
    const Document joined = applied(before, edit);
    const Document chosen = applied(joined, conflicts_taken(joined, read->conflicts));
    edit = edit_between(before, chosen, edit.title);
    if (const auto wrong = validate(chosen, edit); !wrong.empty())
      return answer.refuse(
          {wrong.front().path, wrong.front().message + "; nothing was read", wrong.front().mend, Fault::output});
  }
  Out conflicts = Out::array();
  for (const ShotConflict& c : read->conflicts) {
    conflicts.push_back({{"shot", c.shot}, {"field", c.field}, {"mine", c.mine}, {"theirs", c.theirs}});
    if (take.empty())
      Answer::remark(fmt::format("shot {}: {} is {} here and {} there; say --take mine or --take theirs", c.shot,
                                 c.field, c.mine, c.theirs));
  }
  const Out faults = told_faults(in, read->faults, read->note);
  if (const auto kept = (*store)->apply(edit); !kept) return answer.refuse(kept.error());
  answer.say(edit.title);
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
  const Out faults = told_faults(in, read->faults, read->note);
  if (const auto kept = (*store)->apply(read->edit); !kept) return answer.refuse(kept.error());
  answer.say(read->edit.title);
  answer.give(
      {{"ok", read->faults.empty()}, {"added", read->added}, {"changed", read->changed}, {"faults", faults}});
  return read->faults.empty() ? 0 : 1;
}

/// A whole project from its JSON: into a new file, or as one edit of the one that is there.
int import_project(const Answer& answer, const std::string& file, const std::string& in, const Json& value) {
  const auto faults = validate(value);
  for (const DocumentFault& f : faults)
    Answer::remark(in + ": " + (f.path.empty() ? "/" : f.path) + ": " + f.message + "; " + f.mend);
  if (!faults.empty()) {
    answer.give({{"ok", false}, {"faults", faults_json(faults)}});
    return 1;
  }
  const auto document = Document::from_json(value);
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

/// A log names the shot of each take, a shot list has none.
bool is_log(const std::string& text, const std::string& in) {
  const auto rows = csv_read(text, in);
  if (!rows || rows->empty()) return true;  // refused as one
  return std::any_of(rows->front().fields.begin(), rows->front().fields.end(),
                     [](const std::string& heading) { return lower(heading) == "shot"; });
}

}  // namespace

int import_command(const Answer& answer, const std::string& file, const std::string& in, const std::string& take) {
  if (!take.empty() && take != "mine" && take != "theirs")
    return answer.refuse({"--take " + take, "is neither mine nor theirs", "give one of them"});
  const auto text = read_file(in);
  if (!text) return answer.refuse(text.error());
  if (in.ends_with(".txt")) return import_shots(answer, file, in, *text, take);
  if (in.ends_with(".csv"))
    return is_log(*text, in) ? import_takes(answer, file, in, *text) : import_shots(answer, file, in, *text, take);
  const auto value = parse_json(*text, in);
  if (!value) return answer.refuse(value.error());
  return is_shots_json(*value) ? import_shots(answer, file, in, *text, take)
                               : import_project(answer, file, in, *value);
}

}  // namespace cinnabar
