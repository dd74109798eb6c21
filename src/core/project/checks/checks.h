// What the checks of a document share: ranges, ids that may be named, and lists of things with ids. For validation
// only.
#pragma once
#include <map>
#include <set>
#include <string>

#include "cinnabar/project/checks/inspection.h"
#include "cinnabar/project/model/blobs.h"
#include "cinnabar/project/model/fields.h"
#include "cinnabar/project/model/names.h"
#include "cinnabar/project/model/ranges.h"

namespace cinnabar {

/// Ids that references may name.
struct Ids {
  std::map<std::string, std::set<std::string>> by_list;
  std::map<std::string, std::set<std::string>> modes;                      // of a camera
  std::map<std::string, std::set<std::string>> setup_lights, setup_cards;  // of a set-up
  std::map<std::string, std::string> setups_of;                            // variations, and what each varies
  std::set<std::string> features;                                          // as "product/feature"
  std::map<std::string, std::shared_ptr<const Blob>> blobs;
  bool look_into_blobs = false;  // whether what they hold is looked at, or only whether they are there

  [[nodiscard]] bool has(const std::string& list, const std::string& id) const {
    const auto found = by_list.find(list);
    return found != by_list.end() && found->second.contains(id);
  }
};

inline void reference(const Object& o, const std::string& key, const Ids& ids, const std::string& list,
                      bool required = false) {
  const auto id = o.text(key, required);
  if (id && !ids.has(list, *id))
    o.fault(key, "names \"" + *id + "\", which is not in " + list, "name one of that list, or add it there");
}

/// A member that names a blob, and what that must hold.
inline std::optional<std::string> blob_reference(const Object& o, const std::string& key, const Ids& ids,
                                                 BlobUse use, const std::string& else_mend) {
  const auto id = o.text(key);
  if (!id) return id;
  const auto blob = ids.blobs.find(*id);
  if (blob == ids.blobs.end())
    o.fault(key, "names \"" + *id + "\", which is not in blobs", "name a blob, or " + else_mend);
  else if (const auto fault = ids.look_into_blobs ? blob_fault(*blob->second, use) : std::nullopt)
    o.fault(key, "names \"" + *id + "\": " + fault->place + " " + fault->message,
            fault->mend + ", or " + else_mend);
  return id;
}

/// Every item of a list has a text id of its own; `each` sees the item.
template <class F>
void identified(const Object& o, const std::string& key, F each, bool required = false,
                std::size_t most = 100000) {
  std::set<std::string> seen;
  o.list(
      key,
      [&](const Object& item) {
        if (!item.is_object()) return;
        const auto id = item.text("id", true);
        if (id && id->empty()) item.fault("id", "is empty", "give a short name");
        if (id && !seen.insert(*id).second)
          item.fault("id", "\"" + *id + "\" is used twice in this list", "give each its own");
        each(item);
      },
      required, most);
}

/// What the rows of an entity's fields say, and what more is said of it by hand (`more_of`).
void check_fields(const Object& o, const Fields& fields, const Ids& ids);
/// What rows cannot say of an entity: one member against another, outlines, pen strokes. Nothing for most.
using More = void (*)(const Object&, const Ids&);
[[nodiscard]] More more_of(const Fields& fields);

}  // namespace cinnabar
