// Numbers mixed so that neighbours have nothing in common.
#pragma once
#include <cstdint>

namespace cinnabar {

[[nodiscard]] inline std::uint32_t hashed(std::uint32_t x) {  // a full-period integer mixer
  x ^= x >> 16;
  x *= 0x7feb352dU;
  x ^= x >> 15;
  x *= 0x846ca68bU;
  return x ^ (x >> 16);
}

}  // namespace cinnabar
