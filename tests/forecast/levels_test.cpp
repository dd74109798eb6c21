// Each level against values worked by hand from its definition, in cases level, leaning and out; and every lever.
#include <cmath>

#include "cinnabar/forecast/forecast.h"
#include "cinnabar/forecast/levels/context.h"
#include "cinnabar/photometry/sources.h"
#include "judging.h"

namespace cinnabar {
using namespace judging;
namespace {

// Own behaviour: the rule of a tenth.
TEST(States, LeanWithinATenthOnEitherSideOfABound) {
  EXPECT_EQ(state_of(1.0, {0.7, 1.5}), State::level);
  EXPECT_EQ(state_of(0.75, {0.7, 1.5}), State::leaning);
  EXPECT_EQ(state_of(0.65, {0.7, 1.5}), State::leaning);
  EXPECT_EQ(state_of(0.6, {0.7, 1.5}), State::out);
  EXPECT_EQ(state_of(-5.6, {{}, -5.0}), State::level);
  EXPECT_EQ(state_of(-5.2, {{}, -5.0}), State::leaning);
  EXPECT_EQ(state_of(-4.6, {{}, -5.0}), State::leaning);
  EXPECT_EQ(state_of(-4.4, {{}, -5.0}), State::out);
  EXPECT_EQ(state_of(0.0, {0.0, {}}), State::level);
  EXPECT_EQ(state_of(-0.01, {0.0, {}}), State::out);
  EXPECT_EQ(state_of(1.0, {{}, 1.0}, true), State::level);
  EXPECT_EQ(state_of(2.0, {{}, 1.0}, true), State::out);
  EXPECT_EQ(state_of(std::nan(""), {0.0, 1.0}), State::unknown);
}

// Own behaviour: out weighs two, leaning one; what cannot be told any more counts as out.
TEST(States, AreWorseByTheirWeightAndWhenTheyAreLost) {
  Level level, leaning, out, unknown;
  level.state = State::level, leaning.state = State::leaning, out.state = State::out;
  unknown.state = State::unknown;
  EXPECT_EQ(worse_by(level, leaning), 1);
  EXPECT_EQ(worse_by(out, leaning), -1);
  EXPECT_EQ(worse_by(level, unknown), 2);
  EXPECT_EQ(worse_by(out, unknown), 0);
  EXPECT_EQ(worse_by(unknown, unknown), 0);
}

// Source: thin lens (Ray 2002), by hand.
TEST(FrameSize, IsTheThinLensImageOfTheWholeProduct) {
  // The near rim of the can stands 0.96 m from the lens: 0.05 m over the axis at 0.96, as far below at 0.96.
  const double v = 0.05 * 1.0 / 0.95, value = 100 * 0.1 / 0.96 * v / 0.02025;
  expect_level(can(), "frame.size", value, State::out, 0.05);
  Json nearer = can();
  nearer["shots"][0]["camera"]["place"] = {0, 0.05, 0.5};
  nearer["shots"][0]["camera"]["focus"] = 0.46;
  expect_level(nearer, "frame.size", 100 * 0.1 / 0.46 * (0.05 * 0.46 / 0.41) / 0.02025, State::level, 0.1);
}

// Source: similar triangles, by hand.
TEST(BackdropEdge, IsMeasuredFromTheFrameToTheSheetsSide) {
  Json doc = can();
  doc["setups"][0]["backdrop"] = {
      {"kind", "flat"}, {"distance", 1.0}, {"width", 1.6}, {"height", 4.0}, {"low", -2.0}};
  // Half the sheet is 0.8 m wide 2 m away: its image lies 0.8 / 2 x v from the middle, the frame ends at 18 mm.
  const double v = 0.05 / 0.95, value = 100 * (0.8 / 2 * v - 0.018) / 0.036;
  expect_level(doc, "frame.backdrop-edge", value, State::level, 0.1);
  doc["setups"][0]["backdrop"]["width"] = 1.2;
  expect_level(doc, "frame.backdrop-edge", 100 * (0.6 / 2 * v - 0.018) / 0.036, State::out, 0.1);
  // A second shot of the set-up with a wider lens counts, from this camera's place.
  doc["setups"][0]["backdrop"]["width"] = 1.6;
  doc["kit"]["lenses"].push_back({{"id", "wide"}, {"focal_low", 0.028}, {"focal_high", 0.028}});
  Json second = doc["shots"][0];
  second["id"] = "s2";
  second["camera"]["lens"] = "wide";
  second["camera"]["focal"] = 0.028;
  doc["shots"].push_back(second);
  const double wide = 0.028 * 1.0 / 0.972;
  expect_level(doc, "frame.backdrop-edge", 100 * (0.8 / 2 * wide - 0.018) / 0.036, State::out, 0.1);
}

// Source: similar triangles, by hand.
TEST(BackdropEdge, LooksPastATableIntoTheRoomButNotWhereTheBackdropStands) {
  Json doc = can();
  doc["setups"][0]["surface"] = {{"width", 6.0}, {"depth", 2.0}};
  doc["shots"][0]["camera"]["place"] = {0, 0.3, 0.9};
  // A tall sheet right behind the table's rear edge: that edge is no outer edge.
  doc["setups"][0]["backdrop"] = {
      {"kind", "flat"}, {"distance", 1.2}, {"width", 6.0}, {"height", 4.0}, {"low", -2.0}};
  EXPECT_GT(*level_of(doc, "frame.backdrop-edge")->value, 0.0);
  // The sheet hung higher: between table and sheet the room shows.
  doc["setups"][0]["backdrop"]["low"] = 0.05;
  EXPECT_LT(*level_of(doc, "frame.backdrop-edge")->value, 0.0);
}

// Source: ISO 2720:1974, C = 250, by hand.
TEST(ProductExposure, ReadsAGreyCanAtTheMetersIlluminanceAsGrey) {
  // An 18 % can under E, exposed for E: log2(L / L_grey) is 0 but for the faces turned a little away.
  const Json doc = can();
  const double luminance = 4000 / (pi * 0.25);
  const double e =
      rect_illuminance({.luminance = luminance, .width = 0.5, .height = 0.5, .distance = 1.46})->illuminance_lx;
  const double m = 0.05 / 0.95, n = 5.6 * (1 + m), needed = 250 * n * n / (0.02 * 400);
  const double stops = std::log2(e / needed);
  const auto product = level_of(doc, "light.product"), light = level_of(doc, "camera.stops");
  EXPECT_NEAR(*product->value, stops, 0.12);
  EXPECT_NEAR(*light->value, stops, 0.02);
  Json brighter = doc;
  brighter["shots"][0]["camera"]["iso"] = 800;
  EXPECT_NEAR(*level_of(brighter, "light.product")->value - *product->value, 1.0, 1e-6);
  Json filtered = doc;
  filtered["shots"][0]["camera"]["nd_stops"] = 2;
  EXPECT_NEAR(*level_of(filtered, "camera.stops")->value - *light->value, -2.0, 1e-6);
  Json aimed = doc;
  aimed["shots"][0]["target_stops"] = -1;
  EXPECT_NEAR(*level_of(aimed, "camera.stops")->value - *light->value, 1.0, 1e-9);
}

// Own behaviour.
TEST(ProductExposure, FallsBackToACardWhereNothingIsMatte) {
  Json doc = can();
  doc["products"][0].erase("label");
  doc["products"][0]["parts"][0]["material"] = {
      {"kind", "metal"}, {"colour", {0.9, 0.9, 0.9}}, {"roughness", 0.1}};
  const auto level = level_of(doc, "light.product");
  ASSERT_TRUE(level && level->value);
  EXPECT_NEAR(*level->value, *level_of(doc, "camera.stops")->value, 0.05);
}

// Source: ISO 2720:1974, C = 250, by hand.
TEST(Backdrop, IsHeldAgainstTheExposuresOwnGreyInStops) {
  Json doc = can(0.5);
  doc["setups"][0]["backdrop"] = {
      {"kind", "flat"}, {"distance", 1.0}, {"width", 4.0},
      {"height", 4.0},  {"low", -2.0},     {"material", {{"kind", "matte"}, {"colour", {0.02, 0.02, 0.02}}}}};
  const auto level = level_of(doc, "light.backdrop");
  ASSERT_TRUE(level && level->value);
  // The sheet is 2.5 m from the light; grey is 18 % under what ISO 2720 needs (C = 250), the f-number effective.
  const double luminance = 4000 / (pi * 0.25);
  const double far =
      rect_illuminance({.luminance = luminance, .width = 0.5, .height = 0.5, .distance = 2.5})->illuminance_lx;
  const double n = 5.6 * (1 + 0.05 / 0.95), needed = 250 * n * n / (0.02 * 400);
  EXPECT_NEAR(*level->value, std::log2(0.02 * far / (0.18 * needed)), 0.2) << "towards the corners it falls off";
  Json paler = doc;  // whatever the product reflects
  paler["products"][0]["parts"][0]["material"]["colour"] = {0.9, 0.9, 0.9};
  paler["products"][0]["label"]["material"]["colour"] = {0.9, 0.9, 0.9};
  EXPECT_NEAR(*level_of(paler, "light.backdrop")->value, *level->value, 0.1);
  // A lens that passes half of what is usual, and filters, darken it; 0.45 / 0.9 is one stop.
  Json darker = doc;
  darker["kit"]["lenses"][0]["transmission"] = 0.45;
  EXPECT_NEAR(*level_of(darker, "light.backdrop")->value, *level->value - 1, 1e-6);
  doc["house_rules"] = {{"backdrop", "white"}};
  const auto white = level_of(doc, "light.backdrop");
  EXPECT_EQ(white->state, State::out);
  // From clipping: ISO 12232's 78 / S lies log2((78 / S) / (9.31056 / S)) = 3.06653 stops over the own grey.
  EXPECT_NEAR(*white->value, *level->value - 3.06653, 1e-3);
  doc["kit"]["cameras"][0]["modes"][0]["stops_over_grey"] = 5.0;
  EXPECT_NEAR(*level_of(doc, "light.backdrop")->value, *level->value - 5.0, 1e-6);
  doc["setups"][0]["house_rules"] = {{"backdrop", "black"}};  // a set-up's own rule goes before
  EXPECT_EQ(level_of(doc, "light.backdrop")->band.high, std::optional(-5.0));
}

// Source: ISO 12232 (clipping), by hand.
TEST(Highlight, IsTheBrightestThousandthUnderClipping) {
  // A picture filled by a matte wall under an even ambient: L = 0.5 x E / pi everywhere.
  Json doc = worlds::bare();
  doc["setups"][0]["backdrop"] = {
      {"kind", "flat"}, {"distance", 0.0}, {"width", 20.0},
      {"height", 20.0}, {"low", -10.0},    {"material", {{"kind", "matte"}, {"colour", {0.5, 0.5, 0.5}}}}};
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 1500.0}};
  const double l = 0.5 * 1500 / pi, n = 5.6 * (1 + 0.05 / 0.95);
  const double under = std::log2(78.0 / 400 / (0.65 * l * 0.02 / (n * n)));
  expect_level(doc, "light.highlight", under, State::level, 0.01);
  EXPECT_FALSE(level_of(doc, "light.highlight")->band.high) << "nothing here sparkles";
  doc["setups"][0]["surface"] = {{"width", 0.02}, {"depth", 0.02}, {"material", {{"kind", "gloss"}}}};
  EXPECT_EQ(level_of(doc, "light.highlight")->band.high, std::optional(0.7));
  expect_level(doc, "light.highlight", under, State::out, 0.01);
  // Clipping goes by channel: under a balance of 3200 K the daylight's blue is the largest.
  Json warm = doc;
  warm["setups"][0]["ambient"]["kelvin"] = 5600;
  warm["shots"][0]["camera"]["balance_k"] = 3200;
  EXPECT_LT(*level_of(warm, "light.highlight")->value, under - 0.3);
  doc["house_rules"] = {{"backdrop", "white"}};  // then the backdrop does not count: all that is left is dark
  EXPECT_NE(level_of(doc, "light.highlight")->value, std::optional(under));
}

// Source: the mired, a million over kelvin (CIE S 017), by hand.
TEST(White, IsTheWorstLightInMired) {
  Json doc = can();
  expect_level(doc, "light.white", 0.0, State::level, 1e-9);
  doc["setups"][0]["lights"][0]["kelvin"] = 3200;
  expect_level(doc, "light.white", 1e6 / 3200 - 1e6 / 5600, State::out, 1e-6);
  doc["setups"][0]["lights"][0]["gel_mired"] = -131;
  expect_level(doc, "light.white", 1e6 / 3200 - 131 - 1e6 / 5600, State::level, 1e-6);
  doc["setups"][0]["lights"][0]["on"] = false;
  EXPECT_FALSE(level_of(doc, "light.white"));
}

// Own behaviour: of twenty lamps the one that has to burn longest is named, of those that are on.
TEST(White, NamesTheLampThatWarmsUpLongest) {
  Json doc = can();
  doc["kit"]["lights"].push_back({{"id", "arc"}, {"warm_up_minutes", 4}});
  doc["kit"]["lights"].push_back({{"id", "big-arc"}, {"warm_up_minutes", 15}});
  const auto told = [&doc] { return level_of(doc, "light.white")->sentence; };
  EXPECT_EQ(told().find("burned"), std::string::npos);
  Json& lights = doc["setups"][0]["lights"];
  for (int k = 0; k < 19; ++k) {
    lights.push_back(worlds::rectangle("l" + std::to_string(k), {0.9 * std::cos(k), 0.5, 0.9 * std::sin(k)},
                                       {0, 0.05, 0}, 0.1, 0.1, 60));
    lights.back()["kit"] = k == 7 ? "big-arc" : "arc", lights.back()["name"] = "Lamp " + std::to_string(k);
  }
  EXPECT_NE(told().find("Lamp 7 keeps its white once it has burned 15 min."), std::string::npos) << told();
  lights[8]["on"] = false;
  EXPECT_NE(told().find("keeps its white once it has burned 4 min."), std::string::npos) << told();
}

// Source: IES Lighting Handbook (values from memory): light by the 3.4th power of the voltage, colour temperature
// by the 0.42nd: at a quarter of its light 3200 K come down to 3200 x 0.25^(0.42 / 3.4) = 2696 K.
TEST(White, OfADimmedFilamentIsWarmer) {
  Json doc = can();
  doc["kit"]["lights"] = {
      {{"id", "hot"}, {"lumens", 2000}, {"kelvin_low", 3200}, {"kelvin_high", 3200}, {"hot", true}}};
  Json& light = doc["setups"][0]["lights"][0];
  light["kit"] = "hot", light["kelvin"] = 3200;
  doc["shots"][0]["camera"]["balance_k"] = 3200;
  expect_level(doc, "light.white", 0.0, State::level, 1e-9);
  light["dimmer"] = 0.25;
  expect_level(doc, "light.white", 1e6 / 2696.4 - 1e6 / 3200, State::out, 0.05);
  light["dimmer"] = 1.0;  // but comes up from a quarter through the shot
  doc["shots"][0]["tracks"].push_back({{"target", "light." + light["id"].get<std::string>() + ".dimmer"},
                                       {"keys", {{0, 0.0}, {0.5, 0.25}, {1, 1}}}});
  expect_level(doc, "light.white", 1e6 / 2696.4 - 1e6 / 3200, State::out, 0.05);
  doc["shots"][0].erase("tracks"), light["dimmer"] = 0.25;
  doc["kit"]["lights"][0]["hot"] = false;  // it only gives less
  expect_level(doc, "light.white", 0.0, State::level, 1e-9);
}

// Own behaviour: a warm and a blue light look like two colours; said to be meant, they are no whites that are off.
TEST(White, TellsTwoColoursFromAMishap) {
  Json doc = can();
  Json& lights = doc["setups"][0]["lights"];
  lights[0]["kelvin"] = 3200;
  EXPECT_EQ(level_of(doc, "light.white")->sentence.find("two colours"), std::string::npos) << "one lamp is off";
  lights.push_back(lights[0]);
  lights[1]["id"] = "rim", lights[1]["name"] = "Rim", lights[1]["kelvin"] = 9000;
  EXPECT_NE(level_of(doc, "light.white")->sentence.find("Rim 67 mired cooler"), std::string::npos)
      << level_of(doc, "light.white")->sentence;
  lights[0]["colour_meant"] = true;
  expect_level(doc, "light.white", 1e6 / 9000 - 1e6 / 5600, State::out, 1e-6);
  lights[1]["colour_meant"] = true;
  EXPECT_FALSE(level_of(doc, "light.white"));
}

// Source: way = speed x time, by hand.
TEST(Smear, IsThePathOfTheLabelsFrontOverOneExposure) {
  Json doc = can();
  doc["shots"][0]["tracks"] =
      Json::array({{{"target", "turntable"}, {"profile", "linear"}, {"keys", {{0, 0}, {2, 72}}}}});
  // 36 degrees a second, 1/50 s, radius 0.04 m at 0.96 m: the front's arc.
  const double v = 0.05 / 0.95, pitch = 0.036 / 3840;
  const double px = 0.04 * radians(36) * 0.02 * v / 0.96 / pitch;
  const double allowed = 0.002 * v / 0.96 / pitch / 5;
  const auto level = level_of(doc, "motion.smear");
  EXPECT_NEAR(*level->value, px, 0.02 * px);
  EXPECT_NEAR(*level->band.high, allowed, 0.03 * allowed);
  EXPECT_EQ(level->state, state_of(px, {{}, allowed}));
  doc["shots"][0]["tracks"] = Json::array();
  EXPECT_FALSE(level_of(doc, "motion.smear"));  // nothing moves
}

// Own behaviour, counted by hand.
TEST(SlowMotion, IsOneOverTheFastestSpeedAndNeverInventsFrames) {
  Json doc = can();
  doc["shots"][0]["camera"]["mode"] = "m100";
  doc["shots"][0]["camera"]["shutter_time"] = 0.005;
  doc["shots"][0]["play"] = {{0, 0.25}};
  doc["shots"][0]["needs"] = {{"slow", 4.0}};
  expect_level(doc, "motion.slow", 4.0, State::level, 1e-9);
  doc["shots"][0]["needs"]["slow"] = 2.0;
  expect_level(doc, "motion.slow", 4.0, State::out, 1e-9);
  doc["shots"][0].erase("needs");
  doc["shots"][0]["play"] = {{0, 0.2}};  // 100 per second at a fifth: 20 frames for each 25 shown
  expect_level(doc, "motion.slow", 5.0, State::out, 1e-9);
  doc["shots"][0].erase("play");
  EXPECT_FALSE(level_of(doc, "motion.slow"));
}

// Own behaviour, counted by hand.
TEST(Length, IsCountedInFramesAgainstTheSlotOrTheBeat) {
  Json doc = can();
  EXPECT_FALSE(level_of(doc, "motion.length"));
  doc["shots"][0]["needs"] = {{"length", 1.96}};
  expect_level(doc, "motion.length", 1.0, State::leaning, 1e-6);
  doc["shots"][0].erase("needs");
  doc["project"]["beats_per_minute"] = 100;  // a beat every 0.6 s: the cut at 2.0 s lies 0.2 s after the third
  expect_level(doc, "motion.length", 5.0, State::out, 1e-6);
}

// Own behaviour, counted by hand.
TEST(Load, IsTheMassOverTheRating) {
  Json doc = can();
  expect_level(doc, "motion.load", 10.0, State::level, 1e-9);
  doc["products"][0]["mass"] = 4.2;
  expect_level(doc, "motion.load", 84.0, State::leaning, 1e-9);
  doc["products"][0]["mass"] = 6.0;
  expect_level(doc, "motion.load", 120.0, State::out, 1e-9);
  doc["kit"]["supports"][0].erase("load");
  EXPECT_EQ(level_of(doc, "motion.load")->state, State::unknown);
  EXPECT_FALSE(level_of(doc, "motion.load")->value);
}

// Source: thin lens (Ray 2002), by hand.
TEST(FocusDepth, IsWhatIsLeftBeyondTheLabel) {
  // Ray 2002: near and far of 50 mm at f/5.6 focused at 1 m, circle one delivered pixel (36 mm / 1920).
  Json doc = can();
  const double h = 0.05 * 0.05 / (5.6 * 0.036 / 1920) + 0.05, near = (h - 0.05) / (h + 1 - 0.1),
               far = (h - 0.05) / (h - 1);
  const double front = 0.96, back = 1 - 0.04 * std::cos(radians(45));
  expect_level(doc, "focus.depth", 1e3 * std::min(front - near, far - back), State::out, 0.1);
  doc["shots"][0]["camera"]["focus"] = 0.965;
  const double s = 0.965, near2 = s * (h - 0.05) / (h + s - 0.1), far2 = s * (h - 0.05) / (h - s);
  expect_level(doc, "focus.depth", 1e3 * std::min(front - near2, far2 - back), State::level, 0.1);
  doc["house_rules"] = {{"depth", "deep"}};
  expect_level(doc, "focus.depth", 1e3 * std::min(front - near2, far2 - 1.04), State::out, 0.1);
}

// Common practice, no source
TEST(Camera, IsoAndShutterFollowTheHouseRules) {
  Json doc = can();
  expect_level(doc, "camera.iso", 400, State::level, 0);
  doc["project"]["limits"] = {{"iso", 320}};
  expect_level(doc, "camera.iso", 400, State::out, 0);
  doc["house_rules"] = {{"exposure", "stop-down"}};  // a quarter of 12800
  EXPECT_EQ(level_of(doc, "camera.iso")->band.high, std::optional(3200.0));
  expect_level(doc, "camera.shutter", 180, State::level, 1e-9);
  doc["shots"][0]["camera"]["shutter_time"] = 0.005;
  expect_level(doc, "camera.shutter", 45, State::out, 1e-9);
  doc["house_rules"]["shutter"] = "crisp";
  expect_level(doc, "camera.shutter", 45, State::level, 1e-9);
  doc["house_rules"]["shutter"] = "flicker-safe";  // 1/200 s is half a cycle of 100 Hz
  EXPECT_EQ(level_of(doc, "camera.shutter")->state, State::out);
  doc["shots"][0]["camera"]["shutter_time"] = 0.02;
  EXPECT_EQ(level_of(doc, "camera.shutter")->state, State::level);
}

// Own behaviour.
TEST(Bands, TheUsersOwnGoBeforeTheSheets) {
  Json doc = can();
  doc["bands"] = {{"camera.iso", {{"low", nullptr}, {"high", 200}}},
                  {"frame.size", {{"low", 20}, {"high", nullptr}}}};
  expect_level(doc, "camera.iso", 400, State::out, 0);
  EXPECT_EQ(level_of(doc, "frame.size")->state, State::level);
  EXPECT_FALSE(level_of(doc, "frame.size")->band.high);
}

// Own behaviour.
TEST(EmptyShots, HaveLevelsOrNoneButNeverFail) {
  Json doc = worlds::bare();
  const Forecaster forecaster(quick_measure);
  EXPECT_FALSE(forecaster.levels(worlds::read(doc), 0).empty());
  doc["shots"][0].erase("camera");
  (void)forecaster.levels(worlds::read(doc), 0);
  doc["setups"][0] = {{"id", "A"}};
  doc["kit"] = Json::object();
  const auto levels = forecaster.levels(worlds::read(doc), 0);
  for (const Level& l : levels) EXPECT_TRUE(l.value || !l.formula.empty()) << l.id;
}

// --- Levers: what is promised is what is found when the changed shot is staged anew.

// Own behaviour.
TEST(Levers, BringEveryKindOfLevelHome) {
  Json doc = can();
  doc["setups"][0]["lights"][0]["dimmer"] = 0.2;
  expect_levers_hold(doc, "light.product", 2);  // not nearer: the lamp would stand before the lens
  expect_levers_hold(doc, "camera.stops", 2);
  expect_levers_hold(doc, "frame.size", 1);
  expect_levers_hold(doc, "focus.depth", 2);
  doc["setups"][0]["lights"][0]["kelvin"] = 4300;
  doc["setups"][0]["lights"][0]["kit"] = "led";
  expect_levers_hold(doc, "light.white", 3);
  doc["shots"][0]["tracks"] =
      Json::array({{{"target", "turntable"}, {"profile", "linear"}, {"keys", {{0, 0}, {0.5, 180}}}}});
  expect_levers_hold(doc, "motion.smear", 1);
  doc["shots"][0]["needs"] = {{"slow", 2.0}, {"length", 1.0}};
  expect_levers_hold(doc, "motion.slow", 1);
  expect_levers_hold(doc, "motion.length", 1);
  doc["shots"][0]["camera"]["iso"] = 6400;
  expect_levers_hold(doc, "camera.iso", 1);
  doc["shots"][0]["camera"]["shutter_time"] = 0.005;
  expect_levers_hold(doc, "camera.shutter", 1);
  doc["setups"][0]["backdrop"] = {
      {"kind", "flat"}, {"distance", 0.6}, {"width", 0.7},
      {"height", 2.0},  {"low", -1.0},     {"material", {{"kind", "matte"}, {"colour", {0.3, 0.3, 0.3}}}}};
  expect_levers_hold(doc, "frame.backdrop-edge", 1);
  expect_levers_hold(doc, "light.backdrop", 1);
}

// Own behaviour.
TEST(Levers, SayWhyWhenNothingHelps) {
  Json doc = can();
  doc["products"][0]["mass"] = 50.0;
  doc["shots"][0]["tracks"] = Json::array({{{"target", "turntable"}, {"keys", {{0, 0}, {2, 30}}}}});
  const auto levers = Forecaster().levers(*Document::from_json(doc), 0, "motion.load");
  EXPECT_TRUE(levers.list.empty());
  EXPECT_NE(levers.why.find("no turntable of the kit carries it"), std::string::npos) << levers.why;
}

}  // namespace
}  // namespace cinnabar
