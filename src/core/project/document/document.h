// The project document as it is kept: one JSON value per entity, unknown fields and all. Values are shared, so
// copying a document is cheap and comparing two finds what changed by address first.
#pragma once
#include <any>
#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/base/result.h"
#include "cinnabar/project/document/json_ptr.h"

namespace cinnabar {

/// What was read out of a blob's bytes, kept beside them for all who share them. May be asked from any thread.
class BlobMemo {
 public:
  BlobMemo() = default;
  BlobMemo(const BlobMemo&) noexcept {}  // the copy's bytes may come to differ
  BlobMemo& operator=(const BlobMemo&) noexcept {
    value_.reset();
    return *this;
  }

  /// The value as it was read the first time; `read` gives a std::shared_ptr<const T>, or nothing.
  template <class T, class Read>
  [[nodiscard]] std::shared_ptr<const T> get(Read read) const {
    const std::lock_guard lock(mutex_);
    if (const auto* known = std::any_cast<std::shared_ptr<const T>>(&value_)) return *known;
    std::shared_ptr<const T> fresh = read();
    value_ = fresh;
    return fresh;
  }

 private:
  mutable std::mutex mutex_;
  mutable std::any value_;
};

/// A picture, sound or mesh kept in the project: bytes, and its other fields ("type": "image/png").
struct Blob {
  Json fields = Json::object();
  std::vector<unsigned char> bytes;
  BlobMemo memo{};
  bool operator==(const Blob& other) const { return fields == other.fields && bytes == other.bytes; }
};

/// A project's entities. `lists` are keyed "shots", "kit/lights" and so on, each entity carrying its "id";
/// `singles` are everything else at the top level or right under "kit" ("project", "bands", "kit/notes").
struct Document {
  std::map<std::string, JsonPtr> singles;
  std::map<std::string, std::vector<JsonPtr>> lists;
  std::map<std::string, std::shared_ptr<const Blob>> blobs;

  /// Splits one JSON value, as `export --to json` writes it. The value must have passed `validate`.
  [[nodiscard]] static Expected<Document> from_json(const Json& value);
  /// The whole as one JSON value; from_json's exact inverse.
  [[nodiscard]] Json to_json() const;

  [[nodiscard]] const Json* single(const std::string& key) const;
  [[nodiscard]] const std::vector<JsonPtr>& list(const std::string& key) const;
  [[nodiscard]] const Json* find(const std::string& list_key, std::string_view id) const;
  /// Whether both share all their entities; equal ones that do not share them are not found out.
  [[nodiscard]] bool shares_all_with(const Document& other) const {
    return singles == other.singles && lists == other.lists && blobs == other.blobs;
  }
};

/// A new project with nothing but its name and a timeline rate.
[[nodiscard]] Document empty_document(const std::string& name, const std::string& timeline_rate = "24");

/// A document after one value at a JSON pointer was set ("/shots/1/camera/iso"); a new member may be made where
/// its parent exists, "-" appends to a list, and no value removes. What is set in a set-up is set in its
/// variations too, where they had it alike (variations.h). Not validated.
[[nodiscard]] Expected<Document> with_value(const Document&, const std::string& pointer,
                                            const std::optional<Json>& value);

/// Values by JSON pointer, to be set one after the other; no value removes.
using Values = std::vector<std::pair<std::string, std::optional<Json>>>;
[[nodiscard]] Expected<Document> with_values(const Document&, const Values& values);

/// What stands at a JSON pointer, or nothing.
[[nodiscard]] std::optional<Json> value_at(const Document&, const std::string& pointer);

/// Base64 of RFC 4648; decoding takes only what encoding would write.
[[nodiscard]] std::string base64_encoded(const std::vector<unsigned char>& bytes);
[[nodiscard]] std::optional<std::vector<unsigned char>> base64_decoded(std::string_view text);

}  // namespace cinnabar
