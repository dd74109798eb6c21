// The shot list as a table, read back and joined to the shots that are there.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/formats/shot_list.h"
#include "cinnabar/formats/shots_batch.h"
#include "cinnabar/formats/tables.h"

namespace cinnabar {
namespace {

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

/// Reads the rows of one table into a batch of shots.
class Rows {
 public:
  Rows(const Document& document, Headings headings, ShotsRead& out)
      : batch_(document), headings_(std::move(headings)), out_(out) {
    table_ = shot_table(project_without_log(document));  // no row is held against how often it was tried
  }

  void read(const CsvLine& row) {
    line_ = row.line;
    if (row.unreadable) return void(out_.faults.push_back(unreadable_row(row)));
    const std::string id = headings_.cell(row.fields, "id");
    if (!id.empty() && !seen_.insert(id).second)
      return refuse("shot \"" + id + "\" stands twice in the table; keep one row");
    const auto place = batch_.place_of(id);
    const auto& shots = batch_.shots();
    Json shot = place ? *shots[*place] : batch_.made(shots.empty() ? nullptr : shots.back().get(), "Shot");
    if (!place && !id.empty()) shot["id"] = id;
    const auto now = place ? row_now(table_, *place) : std::map<std::string, std::string>{};
    bool changed_here = false;
    if (place) {
      const std::string as_of = headings_.cell(row.fields, "as of");
      changed_here = !as_of.empty() && as_of != now.at("as of");
      CsvRow theirs;
      for (const std::string& heading : table_[0]) theirs.push_back(headings_.cell(row.fields, lower(heading)));
      if (!as_of.empty() && shot_row_mark(theirs) == as_of) return;  // nothing was changed there
    }
    std::vector<ShotConflict> conflicts;
    const auto changed = put(row, id, place.has_value(), changed_here, now, shot, conflicts);
    if (!changed) return;
    if (*changed || !place)
      if (const auto fault = batch_.put(std::move(shot)))
        return refuse(fault->path + " " + fault->message + "; " + fault->mend);
    out_.conflicts.insert(out_.conflicts.end(), conflicts.begin(), conflicts.end());
  }
  [[nodiscard]] const ShotsBatch& batch() const { return batch_; }

 private:
  void refuse(const std::string& why) { out_.faults.push_back(fmt::format("line {}: {}", line_, why)); }

  /// Whether the row's cells changed the shot; nothing where one of them was refused.
  std::optional<bool> put(const CsvLine& row, const std::string& id, bool there, bool changed_here,
                          const std::map<std::string, std::string>& now, Json& shot,
                          std::vector<ShotConflict>& conflicts) {
    bool changed = false;
    for (const Column& column : columns) {
      const std::string cell = headings_.cell(row.fields, column.heading);
      if (!headings_.has(column.heading) || cell.empty() || (there && cell == now.at(column.heading))) continue;
      const auto value = value_of(column, cell);
      if (!value) {
        refuse(fmt::format("\"{}\" is no number for {}", cell, column.heading));
        return std::nullopt;
      }
      if (std::string(column.pointer).starts_with("/camera/") && !shot.contains("camera")) continue;
      if (changed_here) {
        conflicts.push_back(
            {id, shot.value("name", id), column.heading, now.at(column.heading), cell, column.pointer, *value});
        continue;
      }
      shot[nlohmann::json::json_pointer(column.pointer)] = *value;
      changed = true;
    }
    return changed;
  }

  ShotsBatch batch_;
  Headings headings_;
  ShotsRead& out_;
  std::vector<CsvRow> table_;
  std::set<std::string> seen_;
  std::size_t line_ = 0;
};

}  // namespace

Expected<ShotsRead> shots_from_table(const Document& document, std::string_view text, const std::string& file) {
  ShotsRead out;
  const auto rows = csv_read(text, file, &out.note);
  if (!rows) return tl::unexpected(rows.error());
  if (rows->empty()) return fail(file, "is an empty table", "give a row of headings, then shots", Fault::input);
  const Headings headings(rows->front().fields);
  if (!headings.has("id") && !headings.has("name"))
    return fail(file, "line 1 has neither a column \"id\" nor \"name\"",
                "name the columns as `export --to csv` writes them", Fault::input);
  Rows reading(document, headings, out);
  for (std::size_t r = 1; r < rows->size(); ++r) reading.read((*rows)[r]);
  out.added = reading.batch().added, out.changed = reading.batch().changed;
  out.edit = edit_between(document, reading.batch().document(),
                          fmt::format("Shots read: {} added, {} changed", out.added, out.changed));
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
  return edit_between(document, next,
                      counted(theirs.size(), "{} value taken from the file", "{} values taken from the file"));
}

}  // namespace cinnabar
