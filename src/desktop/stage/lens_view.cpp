#include "cinnabar/desktop/stage/lens_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPointer>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/color/white.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/render/differing.h"
#include "cinnabar/render/overlays.h"
#include "cinnabar/render/shadows.h"

namespace cinnabar {

LensView::LensView(Session* session, PictureMaker* maker, QWidget* parent)
    : Painted(
          "lens", tr("Predicted picture"),
          tr("Click or use the arrow keys to read a place, Z for single pixels, F for the whole window; [ and ] "
             "move the line of a comparison"),
          parent),
      session_(session),
      maker_(maker) {
  overlays_ = {"Stop lines", "Copy space"};
  connect(maker_, &PictureMaker::picture, this, [this](std::shared_ptr<const LensPicture> picture) {
    if (!isVisible()) return;  // one that was on its way when the page was left; asked anew when it is shown
    picture_ = std::move(picture);
    if (keepsNext_) setCompared(true);
    askBands();
    askShadows();
    askDifference();
    update();
    emit pictureShown();
  });
  connect(session_, &Session::changed, this, &LensView::refresh);
  connect(session_, &Session::changed, this, [this] { stages_ = {}, stagesIn_ = {}; });
  connect(session_, &Session::shotChanged, this,
          [this] { stages_ = {}, stagesIn_ = {}, bands_ = {}, shadows_ = {}, shadowsOf_ = {}; });
  connect(session_, &Session::timeChanged, this, &LensView::refresh);
}

void LensView::setOverlay(const QString& name, bool on) {
  on ? (void)overlays_.insert(name) : (void)overlays_.remove(name);
  if (name == "Bands") askBands();
  if (name == "Shadow only") askShadows();
  update();
}
/// The picture with its bands, made on a worker from the one that is shown; without them until it is there.
void LensView::askBands() {
  if (!overlay("Bands") || !picture_ || !picture_->film || picture_->film->passes == 0 || !session_->shot()) {
    bands_ = {};
    return bander_.stop();
  }
  const QPointer<LensView> self(this);
  bander_.ask([self, of = picture_, solo = solo_,
               ripples = row_ripples(session_->project(), *session_->shot())](const std::atomic<bool>&) {
    const StagedWorld& world = *of->world;
    const QImage image = developedImage(banded(of->luminances, *of->film, layer_weights(world, solo), ripples,
                                               world.camera.optics.readout, of->set_time),
                                        world.camera);
    // Shown even where a newer picture has come by now, which is next: while one drags they come one after
    // another.
    later(self, [self, image] {
      if (!self->overlay("Bands")) return;
      self->bands_ = image;
      self->update();
    });
  });
}

/// Shadows alone, dark on light, made on a worker once for a set as it stands: more passes change nothing of them.
void LensView::askShadows() {
  if (!overlay("Shadow only") || !picture_ || !picture_->tracer || !session_->shot()) {
    shadows_ = {}, shadowsOf_ = {};
    return shader_.stop();
  }
  const std::pair asked{picture_->world, solo_};
  if (shadowsOf_ == asked) return;
  shadowsOf_ = asked;
  constexpr double places = 36000;  // asked; between them it is drawn smoothly
  const QRectF box = pictureBox();
  const double k = std::min(1.0, std::sqrt(places / std::max(1.0, box.width() * box.height())));
  const QSize size(std::max(1, static_cast<int>(box.width() * k)),
                   std::max(1, static_cast<int>(box.height() * k)));
  const QPointer<LensView> self(this);
  shader_.ask([self, of = picture_, solo = solo_, size](const std::atomic<bool>& cancel) {
    const auto kept = shadows_alone(*of->tracer, *of->world, size.width(), size.height(), solo, &cancel);
    if (kept.empty()) return;
    QImage image(size, QImage::Format_Grayscale8);
    for (int y = 0; y < size.height(); ++y)
      for (int x = 0; x < size.width(); ++x)
        image.scanLine(y)[x] = static_cast<uchar>(std::lround(
            216.0f - 196.0f * std::clamp(kept[static_cast<std::size_t>(y * size.width() + x)], 0.0f, 1.0f)));
    later(self, [self, image] {
      if (!self->overlay("Shadow only")) return;
      self->shadows_ = image;
      self->update();
    });
  });
}

void LensView::setSolo(const std::string& light) {
  solo_ = light;
  refresh();
}

QRectF LensView::pictureBox() const {
  double aspect = 16.0 / 9.0;
  if (session_->shot() && session_->shot()->camera) {
    const ShotOptics o = shot_optics(session_->project(), *session_->shot()->camera);
    aspect = static_cast<double>(o.width) / o.height;
  }
  const QRectF room = QRectF(rect()).adjusted(8, 8, -8, -8);
  double w = room.width(), h = w / aspect;
  if (h > room.height()) h = room.height(), w = h * aspect;
  return {room.center().x() - w / 2, room.center().y() - h / 2, w, h};
}

void LensView::refresh() {
  if (!isVisible()) return;  // asked when it is shown
  if (!session_->shot()) {
    picture_.reset();
    maker_->stop();
    update();
    return;
  }
  maker_->ask(session_->project(), session_->shotIndex(), session_->setTime(),
              zoomed_ ? deliveredWidth() : static_cast<int>(std::lround(pictureBox().width())), solo_);
  update();
}

void LensView::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  p.fillRect(rect(), t.mat);
  const QRectF box = pictureBox();
  p.fillRect(box, QColor("#0b0908"));
  const QColor onPicture = t.dark ? QColor("#BF9B7C") : QColor("#F0E6D2");
  if (!session_->shot()) {
    drawText(p, box, Qt::AlignCenter, tr("Add a shot to see what the camera records"), textFont(12), onPicture);
    return;
  }
  if (!picture_) return;
  const QRectF frame = frameBox();
  if (besides()) {
    drawBeside(p, box);
    if (probed_) {
      drawCross(p, besideBox(box, true));
      drawReading(p, besideBox(box, false), box);
    }
    if (hasFocus()) drawFocus(p, QRectF(rect()).adjusted(2, 2, -2, -2));
    return;
  }
  p.setClipRect(box);
  p.setRenderHint(QPainter::SmoothPixmapTransform, !zoomed_ || picture_->image.width() < deliveredWidth());
  if (shadows_.isNull()) {
    p.drawImage(frame, bands_.isNull() ? picture_->image : bands_);
  } else {
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.setOpacity(t.dark ? 0.3 : 1.0);  // a dark set is not lit by its own plan
    p.drawImage(frame, shadows_);
    p.setOpacity(1.0);
  }
  if (compared()) drawCompared(p, frame);
  if (overlay("Clip")) drawClip(p, frame);
  if (overlay("Stop lines") && shadows_.isNull()) drawStopLines(p, frame);
  if (overlay("Focus discs")) drawFocusDiscs(p, frame);
  if (overlay("Smear strokes")) drawSmearStrokes(p, frame);
  if (overlay("Start to end")) drawStages(p, frame);
  if (overlay("Frames")) drawFrames(p, frame);
  drawCrop(p, frame);
  if (overlay("Copy space")) drawCopySpace(p, frame);
  if (overlay("Pins")) drawPins(p, frame);
  if (overlay("Supports")) drawSupports(p, frame);
  if (overlay("Gear")) drawStrays(p, frame);
  if (probed_) drawReading(p, frame, box);
  p.setClipping(false);
  const Shot& shot = *session_->shot();
  const double rate =
      shot.camera ? shot_optics(session_->project(), *shot.camera).rate : session_->project().timeline_rate;
  const QString where = tr("set %1 s  frame %2  screen %3 s")
                            .arg(QString::fromStdString(fixed_text(session_->setTime(), 2)))
                            .arg(static_cast<long>(std::floor(session_->setTime() * rate + 1e-6)))
                            .arg(QString::fromStdString(fixed_text(shot.clock.screen_at(session_->setTime()), 2)));
  const auto tag = [&](const QRectF& at, int align, const QString& text) {
    const double w = QFontMetricsF(numberFont(10)).horizontalAdvance(text) + 8;
    const QRectF plate(align & Qt::AlignRight ? at.right() - w : at.left(), at.top(), w, at.height());
    p.fillRect(plate, QColor(12, 10, 9, 150));
    drawText(p, plate, Qt::AlignCenter, text, numberFont(10), onPicture);
  };
  const double whereWidth = QFontMetricsF(numberFont(10)).horizontalAdvance(where) + 24;
  if (box.width() - whereWidth > 130)
    tag({box.left() + 6, box.bottom() - 20, 200, 15}, Qt::AlignLeft,
        tr("%1 of %2 passes").arg(picture_->passes).arg(maker_->allPasses()));
  tag({box.right() - 306, box.bottom() - 20, 300, 15}, Qt::AlignRight, where);
  if (!solo_.empty())
    tag({box.left() + 6, box.top() + 6, 200, 15}, Qt::AlignLeft,
        tr("%1 alone").arg(QString::fromStdString(solo_)));
  if (hasFocus()) drawFocus(p, QRectF(rect()).adjusted(2, 2, -2, -2));
}

int LensView::deliveredWidth() const {
  int widest = 0;
  for (const Deliverable& d : session_->project().deliverables) widest = std::max(widest, d.width);
  return std::clamp(widest, 480, 4096);
}

QRectF LensView::frameBox() const {
  const QRectF box = pictureBox();
  if (!zoomed_) return box;
  const double w = deliveredWidth() / devicePixelRatioF(), h = w * box.height() / box.width();
  const QPointF at = probed_.value_or(QPointF(0.5, 0.5));
  // The place read stands in the middle, but never beyond the frame's own edges.
  const double x = std::clamp(box.center().x() - at.x() * w, box.right() - w, box.left()),
               y = std::clamp(box.center().y() - at.y() * h, box.bottom() - h, box.top());
  return {x, y, w, h};
}

void LensView::setZoomed(bool on) {
  if (on == zoomed_) return;
  zoomed_ = on;
  emit zoomChanged(on);
  refresh();
}

void LensView::readAt(std::optional<QPointF> place) {
  if (place) place = QPointF(std::clamp(place->x(), 0.0, 0.9999), std::clamp(place->y(), 0.0, 0.9999));
  probed_ = place;
  if (place) emit placeRead();
  const QStringList lines = readOut();
  setAccessibleDescription(lines.isEmpty() ? tr("Nothing read") : lines.join(", "));
  update();
}
void LensView::readAtWidget(const QPointF& at) {
  QRectF frame = frameBox();
  if (besides())  // either half, or between them
    frame = besideBox(pictureBox(), at.x() < pictureBox().center().x());
  if (!frame.contains(at) || !pictureBox().contains(at)) return readAt(std::nullopt);
  readAt(QPointF((at.x() - frame.left()) / frame.width(), (at.y() - frame.top()) / frame.height()));
}
std::optional<PlaceMet> LensView::placeMet() const {
  if (!probed_ || !picture_ || !picture_->film || !picture_->world) return std::nullopt;
  return place_met(*picture_->film, picture_->world->camera, probed_->x(), probed_->y());
}

void LensView::setCompared(bool on) {
  kept_ = on && picture_ ? picture_->image : QImage();
  keepsNext_ = on && !picture_;  // there is none yet
  keptOf_ = tr("shot %1 as kept").arg(session_->shotIndex() + 1);
  comparedAt_ = 0.5;
  askDifference();
  update();
}
/// What differs between the kept picture and this one, told by a worker.
void LensView::askDifference() {
  if (!compared() || !picture_) {
    differs_.clear(), differsIn_ = {};
    return differ_.stop();
  }
  const QPointer<LensView> self(this);
  const double recorded =
      picture_->world ? double(picture_->world->camera.optics.width) * picture_->world->camera.optics.height : 0.0;
  differ_.ask([self, kept = kept_, now = picture_->image, recorded](const std::atomic<bool>&) {
    const auto bytes = [&](QImage image) {
      if (image.size() != now.size())
        image = image.scaled(now.size(), Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
      image = image.convertToFormat(QImage::Format_RGB888);
      std::vector<unsigned char> out;
      for (int y = 0; y < image.height(); ++y)
        out.insert(out.end(), image.constScanLine(y), image.constScanLine(y) + 3 * image.width());
      return out;
    };
    const auto found = differing(bytes(kept), bytes(now), now.width(), now.height());
    if (!found) return;
    QRectF box;
    QString words = tr("nothing differs");
    if (found->box) {
      box = {QPointF(found->box->left, found->box->top), QPointF(found->box->right, found->box->bottom)};
      words = tr("differs in %1 % of the frame, %2 megapixels, by up to %3 of 255")
                  .arg(q(number_text(100.0 * found->share, 2)), q(fixed_text(1e-6 * found->share * recorded, 2)),
                       q(fixed_text(found->most, 0)));
    }
    later(self, [self, words, box] {
      if (!self->compared()) return;
      self->differs_ = words, self->differsIn_ = box;
      self->update();
      emit self->differenceTold();
    });
  });
}
void LensView::moveLine(double across) {
  comparedAt_ = std::clamp(across, 0.02, 0.98);
  update();
}
void LensView::drawCompared(QPainter& p, const QRectF& frame) {
  const double x = frame.left() + comparedAt_ * frame.width();
  p.save();
  p.setClipRect(QRectF(frame.left(), frame.top(), x - frame.left(), frame.height()), Qt::IntersectClip);
  p.drawImage(frame, kept_);
  p.restore();
  const QColor ink = theme().dark ? QColor("#BF9B7C") : QColor("#F0E6D2");
  p.setPen(QPen(ink, 1.4));
  p.drawLine(QPointF(x, frame.top()), QPointF(x, frame.bottom()));
  p.setPen(Qt::NoPen);
  p.setBrush(ink);
  p.drawRoundedRect(QRectF(x - 3, frame.center().y() - 11, 6, 22), 2, 2);
  for (const bool left : {true, false}) {
    const QString word = left ? keptOf_ : tr("now");
    const double wide = QFontMetricsF(textFont(10)).horizontalAdvance(word) + 8;
    const QRectF plate(left ? x - 6 - wide : x + 6, frame.top() + 5, wide, 15);
    p.fillRect(plate, QColor(12, 10, 9, 150));
    drawText(p, plate, Qt::AlignCenter, word, textFont(10), ink);
  }
  if (differs_.isEmpty()) return;
  if (!differsIn_.isEmpty()) {
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(theme().accent, 1.0, Qt::DashLine));
    p.drawRect(QRectF(frame.left() + differsIn_.left() * frame.width(),
                      frame.top() + differsIn_.top() * frame.height(), differsIn_.width() * frame.width(),
                      differsIn_.height() * frame.height())
                   .adjusted(0.5, 0.5, -0.5, -0.5));
  }
  const double wide = QFontMetricsF(textFont(10)).horizontalAdvance(differs_) + 8;
  const QRectF plate(frame.left() + 6, frame.top() + 24, std::min(wide, frame.width() - 12), 15);
  p.fillRect(plate, QColor(12, 10, 9, 190));
  drawText(p, plate, Qt::AlignCenter, differs_, textFont(10), ink);
}

void LensView::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  const QRectF frame = frameBox();
  dragsLine_ =
      compared() && !besides() && std::abs(event->position().x() - frame.left() - comparedAt_ * frame.width()) < 7;
  if (!dragsLine_) readAtWidget(event->position());
}
void LensView::mouseMoveEvent(QMouseEvent* event) {
  if (dragsLine_) return moveLine((event->position().x() - frameBox().left()) / frameBox().width());
  if ((event->buttons() & Qt::LeftButton) && !zoomed_) readAtWidget(event->position());
}
void LensView::keyPressEvent(QKeyEvent* event) {
  const double step = (event->modifiers() & Qt::ShiftModifier) ? 0.05 : 0.01;
  const QPointF at = probed_.value_or(QPointF(0.5, 0.5));
  switch (event->key()) {
    case Qt::Key_Left:
      return readAt(at - QPointF(step, 0));
    case Qt::Key_Right:
      return readAt(at + QPointF(step, 0));
    case Qt::Key_Up:
      return readAt(at - QPointF(0, step));
    case Qt::Key_Down:
      return readAt(at + QPointF(0, step));
    case Qt::Key_Escape:
      return readAt(std::nullopt);
    case Qt::Key_BracketLeft:
    case Qt::Key_BracketRight:
      if (!compared()) return QWidget::keyPressEvent(event);
      return moveLine(comparedAt_ + (event->key() == Qt::Key_BracketLeft ? -0.05 : 0.05));
    case Qt::Key_Z:
      return setZoomed(!zoomed_);
    case Qt::Key_F:
      emit wholeWindowAsked();
      return;
    default:
      return QWidget::keyPressEvent(event);
  }
}

}  // namespace cinnabar
