// What has nothing to do in the picture, marked over it; and two states side by side.
#include <QPainter>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/edits/hand.h"
#include "cinnabar/desktop/stage/lens_view.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"

namespace cinnabar {

void LensView::drawStrays(QPainter& p, const QRectF& frame) {
  if (picture_->strays.empty()) return;
  const bool dark = theme().dark;
  p.setOpacity(dark ? 0.45 : 1.0);
  p.drawImage(frame, picture_->stray_marks);
  p.setOpacity(1.0);
  double y = frame.top() + (compared() ? 44 : 24);
  for (const StrayThing& stray : picture_->strays) {
    if (y > frame.top() + 80) break;
    const QString words =
        tr("%1: %2 % of the picture")
            .arg(nameOfMet(*session_, stray.role, stray.thing), q(number_text(100 * stray.share, 2)));
    const QRectF plate(frame.left() + 6, y, QFontMetricsF(textFont(10)).horizontalAdvance(words) + 8, 14);
    p.fillRect(plate, QColor(12, 10, 9, 190));
    drawText(p, plate, Qt::AlignCenter, words, textFont(10), dark ? QColor("#BF9B7C") : QColor(250, 240, 222));
    y += 16;
  }
}

void LensView::setBeside(bool on) {
  beside_ = on;
  update();
}

/// The kept picture and this one, each whole.
void LensView::drawBeside(QPainter& p, const QRectF& box) {
  const QColor ink = theme().dark ? QColor("#BF9B7C") : QColor("#F0E6D2");
  for (const bool left : {true, false}) {
    const QRectF half = besideBox(box, left);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(half, left ? kept_ : picture_->image);
    const QString word = left ? keptOf_ : tr("now");
    const QRectF plate(half.left() + 6, half.top() - 18, QFontMetricsF(textFont(10)).horizontalAdvance(word) + 8,
                       15);
    drawText(p, plate, Qt::AlignCenter, word, textFont(10), ink);
  }
  if (!probed_)  // else what is read stands there
    drawText(p, {box.left() + 6, besideBox(box, true).bottom() + 4, box.width() - 12, 15},
             Qt::AlignLeft | Qt::AlignVCenter, differs_, textFont(10), ink);
}

QRectF LensView::besideBox(const QRectF& box, bool left) const {
  const double wide = box.width() / 2 - 2, high = wide * box.height() / box.width();
  return {left ? box.left() : box.right() - wide, box.center().y() - high / 2, wide, high};
}

}  // namespace cinnabar
