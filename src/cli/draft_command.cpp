// draft: a new project with a drafted spot.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/files.h"
#include "cinnabar/base/text.h"
#include "cinnabar/cli/commands.h"
#include "cinnabar/forecast/drafts/draft.h"
#include "cinnabar/forecast/levels/moods.h"
#include "cinnabar/project/making/new_spot.h"
#include "cinnabar/project/making/starter_kits.h"
#include "cinnabar/project/model/names.h"
#include "cinnabar/project/store/store.h"

namespace cinnabar {

using Out = nlohmann::ordered_json;

namespace {

Expected<std::optional<double>> length_given(const char* option, const std::string& text) {
  if (text.empty()) return std::optional<double>();
  const auto value = parse_length(text, Units::metric);
  if (!value) return fail(option, "\"" + text + "\" is no length", "give metres, or with a unit: 104mm");
  return std::optional<double>(*value);
}
Expected<std::optional<double>> number_given(const char* option, const std::string& text) {
  if (text.empty()) return std::optional<double>();
  const auto value = parse_number(text);
  if (!value || !std::isfinite(*value)) return fail(option, "\"" + text + "\" is no number", "give a number");
  return std::optional<double>(*value);
}

/// A starter kit by its id or its name, whatever its letters' size.
Expected<std::string> kit_given(const std::string& text) {
  const auto plain = [](std::string s) {
    std::transform(s.begin(), s.end(), s.begin(),
                   [](unsigned char c) { return c == '-' ? ' ' : static_cast<char>(std::tolower(c)); });
    return s;
  };
  std::string known;
  for (const StarterKit& k : starter_kits()) {
    std::string id = k.id;
    if (plain(text) == plain(id) || plain(text) == plain(k.name)) return k.id;
    known += (known.empty() ? "" : ", ") + id;
  }
  return fail("--kit", "\"" + text + "\" is no starter kit", "give one of " + known);
}

Expected<SpotInHand> in_hand(const DraftArguments& a) {
  SpotInHand hand;
  hand.kind = a.product;
  const auto height = length_given("--height", a.height), width = length_given("--width", a.width);
  const auto length = number_given("--length", a.length), tempo = number_given("--tempo", a.tempo),
             letters = length_given("--letters", a.letters);
  for (const auto* given : {&height, &width, &length, &tempo, &letters})
    if (!*given) return tl::unexpected(given->error());
  hand.height = *height, hand.width = *width, hand.tempo = *tempo;
  hand.length = length->value_or(20.0);
  hand.rate = a.rate.empty() ? "24" : a.rate;
  const ProductKind* kind = product_kind(a.product);
  hand.name = a.name.empty() ? (kind ? kind->name : std::string("Product")) + " spot" : a.name;
  if (*letters) hand.seen.emplace_back("the name", **letters);
  if (!a.mood.empty() && !mood_named(a.mood)) {
    std::string known;
    for (const Mood& m : moods()) known += (known.empty() ? "" : ", ") + m.word;
    return fail("--mood", "\"" + a.mood + "\" is no mood", "give one of " + known);
  }
  hand.mood = a.mood;
  auto kit = kit_given(a.kit.empty() ? "three-lights" : a.kit);
  if (!kit) return tl::unexpected(kit.error());
  hand.kits = {*kit};
  if (!a.deliverable.empty()) {
    hand.shapes.clear();
    std::string one;
    for (const char c : a.deliverable + ",") {
      if (c != ',') {
        one += c;
      } else if (!one.empty()) {
        hand.shapes.push_back(one), one.clear();
      }
    }
  }
  return hand;
}

/// Made beside its name, and only then put there.
Expected<void> written_new(const std::string& out, const Document& document) {
  auto beside = FileBeside::at(out);
  if (!beside) return tl::unexpected(beside.error());
  std::error_code ignored;
  std::filesystem::remove(beside->beside(), ignored);
  if (const auto store = Store::create(beside->beside(), document); !store) return tl::unexpected(store.error());
  return beside->keep_new();
}

}  // namespace

int draft_command(const Answer& answer, const DraftArguments& a) {
  if (std::filesystem::exists(a.out))
    return answer.refuse(Error{a.out, "exists already", "choose another name, or remove it first", Fault::output});
  const auto hand = in_hand(a);
  if (!hand) return answer.refuse(hand.error());
  const auto seed = a.seed.empty() ? std::optional<double>(1.0) : parse_number(a.seed);
  if (!seed || *seed < 0 || *seed > 4e9 || *seed != std::floor(*seed))
    return answer.refuse(Error{"--seed", "\"" + a.seed + "\" is no whole number", "give 0 to 4000000000"});
  const auto begun = spot_in_hand(*hand);
  if (!begun) return answer.refuse(begun.error());
  const Forecaster forecaster;
  const auto draft = drafted(forecaster, *begun, {.seed = static_cast<unsigned>(*seed)});
  if (!draft) return answer.refuse(draft.error());
  if (const auto written = written_new(a.out, draft->document); !written) return answer.refuse(written.error());

  ProjectReader reader;
  const Project project = reader.read(draft->document);
  const DraftNeeds needs = draft_needs(project);
  Out shots = Out::array();
  for (std::size_t i = 0; i < draft->shots.size(); ++i) {
    const DraftShot& s = draft->shots[i];
    const Tally t = tally(s.levels);
    const Shot& shot = *project.shots[i];
    shots.push_back({{"number", i + 1},
                     {"name", shot.name},
                     {"move", s.move},
                     {"part", name_of(s.part)},
                     {"screen_time", shot.screen_time},
                     {"level", t.level},
                     {"leaning", t.leaning},
                     {"out", t.out}});
    answer.say(fmt::format("{:2}  {:<30} {:<7} {:>6} s   {} level, {} leaning, {} out", i + 1, shot.name,
                           name_of(s.part), fixed_text(shot.screen_time, 2), t.level, t.leaning, t.out));
  }
  answer.say(fmt::format("About {} min with {} takes on {} set-ups; {} people.", std::lround(needs.minutes),
                         needs.takes, needs.set_ups, needs.hands));
  for (const std::string& line : needs.short_of) answer.say("Short of: " + line);
  answer.say("Written to " + a.out);
  answer.give({{"written", a.out},
               {"shots", shots},
               {"short", needs.short_of},
               {"minutes", std::round(needs.minutes * 10) / 10}});
  return 0;
}

}  // namespace cinnabar
