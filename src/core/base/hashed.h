// Numbers mixed so that neighbours have nothing in common.
#pragma once
#include <cstdint>
#include <string_view>

namespace cinnabar {

[[nodiscard]] inline std::uint32_t hashed(std::uint32_t x) {  // a full-period integer mixer
  x ^= x >> 16;
  x *= 0x7feb352dU;
  x ^= x >> 15;
  x *= 0x846ca68bU;
  return x ^ (x >> 16);
}

/// Bytes folded into a number, one after another (FNV-1a); begins with `of_nothing`.
inline constexpr std::uint64_t of_nothing = 0xcbf29ce484222325ULL;
[[nodiscard]] inline std::uint64_t folded(std::string_view bytes, std::uint64_t hash = of_nothing) {
  for (const char c : bytes) hash = (hash ^ static_cast<unsigned char>(c)) * 0x100000001b3ULL;
  return hash;
}

}  // namespace cinnabar
