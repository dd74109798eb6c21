#include "cinnabar/effects/kinds.h"

#include <algorithm>
#include <cmath>

#include "cinnabar/base/words.h"
#include "cinnabar/effects/leaning.h"

namespace cinnabar {
namespace {

constexpr Range metres{0.0, 100.0, true, false}, metres_or_none{0.0, 100.0}, volumes{0.0, 1.0, true, false},
    bearings{-3600.0, 3600.0}, temperatures{-20.0, 60.0};

}  // namespace

const std::vector<LiquidRow>& liquids() {
  static const std::vector<LiquidRow> rows{
      {"water", 998, 0.001, 0.073, {0.4, 0.06, 0.02}, false, {1, 1, 1}, 1.333},
      {"milk", 1030, 0.002, 0.047, {}, true, {0.85, 0.83, 0.78}, 1.34},
      {"cream", 1000, 0.02, 0.045, {}, true, {0.85, 0.8, 0.7}, 1.34},
      {"oil", 915, 0.07, 0.032, {2, 4, 40}, false, {1, 1, 1}, 1.47},
      {"half-glycerin", 1130, 0.006, 0.0695, {0.4, 0.1, 0.05}, false, {1, 1, 1}, 1.4},
      {"thin-syrup", 1330, 0.15, 0.07, {5, 25, 120}, false, {1, 1, 1}, 1.42},
      {"honey", 1400, 10, 0.06, {6, 60, 400}, false, {1, 1, 1}, 1.49}};
  return rows;
}
const LiquidRow* liquid_row(const std::string& name) {
  for (const LiquidRow& row : liquids())
    if (name == row.name) return &row;
  return nullptr;
}

Caution peril_words(Peril peril) {
  switch (peril) {
    case Peril::glass:
      return {said("Glass"),
              said("Eye protection; nothing thin held by hand where something hits or turns; sweep before "
                   "the next take.")};
    case Peril::wet_floor:
      return {said("Slips"),
              said("Sheet under the table, wipe after every take; glycerin and oil are worse than water.")};
    case Peril::water_by_mains:
      return {said("Water and electricity"), said("Residual-current protection, connectors off the floor and "
                                                  "looped below the socket, dry hands, lamps "
                                                  "tethered and out of splash range.")};
    case Peril::strings:
      return {said("Strings and slings"),
              said("Eye protection; hair and sleeves tied back; nobody in line with what is stretched.")};
    case Peril::blades:
      return {said("Blades and needles"), said("Eye protection; cut away from hands; count them in and out.")};
    case Peril::propellant:
      return {said("Air dusters"),
              said("Flammable propellant, frostbite when tilted; no flame or hot lamp near.")};
    case Peril::powder:
      return {said("Powders"),
              said("They can be inhaled, and some explode when airborne: masks, no flame or hot lamp.")};
    case Peril::fog:
      return {said("Smoke and fog"), said("Ventilate, mind asthma and smoke alarms, only the maker's fluid.")};
    case Peril::heat:
      return {said("Hot things"), said("Scalds: a second person, a clear way, and lids on until the take.")};
    case Peril::flame:
      return {said("Fire"),
              said("Not for a home set: a licensed technician, a permit, an extinguisher and a watch.")};
    case Peril::food:
      break;
  }
  return {said("Food"), said("Glued, oiled or sprayed food is not eaten.")};
}

const std::vector<EffectKind>& effect_kinds() {
  // Of several kinds.
  static const EffectMeasure density{"density", "Density", "kg/m3", {1.0, 20000.0}, 998.0},
      viscosity{"viscosity", "Viscosity", "Pa s", {0.0, 1e4}, 0.001},
      surface_tension{"surface_tension", "Surface tension", "N/m", {0.0, 1.0, true, false}, 0.073},
      bearing{"bearing_deg", "Toward", "degrees", bearings, 90.0},
      terminal_speed{"terminal_speed", "Terminal speed", "m/s, 0: no drag", {0.0, 1000.0}, 0.0},
      restitution{"restitution", "Bounces by", "share of speed", {0.0, 1.0, false, true}, 0.4};
  static const std::vector<EffectKind> kinds{
      {"pour",
       "Pour",
       "a liquid over a lip or out of a neck, into a vessel or onto what is under it",
       {{"width", "Lip width", "m", metres, 0.03},
        {"head", "Head over it", "m", metres_or_none, 0.01},
        {"leave_deg", "Leaves down by", "degrees", {0.0, 90.0}, 30.0},
        {"volume", "Volume", "m3", volumes, 5e-5},
        bearing,
        {"flow", "Flow as timed", "m3/s, 0: by the lip", {0.0, 0.1}, 0.0},
        {"neck_diameter", "Neck", "m, 0: over a lip", {0.0, 1.0}, 0.0},
        {"foam_share", "Head of foam", "share", {0.0, 10.0}, 0.0},
        {"foam_half_life", "Foam halves in", "s", {1.0, 1e6}, 90.0, false, "foam_share"},
        density,
        viscosity,
        surface_tension},
       poured_out,
       true},
      {"splash",
       "Drop in",
       "a thing let fall into a liquid",
       {{"diameter", "Size", "m", metres, 0.03, false, "", true},
        {"mass", "Mass", "kg", {0.0, 1000.0, true, false}, 0.015},
        {"energy_share", "Goes into the hole", "share", positive_share, 0.3},
        density},
       splashed,
       true,
       true},
      {"drop",
       "Drop",
       "one drop onto a dry top or a film",
       {{"diameter", "Size", "m", {0.0, 0.02, true, false}, 0.003},
        {"film", "Film it meets", "m, 0: dry", {0.0, 0.1}, 0.0},
        density,
        viscosity,
        surface_tension},
       dropped,
       true},
      {"throw",
       "Throw",
       "a thing thrown by hand",
       {{"speed", "Speed", "m/s", {0.0, 100.0}, 3.0},
        {"angle_deg", "Upward by", "degrees", {-90.0, 90.0}, 60.0},
        {"diameter", "Size", "m", metres, 0.03, false, "", true},
        bearing,
        terminal_speed,
        restitution,
        {"volume", "Of a liquid", "m3, 0: a thing", {0.0, 0.1}, 0.0}},
       thrown,
       false,
       true},
      {"pieces",
       "Pieces",
       "pieces strewn from a hand, falling and bouncing",
       {{"pieces", "Pieces", "", {1.0, 1000.0, false, false, true}, 12.0},
        {"size", "Size", "m", metres, 0.015, false, "", true},
        {"spread", "Strewn within", "m", metres_or_none, 0.04},
        {"height_spread", "Height by", "m", metres_or_none, 0.03},
        {"speed_spread", "Up or down by", "m/s", {0.0, 100.0}, 0.2},
        terminal_speed,
        restitution,
        {"friction", "Friction", "", {0.0, 10.0}, 0.5},
        {"thickness", "Thick", "m, 0: a third of the size", {0.0, 10.0}, 0.0, false, "", true},
        {"areal_density", "Weight of a sheet", "kg/m2, 0: by speed", {0.0, 100.0}, 0.0},
        {"throws", "Throws laid together", "", {1.0, 12.0, false, false, true}, 1.0}},
       scattered,
       false,
       true},
      {"layers",
       "Layers",
       "things that land on one another",
       {{"heights", "Heights", "m, bottom first", {0.0, 100.0}, 0.3, true},
        {"terminal_speeds", "Terminal speeds", "m/s, 0: no drag", {0.0, 1000.0}, 0.0, true},
        {"stagger", "Land apart by", "s", {0.0, 60.0}, 0.08},
        {"size", "Size", "m", metres, 0.09},
        {"thickness", "Thick", "m", metres, 0.012},
        {"length", "Slings", "m unstretched, 0: none", {0.0, 10.0}, 0.25},
        {"stretch", "Stretched by", "times", {1.0, 20.0, true, false}, 1.8, false, "length"},
        {"modulus", "Rubber's modulus", "Pa", {1e3, 1e9}, 1.2e6, false, "length"},
        {"friction", "Friction", "", {0.0, 10.0}, 0.5, false, "length"},
        {"mass", "Each weighs", "kg", {0.0, 100.0, true, false}, 0.05},
        {"stiffness", "Gives by", "N/m, 0: hard", {0.0, 1e7}, 0.0}},
       layered},
      {"swing",
       "Swing",
       "a ball on an arm or a string that meets a face",
       {{"length", "Arm", "m", metres, 0.8},
        {"radius", "Bob", "m", metres, 0.03},
        {"angle_deg", "Let go at", "degrees", {0.0, 90.0, true, false}, 50.0},
        {"gap", "Face beyond plumb", "m", {-100.0, 100.0}, 0.0},
        bearing},
       swung},
      {"spin",
       "Spin by string",
       "a string pulled off a bolt",
       {{"pull", "Pull", "m", metres, 0.6},
        {"bolt_radius", "Bolt", "m", metres, 0.004},
        {"force", "Force", "N", {0.0, 1000.0, true, false}, 10.0},
        {"inertia", "Inertia", "kg m2", {0.0, 100.0, true, false}, 0.0002},
        {"friction_torque", "Friction", "N m", {0.0, 1000.0}, 0.004},
        {"marks", "Marks alike round it", "", {1.0, 1000.0, false, false, true}, 1.0}},
       spun},
      {"mist",
       "Drops on glass",
       "sprayed drops that stay, run or dry",
       {{"contact_radius", "Drop's radius", "m", {0.0, 0.1, true, false}, 0.001},
        {"contact_angle_deg", "Stands at", "degrees", {0.0, 90.0, true, false}, 60.0},
        {"glycerin_fraction", "Glycerin", "share", share, 0.0},
        {"temperature_c", "Room", "°C", {0.0, 60.0}, 22.0},
        {"glass_c", "Glass", "°C", temperatures, 22.0},
        {"humidity", "Humidity", "share", {0.0, 1.0, true, true}, 0.5},
        {"slope_deg", "Slope", "degrees", {0.0, 90.0, true, false}, 90.0},
        {"advancing_deg", "Advancing angle", "degrees", {0.0, 180.0, true, true}, 60.0},
        {"receding_deg", "Receding angle", "degrees", {0.0, 180.0, true, true}, 30.0},
        density,
        surface_tension},
       misted,
       true},
      {"fresh",
       "Freshness",
       "ice, foam, greens or a drink that the lamps and time are hard on",
       {{"ice_mass", "Ice", "kg, 0: none", {0.0, 1000.0}, 0.0},
        {"ice_area", "Its surface", "m2", {0.0, 1000.0, true, false}, 0.0047},
        {"foam_half_life", "Foam halves in", "s, 0: none", {0.0, 1e6}, 0.0},
        {"wilts_by", "Wilts when warmer by", "K, 0: does not", {0.0, 100.0}, 0.0},
        {"keeps", "Keeps besides", "s, 0: for the day", {0.0, 1e6}, 0.0},
        {"absorbed", "Takes up of the light", "share", share, 0.6},
        {"temperature_c", "Room", "°C", {0.0, 60.0, true, false}, 22.0}},
       kept_fresh},
      {"steam",
       "Steam",
       "what rises from something hot",
       {{"source_c", "Source", "°C", {-20.0, 100.0}, 80.0},
        {"room_c", "Room", "°C", temperatures, 22.0},
        {"humidity", "Humidity", "share", positive_share, 0.5},
        {"power", "Heat given off", "W", {0.0, 1e5}, 40.0},
        {"mass", "Mass that is hot", "kg", {0.0, 1000.0, true, false}, 0.2},
        {"mouth_radius", "Mouth's radius", "m", {0.001, 10.0}, 0.035},
        {"droplet_diameter", "Droplets", "m", {1e-6, 1e-3}, 5e-6}},
       steamed},
      {"fog",
       "Fog",
       "a room or a box filled with it",
       {{"concentration", "Fluid in the air", "kg/m3", {0.0, 1.0}, 1e-4},
        {"droplet_diameter", "Droplets", "m", {1e-6, 1e-3}, 2e-6},
        {"path", "Depth looked through", "m", metres_or_none, 2.0},
        {"height", "Room's height", "m", metres, 2.5},
        {"air_changes", "Air changes", "per hour", {0.0, 1000.0}, 6.0},
        {"asymmetry", "Asymmetry", "", {-1.0, 1.0, true, true}, 0.8},
        {"density", "Density", "kg/m3", {1.3, 20000.0}, 1040.0}},
       fogged},
      {"powder",
       "Powder",
       "a powder thrown or let burst, and how long it hangs",
       {{"mass", "Powder", "kg", {0.0, 10.0, true, false}, 0.01},
        {"radius", "Begins within", "m", metres, 0.04},
        {"speed", "Thrown at", "m/s", {0.0, 100.0}, 3.0},
        {"angle_deg", "Upward by", "degrees", {-90.0, 90.0}, 60.0},
        bearing,
        {"diameter", "Grains", "m", {1e-6, 5e-4}, 2e-5},
        {"density", "Density", "kg/m3", {1.3, 20000.0}, 1500.0},
        {"air_changes", "Air changes", "per hour", {0.0, 1000.0}, 0.0},
        {"asymmetry", "Asymmetry", "", {-1.0, 1.0, true, true}, 0.8}},
       powdered},
      {"blow",
       "Air into a neck",
       "an air duster's jet into an open neck, and what it throws out",
       {{"nozzle_diameter", "Nozzle", "m", {1e-4, 0.1}, 0.002},
        {"speed", "Leaves it at", "m/s", {0.0, 100.0, true, false}, 90.0},
        {"lasting", "For", "s", {0.0, 60.0, true, false}, 0.3},
        density,
        surface_tension},
       blown,
       true},
      {"burst",
       "Burst",
       "a balloon's skin pricked, the water in it left standing",
       {{"radius", "Balloon's radius", "m", metres, 0.06},
        {"stretch", "Stretched by", "times", {1.0, 20.0, true, false}, 3.0},
        {"modulus", "Rubber's modulus", "Pa", {1e3, 1e9}, 1.2e6},
        {"density", "Density", "kg/m3", {1.0, 20000.0}, 930.0},
        {"length", "Unstretched", "m", metres, 0.06},
        {"friction", "Friction", "", {0.0, 10.0}, 0.5},
        {"water", "Water in it", "share", {0.0, 1.0}, 1.0}},
       burst},
      {"levitate", "Levitate", "a thing without its stand", {}, levitated},
      {"morph", "Morph", "one thing turned into another", {}, morphed},
      {"stop-motion",
       "Stop motion",
       "picture by picture",
       {{"pictures", "Pictures", "", {1.0, 100000.0, false, false, true}, 24.0},
        {"seconds_each", "Each takes", "s", {0.0, 1e5, true, false}, 30.0}},
       stopped_motion},
      {"flame", "Flame", "fire; never planned here", {}, flamed}};
  return kinds;
}

const EffectKind* effect_kind(const std::string& id) {
  const auto& kinds = effect_kinds();
  const auto found =
      std::find_if(kinds.begin(), kinds.end(), [&](const EffectKind& kind) { return kind.id == id; });
  return found == kinds.end() ? nullptr : &*found;
}

const std::vector<std::string>& effect_events() {
  static const std::vector<std::string> names{"release", "leaves", "breaks", "lands",   "contact", "opens",
                                              "peak",    "closes", "full",   "settles", "ready",   "gone"};
  return names;
}

double EffectVessel::width_at(double height) const {
  for (std::size_t i = 1; i < inner.size(); ++i)
    if (height <= inner[i][1]) {
      const auto &a = inner[i - 1], &b = inner[i];
      return a[0] + (b[0] - a[0]) * std::clamp((height - a[1]) / (b[1] - a[1]), 0.0, 1.0);
    }
  return inner.back()[0];
}

double EffectVessel::surface() const {
  if (lean_deg == 0.0) return foot.y + level;
  return foot.y + height_leaning(inner, lean_deg, volume_under(inner, 0.0, level));
}

double EffectVessel::room() const { return most_held(inner, lean_deg) - volume_under(inner, 0.0, level); }

const EffectVessel* EffectPlace::under(double x, double z) const {
  const EffectVessel* highest = nullptr;
  for (const EffectVessel& v : vessels)
    if (v.lean_deg == 0.0 && std::hypot(x - v.foot.x, z - v.foot.z) < v.inner.back()[0] &&
        (!highest || v.foot.y + v.rim() > highest->foot.y + highest->rim()))
      highest = &v;
  return highest;
}

double EffectPlace::lands_on(const std::function<Vec3(double height)>& at) const {
  double highest = floor;
  for (const Top& top : tops) {
    if (top.middle.y <= highest) continue;
    const Vec3 there = at(top.middle.y);
    if (std::hypot(there.x - top.middle.x, there.z - top.middle.z) < top.radius) highest = top.middle.y;
  }
  return highest;
}

double reach_of(const EffectBody& body, const EffectShape& shape) {
  double reach = largest(body.half);
  for (const auto& [radius, height] : shape.outline) reach = std::max(reach, radius);
  if (!shape.spine.empty()) reach = std::max(reach, shape.spine.front().second);
  return reach;
}
const char* form_name(EffectForm form) {
  switch (form) {
    case EffectForm::ball:
      return "ball";
    case EffectForm::box:
      return "box";
    case EffectForm::thread:
      return "thread";
    case EffectForm::thing:
      return "thing";
    case EffectForm::turned:
      break;
  }
  return "turned";
}

const EffectEvent* EffectOutcome::event(const std::string& name) const {
  for (const EffectEvent& e : events)
    if (e.name == name) return &e;
  return nullptr;
}

std::optional<double> EffectOutcome::number(const std::string& name) const {
  for (const EffectNumber& n : numbers)
    if (n.name == name) return n.value;
  return std::nullopt;
}

const EffectEvent* EffectOutcome::main_event() const {
  for (const char* name : {"lands", "contact", "peak", "opens"})
    if (const EffectEvent* e = event(name)) return e;
  return nullptr;
}

Expected<std::map<std::string, std::vector<double>>> measures_of(
    const EffectKind& kind, const std::map<std::string, std::vector<double>>& given, const std::string& liquid) {
  std::map<std::string, std::vector<double>> all;
  const LiquidRow* row = kind.pours && !liquid.empty() ? liquid_row(liquid) : nullptr;
  if (kind.pours && !liquid.empty() && !row)
    return fail("liquid", "is not known", "give its density, viscosity and surface tension, or one of the table");
  for (const EffectMeasure& m : kind.measures) {
    std::vector<double>& to = all[m.key];
    to = {m.usual};
    if (row && m.key == "density") to = {row->density};
    if (row && m.key == "viscosity") to = {row->viscosity};
    if (row && m.key == "surface_tension") to = {row->surface_tension};
    if (const auto typed = given.find(m.key); typed != given.end()) to = typed->second;
    if (to.empty() || (!m.list && to.size() != 1))
      return fail(m.key, "is not one number", m.list ? "give a list of numbers" : "give one number");
    for (const double value : to)
      if (!m.range.contains(value)) return fail(m.key, "is out of range", "give " + m.range.text());
  }
  return all;
}

}  // namespace cinnabar
