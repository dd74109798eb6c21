#include "cinnabar/forecast/levels/context.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levels/features.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {

ShotContext::ShotContext(const Project& p, std::size_t i, MeasureCache& cache, const MeasureQuality& q,
                         const std::atomic<bool>* stop)
    : project(p),
      index(i),
      shot(*p.shots[i]),
      setup(by_id(p.setups, shot.setup)),
      camera(shot.camera.value_or(ShotCamera{})),
      optics(shot_optics(p, shot)),
      end(std::max(0.0, shot.set_time())),
      measures(cache),
      quality(q),
      cancel(stop) {
  const int steps = moves() ? 16 : 0;
  for (int k = 0; k <= steps; ++k) times.push_back(steps ? end * k / steps : 0.0);
}

bool ShotContext::camera_moves() const {
  return cinnabar::camera_moves(shot) || shot.track(Tracked::camera_focus);
}
bool ShotContext::moves() const { return camera_moves() || products_move(shot) || backdrop_moves(shot); }

namespace {

/// Keeps of sorted moments, evenly, as many as there is room for.
void thin(std::vector<double>& moments, std::size_t room) {
  if (moments.size() <= room) return;
  std::vector<double> kept;
  for (std::size_t i = 0; i < room; ++i) kept.push_back(moments[i * moments.size() / room]);
  moments = std::move(kept);
}

/// Turned or moved by how much from one moment to the next: in parts of 15 degrees, or of 5 % of the frame.
class Motion {
 public:
  explicit Motion(const ShotContext& c) : c_(c), carried_(carried(c)), before_(at(0.0)) {}
  double until(double t) {
    const State now = at(t);
    double parts = 0.0;
    for (std::size_t i = 0; i < now.degrees.size(); ++i)
      parts = std::max(parts, std::abs(now.degrees[i] - before_.degrees[i]) / 15.0);
    for (std::size_t i = 0; i < now.images.size(); ++i)
      if (now.images[i] && before_.images[i])
        parts = std::max(
            parts, std::hypot(now.images[i]->x - before_.images[i]->x, now.images[i]->y - before_.images[i]->y) /
                       (0.05 * c_.optics.sensor_width));
    before_ = now;
    return parts;
  }

 private:
  struct State {
    std::vector<double> degrees;
    std::vector<std::optional<ImagePoint>> images;
  };
  [[nodiscard]] State at(double t) const {
    State s;
    const CameraPose pose = c_.pose(t);
    for (const ShotProduct& placed : c_.shot.products) {
      const Product* product = by_id(c_.project.products, placed.product);
      if (!product) continue;
      const ProductPose place = product_at(c_.project, c_.shot, placed, t);
      s.degrees.push_back(place.turn_deg);
      const auto [low, high] = height_span(*product);
      for (const double height : {low, high}) s.images.push_back(image_of(pose, place.place + Vec3{0, height, 0}));
    }
    for (const KeyedTrack& track : c_.shot.tracks) {
      const auto what = tracked(track.target);
      if (what == Tracked::product_turn || what == Tracked::light_turn || what == Tracked::card_turn ||
          what == Tracked::product_tilt || what == Tracked::camera_tilt || what == Tracked::light_doors ||
          what == Tracked::backdrop_tilt)
        s.degrees.push_back(track.at(t));
      if (what == Tracked::backdrop_place) s.images.push_back(image_of(pose, track.place_at(t)));
    }
    // A light that is carried round what it aims at.
    for (const Light* light : carried_) {
      const Light now = light_at(*light, c_.shot, t);
      const Vec3 from = now.place - now.aim;
      s.degrees.push_back(degrees(std::atan2(from.x, from.z)));
      s.degrees.push_back(degrees(std::atan2(from.y, std::hypot(from.x, from.z))));
    }
    return s;
  }
  /// Lights whose place or aim is on a track.
  static std::vector<const Light*> carried(const ShotContext& c) {
    std::vector<const Light*> list;
    if (!c.setup) return list;
    for (const Light& light : c.setup->lights)
      if (c.shot.track(Tracked::light_place, light.id) || c.shot.track(Tracked::light_aim, light.id))
        list.push_back(&light);
    return list;
  }
  const ShotContext& c_;
  std::vector<const Light*> carried_;
  State before_;
};

}  // namespace

std::vector<double> ShotContext::light_times() const {
  if (shot.tracks.empty() || end <= 0.0) return {0.0};
  if (!quality.only_at.empty()) {
    std::vector<double> moments = quality.only_at;
    for (double& t : moments) t = std::clamp(t, 0.0, end);
    return moments;
  }
  if (quality.passes <= quick_measure.passes) return {end};
  std::vector<double> keys{0.0, end};
  for (const KeyedTrack& track : shot.tracks)
    for (const auto& key : track.keys)
      if (key.first > 0.0 && key.first < end) keys.push_back(key.first);
  std::sort(keys.begin(), keys.end());
  keys.erase(std::unique(keys.begin(), keys.end(), [&](double a, double b) { return b - a < 1e-4 * end; }),
             keys.end());
  std::vector<double> between, passed;
  for (std::size_t i = 0; i + 1 < keys.size(); ++i) between.push_back((keys[i] + keys[i + 1]) / 2);
  Motion motion(*this);
  double parts = 0.0, whole = 1.0;
  constexpr int steps = 360;
  for (int k = 1; k < steps; ++k) {
    parts += motion.until(end * k / steps);
    if (parts < whole) continue;
    passed.push_back(end * k / steps);
    whole = std::floor(parts) + 1.0;
  }
  // The start, middle and end before all; then keys, then half-ways, then what moves.
  const std::size_t most = quality.passes < full_measure.passes ? 5 : 24;
  std::vector<double> moments{0.0, end / 2, end};
  for (auto* more : {&keys, &between, &passed}) {
    std::erase_if(*more, [&](double t) {
      return std::any_of(moments.begin(), moments.end(),
                         [&](double known) { return std::abs(known - t) < 0.01 * end; });
    });
    thin(*more, most - std::min(most, moments.size()));
    moments.insert(moments.end(), more->begin(), more->end());
  }
  std::sort(moments.begin(), moments.end());
  return moments;
}

const std::vector<LightMoment>& ShotContext::light() const {
  if (light_) return *light_;
  light_.emplace();
  for (const double t : light_times()) {
    auto moment = measures.at(project, shot, t, quality, cancel);
    if (!moment) {
      light_->clear();
      break;
    }
    light_->push_back(std::move(*moment));
  }
  return *light_;
}

ShotContext ShotContext::without_batch(int number, const std::vector<double>& set_times) const {
  ShotContext part = *this;
  part.light_.emplace();
  for (const LightMoment& moment : light()) {
    if (std::find(set_times.begin(), set_times.end(), moment.set_time) == set_times.end()) continue;
    if (auto own = moment.without_batch(static_cast<std::size_t>(number))) part.light_->push_back(std::move(*own));
  }
  return part;
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

std::vector<ShotContext::Facing2> ShotContext::macro_points(double t) const {
  if (shot.size != ShotSize::macro) return {};
  const ShotProduct* placed = nullptr;
  std::optional<NamedFeature> largest;
  for (const std::string& name : shot.features)
    if (const auto named = feature_named(project, name);
        named && (!largest || named->feature->patch() > largest->feature->patch()))
      for (const ShotProduct& p : shot.products)
        if (p.product == named->product->id) placed = &p, largest = named;
  std::vector<Facing2> points;
  if (!largest) {
    if (has_label()) points = sharp_points(t, false);
    if (points.empty())
      for (const Vec3& p : outline_points(t)) points.push_back({p, {}});
    return points;
  }
  const ProductPose place = product_at(project, shot, *placed, t);
  const Vec3 normal = place.direction(feature_normal(*largest->product, *largest->feature)),
             aside = std::abs(normal.y) < 0.9 ? unit(cross(Vec3{0, 1, 0}, normal)) : Vec3{1, 0, 0},
             up = cross(normal, aside), middle = place.world(largest->feature->at);
  const double half = largest->feature->patch() / 2;
  for (const double x : {-half, half})
    for (const double y : {-half, half}) points.push_back({middle + aside * x + up * y, normal});
  return points;
}

const ToldEffects& ShotContext::effects() const {
  std::call_once(effects_->flag, [this] { effects_->told = told_effects(project, shot); });
  return effects_->told;
}

Worst worst_of(const std::vector<Worst>& moments, const Band& band) {
  const auto worst = std::max_element(moments.begin(), moments.end(), [&](const Worst& a, const Worst& b) {
    return badness(a.value, band) < badness(b.value, band);
  });
  Worst found{worst->value, worst->set_time, static_cast<std::size_t>(worst - moments.begin())};
  for (const Worst& m : moments) found.all.push_back({m.set_time, m.value});
  return found;
}

void settle(Level& level, const Worst& worst, bool count) {
  level.value = worst.value;
  level.moments = worst.all;
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
