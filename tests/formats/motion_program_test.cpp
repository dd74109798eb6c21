// Motion programs read back by a reader of their own and replayed against the tracks; settings cards by what they
// say.
#include "cinnabar/formats/motion_program.h"

#include <cmath>
#include <map>
#include <sstream>

#include "cinnabar/base/text.h"
#include "cinnabar/formats/settings_cards.h"
#include "cinnabar/scene/view.h"
#include "worlds.h"

namespace cinnabar {
namespace {

/// What a controller makes of a program: when it is where, counted from the dwell on.
struct Replay {
  std::vector<std::pair<double, std::map<char, double>>> stops;
  std::map<char, double> start;
  double begins = 0;  ///< of the shot
  bool ended = false;
  [[nodiscard]] double at(char axis, double t) const {
    for (std::size_t i = 1; i < stops.size(); ++i)
      if (t <= stops[i].first) {
        const auto& [t0, a] = stops[i - 1];
        const auto& [t1, b] = stops[i];
        return a.at(axis) + (b.at(axis) - a.at(axis)) * (t - t0) / (t1 - t0);
      }
    return stops.back().second.at(axis);
  }
};
/// Reads words of a letter and a number, brackets as comments: units and distances as they are set, feeds by G93
/// as one over minutes. What it does not know fails the test.
Replay replayed(const std::string& program) {
  Replay out;
  bool inverse = false, absolute = false, millimetres = false, dwelt = false;
  std::map<char, double> now;
  double clock = 0;
  std::istringstream lines(program);
  for (std::string line; std::getline(lines, line);) {
    if (line.starts_with("(")) {
      EXPECT_TRUE(line.ends_with(")")) << line;
      EXPECT_EQ(line.find('(', 1), std::string::npos) << line;
      if (line == "(the shot begins)") out.begins = clock;
      continue;
    }
    std::istringstream words(line);
    double feed = 0;
    bool moves = false;
    for (char letter; words >> letter;) {
      double number = 0;
      EXPECT_TRUE(words >> number) << line;
      if (letter == 'G' && number == 93) inverse = true;
      if (letter == 'G' && number == 94) inverse = false;
      if (letter == 'G' && number == 90) absolute = true;
      if (letter == 'G' && number == 21) millimetres = true;
      if (letter == 'G' && number == 4) dwelt = true;
      if (letter == 'G' && number == 1) moves = true;
      if (letter == 'F') feed = number;
      if (letter == 'M') out.ended = number == 2;
      if (std::string("XYZABC").find(letter) != std::string::npos) now[letter] = number;
      EXPECT_NE(std::string("GFMPXYZABC").find(letter), std::string::npos) << line;
    }
    if (!moves) continue;
    EXPECT_TRUE(absolute && millimetres);
    EXPECT_GT(feed, 0) << "every piece of inverse time has its own: " << line;
    if (!inverse) {
      EXPECT_FALSE(dwelt) << "only the way to the start is not timed";
      out.start = now;
      out.stops.emplace_back(0.0, now);
      continue;
    }
    clock += 60.0 / feed;
    out.stops.emplace_back(clock, now);
  }
  return out;
}

using worlds::moving;

// Source: RS-274/NGC, Kramer, Proctor & Messina 2000, NISTIR 6556: G93, one over the minutes of each piece.
TEST(MotionPrograms, ReplayTheTracksWithinAStep) {
  const Project p =
      worlds::read(worlds::with_tracks({moving("camera.slide", "minimum-jerk", {{0.2, 0.0}, {1.7, 0.12}}),
                                        moving("camera.pan", "s-curve", {{0.0, 0.0}, {2.0, -7.5}}),
                                        moving("camera.tilt", "trapezoid-1-3", {{0.5, 1.0}, {1.5, 3.0}}),
                                        moving("turntable", "minimum-jerk", {{0.0, 10.0}, {2.0, 130.0}})}));
  const auto program = motion_program(p, 0);
  ASSERT_TRUE(program) << program.error().text();
  const Replay replay = replayed(*program);
  EXPECT_TRUE(replay.ended);
  EXPECT_EQ(replay.begins, 0.0) << "from rest it needs no run-up";
  EXPECT_NEAR(replay.stops.back().first, 2.0, 1e-4);
  const Shot& shot = *p.shots[0];
  for (int k = 0; k <= 997; ++k) {
    const double t = 2.0 * k / 997;
    EXPECT_NEAR(replay.at('X', t), 1e3 * shot.track("camera.slide")->at(t), 0.03) << t;  // mm
    for (const auto& [letter, target] : {std::pair{'B', "camera.pan"}, {'A', "camera.tilt"}, {'C', "turntable"}})
      EXPECT_NEAR(replay.at(letter, t), shot.track(target)->at(t), 0.004) << target << t;
  }
}

// Own behaviour, worked by hand: 60 mm/s from the first frame on: a second before it stands 30 mm short.
TEST(MotionPrograms, RunUpToWhatBeginsAtSpeed) {
  const Project p = worlds::read(worlds::with_tracks({moving("camera.slide", "linear", {{0, 0.0}, {2, 0.12}})}));
  const auto program = motion_program(p, 0);
  ASSERT_TRUE(program);
  const Replay replay = replayed(*program);
  EXPECT_NEAR(replay.begins, 1.0, 1e-4);
  EXPECT_NEAR(replay.start.at('X'), -30.0, 0.01);
  EXPECT_NEAR(replay.at('X', 0.5), -22.5, 0.03);  // an eighth of v t^2 / 2 ... by hand: -30 + 60 x 0.25 / 2
  EXPECT_NEAR(replay.at('X', 1.0), 0.0, 0.01);
  EXPECT_NEAR(replay.at('X', 2.0), 60.0, 0.01);
  EXPECT_NEAR(replay.stops.back().first, 4.0, 1e-3);
  EXPECT_NEAR(replay.stops.back().second.at('X'), 150.0, 0.01);
}

// Own behaviour: a camera that travels in all three directions, told from where it begins.
TEST(MotionPrograms, TravelInThreeAxes) {
  const Project p = worlds::read(worlds::with_tracks({moving(
      "camera.place", "minimum-jerk", {{0, {0.1, 0.2, 1.0}}, {1, {0.3, 0.2, 0.9}}, {2, {0.3, 0.5, 0.9}}})}));
  const auto program = motion_program(p, 0);
  ASSERT_TRUE(program);
  const Replay replay = replayed(*program);
  const KeyedTrack& track = *p.shots[0]->track("camera.place");
  for (int k = 0; k <= 100; ++k) {
    const Vec3 is = (track.place_at(0.02 * k) - Vec3{0.1, 0.2, 1.0}) * 1e3;
    EXPECT_NEAR(replay.at('X', 0.02 * k), is.x, 0.03);
    EXPECT_NEAR(replay.at('Y', 0.02 * k), is.y, 0.03);
    EXPECT_NEAR(replay.at('Z', 0.02 * k), is.z, 0.03);
  }
}

// Own behaviour: a camera that goes more than once round and looks at the middle all the way is turned by the
// head, on past half a turn; its shake is no motor's.
TEST(MotionPrograms, TurnTheHeadAfterAnAim) {
  Json around = Json::array();
  for (int k = 0; k <= 60; ++k) {
    const double a = radians(450.0 * k / 60);
    around.push_back({2.0 * k / 60, {std::sin(a), 0.3, std::cos(a)}});
  }
  Json d = worlds::with_tracks(
      {moving("camera.place", "linear", around), moving("camera.aim", "linear", {{0, {0, 0.1, 0}}})});
  const Project p = worlds::read(d);
  d["shots"][0]["camera"]["shake"] = {{"rms_deg", 0.5}};
  const auto program = motion_program(p, 0), shaken = motion_program(worlds::read(d), 0);
  ASSERT_TRUE(program && shaken);
  EXPECT_EQ(*program, *shaken);
  const Replay replay = replayed(*program);
  const double from = replay.at('B', replay.begins);
  EXPECT_NEAR(replay.at('B', replay.begins + 2.0) - from, -450.0, 0.5) << "to the left, as it goes to the right";
  for (int k = 0; k <= 40; ++k) {
    const Vec3 ahead = camera_at(*p.shots[0], 0.05 * k).frame.ahead;
    EXPECT_NEAR(
        std::remainder(replay.at('B', replay.begins + 0.05 * k) - degrees(std::atan2(ahead.x, -ahead.z)), 360.0),
        0.0, 0.05)
        << k;
  }
  // Travelling on along its axis it is not turned at all.
  const auto straight = motion_program(
      worlds::read(
          worlds::with_tracks({moving("camera.place", "minimum-jerk", {{0, {0, 0.1, 1.0}}, {2, {0, 0.1, 0.8}}}),
                               moving("camera.aim", "linear", {{0, {0, 0.1, 0}}})})),
      0);
  ASSERT_TRUE(straight);
  EXPECT_EQ(straight->find(" B"), std::string::npos);
  EXPECT_EQ(straight->find(" A"), std::string::npos);
}

// Own behaviour: what nothing drives, what is too long for its slider, and names that would end a comment.
TEST(MotionPrograms, RefuseWhatTheyCannotDrive) {
  EXPECT_NE(motion_program(worlds::read(worlds::with_tracks({})), 0).error().text().find("moves nothing"),
            std::string::npos);
  EXPECT_FALSE(motion_program(worlds::read(worlds::with_tracks({})), 7));
  Json d = worlds::with_tracks({moving("camera.slide", "linear", {{0, 0.0}, {2, 0.12}})});
  d["kit"]["supports"].push_back({{"id", "rail"}, {"name", "Rail"}, {"kind", "slider"}, {"travel", 0.15}});
  d["shots"][0]["camera"]["on"] = "rail";
  const auto refused = motion_program(worlds::read(d), 0);
  ASSERT_FALSE(refused);
  EXPECT_NE(refused.error().text().find("goes 180 mm with its run-up, Rail has 150 mm"), std::string::npos)
      << refused.error().text();
  d["shots"][0]["tracks"][0]["profile"] = "minimum-jerk";
  d["shots"][0]["name"] = "Slide (slow)\nG0 X9999";
  const auto program = motion_program(worlds::read(d), 0);
  ASSERT_TRUE(program);
  EXPECT_EQ(program->find("\nG0"), std::string::npos);
  replayed(*program);
}

// Own behaviour: what is dialled stands on the card of its shot, and an empty project is told.
TEST(SettingsCards, SayWhatToDialIn) {
  Json d = worlds::with_tracks({moving("camera.focus", "linear", {{0, 1.0}, {1, 0.8}})});
  d["shots"][0]["camera"]["locked"] = {{"white", true}};
  d["setups"][0]["lights"].push_back(worlds::rectangle("key", {0.5, 0.6, 0.6}, {0, 0, 0}, 0.5, 0.7, 4000));
  d["setups"][0]["lights"][0]["dimmer"] = 0.4;
  const Project p = worlds::read(d);
  const std::string cards = settings_cards(p);
  const ShotCamera& c = *p.shots[0]->camera;
  for (const std::string& part :
       {std::string("Shot 1, "), "ISO             " + number_text(c.iso, 6), "f/" + number_text(c.f_number, 3),
        shutter_text(c.shutter_time), std::string("Locked          white"),
        std::string("exposure, focus, stabiliser off"), std::string("40 %"), std::string("pull the focus once")})
    EXPECT_NE(cards.find(part), std::string::npos) << part << "\n" << cards;
  // A part of a mains pulse is another for every picture, a whole one is not. A dimmer that moves is told so.
  EXPECT_EQ(cards.find("look for bands"), std::string::npos) << "1/50 at 50 Hz is two pulses";
  d["shots"][0]["camera"]["shutter_time"] = 1.0 / 48;
  d["shots"][0]["tracks"].push_back(moving("light.key.dimmer", "linear", {{0, 0.0}, {1, 0.4}}));
  EXPECT_NE(settings_cards(worlds::read(d)).find("look for bands"), std::string::npos);
  EXPECT_NE(settings_cards(worlds::read(d)).find("dimmed as it moves"), std::string::npos);
  d["shots"][0].erase("camera");
  d["shots"][0]["tracks"] = Json::array();
  d["setups"][0]["lights"] = Json::array();
  EXPECT_NE(settings_cards(worlds::read(d)).find("no camera yet"), std::string::npos);
}

}  // namespace
}  // namespace cinnabar
