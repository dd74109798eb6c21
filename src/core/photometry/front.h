// What stands before a lamp, as the face it shines from shows it: at each place of the face and in each direction,
// held against an even Lambertian face of the same lumens. Lengths in metres, angles in degrees.
#pragma once
#include <cstddef>
#include <functional>
#include <memory>
#include <span>
#include <utility>
#include <vector>

namespace cinnabar {

/// Cloth or a sheet; beads, bare or behind a sheet; a lens before a lamp; a black tube; a gate thrown by a lens.
enum class FrontKind { cloth, beads, lens, tube, gate };

struct LightFront {
  FrontKind kind = FrontKind::cloth;
  double gap = 0;        ///< of cloth and beads, from the lamp to the cloth; 0: lit evenly, or bare beads
  double exponent = 1;   ///< of the lamp's, or a bead's, cosine
  double forward = 0;    ///< share of what a cloth lets through that goes on in a lobe about its ray
  double lobe_deg = 20;  ///< from the ray to where the lobe gives half
  double baffle = 0;     ///< an inner cloth as large as the face hangs so far behind it, its walls black; 0: none
  double pitch = 0.01;   ///< of beads, from middle to middle
  double bead_radius = 0;       ///< 0: a quarter of the pitch
  double source_radius = 0.01;  ///< of the lamp's disc behind a lens
  double focal = 0.1;           ///< of the lens
  double distance = 0.1;        ///< from lamp or gate to the lens
  double length = 0.1;          ///< of a tube
  double mouth_radius = 0.05;   ///< of a tube
  double gate_width = 0.02, gate_height = 0.02;
  bool operator==(const LightFront&) const = default;
};

/// A measure of a front, by its key.
struct FrontMeasure {
  const char* key;
  double LightFront::*value;
};
/// Those that count for a kind.
[[nodiscard]] std::span<const FrontMeasure> front_measures(FrontKind kind);

/// A face by its half sizes; a round one has one radius.
struct FrontFace {
  bool round = false;
  double half_width = 0.1, half_height = 0.1;
  bool operator==(const FrontFace&) const = default;
};

/// Relative luminance of a face behind a front. What cloth gives sums to the face's lumens; a lens or a gate takes
/// of the lamp's lumens what falls on it, a tube of the face's what comes out. Nothing gains. A lens keeps the
/// luminance of what is behind it (Born & Wolf); cloth: Lafortune & Willems 1994 (both value from memory).
class FrontEmission {
 public:
  FrontEmission(const LightFront& front, const FrontFace& face);
  /// A face as bright as `by_direction` says of the direction alone, alike at all its places: a pane.
  FrontEmission(const FrontFace& face, std::function<double(double u, double v)> by_direction);

  /// At (x, y) from the face's middle, to its right and up, toward a direction that goes (u, v) aside for 1 ahead.
  [[nodiscard]] double at(double x, double y, double u, double v) const;
  /// The same with what repeats from bead to bead evened out.
  [[nodiscard]] double evened(double x, double y, double u, double v) const;
  /// The same in the mean of the face, straight ahead: what the axis gets far off, against an even face.
  [[nodiscard]] double ahead() const { return ahead_; }
  /// Share of the width and of the height that shines toward a place (x, y) aside and `z` ahead: of an even face
  /// of the same spread. 1 where nothing reaches the place.
  [[nodiscard]] std::pair<double, double> seen_from(double x, double y, double z) const;
  [[nodiscard]] const LightFront& front() const { return front_; }
  /// A pane's, else nothing.
  [[nodiscard]] const std::function<double(double, double)>& by_direction() const { return by_direction_; }
  [[nodiscard]] const FrontFace& face() const { return face_; }

 private:
  void spread_hot_spot();
  void spread_inner();
  void spread_beads();
  [[nodiscard]] bool inside(double x, double y) const;
  [[nodiscard]] double hot_spot(double x, double y) const;
  [[nodiscard]] double table(double x, double y) const;
  [[nodiscard]] double cloth(double x, double y, double u, double v) const;

  LightFront front_;
  FrontFace face_;
  double scale_ = 1;             ///< what the pattern is multiplied by
  double lobe_ = 1;              ///< exponent of the lobe's cosine
  std::vector<double> quarter_;  ///< of the face, or of a bead's cell: rows upward from the middle
  double reach_x_ = 1, reach_y_ = 1;
  double ahead_ = 1;
  std::function<double(double, double)> by_direction_;
};

/// The same, kept for the last 64 that were asked for: a set-up is read anew at each edit of it. From any thread.
[[nodiscard]] std::shared_ptr<const FrontEmission> front_emission(const LightFront& front, const FrontFace& face);

}  // namespace cinnabar
