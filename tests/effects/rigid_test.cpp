// Rigid bodies against closed forms: free fall, rebound, sliding to a stand, terminal speed; stacks, and the same
// run twice. Source of all: Newton's laws with Coulomb's friction, worked by hand.
#include "cinnabar/effects/rigid.h"

#include <gtest/gtest.h>

#include <cmath>

namespace cinnabar {
namespace {

RigidPiece box(const Vec3& half, const Vec3& place) {
  RigidPiece piece;
  piece.half = half, piece.place = place;
  return piece;
}
RigidPiece ball(double radius, const Vec3& place, double restitution) {
  RigidPiece piece = box(Vec3{1, 1, 1} * radius, place);
  piece.ball = true, piece.restitution = restitution;
  return piece;
}
/// The highest that the first piece comes between two moments.
double highest(const RigidRun& run, double from, double to) {
  double top = -1.0;
  for (double t = from; t < to; t += 0.002) top = std::max(top, run.at(t)[0].place.y);
  return top;
}

// Source: h = g t2 / 2 (Halliday & Resnick), met to a step and a half; he2 after the bounce, within a hundredth
// and a tenth of a millimetre.
TEST(Rigid, FallsAndReboundsByTheClosedForm) {
  for (const double height : {0.05, 0.3, 1.2})
    for (const double e : {0.3, 0.5, 0.8}) {
      const RigidRun of_ball({.pieces = {ball(0.01, {0.2, height + 0.01, -0.4}, e)}});
      const double falls = std::sqrt(2 * height / standard_gravity), meets = standard_gravity * falls;
      const auto middle = [&](double t) { return of_ball.at(t)[0].place.y - 0.01; };
      EXPECT_NEAR(middle(0.8 * falls), 0.36 * height, 0.0015 * meets) << height;
      if (e * meets < 0.3) continue;  // it rebounds from 0.2 m/s on
      const double up = e * meets / standard_gravity;
      // Had it met a step and a half sooner or later, it would be elsewhere by this much half-way up.
      EXPECT_NEAR(middle(falls + up / 2), 0.75 * height * e * e, 0.0015 * e * meets + 0.01 * height * e * e)
          << height << " " << e;
      EXPECT_NEAR(highest(of_ball, falls + 0.2 * up, falls + 1.8 * up) - 0.01, height * e * e,
                  (e < 0.5 ? 0.02 : 0.01) * height * e * e + 1e-4)
          << height << " " << e;
    }
  // From a table that stands off the origin, and not from beside it.
  RigidScene table{.ground = -0.5};
  table.solids.resize(1);
  for (const double x : {0.9, 1.1})
    for (const double y : {-0.5, 0.1})
      for (const double z : {-0.1, 0.1}) table.solids[0].push_back({x, y, z});
  table.pieces = {ball(0.01, {1.0, 0.41, 0}, 0.0), ball(0.01, {1.3, 0.41, 0}, 0.0)};
  const RigidRun run(table);
  EXPECT_NEAR(run.at(2.0)[0].place.y, 0.11, 1e-3);
  EXPECT_NEAR(run.at(2.0)[1].place.y, -0.49, 1e-3);
}

// Source: Coulomb's friction (Halliday & Resnick), a flat box stops after v2 / 2 mu g.
TEST(Rigid, SlidesToAStand) {
  for (const double friction : {0.2, 0.5}) {
    RigidPiece sled = box({0.02, 0.005, 0.02}, {0, 0.005, 0});
    sled.velocity = {0.8, 0, 0.6}, sled.friction = friction, sled.restitution = 0;
    const RigidRun run({.pieces = {sled}});
    const double expected = 1.0 / (2 * friction * standard_gravity);
    const Vec3 end = run.at(8.0)[0].place;
    EXPECT_NEAR(std::hypot(end.x, end.z), expected, 0.01 * expected);
    EXPECT_NEAR(end.z / end.x, 0.75, 0.01);
    // Half of its time it takes for three quarters of the way.
    const Vec3 half = run.at(0.5 / (friction * standard_gravity))[0].place;
    EXPECT_NEAR(std::hypot(half.x, half.z), 0.75 * expected, 0.01 * expected);
  }
}

// Source: the equation of motion with m g (v / vt)2 of drag, v = vt tanh(g t / vt).
TEST(Rigid, FallsAtItsTerminalSpeed) {
  RigidPiece leaf = ball(0.005, {0, 20, 0}, 0);
  leaf.terminal_speed = 2.0;
  const RigidRun run({.pieces = {leaf}});
  for (const double t : {0.1, 0.3, 1.0}) {
    const double speed = (run.at(t - 0.01)[0].place.y - run.at(t + 0.01)[0].place.y) / 0.02;
    EXPECT_NEAR(speed, 2.0 * std::tanh(standard_gravity * t / 2.0), 0.02) << t;
  }
}

// Source: statics; what stands flat on what is flat stays so.
TEST(Rigid, StandsInAStackAndLiesOnItsSide) {
  RigidScene stack;
  for (int i = 0; i < 3; ++i) stack.pieces.push_back(box({0.03, 0.01, 0.03}, {0, 0.01 + 0.02 * i, 0}));
  const RigidRun run(stack);
  for (std::size_t i = 0; i < 3; ++i) {
    const RigidPose end = run.at(8.0)[i];
    EXPECT_NEAR(end.place.y, 0.01 + 0.02 * static_cast<double>(i), 1e-4);
    EXPECT_GT(end.up.y, 0.9999);
  }
  // Let fall on an edge it comes to lie on a face: one of its axes is upright.
  RigidPiece tile = box({0.02, 0.004, 0.03}, {0, 0.2, 0});
  tile.right = unit(Vec3{0.9, 0.3, 0}), tile.up = unit(Vec3{-0.3, 0.9, 0}), tile.spin = {3, 0, 5};
  const RigidRun fallen({.pieces = {tile}});
  const RigidPose end = fallen.at(8.0)[0];
  EXPECT_NEAR(end.place.y, 0.004, 2e-4);
  EXPECT_GT(std::abs(end.up.y), 0.999);
}

// Only own behaviour is held here.
TEST(Rigid, IsTheSameEveryTimeAndNoPieceLiesInAnother) {
  RigidScene heap;
  for (int i = 0; i < 40; ++i)
    heap.pieces.push_back(box({0.0075, 0.00225, 0.0075}, {0.01 * (i % 4), 0.2 + 0.01 * i, 0.01 * ((i / 4) % 3)}));
  const RigidRun one(heap), two(heap);
  (void)two.at(8.0);  // one is asked in between, the other at once
  const auto early = one.at(1.234), lying = one.at(8.0), again = two.at(1.234), there = two.at(8.0);
  for (std::size_t i = 0; i < heap.pieces.size(); ++i) {
    EXPECT_EQ(early[i].place, again[i].place);
    EXPECT_EQ(lying[i].place, there[i].place);
    EXPECT_GT(lying[i].place.y, 0.00225 - 3e-4);
    EXPECT_LT(lying[i].place.y, 0.2);
    for (std::size_t k = 0; k < i; ++k)  // no nearer than two lie flat on one another
      EXPECT_GT(length(lying[i].place - lying[k].place), 2 * 0.00225 - 1e-3) << i << " " << k;
  }
  EXPECT_EQ(rigid_run(heap), rigid_run(heap)) << "it is worked out once";
  EXPECT_TRUE(RigidRun({}).at(1.0).empty());
  // A kilometre up and far from the origin it still comes down, after 14.3 s.
  const RigidRun far({.pieces = {ball(0.01, {4000, 1000, -3000}, 0.0)}});
  EXPECT_GT(far.at(14.0)[0].place.y, 30.0);
  EXPECT_NEAR(far.at(15.0)[0].place.y, 0.01, 1e-3);
  RigidScene other = heap;
  other.pieces.front().place.x += 1e-9;
  EXPECT_NE(rigid_run(heap), rigid_run(other));
}

}  // namespace
}  // namespace cinnabar
