#include "cinnabar/project/making/starter_kits.h"

#include "cinnabar/project/making/new_shot.h"

namespace cinnabar {
namespace {

const char* phone = R"({
 "cameras": [{"id": "phone", "name": "Phone", "width": 0.15, "height": 0.072, "depth": 0.009, "sensor_width": 0.0098, "sensor_height": 0.0055, "iso_low": 50,
   "iso_high": 3200, "read_noise_e": 2.0, "full_well_e": 6000, "watts": 4, "modes": [
   {"id": "uhd-24", "width": 3840, "height": 2160, "rate": "24", "crop": 1.0, "readout": 0.012, "megabits_per_s": 50, "autofocus": true},
   {"id": "uhd-60", "width": 3840, "height": 2160, "rate": "60", "crop": 1.0, "readout": 0.009, "megabits_per_s": 90, "autofocus": true},
   {"id": "hd-240", "width": 1920, "height": 1080, "rate": "240", "crop": 1.3, "readout": 0.0035, "megabits_per_s": 120, "autofocus": false}]}],
 "lenses": [{"id": "phone-wide", "name": "Phone, main lens", "focal_low": 0.0068, "focal_high": 0.0068, "f_number_low": 1.8, "f_number_high": 1.8, "close_focus": 0.15},
   {"id": "phone-long", "name": "Phone, long lens", "focal_low": 0.0185, "focal_high": 0.0185, "f_number_low": 2.8, "f_number_high": 2.8, "close_focus": 0.4}],
 "supports": [{"id": "hand-turner", "name": "Turning plate by hand", "kind": "turntable", "load": 5, "rpm_low": 0.5, "rpm_high": 15}],
 "media": [{"id": "phone-space", "name": "Space in the phone", "gigabytes": 64}]})";
const char* hybrid = R"({
 "cameras": [{"id": "hybrid", "name": "Hybrid body", "width": 0.135, "height": 0.1, "depth": 0.08, "sensor_width": 0.0359, "sensor_height": 0.0202, "iso_low": 100,
   "iso_high": 12800, "read_noise_e": 2.5, "full_well_e": 50000, "watts": 9, "modes": [
   {"id": "uhd-24", "width": 3840, "height": 2160, "rate": "24", "crop": 1.0, "readout": 0.018, "megabits_per_s": 150, "autofocus": true},
   {"id": "uhd-50", "width": 3840, "height": 2160, "rate": "50", "crop": 1.0, "readout": 0.016, "megabits_per_s": 200, "autofocus": true},
   {"id": "hd-120", "width": 1920, "height": 1080, "rate": "120", "crop": 1.1, "readout": 0.007, "megabits_per_s": 120, "autofocus": false}]}],
 "lenses": [{"id": "zoom-28-70", "name": "28 to 70 mm", "focal_low": 0.028, "focal_high": 0.07, "f_number_low": 3.5, "f_number_high": 22, "close_focus": 0.38, "pupil_ratio": 1.2}],
 "media": [{"id": "card", "name": "Card", "gigabytes": 128}],
 "batteries": [{"id": "cell", "name": "Battery", "watt_hours": 16, "usable": 0.9, "count": 2}]})";
const char* one_light = R"({
 "lights": [{"id": "led-60", "name": "LED lamp, 60 W", "lux": {"illuminance_lx": 5600, "distance": 1.0}, "beam_deg": 55, "kelvin_low": 5600, "kelvin_high": 5600, "watts": 60, "ripple": 0.05}],
 "cards": [{"id": "foam", "name": "White foam board", "width": 0.5, "height": 0.7, "material": {"kind": "matte", "colour": [0.85, 0.85, 0.85]}, "count": 2}],
 "supports": [{"id": "stand", "name": "Light stand", "kind": "stand", "reach": 2.0, "load": 4, "count": 2},
   {"id": "table", "name": "Motor turntable", "kind": "turntable", "load": 5, "rpm_low": 1, "rpm_high": 3}]})";
const char* three_lights = R"({
 "lights": [{"id": "led-100", "name": "LED lamp, 100 W", "lumens": 9500, "beam_deg": 110, "kelvin_low": 2700, "kelvin_high": 6500, "watts": 100, "ripple": 0.02, "count": 2},
   {"id": "tube", "name": "LED tube, 0.6 m", "lumens": 1500, "kelvin_low": 2700, "kelvin_high": 10000, "watts": 20, "ripple": 0.02}],
 "lenses": [{"id": "macro-90", "name": "90 mm macro", "focal_low": 0.09, "focal_high": 0.09, "f_number_low": 2.8, "f_number_high": 22, "close_focus": 0.27}],
 "modifiers": [{"id": "box-60-90", "name": "Softbox, 60 x 90 cm", "shape": "rectangle", "width": 0.6, "height": 0.9, "transmittance": 0.7, "count": 2},
   {"id": "grid-40", "name": "Grid, 40 degrees", "grid_deg": 40}],
 "cards": [{"id": "foam", "name": "White foam board", "width": 0.5, "height": 0.7, "material": {"kind": "matte", "colour": [0.85, 0.85, 0.85]}, "count": 2},
   {"id": "flag", "name": "Black flag", "width": 0.45, "height": 0.6, "material": {"kind": "cloth", "colour": [0.02, 0.02, 0.02]}, "count": 2}],
 "supports": [{"id": "stand", "name": "Light stand", "kind": "stand", "reach": 2.4, "load": 5, "count": 4},
   {"id": "table", "name": "Motor turntable", "kind": "turntable", "load": 5, "rpm_low": 1, "rpm_high": 10}]})";
const char* studio = R"({
 "lights": [{"id": "led-300", "name": "LED lamp, 300 W", "lumens": 28000, "beam_deg": 100, "kelvin_low": 5600, "kelvin_high": 5600, "watts": 300, "ripple": 0.02, "count": 2},
   {"id": "strip", "name": "LED strip", "lumens": 11000, "kelvin_low": 2800, "kelvin_high": 6500, "watts": 90, "ripple": 0.02, "count": 2},
   {"id": "spot", "name": "Spot with framing leaves", "candela": 60000, "beam_deg": 20, "kelvin_low": 5600, "kelvin_high": 5600, "watts": 150, "ripple": 0.02}],
 "lenses": [{"id": "macro-100", "name": "100 mm macro", "focal_low": 0.1, "focal_high": 0.1, "f_number_low": 2.8, "f_number_high": 22, "close_focus": 0.28},
   {"id": "probe-24", "name": "24 mm probe", "focal_low": 0.024, "focal_high": 0.024, "f_number_low": 14, "f_number_high": 40, "close_focus": 0.02}],
 "modifiers": [{"id": "octa-90", "name": "Octa, 90 cm", "shape": "disc", "radius": 0.45, "transmittance": 0.65},
   {"id": "strip-box", "name": "Strip box, 30 x 120 cm", "shape": "rectangle", "width": 0.3, "height": 1.2, "transmittance": 0.65, "grid_deg": 40, "count": 2},
   {"id": "sheet", "name": "Diffusion sheet, 1 m", "shape": "rectangle", "width": 1.0, "height": 1.0, "transmittance": 0.5},
   {"id": "spot-lens", "name": "Spot lens, 10 cm", "shape": "disc", "radius": 0.05, "transmittance": 0.8, "front": {"kind": "lens", "source_radius": 0.008, "focal": 0.09, "distance": 0.06}},
   {"id": "snoot", "name": "Snoot for a round face", "front": {"kind": "tube", "length": 0.15, "mouth_radius": 0.03}}],
 "surfaces": [{"id": "acrylic", "name": "Black acrylic", "width": 1.0, "depth": 0.7, "material": {"kind": "gloss", "colour": [0.02, 0.02, 0.02], "ior": 1.49}},
   {"id": "board", "name": "White laminate", "width": 1.2, "depth": 0.8, "material": {"kind": "gloss", "colour": [0.82, 0.82, 0.8], "ior": 1.5}}],
 "backdrops": [{"id": "velvet", "name": "Black velvet", "width": 2.7, "height": 2.0, "material": {"kind": "cloth", "colour": [0.01, 0.01, 0.01]}},
   {"id": "grey-roll", "name": "Grey paper roll", "width": 2.7, "height": 2.2, "material": {"kind": "matte", "colour": [0.35, 0.35, 0.35]}},
   {"id": "green-roll", "name": "Green cloth for keying", "width": 2.0, "height": 2.0, "material": {"kind": "cloth", "colour": [0.05, 0.4, 0.08]}}],
 "cards": [{"id": "silver", "name": "Silver card", "width": 0.3, "height": 0.4, "material": {"kind": "metal", "colour": [0.9, 0.9, 0.9], "roughness": 0.35}, "count": 2},
   {"id": "flag", "name": "Black flag", "width": 0.45, "height": 0.6, "material": {"kind": "cloth", "colour": [0.02, 0.02, 0.02]}, "count": 4}],
 "supports": [{"id": "stand", "name": "Light stand", "kind": "stand", "reach": 2.8, "load": 8, "count": 6},
   {"id": "arm", "name": "Overhead arm", "kind": "arm", "reach": 2.6, "length": 1.4, "load": 4},
   {"id": "table", "name": "Motor turntable", "kind": "turntable", "load": 10, "rpm_low": 0.5, "rpm_high": 20},
   {"id": "rail", "name": "Motor slider", "kind": "slider", "travel": 0.8, "speed": 0.25, "acceleration": 0.5, "repeat": 0.0001}]})";

std::vector<const char*> parts_of(const std::string& id) {
  if (id == "phone-window") return {phone};
  if (id == "one-light") return {hybrid, one_light};
  if (id == "three-lights") return {hybrid, three_lights};
  if (id == "small-studio") return {hybrid, studio};
  return {};
}

}  // namespace

const std::vector<StarterKit>& starter_kits() {
  static const std::vector<StarterKit> kits{
      {"phone-window", "Phone and window", "a phone with two lenses, a plate turned by hand, daylight"},
      {"one-light", "One light", "a hybrid body with a zoom, one 60 W lamp, two stands, a turntable"},
      {"three-lights", "Three lights",
       "a hybrid body, zoom and macro, two lamps and a tube, four stands, a turntable"},
      {"small-studio", "Small studio",
       "two strong lamps, two strips, a spot, macro and probe, slider, arm, turntable"}};
  return kits;
}

std::optional<Document> with_starter_kit(const Document& document, const std::string& id) {
  const auto parts = parts_of(id);
  if (parts.empty()) return std::nullopt;
  Document next = document;
  for (const char* part : parts) {
    const Json kit = Json::parse(part);
    for (const auto& [list, items] : kit.items())
      for (const Json& item : items)
        if (const std::string key = "kit/" + list; !next.find(key, item.at("id").get<std::string>()))
          next.lists[key].push_back(std::make_shared<const Json>(item));
  }
  return next;
}

Json new_kit_item(const Document& document, const std::string& list) {
  static const std::map<std::string, std::pair<const char*, const char*>> plain{
      {"kit/cameras",
       {"camera",
        R"({"name": "Camera", "sensor_width": 0.0359, "sensor_height": 0.0202, "iso_low": 100, "iso_high": 12800,
          "read_noise_e": 3, "full_well_e": 40000, "modes": [{"id": "m1", "width": 3840, "height": 2160, "rate": "25",
          "crop": 1.0, "readout": 0.016, "megabits_per_s": 150, "autofocus": true}]})"}},
      {"kit/lenses",
       {"lens",
        R"({"name": "50 mm", "focal_low": 0.05, "focal_high": 0.05, "f_number_low": 2.8, "f_number_high": 22, "close_focus": 0.45})"}},
      {"kit/lights",
       {"light",
        R"({"name": "Light", "lumens": 8000, "kelvin_low": 5600, "kelvin_high": 5600, "watts": 100, "ripple": 0.02})"}},
      {"kit/supports", {"support", R"({"name": "Light stand", "kind": "stand", "reach": 2.0, "load": 5})"}},
      {"kit/modifiers",
       {"modifier",
        R"({"name": "Softbox", "shape": "rectangle", "width": 0.6, "height": 0.6, "transmittance": 0.7})"}},
      {"kit/cards",
       {"board",
        R"({"name": "White card", "width": 0.3, "height": 0.4, "material": {"kind": "matte", "colour": [0.85, 0.85, 0.85]}})"}},
      {"kit/surfaces",
       {"table",
        R"({"name": "Black acrylic", "width": 0.6, "depth": 0.6, "material": {"kind": "gloss", "colour": [0.02, 0.02, 0.02], "ior": 1.49}})"}},
      {"kit/backdrops",
       {"roll",
        R"({"name": "Paper roll", "width": 1.35, "height": 2.0, "material": {"kind": "matte", "colour": [0.5, 0.5, 0.5]}})"}},
      {"kit/media", {"card", R"({"name": "Card", "gigabytes": 128})"}},
      {"kit/batteries", {"cell", R"({"name": "Battery", "watt_hours": 16, "usable": 0.9})"}},
      {"kit/consumables", {"stuff", R"({"name": "Consumable", "unit": "pieces", "stock": 10})"}}};
  const auto& [stem, text] = plain.at(list);
  Json item = Json::parse(text);
  item["id"] = fresh_id(document, list, stem);
  return item;
}

}  // namespace cinnabar
