#include "cinnabar/effects/leaning.h"

#include <algorithm>
#include <cmath>
#include <complex>

#include "cinnabar/effects/fluids.h"

namespace cinnabar {
namespace {

/// Of a disc, what lies beyond a line `off` its middle.
double beyond(double radius, double off) {
  if (off <= -radius) return pi * radius * radius;
  if (off >= radius) return 0.0;
  return radius * radius * std::acos(off / radius) - off * std::sqrt(radius * radius - off * off);
}

/// The greatest height over the foot, of a plane that meets the vessel.
double highest_point(const InnerSide& inner, double lean_deg) {
  double top = -1e300;
  for (const auto& [radius, height] : inner)
    top = std::max(top, height * std::cos(radians(lean_deg)) + radius * std::sin(radians(lean_deg)));
  return top;
}

}  // namespace

double volume_under(const InnerSide& inner, double lean_deg, double height) {
  const double c = std::cos(radians(lean_deg)), s = std::sin(radians(lean_deg));
  const auto wet = [&](double radius, double at) {
    if (s < 1e-9) return at * c <= height ? pi * radius * radius : 0.0;
    return beyond(radius, (at * c - height) / s);
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
  double low = 1e300, high = highest_point(inner, lean_deg);
  for (const auto& [radius, height] : inner)
    low = std::min(low, height * std::cos(radians(lean_deg)) - radius * std::sin(radians(lean_deg)));
  for (int k = 0; k < 48; ++k) {
    const double middle = 0.5 * (low + high);
    (volume_under(inner, lean_deg, middle) < volume ? low : high) = middle;
  }
  return 0.5 * (low + high);
}

Sloshing::Sloshing(double radius, double depth, double kinematic_viscosity) {
  const double k = first_zero_of_j1_prime, wave = k / radius;
  rate_ = std::sqrt(standard_gravity * wave * std::tanh(k * depth / radius));
  const double deep = 2.0 * k * depth / radius;
  const double bottom = deep < 700.0 ? k * (1.0 - depth / radius) / std::sinh(deep) : 0.0;
  damping_ =
      std::sqrt(kinematic_viscosity * rate_ / 2.0) / radius * (0.5 * (k * k + 1.0) / (k * k - 1.0) + bottom) +
      2.0 * kinematic_viscosity * wave * wave;
  push_ = 2.0 / (k * k - 1.0) * rate_ * rate_ * radius / standard_gravity;
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
