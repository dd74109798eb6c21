// Products built from measures: every kind is valid and as large as asked; what does not fit is refused by name.
#include "cinnabar/project/making/product_kinds.h"

#include <random>

#include "worlds.h"

namespace cinnabar {
namespace {

struct Size {
  double low = 1e9, high = -1e9, radius = 0, depth = 0;
};
Size size_of(const Json& product) {
  Size s;
  for (const Json& part : product["parts"])
    for (const Json& p : part["profile"]) {
      s.low = std::min(s.low, p[1].get<double>()), s.high = std::max(s.high, p[1].get<double>());
      s.radius = std::max(s.radius, p[0].get<double>());
      if (p.size() > 2) s.depth = std::max(s.depth, p[2].get<double>());
    }
  return s;
}
std::vector<DocumentFault> faults(const Json& product) {
  Json doc = worlds::bare();
  doc["products"] = Json::array({product});
  return validate(doc);
}

TEST(ProductKinds, EachIsValidAndItsUsualSize) {
  ASSERT_EQ(product_kinds().size(), 16u);
  const Document empty = empty_document("New");
  for (const ProductKind& kind : product_kinds()) {
    const Json product = new_product(empty, kind.id);
    const auto wrong = faults(product);
    EXPECT_TRUE(wrong.empty()) << kind.id << ": " << (wrong.empty() ? "" : wrong[0].path + " " + wrong[0].message);
    const Size s = size_of(product);
    for (const Dimension& d : kind.dimensions) {
      if (d.key == "height") {
        EXPECT_NEAR(s.high - s.low, d.usual, 1e-6) << kind.id;
      }
      if (d.key == "diameter") {
        EXPECT_NEAR(2 * s.radius, d.usual, 2e-6) << kind.id;
      }
      if ((d.key == "width" && kind.id != "ring" && kind.id != "shoe") || d.key == "length") {
        EXPECT_NEAR(2 * s.radius, d.usual, 2e-6) << kind.id;
      }
      if (d.key == "depth" || (d.key == "width" && kind.id == "shoe")) {
        EXPECT_NEAR(2 * s.depth, d.usual, 2e-6) << kind.id;
      }
    }
  }
}

TEST(ProductKinds, MeasuresAreKeptAndWhatIsLeftOutStays) {
  const Json usual = new_product(empty_document("New"), "bottle");
  const auto tall = built_product(usual, "bottle", {{"height", 0.3}});
  ASSERT_TRUE(tall.has_value());
  const auto wide = built_product(*tall, "bottle", {{"diameter", 0.09}});
  EXPECT_NEAR(size_of(*wide).high, 0.3, 1e-6);
  EXPECT_NEAR(size_of(*wide).radius, 0.045, 1e-6);
  EXPECT_EQ((*wide)["built"]["height"], 0.3);
  EXPECT_EQ(measure_of(*wide, product_kind("bottle")->dimensions[0]), 0.3);
  EXPECT_EQ((*built_product(*wide, "can", {}))["built"].size(), 4u)
      << "another kind begins with its usual measures";
}

TEST(ProductKinds, MaterialsStayWithTheirPartsAndTheLabelWithinItsOwn) {
  Json jar = new_product(empty_document("New"), "jar");
  jar["parts"][0]["material"] = {{"kind", "frosted"}, {"ior", 1.5}};
  jar["label"] = {{"part", "glass"}, {"bearing_deg", 0}, {"arc_deg", 90}, {"low", 0.02}, {"high", 0.07}};
  const auto low = built_product(jar, "jar", {{"height", 0.05}, {"lid", 0.01}});
  ASSERT_TRUE(low.has_value());
  EXPECT_EQ((*low)["parts"][0]["material"]["kind"], "frosted");
  EXPECT_GE((*low)["label"]["low"].get<double>(), 0.0);
  EXPECT_LE((*low)["label"]["high"].get<double>(), 0.05);
  EXPECT_LT((*low)["label"]["low"].get<double>(), (*low)["label"]["high"].get<double>());
  const auto can = built_product(*low, "can", {});
  EXPECT_EQ((*can)["label"]["part"], "body");
  EXPECT_TRUE(faults(*can).empty());
  EXPECT_EQ((*built_product(jar, "jar", {{"fill", 0}}))["parts"].size(), 2u) << "nothing in it";
}

TEST(ProductKinds, WhatDoesNotFitIsRefusedByName) {
  const Json jar = new_product(empty_document("New"), "jar");
  EXPECT_EQ(built_product(jar, "jar", {{"neck_diameter", 0.2}}).error().place, "neck_diameter");
  EXPECT_NE(built_product(jar, "jar", {{"lid", 0.2}}).error().message.find("is not under Height"),
            std::string::npos);
  EXPECT_EQ(built_product(jar, "jar", {{"height", -1}}).error().place, "height");
  EXPECT_EQ(built_product(jar, "jar", {{"height", std::nan("")}}).error().place, "height");
  EXPECT_EQ(built_product(jar, "sphere", {}).error().place, "kind");
}

TEST(ProductKinds, RandomMeasuresAreValidOrRefused) {
  std::mt19937 random(8);
  std::uniform_real_distribution<double> share(0, 1);
  int built = 0;
  for (int i = 0; i < 1600; ++i) {
    const ProductKind& kind = product_kinds()[static_cast<std::size_t>(i) % product_kinds().size()];
    std::map<std::string, double> measures;
    for (const Dimension& d : kind.dimensions)
      measures[d.key] = d.is_length ? d.usual * (0.4 + 1.6 * share(random)) : share(random);
    const auto product = built_product({{"id", "x"}, {"name", "X"}}, kind.id, measures);
    if (!product) continue;
    ++built;
    const auto wrong = faults(*product);
    EXPECT_TRUE(wrong.empty()) << kind.id << " " << wrong[0].path << " " << wrong[0].message;
  }
  EXPECT_GT(built, 600);
}

}  // namespace
}  // namespace cinnabar
