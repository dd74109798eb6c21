// What the levels of light read off a measured moment: luminances of chosen pixels, quantiles, shares by light.
#pragma once
#include <algorithm>
#include <cmath>

#include "cinnabar/color/white.h"
#include "cinnabar/forecast/levels/context.h"

namespace cinnabar {

inline constexpr double darkest = 1e-9;  ///< cd/m2: what counts as no light at all
[[nodiscard]] inline double log2_ratio(double a, double b) {
  return std::log2(std::max(a, darkest) / std::max(b, darkest));
}

/// Luminances of the pixels whose first ray met what is wanted.
template <class Wanted>
[[nodiscard]] std::vector<double> luminances(const LightMoment& m, Wanted&& wanted) {
  const Picture picture = mixed(m.measure->film, m.weights);
  std::vector<double> list;
  for (std::size_t p = 0; p < picture.pixels.size(); ++p)
    if (wanted(m.measure->film.first[p])) list.push_back(luminance(picture.pixels[p]));
  return list;
}

/// The same over blocks of `size` by `size` such pixels: less of the picture's own noise, which draws medians and
/// dark tenths down. By pixels where no block is whole.
template <class Wanted>
[[nodiscard]] std::vector<double> block_luminances(const LightMoment& m, Wanted&& wanted, int size = 2) {
  const Film& film = m.measure->film;
  const Picture picture = mixed(film, m.weights);
  std::vector<double> list;
  for (int y = 0; y + size <= film.height; y += size)
    for (int x = 0; x + size <= film.width; x += size) {
      double sum = 0.0;
      bool whole = true;
      for (int j = 0; j < size && whole; ++j)
        for (int i = 0; i < size && whole; ++i) {
          const std::size_t p = film.at(x + i, y + j);
          whole = wanted(film.first[p]);
          if (whole) sum += luminance(picture.pixels[p]);
        }
      if (whole) list.push_back(sum / (size * size));
    }
  return list.empty() ? luminances(m, wanted) : list;
}

/// The mean of the brightest (or darkest) share of values given by pixel; pixels without one are left out. Which
/// they are is decided by each pixel's mean with its neighbours: noise picked for its height would count
/// otherwise.
[[nodiscard]] double mean_of_extreme(const Film& film, const std::vector<std::optional<double>>& by_pixel,
                                     double part, bool brightest);

/// The value under which a share of the list lies; `list` must not be empty and is put in another order.
[[nodiscard]] inline double quantile(std::vector<double>& list, double share_below) {
  const auto at =
      std::min(list.size() - 1, static_cast<std::size_t>(share_below * static_cast<double>(list.size())));
  std::nth_element(list.begin(), list.begin() + static_cast<std::ptrdiff_t>(at), list.end());
  return list[at];
}

[[nodiscard]] inline bool is_product(const FirstHit& hit) { return hit.mesh && hit.mesh->role == Role::product; }
[[nodiscard]] inline bool is_backdrop(const FirstHit& hit) { return hit.mesh && hit.mesh->role == Role::backdrop; }
[[nodiscard]] inline bool is_lit_part(const FirstHit& hit) {
  return is_product(hit) &&
         (hit.mesh->material.kind == MaterialKind::matte || hit.mesh->material.kind == MaterialKind::paper);
}

/// Luminance by layer (lights, then ambient) over the pixels wanted, summed.
template <class Wanted>
[[nodiscard]] std::vector<double> by_layer(const LightMoment& m, Wanted&& wanted) {
  const Film& film = m.measure->film;
  std::vector<double> sums(film.layers, 0.0);
  for (std::size_t p = 0; p < film.pixels(); ++p)
    if (wanted(film.first[p]))
      for (std::size_t l = 0; l < film.layers; ++l)
        sums[l] += luminance(film.sums[p * film.layers + l]) * m.weights[l].x;
  return sums;
}

/// What a grey card lying on the product's lit face would show: the mean of the brightest third of its matte and
/// paper pixels, each times 18 % over its own reflectance; or an 18 % card at its front. cd/m2.
struct LitFace {
  double luminance;
  bool by_card;
};
[[nodiscard]] std::optional<LitFace> lit_face(const LightMoment& moment);

/// What counts as the backdrop in a moment's picture: the backdrop, or the surface where a camera that looks down
/// sees none.
[[nodiscard]] inline Role backdrop_role(const LightMoment& m) {
  const Film& film = m.measure->film;
  if (std::any_of(film.first.begin(), film.first.end(), is_backdrop)) return Role::backdrop;
  return looks_down(m.camera.middle_pose()) ? Role::surface : Role::backdrop;
}

[[nodiscard]] inline std::string no_light(const ShotContext& c) {
  return c.setup ? "the light could not be measured" : "the shot has no set-up";
}

}  // namespace cinnabar
