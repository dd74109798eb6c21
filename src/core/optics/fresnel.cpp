#include "cinnabar/optics/fresnel.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/base/vec.h"

namespace cinnabar {

Keys<FresnelInputs> FresnelInputs::keys() {
  static const Key<FresnelInputs> list[]{{"n1", "", positive, &FresnelInputs::n1},
                                         {"n2", "", positive, &FresnelInputs::n2},
                                         {"angle_deg", "deg", Range{0, 90}, &FresnelInputs::angle_deg}};
  return list;
}
Results<Fresnel> Fresnel::results() {
  static const ResultKey<Fresnel> list[]{{"reflectance", "", &Fresnel::reflectance},
                                         {"transmitted_angle_deg", "deg", &Fresnel::transmitted_angle_deg}};
  return list;
}
Expected<Fresnel> fresnel(const FresnelInputs& in) {
  CINNABAR_TRY(check(in));
  const double angle = radians(in.angle_deg);
  if (in.n1 == in.n2) return Fresnel{0.0, in.angle_deg};
  const double sin_out = in.n1 * std::sin(angle) / in.n2;
  if (sin_out > 1.0) return Fresnel{1.0, std::nullopt};
  const double ci = in.angle_deg == 90.0 ? 0.0 : std::cos(angle);
  const double co = std::sqrt(std::max(0.0, 1.0 - sin_out * sin_out));
  const double rs = (in.n1 * ci - in.n2 * co) / (in.n1 * ci + in.n2 * co);
  const double rp = (in.n2 * ci - in.n1 * co) / (in.n2 * ci + in.n1 * co);
  return Fresnel{0.5 * (rs * rs + rp * rp), degrees(std::asin(sin_out))};
}

Keys<AbsorbInputs> AbsorbInputs::keys() {
  static const Key<AbsorbInputs> list[]{{"coefficient", "1/m", non_negative, &AbsorbInputs::coefficient},
                                        {"path", "m", non_negative, &AbsorbInputs::path}};
  return list;
}
Results<Absorb> Absorb::results() {
  static const ResultKey<Absorb> list[]{{"transmittance", "", &Absorb::transmittance}};
  return list;
}
Expected<Absorb> absorb(const AbsorbInputs& in) {
  CINNABAR_TRY(check(in));
  return Absorb{std::exp(-in.coefficient * in.path)};
}

}  // namespace cinnabar
