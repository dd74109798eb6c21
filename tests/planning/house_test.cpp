// What house rules and means ask where no level judges it; the sun against its closed forms.
#include "cinnabar/planning/house.h"

#include <cmath>

#include "cinnabar/planning/packing.h"
#include "cinnabar/planning/warming.h"
#include "worlds.h"

namespace cinnabar {
namespace {

// Common practice, no source
TEST(House, LightFromAboveIsNamedWithItsAngle) {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"] = {worlds::rectangle("top", {0, 1.0, 0.5}, {0, 0, 0}, 0.5, 0.5, 100),
                                worlds::rectangle("side", {1.0, 1.0, 0}, {0, 0, 0}, 0.5, 0.5, 100)};
  EXPECT_TRUE(house_faults(worlds::read(doc)).empty()) << "allowed where nothing is said";
  doc["house_rules"] = {{"overhead", "never"}};
  const Project p = worlds::read(doc);
  ASSERT_EQ(house_faults(p).size(), 1u);
  EXPECT_EQ(house_faults(p)[0], "No light from above is the rule: top of set-up A stands 63 degrees up.");
  EXPECT_EQ(lights_from_above(p, *p.shots[0]), 1);
  EXPECT_NEAR(elevation_deg(p.setups[0]->lights[1]), 45, 1e-9);
  doc["setups"][0]["lights"][0]["on"] = false;
  EXPECT_TRUE(house_faults(worlds::read(doc)).empty());
}

// Common practice, no source
TEST(House, EffectsAreRealOrOfPlates) {
  Json doc = worlds::bare();
  doc["shots"][0]["move"] = "pour";
  EXPECT_TRUE(house_faults(worlds::read(doc)).empty());
  doc["house_rules"] = {{"effects", "plates"}};
  EXPECT_EQ(house_faults(worlds::read(doc)).at(0),
            "Shot 1: effects are built from plates here, and it names none.");
  doc["shots"][0]["plates"] = {"clean", "the stream"};
  EXPECT_TRUE(house_faults(worlds::read(doc)).empty());
  doc["shots"][0]["house_rules"] = {{"effects", "real"}};
  EXPECT_EQ(house_faults(worlds::read(doc)).at(0),
            "Shot 1: effects are done for real here, and it names 2 plates.");
}

// Common practice, no source
TEST(House, DropletsOfWaterAreRenewedAndEitherIsPacked) {
  Json doc = worlds::bare();
  doc["shots"][0]["move"] = "mist";
  const auto packed = [&] {
    const Project p = worlds::read(doc);
    std::string names;
    for (const PackedThing& t : packing(p).things)
      if (t.list == "kit/consumables") names += t.name;
    return names;
  };
  EXPECT_EQ(packed(), "Glycerin and water, half and half, in a mister");
  doc["house_rules"] = {{"droplets", "water"}};
  EXPECT_EQ(packed(), "Plain water in a mister");
  EXPECT_EQ(house_faults(worlds::read(doc)).at(0),
            "Shot 1: plain water runs and is sprayed anew for every take; its reset of 0 min is short of 2.");
  doc["shots"][0]["reset_minutes"] = 3;
  EXPECT_TRUE(house_faults(worlds::read(doc)).empty());
  doc["kit"]["consumables"] = {{{"id", "w"}, {"name", "Water, still"}, {"stock", 2}}};
  EXPECT_EQ(packed(), "") << "it is in the kit";
}

// Common practice, no source
TEST(House, PeopleAreCounted) {
  Json doc = worlds::bare();
  doc["shots"][0]["hands"] = 2;
  EXPECT_EQ(house_faults(worlds::read(doc)).at(0), "Shot 1 needs 2 people, 1 are there.");
  doc["project"]["means"] = {{"hands", 2}};
  EXPECT_TRUE(house_faults(worlds::read(doc)).empty());
}

// Common practice, no source: what warms up is left burning and covered.
TEST(House, LampsThatWarmUpAreNotTurnedOffDuringAShot) {
  Json doc = worlds::bare();
  doc["kit"]["lights"] = {{{"id", "arc"}, {"name", "Arc"}, {"warm_up_minutes", 8}}};
  Json lamp = worlds::rectangle("key", {-0.6, 0.4, 0.6}, {0, 0.05, 0}, 0.4, 0.4, 1000);
  lamp["kit"] = "arc", lamp["name"] = "Key lamp";
  doc["setups"][0]["lights"].push_back(lamp);
  const auto told = [&doc] { return house_faults(worlds::read(doc)); };
  EXPECT_TRUE(told().empty()) << "it burns";
  EXPECT_EQ(longest_warm_up(worlds::read(doc), *worlds::read(doc).setups[0])->minutes, 8);
  doc["shots"][0]["tracks"] =
      Json::array({{{"target", "light.key.dimmer"}, {"profile", "linear"}, {"keys", {{0.0, 1.0}, {1.0, 0.2}}}}});
  EXPECT_TRUE(told().empty()) << "dimmed, it goes on burning";
  doc["shots"][0]["tracks"] =
      Json::array({{{"target", "light.key.dimmer"}, {"profile", "linear"}, {"keys", {{0.0, 0.0}, {1.0, 1.0}}}}});
  ASSERT_EQ(told().size(), 1u);
  EXPECT_EQ(told()[0],
            "Shot 1 turns Key lamp off, which takes 8 min to come back: leave it burning and cover it.");
  doc["setups"][0]["lights"].back()["on"] = false;
  EXPECT_TRUE(told().empty());
  EXPECT_FALSE(longest_warm_up(worlds::read(doc), *worlds::read(doc).setups[0]));
}

struct SunRow {
  const char* date;
  double latitude, longitude, hours, highest;
};
class SunDays : public testing::TestWithParam<SunRow> {};
// Source: closed form, cos H = -tan(latitude) tan(declination).
TEST_P(SunDays, HaveTheHoursOfTheirClosedForm) {
  // cos H = (sin 5 - sin lat sin dec) / (cos lat cos dec), the hour angle at 5 degrees up; noon is 90 - |lat -
  // dec| (Meeus, Astronomical Algorithms, 2nd ed., ch. 13). Declinations of the solstices and equinoxes of the
  // year.
  const SunRow& row = GetParam();
  Json doc = worlds::bare();
  doc["project"].update({{"date", row.date}, {"latitude", row.latitude}, {"longitude", row.longitude}});
  const auto day = daylight(worlds::read(doc));
  ASSERT_TRUE(day);
  EXPECT_NEAR(day->hours, row.hours, 0.1) << "counted in pairs of minutes";
  EXPECT_NEAR(day->highest_deg, row.highest, 0.3);
}
double hours(double latitude, double declination) {
  const double c = (std::sin(radians(5)) - std::sin(radians(latitude)) * std::sin(radians(declination))) /
                   (std::cos(radians(latitude)) * std::cos(radians(declination)));
  return c >= 1 ? 0 : c <= -1 ? 24 : 2 * degrees(std::acos(c)) / 15;
}
INSTANTIATE_TEST_SUITE_P(Places, SunDays,
                         testing::Values(SunRow{"2026-03-20", 0, 0, hours(0, 0), 90},
                                         SunRow{"2026-12-21", 51.5, 0, hours(51.5, -23.44), 15.06},
                                         SunRow{"2026-06-21", 51.5, 0, hours(51.5, 23.44), 61.94},
                                         SunRow{"2026-12-21", -34, 151, hours(-34, -23.44), 79.44},
                                         SunRow{"2026-12-21", 40, -105, hours(40, -23.44), 26.56},
                                         SunRow{"2026-12-21", 70, 20, 0, -3.44}));

// Own behaviour.
TEST(House, DaylightIsHeldAgainstTheShotsByTheWindow) {
  Json doc = worlds::bare();
  doc["project"].update({{"date", "2026-12-21"}, {"latitude", 51.5}, {"longitude", 0.0}});
  doc["shots"][0].update({{"takes_planned", 60}, {"reset_minutes", 9.8}});
  EXPECT_TRUE(house_faults(worlds::read(doc)).empty()) << "the room is blacked out";
  EXPECT_EQ(hours_by_the_window(worlds::read(doc)), 0);
  doc["house_rules"] = {{"ambient", "window"}};
  EXPECT_NEAR(hours_by_the_window(worlds::read(doc)), 60 * (12.0 / 3600 + 9.8 / 60), 1e-9);
  const auto told = house_faults(worlds::read(doc));
  ASSERT_EQ(told.size(), 1u);
  EXPECT_TRUE(told[0].starts_with("The shots by the window take 10.0 h, and the sun gives ")) << told[0];
  doc["project"]["date"] = "the third";
  EXPECT_FALSE(daylight(worlds::read(doc)));
  doc["project"].erase("date");
  EXPECT_FALSE(daylight(worlds::read(doc)));
}

// Own behaviour, counted by hand.
TEST(House, ModifiersAndCardsOfTheKitArePackedByTheMostAtOnce) {
  Json doc = worlds::bare();
  doc["kit"]["modifiers"] = {
      {{"id", "box"}, {"name", "Softbox"}, {"shape", "rectangle"}, {"width", 0.6}, {"height", 0.9}}};
  doc["kit"]["cards"] = {{{"id", "foam"}, {"width", 0.5}, {"height", 0.7}, {"count", 3}}};
  Json light = worlds::rectangle("a", {1, 1, 1}, {0, 0, 0}, 0.6, 0.9, 100);
  light["modifier"] = "box";
  Json other = light;
  other["id"] = "b";
  doc["setups"][0]["lights"] = {light, other};
  doc["setups"][0]["cards"] = {
      {{"id", "c"}, {"kit", "foam"}, {"place", {1, 0, 0}}, {"aim", {0, 0, 0}}, {"width", 0.5}, {"height", 0.7}},
      {{"id", "d"}, {"place", {-1, 0, 0}}, {"aim", {0, 0, 0}}, {"width", 0.2}, {"height", 0.2}}};
  const Project p = worlds::read(doc);
  const Packing packed = packing(p);
  const auto of = [&](const std::string& list, const std::string& id) {
    for (const PackedThing& t : packed.things)
      if (t.list == list && t.id == id) return t;
    ADD_FAILURE() << id;
    return PackedThing{};
  };
  EXPECT_EQ(of("kit/modifiers", "box").missing(), 1);
  EXPECT_EQ(of("kit/cards", "foam").missing(), 0);
  EXPECT_EQ(of("kit/cards", "foam").wanted, 1);
  EXPECT_EQ(std::count_if(packed.things.begin(), packed.things.end(),
                          [](const PackedThing& t) { return t.name == "d"; }),
            1)
      << "one that is not of the kit is made";
  doc["kit"]["surfaces"] = {{{"id", "slate"}, {"width", 0.8}, {"depth", 0.6}, {"count", 0}}};
  doc["setups"][0]["surface"] = {
      {"kit", "slate"}, {"width", 0.8}, {"depth", 0.6}, {"material", {{"kind", "satin"}}}};
  const Project laid = worlds::read(doc);
  const Packing with_surface = packing(laid);
  for (const PackedThing& t : with_surface.things) EXPECT_EQ(t.name.find("Surface of set-up"), std::string::npos);
  EXPECT_EQ(std::count_if(with_surface.things.begin(), with_surface.things.end(),
                          [](const PackedThing& t) { return t.id == "slate" && t.missing() == 1; }),
            1);
  doc["setups"][0]["lights"][0]["modifier"] = "none";
  EXPECT_EQ(validate(doc).at(0).path, "/setups/0/lights/0/modifier");
}

// Own behaviour, worked by hand.
TEST(House, MeasuredNoiseGoesStraightBetweenItsIsos) {
  CameraBody body;
  body.read_noise_e = 4;
  EXPECT_EQ(body.noise_at(800), 4);
  body.measured_noise = {{100, 8}, {400, 2}, {6400, 2}};
  EXPECT_EQ(body.noise_at(50), 8);
  EXPECT_EQ(body.noise_at(100), 8);
  EXPECT_NEAR(body.noise_at(200), 4, 1e-12) << "half way by its logarithm";
  EXPECT_NEAR(body.noise_at(1600), 2, 1e-12);
  EXPECT_EQ(body.noise_at(25600), 2);
  Json doc = worlds::bare();
  doc["kit"]["cameras"][0]["measured_noise"] = {{400, 2}, {100, 8}};
  EXPECT_EQ(validate(doc).at(0).path, "/kit/cameras/0/measured_noise");
  doc["kit"]["cameras"][0]["measured_noise"] = {{100, 8}, {400, 2}};
  EXPECT_NEAR(worlds::read(doc).cameras[0]->noise_at(200), 4, 1e-12);
}

}  // namespace
}  // namespace cinnabar
