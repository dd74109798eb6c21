// Three-component vectors. Lengths in metres where they are places; world axes as in docs/architecture.md.
#pragma once
#include <algorithm>
#include <cmath>

namespace cinnabar {

inline constexpr double pi = 3.14159265358979323846;
inline constexpr double standard_gravity = 9.80665;  ///< m/s2 (CGPM 1901)
inline constexpr float pif = 3.14159265f;            ///< pi in single precision
[[nodiscard]] constexpr double radians(double degrees) { return degrees * pi / 180.0; }
[[nodiscard]] constexpr double degrees(double radians_in) { return radians_in * 180.0 / pi; }

/// A vector of three numbers of one type.
template <class T>
struct Vec {
  T x{}, y{}, z{};

  constexpr Vec operator+(const Vec& o) const { return {x + o.x, y + o.y, z + o.z}; }
  constexpr Vec operator-(const Vec& o) const { return {x - o.x, y - o.y, z - o.z}; }
  constexpr Vec operator*(const Vec& o) const { return {x * o.x, y * o.y, z * o.z}; }
  constexpr Vec operator*(T s) const { return {x * s, y * s, z * s}; }
  constexpr Vec operator/(T s) const { return {x / s, y / s, z / s}; }
  constexpr Vec operator-() const { return {-x, -y, -z}; }
  constexpr Vec& operator+=(const Vec& o) { return *this = *this + o; }
  constexpr Vec& operator*=(const Vec& o) { return *this = *this * o; }
  constexpr bool operator==(const Vec&) const = default;
  template <class U>
  [[nodiscard]] constexpr Vec<U> as() const {
    return {static_cast<U>(x), static_cast<U>(y), static_cast<U>(z)};
  }
};
template <class T>
constexpr Vec<T> operator*(T s, const Vec<T>& v) {
  return v * s;
}
template <class T>
constexpr T dot(const Vec<T>& a, const Vec<T>& b) {
  return a.x * b.x + a.y * b.y + a.z * b.z;
}
template <class T>
constexpr Vec<T> cross(const Vec<T>& a, const Vec<T>& b) {
  return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x};
}
template <class T>
T length(const Vec<T>& v) {
  return std::sqrt(dot(v, v));
}
/// Unit vector; a zero vector stays zero.
template <class T>
Vec<T> unit(const Vec<T>& v) {
  const T l = length(v);
  return l > T(0) ? v / l : v;
}
template <class T>
constexpr T largest(const Vec<T>& v) {
  return std::max(v.x, std::max(v.y, v.z));
}

using Vec3 = Vec<double>;
using Vec3f = Vec<float>;
using Rgb = Vec<float>;

/// Right-handed frame of a thing that looks along `ahead`: right, up (the height direction) and ahead.
struct Facing {
  Vec3 right, up, ahead;
};

/// Frame at `place` looking at `aim`: up is world up made square to the aim (world -Z where the aim is
/// vertical), turned counter-clockwise by `roll_deg` as seen looking along the aim.
[[nodiscard]] inline Facing facing(const Vec3& place, const Vec3& aim, double roll_deg = 0.0) {
  Vec3 ahead = unit(aim - place);
  if (length(ahead) < 0.5) ahead = {0, 0, -1};
  Vec3 up = Vec3{0, 1, 0} - ahead * ahead.y;
  up = length(up) < 1e-9 ? Vec3{0, 0, -1} : unit(up);
  const Vec3 right = cross(ahead, up);
  const double a = radians(roll_deg);
  return {right * std::cos(a) + up * std::sin(a), up * std::cos(a) - right * std::sin(a), ahead};
}

/// Turns about the vertical through the origin, positive turning the front (+Z) toward camera right (+X).
[[nodiscard]] inline Vec3 turned(const Vec3& v, double angle_deg) {
  const double c = std::cos(radians(angle_deg)), s = std::sin(radians(angle_deg));
  return {v.x * c + v.z * s, v.y, v.z * c - v.x * s};
}

/// Rotation of `v` about the unit `axis` by `angle` radians, right-handed.
[[nodiscard]] inline Vec3 rotated(const Vec3& v, const Vec3& axis, double angle) {
  const double c = std::cos(angle), s = std::sin(angle);
  return v * c + cross(axis, v) * s + axis * (dot(axis, v) * (1.0 - c));
}

}  // namespace cinnabar
