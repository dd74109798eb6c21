// The order of shooting, by hand-made set-ups and against every permutation.
#include "cinnabar/planning/order.h"

#include <algorithm>
#include <numeric>
#include <random>

#include "worlds.h"

namespace cinnabar {
namespace {

/// Set-ups that differ in how many of their lights stand elsewhere, and shots on them by letter.
Json world(const std::vector<std::string>& setups_of_shots,
           const std::map<std::string, std::vector<double>>& lights) {
  Json doc = worlds::bare();
  doc["setups"] = Json::array(), doc["shots"] = Json::array();
  for (const auto& [id, places] : lights) {
    Json setup{{"id", id}, {"name", id}, {"lights", Json::array()}, {"cards", Json::array()}};
    for (std::size_t k = 0; k < places.size(); ++k)
      setup["lights"].push_back(
          worlds::rectangle("l" + std::to_string(k), {places[k], 1, 1}, {0, 0, 0}, 0.5, 0.5, 100));
    doc["setups"].push_back(setup);
  }
  const Json shot = worlds::bare()["shots"][0];
  for (std::size_t i = 0; i < setups_of_shots.size(); ++i) {
    Json s = shot;
    s["id"] = "s" + std::to_string(i), s["setup"] = setups_of_shots[i];
    doc["shots"].push_back(s);
  }
  return doc;
}
using Order = std::vector<std::size_t>;

// Common practice, no source
TEST(ShootingOrder, FollowsTheSchool) {
  // A and C are alike but for one light; B has all three elsewhere.
  Json doc = world({"A", "B", "A", "C", "B"}, {{"A", {1, 2, 3}}, {"B", {4, 5, 6}}, {"C", {1, 2, 9}}});
  doc["house_rules"] = {{"order", "story"}};
  EXPECT_EQ(shooting_order(worlds::read(doc)), (Order{0, 1, 2, 3, 4}));
  EXPECT_EQ(things_moved(worlds::read(doc), {0, 1, 2, 3, 4}), 3 + 3 + 1 + 3);
  doc["house_rules"] = {{"order", "fewest-moves"}};
  const Project p = worlds::read(doc);
  EXPECT_EQ(things_moved(p, shooting_order(p)), 1 + 3) << "A and C side by side";
  doc["house_rules"] = {{"order", "hero-first"}};
  doc["shots"][4]["role"] = "hero";
  EXPECT_EQ(shooting_order(worlds::read(doc)), (Order{4, 1, 0, 2, 3}))
      << "the hero, what shares its set-up, the rest";
}

// Common practice, no source
TEST(ShootingOrder, WetAfterClean) {
  Json doc = world({"A", "A", "B", "A"}, {{"A", {1}}, {"B", {2}}});
  doc["house_rules"] = {{"order", "hero-first"}};
  doc["shots"][1]["move"] = "splash";
  doc["shots"][3]["role"] = "hero";
  EXPECT_EQ(shooting_order(worlds::read(doc)), (Order{3, 0, 1, 2})) << "the splash is last of its set-up";
  doc["shots"][3].erase("role");
  doc["shots"][2]["role"] = "hero";
  EXPECT_EQ(shooting_order(worlds::read(doc)), (Order{2, 0, 3, 1})) << "and its set-up last of the day";
  EXPECT_TRUE(leaves_traces(*worlds::read(doc).shots[1]));
  EXPECT_FALSE(leaves_traces(*worlds::read(doc).shots[0]));
}

// Own behaviour, against every permutation.
TEST(ShootingOrder, FewestMovesIsNeverBeatenByAnyOrderOfSetUps) {
  std::mt19937 random(4);
  for (int round = 0; round < 40; ++round) {
    std::map<std::string, std::vector<double>> lights;
    std::vector<std::string> shots;
    for (const char* id : {"A", "B", "C", "D", "E"}) {
      for (int k = 0; k < 3; ++k) lights[id].push_back(static_cast<double>(random() % 3));
      shots.emplace_back(id);
    }
    Json doc = world(shots, lights);
    doc["house_rules"] = {{"order", "fewest-moves"}};
    const Project p = worlds::read(doc);
    const int found = things_moved(p, shooting_order(p));
    Order order(5);
    std::iota(order.begin(), order.end(), std::size_t{0});
    do EXPECT_LE(found, things_moved(p, order));
    while (std::next_permutation(order.begin(), order.end()));
  }
}

// Own behaviour.
TEST(ShootingOrder, EveryShotOnceHoweverMany) {
  std::map<std::string, std::vector<double>> lights;
  std::vector<std::string> shots;
  for (int k = 0; k < 20; ++k) {
    lights["S" + std::to_string(k)] = {static_cast<double>(k % 7), static_cast<double>(k % 3)};
    shots.push_back("S" + std::to_string((k * 7) % 20));
    shots.push_back("S" + std::to_string(k));
  }
  for (const char* rule : {"hero-first", "story", "fewest-moves"}) {
    Json doc = world(shots, lights);
    doc["house_rules"] = {{"order", rule}};
    Order order = shooting_order(worlds::read(doc));
    std::sort(order.begin(), order.end());
    Order all(40);
    std::iota(all.begin(), all.end(), std::size_t{0});
    EXPECT_EQ(order, all) << rule;
  }
  ProjectReader reader;
  EXPECT_TRUE(shooting_order(reader.read(empty_document("New"))).empty());
}

// Own behaviour; counted by hand.
TEST(FloorChanges, AreCountedWhereSomethingIsCarried) {
  Json doc =
      world({"A", "B", "A", "C", "D", "A", "Z"}, {{"A", {1, 2}}, {"B", {1, 5}}, {"C", {1, 2}}, {"D", {1, 2}}});
  doc["shots"].erase(6);
  const auto counted = [&doc] {
    const FloorChanges changes = floor_changes(worlds::read(doc));
    return std::pair(changes.as_told, changes.grouped);
  };
  EXPECT_EQ(counted(), std::pair(6, 4)) << "each is built by itself";
  for (Json& setup : doc["setups"])
    if (setup["id"] != "A") setup["of"] = setup["id"] == "D" ? "C" : "A";
  EXPECT_EQ(counted(), std::pair(3, 2)) << "C is A as it stands, and D is C";
  doc["shots"] = Json::array();
  EXPECT_EQ(counted(), std::pair(0, 0));
}

}  // namespace
}  // namespace cinnabar
