// What something not owned would buy: gains agree with the levels of a project that really has it.
#include "cinnabar/forecast/purchases/acquisitions.h"

#include "judging.h"
#include "worlds.h"

namespace cinnabar {
namespace {

Acquisition thing(const std::string& list, const Json& item, const std::string& stands_for = {},
                  std::optional<double> price = {}) {
  return {list, std::make_shared<const Json>(item), stands_for, item.value("name", item.value("id", "")), price};
}
Document document(const Json& json) { return *Document::from_json(json); }
State state_in(const Document& doc, std::size_t shot, const std::string& id) {
  ProjectReader reader;
  const auto levels = Forecaster(search_measure).levels(reader.read(doc), shot, id);
  return levels.empty() ? State::unknown : levels[0].state;
}
const Gain* gain(const Bought& b, const std::string& level) {
  for (const Gain& g : b.gains)
    if (g.level == level) return &g;
  return nullptr;
}

/// A can of 0.5 kg on a turntable for 0.2 kg that turns 90 degrees in the shot's 2 s: 7.5 turns a minute.
Json overloaded() {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "matte"}, {"colour", {0.5, 0.5, 0.5}}});
  doc["kit"]["supports"][0].update({{"load", 0.2}, {"rpm_low", 1}, {"rpm_high", 10}});
  doc["shots"][0]["tracks"] = {{{"target", "turntable"}, {"profile", "linear"}, {"keys", {{0, 0}, {2, 90}}}}};
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0.5, 0.5, 0.5}, {0, 0.05, 0}, 0.6, 0.6, 3000));
  return doc;
}

// Own behaviour: against the levels of a project that has the thing.
TEST(WhatItBuys, AStrongerTurntableBringsTheLoadHome) {
  const Document doc = document(overloaded());
  ASSERT_EQ(state_in(doc, 0, "motion.load"), State::out);
  const auto ideas = acquisitions(doc);
  const auto stronger =
      std::find_if(ideas.begin(), ideas.end(), [](const Acquisition& a) { return a.list == "kit/supports"; });
  ASSERT_NE(stronger, ideas.end());
  EXPECT_EQ(stronger->item->at("load"), 0.8);  // four times: 0.5 kg is well within
  const auto bought = what_it_buys(Forecaster(search_measure), doc, *stronger);
  ASSERT_TRUE(bought.has_value());
  ASSERT_NE(gain(*bought, "motion.load"), nullptr);
  EXPECT_EQ(gain(*bought, "motion.load")->after, State::level);
  EXPECT_GE(bought->homes, 1);
  EXPECT_TRUE(bought->losses.empty());
}

// Own behaviour: against the levels of a project that has the thing.
TEST(WhatItBuys, OneThatIsTooWeakAsWellBringsNothing) {
  const Document doc = document(overloaded());
  const auto bought = what_it_buys(Forecaster(search_measure), doc,
                                   thing("kit/supports", {{"id", "toy"}, {"kind", "turntable"}, {"load", 0.3}}));
  EXPECT_EQ(gain(*bought, "motion.load"), nullptr);
  EXPECT_EQ(bought->homes, 0);
}

// Own behaviour: against the levels of a project that has the thing.
TEST(WhatItBuys, AFasterLensPaysTheIsoThatIsTooHigh) {
  Json json = overloaded();
  json["project"]["limits"] = {{"iso", 400}};
  json["shots"][0]["camera"].update({{"iso", 640}, {"f_number", 2.0}});
  const Document doc = document(json);
  ASSERT_EQ(state_in(doc, 0, "camera.iso"), State::out);
  const auto bought = what_it_buys(Forecaster(search_measure), doc,
                                   thing("kit/lenses", {{"id", "fast"},
                                                        {"focal_low", 0.05},
                                                        {"focal_high", 0.05},
                                                        {"f_number_low", 1.4},
                                                        {"f_number_high", 16}}));
  ASSERT_NE(gain(*bought, "camera.iso"), nullptr);
  EXPECT_EQ(gain(*bought, "camera.iso")->after, State::level);  // 320
  ASSERT_EQ(bought->how.size(), 1u);
  EXPECT_EQ(bought->how[0], "shot 1: opened a stop, ISO a stop lower");
  // A lens no faster cannot do it.
  const auto same = what_it_buys(Forecaster(search_measure), doc,
                                 thing("kit/lenses", {{"id", "slow"},
                                                      {"focal_low", 0.05},
                                                      {"focal_high", 0.05},
                                                      {"f_number_low", 2.0},
                                                      {"f_number_high", 16}}));
  EXPECT_EQ(gain(*same, "camera.iso"), nullptr);
}

// Own behaviour: against the levels of a project that has the thing.
TEST(WhatItBuys, MoreLightPaysItToo) {
  Json json = overloaded();
  json["project"]["limits"] = {{"iso", 400}};
  json["setups"][0]["lights"][0]["kit"] = "led";
  json["setups"][0]["lights"][0].erase("lumens");
  json["shots"][0]["camera"]["iso"] = 640;
  const Document doc = document(json);
  const auto ideas = acquisitions(doc);
  const auto twice = std::find_if(ideas.begin(), ideas.end(), [](const Acquisition& a) {
    return a.list == "kit/lights" && a.item->value("lumens", 0) == 12000;
  });
  ASSERT_NE(twice, ideas.end());
  const auto bought = what_it_buys(Forecaster(search_measure), doc, *twice);
  ASSERT_NE(gain(*bought, "camera.iso"), nullptr);
  EXPECT_EQ(gain(*bought, "camera.iso")->after, State::level);
}

// Own behaviour: against the levels of a project that has the thing.
TEST(WhatItBuys, MoreCardSpaceAndALongerSlider) {
  Json json = overloaded();
  json["kit"]["media"] = {{{"id", "card"}, {"gigabytes", 1}}};
  json["kit"]["cameras"][0]["modes"][0]["megabits_per_s"] = 100;
  json["kit"]["supports"].push_back({{"id", "rail"}, {"kind", "slider"}, {"travel", 0.3}, {"speed", 1.0}});
  json["shots"][0]["takes_planned"] = 10;  // 10 x 12 s x 100 Mb/s = 1.5 GB of 1
  json["shots"][0]["camera"]["slide_axis"] = {1, 0, 0};
  json["shots"][0]["tracks"].push_back(
      {{"target", "camera.slide"}, {"profile", "linear"}, {"keys", {{0, 0}, {2, 0.5}}}});
  const Document doc = document(json);
  ASSERT_EQ(state_in(doc, 0, "camera.media"), State::out);
  ASSERT_EQ(state_in(doc, 0, "motion.reach"), State::out);
  const auto list = ranked(Forecaster(search_measure), doc, acquisitions(doc));
  const auto home = [&](const std::string& level) {
    return std::any_of(list.begin(), list.end(), [&](const Bought& b) {
      const Gain* g = gain(b, level);
      return g && g->after == State::level;
    });
  };
  EXPECT_TRUE(home("camera.media"));
  EXPECT_TRUE(home("motion.reach"));
  for (std::size_t i = 1; i < list.size(); ++i) EXPECT_LE(list[i].homes > 0, list[i - 1].homes > 0);
}

// Own behaviour: against the levels of a project that has the thing.
TEST(WhatItBuys, RanksByLevelsForTheMoney) {
  Json json = overloaded();
  json["kit"]["supports"].push_back(
      {{"id", "dear"}, {"kind", "turntable"}, {"load", 5}, {"owned", false}, {"price", 400}});
  json["kit"]["supports"].push_back(
      {{"id", "cheap"}, {"kind", "turntable"}, {"load", 5}, {"owned", false}, {"price", 80}});
  const Document doc = document(json);
  EXPECT_EQ(state_in(doc, 0, "motion.load"), State::out) << "what is not owned helps nobody yet";
  const auto list = ranked(Forecaster(search_measure), doc, acquisitions(doc));
  ASSERT_GE(list.size(), 2u);
  EXPECT_EQ(list[0].thing.title, "cheap");
  EXPECT_EQ(list[1].thing.title, "dear");
  EXPECT_NEAR(*list[0].per_hundred() / *list[1].per_hundred(), 5.0, 1e-9);
}

// Own behaviour: against the levels of a project that has the thing.
TEST(WhatItBuys, IsStoppedAndKnowsNothingOfAnEmptyProject) {
  std::atomic<bool> stop{true};
  const Document doc = document(overloaded());
  const auto ideas = acquisitions(doc);
  EXPECT_FALSE(what_it_buys(Forecaster(search_measure), doc, ideas.at(0), &stop).has_value());
  EXPECT_TRUE(acquisitions(empty_document("New")).empty());
}

// Own behaviour: against the levels of a project that has the thing.
TEST(Levers, DoNotAskForWhatIsNotOwned) {
  Json json = overloaded();
  json["kit"]["supports"].push_back({{"id", "dear"}, {"kind", "turntable"}, {"load", 5}, {"owned", false}});
  const auto levers = Forecaster(search_measure).levers(document(json), 0, "motion.load");
  for (const Lever& l : levers.list) EXPECT_EQ(l.title.find("dear"), std::string::npos) << l.title;
  json["kit"]["supports"].back()["owned"] = true;
  const auto now = Forecaster(search_measure).levers(document(json), 0, "motion.load");
  EXPECT_TRUE(std::any_of(now.list.begin(), now.list.end(),
                          [](const Lever& l) { return l.title.find("dear") != std::string::npos; }));
}

}  // namespace
}  // namespace cinnabar
