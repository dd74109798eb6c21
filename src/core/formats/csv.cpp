#include "cinnabar/formats/csv.h"

#include <fmt/format.h>

#include <algorithm>

namespace cinnabar {

std::string csv_written(const std::vector<CsvRow>& rows) {
  std::string out;
  for (const CsvRow& row : rows) {
    for (std::size_t i = 0; i < row.size(); ++i) {
      if (i) out += ',';
      if (row[i].find_first_of(",\"\r\n;") == std::string::npos) {
        out += row[i];
        continue;
      }
      out += '"';
      for (const char c : row[i]) {
        if (c == '"') out += '"';
        out += c;
      }
      out += '"';
    }
    out += "\r\n";
  }
  return out;
}

Expected<std::vector<CsvLine>> csv_read(std::string_view text, const std::string& file) {
  if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3);
  const std::string_view first = text.substr(0, text.find_first_of("\r\n"));
  const char separator =
      std::count(first.begin(), first.end(), ';') > std::count(first.begin(), first.end(), ',') ? ';' : ',';
  std::vector<CsvLine> rows;
  CsvLine row{1, {}};
  std::string field;
  bool quoted = false, was_quoted = false;
  std::size_t line = 1, quote_line = 0, fields = 0;
  const auto end_field = [&] {
    row.fields.push_back(std::move(field));
    field.clear();
    was_quoted = false;
    return ++fields <= 1000000;
  };
  const auto end_row = [&] {
    if (row.fields.empty() && field.empty() && !was_quoted) return true;
    if (!end_field()) return false;
    rows.push_back(std::move(row));
    row = {line, {}};
    return true;
  };
  for (std::size_t i = 0; i < text.size(); ++i) {
    const char c = text[i];
    if (c == '\n') ++line;
    bool good = true;
    if (quoted) {
      if (c != '"')
        field += c;
      else if (i + 1 < text.size() && text[i + 1] == '"')
        field += '"', ++i;
      else
        quoted = false;
    } else if (c == '"' && field.empty() && !was_quoted) {
      quoted = was_quoted = true;
      quote_line = line;
    } else if (c == separator) {
      good = end_field();
    } else if (c == '\n' || c == '\r') {
      good = end_row();
      row.line = line;
    } else {
      field += c;
    }
    if (!good) return fail(file, "has more than a million fields", "split it", Fault::input);
  }
  if (quoted)
    return fail(file, fmt::format("line {}: a quote is opened and never closed", quote_line),
                "close it, or double it", Fault::input);
  if (!end_row()) return fail(file, "has more than a million fields", "split it", Fault::input);
  return rows;
}

}  // namespace cinnabar
