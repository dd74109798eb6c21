// What a change to a set-up does to other shots, told before it is kept.
#include "cinnabar/forecast/touched.h"

#include "cinnabar/project/document/variations.h"
#include "cinnabar/project/making/shot_edits.h"
#include "judging.h"

namespace cinnabar {
using namespace judging;
namespace {

/// Three shots of a can away from the origin: from the side, from straight above, and from the side on a variation
/// of the set-up.
Document three_shots() {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, worlds::matte(0.5, 0.5, 0.5), true);
  doc["setups"][0]["lights"] =
      Json::array({worlds::rectangle("key", {1.0, 0.8, 0.8}, {0.3, 0.05, -0.2}, 0.4, 0.4, 6000)});
  Json& first = doc["shots"][0];
  first["products"][0]["place"] = {0.3, 0.0, -0.2};
  first["camera"]["place"] = {0.3, 0.05, 0.8}, first["camera"]["aim"] = {0.3, 0.05, -0.2};
  first["camera"]["focus"] = 1.0;
  Json second = first, third = first;
  second["id"] = "s2", second["camera"]["place"] = {0.3, 1.1, -0.2};
  third["id"] = "s3";
  doc["shots"].push_back(second), doc["shots"].push_back(third);
  return *with_setup_varied(*Document::from_json(doc), 2);
}

// Source: definition of the stop, a factor of two of light: a quarter of it is two stops less.
TEST(Touched, ShotsAreThoseOfTheSetUpAndOfItsVariations) {
  const Document before = three_shots(), after = *with_value(before, "/setups/0/lights/0/dimmer", 0.25);
  EXPECT_EQ(touched_shots(before, after), (std::vector<std::size_t>{0, 1, 2}));
  const auto named = with_values(
      before,
      {{"/setups/0/name", "Else"}, {"/setups/0/pins", Json::array({Json{{"id", "p"}, {"at", {0, 0, 0}}}})}});
  ASSERT_TRUE(named);
  EXPECT_TRUE(touched_shots(before, *named).empty()) << "a name and a pin shine on nothing";
  const auto all = touched(Forecaster(), before, after, 0);
  ASSERT_EQ(all.size(), 2u);
  for (const Touched& one : all) {
    SCOPED_TRACE(one.shot);
    const auto moved = std::find_if(one.moved.begin(), one.moved.end(),
                                    [](const MovedLevel& m) { return m.after.id == "camera.stops"; });
    ASSERT_NE(moved, one.moved.end());
    EXPECT_NEAR(*moved->after.value - *moved->before.value, -2.0, 0.02);
    EXPECT_EQ(moved->shot, one.shot);
  }
}

// Own behaviour.
TEST(Touched, NothingIsToldOfWhatDoesNotGoAlong) {
  const Document before = *with_value(three_shots(), "/setups/1/lights/0/dimmer", 0.6);
  const Document after = *with_value(before, "/setups/0/lights/0/dimmer", 0.25);
  EXPECT_EQ(touched_shots(before, after), (std::vector<std::size_t>{0, 1})) << "the variation has its own dimmer";
  EXPECT_TRUE(touched_shots(before, *with_value(before, "/shots/0/camera/iso", 800)).empty());
  EXPECT_EQ(touched_shots(before, *with_value(before, "/setups/1/lights/0/dimmer", 0.2)),
            (std::vector<std::size_t>{2}));
  EXPECT_TRUE(touched(Forecaster(), before, *with_value(before, "/setups/0/name", "Else"), 0).empty());
  const auto noted = touched(Forecaster(), before, *with_value(before, "/setups/0/lights/0/name", "Else"), 0);
  EXPECT_EQ(noted.size(), 2u);
  for (const Touched& one : noted) EXPECT_TRUE(one.moved.empty()) << "a name moves no level";
  std::atomic<bool> cancel{true};
  EXPECT_TRUE(touched(Forecaster(), before, after, 0, &cancel).empty());
}

// Own behaviour.
TEST(Touched, ALeversPriceCountsShotsOnVariations) {
  Json doc = three_shots().to_json();
  for (Json& setup : doc["setups"]) setup["lights"][0]["lumens"] = 40000;
  const Document document = *Document::from_json(doc);
  const auto levers = Forecaster().levers(document, 0, "light.product");
  ASSERT_FALSE(levers.list.empty()) << levers.why;
  bool told = false;
  for (const Lever& lever : levers.list)
    for (const MovedLevel& moved : lever.moved) told = told || moved.shot == 2u;
  EXPECT_TRUE(told) << levers.list[0].price;
}

}  // namespace
}  // namespace cinnabar
