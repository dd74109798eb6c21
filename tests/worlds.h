// Small worlds for tests: documents with one thing in them, to be changed by each test.
#pragma once
#include <vector>

#include <gtest/gtest.h>

#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/document/document.h"
#include "cinnabar/project/model/entities.h"

namespace cinnabar::worlds {

/// A project with an empty set-up "A", one shot "s1" without products, a full kit and no lights.
inline Json bare() {
  return Json::parse(R"({
  "format": "cinnabar-project", "version": 1,
  "project": {"name": "Test", "timeline_rate": "25", "allowed_time": 10.0, "mains_hz": 50},
  "deliverables": [{"id": "wide", "name": "16:9", "width": 1920, "height": 1080}],
  "products": [],
  "kit": {
    "cameras": [{"id": "body", "sensor_width": 0.036, "sensor_height": 0.02025, "iso_low": 100, "iso_high": 12800,
      "modes": [{"id": "m25", "width": 3840, "height": 2160, "rate": "25", "crop": 1.0},
                {"id": "m100", "width": 1920, "height": 1080, "rate": "100", "crop": 1.0}]}],
    "lenses": [{"id": "fifty", "focal_low": 0.05, "focal_high": 0.05, "f_number_low": 2.0, "f_number_high": 22}],
    "lights": [{"id": "led", "lumens": 6000, "kelvin_low": 3000, "kelvin_high": 6000, "watts": 100}],
    "supports": [{"id": "table", "kind": "turntable", "load": 5.0, "rpm_low": 1, "rpm_high": 10}]},
  "setups": [{"id": "A", "name": "Bench", "lights": [], "cards": []}],
  "shots": [{"id": "s1", "name": "One", "setup": "A", "size": "close", "screen_time": 2.0, "products": [],
    "camera": {"camera": "body", "mode": "m25", "lens": "fifty", "focal": 0.05, "place": [0, 0.05, 1.0], "aim": [0, 0.05, 0],
               "focus": 1.0, "f_number": 5.6, "shutter_time": 0.02, "iso": 400, "balance_k": 5600}}],
  "takes": []
})");
}

/// A cylinder of one material, 0.1 m high, radius 0.04, standing on the origin of the first shot.
inline void add_cylinder(Json& doc, const Json& material, bool label = false) {
  Json product{{"id", "can"},
               {"name", "Can"},
               {"mass", 0.5},
               {"parts",
                {{{"id", "body"},
                  {"profile", {{0.0, 0.0}, {0.04, 0.0}, {0.04, 0.1}, {0.0, 0.1}}},
                  {"material", material}}}}};
  if (label)
    product["label"] = {{"part", "body"},
                        {"bearing_deg", 0},
                        {"arc_deg", 90},
                        {"low", 0.02},
                        {"high", 0.08},
                        {"stroke", 0.002},
                        {"material", {{"kind", "paper"}, {"colour", {0.8, 0.8, 0.8}}}}};
  doc["products"].push_back(product);
  doc["shots"][0]["products"].push_back(
      {{"product", "can"}, {"place", {0, 0, 0}}, {"turn_deg", 0}, {"on", "table"}});
}

/// A PNG of one pixel, in base64.
inline constexpr const char* dot_png =
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==";

inline Json rectangle(const std::string& id, const Json& place, const Json& aim, double width, double height,
                      double lumens) {
  return {{"id", id},       {"name", id},       {"place", place},   {"aim", aim},    {"shape", "rectangle"},
          {"width", width}, {"height", height}, {"lumens", lumens}, {"kelvin", 5600}};
}

inline Json card(const std::string& id, const Json& place, const Json& aim, double width, double height,
                 const Json& material = {{"kind", "cloth"}, {"colour", {0, 0, 0}}}) {
  return {{"id", id},       {"place", place},   {"aim", aim},
          {"width", width}, {"height", height}, {"material", material}};
}
inline Json matte(double r, double g, double b) { return {{"kind", "matte"}, {"colour", {r, g, b}}}; }

/// A track as a document has it.
inline Json moving(const char* target, const char* profile, const Json& keys) {
  return {{"target", target}, {"profile", profile}, {"keys", keys}};
}
/// The bare world for so long, its camera on a slide to the right, with these tracks.
inline Json with_tracks(std::vector<Json> tracks, double screen_time = 2.0) {
  Json doc = bare();
  doc["shots"][0]["screen_time"] = screen_time;
  doc["shots"][0]["camera"]["slide_axis"] = {1, 0, 0};
  doc["shots"][0]["tracks"] = std::move(tracks);
  return doc;
}

inline Project read(const Json& doc) {
  const auto faults = validate(doc);
  for (const auto& f : faults) ADD_FAILURE() << f.path << " " << f.message << "; " << f.mend;
  ProjectReader reader;
  return reader.read(*Document::from_json(doc));
}

}  // namespace cinnabar::worlds
