// Effects in the staged world: closed bodies of true volume, liquid that rises in its vessel by what was poured,
// and vessels that stand elsewhere, are turned or closed.
#include "cinnabar/scene/effects_staged.h"

#include <gtest/gtest.h>

#include <cmath>

#include "cinnabar/effects/leaning.h"
#include "cinnabar/effects/pours.h"
#include "cinnabar/scene/form.h"
#include "worlds.h"

namespace cinnabar {
namespace {

Json glass_of(double fill_to) {
  Json parts = Json::array();
  parts.push_back({{"id", "glass"},
                   {"profile", {{0.0, 0.0}, {0.04, 0.0}, {0.04, 0.12}}},
                   {"wall", 0.002},
                   {"material", {{"kind", "glass"}, {"ior", 1.52}}}});
  if (fill_to > 0.0)
    parts.push_back({{"id", "drink"},
                     {"profile", {{0.0, 0.002}, {0.038, 0.002}, {0.038, fill_to}, {0.0, fill_to}}},
                     {"material", {{"kind", "liquid"}, {"ior", 1.333}}}});
  return {{"id", "tumbler"}, {"name", "Tumbler"}, {"mass", 0.3}, {"parts", parts}};
}
/// A tumbler off the origin, on its turntable turned, and what is done with it.
Json with_effect(const Json& effect, double fill_to = 0.03) {
  Json doc = worlds::bare();
  doc["products"].push_back(glass_of(fill_to));
  doc["shots"][0]["products"].push_back({{"product", "tumbler"}, {"place", {0.3, 0.0, -0.2}}, {"turn_deg", 40}});
  doc["shots"][0]["effects"] = Json::array({effect});
  return doc;
}
const Json pour{{"id", "p"},         {"kind", "pour"}, {"at", 0.2},        {"place", {0.25, 0.25, -0.2}},
                {"liquid", "water"}, {"volume", 5e-5}, {"bearing_deg", 90}};

// Source: a Lambertian disc on its axis, E = L pi r2 / (d2 + r2) (Moon 1936, value from memory); half of it by a
// dimmer; a hot lamp gives 27 lumens a watt and an LED 300 (common practice, no source).
TEST(LampsThere, AreWhatTheFacesGiveStraight) {
  Json doc = worlds::bare();
  doc["kit"]["lights"].push_back({{"id", "glow"}, {"lumens", 3000}, {"watts", 650}, {"hot", true}});
  const Json disc{{"shape", "disc"},  {"radius", 0.2}, {"lumens", 3000}, {"place", {0, 0.5, 0}},
                  {"aim", {0, 0, 0}}, {"kit", "led"},  {"id", "one"}};
  doc["setups"][0]["lights"] = Json::array({disc});
  const auto lamps = [](const Json& d) {
    const Project p = worlds::read(d);
    return effect_place(p, *p.shots[0], {0, 0, 0}, 0.0).lamps;
  };
  const double lux = 3000 / pi / (0.25 + 0.04);
  EXPECT_NEAR(lamps(doc).illuminance_lx, lux, 1e-6 * lux);
  EXPECT_NEAR(lamps(doc).irradiance, lux / 300, 1e-6 * lux);
  doc["setups"][0]["lights"][0]["kit"] = "glow", doc["setups"][0]["lights"][0]["dimmer"] = 0.5;
  EXPECT_NEAR(lamps(doc).irradiance, 0.5 * lux / 27, 1e-6 * lux);
  doc["setups"][0]["lights"][0]["aim"] = {0, 1, 0};
  EXPECT_EQ(lamps(doc).illuminance_lx, 0.0) << "turned away";
  doc["setups"][0]["lights"][0]["on"] = false;
  EXPECT_EQ(lamps(doc).irradiance, 0.0);
}

// Sources: a Lambertian cylinder gives lumens / pi2 across it, a ball lumens / 4 pi; a grid of 40 degrees passes
// half at 20 (the grid's own law); a cosine-power beam of 30 degrees (Moreno & Sun 2008) with its candela on the
// axis, a dimmer on a track, from above and off the origin, and twenty at once.
TEST(LampsThere, HoldForEveryShapeBeamAndPlace) {
  const Vec3 at{0.4, 0.1, -0.3};
  const auto lamps = [&](const Json& lights, double t = 0.0, const Json& tracks = Json::array()) {
    Json d = worlds::bare();
    d["kit"]["lights"].push_back(
        {{"id", "spot"}, {"lux", {{"illuminance_lx", 8000}, {"distance", 1.0}}}, {"beam_deg", 30}});
    d["setups"][0]["lights"] = lights;
    d["shots"][0]["tracks"] = tracks;
    const Project p = worlds::read(d);
    return effect_place(p, *p.shots[0], at, t).lamps.illuminance_lx;
  };
  const Json over{{"id", "one"}, {"kit", "led"}, {"place", {0.4, 1.1, -0.3}}, {"aim", {0.4, 0.1, -0.3}}};
  Json tube = over, ball = over, face = over, spot = over;
  tube.update({{"shape", "tube"}, {"length", 0.3}, {"radius", 0.01}, {"lumens", 2000}});
  ball.update({{"shape", "bare"}, {"radius", 0.01}, {"lumens", 2000}});
  face.update({{"shape", "disc"}, {"radius", 0.01}, {"lumens", 2000}});
  spot.update({{"shape", "disc"}, {"radius", 0.02}, {"kit", "spot"}});
  EXPECT_NEAR(lamps(Json::array({tube})), 2000 / (pi * pi), 1e-6 * 2000);
  EXPECT_NEAR(lamps(Json::array({ball})), 2000 / (4 * pi), 1e-6 * 2000);
  const double plain = lamps(Json::array({face}));
  EXPECT_NEAR(plain, 2000 / pi / (1 + 1e-4), 1e-6 * 2000);
  EXPECT_NEAR(lamps(Json::array({spot})), 8000, 0.01 * 8000) << "its candela at a metre";
  Json gridded = face;
  gridded["grid_deg"] = 40;
  const double aside = std::tan(20 * pi / 180);
  gridded["aim"] = {0.4 + aside, 0.1, -0.3};
  Json bent = gridded;
  bent.erase("grid_deg");
  EXPECT_NEAR(lamps(Json::array({gridded})), 0.5 * lamps(Json::array({bent})), 1e-9 * plain);
  EXPECT_NEAR(lamps(Json::array({face}), 1.0,
                    Json::array({worlds::moving("light.one.dimmer", "linear", {{0, 0.2}, {2, 1.0}})})),
              0.6 * plain, 1e-9 * plain);
  Json twenty = Json::array();
  for (int k = 0; k < 20; ++k) twenty.push_back(face), twenty.back()["id"] = "l" + std::to_string(k);
  EXPECT_NEAR(lamps(twenty), 20 * plain, 1e-9 * 20 * plain);
  EXPECT_EQ(lamps(Json::array()), 0.0);
}

/// Of a closed mesh, by its triangles (Gauss's theorem); positive where they face outward.
double volume_of(const Mesh& mesh, std::size_t step) {
  double sum = 0.0;
  const auto& p = mesh.positions[step];
  for (std::size_t i = 0; i + 2 < mesh.triangles.size(); i += 3)
    sum += dot(p[mesh.triangles[i]].as<double>(),
               cross(p[mesh.triangles[i + 1]].as<double>(), p[mesh.triangles[i + 2]].as<double>()));
  return sum / 6.0;
}
std::vector<Mesh> of_effects(const StagedWorld& world) {
  std::vector<Mesh> list;
  for (const Mesh& mesh : world.meshes)
    if (mesh.role == Role::effect) list.push_back(mesh);
  return list;
}
double drink_in(const StagedWorld& world) {
  for (const Mesh& mesh : world.meshes)
    if (mesh.role == Role::product && mesh.material.kind == MaterialKind::liquid)
      return volume_of(mesh, mesh.positions.size() / 2);  // half-way through the exposure
  return 0.0;
}

// Source: the balance of volume; the drink reaches half into the wall, so its rise is measured against a fill by
// hand.
TEST(Poured, RisesInTheVesselByWhatLanded) {
  for (const double filled : {0.03, 0.0}) {
    const Project project = worlds::read(with_effect(pour, filled));
    const Shot& shot = *project.shots[0];
    const auto outcome = outcome_of(project, shot, shot.effects[0]);
    ASSERT_TRUE(outcome) << outcome.error().text();
    ASSERT_EQ(outcome->into, 0) << "it stands off the origin";
    const double before = drink_in(stage(project, shot, 0.0)), after = drink_in(stage(project, shot, 1.9));
    const double reach = 0.039 * 0.039 / (0.038 * 0.038);  // half of the wall belongs to the drink's own mesh
    // In an empty one it reaches half into the floor as well, a millimetre.
    const double floor = filled > 0.0 ? 0.0 : pi * 0.038 * 0.038 * 0.001;
    EXPECT_NEAR((after - before) / reach, 5e-5 + floor, 0.005 * 5e-5) << filled;
    const double t = outcome->event("lands")->at + 0.3, half = drink_in(stage(project, shot, t));
    EXPECT_GT(half, before);
    EXPECT_LT(half, after);
  }
}

// Source: Gauss's theorem; flow times the time it has been leaving.
TEST(Stream, IsClosedAndOfTrueVolume) {
  const Project project = worlds::read(with_effect(pour));
  const Shot& shot = *project.shots[0];
  const auto outcome = outcome_of(project, shot, shot.effects[0]);
  double flow = 0.0;
  for (const EffectNumber& n : outcome->numbers)
    if (n.name == "flow") flow = n.value;
  const StagedWorld world = stage(project, shot, 0.3);
  const auto meshes = of_effects(world);
  ASSERT_EQ(meshes.size(), 1u);
  ASSERT_EQ(meshes[0].positions.size(), 5u) << "it moves through the exposure";
  EXPECT_GE(meshes[0].medium, 0) << "light goes through water";
  const double leaving = 0.3 + 0.02 / 2 - 0.2;
  EXPECT_NEAR(volume_of(meshes[0], 2), flow * leaving, 0.02 * flow * leaving);
  EXPECT_TRUE(of_effects(stage(project, shot, 0.0)).empty()) << "nothing has left yet";
}

// Sources: Gauss's theorem; a half ball's volume, 2/3 pi r^3; the crown is as high as `plunge` says when the
// cavity is widest, and gone when the jet comes.
TEST(Splash, OpensTheSurfaceUnderItsCrown) {
  for (const Vec3& at : {Vec3{0.3, 0.35, -0.2}, Vec3{0.312, 0.35, -0.2}}) {
    const bool in_the_middle = at.x == 0.3;
    Json doc = with_effect({{"id", "s"},
                            {"kind", "splash"},
                            {"at", 0.1},
                            {"place", {at.x, at.y, at.z}},
                            {"diameter", 0.008},
                            {"mass", 0.0002},
                            {"liquid", "water"}},
                           0.08);
    const Project project = worlds::read(doc);
    const Shot& shot = *project.shots[0];
    const auto outcome = outcome_of(project, shot, shot.effects[0]);
    ASSERT_TRUE(outcome) << outcome.error().text();
    const double contact = outcome->event("contact")->at, opens = outcome->event("opens")->at,
                 crown = *outcome->number("crown_height"), radius = *outcome->number("cavity_radius");
    const StagedWorld world =
        stage(project, shot, opens - 0.01);  // the middle of the exposure is when it is widest
    constexpr std::size_t ring = 8 * 40;
    const double surface = 0.08;
    double top = 0.0, sheets = 0.0;
    for (const Mesh& mesh : of_effects(world)) {
      const double volume = volume_of(mesh, 2);
      EXPECT_GT(volume, 0.0) << "it faces outward";
      if (mesh.positions[2].size() != ring) continue;  // drops
      ++sheets;
      for (const auto& p : mesh.positions[2]) top = std::max(top, static_cast<double>(p.y));
      // A thin sheet as it leans: its middle's length times its breadth and its way round.
      EXPECT_LT(volume, 2 * pi * (radius + 0.3 * crown) * 1.1 * crown * 0.0005);
    }
    EXPECT_EQ(sheets, 1) << "one sheet";
    EXPECT_NEAR(top, surface + crown, 0.05 * crown + 1e-4);
    const double whole = drink_in(stage(project, shot, contact + 10 * (opens - contact))), now = drink_in(world);
    const double ball = 2.0 / 3.0 * pi * radius * radius * radius,
                 still_to_sink = 2e-7 * (1 - (opens - contact) / 0.1);
    EXPECT_NEAR(whole - now - still_to_sink, ball, 0.03 * ball) << in_the_middle;
    for (const Mesh& mesh : of_effects(stage(project, shot, contact + 2.1 * (opens - contact))))
      EXPECT_NE(mesh.positions[2].size(), ring) << "the crown has fallen back";
  }
}

// Own behaviour: a cavity larger than the vessel, and one deeper than its liquid, stay in it; turned and tilted
// light, tall frames and clocks change nothing of that.
TEST(Splash, StaysWithinANarrowAndAShallowVessel) {
  for (const double fill_to : {0.08, 0.006}) {
    Json doc = with_effect({{"id", "s"},
                            {"kind", "splash"},
                            {"at", 0.1},
                            {"place", {0.3, 1.5, -0.2}},
                            {"diameter", 0.03},
                            {"mass", 0.03},
                            {"liquid", "water"}},
                           fill_to);
    doc["shots"][0]["play"] = {{0, 0.5}};
    doc["shots"][0]["camera"]["roll_deg"] = 90;
    const Project project = worlds::read(doc);
    const Shot& shot = *project.shots[0];
    const auto outcome = outcome_of(project, shot, shot.effects[0]);
    ASSERT_TRUE(outcome) << outcome.error().text();
    EXPECT_GT(*outcome->number("cavity_radius"), 0.038) << "wider than the vessel";
    for (const double share : {0.3, 1.0, 1.7}) {
      const double contact = outcome->event("contact")->at;
      const StagedWorld world =
          stage(project, shot, contact + share * (outcome->event("opens")->at - contact) - 0.01);
      for (const Mesh& mesh : of_effects(world))
        if (mesh.positions[2].size() == 8 * 40) {
          for (const auto& p : mesh.positions[2]) EXPECT_LT(std::hypot(p.x - 0.3, p.z + 0.2), 0.038) << share;
        }
      EXPECT_GT(drink_in(world), 0.0) << fill_to << " at " << share;
    }
  }
}

// Source: Ribe 2004 by `viscous_thread`: honey's foot goes round on a circle of the coil's radius, so often a
// second; what it has laid lies under that.
TEST(Stream, OfHoneyCoilsWhereItLands) {
  Json doc = with_effect({{"id", "h"},
                          {"kind", "pour"},
                          {"at", 0.0},
                          {"place", {0.3, 0.2, -0.2}},
                          {"liquid", "honey"},
                          {"flow", 5e-7},
                          {"width", 0.01},
                          {"leave_deg", 90},
                          {"volume", 2e-5}},
                         0.02);
  const Project project = worlds::read(doc);
  const Shot& shot = *project.shots[0];
  const auto outcome = outcome_of(project, shot, shot.effects[0]);
  ASSERT_TRUE(outcome) << outcome.error().text();
  ASSERT_TRUE(outcome->number("coil_radius")) << "it coils";
  const double radius = *outcome->number("coil_radius"), hz = *outcome->number("coil_hz"),
               lands = outcome->event("lands")->at, when = lands + 3.5 / hz;
  const EffectBody& body = outcome->bodies.front();
  const auto at = [&](double t) { return body.at(when, t).front().spine; };
  const auto before = at(when), after = at(when + 0.25 / hz);
  ASSERT_EQ(before.size(), after.size()) << "it can be followed through an exposure";
  double low = 1e9, high = -1e9;
  for (const auto& [place, r] : before) low = std::min(low, place.y), high = std::max(high, place.y);
  std::size_t foot = 48;  // the stream's last place, which rides on the pile
  const auto angle = [&](const std::vector<std::pair<Vec3, double>>& spine) {
    EXPECT_NEAR(std::hypot(spine[foot].first.x - 0.3, spine[foot].first.z + 0.2), radius, 1e-6);
    return std::atan2(spine[foot].first.z + 0.2, spine[foot].first.x - 0.3);
  };
  EXPECT_NEAR(std::remainder(angle(after) - angle(before) - pi / 2, 2 * pi), 0.0, 1e-6) << "a quarter of a turn";
  EXPECT_NEAR(before[foot].first.y - before.back().first.y, 3 * 2 * before[foot].second, 1e-6)
      << "three turns lie";
  EXPECT_NEAR(low, before.back().first.y, 1e-9);
  EXPECT_NEAR(high, 0.2, 1e-3);
  const StagedWorld world = stage(project, shot, when);
  const auto meshes = of_effects(world);
  ASSERT_FALSE(meshes.empty());
  for (const auto& p : meshes[0].positions[2]) EXPECT_TRUE(std::isfinite(p.x + p.y + p.z));
}

// Source: Gauss's theorem; 4/3 pi r^3. The skin is what it is told to be, and the water in it stays water.
TEST(Falling, ASkinIsAsItIsToldAndWhatWasInItIsWater) {
  const Project project =
      worlds::read(with_effect({{"id", "b"},
                                {"kind", "burst"},
                                {"at", 0.5},
                                {"place", {0.4, 0.6, -0.3}},
                                {"radius", 0.05},
                                {"material", {{"kind", "gloss"}, {"colour", {0.6, 0.05, 0.05}}}}}));
  for (const double t : {0.1, 0.52, 0.7}) {
    double water = 0.0;
    int skins = 0;
    for (const Mesh& mesh : of_effects(stage(project, *project.shots[0], t))) {
      if (mesh.material.kind == MaterialKind::liquid) {
        water += volume_of(mesh, 0);
      } else {
        EXPECT_EQ(mesh.material.colour, (Vec3{0.6, 0.05, 0.05}));
        ++skins;
      }
    }
    EXPECT_EQ(skins, t < 0.5 ? 1 : 0) << t;
    EXPECT_NEAR(water, 4.0 / 3 * pi * std::pow(0.05, 3), 0.03 * 5.2e-4) << t;
  }
}

// Source: Gauss's theorem; 4/3 pi r^3 and the sides of a box.
TEST(Falling, BallsAndPiecesAreClosedAndOfTrueVolume) {
  Json doc =
      with_effect({{"id", "t"}, {"kind", "throw"}, {"at", 0.0}, {"place", {0, 0.5, 0}}, {"diameter", 0.03}});
  doc["shots"][0]["effects"].push_back(
      {{"id", "c"}, {"kind", "pieces"}, {"at", 0.0}, {"place", {-0.3, 0.5, 0}}, {"pieces", 5}, {"size", 0.02}});
  const Project project = worlds::read(doc);
  const auto meshes = of_effects(stage(project, *project.shots[0], 0.1));
  ASSERT_EQ(meshes.size(), 2u);
  for (const std::size_t step : {0u, 4u}) {
    EXPECT_NEAR(volume_of(meshes[0], step), 4.0 / 3 * pi * 0.015 * 0.015 * 0.015, 0.02 * 1.4e-5);
    EXPECT_NEAR(volume_of(meshes[1], step), 5 * 0.02 * 0.02 * 0.006, 1e-9);
  }
  for (const Mesh& mesh : meshes) EXPECT_EQ(mesh.normals.size(), mesh.positions[0].size());
  // Of what it is told to be, with what its kind is where that is left out.
  EXPECT_EQ(meshes[0].material.colour, (Vec3{0.5, 0.5, 0.5}));
  doc["shots"][0]["effects"][0]["material"] = {{"kind", "glass"}};
  doc["shots"][0]["effects"][1]["material"] = {{"kind", "satin"}, {"colour", {0.5, 0.03, 0.02}}};
  const Project told = worlds::read(doc);
  const auto coloured = of_effects(stage(told, *told.shots[0], 0.1));
  EXPECT_EQ(coloured[0].material.colour, (Vec3{1, 1, 1})) << "clear";
  EXPECT_GE(coloured[0].medium, 0);
  EXPECT_EQ(coloured[1].material.colour, (Vec3{0.5, 0.03, 0.02}));
  EXPECT_NEAR(coloured[1].material.roughness, 0.3, 1e-12);
}

// Only own behaviour is held here.
TEST(Vessel, IsOneOnlyWhereItIsOpen) {
  const Project open = worlds::read(with_effect(pour));
  EXPECT_EQ(inner_side(*open.products[0]).size(), 2u);
  EXPECT_NEAR(liquid_level(*open.products[0]), 0.03, 1e-12);
  Json doc = with_effect(pour);
  doc["products"][0]["parts"].push_back({{"id", "lid"},
                                         {"profile", {{0.0, 0.12}, {0.041, 0.12}, {0.041, 0.13}, {0.0, 0.13}}},
                                         {"material", worlds::matte(0.2, 0.2, 0.2)}});
  const Project closed = worlds::read(doc);
  Json ring = doc;  // a collar of sheet metal leaves the mouth free
  ring["products"][0]["parts"].back()["profile"] = {{0.041, 0.115}, {0.041, 0.13}};
  EXPECT_FALSE(inner_side(*worlds::read(ring).products[0]).empty());
  EXPECT_TRUE(inner_side(*closed.products[0]).empty()) << "under its lid";
  const Shot& shot = *closed.shots[0];
  const auto outcome = outcome_of(closed, shot, shot.effects[0]);
  ASSERT_TRUE(outcome);
  EXPECT_FALSE(outcome->into);
  EXPECT_NEAR(effect_place(closed, shot, {0.3, 0.5, -0.2}, 0).ground(0.3, -0.2), 0.13, 1e-9)
      << "it lands on the lid";
}

// Source: closed form of the cylinder's ungula (`tilt_hold`): a glass that leans takes so much and no more, and
// stands level in it; what lies on its side takes nothing.
TEST(Vessel, TakesWhatItHoldsAsItLeans) {
  const auto leaning_by = [](double deg, double volume) {
    Json effect = pour;
    effect["volume"] = volume;
    effect["place"] = {0.328, 0.25, -0.291}, effect["bearing_deg"] = 45.0;
    Json doc = with_effect(effect);
    doc["shots"][0]["tracks"] =
        Json::array({{{"target", "product.tumbler.tilt"}, {"keys", {{0.0, deg}, {20.0, deg}}}}});
    return worlds::read(doc);
  };
  const Project leaning = leaning_by(45.0, 4e-4);
  const EffectPlace about = effect_place(leaning, *leaning.shots[0], {0.3, 0.5, -0.2}, 0.2);
  ASSERT_EQ(about.vessels.size(), 1u);
  const auto held = tilt_hold({0.038, 0.118, 0.028, 45.0});
  ASSERT_TRUE(held);
  const double room = held->held_volume - pi * 0.038 * 0.038 * 0.028;
  EXPECT_NEAR(about.vessels[0].room(), room, 1e-4 * room);
  EXPECT_EQ(about.under(0.3, -0.2), nullptr) << "nothing falls into it";
  const auto outcome = outcome_of(leaning, *leaning.shots[0], leaning.shots[0]->effects[0]);
  ASSERT_TRUE(outcome) << outcome.error().text();
  ASSERT_TRUE(outcome->into);
  EXPECT_NEAR(outcome->poured(1e3), room, 1e-4 * room);
  EXPECT_LT(*outcome->spare, 0.0);
  double before = 0.0;
  for (const double t : {0.6, 2.0, 4.0, 8.0}) {
    const double there = drink_in(stage(leaning, *leaning.shots[0], t, {.motion = false}));
    EXPECT_GT(there, before) << t;
    before = there;
  }
  // It reaches half into walls of 2 mm, under the same plane through the inner rim's lowest point.
  const double halfway = volume_under({{0.039, 0.001}, {0.039, 0.12}}, 45.0, (0.12 - 0.038) * std::sqrt(0.5));
  EXPECT_NEAR(before, halfway, 0.01 * halfway);
  const Project lying = leaning_by(90.0, 5e-5);
  EXPECT_TRUE(effect_place(lying, *lying.shots[0], {0.3, 0.5, -0.2}, 0.2).vessels.empty());
}

// Own behaviour: a head of foam is a body of the volume that it is told, on the liquid (by Gauss's theorem).
TEST(Head, StandsOnTheLiquidAndGoes) {
  Json effect = pour;
  effect["foam_share"] = 0.5, effect["foam_half_life"] = 5.0;
  const Project p = worlds::read(with_effect(effect));
  const Shot& shot = *p.shots[0];
  const auto outcome = outcome_of(p, shot, shot.effects[0]);
  ASSERT_TRUE(outcome) << outcome.error().text();
  const double full = outcome->event("full")->at;
  EXPECT_NEAR(outcome->foam(full), 2.5e-5, 1e-9);
  EXPECT_NEAR(outcome->foam(full + 5.0), 1.25e-5, 1e-9);
  EXPECT_NEAR(*outcome->life, 5.0, 1e-12);
  const auto head_at = [&](double t) {
    const StagedWorld world = stage(p, shot, t, {.motion = false});
    for (const Mesh& mesh : world.meshes)
      if (mesh.role == Role::product && mesh.thing == *outcome->into && mesh.material.kind == MaterialKind::matte)
        return volume_of(mesh, 0);
    return 0.0;
  };
  EXPECT_EQ(head_at(0.1), 0.0);
  // It reaches half into the wall (5 %), and 0.2 mm into the drink.
  const double section = pi * 0.039 * 0.039, sunk = section * 2e-4;
  EXPECT_NEAR(head_at(full + 0.01) - sunk, 2.5e-5 * 1.053, 0.02 * 2.5e-5);
  EXPECT_NEAR(head_at(full + 5.0) - sunk, 1.25e-5 * 1.053, 0.02 * 2.5e-5);
}

// Source: free fall, and rest: a thing of a product's form is where a ball of its middle would be until it meets
// something, and lies on the ground in the end, upright or on its side, whole.
TEST(EffectsStaged, ThingsThatFallHaveTheFormOfTheirProduct) {
  Json doc = with_effect({{"id", "t"},
                          {"kind", "throw"},
                          {"at", 0.2},
                          {"place", {1.2, 0.6, 0.4}},
                          {"speed", 1.5},
                          {"angle_deg", 20},
                          {"bearing_deg", 90},
                          {"product", "can"},
                          {"restitution", 0.2}});
  doc["products"].push_back({{"id", "can"},
                             {"mass", 0.3},
                             {"parts",
                              {{{"id", "tin"},
                                {"profile", {{0, 0}, {0.03, 0}, {0.03, 0.1}, {0, 0.1}}},
                                {"material", {{"kind", "matte"}}}}}}});
  doc["shots"][0]["screen_time"] = 6.0;
  EXPECT_TRUE(validate(*Document::from_json(doc)).empty());
  const Project project = worlds::read(doc);
  const Shot& shot = *project.shots[0];
  const auto told = told_effects(project, shot);
  ASSERT_TRUE(told[0].outcome) << told[0].outcome.error().text();
  const auto thing_at = [&](double t) {
    std::vector<Medium> media;
    std::vector<Vec3> points;
    for (const Mesh& mesh : effect_meshes(told, t, {t}, media))
      for (const Vec3f& p : mesh.positions.front()) points.push_back(p.as<double>());
    return points;
  };
  const auto span = [](const std::vector<Vec3>& points) {
    Vec3 low{9, 9, 9}, high{-9, -9, -9};
    for (const Vec3& p : points)
      low = {std::min(low.x, p.x), std::min(low.y, p.y), std::min(low.z, p.z)},
      high = {std::max(high.x, p.x), std::max(high.y, p.y), std::max(high.z, p.z)};
    return std::pair{low, high};
  };
  const auto [low, high] = span(thing_at(0.1));
  EXPECT_NEAR(high.y - low.y, 0.1, 1e-5) << "upright in the hand";
  EXPECT_NEAR(0.5 * (low.y + high.y), 0.6, 1e-5);
  const double since = 0.2, up = radians(20);
  const auto [below, above] = span(thing_at(0.2 + since));
  EXPECT_NEAR(0.5 * (below.x + above.x), 1.2 + 1.5 * std::cos(up) * since, 2e-3);
  EXPECT_NEAR(0.5 * (below.y + above.y), 0.6 + 1.5 * std::sin(up) * since - standard_gravity * since * since / 2,
              3e-3);
  const auto rests = thing_at(5.9);
  const auto [lies, top] = span(rests);
  EXPECT_NEAR(lies.y, 0.0, 2e-3);
  EXPECT_LT(top.y, 0.12);
  double widest = 0;
  for (const Vec3& a : rests) widest = std::max(widest, length(a - rests.front()));
  EXPECT_LT(widest, 0.12) << "as it was";
  doc["shots"][0]["effects"][0]["product"] = "none";
  EXPECT_FALSE(validate(*Document::from_json(doc)).empty());
}

// Source: by hand: what falls on a block away from the origin lies as high as that is, beside it on the table.
TEST(EffectsStaged, PiecesLandOnBodies) {
  for (const char* form : {"box", "round"})
    for (const double beside : {0.0, 0.4}) {
      Json doc = worlds::bare();
      doc["setups"][0]["gear"] = {{{"id", "block"},
                                   {"place", {1.2, 0, 0.4}},
                                   {"size", {0.3, 0.08, 0.3}},
                                   {"turn_deg", 30},
                                   {"form", form},
                                   {"dressed", true}}};
      doc["shots"][0]["effects"] = Json::array({Json{{"id", "beans"},
                                                     {"kind", "pieces"},
                                                     {"at", 0.1},
                                                     {"place", {1.2 + beside, 0.3, 0.4}},
                                                     {"pieces", 6},
                                                     {"spread", 0.02},
                                                     {"size", 0.012},
                                                     {"restitution", 0.1}}});
      doc["shots"][0]["screen_time"] = 6.0;
      const Project project = worlds::read(doc);
      const auto told = told_effects(project, *project.shots[0]);
      ASSERT_TRUE(told[0].outcome) << told[0].outcome.error().text();
      std::vector<Medium> media;
      double low = 9;
      for (const Mesh& mesh : effect_meshes(told, 5.9, {5.9}, media))
        for (const Vec3f& p : mesh.positions.front()) low = std::min(low, static_cast<double>(p.y));
      EXPECT_NEAR(low, beside > 0 ? 0.0 : 0.08, 3e-3) << form << " " << beside;
    }
}

// Source: printed of `strobe`: 245 a minute, five marks, 25 a second on a timeline of 24: -52.8 on screen.
TEST(EffectsStaged, WhatSpinsIsToldAsTheCameraSeesIt) {
  Json doc = with_effect({{"id", "s"}, {"kind", "spin"}, {"at", 0.1}, {"place", {0, 0.3, 0}}, {"marks", 5}});
  const auto told = [](const Json& of) {
    const Project p = worlds::read(of);
    return *outcome_of(p, *p.shots[0], p.shots[0]->effects[0]);
  };
  const double rpm = *told(doc).number("rpm");
  // The pull that comes to 245 a minute: turns go as the speed's square.
  doc["shots"][0]["effects"][0]["pull"] = 0.6 * std::pow(245.0 / rpm, 2);
  const EffectOutcome out = told(doc);
  ASSERT_NEAR(*out.number("rpm"), 245.0, 0.01);
  const Project p = worlds::read(doc);
  const double rate = shot_optics(p, *p.shots[0]).rate, a_frame = 6 * 245.0 / rate,
               seen = std::remainder(a_frame, 72.0);
  EXPECT_NEAR(*out.number("seen_rpm"), seen / 6 * rate * p.timeline_rate / rate, 0.01);
  doc["shots"][0]["camera"]["shutter_time"] = 0.9 / rate;
  const auto blurred = told(doc).notes;
  EXPECT_TRUE(
      std::ranges::any_of(blurred, [](const std::string& n) { return n.find("run into one another") != n.npos; }));
}

// Only own behaviour is held here.
TEST(BegunEffect, IsValidAndCanBeWorkedOut) {
  for (const double filled : {0.03, 0.0, -1.0}) {
    Json doc = with_effect(pour, std::max(0.0, filled));
    doc["shots"][0].erase("effects");
    if (filled < 0.0) doc["shots"][0]["products"] = Json::array();
    const Project project = worlds::read(doc);
    for (const EffectKind& kind : effect_kinds()) {
      Json with = doc;
      with["shots"][0]["effects"] = Json::array({begun_effect(project, 0, kind)});
      const Project begun = worlds::read(with);
      const Shot& shot = *begun.shots[0];
      const auto outcome = outcome_of(begun, shot, shot.effects[0]);
      const bool never =
          kind.id == "flame" || (kind.id == "splash" && filled < 0.0) || (kind.id == "blow" && filled <= 0.0);
      EXPECT_EQ(outcome.has_value(), !never) << kind.id << " " << (outcome ? "" : outcome.error().text());
      if (kind.id == "pour" && filled >= 0.0) {
        EXPECT_EQ(outcome->into, 0) << "into the first product";
      }
      (void)stage(begun, shot, shot.set_time() / 2);
    }
  }
}

// Only own behaviour is held here.
TEST(EffectsStaged, SteamAndFogHangInTheAirWhenTheyAreReady) {
  Json doc = with_effect({{"id", "s"}, {"kind", "steam"}, {"at", 0.5}, {"place", {0.3, 0.12, -0.2}}});
  doc["shots"][0]["effects"].push_back({{"id", "f"}, {"kind", "fog"}, {"at", 1.0}, {"place", {0, 0, 0}}});
  const Project project = worlds::read(doc);
  const auto clouds = [&](double t) { return stage(project, *project.shots[0], t).clouds; };
  EXPECT_TRUE(clouds(0.1).empty());
  ASSERT_EQ(clouds(0.8).size(), 1u);
  EXPECT_EQ(clouds(0.8).front().place.x, 0.3);
  EXPECT_EQ(clouds(1.5).size(), 2u);
}

// Own behaviour: on the product that is sprayed, from then on, fewer as they dry; not on the drink, not on what is
// covered already, not on another product.
TEST(EffectsStaged, DropsStandOnTheGlassThatIsSprayed) {
  Json doc = with_effect(
      {{"id", "m"}, {"kind", "mist"}, {"at", 0.5}, {"place", {0.35, 0.1, -0.1}}, {"contact_radius", 0.0015}});
  Json other = glass_of(0.0);
  other["id"] = "dry";
  doc["products"].push_back(other);
  doc["shots"][0]["products"].push_back({{"product", "dry"}, {"place", {-0.3, 0.0, 0.0}}});
  const auto covers = [](const Json& d, double t) {
    const Project p = worlds::read(d);
    std::vector<std::pair<int, Cover>> list;
    for (const Mesh& mesh : stage(p, *p.shots[0], t).meshes)
      if (mesh.material.cover) {
        EXPECT_NE(mesh.material.kind, MaterialKind::liquid);
        list.emplace_back(mesh.thing, *mesh.material.cover);
      }
    return list;
  };
  EXPECT_TRUE(covers(doc, 0.2).empty()) << "not before it is sprayed";
  const auto wet = covers(doc, 1.0);
  ASSERT_FALSE(wet.empty());
  for (const auto& [thing, cover] : wet) {
    EXPECT_EQ(thing, 0);
    EXPECT_EQ(cover.kind, CoverKind::droplets);
    EXPECT_NEAR(cover.size, 0.003, 1e-12);
    EXPECT_NEAR(cover.share, 0.3, 1e-12);
  }
  // Dry air at 60 degrees: gone within minutes; half of it sooner.
  doc["shots"][0]["effects"][0]["temperature_c"] = 60.0, doc["shots"][0]["effects"][0]["humidity"] = 0.01;
  doc["shots"][0]["effects"][0]["contact_radius"] = 0.0002;
  const Project p = worlds::read(doc);
  const double life = *outcome_of(p, *p.shots[0], p.shots[0]->effects[0])->life;
  EXPECT_NEAR(covers(doc, 0.5 + 0.5 * life + 0.02).front().second.share, 0.3 * 0.5, 0.3 / 16 + 1e-9);
  EXPECT_TRUE(covers(doc, 0.6 + life).empty());
  doc["products"][0]["parts"][0]["material"]["cover"] = {{"kind", "dust"}, {"share", 0.1}, {"size", 0.0005}};
  for (const auto& [thing, cover] : covers(doc, 0.5 + 0.1 * life)) EXPECT_EQ(cover.kind, CoverKind::dust);
  doc["shots"][0]["effects"][0]["glycerin_fraction"] = 0.6;
  const Project lasting = worlds::read(doc);
  EXPECT_FALSE(outcome_of(lasting, *lasting.shots[0], lasting.shots[0]->effects[0])->life)
      << "it keeps for the day";
}

}  // namespace
}  // namespace cinnabar
