// Things that come to a set, leave it and go about on it: each edit is made and must leave a valid document.
#include "cinnabar/planning/set_things.h"
#include "cinnabar/planning/set_looks.h"

#include <cmath>

#include "cinnabar/project/making/shot_edits.h"
#include "edited_set.h"

namespace cinnabar {
namespace {

using Kind = SetThing::Kind;

/// Two shots on one set-up: a can away from the origin, a key that is carried and whose doors open, a card.
Json peopled() {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, worlds::matte(0.5, 0.5, 0.5), true);
  doc["shots"][0]["products"][0]["place"] = {0.3, 0.0, -0.2};
  Json key = worlds::rectangle("key", {0.9, 0.7, 0.6}, {0.3, 0.05, -0.2}, 0.4, 0.2, 4000);
  key["doors"] = {{"length", 0.1}, {"top_deg", 60}, {"bottom_deg", 60}, {"left_deg", 60}, {"right_deg", 60}};
  doc["setups"][0]["lights"] = Json::array({key});
  doc["setups"][0]["cards"] = Json::array({worlds::card("flag", {-0.3, 0.2, 0.1}, {0.3, 0.05, -0.2}, 0.3, 0.3)});
  doc["kit"]["modifiers"] = {
      {{"id", "box"}, {"name", "Round box"}, {"shape", "disc"}, {"radius", 0.3}, {"transmittance", 0.6}},
      {{"id", "doors"}, {"name", "Doors"}, {"doors", true}},
      {{"id", "grid"}, {"name", "Grid"}, {"grid_deg", 40}}};
  doc["kit"]["cards"] = {{{"id", "foil"}, {"name", "Foil"}, {"width", 0.5}, {"height", 0.7}}};
  doc["kit"]["surfaces"] = {{{"id", "slate"}, {"name", "Slate"}, {"width", 1.2}, {"depth", 0.6}}};
  doc["kit"]["backdrops"] = {{{"id", "roll"}, {"name", "Paper roll"}, {"width", 2.7}, {"height", 3.0}}};
  Json product = doc["products"][0];
  product["id"] = "tin", product["name"] = "Tin";
  doc["products"].push_back(product);
  doc["shots"][0]["tracks"] = {
      worlds::moving("light.key.place", "linear", {{0, {0.9, 0.7, 0.6}}, {2, {-0.9, 0.7, 0.6}}}),
      worlds::moving("light.key.doors", "linear", {{0, 0}, {1, 60}}),
      worlds::moving("product.can.turn", "linear", {{0, 0}, {2, 90}})};
  Json second = doc["shots"][0];
  second["id"] = "s2";
  second["tracks"] = {worlds::moving("light.key.dimmer", "linear", {{0, 0}, {1, 1}}),
                      worlds::moving("product.can.turn", "linear", {{0, 0}, {2, 90}})};
  doc["shots"].push_back(second);
  return doc;
}

// Own behaviour.
TEST(SetThings, EveryOneIsNamedAndStandsInTheDocument) {
  const Set set(peopled(), 1);
  const auto things = things_of(set.on);
  ASSERT_EQ(things.size(), 4u) << "a light, the camera, a product, a card";
  for (const SetThing& thing : things) {
    EXPECT_FALSE(name_of(set.on, thing).empty());
    EXPECT_TRUE(value_at(set.document, pointer_of(set.on, thing))) << pointer_of(set.on, thing);
    EXPECT_TRUE(place_and_aim(set.on, thing));
  }
  EXPECT_EQ(shared_note(set.on), "set-up A, shared by shots 1 and 2");
  EXPECT_FALSE(place_and_aim(set.on, {Kind::backdrop, 0}));
  const Set empty(worlds::bare(), 7);
  EXPECT_TRUE(things_of(empty.on).empty());
  EXPECT_FALSE(light_added(empty.on, "led")) << "there is no such shot";
}

// Own behaviour; where a product is put beside another, by hand.
TEST(SetThings, ComeWithIdsOfTheirOwnBesideWhatStandsThere) {
  const Set set(peopled());
  Json next = set.after(light_added(set.on, "led"));
  EXPECT_EQ(next["setups"][0]["lights"][1]["id"], "led");
  EXPECT_FALSE(next["setups"][0]["lights"][1].contains("lumens")) << "its kit tells them";
  const Set more(next);
  next = more.after(light_added(more.on, "led"));
  EXPECT_EQ(next["setups"][0]["lights"][2]["id"], "led-2");
  next = set.after(light_added(set.on, ""));
  EXPECT_EQ(next["setups"][0]["lights"][1]["lumens"], 3000);
  // The can's side is 40 mm from 0.3 m, the tin as wide, 20 mm apart.
  next = set.after(product_added(set.on, "tin"));
  EXPECT_NEAR(next["shots"][0]["products"][1]["place"][0].get<double>(), 0.3 + 0.04 + 0.04 + 0.02, 1e-12);
  EXPECT_FALSE(product_added(set.on, "can")) << "it stands there";
  for (const SheetKind& kind : sheet_kinds()) {
    const auto placed = placed_at(*sheet_added(set.on, kind.id), {1, 2, 3}, {0, 1, 0});
    next = set.after(placed);
    EXPECT_EQ(next["setups"][0]["cards"][1]["place"], Json({1.0, 2.0, 3.0}));
    EXPECT_EQ(placed.then, (SetThing{Kind::card, 1}));
  }
  EXPECT_FALSE(sheet_added(set.on, "gold"));
  EXPECT_EQ(set.after(card_added(set.on, "foil"))["setups"][0]["cards"][1]["height"], 0.7);
  EXPECT_FALSE(card_added(set.on, "none"));
  next = set.after(surface_laid(set.on, "slate"));
  EXPECT_EQ(next["setups"][0]["surface"]["depth"], 0.6);
  EXPECT_FALSE(surface_laid(Set(next).on, "slate")) << "it lies there";
  EXPECT_EQ(set.after(backdrop_hung(set.on, "roll"))["setups"][0]["backdrop"]["kind"], "flat");
  const Set glazed(next);
  next = glazed.after(glass_switched(glazed.on));
  EXPECT_EQ(next["setups"][0]["surface"]["sheet"]["thickness"], 0.006);
  const Set off(next);
  EXPECT_FALSE(off.after(glass_switched(off.on))["setups"][0]["surface"].contains("sheet"));
}

// Own behaviour: in every shot of the set-up, or in this one.
TEST(SetThings, TakeWhatMovesThemAlong) {
  const Set set(peopled());
  Json next = set.after(taken_away(set.on, {Kind::light, 0}));
  EXPECT_TRUE(next["setups"][0]["lights"].empty());
  EXPECT_EQ(next["shots"][0]["tracks"].size(), 1u) << "the can's turn stays";
  EXPECT_EQ(next["shots"][1]["tracks"].size(), 1u) << "in every shot of the set-up";
  next = set.after(doors_switched(set.on, {Kind::light, 0}));
  EXPECT_FALSE(next["setups"][0]["lights"][0].contains("doors"));
  EXPECT_EQ(next["shots"][0]["tracks"].size(), 2u);
  next = set.after(taken_away(set.on, {Kind::product, 0}));
  EXPECT_TRUE(next["shots"][0]["products"].empty());
  EXPECT_EQ(next["shots"][1]["products"].size(), 1u) << "of this shot alone";
  EXPECT_EQ(next["shots"][1]["tracks"].size(), 2u);
  EXPECT_FALSE(taken_away(set.on, {Kind::camera, 0}));
  EXPECT_FALSE(taken_away(set.on, {Kind::card, 5}));
}

// Own behaviour; doors of six tenths of the shorter side: common practice, no source.
TEST(SetThings, ModifiersGiveTheirFaceAndAreTakenOff) {
  const Set set(peopled());
  const SetThing key{Kind::light, 0};
  Json next = set.after(modifier_put(set.on, key, "box"));
  const Json light = next["setups"][0]["lights"][0];
  EXPECT_EQ(light["shape"], "disc");
  EXPECT_EQ(light["transmittance"], 0.6);
  EXPECT_FALSE(light.contains("doors") || light.contains("width"));
  const Set boxed(next);
  EXPECT_FALSE(modifier_put(boxed.on, key, "box")) << "it is there";
  EXPECT_FALSE(boxed.after(modifier_put(boxed.on, key, ""))["setups"][0]["lights"][0].contains("modifier"));
  EXPECT_EQ(set.after(modifier_put(set.on, key, "grid"))["setups"][0]["lights"][0]["grid_deg"], 40);
  next = set.after(modifier_put(set.on, key, "doors"));
  EXPECT_EQ(next["setups"][0]["lights"][0]["doors"]["length"], 0.12) << "six tenths of the shorter side";
  EXPECT_FALSE(modifier_put(set.on, {Kind::camera, 0}, "box"));
}

// Own behaviour; along a linear track half of the way is done in half of the time, by hand.
TEST(SetThings, AreCarriedOnTheirTracksAndKeepTheirFocus) {
  const Set set(peopled(), 0, 1.0);
  const SetThing key{Kind::light, 0}, camera{Kind::camera, 0};
  // Half way along its track.
  EXPECT_NEAR(length(place_and_aim(set.on, key)->first - Vec3{0, 0.7, 0.6}), 0.0, 1e-9);
  Json next = set.after(carried_to(set.on, key, {0.1, 0.8, 0.5}, false));
  ASSERT_EQ(next["shots"][0]["tracks"][0]["keys"].size(), 3u);
  EXPECT_EQ(next["shots"][0]["tracks"][0]["keys"][1], (Json{1.0, {0.1, 0.8, 0.5}}));
  EXPECT_EQ(next["setups"][0]["lights"], set.document.to_json()["setups"][0]["lights"]);
  // From one metre to two: the plane in focus goes with it.
  next = set.after(carried_to(set.on, camera, {0, 0.05, 2.0}, false));
  EXPECT_NEAR(next["shots"][0]["camera"]["focus"].get<double>(), 2.0, 1e-9);
  next = set.after(carried_to(set.on, camera, {0.5, 0.05, 1.0}, true));
  EXPECT_EQ(next["shots"][0]["camera"]["aim"], Json({0.5, 0.05, 0.0}));
  EXPECT_EQ(next["shots"][0]["camera"]["focus"], 1.0);
  next = set.after(light_carried(set.on, key, {0.2, 0.9, 0.4}, {0.3, 0.1, -0.2}));
  EXPECT_EQ(next["setups"][0]["lights"][0]["aim"], Json({0.3, 0.1, -0.2}));
  next = set.after(doubled(set.on, {Kind::card, 0}));
  EXPECT_EQ(next["setups"][0]["cards"][1]["id"], "flag-2");
  EXPECT_NEAR(next["setups"][0]["cards"][1]["place"][0].get<double>(), -0.15, 1e-12);
}

// Own behaviour: by hand.
TEST(SetThings, StretchWithTheLabelAndMoveInTheStory) {
  const Set set(peopled());
  const Json next = set.after(stretched_product(set.document, set.project, 0, 2.0, 1.5));
  EXPECT_EQ(next["products"][0]["parts"][0]["profile"][2], Json({0.08, 0.15}));
  EXPECT_NEAR(next["products"][0]["label"]["high"].get<double>(), 0.12, 1e-12);
  EXPECT_TRUE(stretched_product(set.document, set.project, 9, 2.0, 1.5).empty());
  const auto moved = shot_moved(set.document, 1, 0);
  ASSERT_TRUE(moved);
  EXPECT_EQ(moved->title, "Shot 2 moved to the start");
  EXPECT_EQ(applied(set.document, *moved).to_json()["shots"][0]["id"], "s2");
  EXPECT_FALSE(shot_moved(set.document, 1, 1));
}

// Own behaviour; a ball's luminance by Lambert's law: its flux over pi times its surface, 4 pi r^2.
TEST(SetThings, ALanternMakesALampABallLitAllRound) {
  Json doc = peopled();
  doc["kit"]["modifiers"].push_back(
      {{"id", "lantern"}, {"name", "Lantern"}, {"shape", "bare"}, {"radius", 0.3}, {"transmittance", 0.8}});
  const Set set(doc);
  const Json next = set.after(modifier_put(set.on, {Kind::light, 0}, "lantern"));
  const Json& key = next["setups"][0]["lights"][0];
  EXPECT_EQ(key["shape"], "bare");
  EXPECT_FALSE(key.contains("doors")) << "nothing to hang them on";
  const Project project = worlds::read(next);
  const double surface = 4 * pi * 0.3 * 0.3;
  EXPECT_NEAR(project.setups[0]->lights[0].full_luminance(), 4000 * 0.8 / (pi * surface), 1e-9);
  Json bad = doc;
  bad["kit"]["modifiers"].back()["front"] = {{"kind", "cloth"}};
  EXPECT_FALSE(validate(bad).empty());
  bad["kit"]["modifiers"].back().erase("front");
  bad["kit"]["modifiers"].back()["shape"] = "tube";
  EXPECT_FALSE(validate(bad).empty());
}

// Own behaviour.
TEST(SetThings, GoFromVariationsToo) {
  const Document varied = *with_setup_varied(*Document::from_json(peopled()), 1);
  const Set set(varied.to_json());
  EXPECT_EQ(shared_note(set.on), "set-up A, varied for shot 2");
  Json next = set.after(taken_away(set.on, {Kind::light, 0}));
  EXPECT_TRUE(next["setups"][1]["lights"].empty());
  EXPECT_EQ(next["shots"][1]["tracks"].size(), 1u) << "the dimmer's went with the light, the product's is left";
  const Set own(with_value(varied, "/setups/1/lights/0/lumens", 900)->to_json());
  next = own.after(taken_away(own.on, {Kind::light, 0}));
  EXPECT_EQ(next["setups"][1]["lights"].size(), 1u) << "it was changed there";
  EXPECT_EQ(next["shots"][1]["tracks"].size(), 2u);
  const Set second(varied.to_json(), 1);
  EXPECT_NE(shared_note(second.on).find("a variation of A"), std::string::npos) << shared_note(second.on);
}

}  // namespace
}  // namespace cinnabar
