// Levels of the frame: what is in it and how large.
#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/forecast/context.h"

namespace cinnabar {
namespace {

/// Signed distance of an image point from the frame's border: negative inside.
double outside_frame(const ImagePoint& p, double half_width, double half_height) {
  const double dx = std::abs(p.x) - half_width, dy = std::abs(p.y) - half_height;
  if (dx <= 0.0 && dy <= 0.0) return std::max(dx, dy);
  return std::hypot(std::max(dx, 0.0), std::max(dy, 0.0));
}

/// Looks for the outer edge of surface and backdrop, taken as one, that comes nearest to the frame.
class EdgeSearch {
 public:
  EdgeSearch(const StagedWorld& set, const CameraPose& pose, const ShotOptics& optics)
      : geometry_(set),
        pose_(pose),
        half_width_(optics.sensor_width / 2),
        half_height_(optics.sensor_height / 2) {}

  /// Smallest distance in sensor metres, or nothing when no outer edge can be seen.
  std::optional<double> nearest(const std::vector<EdgeLine>& edges) {
    std::optional<double> best;
    for (const EdgeLine& edge : edges)
      for (std::size_t i = 0; i + 1 < edge.points.size(); ++i)
        along(edge.points[i], edge.points[i + 1], 40, 2, best);
    return best;
  }

 private:
  void along(const Vec3& a, const Vec3& b, int steps, int finer, std::optional<double>& best) {
    std::optional<double> own;
    int at = 0;
    for (int k = 0; k <= steps; ++k) {
      const Vec3 p = a + (b - a) * (static_cast<double>(k) / steps);
      const auto image = image_of(pose_, p);
      if (!image) continue;
      const double d = outside_frame(*image, half_width_, half_height_);
      if ((own && d >= *own) || !is_outer(p, *image)) continue;
      own = d;
      at = k;
    }
    if (!own) return;
    if (!best || *own < *best) best = own;
    if (finer > 0)
      along(a + (b - a) * (std::max(0.0, at - 1.0) / steps),
            a + (b - a) * (std::min<double>(steps, at + 1.0) / steps), 24, finer - 1, best);
  }

  [[nodiscard]] bool meets(const Vec3& direction, double far) const {
    return geometry_.blocked(
        {pose_.place.as<float>(), direction.as<float>(), 1e-4f, static_cast<float>(far), 0.0f});
  }
  [[nodiscard]] Vec3 toward(double x, double y) const {
    return unit(pose_.frame.right * x + pose_.frame.up * y + pose_.frame.ahead * pose_.image_distance());
  }
  /// Nothing hides the point, and somewhere right beside it the room shows.
  [[nodiscard]] bool is_outer(const Vec3& p, const ImagePoint& image) const {
    const double distance = length(p - pose_.place);
    if (meets(unit(p - pose_.place), distance - std::max(2e-3, 2e-3 * distance))) return false;
    const double beside = 0.002 * half_width_ * 2;
    // Two free directions side by side: a seam where bodies meet lets a ray through in one alone.
    std::array<bool, 8> free{};
    for (std::size_t k = 0; k < 8; ++k) {
      const double a = static_cast<double>(k) * pi / 4;
      free[k] = !meets(toward(image.x + beside * std::cos(a), image.y + beside * std::sin(a)), 1e5);
      if (k > 0 && free[k] && free[k - 1]) return true;
    }
    return free[0] && free[7];
  }

  Geometry geometry_;
  CameraPose pose_;
  double half_width_, half_height_;
};

double widest_focal(const ShotContext& c) {
  double focal = c.camera.focal;
  for (const auto& other : c.project.shots)
    if (other->setup == c.shot.setup && other->camera) focal = std::min(focal, other->camera->focal);
  return focal;
}

}  // namespace

std::optional<Level> frame_backdrop_edge(const ShotContext& c) {
  if (!c.setup || !c.shot.camera || (!c.setup->surface && c.setup->backdrop.kind == BackdropKind::none))
    return std::nullopt;
  const double focal = widest_focal(c);
  Level level = started(c, "frame.backdrop-edge", "Frame edge, widest lens", "% of the frame", {3.0, {}},
                        "projective geometry; band common practice, no source");
  // Only surface and backdrop matter: a set-up of those alone.
  Project bare;
  auto setup = std::make_shared<Setup>(*c.setup);
  setup->lights.clear();
  setup->cards.clear();
  bare.setups.push_back(setup);
  Shot empty;
  empty.setup = setup->id;
  PictureCache none;
  const StagedWorld set = stage(bare, empty, 0.0, none, {.motion = false});
  const auto edges = set_edges(*c.setup);
  std::vector<Worst> moments;
  const std::size_t stride = c.camera_moves() ? 4 : c.times.size();
  for (std::size_t i = 0; i < c.times.size(); i += stride) {
    CameraPose pose = c.pose(c.times[i]);
    pose.focal = focal;
    pose.focus = std::max(pose.focus, focal * 1.0001);
    if (const auto d = EdgeSearch(set, pose, c.optics).nearest(edges))
      moments.push_back({100.0 * *d / c.optics.sensor_width, c.times[i]});
  }
  if (moments.empty()) return std::nullopt;
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  level.formula = fmt::format(
      "nearest outer edge's image to the frame / frame width, at {} mm = {:.2f} mm / {:.2f} mm = {:.1f} %",
      number_text(focal * 1e3, 3), worst.value / 100 * c.optics.sensor_width * 1e3, c.optics.sensor_width * 1e3,
      worst.value);
  level.sentence =
      worst.value < 0
          ? fmt::format("An edge of the set is in the picture, {:.1f} % of the frame inside it.", -worst.value)
          : fmt::format("The nearest edge of the set stays {:.1f} % of the frame outside it.", worst.value);
  if (focal < c.camera.focal)
    level.sentence += fmt::format(" Reckoned with the set-up's widest lens, {} mm.", number_text(focal * 1e3, 3));
  return level;
}

std::optional<Level> frame_size(const ShotContext& c) {
  if (!c.shot.camera || c.shot.products.empty()) return std::nullopt;
  const std::string size = c.shot.size.empty() ? "close" : c.shot.size;
  const Band band = size == "wide" ? Band{25.0, 45.0} : size == "macro" ? Band{60.0, 110.0} : Band{45.0, 80.0};
  Level level = started(c, "frame.size", "Size in the frame", "% of the frame", band,
                        "thin lens (Ray 2002); band for a " + size + " shot, common practice, no source");
  std::vector<Worst> moments;
  for (const double t : c.times) {
    const CameraPose pose = c.pose(t);
    double low = 1e9, high = -1e9;
    for (const Vec3& p : c.outline_points(t))
      if (const auto image = image_of(pose, p)) low = std::min(low, image->y), high = std::max(high, image->y);
    if (high > low) moments.push_back({100.0 * (high - low) / c.optics.sensor_height, t});
  }
  if (moments.empty()) return unknown(level, "no product stands before the lens");
  const Worst worst = worst_of(moments, level.band);
  settle(level, worst);
  const CameraPose pose = c.pose(worst.set_time);
  level.formula = fmt::format(
      "image height / frame height = {:.2f} mm / {:.2f} mm = {:.0f} % ({} mm lens, image distance {:.2f} mm)",
      worst.value / 100 * c.optics.sensor_height * 1e3, c.optics.sensor_height * 1e3, worst.value,
      number_text(pose.focal * 1e3, 3), pose.image_distance() * 1e3);
  level.sentence = fmt::format("The product is {:.0f} % of the frame high in a {} shot.", worst.value, size);
  return level;
}

}  // namespace cinnabar
