// Knobs: each is a row of values that a hand would set, in order, and turning one makes a valid project.
#include "cinnabar/forecast/levers/knobs.h"

#include <algorithm>

#include "worlds.h"

namespace cinnabar {
namespace {

Json rich() {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, {{"kind", "matte"}}, true);
  doc["kit"]["lenses"].push_back({{"id", "zoom"},
                                  {"name", "Zoom"},
                                  {"focal_low", 0.024},
                                  {"focal_high", 0.07},
                                  {"f_number_low", 2.8},
                                  {"f_number_high", 22}});
  doc["kit"]["supports"].push_back({{"id", "strong"}, {"kind", "turntable"}, {"load", 20.0}});
  doc["setups"][0]["surface"] = {{"width", 1.0}, {"depth", 0.8}};
  doc["setups"][0]["backdrop"] = {{"kind", "flat"}, {"distance", 1.0}, {"width", 2.0}, {"height", 1.5}};
  doc["setups"][0]["lights"].push_back(worlds::rectangle("key", {0.5, 0.6, 0.6}, {0, 0.05, 0}, 0.5, 0.7, 4000));
  doc["setups"][0]["lights"][0]["kit"] = "led";
  doc["setups"][0]["lights"][0]["dimmer"] = 0.5;
  doc["shots"][0]["tracks"] = Json::array({{{"target", "turntable"}, {"keys", {{0, 0}, {1, 90}}}}});
  doc["shots"][0]["tracks"].push_back({{"target", "camera.focus"}, {"keys", {{0, 1.0}, {1, 0.9}}}});
  doc["shots"][0]["tracks"].push_back({{"target", "light.key.dimmer"}, {"keys", {{0, 0.1}, {1, 0.9}}}});
  doc["products"][0]["features"] = {{{"id", "name"}, {"at", {0, 0.05, 0.04}}, {"detail", 0.004}}};
  doc["shots"][0]["needs"] = {{"features", {"can/name"}},
                              {"peak", {{"light", "key"}}},
                              {"slow", 2.0},
                              {"length", 2.0},
                              {"facing", {{"bearing_deg", 0}, {"at", 1.0}, {"for", 0.4}}}};
  doc["shots"][0]["takes_planned"] = 6;
  doc["kit"]["media"] = {{{"id", "card"}, {"gigabytes", 64}}};
  doc["setups"][0]["lights"].push_back(
      worlds::rectangle("strip", {-0.6, 0.4, -0.1}, {0, 0.05, 0}, 0.15, 1.0, 2000));
  doc["shots"][0]["effects"] =
      Json::array({{{"id", "p"},
                    {"kind", "pour"},
                    {"at", 0.2},
                    {"place", {0.2, 0.3, 0}},
                    {"volume", 5e-5},
                    {"needs", {{"event", "lands"}, {"screen", 1.0}}}},
                   {{"id", "s"}, {"kind", "steam"}, {"at", 0.1}, {"place", {0, 0.1, 0}}},
                   {{"id", "b"}, {"kind", "burst"}, {"at", 0.5}, {"place", {0.3, 0.2, 0}}}});
  return doc;
}

class Knobs : public testing::TestWithParam<std::string> {};
// Own behaviour.
TEST_P(Knobs, AreRowsOfSettingsEachOfWhichMakesAValidProject) {
  const Document document = *Document::from_json(rich());
  ProjectReader reader;
  const Project project = reader.read(document);
  const KnobList list = knobs_for(document, project, 0, {.id = GetParam()});
  // Cautions are read by a person, not turned.
  ASSERT_EQ(list.knobs.empty(), GetParam() == "effect.caution");
  EXPECT_FALSE(list.why.empty());
  for (const Knob& knob : list.knobs) {
    ASSERT_FALSE(knob.steps.empty());
    EXPECT_TRUE(std::is_sorted(knob.steps.begin(), knob.steps.end()));
    EXPECT_EQ(std::adjacent_find(knob.steps.begin(), knob.steps.end()), knob.steps.end())
        << knob.title(knob.steps[0]);
    EXPECT_GE(knob.minutes, 0);
    int valid = 0;
    for (std::size_t k = 0; k < knob.steps.size(); k += std::max<std::size_t>(1, knob.steps.size() / 8)) {
      const auto next = knob.apply(document, knob.steps[k]);
      if (!next) continue;
      const Edit edit = edit_between(document, *next, knob.title(knob.steps[k]));
      for (const DocumentFault& f : validate(*next, edit))
        ADD_FAILURE() << edit.title << ": " << f.path << " " << f.message;
      EXPECT_FALSE(edit.title.empty());
      ++valid;
    }
    EXPECT_GT(valid, 0) << knob.title(knob.steps[0]);
  }
}
INSTANTIATE_TEST_SUITE_P(Levels, Knobs, testing::ValuesIn(level_ids()), [](const auto& level) {
  std::string name = level.param;
  for (char& c : name) c = c == '.' || c == '-' ? '_' : c;
  return name;
});

// Common practice, no source
TEST(HouseRules, DecideWhatIsTriedFirst) {
  Json doc = rich();
  doc["shots"][0]["tracks"].erase(2);  // a light that dims by its track is not dimmed otherwise
  doc["shots"][0]["needs"].erase("peak");
  const auto first = [&] {
    const Document document = *Document::from_json(doc);
    ProjectReader reader;
    const Project project = reader.read(document);
    const KnobList list = knobs_for(document, project, 0, {.id = "camera.stops"});
    return list.knobs[0].title(list.knobs[0].steps[0]);
  };
  EXPECT_NE(first().find("every light"), std::string::npos) << first();
  doc["house_rules"] = {{"exposure", "stop-down"}};
  EXPECT_NE(first().find("ISO"), std::string::npos) << first();
}

}  // namespace
}  // namespace cinnabar
