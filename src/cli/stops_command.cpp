// Find the stops, on the command line.
#include <fmt/format.h>

#include "cinnabar/base/text.h"
#include "cinnabar/cli/commands.h"
#include "cinnabar/forecast/stops/find_stops.h"

namespace cinnabar {

int stops_command(const Answer& answer, const StopsArguments& a) {
  std::set<std::string> pins;
  if (!a.pin.empty())
    for (const std::string& pin : split(a.pin, ',')) {
      const auto& known = stops_pins();
      if (std::find(known.begin(), known.end(), pin) == known.end())
        return answer.refuse({"--pin " + pin, "cannot be held",
                              "give any of iso, aperture, shutter, rate, nd, lights, commas between"});
      pins.insert(pin);
    }
  const bool takes = !a.take.empty();
  const auto asked = shot_asked(a.file, a.shot, takes);
  if (!asked) return answer.refuse(asked.error());
  const Document& document = asked->in.document;
  const Forecaster forecaster;
  const auto found = find_stops(forecaster, document, asked->shot, pins);
  if (!found) return answer.refuse(found.error());
  if (takes) {
    const auto take =
        taken(a.take, found->list.size(),
              fmt::format("there is none: {} stops are missing", number_text(found->short_stops, 3)));
    if (!take) return answer.refuse(take.error());
    const StopsAnswer& one = found->list[*take];
    if (const auto kept = asked->store->apply(edit_between(document, one.after, one.title)); !kept)
      return answer.refuse(kept.error());
  }
  auto list = nlohmann::ordered_json::array();
  for (const StopsAnswer& one : found->list) {
    const Tally stands = tally(one.levels);
    answer.say(
        fmt::format("{}: {} level, {} leaning, {} out", one.title, stands.level, stands.leaning, stands.out));
    auto lights = nlohmann::ordered_json::array(), levels = nlohmann::ordered_json::array();
    for (const auto& l : one.lights)
      lights.push_back({{"id", l.id}, {"dimmer", l.dimmer}, {"place", {l.place.x, l.place.y, l.place.z}}});
    for (const Level& level : one.levels)
      levels.push_back({{"id", level.id}, {"state", state_name(level.state)}, {"value", maybe(level.value)}});
    list.push_back({{"title", one.title},
                    {"iso", one.iso},
                    {"f_number", one.f_number},
                    {"shutter_time", one.shutter_time},
                    {"rate", one.rate},
                    {"nd_stops", one.nd_stops},
                    {"light_stops", one.light_stops},
                    {"lights", lights},
                    {"levels", levels},
                    {"minutes", one.minutes},
                    {"gear", one.gear}});
  }
  if (found->list.empty())
    answer.say(fmt::format("No settings expose it: {} stops of light are {}.",
                           number_text(std::abs(found->short_stops), 3),
                           found->short_stops < 0 ? "too much" : "missing"));
  answer.give({{"answers", list}, {"short_stops", found->short_stops}});
  return 0;
}

}  // namespace cinnabar
