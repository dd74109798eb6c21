#include "cinnabar/formats/tables.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <set>
#include <unordered_set>

#include "cinnabar/base/text.h"
#include "cinnabar/project/model/names.h"

namespace cinnabar {
namespace {

std::string place_text(const Vec3& v) {
  return fmt::format("{} {} {}", number_text(v.x, 5), number_text(v.y, 5), number_text(v.z, 5));
}

std::optional<bool> yes_or_no(std::string_view text) {
  const std::string word = lower(text);
  for (const char* yes : {"yes", "true", "1", "kept", "keep", "x"})
    if (word == yes) return true;
  for (const char* no : {"no", "false", "0", "dropped", "drop", ""})
    if (word == no) return false;
  return std::nullopt;
}

/// The shot that a word names: by its id, or its number from 1.
const Json* shot_named(const Document& doc, const std::string& word) {
  if (const Json* shot = doc.find("shots", word)) return shot;
  const auto number = parse_number(word);
  const auto& shots = doc.list("shots");
  if (!number || *number != std::floor(*number) || *number < 1 || *number > static_cast<double>(shots.size()))
    return nullptr;
  return shots[static_cast<std::size_t>(*number) - 1].get();
}

}  // namespace

std::string shot_row_mark(const CsvRow& row) {
  std::uint64_t mark = 14695981039346656037ULL;
  for (std::size_t column = 1; column < row.size(); ++column)
    if ((column < 17 && column != 6) || column == 20 || column == 21)  // the set time follows from other values
      for (const char letter : row[column] + "\n")
        mark = (mark ^ static_cast<unsigned char>(letter)) * 1099511628211ULL;
  return fmt::format("{:016x}", mark);
}

std::vector<CsvRow> shot_table(const Project& p) {
  std::vector<CsvRow> rows{
      {"number",         "id",      "name",    "set-up",         "size",         "screen time s", "set time s",
       "camera",         "mode",    "lens",    "focal mm",       "f-number",     "shutter s",     "ISO",
       "ND stops",       "white K", "focus m", "camera place m", "camera aim m", "tracks",        "takes planned",
       "keepers wanted", "takes",   "kept",    "as of"}};
  std::map<std::string_view, std::pair<int, int>> takes;  // tried and kept, by shot
  for (const auto& take : p.takes) {
    auto& [tried, kept] = takes[take->shot];
    ++tried, kept += take->kept ? 1 : 0;
  }
  for (std::size_t i = 0; i < p.shots.size(); ++i) {
    const Shot& s = *p.shots[i];
    const ShotCamera c = s.camera.value_or(ShotCamera{});
    const auto camera = [&](std::string text) { return s.camera ? std::move(text) : std::string(); };
    std::string tracks;
    for (const KeyedTrack& t : s.tracks) tracks += (tracks.empty() ? "" : " ") + t.target;
    const auto [tried, kept] = takes[s.id];
    rows.push_back({std::to_string(i + 1),
                    s.id,
                    s.name,
                    s.setup,
                    s.size ? name_of(*s.size) : std::string(),
                    number_text(s.screen_time, 8),
                    number_text(s.set_time(), 8),
                    camera(c.camera),
                    camera(c.mode),
                    camera(c.lens),
                    camera(number_text(c.focal * 1e3, 5)),
                    camera(number_text(c.f_number, 4)),
                    camera(number_text(c.shutter_time, 8)),
                    camera(number_text(c.iso, 7)),
                    camera(number_text(c.nd_stops, 4)),
                    camera(number_text(c.balance_k, 6)),
                    camera(number_text(c.focus, 5)),
                    camera(place_text(c.place)),
                    camera(place_text(c.aim)),
                    tracks,
                    s.takes_planned ? number_text(*s.takes_planned, 6) : "",
                    std::to_string(s.keepers_wanted),
                    std::to_string(tried),
                    std::to_string(kept),
                    {}});
    CsvRow& row = rows.back();
    row.back() = shot_row_mark(row);
  }
  return rows;
}

std::vector<CsvRow> take_table(const Project& p) {
  std::vector<CsvRow> rows{{"shot", "shot name", "number", "at", "kept", "reasons", "notes"}};
  for (const auto& take : p.takes) {
    std::string reasons;
    for (const std::string& r : take->reasons) reasons += (reasons.empty() ? "" : "; ") + r;
    const Shot* shot = by_id(p.shots, take->shot);
    rows.push_back({take->shot, shot ? shot->name : "", std::to_string(take->number), take->at,
                    take->kept ? "yes" : "no", reasons, take->notes});
  }
  return rows;
}

std::vector<CsvRow> packing_table(const Packing& packing) {
  std::vector<CsvRow> rows{
      {"list", "id", "name", "wanted", "owned", "missing", "unit", "shots", "price", "hired", "notes"}};
  for (const PackedThing& t : packing.things) {
    std::string shots;
    for (const std::size_t s : t.shots) shots += (shots.empty() ? "" : " ") + std::to_string(s + 1);
    rows.push_back({t.list, t.id, t.name, number_text(t.wanted, 8), number_text(t.owned, 8),
                    number_text(t.missing(), 8), t.unit, shots, t.price ? number_text(*t.price, 8) : "",
                    t.hired ? "yes" : "no", t.note});
  }
  return rows;
}

namespace {

/// Where each column stands, by its heading in small letters.
Expected<std::map<std::string, std::size_t>> take_columns(const CsvRow& headings, const std::string& file) {
  std::map<std::string, std::size_t> headed;
  for (std::size_t i = 0; i < headings.size(); ++i) headed.try_emplace(lower(headings[i]), i);
  for (const char* needed : {"shot", "number"})
    if (!headed.contains(needed))
      return fail(file, fmt::format("line 1 has no column \"{}\"", needed),
                  "name the columns shot, number, at, kept, reasons, notes", Fault::input);
  return headed;
}

}  // namespace

Expected<TakesRead> takes_from_table(const Document& document, std::string_view text, const std::string& file) {
  TakesRead out;
  const auto rows = csv_read(text, file, &out.note);
  if (!rows) return tl::unexpected(rows.error());
  if (rows->empty()) return fail(file, "is an empty table", "give a row of headings, then takes", Fault::input);
  const auto found = take_columns(rows->front().fields, file);
  if (!found) return tl::unexpected(found.error());
  const auto& columns = *found;
  Document next = document;
  auto& takes = next.lists["takes"];
  std::unordered_set<std::string> ids;
  std::map<std::pair<std::string, int>, std::size_t> places;  // by shot and number: the first of them
  for (std::size_t i = 0; i < takes.size(); ++i) {
    ids.insert(takes[i]->at("id").get<std::string>());
    places.try_emplace({takes[i]->value("shot", ""), takes[i]->value("number", 0)}, i);
  }
  std::set<std::pair<std::string, int>> seen;
  std::size_t fresh = ids.size();
  for (std::size_t r = 1; r < rows->size(); ++r) {
    const CsvLine& row = (*rows)[r];
    if (row.unreadable) {
      out.faults.push_back(unreadable_row(row));
      continue;
    }
    const auto cell = [&](const char* name) -> std::string {
      const auto at = columns.find(name);
      return at == columns.end() || at->second >= row.fields.size() ? std::string()
                                                                    : std::string(trimmed(row.fields[at->second]));
    };
    const auto refuse = [&](const std::string& why) {
      out.faults.push_back(fmt::format("line {}: {}", row.line, why));
    };
    const Json* shot = shot_named(document, cell("shot"));
    if (!shot) {
      refuse("\"" + cell("shot") + "\" is no shot; give its id or its number");
      continue;
    }
    const auto number = parse_number(cell("number"));
    if (!number || *number != std::floor(*number) || *number < 1 || *number > 1e6) {
      refuse("\"" + cell("number") + "\" is no take number; give a whole number from 1");
      continue;
    }
    const auto kept = yes_or_no(cell("kept"));
    if (!kept) {
      refuse("\"" + cell("kept") + "\" is neither yes nor no");
      continue;
    }
    const std::string id = shot->at("id");
    if (!seen.emplace(id, static_cast<int>(*number)).second) {
      refuse("this take stands twice in the table; keep one row");
      continue;
    }
    Json reasons = Json::array();
    for (const std::string& reason : split(cell("reasons"), ';'))
      if (!reason.empty()) reasons.push_back(reason);
    const auto old = places.find({id, static_cast<int>(*number)});
    Json take =
        old == places.end() ? Json{{"shot", id}, {"number", static_cast<int>(*number)}} : *takes[old->second];
    take["kept"] = *kept;
    if (columns.contains("reasons")) take["reasons"] = reasons;
    if (columns.contains("notes")) take["notes"] = cell("notes");
    if (!cell("at").empty()) take["at"] = cell("at");
    if (old != places.end()) {
      if (take == *takes[old->second]) continue;
      takes[old->second] = std::make_shared<const Json>(std::move(take));
      ++out.changed;
      continue;
    }
    while (ids.contains("t" + std::to_string(++fresh))) {
    }
    take["id"] = "t" + std::to_string(fresh);
    ids.insert("t" + std::to_string(fresh));
    takes.push_back(std::make_shared<const Json>(std::move(take)));
    ++out.added;
  }
  out.edit = edit_between(document, next, fmt::format("Takes read: {} added, {} changed", out.added, out.changed));
  return out;
}

}  // namespace cinnabar
