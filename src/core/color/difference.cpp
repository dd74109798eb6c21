#include "cinnabar/color/difference.h"

#include <cmath>

namespace cinnabar {

Keys<ColourDifferenceInputs> ColourDifferenceInputs::keys() {
  static const Key<ColourDifferenceInputs> list[]{
      {"lab1", "CIE L*a*b*", Range{0, 100}, &ColourDifferenceInputs::lab1},
      {"lab2", "CIE L*a*b*", Range{0, 100}, &ColourDifferenceInputs::lab2}};
  return list;
}
Results<ColourDifference> ColourDifference::results() {
  static const ResultKey<ColourDifference> list[]{{"de2000", "", &ColourDifference::de2000}};
  return list;
}

namespace {
double hue_deg(double b, double a) {
  if (a == 0.0 && b == 0.0) return 0.0;
  const double h = degrees(std::atan2(b, a));
  return h < 0.0 ? h + 360.0 : h;
}
double seventh_root_term(double c) {
  const double c7 = std::pow(c, 7);
  return std::sqrt(c7 / (c7 + std::pow(25.0, 7)));
}
}  // namespace

Expected<ColourDifference> colour_difference(const ColourDifferenceInputs& in) {
  CINNABAR_TRY(check(in));
  const auto& [l1, a1, b1] = in.lab1;
  const auto& [l2, a2, b2] = in.lab2;
  for (const auto& [key, l] : {std::pair{"lab1", l1}, std::pair{"lab2", l2}})
    if (l < 0.0 || l > 100.0) return out_of_range(key, "L from 0 to 100 and two finite numbers");
  const double g = 0.5 * (1.0 - seventh_root_term(0.5 * (std::hypot(a1, b1) + std::hypot(a2, b2))));
  const double ap1 = (1.0 + g) * a1, ap2 = (1.0 + g) * a2;
  const double c1 = std::hypot(ap1, b1), c2 = std::hypot(ap2, b2);
  const double h1 = hue_deg(b1, ap1), h2 = hue_deg(b2, ap2);
  const bool grey = c1 * c2 == 0.0;
  double dh = grey ? 0.0 : h2 - h1;
  if (dh > 180.0) dh -= 360.0;
  if (dh < -180.0) dh += 360.0;
  const double dl = l2 - l1, dc = c2 - c1;
  const double dhh = 2.0 * std::sqrt(c1 * c2) * std::sin(radians(dh / 2.0));
  const double lm = 0.5 * (l1 + l2), cm = 0.5 * (c1 + c2);
  double hm = h1 + h2;
  if (!grey) {
    hm = std::abs(h1 - h2) <= 180.0 ? 0.5 * hm : (hm < 360.0 ? 0.5 * (hm + 360.0) : 0.5 * (hm - 360.0));
  }
  const double t = 1.0 - 0.17 * std::cos(radians(hm - 30.0)) + 0.24 * std::cos(radians(2.0 * hm)) +
                   0.32 * std::cos(radians(3.0 * hm + 6.0)) - 0.20 * std::cos(radians(4.0 * hm - 63.0));
  const double turn = 30.0 * std::exp(-std::pow((hm - 275.0) / 25.0, 2));
  const double l50 = (lm - 50.0) * (lm - 50.0);
  const double sl = 1.0 + 0.015 * l50 / std::sqrt(20.0 + l50);
  const double sc = 1.0 + 0.045 * cm, sh = 1.0 + 0.015 * cm * t;
  const double rt = -std::sin(radians(2.0 * turn)) * 2.0 * seventh_root_term(cm);
  const double x = dl / sl, y = dc / sc, z = dhh / sh;
  return ColourDifference{std::sqrt(std::max(0.0, x * x + y * y + z * z + rt * y * z))};
}

}  // namespace cinnabar
