#include "cinnabar/planning/hand_moves.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/effects/flights.h"
#include "cinnabar/planning/standing.h"
#include "cinnabar/project/model/track_target.h"
#include "cinnabar/scene/form.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

using Measure = HandMove::Measure;
constexpr double bolt_radius =
    0.006;  // m, of what a string is wound round: a 12 mm bolt (common practice, no source)
constexpr std::size_t most_marks = 13;  // what somebody can count and tape
constexpr double least_step = 1e-6;
constexpr double hand_scatter = 0.06;  // s, of letting go on a count (common practice, no source)
constexpr double drill_from = 360.0;   // degrees: what turns less is not worth a drill

/// A row a thing that hands move: what follows its name, and how it is measured.
struct Row {
  Tracked what;
  const char* words;
  Measure measure;
};
constexpr Row rows[]{{Tracked::camera_slide, "Camera on its slide", Measure::way},
                     {Tracked::camera_place, "Camera carried", Measure::way},
                     {Tracked::camera_pan, "Camera panned", Measure::angle},
                     {Tracked::camera_tilt, "Camera tilted", Measure::angle},
                     {Tracked::camera_roll, "Camera rolled", Measure::angle},
                     {Tracked::camera_focus, "Focus pulled", Measure::distance},
                     {Tracked::camera_focal, "Lens zoomed", Measure::distance},
                     {Tracked::turntable, "Turntable", Measure::angle},
                     {Tracked::product_place, "{} moved", Measure::way},
                     {Tracked::product_turn, "{} turned", Measure::angle},
                     {Tracked::product_tilt, "{} tilted", Measure::angle},
                     {Tracked::light_place, "{} carried", Measure::way},
                     {Tracked::light_turn, "{} carried round", Measure::angle},
                     {Tracked::light_dimmer, "{} dimmed", Measure::dimmer},
                     {Tracked::light_doors, "{}: doors opened", Measure::angle},
                     {Tracked::card_place, "{} moved", Measure::way},
                     {Tracked::card_turn, "{} turned", Measure::angle},
                     {Tracked::backdrop_place, "Backdrop pulled", Measure::way},
                     {Tracked::backdrop_tilt, "Backdrop leant", Measure::angle}};

/// The row of a target, and the id that it bears.
std::pair<const Row*, std::string> row_of(const std::string& target) {
  const auto read = read_target(target);
  const auto row = std::find_if(std::begin(rows), std::end(rows),
                                [&](const Row& one) { return read && read->kind->is == one.what; });
  return row == std::end(rows) ? std::pair<const Row*, std::string>{} : std::pair{row, read->id};
}

std::string name_of(const Project& project, const Shot& shot, const Row& row, const std::string& id) {
  const Setup* setup = by_id(project.setups, shot.setup);
  const TrackedThing moved = kind_of(row.what).moved;
  if (moved == TrackedThing::product)
    if (const Product* product = by_id(project.products, id)) return name_or(product->name, id);
  if (moved == TrackedThing::light && setup)
    for (const Light& light : setup->lights)
      if (light.id == id) return name_or(light.name, id);
  return id;
}

/// Recorded pixels of a millimetre or a degree, at the product that is looked at and at this moment.
std::optional<double> off_by(const Project& project, const Shot& shot, const Row& row, const std::string& id,
                             double set_time) {
  const TrackedThing moved = kind_of(row.what).moved;
  if (!shot.camera || moved == TrackedThing::light || moved == TrackedThing::card ||
      moved == TrackedThing::backdrop)
    return {};
  const CameraPose pose = camera_at(shot, set_time);
  const double pitch = shot_optics(project, shot).pitch;
  if (row.what == Tracked::camera_pan || row.what == Tracked::camera_tilt)
    return pose.image_distance() * radians(1.0) / pitch;
  const ShotProduct* placed = nullptr;
  for (const ShotProduct& one : shot.products)
    if (!placed || one.product == id) placed = &one;
  const Product* product = placed ? by_id(project.products, placed->product) : nullptr;
  if (!product) return {};
  const auto [low, high] = height_span(*product);
  const double depth = pose.depth(product_at(project, shot, *placed, set_time).world({0, 0.5 * (low + high), 0}));
  const double reach = widest_reach(*product);
  if (row.measure == Measure::way && depth > 1e-3) return 1e-3 * pose.image_distance() / depth / pitch;
  if ((row.what == Tracked::turntable || row.what == Tracked::product_turn || row.what == Tracked::product_tilt) &&
      depth - reach > 1e-3)
    return reach * radians(1.0) * pose.image_distance() / (depth - reach) / pitch;
  return {};
}

/// Of a rest-to-rest move of `way` in `seconds`: minimum jerk, 10 / sqrt(3) way / T^2 (Flash & Hogan 1985).
double hand_gains(double way, double seconds) {
  return seconds > 0.0 ? 10.0 / std::sqrt(3.0) * std::abs(way) / (seconds * seconds) : 0.0;
}

/// What the moved thing is besides its track: how heavy, and whether it stays on its level.
void note_body(HandMove& move, const Project& project, const Shot& shot, const Row& row, const std::string& id) {
  if (kind_of(row.what).moved != TrackedThing::product) return;
  const Product* product = by_id(project.products, id);
  if (!product) return;
  if (product->mass > 0.0) move.mass = product->mass;
  const KeyedTrack* track = shot.track(move.target);
  if (row.what != Tracked::product_place || track->places.empty()) return;
  const double level = track->places.front().y;
  move.level_way = std::all_of(track->places.begin(), track->places.end(),
                               [&](const Vec3& at) { return std::abs(at.y - level) < 1e-4; });
}

/// Seconds that are counted: quarters and halves of a short move, whole ones, or twos and fives of a long one.
double counted_by(double seconds) {
  for (const double step : {0.25, 0.5, 1.0, 2.0, 5.0, 10.0, 30.0, 60.0})
    if (seconds / step <= (step < 1.0 ? 6.0 : static_cast<double>(most_marks - 2))) return step;
  return seconds / static_cast<double>(most_marks - 2);
}

/// When a track begins to move and when it has come to rest, by its keys.
std::optional<std::pair<double, double>> moving_span(const KeyedTrack& track, double end) {
  std::optional<std::pair<double, double>> out;
  for (std::size_t k = 1; k < track.keys.size(); ++k) {
    const auto& [from, a] = track.keys[k - 1];
    const auto& [to, b] = track.keys[k];
    if (std::abs(b - a) < least_step || to <= 0.0 || from >= end) continue;
    if (!out) out = std::pair{std::max(0.0, from), 0.0};
    out->second = std::min(end, to);
  }
  return out && out->second > out->first ? out : std::nullopt;
}

/// Millimetres, degrees or percent.
double shown(const HandMove& move, double value) {
  return value * (move.measure == Measure::angle ? 1.0 : move.measure == Measure::dimmer ? 100.0 : 1e3);
}
/// As a hand sets it: whole millimetres and percent, tenths of a degree; one place more where all of it is but
/// twenty.
std::string plain_value(const HandMove& move, double value) {
  const bool angle = move.measure == Measure::angle;
  const double all = shown(move, move.travel()) * (angle ? 10.0 : 1.0);
  return fixed_text(shown(move, value), (angle ? 1 : 0) + (all < 20.0 ? 1 : 0));
}
std::string with_unit(const HandMove& move, const std::string& number) {
  return move.measure == Measure::angle    ? said("{}°", number)
         : move.measure == Measure::dimmer ? said("{} %", number)
                                           : said("{} mm", number);
}
/// A speed, in three figures.
std::string speed_text(const HandMove& move, double value) {
  return with_unit(move, number_text(shown(move, value), 3));
}

}  // namespace

double HandMove::travel() const {
  double all = 0.0;
  for (std::size_t k = 1; k < marks.size(); ++k) all += std::abs(marks[k].at - marks[k - 1].at);
  return all;
}

std::vector<HandMove> hand_moves(const Project& project, const Shot& shot) {
  std::vector<HandMove> out;
  const double end = shot.set_time();
  for (const KeyedTrack& track : shot.tracks) {
    const auto [row, id] = row_of(track.target);
    const auto span = row ? moving_span(track, end) : std::nullopt;
    if (!span) continue;
    const auto [from, to] = *span;
    HandMove move;
    move.target = track.target;
    move.measure = row->measure;
    const std::string name = name_of(project, shot, *row, id);
    move.what = fmt::vformat(in_words(row->words), fmt::make_format_args(name));
    move.apart = counted_by(to - from);
    // Of a way what counts is how far it has come, of the rest what is set.
    const double zero = row->measure == Measure::way ? track.at(from) : 0.0;
    for (int k = 0;; ++k) {
      const double t = std::min(from + k * move.apart, to);
      if (t < to - 0.3 * move.apart || k == 0) {  // the last but one would stand too near the end
        move.marks.push_back({t, track.at(t) - zero});
        continue;
      }
      move.marks.push_back({to, track.at(to) - zero});
      break;
    }
    constexpr int samples = 400;
    for (int k = 0; k < samples; ++k) {
      const double t = from + (to - from) * k / samples, next = from + (to - from) * (k + 1) / samples;
      const double speed = std::abs(track.at(next) - track.at(t)) / (next - t);
      if (speed > move.fastest + 1e-12) move.fastest = speed, move.fastest_at = 0.5 * (t + next);
    }
    move.off = off_by(project, shot, *row, id, to);
    for (std::size_t k = 1; k < track.keys.size(); ++k)
      move.gains = std::max(move.gains, hand_gains(track.keys[k].second - track.keys[k - 1].second,
                                                   track.keys[k].first - track.keys[k - 1].first));
    if (shot.camera) move.rate = shot_optics(project, shot).rate;
    move.frame_lasts = shot.clock.speed_at(std::min(to, end)) / project.timeline_rate;
    if (row->what == Tracked::camera_focus && shot.camera)
      for (HandMove::Mark& mark : move.marks) mark.from_sensor = camera_at(shot, mark.set_time).from_sensor();
    note_body(move, project, shot, *row, id);
    out.push_back(std::move(move));
  }
  return out;
}

std::vector<std::string> mark_texts(const HandMove& move) {
  std::vector<std::string> out;
  for (const HandMove::Mark& mark : move.marks) out.push_back(plain_value(move, mark.at));
  out.back() = with_unit(move, out.back());
  return out;
}

std::string marks_text(const HandMove& move) { return fmt::format("{}", fmt::join(mark_texts(move), ", ")); }

std::string pace_text(const HandMove& move) {
  const double seconds = move.seconds();
  return said("from set {} s for {} s, a mark every {} s; {} a second as an even pace, {} at the fastest, at {} s",
              fixed_text(move.marks.front().set_time, 2), number_text(seconds, 3), number_text(move.apart, 3),
              speed_text(move, move.travel() / seconds), speed_text(move, move.fastest),
              fixed_text(move.fastest_at, 1));
}

std::string care_text(const HandMove& move) {
  if (move.off)
    return move.measure == Measure::angle
               ? said("a degree beside a mark is {} pixels in the recording", number_text(*move.off, 2))
               : said("a millimetre beside a mark is {} pixels in the recording", number_text(*move.off, 2));
  if (move.marks.front().from_sensor <= 0.0) return {};
  std::string ring;
  for (const HandMove::Mark& mark : move.marks)
    ring += (ring.empty() ? "" : ", ") + fixed_text(1e3 * mark.from_sensor, 0);
  return said("on the lens's ring, which counts from the sensor: {} mm, within 20", ring);
}

std::vector<std::string> means_texts(const HandMove& move) {
  std::vector<std::string> ways;
  const double seconds = move.seconds(), travel = move.travel();
  const bool turns = tracked(move.target) == Tracked::turntable || tracked(move.target) == Tracked::product_turn;
  const bool one_way = std::abs(std::abs(move.marks.back().at - move.marks.front().at) - travel) < 1e-6;
  if (turns && one_way) {
    const double pull = travel / 360.0 / unwind({1.0, bolt_radius})->turns;  // metres
    ways.push_back(said("by a string round a bolt of {} mm: pull {} mm, {} a second as an even pace",
                        number_text(2e3 * bolt_radius), number_text(1e3 * pull, 3),
                        number_text(1e3 * pull / seconds, 3)));
    if (travel >= drill_from)
      ways.push_back(
          said("by a drill: {} turns a minute, {} recorded frames each; eyes covered, sleeves tied back",
               number_text(travel / 6.0 / seconds, 3), number_text(360.0 * move.rate * seconds / travel, 3)));
  }
  if (move.level_way) {
    const double holds = dry_friction * standard_gravity;
    ways.push_back(move.gains < holds ? said("on a pulled cloth it rides along: {} of {} m/s2 before it slips",
                                             number_text(move.gains, 2), number_text(holds, 2))
                                      : said("a pulled cloth would slip from under it: {} of {} m/s2",
                                             number_text(move.gains, 2), number_text(holds, 2)));
    if (move.mass)
      ways.push_back(
          said("by a magnet under the top: it has to hold {} N sideways, and trails by up to its own "
               "radius; away from pacemakers, mind fingers",
               number_text(*move.mass * (holds + move.gains), 2)));
  }
  return ways;
}

std::optional<double> takes_for_one(const HandMove& move) {
  if (move.frame_lasts <= 0.0) return {};
  const auto chance = hit_chance({move.frame_lasts, hand_scatter, 1});
  if (!chance || chance->expected > 1000.0) return {};
  return chance->expected;
}

std::string takes_text(const HandMove& move) {
  const auto takes = takes_for_one(move);
  return takes ? said("its end comes within a frame in one of {} takes, by a hand {} ms off its count",
                      number_text(*takes, 2), number_text(1e3 * hand_scatter))
               : said("no hand ends it within a frame; let a motor do it, or choose among takes");
}

std::vector<std::string> hand_lines(const HandMove& move) {
  std::vector<std::string> out{pace_text(move)};
  if (std::string care = care_text(move); !care.empty()) out.push_back(std::move(care));
  for (std::string& way : means_texts(move)) out.push_back(std::move(way));
  out.push_back(takes_text(move));
  return out;
}

}  // namespace cinnabar
