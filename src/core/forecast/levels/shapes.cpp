// Levels of the frame's shape: room for words, the deliverables' frames, crops, and the nearest focus.
#include <fmt/format.h>

#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levels/judgements.h"
#include "cinnabar/forecast/measures/light_numbers.h"
#include "cinnabar/forecast/measures/silhouette.h"
#include "cinnabar/scene/crop.h"

namespace cinnabar {
namespace {

/// The set times of a shot between which the words stand on the screen; nothing when they never do.
std::optional<std::pair<double, double>> words_on(const ShotContext& c, const Words& words) {
  const double start = c.project.starts_at(c.index), from = c.project.screen_time() - words.last_seconds - start;
  if (words.last_seconds <= 0.0 || words.width <= 0.0 || words.height <= 0.0 || from >= c.shot.screen_time - 1e-9)
    return std::nullopt;
  const double then = c.shot.clock.set_at(std::max(0.0, from));
  return c.shot.reversed ? std::pair(0.0, then) : std::pair(then, c.end);
}

/// The time in a span at which a product lies over the box, if at any.
std::optional<double> covered_at(const ShotContext& c, const ImageBox& box, double from, double to) {
  const int steps = c.moves() ? 24 : 0;
  for (int k = 0; k <= steps; ++k) {
    const double t = steps ? from + (to - from) * k / steps : from;
    for (const auto& piece : silhouette(c.project, c.shot, t))
      if (meets(piece, box)) return t;
  }
  return std::nullopt;
}

/// Luminances of small blocks of the picture inside a box: evened out, so that noise is not taken for unevenness.
std::vector<double> words_luminances(const LightMoment& m, const ImageBox& box) {
  const Film& film = m.measure->film;
  const Picture picture = mixed(film, m.weights);
  const ShotOptics& o = m.camera.optics;
  const auto column = [&](double x) { return (x / o.sensor_width + 0.5) * film.width; };
  const auto row = [&](double y) { return (0.5 - y / o.sensor_height) * film.height; };
  const int x0 = std::max(0, static_cast<int>(std::lround(column(box.left)))),
            x1 = std::min(film.width, static_cast<int>(std::lround(column(box.right)))),
            y0 = std::max(0, static_cast<int>(std::lround(row(box.top)))),
            y1 = std::min(film.height, static_cast<int>(std::lround(row(box.bottom))));
  constexpr int block = 4;
  std::vector<double> list;
  for (int y = y0; y < y1; y += block)
    for (int x = x0; x < x1; x += block) {
      double sum = 0.0;
      int count = 0;
      for (int v = y; v < std::min(y + block, y1); ++v)
        for (int u = x; u < std::min(x + block, x1); ++u, ++count) sum += luminance(picture.pixels[film.at(u, v)]);
      if (2 * count >= block * block || list.empty()) list.push_back(sum / count);
    }
  return list;
}

struct WordsReading {
  const Deliverable* deliverable;
  Worst worst;
  double bright = 0, dark = 0;
};

}  // namespace

std::optional<Level> frame_copy_space(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  std::optional<WordsReading> worst;
  std::string covered;
  bool asked = false, unlit = false;
  for (const Deliverable& d : c.project.deliverables) {
    const auto span = d.words ? words_on(c, *d.words) : std::nullopt;
    if (!span) continue;
    asked = true;
    const ImageBox box = words_area(d, c.optics);
    const auto hit = covered_at(c, box, span->first, span->second);
    if (hit && covered.empty())
      covered = said(" {}: the product covers the words at {} s.", d.name, fixed_text(*hit, 2));
    for (const LightMoment& m : c.light()) {
      if (m.set_time < span->first - 1e-9 && !c.shot.tracks.empty()) continue;
      auto blocks = words_luminances(m, box);
      if (blocks.empty()) continue;
      const double bright = quantile(blocks, 0.95), dark = quantile(blocks, 0.05);
      if (dark <= darkest) {
        unlit = true;
        continue;
      }
      const double spread = std::log2(bright / dark);
      if (!worst || spread > worst->worst.value)
        worst = WordsReading{&d, {spread, hit ? *hit : m.set_time}, bright, dark};
    }
  }
  if (!asked) return std::nullopt;
  if ((!worst || unlit) && !covered.empty()) {  // in the dark too
    level.state = State::out;
    level.formula = "covered when needed, which is out whatever the spread";
    level.sentence = said("The words' room is taken.") + covered;
    return level;
  }
  if (!worst || unlit)
    return unknown(level, unlit ? "no light at all reaches a part of the words' area" : no_light(c));
  settle(level, worst->worst);
  level.formula = said("{}: log2(95th / 5th percentile) = log2({} / {} cd/m2) = {}", worst->deliverable->name,
                       number_text(worst->bright), number_text(worst->dark), fixed_text(worst->worst.value, 2));
  level.sentence = said("The words' area varies by {} stop{}.", fixed_text(worst->worst.value, 1),
                        worst->worst.value >= 1.95 ? "s" : "");
  if (!covered.empty()) {
    level.state = State::out;
    level.sentence += covered;
    level.formula += "; covered when needed, which is out whatever the spread";
  }
  return level;
}

std::optional<Level> frame_shapes(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  // A macro shot is of a part: there its patch is what must be whole.
  const bool macro = c.shot.size == ShotSize::macro;
  const std::string what = !macro                                     ? "the product"
                           : c.shot.features.empty() && c.has_label() ? "the label"
                                                                      : "its detail";
  struct Count {
    int missing = 0;
    std::string names;
  };
  Count worst;
  double at = 0.0;
  for (const double t : c.times) {
    const CameraPose pose = c.pose(t);
    ImageBox box;
    std::vector<Vec3> points = macro ? std::vector<Vec3>{} : c.outline_points(t);
    for (const auto& p : c.macro_points(t)) points.push_back(p.at);
    for (const Vec3& p : points)
      if (const auto image = image_of(pose, p)) box.take(*image);
    if (box.empty()) continue;
    Count now;
    const auto miss = [&](const std::string& part, const Deliverable& d) {
      ++now.missing;
      now.names += said("{}{} in {}", now.names.empty() ? "" : ", ", part, d.name);
    };
    for (const Deliverable& d : c.project.deliverables) {
      if (!frame_of(d, c.optics).holds(box)) miss(what, d);
      if (d.words && words_on(c, *d.words) &&
          (d.words->x + d.words->width > 1.0 + 1e-9 || d.words->y + d.words->height > 1.0 + 1e-9))
        miss("the words", d);
    }
    if (now.missing > worst.missing) worst = now, at = t;
  }
  settle(level, {static_cast<double>(worst.missing), at}, true);
  const auto shapes = c.project.deliverables.size();
  level.formula = said("{} missing, looked for in {} shape{} over the whole shot", worst.missing, shapes,
                       shapes == 1 ? "" : "s");
  level.sentence = worst.missing ? said("Not wholly inside: {}.", worst.names)
                                 : said("Inside every shape that is delivered: {}.", what);
  return level;
}

std::optional<Level> frame_crop_room(const ShotContext& c, const LevelStart& start) {
  Level level = start.by("recorded over delivered pixels; house rule movement: " +
                         rule_name(c.project.rule<MovementRule>(c.shot)) + "; common practice, no source");
  if (!c.optics.mode_known) return unknown(level, "the camera's mode is not in the kit");
  const Deliverable* tightest = nullptr;
  double least = 0.0, recorded = 0.0, kept = 1.0;
  for (const Deliverable& d : c.project.deliverables) {
    const DeliveredFrame frame = delivered_frame(d, c.optics);
    const double pixels = frame.across / c.optics.pitch, keeps = kept_share(c.shot, frame, c.optics),
                 room = pixels * keeps / d.width;
    if (!tightest || room < least) tightest = &d, least = room, recorded = pixels, kept = keeps;
  }
  settle(level, {least, 0.0});
  level.formula = said("{}: {} px recorded x {} / {} px delivered = {:.2f}", tightest->name,
                       number_text(recorded, 5), number_text(kept, 3), tightest->width, least);
  level.sentence = least >= 1.0
                       ? said("{} gets {:.2f} recorded pixels for each one delivered.", tightest->name, least)
                       : said("{} gets only {:.2f} recorded pixels for each one delivered: it is blown up.",
                              tightest->name, least);
  return level;
}

std::optional<Level> frame_close_focus(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  const LensSpec* lens = by_id(c.project.lenses, c.camera.lens);
  if (!lens || lens->close_focus <= 0.0) return unknown(level, "the lens's nearest focus is not in the kit");
  std::vector<Worst> moments;
  for (const double t : c.times) moments.push_back({c.pose(t).focus - lens->close_focus, t});
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  level.formula =
      said("focus - nearest focus = {} m - {} m = {} m", number_text(worst.value + lens->close_focus, 4),
           number_text(lens->close_focus, 4), signed_text(worst.value, 3));
  if (lens->close_focus_mark && lens->greatest_magnification)
    level.formula += said("; the maker's {} m from the sensor's mark at magnification {}",
                          number_text(*lens->close_focus_mark, 3), number_text(*lens->greatest_magnification, 3));
  level.sentence = worst.value >= 0
                       ? said("Focus is {} farther than the lens's nearest.", length_text(worst.value))
                       : said("Focus is {} nearer than the lens can.", length_text(-worst.value));
  return level;
}

}  // namespace cinnabar
