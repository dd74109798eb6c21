#include "cinnabar/forecast/asked.h"

#include <algorithm>

#include "cinnabar/base/text.h"

namespace cinnabar {

std::string listed(const std::vector<std::string>& names) {
  std::string all;
  for (const std::string& name : names) all += (all.empty() ? "" : ", ") + name;
  return all;
}

Expected<std::map<std::string, double>> read_asked(const std::string& kind, const std::vector<std::string>& words,
                                                   const std::vector<AskedNumber>& numbers,
                                                   const std::vector<std::string>& keys, const OtherKeys& other) {
  std::map<std::string, double> out;
  for (const std::string& word : words) {
    const auto equals = word.find('=');
    if (equals == std::string::npos) return fail(word, "is not key=value", "write it as key=value");
    const std::string key = word.substr(0, equals), value = word.substr(equals + 1);
    const auto known =
        std::find_if(numbers.begin(), numbers.end(), [&key](const AskedNumber& n) { return key == n.key; });
    if (known != numbers.end()) {
      const auto number = parse_number(value);
      if (!number || !known->range.contains(*number))
        return fail(kind + " " + key, "is out of range", "give " + known->range.text());
      out[key] = *number;
      continue;
    }
    const auto taken = other(key, value);
    if (!taken) return tl::unexpected(taken.error());
    if (!*taken)
      return fail(kind + " " + key, "is not a key that it takes",
                  keys.empty() ? std::string("it takes none") : "its keys are " + listed(keys));
  }
  for (const AskedNumber& n : numbers)
    if (n.needed && !out.contains(n.key))
      return fail(kind + " " + n.key, "is missing", "give " + n.key + "=..., " + n.range.text());
  return out;
}

}  // namespace cinnabar
