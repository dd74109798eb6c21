// Low-discrepancy samples, seeded by pixel: the first two Sobol dimensions, their order shuffled by a hashed Owen
// permutation for each pair of dimensions (Burley 2020, Journal of Computer Graphics Techniques 9:4) and their
// digits scrambled by exclusive or (Kollig & Keller 2002), which keeps the sequence's even spread.
#pragma once
#include <cstdint>
#include <utility>

#include "cinnabar/base/hashed.h"

namespace cinnabar {

/// Points of one pixel: `index` is the pass. Each call of pair() takes the next two dimensions.
class Sampler {
 public:
  Sampler(std::uint32_t pixel, std::uint32_t index)
      : seed_(hashed(pixel * 0x9E3779B9U + 0x68bc21ebU)), index_(reversed(index)) {}

  [[nodiscard]] std::pair<float, float> pair() {
    const std::uint32_t seed = hashed(seed_ ^ (0xA511E9B3U * ++pair_));
    const std::uint32_t order = mixed_upward(index_, seed);  // shuffled, still bit-reversed: this is dimension 0
    return {unit_float(order ^ (seed * 0x63d83595U)),
            unit_float(second_dimension(order) ^ (seed * 0x21f0d85bU + 0x9E3779B9U))};
  }
  [[nodiscard]] float one() { return pair().first; }

 private:
  static std::uint32_t reversed(std::uint32_t x) {
    x = __builtin_bswap32(x);
    x = ((x >> 4) & 0x0F0F0F0FU) | ((x & 0x0F0F0F0FU) << 4);
    x = ((x >> 2) & 0x33333333U) | ((x & 0x33333333U) << 2);
    return ((x >> 1) & 0x55555555U) | ((x & 0x55555555U) << 1);
  }
  /// Laine and Karras's hash: every bit is flipped by a function of the less significant ones.
  static std::uint32_t mixed_upward(std::uint32_t x, std::uint32_t seed) {
    x += seed;
    x ^= x * 0x6c50b47cU;
    x ^= x * 0xb82f1e52U;
    x ^= x * 0xc7afe638U;
    return x ^ (x * 0x8d22f6e6U);
  }
  /// Dimension 1 of Sobol's sequence from dimension 0 (the bit-reversed index): Pascal's triangle modulo 2.
  static std::uint32_t second_dimension(std::uint32_t x) {
    x ^= x << 16;
    x ^= (x & 0x00FF00FFU) << 8;
    x ^= (x & 0x0F0F0F0FU) << 4;
    x ^= (x & 0x33333333U) << 2;
    return x ^ ((x & 0x55555555U) << 1);
  }
  static float unit_float(std::uint32_t x) { return static_cast<float>(x >> 8) * 0x1p-24f; }

  std::uint32_t seed_, index_, pair_ = 0;
};

}  // namespace cinnabar
