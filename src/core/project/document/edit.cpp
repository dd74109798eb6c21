#include "cinnabar/project/document/edit.h"

#include <algorithm>
#include <set>
#include <unordered_map>
#include <unordered_set>

namespace cinnabar {
namespace {

Json blob_json(const Blob& blob) {
  Json value = blob.fields;
  value["data"] = base64_encoded(blob.bytes);
  return value;
}

/// What differs between two lists. What both begin and end with is passed over by address, so that the cost grows
/// with the change.
void list_changes(const std::string& key, const std::vector<JsonPtr>& before, const std::vector<JsonPtr>& after,
                  std::vector<Change>& out) {
  std::size_t from = 0, tail = 0;
  const std::size_t shorter = std::min(before.size(), after.size());
  while (from < shorter && before[from] == after[from]) ++from;
  while (before.size() == after.size() && from + tail < shorter &&
         before[before.size() - 1 - tail] == after[after.size() - 1 - tail])
    ++tail;
  const std::size_t before_end = before.size() - tail, after_end = after.size() - tail;
  std::unordered_map<std::string_view, std::size_t> old_place;
  for (std::size_t i = from; i < before_end; ++i) old_place.try_emplace(id_of(before[i]), i);
  std::unordered_set<std::string_view> kept;
  for (std::size_t i = from; i < after_end; ++i) {
    const std::string& id = id_of(after[i]);
    const auto old = old_place.find(id);
    const int place = static_cast<int>(i);
    if (old == old_place.end()) {
      out.push_back({key, id, {}, *after[i], {}, place});
      continue;
    }
    kept.insert(id);
    const JsonPtr& was = before[old->second];
    if (old->second != i || (was != after[i] && *was != *after[i]))
      out.push_back({key, id, *was, *after[i], static_cast<int>(old->second), place});
  }
  for (std::size_t i = from; i < before_end; ++i)
    if (!kept.contains(id_of(before[i])))
      out.push_back({key, id_of(before[i]), *before[i], {}, static_cast<int>(i), {}});
}

struct Placed {
  int place;
  JsonPtr entity;
};

/// A list without some of its entities and with others put where they belong, in one walk.
std::vector<JsonPtr> rearranged(const std::vector<JsonPtr>& list, const std::unordered_set<std::string_view>& gone,
                                std::vector<Placed> placed) {
  std::stable_sort(placed.begin(), placed.end(),
                   [](const Placed& a, const Placed& b) { return a.place < b.place; });
  std::vector<JsonPtr> out;
  out.reserve(list.size() + placed.size());
  auto next = placed.begin();
  const auto due = [&] { return next != placed.end() && next->place <= static_cast<int>(out.size()); };
  for (const JsonPtr& entity : list) {
    if (!gone.empty() && gone.contains(id_of(entity))) continue;
    while (due()) out.push_back((next++)->entity);
    out.push_back(entity);
  }
  for (; next != placed.end(); ++next) out.push_back(next->entity);
  return out;
}

}  // namespace

Edit edit_between(const Document& before, const Document& after, std::string title) {
  Edit edit{std::move(title), {}};
  std::set<std::string> keys;
  for (const auto* doc : {&before, &after})
    for (const auto& [key, value] : doc->singles) keys.insert(key);
  for (const std::string& key : keys) {
    const Json *was = before.single(key), *is = after.single(key);
    if (was == is || (was && is && *was == *is)) continue;
    edit.changes.push_back(
        {"", key, was ? std::optional(*was) : std::nullopt, is ? std::optional(*is) : std::nullopt, {}, {}});
  }
  keys.clear();
  for (const auto* doc : {&before, &after})
    for (const auto& [key, value] : doc->lists) keys.insert(key);
  for (const std::string& key : keys) {
    if (before.lists.contains(key) != after.lists.contains(key)) {
      // A list that appears or goes is itself a change, kept as an entity without an id.
      Change presence{key, "", {}, {}, {}, {}};
      (after.lists.contains(key) ? presence.after : presence.before) = Json::array();
      edit.changes.push_back(std::move(presence));
    }
    list_changes(key, before.list(key), after.list(key), edit.changes);
  }
  keys.clear();
  for (const auto* doc : {&before, &after})
    for (const auto& [id, blob] : doc->blobs) keys.insert(id);
  for (const std::string& id : keys) {
    const auto was = before.blobs.find(id), is = after.blobs.find(id);
    const bool had = was != before.blobs.end(), has = is != after.blobs.end();
    if (had && has && (was->second == is->second || *was->second == *is->second)) continue;
    Change change{"blobs", id, {}, {}, {}, {}};
    if (had) change.before = blob_json(*was->second);
    if (has) change.after = blob_json(*is->second);
    edit.changes.push_back(std::move(change));
  }
  edit.passage = std::make_shared<const Edit::Passage>(Edit::Passage{before, after});
  return edit;
}

Document applied(const Document& document, const Edit& edit, bool forward) {
  if (edit.passage && document.shares_all_with(forward ? edit.passage->before : edit.passage->after))
    return forward ? edit.passage->after : edit.passage->before;
  Document next = document;
  struct ListChange {
    std::unordered_set<std::string_view> gone;
    std::vector<Placed> placed;
  };
  std::map<std::string, ListChange> lists;
  for (const Change& change : edit.changes) {
    const auto& from = forward ? change.before : change.after;
    const auto& to = forward ? change.after : change.before;
    const auto& place = forward ? change.place_after : change.place_before;
    if (change.list.empty()) {
      if (to)
        next.singles[change.id] = std::make_shared<const Json>(*to);
      else
        next.singles.erase(change.id);
    } else if (change.list == "blobs") {
      next.blobs.erase(change.id);
      if (to) {
        Blob blob{*to, base64_decoded(to->value("data", "")).value_or(std::vector<unsigned char>{})};
        blob.fields.erase("data");
        next.blobs[change.id] = std::make_shared<const Blob>(std::move(blob));
      }
    } else if (!change.id.empty()) {
      auto& list = lists[change.list];
      if (from) list.gone.insert(change.id);
      if (to) list.placed.push_back({place.value_or(1 << 30), std::make_shared<const Json>(*to)});
    } else if (to) {
      next.lists[change.list];
    }
  }
  for (auto& [key, list] : lists) {
    auto& own = next.lists[key];
    own = rearranged(own, list.gone, std::move(list.placed));
  }
  for (const Change& change : edit.changes) {  // a list that goes may have been made again above
    const auto& to = forward ? change.after : change.before;
    if (!change.list.empty() && change.list != "blobs" && change.id.empty() && !to) next.lists.erase(change.list);
  }
  return next;
}

}  // namespace cinnabar
