#include "cinnabar/photometry/modifiers.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/discs.h"
#include "cinnabar/base/quadrature.h"
#include "cinnabar/base/vec.h"

namespace cinnabar {

Keys<DiffusionSheetInputs> DiffusionSheetInputs::keys() {
  static const Key<DiffusionSheetInputs> list[]{
      {"candela", "cd", positive, &DiffusionSheetInputs::candela},
      {"exponent", "of the lamp's cosine", non_negative, &DiffusionSheetInputs::exponent},
      {"gap", "m", positive, &DiffusionSheetInputs::gap},
      {"half_size", "m", positive, &DiffusionSheetInputs::half_size},
      {"transmittance", "", positive_share, &DiffusionSheetInputs::transmittance},
      {"forward", "share in the lobe", share, &DiffusionSheetInputs::forward},
      {"lobe", "exponent", {1.0, unbounded}, &DiffusionSheetInputs::lobe}};
  return list;
}
Results<DiffusionSheet> DiffusionSheet::results() {
  static const ResultKey<DiffusionSheet> list[]{{"luminance_centre", "cd/m2", &DiffusionSheet::luminance_centre},
                                                {"luminance_edge", "cd/m2", &DiffusionSheet::luminance_edge},
                                                {"stops", "centre over edge", &DiffusionSheet::stops}};
  return list;
}
Expected<DiffusionSheet> diffusion_sheet(const DiffusionSheetInputs& in) {
  CINNABAR_TRY(check(in));
  const auto seen = [&](double angle) {
    const double lux = in.candela * std::pow(std::cos(angle), in.exponent + 3.0) / (in.gap * in.gap);
    const double lobe = in.forward * (in.lobe + 1.0) * std::pow(std::cos(angle), in.lobe) / (2.0 * pi);
    return lux * in.transmittance * ((1.0 - in.forward) / pi + lobe);
  };
  const double centre = seen(0.0), edge = seen(std::atan(in.half_size / in.gap));
  return DiffusionSheet{centre, edge, std::log2(centre / edge)};
}

Keys<BeadRippleInputs> BeadRippleInputs::keys() {
  static const Key<BeadRippleInputs> list[]{
      {"pitch", "m", positive, &BeadRippleInputs::pitch},
      {"gap", "m", positive, &BeadRippleInputs::gap},
      {"exponent", "of a bead's cosine", non_negative, &BeadRippleInputs::exponent}};
  return list;
}
Results<BeadRipple> BeadRipple::results() {
  static const ResultKey<BeadRipple> list[]{{"ripple", "(max - min) / (max + min)", &BeadRipple::ripple},
                                            {"stops", "max over min", &BeadRipple::stops}};
  return list;
}
double beads_near(double exponent, double gap, int far, double x, double y) {
  const double power = -(exponent + 3.0) / 2.0;
  double sum = 0.0;
  for (int i = -far; i <= far; ++i)
    for (int j = -far; j <= far; ++j) {
      const double u = (i + x) / gap, v = (j + y) / gap;
      sum += std::pow(1.0 + u * u + v * v, power);
    }
  return sum;
}

namespace {
/// What a sheet gets over a bead and amid four, in one measure.
struct Beads {
  double over = 0.0, amid = 0.0;
};
/// Poisson's sum: the Fourier transform of a bead's light is 2 (z/2)^n K_n(z) / Gamma(n).
Beads beads_by_frequencies(double order, double unit) {
  Beads sum{1.0, 1.0};
  for (int i = 0; i <= 400; ++i) {
    double row = 0.0;
    for (int j = i == 0 ? 1 : 0; j <= 400; ++j) {
      const double z = unit * std::hypot(i, j);
      const double w =
          z < 600.0 ? 2.0 * std::pow(z / 2.0, order) * std::cyl_bessel_k(order, z) / std::tgamma(order) : 0.0;
      const double times = (i == 0 ? 1.0 : 2.0) * (j == 0 ? 1.0 : 2.0);
      sum.over += times * w;
      sum.amid += (i + j) % 2 == 0 ? times * w : -times * w;
      row += w;
      if (w < 1e-13) break;
    }
    if (i > 0 && row < 1e-12) break;
  }
  return sum;
}
/// Bead by bead: narrow ones, of which few reach a place. `gap` in pitches.
Beads beads_one_by_one(double exponent, double gap) {
  const double power = -(exponent + 3.0) / 2.0, reach = gap * std::sqrt(std::expm1(-36.0 / power));
  if (reach > 60.0) return {1.0, 1.0};  // even to more digits than there are
  Beads sum;
  const int far = static_cast<int>(reach) + 1;
  sum.over = beads_near(exponent, gap, far, 0.0, 0.0);
  sum.amid = beads_near(exponent, gap, far, 0.5, 0.5);
  return sum;
}
}  // namespace
Expected<BeadRipple> bead_ripple(const BeadRippleInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.gap < 0.1 * in.pitch)
    return out_of_range("gap", fmt::format(">= a tenth of the pitch ({:g})", 0.1 * in.pitch));
  const double gap = in.gap / in.pitch;
  Beads light = in.exponent < 120.0 ? beads_by_frequencies((in.exponent + 1.0) / 2.0, 2.0 * pi * gap)
                                    : beads_one_by_one(in.exponent, gap);
  if (light.amid < 1e-11 * light.over) light.amid = 0.0;  // what is left is rounding
  const auto [over, amid] = light;
  return BeadRipple{(over - amid) / (over + amid), std::log2(over / amid)};
}

Keys<FresnelSpotInputs> FresnelSpotInputs::keys() {
  static const Key<FresnelSpotInputs> list[]{
      {"luminance", "cd/m2", positive, &FresnelSpotInputs::luminance},
      {"source_radius", "m", positive, &FresnelSpotInputs::source_radius},
      {"lens_radius", "m", positive, &FresnelSpotInputs::lens_radius},
      {"focal", "m", positive, &FresnelSpotInputs::focal},
      {"source_distance", "m", positive, &FresnelSpotInputs::source_distance},
      {"transmittance", "", positive_share, &FresnelSpotInputs::transmittance},
      {"angle_deg", "deg", {0.0, 90.0, false, true}, &FresnelSpotInputs::angle_deg}};
  return list;
}
Results<FresnelSpot> FresnelSpot::results() {
  static const ResultKey<FresnelSpot> list[]{{"candela", "cd, on the axis", &FresnelSpot::candela},
                                             {"candela_at", "cd", &FresnelSpot::candela_at},
                                             {"beam_deg", "deg", &FresnelSpot::beam_deg}};
  return list;
}
Expected<FresnelSpot> fresnel_spot(const FresnelSpotInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.source_distance > in.focal)
    return out_of_range("source_distance", fmt::format("> 0 and at most the focal length ({:g})", in.focal));
  const auto candela = [&](double angle) {
    const double slope = std::tan(angle);
    double area = 0.0;
    if (in.source_distance == in.focal) {
      area = slope < in.source_radius / in.focal ? pi * in.lens_radius * in.lens_radius : 0.0;
    } else {
      const double past = in.focal / (in.focal - in.source_distance);
      area = disc_overlap(in.lens_radius, in.source_radius * past, in.source_distance * past * slope);
    }
    return in.transmittance * in.luminance * std::cos(angle) * area;
  };
  const double axis = candela(0.0);
  double inside = 0.0, outside = pi / 2.0;
  for (int i = 0; i < 60; ++i) {
    const double middle = 0.5 * (inside + outside);
    (candela(middle) >= 0.5 * axis ? inside : outside) = middle;
  }
  return FresnelSpot{axis, candela(radians(in.angle_deg)), degrees(inside + outside)};
}

Keys<SnootInputs> SnootInputs::keys() {
  static const Key<SnootInputs> list[]{{"source_radius", "m", positive, &SnootInputs::source_radius},
                                       {"length", "m", positive, &SnootInputs::length},
                                       {"mouth_radius", "m", positive, &SnootInputs::mouth_radius},
                                       {"distance", "m, source to subject", positive, &SnootInputs::distance}};
  return list;
}
Results<Snoot> Snoot::results() {
  static const ResultKey<Snoot> list[]{{"full_radius", "m", &Snoot::full_radius},
                                       {"outer_radius", "m", &Snoot::outer_radius},
                                       {"edge", "m", &Snoot::edge},
                                       {"axis_share", "", &Snoot::axis_share}};
  return list;
}
Expected<Snoot> snoot(const SnootInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.distance <= in.length) return out_of_range("distance", fmt::format("> length ({:g})", in.length));
  const double far = in.distance / in.length;
  const double full = std::max(0.0, in.source_radius + (in.mouth_radius - in.source_radius) * far);
  const double outer = (in.mouth_radius + in.source_radius) * far - in.source_radius;
  const double seen = in.mouth_radius * in.distance / ((in.distance - in.length) * in.source_radius);
  return Snoot{full, outer, outer - full, std::min(1.0, seen * seen)};
}

Keys<FramingShutterInputs> FramingShutterInputs::keys() {
  static const Key<FramingShutterInputs> list[]{
      {"gate", "m", positive, &FramingShutterInputs::gate},
      {"gate_distance", "m, to the lens", positive, &FramingShutterInputs::gate_distance},
      {"focal", "m", positive, &FramingShutterInputs::focal},
      {"aperture", "m, diameter", positive, &FramingShutterInputs::aperture},
      {"distance", "m, lens to subject", positive, &FramingShutterInputs::distance}};
  return list;
}
Results<FramingShutter> FramingShutter::results() {
  static const ResultKey<FramingShutter> list[]{{"pool", "m", &FramingShutter::pool},
                                                {"edge", "m", &FramingShutter::edge},
                                                {"sharp_at", "m", &FramingShutter::sharp_at}};
  return list;
}
Expected<FramingShutter> framing_shutter(const FramingShutterInputs& in) {
  CINNABAR_TRY(check(in));
  FramingShutter out{in.gate * in.distance / in.gate_distance,
                     in.aperture * std::abs(in.distance * (1.0 / in.focal - 1.0 / in.gate_distance) - 1.0),
                     std::nullopt};
  if (in.gate_distance > in.focal) out.sharp_at = in.gate_distance * in.focal / (in.gate_distance - in.focal);
  return out;
}

Keys<GridInputs> GridInputs::keys() {
  static const Key<GridInputs> list[]{
      {"grid_deg", "deg, full angle at half", {0.0, 180.0, true, true}, &GridInputs::grid_deg},
      {"angle_deg", "deg", {0.0, 90.0}, &GridInputs::angle_deg}};
  return list;
}
Results<Grid> Grid::results() {
  static const ResultKey<Grid> list[]{{"transmittance", "", &Grid::transmittance},
                                      {"cut_off_deg", "deg", &Grid::cut_off_deg},
                                      {"flux_share", "", &Grid::flux_share}};
  return list;
}
Expected<Grid> grid(const GridInputs& in) {
  CINNABAR_TRY(check(in));
  const double k = 2.0 * std::tan(radians(in.grid_deg) / 2.0);
  const double passed = in.angle_deg < 90.0 ? std::max(0.0, 1.0 - std::tan(radians(in.angle_deg)) / k) : 0.0;
  // 1 - atan(k) / k cancels for narrow grids: its series there.
  const double flux = k < 1e-3 ? k * k / 3.0 : 1.0 - std::atan(k) / k;
  return Grid{passed, degrees(std::atan(k)), flux};
}

Keys<BounceInputs> BounceInputs::keys() {
  static const Key<BounceInputs> list[]{{"candela", "cd", positive, &BounceInputs::candela},
                                        {"throw", "m", positive, &BounceInputs::throw_m},
                                        {"width", "m", positive, &BounceInputs::width},
                                        {"height", "m", positive, &BounceInputs::height},
                                        {"reflectance", "", positive_share, &BounceInputs::reflectance},
                                        {"distance", "m", positive, &BounceInputs::distance},
                                        {"offset", "m", non_negative, &BounceInputs::offset}};
  return list;
}
Results<Bounce> Bounce::results() {
  static const ResultKey<Bounce> list[]{{"illuminance_lx", "lx", &Bounce::illuminance_lx},
                                        {"card_centre_lx", "lx", &Bounce::card_centre_lx}};
  return list;
}
Expected<Bounce> bounce(const BounceInputs& in) {
  CINNABAR_TRY(check(in));
  const double a2 = in.throw_m * in.throw_m, b2 = in.distance * in.distance;
  const auto over_y = [&](double x) {
    const double near = a2 + x * x, far = b2 + (x - in.offset) * (x - in.offset);
    const auto at = [&](double y) { return std::pow(near + y * y, -1.5) / ((far + y * y) * (far + y * y)); };
    const double top = in.height / 2.0, knee = std::min(top, 3.0 * std::sqrt(std::min(near, far)));
    double sum = integral_within(1e-7, at, 0.0, knee);
    if (knee < top) sum += integral_within(1e-7, at, knee, top);
    return 2.0 * sum;
  };
  // Cut where the lamp and the patch stand, and a few of their heights to either side: each piece is smooth.
  std::vector<double> cuts{-in.width / 2.0, in.width / 2.0};
  for (const double at : {0.0, in.offset})
    for (const double away : {0.0, 3.0 * in.throw_m, -3.0 * in.throw_m, 3.0 * in.distance, -3.0 * in.distance})
      if (std::abs(at + away) < in.width / 2.0) cuts.push_back(at + away);
  std::sort(cuts.begin(), cuts.end());
  double sum = 0.0;
  for (std::size_t i = 1; i < cuts.size(); ++i)
    if (cuts[i] > cuts[i - 1]) sum += integral_within(1e-6, over_y, cuts[i - 1], cuts[i]);
  return Bounce{in.reflectance * in.candela / pi * in.throw_m * b2 * sum, in.candela / a2};
}

Keys<BackdropGradientInputs> BackdropGradientInputs::keys() {
  static const Key<BackdropGradientInputs> list[]{
      {"candela", "cd", positive, &BackdropGradientInputs::candela},
      {"lamp_height", "m", any_number, &BackdropGradientInputs::lamp_height},
      {"lamp_distance", "m, before the foot", any_number, &BackdropGradientInputs::lamp_distance},
      {"height", "m, of the face", positive, &BackdropGradientInputs::height},
      {"tilt_deg", "deg, + leans its top away", {-90.0, 90.0, true, true}, &BackdropGradientInputs::tilt_deg}};
  return list;
}
Results<BackdropGradient> BackdropGradient::results() {
  static const ResultKey<BackdropGradient> list[]{{"foot_lx", "lx", &BackdropGradient::foot_lx},
                                                  {"top_lx", "lx", &BackdropGradient::top_lx},
                                                  {"stops", "foot over top", &BackdropGradient::stops},
                                                  {"spread", "stops, most over least", &BackdropGradient::spread}};
  return list;
}
Expected<BackdropGradient> backdrop_gradient(const BackdropGradientInputs& in) {
  CINNABAR_TRY(check(in));
  const double c = std::cos(radians(in.tilt_deg)), s = std::sin(radians(in.tilt_deg));
  const double before = in.lamp_distance * c + in.lamp_height * s,
               along = in.lamp_height * c - in.lamp_distance * s;
  if (before <= 0.0) return out_of_range("lamp_distance", "one that puts the lamp before the backdrop's face");
  const auto lux = [&](double up) {
    return in.candela * before / std::pow(before * before + (up - along) * (up - along), 1.5);
  };
  const double foot = lux(0.0), top = lux(in.height), most = lux(std::clamp(along, 0.0, in.height));
  return BackdropGradient{foot, top, std::log2(foot / top), std::log2(most / std::min(foot, top))};
}

}  // namespace cinnabar
