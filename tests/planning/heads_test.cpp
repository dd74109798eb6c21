// What holds lights and cards up: stands, arms over the surface, and what none of them reaches.
#include "cinnabar/planning/heads.h"

#include "worlds.h"

namespace cinnabar {
namespace {

/// A table of 1.2 x 0.8 m; one lamp beside it, one over its right half, a card upright on it, one in the air.
Json table() {
  Json doc = worlds::bare();
  doc["setups"][0]["surface"] = {{"width", 1.2}, {"depth", 0.8}, {"material", worlds::matte(0.2, 0.2, 0.2)}};
  doc["setups"][0]["lights"] = {worlds::rectangle("beside", {0.9, 1.1, 0.5}, {0, 0, 0}, 0.3, 0.3, 1000),
                                worlds::rectangle("over", {0.2, 0.9, -0.1}, {0.2, 0, -0.1}, 0.3, 0.3, 1000)};
  doc["setups"][0]["cards"] = {worlds::card("stood", {-0.3, 0.1, 0}, {0, 0.1, 0}, 0.2, 0.2),
                               worlds::card("air", {-0.3, 0.5, 0}, {0, 0.1, 0}, 0.2, 0.2)};
  return doc;
}
Json stand(const std::string& id, const std::string& kind, double reach, double count = 1) {
  return {{"id", id}, {"kind", kind}, {"reach", reach}, {"count", count}};
}
std::vector<std::string> held(const Json& doc) {
  const Project p = worlds::read(doc);
  std::vector<std::string> list;
  for (const Support* s : held_on(heads_of(*p.setups[0]), holders_of(p))) list.push_back(s ? s->id : "");
  return list;
}

// Own behaviour, by hand: the card of 0.2 m in the middle of 0.1 m comes down to the table, the other hangs.
TEST(Heads, HangOverTheSurfaceAndStandBesideIt) {
  const Project p = worlds::read(table());
  const auto heads = heads_of(*p.setups[0]);
  ASSERT_EQ(heads.size(), 3u);
  EXPECT_FALSE(heads[0].hangs);
  EXPECT_EQ(heads[0].foot, (Vec3{0.9, -0.75, 0.5}));
  EXPECT_TRUE(heads[1].hangs);
  EXPECT_NEAR(heads[1].foot.x, 0.75, 1e-12);
  EXPECT_NEAR(heads[1].foot.z, -0.1, 1e-12);
  EXPECT_EQ(heads[2].thing, (SetThing{SetThing::Kind::card, 1}));
  EXPECT_NEAR(heads[2].foot.x, -0.75, 1e-12);
}

// Own behaviour, by hand.
TEST(Heads, AreHeldByTheLowestThatReachesThem) {
  Json doc = table();
  doc["kit"]["supports"] = {stand("high", "stand", 2.4), stand("low", "stand", 1.2, 2)};
  EXPECT_EQ(held(doc), (std::vector<std::string>{"high", "low", "low"})) << "without arms they hang on stands";
  doc["kit"]["supports"].push_back(stand("arm", "arm", 2.0));
  EXPECT_EQ(held(doc), (std::vector<std::string>{"low", "arm", ""})) << "one arm, two that hang";
  const Project p = worlds::read(doc);
  const auto heads = heads_of(*p.setups[0]);
  EXPECT_EQ(why_unheld(heads[2], holders_of(p), Units::metric), "none is left for it");
  // From the table's edge and 0.15 m on it is 0.55 m to the lamp, 0.45 m to the card.
  doc["kit"]["supports"][2]["length"] = 0.5;
  EXPECT_EQ(held(doc), (std::vector<std::string>{"low", "", "arm"}));
  const Project short_arm = worlds::read(doc);
  EXPECT_EQ(why_unheld(heads[1], holders_of(short_arm), Units::metric), "no arm holds 0.55 m out");
  doc["setups"][0]["lights"][0]["place"][1] = 2.6;
  const Project tall = worlds::read(doc);
  EXPECT_EQ(why_unheld(heads_of(*tall.setups[0])[0], holders_of(tall), Units::metric), "none reaches 2.60 m up");
  doc["kit"]["supports"][0]["owned"] = false;
  EXPECT_EQ(holders_of(worlds::read(doc)).size(), 3u) << "what is not owned holds nothing";
}

// Own behaviour: nothing is asked of a kit that knows no stands, or of a set-up with nothing on it.
TEST(Heads, AreNoneOfAnEmptySetup) {
  const Project p = worlds::read(worlds::bare());
  EXPECT_TRUE(heads_of(*p.setups[0]).empty());
  EXPECT_TRUE(holders_of(p).empty());
  EXPECT_TRUE(held_on({}, {}).empty());
}

}  // namespace
}  // namespace cinnabar
