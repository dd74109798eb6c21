// Kinds of product that are turned about the vertical axis.
#include <algorithm>
#include <cmath>

#include "cinnabar/project/making/kind_parts.h"

namespace cinnabar::kinds {
namespace {

const Json gold{{"kind", "metal"}, {"colour", {0.9, 0.72, 0.4}}, {"roughness", 0.12}};

/// What stands in a vessel up to a share of its inner height.
void fill(Json& parts, double radius, double bottom, double top, double share) {
  if (share <= 0.0) return;
  const double level = bottom + (top - bottom) * share;
  parts.push_back(part("filling", {{0, bottom}, {radius, bottom}, {radius, level}, {0, level}}, drink()));
}

Json bottle(const Measures& m) {
  const double r = m.at("diameter") / 2, neck = m.at("neck_diameter") / 2, h = m.at("height"),
               s = m.at("shoulder"), w = m.at("wall"), cap = m.at("cap");
  Points p{{0, 0}, {0.92 * r, 0}, {r, 0.06 * r}, {r, s}};
  const double top = s + std::min(0.6 * (h - s), 1.2 * (r - neck) + 0.01);
  rounded(p, r, s, neck, top);
  p.emplace_back(neck, h - cap);
  Json parts = Json::array({part("glass", p, glass(), w)});
  fill(parts, r, w, s + 0.5 * (h - s), m.at("fill"));
  if (cap > 0) parts.push_back(part("cap", {{neck + 0.001, h - cap - 0.004}, {neck + 0.001, h}, {0, h}}, tin()));
  return parts;
}
Json jar(const Measures& m) {
  const double r = m.at("diameter") / 2, neck = m.at("neck_diameter") / 2, h = m.at("height"), lid = m.at("lid"),
               w = m.at("wall");
  const double shoulder = h - lid - std::min(0.25 * (h - lid), 0.8 * (r - neck) + 0.004);
  Points p{{0, 0}, {0.94 * r, 0}, {r, 0.05 * r}, {r, shoulder}};
  rounded(p, r, shoulder, neck, h - lid);
  p.emplace_back(neck, h - 0.1 * lid);
  Json parts = Json::array({part("glass", p, glass(), w)});
  fill(parts, r, w, h - lid, m.at("fill"));
  if (lid > 0)
    parts.push_back(
        part("lid", {{neck + 0.002, h - lid}, {neck + 0.002, h - 0.001}, {neck + 0.001, h}, {0, h}}, tin()));
  return parts;
}
Json can(const Measures& m) {
  const double r = m.at("diameter") / 2, end = m.at("end_diameter") / 2, h = m.at("height");
  const double in = std::max(0.003, (r - end) * 1.3);
  return Json::array({part("body",
                           {{0, 0.004},
                            {0.8 * end, 0.004},
                            {end, 0},
                            {r, in},
                            {r, h - in},
                            {end, h},
                            {0.92 * end, h - 0.003},
                            {0, h - 0.003}},
                           tin())});
}
Json box_tin(const Measures& m) {
  const double r = m.at("diameter") / 2, h = m.at("height"), lid = m.at("lid");
  return {part("body", {{0, 0}, {r - 0.001, 0}, {r - 0.001, h - lid}, {0, h - lid}}, tin()),
          part("lid", {{r, h - lid - 0.002}, {r, h - 0.001}, {r - 0.001, h}, {0, h}}, tin())};
}
Json cup(const Measures& m) {
  const double top = m.at("diameter") / 2, bottom = m.at("foot_diameter") / 2, h = m.at("height"),
               w = m.at("wall");
  Json parts = Json::array({part("cup", {{0, 0}, {bottom, 0}, {top, h}},
                                 {{"kind", "gloss"}, {"colour", {0.85, 0.84, 0.82}}, {"ior", 1.5}}, w)});
  const double level = m.at("fill");
  if (level > 0) {
    const double at = w + (0.95 * h - w) * level, r = bottom + (top - bottom) * at / h;
    parts.push_back(part("filling", {{0, w}, {bottom, w}, {r, at}, {0, at}}, drink()));
  }
  return parts;
}
Json pump(const Measures& m) {
  const double r = m.at("diameter") / 2, neck = m.at("neck_diameter") / 2, h = m.at("height"), body = m.at("body");
  Points p{{0, 0}, {0.95 * r, 0}, {r, 0.05 * r}};
  rounded(p, r, body - 0.5 * (r - neck), neck, body);
  p.emplace_back(0.0, body);
  return {part("body", p, plastic()), part("pump",
                                           {{neck, body},
                                            {neck, body + 0.3 * (h - body)},
                                            {0.35 * neck, body + 0.35 * (h - body)},
                                            {0.35 * neck, h - 0.25 * (h - body)},
                                            {0.8 * neck, h - 0.22 * (h - body)},
                                            {0.8 * neck, h},
                                            {0, h}},
                                           plastic())};
}
Json tube(const Measures& m) {
  const double r = m.at("diameter") / 2, h = m.at("height"), cap = m.at("cap"), capr = m.at("cap_diameter") / 2;
  return {
      part("cap", {{0, 0}, {capr, 0}, {capr, cap}, {0, cap}}, plastic()),
      part("body", {{0.6 * capr, cap}, {r, cap + 0.35 * r}, {r, h - 0.002}, {r - 0.002, h}, {0, h}}, plastic())};
}
Json ring(const Measures& m) {  // lying flat
  const double r = m.at("diameter") / 2, w = m.at("width"), t = m.at("thickness");
  return Json::array({part("band", {{r - t, 0}, {r, 0.15 * w}, {r, 0.85 * w}, {r - t, w}, {r - t, 0}}, gold)});
}
Json bowl(const Measures& m) {
  const double top = m.at("diameter") / 2, foot = m.at("foot_diameter") / 2, h = m.at("height"), w = m.at("wall");
  Points p{{0, 0}, {foot, 0}};
  for (int k = 1; k <= 10; ++k) {  // a quarter round from the foot to the upright rim
    const double a = 1.5707963267948966 * k / 10;
    p.emplace_back(foot + (top - foot) * std::sin(a), h * (1 - std::cos(a)));
  }
  return Json::array({part("bowl", p, {{"kind", "gloss"}, {"colour", {0.8, 0.78, 0.74}}, {"ior", 1.5}}, w)});
}
Json tumbler(const Measures& m) {
  const double top = m.at("diameter") / 2, bottom = m.at("foot_diameter") / 2, h = m.at("height"),
               w = m.at("wall"), base = m.at("base");
  // A base thicker than the wall: the inside is its own part of the outline.
  const double at_base = bottom + (top - bottom) * base / h;
  Json parts = Json::array(
      {part("glass", {{0, 0}, {bottom, 0}, {top, h}, {top - w, h}, {at_base - w, base}, {0, base}}, glass())});
  if (m.at("fill") > 0) {
    const double level = base + (0.95 * h - base) * m.at("fill"), r = bottom + (top - bottom) * level / h;
    // A little into the wall, whose glass rules there, so that no film of air is left.
    parts.push_back(part(
        "filling", {{0, base - 0.2 * w}, {at_base - 0.8 * w, base - 0.2 * w}, {r - 0.8 * w, level}, {0, level}},
        drink()));
  }
  return parts;
}
Json fruit(const Measures& m) {
  const double r = m.at("diameter") / 2, h = m.at("height");
  Points p;
  for (int k = 0; k <= 24; ++k) {
    const double a = 3.14159265358979323846 * k / 24;
    p.emplace_back(k == 0 || k == 24 ? 0.0 : r * std::sin(a), h / 2 * (1 - std::cos(a)));
  }
  return Json::array({part("fruit", p, {{"kind", "satin"}, {"colour", {0.72, 0.3, 0.05}}, {"roughness", 0.45}})});
}

}  // namespace

const std::vector<Kind>& round_kinds() {
  static const std::vector<Kind> list{
      {{"bottle",
        "Bottle",
        {{"height", "Height", 0.24, 0.02, 2},
         {"diameter", "Body", 0.074, 0.005, 1},
         {"shoulder", "Shoulder at", 0.15, 0.01, 2},
         {"neck_diameter", "Neck", 0.028, 0.002, 1},
         {"cap", "Cap", 0.02, 0, 0.5},
         {"wall", "Wall", 0.003, 0.0003, 0.05},
         {"fill", "Filled", 0.85, 0, 1, false}}},
       bottle,
       {{"neck_diameter", "diameter"}, {"shoulder", "height"}, {"cap", "height"}, {"wall", "neck_diameter"}}},
      {{"jar",
        "Jar",
        {{"height", "Height", 0.1, 0.01, 1},
         {"diameter", "Body", 0.076, 0.005, 1},
         {"neck_diameter", "Neck", 0.058, 0.003, 1},
         {"lid", "Lid", 0.016, 0, 0.5},
         {"wall", "Wall", 0.003, 0.0003, 0.05},
         {"fill", "Filled", 0.9, 0, 1, false}}},
       jar,
       {{"neck_diameter", "diameter"}, {"lid", "height"}, {"wall", "neck_diameter"}}},
      {{"can",
        "Can",
        {{"height", "Height", 0.122, 0.01, 1},
         {"diameter", "Body", 0.066, 0.005, 1},
         {"end_diameter", "Ends", 0.054, 0.004, 1}}},
       can,
       {{"end_diameter", "diameter"}}},
      {{"tin",
        "Tin",
        {{"height", "Height", 0.05, 0.005, 1},
         {"diameter", "Across", 0.09, 0.005, 1},
         {"lid", "Lid", 0.015, 0.001, 0.5}}},
       box_tin,
       {{"lid", "height"}}},
      {{"cup",
        "Cup",
        {{"height", "Height", 0.09, 0.01, 1},
         {"diameter", "Rim", 0.085, 0.005, 1},
         {"foot_diameter", "Foot", 0.055, 0.004, 1},
         {"wall", "Wall", 0.003, 0.0003, 0.05},
         {"fill", "Filled", 0.8, 0, 1, false}}},
       cup,
       {{"wall", "foot_diameter"}}},
      {{"pump",
        "Pump",
        {{"height", "Height", 0.19, 0.02, 1},
         {"body", "Body high", 0.14, 0.01, 1},
         {"diameter", "Body", 0.06, 0.005, 1},
         {"neck_diameter", "Neck", 0.028, 0.002, 1}}},
       pump,
       {{"body", "height"}, {"neck_diameter", "diameter"}}},
      {{"tube",
        "Tube",
        {{"height", "Height", 0.15, 0.02, 1},
         {"diameter", "Body", 0.044, 0.004, 1},
         {"cap", "Cap", 0.02, 0.002, 0.5},
         {"cap_diameter", "Cap across", 0.03, 0.003, 1}}},
       tube,
       {{"cap", "height"}}},
      {{"ring",
        "Ring",
        {{"diameter", "Across", 0.021, 0.004, 0.5},
         {"width", "Wide", 0.005, 0.0005, 0.2},
         {"thickness", "Thick", 0.002, 0.0003, 0.05}}},
       ring,
       {{"thickness", "diameter"}}},
      {{"bowl",
        "Bowl",
        {{"height", "Height", 0.07, 0.01, 1},
         {"diameter", "Rim", 0.15, 0.01, 1},
         {"foot_diameter", "Foot", 0.07, 0.004, 1},
         {"wall", "Wall", 0.004, 0.0003, 0.05}}},
       bowl,
       {{"foot_diameter", "diameter"}, {"wall", "foot_diameter"}, {"wall", "height"}}},
      {{"glass",
        "Glass",
        {{"height", "Height", 0.11, 0.01, 1},
         {"diameter", "Rim", 0.08, 0.005, 1},
         {"foot_diameter", "Foot", 0.06, 0.004, 1},
         {"wall", "Wall", 0.002, 0.0003, 0.02},
         {"base", "Base thick", 0.012, 0.0005, 0.1},
         {"fill", "Filled", 0.7, 0, 1, false}}},
       tumbler,
       {{"base", "height"}, {"wall", "base"}, {"foot_diameter", "diameter"}}},
      {{"fruit", "Fruit", {{"height", "Height", 0.07, 0.005, 1}, {"diameter", "Across", 0.075, 0.005, 1}}},
       fruit,
       {}}};
  return list;
}

}  // namespace cinnabar::kinds
