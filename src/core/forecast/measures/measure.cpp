#include "cinnabar/forecast/measures/measure.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/hash.h"
#include "cinnabar/forecast/measures/cast.h"
#include "cinnabar/forecast/measures/line_of_sight.h"
#include "cinnabar/forecast/measures/world_number.h"
#include "cinnabar/scene/form.h"

namespace cinnabar {
namespace {

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

/// How far from `from` a line leaves a product's meshes for good; nothing where it meets none (the farthest of all
/// triangles met: Moeller & Trumbore 1997).
std::optional<double> leaves_at(const std::vector<Mesh>& meshes, const Vec3& from, const Vec3& along) {
  std::optional<double> farthest;
  meet_along(
      meshes, from, along,
      [&](const Mesh&, double t) {
        if (t > farthest.value_or(0.0)) farthest = t;
      },
      1e-9);
  return farthest;
}

constexpr std::size_t camera_facing_patches = 9;

/// Where camera-facing patches lie and look to.
std::vector<std::pair<Vec3, Vec3>> camera_facing(const Hero& hero, const ProductPose& pose,
                                                 const StagedCamera& camera) {
  const Extent box = extent(*hero.product);
  const Vec3 own{(box.left + box.right) / 2, (box.low + box.high) / 2, (box.back + box.front) / 2},
      centre = pose.world(own);
  const CameraPose& seen = camera.middle_pose();
  const Vec3 toward = length(seen.place - centre) > 1e-9 ? unit(seen.place - centre) : seen.frame.ahead * -1.0;
  const Vec3 upright = camera.optics.turned == 0 ? seen.frame.up : seen.frame.right * camera.optics.turned;
  const Vec3 up = std::abs(toward.y) > std::cos(radians(30.0)) ? upright : Vec3{0, 1, 0};
  const Vec3 axis = unit(up - toward * dot(up, toward));
  std::vector<Medium> media;
  const auto meshes = product_meshes(*hero.product, media, 64);
  constexpr double clear = 1e-3;  // so that a patch lies on the product and not in it
  std::vector<std::pair<Vec3, Vec3>> patches;
  for (std::size_t i = 0; i < camera_facing_patches; ++i) {
    const double step = static_cast<double>(i) - (camera_facing_patches - 1) / 2.0;
    const Vec3 normal = rotated(toward, axis, radians(15.0 * step));
    const double reach = leaves_at(meshes, own, pose.own_direction(normal)).value_or(0.0);
    patches.emplace_back(centre + normal * (reach + clear), normal);
  }
  return patches;
}

Reading dark_reading(const StagedWorld& world) {
  Reading reading;
  reading.by_light.assign(world.lights.size(), 0.0);
  reading.per_luminance = reading.by_light;
  return reading;
}

/// Measured anew, or gone on from what there is of the same arrangement; only those that are `asked` for, all
/// where nothing is said.
void measure_patches(LightMeasure& measure, const Tracer& tracer, const Project& project, const Shot& shot,
                     double t, const MeasureQuality& quality, const WorldNumbers& numbers, StraightKept& known,
                     const std::vector<char>& asked) {
  const auto hero = hero_of(project, shot);
  if (!hero) return;
  const ProductPose pose = product_at(project, shot, *hero->placed, t);
  const auto patches = camera_facing(*hero, pose, tracer.world().camera);
  const bool goes_on = measure.faces.size() == patches.size();
  if (!goes_on) measure.faces.assign(patches.size(), dark_reading(tracer.world()));
  const StraightKept::World ways(tracer.world(), numbers);
  tbb::parallel_for(std::size_t{0}, patches.size(), [&](std::size_t i) {
    if (!asked.empty() && !asked[i]) return;
    const Vec3 &point = patches[i].first, &normal = patches[i].second;
    const Reading begun = std::move(measure.faces[i]);
    measure.faces[i] = illuminance(tracer, point, normal,
                                   {.paths = quality.paths,
                                    .glances = quality.glances,
                                    .batches = quality.paths >= full_measure.paths ? error_batches : 0,
                                    .begun = begun.followed.paths > 0 ? &begun : nullptr,
                                    .straight = [&](std::size_t light, const std::function<double()>& measured) {
                                      return known.of(ways.key(light, point, normal, quality.glances), measured);
                                    }});
  });
  if (!goes_on) measure.foot = straight_light(tracer, pose.place, {0, 1, 0}, std::max(2, quality.glances / 3));
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

std::optional<LightMoment> LightMoment::without_batch(std::size_t batch) const {
  if (!measure || batch >= measure->batch_sums.size()) return std::nullopt;
  auto part = std::make_shared<LightMeasure>();
  part->world = measure->world;
  const Film& whole = measure->film;
  Film& film = part->film;
  film.width = whole.width, film.height = whole.height, film.layers = whole.layers;
  film.passes = whole.passes - whole.passes / error_batches;
  film.sums = whole.sums, film.first = whole.first;
  const std::vector<Rgb>& left_out = measure->batch_sums[batch];
  for (std::size_t i = 0; i < film.sums.size(); ++i) film.sums[i] = film.sums[i] - left_out[i];
  part->cast = measure->cast, part->foot = measure->foot;
  for (const Reading& face : measure->faces) {
    Reading own = face;
    const Reading::Followed& all = face.followed;
    if (batch < all.batches.size()) {  // of which the whole is the mean
      const auto others = [&](std::size_t layer) {
        return (all.bounced[layer] * error_batches - all.batches[batch][layer]) / (error_batches - 1);
      };
      for (std::size_t l = 0; l < own.per_luminance.size(); ++l)
        own.per_luminance[l] = all.straight[l] + others(l);
      own.ambient_per_luminance = others(all.bounced.size() - 1);
    }
    part->faces.push_back(std::move(own));
  }
  LightMoment moment = *this;
  moment.measure = std::move(part);
  return moment;
}

namespace {
template <class T>
std::size_t bytes_of(const std::vector<T>& list) {
  return list.capacity() * sizeof(T);
}
}  // namespace

std::size_t LightMeasure::bytes() const {
  std::size_t sum = sizeof *this + film.bytes() + bytes_of(cast);
  for (const auto& batch : batch_sums) sum += bytes_of(batch);
  for (const CastPoint& p : cast) sum += bytes_of(p.with) + bytes_of(p.without);
  for (const Reading& r : faces) {
    sum += sizeof r + 4 * bytes_of(r.per_luminance);
    for (const auto& batch : r.followed.batches) sum += bytes_of(batch);
  }
  return sum + (world ? world->bytes() : 0);
}

std::size_t MeasureCache::bytes() const {
  const std::lock_guard lock(mutex_);
  return bytes_;
}

std::shared_ptr<const LightMeasure> MeasureCache::kept(std::uint64_t key) {
  const std::lock_guard lock(mutex_);
  for (auto it = kept_.begin(); it != kept_.end(); ++it)
    if (it->key == key) {
      kept_.splice(kept_.begin(), kept_, it);
      return it->measure;
    }
  return nullptr;
}

void MeasureCache::keep(std::uint64_t key, const std::shared_ptr<const LightMeasure>& measure) {
  const std::lock_guard lock(mutex_);
  kept_.push_front({key, measure, measure->bytes()});
  bytes_ += kept_.front().bytes;
  while (bytes_ > most_bytes && kept_.size() > 1) {
    bytes_ -= kept_.back().bytes;
    kept_.pop_back();
  }
}

namespace {

/// The pixels that levels read, of a film as it is mixed now, and those beside them.
std::vector<char> pixels_read(const Film& film, const LayerWeights& weights, unsigned reads) {
  std::vector<char> wanted(film.pixels(), 0);
  const auto take = [&](const auto& chosen) {
    bool any = false;
    for (int y = 0; y < film.height; ++y)
      for (int x = 0; x < film.width; ++x)
        if (chosen(film.at(x, y))) {
          any = true;
          for (int j = std::max(0, y - 1); j <= std::min(film.height - 1, y + 1); ++j)
            for (int i = std::max(0, x - 1); i <= std::min(film.width - 1, x + 1); ++i) wanted[film.at(i, j)] = 1;
        }
    return any;
  };
  const auto of = [&film](Role role) {
    return [&film, role](std::size_t p) { return film.first[p].mesh && film.first[p].mesh->role == role; };
  };
  if (reads & reads_product) take(of(Role::product));
  if ((reads & reads_ground) && !take(of(Role::backdrop))) take(of(Role::surface));
  if (!(reads & reads_brightest)) return wanted;
  // The brightest of a noisy picture are among its brightest fiftieth and what lies beside it; before a bright
  // backdrop, which need not count, among that of the rest besides.
  const Picture picture = mixed(film, weights);
  std::vector<float> tops;
  for (const Rgb& rgb : picture.pixels) tops.push_back(std::max({rgb.x, rgb.y, rgb.z}));
  const auto behind = of(Role::backdrop);
  for (const bool all : {true, false}) {
    std::vector<float> sorted;
    for (std::size_t p = 0; p < tops.size(); ++p)
      if (all || !behind(p)) sorted.push_back(tops[p]);
    if (sorted.empty()) continue;
    const auto edge = sorted.begin() + static_cast<std::ptrdiff_t>(sorted.size() - 1 - sorted.size() / 50);
    std::nth_element(sorted.begin(), edge, sorted.end());
    take([&](std::size_t p) { return (all || !behind(p)) && tops[p] >= *edge; });
  }
  return wanted;
}

constexpr unsigned reads_patches = reads_faces | reads_ends | reads_highest_face;

/// The patches that levels read, of those that are known so far; empty for all.
std::vector<char> patches_asked(const LightMoment& moment, const std::vector<Reading>& known, unsigned reads) {
  if (!(reads & (reads_ends | reads_highest_face)) || reads & (reads_picture | reads_faces)) return {};
  // Of a measure that is begun the highest is among those that lie near it.
  constexpr double near = 0.9;
  if (reads & reads_highest_face && known.empty()) return {};
  std::vector<char> asked(known.empty() ? camera_facing_patches : known.size(), 0);
  if (reads & reads_ends) asked.front() = asked.back() = 1;
  if (reads & reads_highest_face) {
    std::vector<double> lux;
    for (const Reading& face : known) lux.push_back(moment.lux(face));
    const double most = *std::max_element(lux.begin(), lux.end());
    for (std::size_t i = 0; i < lux.size(); ++i)
      if (lux[i] >= near * most) asked[i] = 1;
  }
  if (reads & reads_product) asked[asked.size() / 2] = 1;  // where it shows nothing lit
  return asked;
}

bool patches_alone(unsigned reads) { return reads != reads_nothing && !(reads & ~reads_patches); }

/// Whether the pixels that are read are known before any light is.
bool known_by_first_hits(unsigned reads) { return !(reads & (reads_picture | reads_brightest)); }

/// Whether a moment's patches are read: where they are named, or the product shows nothing else that is.
bool patches_read(const Film& film, unsigned reads) {
  if (reads & reads_patches) return true;
  return (reads & reads_product) && std::none_of(film.first.begin(), film.first.end(), [](const FirstHit& hit) {
           return hit.mesh && hit.mesh->role == Role::product &&
                  (hit.mesh->material.kind == MaterialKind::matte ||
                   hit.mesh->material.kind == MaterialKind::paper);
         });
}

/// Pixels that were left out of some passes stand as if those had given their mean, in every batch alike: they are
/// not read, and must not add their noise to what is.
void fill_up(LightMeasure& measure, const std::vector<char>& traced, int passes_before) {
  const float factor = static_cast<float>(measure.film.passes) / static_cast<float>(passes_before);
  for (std::size_t p = 0; p < traced.size(); ++p)
    if (!traced[p])
      for (std::size_t i = p * measure.film.layers; i < (p + 1) * measure.film.layers; ++i) {
        measure.film.sums[i] = measure.film.sums[i] * factor;
        for (auto& sums : measure.batch_sums) sums[i] = measure.film.sums[i] * (1.0f / error_batches);
      }
}

/// Passes up to so many; of what is fully measured each batch's own sums are kept, for the error. False when
/// cancelled.
bool add_passes(LightMeasure& measure, const Tracer& tracer, int passes, const std::vector<char>& traced,
                const std::atomic<bool>* cancel) {
  Film& film = measure.film;
  const bool by_batches = passes >= full_measure.passes;
  std::vector<Rgb> before;
  while (film.passes < passes) {
    const auto batch = static_cast<std::size_t>(film.passes % error_batches);
    if (by_batches) before = film.sums;
    if (!tracer.add_pass(film, cancel, nullptr, traced.empty() ? nullptr : &traced)) return false;
    if (!by_batches) continue;
    std::vector<Rgb>& own = measure.batch_sums[batch];
    for (std::size_t i = 0; i < own.size(); ++i) own[i] = own[i] + (film.sums[i] - before[i]);
  }
  return true;
}

}  // namespace

std::optional<LightMoment> MeasureCache::at(const Project& project, const Shot& shot, double set_time,
                                            const MeasureQuality& quality, const std::atomic<bool>* cancel) {
  const auto world =
      std::make_shared<const StagedWorld>(stage(project, shot, set_time, {.motion = false, .segments = 64}));
  LightMoment moment{set_time, nullptr, neutral_weights(*world), layer_weights(*world), world->camera};
  const WorldNumbers numbers = numbers_of(*world);
  const auto key_of = [&](std::uint64_t number, int passes, std::uint64_t part) {
    return number ^ part ^
           (static_cast<std::uint64_t>(quality.width) * 0x9E3779B97F4A7C15ULL +
            static_cast<std::uint64_t>(passes));
  };
  // Patches alone go by their world; how the lens is set is nothing to them.
  const bool alone = patches_alone(quality.reads);
  const std::uint64_t number = alone ? numbers.facing : numbers.all;
  // Passes beyond a full measure's go on from that, and only where they are read.
  const bool closer = quality.passes > full_measure.passes, in_part = known_by_first_hits(quality.reads);
  const unsigned reads = in_part || closer ? quality.reads : reads_picture | reads_faces;
  std::shared_ptr<const LightMeasure> begun;
  std::vector<char> traced, asked = patches_asked(moment, {}, reads);
  std::uint64_t part = in_part ? 0x5851F42D4C957F2DULL * (reads + 1) : 0;
  if (closer) {
    MeasureQuality full = quality;
    full.passes = full_measure.passes;
    full.paths = quality.paths * full.passes / quality.passes;
    if (!in_part) full.reads = reads_picture | reads_faces;
    const auto base = at(project, shot, set_time, full, cancel);
    if (!base) return std::nullopt;
    begun = base->measure;
    if (!(reads & reads_picture)) {
      traced = pixels_read(begun->film, moment.balanced, reads);
      Hash hash;
      hash.add(traced.data(), traced.size());
      hash.add(static_cast<double>(reads & (reads_patches | reads_cast)));
      asked = patches_asked(moment, begun->faces, reads);
      hash.add(asked.data(), asked.size());
      part = hash.value();
    }
  } else if (in_part && (moment.measure = kept(key_of(numbers.all, quality.passes, 0)))) {
    return moment;  // all of it is there already
  }
  const std::uint64_t key = key_of(number, quality.passes, part);
  if ((moment.measure = kept(key))) return moment;
  for (int passes = quality.passes / 2; passes > full_measure.passes; passes /= 2)
    if (auto nearer = kept(key_of(number, passes, part))) {
      begun = std::move(nearer);
      break;
    }
  // What the first rays met belongs to the world that the film was begun in; this one is arranged alike.
  const auto staged = begun ? begun->world : world;
  const Tracer tracer(staged);
  auto measure = begun ? std::make_shared<LightMeasure>(*begun) : std::make_shared<LightMeasure>();
  measure->world = staged;
  Film& film = measure->film;
  if (!begun) {
    const int height =
        std::max(1, static_cast<int>(std::lround(quality.width * world->camera.optics.sensor_height /
                                                 world->camera.optics.sensor_width)));
    film = alone ? tracer.film(1, 1) : tracer.film(quality.width, std::min(height, 4 * quality.width));
    if (quality.passes >= full_measure.passes)
      measure->batch_sums.assign(error_batches, std::vector<Rgb>(film.sums.size()));
    if (in_part) {
      if (!alone) tracer.look(film);
      traced = pixels_read(film, moment.balanced, reads);
    }
  }
  const int passes_before = film.passes;
  const bool some = traced.empty() || std::find(traced.begin(), traced.end(), 1) != traced.end();
  if (some && !add_passes(*measure, tracer, quality.passes, traced, cancel)) return std::nullopt;
  if (!some && !begun) film.passes = quality.passes;  // of nothing
  if (begun && some && !traced.empty()) fill_up(*measure, traced, passes_before);
  if (reads & reads_picture || patches_read(film, reads))
    measure_patches(*measure, tracer, project, shot, set_time, quality, numbers, straight_, asked);
  if (!begun && (reads & (reads_picture | reads_cast)))
    measure->cast = cast_points(tracer, film, quality.passes < full_measure.passes ? 2 : 4);
  rays_ += tracer.rays();
  if (cancel && cancel->load()) return std::nullopt;
  keep(key, measure);
  moment.measure = std::move(measure);
  return moment;
}

}  // namespace cinnabar
