// Levels of the frame: what is in it and how large.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levels/judgements.h"
#include "cinnabar/forecast/measures/set_edges_seen.h"
#include "cinnabar/project/model/names.h"

namespace cinnabar {
namespace {

double widest_focal(const ShotContext& c) {
  double focal = c.camera.focal;
  for (const auto& other : c.project.shots)
    if (other->setup == c.shot.setup && other->camera) focal = std::min(focal, other->camera->focal);
  return focal;
}

}  // namespace

std::optional<Level> frame_backdrop_edge(const ShotContext& c, const LevelStart& start) {
  const double focal = widest_focal(c);
  Level level = start();
  std::optional<SetAlone> set;
  std::vector<Worst> moments;
  std::vector<double> depths;
  const std::size_t stride = c.camera_moves() || backdrop_moves(c.shot) ? 4 : c.times.size();
  for (std::size_t i = 0; i < c.times.size(); i += stride) {
    const CameraPose pose = c.pose(c.times[i]).with_focal(focal);
    if (!set || backdrop_moves(c.shot)) set.emplace(*c.setup, backdrop_at(c.setup->backdrop, c.shot, c.times[i]));
    if (const auto edge = EdgeSearch(*set, pose, c.optics).nearest()) {
      moments.push_back({100.0 * edge->distance / c.optics.sensor_width, c.times[i]});
      depths.push_back(pose.depth(edge->at));
    }
  }
  if (moments.empty()) return std::nullopt;
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  level.formula =
      said("nearest outer edge's image to the frame / frame width, at {} mm = {:.2f} mm / {:.2f} mm = {:.1f} %",
           number_text(focal * 1e3, 3), worst.value / 100 * c.optics.sensor_width * 1e3,
           c.optics.sensor_width * 1e3, worst.value);
  level.sentence =
      worst.value < 0
          ? said("An edge of the set is in the picture, {:.1f} % of the frame inside it.", -worst.value)
          : said("The nearest edge of the set stays {:.1f} % of the frame outside it.", worst.value);
  if (const double blur = edge_blur_percent(c, worst.set_time, depths[worst.at]);
      level.state != State::level && blur >= 2.0 && focal == c.camera.focal) {
    level.state = State::level;  // the judgement's other half: an edge blurred over 2 % of the frame's height
    level.sentence += said(" Focus hides it: it is blurred over {} % of the frame's height.", fixed_text(blur, 1));
  }
  if (focal < c.camera.focal)
    level.sentence += said(" Reckoned with the set-up's widest lens, {} mm.", number_text(focal * 1e3, 3));
  return level;
}

std::optional<Level> frame_size(const ShotContext& c, const LevelStart& start) {
  const ShotSize size = c.shot.size.value_or(ShotSize::close);
  const bool macro = size == ShotSize::macro;
  const std::string& word = name_of(size);
  const Band band = size == ShotSize::wide ? Band{25.0, 45.0} : macro ? Band{60.0, 110.0} : Band{45.0, 80.0};
  Level level = start(band, "thin lens (Ray 2002); band for a " + word + " shot, common practice, no source");
  std::vector<Worst> moments;
  // On its side the camera's width is what stands upright.
  const double frame_height = c.optics.turned ? c.optics.sensor_width : c.optics.sensor_height;
  for (const double t : c.times) {
    const CameraPose pose = c.pose(t);
    double low = 1e9, high = -1e9;
    const auto take = [&](const Vec3& p) {
      const auto image = image_of(pose, p);
      if (!image) return;
      const double up = c.optics.turned ? image->x : image->y;
      low = std::min(low, up), high = std::max(high, up);
    };
    for (const auto& p : c.macro_points(t)) take(p.at);
    if (!macro)
      for (const Vec3& p : c.outline_points(t)) take(p);
    if (high > low) moments.push_back({100.0 * (high - low) / frame_height, t});
  }
  if (moments.empty()) return unknown(level, "no product stands before the lens");
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  const CameraPose pose = c.pose(worst.set_time);
  level.formula =
      said("image height / frame height = {:.2f} mm / {:.2f} mm = {:.0f} % ({} mm lens, image distance {:.2f} mm)",
           worst.value / 100 * frame_height * 1e3, frame_height * 1e3, worst.value,
           number_text(pose.focal * 1e3, 3), pose.image_distance() * 1e3);
  level.sentence = macro ? said("What the macro is of is {:.0f} % of the frame high.", worst.value)
                         : said("The product is {:.0f} % of the frame high in a {} shot.", worst.value, word);
  return level;
}

}  // namespace cinnabar
