// What the tracer keeps of a path on its way; for its own sources only.
#pragma once
#include <array>
#include <cmath>

#include "cinnabar/render/tracer.h"

namespace cinnabar {
namespace tracing {

inline constexpr float off_surface = 2e-5f;  // metres: where the next ray begins
inline constexpr float farthest = 1e4f;      // metres, of what has an end
inline constexpr int deepest = 64;
inline constexpr std::size_t all_lights = 4;  // up to this many are all asked at a path's first opaque point

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

inline Rgb absorbed(const Vec3f& a, float path) {
  return {std::exp(-a.x * path), std::exp(-a.y * path), std::exp(-a.z * path)};
}

/// What a path met since it last scattered where light thrown by others is asked for.
struct Since {
  bool gathered = false;  // there was such a place
  bool asked = false;     // and lights were asked for there by way of the planes that mirror
  bool thrown = false;    // since then it went over glass, metal or a mirror
  bool by_plane = false;  // it met one plane that mirrors, and nothing else
  int met = 0;
  [[nodiscard]] Since after(bool throws, bool plane) const {
    return {gathered, asked, thrown || throws, plane && met == 0, met + 1};
  }
  void meets(bool throws, bool plane) { *this = after(throws, plane); }
  /// Whether a light met now was counted at that place.
  [[nodiscard]] bool counted(bool photons) const { return gathered && (by_plane ? asked : photons && thrown); }
};

/// A way not taken at once: what the first boundaries of a camera path mirror.
struct Branch {
  Ray ray;
  Rgb throughput;
  Media media;
  int depth = 0, splits = 0;
  Since since{};
  bool walled = false;
  Vec3f film{};
};

}  // namespace tracing

/// An opaque place that a path leaves again.
struct Tracer::Bounce {
  const Hit& hit;
  const Scattering& surface;
  Vec3f out;
  Sides facing;
  float lobe;     // chance that it is left by scattering
  bool to_cards;  // some of its ways go to cards
};

struct Tracer::Path {
  Ray ray;
  Rgb throughput;
  Sampler& sampler;
  Rgb* layers;
  std::vector<RayRecord>* record;
  const PhotonMap* photons = nullptr;
  bool asks_always = false;  // planes that mirror are asked at every bounce, not at the first alone
  int ways = 1;              // in which the first place that scatters looks for what others give it
  float start = 1.0f;        // of the throughput
  tracing::Since since{};
  tracing::Media media{};
  int opaque_bounces = 0;
  int splits = 0;             // how often both ways at a clear or coated boundary are still followed
  bool specular = true;       // the last bounce had no density: lights it meets count in full
  float last_density = 0.0f;  // of the last direction, when it had one
  Vec3f last_place{}, last_lit_side{};
  Vec3f film{};         // unit: what the polariser before the lens lets through of the ray; none: it was scattered
  bool walled = false;  // it met the room, which shows the surround: that counts once
  int depth = 0;
  std::uint64_t rays = 0;
  std::array<tracing::Branch, 4> branches{};  // the mirrored ways put off for later
  int branch_count = 0;

  /// What comes after the first bounce matters less than its rays cost where many small looks are taken.
  [[nodiscard]] bool asks_planes() const { return asks_always || opaque_bounces == 0; }
  [[nodiscard]] bool may_split() const { return splits > 0 && branch_count < static_cast<int>(branches.size()); }
  void put_off(const Vec3f& direction, float share_of_light, const tracing::Since& then, const Vec3f& filmed) {
    --splits;
    Ray mirrored = ray;
    mirrored.direction = direction;
    branches[static_cast<std::size_t>(branch_count++)] = {
        mirrored, throughput * share_of_light, media, depth + 1, splits, then, walled, filmed};
  }
};

}  // namespace cinnabar
