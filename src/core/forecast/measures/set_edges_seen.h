// Which edges of surface and backdrop the camera could see, taken as one body: where they meet or hide one another
// does not count.
#pragma once
#include "cinnabar/forecast/levels/context.h"
#include "cinnabar/render/geometry.h"

namespace cinnabar {

/// Surface and backdrop alone, ready for rays.
class SetAlone {
 public:
  /// The backdrop as it stands at a moment.
  SetAlone(const Setup& setup, const Backdrop& backdrop);
  [[nodiscard]] const Geometry& geometry() const { return geometry_; }
  [[nodiscard]] const std::vector<EdgeLine>& edges() const { return edges_; }

 private:
  StagedWorld world_;
  Geometry geometry_;
  std::vector<EdgeLine> edges_;
};

/// A place on an outer edge, and its distance from the frame's border on the sensor: metres, negative inside.
struct SeenEdge {
  double distance;
  Vec3 at;
  Role role;
};

class EdgeSearch {
 public:
  /// `set` must outlive the search. The pose's focal length may be another than the shot's.
  EdgeSearch(const SetAlone& set, const CameraPose& pose, const ShotOptics& optics);

  /// The outer edge that comes nearest to the frame, or nothing when none can be seen.
  [[nodiscard]] std::optional<SeenEdge> nearest() const;
  /// Places along the outer edges that lie inside the frame.
  [[nodiscard]] std::vector<SeenEdge> inside() const;

 private:
  void along(Role role, const Vec3& a, const Vec3& b, int steps, int finer, std::optional<SeenEdge>& best) const;
  [[nodiscard]] std::optional<SeenEdge> seen(Role role, const Vec3& at, double under) const;
  [[nodiscard]] bool meets(const Vec3& direction, double far) const;
  [[nodiscard]] bool is_outer(const Vec3& p, const ImagePoint& image) const;

  const SetAlone& set_;
  CameraPose pose_;
  double half_width_, half_height_;
};

}  // namespace cinnabar
