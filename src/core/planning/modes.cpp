#include "cinnabar/planning/modes.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/motion/clocks.h"

namespace cinnabar {
namespace {

constexpr double lack_costs = 100.0, change_costs = 1.0 / 3.0;  // stops

/// Written at the mode's rate, in stops over a hundred megabits: only so that of two that serve the smaller is
/// taken.
double writing_costs(const CameraMode& mode) { return 1e-3 * std::log2(1.0 + mode.megabits_per_s / 100.0); }

int changes_of(const std::vector<std::optional<std::size_t>>& taken) {
  int out = 0;
  std::optional<std::size_t> before;
  for (const auto& row : taken) {
    if (!row) continue;
    out += before && *before != *row;
    before = row;
  }
  return out;
}

}  // namespace

std::string slowing_text(double capture_rate, double timeline_rate) {
  const Slowing s = exact_slowing(capture_rate, timeline_rate);
  const std::string plain = s.shown == s.taken ? said("as quick as it was")
                                               : said("{} s on screen for {} s of the set", s.shown, s.taken);
  return s.conformed ? said("{}, conformed by a thousandth", plain) : plain;
}

std::string mode_text(const CameraMode& mode) {
  return said("{} x {} at {}", mode.width, mode.height, number_text(mode.rate, 6));
}

std::optional<double> looks_like(const Project& project, const Shot& shot, const ModeRow& row) {
  if (!shot.camera) return std::nullopt;
  const CameraBody* own = by_id(project.cameras, shot.camera->camera);
  const double whole = own ? own->sensor_width : row.body->sensor_width;
  return shot.camera->focal * row.mode->crop * whole / row.body->sensor_width;
}

ModeFit mode_fit(const Project& project, const Shot& shot, const CameraMode& mode) {
  ModeFit fit;
  const auto want = [&](bool met, const std::string& what) {
    ++fit.asked;
    if (!met) fit.lacks.push_back(what);
  };
  const double rate = shot.slow ? *shot.slow * project.timeline_rate : project.timeline_rate;
  want(reaches_rate(mode.rate, rate),
       said("{} frames a second, {} needed", number_text(mode.rate, 6), number_text(rate, 6)));
  if (!project.deliverables.empty()) {
    int width = 0, height = 0;
    for (const Deliverable& d : project.deliverables)
      if (d.width >= d.height || width == 0) width = std::max(width, d.width), height = std::max(height, d.height);
    // An upright deliverable is cut from the recording: its room is frame.crop-room's matter.
    const bool fits = mode.width >= width || mode.height >= height;
    want(fits, said("{} x {} pixels for {} x {}", mode.width, mode.height, width, height));
  }
  if (project.rule<FocusRule>(shot) == FocusRule::autofocus_locked) want(mode.autofocus, said("autofocus"));
  return fit;
}

ModeTable mode_table(const Project& project) {
  ModeTable out;
  const auto used = [&](const CameraBody& body) {
    return std::any_of(project.shots.begin(), project.shots.end(),
                       [&](const auto& shot) { return shot->camera && shot->camera->camera == body.id; });
  };
  // Where a shot plays slowest every screen frame wants one that was recorded.
  std::vector<double> shown;
  for (const auto& shot : project.shots) {
    const double slowest = shot->clock.speed_span(0.0, std::max(0.0, shot->set_time())).second;
    shown.push_back(slowest > 0.0 ? project.timeline_rate / slowest : 0.0);
  }
  for (const auto& body : project.cameras) {
    if (!body->holding.owned && !used(*body)) continue;
    for (const CameraMode& mode : body->modes) {
      const Slowing slowing = exact_slowing(mode.rate, project.timeline_rate);
      ModeRow row{body,
                  &mode,
                  std::min(1.0, static_cast<double>(slowing.taken) / static_cast<double>(slowing.shown)),
                  std::max(0.0, std::log2(mode.rate / project.timeline_rate)),
                  {}};
      for (std::size_t s = 0; s < project.shots.size(); ++s) {
        ModeFit fit = mode_fit(project, *project.shots[s], mode);
        ++fit.asked;
        if (!reaches_rate(mode.rate, shown[s]))
          fit.lacks.push_back(said("{} frames a second where it plays slowest, it gives {}",
                                   number_text(shown[s], 6), number_text(mode.rate, 6)));
        row.fits.push_back(std::move(fit));
      }
      out.rows.push_back(std::move(row));
    }
  }
  const std::size_t shots = project.shots.size(), choices = out.rows.size();
  out.used.resize(shots);
  out.best.resize(shots);
  for (std::size_t i = 0; i < shots; ++i) {
    const auto& camera = project.shots[i]->camera;
    for (std::size_t r = 0; camera && r < choices; ++r)
      if (out.rows[r].body->id == camera->camera && out.rows[r].mode->id == camera->mode) out.used[i] = r;
  }
  if (choices > 0 && shots > 0) {
    const auto own = [&](std::size_t shot, std::size_t row) {
      const ModeRow& r = out.rows[row];
      return lack_costs * static_cast<double>(r.fits[shot].lacks.size()) + r.light_stops + writing_costs(*r.mode);
    };
    // The least that the shots up to one cost when it takes a row, and which row the one before then had.
    std::vector<std::vector<std::size_t>> from(shots, std::vector<std::size_t>(choices, 0));
    std::vector<double> least(choices);
    for (std::size_t r = 0; r < choices; ++r) least[r] = own(0, r);
    for (std::size_t i = 1; i < shots; ++i) {
      const auto cheapest = static_cast<std::size_t>(std::min_element(least.begin(), least.end()) - least.begin());
      std::vector<double> now(choices);
      for (std::size_t r = 0; r < choices; ++r) {
        const bool stays = least[r] <= least[cheapest] + change_costs;
        from[i][r] = stays ? r : cheapest;
        now[r] = own(i, r) + (stays ? least[r] : least[cheapest] + change_costs);
      }
      least = std::move(now);
    }
    auto at = static_cast<std::size_t>(std::min_element(least.begin(), least.end()) - least.begin());
    for (std::size_t i = shots; i-- > 0; at = from[i][at]) out.best[i] = at;
  }
  out.changes = changes_of(out.used);
  out.best_changes = changes_of(out.best);
  return out;
}

}  // namespace cinnabar
