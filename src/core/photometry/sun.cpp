#include <array>
#include <charconv>
#include <cmath>
#include <optional>

#include "cinnabar/photometry/sources.h"

namespace cinnabar {

Keys<SunInputs> SunInputs::keys() {
  static const Key<SunInputs> list[]{{"latitude", "deg", Range{-90, 90}, &SunInputs::latitude},
                                     {"longitude", "deg", Range{-180, 180}, &SunInputs::longitude},
                                     {"utc", "YYYY-MM-DDTHH:MM", any_number, &SunInputs::utc}};
  return list;
}
Results<Sun> Sun::results() {
  static const ResultKey<Sun> list[]{{"azimuth_deg", "deg", &Sun::azimuth_deg},
                                     {"altitude_deg", "deg", &Sun::altitude_deg}};
  return list;
}

namespace {

std::optional<int> digits(std::string_view text) {
  int value = 0;
  for (const char c : text) {
    if (c < '0' || c > '9') return std::nullopt;
    value = value * 10 + (c - '0');
  }
  return value;
}

}  // namespace

/// Julian day of "YYYY-MM-DDTHH:MM" (seconds may follow), a real Gregorian date of 1901 to 2099.
std::optional<double> julian_day(std::string_view utc) {
  if (utc.size() == 17 && utc.back() == 'Z') utc.remove_suffix(1);
  const bool with_seconds = utc.size() == 19 && utc[16] == ':';
  if ((utc.size() != 16 && !with_seconds) || utc[4] != '-' || utc[7] != '-' || utc[10] != 'T' || utc[13] != ':')
    return std::nullopt;
  const auto year = digits(utc.substr(0, 4)), month = digits(utc.substr(5, 2)), day = digits(utc.substr(8, 2));
  const auto hour = digits(utc.substr(11, 2)), minute = digits(utc.substr(14, 2));
  const auto second = with_seconds ? digits(utc.substr(17, 2)) : std::optional(0);
  if (!year || !month || !day || !hour || !minute || !second) return std::nullopt;
  if (*year < 1901 || *year > 2099 || *month < 1 || *month > 12 || *hour > 23 || *minute > 59 || *second > 59)
    return std::nullopt;
  const bool leap = *year % 4 == 0;
  const std::array<int, 12> lengths{31, leap ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31};
  if (*day < 1 || *day > lengths[static_cast<std::size_t>(*month - 1)]) return std::nullopt;
  const int y = *month <= 2 ? *year - 1 : *year, m = *month <= 2 ? *month + 12 : *month;
  const int b = 2 - y / 100 + y / 400;
  return std::floor(365.25 * (y + 4716)) + std::floor(30.6001 * (m + 1)) + *day + b - 1524.5 +
         (*hour + (*minute + *second / 60.0) / 60.0) / 24.0;
}

namespace {
double sin_deg(double a) { return std::sin(radians(a)); }
double cos_deg(double a) { return std::cos(radians(a)); }

}  // namespace

Expected<Sun> sun(const SunInputs& in) {
  CINNABAR_TRY(check(in));
  const auto jd = julian_day(in.utc);
  if (!jd) return out_of_range("utc", "a real date and time of 1901 to 2099 as YYYY-MM-DDTHH:MM");
  return sun_at(in.latitude, in.longitude, *jd);
}

Sun sun_at(double latitude, double longitude, double jd) {
  // Meeus chapters 25 (apparent place), 22 (obliquity), 12 (sidereal time), 13 (horizon).
  const double days = jd - 2451545.0, t = days / 36525.0;
  const double l0 = 280.46646 + 36000.76983 * t + 0.0003032 * t * t;
  const double m = 357.52911 + 35999.05029 * t - 0.0001537 * t * t;
  const double c = (1.914602 - 0.004817 * t - 0.000014 * t * t) * sin_deg(m) +
                   (0.019993 - 0.000101 * t) * sin_deg(2 * m) + 0.000289 * sin_deg(3 * m);
  const double node = 125.04 - 1934.136 * t;
  const double l = l0 + c - 0.00569 - 0.00478 * sin_deg(node);
  const double e =
      23.4392911 - (46.8150 * t + 0.00059 * t * t - 0.001813 * t * t * t) / 3600.0 + 0.00256 * cos_deg(node);
  const double ra = degrees(std::atan2(cos_deg(e) * sin_deg(l), cos_deg(l)));
  const double dec = degrees(std::asin(sin_deg(e) * sin_deg(l)));
  const double sidereal = 280.46061837 + 360.98564736629 * days + 0.000387933 * t * t - t * t * t / 38710000.0 -
                          0.00478 * sin_deg(node) * cos_deg(e);
  const double h = sidereal + longitude - ra, f = latitude;
  const double altitude =
      std::asin(std::clamp(sin_deg(f) * sin_deg(dec) + cos_deg(f) * cos_deg(dec) * cos_deg(h), -1.0, 1.0));
  const double azimuth =
      std::atan2(-cos_deg(dec) * sin_deg(h), cos_deg(f) * sin_deg(dec) - sin_deg(f) * cos_deg(dec) * cos_deg(h));
  const double from_north = degrees(azimuth);
  return Sun{from_north < 0.0 ? from_north + 360.0 : from_north, degrees(altitude)};
}

}  // namespace cinnabar
