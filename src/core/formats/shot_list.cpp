#include "cinnabar/formats/shot_list.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "cinnabar/base/text.h"
#include "cinnabar/formats/tables.h"
#include "cinnabar/project/new_shot.h"
#include "cinnabar/project/validation.h"

namespace cinnabar {
namespace {

std::string lower(std::string_view text) {
  std::string out(trimmed(text));
  std::transform(out.begin(), out.end(), out.begin(),
                 [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
  return out;
}

/// A number before one of some words, with nothing else: "3.5 s", "48 frames".
std::optional<double> before_word(const std::string& phrase, std::initializer_list<const char*> words) {
  for (const char* word : words) {
    const std::string end = word;
    if (phrase.size() <= end.size() || !phrase.ends_with(end)) continue;
    const std::string number(trimmed(std::string_view(phrase).substr(0, phrase.size() - end.size())));
    if (const auto v = parse_number(number)) return v;
  }
  return std::nullopt;
}

/// Phrases of a line: parted by commas, semicolons, bars, tabs, or dashes with room round them.
std::vector<std::string> phrases_of(std::string_view line) {
  std::string text(line);
  for (const char* dash : {" - ", " \xE2\x80\x93 ", " \xE2\x80\x94 "})
    for (std::size_t at = 0; (at = text.find(dash, at)) != std::string::npos;)
      text.replace(at, std::string(dash).size(), ",");
  std::vector<std::string> out;
  std::string word;
  for (const char c : text + ",") {
    if (c != ',' && c != ';' && c != '|' && c != '\t') {
      word += c;
      continue;
    }
    if (const auto tidy = trimmed(word); !tidy.empty()) out.emplace_back(tidy);
    word.clear();
  }
  return out;
}

/// Without a bullet or a number of its own before it: "3. ", "Shot 3: ", "- ".
std::string_view without_number(std::string_view line) {
  line = trimmed(line);
  while (!line.empty() && (line.front() == '-' || line.front() == '*' || line.front() == '#'))
    line = trimmed(line.substr(1));
  std::string_view rest = line;
  if (lower(rest.substr(0, std::min<std::size_t>(5, rest.size()))) == "shot" && rest.size() > 5)
    rest = rest.substr(5);
  std::size_t digits = 0;
  while (digits < rest.size() && std::isdigit(static_cast<unsigned char>(rest[digits]))) ++digits;
  if (digits > 0 && digits < rest.size() && (rest[digits] == '.' || rest[digits] == ')' || rest[digits] == ':') &&
      (digits + 1 >= rest.size() || !std::isdigit(static_cast<unsigned char>(rest[digits + 1]))))
    return trimmed(rest.substr(digits + 1));
  return line;
}

/// Reads the phrases of one line into a shot; what is wrong with one is answered.
class Line {
 public:
  Line(Document& document, const Project& project) : document_(document), project_(project) {}

  std::optional<std::string> read(const std::vector<std::string>& phrases) {
    std::vector<std::string> notes;
    std::string name, setup_wanted;
    std::vector<std::string> rest;
    for (const std::string& phrase : phrases) {
      const std::string low = lower(phrase);
      if (low.starts_with("set-up ") || low.starts_with("setup ")) {
        setup_wanted = std::string(trimmed(phrase.substr(phrase.find(' '))));
        if (!setup_of(setup_wanted)) return "there is no set-up \"" + setup_wanted + "\"";
      } else if (name.empty() && !understood(low)) {
        name = phrase;
      } else {
        rest.push_back(phrase);
      }
    }
    if (name.empty()) name = "Shot";
    shot_ = new_shot(document_, like(setup_wanted), name);
    if (!setup_wanted.empty()) shot_["setup"] = setup_of(setup_wanted)->id;
    for (const char* own : {"needs", "play", "tracks", "uses", "notes", "takes_planned", "role"}) shot_.erase(own);
    for (const std::string& phrase : rest) {
      if (const auto fault = put(lower(phrase))) return fault;
      if (!understood(lower(phrase))) notes.push_back(phrase);
    }
    std::string text;
    for (const std::string& n : notes) text += (text.empty() ? "" : "; ") + n;
    if (!text.empty()) shot_["notes"] = text;
    return std::nullopt;
  }
  [[nodiscard]] const Json& shot() const { return shot_; }

 private:
  [[nodiscard]] const Setup* setup_of(const std::string& wanted) const {
    for (const auto& s : project_.setups)
      if (s->id == wanted || lower(s->name) == lower(wanted)) return s.get();
    return nullptr;
  }
  /// The last shot of that set-up, or of the list; nothing where there is none.
  [[nodiscard]] const Json* like(const std::string& wanted) const {
    const Json* last = nullptr;
    for (const JsonPtr& s : document_.list("shots"))
      if (wanted.empty() || s->value("setup", "") == setup_of(wanted)->id) last = s.get();
    return last ? last : document_.list("shots").empty() ? nullptr : document_.list("shots").front().get();
  }
  static bool understood(const std::string& low) {
    static const std::set<std::string> sizes{"wide", "close", "macro", "close-up", "close up", "detail"};
    return sizes.contains(low) ||
           before_word(low, {"seconds", "second", "sec", "s", "frames", "mm", "fps", "frames per second", "x slow",
                             "x slower", "times slower"}) ||
           (low.starts_with("f/") && parse_number(low.substr(2)));
  }
  std::optional<std::string> put(const std::string& low) {
    Json& camera = shot_["camera"];
    if (low == "wide" || low == "close" || low == "macro") shot_["size"] = low;
    if (low == "close-up" || low == "close up") shot_["size"] = "close";
    if (low == "detail") shot_["size"] = "macro";
    if (const auto slow = before_word(low, {"x slow", "x slower", "times slower"})) {
      if (*slow <= 0 || *slow > 1e4) return "\"" + low + "\" is no slowing";
      shot_["needs"]["slow"] = *slow;
    } else if (const auto rate = before_word(low, {"frames per second", "fps"})) {
      const CameraBody* body = by_id(project_.cameras, camera.value("camera", ""));
      const CameraMode* best = nullptr;
      for (const auto& b : project_.cameras)
        for (const CameraMode& m : b->modes)
          if ((!body || b.get() == body) && std::abs(m.rate - *rate) < 0.51 && !best) best = &m, body = b.get();
      if (!best) return fmt::format("no camera of the kit records {} a second", number_text(*rate, 5));
      camera["camera"] = body->id;
      camera["mode"] = best->id;
      camera["shutter_time"] = 0.5 / best->rate;
    } else if (const auto frames = before_word(low, {"frames"})) {
      if (*frames < 1 || *frames > 1e6) return "\"" + low + "\" is no length";
      shot_["screen_time"] = std::round(*frames / project_.timeline_rate * 1e6) / 1e6;
    } else if (const auto seconds = before_word(low, {"seconds", "second", "sec", "s"})) {
      if (*seconds <= 0 || *seconds > 86400) return "\"" + low + "\" is no length";
      shot_["screen_time"] = *seconds;
    } else if (const auto millimetres = before_word(low, {"mm"})) {
      const double focal = *millimetres / 1000;
      const LensSpec* fits = nullptr;
      for (const auto& l : project_.lenses)
        if (focal >= l->focal_low - 1e-9 && focal <= l->focal_high + 1e-9 && !fits) fits = l.get();
      if (!fits && !project_.lenses.empty())
        return fmt::format("no lens of the kit is {} mm", number_text(*millimetres, 4));
      if (focal <= 0 || focal > 10) return "\"" + low + "\" is no lens";
      camera["focal"] = focal;
      if (fits) camera["lens"] = fits->id;
      if (camera.value("focus", 1.0) <= focal)
        camera["focus"] = std::max(2 * focal, fits ? fits->close_focus : 0.0);
    } else if (low.starts_with("f/")) {
      if (const auto n = parse_number(low.substr(2))) camera["f_number"] = *n;
    }
    return std::nullopt;
  }

  Document& document_;
  const Project& project_;
  Json shot_;
};

/// A column that can be read back: its heading, where its value stands in a shot, and what one of it is.
struct Column {
  const char *heading, *pointer;
  double scale;  ///< of a number; 0: text
};
constexpr Column columns[] = {{"name", "/name", 0},
                              {"set-up", "/setup", 0},
                              {"size", "/size", 0},
                              {"screen time s", "/screen_time", 1},
                              {"camera", "/camera/camera", 0},
                              {"mode", "/camera/mode", 0},
                              {"lens", "/camera/lens", 0},
                              {"focal mm", "/camera/focal", 1e-3},
                              {"f-number", "/camera/f_number", 1},
                              {"shutter s", "/camera/shutter_time", 1},
                              {"iso", "/camera/iso", 1},
                              {"nd stops", "/camera/nd_stops", 1},
                              {"white k", "/camera/balance_k", 1},
                              {"focus m", "/camera/focus", 1},
                              {"takes planned", "/takes_planned", 1},
                              {"keepers wanted", "/keepers_wanted", 1}};

std::optional<Json> value_of(const Column& column, const std::string& cell) {
  if (column.scale == 0.0) return Json(cell);
  const auto number = parse_number(cell);
  if (!number) return std::nullopt;
  const double v = std::round(*number * column.scale * 1e9) / 1e9;
  const bool whole = std::string(column.heading).find("wanted") != std::string::npos ||
                     std::string(column.heading).find("planned") != std::string::npos;
  return whole && v == std::floor(v) ? Json(static_cast<int>(v)) : Json(v);
}

/// A table's rows by heading.
class Headings {
 public:
  explicit Headings(const CsvRow& row) {
    for (std::size_t i = 0; i < row.size(); ++i) at_.try_emplace(lower(row[i]), i);
  }
  [[nodiscard]] bool has(const std::string& heading) const { return at_.contains(heading); }
  [[nodiscard]] std::string cell(const CsvRow& row, const std::string& heading) const {
    const auto found = at_.find(heading);
    return found == at_.end() || found->second >= row.size() ? std::string()
                                                             : std::string(trimmed(row[found->second]));
  }

 private:
  std::map<std::string, std::size_t> at_;
};

/// The same shot's row as it would be written now, by heading.
std::map<std::string, std::string> row_now(const std::vector<CsvRow>& table, std::size_t shot) {
  std::map<std::string, std::string> cells;
  for (std::size_t i = 0; i < table[0].size(); ++i) cells[lower(table[0][i])] = table[shot + 1][i];
  return cells;
}

}  // namespace

Expected<ShotsRead> shots_from_words(const Document& document, std::string_view text) {
  if (text.size() > (std::size_t{1} << 20))
    return fail("the list", "is longer than a megabyte", "paste the shots only", Fault::input);
  ShotsRead out;
  Document next = document;
  ProjectReader reader;
  const Project project = reader.read(document);
  std::size_t number = 0;
  for (std::size_t from = 0; from <= text.size();) {
    std::size_t to = text.find('\n', from);
    if (to == std::string_view::npos) to = text.size();
    const std::string_view line = trimmed(text.substr(from, to - from));
    from = to + 1;
    ++number;
    if (line.empty()) continue;
    const auto refuse = [&](const std::string& why) {
      out.faults.push_back(fmt::format("line {}: {}", number, why));
    };
    if (line.size() > 2000) {
      refuse("is too long for one shot; break it up");
      continue;
    }
    const auto phrases = phrases_of(without_number(line));
    if (phrases.empty()) {
      refuse("says nothing");
      continue;
    }
    if (next.list("shots").size() >= 100000) {
      refuse("is one shot too many");
      break;
    }
    Document with = next;
    Line reading(with, project);
    if (const auto fault = reading.read(phrases)) {
      refuse(*fault);
      continue;
    }
    insert_shot(with, reading.shot(), with.list("shots").size());
    if (const auto faults = validate(with, edit_between(next, with, "")); !faults.empty()) {
      refuse(faults.front().message + "; " + faults.front().mend);
      continue;
    }
    next = std::move(with);
    ++out.added;
  }
  out.edit = edit_between(document, next, fmt::format("{} shots from a list", out.added));
  return out;
}

Expected<ShotsRead> shots_from_table(const Document& document, std::string_view text, const std::string& file) {
  const auto rows = csv_read(text, file);
  if (!rows) return tl::unexpected(rows.error());
  if (rows->empty()) return fail(file, "is an empty table", "give a row of headings, then shots", Fault::input);
  const Headings headings(rows->front().fields);
  if (!headings.has("id") && !headings.has("name"))
    return fail(file, "line 1 has neither a column \"id\" nor \"name\"",
                "name the columns as `export --to csv` writes them", Fault::input);
  ProjectReader reader;
  const auto table = shot_table(reader.read(document));
  ShotsRead out;
  Document next = document;
  std::set<std::string> seen;
  for (std::size_t r = 1; r < rows->size(); ++r) {
    const CsvLine& row = (*rows)[r];
    const auto refuse = [&](const std::string& why) {
      out.faults.push_back(fmt::format("line {}: {}", row.line, why));
    };
    const std::string id = headings.cell(row.fields, "id");
    if (!id.empty() && !seen.insert(id).second) {
      refuse("shot \"" + id + "\" stands twice in the table; keep one row");
      continue;
    }
    const auto& shots = next.list("shots");
    const auto here =
        std::find_if(shots.begin(), shots.end(), [&](const JsonPtr& s) { return s->at("id") == id; });
    const bool is_new = here == shots.end();
    Document with = next;
    Json shot = is_new ? new_shot(with, shots.empty() ? nullptr : shots.back().get(), "Shot") : **here;
    if (is_new && !id.empty()) shot["id"] = id;
    std::map<std::string, std::string> now;
    bool changed_here = false;
    if (!is_new) {
      now = row_now(table, static_cast<std::size_t>(here - shots.begin()));
      const std::string as_of = headings.cell(row.fields, "as of");
      changed_here = !as_of.empty() && as_of != now["as of"];
      CsvRow theirs;
      for (const std::string& heading : table[0]) theirs.push_back(headings.cell(row.fields, lower(heading)));
      if (!as_of.empty() && shot_row_mark(theirs) == as_of) continue;  // nothing was changed there
    }
    bool good = true, changed = is_new;
    std::vector<ShotConflict> conflicts;
    for (const Column& column : columns) {
      const std::string cell = headings.cell(row.fields, column.heading);
      if (!headings.has(column.heading) || cell.empty() || (!is_new && cell == now[column.heading])) continue;
      const auto value = value_of(column, cell);
      if (!value) {
        refuse(fmt::format("\"{}\" is no number for {}", cell, column.heading));
        good = false;
        break;
      }
      if (std::string(column.pointer).starts_with("/camera/") && !shot.contains("camera")) continue;
      if (changed_here) {
        conflicts.push_back(
            {id, shot.value("name", id), column.heading, now[column.heading], cell, column.pointer, *value});
        continue;
      }
      shot[nlohmann::json::json_pointer(column.pointer)] = *value;
      changed = true;
    }
    if (!good) continue;
    if (changed) {
      if (is_new) {
        insert_shot(with, shot, with.list("shots").size());
      } else {
        with.lists["shots"][static_cast<std::size_t>(here - shots.begin())] = std::make_shared<const Json>(shot);
      }
      if (const auto faults = validate(with, edit_between(next, with, "")); !faults.empty()) {
        refuse(faults.front().path + " " + faults.front().message + "; " + faults.front().mend);
        continue;
      }
      next = std::move(with);
      ++(is_new ? out.added : out.changed);
    }
    out.conflicts.insert(out.conflicts.end(), conflicts.begin(), conflicts.end());
  }
  out.edit = edit_between(document, next, fmt::format("Shots read: {} added, {} changed", out.added, out.changed));
  return out;
}

Edit conflicts_taken(const Document& document, const std::vector<ShotConflict>& theirs) {
  Document next = document;
  auto& shots = next.lists["shots"];
  for (const ShotConflict& c : theirs) {
    const auto here =
        std::find_if(shots.begin(), shots.end(), [&](const JsonPtr& s) { return s->at("id") == c.shot; });
    if (c.pointer.empty()) {
      if (here != shots.end()) shots.erase(here);
      if (!c.removed) shots.push_back(std::make_shared<const Json>(c.value));
      continue;
    }
    if (here == shots.end()) continue;
    Json changed = **here;
    const Json::json_pointer at(c.pointer);
    if (!c.removed)
      changed[at] = c.value;
    else if (changed.contains(at))
      changed[at.parent_pointer()].erase(at.back());
    *here = std::make_shared<const Json>(std::move(changed));
  }
  return edit_between(document, next, fmt::format("{} values taken from the file", theirs.size()));
}

}  // namespace cinnabar
