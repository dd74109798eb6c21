// One card of the Board: drawn once, and again when anything on it changed.
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/board/sketch_pad.h"
#include "cinnabar/desktop/pages/board_page.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/project/model/names.h"

namespace cinnabar {
namespace {

/// What moves or is asked of a shot, in a few words.
QString moveOf(const Shot& shot) {
  QStringList words;
  for (const KeyedTrack& track : shot.tracks)
    for (const auto& [what, word] : {std::pair{Tracked::turntable, QObject::tr("turns")},
                                     std::pair{Tracked::camera_slide, QObject::tr("slides")},
                                     std::pair{Tracked::camera_pan, QObject::tr("pans")},
                                     std::pair{Tracked::camera_tilt, QObject::tr("tilts")},
                                     std::pair{Tracked::camera_focus, QObject::tr("pulls focus")},
                                     std::pair{Tracked::camera_place, QObject::tr("travels")},
                                     std::pair{Tracked::camera_focal, QObject::tr("zooms")},
                                     std::pair{Tracked::crop, QObject::tr("crops in")}})
      if (tracked(track.target) == what && track.keys.size() > 1) words << word;
  for (const KeyedTrack& track : shot.tracks)
    for (const auto& [what, word] : {std::pair{TrackedThing::light, QObject::tr("light moves")},
                                     std::pair{TrackedThing::product, QObject::tr("product moves")},
                                     std::pair{TrackedThing::card, QObject::tr("card moves")},
                                     std::pair{TrackedThing::backdrop, QObject::tr("backdrop moves")}})
      if (moved_by(track.target) == what && !words.contains(word)) words << word;
  if (shot.slow && *shot.slow > 1) words << QObject::tr("%1x slower").arg(q(number_text(*shot.slow, 3)));
  if (words.isEmpty()) words << QObject::tr("stands");
  return words.join(", ");
}

}  // namespace

void BoardCards::paintCard(QPainter& p, std::size_t i) {
  const QRect place = card(i);
  const ShotGlance* glance = foresight_->glance(session_->project().shots[i]->id);
  const bool chosen = i == session_->shotIndex();
  CardLook look{session_->project().shots[i],
                glance ? glance->picture.cacheKey() : 0,
                glance ? glance->counts.out : 0,
                glance ? glance->counts.leaning : 0,
                i,
                place.size(),
                devicePixelRatioF(),
                chosen,
                chosen && hasFocus(),
                theme().dark};
  if (drawn_.size() > 2 * static_cast<qsizetype>(session_->project().shots.size()) + 64)
    drawn_.clear();  // of shots gone
  auto& [drawn, pixmap] = drawn_[q(look.shot->id)];
  if (pixmap.isNull() || !(drawn == look)) {
    pixmap = QPixmap(place.size() * look.ratio);
    pixmap.setDevicePixelRatio(look.ratio);
    pixmap.fill(Qt::transparent);
    QPainter on(&pixmap);
    on.setRenderHint(QPainter::Antialiasing);
    drawCard(on, i, QRectF(QPointF(0, 0), QSizeF(place.size())), look.ratio);
    drawn = std::move(look);
  }
  p.drawPixmap(place.topLeft(), pixmap);
}

void BoardCards::drawCard(QPainter& p, std::size_t i, const QRectF& c, double ratio) const {
  const Theme& t = theme();
  const Shot& shot = *session_->project().shots[i];
  const bool chosen = i == session_->shotIndex();
  p.setPen(QPen(chosen ? t.accent : t.line, chosen ? 2 : 1));
  p.setBrush(t.dark ? t.panel.lighter(118) : t.ground);
  p.drawRoundedRect(c.adjusted(0.5, 0.5, -0.5, -0.5), 3, 3);
  if (chosen && hasFocus()) drawFocus(p, c.adjusted(3, 3, -3, -3));
  const QRectF picture(c.left() + 5, c.top() + 5, c.width() - 10, (c.width() - 10) * 9 / 16);
  p.fillRect(picture, t.mat);
  const ShotGlance* glance = foresight_->glance(shot.id);
  if (glance && !glance->picture.isNull() && !shot.sketch.instead) {
    const double k =
        std::min(picture.width() / glance->picture.width(), picture.height() / glance->picture.height());
    const QSizeF size(glance->picture.width() * k, glance->picture.height() * k);
    QImage scaled =
        glance->picture.scaled((size * ratio).toSize(), Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
    scaled.setDevicePixelRatio(ratio);
    p.drawImage((picture.center() - QPointF(size.width() / 2, size.height() / 2)).toPoint(), scaled);
  }
  if (shot.sketch.instead) p.fillRect(picture.adjusted(2, 2, -2, -2), t.panel);
  if (!shot.sketch.strokes.empty()) drawSketch(p, picture, shot.sketch, t.accent, 1.3);
  const double x = c.left() + 6, room = c.width() - 12;
  double y = picture.bottom() + 3;
  drawText(p, {x, y, 30, 16}, Qt::AlignLeft | Qt::AlignVCenter, QString::number(i + 1), numberFont(13, true),
           chosen ? t.accent : t.ink);
  drawText(p, {x + 30, y, room - 30, 16}, Qt::AlignRight | Qt::AlignVCenter,
           tr("%1 s").arg(q(fixed_text(shot.screen_time, 1))), numberFont(11), t.quiet);
  y += 17;
  const int dots = glance ? std::min(4, glance->counts.out + glance->counts.leaning) : 0;
  p.setPen(t.ink);
  p.setFont(textFont(11.5));
  const QRectF name(x, y, room - (dots ? 8.0 * dots + 2 : 0), 31);
  QString shown = q(shot.name).left(200);
  while (shown.size() > 4 && p.boundingRect(name, Qt::TextWordWrap, shown).height() > name.height() + 1)
    shown = shown.left(shown.size() - 4) + QChar(0x2026);
  p.drawText(name, Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, shown);
  for (int d = 0; d < dots; ++d) {  // out: a full dot; leaning: a ring
    p.setPen(QPen(d < glance->counts.out ? t.accent : t.leaning, 1.4));
    p.setBrush(d < glance->counts.out ? QBrush(t.accent) : Qt::NoBrush);
    p.drawEllipse(QPointF(c.right() - 9 - 8.0 * d, y + 8), 2.6, 2.6);
  }
  y += 33;
  p.setPen(t.quiet);
  p.setFont(textFont(10.5));
  const double line = QFontMetricsF(p.font()).lineSpacing(), lines = std::floor((c.bottom() - y - 3) / line);
  const QString what = (shot.size ? nameOf(size_names(), shot.size) + ", " : QString()) + moveOf(shot);
  if (lines >= 2) {
    p.save();
    p.setClipRect(QRectF(x, y, room, lines * line));
    p.drawText(QRectF(x, y, room, lines * line + 200), Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, what);
    p.restore();
  } else if (lines >= 1) {
    drawText(p, {x, y, room, line}, Qt::AlignLeft | Qt::AlignVCenter, what, textFont(10.5), t.quiet);
  }
}

}  // namespace cinnabar
