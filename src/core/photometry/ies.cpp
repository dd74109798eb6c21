#include "cinnabar/photometry/ies.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <cmath>
#include <optional>

#include "cinnabar/base/encoding.h"
#include "cinnabar/base/keys.h"
#include "cinnabar/base/text.h"

// The value of what may fail, under a name; a failure is handed on.
#define CINNABAR_READ(name, expression)                         \
  auto name##_read = (expression);                              \
  if (!name##_read) return tl::unexpected(name##_read.error()); \
  auto name = std::move(*name##_read)

namespace cinnabar {
namespace {

constexpr double most_values = 1e6;
constexpr double metres_per_foot = 0.3048;

/// The file line by line, and then its numbers however the lines are broken.
class Source {
 public:
  Source(std::string_view text, std::string file) : text_(text), file_(std::move(file)) {}

  std::optional<std::string_view> line() {
    if (at_ >= text_.size()) return std::nullopt;
    const std::size_t end = std::min(text_.find('\n', at_), text_.size());
    std::string_view out = text_.substr(at_, end - at_);
    at_ = end + 1;
    ++line_;
    if (!out.empty() && out.back() == '\r') out.remove_suffix(1);
    return out;
  }
  Expected<double> number(const std::string& what) {
    while (at_ < text_.size() && is_gap(text_[at_])) line_ += text_[at_++] == '\n' ? 1 : 0;
    if (at_ >= text_.size())
      return fault(what + " is missing: the file ends before it", "take the whole file from its maker");
    const std::size_t from = at_;
    while (at_ < text_.size() && !is_gap(text_[at_])) ++at_;
    const std::string_view token = text_.substr(from, at_ - from);
    const auto value = parse_number(!token.empty() && token.front() == '+' ? token.substr(1) : token);
    if (!value) return fault(what + " is \"" + made_utf8(clipped(token, 40)) + "\"", "write a number there");
    return *value;
  }
  Expected<int> count(const std::string& what) {
    CINNABAR_READ(value, number(what));
    if (!(value >= 1.0 && value <= most_values) || value != std::floor(value))
      return fault(fmt::format("{} is {}", what, number_text(value, 8)), "give a whole number from 1");
    return static_cast<int>(value);
  }
  Expected<std::vector<double>> numbers(int count, const std::string& what) {
    std::vector<double> list;
    for (int i = 0; i < count; ++i) {
      CINNABAR_READ(value, number(fmt::format("{} {} of {}", what, i + 1, count)));
      list.push_back(value);
    }
    return list;
  }
  [[nodiscard]] bool has_more() const {
    return std::any_of(text_.begin() + static_cast<std::ptrdiff_t>(std::min(at_, text_.size())), text_.end(),
                       [](char c) { return !is_gap(c); });
  }
  [[nodiscard]] tl::unexpected<Error> fault(const std::string& message, const std::string& mend) const {
    return fail(fmt::format("{} line {}", file_, line_), message, mend, Fault::input);
  }

 private:
  static bool is_gap(char c) { return c == ' ' || c == '\t' || c == '\r' || c == '\n' || c == ',' || c == '\0'; }
  std::string_view text_;
  std::string file_;
  std::size_t at_ = 0;
  int line_ = 1;  // that at_ stands on
};

std::string upper(std::string_view text) {
  std::string out(text);
  for (char& c : out) c = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
  return out;
}

/// Version, keywords and plain lines, up to and with TILT=; what follows the sign.
Expected<std::string> read_head(Source& in, LightDistribution& out) {
  for (int lines = 0; const auto raw = in.line(); ++lines) {
    const std::string_view line = trimmed(*raw);
    const std::string loud = upper(line.substr(0, 16));
    if (loud.starts_with("TILT")) {
      const std::size_t sign = line.find('=');
      if (sign != std::string_view::npos) return std::string(trimmed(line.substr(sign + 1)));
    }
    if (lines == 0 && loud.starts_with("IES")) {
      out.version = made_utf8(line);
    } else if (line.starts_with('[') && line.find(']') != std::string_view::npos) {
      const std::size_t end = line.find(']');
      const std::string key = made_utf8(upper(line.substr(1, end - 1))),
                        value = made_utf8(trimmed(line.substr(end + 1)));
      if (key == "MORE" && !out.keywords.empty())
        out.keywords.back().second += "\n" + value;
      else
        out.keywords.emplace_back(key, value);
    } else if (!line.empty()) {
      out.keywords.emplace_back("", made_utf8(line));  // as before 1991
    }
  }
  return in.fault("has no line TILT=", "give a file as IES LM-63 has it: TILT=NONE, then the numbers");
}

Expected<bool> read_tilt(Source& in, LightDistribution& out, const std::string& tilt) {
  const std::string loud = upper(tilt);
  if (loud == "NONE") return true;
  if (loud != "INCLUDE") {
    out.notes.push_back("the factors for a tilted lamp are in another file (" + made_utf8(tilt) +
                        ") and count as 1");
    return true;
  }
  CINNABAR_READ(geometry, in.number("lamp to luminaire geometry"));
  if (geometry != 1 && geometry != 2 && geometry != 3)
    return in.fault("lamp to luminaire geometry is " + number_text(geometry), "give 1, 2 or 3");
  out.tilts_with_lamp = geometry != 2;
  CINNABAR_READ(pairs, in.count("number of tilt angles"));
  CINNABAR_READ(angles, in.numbers(pairs, "tilt angle"));
  CINNABAR_READ(factors, in.numbers(pairs, "tilt factor"));
  for (std::size_t i = 0; i < angles.size(); ++i) {
    if (factors[i] < 0.0) return in.fault("a tilt factor is negative", "give shares of the light, 0 or more");
    if (i > 0 && angles[i] <= angles[i - 1]) return in.fault("tilt angles do not rise", "give them ascending");
    out.tilt.emplace_back(angles[i], factors[i]);
  }
  return true;
}

Expected<bool> check_angles(const Source& in, const LightDistribution& d) {
  for (const auto& [name, list] : {std::pair{"vertical", &d.verticals}, std::pair{"horizontal", &d.horizontals}})
    for (std::size_t i = 1; i < list->size(); ++i)
      if ((*list)[i] <= (*list)[i - 1])
        return in.fault(fmt::format("{} angles do not rise: {} after {}", name, number_text((*list)[i]),
                                    number_text((*list)[i - 1])),
                        "give them ascending");
  const double v0 = d.verticals.front(), v1 = d.verticals.back(), h0 = d.horizontals.front(),
               h1 = d.horizontals.back();
  if (d.verticals.size() < 2 || v0 < 0.0 || v1 > 180.0)
    return in.fault(fmt::format("vertical angles run from {} to {}", number_text(v0), number_text(v1)),
                    "type C has 0 to 90, 90 to 180 or 0 to 180 degrees");
  const bool known =
      (h0 == 0.0 && (h1 == 0.0 || h1 == 90.0 || h1 == 180.0 || h1 == 360.0)) || (h0 == 90.0 && h1 == 270.0);
  if (!known && d.horizontals.size() > 1)
    return in.fault(fmt::format("horizontal angles run from {} to {}", number_text(h0), number_text(h1)),
                    "type C has 0 alone, or 0 to 90, 180 or 360 degrees, or 90 to 270");
  return true;
}

}  // namespace

Expected<LightDistribution> read_ies(std::string_view text, const std::string& file) {
  if (text.size() > largest_ies)
    return fail(file, "is over 32 MB", "a measured light is far smaller: give the right file", Fault::input);
  if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3);
  Source in(text, file);
  LightDistribution d;
  CINNABAR_READ(tilt, read_head(in, d));
  CINNABAR_TRY(read_tilt(in, d, tilt));

  CINNABAR_READ(lamps, in.number("number of lamps"));
  CINNABAR_READ(per_lamp, in.number("lumens per lamp"));
  CINNABAR_READ(multiplier, in.number("candela multiplier"));
  CINNABAR_READ(verticals, in.count("number of vertical angles"));
  CINNABAR_READ(horizontals, in.count("number of horizontal angles"));
  CINNABAR_READ(type, in.number("photometric type"));
  CINNABAR_READ(units, in.number("units"));
  CINNABAR_READ(size, in.numbers(3, "size"));
  CINNABAR_READ(ballast, in.number("ballast factor"));
  CINNABAR_READ(future, in.number("field kept for the future"));
  CINNABAR_READ(watts, in.number("watts"));
  static_cast<void>(future);

  if (type == 2 || type == 3)
    return in.fault(fmt::format("is measured as type {}, on another axis", type == 2 ? "B" : "A"),
                    "ask for the same light as type C (photometric type 1)");
  if (type != 1) return in.fault("photometric type is " + number_text(type), "give 1, which is type C");
  if (units != 1 && units != 2)
    return in.fault("units is " + number_text(units), "give 1 for feet or 2 for metres");
  if (!(multiplier > 0.0)) return in.fault("candela multiplier is " + number_text(multiplier), "give over 0");
  if (!(ballast > 0.0)) return in.fault("ballast factor is " + number_text(ballast), "give over 0");
  if (static_cast<double>(verticals) * horizontals > most_values)
    return in.fault(fmt::format("asks for {} times {} values", verticals, horizontals), "a million is the most");
  const double unit = units == 1 ? metres_per_foot : 1.0;
  // Negative sizes mean round ones (LM-63-1995 and on).
  d.width = std::abs(size[0]) * unit, d.length = std::abs(size[1]) * unit, d.height = std::abs(size[2]) * unit;
  d.watts = std::max(0.0, watts);

  CINNABAR_READ(vertical_list, in.numbers(verticals, "vertical angle"));
  CINNABAR_READ(horizontal_list, in.numbers(horizontals, "horizontal angle"));
  d.verticals = std::move(vertical_list), d.horizontals = std::move(horizontal_list);
  CINNABAR_TRY(check_angles(in, d));
  CINNABAR_READ(values, in.numbers(verticals * horizontals, "candela value"));
  d.candela = std::move(values);
  for (double& v : d.candela) {
    if (v < 0.0) return in.fault("a candela value is " + number_text(v), "light is 0 or more");
    v *= multiplier * ballast;
    if (!std::isfinite(v) || v > 1e12) return in.fault("the candela are beyond any lamp", "check the multiplier");
  }
  if (d.peak() <= 0.0) return in.fault("all candela are 0", "a dark light has no distribution");
  if (per_lamp < 0.0)
    d.notes.push_back("measured as a whole, not from its lamp's lumens");
  else if (lamps > 0.0)
    d.notes.push_back(
        fmt::format("{} lamp{} of {} lm", number_text(lamps), lamps == 1 ? "" : "s", number_text(per_lamp)));
  if (in.has_more()) d.notes.push_back("there is more in the file after the last value; it was passed over");
  return d;
}

}  // namespace cinnabar
