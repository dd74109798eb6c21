#include "cinnabar/forecast/context.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/base/words.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {

ShotContext::ShotContext(const Project& p, std::size_t i, MeasureCache& cache, const MeasureQuality& q,
                         const std::atomic<bool>* stop)
    : project(p),
      index(i),
      shot(*p.shots[i]),
      setup(by_id(p.setups, shot.setup)),
      camera(shot.camera.value_or(ShotCamera{})),
      optics(shot_optics(p, camera)),
      end(std::max(0.0, shot.set_time())),
      measures(cache),
      quality(q),
      cancel(stop) {
  const int steps = moves() ? 16 : 0;
  for (int k = 0; k <= steps; ++k) times.push_back(steps ? end * k / steps : 0.0);
}

bool ShotContext::camera_moves() const {
  return shot.track("camera.slide") || shot.track("camera.pan") || shot.track("camera.tilt") ||
         shot.track("camera.focus");
}
bool ShotContext::moves() const { return camera_moves() || shot.track("turntable"); }

const std::vector<LightMoment>& ShotContext::light() const {
  if (light_) return *light_;
  light_.emplace();
  std::vector<double> moments{0.0};
  if (!shot.tracks.empty()) moments = {0.0, end / 2, end};
  if (quality.passes <= quick_measure.passes && moments.size() == 3) moments = {end};
  for (const double t : moments) {
    auto moment = measures.at(project, shot, t, quality, cancel);
    if (!moment) {
      light_->clear();
      break;
    }
    light_->push_back(std::move(*moment));
  }
  return *light_;
}

std::vector<Vec3> ShotContext::outline_points(double t) const {
  std::vector<Vec3> points;
  for (const ShotProduct& placed : shot.products) {
    const Product* product = by_id(project.products, placed.product);
    if (!product) continue;
    const ProductPose place = product_at(project, shot, placed, t);
    for (const Part& part : product->parts)
      for (const ProfilePoint& p : part.profile)
        for (const RimPoint& edge : rim(part, p, 36)) points.push_back(place.world(edge.at));
  }
  return points;
}

bool ShotContext::has_label() const {
  return std::any_of(shot.products.begin(), shot.products.end(), [&](const ShotProduct& placed) {
    const Product* product = by_id(project.products, placed.product);
    return product && product->label;
  });
}

std::vector<ShotContext::Facing2> ShotContext::sharp_points(double t, bool whole_product) const {
  std::vector<Facing2> points;
  const Vec3 eye = camera_at(shot, t).place;
  for (const ShotProduct& placed : shot.products) {
    const Product* product = by_id(project.products, placed.product);
    if (!product) continue;
    const ProductPose place = product_at(project, shot, placed, t);
    const auto take = [&](const Vec3& own, const Vec3& normal, bool all) {
      const Vec3 at = place.world(own), n = place.direction(normal);
      if (all || dot(n, eye - at) > 0.0) points.push_back({at, n});
    };
    if (!whole_product && product->label)
      for (const LabelPoint& p : label_points(*product, 13, 3)) take(p.at, p.normal, false);
    if (whole_product || !has_label())
      for (const Part& part : product->parts)
        for (const ProfilePoint& p : part.profile)
          for (const RimPoint& edge : rim(part, p, 24)) take(edge.at, edge.out, whole_product);
  }
  return points;
}

Level started(const ShotContext& c, const std::string& id, const std::string& title, const std::string& unit,
              const Band& usual, const std::string& source) {
  Level level{.id = id, .title = title, .unit = unit, .band = usual, .source = source};
  if (const auto own = c.project.bands.find(id); own != c.project.bands.end()) {
    if (own->second.has_low) level.band.low = own->second.low;
    if (own->second.has_high) level.band.high = own->second.high;
    level.source += "; the band is this project's own" +
                    (own->second.reason.empty() ? std::string() : ": " + own->second.reason);
  }
  return level;
}

Worst worst_of(const std::vector<Worst>& moments, const Band& band) {
  const auto worst = std::max_element(moments.begin(), moments.end(), [&](const Worst& a, const Worst& b) {
    return badness(a.value, band) < badness(b.value, band);
  });
  return {worst->value, worst->set_time, static_cast<std::size_t>(worst - moments.begin())};
}

void settle(Level& level, const Worst& worst, bool count) {
  level.value = worst.value;
  level.set_time = worst.set_time;
  level.state = state_of(worst.value, level.band, count);
}

Level unknown(Level level, const std::string& missing) {
  level.value.reset();
  level.state = State::unknown;
  level.sentence = "Cannot be told: " + missing + ".";
  level.formula = "not computed: " + missing;
  return level;
}

const std::vector<LevelEntry>& level_table() {
  static const std::vector<LevelEntry> table{{"frame.backdrop-edge", frame_backdrop_edge},
                                             {"frame.size", frame_size},
                                             {"frame.copy-space", frame_copy_space},
                                             {"frame.shapes", frame_shapes},
                                             {"frame.crop-room", frame_crop_room},
                                             {"frame.close-focus", frame_close_focus},
                                             {"frame.feature", frame_feature},
                                             {"light.product", light_product},
                                             {"light.backdrop", light_backdrop},
                                             {"light.highlight", light_highlight},
                                             {"light.shadow", light_shadow},
                                             {"light.ratio", light_ratio},
                                             {"light.soft", light_soft},
                                             {"light.stripe", light_stripe},
                                             {"light.cast", light_cast},
                                             {"light.spill", light_spill},
                                             {"light.white", light_white},
                                             {"light.flicker", light_flicker},
                                             {"motion.smear", motion_smear},
                                             {"motion.slow", motion_slow},
                                             {"motion.length", motion_length},
                                             {"motion.facing", motion_facing},
                                             {"motion.peak", motion_peak},
                                             {"motion.load", motion_load},
                                             {"motion.reach", motion_reach},
                                             {"motion.judder", motion_judder},
                                             {"motion.loop", motion_loop},
                                             {"focus.depth", focus_depth},
                                             {"focus.hides-edge", focus_hides_edge},
                                             {"focus.diffraction", focus_diffraction},
                                             {"focus.pull", focus_pull},
                                             {"camera.stops", camera_stops},
                                             {"camera.iso", camera_iso},
                                             {"camera.shutter", camera_shutter},
                                             {"camera.mode", camera_mode},
                                             {"camera.locked", camera_locked},
                                             {"camera.media", camera_media}};
  return table;
}

const std::vector<std::string>& level_ids() {
  static const std::vector<std::string> ids = [] {
    std::vector<std::string> list;
    for (const LevelEntry& e : level_table()) list.emplace_back(e.id);
    return list;
  }();
  return ids;
}

std::vector<Level> Forecaster::levels(const Project& project, std::size_t shot, const std::string& id,
                                      const std::atomic<bool>* cancel) const {
  std::vector<Level> list;
  if (shot >= project.shots.size()) return list;
  const ShotContext context(project, shot, *measures_, quality_, cancel);
  for (const LevelEntry& entry : level_table()) {
    if (!id.empty() && id != entry.id) continue;
    if (auto level = entry.compute(context)) {
      // Sentences with numbers were put into words piece by piece; plain ones are looked up here.
      for (std::string* text : {&level->title, &level->sentence, &level->source}) *text = in_words(text->c_str());
      list.push_back(std::move(*level));
    }
    if (context.cancelled()) return {};
  }
  return list;
}

}  // namespace cinnabar
