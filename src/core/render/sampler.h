// Low-discrepancy samples, seeded by pixel: the first two Sobol dimensions, shuffled and Owen-scrambled per pair of
// dimensions by hashing (Burley 2020, Journal of Computer Graphics Techniques 9:4).
#pragma once
#include <cstdint>
#include <utility>

namespace cinnabar {

[[nodiscard]] inline std::uint32_t hashed(std::uint32_t x) {  // a full-period integer mixer
  x ^= x >> 16;
  x *= 0x7feb352dU;
  x ^= x >> 15;
  x *= 0x846ca68bU;
  return x ^ (x >> 16);
}

/// Points of one pixel: `index` is the pass. Each call of pair() takes the next two dimensions.
class Sampler {
 public:
  Sampler(std::uint32_t pixel, std::uint32_t index) : seed_(hashed(pixel * 0x9E3779B9U + 0x68bc21ebU)), index_(reversed(index)) {}

  [[nodiscard]] std::pair<float, float> pair() {
    const std::uint32_t seed = hashed(seed_ ^ (0xA511E9B3U * ++pair_));
    const std::uint32_t order = mixed_upward(index_, seed);  // shuffled, still bit-reversed: this is dimension 0
    const std::uint32_t x = scrambled(order, seed ^ 0x63d83595U);
    const std::uint32_t y = scrambled(second_dimension(order), seed ^ 0x21f0d85bU);
    return {unit_float(x), unit_float(y)};
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
  /// Owen scrambling of a value whose most significant bit decides first.
  static std::uint32_t scrambled(std::uint32_t x, std::uint32_t seed) { return reversed(mixed_upward(reversed(x), seed)); }
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
