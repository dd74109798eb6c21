#include "cinnabar/color/texture.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <list>
#include <mutex>
#include <vector>

namespace cinnabar {
namespace {

constexpr int tile_side = 512;

double chance(int x, int y, std::uint32_t seed) {  // 0 to 1
  std::uint32_t h = static_cast<std::uint32_t>(x) * 0x8da6b343U ^ static_cast<std::uint32_t>(y) * 0xd8163841U ^
                    (seed + 1U) * 0xcb1ab31fU;
  h ^= h >> 15, h *= 0x2c1b3c6dU, h ^= h >> 12, h *= 0x297a2d39U, h ^= h >> 15;
  return h / 4294967296.0;
}

double eased(double t) { return t * t * (3.0 - 2.0 * t); }
double between(double t, double low, double high) { return eased(std::clamp((t - low) / (high - low), 0.0, 1.0)); }

/// Smooth chance over a lattice of so many cells each way, which goes round: its corners are drawn once.
class Noise {
 public:
  Noise(int across, int down, std::uint32_t seed) : across_(across), down_(down) {
    const auto wrapped = [](int k, int n) { return k % n; };
    for (int j = 0; j <= down; ++j)
      for (int i = 0; i <= across; ++i) corners_.push_back(chance(wrapped(i, across), wrapped(j, down), seed));
  }
  /// For 0 to 1 each way.
  [[nodiscard]] double at(double u, double v) const {
    const double x = u * across_, y = v * down_;
    const int i = std::min(static_cast<int>(x), across_ - 1), j = std::min(static_cast<int>(y), down_ - 1);
    const double fx = eased(x - i), fy = eased(y - j);
    const double* const low = &corners_[static_cast<std::size_t>(j * (across_ + 1) + i)];
    const double* const high = low + across_ + 1;
    return (low[0] * (1 - fx) + low[1] * fx) * (1 - fy) + (high[0] * (1 - fx) + high[1] * fx) * fy;
  }

 private:
  int across_, down_;
  std::vector<double> corners_;
};

/// Of finer and finer lattices, each half as strong; -1 to 1 about.
class Rough {
 public:
  Rough(int cells, int octaves, std::uint32_t seed) {
    for (int k = 0; k < octaves; ++k, cells *= 2)
      parts_.emplace_back(cells, cells, seed + static_cast<std::uint32_t>(k));
  }
  [[nodiscard]] double at(double u, double v) const {
    double sum = 0.0, part = 0.5;
    for (const Noise& noise : parts_) sum += part * (2.0 * noise.at(u, v) - 1.0), part /= 2;
    return sum;
  }

 private:
  std::vector<Noise> parts_;
};

double wood(double u, double v) {
  // Rings that are cut along lie nearly level, and wander; between them pores, long along the grain.
  static const Noise wide(2, 4, 1), close(6, 24, 2), pore(24, 256, 3);
  const double wander = 0.05 * (2 * wide.at(u, v) - 1) + 0.012 * (2 * close.at(u, v) - 1);
  const double ring = 14.0 * (v + wander), in_ring = ring - std::floor(ring);
  const double pores = pore.at(u, v);
  return std::clamp(0.75 * std::pow(in_ring, 3.0) * (1.0 - between(in_ring, 0.92, 1.0)) + 0.2 * pores, 0.0, 1.0);
}

double marble(double u, double v) {
  static const Rough first(4, 5, 11), second(4, 5, 29), cloud(3, 4, 47);
  const auto vein = [&](double turns, double drift, const Rough& rough, double thin) {
    const double at = turns * pi * (u + v) + drift * rough.at(u, v);
    return std::pow(1.0 - std::abs(std::sin(at)), thin);
  };
  return std::clamp(0.8 * vein(2, 5.0, first, 9.0) + 0.35 * vein(3, 7.0, second, 14.0) +
                        0.25 * (0.5 + 0.5 * cloud.at(u, v)) - 0.08,
                    0.0, 1.0);
}

double stone(double u, double v) {
  static const Rough clouds(4, 4, 61);
  static const Noise speck(90, 90, 71), grain(200, 200, 83);
  const double cloud = 0.5 + 0.5 * clouds.at(u, v), specks = between(speck.at(u, v), 0.74, 0.86);
  return std::clamp(0.35 * cloud + 0.55 * specks + 0.2 * (grain.at(u, v) - 0.5), 0.0, 1.0);
}

double weave(double u, double v) {
  // Threads go over and under; each is darkest where it goes under, and no two are quite alike.
  static const Noise fray(128, 128, 101);
  constexpr int threads = 32;
  const double x = u * threads, y = v * threads;
  const int i = static_cast<int>(std::floor(x)), j = static_cast<int>(std::floor(y));
  const bool over = (i + j) % 2 == 0;  // the one across lies above
  const double along = over ? x - i : y - j, aside = over ? y - j : x - i;
  const double shade =
      0.55 * std::pow(std::abs(2 * along - 1), 2.0) + 0.45 * std::pow(std::abs(2 * aside - 1), 3.0);
  const double own = chance(over ? 0 : i, over ? j : 0, over ? 91 : 97) - 0.5;
  return std::clamp(0.15 + 0.6 * shade + 0.25 * own + 0.15 * (fray.at(u, v) - 0.5), 0.0, 1.0);
}

const std::vector<float>& drawing(Pattern pattern) {
  struct All {
    std::once_flag made[4];
    std::vector<float> values[4];
  };
  static All all;
  const auto k = static_cast<std::size_t>(pattern);
  std::call_once(all.made[k], [&] {
    auto& values = all.values[k];
    values.reserve(tile_side * tile_side);
    for (int y = 0; y < tile_side; ++y)
      for (int x = 0; x < tile_side; ++x)
        values.push_back(static_cast<float>(drawn_at(pattern, (x + 0.5) / tile_side, (y + 0.5) / tile_side)));
  });
  return all.values[k];
}

Tile against(const Vec3& mean, Picture picture) {
  const auto over = [](double m) { return m > 0.0 ? static_cast<float>(1.0 / m) : 1.0f; };
  const Rgb scale{over(mean.x), over(mean.y), over(mean.z)};
  for (Rgb& p : picture.pixels) p *= scale;
  return {std::make_shared<const Picture>(std::move(picture)), mean};
}

struct TileKey {
  int pattern;
  std::shared_ptr<const Picture> picture;  // held, so that no other takes its place in memory
  Vec3 ground, drawn;
  bool operator==(const TileKey&) const = default;
};

/// The tile of a key, made where it is not among the last that were asked for. Nobody waits for what another
/// makes.
template <class Make>
Tile kept(const TileKey& key, const Make& make) {
  constexpr std::size_t most = 16;
  static std::mutex mutex;
  static std::list<std::pair<TileKey, Tile>> tiles;
  const auto known = [&] {
    return std::find_if(tiles.begin(), tiles.end(), [&](const auto& one) { return one.first == key; });
  };
  {
    const std::lock_guard lock(mutex);
    if (const auto it = known(); it != tiles.end()) {
      tiles.splice(tiles.begin(), tiles, it);
      return it->second;
    }
  }
  Tile made = make();
  const std::lock_guard lock(mutex);
  if (const auto it = known(); it != tiles.end()) return it->second;
  tiles.emplace_front(key, std::move(made));
  if (tiles.size() > most) tiles.pop_back();
  return tiles.front().second;
}

}  // namespace

double drawn_at(Pattern pattern, double u, double v) {
  u -= std::floor(u), v -= std::floor(v);
  switch (pattern) {
    case Pattern::wood:
      return wood(u, v);
    case Pattern::marble:
      return marble(u, v);
    case Pattern::stone:
      return stone(u, v);
    case Pattern::weave:
      break;
  }
  return weave(u, v);
}

Vec3 mean_of(Pattern pattern, const Vec3& ground, const Vec3& drawn) {
  static constexpr double part[]{0.2601042, 0.1011668, 0.2330333, 0.3192067};  // what drawn_at is in the mean
  const double t = part[static_cast<std::size_t>(pattern)];
  return ground * (1.0 - t) + drawn * t;
}

Tile tile_of(Pattern pattern, const Vec3& ground, const Vec3& drawn) {
  return kept({static_cast<int>(pattern), nullptr, ground, drawn}, [&] {
    Picture picture{tile_side, tile_side, {}};
    picture.pixels.reserve(tile_side * tile_side);
    for (const float t : drawing(pattern)) picture.pixels.push_back((ground * (1.0 - t) + drawn * t).as<float>());
    return against(mean_of(pattern, ground, drawn), std::move(picture));
  });
}

Tile tile_of(const std::shared_ptr<const Picture>& picture, const Vec3& ground) {
  return kept({-1, picture, ground, {}}, [&] {
    Picture tinted = *picture;
    Vec3 sum{};
    for (Rgb& p : tinted.pixels) p *= ground.as<float>(), sum += p.as<double>();
    return against(sum / static_cast<double>(std::max<std::size_t>(1, tinted.pixels.size())), std::move(tinted));
  });
}

}  // namespace cinnabar
