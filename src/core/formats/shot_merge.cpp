#include "cinnabar/formats/shot_merge.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include "cinnabar/base/encoding.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/document/json_text.h"

namespace cinnabar {
namespace {

using Shots = std::vector<std::pair<std::string, const Json*>>;  // in order

const Json* in(const Shots& shots, const std::string& id) {
  for (const auto& [own, json] : shots)
    if (own == id) return json;
  return nullptr;
}
std::vector<std::string> order_of(const Shots& shots, const std::set<std::string>& among) {
  std::vector<std::string> ids;
  for (const auto& [id, json] : shots)
    if (among.contains(id)) ids.push_back(id);
  return ids;
}

/// Short enough for a table.
std::string told(const Json* value) {
  if (!value) return "nothing";
  return clipped(value->is_string() ? value->get<std::string>() : json_text(*value), 60);
}

Expected<Shots> shots_of(const Json& value, const std::string& key, const std::string& file) {
  Shots shots;
  std::set<std::string> seen;
  const auto found = value.find(key);
  if (found == value.end()) return shots;
  if (!found->is_array() || found->size() > 100000)
    return fail(file, "\"" + key + "\" is no list of shots", "give a list as `export --to shots-json` writes it",
                Fault::input);
  for (std::size_t k = 0; k < found->size(); ++k) {
    const Json& shot = (*found)[k];
    if (!shot.is_object() || !shot.contains("id") || !shot["id"].is_string() || shot["id"] == "")
      return fail(file, fmt::format("/{}/{} has no id", key, k), "give every shot the id it had", Fault::input);
    if (!seen.insert(shot["id"]).second)
      return fail(file, fmt::format("/{}/{}: shot \"{}\" is there twice", key, k, shot["id"].get<std::string>()),
                  "keep one of them", Fault::input);
    shots.emplace_back(shot["id"], &shot);
  }
  return shots;
}

class Merge {
 public:
  Merge(const Document& document, Shots base, Shots theirs)
      : document_(document), base_(std::move(base)), theirs_(std::move(theirs)) {
    for (const JsonPtr& shot : document.list("shots")) mine_.emplace_back(shot->at("id"), shot.get());
  }

  ShotsRead read() {
    Document next = document_;
    for (const auto& [id, shot] : theirs_) next = with_shot(next, id, *shot);
    for (const auto& [id, was] : base_)
      if (!in(theirs_, id)) next = without_shot(next, id, *was);
    next = in_their_order(std::move(next));
    out_.edit =
        edit_between(document_, next, fmt::format("Shots read: {} added, {} changed", out_.added, out_.changed));
    return std::move(out_);
  }

 private:
  void conflict(const std::string& id, const Json& named, const std::string& pointer, const Json* mine,
                const Json* theirs) {
    out_.conflicts.push_back({.shot = id,
                              .name = named.value("name", id),
                              .field = pointer.empty() ? "the shot" : pointer.substr(1),
                              .mine = told(mine),
                              .theirs = told(theirs),
                              .pointer = pointer,
                              .value = theirs ? *theirs : Json(),
                              .removed = theirs == nullptr});
  }

  /// A document as it would be, if that is valid; else the one before, and the fault is told.
  Document tried(const Document& before, Document after, const std::string& id) {
    const auto faults = validate(after, edit_between(before, after, ""));
    if (faults.empty()) return after;
    out_.faults.push_back(
        fmt::format("shot {}: {} {}; {}", id, faults.front().path, faults.front().message, faults.front().mend));
    return before;
  }

  Document with_shot(const Document& before, const std::string& id, const Json& shot) {
    const Json *was = in(base_, id), *here = in(mine_, id);
    Document next = before;
    auto& list = next.lists["shots"];
    if (!here) {
      if (was && *was == shot) return before;  // taken away here, untouched there
      if (was) {
        conflict(id, shot, "", nullptr, &shot);
        return before;
      }
      list.push_back(std::make_shared<const Json>(shot));
      next = tried(before, std::move(next), id);
      out_.added += next.list("shots").size() > before.list("shots").size() ? 1 : 0;
      return next;
    }
    Json merged = *here;
    const std::size_t conflicts = out_.conflicts.size();
    merge(id, *here, was, *here, shot, "", merged);
    if (merged == *here) return before;
    for (JsonPtr& own : list)
      if (own->at("id") == id) own = std::make_shared<const Json>(merged);
    next = tried(before, std::move(next), id);
    if (next.find("shots", id) && *next.find("shots", id) == merged)
      ++out_.changed;
    else
      out_.conflicts.resize(conflicts);  // it was refused as a whole
    return next;
  }

  /// Goes down both sides where they are objects; a list is one value.
  void merge(const std::string& id, const Json& named, const Json* was, const Json& mine, const Json& theirs,
             const std::string& pointer, Json& merged) {
    std::set<std::string> keys;
    for (const Json* side : {&mine, &theirs})
      for (const auto& [key, value] : side->items()) keys.insert(key);
    const auto member = [](const Json* object, const std::string& key) -> const Json* {
      if (!object || !object->is_object()) return nullptr;
      const auto found = object->find(key);
      return found == object->end() ? nullptr : &*found;
    };
    const auto same = [](const Json* a, const Json* b) { return a && b ? *a == *b : a == b; };
    for (const std::string& key : keys) {
      const Json *before = member(was, key), *here = member(&mine, key), *there = member(&theirs, key);
      const std::string at = pointer_to(pointer, key);
      if (same(here, there)) continue;
      if (here && there && here->is_object() && there->is_object()) {
        merge(id, named, before, *here, *there, at, merged);
      } else if (was_known() && same(before, there)) {
        // changed here only: it stays
      } else if (was_known() && same(before, here)) {
        put(merged, at, there);
      } else {
        conflict(id, named, at, here, there);
      }
    }
  }
  [[nodiscard]] bool was_known() const { return !base_.empty(); }

  static void put(Json& shot, const std::string& pointer, const Json* value) {
    const Json::json_pointer at(pointer);
    if (value)
      shot[at] = *value;
    else
      shot[at.parent_pointer()].erase(at.back());
  }

  Document without_shot(const Document& before, const std::string& id, const Json& was) {
    const Json* here = in(mine_, id);
    if (!here) return before;
    if (*here != was) {
      conflict(id, *here, "", here, nullptr);
      return before;
    }
    Document next = before;
    std::erase_if(next.lists["shots"], [&](const JsonPtr& s) { return s->at("id") == id; });
    next = tried(before, std::move(next), id);
    out_.changed += next.list("shots").size() < before.list("shots").size() ? 1 : 0;
    return next;
  }

  Document in_their_order(Document next) {
    std::set<std::string> common;
    for (const JsonPtr& s : next.list("shots")) {
      const std::string id = s->at("id");
      if (in(base_, id) && in(theirs_, id) && in(mine_, id)) common.insert(id);
    }
    const auto before = order_of(base_, common), here = order_of(mine_, common), there = order_of(theirs_, common);
    if (there == before || there == here) return next;
    if (here != before) {
      out_.faults.push_back("the order was changed on both sides; it stays as it is here");
      return next;
    }
    std::map<std::string, std::size_t> place;
    for (std::size_t k = 0; k < theirs_.size(); ++k) place[theirs_[k].first] = k;
    std::stable_sort(next.lists["shots"].begin(), next.lists["shots"].end(),
                     [&](const JsonPtr& a, const JsonPtr& b) {
                       const auto pa = place.find(a->at("id")), pb = place.find(b->at("id"));
                       const std::size_t last = theirs_.size();
                       return (pa == place.end() ? last : pa->second) < (pb == place.end() ? last : pb->second);
                     });
    ++out_.changed;
    return next;
  }

  const Document& document_;
  Shots base_, theirs_, mine_;
  ShotsRead out_;
};

}  // namespace

Json shots_json(const Document& document) {
  Json shots = Json::array();
  for (const JsonPtr& shot : document.list("shots")) shots.push_back(*shot);
  return {{"format", "cinnabar-shots"}, {"version", 1}, {"shots", shots}, {"as_written", shots}};
}
bool is_shots_json(const Json& value) {
  const auto format = value.is_object() ? value.find("format") : value.end();
  return value.is_object() && format != value.end() && *format == "cinnabar-shots";
}

Expected<ShotsRead> shots_from_json(const Document& document, const Json& value, const std::string& file) {
  if (!is_shots_json(value))
    return fail(file, "is no list of shots", "give a file as `export --to shots-json` writes it", Fault::input);
  if (value.value("version", Json()) != 1)
    return fail(file, "is of another version of this format", "give one of version 1", Fault::input);
  if (!value.contains("shots"))
    return fail(file, "has no \"shots\"", "give a file as `export --to shots-json` writes it", Fault::input);
  auto theirs = shots_of(value, "shots", file), base = shots_of(value, "as_written", file);
  if (!theirs) return tl::unexpected(theirs.error());
  if (!base) return tl::unexpected(base.error());
  return Merge(document, std::move(*base), std::move(*theirs)).read();
}

Expected<ShotsRead> shots_from_text(const Document& document, const std::string& text, const std::string& file) {
  if (file.ends_with(".txt")) return shots_from_words(document, text);
  if (file.ends_with(".csv")) return shots_from_table(document, text, file);
  const auto value = parse_json(text, file);
  return value ? shots_from_json(document, *value, file) : tl::unexpected(value.error());
}

}  // namespace cinnabar
