#include "cinnabar/photometry/settings.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <tuple>

namespace cinnabar {

Keys<FoundExposureInputs> FoundExposureInputs::keys() {
  static const Key<FoundExposureInputs> list[]{
      {"illuminance_lx", "lx, the light at full", positive, &FoundExposureInputs::illuminance_lx},
      {"f_numbers", "", positive, &FoundExposureInputs::f_numbers},
      {"times", "s", positive, &FoundExposureInputs::times},
      {"isos", "", positive, &FoundExposureInputs::isos},
      {"nds", "stops", non_negative, &FoundExposureInputs::nds},
      {"dim_stops", "stops", non_negative, &FoundExposureInputs::dim_stops},
      {"slack_stops", "stops", share, &FoundExposureInputs::slack_stops},
      {"loss_stops", "stops", non_negative, &FoundExposureInputs::loss_stops},
      {"target_stops", "stops", any_number, &FoundExposureInputs::target_stops},
      {"rule", "add-light or stop-down", any_number, &FoundExposureInputs::rule}};
  return list;
}
Results<FoundExposure> FoundExposure::results() {
  static const ResultKey<FoundExposure> list[]{
      {"f_number", "", &FoundExposure::f_number},
      {"time", "s", &FoundExposure::time},
      {"iso", "", &FoundExposure::iso},
      {"nd_stops", "stops", &FoundExposure::nd_stops},
      {"light_stops", "stops", &FoundExposure::light_stops},
      {"error_stops", "stops, + over", &FoundExposure::error_stops},
      {"missing_stops", "stops, 0 if one fits", &FoundExposure::missing_stops},
      {"answers", "count", &FoundExposure::answers},
      {"frontier", "count", &FoundExposure::frontier}};
  return list;
}
namespace {
struct Setting {
  double n, t, s, nd, x;  // f-number, time, ISO, ND, light change that it needs
};
/// How many of these no other matches or betters in ISO, f-number and time.
std::size_t unbeaten(std::vector<Setting> list) {
  std::sort(list.begin(), list.end(), [](const Setting& a, const Setting& b) {
    return std::tuple(a.s, -a.n, a.t) < std::tuple(b.s, -b.n, b.t);
  });
  std::size_t count = 0;
  std::map<double, double> stairs;  // of what came before: shortest time by f-number, both rising
  const Setting* last = nullptr;
  for (const Setting& one : list) {
    if (last && last->s == one.s && last->n == one.n && last->t == one.t) continue;
    last = &one;
    const auto at_least = stairs.lower_bound(one.n);
    if (at_least != stairs.end() && at_least->second <= one.t) continue;
    ++count;
    auto from = stairs.upper_bound(one.n);
    while (from != stairs.begin() && std::prev(from)->second >= one.t) from = stairs.erase(std::prev(from));
    stairs[one.n] = one.t;
  }
  return count;
}
}  // namespace
Expected<FoundExposure> find_exposure(const FoundExposureInputs& in) {
  CINNABAR_TRY(check(in));
  const bool add_light = in.rule == "add-light";
  if (!add_light && in.rule != "stop-down") return out_of_range("rule", "add-light or stop-down");
  double tries = 1.0;
  for (const auto& [key, list] : {std::pair{"f_numbers", &in.f_numbers}, std::pair{"times", &in.times},
                                  std::pair{"isos", &in.isos}, std::pair{"nds", &in.nds}}) {
    if (list->empty()) return out_of_range(key, "at least one number");
    tries *= static_cast<double>(list->size());
    if (tries > 2e6) return out_of_range(key, "shorter lists: over two million settings would have to be tried");
  }
  const auto rank = [add_light](const Setting& a) {
    return add_light ? std::tuple(a.s, a.nd, a.n, -a.t) : std::tuple(-a.n, a.s, a.nd, -a.t);
  };
  std::vector<Setting> fitting;
  double missing = unbounded;
  for (const double n : in.f_numbers)
    for (const double t : in.times)
      for (const double s : in.isos)
        for (const double nd : in.nds) {
          const double x =
              in.target_stops + std::log2(250.0 * n * n / (in.illuminance_lx * t * s)) + in.loss_stops + nd;
          const double short_of = x - in.slack_stops, over = x + in.dim_stops + in.slack_stops;
          if (short_of <= 1e-9 && over >= -1e-9) {
            fitting.push_back({n, t, s, nd, x});
          } else if (const double miss = short_of > 0.0 ? short_of : over; std::abs(miss) < std::abs(missing)) {
            missing = miss;
          }
        }
  FoundExposure out{};
  out.answers = static_cast<double>(fitting.size());
  out.missing_stops = fitting.empty() ? missing : 0.0;
  if (fitting.empty()) return out;
  const Setting best = *std::min_element(fitting.begin(), fitting.end(),
                                         [&](const Setting& a, const Setting& b) { return rank(a) < rank(b); });
  const double light = std::clamp(best.x, -in.dim_stops, 0.0);
  out.f_number = best.n, out.time = best.t, out.iso = best.s, out.nd_stops = best.nd;
  out.light_stops = light, out.error_stops = light - best.x;
  out.frontier = static_cast<double>(unbeaten(std::move(fitting)));
  return out;
}

}  // namespace cinnabar
