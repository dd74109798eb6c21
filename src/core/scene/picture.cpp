#include "cinnabar/scene/picture.h"

#include <png.h>

#include <array>
#include <cmath>

namespace cinnabar {

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

Expected<Picture> decode_png(const std::vector<unsigned char>& bytes, const std::string& what) {
  png_image image{};
  image.version = PNG_IMAGE_VERSION;
  const auto refused = [&](const std::string& why) {
    png_image_free(&image);
    return fail(what, "is no PNG that can be read (" + why + ")", "save the picture again as PNG", Fault::input);
  };
  if (bytes.empty() || !png_image_begin_read_from_memory(&image, bytes.data(), bytes.size()))
    return refused(image.message);
  if (image.width > 8192 || image.height > 8192) return refused("larger than 8192 pixels");
  image.format = PNG_FORMAT_RGB;
  std::vector<unsigned char> buffer(PNG_IMAGE_SIZE(image));
  const png_color white{255, 255, 255};
  if (!png_image_finish_read(&image, &white, buffer.data(), 0, nullptr)) return refused(image.message);
  std::array<float, 256> linear{};
  for (std::size_t i = 0; i < 256; ++i) {
    const double c = static_cast<double>(i) / 255.0;
    linear[i] = static_cast<float>(c <= 0.04045 ? c / 12.92 : std::pow((c + 0.055) / 1.055, 2.4));
  }
  Picture picture{static_cast<int>(image.width), static_cast<int>(image.height), {}};
  picture.pixels.reserve(buffer.size() / 3);
  for (std::size_t i = 0; i + 2 < buffer.size(); i += 3)
    picture.pixels.push_back({linear[buffer[i]], linear[buffer[i + 1]], linear[buffer[i + 2]]});
  return picture;
}

}  // namespace cinnabar
