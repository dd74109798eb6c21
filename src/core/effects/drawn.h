// Seeded chance.
#pragma once
#include <cstdint>

namespace cinnabar {

/// Numbers from 0 to under 1 (SplitMix64: Steele, Lea & Flood 2014), the seed being its first state.
class Drawn {
 public:
  explicit Drawn(std::uint64_t seed) : state_(seed) {}
  double operator()() {
    std::uint64_t x = (state_ += 0x9e3779b97f4a7c15ULL);
    x = (x ^ (x >> 30)) * 0xbf58476d1ce4e5b9ULL;
    x = (x ^ (x >> 27)) * 0x94d049bb133111ebULL;
    return static_cast<double>((x ^ (x >> 31)) >> 11) * 0x1p-53;
  }

 private:
  std::uint64_t state_;
};

}  // namespace cinnabar
