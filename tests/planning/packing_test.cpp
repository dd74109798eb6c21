// The packing list: counts worked by hand from small projects.
#include "cinnabar/planning/packing.h"

#include "worlds.h"

namespace cinnabar {
namespace {

const PackedThing* thing(const Packing& packing, const std::string& id) {
  for (const PackedThing& t : packing.things)
    if (t.id == id) return &t;
  return nullptr;
}
Json lamp(const std::string& id, const std::string& kit, double height) {
  return {{"id", id},         {"kit", kit},      {"place", {0.5, height, 0.5}},
          {"aim", {0, 0, 0}}, {"shape", "bare"}, {"radius", 0.05}};
}

// Own behaviour, counted by hand.
TEST(Packing, CountsLightsByTheSetupThatUsesMostAtOnce) {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"] = {lamp("a", "led", 1), lamp("b", "led", 1)};
  Json second = doc["setups"][0];
  second["id"] = "B";
  second["lights"].push_back(lamp("c", "led", 1));
  doc["setups"].push_back(second);
  doc["shots"][0]["setup"] = "B";
  const Project project = worlds::read(doc);
  const Packing packed = packing(project);
  ASSERT_NE(thing(packed, "led"), nullptr);
  EXPECT_EQ(thing(packed, "led")->wanted, 3);
  EXPECT_EQ(thing(packed, "led")->missing(), 2);
  EXPECT_EQ(thing(packed, "led")->shots, (std::vector<std::size_t>{0}));
  EXPECT_EQ(shortages(project, packed).front(), "led: 3 wanted, 1 owned (on set-up B)");
  doc["kit"]["lights"][0]["count"] = 3;
  EXPECT_TRUE(shortages(worlds::read(doc), packing(worlds::read(doc))).empty());
  doc["setups"][1]["lights"][0].erase("kit");
  EXPECT_EQ(packing(worlds::read(doc)).things.back().list, "kit/lights");
}

// Own behaviour, counted by hand.
TEST(Packing, WhatIsNotOwnedIsMissingAndCosts) {
  Json doc = worlds::bare();
  doc["kit"]["lenses"][0].update({{"owned", false}, {"price", 240.0}, {"hired", true}});
  doc["project"]["means"] = {{"budget", 200.0}};
  const Project project = worlds::read(doc);
  const Packing packed = packing(project);
  EXPECT_EQ(thing(packed, "fifty")->missing(), 1);
  EXPECT_TRUE(thing(packed, "fifty")->hired);
  EXPECT_EQ(packed.cost, 240);
  EXPECT_EQ(shortages(project, packed).back(), "What is missing costs 240, 40 more than the budget of 200");
}

// Common practice, no source: the leads on cards and batteries
TEST(Packing, CardsAndBatteriesForAllTakesWithTheirLead) {
  Json doc = worlds::bare();
  doc["kit"]["cameras"][0]["watts"] = 9;
  doc["kit"]["cameras"][0]["modes"][0]["megabits_per_s"] = 400;
  doc["kit"]["media"] = {{{"id", "card"}, {"gigabytes", 32}}};
  doc["kit"]["batteries"] = {{{"id", "cell"}, {"watt_hours", 1.0}, {"usable", 0.5}, {"count", 2}}};
  doc["shots"][0]["takes_planned"] = 60;
  // 60 x (2 + 10) s = 720 s: 400 x 720 / 8000 = 36 GB, two cards; 9 x 720 / 3600 = 1.8 Wh, four cells of 0.5.
  const Packing packed = packing(worlds::read(doc));
  EXPECT_EQ(thing(packed, "card")->wanted, 2);
  EXPECT_EQ(thing(packed, "card")->missing(), 1);
  EXPECT_EQ(thing(packed, "cell")->wanted, 4);
  EXPECT_EQ(thing(packed, "cell")->owned, 2);
}

// Own behaviour, counted by hand.
TEST(Packing, ConsumablesByTakeAndWhatGoesStale) {
  Json doc = worlds::bare();
  doc["kit"]["consumables"] = {
      {{"id", "milk"}, {"name", "Milk"}, {"unit", "ml"}, {"stock", 900}, {"shelf_minutes", 30}}};
  doc["shots"][0]["uses"] = {{{"consumable", "milk"}, {"amount", 200}}};
  doc["shots"][0]["takes_planned"] = 5;
  doc["shots"][0]["reset_minutes"] = 10;
  const Packing packed = packing(worlds::read(doc));
  EXPECT_EQ(thing(packed, "milk")->wanted, 1000);
  EXPECT_EQ(thing(packed, "milk")->missing(), 100);
  EXPECT_EQ(thing(packed, "milk")->note, "good for 30 min, one shot's takes need 50.2 min: open it fresh");
}

// Own behaviour, counted by hand.
TEST(Packing, AStandThatIsTooLowHoldsNothing) {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"] = {lamp("a", "led", 2.4), lamp("b", "led", 0.5)};
  doc["kit"]["lights"][0]["count"] = 2;
  doc["kit"]["supports"].push_back({{"id", "stand"}, {"kind", "stand"}, {"reach", 2.0}, {"count", 2}});
  Packing packed = packing(worlds::read(doc));
  EXPECT_EQ(thing(packed, "stand")->missing(), 1);
  EXPECT_EQ(thing(packed, "stand")->note, "for a head of set-up A none reaches 2.40 m up");
  doc["setups"][0]["lights"][0]["place"] = {0, 1.9, 0};
  packed = packing(worlds::read(doc));
  EXPECT_EQ(thing(packed, "stand")->missing(), 0);
  EXPECT_EQ(thing(packed, "stand")->wanted, 2);
}

// Own behaviour, counted by hand.
TEST(Packing, AnEmptyProjectNeedsNothing) {
  ProjectReader reader;
  const Packing packed = packing(reader.read(empty_document("New")));
  EXPECT_TRUE(packed.things.empty());
  EXPECT_EQ(packed.cost, 0);
}

}  // namespace
}  // namespace cinnabar
