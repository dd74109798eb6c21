#include "cinnabar/base/words.h"

namespace cinnabar {
namespace {
Translator& present() {
  static Translator translator;
  return translator;
}
}  // namespace

void set_translator(Translator translator) { present() = std::move(translator); }

std::string in_words(const char* english) {
  if (!present()) return english;
  std::string other = present()(english);
  return other.empty() ? english : other;
}

}  // namespace cinnabar
