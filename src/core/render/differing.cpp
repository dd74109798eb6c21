#include "cinnabar/render/differing.h"

#include <algorithm>
#include <cmath>

namespace cinnabar {

std::optional<Differing> differing(const std::vector<unsigned char>& a, const std::vector<unsigned char>& b,
                                   int width, int height, double codes) {
  constexpr int half = 2;
  const auto pixels = static_cast<std::size_t>(std::max(width, 0)) * static_cast<std::size_t>(std::max(height, 0));
  if (pixels == 0 || a.size() != 3 * pixels || b.size() != 3 * pixels) return {};
  // Sums of the differences over all that lies above and to the left, a channel after the other.
  const auto w = static_cast<std::size_t>(width), h = static_cast<std::size_t>(height);
  std::vector<int> sums((w + 1) * (h + 1));
  std::vector<float> apart(pixels, 0.0f);
  for (std::size_t channel = 0; channel < 3; ++channel) {
    for (std::size_t y = 0; y < h; ++y) {
      int row = 0;
      for (std::size_t x = 0; x < w; ++x) {
        const std::size_t at = 3 * (y * w + x) + channel;
        row += static_cast<int>(a[at]) - static_cast<int>(b[at]);
        sums[(y + 1) * (w + 1) + x + 1] = sums[y * (w + 1) + x + 1] + row;
      }
    }
    for (int y = 0; y < height; ++y)
      for (int x = 0; x < width; ++x) {
        const auto x0 = static_cast<std::size_t>(std::max(0, x - half)),
                   y0 = static_cast<std::size_t>(std::max(0, y - half)),
                   x1 = static_cast<std::size_t>(std::min(width, x + half + 1)),
                   y1 = static_cast<std::size_t>(std::min(height, y + half + 1));
        const int sum =
            sums[y1 * (w + 1) + x1] - sums[y0 * (w + 1) + x1] - sums[y1 * (w + 1) + x0] + sums[y0 * (w + 1) + x0];
        float& most = apart[static_cast<std::size_t>(y) * w + static_cast<std::size_t>(x)];
        most = std::max(most, std::abs(static_cast<float>(sum)) / static_cast<float>((x1 - x0) * (y1 - y0)));
      }
  }
  Differing out;
  std::size_t count = 0;
  int left = width, right = -1, top = height, bottom = -1;
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      const double by = apart[static_cast<std::size_t>(y) * w + static_cast<std::size_t>(x)];
      out.most = std::max(out.most, by);
      if (by <= codes) continue;
      ++count;
      left = std::min(left, x), right = std::max(right, x), top = std::min(top, y), bottom = std::max(bottom, y);
    }
  out.share = static_cast<double>(count) / static_cast<double>(pixels);
  if (count > 0)
    out.box = Differing::Box{static_cast<double>(left) / width, static_cast<double>(top) / height,
                             (right + 1.0) / width, (bottom + 1.0) / height};
  return out;
}

}  // namespace cinnabar
