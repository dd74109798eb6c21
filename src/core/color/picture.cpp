#include "cinnabar/color/picture.h"

#include <png.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <string>

#include "cinnabar/color/white.h"

namespace cinnabar {

Rgb Picture::repeated(float u, float v) const {
  if (width <= 0 || height <= 0) return {};
  const float x = (u - std::floor(u)) * static_cast<float>(width) - 0.5f;
  const float y = (v - std::floor(v)) * static_cast<float>(height) - 0.5f;
  const float left = std::floor(x), top = std::floor(y), fx = x - left, fy = y - top;
  const auto at = [&](float i, float j) {
    const int a = static_cast<int>(i), b = static_cast<int>(j);
    const int column = a < 0 ? width - 1 : a >= width ? 0 : a, row = b < 0 ? height - 1 : b >= height ? 0 : b;
    return pixels[static_cast<std::size_t>(row) * static_cast<std::size_t>(width) +
                  static_cast<std::size_t>(column)];
  };
  return (at(left, top) * (1 - fx) + at(left + 1, top) * fx) * (1 - fy) +
         (at(left, top + 1) * (1 - fx) + at(left + 1, top + 1) * fx) * fy;
}

Rgb Picture::sample(float u, float v) const {
  if (width <= 0 || height <= 0) return {};
  const float x = std::clamp(u, 0.0f, 1.0f) * static_cast<float>(width) - 0.5f;
  const float y = std::clamp(v, 0.0f, 1.0f) * static_cast<float>(height) - 0.5f;
  const int x0 = std::max(0, static_cast<int>(std::floor(x))), y0 = std::max(0, static_cast<int>(std::floor(y)));
  const int x1 = std::min(x0 + 1, width - 1), y1 = std::min(y0 + 1, height - 1);
  const float fx = std::clamp(x - static_cast<float>(x0), 0.0f, 1.0f),
              fy = std::clamp(y - static_cast<float>(y0), 0.0f, 1.0f);
  const auto at = [&](int i, int j) {
    return pixels[static_cast<std::size_t>(j) * static_cast<std::size_t>(width) + static_cast<std::size_t>(i)];
  };
  return (at(x0, y0) * (1 - fx) + at(x1, y0) * fx) * (1 - fy) + (at(x0, y1) * (1 - fx) + at(x1, y1) * fx) * fy;
}

namespace {

/// Means of squares of `by` x `by` pixels, in linear light.
Picture averaged(const Picture& picture, int by) {
  Picture out{(picture.width + by - 1) / by, (picture.height + by - 1) / by, {}};
  out.pixels.reserve(static_cast<std::size_t>(out.width) * static_cast<std::size_t>(out.height));
  for (int y = 0; y < out.height; ++y)
    for (int x = 0; x < out.width; ++x) {
      Rgb sum{};
      int count = 0;
      for (int j = y * by; j < std::min(picture.height, (y + 1) * by); ++j)
        for (int i = x * by; i < std::min(picture.width, (x + 1) * by); ++i, ++count)
          sum = sum + picture.pixels[static_cast<std::size_t>(j) * static_cast<std::size_t>(picture.width) +
                                     static_cast<std::size_t>(i)];
      out.pixels.push_back(sum * (1.0f / static_cast<float>(count)));
    }
  return out;
}

}  // namespace

Expected<Picture> decode_png(const std::vector<unsigned char>& bytes, const std::string& what) {
  png_image image{};
  image.version = PNG_IMAGE_VERSION;
  const auto refused = [&](const std::string& why) {
    png_image_free(&image);
    return fail(what, "is no PNG that can be read (" + why + ")", "save the picture again as PNG", Fault::input);
  };
  if (bytes.empty() || !png_image_begin_read_from_memory(&image, bytes.data(), bytes.size()))
    return refused(image.message);
  if (image.width > widest_png || image.height > widest_png)
    return refused("larger than " + std::to_string(widest_png) + " pixels");
  image.format = PNG_FORMAT_RGB;
  std::vector<unsigned char> buffer(PNG_IMAGE_SIZE(image));
  const png_color white{255, 255, 255};
  if (!png_image_finish_read(&image, &white, buffer.data(), 0, nullptr)) return refused(image.message);
  std::array<float, 256> linear{};
  for (std::size_t i = 0; i < 256; ++i)
    linear[i] = static_cast<float>(srgb_decode(static_cast<double>(i) / 255.0));
  // Strips of rows, so that a large picture is never held whole in floats.
  const int width = static_cast<int>(image.width), height = static_cast<int>(image.height);
  const auto pixels = static_cast<std::size_t>(width) * static_cast<std::size_t>(height);
  int by = 1;
  while (pixels / static_cast<std::size_t>(by * by) > most_pixels) ++by;
  Picture picture{(width + by - 1) / by, (height + by - 1) / by, {}};
  picture.pixels.reserve(static_cast<std::size_t>(picture.width) * static_cast<std::size_t>(picture.height));
  const auto take = [&](std::vector<Rgb>& into, int top, int rows) {
    const auto first = static_cast<std::size_t>(top) * static_cast<std::size_t>(width) * 3;
    const auto end = first + static_cast<std::size_t>(rows) * static_cast<std::size_t>(width) * 3;
    for (std::size_t i = first; i < end; i += 3)
      into.push_back({linear[buffer[i]], linear[buffer[i + 1]], linear[buffer[i + 2]]});
  };
  if (by == 1) {
    take(picture.pixels, 0, height);
    return picture;
  }
  for (int top = 0; top < height; top += by) {
    Picture strip{width, std::min(by, height - top), {}};
    take(strip.pixels, top, strip.height);
    const Picture means = averaged(strip, by);
    picture.pixels.insert(picture.pixels.end(), means.pixels.begin(), means.pixels.end());
  }
  return picture;
}

}  // namespace cinnabar
