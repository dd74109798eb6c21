// Bands of the moods: common practice, no source.
// What a mood asks of movement and pace, and where features are seen best.
#include "cinnabar/forecast/levels/moods.h"

#include "cinnabar/forecast/levels/features.h"
#include "judging.h"

namespace cinnabar {
using namespace judging;
namespace {

// Common practice, no source
TEST(Mood, SetsHowQuicklyThePictureMayCrossTheFrame) {
  // As in the judder's own test: 10 s a width. 7 x 24 / 25 = 6.72 s; gentle asks 1.3 times that, 8.736 s.
  Json doc = can();
  const double widths = 0.2 * (0.05 / 0.95) / 0.036;
  const auto slide = [&](double seconds_wide) {
    doc["shots"][0]["tracks"] =
        Json::array({{{"target", "camera.slide"}, {"keys", {{0, 0}, {2, 0.4 / seconds_wide / widths}}}}});
  };
  slide(8.0);
  expect_level(doc, "motion.judder", 8.0, State::level, 0.1);
  doc["project"]["mood"] = "gentle";
  expect_level(doc, "motion.judder", 8.0, State::leaning, 0.1);
  EXPECT_NEAR(*level_of(doc, "motion.judder")->band.low, 8.736, 1e-9);
  EXPECT_NE(level_of(doc, "motion.judder")->source.find("gentle"), std::string::npos);
  doc["project"]["mood"] = "crisp";
  slide(6.0);
  expect_level(doc, "motion.judder", 6.0, State::level, 0.1);
  doc["project"]["mood"] = "sleepy";  // no mood that is known sets anything
  EXPECT_NEAR(*level_of(doc, "motion.judder")->band.low, 6.72, 1e-9);
}

// Common practice, no source
TEST(Mood, SetsThePaceWhereTheBriefDoesNot) {
  Json doc = can();
  doc["project"]["beats_per_minute"] = 60;
  Json second = doc["shots"][0];
  second["id"] = "s2";
  doc["shots"].push_back(second);
  doc["shots"][0]["screen_time"] = 2.3;
  const auto beats = [&] {
    for (const Level& l : spot_levels(worlds::read(doc)))
      if (l.id == "spot.beats") return std::optional(l);
    return std::optional<Level>();
  };
  EXPECT_FALSE(beats().has_value());
  doc["project"]["mood"] = "crisp";
  ASSERT_TRUE(beats().has_value());
  EXPECT_EQ(*beats()->band.low, 0.75);
  EXPECT_EQ(beats()->state, State::out);
  doc["project"]["cuts_on_beats"] = 0.0;
  EXPECT_EQ(*beats()->band.low, 0.0) << "the brief's own word goes first";
}

// Common practice, no source
TEST(Mood, SaysWhatItSets) {
  EXPECT_EQ(mood_says(*mood_named("gentle")),
            "Sides 1 to 2 stops apart, shadow edges over 12 mm, moves 30 % slower.");
  EXPECT_EQ(
      mood_says(*mood_named("crisp")),
      "Sides 1 to 3 stops apart, shadow edges under 3 mm, moves up to 25 % quicker, 75 % of the cuts on beats.");
  EXPECT_EQ(mood_named("sleepy"), nullptr);
  EXPECT_EQ(moods().size(), 4u);
}

// Common practice, no source
TEST(FeatureViews, FindTheShotThatShowsEachBest) {
  Json doc = can();
  doc["products"][0]["features"] = {
      {{"id", "front"}, {"name", "front"}, {"at", {0, 0.05, 0.04}}, {"detail", 0.01}, {"read", true}},
      {{"id", "back"}, {"name", "back"}, {"at", {0, 0.05, -0.04}}, {"detail", 0.01}, {"read", true}}};
  Json near = doc["shots"][0];
  near["id"] = "s2";
  near["camera"]["place"] = {0, 0.05, 0.8};
  near["camera"]["focus"] = 0.76;
  doc["shots"].push_back(near);
  const Project project = worlds::read(doc);
  const auto views = feature_views(Forecaster(), project);
  ASSERT_EQ(views.size(), 2u);
  EXPECT_EQ(views[0].shot, std::optional<std::size_t>(1)) << "nearer is larger";
  EXPECT_TRUE(views[0].seen.seen());
  EXPECT_EQ(views[0].level().state, State::level);
  EXPECT_FALSE(views[1].seen.seen());
  EXPECT_EQ(views[1].level().state, State::out);
  std::atomic<bool> stop{true};
  EXPECT_TRUE(feature_views(Forecaster(), project, &stop).empty());
  doc["shots"] = Json::array();
  EXPECT_FALSE(feature_views(Forecaster(), worlds::read(doc))[0].shot.has_value());
}

}  // namespace
}  // namespace cinnabar
