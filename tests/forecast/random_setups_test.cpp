// Levers over random set-ups (seeded): when a lever says that it brings a level home, it does, and what it says of
// the other levels is true.
#include <random>

#include "cinnabar/forecast/forecast.h"
#include "odd_setups.h"

namespace cinnabar {
namespace {

Json random_shot(std::mt19937& random) {
  const auto between = [&](double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(random);
  };
  Json doc = worlds::bare();
  const char* kinds[] = {"matte", "gloss", "satin", "metal"};
  worlds::add_cylinder(
      doc,
      {{"kind", kinds[random() % 4]}, {"colour", {between(0.05, 0.8), between(0.05, 0.8), between(0.05, 0.8)}}},
      random() % 3 != 0);
  doc["products"][0]["mass"] = between(0.1, 6.0);
  doc["setups"][0]["surface"] = {{"width", between(0.6, 2.0)}, {"depth", between(0.5, 1.6)}};
  if (random() % 2 == 0) {
    doc["setups"][0]["backdrop"] = {{"kind", random() % 2 ? "flat" : "sweep"},
                                    {"distance", between(0.7, 1.6)},
                                    {"width", between(1.0, 3.0)},
                                    {"height", between(0.8, 2.0)},
                                    {"radius", 0.3},
                                    {"material", {{"kind", "matte"}, {"colour", {0.1, 0.1, 0.1}}}}};
  }
  for (unsigned l = 0; l <= random() % 3; ++l) {
    Json light =
        worlds::rectangle("l" + std::to_string(l), {between(-0.9, 0.9), between(0.2, 1.0), between(-0.4, 0.9)},
                          {0, 0.05, 0}, between(0.1, 0.7), between(0.2, 0.9), between(300, 20000));
    light["kelvin"] = between(3000, 6500);
    light["dimmer"] = between(0.1, 1.0);
    if (random() % 2 == 0) light["grid_deg"] = between(30, 80);
    doc["setups"][0]["lights"].push_back(light);
  }
  Json& camera = doc["shots"][0]["camera"];
  const double d = between(0.4, 1.5);
  camera["place"] = {between(-0.2, 0.2), between(0.05, 0.3), d};
  camera["focus"] = d - between(0.0, 0.05);
  camera["f_number"] = between(2.0, 16.0);
  camera["iso"] = between(100, 3200);
  camera["mode"] = random() % 2 ? "m25" : "m100";
  camera["shutter_time"] = between(0.002, 0.02);
  doc["shots"][0]["play"] = {{0, between(0.2, 1.0)}};
  doc["shots"][0]["needs"] = {{"slow", between(1.0, 4.0)}, {"length", between(1.5, 2.5)}};
  if (random() % 2 == 0) {
    doc["shots"][0]["tracks"] = Json::array(
        {{{"target", "turntable"}, {"profile", "linear"}, {"keys", {{0, between(-90, 0)}, {1, between(0, 60)}}}}});
  }
  return doc;
}

class RandomSetup : public testing::TestWithParam<unsigned> {};

// Own behaviour.
TEST_P(RandomSetup, EveryLeverComesHomeAndItsSideEffectsAreTrue) {
  std::mt19937 random(GetParam());
  const Json doc = random_shot(random);
  const Document document = *Document::from_json(doc);
  ProjectReader reader;
  const Project project = reader.read(document);
  const Forecaster forecaster(quick_measure), fresh(quick_measure);
  const auto before = forecaster.levels(project, 0);
  ASSERT_FALSE(before.empty());
  for (const Level& level : before) {
    EXPECT_FALSE(level.sentence.empty()) << level.id;
    EXPECT_FALSE(level.formula.empty()) << level.id;
    EXPECT_TRUE(!level.value || std::isfinite(*level.value)) << level.id;
    if (level.state == State::level || level.state == State::unknown) continue;
    const auto levers = forecaster.levers(document, 0, level.id);
    if (levers.list.empty()) {
      EXPECT_FALSE(levers.why.empty()) << level.id;
    }
    for (std::size_t k = 0; k < levers.list.size() && k < 3; ++k) {
      const Lever& lever = levers.list[k];
      const auto after = fresh.levels(reader.read(applied(document, lever.edit)), 0);
      for (const Level& l : after) {
        if (l.id == level.id) {
          EXPECT_EQ(l.state, State::level) << lever.title << " " << l.formula;
          EXPECT_NEAR(*l.value, lever.after, 1e-9) << lever.title;
          continue;
        }
        for (const Level& was : before) {
          if (was.id != l.id || was.state == l.state || !l.value || !was.value) continue;
          const bool worse = static_cast<int>(l.state) > static_cast<int>(was.state);
          EXPECT_NE(lever.price.find(l.title), std::string::npos)
              << lever.title << " is silent about " << l.id << (worse ? " worse" : " better");
        }
      }
    }
  }
}
INSTANTIATE_TEST_SUITE_P(Seeds, RandomSetup, testing::Range(1u, odd_setups::seeds(8) + 1));

}  // namespace
}  // namespace cinnabar
