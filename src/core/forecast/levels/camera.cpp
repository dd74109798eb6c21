// Levels of the camera's mode, its locks and what it writes on.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/forecast/levels/judgements.h"
#include "cinnabar/photometry/exposure.h"
#include "cinnabar/photometry/sources.h"
#include "cinnabar/planning/means.h"
#include "cinnabar/planning/modes.h"

namespace cinnabar {

std::optional<Level> camera_noise(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  const ShotOptics& o = c.optics;
  // Without the mode's own figure ISO 12232's saturation, 78 / S, over the exposure's own grey.
  const double headroom = o.stops_over_grey.value_or(3.06653);
  const double across = o.delivered_pitch / o.pitch, binned = std::max(1.0, across * across);
  const auto grey = grey_noise({.full_well_e = o.full_well_e,
                                .iso_low = o.iso_low,
                                .iso = c.camera.iso,
                                .headroom_stops = headroom,
                                .read_noise_e = o.read_noise_e,
                                .binned = binned});
  if (!grey)
    return unknown(level, c.camera.iso < o.iso_low ? said("the camera's lowest ISO is {}", number_text(o.iso_low))
                                                   : grey.error().message);
  settle(level, {grey->snr_db, 0.0});
  level.formula =
      said("20 log10(sqrt({}) x {} / sqrt({} + {}^2)) = {} dB at ISO {}, {} stops from grey to clipping",
           number_text(binned, 3), number_text(grey->electrons, 4), number_text(grey->electrons, 4),
           number_text(o.read_noise_e, 3), fixed_text(grey->snr_db, 1), number_text(c.camera.iso, 6),
           fixed_text(headroom, 1));
  level.sentence = said("A mid grey stands {} dB over its noise, {} of 255 steps.", fixed_text(grey->snr_db, 0),
                        fixed_text(grey->steps_8bit, 1));
  return level;
}

std::optional<Level> camera_mode(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  const CameraBody* body = by_id(c.project.cameras, c.camera.camera);
  if (!body || !c.optics.mode_known) return unknown(level, "the camera's mode is not in the kit");
  const auto mode = std::find_if(body->modes.begin(), body->modes.end(),
                                 [&](const CameraMode& m) { return m.id == c.camera.mode; });
  ModeFit fit = mode_fit(c.project, c.shot, *mode);
  if (const LensSpec* lens = by_id(c.project.lenses, c.camera.lens)) {
    const double focal = c.camera.focal;
    ++fit.asked;
    if (focal < lens->focal_low - 1e-9 || focal > lens->focal_high + 1e-9)
      fit.lacks.push_back(said("a lens that has {} mm", number_text(focal * 1e3, 3)));
  }
  std::string lacks;
  for (const std::string& one : fit.lacks) lacks += (lacks.empty() ? "" : "; ") + one;
  const int asked = fit.asked, missing = static_cast<int>(fit.lacks.size());
  settle(level, {static_cast<double>(missing), 0.0}, true);
  level.formula = said("{} of {} asked for: {} x {} at {} per second, crop {}{}", asked - missing, asked,
                       mode->width, mode->height, number_text(mode->rate, 6), number_text(mode->crop, 3),
                       mode->autofocus ? "" : ", no autofocus");
  level.sentence = missing ? said("The mode lacks what the shot needs: {}.", lacks)
                           : std::string("The mode gives what the shot needs.");
  if (mode->crop > 1.0 + 1e-9)
    level.sentence += said(" Its crop makes {} mm look like {} mm.", number_text(c.camera.focal * 1e3, 3),
                           number_text(c.camera.focal * mode->crop * 1e3, 3));
  return level;
}

std::optional<Level> camera_locked(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  const char* names[] = {"white", "exposure", "focus", "stabiliser off"};
  int open = 0;
  std::string which;
  for (std::size_t i = 0; i < 4; ++i) {
    if (c.camera.locked[i] == true) continue;
    ++open;
    which += std::string(which.empty() ? "" : ", ") + names[i];
  }
  settle(level, {static_cast<double>(open), 0.0}, true);
  level.formula = said("{} of 4 locked", 4 - open);
  level.sentence = open ? said("Not locked, or not said to be: {}.", which)
                        : std::string("White, exposure and focus are locked, the stabiliser is off.");
  return level;
}

std::optional<Level> camera_media(const ShotContext& c, const LevelStart& start) {
  Level level = start();
  const CameraBody* body = by_id(c.project.cameras, c.camera.camera);
  double has_gigabytes = 0.0, has_watt_hours = 0.0;
  for (const auto& m : c.project.media) has_gigabytes += m->holding.owned ? m->amount * m->holding.count : 0.0;
  for (const auto& b : c.project.batteries)
    has_watt_hours += b->holding.owned ? b->amount * b->holding.count : 0.0;
  // What every shot with this camera writes and draws; without a bit rate somewhere the cards cannot be told.
  struct Drawn {
    double gigabytes = 0.0, watt_hours = 0.0;
  };
  Drawn all, own;
  bool rates_known = true;
  int shots = 0;
  for (const auto& other : c.project.shots) {
    if (!other->camera || other->camera->camera != c.camera.camera || other->takes_planned.value_or(0.0) <= 0.0)
      continue;
    ++shots;
    const CameraMode* mode = nullptr;
    if (body)
      for (const CameraMode& m : body->modes)
        if (m.id == other->camera->mode) mode = &m;
    rates_known = rates_known && mode && mode->megabits_per_s > 0.0;
    const double running = std::max(0.0, other->set_time()) + lead_seconds;
    const auto written = media({mode ? mode->megabits_per_s : 0.0, running});
    const Drawn part{*other->takes_planned * (written ? written->gigabytes : 0.0),
                     *other->takes_planned * (running + 60.0 * other->reset_minutes) *
                         (body ? body->watts.value_or(0.0) : 0.0) / 3600.0};
    all.gigabytes += part.gigabytes, all.watt_hours += part.watt_hours;
    if (other.get() == &c.shot) own = part;
  }
  const bool card = rates_known && has_gigabytes > 0.0,
             battery = body && body->watts.value_or(0.0) > 0.0 && has_watt_hours > 0.0;
  if (!card && !battery)
    return unknown(level, "the kit says nothing of bit rate and cards, or watts and batteries");
  const double full = card ? 100.0 * all.gigabytes / has_gigabytes : 0.0,
               drained = battery ? 100.0 * all.watt_hours / has_watt_hours : 0.0;
  settle(level, {std::max(full, drained), 0.0});
  const bool cards = full >= drained;
  const std::string counted = shots == 1 ? said("its one shot") : said("its {} shots", shots);
  level.formula =
      cards ? said(
                  "{}, takes x (set time + 10 s) x bit rate: {} GB of {} GB = {} %; this one {} takes x ({} s + "
                  "10 s) = "
                  "{} GB",
                  counted, number_text(all.gigabytes, 3), number_text(has_gigabytes), number_text(full, 3),
                  number_text(*c.shot.takes_planned), number_text(c.end, 3), number_text(own.gigabytes, 3))
            : said(
                  "{}, takes x (set time + 10 s + reset) x {} W: {} Wh of {} Wh = {} %; this one {} takes x ({} s "
                  "+ 10 s "
                  "+ {} min) = {} Wh",
                  counted, number_text(*body->watts), number_text(all.watt_hours, 3), number_text(has_watt_hours),
                  number_text(drained, 3), number_text(*c.shot.takes_planned), number_text(c.end, 3),
                  number_text(c.shot.reset_minutes, 3), number_text(own.watt_hours, 3));
  level.sentence =
      said("The takes planned with this camera use {} % of the {}, this shot {} %.",
           number_text(std::max(full, drained), 2), cards ? "card space" : "batteries",
           number_text(100.0 * (cards ? own.gigabytes / has_gigabytes : own.watt_hours / has_watt_hours), 2));
  return level;
}

std::optional<Level> camera_iso(const ShotContext& c, const LevelStart& start) {
  const auto rule = c.project.rule<ExposureRule>(c.shot);
  const bool stops_down = rule == ExposureRule::stop_down;
  const double limit = stops_down ? c.optics.iso_high / 4 : c.project.iso_limit.value_or(1600.0);
  Level level = start({{}, limit}, "house rule exposure: " + rule_name(rule) + "; common practice, no source");
  settle(level, {c.camera.iso, 0.0});
  level.formula =
      stops_down
          ? said("ISO {} against a quarter of the camera's highest, {} / 4 = {}", number_text(c.camera.iso, 6),
                 number_text(c.optics.iso_high, 6), number_text(limit, 6))
          : said("ISO {} against this project's limit of {}", number_text(c.camera.iso, 6), number_text(limit, 6));
  level.sentence =
      said("ISO {} of at most {}.", number_text(c.camera.iso, 6), number_text(level.band.high.value_or(limit), 6));
  if (c.optics.mode_known && (c.camera.iso < c.optics.iso_low - 1e-9 || c.camera.iso > c.optics.iso_high + 1e-9)) {
    level.state = State::out;
    level.sentence = said("This camera has ISO {} to {} only.", number_text(c.optics.iso_low, 6),
                          number_text(c.optics.iso_high, 6));
  }
  return level;
}

std::optional<Level> camera_shutter(const ShotContext& c, const LevelStart& start) {
  const auto rule = c.project.rule<ShutterRule>(c.shot);
  const Band band = rule == ShutterRule::half    ? Band{160.0, 200.0}
                    : rule == ShutterRule::crisp ? Band{{}, 90.0}
                                                 : Band{};
  Level level = start(band, "house rule shutter: " + rule_name(rule) + "; common practice, no source");
  const double angle = 360.0 * c.optics.rate * c.camera.shutter_time;
  settle(level, {angle, 0.0});
  level.formula = said("360 x {} x {} s = {:.0f} degrees", number_text(c.optics.rate, 6),
                       number_text(c.camera.shutter_time), angle);
  level.sentence = said("{} at {} per second is {:.0f} degrees.", shutter_text(c.camera.shutter_time),
                        number_text(c.optics.rate, 6), angle);
  if (rule == ShutterRule::flicker_safe) {
    const auto f = flicker({.mains_hz = c.project.mains_hz, .depth = 1.0, .time = c.camera.shutter_time});
    level.formula += said("; 2 x {} Hz x {} s = {:.3f} cycles of the lamps", number_text(c.project.mains_hz),
                          number_text(c.camera.shutter_time), f->cycles);
    if (!f->safe) level.state = State::out;
    level.sentence += f->safe ? " Safe from flicker." : " Lamps on the mains would flicker.";
  }
  if (angle > 360.0 * (1 + 1e-9)) {
    level.state = State::out;
    level.sentence += " No shutter stays open longer than a frame.";
  }
  return level;
}

}  // namespace cinnabar
