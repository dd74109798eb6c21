// Levels of the whole spot, and what would bring them home.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/forecast.h"
#include "cinnabar/project/validation.h"

namespace cinnabar {
namespace {

std::optional<Level> spot_length(const Project& p) {
  if (!p.allowed_time) return std::nullopt;
  const double rate = p.timeline_rate, over = (p.screen_time() - *p.allowed_time) * rate;
  Level level{.id = "spot.length",
              .title = "Length of the spot",
              .unit = "frames",
              .band = {-0.5 * rate, 0.0},
              .source = "to the frame; half a second under at the most, common practice, no source"};
  if (const auto own = p.bands.find(level.id); own != p.bands.end()) {
    if (own->second.has_low) level.band.low = own->second.low;
    if (own->second.has_high) level.band.high = own->second.high;
    level.source += "; the band is this project's own" +
                    (own->second.reason.empty() ? std::string() : ": " + own->second.reason);
  }
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
  static const std::vector<std::string> ids{"spot.length"};
  return ids;
}

std::vector<Level> spot_levels(const Project& project) {
  std::vector<Level> list;
  if (auto level = spot_length(project)) list.push_back(std::move(*level));
  return list;
}

Forecaster::Levers Forecaster::spot_levers(const Document& document, const std::string& id,
                                           const std::atomic<bool>* cancel) const {
  Levers out;
  ProjectReader reader;
  const Project project = reader.read(document);
  const auto own = spot_levels(project);
  const auto level = std::find_if(own.begin(), own.end(), [&](const Level& l) { return l.id == id; });
  if (level == own.end()) return out;
  if (level->state == State::level) {
    out.why = "it is level";
    return out;
  }
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
