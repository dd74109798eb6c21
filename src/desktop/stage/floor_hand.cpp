// The floor under the hand: what is taken, dragged, turned, nudged, set up and taken away.
#include <QKeyEvent>
#include <QLineF>
#include <QMenu>
#include <QMouseEvent>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/edits/hand.h"
#include "cinnabar/desktop/stage/floor_view.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/planning/room_things.h"
#include "cinnabar/planning/set_bodies.h"
#include "cinnabar/planning/set_lamps.h"
#include "cinnabar/planning/set_looks.h"
#include "cinnabar/scene/staged.h"

namespace cinnabar {

using Kind = Selection::Kind;

std::vector<Selection> FloorView::takeable() const {
  std::vector<Selection> list = things_of(session_->onSet());
  if (bench_ != Bench::effects) std::erase_if(list, [](const Selection& s) { return s.kind == Kind::effect; });
  return list;
}

Selection FloorView::thingAt(const QPointF& at) const {
  Selection best;
  double least = 1e9;
  for (const Selection& s : takeable()) {
    const QPolygonF shape = outline(s);
    double d = 1e9;
    if (s.kind == Kind::effect) {  // it stands before what is under it
      if (QLineF(shape.boundingRect().center(), at).length() < 9) return s;
      continue;
    }
    if (s.kind == Kind::surface || s.kind == Kind::room) {
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

std::optional<QPointF> FloorView::doorHandle(std::size_t leaf) const {
  const Selection s = session_->selection();
  if (s.kind != Kind::light || !session_->setup() || s.index >= session_->setup()->lights.size())
    return std::nullopt;
  const Light l = light_at(session_->setup()->lights[s.index], *session_->shot(), session_->setTime());
  if (!l.doors) return std::nullopt;
  const DoorLeaf corners = door_leaves(l)[leaf];
  const QPointF along = onScreen(corners[1]) - onScreen(corners[0]);
  // A hinge that is seen along its length swings in this view.
  if (std::hypot(along.x(), along.y()) > 0.6 * scale_ * length(corners[1] - corners[0])) return std::nullopt;
  return onScreen((corners[2] + corners[3]) * 0.5);
}

void FloorView::swingDoor(const QPointF& at, bool keep) {
  const Light l = light_at(session_->setup()->lights[dragged_.index], *session_->shot(), session_->setTime());
  const Facing f = facing(l.place, l.aim, l.roll_deg);
  const DoorLeaf corners = door_leaves(l)[leaf_];
  const Vec3 outward = leaf_ == 0 ? f.up : leaf_ == 1 ? -f.up : leaf_ == 2 ? -f.right : f.right;
  const QPointF hinge = onScreen((corners[0] + corners[1]) * 0.5), to = at - hinge;
  const auto along = [&](const Vec3& way) {
    const QPointF v = onScreen((corners[0] + corners[1]) * 0.5 + way) - hinge;
    return QPointF::dotProduct(to, v) / std::max(1e-6, QPointF::dotProduct(v, v));
  };
  const double angle = std::clamp(std::round(degrees(std::atan2(along(outward), along(f.ahead)))), -80.0, 90.0);
  static const char* keys[] = {"top_deg", "bottom_deg", "left_deg", "right_deg"};
  const QString names[] = {tr("top"), tr("bottom"), tr("left"), tr("right")};
  const Session::Values values{{pointer_of(session_->onSet(), dragged_) + "/doors/" + keys[leaf_], angle}};
  keep ? (void)session_->keep(
             tr("%1: %2 door at %3 degrees").arg(nameOf(*session_, dragged_), names[leaf_]).arg(angle), values)
       : (void)session_->preview(values);
}

/// Places come to whole centimetres, and to the product's axis where they are near it.
Vec3 FloorView::snapped(const Vec3& place, bool free) const {
  if (free) return place;
  const auto tidy = [this](double v) { return std::abs(v) < 7 / scale_ ? 0.0 : std::round(v * 100) / 100; };
  return {tidy(place.x), std::round(place.y * 100) / 100, tidy(place.z)};
}

void FloorView::thingMenu() {
  auto* menu = new QMenu(this);
  menu->setObjectName("thingActions");
  menu->setAttribute(Qt::WA_DeleteOnClose);
  if (session_->setup()) {
    for (const auto& kit : session_->project().light_kits)
      menu->addAction(tr("Light: %1").arg(QString::fromStdString(kit->name.empty() ? kit->id : kit->name)), this,
                      [this, id = kit->id] { doThing(light_added(session_->onSet(), id)); });
    menu->addAction(tr("Light: plain panel"), this, [this] { doThing(light_added(session_->onSet(), {})); });
    for (const SheetKind& lamp : lamps_at_hand(session_->onSet()))
      menu->addAction(tr("Light: %1").arg(q(lamp.name)), this,
                      [this, id = lamp.id] { doThing(lamp_at_hand(session_->onSet(), id)); });
    menu->addSeparator();
    auto* diffusion = new QMenu(tr("Diffusion"), menu);
    for (const SheetKind& sheet : sheet_kinds())
      (sheet_material(sheet.id)["kind"] == "translucent" ? diffusion : menu)
          ->addAction(plainAction(q(sheet.name)), this,
                      [this, id = std::string(sheet.id)] { doThing(sheet_added(session_->onSet(), id)); });
    menu->addMenu(diffusion);
    for (const auto& card : session_->project().card_stock)
      menu->addAction(tr("Card: %1").arg(QString::fromStdString(card->name.empty() ? card->id : card->name)), this,
                      [this, id = card->id] { doThing(card_added(session_->onSet(), id)); });
    menu->addSeparator();
    for (const auto& surface : session_->project().surface_stock)
      if (const auto laid = surface_laid(session_->onSet(), surface->id))
        menu->addAction(plainAction(q(laid->title)), this, [this, laid] { doThing(laid); });
    for (const auto& backdrop : session_->project().backdrop_stock)
      if (const auto hung = backdrop_hung(session_->onSet(), backdrop->id))
        menu->addAction(plainAction(q(hung->title)), this, [this, hung] { doThing(hung); });
    auto* bodies = menu->addMenu(tr("Body"));
    bodies->setObjectName("bodyActions");
    for (const SheetKind& kind : body_kinds())
      bodies->addAction(plainAction(q(kind.name)), this,
                        [this, id = kind.id] { doThing(body_added(session_->onSet(), id)); });
    if (session_->selection().kind == Kind::body) {
      bodies->addSeparator();
      if (const auto edit = body_seen_switched(session_->onSet(), session_->selection()))
        bodies->addAction(plainAction(q(edit->title)), this, [this, edit] { doThing(edit); });
    }
    menu->addSeparator();
    roomMenu(menu);
    std::vector<std::string> modifiers;
    for (const auto& m : session_->project().modifiers) modifiers.push_back(m->id);
    modifiers.emplace_back();  // none
    for (const std::string& id : modifiers)
      if (const auto put = modifier_put(session_->onSet(), session_->selection(), id))
        menu->addAction(plainAction(q(put->title)), this, [this, put] { doThing(put); });
    if (const auto doors = doors_switched(session_->onSet(), session_->selection()))
      menu->addAction(plainAction(q(doors->title)), this, [this, doors] { doThing(doors); });
    for (const auto& edit : {colour_meant_switched(session_->onSet(), session_->selection()),
                             lamp_seen_switched(session_->onSet(), session_->selection())})
      if (edit) menu->addAction(plainAction(q(edit->title)), this, [this, edit] { doThing(edit); });
    if (const auto sheet = glass_switched(session_->onSet()))
      menu->addAction(plainAction(q(sheet->title)), this, [this, sheet] { doThing(sheet); });
    menu->addSeparator();
  }
  for (const auto& product : session_->project().products)
    if (const auto put = product_added(session_->onSet(), product->id))
      menu->addAction(plainAction(q(put->title)), this, [this, put] { doThing(put); });
  menu->addSeparator();
  const Selection now = session_->selection();
  if (const auto copy = doubled(session_->onSet(), now))
    menu->addAction(tr("Double %1\tCtrl+D").arg(nameOf(*session_, now)), this,
                    [this, now] { doThing(doubled(session_->onSet(), now)); });
  if (const auto gone = taken_away(session_->onSet(), now))
    menu->addAction(tr("Take %1 away\tDel").arg(nameOf(*session_, now)), this,
                    [this, now] { doThing(taken_away(session_->onSet(), now)); });
  menu->popup(things_->mapToGlobal(QPoint(0, things_->height())));
}

void FloorView::roomMenu(QMenu* menu) {
  const OnSet on = session_->onSet();
  auto* room = menu->addMenu(tr("Room and windows"));
  room->setObjectName("roomActions");
  const auto offer = [&](const std::optional<SetEdit>& edit) {
    if (edit) room->addAction(plainAction(q(edit->title)), this, [this, edit] { doThing(edit); });
  };
  offer(room_switched(on));
  for (const RoomWall wall : {RoomWall::left, RoomWall::right, RoomWall::front, RoomWall::back, RoomWall::ceiling})
    offer(window_added(on, wall));
  for (const SkyKind sky : {SkyKind::clear, SkyKind::partly, SkyKind::overcast}) offer(sky_set(on, sky));
  auto* gels = menu->addMenu(tr("Gel"));
  gels->setObjectName("gelActions");
  for (const GelKind& gel : gel_kinds())
    if (const auto put = gel_put(on, session_->selection(), gel.id))
      gels->addAction(plainAction(q(put->title)), this, [this, put] { doThing(put); });
  if (const auto off = gel_put(on, session_->selection(), {}))
    gels->addAction(plainAction(q(off->title)), this, [this, off] { doThing(off); });
  if (gel_curve_put(on, session_->selection(), {{560, 1}})) {
    gels->addAction(tr("Gel by its curve\u2026"), this, [this] {
      askFile("gelDialog", tr("A gel's curve: wavelength and share"), tr("Tables (*.csv *.txt)"),
              &FloorView::readGelCurve);
    });
    gels->addSeparator();
  }
  for (const double stops : {0.5, 1.0, 0.0})
    if (const auto net = scrim_put(on, session_->selection(), stops))
      gels->addAction(plainAction(q(net->title)), this, [this, net] { doThing(net); });
  if (const auto film = film_switched(on, session_->selection()))
    gels->addAction(plainAction(q(film->title)), this, [this, film] { doThing(film); });
  gels->setEnabled(!gels->isEmpty());
  auto* materials = menu->addMenu(tr("Made of"));
  materials->setObjectName("materialActions");
  for (const SheetKind& made : materials_for(session_->selection()))
    if (const auto edit = made_of(on, session_->selection(), made.id))
      materials->addAction(plainAction(q(edit->title)), this, [this, edit] { doThing(edit); });
  materials->setEnabled(!materials->isEmpty());
  auto* patterns = menu->addMenu(tr("Pattern"));
  patterns->setObjectName("patternActions");
  for (const SheetKind& kind : pattern_kinds())
    if (const auto laid = pattern_laid(on, session_->selection(), kind.id))
      patterns->addAction(plainAction(q(laid->title)), this, [this, laid] { doThing(laid); });
  if (!patterns->isEmpty())
    patterns->addAction(tr("From a picture\u2026"), this, [this] {
      askFile("patternDialog", tr("A picture that repeats"), tr("Pictures (*.png *.jpg *.jpeg *.svg)"),
              &FloorView::readPattern);
    });
  if (const auto off = pattern_laid(on, session_->selection(), {}))
    patterns->addAction(plainAction(q(off->title)), this, [this, off] { doThing(off); });
  patterns->setEnabled(!patterns->isEmpty());
}

void FloorView::doThing(const std::optional<SetEdit>& edit) {
  if (!edit) return;
  const QString note = q(shared_note(session_->onSet()));
  if (!session_->keep(*edit)) return;
  session_->select(edit->then);
  if (!note.isEmpty()) emit session_->message(tr("%1; %2").arg(q(edit->title), note));
}

void FloorView::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton || !session_->shot()) return;
  pressed_ = event->position();
  moved_ = false;
  const QPointF aim = aimHandle();
  for (std::size_t leaf = 0; leaf < 4; ++leaf)
    if (const auto tip = doorHandle(leaf); tip && QLineF(*tip, pressed_).length() < 7) {
      drag_ = Drag::door;
      leaf_ = leaf;
      dragged_ = session_->selection();
      return;
    }
  if (std::hypot(aim.x() - pressed_.x(), aim.y() - pressed_.y()) < 8) {
    drag_ = Drag::aim;
    dragged_ = session_->selection();
  } else {
    dragged_ = thingAt(pressed_);
    if (dragged_.kind == Kind::none) return;
    session_->select(dragged_);
    if (dragged_.kind == Kind::room) return;  // its measures are typed
    drag_ = place_and_aim(session_->onSet(), dragged_) ? Drag::body : Drag::size;
  }
  if (const auto both = place_and_aim(session_->onSet(), dragged_))
    placeAtPress_ = both->first, aimAtPress_ = both->second;
  if (dragged_.kind == Kind::backdrop) sizeAtPress_ = session_->setup()->backdrop.distance;
  if (dragged_.kind == Kind::surface) sizeAtPress_ = session_->setup()->surface->depth;
}

void FloorView::dragTo(const QPointF& at, bool keep) {
  if (drag_ == Drag::door) return swingDoor(at, keep);
  const Vec3 by = onFloor(at) - onFloor(pressed_);
  Session::Values values;
  QString title;
  const QString name = nameOf(*session_, dragged_);
  const std::string path = pointer_of(session_->onSet(), dragged_);
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
    if (view_ != View::plan) {  // up and down as well: the handle's way, at the aim's distance
      const double d = length(aimAtPress_ - placeAtPress_);
      const Vec3 toward = unit(aimAtPress_ - placeAtPress_ + by * (d / std::max(0.05, 0.6 * d)));
      values = {{path + "/aim", point_json(placeAtPress_ + toward * d)}};
      title = tr("%1 turned").arg(name);
      values = on_tracks(session_->onSet(), dragged_, std::move(values));
      keep ? (void)session_->keep(title, values) : (void)session_->preview(values);
      return;
    }
    Vec3 aim = onFloor(at);
    aim.y = aimAtPress_.y;
    if (length(Vec3{aim.x - placeAtPress_.x, 0, aim.z - placeAtPress_.z}) < 0.02) return;
    // The handle stands short of the aim: keep the aim's own distance along the new direction.
    const Vec3 flat{aimAtPress_.x - placeAtPress_.x, 0, aimAtPress_.z - placeAtPress_.z},
        to{aim.x - placeAtPress_.x, 0, aim.z - placeAtPress_.z};
    const Vec3 turnedAim =
        placeAtPress_ + unit(to) * std::max(0.02, length(flat)) + Vec3{0, aimAtPress_.y - placeAtPress_.y, 0};
    values = {{path + "/aim", point_json(turnedAim)}};
    title = tr("%1 turned").arg(name);
  } else {
    const Vec3 to = snapped(placeAtPress_ + by, freely_), went = to - placeAtPress_;
    if (!has_aim(dragged_)) {
      values = {{path + "/place", point_json(to)}};
    } else {
      // On the benches Place and Move a thing moves with its aim; on the Light bench it goes round what it is
      // aimed at.
      const bool withAim = bench_ == Bench::place || bench_ == Bench::move;
      values = {{path + "/place", point_json(to)}};
      if (withAim) values.emplace_back(path + "/aim", point_json(aimAtPress_ + went));
      if (dragged_.kind == Kind::camera && !withAim) {
        const double focus = session_->shot()->camera->focus + length(to - aimAtPress_) -
                             length(place_and_aim(session_->onSet(), dragged_)->first - aimAtPress_);
        if (focus > session_->shot()->camera->focal * 1.05)
          values.emplace_back(path + "/focus", std::round(focus * 1e4) / 1e4);
      }
    }
    title = tr("%1 moved %2 cm").arg(name, cm(length(by)));
  }
  values = on_tracks(session_->onSet(), dragged_, std::move(values));
  keep ? (void)session_->keep(title, values) : (void)session_->preview(values);
}

/// While something is dragged: how far it is from the product's axis, how high, and from what it is aimed at.
void FloorView::drawMeasures(QPainter& p) {
  const auto both = place_and_aim(session_->onSet(), dragged_);
  if (!both) return;
  const Theme& t = theme();
  const Vec3 axis{0, both->first.y, 0};
  p.setPen(QPen(t.accent, 1, Qt::DashLine));
  p.drawLine(onScreen(both->first), onScreen(axis));
  const auto len = [&](double m) { return QString::fromStdString(length_text(m, session_->units())); };
  QString text =
      tr("%1 from the axis, %2 high").arg(len(std::hypot(both->first.x, both->first.z)), len(both->first.y));
  if (dragged_.kind != Kind::product && dragged_.kind != Kind::effect)
    text += tr(", %1 from its aim").arg(len(length(both->first - both->second)));
  const double w = QFontMetricsF(numberFont(10)).horizontalAdvance(text) + 12;
  const QPointF at = handle(dragged_);
  const QRectF plate(std::clamp(at.x() - w / 2, 4.0, std::max(4.0, width() - w - 4)),
                     std::clamp(at.y() - 34, 4.0, height() - 24.0), w, 18);
  p.setPen(QPen(t.line, 1));
  p.setBrush(t.panel);
  p.drawRect(plate);
  drawText(p, plate, Qt::AlignCenter, text, numberFont(10), t.ink);
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
  freely_ = event->modifiers() & Qt::AltModifier;
  dragTo(at, false);
}

void FloorView::mouseReleaseEvent(QMouseEvent* event) {
  if (drag_ == Drag::none) return;
  if (moved_) dragTo(event->position(), true);
  drag_ = Drag::none;
  moved_ = false;
  fit();
}

void FloorView::keyPressEvent(QKeyEvent* event) {
  const auto things = takeable();
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
  if (event->key() == Qt::Key_V) return setView(static_cast<View>((static_cast<int>(view_) + 1) % 3));
  if (event->key() == Qt::Key_Insert) return thingMenu();
  if (event->key() == Qt::Key_Delete) return doThing(taken_away(session_->onSet(), now));
  if (event->key() == Qt::Key_D && (event->modifiers() & Qt::ControlModifier))
    return doThing(doubled(session_->onSet(), now));
  const double step = shift ? 0.1 : 0.01;
  Vec3 by;
  switch (event->key()) {
    case Qt::Key_Left:
      by = axisRight() * -step;
      break;
    case Qt::Key_Right:
      by = axisRight() * step;
      break;
    case Qt::Key_Up:
      by = axisDown() * -step;
      break;
    case Qt::Key_Down:
      by = axisDown() * step;
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
  if (const auto both = place_and_aim(session_->onSet(), now))
    session_->keep(
        tr("%1 moved %2 cm").arg(nameOf(*session_, now)).arg(step * 100),
        carried_to(session_->onSet(), now, both->first + by, bench_ == Bench::place || bench_ == Bench::move));
  else if (now.kind == Kind::backdrop && by.z != 0)
    session_->keep(tr("Backdrop moved"), {{pointer_of(session_->onSet(), now) + "/distance",
                                           session_->setup()->backdrop.distance - by.z}});
}

}  // namespace cinnabar
