#include "cinnabar/photometry/daylight.h"

#include <fmt/format.h>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <optional>
#include <vector>

#include "cinnabar/base/quadrature.h"
#include "cinnabar/base/vec.h"
#include "cinnabar/photometry/sources.h"

namespace cinnabar {
namespace {

struct Sky {
  double extinction, a, b, g;  // IES RP-21
};
std::optional<Sky> sky_named(const std::string& name) {
  if (name == "clear") return Sky{0.21, 0.8, 15.5, 0.5};
  if (name == "partly") return Sky{0.8, 0.3, 45.0, 1.0};
  if (name == "overcast") return Sky{0.0, 0.3, 21.0, 1.0};
  return std::nullopt;
}

/// The clear sky's luminance, relative, at height `up` and `aside` from a sun at height `sun` (ISO 15469,
/// radians).
double clear_luminance(double up, double aside, double sun) {
  const double cosine = std::sin(up) * std::sin(sun) + std::cos(up) * std::cos(sun) * std::cos(aside);
  const double away = std::acos(std::clamp(cosine, -1.0, 1.0));
  return -std::expm1(-0.32 / std::sin(up)) *
         (1.0 + 10.0 * (std::exp(-3.0 * away) - std::exp(-1.5 * pi)) + 0.45 * cosine * cosine);
}

/// In pieces that end where the sun stands: it is the one point that is not smooth.
template <class At>
double over_heights(double sun, const At& at) {
  double sum = 0.0;
  if (sun > 1e-9) sum += integral(at, 0.0, sun);
  if (sun < pi / 2.0 - 1e-9) sum += integral(at, sun, pi / 2.0);
  return sum;
}

/// Illuminance of the level ground under the clear sky, by its relative luminances.
double clear_level(double sun) {
  return 2.0 * over_heights(sun, [&](double up) {
           return std::sin(up) * std::cos(up) *
                  integral([&](double aside) { return clear_luminance(up, aside, sun); }, 0.0, pi);
         });
}

/// Illuminance of an upright pane under the clear sky over that of the level ground; the sun `bearing` from the
/// pane.
double clear_sky_share(double sun, double bearing) {
  const double pane = over_heights(sun, [&](double up) {
    const auto at = [&](double from_pane) {
      return std::cos(from_pane) * clear_luminance(up, from_pane - bearing, sun);
    };
    double around = 0.0;
    if (std::abs(bearing) < pi / 2.0)
      around = integral(at, -pi / 2.0, bearing) + integral(at, bearing, pi / 2.0);
    else
      around = integral(at, -pi / 2.0, pi / 2.0);
    return std::cos(up) * std::cos(up) * around;
  });
  return pane / clear_level(sun);
}

std::chrono::sys_days day_of(double julian) {
  return std::chrono::sys_days{std::chrono::days{static_cast<int>(std::floor(julian + 0.5)) - 2440588}};
}

}  // namespace

double day_of_year(double julian) {
  using namespace std::chrono;
  const sys_days date = day_of(julian);
  return static_cast<double>((date - sys_days{year_month_day{date}.year() / January / 1}).count() + 1);
}

Expected<Outlook> Outlook::of(double altitude_deg, double day, const std::string& sky, double ground) {
  const auto light = outdoor_light({altitude_deg, day, sky});
  if (!light) return tl::unexpected(light.error());
  Outlook out;
  out.sky_ = sky == "clear" ? Sky::clear : sky == "partly" ? Sky::partly : Sky::overcast;
  out.sun_ = radians(altitude_deg);
  out.diffuse_ = light->diffuse_lx;
  out.ground_ = ground * light->global_lx / pi;
  if (out.sky_ == Sky::clear) out.level_ = clear_level(out.sun_);
  return out;
}

double Outlook::luminance(double up, double aside) const {
  if (up < 0.0) return ground_;
  switch (sky_) {
    case Sky::clear:
      return diffuse_ * clear_luminance(up, aside, sun_) / level_;
    case Sky::partly:
      return diffuse_ / pi;
    case Sky::overcast:
      break;
  }
  return diffuse_ * 3.0 / (7.0 * pi) * (1.0 + 2.0 * std::sin(up));
}

double sun_kelvin(double altitude_deg) {
  static constexpr double heights[]{0, 10, 20, 40}, kelvins[]{2000, 3500, 4500, 5500};
  for (std::size_t i = 1; i < std::size(heights); ++i)
    if (altitude_deg < heights[i]) {
      const double part = std::max(0.0, altitude_deg - heights[i - 1]) / (heights[i] - heights[i - 1]);
      return kelvins[i - 1] + part * (kelvins[i] - kelvins[i - 1]);
    }
  return kelvins[3];
}
double sky_kelvin(const std::string& sky) { return sky == "clear" ? 12000.0 : sky == "partly" ? 8000.0 : 6500.0; }

std::string date_of(double julian) {
  const std::chrono::year_month_day date{day_of(julian)};
  return fmt::format("{:04}-{:02}-{:02}", static_cast<int>(date.year()), static_cast<unsigned>(date.month()),
                     static_cast<unsigned>(date.day()));
}

Keys<OutdoorLightInputs> OutdoorLightInputs::keys() {
  static const Key<OutdoorLightInputs> list[]{
      {"altitude_deg", "deg, of the sun", {0.0, 90.0}, &OutdoorLightInputs::altitude_deg},
      {"day_of_year", "", {1.0, 366.0, false, false, true}, &OutdoorLightInputs::day_of_year},
      {"sky", "clear, partly or overcast", any_number, &OutdoorLightInputs::sky}};
  return list;
}
Results<OutdoorLight> OutdoorLight::results() {
  static const ResultKey<OutdoorLight> list[]{{"air_mass", "", &OutdoorLight::air_mass},
                                              {"direct_normal_lx", "lx", &OutdoorLight::direct_normal_lx},
                                              {"diffuse_lx", "lx, on the level", &OutdoorLight::diffuse_lx},
                                              {"global_lx", "lx, on the level", &OutdoorLight::global_lx}};
  return list;
}
Expected<OutdoorLight> outdoor_light(const OutdoorLightInputs& in) {
  CINNABAR_TRY(check(in));
  const auto sky = sky_named(in.sky);
  if (!sky) return out_of_range("sky", "clear, partly or overcast");
  const double h = radians(in.altitude_deg);
  const double mass = 1.0 / (std::sin(h) + 0.50572 * std::pow(in.altitude_deg + 6.07995, -1.6364));
  const double outside = 127500.0 * (1.0 + 0.034 * std::cos(2.0 * pi * (in.day_of_year - 2.0) / 365.0));
  const double direct = sky->extinction > 0.0 ? outside * std::exp(-sky->extinction * mass) : 0.0;
  const double diffuse = 1000.0 * (sky->a + sky->b * std::pow(std::sin(h), sky->g));
  return OutdoorLight{mass, direct, diffuse, direct * std::sin(h) + diffuse};
}

Keys<WindowInputs> WindowInputs::keys() {
  static const Key<WindowInputs> list[]{
      {"altitude_deg", "deg, of the sun", {0.0, 90.0}, &WindowInputs::altitude_deg},
      {"bearing_deg", "deg, sun's azimuth less the pane's", any_number, &WindowInputs::bearing_deg},
      {"day_of_year", "", {1.0, 366.0, false, false, true}, &WindowInputs::day_of_year},
      {"sky", "clear, partly or overcast", any_number, &WindowInputs::sky},
      {"ground", "reflectance", share, &WindowInputs::ground}};
  return list;
}
Results<Window> Window::results() {
  static const ResultKey<Window> list[]{{"direct_lx", "lx", &Window::direct_lx},
                                        {"sky_lx", "lx", &Window::sky_lx},
                                        {"ground_lx", "lx", &Window::ground_lx},
                                        {"total_lx", "lx", &Window::total_lx}};
  return list;
}
Expected<Window> window(const WindowInputs& in) {
  CINNABAR_TRY(check(in));
  const auto light = outdoor_light({in.altitude_deg, in.day_of_year, in.sky});
  if (!light) return tl::unexpected(light.error());
  const double bearing = std::remainder(in.bearing_deg, 360.0);
  const double direct =
      light->direct_normal_lx * std::cos(radians(in.altitude_deg)) * std::max(0.0, std::cos(radians(bearing)));
  const double part = in.sky == "overcast" ? 0.396177
                      : in.sky == "partly" ? 0.5
                                           : clear_sky_share(radians(in.altitude_deg), radians(bearing));
  const double from_sky = light->diffuse_lx * part, ground = in.ground / 2.0 * light->global_lx;
  return Window{direct, from_sky, ground, direct + from_sky + ground};
}

Keys<WindowDriftInputs> WindowDriftInputs::keys() {
  static const Key<WindowDriftInputs> list[]{
      {"latitude", "deg", {-90.0, 90.0}, &WindowDriftInputs::latitude},
      {"longitude", "deg", {-180.0, 180.0}, &WindowDriftInputs::longitude},
      {"utc", "YYYY-MM-DDTHH:MM", any_number, &WindowDriftInputs::utc},
      {"minutes", "min", {1.0, 720.0, false, false, true}, &WindowDriftInputs::minutes},
      {"bearing_deg", "deg, of the pane from north", any_number, &WindowDriftInputs::bearing_deg},
      {"sky", "clear, partly or overcast", any_number, &WindowDriftInputs::sky}};
  return list;
}
Results<WindowDrift> WindowDrift::results() {
  static const ResultKey<WindowDrift> list[]{{"stops", "end over start", &WindowDrift::stops},
                                             {"spread", "stops, most over least", &WindowDrift::spread}};
  return list;
}
Expected<WindowDrift> window_drift(const WindowDriftInputs& in) {
  CINNABAR_TRY(check(in));
  if (!sky_named(in.sky)) return out_of_range("sky", "clear, partly or overcast");
  const auto start = julian_day(in.utc);
  if (!start) return out_of_range("utc", "a real date and time of 1901 to 2099 as YYYY-MM-DDTHH:MM");
  double first = 0.0, last = 0.0, least = unbounded, most = 0.0;
  for (int minute = 0; minute <= static_cast<int>(in.minutes); ++minute) {
    const double day = *start + minute / 1440.0;
    const Sun at = sun_at(in.latitude, in.longitude, day);
    if (at.altitude_deg < 0.0) return WindowDrift{};
    const auto lit = window({std::min(at.altitude_deg, 90.0), at.azimuth_deg - std::fmod(in.bearing_deg, 360.0),
                             day_of_year(day), in.sky, 0.2});
    if (!lit) return tl::unexpected(lit.error());
    last = lit->total_lx;
    if (minute == 0) first = last;
    least = std::min(least, last), most = std::max(most, last);
  }
  return WindowDrift{std::log2(last / first), std::log2(most / least)};
}

}  // namespace cinnabar
