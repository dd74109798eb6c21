#include "cinnabar/render/dressing.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/render/sampler.h"

namespace cinnabar {

namespace {

constexpr float least_radius = 0.5f;      // of the largest
constexpr float mean_cube = 0.46875f;     // of radii even between that and 1
constexpr double fullest_lattice = 0.2;   // share of one lattice's room
constexpr float ball_room = 4.18879020f;  // 4 pi / 3
constexpr float contact = 0.766f;  // sine of the angle at which a drop of water meets what it beads on, 50°
constexpr float ridge = 5e-4f;     // metres from one line of a finger to the next

/// Lattices lie askew, so that no face of a thing runs along their cells.
constexpr Vec3f askew[3] = {
    {0.36f, 0.48f, -0.8f}, {-0.8f, 0.6f, 0.0f}, {0.48f, 0.64f, 0.6f}};  // square to one another, unit
Vec3f into_lattice(const Vec3f& p) { return {dot(p, askew[0]), dot(p, askew[1]), dot(p, askew[2])}; }
Vec3f out_of_lattice(const Vec3f& p) { return askew[0] * p.x + askew[1] * p.y + askew[2] * p.z; }

float part_of(std::uint32_t h) { return static_cast<float>(hashed(h) >> 8) * 0x1p-24f; }

}  // namespace

Balls::Balls(double part, double size, std::uint32_t seed) : cell_(0), largest_(0), lattices_(1), seed_(seed) {
  const double whole = std::clamp(part, 0.0, 0.8);
  lattices_ =
      std::max(1U, static_cast<std::uint32_t>(std::ceil(std::log1p(-whole) / std::log1p(-fullest_lattice))));
  // What is left free is the product of what each lattice leaves free.
  const double each = -std::expm1(std::log1p(-whole) / lattices_);
  largest_ = static_cast<float>(size / 2.0);
  const double of_cell = std::cbrt(std::max(1e-9, each) / static_cast<double>(ball_room * mean_cube));
  cell_ = largest_ / static_cast<float>(of_cell);
}

std::optional<Balls::Cut> Balls::at(const Vec3f& place, const Vec3f& normal) const {
  Vec3f turned = place / cell_;
  for (std::uint32_t k = 0; k < lattices_; ++k) {
    turned = into_lattice(turned);  // each lattice turned on from the last: they hide one another as chance does
    const float shift = static_cast<float>(k) * 0.618034f;
    const Vec3f p = turned + Vec3f{shift, shift * 1.7f, shift * 2.3f};
    const Vec3f c{std::floor(p.x), std::floor(p.y), std::floor(p.z)};
    const auto number = [](float x) {
      return static_cast<std::uint32_t>(static_cast<std::int32_t>(std::clamp(x, -1e9f, 1e9f)));
    };
    const std::uint32_t h = hashed(number(c.x) ^ hashed(number(c.y) ^ hashed(number(c.z) ^ hashed(seed_ + k))));
    const float radius = largest_ / cell_ * (least_radius + (1.0f - least_radius) * part_of(h));
    const float room = 1.0f - 2.0f * radius;
    const Vec3f middle =
        c + Vec3f{radius + room * part_of(h + 1), radius + room * part_of(h + 2), radius + room * part_of(h + 3)};
    Vec3f d = p - middle;
    if (dot(d, d) >= radius * radius) continue;
    for (std::uint32_t j = 0; j <= k; ++j) d = out_of_lattice(d);
    const float off = dot(d, normal);
    return Cut{(d - normal * off) * cell_, std::sqrt(std::max(1e-12f, radius * radius - off * off)) * cell_, h};
  }
  return std::nullopt;
}

Dressing::Dressing(const Mesh& mesh) {
  if (const auto& relief = mesh.material.relief) {
    pits_.emplace(0.6, relief->size, 0x51ed270bU);
    steepness_ = static_cast<float>(8.0 * relief->depth / relief->size);
  }
  if (const auto& cover = mesh.material.cover; cover && cover->share > 0.0) {
    cover_.emplace(cover->share, cover->size, 0x2545f491U);
    kind_ = cover->kind;
  }
}

void Dressing::put_on(Hit& hit) const {
  const Mesh& mesh = *hit.mesh;
  const Vec3f right = mesh.own_right, up = mesh.own_up, back = cross(right, up);
  const Vec3f own{dot(hit.normal, right), dot(hit.normal, up), dot(hit.normal, back)};
  Vec3f tilt{};  // what is added to the normal
  if (cover_) {
    if (const auto on = cover_->at(hit.own, own)) {
      const float r = length(on->from_middle), part = r / on->radius;
      switch (kind_) {
        case CoverKind::droplets: {
          const float sine = contact * part;
          if (r > 0.0f) tilt = on->from_middle * (sine / std::sqrt(1.0f - sine * sine) / r);
          hit.covered = true;
          break;
        }
        case CoverKind::dust:
          hit.covered = true;
          break;
        case CoverKind::fingerprints: {
          const float bend = 1.0f + 0.3f * std::sin(6.0f * part + part_of(on->which) * 6.0f);
          hit.covered = std::sin(2 * pif * r / ridge * bend) > 0.0f;
          break;
        }
      }
    }
  }
  if (pits_ && !hit.covered)
    if (const auto pit = pits_->at(hit.own, own)) {
      const float part = std::min(1.0f, length(pit->from_middle) / pit->radius);
      tilt = pit->from_middle * (-steepness_ * (1.0f - part * part) / pit->radius);
    }
  hit.tilted = dot(tilt, tilt) > 0.0f;
  if (hit.tilted) hit.normal = unit(hit.normal + right * tilt.x + up * tilt.y + back * tilt.z);
}

}  // namespace cinnabar
