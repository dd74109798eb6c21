// Lamps at hand, and what is meant by a light.
#include "cinnabar/planning/set_lamps.h"

#include "edited_set.h"

namespace cinnabar {
namespace {

Json canned() {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, worlds::matte(0.5, 0.5, 0.5));
  doc["shots"][0]["products"][0]["place"] = {0.4, 0, -0.3};
  return doc;
}

// Own behaviour, by hand: they stand about the product wherever that is, and the one from below only under what
// lets light through.
TEST(LampsAtHand, StandAboutTheProduct) {
  const Set set(canned());
  std::vector<std::string> ids;
  for (const SheetKind& lamp : lamps_at_hand(set.on)) ids.push_back(lamp.id);
  EXPECT_EQ(ids, (std::vector<std::string>{"torch", "bulb", "below"}));
  for (const std::string& id : ids) {
    const auto edit = lamp_at_hand(set.on, id);
    const Json after = set.after(edit);
    const Json& light = after["setups"][0]["lights"][0];
    EXPECT_NEAR(light["aim"][0].get<double>(), 0.4, 1e-9) << id;
    EXPECT_NEAR(light["aim"][1].get<double>(), 0.05, 1e-9) << id;
    EXPECT_EQ(light.contains("dressed"), id == "bulb");
    EXPECT_EQ(edit->then, (SetThing{SetThing::Kind::light, 0}));
  }
  Json opaque = canned();
  opaque["setups"][0]["surface"] = {{"width", 1.0}, {"depth", 1.0}, {"material", worlds::matte(0.4, 0.4, 0.4)}};
  const Set table(opaque);
  EXPECT_EQ(lamps_at_hand(table.on).size(), 2u);
  EXPECT_FALSE(lamp_at_hand(table.on, "below"));
  EXPECT_FALSE(lamp_at_hand(table.on, "sun"));
}

// common practice, no source: a single net takes half a stop, a double one; both together one and a half.
TEST(Scrims, TakeTheirStopsOfALamp) {
  Json doc = canned();
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {1, 1, 1}, {0, 0, 0}, 0.4, 0.4, 2000));
  const SetThing key{SetThing::Kind::light, 0};
  const Set bare(doc);
  EXPECT_FALSE(scrim_put(bare.on, key, 0.0)) << "none is there";
  const Set one(bare.after(scrim_put(bare.on, key, 1.0)));
  const Set both(one.after(scrim_put(one.on, key, 0.5)));
  const auto given = [](const Set& set) { return set.project.setups[0]->lights[0].full_luminance(); };
  EXPECT_NEAR(given(one) / given(bare), 0.5, 1e-12);
  EXPECT_NEAR(given(both) / given(bare), std::exp2(-1.5), 1e-12);
  const Set off(both.after(scrim_put(both.on, key, 0.0)));
  EXPECT_NEAR(given(off), given(bare), 1e-9);
}

// Own behaviour: both ways, and of nothing but lights.
TEST(LampsAtHand, AreMeantAndSeenWhereItIsSaid) {
  Json doc = canned();
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {1, 1, 1}, {0, 0, 0}, 0.4, 0.4, 2000));
  for (const auto& [switched, key] :
       {std::pair{&colour_meant_switched, "colour_meant"}, {&lamp_seen_switched, "dressed"}}) {
    const Set set(doc);
    const Json on = set.after(switched(set.on, {SetThing::Kind::light, 0}));
    EXPECT_EQ(on["setups"][0]["lights"][0][key], true);
    const Set again(on);
    EXPECT_EQ(again.after(switched(again.on, {SetThing::Kind::light, 0}))["setups"][0]["lights"][0][key], false);
    EXPECT_FALSE(switched(set.on, {SetThing::Kind::light, 7}));
    EXPECT_FALSE(switched(set.on, {SetThing::Kind::camera, 0}));
  }
}

}  // namespace
}  // namespace cinnabar
