#include "cinnabar/formats/settings_cards.h"

#include <fmt/format.h>

#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/base/words.h"
#include "cinnabar/project/model/track_target.h"
#include "cinnabar/scene/view.h"

namespace cinnabar {
namespace {

class ShotCard {
 public:
  void line(const std::string& what, const std::string& value) {
    text_ += fmt::format("  {:<16}{}\n", what, value);
  }
  [[nodiscard]] const std::string& text() const { return text_; }

 private:
  std::string text_;
};

void camera_lines(ShotCard& card, const Project& project, const Shot& shot, Units units) {
  const ShotCamera& c = *shot.camera;
  const ShotOptics o = shot_optics(project, shot);
  const auto len = [units](double metres) { return length_text(metres, units); };
  if (const CameraBody* body = by_id(project.cameras, c.camera))
    card.line("Camera", name_or(body->name, body->id));
  card.line("Recording", said("{} x {}, {} per second", o.width, o.height, number_text(o.rate, 6)));
  card.line("Shutter",
            said("{}, {} degrees", shutter_text(c.shutter_time), number_text(360.0 * c.shutter_time * o.rate, 4)));
  card.line("ISO", number_text(c.iso, 6));
  card.line("White", number_text(c.balance_k, 6) + " K");
  if (const LensSpec* lens = by_id(project.lenses, c.lens)) card.line("Lens", name_or(lens->name, lens->id));
  card.line("Focal length", number_text(1e3 * c.focal, 4) + " mm");
  card.line("Aperture", "f/" + number_text(c.f_number, 3));
  if (c.nd_stops > 0.0) card.line("Filter", said("neutral density, {} stops", number_text(c.nd_stops, 3)));
  card.line("Focus", said("{} from the lens", len(c.focus)));
  const char* names[] = {"white", "exposure", "focus", "stabiliser off"};
  std::string locks, open;
  for (std::size_t i = 0; i < c.locked.size(); ++i) {
    std::string& list = c.locked[i].value_or(false) ? locks : open;
    list += (list.empty() ? "" : ", ") + std::string(names[i]);
  }
  if (!locks.empty()) card.line("Locked", locks);
  if (!open.empty()) card.line("Still to lock", open);
}

void light_lines(ShotCard& card, const Project& project, const Shot& shot) {
  const Setup* setup = by_id(project.setups, shot.setup);
  if (!setup) return;
  for (const Light& light : setup->lights) {
    if (!light.on) continue;
    const std::string dimmer = shot.track("light." + light.id + ".dimmer")
                                   ? said("dimmed as it moves")
                                   : said("{} %", number_text(100 * light.dimmer, 3));
    std::string text = said("{}: {}, {} K", name_or(light.name, light.id), dimmer, number_text(light.kelvin, 5));
    if (light.gel_mired != 0.0) text += said(", gel of {} mired", signed_text(light.gel_mired, 0));
    card.line("Light", text);
  }
}

/// Tests worth their minute before the first take (common practice, no source).
void test_lines(ShotCard& card, const Project& project, const Shot& shot) {
  const ShotOptics o = shot_optics(project, shot);
  // Lamps on the mains pulse twice a period: only whole pulses let every picture get the same.
  const double pulses = 2.0 * project.mains_hz * shot.camera->shutter_time;
  if (std::abs(pulses - std::round(pulses)) > 0.01 || pulses < 0.5)
    card.line("Test", said("film every lamp for two seconds at {} and look for bands",
                           shutter_text(shot.camera->shutter_time)));
  if (o.rate > project.timeline_rate * 1.01)
    card.line("Test", said("play one take at {} per second: is it slow enough, is it sharp",
                           number_text(project.timeline_rate, 5)));
  if (shot.track("camera.focus")) card.line("Test", said("pull the focus once without a take, from mark to mark"));
}

}  // namespace

std::string settings_cards(const Project& project) {
  const Units units = project.units == "imperial" ? Units::imperial : Units::metric;
  std::string out;
  for (std::size_t i = 0; i < project.shots.size(); ++i) {
    const Shot& shot = *project.shots[i];
    ShotCard card;
    if (shot.camera) camera_lines(card, project, shot, units);
    light_lines(card, project, shot);
    for (const KeyedTrack& track : shot.tracks)
      if (track.keys.size() > 1)
        card.line("Moves", said("{}: {} to {} in {} s on the set", track.target, key_text(track, 0),
                                key_text(track, track.keys.size() - 1),
                                number_text(track.keys.back().first - track.keys.front().first, 4)));
    if (shot.camera) test_lines(card, project, shot);
    out +=
        fmt::format("{}{}\n{}", out.empty() ? "" : "\n", said("Shot {}, {}", i + 1, name_or(shot.name, shot.id)),
                    card.text().empty() ? "  " + said("no camera yet") + "\n" : card.text());
  }
  return out;
}

}  // namespace cinnabar
