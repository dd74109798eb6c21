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
  std::shared_ptr<const FrontEmission> shines;
  Vec3f beam{};                ///< toward the sun, or nothing
  float beam_one_less = 0.0f;  ///< 1 less the cosine of half its disc
  double per_candela = 0;      ///< relative emission of a face seen square on, by candela of the distribution

  explicit LightSampler(const StagedLight& light);

  /// How far a tessellated round face may lie inside the true one, in metres.
  [[nodiscard]] float inside() const {
    return shape == LightShape::rectangle || shape == LightShape::disc ? 0.0f : 0.02f * radius;
  }

  [[nodiscard]] double beam_solid_angle() const { return 2.0 * pi * static_cast<double>(beam_one_less); }

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
  /// Relative luminance that leaves a place of the face against `direction`, given its outward normal there.
  [[nodiscard]] float emission(const Vec3f& place, const Vec3f& direction, const Vec3f& normal) const;
  /// The same of a sample from a place, with beads evened out: what a patch gets of so many.
  [[nodiscard]] float evened(const Vec3f& from, const Sample& sample) const;

 private:
  /// Share that its grid passes at that cosine, over 0, to the face's normal.
  [[nodiscard]] float gridded(float c) const {
    return grid_tangent <= 0.0f
               ? 1.0f
               : std::max(0.0f, 1.0f - std::sqrt(std::max(0.0f, 1.0f - c * c)) / (c * grid_tangent));
  }
  [[nodiscard]] float distributed(const Vec3f& direction) const;
  [[nodiscard]] Sample toward_beam(const Vec3f& from, float u, float v) const;
  [[nodiscard]] bool in_beam(const Vec3f& direction) const {
    const Vec3f off = direction - beam;
    return dot(off, off) <= 2.0f * beam_one_less;
  }
  [[nodiscard]] float fronted(const Vec3f& place, const Vec3f& direction) const;
};

}  // namespace cinnabar
