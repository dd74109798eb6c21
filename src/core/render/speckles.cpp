#include "cinnabar/render/speckles.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <iterator>

#include "cinnabar/color/white.h"

namespace cinnabar {

namespace {

bool is_matte(const Mesh* mesh) { return mesh && mesh->light < 0 && mesh->material.is_matte(); }

/// Every pixel of the square about one, the middle left out.
void about(const Film& film, std::size_t pixel, int reach, auto&& each) {
  const int w = film.width, x = static_cast<int>(pixel) % w, y = static_cast<int>(pixel) / w;
  for (int j = std::max(0, y - reach); j <= std::min(film.height - 1, y + reach); ++j)
    for (int i = std::max(0, x - reach); i <= std::min(w - 1, x + reach); ++i)
      if (i != x || j != y) each(film.at(i, j));
}

}  // namespace

std::vector<Speckle> speckles(const Picture& picture, const Film& film) {
  constexpr int fewest_passes = 8, widest = 15;
  constexpr float far_above = 4.0f, by_chance = 0.1f;  // variance of the mean over its square
  constexpr float unseen = 0.25f;                      // of the middle: what a neighbour may be given
  if (film.passes < fewest_passes || film.squares.size() != film.pixels()) return {};
  std::vector<std::vector<Speckle>> rows(static_cast<std::size_t>(film.height));
  tbb::parallel_for(0, film.height, [&](int y) {
    for (int x = 0; x < film.width; ++x) {
      const std::size_t at = film.at(x, y);
      const Mesh* own = film.first[at].mesh;
      const float mean = film.mean_of(at);
      if (film.variance_of(at) < by_chance * mean * mean || !is_matte(own)) continue;
      std::array<float, 25> around{};
      auto end = around.begin();
      about(film, at, 2, [&](std::size_t p) {
        if (film.first[p].mesh == own) *end++ = luminance(picture.pixels[p]);
      });
      if (std::distance(around.begin(), end) < 6) continue;
      const auto middle = around.begin() + std::distance(around.begin(), end) / 2;
      std::nth_element(around.begin(), middle, end);
      const float is = luminance(picture.pixels[at]);
      if (*middle <= 0.0f || is <= far_above * *middle) continue;
      const float to_give = (is - *middle) / (unseen * *middle);
      const int reach =
          std::clamp(static_cast<int>(std::ceil((std::sqrt(to_give + 1.0f) - 1.0f) / 2.0f)), 2, widest);
      rows[static_cast<std::size_t>(y)].push_back({at, *middle / is, reach});
    }
  });
  std::vector<Speckle> all;
  for (const auto& row : rows) all.insert(all.end(), row.begin(), row.end());
  return all;
}

void spread(Picture& picture, const Film& film, const std::vector<Speckle>& all) {
  const std::vector<Rgb> before = [&] {
    std::vector<Rgb> own;
    own.reserve(all.size());
    for (const Speckle& s : all) own.push_back(picture.pixels[s.pixel]);
    return own;
  }();
  for (std::size_t k = 0; k < all.size(); ++k) {
    const Mesh* own = film.first[all[k].pixel].mesh;
    int takers = 0;
    about(film, all[k].pixel, all[k].reach, [&](std::size_t p) { takers += film.first[p].mesh == own ? 1 : 0; });
    if (takers == 0) continue;
    const Rgb given = before[k] * (1.0f - all[k].keeps);
    const Rgb each = given * (1.0f / static_cast<float>(takers));
    picture.pixels[all[k].pixel] += given * -1.0f;
    about(film, all[k].pixel, all[k].reach, [&](std::size_t p) {
      if (film.first[p].mesh == own) picture.pixels[p] += each;
    });
  }
}

Picture calm(const Film& film, const LayerWeights& weights) {
  Picture picture = mixed(film, weights);
  spread(picture, film, speckles(picture, film));
  return picture;
}

}  // namespace cinnabar
