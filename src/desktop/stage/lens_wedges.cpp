#include "cinnabar/desktop/stage/lens_wedges.h"

#include <QPointer>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/stage/floor_view.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/later.h"

namespace cinnabar {

LensWedges::LensWedges(Session* session, QObject* parent) : QObject(parent), session_(session) {
  connect(session_, &Session::changed, this, &LensWedges::ask);
  connect(session_, &Session::shotChanged, this, &LensWedges::ask);
  connect(session_, &Session::timeChanged, this, &LensWedges::ask);
}

void LensWedges::setWanted(bool wanted) {
  wanted_ = wanted;
  reaches_.clear();
  wanted ? ask() : worker_.stop();
}

void LensWedges::ask() {
  if (!wanted_) return;
  const int number = ++asked_;
  if (!session_->shot()) return reaches_.clear();
  const QPointer<LensWedges> self(this);
  worker_.ask([self, number, project = session_->project(), shot = session_->shotIndex(),
               t = session_->setTime()](const std::atomic<bool>& cancelled) {
    auto reaches = lens_reaches(project, *project.shots[shot], t);
    if (cancelled) return;
    later(self, [self, number, reaches = std::move(reaches)] {
      if (number != self->asked_ || !self->wanted_) return;
      self->reaches_ = reaches;
      emit self->workedOut();
    });
  });
}

QString LensWedges::words(const LensReach& reach) {
  const QString lens = tr("%1 mm").arg(q(number_text(reach.focal * 1e3, 3)));
  if (!reach.edge) return tr("%1: no edge").arg(lens);
  const QString thing = reach.of_backdrop ? tr("backdrop") : tr("surface");
  const QString side = reach.side == PictureSide::left    ? tr("left")
                       : reach.side == PictureSide::right ? tr("right")
                       : reach.side == PictureSide::top   ? tr("top")
                                                          : tr("bottom");
  return reach.spare < 0 ? tr("%1: %2's edge, %3").arg(lens, thing, side)
                         : tr("%1: clear by %2 %").arg(lens, q(fixed_text(100 * reach.spare, 0)));
}

/// The widest first, in the lower left corner, each with its wedge; those that see an edge stand out.
void FloorView::drawLenses(QPainter& p) {
  const Theme& t = theme();
  lensList_ = {};
  const auto& reaches = wedges_->reaches();
  if (bench_ != Bench::place || reaches.empty() || !session_->shot()) return;
  const CameraPose pose = camera_at(*session_->shot(), session_->setTime());
  const bool plan = view_ == View::plan;
  const double far = 3.0 * pose.focus;
  double y = std::max(10.0, height() - 50.0 - 14.0 * static_cast<double>(reaches.size()));
  for (const LensReach& reach : reaches) {
    if (y > height() - 60) break;
    const bool sees = reach.edge && reach.spare < 0;
    QColor ink = sees ? t.accent : t.quiet;
    const QString words = LensWedges::words(reach);
    const double wide = QFontMetricsF(textFont(10, reach.in_use)).horizontalAdvance(words);
    QColor under = t.panel;
    under.setAlpha(150);
    const QRectF line(6, y - 1, wide + 6, 14);
    lensList_ |= line;
    p.fillRect(line, under);
    drawText(p, {8, y, width() - 90.0, 13}, Qt::AlignLeft | Qt::AlignVCenter, words, textFont(10, reach.in_use),
             ink);
    y += 14;
    if (view_ == View::front) continue;
    const double half = plan ? reach.half_across : reach.half_up;
    const Vec3 across = plan ? pose.frame.right : pose.frame.up;
    p.setPen(QPen(ink, reach.in_use ? 1.2 : 0.8, reach.in_use ? Qt::SolidLine : Qt::DashLine));
    for (const double side : {-1.0, 1.0}) {
      const Vec3 end = pose.place + (pose.frame.ahead + across * (side * half)) * far;
      if (const auto line = partSeen({onScreen(pose.place), onScreen(end)}, rect())) p.drawLine(*line);
    }
  }
}

}  // namespace cinnabar
