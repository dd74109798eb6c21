#include "cinnabar/desktop/ways/mirror_panel.h"

#include <QKeyEvent>
#include <QMenu>
#include <QMouseEvent>
#include <QPointer>
#include <cmath>
#include <map>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/edits/hand.h"
#include "cinnabar/desktop/stage/vial.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/planning/set_looks.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

constexpr int roomAcross = 720, roomUpright = 130;  // half a degree, and one
constexpr double roomHead = 24, roomFoot = 18, roomSide = 10;
constexpr double usualDistance = 0.8;  // metres, where nothing stands there yet

}  // namespace

MirrorPanel::MirrorPanel(Session* session, QWidget* parent)
    : Painted("mirrors", tr("What it mirrors"),
              tr("Arrows point at a direction of the room, Enter puts a light or a card there"), parent),
      session_(session) {
  setMouseTracking(true);
  connect(session_, &Session::shotChanged, this, [this] {
    drawn_.reset();
    pointed_.reset();
    update();
  });
}

void MirrorPanel::showEvent(QShowEvent*) {
  asked_.reset();
  look(picture_);
}

void MirrorPanel::look(const std::shared_ptr<const LensPicture>& picture) {
  picture_ = picture;
  if (!isVisible() || !picture || !picture->film || !picture->world) return;
  // What stands where, and what shines, does not change from pass to pass.
  const auto shine_alike = [](const StagedWorld& a, const StagedWorld& b) {
    return std::equal(
        a.lights.begin(), a.lights.end(), b.lights.begin(), b.lights.end(),
        [](const StagedLight& one, const StagedLight& other) { return (one.level() > 0) == (other.level() > 0); });
  };
  if (asked_ && asked_->tracer == picture->tracer && asked_->film->width == picture->film->width &&
      shine_alike(*asked_->world, *picture->world))
    return;
  asked_ = picture;
  const QPointer<MirrorPanel> self(this);
  worker_.ask([self, picture](const std::atomic<bool>& cancelled) {
    const auto room = unrolled_room(*picture->world, *picture->film, roomAcross, roomUpright);
    auto drawn = room ? std::make_shared<const DrawnRoom>(drawnRoom(*room)) : nullptr;
    if (cancelled) return;
    later(self, [self, drawn = std::move(drawn)] {
      self->drawn_ = drawn;
      if (drawn) emit self->workedOut();
      self->tellChosenPart();
      self->update();
    });
  });
}

/// All that a painting needs of a room, so that pointing about in it is light work.
MirrorPanel::DrawnRoom MirrorPanel::drawnRoom(const UnrolledRoom& room) {
  DrawnRoom out{room, QImage(room.width, room.height, QImage::Format_RGB32), {}, {}};
  const auto tone = [](float linear) {
    return std::clamp(static_cast<int>(255.0f * std::pow(std::clamp(linear, 0.0f, 1.0f), 0.45f)), 0, 255);
  };
  struct Middle {  // bearings go round: their mean is that of their directions
    double east = 0, north = 0, down = 0;
    int n = 0;
  };
  std::map<std::pair<Role, int>, Middle> middles;
  for (int y = 0; y < room.height; ++y)
    for (int x = 0; x < room.width; ++x) {
      const RoomPlace& p = room.at(x, y);
      // A lit face by what of its light goes this way, all else at a quarter, so that faces stand out.
      const float k = p.lit_face ? 1.0f : 0.25f;
      out.image.setPixel(
          x, y, p.met ? qRgb(tone(k * p.colour.x), tone(k * p.colour.y), tone(k * p.colour.z)) : qRgb(16, 15, 14));
      if (!p.met || (p.role != Role::light && p.role != Role::card && p.role != Role::gear)) continue;
      Middle& middle = middles[{p.role, p.thing}];
      const double bearing = 2.0 * pi * ((x + 0.5) / room.width - 0.5);
      middle.east += std::sin(bearing), middle.north += std::cos(bearing);
      middle.down += (y + 0.5) / room.height, ++middle.n;
    }
  for (const auto& [thing, m] : middles)
    out.things.push_back({{.role = thing.first, .thing = thing.second, .met = true},
                          QPointF(0.5 + std::atan2(m.east, m.north) / (2.0 * pi), m.down / m.n)});
  // One dot for each cell that any pixel of the picture is thrown to.
  constexpr int cell = 4;
  for (int y = 0; y < room.height; y += cell / 2)
    for (int x = 0; x < room.width; x += cell) {
      bool seen = false;
      for (int j = y; j < std::min(room.height, y + cell / 2); ++j)
        for (int i = x; i < std::min(room.width, x + cell); ++i) seen = seen || room.at(i, j).seen > 0;
      if (seen) out.dots.emplace_back((x + cell / 2.0) / room.width, (y + cell / 4.0) / room.height);
    }
  return out;
}

QRectF MirrorPanel::roomBox() const {
  return {roomSide, roomHead, width() - 2 * roomSide, height() - roomHead - roomFoot};
}

QString MirrorPanel::called(const RoomPlace& place) const {
  return place.met ? nameOfMet(*session_, place.role, place.thing) : tr("nothing");
}

QString MirrorPanel::wordsAt(const QPointF& where) const {
  if (!drawn_) return {};
  const UnrolledRoom& room = drawn_->room;
  const int x = std::clamp(static_cast<int>(where.x() * room.width), 0, room.width - 1),
            y = std::clamp(static_cast<int>(where.y() * room.height), 0, room.height - 1);
  const RoomPlace& place = room.at(x, y);
  const double bearing = 360.0 * (where.x() - 0.5);
  QString words =
      tr("%1 degrees %2, %3 up: %4")
          .arg(q(fixed_text(std::abs(bearing), 0)),
               bearing < 0 ? tr("left of the camera") : tr("right of the camera"),
               tidyMinus(q(fixed_text(
                   UnrolledRoom::highest + where.y() * (UnrolledRoom::lowest - UnrolledRoom::highest), 0))),
               called(place));
  if (place.met) words += tr(" at %1").arg(q(length_text(place.distance, session_->units())));
  bool seen = false;
  for (int j = std::max(0, y - 2); j <= std::min(room.height - 1, y + 2); ++j)
    for (int i = std::max(0, x - 2); i <= std::min(room.width - 1, x + 2); ++i)
      seen = seen || room.at(i, j).seen > 0;
  return words + (seen ? tr(", mirrored in the picture") : tr(", not mirrored"));
}

std::vector<ToldPart> MirrorPanel::parts() const {
  std::vector<ToldPart> list;
  if (drawn_ && pointed_) {
    const QRectF box = roomBox();
    list.push_back(
        {wordsAt(*pointed_),
         {},
         QRectF(box.left() + pointed_->x() * box.width() - 4, box.top() + pointed_->y() * box.height() - 4, 8, 8)
             .toRect(),
         true});
  }
  return list;
}

void MirrorPanel::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  drawPanel(p, rect());
  drawText(p, {10, 5, 120, 16}, Qt::AlignLeft | Qt::AlignVCenter, tr("What it mirrors"), textFont(11, true),
           t.ink);
  drawText(
      p, {118, 5, width() - 130.0, 16}, Qt::AlignLeft | Qt::AlignVCenter,
      tr("the room as the product sees it; dotted is what the picture shows mirrored; click to put a light or "
         "a card there"),
      textFont(11), t.quiet);
  const QRectF box = roomBox();
  p.fillRect(box, t.mat);
  if (!drawn_) {
    drawText(
        p, box, Qt::AlignCenter,
        session_->shot() ? tr("Comes with the picture, where a product stands in it") : tr("There is no shot yet"),
        textFont(11), t.quiet);
    return;
  }
  p.setRenderHint(QPainter::SmoothPixmapTransform);
  p.drawImage(box, drawn_->image);
  const auto at = [&](const QPointF& where) {
    return QPointF(box.left() + where.x() * box.width(), box.top() + where.y() * box.height());
  };
  p.setPen(Qt::NoPen);
  p.setBrush(t.dark ? QColor("#D9A066") : QColor("#F2C14E"));
  for (const QPointF& dot : drawn_->dots) p.drawEllipse(at(dot), 1.0, 1.0);
  const QColor ink("#F0E6D2");
  for (const auto& [thing, middle] : drawn_->things) {
    const QString name = called(thing);
    const double wide = QFontMetricsF(textFont(10)).horizontalAdvance(name) + 8;
    const QRectF plate(std::clamp(at(middle).x() - wide / 2, box.left(), std::max(box.left(), box.right() - wide)),
                       at(middle).y() - 7, wide, 14);
    p.fillRect(plate, QColor(12, 10, 9, 150));
    drawText(p, plate, Qt::AlignCenter, name, textFont(10), ink);
  }
  for (const auto& [bearing, word] : {std::pair{-180, tr("behind")},
                                      {-90, tr("left")},
                                      {0, tr("camera")},
                                      {90, tr("right")},
                                      {180, tr("behind")}}) {
    const QPointF mark = at({0.5 + bearing / 360.0, 1.0});
    p.setPen(QPen(t.quiet, 1));
    p.drawLine(mark, mark + QPointF(0, 4));
    const double left = std::clamp(mark.x() - 30.0, box.left(), box.right() - 60.0);
    drawText(p, {left, box.bottom() + 3, 60, roomFoot - 4},
             (bearing == -180  ? Qt::AlignLeft
              : bearing == 180 ? Qt::AlignRight
                               : Qt::AlignHCenter) |
                 Qt::AlignVCenter,
             word, textFont(10), t.quiet);
  }
  if (pointed_) {
    const QPointF here = at(*pointed_);
    p.setPen(QPen(ink, 1.2));
    p.setBrush(Qt::NoBrush);
    p.drawEllipse(here, 4, 4);
    const QString words = wordsAt(*pointed_);
    const double wide = QFontMetricsF(textFont(10.5)).horizontalAdvance(words) + 12;
    const QRectF plate(std::clamp(here.x() - wide / 2, box.left(), std::max(box.left(), box.right() - wide)),
                       here.y() > box.center().y() ? box.top() + 3 : box.bottom() - 19, wide, 16);
    p.fillRect(plate, QColor(12, 10, 9, 200));
    drawText(p, plate, Qt::AlignCenter, words, textFont(10.5), ink);
  }
  if (hasFocus()) drawFocus(p, QRectF(rect()).adjusted(2, 2, -2, -2));
}

void MirrorPanel::pointAt(const QPointF& where) {
  pointed_ = QPointF(std::clamp(where.x(), 0.0, 0.9999), std::clamp(where.y(), 0.0, 0.9999));
  setAccessibleDescription(wordsAt(*pointed_));
  tellChosenPart();
  update();
}

void MirrorPanel::mouseMoveEvent(QMouseEvent* event) {
  const QRectF box = roomBox();
  if (drawn_ && box.contains(event->position()))
    pointAt(
        {(event->position().x() - box.left()) / box.width(), (event->position().y() - box.top()) / box.height()});
}
void MirrorPanel::mousePressEvent(QMouseEvent* event) {
  mouseMoveEvent(event);
  if (event->button() == Qt::LeftButton && drawn_ && pointed_ && roomBox().contains(event->position()))
    putMenu(event->globalPosition());
}
void MirrorPanel::keyPressEvent(QKeyEvent* event) {
  if (!drawn_) return Painted::keyPressEvent(event);
  const double step = (event->modifiers() & Qt::ShiftModifier) ? 10.0 : 2.0;
  const QPointF at = pointed_.value_or(QPointF(0.5, 0.6));
  const double up = step / (UnrolledRoom::highest - UnrolledRoom::lowest);
  switch (event->key()) {
    case Qt::Key_Left:
      return pointAt(at - QPointF(step / 360.0, 0));
    case Qt::Key_Right:
      return pointAt(at + QPointF(step / 360.0, 0));
    case Qt::Key_Up:
      return pointAt(at - QPointF(0, up));
    case Qt::Key_Down:
      return pointAt(at + QPointF(0, up));
    case Qt::Key_Return:
    case Qt::Key_Enter: {
      pointAt(at);
      const QRectF box = roomBox();
      return putMenu(mapToGlobal(QPointF(box.left() + at.x() * box.width(), box.top() + at.y() * box.height())));
    }
    default:
      return Painted::keyPressEvent(event);
  }
}

void MirrorPanel::putMenu(const QPointF& at) {
  if (!session_->setup() || session_->readOnly()) return;
  auto* menu = new QMenu(this);
  menu->setObjectName("mirrorActions");
  menu->setAttribute(Qt::WA_DeleteOnClose);
  for (const auto& kit : session_->project().light_kits)
    menu->addAction(plainAction(tr("%1 here").arg(q(kit->name.empty() ? kit->id : kit->name))), this,
                    [this, id = kit->id] { put(light_added(session_->onSet(), id)); });
  menu->addSeparator();
  for (const SheetKind& sheet : sheet_kinds())
    menu->addAction(plainAction(tr("%1 here").arg(q(sheet.name))), this,
                    [this, id = std::string(sheet.id)] { put(sheet_added(session_->onSet(), id)); });
  const Selection held = session_->selection();
  if (held.kind == Selection::Kind::light && held.index < session_->setup()->lights.size()) {
    menu->addSeparator();
    menu->addAction(plainAction(tr("Carry %1 here").arg(nameOf(*session_, held))), this, [this, held] {
      if (!drawn_ || !pointed_ || held.index >= session_->setup()->lights.size()) return;
      const Vec3& from = drawn_->room.from;
      const double far = std::max(0.1, length(session_->setup()->lights[held.index].place - from));
      keep(light_carried(session_->onSet(), held, from + pointedTo() * far, from));
    });
  }
  menu->popup(at.toPoint());
}

Vec3 MirrorPanel::pointedTo() const { return drawn_->room.direction(pointed_->x(), pointed_->y()); }

/// A thing set up, in the direction that is pointed at and aimed at the product.
void MirrorPanel::put(const std::optional<SetEdit>& thing) {
  if (!thing || !drawn_ || !pointed_) return;
  const Vec3& from = drawn_->room.from;
  keep(placed_at(*thing, from + pointedTo() * usualDistance, from));
}
void MirrorPanel::keep(const std::optional<SetEdit>& thing) {
  if (thing && session_->keep(*thing)) session_->select(thing->then);
}

}  // namespace cinnabar
