// Worked by hand from speed = way / time; profiles as named; bands: common practice, no source.
// The label's turn, moves, loops, modes, locks, cards and the spot's length against values worked by hand.
#include "judging.h"

namespace cinnabar {
using namespace judging;
namespace {

Json turning(const Json& keys, const char* profile = "linear") {
  Json doc = can();
  doc["shots"][0]["tracks"] = Json::array({{{"target", "turntable"}, {"profile", profile}, {"keys", keys}}});
  return doc;
}

// Source: angle = rate x time, by hand.
TEST(Facing, LastsAsLongAsTheLabelIsWithinTwentyDegrees) {
  // 10 rpm = 60 degrees a second: 2 x 20 / 60 = 0.667 s (twice the angle over the speed).
  Json doc = turning({{0, -60}, {2, 60}});
  EXPECT_FALSE(level_of(doc, "motion.facing")) << "nobody asks";
  doc["shots"][0]["needs"] = {{"facing", {{"bearing_deg", 0}, {"at", 1.0}, {"for", 0.5}}}};
  expect_level(doc, "motion.facing", 2.0 / 3, State::level, 1e-6);
  doc["shots"][0]["needs"]["facing"]["for"] = 0.65;
  expect_level(doc, "motion.facing", 2.0 / 3, State::leaning, 1e-6);
  doc["shots"][0]["needs"]["facing"]["for"] = 1.0;
  expect_level(doc, "motion.facing", 2.0 / 3, State::out, 1e-6);
  doc["shots"][0]["needs"]["facing"]["at"] = 0.1;
  expect_level(doc, "motion.facing", 0.0, State::out, 1e-9);
  // At half speed the same turn takes twice the screen time.
  doc["shots"][0]["needs"]["facing"] = {{"bearing_deg", 0}, {"at", 1.99}, {"for", 0.2}};
  doc["shots"][0]["play"] = {{0, 0.5}};
  doc["shots"][0]["screen_time"] = 4.0;
  expect_level(doc, "motion.facing", 4.0 / 3, State::level, 1e-5);
}

// Source: angle = rate x time, by hand: -60 to 0 degrees in a second, then to 30 in another, within 20 of square
// from 2/3 to 5/3 s of the set; of 2 s played backward that is from 1/3 to 4/3 s on screen.
TEST(Facing, OfAShotThatPlaysBackwardIsWhereItShows) {
  Json doc = turning({{0, -60}, {1, 0}, {2, 30}});
  doc["shots"][0]["needs"] = {{"facing", {{"bearing_deg", 0}, {"at", 1.55}, {"for", 0.5}}}};
  expect_level(doc, "motion.facing", 1.0, State::level, 1e-5);
  doc["shots"][0]["reversed"] = true;
  expect_level(doc, "motion.facing", 0.0, State::out, 1e-9);
  expect_levers_hold(doc, "motion.facing", 1);
  doc["shots"][0]["needs"]["facing"]["at"] = 0.5;
  expect_level(doc, "motion.facing", 1.0, State::level, 1e-5);
}

// Source: angle = rate x time, by hand.
TEST(Facing, CountsTheLabelsOwnBearingAndTheWayItWasSetDown) {
  Json doc = turning({{0, 0}, {2, 120}});
  doc["products"][0]["label"]["bearing_deg"] = 30;
  doc["shots"][0]["products"][0]["turn_deg"] = -90;
  doc["shots"][0]["needs"] = {{"facing", {{"bearing_deg", 0}, {"at", 1.0}, {"for", 0.5}}}};
  expect_level(doc, "motion.facing", 2.0 / 3, State::level, 1e-6);  // square at 60 degrees turned, 1 s
  doc["shots"][0]["needs"]["facing"]["bearing_deg"] = 360;
  expect_level(doc, "motion.facing", 2.0 / 3, State::level, 1e-6);
}

// Source: way = speed x time, by hand.
TEST(Judder, IsTheTimeToCrossTheFrameAtTheFastest) {
  // A linear slide of 0.2 m/s at 1 m, 50 mm: 0.2 x 52.63 mm / 36 mm = 0.2924 widths a second.
  Json doc = can();
  EXPECT_FALSE(level_of(doc, "motion.judder"));
  const auto slide = [&](double metres) {
    doc["shots"][0]["tracks"] = Json::array({{{"target", "camera.slide"}, {"keys", {{0, 0}, {2, metres}}}}});
  };
  slide(0.4);
  const double widths = 0.2 * (0.05 / 0.95) / 0.036;
  expect_level(doc, "motion.judder", 1 / widths, State::out, 0.01 / widths);
  slide(0.4 * 0.14 / widths);
  expect_level(doc, "motion.judder", 1 / 0.14, State::leaning, 0.05);  // least 7 x 24 / 25 = 6.72 s
  slide(0.4 * 0.1 / widths);
  expect_level(doc, "motion.judder", 10.0, State::level, 0.1);
  // A pan that keeps the subject still on the axis does not judder there.
  doc["shots"][0]["tracks"] = Json::array({{{"target", "camera.pan"}, {"keys", {{0, 0}, {2, 0}}}}});
  EXPECT_FALSE(level_of(doc, "motion.judder"));
}

// Source: v^2 / 2a and torque = inertia x acceleration, by hand.
TEST(Reach, IsTheHardestDemandOnWhatCarries) {
  // trapezoid-1-3 peaks at 1.5 D / T: 90 degrees in 2 s = 67.5 degrees a second = 11.25 rpm of 10.
  expect_level(turning({{0, 0}, {2, 90}}, "trapezoid-1-3"), "motion.reach", 112.5, State::out, 1e-6);
  expect_level(turning({{0, 0}, {2, 60}}), "motion.reach", 50.0, State::level, 1e-6);
  expect_level(turning({{0, 0}, {2, 114}}), "motion.reach", 95.0, State::leaning, 1e-6);
  // Slower than the table's slowest turn, 1 rpm: 4 degrees in 2 s are a third of a turn a minute.
  expect_level(turning({{0, 0}, {2, 4}}), "motion.reach", 300.0, State::out, 1e-6);
  Json doc = can();
  doc["shots"][0]["tracks"] = Json::array({{{"target", "camera.slide"}, {"keys", {{0, 0}, {2, 0.3}}}}});
  EXPECT_EQ(level_of(doc, "motion.reach")->state, State::unknown) << "no slider in the kit";
  doc["kit"]["supports"].push_back({{"id", "rail"}, {"kind", "slider"}, {"travel", 0.6}, {"speed", 0.2}});
  expect_level(doc, "motion.reach", 75.0, State::level, 1e-6);
  // minimum-jerk: 1.875 D / T and 10 / sqrt(3) D / T^2 (Flash & Hogan 1985).
  doc["kit"]["supports"][1]["acceleration"] = 0.4;
  doc["shots"][0]["tracks"][0]["profile"] = "minimum-jerk";
  expect_level(doc, "motion.reach", 100 * 1.875 * 0.15 / 0.2, State::out, 1e-6);
  doc["kit"]["supports"][1]["speed"] = 5.0;
  expect_level(doc, "motion.reach", 100 * (10 / std::sqrt(3.0)) * 0.3 / 4 / 0.4, State::leaning, 1e-6);
}

// Own behaviour, counted by hand.
TEST(Loop, HasASeamInFramesOfTheTurn) {
  // 360 degrees in 2 s at 25 per second: 7.2 degrees a frame.
  expect_level(turning({{0, 0}, {2, 360}}), "motion.loop", 0.0, State::level, 1e-6);
  expect_level(turning({{0, 0}, {2, 363.6}}), "motion.loop", 3.6 / (363.6 / 50), State::leaning, 1e-6);
  expect_level(turning({{0, 0}, {2, 367.2}}), "motion.loop", 7.2 / (367.2 / 50), State::out, 1e-6);
  EXPECT_FALSE(level_of(turning({{0, 0}, {2, 120}}), "motion.loop")) << "no whole turn: it does not loop";
  Json asked = turning({{0, 0}, {2, 120}});
  asked["shots"][0]["needs"] = {{"loop", true}};
  EXPECT_EQ(level_of(asked, "motion.loop")->state, State::out);
  Json declined = turning({{0, 0}, {2, 360}});
  declined["shots"][0]["needs"] = {{"loop", false}};
  EXPECT_FALSE(level_of(declined, "motion.loop"));
}

// Common practice, no source
TEST(Mode, CountsWhatTheShotNeedsAndTheModeLacks) {
  Json doc = can();
  expect_level(doc, "camera.mode", 0, State::level, 0);
  doc["shots"][0]["needs"] = {{"slow", 4.0}};  // 100 per second for a timeline of 25
  expect_level(doc, "camera.mode", 1, State::out, 0);
  doc["shots"][0]["camera"]["mode"] = "m100";
  doc["shots"][0]["camera"]["shutter_time"] = 0.005;
  expect_level(doc, "camera.mode", 0, State::level, 0);
  doc["house_rules"] = {{"focus", "autofocus-locked"}};
  doc["kit"]["cameras"][0]["modes"][1]["autofocus"] = false;
  expect_level(doc, "camera.mode", 1, State::out, 0);
  doc["deliverables"][0]["width"] = 3840;
  doc["deliverables"][0]["height"] = 2160;
  expect_level(doc, "camera.mode", 2, State::out, 0);
  doc["shots"][0]["camera"]["mode"] = "";
  doc["shots"][0]["camera"].erase("mode");
  EXPECT_EQ(level_of(doc, "camera.mode")->state, State::unknown);
}

// Common practice, no source
TEST(Locks, AreCountedAndWhatIsNotSaidIsNotLocked) {
  Json doc = can();
  expect_level(doc, "camera.locked", 4, State::out, 0);
  doc["shots"][0]["camera"]["locked"] = {
      {"white", true}, {"exposure", true}, {"focus", false}, {"stabiliser_off", true}};
  expect_level(doc, "camera.locked", 1, State::out, 0);
  doc["shots"][0]["camera"]["locked"]["focus"] = true;
  expect_level(doc, "camera.locked", 0, State::level, 0);
  EXPECT_EQ(level_of(doc, "camera.locked")->formula, "4 of 4 locked");
}

// Own behaviour, worked by hand.
TEST(Media, IsTheWorseOfCardAndBattery) {
  // 10 takes of 2 s + 10 s at 400 Mb/s: 120 s = 6 GB (IEC 80000-13); at 9 W 0.3 Wh.
  Json doc = can();
  EXPECT_FALSE(level_of(doc, "camera.media"));
  doc["shots"][0]["takes_planned"] = 10;
  EXPECT_EQ(level_of(doc, "camera.media")->state, State::unknown);
  doc["kit"]["cameras"][0]["modes"][0]["megabits_per_s"] = 400;
  doc["kit"]["media"] = {{{"id", "card"}, {"gigabytes", 32}}};
  expect_level(doc, "camera.media", 100 * 6.0 / 32, State::level, 1e-9);
  doc["kit"]["cameras"][0]["watts"] = 9;
  doc["kit"]["batteries"] = {{{"id", "cell"}, {"watt_hours", 0.4}}};
  expect_level(doc, "camera.media", 75.0, State::leaning, 1e-9);
  doc["kit"]["batteries"][0]["usable"] = 0.8;
  expect_level(doc, "camera.media", 100 * 0.3 / 0.32, State::out, 1e-9);
}

// Own behaviour, worked by hand.
TEST(SpotLength, IsTheSumAgainstTheSlotToTheFrame) {
  Json doc = can();
  const auto spot = [&] { return spot_levels(worlds::read(doc)).at(0); };
  doc["project"]["allowed_time"] = 2.0;
  EXPECT_EQ(spot().state, State::level);
  EXPECT_EQ(*spot().value, 0.0);
  doc["shots"][0]["screen_time"] = 2.04;
  EXPECT_NEAR(*spot().value, 1.0, 1e-9);
  EXPECT_EQ(spot().state, State::out);
  doc["shots"][0]["screen_time"] = 1.52;  // 12 frames under at 25: within half a second
  EXPECT_EQ(spot().state, State::level);
  doc["shots"][0]["screen_time"] = 1.44;
  EXPECT_EQ(spot().state, State::out);
  doc["project"].erase("allowed_time");
  EXPECT_NE(spot_levels(worlds::read(doc)).at(0).id, "spot.length");
}

// Own behaviour, worked by hand.
TEST(SpotLength, HasLeversThatComeHome) {
  for (const double seconds : {3.2, 1.1}) {
    Json doc = can();
    Json second = doc["shots"][0];
    second["id"] = "s2";
    doc["shots"].push_back(second);
    doc["project"]["allowed_time"] = 2.0 + seconds - 0.6;
    doc["shots"][0]["screen_time"] = seconds;
    const Document document = *Document::from_json(doc);
    const auto levers = Forecaster(quick_measure).spot_levers(document, "spot.length");
    ASSERT_FALSE(levers.list.empty()) << levers.why;
    for (const Lever& lever : levers.list) {
      ProjectReader reader;
      const auto after = spot_levels(reader.read(applied(document, lever.edit)));
      EXPECT_EQ(after.at(0).state, State::level) << lever.title;
      EXPECT_NEAR(*after.at(0).value, lever.after, 1e-9);
    }
  }
}

// Own behaviour, worked by hand.
TEST(Levers, OfTracksAndCameraComeHome) {
  Json doc = turning({{0, -120}, {1.0, 60}});
  doc["shots"][0]["needs"] = {{"facing", {{"bearing_deg", 0}, {"at", 1.2}, {"for", 0.5}}}};
  expect_levers_hold(doc, "motion.facing", 1);
  expect_levers_hold(doc, "motion.reach", 1);
  expect_levers_hold(doc, "camera.locked", 1);
  Json loop = turning({{0, 0}, {2, 367.2}});
  expect_levers_hold(loop, "motion.loop", 1);
  Json slide = can();
  slide["shots"][0]["tracks"] = Json::array({{{"target", "camera.slide"}, {"keys", {{0, 0}, {2, 0.4}}}}});
  expect_levers_hold(slide, "motion.judder", 2);
  slide["shots"][0]["needs"] = {{"slow", 4.0}};
  expect_levers_hold(slide, "camera.mode", 1);
  slide["shots"][0]["takes_planned"] = 60;
  slide["kit"]["cameras"][0]["modes"][0]["megabits_per_s"] = 400;
  slide["kit"]["media"] = {{{"id", "card"}, {"gigabytes", 32}}};
  expect_levers_hold(slide, "camera.media", 2);
}

// Own behaviour, worked by hand.
TEST(Prices, TellWhatASetUpsChangeDoesToItsOtherShots) {
  // Two shots share the bench; in the first the key is a stop too dark, in the second it is right.
  Json doc = can();
  Json second = doc["shots"][0];
  second["id"] = "s2";
  doc["shots"].push_back(second);
  const auto now = level_of(doc, "camera.stops");
  doc["shots"][0]["camera"]["iso"] = 400 * std::exp2(-*now->value - 1.0);
  doc["shots"][1]["camera"]["iso"] = 400 * std::exp2(-*now->value);
  doc["setups"][0]["lights"][0]["dimmer"] = 0.4;
  doc["setups"][0]["lights"][0]["lumens"] = 10000;
  const Document document = *Document::from_json(doc);
  const auto levers = Forecaster().levers(document, 0, "camera.stops");
  const auto brighter = std::find_if(levers.list.begin(), levers.list.end(),
                                     [](const Lever& l) { return l.title.starts_with("Brighten every light"); });
  ASSERT_NE(brighter, levers.list.end());
  EXPECT_NE(brighter->price.find("in shot 2: "), std::string::npos) << brighter->price;
  EXPECT_NE(brighter->price.find("Light there is"), std::string::npos) << brighter->price;
  EXPECT_GT(brighter->harm, 0);
  EXPECT_LT(levers.list.front().harm, brighter->harm)
      << "the least harm first: a change of this shot's own camera";
}

Json peaking(double peak_at) {
  // A turn of 60 degrees a second, the label square at 1 s; the light comes up to its brightest at one moment.
  Json doc = turning({{0, -60}, {2, 60}});
  doc["shots"][0]["tracks"].push_back(
      {{"target", "light.key.dimmer"}, {"keys", {{0, 0.1}, {peak_at, 0.9}, {2, 0.1}}}});
  doc["shots"][0]["needs"] = {{"facing", {{"bearing_deg", 0}, {"at", 1.0}, {"for", 0.2}}},
                              {"peak", {{"light", "key"}}}};
  return doc;
}

// Own behaviour, worked by hand.
TEST(Peak, IsHowFarTheLabelIsFromFacingWhenTheLightIsBrightest) {
  // 60 degrees a second are a sixth of a turn: 0.12 s away is 2 % of a turn, 0.3 s 5 %, 0.6 s 10 %.
  expect_level(peaking(1.0), "motion.peak", 0.0, State::level, 0.02);
  expect_level(peaking(1.12), "motion.peak", 2.0, State::level, 0.02);
  expect_level(peaking(0.7), "motion.peak", 5.0, State::leaning, 0.02);
  expect_level(peaking(1.6), "motion.peak", 10.0, State::out, 0.02);
  Json doc = peaking(1.6);
  doc["shots"][0]["needs"].erase("peak");
  EXPECT_FALSE(level_of(doc, "motion.peak")) << "nobody asks";
}

// Own behaviour, worked by hand.
TEST(Peak, TakesTheBestMomentOfAPlateauAndALightThatIsCarriedRound) {
  Json doc = peaking(1.0);
  doc["shots"][0]["tracks"][1]["keys"] = {{0, 0.1}, {0.5, 0.9}, {1.5, 0.9}, {2, 0.1}};
  expect_level(doc, "motion.peak", 0.0, State::level, 0.05);
  // Carried from 90 degrees right to 90 left in two seconds it stands before the label at 1 s.
  doc["shots"][0]["tracks"][1] = {{"target", "light.key.turn"}, {"keys", {{0, 90}, {2, -90}}}};
  expect_level(doc, "motion.peak", 0.0, State::level, 0.05);
  doc["shots"][0]["tracks"][1]["keys"] = {{0, 45}, {2, -135}};  // before it at 0.5 s: 30 degrees, 8.3 %
  expect_level(doc, "motion.peak", 100 * 30.0 / 360, State::out, 0.05);
}

// Own behaviour, worked by hand.
TEST(Peak, IsBroughtHomeByShiftingTheLight) { expect_levers_hold(peaking(1.6), "motion.peak", 1); }

// Own behaviour, worked by hand.
TEST(Spill, IsKeptOffByADoor) {
  Json doc = can();
  doc["setups"][0]["backdrop"] = {
      {"kind", "flat"}, {"distance", 0.6}, {"width", 2},
      {"height", 1.5},  {"low", 0},        {"material", {{"kind", "matte"}, {"colour", {0.5, 0.5, 0.5}}}}};
  // The key from the side reaches past the product; another light is meant for the backdrop.
  doc["setups"][0]["lights"][0]["place"] = {0.9, 0.3, 0.1};
  doc["setups"][0]["lights"][0]["doors"] = {{"length", 0.5}};
  doc["setups"][0]["lights"].push_back(worlds::rectangle("wall", {0, 1.2, -0.2}, {0, 0.5, -0.6}, 0.3, 0.3, 2500));
  doc["setups"][0]["lights"][1]["meant_for"] = "backdrop";
  const auto open = level_of(doc, "light.spill");
  ASSERT_TRUE(open && open->value);
  // It looks along -x: the backdrop's side is to its right.
  doc["setups"][0]["lights"][0]["doors"]["right_deg"] = -20;
  const auto closed = level_of(doc, "light.spill");
  ASSERT_TRUE(closed && closed->value);
  EXPECT_LT(*closed->value, 0.7 * *open->value) << open->formula << " | " << closed->formula;
}

}  // namespace
}  // namespace cinnabar
