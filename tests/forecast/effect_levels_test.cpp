// Levels of practical effects, against values worked by hand, with a camera that looks down, ramped time, no
// set-up's things and vessels off the origin; and levers that keep their word.
#include <algorithm>
#include <cmath>
#include <thread>

#include "cinnabar/base/vec.h"
#include "cinnabar/effects/pours.h"
#include "cinnabar/forecast/hazards.h"
#include "judging.h"

namespace cinnabar {
using namespace judging;
namespace {

/// A ball let fall in front of the camera, from 0.3 m over the ground, and nothing else.
Json falling(double at = 0.5) {
  Json doc = worlds::bare();
  doc["shots"][0]["effects"] = Json::array({{{"id", "t"},
                                             {"name", "Berry"},
                                             {"kind", "throw"},
                                             {"at", at},
                                             {"place", {0, 0.31, 0}},
                                             {"speed", 0.0},
                                             {"angle_deg", 0},
                                             {"diameter", 0.02},
                                             {"restitution", 0.0},
                                             {"needs", {{"event", "lands"}, {"screen", 0.8}}}}});
  return doc;
}
const double falls = std::sqrt(2 * 0.3 / standard_gravity);

// Source: free fall, h = g t^2 / 2; at 25 frames a second.
TEST(EffectTiming, CountsFramesOfTheTimeline) {
  expect_level(falling(), "effect.timing", (0.5 + falls - 0.8) * 25, State::out, 1e-6);
  expect_level(falling(0.8 - falls), "effect.timing", 0.0, State::level, 1e-6);
  Json late = falling(0.8 - falls + 0.04);
  expect_level(late, "effect.timing", 1.0, State::leaning, 1e-6);
  EXPECT_NE(level_of(late, "effect.timing")->sentence.find("Berry"), std::string::npos);
  // By the normal distribution: 60 ms of a hand are 1.5 frames; erf(1 / (1.5 sqrt 2)) = 0.495 lie within one.
  Json drop = worlds::bare();
  drop["shots"][0]["effects"] = Json::array({{{"id", "d"},
                                              {"kind", "drop"},
                                              {"at", 0.5},
                                              {"place", {0, 0.302, 0}},
                                              {"diameter", 0.004},
                                              {"needs", {{"event", "contact"}, {"screen", 0.8}}}}});
  const std::string told = level_of(drop, "effect.timing")->sentence;
  EXPECT_NE(told.find("one in 2.0 on the frame"), std::string::npos) << told;
  // A quarter of the speed: the same fall takes four times as long on screen.
  Json slow = falling();
  slow["shots"][0]["play"] = {{0.0, 0.25}}, slow["shots"][0]["camera"]["mode"] = "m100";
  expect_level(slow, "effect.timing", (4 * (0.5 + falls) - 0.8) * 25, State::out, 1e-6);
  // Played backward: recorded t shows at 2 - t.
  Json back = falling();
  back["shots"][0]["reversed"] = true;
  expect_level(back, "effect.timing", (2.0 - 0.5 - falls - 0.8) * 25, State::out, 1e-6);
  // On the third beat of the spot at 100 a minute.
  Json beat = falling();
  beat["project"]["beats_per_minute"] = 100;
  beat["shots"][0]["effects"][0]["needs"] = {{"event", "lands"}, {"beat", 2}};
  expect_level(beat, "effect.timing", (0.5 + falls - 1.2) * 25, State::out, 1e-6);
  beat["shots"][0]["effects"][0]["needs"] = {{"event", "full"}, {"beat", 2}};
  EXPECT_EQ(level_of(beat, "effect.timing")->state, State::unknown) << "it has no such moment";
  beat["shots"][0]["effects"][0].erase("needs");
  EXPECT_FALSE(level_of(beat, "effect.timing")) << "nothing is timed";
}

// Source: free fall and similar triangles; the path of the last exposure before it leaves the frame.
TEST(EffectSpeed, IsThePathOverOneExposure) {
  const auto level = level_of(falling(), "effect.speed");
  ASSERT_TRUE(level && level->value);
  // Seen from 1 m: magnification 0.05 / 0.95; its own size there, a fifth allowed.
  const double magnification = 0.05 / 0.95, pitch = 0.036 / 3840, size = 0.02 * magnification / pitch;
  EXPECT_NEAR(*level->band.high, size / 5, 0.02 * size);
  // Frames begin every 0.04 s; the fastest lies within a frame of the landing.
  const double t0 = std::floor((0.5 + falls) * 25) / 25 - 0.5;
  double longest = 0;
  for (const double t : {t0 - 0.04, t0}) {
    const double from = standard_gravity * t * t / 2, shut = std::min(t + 0.02, falls),
                 to = standard_gravity * shut * shut / 2;
    longest = std::max(longest, (to - from) * magnification / pitch);
  }
  EXPECT_NEAR(*level->value, longest, 0.02 * longest) << level->formula;
  EXPECT_EQ(level->state, State::out);
  Json crisp = falling();
  crisp["house_rules"] = {{"shutter", "crisp"}};
  EXPECT_NEAR(*level_of(crisp, "effect.speed")->band.high, size / 20, 0.005 * size);
  // Out of the frame nothing is told; from above it comes toward the lens and smears little.
  Json aside = falling();
  aside["shots"][0]["effects"][0]["place"] = {5, 0.31, 0};
  EXPECT_FALSE(level_of(aside, "effect.speed"));
  // A camera on its side sees the same path, and farther up and down.
  Json tall = falling();
  tall["shots"][0]["camera"]["roll_deg"] = 90;
  EXPECT_NEAR(*level_of(tall, "effect.speed")->value, longest, 0.02 * longest);
  tall["shots"][0]["camera"]["place"] = {0, 0.05, 0.5}, tall["shots"][0]["camera"]["focus"] = 0.5;
  Json wide = tall;
  wide["shots"][0]["camera"]["roll_deg"] = 0;
  wide["shots"][0]["effects"][0]["place"] = tall["shots"][0]["effects"][0]["place"] = {0, 0.31, 0};
  EXPECT_TRUE(level_of(tall, "effect.speed") && level_of(wide, "effect.speed"));
  Json down = falling();
  down["shots"][0]["camera"]["place"] = {0, 1.5, 0.0}, down["shots"][0]["camera"]["aim"] = {0, 0, 0};
  EXPECT_LT(*level_of(down, "effect.speed")->value, 0.05 * longest);
}

Json tumbler() {
  Json doc = worlds::bare();
  doc["products"].push_back({{"id", "glass"},
                             {"mass", 0.3},
                             {"parts",
                              {{{"id", "body"},
                                {"profile", {{0.0, 0.0}, {0.04, 0.0}, {0.04, 0.12}}},
                                {"wall", 0.002},
                                {"material", {{"kind", "glass"}, {"ior", 1.52}}}}}}});
  doc["shots"][0]["products"].push_back({{"product", "glass"}, {"place", {-0.2, 0, 0.1}}, {"turn_deg", 0}});
  doc["shots"][0]["effects"] = Json::array({{{"id", "p"},
                                             {"kind", "pour"},
                                             {"at", 0.1},
                                             {"place", {-0.27, 0.25, 0.1}},
                                             {"liquid", "water"},
                                             {"bearing_deg", 90},
                                             {"volume", 5e-5}}});
  return doc;
}

// Source: a cylinder's volume, in millilitres.
TEST(EffectVolume, IsTheRoomThatIsLeft) {
  const double room = pi * 0.038 * 0.038 * (0.12 - 0.002) * 1e6;
  expect_level(tumbler(), "effect.volume", room - 50, State::level, 1e-3);
  Json full = tumbler();
  full["shots"][0]["effects"][0]["volume"] = 6e-4;
  expect_level(full, "effect.volume", room - 600, State::out, 1e-3);
  expect_levers_hold(full, "effect.volume", 1);
  // What is usual counts where nothing is given, and can be poured less of as well.
  Json small = tumbler();
  small["products"][0]["parts"][0]["profile"] = {{0.0, 0.0}, {0.04, 0.0}, {0.04, 0.008}};
  small["shots"][0]["effects"][0]["place"] = {-0.27, 0.138, 0.1};
  small["shots"][0]["effects"][0].erase("volume");
  const auto usual = level_of(small, "effect.volume");
  ASSERT_TRUE(usual && usual->value) << "it lands in it";
  EXPECT_NEAR(*usual->value, pi * 0.038 * 0.038 * 0.006 * 1e6 - 50, 1e-3);
  expect_levers_hold(small, "effect.volume", 1);
  Json little = tumbler();
  little["shots"][0]["takes_planned"] = 4, little["shots"][0]["effects"][0]["supply"] = 1.5e-4;
  expect_level(little, "effect.volume", 150 - 4 * 50, State::out, 1e-6);
}

// Source: closed form of the cylinder's ungula (`tilt_hold`): a glass that leans on a track holds so much, whether
// anything is done with it or not; on its side it holds nothing.
TEST(EffectVolume, IsWhatAGlassHoldsAsItLeans) {
  Json doc = tumbler();
  doc["shots"][0].erase("effects");
  doc["products"][0]["parts"].push_back({{"id", "drink"},
                                         {"profile", {{0.0, 0.002}, {0.038, 0.002}, {0.038, 0.09}, {0.0, 0.09}}},
                                         {"material", {{"kind", "liquid"}, {"ior", 1.333}}}});
  EXPECT_FALSE(level_of(doc, "effect.volume")) << "it stands";
  const std::string id = doc["products"][0]["id"];
  const auto leaning = [&](double deg) {
    Json leant = doc;
    leant["shots"][0]["tracks"] =
        Json::array({worlds::moving(("product." + id + ".tilt").c_str(), "linear", {{0, 0}, {0.5, deg}, {1, 0}})});
    return leant;
  };
  const double full = pi * 0.038 * 0.038 * 0.088;
  for (const double deg : {15.0, 55.0, -55.0, -20.0}) {
    const auto held = tilt_hold({0.038, 0.118, 0.088, std::abs(deg)});
    ASSERT_TRUE(held);
    const double spare = (held->held_volume - full) * 1e6;
    expect_level(leaning(deg), "effect.volume", spare, spare < 0 ? State::out : State::level, 0.02);
  }
  for (const double over : {170.0, 340.0})
    expect_level(leaning(over), "effect.volume", -full * 1e6, State::out, 0.01);
  expect_levers_hold(leaning(55.0), "effect.volume", 1);
  const Project spilt = worlds::read(leaning(55.0));
  const auto perils = hazards_of(spilt, *spilt.shots[0]).effects;
  EXPECT_EQ(std::count(perils.begin(), perils.end(), Peril::wet_floor), 1);
  const Project dry = worlds::read(leaning(15.0));
  EXPECT_TRUE(hazards_of(dry, *dry.shots[0]).effects.empty());
}

// Source: Hu & Larson 2002 (value from memory): a drop of 1 mm at 60 degrees lives 936.755 s.
TEST(EffectLasts, IsTheLifeLessTheRestOfTheTake) {
  Json doc = worlds::bare();
  doc["shots"][0]["effects"] = Json::array({{{"id", "m"}, {"kind", "mist"}, {"at", 0.5}, {"place", {0, 0.1, 0}}}});
  expect_level(doc, "effect.lasts", 936.755 - 1.5, State::level, 1e-2);
  doc["shots"][0]["effects"][0]["contact_radius"] = 3e-5;  // a fine mist is gone in a second
  expect_level(doc, "effect.lasts", 936.755 * 9e-4 - 1.5, State::out, 1e-3);
  const Document document = *Document::from_json(doc);
  EXPECT_GE(Forecaster().levers(document, 0, "effect.lasts").list.size(), 0u);
}

// Only own behaviour is held here.
TEST(EffectPlates, AreListedAndTheCameraStandsStill) {
  Json doc = worlds::bare();
  doc["shots"][0]["effects"] = Json::array({{{"id", "b"}, {"kind", "burst"}, {"place", {0, 0.1, 0}}}});
  expect_level(doc, "effect.plates", 3, State::out, 0);
  expect_levers_hold(doc, "effect.plates", 1);
  doc["shots"][0]["plates"] = {"clean", "box opening", "contents"};
  expect_level(doc, "effect.plates", 0, State::level, 0);
  doc["shots"][0]["tracks"] = Json::array({{{"target", "camera.pan"}, {"keys", {{0.0, 0.0}, {2.0, 5.0}}}}});
  expect_level(doc, "effect.plates", 1, State::out, 0);
  Json real = falling();
  EXPECT_FALSE(level_of(real, "effect.plates")) << "done for real";
  real["house_rules"] = {{"effects", "plates"}};
  expect_level(real, "effect.plates", 2, State::out, 0);
}

// Only own behaviour is held here.
TEST(EffectCaution, CountsWhatIsNotRead) {
  Json doc = tumbler();
  expect_level(doc, "effect.caution", 1, State::out, 0);
  doc["shots"][0]["effects"][0]["read"] = true;
  expect_level(doc, "effect.caution", 0, State::level, 0);
  EXPECT_TRUE(Forecaster().levers(*Document::from_json(doc), 0, "effect.caution").list.empty())
      << "nobody reads for another";
  doc["shots"][0]["effects"].push_back({{"id", "f"}, {"kind", "flame"}, {"place", {0, 0.1, 0}}, {"read", true}});
  expect_level(doc, "effect.caution", 1, State::out, 0);
  EXPECT_FALSE(level_of(doc, "effect.timing"));
}

// Only own behaviour is held here: what is let go sooner comes in time; what cannot be worked out says why.
TEST(EffectLevers, BringItInTime) {
  expect_levers_hold(falling(), "effect.timing", 1);
  Json ramped = falling();
  ramped["shots"][0]["play"] = {{0.0, 1.0}, {0.4, 1.0}, {0.6, 0.5}}, ramped["shots"][0]["camera"]["mode"] = "m100";
  expect_levers_hold(ramped, "effect.timing", 1);
  Json backward = falling();
  backward["shots"][0]["reversed"] = true;
  expect_levers_hold(backward, "effect.timing", 1);
  Json under = falling();
  under["shots"][0]["effects"][0]["place"] = {0, -0.5, 0};
  const auto level = level_of(under, "effect.timing");
  ASSERT_TRUE(level);
  EXPECT_EQ(level->state, State::unknown);
  EXPECT_NE(level->sentence.find("under what it lands on"), std::string::npos) << level->sentence;
}

// Only own behaviour is held here: resets and hands of a shot count those of its effects.
TEST(EffectsOfAShot, AddToItsResetHandsAndUses) {
  Json doc = falling();
  doc["shots"][0]["reset_minutes"] = 2, doc["shots"][0]["effects"][0]["reset_minutes"] = 3;
  doc["shots"][0]["effects"][0]["hands"] = 3;
  const Project project = worlds::read(doc);
  EXPECT_DOUBLE_EQ(project.shots[0]->reset_minutes, 5.0);
  EXPECT_DOUBLE_EQ(project.shots[0]->own_reset_minutes, 2.0);
  EXPECT_EQ(project.shots[0]->hands, 3);
}

// Only own behaviour is held here: levels are told on all cores at once and share what comes of the effects.
TEST(EffectLevels, AreToldByManyThreadsAtOnce) {
  Json doc = falling();
  doc["shots"][0]["effects"] = Json::array({{{"id", "p"},
                                             {"kind", "pieces"},
                                             {"at", 0.1},
                                             {"place", {0, 0.5, 0}},
                                             {"pieces", 400},
                                             {"terminal_speed", 6}}});
  const Project project = worlds::read(doc);
  MeasureCache cache;
  for (int again = 0; again < 20; ++again) {
    const ShotContext context(project, 0, cache, quick_measure, nullptr);
    std::vector<const ToldEffects*> told(8);
    std::vector<std::thread> threads;
    for (auto& one : told) threads.emplace_back([&context, &one] { one = &context.effects(); });
    for (std::thread& thread : threads) thread.join();
    for (const auto* one : told) {
      ASSERT_EQ(one, told.front());
      ASSERT_EQ(one->size(), 1u);
      EXPECT_EQ(one->front().outcome->bodies.size(), told.front()->front().outcome->bodies.size());
    }
  }
}

}  // namespace
}  // namespace cinnabar
