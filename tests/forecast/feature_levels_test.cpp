// Worked by hand by similar triangles; bands: common practice, no source.
// Promised features in a shot and over the spot, the parts of the spot and its cuts, against values worked by
// hand.
#include "cinnabar/forecast/levels/features.h"

#include "judging.h"

namespace cinnabar {
using namespace judging;
namespace {

/// The can with a feature on its front, seen from 1 m with 50 mm at the set focus of 1 m.
Json promised(double detail, bool read = true) {
  Json doc = can();
  doc["products"][0]["features"] = {
      {{"id", "name"}, {"name", "the name"}, {"at", {0, 0.05, 0.04}}, {"detail", detail}, {"read", read}}};
  doc["shots"][0]["needs"]["features"] = {"can/name"};
  doc["shots"][0]["camera"]["iso"] = 1400;
  doc["shots"][0]["camera"]["f_number"] = 8;
  doc["setups"][0]["lights"][0]["lumens"] = 4000;
  return doc;
}

// Source: thin lens (Ray 2002), by hand.
TEST(Feature, IsAsLargeAsTheThinLensMakesIt) {
  // At 0.96 m: 0.05 x 1 / 0.95 / 0.96 = 0.0548246 times as large; a delivered pixel is 36 mm / 1920 = 18.75 um.
  const double px = 0.0548246 / 18.75e-6;
  expect_level(promised(0.010), "frame.feature", 0.010 * px, State::level, 0.02);
  expect_level(promised(0.008), "frame.feature", 0.008 * px, State::leaning, 0.02);
  expect_level(promised(0.004), "frame.feature", 0.004 * px, State::out, 0.02);
  // What is only to be noticed needs two pixels (Nyquist).
  expect_level(promised(0.001, false), "frame.feature", 0.001 * px, State::level, 0.01);
  expect_level(promised(0.0005, false), "frame.feature", 0.0005 * px, State::out, 0.01);
  Json doc = promised(0.010);
  doc["shots"][0]["needs"].erase("features");
  EXPECT_FALSE(level_of(doc, "frame.feature")) << "nothing is promised here";
}

// Source: similar triangles, by hand; bands common practice, no source.
TEST(Feature, MustFaceBeSharpLitUncoveredAndInsideTheFrame) {
  const auto out_because = [](const Json& doc, const char* why) {
    const auto level = level_of(doc, "frame.feature");
    ASSERT_TRUE(level) << why;
    EXPECT_EQ(level->state, State::out) << level->sentence;
    EXPECT_NE(level->sentence.find(why), std::string::npos) << level->sentence;
  };
  Json doc = promised(0.010);
  doc["shots"][0]["products"][0]["turn_deg"] = 75;
  out_because(doc, "degrees away");
  doc = promised(0.010);
  doc["shots"][0]["camera"]["focus"] = 0.3;
  out_because(doc, "blurred");
  doc = promised(0.010);
  doc["shots"][0]["camera"]["iso"] = 12800;
  out_because(doc, "from the target");
  doc = promised(0.010);
  doc["setups"][0]["cards"].push_back(
      worlds::card("flag", {0, 0.05, 0.3}, {0, 0.05, 1}, 0.05, 0.05, worlds::matte(0.18, 0.18, 0.18)));
  out_because(doc, "stands before it");
  doc = promised(0.010);
  doc["shots"][0]["camera"]["aim"] = {0.6, 0.05, 0};
  out_because(doc, "outside the frame");
}

// Source: similar triangles, by hand; bands common practice, no source.
TEST(Feature, TakesTheBestMomentOfATurn) {
  Json doc = promised(0.010);
  doc["shots"][0]["tracks"] = Json::array({{{"target", "turntable"}, {"keys", {{0, -120}, {2, 120}}}}});
  const auto level = level_of(doc, "frame.feature");
  ASSERT_TRUE(level && level->set_time);
  EXPECT_EQ(level->state, State::level) << level->sentence;
  EXPECT_NEAR(*level->set_time, 1.0, 0.55) << "while it faces within 60 degrees";
}

// Source: similar triangles, by hand; bands common practice, no source.
TEST(Feature, LooksOutFromTheSideAndUpFromTheTop) {
  const Project p = worlds::read(promised(0.01));
  const Product& can_product = *p.products[0];
  const auto normal = [&](const Vec3& at) { return feature_normal(can_product, {"f", "", at, 0.001, false}); };
  EXPECT_LT(length(normal({0.04, 0.05, 0}) - Vec3{1, 0, 0}), 1e-12);
  EXPECT_LT(length(normal({0, 0.05, -0.04}) - Vec3{0, 0, -1}), 1e-12);
  EXPECT_LT(length(normal({0.01, 0.1, 0}) - Vec3{0, 1, 0}), 1e-12);
  EXPECT_LT(length(normal({0.0399, 0.1, 0}) - Vec3{1, 0, 0}), 1e-12) << "the rim looks aside";
}

// Own behaviour.
TEST(Feature, IsBroughtHome) {
  expect_levers_hold(promised(0.004), "frame.feature", 1);
  Json doc = promised(0.010);
  doc["shots"][0]["products"][0]["turn_deg"] = 100;
  expect_levers_hold(doc, "frame.feature", 1);
}

std::optional<Level> of_spot(const Json& doc, const std::string& id) {
  static const Forecaster forecaster;
  const auto list = forecaster.spot(worlds::read(doc), id);
  return list.empty() ? std::nullopt : std::optional(list[0]);
}

// Own behaviour, counted by hand.
TEST(SpotFeatures, CountWhatNoShotShowsWell) {
  Json doc = promised(0.010);
  auto level = of_spot(doc, "spot.features");
  ASSERT_TRUE(level);
  EXPECT_EQ(*level->value, 0.0) << level->sentence;
  EXPECT_EQ(level->state, State::level);
  doc["products"][0]["features"].push_back(
      {{"id", "back"}, {"name", "the back"}, {"at", {0, 0.05, -0.04}}, {"detail", 0.01}});
  level = of_spot(doc, "spot.features");
  EXPECT_EQ(*level->value, 1.0);
  EXPECT_EQ(level->state, State::out);
  EXPECT_NE(level->sentence.find("the back"), std::string::npos) << level->sentence;
  // A second shot that sees the back serves it, promised there or not.
  doc["shots"].push_back(doc["shots"][0]);
  doc["shots"][1]["id"] = "s2";
  doc["shots"][1].erase("needs");
  doc["shots"][1]["products"][0]["turn_deg"] = 180;
  EXPECT_EQ(*of_spot(doc, "spot.features")->value, 0.0);
  // Promised in the first only, it must be seen there.
  doc["shots"][0]["needs"]["features"] = {"can/name", "can/back"};
  EXPECT_EQ(*of_spot(doc, "spot.features")->value, 1.0);
}

// Own behaviour, counted by hand.
TEST(SpotShape, CountsThePartsThatAreMissing) {
  Json doc = can();
  auto level = of_spot(doc, "spot.shape");
  ASSERT_TRUE(level);
  EXPECT_EQ(*level->value, 3.0) << level->sentence;  // a hero only
  doc["shots"][0]["needs"]["slow"] = 4;
  EXPECT_EQ(*of_spot(doc, "spot.shape")->value, 2.0);
  doc["deliverables"][0]["words"] = {{"area", {0.1, 0.1, 0.2, 0.2}}, {"last_seconds", 2}};
  EXPECT_EQ(*of_spot(doc, "spot.shape")->value, 1.0);
  doc["shots"].push_back(doc["shots"][0]);
  doc["shots"][1]["id"] = "s2";
  doc["shots"][1]["size"] = "macro";
  EXPECT_EQ(*of_spot(doc, "spot.shape")->value, 0.0);
  // What a shot says it is counts, not what it looks like.
  doc["shots"][1]["role"] = "action";
  level = of_spot(doc, "spot.shape");
  EXPECT_EQ(*level->value, 2.0);
  EXPECT_NE(level->sentence.find("a detail"), std::string::npos) << level->sentence;
}

// Own behaviour, counted by hand.
TEST(SpotBeats, CountCutsToTheFrameAndBringsThemHome) {
  // 120 beats a minute: one each half second. Cuts at 2.0, 3.2 and 4.5 s at 25 a second: two of three.
  Json doc = can();
  for (const auto& [id, seconds] : {std::pair{"s2", 1.2}, std::pair{"s3", 1.3}, std::pair{"s4", 1.0}}) {
    doc["shots"].push_back(doc["shots"][0]);
    doc["shots"].back()["id"] = id;
    doc["shots"].back()["screen_time"] = seconds;
  }
  EXPECT_FALSE(of_spot(doc, "spot.beats")) << "nobody asks";
  doc["project"]["beats_per_minute"] = 120;
  doc["project"]["cuts_on_beats"] = 0.9;
  auto level = of_spot(doc, "spot.beats");
  ASSERT_TRUE(level);
  EXPECT_NEAR(*level->value, 2.0 / 3, 1e-9);
  EXPECT_EQ(level->state, State::out);
  const Document document = *Document::from_json(doc);
  const auto levers = Forecaster(quick_measure).spot_levers(document, "spot.beats");
  ASSERT_EQ(levers.list.size(), 1u) << levers.why;
  ProjectReader reader;
  const Project after = reader.read(applied(document, levers.list[0].edit));
  EXPECT_EQ(levers.list[0].after, 1.0);
  EXPECT_NEAR(after.starts_at(2), 3.0, 1e-6);
  EXPECT_NEAR(after.screen_time(), 5.5, 1e-6) << "the spot is as long as before";
}

}  // namespace
}  // namespace cinnabar
