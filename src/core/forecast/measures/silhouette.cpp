#include "cinnabar/forecast/measures/silhouette.h"

#include "cinnabar/scene/form.h"

#include <algorithm>
#include <cmath>

namespace cinnabar {
namespace {

double turn_of(const ImagePoint& o, const ImagePoint& a, const ImagePoint& b) {
  return (a.x - o.x) * (b.y - o.y) - (a.y - o.y) * (b.x - o.x);
}

/// Convex hull, counter-clockwise (Andrew's monotone chain, 1979).
std::vector<ImagePoint> hull(std::vector<ImagePoint> points) {
  std::sort(points.begin(), points.end(),
            [](const ImagePoint& a, const ImagePoint& b) { return std::pair(a.x, a.y) < std::pair(b.x, b.y); });
  if (points.size() < 3) return points;
  std::vector<ImagePoint> out;
  const auto half = [&](auto from, auto to) {
    const std::size_t start = out.size();
    for (auto p = from; p != to; ++p) {
      while (out.size() >= start + 2 && turn_of(out[out.size() - 2], out.back(), *p) <= 0.0) out.pop_back();
      out.push_back(*p);
    }
    out.pop_back();
  };
  half(points.begin(), points.end());
  half(points.rbegin(), points.rend());
  return out;
}

}  // namespace

ImageBox frame_of(const Deliverable& d, const ShotOptics& o) {
  const auto [across, upright] = delivered_frame(d, o);
  const double width = o.turned ? upright : across, height = o.turned ? across : upright;
  return {-width / 2, width / 2, -height / 2, height / 2};
}

ImageBox words_area(const Deliverable& d, const ShotOptics& o) {
  const auto [across, upright] = delivered_frame(d, o);
  const Words words = d.words.value_or(Words{});
  const double left = (words.x - 0.5) * across, right = left + words.width * across,
               top = (0.5 - words.y) * upright, bottom = top - words.height * upright;
  if (o.turned > 0) return {bottom, top, -right, -left};  // the camera's right is up, its upper edge on the left
  if (o.turned < 0) return {-top, -bottom, left, right};
  return {left, right, bottom, top};
}

std::vector<std::vector<ImagePoint>> silhouette(const Project& project, const Shot& shot, double t) {
  std::vector<std::vector<ImagePoint>> pieces;
  const CameraPose pose = camera_at(shot, t);
  for (const ShotProduct& placed : shot.products) {
    const Product* product = by_id(project.products, placed.product);
    if (!product) continue;
    const ProductPose place = product_at(project, shot, placed, t);
    for (const Part& part : product->parts)
      for (std::size_t i = 0; i + 1 < part.profile.size(); ++i) {
        std::vector<ImagePoint> rings;
        for (const ProfilePoint& p : {part.profile[i], part.profile[i + 1]})
          for (const RimPoint& edge : rim(part, p, p.radius > 0.0 ? 36 : 1))
            if (const auto image = image_of(pose, place.world(edge.at))) rings.push_back(*image);
        if (rings.size() >= 3) pieces.push_back(hull(std::move(rings)));
      }
  }
  return pieces;
}

bool meets(const std::vector<ImagePoint>& piece, const ImageBox& box) {
  ImageBox own;
  for (const ImagePoint& p : piece) own.take(p);
  if (own.left > box.right || own.right < box.left || own.bottom > box.top || own.top < box.bottom) return false;
  const ImagePoint corners[] = {
      {box.left, box.bottom}, {box.right, box.bottom}, {box.right, box.top}, {box.left, box.top}};
  for (std::size_t i = 0; i < piece.size(); ++i) {
    const ImagePoint &a = piece[i], &b = piece[(i + 1) % piece.size()];
    if (std::all_of(std::begin(corners), std::end(corners),
                    [&](const ImagePoint& q) { return turn_of(a, b, q) < 0.0; }))
      return false;
  }
  return true;
}

}  // namespace cinnabar
