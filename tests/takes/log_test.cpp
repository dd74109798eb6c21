// The log of takes: numbers, what is left, and changes in words.
#include "cinnabar/takes/log.h"

#include "worlds.h"

namespace cinnabar {
namespace {

// Own behaviour.
TEST(TakeLog, NumbersTakesByShotAndCountsKeepers) {
  Document doc = *Document::from_json(worlds::bare());
  for (const bool kept : {false, true, false})
    doc = applied(doc, *take_edit(doc, {"s1", "2026-12-03T10:00:00", kept, {"late"}, ""}));
  ProjectReader reader;
  const Project project = reader.read(doc);
  const ShotLog log = shot_log(project, *project.shots[0]);
  ASSERT_EQ(log.takes.size(), 3u);
  EXPECT_EQ(log.takes[2]->number, 3);
  EXPECT_EQ(log.kept, 1);
  EXPECT_EQ(log.further(), 0);
  EXPECT_FALSE(log.left());
  EXPECT_EQ(reasons_offered(project, *project.shots[0], 8).front(), "late");
  EXPECT_FALSE(take_edit(doc, {"nope", "", true, {}, ""}));
}

// Source: Jeffreys 1961 (prior of a proportion), worked by hand.
TEST(TakeLog, PredictsFromTheShotsOwnLog) {
  Json json = worlds::bare();
  json["shots"][0]["keepers_wanted"] = 5;
  Document doc = *Document::from_json(json);
  for (int k = 0; k < 10; ++k) doc = applied(doc, *take_edit(doc, {"s1", "", k % 5 < 2, {}, ""}));
  ProjectReader reader;
  const Project project = reader.read(doc);
  const auto left = shot_log(project, *project.shots[0]).left();  // 10 tried, 4 kept, 1 more: published row
  ASSERT_TRUE(left);
  EXPECT_NEAR(*left->expected, 2.85714, 1e-5);
  EXPECT_EQ(*left->median, 2);
  EXPECT_EQ(*left->ninety, 6);
}

// Source: Jeffreys 1961, the posterior mean; chances add up to one.
TEST(TakeChances, AddUpAndMeetTheMedian) {
  const auto chances = takes_left_chances({.tried = 10, .kept = 4, .wanted = 1}, 2000);
  double sum = 0;
  for (const double p : *chances) sum += p;
  EXPECT_NEAR(sum, 1.0, 1e-4);
  EXPECT_NEAR((*chances)[0], 4.5 / 11, 1e-12);  // posterior mean of the Jeffreys posterior
}

// Own behaviour.
TEST(Changes, AreSaidInTheTradesWords) {
  const Json before = worlds::bare()["shots"][0];
  Json after = before;
  after["camera"]["iso"] = 800;
  after["camera"]["f_number"] = 8;
  after["camera"]["place"] = {0, 0.05, 0.8};
  after["notes"] = "aside";
  const auto words = changes_in_words({{"shots", "s1", before, after}}, after);
  EXPECT_EQ(words, (std::vector<std::string>{"camera 1.00 m to 0.80 m away", "f/5.6 to f/8", "ISO 400 to 800"}));
  Json setup{{"id", "A"}, {"lights", {worlds::rectangle("key", {0, 0, 0.9}, {0, 0, 0}, 1, 1, 100)}}};
  Json moved = setup;
  moved["lights"][0]["dimmer"] = 0.5;
  setup["lights"][0]["dimmer"] = 1.0;
  moved["lights"][0]["place"] = {0, 0, 0.64};
  moved["lights"].push_back(worlds::rectangle("rim", {1, 0, 0}, {0, 0, 0}, 1, 1, 100));
  EXPECT_EQ(changes_in_words({{"setups", "A", setup, moved}}, after),
            (std::vector<std::string>{"key 0.90 m to 0.64 m away", "key -1.0 stop", "rim added"}));
  EXPECT_TRUE(changes_in_words({{"setups", "B", setup, moved}}, after).empty());  // another shot's set-up
}

// Own behaviour.
TEST(Uses, AreWhatAllTakesOfAllShotsHaveLeft) {
  Json doc = worlds::bare();
  doc["kit"]["consumables"] = {{{"id", "towel"}, {"name", "Paper towel"}, {"unit", "sheets"}, {"stock", 20}},
                               {{"id", "honey"}, {"name", "Honey"}, {"unit", "ml"}, {"stock", 500}}};
  doc["shots"].push_back(doc["shots"][0]);
  doc["shots"][1]["id"] = "s2";
  doc["shots"][0]["uses"] = {{{"consumable", "towel"}, {"amount", 3}}, {{"consumable", "honey"}, {"amount", 0}}};
  doc["shots"][1]["uses"] = {{{"consumable", "towel"}}};
  for (int k = 0; k < 4; ++k)
    doc["takes"].push_back({{"id", "t" + std::to_string(k)}, {"shot", k < 3 ? "s1" : "s2"}, {"number", k + 1}});
  const Project project = worlds::read(doc);
  const auto uses = uses_left(project, *project.shots[0]);
  ASSERT_EQ(uses.size(), 2u);
  EXPECT_EQ(uses[0].left, 20 - 3 * 3 - 1);
  EXPECT_EQ(uses[0].takes, 3) << "ten left, three a take";
  EXPECT_EQ(uses[1].takes, 1000000) << "nothing is used of it";
  EXPECT_EQ(uses_left(project, *project.shots[1])[0].takes, 10);
}

// Own behaviour.
TEST(Uses, ResetsCountWithTheSetTime) {
  Json doc = worlds::bare();
  doc["shots"][0]["reset_minutes"] = 4;
  EXPECT_NEAR(minutes_for(*worlds::read(doc).shots[0], 6), 6 * (4 + 2.0 / 60), 1e-9);
}

// Own behaviour.
TEST(OrderedTakes, AreSortedAndOnlyThoseWithOneThingChanged) {
  Json doc = worlds::bare();
  const char* reasons[] = {"soft", "label late", "soft", "dust"};
  for (int k = 0; k < 4; ++k)
    doc["takes"].push_back({{"id", "t" + std::to_string(k)},
                            {"shot", "s1"},
                            {"number", k + 1},
                            {"kept", k == 2},
                            {"reasons", {reasons[k]}}});
  const Project project = worlds::read(doc);
  const ShotLog log = shot_log(project, *project.shots[0]);
  const std::vector<std::optional<std::size_t>> changes{0, 3, 1, std::nullopt};
  using Places = std::vector<std::size_t>;
  EXPECT_EQ(ordered_takes(log, TakeOrder::newest, changes, false), (Places{3, 2, 1, 0}));
  EXPECT_EQ(ordered_takes(log, TakeOrder::oldest, changes, false), (Places{0, 1, 2, 3}));
  EXPECT_EQ(ordered_takes(log, TakeOrder::fewest_changes, changes, false), (Places{0, 2, 1, 3}));
  EXPECT_EQ(ordered_takes(log, TakeOrder::kept_first, changes, false), (Places{2, 3, 1, 0}));
  EXPECT_EQ(ordered_takes(log, TakeOrder::reason, changes, false), (Places{3, 1, 2, 0}));
  EXPECT_EQ(ordered_takes(log, TakeOrder::newest, changes, true), (Places{2}));
  EXPECT_EQ(ordered_takes(log, TakeOrder::newest, {}, true), Places{}) << "nothing is known";
}

}  // namespace
}  // namespace cinnabar
