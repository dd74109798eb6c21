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
#include "cinnabar/motion/clocks.h"
#include "cinnabar/optics/lens.h"
#include "cinnabar/planning/standing.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {

namespace {
/// The first product with a label.
const ShotProduct* labelled_product(const ShotContext& c) {
  for (const ShotProduct& placed : c.shot.products)
    if (const Product* p = by_id(c.project.products, placed.product); p && p->label) return &placed;
  return nullptr;
}
/// How many degrees its label is turned from a bearing, at a set time; nothing without a label.
std::function<double(double)> label_off(const ShotContext& c, double bearing_deg) {
  const ShotProduct* placed = labelled_product(c);
  if (!placed) return {};
  const double own = by_id(c.project.products, placed->product)->label->bearing_deg;
  return [&c, placed, own, bearing_deg](double t) {
    const double turn = product_at(c.project, c.shot, *placed, t).turn_deg;
    return std::abs(std::remainder(own + turn - bearing_deg, 360.0));
  };
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

double upright_patch_gets(const Light& light, const Vec3& place, double bearing_deg) {
  const Vec3 to = light.place - place;
  const double far = std::max(1e-3, length(to));
  const Vec3 normal{std::sin(radians(bearing_deg)), 0.0, std::cos(radians(bearing_deg))};
  const bool all_round = light.shape == LightShape::bare || light.shape == LightShape::tube;
  const double from = all_round ? 1.0 : std::max(0.0, dot(unit(light.aim - light.place), to * (-1.0 / far)));
  return light.dimmer * from * std::max(0.0, dot(normal, to) / far) / (far * far);
}

std::optional<PeakRun> peak_run(const ShotContext& c) {
  const std::string& id = c.shot.peak_light;
  if (id.empty() || !c.shot.facing || !c.setup) return std::nullopt;
  const bool goes = c.shot.track(Tracked::light_turn, id) || c.shot.track(Tracked::light_place, id) ||
                    c.shot.track(Tracked::light_aim, id);
  if (!goes && !c.shot.track(Tracked::light_dimmer, id)) return std::nullopt;
  const auto light =
      std::find_if(c.setup->lights.begin(), c.setup->lights.end(), [&](const Light& l) { return l.id == id; });
  const ShotProduct* labelled = labelled_product(c);
  const auto off = label_off(c, c.shot.facing->bearing_deg);
  if (light == c.setup->lights.end() || !labelled || !off) return std::nullopt;
  const auto [low, high] = height_span(*by_id(c.project.products, labelled->product));
  const auto strength = [&, low = low, high = high](double t) {
    const Light now = light_at(*light, c.shot, t);
    if (!goes) return now.dimmer;  // wherever it stands it stays
    const Vec3 middle = product_at(c.project, c.shot, *labelled, t).world({0, 0.5 * (low + high), 0});
    return upright_patch_gets(now, middle, c.shot.facing->bearing_deg);
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

namespace {

/// Places of backdrop and surface on the lens's axis and towards the picture's corners, where they are textured
/// and not blurred over 2 % of the frame's height.
std::vector<std::pair<Vec3, std::string>> textured_points(const ShotContext& c, const CameraPose& pose) {
  std::vector<std::pair<Vec3, std::string>> points;
  if (!c.setup) return points;
  const auto take = [&](const Vec3& at, const char* name) {
    const auto blur = blur_disc({.focal = pose.focal,
                                 .f_number = c.camera.f_number,
                                 .focus = pose.focus,
                                 .distance = std::max(1e-6, pose.depth(at))});
    if (pose.depth(at) > 1e-6 && blur && blur->diameter <= 0.02 * c.optics.sensor_height)
      points.emplace_back(at, name);
  };
  const Backdrop& drop = c.setup->backdrop;
  for (const double x : {-0.4, 0.0, 0.4})
    for (const double y : {-0.4, 0.0, 0.4}) {
      const Vec3 along = pose.frame.ahead * pose.image_distance() +
                         pose.frame.right * (x * c.optics.sensor_width) +
                         pose.frame.up * (y * c.optics.sensor_height);
      if (drop.kind != BackdropKind::none && drop.material.textured && along.z < -1e-9) {
        const Vec3 at = pose.place + along * ((-drop.distance - pose.place.z) / along.z);
        if (std::abs(at.x) <= drop.width / 2 && at.y >= drop.low && at.y <= drop.low + drop.height)
          take(at, "the backdrop");
      }
      if (const auto& surface = c.setup->surface; surface && surface->material.textured && along.y < -1e-9) {
        const Vec3 at = pose.place + along * (-pose.place.y / along.y);
        if (std::abs(at.x) <= surface->width / 2 && std::abs(at.z) <= surface->depth / 2) take(at, "the surface");
      }
    }
  return points;
}

}  // namespace

std::optional<Level> motion_judder(const ShotContext& c, const LevelStart& start) {
  const Mood* mood = mood_named(c.project.mood);
  const double factor = mood ? mood->judder_factor : 1.0;
  const auto usual = judder({.travel_frame_widths = 1.0, .time = 1.0, .timeline_rate = c.project.timeline_rate});
  const double least = factor * usual->least_seconds_per_width,
               seconds_wide = least * c.project.timeline_rate / 24.0;
  Level level = start({least, {}},
                      "7 s per frame width at 24 per second, American Cinematographer Manual (value from memory)" +
                          (factor != 1.0 ? said("; times {} for a {} mood, common practice, no source",
                                                number_text(factor, 3), mood->word)
                                         : std::string()));
  constexpr int steps = 200;
  double fastest = 0.0, at = 0.0;
  std::string what;
  for (int k = 0; k < steps; ++k) {
    const double a = c.shot.screen_time * k / steps, dt = c.shot.screen_time / steps;
    const double ta = c.shot.clock.set_at(a), tb = c.shot.clock.set_at(a + dt);
    const CameraPose before = c.pose(ta), after = c.pose(tb);
    const auto cross_frame = [&](const Vec3& was, const Vec3& is, const std::string& name) {
      const auto from = image_of(before, was), to = image_of(after, is);
      if (!from || !to || std::abs(from->x) > c.optics.sensor_width / 2 ||
          std::abs(from->y) > c.optics.sensor_height / 2)
        return;
      const double widths_per_second = std::hypot(to->x - from->x, to->y - from->y) / c.optics.sensor_width / dt;
      if (widths_per_second > fastest) fastest = widths_per_second, at = 0.5 * (ta + tb), what = name;
    };
    for (const ShotProduct& placed : c.shot.products)
      if (const Product* product = by_id(c.project.products, placed.product)) {
        const auto [low, high] = height_span(*product);
        const Vec3 middle{0, (low + high) / 2, 0};
        cross_frame(product_at(c.project, c.shot, placed, ta).world(middle),
                    product_at(c.project, c.shot, placed, tb).world(middle), "the product");
      }
    for (const auto& [point, name] : textured_points(c, before)) cross_frame(point, point, name);
  }
  if (fastest < 1e-4) return std::nullopt;  // the picture stands: over two hours a width
  const double seconds = 1.0 / fastest;
  settle(level, {seconds, at});
  level.formula = said("1 / ({} frame widths a second) = {} s; least {} x 24 / {} = {} s", number_text(fastest, 3),
                       number_text(seconds, 3), number_text(seconds_wide, 3),
                       number_text(c.project.timeline_rate, 6), number_text(least, 3));
  level.sentence = said("At its fastest {} takes {} s to cross the frame.", what, number_text(seconds, 3));
  return level;
}

namespace {

struct Demand {
  double percent, set_time;
  std::string words;
};

/// What is asked of one axis of a support: its track, and what it is told in.
struct Axis {
  const KeyedTrack* track;
  const char* what;
  double per;  ///< of the track's unit to the speed's
  const char* speed_unit;
  const char* acceleration_unit;
  std::optional<double> fastest, hardest;  ///< the ratings, as told
};

/// A linear track's speed between the keys about `t`, just after it, or just before; 0 outside, and at rest's
/// profiles. Of a place, with its direction; else along x.
Vec3 speed_beside(const KeyedTrack& track, double t, bool after) {
  if (track.shape != Shape::linear) return {};
  for (std::size_t i = 0; i + 1 < track.keys.size(); ++i) {
    const double t0 = track.keys[i].first, t1 = track.keys[i + 1].first;
    if (after ? t0 > t || t >= t1 : t0 >= t || t > t1) continue;
    const Vec3 way = track.places.empty() ? Vec3{track.keys[i + 1].second - track.keys[i].second, 0, 0}
                                          : track.places[i + 1] - track.places[i];
    return way / (t1 - t0);
  }
  return {};
}

/// Peak speed and acceleration over a track's keys inside the shot, by the profile's closed forms; a speed that
/// jumps inside it is an endless acceleration.
void demands_of(const Axis& axis, double end, std::vector<Demand>& out) {
  const KeyedTrack& track = *axis.track;
  for (std::size_t i = 0; i + 1 < track.keys.size(); ++i) {
    const auto [t0, v0] = track.keys[i];
    const auto [t1, v1] = track.keys[i + 1];
    if (t0 >= end || t1 <= 0.0 || v0 == v1) continue;
    const ShapePeaks peaks = shape_peaks(track.shape, track.ramp);
    const double mean = std::abs(v1 - v0) / (t1 - t0), fastest = peaks.speed * mean;
    if (axis.fastest)
      out.push_back({100.0 * fastest / axis.per / *axis.fastest, 0.5 * (t0 + t1),
                     said("{} speed {} / {} {}", axis.what, number_text(fastest / axis.per, 3),
                          number_text(*axis.fastest, 3), axis.speed_unit)});
    if (axis.hardest && peaks.acceleration) {
      const double hardest = *peaks.acceleration * mean / (t1 - t0);
      out.push_back({100.0 * hardest / *axis.hardest, t0,
                     said("{} acceleration {} / {} {}", axis.what, number_text(hardest, 3),
                          number_text(*axis.hardest, 3), axis.acceleration_unit)});
    }
  }
  for (const auto& key : track.keys) {
    if (key.first <= 1e-6 * end || key.first >= end * (1 - 1e-6)) continue;  // at the ends there may be a run-up
    const Vec3 in = speed_beside(track, key.first, false), on = speed_beside(track, key.first, true);
    if (length(on - in) <= 1e-9) continue;
    // Of a place, how fast it goes whichever way.
    const double before = track.places.empty() ? in.x : length(in),
                 after = track.places.empty() ? on.x : length(on);
    if (std::abs(after - before) <= 1e-9 * (before + after)) {
      out.push_back({1000.0, key.first,
                     said("{} turns a corner at {} {} at {} s, an endless acceleration", axis.what,
                          number_text(before / axis.per, 3), axis.speed_unit, number_text(key.first, 3))});
      continue;
    }
    out.push_back({1000.0, key.first,
                   said("{} speed jumps from {} to {} {} at {} s, an endless acceleration", axis.what,
                        number_text(before / axis.per, 3), number_text(after / axis.per, 3), axis.speed_unit,
                        number_text(key.first, 3))});
  }
}

/// Way that a linear track needs to come to speed before the shot and to rest after it, v^2 / 2a at either end.
double run_ups(const KeyedTrack& track, double end, double acceleration) {
  const double first = length(speed_beside(track, 0.0, true)), last = length(speed_beside(track, end, false));
  return (first * first + last * last) / (2.0 * acceleration);
}

const Support* support_of(const ShotContext& c, SupportKind kind) {
  for (const ShotProduct& placed : c.shot.products)
    if (const Support* s = by_id(c.project.supports, placed.on); s && s->kind == kind) return s;
  if (const Support* s = by_id(c.project.supports, c.camera.on); s && s->kind == kind) return s;
  for (const auto& s : c.project.supports)
    if (s->kind == kind && s->holding.owned) return s.get();
  return nullptr;
}

}  // namespace

namespace {

/// The axes that a shot moves, and what their supports are not said to do.
struct Reached {
  std::vector<Demand> demands;
  std::string missing, run_up;
};

void turntable_demands(const ShotContext& c, const KeyedTrack& track, Reached& out) {
  const Support* s = support_of(c, SupportKind::turntable);
  if (!s || !s->rpm_high) out.missing = "the turntable's speeds are not in the kit";
  std::vector<Demand> own;
  demands_of({&track, "turntable", 6.0, "rpm", "degrees/s2", s ? s->rpm_high : std::nullopt,
              s ? s->acceleration : std::nullopt},
             c.end, own);
  double peak = 0.0;
  for (std::size_t i = 0; i + 1 < track.keys.size(); ++i) {
    const auto [t0, v0] = track.keys[i];
    const auto [t1, v1] = track.keys[i + 1];
    if (t0 < c.end && t1 > 0.0 && v0 != v1) peak = std::max(peak, std::abs(v1 - v0) / (t1 - t0) / 6.0);
  }
  if (s && s->rpm_low && peak > 0.0)
    own.push_back({100.0 * *s->rpm_low / peak, 0.0,
                   said("turntable's slowest {} / {} rpm", number_text(*s->rpm_low, 3), number_text(peak, 3))});
  out.demands.insert(out.demands.end(), own.begin(), own.end());
  if (!s || !s->torque || *s->torque <= 0.0) return;
  double torque = 0.0;
  for (const Standing& one : standing_on_turntable(c.project, c.shot)) torque += one.torque;
  if (torque > 0.0)
    out.demands.push_back(
        {100.0 * torque / *s->torque, 0.0,
         said("turntable torque {} / {} N m", number_text(torque, 3), number_text(*s->torque, 3))});
}

/// Camera and lens together, where both are weighed.
std::optional<double> camera_mass(const ShotContext& c) {
  const CameraBody* body = by_id(c.project.cameras, c.camera.camera);
  const LensSpec* lens = by_id(c.project.lenses, c.camera.lens);
  if (!body || !body->mass) return std::nullopt;
  return *body->mass + (lens ? lens->mass.value_or(0.0) : 0.0);
}

void load_demand(const ShotContext& c, const Support& s, const char* what, Reached& out) {
  const auto mass = camera_mass(c);
  if (!mass || !s.load || *s.load <= 0.0) return;
  out.demands.push_back({100.0 * *mass / *s.load, 0.0,
                         said("{} load {} / {} kg", what, number_text(*mass, 3), number_text(*s.load, 3))});
}

void slider_demands(const ShotContext& c, const KeyedTrack& track, Reached& out) {
  const Support* s = support_of(c, SupportKind::slider);
  if (!s || (!s->travel && !s->speed && !s->acceleration))
    out.missing = "the slider's travel and speed are not in the kit";
  demands_of(
      {&track, "slider", 1.0, "m/s", "m/s2", s ? s->speed : std::nullopt, s ? s->acceleration : std::nullopt},
      c.end, out.demands);
  if (!s) return;
  load_demand(c, *s, "slider", out);
  double low = track.at(0.0), high = low;
  for (int k = 1; k <= 64; ++k)
    low = std::min(low, track.at(c.end * k / 64)), high = std::max(high, track.at(c.end * k / 64));
  const double runs = s->acceleration ? run_ups(track, c.end, *s->acceleration) : 0.0;
  if (runs > 1e-6)
    out.run_up =
        said(" Coming to speed before the shot and to rest after it takes {} m, which the travel includes.",
             number_text(runs, 3));
  if (s->travel)
    out.demands.push_back(
        {100.0 * (high - low + runs) / *s->travel, c.end,
         said("slider travel {} / {} m", number_text(high - low + runs, 3), number_text(*s->travel, 3))});
}

void head_demands(const ShotContext& c, const KeyedTrack& track, const char* what, Reached& out) {
  const Support* s = by_id(c.project.supports, c.camera.on);
  if (!s || s->kind != SupportKind::head) return;  // by hand
  demands_of({&track, what, 6.0, "rpm", "degrees/s2", s->rpm_high, s->acceleration}, c.end, out.demands);
  load_demand(c, *s, "head", out);
}

}  // namespace

std::optional<Level> motion_reach(const ShotContext& c, const LevelStart& start) {
  const auto moving = [&](Tracked what) {
    const KeyedTrack* t = c.shot.track(what);
    return t && t->keys.size() > 1 ? t : nullptr;
  };
  Reached reached;
  const KeyedTrack *table = moving(Tracked::turntable), *slide = moving(Tracked::camera_slide),
                   *pan = moving(Tracked::camera_pan), *tilt = moving(Tracked::camera_tilt),
                   *roll = moving(Tracked::camera_roll), *way = moving(Tracked::camera_place);
  if (table) turntable_demands(c, *table, reached);
  if (slide) slider_demands(c, *slide, reached);
  if (pan) head_demands(c, *pan, "pan", reached);
  if (tilt) head_demands(c, *tilt, "tilt", reached);
  if (roll) head_demands(c, *roll, "roll", reached);
  // A camera that is carried on a slider goes along it; on anything else it is carried by hand.
  const Support* carries = by_id(c.project.supports, c.camera.on);
  if (way && carries && carries->slides()) slider_demands(c, *way, reached);
  if (reached.demands.empty() && reached.missing.empty()) return std::nullopt;
  Level level = start();
  if (reached.demands.empty()) return unknown(level, reached.missing);
  const auto worst = std::max_element(reached.demands.begin(), reached.demands.end(),
                                      [](const Demand& a, const Demand& b) { return a.percent < b.percent; });
  settle(level, {worst->percent, worst->set_time});
  level.formula = fmt::format("{} = {} %", worst->words, number_text(worst->percent, 3));
  level.sentence = worst->percent <= 100.0 ? said("The hardest demand is {} % of what is there: {}.",
                                                  number_text(worst->percent, 3), worst->words)
                                           : said("It asks for more than there is: {}.", worst->words);
  level.sentence += reached.run_up;
  if (!reached.missing.empty()) level.sentence += " Besides, " + reached.missing + ".";
  return level;
}

std::optional<Level> motion_loop(const ShotContext& c, const LevelStart& start) {
  const KeyedTrack* table = c.shot.track(Tracked::turntable);
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
