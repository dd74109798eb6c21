// Contrast, softness, stripes, ripple, noise, shadows and spill against values worked by hand.
#include "cinnabar/forecast/measures/cast.h"
#include "cinnabar/photometry/sources.h"
#include "judging.h"

namespace cinnabar {
using namespace judging;
namespace {

// Source: stops are powers of two (ISO 2720:1974), by hand.
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

// Source: similar triangles, by hand.
TEST(Softness, IsTheEdgeOfAFingersShadowUnderTheLightThatGivesMost) {
  // Similar triangles (geometry): an edge 20 mm over the table that lies along the light's run throws a shadow
  // edge of 20 mm x size / (distance x sin(elevation)). The light 1 m from the edge, 30 degrees up, its smaller
  // side 0.15 m.
  Json doc = can();
  const double up = 0.02 + std::sin(radians(30)), out = std::cos(radians(30));
  doc["setups"][0]["lights"] =
      Json::array({worlds::rectangle("key", {0, up, out}, {0, 0.05, 0}, 0.15, 0.6, 4000)});
  expect_level(doc, "light.soft", 6.0, State::level, 1e-9);  // no mood, no band
  doc["project"]["mood"] = "crisp";
  expect_level(doc, "light.soft", 6.0, State::out, 1e-9);
  doc["project"]["mood"] = "warm";
  expect_level(doc, "light.soft", 6.0, State::level, 1e-9);
  doc["project"]["mood"] = "gentle";
  expect_level(doc, "light.soft", 6.0, State::out, 1e-9);
  doc["setups"][0]["lights"][0]["width"] = 0.325;
  doc["setups"][0]["lights"][0]["height"] = 0.325;
  expect_level(doc, "light.soft", 13.0, State::leaning, 1e-9);
  // The same light straight above: sin 90.
  doc["setups"][0]["lights"][0]["place"] = {0, 1.02, 0};
  expect_level(doc, "light.soft", 6.5, State::out, 1e-9);
  doc["setups"][0]["lights"].push_back({{"id", "bulb"},
                                        {"name", "Bulb"},
                                        {"place", {0, 0.02 + 0.5 * std::sin(radians(30)), 0.5 * out}},
                                        {"aim", {0, 0.02, 0}},
                                        {"shape", "disc"},
                                        {"radius", 0.05},
                                        {"lumens", 90000}});
  expect_level(doc, "light.soft", 8.0, State::out, 1e-9);  // the nearer lamp gives more there
  // A card over the bulb: it gives the foot nothing, so the panel counts again, though the can has the bulb's
  // light.
  doc["setups"][0]["cards"] = {{{"id", "flag"},
                                {"place", {0, 0.1, 0.2}},
                                {"aim", {0, 0.1, 1}},
                                {"width", 0.6},
                                {"height", 0.18},
                                {"material", {{"kind", "cloth"}, {"colour", {0.02, 0.02, 0.02}}}}}};
  expect_level(doc, "light.soft", 6.5, State::out, 1e-9);
  // Away from the origin the distances go along.
  doc["setups"][0]["cards"] = Json::array();
  doc["shots"][0]["products"][0]["place"] = {0.7, 0, -0.3};
  for (Json& light : doc["setups"][0]["lights"])
    for (const char* key : {"place", "aim"}) {
      light[key][0] = light[key][0].get<double>() + 0.7;
      light[key][2] = light[key][2].get<double>() - 0.3;
    }
  expect_level(doc, "light.soft", 8.0, State::out, 1e-9);
}

/// A gloss can without a label and one tall strip at a bearing.
Json strip_at(double bearing, double width = 0.2, double distance = 1.0) {
  Json doc = can();
  doc["products"][0]["parts"][0]["material"] = {{"kind", "gloss"}, {"colour", {0.1, 0.1, 0.1}}};
  doc["products"][0].erase("label");
  const Vec3 p = turned({0, 0, distance}, bearing) + Vec3{0, 0.3, 0};
  doc["setups"][0]["lights"] =
      Json::array({worlds::rectangle("strip", {p.x, p.y, p.z}, {0, p.y, 0}, width, 1.0, 4000)});
  doc["setups"][0]["lights"][0]["name"] = "Strip";
  return doc;
}

/// Where a cylinder about the origin mirrors a point for an eye, both in plan: the normal halves the angle between
/// them (law of reflection; Alhazen's problem by bisection). As a share of the visible half width.
double mirrored_at(double eye_distance, double bearing, double distance, double radius) {
  const auto side = [&](double a) {  // > 0 while the eye's side of the angle is the smaller
    const double px = radius * std::sin(a), pz = radius * std::cos(a);
    const double to_eye = std::atan2(-px, eye_distance - pz),
                 to_point = std::atan2(distance * std::sin(bearing) - px, distance * std::cos(bearing) - pz);
    return (to_point - a) - (a - to_eye);
  };
  double low = 0.0, high = bearing;
  for (int i = 0; i < 80; ++i) (side((low + high) / 2) > 0 ? low : high) = (low + high) / 2;
  const double px = radius * std::sin(low), pz = radius * std::cos(low);
  return eye_distance * px / std::hypot(px, eye_distance - pz) / radius;
}
/// The image of a strip that looks at the axis, in percent of the width.
double stripe_percent(double bearing_deg, double width, double distance = 1.0) {
  const double half = std::atan2(width / 2, distance), far = std::hypot(distance, width / 2),
               b = radians(bearing_deg);
  return 50.0 * (mirrored_at(1.0, b + half, far, 0.04) - mirrored_at(1.0, b - half, far, 0.04));
}

// Source: the law of reflection (Alhazen's problem), by hand.
TEST(Stripe, LiesWhereTheCylinderMirrorsTheStrip) {
  const double line = 100.0 / 721;  // one line of sight more or less
  expect_level(strip_at(60), "light.stripe", stripe_percent(60, 0.2), State::leaning, line);
  expect_level(strip_at(60, 0.45), "light.stripe", stripe_percent(60, 0.45), State::level, line);
  expect_level(strip_at(60, 0.05), "light.stripe", stripe_percent(60, 0.05), State::out, line);
  expect_level(strip_at(100, 0.45), "light.stripe", stripe_percent(100, 0.45), State::level, line);
  expect_level(strip_at(180), "light.stripe", 0.0, State::out, 1e-9);  // behind: no image
  // From the other side the same; a tube as wide shows the same image.
  expect_level(strip_at(-60, 0.45), "light.stripe", stripe_percent(60, 0.45), State::level, line);
  // Everything moved aside together changes nothing.
  Json aside = strip_at(60, 0.45);
  aside["shots"][0]["products"][0]["place"] = {2.0, 0, 0.5};
  for (Json* thing : {&aside["setups"][0]["lights"][0], &aside["shots"][0]["camera"]})
    for (const char* key : {"place", "aim"}) {
      (*thing)[key][0] = (*thing)[key][0].get<double>() + 2.0;
      (*thing)[key][2] = (*thing)[key][2].get<double>() + 0.5;
    }
  expect_level(aside, "light.stripe", stripe_percent(60, 0.45), State::level, line);
}

// Source: the law of reflection; bands common practice, no source.
TEST(Stripe, IsNoneWhereTheStripCannotBeMet) {
  const auto none = [](const Json& doc) { expect_level(doc, "light.stripe", 0.0, State::out, 1e-9); };
  Json doc = strip_at(60, 0.45);
  doc["setups"][0]["lights"][0]["place"][1] = 4.0;  // four metres up: lines of sight run on level, under it
  doc["setups"][0]["lights"][0]["aim"][1] = 4.0;
  none(doc);
  doc = strip_at(60, 0.45);
  const Json place = doc["setups"][0]["lights"][0]["place"];
  doc["setups"][0]["lights"][0]["aim"] = {2 * place[0].get<double>(), 0.3, 2 * place[2].get<double>()};
  none(doc);  // turned away: its black back
  doc = strip_at(60, 0.45);
  const Vec3 between = turned({0, 0, 0.5}, 60);
  doc["setups"][0]["cards"] = {{{"id", "flag"},
                                {"place", {between.x, 0.05, between.z}},
                                {"aim", {0, 0.05, 0}},
                                {"width", 0.6},
                                {"height", 0.6},
                                {"material", {{"kind", "cloth"}, {"colour", {0.02, 0.02, 0.02}}}}}};
  none(doc);
  // The camera high: lines of sight are thrown back downward, into the table before the strip.
  doc = strip_at(60, 0.45);
  doc["setups"][0]["surface"] = {{"width", 2.0}, {"depth", 2.0}};
  doc["shots"][0]["camera"]["place"] = {0, 0.6, 0.9};
  none(doc);
  doc["setups"][0].erase("surface");
  doc["setups"][0]["lights"][0]["place"][1] = -0.4;  // and without a table met by a strip that reaches down there
  doc["setups"][0]["lights"][0]["aim"][1] = -0.4;
  EXPECT_GT(*level_of(doc, "light.stripe")->value, 4.0);
  // Rolled to lie across: what was its height is the width now, far wider than the band.
  doc = strip_at(60, 0.45);
  doc["setups"][0]["lights"][0]["place"][1] = 0.05;
  doc["setups"][0]["lights"][0]["roll_deg"] = 90;
  expect_level(doc, "light.stripe", stripe_percent(60, 1.0), State::out, 100.0 / 721);
}

// Source: the law of reflection; bands common practice, no source.
TEST(Stripe, JudgesEveryProductThatMirrors) {
  Json doc = strip_at(60, 0.45);
  doc["shots"][0]["products"][0]["place"] = {0.0, 0, 0.0};
  doc["shots"][0]["products"].push_back({{"product", "can"}, {"place", {0.4, 0, 0.2}}, {"turn_deg", 0}});
  const auto both = level_of(doc, "light.stripe");
  doc["shots"][0]["products"].erase(0);
  const auto second = level_of(doc, "light.stripe");
  ASSERT_TRUE(both && second);
  EXPECT_NE(second->state, State::level) << "the strip is set for the first";
  EXPECT_EQ(both->value, second->value) << "the worst of them";
}

// Source: the law of reflection; bands common practice, no source.
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

// Source: the law of reflection; bands common practice, no source.
TEST(Stripe, IsNoMatterForMattWaresOrSquareLights) {
  Json matte = strip_at(60);
  matte["products"][0]["parts"][0]["material"]["kind"] = "matte";
  EXPECT_FALSE(level_of(matte, "light.stripe"));
  Json square = strip_at(60);
  square["setups"][0]["lights"][0]["width"] = 0.8;
  EXPECT_FALSE(level_of(square, "light.stripe"));
}

// Source: the definition, (max - min) / (max + min) of the mean over the exposure, by hand.
TEST(Flicker, IsTheRippleLeftByTheExposureInItsShareOfTheLight) {
  // 50 Hz, 1/60 s: c = 1.6667 cycles, |sin(pi c) / (pi c)| = 0.165399 of the lamp's own ripple.
  Json doc = can();
  doc["setups"][0]["lights"][0]["kit"] = "led";
  EXPECT_EQ(level_of(doc, "light.flicker")->state, State::unknown) << "its ripple is not said";
  EXPECT_NE(level_of(doc, "light.flicker")->sentence.find("1/1000"), std::string::npos) << "how to find out";
  doc["kit"]["lights"][0]["ripple"] = 0.3;
  doc["shots"][0]["camera"]["shutter_time"] = 0.016666667;
  // At 25 a second every frame meets 100 Hz at the same moment: without a readout nothing is left, over half a
  // period or more the whole depth, over a sixth of one sin(30 degrees) of it.
  expect_level(doc, "light.flicker", 0.0, State::level, 1e-9);
  Json& mode = doc["kit"]["cameras"][0]["modes"][0];
  mode["readout"] = 0.02;
  expect_level(doc, "light.flicker", 4.96196, State::out, 1e-3);
  mode["readout"] = 0.01 / 6;
  expect_level(doc, "light.flicker", 4.96196 / 2, State::out, 1e-3);
  // Its own rate: 90 Hz is no whole number of frames' rate; c = 1.5, |sin(1.5 pi) / (1.5 pi)| = 0.212207.
  doc["kit"]["lights"][0]["ripple_hz"] = 90;
  expect_level(doc, "light.flicker", 30 * 0.212207, State::out, 1e-3);
  doc["kit"]["lights"][0].erase("ripple_hz");
  mode["readout"] = 0.02;
  // A second panel beside it that does not ripple halves the share.
  doc["kit"]["lights"].push_back({{"id", "steady"}, {"lumens", 4000}, {"ripple", 0.0}});
  doc["setups"][0]["lights"].push_back(worlds::rectangle("still", {0, 0.05, 1.5}, {0, 0.05, 0}, 0.5, 0.5, 4000));
  doc["setups"][0]["lights"][1]["kit"] = "steady";
  expect_level(doc, "light.flicker", 4.96196 / 2, State::out, 0.1);
  doc["shots"][0]["camera"]["shutter_time"] = 0.02;  // two whole half periods
  expect_level(doc, "light.flicker", 0.0, State::level, 1e-6);
}

// Source: EMVA 1288 (shot and read noise), by hand.
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

// Own behaviour: light with and without the product.
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
  const auto black = level_of(doc, "light.cast");
  ASSERT_TRUE(black);
  EXPECT_EQ(black->state, State::unknown) << "a logarithm of nothing is no number";
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 1.0}};
  const auto hard = level_of(doc, "light.cast");
  ASSERT_TRUE(hard && hard->value);
  EXPECT_GT(*hard->value, 3.0);
  EXPECT_EQ(hard->state, State::out);
  // Fill as strong as the lamp on the wall: the shadow is about one stop. Wall under the lamp: I cos / d^2.
  const double d2 = 0.25 + 1.21, lamp = 4000 / (4 * pi) * (1.1 / std::sqrt(d2)) / d2;
  doc["setups"][0]["ambient"] = {{"illuminance_lx", lamp}};
  EXPECT_NEAR(*level_of(doc, "light.cast")->value, 1.0, 0.25);
  // The wall far behind: the shadow falls out of the frame.
  doc["setups"][0]["backdrop"]["distance"] = 3.0;
  doc["setups"][0]["backdrop"]["width"] = 20.0;
  expect_level(doc, "light.cast", 0.0, State::level, 1e-6);
}

// Own behaviour, worked by hand.
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

// Own behaviour, worked by hand.
TEST(Spill, CountsTheRoomUnlessTheWindowIsUsedOnPurpose) {
  Json doc = can();
  doc["setups"][0]["backdrop"] = {
      {"kind", "flat"}, {"distance", 1.0}, {"width", 8.0},
      {"height", 8.0},  {"low", -4.0},     {"material", {{"kind", "matte"}, {"colour", {0.3, 0.3, 0.3}}}}};
  doc["setups"][0]["lights"] =
      Json::array({worlds::rectangle("wash", {0, 0.5, 0.5}, {0, 0.05, -1.0}, 0.2, 0.2, 3000)});
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 2000.0}};
  EXPECT_EQ(level_of(doc, "light.spill")->state, State::out);
  doc["house_rules"] = {{"ambient", "window"}};
  expect_level(doc, "light.spill", 0.0, State::level, 1e-9);
}

// Own behaviour.
TEST(Levers, OfLightsQualityComeHome) {
  Json doc = can();
  doc["project"]["mood"] = "gentle";
  doc["setups"][0]["lights"] =
      Json::array({worlds::rectangle("key", {0.9, 0.3, 0.5}, {0, 0.05, 0}, 0.1, 0.1, 6000)});
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 40.0}};
  expect_levers_hold(doc, "light.ratio", 1);
  expect_levers_hold(doc, "light.soft", 1);
  Json stripe = strip_at(60, 0.45);
  stripe["products"][0]["label"] = {
      {"part", "body"}, {"bearing_deg", 0}, {"arc_deg", 90}, {"low", 0.02}, {"high", 0.08}};
  expect_levers_hold(stripe, "light.stripe", 1);
  Json ripple = can();
  ripple["kit"]["lights"][0]["ripple"] = 0.3;
  ripple["setups"][0]["lights"][0]["kit"] = "led";
  ripple["kit"]["cameras"][0]["modes"][0]["readout"] = 0.02;
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
