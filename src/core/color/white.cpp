#include "cinnabar/color/white.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace cinnabar {
namespace {

using Matrix = std::array<std::array<double, 3>, 3>;
using Triple = std::array<double, 3>;

Triple times(const Matrix& m, const Triple& v) {
  Triple out{};
  for (int i = 0; i < 3; ++i) out[i] = m[i][0] * v[0] + m[i][1] * v[1] + m[i][2] * v[2];
  return out;
}

Matrix inverse(const Matrix& m) {
  const Vec3 a{m[0][0], m[0][1], m[0][2]}, b{m[1][0], m[1][1], m[1][2]}, c{m[2][0], m[2][1], m[2][2]};
  const double d = dot(a, cross(b, c));
  const Vec3 p = cross(b, c) / d, q = cross(c, a) / d, r = cross(a, b) / d;
  return {{{p.x, q.x, r.x}, {p.y, q.y, r.y}, {p.z, q.z, r.z}}};
}

Triple xyz(const Chromaticity& c) { return {c.x / c.y, 1.0, (1.0 - c.x - c.y) / c.y}; }

constexpr Chromaticity d65{0.3127, 0.3290};
// Bradford cone responses (Lam 1985), value from memory.
constexpr Matrix bradford{{{0.8951, 0.2664, -0.1614}, {-0.7502, 1.7135, 0.0367}, {0.0389, -0.0685, 1.0296}}};

/// XYZ from linear BT.709 primaries (ITU-R BT.709) with D65 white.
Matrix bt709_to_xyz() {
  const std::array<Chromaticity, 3> primaries{{{0.64, 0.33}, {0.30, 0.60}, {0.15, 0.06}}};
  Matrix m{};
  for (int j = 0; j < 3; ++j) {
    const Triple p = xyz(primaries[j]);
    for (int i = 0; i < 3; ++i) m[i][j] = p[i];
  }
  const Triple scale = times(inverse(m), xyz(d65));
  for (auto& row : m)
    for (int j = 0; j < 3; ++j) row[j] *= scale[j];
  return m;
}

Chromaticity locus(double t) {
  if (t >= 4000.0) {
    const double x = t <= 7000.0 ? -4.6070e9 / (t * t * t) + 2.9678e6 / (t * t) + 99.11 / t + 0.244063
                                 : -2.0064e9 / (t * t * t) + 1.9018e6 / (t * t) + 247.48 / t + 0.237040;
    return {x, -3.0 * x * x + 2.87 * x - 0.275};
  }
  const double x = -0.2661239e9 / (t * t * t) - 0.2343589e6 / (t * t) + 877.6956 / t + 0.179910;
  const double y = t < 2222.0 ? ((-1.1063814 * x - 1.34811020) * x + 2.18555832) * x - 0.20219683
                              : ((-0.9549476 * x - 1.37418593) * x + 2.09137015) * x - 0.16748867;
  return {x, y};
}

/// A white off the locus by `duv` along its normal in CIE 1960 (u, v); above 0 greener.
Chromaticity off_locus(double kelvin, double duv) {
  const Chromaticity on = locus(kelvin);
  if (duv == 0.0) return on;
  const auto uv = [](const Chromaticity& c) {
    const double all = -2.0 * c.x + 12.0 * c.y + 3.0;
    return std::array{4.0 * c.x / all, 6.0 * c.y / all};
  };
  const double step = 1.0 + 1e-3;
  const auto here = uv(on), warmer = uv(locus(kelvin / step)), cooler = uv(locus(kelvin * step));
  const double du = warmer[0] - cooler[0], dv = warmer[1] - cooler[1], l = std::hypot(du, dv);
  if (!(l > 0.0)) return on;
  const double side = du > 0.0 ? 1.0 : -1.0;  // the normal that points to a greater v
  const double u = here[0] - side * duv * dv / l, v = here[1] + side * duv * du / l;
  const double all = 2.0 * u - 8.0 * v + 4.0;
  return {3.0 * u / all, 2.0 * v / all};
}

Triple balanced(double scene_k, double balance_k, double duv = 0.0) {
  static const Matrix to_rgb = inverse(bt709_to_xyz());
  static const Matrix back = inverse(bradford);
  const Triple scene = times(bradford, xyz(off_locus(scene_k, duv)));
  const Triple balance = times(bradford, xyz(locus(balance_k)));
  const Triple target = times(bradford, xyz(d65));
  Triple adapted{};
  for (int i = 0; i < 3; ++i) adapted[i] = scene[i] * target[i] / balance[i];
  Triple rgb = times(to_rgb, times(back, adapted));
  const double green = rgb[1];
  for (double& c : rgb) c /= green;
  return rgb;
}

constexpr Range locus_range{1667.0, 25000.0};

}  // namespace

Expected<Chromaticity> white_point(double kelvin) {
  if (!locus_range.contains(kelvin)) return out_of_range("kelvin", locus_range.text());
  return locus(kelvin);
}

Keys<MiredInputs> MiredInputs::keys() {
  static const Key<MiredInputs> list[]{{"from_k", "K", positive, &MiredInputs::from_k},
                                       {"to_k", "K", positive, &MiredInputs::to_k}};
  return list;
}
Results<Mired> Mired::results() {
  static const ResultKey<Mired> list[]{{"shift", "mired", &Mired::shift}};
  return list;
}
Expected<Mired> mired(const MiredInputs& in) {
  CINNABAR_TRY(check(in));
  return Mired{1e6 / in.to_k - 1e6 / in.from_k};
}

Keys<GelInputs> GelInputs::keys() {
  static const Key<GelInputs> list[]{{"kelvin", "K", positive, &GelInputs::kelvin},
                                     {"mired_shift", "mired", any_number, &GelInputs::mired_shift}};
  return list;
}
Results<Gel> Gel::results() {
  static const ResultKey<Gel> list[]{{"kelvin", "K", &Gel::kelvin}};
  return list;
}
Expected<Gel> gel(const GelInputs& in) {
  CINNABAR_TRY(check(in));
  const double sum = 1e6 / in.kelvin + in.mired_shift;
  if (sum <= 0.0) return out_of_range("mired_shift", fmt::format("> {:g} at this kelvin", -1e6 / in.kelvin));
  return Gel{1e6 / sum};
}

Keys<WhiteInputs> WhiteInputs::keys() {
  static const Key<WhiteInputs> list[]{{"scene_k", "K", locus_range, &WhiteInputs::scene_k},
                                       {"balance_k", "K", locus_range, &WhiteInputs::balance_k}};
  return list;
}
Results<White> White::results() {
  static const ResultKey<White> list[]{
      {"r", "", &White::r}, {"g", "", &White::g}, {"b", "", &White::b}, {"srgb", "", &White::srgb}};
  return list;
}
Expected<White> white(const WhiteInputs& in) {
  CINNABAR_TRY(check(in));
  const Triple rgb = balanced(in.scene_k, in.balance_k);
  const double most = std::max({rgb[0], rgb[1], rgb[2]});
  std::array<int, 3> bytes{};
  for (int i = 0; i < 3; ++i)
    bytes[i] = static_cast<int>(std::lround(255.0 * srgb_encode(std::clamp(rgb[i] / most, 0.0, 1.0))));
  return White{rgb[0], rgb[1], rgb[2], fmt::format("#{:02x}{:02x}{:02x}", bytes[0], bytes[1], bytes[2])};
}

std::array<double, 3> rgb_of_xyz(const std::array<double, 3>& colour) {
  static const Matrix to_rgb = inverse(bt709_to_xyz());
  return times(to_rgb, colour);
}

Rgb white_rgb(double scene_k, double balance_k, double duv) {
  const Triple rgb = balanced(std::clamp(scene_k, locus_range.low, locus_range.high),
                              std::clamp(balance_k, locus_range.low, locus_range.high), duv);
  const Rgb raw{static_cast<float>(std::max(0.0, rgb[0])), 1.0f, static_cast<float>(std::max(0.0, rgb[2]))};
  return raw * (1.0f / luminance(raw));
}

double srgb_encode(double c) { return c <= 0.0031308 ? 12.92 * c : 1.055 * std::pow(c, 1.0 / 2.4) - 0.055; }
double srgb_decode(double c) { return c <= 0.04045 ? c / 12.92 : std::pow((c + 0.055) / 1.055, 2.4); }

Keys<GelColourInputs> GelColourInputs::keys() {
  static const Key<GelColourInputs> list[]{{"kelvin", "K", Range{2000, 25000}, &GelColourInputs::kelvin},
                                           {"bands", "r,g,b linear", share, &GelColourInputs::bands}};
  return list;
}
Results<GelColour> GelColour::results() {
  static const ResultKey<GelColour> list[]{{"x", "", &GelColour::x},
                                           {"y", "", &GelColour::y},
                                           {"transmittance", "", &GelColour::transmittance},
                                           {"stops", "lost", &GelColour::stops}};
  return list;
}
Expected<GelColour> gel_colour(const GelColourInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.bands.size() != 3 || (in.bands[0] == 0.0 && in.bands[1] == 0.0 && in.bands[2] == 0.0))
    return out_of_range("bands", "three numbers from 0 to 1, not all 0");
  const auto light = white_point(in.kelvin);
  if (!light) return tl::unexpected(light.error());
  static const Matrix to_xyz = bt709_to_xyz();
  Triple rgb = rgb_of_xyz(xyz(*light));
  for (int i = 0; i < 3; ++i) rgb[i] *= in.bands[i];
  const Triple through = times(to_xyz, rgb);
  const double sum = through[0] + through[1] + through[2];
  if (through[1] <= 0.0 || sum <= 0.0) return GelColour{};
  return GelColour{through[0] / sum, through[1] / sum, through[1], -std::log2(through[1])};
}

namespace {

/// The Planckian locus, 1667 to 25000 K (Kim et al. 2002), also where whites are daylight's.
Chromaticity planckian(double t) {
  if (t < 4000.0) return locus(t);
  const double x = -3.0258469e9 / (t * t * t) + 2.1070379e6 / (t * t) + 222.6347 / t + 0.240390;
  return {x, ((3.0817580 * x - 5.87338670) * x + 3.75112997) * x - 0.37001483};
}

}  // namespace

std::optional<double> mixed_white(const std::vector<WhiteShare>& shares) {
  Triple sum{};
  for (const WhiteShare& one : shares) {
    if (!(one.amount > 0.0)) continue;
    const Triple own = xyz(locus(std::clamp(one.kelvin, 1667.0, 25000.0)));
    for (std::size_t i = 0; i < 3; ++i) sum[i] += one.amount * own[i];
  }
  if (!(sum[1] > 0.0)) return std::nullopt;
  const auto uv = [](const Triple& c) {
    const double all = c[0] + 15.0 * c[1] + 3.0 * c[2];
    return std::array{4.0 * c[0] / all, 6.0 * c[1] / all};
  };
  const auto [u, v] = uv(sum);
  const auto away = [&, u = u, v = v](double mireds) {
    const auto [x, y] = uv(xyz(planckian(1e6 / mireds)));
    return std::hypot(x - u, y - v);
  };
  double low = 40.0, high = 1e6 / 1667.0;  // the distance has one least: by thirds
  for (int k = 0; k < 80; ++k) {
    const double a = low + (high - low) / 3.0, b = high - (high - low) / 3.0;
    const bool left = away(a) < away(b);
    (left ? high : low) = left ? b : a;
  }
  return 2e6 / (low + high);
}
}  // namespace cinnabar
