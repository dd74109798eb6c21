#include "cinnabar/desktop/stage/floor_view.h"

#include <QPainterPath>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/edits/hand.h"
#include "cinnabar/desktop/stage/lens_wedges.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/planning/heads.h"
#include "cinnabar/scene/form.h"
#include "cinnabar/scene/staged.h"

namespace cinnabar {

using Kind = Selection::Kind;

std::vector<ToldPart> FloorView::parts() const {
  std::vector<ToldPart> list;
  const std::vector<Head> all = heads();
  const auto holders = holders_of(session_->project());
  const auto on = held_on(all, holders);
  const auto add = [&](const Selection& thing, const QString& name) {
    const auto stands = place_and_aim(session_->onSet(), thing);
    QString where;
    if (stands)
      where = tr("%1 to the right, %2 toward the camera, %3 up")
                  .arg(q(length_text(stands->first.x, session_->units())),
                       q(length_text(stands->first.z, session_->units())),
                       q(length_text(stands->first.y, session_->units())));
    const auto head = std::find_if(all.begin(), all.end(), [&](const Head& h) { return h.thing == thing; });
    if (head != all.end() && !holders.empty()) {
      const Support* by = on[static_cast<std::size_t>(head - all.begin())];
      where += by ? tr(", on %1").arg(q(name_or(by->name, by->id)))
                  : ", " + q(why_unheld(*head, holders, session_->units()));
    }
    list.push_back({name, where, outline(thing).boundingRect().toAlignedRect(), session_->selection() == thing});
  };
  for (const Selection& thing : takeable()) add(thing, nameOf(*session_, thing));
  return list;
}

FloorView::FloorView(Session* session, QWidget* parent)
    : Painted("floor", tr("Floor in plan"),
              tr("Space takes the next thing in hand, arrows move it by a centimetre, Shift by ten, Page Up and "
                 "Down raise and lower it, Insert sets something up, Ctrl+D doubles it, Delete takes it away, V "
                 "changes the view"),
              parent),
      session_(session),
      wedges_(new LensWedges(session, this)) {
  connect(wedges_, &LensWedges::workedOut, this, [this] { update(); });
  setMouseTracking(true);
  const char* ids[] = {"plan", "side", "front"};
  const QString words[] = {tr("plan"), tr("side"), tr("front")};
  for (std::size_t k = 0; k < views_.size(); ++k) {
    views_[k] = new WordButton(words[k], WordButton::Look::chip, this);
    views_[k]->setObjectName(QString("view-%1").arg(ids[k]));
    views_[k]->setAccessibleName(tr("Floor from %1").arg(words[k]));
    connect(views_[k], &WordButton::clicked, this, [this, k] { setView(static_cast<View>(k)); });
  }
  things_ = new WordButton(tr("Set up"), WordButton::Look::chip, this);
  things_->setObjectName("things");
  things_->setCheckable(false);
  things_->setAccessibleName(tr("Set up a light or a card, double or take away what is in hand"));
  connect(things_, &WordButton::clicked, this, &FloorView::thingMenu);
  views_[0]->setChecked(true);
  connect(session_, &Session::selectionChanged, this, [this] { tellChosenPart(); });
  connect(session_, &Session::changed, this, [this] {
    if (!session_->previewing() && drag_ == Drag::none) fit();
    update();
  });
  connect(session_, &Session::selectionChanged, this, [this] { update(); });
  connect(session_, &Session::timeChanged, this, [this] { update(); });
}

void FloorView::setBench(Bench bench) {
  bench_ = bench;
  wedges_->setWanted(bench == Bench::place);
  update();
}

void FloorView::setView(View view) {
  view_ = view;
  for (std::size_t k = 0; k < views_.size(); ++k) views_[k]->setChecked(static_cast<View>(k) == view);
  setAccessibleName(view == View::plan   ? tr("Floor in plan")
                    : view == View::side ? tr("Floor from the side")
                                         : tr("Floor from the front"));
  fit();
}

void FloorView::resizeEvent(QResizeEvent*) {
  double x = width() - 8.0;
  for (std::size_t k = views_.size(); k-- > 0;) {
    const QSize size = views_[k]->sizeHint() - QSize(10, 2);
    x -= size.width() + 4;
    views_[k]->setGeometry(static_cast<int>(x), height() - 25, size.width(), size.height());
  }
  const QSize size = things_->sizeHint() - QSize(8, 2);
  things_->setGeometry(width() - size.width() - 8, 6, size.width(), size.height());
  fit();
}

Vec3 FloorView::axisRight() const { return view_ == View::side ? Vec3{0, 0, 1} : Vec3{1, 0, 0}; }
Vec3 FloorView::axisDown() const { return view_ == View::plan ? Vec3{0, 0, 1} : Vec3{0, -1, 0}; }

void FloorView::fit() {
  double x0 = -0.3, x1 = 0.3, z0 = -0.3, z1 = view_ == View::plan ? 0.3 : 0.08;
  const auto reach = [&](const Vec3& v, double room) {
    const double across = dot(v, axisRight()), down = dot(v, axisDown());
    x0 = std::min(x0, across - room), x1 = std::max(x1, across + room);
    z0 = std::min(z0, down - room), z1 = std::max(z1, down + room);
  };
  if (const Setup* s = session_->setup()) {
    const bool plan = view_ == View::plan;  // upright, faces show their whole height
    for (const Light& l : s->lights)
      if (!l.window)
        reach(l.place, plan ? 0.16 : std::max(0.16, 0.55 * std::max({l.width, l.height, 2 * l.radius, l.length})));
    for (const Card& c : s->cards) reach(c.place, plan ? 0.1 : std::max(0.1, 0.55 * std::max(c.width, c.height)));
    if (s->backdrop.kind != BackdropKind::none) reach({0, 0, -std::min(s->backdrop.distance, 3.0)}, 0.06);
    if (s->surface) reach({std::min(s->surface->width, 1.4) / 2, 0, 0}, 0);
  }
  if (session_->shot() && session_->shot()->camera) reach(session_->shot()->camera->place, 0.14);
  for (const Vec3& v : wayPoints()) reach(v, 0.06);
  const double k = std::min(width() / (x1 - x0), (height() - 62) / (z1 - z0));
  scale_ = std::clamp(k, 20.0, 900.0);
  middle_ = {(x0 + x1) / 2, (z0 + z1) / 2 + 6 / scale_};
  update();
}

QPointF FloorView::onScreen(const Vec3& w) const {
  return {width() / 2.0 + (dot(w, axisRight()) - middle_.x()) * scale_,
          height() / 2.0 + (dot(w, axisDown()) - middle_.y()) * scale_};
}
Vec3 FloorView::onFloor(const QPointF& at) const {
  return axisRight() * (middle_.x() + (at.x() - width() / 2.0) / scale_) +
         axisDown() * (middle_.y() + (at.y() - height() / 2.0) / scale_);
}

QPolygonF hullOf(std::vector<QPointF> points) {
  std::sort(points.begin(), points.end(),
            [](const QPointF& a, const QPointF& b) { return std::pair(a.x(), a.y()) < std::pair(b.x(), b.y()); });
  QPolygonF hull;
  for (const int pass : {0, 1}) {
    const qsizetype from = hull.size();
    for (const QPointF& p : points) {
      while (hull.size() >= from + 2) {
        const QPointF &a = hull[hull.size() - 2], &b = hull.back();
        if ((b.x() - a.x()) * (p.y() - a.y()) - (b.y() - a.y()) * (p.x() - a.x()) > 0) break;
        hull.pop_back();
      }
      hull << p;
    }
    hull.pop_back();
    if (pass == 0) std::reverse(points.begin(), points.end());
  }
  return hull;
}

namespace {
double luminanceOf(const Material& m) {
  return 0.2126729 * m.colour.x + 0.7151522 * m.colour.y + 0.0721750 * m.colour.z;
}

QPolygonF circle(const QPointF& c, double r) {
  QPolygonF polygon;
  for (int i = 0; i < 40; ++i)
    polygon << QPointF(c.x() + r * std::cos(i * pi / 20), c.y() + r * std::sin(i * pi / 20));
  return polygon;
}
}  // namespace

/// A sheet as the drawing sees it: its four corners, thickened so that one on edge can be seen and held.
QPolygonF FloorView::sheet(const Vec3& place, const Facing& f, double width, double height,
                           double thickness) const {
  const Vec3 r = f.right * (width / 2), u = f.up * (height / 2);
  Vec3 back = f.ahead * -thickness;
  if (view_ == View::plan) back.y = 0;
  std::vector<QPointF> corners;
  for (const Vec3& c : {place - r - u, place + r - u, place + r + u, place - r + u})
    corners.push_back(onScreen(c)), corners.push_back(onScreen(c + back));
  return hullOf(corners);
}

/// A circle from above; from the side the product's own outline, the widest of its parts at each height.
QPolygonF FloorView::productOutline(std::size_t index) const {
  const ShotProduct& placed = session_->shot()->products[index];
  const Product* product = by_id(session_->project().products, placed.product);
  const ProductPose pose = product_at(session_->project(), *session_->shot(), placed, session_->setTime());
  const Vec3 place = pose.place;
  const double r = product ? widest_reach(*product) : 0.02;
  const bool round = !product || std::all_of(product->parts.begin(), product->parts.end(),
                                             [](const Part& part) { return part.turned_on_axis(); });
  if (view_ == View::plan && (round || r * scale_ < 6.0))
    return circle(onScreen(place), std::max(6.0, r * scale_));
  if (!product) return circle(onScreen(place), std::max(6.0, r * scale_));
  if (view_ == View::plan) {  // each part's widest section, as it is turned
    QPainterPath path;
    for (const Part& part : product->parts) {
      const auto widest = std::max_element(part.profile.begin(), part.profile.end(),
                                           [](const ProfilePoint& a, const ProfilePoint& b) {
                                             return std::max(a.radius, a.depth()) < std::max(b.radius, b.depth());
                                           });
      if (widest == part.profile.end()) continue;
      QPolygonF edge;
      for (const RimPoint& p : rim(part, *widest, 36)) edge << onScreen(pose.world(p.at));
      QPainterPath one;
      one.addPolygon(edge);
      one.closeSubpath();
      path = path.united(one);
    }
    return path.toFillPolygon();
  }
  const auto [low, high] = height_span(*product);
  QPolygonF right, left;
  for (int k = 0; k <= 40; ++k) {
    const double h = low + (high - low) * k / 40;
    double least = 1e-3, most = 1e-3;
    for (const Part& part : product->parts)
      if (const auto section = section_at(part, h))
        for (const RimPoint& p : rim(part, *section, round ? 4 : 24)) {
          const double across = dot(pose.direction(p.at), axisRight());
          least = std::max(least, -across), most = std::max(most, across);
        }
    right << onScreen(place + Vec3{0, h, 0} + axisRight() * most);
    left << onScreen(place + Vec3{0, h, 0} - axisRight() * least);
  }
  std::reverse(left.begin(), left.end());
  return right + left;
}

/// The set-up's, as tracks have it.
Backdrop FloorView::backdropNow() const {
  const Backdrop& drop = session_->setup()->backdrop;
  return session_->shot() ? backdrop_at(drop, *session_->shot(), session_->setTime()) : drop;
}

QPolygonF FloorView::outline(const Selection& s) const {
  const Setup* setup = session_->setup();
  switch (s.kind) {
    case Kind::light: {
      return lightOutline(light_at(setup->lights[s.index], *session_->shot(), session_->setTime()));
    }
    case Kind::body:
      return bodyOutline(setup->gear[s.index]);
    case Kind::card:
      return cardOutline(card_at(setup->cards[s.index], *session_->shot(), session_->setTime()));
    case Kind::camera: {
      const CameraPose pose = camera_at(*session_->shot(), session_->setTime());
      const QPointF c = onScreen(pose.place);
      const double a = std::atan2(dot(pose.frame.ahead, axisDown()), dot(pose.frame.ahead, axisRight()));
      const QPointF along(std::cos(a), std::sin(a)), across(-along.y(), along.x());
      return QPolygonF{c + across * 6,
                       c - across * 6,
                       c - across * 6 - along * 11,
                       c - across * 13 - along * 11,
                       c - across * 13 - along * 27,
                       c + across * 13 - along * 27,
                       c + across * 13 - along * 11,
                       c + across * 6 - along * 11};
    }
    case Kind::product:
      return productOutline(s.index);
    case Kind::backdrop: {
      const Backdrop b = backdropNow();
      const Vec3 foot = b.foot(), half{b.width / 2, 0, 0};
      if (view_ == View::front) {
        const Vec3 up{0, b.height, 0};
        return QPolygonF{onScreen(foot - half), onScreen(foot + half), onScreen(foot + half + up),
                         onScreen(foot - half + up)};
      }
      if (view_ == View::side) {
        QPolygonF line, back;
        for (const AcrossBackdrop& across : backdrop_lines(*setup, b)) {
          line << onScreen(across.left) + QPointF(-2, 2);
          back << onScreen(across.left) + QPointF(2, -1);
        }
        std::reverse(back.begin(), back.end());
        return line + back;
      }
      return QPolygonF{onScreen(foot - half) + QPointF(0, -3), onScreen(foot + half) + QPointF(0, -3),
                       onScreen(foot + half) + QPointF(0, 2), onScreen(foot - half) + QPointF(0, 2)};
    }
    case Kind::effect:
      return QPolygonF(
          QRectF(onScreen(place_and_aim(session_->onSet(), s)->first) - QPointF(6, 6), QSizeF(12, 12)));
    case Kind::surface: {
      const double x = setup->surface->width / 2, z = setup->surface->depth / 2;
      if (view_ != View::plan) {
        const double half = view_ == View::side ? z : x;
        const QPointF a = onScreen(axisRight() * -half), b = onScreen(axisRight() * half);
        return QPolygonF{a, b, b + QPointF(0, 4), a + QPointF(0, 4)};
      }
      return QPolygonF{onScreen({-x, 0, -z}), onScreen({x, 0, -z}), onScreen({x, 0, z}), onScreen({-x, 0, z})};
    }
    case Kind::room:
      return roomOutline();
    case Kind::none:
      break;
  }
  return {};
}

QPointF FloorView::handle(const Selection& s) const {
  if (s.kind == Kind::room) return (outline(s)[1] + outline(s)[2]) / 2;
  if (s.kind == Kind::surface) return (outline(s)[2] + outline(s)[3]) / 2;
  if (s.kind == Kind::backdrop) return (outline(s)[0] + outline(s)[2]) / 2;
  return outline(s).boundingRect().center();
}
QPointF FloorView::aimHandle() const {
  const auto both = place_and_aim(session_->onSet(), session_->selection());
  const Selection held = session_->selection();
  if (!both || !has_aim(held)) return {-1000, -1000};
  if (held.kind == Kind::light && session_->setup()->lights[held.index].window) return {-1000, -1000};  // fixed
  // On the line to the aim, held a little off the thing that is aimed at.
  const QPointF from = onScreen(both->first), to = onScreen(both->second);
  const double d = std::hypot(to.x() - from.x(), to.y() - from.y());
  return d < 30 ? to : from + (to - from) * std::max(0.4, (d - 26) / d);
}

void FloorView::drawSet(QPainter& p) {
  const Theme& t = theme();
  const Setup* s = session_->setup();
  if (!s) return;
  if (s->room.has_walls()) drawRoom(p);
  if (s->surface) {
    p.setPen(QPen(session_->selection().kind == Kind::surface ? t.accent : t.quiet, 1.2));
    p.setBrush(Qt::NoBrush);
    drawShape(p, outline({Kind::surface, 0}), rect());
  }
  if (s->backdrop.kind != BackdropKind::none) {
    const QPolygonF line = outline({Kind::backdrop, 0});
    const QColor ink = session_->selection().kind == Kind::backdrop ? t.accent : t.ink;
    p.setPen(view_ == View::front ? QPen(ink, 1.2) : QPen(Qt::NoPen));
    p.setBrush(view_ == View::front ? QBrush(Qt::NoBrush) : QBrush(ink));
    drawShape(p, line, rect());
    if (s->backdrop.kind == BackdropKind::sweep && view_ == View::plan) {  // where the sheet lies on the floor
      p.setPen(QPen(t.line, 1.2, Qt::DashLine));
      const Backdrop now = backdropNow();
      const AcrossBackdrop front = backdrop_lines(*s, now).front();
      for (const Vec3& end : {front.left, front.right})
        p.drawLine(onScreen(end), onScreen({end.x, end.y, now.foot().z}));
    }
    const QString kind = s->backdrop.kind == BackdropKind::sweep ? tr("sweep") : tr("backdrop");
    const QRectF box = line.boundingRect();
    const QString words = tr("%1 %2 wide, %3 back")
                              .arg(kind, QString::fromStdString(length_text(s->backdrop.width, session_->units())),
                                   QString::fromStdString(length_text(s->backdrop.distance, session_->units())));
    // Under its left end.
    const double wide = QFontMetricsF(textFont(10)).horizontalAdvance(words) + 2;
    names_.push_back({words,
                      {std::max(6.0, box.left() + 2), box.top(), wide, view_ == View::front ? 2.0 : box.height()},
                      textFont(10),
                      t.quiet});
  }
}

void FloorView::drawLight(QPainter& p, std::size_t index) {
  const Theme& t = theme();
  const Light l = light_at(session_->setup()->lights[index], *session_->shot(), session_->setTime());
  const Selection self{Kind::light, index};
  const QPolygonF shape = outline(self);
  const bool chosen = session_->selection() == self;
  if (l.on && l.dimmer > 0) {  // the cone from the face's ends to where it is aimed
    QColor beam = t.lightFill;
    beam.setAlphaF(static_cast<float>(std::clamp(0.16 + 0.34 * std::sqrt(l.dimmer), 0.1, 0.5)));
    const Facing f = facing(l.place, l.aim, l.roll_deg);
    const double half = l.shape == LightShape::rectangle ? l.width / 2
                        : l.shape == LightShape::bare    ? 0.02
                                                         : l.radius;
    const Vec3 side = f.right * half;
    p.setPen(Qt::NoPen);
    p.setBrush(beam);
    const Vec3 tall = f.up * (l.shape == LightShape::rectangle ? l.height / 2 : half);
    drawShape(p,
              view_ == View::plan
                  ? QPolygonF{onScreen(l.place - side), onScreen(l.place + side), onScreen(l.aim)}
                  : hullOf({onScreen(l.place - side - tall), onScreen(l.place + side - tall),
                            onScreen(l.place - side + tall), onScreen(l.place + side + tall), onScreen(l.aim)}),
              rect());
  }
  p.setPen(QPen(chosen ? t.accent : t.ink, chosen ? 1.6 : 1.2));
  // Upright faces are as large as what they light: their outlines alone, so that nothing hides behind them.
  p.setBrush(view_ != View::plan ? QBrush(Qt::NoBrush) : l.on ? QBrush(t.lightFill) : QBrush(t.panel));
  drawShape(p, shape, rect());
  if (l.doors) {
    p.setBrush(t.ink);
    for (const DoorLeaf& leaf : door_leaves(l))
      drawShape(p, hullOf({onScreen(leaf[0]), onScreen(leaf[1]), onScreen(leaf[2]), onScreen(leaf[3])}), rect());
    p.setBrush(t.panel);
    for (std::size_t leaf = 0; leaf < 4 && chosen; ++leaf)
      if (const auto at = doorHandle(leaf)) p.drawEllipse(*at, 3.2, 3.2);
  }
  names_.push_back(
      {QString::fromStdString(l.name), shape.boundingRect(), textFont(11, chosen), chosen ? t.accent : t.ink});
}

void FloorView::drawCamera(QPainter& p) {
  const Theme& t = theme();
  const Shot& shot = *session_->shot();
  if (!shot.camera) return;
  const CameraPose pose = camera_at(shot, session_->setTime());
  const ShotOptics o = shot_optics(session_->project(), *shot.camera);
  // What the lens sees, out to the backdrop or twice the focus.
  const double far = session_->setup() && session_->setup()->backdrop.kind != BackdropKind::none
                         ? pose.place.z + session_->setup()->backdrop.distance
                         : 2 * pose.focus;
  const bool plan = view_ == View::plan;
  const double half = (plan ? o.sensor_width : o.sensor_height) / 2 / pose.image_distance();
  const Vec3 across = plan ? pose.frame.right : pose.frame.up;
  const Vec3 left = pose.place + (pose.frame.ahead - across * half) * far,
             right = pose.place + (pose.frame.ahead + across * half) * far;
  QColor wedge = t.accent;
  wedge.setAlpha(t.dark ? 26 : 22);
  p.setPen(Qt::NoPen);
  p.setBrush(wedge);
  drawShape(p, QPolygonF{onScreen(pose.place), onScreen(left), onScreen(right)}, rect());
  p.setPen(QPen(t.accent, 1));
  p.drawLine(onScreen(pose.place), onScreen(left));
  p.drawLine(onScreen(pose.place), onScreen(right));
  p.setPen(QPen(t.accent, 1, Qt::DotLine));  // the sharp plane
  const Vec3 sharp = pose.place + pose.frame.ahead * pose.focus, side = across * (half * pose.focus);
  p.drawLine(onScreen(sharp - side), onScreen(sharp + side));
  const bool chosen = session_->selection().kind == Kind::camera;
  p.setPen(QPen(chosen ? t.accent : t.ink, 1));
  p.setBrush(chosen ? t.accent : t.ink);
  const QPolygonF body = outline({Kind::camera, 0});
  drawShape(p, body, rect());
  names_.push_back({QString::fromStdString(number_text(pose.focal * 1e3, 3)) + " mm", body.boundingRect(),
                    numberFont(11), chosen ? t.accent : t.quiet});
}

void FloorView::drawProducts(QPainter& p) {
  const Theme& t = theme();
  for (std::size_t i = 0; i < session_->shot()->products.size(); ++i) {
    const ShotProduct& placed = session_->shot()->products[i];
    const Product* product = by_id(session_->project().products, placed.product);
    const bool chosen = session_->selection() == Selection{Kind::product, i};
    const QPolygonF shape = outline({Kind::product, i});
    const QRectF b = shape.boundingRect();
    if (!placed.on.empty() && view_ == View::plan) {
      p.setPen(QPen(t.quiet, 1));
      p.setBrush(Qt::NoBrush);
      p.drawEllipse(onScreen({0, 0, 0}), b.width() * 0.85, b.width() * 0.85);
    }
    p.setPen(QPen(chosen ? t.accent : t.ink, 1.2));
    p.setBrush(t.leaning);
    drawShape(p, shape, rect());
    if (!product || !product->label || view_ != View::plan) continue;
    const ProductPose pose = product_at(session_->project(), *session_->shot(), placed, session_->setTime());
    const double bearing = product->label->bearing_deg + pose.turn_deg, arc = product->label->arc_deg;
    p.setPen(QPen(t.accent, 2.4));
    // Qt's angles run counter-clockwise from three o'clock; bearing 0 is six o'clock, growing to the right.
    p.drawArc(b, static_cast<int>((bearing - 90 - arc / 2) * 16), static_cast<int>(arc * 16));
  }
}

void FloorView::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  drawPanel(p, rect());
  p.setClipRect(QRectF(rect()).adjusted(1, 1, -1, -1));
  double step = scale_ > 120 ? 0.1 : 0.5;
  while (step * scale_ < 12) step *= 2;
  QColor grid = t.line;
  grid.setAlpha(t.dark ? 90 : 120);
  p.setPen(QPen(grid, 1));
  p.setRenderHint(QPainter::Antialiasing, false);  // upright and level lines need none, and there are many
  const Vec3 corner = onFloor({0, 0}),
             other = onFloor({static_cast<double>(width()), static_cast<double>(height())});
  const double x0 = dot(corner, axisRight()), x1 = dot(other, axisRight()), y0 = dot(corner, axisDown()),
               y1 = dot(other, axisDown());
  for (double x = std::ceil(x0 / step) * step; x < x1; x += step)
    p.drawLine(onScreen(axisRight() * x + axisDown() * y0), onScreen(axisRight() * x + axisDown() * y1));
  for (double y = std::ceil(y0 / step) * step; y < y1; y += step)
    p.drawLine(onScreen(axisRight() * x0 + axisDown() * y), onScreen(axisRight() * x1 + axisDown() * y));
  p.setRenderHint(QPainter::Antialiasing);
  names_.clear();
  if (session_->shot()) {
    drawSet(p);
    drawBodies(p);
    drawStands(p);
    drawCamera(p);
    drawLenses(p);
    drawWays(p);
    drawEffects(p);
    if (const Setup* s = session_->setup()) {
      for (std::size_t i = 0; i < s->own_lights(); ++i) drawLight(p, i);
      for (std::size_t i = 0; i < s->cards.size(); ++i) {
        const bool chosen = session_->selection() == Selection{Kind::card, i};
        p.setPen(QPen(chosen ? t.accent : t.ink, 1));
        QColor fill = luminanceOf(s->cards[i].material) > 0.4 ? t.panel : t.ink;
        if (view_ != View::plan) fill.setAlpha(150);  // what stands behind it is seen through
        p.setBrush(fill);
        drawShape(p, outline({Kind::card, i}), rect());
        names_.push_back(
            {nameOf(*session_, {Kind::card, i}), outline({Kind::card, i}).boundingRect(), textFont(10), t.quiet});
      }
    }
    drawAngles(p);
    drawStrays(p);
    drawProducts(p);
    drawReleases(p);
    drawGhosts(p);
    drawPins(p);
    const QPointF aim = aimHandle();
    if (aim.x() > 0) {
      p.setPen(QPen(t.accent, 1.4));
      p.setBrush(t.panel);
      p.drawEllipse(aim, 4, 4);
    }
    drawNames(p);
    if (moved_ && drag_ != Drag::none) drawMeasures(p);
  }
  drawRulers(p);
  drawText(p, {9, height() - 40.0, 120, 14}, Qt::AlignLeft | Qt::AlignVCenter, tr("Floor"), textFont(11), t.ink);
  // The longest round length that stays clear of the buttons.
  const bool imperial = session_->units() == Units::imperial;
  const std::vector<double> lengths = imperial
                                          ? std::vector<double>{0.0254, 0.0762, 0.1524, 0.3048, 0.9144, 1.8288}
                                          : std::vector<double>{0.02, 0.05, 0.1, 0.2, 0.5, 1.0, 2.0};
  double bar = lengths.front();
  const double most = std::clamp(views_[0]->x() - 70.0, 20.0, 90.0);
  for (const double l : lengths)
    if (l * scale_ <= most) bar = l;
  p.setPen(QPen(t.ink, 1.6));
  const double y = height() - 14;
  p.drawLine(QPointF(9, y), QPointF(9 + bar * scale_, y));
  drawText(p, {14 + bar * scale_, y - 8, 60, 16}, Qt::AlignLeft | Qt::AlignVCenter,
           QString::fromStdString(length_text(bar, session_->units())), numberFont(10), t.quiet);
  if (hasFocus()) drawFocus(p, QRectF(rect()).adjusted(2, 2, -2, -2));
}

void FloorView::drawNames(QPainter& p) {
  std::vector<QRectF> taken;
  for (const QWidget* b : findChildren<QWidget*>()) taken.emplace_back(b->geometry());
  taken.emplace_back(4, height() - 42.0, 126, 40);  // the floor's own name and its scale
  for (const QRectF& said : {lensList_, unheldSaid_})
    if (!said.isEmpty()) taken.push_back(said);
  taken.emplace_back(0, 0, width(), ruler);
  taken.emplace_back(0, 0, ruler, height());
  if (const Setup* s = session_->setup()) {
    for (std::size_t i = 0; i < s->lights.size(); ++i) taken.push_back(outline({Kind::light, i}).boundingRect());
    for (std::size_t i = 0; i < s->cards.size(); ++i) taken.push_back(outline({Kind::card, i}).boundingRect());
  }
  if (session_->setup() && session_->setup()->backdrop.kind != BackdropKind::none && view_ == View::plan)
    taken.push_back(outline({Kind::backdrop, 0}).boundingRect());
  if (session_->shot()->camera) taken.push_back(outline({Kind::camera, 0}).boundingRect());
  for (std::size_t i = 0; i < session_->shot()->products.size(); ++i)
    taken.push_back(outline({Kind::product, i}).boundingRect());
  const QRectF room = QRectF(rect()).adjusted(4, 4, -4, -4);
  // What is in hand first, so that it gets the best place.
  std::stable_sort(names_.begin(), names_.end(), [](const Name& a, const Name& b) {
    return (a.ink == theme().accent) > (b.ink == theme().accent);
  });
  const double widest = names_.size() > 12 ? 90 : room.width();  // of many, as much as tells them apart
  for (const Name& name : names_) {
    const QFontMetricsF fm(name.font);
    const bool in_hand = name.ink == theme().accent;
    const QString text = fm.elidedText(name.text, Qt::ElideMiddle, in_hand ? room.width() : widest);
    const double w = fm.horizontalAdvance(text) + 2, h = fm.height();
    const QRectF& b = name.thing;
    const double mid = b.center().y() - h / 2, left = b.center().x() - w / 2;
    QRectF best;
    double least = 1e9;
    double rank = 0;
    for (const QPointF& at : {QPointF(b.right() + 5, mid), QPointF(b.left() - 5 - w, mid),
                              QPointF(left, b.bottom() + 2), QPointF(left, b.top() - 2 - h),
                              QPointF(b.right() + 3, b.top() - h), QPointF(b.left() - 3 - w, b.top() - h),
                              QPointF(b.right() + 3, b.bottom()), QPointF(b.left() - 3 - w, b.bottom()),
                              QPointF(b.right() + 24, mid + 20), QPointF(b.left() - 24 - w, mid + 20)}) {
      QRectF box(at, QSizeF(w, h));
      box.moveLeft(std::clamp(box.left(), room.left(), std::max(room.left(), room.right() - w)));
      box.moveTop(std::clamp(box.top(), room.top(), std::max(room.top(), room.bottom() - h)));
      double cost = rank;  // the nearer place where two are as free
      rank += 0.01;
      for (const QRectF& t : taken) {
        const QRectF both = box.intersected(t);
        if (!both.isEmpty()) cost += 1 + both.width() * both.height();
      }
      if (cost < least) least = cost, best = box;
    }
    if (!in_hand && least > 1 + 0.3 * w * h) continue;  // no room for it; the lists have its name
    drawText(p, best, Qt::AlignLeft | Qt::AlignVCenter, text, name.font, name.ink);
    taken.push_back(best);
  }
}

}  // namespace cinnabar
