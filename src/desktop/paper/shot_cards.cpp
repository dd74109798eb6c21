#include "cinnabar/desktop/paper/shot_cards.h"

#include <QCoreApplication>
#include <QFile>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>
#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/desktop/paper/page.h"
#include "cinnabar/desktop/widgets/sketch_pad.h"
#include "cinnabar/desktop/workers/picture_maker.h"
#include "cinnabar/forecast/hazards.h"
#include "cinnabar/scene/staged.h"

namespace cinnabar {
namespace {
using namespace paper;

QString tr(const char* text) { return QCoreApplication::translate("Paper", text); }
QString q(const std::string& s) { return QString::fromStdString(s); }

std::string platesText(const Shot& shot) {
  std::string text;
  for (const std::string& plate : shot.plates) text += (text.empty() ? "" : "; ") + plate;
  return text;
}

/// The floor in plan at a whole scale (1:5 to 1:50), with the camera, lights, cards and backdrop; the scale it
/// has.
int drawFloor(Page& page, const Project& project, const Shot& shot, double x, double y, double w, double h) {
  const Setup* setup = by_id(project.setups, shot.setup);
  double x0 = -0.3, x1 = 0.3, z0 = -0.3, z1 = 0.3;
  const auto reach = [&](const Vec3& v) {
    x0 = std::min(x0, v.x - 0.2), x1 = std::max(x1, v.x + 0.2), z0 = std::min(z0, v.z - 0.1),
    z1 = std::max(z1, v.z + 0.15);
  };
  if (setup) {
    for (const Light& l : setup->lights) reach(l.place);
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

/// Rows of a table; the height they took.
double table(Page& page, double x, double y, const std::vector<double>& widths,
             const std::vector<QStringList>& rows, double pt = 8) {
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

std::vector<QStringList> setRows(const Project& project, const Shot& shot) {
  const Units units = units_of(project);
  const auto len = [&](double m) { return q(length_text(m, units)); };
  std::vector<QStringList> rows{
      {tr("From the product's axis"), tr("right"), tr("toward camera"), tr("high"), tr("set to")}};
  const auto row = [&](const QString& name, const Vec3& v, const QString& rest) {
    rows.push_back({name, len(v.x), len(v.z), len(v.y), rest});
  };
  if (shot.camera) row(tr("Camera"), shot.camera->place, tr("focus at %1").arg(len(shot.camera->focus)));
  if (const Setup* s = by_id(project.setups, shot.setup)) {
    for (const Light& l : s->lights)
      row(q(l.name), l.place,
          l.on ? tr("%1 %, %2 K%3")
                     .arg(q(fixed_text(100 * l.dimmer, 0)), q(fixed_text(l.white_kelvin(), 0)),
                          l.grid_deg ? tr(", grid %1 degrees").arg(*l.grid_deg) : QString())
               : tr("off"));
    for (const Card& c : s->cards)
      row(q(c.name.empty() ? c.id : c.name), c.place, tr("%1 by %2").arg(len(c.width), len(c.height)));
    if (s->backdrop.kind != BackdropKind::none)
      row(tr("Backdrop"), {0, s->backdrop.low, -s->backdrop.distance},
          tr("%1 by %2").arg(len(s->backdrop.width), len(s->backdrop.height)));
  }
  return rows;
}

void card(Page& page, const Project& project, std::size_t index, const CardContent& content) {
  const Shot& shot = *project.shots[index];
  const Setup* setup = by_id(project.setups, shot.setup);
  double y = top;
  page.text(left, y, wide, tr("%1  %2").arg(index + 1).arg(q(shot.name)), 17, true);
  y += 8.5;
  page.text(left, y, wide,
            tr("Set-up %1   %2 s on screen, %3 s on set   %4 takes planned")
                .arg(setup ? q(setup->id + ", " + setup->name) : tr("none"), q(number_text(shot.screen_time, 4)),
                     q(number_text(shot.set_time(), 4)),
                     shot.takes_planned ? q(number_text(*shot.takes_planned)) : tr("no")),
            9);
  y += 7;
  const double half = wide / 2 - 2;
  const double picture_tall = half * 9 / 16;
  if (const QImage& image = content.picture; !image.isNull())
    page.painter().drawImage(page.box(left, y, half, half * image.height() / image.width()), image);
  const int scale = drawFloor(page, project, shot, left + half + 4, y, half, picture_tall + 26);
  page.text(left + half + 4, y + picture_tall + 27, half, tr("plan, 1:%1 on A4").arg(scale), 7);
  if (shot.camera) {
    const ShotOptics o = shot_optics(project, *shot.camera);
    std::vector<QStringList> rows{{tr("Camera"), ""}};
    const auto row = [&](const QString& a, const QString& b) { rows.push_back({a, b}); };
    row(tr("lens"),
        tr("%1 mm, f/%2")
            .arg(q(number_text(shot.camera->focal * 1e3, 4)), q(number_text(shot.camera->f_number, 3))));
    row(tr("mode"), tr("%1 x %2 at %3").arg(o.width).arg(o.height).arg(q(number_text(o.rate, 6))));
    row(tr("shutter, ISO"),
        tr("%1, ISO %2%3")
            .arg(q(shutter_text(shot.camera->shutter_time)), q(number_text(shot.camera->iso, 6)),
                 shot.camera->nd_stops > 0 ? tr(", ND %1 stops").arg(shot.camera->nd_stops) : QString()));
    row(tr("white"), tr("%1 K").arg(q(number_text(shot.camera->balance_k, 5))));
    table(page, left, y + picture_tall + 2, {26, half - 26}, rows);
  }
  y += picture_tall + 33;
  y += table(page, left, y, {48, 28, 32, 24, 50}, setRows(project, shot)) + 4;
  if (!shot.tracks.empty()) {
    std::vector<QStringList> rows{{tr("Track"), tr("moves"), tr("keys: set seconds, value")}};
    const char* shapes[] = {"linear", "eased by thirds", "smoothest"};
    for (const KeyedTrack& t : shot.tracks) {
      QStringList keys;
      for (const auto& [when, v] : t.keys)
        keys << tr("%1 s: %2").arg(q(number_text(when, 4)), q(number_text(v, 4)));
      rows.push_back({q(t.target), tr(shapes[static_cast<int>(t.shape)]), keys.join("   ")});
    }
    y += table(page, left, y, {40, 32, wide - 72}, rows) + 4;
  }
  if (shot.clock.points().size() > 1) {
    QStringList points;
    for (const SpeedPoint& s : shot.clock.points())
      points << tr("%1 s: %2 %").arg(q(number_text(s.set_time, 4)), q(number_text(100 * s.speed, 3)));
    y += page.text(left, y, wide, tr("Ramp, set seconds and speed: %1").arg(points.join("   ")), 8) + 4;
  }
  for (const auto& [label, text] : {std::pair{tr("Sound: %1"), shot.sound}, std::pair{tr("Notes: %1"), shot.notes},
                                    std::pair{tr("Plates: %1"), platesText(shot)}})
    if (!text.empty()) y += page.text(left, y, wide, label.arg(q(text)), 8) + 2;
  if (!content.levels.empty()) {
    std::vector<QStringList> rows{{tr("Not level"), tr("value"), tr("why")}};
    for (const Level& l : content.levels)
      if (l.state == State::out || l.state == State::leaning)
        rows.push_back({q(l.title) + (l.state == State::out ? tr(", out") : tr(", leaning")),
                        l.value ? q(number_text(*l.value, 3) + " " + l.unit) : QString(), q(l.sentence)});
    if (rows.size() == 1)
      y += page.text(left, y, wide, tr("Every level is level."), 8) + 4;
    else
      y += table(page, left, y, {50, 36, wide - 86}, rows) + 4;
  }
  const auto warned = cautions(hazards_of(project, shot));
  if (warned.empty()) return;
  std::vector<QStringList> rows{{tr("Cautions"), QString()}};
  for (const Caution& c : warned) rows.push_back({q(c.title), q(c.text)});
  table(page, left, y, {34, wide - 34}, rows);
}

}  // namespace

Expected<std::vector<CardContent>> cardContents(const Project& project, const CardOptions& options) {
  static const std::atomic<bool> never{false};
  const Forecaster forecaster;
  const int all = static_cast<int>(project.shots.size());
  std::vector<CardContent> contents;
  for (int i = 0; i < all; ++i) {
    const auto index = static_cast<std::size_t>(i);
    contents.emplace_back();
    if (options.pictures)
      contents.back() = {
          thumbnail(project, *project.shots[index], options.picture_width,
                    options.cancel ? *options.cancel : never),
          options.levels ? forecaster.levels(project, index, {}, options.cancel) : std::vector<Level>{}};
    if (options.progress) options.progress(i + 1, all);
    if (options.cancel && options.cancel->load())
      return fail(project.name, "was not put on paper: it was cancelled", "ask for it again", Fault::output);
  }
  return contents;
}

void paintShotCards(QPagedPaintDevice& device, const Project& project, const std::vector<CardContent>& contents) {
  Page page(device);
  if (!page.active()) return;
  for (std::size_t i = 0; i < project.shots.size() && i < contents.size(); ++i) {
    if (i > 0) device.newPage();
    card(page, project, i, contents[i]);
    foot(page, project, static_cast<int>(i) + 1);
  }
  if (project.shots.empty()) page.text(left, top, wide, tr("No shots yet."), 12);
}

void paintShotList(QPagedPaintDevice& device, const Project& project) {
  Page page(device);
  if (!page.active()) return;
  const std::vector<double> widths{10, 48, 34, 18, 34, 38};
  const QStringList head{tr("No."), tr("Shot"), tr("Set-up"), tr("Screen"), tr("Lens, exposure"), tr("Mode")};
  int number = 1;
  double y = top;
  page.text(left, y, wide, tr("%1, shot list").arg(q(project.name)), 15, true);
  y += 10;
  y += table(page, left, y, widths, {head});
  for (std::size_t i = 0; i < project.shots.size(); ++i) {
    const Shot& shot = *project.shots[i];
    const Setup* setup = by_id(project.setups, shot.setup);
    QString lens, mode;
    if (shot.camera) {
      const ShotOptics o = shot_optics(project, *shot.camera);
      lens = tr("%1 mm, f/%2, %3, ISO %4")
                 .arg(q(number_text(shot.camera->focal * 1e3, 4)), q(number_text(shot.camera->f_number, 3)),
                      q(shutter_text(shot.camera->shutter_time)), q(number_text(shot.camera->iso, 6)));
      mode = tr("%1 x %2 at %3").arg(o.width).arg(o.height).arg(q(number_text(o.rate, 6)));
    }
    if (y > 265) {
      foot(page, project, number++);
      device.newPage();
      y = top + table(page, left, top, widths, {head});
    }
    // A row of its own: the first row of a table is its heading.
    double tall = 0, x = left;
    const QStringList cells{QString::number(i + 1),
                            q(shot.name),
                            setup ? q(setup->id + ", " + setup->name) : QString(),
                            tr("%1 s").arg(q(number_text(shot.screen_time, 4))),
                            lens,
                            mode};
    for (qsizetype c = 0; c < cells.size(); ++c) {
      tall = std::max(tall, page.text(x, y, widths[static_cast<std::size_t>(c)] - 1.5, cells[c], 8.5));
      x += widths[static_cast<std::size_t>(c)];
    }
    y += tall + 2;
  }
  page.text(left, y + 2, wide,
            tr("%1 s in all, %2 allowed")
                .arg(q(number_text(project.screen_time(), 5)),
                     project.allowed_time ? q(number_text(*project.allowed_time, 5)) + " s" : tr("any length")),
            9, true);
  foot(page, project, number);
}

void paintBoard(QPagedPaintDevice& device, const Project& project, const std::vector<CardContent>& contents) {
  Page page(device);
  if (!page.active()) return;
  constexpr int columns = 2, rows = 3;
  const double cell_wide = (wide - 6) / columns, cell_tall = 84, picture_tall = (cell_wide)*9 / 16;
  int number = 1;
  const auto head = [&] {
    page.text(left, top, wide - 50, q(project.name), 15, true);
    page.text(left + wide - 60, top + 1.5, 60,
              tr("%1 s, %2 shots").arg(q(number_text(project.screen_time(), 4))).arg(project.shots.size()), 9,
              false, false, Qt::AlignRight);
  };
  head();
  for (std::size_t i = 0; i < project.shots.size(); ++i) {
    const auto on_page = static_cast<int>(i % (columns * rows));
    if (i > 0 && on_page == 0) {
      foot(page, project, number++);
      device.newPage();
      head();
    }
    const Shot& shot = *project.shots[i];
    const double x = left + (on_page % columns) * (cell_wide + 6),
                 y = top + 11 + (on_page / columns) * (cell_tall + 2);
    page.painter().setPen(QPen(Qt::black, page.mm(0.2)));
    page.painter().drawRect(page.box(x, y, cell_wide, picture_tall));
    if (i < contents.size() && !contents[i].picture.isNull() && !shot.sketch.instead) {
      const QImage& image = contents[i].picture;
      const double k = std::min(cell_wide / image.width(), picture_tall / image.height());
      page.painter().drawImage(
          page.box(x + (cell_wide - image.width() * k) / 2, y + (picture_tall - image.height() * k) / 2,
                   image.width() * k, image.height() * k),
          image);
    }
    drawSketch(page.painter(), page.box(x, y, cell_wide, picture_tall), shot.sketch,
               shot.sketch.instead ? Qt::black : Qt::darkGray, page.mm(0.5));
    double down = y + picture_tall + 1.5;
    const QString name = tr("%1  %2").arg(i + 1).arg(q(shot.name.substr(0, 120)));
    page.text(x + cell_wide - 18, down, 18, tr("%1 s").arg(q(fixed_text(shot.screen_time, 1))), 9, false, false,
              Qt::AlignRight);
    down += page.text(x, down, cell_wide - 20, name, 10.5, true) + 0.8;
    QStringList words;
    if (!shot.notes.empty()) words << q(shot.notes.substr(0, 400));
    if (!shot.sound.empty()) words << tr("Sound: %1").arg(q(shot.sound.substr(0, 200)));
    if (!shot.plates.empty()) words << tr("Plates: %1").arg(q(platesText(shot).substr(0, 200)));
    page.painter().save();
    page.painter().setClipRect(page.box(x, down, cell_wide, std::max(0.0, y + cell_tall - down)));
    page.text(x, down, cell_wide, words.join('\n'), 8.5);
    page.painter().restore();
  }
  if (project.shots.empty()) page.text(left, top + 12, wide, tr("No shots yet."), 12);
  foot(page, project, number);
}

Expected<void> writeBoard(const Project& project, const QString& path, const CardOptions& options) {
  if (auto there = writable(path); !there) return there;
  CardOptions pictures = options;
  pictures.levels = false;
  const auto contents = cardContents(project, pictures);
  if (!contents) {
    QFile::remove(path);
    return fail(path.toStdString(), "was not written: it was cancelled", "write it again", Fault::output);
  }
  QPdfWriter pdf(path);
  prepare(pdf, q(project.name + ", board"));
  paintBoard(pdf, project, *contents);
  return {};
}

Expected<void> writeShotCards(const Project& project, const QString& path, const CardOptions& options) {
  if (auto there = writable(path); !there) return there;
  const auto contents = cardContents(project, options);
  if (!contents) {
    QFile::remove(path);
    return fail(path.toStdString(), "was not written: it was cancelled", "write it again", Fault::output);
  }
  QPdfWriter pdf(path);
  prepare(pdf, q(project.name + ", shot cards"));
  paintShotCards(pdf, project, *contents);
  return {};
}

Expected<void> writeShotList(const Project& project, const QString& path) {
  if (auto there = writable(path); !there) return there;
  QPdfWriter pdf(path);
  prepare(pdf, q(project.name + ", shot list"));
  paintShotList(pdf, project);
  return {};
}

}  // namespace cinnabar
