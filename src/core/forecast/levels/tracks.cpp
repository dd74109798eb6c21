// Levels of the tracks: the label's turn, the limits of what carries, juddering moves and the seam of a loop.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <functional>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levels/judgements.h"
#include "cinnabar/forecast/levels/moods.h"
#include "cinnabar/forecast/levels/runs.h"

namespace cinnabar {

namespace {
/// How many degrees the first labelled product's label is turned from a bearing, at a set time; nothing without a
/// label.
std::function<double(double)> label_off(const ShotContext& c, double bearing_deg) {
  for (const ShotProduct& placed : c.shot.products)
    if (const Product* p = by_id(c.project.products, placed.product); p && p->label)
      return [&c, &placed, p, bearing_deg](double t) {
        const double turn = product_at(c.project, c.shot, placed, t).turn_deg;
        return std::abs(std::remainder(p->label->bearing_deg + turn - bearing_deg, 360.0));
      };
  return {};
}
}  // namespace

std::optional<FacingRun> facing_run(const ShotContext& c) {
  if (!c.shot.facing) return std::nullopt;
  const auto off_at = label_off(c, c.shot.facing->bearing_deg);
  if (!off_at) return std::nullopt;
  const auto off = [&](double screen) { return off_at(c.shot.clock.set_at(screen)); };
  const double at = c.shot.facing->at, whole = c.shot.screen_time;
  FacingRun run{at, at, off(std::clamp(at, 0.0, whole))};
  if (at < 0.0 || at > whole || run.off_deg > facing_within_deg) return run;
  // From the moment asked outward in fine steps, then the edge by halving.
  const double step = std::max(whole / 4000.0, 1e-5);
  const auto edge = [&](double direction, double end) {
    double good = at;
    for (;;) {
      const double next = direction > 0 ? std::min(end, good + step) : std::max(end, good - step);
      if (off(next) > facing_within_deg) {
        double bad = next;
        for (int k = 0; k < 40; ++k) {
          const double middle = 0.5 * (good + bad);
          (off(middle) > facing_within_deg ? bad : good) = middle;
        }
        return good;
      }
      if (next == end) return end;
      good = next;
    }
  };
  run.from = edge(-1.0, 0.0);
  run.to = edge(1.0, whole);
  return run;
}

std::optional<Level> motion_facing(const ShotContext& c, const LevelStart& start) {
  const auto run = facing_run(c);
  if (!run) return std::nullopt;
  const FacingNeed& need = *c.shot.facing;
  Level level = start({need.lasting, {}});
  const double lasts = run->to - run->from;
  settle(level, {lasts, c.shot.clock.set_at(std::clamp(need.at, 0.0, c.shot.screen_time))});
  const std::string asked = said("{} s are asked at {} s", number_text(need.lasting, 3), number_text(need.at, 3));
  if (lasts > 0.0) {
    level.formula =
        said("run within 20 degrees of {} degrees: {} s - {} s = {} s on screen", number_text(need.bearing_deg, 3),
             fixed_text(run->to, 2), fixed_text(run->from, 2), fixed_text(lasts, 2));
    level.sentence = said("The label can be read for {} s; {}.", fixed_text(lasts, 2), asked);
  } else {
    level.formula = said("at {} s the label is {} degrees off {} degrees, over 20: 0 s", number_text(need.at, 3),
                         number_text(run->off_deg, 3), number_text(need.bearing_deg, 3));
    level.sentence =
        said("The label is turned {} degrees away when it must be read; {}.", number_text(run->off_deg, 3), asked);
  }
  return level;
}

std::optional<PeakRun> peak_run(const ShotContext& c) {
  const KeyedTrack *dimmer = c.shot.track("light." + c.shot.peak_light + ".dimmer"),
                   *turn = c.shot.track("light." + c.shot.peak_light + ".turn");
  if (c.shot.peak_light.empty() || !c.shot.facing || !c.setup || (!dimmer && !turn)) return std::nullopt;
  const auto light = std::find_if(c.setup->lights.begin(), c.setup->lights.end(),
                                  [&](const Light& l) { return l.id == c.shot.peak_light; });
  const auto off = label_off(c, c.shot.facing->bearing_deg);
  if (light == c.setup->lights.end() || !off) return std::nullopt;
  // What an upright patch that faces the bearing asked gets of it: its distance stays, so the dimmer and the
  // cosine.
  const auto strength = [&](double t) {
    const Vec3 at = light_at(*light, c.shot, t).place;
    const double cosine = std::cos(std::atan2(at.x, at.z) - radians(c.shot.facing->bearing_deg));
    return (dimmer ? dimmer->at(t) : 1.0) * (turn ? std::max(0.0, cosine) : 1.0);
  };
  constexpr int steps = 2000;
  double most = 0.0;
  for (int k = 0; k <= steps; ++k) most = std::max(most, strength(c.end * k / steps));
  if (most <= 0.0) return PeakRun{0.0, 0.0, 0.0, 180.0};
  std::optional<PeakRun> run;
  for (int k = 0; k <= steps; ++k) {
    const double t = c.end * k / steps;
    if (strength(t) < most * (1.0 - 1e-6)) continue;
    const double turned_away = off(t);
    if (!run) run = PeakRun{t, t, t, turned_away};
    run->to = t;
    if (turned_away < run->off_deg) run->at = t, run->off_deg = turned_away;
  }
  return run;
}

std::optional<Level> motion_peak(const ShotContext& c, const LevelStart& start) {
  const auto run = peak_run(c);
  if (!run) return std::nullopt;
  Level level = start();
  const double percent = run->off_deg / 3.6;
  settle(level, {percent, run->at});
  level.formula =
      said("at its brightest, {} s, the label is {} degrees off {} degrees: {} / 360 = {} %",
           number_text(run->at, 3), number_text(run->off_deg, 3), number_text(c.shot.facing->bearing_deg, 3),
           number_text(run->off_deg, 3), number_text(percent, 3));
  level.sentence = percent < 0.05 ? said("The light is brightest as the label faces.")
                                  : said("When the light is brightest the label is {} % of a turn away.",
                                         number_text(percent, 3));
  return level;
}

std::optional<Level> motion_judder(const ShotContext& c, const LevelStart& start) {
  const Mood* mood = mood_named(c.project.mood);
  const double factor = mood ? mood->judder_factor : 1.0, seconds_wide = 7.0 * factor;
  const double least = seconds_wide * 24.0 / c.project.timeline_rate;
  Level level = start({least, {}},
                      "7 s per frame width at 24 per second, American Cinematographer Manual (value from memory)" +
                          (factor != 1.0 ? said("; times {} for a {} mood, common practice, no source",
                                                number_text(factor, 3), mood->word)
                                         : std::string()));
  constexpr int steps = 200;
  double fastest = 0.0, at = 0.0;
  for (int k = 0; k < steps; ++k) {
    const double a = c.shot.screen_time * k / steps, dt = c.shot.screen_time / steps;
    const double ta = c.shot.clock.set_at(a), tb = c.shot.clock.set_at(a + dt);
    const CameraPose before = c.pose(ta), after = c.pose(tb);
    // What stands still on the axis at the set focus, seen a moment later.
    const auto image = image_of(after, before.place + before.frame.ahead * before.focus);
    if (!image) continue;
    const double widths_per_second = std::hypot(image->x, image->y) / c.optics.sensor_width / dt;
    if (widths_per_second > fastest) fastest = widths_per_second, at = 0.5 * (ta + tb);
  }
  if (fastest < 1e-4) return std::nullopt;  // the picture stands: over two hours a width
  const double seconds = 1.0 / fastest;
  settle(level, {seconds, at});
  level.formula = said("1 / ({} frame widths a second) = {} s; least {} x 24 / {} = {} s", number_text(fastest, 3),
                       number_text(seconds, 3), number_text(seconds_wide, 3),
                       number_text(c.project.timeline_rate, 6), number_text(least, 3));
  level.sentence = said("At its fastest the picture takes {} s to cross the frame.", number_text(seconds, 3));
  return level;
}

namespace {

struct Demand {
  double percent, set_time;
  std::string words;
};

/// Peak speed and acceleration over a track's keys inside the shot, by the profile's closed forms.
void demands_of(const KeyedTrack& track, double end, const char* what, double per, const char* unit,
                std::optional<double> fastest, std::optional<double> hardest, std::vector<Demand>& out) {
  const char* shapes[] = {"linear", "trapezoid-1-3", "minimum-jerk"};
  for (std::size_t i = 0; i + 1 < track.keys.size(); ++i) {
    const auto [t0, v0] = track.keys[i];
    const auto [t1, v1] = track.keys[i + 1];
    if (t0 >= end || t1 <= 0.0 || v0 == v1) continue;
    const auto peak = profile({std::abs(v1 - v0), t1 - t0, shapes[static_cast<int>(track.shape)]});
    if (!peak) continue;
    const double middle = 0.5 * (t0 + t1);
    if (fastest)
      out.push_back({100.0 * peak->peak_speed / per / *fastest, middle,
                     said("{} speed {} / {} {}", what, number_text(peak->peak_speed / per, 3),
                          number_text(*fastest, 3), unit)});
    if (hardest && peak->peak_acceleration)
      out.push_back({100.0 * *peak->peak_acceleration / *hardest, t0,
                     said("{} acceleration {} / {} m/s2", what, number_text(*peak->peak_acceleration, 3),
                          number_text(*hardest, 3))});
  }
}

const Support* support_of(const ShotContext& c, const std::string& kind) {
  for (const ShotProduct& placed : c.shot.products)
    if (const Support* s = by_id(c.project.supports, placed.on); s && s->kind == kind) return s;
  for (const auto& s : c.project.supports)
    if (s->kind == kind && s->holding.owned) return s.get();
  return nullptr;
}

}  // namespace

std::optional<Level> motion_reach(const ShotContext& c, const LevelStart& start) {
  const KeyedTrack *table = c.shot.track("turntable"), *slide = c.shot.track("camera.slide");
  const auto moves = [](const KeyedTrack* t) { return t && t->keys.size() > 1; };
  if (!moves(table) && !moves(slide)) return std::nullopt;
  Level level = start();
  std::vector<Demand> demands;
  std::string missing;
  if (moves(table)) {
    const Support* s = support_of(c, "turntable");
    if (!s || !s->rpm_high) {
      missing = "the turntable's speeds are not in the kit";
    } else {
      const std::size_t first = demands.size();
      demands_of(*table, c.end, "turntable", 6.0, "rpm", s->rpm_high, {}, demands);
      double peak = 0.0;
      for (std::size_t i = first; i < demands.size(); ++i)
        peak = std::max(peak, demands[i].percent / 100 * *s->rpm_high);
      if (s->rpm_low && peak > 0.0)
        demands.push_back(
            {100.0 * *s->rpm_low / peak, 0.0,
             said("turntable's slowest {} / {} rpm", number_text(*s->rpm_low, 3), number_text(peak, 3))});
    }
  }
  if (moves(slide)) {
    const Support* s = support_of(c, "slider");
    if (!s || (!s->travel && !s->speed && !s->acceleration)) {
      missing = "the slider's travel and speed are not in the kit";
    } else {
      const auto [low, high] =
          std::minmax_element(slide->keys.begin(), slide->keys.end(),
                              [](const auto& a, const auto& b) { return a.second < b.second; });
      if (s->travel)
        demands.push_back({100.0 * (high->second - low->second) / *s->travel, high->first,
                           said("slider travel {} / {} m", number_text(high->second - low->second, 3),
                                number_text(*s->travel, 3))});
      demands_of(*slide, c.end, "slider", 1.0, "m/s", s->speed, s->acceleration, demands);
    }
  }
  if (demands.empty()) return missing.empty() ? std::nullopt : std::optional(unknown(level, missing));
  const auto worst = std::max_element(demands.begin(), demands.end(),
                                      [](const Demand& a, const Demand& b) { return a.percent < b.percent; });
  settle(level, {worst->percent, worst->set_time});
  level.formula = fmt::format("{} = {} %", worst->words, number_text(worst->percent, 3));
  level.sentence = worst->percent <= 100.0 ? said("The hardest demand is {} % of what is there: {}.",
                                                  number_text(worst->percent, 3), worst->words)
                                           : said("It asks for more than there is: {}.", worst->words);
  if (!missing.empty()) level.sentence += " Besides, " + missing + ".";
  return level;
}

std::optional<Level> motion_loop(const ShotContext& c, const LevelStart& start) {
  const KeyedTrack* table = c.shot.track("turntable");
  if (!table || table->keys.size() < 2 || !c.shot.camera || c.shot.loops == false) return std::nullopt;
  const double turn = table->at(c.end) - table->at(0.0), seam = std::remainder(turn, 360.0);
  if (!c.shot.loops && (std::abs(turn) < 350.0 || std::abs(seam) > 10.0)) return std::nullopt;
  Level level = start();
  // One timeline frame's turn where the ends meet.
  const double frame = 1.0 / c.project.timeline_rate, screen = c.shot.screen_time;
  const auto angle = [&](double s) { return table->at(c.shot.clock.set_at(s)); };
  double per_frame =
      0.5 * (std::abs(angle(frame) - angle(0.0)) + std::abs(angle(screen) - angle(std::max(0.0, screen - frame))));
  const double mean = std::abs(turn) / std::max(1.0, screen * c.project.timeline_rate);
  if (per_frame < 0.1 * mean) per_frame = mean;  // it comes to rest there: a frame's turn in the mean
  if (per_frame <= 0.0) return unknown(level, "the turntable does not turn");
  const double frames = std::abs(seam) / per_frame;
  settle(level, {frames, c.end});
  level.formula =
      said("|{} degrees turned, {} from whole turns| / {} degrees a frame = {} frames", number_text(turn, 5),
           number_text(seam, 3), number_text(per_frame, 3), number_text(frames, 3));
  level.sentence = frames <= 0.05 ? std::string("The last frame runs into the first without a jump.")
                                  : said("Where it loops the product jumps by {} frames.", number_text(frames, 2));
  return level;
}

}  // namespace cinnabar
