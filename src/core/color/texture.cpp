#include "cinnabar/color/texture.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <list>
#include <mutex>

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

/// Smooth chance over a lattice of so many cells each way, which goes round.
double noise(double u, double v, int across, int down, std::uint32_t seed) {
  const double x = u * across, y = v * down;
  const int i = static_cast<int>(std::floor(x)), j = static_cast<int>(std::floor(y));
  const double fx = eased(x - i), fy = eased(y - j);
  const auto at = [&](int a, int b) {
    return chance(((a % across) + across) % across, ((b % down) + down) % down, seed);
  };
  return (at(i, j) * (1 - fx) + at(i + 1, j) * fx) * (1 - fy) +
         (at(i, j + 1) * (1 - fx) + at(i + 1, j + 1) * fx) * fy;
}

/// Of finer and finer lattices, each half as strong; -1 to 1 about.
double rough(double u, double v, int cells, int octaves, std::uint32_t seed) {
  double sum = 0.0, part = 0.5;
  for (int k = 0; k < octaves; ++k, cells *= 2, part /= 2)
    sum += part * (2.0 * noise(u, v, cells, cells, seed + static_cast<std::uint32_t>(k)) - 1.0);
  return sum;
}

double wood(double u, double v) {
  // Rings that are cut along lie nearly level, and wander; between them pores, long along the grain.
  const double wander = 0.05 * (2 * noise(u, v, 2, 4, 1) - 1) + 0.012 * (2 * noise(u, v, 6, 24, 2) - 1);
  const double ring = 14.0 * (v + wander), in_ring = ring - std::floor(ring);
  const double pores = noise(u, v, 24, 256, 3);
  return std::clamp(0.75 * std::pow(in_ring, 3.0) * (1.0 - between(in_ring, 0.92, 1.0)) + 0.2 * pores, 0.0, 1.0);
}

double marble(double u, double v) {
  const auto vein = [&](double turns, double drift, std::uint32_t seed, double thin) {
    const double at = turns * pi * (u + v) + drift * rough(u, v, 4, 5, seed);
    return std::pow(1.0 - std::abs(std::sin(at)), thin);
  };
  return std::clamp(0.8 * vein(2, 5.0, 11, 9.0) + 0.35 * vein(3, 7.0, 29, 14.0) +
                        0.25 * (0.5 + 0.5 * rough(u, v, 3, 4, 47)) - 0.08,
                    0.0, 1.0);
}

double stone(double u, double v) {
  const double cloud = 0.5 + 0.5 * rough(u, v, 4, 4, 61);
  const double specks = between(noise(u, v, 90, 90, 71), 0.74, 0.86), fine = noise(u, v, 200, 200, 83);
  return std::clamp(0.35 * cloud + 0.55 * specks + 0.2 * (fine - 0.5), 0.0, 1.0);
}

double weave(double u, double v) {
  // Threads go over and under; each is darkest where it goes under, and no two are quite alike.
  constexpr int threads = 32;
  const double x = u * threads, y = v * threads;
  const int i = static_cast<int>(std::floor(x)), j = static_cast<int>(std::floor(y));
  const bool over = (i + j) % 2 == 0;  // the one across lies above
  const double along = over ? x - i : y - j, aside = over ? y - j : x - i;
  const double shade =
      0.55 * std::pow(std::abs(2 * along - 1), 2.0) + 0.45 * std::pow(std::abs(2 * aside - 1), 3.0);
  const double own = chance(over ? 0 : i, over ? j : 0, over ? 91 : 97) - 0.5;
  return std::clamp(0.15 + 0.6 * shade + 0.25 * own + 0.15 * (noise(u, v, 128, 128, 101) - 0.5), 0.0, 1.0);
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

Tile against_its_mean(Picture picture) {
  Vec3 sum{};
  for (const Rgb& p : picture.pixels) sum += p.as<double>();
  const Vec3 mean = sum / static_cast<double>(std::max<std::size_t>(1, picture.pixels.size()));
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

/// The tile of a key, made where it is not among the last that were asked for.
template <class Make>
Tile kept(TileKey key, const Make& make) {
  constexpr std::size_t most = 16;
  static std::mutex mutex;
  static std::list<std::pair<TileKey, Tile>> tiles;
  const std::lock_guard lock(mutex);
  for (auto it = tiles.begin(); it != tiles.end(); ++it)
    if (it->first == key) {
      tiles.splice(tiles.begin(), tiles, it);
      return it->second;
    }
  tiles.emplace_front(std::move(key), against_its_mean(make()));
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

Tile tile_of(Pattern pattern, const Vec3& ground, const Vec3& drawn) {
  return kept({static_cast<int>(pattern), nullptr, ground, drawn}, [&] {
    Picture picture{tile_side, tile_side, {}};
    picture.pixels.reserve(tile_side * tile_side);
    for (const float t : drawing(pattern)) picture.pixels.push_back((ground * (1.0 - t) + drawn * t).as<float>());
    return picture;
  });
}

Tile tile_of(const std::shared_ptr<const Picture>& picture, const Vec3& ground) {
  return kept({-1, picture, ground, {}}, [&] {
    Picture tinted = *picture;
    for (Rgb& p : tinted.pixels) p *= ground.as<float>();
    return tinted;
  });
}

}  // namespace cinnabar
