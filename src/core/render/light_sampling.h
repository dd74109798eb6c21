// Points on shining faces as seen from a place, each sampler with its density per solid angle beside it.
#pragma once
#include "cinnabar/scene/staged.h"

namespace cinnabar {

/// A StagedLight made ready for the tracer, in single precision.
struct LightSampler {
  LightShape shape;
  Vec3f centre, right, up, ahead;
  float width, height, radius, length, area, grid_tangent;
  std::shared_ptr<const LightDistribution> distribution;
  double per_candela = 0;  ///< relative emission of a face seen square on, by candela of the distribution

  explicit LightSampler(const StagedLight& light);

  /// How far a tessellated round face may lie inside the true one, in metres.
  [[nodiscard]] float inside() const {
    return shape == LightShape::rectangle || shape == LightShape::disc ? 0.0f : 0.02f * radius;
  }

  struct Sample {
    Vec3f direction;  ///< unit, from the place to the face
    float distance;
    float density;   ///< per steradian; 0 when the face turns its back
    float emission;  ///< relative luminance toward the place: grid and distribution
  };
  /// A point of the face for two numbers in 0..1, even by area, and the face's normal there.
  struct Point {
    Vec3f place, normal;
  };
  [[nodiscard]] Point point(float u, float v) const;
  /// A point for two numbers in 0..1. Rectangles, discs and tubes by area; a bare lamp by its cone.
  [[nodiscard]] Sample toward(const Vec3f& from, float u, float v) const;
  /// Density of `toward` for a ray that met the face at `distance` where its normal is `normal`.
  [[nodiscard]] float density(const Vec3f& from, const Vec3f& direction, float distance,
                              const Vec3f& normal) const;
  /// Relative luminance that leaves the face against `direction`, given the face's outward normal there.
  [[nodiscard]] float emission(const Vec3f& direction, const Vec3f& normal) const;

 private:
  [[nodiscard]] float distributed(const Vec3f& direction) const;
};

}  // namespace cinnabar
