// Worked by hand by similar triangles and the thin lens (Ray 2002); bands: common practice, no source.
// The frame's shape, nearest focus, diffraction, blur behind and pulls, each against values worked by hand.
#include "cinnabar/forecast/measures/lens_reach.h"
#include "judging.h"

namespace cinnabar {
using namespace judging;
namespace {

/// The can before an evenly lit wall that fills the frame.
Json before_a_wall() {
  Json doc = can();
  doc["setups"][0]["backdrop"] = {
      {"kind", "flat"}, {"distance", 1.0}, {"width", 20.0},
      {"height", 20.0}, {"low", -10.0},    {"material", {{"kind", "matte"}, {"colour", {0.3, 0.3, 0.3}}}}};
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 800.0}};
  doc["setups"][0]["lights"] = Json::array();
  return doc;
}
void ask_for_words(Json& doc, const Json& area) {
  doc["deliverables"][0]["words"] = {{"area", area}, {"last_seconds", 1.0}};
}

// Source: similar triangles, by hand; bands common practice, no source.
TEST(CopySpace, IsFreeAndEvenBesideTheProduct) {
  Json doc = before_a_wall();
  EXPECT_FALSE(level_of(doc, "frame.copy-space")) << "nobody asks for words";
  ask_for_words(doc, {0.05, 0.1, 0.25, 0.8});
  expect_level(doc, "frame.copy-space", 0.0, State::level, 0.25);
}

// Source: similar triangles, by hand; bands common practice, no source.
TEST(CopySpace, IsOutWhereTheProductCoversTheWordsWhateverTheSpread) {
  Json doc = before_a_wall();
  ask_for_words(doc, {0.4, 0.3, 0.2, 0.4});
  const auto level = level_of(doc, "frame.copy-space");
  ASSERT_TRUE(level);
  EXPECT_EQ(level->state, State::out);
  EXPECT_NE(level->sentence.find("covers the words"), std::string::npos) << level->sentence;
}

// Source: similar triangles, by hand; bands common practice, no source.
TEST(CopySpace, MeasuresAStepOfToneByItsRatio) {
  // The wall in two sheets of 0.1 and 0.4: two stops from one half of the words' area to the other.
  Json doc = before_a_wall();
  doc["products"] = Json::array();
  doc["shots"][0]["products"] = Json::array();
  doc["setups"][0]["backdrop"]["material"]["colour"] = {0.1, 0.1, 0.1};
  doc["setups"][0]["cards"] = {{{"id", "pale"},
                                {"place", {-5.0, 0.05, -0.998}},
                                {"aim", {-5.0, 0.05, 5.0}},
                                {"width", 10.0},
                                {"height", 10.0},
                                {"material", {{"kind", "matte"}, {"colour", {0.4, 0.4, 0.4}}}}}};
  ask_for_words(doc, {0.2, 0.2, 0.6, 0.6});
  expect_level(doc, "frame.copy-space", 2.0, State::out, 0.25);
}

// Own behaviour: the words stand in the last second on screen, which is the first of the set played backward.
TEST(CopySpace, StandsAtTheBeginningOfWhatPlaysBackward) {
  Json doc = before_a_wall();
  ask_for_words(doc, {0.4, 0.3, 0.2, 0.4});
  doc["shots"][0]["tracks"] = Json::array({{{"target", "product.can.place"},
                                            {"profile", "linear"},
                                            {"keys", {{0, {0, 0, 0}}, {0.5, {0, 0, 0}}, {0.9, {1.5, 0, 0}}}}}});
  const auto covered = [&] {
    const auto level = level_of(doc, "frame.copy-space");
    return level && level->sentence.find("covers the words") != std::string::npos;
  };
  EXPECT_FALSE(covered()) << "it has gone by then";
  doc["shots"][0]["reversed"] = true;
  EXPECT_TRUE(covered());
}

// Source: similar triangles, by hand; bands common practice, no source.
TEST(CopySpace, CountsOnlyWhileTheWordsStand) {
  Json doc = before_a_wall();
  ask_for_words(doc, {0.05, 0.1, 0.25, 0.8});
  Json last = doc["shots"][0];
  last["id"] = "s2";
  doc["shots"].push_back(last);  // now the first shot ends two seconds before the spot does
  EXPECT_FALSE(level_of(doc, "frame.copy-space"));
}

// Source: similar triangles, by hand; bands common practice, no source.
TEST(Shapes, CountWhatIsNotWhollyInsideEachDeliverable) {
  // The can's near rim is 0.1 m / 0.96 m x 52.6 mm = 5.5 mm high on 20.25 mm: inside the wide frame.
  Json doc = can();
  expect_level(doc, "frame.shapes", 0, State::level, 0);
  // An upright frame of 9:16 is 11.4 mm wide; aimed 0.1 m aside the can's middle lies 5.3 mm off its middle.
  doc["deliverables"].push_back({{"id", "tall"}, {"name", "9:16"}, {"width", 1080}, {"height", 1920}});
  expect_level(doc, "frame.shapes", 0, State::level, 0);
  doc["shots"][0]["camera"]["place"] = {0.1, 0.05, 1.0};
  doc["shots"][0]["camera"]["aim"] = {0.1, 0.05, 0.0};
  expect_level(doc, "frame.shapes", 1, State::out, 0);
  doc["shots"][0]["camera"]["place"] = {0.4, 0.05, 1.0};
  doc["shots"][0]["camera"]["aim"] = {0.4, 0.05, 0.0};
  expect_level(doc, "frame.shapes", 2, State::out, 0);
}

// Source: similar triangles, by hand; bands common practice, no source.
TEST(Shapes, OfAMacroShotAskForTheLabelOnly) {
  Json doc = can();
  doc["shots"][0]["camera"]["place"] = {0, 0.05, 0.32};
  doc["shots"][0]["camera"]["focus"] = 0.28;
  expect_level(doc, "frame.shapes", 1, State::out, 0);
  doc["shots"][0]["size"] = "macro";
  expect_level(doc, "frame.shapes", 0, State::level, 0);
}

// Source: similar triangles, by hand; bands common practice, no source.
TEST(CropRoom, IsRecordedOverDeliveredPixels) {
  Json doc = can();
  expect_level(doc, "frame.crop-room", 2.0, State::level, 1e-9);  // 3840 / 1920
  doc["shots"][0]["crop_share"] = 0.6;                            // 3840 x 0.6 / 1920 = 1.2
  expect_level(doc, "frame.crop-room", 1.2, State::level, 1e-9);
  doc["shots"][0]["crop_share"] = 0.5;
  expect_level(doc, "frame.crop-room", 1.0, State::leaning, 1e-9);
  doc["shots"][0]["crop_share"] = 1.0;
  doc["shots"][0]["camera"]["mode"] = "m100";
  doc["shots"][0]["camera"]["shutter_time"] = 0.005;
  doc["deliverables"].push_back({{"id", "tall"}, {"name", "9:16"}, {"width", 1080}, {"height", 1920}});
  expect_level(doc, "frame.crop-room", 1080.0 * 9 / 16 / 1080, State::out, 1e-9);
  // A crop track counts shares of the recorded frame: three quarters of 3840 / 1920; half of it, and still more
  // than a tall frame is wide, takes nothing from that.
  Json cropped = can();
  cropped["shots"][0]["tracks"].push_back({{"target", "crop"}, {"keys", {{0, {0, 0, 1}}, {1, {0.1, 0.1, 0.75}}}}});
  expect_level(cropped, "frame.crop-room", 1.5, State::level, 1e-9);
  cropped["deliverables"][0] = {{"id", "tall"}, {"name", "9:16"}, {"width", 1080}, {"height", 1920}};
  cropped["shots"][0]["tracks"][0]["keys"][1][1][2] = 0.5;
  expect_level(cropped, "frame.crop-room", 2160.0 * 9 / 16 / 1080, State::level, 1e-9);
}

// Source: thin lens (Ray 2002), by hand.
TEST(CloseFocus, IsTheSpareBeyondTheLensesNearest) {
  Json doc = can();
  EXPECT_EQ(level_of(doc, "frame.close-focus")->state, State::unknown);
  doc["kit"]["lenses"][0]["close_focus"] = 0.45;
  expect_level(doc, "frame.close-focus", 0.55, State::level, 1e-9);
  doc["shots"][0]["tracks"] = Json::array({{{"target", "camera.focus"}, {"keys", {{0, 1.0}, {1, 0.4}}}}});
  expect_level(doc, "frame.close-focus", -0.05, State::out, 1e-6);
}

// Source: Airy disc, 2.44 lambda N (Born & Wolf), by hand.
TEST(Diffraction, IsTheAiryDiscInDeliveredPixels) {
  // 2.4393398 x N_effective x 550 nm over 36 mm / 1920 (first zero of J1, Born & Wolf).
  Json doc = can();
  const double pitch = 0.036 / 1920, m = 0.05 / 0.95;
  const auto pitches = [&](double n) { return 2.4393398 * n * (1 + m) * 550e-9 / pitch; };
  expect_level(doc, "focus.diffraction", pitches(5.6), State::level, 1e-6);
  doc["shots"][0]["camera"]["f_number"] = 22;
  expect_level(doc, "focus.diffraction", pitches(22), State::level, 1e-6);
  doc["deliverables"][0]["width"] = 2400;
  expect_level(doc, "focus.diffraction", pitches(22) * 2400 / 1920, State::leaning, 1e-6);
  doc["deliverables"][0]["width"] = 3840;
  expect_level(doc, "focus.diffraction", pitches(22) * 2, State::out, 1e-6);
}

// Source: thin lens, blur disc (Ray 2002), by hand.
TEST(BlurBehind, IsTheDiscOfTheBackdropOverTheFramesHeight) {
  // Ray 2002: (f / N) |d - s| / d x f / (s - f), wall at 2 m, focus 1 m.
  Json doc = before_a_wall();
  const auto percent = [](double n) { return 100 * (0.05 / n) * (1.0 / 2.0) * 0.05 / 0.95 / 0.02025; };
  expect_level(doc, "focus.hides-edge", percent(5.6), State::out, 1e-6);
  doc["shots"][0]["camera"]["f_number"] = 2.0;
  expect_level(doc, "focus.hides-edge", percent(2.0), State::level, 1e-6);
  doc["house_rules"] = {{"depth", "deep"}};
  EXPECT_FALSE(level_of(doc, "focus.hides-edge"));
}

// Source: thin lens, blur disc (Ray 2002), by hand.
TEST(BlurBehind, TakesTheEdgeInTheFrameBeforeTheBackdrop) {
  Json doc = before_a_wall();
  doc["setups"][0]["backdrop"] = {{"kind", "none"}};
  doc["setups"][0]["surface"] = {{"width", 4.0}, {"depth", 1.0}};
  doc["shots"][0]["camera"]["place"] = {0, 0.3, 0.95};
  doc["shots"][0]["camera"]["f_number"] = 2.0;
  const auto level = level_of(doc, "focus.hides-edge");
  ASSERT_TRUE(level);
  EXPECT_NE(level->sentence.find("the surface's edge"), std::string::npos) << level->sentence;
  // An edge so blurred need not stay out of the frame: that judgement's other half.
  Json hidden = before_a_wall();
  hidden["setups"][0]["backdrop"]["width"] = 0.6;
  hidden["shots"][0]["camera"]["f_number"] = 2.0;
  EXPECT_LT(*level_of(hidden, "frame.backdrop-edge")->value, 0.0);
  EXPECT_EQ(level_of(hidden, "frame.backdrop-edge")->state, State::level);
  hidden["shots"][0]["camera"]["f_number"] = 8.0;
  EXPECT_EQ(level_of(hidden, "frame.backdrop-edge")->state, State::out);
}

// Source: thin lens (Ray 2002), by hand.
TEST(Pull, BreathesByTheRatioOfTheFields) {
  // A lens moved whole, 100 mm from 0.5 m to 1 m: (1 + 0.25) / (1 + 0.1111) = 1.125.
  Json doc = can();
  doc["kit"]["lenses"].push_back({{"id", "macro"}, {"focal_low", 0.1}, {"focal_high", 0.1}});
  doc["shots"][0]["camera"]["lens"] = "macro";
  doc["shots"][0]["camera"]["focal"] = 0.1;
  const auto pull = [&](double from, double to, double seconds) {
    doc["shots"][0]["tracks"] = Json::array({{{"target", "camera.focus"}, {"keys", {{0, from}, {seconds, to}}}}});
  };
  pull(1.0, 0.5, 1.0);
  expect_level(doc, "focus.pull", 12.5, State::out, 1e-6);
  pull(1.0, 0.97, 1.0);
  expect_level(doc, "focus.pull", 100 * ((1 + 0.1 / 0.87) / (1 + 0.1 / 0.9) - 1), State::level, 1e-6);
  pull(1.0, 0.97, 0.1);  // no hand is that quick
  EXPECT_EQ(level_of(doc, "focus.pull")->state, State::out);
  doc["kit"]["lenses"][1]["close_focus"] = 0.98;
  pull(1.0, 0.97, 1.0);
  EXPECT_EQ(level_of(doc, "focus.pull")->state, State::out);
}

// Own behaviour.
TEST(Levers, OfFrameAndFocusComeHome) {
  Json doc = before_a_wall();
  ask_for_words(doc, {0.4, 0.3, 0.2, 0.4});
  expect_levers_hold(doc, "frame.copy-space", 1);
  doc["shots"][0]["crop_share"] = 0.4;
  expect_levers_hold(doc, "frame.crop-room", 1);
  expect_levers_hold(doc, "focus.hides-edge", 2);
  doc["kit"]["lenses"][0]["close_focus"] = 1.1;
  expect_levers_hold(doc, "frame.close-focus", 1);
  doc["shots"][0]["camera"]["f_number"] = 22;
  doc["deliverables"][0]["width"] = 3840;
  expect_levers_hold(doc, "focus.diffraction", 1);
  Json aside = can();
  aside["shots"][0]["camera"]["place"] = {0, 0.05, 0.3};
  aside["shots"][0]["camera"]["focus"] = 0.26;
  expect_levers_hold(aside, "frame.shapes", 1);
  aside["shots"][0]["tracks"] = Json::array({{{"target", "camera.focus"}, {"keys", {{0, 0.26}, {0.1, 0.27}}}}});
  expect_levers_hold(aside, "focus.pull", 1);
}

// Source: thin lens, image distance f s / (s - f), worked by hand: a wall 2 m wide, 2 m from the lens.
TEST(LensReaches, TellTheWidestFirstAndWhichEdgeItSees) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, worlds::matte(0.5, 0.5, 0.5));
  doc["setups"][0]["backdrop"] = {{"kind", "flat"}, {"distance", 1.0}, {"width", 2.0},
                                  {"height", 6.0},  {"low", -3.0},     {"material", worlds::matte(0.5, 0.5, 0.5)}};
  doc["kit"]["lenses"].push_back({{"id", "wide"}, {"name", "Wide"}, {"focal_low", 0.024}, {"focal_high", 0.07}});
  const Project project = worlds::read(doc);
  const double focus = project.shots[0]->camera->focus;
  const auto reaches = lens_reaches(project, *project.shots[0], 0.0);
  ASSERT_EQ(reaches.size(), 3u);
  const double focals[] = {0.024, 0.05, 0.07};
  for (std::size_t i = 0; i < 3; ++i) {
    EXPECT_NEAR(reaches[i].focal, focals[i], 1e-9);
    const double image = focals[i] * focus / (focus - focals[i]);
    EXPECT_NEAR(reaches[i].half_across, 0.018 / image, 1e-9);
    // The wall's edge lies a metre aside, two metres ahead.
    ASSERT_TRUE(reaches[i].edge);
    EXPECT_NEAR(reaches[i].spare, (0.5 * image - 0.018) / 0.036, 0.01) << focals[i];
    EXPECT_TRUE(reaches[i].of_backdrop);
    EXPECT_TRUE(reaches[i].side == PictureSide::left || reaches[i].side == PictureSide::right);
  }
  EXPECT_LT(reaches[0].spare, 0.0) << "the widest sees it";
  EXPECT_GT(reaches[1].spare, 0.0);
  EXPECT_TRUE(reaches[1].in_use);
  EXPECT_FALSE(reaches[0].in_use);
  EXPECT_EQ(reaches[0].name, "Wide");
  // Without backdrop and surface there is no edge; without a camera nothing to tell.
  doc["setups"][0]["backdrop"] = {{"kind", "none"}};
  doc["setups"][0].erase("surface");
  const Project open = worlds::read(doc);
  for (const LensReach& one : lens_reaches(open, *open.shots[0], 0.0)) EXPECT_FALSE(one.edge);
  doc["shots"][0].erase("camera");
  const Project blind = worlds::read(doc);
  EXPECT_TRUE(lens_reaches(blind, *blind.shots[0], 0.0).empty());
}

}  // namespace
}  // namespace cinnabar
