#include "cinnabar/project/edit.h"

#include <algorithm>
#include <set>
#include <unordered_map>

namespace cinnabar {
namespace {

const std::string& id_of(const JsonPtr& entity) { return entity->at("id").get_ref<const std::string&>(); }

Json blob_json(const Blob& blob) {
  Json value = blob.fields;
  value["data"] = base64_encoded(blob.bytes);
  return value;
}

void list_changes(const std::string& key, const std::vector<JsonPtr>& before, const std::vector<JsonPtr>& after,
                  std::vector<Change>& out) {
  if (before == after) return;
  std::unordered_map<std::string, int> old_place;
  for (std::size_t i = 0; i < before.size(); ++i) old_place[id_of(before[i])] = static_cast<int>(i);
  std::set<std::string> kept;
  for (std::size_t i = 0; i < after.size(); ++i) {
    const std::string& id = id_of(after[i]);
    const auto old = old_place.find(id);
    const int place = static_cast<int>(i);
    if (old == old_place.end()) {
      out.push_back({key, id, {}, *after[i], {}, place});
      continue;
    }
    kept.insert(id);
    const JsonPtr& was = before[static_cast<std::size_t>(old->second)];
    if (old->second != place || (was != after[i] && *was != *after[i]))
      out.push_back({key, id, *was, *after[i], old->second, place});
  }
  for (std::size_t i = 0; i < before.size(); ++i)
    if (!kept.contains(id_of(before[i])))
      out.push_back({key, id_of(before[i]), *before[i], {}, static_cast<int>(i), {}});
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
  return edit;
}

Document applied(const Document& document, const Edit& edit, bool forward) {
  Document next = document;
  struct Placed {
    int place;
    JsonPtr entity;
  };
  std::map<std::string, std::vector<Placed>> placed;
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
    } else if (change.id.empty()) {
      if (to)
        next.lists[change.list];
      else
        next.lists.erase(change.list);
    } else {
      auto& list = next.lists[change.list];
      if (from) std::erase_if(list, [&](const JsonPtr& e) { return id_of(e) == change.id; });
      if (to) placed[change.list].push_back({place.value_or(1 << 30), std::make_shared<const Json>(*to)});
    }
  }
  for (auto& [key, entities] : placed) {
    std::sort(entities.begin(), entities.end(),
              [](const Placed& a, const Placed& b) { return a.place < b.place; });
    auto& list = next.lists[key];
    for (const Placed& p : entities)
      list.insert(list.begin() + std::min<std::ptrdiff_t>(p.place, static_cast<std::ptrdiff_t>(list.size())),
                  p.entity);
  }
  for (const Change& change : edit.changes) {  // a list that goes may have been made again above
    const auto& to = forward ? change.after : change.before;
    if (!change.list.empty() && change.list != "blobs" && change.id.empty() && !to) next.lists.erase(change.list);
  }
  return next;
}

}  // namespace cinnabar
