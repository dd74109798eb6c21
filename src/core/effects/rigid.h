// Rigid bodies that fall, meet one another and what stands about, and come to rest: by Bullet, in double
// precision, with a thousandth of a second a step. SI.
#pragma once
#include <array>
#include <memory>
#include <vector>

#include "cinnabar/base/vec.h"

namespace cinnabar {

/// The hull of these points; of what stands there and does not move, where it stands.
using RigidSolid = std::vector<Vec3>;

/// A box let go at once, a ball where it is one, or a hull about its middle. Its mass does not matter: all are as
/// dense.
struct RigidPiece {
  Vec3 half;  ///< half sizes; a ball's radius thrice; a hull's reach each way
  bool ball = false;
  RigidSolid hull{};  ///< on its own axes; empty: none
  Vec3 place, right{1, 0, 0}, up{0, 1, 0};
  Vec3 velocity{}, spin{};    ///< m/s, rad/s
  double terminal_speed = 0;  ///< 0: no drag
  double restitution = 0.4;   ///< from the ground, and by its square from another piece
  double friction = 0.5;
  bool operator==(const RigidPiece&) const = default;
};
struct RigidScene {
  double ground = 0;
  std::vector<RigidSolid> solids{};
  std::vector<RigidPiece> pieces{};
  bool operator==(const RigidScene&) const = default;
};

struct RigidPose {
  Vec3 place, right, up;
};

/// What comes of a scene: the same, bit for bit, whenever it is worked out, which is done as far as is asked. Ends
/// when all lie still, or after twenty seconds. From any thread.
class RigidRun {
 public:
  explicit RigidRun(const RigidScene& scene);
  RigidRun(const RigidRun&) = delete;
  RigidRun& operator=(const RigidRun&) = delete;
  ~RigidRun();

  /// Of all pieces, between the steps where they lie; at the beginning before it, at rest after it.
  [[nodiscard]] std::vector<RigidPose> at(double t) const;
  /// What it keeps, about.
  [[nodiscard]] std::size_t bytes() const;

 private:
  struct Running;
  std::unique_ptr<Running> running_;
};

/// The same, of what was worked out lately, at most some 32 MB of it: pictures of one effect are many. From any
/// thread.
[[nodiscard]] std::shared_ptr<const RigidRun> rigid_run(const RigidScene& scene);

}  // namespace cinnabar
