#include "cinnabar/forecast/levels/context.h"

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

}  // namespace cinnabar
