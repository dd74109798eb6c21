#include "cinnabar/formats/settings_cards.h"

#include <fmt/format.h>

#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/planning/hand_moves.h"
#include "cinnabar/planning/modes.h"
#include "cinnabar/planning/warming.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

void camera_lines(SettingsCard& card, const Project& project, const Shot& shot, Units units) {
  const ShotCamera& c = *shot.camera;
  const ShotOptics o = shot_optics(project, shot);
  const auto len = [units](double metres) { return length_text(metres, units); };
  if (const CameraBody* body = by_id(project.cameras, c.camera))
    card.rows.push_back({said("Camera"), name_or(body->name, body->id)});
  card.rows.push_back(
      {said("Recording"), said("{} x {}, {} per second", o.width, o.height, number_text(o.rate, 6))});
  if (!reaches_rate(project.timeline_rate, o.rate))
    card.rows.push_back({said("Plays"), slowing_text(o.rate, project.timeline_rate)});
  card.rows.push_back({said("Shutter"), said("{}, {} degrees", shutter_text(c.shutter_time),
                                             number_text(360.0 * c.shutter_time * o.rate, 4))});
  card.rows.push_back({said("ISO"), number_text(c.iso, 6)});
  card.rows.push_back({said("White"), number_text(c.balance_k, 6) + " K"});
  if (const LensSpec* lens = by_id(project.lenses, c.lens))
    card.rows.push_back({said("Lens"), name_or(lens->name, lens->id)});
  card.rows.push_back({said("Focal length"), number_text(1e3 * c.focal, 4) + " mm"});
  card.rows.push_back({said("Aperture"), "f/" + number_text(c.f_number, 3)});
  if (c.nd_stops > 0.0)
    card.rows.push_back(
        {said("Filter"), counted(c.nd_stops, "neutral density, {} stop", "neutral density, {} stops")});
  if (c.polariser)
    card.rows.push_back(
        {said("Polariser"), said("{} degrees from upright, {} stops", number_text(c.polariser->angle_deg),
                                 number_text(c.polariser->stops))});
  const CameraPose pose = camera_at(shot, 0.0);
  card.rows.push_back({said("Focus"), said("{} from the lens, {} from the sensor's mark", len(pose.focus),
                                           len(pose.from_sensor()))});
  const char* names[] = {"white", "exposure", "focus", "stabiliser off"};
  std::string locks, open;
  for (std::size_t i = 0; i < c.locked.size(); ++i) {
    std::string& list = c.locked[i].value_or(false) ? locks : open;
    list += (list.empty() ? "" : ", ") + std::string(names[i]);
  }
  if (!locks.empty()) card.rows.push_back({said("Locked"), locks});
  if (!open.empty()) card.rows.push_back({said("Still to lock"), open});
}

void light_lines(SettingsCard& card, const Project& project, const Shot& shot) {
  const Setup* setup = by_id(project.setups, shot.setup);
  if (!setup) return;
  for (const Light& light : setup->lights) {
    if (!light.on || light.beam) continue;  // the sun comes with its window
    const std::string dimmer = shot.track(Tracked::light_dimmer, light.id)
                                   ? said("dimmed as it moves")
                                   : said("{} %", number_text(100 * light.dimmer, 3));
    std::string text = said("{}: {}, {} K", name_or(light.name, light.id), dimmer, number_text(light.kelvin, 5));
    if (light.gel_mired != 0.0) text += said(", gel of {} mired", signed_text(light.gel_mired, 0));
    if (const double minutes = warm_up_minutes(project, light); minutes > 0.0)
      text += said(", warm for {} min before the first take", number_text(minutes, 3));
    card.rows.push_back({said("Light"), text});
  }
}

/// Tests worth their minute before the first take (common practice, no source).
void test_lines(SettingsCard& card, const Project& project, const Shot& shot) {
  const ShotOptics o = shot_optics(project, shot);
  // Lamps on the mains pulse twice a period: only whole pulses let every picture get the same.
  const double pulses = 2.0 * project.mains_hz * shot.camera->shutter_time;
  if (std::abs(pulses - std::round(pulses)) > 0.01 || pulses < 0.5)
    card.rows.push_back({said("Test"), said("film every lamp for two seconds at {} and look for bands",
                                            shutter_text(shot.camera->shutter_time))});
  if (o.rate > project.timeline_rate * 1.01)
    card.rows.push_back({said("Test"), said("play one take at {} per second: is it slow enough, is it sharp",
                                            number_text(project.timeline_rate, 5))});
  if (shot.track(Tracked::camera_focus))
    card.rows.push_back({said("Test"), said("pull the focus once without a take, from mark to mark")});
}

}  // namespace

SettingsCard settings_card(const Project& project, std::size_t index) {
  const Units units = project.units;
  const Shot& shot = *project.shots.at(index);
  SettingsCard card{said("Shot {}, {}", index + 1, name_or(shot.name, shot.id)), {}};
  if (shot.camera) camera_lines(card, project, shot, units);
  light_lines(card, project, shot);
  for (const HandMove& move : hand_moves(project, shot)) {
    card.rows.push_back({said("Moves"), move.what + ": " + marks_text(move)});
    for (const std::string& line : hand_lines(move)) card.rows.push_back({said("By hand"), line});
  }
  if (shot.camera) test_lines(card, project, shot);
  return card;
}

std::string settings_cards(const Project& project) {
  std::string out;
  for (std::size_t i = 0; i < project.shots.size(); ++i) {
    const SettingsCard card = settings_card(project, i);
    out += (out.empty() ? "" : "\n") + card.title + "\n";
    for (const auto& [what, value] : card.rows) out += fmt::format("  {:<16}{}\n", what, value);
    if (card.rows.empty()) out += "  " + said("no camera yet") + "\n";
  }
  return out;
}

}  // namespace cinnabar
