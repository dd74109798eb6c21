// Pictures in memory.
#pragma once
#include <memory>
#include <vector>

#include "cinnabar/base/result.h"
#include "cinnabar/base/vec.h"

namespace cinnabar {

/// Linear BT.709 pixels from the top left; values 0 to 1 for pictures read from files.
struct Picture {
  int width = 0, height = 0;
  std::vector<Rgb> pixels;
  /// Bilinear, u to the right and v downward from 0 to 1, held at the edges.
  [[nodiscard]] Rgb sample(float u, float v) const;
  /// The same of a picture that repeats each way.
  [[nodiscard]] Rgb repeated(float u, float v) const;
};

inline constexpr int widest_png = 8192;               ///< pixels, either way
inline constexpr std::size_t most_pixels = 4u << 20;  ///< that a picture keeps; larger ones are made smaller

/// Decodes a PNG, transparent parts over white; at most 8192 x 8192, which is looked at before memory is taken.
/// More than `most_pixels` are averaged by whole numbers of pixels. The error names `what`.
[[nodiscard]] Expected<Picture> decode_png(const std::vector<unsigned char>& bytes, const std::string& what);

}  // namespace cinnabar
