// Bytes from outside as text: what encoding they are in, and texts cut between two letters.
#pragma once
#include <string>
#include <string_view>
#include <vector>

#include "cinnabar/base/result.h"

namespace cinnabar {

/// How many bytes from the beginning are well-formed UTF-8 (RFC 3629: no surrogates, nothing over long).
[[nodiscard]] std::size_t utf8_length(std::string_view text);
[[nodiscard]] inline bool is_utf8(std::string_view text) { return utf8_length(text) == text.size(); }

/// At most `bytes` bytes of a text, cut between two letters and ended by "..." where anything was cut.
[[nodiscard]] std::string clipped(std::string_view text, std::size_t bytes);

/// The text with every byte that is no UTF-8 shown as U+FFFD, so that it can be shown and written as JSON.
[[nodiscard]] std::string made_utf8(std::string_view text);

/// A text from outside in UTF-8, its byte order mark taken off.
struct DecodedText {
  std::string text;
  std::string note;                    ///< which encoding was taken for granted; empty for UTF-8
  std::vector<std::size_t> bad_lines;  ///< lines, from 1, that are in no encoding; their bytes show as U+FFFD
};
/// Reads UTF-8, UTF-16 with its mark (or, without one, where every other byte of plain Latin text is zero), and
/// windows-1252, which holds Latin-1, where nothing else in the text speaks for UTF-8 and every byte is a letter
/// there. Lines that fit none are told. A text with zero bytes or nothing readable is refused, naming its line.
[[nodiscard]] Expected<DecodedText> decoded_text(std::string_view bytes, const std::string& file);

}  // namespace cinnabar
