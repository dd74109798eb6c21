// Find the stops: answers expose the shot, hold what is pinned, and none that is better was missed.
#include "cinnabar/forecast/stops/find_stops.h"

#include "judging.h"

namespace cinnabar {
using namespace judging;
namespace {

StopsFound found_for(const Json& doc, const std::set<std::string>& pins = {}) {
  const Forecaster forecaster;
  const auto found = find_stops(forecaster, *Document::from_json(doc), 0, pins);
  EXPECT_TRUE(found) << found.error().text();
  return found ? *found : StopsFound{};
}
/// Lit so that 5.6, 1/50 and ISO 400 are about right, before nothing, with light to spare.
Json lit(double lumens = 3500) {
  Json doc = can(0.3);
  doc["setups"][0]["lights"][0]["lumens"] = lumens;
  doc["setups"][0]["lights"][0]["dimmer"] = 0.5;
  doc["house_rules"] = {{"depth", "deep"}};
  return doc;
}

// Source: ISO 2720:1974, C = 250: every answer, staged, exposes within a third of a stop.
TEST(FoundStops, ExposeTheShotAndDifferFromOneAnother) {
  for (const Json& doc : {lit(), lit(2500), lit(60000)}) {
    const StopsFound found = found_for(doc);
    ASSERT_FALSE(found.list.empty()) << found.short_stops;
    EXPECT_LE(found.list.size(), 6u);
    EXPECT_EQ(found.short_stops, 0.0);
    std::set<std::string> titles;
    for (const StopsAnswer& one : found.list) {
      const auto level = level_of(one.after.to_json(), "camera.stops");
      ASSERT_TRUE(level && level->value) << one.title;
      EXPECT_LE(std::abs(*level->value), 1.0 / 3 + 1e-6) << one.title;
      EXPECT_TRUE(validate(one.after).empty()) << one.title;
      EXPECT_EQ(value_at(one.after, "/shots/0/camera/iso"), std::optional<Json>(one.iso));
      EXPECT_EQ(one.rate, 25.0);
      titles.insert(one.title);
    }
    EXPECT_EQ(titles.size(), found.list.size());
  }
}

// Own behaviour: the least ISO by one rule, the greatest f-number by the other.
TEST(FoundStops, BeginWithTheHouseRulesBest) {
  const Json doc = lit(2500);
  const StopsFound found = found_for(doc);
  ASSERT_FALSE(found.list.empty());
  const StopsAnswer& best = found.list.front();
  for (const StopsAnswer& other : found.list) EXPECT_GE(other.iso, best.iso);
  Json stopped = doc;
  stopped["house_rules"]["exposure"] = "stop-down";
  const StopsFound down = found_for(stopped);
  ASSERT_FALSE(down.list.empty());
  for (const StopsAnswer& other : down.list) EXPECT_LE(other.f_number, down.list.front().f_number);
  EXPECT_GE(down.list.front().f_number, best.f_number);
}

// Own behaviour.
TEST(FoundStops, HoldWhatIsPinned) {
  const Json doc = lit();
  for (const StopsAnswer& one : found_for(doc, {"iso", "aperture"}).list) {
    EXPECT_EQ(one.iso, 400);
    EXPECT_EQ(one.f_number, 5.6);
  }
  for (const StopsAnswer& one : found_for(doc, {"lights", "nd"}).list) {
    EXPECT_EQ(one.light_stops, 0);
    EXPECT_EQ(one.nd_stops, 0);
    EXPECT_EQ(one.lights.at(0).dimmer, 0.5);
  }
  // All held and far too dark: what is missing is told, by hand: the light there is against what it needs.
  Json dark = lit(10);
  const auto all = found_for(dark, {"iso", "aperture", "shutter", "nd", "lights"});
  EXPECT_TRUE(all.list.empty());
  EXPECT_NEAR(all.short_stops, -*level_of(dark, "camera.stops")->value - 1.0 / 6, 0.02);
}

// Own behaviour.
TEST(FoundStops, NeedLightAndACamera) {
  const Forecaster forecaster;
  Json off = lit();
  off["setups"][0]["lights"][0]["on"] = false;
  EXPECT_FALSE(find_stops(forecaster, *Document::from_json(off), 0, {}));
  Json blind = lit();
  blind["shots"][0].erase("camera");
  EXPECT_FALSE(find_stops(forecaster, *Document::from_json(blind), 0, {}));
}

}  // namespace
}  // namespace cinnabar
