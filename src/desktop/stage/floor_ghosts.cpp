// What stands on the floor besides things: where they would stand in other states of the project, dashed and with
// the numbers of their ways, and where light is metered.
#include "cinnabar/desktop/stage/floor_view.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

bool stands_alike(const Light& a, const Light& b) {
  return a.on == b.on && length(a.place - b.place) < 1e-4 && length(a.aim - b.aim) < 1e-4 &&
         a.roll_deg == b.roll_deg && a.width == b.width && a.height == b.height;
}
bool stands_alike(const Card& a, const Card& b) {
  return length(a.place - b.place) < 1e-4 && length(a.aim - b.aim) < 1e-4 && a.roll_deg == b.roll_deg &&
         a.width == b.width && a.height == b.height;
}
/// Whether the list has a thing of that id that stands like it.
template <class Thing>
bool has_alike(const std::vector<Thing>& list, const Thing& thing) {
  return std::any_of(list.begin(), list.end(),
                     [&](const Thing& one) { return one.id == thing.id && stands_alike(one, thing); });
}

}  // namespace

void FloorView::setGhosts(const std::vector<std::shared_ptr<const Project>>& ways, int strong) {
  ghosts_ = ways;
  strongGhost_ = strong;
  update();
}

void FloorView::drawGhosts(QPainter& p) {
  const Theme& t = theme();
  const Setup* now = session_->setup();
  if (!now || session_->previewing()) return;  // what is tried stands there itself
  for (std::size_t w = 0; w < ghosts_.size(); ++w) {
    const bool strong = strongGhost_ == static_cast<int>(w);
    if (strongGhost_ >= 0 && !strong) continue;
    const Setup* then = by_id(ghosts_[w]->setups, now->id);
    const auto shot =
        session_->shotIndex() < ghosts_[w]->shots.size() ? ghosts_[w]->shots[session_->shotIndex()] : nullptr;
    if (!then || !shot) continue;
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(t.good, strong ? 1.8 : 1.1, Qt::DashLine));
    const auto draw = [&](const QPolygonF& outline, const std::string& name) {
      drawShape(p, outline, rect());
      const QRectF box = outline.boundingRect();
      const QString number = QString::number(w + 1);
      names_.push_back({strong ? QString("%1 %2").arg(number, QString::fromStdString(name)) : number, box,
                        textFont(10), t.good});
    };
    for (const Light& light : then->lights)
      if (light.on && !has_alike(now->lights, light))
        draw(lightOutline(light_at(light, *shot, session_->setTime())), light.name);
    for (const Card& card : then->cards)
      if (!has_alike(now->cards, card)) draw(cardOutline(card), card.name);
  }
}

void FloorView::showPins(bool shown) {
  pinsShown_ = shown;
  update();
}
void FloorView::setPin(int pin) {
  pin_ = pin;
  update();
}

/// Where light is metered: a cross with its number, and which way the meter faces.
void FloorView::drawPins(QPainter& p) {
  const Setup* setup = session_->setup();
  if (!pinsShown_ || !setup) return;
  const Theme& t = theme();
  for (std::size_t i = 0; i < setup->pins.size(); ++i) {
    const auto now = session_->shot()
                         ? pin_at(session_->project(), *session_->shot(), setup->pins[i], session_->setTime())
                         : std::optional(setup->pins[i]);
    if (!now) continue;
    const Pin& pin = *now;
    const bool chosen = static_cast<int>(i) == pin_;
    const QPointF at = onScreen(pin.at);
    if (!QRectF(rect()).contains(at)) continue;
    p.setPen(QPen(chosen ? t.accent : t.ink, chosen ? 2.0 : 1.3));
    p.drawLine(at - QPointF(4, 0), at + QPointF(4, 0));
    p.drawLine(at - QPointF(0, 4), at + QPointF(0, 4));
    if (length(pin.normal) > 1e-9) {
      const QPointF way = onScreen(pin.at + unit(pin.normal) * (14.0 / scale_)) - at;
      if (std::hypot(way.x(), way.y()) > 2.0) p.drawLine(at, at + way);
    }
    names_.push_back({QString::number(i + 1), QRectF(at - QPointF(5, 5), QSizeF(10, 10)), textFont(10, chosen),
                      chosen ? t.accent : t.quiet});
  }
}
}  // namespace cinnabar
