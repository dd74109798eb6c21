// Methods by material: built to the product's size from the kit, valid, exposed, and better for what they are made
// for than no light at all.
#include "cinnabar/forecast/methods/methods.h"

#include "cinnabar/forecast/level_table.h"
#include "cinnabar/forecast/methods/fewer_lights.h"
#include "cinnabar/project/making/materials.h"
#include "judging.h"

namespace cinnabar {
using namespace judging;
namespace {

Json set_of(const Json& material, const std::string& rule, double scale, int lamps) {
  Json doc = worlds::bare();
  worlds::add_cylinder(doc, material);
  for (Json& p : doc["products"][0]["parts"][0]["profile"])
    p = {p[0].get<double>() * scale, p[1].get<double>() * scale};
  doc["shots"][0]["products"][0]["place"] = {0.1, 0, -0.1};
  doc["shots"][0]["camera"]["place"] = {0.1, 0.05 * scale, 0.9 * scale},
  doc["shots"][0]["camera"]["aim"] = {0.1, 0.05 * scale, -0.1};
  doc["shots"][0]["camera"]["focus"] = 0.9 * scale + 0.1;
  doc["setups"][0]["backdrop"] = {{"kind", "flat"}, {"distance", 1.5}, {"width", 4.0},
                                  {"height", 4.0},  {"low", -2.0},     {"material", worlds::matte(0.3, 0.3, 0.3)}};
  doc["house_rules"] = {{"backdrop", rule}};
  doc["kit"]["lights"][0]["count"] = lamps;
  if (rule == "white") {  // room and light enough that it is lit by itself
    doc["kit"]["lights"][0]["lumens"] = 20000;
    doc["setups"][0]["backdrop"]["distance"] = 2.6;
  }
  return doc;
}
const Json glass{{"kind", "glass"}, {"ior", 1.5}},
    gloss{{"kind", "gloss"}, {"colour", {0.4, 0.05, 0.05}}, {"ior", 1.5}},
    metal{{"kind", "metal"}, {"colour", {0.8, 0.8, 0.8}}, {"roughness", 0.1}},
    paper{{"kind", "paper"}, {"colour", {0.7, 0.7, 0.6}}}, cloth{{"kind", "cloth"}, {"colour", {0.3, 0.1, 0.1}}};

struct Case {
  const char* name;
  Json material;
  const char* rule;
  double scale;
  int lamps;
  const char* first;  ///< the method that comes first
};
class MethodFor : public testing::TestWithParam<Case> {};
// Common practice, no source: which method suits what; that it stands is measured.
TEST_P(MethodFor, StandsAndServesWhatItIsMadeFor) {
  const Case& c = GetParam();
  const Json doc = set_of(c.material, c.rule, c.scale, c.lamps);
  const Document document = *Document::from_json(doc);
  const Forecaster forecaster;
  const auto found = methods_for(forecaster, document, 0);
  ASSERT_TRUE(found) << found.error().text();
  ASSERT_GE(found->size(), 1u);
  EXPECT_LE(found->size(), 3u);
  EXPECT_EQ(found->front().method->id, c.first);
  int made_for = 0, off = 0;
  for (const MethodStanding& one : *found) {
    SCOPED_TRACE(one.method->id);
    EXPECT_LE(one.method->lamps, c.lamps);
    EXPECT_TRUE(!one.method->rule || rule_name(*one.method->rule) == c.rule);
    const auto faults = validate(one.after);
    EXPECT_TRUE(faults.empty()) << faults[0].path << " " << faults[0].message;
    ProjectReader reader;
    const Project p = reader.read(one.after);
    EXPECT_LE(p.setups[0]->lights.size(), static_cast<std::size_t>(c.lamps) + 1);
    for (const Level& level : one.levels) {
      ++made_for, off += level.state == State::out || level.state == State::unknown ? 1 : 0;
      const auto again = forecaster.levels(p, 0, level.id);
      ASSERT_EQ(again.size(), 1u);
      EXPECT_EQ(again[0].state, level.state) << level.id;
    }
  }
  EXPECT_LE(2 * off, made_for) << "at least half of what they are made for stands";
}
INSTANTIATE_TEST_SUITE_P(Set, MethodFor,
                         testing::Values(Case{"glass_on_white", glass, "white", 1.0, 3, "bright-field"},
                                         Case{"glass_on_black", glass, "black", 1.0, 2, "dark-field"},
                                         Case{"tall_gloss", gloss, "colour", 2.0, 2, "one-strip"},
                                         Case{"small_metal", metal, "colour", 0.5, 1, "one-strip"},
                                         Case{"ring", metal, "colour", 0.3, 2, "spark"},
                                         Case{"paper_on_white", paper, "white", 1.0, 3, "white-ground"},
                                         Case{"paper_one_lamp", paper, "gradient", 1.0, 1, "big-side"},
                                         Case{"cloth", cloth, "gradient", 1.0, 2, "big-side"}),
                         [](const auto& param) { return std::string(param.param.name); });

// Own behaviour: what the words are told by.
TEST(Methods, WhatAProductIsMadeOfIsTold) {
  const auto told = [](const Json& material, double scale) {
    return materials_of(*worlds::read(set_of(material, "colour", scale, 1)).products[0]);
  };
  using Words = std::vector<std::string>;
  EXPECT_EQ(told(glass, 1.0), Words{"glass"});
  EXPECT_EQ(told(metal, 1.0), Words{"metal"});
  EXPECT_EQ(told(metal, 0.3), (Words{"jewellery", "metal"}));
  EXPECT_EQ(told(paper, 1.0), Words{"paper"});
  EXPECT_EQ(told(cloth, 1.0), Words{"fabric"});
  for (const char* food : {"orange-skin", "peach-skin", "jelly"}) {
    const auto ready = std::find_if(ready_materials().begin(), ready_materials().end(),
                                    [food](const ReadyMaterial& m) { return m.id == food; });
    ASSERT_NE(ready, ready_materials().end());
    EXPECT_EQ(told(ready->material, 1.0).front(), "food") << food;
  }
  for (const Method& m : methods())
    for (const std::string& word : m.materials) {
      const Words all{"jewellery", "screen", "liquid", "glass", "food",
                      "gloss",     "metal",  "fabric", "paper", "matte"};
      EXPECT_NE(std::find(all.begin(), all.end(), word), all.end()) << m.id << " is for " << word;
    }
}

// Own behaviour.
TEST(Methods, AreRefusedWhereNothingCanBeBuilt) {
  const Forecaster forecaster;
  const Document document = *Document::from_json(set_of(glass, "black", 1.0, 1));
  EXPECT_EQ(methods_for(forecaster, document, 0, "hovering").error().place, "--name hovering");
  EXPECT_EQ(methods_for(forecaster, document, 0, "dark-field").error().place, "--name dark-field") << "two lamps";
  EXPECT_FALSE(methods_for(forecaster, *Document::from_json(worlds::bare()), 0)) << "no product";
  for (const Method& m : methods()) {
    EXPECT_FALSE(m.why.empty()) << m.id;
    EXPECT_FALSE(m.levels.empty()) << m.id;
    for (const std::string& id : m.levels) EXPECT_TRUE(level_row(id)) << id;
  }
}

// Source: perspective, by projecting every corner of what was built with the test's own sums.
TEST(Methods, KeepLampsAndCardsOutOfTheFrame) {
  for (const auto& [material, rule] : {std::pair{glass, "black"}, {gloss, "colour"}, {metal, "colour"}}) {
    Json doc = set_of(material, rule, 1.0, 3);
    const auto found = methods_for(Forecaster(), *Document::from_json(doc), 0);
    ASSERT_TRUE(found);
    for (const MethodStanding& one : *found) {
      const Json after = one.after.to_json();
      const auto corners_seen = [&](const Json& thing) {
        const auto vec = [](const Json& p) { return Vec3{p[0], p[1], p[2]}; };
        const Vec3 place = vec(thing["place"]), aim = vec(thing["aim"]),
                   eye = vec(after["shots"][0]["camera"]["place"]),
                   look = unit(vec(after["shots"][0]["camera"]["aim"]) - eye);
        const Vec3 ahead = unit(aim - place);
        const Vec3 right = unit(cross(ahead, {0, 1, 0})), up = cross(right, ahead);
        const Vec3 camera_right = unit(cross(look, {0, 1, 0})), camera_up = cross(camera_right, look);
        int seen = 0;
        for (const double u : {-0.5, 0.5})
          for (const double v : {-0.5, 0.5}) {
            const Vec3 to = place + right * (u * thing["width"].get<double>()) +
                            up * (v * thing["height"].get<double>()) - eye;
            const double depth = dot(to, look), focal = after["shots"][0]["camera"]["focal"];
            if (depth <= 0) continue;
            const double x = dot(to, camera_right) / depth * focal, y = dot(to, camera_up) / depth * focal;
            seen += std::abs(x) < 0.018 && std::abs(y) < 0.01 ? 1 : 0;
          }
        return seen;
      };
      for (const Json& light : after["setups"][0]["lights"])
        EXPECT_EQ(light["id"] == "glow" ? 0 : corners_seen(light), 0) << one.method->id << " " << light["id"];
      for (const Json& card : after["setups"][0]["cards"])
        EXPECT_EQ(corners_seen(card), 0) << one.method->id << " " << card["id"];
    }
  }
}

// Own behaviour: what gives nothing can go, what everything rests on comes last, and other shots are asked too.
TEST(FewerLights, TellWhichCanGo) {
  Json doc = can(0.3);
  doc["setups"][0]["lights"].push_back(
      worlds::rectangle("away", {2.0, 0.5, 2.0}, {9.0, 0.5, 9.0}, 0.2, 0.2, 500.0));  // shines out of the set
  doc["setups"][0]["lights"][1]["name"] = "Away";
  const Forecaster forecaster;
  auto found = fewer_lights(forecaster, *Document::from_json(doc), 0);
  ASSERT_TRUE(found) << found.error().text();
  ASSERT_EQ(found->size(), 2u);
  EXPECT_EQ(found->front().id, "away");
  EXPECT_TRUE(found->front().worse.empty());
  EXPECT_FALSE(found->back().worse.empty());
  EXPECT_EQ(value_at(found->front().after, "/setups/0/lights/1/on"), std::optional<Json>(false));
  // A second shot that sees by that light alone speaks against it.
  Json two = doc;
  two["shots"].push_back(two["shots"][0]);
  two["shots"][1]["id"] = "other";
  two["setups"][0]["lights"][1]["aim"] = {0, 0.05, 0};
  two["setups"][0]["lights"][1]["lumens"] = 9000.0;
  found = fewer_lights(forecaster, *Document::from_json(two), 0);
  ASSERT_TRUE(found);
  bool other = false;
  for (const WithoutLight& one : *found)
    for (const MovedLevel& moved : one.worse) other = other || moved.shot == std::optional<std::size_t>(1);
  EXPECT_TRUE(other);
  // The last light of a dark room is not offered, and a shot without a set-up has none.
  doc["setups"][0]["lights"][1]["on"] = false;
  found = fewer_lights(forecaster, *Document::from_json(doc), 0);
  ASSERT_TRUE(found);
  EXPECT_TRUE(found->empty());
  EXPECT_FALSE(fewer_lights(forecaster, *Document::from_json(doc), 9));
}

}  // namespace
}  // namespace cinnabar
