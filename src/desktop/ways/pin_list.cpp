#include "cinnabar/desktop/ways/pin_list.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"

namespace cinnabar {
namespace {

constexpr double row_high = 21;
/// Columns of numbers, pixels; the name and the bar of shares have what is left.
constexpr double lux_wide = 60, stops_wide = 64, white_wide = 54, metered_wide = 104, apart = 8, least_bar = 44;

QString lightName(const Session& session, const std::string& id) {
  if (id == "ambient") return QObject::tr("room");
  if (session.setup())
    for (const Light& light : session.setup()->lights)
      if (light.id == id) return q(name_or(light.name, light.id));
  return q(id);
}

}  // namespace

PinList::PinList(Session* session, QWidget* parent)
    : Painted("pinList", tr("Pins"), tr("Up and down choose a pin, Delete takes it away"), parent),
      session_(session) {
  setMinimumHeight(static_cast<int>(2 * row_high));
}

const std::vector<Pin>& PinList::pins() const {
  static const std::vector<Pin> none;
  return session_->setup() ? session_->setup()->pins : none;
}

const PinReading* PinList::readingOf(const Pin& pin) const {
  const auto found =
      std::find_if(readings_.begin(), readings_.end(), [&](const PinReading& r) { return r.pin == pin.id; });
  return found == readings_.end() ? nullptr : &*found;
}

void PinList::show(std::vector<PinReading> readings) {
  readings_ = std::move(readings);
  choose(chosen_);
}

void PinList::choose(std::size_t pin) {
  const std::size_t was = chosen_, count = pins().size();
  chosen_ = count == 0 ? 0 : std::min(pin, count - 1);
  first_ = std::clamp(first_, chosen_ + 1 > rowsShown() ? chosen_ + 1 - rowsShown() : 0, chosen_);
  update();
  tellChosenPart();
  if (was != chosen_) emit chosenChanged();
}

std::size_t PinList::rowsShown() const { return static_cast<std::size_t>(std::max(1.0, height() / row_high)); }
QRectF PinList::rowBox(std::size_t pin) const {
  return {0, row_high * (static_cast<double>(pin) - static_cast<double>(first_)), static_cast<double>(width()),
          row_high};
}

QString PinList::words(const Pin& pin) const {
  const PinReading* read = readingOf(pin);
  if (!read) return tr("being measured");
  if (!read->there) return tr("its product is not in this shot");
  QStringList list{tr("%1 lx").arg(q(number_text(read->lux, 4)))};
  if (read->stops) list << tr("%1 stops").arg(q(signed_text(*read->stops, 1)));
  if (read->kelvin) list << tr("%1 K").arg(q(fixed_text(*read->kelvin, 0)));
  for (const auto& [id, lux] : read->by_light)
    if (lux > 0.01 * read->lux)
      list << tr("%1 %2 %").arg(lightName(*session_, id)).arg(q(fixed_text(100.0 * lux / read->lux, 0)));
  if (pin.measured) {
    list << tr("metered %1 lx").arg(q(number_text(pin.measured->illuminance_lx, 4)));
    if (read->off_stops) list << tr("%1 stops off").arg(q(signed_text(*read->off_stops, 2)));
  }
  return tidyMinus(list.join(", "));
}

std::vector<ToldPart> PinList::parts() const {
  std::vector<ToldPart> list;
  for (std::size_t i = 0; i < pins().size(); ++i)
    list.push_back({q(name_or(pins()[i].name, pins()[i].id)), words(pins()[i]), rowBox(i).toRect(), i == chosen_});
  return list;
}

void PinList::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  if (pins().empty()) {
    drawText(p, QRectF(rect()).adjusted(2, 0, -2, 0), Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap,
             tr("No pins yet. Click a place in the picture, on the product, the surface or the backdrop, and set "
                "one there."),
             textFont(11), theme().quiet);
  }
  for (std::size_t i = first_; i < std::min(pins().size(), first_ + rowsShown()); ++i) paintRow(p, i);
  if (hasFocus()) drawFocus(p, QRectF(rect()).adjusted(1, 1, -1, -1));
}

void PinList::paintRow(QPainter& p, std::size_t i) const {
  const Theme& t = theme();
  const Pin& pin = pins()[i];
  const QRectF box = rowBox(i).adjusted(2, 1, -2, -1);
  if (i == chosen_) {
    p.setPen(QPen(t.accent, 1.2));
    p.setBrush(Qt::NoBrush);
    p.drawRoundedRect(box, 3, 3);
  }
  const QRectF in = box.adjusted(5, 0, -5, 0);
  // In a narrow panel the white is told to who asks for the row only.
  const double name_wide = std::max(74.0, 0.2 * in.width()),
               left = in.width() - name_wide - lux_wide - stops_wide - metered_wide - 2.0 * apart;
  const bool with_white = left > white_wide + least_bar;
  double from = in.left();
  const auto column = [&](double wide) {
    const QRectF next(from, in.top(), std::max(0.0, wide), in.height());
    from += wide;
    return next;
  };
  drawText(p, column(name_wide), Qt::AlignLeft | Qt::AlignVCenter,
           QString("%1  %2").arg(i + 1).arg(q(name_or(pin.name, pin.id))), textFont(11.5), t.ink);
  const PinReading* read = readingOf(pin);
  if (!read || !read->there)
    return drawText(p, column(in.width() - name_wide), Qt::AlignLeft | Qt::AlignVCenter, words(pin), textFont(11),
                    t.quiet);
  const auto number = [&](double wide, const QString& text, const QColor& ink) {
    drawText(p, column(wide), Qt::AlignRight | Qt::AlignVCenter, tidyMinus(text), numberFont(11), ink);
  };
  number(lux_wide, tr("%1 lx").arg(q(number_text(read->lux, 3))), t.ink);
  number(stops_wide, read->stops ? tr("%1 st").arg(q(signed_text(*read->stops, 1))) : QString(), t.ink);
  if (with_white)
    number(white_wide, read->kelvin ? tr("%1 K").arg(q(fixed_text(*read->kelvin, 0))) : QString(), t.quiet);
  // Who gives it: a piece each, the largest darkest, what the room gives outlined.
  column(apart);
  const QRectF bar = column(left - (with_white ? white_wide : 0.0)).adjusted(0, 6, 0, -6);
  column(apart);
  p.setPen(Qt::NoPen);
  p.setBrush(t.track);
  p.drawRect(bar);
  std::vector<std::pair<double, bool>> shares;  // of the room: true
  for (const auto& [id, lux] : read->by_light)
    if (read->lux > 0.0) shares.emplace_back(lux / read->lux, id == "ambient");
  std::stable_sort(shares.begin(), shares.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
  double x = bar.left();
  for (std::size_t k = 0; k < shares.size(); ++k) {
    const QRectF piece(x, bar.top(), shares[k].first * bar.width(), bar.height());
    x += piece.width();
    if (piece.width() < 1.0) continue;
    QColor ink = t.ink;
    ink.setAlphaF(static_cast<float>(std::max(0.2, 0.85 - 0.22 * static_cast<double>(k))));
    p.setBrush(shares[k].second ? QBrush(Qt::NoBrush) : QBrush(ink));
    p.setPen(shares[k].second ? QPen(t.ink, 1) : QPen(Qt::NoPen));
    p.drawRect(piece.adjusted(0.5, 0.5, -0.5, -0.5));
  }
  if (!pin.measured) return;
  const bool far = read->off_stops && std::abs(*read->off_stops) >= 0.3;
  const QString metered = tr("%1 lx").arg(q(number_text(pin.measured->illuminance_lx, 3)));
  number(metered_wide, read->off_stops ? tr("%1 (%2)").arg(metered, q(signed_text(*read->off_stops, 1))) : metered,
         far ? t.accent : t.ink);
}

void PinList::mousePressEvent(QMouseEvent* event) {
  for (std::size_t i = first_; i < pins().size(); ++i)
    if (rowBox(i).contains(event->position())) return choose(i);
}
void PinList::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Down) return choose(chosen_ + 1);
  if (event->key() == Qt::Key_Up) return choose(chosen_ > 0 ? chosen_ - 1 : 0);
  if (event->key() == Qt::Key_Delete && !pins().empty()) return emit removeWanted();
  QWidget::keyPressEvent(event);
}
void PinList::wheelEvent(QWheelEvent* event) {
  if (event->angleDelta().y() != 0)
    choose(event->angleDelta().y() < 0 ? chosen_ + 1 : chosen_ > 0 ? chosen_ - 1 : 0);
  event->accept();
}

}  // namespace cinnabar
