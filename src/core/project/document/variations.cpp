#include "cinnabar/project/document/variations.h"

#include <algorithm>
#include <deque>
#include <string_view>
#include <unordered_map>
#include <unordered_set>

namespace cinnabar {
namespace {

using Member = const Json*;  // nothing: not there

std::string text_at(const Json& value, const char* key) {
  const auto found = value.find(key);
  return found != value.end() && found->is_string() ? found->get<std::string>() : std::string();
}
bool has_id(const Json& value) { return value.is_object() && !text_at(value, "id").empty(); }
bool are_things(Member list) {
  return list && list->is_array() && std::all_of(list->begin(), list->end(), has_id);
}
bool is_object(Member value) { return value && value->is_object(); }

Member member(const Json& object, const std::string& key) {
  const auto found = object.find(key);
  return found == object.end() ? nullptr : &*found;
}
Member thing(const Json& list, const std::string& id) {
  const auto found = std::find_if(list.begin(), list.end(), [&](const Json& t) { return text_at(t, "id") == id; });
  return found == list.end() ? nullptr : &*found;
}

std::optional<Json> along(Member was, Member is, Member own);

Json members_along(const Json& was, const Json& is, const Json& own) {
  std::set<std::string> keys;
  for (const Json* side : {&was, &is})
    for (const auto& [key, value] : side->items()) keys.insert(key);
  keys.erase("measured");
  Json out = own;
  for (const std::string& key : keys) {
    auto next = along(member(was, key), member(is, key), member(own, key));
    if (next)
      out[key] = std::move(*next);
    else
      out.erase(key);
  }
  return out;
}

Json things_along(const Json& was, const Json& is, const Json& own) {
  Json out = Json::array();
  for (const Json& item : own) {
    const std::string id = text_at(item, "id");
    if (auto next = along(thing(was, id), thing(is, id), &item)) out.push_back(std::move(*next));
  }
  for (const Json& item : is) {
    const std::string id = text_at(item, "id");
    if (thing(was, id) || thing(own, id)) continue;
    out.push_back(item);
    out.back().erase("measured");
  }
  return out;
}

std::optional<Json> along(Member was, Member is, Member own) {
  const auto copy = [](Member value) { return value ? std::optional(*value) : std::nullopt; };
  if (is_object(was) && is_object(is) && is_object(own)) return members_along(*was, *is, *own);
  if (are_things(was) && are_things(is) && are_things(own)) return things_along(*was, *is, *own);
  const bool alike = was && own ? *was == *own : was == own;
  return copy(alike ? is : own);
}

Json without_names(Json setup) {
  for (const char* key : {"id", "name", "of"}) setup.erase(key);
  return setup;
}

}  // namespace

std::optional<Json> gone_along(const std::optional<Json>& was, const std::optional<Json>& is,
                               const std::optional<Json>& own) {
  const auto member = [](const std::optional<Json>& value) { return value ? &*value : nullptr; };
  return along(member(was), member(is), member(own));
}

std::string varied_from(const Json& setup) { return text_at(setup, "of"); }

Document with_variations_along(const Document& before, Document after) {
  const auto& setups = after.list("setups");
  if (std::none_of(setups.begin(), setups.end(), [](const JsonPtr& s) { return !varied_from(*s).empty(); }))
    return after;
  const auto& old = before.list("setups");
  std::deque<std::string> changed;
  for (std::size_t i = 0; i < setups.size(); ++i)  // by address: whoever changes one leaves the others
    if (i >= old.size() || old[i] != setups[i]) changed.push_back(text_at(*setups[i], "id"));
  std::set<std::string> done;  // set-ups that go round in a circle are told by validation, and end here
  while (!changed.empty()) {
    const std::string id = changed.front();
    changed.pop_front();
    const Json *was = before.find("setups", id), *is = after.find("setups", id);
    if (!was || !is || was == is || *was == *is || !done.insert(id).second) continue;
    const Json from = without_names(*was), to = without_names(*is);
    for (JsonPtr& other : after.lists["setups"]) {
      if (varied_from(*other) != id || text_at(*other, "id") == id || done.contains(text_at(*other, "id")))
        continue;
      Json next = members_along(from, to, *other);
      if (next == *other) continue;
      other = std::make_shared<const Json>(std::move(next));
      changed.push_back(text_at(*other, "id"));
    }
  }
  return after;
}

std::set<std::string> setups_along(const Document& document, const std::string& setup) {
  std::set<std::string> along{setup};
  for (bool more = true; more;) {
    more = false;
    for (const JsonPtr& one : document.list("setups"))
      if (const std::string of = varied_from(*one); !of.empty() && along.contains(of))
        more = along.insert(text_at(*one, "id")).second || more;
  }
  return along;
}

namespace {
/// Whether a camera can tell two states of a set-up apart: by anything but its name, its pins and whose variation
/// it is.
bool seen_alike(const Json& a, const Json& b) {
  const auto counts = [](const std::string& key) { return key != "name" && key != "of" && key != "pins"; };
  std::ptrdiff_t more = 0;  // members of one over those of the other
  for (const auto& [key, value] : b.items()) more += counts(key) ? 1 : 0;
  for (const auto& [key, value] : a.items()) {
    if (!counts(key)) continue;
    const auto other = b.find(key);
    if (other == b.end() || *other != value) return false;
    --more;
  }
  return more == 0;
}
}  // namespace

std::vector<std::size_t> touched_shots(const Document& before, const Document& after) {
  std::unordered_map<std::string_view, const JsonPtr*> old;
  for (const JsonPtr& setup : before.list("setups")) old.try_emplace(id_of(setup), &setup);
  std::unordered_set<std::string> changed;
  for (const JsonPtr& setup : after.list("setups"))
    if (const auto was = old.find(id_of(setup));
        was != old.end() && *was->second != setup && !seen_alike(**was->second, *setup))
      changed.insert(id_of(setup));
  std::vector<std::size_t> shots;
  if (changed.empty()) return shots;
  std::unordered_set<std::string_view> there;
  for (const JsonPtr& shot : before.list("shots")) there.insert(id_of(shot));
  const auto& list = after.list("shots");
  for (std::size_t i = 0; i < list.size(); ++i)
    if (changed.contains(text_at(*list[i], "setup")) && there.contains(id_of(list[i]))) shots.push_back(i);
  return shots;
}

}  // namespace cinnabar
