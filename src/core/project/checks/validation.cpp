#include "cinnabar/project/checks/validation.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>
#include <unordered_set>

#include "cinnabar/base/range.h"
#include "cinnabar/base/text.h"
#include "cinnabar/project/checks/checks.h"
#include "cinnabar/project/document/json_text.h"
#include "cinnabar/project/document/variations.h"

namespace cinnabar {
namespace {

void note_ids(Ids& ids, const std::string& list, const Json& entity) {
  if (!entity.is_object() || !entity.contains("id") || !entity["id"].is_string()) return;
  const std::string id = entity["id"].get<std::string>();
  ids.by_list[list].insert(id);
  const auto inner = [&](const char* member, std::set<std::string>& into) {
    if (!entity.contains(member) || !entity[member].is_array()) return;
    for (const Json& item : entity[member])
      if (item.is_object() && item.contains("id") && item["id"].is_string())
        into.insert(item["id"].get<std::string>());
  };
  if (list == "kit/cameras") inner("modes", ids.modes[id]);
  if (list == "setups") {
    inner("lights", ids.setup_lights[id]), inner("cards", ids.setup_cards[id]);
    if (const std::string of = varied_from(entity); !of.empty()) ids.setups_of[id] = of;
  }
  if (list == "products") {
    std::set<std::string> own;
    inner("features", own);
    for (const std::string& f : own) ids.features.insert(id + "/" + f);
  }
}

void entity(const std::string& list, const Object& o, const Ids& ids) {
  if (const Fields* fields = fields_of(list)) check_fields(o, *fields, ids);
}

DocumentFault too_deep(const std::string& path) {
  return {path, fmt::format("is nested more than {} deep", deepest_json), "leave out what is within"};
}
void check_entity(const std::string& list, const Json& item, const std::string& path, const Ids& ids,
                  std::vector<DocumentFault>& faults) {
  if (depth_of(item) > deepest_json - 2)
    faults.push_back(too_deep(path));
  else
    entity(list, Object(item, path, faults), ids);
}

/// Why a blob does not hold what its type says.
std::optional<Error> fault_by_type(const Blob& blob, const std::string& type) {
  static const std::map<std::string, BlobUse> uses{{"model/stl", BlobUse::mesh},
                                                   {"image/png", BlobUse::picture},
                                                   {"application/x-ies", BlobUse::measured_light}};
  const auto use = uses.find(type);
  return use == uses.end() ? std::nullopt : blob_fault(blob, use->second);
}

/// What stands at the top; blobs that can be read are put `into` what references are held against.
void singles(const Object& root, std::map<std::string, std::shared_ptr<const Blob>>& into) {
  const auto format = root.text("format", true);
  if (format && *format != "cinnabar-project")
    root.fault("format", "is \"" + *format + "\"", "give \"cinnabar-project\"");
  const auto version = root.number("version", Range{1.0, 1e6, false, false, true}, true);
  if (version && *version > 1.0)
    root.fault("version", "is newer than this program knows", "open it with a newer Cinnabar");
  static const Ids none;
  if (const auto project = root.object("project", true)) check_fields(*project, project_fields(), none);
  if (const auto rules = root.object("house_rules")) check_fields(*rules, house_rules_fields(), none);
  if (const auto bands = root.object("bands"); bands && bands->is_object())
    for (const auto& [key, band] : bands->value().items()) {
      const auto o = bands->object(key);
      if (!o || !o->is_object()) continue;
      const auto low = o->number("low", any_number), high = o->number("high", any_number);
      if (low && high && *low >= *high) o->fault("high", "is not above low", "give low < high, or null for none");
      o->text("reason");
    }
  if (const auto blobs = root.object("blobs"); blobs && blobs->is_object())
    for (const auto& [id, value] : blobs->value().items()) {
      const auto blob = blobs->object(id);
      if (!blob || !blob->is_object()) continue;
      const auto type = blob->text("type"), data = blob->text("data", true);
      auto bytes = data ? base64_decoded(*data) : std::nullopt;
      if (data && !bytes) blob->fault("data", "is no base64", "encode the bytes as RFC 4648 says");
      if (!bytes) continue;
      auto held = std::make_shared<const Blob>(Blob{Json{{"type", type.value_or("")}}, std::move(*bytes)});
      if (const auto fault = type ? fault_by_type(*held, *type) : std::nullopt)
        blob->fault("data", fault->place + " " + fault->message, fault->mend);
      into[id] = std::move(held);
    }
}

const Names& model_lists() {
  static const Names lists = [] {
    Names names;
    for (const auto& [name, fields] : entity_fields()) names.push_back(name);
    return names;
  }();
  return lists;
}

Ids ids_of(const Document& doc) {
  Ids ids;
  for (const auto& [key, list] : doc.lists)
    if (key != "takes")
      for (const JsonPtr& item : list) note_ids(ids, key, *item);
  ids.blobs = doc.blobs;
  return ids;
}

}  // namespace

std::vector<DocumentFault> validate(const Json& document) {
  std::vector<DocumentFault> faults;
  if (depth_of(document) > deepest_json) return {too_deep("")};
  const Object root(document, "", faults);
  if (!root.is_object()) return faults;
  Ids ids;
  ids.look_into_blobs = true;
  singles(root, ids.blobs);
  for (const auto& [key, value] : document.items())
    if (key.starts_with("kit/"))
      root.fault(key, "has a name that means a list of the kit", "put the list into \"kit\"");
  const auto kit = root.object("kit");
  const auto find_list = [&](const std::string& list) -> const Json* {
    const bool in_kit = list.starts_with("kit/");
    if (in_kit && (!kit || !kit->is_object())) return nullptr;
    const Json& holder = in_kit ? kit->value() : document;
    const auto found = holder.find(in_kit ? list.substr(4) : list);
    return found == holder.end() ? nullptr : &*found;
  };
  for (const std::string& list : model_lists())
    if (const Json* items = find_list(list); items && items->is_array())
      for (const Json& item : *items) note_ids(ids, list, item);
  for (const std::string& list : model_lists()) {
    const bool in_kit = list.starts_with("kit/");
    if (in_kit && (!kit || !kit->is_object())) continue;
    identified(
        in_kit ? *kit : root, in_kit ? list.substr(4) : list, [&](const Object& item) { entity(list, item, ids); },
        false, list == "takes" ? 1000000 : 100000);
  }
  return faults;
}

EntityCheck::EntityCheck(const Document& document) : ids_(std::make_shared<const Ids>(ids_of(document))) {}

std::vector<DocumentFault> EntityCheck::faults(const std::string& list, const Json& item,
                                               const std::string& path) const {
  std::vector<DocumentFault> faults;
  check_entity(list, item, path, *ids_, faults);
  return faults;
}

std::vector<DocumentFault> validate(const Document& document) { return validate(document.to_json()); }

std::vector<DocumentFault> validate(const Document& after, const Edit& edit) {
  bool references_moved = false, in_singles = false, shots_went = false;
  std::map<std::string, std::unordered_set<std::string_view>> touched;  // by list
  for (const Change& change : edit.changes) {
    const bool is_single = change.list.empty() || change.list == "blobs";
    in_singles = in_singles || is_single;
    if (!is_single && change.id.empty()) return validate(after);  // a whole list came or went
    if (change.before == change.after) continue;
    // A set-up's lights and a camera's modes are named by shots; anything that goes may be named elsewhere.
    references_moved = references_moved || !change.after || change.list == "setups" ||
                       change.list == "kit/cameras" || change.list == "products";
    shots_went = shots_went || (change.list == "shots" && !change.after);
    touched[change.list].insert(change.id);
  }
  std::vector<DocumentFault> faults;
  if (in_singles) {
    Json top = Json::object();
    for (const auto& [key, value] : after.singles)
      if (!key.starts_with("kit/")) top[key] = *value;
    if (depth_of(top) > deepest_json - 1) return {too_deep("")};
    const Object root(top, "", faults);
    std::map<std::string, std::shared_ptr<const Blob>> none;
    singles(root, none);
    for (const auto& id : touched["blobs"]) {
      const auto blob = after.blobs.find(std::string(id));
      if (blob == after.blobs.end()) continue;
      const Json& type = blob->second->fields.value("type", Json());
      if (const auto fault = type.is_string() ? fault_by_type(*blob->second, type) : std::nullopt)
        faults.push_back(
            {pointer_to("/blobs", std::string(id)) + "/data", fault->place + " " + fault->message, fault->mend});
    }
    if (top.contains("kit") && !top["kit"].is_object()) root.fault("kit", "is no object", "write { ... }");
    for (const std::string& list : model_lists())
      if (after.singles.contains(list))
        root.fault(list, "is no list of entities with ids", "write [{\"id\": ...}]");
  }
  const Ids ids = ids_of(after);
  for (const auto& [key, list] : after.lists) {
    const bool all = references_moved && (key != "takes" || shots_went);
    const auto& own = touched[key];
    if (!all && own.empty()) continue;
    std::unordered_set<std::string_view> seen;
    seen.reserve(list.size());
    for (std::size_t i = 0; i < list.size(); ++i) {
      const std::string& id = list[i]->at("id").get_ref<const std::string&>();
      const auto path = [i, &list_key = key] { return fmt::format("/{}/{}", list_key, i); };
      if (!seen.insert(id).second)
        faults.push_back({path() + "/id", "\"" + id + "\" is used twice in this list", "give each its own"});
      if (all || own.contains(id)) check_entity(key, *list[i], path(), ids, faults);
    }
  }
  return faults;
}

Expected<Edit> changed(const Document& before, const Values& values, std::string title) {
  const auto after = with_values(before, values);
  if (!after) return tl::unexpected(after.error());
  Edit edit = edit_between(before, *after, std::move(title));
  for (const DocumentFault& f : validate(*after, edit)) return fail(f.path, f.message, f.mend);
  return edit;
}

}  // namespace cinnabar
