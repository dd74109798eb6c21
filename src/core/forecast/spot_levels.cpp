// Levels of the whole spot, and what would bring them home.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <functional>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/features.h"
#include "cinnabar/forecast/moods.h"
#include "cinnabar/project/validation.h"

namespace cinnabar {
namespace {

void own_band(Level& level, const Project& p) {
  if (const auto own = p.bands.find(level.id); own != p.bands.end()) {
    if (own->second.has_low) level.band.low = own->second.low;
    if (own->second.has_high) level.band.high = own->second.high;
    level.source += "; the band is this project's own" +
                    (own->second.reason.empty() ? std::string() : ": " + own->second.reason);
  }
}

std::optional<Level> spot_length(const Project& p) {
  if (!p.allowed_time) return std::nullopt;
  const double rate = p.timeline_rate, over = (p.screen_time() - *p.allowed_time) * rate;
  Level level{.id = "spot.length",
              .title = "Length of the spot",
              .unit = "frames",
              .band = {-0.5 * rate, 0.0},
              .source = "to the frame; half a second under at the most, common practice, no source"};
  own_band(level, p);
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

std::string listed(const std::vector<std::string>& things) {
  std::string words;
  for (const std::string& t : things) words += (words.empty() ? "" : ", ") + t;
  return words;
}

/// Hero, detail, action and an ending with words: by what shots say they are, else by what they show.
std::optional<Level> spot_shape(const Project& p) {
  if (p.shots.empty()) return std::nullopt;
  Level level{.id = "spot.shape",
              .title = "Parts of the spot",
              .unit = "things missing",
              .band = {{}, 0.0},
              .source = "hero, detail, action, an ending with words; common practice, no source"};
  own_band(level, p);
  const auto any = [&](const char* role, auto shows) {
    return std::any_of(p.shots.begin(), p.shots.end(),
                       [&](const auto& s) { return s->role == role || (s->role.empty() && shows(*s)); });
  };
  const bool words = std::any_of(p.deliverables.begin(), p.deliverables.end(),
                                 [](const Deliverable& d) { return d.words && d.words->last_seconds > 0.0; });
  std::vector<std::string> missing;
  if (!any("hero", [](const Shot& s) { return s.size != "macro" && !s.products.empty(); }))
    missing.push_back(said("a hero shot"));
  if (!any("detail", [](const Shot& s) { return s.size == "macro"; })) missing.push_back(said("a detail"));
  if (!any("action", [](const Shot& s) {
        const KeyedTrack* table = s.track("turntable");
        return (table && table->keys.size() > 1) || s.slow.value_or(1.0) >= 2.0;
      }))
    missing.push_back(said("something that happens"));
  if (!any("ending", [&](const Shot& s) { return words && p.shots.back().get() == &s; }))
    missing.push_back(said("an ending with words"));
  level.value = static_cast<double>(missing.size());
  level.state = state_of(*level.value, level.band, true);
  level.formula = said("{} of 4 parts there", 4 - missing.size());
  level.sentence = missing.empty() ? said("Hero, detail, action and ending are all there.")
                                   : said("Missing: {}.", listed(missing));
  return level;
}

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

std::optional<Level> spot_beats(const Project& p) {
  const Mood* mood = mood_named(p.mood);
  const bool by_mood = !p.cuts_on_beats && mood && mood->cuts_on_beats;
  const auto wanted = by_mood ? mood->cuts_on_beats : p.cuts_on_beats;
  if (!p.beats_per_minute || !wanted || p.shots.size() < 2) return std::nullopt;
  Level level{.id = "spot.beats",
              .title = "Cuts on beats",
              .unit = "share",
              .band = {*wanted, {}},
              .source = by_mood ? "mood " + p.mood + ", common practice, no source; to the frame"
                                : std::string("the share that the brief asks; to the frame")};
  own_band(level, p);
  const Cuts cuts = cuts_of(p);
  level.value = static_cast<double>(cuts.on) / cuts.all;
  level.state = state_of(*level.value, level.band);
  level.formula = said("{} of {} cuts within half a frame of a beat at {} a minute = {}", cuts.on, cuts.all,
                       number_text(*p.beats_per_minute, 5), number_text(*level.value, 3));
  level.sentence = said("{} of {} cuts lie on beats.", cuts.on, cuts.all);
  return level;
}

using Seeing = std::function<std::optional<FeatureSeen>(std::size_t, const Product&, const Feature&)>;

std::optional<Level> spot_features(const Project& p, const Seeing& seeing) {
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
        const auto seen = seeing(i, *product, f);
        well = seen && seen->seen() && seen->px >= least_px(f);
      }
      if (!well) missing.push_back(f.name.empty() ? f.id : f.name);
    }
  if (all == 0) return std::nullopt;
  Level level{.id = "spot.features",
              .title = "Promised features",
              .unit = "things missing",
              .band = {{}, 0.0},
              .source = "each seen well in some shot, as frame.feature has it; common practice, no source"};
  own_band(level, p);
  level.value = static_cast<double>(missing.size());
  level.state = state_of(*level.value, level.band, true);
  level.formula = said("{} of {} features seen well", all - static_cast<int>(missing.size()), all);
  level.sentence = missing.empty() ? said("Every promised feature is seen well in some shot.")
                                   : said("No shot shows well: {}.", listed(missing));
  return level;
}

/// Shots set to other lengths, each a whole number of frames where it was changed.
Expected<Document> with_lengths(const Document& document,
                                const std::vector<std::pair<std::size_t, double>>& lengths) {
  Expected<Document> next = document;
  for (const auto& [shot, seconds] : lengths) {
    next = with_value(*next, fmt::format("/shots/{}/screen_time", shot), std::round(seconds * 1e6) / 1e6);
    if (!next) return next;
  }
  return next;
}

}  // namespace

const std::vector<std::string>& spot_level_ids() {
  static const std::vector<std::string> ids{"spot.length", "spot.features", "spot.shape", "spot.beats"};
  return ids;
}

std::vector<Level> spot_levels(const Project& project) {
  std::vector<Level> list;
  for (const auto& compute : {spot_length, spot_shape, spot_beats})
    if (auto level = compute(project)) {
      for (std::string* text : {&level->title, &level->sentence, &level->source}) *text = in_words(text->c_str());
      list.push_back(std::move(*level));
    }
  return list;
}

std::vector<Level> Forecaster::spot(const Project& project, const std::string& id,
                                    const std::atomic<bool>* cancel) const {
  std::vector<Level> list = spot_levels(project);
  std::erase_if(list, [&](const Level& l) { return !id.empty() && l.id != id; });
  if (!id.empty() && id != "spot.features") return list;
  auto features = spot_features(project, [&](std::size_t shot, const Product& product, const Feature& feature) {
    const ShotContext context(project, shot, *measures_, quality_, cancel);
    return feature_seen(context, product, feature);
  });
  if (cancel && cancel->load()) return list;
  if (features) {
    const bool after_length = !list.empty() && list.front().id == "spot.length";
    list.insert(list.begin() + (after_length ? 1 : 0), std::move(*features));
  }
  return list;
}

/// Every cut that is off a beat brought to the nearest one, the spot's length kept by the last shot.
Forecaster::Levers Forecaster::beat_levers(const Document& document, const Project& project) const {
  Levers out;
  const double beat = 60.0 / *project.beats_per_minute, frame = 1.0 / project.timeline_rate;
  std::vector<std::pair<std::size_t, double>> lengths;
  double start = 0.0;  // of the shot, as moved
  for (std::size_t i = 0; i + 1 < project.shots.size(); ++i) {
    const double end = project.starts_at(i + 1);
    double to = std::round(end / beat) * beat;
    if (to - start < std::max(2 * frame, 0.25)) to = (std::floor(start / beat) + 1) * beat;
    if (std::abs(to - start - project.shots[i]->screen_time) > 1e-6) lengths.emplace_back(i, to - start);
    start = to;
  }
  const double rest = project.screen_time() - start;
  if (rest >= 2 * frame && std::abs(rest - project.shots.back()->screen_time) > 1e-6)
    lengths.emplace_back(project.shots.size() - 1, rest);
  const auto next = with_lengths(document, lengths);
  const std::string title = said("Bring every cut to its nearest beat");
  if (next && !lengths.empty()) {
    const Edit edit = edit_between(document, *next, title);
    ProjectReader reader;
    for (const Level& l : spot_levels(reader.read(*next)))
      if (l.id == "spot.beats" && l.state == State::level && validate(*next, edit).empty())
        out.list.push_back({.title = title,
                            .edit = edit,
                            .after = *l.value,
                            .state_after = l.state,
                            .price = said("no time; {} shots change their length", lengths.size())});
  }
  if (out.list.empty()) out.why = said("beats lie too far apart for these shots");
  return out;
}

Forecaster::Levers Forecaster::spot_levers(const Document& document, const std::string& id,
                                           const std::atomic<bool>* cancel) const {
  Levers out;
  ProjectReader reader;
  const Project project = reader.read(document);
  const auto own = spot(project, id, cancel);
  const auto level = std::find_if(own.begin(), own.end(), [&](const Level& l) { return l.id == id; });
  if (level == own.end()) return out;
  if (level->state == State::level) {
    out.why = "it is level";
    return out;
  }
  if (id == "spot.features" || id == "spot.shape") {
    out.why = id == "spot.features" ? said("give the feature to a shot, and bring that shot's own level home")
                                    : said("add the shot that is missing, or say of one that it is that part");
    return out;
  }
  if (id == "spot.beats") return beat_levers(document, project);
  const double rate = project.timeline_rate, frames = std::ceil(std::abs(*level->value) - 1e-6);
  const double change = (*level->value > 0 ? -frames : frames) / rate;
  const auto offer = [&](const std::vector<std::pair<std::size_t, double>>& lengths, const std::string& title) {
    const auto next = with_lengths(document, lengths);
    if (!next) return;
    const Edit edit = edit_between(document, *next, title);
    if (edit.changes.empty() || !validate(*next, edit).empty()) return;
    const Project changed = reader.read(*next);
    const auto after = spot_levels(changed);
    const auto now = std::find_if(after.begin(), after.end(), [&](const Level& l) { return l.id == id; });
    if (now == after.end() || now->state != State::level) return;
    Lever lever{.title = title, .edit = edit, .after = *now->value, .state_after = now->state};
    std::string effects;
    for (const auto& [shot, seconds] : lengths) {
      const std::string told =
          told_effects(levels(project, shot, {}, cancel), levels(changed, shot, {}, cancel), id, lever.harm);
      if (!told.empty()) effects += said("; in shot {}: {}", shot + 1, told);
    }
    lever.price = "no time" + (effects.empty() ? "; no other level changes its state" : effects);
    out.list.push_back(std::move(lever));
  };
  double whole = 0.0;
  for (const auto& s : project.shots) whole += s->screen_time;
  std::vector<std::pair<std::size_t, double>> all;
  double given = 0.0;
  for (std::size_t i = 0; i < project.shots.size(); ++i) {
    const double seconds = project.shots[i]->screen_time;
    // Every shot gives its part, rounded outward to whole frames so that the sum is enough.
    const double part =
        std::ceil(std::abs(change) * seconds / whole * rate - 1e-6) / rate * (change < 0 ? -1.0 : 1.0);
    const double left = change - given, own_part = std::abs(part) > std::abs(left) ? left : part;
    given += own_part;
    if (seconds + own_part > 2.0 / rate && own_part != 0.0) all.emplace_back(i, seconds + own_part);
  }
  const char* verb = change < 0 ? "Shorten" : "Lengthen";
  if (all.size() > 1) offer(all, said("{} every shot, {} s in all", verb, fixed_text(std::abs(change), 2)));
  for (std::size_t i = 0; i < project.shots.size(); ++i) {
    if (cancel && cancel->load()) return {};
    const double seconds = project.shots[i]->screen_time;
    if (seconds + change < std::max(0.5, seconds * 0.4) || seconds + change > seconds * 3.0) continue;
    offer({{i, seconds + change}}, said("{} shot {} from {} s to {} s", verb, i + 1, fixed_text(seconds, 2),
                                        fixed_text(seconds + change, 2)));
  }
  std::stable_sort(out.list.begin(), out.list.end(),
                   [](const Lever& a, const Lever& b) { return a.harm < b.harm; });
  if (out.list.empty()) out.why = "No shot can give that much.";
  return out;
}

}  // namespace cinnabar
