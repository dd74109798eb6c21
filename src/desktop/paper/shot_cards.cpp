#include "cinnabar/desktop/paper/shot_cards.h"

#include <QCoreApplication>
#include <QFile>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>
#include <algorithm>
#include <cmath>

#include "cinnabar/base/encoding.h"
#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/desktop/paper/effect_drawing.h"
#include "cinnabar/desktop/paper/page.h"
#include "cinnabar/desktop/paper/set_drawing.h"
#include "cinnabar/desktop/theme/words.h"
#include "cinnabar/desktop/workers/picture_maker.h"
#include "cinnabar/forecast/hazards.h"
#include "cinnabar/planning/effect_steps.h"
#include "cinnabar/planning/hand_moves.h"
#include "cinnabar/project/model/track_target.h"
#include "cinnabar/scene/effects_staged.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {
using namespace paper;

std::string platesText(const Shot& shot) {
  std::string text;
  for (const std::string& plate : shot.plates) text += (text.empty() ? "" : "; ") + plate;
  return text;
}

/// The effects of a shot with their moments on set, and what has to be known before.
double effectsTable(Page& page, const ToldEffects& effects, double left, double top, double wide) {
  std::vector<QStringList> rows{{paperText("Effect"), paperText("set seconds"), paperText("what it takes")}};
  for (const ToldEffect& told : effects) {
    const Effect& effect = *told.effect;
    const auto& outcome = told.outcome;
    QStringList moments, takes;
    if (outcome) {
      for (const EffectEvent& event : outcome->events)
        moments << paperText("%1 %2").arg(q(in_words(event.name.c_str())), q(fixed_text(event.at, 2)));
      for (const std::string& note : outcome->notes) takes << q(note);
    } else {
      takes << q(outcome.error().text());
    }
    takes.prepend(paperText("helpers: %1").arg(effect.hands) +
                  (effect.reset_minutes > 0
                       ? paperText(", reset %1 min").arg(q(number_text(effect.reset_minutes, 3)))
                       : QString()));
    rows.push_back({q(effect_name(effect)), moments.join("  "), takes.join("; ")});
  }
  return table(page, left, top, {30, 56, wide - 86}, rows);
}

/// What people do for them, with the seconds of each cue, beside a drawing from the side.
double effectSteps(Page& page, const Project& project, const Shot& shot, const ToldEffects& effects, double top) {
  constexpr double drawn_wide = 52, drawn_tall = 30;
  const int scale = drawEffectsAside(page, project, shot, effects, left, top, drawn_wide, drawn_tall);
  const double beside = scale ? drawn_wide + 4 : 0;
  if (scale)
    page.text(left, top + drawn_tall + 0.5, drawn_wide, paperText("from the side, 1:%1 on A4").arg(scale), 7);
  std::vector<QStringList> rows{{paperText("Set s"), paperText("who"), paperText("does")}};
  QStringList before, after;
  for (const ToldEffect& told : effects) {
    if (!told.outcome) continue;
    const EffectSteps steps = steps_of(*told.effect, *told.outcome);
    for (const EffectCue& cue : steps.cues)
      rows.push_back({q(fixed_text(cue.at, 2)),
                      cue.helper ? paperText("helper %1").arg(cue.helper) : paperText("camera"),
                      q(effect_name(*told.effect)) + ": " + q(cue.what)});
    for (const std::string& one : steps.before) before << q(one);
    for (const std::string& one : steps.after) after << q(one);
  }
  if (rows.size() == 1) return scale ? drawn_tall + 5 : 0;
  std::stable_sort(rows.begin() + 1, rows.end(),
                   [](const QStringList& a, const QStringList& b) { return a[0].toDouble() < b[0].toDouble(); });
  before.removeDuplicates(), after.removeDuplicates();
  double y = top + table(page, left + beside, top, {14, 20, wide - beside - 34}, rows) + 1;
  for (const auto& [title, list] :
       {std::pair{paperText("Before: %1"), before}, std::pair{paperText("After: %1"), after}})
    if (!list.isEmpty()) y += page.text(left + beside, y, wide - beside, title.arg(list.join("; ")), 8) + 1;
  return std::max(y - top, scale ? drawn_tall + 5 : 0.0);
}

/// What is dialled in, beside the plan.
void cameraTable(Page& page, const Project& project, const Shot& shot, double y, double half) {
  const ShotOptics o = shot_optics(project, *shot.camera);
  std::vector<QStringList> rows{{paperText("Camera"), ""}};
  const auto row = [&](const QString& a, const QString& b) { rows.push_back({a, b}); };
  row(paperText("lens"),
      paperText("%1 mm, f/%2")
          .arg(q(number_text(shot.camera->focal * 1e3, 4)), q(number_text(shot.camera->f_number, 3))));
  row(paperText("mode"), paperText("%1 x %2 at %3").arg(o.width).arg(o.height).arg(q(number_text(o.rate, 6))));
  row(paperText("shutter, ISO"),
      paperText("%1, ISO %2%3")
          .arg(q(shutter_text(shot.camera->shutter_time)), q(number_text(shot.camera->iso, 6)),
               shot.camera->nd_stops > 0
                   ? (shot.camera->nd_stops == 1 ? paperText(", ND %1 stop") : paperText(", ND %1 stops"))
                         .arg(shot.camera->nd_stops)
                   : QString()));
  row(paperText("white"), paperText("%1 K").arg(q(number_text(shot.camera->balance_k, 5))));
  table(page, left, y, {26, half - 26}, rows);
}

/// What moves and happens, what is heard and to know: tracks, by hand, effects, ramp. How far down the page it
/// comes.
double happenings(Page& page, const Project& project, const Shot& shot, double y) {
  if (!shot.tracks.empty()) {
    std::vector<QStringList> rows{{paperText("Track"), paperText("moves"), paperText("keys: set seconds, value")}};
    for (const KeyedTrack& t : shot.tracks) {
      QStringList keys;
      for (std::size_t i = 0; i < t.keys.size(); ++i)
        keys << paperText("%1 s: %2").arg(q(number_text(t.keys[i].first, 4)), q(key_text(t, i)));
      rows.push_back({q(t.target), shapeWord(t.shape), keys.join("   ")});
    }
    y += table(page, left, y, {40, 32, wide - 72}, rows) + 4;
  }
  if (const auto moves = hand_moves(project, shot); !moves.empty()) {
    std::vector<QStringList> rows{
        {paperText("By hand"), paperText("marks"), paperText("pace, what a missed mark is, and by what else")}};
    for (const HandMove& move : moves)
      rows.push_back({q(move.what), q(marks_text(move)), q(fmt::format("{}", fmt::join(hand_lines(move), "; ")))});
    y += table(page, left, y, {30, 62, wide - 92}, rows) + 4;
  }
  if (!shot.effects.empty()) {
    const ToldEffects effects = told_effects(project, shot);
    y = placed(page, project, y, 12.0 + 9.0 * static_cast<double>(effects.size()));
    y += effectsTable(page, effects, left, y, wide) + 3;
    y = placed(page, project, y, 36.0 + 22.0 * static_cast<double>(effects.size() - 1));
    y += effectSteps(page, project, shot, effects, y) + 4;
  }
  if (shot.clock.points().size() > 1) {
    QStringList points;
    for (const SpeedPoint& s : shot.clock.points())
      points << paperText("%1 s: %2 %").arg(q(number_text(s.set_time, 4)), q(number_text(100 * s.speed, 3)));
    y += page.text(left, y, wide, paperText("Ramp, set seconds and speed: %1").arg(points.join("   ")), 8) + 4;
  }
  for (const auto& [label, text] :
       {std::pair{paperText("Sound: %1"), shot.sound}, std::pair{paperText("Notes: %1"), shot.notes},
        std::pair{paperText("Plates: %1"), platesText(shot)}})
    if (!text.empty()) y += page.text(left, y, wide, label.arg(q(text)), 8) + 2;
  return y;
}

void card(Page& page, const Project& project, std::size_t index, const CardContent& content) {
  const Shot& shot = *project.shots[index];
  const Setup* setup = by_id(project.setups, shot.setup);
  double y = top;
  page.text(left, y, wide, paperText("%1  %2").arg(index + 1).arg(q(shot.name)), 17, true);
  y += 8.5;
  page.text(left, y, wide,
            paperText("Set-up %1   %2 s on screen, %3 s on set   %4 takes planned")
                .arg(setup ? q(setup->id + ", " + setup->name) : paperText("none"),
                     q(number_text(shot.screen_time, 4)), q(number_text(shot.set_time(), 4)),
                     shot.takes_planned ? q(number_text(*shot.takes_planned)) : paperText("no")),
            9);
  y += 7;
  const double half = wide / 2 - 2;
  const double picture_tall = half * 9 / 16;
  if (const QImage& image = content.picture; !image.isNull())
    page.painter().drawImage(page.box(left, y, half, half * image.height() / image.width()), image);
  const int scale = drawFloor(page, project, shot, left + half + 4, y, half, picture_tall + 26);
  page.text(left + half + 4, y + picture_tall + 27, half, paperText("plan, 1:%1 on A4").arg(scale), 7);
  if (shot.camera) cameraTable(page, project, shot, y + picture_tall + 2, half);
  y += picture_tall + 33;
  y += table(page, left, y, {48, 28, 32, 24, 50}, setRows(project, shot)) + 4;
  y = happenings(page, project, shot, y);
  if (!content.levels.empty()) {
    std::vector<QStringList> rows{{paperText("Not level"), paperText("value"), paperText("why")}};
    for (const Level& l : content.levels)
      if (l.state == State::out || l.state == State::leaning)
        rows.push_back({q(l.title) + (l.state == State::out ? paperText(", out") : paperText(", leaning")),
                        l.value ? q(number_text(*l.value, 3) + " " + unit_name(l.unit)) : QString(),
                        q(l.sentence)});
    y = placed(page, project, y, tableTall(page, {50, 36, wide - 86}, rows));
    if (rows.size() == 1)
      y += page.text(left, y, wide, paperText("Every level is level."), 8) + 4;
    else
      y += table(page, left, y, {50, 36, wide - 86}, rows) + 4;
  }
  const auto warned = cautions(hazards_of(project, shot));
  if (warned.empty()) return;
  std::vector<QStringList> rows{{paperText("Cautions"), QString()}};
  for (const Caution& c : warned) rows.push_back({q(c.title), q(c.text)});
  y = placed(page, project, y, tableTall(page, {34, wide - 34}, rows));
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
    if (i > 0) page.next();
    card(page, project, i, contents[i]);
    foot(page, project, page.number());
  }
  if (project.shots.empty()) page.text(left, top, wide, paperText("No shots yet."), 12);
}

void paintShotList(QPagedPaintDevice& device, const Project& project) {
  Page page(device);
  if (!page.active()) return;
  const std::vector<double> widths{10, 48, 34, 18, 34, 38};
  const QStringList head{paperText("No."),    paperText("Shot"),           paperText("Set-up"),
                         paperText("Screen"), paperText("Lens, exposure"), paperText("Mode")};
  int number = 1;
  double y = top;
  page.text(left, y, wide, paperText("%1, shot list").arg(q(project.name)), 15, true);
  y += 10;
  y += table(page, left, y, widths, {head});
  for (std::size_t i = 0; i < project.shots.size(); ++i) {
    const Shot& shot = *project.shots[i];
    const Setup* setup = by_id(project.setups, shot.setup);
    QString lens, mode;
    if (shot.camera) {
      const ShotOptics o = shot_optics(project, *shot.camera);
      lens = paperText("%1 mm, f/%2, %3, ISO %4")
                 .arg(q(number_text(shot.camera->focal * 1e3, 4)), q(number_text(shot.camera->f_number, 3)),
                      q(shutter_text(shot.camera->shutter_time)), q(number_text(shot.camera->iso, 6)));
      mode = paperText("%1 x %2 at %3").arg(o.width).arg(o.height).arg(q(number_text(o.rate, 6)));
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
                            paperText("%1 s").arg(q(number_text(shot.screen_time, 4))),
                            lens,
                            mode};
    for (qsizetype c = 0; c < cells.size(); ++c) {
      tall = std::max(tall, page.text(x, y, widths[static_cast<std::size_t>(c)] - 1.5, cells[c], 8.5));
      x += widths[static_cast<std::size_t>(c)];
    }
    y += tall + 2;
  }
  page.text(
      left, y + 2, wide,
      paperText("%1 s in all, %2 allowed")
          .arg(q(number_text(project.screen_time(), 5)),
               project.allowed_time ? q(number_text(*project.allowed_time, 5)) + " s" : paperText("any length")),
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
    QStringList runs;
    for (const Deliverable& d : project.deliverables)
      runs << paperText("%1, %2 x %3%4%5")
                  .arg(q(d.name))
                  .arg(d.width)
                  .arg(d.height)
                  .arg(d.longest ? paperText(", at most %1 s").arg(q(number_text(*d.longest, 4))) : QString(),
                       d.loudness ? paperText(", %1 LUFS").arg(q(number_text(*d.loudness, 3))) : QString());
    page.text(left, top + 6.5, wide, runs.join("   ").left(150), 7.5);
    page.text(left + wide - 60, top + 1.5, 60,
              paperText("%1 s, %2 shots").arg(q(number_text(project.screen_time(), 4))).arg(project.shots.size()),
              9, false, false, Qt::AlignRight);
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
    drawPicture(page, i < contents.size() ? contents[i].picture : QImage(), shot.sketch, x, y, cell_wide);
    double down = y + picture_tall + 1.5;
    const QString name = paperText("%1  %2").arg(i + 1).arg(q(clipped(shot.name, 120)));
    page.text(x + cell_wide - 18, down, 18, paperText("%1 s").arg(q(fixed_text(shot.screen_time, 1))), 9, false,
              false, Qt::AlignRight);
    down += page.text(x, down, cell_wide - 20, name, 10.5, true) + 0.8;
    QStringList words;
    if (!shot.notes.empty()) words << q(clipped(shot.notes, 400));
    if (!shot.sound.empty()) words << paperText("Sound: %1").arg(q(clipped(shot.sound, 200)));
    if (!shot.plates.empty()) words << paperText("Plates: %1").arg(q(clipped(platesText(shot), 200)));
    page.painter().save();
    page.painter().setClipRect(page.box(x, down, cell_wide, std::max(0.0, y + cell_tall - down)));
    page.text(x, down, cell_wide, words.join('\n'), 8.5);
    page.painter().restore();
  }
  if (project.shots.empty()) page.text(left, top + 12, wide, paperText("No shots yet."), 12);
  foot(page, project, number);
}

}  // namespace cinnabar
