// Sentences in another language. The core writes plain English; who shows it may hand in a translator, and every
// pattern that goes through `said` is looked up there before its numbers are put in.
#pragma once
#include <fmt/format.h>

#include <functional>
#include <string>

namespace cinnabar {

/// Answers an English text with another language's, or with nothing where it knows none.
using Translator = std::function<std::string(const char* english)>;

/// Takes the place of the translator before it; an empty one goes back to English. Before other threads start.
void set_translator(Translator translator);

/// The text in the present language.
[[nodiscard]] std::string in_words(const char* english);

/// `english` in the present language with the arguments put in, which keep their order by number where a
/// translation needs another ("{1} of {0}"). A translation whose places do not fit is passed over.
template <class... Arguments>
[[nodiscard]] std::string said(fmt::format_string<Arguments...> english, Arguments&&... arguments) {
  const fmt::string_view plain = english;
  const std::string pattern(plain.data(), plain.size()), put = in_words(pattern.c_str());
  if (put != pattern) {
    try {
      return fmt::vformat(put, fmt::make_format_args(arguments...));
    } catch (const fmt::format_error&) {  // the plain text below says the same
    }
  }
  return fmt::vformat(plain, fmt::make_format_args(arguments...));
}

/// A sentence with a number first, in one of two patterns: "{} shot", "{} shots".
template <class Count>
[[nodiscard]] std::string counted(Count count, const char* one, const char* many) {
  return fmt::vformat(in_words(count == Count{1} ? one : many), fmt::make_format_args(count));
}

}  // namespace cinnabar
