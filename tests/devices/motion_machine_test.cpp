// The controller that stands in: its language, its limits, its motion by closed forms, and what becomes of lines
// that get lost.
#include "cinnabar/devices/motion_machine.h"

#include <array>
#include <cmath>
#include <functional>
#include <random>
#include <sstream>

#include "cinnabar/devices/strayed.h"
#include "cinnabar/formats/motion_program.h"
#include "cinnabar/scene/form.h"
#include "cinnabar/scene/view.h"
#include "worlds.h"

namespace cinnabar {
namespace {

std::vector<std::string> lines_of(const std::string& program) {
  std::vector<std::string> out;
  std::istringstream in(program);
  for (std::string line; std::getline(in, line);) out.push_back(line);
  return out;
}
/// Sends a whole program; the answer to its last line.
std::string load(SimulatedMotion& machine, const std::vector<std::string>& lines) {
  std::string last = machine.answer("load " + std::to_string(lines.size()));
  for (std::size_t i = 0; i < lines.size() && last.starts_with("ok"); ++i)
    last = machine.answer(std::to_string(i + 1) + " " + lines[i]);
  return last;
}
/// Lets it go until it says so, hearing it all the while.
void until(SimulatedMotion& machine, const std::string& word, std::vector<ReportedPlaces>* reports = nullptr,
           double begins = 0.0) {
  for (int k = 0; k < 20000; ++k) {
    for (const std::string& line : machine.advance(0.01)) {
      if (line == word) return;
      ASSERT_FALSE(line.starts_with("stopped")) << line;
    }
    ASSERT_TRUE(machine.answer("where").starts_with("ok "));
    if (reports) reports->push_back({machine.run_seconds() - begins, machine.places()});
  }
  FAIL() << "never " << word;
}
MotionSettings exact() {
  MotionSettings out;
  out.step = out.backlash = out.lag = 0.0;
  return out;
}
using worlds::moving;

// Source: Kramer, Proctor & Messina 2000, NISTIR 6556: G93 is one over minutes; of G94 the feed is that of X, Y, Z
// alone where any of them is named, else of the angles; inches by G20. 0.12 m and 30 degrees in 0.5 s: F14400 and
// F120.
TEST(MotionReader, TimesPiecesByTheirFeeds) {
  const auto plan =
      read_motion_program({"G21 G90 G94", "G1 F14400 X120 C30", "N7 g1 c60 (a turn) f3600", "G4 P1", "G93",
                           "(the shot begins)", "G1 F120 X0 C0 ; back", "G20 G1 X1 F60", "M2", "G1 X9"});
  ASSERT_TRUE(plan) << plan.error().text();
  ASSERT_EQ(plan->start.size(), 3u);
  ASSERT_EQ(plan->run.size(), 2u) << "nothing after the end";
  EXPECT_DOUBLE_EQ(plan->run[0].seconds, 0.5);
  EXPECT_DOUBLE_EQ(*plan->run[1].to[0], 25.4);
  EXPECT_DOUBLE_EQ(plan->run[1].seconds, 1.0);
  EXPECT_DOUBLE_EQ(plan->seconds(), 1.5);
  EXPECT_DOUBLE_EQ(plan->shot_begins(), 0.0);
  SimulatedMotion machine(exact());
  ASSERT_TRUE(load(machine, {"G21 G90 G94", "G1 F7200 X120 C30", "G93", "G1 F60 X0", "M2"}).starts_with("ok"));
  ASSERT_EQ(machine.answer("start"), "ok");
  double took = 0;
  while (machine.state() == MotionState::moving && took < 10) (void)machine.advance(0.005), took += 0.005;
  EXPECT_NEAR(took, 1.0, 0.011) << "120 mm at 7200 mm/min, whatever the turntable does meanwhile";
}

// Own behaviour: what is not understood is refused by its line, and nothing of it is run.
TEST(MotionReader, RefusesByLineWhatItDoesNotKnow) {
  const auto refusal = [](std::vector<std::string> lines) {
    const auto plan = read_motion_program(lines);
    return plan ? std::string("read") : plan.error().text();
  };
  EXPECT_NE(refusal({"G21", "G2 X1 F5"}).find("line 2: G2 is not known"), std::string::npos);
  EXPECT_NE(refusal({"G91 G1 F5 X1"}).find("absolute"), std::string::npos);
  EXPECT_NE(refusal({"G1 X1"}).find("no feed"), std::string::npos);
  EXPECT_NE(refusal({"G93", "G1 F6 X1", "G1 X2"}).find("line 3"), std::string::npos);
  EXPECT_NE(refusal({"G1 F5 Xnan"}).find("line 1"), std::string::npos);
  EXPECT_NE(refusal({"G1 F5 X1e3"}).find("line 1"), std::string::npos);
  EXPECT_NE(refusal({"G1 F5 X1 (a"}).find("comment"), std::string::npos);
  EXPECT_NE(refusal({"X5"}).find("G0 or G1"), std::string::npos);
  EXPECT_NE(refusal({std::string(300, 'X')}).find("256"), std::string::npos);
  EXPECT_NE(refusal({"(nothing)"}).find("moves nothing"), std::string::npos);
  EXPECT_NE(refusal({"M6"}).find("M6"), std::string::npos);
  EXPECT_NE(refusal({"G1 F0 X1"}).find("feed"), std::string::npos);
  EXPECT_NE(refusal(std::vector<std::string>(200'001, "G1")).find("200001 lines"), std::string::npos);
}

// Own behaviour, by closed forms: a lag of 10 ms behind an even 50 mm/s is 0.5 mm; of steps of 0.0125 mm and a
// play of 0.02 mm half a step and half the play are left. With none of them it stands on the plan.
TEST(SimulatedMotion, FollowsThePlanWithItsLagAndItsSteps) {
  const Project p = worlds::read(worlds::with_tracks({moving("camera.slide", "linear", {{0, 0.0}, {2, 0.1}})}));
  const auto program = motion_program(p, 0);
  ASSERT_TRUE(program) << program.error().text();
  const double begins = read_motion_program(lines_of(*program))->shot_begins();
  EXPECT_NEAR(begins, 1.0, 1e-4);
  for (const bool true_one : {true, false}) {
    SimulatedMotion machine(true_one ? exact() : MotionSettings{});
    ASSERT_TRUE(load(machine, lines_of(*program)).starts_with("ok"));
    EXPECT_TRUE(machine.answer("check").starts_with("ok "));
    EXPECT_TRUE(machine.answer("run").starts_with("error place")) << "not from anywhere";
    ASSERT_EQ(machine.answer("start"), "ok");
    until(machine, "done start");
    EXPECT_EQ(machine.state(), MotionState::ready);
    ASSERT_EQ(machine.answer("run"), "ok");
    std::vector<ReportedPlaces> reports;
    until(machine, "done run", &reports, begins);
    const StrayedRun run = strayed(p, *p.shots[0], reports);
    ASSERT_GT(run.moments.size(), 150u);
    const double lag = true_one ? 0.0 : 0.01, slack = true_one ? 0.02 : 0.5 * 0.0125 + 0.5 * 0.02 + 0.005;
    for (const Strayed& moment : run.moments)
      if (moment.set_time > 0.1 && moment.set_time < 1.9) {
        EXPECT_NEAR(moment.off[0], -50.0 * lag, slack) << moment.set_time;
      }
    EXPECT_NEAR(run.behind, lag, 0.0008) << "play and step shift it a little";
    EXPECT_EQ(machine.answer("run").substr(0, 11), "error place") << "the end is not the start";
  }
}

// Source: the thin lens, x = f' X / z: at 1 m with the bare world's lens, 0.5 mm aside is so many recorded pixels;
// of a turn by 0.1 degrees a point 31 mm before the axis moves by 31 mm times its radians.
TEST(Strayed, SaysInPixelsWhatTheAxesAreOff) {
  Json d = worlds::with_tracks({moving("camera.slide", "minimum-jerk", {{0, 0.0}, {2, 0.1}}),
                                moving("turntable", "minimum-jerk", {{0, 0.0}, {2, 90.0}})});
  worlds::add_cylinder(d, worlds::matte(0.5, 0.5, 0.5));
  const Project p = worlds::read(d);
  const Shot& shot = *p.shots[0];
  const CameraPose pose = camera_at(shot, 1.0);
  const ShotOptics optics = shot_optics(p, shot);
  const auto planned = [&](double t) {
    AxisPlaces out{};
    for (const DrivenAxis& axis : driven_axes(shot)) out[axis_letters.find(axis.letter)] = axis.at(t);
    return out;
  };
  AxisPlaces aside = planned(1.0);
  aside[0] += 0.5;
  const StrayedRun slid = strayed(p, shot, {{1.0, aside}});
  ASSERT_EQ(slid.moments.size(), 1u);
  // The nearest point of the product that is in the frame moves most: between its front and its axis.
  const double at_axis = 0.5e-3 * pose.image_distance() / pose.depth({0, 0.05, 0}) / optics.pitch;
  EXPECT_GE(slid.worst_px, at_axis * 0.999);
  EXPECT_LE(slid.worst_px, at_axis * 1.15);
  AxisPlaces further = planned(1.0);
  further[5] += 0.1;
  const Product& product = *p.products[0];
  const double reach = widest_reach(product);
  const StrayedRun turned_on = strayed(p, shot, {{1.0, further}});
  const double across = reach * radians(0.1) * pose.image_distance() / optics.pitch;
  EXPECT_GE(turned_on.worst_px, 0.9 * across / (pose.depth({0, 0.05, 0}) + reach));
  EXPECT_LE(turned_on.worst_px,
            1.001 * across / (pose.depth({0, 0.05, 0}) - reach));  // to first order of the turn
  // Late by 40 ms all the way: as such it is found, and nothing is left once it is allowed for.
  std::vector<ReportedPlaces> late;
  for (int k = 4; k <= 200; ++k) late.push_back({0.01 * k, planned(0.01 * k - 0.04)});
  const StrayedRun behind = strayed(p, shot, late);
  EXPECT_NEAR(behind.behind, 0.04, 1e-4);
  EXPECT_GT(behind.worst_px, 20 * behind.worst_px_shifted);
  EXPECT_TRUE(strayed(p, shot, {}).moments.empty());
  EXPECT_TRUE(strayed(p, shot, {{-1.0, {}}, {99.0, {}}}).moments.empty());
}

// Own behaviour: whatever way it is set up, a controller without faults stands on the plan: pieces stay within 10
// um and 1e-5 rad, some twentieths of a pixel an axis. Looking down, rolled, travelling after an aim, off the
// origin on the turntable, played backward and ramped, in a tall frame.
TEST(Strayed, IsNothingWhereTheControllerIsExact) {
  const std::vector<std::pair<const char*, std::function<void(Json&)>>> set_ups{
      {"looks down",
       [](Json& shot) {
         shot["camera"]["place"] = {0.02, 0.9, 0.01}, shot["camera"]["aim"] = {0, 0.05, 0},
         shot["camera"]["focus"] = 0.85;
         shot["tracks"] = {moving("camera.pan", "s-curve", {{0, 0}, {2, 40}}),
                           moving("camera.tilt", "s-curve", {{0, 0}, {2, 3}})};
       }},
      {"rolled, on its side",
       [](Json& shot) {
         shot["camera"]["roll_deg"] = 90;
         shot["tracks"] = {moving("camera.slide", "minimum-jerk", {{0, 0.0}, {2, 0.08}}),
                           moving("camera.tilt", "minimum-jerk", {{0, 0}, {2, -4}})};
       }},
      {"travels after an aim",
       [](Json& shot) {
         shot["tracks"] = {moving("camera.place", "minimum-jerk", {{0, {0, 0.1, 1.0}}, {2, {0.2, 0.3, 0.9}}}),
                           moving("camera.aim", "minimum-jerk", {{0, {0, 0.05, 0}}, {2, {0.02, 0.03, 0}}})};
       }},
      {"off the origin, turned",
       [](Json& shot) {
         shot["products"][0]["place"] = {0.1, 0, -0.05};
         shot["tracks"] = Json::array({moving("turntable", "linear", {{0, 15}, {2, 100}})});
       }},
      {"backward and ramped", [](Json& shot) {
         shot["reversed"] = true, shot["play"] = {{0.0, 1.0}, {0.6, 0.5}, {1.0, 1.0}};
         shot["tracks"] = Json::array({moving("camera.slide", "trapezoid-1-3", {{0, 0.0}, {1.5, 0.1}})});
       }}};
  for (const auto& [name, change] : set_ups) {
    Json d = worlds::with_tracks({});
    worlds::add_cylinder(d, worlds::matte(0.5, 0.5, 0.5));
    d["deliverables"] = {{{"id", "tall"}, {"name", "9:16"}, {"width", 1080}, {"height", 1920}}};
    change(d["shots"][0]);
    const Project p = worlds::read(d);
    const auto program = motion_program(p, 0);
    ASSERT_TRUE(program) << name << program.error().text();
    SimulatedMotion machine(exact());
    ASSERT_TRUE(load(machine, lines_of(*program)).starts_with("ok")) << name;
    ASSERT_EQ(machine.answer("start"), "ok") << name;
    until(machine, "done start");
    ASSERT_EQ(machine.answer("run"), "ok") << name;
    std::vector<ReportedPlaces> reports;
    until(machine, "done run", &reports, read_motion_program(lines_of(*program))->shot_begins());
    const StrayedRun run = strayed(p, *p.shots[0], reports);
    EXPECT_GT(run.moments.size(), 100u) << name;
    EXPECT_LT(run.worst_px, 0.25) << name << " at " << run.worst_at;
    // And a tenth of a degree or a millimetre off is seen in all of them.
    for (ReportedPlaces& report : reports)
      for (const DrivenAxis& axis : driven_axes(*p.shots[0]))
        report.places[axis_letters.find(axis.letter)] += axis.turns ? 0.5 : 1.0;
    EXPECT_GT(strayed(p, *p.shots[0], reports).worst_px, 1.0) << name;
  }
}

// Own behaviour: limits of place, speed and acceleration are told before anything moves.
TEST(SimulatedMotion, RefusesBeforeItStartsWhatItCannotDo) {
  const Project p = worlds::read(worlds::with_tracks({moving("camera.slide", "minimum-jerk", {{0, 0.0}, {2, 0.1}}),
                                                      moving("turntable", "linear", {{0, 0.0}, {2, 100.0}})}));
  const std::string program = *motion_program(p, 0);
  const auto tried = [&](const std::string& limit) {
    SimulatedMotion machine(exact());
    EXPECT_EQ(machine.answer(limit), "ok") << limit;
    EXPECT_TRUE(load(machine, lines_of(program)).starts_with("ok"));
    const std::string out = machine.answer("start");
    if (!out.starts_with("ok")) {
      (void)machine.advance(1.0);
      EXPECT_EQ(machine.places(), AxisPlaces{}) << limit;
      EXPECT_EQ(machine.state(), MotionState::idle);
    }
    return out;
  };
  // Minimum jerk (Flash & Hogan 1985): 1.875 d / T at the most, 5.7735 d / T2: 93.75 mm/s, 144.34 mm/s2.
  EXPECT_EQ(tried("limit X -10 101 94 152"), "ok");
  EXPECT_TRUE(tried("limit X -10 99 94 152").starts_with("error limit: X would come to 99."));
  EXPECT_TRUE(tried("limit X -10 101 93 152").starts_with("error speed"));
  EXPECT_TRUE(tried("limit X -10 101 94 130").starts_with("error acceleration"));
  EXPECT_TRUE(tried("limit C -100 200 51 50").starts_with("ok")) << "50 degrees a second, come to in one";
  EXPECT_TRUE(tried("limit C -20 200 51 50").starts_with("error limit: C")) << "its run-up begins 25 before";
  SimulatedMotion machine(exact());
  for (const char* bad : {"limit X 5 4 1 1", "limit Q 0 1 1 1", "limit X 0 nan 1 1", "limit X 0 1 0 1", "limit"})
    EXPECT_TRUE(machine.answer(bad).starts_with("error limit")) << bad;
}

// Own behaviour: a lost line is missed at once, and what is not whole is not run.
TEST(SimulatedMotion, MissesLinesThatGotLost) {
  const std::vector<std::string> program{"G21 G90 G94", "G1 F600 X1", "G93", "G1 F60 X20", "G1 F60 X0", "M2"};
  SimulatedMotion machine(exact());
  ASSERT_EQ(machine.answer("load 6"), "ok");
  EXPECT_EQ(machine.answer("1 G21 G90 G94"), "ok 1");
  EXPECT_TRUE(machine.answer("3 G93").starts_with("error order: line 2 is due"));
  EXPECT_TRUE(machine.answer("start").starts_with("error order")) << "nothing else is heard in between";
  for (std::size_t i = 1; i < program.size(); ++i)
    EXPECT_EQ(machine.answer(std::to_string(i + 1) + " " + program[i]), "ok " + std::to_string(i + 1));
  EXPECT_EQ(machine.answer("check"), "ok 6 lines, 2.0000 seconds");
  // Half of another, and its sender goes: the old one is not run in its place.
  ASSERT_EQ(machine.answer("load 6"), "ok");
  EXPECT_EQ(machine.answer("1 G21"), "ok 1");
  machine.left();
  EXPECT_TRUE(machine.answer("start").starts_with("error program"));
  EXPECT_TRUE(load(machine, {"G21", "G1 X1"}).starts_with("error program: line 2"));
  EXPECT_TRUE(machine.answer("check").starts_with("error program"));
  for (const char* bad :
       {"", "load", "load 0", "load 1.5", "load 1e9", "load x", "dance", "watch", "watch 0.1", "watch -3", "jog",
        "jog X", "jog X 5 0", "jog X nan 5", "jog Q 5 5", "jog X 1e300 1e299", "\x01\xff", "run"})
    EXPECT_TRUE(machine.answer(bad).starts_with("error ")) << bad;
  EXPECT_TRUE(machine.answer(std::string(5000, 'a')).starts_with("error line"));
  EXPECT_EQ(machine.state(), MotionState::idle);
}

// Own behaviour, by v2 / 2a: stopped at 100 mm/s with 2000 mm/s2 it comes to rest 2.5 mm on, and stays there until
// it is released; silence for two seconds stops it too.
TEST(SimulatedMotion, IsStoppedAtAnyTime) {
  SimulatedMotion machine(exact());
  ASSERT_EQ(machine.answer("jog X 500 100"), "ok");
  EXPECT_TRUE(machine.answer("jog X 1 1").starts_with("error moving"));
  for (int k = 0; k < 250; ++k) (void)machine.advance(0.01);
  const double there = machine.places()[0];
  EXPECT_GT(there, 100);
  // It heard nothing for over two seconds of that.
  EXPECT_EQ(machine.state(), MotionState::stopped);
  EXPECT_TRUE(machine.answer("jog X 1 1").starts_with("error stopped: it was stopped since nothing was heard"));
  EXPECT_EQ(machine.answer("release"), "ok");
  ASSERT_EQ(machine.answer("jog X 300 100"), "ok");
  for (int k = 0; k < 15; ++k) (void)machine.answer("where"), (void)machine.advance(0.1);
  const double before = machine.places()[0];
  (void)machine.advance(0.01);
  const double speed = (machine.places()[0] - before) / 0.01;
  EXPECT_EQ(machine.answer("stop"), "ok");
  EXPECT_TRUE(machine.answer("release").starts_with("error stopped: it is not at rest")) << "still on its way";
  const double at = machine.places()[0];
  (void)machine.advance(1.0);
  EXPECT_NEAR(machine.places()[0] - at, speed * speed / (2 * 2000), 0.2);
  const auto still = machine.places();
  (void)machine.advance(5.0);
  EXPECT_EQ(machine.places(), still);
  EXPECT_TRUE(machine.answer("start").starts_with("error stopped"));
  EXPECT_EQ(machine.answer("release"), "ok");
  EXPECT_TRUE(machine.answer("jog X 5000 100").starts_with("error limit"));
  EXPECT_TRUE(machine.answer("jog X 5 400").starts_with("error speed"));
  // Watched, it says where it is so many times a second.
  ASSERT_EQ(machine.answer("watch 20"), "ok");
  EXPECT_NEAR(static_cast<double>(machine.advance(1.0).size()), 50, 1);
}

// Own behaviour: whatever comes over the line has one answer, and nothing is left that does not stand within the
// limits.
TEST(SimulatedMotion, AnswersWhateverComes) {
  const std::vector<std::string> talk{"hello",
                                      "limit X -50 50 100 900",
                                      "load 4",
                                      "1 G21 G90 G94",
                                      "2 G1 F600 X1 C3",
                                      "3 G93",
                                      "4 G1 F30 X20 C30 (the shot begins)",
                                      "check",
                                      "start",
                                      "run",
                                      "where",
                                      "jog A 2 5",
                                      "watch 5",
                                      "stop",
                                      "release",
                                      "limits"};
  std::mt19937 random(11);
  for (int round = 0; round < 400; ++round) {
    SimulatedMotion machine;
    for (std::string line : talk) {
      switch (random() % 5) {
        case 0:
          line = line.substr(0, random() % (line.size() + 1));
          break;
        case 1:
          line[random() % line.size()] = static_cast<char>(random());
          break;
        case 2:
          line.insert(random() % line.size(),
                      std::array{" nan", "1e999", "-", "\xff", "((", "9999999"}[random() % 6]);
          break;
        default:
          break;
      }
      const std::string answer = machine.answer(line);
      EXPECT_TRUE(answer.starts_with("ok") || answer.starts_with("error ")) << line;
      EXPECT_EQ(answer.find('\n'), std::string::npos) << "one line: " << line;
      (void)machine.advance(0.05 * static_cast<double>(random() % 20));
    }
    for (const double place : machine.places()) EXPECT_LE(std::abs(place), 36000.1);
    EXPECT_LE(std::abs(machine.places()[1]), 1000.1);
  }
}

}  // namespace
}  // namespace cinnabar
