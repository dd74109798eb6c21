#include "cinnabar/desktop/paper/crew_board.h"

#include <cmath>

#include "cinnabar/base/encoding.h"
#include "cinnabar/base/text.h"
#include "cinnabar/desktop/paper/set_drawing.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/forecast/levels/schools.h"
#include "cinnabar/planning/order.h"
#include "cinnabar/project/model/track_target.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {
using namespace paper;

constexpr double strip_tall = 82, column = 58, gap = 4;

QString exposure(const Project& project, const Shot& shot) {
  if (!shot.camera) return paperText("No camera yet");
  const ShotOptics o = shot_optics(project, *shot.camera);
  return paperText("%1 mm, f/%2, %3, ISO %4%5, %6 x %7 at %8, %9 K")
      .arg(q(number_text(shot.camera->focal * 1e3, 4)), q(number_text(shot.camera->f_number, 3)),
           q(shutter_text(shot.camera->shutter_time)), q(number_text(shot.camera->iso, 6)),
           shot.camera->nd_stops > 0 ? paperText(", ND %1").arg(shot.camera->nd_stops) : QString())
      .arg(o.width)
      .arg(o.height)
      .arg(q(number_text(o.rate, 6)), q(number_text(shot.camera->balance_k, 5)));
}

/// What moves, in a line a track: from where to where.
QString moves(const Shot& shot) {
  QStringList lines;
  for (const KeyedTrack& t : shot.tracks)
    if (!t.keys.empty())
      lines << paperText("%1: %2 to %3 in %4 s")
                   .arg(q(t.target), q(key_text(t, 0)), q(key_text(t, t.keys.size() - 1)),
                        q(number_text(t.keys.back().first - t.keys.front().first, 3)));
  return lines.join('\n');
}

void strip(Page& page, const Project& project, std::size_t index, const QImage& picture, double y) {
  const Shot& shot = *project.shots[index];
  page.rule(left, y, wide, 0.35);
  double down = y + 1.5;
  down += page.text(left, down, wide - 40, paperText("%1  %2").arg(index + 1).arg(q(clipped(shot.name, 120))), 11,
                    true);
  page.text(left + wide - 60, y + 1.8, 60,
            paperText("%1 s on screen, %2 s on set")
                .arg(q(number_text(shot.screen_time, 4)), q(number_text(shot.set_time(), 4))),
            8, false, false, Qt::AlignRight);
  down += 1;
  const double tall = column * 9 / 16;
  drawPicture(page, picture, shot.sketch, left, down, column);
  const double room = y + strip_tall - 3;
  const auto inRoom = [&](double x, double from, double w, const QString& words, double pt) {
    page.painter().save();
    page.painter().setClipRect(page.box(x, from, w, std::max(0.0, room - from)));
    const double took = page.text(x, from, w, words, pt);
    page.painter().restore();
    return took;
  };
  double under = down + tall + 1.5;
  under += inRoom(left, under, column, exposure(project, shot), 7.5) + 1;
  QStringList words{moves(shot)};
  if (!shot.plates.empty()) {
    QStringList plates;
    for (const std::string& p : shot.plates) plates << q(p);
    words << paperText("Plates: %1").arg(plates.join("; "));
  }
  if (!shot.notes.empty()) words << q(clipped(shot.notes, 300));
  words.removeAll(QString());
  inRoom(left, under, column, words.join('\n'), 7.5);
  const double floor_tall = room - down - 4;
  const int scale = drawFloor(page, project, shot, left + column + gap, down, column, floor_tall);
  page.text(left + column + gap, down + floor_tall + 0.4, column, paperText("plan, 1:%1 on A4").arg(scale), 6.5);
  const double x = left + 2 * (column + gap);
  page.painter().save();
  page.painter().setClipRect(page.box(x, down, column, std::max(0.0, room - down)));
  auto rows = setRows(project, shot);
  rows.front() = {paperText("From the axis"), paperText("right"), paperText("near"), paperText("high"),
                  paperText("set to")};
  table(page, x, down, {12.5, 9.5, 9.5, 9, 17.5}, rows, 6);
  page.painter().restore();
}

}  // namespace

void paintCrewBoard(QPagedPaintDevice& device, const Project& project, const std::vector<CardContent>& contents) {
  Page page(device);
  if (!page.active()) return;
  const auto order = shooting_order(project);
  const QString school = q(schools(HouseRule::order)[project.chosen(HouseRule::order)].title);
  int number = 1;
  double y = 0;
  const auto head = [&] {
    page.text(left, top, wide - 62, paperText("%1, for the crew").arg(q(project.name)), 15, true);
    page.text(left + wide - 80, top + 1.5, 80,
              paperText("first %1; %2 things moved").arg(school).arg(things_moved(project, order)), 9, false,
              false, Qt::AlignRight);
    y = top + 10;
  };
  head();
  std::string setup;
  for (const std::size_t i : order) {
    const Setup* own = by_id(project.setups, project.shots[i]->setup);
    const bool rigged = own && own->id != setup;
    if (y + strip_tall + (rigged ? 6 : 0) > 280) {
      foot(page, project, number++);
      device.newPage();
      head();
    }
    if (rigged) {
      setup = own->id;
      y += page.text(left, y, wide, paperText("Set-up %1").arg(q(own->id + ", " + own->name)), 10, true) + 1;
    }
    strip(page, project, i, i < contents.size() ? contents[i].picture : QImage(), y);
    y += strip_tall;
  }
  if (project.shots.empty()) page.text(left, top + 12, wide, paperText("No shots yet."), 12);
  foot(page, project, number);
}

}  // namespace cinnabar
