// What stands on a turntable, against the closed forms of its profiles.
#include "cinnabar/planning/standing.h"

#include <cmath>

#include "cinnabar/motion/machines.h"
#include "worlds.h"

namespace cinnabar {
namespace {

/// A can of 0.5 kg and 40 mm on a turntable that turns by so much in two seconds.
Json turned_can(const char* profile, double degrees_, double off = 0.0) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, worlds::matte(0.5, 0.5, 0.5));
  doc["shots"][0]["products"][0]["place"] = {off, 0, 0};
  doc["shots"][0]["tracks"] = Json::array({worlds::moving("turntable", profile, {{0, 0.0}, {2, degrees_}})});
  return doc;
}
Standing stands(const Json& doc) {
  const Project p = worlds::read(doc);
  const auto list = standing_on_turntable(p, *p.shots[0]);
  EXPECT_EQ(list.size(), 1u);
  return list.empty() ? Standing{} : list.front();
}

// Sources: minimum jerk's greatest acceleration, 10 / sqrt(3) way / T^2 (Flash & Hogan 1985); a cylinder's inertia
// m r^2 / 2, and Steiner's theorem off the axis; slip by Howe & Cutkosky 1996 as `turntable_start` has it.
TEST(Standing, AsksTorqueAndGripByTheProfilesAcceleration) {
  const double gains = 10.0 / std::sqrt(3.0) * pi / 4.0;  // half a turn in two seconds
  const Standing on_axis = stands(turned_can("minimum-jerk", 180));
  EXPECT_NEAR(on_axis.inertia, 0.5 * 0.04 * 0.04 / 2, 1e-12);
  EXPECT_NEAR(on_axis.torque, on_axis.inertia * gains, 0.002 * on_axis.torque);
  EXPECT_NEAR(on_axis.grip, gains * 0.75 * 0.04 / (0.3 * 9.80665), 0.005 * on_axis.grip) << "on its axis";
  const Standing aside = stands(turned_can("minimum-jerk", 180, 0.2));
  EXPECT_NEAR(aside.inertia, 0.5 * (0.04 * 0.04 / 2 + 0.2 * 0.2), 1e-12);
  EXPECT_GT(aside.torque, 40 * on_axis.torque);
  // By thirds: 9/2 way / T^2, no more while it is carried on evenly.
  EXPECT_NEAR(stands(turned_can("trapezoid-1-3", 180)).torque, on_axis.inertia * 4.5 * pi / 4.0,
              1e-3 * on_axis.torque);
  // Evenly: nothing gains; off the axis w^2 e / (mu g).
  const Standing even = stands(turned_can("linear", 180, 0.2));
  EXPECT_NEAR(even.torque, 0.0, 1e-12);
  EXPECT_NEAR(even.grip, pi * pi / 4.0 * 0.2 / (0.3 * 9.80665), 1e-9);
  EXPECT_GT(stands(turned_can("linear", 720, 0.2)).grip, 1.0) << "it slides off";
}

// Own behaviour: in ramped time it turns as the set does; what stands still, or elsewhere, is asked nothing.
TEST(Standing, IsOfWhatTurnsOnly) {
  Json ramped = turned_can("minimum-jerk", 180);
  ramped["shots"][0]["play"] = {{0, 0.5}, {1.0, 0.5}};
  const Project p = worlds::read(ramped);
  EXPECT_LE(standing_on_turntable(p, *p.shots[0])[0].at, p.shots[0]->set_time());
  Json still = turned_can("minimum-jerk", 0);
  EXPECT_EQ(stands(still).grip, 0.0);
  still["shots"][0]["tracks"] = Json::array();
  const Project none = worlds::read(still);
  EXPECT_TRUE(standing_on_turntable(none, *none.shots[0]).empty());
}

}  // namespace
}  // namespace cinnabar
