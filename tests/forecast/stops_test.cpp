// Find the stops: answers expose the shot, hold what is pinned, and none that is better was missed.
#include "cinnabar/forecast/stops/find_stops.h"

#include "cinnabar/forecast/stops/purse.h"
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
  EXPECT_NEAR(all.short_stops, -*level_of(dark, "camera.stops")->value - 1.0 / 12, 0.02)
      << "and a twelfth of a stop is let be";
}

// Own behaviour: a backdrop that wants more light asks for an aim beside the target; with all pinned only the
// target itself is in reach, and it is given.
TEST(FoundStops, KeepTheTargetWhereAnotherAimIsOutOfReach) {
  Json doc = lit();
  doc["setups"][0]["backdrop"] = {{"kind", "flat"},
                                  {"distance", 0.5},
                                  {"width", 2.4},
                                  {"height", 1.6},
                                  {"material", {{"kind", "matte"}, {"colour", {0.8, 0.8, 0.8}}}}};
  doc["house_rules"]["backdrop"] = "white";
  const double over = *level_of(doc, "camera.stops")->value;
  doc["shots"][0]["camera"]["iso"] = 400 * std::exp2(-over);
  ASSERT_EQ(level_of(doc, "camera.stops")->state, State::level);
  const auto found = found_for(doc, {"iso", "aperture", "shutter", "rate", "nd", "lights"});
  ASSERT_EQ(found.list.size(), 1u) << found.short_stops;
  EXPECT_EQ(found.list[0].f_number, 5.6);
  EXPECT_EQ(found.list[0].light_stops, 0.0);
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

// Source: ISO 2720:1974: a stop is a doubling of the exposure, by t, S or 1/N^2.
TEST(ThePurse, CountsEverythingInTheSameCoin) {
  const Forecaster forecaster;
  const Json doc = lit();
  const auto purse = purse_of(forecaster, *Document::from_json(doc), 0);
  ASSERT_TRUE(purse) << purse.error().text();
  EXPECT_NEAR(purse->least_over, *level_of(doc, "camera.stops")->value, 1e-6);
  EXPECT_EQ(purse->most_over, purse->least_over) << "the light stands still";
  PurseHand hand;
  for (const PurseRow& row : purse->rows) {
    ASSERT_LT(row.now, row.notches.size()) << row.id;
    EXPECT_EQ(row.notches[row.now].stops, 0.0) << row.id;
    hand.push_back(row.now);
    for (std::size_t n = 1; n < row.notches.size(); ++n)
      EXPECT_LE(row.notches[n - 1].stops, row.notches[n].stops) << row.id;
    for (const PurseNotch& notch : row.notches) {
      const double by_hand = row.id == "aperture"  ? std::log2(5.6 * 5.6 / (notch.value * notch.value))
                             : row.id == "iso"     ? std::log2(notch.value / 400)
                             : row.id == "shutter" ? std::log2(notch.value * 50)
                             : row.id == "nd"      ? -notch.value
                             : row.id == "lights"  ? notch.value
                                                   : 0.0;
      EXPECT_NEAR(notch.stops, by_hand, 1e-9) << row.id;
    }
  }
  EXPECT_EQ(purse->rows.front().id, "rate");
  // What the purse tells of a hand is what the staged shot then shows.
  for (std::size_t r = 1; r < purse->rows.size(); ++r) {
    const std::size_t far = hand[r] > 2 ? hand[r] - 3 : purse->rows[r].notches.size() - 1;
    PurseHand one = hand;
    one[r] = far;
    const auto then = with_values(*Document::from_json(doc), purse_values(*purse, one));
    ASSERT_TRUE(then) << purse->rows[r].id;
    EXPECT_NEAR(*level_of(then->to_json(), "camera.stops")->value, left_over(*purse, one), 0.03)
        << purse->rows[r].id;
  }
}

// Own behaviour.
TEST(ThePurse, LetsTheFreeOnesPayByTheHouseRule) {
  const Forecaster forecaster;
  Json doc = lit(3500);
  const auto row = [](const Purse& purse, const std::string& id) {
    std::size_t r = 0;
    while (purse.rows.at(r).id != id) ++r;
    return r;
  };
  const auto moved = [&](const Json& of, const std::set<std::string>& pins) {
    auto purse = *purse_of(forecaster, *Document::from_json(of), 0);
    PurseHand hand;
    for (const PurseRow& r : purse.rows) hand.push_back(r.now);
    const std::size_t aperture = row(purse, "aperture");
    std::size_t notch = hand[aperture];  // down by two thirds of a stop
    while (purse.rows[aperture].notches[notch].stops > -0.6) --notch;
    const PurseHand after = paid(purse, hand, aperture, notch, pins);
    EXPECT_EQ(after[aperture], notch);
    std::map<std::string, double> stops{{"over", left_over(purse, after)}};
    for (std::size_t r = 0; r < after.size(); ++r) stops[purse.rows[r].id] = purse.rows[r].notches[after[r]].stops;
    return stops;
  };
  auto light_first = moved(doc, {});
  EXPECT_NE(light_first["lights"], 0.0);
  EXPECT_LE(std::abs(light_first["over"]), 0.34);
  auto pinned = moved(doc, {"lights"});
  EXPECT_EQ(pinned["lights"], 0.0);
  EXPECT_NE(pinned["iso"], 0.0);
  doc["house_rules"]["exposure"] = "stop-down";
  auto iso_first = moved(doc, {});
  EXPECT_NE(iso_first["iso"], 0.0);
  EXPECT_LE(std::abs(iso_first["lights"]), std::abs(light_first["lights"]) + 0.2);
  auto none = moved(doc, {"lights", "iso", "nd", "shutter"});
  EXPECT_EQ(none["iso"], 0.0);
  EXPECT_EQ(none["shutter"], 0.0);
  EXPECT_EQ(none["lights"], 0.0);
}

// Own behaviour.
TEST(ThePurse, SaysWhyThereIsNone) {
  const Forecaster forecaster;
  Json doc = lit();
  doc["setups"][0]["lights"][0]["on"] = false;
  const auto dark = purse_of(forecaster, *Document::from_json(doc), 0);
  ASSERT_FALSE(dark);
  EXPECT_FALSE(dark.error().mend.empty());
  EXPECT_FALSE(purse_of(forecaster, *Document::from_json(lit()), 7));
  doc = lit();
  doc["shots"][0].erase("camera");
  const auto blind = purse_of(forecaster, *Document::from_json(doc), 0);
  ASSERT_FALSE(blind);
  EXPECT_NE(blind.error().text().find("camera"), std::string::npos);
  // Without a dimmer there is nothing to turn; the rest pays.
  doc = lit();
  doc["setups"][0]["lights"] = Json::array();
  doc["setups"][0]["ambient"] = {{"illuminance_lx", 4000.0}};
  const auto room = purse_of(forecaster, *Document::from_json(doc), 0);
  ASSERT_TRUE(room) << room.error().text();
  EXPECT_EQ(room->rows.back().notches.size(), 1u);
}

}  // namespace
}  // namespace cinnabar
