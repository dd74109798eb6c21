#include "cinnabar/forecast/measures/measure.h"

#include <tbb/parallel_for.h>

#include <bit>
#include <cmath>
#include <cstring>

#include "cinnabar/forecast/measures/cast.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {
namespace {

class Hash {
 public:
  void add(const void* data, std::size_t bytes) {
    const auto* p = static_cast<const unsigned char*>(data);
    while (bytes >= 8) {
      std::uint64_t word = 0;
      std::memcpy(&word, p, 8);
      mix(word);
      p += 8, bytes -= 8;
    }
    std::uint64_t rest = bytes;
    std::memcpy(&rest, p, bytes);
    mix(rest);
  }
  void add(double value) { mix(std::bit_cast<std::uint64_t>(value)); }
  void add(const Vec3& v) {
    for (const double c : {v.x, v.y, v.z}) add(c);
  }
  [[nodiscard]] std::uint64_t value() const { return state_; }

 private:
  void mix(std::uint64_t word) {
    state_ = (std::rotl(state_, 5) ^ word) * 0x9E3779B97F4A7C15ULL;
    state_ ^= state_ >> 29;
  }
  std::uint64_t state_ = 0x243F6A8885A308D3ULL;
};

/// The product a shot is about: the first that is known.
struct Hero {
  const Product* product;
  const ShotProduct* placed;
};
std::optional<Hero> hero_of(const Project& project, const Shot& shot) {
  for (const ShotProduct& placed : shot.products)
    if (const Product* product = by_id(project.products, placed.product)) return Hero{product, &placed};
  return std::nullopt;
}

void measure_patches(LightMeasure& measure, const Tracer& tracer, const Project& project, const Shot& shot,
                     double t, const MeasureQuality& quality) {
  const auto hero = hero_of(project, shot);
  if (!hero) return;
  const ProductPose pose = product_at(project, shot, *hero->placed, t);
  const auto [low, high] = height_span(*hero->product);
  const double middle = 0.5 * (low + high);
  const Vec3 axis = pose.place + Vec3{0, middle, 0};
  const Vec3 to_camera = camera_at(shot, t).place - axis;
  const double bearing = degrees(std::atan2(to_camera.x, to_camera.z));
  std::vector<std::pair<Vec3, Vec3>> patches;
  constexpr double clear = 1e-3;  // so that a patch lies on the product and not in it
  for (int step = -4; step <= 4; ++step) {
    const double toward = bearing + 15.0 * step;
    Vec3 out = turned({0, 0, 1}, toward), at = axis;
    if (const auto side = side_at(*hero->product, middle, toward - pose.turn_deg)) {
      out = unit(pose.direction({side->out.x, 0, side->out.z}));
      at = pose.world({side->at.x, middle, side->at.z});
    }
    patches.emplace_back(at + out * clear, out);
  }
  const double widest = widest_reach(*hero->product) + clear;
  for (const double side : {-60.0, 60.0}) {
    const Vec3 out = turned({0, 0, 1}, bearing + side);
    patches.emplace_back(axis + out * widest, out);
  }
  patches.emplace_back(
      axis + turned({0, 0, 1}, bearing) * (reach_at(*hero->product, middle, bearing - pose.turn_deg) + clear),
      unit(to_camera));
  std::vector<Reading> readings(patches.size());
  tbb::parallel_for(std::size_t{0}, patches.size(), [&](std::size_t i) {
    readings[i] = illuminance(tracer, patches[i].first, patches[i].second,
                              {.paths = quality.paths, .glances = quality.glances});
  });
  measure.card = readings.back();
  readings.pop_back();
  measure.sides.assign(readings.end() - 2, readings.end());
  readings.resize(readings.size() - 2);
  measure.faces = std::move(readings);
}

}  // namespace

double LightMoment::lux_of(const Reading& reading, std::size_t light) const {
  return light < reading.per_luminance.size() ? reading.per_luminance[light] * weights[light].x : 0.0;
}
double LightMoment::lux(const Reading& reading) const {
  double sum = reading.ambient_per_luminance * weights.back().x;
  for (std::size_t i = 0; i < reading.per_luminance.size(); ++i) sum += lux_of(reading, i);
  return sum;
}

namespace {
template <class T>
std::size_t bytes_of(const std::vector<T>& list) {
  return list.capacity() * sizeof(T);
}
}  // namespace

std::size_t LightMeasure::bytes() const {
  std::size_t sum = sizeof *this + film.bytes() + bytes_of(cast);
  for (const CastPoint& p : cast) sum += bytes_of(p.with) + bytes_of(p.without);
  for (const auto* readings : {&faces, &sides})
    for (const Reading& r : *readings) sum += sizeof r + bytes_of(r.per_luminance);
  return sum + (world ? world->bytes() : 0);
}

std::size_t MeasureCache::bytes() const {
  const std::lock_guard lock(mutex_);
  return bytes_;
}

std::uint64_t arrangement_of(const StagedWorld& world) {
  Hash hash;
  for (const Mesh& mesh : world.meshes) {
    const Material& m = mesh.material;
    for (const double v :
         {static_cast<double>(m.kind), m.roughness, m.ior, m.transmittance, static_cast<double>(mesh.light),
          static_cast<double>(mesh.medium), static_cast<double>(mesh.role)})
      hash.add(v);
    hash.add(m.colour);
    hash.add(m.absorption);
    for (const auto& step : mesh.positions) hash.add(step.data(), step.size() * sizeof(Vec3f));
    const Picture* picture = mesh.picture.get();
    hash.add(&picture, sizeof picture);
  }
  for (const StagedLight& l : world.lights) {
    hash.add(l.place);
    hash.add(l.frame.ahead);
    hash.add(l.frame.up);
    for (const double v :
         {static_cast<double>(l.shape), l.width, l.height, l.radius, l.length, l.grid_tangent, l.luminance})
      hash.add(v);
    const LightDistribution* distribution = l.distribution.get();
    hash.add(&distribution, sizeof distribution);
  }
  for (const CameraPose& p : world.camera.poses) {
    hash.add(p.place);
    hash.add(p.frame.ahead);
    hash.add(p.frame.up);
    hash.add(p.focal);
    hash.add(p.focus);
  }
  const StagedCamera& c = world.camera;
  for (const double v : {c.f_number, c.optics.sensor_width, c.optics.sensor_height,
                         c.optics.readout > 0 && world.camera.poses.size() > 1 ? c.optics.readout : 0.0})
    hash.add(v);
  return hash.value();
}

std::optional<LightMoment> MeasureCache::at(const Project& project, const Shot& shot, double set_time,
                                            const MeasureQuality& quality, const std::atomic<bool>* cancel) {
  const auto world =
      std::make_shared<const StagedWorld>(stage(project, shot, set_time, {.motion = false, .segments = 64}));
  LightMoment moment{set_time, nullptr, neutral_weights(*world), world->camera};
  const std::uint64_t key =
      arrangement_of(*world) ^ (static_cast<std::uint64_t>(quality.width) * 0x9E3779B97F4A7C15ULL +
                                static_cast<std::uint64_t>(quality.passes));
  {
    const std::lock_guard lock(mutex_);
    for (auto it = kept_.begin(); it != kept_.end(); ++it)
      if (it->key == key) {
        kept_.splice(kept_.begin(), kept_, it);
        moment.measure = it->measure;
        return moment;
      }
  }
  const Tracer tracer(world);
  auto measure = std::make_shared<LightMeasure>();
  measure->world = world;
  const int height = std::max(1, static_cast<int>(std::lround(quality.width * world->camera.optics.sensor_height /
                                                              world->camera.optics.sensor_width)));
  measure->film = tracer.film(quality.width, std::min(height, 4 * quality.width));
  for (int pass = 0; pass < quality.passes; ++pass)
    if (!tracer.add_pass(measure->film, cancel)) return std::nullopt;
  measure_patches(*measure, tracer, project, shot, set_time, quality);
  measure->cast = cast_points(tracer, measure->film, quality.passes < full_measure.passes ? 2 : 4);
  rays_ += tracer.rays();
  const std::lock_guard lock(mutex_);
  kept_.push_front({key, measure, measure->bytes()});
  bytes_ += kept_.front().bytes;
  while (bytes_ > most_bytes && kept_.size() > 1) {
    bytes_ -= kept_.back().bytes;
    kept_.pop_back();
  }
  moment.measure = std::move(measure);
  return moment;
}

}  // namespace cinnabar
