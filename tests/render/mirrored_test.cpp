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

}  // namespace
}  // namespace cinnabar
