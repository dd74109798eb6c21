// Mirror images of strip lights in upright glossy sides: lines of sight thrown back and followed to what they
// meet.
#pragma once
#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// The widest upright piece of a product's outline that mirrors; metres, the product's own heights.
struct Straight {
  double radius, low, high;
};
[[nodiscard]] std::optional<Straight> widest_straight(const Product& product);

/// A rectangle or tube that shines and is at least twice as tall as wide.
[[nodiscard]] bool is_strip(const Light& light);

/// An image as shares of the visible width, -1 at the left edge to +1 at the right.
struct StripImage {
  std::size_t light;  ///< of the set-up
  double left, right;
  double width_percent;  ///< of the product's width
};
/// The widest image that the lit side of a strip leaves at the piece's mid-height, at `set_time`: of 721 lines of
/// sight across the visible width, each thrown back by the side, those that meet it with nothing between (other
/// lights, their doors, cards, surface and backdrop; other products as upright cylinders).
[[nodiscard]] std::optional<StripImage> strip_image(const Project& project, const Shot& shot, const Setup& setup,
                                                    const ShotProduct& placed, const Straight& side,
                                                    double set_time);

/// Where a place on the side lies across the visible width, -1 to +1, seen from `distance` in plan; `angle_deg`
/// from the camera's bearing, positive to the right. Nothing where the side has turned away.
[[nodiscard]] std::optional<double> seen_at(double angle_deg, double distance, double radius);

}  // namespace cinnabar
