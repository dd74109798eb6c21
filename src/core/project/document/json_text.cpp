#include "cinnabar/project/document/json_text.h"

#include <fmt/format.h>

#include <algorithm>

#include "cinnabar/base/encoding.h"

namespace cinnabar {

int depth_of(std::string_view text) {
  int depth = 0, deepest = 0;
  bool in_string = false;
  for (std::size_t i = 0; i < text.size(); ++i) {
    const char c = text[i];
    if (in_string) {
      if (c == '\\') ++i;
      if (c == '"') in_string = false;
    } else if (c == '"') {
      in_string = true;
    } else if (c == '{' || c == '[') {
      deepest = std::max(deepest, ++depth);
    } else if (c == '}' || c == ']') {
      --depth;
    }
  }
  return deepest;
}

int depth_of(const Json& value) {
  std::vector<std::pair<const Json*, int>> open{{&value, 0}};
  int deepest = 0;
  while (!open.empty()) {
    const auto [json, above] = open.back();
    open.pop_back();
    if (!json->is_structured()) continue;
    deepest = std::max(deepest, above + 1);
    for (const Json& item : *json) open.emplace_back(&item, above + 1);
  }
  return deepest;
}

std::optional<Json> parsed_json(std::string_view text) {
  if (depth_of(text) > deepest_json) return std::nullopt;
  Json value = Json::parse(text, nullptr, false);
  return value.is_discarded() ? std::nullopt : std::optional(std::move(value));
}

Expected<Json> parse_json(std::string_view text, const std::string& file) {
  std::string other;  // a text that came as UTF-16
  if (text.starts_with("\xFF\xFE") || text.starts_with("\xFE\xFF")) {
    auto decoded = decoded_text(text, file);
    if (!decoded) return tl::unexpected(decoded.error());
    other = std::move(decoded->text);
    text = other;
  }
  if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3);
  if (depth_of(text) > deepest_json)
    return fail(file, fmt::format("is nested more than {} deep", deepest_json),
                "give a project as `export --to json` writes it", Fault::input);
  try {
    return Json::parse(text);
  } catch (const Json::parse_error& e) {
    const auto met = std::min(text.size(), e.byte > 0 ? e.byte - 1 : 0);
    const std::size_t legal = utf8_length(text);
    const bool letters = legal < text.size() && legal <= met && met <= legal + 4;
    const std::string_view before = text.substr(0, letters ? legal : met);
    const auto line = 1 + std::count(before.begin(), before.end(), '\n');
    const auto last = before.rfind('\n');
    const auto column = last == std::string_view::npos ? before.size() + 1 : before.size() - last;
    return fail(file,
                fmt::format("is no JSON{}: line {}, column {}", letters ? " (its letters are not UTF-8)" : "",
                            line, column),
                text.empty() ? "the file is empty"
                : letters    ? "save it again as UTF-8"
                             : "mend it there, or export it again",
                Fault::input);
  } catch (const Json::exception&) {
    return fail(file, "is no JSON that can be read (a number may be too large)", "mend it, or export it again",
                Fault::input);
  }
}

std::string json_text(const Json& value, int indent) {
  return value.dump(indent, ' ', false, Json::error_handler_t::replace);
}

}  // namespace cinnabar
