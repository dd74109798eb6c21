#include "cinnabar/formats/shot_list.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>
#include <unordered_map>

#include "cinnabar/base/encoding.h"
#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/formats/shots_batch.h"

namespace cinnabar {
namespace {

/// A number before one of some words, with nothing else: "3.5 s", "48 frames".
std::optional<double> before_word(const std::string& phrase, std::initializer_list<const char*> words) {
  for (const char* word : words) {
    const std::string end = word;
    if (phrase.size() <= end.size() || !phrase.ends_with(end)) continue;
    const std::string number(trimmed(std::string_view(phrase).substr(0, phrase.size() - end.size())));
    if (const auto v = parse_number(number)) return v;
  }
  return std::nullopt;
}

/// Phrases of a line: parted by commas, semicolons, bars, tabs, or dashes with room round them.
std::vector<std::string> phrases_of(std::string_view line) {
  std::string text(line);
  for (const char* dash : {" - ", " \xE2\x80\x93 ", " \xE2\x80\x94 "})
    for (std::size_t at = 0; (at = text.find(dash, at)) != std::string::npos;)
      text.replace(at, std::string(dash).size(), ",");
  std::vector<std::string> out;
  std::string word;
  for (const char c : text + ",") {
    if (c != ',' && c != ';' && c != '|' && c != '\t') {
      word += c;
      continue;
    }
    if (const auto tidy = trimmed(word); !tidy.empty()) out.emplace_back(tidy);
    word.clear();
  }
  return out;
}

/// Without a bullet or a number of its own before it: "3. ", "Shot 3: ", "- ".
std::string_view without_number(std::string_view line) {
  line = trimmed(line);
  while (!line.empty() && (line.front() == '-' || line.front() == '*' || line.front() == '#'))
    line = trimmed(line.substr(1));
  std::string_view rest = line;
  if (lower(rest.substr(0, std::min<std::size_t>(5, rest.size()))) == "shot" && rest.size() > 5)
    rest = rest.substr(5);
  std::size_t digits = 0;
  while (digits < rest.size() && std::isdigit(static_cast<unsigned char>(rest[digits]))) ++digits;
  if (digits > 0 && digits < rest.size() && (rest[digits] == '.' || rest[digits] == ')' || rest[digits] == ':') &&
      (digits + 1 >= rest.size() || !std::isdigit(static_cast<unsigned char>(rest[digits + 1]))))
    return trimmed(rest.substr(digits + 1));
  return line;
}

/// Reads the phrases of one line into a shot; what is wrong with one is answered.
class Line {
 public:
  Line(ShotsBatch& batch, const Project& project) : batch_(batch), project_(project) {
    for (const JsonPtr& shot : batch.shots()) note(shot);
  }
  /// The shot is like the last one of its set-up that was put.
  void note(const JsonPtr& shot) {
    last_ = shot;
    last_of_[shot->value("setup", "")] = shot;
  }

  std::optional<std::string> read(const std::vector<std::string>& phrases) {
    std::vector<std::string> notes;
    std::string name, setup_wanted;
    std::vector<std::string> rest;
    for (const std::string& phrase : phrases) {
      const std::string low = lower(phrase);
      if (low.starts_with("set-up ") || low.starts_with("setup ")) {
        setup_wanted = std::string(trimmed(phrase.substr(phrase.find(' '))));
        if (!setup_of(setup_wanted)) return "there is no set-up \"" + setup_wanted + "\"";
      } else if (name.empty() && !understood(low)) {
        name = phrase;
      } else {
        rest.push_back(phrase);
      }
    }
    if (name.empty()) name = "Shot";
    shot_ = batch_.made(like(setup_wanted), name);
    if (!setup_wanted.empty()) shot_["setup"] = setup_of(setup_wanted)->id;
    for (const char* own : {"needs", "play", "tracks", "uses", "notes", "takes_planned", "role"}) shot_.erase(own);
    for (const std::string& phrase : rest) {
      if (auto fault = put(lower(phrase))) return fault;
      if (!understood(lower(phrase))) notes.push_back(phrase);
    }
    std::string text;
    for (const std::string& n : notes) text += (text.empty() ? "" : "; ") + n;
    if (!text.empty()) shot_["notes"] = text;
    return std::nullopt;
  }
  [[nodiscard]] const Json& shot() const { return shot_; }

 private:
  [[nodiscard]] const Setup* setup_of(const std::string& wanted) const {
    for (const auto& s : project_.setups)
      if (s->id == wanted || lower(s->name) == lower(wanted)) return s.get();
    return nullptr;
  }
  /// The last shot of that set-up, or of the list; nothing where there is none.
  [[nodiscard]] const Json* like(const std::string& wanted) const {
    if (wanted.empty()) return last_.get();
    const auto last = last_of_.find(setup_of(wanted)->id);
    return last != last_of_.end()   ? last->second.get()
           : batch_.shots().empty() ? nullptr
                                    : batch_.shots().front().get();
  }
  static bool understood(const std::string& low) {
    static const std::set<std::string> sizes{"wide", "close", "macro", "close-up", "close up", "detail"};
    return sizes.contains(low) ||
           before_word(low, {"seconds", "second", "sec", "s", "frames", "mm", "fps", "frames per second", "x slow",
                             "x slower", "times slower"}) ||
           (low.starts_with("f/") && parse_number(low.substr(2)));
  }
  std::optional<std::string> put(const std::string& low) {
    Json& camera = shot_["camera"];
    if (low == "wide" || low == "close" || low == "macro") shot_["size"] = low;
    if (low == "close-up" || low == "close up") shot_["size"] = "close";
    if (low == "detail") shot_["size"] = "macro";
    if (const auto slow = before_word(low, {"x slow", "x slower", "times slower"})) {
      if (*slow <= 0 || *slow > 1e4) return "\"" + low + "\" is no slowing";
      shot_["needs"]["slow"] = *slow;
    } else if (const auto rate = before_word(low, {"frames per second", "fps"})) {
      const CameraBody* body = by_id(project_.cameras, camera.value("camera", ""));
      const CameraMode* best = nullptr;
      for (const auto& b : project_.cameras)
        for (const CameraMode& m : b->modes)
          if ((!body || b.get() == body) && std::abs(m.rate - *rate) < 0.51 && !best) best = &m, body = b.get();
      if (!best) return fmt::format("no camera of the kit records {} a second", number_text(*rate, 5));
      camera["camera"] = body->id;
      camera["mode"] = best->id;
      camera["shutter_time"] = 0.5 / best->rate;
    } else if (const auto frames = before_word(low, {"frames"})) {
      if (*frames < 1 || *frames > 1e6) return "\"" + low + "\" is no length";
      shot_["screen_time"] = std::round(*frames / project_.timeline_rate * 1e6) / 1e6;
    } else if (const auto seconds = before_word(low, {"seconds", "second", "sec", "s"})) {
      if (*seconds <= 0 || *seconds > 86400) return "\"" + low + "\" is no length";
      shot_["screen_time"] = *seconds;
    } else if (const auto millimetres = before_word(low, {"mm"})) {
      const double focal = *millimetres / 1000;
      const LensSpec* fits = nullptr;
      for (const auto& l : project_.lenses)
        if (focal >= l->focal_low - 1e-9 && focal <= l->focal_high + 1e-9 && !fits) fits = l.get();
      if (!fits && !project_.lenses.empty())
        return fmt::format("no lens of the kit is {} mm", number_text(*millimetres, 4));
      if (focal <= 0 || focal > 10) return "\"" + low + "\" is no lens";
      camera["focal"] = focal;
      if (fits) camera["lens"] = fits->id;
      if (camera.value("focus", 1.0) <= focal)
        camera["focus"] = std::max(2 * focal, fits ? fits->close_focus : 0.0);
    } else if (low.starts_with("f/")) {
      if (const auto n = parse_number(low.substr(2))) camera["f_number"] = *n;
    }
    return std::nullopt;
  }

  ShotsBatch& batch_;
  const Project& project_;
  JsonPtr last_;
  std::unordered_map<std::string, JsonPtr> last_of_;  // by set-up
  Json shot_;
};

}  // namespace

Expected<ShotsRead> shots_from_words(const Document& document, std::string_view bytes) {
  if (bytes.size() > (std::size_t{1} << 20))
    return fail("the list", "is longer than a megabyte", "paste the shots only", Fault::input);
  const auto decoded = decoded_text(bytes, "the list");
  if (!decoded) return tl::unexpected(decoded.error());
  const std::string_view text = decoded->text;
  ShotsRead out;
  out.note = decoded->note;
  const Project project = project_without_log(document);
  ShotsBatch batch(document);
  Line reading(batch, project);
  std::size_t number = 0;
  for (std::size_t from = 0; from <= text.size();) {
    std::size_t to = text.find('\n', from);
    if (to == std::string_view::npos) to = text.size();
    const std::string_view line = trimmed(text.substr(from, to - from));
    from = to + 1;
    ++number;
    if (line.empty()) continue;
    const auto refuse = [&](const std::string& why) {
      out.faults.push_back(fmt::format("line {}: {}", number, why));
    };
    if (std::binary_search(decoded->bad_lines.begin(), decoded->bad_lines.end(), number)) {
      refuse("its letters are in no encoding that can be told; save the list as UTF-8");
      continue;
    }
    if (line.size() > 2000) {
      refuse("is too long for one shot; break it up");
      continue;
    }
    const auto phrases = phrases_of(without_number(line));
    if (phrases.empty()) {
      refuse("says nothing");
      continue;
    }
    if (batch.shots().size() >= 100000) {
      refuse("is one shot too many");
      break;
    }
    if (const auto fault = reading.read(phrases)) {
      refuse(*fault);
      continue;
    }
    if (const auto fault = batch.put(reading.shot()))
      refuse(fault->message + "; " + fault->mend);
    else
      reading.note(batch.shots().back());
  }
  out.added = batch.added;
  out.edit =
      edit_between(document, batch.document(), counted(out.added, "{} shot from a list", "{} shots from a list"));
  return out;
}

}  // namespace cinnabar
