#include "cinnabar/project/document/differences.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "cinnabar/base/encoding.h"
#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/project/document/edit.h"
#include "cinnabar/project/document/json_text.h"

namespace cinnabar {
namespace {

std::string value_words(const Json& v) {
  if (v.is_string()) return v.get<std::string>();
  if (v.is_number()) return number_text(v.get<double>(), 6);
  return clipped(json_text(v), 60);
}

bool has_ids(const Json& list) {
  return list.is_array() && !list.empty() && std::all_of(list.begin(), list.end(), [](const Json& item) {
           return item.is_object() && item.contains("id") && item["id"].is_string();
         });
}
const Json* by_id(const Json& list, const Json& id) {
  for (const Json& item : list)
    if (item["id"] == id) return &item;
  return nullptr;
}

class Telling {
 public:
  explicit Telling(std::string thing) : thing_(std::move(thing)) {}
  std::vector<std::string> lines;

  void compare(const std::string& path, const Json& before, const Json& after) {
    if (before == after) return;
    if (before.is_object() && after.is_object()) {
      std::set<std::string> keys;
      for (const Json* side : {&before, &after})
        for (const auto& [key, value] : side->items()) keys.insert(key);
      for (const std::string& key : keys) {
        const std::string below = path.empty() ? key : path + "/" + key;
        const auto was = before.find(key), is = after.find(key);
        if (was == before.end())
          say(below + " " + value_words(*is) + ", was not there");
        else if (is == after.end())
          say(below + " taken out, was " + value_words(*was));
        else
          compare(below, *was, *is);
      }
      return;
    }
    if (has_ids(before) || has_ids(after)) {
      if ((before.empty() || has_ids(before)) && (after.empty() || has_ids(after)))
        return items(path, before, after);
    }
    say(said("{} {}, was {}", path, value_words(after), value_words(before)));
  }

 private:
  void say(const std::string& what) { lines.push_back(thing_ + ": " + what); }
  void items(const std::string& path, const Json& before, const Json& after) {
    const auto below = [&](const Json& item) { return path + "/" + item["id"].get<std::string>(); };
    for (const Json& item : after) {
      if (const Json* was = by_id(before, item["id"]))
        compare(below(item), *was, item);
      else
        say(below(item) + " added");
    }
    for (const Json& item : before)
      if (!by_id(after, item["id"])) say(below(item) + " taken away");
  }
  std::string thing_;
};

std::string named(const std::string& list, const Json& entity) {
  static const std::vector<std::pair<std::string, std::string>> kinds{{"shots", "Shot"},
                                                                      {"setups", "Set-up"},
                                                                      {"products", "Product"},
                                                                      {"deliverables", "Deliverable"},
                                                                      {"kit/cameras", "Camera"},
                                                                      {"kit/lenses", "Lens"},
                                                                      {"kit/lights", "Light kit"},
                                                                      {"kit/supports", "Support"},
                                                                      {"kit/media", "Card"},
                                                                      {"kit/batteries", "Battery"},
                                                                      {"takes", "Take"}};
  std::string kind = list;
  for (const auto& [key, word] : kinds)
    if (key == list) kind = word;
  const std::string name = entity.is_object() ? entity.value("name", std::string()) : std::string();
  return kind + " " + (name.empty() && entity.is_object() ? entity.value("id", std::string()) : name);
}

}  // namespace

std::vector<std::string> differences_in_words(const Document& before, const Document& after, std::size_t most) {
  std::vector<std::string> lines;
  for (const Change& change : edit_between(before, after, "").changes) {
    if (change.list == "blobs") {
      lines.push_back(said("Picture {}: {}", change.id,
                           !change.before  ? "added"
                           : !change.after ? "taken away"
                                           : "another one"));
      continue;
    }
    if (!change.list.empty() && change.id.empty()) continue;  // the list itself came or went; its items say so
    const Json& shown = change.after ? *change.after : *change.before;
    std::string thing = change.list.empty() ? change.id : named(change.list, shown);
    if (!thing.empty()) thing[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(thing[0])));
    if (!change.before || !change.after) {
      lines.push_back(thing + (change.after ? ": added" : ": taken away"));
      continue;
    }
    Telling words(thing);
    words.compare("", *change.before, *change.after);
    if (*change.before == *change.after && change.place_before != change.place_after)
      words.lines.push_back(said("{}: number {}, was {}", thing, change.place_after.value_or(0) + 1,
                                 change.place_before.value_or(0) + 1));
    lines.insert(lines.end(), words.lines.begin(), words.lines.end());
  }
  if (lines.size() > most) {
    const std::size_t more = lines.size() - most + 1;
    lines.resize(most - 1);
    lines.push_back(said("and {} more", more));
  }
  return lines;
}

}  // namespace cinnabar
