// The camera as a body: where it is, what it keeps off, and that it never stands before its own lens.
#include "cinnabar/scene/camera_body.h"

#include "worlds.h"

namespace cinnabar {
namespace {

Json with_body(Json doc) {
  doc["kit"]["cameras"][0].update({{"width", 0.14}, {"height", 0.1}, {"depth", 0.08}});
  return doc;
}
const Mesh* body_in(const StagedWorld& world) {
  for (const Mesh& mesh : world.meshes)
    if (mesh.role == Role::gear && mesh.thing < 0) return &mesh;
  return nullptr;
}
StagedWorld staged(const Json& doc, double t = 0.0) {
  const Project project = worlds::read(doc);
  return stage(project, *project.shots[0], t);
}

// Own behaviour, by hand: a box of 0.14 x 0.10 x 0.08 m behind a lens as long, 10 mm behind the pupil; at [0,
// 0.05, 1] looking toward -z it reaches from z = 1.01 to 1.17.
TEST(CameraBody, StandsBehindThePupil) {
  EXPECT_FALSE(body_in(staged(worlds::bare()))) << "its measures are not known";
  const StagedWorld world = staged(with_body(worlds::bare()));
  const Mesh* body = body_in(world);
  ASSERT_TRUE(body);
  Vec3f low{9, 9, 9}, high{-9, -9, -9};
  for (const Vec3f& p : body->positions.front()) {
    low = {std::min(low.x, p.x), std::min(low.y, p.y), std::min(low.z, p.z)};
    high = {std::max(high.x, p.x), std::max(high.y, p.y), std::max(high.z, p.z)};
  }
  EXPECT_NEAR(low.x, -0.07, 1e-6);
  EXPECT_NEAR(high.y, 0.10, 1e-6);
  EXPECT_NEAR(low.z, 1.01, 1e-6);
  EXPECT_NEAR(high.z, 1.17, 1e-6);
  EXPECT_EQ(body->normals.size(), body->positions.front().size());
  for (const std::uint32_t index : body->triangles) EXPECT_LT(index, body->normals.size());
}

// Own behaviour: rolled on its side it is as high as it was wide; looking down it stands over the pupil; a camera
// that goes back by 0.3 m in its exposure leaves it behind.
TEST(CameraBody, GoesWithTheCamera) {
  Json doc = with_body(worlds::bare());
  doc["shots"][0]["camera"]["roll_deg"] = 90;
  float highest = 0;
  const StagedWorld rolled = staged(doc);
  for (const Vec3f& p : body_in(rolled)->positions.front()) highest = std::max(highest, p.y);
  EXPECT_NEAR(highest, 0.05 + 0.07, 1e-6);
  doc = with_body(worlds::bare());
  doc["shots"][0]["camera"]["place"] = {0, 0.9, 0};
  doc["shots"][0]["camera"]["aim"] = {0, 0, 0};
  const StagedWorld down = staged(doc);
  for (const Vec3f& p : body_in(down)->positions.front()) EXPECT_GE(p.y, 0.91f - 1e-5f);
  doc = with_body(worlds::bare());
  doc["shots"][0]["camera"]["slide_axis"] = {0, 0, 1};
  doc["shots"][0]["camera"]["shutter_time"] = 0.04;
  doc["shots"][0]["tracks"] = Json::array({worlds::moving("camera.slide", "linear", {{0, 0}, {2, 15}})});
  const StagedWorld back = staged(doc, 1.0);
  const double farthest = back.camera.poses.back().place.z;
  EXPECT_GT(farthest - back.camera.middle_pose().place.z, 0.1);
  for (const Vec3f& p : body_in(back)->positions.front()) EXPECT_GE(p.z, farthest + 0.005);
}

}  // namespace
}  // namespace cinnabar
