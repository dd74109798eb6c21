#include "cinnabar/effects/cloud.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/base/hashed.h"

namespace cinnabar {
namespace {

constexpr double edge = 2.3;  // radii: e^-5.3

double drawn_at(std::uint32_t seed, int x, int y, int z) {
  const std::uint32_t corner = static_cast<std::uint32_t>(x) * 73856093U ^
                               static_cast<std::uint32_t>(y) * 19349663U ^
                               static_cast<std::uint32_t>(z) * 83492791U;
  return static_cast<double>(hashed(seed * 0x9E3779B9U ^ corner) >> 8) * 0x1p-24;
}
double eased(double t) { return t * t * (3.0 - 2.0 * t); }
/// Drawn at the corners of a lattice and eased between them: 0 to 1, a half in the mean.
double noise(std::uint32_t seed, double x, double y, double z) {
  const double fx = std::floor(x), fy = std::floor(y), fz = std::floor(z);
  const int ix = static_cast<int>(fx), iy = static_cast<int>(fy), iz = static_cast<int>(fz);
  const double u = eased(x - fx), v = eased(y - fy), w = eased(z - fz);
  const auto mix = [](double a, double b, double t) { return a + (b - a) * t; };
  const auto line = [&](int dy, int dz) {
    return mix(drawn_at(seed, ix, iy + dy, iz + dz), drawn_at(seed, ix + 1, iy + dy, iz + dz), u);
  };
  return mix(mix(line(0, 0), line(1, 0), v), mix(line(0, 1), line(1, 1), v), w);
}

// As much in the mean as without eddies: lattice noise of these shares lies about a half by a ninth.
constexpr double contrast = 7.0, spread_of_noise = 0.112;
/// By how much eddies thicken or thin it there, from their two noises; 1 in the mean.
double thickened(double coarse, double fine) {
  constexpr double mean = 0.5 * contrast * contrast * spread_of_noise * spread_of_noise;
  return std::exp(contrast * (0.6 * coarse + 0.4 * fine - 0.5) - mean);
}

double of_puff(const Cloud& puff, const Vec3& off) {
  const Vec3 at = off / puff.radius;
  const double height = puff.place.y - puff.ground;
  if (off.y + height < 0.0) return 0.0;
  double falls = std::exp(-dot(at, at));
  if (height < edge * puff.radius) {  // what the ground throws back comes as if from as far under it
    const Vec3 back{at.x, at.y + 2.0 * height / puff.radius, at.z};
    falls += std::exp(-dot(back, back));
  }
  if (falls < std::exp(-edge * edge)) return 0.0;
  const double up = at.y - puff.risen;
  return puff.extinction.front() * falls *
         thickened(noise(puff.seed + 1, 1.9 * at.x, 1.9 * up, 1.9 * at.z),
                   noise(puff.seed + 2, 4.7 * at.x, 4.7 * up, 4.7 * at.z));
}

}  // namespace

Cloud::Bounds Cloud::bounds() const {
  if (form == CloudForm::box) return {place - Vec3{half.x, 0, half.z}, place + Vec3{half.x, half.y, half.z}};
  if (form == CloudForm::puff) {
    const Vec3 out = Vec3{1, 1, 1} * (edge * radius);
    const Vec3 low = place - out;
    return {{low.x, std::max(low.y, ground), low.z}, place + out};
  }
  const double high = std::min(reached, top);
  const double wide = (edge + 0.5) * (radius + spread * high);  // its axis bends by half a radius at most
  return {place - Vec3{wide, 0, wide}, place + Vec3{wide, high, wide}};
}

void Cloud::keep_its_mass() {
  if (form != CloudForm::puff || extinction.empty()) return;
  constexpr int steps = 32;
  const Bounds b = bounds();
  const Vec3 side = (b.high - b.low) / steps;
  double sum = 0.0;
  for (int i = 0; i < steps; ++i)
    for (int j = 0; j < steps; ++j)
      for (int k = 0; k < steps; ++k)
        sum += at(b.low + Vec3{(i + 0.5) * side.x, (j + 0.5) * side.y, (k + 0.5) * side.z});
  const double all = extinction.front() * std::pow(pi, 1.5) * radius * radius * radius;
  if (sum > 0.0) extinction.front() *= all / (sum * side.x * side.y * side.z);
}

double Cloud::at(const Vec3& at) const {
  const Vec3 off = at - place;
  if (extinction.empty()) return 0.0;
  if (form == CloudForm::puff) return of_puff(*this, off);
  if (form == CloudForm::box) {
    const bool inside = std::abs(off.x) <= half.x && std::abs(off.z) <= half.z && off.y >= 0.0 && off.y <= half.y;
    return inside ? extinction.front() : 0.0;
  }
  const double high = std::min(reached, top);
  if (off.y <= 0.0 || off.y >= high) return 0.0;
  const double wide = radius + spread * off.y, reach = (edge + 0.5) * wide;
  if (off.x * off.x + off.z * off.z > reach * reach) return 0.0;
  // Eddies are as large as the plume is wide: in radii, their height is its logarithm.
  const double up = spread > 0.0 ? std::log(wide / radius) / spread : off.y / radius;
  const double phase = up - risen;
  const double bent = 0.5 * std::min(1.0, off.y / (2.0 * radius));
  const double x = off.x / wide + 2.0 * bent * (noise(seed, 0.7 * phase, 0.5, 0.5) - 0.5),
               z = off.z / wide + 2.0 * bent * (noise(seed, 0.7 * phase, 8.5, 0.5) - 0.5);
  const double out = x * x + z * z;
  if (out > edge * edge) return 0.0;
  const double step = off.y / top * static_cast<double>(extinction.size() - 1);
  const auto i = std::min(static_cast<std::size_t>(step), extinction.size() - 1);
  const double next = extinction[std::min(i + 1, extinction.size() - 1)];
  const double head = reached < top ? std::min(1.0, 4.0 * (1.0 - off.y / high)) : 1.0;  // thins out
  const double axis = head * (extinction[i] + (next - extinction[i]) * (step - static_cast<double>(i)));
  return axis * std::exp(-out) *
         thickened(noise(seed + 1, 2.6 * x, 2.6 * phase, 2.6 * z), noise(seed + 2, 6.1 * x, 6.1 * phase, 6.1 * z));
}

double scattered_to(double cosine, double g) {
  return (1.0 - g * g) / (4.0 * pi * std::pow(1.0 + g * g - 2.0 * g * cosine, 1.5));
}

}  // namespace cinnabar
