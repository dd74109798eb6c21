#include "cinnabar/desktop/widgets/floor_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/edits/hand.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/scene/staged.h"

namespace cinnabar {

using Kind = Selection::Kind;

FloorView::FloorView(Session* session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("floor");
  setAccessibleName(tr("Floor in plan"));
  setAccessibleDescription(
      tr("Space takes the next thing in hand, arrows move it by a centimetre, Shift by ten, Page Up and Down "
         "raise and lower it"));
  setFocusPolicy(Qt::StrongFocus);
  setMouseTracking(true);
  connect(session_, &Session::changed, this, [this] {
    if (!session_->previewing() && drag_ == Drag::none) fit();
    update();
  });
  connect(session_, &Session::selectionChanged, this, [this] { update(); });
  connect(session_, &Session::timeChanged, this, [this] { update(); });
}

void FloorView::setBench(Bench bench) {
  bench_ = bench;
  update();
}

void FloorView::fit() {
  double x0 = -0.3, x1 = 0.3, z0 = -0.3, z1 = 0.3;
  const auto reach = [&](const Vec3& v, double room) {
    x0 = std::min(x0, v.x - room), x1 = std::max(x1, v.x + room);
    z0 = std::min(z0, v.z - room), z1 = std::max(z1, v.z + room);
  };
  if (const Setup* s = session_->setup()) {
    for (const Light& l : s->lights) reach(l.place, 0.16);
    for (const Card& c : s->cards) reach(c.place, 0.1);
    if (s->backdrop.kind != BackdropKind::none) reach({0, 0, -std::min(s->backdrop.distance, 3.0)}, 0.06);
    if (s->surface) reach({std::min(s->surface->width, 1.4) / 2, 0, 0}, 0);
  }
  if (session_->shot() && session_->shot()->camera) reach(session_->shot()->camera->place, 0.14);
  const double k = std::min(width() / (x1 - x0), (height() - 20) / (z1 - z0));
  scale_ = std::clamp(k, 20.0, 900.0);
  middle_ = {(x0 + x1) / 2, (z0 + z1) / 2 + 8 / scale_};
  update();
}

QPointF FloorView::onScreen(const Vec3& w) const {
  return {width() / 2.0 + (w.x - middle_.x()) * scale_, height() / 2.0 + (w.z - middle_.y()) * scale_};
}
Vec3 FloorView::onFloor(const QPointF& at) const {
  return {middle_.x() + (at.x() - width() / 2.0) / scale_, 0, middle_.y() + (at.y() - height() / 2.0) / scale_};
}

namespace {
double luminanceOf(const Material& m) {
  return 0.2126729 * m.colour.x + 0.7151522 * m.colour.y + 0.0721750 * m.colour.z;
}

/// A sheet seen from above: its four corners, thickened so that an upright one can be seen and held.
QPolygonF sheetFromAbove(const FloorView& floor, const Vec3& place, const Facing& f, double width, double height,
                         double thickness) {
  const Vec3 r = f.right * (width / 2), u = f.up * (height / 2);
  Vec3 back = f.ahead * -thickness;
  back.y = 0;
  std::vector<Vec3> corners;
  for (const Vec3& c : {place - r - u, place + r - u, place + r + u, place - r + u})
    corners.push_back(c), corners.push_back(c + back);
  // Convex hull (Andrew 1979) of what is seen from above.
  std::sort(corners.begin(), corners.end(),
            [](const Vec3& a, const Vec3& b) { return std::pair(a.x, a.z) < std::pair(b.x, b.z); });
  std::vector<Vec3> hull;
  for (const int pass : {0, 1}) {
    const std::size_t from = hull.size();
    for (const Vec3& p : corners) {
      while (hull.size() >= from + 2) {
        const Vec3 &a = hull[hull.size() - 2], &b = hull.back();
        if ((b.x - a.x) * (p.z - a.z) - (b.z - a.z) * (p.x - a.x) > 0) break;
        hull.pop_back();
      }
      hull.push_back(p);
    }
    hull.pop_back();
    if (pass == 0) std::reverse(corners.begin(), corners.end());
  }
  QPolygonF polygon;
  for (const Vec3& p : hull) polygon << floor.onScreen(p);
  return polygon;
}
QPolygonF circle(const QPointF& c, double r) {
  QPolygonF polygon;
  for (int i = 0; i < 40; ++i)
    polygon << QPointF(c.x() + r * std::cos(i * pi / 20), c.y() + r * std::sin(i * pi / 20));
  return polygon;
}
}  // namespace

QPolygonF FloorView::outline(const Selection& s) const {
  const Setup* setup = session_->setup();
  switch (s.kind) {
    case Kind::light: {
      const Light l = light_at(setup->lights[s.index], *session_->shot(), session_->setTime());
      const Facing f = facing(l.place, l.aim, l.roll_deg);
      if (l.shape == LightShape::rectangle) return sheetFromAbove(*this, l.place, f, l.width, l.height, 0.03);
      if (l.shape == LightShape::tube) return sheetFromAbove(*this, l.place, f, 2 * l.radius, l.length, 0.02);
      if (l.shape == LightShape::disc) return sheetFromAbove(*this, l.place, f, 2 * l.radius, 2 * l.radius, 0.04);
      return circle(onScreen(l.place), std::max(5.0, l.radius * scale_));
    }
    case Kind::card: {
      const Card& c = setup->cards[s.index];
      return sheetFromAbove(*this, c.place, facing(c.place, c.aim, c.roll_deg), c.width, c.height, 0.012);
    }
    case Kind::camera: {
      const CameraPose pose = camera_at(*session_->shot(), session_->setTime());
      const QPointF c = onScreen(pose.place);
      const double a = std::atan2(pose.frame.ahead.z, pose.frame.ahead.x);
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
    case Kind::product: {
      const ShotProduct& placed = session_->shot()->products[s.index];
      const Product* product = by_id(session_->project().products, placed.product);
      double r = 0.02;
      if (product)
        for (const Part& part : product->parts)
          for (const ProfilePoint& p : part.profile) r = std::max(r, p.radius);
      return circle(
          onScreen(product_at(session_->project(), *session_->shot(), placed, session_->setTime()).place),
          std::max(6.0, r * scale_));
    }
    case Kind::backdrop: {
      const Backdrop& b = setup->backdrop;
      return QPolygonF{onScreen({-b.width / 2, 0, -b.distance}) + QPointF(0, -3),
                       onScreen({b.width / 2, 0, -b.distance}) + QPointF(0, -3),
                       onScreen({b.width / 2, 0, -b.distance}) + QPointF(0, 2),
                       onScreen({-b.width / 2, 0, -b.distance}) + QPointF(0, 2)};
    }
    case Kind::surface: {
      const double x = setup->surface->width / 2, z = setup->surface->depth / 2;
      return QPolygonF{onScreen({-x, 0, -z}), onScreen({x, 0, -z}), onScreen({x, 0, z}), onScreen({-x, 0, z})};
    }
    case Kind::none:
      break;
  }
  return {};
}

QPointF FloorView::handle(const Selection& s) const {
  if (s.kind == Kind::surface) return (outline(s)[2] + outline(s)[3]) / 2;
  if (s.kind == Kind::backdrop) return (outline(s)[0] + outline(s)[2]) / 2;
  return outline(s).boundingRect().center();
}
QPointF FloorView::aimHandle() const {
  const auto both = placeAndAim(*session_, session_->selection());
  const Selection::Kind kind = session_->selection().kind;
  if (!both || kind == Kind::product || kind == Kind::none) return {-1000, -1000};
  // On the line to the aim, held a little off the thing that is aimed at.
  const QPointF from = onScreen(both->first), to = onScreen(both->second);
  const double d = std::hypot(to.x() - from.x(), to.y() - from.y());
  return d < 30 ? to : from + (to - from) * std::max(0.4, (d - 26) / d);
}

Selection FloorView::thingAt(const QPointF& at) const {
  Selection best;
  double least = 1e9;
  for (const Selection& s : selectables(*session_)) {
    const QPolygonF shape = outline(s);
    double d = 1e9;
    if (s.kind == Kind::surface) {
      for (int i = 0; i < 4; ++i) {
        const QPointF a = shape[i], b = shape[(i + 1) % 4], ab = b - a;
        const double u =
            std::clamp(QPointF::dotProduct(at - a, ab) / std::max(1.0, QPointF::dotProduct(ab, ab)), 0.0, 1.0);
        d = std::min(d, std::hypot((at - a - ab * u).x(), (at - a - ab * u).y()) + 6);
      }
      if (d > 12) continue;
    } else {
      if (!shape.boundingRect().adjusted(-6, -6, 6, 6).contains(at)) continue;
      d = shape.containsPoint(at, Qt::OddEvenFill) ? 0 : 5;
      d += s.kind == Kind::backdrop ? 3 : 0;
    }
    if (d < least) least = d, best = s;
  }
  return best;
}

void FloorView::drawSet(QPainter& p) {
  const Theme& t = theme();
  const Setup* s = session_->setup();
  if (!s) return;
  if (s->surface) {
    p.setPen(QPen(session_->selection().kind == Kind::surface ? t.accent : t.quiet, 1.2));
    p.setBrush(Qt::NoBrush);
    p.drawPolygon(outline({Kind::surface, 0}));
  }
  if (s->backdrop.kind != BackdropKind::none) {
    const QPolygonF line = outline({Kind::backdrop, 0});
    p.setPen(Qt::NoPen);
    p.setBrush(session_->selection().kind == Kind::backdrop ? t.accent : t.ink);
    p.drawPolygon(line);
    if (s->backdrop.kind == BackdropKind::sweep) {  // where the sheet lies on the floor
      p.setPen(QPen(t.line, 1.2, Qt::DashLine));
      const auto side = backdrop_line(*s);
      const double front = side.front().first;
      for (const double x : {-s->backdrop.width / 2, s->backdrop.width / 2})
        p.drawLine(onScreen({x, 0, front}), onScreen({x, 0, -s->backdrop.distance}));
    }
    const QString kind = s->backdrop.kind == BackdropKind::sweep ? tr("sweep") : tr("backdrop");
    drawText(p, {std::max(10.0, line[0].x() + 4), line[0].y() + 7, 240, 14}, Qt::AlignLeft | Qt::AlignVCenter,
             tr("%1 %2 wide, %3 back")
                 .arg(kind, QString::fromStdString(length_text(s->backdrop.width, session_->units())),
                      QString::fromStdString(length_text(s->backdrop.distance, session_->units()))),
             textFont(10), t.quiet);
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
    p.drawPolygon(QPolygonF{onScreen(l.place - side), onScreen(l.place + side), onScreen(l.aim)});
  }
  p.setPen(QPen(chosen ? t.accent : t.ink, chosen ? 1.6 : 1.2));
  p.setBrush(l.on ? QBrush(t.lightFill) : QBrush(t.panel));
  p.drawPolygon(shape);
  const QRectF b = shape.boundingRect();
  const bool right = b.center().x() > width() / 2.0 || b.left() < 60;
  drawText(p,
           QRectF(right ? std::min(b.right() + 5, width() - 84.0) : std::max(4.0, b.left() - 85),
                  b.center().y() - 8, 80, 16),
           (right ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter, QString::fromStdString(l.name),
           textFont(11, chosen), chosen ? t.accent : t.ink);
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
  const double half = o.sensor_width / 2 / pose.image_distance();
  const Vec3 left = pose.place + (pose.frame.ahead - pose.frame.right * half) * far,
             right = pose.place + (pose.frame.ahead + pose.frame.right * half) * far;
  QColor wedge = t.accent;
  wedge.setAlpha(t.dark ? 26 : 22);
  p.setPen(Qt::NoPen);
  p.setBrush(wedge);
  p.drawPolygon(QPolygonF{onScreen(pose.place), onScreen(left), onScreen(right)});
  p.setPen(QPen(t.accent, 1));
  p.drawLine(onScreen(pose.place), onScreen(left));
  p.drawLine(onScreen(pose.place), onScreen(right));
  p.setPen(QPen(t.accent, 1, Qt::DotLine));  // the sharp plane
  const Vec3 sharp = pose.place + pose.frame.ahead * pose.focus, side = pose.frame.right * (half * pose.focus);
  p.drawLine(onScreen(sharp - side), onScreen(sharp + side));
  const bool chosen = session_->selection().kind == Kind::camera;
  p.setPen(QPen(chosen ? t.accent : t.ink, 1));
  p.setBrush(chosen ? t.accent : t.ink);
  const QPolygonF body = outline({Kind::camera, 0});
  p.drawPolygon(body);
  drawText(p, {body.boundingRect().right() + 6, body.boundingRect().center().y() - 8, 90, 16},
           Qt::AlignLeft | Qt::AlignVCenter, QString::fromStdString(number_text(pose.focal * 1e3, 3)) + " mm",
           numberFont(11), chosen ? t.accent : t.quiet);
}

void FloorView::drawProducts(QPainter& p) {
  const Theme& t = theme();
  for (std::size_t i = 0; i < session_->shot()->products.size(); ++i) {
    const ShotProduct& placed = session_->shot()->products[i];
    const Product* product = by_id(session_->project().products, placed.product);
    const bool chosen = session_->selection() == Selection{Kind::product, i};
    const QPolygonF shape = outline({Kind::product, i});
    const QRectF b = shape.boundingRect();
    if (!placed.on.empty()) {
      p.setPen(QPen(t.quiet, 1));
      p.setBrush(Qt::NoBrush);
      p.drawEllipse(onScreen({0, 0, 0}), b.width() * 0.85, b.width() * 0.85);
    }
    p.setPen(QPen(chosen ? t.accent : t.ink, 1.2));
    p.setBrush(t.leaning);
    p.drawPolygon(shape);
    if (!product || !product->label) continue;
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
  const double step = scale_ > 120 ? 0.1 : 0.5;
  QColor grid = t.line;
  grid.setAlpha(t.dark ? 90 : 120);
  p.setPen(QPen(grid, 1));
  const Vec3 corner = onFloor({0, 0}),
             other = onFloor({static_cast<double>(width()), static_cast<double>(height())});
  for (double x = std::ceil(corner.x / step) * step; x < other.x; x += step)
    p.drawLine(onScreen({x, 0, corner.z}), onScreen({x, 0, other.z}));
  for (double z = std::ceil(corner.z / step) * step; z < other.z; z += step)
    p.drawLine(onScreen({corner.x, 0, z}), onScreen({other.x, 0, z}));
  if (session_->shot()) {
    drawSet(p);
    drawCamera(p);
    if (const Setup* s = session_->setup()) {
      for (std::size_t i = 0; i < s->lights.size(); ++i) drawLight(p, i);
      for (std::size_t i = 0; i < s->cards.size(); ++i) {
        const bool chosen = session_->selection() == Selection{Kind::card, i};
        p.setPen(QPen(chosen ? t.accent : t.ink, 1));
        p.setBrush(luminanceOf(s->cards[i].material) > 0.4 ? t.panel : t.ink);
        p.drawPolygon(outline({Kind::card, i}));
        const QRectF b = outline({Kind::card, i}).boundingRect();
        drawText(p, {b.left() - 64, b.top() - 12, 60, 14}, Qt::AlignRight | Qt::AlignVCenter,
                 nameOf(*session_, {Kind::card, i}), textFont(10), t.quiet);
      }
    }
    drawProducts(p);
    const QPointF aim = aimHandle();
    if (aim.x() > 0) {
      p.setPen(QPen(t.accent, 1.4));
      p.setBrush(t.panel);
      p.drawEllipse(aim, 4, 4);
    }
  }
  drawText(p, {9, height() - 40.0, 120, 14}, Qt::AlignLeft | Qt::AlignVCenter, tr("Floor"), textFont(11), t.ink);
  const bool imperial = session_->units() == Units::imperial;
  const double bar = imperial ? 0.3048 : scale_ > 60 ? 0.5 : 1.0;
  p.setPen(QPen(t.ink, 1.6));
  const double y = height() - 14;
  p.drawLine(QPointF(9, y), QPointF(9 + bar * scale_, y));
  drawText(p, {14 + bar * scale_, y - 8, 60, 16}, Qt::AlignLeft | Qt::AlignVCenter,
           imperial ? tr("1 ft") : QString::fromStdString(number_text(bar)) + " m", numberFont(10), t.quiet);
  drawText(p, {width() - 70.0, y - 8, 60, 16}, Qt::AlignRight | Qt::AlignVCenter, tr("plan"), textFont(10),
           t.quiet);
  if (hasFocus()) drawFocus(p, QRectF(rect()).adjusted(2, 2, -2, -2));
}

void FloorView::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton || !session_->shot()) return;
  pressed_ = event->position();
  moved_ = false;
  const QPointF aim = aimHandle();
  if (std::hypot(aim.x() - pressed_.x(), aim.y() - pressed_.y()) < 8) {
    drag_ = Drag::aim;
    dragged_ = session_->selection();
  } else {
    dragged_ = thingAt(pressed_);
    if (dragged_.kind == Kind::none) return;
    session_->select(dragged_);
    drag_ = dragged_.kind == Kind::backdrop || dragged_.kind == Kind::surface ? Drag::size : Drag::body;
  }
  if (const auto both = placeAndAim(*session_, dragged_)) placeAtPress_ = both->first, aimAtPress_ = both->second;
  if (dragged_.kind == Kind::backdrop) sizeAtPress_ = session_->setup()->backdrop.distance;
  if (dragged_.kind == Kind::surface) sizeAtPress_ = session_->setup()->surface->depth;
}

void FloorView::dragTo(const QPointF& at, bool keep) {
  const Vec3 by = onFloor(at) - onFloor(pressed_);
  Session::Values values;
  QString title;
  const QString name = nameOf(*session_, dragged_);
  const std::string path = pointerOf(*session_, dragged_);
  const auto cm = [](double metres) { return QString::fromStdString(number_text(std::round(metres * 100), 3)); };
  if (drag_ == Drag::size) {
    if (dragged_.kind == Kind::backdrop) {
      const double d = std::round((sizeAtPress_ - by.z) * 100) / 100;
      values = {{path + "/distance", d}};
      title = tr("Backdrop %1 back").arg(QString::fromStdString(length_text(d, session_->units())));
    } else {
      const double side = pressed_.y() > onScreen({0, 0, 0}).y() ? 2 : -2;
      const double d = std::max(0.05, std::round((sizeAtPress_ + side * by.z) * 100) / 100);
      values = {{path + "/depth", d}};
      title = tr("Surface %1 deep").arg(QString::fromStdString(length_text(d, session_->units())));
    }
  } else if (drag_ == Drag::aim) {
    Vec3 aim = onFloor(at);
    aim.y = aimAtPress_.y;
    if (length(Vec3{aim.x - placeAtPress_.x, 0, aim.z - placeAtPress_.z}) < 0.02) return;
    // The handle stands short of the aim: keep the aim's own distance along the new direction.
    const Vec3 flat{aimAtPress_.x - placeAtPress_.x, 0, aimAtPress_.z - placeAtPress_.z},
        to{aim.x - placeAtPress_.x, 0, aim.z - placeAtPress_.z};
    const Vec3 turnedAim =
        placeAtPress_ + unit(to) * std::max(0.02, length(flat)) + Vec3{0, aimAtPress_.y - placeAtPress_.y, 0};
    values = {{path + "/aim", pointJson(turnedAim)}};
    title = tr("%1 turned").arg(name);
  } else {
    const Vec3 to = placeAtPress_ + by;
    if (dragged_.kind == Kind::product) {
      values = {{path + "/place", pointJson(to)}};
    } else {
      // On the Place bench a thing moves with its aim; on the Light bench it goes round what it is aimed at.
      const bool withAim = bench_ == Bench::place;
      values = {{path + "/place", pointJson(to)}};
      if (withAim) values.emplace_back(path + "/aim", pointJson(aimAtPress_ + by));
      if (dragged_.kind == Kind::camera && !withAim) {
        const double focus = session_->shot()->camera->focus + length(to - aimAtPress_) -
                             length(placeAndAim(*session_, dragged_)->first - aimAtPress_);
        if (focus > session_->shot()->camera->focal * 1.05)
          values.emplace_back(path + "/focus", std::round(focus * 1e4) / 1e4);
      }
    }
    title = tr("%1 moved %2 cm").arg(name, cm(length(by)));
  }
  keep ? (void)session_->keep(title, values) : (void)session_->preview(values);
}

void FloorView::mouseMoveEvent(QMouseEvent* event) {
  const QPointF at = event->position();
  if (drag_ == Drag::none) {
    const QPointF aim = aimHandle();
    setCursor(std::hypot(aim.x() - at.x(), aim.y() - at.y()) < 8 ? Qt::CrossCursor
              : thingAt(at).kind != Kind::none                   ? Qt::OpenHandCursor
                                                                 : Qt::ArrowCursor);
    return;
  }
  if (!moved_ && std::hypot(at.x() - pressed_.x(), at.y() - pressed_.y()) < 3) return;
  moved_ = true;
  dragTo(at, false);
}

void FloorView::mouseReleaseEvent(QMouseEvent* event) {
  if (drag_ == Drag::none) return;
  if (moved_) dragTo(event->position(), true);
  drag_ = Drag::none;
  fit();
}

void FloorView::keyPressEvent(QKeyEvent* event) {
  const auto things = selectables(*session_);
  if (things.empty()) return QWidget::keyPressEvent(event);
  const Selection now = session_->selection();
  const auto at = std::find(things.begin(), things.end(), now);
  const bool shift = event->modifiers() & Qt::ShiftModifier;
  if (event->key() == Qt::Key_Space) {
    const std::size_t i = at == things.end() ? 0 : static_cast<std::size_t>(at - things.begin());
    return session_->select(things[(i + (shift ? things.size() - 1 : 1)) % things.size()]);
  }
  if (event->key() == Qt::Key_Escape && session_->previewing()) {
    drag_ = Drag::none;
    return session_->dropPreview();
  }
  const double step = shift ? 0.1 : 0.01;
  Vec3 by;
  switch (event->key()) {
    case Qt::Key_Left:
      by.x = -step;
      break;
    case Qt::Key_Right:
      by.x = step;
      break;
    case Qt::Key_Up:
      by.z = -step;
      break;
    case Qt::Key_Down:
      by.z = step;
      break;
    case Qt::Key_PageUp:
      by.y = step;
      break;
    case Qt::Key_PageDown:
      by.y = -step;
      break;
    default:
      return QWidget::keyPressEvent(event);
  }
  if (const auto both = placeAndAim(*session_, now))
    session_->keep(tr("%1 moved %2 cm").arg(nameOf(*session_, now)).arg(step * 100),
                   moved(*session_, now, both->first + by, bench_ == Bench::place));
  else if (now.kind == Kind::backdrop && by.z != 0)
    session_->keep(tr("Backdrop moved"),
                   {{pointerOf(*session_, now) + "/distance", session_->setup()->backdrop.distance - by.z}});
}

}  // namespace cinnabar
