// Numbers to text and back, independent of the locale.
#pragma once
#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "cinnabar/base/result.h"

namespace cinnabar {

/// The whole of `text` as a finite number, or nothing.
[[nodiscard]] std::optional<double> parse_number(std::string_view text);
/// Three of them between commas.
[[nodiscard]] std::optional<std::array<double, 3>> parse_three(std::string_view text);

/// A frame rate in frames per second: "24", "23.976" (the exact 24000/1001 is used within 0.005 of it,
/// SMPTE ST 12-1) or "24000/1001". Nothing when it is not a positive rate.
[[nodiscard]] std::optional<double> parse_rate(std::string_view text);

/// The exact rate for one that was typed rounded: 23.976 or 23.98 is 24000/1001, likewise 29.97, 59.94, 119.88.
[[nodiscard]] double exact_rate(double typed);

/// A rate as documents have it: "24", "24000/1001".
[[nodiscard]] std::string rate_text(double typed);

/// At most `digits` significant digits, no exponent between 1e-4 and 1e7, no trailing zeros: "1240", "0.62".
[[nodiscard]] std::string number_text(double value, int digits = 4);
/// As number_text with a sign always shown, a true minus for the eye being left to the window: "+0.2".
[[nodiscard]] std::string signed_text(double value, int decimals = 1);
/// Fixed decimals; never "-0.0".
[[nodiscard]] std::string fixed_text(double value, int decimals);
/// A shutter time as the trade writes it: "1/100", "1/48", "0.5 s".
[[nodiscard]] std::string shutter_text(double seconds);

/// Pieces of `text` between `separator`s, blanks trimmed.
[[nodiscard]] std::vector<std::string> split(std::string_view text, char separator);
[[nodiscard]] std::string_view trimmed(std::string_view text);

/// Trimmed, and its Latin capitals made small: what words and headings are compared by.
[[nodiscard]] std::string lower(std::string_view text);

/// Whether a text holds a word by itself, in capitals or not: "Water, still" holds "water", "Waterproof" does not.
[[nodiscard]] bool has_word(std::string_view text, std::string_view word);

enum class Units { metric, imperial };
/// A length for people: "0.62 m", "38 mm", or "2 ft 0.4 in", "1.5 in"; "2 µm" under a tenth of a millimetre.
[[nodiscard]] std::string length_text(double metres, Units units = Units::metric);
/// A length as typed, in metres: "62 cm", "0.62", "620mm", "2 ft 3 in", "2' 3\"". A bare number is read in
/// metres, or inches when `units` is imperial.
[[nodiscard]] std::optional<double> parse_length(std::string_view text, Units units = Units::metric);

/// What a thing is called: its name, or where it has none its id.
[[nodiscard]] inline const std::string& name_or(const std::string& name, const std::string& id) {
  return name.empty() ? id : name;
}

}  // namespace cinnabar
