#include "cinnabar/render/surface_scattering.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <mutex>

#include "cinnabar/color/white.h"
#include "cinnabar/optics/fresnel.h"

namespace cinnabar {

namespace {
float coat_reflectance(float cosine, float ior) {
  float ignored = 0.0f;
  return fresnel_reflectance(std::clamp(cosine, 0.0f, 1.0f), 1.0f / ior, ignored);
}
float ggx(float cosine, float alpha) {
  const float a2 = alpha * alpha, d = cosine * cosine * (a2 - 1.0f) + 1.0f;
  return a2 / (pif * d * d);
}
}  // namespace

Rgb metal_fresnel(const Rgb& f0, float cosine) {
  const float m = std::clamp(1.0f - cosine, 0.0f, 1.0f), m5 = m * m * m * m * m;
  return f0 + (Rgb{1, 1, 1} - f0) * m5;
}

float mean_fresnel(float ior) {
  static const std::array<float, 301> table = [] {
    std::array<float, 301> t{};
    for (std::size_t i = 0; i < t.size(); ++i) {
      const float n = 1.0f + 0.01f * static_cast<float>(i);
      double sum = 0.0;
      for (int k = 0; k < 256; ++k) sum += coat_reflectance(std::sqrt((static_cast<float>(k) + 0.5f) / 256.0f), n);
      t[i] = static_cast<float>(sum / 256.0);
    }
    return t;
  }();
  const float at = std::clamp((ior - 1.0f) * 100.0f, 0.0f, 299.99f);
  const auto i = static_cast<std::size_t>(at);
  return table[i] + (table[i + 1] - table[i]) * (at - static_cast<float>(i));
}

void frame_about(const Vec3f& n, Vec3f& x, Vec3f& y) {  // Duff et al. 2017, JCGT 6:1
  const float sign = std::copysign(1.0f, n.z), a = -1.0f / (sign + n.z), b = n.x * n.y * a;
  x = {1.0f + sign * n.x * n.x * a, sign * b, -sign * n.x};
  y = {b, sign + n.y * n.y * a, -n.y};
}

Vec3f cosine_direction(const Vec3f& n, float u, float v) {
  Vec3f x, y;
  frame_about(n, x, y);
  const float r = std::sqrt(u), a = 2 * pif * v;
  return x * (r * std::cos(a)) + y * (r * std::sin(a)) + n * std::sqrt(std::max(0.0f, 1.0f - u));
}

Vec3f visible_normal(const Vec3f& out, const Vec3f& n, float alpha, float u, float v) {
  Vec3f x, y;
  frame_about(n, x, y);
  const Vec3f w = unit(Vec3f{alpha * dot(out, x), alpha * dot(out, y), dot(out, n)});
  const float l2 = w.x * w.x + w.y * w.y;
  const Vec3f t1 = l2 > 0.0f ? Vec3f{-w.y, w.x, 0} / std::sqrt(l2) : Vec3f{1, 0, 0}, t2 = cross(w, t1);
  const float r = std::sqrt(u), phi = 2 * pif * v, p = r * std::cos(phi), s = 0.5f * (1.0f + w.z);
  const float q = (1.0f - s) * std::sqrt(std::max(0.0f, 1.0f - p * p)) + s * r * std::sin(phi);
  const Vec3f h = t1 * p + t2 * q + w * std::sqrt(std::max(0.0f, 1.0f - p * p - q * q));
  const Vec3f m = unit(Vec3f{alpha * h.x, alpha * h.y, std::max(1e-6f, h.z)});
  return x * m.x + y * m.y + n * m.z;
}

float ggx_masking(float cosine, float alpha) {
  const float c2 = std::max(1e-8f, cosine * cosine);
  return 2.0f / (1.0f + std::sqrt(1.0f + alpha * alpha * (1.0f - c2) / c2));
}

void Scattering::coat(float ior) {
  static std::mutex mutex;
  static std::map<float, CoatTable> tables;  // never moved once made
  const std::lock_guard lock(mutex);
  auto [table, made] = tables.try_emplace(ior);
  if (made)
    for (std::size_t i = 0; i < table->second.size(); ++i)
      table->second[i] = coat_reflectance(static_cast<float>(i) / 512.0f, ior);
  coat_table = &table->second;
  coat_ior = ior;
  coat_inside = 1.0f - (1.0f - mean_fresnel(ior)) / (ior * ior);
}

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

Scattering::Outward Scattering::outward(const Vec3f& out, const Vec3f& n) const {
  const float co = dot(out, n);
  Outward o{out, n, co, 0.0f, 0.0f, 0.0f};
  const float reflects = coat_ior > 0.0f ? coat_reflects(co) : 0.0f;
  if (coat_ior > 0.0f) o.passes = (1.0f - reflects) / (coat_ior * coat_ior);
  if (alpha > 0.0f) {
    const float f = coat_ior > 0.0f ? reflects : luminance(specular);
    o.rough_share = largest(base) <= 0.0f ? 1.0f : std::clamp(0.25f + 0.5f * f, 0.0f, 1.0f);
    o.masking = co > 0.0f ? ggx_masking(co, alpha) / (4.0f * co) : 0.0f;
  }
  return o;
}

Scattering::Both Scattering::both(const Outward& o, const Vec3f& in) const {
  const float ci = dot(in, o.n);
  const float base_density = (1.0f - o.rough_share) / pif;
  if (ci <= 0.0f) {
    const float behind = through * -ci;
    return {o.cosine > 0.0f && through > 0.0f ? base * (behind / pif) : Rgb{}, base_density * behind};
  }
  Both both{{}, base_density * (1.0f - through) * ci};
  if (o.cosine <= 0.0f) return both;
  Rgb& sum = both.value;
  sum = base * ((1.0f - through) * ci / pif);
  if (coat_ior > 0.0f) {
    // In through the coat, out through it, and what the coat throws back from below bounces again; reciprocal,
    // and without loss over a white base.
    const float inside = coat_inside, pass = o.passes * (1.0f - coat_reflects(ci));
    sum = {sum.x * pass / (1.0f - base.x * inside), sum.y * pass / (1.0f - base.y * inside),
           sum.z * pass / (1.0f - base.z * inside)};
  }
  if (alpha > 0.0f) {
    const Vec3f h = unit(o.out + in);
    const float oh = dot(o.out, h), spread = ggx(dot(h, o.n), alpha) * o.masking;
    const Rgb f = coat_ior > 0.0f ? Rgb{1, 1, 1} * coat_reflects(oh) : metal_fresnel(specular, oh);
    sum += f * (spread * ggx_masking(ci, alpha));
    both.density += o.rough_share * spread;
  }
  return both;
}

Rgb Scattering::value(const Vec3f& out, const Vec3f& in, const Vec3f& n) const {
  return both(outward(out, n), in).value;
}
float Scattering::density(const Vec3f& out, const Vec3f& in, const Vec3f& n) const {
  return both(outward(out, n), in).density;
}

Scattering::Sample Scattering::sample(const Vec3f& out, const Vec3f& n, float choice, float u, float v) const {
  const Outward o = outward(out, n);
  const float rough = o.rough_share;
  Vec3f in;
  if (choice < rough) {
    const Vec3f h = visible_normal(out, n, alpha, u, v);
    in = h * (2.0f * dot(out, h)) - out;
    if (dot(in, n) <= 0.0f) return {in, {}, 0.0f};
  } else {
    const bool to_back = through > 0.0f && (choice - rough) < through * (1.0f - rough);
    in = cosine_direction(to_back ? -n : n, u, v);
  }
  const Both b = both(o, in);
  if (rough == 0.0f && coat_ior == 0.0f) return {in, base, b.density};
  if (b.density <= 0.0f) return {in, {}, 0.0f};
  return {in, b.value * (1.0f / b.density), b.density};
}

}  // namespace cinnabar
