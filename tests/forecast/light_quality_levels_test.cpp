// Contrast, softness, stripes, ripple, noise, shadows and spill against values worked by hand.
#include "cinnabar/forecast/measures/cast.h"
#include "cinnabar/photometry/sources.h"
#include "judging.h"

namespace cinnabar {
using namespace judging;
namespace {

TEST(Ratio, IsTheBrighterSideOverTheDarkerInStops) {
  // One small panel square to each side patch (60 degrees right and left), 1 m from it; 4 to 1 in lumens.
  Json doc = can();
  const auto at = [](double bearing) {
    const Vec3 p = turned({0, 0, 1.041}, bearing) + Vec3{0, 0.05, 0};
    return Json{p.x, p.y, p.z};
  };
  doc["setups"][0]["lights"] = {worlds::rectangle("right", at(60), {0, 0.05, 0}, 0.1, 0.1, 4000),
                                worlds::rectangle("left", at(-60), {0, 0.05, 0}, 0.1, 0.1, 1000)};
  // At 120 degrees a patch does not see the other's panel: the ratio is the lumens'.
  expect_level(doc, "light.ratio", 2.0, State::leaning, 0.02);  // fill `none`, the default: 2 to 4
  doc["house_rules"] = {{"fill", "big-far"}};
  EXPECT_EQ(level_of(doc, "light.ratio")->band.high, std::optional(2.0));
  doc["house_rules"] = {{"fill", "small-near"}};
  expect_level(doc, "light.ratio", 2.0, State::out, 0.02);
  doc.erase("house_rules");
  doc["project"]["mood"] = "gentle";  // a mood sets it where no fill is chosen
  EXPECT_EQ(level_of(doc, "light.ratio")->band.low, std::optional(1.0));
  doc["setups"][0]["lights"][1]["dimmer"] = 0.25;
  expect_level(doc, "light.ratio", 4.0, State::out, 0.02);
}

TEST(Softness, IsThePenumbraOfTheLightThatGivesMost) {
  // The penumbra is size x gap / distance (similar triangles). The face's smaller side 0.3 m, 1 m from a finger 20
  // mm over the surface.
  Json doc = can();
  doc["setups"][0]["lights"] = {worlds::rectangle("key", {0, 0.02, 1.0}, {0, 0.05, 0}, 0.3, 0.6, 4000)};
  expect_level(doc, "light.soft", 6.0, State::level, 1e-9);  // no mood, no band
  doc["project"]["mood"] = "crisp";
  expect_level(doc, "light.soft", 6.0, State::out, 1e-9);
  doc["project"]["mood"] = "warm";
  expect_level(doc, "light.soft", 6.0, State::level, 1e-9);
  doc["project"]["mood"] = "gentle";
  expect_level(doc, "light.soft", 6.0, State::out, 1e-9);
  doc["setups"][0]["lights"][0]["width"] = 0.65;
  doc["setups"][0]["lights"][0]["height"] = 0.65;
  expect_level(doc, "light.soft", 13.0, State::leaning, 1e-9);
  doc["setups"][0]["lights"].push_back({{"id", "bulb"},
                                        {"name", "Bulb"},
                                        {"place", {0, 0.02, 0.5}},
                                        {"aim", {0, 0.02, 0}},
                                        {"shape", "disc"},
                                        {"radius", 0.05},
                                        {"lumens", 9000}});
  expect_level(doc, "light.soft", 4.0, State::out, 1e-9);  // the nearer lamp gives more
}

/// A gloss can without a label and one tall strip at a bearing.
Json strip_at(double bearing, double width = 0.2, double distance = 1.0) {
  Json doc = can();
  doc["products"][0]["parts"][0]["material"] = {{"kind", "gloss"}, {"colour", {0.1, 0.1, 0.1}}};
  doc["products"][0].erase("label");
  const Vec3 p = turned({0, 0, distance}, bearing) + Vec3{0, 0.3, 0};
  doc["setups"][0]["lights"] = {worlds::rectangle("strip", {p.x, p.y, p.z}, {0, 0.05, 0}, width, 1.0, 4000)};
  doc["setups"][0]["lights"][0]["name"] = "Strip";
  return doc;
}

TEST(Stripe, LiesWhereTheCylinderMirrorsTheStrip) {
  // The calculation `cylinder-stripe`, which tests/photometry/stripe_test.cpp holds to an independent mirror:
  // bearing 60, 0.2 m wide, 1 m away, radius 0.04 m.
  const auto expected = cylinder_stripe({0, 60, 0.2, 1.0, 0.04});
  expect_level(strip_at(60), "light.stripe", 100 * expected->width_fraction, State::leaning, 1e-6);
  const auto wide = cylinder_stripe({0, 60, 0.45, 1.0, 0.04});
  expect_level(strip_at(60, 0.45), "light.stripe", 100 * wide->width_fraction, State::level, 1e-6);
  const auto narrow = cylinder_stripe({0, 60, 0.05, 1.0, 0.04});
  expect_level(strip_at(60, 0.05), "light.stripe", 100 * narrow->width_fraction, State::out, 1e-6);
  expect_level(strip_at(180), "light.stripe", 0.0, State::out, 1e-9);  // behind: no image
}

TEST(Stripe, ThroughTheLabelIsOutWhateverItsWidth) {
  Json doc = strip_at(60, 0.45);
  doc["products"][0]["label"] = {
      {"part", "body"}, {"bearing_deg", 0}, {"arc_deg", 90}, {"low", 0.02}, {"high", 0.08}};
  const auto crossed = level_of(doc, "light.stripe");  // its image lies about 30 degrees round: under the label
  ASSERT_TRUE(crossed);
  EXPECT_EQ(crossed->state, State::out);
  EXPECT_NE(crossed->sentence.find("through the label"), std::string::npos);
  doc["products"][0]["label"]["arc_deg"] = 30;
  EXPECT_EQ(level_of(doc, "light.stripe")->state, State::level);
}

TEST(Stripe, IsNoMatterForMattWaresOrSquareLights) {
  Json matte = strip_at(60);
  matte["products"][0]["parts"][0]["material"]["kind"] = "matte";
  EXPECT_FALSE(level_of(matte, "light.stripe"));
  Json square = strip_at(60);
  square["setups"][0]["lights"][0]["width"] = 0.8;
  EXPECT_FALSE(level_of(square, "light.stripe"));
}

TEST(Flicker, IsTheRippleLeftByTheExposureInItsShareOfTheLight) {
  // 50 Hz, 1/60 s: c = 1.6667 cycles, |sin(pi c) / (pi c)| = 0.165399 of the lamp's own ripple.
  Json doc = can();
  doc["kit"]["lights"][0]["ripple"] = 0.3;
  doc["setups"][0]["lights"][0]["kit"] = "led";
  doc["shots"][0]["camera"]["shutter_time"] = 0.016666667;
  expect_level(doc, "light.flicker", 4.96196, State::out, 1e-3);
  // A second panel beside it that does not ripple halves the share.
  doc["setups"][0]["lights"].push_back(worlds::rectangle("still", {0, 0.05, 1.5}, {0, 0.05, 0}, 0.5, 0.5, 4000));
  expect_level(doc, "light.flicker", 4.96196 / 2, State::out, 0.1);
  doc["shots"][0]["camera"]["shutter_time"] = 0.02;  // two whole half periods
  expect_level(doc, "light.flicker", 0.0, State::level, 1e-6);
}

TEST(Noise, IsTheDarkestTenthInElectronsOverItsNoise) {
  // An evenly lit grey can under a uniform ambient: L = 0.18 x E / pi on its facing side.
  Json doc = can();
  doc["setups"][0]["lights"] = Json::array();
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 1000.0}};
  doc["kit"]["cameras"][0]["full_well_e"] = 40000;
  doc["kit"]["cameras"][0]["read_noise_e"] = 3;
  const double l = 0.18 * 1000 / pi, n = 5.6 * (1 + 0.05 / 0.95);
  // ISO 12232: H = 0.65 L t / N^2 against 78 / S; the well is full at 78 / 100.
  const double e = 40000 * (0.65 * l * 0.02 / (n * n)) / (78.0 / 100);
  expect_level(doc, "light.shadow", std::log2(e / std::sqrt(e + 9)), State::level, 0.05);
  doc["setups"][0]["ambient"]["illuminance_lx"] = 1000.0 / 2048;
  const double dark = e / 2048;
  expect_level(doc, "light.shadow", std::log2(dark / std::sqrt(dark + 9)), State::out, 0.06);
}

TEST(Shadow, OnTheBackdropIsMeasuredWithAndWithoutTheProduct) {
  // A bare lamp before the can, the wall right behind it: the can's shadow is black but for the fill.
  Json doc = can();
  doc["setups"][0]["backdrop"] = {
      {"kind", "flat"}, {"distance", 0.3}, {"width", 6.0},
      {"height", 4.0},  {"low", -2.0},     {"material", {{"kind", "matte"}, {"colour", {0.02, 0.02, 0.02}}}}};
  doc["products"][0]["parts"][0]["material"]["colour"] = {0.02, 0.02, 0.02};
  doc["products"][0].erase("label");
  doc["setups"][0]["lights"] = {{{"id", "lamp"},
                                 {"name", "Lamp"},
                                 {"place", {0.5, 0.05, 0.8}},
                                 {"aim", {0, 0.05, 0}},
                                 {"shape", "bare"},
                                 {"radius", 0.005},
                                 {"lumens", 4000}}};
  const auto hard = level_of(doc, "light.cast");
  ASSERT_TRUE(hard && hard->value);
  EXPECT_GT(*hard->value, 3.0);
  EXPECT_EQ(hard->state, State::out);
  // Fill as strong as the lamp on the wall: the shadow is about one stop. Wall under the lamp: I cos / d^2.
  const double d2 = 0.25 + 1.21, lamp = 4000 / (4 * pi) * (1.1 / std::sqrt(d2)) / d2;
  doc["setups"][0]["ambient"] = {{"illuminance_lx", lamp}};
  EXPECT_NEAR(*level_of(doc, "light.cast")->value, 1.0, 0.25);
  // The wall far behind: the shadow falls out of the frame.
  doc["setups"][0]["ambient"]["illuminance_lx"] = 0.0;
  doc["setups"][0]["backdrop"]["distance"] = 3.0;
  doc["setups"][0]["backdrop"]["width"] = 20.0;
  expect_level(doc, "light.cast", 0.0, State::level, 1e-6);
}

TEST(Spill, IsTheShareOfTheBackdropsLightFromLightsNotMeantForIt) {
  // Two like panels 2 m before a wall, side by side: one aimed at it, one said to be for the product.
  Json doc = can();
  doc["products"] = Json::array();
  doc["shots"][0]["products"] = Json::array();
  doc["setups"][0]["backdrop"] = {
      {"kind", "flat"}, {"distance", 1.0}, {"width", 8.0},
      {"height", 8.0},  {"low", -4.0},     {"material", {{"kind", "matte"}, {"colour", {0.3, 0.3, 0.3}}}}};
  doc["setups"][0]["lights"] = {worlds::rectangle("wash", {0, 0.05, 1.0}, {0, 0.05, -1.0}, 0.2, 0.2, 3000),
                                worlds::rectangle("key", {0, 0.05, 1.0}, {0, 0.05, -1.0}, 0.2, 0.2, 1000)};
  expect_level(doc, "light.spill", 0.0, State::level, 1e-9);
  doc["setups"][0]["lights"][1]["meant_for"] = "product";
  expect_level(doc, "light.spill", 25.0, State::out, 0.6);
  doc["setups"][0]["lights"][1]["dimmer"] = 0.5;
  expect_level(doc, "light.spill", 100.0 * 500 / 3500, State::level, 0.5);
  doc["setups"][0]["lights"][0]["meant_for"] = "product";
  EXPECT_FALSE(level_of(doc, "light.spill")) << "nothing is meant for the backdrop";
}

TEST(Spill, CountsTheRoomUnlessTheWindowIsUsedOnPurpose) {
  Json doc = can();
  doc["setups"][0]["backdrop"] = {
      {"kind", "flat"}, {"distance", 1.0}, {"width", 8.0},
      {"height", 8.0},  {"low", -4.0},     {"material", {{"kind", "matte"}, {"colour", {0.3, 0.3, 0.3}}}}};
  doc["setups"][0]["lights"] = {worlds::rectangle("wash", {0, 0.5, 0.5}, {0, 0.05, -1.0}, 0.2, 0.2, 3000)};
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 2000.0}};
  EXPECT_EQ(level_of(doc, "light.spill")->state, State::out);
  doc["house_rules"] = {{"ambient", "window"}};
  expect_level(doc, "light.spill", 0.0, State::level, 1e-9);
}

TEST(Levers, OfLightsQualityComeHome) {
  Json doc = can();
  doc["project"]["mood"] = "gentle";
  doc["setups"][0]["lights"] = {worlds::rectangle("key", {0.9, 0.3, 0.5}, {0, 0.05, 0}, 0.3, 0.3, 6000)};
  expect_levers_hold(doc, "light.ratio", 1);
  expect_levers_hold(doc, "light.soft", 1);
  Json stripe = strip_at(60, 0.45);
  stripe["products"][0]["label"] = {
      {"part", "body"}, {"bearing_deg", 0}, {"arc_deg", 90}, {"low", 0.02}, {"high", 0.08}};
  expect_levers_hold(stripe, "light.stripe", 1);
  Json ripple = can();
  ripple["kit"]["lights"][0]["ripple"] = 0.3;
  ripple["setups"][0]["lights"][0]["kit"] = "led";
  ripple["shots"][0]["camera"]["shutter_time"] = 0.016666667;
  expect_levers_hold(ripple, "light.flicker", 1);
  Json dark = can();
  dark["setups"][0]["lights"] = Json::array();
  dark["setups"][0]["ambient"] = {{"illuminance_lx", 4.0}};
  expect_levers_hold(dark, "light.shadow", 1);
  Json spill = can();
  spill["setups"][0]["backdrop"] = {
      {"kind", "flat"}, {"distance", 1.0}, {"width", 8.0},
      {"height", 8.0},  {"low", -4.0},     {"material", {{"kind", "matte"}, {"colour", {0.3, 0.3, 0.3}}}}};
  spill["setups"][0]["lights"].push_back(
      worlds::rectangle("wash", {0.5, 0.4, -0.4}, {0, 0.2, -1.0}, 0.2, 0.2, 300));
  expect_levers_hold(spill, "light.spill", 1);
}

}  // namespace
}  // namespace cinnabar
