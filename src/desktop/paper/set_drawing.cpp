#include "cinnabar/desktop/paper/set_drawing.h"

#include <algorithm>

#include "cinnabar/desktop/board/sketch_pad.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/scene/staged.h"

namespace cinnabar::paper {
namespace {}  // namespace

void drawPicture(Page& page, const QImage& picture, const Sketch& sketch, double x, double y, double w) {
  const double h = w * 9 / 16;
  page.painter().setPen(QPen(Qt::black, page.mm(0.2)));
  page.painter().setBrush(Qt::NoBrush);
  page.painter().drawRect(page.box(x, y, w, h));
  if (!picture.isNull() && !sketch.instead) {
    const double k = std::min(w / picture.width(), h / picture.height()), wide_there = picture.width() * k,
                 tall_there = picture.height() * k;
    page.painter().drawImage(page.box(x + (w - wide_there) / 2, y + (h - tall_there) / 2, wide_there, tall_there),
                             picture);
  }
  drawSketch(page.painter(), page.box(x, y, w, h), sketch, sketch.instead ? Qt::black : Qt::darkGray,
             page.mm(0.5));
}

int drawFloor(Page& page, const Project& project, const Shot& shot, double x, double y, double w, double h) {
  const Setup* setup = by_id(project.setups, shot.setup);
  double x0 = -0.3, x1 = 0.3, z0 = -0.3, z1 = 0.3;
  const auto reach = [&](const Vec3& v) {
    x0 = std::min(x0, v.x - 0.2), x1 = std::max(x1, v.x + 0.2), z0 = std::min(z0, v.z - 0.1),
    z1 = std::max(z1, v.z + 0.15);
  };
  if (setup) {
    for (const Light& l : setup->lights)
      if (!l.window) reach(l.place);
    for (const Card& c : setup->cards) reach(c.place);
    if (setup->backdrop.kind != BackdropKind::none) reach({0, 0, -setup->backdrop.distance});
  }
  if (shot.camera) reach(shot.camera->place);
  int scale = 50;
  for (const int s : {5, 10, 15, 20, 25, 30, 40, 50})
    if ((x1 - x0) * 1000 / s <= w && (z1 - z0) * 1000 / s <= h) {
      scale = s;
      break;
    }
  QPainter& p = page.painter();
  const auto at = [&](const Vec3& v) {
    return QPointF(page.mm(x + w / 2 + (v.x - (x0 + x1) / 2) * 1000 / scale),
                   page.mm(y + h / 2 + (v.z - (z0 + z1) / 2) * 1000 / scale));
  };
  p.save();
  p.setClipRect(page.box(x, y, w, h));
  const QPen thin(Qt::black, page.mm(0.2)), thick(Qt::black, page.mm(0.5)),
      dashed(Qt::darkGray, page.mm(0.2), Qt::DashLine);
  p.setBrush(Qt::NoBrush);
  if (setup) {
    p.setPen(thin);
    if (setup->surface) {
      const double sx = setup->surface->width / 2, sz = setup->surface->depth / 2;
      p.drawPolygon(QPolygonF{at({-sx, 0, -sz}), at({sx, 0, -sz}), at({sx, 0, sz}), at({-sx, 0, sz})});
    }
    p.setPen(thick);
    const Backdrop& b = setup->backdrop;
    if (b.kind != BackdropKind::none)
      p.drawLine(at({-b.width / 2, 0, -b.distance}), at({b.width / 2, 0, -b.distance}));
    for (const Light& l : setup->lights) {
      if (l.window) continue;
      const Facing f = facing(l.place, l.aim, l.roll_deg);
      const double half = l.shape == LightShape::rectangle ? l.width / 2 : std::max(l.radius, 0.02);
      p.setPen(thick);
      p.drawLine(at(l.place - f.right * half), at(l.place + f.right * half));
      p.setPen(dashed);
      p.drawLine(at(l.place), at(l.aim));
      p.setPen(Qt::black);
      QFont font("Cinnabar Text");
      font.setPointSizeF(7);
      p.setFont(font);
      p.drawText(at(l.place) + QPointF(page.mm(1.5), -page.mm(1.5)), q(l.name));
    }
    p.setPen(thin);
    for (const Card& c : setup->cards) {
      const Facing f = facing(c.place, c.aim, c.roll_deg);
      p.drawLine(at(c.place - f.right * (c.width / 2)), at(c.place + f.right * (c.width / 2)));
    }
  }
  p.setPen(thin);
  p.drawEllipse(at({0, 0, 0}), page.mm(1.6), page.mm(1.6));
  p.drawLine(at({0, 0, 0}) - QPointF(page.mm(3), 0), at({0, 0, 0}) + QPointF(page.mm(3), 0));
  p.drawLine(at({0, 0, 0}) - QPointF(0, page.mm(3)), at({0, 0, 0}) + QPointF(0, page.mm(3)));
  if (shot.camera) {
    p.setBrush(Qt::black);
    p.drawRect(QRectF(at(shot.camera->place) - QPointF(page.mm(2), page.mm(1)), QSizeF(page.mm(4), page.mm(5))));
    p.setBrush(Qt::NoBrush);
    p.setPen(dashed);
    p.drawLine(at(shot.camera->place), at(shot.camera->aim));
  }
  p.restore();
  p.setPen(thin);
  p.drawRect(page.box(x, y, w, h));
  return scale;
}

double table(Page& page, double x, double y, const std::vector<double>& widths,
             const std::vector<QStringList>& rows, double pt) {
  double at = y;
  for (std::size_t r = 0; r < rows.size(); ++r) {
    double tall = 0, dx = x;
    for (qsizetype c = 0; c < rows[r].size(); ++c) {
      const double w = widths[static_cast<std::size_t>(c)];
      tall = std::max(tall, page.text(dx, at, w - 1.5, rows[r][c], pt, r == 0));
      dx += w;
    }
    at += tall + 0.8;
    if (r == 0) page.rule(x, at - 0.4, dx - x);
  }
  return at - y;
}

double tableTall(Page& page, const std::vector<double>& widths, const std::vector<QStringList>& rows, double pt) {
  double all = 0;
  for (std::size_t r = 0; r < rows.size(); ++r) {
    double tall = 0;
    for (qsizetype c = 0; c < rows[r].size(); ++c)
      tall = std::max(tall, page.tall(widths[static_cast<std::size_t>(c)] - 1.5, rows[r][c], pt, r == 0));
    all += tall + 0.8;
  }
  return all;
}

std::vector<QStringList> setRows(const Project& project, const Shot& shot) {
  const Units units = project.units;
  const auto len = [&](double m) { return q(length_text(m, units)); };
  std::vector<QStringList> rows{{paperText("From the product's axis"), paperText("right"),
                                 paperText("toward camera"), paperText("high"), paperText("set to")}};
  const auto row = [&](const QString& name, const Vec3& v, const QString& rest) {
    rows.push_back({name, len(v.x), len(v.z), len(v.y), rest});
  };
  if (shot.camera)
    row(paperText("Camera"), shot.camera->place, paperText("focus at %1").arg(len(shot.camera->focus)));
  if (const Setup* s = by_id(project.setups, shot.setup)) {
    for (const Light& l : s->lights)
      if (!l.beam)
        row(q(l.name), l.place,
            l.on ? paperText("%1 %, %2 K%3")
                       .arg(q(fixed_text(100 * l.dimmer, 0)), q(fixed_text(l.white_kelvin(), 0)),
                            l.grid_deg ? paperText(", grid %1 degrees").arg(*l.grid_deg) : QString())
                 : paperText("off"));
    for (const Card& c : s->cards)
      row(q(c.name.empty() ? c.id : c.name), c.place, paperText("%1 by %2").arg(len(c.width), len(c.height)));
    if (s->backdrop.kind != BackdropKind::none)
      row(paperText("Backdrop"), {0, s->backdrop.low, -s->backdrop.distance},
          paperText("%1 by %2").arg(len(s->backdrop.width), len(s->backdrop.height)));
  }
  return rows;
}

}  // namespace cinnabar::paper
