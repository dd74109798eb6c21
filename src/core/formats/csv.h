// Comma-separated values (RFC 4180): tables out, tables in.
#pragma once
#include <string>
#include <string_view>
#include <vector>

#include "cinnabar/base/result.h"

namespace cinnabar {

using CsvRow = std::vector<std::string>;

/// Rows as RFC 4180 has them: fields with commas, quotes or line ends in quotes, rows ended by CR LF.
[[nodiscard]] std::string csv_written(const std::vector<CsvRow>& rows);

/// A row as it was read, with the line it began on (from 1).
struct CsvLine {
  std::size_t line;
  CsvRow fields;
};
/// Reads commas or semicolons (whichever the first line has more of), quoted fields, any line ends, a byte order
/// mark. Empty lines are passed over. Fails on a quote that is never closed, naming its line, and beyond a million
/// fields.
[[nodiscard]] Expected<std::vector<CsvLine>> csv_read(std::string_view text, const std::string& file);

}  // namespace cinnabar
