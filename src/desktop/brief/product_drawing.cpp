#include "cinnabar/desktop/brief/product_drawing.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainterPath>
#include <QPointer>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/desktop/workers/picture_maker.h"
#include "cinnabar/scene/form.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

struct Box {
  double low, high, radius;  ///< radius: from the axis to the farther side
  double width = 0, depth = 0;
};
Box boxOf(const Product& p) {
  const Extent e = extent(p);
  Box b{e.low, e.high, std::max(std::abs(e.left), std::abs(e.right)), e.width(), e.depth()};
  if (b.high <= b.low) b = {0, 0.1, std::max(0.03, b.radius)};
  return b;
}
QColor shown(const Material& m) {
  Vec3 c = m.colour;
  if (m.is_clear())
    c = {std::exp(-m.absorption.x * 0.03), std::exp(-m.absorption.y * 0.03), std::exp(-m.absorption.z * 0.03)};
  const auto byte = [](double v) { return static_cast<int>(255 * std::pow(std::clamp(v, 0.0, 1.0), 1 / 2.2)); };
  QColor color(byte(c.x), byte(c.y), byte(c.z));
  color.setAlpha(m.kind == MaterialKind::glass ? 50 : 190);
  return color;
}

}  // namespace

ProductDrawing::ProductDrawing(Session* session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("productDrawing");
  setAccessibleName(tr("Drawing of the product"));
  setMinimumSize(140, 200);
  connect(session_, &Session::changed, this, [this] { update(); });
}

const Product* ProductDrawing::product() const {
  const auto& list = session_->project().products;
  return index_ < list.size() ? list[index_].get() : nullptr;
}
void ProductDrawing::show(std::size_t product, std::optional<std::size_t> feature) {
  index_ = product, feature_ = feature;
  update();
}

ProductDrawing::Frame ProductDrawing::frame() const {
  const Product* p = product();
  if (!p) return {1000, width() / 2.0, height() - 20.0};
  const Box b = boxOf(*p);
  const double scale = std::min((width() - 70.0) / (2 * b.radius), (height() - 64.0) / (b.high - b.low));
  return {scale, 46 + (width() - 56) / 2.0, height() - 36.0 + b.low * scale};
}

QPointF ProductDrawing::mark(std::size_t feature) const {
  const Product* p = product();
  if (!p || feature >= p->features.size()) return {};
  const Frame f = frame();
  const Vec3& at = p->features[feature].at;
  return {f.x + at.x * f.scale, f.y - at.y * f.scale};
}

void ProductDrawing::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  const Product* product = this->product();
  if (!product) return;
  const Frame f = frame();
  const Box b = boxOf(*product);
  const auto at = [&](double r, double h) { return QPointF(f.x + r * f.scale, f.y - h * f.scale); };
  // Liquids first, then what holds them.
  for (const bool liquid : {true, false})
    for (const Part& part : product->parts) {
      if ((part.material.kind == MaterialKind::liquid) != liquid || part.profile.size() < 2) continue;
      QPolygonF outline;
      for (const ProfilePoint& point : part.profile) outline << at(point.shift + point.radius, point.height);
      for (auto point = part.profile.rbegin(); point != part.profile.rend(); ++point)
        outline << at(point->shift - point->radius, point->height);
      p.setPen(QPen(t.ink, 1.4));
      p.setBrush(shown(part.material));
      p.drawPolygon(outline);
    }
  if (const auto& label = product->label) {
    const double half = std::min(90.0, label->arc_deg / 2), turn = label->bearing_deg;
    const auto edge = [&](double bearing) {
      const auto side = side_at(*product, (label->low + label->high) / 2, std::clamp(bearing, -90.0, 90.0));
      return side ? side->at.x : 0.0;
    };
    const double left = edge(turn - half), right = edge(turn + half);
    if (right > left) {
      p.setPen(QPen(t.ink, 1));
      p.setBrush(shown(label->material));
      p.drawRect(QRectF(at(left, label->high), at(right, label->low)));
    }
  }
  // Height at the left, width under the foot.
  const auto units = session_->units();
  p.setPen(QPen(t.quiet, 1));
  const double x = 40;
  p.drawLine(at(0, b.high).y() > 0 ? QPointF(x, at(0, b.high).y()) : QPointF(x, 0), QPointF(x, at(0, b.low).y()));
  for (const double h : {b.low, b.high}) p.drawLine(QPointF(x - 4, at(0, h).y()), QPointF(x + 4, at(0, h).y()));
  p.save();
  p.translate(x - 8, (at(0, b.low).y() + at(0, b.high).y()) / 2);
  p.rotate(-90);
  drawText(p, {-60, -16, 120, 16}, Qt::AlignCenter, q(length_text(b.high - b.low, units)), numberFont(11), t.ink);
  p.restore();
  const double y = f.y - b.low * f.scale + 10;
  p.setPen(QPen(t.quiet, 1));
  p.drawLine(at(-b.radius, b.low) + QPointF(0, 10), at(b.radius, b.low) + QPointF(0, 10));
  for (const double r : {-b.radius, b.radius})
    p.drawLine(QPointF(at(r, 0).x(), y - 4), QPointF(at(r, 0).x(), y + 4));
  drawText(p, {46, y + 3, width() - 50.0, 16}, Qt::AlignCenter,
           std::abs(b.width - b.depth) < 1e-4
               ? q(length_text(b.width, units))
               : tr("%1, %2 deep").arg(q(length_text(b.width, units)), q(length_text(b.depth, units))),
           numberFont(11), t.ink);
  for (std::size_t i = 0; i < product->features.size(); ++i) {
    const QPointF m = dragged_ == static_cast<int>(i) ? draggedTo_ : mark(i);
    const bool behind = product->features[i].at.z < 0;
    p.setPen(QPen(t.accent, 1.5));
    p.setBrush(feature_ == i ? QBrush(t.accent) : QBrush(t.panel));
    p.drawEllipse(m, 9, 9);
    drawText(p, QRectF(m.x() - 9, m.y() - 9, 18, 18), Qt::AlignCenter, QString::number(i + 1),
             numberFont(11, true), feature_ == i ? t.panel : t.accent);
    if (behind)
      drawText(p, {m.x() + 10, m.y() - 8, 50, 16}, Qt::AlignLeft | Qt::AlignVCenter, tr("behind"), textFont(10),
               t.quiet);
  }
}

void ProductDrawing::mousePressEvent(QMouseEvent* event) {
  const Product* p = product();
  for (std::size_t i = 0; p && i < p->features.size(); ++i)
    if (QLineF(mark(i), event->position()).length() <= 11) {
      dragged_ = static_cast<int>(i);
      draggedTo_ = mark(i);
      emit featureChosen(dragged_);
    }
}
void ProductDrawing::mouseMoveEvent(QMouseEvent* event) {
  if (dragged_ < 0 || !(event->buttons() & Qt::LeftButton)) return;
  draggedTo_ = event->position();
  update();
}
void ProductDrawing::mouseReleaseEvent(QMouseEvent*) {
  const int feature = std::exchange(dragged_, -1);
  update();
  const Product* p = product();
  if (feature < 0 || !p || session_->readOnly() ||
      QLineF(draggedTo_, mark(static_cast<std::size_t>(feature))).length() < 3)
    return;
  const Frame f = frame();
  const Box b = boxOf(*p);
  const double height = std::clamp((f.y - draggedTo_.y()) / f.scale, b.low, b.high),
               across = (draggedTo_.x() - f.x) / f.scale;
  const double middle = p->features[static_cast<std::size_t>(feature)].at.z < 0 ? 180 : 0;
  // The bearing on this side whose surface is seen nearest to where it was let go.
  double bearing = middle, nearest = 1e9;
  for (double b2 = middle - 90; b2 <= middle + 90; b2 += 0.25)
    if (const auto side = side_at(*p, height, b2); side && std::abs(side->at.x - across) < nearest - 1e-9)
      nearest = std::abs(side->at.x - across), bearing = b2;
  emit featureMoved(feature, height, std::remainder(bearing, 360.0));
}

std::pair<Project, Shot> productStudio(const Project& project, const Product& product, double turn_deg) {
  const Box b = boxOf(product);
  const double tall = b.high - b.low, size = std::max(tall, 2 * b.radius);
  Project studio;
  studio.blobs = project.blobs;
  studio.products.push_back(std::make_shared<const Product>(product));
  auto setup = std::make_shared<Setup>();
  setup->id = "studio";
  setup->surface =
      Surface{.width = 12 * size, .depth = 10 * size, .material = {MaterialKind::matte, {0.35, 0.35, 0.35}}};
  setup->backdrop = {
      BackdropKind::sweep, 4 * size, 14 * size, 8 * size, 0, 0, size, {MaterialKind::matte, {0.4, 0.4, 0.4}}};
  setup->ambient_lx = 120;
  for (const auto& [x, lumens] : {std::pair{1.8, 900.0}, std::pair{-2.0, 500.0}}) {
    Light l;
    l.id = x > 0 ? "a" : "b";
    l.place = {x * size, 1.6 * size, 1.6 * size}, l.aim = {0, tall / 2, 0};
    l.shape = LightShape::rectangle, l.width = 1.2 * size, l.height = 1.6 * size;
    l.lumens = lumens * size * size * 16;
    setup->lights.push_back(l);
  }
  studio.setups.push_back(setup);
  Shot shot;
  shot.id = "preview", shot.setup = "studio";
  shot.products.push_back({product.id, "", {0, -b.low, 0}, turn_deg});
  ShotCamera camera;
  const double frame = 0.0202, away = 0.1 * (1 + size / (0.55 * frame));
  camera.focal = 0.1;
  camera.aim = {0, tall / 2, 0}, camera.place = {0, tall / 2 + 0.12 * away, away};
  camera.focus = length(camera.place - camera.aim), camera.f_number = 16;
  camera.iso = 6400, camera.shutter_time = 1.0 / 50;
  shot.camera = camera;
  studio.shots.push_back(std::make_shared<const Shot>(shot));
  return {studio, shot};
}

ProductPicture::ProductPicture(Session* session, QWidget* parent)
    : Painted("productPicture", tr("Picture of the product"), tr("Left and Right turn it"), parent),
      session_(session) {
  setMinimumSize(110, 200);
  connect(session_, &Session::changed, this, &ProductPicture::ask);
}

void ProductPicture::show(std::size_t product) {
  index_ = product;
  ask();
}

void ProductPicture::ask() {
  const auto& list = session_->project().products;
  if (!isVisible() || index_ >= list.size()) return;
  if (shown_ == list[index_] && shownTurn_ == turn_) return;
  shown_ = list[index_], shownTurn_ = turn_;
  const QPointer<ProductPicture> self(this);
  worker_.ask([self, project = session_->project(), product = list[index_],
               turn = turn_](const std::atomic<bool>& cancelled) {
    const auto [studio, shot] = productStudio(project, *product, turn);
    const QImage image = thumbnail(studio, shot, 420, cancelled);
    if (cancelled || image.isNull()) return;
    later(self, [self, image] {
      self->image_ = image;
      self->update();
    });
  });
}

void ProductPicture::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.fillRect(rect(), theme().mat);
  if (!image_.isNull()) {
    // The middle of the wide picture, as tall as there is room.
    const double k = (height() - 12.0) / image_.height(), wide = (width() - 12.0) / k;
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(QRectF(6, 6, width() - 12.0, height() - 12.0), image_,
                QRectF((image_.width() - wide) / 2, 0, wide, image_.height()));
  }
  if (hasFocus()) drawFocus(p, QRectF(rect()).adjusted(2, 2, -2, -2));
}
void ProductPicture::mousePressEvent(QMouseEvent* event) { pressed_ = event->position(), from_ = turn_; }
void ProductPicture::mouseMoveEvent(QMouseEvent* event) {
  if (!(event->buttons() & Qt::LeftButton)) return;
  turn_ = std::remainder(from_ + (event->position().x() - pressed_.x()), 360.0);
  ask();
}
void ProductPicture::keyPressEvent(QKeyEvent* event) {
  if (event->key() != Qt::Key_Left && event->key() != Qt::Key_Right) return QWidget::keyPressEvent(event);
  turn_ = std::remainder(turn_ + (event->key() == Qt::Key_Right ? 15 : -15), 360.0);
  ask();
}

}  // namespace cinnabar
