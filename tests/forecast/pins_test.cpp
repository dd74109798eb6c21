// The point meter: readings at pins by closed forms, and lights made to fit what was read on a set that is
// otherwise.
#include "cinnabar/forecast/measures/pins.h"

#include "cinnabar/render/meter.h"
#include "cinnabar/scene/staged.h"
#include "odd_setups.h"

namespace cinnabar {
namespace {

Json pin(const std::string& id, const Json& at, const Json& normal) {
  return {{"id", id}, {"at", at}, {"normal", normal}};
}

/// A face that shines on pins about a place, with another light from aside and some room.
Json lit_about(const Vec3& middle = {0, 0, 0}) {
  Json doc = worlds::bare();
  Json& setup = doc["setups"][0];
  const auto at = [&](double x, double y, double z) { return Json{middle.x + x, middle.y + y, middle.z + z}; };
  setup["lights"] = Json::array({worlds::rectangle("key", at(0, 0.4, 1.0), at(0, 0.1, 0), 0.3, 0.3, 3000),
                                 worlds::rectangle("side", at(-1.2, 0.5, 0.2), at(0, 0.1, 0), 0.2, 0.4, 900)});
  setup["lights"][1]["kelvin"] = 3200;
  setup["ambient"] = {{"illuminance_lx", 12.0}, {"kelvin", 4000}};
  setup["pins"] =
      Json::array({pin("front", at(0, 0.1, 0), {0, 0, 1}), pin("up", at(0.15, 0.1, 0.1), {0, 1, 0.4}),
                   pin("left", at(-0.25, 0.1, 0), {-0.4, 0.2, 1}), pin("far", at(0.5, 0.1, -0.4), {0, 0.1, 1}),
                   pin("wide", at(0.9, 0.3, 0.2), {-0.6, 0, 1})});
  return doc;
}

/// The same with what a meter would read on a set that is otherwise.
Json metered(Json doc, const Json& otherwise, std::size_t count, double off = 0.0) {
  const Project real = worlds::read(otherwise);
  const auto readings = read_pins(real, *real.shots[0], 0.0);
  for (std::size_t i = 0; i < count; ++i)
    doc["setups"][0]["pins"][i]["measured"] = {{"illuminance_lx", readings[i].lux * (1.0 + (i % 2 ? off : -off))}};
  return doc;
}

// Source: inverse square and cosine of a small face far away, E = I cos a cos b / d^2 with I = flux / pi (Lambert
// 1760); an 18 % grey under E has 0.18 E / pi cd/m2.
TEST(Pins, ReadWhatClosedFormsGive) {
  Json doc = worlds::bare();
  doc["setups"][0]["lights"] =
      Json::array({worlds::rectangle("key", {0, 0.05, 3}, {0, 0.05, 0}, 0.05, 0.05, 3000)});
  doc["setups"][0]["pins"] =
      Json::array({pin("square", {0, 0.05, 0}, {0, 0, 1}), pin("slant", {0, 0.05, 1}, {0, 1, 1}),
                   pin("away", {0, 0.05, 0}, {0, 0, -1}), pin("none", {1, 0.05, 0}, {0, 0, 0})});
  const Project p = worlds::read(doc);
  const auto readings = read_pins(p, *p.shots[0], 0.0);
  ASSERT_EQ(readings.size(), 4u);
  const double candela = 3000.0 / pi;
  EXPECT_NEAR(readings[0].lux, candela / 9.0, 0.005 * candela / 9.0);
  EXPECT_NEAR(readings[1].lux, candela / 4.0 * std::sqrt(0.5), 0.005 * candela / 4.0);
  EXPECT_EQ(readings[2].lux, 0.0) << "it looks away";
  EXPECT_FALSE(readings[2].kelvin || readings[2].stops) << "in the dark";
  EXPECT_EQ(readings[3].pin, "none") << "without a direction it looks up";
  ASSERT_TRUE(readings[0].kelvin && readings[0].stops);
  EXPECT_NEAR(*readings[0].kelvin, 5600, 15);
  const StagedWorld world = stage(p, *p.shots[0], 0.0);
  EXPECT_NEAR(*readings[0].stops, std::log2(0.18 * readings[0].lux / pi / exposures_grey(world.camera)), 1e-6);
  EXPECT_FALSE(readings[0].off_stops);
}

// Source: by hand: a quarter turn takes a pin on a can's right to its far or near side, and on with its tilt and
// way; what is read there is what a pin that was set there reads.
TEST(Pins, GoAlongWithWhatTheyAreSetOn) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, worlds::matte(0.5, 0.5, 0.5));
  doc["setups"][0]["lights"] =
      Json::array({worlds::rectangle("key", {0.4, 0.4, 1.2}, {0, 0.05, 0}, 0.3, 0.3, 3000)});
  doc["shots"][0]["products"][0]["place"] = {0.1, 0, -0.05};
  doc["shots"][0]["tracks"] =
      Json::array({worlds::moving("turntable", "linear", {{0, 0}, {1, 90}}),
                   worlds::moving("product.can.place", "linear", {{0, {0.1, 0, -0.05}}, {1, {0.2, 0.1, -0.05}}})});
  Json carried = pin("on it", {0.041, 0.05, 0}, {1, 0, 0});
  carried["with"] = "can";
  doc["setups"][0]["pins"] = Json::array({carried, pin("beside", {0.5, 0, 0}, {0, 1, 0})});
  const Project p = worlds::read(doc);
  const Shot& shot = *p.shots[0];
  const auto begins = pin_at(p, shot, p.setups[0]->pins[0], 0.0),
             ends = pin_at(p, shot, p.setups[0]->pins[0], 1.0);
  ASSERT_TRUE(begins && ends);
  EXPECT_NEAR(length(begins->at - Vec3{0.141, 0.05, -0.05}), 0.0, 1e-9);
  EXPECT_NEAR(ends->at.x, 0.2, 1e-9);
  EXPECT_NEAR(ends->at.y, 0.15, 1e-9);
  EXPECT_NEAR(std::abs(ends->at.z + 0.05), 0.041, 1e-9);
  EXPECT_NEAR(dot(ends->normal, unit(ends->at - Vec3{0.2, 0.15, -0.05})), 1.0, 1e-9) << "it still faces outward";
  const auto then = read_pins(p, shot, 1.0);
  Json set = doc;
  set["setups"][0]["pins"][0] =
      pin("there", {ends->at.x, ends->at.y, ends->at.z}, {ends->normal.x, ends->normal.y, ends->normal.z});
  const Project fixed = worlds::read(set);
  EXPECT_NEAR(then[0].lux, read_pins(fixed, *fixed.shots[0], 1.0)[0].lux, 1e-3 * then[0].lux + 1e-9);
  EXPECT_GT(read_pins(p, shot, 0.0)[0].lux, 1.0);
  // In a shot without the can it is not there, and the other is.
  Json without = doc;
  without["shots"][0]["products"] = Json::array();
  without["shots"][0]["tracks"] = Json::array();
  const Project gone = worlds::read(without);
  const auto readings = read_pins(gone, *gone.shots[0], 0.0);
  ASSERT_EQ(readings.size(), 2u);
  EXPECT_FALSE(readings[0].there);
  EXPECT_TRUE(readings[1].there);
  EXPECT_GT(readings[1].lux, 1.0);
  doc["setups"][0]["pins"][0]["with"] = "nobody";
  EXPECT_FALSE(validate(doc).empty());
}

// Own behaviour: parts add up, white lies between the lights', the shot's moment counts, and what was metered is
// held against the forecast.
TEST(Pins, TellWhoGivesWhatAndHowFarAMeterIsOff) {
  Json doc = metered(lit_about({3, 0, -2}), lit_about({3, 0, -2}), 1);
  doc["setups"][0]["pins"][0]["measured"]["illuminance_lx"] =
      2.0 * doc["setups"][0]["pins"][0]["measured"]["illuminance_lx"].get<double>();
  doc["shots"][0]["tracks"] = Json::array({worlds::moving("light.key.dimmer", "linear", {{0, 1}, {2, 0}})});
  const Project p = worlds::read(doc);
  const auto begin = read_pins(p, *p.shots[0], 0.0), end = read_pins(p, *p.shots[0], 2.0);
  for (const PinReading& read : begin) {
    double sum = 0.0;
    for (const auto& [id, lux] : read.by_light) sum += lux;
    EXPECT_NEAR(sum, read.lux, 1e-9 * read.lux);
    ASSERT_EQ(read.by_light.size(), 3u);
    EXPECT_EQ(read.by_light.back().first, "ambient");
    EXPECT_GT(*read.kelvin, 3200);
    EXPECT_LT(*read.kelvin, 5600);
  }
  EXPECT_NEAR(*begin[0].off_stops, 1.0, 0.03);
  EXPECT_GT(begin[0].lux, 2.0 * end[0].lux) << "the key is dimmed";
  doc["shots"][0]["setup"] = "A", doc["setups"][0]["pins"] = Json::array();
  EXPECT_TRUE(read_pins(worlds::read(doc), *worlds::read(doc).shots[0], 0.0).empty());
  const std::atomic<bool> cancel{true};
  EXPECT_TRUE(read_pins(p, *p.shots[0], 0.0, &cancel).empty());
}

// Own behaviour, by what was put in: one reading tells the lamp, two the room too, five the beam.
TEST(Calibration, FindsWhatIsOtherwiseOnTheSet) {
  Json truth = lit_about({-2, 0, 1});
  truth["setups"][0]["lights"][0]["lumens"] = 4100;
  const Json doc = lit_about({-2, 0, 1});
  {
    const auto found = calibrated(worlds::read(metered(doc, truth, 1)), 0, "key", 0.0);
    ASSERT_TRUE(found) << found.error().text();
    EXPECT_NEAR(found->lumens, 4100, 25);
    EXPECT_FALSE(found->ambient_lx || found->grid_deg);
    EXPECT_LT(found->off_after, 1e-3);
    EXPECT_NEAR(found->output, 4100.0 / 3000.0, 0.01);
  }
  truth["setups"][0]["ambient"]["illuminance_lx"] = 80.0;
  {
    const auto found = calibrated(worlds::read(metered(doc, truth, 3)), 0, "key", 0.0);
    ASSERT_TRUE(found) << found.error().text();
    EXPECT_NEAR(found->lumens, 4100, 40);
    ASSERT_TRUE(found->ambient_lx);
    EXPECT_NEAR(*found->ambient_lx, 80, 4);
    EXPECT_GT(found->off_before, 0.3);
    EXPECT_LT(found->off_after, 0.02);
    for (const PinResidual& one : found->residuals)
      EXPECT_NEAR(one.after, one.measured, 0.02 * one.measured) << one.pin;
  }
  truth["setups"][0]["lights"][0]["grid_deg"] = 60.0;
  const Json read = metered(doc, truth, 5);
  const auto found = calibrated(worlds::read(read), 0, "key", 0.0);
  ASSERT_TRUE(found) << found.error().text();
  ASSERT_TRUE(found->grid_deg);
  EXPECT_NEAR(*found->grid_deg, 60, 2);
  EXPECT_NEAR(found->lumens, 4100, 120);
  EXPECT_LT(found->off_after, 0.03);
  // Set so, it is as it was read.
  const auto after = with_values(*Document::from_json(read), found->changes);
  ASSERT_TRUE(after) << after.error().text();
  EXPECT_TRUE(validate(*after).empty());
  ProjectReader reader;
  const Project p = reader.read(*after);
  for (const PinReading& one : read_pins(p, *p.shots[0], 0.0)) EXPECT_NEAR(*one.off_stops, 0.0, 0.05) << one.pin;
}

// Own behaviour: a hand's error neither bends the beam nor makes a room of itself.
TEST(Calibration, KeepsTheBeamWhereReadingsAreOnlyUnsure) {
  Json truth = lit_about();
  truth["setups"][0]["lights"][0]["lumens"] = 2500;
  const auto found = calibrated(worlds::read(metered(lit_about(), truth, 5, 0.03)), 0, "key", 0.0);
  ASSERT_TRUE(found) << found.error().text();
  EXPECT_FALSE(found->grid_deg);
  EXPECT_NEAR(found->lumens, 2500, 150);
  EXPECT_NEAR(*found->ambient_lx, 12, 20);
}

// Own behaviour: readings that no beam explains bend none, and the misses that are left are told.
TEST(Calibration, DoesNotBendTheBeamForWrongReadings) {
  Json doc = lit_about();
  const double wrong[] = {900, 300, 1500, 60, 800};
  for (std::size_t i = 0; i < 5; ++i) doc["setups"][0]["pins"][i]["measured"] = {{"illuminance_lx", wrong[i]}};
  const auto found = calibrated(worlds::read(doc), 0, "key", 0.0);
  ASSERT_TRUE(found) << found.error().text();
  EXPECT_FALSE(found->grid_deg);
  EXPECT_GT(found->off_after, 0.3);
}

// Own behaviour: what cannot be says why.
TEST(Calibration, SaysWhatStandsAgainstIt) {
  const Json doc = metered(lit_about(), lit_about(), 2);
  const auto refused = [](const Json& with, const char* light) {
    const auto found = calibrated(worlds::read(with), 0, light, 0.0);
    return found ? std::string() : found.error().text();
  };
  EXPECT_NE(refused(doc, "lamp").find("no light"), std::string::npos);
  EXPECT_NE(refused(lit_about(), "key").find("not read"), std::string::npos);
  Json off = doc;
  off["setups"][0]["lights"][0]["on"] = false;
  EXPECT_NE(refused(off, "key").find("is off"), std::string::npos);
  Json less = doc;
  for (std::size_t i = 0; i < 2; ++i) less["setups"][0]["pins"][i]["measured"]["illuminance_lx"] = 1.0;
  EXPECT_NE(refused(less, "key").find("less than"), std::string::npos);
  Json away = metered(lit_about(), lit_about(), 1);
  away["setups"][0]["pins"][0]["normal"] = {0, 0, -1};
  away["setups"][0]["lights"].erase(1);
  EXPECT_NE(refused(away, "key").find("get nothing"), std::string::npos);
  EXPECT_FALSE(calibrated(worlds::read(doc), 7, "key", 0.0));
  const std::atomic<bool> cancel{true};
  EXPECT_FALSE(calibrated(worlds::read(doc), 0, "key", 0.0, &cancel));
}

class OddPins : public testing::TestWithParam<odd_setups::Odd> {};
// Own behaviour, by what was put in: on sets that no demo has parts add up and a lamp that gives half as much
// again is found from what two pins beside the product read.
TEST_P(OddPins, AreReadAndALampIsFound) {
  Json doc = odd_setups::set_up();
  GetParam().change(doc);
  const Json place = doc["shots"][0]["products"].empty() ? Json{0, 0, 0} : doc["shots"][0]["products"][0]["place"];
  const auto beside = [&](double x, double y, double z) {
    return Json{place[0].get<double>() + x, y, place[2].get<double>() + z};
  };
  doc["setups"][0]["pins"] = Json::array(
      {pin("front", beside(0.05, 0.2, 0.1), {0.3, 0.3, 1}), pin("up", beside(-0.1, 0.25, 0.1), {0, 1, 0})});
  const Project p = worlds::read(doc);
  const Shot& shot = *p.shots[0];
  const auto readings = read_pins(p, shot, 0.5 * shot.set_time());
  ASSERT_EQ(readings.size(), 2u);
  for (const PinReading& one : readings) {
    double sum = 0.0;
    for (const auto& [id, lux] : one.by_light) sum += lux;
    EXPECT_NEAR(sum, one.lux, 1e-9 * std::max(1.0, one.lux));
    EXPECT_EQ(one.by_light.size(), p.setups[0]->lights.size() + 1);
    EXPECT_TRUE(std::isfinite(one.lux) && (!one.stops || std::isfinite(*one.stops)));
    EXPECT_EQ(one.kelvin.has_value(), one.lux > 1e-6);
  }
  const auto& lights = p.setups[0]->lights;
  const auto key = std::find_if(lights.begin(), lights.end(), [](const Light& l) { return l.id == "key"; });
  Json truth = doc;
  const bool shines = key != lights.end() && key->on &&
                      readings[0].by_light[static_cast<std::size_t>(key - lights.begin())].second > 1.0;
  if (!shines) {
    doc["setups"][0]["pins"][0]["measured"] = {{"illuminance_lx", 100.0}};
    EXPECT_FALSE(calibrated(worlds::read(doc), 0, "key", 0.5 * shot.set_time()));
    return;
  }
  for (Json& light : truth["setups"][0]["lights"])
    if (light["id"] == "key") light["lumens"] = 1.5 * key->lumens;
  const Project real = worlds::read(truth);
  const auto read = read_pins(real, *real.shots[0], 0.5 * shot.set_time());
  for (std::size_t i = 0; i < 2; ++i) doc["setups"][0]["pins"][i]["measured"] = {{"illuminance_lx", read[i].lux}};
  const auto found = calibrated(worlds::read(doc), 0, "key", 0.5 * shot.set_time());
  ASSERT_TRUE(found) << found.error().text();
  EXPECT_NEAR(found->output, 1.5, 0.05);
  EXPECT_LT(found->off_after, 0.02);
}
INSTANTIATE_TEST_SUITE_P(Odd, OddPins, testing::ValuesIn(odd_setups::odds),
                         [](const auto& odd) { return odd.param.name; });

}  // namespace
}  // namespace cinnabar
