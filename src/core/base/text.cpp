#include "cinnabar/base/text.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>

namespace cinnabar {

std::string_view trimmed(std::string_view text) {
  const auto first = text.find_first_not_of(" \t\r\n");
  if (first == std::string_view::npos) return {};
  return text.substr(first, text.find_last_not_of(" \t\r\n") - first + 1);
}

std::string lower(std::string_view text) {
  std::string out(trimmed(text));
  for (char& c : out)
    if (c >= 'A' && c <= 'Z') c = static_cast<char>(c - 'A' + 'a');
  return out;
}

bool has_word(std::string_view text, std::string_view word) {
  const std::string low = lower(text), wanted = lower(word);
  // Letters beyond ASCII are part of words too.
  const auto letter = [](char c) { return std::isalnum(static_cast<unsigned char>(c)) || (c & 0x80) != 0; };
  for (std::size_t at = 0; (at = low.find(wanted, at)) != std::string::npos; ++at) {
    const std::size_t end = at + wanted.size();
    if ((at == 0 || !letter(low[at - 1])) && (end == low.size() || !letter(low[end]))) return !wanted.empty();
  }
  return false;
}

std::optional<double> parse_number(std::string_view text) {
  text = trimmed(text);
  if (!text.empty() && text.front() == '+') text.remove_prefix(1);
  double value = 0.0;
  const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
  if (error != std::errc() || end != text.data() + text.size() || !std::isfinite(value)) return std::nullopt;
  return value;
}

double exact_rate(double typed) {
  for (const double whole : {24.0, 30.0, 60.0, 120.0}) {
    const double exact = whole * 1000.0 / 1001.0;
    if (std::abs(typed - exact) <= 0.005) return exact;
  }
  return typed;
}

std::optional<double> parse_rate(std::string_view text) {
  const auto parts = split(text, '/');
  if (parts.empty() || parts.size() > 2) return std::nullopt;
  const auto top = parse_number(parts[0]);
  if (!top || *top <= 0) return std::nullopt;
  if (parts.size() == 1) return exact_rate(*top);
  const auto bottom = parse_number(parts[1]);
  if (!bottom || *bottom <= 0 || !std::isfinite(*top / *bottom) || *top / *bottom <= 0) return std::nullopt;
  return *top / *bottom;
}

std::string fixed_text(double value, int decimals) {
  std::string text = fmt::format("{:.{}f}", value, decimals);
  if (text.front() == '-' && text.find_first_not_of("-0.") == std::string::npos) text.erase(0, 1);
  return text;
}

std::string rate_text(double typed) {
  const double rate = exact_rate(typed), thousand = std::round(rate * 1001.0);
  if (std::abs(rate - std::round(rate)) < 1e-9) return std::to_string(std::lround(rate));
  if (std::abs(rate * 1001.0 - thousand) < 1e-6) return std::to_string(std::lround(thousand)) + "/1001";
  return number_text(rate, 7);
}

std::string number_text(double value, int digits) {
  if (value == 0.0) return "0";
  const double size = std::abs(value);
  if (!std::isfinite(value) || size < 1e-4 || size >= 1e7) return fmt::format("{:.{}g}", value, digits);
  const int decimals = std::max(0, digits - 1 - static_cast<int>(std::floor(std::log10(size))));
  std::string text = fixed_text(value, decimals);
  if (text.find('.') != std::string::npos) {
    text.erase(text.find_last_not_of('0') + 1);
    if (text.back() == '.') text.pop_back();
  }
  return text;
}

std::string signed_text(double value, int decimals) {
  const std::string text = fixed_text(value, decimals);
  return text.front() == '-' ? text : "+" + text;
}

std::string shutter_text(double seconds) {
  if (seconds >= 0.3) return number_text(seconds, 3) + " s";
  const double inverse = 1.0 / seconds;
  const double whole = std::round(inverse);
  return std::abs(inverse - whole) < 0.005 * inverse ? fmt::format("1/{:.0f}", whole)
                                                     : fmt::format("1/{}", number_text(inverse, 4));
}

std::vector<std::string> split(std::string_view text, char separator) {
  std::vector<std::string> parts;
  for (;;) {
    const auto at = text.find(separator);
    parts.emplace_back(trimmed(text.substr(0, at)));
    if (at == std::string_view::npos) return parts;
    text.remove_prefix(at + 1);
  }
}

std::string length_text(double metres, Units units) {
  if (std::abs(metres) < 1e-4 && std::abs(metres) >= 5e-8)  // droplets: in both, as their makers do
    return number_text(std::round(metres * 1e7) / 10.0, 3) + " µm";
  if (units == Units::metric) {
    if (std::abs(metres) < 0.2995) return number_text(std::round(metres * 1e4) / 10.0, 3) + " mm";
    return fixed_text(metres, 2) + " m";
  }
  const double inches = metres / 0.0254;
  if (std::abs(inches) < 24.0) return number_text(std::round(inches * 100.0) / 100.0, 4) + " in";
  const double tenths = std::round(std::abs(inches) * 10.0) / 10.0;
  const double feet = std::floor(tenths / 12.0);
  return fmt::format("{}{:.0f} ft {} in", inches < 0 ? "-" : "", feet, number_text(tenths - feet * 12.0, 3));
}

namespace {
std::optional<double> unit_in_metres(std::string_view unit, double bare) {
  static constexpr std::array<std::pair<std::string_view, double>, 14> units{{{"mm", 0.001},
                                                                              {"µm", 1e-6},
                                                                              {"\u03bcm", 1e-6},
                                                                              {"um", 1e-6},
                                                                              {"cm", 0.01},
                                                                              {"m", 1.0},
                                                                              {"in", 0.0254},
                                                                              {"inch", 0.0254},
                                                                              {"inches", 0.0254},
                                                                              {"\"", 0.0254},
                                                                              {"ft", 0.3048},
                                                                              {"foot", 0.3048},
                                                                              {"feet", 0.3048},
                                                                              {"'", 0.3048}}};
  if (unit.empty()) return bare;
  for (const auto& [name, metres] : units)
    if (unit == name) return metres;
  return std::nullopt;
}
}  // namespace

std::optional<double> parse_length(std::string_view text, Units units) {
  text = trimmed(text);
  if (text.empty()) return std::nullopt;
  double sign = 1.0, total = 0.0;
  if (text.front() == '-') {
    sign = -1.0;
    text.remove_prefix(1);
  }
  while (!(text = trimmed(text)).empty()) {
    const auto number_end = std::min(text.find_first_not_of("0123456789."), text.size());
    const auto number = parse_number(text.substr(0, number_end));
    if (!number) return std::nullopt;
    text = trimmed(text.substr(number_end));
    const auto unit_end = std::min(text.find_first_of("0123456789. "), text.size());
    const auto scale = unit_in_metres(text.substr(0, unit_end), units == Units::metric ? 1.0 : 0.0254);
    if (!scale) return std::nullopt;
    total += *number * *scale;
    text.remove_prefix(unit_end);
  }
  return std::isfinite(total) ? std::optional(sign * total) : std::nullopt;
}

std::optional<std::array<double, 3>> parse_three(std::string_view text) {
  const auto parts = split(text, ',');
  std::array<double, 3> three{};
  if (parts.size() != three.size()) return std::nullopt;
  for (std::size_t i = 0; i < three.size(); ++i) {
    const auto number = parse_number(parts[i]);
    if (!number) return std::nullopt;
    three[i] = *number;
  }
  return three;
}

}  // namespace cinnabar
