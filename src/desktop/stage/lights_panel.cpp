#include "cinnabar/desktop/stage/lights_panel.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/color/palette.h"
#include "cinnabar/color/white.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/planning/room_things.h"
#include "cinnabar/render/film.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {
constexpr double rowHeight = 23, firstRow = 25, darkest = -6.0;
}

LightsPanel::LightsPanel(Session* session, Foresight* foresight, QWidget* parent)
    : Painted("lights", tr("Lights, from the dark"),
              tr("Up and down choose a light, left and right dim it by a tenth of a stop, Space switches it, S "
                 "shows it alone, D switches all off, N the next one on"),
              parent),
      session_(session),
      foresight_(foresight) {
  const auto turn = [this](const QString& text, const char* id, const QString& tip, auto does) {
    auto* b = new WordButton(text, WordButton::Look::small, this);
    b->setObjectName(id);
    b->setCheckable(false);
    b->setToolTip(tip);
    connect(b, &WordButton::clicked, this, does);
    return b;
  };
  dark_ = turn(tr("All off"), "lightsDark", tr("From the dark: every light off, windows closed (D)"),
               &LightsPanel::darken);
  next_ = turn(tr("Turn on next"), "lightsNext",
               tr("One at a time: the next light on, for what it is meant for (N)"), &LightsPanel::turnOnNext);
  refreshTurns();
  connect(session_, &Session::changed, this, [this] {
    refreshTurns();
    update();
  });
  connect(session_, &Session::selectionChanged, this, [this] {
    update();
    tellChosenPart();
  });
  connect(session_, &Session::shotChanged, this, [this] {
    scroll_ = 0;
    onBackdrop_.clear();  // until the new shot's picture is there
    if (!solo_.empty()) emit soloed(solo_ = {});
    refreshTurns();
  });
  connect(foresight_, &Foresight::light, this, [this] { update(); });
}

void LightsPanel::refreshTurns() {
  const OnSet on = session_->onSet();
  dark_->setEnabled(session_->shot() && all_dark(on));
  next_->setEnabled(session_->shot() && next_turned_on(on));
}
void LightsPanel::resizeEvent(QResizeEvent*) {
  constexpr int title = 134, share = 150;
  int x = title;
  for (WordButton* b : {dark_, next_}) {
    const QSize size = b->sizeHint();
    b->setGeometry(x, 3, size.width(), 20);
    x += size.width() + 4;
    b->setVisible(x <= width() - share);  // else by keys alone
  }
}
void LightsPanel::darken() {
  if (const auto dark = all_dark(session_->onSet())) session_->keep(*dark);
}
void LightsPanel::turnOnNext() {
  const auto next = next_turned_on(session_->onSet());
  if (next && session_->keep(*next)) session_->select(next->then);
}

Vec3 LightsPanel::colourOf(const Light& light) const {
  const auto& camera = session_->shot()->camera;
  return recorded_colour(light, camera ? camera->balance_k : 5600.0);
}

std::vector<ToldPart> LightsPanel::parts() const {
  std::vector<ToldPart> list;
  const auto told = [this](std::size_t i) {
    QString words;
    const auto& shares = foresight_->shares();
    if (i < shares.size())
      words += tr(", %1 % of the light at the product").arg(q(fixed_text(100 * shares[i], 0)));
    if (i < onBackdrop_.size())
      words += tr(", %1 % of that on the backdrop").arg(q(fixed_text(100 * onBackdrop_[i], 0)));
    if (const auto times = strongestOver(i); times && *times > 1)
      words += tr(", %1 to 1 under the strongest").arg(q(number_text(*times, 2)));
    return words;
  };
  for (std::size_t i = 0; i < count(); ++i) {
    const Light& l = session_->setup()->lights[i];
    list.push_back({q(l.name),
                    l.on ? tr("on, dimmer %1 %, %2%3")
                               .arg(q(number_text(100 * l.dimmer, 3)),
                                    l.colour_meant ? tr("%1 on purpose").arg(q(light_word(colourOf(l))))
                                                   : q(light_word(colourOf(l))),
                                    told(i))
                         : tr("off"),
                    rowBox(i).toRect(), session_->selection() == Selection{Selection::Kind::light, i}});
  }
  return list;
}

void LightsPanel::setOnBackdrop(std::vector<double> shares) {
  onBackdrop_ = std::move(shares);
  update();
}

std::optional<double> LightsPanel::strongestOver(std::size_t light) const {
  const auto& shares = foresight_->shares();
  if (light >= shares.size() || light >= count() || !(shares[light] > 0.0)) return {};
  const double most = *std::max_element(
      shares.begin(), shares.begin() + static_cast<std::ptrdiff_t>(std::min(count(), shares.size())));
  return most / shares[light];
}

std::size_t LightsPanel::count() const { return session_->setup() ? session_->setup()->lights.size() : 0; }
std::size_t LightsPanel::current() const {
  return session_->selection().kind == Selection::Kind::light ? session_->selection().index : 0;
}
bool LightsPanel::tracked(std::size_t l) const {
  return session_->shot()->track(Tracked::light_dimmer, session_->setup()->lights[l].id) != nullptr;
}
QRectF LightsPanel::rowBox(std::size_t l) const {
  return {8, firstRow + rowHeight * (static_cast<double>(l) - scroll_), width() - 16.0, rowHeight};
}
QRectF LightsPanel::switchBox(std::size_t l) const { return {rowBox(l).left(), rowBox(l).top() + 2, 18, 18}; }
QRectF LightsPanel::nameBox(std::size_t l) const {
  return {rowBox(l).left() + 22, rowBox(l).top(), 66, rowHeight};
}
QRectF LightsPanel::sliderBox(std::size_t l) const {
  const double from = wordsFit() ? 212.0 : 162.0;
  return {from, rowBox(l).top(), std::max(60.0, width() - from - (ratioFits() ? 188 : 142)), rowHeight};
}
double LightsPanel::stopsAt(double x) const {
  const QRectF s = sliderBox(0);
  return std::clamp(std::round((darkest + (x - s.left()) / s.width() * -darkest) * 10) / 10, darkest, 0.0);
}
Session::Values LightsPanel::dimmed(std::size_t l, double stops) const {
  // What dims a window is a curtain before it.
  const char* key = session_->setup()->lights[l].window ? "/curtain" : "/dimmer";
  return {{pointer_of(session_->onSet(), {Selection::Kind::light, l}) + key,
           std::round(std::exp2(stops) * 1e4) / 1e4}};
}

void LightsPanel::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  drawPanel(p, rect());
  drawText(p, {10, 6, 200, 15}, Qt::AlignLeft | Qt::AlignVCenter, tr("Lights, from the dark"), textFont(11),
           t.quiet);
  drawText(p, {width() - 180.0, 6, 170, 15}, Qt::AlignRight | Qt::AlignVCenter,
           ratioFits() ? tr("ratio, product | backdrop") : tr("product | backdrop"), textFont(11), t.quiet);
  const Setup* s = session_->setup();
  if (!s) return;
  p.setClipRect(QRectF(1, firstRow, width() - 2, height() - firstRow - 2));
  const auto& shares = foresight_->shares();
  const auto shareText = [&](std::size_t i) {
    const auto share = [i](const std::vector<double>& list, const QString& none) {
      return i < list.size() ? q(fixed_text(list[i] * 100, 0)) : none;
    };
    return tr("%1 | %2 %").arg(share(shares, QStringLiteral("…")), share(onBackdrop_, QStringLiteral("-")));
  };
  for (std::size_t i = 0; i < s->lights.size(); ++i) {
    const Light l = light_at(s->lights[i], *session_->shot(), session_->setTime());
    const QRectF row = rowBox(i);
    const bool chosen = session_->selection() == Selection{Selection::Kind::light, i};
    const QColor ink = chosen ? t.accent : l.on ? t.ink : t.quiet;
    p.setPen(QPen(ink, 1.4));
    p.setBrush(l.on ? QBrush(ink) : Qt::NoBrush);
    p.drawEllipse(switchBox(i).center(), 5, 5);
    drawText(p, nameBox(i), Qt::AlignLeft | Qt::AlignVCenter, QString::fromStdString(l.name),
             textFont(12, chosen || solo_ == l.id), ink);
    if (solo_ == l.id) p.fillRect(QRectF(nameBox(i).left(), row.bottom() - 3, 60, 1.5), t.accent);
    drawText(p, {row.left() + 90, row.top(), 60, rowHeight}, Qt::AlignLeft | Qt::AlignVCenter,
             QString::fromStdString(fixed_text(l.white_kelvin(), 0)) + " K", numberFont(11), t.quiet);
    // Its colour in the picture, a little of it.
    const Vec3 colour = colourOf(l);
    const auto shown = [&](double v) { return std::clamp(srgb_encode(v) * (t.dark ? 0.45 : 1.0), 0.0, 1.0); };
    p.setPen(QPen(t.quiet, 0.8));
    p.setBrush(QColor::fromRgbF(static_cast<float>(shown(colour.x)), static_cast<float>(shown(colour.y)),
                                static_cast<float>(shown(colour.z))));
    p.drawRect(QRectF(row.left() + 142, row.center().y() - 4, 7, 7));
    if (wordsFit())  // underlined where it is on purpose
      drawText(p, {row.left() + 153, row.top(), 48, rowHeight}, Qt::AlignLeft | Qt::AlignVCenter,
               q(light_word(colour)), textFont(10), l.on ? t.ink : t.quiet);
    if (l.colour_meant) p.fillRect(QRectF(row.left() + 142, row.bottom() - 4, wordsFit() ? 56 : 8, 1.5), t.good);
    const QRectF slide = sliderBox(i);
    const double y = slide.center().y();
    p.setPen(QPen(t.line, 2));
    p.drawLine(QPointF(slide.left(), y), QPointF(slide.right(), y));
    for (int k = 0; k <= 6; ++k) {
      const double x = slide.left() + slide.width() * k / 6;
      p.setPen(QPen(t.line, 1));
      p.drawLine(QPointF(x, y - 4), QPointF(x, y + 4));
    }
    const double stops = l.dimmer > 0 ? std::log2(l.dimmer) : darkest;
    if (tracked(i)) {
      drawText(p, slide, Qt::AlignCenter, tr("moves on the ladder"), textFont(10), t.quiet);
    } else if (l.on) {
      const double x = slide.left() + slide.width() * (std::clamp(stops, darkest, 0.0) - darkest) / -darkest;
      p.setPen(Qt::NoPen);
      p.setBrush(ink);
      p.drawRoundedRect(QRectF(x - 4, y - 8, 8, 16), 1.5, 1.5);
    }
    const QString amount =
        l.window && !l.on                                 ? tr("closed")
        : !l.on                                           ? tr("off")
        : l.window && !s->room.windows[*l.window].curtain ? tr("bare")
        : l.dimmer <= 0
            ? tr("dark")
            : QString::fromStdString(signed_text(stops, 1)).replace("+0.0", "full").replace('-', QChar(0x2212));
    drawText(p, {slide.right() + 8, row.top(), 48, rowHeight}, Qt::AlignRight | Qt::AlignVCenter, amount,
             numberFont(11), t.quiet);
    drawText(p, {row.right() - 74, row.top(), 72, rowHeight}, Qt::AlignRight | Qt::AlignVCenter, shareText(i),
             numberFont(11), ink);
    if (const auto times = ratioFits() ? strongestOver(i) : std::nullopt)
      drawText(p, {row.right() - 117, row.top(), 41, rowHeight}, Qt::AlignRight | Qt::AlignVCenter,
               *times < 1000 ? tr("%1:1").arg(q(number_text(*times, 2))) : tr("none"), numberFont(11), t.quiet);
    if (hasFocus() && chosen) drawFocus(p, row.adjusted(-4, 1, 2, 0));
  }
  const QRectF row = rowBox(s->lights.size());
  const bool lit = s->ambient_lx > 0;
  p.setPen(QPen(t.quiet, 1.4));
  p.setBrush(lit ? QBrush(t.quiet) : Qt::NoBrush);
  p.drawEllipse(QRectF(row.left(), row.top() + 2, 18, 18).center(), 5, 5);
  drawText(p, {row.left() + 22, row.top(), 66, rowHeight}, Qt::AlignLeft | Qt::AlignVCenter, tr("Room"),
           textFont(12), t.quiet);
  drawText(p, {row.left() + 90, row.top(), 160, rowHeight}, Qt::AlignLeft | Qt::AlignVCenter,
           lit ? QString::fromStdString(number_text(s->ambient_lx, 4)) + " lx" : tr("blacked out"), numberFont(11),
           t.quiet);
  drawText(p, {row.right() - 74, row.top(), 72, rowHeight}, Qt::AlignRight | Qt::AlignVCenter,
           shareText(s->lights.size()), numberFont(11), t.quiet);
}

void LightsPanel::toggle(std::size_t l) {
  const Light& light = session_->setup()->lights[l];
  session_->keep(
      light.window
          ? (light.on ? tr("%1 blacked out") : tr("%1 open again")).arg(QString::fromStdString(light.name))
      : light.on ? tr("%1 switched off").arg(QString::fromStdString(light.name))
                 : tr("%1 switched on").arg(QString::fromStdString(light.name)),
      {{pointer_of(session_->onSet(), {Selection::Kind::light, l}) + "/on", !light.on}});
}
void LightsPanel::solo(std::size_t l) {
  const std::string& id = session_->setup()->lights[l].id;
  solo_ = solo_ == id ? std::string() : id;
  emit soloed(solo_);
  update();
}
void LightsPanel::nudge(double by) {
  if (count() == 0 || tracked(current())) return;
  const Light& l = session_->setup()->lights[current()];
  const double stops = std::clamp((l.dimmer > 0 ? std::log2(l.dimmer) : darkest) + by, darkest, 0.0);
  session_->keep(
      tr("%1 at %2 stops").arg(QString::fromStdString(l.name), QString::fromStdString(signed_text(stops, 1))),
      dimmed(current(), stops));
}

void LightsPanel::mousePressEvent(QMouseEvent* event) {
  for (std::size_t i = 0; i < count(); ++i) {
    if (!rowBox(i).contains(event->position())) continue;
    session_->select({Selection::Kind::light, i});
    if (switchBox(i).contains(event->position())) return toggle(i);
    if (nameBox(i).contains(event->position())) return solo(i);
    if (sliderBox(i).adjusted(-6, 0, 6, 0).contains(event->position()) && !tracked(i) &&
        session_->setup()->lights[i].on) {
      dragged_ = i;
      stops_ = stopsAt(event->position().x());
      session_->preview(dimmed(i, stops_));
    }
    return;
  }
}
void LightsPanel::mouseMoveEvent(QMouseEvent* event) {
  if (!dragged_) return;
  stops_ = stopsAt(event->position().x());
  session_->preview(dimmed(*dragged_, stops_));
}
void LightsPanel::mouseReleaseEvent(QMouseEvent*) {
  if (!dragged_) return;
  const std::size_t l = *dragged_;
  dragged_.reset();
  session_->keep(tr("%1 at %2 stops")
                     .arg(QString::fromStdString(session_->setup()->lights[l].name),
                          QString::fromStdString(signed_text(stops_, 1))),
                 dimmed(l, stops_));
}
void LightsPanel::wheelEvent(QWheelEvent* event) {
  const int rows = static_cast<int>((height() - firstRow) / rowHeight),
            most = std::max(0, static_cast<int>(count()) + 1 - rows);
  scroll_ = std::clamp(scroll_ + (event->angleDelta().y() < 0 ? 1 : -1), 0, most);
  update();
}
void LightsPanel::keyPressEvent(QKeyEvent* event) {
  if (count() == 0) return QWidget::keyPressEvent(event);
  const double step = event->modifiers() & Qt::ShiftModifier ? 1.0 : 0.1;
  switch (event->key()) {
    case Qt::Key_Up:
      return session_->select({Selection::Kind::light, current() > 0 ? current() - 1 : 0});
    case Qt::Key_Down:
      return session_->select({Selection::Kind::light, std::min(count() - 1, current() + 1)});
    case Qt::Key_Left:
      return nudge(-step);
    case Qt::Key_Right:
      return nudge(step);
    case Qt::Key_Space:
      return toggle(current());
    case Qt::Key_S:
      return solo(current());
    case Qt::Key_D:
      return darken();
    case Qt::Key_N:
      return turnOnNext();
    default:
      return QWidget::keyPressEvent(event);
  }
}

}  // namespace cinnabar
