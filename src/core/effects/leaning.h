// Vessels of revolution that lean: what is in them, how high it stands, how much they can hold. SI.
#pragma once
#include <array>
#include <vector>

#include "cinnabar/base/vec.h"

namespace cinnabar {

/// An inner side as radius and height, floor first, heights rising.
using InnerSide = std::vector<std::array<double, 2>>;

/// Volume of the inside of a vessel under the level plane that stands `height` over its foot (the middle of the
/// profile's height 0) when its axis leans by that angle, 0 to under 90 degrees, m3.
[[nodiscard]] double volume_under(const InnerSide& inner, double lean_deg, double height);
/// The most that an open vessel holds when it leans so: up to the lowest point of its rim. Nothing from 90 degrees
/// on.
[[nodiscard]] double most_held(const InnerSide& inner, double lean_deg);
/// How high over its foot that much stands in it, the most that it holds where it is more.
[[nodiscard]] double height_leaning(const InnerSide& inner, double lean_deg, double volume);

/// The first mode of a round vessel's liquid: how its edge rises and falls while the vessel is pushed about. The
/// height at the wall obeys q'' + 2 n q' + w^2 q = -K a, w of `slosh`, n of `slosh_stop` (Stokes layers) and of
/// the inside (2 nu k^2: Lamb 1932, article 348, value from memory), K = 2 w^2 R / ((lambda^2 - 1) g).
class Sloshing {
 public:
  /// Radius and depth over 0, metres; kinematic viscosity over 0, m2/s.
  Sloshing(double radius, double depth, double kinematic_viscosity);
  /// It has been under that acceleration for long, m/s2, which changes by so much a second: it stands against it
  /// and goes with it.
  void settled(const Vec3& acceleration, const Vec3& changing);
  /// The vessel's speed over the floor changes by that much at once, m/s.
  void pushed(const Vec3& by);
  /// Time goes on, seconds.
  void goes_on(double seconds);
  /// How much higher the liquid stands at the wall, by the way that it does, metres over the floor's plane.
  [[nodiscard]] const Vec3& wave() const { return height_; }
  [[nodiscard]] double period() const;
  /// How long until a hundredth of it is left, seconds.
  [[nodiscard]] double calms_in() const;

 private:
  double rate_, push_, damping_;
  Vec3 height_{}, rises_{};
};
/// The mode's form: 1 at the wall, 0 in the middle; `outward` of the radius, 0 to 1.
[[nodiscard]] double sloshing_form(double outward);

}  // namespace cinnabar
