// Comma-separated values (RFC 4180): tables out, tables in.
#pragma once
#include <string>
#include <string_view>
#include <vector>

#include "cinnabar/base/result.h"

namespace cinnabar {

using CsvRow = std::vector<std::string>;

/// Rows as RFC 4180 has them: fields with commas, quotes or line ends in quotes, rows ended by CR LF. A field that
/// a spreadsheet would run (it begins with = + - @, a tab or a line's end, and is no number) gets an apostrophe
/// before it; csv_read takes it off again.
[[nodiscard]] std::string csv_written(const std::vector<CsvRow>& rows);

/// A row as it was read, with the line it began on (from 1).
struct CsvLine {
  std::size_t line;
  CsvRow fields;
  bool unreadable = false;  ///< some of its letters are in no encoding that can be told
};
/// Reads commas or semicolons (whichever the first line has more of), quoted fields, any line ends, in the
/// encodings of base/encoding.h; `note` is told which one was taken for granted. Empty lines are passed over.
/// Fails on a quote that is never closed, naming its line, and beyond four million fields.
[[nodiscard]] Expected<std::vector<CsvLine>> csv_read(std::string_view bytes, const std::string& file,
                                                      std::string* note = nullptr);
/// What is said of an unreadable row.
[[nodiscard]] std::string unreadable_row(const CsvLine& row);

}  // namespace cinnabar
