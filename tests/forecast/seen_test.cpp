// What the camera sees of the set and the product: outer edges, outlines, frames and runs of the label.
#include "cinnabar/forecast/levels/runs.h"
#include "cinnabar/forecast/measures/set_edges_seen.h"
#include "cinnabar/forecast/measures/silhouette.h"
#include "judging.h"

namespace cinnabar {
using namespace judging;
namespace {

struct Looked {
  Project project;
  MeasureCache cache;
  ShotContext context;
  explicit Looked(const Json& doc)
      : project(worlds::read(doc)), context(project, 0, cache, quick_measure, nullptr) {}
};

// Own behaviour, worked by hand.
TEST(Frames, OfDeliverablesAreTheLargestOfTheirShape) {
  Looked at(can());
  const ImageBox wide = frame_of({.id = "w", .name = "16:9", .width = 1920, .height = 1080}, at.context.optics);
  EXPECT_NEAR(wide.right - wide.left, 0.036, 1e-9);
  EXPECT_NEAR(wide.top - wide.bottom, 0.02025, 1e-9);
  const ImageBox tall = frame_of({.id = "t", .name = "9:16", .width = 1080, .height = 1920}, at.context.optics);
  EXPECT_NEAR(tall.top - tall.bottom, 0.02025, 1e-9);
  EXPECT_NEAR(tall.right - tall.left, 0.02025 * 9 / 16, 1e-9);
  const ImageBox cinema = frame_of({.id = "c", .name = "2.39", .width = 2390, .height = 1000}, at.context.optics);
  EXPECT_NEAR(cinema.top - cinema.bottom, 0.036 / 2.39, 1e-9);
}

// Own behaviour, worked by hand.
TEST(Words, AreaRunsFromTheTopLeftOfTheDeliverablesFrame) {
  Looked at(can());
  Deliverable wide{
      .id = "w", .name = "16:9", .width = 1920, .height = 1080, .words = Words{0.1, 0.2, 0.3, 0.4, 1.0}};
  const ImageBox box = words_area(wide, at.context.optics);
  EXPECT_NEAR(box.left, -0.018 + 0.0036, 1e-9);
  EXPECT_NEAR(box.right, box.left + 0.0108, 1e-9);
  EXPECT_NEAR(box.top, 0.010125 - 0.00405, 1e-9);
  EXPECT_NEAR(box.top - box.bottom, 0.0081, 1e-9);
}

// Own behaviour, against plane geometry worked by hand.
TEST(Silhouette, OfACylinderIsItsRingsHull) {
  Looked at(can());
  ImageBox box;
  for (const auto& piece : silhouette(at.context.project, at.context.shot, 0.0))
    for (const ImagePoint& p : piece) box.take(p);
  // Half the width: the line from the lens that touches the cylinder, R / sqrt(d2 - R2), times the image distance.
  const double v = 0.05 / 0.95, touch = 0.04 / std::sqrt(1 - 0.04 * 0.04) * v;
  EXPECT_NEAR(box.right, touch, 0.003 * touch);
  EXPECT_NEAR(box.left, -box.right, 1e-9);
  EXPECT_NEAR(box.top, 0.05 / 0.96 * v, 1e-6);
}

// Own behaviour, against plane geometry worked by hand.
TEST(Silhouette, MeetsABoxOnlyWhereTheyShareAPoint) {
  const std::vector<ImagePoint> diamond{{1, 0}, {0, 1}, {-1, 0}, {0, -1}};
  EXPECT_TRUE(meets(diamond, {-0.1, 0.1, -0.1, 0.1}));
  EXPECT_TRUE(meets(diamond, {-5, 5, -5, 5}));
  EXPECT_FALSE(meets(diamond, {0.7, 0.9, 0.7, 0.9})) << "beside its slanting edge, though in its bounds";
  EXPECT_TRUE(meets(diamond, {0.4, 0.9, 0.4, 0.9}));
  EXPECT_FALSE(meets(diamond, {2, 3, -1, 1}));
}

Setup sheet(double width, double height, double low) {
  Setup setup;
  setup.id = "A";
  setup.backdrop = {BackdropKind::flat, 1.0, width, height, low};
  return setup;
}
CameraPose straight() { return {{0, 0.5, 1.0}, facing({0, 0.5, 1.0}, {0, 0.5, 0}), 0.05, 1.0}; }
ShotOptics optics() { return shot_optics(Project{}, ShotCamera{}); }

// Own behaviour, worked by hand.
TEST(Edges, OfASheetAreSeenAtTheirProjectedPlace) {
  // 0.8 m beside the axis, 2 m away: its image lies 0.8 / 2 x v from the middle; the frame ends at 18 mm.
  const auto wall = sheet(1.6, 6.0, -2.5);
  const SetAlone set(wall, wall.backdrop);
  const auto edge = EdgeSearch(set, straight(), optics()).nearest();
  ASSERT_TRUE(edge);
  EXPECT_NEAR(edge->distance, 0.8 / 2 * 0.05 / 0.95 - 0.018, 1e-5);
  EXPECT_EQ(edge->role, Role::backdrop);
  EXPECT_NEAR(std::abs(edge->at.x), 0.8, 1e-6);
  EXPECT_TRUE(EdgeSearch(set, straight(), optics()).inside().empty());
}

// Own behaviour, worked by hand.
TEST(Edges, InsideTheFrameAreListedAllAlong) {
  const auto wall = sheet(1.0, 6.0, -2.5);
  const SetAlone set(wall, wall.backdrop);
  const auto inside = EdgeSearch(set, straight(), optics()).inside();
  ASSERT_FALSE(inside.empty());
  for (const SeenEdge& e : inside) {
    EXPECT_LT(e.distance, 0.0);
    EXPECT_NEAR(std::abs(e.at.x), 0.5, 1e-9);
  }
}

// Own behaviour, worked by hand.
TEST(Edges, WhereSurfaceAndBackdropMeetDoNotCount) {
  cinnabar::Setup setup = sheet(8.0, 6.0, -2.5);
  setup.surface = Surface{8.0, 2.0, {}};  // its rear edge lies on the sheet
  const SetAlone set(setup, setup.backdrop);
  CameraPose pose = straight();
  for (const SeenEdge& e : EdgeSearch(set, pose, optics()).inside())
    ADD_FAILURE() << "an edge at " << e.at.x << " " << e.at.y << " " << e.at.z;
}

// Own behaviour, worked by hand.
TEST(Edges, OfNothingAreNone) {
  cinnabar::Setup bare;
  bare.id = "A";
  const SetAlone set(bare, bare.backdrop);
  EXPECT_FALSE(EdgeSearch(set, straight(), optics()).nearest());
}

// Own behaviour, worked by hand.
TEST(FacingRuns, EndWhereTheTurnLeavesTwentyDegrees) {
  Json doc = can();
  doc["shots"][0]["tracks"] = Json::array({{{"target", "turntable"}, {"keys", {{0, -60}, {2, 60}}}}});
  doc["shots"][0]["needs"] = {{"facing", {{"bearing_deg", 0}, {"at", 1.1}, {"for", 0.2}}}};
  const auto run = facing_run(Looked(doc).context);
  ASSERT_TRUE(run);
  EXPECT_NEAR(run->from, 2.0 / 3, 1e-6);
  EXPECT_NEAR(run->to, 4.0 / 3, 1e-6);
  EXPECT_NEAR(run->off_deg, 6.0, 1e-9);
  doc["shots"][0]["needs"]["facing"]["at"] = 0.0;
  const auto none = facing_run(Looked(doc).context);
  EXPECT_EQ(none->from, none->to);
  EXPECT_NEAR(none->off_deg, 60.0, 1e-9);
}

// Own behaviour, worked by hand.
TEST(FacingRuns, OfAStillLabelLastTheWholeShot) {
  Json doc = can();
  doc["shots"][0]["needs"] = {{"facing", {{"bearing_deg", 15}, {"at", 1.0}, {"for", 1.0}}}};
  const auto run = facing_run(Looked(doc).context);
  EXPECT_EQ(run->from, 0.0);
  EXPECT_EQ(run->to, 2.0);
  doc["products"][0].erase("label");
  EXPECT_FALSE(facing_run(Looked(doc).context)) << "no label, nothing to face";
}

// Own behaviour, worked by hand.
TEST(Effects, AreToldWorstFirstAndCounted) {
  const auto level = [](const char* id, State state, double value) {
    return Level{.id = id, .title = id, .unit = Unit::times, .value = value, .state = state};
  };
  const std::vector<Level> before{level("a", State::level, 1), level("b", State::out, 2),
                                  level("c", State::leaning, 3), level("own", State::out, 4)},
      after{level("a", State::leaning, 1.5), level("b", State::level, 2.5), level("c", State::out, 3.5),
            level("own", State::level, 4.5)};
  int harm = 0;
  EXPECT_EQ(told_effects(before, after, "own", harm),
            "a leans at 1.5 x, c goes out at 3.5 x; b comes home at 2.5 x");
  EXPECT_EQ(harm, 1 + 1) << "what gets better pays for nothing";
  EXPECT_EQ(told_effects(before, before, "own", harm), "");
  EXPECT_EQ(harm, 2);
  Level lost = before[1];
  lost.value.reset(), lost.state = State::unknown;
  EXPECT_EQ(told_effects(before, {lost}, "own", harm), "b cannot be told any more");
  EXPECT_EQ(harm, 4);
}

}  // namespace
}  // namespace cinnabar
