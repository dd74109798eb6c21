// Pictures out: PNG and OpenEXR.
#pragma once
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "cinnabar/render/film.h"

namespace cinnabar {

/// 8-bit sRGB (so it says), three bytes a pixel from the top left.
[[nodiscard]] Expected<void> write_png(const std::string& path, int width, int height,
                                       const std::vector<std::uint8_t>& rgb);
/// The bytes of such a file, of just this size; nothing where it is not there or another picture.
[[nodiscard]] std::optional<std::vector<std::uint8_t>> read_png(const std::string& path, int width, int height);
/// A part of a picture, of the picture's size.
struct PictureLayer {
  std::string name;  ///< any text; what names of layers cannot hold is written as "_"
  Picture picture;
};
/// Linear BT.709 in candela per square metre, 32-bit float, nothing clipped, packed: channels R, G and B of the
/// whole, then NAME.R, NAME.G and NAME.B of each layer; a name that is taken gets a number.
[[nodiscard]] Expected<void> write_exr(const std::string& path, const Picture& picture,
                                       const std::vector<PictureLayer>& layers = {});

}  // namespace cinnabar
