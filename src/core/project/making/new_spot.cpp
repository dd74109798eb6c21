#include "cinnabar/project/making/new_spot.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <set>

#include "cinnabar/base/text.h"
#include "cinnabar/project/checks/validation.h"
#include "cinnabar/project/making/new_shot.h"
#include "cinnabar/project/making/starter_kits.h"

namespace cinnabar {
namespace {

double to_micro(double v) { return std::round(v * 1e6) / 1e6; }

/// The keys by which a kind is told high and wide. Common practice, no source.
const char* height_key(const std::string& kind) { return kind == "ring" ? "width" : "height"; }
const char* width_key(const ProductKind& kind) {
  if (kind.id == "shoe") return "length";
  for (const Dimension& d : kind.dimensions)
    if (d.key == "diameter") return "diameter";
  return "width";
}
bool is_tall_measure(const std::string& key) {
  static const std::set<std::string> tall{"height", "shoulder", "cap", "lid", "body", "base", "seal", "sole"};
  return tall.contains(key);
}
std::optional<MeasureRange> range_of(const std::string& kind, const std::string& key) {
  const ProductKind* known = product_kind(kind);
  if (!known) return std::nullopt;
  for (const Dimension& d : known->dimensions)
    if (d.key == key) return MeasureRange{d.usual, d.low, d.high};
  return std::nullopt;
}

struct Stuff {
  MadeOf told;
  Json material;
};
const std::vector<Stuff>& stuffs() {
  static const std::vector<Stuff> list{
      {{"glass", "clear glass"}, {{"kind", "glass"}, {"ior", 1.52}}},
      {{"plastic", "plastic"}, {{"kind", "satin"}, {"colour", {0.7, 0.7, 0.7}}, {"roughness", 0.35}}},
      {{"gloss", "glazed or painted"}, {{"kind", "gloss"}, {"colour", {0.8, 0.78, 0.74}}, {"ior", 1.5}}},
      {{"metal", "metal"}, {{"kind", "metal"}, {"colour", {0.75, 0.74, 0.72}}, {"roughness", 0.3}}},
      {{"board", "card or paper"}, {{"kind", "satin"}, {"colour", {0.62, 0.56, 0.46}}, {"roughness", 0.6}}},
      {{"fabric", "cloth or leather"}, {{"kind", "matte"}, {"colour", {0.3, 0.34, 0.4}}}},
      {{"matte", "matte paint"}, {{"kind", "matte"}, {"colour", {0.5, 0.5, 0.5}}}}};
  return list;
}

/// Outline of a part: half width and height of each point, and half depth where it has one.
struct Outline {
  std::vector<double> across, up, deep;
  explicit Outline(const Json& part) {
    for (const Json& point : part.at("profile")) {
      across.push_back(point.at(0).get<double>()), up.push_back(point.at(1).get<double>());
      deep.push_back(point.size() > 2 ? point.at(2).get<double>() : across.back());
    }
  }
  [[nodiscard]] double at_height(double h) const {
    double widest = 0;
    for (std::size_t i = 0; i + 1 < up.size(); ++i) {
      const double low = std::min(up[i], up[i + 1]), high = std::max(up[i], up[i + 1]);
      if (h < low || h > high) continue;
      const double share = up[i + 1] == up[i] ? 0.0 : (h - up[i]) / (up[i + 1] - up[i]);
      widest = std::max(widest, across[i] + share * (across[i + 1] - across[i]));
    }
    return widest;
  }
  [[nodiscard]] double depth_at(double h) const {
    double best = 0, off = 1e9;
    for (std::size_t i = 0; i < up.size(); ++i)
      if (const double away = std::abs(up[i] - h); away < off) off = away, best = deep[i];
    return best;
  }
};

/// Where a label sits on a part: the longest stretch of it that is nearly as wide as it gets, with a margin.
std::pair<double, double> label_heights(const Outline& outline) {
  const double low = *std::min_element(outline.up.begin(), outline.up.end()),
               high = *std::max_element(outline.up.begin(), outline.up.end()), tall = high - low;
  double widest = 0;
  for (const double r : outline.across) widest = std::max(widest, r);
  double best_from = low + 0.3 * tall, best_to = low + 0.65 * tall;
  for (const double near : {0.97, 0.88, 0.75}) {
    double from = -1, best = 0;
    constexpr int steps = 200;
    for (int k = 0; k <= steps; ++k) {
      const double h = low + tall * k / steps;
      if (outline.at_height(h) >= near * widest) {
        if (from < 0) from = h;
        if (h - from > best) best = h - from, best_from = from, best_to = h;
      } else {
        from = -1;
      }
    }
    if (best >= 0.3 * tall) break;
  }
  const double way = best_to - best_from;
  return {to_micro(best_from + 0.18 * way), to_micro(best_from + 0.8 * way)};
}

/// Kinds that bear a label. What has none shows its own surface.
bool bears_label(const std::string& kind) {
  static const std::set<std::string> bare{"ring", "shoe", "fruit", "bowl", "glass"};
  return !bare.contains(kind);
}

const std::map<std::string, double>&
densities() {  // kg to a cubic metre of the outline; common practice, no source
  static const std::map<std::string, double> list{
      {"can", 950},     {"tin", 650},     {"carton", 350}, {"pouch", 450}, {"cup", 700},   {"glass", 900},
      {"bowl", 500},    {"device", 1900}, {"shoe", 250},   {"fruit", 950}, {"ring", 6000}, {"tube", 800},
      {"bottle", 1100}, {"jar", 1350},    {"pump", 1000},  {"flask", 1500}};
  return list;
}

Json deliverable(const std::string& shape, const std::string& rate, bool with_words) {
  static const std::map<std::string, std::pair<int, int>> sizes{
      {"16:9", {1920, 1080}}, {"9:16", {1080, 1920}}, {"1:1", {1080, 1080}}, {"4:5", {1080, 1350}}};
  const auto [width, height] = sizes.at(shape);
  std::string id = shape;
  std::replace(id.begin(), id.end(), ':', '-');
  Json d{{"id", "f" + id}, {"name", shape}, {"width", width}, {"height", height}, {"rate", rate}};
  if (with_words)
    d["words"] = {{"area", width > height ? Json{0.05, 0.1, 0.28, 0.5} : Json{0.08, 0.05, 0.84, 0.18}},
                  {"last_seconds", 3}};
  return d;
}

}  // namespace

std::vector<MadeOf> made_of_choices(const std::string& kind) {
  const ProductKind* known = product_kind(kind);
  if (!known) return {};
  const bool wall = std::any_of(known->dimensions.begin(), known->dimensions.end(),
                                [](const Dimension& d) { return d.key == "wall"; }) ||
                    kind == "glass";
  std::vector<MadeOf> list{{"usual", "as it usually is"}};
  for (const Stuff& s : stuffs())
    if (s.told.id != "glass" || wall) list.push_back(s.told);
  return list;
}

const std::vector<std::string>& frame_shapes() {
  static const std::vector<std::string> list{"16:9", "9:16", "1:1", "4:5"};
  return list;
}

std::optional<MeasureRange> height_range(const std::string& kind) { return range_of(kind, height_key(kind)); }
std::optional<MeasureRange> width_range(const std::string& kind) {
  const ProductKind* known = product_kind(kind);
  return known ? range_of(kind, kind == "ring" ? "diameter" : width_key(*known)) : std::nullopt;
}

double estimated_mass(const Json& product) {
  double volume = 0;
  if (product.contains("parts"))
    for (const Json& part : product["parts"]) {
      if (!part.contains("profile") || part.value("id", "") == "filling") continue;
      const Outline o(part);
      const bool box = part.value("section", "") == "box";
      double own = 0;  // inner faces run downward and take off what they bound
      for (std::size_t i = 0; i + 1 < o.up.size(); ++i) {
        const double a = o.across[i] * o.deep[i], b = o.across[i + 1] * o.deep[i + 1];
        own += (box ? 4.0 : std::numbers::pi) * 0.5 * (a + b) * (o.up[i + 1] - o.up[i]);
      }
      volume += std::max(0.0, own);
    }
  const std::string kind = product.contains("built") ? product["built"].value("kind", "") : "";
  const auto known = densities().find(kind);
  const double mass = volume * (known == densities().end() ? 900.0 : known->second);
  return std::clamp(mass < 0.1 ? std::round(mass * 1e3) / 1e3 : std::round(mass * 1e2) / 1e2, 0.002, 500.0);
}

namespace {

/// The form that is chosen, at the measures of the hand and of what it is made of.
Expected<Json> form_in_hand(const SpotInHand& hand) {
  const ProductKind* kind = product_kind(hand.kind);
  if (!kind) {
    std::string known;
    for (const ProductKind& k : product_kinds()) known += (known.empty() ? "" : ", ") + k.id;
    return fail("product", "\"" + hand.kind + "\" is no kind of product", "give one of " + known);
  }
  const auto high = height_range(hand.kind), wide = width_range(hand.kind);
  const double s_high = hand.height && high ? *hand.height / high->usual : 1.0,
               s_wide = hand.width && wide ? *hand.width / wide->usual
                        : hand.height      ? s_high
                                           : 1.0;  // as the kind is usually proportioned
  std::map<std::string, double> measures;
  for (const Dimension& d : kind->dimensions) {
    if (!d.is_length) continue;
    const bool tall = hand.kind == "ring" ? d.key == "width" : is_tall_measure(d.key);
    double value =
        d.usual * (tall                                                           ? s_high
                   : d.key == "wall" || d.key == "thickness" || d.key == "corner" ? std::min(s_high, s_wide)
                                                                                  : s_wide);
    const bool asked =
        d.key == (hand.kind == "ring" ? "diameter" : width_key(*kind)) || d.key == height_key(hand.kind);
    if (!asked) value = std::clamp(value, d.low, d.high);
    measures[d.key] = to_micro(value);
  }
  auto built = built_product({{"id", "product"}, {"name", kind->name}, {"mass", 0.3}}, hand.kind, measures);
  if (!built) return tl::unexpected(built.error());
  Json product = *built;
  if (!hand.made_of.empty() && hand.made_of != "usual") {
    const auto choices = made_of_choices(hand.kind);
    const auto chosen =
        std::find_if(stuffs().begin(), stuffs().end(), [&](const Stuff& s) { return s.told.id == hand.made_of; });
    if (std::none_of(choices.begin(), choices.end(), [&](const MadeOf& m) { return m.id == hand.made_of; }))
      return fail("made of", "\"" + hand.made_of + "\" is not what a " + hand.kind + " can be made of here",
                  "give one of the list");
    // The body, not a cap that stands before it in the list.
    Json* body = &product["parts"][0];
    for (Json& part : product["parts"])
      if (part.value("id", "") == "body" || part.value("id", "") == "glass") body = &part;
    (*body)["material"] = chosen->material;
  }
  return product;
}

/// The part that carries the label: the one with most of a face; none of a mesh.
std::optional<std::size_t> largest_part(const Json& product) {
  std::optional<std::size_t> largest;
  double most = -1;
  for (std::size_t i = 0; i < product["parts"].size(); ++i) {
    const Json& part = product["parts"][i];
    if (!part.contains("profile") || part.value("id", "") == "filling") continue;
    const Outline o(part);
    double area = 0;
    for (std::size_t k = 0; k + 1 < o.up.size(); ++k)
      area += 0.5 * (o.across[k] + o.across[k + 1]) * std::abs(o.up[k + 1] - o.up[k]);
    if (area > most) most = area, largest = i;
  }
  return largest;
}

}  // namespace

Expected<Json> product_in_hand(const SpotInHand& hand) {
  auto formed = hand.product ? Expected<Json>(*hand.product) : form_in_hand(hand);
  if (!formed) return formed;
  Json product = *std::move(formed);
  product["mass"] = hand.mass ? *hand.mass : hand.product ? product.value("mass", 0.3) : estimated_mass(product);
  const double letters = hand.seen.empty() ? 0.0 : hand.seen.front().second;
  if (!product.contains("parts") || product["parts"].empty())
    return fail("product", "has no parts", "choose its form again");
  // Where what must be seen lies on it.
  const auto largest = largest_part(product);
  if (!largest) return product;  // a mesh: its label is put on the Brief, where it can be seen
  const Outline outline(product["parts"][*largest]);
  const auto [from, to] = label_heights(outline);
  if (!hand.product && bears_label(hand.kind)) {
    const double widest = outline.at_height((from + to) / 2);
    product["label"] = {{"part", product["parts"][*largest]["id"]},
                        {"bearing_deg", 0},
                        {"arc_deg", widest > 0 && to - from < 0.4 * widest ? 80 : 100},
                        {"low", from},
                        {"high", to},
                        {"stroke", to_micro(std::max(1e-4, (letters > 0 ? letters : 0.3 * (to - from)) / 6.0))},
                        {"material", {{"kind", "paper"}, {"colour", {0.78, 0.75, 0.68}}}}};
  }
  int n = 0;
  for (const auto& [words, height] : hand.seen) {
    if (!(height > 1e-5) || !(height <= 1.0))
      return fail("what must be seen", fmt::format("letters of \"{}\" are {} high", words, length_text(height)),
                  "give 0.01 mm to 1 m");
    // Several stand under one another, the first in the middle.
    const int steps = n % 2 == 0 ? n / 2 : -(n / 2 + 1);
    const double at = std::clamp((from + to) / 2 + steps * 0.25 * (to - from), from, to);
    product["features"].push_back({{"id", fmt::format("f{}", n + 1)},
                                   {"name", words.empty() ? std::string("the name") : words},
                                   {"at", {0, to_micro(at), to_micro(outline.depth_at(at))}},
                                   {"detail", height},
                                   {"read", true}});
    ++n;
  }
  return product;
}

Expected<Document> spot_in_hand(const SpotInHand& hand) {
  auto product = product_in_hand(hand);
  if (!product) return tl::unexpected(product.error());
  Document document = empty_document(hand.name, hand.rate);
  document.blobs = hand.blobs;
  Json project = *document.single("project");
  if (hand.length) {
    if (!(*hand.length >= 3.0 && *hand.length <= 600.0))
      return fail("length", fmt::format("is {} s", number_text(*hand.length)), "give 3 s to 600 s");
    project["allowed_time"] = *hand.length;
  }
  if (hand.tempo) {
    if (!(*hand.tempo >= 30.0 && *hand.tempo <= 240.0))
      return fail("tempo", fmt::format("is {} beats a minute", number_text(*hand.tempo)), "give 30 to 240");
    project["beats_per_minute"] = *hand.tempo;
  }
  if (!hand.mood.empty()) project["mood"] = hand.mood;
  project["units"] = "metric";
  document.singles["project"] = std::make_shared<const Json>(std::move(project));
  document.lists["products"].push_back(std::make_shared<const Json>(std::move(*product)));
  if (hand.shapes.empty()) return fail("where it runs", "is not said", "choose a shape of frame at least");
  bool first = true;
  for (const std::string& shape : hand.shapes) {
    if (std::find(frame_shapes().begin(), frame_shapes().end(), shape) == frame_shapes().end())
      return fail("deliverable", "\"" + shape + "\" is no shape of frame", "give 16:9, 9:16, 1:1 or 4:5");
    Json one = deliverable(shape, hand.rate, first);
    if (document.find("deliverables", one["id"].get<std::string>())) continue;
    document.lists["deliverables"].push_back(std::make_shared<const Json>(std::move(one)));
    first = false;
  }
  for (const std::string& kit : hand.kits) {
    auto with = with_starter_kit(document, kit);
    if (!with) {
      std::string known;
      for (const StarterKit& k : starter_kits()) known += (known.empty() ? "" : ", ") + k.id;
      return fail("kit", "\"" + kit + "\" is no starter kit", "give one of " + known);
    }
    document = std::move(*with);
  }
  if (const auto faults = validate(document.to_json()); !faults.empty())
    return fail(faults[0].path, faults[0].message, faults[0].mend);
  return document;
}

}  // namespace cinnabar
