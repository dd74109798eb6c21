// A JSON object under inspection: validation asks it for members, and it notes what is wrong with them.
#pragma once
#include <fmt/format.h>

#include <cmath>
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/base/range.h"
#include "cinnabar/base/text.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/document/json_text.h"
#include "cinnabar/project/model/field.h"

namespace cinnabar {

inline std::string joined(const Names& names) {
  std::string text;
  for (const std::string& name : names) text += (text.empty() ? "" : ", ") + name;
  return text;
}

/// A JSON object under inspection: asks for members and reports what is wrong with them.
class Object {
 public:
  Object(const Json& value, std::string path, std::vector<DocumentFault>& faults)
      : value_(value), path_(std::move(path)), faults_(faults), is_object_(value.is_object()) {
    if (!is_object_) fault("", "is no object", "write { ... }");
  }

  void fault(const std::string& key, const std::string& message, const std::string& mend) const {
    faults_.push_back({key.empty() ? path_ : pointer_to(path_, key), message, mend});
  }

  const Json* member(const std::string& key, bool required, const std::string& wanted) const {
    if (!is_object_) return nullptr;
    const auto found = value_.find(key);
    if (found != value_.end() && !found->is_null()) return &*found;
    if (found != value_.end() && required)
      fault(key, "is null", "give " + wanted);
    else if (required)
      fault(key, "is missing", "give " + wanted);
    return nullptr;
  }

  std::optional<double> number(const std::string& key, const Range& range, bool required = false) const {
    const Json* found = member(key, required, "a number, " + range.text());
    if (!found) return std::nullopt;
    if (!found->is_number()) {
      fault(key, "is no number", "give a number, " + range.text());
      return std::nullopt;
    }
    const double v = found->get<double>();
    if (range.contains(v)) return v;
    fault(key, fmt::format("is {}, out of range", number_text(v, 6)), "give a number, " + range.text());
    return std::nullopt;
  }

  std::optional<std::string> text(const std::string& key, bool required = false) const {
    const Json* found = member(key, required, "text");
    if (!found) return std::nullopt;
    if (found->is_string()) return found->get<std::string>();
    fault(key, "is no text", "write it in quotes");
    return std::nullopt;
  }

  std::optional<std::string> one_of(const std::string& key, const Names& names, bool required = false) const {
    const auto found = text(key, required);
    if (!found) return std::nullopt;
    for (const std::string& name : names)
      if (name == *found) return found;
    fault(key, "is \"" + *found + "\"", "give one of " + joined(names));
    return std::nullopt;
  }

  void flag(const std::string& key) const {
    const Json* found = member(key, false, "");
    if (found && !found->is_boolean()) fault(key, "is neither true nor false", "give true or false");
  }

  void rate(const std::string& key, bool required) const {
    const auto found = text(key, required);
    const auto value = found ? parse_rate(*found) : std::nullopt;
    if (found && (!value || *value > 1e6))
      fault(key, "is no frame rate", "write \"24\", \"25\" or \"24000/1001\"");
  }

  /// An array of `size` numbers in `range`.
  void numbers(const std::string& key, std::size_t size, const Range& range, bool required = false) const {
    const std::string wanted = fmt::format("{} numbers, each {}", size, range.text());
    const Json* found = member(key, required, wanted);
    if (!found) return;
    bool good = found->is_array() && found->size() == size;
    if (good)
      for (const Json& n : *found) good = good && n.is_number() && range.contains(n.get<double>());
    if (!good) fault(key, "is not what is wanted", "give " + wanted);
  }

  /// A list of texts.
  void texts(const std::string& key, const std::string& example) const {
    const Json* found = member(key, false, "");
    if (!found) return;
    bool good = found->is_array();
    if (good)
      for (const Json& text : *found) good = good && text.is_string();
    if (!good) fault(key, "is no list of texts", "write [\"" + example + "\"]");
  }

  /// Whether pairs [second, value] stand there, the seconds rising strictly.
  [[nodiscard]] bool rises(const std::string& key, const Range& values) const {
    const Json* found = member(key, false, "");
    if (!found || !found->is_array() || found->size() > 10000) return false;
    double last = -1e300;
    for (const Json& p : *found) {
      if (!p.is_array() || p.size() != 2 || !p[0].is_number() || !p[1].is_number()) return false;
      const double second = p[0].get<double>();
      if (!(std::abs(second) <= 1e6 && second > last && values.contains(p[1].get<double>()))) return false;
      last = second;
    }
    return true;
  }
  void rising(const std::string& key, const Range& values, bool required) const {
    const std::string wanted = "[[set second, value], ...] with rising seconds, values " + values.text();
    if (member(key, required, wanted) && !rises(key, values))
      fault(key, "is not what is wanted", "give " + wanted);
  }

  [[nodiscard]] std::optional<Object> object(const std::string& key, bool required = false) const {
    const Json* found = member(key, required, "an object");
    if (!found) return std::nullopt;
    return Object(*found, pointer_to(path_, key), faults_);
  }

  /// Calls `each(Object)` for every item of a list; items that are no objects are faults.
  template <class F>
  void list(const std::string& key, F each, bool required = false, std::size_t most = 100000) const {
    const Json* found = member(key, required, "a list");
    if (!found) return;
    if (!found->is_array()) return fault(key, "is no list", "write [ ... ]");
    if (found->size() > most) return fault(key, "is too long", fmt::format("keep at most {} items", most));
    for (std::size_t i = 0; i < found->size(); ++i)
      each(Object((*found)[i], fmt::format("{}/{}", pointer_to(path_, key), i), faults_));
  }

  /// The object there where it is one, to be looked at once more: what else stands there was told before.
  [[nodiscard]] std::optional<Object> again(const std::string& key) const {
    const Json* found = member(key, false, "");
    return found && found->is_object() ? std::optional(Object(*found, pointer_to(path_, key), faults_))
                                       : std::nullopt;
  }
  /// The same for those items of a list that are objects.
  template <class F>
  void each_again(const std::string& key, F each) const {
    const Json* found = member(key, false, "");
    for (std::size_t i = 0; found && found->is_array() && i < found->size(); ++i)
      if ((*found)[i].is_object())
        each(Object((*found)[i], fmt::format("{}/{}", pointer_to(path_, key), i), faults_));
  }

  [[nodiscard]] const Json& value() const { return value_; }
  [[nodiscard]] bool is_object() const { return is_object_; }
  [[nodiscard]] std::string id() const {
    return is_object_ && value_.contains("id") && value_["id"].is_string() ? value_["id"].get<std::string>() : "";
  }

 private:
  const Json& value_;
  std::string path_;
  std::vector<DocumentFault>& faults_;
  bool is_object_;
};

}  // namespace cinnabar
