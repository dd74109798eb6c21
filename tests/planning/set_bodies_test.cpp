// Bodies about the set: what raises a product takes it along, what is gear stands where it must not be seen.
#include "cinnabar/planning/set_bodies.h"

#include "cinnabar/planning/packing.h"
#include "cinnabar/planning/set_looks.h"
#include "cinnabar/project/making/shot_edits.h"
#include "cinnabar/scene/staged.h"
#include "edited_set.h"

namespace cinnabar {
namespace {

using Kind = SetThing::Kind;

/// A can away from the origin in three shots: two on one set-up, the third of them elsewhere on it, and one on a
/// variation of the set-up.
Json three_shots() {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, worlds::matte(0.5, 0.5, 0.5), true);
  doc["shots"][0]["products"][0]["place"] = {0.3, 0.0, -0.2};
  Json second = doc["shots"][0], third = doc["shots"][0];
  second["id"] = "s2", second["products"][0]["place"] = {0.0, 0.0, 0.1};
  third["id"] = "s3";
  doc["shots"].push_back(second), doc["shots"].push_back(third);
  return with_setup_varied(*Document::from_json(doc), 2)->to_json();
}
double height(const Json& doc, int shot) { return doc["shots"][shot]["products"][0]["place"][1]; }

// Own behaviour; heights by hand: what moves is raised along all of its way.
TEST(SetBodies, RaiseWhatMovesAlongItsWay) {
  Json doc = three_shots();
  doc["shots"][0]["tracks"] = Json::array({worlds::moving(
      "product.can.place", "linear", {{0, {0.3, 0.0, -0.2}}, {1, {0.32, 0.01, -0.2}}, {2, {0.6, 0, 0}}})});
  const Set set(doc);
  const auto added = body_added(set.on, "block");
  ASSERT_TRUE(added);
  const Json with = set.after(added->values);
  const double high = with["setups"][0]["gear"][0]["size"][1];
  const Json& keys = with["shots"][0]["tracks"][0]["keys"];
  EXPECT_NEAR(height(with, 0), high, 1e-9);
  for (int k = 0; k < 3; ++k) EXPECT_NEAR(keys[k][1][1].get<double>(), high + (k == 1 ? 0.01 : 0.0), 1e-9) << k;
  const Set stood(with);
  EXPECT_EQ(stood.after(body_taken(stood.on, {Kind::body, 0}))["shots"], doc["shots"]);
}

// Own behaviour; heights by hand.
TEST(SetBodies, RaiseWhatStandsThereInEveryShotOfTheSetUp) {
  for (const char* kind : {"pedestal", "block", "glass"}) {
    SCOPED_TRACE(kind);
    const Set set(three_shots());
    const auto added = body_added(set.on, kind);
    ASSERT_TRUE(added);
    Json doc = set.after(added->values);
    const double high = doc["setups"][0]["gear"][0]["size"][1];
    EXPECT_GT(high, 0.0);
    EXPECT_EQ(doc["setups"][0]["gear"][0]["place"], Json({0.3, 0.0, -0.2}));
    EXPECT_EQ(doc["setups"][1]["gear"], doc["setups"][0]["gear"]) << "a variation goes along";
    EXPECT_NEAR(height(doc, 0), high, 1e-9);
    EXPECT_NEAR(height(doc, 1), 0.0, 1e-9) << "it stands elsewhere";
    EXPECT_NEAR(height(doc, 2), high, 1e-9);
    EXPECT_GE(doc["setups"][0]["gear"][0]["size"][0].get<double>(), 0.08) << "as wide as the can at least";
    // Carried and made higher it takes the can along.
    const Set stood(doc);
    const SetThing body{Kind::body, 0};
    doc = stood.after(body_changed(stood.on, body, {0.1, 0.0, 0.0}, {0.2, 0.11, 0.2}));
    EXPECT_EQ(doc["shots"][0]["products"][0]["place"], Json({0.1, 0.11, 0.0}));
    EXPECT_EQ(doc["shots"][2]["products"][0]["place"], Json({0.1, 0.11, 0.0}));
    EXPECT_NEAR(height(doc, 1), 0.0, 1e-9);
    const Set higher(doc);
    EXPECT_EQ(higher.after(carried_to(higher.on, body, {0.3, 0, -0.2}, true))["shots"][0]["products"][0]["place"],
              Json({0.3, 0.11, -0.2}));
    // Taken away it leaves the can where its foot was.
    const auto gone = taken_away(higher.on, body);
    ASSERT_TRUE(gone);
    doc = higher.after(gone->values);
    EXPECT_TRUE(doc["setups"][0]["gear"].empty());
    EXPECT_NEAR(height(doc, 0), 0.0, 1e-9);
    EXPECT_NEAR(height(doc, 2), 0.0, 1e-9);
  }
}

// Own behaviour.
TEST(SetBodies, ACableRunLiesTapedOnTheFloorAndIsPacked) {
  Json doc = three_shots();
  const Set set(doc);
  const auto cable = body_added(set.on, "cable");
  ASSERT_TRUE(cable);
  doc = set.after(cable->values);
  EXPECT_EQ(doc["setups"][0]["gear"][0]["form"], "ridge");
  EXPECT_EQ(doc["setups"][0]["gear"][0]["place"][1], -0.75);
  const auto packed = packing(worlds::read(doc)).things;
  EXPECT_TRUE(std::any_of(packed.begin(), packed.end(),
                          [](const PackedThing& t) { return t.note == "1.50 m long, under tape 50 mm wide"; }));
}

// Own behaviour.
TEST(SetBodies, GearStandsOnTheFloorAndWhatIsSeenIsPacked) {
  Json doc = three_shots();
  doc["setups"][0]["room"] = {{"place", {0, -0.9, 0}}};
  const Set set(doc);
  EXPECT_FALSE(body_added(set.on, "throne"));
  const auto person = body_added(set.on, "operator");
  ASSERT_TRUE(person);
  doc = set.after(person->values);
  const Json& body = doc["setups"][0]["gear"][0];
  EXPECT_EQ(body["place"][1], -0.9);
  EXPECT_GT(body["place"][2].get<double>(), set.project.shots[0]->camera->place.z) << "behind the camera";
  EXPECT_FALSE(body.value("dressed", false));
  const Set with(doc);
  const SetThing thing{Kind::body, 0};
  EXPECT_EQ(name_of(with.on, thing), "Operator");
  EXPECT_TRUE(place_and_aim(with.on, thing));
  const auto seen = body_seen_switched(with.on, thing), steel = made_of(with.on, thing, "steel");
  ASSERT_TRUE(seen && steel);
  EXPECT_FALSE(made_of(with.on, thing, "gold"));
  doc = with.after(seen->values);
  EXPECT_EQ(doc["setups"][0]["gear"][0]["dressed"], true);
  const auto packed = packing(worlds::read(doc)).things;
  EXPECT_TRUE(
      std::any_of(packed.begin(), packed.end(), [](const PackedThing& t) { return t.name == "Operator"; }));
  EXPECT_EQ(with.after(steel->values)["setups"][0]["gear"][0]["material"]["kind"], "metal");
}

// Source: plane geometry, by hand: the box about a body that is turned.
TEST(SetBodies, AreStagedAsLargeAsTheyAre) {
  Json doc = three_shots();
  doc["setups"][0]["gear"] = {
      {{"id", "b"}, {"place", {0.1, 0.05, 0.2}}, {"size", {0.3, 0.1, 0.1}}, {"turn_deg", 90}},
      {{"id", "r"}, {"place", {0.0, 0.0, 0.0}}, {"size", {0.2, 0.3, 0.1}}, {"form", "round"}},
      {{"id", "g"},
       {"place", {-0.4, 0.0, 0.0}},
       {"size", {0.07, 0.09, 0.07}},
       {"form", "round"},
       {"wall", 0.002},
       {"material", {{"kind", "glass"}, {"ior", 1.5}}}},
      {{"id", "c"},
       {"place", {0.4, 0, 0}},
       {"size", {0.1, 0.1, 0.1}},
       {"material", {{"kind", "glass"}, {"ior", 1.5}}}}};
  const Project project = worlds::read(doc);
  const StagedWorld world = stage(project, *project.shots[0], 0.0);
  const std::vector<std::pair<Vec3, Vec3>> wanted{{{0.05, 0.05, 0.05}, {0.15, 0.15, 0.35}},
                                                  {{-0.1, 0, -0.05}, {0.1, 0.3, 0.05}},
                                                  {{-0.435, 0, -0.035}, {-0.365, 0.09, 0.035}},
                                                  {{0.35, 0, -0.05}, {0.45, 0.1, 0.05}}};
  for (std::size_t k = 0; k < wanted.size(); ++k) {
    SCOPED_TRACE(k);
    Vec3 low{1e9, 1e9, 1e9}, high = low * -1.0;
    bool clear = false;
    for (const Mesh& mesh : world.meshes) {
      if (mesh.role != Role::gear || mesh.thing != static_cast<int>(k)) continue;
      clear = clear || mesh.medium >= 0;
      for (const Vec3f& v : mesh.positions.front()) {
        low = {std::min<double>(low.x, v.x), std::min<double>(low.y, v.y), std::min<double>(low.z, v.z)};
        high = {std::max<double>(high.x, v.x), std::max<double>(high.y, v.y), std::max<double>(high.z, v.z)};
      }
    }
    EXPECT_EQ(clear, k >= 2);
    for (const auto& [have, want] : {std::pair{low, wanted[k].first}, {high, wanted[k].second}}) {
      EXPECT_NEAR(have.x, want.x, 1e-3);  // a turned outline's facets keep its area, not its radius
      EXPECT_NEAR(have.y, want.y, 2e-4);  // the rim of a wall is rounded
      EXPECT_NEAR(have.z, want.z, 1e-3);
    }
  }
}

}  // namespace
}  // namespace cinnabar
