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

Vec3f cosine_direction(const Vec3f& n, float u, float v) {
  Vec3f x, y;
  frame_about(n, x, y);
  const float r = std::sqrt(u), a = 2 * pif * v;
  return x * (r * std::cos(a)) + y * (r * std::sin(a)) + n * std::sqrt(std::max(0.0f, 1.0f - u));
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

void Scattering::rough(float along, float crosswise) {
  alpha = along, across = crosswise;
  lobe_table = &LobeTable::of_facets({along, crosswise}, coat_ior);
  if (coat_ior > 0.0f) coat_inside = 1.0f - (1.0f - lobe_table->mean()) / (coat_ior * coat_ior);
}

void Scattering::nap(float part, float roughness) {
  sheen = part, across = roughness;
  lobe_table = &LobeTable::of_nap(roughness);
}

Scattering scattering_of(const Material& m) {
  Scattering s;
  const Rgb colour = m.colour.as<float>();
  const auto alpha = static_cast<float>(m.roughness * m.roughness);
  const Rgb shown = m.screen > 0.0 ? Rgb{0.02f, 0.02f, 0.02f} : colour;  // a screen that is off is dark
  const auto finish = [&](float least) {
    // A brushed finish's slopes lie across its lines: narrow along them, and as rough as before taken together.
    const float drawn_out = std::sqrt(1.0f - 0.95f * static_cast<float>(std::abs(m.brushing)));
    const float even = std::max(alpha, least);
    const float narrow = std::max(2e-4f, even * drawn_out), wide = even / drawn_out;
    if (m.brushing > 0.0)
      s.rough(narrow, wide);
    else
      s.rough(wide, narrow);
  };
  const auto coated = [&](bool may_be_sharp) {
    s.coat(static_cast<float>(m.ior));
    s.sharp_coat = may_be_sharp && alpha < 1e-3f;
    if (!s.sharp_coat) finish(1e-3f);
  };
  switch (m.kind) {
    case MaterialKind::gloss:
    case MaterialKind::satin:
      s.base = shown;
      coated(m.kind == MaterialKind::gloss);
      break;
    case MaterialKind::metal:
      s.specular = colour;
      if (alpha >= 1e-3f)
        finish(1e-3f);
      else
        s.alpha = alpha;
      break;
    case MaterialKind::mirror:
      s.specular = colour;
      break;
    case MaterialKind::translucent:
      if (m.scatters()) {
        s.body = true;
        coated(true);
      } else {
        s.base = shown;
        s.through = static_cast<float>(m.transmittance);
        s.forward = static_cast<float>(m.forward);
        s.lobe = static_cast<float>(std::max(1.0, std::log(0.5) / std::log(std::cos(radians(m.lobe_deg)))));
      }
      break;
    default:
      s.base = shown;
      if (m.sheen > 0.0)
        s.nap(static_cast<float>(m.sheen), static_cast<float>(m.roughness > 0.0 ? m.roughness : 0.4));
      break;
  }
  return s;
}

Scattering covered_scattering_of(const Material& m) {
  if (!m.cover) return {};
  constexpr float water = 1.333f;
  Scattering s = scattering_of(m);
  const bool metal = m.kind == MaterialKind::metal || m.kind == MaterialKind::mirror;
  switch (m.cover->kind) {
    case CoverKind::dust: {
      Scattering dust;
      dust.base = {0.5f, 0.48f, 0.45f};
      // Photons are spread over discs wider than specks: either all of a face gathers them or nothing of it.
      dust.slight = !s.gathers() || m.is_clear();
      return dust;
    }
    case CoverKind::fingerprints:
      if (metal || s.sharp_coat) {
        s.sharp_coat = false;
        s.rough(std::max(s.alpha, grease), std::max(s.across, grease));
      }
      return s;
    case CoverKind::droplets:
      if (!metal && !s.body && m.kind != MaterialKind::translucent) {  // clear, over what it lies on
        Scattering wet;
        wet.base = s.base;
        wet.coat(s.coat_ior > 0.0f ? s.coat_ior : water);
        wet.sharp_coat = true;
        return wet;
      }
      return s;
  }
  return s;
}

Scattering::Outward Scattering::outward(const Vec3f& out, const Vec3f& n) const {
  const float co = dot(out, n);
  Outward o{out, n, co, 0.0f, 0.0f, 0.0f, 0.0f, 0.0f, 1.0f, {}, {}};
  float bearing = 0.0f;
  if (alpha > 0.0f) {
    Vec3f w{0, 0, co};
    if (across != alpha) {
      o.x = drawn - n * dot(drawn, n);
      if (dot(o.x, o.x) < 1e-8f)
        frame_about(n, o.x, o.y);
      else
        o.x = unit(o.x), o.y = cross(n, o.x);
      w = {dot(out, o.x), dot(out, o.y), co};
      bearing = bearing_of(w.x, w.y);
    } else {
      w.x = std::sqrt(std::max(0.0f, 1.0f - co * co));
    }
    o.unhidden = co > 0.0f ? unhidden(w, {alpha, across}) : 0.0f;
    if (coat_ior <= 0.0f && co > 0.0f) o.unhidden_again = unhidden(w, again({alpha, across}));
  }
  if (coat_ior > 0.0f) {
    const float reflects = coat_gives(co, bearing);
    o.passes = (1.0f - reflects) / (coat_ior * coat_ior);
    if (alpha > 0.0f)
      o.rough_share = largest(base) <= 0.0f ? 1.0f : std::clamp(0.25f + 0.5f * reflects, 0.0f, 1.0f);
  } else if (alpha > 0.0f && lobe_table) {
    const float given = lobe_table->at(co, bearing);
    o.rough_share = std::clamp(given, 0.2f, 1.0f);
    o.gain = lobe_table->gain(co, bearing);
  } else if (sheen > 0.0f) {
    o.covered = (1.0f - sheen * lobe_table->at(co, 0.0f)) / (1.0f - sheen * lobe_table->mean());
  }
  return o;
}

/// Above the thing's face, and what was thrown below it and up again.
Scattering::Both Scattering::folded(const Outward& o, const Vec3f& in) const {
  const float above = dot(in, fold);
  if (above <= 0.0f) return {{}, 0.0f};
  const Both straight = flat(o, in), again = flat(o, in - fold * (2.0f * above));
  return {straight.value + again.value, straight.density + again.density};
}

Scattering::Both Scattering::flat(const Outward& o, const Vec3f& in) const {
  const float ci = dot(in, o.n);
  const float base_density = (1.0f - o.rough_share) / pif;
  if (ci <= 0.0f) {
    if (through <= 0.0f || o.cosine <= 0.0f) return {{}, base_density * through * -ci};
    float even = -ci / pif, dense = even;
    if (forward > 0.0f) {
      // Lafortune & Willems 1994, over the greater cosine of the two, so that both ways give the same.
      const float straight = std::max(0.0f, -dot(in, o.out));
      const float ahead = (lobe + 1.0f) / (2.0f * pif) * std::pow(straight, lobe);
      even = (1.0f - forward) * even + forward * ahead * std::min(1.0f, -ci / o.cosine);
      dense = (1.0f - forward) * dense + forward * ahead;
    }
    return {base * (through * even), (1.0f - o.rough_share) * through * dense};
  }
  if (leaves > 0.0f) return {Rgb{1, 1, 1} * (leaves * (1.0f - coat_gives(ci)) * ci / pif), ci / pif};
  Both both{{}, base_density * (1.0f - through) * ci};
  if (o.cosine <= 0.0f) return both;
  Rgb& sum = both.value;
  sum = base * ((1.0f - through) * ci / pif);
  float bearing = 0.0f;
  Vec3f w{0, 0, ci};
  if (alpha > 0.0f) {
    if (across != alpha) {
      w = {dot(in, o.x), dot(in, o.y), ci};
      bearing = bearing_of(w.x, w.y);
    } else {
      w.x = std::sqrt(std::max(0.0f, 1.0f - ci * ci));
    }
  }
  if (coat_ior > 0.0f && largest(base) > 0.0f) {
    // In through the coat, out through it, and what the coat throws back from below bounces again; reciprocal,
    // and without loss over a white base.
    const float inside = coat_inside, pass = o.passes * (1.0f - coat_gives(ci, bearing));
    sum = {sum.x * pass / (1.0f - base.x * inside), sum.y * pass / (1.0f - base.y * inside),
           sum.z * pass / (1.0f - base.z * inside)};
  }
  if (alpha > 0.0f) {
    const Vec3f half = unit(o.out + in);
    const float oh = dot(o.out, half), ch = dot(half, o.n);
    const Vec3f h = across != alpha ? Vec3f{dot(half, o.x), dot(half, o.y), ch}
                                    : Vec3f{std::sqrt(std::max(0.0f, 1.0f - ch * ch)), 0, ch};
    const float spread = facets(h, {alpha, across}) / (4.0f * o.cosine);
    const Rgb f = coat_ior > 0.0f ? Rgb{1, 1, 1} * coat_reflects(oh) : metal_fresnel(specular, oh);
    sum += f * (spread * unhidden_both(o.unhidden, unhidden(w, {alpha, across})));
    both.density += o.rough_share * spread * o.unhidden;
    if (o.gain > 0.0f) {
      const Slopes a = cinnabar::again({alpha, across});
      sum += colour_again() * (o.gain * lobe_table->gain(ci, bearing) * facets(h, a) / (4.0f * o.cosine) *
                               unhidden_both(o.unhidden_again, unhidden(w, a)));
    }
  } else if (sheen > 0.0f) {
    sum = sum * (o.covered * (1.0f - sheen * lobe_table->at(ci, 0.0f))) +
          Rgb{1, 1, 1} * (sheen * lobe_table->scale() * nap_value(o.n, o.out, in, across));
  }
  return both;
}

/// The colour of what a metal's facets throw at one another before it comes out.
Rgb Scattering::colour_again() const {
  const float mean = lobe_table->mean();
  const auto band = [mean](float f0) {
    const float f = f0 + (1.0f - f0) / 21.0f;  // Schlick's, over a hemisphere
    return f * f * mean / (1.0f - f * (1.0f - mean));
  };
  return {band(specular.x), band(specular.y), band(specular.z)};
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
    Vec3f x = o.x, y = o.y;
    if (across == alpha) frame_about(n, x, y);
    const Vec3f m = visible_facet({dot(out, x), dot(out, y), o.cosine}, {alpha, across}, u, v);
    const Vec3f h = x * m.x + y * m.y + n * m.z;
    in = h * (2.0f * dot(out, h)) - out;
    if (dot(in, n) <= 0.0f) return {in, {}, 0.0f};
  } else {
    const float left = (choice - rough) / (1.0f - rough);
    const bool to_back = through > 0.0f && left < through;
    if (to_back && left < through * forward) {
      const float c = std::pow(u, 1.0f / (lobe + 1.0f)), sine = std::sqrt(std::max(0.0f, 1.0f - c * c));
      Vec3f x, y;
      frame_about(-out, x, y);
      in = -out * c + x * (sine * std::cos(2 * pif * v)) + y * (sine * std::sin(2 * pif * v));
      if (dot(in, n) >= 0.0f) return {in, {}, 0.0f};
    } else {
      in = cosine_direction(to_back ? -n : n, u, v);
    }
  }
  if (is_folded())
    if (const float above = dot(in, fold); above < 0.0f) in = in - fold * (2.0f * above);
  const Both b = both(o, in);
  if (rough == 0.0f && coat_ior == 0.0f && sheen == 0.0f && forward == 0.0f && !is_folded())
    return {in, base, b.density};
  if (b.density <= 0.0f) return {in, {}, 0.0f};
  return {in, b.value * (1.0f / b.density), b.density};
}

}  // namespace cinnabar
