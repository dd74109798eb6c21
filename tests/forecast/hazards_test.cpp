// What of a shot can hurt: each hazard found where it is, and not where it is not.
#include "cinnabar/forecast/hazards.h"

#include "worlds.h"

namespace cinnabar {
namespace {

/// A matt can under one panel without a kit: nothing that could hurt.
Json tame() {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "matte"}}, false);
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0.5, 0.8, 0.5}, {0, 0.05, 0}, 0.5, 0.7, 4000));
  return doc;
}
HazardInputs of(const Json& doc) {
  const Project project = worlds::read(doc);
  return hazards_of(project, *project.shots[0]);
}

// Common practice, no source
TEST(Hazards, OfAHarmlessShotAreNone) {
  const HazardInputs h = of(tame());
  EXPECT_EQ(h.watts, 0.0);
  EXPECT_EQ(h.flashes_per_s, 0.0);
  EXPECT_FALSE(h.hot_lamp || h.liquid || h.glass || h.turns);
  EXPECT_NEAR(h.highest_light, 0.8, 1e-12);
}

// Common practice, no source
TEST(Hazards, WattsAreThoseOfTheLampsThatAreOnOnTheProjectsMains) {
  Json doc = tame();
  doc["project"]["mains_volts"] = 120;
  doc["kit"]["lights"] = {{{"id", "big"}, {"watts", 900}}, {{"id", "small"}, {"watts", 150}}, {{"id", "unsaid"}}};
  doc["setups"][0]["lights"][0]["kit"] = "big";
  for (const char* kit : {"small", "unsaid", "big"}) {
    Json more = doc["setups"][0]["lights"][0];
    more["id"] = std::string("more-") + kit;
    more["kit"] = kit;
    more["on"] = std::string(kit) != "big";
    doc["setups"][0]["lights"].push_back(more);
  }
  const HazardInputs h = of(doc);
  EXPECT_EQ(h.watts, 1050.0);
  EXPECT_EQ(h.volts, 120.0);
  EXPECT_EQ(h.breaker_a, 20.0) << "the usual breaker at 120 V (common practice, no source)";
  doc["project"]["breaker_amps"] = 15;
  EXPECT_EQ(of(doc).breaker_a, 15.0);
}

// Common practice, no source
TEST(Hazards, HotLampsCountWhileTheyAreOn) {
  Json doc = tame();
  doc["kit"]["lights"] = {{{"id", "tungsten"}, {"watts", 650}, {"hot", true}}};
  EXPECT_FALSE(of(doc).hot_lamp) << "it is in the kit and not on the set";
  doc["setups"][0]["lights"][0]["kit"] = "tungsten";
  EXPECT_TRUE(of(doc).hot_lamp);
  doc["setups"][0]["lights"][0]["on"] = false;
  EXPECT_FALSE(of(doc).hot_lamp);
}

struct FlashRow {
  std::vector<std::pair<double, double>> keys;
  double most;
};
class Flashes : public testing::TestWithParam<FlashRow> {};
/// Pairs of opposing changes of a tenth or more within one second, as WCAG 2.2, 2.3.1 counts them.
// Source: WCAG 2.2, 2.3.1: pairs of opposing changes of a tenth within a second.
TEST_P(Flashes, AreCountedByTheSecond) {
  Json doc = tame();
  Json keys = Json::array();
  for (const auto& [t, v] : GetParam().keys) keys.push_back({t, v});
  doc["shots"][0]["tracks"] = {{{"target", "light.key.dimmer"}, {"keys", keys}}};
  EXPECT_EQ(of(doc).flashes_per_s, GetParam().most);
}
INSTANTIATE_TEST_SUITE_P(
    Tracks, Flashes,
    testing::Values(FlashRow{{{0, 1}, {1, 0}}, 0}, FlashRow{{{0, 0.5}, {1, 0.5}}, 0},
                    FlashRow{{{0, 0}, {1, 1}}, 0},
                    FlashRow{{{0, 0}, {0.1, 1}, {0.2, 0}, {0.3, 1}, {0.4, 0}, {0.5, 1}, {0.6, 0}}, 3},
                    FlashRow{{{0, 0}, {0.1, 1}, {0.2, 0}, {2.3, 1}, {2.4, 0}, {4.5, 1}, {4.6, 0}}, 1},
                    FlashRow{{{0, 0.5}, {0.1, 0.55}, {0.2, 0.5}, {0.3, 0.55}, {0.4, 0.5}}, 0}));

// Common practice, no source
TEST(Hazards, LiquidAndGlassAreFoundInProductsAndOnTheTable) {
  for (const auto& [kind, liquid, glass] :
       {std::tuple{"liquid", true, false}, std::tuple{"glass", false, true}, std::tuple{"frosted", false, true},
        std::tuple{"metal", false, false}}) {
    Json doc = tame();
    doc["products"][0]["parts"][0]["material"] = {{"kind", kind}};
    EXPECT_EQ(of(doc).liquid, liquid) << kind;
    EXPECT_EQ(of(doc).glass, glass) << kind;
    doc["shots"][0]["products"] = Json::array();
    EXPECT_FALSE(of(doc).liquid || of(doc).glass) << "it is not in this shot";
  }
  Json doc = tame();
  doc["setups"][0]["surface"] = {{"width", 1}, {"depth", 1}, {"sheet", {{"thickness", 0.006}}}};
  EXPECT_TRUE(of(doc).glass) << "a sheet of glass on the table";
}

// Common practice, no source
TEST(Hazards, ATurningTableTurnsWhatStandsOnIt) {
  Json doc = tame();
  doc["shots"][0]["tracks"] = {{{"target", "turntable"}, {"keys", {{0, 0}, {1, 90}}}}};
  EXPECT_TRUE(of(doc).turns);
  doc["shots"][0]["tracks"][0]["keys"] = {{0, 30}};
  EXPECT_FALSE(of(doc).turns) << "it stands turned";
}

// Common practice, no source
TEST(Hazards, HeightIsThatOfTheHighestLightThatIsOn) {
  Json doc = tame();
  Json high = doc["setups"][0]["lights"][0];
  high["id"] = "top";
  high["place"][1] = 1.9;
  doc["setups"][0]["lights"].push_back(high);
  EXPECT_NEAR(of(doc).highest_light, 1.9, 1e-12);
  doc["setups"][0]["lights"][1]["on"] = false;
  EXPECT_NEAR(of(doc).highest_light, 0.8, 1e-12);
}

// Common practice, no source
TEST(Hazards, EffectsBringTheirOwnOnce) {
  Json doc = tame();
  EXPECT_TRUE(of(doc).effects.empty());
  doc["shots"][0]["effects"] = Json::array({{{"id", "a"}, {"kind", "fog"}, {"place", {0, 1, 0}}},
                                            {{"id", "b"}, {"kind", "fog"}, {"place", {0, 1, 0}}},
                                            {{"id", "c"}, {"kind", "flame"}, {"place", {0, 1, 0}}}});
  const auto list = cautions(of(doc));
  const auto times = [&](const std::string& title) {
    return std::count_if(list.begin(), list.end(), [&](const Caution& c) { return c.title == title; });
  };
  EXPECT_EQ(times("Smoke and fog"), 1);
  EXPECT_EQ(times("Fire"), 1);
  EXPECT_EQ(list.back().title, "Always");
}

}  // namespace
}  // namespace cinnabar
