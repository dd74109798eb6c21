// Colours of products by area, worked by hand.
#include "cinnabar/scene/product_colours.h"

#include <cmath>

#include "worlds.h"

namespace cinnabar {
namespace {

// Own behaviour, worked by hand.
TEST(ProductColours, GoByTheAreaOfEachPartLessWhatTheLabelHides) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "matte"}, {"colour", {0.6, 0.1, 0.1}}}, true);
  const Project project = worlds::read(doc);
  const auto colours = product_colours(*project.products[0]);
  ASSERT_EQ(colours.size(), 2u);
  // Side 2 pi 0.04 x 0.1 and two ends pi 0.04^2; the label a quarter round and 0.06 high.
  const double label = 0.04 * pi / 2 * 0.06, all = 2 * pi * 0.04 * 0.1 + 2 * pi * 0.0016;
  EXPECT_NEAR(colours[0].share, all - label, 1e-9);
  EXPECT_NEAR(colours[1].share, label, 1e-9);
  EXPECT_NEAR(colours[1].linear.x, 0.8, 1e-9);
}

// Own behaviour, worked by hand.
TEST(ProductColours, ClearThingsShowWhatTheyLetThrough) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "liquid"}, {"ior", 1.4}, {"absorption", {2.0, 20.0, 100.0}}});
  const Project project = worlds::read(doc);
  const auto colours = product_colours(*project.products[0]);
  ASSERT_EQ(colours.size(), 1u);
  EXPECT_NEAR(colours[0].linear.y, std::exp(-20 * 0.08), 1e-9);  // once across
  doc["products"][0]["parts"][0]["material"] = {{"kind", "glass"}, {"ior", 1.5}};
  const Project clear = worlds::read(doc);
  EXPECT_TRUE(product_colours(*clear.products[0]).empty());
}

}  // namespace
}  // namespace cinnabar
