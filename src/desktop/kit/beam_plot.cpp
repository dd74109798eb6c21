#include "cinnabar/desktop/kit/beam_plot.h"

#include <QPainterPath>
#include <cmath>

#include "cinnabar/base/vec.h"
#include "cinnabar/desktop/theme/theme.h"
#include "cinnabar/desktop/theme/words.h"

namespace cinnabar {

BeamPlot::BeamPlot(QWidget* parent) : QWidget(parent) {
  setObjectName("beamPlot");
  setMinimumHeight(190);
  setMaximumHeight(430);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

void BeamPlot::show(const std::optional<LightOutput>& output, Units units) {
  output_ = output, units_ = units;
  if (output_) {
    const LightDistribution* d = output_->distribution.get();
    beam_ = d ? d->full_angle(0.5) : 120.0;
    field_ = d ? d->full_angle(0.1) : 2.0 * degrees(std::acos(0.1));
    const double own = d ? d->lumens() : 0.0;
    scale_ = own > 0.0 ? output_->lumens / own : 1.0;
    QStringList words{tr("%1 lumens").arg(q(number_text(output_->lumens, 4))),
                      tr("%1 candela along the axis").arg(q(number_text(output_->axis_candela, 4))),
                      tr("beam %1 degrees").arg(q(number_text(beam_, 3)))};
    for (const Row& row : rows())
      words << tr("%1 lux at %2").arg(q(number_text(row.lux, 3)), q(length_text(row.distance, units_)));
    setAccessibleDescription(words.join(", "));
  } else {
    setAccessibleDescription(tr("its figures say no output"));
  }
  setAccessibleName(tr("Beam of the light"));
  update();
}

double BeamPlot::candela(double vertical, double horizontal) const {
  if (const LightDistribution* d = output_->distribution.get())
    return d->candela_at(vertical, horizontal) * scale_;
  return vertical >= 90.0 ? 0.0 : output_->axis_candela * std::cos(radians(vertical));
}

std::vector<BeamPlot::Row> BeamPlot::rows() const {
  std::vector<Row> list;
  if (!output_) return list;
  for (const double d : {0.5, 1.0, 1.5, 2.0, 3.0, 5.0})
    list.push_back({d, output_->axis_candela / (d * d),
                    beam_ > 0.0 && beam_ < 175.0 ? 2.0 * d * std::tan(radians(beam_ / 2.0)) : 0.0});
  return list;
}

namespace {
constexpr double table = 210;  // wide
}  // namespace

void BeamPlot::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  if (!output_)
    return drawText(p, QRectF(0, 4, width(), 20), Qt::AlignLeft | Qt::AlignVCenter,
                    tr("Say its lumens, its lux at a distance or its candela, or read a measured light."),
                    textFont(12), t.quiet);
  // The beam shines to the right out of the light at the left; behind it what goes backward.
  const double side = std::min(width() - table - 10.0, height() * 1.0);
  double most = 0, behind = 0;
  for (double v = 0; v <= 180; v += 1)
    for (const double h : {0.0, 90.0, 180.0, 270.0}) {
      most = std::max(most, candela(v, h));
      if (v > 90) behind = std::max(behind, candela(v, h));
    }
  if (most <= 0) return;
  const double r = std::max(20.0, std::min(side / 2 - 8, height() / 2.0 - 14));
  const QPointF centre(behind > 0.02 * most ? r + 6 : 14, height() / 2.0);
  const double reach = behind > 0.02 * most ? r : std::min(2 * r, side - 30);
  p.setPen(QPen(t.line, 1));
  p.setBrush(Qt::NoBrush);
  p.save();
  p.setClipRect(QRectF(0, 0, side, height()));
  for (const double ring : {0.25, 0.5, 0.75, 1.0}) p.drawEllipse(centre, reach * ring, reach * ring);
  for (int a = -90; a <= 90; a += 30)
    p.drawLine(centre, centre + QPointF(std::cos(radians(a)), std::sin(radians(a))) * reach);
  p.setPen(QPen(t.quiet, 1, Qt::DashLine));
  for (const double angle : {beam_ / 2, -beam_ / 2})
    if (beam_ > 0)
      p.drawLine(centre, centre + QPointF(std::cos(radians(angle)), std::sin(radians(angle))) * reach);
  const auto plane = [&](double up, double down, const QColor& color, Qt::PenStyle style) {
    QPainterPath path;
    for (int a = -180; a <= 180; a += 1) {
      const double i = candela(std::abs(a), a < 0 ? up : down) / most * reach;
      const QPointF at = centre + QPointF(std::cos(radians(a)), std::sin(radians(a))) * i;
      a == -180 ? path.moveTo(at) : path.lineTo(at);
    }
    p.setPen(QPen(color, 1.8, style));
    p.drawPath(path);
  };
  plane(90, 270, t.good, Qt::SolidLine);
  plane(180, 0, t.accent, Qt::DashLine);
  p.restore();
  drawText(p, QRectF(side - 150, height() - 15, 150, 14), Qt::AlignRight | Qt::AlignVCenter,
           tr("rings of %1 cd").arg(q(number_text(most / 4, 3))), numberFont(10), t.quiet);

  drawText(p, QRectF(side - 150, 0, 150, 14), Qt::AlignRight | Qt::AlignVCenter, tr("up and down: whole line"),
           textFont(10), t.good);
  drawText(p, QRectF(side - 150, 14, 150, 14), Qt::AlignRight | Qt::AlignVCenter, tr("side to side: broken"),
           textFont(10), t.accent);

  paintTable(p);
}

/// What it gives at distances, and what is known of it, beside the plot.
void BeamPlot::paintTable(QPainter& p) const {
  const Theme& t = theme();
  const double x = width() - table;
  double y = 0;
  const auto line = [&](const QString& a, const QString& b, const QString& c, bool heading) {
    const QFont font = heading ? textFont(11) : numberFont(12);
    const QColor color = heading ? t.quiet : t.ink;
    drawText(p, QRectF(x, y, 62, 17), Qt::AlignLeft | Qt::AlignVCenter, a, font, color);
    drawText(p, QRectF(x + 62, y, 72, 17), Qt::AlignRight | Qt::AlignVCenter, b, font, color);
    drawText(p, QRectF(x + 134, y, table - 134, 17), Qt::AlignRight | Qt::AlignVCenter, c, font, color);
    y += 17;
  };
  line(tr("Away"), tr("lux"), tr("half at, wide"), true);
  for (const Row& row : rows())
    line(q(length_text(row.distance, units_)), q(number_text(row.lux, 3)),
         row.width > 0 ? q(length_text(row.width, units_)) : QString(), false);
  y += 4;
  const auto note = [&](const QString& text, const QColor& color) {
    p.setFont(textFont(11));
    p.setPen(color);
    const QRectF box(x, y, table, 60);
    p.drawText(box, Qt::AlignLeft | Qt::TextWordWrap, text);
    y += p.boundingRect(box, Qt::AlignLeft | Qt::TextWordWrap, text).height() + 2;
  };
  note(tr("%1 lm, %2 cd on the axis, beam %3, a tenth at %4")
           .arg(q(number_text(output_->lumens, 4)), q(number_text(output_->axis_candela, 4)),
                q(number_text(beam_, 3)) + QChar(0x00B0), q(number_text(field_, 3)) + QChar(0x00B0)),
       t.ink);
  if (!output_->derivation.empty()) note(tr("Derived: %1").arg(q(output_->derivation)), t.leaningInk);
  if (output_->distribution)
    for (const std::string& n : output_->distribution->notes) note(q(n), t.quiet);
}

}  // namespace cinnabar
