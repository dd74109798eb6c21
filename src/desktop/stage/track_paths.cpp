// The ways of what moves, on the floor: a line with a mark for every recorded frame, and a square at every key.
#include <functional>

#include "cinnabar/desktop/stage/floor_view.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/project/model/track_target.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

/// Where something is at a set time, and the set times of its keys.
struct Travel {
  std::function<Vec3(double)> at;
  std::vector<double> keys;
};

/// What changes its place in a shot: camera, products, lights and cards that are carried, slid or swung.
std::vector<Travel> travels_of(const Session& session) {
  std::vector<Travel> ways;
  const Shot* shot = session.shot();
  if (!shot) return ways;
  const auto add = [&](std::initializer_list<const KeyedTrack*> tracks, std::function<Vec3(double)> at) {
    Travel way{std::move(at), {}};
    for (const KeyedTrack* track : tracks)
      if (track)
        for (const auto& key : track->keys) way.keys.push_back(key.first);
    if (way.keys.size() > 1) ways.push_back(std::move(way));
  };
  if (shot->camera)
    add({shot->track(Tracked::camera_place), shot->track(Tracked::camera_slide)},
        [shot](double t) { return camera_at(*shot, t).place; });
  for (const ShotProduct& placed : shot->products)
    add({shot->track(Tracked::product_place, placed.product)},
        [&session, shot, &placed](double t) { return product_at(session.project(), *shot, placed, t).place; });
  const Setup* setup = session.setup();
  if (!setup) return ways;
  for (const Light& light : setup->lights)
    add({shot->track(Tracked::light_place, light.id), shot->track(Tracked::light_turn, light.id)},
        [shot, &light](double t) { return light_at(light, *shot, t).place; });
  for (const Card& card : setup->cards)
    add({shot->track(Tracked::card_place, card.id)},
        [shot, &card](double t) { return card_at(card, *shot, t).place; });
  add({shot->track(Tracked::backdrop_place)},
      [shot, setup](double t) { return backdrop_at(setup->backdrop, *shot, t).foot(); });
  return ways;
}

}  // namespace

std::vector<Vec3> FloorView::wayPoints() const {
  std::vector<Vec3> points;
  const Shot* shot = session_->shot();
  for (const Travel& way : travels_of(*session_))
    for (int k = 0; k <= 16; ++k) points.push_back(way.at(shot->set_time() * k / 16));
  return points;
}

void FloorView::drawWays(QPainter& p) {
  const Shot* shot = session_->shot();
  if (!shot || shot->set_time() <= 0.0) return;
  const Theme& t = theme();
  const double end = shot->set_time(), rate = shot_optics(session_->project(), *shot).rate;
  const QRectF seen = QRectF(rect()).adjusted(-4, -4, 4, 4);
  for (const Travel& way : travels_of(*session_)) {
    constexpr int pieces = 120;
    QPolygonF line;
    double pixels = 0;
    for (int k = 0; k <= pieces; ++k) {
      line << onScreen(way.at(end * k / pieces));
      if (k > 0) pixels += std::hypot((line[k] - line[k - 1]).x(), (line[k] - line[k - 1]).y());
    }
    if (pixels < 1.0) continue;
    p.setPen(QPen(t.quiet, 1.0));
    for (int k = 0; k < pieces; ++k)
      if (const auto part = partSeen({line[k], line[k + 1]}, seen)) p.drawLine(*part);
    // Marks that would run together stand for several frames each.
    const double frames = std::floor(end * rate + 1e-6);
    const double step = std::max(1.0, std::ceil(frames * 3.0 / pixels));
    p.setPen(Qt::NoPen);
    p.setBrush(t.ink);
    for (double k = 0; k <= frames; k += step) {
      const QPointF at = onScreen(way.at(k / rate));
      if (seen.contains(at)) p.drawEllipse(at, 1.3, 1.3);
    }
    p.setPen(QPen(t.ink, 1.1));
    p.setBrush(t.panel);
    if (pixels < 9.0 * static_cast<double>(way.keys.size())) continue;  // they would hide the frames' marks
    for (const double key : way.keys) {
      const QPointF at = onScreen(way.at(key));
      if (seen.contains(at)) p.drawRect(QRectF(at.x() - 2.6, at.y() - 2.6, 5.2, 5.2));
    }
  }
}

}  // namespace cinnabar
