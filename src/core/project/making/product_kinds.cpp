#include "cinnabar/project/making/product_kinds.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "cinnabar/base/text.h"
#include "cinnabar/project/making/kind_parts.h"
#include "cinnabar/project/making/new_shot.h"

namespace cinnabar {
namespace kinds {

const Json& glass() {
  static const Json material{{"kind", "glass"}, {"ior", 1.52}};
  return material;
}
const Json& tin() {
  static const Json material{{"kind", "metal"}, {"colour", {0.75, 0.74, 0.72}}, {"roughness", 0.3}};
  return material;
}
const Json& plastic() {
  static const Json material{{"kind", "satin"}, {"colour", {0.7, 0.7, 0.7}}, {"roughness", 0.35}};
  return material;
}
const Json& drink() {
  static const Json material{{"kind", "liquid"}, {"ior", 1.34}, {"absorption", {2, 6, 14}}};
  return material;
}

void rounded(Points& p, double r0, double h0, double r1, double h1, int steps) {
  for (int i = 0; i <= steps; ++i) {
    const double a = 1.5707963267948966 * i / steps;
    p.emplace_back(r1 + (r0 - r1) * std::cos(a), h0 + (h1 - h0) * std::sin(a));
  }
}

namespace {
double tidy(double v) { return std::round(v * 1e6) / 1e6; }
}  // namespace

Json part(const std::string& id, const Points& points, const Json& material, double wall) {
  Json profile = Json::array();
  for (const auto& [r, h] : points) {
    const Json next{tidy(std::max(0.0, r)), tidy(h)};
    if (profile.empty() || profile.back() != next) profile.push_back(next);
  }
  Json out{{"id", id}, {"profile", profile}, {"material", material}};
  if (wall > 0) out["wall"] = wall;
  return out;
}
Json sided_part(const std::string& id, const std::vector<Cut>& cuts, const Json& material, double corner,
                double wall) {
  Json profile = Json::array();
  for (const Cut& c : cuts) {
    Json next{tidy(std::max(0.0, c.half_width)), tidy(c.height), tidy(std::max(0.0, c.half_depth))};
    if (c.shift != 0.0) next.push_back(tidy(c.shift));
    profile.push_back(next);
  }
  Json out{{"id", id}, {"profile", profile}, {"material", material}};
  if (corner >= 0) out["section"] = "box";
  if (corner > 0) out["corner"] = tidy(corner);
  if (wall > 0) out["wall"] = wall;
  return out;
}

}  // namespace kinds

namespace {

using kinds::Kind;
using kinds::Measures;

const std::vector<Kind>& all_kinds() {
  static const std::vector<Kind> list = [] {
    std::vector<Kind> all = kinds::round_kinds();
    const auto& sided = kinds::sided_kinds();
    all.insert(std::find_if(all.begin(), all.end(), [](const Kind& k) { return k.kind.id == "bowl"; }),
               sided.begin(), sided.end());
    return all;
  }();
  return list;
}
const Kind* kind_of(const std::string& id) {
  for (const Kind& k : all_kinds())
    if (k.kind.id == id) return &k;
  return nullptr;
}

}  // namespace

const std::vector<ProductKind>& product_kinds() {
  static const std::vector<ProductKind> list = [] {
    std::vector<ProductKind> out;
    for (const Kind& k : all_kinds()) out.push_back(k.kind);
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
