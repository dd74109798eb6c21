// What a smooth body mirrors, against the law of reflection worked in plan, and the room about it, unrolled.
#include "cinnabar/render/mirrored.h"

#include <cmath>

#include "cinnabar/render/tracer.h"
#include "worlds.h"

namespace cinnabar {
namespace {

struct Filmed {
  std::shared_ptr<const StagedWorld> world;
  Film film;
  explicit Filmed(const Json& doc) {
    const Project project = worlds::read(doc);
    world = std::make_shared<const StagedWorld>(stage(project, *project.shots[0], 0.0));
    const Tracer tracer(world);
    film = tracer.film(640, 360);
    EXPECT_TRUE(tracer.add_pass(film));
  }
};
const Json shiny{{"kind", "gloss"}, {"colour", {0.3, 0.1, 0.1}}, {"ior", 1.5}};

Json body_of(const Json& material) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, material);
  doc["shots"][0]["camera"]["f_number"] = 32;  // as good as a pinhole
  return doc;
}

// Source: law of reflection; a line that meets a circle of radius r at `aside` from its axis has its normal at
// asin(aside / r) from the line, and leaves at twice that.
TEST(MirroredLines, LeaveByTheLawOfReflection) {
  const Filmed seen(body_of(shiny));
  const CameraPose& pose = seen.world->camera.poses.front();
  int met = 0;
  const int y = seen.film.height / 2;
  for (int x = 0; x < seen.film.width; ++x) {
    const auto line = mirrored_line(seen.film, seen.world->camera, pose, x, y);
    if (!line) continue;
    ++met;
    const Vec3 sight = unit(line->from - pose.place);
    const double aside = std::abs(line->from.x * sight.z - line->from.z * sight.x) / std::hypot(sight.x, sight.z);
    const double turned =
        std::acos(std::clamp(-(sight.x * line->along.x + sight.z * line->along.z) /
                                 (std::hypot(sight.x, sight.z) * std::hypot(line->along.x, line->along.z)),
                             -1.0, 1.0));
    // The first hit lies anywhere in its pixel: half of one, by the derivative of the arc sine,
    // and a millimetre of the lens.
    const double across = std::min(0.999, aside / 0.04), half_pixel = 0.5 * (0.036 / 640) * (0.95 / 0.05) / 0.04;
    EXPECT_NEAR(turned, 2.0 * std::asin(across), 2.0 * half_pixel / std::sqrt(1.0 - across * across) + 3e-3) << x;
  }
  EXPECT_GE(met, 30);
  // Matte and rough things mirror nothing.
  const Filmed matte(body_of({{"kind", "matte"}, {"colour", {0.5, 0.5, 0.5}}}));
  EXPECT_FALSE(mirrored_line(matte.film, matte.world->camera, matte.world->camera.poses.front(), 320, 180));
  Json rough = shiny;
  rough["roughness"] = 0.3;
  const Filmed dull(body_of(rough));
  EXPECT_FALSE(mirrored_line(dull.film, dull.world->camera, dull.world->camera.poses.front(), 320, 180));
}

// Source: bearings and elevations by hand.
TEST(UnrolledRooms, ShowWhatStandsWhere) {
  Json doc = body_of(shiny);
  // A metre away, 60 degrees to the camera's right, at the product's own height, and a card on the left.
  const double a = radians(60), h = 0.05;
  doc["setups"][0]["lights"].push_back(
      worlds::rectangle("side", {std::sin(a), h, std::cos(a)}, {0, h, 0}, 0.3, 0.3, 2000.0));
  doc["setups"][0]["cards"].push_back({{"id", "card"},
                                       {"place", {-0.5, h, 0}},
                                       {"aim", {0, h, 0}},
                                       {"width", 0.3},
                                       {"height", 0.3},
                                       {"material", worlds::matte(0.85, 0.85, 0.85)}});
  const Filmed seen(doc);
  const auto room = unrolled_room(*seen.world, seen.film, 360, 130);
  ASSERT_TRUE(room);
  EXPECT_NEAR(room->camera_bearing, 0.0, 0.01);
  const int level = static_cast<int>(UnrolledRoom::highest);  // a degree a row
  const RoomPlace& light = room->at(180 + 60, level);
  ASSERT_TRUE(light.met);
  EXPECT_EQ(light.role, Role::light);
  EXPECT_EQ(light.thing, 0);
  EXPECT_TRUE(light.lit_face);
  EXPECT_NEAR(light.distance, 1.0, 0.02);
  const RoomPlace& card = room->at(180 - 90, level);
  EXPECT_EQ(card.role, Role::card);
  EXPECT_NEAR(card.distance, 0.5, 0.02);
  EXPECT_FALSE(card.lit_face);
  EXPECT_FALSE(room->at(180, level).met) << "the camera is no body";
  // The light spans 2 atan(0.15) = 17 degrees.
  int wide = 0;
  for (int x = 0; x < 360; ++x) wide += room->at(x, level).met && room->at(x, level).role == Role::light ? 1 : 0;
  EXPECT_NEAR(wide, 2 * degrees(std::atan(0.15)), 1.5);
  // The lit face of a lamp that is turned away or off is none.
  Json away = doc;
  away["setups"][0]["lights"][0]["aim"] = {3, h, 3};
  const Filmed back(away);
  EXPECT_FALSE(unrolled_room(*back.world, back.film, 360, 130)->at(240, level).lit_face);
  // What is mirrored lies about the product's own height, on both sides of the camera, and nowhere behind it.
  float left = 0, right = 0, high = 0;
  for (int y = 0; y < room->height; ++y)
    for (int x = 0; x < room->width; ++x) {
      const float n = room->at(x, y).seen;
      (x < 180 ? left : right) += n;
      if (y < 40) high += n;
    }
  EXPECT_GT(left, 5);
  EXPECT_NEAR(left, right, 0.2 * (left + right));
  EXPECT_EQ(high, 0);
}

// Own behaviour: directions and places on the unrolled room are one another's inverse, wherever the camera is.
TEST(UnrolledRooms, AreReadBothWays) {
  Json doc = body_of(shiny);
  doc["shots"][0]["camera"]["place"] = {-0.7, 0.4, -0.6};
  doc["shots"][0]["camera"]["aim"] = {0, 0.05, 0};
  const Filmed seen(doc);
  const auto room = unrolled_room(*seen.world, seen.film, 90, 40);
  ASSERT_TRUE(room);
  const auto camera = room->share(seen.world->camera.poses.front().place - room->from);
  EXPECT_NEAR(camera.x, 0.5, 1e-6) << "the camera is in the middle";
  for (const double x : {0.05, 0.3, 0.5, 0.77, 0.99})
    for (const double y : {0.02, 0.5, 0.98}) {
      const auto again = room->share(room->direction(x, y));
      EXPECT_NEAR(again.x, x, 1e-9);
      EXPECT_NEAR(again.y, y, 1e-9);
    }
  const Filmed empty(worlds::bare());
  EXPECT_FALSE(unrolled_room(*empty.world, empty.film, 90, 40)) << "no product, no room about it";
}

// Source: law of reflection worked in plan: on a cylinder of radius r a place at bearing a has its normal there,
// and what comes from the lens at angle i to it leaves at i on its other side.
TEST(AngleFamilies, AreThrownByTheSideThatIsThere) {
  Json doc = body_of(shiny);
  doc["setups"][0]["lights"].push_back(
      worlds::rectangle("side", {0.9, 0.05, 0.5}, {0, 0.05, 0}, 0.4, 0.4, 2000.0));
  const Project project = worlds::read(doc);
  const StagedWorld world = stage(project, *project.shots[0], 0.0);
  const Geometry geometry(world);
  const CameraPose& pose = world.camera.middle_pose();
  for (const double bearing : {-50.0, -12.0, 0.0, 30.0}) {
    const double a = radians(bearing);
    const Vec3 at{0.04 * std::sin(a), 0.05, 0.04 * std::cos(a)};
    const auto family = angle_family(geometry, pose, at, 0.003);
    ASSERT_TRUE(family) << bearing;
    ASSERT_GE(family->lines.size(), 20u);
    const double to_lens = std::atan2(pose.place.x - at.x, pose.place.z - at.z);
    const Vec3& along = family->lines.front().line.along;
    EXPECT_NEAR(std::atan2(along.x, along.z), 2.0 * a - to_lens, radians(1.5)) << bearing;
    EXPECT_NEAR(along.y, 0.0, 1e-3);
    // A rim of 3 mm on a side as round as that spreads by some 2 x 3 / 40 either way, more at the edge.
    double least = 10, most = -10;
    for (const ThrownLine& line : family->lines) {
      const double turned = std::atan2(line.line.along.x, line.line.along.z);
      least = std::min(least, turned), most = std::max(most, turned);
    }
    const double spread = 2.0 * 2.0 * 0.003 / (0.04 * std::cos(a - to_lens));
    EXPECT_NEAR(most - least, spread, 0.15 * spread + radians(1.5)) << bearing;
    // The lamp at 61 degrees is met from the place at 30 alone, and shines.
    EXPECT_EQ(family->lines.front().met && family->lines.front().lit_face, bearing == 30.0) << bearing;
  }
  EXPECT_FALSE(angle_family(geometry, pose, {0, 0.05, -0.04}, 0.003)) << "the back is not seen";
  EXPECT_FALSE(angle_family(geometry, pose, {0.3, 0.05, 0}, 0.003)) << "nothing is there";
  const Project matte = worlds::read(body_of({{"kind", "matte"}, {"colour", {0.5, 0.5, 0.5}}}));
  const StagedWorld dull = stage(matte, *matte.shots[0], 0.0);
  const auto none = angle_family(Geometry(dull), dull.camera.middle_pose(), {0, 0.05, 0.04}, 0.003);
  ASSERT_TRUE(none);
  EXPECT_TRUE(none->lines.empty()) << "it is seen, and mirrors nothing";
}

// Source: similar triangles: of a plane a width w is seen, with the lens at e and what it mirrors at d, to mirror
// w (e + d) / e of that. Half of 3 mm, e 0.96 m, d 0.8 m: 5.5 mm across.
TEST(AngleFamilies, SpreadFromAPlaneAsAMirrorDoes) {
  Json doc = body_of(shiny);
  Json& part = doc["products"][0]["parts"][0];
  part["section"] = "box";
  part["profile"] = {{0.0, 0.0, 0.0}, {0.04, 0.0, 0.04}, {0.04, 0.1, 0.04}, {0.0, 0.1, 0.0}};
  const Project project = worlds::read(doc);
  const StagedWorld world = stage(project, *project.shots[0], 0.0);
  const Geometry geometry(world);
  const auto family = angle_family(geometry, world.camera.middle_pose(), {0, 0.05, 0.04}, 0.003);
  ASSERT_TRUE(family);
  double widest = 0;
  for (const ThrownLine& line : family->lines) {
    const double far = (0.04 + 0.8 - line.line.from.z) / line.line.along.z;
    widest = std::max(widest, std::abs(line.line.from.x + far * line.line.along.x));
  }
  EXPECT_NEAR(widest, 0.003 * (0.96 + 0.8) / 0.96, 2e-5);
}

}  // namespace
}  // namespace cinnabar
