// Levels of motion, focus and camera settings.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levels/judgements.h"
#include "cinnabar/optics/lens.h"
#include "cinnabar/photometry/exposure.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {
namespace {

/// Points that smear: a label's, or the outline's where there is no label; own to a product of the shot.
struct Mark {
  Vec3 at, normal;
};
std::vector<Mark> label_marks(const Product& product) {
  std::vector<Mark> list;
  for (const LabelPoint& p : label_points(product, 13, 3)) list.push_back({p.at, p.normal});
  return list;
}
std::vector<Mark> outline_marks(const Product& product) {
  std::vector<Mark> list;
  for (const Part& part : product.parts)
    for (std::size_t i = 0; i < part.profile.size(); ++i) {
      // Something looks up there where it narrows or ends; else the far side of a foot would be taken for seen.
      const bool tops = i + 1 == part.profile.size() || part.profile[i + 1].radius < part.profile[i].radius;
      for (const RimPoint& edge : rim(part, part.profile[i], 24)) {
        list.push_back({edge.at, edge.out});
        if (tops) list.push_back({edge.at, {0, 1, 0}});
      }
    }
  return list;
}

struct LongestPath {
  double metres = -1.0;  ///< on the sensor; negative where no mark ever faces the lens
  double set_time = 0.0, magnification = 0.0;
};
/// The longest image path of any of a product's marks over so many seconds, while it faces the lens.
LongestPath longest_path(const ShotContext& c, const ShotProduct& placed, const std::vector<Mark>& marks,
                         double seconds) {
  constexpr int pieces = 8, steps = 32;
  LongestPath longest;
  for (int k = 0; k <= steps; ++k) {
    const double t = c.end * k / steps;
    std::vector<CameraPose> poses;
    std::vector<ProductPose> places;
    for (int i = 0; i <= pieces; ++i) {
      const double when = t + seconds * i / pieces;
      poses.push_back(c.pose(when));
      places.push_back(product_at(c.project, c.shot, placed, when));
    }
    for (const Mark& mark : marks) {
      const Vec3 middle = places[pieces / 2].world(mark.at);
      if (dot(places[pieces / 2].direction(mark.normal), poses[pieces / 2].place - middle) <= 0.0) continue;
      double path = 0.0;
      std::optional<ImagePoint> last;
      for (std::size_t i = 0; i <= pieces; ++i) {
        const auto image = image_of(poses[i], places[i].world(mark.at));
        if (image && last) path += std::hypot(image->x - last->x, image->y - last->y);
        last = image;
      }
      if (path > longest.metres * (1 + 1e-9))
        longest = {path, t, poses[0].image_distance() / poses[0].depth(middle)};
    }
  }
  return longest;
}

/// A product's smear against what it may be: the worse, the higher its share.
struct Smearing {
  LongestPath path;
  double allowed_px = 2.0, stroke = 0.0;
  bool labelled = false;
  std::string name;
};

}  // namespace

std::optional<Level> motion_smear(const ShotContext& c, const LevelStart& start) {
  std::optional<Smearing> worst;
  // Labels first; where none ever faces the lens, outlines.
  for (const bool labelled : {true, false}) {
    for (const ShotProduct& placed : c.shot.products) {
      const Product* product = by_id(c.project.products, placed.product);
      if (!product || (labelled && !product->label)) continue;
      Smearing now{.labelled = labelled, .name = product->name.empty() ? product->id : product->name};
      now.path = longest_path(c, placed, labelled ? label_marks(*product) : outline_marks(*product),
                              c.camera.shutter_time);
      if (now.path.metres < 0.0) continue;
      if (labelled && product->label->stroke.value_or(0.0) > 0.0) {
        now.stroke = *product->label->stroke;
        now.allowed_px = now.stroke * now.path.magnification / c.optics.pitch / 5.0;
      }
      if (!worst || now.path.metres / now.allowed_px > worst->path.metres / worst->allowed_px) worst = now;
    }
    if (worst) break;
  }
  Level level = start(
      {{}, worst ? worst->allowed_px : 2.0},
      worst && worst->stroke > 0.0
          ? "image path over one exposure; a fifth of the label's stroke height, common practice, no source"
          : "image path over one exposure; 2 px where no stroke height is known, common practice, no source");
  if (c.has_label() && (!worst || worst->labelled)) level.title = "Smear at the label";
  if (!worst) return unknown(level, "nothing that moves ever faces the lens");
  const double px = worst->path.metres / c.optics.pitch;
  settle(level, {px, worst->path.set_time});
  level.formula = said("path on the sensor in {} / pixel pitch = {:.2f} µm / {:.2f} µm = {:.1f} px",
                       shutter_text(c.camera.shutter_time), worst->path.metres * 1e6, c.optics.pitch * 1e6, px);
  if (worst->stroke > 0.0)
    level.formula += said("; stroke {} mm x {:.3f} / 5 = {:.1f} px allowed", number_text(worst->stroke * 1e3, 3),
                          worst->path.magnification, level.band.high.value_or(0));
  const std::string whose = c.shot.products.size() > 1 ? said(" of {}", worst->name) : std::string();
  level.sentence = said("{}{} smears over {:.1f} px of the recording during one exposure.",
                        worst->labelled ? "The label" : "The product", whose, px);
  return level;
}

std::optional<Level> motion_skew(const ShotContext& c, const LevelStart& start) {
  if (c.optics.readout <= 0.0) return std::nullopt;  // all rows at once, or not known
  Level level = start();
  constexpr int steps = 64;
  constexpr double moment = 1e-3;
  Worst fastest{-1.0, 0.0};
  // Labels first; where none ever faces the lens, outlines.
  for (const bool labelled : {true, false}) {
    for (const ShotProduct& placed : c.shot.products) {
      const Product* product = by_id(c.project.products, placed.product);
      if (!product || (labelled && !product->label)) continue;
      const auto marks = labelled ? label_marks(*product) : outline_marks(*product);
      for (int k = 0; k < steps; ++k) {
        const double t = std::max(0.0, c.end - moment) * k / (steps - 1);
        const CameraPose before = c.pose(t), after = c.pose(t + moment);
        const ProductPose from = product_at(c.project, c.shot, placed, t),
                          to = product_at(c.project, c.shot, placed, t + moment);
        for (const Mark& mark : marks) {
          if (dot(from.direction(mark.normal), before.place - from.world(mark.at)) <= 0.0) continue;
          const auto a = image_of(before, from.world(mark.at)), b = image_of(after, to.world(mark.at));
          if (a && b && std::abs(b->x - a->x) / moment > fastest.value)
            fastest = {std::abs(b->x - a->x) / moment, t};
        }
      }
    }
    if (fastest.value >= 0.0) break;
  }
  if (fastest.value < 0.0) return unknown(level, "nothing that moves ever faces the lens");
  const double lean = degrees(std::atan(fastest.value * c.optics.readout / c.optics.sensor_height));
  settle(level, {lean, fastest.set_time});
  level.formula = said("atan(image speed x readout / frame height) = atan({} mm/s x {} ms / {} mm) = {}\u00b0",
                       number_text(1e3 * fastest.value, 3), number_text(1e3 * c.optics.readout, 3),
                       number_text(1e3 * c.optics.sensor_height, 3), number_text(lean, 3));
  level.sentence =
      said("An upright edge of the product leans by {} degrees as the rows are read.", number_text(lean, 2));
  return level;
}

namespace {

/// How far apart plates lie by one thing that moves: recorded pixels, and the sum.
struct Apart {
  double px = 0.0;
  std::string formula;
};
/// By turntables whose error is known: the farthest that any of what stands on them and faces the lens is off in
/// the picture, over the whole move.
std::optional<Apart> apart_by_turntable(const ShotContext& c) {
  constexpr int steps = 32;
  const KeyedTrack* turn = c.shot.track(Tracked::turntable);
  std::optional<Apart> worst;
  if (!turn || turn->keys.size() < 2) return worst;
  for (const ShotProduct& placed : c.shot.products) {
    const Support* table = by_id(c.project.supports, placed.on);
    const Product* product = by_id(c.project.products, placed.product);
    const auto off = table ? table->comes_back_within() : std::nullopt;
    if (!product || !off || !on_turntable(c.project, c.shot, placed)) continue;
    const auto marks = outline_marks(*product);
    double most = 0.0;
    for (int k = 0; k <= steps; ++k) {
      const double t = c.end * k / steps;
      const CameraPose pose = c.pose(t);
      const ProductPose at = product_at(c.project, c.shot, placed, t);
      for (const Mark& mark : marks) {
        const Vec3 place = at.world(mark.at);
        if (dot(at.direction(mark.normal), pose.place - place) <= 0.0) continue;
        const auto a = image_of(pose, place), b = image_of(pose, turned(place, *off));
        if (a && b) most = std::max(most, std::hypot(b->x - a->x, b->y - a->y));
      }
    }
    const double px = most / c.optics.pitch;
    if (worst && px <= worst->px) continue;
    worst = Apart{px, said("{} degrees about the turntable's axis: {} um on the sensor / {} um = {} px",
                           number_text(*off, 3), number_text(1e6 * most, 3), number_text(1e6 * c.optics.pitch, 3),
                           number_text(px, 3))};
  }
  return worst;
}

/// How far products go in the picture while half a recorded frame passes: what plates that did not begin together
/// are apart at the most, laid over one another frame by frame.
double apart_by_start(const ShotContext& c) {
  double most = 0.0;
  for (const ShotProduct& placed : c.shot.products)
    if (const Product* product = by_id(c.project.products, placed.product))
      most = std::max(most, longest_path(c, placed, outline_marks(*product), 0.5 / c.optics.rate).metres);
  return most / c.optics.pitch;
}

}  // namespace

std::optional<Level> motion_match(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  Apart worst = apart_by_turntable(c).value_or(Apart{});
  if (!c.camera_moves() && worst.formula.empty()) {
    settle(level, {0.0, 0.0});
    level.formula = said("nothing of the camera moves between {} plates: 0 px", c.shot.plates.size());
    level.sentence = said("The camera stands still, so that {} plates match.", c.shot.plates.size());
    return level;
  }
  if (c.camera_moves()) {
    const Support* on = by_id(c.project.supports, c.camera.on);
    if (!on) return unknown(level, "what the camera moves on is not told");
    const auto off = on->comes_back_within();
    if (!off) return unknown(level, said("how far off {} comes back (repeat) is not in the kit", on->name));
    const CameraPose pose = c.pose(0.0);
    double depth = pose.focus;  // of the nearest product, else what is sharp
    for (const ShotProduct& placed : c.shot.products)
      depth = std::max(0.01, std::min(depth, pose.depth(product_at(c.project, c.shot, placed, 0.0).place)));
    const double image = pose.image_distance();
    const double px = (on->slides() ? *off / depth : radians(*off)) * image / c.optics.pitch;
    Apart camera{px, on->slides() ? said("{} mm x {} mm / {} m / {} um = {} px", number_text(1e3 * *off, 3),
                                         number_text(1e3 * image, 4), number_text(depth, 3),
                                         number_text(1e6 * c.optics.pitch, 3), number_text(px, 3))
                                  : said("{} degrees x {} mm / {} um = {} px", number_text(*off, 3),
                                         number_text(1e3 * image, 4), number_text(1e6 * c.optics.pitch, 3),
                                         number_text(px, 3))};
    if (camera.px >= worst.px) worst = std::move(camera);
  }
  settle(level, {worst.px, 0.0});
  level.formula = worst.formula;
  level.sentence = said("{} plates of this move lie within {} px of one another.", c.shot.plates.size(),
                        number_text(worst.px, 2));
  if (const double late = apart_by_start(c); late >= 0.05)
    level.sentence += " " + said("Where recordings do not begin with the motor, half a frame is {} px more.",
                                 number_text(late, 2));
  return level;
}

std::optional<Level> motion_slow(const ShotContext& c, const LevelStart& start) {
  const auto [fastest, slowest] = c.shot.clock.speed_span(0.0, c.end);
  const double rate = c.optics.rate, timeline = c.project.timeline_rate;
  const bool slowed = slowest < 1.0 - 1e-9 || fastest > 1.0 + 1e-9;
  if (!c.shot.slow && !slowed && reaches_rate(rate, timeline)) return std::nullopt;
  Band band;
  if (c.shot.slow) band = {*c.shot.slow * 0.9, *c.shot.slow * 1.1};
  Level level = start(band);
  if (!c.optics.mode_known) return unknown(level, "the camera's mode is not in the kit");
  const double slowing = 1.0 / fastest, samples = rate * slowest / timeline;
  settle(level, {slowing, 0.0});
  level.formula = said("1 / fastest speed = 1 / {} = {:.2f}; frames per screen frame = {} x {} / {} = {:.2f}",
                       number_text(fastest), slowing, number_text(rate, 6), number_text(slowest),
                       number_text(timeline, 6), samples);
  level.sentence = c.shot.slow ? said("Plays {:.2f} times slower; {:.2f} is asked.", slowing, *c.shot.slow)
                               : said("Plays {:.2f} times slower.", slowing);
  if (!reaches_rate(rate * slowest, timeline)) {
    level.state = State::out;
    level.sentence += said(
        " {} per second is too few: only {:.2f} frames are recorded for each one shown, the rest would be "
        "invented.",
        number_text(rate, 6), samples);
  }
  return level;
}

std::optional<Level> motion_length(const ShotContext& c, const LevelStart& start) {
  const double timeline = c.project.timeline_rate;
  double wanted = 0.0, is = 0.0;
  std::string against;
  if (c.shot.length) {
    wanted = *c.shot.length, is = c.shot.screen_time;
    against = "the slot";
  } else if (c.project.beats_per_minute) {
    const double beat = 60.0 / *c.project.beats_per_minute;
    is = c.project.starts_at(c.index) + c.shot.screen_time;
    wanted = std::round(is / beat) * beat;
    against = "the nearest beat";
  } else {
    return std::nullopt;
  }
  Level level = start();
  const double frames = (is - wanted) * timeline;
  settle(level, {frames, c.end});
  level.formula = said("({} s - {} s) x {} = {} frames", fixed_text(is, 3), fixed_text(wanted, 3),
                       number_text(timeline, 6), signed_text(frames, 1));
  level.sentence = std::abs(frames) < 0.05 ? said("Its end meets {}.", against)
                                           : said("Its end is {} frames {} {}.", fixed_text(std::abs(frames), 1),
                                                  frames < 0 ? "before" : "after", against);
  return level;
}

std::optional<Level> motion_load(const ShotContext& c, const LevelStart& start) {
  const Support* table = nullptr;
  double mass = 0.0, off_axis = 0.0;
  for (const ShotProduct& placed : c.shot.products) {
    const Support* support = placed.on.empty() ? nullptr : by_id(c.project.supports, placed.on);
    if (!support || !support->turns()) continue;
    table = support;
    if (const Product* product = by_id(c.project.products, placed.product)) mass += product->mass;
    off_axis = std::max(off_axis, std::hypot(placed.place.x, placed.place.z));
  }
  if (!table) return std::nullopt;
  Level level = start();
  if (!table->load || *table->load <= 0.0) return unknown(level, "the turntable's rated load is not in the kit");
  const double share_used = 100.0 * mass / *table->load;
  settle(level, {share_used, 0.0});
  level.formula = said("mass / rating = {} kg / {} kg = {:.0f} %", number_text(mass, 3),
                       number_text(*table->load, 3), share_used);
  level.sentence =
      said("{} kg stand on a turntable that carries {} kg.", number_text(mass, 3), number_text(*table->load, 3));
  if (off_axis > 0.0 && c.shot.camera && c.shot.products.size() == 1 && c.shot.track(Tracked::turntable)) {
    const double wobble = 2.0 * off_axis * c.pose(0).magnification() / c.optics.pitch;
    level.formula += said("; wobble 2 x {} mm x {:.3f} / {:.2f} µm = {:.0f} px", number_text(off_axis * 1e3, 3),
                          c.pose(0).magnification(), c.optics.pitch * 1e6, wobble);
    if (wobble > 2.0) {
      level.state = State::out;
      level.sentence += said(" It stands {} mm off the axis and wanders {:.0f} px as it turns.",
                             number_text(off_axis * 1e3, 3), wobble);
    }
  }
  return level;
}

}  // namespace cinnabar
