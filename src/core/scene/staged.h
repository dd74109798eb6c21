// The staged world: what a shot is at one set time, as triangles, shining faces and a camera. Pure data.
#pragma once
#include <array>
#include <cstdint>
#include <memory>
#include <vector>

#include "cinnabar/color/picture.h"
#include "cinnabar/effects/cloud.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {

enum class Role : std::uint8_t { surface, backdrop, product, card, light, gear, effect, room };

/// A mesh of one material. Clear meshes are closed and carry a medium; others are thin and alike on both sides.
struct Mesh {
  Role role = Role::product;
  Material material;
  int medium = -1;  ///< index into StagedWorld::media for clear kinds
  int light = -1;   ///< index into StagedWorld::lights for shining faces
  int thing = -1;   ///< its place in the set-up's list of lights, cards or gear, or in the shot's of products
  std::shared_ptr<const Picture> picture;     ///< multiplies the colour; u to the right, v downward
  bool repeats = false;                       ///< the picture is a tile, its places count on from 1
  std::vector<Vec3f> normals;                 ///< per vertex, outward; moved ones at the middle of the exposure
  std::vector<std::vector<Vec3f>> positions;  ///< one list per time step over the exposure; one step stands still
  std::shared_ptr<const Picture> stamp;       ///< where it is bright, `foil` lies on it
  Material foil;
  std::vector<Vec3f> own;  ///< per vertex, where relief or cover lie on it: places that move with the thing
  Vec3f own_right{1, 0, 0}, own_up{0, 1, 0};  ///< the axes of those places
  Vec3f axis{0, 1, 0};                        ///< unit: what lines of a brushed finish go round, or across
  Vec3f origin{};                             ///< a point of that axis
  std::vector<std::pair<float, float>> uvs;
  std::vector<std::uint32_t> triangles;  ///< three indices each

  /// Its picture's colour there, white where it has none.
  [[nodiscard]] Rgb printed(float u, float v) const {
    return !picture ? Rgb{1, 1, 1} : repeats ? picture->repeated(u, v) : picture->sample(u, v);
  }
  [[nodiscard]] bool dressed() const { return material.relief || material.cover; }
};

/// The inside of a clear body. Where two overlap the higher priority is there.
struct Medium {
  float ior;
  Vec3f absorption;
  int priority;
};

/// Share that a grid of that tangent, 2 tan(grid / 2), passes at cosine `c` to its normal; 0 is no grid.
[[nodiscard]] inline double grid_share(double tangent, double c) {
  if (tangent <= 0.0) return 1.0;
  return c <= 0.0 ? 0.0 : std::max(0.0, 1.0 - std::sqrt(std::max(0.0, 1.0 - c * c)) / c / tangent);
}

/// A shining face. Luminance is what dimmer 1 gives, gel included.
struct StagedLight {
  std::string id;
  LightShape shape;
  Vec3 place;
  Facing frame;
  double width, height, radius, length;
  double luminance, dimmer;
  double white_kelvin;
  bool on;
  double grid_tangent;                                    ///< 2 tan(grid / 2), or 0 without a grid
  std::shared_ptr<const LightDistribution> distribution;  ///< nothing: Lambert's
  std::shared_ptr<const FrontEmission> shines{};          ///< as its front lets it; nothing: evenly
  std::optional<Vec3> gel_bands{};                        ///< colour of its gel
  double duv = 0.0;                                       ///< its white's distance from the locus
  std::optional<Vec3> beam{};       ///< toward the sun: its disc alone, seen through the face
  std::optional<std::size_t> pane;  ///< of a beam: the light whose face it comes through
  std::optional<Vec3> film{};       ///< of a polarising film before it: along what that lets through

  /// Share passed along a direction at cosine `c` to the face's normal.
  [[nodiscard]] double grid(double c) const { return grid_share(grid_tangent, c); }
  /// Relative luminance of a place of its face against a direction: its grid's, and its front's up to an even
  /// face's.
  [[nodiscard]] double toward(const Vec3& at, const Vec3& direction) const {
    const double forward = -dot(direction, frame.ahead), passed = grid(std::max(0.0, forward));
    if (!shines || forward <= 0.0) return passed;
    const Vec3 out = at - place;
    return passed *
           std::min(1.0, shines->at(dot(out, frame.right), dot(out, frame.up),
                                    -dot(direction, frame.right) / forward, -dot(direction, frame.up) / forward));
  }
  /// What the light is mixed with now: 0 when it is off.
  [[nodiscard]] double level() const { return on ? luminance * dimmer : 0.0; }
};

struct StagedCamera {
  std::vector<CameraPose> poses;  ///< over the exposure, evenly
  ShotOptics optics;
  double f_number, f_number_effective;
  double shutter_time, iso, nd_stops, balance_k;
  std::optional<double> film_deg{};  ///< of a polariser before the lens; what it takes is among `nd_stops`
  [[nodiscard]] const CameraPose& middle_pose() const { return poses[poses.size() / 2]; }
};

/// Where a product of the shot is as the shutter opens, in the middle, and as it closes.
struct ExposedPoses {
  ProductPose open, middle, shut;
};

struct StagedWorld {
  std::vector<Mesh> meshes;
  std::vector<Medium> media;
  std::vector<StagedLight> lights;
  double ambient_luminance = 0, ambient_kelvin = 5600;
  StagedCamera camera;
  std::vector<ExposedPoses> products;  ///< of all products of the shot
  double set_time = 0;
  std::vector<Cloud> clouds;  ///< in the air, as they are in the middle of the exposure
  bool screens = false;       ///< something shows by light of its own
  /// What its triangles take, about; pictures are shared and not counted.
  [[nodiscard]] std::size_t bytes() const;
};

struct StageOptions {
  bool motion = true;  ///< move things through the exposure; else they stand as at its middle
  int segments = 96;   ///< of a full turn
};

/// Stages a shot at a set time. A shot whose set-up is unknown has neither surface nor lights.
[[nodiscard]] StagedWorld stage(const Project& project, const Shot& shot, double set_time,
                                const StageOptions& options = {});

/// A product alone in its own coordinates, without motion (for previews and tests).
[[nodiscard]] std::vector<Mesh> product_meshes(const Product& product, std::vector<Medium>& media, int segments);

/// Whether what a mesh is of has nothing to do in a picture: lights, bodies and the room that are not dressed,
/// cards.
[[nodiscard]] bool must_not_be_seen(const Setup& setup, const Mesh& mesh);

/// The corners of a leaf of barn doors: its hinge's two ends, then its outer edge back again.
using DoorLeaf = std::array<Vec3, 4>;
/// Top, bottom, left and right leaf of a light that has doors; points without extent where it has none.
[[nodiscard]] std::array<DoorLeaf, 4> door_leaves(const Light& light);

/// Outer edges of surface and backdrop as polylines on the floor, for the frame's edge level and the drawing.
struct EdgeLine {
  Role role;
  std::vector<Vec3> points;
};
[[nodiscard]] std::vector<EdgeLine> set_edges(const Setup& setup, const Backdrop& backdrop);

/// Across the backdrop from its lower to its upper edge: the left and right end of each line, between which it is
/// flat. `backdrop` is the set-up's, or as it stands at a moment (`backdrop_at`).
struct AcrossBackdrop {
  Vec3 left, right;
};
[[nodiscard]] std::vector<AcrossBackdrop> backdrop_lines(const Setup& setup, const Backdrop& backdrop);

}  // namespace cinnabar
