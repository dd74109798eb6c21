#include "cinnabar/forecast/measures/set_edges_seen.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace cinnabar {
namespace {

StagedWorld alone(const Setup& setup, const Backdrop& backdrop) {
  Project bare;
  auto only = std::make_shared<Setup>(setup);
  only->backdrop = backdrop;
  only->lights.clear();
  only->cards.clear();
  only->room = {};  // what shows beside an edge, walls or nothing
  bare.setups.push_back(only);
  Shot empty;
  empty.setup = only->id;
  return stage(bare, empty, 0.0, {.motion = false});
}

/// Signed distance of an image point from the frame's border: negative inside.
double outside_frame(const ImagePoint& p, double half_width, double half_height) {
  const double dx = std::abs(p.x) - half_width, dy = std::abs(p.y) - half_height;
  if (dx <= 0.0 && dy <= 0.0) return std::max(dx, dy);
  return std::hypot(std::max(dx, 0.0), std::max(dy, 0.0));
}

}  // namespace

SetAlone::SetAlone(const Setup& setup, const Backdrop& backdrop)
    : world_(alone(setup, backdrop)), geometry_(world_), edges_(set_edges(setup, backdrop)) {}

EdgeSearch::EdgeSearch(const SetAlone& set, const CameraPose& pose, const ShotOptics& optics)
    : set_(set), pose_(pose), half_width_(optics.sensor_width / 2), half_height_(optics.sensor_height / 2) {}

std::optional<SeenEdge> EdgeSearch::nearest() const {
  std::optional<SeenEdge> best;
  for (const EdgeLine& edge : set_.edges())
    for (std::size_t i = 0; i + 1 < edge.points.size(); ++i)
      along(edge.role, edge.points[i], edge.points[i + 1], 40, 2, best);
  return best;
}

std::vector<SeenEdge> EdgeSearch::inside() const {
  std::vector<SeenEdge> list;
  for (const EdgeLine& edge : set_.edges())
    for (std::size_t i = 0; i + 1 < edge.points.size(); ++i)
      for (int k = 0; k <= 40; ++k)
        if (const auto s =
                seen(edge.role, edge.points[i] + (edge.points[i + 1] - edge.points[i]) * (k / 40.0), 0.0))
          list.push_back(*s);
  return list;
}

void EdgeSearch::along(Role role, const Vec3& a, const Vec3& b, int steps, int finer,
                       std::optional<SeenEdge>& best) const {
  std::optional<SeenEdge> own;
  int at = 0;
  for (int k = 0; k <= steps; ++k) {
    const Vec3 p = a + (b - a) * (static_cast<double>(k) / steps);
    const auto s = seen(role, p, own ? own->distance : std::numeric_limits<double>::infinity());
    if (s) own = s, at = k;
  }
  if (!own) return;
  if (!best || own->distance < best->distance) best = own;
  if (finer > 0)
    along(role, a + (b - a) * (std::max(0.0, at - 1.0) / steps),
          a + (b - a) * (std::min<double>(steps, at + 1.0) / steps), 24, finer - 1, best);
}

/// The place, when it is nearer to the frame than `under` and can be seen as an outer edge.
std::optional<SeenEdge> EdgeSearch::seen(Role role, const Vec3& at, double under) const {
  const auto image = image_of(pose_, at);
  if (!image) return std::nullopt;
  const double d = outside_frame(*image, half_width_, half_height_);
  if (d >= under || !is_outer(at, *image)) return std::nullopt;
  return SeenEdge{d, at, role};
}

bool EdgeSearch::meets(const Vec3& direction, double far) const {
  return set_.geometry().blocked(
      {pose_.place.as<float>(), direction.as<float>(), 1e-4f, static_cast<float>(far), 0.0f});
}

/// Nothing hides the point, and somewhere right beside it the room shows.
bool EdgeSearch::is_outer(const Vec3& p, const ImagePoint& image) const {
  const double distance = length(p - pose_.place);
  if (meets(unit(p - pose_.place), distance - std::max(2e-3, 2e-3 * distance))) return false;
  const double beside = 0.002 * half_width_ * 2;
  const auto toward = [&](double x, double y) {
    return unit(pose_.frame.right * x + pose_.frame.up * y + pose_.frame.ahead * pose_.image_distance());
  };
  // Two free directions side by side: a seam where bodies meet lets a ray through in one alone.
  std::array<bool, 8> free{};
  for (std::size_t k = 0; k < 8; ++k) {
    const double a = static_cast<double>(k) * pi / 4;
    free[k] = !meets(toward(image.x + beside * std::cos(a), image.y + beside * std::sin(a)), 1e5);
    if (k > 0 && free[k] && free[k - 1]) return true;
  }
  return free[0] && free[7];
}

}  // namespace cinnabar
