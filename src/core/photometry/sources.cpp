#include "cinnabar/photometry/sources.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <vector>

namespace cinnabar {

Keys<RectIlluminanceInputs> RectIlluminanceInputs::keys() {
  static const Key<RectIlluminanceInputs> list[]{
      {"luminance", "cd/m2", non_negative, &RectIlluminanceInputs::luminance},
      {"width", "m", positive, &RectIlluminanceInputs::width},
      {"height", "m", positive, &RectIlluminanceInputs::height},
      {"distance", "m", positive, &RectIlluminanceInputs::distance}};
  return list;
}
Results<Illuminance> Illuminance::results() {
  static const ResultKey<Illuminance> list[]{{"illuminance_lx", "lx", &Illuminance::illuminance_lx}};
  return list;
}
Expected<Illuminance> rect_illuminance(const RectIlluminanceInputs& in) {
  CINNABAR_TRY(check(in));
  const double x = in.width / (2.0 * in.distance), y = in.height / (2.0 * in.distance);
  const double rx = std::sqrt(1.0 + x * x), ry = std::sqrt(1.0 + y * y);
  return Illuminance{2.0 * in.luminance * (x / rx * std::atan(y / rx) + y / ry * std::atan(x / ry))};
}

Keys<DiscIlluminanceInputs> DiscIlluminanceInputs::keys() {
  static const Key<DiscIlluminanceInputs> list[]{
      {"luminance", "cd/m2", non_negative, &DiscIlluminanceInputs::luminance},
      {"radius", "m", positive, &DiscIlluminanceInputs::radius},
      {"distance", "m", positive, &DiscIlluminanceInputs::distance}};
  return list;
}
Expected<Illuminance> disc_illuminance(const DiscIlluminanceInputs& in) {
  CINNABAR_TRY(check(in));
  const double r2 = in.radius * in.radius;
  return Illuminance{pi * in.luminance * r2 / (r2 + in.distance * in.distance)};
}

double polygon_illuminance(double luminance, std::span<const Vec3> corners, const Vec3& point,
                           const Vec3& normal) {
  std::vector<Vec3> above;
  above.reserve(corners.size() + 2);
  for (std::size_t i = 0; i < corners.size(); ++i) {
    const Vec3 a = corners[i] - point, b = corners[(i + 1) % corners.size()] - point;
    const double ha = dot(a, normal), hb = dot(b, normal);
    if (ha >= 0.0) above.push_back(a);
    if ((ha > 0.0 && hb < 0.0) || (ha < 0.0 && hb > 0.0)) above.push_back(a + (b - a) * (ha / (ha - hb)));
  }
  double sum = 0.0;
  for (std::size_t i = 0; i < above.size(); ++i) {
    const Vec3 &a = above[i], &b = above[(i + 1) % above.size()];
    const Vec3 c = cross(a, b);
    const double size = length(c);
    if (size > 0.0) sum += std::atan2(size, dot(a, b)) * dot(normal, c) / size;
  }
  return 0.5 * luminance * std::abs(sum);
}

double sphere_illuminance(double luminance, const Vec3& centre, double radius, const Vec3& point,
                          const Vec3& normal) {
  const Vec3 to = centre - point;
  const double d = length(to);
  if (d <= radius) return 0.0;
  const double sin_cap = radius / d;            // half angle of the cap, as its sine
  const double cos_tilt = dot(to, normal) / d;  // from the patch's normal to the centre
  const double full = pi * luminance * sin_cap * sin_cap;
  if (cos_tilt >= sin_cap) return full * cos_tilt;  // wholly above the horizon
  if (cos_tilt <= -sin_cap) return 0.0;
  // The cap is cut by the horizon (Howell, factor from a differential element to a sphere, case 2).
  const double h = d / radius;
  const double sin_tilt = std::sqrt(std::max(0.0, 1.0 - cos_tilt * cos_tilt));
  const double x = std::sqrt(h * h - 1.0);
  const double y = std::clamp(-x * cos_tilt / sin_tilt, -1.0, 1.0);
  const double factor = (cos_tilt * std::acos(y) - x * sin_tilt * std::sqrt(1.0 - y * y)) / (pi * h * h) +
                        std::atan(sin_tilt * std::sqrt(1.0 - y * y) / x) / pi;
  return pi * luminance * std::max(0.0, factor);
}

Keys<BeamInputs> BeamInputs::keys() {
  static const Key<BeamInputs> list[]{{"candela", "cd", non_negative, &BeamInputs::candela},
                                      {"distance", "m", positive, &BeamInputs::distance}};
  return list;
}
Expected<Illuminance> beam(const BeamInputs& in) {
  CINNABAR_TRY(check(in));
  return Illuminance{in.candela / (in.distance * in.distance)};
}

Keys<BeamLumensInputs> BeamLumensInputs::keys() {
  static const Key<BeamLumensInputs> list[]{
      {"lumens", "lm", non_negative, &BeamLumensInputs::lumens},
      {"beam_angle_deg", "deg", Range{0, 360, true, false}, &BeamLumensInputs::beam_angle_deg}};
  return list;
}
Results<Candela> Candela::results() {
  static const ResultKey<Candela> list[]{{"candela", "cd", &Candela::candela}};
  return list;
}
Expected<Candela> beam_lumens(const BeamLumensInputs& in) {
  CINNABAR_TRY(check(in));
  const double s = std::sin(radians(in.beam_angle_deg) / 4.0);
  return Candela{in.lumens / (4.0 * pi * s * s)};
}

Keys<SoftboxInputs> SoftboxInputs::keys() {
  static const Key<SoftboxInputs> list[]{{"lumens", "lm", non_negative, &SoftboxInputs::lumens},
                                         {"transmittance", "", positive_share, &SoftboxInputs::transmittance},
                                         {"width", "m", positive, &SoftboxInputs::width},
                                         {"height", "m", positive, &SoftboxInputs::height}};
  return list;
}
Results<Luminance> Luminance::results() {
  static const ResultKey<Luminance> list[]{{"luminance", "cd/m2", &Luminance::luminance}};
  return list;
}
Expected<Luminance> softbox(const SoftboxInputs& in) {
  CINNABAR_TRY(check(in));
  return Luminance{in.lumens * in.transmittance / (pi * in.width * in.height)};
}

Keys<PenumbraInputs> PenumbraInputs::keys() {
  static const Key<PenumbraInputs> list[]{{"source_size", "m", non_negative, &PenumbraInputs::source_size},
                                          {"source_distance", "m", positive, &PenumbraInputs::source_distance},
                                          {"gap", "m", non_negative, &PenumbraInputs::gap}};
  return list;
}
Results<Penumbra> Penumbra::results() {
  static const ResultKey<Penumbra> list[]{{"width", "m", &Penumbra::width}};
  return list;
}
Expected<Penumbra> penumbra(const PenumbraInputs& in) {
  CINNABAR_TRY(check(in));
  return Penumbra{in.source_size * in.gap / in.source_distance};
}

Keys<CylinderStripeInputs> CylinderStripeInputs::keys() {
  static const Key<CylinderStripeInputs> list[]{
      {"camera_bearing_deg", "deg", any_number, &CylinderStripeInputs::camera_bearing_deg},
      {"source_bearing_deg", "deg", any_number, &CylinderStripeInputs::source_bearing_deg},
      {"source_width", "m", non_negative, &CylinderStripeInputs::source_width},
      {"source_distance", "m", positive, &CylinderStripeInputs::source_distance},
      {"radius", "m", positive, &CylinderStripeInputs::radius}};
  return list;
}
Results<CylinderStripe> CylinderStripe::results() {
  static const ResultKey<CylinderStripe> list[]{{"centre_fraction", "", &CylinderStripe::centre_fraction},
                                                {"width_fraction", "", &CylinderStripe::width_fraction}};
  return list;
}
double mirroring_angle(double phi, double distance, double radius) {
  double theta = phi / 2.0;
  for (int i = 0; i < 200; ++i) {
    const double next = (phi + std::asin(std::clamp(radius * std::sin(theta) / distance, -1.0, 1.0))) / 2.0;
    if (std::abs(next - theta) < 1e-15) return next;
    theta = next;
  }
  return theta;
}
Expected<CylinderStripe> cylinder_stripe(const CylinderStripeInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.source_distance <= in.radius)
    return out_of_range("source_distance", fmt::format("> radius ({:g})", in.radius));
  double phi = std::fmod(in.source_bearing_deg - in.camera_bearing_deg, 360.0);
  if (phi > 180.0) phi -= 360.0;
  if (phi <= -180.0) phi += 360.0;
  phi = radians(phi);
  const double half = std::atan(in.source_width / (2.0 * in.source_distance));
  const double edge = std::hypot(in.source_distance, in.source_width / 2.0);
  const double quarter = pi / 2.0;
  const double centre = mirroring_angle(phi, in.source_distance, in.radius);
  const double right = std::clamp(mirroring_angle(phi + half, edge, in.radius), -quarter, quarter);
  const double left = std::clamp(mirroring_angle(phi - half, edge, in.radius), -quarter, quarter);
  CylinderStripe out{.centre_fraction = {}, .width_fraction = (std::sin(right) - std::sin(left)) / 2.0};
  if (std::abs(centre) < quarter - 1e-12) out.centre_fraction = std::sin(centre);
  return out;
}

Keys<ShadowEdgeInputs> ShadowEdgeInputs::keys() {
  static const Key<ShadowEdgeInputs> list[]{
      {"size_along", "m", non_negative, &ShadowEdgeInputs::size_along},
      {"size_across", "m", non_negative, &ShadowEdgeInputs::size_across},
      {"source_distance", "m", positive, &ShadowEdgeInputs::source_distance},
      {"elevation_deg", "deg", {0.0, 90.0, true, false}, &ShadowEdgeInputs::elevation_deg},
      {"gap", "m", non_negative, &ShadowEdgeInputs::gap}};
  return list;
}
Results<ShadowEdge> ShadowEdge::results() {
  static const ResultKey<ShadowEdge> list[]{{"along", "m", &ShadowEdge::along},
                                            {"across", "m", &ShadowEdge::across}};
  return list;
}
Expected<ShadowEdge> shadow_edge(const ShadowEdgeInputs& in) {
  CINNABAR_TRY(check(in));
  const double e = radians(in.elevation_deg), half = std::atan(in.size_along / (2.0 * in.source_distance));
  if (half >= e)
    return out_of_range("elevation_deg",
                        fmt::format("> {:g}, or the face reaches under the surface", degrees(half)));
  return ShadowEdge{in.gap * std::sin(2.0 * half) / (std::sin(e - half) * std::sin(e + half)),
                    in.gap * in.size_across / (in.source_distance * std::sin(e))};
}

Keys<FlickerInputs> FlickerInputs::keys() {
  static const Key<FlickerInputs> list[]{{"mains_hz", "Hz", positive, &FlickerInputs::mains_hz},
                                         {"depth", "", share, &FlickerInputs::depth},
                                         {"time", "s", positive, &FlickerInputs::time}};
  return list;
}
Results<Flicker> Flicker::results() {
  static const ResultKey<Flicker> list[]{
      {"cycles", "", &Flicker::cycles}, {"residual", "", &Flicker::residual}, {"safe", "", &Flicker::safe}};
  return list;
}
Expected<Flicker> flicker(const FlickerInputs& in) {
  CINNABAR_TRY(check(in));
  const double c = 2.0 * in.mains_hz * in.time;
  const double whole = std::round(c);
  // sin(pi c) by the distance to the nearest whole number, exact at whole counts.
  const double residual = in.depth * std::abs(std::sin(pi * (c - whole)) / (pi * c));
  bool safe = false;
  for (const double n : {std::floor(c), std::ceil(c)}) safe = safe || (n >= 1.0 && std::abs(c - n) <= 0.01 * n);
  return Flicker{c, residual, safe};
}

}  // namespace cinnabar
