#include "cinnabar/planning/effect_steps.h"

#include <algorithm>
#include <map>
#include <set>

#include "cinnabar/base/words.h"

namespace cinnabar {
namespace {

constexpr double camera_runs_before = 2.0;  // s

/// What a helper does when an effect of a kind is let go.
std::string let_go_words(const std::string& kind) {
  static const std::map<std::string, const char*> words{
      {"pour", "tilt and pour"},   {"splash", "let it fall"},      {"drop", "let the drop fall"},
      {"throw", "throw"},          {"pieces", "strew the pieces"}, {"swing", "let the arm go"},
      {"spin", "pull the string"}, {"powder", "throw the powder"}, {"blow", "press the duster"},
      {"burst", "prick it"}};
  const auto found = words.find(kind);
  return found == words.end() ? std::string() : in_words(found->second);
}

/// Once for a peril: what is done before and after.
struct OfPeril {
  Peril peril;
  const char *before, *after;
};
constexpr OfPeril of_perils[]{
    {Peril::wet_floor, "sheet and towels under and round the table", "wipe table, product and floor dry"},
    {Peril::water_by_mains, "lamps out of splash range, plugs off the floor", ""},
    {Peril::glass, "eye protection on", "sweep for splinters before anyone walks there"},
    {Peril::strings, "nobody in line with what is stretched", "count slings and strings back in"},
    {Peril::blades, "count blades and needles out", "count blades and needles back in"},
    {Peril::propellant, "no flame and no hot lamp near the can", "let the air clear"},
    {Peril::powder, "masks on, lens and lamps covered, no flame near",
     "let it settle, wipe lens and lamps when they are cold, take it up damp"},
    {Peril::fog, "say so where there is a smoke alarm", "air the room"},
    {Peril::heat, "lid on until the take, a second person by", "lid on, let it cool"},
    {Peril::food, "", "bin what was glued, oiled or sprayed"}};

/// Cues of layers: each is cut in its own time.
void cut_layers(const Effect& effect, const EffectOutcome& outcome, std::vector<EffectCue>& cues) {
  std::vector<std::pair<double, int>> cuts;
  for (int layer = 1;; ++layer) {
    const auto at = outcome.number("release_" + std::to_string(layer));
    if (!at) break;
    cuts.emplace_back(effect.at + *at, layer);
  }
  std::ranges::sort(cuts);
  for (std::size_t k = 0; k < cuts.size(); ++k)
    cues.push_back({cuts[k].first, static_cast<int>(k) % std::max(1, effect.hands) + 1,
                    said("cut layer {}, from the bottom", cuts[k].second)});
}

}  // namespace

EffectSteps steps_of(const Effect& effect, const EffectOutcome& outcome) {
  EffectSteps steps;
  std::set<Peril> told;
  for (const Peril peril : outcome.perils) {
    if (!told.insert(peril).second) continue;
    for (const OfPeril& one : of_perils) {
      if (one.peril != peril) continue;
      if (*one.before) steps.before.push_back(in_words(one.before));
      if (*one.after) steps.after.push_back(in_words(one.after));
    }
  }
  if (effect.supply) steps.before.push_back(said("the liquid measured out, {:.0f} ml", *effect.supply * 1e6));
  if (!outcome.plates.empty())
    steps.before.push_back(said("camera, focus, exposure and white locked for {} plates", outcome.plates.size()));
  if (outcome.life)
    steps.before.push_back(said("ready at the last moment: it stays good for {:.0f} s", *outcome.life));

  if (const std::string word = let_go_words(effect.kind); !word.empty()) {
    steps.cues.push_back({effect.at - camera_runs_before, 0, said("camera runs, count in")});
    steps.cues.push_back({effect.at, 1, word});
  } else if (effect.kind == "layers") {
    steps.cues.push_back({effect.at - camera_runs_before, 0, said("camera runs, count in")});
    cut_layers(effect, outcome, steps.cues);
  } else {
    steps.cues.push_back({effect.at, 0, said("it is ready, camera runs")});
  }
  if (const EffectEvent* closes = outcome.event("closes"))
    steps.cues.push_back({closes->at, 1, effect.kind == "pour" ? said("upright again") : said("let go of it")});
  if (const EffectEvent* main = outcome.main_event())
    steps.cues.push_back({main->at, 0, said("it happens: {}", in_words(main->name.c_str()))});
  if (const EffectEvent* settles = outcome.event("settles"))
    steps.cues.push_back({settles->at, 0, said("all lies: hold, then cut")});
  std::ranges::stable_sort(steps.cues, {}, &EffectCue::at);

  if (outcome.into) steps.after.push_back(said("fill the vessel back to its level"));
  if (effect.kind == "pieces") steps.after.push_back(said("gather all pieces and count them"));
  if (effect.kind == "mist" || effect.kind == "splash" || effect.kind == "drop")
    steps.after.push_back(said("dry and polish the glass"));
  if (effect.reset_minutes > 0.0) steps.after.push_back(said("{:g} min to the next take", effect.reset_minutes));
  return steps;
}

}  // namespace cinnabar
