// Kinds of product that are wider than deep: carton, flask, device, pouch, shoe.
#include <algorithm>
#include <cmath>

#include "cinnabar/project/making/kind_parts.h"

namespace cinnabar::kinds {
namespace {

const Json board{{"kind", "satin"}, {"colour", {0.62, 0.56, 0.46}}, {"roughness", 0.6}},
    foil{{"kind", "satin"}, {"colour", {0.55, 0.56, 0.58}}, {"roughness", 0.3}},
    rubber{{"kind", "satin"}, {"colour", {0.75, 0.74, 0.7}}, {"roughness", 0.7}},
    fabric{{"kind", "matte"}, {"colour", {0.3, 0.34, 0.4}}};

Json carton(const Measures& m) {
  const double w = m.at("width") / 2, d = m.at("depth") / 2, h = m.at("height");
  return Json::array({sided_part("carton", {{0, 0, 0}, {w, 0, d}, {w, h, d}, {0, h, 0}}, board, 0)});
}
Json flask(const Measures& m) {
  const double w = m.at("width") / 2, d = m.at("depth") / 2, cap = m.at("cap"), h = m.at("height") - cap,
               wall = m.at("wall"), neck = std::min(w, d) * 0.6, bevel = 0.25 * std::min(w, d);
  Json parts = Json::array(
      {sided_part("glass", {{0, 0, 0}, {w, 0, d}, {w, h - bevel, d}, {w - bevel, h, d - bevel}, {0, h, 0}},
                  glass(), m.at("corner"), wall)});
  if (m.at("fill") > 0) {
    const double level = wall + (h - bevel - wall) * m.at("fill");
    parts.push_back(sided_part(
        "filling", {{0, wall, 0}, {w - wall, wall, d - wall}, {w - wall, level, d - wall}, {0, level, 0}}, drink(),
        std::max(0.0, m.at("corner") - wall)));
  }
  if (cap > 0)
    parts.push_back(
        part("cap", {{0, h}, {neck, h}, {neck, h + cap - 0.001}, {neck - 0.001, h + cap}, {0, h + cap}}, tin()));
  return parts;
}
Json device(const Measures& m) {
  const double w = m.at("width") / 2, d = m.at("depth") / 2, h = m.at("height"), edge = 0.15 * std::min({w, d, h});
  return Json::array({sided_part("body",
                                 {{0, 0, 0},
                                  {w - edge, 0, d - edge},
                                  {w - 0.3 * edge, 0.3 * edge, d - 0.3 * edge},
                                  {w, edge, d},
                                  {w, h - edge, d},
                                  {w - 0.3 * edge, h - 0.3 * edge, d - 0.3 * edge},
                                  {w - edge, h, d - edge},
                                  {0, h, 0}},
                                 plastic(), m.at("corner"))});
}
Json pouch(const Measures& m) {
  const double w = m.at("width") / 2, d = m.at("depth") / 2, h = m.at("height"), seal = m.at("seal"),
               thin = 0.0006;
  std::vector<Cut> cuts{{0, 0, 0}, {0.97 * w, 0, d}};
  for (int k = 1; k <= 8; ++k) {  // from the gusset's depth to the flat seal
    const double s = k / 8.0, ease = 0.5 * (1 + std::cos(3.14159265358979323846 * s));
    cuts.push_back({(0.97 + 0.03 * s) * w, (h - seal) * s, thin + (d - thin) * ease});
  }
  cuts.push_back({w, h, thin});
  cuts.push_back({0, h, 0});
  return Json::array({sided_part("pouch", cuts, foil, -1)});
}
/// Seen from its side, the toe to the right.
Json shoe(const Measures& m) {
  const double l = m.at("length") / 2, w = m.at("width") / 2, h = m.at("height"), sole = m.at("sole");
  std::vector<Cut> upper{{0.97 * l, sole, 0.94 * w, -0.02 * l}};
  const double collar = 0.36 * l, throat = 0.55 * w, deep = 0.3 * (h - sole);
  for (int k = 1; k <= 8; ++k) {  // the toe slopes back to the collar, the heel stays upright
    const double s = k / 8.0, half = 0.97 * l + (collar - 0.97 * l) * std::pow(s, 0.75);
    upper.push_back({half, sole + (h - sole) * s, 0.94 * w + (throat - 0.94 * w) * s * s, -0.99 * l + half});
  }
  const Cut rim = upper.back();
  upper.push_back({0.88 * collar, h, 0.85 * throat, rim.shift});
  upper.push_back({0.85 * collar, h - deep, 0.8 * throat, rim.shift});
  upper.push_back({0, h - deep, 0, rim.shift});
  return {sided_part("upper", upper, fabric, -1),
          sided_part(
              "sole",
              {{0, 0, 0}, {0.97 * l, 0, 0.92 * w}, {l, 0.5 * sole, w}, {0.98 * l, sole, 0.97 * w}, {0, sole, 0}},
              rubber, -1)};
}

}  // namespace

const std::vector<Kind>& sided_kinds() {
  static const std::vector<Kind> list{
      {{"carton",
        "Carton",
        {{"height", "Height", 0.16, 0.005, 2},
         {"width", "Width", 0.09, 0.005, 2},
         {"depth", "Depth", 0.06, 0.002, 2}}},
       carton,
       {}},
      {{"flask",
        "Flask",
        {{"height", "Height", 0.11, 0.01, 1},
         {"width", "Width", 0.07, 0.005, 1},
         {"depth", "Depth", 0.03, 0.005, 1},
         {"corner", "Edge round", 0.006, 0, 0.5},
         {"wall", "Wall", 0.004, 0.0003, 0.05},
         {"cap", "Cap", 0.022, 0, 0.5},
         {"fill", "Filled", 0.9, 0, 1, false}}},
       flask,
       {{"cap", "height"}, {"wall", "depth"}, {"wall", "width"}, {"wall", "height"}, {"depth", "height"}}},
      {{"device",
        "Device",
        {{"height", "Height", 0.15, 0.002, 2},
         {"width", "Width", 0.072, 0.002, 2},
         {"depth", "Depth", 0.009, 0.001, 2},
         {"corner", "Edge round", 0.003, 0, 0.5}}},
       device,
       {}},
      {{"pouch",
        "Pouch",
        {{"height", "Height", 0.22, 0.01, 1},
         {"width", "Width", 0.14, 0.01, 1},
         {"depth", "Foot deep", 0.08, 0.003, 1},
         {"seal", "Seal", 0.012, 0.001, 0.2}}},
       pouch,
       {{"seal", "height"}}},
      {{"shoe",
        "Shoe",
        {{"height", "Height", 0.11, 0.01, 1},
         {"length", "Length", 0.28, 0.02, 1},
         {"width", "Width", 0.1, 0.01, 1},
         {"sole", "Sole", 0.028, 0.002, 0.3}}},
       shoe,
       {{"sole", "height"}}}};
  return list;
}

}  // namespace cinnabar::kinds
