#include "cinnabar/base/encoding.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cstdint>
#include <optional>

namespace cinnabar {
namespace {

constexpr char32_t replacement = 0xFFFD;

unsigned byte_at(std::string_view text, std::size_t at) { return static_cast<unsigned char>(text[at]); }

/// Length of the well-formed sequence that begins at `at`; 0 where there is none (Unicode 15, table 3-7).
std::size_t sequence_at(std::string_view text, std::size_t at) {
  const unsigned first = byte_at(text, at);
  if (first < 0x80) return 1;
  const std::size_t length = first >= 0xC2 && first <= 0xDF   ? 2
                             : first >= 0xE0 && first <= 0xEF ? 3
                             : first >= 0xF0 && first <= 0xF4 ? 4
                                                              : 0;
  if (length == 0 || at + length > text.size()) return 0;
  const unsigned second = byte_at(text, at + 1);
  const unsigned low = first == 0xE0   ? 0xA0
                       : first == 0xF0 ? 0x90
                                       : 0x80,
                 high = first == 0xED   ? 0x9F
                        : first == 0xF4 ? 0x8F
                                        : 0xBF;
  if (second < low || second > high) return 0;
  for (std::size_t k = 2; k < length; ++k)
    if ((byte_at(text, at + k) & 0xC0u) != 0x80u) return 0;
  return length;
}

void append(std::string& out, char32_t c) {
  const auto put = [&out](char32_t v) { out += static_cast<char>(static_cast<unsigned char>(v)); };
  if (c < 0x80) {
    put(c);
  } else if (c < 0x800) {
    put(0xC0 | (c >> 6)), put(0x80 | (c & 0x3F));
  } else if (c < 0x10000) {
    put(0xE0 | (c >> 12)), put(0x80 | ((c >> 6) & 0x3F)), put(0x80 | (c & 0x3F));
  } else {
    put(0xF0 | (c >> 18)), put(0x80 | ((c >> 12) & 0x3F)), put(0x80 | ((c >> 6) & 0x3F)), put(0x80 | (c & 0x3F));
  }
}

std::size_t line_of(std::string_view text, std::size_t at) {
  return 1 +
         static_cast<std::size_t>(std::count(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(at), '\n'));
}

/// UTF-16 to UTF-8 (RFC 2781); surrogates that stand alone are told by their line.
DecodedText from_utf16(std::string_view bytes, bool big_endian) {
  DecodedText out;
  std::size_t line = 1;
  const auto unit = [&](std::size_t at) {
    const char32_t a = byte_at(bytes, at), b = byte_at(bytes, at + 1);
    return big_endian ? (a << 8) | b : (b << 8) | a;
  };
  const auto bad = [&] {
    append(out.text, replacement);
    if (out.bad_lines.empty() || out.bad_lines.back() != line) out.bad_lines.push_back(line);
  };
  for (std::size_t at = 0; at + 1 < bytes.size(); at += 2) {
    char32_t c = unit(at);
    if (c >= 0xD800 && c <= 0xDBFF && at + 3 < bytes.size() && unit(at + 2) >= 0xDC00 && unit(at + 2) <= 0xDFFF) {
      c = 0x10000 + ((c - 0xD800) << 10) + (unit(at + 2) - 0xDC00);
      at += 2;
    }
    if (c >= 0xD800 && c <= 0xDFFF)
      bad();
    else if (c != 0xFEFF || at > 0)
      append(out.text, c);
    line += c == U'\n' ? 1 : 0;
  }
  if (bytes.size() % 2 != 0) bad();  // half a letter is left over
  out.note = "read as UTF-16";
  return out;
}

/// windows-1252's letters from 0x80 to 0x9F; 0 where it has none (IANA character sets).
constexpr std::array<char16_t, 32> windows_letters{0x20AC, 0,      0x201A, 0x0192, 0x201E, 0x2026, 0x2020, 0x2021,
                                                   0x02C6, 0x2030, 0x0160, 0x2039, 0x0152, 0,      0x017D, 0,
                                                   0,      0x2018, 0x2019, 0x201C, 0x201D, 0x2022, 0x2013, 0x2014,
                                                   0x02DC, 0x2122, 0x0161, 0x203A, 0x0153, 0,      0x017E, 0x0178};

DecodedText from_windows(std::string_view bytes) {
  DecodedText out;
  for (std::size_t at = 0; at < bytes.size(); ++at) {
    const unsigned c = byte_at(bytes, at);
    append(out.text, c >= 0x80 && c < 0xA0 ? windows_letters[c - 0x80] : static_cast<char32_t>(c));
  }
  out.note = "read as windows-1252";
  return out;
}
bool all_windows_letters(std::string_view bytes) {
  return std::all_of(bytes.begin(), bytes.end(), [](char c) {
    const unsigned b = static_cast<unsigned char>(c);
    return b < 0x80 || b >= 0xA0 || windows_letters[b - 0x80] != 0;
  });
}

/// Which half of every pair of bytes is zero, where that holds for nine pairs in ten: 0 first, 1 second.
std::optional<int> zero_half(std::string_view bytes) {
  if (bytes.size() < 8 || bytes.size() % 2 != 0) return std::nullopt;
  std::array<std::size_t, 2> zeros{};
  for (std::size_t at = 0; at < bytes.size(); ++at)
    if (bytes[at] == '\0') ++zeros[at % 2];
  const std::size_t most = bytes.size() / 2 * 9 / 10;
  if (zeros[1] > most && zeros[0] == 0) return 1;
  if (zeros[0] > most && zeros[1] == 0) return 0;
  return std::nullopt;
}

}  // namespace

std::size_t utf8_length(std::string_view text) {
  std::size_t at = 0;
  while (at < text.size()) {
    const std::size_t length = sequence_at(text, at);
    if (length == 0) break;
    at += length;
  }
  return at;
}

std::string clipped(std::string_view text, std::size_t bytes) {
  if (text.size() <= bytes) return std::string(text);
  std::size_t end = bytes > 3 ? bytes - 3 : 0;
  while (end > 0 && (byte_at(text, end) & 0xC0u) == 0x80u) --end;
  return std::string(text.substr(0, end)) + "...";
}

std::string made_utf8(std::string_view text) {
  std::string out;
  out.reserve(text.size());
  for (std::size_t at = 0; at < text.size();) {
    const std::size_t length = sequence_at(text, at);
    if (length == 0)
      append(out, replacement);
    else
      out += text.substr(at, length);
    at += std::max<std::size_t>(1, length);
  }
  return out;
}

Expected<DecodedText> decoded_text(std::string_view bytes, const std::string& file) {
  if (bytes.starts_with("\xFF\xFE") || bytes.starts_with("\xFE\xFF"))
    return from_utf16(bytes, bytes.front() == '\xFE');
  if (bytes.starts_with("\xEF\xBB\xBF")) bytes.remove_prefix(3);
  if (const auto half = zero_half(bytes)) return from_utf16(bytes, *half == 0);
  if (const auto zero = bytes.find('\0'); zero != std::string_view::npos)
    return fail(file, fmt::format("line {} holds zero bytes, which no text has", line_of(bytes, zero)),
                "save it again as UTF-8 text", Fault::input);
  bool speaks_utf8 = false;
  std::vector<std::size_t> bad_lines;
  std::size_t line = 1;
  for (std::size_t at = 0; at < bytes.size();) {
    const std::size_t length = sequence_at(bytes, at);
    speaks_utf8 = speaks_utf8 || length > 1;
    if (length == 0 && (bad_lines.empty() || bad_lines.back() != line)) bad_lines.push_back(line);
    line += bytes[at] == '\n' ? 1 : 0;
    at += std::max<std::size_t>(1, length);
  }
  if (bad_lines.empty()) return DecodedText{std::string(bytes), {}, {}};
  if (!speaks_utf8 && all_windows_letters(bytes)) return from_windows(bytes);
  if (line == bad_lines.size())
    return fail(file, fmt::format("line {} is in no encoding that can be told", bad_lines.front()),
                "save it again as UTF-8 text", Fault::input);
  return DecodedText{made_utf8(bytes), "read as UTF-8", std::move(bad_lines)};
}

}  // namespace cinnabar
