#include "cinnabar/formats/csv.h"

#include <fmt/format.h>

#include <algorithm>

#include "cinnabar/base/encoding.h"
#include "cinnabar/base/text.h"

namespace cinnabar {

namespace {

constexpr std::size_t most_fields = 4000000;

bool is_run(char c) { return c == '=' || c == '+' || c == '-' || c == '@' || c == '\t' || c == '\r'; }
/// Would be run by a spreadsheet, or would lose its apostrophe when it is read back.
bool wants_apostrophe(const std::string& field) {
  if (field.empty()) return false;
  const auto told = field.find_first_not_of('\'');
  return told != std::string::npos && is_run(field[told]) && (told > 0 || !parse_number(field));
}
bool has_apostrophe(const std::string& field) {
  return field.size() > 1 && field[0] == '\'' && wants_apostrophe(field);
}

}  // namespace

std::string csv_written(const std::vector<CsvRow>& rows) {
  std::string out;
  for (const CsvRow& row : rows) {
    for (std::size_t i = 0; i < row.size(); ++i) {
      if (i) out += ',';
      const bool quoted = row[i].find_first_of(",\"\r\n;") != std::string::npos;
      if (quoted) out += '"';
      if (wants_apostrophe(row[i])) out += '\'';
      for (const char c : row[i]) {
        if (c == '"') out += '"';
        out += c;
      }
      if (quoted) out += '"';
    }
    out += "\r\n";
  }
  return out;
}

std::string unreadable_row(const CsvLine& row) {
  return fmt::format("line {}: its letters are in no encoding that can be told; save the table as UTF-8",
                     row.line);
}

Expected<std::vector<CsvLine>> csv_read(std::string_view bytes, const std::string& file, std::string* note) {
  const auto decoded = decoded_text(bytes, file);
  if (!decoded) return tl::unexpected(decoded.error());
  if (note) *note = decoded->note;
  const std::string_view text = decoded->text;
  const auto& bad = decoded->bad_lines;
  const std::string_view first = text.substr(0, text.find_first_of("\r\n"));
  const char separator =
      std::count(first.begin(), first.end(), ';') > std::count(first.begin(), first.end(), ',') ? ';' : ',';
  std::vector<CsvLine> rows;
  CsvLine row{1, {}};
  const auto too_many = [&] {
    return fail(file, fmt::format("has more than {} fields", most_fields), "split it", Fault::input);
  };
  std::string field;
  bool quoted = false, was_quoted = false;
  std::size_t line = 1, quote_line = 0, fields = 0;
  const auto end_field = [&] {
    if (has_apostrophe(field)) field.erase(0, 1);
    row.fields.push_back(std::move(field));
    field.clear();
    was_quoted = false;
    return ++fields <= most_fields;
  };
  const auto end_row = [&] {
    if (row.fields.empty() && field.empty() && !was_quoted) return true;
    if (!end_field()) return false;
    const auto from = std::lower_bound(bad.begin(), bad.end(), row.line);
    row.unreadable = from != bad.end() && *from <= line;
    rows.push_back(std::move(row));
    row = {line, {}};
    return true;
  };
  for (std::size_t i = 0; i < text.size(); ++i) {
    const char c = text[i];
    const bool line_ends = c == '\n';
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
    } else {
      field += c;
    }
    line += line_ends ? 1 : 0;
    if (row.fields.empty() && field.empty() && !was_quoted) row.line = line;
    if (!good) return too_many();
  }
  if (quoted)
    return fail(file, fmt::format("line {}: a quote is opened and never closed", quote_line),
                "close it, or double it", Fault::input);
  if (!end_row()) return too_many();
  return rows;
}

}  // namespace cinnabar
