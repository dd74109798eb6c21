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

/// Points that smear: the label's, or the outline's where there is no label; own to a product of the shot.
struct Mark {
  const ShotProduct* placed;
  Vec3 at, normal;
};
std::vector<Mark> marks(const ShotContext& c, bool labelled) {
  std::vector<Mark> list;
  for (const ShotProduct& placed : c.shot.products) {
    const Product* product = by_id(c.project.products, placed.product);
    if (!product) continue;
    if (product->label && labelled)
      for (const LabelPoint& p : label_points(*product, 13, 3)) list.push_back({&placed, p.at, p.normal});
    else if (!labelled)
      for (const Part& part : product->parts)
        for (const ProfilePoint& p : part.profile)
          for (const RimPoint& edge : rim(part, p, 24))
            for (const Vec3& normal : {edge.out, Vec3{0, 1, 0}})  // side and top
              list.push_back({&placed, edge.at, normal});
  }
  return list;
}

}  // namespace

std::optional<Level> motion_smear(const ShotContext& c, const LevelStart& start) {
  double stroke = 0.0;  // 0: not known
  for (const ShotProduct& placed : c.shot.products)
    if (const Product* p = by_id(c.project.products, placed.product); p && p->label && p->label->stroke)
      stroke = *p->label->stroke;
  bool labelled = c.has_label();
  double longest = -1.0, at = 0.0, depth_there = 1.0, magnification = 0.0;
  constexpr int pieces = 8;
  const int steps = 32;
  auto points = marks(c, labelled);
  for (int k = 0; k <= steps; ++k) {
    if (k == steps && longest < 0.0 && labelled) {  // a label that never faces the lens counts as none
      labelled = false, stroke = 0.0;
      points = marks(c, false);
      k = 0;
    }
    const double t = c.end * k / steps;
    std::vector<CameraPose> poses;
    std::vector<std::vector<ProductPose>> places(c.shot.products.size());
    for (int i = 0; i <= pieces; ++i) {
      const double when = t + c.camera.shutter_time * i / pieces;
      poses.push_back(c.pose(when));
      for (std::size_t p = 0; p < places.size(); ++p)
        places[p].push_back(product_at(c.project, c.shot, c.shot.products[p], when));
    }
    for (const Mark& mark : points) {
      const auto& place = places[static_cast<std::size_t>(mark.placed - c.shot.products.data())];
      const Vec3 middle = place[pieces / 2].world(mark.at);
      if (dot(place[pieces / 2].direction(mark.normal), poses[pieces / 2].place - middle) <= 0.0) continue;
      double path = 0.0;
      std::optional<ImagePoint> last;
      for (int i = 0; i <= pieces; ++i) {
        const auto image =
            image_of(poses[static_cast<std::size_t>(i)], place[static_cast<std::size_t>(i)].world(mark.at));
        if (image && last) path += std::hypot(image->x - last->x, image->y - last->y);
        last = image;
      }
      if (path > longest * (1 + 1e-9)) {
        longest = path, at = t;
        depth_there = poses[0].depth(middle);
        magnification = poses[0].image_distance() / depth_there;
      }
    }
  }
  Band band{{}, 2.0};
  std::string source =
      "image path over one exposure; 2 px where no stroke height is known, common practice, no source";
  if (stroke > 0.0 && longest >= 0.0) {
    band.high = stroke * magnification / c.optics.pitch / 5.0;
    source = "image path over one exposure; a fifth of the label's stroke height, common practice, no source";
  }
  Level level = start(band, source);
  if (labelled) level.title = "Smear at the label";
  if (longest < 0.0) return unknown(level, "nothing that moves ever faces the lens");
  const double px = longest / c.optics.pitch;
  settle(level, {px, at});
  level.formula = said("path on the sensor in {} / pixel pitch = {:.2f} µm / {:.2f} µm = {:.1f} px",
                       shutter_text(c.camera.shutter_time), longest * 1e6, c.optics.pitch * 1e6, px);
  if (stroke > 0.0)
    level.formula += said("; stroke {} mm x {:.3f} / 5 = {:.1f} px allowed", number_text(stroke * 1e3, 3),
                          magnification, band.high.value_or(0));
  level.sentence = said("{} smears over {:.1f} px of the recording during one exposure.",
                        labelled ? "The label" : "The product", px);
  return level;
}

std::optional<Level> motion_slow(const ShotContext& c, const LevelStart& start) {
  const auto [fastest, slowest] = c.shot.clock.speed_span(0.0, c.end);
  const double rate = c.optics.rate, timeline = c.project.timeline_rate;
  const bool slowed = slowest < 1.0 - 1e-9 || fastest > 1.0 + 1e-9;
  if (!c.shot.slow && !slowed && rate >= timeline - 1e-6) return std::nullopt;
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
  if (samples < 1.0 - 1e-6) {
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
    if (!support || (!support->kind.empty() && support->kind != "turntable")) continue;
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
  if (off_axis > 0.0 && c.shot.camera && c.shot.products.size() == 1 && c.shot.track("turntable")) {
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
