// The point meter on the command line: what is read at pins, and a light held against a hand meter.
#include <fmt/format.h>

#include "cinnabar/base/text.h"
#include "cinnabar/cli/commands.h"
#include "cinnabar/forecast/measures/pins.h"

namespace cinnabar {
namespace {

using Out = nlohmann::ordered_json;

/// A set second of the shot.
Expected<double> moment(const std::string& text, const Shot& shot) {
  return number_argument("--at", text, 0.0, shot.set_time() * (1 + 1e-9) + 1e-9);
}

}  // namespace

int pins_command(const Answer& answer, const PinsArguments& a) {
  const auto asked = shot_asked(a.file, a.shot, false);
  if (!asked) return answer.refuse(asked.error());
  const Project& project = asked->in.project;
  const Shot& shot = *project.shots[asked->shot];
  const auto at = moment(a.at, shot);
  if (!at) return answer.refuse(at.error());
  const Setup* setup = by_id(project.setups, shot.setup);
  const auto readings = read_pins(project, shot, *at);
  Out list = Out::array();
  for (std::size_t i = 0; i < readings.size(); ++i) {
    const PinReading& read = readings[i];
    const Pin& pin = setup->pins[i];
    Out by_light = Out::object();
    std::string shares;
    for (const auto& [id, lux] : read.by_light) {
      by_light[id] = lux;
      if (read.lux > 0.0 && lux > 0.005 * read.lux)
        shares += fmt::format("{}{} {:.0f} %", shares.empty() ? "" : ", ", id, 100.0 * lux / read.lux);
    }
    list.push_back(
        {{"id", pin.id},
         {"name", pin.name},
         {"illuminance_lx", read.lux},
         {"by_light", by_light},
         {"stops", maybe(read.stops)},
         {"kelvin", maybe(read.kelvin)},
         {"measured_lx", maybe(pin.measured ? std::optional(pin.measured->illuminance_lx) : std::nullopt)},
         {"off_stops", maybe(read.off_stops)}});
    answer.say(fmt::format("{:<20} {:>8} lx{}{}  {}{}", name_or(pin.name, pin.id), number_text(read.lux, 4),
                           read.stops ? "  " + signed_text(*read.stops, 1) + " stops" : "",
                           read.kelvin ? fmt::format("  {:.0f} K", *read.kelvin) : "", shares,
                           read.off_stops ? "  metered " + signed_text(*read.off_stops, 2) + " stops off" : ""));
  }
  if (readings.empty()) answer.say("No pins: this shot's set-up has none.");
  answer.give({{"pins", list}});
  return 0;
}

int calibrate_command(const Answer& answer, const PinsArguments& a) {
  const auto asked = shot_asked(a.file, a.shot, a.take);
  if (!asked) return answer.refuse(asked.error());
  const Project& project = asked->in.project;
  const auto at = moment(a.at, *project.shots[asked->shot]);
  if (!at) return answer.refuse(at.error());
  const auto found = calibrated(project, asked->shot, a.light, *at);
  if (!found) return answer.refuse(found.error());
  if (a.take) {
    const auto after = with_values(asked->in.document, found->changes);
    if (!after) return answer.refuse(after.error());
    if (const auto kept = asked->store->apply(edit_between(asked->in.document, *after, found->title)); !kept)
      return answer.refuse(kept.error());
  }
  answer.say(found->title);
  answer.say(
      fmt::format("{} times what was taken{}{}", number_text(found->output, 4),
                  found->grid_deg ? fmt::format("; a beam of {:g} degrees", *found->grid_deg) : "",
                  found->ambient_lx ? fmt::format("; the room {} lx", number_text(*found->ambient_lx, 3)) : ""));
  Out residuals = Out::array();
  for (const PinResidual& one : found->residuals) {
    answer.say(fmt::format("  {:<18} metered {} lx, forecast {} lx, then {} lx", one.pin,
                           number_text(one.measured, 4), number_text(one.before, 4), number_text(one.after, 4)));
    residuals.push_back(
        {{"pin", one.pin}, {"measured_lx", one.measured}, {"before_lx", one.before}, {"after_lx", one.after}});
  }
  answer.say(fmt::format("off by {} stops, then by {}", number_text(found->off_before, 2),
                         number_text(found->off_after, 2)));
  answer.give({{"light", a.light},
               {"output", found->output},
               {"lumens", found->lumens},
               {"grid_deg", maybe(found->grid_deg)},
               {"ambient_lx", maybe(found->ambient_lx)},
               {"off_before", found->off_before},
               {"off_after", found->off_after},
               {"residuals", residuals},
               {"changes", changes_json(found->changes)}});
  return 0;
}

}  // namespace cinnabar
