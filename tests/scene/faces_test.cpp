// Areas are those of elementary geometry (common practice, no source). Labels, faces and sheets: where they stand,
// how large they are and which way they look.
#include <cmath>

#include "cinnabar/scene/form.h"
#include "cinnabar/scene/staged.h"
#include "worlds.h"

namespace cinnabar {
namespace {

double area_of(const Mesh& mesh) {
  double sum = 0;
  const auto& p = mesh.positions.front();
  for (std::size_t i = 0; i < mesh.triangles.size(); i += 3) {
    const Vec3 a = p[mesh.triangles[i]].as<double>(), b = p[mesh.triangles[i + 1]].as<double>(),
               c = p[mesh.triangles[i + 2]].as<double>();
    sum += length(cross(b - a, c - a)) / 2;
  }
  return sum;
}

StagedWorld world_of(const Json& doc, double at = 0) {
  const Project project = worlds::read(doc);
  return stage(project, *project.shots[0], at);
}

struct FaceRow {
  Json light;
  double area;
};
class Faces : public testing::TestWithParam<FaceRow> {};
// Common practice, no source: areas of elementary geometry
TEST_P(Faces, HaveTheAreaThatTheirLuminanceIsReckonedWith) {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"].push_back(GetParam().light);
  const StagedWorld world = world_of(doc);
  double area = 0;
  for (const Mesh& mesh : world.meshes) area += mesh.light >= 0 ? area_of(mesh) : 0;
  EXPECT_NEAR(area, GetParam().area, 0.006 * GetParam().area);
  EXPECT_NEAR(worlds::read(doc).setups[0]->lights[0].area(), GetParam().area, 1e-9);
}
INSTANTIATE_TEST_SUITE_P(
    Lights, Faces,
    testing::Values(
        FaceRow{worlds::rectangle("l", {1, 1, 1}, {0, 0, 0}, 0.6, 0.9, 100), 0.54},
        FaceRow{Json{{"id", "l"}, {"place", {1, 1, 1}}, {"aim", {0, 0, 0}}, {"shape", "disc"}, {"radius", 0.2}},
                pi * 0.04},
        FaceRow{Json{{"id", "l"},
                     {"place", {1, 1, 1}},
                     {"aim", {0, 0, 0}},
                     {"shape", "tube"},
                     {"radius", 0.02},
                     {"length", 1.0}},
                2 * pi * 0.02},
        FaceRow{Json{{"id", "l"}, {"place", {1, 1, 1}}, {"aim", {0, 0, 0}}, {"shape", "bare"}, {"radius", 0.05}},
                4 * pi * 0.0025}));

// Own behaviour, worked by hand.
TEST(Labels, RunLeftToRightSeenFromOutside) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "glass"}}, true);
  const StagedWorld world = world_of(doc);
  const Mesh& label = world.meshes.back();
  ASSERT_FALSE(label.uvs.empty());
  double left = 1e9, right = -1e9, low = 1e9, high = -1e9;
  for (std::size_t i = 0; i < label.uvs.size(); ++i) {
    const Vec3f& p = label.positions.front()[i];
    if (label.uvs[i].first == 0.0f) left = std::min(left, double(p.x));
    if (label.uvs[i].first == 1.0f) right = std::max(right, double(p.x));
    if (label.uvs[i].second == 0.0f) high = std::max(high, double(p.y));
    if (label.uvs[i].second == 1.0f) low = std::min(low, double(p.y));
    EXPECT_GT(std::hypot(double(p.x), double(p.z)), 0.04);  // outside the glass
  }
  // Facing the camera (+Z), the picture's left is at camera left, its top above.
  EXPECT_LT(left, -0.02);
  EXPECT_GT(right, 0.02);
  EXPECT_NEAR(high, 0.08, 1e-3);
  EXPECT_NEAR(low, 0.02, 1e-3);
}

// Own behaviour, worked by hand.
TEST(Labels, TurnWithTheProductAndItsBearing) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "glass"}}, true);
  const auto middle = [&] {
    const StagedWorld world = world_of(doc);
    Vec3 sum;
    for (const Vec3f& p : world.meshes.back().positions.front()) sum += p.as<double>();
    return unit(Vec3{sum.x, 0, sum.z});
  };
  EXPECT_NEAR(middle().z, 1, 1e-6);
  doc["shots"][0]["products"][0]["turn_deg"] = 90;
  EXPECT_NEAR(middle().x, 1, 1e-6);
  doc["products"][0]["label"]["bearing_deg"] = 90;
  EXPECT_NEAR(middle().z, -1, 1e-6);
}

// Own behaviour, worked by hand.
TEST(Labels, AloneMoveThroughTheExposureOfASpin) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "matte"}}, true);
  doc["shots"][0]["tracks"] = Json::array({{{"target", "turntable"}, {"keys", {{0, 0}, {1, 360}}}}});
  const StagedWorld world = world_of(doc, 0.3);
  int moving = 0;
  for (const Mesh& mesh : world.meshes) moving += mesh.positions.size() > 1 ? 1 : 0;
  EXPECT_EQ(moving, 1);  // the body turns about its own axis and so stands still
  doc["shots"][0]["products"][0]["place"] = {0.05, 0, 0};
  const StagedWorld off_axis = world_of(doc, 0.3);
  moving = 0;
  for (const Mesh& mesh : off_axis.meshes) moving += mesh.positions.size() > 1 ? 1 : 0;
  EXPECT_EQ(moving, 2);
}

// Own behaviour, worked by hand.
TEST(Points, OfALabelLieOnItAndFaceOutward) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "matte"}}, true);
  const Project project = worlds::read(doc);
  const auto points = label_points(*project.products[0], 9, 5);
  ASSERT_EQ(points.size(), 45u);
  for (const LabelPoint& p : points) {
    EXPECT_NEAR(std::hypot(p.at.x, p.at.z), 0.04, 1e-9);
    EXPECT_GE(p.at.y, 0.02 - 1e-9);
    EXPECT_LE(p.at.y, 0.08 + 1e-9);
    EXPECT_LE(std::abs(degrees(std::atan2(p.at.x, p.at.z))), 45 + 1e-9);
    EXPECT_GT(dot(p.normal, p.at), 0);
  }
}

// Own behaviour.
TEST(Radii, FollowTheOutline) {
  Json doc = worlds::bare();
  doc["products"].push_back({{"id", "cone"}, {"parts", {{{"id", "p"}, {"profile", {{0.06, 0.0}, {0.02, 0.2}}}}}}});
  const Project project = worlds::read(doc);
  EXPECT_NEAR(radius_at(*project.products[0], 0.0), 0.06, 1e-12);
  EXPECT_NEAR(radius_at(*project.products[0], 0.1), 0.04, 1e-12);
  EXPECT_NEAR(radius_at(*project.products[0], 0.2), 0.02, 1e-12);
  EXPECT_EQ(radius_at(*project.products[0], 0.3), 0.0);
  EXPECT_EQ(height_span(*project.products[0]), (std::pair{0.0, 0.2}));
}

// Own behaviour, worked by hand.
TEST(Backdrops, LeanBackByTheirTilt) {
  Json doc = worlds::bare();
  doc["setups"][0]["backdrop"] = {{"kind", "flat"}, {"distance", 1.0}, {"width", 2.0},
                                  {"height", 2.0},  {"low", 0.1},      {"tilt_deg", 30}};
  const Project project = worlds::read(doc);
  const auto line = backdrop_lines(*project.setups[0], project.setups[0]->backdrop);
  ASSERT_EQ(line.size(), 2u);
  EXPECT_NEAR(line[0].left.z, -1, 1e-12);
  EXPECT_NEAR(line[0].left.y, 0.1, 1e-12);
  EXPECT_NEAR(line[0].left.x, -1, 1e-12);
  EXPECT_NEAR(line[1].right.z, -1 - 2 * std::sin(radians(30)), 1e-12);
  EXPECT_NEAR(line[1].right.y, 0.1 + 2 * std::cos(radians(30)), 1e-12);
  EXPECT_NEAR(line[1].right.x, 1, 1e-12);
}

// Own behaviour, worked by hand: half-way of a linear pull and lean, a wall and a sweep, the sweep as one piece;
// held after its last key; over an exposure it is where it goes.
TEST(Backdrops, ArePulledAndLeantOnTracks) {
  for (const char* kind : {"flat", "sweep"}) {
    Json doc = worlds::bare();
    doc["setups"][0]["surface"] = {{"width", 1.0}, {"depth", 0.8}};
    doc["setups"][0]["backdrop"] = {{"kind", kind},  {"distance", 1.0}, {"width", 2.0},
                                    {"height", 1.5}, {"low", 0.1},      {"radius", 0.3}};
    const Project still = worlds::read(doc);
    doc["shots"][0]["tracks"] = Json::array({{{"target", "backdrop.place"},
                                              {"profile", "linear"},
                                              {"keys", {{0, {0, 0.1, -1}}, {2, {0.6, 0.5, -1.4}}}}}});
    const Project project = worlds::read(doc);
    const auto& setup = *project.setups[0];
    const Shot& shot = *project.shots[0];
    EXPECT_TRUE(backdrop_moves(shot));
    const auto at = [&](double t) { return backdrop_lines(setup, backdrop_at(setup.backdrop, shot, t)); };
    const auto rest = backdrop_lines(*still.setups[0], still.setups[0]->backdrop);
    for (const auto& [t, moved] :
         {std::pair{0.0, Vec3{0, 0, 0}}, {1.0, Vec3{0.3, 0.2, -0.2}}, {9.0, Vec3{0.6, 0.4, -0.4}}}) {
      const auto lines = at(t);
      ASSERT_EQ(lines.size(), rest.size());
      for (std::size_t i = 0; i < lines.size(); ++i) {
        EXPECT_LT(length(lines[i].left - rest[i].left - moved), 1e-12) << kind << " " << t;
        EXPECT_LT(length(lines[i].right - rest[i].right - moved), 1e-12) << kind << " " << t;
      }
    }
    const StagedWorld world = stage(project, shot, 1.0);
    const auto drop = std::ranges::find(world.meshes, Role::backdrop, &Mesh::role);
    ASSERT_NE(drop, world.meshes.end());
    ASSERT_EQ(drop->positions.size(), 5u);
    const Vec3f went = drop->positions.back()[0] - drop->positions.front()[0];
    const double open = world.camera.shutter_time + world.camera.optics.readout;
    EXPECT_NEAR(went.x, 0.3 * open, 1e-6);
    EXPECT_NEAR(went.z, -0.2 * open, 1e-6);
  }
  Json doc = worlds::bare();
  doc["setups"][0]["backdrop"] = {{"kind", "flat"}, {"distance", 1.0}, {"width", 2.0}, {"height", 2.0}};
  doc["shots"][0]["tracks"] =
      Json::array({{{"target", "backdrop.tilt"}, {"profile", "linear"}, {"keys", {{0, -10}, {1, 50}}}}});
  const Project project = worlds::read(doc);
  const auto lines =
      backdrop_lines(*project.setups[0], backdrop_at(project.setups[0]->backdrop, *project.shots[0], 2.0 / 3.0));
  EXPECT_NEAR(lines[1].left.z, -1 - 2 * std::sin(radians(30)), 1e-12);
  EXPECT_NEAR(lines[1].left.y, 2 * std::cos(radians(30)), 1e-12);
}

std::vector<EdgeLine> edges_of(const Json& doc) {
  const Project project = worlds::read(doc);
  return set_edges(*project.setups[0], project.setups[0]->backdrop);
}

// Own behaviour, worked by hand.
TEST(Backdrops, OfNoneAndOfASweepHaveTheirEdges) {
  Json doc = worlds::bare();
  EXPECT_TRUE(edges_of(doc).empty());
  doc["setups"][0]["surface"] = {{"width", 1.0}, {"depth", 0.8}};
  EXPECT_EQ(edges_of(doc).size(), 1u);
  doc["setups"][0]["backdrop"] = {
      {"kind", "sweep"}, {"distance", 1.0}, {"width", 2.0}, {"height", 1.5}, {"radius", 0.3}};
  const auto edges = edges_of(doc);
  ASSERT_EQ(edges.size(), 2u);
  EXPECT_EQ(edges[1].points.front(), edges[1].points.back());  // closed
  for (const Vec3& p : edges[1].points) EXPECT_NEAR(std::abs(p.x), 1.0, 1e-12);
}

// Own behaviour, worked by hand.
TEST(Lights, TurnAboutTheVerticalWithTheirAim) {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0, 0.5, 1}, {0, 0, 0.2}, 0.4, 0.4, 100));
  doc["shots"][0]["tracks"] = Json::array({{{"target", "light.key.turn"}, {"keys", {{0, 0}, {1, 90}}}},
                                           {{"target", "light.key.dimmer"}, {"keys", {{0, 0.2}, {1, 1.0}}}}});
  const Project project = worlds::read(doc);
  const Light end = light_at(project.setups[0]->lights[0], *project.shots[0], 1);
  EXPECT_NEAR(end.place.x, 1, 1e-12);
  EXPECT_NEAR(end.aim.x, 0.2, 1e-12);
  EXPECT_NEAR(end.place.y, 0.5, 1e-12);
  EXPECT_EQ(end.dimmer, 1.0);
  EXPECT_NEAR(light_at(project.setups[0]->lights[0], *project.shots[0], 0.5).dimmer, 0.6, 1e-12);
}

}  // namespace
}  // namespace cinnabar
