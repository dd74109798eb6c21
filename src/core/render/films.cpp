// Polarising films before the lens and before lights: along a path goes what the lens's lets through.
#include <algorithm>
#include <cmath>

#include "cinnabar/optics/fresnel.h"
#include "cinnabar/render/path.h"

namespace cinnabar {

namespace {
/// A film's direction square to a ray, unit, by its parts along `s` and along the plane of incidence.
struct FilmParts {
  Vec3f s;
  float along_s, along_p;
};
std::optional<FilmParts> film_parts(const Vec3f& film, const Vec3f& d, const Vec3f& n) {
  if (dot(film, film) <= 0.0f) return std::nullopt;
  const Vec3f flat = film - d * dot(film, d);
  Vec3f s = cross(d, n), other;
  if (dot(s, s) < 1e-8f) frame_about(d, s, other);
  s = unit(s);
  const float ff = std::sqrt(dot(flat, flat));
  if (ff < 1e-4f) return std::nullopt;
  return FilmParts{s, dot(flat, s) / ff, dot(flat, cross(s, d)) / ff};
}
}  // namespace

Tracer::Filmed Tracer::through_film(const Vec3f& film, const Vec3f& d, const Vec3f& n, const Vec3f& mirrored,
                                    float eta) {
  const auto parts = film_parts(film, d, n);
  if (!parts) return {};
  const auto [rs, rp] = reflected_amplitudes(std::min(1.0f, std::abs(dot(d, n))), eta);
  const float mean = 0.5f * (rs * rs + rp * rp), s = rs * parts->along_s, p = rp * parts->along_p,
              passed = s * s + p * p;
  if (mean <= 0.0f || passed <= 0.0f) return {mean > 0.0f ? 0.0f : 1.0f, {}};
  return {passed / mean, unit(parts->s * s + cross(parts->s, mirrored) * p)};
}

Tracer::Filmed Tracer::by_metal(const Vec3f& film, const Vec3f& d, const Vec3f& n, const Vec3f& mirrored) {
  const auto parts = film_parts(film, d, n);
  if (!parts) return {};
  return {1.0f, unit(cross(parts->s, mirrored) * parts->along_p - parts->s * parts->along_s)};
}

/// Malus: of light that is still as its own film let it go, the lens's takes more or less than half. Two that are
/// crossed let a hundredth through (common practice, no source).
float Tracer::of_lamp(const Vec3f& film, const Vec3f& d, std::size_t light) const {
  const Vec3f& lamp = lamp_films_[light];
  if (dot(lamp, lamp) <= 0.0f || dot(film, film) <= 0.0f) return 1.0f;
  const Vec3f own = lamp - d * dot(lamp, d), lens = film - d * dot(film, d);
  const float sizes = dot(own, own) * dot(lens, lens);
  if (sizes < 1e-6f) return 1.0f;
  constexpr float leaks = 0.005f;
  const float along = dot(own, lens), same = std::min(1.0f, along * along / sizes);
  return 2.0f * ((1.0f - leaks) * same + leaks * (1.0f - same));
}

Tracer::FilmedLobe Tracer::through_film(const Vec3f& film, const Scattering& s, const Scattering::Outward& outward,
                                        const Vec3f& in) {
  FilmedLobe lobe{s.both(outward, in).value, {}};
  Scattering facets = s;
  facets.base = {};
  lobe.facets = facets.both(outward, in).value;
  const Vec3f half = unit(outward.out + in), d = -outward.out;
  const Filmed filmed =
      s.coat_ior > 0.0f ? through_film(film, d, half, in, 1.0f / s.coat_ior) : by_metal(film, d, half, in);
  lobe.value += lobe.facets * (filmed.share - 1.0f);
  lobe.facets = lobe.facets * filmed.share;
  lobe.along = filmed.along;
  return lobe;
}

}  // namespace cinnabar
