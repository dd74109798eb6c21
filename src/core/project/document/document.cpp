#include "cinnabar/project/document/document.h"

#include <fmt/format.h>

#include <algorithm>
#include <unordered_map>

#include "cinnabar/project/document/json_text.h"
#include "cinnabar/project/document/variations.h"

namespace cinnabar {
namespace {

/// Index of a list's item, as RFC 6901 writes it.
std::optional<std::size_t> index_of(const std::string& token) {
  if (token.empty() || token.size() > 7 || token.find_first_not_of("0123456789") != std::string::npos ||
      (token.size() > 1 && token.front() == '0'))
    return std::nullopt;
  return std::stoul(token);
}

bool is_entity(const Json& value) { return value.is_object() && value.contains("id") && value["id"].is_string(); }
bool is_entity_list(const Json& value) {
  return value.is_array() && std::all_of(value.begin(), value.end(), is_entity);
}

/// Where a pointer's first tokens lead: a list's entity, or a single.
struct Place {
  std::string list, single;
  std::size_t index = 0;
  std::string rest;
};

std::vector<std::string> tokens_of(const std::string& pointer) {
  std::vector<std::string> tokens;
  std::size_t from = 1;
  while (from <= pointer.size()) {
    const auto to = std::min(pointer.find('/', from), pointer.size());
    tokens.push_back(pointer.substr(from, to - from));
    from = to + 1;
  }
  return tokens;
}

std::optional<Place> place_of(const Document& doc, const std::string& pointer) {
  const auto tokens = tokens_of(pointer);
  if (tokens.empty() || pointer.empty() || pointer[0] != '/') return std::nullopt;
  const std::size_t depth = tokens[0] == "kit" ? 2 : 1;
  if (tokens.size() < depth) return std::nullopt;
  const std::string key = depth == 2 ? "kit/" + tokens[1] : tokens[0];
  Place place;
  std::size_t used = depth;
  if (doc.singles.contains(key)) {
    place.single = key;
  } else if (const auto list = doc.lists.find(key); list != doc.lists.end() && tokens.size() > depth) {
    const auto index = index_of(tokens[depth]);
    if (!index || *index >= list->second.size()) return std::nullopt;
    place.list = key;
    place.index = *index;
    ++used;
  } else {
    return std::nullopt;
  }
  for (std::size_t i = used; i < tokens.size(); ++i) place.rest += "/" + tokens[i];
  return place;
}

tl::unexpected<Error> no_place(const std::string& pointer) {
  return fail(pointer, "points at nothing in this project", "see `export --to json` for what there is");
}

/// Sets, appends or removes below `root`; false when the parent is not there.
bool set_below(Json& root, const std::string& rest, const std::optional<Json>& value) {
  const Json::json_pointer pointer(rest);
  if (pointer.empty()) {
    if (!value) return false;
    root = *value;
    return true;
  }
  const auto parent_pointer = pointer.parent_pointer();
  if (!root.contains(parent_pointer)) return false;
  Json& parent = root[parent_pointer];
  const std::string& leaf = pointer.back();
  if (parent.is_object()) {
    if (value)
      parent[leaf] = *value;
    else if (parent.erase(leaf) == 0)
      return false;
    return true;
  }
  if (!parent.is_array()) return false;
  if (leaf == "-" && value) {
    parent.push_back(*value);
    return true;
  }
  const auto index = index_of(leaf);
  if (!index || *index >= parent.size()) return false;
  if (value)
    parent[*index] = *value;
  else
    parent.erase(*index);
  return true;
}

/// Takes over the entities of `from` that are equal, so that sharing shows what did not change.
void share_equal(Document& doc, const Document& from) {
  for (auto& [key, value] : doc.singles)
    if (const auto old = from.singles.find(key); old != from.singles.end() && *old->second == *value)
      value = old->second;
  for (auto& [key, list] : doc.lists) {
    const auto old = from.lists.find(key);
    if (old == from.lists.end()) continue;
    std::unordered_map<std::string_view, const JsonPtr*> by_id;
    for (const JsonPtr& other : old->second) by_id.try_emplace(id_of(other), &other);
    for (JsonPtr& item : list)
      if (const auto other = by_id.find(id_of(item)); other != by_id.end() && **other->second == *item)
        item = *other->second;
  }
  for (auto& [key, blob] : doc.blobs)
    if (const auto old = from.blobs.find(key); old != from.blobs.end() && *old->second == *blob)
      blob = old->second;
}

/// An entity put into a list, at its end for "-", or taken out of it; the rest of the document is not looked at.
/// Nothing where the pointer is not of that kind.
std::optional<Expected<Document>> with_entity(const Document& doc, const std::string& pointer,
                                              const std::optional<Json>& value) {
  const auto tokens = tokens_of(pointer);
  const std::size_t depth = !tokens.empty() && tokens[0] == "kit" ? 2 : 1;
  if (pointer.empty() || pointer[0] != '/' || tokens.size() != depth + 1) return std::nullopt;
  const auto list = doc.lists.find(depth == 2 ? "kit/" + tokens[1] : tokens[0]);
  if (list == doc.lists.end()) return std::nullopt;
  const std::string& token = tokens[depth];
  const auto index = index_of(token);
  const bool append = token == "-" && value;
  if (!append && (!index || *index >= list->second.size())) return no_place(pointer);
  if (value && !is_entity(*value))
    return fail(pointer, "would leave an entity without its id", "keep \"id\" as text");
  Document next = doc;
  auto& items = next.lists[list->first];
  if (append)
    items.push_back(std::make_shared<const Json>(*value));
  else if (value)
    items[*index] = std::make_shared<const Json>(*value);
  else
    items.erase(items.begin() + static_cast<std::ptrdiff_t>(*index));
  return next;
}

}  // namespace

Expected<Document> Document::from_json(const Json& value) {
  if (!value.is_object())
    return fail("", "the project is no JSON object", "start with { \"format\": ... }", Fault::input);
  Document doc;
  const auto put = [&doc](const std::string& key, const Json& member) {
    if (!is_entity_list(member)) {
      doc.singles[key] = std::make_shared<const Json>(member);
      return;
    }
    auto& list = doc.lists[key];
    for (const Json& item : member) list.push_back(std::make_shared<const Json>(item));
  };
  for (const auto& [key, member] : value.items()) {
    if (key == "kit" && member.is_object()) {
      doc.singles["kit"] = std::make_shared<const Json>(Json::object());
      for (const auto& [name, list] : member.items()) put("kit/" + name, list);
    } else if (key == "blobs" && member.is_object()) {
      doc.singles["blobs"] = std::make_shared<const Json>(Json::object());
      for (const auto& [id, blob] : member.items()) {
        const auto bytes = blob.is_object() && blob.contains("data") && blob["data"].is_string()
                               ? base64_decoded(blob["data"].get_ref<const std::string&>())
                               : std::nullopt;
        if (!bytes) return fail("/blobs/" + id, "is no base64 picture", "give {\"type\", \"data\"}", Fault::input);
        Blob kept{blob, *bytes};
        kept.fields.erase("data");
        doc.blobs[id] = std::make_shared<const Blob>(std::move(kept));
      }
    } else {
      put(key, member);
    }
  }
  return doc;
}

Json Document::to_json() const {
  Json value = Json::object();
  const auto member = [&value](const std::string& key) -> Json& {
    return key.starts_with("kit/") ? value["kit"][key.substr(4)] : value[key];
  };
  for (const auto& [key, single] : singles) member(key) = *single;
  for (const auto& [key, list] : lists) {
    Json& array = member(key);
    array = Json::array();
    for (const JsonPtr& item : list) array.push_back(*item);
  }
  for (const auto& [id, blob] : blobs) {
    value["blobs"][id] = blob->fields;
    value["blobs"][id]["data"] = base64_encoded(blob->bytes);
  }
  return value;
}

const Json* Document::single(const std::string& key) const {
  const auto found = singles.find(key);
  return found == singles.end() ? nullptr : found->second.get();
}

const std::vector<JsonPtr>& Document::list(const std::string& key) const {
  static const std::vector<JsonPtr> none;
  const auto found = lists.find(key);
  return found == lists.end() ? none : found->second;
}

const Json* Document::find(const std::string& list_key, std::string_view id) const {
  for (const JsonPtr& item : list(list_key))
    if (item->at("id").get_ref<const std::string&>() == id) return item.get();
  return nullptr;
}

Document empty_document(const std::string& name, const std::string& timeline_rate) {
  const Json value{{"format", "cinnabar-project"},
                   {"version", 1},
                   {"project", {{"name", name}, {"timeline_rate", timeline_rate}}},
                   {"products", Json::array()},
                   {"setups", Json::array()},
                   {"shots", Json::array()},
                   {"takes", Json::array()}};
  return *Document::from_json(value);
}

namespace {
Expected<Document> with_value_alone(const Document& doc, const std::string& pointer,
                                    const std::optional<Json>& value) {
  if (value && depth_of(*value) + std::count(pointer.begin(), pointer.end(), '/') > deepest_json)
    return fail(pointer, fmt::format("would be nested more than {} deep", deepest_json), "give a plainer value");
  if (pointer.starts_with("/kit~1")) return no_place(pointer);  // would read as a list of the kit
  if (auto done = with_entity(doc, pointer, value)) return *std::move(done);
  Document next = doc;
  try {
    if (const auto place = place_of(doc, pointer); place && (value || !place->rest.empty())) {
      const bool in_list = !place->list.empty();
      JsonPtr& slot = in_list ? next.lists[place->list][place->index] : next.singles[place->single];
      Json changed = *slot;
      if (!set_below(changed, place->rest, value)) return no_place(pointer);
      if (!in_list || is_entity(changed)) {
        if (in_list || !is_entity_list(changed)) {
          slot = std::make_shared<const Json>(std::move(changed));
          return next;
        }
      } else {
        return fail(pointer, "would leave an entity without its id", "keep \"id\" as text");
      }
    }
    Json whole = doc.to_json();
    if (pointer.empty() || !set_below(whole, pointer, value)) return no_place(pointer);
    auto parsed = Document::from_json(whole);
    if (!parsed) return parsed;
    share_equal(*parsed, doc);
    return parsed;
  } catch (const Json::exception&) {
    return no_place(pointer);
  }
}
}  // namespace

Expected<Document> with_value(const Document& doc, const std::string& pointer, const std::optional<Json>& value) {
  auto next = with_value_alone(doc, pointer, value);
  if (next && pointer.starts_with("/setups")) return with_variations_along(doc, *std::move(next));
  return next;
}

Expected<Document> with_values(const Document& doc, const Values& values) {
  Expected<Document> next = doc;
  for (const auto& [pointer, value] : values) {
    next = with_value(*next, pointer, value);
    if (!next) return next;
  }
  return next;
}

std::optional<Json> value_at(const Document& doc, const std::string& pointer) {
  try {
    const auto place = place_of(doc, pointer);
    const auto tokens = tokens_of(pointer);
    const std::size_t depth = !tokens.empty() && tokens[0] == "kit" ? 2 : 1;
    if (!place && tokens.size() > depth && doc.lists.contains(depth == 2 ? "kit/" + tokens[1] : tokens[0]))
      return std::nullopt;  // no such item
    const Json whole = place ? Json() : doc.to_json();
    const Json& root =
        !place ? whole
               : (place->list.empty() ? *doc.singles.at(place->single) : *doc.lists.at(place->list)[place->index]);
    const Json::json_pointer rest(place ? place->rest : pointer);
    if (!root.contains(rest)) return std::nullopt;
    return root.at(rest);
  } catch (const Json::exception&) {
    return std::nullopt;
  }
}

namespace {
constexpr std::string_view base64_letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
}

std::string base64_encoded(const std::vector<unsigned char>& bytes) {
  std::string text;
  text.reserve((bytes.size() + 2) / 3 * 4);
  for (std::size_t i = 0; i < bytes.size(); i += 3) {
    const std::size_t left = bytes.size() - i;
    const unsigned group = (unsigned(bytes[i]) << 16) | (left > 1 ? unsigned(bytes[i + 1]) << 8 : 0u) |
                           (left > 2 ? unsigned(bytes[i + 2]) : 0u);
    text += base64_letters[group >> 18];
    text += base64_letters[(group >> 12) & 63];
    text += left > 1 ? base64_letters[(group >> 6) & 63] : '=';
    text += left > 2 ? base64_letters[group & 63] : '=';
  }
  return text;
}

std::optional<std::vector<unsigned char>> base64_decoded(std::string_view text) {
  if (text.size() % 4 != 0) return std::nullopt;
  std::vector<unsigned char> bytes;
  bytes.reserve(text.size() / 4 * 3);
  for (std::size_t i = 0; i < text.size(); i += 4) {
    unsigned group = 0;
    int padding = 0;
    for (std::size_t j = 0; j < 4; ++j) {
      const char c = text[i + j];
      const auto at = c == '=' ? std::string_view::npos : base64_letters.find(c);
      if (at == std::string_view::npos) {
        if (c != '=' || i + 4 != text.size() || j < 2) return std::nullopt;
        ++padding;
      } else if (padding > 0) {
        return std::nullopt;
      }
      group = (group << 6) | (at == std::string_view::npos ? 0u : static_cast<unsigned>(at));
    }
    bytes.push_back(static_cast<unsigned char>(group >> 16));
    if (padding < 2) bytes.push_back(static_cast<unsigned char>(group >> 8));
    if (padding < 1) bytes.push_back(static_cast<unsigned char>(group));
  }
  if (base64_encoded(bytes) != text) return std::nullopt;
  return bytes;
}

}  // namespace cinnabar
