// Pictures out: PNG and OpenEXR.
#pragma once
#include <cstdint>
#include <string>
#include <vector>

#include "cinnabar/render/film.h"

namespace cinnabar {

/// 8-bit RGB, three bytes a pixel from the top left.
[[nodiscard]] Expected<void> write_png(const std::string& path, int width, int height,
                                       const std::vector<std::uint8_t>& rgb);
/// Linear BT.709 in candela per square metre, 32-bit float, nothing clipped.
[[nodiscard]] Expected<void> write_exr(const std::string& path, const Picture& picture);

}  // namespace cinnabar
