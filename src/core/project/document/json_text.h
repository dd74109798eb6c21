// JSON as text, in and out: one depth for all readers, and nothing that cannot be written again.
#pragma once
#include <string>
#include <string_view>

#include "cinnabar/project/document/document.h"

namespace cinnabar {

/// Lists and objects within one another, at most; a project's own go 12 deep. What is deeper is refused wherever
/// JSON comes in, since it is walked by functions that call themselves.
inline constexpr int deepest_json = 100;

/// How deep a JSON text nests, without reading it; 0 for a plain value.
[[nodiscard]] int depth_of(std::string_view text);
/// How deep a value nests.
[[nodiscard]] int depth_of(const Json& value);

/// JSON text to a value: UTF-8 (RFC 8259), or UTF-16 with its mark. The error names line, column and what was met.
[[nodiscard]] Expected<Json> parse_json(std::string_view text, const std::string& file);
/// The same where no person wrote the text; nothing where it is no JSON.
[[nodiscard]] std::optional<Json> parsed_json(std::string_view text);

/// JSON text of a value; bytes that are no UTF-8 are shown as U+FFFD instead of failing.
[[nodiscard]] std::string json_text(const Json& value, int indent = -1);

/// A pointer to a member of what another points to, its name escaped (RFC 6901).
[[nodiscard]] inline std::string pointer_to(const std::string& pointer, const std::string& member) {
  return pointer + (Json::json_pointer() / member).to_string();
}

}  // namespace cinnabar
