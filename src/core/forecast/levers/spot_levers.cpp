// What would bring a level of the whole spot home: other lengths of its shots.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levers/spot_levers.h"
#include "cinnabar/project/checks/validation.h"

namespace cinnabar {
namespace {

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

Forecaster::Levers spot_beats_levers(const Forecaster&, const Document& document, const Project& project,
                                     const Level& own, const std::atomic<bool>*) {
  Forecaster::Levers out;
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
      if (l.id == own.id && l.state == State::level && validate(*next, edit).empty())
        out.list.push_back({.title = title,
                            .edit = edit,
                            .after = *l.value,
                            .state_after = l.state,
                            .price = said("no time; {} shots change their length", lengths.size())});
  }
  if (out.list.empty()) out.why = said("beats lie too far apart for these shots");
  return out;
}

Forecaster::Levers spot_length_levers(const Forecaster& forecaster, const Document& document,
                                      const Project& project, const Level& own, const std::atomic<bool>* cancel) {
  Forecaster::Levers out;
  ProjectReader reader;
  const double rate = project.timeline_rate, frames = std::ceil(std::abs(*own.value) - 1e-6);
  const double change = (*own.value > 0 ? -frames : frames) / rate;
  const auto offer = [&](const std::vector<std::pair<std::size_t, double>>& lengths, const std::string& title) {
    const auto next = with_lengths(document, lengths);
    if (!next) return;
    const Edit edit = edit_between(document, *next, title);
    if (edit.changes.empty() || !validate(*next, edit).empty()) return;
    const Project changed = reader.read(*next);
    const auto after = spot_levels(changed);
    const auto now = std::find_if(after.begin(), after.end(), [&](const Level& l) { return l.id == own.id; });
    if (now == after.end() || now->state != State::level) return;
    Lever lever{.title = title, .edit = edit, .after = *now->value, .state_after = now->state};
    std::string effects;
    for (const auto& [shot, seconds] : lengths) {
      const std::string told = told_effects(forecaster.levels(project, shot, {}, cancel),
                                            forecaster.levels(changed, shot, {}, cancel), own.id, lever.harm);
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
