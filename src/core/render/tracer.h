// The path tracer: light layers, next-event estimation with multiple importance sampling (Veach 1997), clear
// bodies one inside another by priority (Schmidt & Budge 2002, JGT 7:2), fine drops in the air, which scatter
// once, thin-lens focus, true motion blur and a rolling shutter. Photometric: film sums are luminances per unit
// luminance of each light.
#pragma once
#include <atomic>
#include <memory>
#include <mutex>
#include <optional>
#include <vector>

#include "cinnabar/render/cards.h"
#include "cinnabar/render/choice.h"
#include "cinnabar/render/clouds.h"
#include "cinnabar/render/dressing.h"
#include "cinnabar/render/film.h"
#include "cinnabar/render/geometry.h"
#include "cinnabar/render/light_choice.h"
#include "cinnabar/render/light_sampling.h"
#include "cinnabar/render/photons.h"
#include "cinnabar/render/sampler.h"
#include "cinnabar/render/surface_scattering.h"

namespace cinnabar {

class Tracer {
 public:
  explicit Tracer(std::shared_ptr<const StagedWorld> world);

  [[nodiscard]] const StagedWorld& world() const { return *world_; }
  [[nodiscard]] const Geometry& geometry() const { return *geometry_; }
  [[nodiscard]] Film film(int width, int height, Caustics caustics = Caustics::by_paths) const {
    return {width, height, world_->lights.size(), caustics, world_->screens};
  }

  /// Adds one sample to every pixel, on all cores. False when `cancel` was set meanwhile; the film is then of no
  /// use. The same film and pass give the same sums, whatever the cores. `record` (one core only) keeps the rays.
  /// `only`, by pixel, leaves the others as they are.
  bool add_pass(Film& film, const std::atomic<bool>* cancel = nullptr, std::vector<RayRecord>* record = nullptr,
                const std::vector<char>* only = nullptr) const;
  /// What each pixel meets first, as the film's first pass will tell it, without any light.
  void look(Film& film, const std::vector<char>* only = nullptr) const;
  /// Which pixels that do not show what each of their neighbours does are shared by several bodies, and how; of
  /// all or of `only`.
  void look_at_edges(Film& film, const std::vector<char>* only = nullptr) const;
  /// Rays traced so far, shadow rays included.
  [[nodiscard]] std::uint64_t rays() const { return rays_.load(); }

  struct FollowOptions {
    FirstHit* first = nullptr;      ///< told what the ray meets first
    bool skip_first_light = false;  ///< a light met at once is not counted
    int splits = 0;                 ///< how many clear or coated boundaries are followed both ways
    std::vector<RayRecord>* record = nullptr;
    /// Where given, light from mirrors and glass onto what scatters is looked up there and not followed.
    const PhotonMap* photons = nullptr;
    /// For pictures: what planes mirror is asked for at every bounce, not at the first alone, and cards are
    /// sought.
    bool asks_always = false;
    int ways = 1;  ///< in which the first place that scatters looks for what others give it
  };
  /// Follows one path and adds what it gathers, times `throughput`, to `layers` (lights, then ambient). Returns
  /// the rays it took.
  std::uint64_t follow(const Ray& ray, const Rgb& throughput, Sampler& sampler, Rgb* layers,
                       const FollowOptions& options) const;

  [[nodiscard]] const std::vector<LightSampler>& lights() const { return lights_; }
  [[nodiscard]] const Clouds& clouds() const { return clouds_; }

  /// A camera pose in single precision.
  struct Lens {
    Vec3f place, right, up, ahead;
    float focus, image, radius;
    bool operator==(const Lens&) const = default;
  };

 private:
  struct Path;
  struct Bounce;
  bool one_way(Path& path, const FollowOptions& options) const;
  void light_directly(Path& path, const Scattering& s, const Hit& hit, const Vec3f& out, const Vec3f& n,
                      float lobe) const;
  /// What the air scatters onto the path's way of all lights, up to what it met there; and takes from it.
  void in_the_air(Path& path, float far) const;
  /// The lights that are asked at a place, from one up to another: all of few, else one by chance.
  struct AskedLights {
    std::size_t from, to;
    float chance;
  };
  [[nodiscard]] AskedLights asked_lights(Path& path, const Vec3f& place, const Vec3f& side) const;
  /// What the polariser before the lens makes of what is mirrored, against what it takes of all else, and along
  /// what it lets that through; 1 where it does nothing to it.
  struct Filmed {
    float share = 1.0f;
    Vec3f along{};
  };
  [[nodiscard]] static Filmed through_film(const Vec3f& film, const Vec3f& direction, const Vec3f& normal,
                                           const Vec3f& mirrored, float eta);
  /// The same by metal, which turns nothing and takes both parts alike.
  [[nodiscard]] static Filmed by_metal(const Vec3f& film, const Vec3f& direction, const Vec3f& normal,
                                       const Vec3f& mirrored);
  /// Of a rough lobe seen behind the lens's polariser: what the film makes of its facets' part, the rest as it is.
  struct FilmedLobe {
    Rgb value, facets;  ///< with the cosine; facets: their part of it
    Vec3f along{};      ///< the film on the way on from a facet
  };
  [[nodiscard]] static FilmedLobe through_film(const Vec3f& film, const Scattering& s,
                                               const Scattering::Outward& outward, const Vec3f& in);
  /// What that film lets through of a light that comes along `direction`, against light that is not polarised.
  [[nodiscard]] float of_lamp(const Vec3f& film, const Vec3f& direction, std::size_t light) const;
  void met_light(Path& path, const Hit& hit, std::size_t light) const;
  /// A shadow ray to a light's sampled place.
  [[nodiscard]] Ray toward(const Vec3f& place, std::size_t light, const LightSampler::Sample& l, float time) const;
  /// Share of a light that comes over a shadow ray, which is counted.
  [[nodiscard]] float arriving(Path& path, const Ray& shadow) const;
  void light_over_flats(Path& path, const Scattering& s, const Scattering::Outward& outward, const Hit& hit) const;
  [[nodiscard]] bool is_flat(const Mesh* mesh) const { return faces_[number_of(mesh)].mirrors_flat; }
  [[nodiscard]] bool through_boundary(Path& path, const Hit& hit) const;
  [[nodiscard]] bool off_opaque(Path& path, const Hit& hit) const;
  [[nodiscard]] bool bounce_on(Path& path, const Bounce& bounce, float u, float v, float to_card,
                               float choice) const;
  [[nodiscard]] bool walk_inside(Path& path, const Hit& entry, const Scattering& s) const;
  /// Whether some of the directions from there go to cards: in pictures; levels take fewer looks, and cheaper
  /// ones.
  [[nodiscard]] bool seeks_cards(const Path& path, const Scattering& s, const Hit& hit) const;
  /// Of a direction from there by all its ways: as the surface scatters, and to cards.
  [[nodiscard]] float with_cards(const Hit& hit, const Vec3f& direction, float scattered) const {
    return (1.0f - CardAims::share) * scattered + CardAims::share * cards_.density(hit.place, direction);
  }
  void absorb(Path& path, const Hit& hit) const;

  /// The normals on the side a direction points to: of the triangle, and smooth.
  struct Sides {
    Vec3f flat, n;
  };
  [[nodiscard]] bool leave(Path& path, const Hit& hit, const Scattering& s, const Sides& inner) const;
  /// The side of a surface that lights can give it anything from; nothing for both.
  [[nodiscard]] static Vec3f lit_side(const Scattering& s, const Vec3f& n) {
    return s.through > 0.0f || s.is_folded() ? Vec3f{} : n;
  }
  [[nodiscard]] static Sides facing_of(const Hit& hit, const Vec3f& out);
  [[nodiscard]] static Vec3f mirrored_direction(const Vec3f& out, const Sides& facing);
  [[nodiscard]] static Rgb mirror_colour(const Scattering& s, const Mesh& mesh, float cosine);

  /// What photons need, made when the first are sent: most tracers send none.
  struct PhotonSource {
    PhotonAims aims;
    Choice lights;
    std::vector<float> widest;  // disc, by mesh
  };
  [[nodiscard]] const PhotonSource& photon_source() const;
  struct PhotonPlan {
    std::size_t count;
    float radius;  ///< metres, of the narrowest disc
    float shrink;
  };
  [[nodiscard]] PhotonPlan photon_plan(const Film& film, std::size_t pixels) const;
  /// Nothing when cancelled.
  [[nodiscard]] std::optional<PhotonMap> throw_photons(const PhotonPlan& plan, int pass,
                                                       const std::atomic<bool>* cancel,
                                                       std::vector<RayRecord>* record) const;
  /// A photon as it leaves: of which light, and its flux for unit luminance.
  struct Sent {
    std::size_t light;
    Ray ray;
    float flux;
  };
  [[nodiscard]] std::optional<Sent> send(Sampler& sampler, float part) const;
  [[nodiscard]] bool throw_on(Path& path, const Scattering& s, const Hit& hit) const;
  std::uint64_t throw_photon(Sampler& sampler, float part, std::vector<RayRecord>* record,
                             std::vector<Photon>& out) const;
  void gather(Path& path, const Scattering& s, const Scattering::Outward& outward, const Hit& hit) const;
  [[nodiscard]] std::uint16_t slot_of(float time) const {
    return static_cast<std::uint16_t>(std::min(time, 0.999999f) * slots_);
  }
  [[nodiscard]] Hit meet(const Ray& ray) const {
    Hit hit = geometry_->meet(ray);
    if (hit.mesh && !hit.mesh->own.empty()) faces_[number_of(hit.mesh)].dressing->put_on(hit);
    return hit;
  }
  [[nodiscard]] std::size_t number_of(const Mesh* mesh) const {
    return static_cast<std::size_t>(mesh - world_->meshes.data());
  }
  /// Whether rays go into what was met there, and are not thrown back.
  [[nodiscard]] static bool lets_in(const Hit& hit) {
    return hit.mesh->medium >= 0 && !(hit.covered && hit.mesh->material.cover->kind == CoverKind::dust);
  }
  [[nodiscard]] Scattering scattering_at(const Hit& hit) const;
  [[nodiscard]] Rgb shown_by(const Hit& hit) const;  ///< cd/m2 of a screen
  [[nodiscard]] FirstHit first_hit(const Hit& hit) const;
  std::uint64_t look_closer(Film& film, int x, int y) const;
  [[nodiscard]] Ray camera_ray(const Film& film, int x, int y, Sampler& sampler) const;

  std::shared_ptr<const StagedWorld> world_;
  std::unique_ptr<Geometry> geometry_;
  std::vector<LightSampler> lights_;
  std::optional<Vec3f> film_;      // along what the polariser lets through
  std::vector<Vec3f> lamp_films_;  // the same of the films before lights; nothing where there is none
  std::vector<std::optional<std::size_t>> beams_;  // by light, the beam that comes through its face
  std::vector<Lens> lenses_;                       // over the exposure, evenly
  /// What one mesh shows: without its picture, where its cover lies, where foil is stamped on.
  struct Face {
    Scattering plain, covered, foil{};
    std::optional<Dressing> dressing{};
    bool mirrors_flat = false;  ///< a plane that mirrors
  };
  std::vector<Face> faces_;  // by mesh
  LightChoice choice_;       // of a light, where one is asked
  /// A plane that mirrors sharply, coat or mirror: what it throws of a light is asked for there.
  struct Flat {
    const Mesh* mesh;
    Vec3f normal;
    float offset;
    Scattering surface;
  };
  std::vector<Flat> flats_;
  CardAims cards_;
  Clouds clouds_;
  float slots_ = 1.0f;      // parts of the exposure that photons are kept apart by, where things move
  std::vector<Rgb> shown_;  // by layer, what its sums add to a pixel's luminance, as the lights are now
  bool moves_ = false;      // something moves through the exposure
  mutable std::once_flag source_made_;
  mutable std::unique_ptr<const PhotonSource> source_;
  mutable std::atomic<std::uint64_t> rays_{0};
};

}  // namespace cinnabar
