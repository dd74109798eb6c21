#include "cinnabar/desktop/paper/effect_drawing.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/scene/form.h"
#include "cinnabar/scene/view.h"

namespace cinnabar::paper {
namespace {

constexpr int moments = 48;
constexpr std::size_t most_bodies = 24;  // the drops of one splash look alike

/// Where something is, how large, and whether it is liquid.
struct Mark {
  Vec3 at;
  double reach;
  bool liquid;
};

/// Of all that moves, at so many moments from when it is let go.
std::vector<Mark> marks_of(const ToldEffects& effects, double end) {
  std::vector<Mark> marks;
  for (const ToldEffect& told : effects) {
    if (!told.outcome) continue;
    const EffectEvent* settles = told.outcome->event("settles");
    const double from = told.effect->at, to = std::min(settles ? settles->at : end, std::max(end, from + 0.1));
    std::size_t count = 0;
    for (const EffectBody& body : told.outcome->bodies) {
      if (++count > most_bodies) break;
      for (int k = 0; k <= moments; ++k) {
        const double t = from + (to - from) * k / moments;
        const auto shapes = body.at(t, t);
        for (std::size_t s = 0; s < std::min(shapes.size(), most_bodies); ++s) {
          if (body.form == EffectForm::thread && k == moments / 2)
            for (const auto& [at, radius] : shapes[s].spine) marks.push_back({at, radius, true});
          if (body.form == EffectForm::ball || body.form == EffectForm::box || body.form == EffectForm::thing)
            marks.push_back({shapes[s].place, body.half.y, body.liquid});
        }
      }
    }
  }
  return marks;
}

}  // namespace

int drawEffectsAside(Page& page, const Project& project, const Shot& shot, const ToldEffects& effects, double x,
                     double y, double w, double h) {
  const std::vector<Mark> marks = marks_of(effects, shot.set_time());
  if (marks.empty()) return 0;
  const auto span = [&](double Vec3::*axis) {
    const auto [low, high] = std::ranges::minmax(marks, {}, [axis](const Mark& m) { return m.at.*axis; });
    return high.at.*axis - low.at.*axis;
  };
  const bool across = span(&Vec3::x) >= span(&Vec3::z);  // else from its right
  const auto aside = [across](const Vec3& v) { return across ? v.x : -v.z; };
  double low = 1e9, high = -1e9, top = 0.05;
  const auto reach = [&](double at, double up, double by) {
    low = std::min(low, at - by), high = std::max(high, at + by), top = std::max(top, up + by);
  };
  for (const Mark& m : marks) reach(aside(m.at), m.at.y, m.reach);
  for (const ShotProduct& placed : shot.products)
    if (const Product* product = by_id(project.products, placed.product))
      reach(aside(placed.place), placed.place.y + height_span(*product).second, widest_reach(*product));
  int scale = 100;
  for (const int s : {1, 2, 3, 4, 5, 8, 10, 15, 20, 25, 30, 40, 50})
    if ((high - low) * 1000 / s <= w - 4 && (top + 0.01) * 1000 / s <= h - 4) {
      scale = s;
      break;
    }
  QPainter& p = page.painter();
  p.save();
  p.setClipRect(page.box(x, y, w, h));
  const auto at = [&](double side, double up) {
    return QPointF(page.mm(x + w / 2 + (side - 0.5 * (low + high)) * 1000 / scale),
                   page.mm(y + h - 3 - up * 1000 / scale));
  };
  p.setBrush(Qt::NoBrush);
  p.setPen(QPen(Qt::black, page.mm(0.3)));
  p.drawLine(QPointF(page.mm(x), at(0, 0).y()), QPointF(page.mm(x + w), at(0, 0).y()));
  p.setPen(QPen(Qt::black, page.mm(0.25)));
  for (const ShotProduct& placed : shot.products) {
    const Product* product = by_id(project.products, placed.product);
    if (!product) continue;
    const ProductPose pose = product_at(project, shot, placed, 0.0);
    for (const Part& part : product->parts) {
      QPolygonF outline;
      for (const ProfilePoint& q : part.profile)
        outline << at(aside(pose.place) + q.radius, pose.place.y + q.height);
      for (auto q = part.profile.rbegin(); q != part.profile.rend(); ++q)
        outline << at(aside(pose.place) - q->radius, pose.place.y + q->height);
      p.drawPolygon(outline);
    }
  }
  for (const Mark& m : marks) {
    p.setPen(QPen(m.liquid ? Qt::darkGray : Qt::black, page.mm(0.12)));
    const double r = std::max(page.mm(0.25), page.mm(m.reach * 1000 / scale));
    p.drawEllipse(at(aside(m.at), m.at.y), r, r);
  }
  p.setPen(QPen(Qt::black, page.mm(0.4)));
  for (const ToldEffect& told : effects) {  // where each begins
    const QPointF begins = at(aside(told.effect->place), told.effect->place.y);
    p.drawLine(begins - QPointF(page.mm(1.5), 0), begins + QPointF(page.mm(1.5), 0));
    p.drawLine(begins - QPointF(0, page.mm(1.5)), begins + QPointF(0, page.mm(1.5)));
  }
  p.restore();
  return scale;
}

}  // namespace cinnabar::paper
