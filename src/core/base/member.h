// Members of structs without their struct's type.
#pragma once
#include <cstddef>

namespace cinnabar {

/// How many bytes into its struct a member stands.
template <class T, class M>
[[nodiscard]] std::ptrdiff_t offset_in(M T::*member) {
  alignas(T) static const std::byte room[sizeof(T)]{};  // where members would stand; nothing is read
  return reinterpret_cast<const std::byte*>(&(reinterpret_cast<const T*>(room)->*member)) - room;
}

}  // namespace cinnabar
