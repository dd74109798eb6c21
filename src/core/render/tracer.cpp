#include "cinnabar/render/tracer.h"

#include <tbb/blocked_range2d.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <optional>
#include <utility>

#include "cinnabar/color/white.h"
#include "cinnabar/optics/fresnel.h"
#include "cinnabar/render/path.h"

namespace cinnabar {
using namespace tracing;

namespace {

bool stamped(const Hit& hit) { return hit.mesh->stamp && luminance(hit.mesh->stamp->sample(hit.u, hit.v)) > 0.5f; }

}  // namespace

Scattering Tracer::scattering_at(const Hit& hit) const {
  const Mesh& mesh = *hit.mesh;
  const Face& face = faces_[number_of(hit.mesh)];
  Scattering s = hit.covered ? face.covered : stamped(hit) ? face.foil : face.plain;
  if (mesh.picture && !(hit.covered && mesh.material.cover->kind == CoverKind::dust))
    s.base *= mesh.printed(hit.u, hit.v);
  if (s.across != s.alpha && s.alpha > 0.0f) {  // brushed
    // Lines go round the axis; on a face square to it they do as well, about its middle.
    Vec3f round = cross(mesh.axis, hit.normal);
    if (dot(round, round) < 1e-4f) round = cross(mesh.axis, hit.place - mesh.origin);
    s.drawn = unit(round);
  }
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
    : world_(std::move(world)), geometry_(std::make_unique<Geometry>(*world_)), clouds_(world_->clouds) {
  const auto& poses = world_->camera.poses;
  moves_ = poses.size() > 1;
  if (const auto& turned = world_->camera.film_deg) {
    const Facing& frame = world_->camera.middle_pose().frame;
    const double a = radians(*turned);
    film_ = (frame.up * std::cos(a) - frame.right * std::sin(a)).as<float>();
  }
  for (const CameraPose& pose : poses) lenses_.push_back(lens_of(pose, world_->camera.f_number));
  for (const Mesh& mesh : world_->meshes) {
    Face face{scattering_of(mesh.material), covered_scattering_of(mesh.material)};
    if (mesh.stamp) face.foil = scattering_of(mesh.foil), face.foil.slight = true;
    if (!mesh.own.empty()) face.dressing.emplace(mesh);
    if (mesh.positions.size() > 1) moves_ = true, slots_ = 4.0f;
    const Scattering& s = face.plain;
    face.mirrors_flat = mesh.light < 0 && mesh.own.empty() && !mesh.stamp && mesh.medium < 0 &&
                        (s.sharp_coat || s.is_mirror()) && is_plane(mesh);
    if (face.mirrors_flat) {
      const Vec3f n = unit(mesh.normals[0]);
      flats_.push_back({&mesh, n, dot(n, mesh.positions[0][0]), s});
    }
    faces_.push_back(face);
  }
  std::vector<double> power;
  for (const StagedLight& l : world_->lights) {
    lights_.emplace_back(l);
    lamp_films_.push_back(film_ && l.film ? l.film->as<float>() : Vec3f{});
    // Whatever the dimmer: layers are remixed. Of a beam what comes through, not all that its luminance could
    // give.
    power.push_back(l.luminance * static_cast<double>(lights_.back().area) *
                    (l.beam ? lights_.back().beam_solid_angle() / pi : 1.0));
  }
  beams_.resize(lights_.size());
  for (std::size_t l = 0; l < world_->lights.size(); ++l)
    if (const auto pane = world_->lights[l].pane; pane && *pane < beams_.size()) beams_[*pane] = l;
  choice_ = LightChoice(lights_, power);
  cards_ = CardAims(*world_, lights_);
  const Rgb luminance_of{luminance(Rgb{1, 0, 0}), luminance(Rgb{0, 1, 0}), luminance(Rgb{0, 0, 1})};
  for (const StagedLight& l : world_->lights)  // one that is off may be switched on later
    shown_.push_back(luminance_of * static_cast<float>(std::max(l.level(), 0.02 * l.luminance)));
  shown_.push_back(luminance_of * static_cast<float>(world_->ambient_luminance));
  if (world_->screens) shown_.push_back(luminance_of);
}

void Tracer::absorb(Path& path, const Hit& hit) const {
  const int medium = path.media.current(world_->media);
  if (medium < 0) return;
  const Vec3f& a = world_->media[static_cast<std::size_t>(medium)].absorption;
  if (largest(a) > 0.0f) path.throughput *= absorbed(a, hit.distance);
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
    path.since.meets(true, false);
    return true;
  };
  if (ruled) {
    if (entering) path.media.enter(m);
    return go_on(d);
  }
  const float outside = other >= 0 ? media[static_cast<std::size_t>(other)].ior : 1.0f;
  const float eta = entering ? outside / own.ior : own.ior / outside;
  const Material& material = hit.mesh->material;
  const Sides sides = facing_of(hit, -d);
  const auto& [flat, n] = sides;
  const float alpha = material.kind == MaterialKind::frosted && material.roughness > 0.03
                          ? static_cast<float>(material.roughness * material.roughness)
                      : hit.covered && material.cover->kind == CoverKind::fingerprints ? grease
                                                                                       : 0.0f;
  const auto tint = [&] {
    path.throughput *=
        Rgb{std::sqrt(static_cast<float>(material.colour.x)), std::sqrt(static_cast<float>(material.colour.y)),
            std::sqrt(static_cast<float>(material.colour.z))};
  };
  if (alpha > 0.0f) {
    Vec3f x, y;
    frame_about(n, x, y);
    const OverFacets way = over_facets({-dot(d, x), -dot(d, y), -dot(d, n)}, alpha, eta, path.sampler);
    Vec3f direction = x * way.direction.x + y * way.direction.y + n * way.direction.z;
    // A smooth normal is not the triangle's: what would end on the wrong side of that goes along it.
    const float side = dot(direction, flat);
    if ((side > 0.0f) == way.crosses) direction = unit(direction - flat * (side * 1.0001f));
    if (way.crosses) tint();
    if (entering == way.crosses) path.media.enter(m);
    return go_on(direction);
  }
  const float ci = -dot(d, n);
  float co = 0.0f;
  const float reflectance = fresnel_reflectance(std::min(ci, 1.0f), eta, co);
  Vec3f direction;
  const Vec3f mirrored = mirrored_direction(-d, sides);
  const Filmed filmed = through_film(path.film, d, n, mirrored, eta);
  bool reflects = false;
  if (reflectance > 0.0f && reflectance < 1.0f && path.may_split()) {
    // Near the camera both ways are followed: the mirrored one later, on its own side of the boundary.
    path.ray.origin = hit.place;
    path.ray.near = off_surface;
    const Media before = path.media;
    if (!entering) path.media.enter(m);
    path.put_off(mirrored, reflectance * filmed.share, path.since.after(true, false), filmed.along);
    path.media = before;
    path.throughput = path.throughput * (1.0f - reflectance);
  } else {
    reflects = path.sampler.one() < reflectance;
  }
  if (reflects) {
    direction = mirrored;
    path.throughput = path.throughput * filmed.share;
    path.film = filmed.along;
  } else {
    direction = unit(d * eta + n * (eta * ci - co));
    if (dot(direction, flat) >= 0.0f) direction = d;
    tint();
  }
  if (entering != reflects) path.media.enter(m);
  return go_on(direction);
}

Tracer::Sides Tracer::facing_of(const Hit& hit, const Vec3f& out) {
  const bool front = dot(out, hit.geometric) > 0.0f;
  Sides f{front ? hit.geometric : -hit.geometric, front ? hit.normal : -hit.normal};
  if (dot(out, f.n) <= 0.0f) f.n = f.flat;
  return f;
}

Vec3f Tracer::mirrored_direction(const Vec3f& out, const Sides& f) {
  const Vec3f direction = f.n * (2.0f * dot(out, f.n)) - out;
  return dot(direction, f.flat) > 0.0f ? direction : f.flat * (2.0f * dot(out, f.flat)) - out;
}

Rgb Tracer::mirror_colour(const Scattering& s, const Mesh& mesh, float cosine) {
  return mesh.material.kind == MaterialKind::metal || mesh.stamp ? metal_fresnel(s.specular, cosine) : s.specular;
}

bool Tracer::seeks_cards(const Path& path, const Scattering& s, const Hit& hit) const {
  return path.asks_always && path.opaque_bounces == 0 && cards_.any() && s.alpha <= 0.0f && s.through <= 0.0f &&
         s.leaves <= 0.0f && !s.body && !s.is_folded() && largest(s.base) > 0.0f && hit.mesh->role != Role::card;
}

bool Tracer::off_opaque(Path& path, const Hit& hit) const {
  const Vec3f out = -path.ray.direction;
  const Sides facing = facing_of(hit, out);
  const auto& [flat, n] = facing;
  Scattering s = scattering_at(hit);
  if (hit.tilted) s.fold = flat;
  path.ray.origin = hit.place;
  path.ray.near = off_surface;

  const bool mirror = s.is_mirror();
  const Vec3f film = std::exchange(path.film, {});
  float lobe = 1.0f;
  if (mirror || s.sharp_coat) {
    const float co = std::min(1.0f, dot(out, n));
    const float mirrored = mirror ? 1.0f : s.coat_reflects(co);
    const bool split = !mirror && path.may_split();
    if (!mirror) {
      lobe = split ? 1.0f : 1.0f - mirrored;
      light_directly(path, s, hit, out, n, lobe);
    }
    const Vec3f direction = mirrored_direction(out, facing);
    const Filmed filmed =
        mirror ? by_metal(film, -out, n, direction) : through_film(film, -out, n, direction, 1.0f / s.coat_ior);
    if (split) {
      path.put_off(direction, mirrored * filmed.share, path.since.after(false, is_flat(hit.mesh)), filmed.along);
    } else if (mirror || path.sampler.one() < mirrored) {
      path.throughput = path.throughput * filmed.share;
      path.film = filmed.along;
      if (mirror) path.throughput *= mirror_colour(s, *hit.mesh, co);
      path.ray.direction = direction;
      path.specular = true;
      path.since.meets(mirror && !s.slight,
                       is_flat(hit.mesh));  // a coat throws so little that paths find it as well
      return true;
    } else {
      path.throughput = path.throughput * (1.0f / lobe);
    }
    if (s.body) {
      path.throughput = path.throughput * ((1.0f - mirrored) / (s.coat_ior * s.coat_ior));
      return walk_inside(path, hit, s);
    }
  } else if (s.body) {
    // What comes back from inside is no longer polarised; of its rough face little is.
    const Scattering::Outward outward = s.outward(out, n);
    const float let_in = outward.passes * s.coat_ior * s.coat_ior;
    lobe = 1.0f - std::clamp(let_in, 0.1f, 0.9f);
    if (!(path.photons && path.since.gathered)) light_directly(path, s, hit, out, n, lobe);
    if (path.sampler.one() >= lobe) {
      path.throughput = path.throughput * (outward.passes / (1.0f - lobe));
      return walk_inside(path, hit, s);
    }
    path.throughput = path.throughput * (1.0f / lobe);
  } else if (s.gathers() || !(path.photons && path.since.gathered && (path.since.thrown || !s.slight))) {
    // Else its photons were looked up.
    if (s.alpha > 0.0f) path.film = film;
    light_directly(path, s, hit, out, n, lobe);
  }
  if (largest(s.base) <= 0.0f && s.alpha <= 0.0f) return false;
  const Bounce bounce{hit, s, out, facing, lobe, seeks_cards(path, s, hit)};
  // What the first matte place gets from others is what is least sure of a picture: several ways look for it.
  const int ways = s.gathers() ? std::exchange(path.ways, 1) : 1;
  const auto [u, v] = path.sampler.pair();
  const float to_card = bounce.to_cards ? path.sampler.one() : 1.0f,
              choice = bounce.to_cards || s.alpha > 0.0f || s.through > 0.0f ? path.sampler.one() : 1.0f;
  const auto turned = [](float number, int way, float by) {  // evenly spread over the ways
    const float at = number + static_cast<float>(way) * by;
    return at - std::floor(at);
  };
  if (ways > 1) path.throughput = path.throughput * (1.0f / static_cast<float>(ways));
  for (int way = 1; way < ways; ++way) {
    Path side = path;
    side.rays = 0, side.splits = 0, side.branch_count = 0;
    constexpr float by_u = 0.7548777f, by_v = 0.5698403f;  // Roberts 2018, the plane's even sequence
    if (bounce_on(side, bounce, turned(u, way, by_u), turned(v, way, by_v),
                  turned(to_card, way, 1.0f / static_cast<float>(ways)), turned(choice, way, by_v))) {
      ++side.depth;
      one_way(side, {});
    }
    path.rays += side.rays;
  }
  return bounce_on(path, bounce, u, v, to_card, choice);
}

/// One direction onward from an opaque place.
bool Tracer::bounce_on(Path& path, const Bounce& bounce, float u, float v, float to_card, float choice) const {
  const auto& [hit, s, out, facing, lobe, to_cards] = bounce;
  const auto& [flat, n] = facing;
  Scattering::Sample next;
  if (to_cards) {
    if (to_card < CardAims::share) {
      next.direction = cards_.toward(hit.place, choice, u, v);
      const auto both = s.both(s.outward(out, n), next.direction);
      next.density = both.density, next.weight = both.value;
    } else {
      next = s.sample(out, n, 1.0f, u, v);
      next.weight = next.weight * next.density;
    }
    if (next.density <= 0.0f) return false;
    next.density = with_cards(hit, next.direction, next.density);
    next.weight = next.weight * (1.0f / next.density);
  } else {
    next = s.sample(out, n, s.alpha > 0.0f || s.through > 0.0f ? choice : 1.0f, u, v);
  }
  if (next.density <= 0.0f) return false;
  const bool crosses = dot(next.direction, flat) < 0.0f;
  if (crosses && s.through <= 0.0f) return false;
  if (dot(path.film, path.film) > 0.0f) {
    const FilmedLobe filmed = through_film(path.film, s, s.outward(out, n), next.direction);
    next.weight = filmed.value * (1.0f / next.density);
    const float whole = luminance(filmed.value), facets = luminance(filmed.facets);
    path.film = facets > 0.0f && path.sampler.one() * whole < facets ? filmed.along : Vec3f{};
  }
  path.throughput *= next.weight;
  path.ray.direction = next.direction;
  path.specular = false;
  if (s.gathers())
    path.since = {.gathered = true, .asked = path.asks_planes() && !flats_.empty()};
  else
    path.since.meets(!s.slight, false);
  path.last_density = next.density * lobe;
  path.last_place = hit.place, path.last_lit_side = lit_side(s, n);
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
            .photons = options.photons,
            .asks_always = options.asks_always,
            .ways = options.ways,
            .start = largest(throughput),
            .splits = options.splits,
            .film = options.first && film_ ? *film_ : Vec3f{}};
  while (one_way(path, options) && path.branch_count > 0) {
    const Branch next = path.branches[static_cast<std::size_t>(--path.branch_count)];
    path.ray = next.ray, path.throughput = next.throughput, path.media = next.media;
    path.depth = next.depth, path.splits = next.splits;
    path.since = next.since, path.walled = next.walled, path.film = next.film;
    path.opaque_bounces = 0;
    path.specular = true;
  }
  return path.rays;
}

void Tracer::met_light(Path& path, const Hit& hit, std::size_t l) const {
  const float shines = lights_[l].emission(hit.place, path.ray.direction, hit.geometric);
  if (shines <= 0.0f) return;
  float weight = 1.0f;
  if (!path.specular) {
    const bool all = path.opaque_bounces == 1 && lights_.size() <= all_lights;
    const float by_light = lights_[l].density(path.last_place, path.ray.direction, hit.distance, hit.geometric) *
                           (all ? (choice_.anywhere().chance(l) > 0 ? 1.0f : 0.0f)
                                : choice_.chance(path.last_place, path.last_lit_side, l));
    weight = path.last_density / (path.last_density + by_light);
  }
  path.layers[l] += path.throughput * (shines * weight * of_lamp(path.film, path.ray.direction, l));
}

bool Tracer::one_way(Path& path, const FollowOptions& options) const {
  const std::size_t ambient_layer = lights_.size();
  bool looks_on = options.first && path.depth == 0;  // for what stands behind glass
  for (; path.depth < deepest; ++path.depth) {
    ++path.rays;
    if (path.record) path.record->push_back({path.ray, false});
    const Hit hit = meet(path.ray);
    if (clouds_.any()) in_the_air(path, hit.mesh ? hit.distance : farthest);
    if (!hit.mesh) {
      if (!path.walled) path.layers[ambient_layer] += path.throughput;
      break;
    }
    absorb(path, hit);
    if (path.depth == 0 && options.first) *options.first = first_hit(hit);
    if (hit.mesh->material.screen > 0.0) path.layers[ambient_layer + 1] += path.throughput * shown_by(hit);
    if (looks_on && hit.mesh->medium < 0) {
      options.first->behind = hit.mesh->light >= 0 ? Rgb{1, 1, 1} : scattering_at(hit).base;
      looks_on = false;
    }
    if (hit.mesh->role == Role::room && !path.walled) {
      path.layers[ambient_layer] += path.throughput;
      path.walled = true;
    }
    if (hit.mesh->light >= 0) {
      const auto l = static_cast<std::size_t>(hit.mesh->light);
      if (!(path.depth == 0 && options.skip_first_light) && !path.since.counted(path.photons)) {
        met_light(path, hit, l);
        // What glass threw of a disc as small as the sun's would be met by the rarest chance.
        if (beams_[l] && !(path.since.gathered && path.specular)) met_light(path, hit, *beams_[l]);
      }
      break;  // a light's body is black
    }
    if (!(lets_in(hit) ? through_boundary(path, hit) : off_opaque(path, hit))) break;
    if (path.depth >= 2) {  // Russian roulette
      const float stay = std::min(1.0f, largest(path.throughput) / path.start * (path.depth < 16 ? 1.0f : 0.8f));
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

Rgb Tracer::shown_by(const Hit& hit) const {
  const Material& m = hit.mesh->material;
  const Rgb shown = m.colour.as<float>() * static_cast<float>(m.screen);
  return shown * hit.mesh->printed(hit.u, hit.v);
}

FirstHit Tracer::first_hit(const Hit& hit) const {
  FirstHit first;
  first.mesh = hit.mesh;
  first.normal = hit.normal;
  first.distance = hit.distance;
  first.albedo = hit.mesh->medium >= 0 ? Rgb{1, 1, 1}
                 : hit.mesh->picture   ? scattering_at(hit).base
                                       : hit.mesh->material.colour.as<float>();
  first.foil = stamped(hit) ? 1.0f : 0.0f;
  return first;
}

void Tracer::look(Film& film, const std::vector<char>* only) const {
  tbb::parallel_for(0, film.height, [&](int y) {
    for (int x = 0; x < film.width; ++x) {
      if (only && !(*only)[film.at(x, y)]) continue;
      Sampler sampler(static_cast<std::uint32_t>(film.at(x, y)), static_cast<std::uint32_t>(film.begins));
      if (const Hit hit = meet(camera_ray(film, x, y, sampler)); hit.mesh)
        film.first[film.at(x, y)] = first_hit(hit);
    }
  });
  rays_ += film.pixels();
}

namespace {

/// How often a printed pixel has been looked at for its print alone when pass `index` begins: mostly in the first
/// passes, where nothing else says what is light and what is print.
constexpr std::uint32_t looks_before(std::uint32_t index) {
  constexpr std::uint32_t first = 10, early = 18, later = 3, until = 4, last = 16;  // looks of a pass; passes
  if (index == 0) return 0;
  return first + early * (std::min(index, until) - 1) + later * (std::clamp(index, until, last) - until);
}

/// Keeps what a pixel met: of the first pass what, of all of them what it reflects in the mean of so many looks.
void note(FirstHit& first, const FirstHit& met, std::uint32_t index, std::uint32_t before) {
  if (index == 0) {
    first = met;
  } else if (met.mesh == first.mesh) {
    const float part = 1.0f / static_cast<float>(before + 1);
    first.albedo += (met.albedo - first.albedo) * part;
    first.behind += (met.behind - first.behind) * part;
    first.foil += (met.foil - first.foil) * part;
  }
}

}  // namespace

/// Looks at a printed pixel a few times more: fine print, or one that moves past, is known sooner than its light.
std::uint64_t Tracer::look_closer(Film& film, int x, int y) const {
  FirstHit& first = film.first[film.at(x, y)];
  const auto index = static_cast<std::uint32_t>(film.passes);
  const std::uint32_t before = looks_before(index), looks = looks_before(index + 1) - before;
  for (std::uint32_t k = 0; k < looks; ++k) {
    Sampler sampler(static_cast<std::uint32_t>(film.at(x, y)) ^ 0x5f356495U,
                    static_cast<std::uint32_t>(film.begins) + before + k);
    const Hit hit = meet(camera_ray(film, x, y, sampler));
    if (hit.mesh != first.mesh || !hit.mesh) continue;
    const auto so_far = static_cast<float>(index + 1 + before + k);
    const float part = 1.0f / (so_far + 1.0f);
    first.albedo += (scattering_at(hit).base - first.albedo) * part;
    first.foil += ((stamped(hit) ? 1.0f : 0.0f) - first.foil) * part;
  }
  return looks;
}

bool Tracer::add_pass(Film& film, const std::atomic<bool>* cancel, std::vector<RayRecord>* record,
                      const std::vector<char>* only) const {
  const auto index = static_cast<std::uint32_t>(film.passes),
             sample = static_cast<std::uint32_t>(film.begins + film.passes);
  std::atomic<bool> stopped{false};
  const bool prints = film.caustics == Caustics::by_photons;  // a picture to be looked at: print is to be sharp
  std::optional<PhotonMap> photons;
  if (prints && photon_source().lights.any()) {
    const std::size_t pixels =
        only ? static_cast<std::size_t>(std::count(only->begin(), only->end(), 1)) : film.pixels();
    photons = throw_photons(photon_plan(film, pixels), film.begins + film.passes, cancel, record);
    if (!photons) return false;
  }
  const auto rows = [&](int x0, int x1, int y0, int y1) {
    std::uint64_t rays = 0;
    for (int y = y0; y < y1; ++y)
      for (int x = x0; x < x1; ++x) {
        const auto pixel =
            static_cast<std::size_t>(y) * static_cast<std::size_t>(film.width) + static_cast<std::size_t>(x);
        if (only && !(*only)[pixel]) continue;
        Sampler sampler(static_cast<std::uint32_t>(pixel), sample);
        const Ray ray = camera_ray(film, x, y, sampler);
        FirstHit met;
        const auto shown = [&] {
          float sum = 0.0f;
          for (std::size_t l = 0; l < film.layers; ++l) sum += dot(film.sums[pixel * film.layers + l], shown_[l]);
          return sum;
        };
        rays += follow(ray, {1, 1, 1}, sampler, &film.sums[pixel * film.layers],
                       {.first = &met,
                        .splits = 2,
                        .record = record,
                        .photons = photons ? &*photons : nullptr,
                        .asks_always = prints,
                        .ways = film.ways});
        if (!film.squares.empty()) {
          const float all = shown(), own = all - film.totals[pixel];
          film.totals[pixel] = all;
          film.squares[pixel] += own * own;
        }
        const Mesh* mesh = index == 0 ? met.mesh : film.first[pixel].mesh;
        const bool print = prints && mesh && (mesh->picture || mesh->stamp);
        note(film.first[pixel], met, index, index + (print ? looks_before(index) : 0));
        if (print) rays += look_closer(film, x, y);
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
  if (prints && index == 0) look_at_edges(film, only);
  ++film.passes;
  return true;
}

}  // namespace cinnabar
