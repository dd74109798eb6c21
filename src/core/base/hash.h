// Numbers for what is known by its bytes.
#pragma once
#include <bit>
#include <cstddef>
#include <cstdint>
#include <cstring>

#include "cinnabar/base/vec.h"

namespace cinnabar {

/// A number that takes in what it is given, in order; the same on every machine of one byte order.
class Hash {
 public:
  void add(const void* data, std::size_t bytes) {
    const auto* p = static_cast<const unsigned char*>(data);
    while (bytes >= 8) {
      std::uint64_t word = 0;
      std::memcpy(&word, p, 8);
      mix(word);
      p += 8, bytes -= 8;
    }
    std::uint64_t rest = bytes;
    std::memcpy(&rest, p, bytes);
    mix(rest);
  }
  void add(double value) { mix(std::bit_cast<std::uint64_t>(value)); }
  void add(std::uint64_t number) { mix(number); }
  void add(const Vec3& v) {
    for (const double c : {v.x, v.y, v.z}) add(c);
  }
  [[nodiscard]] std::uint64_t value() const { return state_; }

 private:
  void mix(std::uint64_t word) {
    state_ = (std::rotl(state_, 5) ^ word) * 0x9E3779B97F4A7C15ULL;
    state_ ^= state_ >> 29;
  }
  std::uint64_t state_ = 0x243F6A8885A308D3ULL;
};

}  // namespace cinnabar
