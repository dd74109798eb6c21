// Named inputs and results of a calculation: each key's name, unit and range stands once, beside the struct,
// and serves the calculation's own check, the command line and the lists of it.
#pragma once
#include <array>
#include <cstddef>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <type_traits>
#include <vector>

#include "cinnabar/base/member.h"
#include "cinnabar/base/range.h"
#include "cinnabar/base/result.h"

namespace cinnabar {

/// One point of a speed ramp: at `set_time` seconds on the floor the film runs at `speed` (1 is real time).
struct SpeedPoint {
  double set_time, speed;
};

/// How a key is typed. A rate may be typed 24, 23.976 or 24000/1001.
enum class Typed { number, rate };

/// A member of some struct without the struct's type: what reads, checks and lists members is written, and
/// compiled, once for all.
class KeyMember {
 public:
  enum class Kind { number, maybe, flag, text, list, speeds, triple, pairs, triples };
  template <class T, class M>
  explicit KeyMember(M T::*member) : kind_(kind_of<M>()), offset_(offset_in(member)) {}
  [[nodiscard]] Kind kind() const { return kind_; }
  /// The member in its struct, or nothing where it is of another type.
  template <class M>
  [[nodiscard]] M* in(void* whole) const {
    return kind_ == kind_of<M>() ? reinterpret_cast<M*>(static_cast<std::byte*>(whole) + offset_) : nullptr;
  }
  template <class M>
  [[nodiscard]] const M* in(const void* whole) const {
    return kind_ == kind_of<M>() ? reinterpret_cast<const M*>(static_cast<const std::byte*>(whole) + offset_)
                                 : nullptr;
  }

 private:
  template <class M>
  static constexpr Kind kind_of() {
    if constexpr (std::is_same_v<M, double>)
      return Kind::number;
    else if constexpr (std::is_same_v<M, std::optional<double>>)
      return Kind::maybe;
    else if constexpr (std::is_same_v<M, bool>)
      return Kind::flag;
    else if constexpr (std::is_same_v<M, std::string>)
      return Kind::text;
    else if constexpr (std::is_same_v<M, std::vector<double>>)
      return Kind::list;
    else if constexpr (std::is_same_v<M, std::vector<SpeedPoint>>)
      return Kind::speeds;
    else if constexpr (std::is_same_v<M, std::array<double, 3>>)
      return Kind::triple;
    else if constexpr (std::is_same_v<M, std::vector<std::array<double, 2>>>)
      return Kind::pairs;
    else {
      static_assert(std::is_same_v<M, std::vector<std::array<double, 3>>>, "no key is of that type");
      return Kind::triples;
    }
  }

  Kind kind_;
  std::ptrdiff_t offset_;
};

struct KeyRow {
  std::string_view name, unit;
  Range range;
  KeyMember member;
  Typed typed = Typed::number;
};
struct ResultRow {
  std::string_view name, unit;
  KeyMember member;
};
/// The same of one struct.
template <class T>
struct Key : KeyRow {
  template <class M>
  Key(std::string_view key, std::string_view of, const Range& within, M T::*where, Typed how = Typed::number)
      : KeyRow{key, of, within, KeyMember(where), how} {}
};
template <class T>
struct ResultKey : ResultRow {
  template <class M>
  ResultKey(std::string_view key, std::string_view of, M T::*where) : ResultRow{key, of, KeyMember(where)} {}
};

template <class T>
using Keys = std::span<const Key<T>>;
template <class T>
using Results = std::span<const ResultKey<T>>;

/// The refusal that names a key and its range.
[[nodiscard]] inline tl::unexpected<Error> out_of_range(std::string_view key, const std::string& range) {
  return fail(std::string(key), "is out of range", "give " + range);
}

/// Checks a number, or numbers, of `whole` against the range of their key.
[[nodiscard]] Expected<void> check(const KeyRow& key, const void* whole);
/// Checks every number of `in` against the range of its key; the first that fails is named.
template <class T>
[[nodiscard]] Expected<void> check(const T& in) {
  for (const KeyRow& key : T::keys())
    if (auto checked = check(key, &in); !checked) return checked;
  return {};
}

}  // namespace cinnabar

/// Leaves the calling function with the error of an Expected that failed.
#define CINNABAR_TRY(expression)                                                 \
  do {                                                                           \
    if (auto tried = (expression); !tried) return tl::unexpected(tried.error()); \
  } while (false)
