// Set-ups that no demo has: cameras that look down, products off the origin, tall frames, no backdrop, twenty
// lights, ramped time.
#pragma once
#include <cmath>
#include <ostream>

#include "judging.h"

namespace cinnabar::odd_setups {

/// A lit, labelled can on a table before a grey backdrop.
inline Json set_up() {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "matte"}, {"colour", {0.3, 0.3, 0.3}}}, true);
  Json& setup = doc["setups"][0];
  setup["surface"] = {
      {"width", 1.2}, {"depth", 0.8}, {"material", {{"kind", "matte"}, {"colour", {0.4, 0.4, 0.4}}}}};
  setup["backdrop"] = {{"kind", "flat"},
                       {"distance", 0.8},
                       {"width", 2.4},
                       {"height", 1.6},
                       {"material", {{"kind", "matte"}, {"colour", {0.2, 0.2, 0.2}}}}};
  setup["lights"].push_back(worlds::rectangle("key", {0.5, 0.6, 0.6}, {0, 0.05, 0}, 0.5, 0.7, 4000));
  setup["lights"].push_back(worlds::rectangle("ground", {-0.9, 0.7, -0.3}, {0, 0.4, -0.8}, 0.3, 0.3, 1500));
  setup["lights"][0]["kit"] = setup["lights"][1]["kit"] = "led";
  doc["kit"]["lights"][0]["ripple"] = 0.05;
  doc["kit"]["lights"][0]["count"] = 4;
  doc["house_rules"] = {{"backdrop", "colour"}};
  return doc;
}

/// Set-ups that no demo has.
struct Odd {
  const char* name;
  void (*change)(Json& doc);
};
inline void PrintTo(const Odd& odd, std::ostream* out) { *out << odd.name; }
inline const Odd odds[] = {
    {"plain", [](Json&) {}},
    {"looking_down",
     [](Json& doc) {
       doc["shots"][0]["camera"]["place"] = {0.0, 1.0, 0.02};
       doc["shots"][0]["camera"]["aim"] = {0, 0.05, 0};
     }},
    {"away_from_the_origin",
     [](Json& doc) {
       doc["shots"][0]["products"][0]["place"] = {0.25, 0, 0.15};
       doc["shots"][0]["products"][0].erase("on");
       doc["shots"][0]["camera"]["place"] = {0.25, 0.1, 1.0};
       doc["shots"][0]["camera"]["aim"] = {0.25, 0.05, 0.15};
       doc["shots"][0]["camera"]["focus"] = 0.82;
     }},
    {"tall_frame",
     [](Json& doc) {
       doc["shots"][0]["camera"]["roll_deg"] = 90;
       doc["deliverables"][0]["width"] = 1080, doc["deliverables"][0]["height"] = 1920;
     }},
    {"no_backdrop", [](Json& doc) { doc["setups"][0].erase("backdrop"); }},
    {"twenty_lights",
     [](Json& doc) {
       for (int i = 0; i < 18; ++i)
         doc["setups"][0]["lights"].push_back(worlds::rectangle(
             "l" + std::to_string(i), {0.9 * std::cos(i), 0.5, 0.9 * std::sin(i)}, {0, 0.05, 0}, 0.1, 0.1, 60));
     }},
    {"travelling",
     [](Json& doc) {
       const auto track = [](const std::string& target, const Json& from, const Json& to) {
         return Json{{"target", target}, {"profile", "s-curve"}, {"keys", {{0, from}, {1, to}}}};
       };
       const std::string product = "product." + doc["products"][0]["id"].get<std::string>();
       doc["shots"][0]["tracks"] = {track("camera.place", {-0.15, 0.1, 1.0}, {0.15, 0.2, 0.9}),
                                    track("camera.aim", {0, 0.05, 0}, {0.02, 0.05, 0}),
                                    track("camera.focal", 0.05, 0.055),
                                    track(product + ".place", {0, 0, 0}, {0.03, 0, 0}),
                                    track(product + ".tilt", 0, 4),
                                    track("light.key.place", {0.5, 0.6, 0.6}, {0.3, 0.6, 0.7}),
                                    track("crop", {0, 0, 1}, {0.05, 0.05, 0.9})};
       doc["kit"]["supports"].push_back({{"id", "rail"},
                                         {"name", "Rail"},
                                         {"kind", "slider"},
                                         {"travel", 1.0},
                                         {"speed", 1.5},
                                         {"acceleration", 4.0},
                                         {"repeat", 2e-5}});
       doc["shots"][0]["camera"]["on"] = "rail";
       doc["shots"][0]["camera"]["shake"] = {{"rms_deg", 0.02}, {"corner_hz", 1.5}, {"seed", 4}};
     }},
    {"ramped", [](Json& doc) {
       doc["shots"][0]["play"] = {{0, 1.0}, {0.6, 0.25}};
       doc["shots"][0]["tracks"] = Json::array(
           {{{"target", "turntable"}, {"profile", "linear"}, {"keys", {{0, -60}, {1.0, 20}}}},
            {{"target", "light.key.dimmer"}, {"profile", "linear"}, {"keys", {{0, 0.2}, {1.0, 1.0}}}}});
     }}};

}  // namespace cinnabar::odd_setups
