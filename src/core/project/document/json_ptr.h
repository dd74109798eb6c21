// A shared JSON value that nobody changes. One that stands in a row of a file is read when it is first looked at.
#pragma once
#include <deque>
#include <memory>
#include <mutex>
#include <nlohmann/json.hpp>
#include <string>
#include <string_view>
#include <vector>

namespace cinnabar {

using Json = nlohmann::json;

/// A row's text and, once it was looked at, its value. Any thread may look.
class StoredJson {
 public:
  StoredJson(std::string_view id, std::string_view text) : id_(id), text_(text) {}
  /// A row that is no JSON object with this id gives an object with nothing but the id.
  [[nodiscard]] const Json& value() const;
  [[nodiscard]] bool damaged() const {
    static_cast<void>(value());
    return damaged_;
  }

 private:
  std::string_view id_, text_;  // in the rows that it belongs to
  mutable std::once_flag once_;
  mutable Json value_;
  mutable bool damaged_ = false;
};

class JsonPtr {
 public:
  JsonPtr() = default;
  JsonPtr(std::nullptr_t) {}
  JsonPtr(std::shared_ptr<const Json> value) : value_(std::move(value)) {}
  JsonPtr(std::shared_ptr<Json> value) : value_(std::move(value)) {}
  explicit JsonPtr(std::shared_ptr<const StoredJson> stored) : stored_(std::move(stored)) {}

  const Json& operator*() const { return stored_ ? stored_->value() : *value_; }
  const Json* operator->() const { return &**this; }
  [[nodiscard]] const Json* get() const { return *this ? &**this : nullptr; }
  explicit operator bool() const { return value_ || stored_; }
  /// Whether it came from a row that could not be read.
  [[nodiscard]] bool damaged() const { return stored_ && stored_->damaged(); }
  /// The same value, not an equal one.
  bool operator==(const JsonPtr&) const = default;

 private:
  std::shared_ptr<const Json> value_;
  std::shared_ptr<const StoredJson> stored_;
};

/// The id that every entity of a list has.
[[nodiscard]] inline const std::string& id_of(const JsonPtr& entity) {
  return entity->at("id").get_ref<const std::string&>();
}

/// Rows that were taken in together, in the order of their places.
class StoredRows {
 public:
  void add(std::string_view id, std::string_view text, int place);
  [[nodiscard]] std::vector<JsonPtr> taken() &&;

 private:
  struct Row {
    int place;
    std::string_view id, text;
  };
  std::deque<std::string> pieces_;  // none of them grows beyond what was set aside for it
  std::vector<Row> rows_;
};

}  // namespace cinnabar
