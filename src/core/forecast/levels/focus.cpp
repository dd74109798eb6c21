// Levels of focus beyond its depth: diffraction, what blur hides, and pulls.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levels/judgements.h"
#include "cinnabar/forecast/measures/set_edges_seen.h"
#include "cinnabar/optics/lens.h"

namespace cinnabar {
namespace {

/// Blur on the sensor of a point at a depth, in shares of the frame's height (percent).
double blur_percent(const ShotContext& c, const CameraPose& pose, double depth) {
  const auto disc = blur_disc({.focal = pose.focal,
                               .f_number = c.camera.f_number,
                               .focus = pose.focus,
                               .distance = std::max(1e-6, depth)});
  return disc ? 100.0 * disc->diameter / c.optics.sensor_height : 0.0;
}

struct Sharpest {
  double percent = 1e9, depth = 0;
  const char* what = "";
  void take(double p, double d, const char* name) {
    if (p < percent) percent = p, depth = d, what = name;
  }
};

/// The least blurred of what should be hidden: the set's outer edges in the frame, or, where there are none, the
/// backdrop where the camera looks.
Sharpest sharpest_of_the_set(const ShotContext& c, const SetAlone& set, const Backdrop& drop,
                             const CameraPose& pose) {
  Sharpest out;
  for (const SeenEdge& edge : EdgeSearch(set, pose, c.optics).inside())
    out.take(blur_percent(c, pose, pose.depth(edge.at)), pose.depth(edge.at),
             edge.role == Role::surface ? "the surface's edge" : "the backdrop's edge");
  if (out.percent > 1e8 && drop.kind != BackdropKind::none && pose.frame.ahead.z < -1e-3) {
    const double depth = (pose.place.z - drop.foot().z) / -pose.frame.ahead.z;
    if (depth > pose.focus) out.take(blur_percent(c, pose, depth), depth, "the backdrop");
  }
  return out;
}

}  // namespace

double edge_blur_percent(const ShotContext& c, double set_time, double depth) {
  return blur_percent(c, c.pose(set_time), depth);
}

std::optional<Level> focus_depth(const ShotContext& c, const LevelStart& start) {
  const bool deep = c.project.rule<DepthRule>(c.shot) == DepthRule::deep;
  Level level = start();
  const bool macro = c.shot.size == ShotSize::macro;
  if (deep) level.title = "Focus depth over the product";
  if (macro) level.title = "Focus depth over the detail";
  std::vector<Worst> moments;
  std::vector<std::string> formulas;
  for (const double t : c.times) {
    const CameraPose pose = c.pose(t);
    const auto points = macro ? c.macro_points(t) : c.sharp_points(t, deep);
    if (points.empty()) continue;
    double nearest = 1e9, farthest = -1e9;
    for (const auto& p : points)
      nearest = std::min(nearest, pose.depth(p.at)), farthest = std::max(farthest, pose.depth(p.at));
    const auto depth = depth_macro({.focal = pose.focal,
                                    .f_number = c.camera.f_number,
                                    .magnification = pose.magnification(),
                                    .pupil_ratio = c.optics.pupil_ratio,
                                    .circle = c.optics.delivered_pitch});
    if (!depth) return unknown(level, depth.error().text());
    const double near = pose.focus - depth->in_front, spare_near = nearest - near;
    std::optional<double> far;
    if (depth->behind) far = pose.focus + *depth->behind;
    moments.push_back({1e3 * std::min(spare_near, far ? *far - farthest : spare_near), t});
    formulas.push_back(said("min({:.1f} - {:.1f}, {} - {:.1f}) = {} mm; f/{}, focus {:.3f} m, circle {:.1f} µm",
                            nearest * 1e3, near * 1e3, far ? fixed_text(*far * 1e3, 1) : "no end", farthest * 1e3,
                            fixed_text(moments.back().value, 1), number_text(c.camera.f_number, 3), pose.focus,
                            c.optics.delivered_pitch * 1e6));
  }
  if (moments.empty()) return std::nullopt;  // the label never faces the lens
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  const std::size_t at = worst.at;
  level.formula = formulas[at];
  const char* what = macro           ? "the detail"
                     : deep          ? "the product"
                     : c.has_label() ? "the label"
                                     : "the product's front";
  level.sentence =
      worst.value >= 0
          ? said("Sharpness reaches {} mm beyond {} on the scarcer side.", fixed_text(worst.value, 1), what)
          : said("Sharpness falls {} mm short of {}.", fixed_text(-worst.value, 1), what);
  return level;
}

std::optional<Level> focus_diffraction(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  std::vector<Worst> moments;
  for (const double t : c.times) {
    const auto airy =
        airy_disc({.f_number = effective_f_number(c.pose(t), c.camera.f_number, c.optics.pupil_ratio),
                   .wavelength = 550e-9});
    if (airy) moments.push_back({airy->diameter / c.optics.delivered_pitch, t});
  }
  if (moments.empty()) return unknown(level, "the aperture is out of the formula's range");
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  const double n = effective_f_number(c.pose(worst.set_time), c.camera.f_number, c.optics.pupil_ratio);
  level.formula = said("2.44 x f/{} x 0.55 µm / {} µm delivered pixel = {} µm / {} µm = {}", number_text(n, 3),
                       number_text(c.optics.delivered_pitch * 1e6, 3),
                       number_text(worst.value * c.optics.delivered_pitch * 1e6, 3),
                       number_text(c.optics.delivered_pitch * 1e6, 3), fixed_text(worst.value, 2));
  level.sentence = said("The aperture's own blur is {} delivered pixels wide.", fixed_text(worst.value, 1));
  return level;
}

std::optional<Level> focus_hides_edge(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  std::vector<Worst> moments;
  std::vector<Sharpest> found;
  std::optional<SetAlone> set;
  const std::size_t stride = c.camera_moves() || backdrop_moves(c.shot) ? 4 : c.times.size();
  for (std::size_t i = 0; i < c.times.size(); i += stride) {
    const Backdrop drop = backdrop_at(c.setup->backdrop, c.shot, c.times[i]);
    if (!set || backdrop_moves(c.shot)) set.emplace(*c.setup, drop);
    const Sharpest s = sharpest_of_the_set(c, *set, drop, c.pose(c.times[i]));
    if (s.percent > 1e8) continue;
    moments.push_back({s.percent, c.times[i]});
    found.push_back(s);
  }
  if (moments.empty()) return std::nullopt;  // nothing of the set ends within the picture
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  const Sharpest& s = found[worst.at];
  const CameraPose pose = c.pose(worst.set_time);
  level.formula = said(
      "(f / N) |d - s| / d x f / (s - f) / frame height = ({} mm / {}) x |{} - {}| / {} x {} / frame height {} mm "
      "= {} %",
      number_text(pose.focal * 1e3, 3), number_text(c.camera.f_number, 3), fixed_text(s.depth, 2),
      fixed_text(pose.focus, 2), fixed_text(s.depth, 2), fixed_text(pose.magnification(), 3),
      number_text(c.optics.sensor_height * 1e3, 3), fixed_text(worst.value, 1));
  level.sentence =
      said("A point of {} is blurred over {} % of the frame's height.", s.what, fixed_text(worst.value, 1));
  return level;
}

std::optional<Level> focus_pull(const ShotContext& c, const LevelStart& start) {
  const KeyedTrack* track = c.shot.track(Tracked::camera_focus);
  const LensSpec* lens = by_id(c.project.lenses, c.camera.lens);
  Level level = start.by(lens && lens->breathing
                             ? "the lens's measured breathing; band common practice, no source"
                             : "a lens moved whole: (1 + m1) / (1 + m2); band common practice, no source");
  double near = 1e9, far = 0.0;
  for (int k = 0; k <= 64; ++k) {
    const double focus = c.pose(c.end * k / 64).focus;
    near = std::min(near, focus), far = std::max(far, focus);
  }
  const auto magnification = [&](double focus) { return c.camera.focal / (focus - c.camera.focal); };
  const double m1 = magnification(near), m2 = magnification(far);
  double breathing = 100.0 * ((1.0 + m1) / (1.0 + m2) - 1.0);
  level.formula = said("(1 + {}) / (1 + {}) - 1 = {} %, from {} m to {} m", fixed_text(m1, 4), fixed_text(m2, 4),
                       fixed_text(breathing, 2), fixed_text(near, 3), fixed_text(far, 3));
  if (lens && lens->breathing && lens->close_focus > 0.0) {
    // Measured over the whole ring, nearest to far: this pull's part of it, by magnification.
    const double whole = magnification(std::max(lens->close_focus, c.camera.focal * 1.01));
    breathing = 100.0 * *lens->breathing * (m1 - m2) / whole;
    level.formula = said("measured {} % x ({} - {}) / {} = {} %", number_text(100 * *lens->breathing, 3),
                         fixed_text(m1, 4), fixed_text(m2, 4), fixed_text(whole, 4), fixed_text(breathing, 2));
  }
  settle(level, {breathing, 0.0});
  level.sentence = said("The picture breathes by {} % from mark to mark.", fixed_text(breathing, 1));
  constexpr double hand = 0.25;  // seconds from mark to mark: common practice, no source
  for (std::size_t i = 0; i + 1 < track->keys.size(); ++i) {
    const double takes = track->keys[i + 1].first - track->keys[i].first;
    if (track->keys[i].second == track->keys[i + 1].second || takes >= hand) continue;
    level.state = State::out;
    level.set_time = track->keys[i].first;
    level.formula +=
        said("; {} s from mark to mark, a hand takes {} s", number_text(takes, 2), number_text(hand, 2));
    level.sentence += " The marks come too quickly one after the other.";
    break;
  }
  if (lens && lens->close_focus > 0.0 && near < lens->close_focus - 1e-9) {
    level.state = State::out;
    level.sentence += " One mark is nearer than the lens focuses.";
  }
  return level;
}

}  // namespace cinnabar
