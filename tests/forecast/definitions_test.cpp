// Levels held to their definitions in set-ups beyond the demo: cameras that look down or lie on their side,
// products away from the origin, light that dips between moments, macros, upright frames, rates, limits. Worked by
// hand from closed forms (ISO 2720:1974 with C = 250 for exposure, thin lens, v^2 / 2a), unless a line says
// otherwise.
#include "cinnabar/forecast/measures/silhouette.h"
#include "cinnabar/photometry/sources.h"
#include "judging.h"

namespace cinnabar {
using namespace judging;
namespace {

double needed_lux(double f_number_effective, double time = 0.02, double iso = 400) {
  return 250 * f_number_effective * f_number_effective / (time * iso);
}

Json tracks(const Json& target, const Json& keys, const char* profile = "linear") {
  return Json::array({{{"target", target}, {"profile", profile}, {"keys", keys}}});
}

// Own behaviour.
TEST(Moments, SeeADimmerThatDipsBetweenStartMiddleAndEnd) {
  Json doc = can();
  const double steady = *level_of(doc, "light.product")->value;
  doc["shots"][0]["tracks"] =
      tracks("light.key.dimmer", {{0, 1}, {0.7, 1}, {0.8, 0.05}, {0.85, 0.05}, {0.9, 1}, {2, 1}});
  const auto dips = level_of(doc, "light.product");
  EXPECT_NEAR(*dips->value - steady, std::log2(0.05), 1e-3);
  EXPECT_NEAR(*dips->set_time, 0.8, 1e-9);
  for (const int key : {2, 3})
    doc["shots"][0]["tracks"][0]["keys"][key][1] = 0.0;  // to nothing: no logarithm, and no limit in its place
  for (const char* id : {"light.product", "camera.stops"}) {
    const auto dark = level_of(doc, id);
    EXPECT_EQ(dark->state, State::unknown) << id;
    EXPECT_FALSE(dark->value) << id;
    EXPECT_NE(dark->sentence.find("no light at all"), std::string::npos) << dark->sentence;
  }
}

// Own behaviour.
TEST(Moments, AreAtKeysBetweenThemAndAsThingsTurn) {
  Json doc = can();
  const auto times = [&] {
    static MeasureCache cache;
    const Project project = worlds::read(doc);
    return ShotContext(project, 0, cache, full_measure, nullptr).light_times();
  };
  EXPECT_EQ(times(), std::vector<double>{0.0});
  doc["shots"][0]["tracks"] = tracks("turntable", {{0, 0}, {2, 90}});
  EXPECT_EQ(times().size(), 3u + 4u) << "every 15 degrees besides start, middle (45) and end";
  doc["shots"][0]["tracks"] = tracks("turntable", {{0, 0}, {2, 3600}});
  EXPECT_EQ(times().size(), 24u) << "at most";
  doc["shots"][0]["tracks"] = tracks("light.key.dimmer", {{0, 0.2}, {0.5, 1}, {2, 1}});
  EXPECT_EQ(times(), (std::vector<double>{0.0, 0.25, 0.5, 1.0, 1.25, 2.0}));
}

// Source: ISO 2720:1974, C = 250; the surface's luminance E rho / pi by hand.
TEST(LookingDown, ReadsTheTopAndHasTheSurfaceForABackdrop) {
  Json doc = can();
  doc["setups"][0]["lights"] = Json::array({worlds::rectangle("top", {0, 2.0, 0}, {0, 0, 0}, 0.2, 0.2, 4000)});
  doc["setups"][0]["surface"] = {
      {"width", 6.0}, {"depth", 6.0}, {"material", {{"kind", "matte"}, {"colour", {0.3, 0.3, 0.3}}}}};
  Json& camera = doc["shots"][0]["camera"];
  camera["place"] = {0, 1.1, 0}, camera["aim"] = {0, 0.1, 0}, camera["focus"] = 1.0;
  const double luminance = 4000 / (pi * 0.04), n = 5.6 * (1 + 0.05 / 0.95);
  const auto lux = [&](double distance) {
    return rect_illuminance({.luminance = luminance, .width = 0.2, .height = 0.2, .distance = distance})
        ->illuminance_lx;
  };
  EXPECT_NEAR(*level_of(doc, "camera.stops")->value, std::log2(lux(1.899) / needed_lux(n)), 0.02);
  // The table under the lamp: towards the frame's corners it falls by the fourth power of the cosine.
  const auto ground = level_of(doc, "light.backdrop");
  ASSERT_TRUE(ground && ground->value);
  EXPECT_NEAR(*ground->value, std::log2(0.3 * lux(2.0) / (0.18 * needed_lux(n))), 0.12);
  EXPECT_NE(ground->sentence.find("surface"), std::string::npos);
}

// Own behaviour: nothing may change.
TEST(AwayFromTheOrigin, NothingChanges) {
  Json doc = can();
  doc["setups"][0]["lights"].push_back(
      worlds::rectangle("wash", {0.9, 0.6, -0.1}, {0, 0.05, -0.9}, 0.3, 0.3, 2000));
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 20.0}};
  Json moved = doc;
  const auto shift = [](Json& place) {
    place[0] = place[0].get<double>() + 3.0, place[2] = place[2].get<double>() - 2.0;
  };
  shift(moved["shots"][0]["products"][0]["place"]);
  for (Json* thing :
       {&moved["setups"][0]["lights"][0], &moved["setups"][0]["lights"][1], &moved["shots"][0]["camera"]})
    shift((*thing)["place"]), shift((*thing)["aim"]);
  for (const char* id :
       {"light.product", "camera.stops", "light.ratio", "light.soft", "frame.size", "focus.depth"}) {
    const auto here = level_of(doc, id), there = level_of(moved, id);
    ASSERT_TRUE(here && here->value && there && there->value) << id;
    EXPECT_NEAR(*here->value, *there->value, 0.02) << id;
    EXPECT_EQ(here->state, there->state) << id;
  }
  // Whose a light is goes by the nearest product placed, not by the origin.
  moved["setups"][0]["backdrop"] = {
      {"kind", "flat"}, {"distance", 4.0}, {"width", 12.0}, {"height", 6.0}, {"low", -2.0}};
  moved["setups"][0]["lights"][1]["aim"] = {3.0, 0.5, -4.0};
  const auto spill = level_of(moved, "light.spill");
  ASSERT_TRUE(spill && spill->value);
  EXPECT_NE(spill->formula.find("key"), std::string::npos) << "aimed at the product, two metres off the origin";
}

// Source: thin lens (Ray 2002), by hand.
TEST(Lying, CamerasTurnTheirFrames) {
  Json doc = can();
  const double upright = *level_of(doc, "frame.size")->value;
  doc["shots"][0]["camera"]["roll_deg"] = 90;
  EXPECT_NEAR(*level_of(doc, "frame.size")->value, upright * 0.02025 / 0.036, 1e-6);
  doc["deliverables"] = {{{"id", "tall"}, {"name", "9:16"}, {"width", 1080}, {"height", 1920}}};
  const auto optics = [&] {
    const Project project = worlds::read(doc);
    return shot_optics(project, *project.shots[0]);
  };
  // Lying, the whole recording is 9:16: 20.25 mm over 1080. Upright, 9/16 of its height.
  EXPECT_NEAR(optics().delivered_pitch, 0.02025 / 1080, 1e-12);
  doc["shots"][0]["camera"]["roll_deg"] = 0;
  EXPECT_NEAR(optics().delivered_pitch, 0.02025 * 9 / 16 / 1080, 1e-12);
  doc["shots"][0]["crop_share"] = 0.5;
  EXPECT_NEAR(optics().delivered_pitch, 0.02025 * 9 / 32 / 1080, 1e-12);
  // The words' place from the top left of the picture as it is looked at. Rolled left the camera's right is up.
  const Deliverable d{.width = 1080, .height = 1920, .words = Words{0.0, 0.0, 0.5, 0.25, 3}};
  for (const double roll : {90.0, -90.0}) {
    doc["shots"][0]["camera"]["roll_deg"] = roll;
    const ImageBox words = words_area(d, optics());
    const double side = roll > 0 ? 1.0 : -1.0;  // up in the picture, along the sensor
    EXPECT_NEAR(std::max(side * words.left, side * words.right), 0.018, 1e-9) << "at the picture's top";
    EXPECT_NEAR(words.right - words.left, 0.25 * 0.036, 1e-9);
    EXPECT_NEAR(std::max(side * words.top, side * words.bottom), 0.02025 / 2, 1e-9) << "at its left";
    EXPECT_NEAR(words.top - words.bottom, 0.5 * 0.02025, 1e-9);
  }
}

// Source: thin lens (Ray 2002), by hand.
TEST(Macro, IsOfThePatchPromised) {
  Json doc = can();
  doc["shots"][0]["size"] = "macro";
  doc["products"][0]["features"] = {{{"id", "dot"}, {"at", {0, 0.05, 0.04}}, {"detail", 0.001}, {"size", 0.03}},
                                    {{"id", "spot"}, {"at", {0, 0.05, 0.04}}, {"detail", 0.001}}};
  doc["shots"][0]["needs"] = {{"features", {"can/spot"}}};
  const double per_metre =
      100 * 0.05 / 0.95 / 0.96 / 0.02025;  // image distance over depth, over the frame's height
  expect_level(doc, "frame.size", 0.01 * per_metre, State::out, 1e-6);  // ten times its detail
  doc["shots"][0]["needs"]["features"] = {"can/spot", "can/dot"};
  expect_level(doc, "frame.size", 0.03 * per_metre, State::out, 1e-6);
  doc["shots"][0].erase("needs");  // the label's box, 0.06 m high
  EXPECT_NEAR(*level_of(doc, "frame.size")->value, 0.06 * per_metre, 0.01 * 0.06 * per_metre);
}

// Common practice, no source: rates a thousandth apart.
TEST(Rates, AThousandthApartAreTheSame) {
  Json doc = can();
  doc["project"]["timeline_rate"] = "24";
  doc["kit"]["cameras"][0]["modes"][0]["rate"] = "24000/1001";
  EXPECT_FALSE(level_of(doc, "motion.slow"));
  expect_level(doc, "camera.mode", 0.0, State::level, 1e-9);
  doc["kit"]["cameras"][0]["modes"][0]["rate"] = "60000/1001";
  doc["shots"][0]["play"] = {{0, 0.4}};
  doc["shots"][0]["needs"] = {{"slow", 2.5}};
  expect_level(doc, "motion.slow", 2.5, State::level, 1e-9);
  expect_level(doc, "camera.mode", 0.0, State::level, 1e-9);
  doc["kit"]["cameras"][0]["modes"][0]["rate"] = "50";
  EXPECT_EQ(level_of(doc, "motion.slow")->state, State::out);
}

// Source: way = speed x time, by hand.
TEST(Smear, HoldsEachLabelAgainstItsOwnStroke) {
  Json doc = can();
  doc["products"].push_back(doc["products"][0]);
  doc["products"][1]["id"] = "fine", doc["products"][1]["label"]["stroke"] = 0.0004;
  doc["shots"][0]["products"].push_back({{"product", "fine"}, {"place", {0.2, 0, 0}}, {"turn_deg", 0}});
  doc["shots"][0]["tracks"] = tracks("camera.slide", {{0, 0}, {2, 0.1}});
  const auto level = level_of(doc, "motion.smear");
  EXPECT_NEAR(*level->band.high, 0.0004 * (0.05 / 0.95) / 0.96 / (0.036 / 3840) / 5, 0.02);
  EXPECT_NE(level->sentence.find("Can"), std::string::npos);
}

// Own behaviour, counted by hand.
TEST(Media, CountsEveryShotOfTheCameraAndTheirResets) {
  Json doc = can();
  doc["kit"]["cameras"][0]["modes"][0]["megabits_per_s"] = 200;
  doc["kit"]["cameras"][0]["watts"] = 9;
  doc["kit"]["media"] = {{{"id", "card"}, {"gigabytes", 64}}};
  doc["shots"][0]["takes_planned"] = 10;
  doc["shots"].push_back(doc["shots"][0]);
  doc["shots"][1]["id"] = "s2", doc["shots"][1]["takes_planned"] = 20;
  expect_level(doc, "camera.media", 100 * (10 + 20) * 12 * 200 / 8000.0 / 64, State::level, 1e-9);
  doc["kit"]["batteries"] = {{{"id", "cell"}, {"watt_hours", 40}}};
  doc["shots"][0]["reset_minutes"] = 5;
  const double drawn = (10 * (12 + 300) + 20 * 12) * 9 / 3600.0;
  expect_level(doc, "camera.media", 100 * drawn / 40, State::level, 1e-9);
}

// Source: v^2 / 2a, by hand.
TEST(Reach, KnowsJumpsRunUpsAccelerationAndLoads) {
  Json doc = can();
  doc["shots"][0]["tracks"] = tracks("turntable", {{0.5, 0}, {1.5, 30}});
  expect_level(doc, "motion.reach", 1000.0, State::out, 1e-9);
  EXPECT_NE(level_of(doc, "motion.reach")->formula.find("endless acceleration"), std::string::npos);
  doc["shots"][0]["tracks"] =
      tracks("turntable", {{0, 0}, {2, 30}});                   // even through the whole shot: 2.5 of 10 rpm
  expect_level(doc, "motion.reach", 40.0, State::level, 1e-9);  // the table's slowest, 1 of 2.5 rpm
  doc["shots"][0]["tracks"] = tracks("turntable", {{0, 0}, {2, 30}}, "minimum-jerk");
  doc["kit"]["supports"][0]["acceleration"] = 50;  // 10 / sqrt(3) D / T^2 (Flash & Hogan 1985)
  expect_level(doc, "motion.reach", 100 * 10 / std::sqrt(3.0) * 30 / 4 / 50, State::level, 1e-6);
  // Torque: m r^2 / 2 a of a solid cylinder; far off the axis, in ramped time, of a tall frame it is Steiner's.
  Json pulled = doc;
  const double gains = 10 / std::sqrt(3.0) * 30 / 4 * pi / 180, solid = 0.5 * 0.04 * 0.04 / 2;
  pulled["kit"]["supports"][0]["torque"] = 0.5 * solid * gains;
  expect_level(pulled, "motion.reach", 200.0, State::out, 0.5);
  EXPECT_NE(level_of(pulled, "motion.reach")->sentence.find("torque"), std::string::npos);
  pulled["shots"][0]["products"][0]["place"] = {0.2, 0, -0.15};
  pulled["kit"]["supports"][0]["torque"] = 10 * (solid + 0.5 * 0.25 * 0.25) * gains;
  pulled["kit"]["supports"][0]["acceleration"] = 1e4, pulled["kit"]["supports"][0]["rpm_low"] = 0.01;
  pulled["kit"]["supports"][0]["rpm_high"] = 1e4;
  pulled["shots"][0]["camera"]["roll_deg"] = 90;
  expect_level(pulled, "motion.reach", 10.0, State::level, 0.05);
  pulled["shots"][0]["play"] = {{0, 1.0}, {1.0, 0.5}};
  pulled["shots"][0]["screen_time"] = 3.0;
  const double set_time = worlds::read(pulled).shots[0]->set_time();
  ASSERT_GT(set_time, 1.5);
  expect_level(pulled, "motion.reach", 10.0, State::level, 0.1);
  doc["kit"]["supports"].push_back(
      {{"id", "rail"}, {"kind", "slider"}, {"travel", 0.6}, {"speed", 5.0}, {"acceleration", 0.5}});
  doc["shots"][0]["tracks"] = tracks("camera.slide", {{0, 0}, {2, 0.3}});
  expect_level(doc, "motion.reach", 100 * (0.3 + 2 * 0.15 * 0.15 / (2 * 0.5)) / 0.6, State::level, 1e-6);
  doc["kit"]["cameras"][0]["mass"] = 3.0;
  doc["kit"]["lenses"][0]["mass"] = 0.6;
  doc["kit"]["supports"][1]["load"] = 3.0;
  expect_level(doc, "motion.reach", 120.0, State::out, 1e-9);
  // A head that the camera stands on: 30 degrees in 2 s are 2.5 rpm of 2.
  doc["kit"]["supports"].push_back({{"id", "head"}, {"kind", "head"}, {"rpm_high", 2.0}});
  doc["shots"][0]["camera"]["on"] = "head";
  doc["shots"][0]["tracks"] = tracks("camera.pan", {{0, 0}, {2, 30}});
  expect_level(doc, "motion.reach", 125.0, State::out, 1e-9);
}

// Source: way = speed x time, by hand.
TEST(Judder, SeesATexturedBackdropBehindAProductKeptStill) {
  // Slid 0.2 m in 2 s past a product 1 m away and panned with it: a wall 2 m away moves through the lens at
  // v (1 + x^2) / 1 - v / 2, x the tangent of its place from the axis; four tenths of the frame out it is
  // quickest.
  Json doc = can();
  doc["setups"][0]["backdrop"] = {
      {"kind", "flat"}, {"distance", 1.0}, {"width", 8.0}, {"height", 4.0}, {"low", -2.0}};
  Json keys = Json::array();
  for (int k = 0; k <= 20; ++k) keys.push_back({k * 0.1, -degrees(std::atan2(-0.1 + 0.01 * k, 1.0))});
  doc["shots"][0]["camera"]["place"] = {-0.1, 0.05, 1.0};
  doc["shots"][0]["camera"]["aim"] = {-0.1, 0.05, 0.0};
  doc["shots"][0]["tracks"] = tracks("camera.slide", {{0, 0}, {2, 0.2}});
  doc["shots"][0]["tracks"].push_back({{"target", "camera.pan"}, {"keys", keys}});
  const auto plain = level_of(doc, "motion.judder");
  EXPECT_TRUE(!plain || *plain->value > 200.0);
  doc["setups"][0]["backdrop"]["material"] = {{"kind", "matte"}, {"textured", true}};
  const double image = 0.05 / 0.95, x = 0.4 * 0.036 / image;
  const double widths = 0.1 * (1 + x * x - 0.5) * image / 0.036;
  expect_level(doc, "motion.judder", 1 / widths, State::level, 0.06 / widths);
  doc["shots"][0]["camera"]["f_number"] =
      2.0;  // blurred over (50 / 2) x 1/2 x 0.0526 = 0.66 mm, 3.2 % of the height
  const auto blurred = level_of(doc, "motion.judder");
  EXPECT_TRUE(!blurred || *blurred->value > 200.0);
}

// Source: the mired, a million over kelvin (CIE S 017), by hand.
TEST(White, CountsWhatGivesLightAndTheRoom) {
  Json doc = can();
  doc["setups"][0]["lights"][0]["kelvin"] = 3200;
  doc["setups"][0]["lights"][0]["dimmer"] = 0.0;
  EXPECT_FALSE(level_of(doc, "light.white")) << "a lamp turned down to nothing";
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 50.0}, {"kelvin", 4000}};
  expect_level(doc, "light.white", 1e6 / 4000 - 1e6 / 5600, State::out, 1e-6);
  doc["shots"][0]["tracks"] = tracks("light.key.dimmer", {{0, 0}, {1, 0.5}});
  expect_level(doc, "light.white", 1e6 / 3200 - 1e6 / 5600, State::out, 1e-6);
}

// Source: ISO 2720:1974, C = 250, by hand.
TEST(LitFace, AgreesWithTheLightWhateverItReflects) {
  // light.product normalised by reflectance and camera.stops say the same on white, grey and near black.
  for (const double reflects : {0.06, 0.18, 0.85}) {
    const Json doc = can(reflects);
    EXPECT_NEAR(*level_of(doc, "light.product")->value, *level_of(doc, "camera.stops")->value, 0.12) << reflects;
  }
}

// Source: thin lens (Ray 2002), by hand.
TEST(NearestFocus, IsReckonedFromTheMakersMark) {
  // 0.3 m from the sensor's mark at 1:4: f 0.048 m, subject 0.24 m from the lens (Ray 2002).
  Json doc = can();
  doc["kit"]["lenses"][0]["close_focus_mark"] = 0.3;
  EXPECT_EQ(level_of(doc, "frame.close-focus")->state, State::unknown) << "its magnification is not said";
  doc["kit"]["lenses"][0]["greatest_magnification"] = 0.25;
  expect_level(doc, "frame.close-focus", 1.0 - 0.24, State::level, 1e-9);
}

// Own behaviour.
TEST(Feature, InTheDarkIsUnlitAndNotSoManyStopsUnder) {
  Json doc = can();
  doc["products"][0]["features"] = {{{"id", "dot"}, {"at", {0, 0.05, 0.04}}, {"detail", 0.001}}};
  doc["shots"][0]["needs"] = {{"features", {"can/dot"}}};
  doc["setups"][0]["lights"][0]["on"] = false;
  const auto level = level_of(doc, "frame.feature");
  EXPECT_EQ(level->state, State::out);
  EXPECT_NE(level->sentence.find("no light at all reaches it"), std::string::npos) << level->sentence;
  EXPECT_EQ(level->formula.find("stops"), std::string::npos) << level->formula;
}

// Own behaviour.
TEST(Levers, PutNoLampBeforeTheLens) {
  Json doc = can();
  doc["setups"][0]["lights"][0]["dimmer"] = 0.2;  // behind the camera: nearer it would stand in the picture
  const Document document = *Document::from_json(doc);
  for (const Lever& lever : Forecaster().levers(document, 0, "camera.stops").list)
    EXPECT_EQ(lever.title.find("Move key"), std::string::npos) << lever.title;
}

}  // namespace
}  // namespace cinnabar
