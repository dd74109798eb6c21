// The outer form of a product's parts, whatever they are given by: turned outlines, sections that are wider than
// deep, boxes, meshes. Product's own coordinates, metres; bearings in degrees, 0 at the front, to camera right.
#pragma once
#include <array>
#include <optional>
#include <vector>

#include "cinnabar/base/vec.h"
#include "cinnabar/project/model/entities.h"

namespace cinnabar {

/// A place on a part's side, and which way it faces, level.
struct RimPoint {
  Vec3 at, out;
};
/// Round a part at one of its profile's points, from the front to camera right and back, as many points at every
/// height: about `steps`, and twice at a box's upright edges, so that each side has its own way to face. All on
/// the axis where the section has no extent.
[[nodiscard]] std::vector<RimPoint> rim(const Part& part, const ProfilePoint& point, int steps);

/// A part's section at a height, the widest where there are several; nothing above and below it.
[[nodiscard]] std::optional<ProfilePoint> section_at(const Part& part, double height);

/// Where a part's side is met at a height, seen from its section's middle, with its full normal.
[[nodiscard]] std::optional<RimPoint> side_at(const Part& part, double height, double bearing_deg);
/// The outermost of a product's parts there.
[[nodiscard]] std::optional<RimPoint> side_at(const Product& product, double height, double bearing_deg);
/// How far that is from the axis; 0 where nothing is.
[[nodiscard]] double reach_at(const Product& product, double height, double bearing_deg);

/// Greatest half width of a product or part at a height, 0 where there is none.
[[nodiscard]] double radius_at(const Product& product, double height);
[[nodiscard]] double radius_at(const Part& part, double height);

/// The box round a product.
struct Extent {
  double left = 0, right = 0, low = 0, high = 0, back = 0, front = 0;
  [[nodiscard]] double height() const { return high - low; }
  [[nodiscard]] double width() const { return right - left; }
  [[nodiscard]] double depth() const { return front - back; }
};
[[nodiscard]] Extent extent(const Product& product);
/// The farthest that any of it lies from the axis.
[[nodiscard]] double widest_reach(const Product& product);
/// Lowest and highest point of a product's outlines.
[[nodiscard]] std::pair<double, double> height_span(const Product& product);

/// Points spread over a label, with outward normals; `columns` x `rows`. Evenly along its side.
struct LabelPoint {
  Vec3 at, normal;
};
[[nodiscard]] std::vector<LabelPoint> label_points(const Product& product, int columns, int rows);
/// Bearings at which a label's picture is met at even shares of its width at a height, left edge to right edge:
/// `columns` + 1.
[[nodiscard]] std::vector<double> label_bearings(const Part& part, const Label& label, int columns, double height);

/// The inside of a product's first walled round part, whether it can be poured into or not.
struct VesselInside {
  std::vector<std::array<double, 2>> inner{};  ///< [radius, height], floor first; empty: there is none
  double level = 0;                            ///< where the liquid in it stands; its floor where it holds none
  bool open = false;                           ///< above
};
[[nodiscard]] VesselInside vessel_inside(const Product& product);
/// Its inner side where it is open above; else empty.
[[nodiscard]] std::vector<std::array<double, 2>> inner_side(const Product& product);
/// Where the liquid in it stands; its floor where it holds none.
[[nodiscard]] double liquid_level(const Product& product);
/// The product with its liquid up to a level, of a material where it held none.
[[nodiscard]] Product with_level(const Product& product, double level, const Material& material);

/// The product with something that fills its vessel from one height to another, a head of foam.
[[nodiscard]] Product with_head(Product product, double low, double high, const Material& material);

/// The product with a half ball open in its liquid's surface, about the axis; as it is where it holds none.
[[nodiscard]] Product with_cavity(Product product, double radius);

}  // namespace cinnabar
