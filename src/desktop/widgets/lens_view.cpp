#include "cinnabar/desktop/widgets/lens_view.h"

#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/color/white.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/render/film.h"

namespace cinnabar {

LensView::LensView(Session* session, PictureMaker* maker, QWidget* parent)
    : QWidget(parent), session_(session), maker_(maker) {
  setObjectName("lens");
  setAccessibleName(tr("Predicted picture"));
  overlays_ = {"Stop lines", "Copy space"};
  connect(maker_, &PictureMaker::picture, this, [this](std::shared_ptr<const LensPicture> picture) {
    picture_ = std::move(picture);
    setAccessibleDescription(tr("%1 of %2 passes").arg(picture_->passes).arg(PictureMaker::allPasses));
    update();
    emit pictureShown();
  });
  connect(session_, &Session::changed, this, &LensView::refresh);
  connect(session_, &Session::timeChanged, this, &LensView::refresh);
}

void LensView::setOverlay(const QString& name, bool on) {
  on ? (void)overlays_.insert(name) : (void)overlays_.remove(name);
  update();
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
  if (!session_->shot()) {
    picture_.reset();
    maker_->stop();
    update();
    return;
  }
  maker_->ask(session_->project(), session_->shotIndex(), session_->setTime(),
              static_cast<int>(std::lround(pictureBox().width())), solo_);
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
  p.setRenderHint(QPainter::SmoothPixmapTransform);
  p.drawImage(box, picture_->image);
  if (overlay("Clip")) drawClip(p, box);
  if (overlay("Stop lines")) drawStopLines(p, box);
  if (overlay("Copy space")) drawCopySpace(p, box);
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
        tr("%1 of %2 passes").arg(picture_->passes).arg(PictureMaker::allPasses));
  tag({box.right() - 306, box.bottom() - 20, 300, 15}, Qt::AlignRight, where);
  if (!solo_.empty())
    tag({box.left() + 6, box.top() + 6, 200, 15}, Qt::AlignLeft,
        tr("%1 alone").arg(QString::fromStdString(solo_)));
}

namespace {
/// Luminance evened over about a twentieth of the picture, for contours that a person can follow.
std::vector<float> evened(const Picture& picture, int& w, int& h) {
  const int cell = std::max(1, picture.width / 64);
  w = picture.width / cell, h = picture.height / cell;
  std::vector<float> out(static_cast<std::size_t>(w) * static_cast<std::size_t>(h), 0.0f);
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x) {
      float sum = 0;
      for (int j = 0; j < cell; ++j)
        for (int i = 0; i < cell; ++i)
          sum +=
              luminance(picture.pixels[static_cast<std::size_t>((y * cell + j) * picture.width + x * cell + i)]);
      out[static_cast<std::size_t>(y * w + x)] = sum / static_cast<float>(cell * cell);
    }
  for (int round = 0; round < 5; ++round) {
    const std::vector<float> before = out;
    for (int y = 0; y < h; ++y)
      for (int x = 0; x < w; ++x) {
        float sum = 0;
        int n = 0;
        for (int j = std::max(0, y - 1); j <= std::min(h - 1, y + 1); ++j)
          for (int i = std::max(0, x - 1); i <= std::min(w - 1, x + 1); ++i)
            sum += before[static_cast<std::size_t>(j * w + i)], ++n;
        out[static_cast<std::size_t>(y * w + x)] = sum / static_cast<float>(n);
      }
  }
  return out;
}
}  // namespace

void LensView::drawStopLines(QPainter& p, const QRectF& box) {
  if (!picture_->world) return;
  int w = 0, h = 0;
  const auto values = evened(picture_->luminances, w, h);
  if (w < 3 || h < 3) return;
  const double target = exposures_grey(picture_->world->camera) * std::exp2(session_->shot()->target_stops);
  const QColor ink = theme().dark ? QColor(191, 155, 124, 140) : QColor(240, 230, 210, 150);
  const auto at = [&](double x, double y) {
    return QPointF(box.left() + (x + 0.5) / w * box.width(), box.top() + (y + 0.5) / h * box.height());
  };
  std::vector<QRectF> labels;
  for (int stop = -5; stop <= 2; ++stop) {
    const double level = target * std::exp2(stop);
    p.setPen(QPen(ink, stop == 0 ? 1.5 : 0.8));
    QPointF first;
    double best = 1e9;
    for (int y = 0; y + 1 < h; ++y)
      for (int x = 0; x + 1 < w; ++x) {  // marching squares, logarithmic between the corners
        const auto v = [&](int i, int j) {
          return std::log2(
              std::max(1e-6, static_cast<double>(values[static_cast<std::size_t>((y + j) * w + x + i)])) / level);
        };
        const double a = v(0, 0), b = v(1, 0), c = v(1, 1), d = v(0, 1);
        QPointF cuts[4];
        int n = 0;
        const auto cut = [&](double p0, double p1, double x0, double y0, double x1, double y1) {
          if ((p0 < 0) == (p1 < 0)) return;
          const double s = p0 / (p0 - p1);
          cuts[n++] = at(x + x0 + (x1 - x0) * s, y + y0 + (y1 - y0) * s);
        };
        cut(a, b, 0, 0, 1, 0), cut(b, c, 1, 0, 1, 1), cut(c, d, 1, 1, 0, 1), cut(d, a, 0, 1, 0, 0);
        for (int k = 0; k + 1 < n; k += 2) {
          p.drawLine(cuts[k], cuts[k + 1]);
          // Labels along a diagonal, so that those of neighbouring lines do not meet.
          const double off = std::abs((cuts[k].y() - box.center().y()) - 0.15 * (cuts[k].x() - box.center().x())) +
                             std::max(0.0, cuts[k].x() - box.center().x());
          if (off < best) best = off, first = cuts[k];
        }
      }
    if (best > 1e8) continue;
    const QRectF plate(first.x() - 11, first.y() - 7, 22, 14);
    bool free = box.adjusted(4, 4, -4, -24).contains(plate);
    for (const QRectF& other : labels) free = free && !other.adjusted(-2, -2, 2, 2).intersects(plate);
    if (!free) continue;
    labels.push_back(plate);
    p.fillRect(plate, QColor(12, 10, 9, 170));
    drawText(p, plate, Qt::AlignCenter,
             stop == 0 ? QStringLiteral("0") : QString::fromStdString(signed_text(stop, 0)), numberFont(10), ink);
  }
}

void LensView::drawCopySpace(QPainter& p, const QRectF& box) {
  const Project& project = session_->project();
  const Shot& shot = *session_->shot();
  if (!shot.camera) return;
  const ShotOptics o = shot_optics(project, *shot.camera);
  // Words stand in the spot's last seconds: only shots that reach into them show the space.
  double after = 0;
  for (std::size_t i = session_->shotIndex() + 1; i < project.shots.size(); ++i)
    after += project.shots[i]->screen_time;
  for (const Deliverable& d : project.deliverables) {
    if (!d.words || after >= d.words->last_seconds) continue;
    const double shape = static_cast<double>(d.width) / d.height, frame = static_cast<double>(o.width) / o.height;
    const double w = shape < frame ? box.height() * shape : box.width(),
                 h = shape < frame ? box.height() : box.width() / shape;
    const QRectF inner(box.center().x() - w / 2, box.center().y() - h / 2, w, h);
    const QRectF words(inner.left() + d.words->x * w, inner.top() + d.words->y * h, d.words->width * w,
                       d.words->height * h);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(QColor(230, 200, 140, 200), 1));
    p.drawRect(words);
    drawText(p, words.adjusted(6, 4, -4, 0), Qt::AlignLeft | Qt::AlignTop,
             tr("copy space, %1").arg(QString::fromStdString(d.name)), textFont(10), QColor(230, 200, 140));
  }
}

void LensView::drawClip(QPainter& p, const QRectF& box) {
  if (!picture_->world) return;
  const double k = signal_per_luminance(picture_->world->camera);
  const Picture& lum = picture_->luminances;
  QImage mask(lum.width, lum.height, QImage::Format_ARGB32_Premultiplied);
  mask.fill(Qt::transparent);
  for (int y = 0; y < lum.height; ++y)
    for (int x = 0; x < lum.width; ++x)
      if (largest(lum.pixels[static_cast<std::size_t>(y * lum.width + x)]) * k >= 1.0 && (x + y) % 3 != 0)
        mask.setPixel(x, y, qRgb(181, 52, 31));
  p.drawImage(box, mask);
}

}  // namespace cinnabar
