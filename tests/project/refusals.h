// The document's ranges and references, one row each: what is refused where, and what is let through.
#pragma once
#include "cinnabar/project/checks/validation.h"
#include "worlds.h"

namespace cinnabar::refusals {

inline Json full() {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "gloss"}, {"colour", {0.2, 0.3, 0.4}}, {"ior", 1.5}, {"roughness", 0.1}},
                       true);
  doc["products"][0]["features"] =
      Json::array({{{"id", "f"}, {"at", {0, 0.05, 0.04}}, {"detail", 0.001}, {"read", true}}});
  doc["setups"][0]["surface"] = {{"width", 1.0}, {"depth", 0.8}, {"material", {{"kind", "matte"}}}};
  doc["setups"][0]["backdrop"] = {
      {"kind", "sweep"}, {"distance", 1.0}, {"width", 2.0}, {"height", 1.5}, {"radius", 0.3}};
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 10.0}, {"kelvin", 5000}};
  doc["setups"][0]["lights"] =
      Json::array({worlds::rectangle("key", {0.5, 0.6, 0.4}, {0, 0.05, 0}, 0.5, 0.7, 4000),
                   {{"id", "t"},
                    {"place", {0, 1, 0}},
                    {"aim", {0, 0, 0}},
                    {"shape", "tube"},
                    {"radius", 0.02},
                    {"length", 1.2}},
                   {{"id", "d"}, {"place", {0, 1, 0}}, {"aim", {0, 0, 0}}, {"shape", "disc"}, {"radius", 0.2}},
                   {{"id", "b"}, {"place", {0, 1, 0}}, {"aim", {0, 0, 0}}, {"shape", "bare"}, {"radius", 0.02}}});
  doc["setups"][0]["pins"] = Json::array({{{"id", "p"},
                                           {"at", {0, 0.1, 0.05}},
                                           {"normal", {0, 0, 1}},
                                           {"measured", {{"illuminance_lx", 800.0}, {"at", "on the day"}}}}});
  doc["setups"][0]["cards"] =
      Json::array({{{"id", "c"}, {"place", {0, 1, 0}}, {"aim", {0, 0, 0}}, {"width", 0.3}, {"height", 0.3}}});
  doc["shots"][0]["tracks"] =
      Json::array({{{"target", "turntable"}, {"keys", {{0, 0}, {1, 90}}}},
                   {{"target", "light.key.dimmer"}, {"keys", {{0, 0}, {1, 1}}}},
                   {{"target", "camera.place"},
                    {"profile", "trapezoid"},
                    {"ramp", 0.2},
                    {"keys", {{0, {0, 0.1, 1}}, {1, {0.1, 0.1, 1}}}}},
                   {{"target", "crop"}, {"keys", {{0, {0, 0, 1}}, {1, {0.2, 0.2, 0.6}}}}}});
  doc["shots"][0]["camera"]["shake"] = {{"rms_deg", 0.1}, {"corner_hz", 1.5}, {"seed", 3}};
  doc["shots"][0]["needs"] = {
      {"facing", {{"bearing_deg", 0}, {"at", 1}, {"for", 0.5}}}, {"slow", 1.0}, {"length", 2.0}};
  doc["shots"][0]["play"] = {{0, 1}, {1, 0.5}};
  doc["takes"].push_back({{"id", "t1"}, {"shot", "s1"}, {"number", 1}, {"kept", true}, {"reasons", {"late"}}});
  doc["deliverables"][0]["words"] = {{"area", {0.1, 0.1, 0.3, 0.5}}, {"last_seconds", 2}};
  return doc;
}

struct Row {
  const char* pointer;
  Json value;
  const char* where = nullptr;   // where the fault is reported; the pointer itself when left out
  bool beyond_a_schema = false;  // a reference, one member against another, what a blob holds
};
inline std::vector<Row> table() {
  return {
      // The top.
      Row{"/format", "other"}, Row{"/version", 2}, Row{"/version", 0}, Row{"/version", 1.5},
      Row{"/project", nullptr}, Row{"/project", Json::array()}, Row{"/project/name", "  "},
      Row{"/project/name", 7}, Row{"/project/timeline_rate", "0"}, Row{"/project/timeline_rate", "24/0"},
      Row{"/project/allowed_time", 0}, Row{"/project/beats_per_minute", -96}, Row{"/project/mains_hz", "fifty"},
      Row{"/project/latitude", 91}, Row{"/project/units", "cubits"},
      Row{"/project/limits", Json{{"iso", 0}}, "/project/limits/iso"},
      Row{"/house_rules", Json{{"depth", "medium"}}, "/house_rules/depth"},
      Row{"/bands", Json{{"x", {{"low", "a"}}}}, "/bands/x/low"},
      Row{"/blobs", Json{{"p", {{"data", "@@@@"}}}}, "/blobs/p/data"},
      Row{"/blobs", Json{{"p", {{"type", "image/png"}, {"data", "Zm9v"}}}}, "/blobs/p/data", true},
      Row{"/blobs", Json{{"p", {{"type", "application/x-ies"}, {"data", "Zm9v"}}}}, "/blobs/p/data", true},
      Row{"/blobs", Json{{"p", {{"type", "model/stl"}, {"data", "Zm9v"}}}}, "/blobs/p/data", true},
      Row{"/shots", Json::object()}, Row{"/setups", "none"}, Row{"/takes", 3},
      // BriefAndKit
      Row{"/kit/lights/0/owned", "yes"}, Row{"/kit/lights/0/count", 1.5}, Row{"/kit/lights/0/price", -1},
      Row{"/kit/lights/0/beam_deg", 180}, Row{"/kit/lights/0/candela", -5},
      Row{"/kit/lights/0/lux", Json{{"illuminance_lx", 100}}, "/kit/lights/0/lux/distance"},
      Row{"/kit/lights/0/lux", Json{{"illuminance_lx", 100}, {"distance", 0}}, "/kit/lights/0/lux/distance"},
      Row{"/kit/lights/0/ies", "no such blob", nullptr, true}, Row{"/kit/supports/0/reach", 0},
      Row{"/project/means", Json{{"budget", -1}}, "/project/means/budget"},
      Row{"/project/means", Json{{"circuits", 1.5}}, "/project/means/circuits"}, Row{"/deliverables/0/longest", 0},
      Row{"/deliverables/0/loudness", 3}, Row{"/shots/0/plates", Json{1, 2}}, Row{"/shots/0/move", 4},
      Row{"/shots/0/sketch", Json{{"strokes", {{{0.1, 0.2}, {0.3}}}}}, "/shots/0/sketch/strokes"},
      Row{"/shots/0/sketch", Json{{"strokes", {{{0.1, 9}}}}}, "/shots/0/sketch/strokes"},
      Row{"/shots/0/sketch", Json{{"instead", 1}}, "/shots/0/sketch/instead"},
      // Products
      Row{"/products/0/id", ""}, Row{"/products/0/id", 3}, Row{"/products/0/mass", -1},
      Row{"/products/0/parts/0/profile", Json{{0, 0}}}, Row{"/products/0/parts/0/profile", Json{{0, 0}, {0, 1}}},
      Row{"/products/0/parts/0/profile", Json{{-0.1, 0}, {0.1, 1}}},
      Row{"/products/0/parts/0/profile", Json{{0.1, 0, 3, 0, 1}, {0.1, 1}}},
      Row{"/products/0/parts/0/wall", -0.001}, Row{"/products/0/parts/0/material/kind", "cheese"},
      Row{"/products/0/parts/0/material/colour", Json{0.1, 0.2}},
      Row{"/products/0/parts/0/material/colour", Json{0.1, 0.2, 1.1}},
      Row{"/products/0/parts/0/material/ior", 0.9}, Row{"/products/0/parts/0/material/roughness", 1.5},
      Row{"/products/0/label/part", "lid", nullptr, true}, Row{"/products/0/label/arc_deg", 0},
      Row{"/products/0/label/arc_deg", 361}, Row{"/products/0/label/low", 0.09, "/products/0/label/high", true},
      Row{"/products/0/label/stroke", 0}, Row{"/products/0/label/picture", "gone", nullptr, true},
      Row{"/products/0/features/0/at", Json{0, 0}}, Row{"/products/0/features/0/read", "yes"},
      // Kit
      Row{"/kit", Json::array()}, Row{"/kit/cameras/0/sensor_width", 0}, Row{"/kit/cameras/0/modes/0/rate", 25},
      Row{"/kit/cameras/0/modes/0/width", 0}, Row{"/kit/cameras/0/modes/0/crop", 0.5},
      Row{"/kit/cameras/0/modes/1/id", "m25", nullptr, true}, Row{"/kit/cameras/0/iso_high", 50, nullptr, true},
      Row{"/kit/lenses/0/focal_high", 0.02, nullptr, true}, Row{"/kit/lenses/0/f_number_low", -1},
      Row{"/kit/lights/0/kelvin_high", 100}, Row{"/kit/supports/0/load", -2},
      // Setups
      Row{"/setups/0/surface/width", 0}, Row{"/setups/0/backdrop/kind", "curtain"},
      Row{"/setups/0/backdrop/height", -1}, Row{"/setups/0/backdrop/tilt_deg", 90},
      Row{"/setups/0/ambient/illuminance_lx", -1}, Row{"/setups/0/lights/0/shape", "blob"},
      Row{"/setups/0/lights/0/place", Json{0, 0}}, Row{"/setups/0/lights/0/aim", "product"},
      Row{"/setups/0/lights/0/dimmer", -0.1}, Row{"/setups/0/lights/0/transmittance", 2},
      Row{"/setups/0/lights/0/kelvin", 10}, Row{"/setups/0/lights/0/gel_mired", -200, nullptr, true},
      Row{"/setups/0/lights/0/grid_deg", 180}, Row{"/setups/0/lights/0/grid_deg", 0},
      Row{"/setups/0/lights/0/on", 1}, Row{"/setups/0/lights/0/kit", "lost", nullptr, true},
      Row{"/setups/0/lights/1/length", 0}, Row{"/setups/0/lights/2/radius", -0.2},
      Row{"/setups/0/lights/3/radius", nullptr}, Row{"/setups/0/cards/0/width", 0},
      Row{"/setups/0/pins/0/at", Json{0, 0}}, Row{"/setups/0/pins/0/id", 7}, Row{"/setups/0/pins/0/normal", "up"},
      Row{"/setups/0/pins/0/measured", Json{{"at", "noon"}}, "/setups/0/pins/0/measured/illuminance_lx"},
      Row{"/setups/0/pins/0/measured/illuminance_lx", -1},
      Row{"/setups/0/house_rules", Json{{"shutter", "x"}}, "/setups/0/house_rules/shutter"},
      // Shots
      Row{"/shots/0/setup", nullptr}, Row{"/shots/0/size", "huge"}, Row{"/shots/0/screen_time", 0},
      Row{"/shots/0/screen_time", 1e9}, Row{"/shots/0/products/0/product", "ghost", nullptr, true},
      Row{"/shots/0/products/0/on", "ghost", nullptr, true}, Row{"/shots/0/products/0/place", Json{0, 0, "z"}},
      Row{"/shots/0/camera/camera", "ghost", nullptr, true}, Row{"/shots/0/camera/lens", "ghost", nullptr, true},
      Row{"/shots/0/camera/mode", "m24", nullptr, true}, Row{"/shots/0/camera/focal", 0},
      Row{"/shots/0/camera/focus", 0.05, nullptr, true}, Row{"/shots/0/camera/f_number", 0},
      Row{"/shots/0/camera/shutter_time", 0}, Row{"/shots/0/camera/iso", 0}, Row{"/shots/0/camera/nd_stops", 99},
      Row{"/shots/0/camera/balance_k", 0},
      Row{"/shots/0/camera/locked", Json{{"white", "yes"}}, "/shots/0/camera/locked/white"},
      Row{"/shots/0/play", Json{{0, 1}, {0, 1}}, nullptr, true}, Row{"/shots/0/play", Json{{0, -1}}},
      Row{"/shots/0/effects", Json::array({{{"id", "e"}, {"kind", "volcano"}}}), "/shots/0/effects/0/kind"},
      Row{"/shots/0/effects", Json::array({{{"kind", "pour"}}}), "/shots/0/effects/0/id"},
      Row{"/shots/0/effects", Json::array({{{"id", "e"}, {"kind", "pour"}, {"head", -1}}}),
          "/shots/0/effects/0/head"},
      Row{"/shots/0/effects", Json::array({{{"id", "e"}, {"kind", "drop"}, {"diameter", 5.0}}}),
          "/shots/0/effects/0/diameter", true},
      Row{"/shots/0/effects", Json::array({{{"id", "e"}, {"kind", "layers"}, {"heights", 3}}}),
          "/shots/0/effects/0/heights"},
      Row{"/shots/0/effects", Json::array({{{"id", "e"}, {"kind", "pieces"}, {"pieces", 10000}}}),
          "/shots/0/effects/0/pieces"},
      Row{"/shots/0/effects",
          Json::array({{{"id", "e"}, {"kind", "pieces"}, {"pieces", 1000}},
                       {{"id", "f"}, {"kind", "pieces"}, {"pieces", 1000}},
                       {{"id", "g"}, {"kind", "pieces"}, {"pieces", 1}}}),
          nullptr, true},
      Row{"/shots/0/effects", Json::array({{{"id", "e"}, {"kind", "pour"}, {"needs", {{"event", "erupts"}}}}}),
          "/shots/0/effects/0/needs/event"},
      Row{"/shots/0/tracks/0/target", "elevator", nullptr, true}, Row{"/shots/0/tracks/0/profile", "wobbly"},
      Row{"/shots/0/tracks/1/target", "turntable", nullptr, true},
      Row{"/shots/0/tracks/1/keys", Json{{0, 2}}, nullptr, true}, Row{"/shots/0/needs/slow", 0},
      Row{"/shots/0/tracks/2/keys", Json{{0, 1}, {1, 2}}, nullptr, true},
      Row{"/shots/0/tracks/2/keys", Json{{0, {0, 0}}}}, Row{"/shots/0/tracks/2/keys", Json{{0, {0, 0, "z"}}}},
      Row{"/shots/0/tracks/2/keys", Json{{1, {0, 0, 1}}, {0, {0, 0, 1}}}, nullptr, true},
      Row{"/shots/0/tracks/2/keys", Json{{0, {0, 0, 1e5}}}, nullptr, true}, Row{"/shots/0/tracks/2/keys", nullptr},
      Row{"/shots/0/tracks/2/ramp", 0.7}, Row{"/shots/0/tracks/2/target", "product.ghost.place", nullptr, true},
      Row{"/shots/0/tracks/2/target", "light.ghost.aim", nullptr, true},
      Row{"/shots/0/tracks/2/target", "card.ghost.place", nullptr, true},
      Row{"/shots/0/tracks/2/target", "light..place", nullptr, true},
      Row{"/shots/0/tracks/3/keys", Json{{0, {0.5, 0, 0.6}}}, nullptr, true},
      Row{"/shots/0/tracks/3/keys", Json{{0, {0, 0, 0}}}, nullptr, true}, Row{"/shots/0/camera/shake", 3},
      Row{"/shots/0/camera/shake/rms_deg", -1}, Row{"/shots/0/camera/shake/corner_hz", 0},
      Row{"/shots/0/camera/shake/seed", 0.5}, Row{"/shots/0/needs/facing/at", -1},
      Row{"/shots/0/takes_planned", 2.5}, Row{"/products/0/label", 3}, Row{"/setups/0/surface/sheet", "glass"},
      Row{"/shots/0/tracks", 7}, Row{"/shots/0/tracks/0", "turn"}, Row{"/shots/0/tracks/1/keys", "late"},
      Row{"/shots/0/needs", Json::array()}, Row{"/products/0/parts/0", false}, Row{"/takes/0/number", 0},
      Row{"/takes/0/kept", "yes"}, Row{"/takes/0/reasons", Json{1}}, Row{"/deliverables/0/height", 0},
      Row{"/deliverables/0/words/area", Json{0, 0, 2, 1}}};
}

struct Good {
  const char* pointer;
  Json value;
};
inline std::vector<Good> good() {
  return {Good{"/project/timeline_rate", "24000/1001"},
          Good{"/project/timeline_rate", "23.976"},
          Good{"/project/mood", "dreamy"},
          Good{"/project/new_field", Json{{"a", 1}}},
          Good{"/setups/0/lights/0/dimmer", 0},
          Good{"/setups/0/lights/0/on", false},
          Good{"/setups/0/lights/0/place", Json{0, -0.4, 0}},
          Good{"/setups/0/backdrop", Json{{"kind", "none"}}},
          Good{"/shots/0/products", Json::array()},
          Good{"/shots/0/camera/nd_stops", 3},
          Good{"/shots/0/camera/shutter_time", 1.0},
          Good{"/shots/0/house_rules", Json{{"shutter", "crisp"}}},
          Good{"/products/0/parts/0/profile", Json{{0.02, 0.0}, {0.03, 0.1}}},
          Good{"/products/0/parts/0/wall", 0.002},
          Good{"/shots/0/sketch", Json{{"strokes", {{{0.1, 0.2}, {0.3, -0.1}}}}, {"instead", true}}},
          Good{"/kit/lights/0/lux", Json{{"illuminance_lx", 100}, {"distance", 2}}},
          Good{"/project/means", Json{{"budget", 250}, {"room_width", 3}}},
          Good{"/bands", Json{{"motion.smear", {{"low", nullptr}, {"high", 3}}}}},
          Good{"/blobs", Json{{"p", {{"type", "image/png"}, {"data", worlds::dot_png}}}}}};
}

}  // namespace cinnabar::refusals
