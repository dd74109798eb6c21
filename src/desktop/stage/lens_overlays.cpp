// What is drawn over the predicted picture. All of it is computed from the film and the staged camera.
#include <QPainterPath>
#include <QPointer>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/color/palette.h"
#include "cinnabar/color/white.h"
#include "cinnabar/desktop/stage/lens_view.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/workers/later.h"
#include "cinnabar/forecast/measures/silhouette.h"
#include "cinnabar/render/overlays.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {

namespace {
/// Luminance evened over about a tenth of the picture, thing by thing, for contours that a person can follow: what
/// one thing shows does not run into another.
struct Evened {
  int w = 0, h = 0;
  std::vector<float> values;
  std::vector<const Mesh*> things;  ///< what most of a cell shows
};
Evened evened(const Picture& picture, const Film& film) {
  Evened out;
  const int cell = std::max(1, picture.width / 80);
  out.w = picture.width / cell, out.h = picture.height / cell;
  const auto size = static_cast<std::size_t>(out.w) * static_cast<std::size_t>(out.h);
  out.values.assign(size, 0.0f);
  out.things.assign(size, nullptr);
  const bool known = film.width == picture.width && film.height == picture.height;
  for (int y = 0; y < out.h; ++y)
    for (int x = 0; x < out.w; ++x) {
      const auto pixel = [&](int i, int j) {
        return static_cast<std::size_t>((y * cell + j) * picture.width + x * cell + i);
      };
      const Mesh* thing = known ? film.first[pixel(cell / 2, cell / 2)].mesh : nullptr;
      float sum = 0;
      int n = 0;
      for (int j = 0; j < cell; ++j)
        for (int i = 0; i < cell; ++i)
          if (!known || film.first[pixel(i, j)].mesh == thing) sum += luminance(picture.pixels[pixel(i, j)]), ++n;
      const auto at = static_cast<std::size_t>(y * out.w + x);
      out.values[at] = sum / static_cast<float>(std::max(1, n));
      out.things[at] = thing;
    }
  for (int round = 0; round < 14; ++round) {
    const std::vector<float> before = out.values;
    for (int y = 0; y < out.h; ++y)
      for (int x = 0; x < out.w; ++x) {
        const auto own = static_cast<std::size_t>(y * out.w + x);
        float sum = 0;
        int n = 0;
        for (int j = std::max(0, y - 1); j <= std::min(out.h - 1, y + 1); ++j)
          for (int i = std::max(0, x - 1); i <= std::min(out.w - 1, x + 1); ++i)
            if (const auto other = static_cast<std::size_t>(j * out.w + i); out.things[other] == out.things[own])
              sum += before[other], ++n;
        out.values[own] = sum / static_cast<float>(n);
      }
  }
  return out;
}

/// A part of the sensor, in the picture that is drawn in `box`.
QRectF onPicture(const ImageBox& part, const ShotOptics& o, const QRectF& box) {
  const double kx = box.width() / o.sensor_width, ky = box.height() / o.sensor_height;
  return {box.center().x() + part.left * kx, box.center().y() - part.top * ky, (part.right - part.left) * kx,
          (part.top - part.bottom) * ky};
}
}  // namespace

void LensView::drawStopLines(QPainter& p, const QRectF& box) {
  if (!picture_->world) return;
  const Film none;
  const Evened even = evened(picture_->luminances, picture_->film ? *picture_->film : none);
  const auto& values = even.values;
  const int w = even.w, h = even.h;
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
        // Where one thing ends and another begins there is a step, and no line runs along it.
        const auto thing = [&](int i, int j) {
          return even.things[static_cast<std::size_t>((y + j) * w + x + i)];
        };
        if (thing(0, 0) != thing(1, 1) || thing(1, 0) != thing(0, 1) || thing(0, 0) != thing(1, 0)) continue;
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
  const ShotOptics o = shot_optics(project, shot);
  // Words stand in the spot's last seconds: only shots that reach into them show the space.
  double after = 0;
  for (std::size_t i = session_->shotIndex() + 1; i < project.shots.size(); ++i)
    after += project.shots[i]->screen_time;
  for (const Deliverable& d : project.deliverables) {
    if (!d.words || after >= d.words->last_seconds) continue;
    const QRectF words = onPicture(words_area(d, o), o, box);
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

void LensView::drawFrames(QPainter& p, const QRectF& box) {
  const ShotOptics o = shot_optics(session_->project(), *session_->shot());
  double last = -100;
  for (const Deliverable& d : session_->project().deliverables) {
    const QRectF inner = onPicture(frame_of(d, o), o, box);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(QColor(240, 230, 210, 190), 1, inner.width() < box.width() - 1 ? Qt::DashLine : Qt::SolidLine));
    p.drawRect(inner.adjusted(0.5, 0.5, -0.5, -0.5));
    const double y = inner.top() + 4 < last + 14 ? last + 14 : inner.top() + 4;
    last = y;
    drawText(p, {inner.left() + 6, y, inner.width() - 10, 14}, Qt::AlignLeft | Qt::AlignVCenter,
             QString::fromStdString(d.name), textFont(10), QColor(240, 230, 210));
  }
}

/// What the edit keeps at this moment, where the shot crops; the rest is dimmed.
void LensView::drawCrop(QPainter& p, const QRectF& box) {
  const auto crop = crop_at(*session_->shot(), session_->setTime());
  if (!crop) return;
  const auto& list = session_->project().deliverables;
  const ShotOptics o = shot_optics(session_->project(), session_->shot()->camera.value_or(ShotCamera{}));
  const QRectF whole = list.empty() ? box : onPicture(frame_of(list.front(), o), o, box);
  const double width = crop->z * box.width(), height = width * whole.height() / std::max(1.0, whole.width());
  const QRectF kept(box.left() + crop->x * box.width(), box.top() + crop->y * box.height(), width, height);
  QPainterPath rest;
  rest.addRect(box);
  rest.addRect(kept);
  p.fillPath(rest, QColor(12, 10, 9, 120));
  p.setBrush(Qt::NoBrush);
  p.setPen(QPen(QColor(240, 230, 210, 220), 1.2));
  p.drawRect(kept.adjusted(0.5, 0.5, -0.5, -0.5));
  drawText(p, {kept.left() + 6, kept.top() + 4, kept.width() - 12, 14}, Qt::AlignRight | Qt::AlignVCenter,
           tr("kept, %1 % wide").arg(std::lround(100 * crop->z)), textFont(10), QColor(240, 230, 210));
}

void LensView::drawFocusDiscs(QPainter& p, const QRectF& box) {
  if (!picture_->film || !picture_->world) return;
  p.setBrush(Qt::NoBrush);
  const double sharp =
      picture_->world->camera.optics.delivered_pitch / picture_->world->camera.optics.sensor_width;
  for (const FocusDisc& d : focus_discs(*picture_->film, picture_->world->camera, 22)) {
    const double r = std::min(0.5 * d.diameter, 2.0) * box.width();
    const QPointF at(box.left() + d.x * box.width(), box.top() + d.y * box.height());
    // What is sharp at the delivered size is a full point; the rest a ring of its own true size.
    const bool good = d.diameter <= sharp;
    p.setPen(QPen(good ? QColor(255, 244, 214) : QColor(240, 230, 210, 150), good ? 3 : 1, Qt::SolidLine,
                  Qt::RoundCap));
    good ? p.drawPoint(at) : p.drawEllipse(at, r, r);
  }
}

void LensView::drawSmearStrokes(QPainter& p, const QRectF& box) {
  if (!picture_->film || !picture_->world || !session_->shot()) return;
  const auto place = [&](double x, double y) {
    return QPointF(box.left() + x * box.width(), box.top() + y * box.height());
  };
  p.setPen(QPen(QColor(255, 236, 190, 220), 1.6, Qt::SolidLine, Qt::RoundCap));
  for (const SmearStroke& s : smear_strokes(*picture_->film, *picture_->world, *session_->shot(), 26))
    if (const auto line = partSeen({place(s.x0, s.y0), place(s.x1, s.y1)}, QRectF(rect()).adjusted(-4, -4, 4, 4)))
      p.drawLine(*line);
}

/// The products' outlines as the shot begins, half-way and as it ends: what lies over what, and where it goes.
void LensView::drawStages(QPainter& p, const QRectF& box) {
  const QRectF shown = box.intersected(rect());  // magnified, the frame is far larger than what is seen of it
  if (stagesIn_ != box) askStages(box, shown);
  if (!stages_.isNull()) p.drawImage(shown.topLeft(), stages_);
}

namespace {

/// Of the part of the frame that is seen; drawn on a worker.
QImage stagesLayer(const Project& project, const Shot& shot, const QRectF& box, const QRectF& shown, double ratio,
                   const QStringList& names) {
  const auto layer = [&] {
    QImage image((shown.size() * ratio).toSize(), QImage::Format_ARGB32_Premultiplied);
    image.setDevicePixelRatio(ratio);
    image.fill(Qt::transparent);
    return image;
  };
  QImage all = layer();
  if (!shot.camera || shot.set_time() <= 0.0) return all;
  const ShotOptics o = shot_optics(project, shot);
  const int strength[] = {130, 170, 255};
  const QRectF seen = QRectF({}, shown.size()).adjusted(-8, -8, 8, 8);
  QPainter p(&all);
  QRectF labels;  // so far
  for (int k = 0; k < 3; ++k) {
    QPainterPath together;
    together.setFillRule(Qt::WindingFill);  // pieces turn the same way: where several lie it is full
    QRectF around;
    for (const auto& piece : silhouette(project, shot, 0.5 * k * shot.set_time())) {
      QPolygonF on;
      for (const ImagePoint& at : piece)
        on << box.topLeft() - shown.topLeft() +
                  QPointF((0.5 + at.x / o.sensor_width) * box.width(),
                          (0.5 - at.y / o.sensor_height) * box.height());
      if (!on.boundingRect().intersects(seen)) continue;
      around |= on.boundingRect();
      if (const QPolygonF rest = shapeSeen(on, seen); !rest.isEmpty()) {
        together.addPolygon(rest);
        together.closeSubpath();
      }
    }
    if (together.isEmpty()) continue;
    // The line round all of them together: each with its line first, then all of their insides taken out.
    QImage own = layer();
    QPainter on(&own);
    on.setRenderHint(QPainter::Antialiasing);
    const QColor ink(255, 236, 190, strength[k]);
    on.setPen(QPen(ink, 2.6));
    on.drawPath(together);
    on.setCompositionMode(QPainter::CompositionMode_DestinationOut);
    on.setPen(QPen(Qt::black, 0.6));
    on.setBrush(Qt::black);
    on.drawPath(together);
    on.end();
    p.drawImage(QPointF(), own);
    QRectF plate(std::clamp(around.center().x() - 24, 2.0, std::max(2.0, shown.width() - 50)),
                 std::clamp(around.top() - 16, 2.0, std::max(2.0, shown.height() - 18)), 48, 14);
    for (const double step : {-14.0, 14.0})  // above what is written there, else below it
      while (labels.intersects(plate) && plate.top() + step > 0.0 && plate.bottom() + step < shown.height())
        plate.translate(0.0, step);
    if (labels.intersects(plate)) continue;
    labels |= plate;
    drawText(p, plate, Qt::AlignCenter, names[k], textFont(10), ink);
  }
  return all;
}

}  // namespace

void LensView::askStages(const QRectF& box, const QRectF& shown) {
  stages_ = {};
  stagesIn_ = box;
  const QPointer<LensView> self(this);
  outliner_.ask([self, asked = ++stagesAsked_, project = session_->project(), shot = session_->shotIndex(), box,
                 shown, ratio = devicePixelRatioF(),
                 names = QStringList{tr("start"), tr("middle"), tr("end")}](const std::atomic<bool>&) {
    const QImage image = stagesLayer(project, *project.shots[shot], box, shown, ratio, names);
    later(self, [self, asked, image] {
      if (asked != self->stagesAsked_ || self->stagesIn_.isNull()) return;  // of a shot that is another by now
      self->stages_ = image;
      self->update();
    });
  });
}

QStringList LensView::readOut() const {
  if (!probed_ || !picture_ || !picture_->film || !picture_->world || !session_->shot() ||
      picture_->film->passes == 0)
    return {};
  const StagedWorld& world = *picture_->world;
  const Probe read =
      probe(*picture_->film, world, layer_weights(world, solo_), *session_->shot(), probed_->x(), probed_->y());
  const auto text = [](const std::string& s) { return QString::fromStdString(s); };
  const auto pixels = [&text](double n) { return text(number_text(n < 0.005 ? 0.0 : n, 2)); };
  QStringList lines{tr("%1 cd/m2, %2 stops from the target")
                        .arg(text(number_text(read.luminance, 3)), text(signed_text(read.stops, 1)))};
  if (const QString both = recordedThere(); !both.isEmpty()) lines << both;
  QStringList parts;
  for (std::size_t l = 0; l < read.shares.size(); ++l)
    if (read.shares[l] >= 0.01) {
      QString name = tr("room");
      if (l < world.lights.size()) {
        name = text(world.lights[l].id);
        if (session_->setup())
          for (const Light& light : session_->setup()->lights)
            if (light.id == world.lights[l].id) {
              const std::string colour = light_word(recorded_colour(light, world.camera.balance_k));
              name = colour == "white" ? text(light.name) : tr("%1, %2,").arg(text(light.name), text(colour));
            }
      }
      parts << tr("%1 %2 %").arg(name, text(fixed_text(100 * read.shares[l], 0)));
    }
  if (!parts.isEmpty()) lines << parts.join(", ");
  if (read.distance > 0)
    lines << tr("%1 away, blurred over %2 px, smeared over %3 px")
                 .arg(text(length_text(read.distance, session_->units())), pixels(read.blur_px),
                      pixels(read.smear_px));
  return lines;
}

QString LensView::recordedThere() const {
  if (!compared() || !probed_ || !picture_) return {};
  const auto at = [this](const QImage& image) {
    const QColor c =
        image.pixelColor(std::min(image.width() - 1, static_cast<int>(probed_->x() * image.width())),
                         std::min(image.height() - 1, static_cast<int>(probed_->y() * image.height())));
    return QString("%1 %2 %3").arg(c.red()).arg(c.green()).arg(c.blue());
  };
  return tr("recorded %1, as kept %2").arg(at(picture_->image), at(kept_));
}

void LensView::drawCross(QPainter& p, const QRectF& frame) {
  const QPointF at(frame.left() + probed_->x() * frame.width(), frame.top() + probed_->y() * frame.height());
  const QColor ink = theme().dark ? QColor("#BF9B7C") : QColor("#F0E6D2");
  for (const QPen& pen : {QPen(QColor(12, 10, 9, 200), 3), QPen(ink, 1.2)}) {
    p.setPen(pen);
    for (const QPointF& way : {QPointF(1, 0), QPointF(-1, 0), QPointF(0, 1), QPointF(0, -1)})
      p.drawLine(at + 3 * way, at + 9 * way);
  }
}

void LensView::drawReading(QPainter& p, const QRectF& frame, const QRectF& box) {
  drawCross(p, frame);
  const QPointF at(frame.left() + probed_->x() * frame.width(), frame.top() + probed_->y() * frame.height());
  const QColor ink = theme().dark ? QColor("#BF9B7C") : QColor("#F0E6D2");
  // What is wider than the picture goes on in the next line.
  QStringList lines;
  const auto wide = [](const QString& line) { return QFontMetricsF(numberFont(10)).horizontalAdvance(line); };
  for (const QString& line : readOut()) {
    lines << QString();
    for (const QString& part : line.split(", ")) {
      if (!lines.back().isEmpty() && wide(lines.back() + ", " + part) > box.width() - 30) lines << QString();
      lines.back() += (lines.back().isEmpty() ? "" : ", ") + part;
    }
  }
  if (lines.isEmpty()) return;
  double width = 0;
  for (const QString& line : lines) width = std::max(width, wide(line));
  QRectF plate(at.x() + 14, at.y() + 10, width + 14, 15.0 * lines.size() + 6);
  if (plate.right() > box.right() - 4) plate.moveRight(std::max(box.left() + plate.width() + 4, at.x() - 14));
  if (plate.bottom() > box.bottom() - 4) plate.moveBottom(at.y() - 10);
  if (besides())  // under both pictures
    plate.moveTopLeft({box.left() + 6, std::min(frame.bottom() + 4, box.bottom() - plate.height())});
  p.fillRect(plate, QColor(12, 10, 9, 205));
  for (int k = 0; k < lines.size(); ++k)
    drawText(p, {plate.left() + 7, plate.top() + 3 + 15.0 * k, plate.width() - 10, 15},
             Qt::AlignLeft | Qt::AlignVCenter, lines[k], numberFont(10), ink);
}

void LensView::setPin(int pin) {
  pin_ = pin;
  update();
}

/// Each pin of the set-up where the camera sees its place, behind things or not, with its number.
void LensView::drawPins(QPainter& p, const QRectF& box) {
  if (!picture_->world || !session_->setup()) return;
  const ShotOptics& o = picture_->world->camera.optics;
  const double kx = box.width() / o.sensor_width, ky = box.height() / o.sensor_height;
  const auto& pins = session_->setup()->pins;
  const QColor light(250, 240, 222), dark(12, 10, 9, 190);
  for (std::size_t i = 0; i < pins.size(); ++i) {
    const auto image = image_of(picture_->world->camera.middle_pose(), pins[i].at);
    if (!image) continue;
    const QPointF at(box.center().x() + image->x * kx, box.center().y() - image->y * ky);
    if (!box.contains(at)) continue;
    const bool chosen = static_cast<int>(i) == pin_;
    const double reach = chosen ? 7 : 5;
    for (const auto& [ink, wide] : {std::pair{dark, 3.4}, std::pair{chosen ? theme().accent : light, 1.5}}) {
      p.setPen(QPen(ink, wide));
      p.drawLine(at - QPointF(reach, 0), at + QPointF(reach, 0));
      p.drawLine(at - QPointF(0, reach), at + QPointF(0, reach));
    }
    const QString number = QString::number(i + 1);
    const QRectF plate(at.x() + 7, at.y() - 16, QFontMetricsF(numberFont(10)).horizontalAdvance(number) + 7, 14);
    p.fillRect(plate, dark);
    drawText(p, plate, Qt::AlignCenter, number, numberFont(10, chosen), light);
  }
}
}  // namespace cinnabar
