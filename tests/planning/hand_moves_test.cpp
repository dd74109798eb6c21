// Moves said for a hand: marks, pace and what a missed mark is, worked out by hand.
#include "cinnabar/planning/hand_moves.h"

#include <cmath>

#include "cinnabar/scene/view.h"
#include "worlds.h"

namespace cinnabar {
namespace {

using worlds::moving;
Json with_can(std::vector<Json> tracks, double screen_time = 4.0) {
  Json d = worlds::with_tracks(std::move(tracks), screen_time);
  worlds::add_cylinder(d, worlds::matte(0.5, 0.5, 0.5));
  return d;
}

// Source: Flash & Hogan 1985: a minimum-jerk move is 10 u3 - 15 u4 + 6 u5, fastest in the middle at 1.875 d / T.
// 120 mm in 3 s from 0.5 s: a mark each half second at u = 1/6 ...: 4.26, 25.19, 60, 94.81, 115.74 mm.
TEST(HandMoves, PutTapeWhereTheProfileComesBy) {
  const Project p = worlds::read(with_can({moving("camera.slide", "minimum-jerk", {{0.5, 0.1}, {3.5, 0.22}})}));
  const auto moves = hand_moves(p, *p.shots[0]);
  ASSERT_EQ(moves.size(), 1u);
  const HandMove& m = moves[0];
  EXPECT_EQ(m.what, "Camera on its slide");
  EXPECT_DOUBLE_EQ(m.apart, 0.5);
  ASSERT_EQ(m.marks.size(), 7u);
  const double expected[] = {0, 4.2593, 25.1852, 60, 94.8148, 115.7407, 120};
  for (std::size_t k = 0; k < 7; ++k) {
    const double u = static_cast<double>(k) / 6;
    EXPECT_NEAR(expected[k], 120 * (10 * std::pow(u, 3) - 15 * std::pow(u, 4) + 6 * std::pow(u, 5)), 1e-3);
    EXPECT_NEAR(1e3 * m.marks[k].at, expected[k], 0.01) << k;
    EXPECT_NEAR(m.marks[k].set_time, 0.5 + 0.5 * static_cast<double>(k), 1e-9);
  }
  EXPECT_NEAR(m.fastest, 1.875 * 0.12 / 3, 1e-5);
  EXPECT_NEAR(m.fastest_at, 2.0, 0.01);
  // The thin lens: v = f s / (s - f) = 52.63 mm for 50 mm at 1 m; the axis of the can is 1 m away; 36 mm over
  // 3840.
  EXPECT_NEAR(*m.off, 1e-3 * 0.05 * 1.0 / 0.95 / 1.0 / (0.036 / 3840), 0.01);
  EXPECT_NE(marks_text(m).find("25, 60, 95, 116, 120 mm"), std::string::npos) << marks_text(m);
  EXPECT_NE(pace_text(m).find("40 mm a second as an even pace, 75 mm"), std::string::npos) << pace_text(m);
}

// Own behaviour, worked by hand: angles, dimmers, distances that are set, ways along three axes, what stands or
// waits.
TEST(HandMoves, SayWhatEachThingIsMeasuredBy) {
  Json d = with_can(
      {moving("turntable", "linear", {{0, 30}, {1, 30}, {3, 210}, {4, 210}}),
       moving("camera.focus", "linear", {{0, 1.0}, {4, 0.8}}), moving("camera.tilt", "linear", {{0, 2}, {4, 2}}),
       moving("product.can.place", "linear", {{0, {0, 0, 0}}, {2, {0.03, 0, 0.04}}, {4, {0.03, 0, 0}}}),
       moving("crop", "linear", {{0, {0, 0, 1}}, {4, {0.1, 0.1, 0.5}}}),
       moving("light.lamp.dimmer", "linear", {{0, 0.2}, {20, 1.0}})});
  d["setups"][0]["lights"] = Json::array({worlds::rectangle("lamp", {0, 1, 1}, {0, 0, 0}, 0.2, 0.2, 1000)});
  const Project p = worlds::read(d);
  const auto moves = hand_moves(p, *p.shots[0]);
  ASSERT_EQ(moves.size(), 4u) << "nothing of the crop and of what stands still";
  EXPECT_EQ(moves[0].what, "Turntable");
  EXPECT_NEAR(moves[0].marks.front().set_time, 1.0, 1e-9);
  EXPECT_NEAR(moves[0].marks.back().set_time, 3.0, 1e-9);
  EXPECT_NEAR(moves[0].travel(), 180, 1e-9);
  EXPECT_NEAR(moves[0].fastest, 90, 1e-6);
  // Half a turn off a 12 mm bolt: pi x 6 mm = 18.8 mm in 2 s.
  ASSERT_EQ(means_texts(moves[0]).size(), 1u) << "half a turn is not worth a drill";
  EXPECT_NE(means_texts(moves[0])[0].find("pull 18.8 mm, 9.42 a second"), std::string::npos);
  EXPECT_EQ(marks_text(moves[1]), "1000, 950, 900, 850, 800 mm");
  EXPECT_FALSE(moves[1].off);
  // The thin lens: 50 mm focused at 1 m stands 52.63 mm before the sensor, at 0.8 m 53.33 mm.
  EXPECT_NE(care_text(moves[1]).find("1053, 1003, 953, 903, 853 mm"), std::string::npos) << care_text(moves[1]);
  EXPECT_EQ(moves[2].what, "Can moved");
  EXPECT_NEAR(moves[2].travel(), 0.09, 1e-9) << "50 mm there, 40 mm on";
  EXPECT_EQ(moves[3].marks.size(), 5u) << "what goes on after the shot ends with it";
  EXPECT_NEAR(moves[3].marks.back().at, 0.2 + 0.8 * 4 / 20, 1e-9);
  EXPECT_NE(marks_text(moves[3]).find(", 36.0 %"), std::string::npos) << marks_text(moves[3]);
}

// Sources: minimum jerk (Flash & Hogan 1985) gains 5.7735 d / T^2; friction on the level; 720 degrees in 4 s are
// 30 turns a minute. Friction 0.3: common practice, no source.
TEST(HandMoves, KnowWhatElseAHandCanDoItBy) {
  Json d = with_can({moving("turntable", "linear", {{0, 0}, {4, 720}}),
                     moving("product.can.place", "minimum-jerk", {{0, {0, 0, 0}}, {2, {0.03, 0, 0.04}}})});
  d["products"][0]["mass"] = 0.5;
  const auto moves_of = [](const Json& doc) {
    const Project p = worlds::read(doc);
    return hand_moves(p, *p.shots[0]);
  };
  const auto said_of = [](const HandMove& move) {
    std::string all;
    for (const std::string& way : means_texts(move)) all += way + "\n";
    return all;
  };
  auto moves = moves_of(d);
  ASSERT_EQ(moves.size(), 2u);
  EXPECT_NE(said_of(moves[0]).find("30 turns a minute, 50 recorded frames each"), std::string::npos)
      << said_of(moves[0]);
  EXPECT_NEAR(moves[1].gains, 5.7735 * 0.05 / 4, 1e-5);
  EXPECT_NE(said_of(moves[1]).find("hold 1.5 N sideways"), std::string::npos) << said_of(moves[1]);
  EXPECT_NEAR(0.5 * (0.3 * standard_gravity + moves[1].gains), 1.507, 1e-3);
  EXPECT_NE(said_of(moves[1]).find("rides along"), std::string::npos);
  // In an eighth of the time it would slip; lifted it goes by neither, and there and back by no string.
  d["shots"][0]["tracks"][1]["keys"] = {{0, {0, 0, 0}}, {0.25, {0.03, 0, 0.04}}};
  EXPECT_NE(said_of(moves_of(d)[1]).find("slip from under"), std::string::npos);
  d["shots"][0]["tracks"][1]["keys"] = {{0, {0, 0, 0}}, {2, {0.03, 0.1, 0.04}}};
  EXPECT_TRUE(means_texts(moves_of(d)[1]).empty());
  d["shots"][0]["tracks"][0]["keys"] = {{0, 0}, {2, 720}, {4, 0}};
  EXPECT_TRUE(means_texts(moves_of(d)[0]).empty());
}

// Source: the normal distribution: 20 ms of 60 ms is 0.261117 of a hand's tries, 40 ms 0.495.
TEST(HandMoves, AreGoodInSoManyTakes) {
  const auto takes = [](double speed) {
    Json d = with_can({moving("camera.slide", "linear", {{0, 0.0}, {1, 0.1}})});
    d["shots"][0]["play"] = {{0.0, speed}};
    const Project p = worlds::read(d);
    return takes_for_one(hand_moves(p, *p.shots[0]).front());
  };
  EXPECT_NEAR(*takes(1.0), 1 / 0.4950, 1e-3);
  EXPECT_NEAR(*takes(0.5), 3.8297, 1e-4) << "slow motion shows more of a hand";
  EXPECT_FALSE(takes(1e-3)) << "nobody is that exact";
}

// Own behaviour, worked by hand: doors and a card that turns are marked like the rest.
TEST(HandMoves, CountDoorsAndCardsThatTurn) {
  Json d = with_can({moving("light.lamp.doors", "linear", {{0, 0}, {2, 90}}),
                     moving("card.flag.turn", "linear", {{0, 0}, {2, -45}})});
  d["setups"][0]["lights"] = Json::array({worlds::rectangle("lamp", {0, 1, 1}, {0, 0, 0}, 0.2, 0.2, 1000)});
  d["setups"][0]["lights"][0]["doors"] = {{"length", 0.2}};
  d["setups"][0]["cards"] = Json::array({worlds::card("flag", {0.3, 0.2, 0}, {0, 0.2, 0}, 0.2, 0.3)});
  const Project p = worlds::read(d);
  const auto moves = hand_moves(p, *p.shots[0]);
  ASSERT_EQ(moves.size(), 2u);
  EXPECT_NE(marks_text(moves[0]).find("90.0°"), std::string::npos) << marks_text(moves[0]);
  EXPECT_NE(marks_text(moves[1]).find("-45.0°"), std::string::npos) << marks_text(moves[1]);
}

// Own behaviour: however long or short, nobody is asked for more marks than can be counted.
TEST(HandMoves, AskForNoMoreMarksThanCanBeCounted) {
  for (const double seconds : {0.05, 0.9, 1.6, 7.0, 25.0, 59.0, 290.0}) {
    const Project p = worlds::read(with_can({moving("camera.pan", "s-curve", {{0, 0}, {seconds, 20}})}, seconds));
    const auto moves = hand_moves(p, *p.shots[0]);
    ASSERT_EQ(moves.size(), 1u) << seconds;
    EXPECT_LE(moves[0].marks.size(), 13u) << seconds;
    EXPECT_GE(moves[0].marks.size(), 2u) << seconds;
    EXPECT_NEAR(moves[0].marks.back().at, 20, 1e-6);
    EXPECT_GT(*moves[0].off, 50) << "a degree of a pan";
  }
  Json none = with_can({});
  none["shots"][0].erase("camera");
  const Project p = worlds::read(none);
  EXPECT_TRUE(hand_moves(p, *p.shots[0]).empty());
}

// Source: the thin lens: from 0.9 m above, looking straight down, the can's middle is 0.85 m away. Ramped and
// played backward the marks are what the set has; a camera on its side, a product elsewhere; a product that no
// hand could see.
TEST(HandMoves, HoldLookingDownOnTheSideOffTheOriginAndRamped) {
  Json d = with_can({moving("camera.slide", "linear", {{0, 0.0}, {2, 0.1}})});
  d["shots"][0]["camera"]["place"] = {0.001, 0.9, 0}, d["shots"][0]["camera"]["aim"] = {0.001, 0.0, 0};
  d["shots"][0]["camera"]["focus"] = 0.85;
  const auto px = [](const Json& doc) {
    const Project p = worlds::read(doc);
    return *hand_moves(p, *p.shots[0]).front().off;
  };
  const double image = 0.05 * 0.85 / 0.80;
  EXPECT_NEAR(px(d), 1e-3 * image / 0.85 / (0.036 / 3840), 0.01);
  d["shots"][0]["reversed"] = true, d["shots"][0]["play"] = {{0.0, 1.0}, {0.5, 0.5}, {1.0, 1.0}};
  const Project ramped = worlds::read(d);
  EXPECT_NEAR(hand_moves(ramped, *ramped.shots[0]).front().marks.back().set_time, 2.0, 1e-9);
  Json away = with_can({moving("turntable", "linear", {{0, 0}, {2, 90}})});
  away["shots"][0]["products"][0]["place"] = {0.3, 0, -0.5}, away["shots"][0]["camera"]["roll_deg"] = 90;
  away["deliverables"] = {{{"id", "tall"}, {"name", "9:16"}, {"width", 1080}, {"height", 1920}}};
  const Project p = worlds::read(away);
  // Turned a quarter about the origin the can stands at (-0.5, -0.3) or (0.5, 0.3) to the camera's axis.
  const double depth = 1.0 - product_at(p, *p.shots[0], p.shots[0]->products[0], 2.0).place.z;
  EXPECT_NEAR(px(away), 0.04 * radians(1.0) * 0.05 / 0.95 / (depth - 0.04) / (0.036 / 3840), 0.01);
  away["shots"][0]["products"][0]["place"] = {0, 0, 5};
  away["shots"][0]["tracks"][0]["keys"] = {{0, 0}, {2, 0.5}};
  const Project behind = worlds::read(away);
  EXPECT_FALSE(hand_moves(behind, *behind.shots[0]).front().off) << "behind the camera";
}

}  // namespace
}  // namespace cinnabar
