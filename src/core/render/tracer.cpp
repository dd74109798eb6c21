#include "cinnabar/render/tracer.h"

#include <tbb/blocked_range2d.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>

#include "cinnabar/color/white.h"
#include "cinnabar/optics/fresnel.h"

namespace cinnabar {
namespace tracing {

constexpr float off_surface = 2e-5f;  // metres: where the next ray begins
constexpr int deepest = 64;
constexpr std::size_t all_lights = 4;  // up to this many are all asked at a path's first opaque point

/// The clear bodies a ray is inside of.
class Media {
 public:
  void enter(int m) {
    if (size_ < stack_.size()) stack_[size_++] = static_cast<std::int16_t>(m);
  }
  void leave(int m) {
    for (std::size_t i = size_; i-- > 0;)
      if (stack_[i] == m) {
        std::copy(stack_.begin() + static_cast<std::ptrdiff_t>(i) + 1,
                  stack_.begin() + static_cast<std::ptrdiff_t>(size_),
                  stack_.begin() + static_cast<std::ptrdiff_t>(i));
        --size_;
        return;
      }
  }
  [[nodiscard]] int current(const std::vector<Medium>& media) const {
    int best = -1;
    for (std::size_t i = 0; i < size_; ++i)
      if (best < 0 ||
          media[static_cast<std::size_t>(stack_[i])].priority >= media[static_cast<std::size_t>(best)].priority)
        best = stack_[i];
    return best;
  }

 private:
  std::array<std::int16_t, 12> stack_{};
  std::size_t size_ = 0;
};

Rgb absorbed(const Vec3f& a, float path) {
  return {std::exp(-a.x * path), std::exp(-a.y * path), std::exp(-a.z * path)};
}

/// A way not taken at once: what the first boundaries of a camera path mirror.
struct Branch {
  Ray ray;
  Rgb throughput;
  Media media;
  int depth = 0, splits = 0;
};

}  // namespace tracing
using namespace tracing;

struct Tracer::Path {
  Ray ray;
  Rgb throughput;
  Sampler& sampler;
  Rgb* layers;
  std::vector<RayRecord>* record;
  Media media{};
  int opaque_bounces = 0;
  int splits = 0;             // how often both ways at a clear or coated boundary are still followed
  bool specular = true;       // the last bounce had no density: lights it meets count in full
  float last_density = 0.0f;  // of the last direction, when it had one
  Vec3f last_place{};
  int depth = 0;
  std::uint64_t rays = 0;
  std::array<Branch, 4> branches{};  // the mirrored ways put off for later
  int branch_count = 0;

  [[nodiscard]] bool may_split() const { return splits > 0 && branch_count < static_cast<int>(branches.size()); }
  void put_off(const Vec3f& direction, float share_of_light) {
    --splits;
    Ray mirrored = ray;
    mirrored.direction = direction;
    branches[static_cast<std::size_t>(branch_count++)] = {mirrored, throughput * share_of_light, media, depth + 1,
                                                          splits};
  }
};

Scattering scattering_of(const Material& m) {
  Scattering s;
  const Rgb colour = m.colour.as<float>();
  const auto alpha = static_cast<float>(m.roughness * m.roughness);
  switch (m.kind) {
    case MaterialKind::gloss:
      s.base = colour;
      s.coat(static_cast<float>(m.ior));
      s.sharp_coat = alpha < 1e-3f;
      if (!s.sharp_coat) s.alpha = alpha;
      break;
    case MaterialKind::satin:
      s.base = colour;
      s.coat(static_cast<float>(m.ior));
      s.alpha = std::max(alpha, 1e-3f);
      break;
    case MaterialKind::metal:
      s.specular = colour;
      s.alpha = alpha;
      break;
    case MaterialKind::mirror:
      s.specular = colour;
      break;
    case MaterialKind::translucent:
      s.base = colour;
      s.through = static_cast<float>(m.transmittance);
      break;
    default:
      s.base = colour;
      break;
  }
  return s;
}

Scattering Tracer::scattering_at(const Hit& hit) const {
  Scattering s = surfaces_[static_cast<std::size_t>(hit.mesh - world_->meshes.data())];
  if (hit.mesh->picture) s.base *= hit.mesh->picture->sample(hit.u, hit.v);
  return s;
}

namespace {

Tracer::Lens lens_of(const CameraPose& pose, double f_number) {
  return {pose.place.as<float>(),
          pose.frame.right.as<float>(),
          pose.frame.up.as<float>(),
          pose.frame.ahead.as<float>(),
          static_cast<float>(pose.focus),
          static_cast<float>(pose.image_distance()),
          static_cast<float>(pose.focal / (2.0 * f_number))};
}
Tracer::Lens between(const Tracer::Lens& a, const Tracer::Lens& b, float s) {
  const auto mix = [s](const Vec3f& x, const Vec3f& y) { return x * (1 - s) + y * s; };
  return {mix(a.place, b.place),
          unit(mix(a.right, b.right)),
          unit(mix(a.up, b.up)),
          unit(mix(a.ahead, b.ahead)),
          a.focus * (1 - s) + b.focus * s,
          a.image * (1 - s) + b.image * s,
          a.radius};
}

}  // namespace

Tracer::Tracer(std::shared_ptr<const StagedWorld> world)
    : world_(std::move(world)), geometry_(std::make_unique<Geometry>(*world_)) {
  const auto& poses = world_->camera.poses;
  moves_ = poses.size() > 1;
  for (const CameraPose& pose : poses) lenses_.push_back(lens_of(pose, world_->camera.f_number));
  for (const Mesh& mesh : world_->meshes) {
    surfaces_.push_back(scattering_of(mesh.material));
    moves_ = moves_ || mesh.positions.size() > 1;
  }
  double sum = 0.0;
  std::vector<double> power;
  for (const StagedLight& l : world_->lights) {
    lights_.emplace_back(l);
    power.push_back(l.luminance *
                    static_cast<double>(lights_.back().area));  // whatever the dimmer: layers are remixed
    sum += power.back();
  }
  float so_far = 0.0f;
  for (const double p : power) {
    choice_.push_back(sum > 0.0 ? static_cast<float>(p / sum) : 0.0f);
    cumulative_.push_back(so_far += choice_.back());
  }
}

void Tracer::light_directly(Path& path, const Scattering& s, const Hit& hit, const Vec3f& out, const Vec3f& n,
                            float lobe) const {
  const bool all = path.opaque_bounces == 0 && lights_.size() <= all_lights;
  std::size_t from = 0, to = lights_.size();
  if (to == 0 || cumulative_.back() <= 0.0f) return;
  if (!all) {
    const float pick = path.sampler.one() * cumulative_.back();
    from = static_cast<std::size_t>(std::upper_bound(cumulative_.begin(), cumulative_.end() - 1, pick) -
                                    cumulative_.begin());
    to = from + 1;
  }
  const Scattering::Outward outward = s.outward(out, n);
  for (std::size_t i = from; i < to; ++i) {
    if (choice_[i] <= 0.0f) continue;
    const auto [u, v] = path.sampler.pair();
    const LightSampler::Sample l = lights_[i].toward(hit.place, u, v);
    if (l.density <= 0.0f || l.emission <= 0.0f) continue;
    const float facing = dot(l.direction, n);
    if (facing <= 0.0f && s.through <= 0.0f) continue;
    const auto [f, bounces] = s.both(outward, l.direction);
    if (largest(f) <= 0.0f) continue;
    const float chosen = l.density * (all ? 1.0f : choice_[i]);
    const float weight = 1.0f / (chosen + lobe * bounces);
    const float body = lights_[i].shape == LightShape::rectangle || lights_[i].shape == LightShape::disc
                           ? 0.0f
                           : 0.02f * lights_[i].radius;
    const Ray shadow{hit.place, l.direction, off_surface, l.distance * 0.9999f - body, path.ray.time};
    ++path.rays;
    if (path.record) path.record->push_back({shadow, true});
    if (!geometry_->blocked(shadow)) path.layers[i] += path.throughput * f * (l.emission * weight);
  }
}

bool Tracer::through_boundary(Path& path, const Hit& hit) const {
  const auto& media = world_->media;
  const int m = hit.mesh->medium;
  const Medium& own = media[static_cast<std::size_t>(m)];
  const Vec3f& d = path.ray.direction;
  const bool entering = dot(d, hit.geometric) < 0.0f;
  if (!entering) path.media.leave(m);
  const int other = path.media.current(media);
  const bool ruled = other >= 0 && media[static_cast<std::size_t>(other)].priority > own.priority;
  const auto go_on = [&](const Vec3f& direction) {
    path.ray.origin = hit.place;
    path.ray.direction = direction;
    path.ray.near = off_surface;
    path.specular = true;
    return true;
  };
  if (ruled) {
    if (entering) path.media.enter(m);
    return go_on(d);
  }
  const float outside = other >= 0 ? media[static_cast<std::size_t>(other)].ior : 1.0f;
  const float eta = entering ? outside / own.ior : own.ior / outside;
  const Material& material = hit.mesh->material;
  Vec3f n = entering ? hit.normal : -hit.normal;
  const Vec3f flat = entering ? hit.geometric : -hit.geometric;
  if (dot(d, n) >= 0.0f) n = flat;
  std::optional<float> rough;
  if (material.kind == MaterialKind::frosted && material.roughness > 0.03) {
    const auto alpha = static_cast<float>(material.roughness * material.roughness);
    const auto [u, v] = path.sampler.pair();
    const Vec3f facet = visible_normal(-d, n, alpha, u, v);
    if (dot(d, facet) < 0.0f) {
      rough = alpha;
      n = facet;
    }
  }
  const float ci = -dot(d, n);
  float co = 0.0f;
  const float reflectance = fresnel_reflectance(std::min(ci, 1.0f), eta, co);
  Vec3f direction;
  Vec3f mirrored = d + n * (2.0f * ci);
  if (dot(mirrored, flat) <= 0.0f) mirrored = d - flat * (2.0f * dot(d, flat));
  bool reflects = false;
  if (!rough && reflectance > 0.0f && reflectance < 1.0f && path.may_split()) {
    // Near the camera both ways are followed: the mirrored one later, on its own side of the boundary.
    path.ray.origin = hit.place;
    path.ray.near = off_surface;
    const Media before = path.media;
    if (!entering) path.media.enter(m);
    path.put_off(mirrored, reflectance);
    path.media = before;
    path.throughput = path.throughput * (1.0f - reflectance);
  } else {
    reflects = path.sampler.one() < reflectance;
  }
  if (reflects) {
    direction = mirrored;
  } else {
    direction = unit(d * eta + n * (eta * ci - co));
    if (dot(direction, flat) >= 0.0f) direction = d;
    path.throughput *=
        Rgb{std::sqrt(static_cast<float>(material.colour.x)), std::sqrt(static_cast<float>(material.colour.y)),
            std::sqrt(static_cast<float>(material.colour.z))};
  }
  if (rough) path.throughput = path.throughput * ggx_masking(std::abs(dot(direction, flat)), *rough);
  if (entering != reflects) path.media.enter(m);
  return go_on(direction);
}

bool Tracer::off_opaque(Path& path, const Hit& hit) const {
  const Vec3f out = -path.ray.direction;
  const bool front = dot(out, hit.geometric) > 0.0f;
  const Vec3f flat = front ? hit.geometric : -hit.geometric;
  Vec3f n = front ? hit.normal : -hit.normal;
  if (dot(out, n) <= 0.0f) n = flat;
  Scattering s = scattering_at(hit);
  path.ray.origin = hit.place;
  path.ray.near = off_surface;

  const bool is_mirror = (s.coat_ior == 0.0f && s.alpha < 1e-3f && largest(s.specular) > 0.0f);
  float lobe = 1.0f;
  if (is_mirror || s.sharp_coat) {
    const float co = std::min(1.0f, dot(out, n));
    const float mirrored = is_mirror ? 1.0f : s.coat_reflects(co);
    const bool split = !is_mirror && path.may_split();
    if (!is_mirror) {
      lobe = split ? 1.0f : 1.0f - mirrored;
      light_directly(path, s, hit, out, n, lobe);
    }
    Vec3f direction = n * (2.0f * dot(out, n)) - out;
    if (dot(direction, flat) <= 0.0f) direction = flat * (2.0f * dot(out, flat)) - out;
    if (split) {
      path.put_off(direction, mirrored);
    } else if (is_mirror || path.sampler.one() < mirrored) {
      if (is_mirror) {
        const float c = std::clamp(1.0f - co, 0.0f, 1.0f),
                    c5 = hit.mesh->material.kind == MaterialKind::metal ? c * c * c * c * c : 0.0f;
        path.throughput *= s.specular + (Rgb{1, 1, 1} - s.specular) * c5;
      }
      path.ray.direction = direction;
      path.specular = true;
      return true;
    } else {
      path.throughput = path.throughput * (1.0f / lobe);
    }
  } else {
    light_directly(path, s, hit, out, n, lobe);
  }
  if (largest(s.base) <= 0.0f && s.alpha <= 0.0f) return false;
  const auto [u, v] = path.sampler.pair();
  const bool needs_choice = s.alpha > 0.0f || s.through > 0.0f;
  const Scattering::Sample next = s.sample(out, n, needs_choice ? path.sampler.one() : 1.0f, u, v);
  if (next.density <= 0.0f) return false;
  const bool crosses = dot(next.direction, flat) < 0.0f;
  if (crosses && s.through <= 0.0f) return false;
  path.throughput *= next.weight;
  path.ray.direction = next.direction;
  path.specular = false;
  path.last_density = next.density * lobe;
  path.last_place = hit.place;
  ++path.opaque_bounces;
  return true;
}

std::uint64_t Tracer::follow(const Ray& ray, const Rgb& throughput, Sampler& sampler, Rgb* layers,
                             const FollowOptions& options) const {
  Path path{.ray = ray,
            .throughput = throughput,
            .sampler = sampler,
            .layers = layers,
            .record = options.record,
            .splits = options.splits};
  const float start = largest(throughput);
  while (one_way(path, start, options) && path.branch_count > 0) {
    const Branch next = path.branches[static_cast<std::size_t>(--path.branch_count)];
    path.ray = next.ray, path.throughput = next.throughput, path.media = next.media;
    path.depth = next.depth, path.splits = next.splits;
    path.opaque_bounces = 0;
    path.specular = true;
  }
  return path.rays;
}

bool Tracer::one_way(Path& path, float start, const FollowOptions& options) const {
  const std::size_t ambient_layer = lights_.size();
  for (; path.depth < deepest; ++path.depth) {
    ++path.rays;
    if (path.record) path.record->push_back({path.ray, false});
    const Hit hit = geometry_->meet(path.ray);
    if (!hit.mesh) {
      path.layers[ambient_layer] += path.throughput;
      break;
    }
    if (const int medium = path.media.current(world_->media); medium >= 0) {
      const Vec3f& a = world_->media[static_cast<std::size_t>(medium)].absorption;
      if (largest(a) > 0.0f) path.throughput *= absorbed(a, hit.distance);
    }
    if (path.depth == 0 && options.first) {
      *options.first = first_hit(hit);
    }
    if (hit.mesh->light >= 0) {
      const auto l = static_cast<std::size_t>(hit.mesh->light);
      const float shines = lights_[l].emission(path.ray.direction, hit.geometric);
      if (shines > 0.0f && !(path.depth == 0 && options.skip_first_light)) {
        float weight = 1.0f;
        if (!path.specular) {
          const bool all = path.opaque_bounces == 1 && lights_.size() <= all_lights;
          const float by_light =
              lights_[l].density(path.last_place, path.ray.direction, hit.distance, hit.geometric) *
              (all ? (choice_[l] > 0 ? 1.0f : 0.0f) : choice_[l]);
          weight = path.last_density / (path.last_density + by_light);
        }
        path.layers[l] += path.throughput * (shines * weight);
      }
      break;  // a light's body is black
    }
    if (!(hit.mesh->medium >= 0 ? through_boundary(path, hit) : off_opaque(path, hit))) break;
    if (path.depth >= 2) {  // Russian roulette
      const float stay = std::min(1.0f, largest(path.throughput) / start * (path.depth < 16 ? 1.0f : 0.8f));
      if (stay <= 0.0f || path.sampler.one() >= stay) break;
      path.throughput = path.throughput * (1.0f / stay);
    }
  }
  return true;
}

Ray Tracer::camera_ray(const Film& film, int x, int y, Sampler& sampler) const {
  const StagedCamera& camera = world_->camera;
  const auto [px, py] = sampler.pair();
  const auto [lu, lv] = sampler.pair();
  const float down = (static_cast<float>(y) + py) / static_cast<float>(film.height);
  float time = 0.5f;
  Lens lens = lenses_.front();
  if (moves_) {
    const auto readout = static_cast<float>(camera.optics.readout),
               shutter = static_cast<float>(camera.shutter_time);
    time = (down * readout + sampler.one() * shutter) / (shutter + readout);
    const float at = time * static_cast<float>(lenses_.size() - 1);
    const auto i = std::min(static_cast<std::size_t>(at), lenses_.size() - 1);
    lens = lenses_[i];
    if (i + 1 < lenses_.size() && !(lenses_[i + 1] == lens))
      lens = between(lens, lenses_[i + 1], at - static_cast<float>(i));
  }
  const float sx = ((static_cast<float>(x) + px) / static_cast<float>(film.width) - 0.5f) *
                   static_cast<float>(camera.optics.sensor_width) / lens.image;
  const float sy = (0.5f - down) * static_cast<float>(camera.optics.sensor_height) / lens.image;
  const Vec3f sharp = (lens.right * sx + lens.up * sy + lens.ahead) * lens.focus;
  const float r = lens.radius * std::sqrt(lu), a = 2 * static_cast<float>(pi) * lv;
  const Vec3f off = lens.right * (r * std::cos(a)) + lens.up * (r * std::sin(a));
  return {lens.place + off, unit(sharp - off), 0.0f, 1e30f, time};
}

FirstHit Tracer::first_hit(const Hit& hit) const {
  FirstHit first;
  first.mesh = hit.mesh;
  first.normal = hit.normal;
  first.distance = hit.distance;
  first.albedo = hit.mesh->medium >= 0 ? Rgb{1, 1, 1}
                 : hit.mesh->picture   ? scattering_at(hit).base
                                       : hit.mesh->material.colour.as<float>();
  return first;
}

void Tracer::look(Film& film) const {
  tbb::parallel_for(0, film.height, [&](int y) {
    for (int x = 0; x < film.width; ++x) {
      Sampler sampler(static_cast<std::uint32_t>(film.at(x, y)), 0);
      if (const Hit hit = geometry_->meet(camera_ray(film, x, y, sampler)); hit.mesh)
        film.first[film.at(x, y)] = first_hit(hit);
    }
  });
  rays_ += film.pixels();
}

bool Tracer::add_pass(Film& film, const std::atomic<bool>* cancel, std::vector<RayRecord>* record,
                      const std::vector<char>* only) const {
  const auto index = static_cast<std::uint32_t>(film.passes);
  std::atomic<bool> stopped{false};
  const auto rows = [&](int x0, int x1, int y0, int y1) {
    std::uint64_t rays = 0;
    for (int y = y0; y < y1; ++y)
      for (int x = x0; x < x1; ++x) {
        const auto pixel =
            static_cast<std::size_t>(y) * static_cast<std::size_t>(film.width) + static_cast<std::size_t>(x);
        if (only && !(*only)[pixel]) continue;
        Sampler sampler(static_cast<std::uint32_t>(pixel), index);
        const Ray ray = camera_ray(film, x, y, sampler);
        FirstHit met;
        rays += follow(ray, {1, 1, 1}, sampler, &film.sums[pixel * film.layers],
                       {.first = &met, .splits = 2, .record = record});
        FirstHit& first = film.first[pixel];
        if (index == 0)
          first = met;
        else if (met.mesh == first.mesh)  // what a printed pixel reflects is known by its mean
          first.albedo += (met.albedo - first.albedo) * (1.0f / static_cast<float>(index + 1));
      }
    rays_ += rays;
  };
  if (record) {
    rows(0, film.width, 0, film.height);
  } else {
    tbb::parallel_for(tbb::blocked_range2d<int>(0, film.height, 8, 0, film.width, 32), [&](const auto& tile) {
      if (stopped || (cancel && cancel->load(std::memory_order_relaxed))) {
        stopped = true;
        return;
      }
      rows(tile.cols().begin(), tile.cols().end(), tile.rows().begin(), tile.rows().end());
    });
  }
  if (stopped) return false;
  ++film.passes;
  return true;
}

}  // namespace cinnabar
