#include "cinnabar/render/lobes.h"

#include <algorithm>
#include <map>
#include <mutex>
#include <tuple>
#include <vector>

#include "cinnabar/optics/fresnel.h"

namespace cinnabar {

void frame_about(const Vec3f& n, Vec3f& x, Vec3f& y) {  // Duff et al. 2017, JCGT 6:1
  const float sign = std::copysign(1.0f, n.z), a = -1.0f / (sign + n.z), b = n.x * n.y * a;
  x = {1.0f + sign * n.x * n.x * a, sign * b, -sign * n.x};
  y = {b, sign + n.y * n.y * a, -n.y};
}

Vec3f visible_facet(const Vec3f& w, const Slopes& a, float u, float v) {
  const Vec3f s = unit(Vec3f{a.x * w.x, a.y * w.y, w.z});
  const float z = (1.0f - u) * (1.0f + s.z) - s.z, r = std::sqrt(std::clamp(1.0f - z * z, 0.0f, 1.0f)),
              turn = 2 * pif * v;
  const Vec3f h = Vec3f{r * std::cos(turn), r * std::sin(turn), z} + s;
  return unit(Vec3f{a.x * h.x, a.y * h.y, std::max(1e-6f, h.z)});
}

Vec3f LobeTable::direction(std::size_t bearing, std::size_t step) const {
  const float root = static_cast<float>(step) / (steps - 1), cosine = std::max(1e-4f, root * root);
  const float turn =
      bearings_ == 1 ? 0.0f : 0.5f * pif * static_cast<float>(bearing) / static_cast<float>(bearings_ - 1);
  const float sine = std::sqrt(1.0f - cosine * cosine);
  return {sine * std::cos(turn), sine * std::sin(turn), cosine};
}

template <class Given>
LobeTable::LobeTable(std::size_t bearings, const Given& given) : bearings_(bearings) {
  for (auto& row : gains_) row.fill(1.0f);
  for (std::size_t b = 0; b < bearings; ++b)
    for (std::size_t i = 0; i < steps; ++i) {
      values_[b][i] = given(direction(b, i));
      scale_ = std::min(scale_, 1.0f / std::max(1e-6f, values_[b][i]));
    }
  for (auto& row : values_)
    for (float& value : row) value *= scale_;
  constexpr int looks = 2000;
  double sum = 0.0;
  for (std::size_t b = 0; b < bearings; ++b) {
    const double part = bearings == 1 ? 1.0 : (b == 0 || b + 1 == bearings ? 0.5 : 1.0) / (bearings - 1.0);
    const float bearing = bearings == 1 ? 0.0f : static_cast<float>(b) / static_cast<float>(bearings - 1);
    for (int k = 0; k < looks; ++k) {
      const float cosine = (static_cast<float>(k) + 0.5f) / looks;
      sum += part * 2.0 * cosine / looks * at(cosine, bearing);
    }
  }
  mean_ = static_cast<float>(sum);
}

namespace {

/// Tables are made once and never moved.
template <class Key, class Make>
const LobeTable& kept(const Key& key, const Make& make) {
  static std::mutex mutex;
  static std::map<Key, LobeTable> tables;
  const std::lock_guard lock(mutex);
  const auto found = tables.find(key);
  return found != tables.end() ? found->second : tables.emplace(key, make()).first->second;
}

}  // namespace

const LobeTable& LobeTable::of_facets(const Slopes& slopes, float ior) {
  struct Look {  // one way in that a direction's lobe mirrors
    float given, cosine, bearing;
  };
  return kept(std::tuple(slopes.x, slopes.y, ior), [&] {
    const int side = slopes.even() ? 32 : 16;  // of a direction side x side are looked at
    const auto looks_from = [&](const Vec3f& out, const Slopes& a, bool closer_where_steep) {
      std::vector<Look> looks;
      const float seen = unhidden(out, a), step = 1.0f / static_cast<float>(side);
      for (int i = 0; i < side; ++i) {
        const float rest = 1.0f - (static_cast<float>(i) + 0.5f) * step;
        const float u = closer_where_steep ? 1.0f - rest * rest : 1.0f - rest,
                    each = (closer_where_steep ? 2.0f * rest : 1.0f) * step * step;
        for (int j = 0; j < side; ++j) {
          const Vec3f h = visible_facet(out, a, u, (static_cast<float>(j) + 0.5f) * step);
          const float oh = dot(out, h);
          const Vec3f in = h * (2.0f * oh) - out;
          if (in.z <= 0.0f) continue;
          float ignored = 0.0f;
          const float mirrored =
              ior > 0.0f ? fresnel_reflectance(std::clamp(oh, 0.0f, 1.0f), 1.0f / ior, ignored) : 1.0f;
          looks.push_back({each * mirrored * unhidden_both(seen, unhidden(in, a)) / seen, in.z,
                           slopes.even() ? 0.0f : bearing_of(in.x, in.y)});
        }
      }
      return looks;
    };
    std::vector<std::vector<Look>> looks;  // of each direction of the table, in its order
    LobeTable table(slopes.even() ? 1 : most_bearings, [&](const Vec3f& out) {
      if (ior <= 0.0f) looks.push_back(looks_from(out, again(slopes), false));
      float sum = 0.0f;
      // What is lost is lost where they are steep.
      for (const Look& look : looks_from(out, slopes, true)) sum += look.given;
      return sum;
    });
    constexpr int rounds = 8;
    for (int k = 0; ior <= 0.0f && k < rounds; ++k) {
      const LobeTable before = table;
      for (std::size_t n = 0; n < looks.size(); ++n) {
        float given = 0.0f;
        for (const Look& look : looks[n]) given += look.given * before.gain(look.cosine, look.bearing);
        const float wanted = 1.0f - table.values_[n / steps][n % steps];
        // Half a step at a time, or two directions would only change places.
        float& own = table.gains_[n / steps][n % steps];
        own = k + 1 < rounds ? std::sqrt(own * std::max(0.0f, wanted) / std::max(1e-6f, given))
                             : std::max(0.0f, wanted) / std::max(1e-6f, given);
      }
    }
    return table;
  });
}

const LobeTable& LobeTable::of_nap(float roughness) {
  return kept(roughness, [&] {
    const auto given = [&](const Vec3f& out) {
      constexpr int rings = 48, turns = 32;  // even in the angle: the nap is bright at the horizon
      double sum = 0.0;
      for (int i = 0; i < rings; ++i)
        for (int j = 0; j < turns; ++j) {
          const float angle = 0.5f * pif * (static_cast<float>(i) + 0.5f) / rings,
                      turn = pif * (static_cast<float>(j) + 0.5f) / turns;
          const Vec3f in{std::sin(angle) * std::cos(turn), std::sin(angle) * std::sin(turn), std::cos(angle)};
          sum += static_cast<double>(nap_value({0, 0, 1}, out, in, roughness) * std::sin(angle));
        }
      return static_cast<float>(sum * 0.5 * pi / rings * 2.0 * pi / turns);
    };
    return LobeTable(1, given);
  });
}

float nap_value(const Vec3f& n, const Vec3f& out, const Vec3f& in, float roughness) {
  const float co = dot(n, out), ci = dot(n, in);
  if (co <= 0.0f || ci <= 0.0f) return 0.0f;
  const float ch = dot(unit(out + in), n), sine = std::sqrt(std::max(0.0f, 1.0f - ch * ch));
  const float sharp = 1.0f / std::clamp(roughness, 0.1f, 1.0f);
  const float spread = (2.0f + sharp) * std::pow(sine, sharp) / (2.0f * pif);
  return spread * ci / (4.0f * (co + ci - co * ci));
}

namespace {

/// Smith's lambda; for directions that go down -1 less that of their opposites.
float lambda(const Vec3f& w, float alpha) {
  if (w.z > 0.9999f) return 0.0f;
  if (w.z < -0.9999f) return -1.0f;
  const float tangent = std::sqrt(std::max(0.0f, 1.0f - w.z * w.z)) / w.z;
  const float a = 1.0f / (alpha * tangent);
  return 0.5f * (-1.0f + std::copysign(1.0f, a) * std::sqrt(1.0f + 1.0f / (a * a)));
}

constexpr float gone = 1e30f;

/// The height at which a ray that goes along `w` from height `h` meets the facets next, heights being even from -1
/// to 1; `gone` where it leaves them.
float next_height(const Vec3f& w, float h, float alpha, float u) {
  const auto share_below = [](float x) { return std::clamp(0.5f * (x + 1.0f), 0.0f, 1.0f); };
  if (w.z > 0.9999f) return gone;
  if (w.z < -0.9999f) return 2.0f * u * share_below(h) - 1.0f;
  if (std::abs(w.z) < 1e-4f) return h;
  const float l = lambda(w, alpha), below = share_below(h);
  if (w.z > 0.0f && u > 1.0f - std::pow(below, l)) return gone;
  return std::clamp(2.0f * below / std::pow(1.0f - u, 1.0f / l) - 1.0f, -1.0f, 1.0f);
}

}  // namespace

OverFacets over_facets(const Vec3f& out, float alpha, float eta, Sampler& sampler) {
  constexpr int most = 64;
  Vec3f along = -out;
  float height = 0.998f;
  bool above = true;
  for (int k = 0; k < most; ++k) {
    const float u = sampler.one();
    height = above ? next_height(along, height, alpha, u) : -next_height(-along, -height, alpha, u);
    if (std::abs(height) >= gone) break;
    // On the side of the ray, seen from above it.
    const Vec3f back = above ? -along : along;
    const auto [p, q] = sampler.pair();
    const Vec3f facet = visible_facet(back, {alpha, alpha}, p, q) * (above ? 1.0f : -1.0f);
    const float cosine = std::clamp(dot(-along, facet), 0.0f, 1.0f), ratio = above ? eta : 1.0f / eta;
    float other = 0.0f;
    if (sampler.one() < fresnel_reflectance(cosine, ratio, other)) {
      along = unit(along + facet * (2.0f * cosine));
    } else {
      along = unit(along * ratio + facet * (ratio * cosine - other));
      above = !above;
    }
  }
  return {along, !above};
}

}  // namespace cinnabar
