#include "cinnabar/formats/gel_curve.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/formats/csv.h"

namespace cinnabar {

Expected<std::vector<PassedAt>> read_gel_curve(std::string_view bytes, const std::string& file) {
  const auto rows = csv_read(bytes, file);
  if (!rows) return tl::unexpected(rows.error());
  std::vector<PassedAt> curve;
  bool per_cent = false;
  for (const CsvLine& row : *rows) {
    const std::string place = fmt::format("{} line {}", file, row.line);
    if (row.fields.size() < 2) return fail(place, "has no two columns", "give wavelength and share", Fault::input);
    std::string share(trimmed(row.fields[1]));
    const bool sign = !share.empty() && share.back() == '%';
    if (sign) share.pop_back();
    const auto nm = parse_number(trimmed(row.fields[0])), value = parse_number(trimmed(share));
    if (!nm && !value && curve.empty() && row.line == rows->front().line) continue;  // its headings
    if (!nm || *nm < 300.0 || *nm > 900.0)
      return fail(place, "has no wavelength", "give nanometres from 300 to 900", Fault::input);
    if (!value || *value < 0.0 || *value > 100.0)
      return fail(place, "has no share that is let through", "give 0 to 1, or 0 to 100 %", Fault::input);
    if (curve.size() >= 2000)
      return fail(place, "is more than can be taken", "give 2000 rows at most", Fault::input);
    per_cent = per_cent || sign || *value > 1.0;
    curve.push_back({*nm, *value});
  }
  if (curve.size() < 2)
    return fail(file, "has too few wavelengths", "give two or more rows of wavelength and share", Fault::input);
  std::sort(curve.begin(), curve.end(), [](const PassedAt& a, const PassedAt& b) { return a.nm < b.nm; });
  for (std::size_t i = 0; i < curve.size(); ++i) {
    if (i > 0 && curve[i].nm == curve[i - 1].nm)
      return fail(file, fmt::format("has {} nm twice", number_text(curve[i].nm, 6)), "leave one out",
                  Fault::input);
    if (per_cent) curve[i].share /= 100.0;
  }
  return curve;
}

}  // namespace cinnabar
