// What the tracer gathers: one layer per light and one for the ambient, so that dimmers, whites and exposure are
// mixed anew without a ray (ISO 12232:2019 for the signal).
#pragma once
#include <algorithm>
#include <cstdint>
#include <optional>
#include <vector>

#include "cinnabar/color/picture.h"
#include "cinnabar/scene/staged.h"

namespace cinnabar {

/// What a pixel's first ray met, for the filter and the measures; `albedo` and `behind` in the mean over the
/// passes.
struct FirstHit {
  const Mesh* mesh = nullptr;
  Vec3f normal{};
  Rgb albedo{};
  Rgb behind{};  ///< albedo of the first opaque thing after a clear one; else as `albedo`
  float distance = 1e6f;
  float foil = 0.0f;  ///< share of the looks that met foil, where some is stamped on
};

/// How light from mirrors and glass onto what scatters is found: by the paths that happen to meet the light that
/// way (without blur, and noisy), or by photons (calm, blurred a little in the first passes).
enum class Caustics : std::uint8_t { by_paths, by_photons };

/// A pixel in which several bodies meet: along outlines, or where it is out of focus or moves.
struct Mixture {
  std::uint32_t pixel;
  std::array<const Mesh*, 3> of;  ///< those that fill most of it, the most first; null: nothing is there
  std::array<float, 3> share;     ///< of the pixel, 0 where there are fewer; 1 in all
};

/// Sums of radiance over density for unit luminance of each light; layer `lights` is the ambient,
/// the one after it, where there are any, the screens (those in cd/m2).
struct Film {
  Film() = default;
  Film(int w, int h, std::size_t lights, Caustics how = Caustics::by_paths, bool screens = false)
      : width(w),
        height(h),
        layers(lights + (screens ? 2 : 1)),
        sums(static_cast<std::size_t>(w) * static_cast<std::size_t>(h) * layers),
        first(static_cast<std::size_t>(w) * static_cast<std::size_t>(h)),
        caustics(how),
        ways(how == Caustics::by_photons ? 4 : 1),
        squares(how == Caustics::by_photons ? first.size() : 0),
        totals(squares.size()) {}
  int width = 0, height = 0;
  std::size_t layers = 0;
  int passes = 0;
  int begins = 0;         ///< passes of other frames that its samples come after
  std::vector<Rgb> sums;  ///< pixel by pixel, the layers of one pixel together
  std::vector<FirstHit> first;
  Caustics caustics = Caustics::by_paths;
  /// In which the first place that scatters looks for what others give it: nearly all of a picture's noise.
  int ways = 1;
  std::vector<float> squares;  ///< of pictures by photons: the passes' squared luminances, lights as when traced
  std::vector<float> totals;   ///< and their luminances
  std::vector<Mixture> mixtures;  ///< of pictures, as their first pass found them
  [[nodiscard]] std::size_t pixels() const { return first.size(); }
  /// Mean luminance of a pixel's passes, and the variance of that mean; of films that keep squares, from 2 passes
  /// on.
  [[nodiscard]] float mean_of(std::size_t pixel) const { return totals[pixel] / static_cast<float>(passes); }
  [[nodiscard]] float variance_of(std::size_t pixel) const {
    const auto n = static_cast<float>(passes);
    const float mean = mean_of(pixel);
    return std::max(0.0f, squares[pixel] / n - mean * mean) / (n - 1.0f);
  }
  /// Index of a pixel from the top left.
  [[nodiscard]] std::size_t at(int x, int y) const {
    return static_cast<std::size_t>(y) * static_cast<std::size_t>(width) + static_cast<std::size_t>(x);
  }
  [[nodiscard]] std::size_t bytes() const {
    return sums.capacity() * sizeof(Rgb) + (squares.capacity() + totals.capacity()) * sizeof(float) +
           first.capacity() * sizeof(FirstHit) + mixtures.capacity() * sizeof(Mixture);
  }
};

/// What each layer is multiplied by, in candela per square metre and the camera's white balance.
using LayerWeights = std::vector<Rgb>;

/// A light's colour to a camera of that balance, of luminance 1: its white, `duv` off the locus, behind its gel.
[[nodiscard]] Rgb light_colour(double kelvin, double duv, const std::optional<Vec3>& gel_bands, double balance_k);
/// The same as it is recorded, its brightest channel full; nothing of it dark.
[[nodiscard]] Vec3 recorded_colour(const Light& light, double balance_k);
/// Weights of a world's lights as they are now. `solo` keeps one layer only (a light's id, or "ambient").
[[nodiscard]] LayerWeights layer_weights(const StagedWorld& world, const std::string& solo = {});
/// The same without colour: luminances as a meter reads them.
[[nodiscard]] LayerWeights neutral_weights(const StagedWorld& world);

/// Mean luminance in candela per square metre, by colour channel.
[[nodiscard]] Picture mixed(const Film& film, const LayerWeights& weights);

/// The standard error of the middle pixel, as a share of its value, from the mean of `passes` and the mean of the
/// first `before` of them; pixels without light are left out. Nothing without passes on both sides.
[[nodiscard]] std::optional<double> relative_error(const Picture& mean, int passes, const Picture& first,
                                                   int before);

/// ISO as the light on the sensor has it: filters and the lens's own loss taken off (0.9 is in ISO 12232's q).
[[nodiscard]] double iso_at_sensor(const StagedCamera& camera);
/// From luminance to the sensor's signal: 1 is where it clips, `stops_over_grey` above the exposure's own grey;
/// where that is not known, ISO 12232's saturation: 0.65 t S / (78 N^2) with N effective and S at the sensor.
[[nodiscard]] double signal_per_luminance(const StagedCamera& camera);
/// Stops under clipping of a luminance.
[[nodiscard]] double stops_under_clip(const StagedCamera& camera, double luminance);
/// Luminance of an 18 % matte card under the illuminance that the exposure needs.
[[nodiscard]] double exposures_grey(const StagedCamera& camera);

/// 8-bit sRGB, clipped as the sensor clips; three bytes a pixel.
[[nodiscard]] std::vector<std::uint8_t> developed(const Picture& luminances, double signal_per_luminance);

}  // namespace cinnabar
