#include "cinnabar/effects/leaning.h"

#include <algorithm>
#include <cmath>
#include <complex>

#include "cinnabar/base/discs.h"
#include "cinnabar/effects/fluids.h"

namespace cinnabar {
double volume_under(const InnerSide& inner, double lean_deg, double height) {
  const double c = std::cos(radians(lean_deg)), s = std::sin(radians(lean_deg));
  const auto wet = [&](double radius, double at) {
    if (s < 1e-9) return at * c <= height ? pi * radius * radius : 0.0;
    return disc_beyond(radius, (at * c - height) / s);
  };
  double sum = 0.0;
  for (std::size_t i = 1; i < inner.size(); ++i) {
    const auto &a = inner[i - 1], &b = inner[i];
    // Where the plane leaves the one wall and comes to the other its cut bends: between them all is smooth.
    std::vector<double> stops{0.0, 1.0};
    for (const double side : {-s, s}) {
      const double from = a[1] * c + a[0] * side - height, to = b[1] * c + b[0] * side - height;
      if (from * to < 0.0) stops.push_back(from / (from - to));
    }
    std::sort(stops.begin(), stops.end());
    constexpr int parts = 32;  // even: Simpson's rule
    for (std::size_t k = 1; k < stops.size(); ++k) {
      const double step = (stops[k] - stops[k - 1]) / parts;
      if (step <= 0.0) continue;
      double piece = 0.0;
      for (int j = 0; j <= parts; ++j) {
        // A hair within: at a level plane's own height the section is there or not.
        const double t = stops[k - 1] + step * std::clamp<double>(j, 1e-9, parts - 1e-9);
        const double weight = j == 0 || j == parts ? 1.0 : j % 2 ? 4.0 : 2.0;
        piece += weight * wet(a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t);
      }
      sum += piece * step * (b[1] - a[1]) / 3.0;
    }
  }
  return sum;
}

double most_held(const InnerSide& inner, double lean_deg) {
  if (inner.size() < 2 || lean_deg >= 90.0) return 0.0;
  const auto& rim = inner.back();
  return volume_under(inner, lean_deg,
                      rim[1] * std::cos(radians(lean_deg)) - rim[0] * std::sin(radians(lean_deg)));
}

double height_leaning(const InnerSide& inner, double lean_deg, double volume) {
  double low = 1e300, high = -1e300;
  for (const auto& [radius, height] : inner) {
    const double middle = height * std::cos(radians(lean_deg)), side = radius * std::sin(radians(lean_deg));
    low = std::min(low, middle - side), high = std::max(high, middle + side);
  }
  for (int k = 0; k < 48; ++k) {
    const double middle = 0.5 * (low + high);
    (volume_under(inner, lean_deg, middle) < volume ? low : high) = middle;
  }
  return 0.5 * (low + high);
}

Sloshing::Sloshing(double radius, double depth, double kinematic_viscosity)
    : rate_(sloshing_rate(radius, depth)), push_(first_mode_share * rate_ * rate_ * radius / standard_gravity) {
  const double wave = first_zero_of_j1_prime / radius;
  damping_ = stokes_damping(radius, depth, kinematic_viscosity) + 2.0 * kinematic_viscosity * wave * wave;
}

void Sloshing::settled(const Vec3& acceleration, const Vec3& changing) {
  const double against = -push_ / (rate_ * rate_);
  height_ = Vec3{acceleration.x, 0, acceleration.z} * against;
  rises_ = Vec3{changing.x, 0, changing.z} * against;
}

void Sloshing::pushed(const Vec3& by) { rises_ = rises_ - Vec3{by.x, 0, by.z} * push_; }

void Sloshing::goes_on(double seconds) {
  // Exact, whether it swings or only sinks back.
  const std::complex<double> swing = std::sqrt(std::complex<double>(damping_ * damping_ - rate_ * rate_));
  const std::complex<double> slow = std::exp((swing - damping_) * seconds),
                             quick = std::exp((-swing - damping_) * seconds);
  const double even = 0.5 * (slow + quick).real(), odd = std::abs(swing) * seconds < 1e-9
                                                             ? seconds * slow.real()
                                                             : (0.5 * (slow - quick) / swing).real();
  const Vec3 height = height_ * (even + damping_ * odd) + rises_ * odd,
             rises = rises_ * (even - damping_ * odd) - height_ * (rate_ * rate_ * odd);
  height_ = height, rises_ = rises;
}

double Sloshing::period() const { return 2.0 * pi / rate_; }
double Sloshing::calms_in() const {
  const double slow = damping_ < rate_ ? damping_ : damping_ - std::sqrt(damping_ * damping_ - rate_ * rate_);
  return std::log(100.0) / slow;
}

double sloshing_form(double outward) {
  const double k = first_zero_of_j1_prime;
  return std::cyl_bessel_j(1.0, k * std::clamp(outward, 0.0, 1.0)) / std::cyl_bessel_j(1.0, k);
}

}  // namespace cinnabar
