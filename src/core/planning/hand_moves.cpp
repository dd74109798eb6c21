#include "cinnabar/planning/hand_moves.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
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

/// A row a thing that hands move: what follows its name, and how it is measured.
struct Row {
  std::string_view of, what;
  const char* words;
  Measure measure;
};
constexpr Row rows[]{{"camera", "slide", "Camera on its slide", Measure::way},
                     {"camera", "place", "Camera carried", Measure::way},
                     {"camera", "pan", "Camera panned", Measure::angle},
                     {"camera", "tilt", "Camera tilted", Measure::angle},
                     {"camera", "roll", "Camera rolled", Measure::angle},
                     {"camera", "focus", "Focus pulled", Measure::distance},
                     {"camera", "focal", "Lens zoomed", Measure::distance},
                     {"", "turntable", "Turntable", Measure::angle},
                     {"product", "place", "{} moved", Measure::way},
                     {"product", "turn", "{} turned", Measure::angle},
                     {"product", "tilt", "{} tilted", Measure::angle},
                     {"light", "place", "{} carried", Measure::way},
                     {"light", "turn", "{} carried round", Measure::angle},
                     {"light", "dimmer", "{} dimmed", Measure::dimmer},
                     {"card", "place", "{} moved", Measure::way}};

/// The row of a target, and the id that it bears.
std::pair<const Row*, std::string> row_of(const std::string& target) {
  const auto read = read_target(target);
  const auto row = std::find_if(std::begin(rows), std::end(rows), [&](const Row& one) {
    return read && read->kind->of == one.of && read->kind->what == one.what;
  });
  return row == std::end(rows) ? std::pair<const Row*, std::string>{} : std::pair{row, read->id};
}

std::string name_of(const Project& project, const Shot& shot, const Row& row, const std::string& id) {
  const Setup* setup = by_id(project.setups, shot.setup);
  if (row.of == "product")
    if (const Product* product = by_id(project.products, id)) return name_or(product->name, id);
  if (row.of == "light" && setup)
    for (const Light& light : setup->lights)
      if (light.id == id) return name_or(light.name, id);
  return id;
}

/// Recorded pixels of a millimetre or a degree, at the product that is looked at and at this moment.
std::optional<double> off_by(const Project& project, const Shot& shot, const Row& row, const std::string& id,
                             double set_time) {
  if (!shot.camera || row.of == "light" || row.of == "card") return {};
  const CameraPose pose = camera_at(shot, set_time);
  const double pitch = shot_optics(project, shot).pitch;
  const bool head = row.what == "pan" || row.what == "tilt";
  if (head) return pose.image_distance() * radians(1.0) / pitch;
  const ShotProduct* placed = nullptr;
  for (const ShotProduct& one : shot.products)
    if (!placed || one.product == id) placed = &one;
  const Product* product = placed ? by_id(project.products, placed->product) : nullptr;
  if (!product) return {};
  const auto [low, high] = height_span(*product);
  const double depth = pose.depth(product_at(project, shot, *placed, set_time).world({0, 0.5 * (low + high), 0}));
  const double reach = widest_reach(*product);
  if (row.measure == Measure::way && depth > 1e-3) return 1e-3 * pose.image_distance() / depth / pitch;
  if ((row.what == "turn" || row.what == "turntable") && depth - reach > 1e-3)
    return reach * radians(1.0) * pose.image_distance() / (depth - reach) / pitch;
  return {};
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
  std::string out;
  if (move.off)
    out = move.measure == Measure::angle
              ? said("a degree beside a mark is {} pixels in the recording", number_text(*move.off, 2))
              : said("a millimetre beside a mark is {} pixels in the recording", number_text(*move.off, 2));
  if (move.target == "turntable") {
    const double pull = move.travel() / 360.0 / unwind({1.0, bolt_radius})->turns;  // metres
    out += (out.empty() ? "" : "; ") +
           said("by a string round a bolt of {} mm: pull {} mm, {} a second as an even pace",
                number_text(2e3 * bolt_radius), number_text(1e3 * pull, 3),
                number_text(1e3 * pull / move.seconds(), 3));
  }
  return out;
}

}  // namespace cinnabar
