// What an entity's JSON may hold: one row a field. The reader, the checks with what they refuse, the schema and
// the fields on the pages follow from these rows; a new field is one row here.
#pragma once
#include <algorithm>
#include <functional>
#include <optional>
#include <string>
#include <type_traits>
#include <utility>
#include <vector>

#include "cinnabar/base/member.h"
#include "cinnabar/base/range.h"
#include "cinnabar/base/text.h"
#include "cinnabar/base/vec.h"
#include "cinnabar/project/document/document.h"
#include "cinnabar/project/model/blobs.h"

namespace cinnabar {

using Names = std::vector<std::string>;
struct Fields;

/// How a value is kept.
enum class Kept {
  number,  ///< in `range`
  text,
  flag,
  rate,     ///< "24", "24000/1001"
  choice,   ///< one of `names`
  numbers,  ///< `count` of them, each in `range`
  texts,
  rising,     ///< [[second, value], ...], seconds rising strictly, values in `range`
  reference,  ///< the id of an entity of `list`
  blob,       ///< the id of a blob that holds what `use` says
  object,     ///< with the fields `inner`
  entities,   ///< a list of `inner` with ids of their own
  objects,    ///< a list of `inner` without
  own         ///< what `schema` says; checked and read by hand
};

/// How a number stands on a page. "length" goes by the project's measure.
struct Shown {
  const char* label;
  const char* unit;
  double scale = 1;  ///< kept value = shown times scale
  int decimals = 0;
  double step = 1;  ///< as shown
};

namespace field_value {

inline void put(double& to, const Json& j) {
  if (j.is_number()) to = j.get<double>();
}
inline void put(int& to, const Json& j) {
  if (j.is_number()) to = static_cast<int>(j.get<double>());
}
inline void put(std::string& to, const Json& j) {
  if (j.is_string()) to = j.get<std::string>();
}
inline void put(bool& to, const Json& j) {
  if (j.is_boolean()) to = j.get<bool>();
}
inline void put(Vec3& to, const Json& j) {
  if (j.is_array() && j.size() == 3) to = {j[0].get<double>(), j[1].get<double>(), j[2].get<double>()};
}
inline void put(std::vector<std::string>& to, const Json& j) {
  for (const Json& text : j)
    if (text.is_string()) to.push_back(text.get<std::string>());
}
inline void put(std::vector<std::pair<double, double>>& to, const Json& j) {
  for (const Json& p : j) to.emplace_back(p[0].get<double>(), p[1].get<double>());
}
/// The value of an enum that stands at a place of its names.
template <class E>
requires std::is_enum_v<E>
void choose(E& to, std::size_t place) { to = static_cast<E>(place); }
template <class E>
requires std::is_enum_v<E>
void choose(std::optional<E>& to, std::size_t place) { to = static_cast<E>(place); }
template <class T>
requires requires(T& value, const Json& j) { put(value, j); }
void put(std::optional<T>& to, const Json& j) {
  T value{};
  put(value, j);
  to = std::move(value);
}

}  // namespace field_value

struct FieldRow {
  std::string key;
  Kept kept;
  Range range{};
  bool required = false;
  std::size_t count = 0;
  Names names{};
  std::string list{};
  BlobUse use = BlobUse::picture;
  std::string else_mend{};  ///< of a blob or a list of texts: what else could be given
  const Fields* inner = nullptr;
  Json schema{};
  std::string note{};  ///< for people who read the schema
  std::optional<Shown> shown{};
  /// Into the entity, where that is done by the row: into a member so many bytes from where it stands, or by hand.
  void (*bound)(const FieldRow& row, const Json& value, void* place) = nullptr;
  std::ptrdiff_t offset = 0;
  std::function<void(const Json&, void*)> read{};

  [[nodiscard]] FieldRow&& needed() && {
    required = true;
    return std::move(*this);
  }
  [[nodiscard]] FieldRow&& means(std::string text) && {
    note = std::move(text);
    return std::move(*this);
  }
  [[nodiscard]] FieldRow&& on_page(const Shown& how) && {
    shown = how;
    return std::move(*this);
  }
  /// The member that the value is read into. What is left out keeps what the entity's type begins with.
  template <class T, class M>
  [[nodiscard]] FieldRow&& into(M T::*member) &&;
};

/// What more is needed where a choice has been made.
struct FieldCase {
  std::string key, value;
  Names needed;
};

struct Fields {
  std::vector<FieldRow> rows;
  std::vector<FieldCase> cases{};
  std::vector<Names> any_of{};  ///< at least one of these sets of fields is there
  bool only_in_cases = false;   ///< what choices name counts only where it is needed

  [[nodiscard]] const FieldRow* field(const std::string& key) const;
};

/// Reads what the rows bind into an entity; the rows bind to its type.
void read_fields(const Fields& fields, const Json& json, void* entity);

namespace field_value {

/// A value into the member that stands at `place`, whatever struct it is of.
template <class M>
void bind(const FieldRow& row, const Json& j, void* place) {
  M& to = *static_cast<M*>(place);
  if constexpr (requires { choose(to, std::size_t{}); }) {
    const auto at = std::find(row.names.begin(), row.names.end(), j);
    if (at != row.names.end() || (row.kept == Kept::text && j.is_string() && j != ""))
      choose(to, static_cast<std::size_t>(at - row.names.begin()));
  } else if constexpr (std::is_same_v<M, double>) {
    if (row.kept == Kept::rate)
      to = j.is_string() ? parse_rate(j.get_ref<const std::string&>()).value_or(to) : to;
    else
      put(to, j);
  } else if constexpr (requires { put(to, j); }) {
    put(to, j);
  } else if constexpr (requires { to.emplace_back(); }) {  // a list of what has fields of its own
    for (const Json& item : j) read_fields(*row.inner, item, &to.emplace_back());
  } else if constexpr (requires { to.emplace(); }) {
    if (j.is_object()) read_fields(*row.inner, j, &to.emplace());
  } else {
    if (j.is_object()) read_fields(*row.inner, j, &to);
  }
}

}  // namespace field_value

template <class T, class M>
FieldRow&& FieldRow::into(M T::*member) && {
  bound = &field_value::bind<M>;
  offset = offset_in(member);
  return std::move(*this);
}

// Rows by how they are kept.
[[nodiscard]] FieldRow number(std::string key, const Range& range);
[[nodiscard]] FieldRow text(std::string key);
[[nodiscard]] FieldRow flag(std::string key);
[[nodiscard]] FieldRow rate(std::string key);
[[nodiscard]] FieldRow choice(std::string key, const Names& names);
/// A text that is one of the names, or another: read as the enum's value after the last name.
[[nodiscard]] FieldRow open_choice(std::string key, const Names& names);
[[nodiscard]] FieldRow numbers(std::string key, std::size_t count, const Range& each);
[[nodiscard]] FieldRow texts(std::string key, std::string example);
[[nodiscard]] FieldRow rising(std::string key, const Range& values);
[[nodiscard]] FieldRow reference(std::string key, std::string list);
[[nodiscard]] FieldRow blob(std::string key, BlobUse use, std::string else_mend);
[[nodiscard]] FieldRow object(std::string key, const Fields& inner);
[[nodiscard]] FieldRow entities(std::string key, const Fields& inner);
[[nodiscard]] FieldRow objects(std::string key, const Fields& inner);
[[nodiscard]] FieldRow own(std::string key, Json schema);

/// Lists of the document that hold entities, with their fields: "shots", "kit/lenses".
[[nodiscard]] const std::vector<std::pair<std::string, const Fields*>>& entity_fields();
[[nodiscard]] const Fields* fields_of(const std::string& list);
/// The single "project".
[[nodiscard]] const Fields& project_fields();
[[nodiscard]] const Fields& material_fields();
[[nodiscard]] const Fields& relief_fields();
[[nodiscard]] const Fields& cover_fields();
[[nodiscard]] const Fields& house_rules_fields();

}  // namespace cinnabar
