// Staging: outlines become closed bodies, tracks move things, and the camera sees what the thin lens says.
#include "cinnabar/optics/lens.h"
#include "cinnabar/scene/staged.h"
#include "worlds.h"

namespace cinnabar {
namespace {

/// Volume inside a closed mesh by the divergence theorem; negative when it is wound inward.
double volume(const Mesh& mesh) {
  double sum = 0;
  const auto& p = mesh.positions.front();
  for (std::size_t i = 0; i < mesh.triangles.size(); i += 3)
    sum += dot(p[mesh.triangles[i]].as<double>(),
               cross(p[mesh.triangles[i + 1]].as<double>(), p[mesh.triangles[i + 2]].as<double>())) /
           6;
  return sum;
}

std::vector<Mesh> meshes_of(const Json& parts) {
  Json doc = worlds::bare();
  doc["products"].push_back({{"id", "p"}, {"parts", parts}});
  const Project project = worlds::read(doc);
  std::vector<Medium> media;
  return product_meshes(*project.products[0], media, 96);
}

// Source: closed forms of solids of revolution (Pappus).
TEST(Bodies, HaveTheVolumeOfTheirOutline) {
  const auto solid = meshes_of({{{"id", "a"},
                                 {"profile", {{0.0, 0.0}, {0.04, 0.0}, {0.04, 0.1}, {0.0, 0.1}}},
                                 {"material", {{"kind", "glass"}}}}});
  EXPECT_NEAR(volume(solid[0]), pi * 0.04 * 0.04 * 0.1, 2e-8);
  const auto cone = meshes_of({{{"id", "a"},
                                {"profile", {{0.05, 0.0}, {0.0, 0.12}}},
                                {"material", {{"kind", "glass"}}}}});  // an open end of a clear body is closed
  EXPECT_NEAR(volume(cone[0]), pi * 0.05 * 0.05 * 0.12 / 3, 2e-8);
  // A tumbler with a 2 mm wall and floor: outer less inner.
  const auto walled = meshes_of({{{"id", "a"},
                                  {"profile", {{0.0, 0.0}, {0.04, 0.0}, {0.04, 0.1}}},
                                  {"wall", 0.002},
                                  {"material", {{"kind", "glass"}}}}});
  EXPECT_NEAR(volume(walled[0]), pi * (0.04 * 0.04 * 0.1 - 0.038 * 0.038 * 0.098), 3e-7);
}

// Source: closed form of half an ellipse drawn out, by 16 chords; it stands open on the floor, which adds nothing.
TEST(Bodies, ACableUnderItsTapeIsHalfAnEllipseDrawnOut) {
  Json doc = worlds::bare();
  doc["setups"][0]["gear"] = Json::array(
      {{{"id", "c"}, {"place", {0, 0, 0}}, {"size", {1.5, 0.02, 0.05}}, {"turn_deg", 30}, {"form", "ridge"}}});
  const Project project = worlds::read(doc);
  const StagedWorld world = stage(project, *project.shots[0], 0.0);
  const auto cable = std::find_if(world.meshes.begin(), world.meshes.end(),
                                  [](const Mesh& mesh) { return mesh.role == Role::gear; });
  ASSERT_NE(cable, world.meshes.end());
  const double chords = std::sin(pi / 16) / (pi / 16);
  EXPECT_NEAR(volume(*cable), pi / 2 * 0.025 * 0.02 * 1.5 * chords, 1e-9);
  const auto& p = cable->positions.front();
  for (std::size_t i = 0; i < cable->triangles.size(); i += 3) {
    const auto corner = [&](std::size_t k) { return p[cable->triangles[i + k]].as<double>(); };
    const Vec3 out = cross(corner(1) - corner(0), corner(2) - corner(0));
    for (std::size_t k = 0; k < 3; ++k)
      EXPECT_GT(dot(out, cable->normals[cable->triangles[i + k]].as<double>()), 0);
  }
}

// Own behaviour, worked by hand.
TEST(Liquids, MeetTheInnerSideOfTheirVessel) {
  const auto filled = meshes_of({{{"id", "glass"},
                                  {"profile", {{0.0, 0.0}, {0.04, 0.0}, {0.04, 0.1}}},
                                  {"wall", 0.002},
                                  {"material", {{"kind", "glass"}}}},
                                 {{"id", "juice"},
                                  {"profile", {{0.0, 0.002}, {0.03, 0.002}, {0.03, 0.06}, {0.0, 0.06}}},
                                  {"material", {{"kind", "liquid"}}}}});
  double widest = 0, highest = 0;
  for (const Vec3f& p : filled[1].positions.front())
    widest = std::max(widest, std::hypot(double(p.x), double(p.z))), highest = std::max(highest, double(p.y));
  EXPECT_GE(widest, 0.038);   // reaches the wall
  EXPECT_LE(widest, 0.0401);  // and does not come out of it
  EXPECT_NEAR(highest, 0.06, 1e-6);
}

// Own behaviour, worked by hand.
TEST(Sweep, RunsFromTheSurfaceUpTheWall) {
  Json doc = worlds::bare();
  doc["setups"][0]["surface"] = {{"width", 1.0}, {"depth", 0.8}};
  doc["setups"][0]["backdrop"] = {
      {"kind", "sweep"}, {"distance", 1.0}, {"width", 2.0}, {"height", 1.5}, {"radius", 0.3}};
  const Project project = worlds::read(doc);
  const auto line = backdrop_lines(*project.setups[0], project.setups[0]->backdrop);
  EXPECT_NEAR(line[1].left.z, -0.4, 1e-9);
  EXPECT_NEAR(line.back().left.z, -1.0, 1e-9);
  EXPECT_NEAR(line.back().right.y, 1.5, 1e-9);
  double nearest = 1e9;  // the arc's middle lies radius x (1 - cos 45) from both straight parts
  for (const AcrossBackdrop& across : line)
    nearest = std::min(nearest, std::hypot(across.left.z + 1.0 - 0.3 * (1 - std::sqrt(0.5)),
                                           across.left.y - 0.3 * (1 - std::sqrt(0.5))));
  EXPECT_LT(nearest, 0.01);
}

// Own behaviour: a place of the world told on the product and back; a line of sight meets the place where it is
// seen.
TEST(Poses, GoBothWays) {
  const ProductPose pose{{0.3, 0.02, -0.2}, 65.0};
  for (const Vec3& at : {Vec3{0, 0, 0}, Vec3{0.04, 0.1, -0.03}, Vec3{-0.2, 0.3, 0.5}}) {
    EXPECT_LT(length(pose.own(pose.world(at)) - at), 1e-12);
    EXPECT_LT(length(pose.world(pose.own(at)) - at), 1e-12);
  }
  // A quarter turn, by hand: what lies toward the camera (+z) of the product lies to its right (+x).
  const ProductPose quarter{{1, 0, 0}, 90.0};
  EXPECT_LT(length(quarter.own({1.1, 0, 0}) - Vec3{0, 0, 0.1}), 1e-12);

  Json doc = worlds::bare();
  doc["shots"][0]["camera"]["place"] = {0.2, 0.9, 0.4};  // looks down, rolled
  doc["shots"][0]["camera"]["roll_deg"] = 30;
  const Project project = worlds::read(doc);
  const CameraPose camera = camera_at(*project.shots[0], 0);
  const ShotOptics optics = shot_optics(project, *project.shots[0]);
  for (const auto& [x, y] : {std::pair{0.5, 0.5}, {0.1, 0.8}, {0.95, 0.2}}) {
    const auto seen = image_of(camera, camera.place + camera.toward(optics, x, y) * 2.5);
    ASSERT_TRUE(seen);
    EXPECT_NEAR(seen->x, (x - 0.5) * optics.sensor_width, 1e-9);
    EXPECT_NEAR(seen->y, (0.5 - y) * optics.sensor_height, 1e-9);
  }
  EXPECT_EQ(camera.with_focal(0.024).focal, 0.024);
  EXPECT_GT(camera.with_focal(10).focus, 10.0) << "focused as near as it goes";
}

// Own behaviour, worked by hand.
TEST(Tracks, TurnProductsTowardCameraRightAndCarryThoseOffTheAxis) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "matte"}});
  doc["shots"][0]["products"][0]["place"] = {0, 0, 0.1};
  doc["shots"][0]["tracks"] = Json::array({{{"target", "turntable"}, {"keys", {{0, 0}, {1, 90}}}}});
  Project project = worlds::read(doc);
  const ProductPose pose = product_at(project, *project.shots[0], project.shots[0]->products[0], 1.0);
  EXPECT_NEAR(pose.place.x, 0.1, 1e-12);
  EXPECT_NEAR(pose.place.z, 0.0, 1e-12);
  EXPECT_NEAR(pose.world({0, 0, 0.04}).x, 0.14, 1e-12);
  doc["shots"][0]["products"].push_back({{"product", "can"}, {"place", {0.3, 0, 0}}});  // stands beside the table
  project = worlds::read(doc);
  EXPECT_NEAR(product_at(project, *project.shots[0], project.shots[0]->products[1], 1.0).place.x, 0.3, 1e-12);
}

// Own behaviour, worked by hand.
TEST(Tracks, PanRightTiltUpSlideAlong) {
  Json doc = worlds::bare();
  doc["shots"][0]["camera"]["slide_axis"] = {1, 0, 0};
  doc["shots"][0]["tracks"] = Json::array({{{"target", "camera.pan"}, {"keys", {{0, 0}, {1, 10}}}},
                                           {{"target", "camera.tilt"}, {"keys", {{0, 0}, {1, 5}}}},
                                           {{"target", "camera.slide"}, {"keys", {{0, 0}, {1, 0.2}}}}});
  const Project project = worlds::read(doc);
  const CameraPose pose = camera_at(*project.shots[0], 1.0);
  EXPECT_NEAR(pose.place.x, 0.2, 1e-12);
  EXPECT_NEAR(degrees(std::atan2(pose.frame.ahead.x, -pose.frame.ahead.z)), 10, 1e-9);
  EXPECT_NEAR(degrees(std::asin(pose.frame.ahead.y)), 5, 1e-9);
  EXPECT_NEAR(dot(pose.frame.right, pose.frame.ahead), 0, 1e-12);
}

// Source: thin lens (Ray 2002).
TEST(Lens, ImagesAtTheFieldOfViewOfTheCalculation) {
  const Project project = worlds::read(worlds::bare());
  const CameraPose pose = camera_at(*project.shots[0], 0);
  const auto field =
      field_of_view({.focal = 0.05, .sensor_width = 0.036, .sensor_height = 0.02025, .distance = 1.0});
  const auto image = image_of(pose, {field->width / 2, 0.05, 0});
  EXPECT_NEAR(image->x, 0.018, 1e-12);
  EXPECT_NEAR(image->y, 0, 1e-12);
  EXPECT_FALSE(image_of(pose, {0, 0, 2}));
}

// Source: thin lens (Ray 2002).
TEST(Mode, CropsTheSensor) {
  Json doc = worlds::bare();
  doc["kit"]["cameras"][0]["modes"][0]["crop"] = 1.5;
  const Project project = worlds::read(doc);
  const ShotOptics o = shot_optics(project, *project.shots[0]->camera);
  EXPECT_NEAR(o.sensor_width, 0.024, 1e-12);
  EXPECT_NEAR(o.pitch, 0.024 / 3840, 1e-15);
  EXPECT_NEAR(o.sensor_height, 0.024 / 3840 * 2160, 1e-12);
  EXPECT_NEAR(o.delivered_pitch, 0.024 / 1920, 1e-12);
}

// Own behaviour, worked by hand.
TEST(Clocks, PlayAndSetTimeAreInversesAtOddRates) {
  const PlayClock clock({{0, 1}, {0.5, 0.1}, {1.0, 0.1}, {1.5, 1}});
  EXPECT_NEAR(clock.screen_at(1.5), 7.55843, 1e-5);  // the ramp's published value
  for (const double rate : {24.0, 24000.0 / 1001.0, 29.97, 60.0})
    for (long k = 0; k < 150; ++k) {
      const double screen = static_cast<double>(k) / rate;
      EXPECT_NEAR(clock.screen_at(clock.set_at(screen)), screen, 1e-9);
      EXPECT_LE(kept_frame(clock, k, 240, rate), kept_frame(clock, k + 1, 240, rate));
    }
  EXPECT_EQ(kept_frame(PlayClock({{0, 0.5}}), 24, 48, 24), 24);
  EXPECT_EQ(kept_frame(PlayClock(), 1001, 24000.0 / 1001.0, 24000.0 / 1001.0), 1001);
}

// Own behaviour, worked by hand.
TEST(Pictures, ThatAreNoneAreRefused) {
  EXPECT_FALSE(decode_png({}, "label"));
  EXPECT_FALSE(decode_png({0x89, 'P', 'N', 'G', 13, 10, 26, 10, 0, 0, 0}, "label"));
  EXPECT_FALSE(decode_png(std::vector<unsigned char>(5000, 7), "label"));
}

// Own behaviour, worked by hand.
TEST(Tracks, StandForPlacesAnglesAndLengths) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "matte"}}, true);
  const std::string product = doc["products"][0]["id"];
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0.5, 0.6, 0.6}, {0, 0, 0}, 0.5, 0.7, 4000));
  doc["setups"][0]["cards"].push_back(
      {{"id", "flag"}, {"place", {0.2, 0.3, 0}}, {"aim", {0, 0, 0}}, {"width", 0.2}, {"height", 0.2}});
  const auto of_places = [](const char* target, const Json& from, const Json& to) {
    return Json{{"target", target}, {"profile", "linear"}, {"keys", {{0, from}, {1, to}}}};
  };
  doc["shots"][0]["tracks"] = {of_places("camera.place", {0, 0.1, 1}, {0.4, 0.1, 1}),
                               of_places("camera.aim", {0, 0.1, 0}, {0.4, 0.1, 0}),
                               of_places("camera.roll", 0, 90),
                               of_places("camera.focal", 0.05, 0.1),
                               of_places(("product." + product + ".place").c_str(), {0, 0, 0}, {0, 0.2, 0}),
                               of_places(("product." + product + ".turn").c_str(), 0, 90),
                               of_places(("product." + product + ".tilt").c_str(), 0, 90),
                               of_places("light.key.place", {0.5, 0.6, 0.6}, {-0.5, 0.6, 0.6}),
                               of_places("light.key.aim", {0, 0, 0}, {0, 0.2, 0}),
                               of_places("card.flag.place", {0.2, 0.3, 0}, {0.2, 0.5, 0}),
                               of_places("crop", {0, 0, 1}, {0.25, 0.2, 0.5})};
  const Project project = worlds::read(doc);
  const Shot& shot = *project.shots[0];
  const CameraPose camera = camera_at(shot, 0.5);
  EXPECT_LT(length(camera.place - Vec3{0.2, 0.1, 1}), 1e-12);
  EXPECT_LT(length(camera.frame.ahead - Vec3{0, 0, -1}), 1e-12) << "it looks on straight";
  EXPECT_NEAR(dot(camera.frame.up, Vec3{0, 1, 0}), std::cos(radians(45.0)), 1e-12);
  EXPECT_NEAR(camera.focal, 0.075, 1e-12);
  // Lying: its top to its own right, then a quarter turn, so that its right looks away from the camera.
  const ProductPose lying = product_at(project, shot, shot.products[0], 1);
  EXPECT_LT(length(lying.world({0, 0.1, 0}) - Vec3{0, 0.2, -0.1}), 1e-12);
  const Light light = light_at(project.setups[0]->lights[0], shot, 0.5);
  EXPECT_LT(length(light.place - Vec3{0, 0.6, 0.6}) + length(light.aim - Vec3{0, 0.1, 0}), 1e-12);
  EXPECT_LT(length(card_at(project.setups[0]->cards[0], shot, 0.5).place - Vec3{0.2, 0.4, 0}), 1e-12);
  EXPECT_LT(length(*crop_at(shot, 1) - Vec3{0.25, 0.2, 0.5}), 1e-12);
  // Half the width is kept: a delivered pixel is half as wide on the sensor.
  doc["shots"][0]["tracks"].erase(10);
  const Project whole = worlds::read(doc);
  EXPECT_NEAR(shot_optics(project, shot).delivered_pitch,
              0.5 * shot_optics(whole, *whole.shots[0]).delivered_pitch, 1e-12);
  // Through one exposure the product and its shadow's caster move, and the staged card stands where it is then.
  const StagedWorld world = stage(project, shot, 0.5);
  for (const Mesh& mesh : world.meshes) {
    if (mesh.role == Role::product) {
      EXPECT_GT(mesh.positions.size(), 1u);
    } else if (mesh.role == Role::card) {
      EXPECT_NEAR(mesh.positions[0][0].y + mesh.positions[0][2].y, 0.8, 0.03);
    }
  }
  EXPECT_EQ(world.camera.poses.size(), 5u);
}

// Own behaviour, worked by hand: all leaves of a lamp stand at the track's angle, whatever they are set to, and a
// card swings about the upright through its own place, wherever it has been carried.
TEST(Tracks, OpenDoorsAndTurnCards) {
  using worlds::moving;
  Json doc =
      worlds::with_tracks({moving("light.key.doors", "linear", {{0, 0}, {1, 90}}),
                           moving("card.flag.turn", "linear", {{0, 0}, {1, 90}}),
                           moving("card.flag.place", "linear", {{0, {0.2, 0.3, 0}}, {1, {0.2, 0.3, 0.2}}})});
  Json key = worlds::rectangle("key", {0, 1, 1}, {0, 1, 0}, 0.4, 0.2, 4000), plain = key;
  key["doors"] = {{"length", 0.1}, {"top_deg", 30}, {"left_deg", -20}};
  plain["id"] = "plain";
  doc["setups"][0]["lights"] = {key, plain};
  doc["setups"][0]["cards"] = Json::array({worlds::card("flag", {0.2, 0.3, 0}, {0.2, 0.3, 1}, 0.2, 0.2)});
  const Project project = worlds::read(doc);
  const Shot& shot = *project.shots[0];
  const cinnabar::Setup& setup = *project.setups[0];
  for (const auto& [t, ahead, aside] : {std::tuple{0.0, 0.1, 0.0}, std::tuple{1.0, 0.0, 0.1}}) {
    const auto leaves = door_leaves(light_at(setup.lights[0], shot, t));
    // The upper leaf is hinged at 1.1 m on the face; straight ahead it looks down -Z, open it stands up.
    EXPECT_NEAR(leaves[0][0].y, 1.1, 1e-12);
    EXPECT_NEAR(leaves[0][2].z, 1.0 - ahead, 1e-12) << t;
    EXPECT_NEAR(leaves[0][2].y, 1.1 + aside, 1e-12) << t;
    EXPECT_NEAR(leaves[2][2].z, 1.0 - ahead, 1e-12) << t;
  }
  EXPECT_FALSE(light_at(setup.lights[1], shot, 0.5).doors);
  const Card swung = card_at(setup.cards[0], shot, 1.0);
  EXPECT_LT(length(swung.place - Vec3{0.2, 0.3, 0.2}), 1e-12);
  EXPECT_LT(length(unit(swung.aim - swung.place) - Vec3{1, 0, 0}), 1e-9) << "its front to camera right";
  // In the picture: closed doors keep the light off what lies beside them, open ones do not.
  EXPECT_EQ(stage(project, shot, 0.0).meshes.size(), stage(project, shot, 1.0).meshes.size());
  doc["shots"][0]["tracks"][0]["keys"] = {{0, 0}, {1, 91}};
  EXPECT_FALSE(validate(doc).empty()) << "no leaf opens wider than flat beside the face";
}

// Source: Wiener-Khinchin for the spectrum (1 + (f / corner)^2)^-2, worked by hand: R = s^2 (1 + w t) exp(-w t),
// the rate's root mean square s w; here averages over a long time and over seeds.
TEST(CameraShake, HasItsSpreadItsRateAndItsCorrelation) {
  const CameraShake shake{0.3, 1.5, 7};
  const double w = 2 * pi * shake.corner_hz, h = 1e-4;
  double squares = 0, rates = 0, mean = 0, apart_02 = 0, apart_1 = 0;
  int n = 0;
  for (int seed = 1; seed <= 40; ++seed)
    for (int k = 0; k < 2000; ++k, ++n) {
      const CameraShake one{0.3, 1.5, seed};
      const double t = 0.37 * k, now = shake_at(one, t).across, next = shake_at(one, t + h).across;
      mean += now, squares += now * now, rates += (next - now) * (next - now) / (h * h);
      apart_02 += now * shake_at(one, t + 0.02).across, apart_1 += now * shake_at(one, t + 0.1).across;
    }
  const double variance = 0.09;
  EXPECT_NEAR(mean / n, 0.0, 0.01);
  EXPECT_NEAR(squares / n / variance, 1.0, 0.03);
  EXPECT_NEAR(std::sqrt(rates / n) / (0.3 * w), 1.0, 0.03);
  for (const auto& [t, sum] : {std::pair{0.02, apart_02}, {0.1, apart_1}})
    EXPECT_NEAR(sum / n / variance, (1 + w * t) * std::exp(-w * t), 0.05) << t;
  // The same for the same seed, another for another, and none without.
  EXPECT_EQ(shake_at(shake, 1.2).up, shake_at(shake, 1.2).up);
  EXPECT_NE(shake_at(shake, 1.2).up, (shake_at(CameraShake{0.3, 1.5, 8}, 1.2).up));
  EXPECT_EQ((shake_at(CameraShake{0.0, 1.5, 8}, 1.2).up), 0.0);
}

// Own behaviour: a cloth in folds is as wide as it was, as deep as it is folded, and its area that of its sine.
TEST(Staging, ABackdropHangsInFolds) {
  Json doc = worlds::bare();
  doc["setups"][0]["backdrop"] = {{"kind", "flat"}, {"distance", 1},      {"width", 1.2},
                                  {"height", 2},    {"fold_depth", 0.06}, {"fold_pitch", 0.2}};
  const Project project = worlds::read(doc);
  const StagedWorld world = stage(project, *project.shots[0], 0);
  ASSERT_EQ(world.meshes.size(), 1u);
  const Mesh& cloth = world.meshes[0];
  double low = 1e9, high = -1e9, left = 1e9, right = -1e9, area = 0;
  for (const Vec3f& p : cloth.positions[0]) {
    low = std::min<double>(low, p.z), high = std::max<double>(high, p.z);
    left = std::min<double>(left, p.x), right = std::max<double>(right, p.x);
  }
  for (std::size_t k = 0; k < cloth.triangles.size(); k += 3) {
    const auto at = [&](std::size_t i) { return cloth.positions[0][cloth.triangles[k + i]].as<double>(); };
    area += length(cross(at(1) - at(0), at(2) - at(0))) / 2;
    const Vec3 n = cloth.normals[cloth.triangles[k]].as<double>();
    EXPECT_GT(std::abs(dot(n, unit(cross(at(1) - at(0), at(2) - at(0))))), 0.9);
  }
  EXPECT_NEAR(high - low, 0.06, 0.002);
  EXPECT_NEAR(right - left, 1.2, 1e-5);
  double arc = 0;  // of the sine, by small steps
  for (int k = 0; k < 60000; ++k)
    arc += std::hypot(1.0, 0.03 * 2 * pi / 0.2 * std::cos(2 * pi * k / 60000.0)) / 60000;
  EXPECT_NEAR(area, 1.2 * 2 * arc, 0.01 * area);
}

}  // namespace
}  // namespace cinnabar
