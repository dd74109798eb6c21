#include "cinnabar/photometry/mirrors.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/vec.h"
#include "cinnabar/optics/fresnel.h"
#include "cinnabar/photometry/sources.h"

namespace cinnabar {

Keys<RoundMirrorInputs> RoundMirrorInputs::keys() {
  static const Key<RoundMirrorInputs> list[]{
      {"camera_distance", "m, from the axis", positive, &RoundMirrorInputs::camera_distance},
      {"camera_height", "m", any_number, &RoundMirrorInputs::camera_height},
      {"source_bearing_deg", "deg, from the camera's", any_number, &RoundMirrorInputs::source_bearing_deg},
      {"source_distance", "m, from the axis", positive, &RoundMirrorInputs::source_distance},
      {"source_height", "m", any_number, &RoundMirrorInputs::source_height},
      {"radius", "m", positive, &RoundMirrorInputs::radius}};
  return list;
}
Results<RoundMirror> RoundMirror::results() {
  static const ResultKey<RoundMirror> list[]{{"bearing_deg", "deg", &RoundMirror::bearing_deg},
                                             {"height", "m", &RoundMirror::height},
                                             {"fraction", "-1 to 1", &RoundMirror::fraction},
                                             {"incidence_deg", "deg", &RoundMirror::incidence_deg}};
  return list;
}
Expected<RoundMirror> round_mirror(const RoundMirrorInputs& in) {
  CINNABAR_TRY(check(in));
  for (const auto& [key, distance] :
       {std::pair{"camera_distance", in.camera_distance}, std::pair{"source_distance", in.source_distance}})
    if (distance <= in.radius) return out_of_range(key, fmt::format("> radius ({:g})", in.radius));
  const double phi = radians(std::remainder(in.source_bearing_deg, 360.0)), side = phi < 0.0 ? -1.0 : 1.0;
  const double d = in.camera_distance, far = in.source_distance, whole = std::abs(phi);
  const auto toward = [&](double distance, double angle) {
    return std::atan2(distance * std::sin(angle), distance * std::cos(angle) - in.radius);
  };
  double low = 0.0, high = whole;
  for (int i = 0; i < 200 && high - low > 1e-16; ++i) {
    const double middle = 0.5 * (low + high);
    (toward(d, middle) < toward(far, whole - middle) ? low : high) = middle;
  }
  const double theta = 0.5 * (low + high), incidence = toward(d, theta);
  if (incidence > pi / 2.0) return RoundMirror{};
  const auto plan = [&](double distance, double angle) {
    return std::hypot(distance * std::sin(angle), distance * std::cos(angle) - in.radius);
  };
  const double to_camera = plan(d, theta), to_source = plan(far, whole - theta);
  const double height =
      in.camera_height + (in.source_height - in.camera_height) * to_camera / (to_camera + to_source);
  const double slope = std::hypot(to_camera, in.camera_height - height);
  const double across = in.radius * std::sin(theta) / (d - in.radius * std::cos(theta));
  const double limb = in.radius / std::sqrt((d - in.radius) * (d + in.radius));
  return RoundMirror{side * degrees(theta), height, side * across / limb,
                     degrees(std::acos(std::clamp(std::cos(incidence) * to_camera / slope, -1.0, 1.0)))};
}

Keys<BackdropRimInputs> BackdropRimInputs::keys() {
  static const Key<BackdropRimInputs> list[]{
      {"width", "m, of the backdrop", positive, &BackdropRimInputs::width},
      {"distance", "m, behind the axis", positive, &BackdropRimInputs::distance},
      {"radius", "m", positive, &BackdropRimInputs::radius},
      {"ior", "", {1.0, unbounded, true, false}, &BackdropRimInputs::ior}};
  return list;
}
Results<BackdropRim> BackdropRim::results() {
  static const ResultKey<BackdropRim> list[]{{"rim_share", "each side", &BackdropRim::rim_share},
                                             {"inner_incidence_deg", "deg", &BackdropRim::inner_incidence_deg},
                                             {"reflectance_inner", "", &BackdropRim::reflectance_inner},
                                             {"reflectance_mean", "over the rim", &BackdropRim::reflectance_mean}};
  return list;
}
Expected<BackdropRim> backdrop_rim(const BackdropRimInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.distance <= in.radius) return out_of_range("distance", fmt::format("> radius ({:g})", in.radius));
  if (in.width <= 2.0 * in.radius) return BackdropRim{0.0, {}, {}, {}};
  const double edge = std::hypot(in.distance, in.width / 2.0);
  const double theta =
      std::min(mirroring_angle(pi - std::atan(in.width / (2.0 * in.distance)), edge, in.radius), pi / 2.0);
  const auto reflectance = [&](double angle) {
    return fresnel({1.0, in.ior, std::min(degrees(angle), 90.0)})->reflectance;
  };
  // Even in the visible width, x = sin: x = 1 - (1 - sin theta) u^2 takes the steep end at the limb in even steps.
  const double rim = 1.0 - std::sin(theta);
  double sum = 0.0;
  constexpr int steps = 2000;
  for (int i = 0; i < steps; ++i) {
    const double u = (i + 0.5) / steps;
    sum += 2.0 * u * reflectance(std::asin(1.0 - rim * u * u)) / steps;
  }
  return BackdropRim{rim / 2.0, degrees(theta), reflectance(theta), sum};
}

Keys<PolariserInputs> PolariserInputs::keys() {
  static const Key<PolariserInputs> list[]{
      {"ior", "", {1.0, unbounded, true, false}, &PolariserInputs::ior},
      {"angle_deg", "deg, of incidence", {0.0, 90.0}, &PolariserInputs::angle_deg},
      {"turn_deg", "deg", any_number, &PolariserInputs::turn_deg}};
  return list;
}
Results<Polariser> Polariser::results() {
  static const ResultKey<Polariser> list[]{{"brewster_deg", "deg", &Polariser::brewster_deg},
                                           {"glare_passed", "", &Polariser::glare_passed},
                                           {"glare_to_diffuse", "", &Polariser::glare_to_diffuse}};
  return list;
}
Expected<Polariser> polariser(const PolariserInputs& in) {
  CINNABAR_TRY(check(in));
  const double c = std::cos(radians(in.angle_deg)), s = std::sin(radians(in.angle_deg)) / in.ior;
  const double inside = std::sqrt(1.0 - s * s);
  const auto [rs, rp] = reflected_shares(c, 1.0 / in.ior, inside);
  const double turn = radians(std::remainder(in.turn_deg, 360.0)), cos2 = std::cos(turn) * std::cos(turn);
  const double passed = (rp * cos2 + rs * (1.0 - cos2)) / (rs + rp);
  return Polariser{degrees(std::atan(in.ior)), passed, 2.0 * passed};
}

}  // namespace cinnabar
