#include "cinnabar/formats/motion_program.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <functional>
#include <memory>
#include <vector>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

/// An angle that goes on past half a turn, told at any moment from the nearest of many before.
std::function<double(double)> unwound(const std::function<double(double)>& angle, double end) {
  constexpr int steps = 1000;
  std::vector<double> known{0.0};
  double last = angle(0.0);
  for (int k = 1; k <= steps; ++k) {
    const double now = angle(end * k / steps);
    known.push_back(known.back() + std::remainder(now - last, 360.0));
    last = now;
  }
  return [angle, end, known = std::move(known)](double t) {
    const auto k = std::clamp<long>(std::lround(t / end * steps), 0, steps);
    return known[static_cast<std::size_t>(k)] +
           std::remainder(angle(t) - angle(end * static_cast<double>(k) / steps), 360.0);
  };
}

std::vector<DrivenAxis> axes_of(const Shot& shot, double end) {
  std::vector<DrivenAxis> axes;
  const auto moving = [&shot](Tracked what) {
    const KeyedTrack* track = shot.track(what);
    return track && track->keys.size() > 1 ? track : nullptr;
  };
  Shot steady = shot;  // no motor shakes
  if (steady.camera) steady.camera->shake.reset();
  const auto pose = [camera = std::make_shared<const Shot>(std::move(steady))](double t) {
    return camera_at(*camera, t);
  };
  const KeyedTrack *way = moving(Tracked::camera_place), *slide = moving(Tracked::camera_slide);
  if (way) {
    const Vec3 home = pose(0.0).place;
    for (const auto& [letter, what, along] : {std::tuple{'X', "camera to the right", Vec3{1, 0, 0}},
                                              {'Y', "camera up", Vec3{0, 1, 0}},
                                              {'Z', "camera back", Vec3{0, 0, 1}}}) {
      const auto moved = [along = along](const Vec3& from, const Vec3& to) { return dot(to - from, along); };
      if (slide || std::any_of(way->places.begin(), way->places.end(),
                               [&](const Vec3& p) { return std::abs(moved(way->places.front(), p)) > 1e-7; }))
        axes.push_back({letter, what, [pose, home, moved](double t) { return 1e3 * moved(home, pose(t).place); }});
    }
  } else if (slide) {
    axes.push_back({'X', "slider", [slide](double t) { return 1e3 * slide->at(t); }});
  }
  // The head: where the camera looks to follow an aim or to look at one from elsewhere, else as it is turned.
  const KeyedTrack *pan = moving(Tracked::camera_pan), *tilt = moving(Tracked::camera_tilt);
  if (way || moving(Tracked::camera_aim)) {
    const auto bearing = [pose](double t) {
      const Vec3 ahead = pose(t).frame.ahead;
      return degrees(std::atan2(ahead.x, -ahead.z));
    };
    const auto rise = [pose](double t) {
      return degrees(std::asin(std::clamp(pose(t).frame.ahead.y, -1.0, 1.0)));
    };
    axes.push_back({'A', "tilt", [rise, from = rise(0.0)](double t) { return rise(t) - from; }, true});
    axes.push_back({'B', "pan", unwound(bearing, end), true});
    const auto still = [end](const DrivenAxis& axis) {
      for (int k = 1; k <= 64; ++k)
        if (std::abs(axis.at(end * k / 64) - axis.at(0.0)) > 1e-3) return false;
      return axis.turns;
    };
    std::erase_if(axes, still);
  } else {
    if (tilt) axes.push_back({'A', "tilt", [tilt](double t) { return tilt->at(t); }, true});
    if (pan) axes.push_back({'B', "pan", [pan](double t) { return pan->at(t); }, true});
  }
  if (const KeyedTrack* table = moving(Tracked::turntable))
    axes.push_back({'C', "turntable", [table](double t) { return table->at(t); }, true});
  return axes;
}

constexpr double run_up = 1.0;  ///< seconds in which what begins at speed comes to it, and to rest again

/// The same axis with a run-up before the shot and a rest after it, of even acceleration.
DrivenAxis with_runs(DrivenAxis axis, double end) {
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
std::vector<double> moments_of(const Shot& shot, const std::vector<DrivenAxis>& axes, double end, bool runs,
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
    const auto strays = [&](const DrivenAxis& axis) {
      for (const double u : {0.25, 0.5, 0.75}) {
        const double straight = axis.at(from) + (axis.at(to) - axis.at(from)) * u;
        if (std::abs(axis.base(axis.at(from + (to - from) * u) - straight)) > tolerance) return true;
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

std::vector<DrivenAxis> driven_axes(const Shot& shot) {
  const double end = shot.set_time();
  return end > 0.0 ? axes_of(shot, end) : std::vector<DrivenAxis>{};
}

Expected<std::string> motion_program(const Project& project, std::size_t shot_index,
                                     const ProgramOptions& options) {
  if (shot_index >= project.shots.size()) return fail("shot", "is not there", "choose one of the list");
  const Shot& shot = *project.shots[shot_index];
  const double end = shot.set_time();
  auto axes = driven_axes(shot);
  if (axes.empty())
    return fail(said("shot {}", shot_index + 1), "moves nothing that a controller drives",
                "give it a track of camera travel, slider, pan, tilt or turntable");
  bool runs = false;  // something moves as the shot begins or ends
  for (DrivenAxis& axis : axes) {
    axis = with_runs(std::move(axis), end);
    runs = runs || std::abs(axis.base(axis.at(-run_up) - axis.at(0.0))) > 1e-6 ||
           std::abs(axis.base(axis.at(end + run_up) - axis.at(end))) > 1e-6;
  }
  const auto moments = moments_of(shot, axes, end, runs, options.tolerance);
  if (const Support* on = by_id(project.supports, shot.camera ? shot.camera->on : std::string());
      on && on->slides() && on->travel) {
    double goes = 0.0;  // squared: of a straight way in any direction
    for (const DrivenAxis& axis : axes) {
      if (axis.turns) continue;
      double low = 1e300, high = -1e300;
      for (const double t : moments) low = std::min(low, axis.at(t)), high = std::max(high, axis.at(t));
      goes += (high - low) * (high - low);
    }
    if (std::sqrt(goes) > 1e3 * *on->travel + 1e-6)
      return fail(said("shot {}", shot_index + 1),
                  said("goes {} mm with its run-up, {} has {} mm", number_text(std::sqrt(goes), 4),
                       name_or(on->name, on->id), number_text(1e3 * *on->travel, 4)),
                  "shorten the move, or begin and end it at rest");
  }
  const auto words = [&axes](double t) {
    std::string line;
    for (const DrivenAxis& axis : axes) line += fmt::format(" {}{:.4f}", axis.letter, axis.at(t) + 0.0);
    return line;
  };
  std::string out = comment(said("{}: shot {}, {}", project.name, shot_index + 1, shot.name));
  for (const DrivenAxis& axis : axes)
    out += comment(said("{}: {}, {}", std::string(1, axis.letter), axis.what, axis.turns ? "degrees" : "mm"));
  out += comment("Try it slowly and without the product first; keep clear of what moves, with the stop in reach.");
  // To the start at 10 mm or degrees a second, and a breath there.
  out += "G21 G90 G94\nG1 F600" + words(moments.front()) + "\nG4 P1\nG93\n";
  if (!runs) out += comment("the shot begins");
  for (std::size_t i = 1; i < moments.size(); ++i) {
    out += fmt::format("G1 F{:.4f}{}\n", 60.0 / (moments[i] - moments[i - 1]), words(moments[i]));
    if (runs && std::abs(moments[i]) < 1e-5) out += comment("the shot begins");
    if (std::abs(moments[i] - end) < 1e-5) out += comment("the shot ends");
  }
  return out + "G94\nM2\n";
}

}  // namespace cinnabar
