#include "cinnabar/effects/falls.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/base/vec.h"

namespace cinnabar {

Keys<FallInputs> FallInputs::keys() {
  static const Key<FallInputs> list[]{{"height", "m", non_negative, &FallInputs::height},
                                      {"terminal_speed", "m/s", non_negative, &FallInputs::terminal_speed}};
  return list;
}
Results<Fall> Fall::results() {
  static const ResultKey<Fall> list[]{{"time", "s", &Fall::time}, {"speed", "m/s", &Fall::speed}};
  return list;
}
Expected<Fall> fall(const FallInputs& in) {
  CINNABAR_TRY(check(in));
  const double g = standard_gravity, h = in.height, vt = in.terminal_speed;
  if (vt == 0.0) return Fall{std::sqrt(2.0 * h / g), std::sqrt(2.0 * g * h)};
  const double x = g * h / (vt * vt);
  const double s = std::sqrt(-std::expm1(-2.0 * x));
  return Fall{vt / g * (x + std::log1p(s)), vt * s};
}

Keys<LayerReleaseInputs> LayerReleaseInputs::keys() {
  static const Key<LayerReleaseInputs> list[]{
      {"heights", "m, bottom first", non_negative, &LayerReleaseInputs::heights},
      {"stagger", "s", non_negative, &LayerReleaseInputs::stagger}};
  return list;
}
Results<LayerRelease> LayerRelease::results() {
  static const ResultKey<LayerRelease> list[]{{"offsets", "s", &LayerRelease::offsets}};
  return list;
}
Expected<LayerRelease> layer_release(const LayerReleaseInputs& in) {
  CINNABAR_TRY(check(in));
  if (in.heights.empty()) return out_of_range("heights", "at least one height >= 0");
  LayerRelease out;
  for (std::size_t i = 0; i < in.heights.size(); ++i)
    out.offsets.push_back(static_cast<double>(i) * in.stagger - std::sqrt(2.0 * in.heights[i] / standard_gravity));
  const double first = *std::min_element(out.offsets.begin(), out.offsets.end());
  for (double& t : out.offsets) t -= first;
  return out;
}

Keys<SwingInputs> SwingInputs::keys() {
  static const Key<SwingInputs> list[]{{"length", "m", positive, &SwingInputs::length},
                                       {"angle_deg", "deg", Range{0, 180, false, true}, &SwingInputs::angle_deg}};
  return list;
}
Results<Swing> Swing::results() {
  static const ResultKey<Swing> list[]{{"time_to_bottom", "s", &Swing::time_to_bottom},
                                       {"speed_at_bottom", "m/s", &Swing::speed_at_bottom},
                                       {"period", "s", &Swing::period}};
  return list;
}
Expected<Swing> swing(const SwingInputs& in) {
  CINNABAR_TRY(check(in));
  double a = 1.0, b = std::cos(radians(in.angle_deg) / 2.0);
  while (std::abs(a - b) > 1e-15 * a) {
    const double mean = 0.5 * (a + b);
    b = std::sqrt(a * b);
    if (mean == a) break;
    a = mean;
  }
  const double period = 2.0 * pi * std::sqrt(in.length / standard_gravity) / a;
  return Swing{period / 4.0, 2.0 * std::sqrt(standard_gravity * in.length) * std::sin(radians(in.angle_deg) / 2.0),
               period};
}

}  // namespace cinnabar
