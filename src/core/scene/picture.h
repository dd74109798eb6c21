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
};

/// Decodes a PNG, transparent parts over white; at most 8192 x 8192. The error names `what`.
[[nodiscard]] Expected<Picture> decode_png(const std::vector<unsigned char>& bytes, const std::string& what);

}  // namespace cinnabar
