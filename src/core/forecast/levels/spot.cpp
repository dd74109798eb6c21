// Levels of the whole spot.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levels/judgements.h"
#include "cinnabar/forecast/levels/moods.h"

namespace cinnabar {

std::optional<Level> spot_length(const SpotContext& c, const LevelStart& start) {
  const Project& p = c.project;
  if (!p.allowed_time) return std::nullopt;
  const double rate = p.timeline_rate, over = (p.screen_time() - *p.allowed_time) * rate;
  Level level = start({-0.5 * rate, 0.0});
  level.value = std::abs(over) < 1e-6 ? 0.0 : over;
  level.state = state_of(*level.value, level.band, true);  // to the frame: nothing leans
  level.formula = said("({} s - {} s) x {} = {} frames", fixed_text(p.screen_time(), 3),
                       fixed_text(*p.allowed_time, 3), number_text(rate, 6), signed_text(*level.value, 1));
  const double frames = std::abs(*level.value);
  level.sentence = frames < 0.05 ? std::string("The spot fills its slot to the frame.")
                                 : said("The spot is {} frames ({} s) {} its slot.", fixed_text(frames, 1),
                                        fixed_text(frames / rate, 2), over > 0 ? "over" : "under");
  return level;
}

namespace {

std::string listed(const std::vector<std::string>& things) {
  std::string words;
  for (const std::string& t : things) words += (words.empty() ? "" : ", ") + t;
  return words;
}

}  // namespace

/// Hero, detail, action and an ending with words: by what shots say they are, else by what they show.
std::optional<Level> spot_shape(const SpotContext& c, const LevelStart& start) {
  const Project& p = c.project;
  if (p.shots.empty()) return std::nullopt;
  Level level = start();
  const auto any = [&](ShotRole role, auto shows) {
    return std::any_of(p.shots.begin(), p.shots.end(),
                       [&](const auto& s) { return s->role == role || (!s->role && shows(*s)); });
  };
  const bool words = std::any_of(p.deliverables.begin(), p.deliverables.end(),
                                 [](const Deliverable& d) { return d.words && d.words->last_seconds > 0.0; });
  std::vector<std::string> missing;
  if (!any(ShotRole::hero, [](const Shot& s) { return s.size != ShotSize::macro && !s.products.empty(); }))
    missing.push_back(said("a hero shot"));
  if (!any(ShotRole::detail, [](const Shot& s) { return s.size == ShotSize::macro; }))
    missing.push_back(said("a detail"));
  if (!any(ShotRole::action, [](const Shot& s) {
        const KeyedTrack* table = s.track(Tracked::turntable);
        return (table && table->keys.size() > 1) || s.slow.value_or(1.0) >= 2.0;
      }))
    missing.push_back(said("something that happens"));
  if (!any(ShotRole::ending, [&](const Shot& s) { return words && p.shots.back().get() == &s; }))
    missing.push_back(said("an ending with words"));
  level.value = static_cast<double>(missing.size());
  level.state = state_of(*level.value, level.band, true);
  level.formula = said("{} of 4 parts there", 4 - missing.size());
  level.sentence = missing.empty() ? said("Hero, detail, action and ending are all there.")
                                   : said("Missing: {}.", listed(missing));
  return level;
}

namespace {

/// Cuts inside the spot that lie on a beat, to the frame.
struct Cuts {
  int all = 0, on = 0;
};
Cuts cuts_of(const Project& p) {
  const double beat = 60.0 / *p.beats_per_minute, frame = 1.0 / p.timeline_rate;
  Cuts cuts;
  for (std::size_t i = 1; i < p.shots.size(); ++i) {
    const double off = std::abs(std::remainder(p.starts_at(i), beat));
    ++cuts.all;
    cuts.on += off <= 0.5 * frame + 1e-9 ? 1 : 0;
  }
  return cuts;
}

}  // namespace

std::optional<Level> spot_beats(const SpotContext& c, const LevelStart& start) {
  const Project& p = c.project;
  const Mood* mood = mood_named(p.mood);
  const bool by_mood = !p.cuts_on_beats && mood && mood->cuts_on_beats;
  const auto wanted = by_mood ? mood->cuts_on_beats : p.cuts_on_beats;
  if (!p.beats_per_minute || !wanted || p.shots.size() < 2) return std::nullopt;
  Level level = start({*wanted, {}}, by_mood ? "mood " + p.mood + ", common practice, no source; to the frame"
                                             : std::string("the share that the brief asks; to the frame"));
  const Cuts cuts = cuts_of(p);
  level.value = static_cast<double>(cuts.on) / cuts.all;
  level.state = state_of(*level.value, level.band);
  level.formula = said("{} of {} cuts within half a frame of a beat at {} a minute = {}", cuts.on, cuts.all,
                       number_text(*p.beats_per_minute, 5), number_text(*level.value, 3));
  level.sentence = said("{} of {} cuts lie on beats.", cuts.on, cuts.all);
  return level;
}

std::optional<Level> spot_features(const SpotContext& c, const LevelStart& start) {
  const Project& p = c.project;
  if (!c.seeing) return std::nullopt;
  int all = 0;
  std::vector<std::string> missing;
  for (const auto& product : p.products)
    for (const Feature& f : product->features) {
      ++all;
      const std::string name = product->id + "/" + f.id;
      // The shots that promise it; where none does, any that shows the product.
      const bool promised = std::any_of(p.shots.begin(), p.shots.end(), [&](const auto& s) {
        return std::find(s->features.begin(), s->features.end(), name) != s->features.end();
      });
      bool well = false;
      for (std::size_t i = 0; i < p.shots.size() && !well; ++i) {
        const auto& listed_here = p.shots[i]->features;
        if (promised && std::find(listed_here.begin(), listed_here.end(), name) == listed_here.end()) continue;
        const auto seen = c.seeing(i, *product, f);
        well = seen && seen->seen() && seen->px >= least_px(f);
      }
      if (!well) missing.push_back(f.name.empty() ? f.id : f.name);
    }
  if (all == 0) return std::nullopt;
  Level level = start();
  level.value = static_cast<double>(missing.size());
  level.state = state_of(*level.value, level.band, true);
  level.formula = said("{} of {} features seen well", all - static_cast<int>(missing.size()), all);
  level.sentence = missing.empty() ? said("Every promised feature is seen well in some shot.")
                                   : said("No shot shows well: {}.", listed(missing));
  return level;
}

}  // namespace cinnabar
