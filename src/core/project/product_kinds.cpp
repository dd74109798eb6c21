#include "cinnabar/project/product_kinds.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/project/new_shot.h"

namespace cinnabar {
namespace {

using Measures = std::map<std::string, double>;
using Points = std::vector<std::pair<double, double>>;  // radius, height

const Json glass{{"kind", "glass"}, {"ior", 1.52}},
    tin{{"kind", "metal"}, {"colour", {0.75, 0.74, 0.72}}, {"roughness", 0.3}},
    plastic{{"kind", "satin"}, {"colour", {0.7, 0.7, 0.7}}, {"roughness", 0.35}},
    drink{{"kind", "liquid"}, {"ior", 1.34}, {"absorption", {2, 6, 14}}},
    gold{{"kind", "metal"}, {"colour", {0.9, 0.72, 0.4}}, {"roughness", 0.12}};

/// A quarter of a round, from one point to another, bulging outward.
void rounded(Points& p, double r0, double h0, double r1, double h1, int steps = 6) {
  for (int i = 0; i <= steps; ++i) {
    const double a = 1.5707963267948966 * i / steps;
    p.emplace_back(r1 + (r0 - r1) * std::cos(a), h0 + (h1 - h0) * std::sin(a));
  }
}
Json part(const std::string& id, const Points& points, const Json& material, double wall = 0) {
  Json profile = Json::array();
  for (const auto& [r, h] : points) {
    const Json next{std::round(std::max(0.0, r) * 1e6) / 1e6, std::round(h * 1e6) / 1e6};
    if (profile.empty() || profile.back() != next) profile.push_back(next);
  }
  Json out{{"id", id}, {"profile", profile}, {"material", material}};
  if (wall > 0) out["wall"] = wall;
  return out;
}
/// What stands in a vessel up to a share of its inner height.
void fill(Json& parts, double radius, double bottom, double top, double share) {
  if (share <= 0.0) return;
  const double level = bottom + (top - bottom) * share;
  parts.push_back(part("filling", {{0, bottom}, {radius, bottom}, {radius, level}, {0, level}}, drink));
}

struct Kind {
  ProductKind kind;
  Json (*make)(const Measures&);
  /// Pairs of measures of which the first must stay under the second.
  std::vector<std::pair<std::string, std::string>> under;
};

Json bottle(const Measures& m) {
  const double r = m.at("diameter") / 2, neck = m.at("neck_diameter") / 2, h = m.at("height"),
               s = m.at("shoulder"), w = m.at("wall"), cap = m.at("cap");
  Points p{{0, 0}, {0.92 * r, 0}, {r, 0.06 * r}, {r, s}};
  const double top = s + std::min(0.6 * (h - s), 1.2 * (r - neck) + 0.01);
  rounded(p, r, s, neck, top);
  p.emplace_back(neck, h - cap);
  Json parts{part("glass", p, glass, w)};
  fill(parts, r, w, s + 0.5 * (h - s), m.at("fill"));
  if (cap > 0) parts.push_back(part("cap", {{neck + 0.001, h - cap - 0.004}, {neck + 0.001, h}, {0, h}}, tin));
  return parts;
}
Json jar(const Measures& m) {
  const double r = m.at("diameter") / 2, neck = m.at("neck_diameter") / 2, h = m.at("height"), lid = m.at("lid"),
               w = m.at("wall");
  const double shoulder = h - lid - std::min(0.25 * (h - lid), 0.8 * (r - neck) + 0.004);
  Points p{{0, 0}, {0.94 * r, 0}, {r, 0.05 * r}, {r, shoulder}};
  rounded(p, r, shoulder, neck, h - lid);
  p.emplace_back(neck, h - 0.1 * lid);
  Json parts{part("glass", p, glass, w)};
  fill(parts, r, w, h - lid, m.at("fill"));
  if (lid > 0)
    parts.push_back(
        part("lid", {{neck + 0.002, h - lid}, {neck + 0.002, h - 0.001}, {neck + 0.001, h}, {0, h}}, tin));
  return parts;
}
Json can(const Measures& m) {
  const double r = m.at("diameter") / 2, end = m.at("end_diameter") / 2, h = m.at("height");
  const double in = std::max(0.003, (r - end) * 1.3);
  return {part("body",
               {{0, 0.004},
                {0.8 * end, 0.004},
                {end, 0},
                {r, in},
                {r, h - in},
                {end, h},
                {0.92 * end, h - 0.003},
                {0, h - 0.003}},
               tin)};
}
Json box_tin(const Measures& m) {
  const double r = m.at("diameter") / 2, h = m.at("height"), lid = m.at("lid");
  return {part("body", {{0, 0}, {r - 0.001, 0}, {r - 0.001, h - lid}, {0, h - lid}}, tin),
          part("lid", {{r, h - lid - 0.002}, {r, h - 0.001}, {r - 0.001, h}, {0, h}}, tin)};
}
Json cup(const Measures& m) {
  const double top = m.at("diameter") / 2, bottom = m.at("foot_diameter") / 2, h = m.at("height"),
               w = m.at("wall");
  Json parts{part("cup", {{0, 0}, {bottom, 0}, {top, h}},
                  {{"kind", "gloss"}, {"colour", {0.85, 0.84, 0.82}}, {"ior", 1.5}}, w)};
  const double level = m.at("fill");
  if (level > 0) {
    const double at = w + (0.95 * h - w) * level, r = bottom + (top - bottom) * at / h;
    parts.push_back(part("filling", {{0, w}, {bottom, w}, {r, at}, {0, at}}, drink));
  }
  return parts;
}
Json pump(const Measures& m) {
  const double r = m.at("diameter") / 2, neck = m.at("neck_diameter") / 2, h = m.at("height"), body = m.at("body");
  Points p{{0, 0}, {0.95 * r, 0}, {r, 0.05 * r}};
  rounded(p, r, body - 0.5 * (r - neck), neck, body);
  p.emplace_back(0.0, body);
  return {part("body", p, plastic), part("pump",
                                         {{neck, body},
                                          {neck, body + 0.3 * (h - body)},
                                          {0.35 * neck, body + 0.35 * (h - body)},
                                          {0.35 * neck, h - 0.25 * (h - body)},
                                          {0.8 * neck, h - 0.22 * (h - body)},
                                          {0.8 * neck, h},
                                          {0, h}},
                                         plastic)};
}
Json tube(const Measures& m) {
  const double r = m.at("diameter") / 2, h = m.at("height"), cap = m.at("cap"), capr = m.at("cap_diameter") / 2;
  return {part("cap", {{0, 0}, {capr, 0}, {capr, cap}, {0, cap}}, plastic),
          part("body", {{0.6 * capr, cap}, {r, cap + 0.35 * r}, {r, h - 0.002}, {r - 0.002, h}, {0, h}}, plastic)};
}
Json ring(const Measures& m) {  // lying flat
  const double r = m.at("diameter") / 2, w = m.at("width"), t = m.at("thickness");
  return {part("band", {{r - t, 0}, {r, 0.15 * w}, {r, 0.85 * w}, {r - t, w}, {r - t, 0}}, gold)};
}

const std::vector<Kind>& kinds() {
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
       {{"thickness", "diameter"}}}};
  return list;
}
const Kind* kind_of(const std::string& id) {
  for (const Kind& k : kinds())
    if (k.kind.id == id) return &k;
  return nullptr;
}

}  // namespace

const std::vector<ProductKind>& product_kinds() {
  static const std::vector<ProductKind> list = [] {
    std::vector<ProductKind> out;
    for (const Kind& k : kinds()) out.push_back(k.kind);
    return out;
  }();
  return list;
}
const ProductKind* product_kind(const std::string& id) {
  const Kind* k = kind_of(id);
  return k ? &k->kind : nullptr;
}

double measure_of(const Json& product, const Dimension& d) {
  const auto built = product.find("built");
  if (built == product.end() || !built->is_object()) return d.usual;
  const auto found = built->find(d.key);
  return found != built->end() && found->is_number() ? found->get<double>() : d.usual;
}

Expected<Json> built_product(const Json& product, const std::string& id,
                             const std::map<std::string, double>& given) {
  const Kind* kind = kind_of(id);
  if (!kind) return fail("kind", "\"" + id + "\" is no kind of product", "give one of the list");
  const bool same =
      product.contains("built") && product["built"].is_object() && product["built"].value("kind", "") == id;
  Measures m;
  for (const Dimension& d : kind->kind.dimensions) {
    const auto own = given.find(d.key);
    const double value = own != given.end() ? own->second : same ? measure_of(product, d) : d.usual;
    if (!(value >= d.low && value <= d.high))
      return fail(d.key,
                  d.is_length ? fmt::format("{} is {}", d.name, length_text(value))
                              : fmt::format("{} is {}", d.name, number_text(value)),
                  d.is_length ? fmt::format("give {} to {}", length_text(d.low), length_text(d.high))
                              : std::string("give 0 to 1"));
    m[d.key] = value;
  }
  const auto name = [&](const std::string& key) {
    for (const Dimension& d : kind->kind.dimensions)
      if (d.key == key) return d.name;
    return key;
  };
  for (const auto& [less, more] : kind->under)
    if (m.at(less) >= m.at(more))
      return fail(less,
                  fmt::format("{} ({}) is not under {} ({})", name(less), length_text(m.at(less)), name(more),
                              length_text(m.at(more))),
                  "change one of the two");
  Json out = product;
  Json parts = kind->make(m);
  if (out.contains("parts"))
    for (Json& fresh : parts)
      for (const Json& old : out["parts"])
        if (old.value("id", "") == fresh["id"] && old.contains("material")) fresh["material"] = old["material"];
  out["parts"] = parts;
  out["built"] = Json{{"kind", id}};
  for (const auto& [key, value] : m) out["built"][key] = value;
  if (out.contains("label") && out["label"].is_object()) {
    Json& label = out["label"];
    const auto holds = std::find_if(parts.begin(), parts.end(),
                                    [&](const Json& p) { return p["id"] == label.value("part", ""); });
    if (holds == parts.end()) label["part"] = parts[0]["id"];
    double low = 1e9, high = -1e9;
    for (const Json& point : (holds == parts.end() ? parts[0] : *holds)["profile"])
      low = std::min(low, point[1].get<double>()), high = std::max(high, point[1].get<double>());
    const double tall = high - low;
    double from = std::clamp(label.value("low", low), low, high),
           to = std::clamp(label.value("high", high), low, high);
    if (to - from < 0.05 * tall) from = low + 0.25 * tall, to = low + 0.7 * tall;
    label["low"] = from, label["high"] = to;
  }
  return out;
}

Json new_product(const Document& document, const std::string& kind) {
  const ProductKind* known = product_kind(kind);
  Json product{
      {"id", fresh_id(document, "products", kind)}, {"name", known ? known->name : "Product"}, {"mass", 0.3}};
  auto built = built_product(product, known ? kind : "jar", {});
  return built ? *built : product;
}

}  // namespace cinnabar
