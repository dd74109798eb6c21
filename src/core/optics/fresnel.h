// Glass: reflection at a boundary and absorption inside (Born & Wolf, Principles of Optics).
#pragma once
#include <algorithm>
#include <cmath>
#include <optional>

#include "cinnabar/base/keys.h"

namespace cinnabar {

/// Unpolarised reflectance going from index `n1` to `n2` at `angle_deg` (0 to 90) from the normal;
/// no transmitted angle under total reflection.
struct FresnelInputs {
  double n1, n2, angle_deg;
  static Keys<FresnelInputs> keys();
};
struct Fresnel {
  double reflectance;
  std::optional<double> transmitted_angle_deg;
  static Results<Fresnel> results();
};
[[nodiscard]] Expected<Fresnel> fresnel(const FresnelInputs&);

/// What a boundary reflects of light square to the plane of incidence (s) and in it (p). `eta` = n1 / n2.
template <class T>
struct ReflectedShares {
  T s, p;
};
template <class T>
[[nodiscard]] ReflectedShares<T> reflected_shares(T cos_in, T eta, T cos_out) {
  const T s = (eta * cos_in - cos_out) / (eta * cos_in + cos_out),
          p = (cos_in - eta * cos_out) / (cos_in + eta * cos_out);
  return {s * s, p * p};
}

/// The same for the tracer: `cos_in` in 0..1, `eta` = n1 / n2. Sets `cos_out` (0 under total reflection).
[[nodiscard]] inline float fresnel_reflectance(float cos_in, float eta, float& cos_out) {
  const float sin2 = eta * eta * std::max(0.0f, 1.0f - cos_in * cos_in);
  if (sin2 >= 1.0f) {
    cos_out = 0.0f;
    return 1.0f;
  }
  cos_out = std::sqrt(1.0f - sin2);
  if (eta == 1.0f) return 0.0f;
  const auto [s, p] = reflected_shares(cos_in, eta, cos_out);
  return 0.5f * (s + p);
}

/// How the two parts' amplitudes come back: s square to the plane of incidence, p in it and turned with the ray,
/// so that both keep their hands (Born & Wolf). Under total reflection, whose change of phase is left out, as a
/// mirror.
[[nodiscard]] inline ReflectedShares<float> reflected_amplitudes(float cos_in, float eta) {
  float cos_out = 0.0f;
  (void)fresnel_reflectance(cos_in, eta, cos_out);
  if (cos_out <= 0.0f) return {-1.0f, 1.0f};
  return {(eta * cos_in - cos_out) / (eta * cos_in + cos_out),
          (cos_in - eta * cos_out) / (cos_in + eta * cos_out)};
}

/// Beer-Lambert: e^(-coefficient x path), coefficient per metre.
struct AbsorbInputs {
  double coefficient, path;
  static Keys<AbsorbInputs> keys();
};
struct Absorb {
  double transmittance;
  static Results<Absorb> results();
};
[[nodiscard]] Expected<Absorb> absorb(const AbsorbInputs&);

}  // namespace cinnabar
