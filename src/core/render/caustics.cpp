// The tracer's photons: from the lights over mirrors and clear bodies to what scatters, and what is seen of them.
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <optional>

#include "cinnabar/color/white.h"
#include "cinnabar/render/path.h"

namespace cinnabar {
using namespace tracing;

const Tracer::PhotonSource& Tracer::photon_source() const {
  constexpr int looks = 16;
  constexpr double even = 0.2;  // so much is shared among all lights alike: any of them may be looked at alone
  std::call_once(source_made_, [&] {
    PhotonAims aims(*world_);
    std::vector<double> pulls;
    double all = 0.0, shining = 0.0;
    for (std::size_t i = 0; i < lights_.size(); ++i) {
      double pull = 0.0;
      // Photons of the sun would miss what throws: a pane is far wider than a product.
      for (int k = 0; k < looks && choice_.anywhere().chance(i) > 0.0f && !world_->lights[i].beam; ++k) {
        Sampler sampler(0x3c6ef372U, static_cast<std::uint32_t>(k));
        const auto [u, v] = sampler.pair();
        pull += static_cast<double>(aims.pull(lights_[i].point(u, v).place)) / looks;
      }
      pulls.push_back(pull * static_cast<double>(lights_[i].area) * world_->lights[i].luminance);
      all += pulls.back();
      shining += pulls.back() > 0.0 ? 1.0 : 0.0;
    }
    for (double& p : pulls) p = p > 0.0 ? (1.0 - even) * p / all + even / shining : 0.0;
    source_ =
        std::make_unique<const PhotonSource>(PhotonSource{std::move(aims), Choice(pulls), widest_discs(*world_)});
  });
  return *source_;
}

Tracer::PhotonPlan Tracer::photon_plan(const Film& film, std::size_t pixels) const {
  PhotonPlan plan;
  plan.count = std::clamp<std::size_t>(pixels / 8, 2048, std::size_t{1} << 18);
  const Lens& lens = lenses_.front();
  const float pixel = static_cast<float>(world_->camera.optics.sensor_width) / lens.image * lens.focus /
                      static_cast<float>(film.width);
  plan.radius = std::clamp(1.5f * pixel, 1e-5f, 0.05f);
  // Radii that shrink by this power of the passes keep the sum of blur and noise least (alpha 2/3).
  plan.shrink = std::pow(static_cast<float>(film.passes + 1), -1.0f / 6.0f);
  return plan;
}

std::optional<Tracer::Sent> Tracer::send(Sampler& sampler, float part) const {
  const PhotonSource& source = photon_source();
  const std::size_t i = source.lights.pick(sampler.one());
  const LightSampler& light = lights_[i];
  const auto [pu, pv] = sampler.pair();
  const auto [du, dv] = sampler.pair();
  const auto [choice, time] = sampler.pair();
  const LightSampler::Point from = light.point(pu, pv);
  const PhotonAims::Aim aim = source.aims.from(from.place, choice, du, dv);
  const float cosine = dot(aim.direction, from.normal);
  if (aim.density <= 0.0f || cosine <= 0.0f || source.lights.chance(i) <= 0.0f) return std::nullopt;
  const float shines = light.emission(from.place, -aim.direction, from.normal);
  if (shines <= 0.0f) return std::nullopt;
  return Sent{i,
              {from.place + from.normal * light.inside(), aim.direction, off_surface, 1e30f, moves_ ? time : 0.5f},
              shines * cosine * light.area / (aim.density * source.lights.chance(i)) * part};
}

/// Off metal, a mirror or a coat; false where it stays. What goes into a body that scatters inside stays: it is
/// found by paths.
bool Tracer::throw_on(Path& path, const Scattering& s, const Hit& hit) const {
  const Vec3f out = -path.ray.direction;
  const Sides sides = facing_of(hit, out);
  if (s.is_mirror() || s.sharp_coat) {
    const bool mirror = s.is_mirror();
    const float cosine = std::min(1.0f, dot(out, sides.n));
    const float mirrored = mirror ? 1.0f : s.coat_reflects(cosine);
    if (mirror) path.throughput *= mirror_colour(s, *hit.mesh, cosine);
    if (!path.since.thrown)
      path.throughput = path.throughput * mirrored;  // what scatters there came straight and is not ours
    else if (!mirror && path.sampler.one() >= mirrored)
      return false;
    path.since.meets(mirror && !s.slight, is_flat(hit.mesh));
    path.ray.direction = mirrored_direction(out, sides);
  } else {
    const auto [u, v] = path.sampler.pair();
    const Scattering::Sample next = s.sample(out, sides.n, path.sampler.one(), u, v);
    if (next.density <= 0.0f || (dot(next.direction, sides.flat) <= 0.0f && s.through <= 0.0f)) return false;
    path.throughput *= next.weight;
    path.since.meets(!s.slight, false);
    path.ray.direction = next.direction;
  }
  path.ray.origin = hit.place;
  path.ray.near = off_surface;
  return true;
}

std::uint64_t Tracer::throw_photon(Sampler& sampler, float part, std::vector<RayRecord>* record,
                                   std::vector<Photon>& out) const {
  const auto sent = send(sampler, part);
  if (!sent) return 0;
  // `since` tells what it met since it left the light: what comes straight, or over one plane, is not ours.
  Path path{.ray = sent->ray,
            .throughput = Rgb{1, 1, 1} * sent->flux,
            .sampler = sampler,
            .layers = nullptr,
            .record = record};
  for (int depth = 0; depth < deepest; ++depth) {
    ++path.rays;
    if (record) record->push_back({path.ray, false});
    const Hit hit = meet(path.ray);
    if (!hit.mesh || hit.mesh->light >= 0) break;
    if (clouds_.any())
      path.throughput = path.throughput * clouds_.passes(path.ray, hit.distance, path.sampler.one());
    absorb(path, hit);
    if (lets_in(hit)) {
      if (!through_boundary(path, hit)) break;
    } else {
      const Scattering s = scattering_at(hit);
      const float cosine = std::abs(dot(path.ray.direction, hit.geometric));
      if (path.since.thrown && !path.since.by_plane && s.gathers() && cosine > 0.02f)
        out.push_back({hit.place, path.ray.direction, path.throughput * (1.0f / cosine), hit.mesh,
                       static_cast<std::uint16_t>(sent->light), slot_of(path.ray.time)});
      if ((s.gathers() && !s.sharp_coat) || !throw_on(path, s, hit)) break;
    }
    if (depth >= 3) {
      const float stay = std::min(1.0f, largest(path.throughput) / sent->flux * (depth < 12 ? 1.0f : 0.8f));
      if (stay <= 0.0f || sampler.one() >= stay) break;
      path.throughput = path.throughput * (1.0f / stay);
    }
  }
  return path.rays;
}

std::optional<PhotonMap> Tracer::throw_photons(const PhotonPlan& plan, int pass, const std::atomic<bool>* cancel,
                                               std::vector<RayRecord>* record) const {
  constexpr std::size_t piece = 512;
  const std::size_t pieces = (plan.count + piece - 1) / piece;
  std::vector<std::vector<Photon>> landed(pieces);
  const float part = 1.0f / static_cast<float>(plan.count);
  const auto work = [&](std::size_t k) {
    if (cancel && cancel->load(std::memory_order_relaxed)) return;
    std::uint64_t rays = 0;
    for (std::size_t j = k * piece; j < std::min(plan.count, (k + 1) * piece); ++j) {
      Sampler sampler(hashed(0x7f4a7c15U + static_cast<std::uint32_t>(pass)), static_cast<std::uint32_t>(j));
      rays += throw_photon(sampler, part, record, landed[k]);
    }
    rays_ += rays;
  };
  if (record)
    for (std::size_t k = 0; k < pieces; ++k) work(k);
  else
    tbb::parallel_for(std::size_t{0}, pieces, work);
  if (cancel && cancel->load(std::memory_order_relaxed)) return std::nullopt;
  std::vector<Photon> all;
  for (const auto& some : landed) all.insert(all.end(), some.begin(), some.end());
  return PhotonMap(*world_, std::move(all), {plan.radius, plan.shrink, photon_source().widest});
}

void Tracer::gather(Path& path, const Scattering& s, const Scattering::Outward& outward, const Hit& hit) const {
  // Not every time: what is seen by way of another surface needs fewer looks.
  const float chance = path.opaque_bounces > 0 ? 0.25f : 0.5f;
  if (path.sampler.one() >= chance) return;
  // Inside a clear body the photons' light is as dense as its index squared; what is seen of it outside is not.
  const int medium = path.media.current(world_->media);
  const float ior = medium >= 0 ? world_->media[static_cast<std::size_t>(medium)].ior : 1.0f;
  const float scale = 2.0f * slots_ / (pif * ior * ior * chance);
  const std::uint16_t slot = slot_of(path.ray.time);
  const bool matte = s.alpha <= 0.0f && s.coat_ior <= 0.0f && s.through <= 0.0f;
  path.photons->near(hit.place, [&](const Photon& p, float d2) {
    if (p.mesh != hit.mesh || p.slot != slot ||
        std::abs(dot(p.place - hit.place, hit.geometric)) > 0.3f * p.radius)
      return;
    const float r2 = p.radius * p.radius;
    const Rgb f = matte ? s.base * (std::max(0.0f, -dot(p.direction, outward.n)) / pif)
                        : s.both(outward, -p.direction).value;
    path.layers[p.light] += path.throughput * f * p.flux * (scale * (1.0f - d2 / r2) / r2);
  });
}

}  // namespace cinnabar
