#include "cinnabar/formats/motion_program.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <functional>
#include <vector>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

/// One axis of the controller: its letter, its value in the program's units, and what of it is a metre's worth.
struct Axis {
  char letter;
  std::string what;
  std::function<double(double)> at;
  double per;  ///< of the program's units to metres, or to radians
};

std::vector<Axis> axes_of(const Shot& shot) {
  std::vector<Axis> axes;
  const auto moving = [&shot](const char* target) {
    const KeyedTrack* track = shot.track(target);
    return track && track->keys.size() > 1 ? track : nullptr;
  };
  if (const KeyedTrack* way = moving("camera.place")) {
    const Vec3 home = way->places.front();
    const struct {
      char letter;
      const char* what;
      double Vec3::*part;
    } parts[] = {
        {'X', "camera to the right", &Vec3::x}, {'Y', "camera up", &Vec3::y}, {'Z', "camera back", &Vec3::z}};
    for (const auto& [letter, what, part] : parts)
      if (std::any_of(way->places.begin(), way->places.end(),
                      [&](const Vec3& p) { return std::abs(p.*part - home.*part) > 1e-7; }))
        axes.push_back({letter, what,
                        [way, home, part](double t) { return 1e3 * (way->place_at(t).*part - home.*part); },
                        1e-3});
  } else if (const KeyedTrack* slide = moving("camera.slide")) {
    axes.push_back({'X', "slider", [slide](double t) { return 1e3 * slide->at(t); }, 1e-3});
  }
  for (const auto& [letter, what, target] :
       {std::tuple{'A', "tilt", "camera.tilt"}, {'B', "pan", "camera.pan"}, {'C', "turntable", "turntable"}})
    if (const KeyedTrack* track = moving(target))
      axes.push_back({letter, what, [track](double t) { return track->at(t); }, pi / 180.0});
  return axes;
}

constexpr double run_up = 1.0;  ///< seconds in which what begins at speed comes to it, and to rest again

/// The same axis with a run-up before the shot and a rest after it, of even acceleration.
Axis with_runs(Axis axis, double end) {
  const double h = std::min(1e-4, 0.25 * end);
  const double before = (axis.at(h) - axis.at(0.0)) / h, after = (axis.at(end) - axis.at(end - h)) / h;
  axis.at = [inside = axis.at, before, after, end](double t) {
    if (t < 0.0) return inside(0.0) + before * t + before * t * t / (2.0 * run_up);
    if (t > end) return inside(end) + after * (t - end) - after * (t - end) * (t - end) / (2.0 * run_up);
    return inside(t);
  };
  return axis;
}

/// Moments between which straight pieces stay close enough to every axis: halved until they do, from key to key.
std::vector<double> moments_of(const Shot& shot, const std::vector<Axis>& axes, double end, bool runs,
                               double tolerance) {
  std::vector<double> keys{0.0, end};
  if (runs) keys.push_back(-run_up), keys.push_back(end + run_up);
  for (const KeyedTrack& track : shot.tracks)
    for (const auto& key : track.keys)
      if (key.first > 0.0 && key.first < end) keys.push_back(key.first);
  std::sort(keys.begin(), keys.end());
  keys.erase(std::unique(keys.begin(), keys.end(), [](double a, double b) { return b - a < 1e-6; }), keys.end());
  std::vector<double> moments{keys.front()};
  const std::function<void(double, double, int)> between = [&](double from, double to, int depth) {
    const auto strays = [&](const Axis& axis) {
      for (const double u : {0.25, 0.5, 0.75}) {
        const double straight = axis.at(from) + (axis.at(to) - axis.at(from)) * u;
        if (std::abs(axis.at(from + (to - from) * u) - straight) * axis.per > tolerance) return true;
      }
      return false;
    };
    if (depth > 0 && to - from > 2e-3 && std::any_of(axes.begin(), axes.end(), strays)) {
      between(from, 0.5 * (from + to), depth - 1);
      between(0.5 * (from + to), to, depth - 1);
    } else {
      moments.push_back(to);
    }
  };
  for (std::size_t i = 0; i + 1 < keys.size(); ++i) between(keys[i], keys[i + 1], 14);
  return moments;
}

/// A comment as the language has it: no brackets within, no control characters.
std::string comment(std::string text) {
  for (char& c : text)
    if (c == '(' || c == ')' || static_cast<unsigned char>(c) < 32) c = ' ';
  return "(" + text + ")\n";
}

}  // namespace

Expected<std::string> motion_program(const Project& project, std::size_t shot_index,
                                     const ProgramOptions& options) {
  if (shot_index >= project.shots.size()) return fail("shot", "is not there", "choose one of the list");
  const Shot& shot = *project.shots[shot_index];
  const double end = shot.set_time();
  auto axes = axes_of(shot);
  if (axes.empty() || end <= 0.0)
    return fail(said("shot {}", shot_index + 1), "moves nothing that a controller drives",
                "give it a track of camera travel, slider, pan, tilt or turntable");
  bool runs = false;  // something moves as the shot begins or ends
  for (Axis& axis : axes) {
    axis = with_runs(std::move(axis), end);
    runs = runs || std::abs(axis.at(-run_up) - axis.at(0.0)) * axis.per > 1e-6 ||
           std::abs(axis.at(end + run_up) - axis.at(end)) * axis.per > 1e-6;
  }
  const auto moments = moments_of(shot, axes, end, runs, options.tolerance);
  if (const Support* on = by_id(project.supports, shot.camera ? shot.camera->on : std::string());
      on && on->kind == "slider" && on->travel)
    for (const Axis& axis : axes) {
      if (axis.per != 1e-3) continue;
      double low = 1e300, high = -1e300;
      for (const double t : moments) low = std::min(low, axis.at(t)), high = std::max(high, axis.at(t));
      if (high - low > 1e3 * *on->travel + 1e-6)
        return fail(said("shot {}", shot_index + 1),
                    said("goes {} mm with its run-up, {} has {} mm", number_text(high - low, 4), on->name,
                         number_text(1e3 * *on->travel, 4)),
                    "shorten the move, or begin and end it at rest");
    }
  const auto words = [&axes](double t) {
    std::string line;
    for (const Axis& axis : axes) line += fmt::format(" {}{:.4f}", axis.letter, axis.at(t) + 0.0);
    return line;
  };
  std::string out = comment(said("{}: shot {}, {}", project.name, shot_index + 1, shot.name));
  for (const Axis& axis : axes)
    out +=
        comment(said("{}: {}, {}", std::string(1, axis.letter), axis.what, axis.per == 1e-3 ? "mm" : "degrees"));
  out += comment("Try it slowly and without the product first; keep clear of what moves, with the stop in reach.");
  // To the start at 10 mm or degrees a second, and a breath there.
  out += "G21 G90 G94\nG1 F600" + words(moments.front()) + "\nG4 P1\nG93\n";
  if (!runs) out += comment("the shot begins");
  for (std::size_t i = 1; i < moments.size(); ++i) {
    out += fmt::format("G1 F{:.4f}{}\n", 60.0 / (moments[i] - moments[i - 1]), words(moments[i]));
    if (runs && moments[i] == 0.0) out += comment("the shot begins");
    if (moments[i] == end) out += comment("the shot ends");
  }
  return out + "G94\nM2\n";
}

}  // namespace cinnabar
