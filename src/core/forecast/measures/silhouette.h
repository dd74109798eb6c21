// A product's outline on the sensor, and the frames of the deliverables in it. Sensor metres from the middle, x to
// the right and y up.
#pragma once
#include "cinnabar/forecast/levels/context.h"

namespace cinnabar {

struct ImageBox {
  double left = 1e9, right = -1e9, bottom = 1e9, top = -1e9;
  void take(const ImagePoint& p) {
    left = std::min(left, p.x), right = std::max(right, p.x);
    bottom = std::min(bottom, p.y), top = std::max(top, p.y);
  }
  [[nodiscard]] bool empty() const { return left > right; }
  [[nodiscard]] bool holds(const ImageBox& o) const {
    return o.left >= left && o.right <= right && o.bottom >= bottom && o.top <= top;
  }
};

/// The deliverable's frame: the largest of its shape, centred in the recorded one.
[[nodiscard]] ImageBox frame_of(const Deliverable& deliverable, const ShotOptics& optics);
/// The words' area on the sensor; its shares run from the top left of the deliverable's frame.
[[nodiscard]] ImageBox words_area(const Deliverable& deliverable, const ShotOptics& optics);

/// Convex pieces that together are the outline of all products at a set time: a product's parts are cut into
/// truncated cones, each of which is seen as the hull of its two rings.
[[nodiscard]] std::vector<std::vector<ImagePoint>> silhouette(const Project& project, const Shot& shot,
                                                              double set_time);
/// Whether a convex piece and a box share a point (separating axes).
[[nodiscard]] bool meets(const std::vector<ImagePoint>& piece, const ImageBox& box);

}  // namespace cinnabar
