// What holds things up in a shot that is put together of plates, over the picture: it is painted out.
#include <algorithm>
#include <cmath>

#include "cinnabar/desktop/stage/lens_view.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

/// The outline of points about them (Andrew 1979).
QPolygonF outlineOf(std::vector<QPointF> points) {
  std::sort(points.begin(), points.end(),
            [](const QPointF& a, const QPointF& b) { return a.x() < b.x() || (a.x() == b.x() && a.y() < b.y()); });
  QPolygonF hull;
  for (const int way : {0, 1}) {
    const qsizetype begins = hull.size();
    for (const QPointF& p : points) {
      while (hull.size() > begins + 1) {
        const QPointF a = hull[hull.size() - 1] - hull[hull.size() - 2], b = p - hull[hull.size() - 2];
        if (a.x() * b.y() - a.y() * b.x() > 0.0) break;
        hull.pop_back();
      }
      hull << p;
    }
    hull.pop_back();
    if (way == 0) std::reverse(points.begin(), points.end());
  }
  return hull;
}

}  // namespace

void LensView::drawSupports(QPainter& p, const QRectF& box) {
  if (!picture_->world || !session_->setup()) return;
  const StagedCamera& camera = picture_->world->camera;
  const CameraPose pose = camera.middle_pose();
  const double kx = box.width() / camera.optics.sensor_width, ky = box.height() / camera.optics.sensor_height;
  p.setBrush(Qt::NoBrush);
  for (const Gear& gear : session_->setup()->gear) {
    if (gear.dressed) continue;
    std::vector<QPointF> corners;
    for (int corner = 0; corner < 8; ++corner) {
      const Vec3 at = gear.place + Vec3{(corner & 1 ? 0.5 : -0.5) * gear.size.x, corner & 2 ? gear.size.y : 0.0,
                                        (corner & 4 ? 0.5 : -0.5) * gear.size.z};
      if (const auto image = image_of(pose, at))
        corners.emplace_back(box.center().x() + image->x * kx, box.center().y() - image->y * ky);
    }
    if (corners.size() < 8) continue;  // partly behind the camera
    const QPolygonF outline = outlineOf(std::move(corners));
    if (!outline.boundingRect().intersects(box)) continue;
    p.setPen(QPen(QColor(0, 0, 0, 150), 3.2));
    drawShape(p, outline, box);
    p.setPen(QPen(QColor(255, 236, 190), 1.4, Qt::DashLine));
    drawShape(p, outline, box);
    const QString words = tr("paint out: %1").arg(q(name_or(gear.name, gear.id)));
    const double wide_words = QFontMetricsF(textFont(10)).horizontalAdvance(words) + 8;
    const QRectF seen = outline.boundingRect().intersected(box);
    const QRectF plate(
        std::clamp(seen.center().x() - wide_words / 2, box.left(), std::max(box.left(), box.right() - wide_words)),
        std::max(box.top(), seen.top() - 15), wide_words, 14);
    p.fillRect(plate, QColor(12, 10, 9, 190));
    drawText(p, plate, Qt::AlignCenter, words, textFont(10), QColor(250, 240, 222));
  }
}

}  // namespace cinnabar
