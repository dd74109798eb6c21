// Outlines: what shares the pixels along them, by rays that ask for nothing but what they meet.
#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>

#include "cinnabar/render/tracer.h"

namespace cinnabar {
namespace {

constexpr std::uint32_t edge_looks = 16;

bool differs_about(const Film& film, int x, int y) {
  const Mesh* own = film.first[film.at(x, y)].mesh;
  for (int j = std::max(0, y - 1); j <= std::min(film.height - 1, y + 1); ++j)
    for (int i = std::max(0, x - 1); i <= std::min(film.width - 1, x + 1); ++i)
      if (film.first[film.at(i, j)].mesh != own) return true;
  return false;
}

}  // namespace

void Tracer::look_at_edges(Film& film, const std::vector<char>* only) const {
  std::vector<std::vector<Mixture>> rows(static_cast<std::size_t>(film.height));
  tbb::parallel_for(0, film.height, [&](int y) {
    std::uint64_t rays = 0;
    for (int x = 0; x < film.width; ++x) {
      if ((only && !(*only)[film.at(x, y)]) || !differs_about(film, x, y)) continue;
      std::array<std::pair<int, const Mesh*>, edge_looks> met;
      std::size_t kinds = 0;
      for (std::uint32_t k = 0; k < edge_looks; ++k) {
        Sampler sampler(static_cast<std::uint32_t>(film.at(x, y)) ^ 0x2b5c91d7U,
                        static_cast<std::uint32_t>(film.begins) * edge_looks + k);
        const Mesh* mesh = meet(camera_ray(film, x, y, sampler)).mesh;
        const auto known = std::find_if(met.begin(), met.begin() + static_cast<std::ptrdiff_t>(kinds),
                                        [mesh](const auto& one) { return one.second == mesh; });
        if (known == met.begin() + static_cast<std::ptrdiff_t>(kinds)) met[kinds++] = {0, mesh};
        ++known->first;
      }
      rays += edge_looks;
      if (kinds < 2) continue;
      std::stable_sort(met.begin(), met.begin() + static_cast<std::ptrdiff_t>(kinds),
                       [](const auto& a, const auto& b) { return a.first > b.first; });
      Mixture mixture{static_cast<std::uint32_t>(film.at(x, y)), {}, {}};
      int counted = 0;
      for (std::size_t k = 0; k < std::min<std::size_t>(kinds, 3); ++k) counted += met[k].first;
      for (std::size_t k = 0; k < std::min<std::size_t>(kinds, 3); ++k) {
        mixture.of[k] = met[k].second;
        mixture.share[k] = static_cast<float>(met[k].first) / static_cast<float>(counted);
      }
      rows[static_cast<std::size_t>(y)].push_back(mixture);
    }
    rays_ += rays;
  });
  film.mixtures.clear();
  for (const auto& row : rows) film.mixtures.insert(film.mixtures.end(), row.begin(), row.end());
}

}  // namespace cinnabar
