// What differs between two pictures of one frame: plates, or a state that was kept and the one of now.
#pragma once
#include <optional>
#include <vector>

namespace cinnabar {

struct Differing {
  double share = 0.0;  ///< of the frame
  double most = 0.0;   ///< the greatest difference in any channel, codes of 255
  struct Box {
    double left, top, right, bottom;  ///< shares of the frame, y down
  };
  std::optional<Box> box;  ///< round all that differs; nothing where nothing does
};

/// Of two pictures as the camera records them, RGB of a byte each, row by row. Both are evened over five pixels a
/// side first, so that a picture's own noise is not taken for one; then whatever is more than `codes` apart in any
/// channel differs. Nothing where the sizes do not fit.
[[nodiscard]] std::optional<Differing> differing(const std::vector<unsigned char>& a,
                                                 const std::vector<unsigned char>& b, int width, int height,
                                                 double codes = 4.0);

}  // namespace cinnabar
